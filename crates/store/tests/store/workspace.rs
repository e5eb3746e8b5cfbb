//! Stories of a workspace file.

use std::{
    fs,
    path::{Path, PathBuf},
    sync::Arc,
};

use crate::older::set_back;
use jiff::Timestamp;
use proptest::prelude::*;
use tempfile::TempDir;
use warm_blend_documents::Id;
use warm_blend_learn::{KeptComponent, ShelfPaint};
use warm_blend_paint::{Class, Masstone, MixPart, Name, PaintId, SavedMix, WholeParts};
use warm_blend_store::{ChangeKind, Deed, Depth, HistoryEntry, Notice, OpenError, Store, StoreError};

fn folder() -> (TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    (folder, file)
}

/// Undoes the newest change.
fn undo(store: &mut Store) -> Option<HistoryEntry> {
    let meant = store.history().unwrap().undo?.change;
    Some(store.undo(meant).unwrap())
}

/// Makes the change again that was undone last.
fn redo(store: &mut Store) -> Option<HistoryEntry> {
    let meant = store.history().unwrap().redo?.change;
    Some(store.redo(meant).unwrap())
}

fn paint(name: &str) -> ShelfPaint {
    ShelfPaint::new(Name::new(name).unwrap(), Class::Chalk, Some(Masstone::Hex("#b08d57".parse().unwrap())))
}

fn mix_of(paints: &[(Id, u32)]) -> SavedMix {
    let components =
        paints.iter().map(|(id, n)| MixPart { paint: PaintId(*id), parts: WholeParts::new(*n).unwrap() });
    SavedMix::new(None, components.collect(), None).unwrap()
}

#[test]
fn what_was_kept_is_there_after_a_restart() {
    let (_folder, file) = folder();
    let made = Store::open(&file).unwrap().make(paint("oat white")).unwrap();
    let store = Store::open(&file).unwrap();
    assert_eq!(store.get::<ShelfPaint>(made.id).unwrap(), made);
    assert_eq!(store.all::<ShelfPaint>().unwrap(), [made]);
    assert!(store.all::<SavedMix>().unwrap().is_empty());
}

#[test]
fn a_change_to_an_old_revision_is_refused_and_loses_nothing() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    let mine = store.change(made.id, made.revision, paint("oat cream")).unwrap();
    assert_eq!(mine.revision, 2);
    let refused = store.change(made.id, made.revision, paint("oat grey"));
    assert!(matches!(refused, Err(StoreError::Stale { kept: 2, seen: 1, .. })), "{refused:?}");
    assert!(matches!(store.remove::<ShelfPaint>(made.id, 1), Err(StoreError::Stale { .. })));
    assert_eq!(store.get::<ShelfPaint>(made.id).unwrap(), mine);
}

#[test]
fn writing_the_same_again_is_no_change() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    assert_eq!(store.change(made.id, 1, paint("oat white")).unwrap(), made);
}

#[test]
fn undo_goes_back_across_a_restart_and_redo_forward_again() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    store.change(made.id, 1, paint("oat cream")).unwrap();
    store.remove::<ShelfPaint>(made.id, 2).unwrap();
    drop(store);

    let mut store = Store::open(&file).unwrap();
    let name = |store: &Store| store.get::<ShelfPaint>(made.id).unwrap().value.name.as_str().to_owned();
    assert_eq!(store.history().unwrap().undo.unwrap().action, ChangeKind::Removed);
    assert_eq!(undo(&mut store).unwrap().action, ChangeKind::Removed);
    assert_eq!(store.all::<ShelfPaint>().unwrap().len(), 1);
    assert_eq!(undo(&mut store).unwrap().action, ChangeKind::Changed);
    assert_eq!(name(&store), "oat white");
    assert_eq!(undo(&mut store).unwrap().action, ChangeKind::Added);
    assert!(store.all::<ShelfPaint>().unwrap().is_empty());
    assert_eq!(undo(&mut store), None);

    let step = redo(&mut store).unwrap();
    assert_eq!((step.action, step.name.as_deref()), (ChangeKind::Added, Some("oat white")));
    redo(&mut store).unwrap();
    assert_eq!(name(&store), "oat cream");
    // A new change forgets what was undone.
    let revision = store.get::<ShelfPaint>(made.id).unwrap().revision;
    store.change(made.id, revision, paint("oat grey")).unwrap();
    assert_eq!(redo(&mut store), None);
}

#[test]
fn what_the_workspace_came_with_is_not_undone() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    store.furnish(paint("house white")).unwrap();
    assert_eq!(undo(&mut store), None);
}

#[test]
fn a_removed_paint_is_still_known_to_the_mix_that_uses_it() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let (white, blue) = (store.make(paint("oat white")).unwrap(), store.make(paint("slate blue")).unwrap());
    let mix = store.make(mix_of(&[(white.id, 3), (blue.id, 1)])).unwrap();
    let users =
        |store: &Store| store.users::<SavedMix>(blue.id).unwrap().iter().map(|m| m.id).collect::<Vec<_>>();
    assert_eq!(users(&store), [mix.id]);
    store.remove::<ShelfPaint>(blue.id, 1).unwrap();
    assert!(store.get::<ShelfPaint>(blue.id).unwrap().removed);
    store.change(mix.id, 1, mix_of(&[(white.id, 3)])).unwrap();
    assert!(users(&store).is_empty());
    undo(&mut store);
    assert_eq!(users(&store), [mix.id]);
}

#[test]
fn unknown_ids_and_kinds_are_said() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let white = store.make(paint("oat white")).unwrap();
    assert!(matches!(store.get::<SavedMix>(white.id), Err(StoreError::Unknown { kind: "mix", .. })));
    let nobody = Id::from_u128(7);
    assert!(matches!(store.make(mix_of(&[(nobody, 1)])), Err(StoreError::Dangling(id)) if id == nobody));
    assert!(store.all::<SavedMix>().unwrap().is_empty(), "the refused mix left nothing behind");
}

fn refused(file: &Path) -> OpenError {
    let before = fs::read(file).unwrap();
    let error = Store::open(file).unwrap_err();
    assert_eq!(fs::read(file).unwrap(), before, "the file was touched");
    error
}

#[test]
fn a_file_that_is_not_ours_is_refused_and_left_alone() {
    let (_folder, file) = folder();
    fs::write(&file, "a shopping list\n".repeat(20)).unwrap();
    assert!(matches!(refused(&file), OpenError::NotSqlite(_)));
    fs::write(&file, "SQLite format 3\0cut off").unwrap();
    assert!(matches!(refused(&file), OpenError::NotSqlite(_)));
    fs::remove_file(&file).unwrap();
    rusqlite::Connection::open(&file).unwrap().execute_batch("CREATE TABLE recipe (id)").unwrap();
    assert!(matches!(refused(&file), OpenError::Foreign(_)));
}

#[test]
fn a_file_whose_log_was_never_written_back_opens_whole() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    // What a killed program leaves: the file as first made, and everything since in the log beside it.
    let (_elsewhere, copy) = folder();
    fs::copy(&file, &copy).unwrap();
    fs::copy(file.with_extension("db-wal"), copy.with_extension("db-wal")).unwrap();
    assert_eq!(Store::open(&copy).unwrap().all::<ShelfPaint>().unwrap(), [made]);
    // Killed between the mark and the log: an empty file of ours.
    fs::copy(&file, &copy).unwrap();
    assert!(Store::open(&copy).unwrap().all::<ShelfPaint>().unwrap().is_empty());
}

#[test]
fn a_newer_file_is_refused_and_left_alone() {
    let (_folder, file) = folder();
    drop(Store::open(&file).unwrap());
    rusqlite::Connection::open(&file).unwrap().pragma_update(None, "user_version", 99).unwrap();
    let error = refused(&file);
    assert!(matches!(error, OpenError::Newer { found: 99, .. }));
    assert!(error.to_string().contains("newer"));
}

#[test]
fn a_newer_file_whose_log_was_never_written_back_is_refused() {
    let (_folder, file) = folder();
    drop(Store::open(&file).unwrap());
    let newer = rusqlite::Connection::open(&file).unwrap();
    newer.pragma_update(None, "user_version", 99).unwrap();
    let (_elsewhere, copy) = folder();
    fs::copy(&file, &copy).unwrap();
    fs::copy(file.with_extension("db-wal"), copy.with_extension("db-wal")).unwrap();
    assert!(Store::open(&copy).unwrap_err().to_string().contains("a newer Warm Blend"));
}

#[test]
fn a_read_only_file_is_refused_and_left_alone() {
    let (_folder, file) = folder();
    drop(Store::open(&file).unwrap());
    let mut permissions = fs::metadata(&file).unwrap().permissions();
    permissions.set_readonly(true);
    fs::set_permissions(&file, permissions).unwrap();
    assert!(matches!(refused(&file), OpenError::ReadOnly(_)));
}

#[test]
fn a_missing_folder_is_named() {
    let (folder, _) = folder();
    let error = Store::open(&folder.path().join("nowhere/workspace.db")).unwrap_err();
    assert!(error.to_string().contains("nowhere"), "{error}");
}

/// A page limit stands in for a full disk: SQLite answers both with the same code.
#[test]
fn a_full_disk_is_said_and_nothing_is_lost() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    store.limit_pages_for_tests(1).unwrap();
    let long = "x".repeat(70);
    let error = (0..2000).find_map(|n| store.make(paint(&format!("{long} {n}"))).err()).unwrap();
    assert!(matches!(error, StoreError::Full), "{error:?}");
    assert_eq!(store.get::<ShelfPaint>(made.id).unwrap(), made);
}

#[derive(Debug, Clone)]
enum Act {
    Make,
    Change(usize),
    Remove(usize),
    Undo,
    Redo,
}

fn acts() -> impl Strategy<Value = Vec<Act>> {
    let act = prop_oneof![
        2 => Just(Act::Make),
        3 => (0usize..4).prop_map(Act::Change),
        1 => (0usize..4).prop_map(Act::Remove),
        3 => Just(Act::Undo),
        2 => Just(Act::Redo),
    ];
    proptest::collection::vec(act, 1..30)
}

/// What was learnt is kept beside the documents, in place of what was kept before; a file from before takes it, and finds its
/// documents.
#[test]
fn what_was_learnt_is_kept() {
    let (_folder, file) = folder();
    let made = Store::open(&file).unwrap().make(paint("oat white")).unwrap();
    set_back(&file, 5);
    let mut store = Store::open(&file).unwrap();
    assert_eq!(store.all::<ShelfPaint>().unwrap(), [made]);
    let kept = |name: u64, said: u8| KeptComponent { name, said: [said; 32], body: vec![said; 9] };
    let mut keep = |all: &[KeptComponent]| {
        let shown: Vec<_> = all.iter().map(|kept| (kept.name, kept.said)).collect();
        let there = store.learnt_from().unwrap();
        let new = all.iter().filter(|kept| there.get(&kept.name) != Some(&kept.said)).cloned().collect();
        store.keep_learnt(&shown, new).unwrap();
        let mut there = store.learnt().unwrap();
        there.sort_by_key(|kept| kept.name);
        there
    };
    let (first, last) = (kept(0, 1), kept(u64::MAX, 2));
    assert_eq!(keep(&[first.clone(), last.clone()]), [first.clone(), last.clone()]);
    let changed = kept(u64::MAX, 3);
    assert_eq!(keep(&[first, changed.clone()]).last(), Some(&changed));
    assert_eq!(keep(std::slice::from_ref(&changed)), std::slice::from_ref(&changed));
    // What stands there stays, whatever comes beside it.
    store.keep_learnt(&[(changed.name, changed.said)], Vec::new()).unwrap();
    drop(store);
    assert_eq!(Store::open(&file).unwrap().learnt().unwrap(), [changed]);
}

/// A file from before there were photos takes one; it is there after the file was closed.
#[test]
fn an_older_file_takes_photos() {
    let (_folder, file) = folder();
    let made = Store::open(&file).unwrap().make(paint("oat white")).unwrap();
    set_back(&file, 2);
    let mut store = Store::open(&file).unwrap();
    assert_eq!(store.all::<ShelfPaint>().unwrap(), [made]);
    let id = store.keep_photo(b"jpeg").unwrap();
    drop(store);
    let store = Store::open(&file).unwrap();
    assert_eq!(store.photo(id).unwrap().as_deref(), Some(b"jpeg".as_slice()));
    assert_eq!(store.photo(warm_blend_documents::Id::from_u128(7)).unwrap(), None);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// Undoing everything and redoing everything lands where it began, whatever was done.
    #[test]
    fn all_the_way_back_and_forth(acts in acts()) {
        let (_folder, file) = folder();
        let mut store = Store::open(&file).unwrap();
        let mut known = Vec::new();
        for (n, act) in acts.iter().enumerate() {
            let shelf = store.all::<ShelfPaint>().unwrap();
            // What was known before, with what has changed since, is what there is.
            prop_assert_eq!(&store.all_after(&known).unwrap(), &shelf);
            if n % 3 == 0 {
                known.clone_from(&shelf);
            }
            let pick = |i: &usize| shelf.get(*i);
            match act {
                Act::Make => drop(store.make(paint(&format!("paint {n}"))).unwrap()),
                Act::Change(i) => if let Some(it) = pick(i) {
                    store.change(it.id, it.revision, paint(&format!("changed {n}"))).unwrap();
                },
                Act::Remove(i) => if let Some(it) = pick(i) {
                    store.remove::<ShelfPaint>(it.id, it.revision).unwrap();
                },
                Act::Undo => drop(undo(&mut store)),
                Act::Redo => drop(redo(&mut store)),
            }
        }
        while redo(&mut store).is_some() {}
        let values = |store: &Store| store.all::<ShelfPaint>().unwrap().into_iter().map(|p| p.value).collect::<Vec<_>>();
        let end = values(&store);
        let mut steps = 0;
        while undo(&mut store).is_some() { steps += 1; }
        prop_assert!(values(&store).is_empty());
        for _ in 0..steps { redo(&mut store).unwrap(); }
        prop_assert_eq!(values(&store), end);
    }
}

#[test]
fn changes_made_at_one_go_are_undone_at_one_go() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let old = store.make(paint("oat white")).unwrap();
    let made = store
        .together(|batch| {
            batch.remove::<ShelfPaint>(old.id, old.revision)?;
            let one = batch.make(paint("bone"))?;
            Ok([one, batch.make(paint("straw"))?])
        })
        .unwrap();
    let next = store.history().unwrap().undo.unwrap();
    assert_eq!((next.action, next.name.as_deref(), next.more), (ChangeKind::Removed, Some("oat white"), 2));
    let names = |store: &Store| -> Vec<String> {
        store.all::<ShelfPaint>().unwrap().into_iter().map(|kept| kept.value.name.into()).collect()
    };
    assert_eq!(names(&store), ["bone", "straw"]);
    let before = store.state::<ShelfPaint>().unwrap();
    undo(&mut store);
    assert_eq!(names(&store), ["oat white"]);
    assert_ne!(store.state::<ShelfPaint>().unwrap(), before);
    redo(&mut store);
    assert_eq!(names(&store), ["bone", "straw"]);
    assert!(store.history().unwrap().redo.is_none());
    assert_eq!(store.all_ever::<ShelfPaint>().unwrap().len(), 3);
    // One that fails half-way leaves nothing behind.
    let failed = store.together(|batch| {
        batch.make(paint("lost"))?;
        batch.remove::<ShelfPaint>(made[0].id, 99)
    });
    assert!(matches!(failed, Err(StoreError::Stale { .. })));
    assert_eq!(names(&store), ["bone", "straw"]);
}

/// A file that is removed, or that another one has taken the place of, is written no more; all that was acknowledged is beside it.
#[test]
#[cfg(unix)]
fn a_file_that_is_gone_is_not_written() {
    for replaced in [false, true] {
        let (folder, file) = folder();
        let mut store = Store::open(&file).unwrap();
        let kept = store.make(paint("oat white")).unwrap();
        if replaced {
            let other = folder.path().join("other.db");
            Store::open(&other).unwrap().make(paint("another shelf")).unwrap();
            fs::rename(&other, &file).unwrap();
        } else {
            fs::remove_file(&file).unwrap();
        }
        for _ in 0..2 {
            let refused = store.make(paint("barley")).unwrap_err();
            let StoreError::Gone { kept: Some(beside), .. } = &refused else { panic!("{refused:?}") };
            let words = refused.to_string();
            assert!(words.contains("workspace.db") && words.contains("restart with that"), "{words}");
            let rescued = Store::open(beside).unwrap();
            assert_eq!(rescued.all::<ShelfPaint>().unwrap(), std::slice::from_ref(&kept));
        }
        // What is there can be read on, and nothing of it was acknowledged wrongly.
        assert_eq!(store.all::<ShelfPaint>().unwrap().len(), 1);
    }
}

/// A damaged file of an older form is not brought up to the new one: it is left as it was, for who can save it.
#[test]
fn a_damaged_file_of_an_older_form_is_left_as_it_was() {
    let (folder, file) = folder();
    {
        let mut store = Store::open(&file).unwrap();
        for n in 0..120 {
            store.make(paint(&format!("paint {n}"))).unwrap();
        }
    }
    set_back(&file, 3);
    let sound = fs::read(&file).unwrap();
    let page = usize::from(u16::from_be_bytes([sound[16], sound[17]]));
    for n in 1..sound.len() / page {
        let mut broken = sound.clone();
        broken[n * page..n * page + 24].fill(0xff);
        let copy = folder.path().join(format!("broken-{n}.db"));
        fs::write(&copy, &broken).unwrap();
        let error = Store::open(&copy).unwrap_err().to_string();
        assert!(error.contains("damaged"), "page {n}: {error}");
        // The mode of the log stands in two bytes of the head; nothing else was written.
        let mut left = fs::read(&copy).unwrap();
        left[18..28].copy_from_slice(&broken[18..28]);
        left[92..96].copy_from_slice(&broken[92..96]);
        assert!(left == broken, "page {n}: the file was touched");
    }
    assert_eq!(names(&Store::open(&file).unwrap()).len(), 120);
}

/// Whichever page of a file is broken, it is refused, or opened to be read and not written.
#[test]
fn a_damaged_file_is_not_written() {
    let (folder, file) = folder();
    {
        let mut store = Store::open(&file).unwrap();
        for n in 0..120 {
            store.make(paint(&format!("paint {n}"))).unwrap();
        }
        store.keep_photo(&[7; 40_000]).unwrap();
    }
    let sound = fs::read(&file).unwrap();
    let page = usize::from(u16::from_be_bytes([sound[16], sound[17]]));
    assert_eq!(sound.len() % page, 0);
    let (mut refused, mut read_only) = (0, 0);
    for n in 1..sound.len() / page {
        let mut broken = sound.clone();
        broken[n * page..n * page + 24].fill(0xff);
        let copy = folder.path().join(format!("broken-{n}.db"));
        fs::write(&copy, &broken).unwrap();
        match Store::open(&copy) {
            Err(error) => {
                refused += 1;
                assert!(error.to_string().contains("damaged"), "page {n}: {error}");
            }
            Ok(mut store) => {
                read_only += 1;
                assert!(
                    store.damage().is_some(),
                    "page {n} of {} is broken and was not seen",
                    sound.len() / page
                );
                let error = store.make(paint("one more")).unwrap_err();
                assert!(matches!(error, StoreError::Damaged(_)), "page {n}: {error}");
                assert!(error.to_string().contains("nothing was changed"));
            }
        }
        assert_eq!(fs::read(&copy).unwrap(), broken, "page {n}: the file was touched");
    }
    assert!(read_only > 0, "{refused} refused");
    let store = Store::open(&file).unwrap();
    assert_eq!((store.damage(), store.all::<ShelfPaint>().unwrap().len()), (None, 120));
}

/// Takes an index away from under a file while a row is written, and puts it back as it was: it lacks the row, and no look at the pages
/// alone sees it.
fn break_an_index(file: &Path, write: &str) {
    let broken = rusqlite::Connection::open(file).unwrap();
    let row = |broken: &rusqlite::Connection| -> (String, String, i64, String) {
        broken
            .query_row(
                "SELECT name, tbl_name, rootpage, sql FROM sqlite_schema WHERE name = 'document_by_state'",
                [],
                |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?)),
            )
            .unwrap()
    };
    let index = row(&broken);
    broken.pragma_update(None, "writable_schema", true).unwrap();
    broken.execute("DELETE FROM sqlite_schema WHERE name = 'document_by_state'", []).unwrap();
    drop(broken);
    rusqlite::Connection::open(file).unwrap().execute(write, []).unwrap();
    let broken = rusqlite::Connection::open(file).unwrap();
    broken.pragma_update(None, "writable_schema", true).unwrap();
    let (name, table, page, sql) = index;
    let back =
        "INSERT INTO sqlite_schema (type, name, tbl_name, rootpage, sql) VALUES ('index', ?1, ?2, ?3, ?4)";
    broken.execute(back, rusqlite::params![name, table, page, sql]).unwrap();
}

#[test]
fn a_broken_index_is_made_anew_after_a_copy() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    for n in 0..40 {
        store.make(paint(&format!("tin {n}"))).unwrap();
    }
    drop(store);
    break_an_index(&file, "UPDATE document SET removed = 1, revision = 2 WHERE rowid = 7");
    let broken = fs::read(&file).unwrap();
    let mut store = Store::open(&file).unwrap();
    assert_eq!(store.damage(), None, "the pages agree");
    let found = store.deep_look()().unwrap();
    assert!(matches!(&found, Depth::Indexes(what) if what.contains("document_by_state")), "{found:?}");
    store.heed(found).unwrap();
    let [Notice::Reindexed { copy, .. }] = &store.notices()[..] else { panic!("{:?}", store.notices()) };
    assert_eq!(fs::read(copy).unwrap(), broken);
    assert_eq!(store.deep_look()().unwrap(), Depth::Sound);
    assert_eq!(store.all::<ShelfPaint>().unwrap().len(), 39);
    store.make(paint("one more")).unwrap();
}

/// Whatever page of a file is broken, the rest of it is saved, and the file is left as it was.
#[test]
fn what_can_be_read_of_a_damaged_file_is_saved() {
    let (folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let tins: Vec<Id> = (0..60).map(|n| store.make(paint(&format!("tin {n}"))).unwrap().id).collect();
    store.make(mix_of(&[(tins[0], 1), (tins[1], 2)])).unwrap();
    store.keep_photo(&[7; 9000]).unwrap();
    store.write_back().unwrap();
    drop(store);
    let whole = fs::read(&file).unwrap();
    let pages = whole.len() / 4096;
    let (mut least, mut every) = (usize::MAX, 0);
    for page in 1..pages {
        let mut broken = whole.clone();
        broken[page * 4096..(page + 1) * 4096].fill(0xa5);
        let (from, to) = (folder.path().join("broken.db"), folder.path().join(format!("saved-{page}.db")));
        fs::write(&from, &broken).unwrap();
        let Ok(rescued) = Store::rescue(&from, &to) else { continue };
        assert_eq!(fs::read(&from).unwrap(), broken);
        let saved = Store::open(&to).unwrap();
        let there = saved.all::<ShelfPaint>().unwrap().len();
        assert!(there + 1 >= rescued.documents.min(60), "page {page}: {there} of {rescued:?}");
        assert_eq!(saved.deep_look()().unwrap(), Depth::Sound);
        least = least.min(there);
        every += usize::from(there == 60);
    }
    // The root of the table takes all of it away; most other pages take some tins or none.
    assert!(every > pages / 2, "{every} of {pages} pages left all tins, the worst {least}");
    let taken = Store::rescue(&file, &file).unwrap_err();
    assert!(taken.to_string().contains("is there already"), "{taken}");
}

/// Somebody else made a change after the one that was meant: theirs stays.
#[test]
fn undo_takes_back_what_was_meant_or_nothing() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    store.make(paint("oat white")).unwrap();
    let meant = store.history().unwrap().undo.unwrap().change;
    let theirs = store.make(paint("slate blue")).unwrap();
    assert!(matches!(store.undo(meant), Err(StoreError::Overtaken)));
    assert!(!store.get::<ShelfPaint>(theirs.id).unwrap().removed);
    undo(&mut store).unwrap();
    store.undo(meant).unwrap();
    assert!(store.all::<ShelfPaint>().unwrap().is_empty());
    assert!(matches!(store.undo(meant), Err(StoreError::Overtaken)), "once is enough");
    assert!(matches!(store.redo(theirs.revision + 999), Err(StoreError::Overtaken)));
}

/// What is asked for again under one key is made once, also by a program that was started since, and a deed of several transactions
/// goes on after the first.
#[test]
fn a_change_under_a_key_is_made_once() {
    let (_folder, file) = folder();
    let key = Id::now_v7();
    let mut store = Store::open(&file).unwrap();
    store.on_behalf_of(Some(Arc::new(Deed::new(key))), None);
    store.make(paint("oat white")).unwrap();
    store.make(paint("slate blue")).unwrap();
    for _ in 0..2 {
        store.on_behalf_of(Some(Arc::new(Deed::new(key))), None);
        assert!(matches!(store.make(paint("oat white")), Err(StoreError::Repeated)));
        drop(store);
        store = Store::open(&file).unwrap();
    }
    assert_eq!(store.all::<ShelfPaint>().unwrap().len(), 2);
    // What did not happen was not made.
    let other = Arc::new(Deed::new(Id::now_v7()));
    store.on_behalf_of(Some(Arc::clone(&other)), None);
    let nobody = store.together(|batch| batch.remove::<ShelfPaint>(key, 1));
    assert!(matches!(nobody, Err(StoreError::Unknown { .. })), "{nobody:?}");
    store.on_behalf_of(Some(Arc::new(Deed::new(other.key()))), None);
    store.make(paint("fern")).unwrap();
}

/// A change says which fields it altered, and whether what it altered is there.
#[test]
fn a_change_names_its_fields() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    let next = |store: &Store| store.history().unwrap().undo.unwrap();
    assert_eq!((next(&store).fields.len(), next(&store).there), (0, true));
    let renamed = ShelfPaint { price: None, ..paint("oat cream") };
    store.change(made.id, made.revision, renamed).unwrap();
    assert_eq!(next(&store).fields, ["name"]);
    assert!(undo(&mut store).unwrap().there);
    assert!(!undo(&mut store).unwrap().there, "what was never made is not there");
    assert!(redo(&mut store).unwrap().there);
}

#[test]
fn what_was_put_away_is_not_changed_back_into_being() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let made = store.make(paint("oat white")).unwrap();
    let gone = store.remove::<ShelfPaint>(made.id, made.revision).unwrap();
    let changed = store.change(made.id, gone.revision, paint("oat cream"));
    assert!(matches!(changed, Err(StoreError::Removed { kind: "paint" })), "{changed:?}");
    undo(&mut store).unwrap();
    assert!(!store.get::<ShelfPaint>(made.id).unwrap().removed);
}

/// The line of changes is cut between batches: what can be undone of an import is all of it.
#[test]
fn half_a_batch_is_never_undone() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let mut batch = |n: usize| {
        store
            .together(|batch| (0..n).try_for_each(|i| batch.make(paint(&format!("tin {i}"))).map(drop)))
            .unwrap();
    };
    batch(100);
    (0..49).for_each(|_| batch(100));
    batch(50); // 5050: the limit lies within the first
    let left = |store: &mut Store| {
        while undo(store).is_some() {}
        let left = store.all::<ShelfPaint>().unwrap().len();
        while redo(store).is_some() {}
        left
    };
    assert_eq!(left(&mut store), 0, "the first can be undone as a whole");
    store.together(|batch| (0..50).try_for_each(|_| batch.make(paint("one more")).map(drop))).unwrap();
    assert_eq!(left(&mut store), 100, "or it is not undone at all");
}

/// As a killed program leaves it: the file and its log.
fn killed(file: &Path, at: &Path) {
    let log = |of: &Path| of.with_extension("db-wal");
    fs::copy(file, at).unwrap();
    fs::copy(log(file), log(at)).unwrap();
}

fn names(store: &Store) -> Vec<String> {
    store.all::<ShelfPaint>().unwrap().into_iter().map(|kept| kept.value.name.into()).collect()
}

#[test]
fn a_copy_from_before_is_not_mixed_with_the_log_of_what_came_after() {
    let (folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    store.make(paint("rain")).unwrap();
    store.write_back().unwrap();
    let copy = folder.path().join("copy.db");
    fs::copy(&file, &copy).unwrap();
    store.make(paint("dew")).unwrap();
    store.write_back().unwrap();
    store.make(paint("mist")).unwrap();
    let crashed = folder.path().join("crashed.db");
    killed(&file, &crashed);

    // The painter puts the copy in the place of the file, and does not know of the log.
    fs::copy(&copy, &crashed).unwrap();
    let restored = Store::open(&crashed).unwrap();
    assert_eq!(names(&restored), ["rain"]);
    let [Notice::PutAside { file: kept, log }] = &restored.notices()[..] else {
        panic!("{:?}", restored.notices())
    };
    assert!(restored.notices()[0].to_string().contains("aside-"));
    assert_eq!(fs::read(kept).unwrap(), fs::read(&copy).unwrap());
    // Nothing is lost: with the file it was written over, the log gives all that was kept.
    let again = folder.path().join("again.db");
    drop(restored);
    store.write_back().unwrap();
    assert!(fs::metadata(log).unwrap().len() > 0);
    drop(store);
    fs::copy(&file, &again).unwrap();
    assert_eq!(names(&Store::open(&again).unwrap()), ["rain", "dew", "mist"]);
}

#[test]
fn a_newer_copy_or_another_workspace_is_not_mixed_with_a_log() {
    let (folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    store.make(paint("rain")).unwrap();
    let [newer, other] = ["newer.db", "other.db"].map(|name| folder.path().join(name));
    killed(&file, &newer);
    killed(&file, &other);
    store.make(paint("dew")).unwrap();
    drop(store);
    fs::copy(&file, &newer).unwrap();
    let restored = Store::open(&newer).unwrap();
    assert_eq!(names(&restored), ["rain", "dew"]);
    assert!(matches!(restored.notices()[..], [Notice::PutAside { .. }]));

    let elsewhere = folder.path().join("elsewhere.db");
    let mut store = Store::open(&elsewhere).unwrap();
    store.make(paint("fog")).unwrap();
    store.make(paint("frost")).unwrap();
    drop(store);
    fs::copy(&elsewhere, &other).unwrap();
    let restored = Store::open(&other).unwrap();
    assert_eq!(names(&restored), ["fog", "frost"]);
    assert!(matches!(restored.notices()[..], [Notice::PutAside { .. }]));
}

#[test]
fn a_log_of_the_file_itself_is_taken_in_without_a_word() {
    let (folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    for n in 0..20 {
        store.make(paint(&format!("tin {n}"))).unwrap();
        if n % 7 == 3 {
            store.write_back().unwrap();
        }
        let crashed = folder.path().join(format!("crashed {n}?#%.db"));
        if file.with_extension("db-wal").exists() {
            killed(&file, &crashed);
            let again = Store::open(&crashed).unwrap();
            assert_eq!(again.notices(), []);
            assert_eq!(names(&again).len(), n + 1);
        }
    }
}

#[test]
fn a_log_is_written_back_when_it_grows_long() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let large = vec![1; 3 << 20];
    let mut longest = 0;
    for _ in 0..10 {
        store.keep_photo(&large).unwrap();
        longest = longest.max(fs::metadata(file.with_extension("db-wal")).unwrap().len());
    }
    assert!(longest < 20 << 20, "{longest}");
    assert!(fs::metadata(&file).unwrap().len() > 15 << 20);
}

#[test]
fn a_second_program_on_the_file_is_noticed_by_both() {
    let (_folder, file) = folder();
    let mut first = Store::open(&file).unwrap();
    first.make(paint("rain")).unwrap();
    let mut second = Store::open(&file).unwrap();
    assert_eq!(second.notices(), [Notice::Shared]);
    assert_eq!(first.notices(), []);
    second.make(paint("dew")).unwrap();
    first.make(paint("mist")).unwrap();
    assert_eq!(first.notices(), [Notice::Shared]);
    assert_eq!(names(&second), ["rain", "dew", "mist"]);
    drop(first);
    drop(second);
    assert_eq!(Store::open(&file).unwrap().notices(), []);
}

#[test]
fn photos_that_nothing_speaks_of_are_freed_and_undo_counts_as_speaking() {
    use warm_blend_piece::Piece;
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let [spoken, undone, loose] = [1_u8, 2, 3].map(|n| store.keep_photo(&[n; 9]).unwrap());
    let of = |photo| {
        let mut piece = Piece::named(Name::new("tall case").unwrap());
        piece.brief.photo = photo;
        piece
    };
    let made = store.make(of(Some(undone))).unwrap();
    store.change(made.id, made.revision, of(Some(spoken))).unwrap();
    let later = jiff::Timestamp::now() + jiff::SignedDuration::from_secs(1);
    assert_eq!(
        store.free_photos(made.made_at - jiff::SignedDuration::from_hours(1)).unwrap(),
        0,
        "just kept"
    );
    store.make(paint("rain")).unwrap();
    assert_eq!(store.free_photos(later).unwrap(), 1);
    assert_eq!(store.photo(loose).unwrap(), None);
    undo(&mut store);
    undo(&mut store);
    assert_eq!(store.get::<Piece>(made.id).unwrap().value.brief.photo, Some(undone));
    assert_eq!(store.photo(undone).unwrap(), Some(vec![2; 9]));
    // What was undone is forgotten by the next change, and its photo with it.
    store.make(paint("dew")).unwrap();
    assert_eq!(store.free_photos(later).unwrap(), 1);
    assert_eq!((store.photo(spoken).unwrap(), store.photo(undone).unwrap()), (None, Some(vec![2; 9])));
}

/// A mix that names another mix, a board or a photo as a paint is refused, and nothing of it is kept; so is one that names a paint that
/// was deleted, unless it named it before.
#[test]
fn what_is_named_is_there_and_of_the_right_kind() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let [oat, sea] = ["oat", "sea"].map(|name| store.make(paint(name)).unwrap());
    let mix = store.make(mix_of(&[(oat.id, 1), (sea.id, 1)])).unwrap();
    let photo = store.keep_photo(&[1]).unwrap();
    for wrong in [mix.id, photo] {
        let refused = store.make(mix_of(&[(oat.id, 1), (wrong, 1)]));
        assert!(
            matches!(refused, Err(StoreError::Misfit { id, wanted: "paint", .. }) if id == wrong),
            "{refused:?}"
        );
        let changed = store.change(mix.id, mix.revision, mix_of(&[(wrong, 1)]));
        assert!(matches!(changed, Err(StoreError::Misfit { .. })));
    }
    assert_eq!(store.all::<SavedMix>().unwrap(), std::slice::from_ref(&mix));
    store.remove::<ShelfPaint>(sea.id, sea.revision).unwrap();
    let refused = store.make(mix_of(&[(sea.id, 1)])).unwrap_err();
    assert_eq!(refused.to_string(), "“sea” was deleted: undo brings it back, or choose another");
    store.change(mix.id, mix.revision, mix_of(&[(oat.id, 2), (sea.id, 1)])).unwrap();
}

/// A file from earlier versions may hold a mix that names another mix. It is set aside, with a reason, and everything else is read; undo of what
/// made it, and redo, bring nothing of it back.
#[test]
fn a_bad_name_in_an_older_file_takes_nothing_down() {
    let (_folder, file) = folder();
    let (oat, good, bad);
    {
        let mut store = Store::open(&file).unwrap();
        oat = store.make(paint("oat")).unwrap();
        good = store.make(mix_of(&[(oat.id, 1)])).unwrap();
        bad = store.make(mix_of(&[(oat.id, 2)])).unwrap();
    }
    set_back(&file, 6);
    let body = serde_json::to_string(&mix_of(&[(oat.id, 1), (good.id, 1)])).unwrap();
    let older = rusqlite::Connection::open(&file).unwrap();
    for sql in
        ["UPDATE document SET body = ?1 WHERE id = ?2", "UPDATE change SET after = ?1 WHERE document = ?2"]
    {
        older.execute(sql, [&body, &bad.id.to_string()]).unwrap();
    }
    drop(older);

    let mut store = Store::open(&file).unwrap();
    assert_eq!(store.all::<SavedMix>().unwrap(), [good]);
    let aside = store.set_aside().unwrap();
    let shown: Vec<_> = aside.iter().map(|entry| (entry.id, entry.title(), entry.why.as_str())).collect();
    let title = "a mix without a name".to_owned();
    assert_eq!(shown, [(bad.id, title, "it names a mix where a paint belongs")]);
    undo(&mut store).unwrap();
    redo(&mut store).unwrap();
    assert_eq!((store.all::<SavedMix>().unwrap().len(), store.set_aside().unwrap().len()), (1, 1));
    store.delete_set_aside(bad.id).unwrap();
    drop(store);
    let store = Store::open(&file).unwrap();
    assert_eq!((store.all::<SavedMix>().unwrap().len(), store.set_aside().unwrap()), (1, Vec::new()));
}

/// A document whose body was edited until not even its name can be read is set aside alone; the mix that names it stays.
#[test]
fn what_cannot_be_read_keeps_nothing_from_opening() {
    let (_folder, file) = folder();
    let (oat, mix);
    {
        let mut store = Store::open(&file).unwrap();
        oat = store.make(paint("oat")).unwrap();
        mix = store.make(mix_of(&[(oat.id, 1)])).unwrap();
    }
    set_back(&file, 6);
    let older = rusqlite::Connection::open(&file).unwrap();
    let edited = r#"UPDATE document SET body = '{"name": 5}' WHERE id = ?1"#;
    older.execute(edited, [oat.id.to_string()]).unwrap();
    drop(older);
    let store = Store::open(&file).unwrap();
    assert_eq!(store.all::<SavedMix>().unwrap(), [mix]);
    let aside = store.set_aside().unwrap();
    assert_eq!(aside.iter().map(|entry| entry.id).collect::<Vec<_>>(), [oat.id]);
    assert!(aside[0].why.starts_with("it cannot be read"), "{aside:?}");
}

/// What was deleted is listed with its name, the latest first, and comes back with what referred to it; what was undone never was.
#[test]
fn what_was_deleted_comes_back() {
    let (_folder, file) = folder();
    let mut store = Store::open(&file).unwrap();
    let (one, two) = (store.make(paint("one")).unwrap(), store.make(paint("two")).unwrap());
    let mix = store.make(mix_of(&[(one.id, 1), (two.id, 2)])).unwrap();
    store.make(paint("three")).unwrap();
    undo(&mut store).unwrap();
    let began = Timestamp::now();
    store.remove::<ShelfPaint>(one.id, 1).unwrap();
    store.remove::<SavedMix>(mix.id, 1).unwrap();
    let listed = |store: &Store, since| {
        let deleted = store.deleted_since(since).unwrap();
        deleted.into_iter().map(|deleted| (deleted.kind, deleted.words)).collect::<Vec<_>>()
    };
    let named = |kind: &str, words: &str| (kind.to_owned(), words.to_owned());
    assert_eq!(listed(&store, began), [named("mix", "Mixed 1 one : 2 two"), named("paint", "one")]);
    assert_eq!(listed(&store, Timestamp::now()), []);
    store.together(|batch| batch.bring_back(mix.id)).unwrap();
    store.together(|batch| batch.bring_back(one.id)).unwrap();
    assert_eq!(listed(&store, began), []);
    assert_eq!(store.users::<SavedMix>(one.id).unwrap().len(), 1);
    undo(&mut store).unwrap();
    assert_eq!(listed(&store, began), [named("paint", "one")]);
    // Nothing else comes back.
    let unknown = store.together(|batch| batch.bring_back(Id::nil()));
    assert!(matches!(unknown, Err(StoreError::Unknown { .. })));
}
