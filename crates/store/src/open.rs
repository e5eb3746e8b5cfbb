//! Opening a workspace file, and refusing other files without touching them.

use std::fs::File;
use std::io::{ErrorKind, Read};
use std::path::{Path, PathBuf};

use rusqlite::{Connection, OpenFlags};

use crate::migrate::FORMS;
use crate::{Store, StoreError, kinship};

/// Stands in bytes 68–71 of every file of ours.
const APPLICATION: u32 = 0x5742_4c31;

/// Why a file was not opened. It was not changed.
#[derive(Debug, thiserror::Error)]
pub enum OpenError {
    /// The folder does not exist.
    #[error("the folder {} does not exist; create it, or give another file with --data FILE", .0.display())]
    NoFolder(PathBuf),
    /// Not a regular file.
    #[error("{} is not a file; give another with --data FILE", .0.display())]
    NotAFile(PathBuf),
    /// Not an SQLite database.
    #[error("{} is not a Warm Blend workspace (not an SQLite file); give another with --data FILE", .0.display())]
    NotSqlite(PathBuf),
    /// A database of another program.
    #[error("{} belongs to another program; give another file with --data FILE", .0.display())]
    Foreign(PathBuf),
    /// Written by a later version.
    #[error(
        "{} was saved by a newer Warm Blend (format {found}, this version reads up to {known}); use that version",
        path.display()
    )]
    Newer {
        /// The file.
        path: PathBuf,
        /// Its form.
        found: u32,
        /// The latest form known here.
        known: usize,
    },
    /// The file cannot be written.
    #[error("{} is read-only; allow writing to it and its folder, or give another file with --data FILE", .0.display())]
    ReadOnly(PathBuf),
    /// The disk is full.
    #[error("no disk space for {}; free some and start again", .0.display())]
    Full(PathBuf),
    /// The file cannot be read.
    #[error("{} cannot be read: {error}", path.display())]
    Unreadable {
        /// The file.
        path: PathBuf,
        /// What the system says.
        error: std::io::Error,
    },
    /// A new file was to be created, but one exists.
    #[error("{} is there already: name a file that is not, with --to FILE", .0.display())]
    Taken(PathBuf),
    /// Any other error of the database.
    #[error("{}: {error}", path.display())]
    Other {
        /// The file.
        path: PathBuf,
        /// What went wrong.
        error: StoreError,
    },
}

impl Store {
    /// Opens or creates a workspace file, and migrates an older one.
    pub fn open(path: &Path) -> Result<Self, OpenError> {
        inspect(path)?;
        let notice =
            kinship::look(path).map_err(|error| OpenError::Unreadable { path: path.into(), error })?;
        let opened = connect(path).and_then(|connection| Self::over(connection, path, notice));
        opened.map_err(|error| match error {
            StoreError::Full => OpenError::Full(path.into()),
            StoreError::ReadOnly => OpenError::ReadOnly(path.into()),
            error => OpenError::Other { path: path.into(), error },
        })
    }
}

/// Looks at the file's first bytes only, so that what is not ours is not touched (layout of the header: SQLite
/// database file format, section 1.3).
pub(crate) fn inspect(path: &Path) -> Result<(), OpenError> {
    // Asked before it is opened: a pipe would wait for somebody to write to it.
    let about = match std::fs::metadata(path) {
        Ok(about) => about,
        Err(error) if error.kind() == ErrorKind::NotFound => {
            let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty());
            return match folder {
                Some(folder) if !folder.is_dir() => Err(OpenError::NoFolder(folder.into())),
                _ => Ok(()),
            };
        }
        Err(error) => return Err(OpenError::Unreadable { path: path.into(), error }),
    };
    if !about.is_file() {
        return Err(OpenError::NotAFile(path.into()));
    }
    let mut header = Vec::with_capacity(100);
    File::open(path)
        .and_then(|file| file.take(100).read_to_end(&mut header))
        .map_err(|error| OpenError::Unreadable { path: path.into(), error })?;
    if header.is_empty() {
        return Ok(()); // as SQLite itself leaves a database before the first write
    }
    if header.len() < 100 || !header.starts_with(b"SQLite format 3\0") {
        return Err(OpenError::NotSqlite(path.into()));
    }
    let number = |at: usize| u32::from_be_bytes([header[at], header[at + 1], header[at + 2], header[at + 3]]);
    let (form, application) = (number(60), number(68));
    if application != APPLICATION {
        return Err(OpenError::Foreign(path.into()));
    }
    if form as usize > FORMS.len() {
        return Err(OpenError::Newer { path: path.into(), found: form, known: FORMS.len() });
    }
    if about.permissions().readonly() {
        return Err(OpenError::ReadOnly(path.into()));
    }
    Ok(())
}

/// A file at one moment, whatever is written to it meanwhile. It is only read.
pub(crate) fn at_one_moment(path: &Path) -> Result<Connection, StoreError> {
    let connection = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    connection.execute_batch("BEGIN")?;
    // The moment is that of the first read.
    connection.query_row("SELECT count(*) FROM sqlite_schema", [], |_| Ok(()))?;
    Ok(connection)
}

fn connect(path: &Path) -> Result<Connection, StoreError> {
    let mut connection = Connection::open(path)?;
    prepare(&mut connection)?;
    Ok(connection)
}

/// Settings of a connection.
fn prepare(connection: &mut Connection) -> Result<(), StoreError> {
    // A new file is marked as ours before anything goes to the log: the log may still be apart from the file when the
    // program is killed, and `inspect` reads the file alone.
    if connection.pragma_query_value(None, "page_count", |row| row.get::<_, i64>(0))? == 0 {
        connection.pragma_update(None, "application_id", APPLICATION)?;
    }
    // Readers go on while a change is written, and a change is one append to the log.
    connection.pragma_update(None, "journal_mode", "WAL")?;
    // The log is written back by us, when it is known how much of it is in the file: see `kinship`.
    connection.pragma_update(None, "wal_autocheckpoint", 0)?;
    // An acknowledged change survives a power cut, not only a crash of the program: a painter makes a few changes a
    // minute, and waiting for the disk costs milliseconds.
    connection.pragma_update(None, "synchronous", "FULL")?;
    // SQLite checks references only when asked to.
    connection.pragma_update(None, "foreign_keys", true)?;
    // A file from elsewhere must not bring functions of its own into play.
    connection.pragma_update(None, "trusted_schema", false)?;
    // Two programs on one file wait for each other rather than fail.
    connection.busy_timeout(std::time::Duration::from_secs(5))?;
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn settings_hold_on_an_open_file() {
        let folder = tempfile::tempdir().unwrap();
        let connection = connect(&folder.path().join("w.db")).unwrap();
        let read =
            |name: &str| connection.pragma_query_value(None, name, |row| row.get::<_, i64>(0)).unwrap();
        assert_eq!((read("foreign_keys"), read("synchronous"), read("trusted_schema")), (1, 2, 0));
        assert_eq!(read("application_id"), i64::from(APPLICATION));
        let mode: String = connection.pragma_query_value(None, "journal_mode", |row| row.get(0)).unwrap();
        assert_eq!(mode, "wal");
    }
}
