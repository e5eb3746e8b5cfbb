//! Why a zone cannot have a finish.

use warm_blend_board::Letter;
use warm_blend_paint::BadPaint;

use crate::BadOutline;

/// An impossible finish.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadFinish {
    /// The board does not exist.
    #[error("this board no longer exists; choose another")]
    NoBoard,
    /// The board no longer has this strip.
    #[error("“{0}” no longer has a strip {1}; choose another")]
    NoStrip(String, Letter),
    /// Too few or too many colours in a blend.
    #[error("{0} colours in the blend; use 2 to 5")]
    Colours(usize),
    /// Colours of a blend out of order.
    #[error("blend positions must rise from 0 to 1")]
    Order,
    /// A colour of a blend with an empty pot.
    #[error("a colour has an empty pot; choose a paint or a mix")]
    EmptyPot,
    /// A motif that cannot be cut at this size.
    #[error("a {0} mm stencil is out of range; use 10 to 1000 mm")]
    StencilSize(f64),
    /// No repeats, or too many.
    #[error("use 1 to 100 repeats, or leave blank for even spacing")]
    StencilRepeats,
    /// A gap that is none.
    #[error("use a gap of 0 to 1000 mm, or leave blank for even spacing")]
    StencilGap,
    /// A border too far from the edge.
    #[error("use 0 to 1000 mm between the edge of the part and the border")]
    StencilInset,
    /// A fade that is none.
    #[error("use 0 to 1 for each value of the fade")]
    StencilFade,
    /// A stencil with an empty pot.
    #[error("the stencil has an empty pot; choose a paint, a mix or another part’s colour")]
    StencilPot,
    /// Too many colours through one stencil.
    #[error("{0} colours through one stencil; use up to 4")]
    StencilWisps(usize),
    /// A colour of a pattern whose turn never comes.
    #[error("The last colour of the pattern has no petal or repeat left. Use more repeats, or fewer colours")]
    StencilTurns,
    /// An outline that cannot be cut.
    #[error(transparent)]
    StencilOutline(#[from] BadOutline),
    /// A motif too large for every part of the zone.
    #[error("a {0:.0} mm stencil won’t fit these parts; choose a smaller one or fewer repeats")]
    StencilNowhere(f64),
    /// An impossible paint or ground.
    #[error(transparent)]
    Paint(#[from] BadPaint),
}
