//! Marks that films leave by how they were applied.

use warm_blend_board::{Layer, Motif, Technique};

use super::Age;

/// How a film was applied, which determines its mark.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mark {
    /// By a technique.
    By(Technique),
    /// Through an all-over stencil of this motif.
    Through(Motif),
    /// A coat that has cracked.
    Cracked,
    /// Through a stencil, repeat by repeat.
    Repeated,
    /// Through the same stencil, in wisps over what was stencilled before.
    Wisped,
    /// Over those petals or repeats whose turn is this or a later one, counted from 0.
    InTurn(u8),
    /// Round the edges of what was stencilled before.
    Shaded,
    /// By age.
    Aged(Age),
}

impl Mark {
    /// Mark of a layer.
    pub fn of(layer: &Layer) -> Self {
        match layer.technique {
            _ if layer.is_cracked() => Mark::Cracked,
            technique if technique.is_a_pattern() => Mark::Through(layer.motif.unwrap_or_default()),
            technique => Mark::By(technique),
        }
    }
}
