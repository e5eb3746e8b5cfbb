//! Undo and redo, across all documents and restarts.
//!
//! There is one line of changes, oldest first. Undo reverses the newest that is not undone, redo repeats the oldest that
//! is; a new change discards what was undone. Both are writes that increase the revision, so that a page that still shows
//! the old state notices.

use std::collections::HashMap;

use jiff::Timestamp;
use rusqlite::{Connection, Transaction, params};
use serde_json::{Map, Value};
use warm_blend_documents::{Id, uses_of};

use crate::fields::{name_in, parse_id};
use crate::rows::{point_unverified, put};
use crate::set_aside::set_aside_if_unusable;
use crate::{StoreError, log};

/// How many changes are remembered.
const LONGEST: i64 = 5_000;

/// Kind of a change.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ChangeKind {
    /// A document was created.
    Added,
    /// A document was changed.
    Changed,
    /// A document was deleted.
    Removed,
}

/// A change, as described by undo and redo.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HistoryEntry {
    /// Unique number of the change.
    pub change: i64,
    /// The document.
    pub document: Id,
    /// Its kind: `paint`, `mix`, `pour`, `piece`, `reading`, `workshop`.
    pub kind: String,
    /// Its name, if it has one.
    pub name: Option<String>,
    /// What the change originally did.
    pub action: ChangeKind,
    /// Fields of the document that were changed, by their names in its body; empty if it was created or deleted.
    pub fields: Vec<String>,
    /// True if the document exists now.
    pub there: bool,
    /// Number of further changes in the same step.
    pub more: usize,
}

/// What undo and redo would do next.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct History {
    /// The change that undo would reverse.
    pub undo: Option<HistoryEntry>,
    /// The change that redo would repeat.
    pub redo: Option<HistoryEntry>,
}

#[derive(Debug, Clone, Copy)]
pub(crate) enum Direction {
    Back,
    Forth,
}

impl History {
    pub(crate) fn of(connection: &Connection) -> Result<Self, StoreError> {
        let next = |direction| next_step(connection, direction);
        Ok(Self { undo: next(Direction::Back)?, redo: next(Direction::Forth)? })
    }
}

/// Undoes or redoes the next step, provided it is the expected one.
pub(crate) fn walk(
    change: &Transaction<'_>,
    direction: Direction,
    meant: i64,
) -> Result<HistoryEntry, StoreError> {
    let batch = next(change, direction)?;
    let first = batch.iter().min_by_key(|entry| entry.seq).filter(|first| first.seq == meant);
    let mut shown = step(first.ok_or(StoreError::Overtaken)?, batch.len() - 1);
    let deletions = first_deletions(change)?;
    let was_deleted = |entry: &Entry| deletions.get(&entry.document).is_some_and(|first| *first < entry.seq);
    for entry in &batch {
        let (goal, other) = match direction {
            Direction::Back => (&entry.before, &entry.after),
            Direction::Forth => (&entry.after, &entry.before),
        };
        // A document that is not there keeps its last body, marked as removed.
        let body = goal.as_ref().or(other.as_ref()).map_or("", String::as_str);
        put(change, entry.document, body, goal.is_none())?;
        // What it names may have been deleted since, and may never have been of the right kind in an older file.
        if goal.is_none() || !set_aside_if_unusable(change, entry.document, &entry.kind, body)? {
            point_unverified(change, entry.document, &uses_of(&entry.kind, body).unwrap_or_default())?;
        }
        if entry.seq == meant {
            shown.there = goal.is_some();
        }
        // What is undone was never made; what is taken away, or was brought back before, was there.
        if goal.is_none() && matches!(direction, Direction::Back) && !was_deleted(entry) {
            log::forget(change, entry.document)?;
        }
        change.execute(
            "UPDATE change SET undone = ?2 WHERE seq = ?1",
            params![entry.seq, matches!(direction, Direction::Back)],
        )?;
    }
    Ok(shown)
}

/// The first deletion of each document that was deleted: a later change that made it brought it back.
fn first_deletions(connection: &Connection) -> Result<HashMap<Id, i64>, StoreError> {
    let mut query = connection
        .prepare_cached("SELECT document, min(seq) FROM change WHERE after IS NULL GROUP BY document")?;
    let rows = query.query_map([], |row| Ok((row.get::<_, String>(0)?, row.get(1)?)))?;
    rows.map(|row| {
        let (document, seq) = row?;
        Ok((parse_id(&document)?, seq))
    })
    .collect()
}

/// Appends a change to the history, in the step that began at `first` or in a new one; returns where the step began.
/// `None` stands for a document that does not exist.
pub(crate) fn record(
    change: &Transaction<'_>,
    document: Id,
    before: Option<&str>,
    after: Option<&str>,
    first: Option<i64>,
) -> Result<i64, StoreError> {
    if first.is_none() {
        change.execute("DELETE FROM change WHERE undone = 1", [])?;
    }
    change.execute(
        "INSERT INTO change (document, before, after, at, batch) VALUES (?1, ?2, ?3, ?4, ?5)",
        params![document.to_string(), before, after, Timestamp::now().to_string(), first],
    )?;
    Ok(first.unwrap_or(change.last_insert_rowid()))
}

/// Discards the oldest steps, always whole ones, because half a step cannot be undone.
pub(crate) fn forget(change: &Transaction<'_>) -> Result<(), StoreError> {
    // Numbers of a batch follow each other: what lies before the batch of the first that stays goes.
    change.execute(
        "DELETE FROM change WHERE seq < (
             SELECT COALESCE(batch, seq) FROM change
             WHERE seq > (SELECT MAX(seq) FROM change) - ?1 ORDER BY seq LIMIT 1)",
        [LONGEST],
    )?;
    Ok(())
}

struct Entry {
    seq: i64,
    document: Id,
    kind: String,
    before: Option<String>,
    after: Option<String>,
    there: bool,
}

impl Entry {
    fn action(&self) -> ChangeKind {
        match (&self.before, &self.after) {
            (None, _) => ChangeKind::Added,
            (_, None) => ChangeKind::Removed,
            _ => ChangeKind::Changed,
        }
    }

    fn fields(&self) -> Vec<String> {
        let body = |text: &Option<String>| serde_json::from_str::<Map<String, Value>>(text.as_deref()?).ok();
        let (Some(before), Some(after)) = (body(&self.before), body(&self.after)) else { return Vec::new() };
        let mut names: Vec<&String> = before.keys().chain(after.keys()).collect();
        names.sort_unstable();
        names.dedup();
        names.into_iter().filter(|name| before.get(*name) != after.get(*name)).cloned().collect()
    }

    fn name(&self) -> Option<String> {
        self.after.as_ref().or(self.before.as_ref()).and_then(|body| name_in(body))
    }
}

impl Direction {
    /// The next batch, by its first change.
    const fn batch(self) -> &'static str {
        match self {
            Self::Back => {
                "(SELECT COALESCE(batch, seq) FROM change WHERE undone = 0 ORDER BY seq DESC LIMIT 1)"
            }
            Self::Forth => "(SELECT COALESCE(batch, seq) FROM change WHERE undone = 1 ORDER BY seq LIMIT 1)",
        }
    }
}

/// The next batch as one step, spoken of by the first of its changes; None if there is none. The others are only counted.
fn next_step(connection: &Connection, direction: Direction) -> Result<Option<HistoryEntry>, StoreError> {
    let batch = direction.batch();
    let first = entries(connection, &format!("seq = {batch}"))?;
    let more: u32 = connection
        .prepare_cached(&format!("SELECT COUNT(*) FROM change WHERE batch = {batch}"))?
        .query_row([], |row| row.get(0))?;
    Ok(first.first().map(|first| step(first, more as usize)))
}

fn step(first: &Entry, more: usize) -> HistoryEntry {
    HistoryEntry {
        change: first.seq,
        document: first.document,
        kind: first.kind.clone(),
        name: first.name(),
        action: first.action(),
        fields: first.fields(),
        there: first.there,
        more,
    }
}

/// The next batch in a direction, in the order in which its changes are to be walked; empty if there is none.
fn next(connection: &Connection, direction: Direction) -> Result<Vec<Entry>, StoreError> {
    let batch = direction.batch();
    let mut entries = entries(connection, &format!("seq = {batch} OR batch = {batch}"))?;
    if matches!(direction, Direction::Back) {
        entries.reverse();
    }
    Ok(entries)
}

/// Changes in the order in which they were made.
fn entries(connection: &Connection, which: &str) -> Result<Vec<Entry>, StoreError> {
    let mut query = connection.prepare_cached(&format!(
        "SELECT seq, document, kind, before, after, NOT removed FROM change JOIN document ON document.id = change.document
         WHERE {which} ORDER BY seq"
    ))?;
    let rows = query.query_map([], |row| {
        Ok((row.get(0)?, row.get::<_, String>(1)?, row.get(2)?, row.get(3)?, row.get(4)?, row.get(5)?))
    })?;
    rows.map(|row| {
        let (seq, document, kind, before, after, there) = row?;
        let document = parse_id(&document)?;
        Ok(Entry { seq, document, kind, before, after, there })
    })
    .collect()
}
