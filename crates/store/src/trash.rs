//! What was deleted, and how it comes back.

use jiff::Timestamp;
use rusqlite::{OptionalExtension, params};
use warm_blend_documents::{Id, uses_of};

use crate::{
    ChangeSet, Store, StoreError,
    fields::{parse_id, parse_time},
    rows::{point_unverified, put},
};

/// A document that was deleted.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Deleted {
    /// Id.
    pub id: Id,
    /// Kind: `mix`.
    pub kind: String,
    /// Its name, or else what the log says of it.
    pub words: String,
    /// When it was deleted.
    pub at: Timestamp,
}

/// Only what was there is in the trash: the log says nothing of what was undone or set aside.
const IN_TRASH: &str = "FROM document
    WHERE removed = 1 AND EXISTS (SELECT 1 FROM log_line WHERE log_line.document = document.id)";

impl Store {
    /// What was deleted since some time, the latest first.
    pub fn deleted_since(&self, since: Timestamp) -> Result<Vec<Deleted>, StoreError> {
        let mut query = self.connection.prepare_cached(&format!(
            "SELECT id, kind, changed_at, COALESCE(CAST(body ->> '$.name' AS TEXT),
                 (SELECT words FROM log_line WHERE document = document.id ORDER BY id LIMIT 1)) {IN_TRASH}"
        ))?;
        let mut rows = query.query([])?;
        let mut all = Vec::new();
        while let Some(row) = rows.next()? {
            let at = parse_time(&row.get::<_, String>(2)?)?;
            if at >= since {
                let id = parse_id(&row.get::<_, String>(0)?)?;
                all.push(Deleted { id, kind: row.get(1)?, words: row.get(3)?, at });
            }
        }
        all.sort_by(|one, other| other.at.cmp(&one.at).then(one.id.cmp(&other.id)));
        Ok(all)
    }
}

impl ChangeSet<'_> {
    /// Brings a deleted document back, with what referred to it. One that is there stays as it is.
    pub fn bring_back(&mut self, id: Id) -> Result<(), StoreError> {
        let there = "SELECT removed FROM document WHERE id = ?1 AND removed = 0";
        if self.change.query_row(there, params![id.to_string()], |_| Ok(())).optional()?.is_some() {
            return Ok(());
        }
        let found = self
            .change
            .query_row(&format!("SELECT kind, body {IN_TRASH} AND id = ?1"), params![id.to_string()], |row| {
                Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?))
            })
            .optional()?;
        let (kind, body) = found.ok_or(StoreError::Unknown { kind: "entry", id })?;
        let uses = uses_of(&kind, &body)?;
        put(self.change, id, &body, false)?;
        point_unverified(self.change, id, &uses)?;
        self.record(id, None, Some(&body))
    }
}
