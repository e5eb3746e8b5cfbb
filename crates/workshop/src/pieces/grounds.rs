//! The ground of a zone, and its effect if the board was painted on another.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::{Board, GroundKind};
use warm_blend_paint::Verdict;
use warm_blend_piece::{Finish, Piece, Scheme, Zone, ZoneFinish};

use super::room::PieceSeen;
use crate::Room;

/// The ground of a zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct ZoneGround {
    /// Kind of ground.
    pub kind: GroundKind,
    /// `Dark red stain` …
    pub name: &'static str,
    /// True if it differs from the rest of the piece.
    pub own: bool,
    /// Effect on the colour, if the board was painted on another ground.
    pub differs: Option<String>,
    /// Why paint may fail on it.
    pub fails: Option<&'static str>,
}

impl Room<'_> {
    /// The ground below the finish of a zone; `None` if it stays bare.
    pub(super) fn ground_of(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        standing: &PieceSeen,
        zone: Zone,
    ) -> Option<ZoneGround> {
        let dress = scheme.dress(zone).filter(|dress| dress.wears != Finish::Bare)?;
        let ground = dress.ground.unwrap_or(piece.ground);
        let laid =
            self.with(&standing.in_dress.elevation, |context| context.laid_on(zone, scheme, piece.ground));
        let first = laid.ok()?.layers.into_iter().find(|layer| !layer.technique.takes_away());
        let tin = |paint| self.shelf.material(paint);
        let blocked = first.as_ref().is_some_and(|layer| layer.contents(tin).blocks_stains());
        let fails = match ground.kind {
            _ if blocked || first.is_none() => None,
            kind if kind.is_slick() => Some("paint does not grip it without a bonding primer"),
            kind if kind.bleeds() => {
                Some("it bleeds through water-based paint without a stain-blocking primer")
            }
            _ => None,
        };
        Some(ZoneGround {
            kind: ground.kind,
            name: ground.kind.name(),
            own: dress.ground.is_some_and(|own| own.kind != piece.ground.kind),
            differs: self.differs(piece, scheme, standing, (zone, dress)),
            fails,
        })
    }

    /// Effect on the colour of the board's having another ground.
    fn differs(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        standing: &PieceSeen,
        (zone, dress): (Zone, &ZoneFinish),
    ) -> Option<String> {
        let Finish::Strip { board, .. } = dress.wears else { return None };
        let Board { ground: card, .. } = self.boards.get(&board)?;
        let ground = dress.ground.unwrap_or(piece.ground);
        if card.kind == ground.kind {
            return None;
        }
        let (worn, places) = (standing.in_dress.dressed.get(&zone)?, standing.places.get(&zone)?);
        let as_on_board = Scheme {
            wears: [(zone, ZoneFinish { ground: Some(*card), ..dress.clone() })].into(),
            ..scheme.clone()
        };
        let on_board = self.with(&standing.in_dress.elevation, |context| {
            context.dress(zone, &as_on_board, piece.ground, &as_on_board.over, None)
        });
        let lab = |worn: &warm_blend_piece::FinishedZone| worn.lab(places, self.look.light, self.look.state);
        let verdict = Verdict::against(lab(worn), lab(&on_board.ok()?), "the board");
        let [card, own] = [card.kind, ground.kind].map(|kind| kind.name().to_lowercase());
        Some(if verdict.can_be_seen() {
            format!("The board lay on {card}. Here on {own} it comes out {}.", verdict.words())
        } else {
            format!("The board lay on {card}, the piece has {own}: no difference you could see.")
        })
    }
}
