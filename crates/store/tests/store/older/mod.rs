//! Files as older programs have left them.

use std::{collections::BTreeMap, fs, path::Path};

use serde_json::Value;
use warm_blend_documents::{ByKind, LogQuery, Workshop};
use warm_blend_mixing::PourRecord;
use warm_blend_piece::{Piece, Repair, Softening, Zone};
use warm_blend_plan::RunSheet;
use warm_blend_store::Store;

/// Brings a file back to a form from earlier versions.
pub fn set_back(file: &Path, form: usize) {
    const BACK: [&str; 13] = [
        "DROP TABLE photo",
        "DROP TABLE mark",
        "DROP TABLE log_words; DROP TABLE log_paint; DROP TABLE log_line",
        "DROP TABLE learnt; DROP INDEX document_by_state; CREATE INDEX document_by_kind ON document (kind, removed)",
        "DROP TABLE set_aside; ALTER TABLE mark DROP COLUMN looked_through",
        "DROP TABLE deed",
        "DROP TABLE backup",
        "ALTER TABLE document DROP COLUMN made_by; ALTER TABLE log_line DROP COLUMN made_by",
        "DROP TABLE practice",
        "",
        "",
        "",
        "",
    ];
    let older = rusqlite::Connection::open(file).unwrap();
    let now: i64 = older.pragma_query_value(None, "user_version", |row| row.get(0)).unwrap();
    BACK[form - 2..now as usize - 2].iter().rev().for_each(|back| older.execute_batch(back).unwrap());
    older.execute_batch(&format!("PRAGMA user_version = {form}; VACUUM;")).unwrap();
    older.pragma_update(None, "journal_mode", "DELETE").unwrap();
}

/// Documents as values, without what is only so in one file.
fn told(documents: &ByKind) -> BTreeMap<String, Vec<Value>> {
    serde_json::from_value(serde_json::to_value(documents).unwrap()).unwrap()
}

/// `data/form-N.db` is the demo as a program of form N wrote it (without its photo; of form 9 on 2026-12-01, of form 10 that evening, with
/// what a helper did, of form 11 later, with eight answers given in practice, of form 12 with a quote and its terms, of form 13 with five jars and a border that fades, of form 14 with
/// brushes counted, a word cut out in two colours and repairs, of form 15 with a border painted by hand, a step from a jar and a mended spot), `form-N.json` its rows as Python's sqlite3 read them. Each keeps every value and tells its log, and so does every earlier form of the first.
#[test]
fn every_form_keeps_every_value() {
    let data = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/data");
    let mut logs = Vec::new();
    for (written, form) in
        (2..=9).map(|form| (9, form)).chain([(10, 10), (11, 11), (12, 12), (13, 13), (14, 14), (15, 15)])
    {
        let expected = fs::read_to_string(data.join(format!("form-{written}.json"))).unwrap();
        let expected: BTreeMap<String, Vec<Value>> = serde_json::from_str(&expected).unwrap();
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("workspace.db");
        fs::copy(data.join(format!("form-{written}.db")), &file).unwrap();
        if form < written {
            set_back(&file, form);
        }
        let store = Store::open(&file).unwrap();
        assert_eq!(store.notices(), [], "form {form}");
        assert_eq!(told(&store.moment().unwrap().documents().unwrap()), expected, "form {form}");
        let (lines, _) = store.log(&LogQuery { most: 1000, ..LogQuery::default() }).unwrap();
        if written == 9 {
            logs.push(lines.into_iter().map(|line| (line.at, line.words, line.detail)).collect::<Vec<_>>());
        } else if written == 10 {
            let robin = lines.iter().filter(|line| line.by.as_deref() == Some("Robin"));
            assert_eq!(robin.count(), 2, "a tin and a step");
        } else if written == 11 {
            let answers = store.answers().unwrap();
            assert_eq!((answers.len(), answers.iter().filter(|answer| answer.right).count()), (8, 1));
        } else if written == 13 {
            let pours = store.all::<PourRecord>().unwrap().into_iter();
            let left: Vec<f64> = pours.filter_map(|kept| Some(kept.value.jar()?.left())).collect();
            assert_eq!(left, [45.0, 160.0, 60.0, 70.0, 140.0]);
            let pieces = store.all::<Piece>().unwrap();
            let border = pieces[0].value.schemes[0].stencil(Zone::Fall).unwrap();
            assert_eq!((border.gap, border.fade.unwrap().weakest), (Some(0.0), 0.25));
        } else if written == 14 {
            let workshop = &store.all::<Workshop>().unwrap()[0].value;
            let counts = workshop.brushes.owned.values().map(|count| (count.good, count.worn));
            assert_eq!(counts.collect::<Vec<_>>(), [(3, 2)]);
            assert_eq!(workshop.brushes.washed.len(), 1);
            let piece = &store.all::<Piece>().unwrap()[0].value;
            let border = piece.schemes[0].stencil(Zone::Fall).unwrap();
            assert_eq!((border.name(), border.mirrored, border.wisps.len()), ("moss", true, 1));
            let repairs = piece.repairs_of(Zone::Case);
            assert_eq!(repairs, [Repair::NewPulls, Repair::Bleeds].into());
        } else if written == 15 {
            let piece = &store.all::<Piece>().unwrap()[0].value;
            let border = piece.schemes[0].stencil(Zone::Fall).unwrap();
            let around = border.around.unwrap();
            assert_eq!((around.inset, around.corner.is_some(), border.by_hand), (10.0, true, true));
            assert_eq!((border.softened.unwrap().how, border.pots().count()), (Softening::Sanded, 2));
            let sheet = &store.all::<RunSheet>().unwrap()[0].value;
            let spots: Vec<&str> =
                sheet.touched_up.iter().filter_map(|one| Some(one.note.as_ref()?.as_str())).collect();
            assert_eq!(spots, ["a touch lighter"]);
            let from: f64 = sheet.done.iter().flat_map(|done| &done.from_jars).map(|from| from.ml).sum();
            let pours = store.all::<PourRecord>().unwrap().into_iter();
            let left: f64 = pours.filter_map(|kept| Some(kept.value.jar()?.left())).sum();
            let dabbed: f64 =
                sheet.touched_up.iter().flat_map(|one| &one.from_jars).map(|from| from.ml).sum();
            assert!((left + from + dabbed - 475.0).abs() < 1e-6, "{left} {from} {dabbed}");
        } else {
            let quoted = store.all::<Piece>().unwrap().into_iter().filter_map(|kept| kept.value.quote);
            assert_eq!(quoted.map(|quote| quote.deposit).collect::<Vec<_>>(), [255.0]);
            let terms = store.all::<Workshop>().unwrap()[0].value.terms;
            assert_eq!((terms.deposit, terms.tax), (Some(0.3), None));
        }
    }
    logs.iter_mut().for_each(|log| log.sort());
    assert!(logs[0].len() > 40 && logs.iter().all(|log| *log == logs[0]));
}
