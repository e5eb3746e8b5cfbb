//! Merging two entries of the same tin.

use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, BoardReading};
use warm_blend_documents::{Document, Documents, Kept, Workshop};
use warm_blend_learn::{LoggedReading, ShelfPaint};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{PaintId, SavedMix};
use warm_blend_piece::Piece;
use warm_blend_plan::RunSheet;

use crate::Refusal;

/// Two entries of the same tin.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct Merge {
    /// The entry that stays.
    pub keep: Uuid,
    /// The entry that is deleted: the other takes over its mixes, readings and stock.
    pub gone: Uuid,
}

impl Merge {
    /// Checks that the two are different.
    pub fn parse(self) -> Result<Self, Refusal> {
        match self.keep == self.gone {
            true => Err(Refusal::field("/gone", "a paint can’t be merged with itself; choose another")),
            false => Ok(self),
        }
    }

    /// Merges them.
    pub fn carry_out<D: Documents>(
        self,
        documents: &mut D,
        workshop: Kept<Workshop>,
    ) -> Result<(), D::Error> {
        let (stays, goes) = (PaintId(self.keep), PaintId(self.gone));
        let one = documents.get::<ShelfPaint>(self.keep)?;
        let other = documents.get::<ShelfPaint>(self.gone)?;
        documents.change(self.keep, one.revision, one.value.merged_with(&other.value))?;
        self.replace(documents, |mix: SavedMix| mix.with_paint_replaced(goes, stays))?;
        self.replace(documents, |board: Board| board.with_paint_replaced(goes, stays))?;
        self.replace(documents, |piece: Piece| piece.with_paint_replaced(goes, stays))?;
        self.replace(documents, |sheet: RunSheet| sheet.with_paint_replaced(goes, stays))?;
        self.replace(documents, |reading: BoardReading| reading.with_paint_replaced(goes, stays))?;
        self.replace(documents, |pour: PourRecord| pour.with_paint_replaced(goes, stays))?;
        for reading in documents.users::<LoggedReading>(self.gone)? {
            match reading.value.with_paint_replaced(goes, stays) {
                Some(value) => documents.change(reading.id, reading.revision, value).map(drop)?,
                // A reading of the two mixed together means nothing once they are one.
                None => documents.remove::<LoggedReading>(reading.id, reading.revision)?,
            }
        }
        if workshop.value.house_white == Some(goes) {
            let chosen = Workshop { house_white: Some(stays), ..workshop.value };
            documents.change(workshop.id, workshop.revision, chosen)?;
        }
        documents.remove::<ShelfPaint>(self.gone, other.revision)
    }

    fn replace<D: Documents, T: Document>(
        self,
        documents: &mut D,
        replaced: impl Fn(T) -> T,
    ) -> Result<(), D::Error> {
        for kept in documents.users::<T>(self.gone)? {
            documents.change(kept.id, kept.revision, replaced(kept.value))?;
        }
        Ok(())
    }
}
