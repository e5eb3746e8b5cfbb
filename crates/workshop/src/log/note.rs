//! A note for the log as entered.

use jiff::Timestamp;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::LogNote;
use warm_blend_paint::{Name, Note};

use crate::plans::timestamp;
use crate::{Checks, Refusal};

/// A note as entered.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct LogNoteEntry {
    /// Text.
    #[serde(default)]
    pub words: Option<String>,
    /// The piece.
    #[serde(default)]
    pub piece: Option<Uuid>,
    /// Id of an uploaded photo.
    #[serde(default)]
    pub photo: Option<Uuid>,
    /// The scheme agreed with the client.
    #[serde(default)]
    pub agreed: Option<String>,
    /// Time, RFC 3339; by default now.
    #[serde(default)]
    pub at: Option<String>,
}

impl LogNoteEntry {
    /// Checks and converts the note.
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
