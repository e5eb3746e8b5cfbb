//! The log as it is shown: day by day, so that a busy day reads in one glance.

use std::collections::HashMap;

use jiff::Timestamp;
use jiff::tz::TimeZone;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::{Look, PaintId, Parts, Units};

use super::lines::LogKind;
use super::query::LogPlace;
use super::truth::CameOut;
use crate::{Refusal, ShelfSnapshot, Wedge};

/// So many lines of a kind one after the other are shown as one†.
const MANY: usize = 3;

/// A line of the log as it is kept.
#[derive(Debug, Clone, PartialEq)]
pub struct KeptLine {
    /// Which: later ones have higher numbers where their times are the same.
    pub id: i64,
    /// The document that it tells of.
    pub document: Uuid,
    /// What it is of.
    pub kind: LogKind,
    /// When it was.
    pub at: Timestamp,
    /// What was done, in the words of the time.
    pub words: String,
    /// What else there is to say of it.
    pub detail: String,
    /// On which piece.
    pub piece: Option<Uuid>,
    /// What was in the pot.
    pub pot: Vec<(PaintId, Parts)>,
    /// The mix.
    pub mix: Option<Uuid>,
    /// The board.
    pub board: Option<Uuid>,
    /// The photo.
    pub photo: Option<Uuid>,
    /// True where what it tells of was taken away since.
    pub removed: bool,
}

impl KeptLine {
    /// The same with its amounts in some units: they are kept in ml. What the painter wrote stays.
    fn restated(mut self, units: Units) -> Self {
        if self.kind == LogKind::Pour {
            self.words = units.restate(&self.words);
            self.detail = units.restate(&self.detail);
        }
        self
    }
}

/// What was in the pot of a line.
#[derive(Debug, Clone, PartialEq)]
pub struct LoggedPot {
    /// The line.
    pub line: i64,
    /// Its paints and their parts.
    pub of: Vec<(PaintId, Parts)>,
}

/// A page of the log, the newest first.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogPage {
    /// Day by day.
    pub days: Vec<LogDay>,
    /// To be given as `before` for what comes next; none at the end.
    pub more: Option<String>,
}

/// A day.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogDay {
    /// `2026-11-27`, on the clock of this computer.
    pub day: String,
    /// What was done on it, the last first.
    pub groups: Vec<LogGroup>,
}

/// What was done one after the other of one kind, on one piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogGroup {
    /// `7 steps done`, where there are many.
    pub title: Option<String>,
    /// Each of them.
    pub entries: Vec<LogEntryView>,
}

/// A photo of a piece on its way.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoOfPiece {
    /// The photo: see `/api/photos/kept/{id}`.
    pub photo: Uuid,
    /// When, RFC 3339.
    pub at: String,
    /// What was done or noted, in the words of the time.
    pub words: String,
}

impl PhotoOfPiece {
    /// Of a line; none of one without a photo.
    pub fn of(line: KeptLine) -> Option<Self> {
        Some(Self { photo: line.photo?, at: line.at.to_string(), words: line.words })
    }
}

/// A line.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogEntryView {
    /// Which.
    pub id: i64,
    /// `mix`, `pour`, `reading`, `board`, `board-reading`, `step`, `agreed`, `note`, `tin` or `piece`.
    pub kind: &'static str,
    /// When, RFC 3339.
    pub at: String,
    /// What was done, in the words of the time.
    pub words: String,
    /// What else there is to say of it; may be empty.
    pub detail: String,
    /// Of a reading: how it came out against what had been predicted.
    pub came_out: Option<CameOut>,
    /// Which document it tells of.
    pub document: Uuid,
    /// On which piece.
    pub piece: Option<Uuid>,
    /// What that is called.
    pub piece_name: Option<String>,
    /// The mix, where there is one.
    pub mix: Option<Uuid>,
    /// The board, where there is one.
    pub board: Option<Uuid>,
    /// The paint, where it is of one.
    pub paint: Option<Uuid>,
    /// A photo, by its id.
    pub photo: Option<Uuid>,
    /// How that looks by what is known today.
    pub swatch: Option<Wedge>,
    /// True where it can be made again.
    pub again: bool,
    /// True where what it tells of was taken away since.
    pub removed: bool,
}

impl ShelfSnapshot {
    /// A page of the log as it is shown; `pieces` are the names of those there are or were.
    pub fn log_page(
        &self,
        lines: Vec<KeptLine>,
        more: Option<LogPlace>,
        pieces: &HashMap<Uuid, String>,
        (clock, look, units): (&TimeZone, Look, Units),
    ) -> Result<LogPage, Refusal> {
        let mut days: Vec<LogDay> = Vec::new();
        let mut last: Option<(LogKind, Option<Uuid>)> = None;
        for line in lines {
            let day = line.at.to_zoned_datetime(clock.clone()).date().to_string();
            if days.last().is_none_or(|last| last.day != day) {
                days.push(LogDay { day, groups: Vec::new() });
                last = None;
            }
            let key = (line.kind, line.piece);
            let entry = self.entry(line.restated(units), pieces, look)?;
            let Some(day) = days.last_mut() else { continue };
            match day.groups.last_mut().filter(|_| last == Some(key)) {
                Some(group) => group.entries.push(entry),
                None => day.groups.push(LogGroup { title: None, entries: vec![entry] }),
            }
            last = Some(key);
        }
        for group in days.iter_mut().flat_map(|day| &mut day.groups) {
            let kind = group.entries.first().and_then(|entry| LogKind::find(entry.kind));
            if let Some(kind) = kind.filter(|_| group.entries.len() > MANY) {
                group.title = Some(format!("{} {}", group.entries.len(), kind.many()));
            }
        }
        Ok(LogPage { days, more: more.map(|place| place.to_string()) })
    }

    fn entry(
        &self,
        line: KeptLine,
        pieces: &HashMap<Uuid, String>,
        look: Look,
    ) -> Result<LogEntryView, Refusal> {
        let paint = match (line.kind, line.pot.as_slice()) {
            (LogKind::Tin, _) => Some(line.document),
            (LogKind::Reading, [(paint, _), ..]) => Some(paint.0),
            _ => None,
        };
        let makes = matches!(line.kind, LogKind::Mix | LogKind::Pour | LogKind::Step | LogKind::Reading);
        Ok(LogEntryView {
            id: line.id,
            kind: line.kind.id(),
            at: line.at.to_string(),
            document: line.document,
            piece: line.piece,
            piece_name: line.piece.and_then(|piece| pieces.get(&piece).cloned()),
            mix: line.mix.or((line.kind == LogKind::Mix).then_some(line.document)),
            board: line.board.or((line.kind == LogKind::Board).then_some(line.document)),
            paint,
            photo: line.photo,
            again: makes && line.pot.len() > 1,
            // A line without its colour is better than no page.
            swatch: self.wedge_of(&line.pot, look).unwrap_or_default(),
            words: line.words,
            detail: line.detail,
            came_out: match line.kind {
                LogKind::Reading if !line.removed => self.came_out(line.document)?,
                _ => None,
            },
            removed: line.removed,
        })
    }
}
