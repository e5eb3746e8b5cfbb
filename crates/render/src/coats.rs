//! What is to be drawn.

use warm_blend_board::Stack;
use warm_blend_piece::Mark;

/// A strip to be drawn.
#[derive(Debug, Clone, Copy)]
pub struct Coats<'a> {
    /// Its films.
    pub stack: &'a Stack,
    /// How each of its layers was put on, from the ground up.
    pub marks: &'a [Mark],
    /// How many of them are on.
    pub layers: usize,
}
