//! Idempotency keys: changes that are requested again because their answer was lost.

use std::sync::atomic::{AtomicBool, Ordering};

use jiff::{SignedDuration, Timestamp};
use rusqlite::{Transaction, params};
use uuid::Uuid;

use crate::StoreError;

/// How long a key is remembered: longer than any page tries again.
const REMEMBERED: SignedDuration = SignedDuration::from_hours(7 * 24);

/// A change requested under a key, in one or more transactions.
#[derive(Debug)]
pub struct Deed {
    key: Uuid,
    /// Whether one of its transactions is on the disk.
    begun: AtomicBool,
}

impl Deed {
    /// A change of which this program has written nothing yet.
    pub const fn new(key: Uuid) -> Self {
        Self { key, begun: AtomicBool::new(false) }
    }

    /// The key.
    pub const fn key(&self) -> Uuid {
        self.key
    }

    /// Writes the key with the first transaction. An error if an earlier request has written it.
    pub(crate) fn enter(&self, change: &Transaction<'_>) -> Result<(), StoreError> {
        if self.begun.load(Ordering::Relaxed) {
            return Ok(());
        }
        let now = Timestamp::now();
        change.prepare_cached("DELETE FROM deed WHERE at < ?1")?.execute([(now - REMEMBERED).to_string()])?;
        let new = change
            .prepare_cached("INSERT INTO deed (key, at) VALUES (?1, ?2) ON CONFLICT DO NOTHING")?
            .execute(params![self.key.to_string(), now.to_string()])?;
        if new == 0 { Err(StoreError::Repeated) } else { Ok(()) }
    }

    /// Notes that its transaction is on disk.
    pub(crate) fn done(&self) {
        self.begun.store(true, Ordering::Relaxed);
    }
}
