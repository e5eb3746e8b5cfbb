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
use crate::log::{LogLine, LogNote, Names, lines};

/// Identifies a document for good: a UUIDv7.
pub type Id = Uuid;

/// How often a document has been written: 1 when made. Whoever changes it says which one was seen.
pub type Revision = i64;

/// A value that can be kept.
pub trait Document: Serialize + DeserializeOwned + Send {
    /// The kind, as it stands in the file.
    const KIND: &'static str;

    /// The documents it speaks of.
    fn uses(&self) -> Vec<Id> {
        Vec::new()
    }

    /// What it tells the log, under its id.
    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
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

    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_tin(self)
    }
}

impl Document for SavedMix {
    const KIND: &'static str = "mix";

    fn uses(&self) -> Vec<Id> {
        self.components().iter().map(|component| component.paint.0).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_mix(self, names)
    }
}

impl Document for PourRecord {
    const KIND: &'static str = "pour";

    fn uses(&self) -> Vec<Id> {
        self.paints().into_iter().map(|paint| paint.0).chain([self.mix.0]).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_pour(self, names)
    }
}

impl Document for Board {
    const KIND: &'static str = "board";

    fn uses(&self) -> Vec<Id> {
        let paints = self.paints().into_iter().map(|paint| paint.0);
        paints.chain(self.mixes().into_iter().map(|mix| mix.0)).collect()
    }

    fn log(&self, id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_board(self, Some(id))
    }
}

impl Document for BoardReading {
    const KIND: &'static str = "board-reading";

    fn uses(&self) -> Vec<Id> {
        self.painted().paints().into_iter().map(|paint| paint.0).chain([self.board]).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_board_reading(self, names)
    }
}

impl Document for LoggedReading {
    const KIND: &'static str = "reading";

    fn uses(&self) -> Vec<Id> {
        self.reading.of.iter().map(|(paint, _)| paint.0).chain(self.pot).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_reading(self, names)
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

    fn log(&self, id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_piece(self, Some(id))
    }
}

impl Document for RunSheet {
    const KIND: &'static str = "run-sheet";

    fn uses(&self) -> Vec<Id> {
        self.paints().into_iter().map(|paint| paint.0).chain([self.piece]).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_sheet(self, names)
    }
}

impl Document for LogNote {
    const KIND: &'static str = "note";

    fn uses(&self) -> Vec<Id> {
        self.piece.into_iter().collect()
    }

    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_note(self)
    }
}

/// What a body of some kind speaks of.
pub fn uses_of(kind: &str, body: &str) -> Result<Vec<Id>, serde_json::Error> {
    struct Uses;
    impl AskKind for Uses {
        type Answer = Vec<Id>;

        fn ask<T: Document>(&self, value: &T) -> Vec<Id> {
            value.uses()
        }
    }
    of_kind(kind, body, &Uses)
}

/// What a body of some kind tells the log.
pub fn log_of(kind: &str, id: Id, body: &str, names: &dyn Names) -> Result<Vec<LogLine>, serde_json::Error> {
    struct Log<'a>(Id, &'a dyn Names);
    impl AskKind for Log<'_> {
        type Answer = Vec<LogLine>;

        fn ask<T: Document>(&self, value: &T) -> Vec<LogLine> {
            value.log(self.0, self.1)
        }
    }
    of_kind(kind, body, &Log(id, names))
}

/// Something that every document can be asked.
trait AskKind {
    type Answer;

    fn ask<T: Document>(&self, value: &T) -> Self::Answer;
}

fn of_kind<A: AskKind>(kind: &str, body: &str, question: &A) -> Result<A::Answer, serde_json::Error> {
    fn of<T: Document, A: AskKind>(body: &str, question: &A) -> Result<A::Answer, serde_json::Error> {
        Ok(question.ask(&serde_json::from_str::<T>(body)?))
    }
    match kind {
        ShelfPaint::KIND => of::<ShelfPaint, A>(body, question),
        SavedMix::KIND => of::<SavedMix, A>(body, question),
        PourRecord::KIND => of::<PourRecord, A>(body, question),
        Board::KIND => of::<Board, A>(body, question),
        BoardReading::KIND => of::<BoardReading, A>(body, question),
        Piece::KIND => of::<Piece, A>(body, question),
        RunSheet::KIND => of::<RunSheet, A>(body, question),
        LoggedReading::KIND => of::<LoggedReading, A>(body, question),
        LogNote::KIND => of::<LogNote, A>(body, question),
        Workshop::KIND => of::<Workshop, A>(body, question),
        other => Err(serde::de::Error::custom(format!("a document of the unknown kind {other}"))),
    }
}
