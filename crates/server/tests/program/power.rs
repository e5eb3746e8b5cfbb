//! Power lost at one write after another of an import, a migration and a restore. The system kills the program at its first write beyond
//! a given place of a file (`RLIMIT_FSIZE`, POSIX.1-2024), so that every limit ends it at another write, to the file or to its log.

use std::{collections::BTreeMap, fs, path::Path, process::Command};

use serde_json::Value;
use warm_blend_documents::LogQuery;
use warm_blend_store::Store;

/// Places at which it is killed, KiB, up to beyond the length of every file.
const PLACES: std::ops::RangeInclusive<u64> = 0..=48;
const STEP: u64 = 16;

type Documents = BTreeMap<String, Vec<Value>>;

/// Runs the program; says whether it lived.
fn lives(kib: u64, args: &[&Path]) -> bool {
    let limited = format!("ulimit -c 0 -f {kib}; exec \"$0\" \"$@\"");
    let program = Path::new(env!("CARGO_BIN_EXE_warm-blend"));
    let done = Command::new("bash").arg("-c").arg(limited).arg(program).args(args).output().unwrap();
    done.status.success()
}

fn documents(file: &Path) -> Documents {
    let store = Store::open(file).unwrap_or_else(|error| panic!("{}: {error}", file.display()));
    assert_eq!(store.damage(), None);
    let documents = serde_json::to_value(store.moment().unwrap().documents().unwrap()).unwrap();
    serde_json::from_value(documents).unwrap()
}

fn log(file: &Path) -> Vec<String> {
    let (lines, _) = Store::open(file).unwrap().log(&LogQuery { most: 1000, ..LogQuery::default() }).unwrap();
    let mut words: Vec<_> = lines.into_iter().map(|line| format!("{} {}", line.at, line.words)).collect();
    words.sort();
    words
}

/// The demo, as an earlier program wrote it.
fn demo() -> std::path::PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../store/tests/data/form-9.db")
}

/// A folder with one file in it, which is opened before anything happens.
fn with(file: &Path) -> (tempfile::TempDir, std::path::PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let copy = folder.path().join("workspace.db");
    fs::copy(file, &copy).unwrap();
    (folder, copy)
}

/// Counts how often it was killed and how often it lived: both must have happened, or nothing was tried.
#[derive(Default)]
struct Tried {
    killed: usize,
    lived: usize,
}

impl Tried {
    fn count(&mut self, lived: bool) {
        if lived {
            self.lived += 1;
        } else {
            self.killed += 1;
        }
    }
}

impl Drop for Tried {
    fn drop(&mut self) {
        if !std::thread::panicking() {
            assert!(self.killed > 5 && self.lived > 0, "killed {}, lived {}", self.killed, self.lived);
        }
    }
}

#[test]
fn a_migration_is_finished_the_next_time() {
    let older = {
        let (folder, file) = with(&demo());
        let back = "DROP TABLE backup; DROP TABLE deed; DROP TABLE set_aside; ALTER TABLE mark DROP COLUMN looked_through;
            DROP TABLE learnt; DROP INDEX document_by_state; CREATE INDEX document_by_kind ON document (kind, removed);
            DROP TABLE log_words; DROP TABLE log_paint; DROP TABLE log_line; PRAGMA user_version = 4; VACUUM;";
        let connection = rusqlite::Connection::open(&file).unwrap();
        connection.execute_batch(back).unwrap();
        connection.pragma_update(None, "journal_mode", "DELETE").unwrap();
        drop(connection);
        (folder, file)
    };
    let expected = {
        let (_folder, file) = with(&older.1);
        (documents(&file), log(&file))
    };
    assert!(expected.1.len() > 40);
    let mut tried = Tried::default();
    for place in PLACES {
        let (folder, file) = with(&older.1);
        let to = folder.path().join("copies");
        fs::create_dir(&to).unwrap();
        tried
            .count(lives(place * STEP, &["backup".as_ref(), "--data".as_ref(), &file, "--to".as_ref(), &to]));
        assert_eq!(documents(&file), expected.0, "killed at {} KiB", place * STEP);
        assert_eq!(log(&file), expected.1, "killed at {} KiB", place * STEP);
    }
}

#[test]
fn an_import_is_there_wholly_or_not_at_all() {
    let folder = tempfile::tempdir().unwrap();
    let archive = folder.path().join("all.zip");
    let (_demo_folder, full) = with(&demo());
    assert!(lives(1 << 20, &["export".as_ref(), &archive, "--data".as_ref(), &full]));
    let empty = folder.path().join("empty.db");
    drop(Store::open(&empty).unwrap());
    let theirs = documents(&full);
    let mut tried = Tried::default();
    let mut seen = [false; 2];
    for place in PLACES {
        let (_folder, file) = with(&empty);
        let lived = lives(place * STEP, &["import".as_ref(), &archive, "--data".as_ref(), &file]);
        tried.count(lived);
        let now = documents(&file);
        // A new workspace has a piece and its settings as soon as the program opens it.
        let paints = now.get("paint").map_or(0, Vec::len);
        let all = theirs["paint"].len();
        assert!(paints == 0 || paints == all, "killed at {} KiB: {paints} of {all} paints", place * STEP);
        assert!(!lived || paints == all);
        seen[usize::from(paints == all)] = true;
        if paints == all {
            for (kind, of) in theirs.iter().filter(|(kind, _)| *kind != "workshop") {
                let here = now.get(kind).cloned().unwrap_or_default();
                let missing = of.iter().find(|one| !here.iter().any(|other| other["id"] == one["id"]));
                assert_eq!(missing, None, "killed at {} KiB: a {kind}", place * STEP);
            }
        }
    }
    assert_eq!(seen, [true; 2]);
}

#[test]
fn a_restore_loses_neither_of_the_two() {
    let folder = tempfile::tempdir().unwrap();
    let (_demo_folder, full) = with(&demo());
    let backup = folder.path().join("backup.db");
    let expected = documents(&full);
    fs::copy(&full, &backup).unwrap();
    let (_own_folder, own) = with(&full);
    {
        let mut store = Store::open(&own).unwrap();
        let paint = store.all::<warm_blend_learn::ShelfPaint>().unwrap().swap_remove(0);
        store.remove::<warm_blend_learn::ShelfPaint>(paint.id, paint.revision).unwrap();
        store.write_back().unwrap();
    }
    let newer = documents(&own);
    assert_ne!(newer, expected);
    let mut tried = Tried::default();
    for place in PLACES {
        let (folder, file) = with(&own);
        let lived = lives(place * STEP, &["restore".as_ref(), &backup, "--data".as_ref(), &file]);
        tried.count(lived);
        let others = fs::read_dir(folder.path()).unwrap().map(|entry| entry.unwrap().path());
        let others: Vec<_> =
            others.filter(|path| path.extension().is_some_and(|e| e == "db") && *path != file).collect();
        let set_aside = others.iter().any(|other| Store::open(other).is_ok() && documents(other) == newer);
        match file.exists().then(|| documents(&file)) {
            Some(now) if now == newer => assert!(!lived, "nothing was restored"),
            Some(now) => {
                assert_eq!(now, expected, "killed at {} KiB", place * STEP);
                assert!(set_aside, "killed at {} KiB: what was newer is gone", place * STEP);
            }
            None => assert!(set_aside, "killed at {} KiB: both are gone", place * STEP),
        }
        assert_eq!(documents(&backup), expected);
    }
}
