//! Open formats, bytes to values and back.
//!
//! | what | where |
//! |---|---|
//! | a photo to pick colours from | [`photo()`] |
//!
//! Everything here is a function of the bytes it is given: no file is opened. Hostile bytes are expected: sizes are
//! checked before anything is decoded, and every error says where it is and what to do.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod photo;

pub use photo::{BadPhoto, LARGEST_PHOTO, photo};
