//! CSV: a header, then a line for each paint, with columns in any order.
//!
//! | column | content |
//! |---|---|
//! | `name` | the paint |
//! | `hex`, or `L`, `a`, `b` | its colour in daylight (D65, 2°) |
//! | `source` | its origin: `reader`, `chip`, `photo` or `guess`; without it, codes count as chips, curves as readings,
//! and for L, a, b a person is asked |
//! | `380` … `730`, `nm400`, `R_400` | reflectance in that band |
//!
//! Columns are separated by commas, semicolons or tabs; with semicolons or tabs, numbers may have a decimal comma.

use csv::ReaderBuilder;
use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::Srgb;

use crate::{
    sample::{BadFile, Rows, Sample, Told, Viewing, curve},
    text::{enough, number},
};

pub(crate) fn read(text: &str, told: Told) -> Result<Rows, BadFile> {
    // A record after CRLF is counted from the line it ends on: line ends are made plain first.
    let text = &text.replace("\r\n", "\n");
    let head = text.lines().next().unwrap_or("");
    let delimiter = [b';', b'\t', b',']
        .into_iter()
        .max_by_key(|by| head.bytes().filter(|byte| byte == by).count())
        .unwrap_or(b',');
    let commas = delimiter != b',';
    let mut reader = ReaderBuilder::new()
        .delimiter(delimiter)
        .flexible(true)
        .trim(csv::Trim::All)
        .from_reader(text.as_bytes());
    let broken = |error: csv::Error| {
        let line = error.position().map_or(1, |at| at.line() as usize);
        BadFile::at(line, "this line is not valid CSV; a quote may be missing")
    };
    let columns: Vec<Column> = reader.headers().map_err(broken)?.iter().map(Column::named).collect();
    let has = |wanted: fn(&Column) -> bool| columns.iter().any(wanted);
    if !has(|column| matches!(column, Column::Name)) {
        return Err(BadFile::at(1, "the first line must list the columns, including “name”"));
    }
    if !has(|column| matches!(column, Column::Hex | Column::Lab(_) | Column::Band(_))) {
        return Err(BadFile::at(
            1,
            "no colour column; name one “hex”, three “L”, “a”, “b”, or the bands by wavelength",
        ));
    }
    let mut rows = Rows::default();
    let at_name = columns.iter().position(|column| matches!(column, Column::Name)).unwrap_or(0);
    for record in reader.records() {
        let record = record.map_err(broken)?;
        let line = record.position().map_or(0, |at| at.line() as usize);
        if record.iter().all(str::is_empty) {
            continue;
        }
        enough(rows.count(), line)?;
        let read = if record.len() == columns.len() {
            sample(&record, &columns, commas, told, line)
        } else {
            Err(BadFile::at(line, format!("{} cells for {} columns", record.len(), columns.len())))
        };
        rows.take(&unguarded(record.get(at_name).unwrap_or_default()), read)?;
    }
    rows.or_none("no paints below the header line")
}

enum Column {
    Name,
    Hex,
    Lab(usize),
    Band(f64),
    Source,
    Other,
}

impl Column {
    fn named(text: &str) -> Self {
        let tidy = text.trim().trim_end_matches('*').to_ascii_lowercase();
        match tidy.as_str() {
            "name" | "paint" | "sample" => return Column::Name,
            "hex" | "code" => return Column::Hex,
            "l" | "lab_l" => return Column::Lab(0),
            "a" | "lab_a" => return Column::Lab(1),
            "b" | "lab_b" => return Column::Lab(2),
            "source" => return Column::Source,
            _ => {}
        }
        let digits = ["spectral_nm", "nm_", "nm", "r_", ""]
            .iter()
            .find_map(|prefix| tidy.strip_prefix(prefix)?.trim_end_matches("nm").trim().parse::<f64>().ok());
        match digits {
            Some(nm) if (300.0..=830.0).contains(&nm) => Column::Band(nm),
            _ => Column::Other,
        }
    }
}

fn sample(
    record: &csv::StringRecord,
    columns: &[Column],
    commas: bool,
    told: Told,
    line: usize,
) -> Result<Option<Sample>, BadFile> {
    let (mut name, mut hex, mut lab, mut points) = (String::new(), None, [None; 3], Vec::new());
    let mut source = None;
    for (cell, column) in record.iter().zip(columns) {
        let value = || {
            number(cell, commas).ok_or_else(|| {
                BadFile::at(line, format!("“{}” is not a number", cell.chars().take(40).collect::<String>()))
            })
        };
        match column {
            Column::Name => name = unguarded(cell),
            Column::Source => source = Source::find(cell),
            Column::Hex if !cell.is_empty() => hex = Some(cell),
            Column::Lab(i) if !cell.is_empty() => lab[*i] = Some(value()?),
            Column::Band(nm) if !cell.is_empty() => points.push((*nm, value()?)),
            _ => {}
        }
    }
    let mut notes = Vec::new();
    let (measured, usual) = match (hex, lab) {
        _ if !points.is_empty() => {
            (Measured::spectrum(curve(line, &points, told, &mut notes)?), Source::Reader)
        }
        (_, [Some(l), Some(a), Some(b)]) => {
            let lab = Viewing::default().to_daylight([l, a, b], line, &mut notes)?;
            (Measured::Colour(lab), told.source.or(source).ok_or(BadFile::Source { line })?)
        }
        (Some(hex), _) => {
            let code: Srgb = hex.parse().map_err(|error| BadFile::at(line, format!("{error}")))?;
            (Measured::Colour(code.to_lab()), Source::Chip)
        }
        // A medium has no colour: it is not a sample.
        _ => return Ok(None),
    };
    let name = if name.trim().is_empty() { format!("sample {line}") } else { name };
    Ok(Some(Sample { name, line, measured, source: source.unwrap_or(usual), notes }))
}

/// Writes a header and rows. Text that a spreadsheet would treat as a formula is escaped.
pub fn csv(head: &[&str], rows: &[Vec<String>]) -> Result<Vec<u8>, csv::Error> {
    let mut out = csv::WriterBuilder::new().from_writer(Vec::new());
    out.write_record(head)?;
    for row in rows {
        out.write_record(row.iter().map(|cell| guarded(cell)))?;
    }
    out.into_inner().map_err(|error| csv::Error::from(error.into_error()))
}

/// What a spreadsheet begins a formula with, the wide forms of East Asian keyboards too.
const FORMULA: [char; 11] = ['=', '+', '-', '@', '|', '＝', '＋', '－', '＠', '\t', '\r'];
/// What some spreadsheet takes for the end of a cell.
const ENDS: [char; 4] = [';', ',', '|', '\t'];

/// Whether a spreadsheet would begin a formula with this, apostrophes aside and what nobody sees.
fn begins_a_formula(part: &str) -> bool {
    let unseen = |c: char| matches!(c, '\'' | '\u{ad}' | '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}');
    part.trim_start_matches(unseen).starts_with(FORMULA)
}

/// A cell with an apostrophe more where a spreadsheet would begin a formula: at its start, or after what may end a cell
/// elsewhere. Numbers are left.
fn guarded(cell: &str) -> String {
    if cell.parse::<f64>().is_ok() {
        return cell.to_owned();
    }
    let mut out = String::with_capacity(cell.len() + 2);
    for part in cell.split_inclusive(ENDS) {
        if begins_a_formula(part) {
            out.push('\'');
        }
        out.push_str(part);
    }
    out
}

/// The same cell as it went out: one apostrophe less before what would have been a formula.
fn unguarded(cell: &str) -> String {
    cell.split_inclusive(ENDS)
        .map(|part| match part.strip_prefix('\'') {
            Some(rest) if begins_a_formula(rest) => rest,
            _ => part,
        })
        .collect()
}

/// Hex code that a screen shows for a reading.
pub fn hex(measured: &Measured) -> String {
    measured.on_screen().to_string()
}
