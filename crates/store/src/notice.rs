//! What whoever works with a file should know.

use std::path::PathBuf;

/// Something about the open file that its painter should hear.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Notice {
    /// Its pages do not agree: it can be read, and is not written.
    #[error(
        "the workspace file is damaged ({0}). It can be read, and nothing is written to it: save what is sound (Files on the shelf, JSON), then start with a copy from before"
    )]
    Damaged(String),
    /// Another program works with it, too.
    #[error(
        "another Warm Blend is using the same workspace file. Both may go on, and neither loses anything; close the one you do not need"
    )]
    Shared,
    /// The log beside it was of another file, such as the one that a copy from before has taken the place of.
    #[error(
        "the workspace file is not the one that the log beside it was written over: a copy was put in its place. Warm Blend goes on with the copy. The changes of the log are kept as {}, and the copy as it was as {}",
        log.display(), file.display()
    )]
    PutAside {
        /// A copy of the file as it was found.
        file: PathBuf,
        /// The log.
        log: PathBuf,
    },
}
