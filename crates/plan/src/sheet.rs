//! A run sheet as it is kept: how the workshop works, and what was done of a piece. The plan is made of it anew each time.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Note, PaintId, replace_paint};
use warm_blend_piece::Zone;

use crate::{Air, Rates, Work, WorkingHours};

/// The run sheet of a piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct RunSheet {
    /// Whose.
    pub piece: Uuid,
    /// When work may begin; at once where nothing is said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub starts: Option<Timestamp>,
    /// When somebody works.
    pub hours: WorkingHours,
    /// Whether somebody helps.
    #[serde(default)]
    pub helper: bool,
    /// The air of the workshop.
    #[serde(default)]
    pub air: Air,
    /// What hours cost.
    #[serde(default)]
    pub rates: Rates,
    /// What was done, in that order.
    #[serde(default)]
    pub done: Vec<Done>,
    /// True once lead was found: nothing is sanded, and the plan stops.
    #[serde(default)]
    pub lead: bool,
}

/// A step that was done.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Done {
    /// What.
    pub work: Work,
    /// Where.
    pub zones: Vec<Zone>,
    /// When it was over.
    pub at: Timestamp,
    /// How long it took, minutes, where that was said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    /// How long the usual hand takes for it, minutes.
    pub usual: f64,
    /// What the painter wrote.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
}

/// A run sheet that cannot be.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub struct BadSheet {
    /// Where: a JSON pointer.
    pub pointer: String,
    /// What is wrong, and what would do.
    pub message: String,
}

impl RunSheet {
    /// Most steps that are kept as done.
    pub const MOST: usize = 2000;

    /// One on which nothing was done yet.
    pub fn new(piece: Uuid, hours: WorkingHours) -> Self {
        Self {
            piece,
            starts: None,
            hours,
            helper: false,
            air: Air::default(),
            rates: Rates::default(),
            done: Vec::new(),
            lead: false,
        }
    }

    /// That it can be planned with.
    pub fn check(&self) -> Result<(), BadSheet> {
        let bad = |pointer: &str, message: String| BadSheet { pointer: pointer.to_owned(), message };
        self.hours.check().map_err(|error| bad("/hours", error.to_string()))?;
        Air::new(self.air.celsius, self.air.humidity).map_err(|error| bad("/air", error))?;
        self.rates.check().map_err(|(field, error)| bad(&format!("/rates/{field}"), error))?;
        if self.done.len() > Self::MOST {
            return Err(bad("/done", format!("{} steps: {} are the most", self.done.len(), Self::MOST)));
        }
        Ok(())
    }

    /// The same without the tick at a place of what was done.
    pub fn without(mut self, place: usize) -> Self {
        if place < self.done.len() {
            let gone = self.done.remove(place);
            self.lead &= gone.work != Work::LeadTest;
        }
        self
    }

    /// What was done on a zone, in that order.
    pub fn done_on(&self, zone: Zone) -> Vec<&Work> {
        self.done.iter().filter(|done| done.zones.contains(&zone)).map(|done| &done.work).collect()
    }

    /// The last that was done on a zone.
    pub fn last_on(&self, zone: Zone) -> Option<&Done> {
        self.done.iter().rfind(|done| done.zones.contains(&zone))
    }

    /// The tins that were painted with.
    pub fn paints(&self) -> Vec<PaintId> {
        let laid = self.done.iter().filter_map(|done| done.work.laid());
        let mut paints: Vec<PaintId> = laid.flat_map(|laid| &laid.pot).map(|part| part.paint).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }

    /// The same with one tin in place of another.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        for done in &mut self.done {
            if let Work::Layer(laid) = &mut done.work {
                replace_paint(&mut laid.pot, gone, kept);
            }
        }
        self
    }
}
