//! Unusable entries, from a file older than the checks of references or edited by hand.

use rusqlite::{Connection, Transaction, params};
use warm_blend_documents::{Id, PHOTO, uses_of};

use crate::fields::parse_id;
use crate::rows::{Named, bodies, point_unverified};
use crate::{StoreError, error, log};

/// An unusable entry.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SetAside {
    /// Its id.
    pub id: Id,
    /// Its kind: `mix`.
    pub kind: String,
    /// Its name, if it has one.
    pub name: Option<String>,
    /// What is wrong with it.
    pub why: String,
}

impl SetAside {
    /// A title: `the mix “drift blue”`.
    pub fn title(&self) -> String {
        let kind = error::words(&self.kind);
        self.name
            .as_ref()
            .map_or_else(|| format!("a {kind} without a name"), |name| format!("the {kind} “{name}”"))
    }
}

/// Unusable entries, in the order in which they were created.
pub(crate) fn all(connection: &Connection) -> Result<Vec<SetAside>, StoreError> {
    let mut query = connection.prepare_cached(
        "SELECT id, kind, CAST(body ->> '$.name' AS TEXT), why FROM set_aside JOIN document ON document.id = set_aside.document
         ORDER BY id",
    )?;
    let rows =
        query.query_map([], |row| Ok((row.get::<_, String>(0)?, row.get(1)?, row.get(2)?, row.get(3)?)))?;
    rows.map(|row| {
        let (id, kind, name, why) = row?;
        Ok(SetAside { id: parse_id(&id)?, kind, name, why })
    })
    .collect()
}

/// Permanently deletes an entry.
pub(crate) fn delete(change: &Transaction<'_>, id: Id) -> Result<(), StoreError> {
    change.execute("DELETE FROM set_aside WHERE document = ?1", [id.to_string()])?;
    Ok(())
}

/// Sets a document aside if it is unusable; returns whether it was.
pub(crate) fn set_aside_if_unusable(
    change: &Transaction<'_>,
    id: Id,
    kind: &str,
    body: &str,
) -> Result<bool, StoreError> {
    let why = match uses_of(kind, body) {
        Err(error) => format!("it cannot be read ({error})"),
        Ok(uses) => {
            // A photo may have been freed.
            let mut documents = uses.iter().filter(|used| used.kind != PHOTO);
            match documents.try_for_each(|used| Named::of(change, used).map(drop)) {
                Ok(()) => return Ok(false),
                Err(StoreError::Dangling(_)) => "it names something that is not in this workspace".to_owned(),
                Err(StoreError::Misfit { wanted, found, .. }) => {
                    format!("it names {} where {} belongs", error::article(&found), error::article(wanted))
                }
                Err(error) => return Err(error),
            }
        }
    };
    change.execute(
        "UPDATE document SET removed = 1, revision = revision + 1 WHERE id = ?1",
        [id.to_string()],
    )?;
    change.execute(
        "INSERT OR REPLACE INTO set_aside (document, why) VALUES (?1, ?2)",
        params![id.to_string(), why],
    )?;
    point_unverified(change, id, &[])?;
    log::forget(change, id)?;
    Ok(true)
}

/// Searches a file for unusable entries, once.
pub(crate) fn look_through(connection: &mut Connection) -> Result<(), StoreError> {
    let done: bool = connection.query_row("SELECT looked_through FROM mark", [], |row| row.get(0))?;
    if done {
        return Ok(());
    }
    let change = connection.transaction()?;
    for (id, kind, body) in bodies(&change, "WHERE removed = 0")? {
        set_aside_if_unusable(&change, id, &kind, &body)?;
    }
    change.execute("UPDATE mark SET looked_through = 1", [])?;
    change.commit()?;
    Ok(())
}
