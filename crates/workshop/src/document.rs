//! What can be kept.

use jiff::Timestamp;
use serde::{Serialize, de::DeserializeOwned};
use uuid::Uuid;
use warm_blend_bench::PourRecord;
use warm_blend_board::{Board, BoardReading};
use warm_blend_learn::{LoggedReading, ShelfPaint};
use warm_blend_paint::SavedMix;
use warm_blend_piece::Piece;
use warm_blend_plan::RunSheet;

use crate::Workshop;

/// Identifies a document for good: a UUIDv7.
pub type Id = Uuid;

/// How often a document has been written: 1 when made. Whoever changes it says which one was seen.
pub type Revision = i64;

/// A value that can be kept.
pub trait Document: Serialize + DeserializeOwned {
    /// The kind, as it stands in the file.
    const KIND: &'static str;

    /// The documents it speaks of.
    fn uses(&self) -> Vec<Id> {
        Vec::new()
    }
}

/// A kept document.
#[derive(Debug, Clone, PartialEq)]
pub struct Kept<T> {
    /// Which one.
    pub id: Id,
    /// How often it has been written.
    pub revision: Revision,
    /// True once it was taken away; it can still be read.
    pub removed: bool,
    /// When it was made.
    pub made_at: Timestamp,
    /// When it was last written.
    pub changed_at: Timestamp,
    /// What it says.
    pub value: T,
}

impl Document for ShelfPaint {
    const KIND: &'static str = "paint";
}

impl Document for SavedMix {
    const KIND: &'static str = "mix";

    fn uses(&self) -> Vec<Id> {
        self.components().iter().map(|component| component.paint.0).collect()
    }
}

impl Document for PourRecord {
    const KIND: &'static str = "pour";

    fn uses(&self) -> Vec<Id> {
        self.paints().into_iter().map(|paint| paint.0).chain([self.mix.0]).collect()
    }
}

impl Document for Board {
    const KIND: &'static str = "board";

    fn uses(&self) -> Vec<Id> {
        let paints = self.paints().into_iter().map(|paint| paint.0);
        paints.chain(self.mixes().into_iter().map(|mix| mix.0)).collect()
    }
}

impl Document for BoardReading {
    const KIND: &'static str = "board-reading";

    fn uses(&self) -> Vec<Id> {
        self.painted().paints().into_iter().map(|paint| paint.0).chain([self.board]).collect()
    }
}

impl Document for LoggedReading {
    const KIND: &'static str = "reading";

    fn uses(&self) -> Vec<Id> {
        self.reading.of.iter().map(|(paint, _)| paint.0).chain(self.pot).collect()
    }
}

impl Document for Workshop {
    const KIND: &'static str = "workshop";

    fn uses(&self) -> Vec<Id> {
        self.house_white.iter().map(|paint| paint.0).chain(self.piece).collect()
    }
}

impl Document for Piece {
    const KIND: &'static str = "piece";

    fn uses(&self) -> Vec<Id> {
        self.paints().into_iter().map(|paint| paint.0).chain(self.boards()).collect()
    }
}

impl Document for RunSheet {
    const KIND: &'static str = "run-sheet";

    fn uses(&self) -> Vec<Id> {
        self.paints().into_iter().map(|paint| paint.0).chain([self.piece]).collect()
    }
}

/// What a body of some kind speaks of.
pub fn uses_of(kind: &str, body: &str) -> Result<Vec<Id>, serde_json::Error> {
    fn of<T: Document>(body: &str) -> Result<Vec<Id>, serde_json::Error> {
        Ok(serde_json::from_str::<T>(body)?.uses())
    }
    match kind {
        ShelfPaint::KIND => of::<ShelfPaint>(body),
        SavedMix::KIND => of::<SavedMix>(body),
        PourRecord::KIND => of::<PourRecord>(body),
        Board::KIND => of::<Board>(body),
        BoardReading::KIND => of::<BoardReading>(body),
        Piece::KIND => of::<Piece>(body),
        RunSheet::KIND => of::<RunSheet>(body),
        LoggedReading::KIND => of::<LoggedReading>(body),
        Workshop::KIND => of::<Workshop>(body),
        other => Err(serde::de::Error::custom(format!("a document of the unknown kind {other}"))),
    }
}
