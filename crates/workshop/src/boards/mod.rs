//! Sample boards: entry, prediction, remedies and readings.

mod choices;
mod kept;
mod prediction;
mod reading;
mod ready;
mod reasons;
mod remedies;

pub use choices::{BoardChoices, GroundChoice, MotifChoice, TechniqueChoice, TemplateChoice, TroubleChoice};
pub use kept::{BoardInList, BoardKept, NewBoard};
pub use prediction::{
    AdviceGiven, CautionGiven, FixOffered, LayerPredicted, PlacePredicted, SeenBoard, ShareOfColour,
    StripPrediction, strip_of,
};
pub use reading::{
    BoardReadingChange, BoardReadingEntry, BoardReadingKept, BoardReadingMade, BoardSpotEntry, HandKnown,
    SpotKept, SpotRead, SpotToRead,
};
pub use ready::ReadyFinish;
pub(crate) use ready::on_a_chest;
pub use reasons::BoardReasons;
pub use remedies::{LayerChangeView, RemediesView, RemedyView, SchoolView, SchoolsView};
