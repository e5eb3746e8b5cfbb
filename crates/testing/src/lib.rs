//! Test data for the other crates: an invented shelf, arbitrary paints, camera metadata.

pub mod exif;
pub mod shelf;
pub mod tins;
