//! A piece in its finishes, with the boards and tins they refer to.

use std::collections::BTreeMap;

use uuid::Uuid;
use warm_blend_board::{Board, ByPlace, GroundKind, KnownTin};
use warm_blend_documents::Kept;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Look, MixPart, PaintId, shares};
use warm_blend_piece::{
    BadFinish, BadForm, Elevation, Extent, FinishContext, FinishedZone, Form, Looked, Meeting, Piece, Scheme,
    Zone, ZoneSeen,
};

use crate::{Refusal, ShelfSnapshot};

/// Context for looking at a scheme: boards and shelf.
#[derive(Debug, Clone, Copy)]
pub struct Room<'a> {
    /// All boards, including deleted ones.
    pub boards: &'a BTreeMap<Uuid, Board>,
    /// The shelf.
    pub shelf: &'a ShelfSnapshot,
    /// Light and state.
    pub look: Look,
}

/// A piece in its finishes.
#[derive(Debug)]
pub struct FinishedPiece {
    /// Kind and dimensions.
    pub form: Form,
    /// Its parts in proportion.
    pub elevation: Elevation,
    /// Finished zones.
    pub dressed: BTreeMap<Zone, FinishedZone>,
    /// Zones whose finish is impossible, with the reason.
    pub refused: Vec<(Zone, BadFinish)>,
}

/// Appearance of a piece's zones.
pub(crate) struct PieceSeen {
    pub in_dress: FinishedPiece,
    pub extents: BTreeMap<Zone, Extent>,
    pub zones: Vec<ZoneSeen>,
    pub places: BTreeMap<Zone, ByPlace<f64>>,
    pub meetings: Vec<Meeting>,
}

impl PieceSeen {
    /// Appearance of its zones with other tins.
    pub fn seen_by(
        &self,
        wardrobe: &FinishContext,
        piece: &Piece,
        scheme: &Scheme,
        look: Look,
    ) -> Result<Vec<ZoneSeen>, BadFinish> {
        let seen = |zone: &Zone| {
            let worn = wardrobe.dress(*zone, scheme, piece.ground, &scheme.over, None)?;
            Ok(worn.look(*zone, self.extents[zone], &self.places[zone], look.light, look.state))
        };
        self.in_dress.dressed.keys().map(seen).collect()
    }

    pub fn looked<'a>(&'a self, piece: &'a Piece, scheme: &'a Scheme, look: Look) -> Looked<'a> {
        let PieceSeen { zones, places, meetings, .. } = self;
        Looked { piece, scheme, zones, places, meetings, look: (look.light, look.state) }
    }
}

/// Refusal for a piece without a kind.
pub fn not_said() -> Refusal {
    Refusal::field("/form", "set what the piece is first")
}

/// A piece in true proportion; refused before its kind is chosen.
pub fn elevation_of(piece: &Piece) -> Result<Elevation, Refusal> {
    let wrong = |error: BadForm| Refusal::field(format!("/form/{}", error.field), error.message);
    piece.elevation().ok_or_else(not_said)?.map_err(wrong)
}

impl Room<'_> {
    /// The primer for a ground, the fullest on the shelf: one that blocks stains if the ground bleeds, otherwise one that
    /// sticks.
    pub(crate) fn primer(&self, ground: GroundKind) -> Option<PaintId> {
        let serves = |tin: &&Kept<ShelfPaint>| {
            self.shelf.product(PaintId(tin.id)).is_some_and(|product| match ground.bleeds() {
                true => product.blocks_stains(),
                false => product.class == Class::Primer,
            })
        };
        let left = |tin: &Kept<ShelfPaint>| tin.value.stock.map_or(0.0, |stock| stock.value());
        let primers = self.shelf.tins().filter(serves);
        primers.max_by(|one, other| left(one).total_cmp(&left(other))).map(|tin| PaintId(tin.id))
    }

    /// Cost of an amount of a mixture, if every price is known.
    pub(crate) fn cost(&self, pot: &[MixPart], ml: f64) -> Option<f64> {
        shares(pot).map(|(paint, share)| Some(self.by_ml(paint)? * ml * share)).sum()
    }

    fn by_ml(&self, paint: PaintId) -> Option<f64> {
        let tin = self.shelf.tin(paint.0).ok().filter(|tin| !tin.removed)?;
        tin.value.price_by_ml()
    }

    /// Runs something with the context that the engine needs.
    pub(crate) fn with<R>(&self, elevation: &Elevation, work: impl FnOnce(&FinishContext) -> R) -> R {
        self.with_tins(&|paint| self.shelf.material(paint), elevation, work)
    }

    /// Runs something with the context that the engine needs, with other tins.
    pub(crate) fn with_tins<'t, R>(
        &self,
        tin: &(dyn Fn(PaintId) -> Option<KnownTin<'t>> + Sync),
        elevation: &Elevation,
        work: impl FnOnce(&FinishContext) -> R,
    ) -> R {
        let tin = |paint| tin(paint);
        let habit = |technique| self.shelf.hands().habit(technique);
        let board = |id| self.boards.get(&id);
        let primer = |ground| self.primer(ground);
        work(&FinishContext { tin: &tin, habit: &habit, elevation, board: &board, primer: &primer })
    }

    /// A scheme as finished zones; `None` for a piece without a kind.
    pub fn dress(&self, piece: &Piece, scheme: &Scheme) -> Result<Option<FinishedPiece>, Refusal> {
        let Some(form) = piece.form else { return Ok(None) };
        let elevation = elevation_of(piece)?;
        let (mut dressed, mut refused) = (BTreeMap::new(), Vec::new());
        self.with(&elevation, |wardrobe| {
            for zone in elevation.extents().into_keys().filter(|zone| zone.is_painted()) {
                match wardrobe.dress(zone, scheme, piece.ground, &scheme.over, None) {
                    Ok(worn) => drop(dressed.insert(zone, worn)),
                    Err(error) => refused.push((zone, error)),
                }
            }
        });
        Ok(Some(FinishedPiece { form, elevation, dressed, refused }))
    }

    /// Appearance of a scheme; `None` for a piece without a kind.
    pub(crate) fn stand(&self, piece: &Piece, scheme: &Scheme) -> Result<Option<PieceSeen>, Refusal> {
        let Some(in_dress) = self.dress(piece, scheme)? else { return Ok(None) };
        let elevation = &in_dress.elevation;
        let (extents, places) = (piece.extents(elevation), elevation.places());
        let meetings = piece.meetings(elevation);
        let look = |(zone, worn): (&Zone, &FinishedZone)| {
            worn.look(*zone, extents[zone], &places[zone], self.look.light, self.look.state)
        };
        let zones = in_dress.dressed.iter().map(look).collect();
        Ok(Some(PieceSeen { in_dress, extents, zones, places, meetings }))
    }
}

/// The requested scheme, by default the chosen one; an empty scheme for a piece that was never dressed.
pub fn scheme_of(piece: &Piece, asked: Option<usize>) -> Result<Scheme, Refusal> {
    let at = asked.unwrap_or(piece.chosen);
    match piece.schemes.get(at) {
        Some(scheme) => Ok(scheme.clone()),
        None if asked.is_none() || piece.schemes.is_empty() => Ok(Scheme {
            name: piece.name.clone(),
            wears: BTreeMap::new(),
            over: Vec::new(),
            intent: warm_blend_piece::Intent::default(),
            pairs: Vec::new(),
        }),
        None => {
            Err(Refusal::field("?scheme", format!("no such scheme; use 0 to {}", piece.schemes.len() - 1)))
        }
    }
}
