//! Recovery of a damaged file.

use std::path::{Path, PathBuf};

use rusqlite::types::Value;
use rusqlite::{Connection, OpenFlags, params_from_iter};
use warm_blend_documents::uses_of;

use crate::rows::{bodies, point_unverified};
use crate::{OpenError, Store, StoreError, log, set_aside};

/// Result of a recovery.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Rescued {
    /// The new file.
    pub file: PathBuf,
    /// Number of documents recovered.
    pub documents: usize,
    /// Number of photos recovered.
    pub photos: usize,
    /// Number of rows that could not be read.
    pub lost: usize,
}

/// Rows are looked for one by one up to here where the file does not say how many it has.
const MOST_ROWS: i64 = 1_000_000;
/// So many rows that are not there, one after the other, are the end.
const GAP: i64 = 20_000;

const DOCUMENT: &str = "id, kind, revision, body, removed, made_at, changed_at";
const PHOTO: &str = "id, jpeg, made_at";

impl Store {
    /// Saves what can be read of a file to a new one. The damaged file is not changed; its history and the answers
    /// given in practice are not copied.
    pub fn rescue(from: &Path, to: &Path) -> Result<Rescued, OpenError> {
        let at = |path: &Path| {
            let path = path.to_owned();
            move |error| OpenError::Other { path, error }
        };
        if to.exists() {
            return Err(OpenError::Taken(to.into()));
        }
        let broken = Connection::open_with_flags(from, OpenFlags::SQLITE_OPEN_READ_ONLY)
            .map_err(StoreError::from)
            .map_err(at(from))?;
        let mut saved = Self::open(to)?;
        saved.take_over(&broken, to).map_err(at(from))
    }

    fn take_over(&mut self, broken: &Connection, to: &Path) -> Result<Rescued, StoreError> {
        let mut rescued = Rescued { file: to.to_owned(), documents: 0, photos: 0, lost: 0 };
        // Without its log a file has nothing: what was written over it is gone with the damage.
        let change = self.connection.transaction()?;
        for (table, columns) in [("document", DOCUMENT), ("photo", PHOTO)] {
            let count = columns.split(", ").count();
            let insert =
                format!("INSERT OR IGNORE INTO {table} ({columns}) VALUES ({})", vec!["?"; count].join(", "));
            for row in Rows::of(broken, table, columns) {
                let kept =
                    row.and_then(|row| Ok(change.prepare_cached(&insert)?.execute(params_from_iter(row))?));
                match (kept, table) {
                    (Ok(kept), "document") => rescued.documents += kept,
                    (Ok(kept), _) => rescued.photos += kept,
                    (Err(_), _) => rescued.lost += 1,
                }
            }
        }
        change.execute("UPDATE mark SET looked_through = 0", [])?;
        change.commit()?;
        set_aside::look_through(&mut self.connection)?;
        self.point_all()?;
        log::fill(&mut self.connection)?;
        self.write_back()?;
        Ok(rescued)
    }

    /// Writes down anew which document speaks of which.
    fn point_all(&mut self) -> Result<(), StoreError> {
        let change = self.connection.transaction()?;
        for (id, kind, body) in bodies(&change, "")? {
            point_unverified(&change, id, &uses_of(&kind, &body).unwrap_or_default())?;
        }
        Ok(change.commit()?)
    }
}

/// The rows of a table, read one at a time, so that one that cannot be read does not hide the rest.
struct Rows<'a> {
    broken: &'a Connection,
    sql: String,
    next: i64,
    last: i64,
    missing: i64,
}

impl<'a> Rows<'a> {
    fn of(broken: &'a Connection, table: &str, columns: &str) -> Self {
        let last = broken.query_row(&format!("SELECT max(rowid) FROM {table}"), [], |row| row.get(0));
        let last = last.unwrap_or(Some(MOST_ROWS)).unwrap_or(0);
        Self {
            broken,
            sql: format!("SELECT {columns} FROM {table} NOT INDEXED WHERE rowid = ?1"),
            next: 1,
            last,
            missing: 0,
        }
    }

    fn row(&self, at: i64) -> Result<Option<Vec<Value>>, StoreError> {
        let mut query = self.broken.prepare_cached(&self.sql)?;
        let columns = query.column_count();
        let mut rows = query.query([at])?;
        let Some(row) = rows.next()? else { return Ok(None) };
        Ok(Some((0..columns).map(|n| row.get(n)).collect::<Result<_, _>>()?))
    }
}

impl Iterator for Rows<'_> {
    type Item = Result<Vec<Value>, StoreError>;

    fn next(&mut self) -> Option<Self::Item> {
        while self.next <= self.last && self.missing < GAP {
            let at = self.next;
            self.next += 1;
            match self.row(at) {
                Ok(None) => self.missing += 1,
                Ok(Some(row)) => {
                    self.missing = 0;
                    return Some(Ok(row));
                }
                Err(error) => {
                    // Where the whole of a page is gone, each of its rows fails.
                    self.missing += 1;
                    return Some(Err(error));
                }
            }
        }
        None
    }
}
