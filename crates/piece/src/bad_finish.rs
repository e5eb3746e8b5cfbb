//! Why a zone cannot have a finish.

use warm_blend_board::Letter;
use warm_blend_paint::BadPaint;

/// A dress that cannot be.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadFinish {
    /// Of a board that never was.
    #[error("there is no such board: choose another")]
    NoBoard,
    /// Of a strip that the board no longer has.
    #[error("“{0}” has no strip {1} any more: choose another strip")]
    NoStrip(String, Letter),
    /// Of too few or too many colours.
    #[error("a blend of {0} colours: two to five")]
    Colours(usize),
    /// Colours that stand in no order.
    #[error("the places of a blend’s colours go from 0 to 1, each further than the one before")]
    Order,
    /// A colour with nothing in its pot.
    #[error("a colour of the blend has nothing in its pot: choose a paint or a mix")]
    EmptyPot,
    /// Of a motif that cannot be cut.
    #[error("a stencil of {0} mm: 10 to 1000")]
    StencilSize(f64),
    /// Of no repeats, or too many.
    #[error("a stencil is repeated 1 to 100 times; leave the number out to have it spaced well")]
    StencilRepeats,
    /// With nothing in its pot.
    #[error("the stencil has nothing in its pot: choose a paint, a mix, or another part’s colour")]
    StencilPot,
    /// Of a motif that goes nowhere on the zone.
    #[error(
        "a stencil of {0:.0} mm goes on none of these parts, or not so often: choose a smaller one or fewer repeats"
    )]
    StencilNowhere(f64),
    /// Of a paint or ground that cannot be.
    #[error(transparent)]
    Paint(#[from] BadPaint),
}
