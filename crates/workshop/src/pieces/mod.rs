//! Pieces: as they are entered, dressed, predicted and brought together.

mod choices;
pub(crate) mod entry;
mod kept;
mod prediction;
mod room;
mod unify;

pub use choices::{AskChoice, KindChoice, PieceChoice, PieceChoices};
pub use entry::{
    AgeingEntry, BandEntry, BlendEntry, BriefEntry, CorrectionEntry, FormEntry, OverEntry, PairIntentEntry,
    PieceEntry, SchemeEntry, StencilEntry, StripWorn, WindowsEntry, WornEntry, zone,
};
pub use kept::{PieceInList, PieceKept, PieceName};
pub use prediction::{
    DimensionTold, FaceTold, FindingTold, PairTold, PartTold, PiecePrediction, PullTold, StencilTold,
    ZoneTold,
};
pub use room::{InDress, Room, not_said, scheme_of};
pub use unify::{UnifyFound, UnifyStep, UnifyWay};
