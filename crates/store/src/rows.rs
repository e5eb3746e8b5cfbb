//! Documents as rows of the file.

use std::ops::Range;

use jiff::Timestamp;
use rayon::prelude::*;
use rusqlite::{Connection, OptionalExtension, Row, Transaction, params};
use warm_blend_documents::{Document, Id, Kept, PHOTO, Reference, Revision, Tie};
use warm_blend_paint::Name;

use crate::{
    StoreError,
    fields::{parse_id, parse_time},
    log,
};

const COLUMNS: &str = "SELECT id, revision, removed, made_at, changed_at, body FROM document";

/// All documents of a kind that satisfy the condition `only`.
pub(crate) fn every<T: Document>(connection: &Connection, only: &str) -> Result<Vec<Kept<T>>, StoreError> {
    let mut query = connection.prepare_cached(&format!("{COLUMNS} WHERE kind = ?1 {only} ORDER BY id"))?;
    let rows: Vec<Raw> = query.query_map([T::KIND], raw)?.collect::<Result<_, _>>()?;
    // Thousands of documents take longer to understand than to read.
    rows.into_par_iter().map(Raw::parse).collect()
}

/// Part of the documents of a kind, in the order of their ids or the reverse; `range` is computed from their number.
pub(crate) fn some<T: Document>(
    connection: &Connection,
    only: &str,
    latest_first: bool,
    which: impl FnOnce(usize) -> Range<usize>,
) -> Result<Vec<Kept<T>>, StoreError> {
    let mut count =
        connection.prepare_cached(&format!("SELECT COUNT(*) FROM document WHERE kind = ?1 {only}"))?;
    let all: i64 = count.query_row([T::KIND], |row| row.get(0))?;
    let which = which(usize::try_from(all).unwrap_or(0));
    let order = if latest_first { "DESC" } else { "ASC" };
    let mut query = connection.prepare_cached(&format!(
        "{COLUMNS} WHERE kind = ?1 {only} ORDER BY id {order} LIMIT ?2 OFFSET ?3"
    ))?;
    let rows = query.query_map(params![T::KIND, which.len() as i64, which.start as i64], raw)?;
    rows.map(|row| row?.parse()).collect()
}

/// All documents of a kind in the order of their ids, reading only those whose revision changed.
pub(crate) fn every_after<T: Document + Clone>(
    connection: &Connection,
    only: &str,
    known: &[Kept<T>],
) -> Result<Vec<Kept<T>>, StoreError> {
    if known.is_empty() {
        return every(connection, only);
    }
    let mut query = connection
        .prepare_cached(&format!("SELECT id, revision FROM document WHERE kind = ?1 {only} ORDER BY id"))?;
    let now = query.query_map([T::KIND], |row| Ok((row.get::<_, String>(0)?, row.get::<_, Revision>(1)?)))?;
    let mut known = known.iter().peekable();
    let each = now.map(|row| {
        let (id, revision) = row?;
        let id = parse_id(&id)?;
        while known.next_if(|known| known.id < id).is_some() {}
        match known.next_if(|known| known.id == id && known.revision == revision) {
            Some(known) => Ok(known.clone()),
            None => read(connection, id),
        }
    });
    each.collect()
}

/// Id, kind and body of every document that satisfies the condition `only`, as stored.
pub(crate) fn bodies(connection: &Connection, only: &str) -> Result<Vec<(Id, String, String)>, StoreError> {
    let mut query = connection.prepare(&format!("SELECT id, kind, body FROM document {only}"))?;
    let rows = query.query_map([], |row| Ok((row.get::<_, String>(0)?, row.get(1)?, row.get(2)?)))?;
    rows.map(|row| {
        let (id, kind, body) = row?;
        Ok((parse_id(&id)?, kind, body))
    })
    .collect()
}

/// Found by the references, of which there are few, and not by the kind.
const USERS: &str = "FROM reference CROSS JOIN document ON reference.user = document.id
    WHERE reference.used = ?1 AND kind = ?2 AND removed = 0";

/// Documents of a kind that refer to another.
pub(crate) fn users<T: Document>(connection: &Connection, used: Id) -> Result<Vec<Kept<T>>, StoreError> {
    let mut query = connection.prepare_cached(&format!(
        "SELECT id, revision, removed, made_at, changed_at, body {USERS} ORDER BY id"
    ))?;
    let rows = query.query_map(params![used.to_string(), T::KIND], raw)?;
    rows.map(|row| row?.parse()).collect()
}

/// Number of documents of a kind that refer to another.
pub(crate) fn count_users<T: Document>(connection: &Connection, used: Id) -> Result<usize, StoreError> {
    let mut query = connection.prepare_cached(&format!("SELECT COUNT(*) {USERS}"))?;
    let count: i64 = query.query_row(params![used.to_string(), T::KIND], |row| row.get(0))?;
    Ok(count.unsigned_abs() as usize)
}

/// Inserts a document.
pub(crate) fn insert<T: Document>(
    change: &Transaction<'_>,
    id: Id,
    (at, by): (Timestamp, Option<&Name>),
    value: T,
) -> Result<Kept<T>, StoreError> {
    add(change, (id, T::KIND), &serde_json::to_string(&value)?, (at, at, by), false)?;
    point(change, id, &value.uses())?;
    log::tell(change, id)?;
    read(change, id)
}

/// Adds the row of a document, made and last changed at these times, and made by somebody.
pub(crate) fn add(
    change: &Transaction<'_>,
    (id, kind): (Id, &str),
    body: &str,
    (made_at, changed_at, made_by): (Timestamp, Timestamp, Option<&Name>),
    removed: bool,
) -> Result<(), StoreError> {
    change
        .prepare_cached(
            "INSERT INTO document (id, kind, revision, body, removed, made_at, changed_at, made_by)
             VALUES (?1, ?2, 1, ?3, ?4, ?5, ?6, ?7)",
        )?
        .execute(params![
            id.to_string(),
            kind,
            body,
            removed,
            made_at.to_string(),
            changed_at.to_string(),
            made_by.map(Name::as_str)
        ])?;
    Ok(())
}

/// Reads a document, provided it has the revision that was seen.
pub(crate) fn current<T: Document>(
    change: &Transaction<'_>,
    id: Id,
    seen: Revision,
) -> Result<Kept<T>, StoreError> {
    let kept = read::<T>(change, id)?;
    if kept.revision != seen {
        return Err(StoreError::Stale { kind: T::KIND, kept: kept.revision, seen });
    }
    Ok(kept)
}

/// Reads a document, even if it was deleted.
pub(crate) fn read<T: Document>(connection: &Connection, id: Id) -> Result<Kept<T>, StoreError> {
    connection
        .prepare_cached(&format!("{COLUMNS} WHERE id = ?1 AND kind = ?2"))?
        .query_row(params![id.to_string(), T::KIND], raw)
        .optional()?
        .ok_or(StoreError::Unknown { kind: T::KIND, id })?
        .parse()
}

/// Writes a document's state and increases its revision.
pub(crate) fn put(change: &Transaction<'_>, id: Id, body: &str, removed: bool) -> Result<(), StoreError> {
    change.execute(
        "UPDATE document SET body = ?2, removed = ?3, revision = revision + 1, changed_at = ?4 WHERE id = ?1",
        params![id.to_string(), body, removed, Timestamp::now().to_string()],
    )?;
    log::tell(change, id)
}

/// Checks that everything a document refers to exists and has the right kind; `before` lists its references when it was
/// last written.
pub(crate) fn verify(connection: &Connection, uses: &[Reference], before: &[Id]) -> Result<(), StoreError> {
    for used in uses {
        let found = Named::of(connection, used)?;
        let must_be_there = match used.tie {
            Tie::Belongs => true,
            Tie::Chosen => !before.contains(&used.id),
            Tie::Copied => false,
        };
        if found.removed && must_be_there {
            return Err(StoreError::Deleted { id: used.id, kind: used.kind, name: found.name });
        }
    }
    Ok(())
}

/// A document that is referred to.
pub(crate) struct Named {
    kind: String,
    removed: bool,
    name: Option<String>,
}

impl Named {
    /// The referenced document, deleted or not; an error if it does not exist or is of another kind.
    pub(crate) fn of(connection: &Connection, used: &Reference) -> Result<Self, StoreError> {
        let found = Self::look(connection, used)?.ok_or(StoreError::Dangling(used.id))?;
        if found.kind == used.kind {
            return Ok(found);
        }
        Err(StoreError::Misfit { id: used.id, wanted: used.kind, found: found.kind })
    }

    fn look(connection: &Connection, used: &Reference) -> Result<Option<Self>, StoreError> {
        let id = used.id.to_string();
        let mut query = connection.prepare_cached(
            "SELECT kind, removed, CAST(body ->> '$.name' AS TEXT) FROM document WHERE id = ?1",
        )?;
        let document = query
            .query_row([&id], |row| Ok(Self { kind: row.get(0)?, removed: row.get(1)?, name: row.get(2)? }));
        if let Some(document) = document.optional()? {
            return Ok(Some(document));
        }
        let mut query = connection.prepare_cached("SELECT EXISTS (SELECT 1 FROM photo WHERE id = ?1)")?;
        let photo: bool = query.query_row([&id], |row| row.get(0))?;
        Ok(photo.then(|| Self { kind: PHOTO.to_owned(), removed: false, name: None }))
    }
}

/// Records the references of a document, after they were verified.
pub(crate) fn point(change: &Transaction<'_>, user: Id, uses: &[Reference]) -> Result<(), StoreError> {
    let mut query = change.prepare_cached("SELECT used FROM reference WHERE user = ?1")?;
    let before = query.query_map([user.to_string()], |row| row.get::<_, String>(0))?;
    let before: Vec<Id> = before.map(|id| parse_id(&id?)).collect::<Result<_, _>>()?;
    verify(change, uses, &before)?;
    point_unverified(change, user, uses)
}

/// Records references of an earlier state, as after undo, without verifying them.
pub(crate) fn point_unverified(
    change: &Transaction<'_>,
    user: Id,
    uses: &[Reference],
) -> Result<(), StoreError> {
    change.execute("DELETE FROM reference WHERE user = ?1", [user.to_string()])?;
    for used in uses {
        change
            .prepare_cached(
                "INSERT OR IGNORE INTO reference (user, used) SELECT ?1, id FROM document WHERE id = ?2",
            )?
            .execute(params![user.to_string(), used.id.to_string()])?;
    }
    Ok(())
}

/// A row as it stands in the file.
struct Raw {
    id: String,
    revision: Revision,
    removed: bool,
    made_at: String,
    changed_at: String,
    body: String,
}

fn raw(row: &Row<'_>) -> rusqlite::Result<Raw> {
    Ok(Raw {
        id: row.get(0)?,
        revision: row.get(1)?,
        removed: row.get(2)?,
        made_at: row.get(3)?,
        changed_at: row.get(4)?,
        body: row.get(5)?,
    })
}

impl Raw {
    fn parse<T: Document>(self) -> Result<Kept<T>, StoreError> {
        Ok(Kept {
            id: parse_id(&self.id)?,
            revision: self.revision,
            removed: self.removed,
            made_at: parse_time(&self.made_at)?,
            changed_at: parse_time(&self.changed_at)?,
            value: serde_json::from_str(&self.body)?,
        })
    }
}
