//! The piece: its parts in true proportion, their finishes, and whether they belong together.
//!
//! | question | where |
//! |---|---|
//! | what is it, and how large? | [`Form`], [`PieceKind`], [`BadForm`] |
//! | what does it look like from front, side and top? | [`Elevation`], [`Face`], [`Part`] |
//! | which parts are painted alike, how large are they, what do they adjoin? | [`Zone`], [`Extent`], [`Meeting`] |
//! | what finish does a zone wear, and how aged is it? | [`ZoneFinish`], [`Finish`], [`Ageing`] |
//! | what does that look like? | [`FinishContext`], [`FinishedZone`], [`ZoneSeen`] |
//! | how much of it is field, recess and edge? | [`Part::shares`], [`Elevation::places`] |
//! | do the parts belong together? | [`pairs`], [`findings`], [`Intent`], [`Windows`] |
//! | what would bring them together? | [`unify`], [`unify_likely`], [`pulls`], [`calms`] |
//! | how is a pattern spaced? | [`spaced`], [`Stencil`], [`Repeats`] |
//! | what is saved? | [`Piece`], [`Scheme`], [`Brief`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod ageing;
mod bad_finish;
mod build;
mod buyers;
mod carving;
mod cohesion;
mod cut;
mod document;
mod elevation;
mod finish;
mod form;
mod intent;
mod mark;
mod moved;
mod mud;
mod pattern;
mod photographed;
mod places;
mod quoted;
mod repair;
mod repeats;
mod spacing;
mod stencil;
mod unify;
mod zone;
mod zone_finish;

pub use ageing::{Age, Ageing};
pub use bad_finish::BadFinish;
pub use buyers::buyers;
pub use carving::Carving;
pub use cohesion::{About, Finding, Pair, Stands, findings, off, pairs, shared_paint};
pub use cut::{BadOutline, Cut, Outlined, UNITS};
pub use document::{AreaCorrection, BadPiece, Brief, OVERS, Over, PairIntent, Piece, SCHEMES, Scheme};
pub use elevation::{Elevation, Extent, Face, Meeting, Outline, Part, Rect, View};
pub use finish::{Coat, FinishContext, FinishedZone, LaidOn, STEPS, ZoneSeen, blended, poured_together};
pub use form::{BadForm, Form, FormField, PieceKind};
pub use intent::{Intent, Windows};
pub use mark::Mark;
pub use moved::MovedPart;
pub use mud::{Washed, mud};
pub use pattern::{DENSE, SHADED, WISPED};
pub use photographed::{CardKind, MarkedCard, MarkedFace, PHOTOS, PiecePhoto};
pub use quoted::{Likely, Quote};
pub use repair::Repair;
pub use repeats::{PatternRoom, Repeats, Side, SideSpacing};
pub use spacing::{BadSpacing, Spacing, spaced, spaced_by};
pub use stencil::{Border, Fade, Softened, Softening, Stencil};
pub use unify::{
    Looked, PlausibleShelves, Pull, Searched, Unified, Visit, With, calms, pulls, treatments, unify,
    unify_likely,
};
pub use zone::{Shaping, Zone};
pub use zone_finish::{Band, BlendDirection, COLOURS, Finish, ZoneFinish};
