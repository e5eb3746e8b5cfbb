//! A made-up shelf, any paint at all, and what cameras write, for the tests of the other crates.

pub mod exif;
pub mod shelf;
pub mod tins;
