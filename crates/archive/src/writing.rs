//! Writing an archive.

use std::io::{Seek, Write};

use jiff::Timestamp;
use warm_blend_documents::{Archived, ArchivedPhoto, ByKind, Id, KINDS};
use zip::{CompressionMethod, DateTime, ZipWriter, result::ZipResult, write::SimpleFileOptions};

use crate::manifest::{FORMAT, MANIFEST, Manifest, VERSION, documents_of, photo_file};

/// A file for other programs, written from the documents; it is not read again.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Extra {
    /// Name within the folder `views`.
    pub name: String,
    /// Contents.
    pub bytes: Vec<u8>,
}

const README: &str = include_str!("README.txt");

/// The JSON Schemas of the manifest and of each kind of document.
pub(crate) const SCHEMAS: [(&str, &str); 11] = [
    ("manifest", include_str!("../schemas/manifest.schema.json")),
    ("paint", include_str!("../schemas/paint.schema.json")),
    ("mix", include_str!("../schemas/mix.schema.json")),
    ("pour", include_str!("../schemas/pour.schema.json")),
    ("board", include_str!("../schemas/board.schema.json")),
    ("board-reading", include_str!("../schemas/board-reading.schema.json")),
    ("piece", include_str!("../schemas/piece.schema.json")),
    ("run-sheet", include_str!("../schemas/run-sheet.schema.json")),
    ("reading", include_str!("../schemas/reading.schema.json")),
    ("note", include_str!("../schemas/note.schema.json")),
    ("workshop", include_str!("../schemas/workshop.schema.json")),
];

/// Writes an archive. Photos are asked for one at a time, since all of them may not fit in memory.
///
/// # Errors
///
/// If it cannot be written, or a photo cannot be read.
pub fn write<W: Write + Seek>(
    to: W,
    now: Timestamp,
    documents: &ByKind,
    photos: &[ArchivedPhoto],
    mut photo: impl FnMut(Id) -> ZipResult<Vec<u8>>,
    views: &[Extra],
) -> ZipResult<W> {
    // The same contents make the same file.
    let plain = SimpleFileOptions::default().last_modified_time(DateTime::default());
    let stored = plain.compression_method(CompressionMethod::Stored);
    let packed = plain.compression_method(CompressionMethod::Deflated);
    let mut zip = ZipWriter::new(to);
    let mut file = |name: &str, options, bytes: &[u8]| -> ZipResult<()> {
        zip.start_file(name, options)?;
        Ok(zip.write_all(bytes)?)
    };
    let manifest = Manifest {
        format: FORMAT.to_owned(),
        version: VERSION,
        made_at: now,
        documents: documents.values().map(Vec::len).sum(),
        photos: photos.to_vec(),
    };
    file(MANIFEST, packed, &serde_json::to_vec_pretty(&manifest).map_err(std::io::Error::from)?)?;
    file("README.txt", packed, README.as_bytes())?;
    for (name, schema) in SCHEMAS {
        file(&format!("schemas/{name}.schema.json"), packed, schema.as_bytes())?;
    }
    for kind in KINDS {
        let of_kind = documents.get(kind).map_or(&[][..], Vec::as_slice);
        file(&documents_of(kind), packed, &lines(of_kind)?)?;
    }
    for Extra { name, bytes } in views {
        file(&format!("views/{name}"), packed, bytes)?;
    }
    for listed in photos {
        file(&photo_file(listed.id), stored, &photo(listed.id)?)?;
    }
    zip.finish()
}

/// A JSON array with one document a line.
fn lines(documents: &[Archived]) -> ZipResult<Vec<u8>> {
    let mut text = b"[".to_vec();
    for (n, document) in documents.iter().enumerate() {
        text.extend_from_slice(if n == 0 { b"\n" } else { b",\n" });
        serde_json::to_writer(&mut text, document).map_err(std::io::Error::from)?;
    }
    text.extend_from_slice(b"\n]\n");
    Ok(text)
}
