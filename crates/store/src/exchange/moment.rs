//! One moment of a workspace file, read while others use it.

use std::collections::{BTreeMap, HashMap, HashSet};

use rusqlite::{Connection, OptionalExtension, params};
use serde_json::value::RawValue;
use warm_blend_documents::{Archived, ArchivedPhoto, ByKind, Id, KINDS, PHOTO, Reference, uses_of};

use crate::{
    Store, StoreError,
    fields::{parse_by, parse_id, parse_time},
    open::at_one_moment,
    photos,
};

/// What leaves a workspace: what is there, what was deleted but is still spoken of in the log, and all that these refer to.
/// Something whose making was undone never was.
const LEAVING: &str = "WITH RECURSIVE leaving (id) AS (
        SELECT id FROM document WHERE removed = 0 OR id IN (SELECT document FROM log_line)
        UNION SELECT used FROM reference JOIN leaving ON reference.user = leaving.id)
    SELECT id, kind, removed, made_at, changed_at, body, made_by FROM document WHERE id IN (SELECT id FROM leaving) ORDER BY id";

/// A workspace file at one moment, whatever is written to it meanwhile.
#[derive(Debug)]
pub struct Moment {
    connection: Connection,
}

impl Store {
    /// The file as it is now.
    pub fn moment(&self) -> Result<Moment, StoreError> {
        Ok(Moment { connection: at_one_moment(self.path())? })
    }
}

impl Moment {
    /// All documents, in the order of their ids.
    pub fn documents(&self) -> Result<ByKind, StoreError> {
        let mut query = self.connection.prepare(LEAVING)?;
        let mut rows = query.query([])?;
        let mut all = ByKind::new();
        while let Some(row) = rows.next()? {
            let kind: String = row.get(1)?;
            let Some(kind) = KINDS.iter().find(|known| **known == kind) else { continue };
            let time = |n: usize| parse_time(&row.get::<_, String>(n)?);
            all.entry(*kind).or_default().push(Archived {
                id: parse_id(&row.get::<_, String>(0)?)?,
                deleted: row.get(2)?,
                made_at: time(3)?,
                changed_at: time(4)?,
                made_by: parse_by(row.get(6)?),
                value: RawValue::from_string(row.get(5)?)?,
            });
        }
        Ok(all)
    }

    /// One document with everything that it needs: what it refers to, and what was read of that.
    pub fn with_all_it_needs(&self, id: Id) -> Result<ByKind, StoreError> {
        let all = self.documents()?;
        let mut uses: HashMap<Id, (&str, Vec<Reference>)> = HashMap::new();
        for (kind, documents) in &all {
            for document in documents {
                uses.insert(document.id, (kind, uses_of(kind, document.value.get())?));
            }
        }
        if !uses.contains_key(&id) {
            return Err(StoreError::Unknown { kind: "entry", id });
        }
        let mut needed = HashSet::new();
        let mut next = vec![id];
        while let Some(id) = next.pop() {
            if needed.insert(id) {
                next.extend(uses.get(&id).into_iter().flat_map(|(_, uses)| uses).map(|used| used.id));
            }
        }
        let readings: Vec<Id> = uses
            .iter()
            .filter(|(_, (kind, uses))| {
                kind.ends_with("reading") && uses.iter().all(|used| needed.contains(&used.id))
            })
            .map(|(id, _)| *id)
            .collect();
        needed.extend(readings);
        let of_kind = |(kind, mut documents): (&'static str, Vec<Archived>)| {
            documents.retain(|document| needed.contains(&document.id));
            (!documents.is_empty()).then_some((kind, documents))
        };
        Ok(all.into_iter().filter_map(of_kind).collect())
    }

    /// Photos that documents refer to.
    pub fn photos(&self, documents: &ByKind) -> Result<Vec<ArchivedPhoto>, StoreError> {
        let mut found = BTreeMap::new();
        let mut query = self.connection.prepare("SELECT made_at FROM photo WHERE id = ?1")?;
        for (kind, documents) in documents {
            for document in documents {
                let uses = uses_of(kind, document.value.get())?;
                for used in uses.into_iter().filter(|used| used.kind == PHOTO) {
                    let made_at: Option<String> =
                        query.query_row(params![used.id.to_string()], |row| row.get(0)).optional()?;
                    if let Some(made_at) = made_at {
                        let made_at = parse_time(&made_at)?;
                        found.insert(used.id, ArchivedPhoto { id: used.id, made_at });
                    }
                }
            }
        }
        Ok(found.into_values().collect())
    }

    /// A photo, a JPEG file.
    pub fn photo(&self, id: Id) -> Result<Vec<u8>, StoreError> {
        photos::read(&self.connection, id)?.ok_or(StoreError::Dangling(id))
    }
}
