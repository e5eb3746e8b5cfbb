//! The saved form of a run sheet: how the workshop works, and what was done. The plan is always computed from it.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Name, Note, PaintId, replace_paint};
use warm_blend_piece::Zone;

use crate::{Air, FromJar, Rates, StepId, TouchedUp, Work, WorkingHours, hours::between};

/// The run sheet of a piece.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct RunSheet {
    /// The piece.
    pub piece: Uuid,
    /// When work may begin; `None` for at once.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub starts: Option<Timestamp>,
    /// Working hours.
    pub hours: WorkingHours,
    /// True if there is a helper.
    #[serde(default)]
    pub helper: bool,
    /// True if edges between two colours are taped rather than cut in by brush.
    #[serde(default)]
    pub tapes_colours: bool,
    /// Air of the workshop.
    #[serde(default)]
    pub air: Air,
    /// Rates.
    #[serde(default)]
    pub rates: Rates,
    /// Finished steps, in order.
    #[serde(default)]
    pub done: Vec<Done>,
    /// Spots mended since, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub touched_up: Vec<TouchedUp>,
    /// True once lead was found: nothing is sanded, and the plan stops.
    #[serde(default)]
    pub lead: bool,
    /// The clock last started or stopped; no other may run.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<Clock>,
    /// Paused clocks of other steps.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub paused: Vec<Clock>,
}

/// The clock of a step, which survives a reload and can be paused.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Clock {
    /// The step.
    pub step: StepId,
    /// Minutes before the last start.
    pub minutes: f64,
    /// When it was started; `None` while it is paused.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub since: Option<Timestamp>,
}

impl Clock {
    /// Minutes that no step is believed to have taken at once: somebody forgot the clock†.
    const FORGOTTEN: f64 = 10.0 * 60.0;

    /// Minutes shown.
    pub fn shows(&self, now: Timestamp) -> f64 {
        self.minutes + self.since.map_or(0.0, |since| between(since, now).max(0.0))
    }
}

/// A finished step.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Done {
    /// The work.
    pub work: Work,
    /// Its zones.
    pub zones: Vec<Zone>,
    /// When it was finished.
    pub at: Timestamp,
    /// Real duration, minutes, if known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    /// Usual duration, minutes.
    pub usual: f64,
    /// The painter's note.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
    /// Id of a photo.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub photo: Option<Uuid>,
    /// Who did it, if they are named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<Name>,
    /// What it took out of jars.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub from_jars: Vec<FromJar>,
}

/// An invalid run sheet.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub struct BadSheet {
    /// JSON pointer to the field.
    pub pointer: String,
    /// Problem and remedy.
    pub message: String,
}

impl RunSheet {
    /// Greatest number of finished steps.
    pub const MOST: usize = 2000;

    /// A run sheet of an untouched piece.
    pub fn new(piece: Uuid, hours: WorkingHours) -> Self {
        Self {
            piece,
            starts: None,
            hours,
            helper: false,
            tapes_colours: false,
            air: Air::default(),
            rates: Rates::default(),
            done: Vec::new(),
            touched_up: Vec::new(),
            lead: false,
            clock: None,
            paused: Vec::new(),
        }
    }

    /// Checks that it can be planned.
    pub fn check(&self) -> Result<(), BadSheet> {
        let bad = |pointer: &str, message: String| BadSheet { pointer: pointer.to_owned(), message };
        self.hours.check().map_err(|error| bad(&format!("/hours/{}", error.field()), error.to_string()))?;
        Air::new(self.air.celsius, self.air.humidity).map_err(|error| bad("/air", error))?;
        self.rates.check().map_err(|(field, error)| bad(&format!("/rates/{field}"), error))?;
        if let Some(clock) = self.clocks().find(|clock| !(0.0..1e6).contains(&clock.minutes)) {
            return Err(bad("/clock", format!("{} min is not a valid clock time", clock.minutes)));
        }
        if self.done.len() > Self::MOST {
            return Err(bad(
                "/done",
                format!("too many steps ({}); the most is {}", self.done.len(), Self::MOST),
            ));
        }
        if self.touched_up.len() > Self::MOST {
            return Err(bad("/touched_up", format!("too many mended spots; the most is {}", Self::MOST)));
        }
        Ok(())
    }

    /// Removes a finished step by its index.
    pub fn without(mut self, place: usize) -> Self {
        if place < self.done.len() {
            let gone = self.done.remove(place);
            self.lead &= gone.work != Work::LeadTest;
        }
        self
    }

    /// The clocks of all steps.
    fn clocks(&self) -> impl Iterator<Item = Clock> {
        self.clock.into_iter().chain(self.paused.iter().copied())
    }

    /// Clock of a step, if it was started.
    pub fn clock_of(&self, step: StepId) -> Option<Clock> {
        self.clocks().find(|clock| clock.step == step)
    }

    /// Starts or pauses the clock of a step; a clock of another step is paused and keeps its time.
    pub fn with_clock(mut self, step: StepId, runs: bool, now: Timestamp) -> Self {
        let minutes = self.clock_of(step).map_or(0.0, |clock| clock.shows(now));
        let before = self.clock.replace(Clock { step, minutes, since: runs.then_some(now) });
        let stopped = before.map(|clock| Clock { minutes: clock.shows(now), since: None, ..clock });
        self.paused.extend(stopped);
        self.paused.retain(|clock| clock.step != step);
        // Those of steps that are on no sheet any more, the oldest first.
        let too_many = self.paused.len().saturating_sub(Self::MOST);
        self.paused.drain(..too_many);
        self
    }

    /// Removes the clock of a finished step.
    pub fn without_clock(mut self, step: StepId) -> Self {
        self.clock = self.clock.filter(|clock| clock.step != step);
        self.paused.retain(|clock| clock.step != step);
        self
    }

    /// Minutes on the clock of a step; `None` if it was never started, or was left running.
    pub fn by_the_clock(&self, step: StepId, now: Timestamp) -> Option<f64> {
        let clock = self.clock_of(step)?;
        Some(clock.shows(now)).filter(|minutes| (0.5..=Clock::FORGOTTEN).contains(minutes))
    }

    /// A run sheet for another piece in the same workshop, with its hours, air and rates.
    pub fn in_the_same_workshop(&self, piece: Uuid) -> Self {
        Self {
            helper: self.helper,
            tapes_colours: self.tapes_colours,
            air: self.air,
            rates: self.rates,
            ..Self::new(piece, self.hours.clone())
        }
    }

    /// Tins that were used.
    pub fn paints(&self) -> Vec<PaintId> {
        let laid = self.done.iter().flat_map(|done| done.work.layers());
        let mut paints: Vec<PaintId> = laid.flat_map(|laid| &laid.pot).map(|part| part.paint).collect();
        paints.sort_unstable();
        paints.dedup();
        paints
    }

    /// Replaces one tin with another.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        for done in &mut self.done {
            match &mut done.work {
                Work::Layer(laid) => replace_paint(&mut laid.pot, gone, kept),
                Work::Wet(layers) => {
                    layers.iter_mut().for_each(|laid| replace_paint(&mut laid.pot, gone, kept))
                }
                _ => {}
            }
        }
        self
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_clock_counts_what_was_worked() {
        let at = |minutes: f64| crate::plus_minutes("2026-11-27T09:00:00Z".parse().unwrap(), minutes);
        let (step, other) = (StepId(7), StepId(8));
        let sheet = RunSheet::new(Uuid::nil(), WorkingHours::usual("UTC")).with_clock(step, true, at(0.0));
        assert_eq!(sheet.by_the_clock(step, at(25.0)), Some(25.0));
        assert_eq!(sheet.by_the_clock(other, at(25.0)), None);
        let paused = sheet.with_clock(step, false, at(25.0));
        assert_eq!(paused.by_the_clock(step, at(300.0)), Some(25.0), "a long lunch");
        let on = paused.with_clock(step, true, at(300.0));
        assert_eq!(on.by_the_clock(step, at(310.0)), Some(35.0));
        assert_eq!(on.by_the_clock(step, at(300.0 + 14.0 * 60.0)), None, "forgotten overnight");
        assert_eq!(
            on.by_the_clock(step, at(-5.0)),
            Some(25.0),
            "a clock that was set back takes nothing away"
        );
        let kept: RunSheet = serde_json::from_str(&serde_json::to_string(&on).unwrap()).unwrap();
        assert_eq!(kept, on);
        // Another step is begun and left again: neither takes time from the other.
        let both = on.with_clock(other, true, at(310.0));
        assert_eq!(both.by_the_clock(step, at(330.0)), Some(35.0));
        assert_eq!(both.by_the_clock(other, at(330.0)), Some(20.0));
        let back = both.with_clock(step, true, at(330.0));
        assert_eq!(back.by_the_clock(step, at(331.0)), Some(36.0));
        assert_eq!(back.by_the_clock(other, at(331.0)), Some(20.0));
        let done = back.without_clock(step);
        assert_eq!(
            (done.clock_of(step), done.clock_of(other).map(|clock| clock.minutes)),
            (None, Some(20.0))
        );
        let kept: RunSheet = serde_json::from_str(&serde_json::to_string(&done).unwrap()).unwrap();
        assert_eq!(kept, done);
    }

    /// Another piece in the same workshop has its hours, air and rates, and nothing of what was done.
    #[test]
    fn another_piece_in_the_same_workshop() {
        let at = "2026-11-27T09:00:00Z".parse().unwrap();
        let mut sheet = RunSheet::new(Uuid::from_u128(1), WorkingHours::usual("Europe/Vienna"));
        sheet.rates.hour = Some(32.0);
        sheet.helper = true;
        sheet.done.push(Done {
            work: Work::Clean,
            zones: vec![Zone::Case],
            at,
            minutes: None,
            usual: 9.0,
            note: None,
            photo: None,
            by: None,
            from_jars: Vec::new(),
        });
        sheet.lead = true;
        let other = sheet.clone().with_clock(StepId(3), true, at).in_the_same_workshop(Uuid::from_u128(2));
        assert_eq!((other.piece, other.rates, other.helper), (Uuid::from_u128(2), sheet.rates, true));
        assert_eq!(other.hours, sheet.hours);
        assert!(other.done.is_empty() && !other.lead && other.clock.is_none() && other.starts.is_none());
        assert!(other.check().is_ok());
    }

    #[test]
    fn a_clock_from_a_mangled_file_is_refused() {
        let sheet = RunSheet::new(Uuid::nil(), WorkingHours::usual("UTC"));
        for minutes in [-1.0, f64::INFINITY, f64::NAN, 1e9] {
            let clock = Some(Clock { step: StepId(1), minutes, since: None });
            assert_eq!(RunSheet { clock, ..sheet.clone() }.check().unwrap_err().pointer, "/clock");
        }
    }
}
