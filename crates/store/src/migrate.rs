//! Migrations of the file format.

use rusqlite::Connection;
use rusqlite_migration::{M, MigrationDefinitionError, Migrations};

use crate::StoreError;

/// All migrations. A change of format is a new entry here, never an edit of an old one.
pub(crate) const FORMS: &[M<'static>] = &[
    M::up(include_str!("migrations/1-documents.sql")),
    M::up(include_str!("migrations/2-batches.sql")),
    M::up(include_str!("migrations/3-photos.sql")),
    M::up(include_str!("migrations/4-mark.sql")),
    M::up(include_str!("migrations/5-log.sql")),
    M::up(include_str!("migrations/6-learnt.sql")),
    M::up(include_str!("migrations/7-set-aside.sql")),
    M::up(include_str!("migrations/8-deeds.sql")),
    M::up(include_str!("migrations/9-backup.sql")),
    M::up(include_str!("migrations/10-made-by.sql")),
    M::up(include_str!("migrations/11-practice.sql")),
    M::up(include_str!("migrations/12-quotes.sql")),
    M::up(include_str!("migrations/13-jars.sql")),
    M::up(include_str!("migrations/14-brushes.sql")),
    M::up(include_str!("migrations/15-patterns.sql")),
];

/// True if the file is new or has an older format.
pub(crate) fn is_of_older_form(connection: &Connection) -> Result<bool, StoreError> {
    let form: i64 = connection.pragma_query_value(None, "user_version", |row| row.get(0))?;
    Ok(form < FORMS.len() as i64)
}

/// Brings a file up to date.
pub(crate) fn migrate(connection: &mut Connection) -> Result<(), StoreError> {
    Migrations::from_slice(FORMS).to_latest(connection).map_err(|error| match error {
        rusqlite_migration::Error::RusqliteError { err, .. } => StoreError::from(err),
        // `inspect` has seen a stale form: the newer program was killed before its log was written back.
        rusqlite_migration::Error::MigrationDefinition(MigrationDefinitionError::DatabaseTooFarAhead) => {
            StoreError::Newer
        }
        other => StoreError::Damaged(other.to_string()),
    })?;
    crate::set_aside::look_through(connection)?;
    crate::log::fill(connection)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_migrations_are_sound() {
        assert_eq!(Migrations::from_slice(FORMS).validate(), Ok(()));
    }
}
