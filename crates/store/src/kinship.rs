//! Checks that a file and its write-ahead log belong together.
//!
//! A killed program leaves its newest changes in a log beside the file (`-wal`), and SQLite applies any log with valid
//! checksums to any file of its name. An old copy put in place of the file would then receive pages of another time. So
//! every change increases a counter in one row ([`Mark`]), which is read twice before the file is opened: from the file
//! alone, and from the file with its log.

use std::fs;
use std::path::Path;
use std::time::{Duration, SystemTime};

use jiff::Timestamp;
use percent_encoding::{NON_ALPHANUMERIC, percent_encode};
use rusqlite::config::DbConfig;
use rusqlite::{Connection, ErrorCode, OpenFlags, OptionalExtension};

use crate::Notice;
use crate::on_disk::{LOG, beside};

/// How much longer than its log a file may have been written: writing the log back takes that long at most.
const WRITING_BACK: Duration = Duration::from_secs(60);

/// Identity of a file and its number of changes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Mark {
    /// Which workspace it is.
    lineage: String,
    /// Number of changes.
    pub changes: i64,
    /// How many of them were in the file itself when its log was last emptied.
    base: i64,
}

/// Reads the mark; `None` in a file of an older form.
pub(crate) fn mark(connection: &Connection) -> rusqlite::Result<Option<Mark>> {
    if !connection.table_exists(None, "mark")? {
        return Ok(None);
    }
    connection
        .query_row("SELECT lineage, changes, base FROM mark", [], |row| {
            Ok(Mark { lineage: row.get(0)?, changes: row.get(1)?, base: row.get(2)? })
        })
        .optional()
}

/// Checks a file before it is opened. A log that does not belong to it is moved aside, with a copy of the file.
pub(crate) fn look(path: &Path) -> std::io::Result<Option<Notice>> {
    if !path.exists() {
        return Ok(None);
    }
    let log = beside(path, LOG);
    // A file that cannot be read alone is no copy that was put there: power was lost while its log was written back to it, and the log
    // makes it whole again.
    let Ok(alone) = read(path, Alone::Yes) else { return Ok(None) };
    match read(path, Alone::No) {
        Err(error)
            if matches!(
                error.sqlite_error_code(),
                Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked)
            ) =>
        {
            Ok(Some(Notice::Shared))
        }
        Ok(Some(logged))
            if !belong(alone.as_ref(), &logged, changed(path), changed(&log)) && log.exists() =>
        {
            put_aside(path, &log).map(Some)
        }
        // What cannot be read is shown where the file is opened.
        Ok(_) | Err(_) => Ok(None),
    }
}

/// Whether a file as it is alone can be what a log was written over.
fn belong(alone: Option<&Mark>, logged: &Mark, file: Option<SystemTime>, log: Option<SystemTime>) -> bool {
    // A file of an older form may have got its mark in the log.
    let changes = alone.map_or(0, |alone| alone.changes);
    let kin = alone.is_none_or(|alone| alone.lineage == logged.lineage);
    let between = (logged.base..=logged.changes).contains(&changes);
    // The state that the log was built on, and yet put there after it.
    let later = changes == logged.base
        && changes < logged.changes
        && file.zip(log).is_some_and(|(file, log)| file > log + WRITING_BACK);
    kin && between && !later
}

#[derive(Clone, Copy, PartialEq)]
enum Alone {
    Yes,
    No,
}

fn read(path: &Path, alone: Alone) -> rusqlite::Result<Option<Mark>> {
    if alone == Alone::Yes {
        let name = percent_encode(path.as_os_str().as_encoded_bytes(), NON_ALPHANUMERIC);
        let flags = OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_URI;
        return mark(&Connection::open_with_flags(format!("file:{name}?immutable=1"), flags)?);
    }
    let connection = Connection::open(path)?;
    // Nothing is written back by looking, and nobody else has the file meanwhile.
    connection.set_db_config(DbConfig::SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE, true)?;
    connection.busy_timeout(Duration::ZERO)?;
    connection.pragma_update(None, "locking_mode", "EXCLUSIVE")?;
    mark(&connection)
}

/// When a file was last changed, its name and owner included: a copy is never older than its making.
#[cfg(unix)]
fn changed(path: &Path) -> Option<SystemTime> {
    use std::os::unix::fs::MetadataExt;
    let seconds = fs::metadata(path).ok()?.ctime();
    Some(SystemTime::UNIX_EPOCH + Duration::from_secs(seconds.try_into().ok()?))
}

#[cfg(not(unix))]
fn changed(_: &Path) -> Option<SystemTime> {
    None
}

/// Keeps a log that does not belong to the file, and the file as it is now, under names of their own.
fn put_aside(path: &Path, log: &Path) -> std::io::Result<Notice> {
    let when = Timestamp::now().strftime("%Y-%m-%d-%H%M%S").to_string();
    let kept = beside(path, &format!(".aside-{when}"));
    fs::copy(path, &kept)?;
    let kept_log = beside(path, &format!(".aside-{when}-log"));
    fs::rename(log, &kept_log)?;
    // An index of the log, made anew when it is needed.
    drop(fs::remove_file(beside(path, "-shm")));
    Ok(Notice::PutAside { file: kept, log: kept_log })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn of(changes: i64, base: i64) -> Mark {
        Mark { lineage: "one".into(), changes, base }
    }

    #[test]
    fn a_file_belongs_to_the_log_that_was_written_over_it() {
        let belongs = |alone: Option<Mark>, logged: &Mark| belong(alone.as_ref(), logged, None, None);
        let logged = of(9, 5);
        for changes in 5..=9 {
            assert!(belongs(Some(of(changes, 0)), &logged), "{changes}");
        }
        for changes in [0, 4, 10] {
            assert!(!belongs(Some(of(changes, 0)), &logged), "{changes}");
        }
        assert!(!belongs(Some(Mark { lineage: "another".into(), ..of(6, 5) }), &logged));
        // A file of an older form: made into the new one in the log, or long before.
        assert!(belongs(None, &of(1, 0)));
        assert!(!belongs(None, &logged));
    }

    #[test]
    fn the_very_state_that_a_log_was_built_on_does_not_belong_where_it_came_later() {
        let log = SystemTime::now();
        let at = |file: SystemTime, changes| belong(Some(&of(changes, 0)), &of(9, 5), Some(file), Some(log));
        assert!(at(log - Duration::from_secs(3600), 5), "killed while it wrote");
        assert!(at(log + Duration::from_secs(2), 5), "killed while it wrote back");
        assert!(!at(log + Duration::from_secs(3600), 5), "put there an hour later");
        assert!(at(log + Duration::from_secs(3600), 6), "written back in part by itself");
    }
}
