//! Input of a drawing.

use warm_blend_board::Stack;
use warm_blend_piece::Mark;

/// A strip to draw.
#[derive(Debug, Clone, Copy)]
pub struct Coats<'a> {
    /// Its films.
    pub stack: &'a Stack,
    /// Mark of each layer, lowest first.
    pub marks: &'a [Mark],
    /// Number of layers that are on.
    pub layers: usize,
}
