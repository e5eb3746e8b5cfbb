//! The log: what was done, how it is found, and how it is repeated.

mod again;
mod note;
mod on_photo;
mod query;
mod skill;
mod truth;
mod view;

pub use again::{LikePot, MadeAgain, MixLike, SaidThen};
pub use note::LogNoteEntry;
pub use on_photo::{FinishOnPhoto, FinishRequest, ZoneOnPhoto};
pub use query::LogAsked;
pub use skill::{SkillLearned, SkillPoint};
pub use truth::{CameOut, Surprise, TruthPoint, TruthView};
pub use view::{LogDay, LogEntryView, LogGroup, LogPage, PhotoOfPiece};
