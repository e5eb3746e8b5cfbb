//! Where backups of a file go, and how the last one went.

use std::path::{Path, PathBuf};

use jiff::{SignedDuration, Timestamp};
use rusqlite::types::FromSql;

use super::{
    BackupError, BackupMade,
    making::{back_up, usual_folder},
};
use crate::{Notice, Store, StoreError};

/// While somebody works, a backup is made this often.
const EVERY: SignedDuration = SignedDuration::from_hours(1);
/// After one that failed, the next attempt.
const AGAIN: SignedDuration = SignedDuration::from_mins(10);
/// Changes without a backup for longer than this are a reason to warn.
const OVERDUE: SignedDuration = SignedDuration::from_hours(24);

/// Where backups of a file go, and how the last one went.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BackupState {
    /// The workspace file.
    pub file: PathBuf,
    /// The folder.
    pub folder: PathBuf,
    /// True if it is the usual one, beside the workspace file.
    pub is_usual: bool,
    /// When the last backup was made.
    pub last: Option<Timestamp>,
    /// When the last attempt was made.
    pub tried: Option<Timestamp>,
    /// Why that made none; `None` if it did.
    pub failed: Option<String>,
    /// True if something was changed since the last backup.
    pub is_changed: bool,
    /// From when on changes count that no backup holds: the last backup, or the first entry.
    since: Timestamp,
}

impl BackupState {
    /// True if a backup is to be made now.
    pub fn is_due(&self, now: Timestamp) -> bool {
        let long_ago = |at: Option<Timestamp>, most| at.is_none_or(|at| now.duration_since(at) >= most);
        self.is_changed
            && long_ago(self.last, EVERY)
            && (self.failed.is_none() || long_ago(self.tried, AGAIN))
    }

    /// True if what was changed has been without a backup for a day.
    pub fn is_overdue(&self, now: Timestamp) -> bool {
        self.is_changed && now.duration_since(self.since) >= OVERDUE
    }
}

impl Store {
    /// Where backups go, and how the last one went.
    pub fn backup_state(&self) -> Result<BackupState, StoreError> {
        let (folder, last, changes, tried, failed) = self.connection.query_row(
            "SELECT folder, at, changes, tried, failed FROM backup",
            [],
            |row| {
                let of = |column| row.get::<_, Option<String>>(column);
                Ok((of(0)?, of(1)?, row.get::<_, Option<i64>>(2)?, of(3)?, of(4)?))
            },
        )?;
        let time = |text: Option<String>| text.and_then(|text| text.parse::<Timestamp>().ok());
        let last = time(last);
        let since = match last {
            Some(last) => Some(last),
            // Reads every entry, so only until there is a backup.
            None => time(self.ask("SELECT min(made_at) FROM document")?),
        };
        Ok(BackupState {
            file: self.path().to_owned(),
            is_usual: folder.is_none(),
            folder: folder.map_or_else(|| usual_folder(self.path()), PathBuf::from),
            last,
            tried: time(tried),
            failed,
            is_changed: changes != Some(self.changes()?),
            since: since.unwrap_or_else(Timestamp::now),
        })
    }

    /// What the painter should know about backups of this file.
    pub fn backup_notice(&self, now: Timestamp) -> Result<Option<Notice>, StoreError> {
        let state = self.backup_state()?;
        let overdue = state.is_overdue(now).then_some(Notice::BackupOverdue);
        Ok(state.failed.map(Notice::BackupFailed).or(overdue))
    }

    /// Chooses the folder of backups; `None` for the usual one.
    pub fn choose_backup_folder(&mut self, folder: Option<&Path>) -> Result<(), StoreError> {
        let folder = folder.map(|folder| folder.to_string_lossy().into_owned());
        self.note_backup("UPDATE backup SET folder = ?1, at = NULL, changes = NULL, failed = NULL", [folder])
    }

    /// A backup to be made beside other work; see [`Store::backed_up`].
    pub fn backup(&self, now: Timestamp) -> Result<impl FnOnce() -> Attempt + Send + use<>, StoreError> {
        let state = self.backup_state()?;
        let file = self.path().to_owned();
        let changes = self.changes()?;
        Ok(move || {
            // Only its own folder is made: where a chosen one is not there, its disk is not.
            let prepared = match state.is_usual {
                true => std::fs::create_dir_all(&state.folder)
                    .map_err(|error| BackupError::Files { path: state.folder.clone(), error }),
                false => Ok(()),
            };
            Attempt { now, changes, made: prepared.and_then(|()| back_up(&file, &state.folder, now)) }
        })
    }

    /// Writes down how a backup went.
    pub fn backed_up(&mut self, attempt: Attempt) -> Result<Result<BackupMade, BackupError>, StoreError> {
        let now = attempt.now.to_string();
        match &attempt.made {
            Ok(_) => self.note_backup(
                "UPDATE backup SET at = ?1, changes = ?2, tried = ?1, failed = NULL",
                (now, attempt.changes),
            )?,
            Err(error) => {
                self.note_backup("UPDATE backup SET tried = ?1, failed = ?2", (now, error.to_string()))?;
            }
        }
        Ok(attempt.made)
    }

    /// Number of changes that the file has seen.
    fn changes(&self) -> Result<i64, StoreError> {
        self.ask("SELECT changes FROM mark")
    }

    /// The one value that a question has for an answer.
    fn ask<T: FromSql>(&self, sql: &str) -> Result<T, StoreError> {
        Ok(self.connection.query_row(sql, [], |row| row.get(0))?)
    }

    fn note_backup(&mut self, sql: &str, values: impl rusqlite::Params) -> Result<(), StoreError> {
        self.may_be_written()?;
        self.connection.execute(sql, values)?;
        self.logged = true;
        Ok(())
    }
}

/// A backup that was attempted.
#[derive(Debug)]
pub struct Attempt {
    now: Timestamp,
    /// How many changes the file had seen at least.
    changes: i64,
    made: Result<BackupMade, BackupError>,
}
