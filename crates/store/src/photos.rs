//! Photos beside the documents that speak of them.

use jiff::Timestamp;
use rusqlite::{OptionalExtension, params};
use uuid::Uuid;

use crate::{Id, Store, StoreError};

impl Store {
    /// Keeps a photo, a JPEG file. It is on the disk when this returns.
    pub fn keep_photo(&mut self, jpeg: &[u8]) -> Result<Id, StoreError> {
        let id = Uuid::now_v7();
        self.write(|change| {
            change.execute(
                "INSERT INTO photo (id, jpeg, made_at) VALUES (?1, ?2, ?3)",
                params![id.to_string(), jpeg, Timestamp::now().to_string()],
            )?;
            Ok(id)
        })
    }

    /// A photo that was kept; none of another id.
    pub fn photo(&self, id: Id) -> Result<Option<Vec<u8>>, StoreError> {
        let mut query = self.connection.prepare_cached("SELECT jpeg FROM photo WHERE id = ?1")?;
        Ok(query.query_row([id.to_string()], |row| row.get(0)).optional()?)
    }
}
