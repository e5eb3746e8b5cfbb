//! Documents: everything that can be saved.

use jiff::Timestamp;
use serde::{Serialize, de::DeserializeOwned};
use serde_json::Value;
use uuid::Uuid;
use warm_blend_board::{Board, BoardReading};
use warm_blend_learn::{LoggedReading, ShelfPaint};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{PaintId, SavedMix};
use warm_blend_piece::Piece;
use warm_blend_plan::RunSheet;

use crate::{
    log_lines::{self as lines, LogLine, Names},
    log_note::LogNote,
    settings::Workshop,
};

/// Stable identifier of a document: a UUIDv7.
pub type Id = Uuid;

/// Number of times a document was written, starting at 1. A change must state the revision it is based on.
pub type Revision = i64;

/// A value that can be saved: one of the kinds listed below.
pub trait Document: Listed + Serialize + DeserializeOwned + Send {
    /// Kind, as named in the file.
    const KIND: &'static str;

    /// Documents and photos that it refers to.
    fn uses(&self) -> Vec<Reference>;

    /// Log lines of the document with this id.
    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
        Vec::new()
    }
}

/// A reference of a document to another document or a photo.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Reference {
    /// Id.
    pub id: Id,
    /// Required kind: [`Document::KIND`] or [`PHOTO`].
    pub kind: &'static str,
    /// Whether the target may have been deleted.
    pub tie: Tie,
}

/// Kind of a photo, which is stored beside the documents.
pub const PHOTO: &str = "photo";

/// Whether the target of a reference may have been deleted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Tie {
    /// It must exist whenever the document is written: a step of a deleted piece cannot be ticked off.
    Belongs,
    /// It must exist when it is first referred to.
    Chosen,
    /// It was copied from another document, and may have been deleted since.
    Copied,
}

impl Reference {
    fn to<T: Document>(id: Id, tie: Tie) -> Self {
        Self { id, kind: T::KIND, tie }
    }

    fn paints(of: Vec<PaintId>, tie: Tie) -> impl Iterator<Item = Self> {
        of.into_iter().map(move |paint| Self::to::<ShelfPaint>(paint.0, tie))
    }

    fn photo(id: Id) -> Self {
        Self { id, kind: PHOTO, tie: Tie::Chosen }
    }
}

/// A saved document.
#[derive(Debug, Clone, PartialEq)]
pub struct Kept<T> {
    /// Id.
    pub id: Id,
    /// Revision.
    pub revision: Revision,
    /// True if it was deleted; it can still be read.
    pub removed: bool,
    /// Time of creation.
    pub made_at: Timestamp,
    /// Time of the last change.
    pub changed_at: Timestamp,
    /// Value.
    pub value: T,
}

impl Document for ShelfPaint {
    const KIND: &'static str = "paint";

    fn uses(&self) -> Vec<Reference> {
        Vec::new()
    }

    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_tin(self)
    }
}

impl Document for SavedMix {
    const KIND: &'static str = "mix";

    fn uses(&self) -> Vec<Reference> {
        let paints = self.components().iter().map(|component| component.paint).collect();
        Reference::paints(paints, Tie::Chosen).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_mix(self, names)
    }
}

impl Document for PourRecord {
    const KIND: &'static str = "pour";

    fn uses(&self) -> Vec<Reference> {
        let mix = Reference::to::<SavedMix>(self.mix.0, Tie::Chosen);
        Reference::paints(self.paints(), Tie::Copied).chain([mix]).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_pour(self, names)
    }
}

impl Document for Board {
    const KIND: &'static str = "board";

    fn uses(&self) -> Vec<Reference> {
        let mixes = self.mixes().into_iter().map(|mix| Reference::to::<SavedMix>(mix.0, Tie::Chosen));
        Reference::paints(self.paints(), Tie::Chosen).chain(mixes).collect()
    }

    fn log(&self, id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_board(self, Some(id))
    }
}

impl Document for BoardReading {
    const KIND: &'static str = "board-reading";

    fn uses(&self) -> Vec<Reference> {
        let board = Reference::to::<Board>(self.board, Tie::Chosen);
        Reference::paints(self.painted().paints(), Tie::Copied).chain([board]).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_board_reading(self, names)
    }
}

impl Document for LoggedReading {
    const KIND: &'static str = "reading";

    fn uses(&self) -> Vec<Reference> {
        let paints = self.reading.of.iter().map(|(paint, _)| *paint).collect();
        let pot = self.pot.map(|pot| Reference::to::<PourRecord>(pot, Tie::Chosen));
        Reference::paints(paints, Tie::Chosen).chain(pot).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_reading(self, names)
    }
}

impl Document for Workshop {
    const KIND: &'static str = "workshop";

    fn uses(&self) -> Vec<Reference> {
        let white = Reference::paints(self.house_white.into_iter().collect(), Tie::Chosen);
        white.chain(self.piece.map(|piece| Reference::to::<Piece>(piece, Tie::Chosen))).collect()
    }
}

impl Document for Piece {
    const KIND: &'static str = "piece";

    fn uses(&self) -> Vec<Reference> {
        let boards = self.boards().into_iter().map(|board| Reference::to::<Board>(board, Tie::Chosen));
        let photos = self.brief.photo.into_iter().chain(self.photos.iter().map(|photo| photo.photo));
        let photos = photos.map(Reference::photo);
        Reference::paints(self.paints(), Tie::Chosen).chain(boards).chain(photos).collect()
    }

    fn log(&self, id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_piece(self, Some(id))
    }
}

impl Document for RunSheet {
    const KIND: &'static str = "run-sheet";

    fn uses(&self) -> Vec<Reference> {
        let piece = Reference::to::<Piece>(self.piece, Tie::Belongs);
        let photos = self.done.iter().filter_map(|done| done.photo).map(Reference::photo);
        Reference::paints(self.paints(), Tie::Copied).chain([piece]).chain(photos).collect()
    }

    fn log(&self, _id: Id, names: &dyn Names) -> Vec<LogLine> {
        lines::of_sheet(self, names)
    }
}

impl Document for LogNote {
    const KIND: &'static str = "note";

    fn uses(&self) -> Vec<Reference> {
        let piece = self.piece.map(|piece| Reference::to::<Piece>(piece, Tie::Belongs));
        piece.into_iter().chain(self.photo.map(Reference::photo)).collect()
    }

    fn log(&self, _id: Id, _names: &dyn Names) -> Vec<LogLine> {
        lines::of_note(self)
    }
}

/// References in a body of some kind.
pub fn uses_of(kind: &str, body: &str) -> Result<Vec<Reference>, serde_json::Error> {
    struct Uses;
    impl AskKind for Uses {
        type Answer = Vec<Reference>;

        fn ask<T: Document>(&self, value: &T) -> Vec<Reference> {
            value.uses()
        }
    }
    of_kind(kind, body, &Uses)
}

/// A body of some kind as it would be saved, and what it refers to; an error if it is no such document. Text that says the
/// same is kept as it is, so that no number changes in its last figure.
pub fn checked(kind: &str, body: &str) -> Result<(String, Vec<Reference>), serde_json::Error> {
    struct Checked<'a>(&'a str);
    impl AskKind for Checked<'_> {
        type Answer = Result<(String, Vec<Reference>), serde_json::Error>;

        fn ask<T: Document>(&self, value: &T) -> Self::Answer {
            let same = serde_json::to_value(value)? == serde_json::from_str::<Value>(self.0)?;
            let text = if same { self.0.to_owned() } else { serde_json::to_string(value)? };
            Ok((text, value.uses()))
        }
    }
    of_kind(kind, body, &Checked(body))?
}

/// Log lines of a body of some kind.
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

/// A question that can be asked of every kind of document.
trait AskKind {
    type Answer;

    fn ask<T: Document>(&self, value: &T) -> Self::Answer;
}

mod listed {
    /// A kind of document in the list.
    pub trait Listed {}
}
use listed::Listed;

/// All kinds of documents; nothing else can be saved.
macro_rules! kinds {
    ($($document:ty),* $(,)?) => {
        $(impl Listed for $document {})*

        /// All kinds of documents, as named in the file.
        pub const KINDS: &[&str] = &[$(<$document>::KIND),*];

        fn of_kind<A: AskKind>(kind: &str, body: &str, question: &A) -> Result<A::Answer, serde_json::Error> {
            $(if kind == <$document>::KIND {
                return Ok(question.ask(&serde_json::from_str::<$document>(body)?));
            })*
            Err(serde::de::Error::custom(format!("a document of the unknown kind {kind}")))
        }
    };
}

kinds![
    ShelfPaint,
    SavedMix,
    PourRecord,
    Board,
    BoardReading,
    Piece,
    RunSheet,
    LoggedReading,
    LogNote,
    Workshop,
];
