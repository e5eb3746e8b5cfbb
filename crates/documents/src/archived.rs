//! Documents as text, on their way from one workspace to another.

use std::collections::BTreeMap;

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use serde_json::value::RawValue;
use warm_blend_paint::Name;

use crate::document::Id;

/// Documents by their kind.
pub type ByKind = BTreeMap<&'static str, Vec<Archived>>;

/// A document as an archive holds it.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Archived {
    /// Id.
    pub id: Id,
    /// True if it was deleted, and something still refers to it or the log speaks of it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub deleted: bool,
    /// Time of creation.
    pub made_at: Timestamp,
    /// Time of the last change.
    pub changed_at: Timestamp,
    /// Who made it, if they are named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub made_by: Option<Name>,
    /// The document as it is saved. Its text is kept, so that every number stays what it was.
    pub value: Box<RawValue>,
}

/// A photo as an archive lists it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct ArchivedPhoto {
    /// Id.
    pub id: Id,
    /// When it was saved.
    pub made_at: Timestamp,
}
