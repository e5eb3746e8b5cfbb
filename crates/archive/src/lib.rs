//! A workspace, or one thing of it with all that it needs, as one file: a zip with JSON, photos, and views that other
//! programs can read. docs/formats.md describes it.
//!
//! | question | where |
//! |---|---|
//! | how is one written? | [`write()`], [`Extra`] |
//! | what does one hold? | [`Archive::open`], [`PhotoFiles::photo`] |
//! | why can it not be read? | [`BadArchive`] |
//!
//! Nothing here is put on the disk under a name that an archive chose, and nothing is unpacked beyond a limit.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod bad;
mod manifest;
mod reading;
mod writing;

pub use bad::BadArchive;
pub use reading::{Archive, PhotoFiles};
pub use writing::{Extra, write};
