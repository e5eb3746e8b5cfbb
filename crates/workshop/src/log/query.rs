//! Queries of the log.

use jiff::ToSpan;
use jiff::civil::Date;
use jiff::tz::TimeZone;
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_documents::{LogKind, LogPlace, LogQuery};
use warm_blend_paint::Name;

use crate::{Checks, Refusal};

/// A query as requested; omitted fields do not restrict it.
#[derive(Debug, Clone, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct LogAsked {
    /// Words or their beginnings.
    #[serde(default)]
    pub search: Option<String>,
    /// Kinds of lines, separated by commas: `mix,pour`.
    #[serde(default)]
    pub kinds: Option<String>,
    /// Piece.
    #[serde(default)]
    pub piece: Option<Uuid>,
    /// Client of the piece, as named in its brief.
    #[serde(default)]
    pub client: Option<String>,
    /// Paint.
    #[serde(default)]
    pub paint: Option<Uuid>,
    /// First day, `2026-11-02`.
    #[serde(default)]
    pub from: Option<String>,
    /// Last day, inclusive.
    #[serde(default)]
    pub to: Option<String>,
    /// Position to continue from: `more` of the previous page.
    #[serde(default)]
    pub before: Option<String>,
}

impl LogAsked {
    /// Lines per page.
    const PAGE: usize = 120;

    /// Parses a query; days are those of the given clock.
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
        checks.done(kinds.map(|kinds| LogQuery {
            kinds,
            piece: self.piece,
            client,
            paint: self.paint,
            from,
            until,
            before,
            most: Self::PAGE,
            ..LogQuery::searching(search)
        }))
    }
}
