//! What the painter writes into the log: a note, a photo, a scheme agreed with the client.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Name, Note};

/// A note in the log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct LogNote {
    /// Time.
    pub at: Timestamp,
    /// Text.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub words: Option<Note>,
    /// The piece.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece: Option<Uuid>,
    /// Id of a photo.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// The scheme agreed with the client.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub agreed: Option<Name>,
}
