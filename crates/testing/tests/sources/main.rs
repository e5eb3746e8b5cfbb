//! What the sources hold to.

mod licences;
mod structure;
