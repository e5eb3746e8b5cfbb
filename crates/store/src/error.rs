//! Errors of an open file.

use std::path::{Path, PathBuf};

use rusqlite::ErrorCode;

use warm_blend_documents::{Id, Revision};

/// A read or change that failed. Nothing was written.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// No document of that kind has this id.
    #[error("no {kind} with the id {id} here; it may belong to another workspace")]
    Unknown {
        /// Kind that was asked for.
        kind: &'static str,
        /// The id.
        id: Id,
    },
    /// The document was deleted.
    #[error("this {kind} was deleted; undo brings it back")]
    Removed {
        /// Its kind.
        kind: &'static str,
    },
    /// The change to undo or redo is no longer the next.
    #[error("something else has changed; check what undo would do now")]
    Overtaken,
    /// The same change was requested before and was saved.
    #[error("this was saved already: the answer was lost on its way. Look at what is there now")]
    Repeated,
    /// Somebody else changed the document in between.
    #[error("this {kind} was just changed elsewhere; check it and try again")]
    Stale {
        /// Its kind.
        kind: &'static str,
        /// The revision that is kept.
        kept: Revision,
        /// The revision that the change was made to.
        seen: Revision,
    },
    /// A document refers to one that does not exist.
    #[error("nothing with the id {0} in this workspace; it may belong to another")]
    Dangling(Id),
    /// A document refers to one of the wrong kind.
    #[error("this is {}: name {} instead", article(found), article(wanted))]
    Misfit {
        /// What it names.
        id: Id,
        /// The kind that belongs there.
        wanted: &'static str,
        /// The kind that it is.
        found: String,
    },
    /// A document refers to one that was deleted.
    #[error("{} was deleted: undo brings it back, or choose another", name.as_ref().map_or(format!("this {}", words(kind)), |name| format!("“{name}”")))]
    Deleted {
        /// What it names.
        id: Id,
        /// Its kind.
        kind: &'static str,
        /// Its name, where it has one.
        name: Option<String>,
    },
    /// The disk is full.
    #[error("the disk is full: nothing was changed. Free some space and try again")]
    Full,
    /// The file or its folder cannot be written.
    #[error(
        "can’t write the workspace file; nothing was changed. Check that it and its folder are not read-only"
    )]
    ReadOnly,
    /// Another program has locked the file.
    #[error("another program has the workspace file open; close it and try again")]
    Busy,
    /// A later version of the program has written the file.
    #[error("the workspace file was saved by a newer Warm Blend; use that version")]
    Newer,
    /// The file is damaged.
    #[error(
        "the workspace file is damaged ({0}); nothing was changed and nothing more is saved. Start from a backup, or save what can still be read: `warm-blend rescue FILE`"
    )]
    Damaged(String),
    /// The file was removed or replaced while it was open.
    #[error("the workspace file {} was moved or replaced while in use; nothing was changed. {}", path.display(), way_out(kept.as_deref()))]
    Gone {
        /// Where it was.
        path: PathBuf,
        /// Where all that was kept until then is now.
        kept: Option<PathBuf>,
    },
    /// Any other error of the database.
    #[error("can’t use the workspace file ({0})")]
    Other(rusqlite::Error),
}

/// A kind in words: `run-sheet` becomes run sheet.
pub(crate) fn words(kind: &str) -> String {
    kind.replace('-', " ")
}

pub(crate) fn article(kind: &str) -> String {
    format!("a {}", words(kind))
}

fn way_out(kept: Option<&Path>) -> String {
    match kept {
        Some(kept) => format!("Everything saved until then is in {}; restart with that file", kept.display()),
        None => "Put it back, or export what you can (Files on the Shelf, JSON), and restart".to_owned(),
    }
}

impl From<rusqlite::Error> for StoreError {
    fn from(error: rusqlite::Error) -> Self {
        match error.sqlite_error_code() {
            Some(ErrorCode::DiskFull) => Self::Full,
            Some(ErrorCode::ReadOnly | ErrorCode::CannotOpen | ErrorCode::PermissionDenied) => Self::ReadOnly,
            Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => Self::Busy,
            Some(ErrorCode::DatabaseCorrupt | ErrorCode::NotADatabase) => Self::Damaged(error.to_string()),
            _ => Self::Other(error),
        }
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(error: serde_json::Error) -> Self {
        Self::Damaged(error.to_string())
    }
}
