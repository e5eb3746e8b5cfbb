//! Taking documents of another workspace in, by their ids.

use jiff::Timestamp;
use rusqlite::{Connection, OptionalExtension, params};
use serde_json::Value;
use warm_blend_documents::{
    Archived, ArchivedPhoto, ByKind, Document as _, Id, PHOTO, Reference, Workshop, checked,
};

use crate::{
    ChangeSet, Store, StoreError,
    fields::{name_in, parse_id, parse_time},
    log, photos,
    rows::{Named, add, point_unverified, put},
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

impl Stays {
    /// Whether it is the other workspace's version, where they were changed at these times.
    fn is_theirs(self, mine: Timestamp, theirs: Timestamp) -> bool {
        match self {
            Self::Mine => false,
            Self::Theirs => true,
            Self::Newer => theirs > mine,
        }
    }
}

impl Store {
    /// Compares documents of another workspace with those of this one.
    pub fn compare(&self, documents: &ByKind, photos: &[ArchivedPhoto]) -> Result<Comparison, StoreError> {
        let mut found = Comparison::default();
        for (kind, of_kind) in documents {
            for document in of_kind {
                let of = || Brought { id: document.id, kind, name: name_in(document.value.get()) };
                match case(&self.connection, kind, document)? {
                    None => found.same += 1,
                    Some(Case::New) if document.deleted => {}
                    Some(Case::New | Case::Blank { .. }) => found.new.push(of()),
                    Some(Case::Different { mine, deleted, .. }) => found.different.push(Differing {
                        of: of(),
                        mine,
                        deleted,
                        theirs: document.changed_at,
                    }),
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
                photos::add(self.change, listed.id, listed.made_at, &photo(listed.id)?)?;
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
        let Some(case) = case(self.change, kind, document)? else { return Ok(None) };
        if let Case::Different { mine, .. } = &case
            && !stays.is_theirs(*mine, document.changed_at)
        {
            return Ok(None);
        }
        let (theirs, uses) = checked(kind, document.value.get())?;
        let (id, before) = match case {
            Case::New => {
                let times = (document.made_at, document.changed_at, document.made_by.as_ref());
                add(self.change, (document.id, kind), &theirs, times, document.deleted)?;
                done.added += usize::from(!document.deleted);
                (document.id, None)
            }
            Case::Blank { id, before } => {
                put(self.change, id, &theirs, false)?;
                done.added += 1;
                (id, before)
            }
            Case::Different { id, deleted, body, .. } => {
                put(self.change, id, &theirs, false)?;
                done.changed += 1;
                (id, (!deleted).then_some(body))
            }
        };
        // What arrives deleted changes nothing that could be undone.
        if !document.deleted {
            self.record(id, before.as_deref(), Some(&theirs))?;
        }
        Ok(Some((id, uses, document.deleted)))
    }
}

/// `None` if both are the same.
fn case(
    connection: &Connection,
    kind: &'static str,
    document: &Archived,
) -> Result<Option<Case>, StoreError> {
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
    let Some((found, deleted, mine, body)) = row.optional()? else { return Ok(Some(Case::New)) };
    if found != kind {
        return Err(StoreError::Misfit { id: document.id, wanted: kind, found });
    }
    // What was deleted there is not deleted here, and does not come back here either.
    if document.deleted || !deleted && is_same(kind, &body, document)? {
        return Ok(None);
    }
    Ok(Some(match deleted && !was_there(connection, document.id)? {
        true => Case::Blank { id: document.id, before: None },
        false => Case::Different { id: document.id, mine: parse_time(&mine)?, deleted, body },
    }))
}

/// Whether a deleted document was ever there: the log speaks of it unless its making was undone.
fn was_there(connection: &Connection, id: Id) -> Result<bool, StoreError> {
    let mut query =
        connection.prepare_cached("SELECT EXISTS (SELECT 1 FROM log_line WHERE document = ?1)")?;
    Ok(query.query_row([id.to_string()], |row| row.get(0))?)
}

/// There is one set of choices in a workspace, whatever its id.
fn settings(connection: &Connection, document: &Archived) -> Result<Option<Case>, StoreError> {
    let mut query = connection.prepare_cached(
        "SELECT id, changed_at, body FROM document WHERE kind = ?1 AND removed = 0 ORDER BY id LIMIT 1",
    )?;
    let row = query.query_row(params![Workshop::KIND], |row| {
        Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?, row.get::<_, String>(2)?))
    });
    let Some((id, mine, body)) = row.optional()? else { return Ok(Some(Case::New)) };
    let id = parse_id(&id)?;
    if document.deleted || is_same(Workshop::KIND, &body, document)? {
        return Ok(None);
    }
    Ok(Some(match serde_json::from_str::<Workshop>(&body)? == Workshop::default() {
        true => Case::Blank { id, before: Some(body) },
        false => Case::Different { id, mine: parse_time(&mine)?, deleted: false, body },
    }))
}

/// Whether a body says what a document of another workspace says.
fn is_same(kind: &str, body: &str, document: &Archived) -> Result<bool, StoreError> {
    if body == document.value.get() {
        return Ok(true);
    }
    let (theirs, _) = checked(kind, document.value.get())?;
    Ok(serde_json::from_str::<Value>(body)? == serde_json::from_str::<Value>(&theirs)?)
}

fn has_photo(connection: &Connection, id: Id) -> Result<bool, StoreError> {
    let mut query = connection.prepare_cached("SELECT EXISTS (SELECT 1 FROM photo WHERE id = ?1)")?;
    Ok(query.query_row([id.to_string()], |row| row.get(0))?)
}
