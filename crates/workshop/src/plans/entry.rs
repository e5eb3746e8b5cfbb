//! A run sheet as it is entered.

use jiff::Timestamp;
use jiff::civil::{Date, Time};
use jiff::tz::TimeZone;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::Note;
use warm_blend_plan::{Air, DayHours, Rates, RunSheet, WorkingHours};

use crate::{Checks, Refusal, refusal::shown};

/// How the workshop works on a piece.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct RunSheetEntry {
    /// When work may begin, RFC 3339, or a day, `2026-12-01`, which begins on the workshop's clock; at once where nothing is said.
    #[serde(default)]
    pub starts: Option<String>,
    /// When somebody works.
    pub hours: HoursEntry,
    /// Whether somebody helps.
    #[serde(default)]
    pub helper: bool,
    /// True if edges between two colours are taped; cut in by brush otherwise.
    #[serde(default)]
    pub tapes_colours: bool,
    /// °C in the workshop.
    pub celsius: f64,
    /// Humidity there, %.
    pub humidity: f64,
    /// What an hour of work costs.
    #[serde(default)]
    pub hour: Option<f64>,
    /// Rent, heating and tools, % of materials and work.
    #[serde(default)]
    pub overhead: Option<f64>,
    /// What is to be earned, % of the price.
    #[serde(default)]
    pub margin: Option<f64>,
}

/// Working hours.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct HoursEntry {
    /// The zone of the workshop's clock, such as `Europe/Vienna`; the computer's own where nothing is said.
    #[serde(default)]
    pub zone: Option<String>,
    /// Monday to Sunday; null on a day off.
    pub week: Vec<Option<DayHoursEntry>>,
    /// Days on which nobody works, `2026-12-24`.
    #[serde(default)]
    pub off: Vec<String>,
    /// Minutes that somebody stays longer to finish a step, 0 to 120; 15 if left out.
    #[serde(default)]
    pub overrun: Option<u16>,
}

/// From when to when.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct DayHoursEntry {
    /// `09:00`
    pub from: String,
    /// `17:00`; `24:00` is the end of the day.
    pub to: String,
}

/// A step that was done.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct StepDone {
    /// Which: its id on the sheet.
    pub step: String,
    /// How long it took, minutes, where somebody looked.
    #[serde(default)]
    pub minutes: Option<f64>,
    /// When it was over, RFC 3339; now where nothing is said.
    #[serde(default)]
    pub at: Option<String>,
    /// What there is to say of it.
    #[serde(default)]
    pub note: Option<String>,
    /// A photo of it: the id that keeping it gave.
    #[serde(default)]
    pub photo: Option<Uuid>,
    /// Of a test for lead: whether there was some.
    #[serde(default)]
    pub lead: bool,
}

/// The clock of a step, started or stopped.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct ClockSet {
    /// Which step: its id on the sheet.
    pub step: String,
    /// Whether it runs from now on.
    pub runs: bool,
}

/// A time of day in minutes after midnight.
fn minutes_of(text: &str) -> Result<u16, String> {
    if text.trim() == "24:00" {
        return Ok(24 * 60);
    }
    let time: Time =
        text.trim().parse().map_err(|_| format!("“{}” is not a valid time; use 09:00", shown(text)))?;
    Ok(time.hour() as u16 * 60 + time.minute() as u16)
}

fn clock_time(minutes: u16) -> String {
    format!("{:02}:{:02}", minutes / 60, minutes % 60)
}

/// When work may start: a point in time keeps its hour and offset; a day starts on the workshop's clock.
fn start(text: &str, clock: &TimeZone) -> Result<Timestamp, String> {
    let midnight = |day: Date| clock.to_ambiguous_timestamp(day.at(0, 0, 0, 0)).compatible().ok();
    timestamp(text).or_else(|error| text.trim().parse().ok().and_then(midnight).ok_or(error))
}

/// A point in time.
pub(crate) fn timestamp(text: &str) -> Result<Timestamp, String> {
    text.trim()
        .parse()
        .map_err(|_| format!("“{}” is not a valid date and time; use 2026-11-27T09:00:00Z", shown(text)))
}

impl RunSheetEntry {
    /// The sheet with this in place of what it had: what was done stays.
    pub fn over(&self, before: RunSheet) -> Result<RunSheet, Refusal> {
        let mut checks = Checks::default();
        let hours = match self.hours.parse(&before.hours.zone) {
            Ok(hours) => Some(hours),
            Err((field, words)) => checks.wrong(format!("/hours/{field}"), words),
        };
        let clock = hours.as_ref().unwrap_or(&before.hours).clock();
        let starts = checks.optional("/starts", self.starts.as_deref().map(|text| start(text, &clock)));
        let air = checks.field("/celsius", Air::new(self.celsius, 0.5));
        let damp = checks.field("/humidity", Air::new(20.0, self.humidity / 100.0));
        let share = |percent: Option<f64>| percent.map(|percent| percent / 100.0);
        let rates = Rates { hour: self.hour, overhead: share(self.overhead), margin: share(self.margin) };
        if let Err((field, words)) = rates.check() {
            checks.wrong::<()>(format!("/{field}"), words);
        }
        let (celsius, humidity) = (self.celsius, self.humidity / 100.0);
        let sheet = hours.zip(air.zip(damp)).map(|(hours, _)| RunSheet {
            starts,
            hours,
            helper: self.helper,
            tapes_colours: self.tapes_colours,
            air: Air { celsius, humidity },
            rates,
            ..before
        });
        let sheet = checks.done(sheet)?;
        sheet.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(sheet)
    }

    pub(super) fn of(sheet: &RunSheet) -> Self {
        let percent = |share: f64| (1000.0 * share).round() / 10.0;
        Self {
            starts: sheet.starts.map(|at| at.to_string()),
            hours: HoursEntry {
                zone: Some(sheet.hours.zone.clone()),
                week: sheet.hours.week.iter().map(|window| window.map(DayHoursEntry::of)).collect(),
                off: sheet.hours.off.iter().map(ToString::to_string).collect(),
                overrun: Some(sheet.hours.overrun),
            },
            helper: sheet.helper,
            tapes_colours: sheet.tapes_colours,
            celsius: sheet.air.celsius,
            humidity: percent(sheet.air.humidity),
            hour: sheet.rates.hour,
            overhead: sheet.rates.overhead.map(percent),
            margin: sheet.rates.margin.map(percent),
        }
    }
}

impl DayHoursEntry {
    fn of(window: DayHours) -> Self {
        Self { from: clock_time(window.from), to: clock_time(window.to) }
    }
}

impl HoursEntry {
    /// The hours; else which field is wrong, and why.
    fn parse(&self, zone: &str) -> Result<WorkingHours, (&'static str, String)> {
        let week = |error| ("week", error);
        let time =
            |day: &DayHoursEntry| Ok(DayHours { from: minutes_of(&day.from)?, to: minutes_of(&day.to)? });
        let windows: Vec<Option<DayHours>> = self
            .week
            .iter()
            .map(|day| day.as_ref().map(time).transpose())
            .collect::<Result<_, String>>()
            .map_err(week)?;
        let days = windows.len();
        let windows =
            windows.try_into().map_err(|_| week(format!("{days} days given; a week has 7, from Monday")))?;
        let day = |text: &String| {
            text.trim()
                .parse::<Date>()
                .map_err(|_| ("off", format!("“{}” is not a valid date; use 2026-12-24", shown(text))))
        };
        let off = self.off.iter().map(day).collect::<Result<_, _>>()?;
        let usual = WorkingHours::usual(self.zone.as_deref().unwrap_or(zone));
        let overrun = self.overrun.unwrap_or(usual.overrun);
        let hours = WorkingHours { week: windows, off, overrun, ..usual };
        hours.check().map_err(|error| (error.field(), error.to_string()))?;
        Ok(hours)
    }
}

impl StepDone {
    /// What was said beside which step it is: when, how long, a note.
    pub(super) fn parse(&self, now: Timestamp) -> Result<(Timestamp, Option<f64>, Option<Note>), Refusal> {
        let mut checks = Checks::default();
        let at = checks.optional("/at", self.at.as_deref().map(timestamp)).unwrap_or(now);
        let minutes = checks.optional(
            "/minutes",
            self.minutes.map(|minutes| match minutes {
                minutes if minutes > 0.0 && minutes <= 6000.0 => Ok(minutes),
                _ => Err(format!(
                    "{minutes} min is out of range; enter up to 6000 min, or leave blank if you didn’t time it"
                )),
            }),
        );
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        if at > now {
            checks.wrong::<()>("/at", "this time is in the future; tick the step once it is done");
        }
        checks.done(Some((at, minutes, note)))
    }
}
