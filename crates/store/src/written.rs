//! Detects writes since something was read, by SQLite's counters.

use rusqlite::Connection;

use crate::StoreError;

/// A number that changes when another program changes the file.
pub(crate) fn changes_of_others(connection: &Connection) -> Result<i64, StoreError> {
    Ok(connection.pragma_query_value(None, "data_version", |row| row.get(0))?)
}

/// A cached value, valid until something is written.
#[derive(Debug)]
pub(crate) struct AsOf<T> {
    /// What others had written by then, and what was written here.
    written: (i64, u64),
    pub read: T,
}

impl<T: Clone> AsOf<T> {
    /// The value, if it is still valid.
    pub fn now(&self, connection: &Connection) -> Result<Option<T>, StoreError> {
        Ok((written(connection)? == self.written).then(|| self.read.clone()))
    }

    /// Reads a value.
    pub fn of(
        connection: &Connection,
        read: impl FnOnce() -> Result<T, StoreError>,
    ) -> Result<Self, StoreError> {
        // What is written while it is read counts as written since.
        Ok(Self { written: written(connection)?, read: read()? })
    }
}

fn written(connection: &Connection) -> Result<(i64, u64), StoreError> {
    Ok((changes_of_others(connection)?, connection.total_changes()))
}
