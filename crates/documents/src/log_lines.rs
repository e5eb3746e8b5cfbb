//! Log lines of each kind of document, in the words of the time of writing.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_board::{Board, BoardReading};
use warm_blend_learn::{LoggedReading, ShelfPaint};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Class, MixPart, Name, Note, PaintId, Parts, Product, SavedMix, percentages};
use warm_blend_piece::Piece;
use warm_blend_plan::{Done, RunSheet, TouchedUp};

use crate::{log_note::LogNote, pot_words::pot_words, work_words::work_words};

/// Kind of a log line.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, strum::IntoStaticStr,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "kebab-case")]
pub enum LogKind {
    /// A tin was added to the shelf.
    Tin,
    /// A mix was made.
    Mix,
    /// A pot was poured.
    Pour,
    /// A sample of paint was read.
    Reading,
    /// A board was begun.
    Board,
    /// A board was read.
    BoardReading,
    /// A step of a run sheet was finished.
    Step,
    /// A piece was begun.
    Piece,
    /// A scheme was agreed with the client.
    Agreed,
    /// A note by the painter, with or without a photo.
    Note,
}

/// A line of the log.
#[derive(Debug, Clone, PartialEq)]
pub struct LogLine {
    /// Kind.
    pub kind: LogKind,
    /// Time; by default that of the document's creation.
    pub at: Option<Timestamp>,
    /// Text.
    pub words: String,
    /// Further text.
    pub detail: String,
    /// The piece.
    pub piece: Option<Uuid>,
    /// Contents of the pot.
    pub pot: Vec<(PaintId, Parts)>,
    /// The mix.
    pub mix: Option<Uuid>,
    /// The board.
    pub board: Option<Uuid>,
    /// Id of a photo.
    pub photo: Option<Uuid>,
    /// Who did it; by default whoever made the document.
    pub by: Option<Name>,
}

/// Looks up current names.
pub trait Names {
    /// Name of a document.
    fn name(&self, of: Uuid) -> Option<String>;
    /// Class of a tin.
    fn class(&self, of: PaintId) -> Option<Class>;
}

impl LogKind {
    /// All kinds, in the order in which they are offered.
    pub const ALL: [LogKind; 10] = [
        LogKind::Mix,
        LogKind::Pour,
        LogKind::Reading,
        LogKind::Board,
        LogKind::BoardReading,
        LogKind::Step,
        LogKind::Agreed,
        LogKind::Note,
        LogKind::Tin,
        LogKind::Piece,
    ];

    /// `board-reading` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Plural name: `readings` …
    pub const fn many(self) -> &'static str {
        match self {
            LogKind::Tin => "new on the shelf",
            LogKind::Mix => "mixes",
            LogKind::Pour => "pours",
            LogKind::Reading => "readings",
            LogKind::Board => "boards started",
            LogKind::BoardReading => "board readings",
            LogKind::Step => "steps done",
            LogKind::Piece => "pieces started",
            LogKind::Agreed => "schemes agreed",
            LogKind::Note => "notes",
        }
    }

    /// Finds a kind by its id.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.id() == id)
    }
}

impl LogLine {
    fn new(kind: LogKind, words: String) -> Self {
        Self {
            kind,
            at: None,
            words,
            detail: String::new(),
            piece: None,
            pot: Vec::new(),
            mix: None,
            board: None,
            photo: None,
            by: None,
        }
    }
}

fn named(names: &dyn Names, paint: PaintId) -> String {
    names.name(paint.0).unwrap_or_else(|| "a deleted paint".to_owned())
}

/// `5 slate blue : 1 barley`
fn parts_words(parts: &[MixPart], names: &dyn Names) -> String {
    let parts: Vec<_> = parts.iter().map(|part| (part.parts.value(), named(names, part.paint))).collect();
    pot_words(&parts)
}

fn pot(parts: &[MixPart]) -> Vec<(PaintId, Parts)> {
    parts.iter().map(|part| (part.paint, part.parts.into())).collect()
}

/// `“dragged at the end”`
fn noted(note: Option<&Note>) -> String {
    note.map_or_else(String::new, |note| format!("“{}”", note.as_str()))
}

pub(crate) fn of_tin(tin: &ShelfPaint) -> Vec<LogLine> {
    vec![LogLine::new(LogKind::Tin, format!("New on the shelf: {}", tin.name.as_str()))]
}

pub(crate) fn of_mix(mix: &SavedMix, names: &dyn Names) -> Vec<LogLine> {
    if mix.components().is_empty() {
        return Vec::new();
    }
    let parts = parts_words(mix.components(), names);
    let words = match &mix.name {
        Some(name) => format!("Mixed “{}”: {parts}", name.as_str()),
        None => format!("Mixed {parts}"),
    };
    vec![LogLine { pot: pot(mix.components()), ..LogLine::new(LogKind::Mix, words) }]
}

pub(crate) fn of_pour(pour: &PourRecord, names: &dyn Names) -> Vec<LogLine> {
    let inside = pour.inside();
    let total: f64 = inside.iter().map(|(_, ml)| ml).sum();
    if inside.is_empty() || total <= 0.0 {
        return Vec::new();
    }
    let amounts: Vec<String> = inside
        .iter()
        .map(|(paint, ml)| format!("{} ml {}", millilitres(*ml), named(names, *paint)))
        .collect();
    let of = pour.name.as_ref().map_or_else(String::new, |name| format!(" of “{}”", name.as_str()));
    let verb = if pour.finished_at.is_some() { "Poured" } else { "Pouring" };
    let words = format!("{verb} {} ml{of}", millilitres(total));
    let shares =
        inside.iter().filter_map(|(paint, ml)| Some((*paint, Parts::new(*ml / total * 100.0).ok()?)));
    let last = pour.steps().last().map(|step| step.at);
    let line = LogLine {
        at: pour.finished_at.or(last),
        pot: shares.collect(),
        mix: Some(pour.mix.0),
        detail: amounts.join(", "),
        ..LogLine::new(LogKind::Pour, words)
    };
    let kept = of_jar(pour, &of).into_iter().map(|(at, words, detail)| LogLine {
        at: Some(at),
        detail,
        pot: line.pot.clone(),
        mix: line.mix,
        ..LogLine::new(LogKind::Pour, words)
    });
    let kept: Vec<LogLine> = kept.collect();
    [vec![line], kept].concat()
}

/// What happened to what was left of a pot: time, text, further text.
fn of_jar(pour: &PourRecord, of: &str) -> Vec<(Timestamp, String, String)> {
    let Some(jar) = pour.jar() else { return Vec::new() };
    let place = pour.place.as_ref().map(|place| place.as_str().to_owned());
    let client = jar.client.as_ref().map(|client| format!("for {}", client.as_str()));
    let detail: Vec<String> = place.into_iter().chain(client).collect();
    let filled = format!("Kept {} ml{of} in a jar", millilitres(jar.filled_ml()));
    let mut lines = vec![(jar.filled_at, filled, detail.join(", "))];
    for taken in jar.uses() {
        lines.push((taken.at, format!("Took {} ml{of} from its jar", millilitres(taken.ml)), String::new()));
    }
    lines.extend(jar.gone_at.map(|at| (at, format!("Threw away the jar{of}"), String::new())));
    lines
}

/// An amount in ml, with a decimal if it is small.
fn millilitres(ml: f64) -> String {
    if ml < 10.0 { format!("{ml:.1}") } else { format!("{ml:.0}") }
}

pub(crate) fn of_reading(logged: &LoggedReading, names: &dyn Names) -> Vec<LogLine> {
    let reading = &logged.reading;
    let words = match reading.of.as_slice() {
        [(paint, _)] => named(names, *paint),
        of => {
            let shares: Vec<f64> = of.iter().map(|(_, parts)| parts.value()).collect();
            let least = shares.iter().copied().fold(f64::INFINITY, f64::min);
            let whole = shares.iter().all(|share| (share / least - (share / least).round()).abs() < 0.01);
            let of = |((paint, _), (share, percent)): (&(PaintId, Parts), (&f64, u32))| match whole {
                true => format!("{:.0} {}", share / least, named(names, *paint)),
                false => format!("{percent} % {}", named(names, *paint)),
            };
            let shown = shares.iter().zip(percentages(&shares));
            let join = if whole { " : " } else { ", " };
            reading.of.iter().zip(shown).map(of).collect::<Vec<_>>().join(join)
        }
    };
    let practice = if logged.is_practice() { ", for practice" } else { "" };
    let words = format!("Read {words}, {}{practice}", reading.state.id());
    let detail = noted(logged.note.as_ref());
    vec![LogLine { pot: reading.of.clone(), detail, ..LogLine::new(LogKind::Reading, words) }]
}

pub(crate) fn of_board(board: &Board, id: Option<Uuid>) -> Vec<LogLine> {
    vec![LogLine {
        board: id,
        ..LogLine::new(LogKind::Board, format!("Started board “{}”", board.name.as_str()))
    }]
}

pub(crate) fn of_board_reading(reading: &BoardReading, names: &dyn Names) -> Vec<LogLine> {
    let board = names.name(reading.board).unwrap_or_else(|| "a deleted board".to_owned());
    let words = format!("Read board “{board}”, {}", reading.state.id());
    let detail = noted(reading.note.as_ref());
    vec![LogLine { board: Some(reading.board), detail, ..LogLine::new(LogKind::BoardReading, words) }]
}

pub(crate) fn of_piece(piece: &Piece, id: Option<Uuid>) -> Vec<LogLine> {
    vec![LogLine {
        piece: id, ..LogLine::new(LogKind::Piece, format!("Started “{}”", piece.name.as_str()))
    }]
}

pub(crate) fn of_sheet(sheet: &RunSheet, names: &dyn Names) -> Vec<LogLine> {
    let one = |done: &Done| {
        let work = work_words(&done.work, &|paint| names.class(paint).map(Product::from));
        let zones: Vec<String> = done.zones.iter().map(|zone| zone.name().to_lowercase()).collect();
        let poured = done.work.layers().iter().filter(|laid| !laid.pot.is_empty());
        let pots: Vec<String> = poured.map(|laid| parts_words(&laid.pot, names)).collect();
        let with = if pots.is_empty() { String::new() } else { format!(" in {}", pots.join("; ")) };
        let took = done.minutes.map(|minutes| format!("took {minutes:.0} min"));
        let note = Some(noted(done.note.as_ref())).filter(|note| !note.is_empty());
        let detail: Vec<String> = [Some(zones.join(", ")), took, note].into_iter().flatten().collect();
        let (words, detail) = (format!("{work}{with}"), detail.join("; "));
        LogLine {
            at: Some(done.at),
            piece: Some(sheet.piece),
            pot: done.work.layers().last().map_or_else(Vec::new, |laid| pot(&laid.pot)),
            photo: done.photo,
            by: done.by.clone(),
            detail,
            ..LogLine::new(LogKind::Step, words)
        }
    };
    let mended = |mended: &TouchedUp| LogLine {
        at: Some(mended.at),
        piece: Some(sheet.piece),
        by: mended.by.clone(),
        detail: noted(mended.note.as_ref()),
        ..LogLine::new(
            LogKind::Step,
            format!("Touched up {}: {}", mended.spot.words(), mended.zone.name().to_lowercase()),
        )
    };
    sheet.done.iter().map(one).chain(sheet.touched_up.iter().map(mended)).collect()
}

pub(crate) fn of_note(note: &LogNote) -> Vec<LogLine> {
    let said = note.words.as_ref().map(|words| words.as_str().to_owned());
    let (kind, words, detail) = match &note.agreed {
        Some(scheme) => {
            (LogKind::Agreed, format!("Agreed on “{}”", scheme.as_str()), said.unwrap_or_default())
        }
        None => (LogKind::Note, said.unwrap_or_else(|| "Photo".to_owned()), String::new()),
    };
    vec![LogLine {
        at: Some(note.at),
        piece: note.piece,
        photo: note.photo,
        detail,
        ..LogLine::new(kind, words)
    }]
}
