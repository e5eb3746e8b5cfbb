//! Stored results of learning, which could be computed again from the readings.

use std::collections::HashMap;

use rusqlite::params;
use warm_blend_learn::{KeptComponent, Said};

use crate::{Store, StoreError};

impl Store {
    /// Stored results for each connected group of paints.
    pub fn learnt(&self) -> Result<Vec<KeptComponent>, StoreError> {
        let mut query = self.connection.prepare_cached("SELECT circle, said, body FROM learnt")?;
        let rows = query.query_map([], |row| {
            let name: i64 = row.get(0)?;
            Ok(KeptComponent { name: name as u64, said: row.get(1)?, body: row.get(2)? })
        })?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Hashes of the data that stored results were learned from.
    pub fn learnt_from(&self) -> Result<HashMap<u64, Said>, StoreError> {
        let mut query = self.connection.prepare_cached("SELECT circle, said FROM learnt")?;
        let rows = query.query_map([], |row| Ok((row.get::<_, i64>(0)? as u64, row.get::<_, Said>(1)?)))?;
        Ok(rows.collect::<Result<_, _>>()?)
    }

    /// Replaces the stored results: `all` lists every component to keep, with the hash of its data; `new` are those to
    /// write.
    pub fn keep_learnt(&mut self, all: &[(u64, Said)], new: Vec<KeptComponent>) -> Result<(), StoreError> {
        let mut gone = self.learnt_from()?;
        let stays: HashMap<_, _> = all.iter().copied().collect();
        gone.retain(|name, said| stays.get(name) != Some(said));
        if new.is_empty() && gone.is_empty() {
            return Ok(());
        }
        self.write(|change| {
            for name in gone.keys() {
                change.execute("DELETE FROM learnt WHERE circle = ?1", [*name as i64])?;
            }
            for KeptComponent { name, said, body } in new {
                change.execute(
                    "INSERT OR REPLACE INTO learnt (circle, said, body) VALUES (?1, ?2, ?3)",
                    params![name as i64, said, body],
                )?;
            }
            Ok(())
        })
    }
}
