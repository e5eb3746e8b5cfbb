//! What can be saved, what it refers to, and the lines it has in the log.
//!
//! | question | where |
//! |---|---|
//! | what can be saved? | [`Document`], [`KINDS`], [`Kept`] |
//! | what does it refer to? | [`Reference`], [`uses_of`], [`checked`] |
//! | how does it travel? | [`Archived`], [`ByKind`] |
//! | how are several changed at once? | [`Documents`] |
//! | what does the log say of it? | [`LogLine`], [`log_of`] |
//! | what can be asked of the log? | [`LogQuery`], [`finds`] |
//!
//! Where and how all this is stored is not known here.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod archived;
mod document;
mod documents;
mod kept_line;
mod log_lines;
mod log_note;
mod log_query;
mod pot_words;
mod search;
mod settings;
mod work_words;

pub use archived::{Archived, ArchivedPhoto, ByKind};
pub use document::{Document, Id, KINDS, Kept, PHOTO, Reference, Revision, Tie, checked, log_of, uses_of};
pub use documents::Documents;
pub use kept_line::{KeptLine, LoggedPot};
pub use log_lines::{LogKind, LogLine, Names};
pub use log_note::LogNote;
pub use log_query::{LogPlace, LogQuery};
pub use pot_words::pot_words;
pub use search::{finds, folded};
pub use settings::Workshop;
pub use work_words::{layer_words, work_words};
