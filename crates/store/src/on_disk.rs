//! Checks that the open file is still the one at its path.
//!
//! A file that is removed or replaced stays open, but whatever is written to it disappears with the program. So this is
//! checked before every change.

use std::ffi::OsString;
use std::fs;
use std::path::{Path, PathBuf};

use rusqlite::Connection;

use crate::StoreError;

/// Suffix of the write-ahead log.
pub(crate) const LOG: &str = "-wal";

/// Path of a file beside another, with this suffix.
pub(crate) fn beside(path: &Path, ending: &str) -> PathBuf {
    let mut name = OsString::from(path);
    name.push(ending);
    name.into()
}

/// The first of some paths at which there is nothing yet.
pub(crate) fn unused(name: impl Fn(usize) -> PathBuf) -> PathBuf {
    (0..).map(&name).find(|path| !path.exists()).unwrap_or_else(|| name(0))
}

/// The file of an open workspace.
#[derive(Debug)]
pub(crate) struct OnDisk {
    path: PathBuf,
    /// Which file of the disk it is, whatever it is called; none where the system does not say.
    which: Option<(u64, u64)>,
}

impl OnDisk {
    /// An existing file.
    pub fn of(path: &Path) -> Result<Self, StoreError> {
        let path = fs::canonicalize(path).map_err(|_| StoreError::Gone { path: path.into(), kept: None })?;
        let which = which(&path);
        Ok(Self { path, which })
    }

    /// Its path.
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// Copies it without its log to a new file beside it.
    pub fn copy(&self, ending: &str) -> Result<PathBuf, StoreError> {
        let name =
            |n: usize| beside(&self.path, &if n == 0 { ending.to_owned() } else { format!("{ending}.{n}") });
        let copy = unused(name);
        fs::copy(&self.path, &copy).map_err(|error| match error.kind() {
            std::io::ErrorKind::StorageFull => StoreError::Full,
            _ => StoreError::ReadOnly,
        })?;
        Ok(copy)
    }

    /// Length, bytes.
    pub fn length(&self) -> Result<u64, StoreError> {
        let about = fs::metadata(&self.path);
        about.map(|about| about.len()).map_err(|_| StoreError::Gone { path: self.path.clone(), kept: None })
    }

    /// Length of the log beside it, bytes.
    pub fn log_length(&self) -> u64 {
        fs::metadata(beside(&self.path, LOG)).map_or(0, |about| about.len())
    }

    /// True if its path still leads to it.
    pub fn is_there(&self) -> bool {
        self.path.exists() && which(&self.path) == self.which
    }

    /// The error when it does not. Writes everything that was saved to a new file beside its path, once, so that nothing
    /// is lost.
    pub fn gone(&self, connection: &Connection) -> StoreError {
        let beside = self.path.with_extension("rescued.db");
        let kept = beside.exists()
            || connection.execute("VACUUM INTO ?1", [beside.to_string_lossy().as_ref()]).is_ok();
        StoreError::Gone { path: self.path.clone(), kept: kept.then_some(beside) }
    }
}

#[cfg(unix)]
fn which(path: &Path) -> Option<(u64, u64)> {
    use std::os::unix::fs::MetadataExt;
    fs::metadata(path).ok().map(|about| (about.dev(), about.ino()))
}

#[cfg(not(unix))]
fn which(_: &Path) -> Option<(u64, u64)> {
    None
}
