//! Queries of the log, page by page.

use std::sync::Arc;

use jiff::Timestamp;
use rayon::prelude::*;
use rusqlite::types::Value;
use rusqlite::{OptionalExtension, Row, params_from_iter};
use uuid::Uuid;
use warm_blend_documents::{KeptLine, LogKind, LogPlace, LogQuery, LoggedPot};

use crate::written::AsOf;
use crate::{Store, StoreError};

const COLUMNS: &str = "SELECT id, document, kind, at, words, piece, pot, mix, board, photo, removed, detail, made_by FROM log_line";

impl Store {
    /// A page of the log, newest first, and where the next one starts.
    pub fn log(&self, query: &LogQuery) -> Result<(Vec<KeptLine>, Option<LogPlace>), StoreError> {
        if query.nothing {
            return Ok((Vec::new(), None));
        }
        let mut only: Vec<String> = Vec::new();
        let mut values: Vec<Value> = Vec::new();
        let mut bind = |value: Value| {
            values.push(value);
            format!("?{}", values.len())
        };
        if !query.words.is_empty() {
            // Folded words hold letters and figures only, so that none of them is an operator.
            let sought: Vec<String> = query.words.iter().map(|word| format!("\"{word}\" *")).collect();
            let sought = bind(Value::Text(sought.join(" ")));
            only.push(format!("id IN (SELECT rowid FROM log_words WHERE log_words MATCH {sought})"));
        }
        if !query.kinds.is_empty() {
            let kinds: Vec<String> =
                query.kinds.iter().map(|kind| bind(Value::Text(kind.id().to_owned()))).collect();
            only.push(format!("kind IN ({})", kinds.join(", ")));
        }
        if let Some(piece) = query.piece {
            only.push(format!("piece = {}", bind(Value::Text(piece.to_string()))));
        }
        if let Some(client) = &query.client {
            let client = bind(Value::Text(client.as_str().to_owned()));
            only.push(format!(
                "piece IN (SELECT id FROM document WHERE kind = 'piece' AND body ->> '$.brief.client' = {client})"
            ));
        }
        if let Some(paint) = query.paint {
            let paint = bind(Value::Text(paint.to_string()));
            only.push(format!("id IN (SELECT line FROM log_paint WHERE paint = {paint})"));
        }
        if let Some(from) = query.from {
            only.push(format!("at >= {}", bind(Value::Integer(from.as_microsecond()))));
        }
        if let Some(until) = query.until {
            only.push(format!("at < {}", bind(Value::Integer(until.as_microsecond()))));
        }
        if let Some(before) = query.before {
            let (at, line) = (bind(Value::Integer(before.at)), bind(Value::Integer(before.line)));
            only.push(format!("(at, id) < ({at}, {line})"));
        }
        let only = if only.is_empty() { "1".to_owned() } else { only.join(" AND ") };
        let most = bind(Value::Integer(query.most as i64 + 1));
        let mut sql = self
            .connection
            .prepare_cached(&format!("{COLUMNS} WHERE {only} ORDER BY at DESC, id DESC LIMIT {most}"))?;
        let mut lines: Vec<KeptLine> = sql
            .query_map(params_from_iter(&values), raw)?
            .map(|row| row.map_err(StoreError::from)?.parse())
            .collect::<Result<_, StoreError>>()?;
        let more = (lines.len() > query.most).then(|| {
            lines.truncate(query.most);
            lines.last().map(|last| LogPlace { at: last.at.as_microsecond(), line: last.id })
        });
        Ok((lines, more.flatten()))
    }

    /// A line of the log.
    pub fn log_line(&self, id: i64) -> Result<Option<KeptLine>, StoreError> {
        let mut query = self.connection.prepare_cached(&format!("{COLUMNS} WHERE id = ?1"))?;
        query.query_row([id], raw).optional()?.map(RawLine::parse).transpose()
    }

    /// Lines of a piece that have a photo, oldest first.
    pub fn photos_of(&self, piece: Uuid) -> Result<Vec<KeptLine>, StoreError> {
        let mut query = self.connection.prepare_cached(&format!(
            "{COLUMNS} WHERE piece = ?1 AND photo IS NOT NULL AND NOT removed ORDER BY at, id"
        ))?;
        query.query_map([piece.to_string()], raw)?.map(|row| row.map_err(StoreError::from)?.parse()).collect()
    }

    /// Pots of all lines that have one, newest first; cached until something is written.
    pub fn pots(&self) -> Result<Arc<[LoggedPot]>, StoreError> {
        let known = match &*self.pots.borrow() {
            Some(pots) => pots.now(&self.connection)?,
            None => None,
        };
        if let Some(pots) = known {
            return Ok(pots);
        }
        let read = AsOf::of(&self.connection, || Ok(self.read_pots()?.into()))?;
        let pots = Arc::clone(&read.read);
        self.pots.replace(Some(read));
        Ok(pots)
    }

    fn read_pots(&self) -> Result<Vec<LoggedPot>, StoreError> {
        let mut query =
            self.connection.prepare_cached("SELECT at, id, pot FROM log_line WHERE pot <> '[]'")?;
        let rows = query.query_map([], |row| Ok(((row.get(0)?, row.get(1)?), row.get(2)?)))?;
        let mut rows: Vec<((i64, i64), String)> = rows.collect::<Result<_, _>>()?;
        rows.sort_unstable_by_key(|(when, _)| std::cmp::Reverse(*when));
        let pot = |((_, line), pot): &((i64, i64), String)| {
            Ok(LoggedPot { line: *line, of: serde_json::from_str(pot)? })
        };
        rows.par_iter().map(pot).collect()
    }
}

/// A line as it stands in the file.
struct RawLine {
    id: i64,
    at: i64,
    removed: bool,
    kind: String,
    words: String,
    detail: String,
    by: Option<String>,
    pot: String,
    document: String,
    of: [Option<String>; 4],
}

fn raw(row: &Row<'_>) -> rusqlite::Result<RawLine> {
    Ok(RawLine {
        id: row.get(0)?,
        document: row.get(1)?,
        kind: row.get(2)?,
        at: row.get(3)?,
        words: row.get(4)?,
        pot: row.get(6)?,
        of: [row.get(5)?, row.get(7)?, row.get(8)?, row.get(9)?],
        removed: row.get(10)?,
        detail: row.get(11)?,
        by: row.get(12)?,
    })
}

impl RawLine {
    fn parse(self) -> Result<KeptLine, StoreError> {
        let damaged = |what: &str| StoreError::Damaged(format!("a line of the log: {what}"));
        let id = |text: &str| text.parse::<Uuid>().map_err(|_| damaged("an id"));
        let [piece, mix, board, photo] = self.of;
        let optional = |text: Option<String>| text.map(|text| id(&text)).transpose();
        Ok(KeptLine {
            id: self.id,
            document: id(&self.document)?,
            kind: LogKind::find(&self.kind).ok_or_else(|| damaged("its kind"))?,
            at: Timestamp::from_microsecond(self.at).map_err(|_| damaged("its time"))?,
            words: self.words,
            detail: self.detail,
            piece: optional(piece)?,
            pot: serde_json::from_str(&self.pot)?,
            mix: optional(mix)?,
            board: optional(board)?,
            photo: optional(photo)?,
            removed: self.removed,
            by: self.by,
        })
    }
}
