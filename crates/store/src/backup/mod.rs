//! Backups: dated copies of a workspace file in a folder.
//!
//! | part | what it is |
//! |---|---|
//! | `making` | copies a file while it is in use, and checks the copy |
//! | `rotation` | which copies are kept |
//! | `restoring` | puts a copy in the place of the file, which is set aside |
//! | `state` | where copies go, and how the last one went |

mod making;
mod restoring;
mod rotation;
mod state;

use std::path::PathBuf;

use jiff::Timestamp;

use crate::{OpenError, StoreError};

pub use making::{back_up, backups_in, check};
pub use restoring::Restored;
pub use state::{Attempt, BackupState};

/// A backup in a folder.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Backup {
    /// The file.
    pub file: PathBuf,
    /// When it was made.
    pub made_at: Timestamp,
    /// Its length, bytes.
    pub bytes: u64,
}

/// A backup that was made just now.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BackupMade {
    /// The backup.
    pub backup: Backup,
    /// What it holds: it was read back.
    pub holds: Checked,
}

/// What a file holds that was checked.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Checked {
    /// Number of entries that are not deleted.
    pub documents: u64,
    /// Number of photos.
    pub photos: u64,
}

/// Why no backup was made, or none restored. The workspace file was not changed.
#[derive(Debug, thiserror::Error)]
pub enum BackupError {
    /// The folder is not there, as where a disk was unplugged.
    #[error("the backup folder {} is not there; connect its disk, or choose another folder", .0.display())]
    NoFolder(PathBuf),
    /// The folder cannot be written.
    #[error("can’t write to the backup folder {}; allow writing to it, or choose another", .0.display())]
    ReadOnly(PathBuf),
    /// No room in the folder.
    #[error("the disk of the backup folder {} is full; free some space, or choose another folder", .0.display())]
    Full(PathBuf),
    /// The copy does not read back as it should.
    #[error("the copy in {} does not read back as it was written ({found}); its disk may be failing: choose another folder", folder.display())]
    Spoilt {
        /// The folder.
        folder: PathBuf,
        /// The first fault.
        found: String,
    },
    /// The file to be checked or restored is not a sound workspace.
    #[error(transparent)]
    NotOne(#[from] OpenError),
    /// The file to be checked or restored is damaged.
    #[error("{} is damaged ({found}); take an older backup, or save what can be read of it: `warm-blend rescue FILE`", file.display())]
    Damaged {
        /// The file.
        file: PathBuf,
        /// The first fault.
        found: String,
    },
    /// Anything else that goes wrong with files.
    #[error("{}: {error}", path.display())]
    Files {
        /// The file or folder.
        path: PathBuf,
        /// What the system says.
        error: std::io::Error,
    },
    /// The workspace file itself cannot be read.
    #[error(transparent)]
    Store(#[from] StoreError),
}
