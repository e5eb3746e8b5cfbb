//! Why a zone cannot have a finish.

use warm_blend_board::Letter;
use warm_blend_paint::BadPaint;

/// A dress that cannot be.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadFinish {
    /// Of a board that never was.
    #[error("this board no longer exists; choose another")]
    NoBoard,
    /// Of a strip that the board no longer has.
    #[error("“{0}” no longer has a strip {1}; choose another")]
    NoStrip(String, Letter),
    /// Of too few or too many colours.
    #[error("{0} colours in the blend; use 2 to 5")]
    Colours(usize),
    /// Colours that stand in no order.
    #[error("blend positions must rise from 0 to 1")]
    Order,
    /// A colour with nothing in its pot.
    #[error("a colour has an empty pot; choose a paint or a mix")]
    EmptyPot,
    /// Of a motif that cannot be cut.
    #[error("a {0} mm stencil is out of range; use 10 to 1000 mm")]
    StencilSize(f64),
    /// Of no repeats, or too many.
    #[error("use 1 to 100 repeats, or leave blank for even spacing")]
    StencilRepeats,
    /// With nothing in its pot.
    #[error("the stencil has an empty pot; choose a paint, a mix or another part’s colour")]
    StencilPot,
    /// Of a motif that goes nowhere on the zone.
    #[error("a {0:.0} mm stencil won’t fit these parts; choose a smaller one or fewer repeats")]
    StencilNowhere(f64),
    /// Of a paint or ground that cannot be.
    #[error(transparent)]
    Paint(#[from] BadPaint),
}
