//! Readings in the log.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Name, Note, PaintId};

use crate::Reading;

/// A reading in the log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct LoggedReading {
    /// The reading.
    #[serde(flatten)]
    pub reading: Reading<PaintId>,
    /// The painter's note.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
    /// Name of the device, or of the file it was imported from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub device: Option<Name>,
    /// The pot from which the sample was taken.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pot: Option<Uuid>,
}

/// Device name of readings that were simulated for practice with real tins. They show how a test works and are evidence
/// of nothing.
pub const PRACTICE_READER: &str = "simulated reader, for practice";

impl LoggedReading {
    /// True if it was simulated for practice.
    pub fn is_practice(&self) -> bool {
        self.device.as_ref().is_some_and(|device| device.as_str() == PRACTICE_READER)
    }

    /// Replaces one tin with another; `None` if it contains both.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Option<Self> {
        if self.reading.of.iter().any(|(paint, _)| *paint == kept) {
            return None;
        }
        for (paint, _) in &mut self.reading.of {
            if *paint == gone {
                *paint = kept;
            }
        }
        Some(self)
    }
}
