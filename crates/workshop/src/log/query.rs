//! What is asked of the log.

use std::fmt;
use std::str::FromStr;

use jiff::civil::Date;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ToSpan};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_paint::Name;

use super::lines::LogKind;
use super::search::beginnings;
use crate::{Checks, Refusal};

/// What is looked for, as it is asked; what is left out narrows nothing.
#[derive(Debug, Clone, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct LogAsked {
    /// Words, or their beginnings.
    #[serde(default)]
    pub search: Option<String>,
    /// Kinds of lines, with commas between: `mix,pour`.
    #[serde(default)]
    pub kinds: Option<String>,
    /// On which piece.
    #[serde(default)]
    pub piece: Option<Uuid>,
    /// On pieces for which client, as the brief names them.
    #[serde(default)]
    pub client: Option<String>,
    /// With which paint.
    #[serde(default)]
    pub paint: Option<Uuid>,
    /// From which day on, `2026-11-02`.
    #[serde(default)]
    pub from: Option<String>,
    /// Up to which day, that day too.
    #[serde(default)]
    pub to: Option<String>,
    /// Lines before this place: the `more` of the page before.
    #[serde(default)]
    pub before: Option<String>,
}

/// A place in the log, between two lines: whatever becomes of them, what lies before it is the same.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct LogPlace {
    /// When its line was, microseconds since 1970.
    pub at: i64,
    /// Which line, of several at that time.
    pub line: i64,
}

impl fmt::Display for LogPlace {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}.{}", self.at, self.line)
    }
}

impl FromStr for LogPlace {
    type Err = &'static str;

    fn from_str(text: &str) -> Result<Self, Self::Err> {
        let place = || {
            let (at, line) = text.split_once('.')?;
            Some(Self { at: at.parse().ok()?, line: line.parse().ok()? })
        };
        place().ok_or("this is no place in the log: take the `more` of the page before")
    }
}

/// The same, read.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct LogQuery {
    /// Beginnings of words, all of which have to be there.
    pub words: Vec<String>,
    /// True where something is looked for that is no word, such as signs alone: nothing is found.
    pub nothing: bool,
    /// Which kinds; all where none is named.
    pub kinds: Vec<LogKind>,
    /// On which piece.
    pub piece: Option<Uuid>,
    /// On pieces for which client.
    pub client: Option<Name>,
    /// With which paint.
    pub paint: Option<Uuid>,
    /// Not before.
    pub from: Option<Timestamp>,
    /// Before.
    pub until: Option<Timestamp>,
    /// Lines before this place.
    pub before: Option<LogPlace>,
    /// How many at most.
    pub most: usize,
}

impl LogAsked {
    /// Lines of one page.
    const PAGE: usize = 120;

    /// Reads it; days are those of a clock.
    pub fn read(&self, clock: &TimeZone) -> Result<LogQuery, Refusal> {
        let mut checks = Checks::default();
        let kind = |id: &str| {
            let all = LogKind::ALL.map(LogKind::id).join(", ");
            LogKind::find(id.trim()).ok_or_else(|| format!("not a kind of entry; use {all}"))
        };
        let kinds = self.kinds.as_deref().unwrap_or_default().split(',').filter(|id| !id.trim().is_empty());
        let kinds: Result<Vec<LogKind>, String> = kinds.map(kind).collect();
        let day = |text: &str, days: i64| {
            let day: Date = text.trim().parse().map_err(|_| "not a valid date; use 2026-11-27".to_owned())?;
            let day = day.checked_add(days.days()).map_err(|_| "date out of range".to_owned())?;
            let midnight = clock.to_ambiguous_timestamp(day.at(0, 0, 0, 0)).compatible();
            midnight.map_err(|_| "date out of range".to_owned())
        };
        let from = checks.optional("?from", self.from.as_deref().map(|text| day(text, 0)));
        let until = checks.optional("?to", self.to.as_deref().map(|text| day(text, 1)));
        let kinds = checks.field("?kinds", kinds);
        let client = self.client.as_deref().map(str::trim).filter(|name| !name.is_empty());
        let client = checks.optional("?client", client.map(Name::new));
        let before = checks.optional("?before", self.before.as_deref().map(str::parse::<LogPlace>));
        let search = self.search.as_deref().unwrap_or_default();
        let words = beginnings(search);
        checks.done(kinds.map(|kinds| LogQuery {
            nothing: words.is_empty() && !search.trim().is_empty(),
            words,
            kinds,
            piece: self.piece,
            client,
            paint: self.paint,
            from,
            until,
            before,
            most: Self::PAGE,
        }))
    }
}
