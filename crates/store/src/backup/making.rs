//! Copies a file while it is in use.

use std::{
    fs::{self, File},
    io::{Error, ErrorKind},
    path::{Path, PathBuf},
};

use jiff::{Timestamp, tz::TimeZone};
use rusqlite::{
    Connection, OpenFlags,
    backup::{Backup as Copying, StepResult},
};

use super::{Backup, BackupError, BackupMade, Checked, rotation::superfluous};
use crate::{
    Depth, StoreError, depth,
    open::{at_one_moment, inspect},
};

/// Names of backups, so that they sort by time.
const NAMED: &str = "warm-blend-%Y-%m-%d-%H%M%SZ.db";
/// Ending of a copy under way.
const PART: &str = "part";
/// Pages copied at a time.
const PAGES: i32 = 4096;

/// Copies a workspace file to a folder, checks the copy, and deletes copies that are no longer needed. The file may be in use.
pub fn back_up(file: &Path, folder: &Path, now: Timestamp) -> Result<BackupMade, BackupError> {
    if !folder.is_dir() {
        return Err(BackupError::NoFolder(folder.into()));
    }
    let name = now.strftime(NAMED).to_string();
    let (whole, part) = (folder.join(&name), folder.join(name).with_extension(PART));
    let made = copy(file, &part, now).map_err(|error| of_folder(error, folder));
    let made = made.and_then(|()| checked(&part, folder)).and_then(|holds| {
        let at = |error| of_files(error, folder);
        fs::rename(&part, &whole).map_err(at)?;
        // The new name, too, survives a power cut.
        File::open(folder).and_then(|folder| folder.sync_all()).map_err(at)?;
        let bytes = fs::metadata(&whole).map_err(at)?.len();
        Ok(BackupMade { backup: Backup { file: whole, made_at: now, bytes }, holds })
    });
    if made.is_err() {
        // What it has left takes room; where that cannot be deleted either, the next attempt writes over it.
        drop(fs::remove_file(&part));
        return made;
    }
    delete_superfluous(folder);
    made
}

/// Copies all that is saved, including what is still in the log beside the file.
fn copy(from: &Path, to: &Path, now: Timestamp) -> Result<(), StoreError> {
    let from = at_one_moment(from)?;
    if to.exists() {
        fs::remove_file(to).map_err(|_| StoreError::ReadOnly)?;
    }
    let mut copy = Connection::open(to)?;
    let copying = Copying::new(&from, &mut copy)?;
    while copying.step(PAGES)? != StepResult::Done {}
    drop(copying);
    // It stands alone, without a log beside it.
    copy.pragma_update(None, "journal_mode", "DELETE")?;
    // Once it is in the place of the file, all of that is backed up.
    copy.execute(
        "UPDATE backup SET at = ?1, tried = ?1, changes = (SELECT changes FROM mark), failed = NULL",
        [now.to_string()],
    )?;
    copy.close().map_err(|(_, error)| error)?;
    File::open(to).and_then(|file| file.sync_all()).map_err(|_| StoreError::ReadOnly)
}

/// Reads all of a copy back.
fn checked(copy: &Path, folder: &Path) -> Result<Checked, BackupError> {
    check(copy).map_err(|error| match error {
        BackupError::Damaged { found, .. } => BackupError::Spoilt { folder: folder.into(), found },
        error => error,
    })
}

/// Checks that a file is a sound workspace, and counts what it holds. It is not changed.
pub fn check(file: &Path) -> Result<Checked, BackupError> {
    if !file.is_file() {
        let error = ErrorKind::NotFound.into();
        return Err(BackupError::Files { path: file.into(), error });
    }
    match inspect(file) {
        // It is only read.
        Err(crate::OpenError::ReadOnly(_)) | Ok(()) => {}
        Err(error) => return Err(error.into()),
    }
    let damaged = |found| BackupError::Damaged { file: file.into(), found };
    if let Depth::Damaged(found) | Depth::Indexes(found) = depth::look(file)? {
        return Err(damaged(found));
    }
    let connection =
        Connection::open_with_flags(file, OpenFlags::SQLITE_OPEN_READ_ONLY).map_err(StoreError::from)?;
    let count = |sql: &str| connection.query_row(sql, [], |row| row.get::<_, i64>(0)).map(i64::unsigned_abs);
    let has_photos = connection.table_exists(None, "photo").map_err(StoreError::from)?;
    let photos = if has_photos { count("SELECT count(*) FROM photo") } else { Ok(0) };
    let documents = count("SELECT count(*) FROM document WHERE NOT removed");
    match (documents, photos) {
        (Ok(documents), Ok(photos)) => Ok(Checked { documents, photos }),
        // An empty file is no backup of anything.
        (Err(error), _) | (_, Err(error)) => Err(damaged(error.to_string())),
    }
}

/// The backups in a folder, newest first. What else is there is not ours.
pub fn backups_in(folder: &Path) -> std::io::Result<Vec<Backup>> {
    let mut backups = Vec::new();
    for entry in fs::read_dir(folder)? {
        let entry = entry?;
        let name = entry.file_name();
        let Some(made_at) = name.to_str().and_then(made_at) else { continue };
        if let Some(about) = entry.metadata().ok().filter(|about| about.is_file()) {
            backups.push(Backup { file: entry.path(), made_at, bytes: about.len() });
        }
    }
    backups.sort_by_key(|backup| std::cmp::Reverse(backup.made_at));
    Ok(backups)
}

/// When a backup of this name was made.
fn made_at(name: &str) -> Option<Timestamp> {
    let time = jiff::civil::DateTime::strptime(NAMED, name).ok()?;
    TimeZone::UTC.to_timestamp(time).ok()
}

/// Deletes the backups that are no longer needed. One that cannot be deleted is tried again after the next backup.
fn delete_superfluous(folder: &Path) {
    let backups = backups_in(folder).unwrap_or_default();
    let times: Vec<Timestamp> = backups.iter().map(|backup| backup.made_at).collect();
    for (backup, is_superfluous) in backups.iter().zip(superfluous(&times, &TimeZone::system())) {
        if is_superfluous {
            drop(fs::remove_file(&backup.file));
        }
    }
}

/// What went wrong while a copy was written to a folder.
fn of_folder(error: StoreError, folder: &Path) -> BackupError {
    match error {
        // Taken away in between.
        _ if !folder.is_dir() => BackupError::NoFolder(folder.into()),
        StoreError::Full => BackupError::Full(folder.into()),
        StoreError::ReadOnly => BackupError::ReadOnly(folder.into()),
        error => error.into(),
    }
}

fn of_files(error: Error, folder: &Path) -> BackupError {
    match error.kind() {
        ErrorKind::StorageFull => BackupError::Full(folder.into()),
        ErrorKind::PermissionDenied | ErrorKind::ReadOnlyFilesystem => BackupError::ReadOnly(folder.into()),
        ErrorKind::NotFound => BackupError::NoFolder(folder.into()),
        _ => BackupError::Files { path: folder.into(), error },
    }
}

/// The usual folder: beside the file.
pub(super) fn usual_folder(file: &Path) -> PathBuf {
    file.parent().unwrap_or(Path::new(".")).join("backups")
}
