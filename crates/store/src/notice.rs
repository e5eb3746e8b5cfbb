//! What whoever works with a file should know.

use std::path::PathBuf;

/// Something about the open file that its painter should hear.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Notice {
    /// Its pages do not agree: it can be read, and is not written.
    #[error(
        "the workspace file is damaged ({0}). It can be read, and nothing is written to it: start with a copy from before, or save what is sound with `warm-blend rescue FILE`"
    )]
    Damaged(String),
    /// Another program works with it, too.
    #[error(
        "another Warm Blend is using the same workspace file. Both may go on, and neither loses anything; close the one you do not need"
    )]
    Shared,
    /// An index did not agree with its table, and was made anew.
    #[error("an index of the workspace file was damaged ({what}) and has been made anew; nothing is lost. The file as it was is kept as {}", copy.display())]
    Reindexed {
        /// What was wrong.
        what: String,
        /// A copy of the file as it was.
        copy: PathBuf,
    },
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
