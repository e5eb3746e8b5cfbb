//! Import of files, with a preview.

use std::collections::HashMap;

use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::{Documents, Kept};
use warm_blend_interchange::{BadFile, BadRow, Format, Sample, Told, hex, import};
use warm_blend_learn::{LoggedReading, Measured, PartsMethod, Reading, ShelfPaint, Shown, Source};
use warm_blend_paint::{Class, FilmState, Masstone, Name, PaintId, Parts};
use warm_blend_spectral::Lab;

use crate::exports::WholeShelf;
use crate::{Fault, Refusal, ShelfSnapshot};

/// Options of an import.
#[derive(Debug, Clone, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HowToImport {
    /// Class of new paints; by default `chalk`.
    pub class: Option<Class>,
    /// Whether reflectance above 1 is percent; required after `urn:warm-blend:percent`.
    pub percent: Option<bool>,
    /// Origin of the readings: `reader`, `chip`, `photo` or `guess`; by default as stated by each sample. Required after
    /// `urn:warm-blend:source`.
    pub source: Option<Source>,
    /// True to leave out rows that cannot be read; otherwise they prevent the import.
    #[serde(default)]
    pub without_bad: bool,
    /// Name of the file, for the log.
    pub file: Option<String>,
}

/// Preview or result of an import.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportPlan {
    /// Format that was recognised: `CGATS.17`, `CxF/X`, `CSV`, `.gpl palette` or `Warm Blend shelf`.
    pub format: String,
    /// Lines.
    pub rows: Vec<ImportRow>,
    /// Summary: numbers of new paints, of readings of paints on the shelf, and of lines without effect.
    pub summary: String,
}

/// A line of an import.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportRow {
    /// Line number in the file, from 1.
    pub line: usize,
    /// Its name.
    pub name: String,
    /// Its colour on the screen.
    pub hex: String,
    /// `new`, `reading`, `skip`, or `bad` if it cannot be used.
    pub action: &'static str,
    /// Assumed origin: `reader`, `chip`, `photo` or `guess`.
    pub source: &'static str,
    /// As text: `a reading of oat white, from a chip or code`.
    pub words: String,
    /// Conversions made on import.
    pub notes: Vec<String>,
}

/// Effect of one sample.
#[derive(Debug)]
enum ImportAction {
    /// A paint that is not on the shelf.
    New(Box<ShelfPaint>, Log),
    /// A masstone reading of a paint on the shelf.
    Read(Uuid),
    /// A tin of an exported shelf, with its id there and its readings.
    Whole(Box<ShelfPaint>, Uuid, Vec<LoggedReading>),
    /// A tin of an exported shelf that is on this shelf too: its ids there and here.
    Same(Uuid, Uuid),
    /// No effect.
    Skip(&'static str),
}

/// Log entry for a new paint.
#[derive(Debug)]
enum Log {
    Masstone,
    Nothing,
}

/// Effect of a file on the shelf.
#[derive(Debug)]
pub struct Import {
    format: &'static str,
    actions: Vec<(Sample, ImportAction)>,
    bad: Vec<BadRow>,
    file: Option<Name>,
}

/// A name for comparison, without case and surrounding spaces.
fn normalised(name: &str) -> String {
    name.trim().to_lowercase()
}

/// A parsed file, not yet compared with the shelf.
#[derive(Debug)]
pub struct FileRead(Contents);

#[derive(Debug)]
enum Contents {
    Colours {
        format: Format,
        predicted: bool,
        class: Class,
        /// Each with whether a surface can have its colour.
        samples: Vec<(Sample, bool)>,
        bad: Vec<BadRow>,
        name: Option<Name>,
    },
    Whole(WholeShelf),
}

impl FileRead {
    /// Parses a file.
    pub fn of(bytes: &[u8], how: &HowToImport) -> Result<Self, Refusal> {
        if bytes.trim_ascii_start().starts_with(b"{") {
            return serde_json::from_slice(bytes).map(|whole| Self(Contents::Whole(whole))).map_err(
                |error| {
                    let what = format!("not a shelf in JSON ({error}); export one to see the format");
                    unread(&BadFile::Line { line: error.line().max(1), what })
                },
            );
        }
        let class = how.class.unwrap_or(Class::Chalk);
        if class.is_medium() {
            return Err(Refusal::field("?class", "choose a class of paint, not a medium"));
        }
        let warm_blend_interchange::ImportedFile { format, predicted, samples, bad } =
            import(bytes, Told { percent: how.percent, source: how.source })
                .map_err(|error| unread(&error))?;
        let looked_at = |mut sample: Sample| {
            // A prediction is worth no more than a guess.
            sample.source = how.source.unwrap_or(if predicted { Source::Guess } else { sample.source });
            let can_be = Masstone::Lab(sample.measured.lab()).reflectance().is_ok();
            (sample, can_be)
        };
        let samples = samples.into_par_iter().map(looked_at).collect();
        let short = |file: &str| Name::new(&file.chars().take(80).collect::<String>()).ok();
        let name = how.file.as_deref().and_then(short);
        Ok(Self(Contents::Colours { format, predicted, class, samples, bad, name }))
    }
}

impl Import {
    /// Compares a file with the shelf.
    pub fn of(file: FileRead, known: &ShelfSnapshot) -> Self {
        let (format, predicted, class, samples, bad, name) = match file.0 {
            Contents::Whole(whole) => return Self::of_whole_shelf(known, whole),
            Contents::Colours { format, predicted, class, samples, bad, name } => {
                (format, predicted, class, samples, bad, name)
            }
        };
        let here: HashMap<String, &Kept<ShelfPaint>> =
            known.tins().map(|tin| (normalised(tin.value.name.as_str()), tin)).collect();
        let mut before: HashMap<String, Vec<Measured>> = HashMap::new();
        let actions = samples.into_iter().map(|(sample, can_be)| {
            let earlier = before.entry(normalised(&sample.name)).or_default();
            let action = match here.get(&normalised(&sample.name)) {
                Some(tin) if tin.value.class.is_medium() => {
                    ImportAction::Skip("a medium with that name is on the shelf")
                }
                Some(_) if predicted => ImportAction::Skip("predicted here, not a reading"),
                Some(_) if format == Format::Gpl => {
                    ImportAction::Skip("already on the shelf; a palette adds nothing")
                }
                Some(_) if earlier.iter().any(|other| sample.measured.repeats(other, sample.source)) => {
                    ImportAction::Skip("repeats an earlier line")
                }
                Some(tin) => match known_already(known, tin, &sample) {
                    Some(why) => ImportAction::Skip(why),
                    None => ImportAction::Read(tin.id),
                },
                None if !earlier.is_empty() => ImportAction::Skip("repeats an earlier name"),
                None if !can_be => ImportAction::Skip("not a possible paint colour"),
                None => new_paint(&sample, class, predicted),
            };
            earlier.push(sample.measured.clone());
            (sample, action)
        });
        let actions: Vec<_> = actions.collect();
        Self { format: format.name(), actions, bad, file: name }
    }

    /// An exported shelf: its tins that are not on this shelf, with their readings.
    fn of_whole_shelf(shelf: &ShelfSnapshot, whole: WholeShelf) -> Self {
        let known: HashMap<String, Uuid> =
            shelf.tins().map(|tin| (normalised(tin.value.name.as_str()), tin.id)).collect();
        // A reading is imported with the last of its new tins; a reading of tins that are all here is here already.
        let new: Vec<Uuid> = whole
            .paints
            .iter()
            .filter(|tin| !known.contains_key(&normalised(tin.value.name.as_str())))
            .map(|tin| tin.id)
            .collect();
        let mut readings: HashMap<Uuid, Vec<LoggedReading>> = HashMap::new();
        for reading in whole.readings {
            let speaks_of = |id: &Uuid| reading.value.reading.of.iter().any(|(paint, _)| paint.0 == *id);
            if let Some(last) = new.iter().rev().find(|id| speaks_of(id)) {
                readings.entry(*last).or_default().push(reading.value);
            }
        }
        let actions = whole.paints.into_iter().enumerate().map(|(i, tin)| {
            let clear = Lab { l: 90.0, a: 0.0, b: 0.0 };
            let with = readings.remove(&tin.id).unwrap_or_default();
            let sample = Sample {
                name: tin.value.name.as_str().to_owned(),
                line: i + 1,
                measured: Measured::Colour(tin.value.masstone.map_or(clear, Masstone::lab)),
                source: tin.value.source,
                notes: if with.is_empty() {
                    Vec::new()
                } else {
                    vec![format!("with {} readings", with.len())]
                },
            };
            let action = match known.get(&normalised(&sample.name)) {
                Some(id) => ImportAction::Same(tin.id, *id),
                None if tin.value.material().is_err() => ImportAction::Skip("not a possible paint colour"),
                None => ImportAction::Whole(Box::new(tin.value), tin.id, with),
            };
            (sample, action)
        });
        Self { format: "Warm Blend shelf", actions: actions.collect(), bad: Vec::new(), file: None }
    }

    /// Preview, line by line.
    pub fn view(&self, shelf: &ShelfSnapshot) -> ImportPlan {
        let row = |(sample, action): &(Sample, ImportAction)| ImportRow {
            line: sample.line,
            name: sample.name.chars().take(80).collect(),
            hex: hex(&sample.measured),
            action: match action {
                ImportAction::New(..) | ImportAction::Whole(..) => "new",
                ImportAction::Read(_) => "reading",
                ImportAction::Skip(_) | ImportAction::Same(..) => "skip",
            },
            words: match action {
                ImportAction::Whole(..) => "a new paint".to_owned(),
                ImportAction::New(..) => format!("a new paint, {}", sample.source.words()),
                ImportAction::Same(..) => "left out: already on the shelf".to_owned(),
                ImportAction::Read(id) => {
                    let of = shelf.name(*id);
                    format!("a reading of {of}, {}", sample.source.words())
                }
                ImportAction::Skip(why) => format!("left out: {why}"),
            },
            source: sample.source.id(),
            notes: sample.notes.clone(),
        };
        let unread = |bad: &BadRow| ImportRow {
            line: bad.line,
            name: if bad.name.is_empty() { format!("line {}", bad.line) } else { bad.name.clone() },
            hex: String::new(),
            action: "bad",
            source: "",
            words: bad.what.clone(),
            notes: Vec::new(),
        };
        let mut rows: Vec<ImportRow> = self.actions.iter().map(row).collect();
        // Problems come first.
        rows.splice(0..0, self.bad.iter().map(unread));
        let count = |action: &str| rows.iter().filter(|row| row.action == action).count();
        let readings = match count("reading") {
            1 => "1 reading of a paint on the shelf".to_owned(),
            n => format!("{n} readings of paints on the shelf"),
        };
        let bad = match count("bad") {
            0 => String::new(),
            n => format!(", {n} that cannot be read"),
        };
        let summary = format!("{} new, {readings}, {} left out{bad}", count("new"), count("skip"));
        ImportPlan { format: self.format.to_owned(), rows, summary }
    }

    /// Checks that every row could be read, or that the others are to be left out.
    pub fn check(&self, how: &HowToImport) -> Result<(), Refusal> {
        if self.bad.is_empty() || how.without_bad {
            return Ok(());
        }
        let fault = |row: &BadRow| {
            let detail = format!("line {}: {}", row.line, row.what);
            Fault { pointer: format!("/rows/{}", row.line), detail }
        };
        Err(Refusal::Faults(self.bad.iter().map(fault).collect()))
    }

    /// Carries out the import.
    pub fn carry_out<D: Documents>(&self, documents: &mut D) -> Result<(), D::Error> {
        let file = self.file.clone();
        let mut here: HashMap<Uuid, Uuid> = HashMap::new();
        for (sample, action) in &self.actions {
            let id = match action {
                ImportAction::Skip(_) => continue,
                ImportAction::Same(there, id) => {
                    here.insert(*there, *id);
                    continue;
                }
                ImportAction::Whole(tin, there, _) => {
                    here.insert(*there, documents.make((**tin).clone())?.id);
                    continue;
                }
                ImportAction::Read(id) => *id,
                ImportAction::New(tin, Log::Nothing) => {
                    documents.make((**tin).clone())?;
                    continue;
                }
                ImportAction::New(tin, Log::Masstone) => documents.make((**tin).clone())?.id,
            };
            let Ok(one) = Parts::new(1.0) else { continue };
            let reading = Reading {
                of: vec![(PaintId(id), one)],
                pour: PartsMethod::Scale,
                state: FilmState::Dry,
                shown: Shown::Thick(sample.measured.clone()),
                source: sample.source,
                sure: false,
            };
            documents.make(LoggedReading { reading, note: None, device: file.clone(), pot: None })?;
        }
        let logs = self.actions.iter().filter_map(|(_, action)| match action {
            ImportAction::Whole(_, _, readings) => Some(readings),
            _ => None,
        });
        for LoggedReading { reading, note, device, pot: _ } in logs.flatten().cloned() {
            if let Some(reading) = reading.with_paints(|id| here.get(&id.0).copied().map(PaintId)) {
                documents.make(LoggedReading { reading, note, device, pot: None })?;
            }
        }
        Ok(())
    }
}

/// Why a sample of a tin adds nothing; `None` if it does.
fn known_already(known: &ShelfSnapshot, tin: &Kept<ShelfPaint>, sample: &Sample) -> Option<&'static str> {
    let repeats = |other: &Measured| sample.measured.repeats(other, sample.source);
    if known.masstones_of(tin.id).any(repeats) {
        return Some("already in the log");
    }
    let stated = tin.value.masstone.map(|masstone| Measured::Colour(masstone.lab()));
    // A curve contains more than the colour on the tin, even where they agree.
    if stated.is_some_and(|stated| matches!(sample.measured, Measured::Colour(_)) && repeats(&stated)) {
        return Some("same as the colour already set");
    }
    let predicted = Measured::spectrum(known.paint(tin.id).ok()?.best().masstone());
    repeats(&predicted).then_some("predicted here, not a reading")
}

fn new_paint(sample: &Sample, class: Class, predicted: bool) -> ImportAction {
    let short: String = sample.name.chars().filter(|c| !c.is_control()).take(80).collect();
    let Ok(name) = Name::new(&short) else { return ImportAction::Skip("no name") };
    let masstone = Masstone::Lab(sample.measured.lab());
    // A colour belongs to the tin; a curve contains more and is a reading, if it was measured.
    let log = match sample.measured {
        Measured::Spectrum(_) if !predicted => Log::Masstone,
        _ => Log::Nothing,
    };
    let tin = ShelfPaint { source: sample.source, ..ShelfPaint::new(name, class, Some(masstone)) };
    ImportAction::New(Box::new(tin), log)
}

fn unread(error: &BadFile) -> Refusal {
    match error {
        BadFile::Percent { most, .. } => Refusal::Percent(*most),
        BadFile::Source { .. } => Refusal::Source,
        _ => Refusal::File(error.to_string()),
    }
}
