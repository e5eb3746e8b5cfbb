//! The log: an index of lines that documents tell, written in the transaction of the document itself.

use std::cell::RefCell;
use std::collections::HashMap;

use jiff::Timestamp;
use rusqlite::types::Value;
use rusqlite::{Connection, OptionalExtension, Row, Transaction, params, params_from_iter};
use serde::Deserialize;
use uuid::Uuid;
use warm_blend_paint::{Class, PaintId};
use warm_blend_workshop::{KeptLine, LogKind, LogQuery, Names, folded, log_of};

use crate::{Id, Store, StoreError};

/// What is called how, as the file has it.
struct InFile<'a> {
    connection: &'a Connection,
    known: RefCell<HashMap<Uuid, Head>>,
}

/// What a body says first of itself.
#[derive(Debug, Clone, Default, Deserialize)]
struct Head {
    #[serde(default)]
    name: Option<String>,
    #[serde(default)]
    class: Option<String>,
}

impl InFile<'_> {
    fn head(&self, of: Uuid) -> Head {
        let read = || {
            let mut query = self.connection.prepare_cached("SELECT body FROM document WHERE id = ?1").ok()?;
            let body: Option<String> = query.query_row([of.to_string()], |row| row.get(0)).optional().ok()?;
            serde_json::from_str(&body?).ok()
        };
        self.known.borrow_mut().entry(of).or_insert_with(|| read().unwrap_or_default()).clone()
    }
}

impl Names for InFile<'_> {
    fn name(&self, of: Uuid) -> Option<String> {
        self.head(of).name
    }

    fn class(&self, of: PaintId) -> Option<Class> {
        self.head(of.0).class?.parse().ok()
    }
}

/// Writes what a document tells in place of what it told.
pub(crate) fn tell(change: &Transaction<'_>, id: Id) -> Result<(), StoreError> {
    let mut query =
        change.prepare_cached("SELECT kind, body, made_at, removed FROM document WHERE id = ?1")?;
    let (kind, body, made_at, removed): (String, String, String, bool) =
        query.query_row([id.to_string()], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?)))?;
    forget(change, id)?;
    let made_at: Timestamp = made_at.parse().map_err(|error| StoreError::Damaged(format!("{error}")))?;
    let names = InFile { connection: change, known: RefCell::default() };
    for (place, line) in log_of(&kind, id, &body, &names)?.into_iter().enumerate() {
        let text = |id: Option<Uuid>| id.map(|id| id.to_string());
        change
            .prepare_cached(
                "INSERT INTO log_line (document, place, kind, at, words, piece, pot, mix, board, photo, removed, detail)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12)",
            )?
            .execute(params![
                id.to_string(),
                place as i64,
                line.kind.id(),
                line.at.unwrap_or(made_at).as_microsecond(),
                line.words,
                text(line.piece),
                serde_json::to_string(&line.pot)?,
                text(line.mix),
                text(line.board),
                text(line.photo),
                removed,
                line.detail
            ])?;
        let row = change.last_insert_rowid();
        for (paint, _) in &line.pot {
            change
                .prepare_cached("INSERT OR IGNORE INTO log_paint (paint, line) VALUES (?1, ?2)")?
                .execute(params![paint.0.to_string(), row])?;
        }
        let piece = line.piece.and_then(|piece| names.name(piece)).unwrap_or_default();
        let words = [folded(&line.words), folded(&line.detail), folded(&piece)].concat().join(" ");
        change
            .prepare_cached("INSERT INTO log_words (rowid, words) VALUES (?1, ?2)")?
            .execute(params![row, words])?;
    }
    Ok(())
}

/// Takes back what a document told: it was never made.
pub(crate) fn forget(change: &Transaction<'_>, id: Id) -> Result<(), StoreError> {
    let id = id.to_string();
    change
        .prepare_cached("DELETE FROM log_words WHERE rowid IN (SELECT id FROM log_line WHERE document = ?1)")?
        .execute([&id])?;
    change.prepare_cached("DELETE FROM log_line WHERE document = ?1")?.execute([&id])?;
    Ok(())
}

/// Fills the log of a file that had none.
pub(crate) fn fill(connection: &mut Connection) -> Result<(), StoreError> {
    let empty: bool = connection.query_row(
        "SELECT NOT EXISTS (SELECT 1 FROM log_line) AND EXISTS (SELECT 1 FROM document)",
        [],
        |row| row.get(0),
    )?;
    if !empty {
        return Ok(());
    }
    let change = connection.transaction()?;
    let ids: Vec<String> = {
        // What was undone was never made; what the painter took away was there.
        let mut query = change.prepare(
            "SELECT id FROM document WHERE removed = 0
             OR EXISTS (SELECT 1 FROM change WHERE document = document.id AND after IS NULL AND undone = 0) ORDER BY id",
        )?;
        query.query_map([], |row| row.get(0))?.collect::<Result<_, _>>()?
    };
    for id in ids {
        tell(&change, id.parse().map_err(|error| StoreError::Damaged(format!("{error}")))?)?;
    }
    change.commit()?;
    Ok(())
}

const COLUMNS: &str =
    "SELECT id, document, kind, at, words, piece, pot, mix, board, photo, removed, detail FROM log_line";

impl Store {
    /// A page of the log, the newest first, and what comes after it.
    pub fn log(&self, query: &LogQuery) -> Result<(Vec<KeptLine>, Option<i64>), StoreError> {
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
            let before = bind(Value::Integer(before));
            only.push(format!("(at, id) < (SELECT at, id FROM log_line WHERE id = {before})"));
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
            lines.last().map(|last| last.id)
        });
        Ok((lines, more.flatten()))
    }

    /// One line of the log.
    pub fn log_line(&self, id: i64) -> Result<Option<KeptLine>, StoreError> {
        let mut query = self.connection.prepare_cached(&format!("{COLUMNS} WHERE id = ?1"))?;
        query.query_row([id], raw).optional()?.map(RawLine::parse).transpose()
    }

    /// The lines that have a pot, the newest first.
    pub fn pots(&self) -> Result<Vec<KeptLine>, StoreError> {
        let mut query = self
            .connection
            .prepare_cached(&format!("{COLUMNS} WHERE pot <> '[]' ORDER BY at DESC, id DESC"))?;
        query.query_map([], raw)?.map(|row| row.map_err(StoreError::from)?.parse()).collect()
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
        })
    }
}
