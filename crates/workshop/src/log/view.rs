//! The log by days, grouped so that a busy day can be read at a glance.

use std::collections::HashMap;

use jiff::tz::TimeZone;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::{KeptLine, LogKind, LogPlace};
use warm_blend_paint::{Look, Units};

use super::truth::CameOut;
use crate::{Refusal, ShelfSnapshot, Wedge};

/// Number of consecutive lines of a kind that are shown as one group†.
const MANY: usize = 3;

/// A page of the log, newest first.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogPage {
    /// Day by day.
    pub days: Vec<LogDay>,
    /// Value of `before` for the next page; absent at the end.
    pub more: Option<String>,
}

/// A day.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogDay {
    /// Date, `2026-11-27`, on the clock of this computer.
    pub day: String,
    /// Groups, latest first.
    pub groups: Vec<LogGroup>,
}

/// Consecutive entries of one kind on one piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogGroup {
    /// Title of several entries: `7 steps done`.
    pub title: Option<String>,
    /// The entries.
    pub entries: Vec<LogEntryView>,
}

/// A progress photo of a piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoOfPiece {
    /// The photo: see `/api/photos/kept/{id}`.
    pub photo: Uuid,
    /// Time, RFC 3339.
    pub at: String,
    /// What was done or noted.
    pub words: String,
}

impl PhotoOfPiece {
    /// The photo of a line; `None` if it has none.
    pub fn of(line: KeptLine) -> Option<Self> {
        Some(Self { photo: line.photo?, at: line.at.to_string(), words: line.words })
    }
}

/// A line of the log.
#[derive(Debug, Serialize, ToSchema)]
pub struct LogEntryView {
    /// Number of the line.
    pub id: i64,
    /// `mix`, `pour`, `reading`, `board`, `board-reading`, `step`, `agreed`, `note`, `tin` or `piece`.
    pub kind: &'static str,
    /// Time, RFC 3339.
    pub at: String,
    /// Text.
    pub words: String,
    /// Further text; may be empty.
    pub detail: String,
    /// For a reading: comparison with its prediction.
    pub came_out: Option<CameOut>,
    /// The document it comes from.
    pub document: Uuid,
    /// The piece.
    pub piece: Option<Uuid>,
    /// Name of the piece.
    pub piece_name: Option<String>,
    /// The mix.
    pub mix: Option<Uuid>,
    /// The board.
    pub board: Option<Uuid>,
    /// The paint.
    pub paint: Option<Uuid>,
    /// Id of a photo.
    pub photo: Option<Uuid>,
    /// Predicted look from today's knowledge.
    pub swatch: Option<Wedge>,
    /// True if it can be made again.
    pub again: bool,
    /// True if its document was deleted.
    pub removed: bool,
    /// Who did it, if they are named.
    pub by: Option<String>,
}

impl ShelfSnapshot {
    /// A page of the log; `pieces` are the names of all pieces, including deleted ones.
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
            by: line.by,
        })
    }
}
