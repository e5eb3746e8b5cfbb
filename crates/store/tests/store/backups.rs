//! Backups: what is in them, which are refused, and what restoring one leaves behind.

use std::{fs, path::Path, thread};

use jiff::{SignedDuration, Timestamp};
use proptest::prelude::*;
use tempfile::TempDir;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Masstone, Name};
use warm_blend_store::{BackupError, Notice, OpenError, Store, StoreError, back_up, backups_in, check};

use crate::older::set_back;

fn paint(name: &str) -> ShelfPaint {
    ShelfPaint::new(Name::new(name).unwrap(), Class::Clay, Some(Masstone::Hex("#6c7482".parse().unwrap())))
}

fn names(store: &Store) -> Vec<String> {
    store.all::<ShelfPaint>().unwrap().into_iter().map(|kept| kept.value.name.into()).collect()
}

fn begun() -> (TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("workspace.db")).unwrap();
    (folder, store)
}

fn at(hour: i64) -> Timestamp {
    "2026-12-01T08:00:00Z".parse::<Timestamp>().unwrap() + SignedDuration::from_hours(hour)
}

fn bytes(file: &Path) -> Vec<u8> {
    fs::read(file).unwrap()
}

#[test]
fn a_backup_holds_all_that_was_saved_while_others_write() {
    let (folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    let writer = {
        let file = folder.path().join("workspace.db");
        thread::spawn(move || {
            let mut store = Store::open(&file).unwrap();
            (0..60).for_each(|n| drop(store.make(paint(&format!("by another {n}"))).unwrap()));
        })
    };
    for hour in 0..8 {
        store.make(paint(&format!("mine {hour}"))).unwrap();
        let saved = names(&store);
        let attempt = store.backup(at(hour)).unwrap()();
        let backup = store.backed_up(attempt).unwrap().unwrap().backup;
        assert_eq!(backup.made_at, at(hour));
        assert!(!backup.file.with_extension("part").exists());
        let held = check(&backup.file).unwrap();
        assert!(held.documents >= saved.len() as u64, "{held:?} {}", saved.len());
        // It stands alone, and reading it leaves nothing beside it.
        let copy = folder.path().join(format!("copy {hour}.db"));
        fs::copy(&backup.file, &copy).unwrap();
        let copied = names(&Store::open(&copy).unwrap());
        assert!(saved.iter().all(|name| copied.contains(name)));
    }
    writer.join().unwrap();
    let there = backups_in(&folder.path().join("backups")).unwrap();
    assert_eq!(there.len(), 8);
    assert!(there.windows(2).all(|pair| pair[0].made_at > pair[1].made_at));
    assert_eq!(fs::read_dir(folder.path().join("backups")).unwrap().count(), 8);
}

/// A backup is due when something was changed and the last is an hour old; after a day without one it is overdue, and said.
#[test]
fn backups_are_due_after_changes_only() {
    let (_folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    let now = Timestamp::now();
    assert!(store.backup_state().unwrap().is_due(now));
    let attempt = store.backup(now).unwrap()();
    store.backed_up(attempt).unwrap().unwrap();
    let state = store.backup_state().unwrap();
    assert!(!state.is_changed && !state.is_due(now + SignedDuration::from_hours(48)));
    assert!(!state.is_overdue(now + SignedDuration::from_hours(48)));
    store.make(paint("two")).unwrap();
    let state = store.backup_state().unwrap();
    assert!(!state.is_due(now + SignedDuration::from_mins(59)));
    assert!(state.is_due(now + SignedDuration::from_mins(60)));
    assert!(!state.is_overdue(now + SignedDuration::from_hours(23)));
    assert!(state.is_overdue(now + SignedDuration::from_hours(24)));
    let notice = store.backup_notice(now + SignedDuration::from_hours(24)).unwrap();
    assert_eq!(notice, Some(Notice::BackupOverdue));
}

/// A folder that is gone, such as that of a disk that was unplugged, is named until a backup is made, and is not created.
#[test]
fn what_fails_is_said_until_it_works() {
    let (folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    let disk = folder.path().join("disk");
    store.choose_backup_folder(Some(&disk)).unwrap();
    let attempt = store.backup(at(0)).unwrap()();
    let failed = store.backed_up(attempt).unwrap().unwrap_err();
    assert!(matches!(failed, BackupError::NoFolder(_)), "{failed}");
    assert!(!disk.exists());
    let state = store.backup_state().unwrap();
    assert!(!state.is_due(at(0) + SignedDuration::from_mins(9)));
    assert!(state.is_due(at(0) + SignedDuration::from_mins(10)));
    let notice = store.backup_notice(at(0)).unwrap().unwrap().to_string();
    assert!(notice.contains(&disk.display().to_string()) && notice.contains("connect its disk"), "{notice}");
    fs::create_dir(&disk).unwrap();
    let attempt = store.backup(at(1)).unwrap()();
    let backup = store.backed_up(attempt).unwrap().unwrap().backup;
    assert!(backup.file.starts_with(&disk));
    assert_eq!(store.backup_notice(at(1)).unwrap(), None);
    // A file in the place of the folder is no folder.
    let taken = folder.path().join("taken");
    fs::write(&taken, b"").unwrap();
    assert!(matches!(
        back_up(&folder.path().join("workspace.db"), &taken, at(2)),
        Err(BackupError::NoFolder(_))
    ));
}

#[test]
fn only_backups_are_deleted_and_the_newest_stay() {
    let (folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    let kept = folder.path().join("kept");
    fs::create_dir(&kept).unwrap();
    fs::write(kept.join("warm-blend-2020-01-01.db"), b"somebody's own").unwrap();
    fs::write(kept.join("letter.txt"), b"Dear Sir").unwrap();
    for hour in 0..40 {
        back_up(&folder.path().join("workspace.db"), &kept, at(hour)).unwrap();
    }
    let backups = backups_in(&kept).unwrap();
    let last: Vec<_> = backups.iter().take(10).map(|backup| backup.made_at).collect();
    assert_eq!(last, (30..40).rev().map(at).collect::<Vec<_>>());
    // Of the day before, its last.
    assert!((11..=13).contains(&backups.len()), "{}", backups.len());
    assert!(kept.join("warm-blend-2020-01-01.db").exists() && kept.join("letter.txt").exists());
}

/// What is no sound workspace is refused by name and reason, and neither it nor the file is touched.
#[test]
fn what_is_no_backup_is_not_restored() {
    let (folder, mut store) = begun();
    (0..40).for_each(|n| drop(store.make(paint(&format!("tin {n}"))).unwrap()));
    store.keep_photo(&[7; 9000]).unwrap();
    store.write_back().unwrap();
    drop(store);
    let file = folder.path().join("workspace.db");
    let backup = back_up(&file, folder.path(), at(0)).unwrap().backup.file;
    let (sound, before) = (bytes(&backup), bytes(&file));
    let bad = folder.path().join("bad.db");
    let refused = |content: &[u8]| {
        fs::write(&bad, content).unwrap();
        let error = Store::restore(&bad, &file, at(1)).unwrap_err();
        assert_eq!(bytes(&bad), content);
        assert_eq!(bytes(&file), before);
        error
    };
    assert!(matches!(refused(b"PK\x03\x04 an archive"), BackupError::NotOne(OpenError::NotSqlite(_))));
    assert!(matches!(refused(b""), BackupError::Damaged { .. }));
    assert!(matches!(refused(&sound[..sound.len() / 2]), BackupError::Damaged { .. }));
    let mut newer = sound.clone();
    newer[60..64].copy_from_slice(&900u32.to_be_bytes());
    assert!(matches!(refused(&newer), BackupError::NotOne(OpenError::Newer { .. })));
    let mut foreign = sound.clone();
    foreign[68..72].copy_from_slice(b"else");
    assert!(matches!(refused(&foreign), BackupError::NotOne(OpenError::Foreign(_))));
    let mut holed = sound.clone();
    holed[3 * 4096..5 * 4096].fill(0xA5);
    assert!(matches!(refused(&holed), BackupError::Damaged { .. }));
    assert!(matches!(Store::restore(Path::new("/nowhere.db"), &file, at(1)), Err(BackupError::Files { .. })));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Whatever was done before and after the backup: restored, the file is as it was then, and what was done since is in the file that
    /// was set aside. Also where that was left open, with its log beside it, or was damaged.
    #[test]
    fn restoring_loses_nothing(before in 0usize..6, after in 0usize..6, left_open: bool, damaged: bool) {
        let (folder, mut store) = begun();
        let file = folder.path().join("workspace.db");
        (0..before).for_each(|n| drop(store.make(paint(&format!("before {n}"))).unwrap()));
        let then = names(&store);
        let backup = back_up(&file, folder.path(), at(0)).unwrap().backup;
        (0..after).for_each(|n| drop(store.make(paint(&format!("after {n}"))).unwrap()));
        let newer = names(&store);
        let mut open = Some(store).filter(|_| left_open);
        if damaged && !left_open {
            let mut content = bytes(&file);
            content[100..].fill(0xA5);
            fs::write(&file, content).unwrap();
        }
        // As a restore that was killed has left it.
        fs::write(folder.path().join("workspace.db.restoring"), b"half").unwrap();
        let found = bytes(&file);
        let restored = Store::restore(&backup.file, &file, at(1)).unwrap();
        let aside = restored.set_aside.unwrap();
        if let Some(store) = &mut open {
            // Whoever still has the old file open cannot write to the new one.
            prop_assert!(store.make(paint("too late")).is_err());
        }
        let store = Store::open(&file).unwrap();
        prop_assert_eq!(names(&store), then);
        prop_assert!(!store.backup_state().unwrap().is_changed);
        if damaged && !left_open {
            prop_assert_eq!(bytes(&aside), found);
        } else {
            prop_assert_eq!(names(&Store::open(&aside).unwrap()), newer);
        }
        prop_assert!(!folder.path().join("workspace.db.restoring").exists());
    }
}

#[test]
fn a_backup_from_an_older_version_is_restored_and_brought_up_to_date() {
    let (folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    store.write_back().unwrap();
    drop(store);
    let file = folder.path().join("workspace.db");
    let old = folder.path().join("old.db");
    fs::copy(&file, &old).unwrap();
    set_back(&old, 4);
    assert_eq!(check(&old).unwrap().documents, 1);
    let new = folder.path().join("new.db");
    assert_eq!(Store::restore(&old, &new, at(0)).unwrap().set_aside, None);
    let store = Store::open(&new).unwrap();
    assert_eq!(names(&store), ["one"]);
    assert!(store.backup_state().unwrap().is_due(Timestamp::now()));
}

/// Gone back to while it is open: what was there is set aside, work goes on, and a page that still shows what was there is refused.
#[test]
fn an_open_file_goes_back() {
    let (folder, mut store) = begun();
    let one = store.make(paint("one")).unwrap();
    let attempt = store.backup(at(0)).unwrap()();
    let backup = store.backed_up(attempt).unwrap().unwrap().backup;
    let opening = store.opening();
    store.change(one.id, 1, paint("one, changed")).unwrap();
    store.change(one.id, 2, paint("one, changed again")).unwrap();
    store.make(paint("two")).unwrap();
    let restored = store.go_back_to(&backup.file, at(1)).unwrap();
    assert_eq!(names(&store), ["one"]);
    assert!(store.opening() > opening);
    // The page that shows the third revision of what is now the first.
    for seen in 1..=3 {
        let late = store.change(one.id, seen, paint("from an old page"));
        assert!(matches!(late, Err(StoreError::Stale { .. })), "{late:?}");
    }
    store.make(paint("three")).unwrap();
    assert_eq!(names(&store), ["one", "three"]);
    store.write_back().unwrap();
    drop(store);
    assert_eq!(names(&Store::open(&folder.path().join("workspace.db")).unwrap()), ["one", "three"]);
    let aside = Store::open(&restored.set_aside.unwrap()).unwrap();
    assert_eq!(names(&aside), ["one, changed again", "two"]);
    // The backup itself is as it was.
    assert_eq!(check(&backup.file).unwrap().documents, 1);
}

/// What is no backup leaves the open file as it was, and open.
#[test]
fn an_open_file_stays_where_there_is_no_backup() {
    let (folder, mut store) = begun();
    store.make(paint("one")).unwrap();
    let letter = folder.path().join("letter.db");
    fs::write(&letter, "Dear Sir").unwrap();
    assert!(store.go_back_to(&letter, at(0)).is_err());
    assert!(store.go_back_to(&folder.path().join("nowhere.db"), at(0)).is_err());
    store.make(paint("two")).unwrap();
    assert_eq!(names(&store), ["one", "two"]);
}
