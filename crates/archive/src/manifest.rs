//! The first file of an archive, and the names of the others.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use warm_blend_documents::{ArchivedPhoto, Id};

use crate::BadArchive;

/// The first file of an archive.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Manifest {
    /// [`FORMAT`].
    pub format: String,
    /// [`VERSION`].
    pub version: u32,
    /// When it was written.
    pub made_at: Timestamp,
    /// Number of documents.
    pub documents: usize,
    /// The photos.
    pub photos: Vec<ArchivedPhoto>,
}

/// What every version of the manifest has.
#[derive(Deserialize)]
struct Head {
    format: String,
    version: u32,
}

impl Manifest {
    /// Reads a manifest. A newer version is named before anything else of it is looked at.
    pub fn read(bytes: &[u8]) -> Result<Self, BadArchive> {
        let damaged = |why| BadArchive::damaged(MANIFEST, why);
        let Head { format, version } = serde_json::from_slice(bytes).map_err(damaged)?;
        if format != FORMAT {
            return Err(BadArchive::Foreign(format!("manifest with the format “{FORMAT}”")));
        }
        if version > VERSION {
            return Err(BadArchive::Newer(version));
        }
        serde_json::from_slice(bytes).map_err(damaged)
    }
}

/// What the manifest calls the format.
pub(crate) const FORMAT: &str = "warm-blend archive";
/// Version of the format that is written. Older ones are read, newer ones refused.
pub(crate) const VERSION: u32 = 1;

/// Name of the manifest.
pub(crate) const MANIFEST: &str = "manifest.json";

/// Name of the file with the documents of a kind.
pub(crate) fn documents_of(kind: &str) -> String {
    format!("documents/{kind}.json")
}

/// Name of the file of a photo.
pub(crate) fn photo_file(id: Id) -> String {
    format!("photos/{id}.jpg")
}
