//! Taking documents of another workspace in, by their ids.

use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension, Transaction, params};
use serde_json::Value;
use warm_blend_documents::{
    Archived, ArchivedPhoto, ByKind, Document as _, Id, PHOTO, Reference, Workshop, checked,
};

use crate::{
    ChangeSet, Store, StoreError, log,
    rows::{Named, parse_id, point_unverified, put},
};

/// Which version of a document stays where both workspaces changed it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Stays {
    /// That of this workspace.
    Mine,
    /// That of the other.
    Theirs,
    /// The one that was changed last.
    #[default]
    Newer,
}

/// What a merge would do.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Comparison {
    /// Documents that this workspace does not have.
    pub new: Vec<Brought>,
    /// Documents that are the same in both.
    pub same: usize,
    /// Documents that differ.
    pub different: Vec<Differing>,
    /// Number of photos that this workspace does not have.
    pub photos: usize,
}

/// A document that a merge would bring.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Brought {
    /// Id.
    pub id: Id,
    /// Kind.
    pub kind: &'static str,
    /// Name, if it has one.
    pub name: Option<String>,
}

/// A document that differs between two workspaces.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Differing {
    /// The document.
    pub of: Brought,
    /// When it was last changed here.
    pub mine: Timestamp,
    /// True if it was deleted here.
    pub deleted: bool,
    /// When it was last changed there.
    pub theirs: Timestamp,
}

/// What a merge did.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Merged {
    /// Number of documents that were added.
    pub added: usize,
    /// Number of documents of which the other version was taken.
    pub changed: usize,
    /// Number of photos that were added.
    pub photos: usize,
}

/// How a document of the other workspace compares with this one's.
enum Case {
    New,
    Same,
    Different {
        id: Id,
        mine: Timestamp,
        deleted: bool,
        body: String,
    },
    /// Nothing was ever chosen here, or its making was undone: what is here is no version of it.
    Blank {
        id: Id,
        before: Option<String>,
    },
}

impl Differing {
    fn is_taken(&self, stays: Stays) -> bool {
        match stays {
            Stays::Mine => false,
            Stays::Theirs => true,
            Stays::Newer => self.theirs > self.mine,
        }
    }
}

impl Store {
    /// Compares documents of another workspace with those of this one.
    pub fn compare(&self, documents: &ByKind, photos: &[ArchivedPhoto]) -> Result<Comparison, StoreError> {
        let mut found = Comparison::default();
        for (kind, of_kind) in documents {
            for document in of_kind {
                let of = || Brought { id: document.id, kind, name: name(document) };
                match case(&self.connection, kind, document)? {
                    Case::New if document.deleted => {}
                    Case::New | Case::Blank { .. } => found.new.push(of()),
                    Case::Same => found.same += 1,
                    Case::Different { mine, deleted, .. } => {
                        found.different.push(Differing {
                            of: of(),
                            mine,
                            deleted,
                            theirs: document.changed_at,
                        });
                    }
                }
            }
        }
        for photo in photos {
            found.photos += usize::from(!has_photo(&self.connection, photo.id)?);
        }
        Ok(found)
    }
}

impl ChangeSet<'_> {
    /// Takes documents of another workspace in. Photos are asked for one at a time.
    pub fn merge<E: From<StoreError>>(
        &mut self,
        documents: &ByKind,
        photos: &[ArchivedPhoto],
        stays: Stays,
        mut photo: impl FnMut(Id) -> Result<Vec<u8>, E>,
    ) -> Result<Merged, E> {
        let mut done = Merged::default();
        for listed in photos {
            if !has_photo(self.change, listed.id)? {
                keep_photo(self.change, *listed, &photo(listed.id)?)?;
                done.photos += 1;
            }
        }
        let mut written = Vec::new();
        for (kind, of_kind) in documents {
            for document in of_kind {
                written.extend(self.take(kind, document, stays, &mut done)?);
            }
        }
        // They may refer to each other, and the log names what they refer to.
        for (id, uses, deleted) in &written {
            // What was set aside before it left may refer to nothing.
            for used in uses.iter().filter(|used| !deleted && used.kind != PHOTO) {
                Named::of(self.change, used)?;
            }
            point_unverified(self.change, *id, uses)?;
        }
        for (id, ..) in &written {
            log::tell(self.change, *id)?;
        }
        Ok(done)
    }

    /// Writes a document, if it is new or its version is the one that stays.
    fn take(
        &mut self,
        kind: &'static str,
        document: &Archived,
        stays: Stays,
        done: &mut Merged,
    ) -> Result<Option<(Id, Vec<Reference>, bool)>, StoreError> {
        let (theirs, uses) = checked(kind, document.value.get())?;
        let id = match case(self.change, kind, document)? {
            Case::Same => return Ok(None),
            Case::New => {
                add(self.change, kind, document, &theirs)?;
                if !document.deleted {
                    self.record(document.id, None, Some(&theirs))?;
                    done.added += 1;
                }
                document.id
            }
            Case::Blank { id, before } => {
                put(self.change, id, &theirs, false)?;
                self.record(id, before.as_deref(), Some(&theirs))?;
                done.added += 1;
                id
            }
            Case::Different { id, mine, deleted, body } => {
                let of = Brought { id, kind, name: None };
                let differing = Differing { of, mine, deleted, theirs: document.changed_at };
                if !differing.is_taken(stays) {
                    return Ok(None);
                }
                put(self.change, id, &theirs, false)?;
                self.record(id, (!deleted).then_some(body.as_str()), Some(&theirs))?;
                done.changed += 1;
                id
            }
        };
        Ok(Some((id, uses, document.deleted)))
    }
}

fn case(connection: &Connection, kind: &'static str, document: &Archived) -> Result<Case, StoreError> {
    if kind == Workshop::KIND {
        return settings(connection, document);
    }
    let mut query =
        connection.prepare_cached("SELECT kind, removed, changed_at, body FROM document WHERE id = ?1")?;
    let row = query.query_row(params![document.id.to_string()], |row| {
        Ok((
            row.get::<_, String>(0)?,
            row.get::<_, bool>(1)?,
            row.get::<_, String>(2)?,
            row.get::<_, String>(3)?,
        ))
    });
    let Some((found, deleted, mine, body)) = row.optional()? else { return Ok(Case::New) };
    if found != kind {
        return Err(StoreError::Misfit { id: document.id, wanted: kind, found });
    }
    if deleted && !document.deleted && !was_there(connection, document.id)? {
        return Ok(Case::Blank { id: document.id, before: None });
    }
    // What was deleted there is not deleted here.
    let same = document.deleted && !deleted || deleted == document.deleted && is_same(kind, &body, document)?;
    match same {
        true => Ok(Case::Same),
        false => Ok(Case::Different { id: document.id, mine: time(&mine)?, deleted, body }),
    }
}

/// Whether a deleted document was ever there: the log speaks of it unless its making was undone.
fn was_there(connection: &Connection, id: Id) -> Result<bool, StoreError> {
    let mut query =
        connection.prepare_cached("SELECT EXISTS (SELECT 1 FROM log_line WHERE document = ?1)")?;
    Ok(query.query_row([id.to_string()], |row| row.get(0))?)
}

/// There is one set of choices in a workspace, whatever its id.
fn settings(connection: &Connection, document: &Archived) -> Result<Case, StoreError> {
    let mut query = connection.prepare_cached(
        "SELECT id, changed_at, body FROM document WHERE kind = ?1 AND removed = 0 ORDER BY id LIMIT 1",
    )?;
    let row = query.query_row(params![Workshop::KIND], |row| {
        Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?, row.get::<_, String>(2)?))
    });
    let Some((id, mine, body)) = row.optional()? else { return Ok(Case::New) };
    let id = parse_id(&id)?;
    if document.deleted || is_same(Workshop::KIND, &body, document)? {
        return Ok(Case::Same);
    }
    match serde_json::from_str::<Workshop>(&body)? == Workshop::default() {
        true => Ok(Case::Blank { id, before: Some(body) }),
        false => Ok(Case::Different { id, mine: time(&mine)?, deleted: false, body }),
    }
}

/// Whether a body says what a document of another workspace says.
fn is_same(kind: &str, body: &str, document: &Archived) -> Result<bool, StoreError> {
    if body == document.value.get() {
        return Ok(true);
    }
    let (theirs, _) = checked(kind, document.value.get())?;
    Ok(serde_json::from_str::<Value>(body)? == serde_json::from_str::<Value>(&theirs)?)
}

fn add(change: &Transaction<'_>, kind: &str, document: &Archived, body: &str) -> Result<(), StoreError> {
    change.prepare_cached(
        "INSERT INTO document (id, kind, revision, body, removed, made_at, changed_at) VALUES (?1, ?2, 1, ?3, ?4, ?5, ?6)",
    )?
    .execute(params![
        document.id.to_string(),
        kind,
        body,
        document.deleted,
        document.made_at.to_string(),
        document.changed_at.to_string()
    ])?;
    Ok(())
}

fn has_photo(connection: &Connection, id: Id) -> Result<bool, StoreError> {
    let mut query = connection.prepare_cached("SELECT EXISTS (SELECT 1 FROM photo WHERE id = ?1)")?;
    Ok(query.query_row([id.to_string()], |row| row.get(0))?)
}

fn keep_photo(change: &Transaction<'_>, listed: ArchivedPhoto, jpeg: &[u8]) -> Result<(), StoreError> {
    change.prepare_cached("INSERT INTO photo (id, jpeg, made_at) VALUES (?1, ?2, ?3)")?.execute(params![
        listed.id.to_string(),
        jpeg,
        listed.made_at.to_string()
    ])?;
    Ok(())
}

fn time(text: &str) -> Result<Timestamp, StoreError> {
    text.parse().map_err(|error: jiff::Error| StoreError::Damaged(error.to_string()))
}

fn name(document: &Archived) -> Option<String> {
    #[derive(serde::Deserialize)]
    struct Named {
        name: Option<String>,
    }
    serde_json::from_str::<Named>(document.value.get()).ok()?.name
}
