//! Why an archive cannot be read.

/// Why an archive cannot be read, in a sentence that says what to do.
#[derive(Debug, thiserror::Error)]
pub enum BadArchive {
    /// Not a zip file, or cut off.
    #[error(
        "this is no archive, or only part of one ({0}); choose a file that was exported here, and copy it again if it came over a network"
    )]
    NotAnArchive(String),
    /// A zip file of something else.
    #[error("this zip file is no archive of Warm Blend: it has no {0}")]
    Foreign(String),
    /// Written by a newer program.
    #[error("this archive has version {0} of the format; this program reads up to version {known}. Update the program", known = crate::manifest::VERSION)]
    Newer(u32),
    /// More than an archive has.
    #[error("{0} is larger than anything an archive holds")]
    TooLarge(String),
    /// A file in it that is damaged.
    #[error("{name} in the archive is damaged ({why}); export it again, or copy it again")]
    Damaged {
        /// The file.
        name: String,
        /// What is wrong.
        why: String,
    },
    /// A document that refers to what is not there.
    #[error("the archive is incomplete: {what} refers to something that is not in it")]
    Incomplete {
        /// The document.
        what: String,
    },
    /// It could not be read from the disk.
    #[error("the archive could not be read: {0}")]
    Disk(#[from] std::io::Error),
}

impl BadArchive {
    pub(crate) fn damaged(name: &str, why: impl ToString) -> Self {
        Self::Damaged { name: name.to_owned(), why: why.to_string() }
    }
}
