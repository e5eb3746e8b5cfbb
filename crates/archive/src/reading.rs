//! Reading an archive, which may be damaged, foreign or hostile.

use std::{
    collections::{HashMap, HashSet},
    io::{Read, Seek},
};

use jiff::Timestamp;
use warm_blend_documents::{Archived, ArchivedPhoto, ByKind, Id, KINDS, PHOTO, uses_of};
use zip::{ZipArchive, result::ZipError};

use crate::{
    BadArchive,
    manifest::{MANIFEST, Manifest, documents_of, photo_file},
};

/// Largest files of an archive once unpacked, bytes.
const LARGEST_MANIFEST: u64 = 16 << 20;
const LARGEST_DOCUMENTS: u64 = 256 << 20;
const LARGEST_PHOTO: u64 = 40 << 20;
/// All documents together, bytes.
const ALL_DOCUMENTS: u64 = 512 << 20;
/// Greatest number of files in an archive.
const FILES: usize = 100_000;

/// How a JPEG file begins (ISO/IEC 10918-1, B.2.1: the marker SOI, and that of the next segment).
const JPEG: [u8; 3] = [0xFF, 0xD8, 0xFF];

/// An open archive. All of it was read once and found sound.
#[derive(Debug)]
pub struct Archive<R> {
    /// When it was written.
    pub made_at: Timestamp,
    /// Its documents by kind, each complete: everything that one refers to is there.
    pub documents: ByKind,
    /// Its photos.
    pub photos: Vec<ArchivedPhoto>,
    /// The photos themselves, read when they are asked for.
    pub files: PhotoFiles<R>,
}

/// The photos in an archive.
#[derive(Debug)]
pub struct PhotoFiles<R>(ZipArchive<R>);

impl<R: Read + Seek> Archive<R> {
    /// Opens an archive and reads all of it once, so that nothing turns out to be damaged halfway through an import.
    pub fn open(from: R) -> Result<Self, BadArchive> {
        let mut zip = ZipArchive::new(from).map_err(unreadable)?;
        if zip.len() > FILES {
            return Err(BadArchive::TooLarge("the list of its files".to_owned()));
        }
        let manifest = unpacked(&mut zip, MANIFEST, LARGEST_MANIFEST)?;
        let manifest = Manifest::read(&manifest.ok_or_else(|| BadArchive::Foreign(MANIFEST.to_owned()))?)?;
        let documents = documents(&mut zip)?;
        let found = documents.values().map(Vec::len).sum::<usize>();
        if found != manifest.documents {
            let why = format!("{} documents are listed, {found} are there", manifest.documents);
            return Err(BadArchive::damaged(MANIFEST, why));
        }
        let mut files = PhotoFiles(zip);
        for photo in &manifest.photos {
            files.photo(photo.id)?;
        }
        let archive = Self { made_at: manifest.made_at, documents, photos: manifest.photos, files };
        archive.check_references()?;
        Ok(archive)
    }

    fn check_references(&self) -> Result<(), BadArchive> {
        let mut kinds: HashMap<Id, &str> = HashMap::new();
        for (kind, documents) in &self.documents {
            for document in documents {
                if kinds.insert(document.id, kind).is_some() {
                    return Err(BadArchive::damaged(
                        &documents_of(kind),
                        format!("{} is there twice", document.id),
                    ));
                }
            }
        }
        for (kind, documents) in &self.documents {
            for document in documents {
                let uses = uses_of(kind, document.value.get());
                let uses = uses.map_err(|why| {
                    BadArchive::damaged(&documents_of(kind), format!("{}: {why}", document.id))
                })?;
                // What was set aside before it left may refer to nothing.
                let mut needed = uses.iter().filter(|used| !document.deleted && used.kind != PHOTO);
                if needed.any(|used| kinds.get(&used.id) != Some(&used.kind)) {
                    return Err(BadArchive::Incomplete { what: format!("the {kind} {}", document.id) });
                }
            }
        }
        let mut photos = HashSet::new();
        match self.photos.iter().find(|photo| kinds.contains_key(&photo.id) || !photos.insert(photo.id)) {
            Some(photo) => Err(BadArchive::damaged(MANIFEST, format!("{} is there twice", photo.id))),
            None => Ok(()),
        }
    }
}

impl<R: Read + Seek> PhotoFiles<R> {
    /// A photo, a JPEG file.
    pub fn photo(&mut self, id: Id) -> Result<Vec<u8>, BadArchive> {
        let name = photo_file(id);
        let bytes = unpacked(&mut self.0, &name, LARGEST_PHOTO)?;
        let bytes = bytes.ok_or_else(|| BadArchive::damaged(&name, "it is missing"))?;
        if bytes.starts_with(&JPEG) { Ok(bytes) } else { Err(BadArchive::damaged(&name, "it is no JPEG")) }
    }
}

fn documents<R: Read + Seek>(zip: &mut ZipArchive<R>) -> Result<ByKind, BadArchive> {
    let mut all = ByKind::new();
    let mut left = ALL_DOCUMENTS;
    for kind in KINDS {
        let name = documents_of(kind);
        let Some(bytes) = unpacked(zip, &name, LARGEST_DOCUMENTS.min(left))? else { continue };
        left -= bytes.len() as u64;
        let of_kind: Vec<Archived> =
            serde_json::from_slice(&bytes).map_err(|why| BadArchive::damaged(&name, why))?;
        all.insert(*kind, of_kind);
    }
    Ok(all)
}

/// A file of the zip, unpacked up to a limit; `None` if there is none of this name.
fn unpacked<R: Read + Seek>(
    zip: &mut ZipArchive<R>,
    name: &str,
    most: u64,
) -> Result<Option<Vec<u8>>, BadArchive> {
    let file = match zip.by_name(name) {
        Ok(file) => file,
        Err(ZipError::FileNotFound) => return Ok(None),
        Err(why) => return Err(BadArchive::damaged(name, why)),
    };
    let mut bytes = Vec::new();
    // What a zip says of a size is only what it says.
    file.take(most + 1).read_to_end(&mut bytes).map_err(|why| BadArchive::damaged(name, why))?;
    if bytes.len() as u64 > most { Err(BadArchive::TooLarge(name.to_owned())) } else { Ok(Some(bytes)) }
}

fn unreadable(why: ZipError) -> BadArchive {
    match why {
        ZipError::Io(why) if why.kind() != std::io::ErrorKind::UnexpectedEof => BadArchive::Disk(why),
        why => BadArchive::NotAnArchive(why.to_string()),
    }
}
