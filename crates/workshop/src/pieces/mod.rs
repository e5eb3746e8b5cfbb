//! Pieces: as they are entered, dressed, predicted and brought together.

mod choices;
mod kept;
mod prediction;
mod room;
mod unify;

pub use choices::{AskChoice, FrontOutline, KindChoice, PieceChoice, PieceChoices};
pub use kept::{PieceInList, PieceKept, PieceName};
pub use prediction::{
    DimensionView, FaceView, FindingView, PairView, PartView, PiecePrediction, PullView, StencilView,
    ZoneView,
};
pub use room::{FinishedPiece, Room, not_said, scheme_of};
pub use unify::{UnifyFound, UnifyStep, UnifyWay};
