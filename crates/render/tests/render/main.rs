//! What pictures of boards and pieces hold to.

mod pictures;
mod pieces;
