//! Pieces: entry, finishes, prediction, and treatments that bring parts together.

mod choices;
mod grounds;
mod kept;
mod outline;
mod photographed;
mod pots;
mod prediction;
mod reasons;
mod room;
mod template;
mod unify;

pub use choices::{
    AskChoice, CarvingChoice, FrontOutline, KindChoice, PieceChoice, PieceChoices, RepairChoice,
};
pub use grounds::ZoneGround;
pub use kept::{PieceInList, PieceKept, PieceName};
pub use outline::{OutlineAsked, OutlineMade};
pub use photographed::{FittingForm, PartOnPhoto, PartPlaced, PhotoPoint, PieceOnPhoto, on_photo, worn};
pub(crate) use prediction::dimensions;
pub use prediction::{
    DimensionView, FaceView, FindingView, PairView, PartView, PiecePrediction, PullView, StencilView,
    ZoneView,
};
pub use reasons::PieceReasons;
pub use room::{FinishedPiece, Room, elevation_of, not_said, scheme_of};
pub use template::{StencilTemplate, TemplateSheet, template_of};
pub use unify::{UnifyFound, UnifyStep, UnifyWay};
