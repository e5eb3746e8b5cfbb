//! A file as a killed program leaves it, after any acts: what was kept is there, undo and redo go on from where they were, and copies
//! and logs of different times are never mixed.

use std::{fs, path::Path};

use proptest::prelude::*;
use tempfile::TempDir;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Masstone, Name};
use warm_blend_store::{History, Notice, Store};

fn paint(name: &str) -> ShelfPaint {
    ShelfPaint::new(Name::new(name).unwrap(), Class::Clay, Some(Masstone::Hex("#6c7482".parse().unwrap())))
}

/// What a painter sees of a file.
#[derive(Debug, Clone, PartialEq)]
struct Seen {
    shelf: Vec<(String, i64)>,
    history: History,
}

impl Seen {
    fn of(store: &Store) -> Self {
        let shelf = store.all::<ShelfPaint>().unwrap();
        Self {
            shelf: shelf.into_iter().map(|kept| (kept.value.name.into(), kept.revision)).collect(),
            history: store.history().unwrap(),
        }
    }
}

#[derive(Debug, Clone)]
enum Act {
    Make,
    Several,
    Change(usize),
    Remove(usize),
    Undo,
    Redo,
    Photo,
    WriteBack,
}

fn act() -> impl Strategy<Value = Act> {
    prop_oneof![
        3 => Just(Act::Make),
        1 => Just(Act::Several),
        3 => (0usize..4).prop_map(Act::Change),
        1 => (0usize..4).prop_map(Act::Remove),
        3 => Just(Act::Undo),
        2 => Just(Act::Redo),
        1 => Just(Act::Photo),
        2 => Just(Act::WriteBack),
    ]
}

fn carry_out(store: &mut Store, act: &Act, n: usize) {
    let shelf = store.all::<ShelfPaint>().unwrap();
    let history = store.history().unwrap();
    match act {
        Act::Make => drop(store.make(paint(&format!("tin {n}"))).unwrap()),
        Act::Several => store
            .together(|batch| {
                for part in ["a", "b", "c"] {
                    batch.make(paint(&format!("card {n} {part}")))?;
                }
                Ok(())
            })
            .unwrap(),
        Act::Change(i) => {
            if let Some(it) = shelf.get(*i) {
                store.change(it.id, it.revision, paint(&format!("changed {n}"))).unwrap();
            }
        }
        Act::Remove(i) => {
            if let Some(it) = shelf.get(*i) {
                store.remove::<ShelfPaint>(it.id, it.revision).unwrap();
            }
        }
        Act::Undo => {
            if let Some(step) = history.undo {
                store.undo(step.change).unwrap();
            }
        }
        Act::Redo => {
            if let Some(step) = history.redo {
                store.redo(step.change).unwrap();
            }
        }
        Act::Photo => drop(store.keep_photo(&[7; 5000]).unwrap()),
        Act::WriteBack => store.write_back().unwrap(),
    }
}

/// The file and its log as they lie on the disk this moment.
fn copied(file: &Path, to: &Path) {
    fs::copy(file, to).unwrap();
    let log = |of: &Path| of.with_extension("db-wal");
    match log(file).exists() {
        true => drop(fs::copy(log(file), log(to)).unwrap()),
        false => drop(fs::remove_file(log(to))),
    }
}

fn begun() -> (TempDir, std::path::PathBuf, Store) {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let store = Store::open(&file).unwrap();
    (folder, file, store)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Killed after any act: the file is as it was seen, and goes on as if nothing had been.
    #[test]
    fn whenever_it_is_killed_it_goes_on(acts in proptest::collection::vec(act(), 1..24), more in act()) {
        let (folder, file, mut store) = begun();
        for (n, act) in acts.iter().enumerate() {
            carry_out(&mut store, act, n);
        }
        let crashed = folder.path().join("crashed.db");
        copied(&file, &crashed);
        let mut again = Store::open(&crashed).unwrap();
        prop_assert_eq!(again.notices(), vec![]);
        prop_assert_eq!(Seen::of(&again), Seen::of(&store));
        carry_out(&mut store, &more, acts.len());
        carry_out(&mut again, &more, acts.len());
        prop_assert_eq!(Seen::of(&again).shelf, Seen::of(&store).shelf);
    }

    /// A copy of any time before, put over the file of a killed program: it is the copy that is there, whole, and the log is kept; or the
    /// copy is what the log was written over, and all of it is there. Never a mixture.
    #[test]
    fn a_copy_over_a_crashed_file_is_one_or_the_other(
        acts in proptest::collection::vec(act(), 2..24),
        at in 0usize..23,
    ) {
        let (folder, file, mut store) = begun();
        let copy = folder.path().join("copy.db");
        // A copy is taken of the file alone, when everything is in it.
        store.write_back().unwrap();
        fs::copy(&file, &copy).unwrap();
        let mut then = Seen::of(&store);
        for (n, act) in acts.iter().enumerate() {
            carry_out(&mut store, act, n);
            if n == at {
                store.write_back().unwrap();
                fs::copy(&file, &copy).unwrap();
                then = Seen::of(&store);
            }
        }
        let now = Seen::of(&store);
        let crashed = folder.path().join("crashed.db");
        copied(&file, &crashed);
        fs::copy(&copy, &crashed).unwrap();
        let restored = Store::open(&crashed).unwrap();
        let seen = Seen::of(&restored);
        match &restored.notices()[..] {
            [] => prop_assert!(seen == now || seen == then, "{seen:?}\n{then:?}\n{now:?}"),
            [Notice::PutAside { file, log }] => {
                prop_assert_eq!(&seen, &then);
                prop_assert!(file.exists() && log.exists());
            }
            other => prop_assert!(false, "{other:?}"),
        }
        prop_assert_eq!(restored.damage(), None);
    }
}

/// What is kept aside is enough to have everything: with the file that the log was written over, it gives all of it.
#[test]
fn nothing_is_lost_by_being_put_aside() {
    let (folder, file, mut store) = begun();
    store.make(paint("rain")).unwrap();
    store.write_back().unwrap();
    let old = folder.path().join("old.db");
    fs::copy(&file, &old).unwrap();
    store.make(paint("dew")).unwrap();
    store.write_back().unwrap();
    let base = folder.path().join("base.db");
    fs::copy(&file, &base).unwrap();
    store.make(paint("mist")).unwrap();
    let all = Seen::of(&store).shelf;

    let crashed = folder.path().join("crashed.db");
    copied(&file, &crashed);
    fs::copy(&old, &crashed).unwrap();
    let restored = Store::open(&crashed).unwrap();
    let notices = restored.notices();
    let [Notice::PutAside { log, .. }] = &notices[..] else { panic!("{notices:?}") };
    assert_eq!(Seen::of(&restored).shelf.len(), 1);

    let rebuilt = folder.path().join("rebuilt.db");
    fs::copy(&base, &rebuilt).unwrap();
    fs::copy(log, rebuilt.with_extension("db-wal")).unwrap();
    let rebuilt = Store::open(&rebuilt).unwrap();
    assert_eq!(rebuilt.notices(), []);
    assert_eq!(Seen::of(&rebuilt).shelf, all);
}
