//! Open formats, from bytes to values and back.
//!
//! | content | read | write |
//! |---|---|---|
//! | spectra and Lab, CGATS.17 text | [`import()`] | [`cgats()`] |
//! | spectra and Lab, CxF/X (ISO 17972-1) | [`import()`] | [`cxf()`] |
//! | a table of colours or spectra, CSV | [`import()`] | [`csv()`] |
//! | a palette of 8-bit codes, .gpl | [`import()`] | [`gpl()`] |
//! | the same as a drawing, SVG | | [`svg()`] |
//! | an outline for a stencil, SVG | [`outline_of_drawing()`], of a word: [`outline_of_word()`] | |
//! | dates of steps, iCalendar (RFC 5545) | | [`calendar()`] |
//! | a photo to pick colours from | [`photo()`] | [`photo_as_jpeg()`] |
//! | a photo to save | [`kept_photo()`]; when it was taken: [`taken()`] | [`kept_photo()`] |
//!
//! Everything here is a function of bytes; no file is opened. Input may be hostile: sizes are checked before decoding,
//! and every error says where it is and what to do.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod calendar;
mod cgats;
mod cxf;
mod drawing;
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
pub use drawing::{BadDrawing, LARGEST_DRAWING, outline_of_drawing, outline_of_word};
pub use palette::{gpl, svg};
pub use photo::{BadPhoto, LARGEST_PHOTO, kept_photo, photo, photo_as_jpeg, taken};
pub use sample::{BadFile, BadRow, Sample, Samples, Told};
pub use table::{csv, hex};
pub use text::LARGEST_FILE;

use sample::Rows;

/// Format of a file.
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
    /// Name.
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

/// An imported file.
#[derive(Debug, Clone, PartialEq)]
pub struct ImportedFile {
    /// Which format it is in.
    pub format: Format,
    /// True if this program wrote it as a prediction: its values are not measurements.
    pub predicted: bool,
    /// Its samples.
    pub samples: Vec<Sample>,
    /// Rows that cannot be used.
    pub bad: Vec<BadRow>,
}

/// Reads a file of any of the formats, trusting nothing in it.
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
