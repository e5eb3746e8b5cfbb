//! What a painter writes into the log: a note, a photo, a scheme that the client agreed to.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::{Name, Note};

use crate::plans::timestamp;
use crate::{Checks, Refusal};

/// An entry of its own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct LogNote {
    /// When it was.
    pub at: Timestamp,
    /// What the painter wrote.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub words: Option<Note>,
    /// Of which piece.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece: Option<Uuid>,
    /// A photo, by its id.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// The scheme that the client agreed to, where it is that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub agreed: Option<Name>,
}

/// An entry as it is written.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct LogNoteEntry {
    /// What there is to say.
    #[serde(default)]
    pub words: Option<String>,
    /// Of which piece.
    #[serde(default)]
    pub piece: Option<Uuid>,
    /// A photo: the id that keeping it gave.
    #[serde(default)]
    pub photo: Option<Uuid>,
    /// The scheme that the client agreed to.
    #[serde(default)]
    pub agreed: Option<String>,
    /// When it was, RFC 3339; now where nothing is said.
    #[serde(default)]
    pub at: Option<String>,
}

impl LogNoteEntry {
    /// The entry as it is kept.
    pub fn parse(&self, now: Timestamp) -> Result<LogNote, Refusal> {
        let mut checks = Checks::default();
        let words = checks.optional("/words", self.words.as_deref().map(Note::new)).flatten();
        let agreed = checks.optional("/agreed", self.agreed.as_deref().map(Name::new));
        let at = checks.optional("/at", self.at.as_deref().map(timestamp)).unwrap_or(now);
        if at > now {
            checks.wrong::<()>("/at", "this date is in the future; add the note once it has happened");
        }
        if words.is_none() && agreed.is_none() && self.photo.is_none() {
            checks.wrong::<()>("/words", "the note is empty; write something or add a photo");
        }
        checks.done(Some(LogNote { at, words, piece: self.piece, photo: self.photo, agreed }))
    }
}
