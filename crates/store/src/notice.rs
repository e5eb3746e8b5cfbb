//! Notices about a file for the painter.

use std::path::PathBuf;

/// A notice about the open file.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Notice {
    /// Its pages do not agree: it can be read, and is not written.
    #[error(
        "the workspace file is damaged ({0}); it can be read, but nothing more is saved. Start from a backup, or save what is sound: `warm-blend rescue FILE`"
    )]
    Damaged(String),
    /// Another program works with it, too.
    #[error(
        "another Warm Blend has this workspace file open. Nothing will be lost; close the one you don’t need"
    )]
    Shared,
    /// An index disagreed with its table and was rebuilt.
    #[error("an index of the workspace file was damaged ({what}) and has been made anew; nothing is lost. The file as it was is kept as {}", copy.display())]
    Reindexed {
        /// What was wrong.
        what: String,
        /// A copy of the file as it was.
        copy: PathBuf,
    },
    /// The last backup failed.
    #[error("no backup is being made: {0}")]
    BackupFailed(String),
    /// What was changed has had no backup for a day.
    #[error("what you changed has had no backup for a day: make one under Backups")]
    BackupOverdue,
    /// The log beside it was of another file, such as the one that a copy from before has taken the place of.
    #[error(
        "the workspace file was replaced by a copy, which is now in use. Latest changes to the old one are kept in {}; the copy as found is in {}",
        log.display(), file.display()
    )]
    PutAside {
        /// A copy of the file as it was found.
        file: PathBuf,
        /// The log.
        log: PathBuf,
    },
}
