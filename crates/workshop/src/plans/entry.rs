//! Entry of a run sheet.

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
    /// When work may begin, RFC 3339, or as a day, `2026-12-01`, on the workshop's clock; by default at once.
    #[serde(default)]
    pub starts: Option<String>,
    /// Working hours.
    pub hours: HoursEntry,
    /// True if there is a helper.
    #[serde(default)]
    pub helper: bool,
    /// True if edges between two colours are taped rather than cut in by brush.
    #[serde(default)]
    pub tapes_colours: bool,
    /// Temperature in the workshop, °C.
    pub celsius: f64,
    /// Humidity in the workshop, %.
    pub humidity: f64,
    /// Price of an hour of work.
    #[serde(default)]
    pub hour: Option<f64>,
    /// Overhead (rent, heating, tools), % of materials and work.
    #[serde(default)]
    pub overhead: Option<f64>,
    /// Margin, % of the price.
    #[serde(default)]
    pub margin: Option<f64>,
}

/// Working hours.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct HoursEntry {
    /// Time zone, such as `Europe/Vienna`; by default that of the computer.
    #[serde(default)]
    pub zone: Option<String>,
    /// Monday to Sunday; null on a day off.
    pub week: Vec<Option<DayHoursEntry>>,
    /// Dates off, `2026-12-24`.
    #[serde(default)]
    pub off: Vec<String>,
    /// Minutes of overtime to finish a step, 0 to 120; by default 15.
    #[serde(default)]
    pub overrun: Option<u16>,
}

/// Hours of a day.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct DayHoursEntry {
    /// `09:00`
    pub from: String,
    /// `17:00`; `24:00` is the end of the day.
    pub to: String,
}

/// A finished step.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
pub struct StepDone {
    /// Id of the step on the sheet.
    pub step: String,
    /// Real duration, minutes, if known.
    #[serde(default)]
    pub minutes: Option<f64>,
    /// When it was finished, RFC 3339; by default now.
    #[serde(default)]
    pub at: Option<String>,
    /// Note.
    #[serde(default)]
    pub note: Option<String>,
    /// Id of an uploaded photo.
    #[serde(default)]
    pub photo: Option<Uuid>,
    /// For a lead test: whether lead was found.
    #[serde(default)]
    pub lead: bool,
}

/// Starting or pausing the clock of a step.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct ClockSet {
    /// Id of the step on the sheet.
    pub step: String,
    /// True to start it.
    pub runs: bool,
}

/// Parses a time of day to minutes after midnight.
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

/// When work may start: a time keeps its hour and offset; a day starts on the workshop's clock.
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
    /// Applies the entry to a sheet, keeping what was done.
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
    /// Checks the hours; an error names the field.
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
    /// Checks time, duration and note.
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
