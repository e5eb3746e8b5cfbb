//! The first hour: from an empty shelf to the first day's work, computed from what the workspace holds.

use jiff::{SignedDuration, Timestamp};
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_documents::{Documents, Kept, Workshop};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{HueFamily, Look, PaintId};
use warm_blend_piece::Piece;
use warm_blend_plan::RunSheet;

use crate::ShelfSnapshot;

/// Age of the first tin up to which the steps are offered unasked.
const NEW: SignedDuration = SignedDuration::from_hours(30 * 24);

/// L* from which a white can serve as house white†.
const PALE: f64 = 86.0;

/// A step of the first hour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum FirstStep {
    /// The white that everything is tinted with.
    White,
    /// A second paint.
    Base,
    /// A third paint.
    Strong,
    /// A reading of a mix of two paints.
    TintTest,
    /// A finished pour.
    Pour,
    /// A sample board.
    Board,
    /// A piece with a finish on it.
    Piece,
    /// A step of a run sheet, ticked off.
    Day,
}

/// The steps of the first hour, with what is done.
#[derive(Debug, Serialize, ToSchema)]
pub struct FirstHour {
    /// Steps in order.
    pub steps: Vec<FirstStepView>,
    /// True while the workspace is new and a step is left.
    pub offered: bool,
}

/// A step of the first hour.
#[derive(Debug, Serialize, ToSchema)]
pub struct FirstStepView {
    /// Identifier.
    pub step: FirstStep,
    /// What to do: `Add your house white`.
    pub words: &'static str,
    /// Why, in a sentence.
    pub reason: &'static str,
    /// True if the workspace shows that it was done.
    pub done: bool,
}

/// What a workspace holds besides the shelf.
#[derive(Debug, Clone, Copy, Default)]
pub struct MadeSoFar {
    /// True if a pour was finished.
    pub poured: bool,
    /// True if there is a board.
    pub board: bool,
    /// True if a piece wears a finish.
    pub dressed: bool,
    /// True if a step of a run sheet was ticked off.
    pub ticked: bool,
}

impl MadeSoFar {
    /// What these documents amount to.
    pub fn of(
        pours: &[Kept<PourRecord>],
        boards: usize,
        pieces: &[Kept<Piece>],
        sheets: &[Kept<RunSheet>],
    ) -> Self {
        let wears =
            |piece: &Kept<Piece>| !piece.value.boards().is_empty() || !piece.value.paints().is_empty();
        Self {
            poured: pours.iter().any(|pour| pour.value.finished_at.is_some()),
            board: boards > 0,
            dressed: pieces.iter().any(wears),
            ticked: sheets.iter().any(|sheet| !sheet.value.done.is_empty()),
        }
    }
}

impl FirstStep {
    const fn words(self) -> &'static str {
        match self {
            Self::White => "Add your house white",
            Self::Base => "Add a base colour",
            Self::Strong => "Add a strong colour",
            Self::TintTest => "Make a tint test",
            Self::Pour => "Mix and pour",
            Self::Board => "Make a sample board",
            Self::Piece => "Dress a piece",
            Self::Day => "Tick off a step",
        }
    }

    const fn reason(self) -> &'static str {
        match self {
            Self::White => "The white you mix with. Every tint test is made with it.",
            Self::Base => "The paint that covers most of the piece.",
            Self::Strong => "A paint of which a little goes a long way.",
            Self::TintTest => {
                "One spoon of a colour with one of white shows how strong it is, and every mix with it becomes surer."
            }
            Self::Pour => "Tap in two paints, then tap what goes into the pot: the record is the recipe.",
            Self::Board => "Start from a ready finish that your shelf can make.",
            Self::Piece => "Pick a shape, then a finish, and see whether its parts belong together.",
            Self::Day => "The run sheet puts the work in order. Tick off what you have done.",
        }
    }
}

impl FirstHour {
    /// The steps of a workspace at a time.
    pub fn of(shelf: &ShelfSnapshot, made: MadeSoFar, now: Timestamp) -> Self {
        let paints = shelf.tins().filter(|tin| !tin.value.class.is_medium()).count();
        let tinted = shelf.logged().iter().any(|kept| kept.value.reading.of.len() > 1);
        let done = |step| match step {
            FirstStep::White => shelf.house_white().is_some(),
            FirstStep::Base => paints >= 2,
            FirstStep::Strong => paints >= 3,
            FirstStep::TintTest => tinted,
            FirstStep::Pour => made.poured,
            FirstStep::Board => made.board,
            FirstStep::Piece => made.dressed,
            FirstStep::Day => made.ticked,
        };
        let view = |step: &FirstStep| FirstStepView {
            step: *step,
            words: step.words(),
            reason: step.reason(),
            done: done(*step),
        };
        let steps: Vec<_> = <FirstStep as strum::VariantArray>::VARIANTS.iter().map(view).collect();
        let offered = Self::is_new(shelf, now) && steps.iter().any(|step| !step.done);
        Self { steps, offered }
    }

    /// True if the first tin was added within the last month, or there is none.
    pub fn is_new(shelf: &ShelfSnapshot, now: Timestamp) -> bool {
        shelf.tins_ever().iter().all(|tin| now.duration_since(tin.made_at) < NEW)
    }
}

impl ShelfSnapshot {
    /// Adds a tin. If `may_be_white`, one of the family of whites becomes the
    /// house white of a shelf without one.
    pub fn add_tin<D: Documents>(
        &self,
        documents: &mut D,
        tin: ShelfPaint,
        may_be_white: bool,
    ) -> Result<Kept<ShelfPaint>, D::Error> {
        let white = may_be_white && self.house_white().is_none() && is_white(&tin);
        let kept = documents.make(tin)?;
        if white {
            let house_white = Some(PaintId(kept.id));
            let Kept { id, revision, value, .. } = documents.get::<Workshop>(self.workshop.id)?;
            documents.change(id, revision, Workshop { house_white, ..value })?;
        }
        Ok(kept)
    }
}

/// True of a paint that can serve as house white.
fn is_white(tin: &ShelfPaint) -> bool {
    let seen = tin.material().map(|material| Look::default().face(&material).lab);
    !tin.class.is_medium() && seen.is_ok_and(|seen| seen.l >= PALE && HueFamily::of(seen) == HueFamily::White)
}
