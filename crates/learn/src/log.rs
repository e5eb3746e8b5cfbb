//! Readings as they stand in the log.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Name, Note, PaintId};

use crate::Reading;

/// A reading in the log.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct LoggedReading {
    /// What was read, of what.
    #[serde(flatten)]
    pub reading: Reading<PaintId>,
    /// The painter's words.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
    /// What it was read with, by name, or the file it came from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub device: Option<Name>,
    /// The pot that it is a dab of.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pot: Option<Uuid>,
}

/// Under this name stand readings of the stand-in for a reader where tins are real: they show how a test goes, and prove nothing.
pub const PRACTICE_READER: &str = "simulated reader, for practice";

impl LoggedReading {
    /// Whether it was made up for practice.
    pub fn is_practice(&self) -> bool {
        self.device.as_ref().is_some_and(|device| device.as_str() == PRACTICE_READER)
    }

    /// The same reading with one tin in place of another; None where both were in it.
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
