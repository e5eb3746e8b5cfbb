//! Open formats, bytes to values and back.
//!
//! | what | in | out |
//! |---|---|---|
//! | spectra and Lab, CGATS.17 text | [`import()`] | [`cgats()`] |
//! | spectra and Lab, CxF/X (ISO 17972-1) | [`import()`] | [`cxf()`] |
//! | a table of colours or spectra, CSV | [`import()`] | [`csv()`] |
//! | a palette of 8-bit codes, .gpl | [`import()`] | [`gpl()`] |
//! | what is done when, iCalendar (RFC 5545) | | [`calendar()`] |
//! | a photo to pick colours from | [`photo()`] | [`photo_as_jpeg()`] |
//! | a photo to keep | [`kept_photo()`]; when it was taken: [`taken()`] | [`kept_photo()`] |
//!
//! Everything here is a function of the bytes it is given: no file is opened. Hostile bytes are expected: sizes are
//! checked before anything is decoded, and every error says where it is and what to do.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod calendar;
mod cgats;
mod cxf;
mod jpeg;
mod palette;
mod photo;
mod pixels;
mod sample;
mod table;
mod text;

pub use calendar::{CalendarEvent, calendar};
pub use cgats::cgats;
pub use cxf::cxf;
pub use palette::gpl;
pub use photo::{BadPhoto, LARGEST_PHOTO, kept_photo, photo, photo_as_jpeg, taken};
pub use sample::{BadFile, BadRow, Sample, Told};
pub use table::{csv, hex};
pub use text::LARGEST_FILE;

use sample::Rows;

/// Which format a file is in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Format {
    /// CGATS.17 text.
    Cgats,
    /// CxF/X XML.
    Cxf,
    /// CSV.
    Csv,
    /// A .gpl palette.
    Gpl,
}

impl Format {
    /// What it is called.
    pub const fn name(self) -> &'static str {
        match self {
            Format::Cgats => "CGATS.17",
            Format::Cxf => "CxF/X",
            Format::Csv => "CSV",
            Format::Gpl => ".gpl palette",
        }
    }

    /// Told by how the text begins.
    fn of(text: &str) -> Self {
        let start = text.trim_start();
        if start.starts_with('<') {
            Format::Cxf
        } else if start.starts_with(palette::HEAD) {
            Format::Gpl
        } else if text.lines().any(|line| line.trim() == "BEGIN_DATA_FORMAT" || line.trim() == "BEGIN_DATA") {
            Format::Cgats
        } else {
            Format::Csv
        }
    }
}

/// A file as it was read.
#[derive(Debug, Clone, PartialEq)]
pub struct ImportedFile {
    /// Which format it is in.
    pub format: Format,
    /// Whether it was written here, of paints as they were known: what it says was predicted, not read.
    pub predicted: bool,
    /// What stands in it.
    pub samples: Vec<Sample>,
    /// Rows of which nothing can be made.
    pub bad: Vec<BadRow>,
}

/// Reads a file of any of the formats; nothing in it is trusted.
pub fn import(bytes: &[u8], told: Told) -> Result<ImportedFile, BadFile> {
    let text = text::text(bytes)?;
    let format = Format::of(text);
    let Rows { samples, bad } = match format {
        Format::Cgats => cgats::read(text, told),
        Format::Cxf => cxf::read(text, told),
        Format::Csv => table::read(text, told),
        Format::Gpl => palette::read(text),
    }?;
    let predicted = match format {
        Format::Cgats => cgats::is_ours(text),
        Format::Cxf => cxf::is_ours(text),
        Format::Gpl => palette::is_ours(text),
        // The tins as they are stated, with their source.
        Format::Csv => false,
    };
    Ok(ImportedFile { format, predicted, samples, bad })
}
