//! The log: an index of lines derived from documents, written in the same transaction.

use std::cell::RefCell;
use std::collections::HashMap;

use rusqlite::{Connection, OptionalExtension, Transaction, params};
use serde::Deserialize;
use uuid::Uuid;
use warm_blend_documents::{Id, Names, folded, log_of};
use warm_blend_paint::{Class, PaintId};

use crate::{
    StoreError,
    fields::{parse_id, parse_time},
};

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
    class: Option<Class>,
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
        self.head(of.0).class
    }
}

/// Replaces the log lines of a document.
pub(crate) fn tell(change: &Transaction<'_>, id: Id) -> Result<(), StoreError> {
    let mut query =
        change.prepare_cached("SELECT kind, body, made_at, removed, made_by FROM document WHERE id = ?1")?;
    let (kind, body, made_at, removed, made_by): (String, String, String, bool, Option<String>) = query
        .query_row([id.to_string()], |row| {
            Ok((row.get(0)?, row.get(1)?, row.get(2)?, row.get(3)?, row.get(4)?))
        })?;
    forget(change, id)?;
    let made_at = parse_time(&made_at)?;
    let names = InFile { connection: change, known: RefCell::default() };
    for (place, line) in log_of(&kind, id, &body, &names)?.into_iter().enumerate() {
        let text = |id: Option<Uuid>| id.map(|id| id.to_string());
        let by = line.by.as_ref().map(|by| by.as_str()).or(made_by.as_deref());
        change
            .prepare_cached(
                "INSERT INTO log_line (document, place, kind, at, words, piece, pot, mix, board, photo, removed, detail, made_by)
                 VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13)",
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
                line.detail,
                by
            ])?;
        let row = change.last_insert_rowid();
        for (paint, _) in &line.pot {
            change
                .prepare_cached("INSERT OR IGNORE INTO log_paint (paint, line) VALUES (?1, ?2)")?
                .execute(params![paint.0.to_string(), row])?;
        }
        let piece = line.piece.and_then(|piece| names.name(piece)).unwrap_or_default();
        let words =
            [folded(&line.words), folded(&line.detail), folded(&piece), folded(by.unwrap_or_default())]
                .concat()
                .join(" ");
        change
            .prepare_cached("INSERT INTO log_words (rowid, words) VALUES (?1, ?2)")?
            .execute(params![row, words])?;
    }
    Ok(())
}

/// Removes the log lines of a document.
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
        tell(&change, parse_id(&id)?)?;
    }
    change.commit()?;
    Ok(())
}
