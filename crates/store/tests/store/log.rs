//! The log: found by words, complete through undo, page by page, and filled for files from before there was one.

use std::collections::BTreeMap;

use crate::older::set_back;
use jiff::{SignedDuration, Timestamp};
use proptest::prelude::*;
use tempfile::TempDir;
use uuid::Uuid;
use warm_blend_documents::{Id, KeptLine, LogKind, LogNote, LogQuery, finds};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Masstone, MixPart, Name, Note, PaintId, SavedMix, WholeParts};
use warm_blend_piece::Piece;
use warm_blend_store::Store;

fn open() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("workspace.db")).unwrap();
    (folder, store)
}

fn paint(name: &str) -> ShelfPaint {
    ShelfPaint::new(Name::new(name).unwrap(), Class::Chalk, Some(Masstone::Hex("#b08d57".parse().unwrap())))
}

fn note(words: &str) -> LogNote {
    LogNote {
        at: "2026-11-02T10:00:00Z".parse().unwrap(),
        words: Note::new(words).unwrap(),
        piece: None,
        photo: None,
        agreed: None,
    }
}

fn asked(search: &str) -> LogQuery {
    LogQuery { most: 1000, ..LogQuery::searching(search) }
}

fn all(store: &Store) -> Vec<KeptLine> {
    store.log(&asked("")).unwrap().0
}

const WORDS: [&str; 12] = [
    "slate",
    "Crème",
    "panels",
    "PANEL",
    "wax",
    "waxes",
    "Weiß",
    "blue:",
    "“fretwork”",
    "3",
    "ÆRO",
    "brush-marks",
];

fn text() -> impl Strategy<Value = String> {
    proptest::collection::vec(proptest::sample::select(&WORDS[..]), 1..6).prop_map(|words| words.join(" "))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// The index finds what a plain scan finds.
    #[test]
    fn as_a_plain_scan(texts in proptest::collection::vec(text(), 1..12), from in text(), cut in 1usize..9) {
        let (_folder, mut store) = open();
        for words in &texts {
            store.make(note(words)).unwrap();
        }
        let part: String = from.chars().take(cut).collect();
        for search in [from.as_str(), part.as_str(), "\"", "* OR NEAR(", ""] {
            let query = asked(search);
            let mut found: Vec<String> = store.log(&query).unwrap().0.into_iter().map(|line| line.words).collect();
            let mut scanned: Vec<String> = texts.iter().filter(|text| !query.nothing && finds(&query.words, text)).cloned().collect();
            found.sort();
            scanned.sort();
            prop_assert_eq!(found, scanned, "{}", search);
        }
    }

    /// Whatever is made, changed, taken away, undone and made again: what is there stands in the log once, in its words; what was taken
    /// away stands there marked; what was undone does not.
    #[test]
    fn nothing_that_was_done_is_missing(deeds in proptest::collection::vec((0u8..6, 0usize..4), 1..30)) {
        let (_folder, mut store) = open();
        let mut ids: Vec<Id> = Vec::new();
        for (n, (deed, at)) in deeds.into_iter().enumerate() {
            let id = ids.get(at % ids.len().max(1)).copied();
            let history = store.history().unwrap();
            match (deed, id) {
                (0, _) | (_, None) => ids.push(store.make(paint(&format!("tin {n}"))).unwrap().id),
                (1, Some(id)) => {
                    let kept = store.get::<ShelfPaint>(id).unwrap();
                    if !kept.removed {
                        store.change(id, kept.revision, paint(&format!("other {n}"))).unwrap();
                    }
                }
                (2, Some(id)) => {
                    let kept = store.get::<ShelfPaint>(id).unwrap();
                    store.remove::<ShelfPaint>(id, kept.revision).unwrap();
                }
                (3 | 4, _) => drop(history.undo.map(|step| store.undo(step.change).unwrap())),
                (_, _) => drop(history.redo.map(|step| store.redo(step.change).unwrap())),
            }
            let lines: BTreeMap<Id, KeptLine> = all(&store).into_iter().map(|line| (line.document, line)).collect();
            prop_assert_eq!(lines.len(), all(&store).len(), "each once");
            let mut there = 0;
            for kept in store.all_ever::<ShelfPaint>().unwrap() {
                match lines.get(&kept.id) {
                    Some(line) => {
                        there += 1;
                        prop_assert_eq!(&line.words, &format!("New on the shelf: {}", kept.value.name.as_str()));
                        prop_assert_eq!(line.removed, kept.removed);
                    }
                    None => prop_assert!(kept.removed, "{} is on the shelf and not in the log", kept.id),
                }
            }
            prop_assert_eq!(there, lines.len());
        }
    }
}

#[test]
fn what_was_taken_away_stays_and_what_was_undone_goes() {
    let (_folder, mut store) = open();
    let tin = store.make(paint("oat white")).unwrap();
    let parts = WholeParts::new(1).unwrap();
    let pot = vec![MixPart { paint: PaintId(tin.id), parts }];
    store.make(SavedMix::new(None, pot, None).unwrap()).unwrap();
    store.remove::<ShelfPaint>(tin.id, tin.revision).unwrap();
    let lines = all(&store);
    assert_eq!(
        lines.iter().map(|line| line.words.as_str()).collect::<Vec<_>>(),
        ["Mixed oat white", "New on the shelf: oat white"]
    );
    assert_eq!(lines.iter().map(|line| line.removed).collect::<Vec<_>>(), [false, true]);
    let with_it = LogQuery { paint: Some(tin.id), ..asked("") };
    assert_eq!(store.log(&with_it).unwrap().0.len(), 1, "the mix is of it");
    for _ in 0..3 {
        let step = store.history().unwrap().undo.unwrap();
        store.undo(step.change).unwrap();
    }
    assert_eq!(all(&store), []);
}

/// The entry at the edge of a page is changed, and then deleted, before the next page is asked for: nothing is left out and nothing comes
/// twice.
#[test]
fn the_edge_of_a_page_may_change() {
    let (_folder, mut store) = open();
    let now: Timestamp = "2026-11-27T09:00:00Z".parse().unwrap();
    let minute = SignedDuration::from_mins(1);
    let notes: Vec<_> = (0..30i32)
        .map(|n| store.make(LogNote { at: now + minute * n, ..note(&format!("note {n}")) }).unwrap())
        .collect();
    for deleted in [false, true] {
        let (first, more) = store.log(&LogQuery { most: 10, ..asked("") }).unwrap();
        let edge = store.get::<LogNote>(first[9].document).unwrap();
        if deleted {
            store.remove::<LogNote>(edge.id, edge.revision).unwrap();
        } else {
            store
                .change(edge.id, edge.revision, LogNote { at: edge.value.at, ..note("in other words") })
                .unwrap();
        }
        let (rest, end) = store.log(&LogQuery { before: more, ..asked("") }).unwrap();
        let documents: Vec<Id> = first.iter().chain(&rest).map(|line| line.document).collect();
        let wanted: Vec<Id> = notes.iter().rev().map(|kept| kept.id).collect();
        assert_eq!((documents, end), (wanted, None));
    }
}

/// Signs alone are no word: nothing is found.
#[test]
fn a_search_for_signs_finds_nothing() {
    let (_folder, mut store) = open();
    store.make(note("left the key")).unwrap();
    assert_eq!(store.log(&asked("%&?")).unwrap().0, []);
    assert_eq!(store.log(&asked("  ")).unwrap().0.len(), 1);
}

/// Two entries in one moment, a clock set back a year: pages follow each other without a gap or a repeat.
#[test]
fn pages_follow_each_other() {
    let (_folder, mut store) = open();
    let now: Timestamp = "2026-11-27T09:00:00Z".parse().unwrap();
    for n in 0..250i64 {
        let back = if n % 50 == 0 { 365 * 24 } else { 0 };
        let at = now + SignedDuration::from_mins(n / 2) - SignedDuration::from_hours(back);
        store.make(LogNote { at, ..note(&format!("note {n}")) }).unwrap();
    }
    let mut found = Vec::new();
    let mut query = LogQuery { most: 120, ..LogQuery::default() };
    loop {
        let (lines, more) = store.log(&query).unwrap();
        assert!(lines.len() <= query.most);
        found.extend(lines);
        let Some(more) = more else { break };
        query.before = Some(more);
    }
    assert_eq!(found.len(), 250);
    assert!(found.windows(2).all(|two| (two[0].at, two[0].id) > (two[1].at, two[1].id)));
    let year = LogQuery { until: Some(now - SignedDuration::from_hours(24)), ..asked("") };
    assert_eq!(store.log(&year).unwrap().0.len(), 5);
    let notes = LogQuery { kinds: vec![LogKind::Mix, LogKind::Step], ..asked("") };
    assert_eq!(store.log(&notes).unwrap().0, []);
}

/// A file from before there was a log gets one of what is in it; what had been undone is not told.
#[test]
fn an_older_file_gets_its_log() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let mut store = Store::open(&file).unwrap();
    let gone = store.make(paint("fern")).unwrap();
    store.make(paint("oat white")).unwrap();
    store.remove::<ShelfPaint>(gone.id, gone.revision).unwrap();
    store.make(paint("never")).unwrap();
    let step = store.history().unwrap().undo.unwrap();
    store.undo(step.change).unwrap();
    let before = all(&store);
    drop(store);
    set_back(&file, 4);
    let store = Store::open(&file).unwrap();
    let shown = |lines: Vec<KeptLine>| -> Vec<(String, bool, Timestamp)> {
        lines.into_iter().map(|line| (line.words, line.removed, line.at)).collect()
    };
    assert_eq!(shown(all(&store)), shown(before));
    assert_eq!(shown(store.log(&asked("oats")).unwrap().0).len(), 1);
}

/// What a workspace comes with may be of long ago: it stands at its day, in the order it was made, and no undo takes it away.
#[test]
fn what_it_came_with_stands_at_its_day() {
    let (_folder, mut store) = open();
    let day =
        |n: i64| "2026-10-01T09:00:00Z".parse::<Timestamp>().unwrap() + SignedDuration::from_hours(24 * n);
    for (n, name) in [(5, "later"), (1, "first"), (3, "between")] {
        store.furnish_on(day(n), paint(name)).unwrap();
    }
    let shown: Vec<(String, Timestamp)> = all(&store).into_iter().map(|line| (line.words, line.at)).collect();
    let wanted = [("later", 5), ("between", 3), ("first", 1)];
    assert_eq!(shown, wanted.map(|(name, n)| (format!("New on the shelf: {name}"), day(n))));
    let names: Vec<String> = store
        .all::<ShelfPaint>()
        .unwrap()
        .into_iter()
        .map(|kept| kept.value.name.as_str().to_owned())
        .collect();
    assert_eq!(names, ["first", "between", "later"]);
    assert!(store.history().unwrap().undo.is_none());
}

/// Photos of a piece come in the order they were taken, whenever they were brought, and go with their note.
#[test]
fn photos_of_a_piece_are_in_order() {
    let (_folder, mut store) = open();
    let piece = store.make(Piece::named(Name::new("chest").unwrap())).unwrap().id;
    let other = store.make(Piece::named(Name::new("stool").unwrap())).unwrap().id;
    let photos: Vec<Uuid> = (0..10).map(|n| store.keep_photo(&[n]).unwrap()).collect();
    let mut taken = |day: &str, piece, photo: usize, words: &str| {
        let of = LogNote {
            at: format!("2026-11-{day}T10:00:00Z").parse().unwrap(),
            piece: Some(piece),
            photo: (photo > 0).then(|| photos[photo]),
            ..note(words)
        };
        store.make(of).unwrap()
    };
    taken("09", piece, 3, "waxed");
    taken("02", piece, 1, "as it came");
    taken("03", piece, 0, "no photo");
    taken("04", other, 9, "another piece");
    let middle = taken("05", piece, 2, "first coat");
    let words = |store: &Store| -> Vec<String> {
        store.photos_of(piece).unwrap().into_iter().map(|line| line.words).collect()
    };
    assert_eq!(words(&store), ["as it came", "first coat", "waxed"]);
    store.remove::<LogNote>(middle.id, middle.revision).unwrap();
    assert_eq!(words(&store), ["as it came", "waxed"]);
    let step = store.history().unwrap().undo.unwrap();
    store.undo(step.change).unwrap();
    assert_eq!(words(&store), ["as it came", "first coat", "waxed"]);
    assert!(store.photos_of(Uuid::from_u128(77)).unwrap().is_empty());
}

/// Pots are not read again as long as nothing is written, and are those of the file after whatever was: here, by another program, by undo.
#[test]
fn pots_are_those_of_the_file() {
    let (folder, mut store) = open();
    let tins = [store.make(paint("slate")).unwrap().id, store.make(paint("oat")).unwrap().id];
    let mix = |parts: u32| {
        let part =
            |tin: Id, parts: u32| MixPart { paint: PaintId(tin), parts: WholeParts::new(parts).unwrap() };
        SavedMix::new(None, vec![part(tins[0], parts), part(tins[1], 1)], None).unwrap()
    };
    let parts = |store: &Store| -> Vec<f64> {
        store.pots().unwrap().iter().filter(|pot| pot.of.len() == 2).map(|pot| pot.of[0].1.value()).collect()
    };
    assert!(parts(&store).is_empty());
    store.make(mix(3)).unwrap();
    assert_eq!(parts(&store), [3.0]);
    assert!(std::sync::Arc::ptr_eq(&store.pots().unwrap(), &store.pots().unwrap()), "they were read again");
    let mut other = Store::open(&folder.path().join("workspace.db")).unwrap();
    other.make(mix(7)).unwrap();
    assert_eq!(parts(&store), [7.0, 3.0]);
    let change = store.history().unwrap().undo.unwrap().change;
    store.undo(change).unwrap();
    assert_eq!(parts(&store), [3.0]);
}
