//! A made-up shelf, and any paint at all, for the tests of the other crates.

pub mod shelf;
pub mod tins;
