//! Puts a backup in the place of a workspace file.

use std::{
    fs::{self, File},
    io::{Error, ErrorKind},
    path::{Path, PathBuf},
};

use jiff::{Timestamp, tz::TimeZone};
use rusqlite::{Connection, OpenFlags};

use super::{BackupError, Checked, check};
use crate::{
    OpenError, Store, StoreError,
    on_disk::{LOG, beside, unused},
};

/// A backup that is in the place of the file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Restored {
    /// What it holds.
    pub holds: Checked,
    /// Where the file is that was there before.
    pub set_aside: Option<PathBuf>,
}

impl Store {
    /// Puts a backup in the place of a workspace file, which is set aside under a name of its own. At every moment there is a whole file
    /// at that place, the old or the new one.
    pub fn restore(backup: &Path, to: &Path, now: Timestamp) -> Result<Restored, BackupError> {
        Prepared::new(backup, to)?.put_in_place(now)
    }

    /// Puts a backup in the place of this file, as [`Store::restore`] does, and goes on with that.
    pub fn go_back_to(&mut self, backup: &Path, now: Timestamp) -> Result<Restored, BackupError> {
        let path = self.path().to_owned();
        // A damaged file may be gone back from; one that was taken away has to be put right first.
        self.is_in_place()?;
        self.write_back()?;
        let prepared = Prepared::new(backup, &path)?;
        // The file is let go, so that nothing of it is written where the other will be.
        drop(std::mem::replace(
            &mut self.connection,
            Connection::open_in_memory().map_err(StoreError::from)?,
        ));
        let restored = prepared.put_in_place(now);
        self.take_up_again()?;
        restored
    }

    /// Opens the file again, if it was let go. Where there was no room for that, it is tried again.
    pub fn take_up_again(&mut self) -> Result<(), OpenError> {
        if self.connection.path().is_some_and(|path| !path.is_empty()) {
            return Ok(());
        }
        let mut again = Self::open(self.path())?;
        again.written = self.written() + 1;
        *self = again;
        Ok(())
    }
}

/// A copy of a backup beside the file whose place it will take.
struct Prepared<'a> {
    holds: Checked,
    new: PathBuf,
    to: &'a Path,
    folder: &'a Path,
}

impl<'a> Prepared<'a> {
    /// Everything that takes room or may fail, before anything is touched.
    fn new(backup: &Path, to: &'a Path) -> Result<Self, BackupError> {
        let holds = check(backup)?;
        let folder = to.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        if !folder.is_dir() {
            return Err(BackupError::NoFolder(folder.into()));
        }
        let new = beside(to, ".restoring");
        let made = fs::copy(backup, &new).map_err(at(&new)).and_then(|_| outdate(&new, latest(to)));
        let made = made.and_then(|()| File::open(&new).and_then(|file| file.sync_all()).map_err(at(&new)));
        if made.is_err() {
            drop(fs::remove_file(&new));
        }
        made.map(|()| Self { holds, new, to, folder })
    }

    fn put_in_place(self, now: Timestamp) -> Result<Restored, BackupError> {
        let Self { holds, new, to, folder } = self;
        let set_aside = to.exists().then(|| set_aside(to, now)).transpose().map_err(at(to))?;
        fs::rename(&new, to).map_err(at(to))?;
        File::open(folder).and_then(|folder| folder.sync_all()).map_err(at(folder))?;
        Ok(Restored { holds, set_aside })
    }
}

fn at(path: &Path) -> impl FnOnce(Error) -> BackupError {
    let path = path.to_owned();
    move |error| BackupError::Files { path, error }
}

/// The latest revision of any document in a file.
fn latest(file: &Path) -> i64 {
    let ask = || {
        let file = Connection::open_with_flags(file, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        file.query_row("SELECT COALESCE(max(revision), 0) FROM document", [], |row| row.get(0))
    };
    // Where it cannot be told, later than any that was ever reached.
    if file.exists() { ask().unwrap_or(1 << 32) } else { 0 }
}

/// Makes every revision in a copy later than the latest of the file that it replaces: a page that still shows what was there then notices.
fn outdate(copy: &Path, latest: i64) -> Result<(), BackupError> {
    let copy = Connection::open(copy).map_err(StoreError::from)?;
    copy.execute("UPDATE document SET revision = revision + ?1", [latest]).map_err(StoreError::from)?;
    Ok(copy.close().map_err(|(_, error)| StoreError::from(error))?)
}

/// Gives a file a second name, under which it stays when another takes its place.
fn set_aside(file: &Path, now: Timestamp) -> std::io::Result<PathBuf> {
    // What is in its log is written back. A file that cannot be opened keeps its log.
    if let Ok(mut store) = Store::open(file) {
        drop(store.write_back());
    }
    let stamp = now.to_zoned_datetime(TimeZone::system()).strftime("%Y-%m-%d-%H%M%S").to_string();
    let aside = unused(|n| {
        let nth = if n == 0 { String::new() } else { format!(".{n}") };
        file.with_extension(format!("before-{stamp}{nth}.db"))
    });
    let log = beside(file, LOG);
    if log.exists() {
        // The old log must not be applied to the new file.
        fs::copy(&log, beside(&aside, LOG))?;
    }
    fs::hard_link(file, &aside).or_else(|error| match error.kind() {
        // Some file systems have no second names.
        ErrorKind::AlreadyExists => Err(error),
        _ => fs::copy(file, &aside).map(drop),
    })?;
    if log.exists() {
        fs::remove_file(&log)?;
    }
    Ok(aside)
}
