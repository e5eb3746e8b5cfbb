//! The log: what was done, how it is found, and how it is repeated.

mod again;
pub(crate) mod lines;
mod note;
mod on_photo;
mod query;
mod search;
mod skill;
mod truth;
mod view;

pub use again::{LikePot, MadeAgain, MixLike, SaidThen};
pub use lines::{LogKind, LogLine, Names};
pub use note::{LogNote, LogNoteEntry};
pub use on_photo::{FinishOnPhoto, FinishRequest, ZoneOnPhoto};
pub use query::{LogAsked, LogPlace, LogQuery};
pub use search::{finds, folded};
pub use skill::{SkillLearned, SkillPoint};
pub use truth::{CameOut, Surprise, TruthPoint, TruthView};
pub use view::{KeptLine, LogDay, LogEntryView, LogGroup, LogPage, LoggedPot, PhotoOfPiece};
