//! Lines of the log as they are stored.

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_paint::{PaintId, Parts, Units};

use crate::log_lines::LogKind;

/// A stored line of the log.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptLine {
    /// Number; increases among lines of the same time.
    pub id: i64,
    /// The document it comes from.
    pub document: Uuid,
    /// Kind.
    pub kind: LogKind,
    /// Time.
    pub at: Timestamp,
    /// Text.
    pub words: String,
    /// Further text.
    pub detail: String,
    /// The piece.
    pub piece: Option<Uuid>,
    /// Contents of the pot.
    pub pot: Vec<(PaintId, Parts)>,
    /// The mix.
    pub mix: Option<Uuid>,
    /// The board.
    pub board: Option<Uuid>,
    /// The photo.
    pub photo: Option<Uuid>,
    /// True if its document was deleted.
    pub removed: bool,
    /// Who did it, if they are named.
    pub by: Option<String>,
}

impl KeptLine {
    /// Converts its amounts, which are stored in ml. The painter's own words do not change.
    pub fn restated(mut self, units: Units) -> Self {
        if self.kind == LogKind::Pour {
            self.words = units.restate(&self.words);
            self.detail = units.restate(&self.detail);
        }
        self
    }
}

/// Contents of the pot of a line.
#[derive(Debug, Clone, PartialEq)]
pub struct LoggedPot {
    /// The line.
    pub line: i64,
    /// Paints and parts.
    pub of: Vec<(PaintId, Parts)>,
}
