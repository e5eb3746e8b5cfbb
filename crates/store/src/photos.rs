//! Photos that documents refer to.

use std::collections::HashSet;

use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension, Transaction, params};
use uuid::Uuid;

use warm_blend_documents::Id;

use crate::{Store, StoreError};

impl Store {
    /// Saves a photo, a JPEG file. It is on disk when this returns.
    pub fn keep_photo(&mut self, jpeg: &[u8]) -> Result<Id, StoreError> {
        let id = Uuid::now_v7();
        self.write(|change| {
            add(change, id, Timestamp::now(), jpeg)?;
            Ok(id)
        })
    }

    /// Deletes photos older than `since` to which no document refers, even after undo or redo; returns their number.
    pub fn free_photos(&mut self, since: Timestamp) -> Result<usize, StoreError> {
        if !std::mem::take(&mut self.untidy) || self.damage().is_some() {
            return Ok(0);
        }
        let loose = self.loose_photos(since)?;
        if loose.is_empty() {
            return Ok(0);
        }
        self.write(|change| {
            for id in &loose {
                change.execute("DELETE FROM photo WHERE id = ?1", [id])?;
            }
            Ok(loose.len())
        })
    }

    fn loose_photos(&self, since: Timestamp) -> Result<HashSet<String>, StoreError> {
        let mut query = self.connection.prepare("SELECT id FROM photo WHERE made_at < ?1")?;
        let mut loose: HashSet<String> =
            query.query_map([since.to_string()], |row| row.get(0))?.collect::<Result<_, _>>()?;
        if loose.is_empty() {
            return Ok(loose);
        }
        let mut query = self.connection.prepare(
            "SELECT body FROM document WHERE removed = 0
             UNION ALL SELECT before FROM change WHERE before IS NOT NULL
             UNION ALL SELECT after FROM change WHERE after IS NOT NULL",
        )?;
        let mut bodies = query.query([])?;
        while let Some(row) = bodies.next()? {
            // An id stands in a body as a whole string.
            for word in row.get::<_, String>(0)?.split('"') {
                loose.remove(word);
            }
        }
        Ok(loose)
    }

    /// A saved photo, if it exists.
    pub fn photo(&self, id: Id) -> Result<Option<Vec<u8>>, StoreError> {
        read(&self.connection, id)
    }
}

/// Adds a photo that was saved at some time.
pub(crate) fn add(
    change: &Transaction<'_>,
    id: Id,
    made_at: Timestamp,
    jpeg: &[u8],
) -> Result<(), StoreError> {
    change.prepare_cached("INSERT INTO photo (id, jpeg, made_at) VALUES (?1, ?2, ?3)")?.execute(params![
        id.to_string(),
        jpeg,
        made_at.to_string()
    ])?;
    Ok(())
}

/// A photo, if it exists.
pub(crate) fn read(connection: &Connection, id: Id) -> Result<Option<Vec<u8>>, StoreError> {
    let mut query = connection.prepare_cached("SELECT jpeg FROM photo WHERE id = ?1")?;
    Ok(query.query_row([id.to_string()], |row| row.get(0)).optional()?)
}
