//! What brings the parts of a piece together.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_finish::piece::{Piece, Scheme, Unified, Zone, off, unify};

use super::entry::{OverEntry, PieceEntry};
use super::told::{PairTold, SchemeAsked, named_together};
use super::{Room, not_said, scheme_of};
use crate::Workspace;
use crate::body::{Asked, Body};
use crate::colour::LookedAt;
use crate::off_thread::{Asking, while_asked};
use crate::problem::Problem;

/// Treatments that bring parts together.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyFound {
    /// The lightest that brings every pair into its window first; where none does, what leaves least off. Empty where nothing
    /// is off, or nothing helps.
    ways: Vec<UnifyWay>,
    /// By how much pairs are outside their windows now, ΔE00, all together.
    off: f64,
}

/// A treatment, and what becomes of every pair.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyWay {
    /// The layer, and where it lies: to be added to the scheme.
    over: OverEntry,
    /// `Wash, patted: oat white, over everything`.
    words: String,
    /// What it does: `every pair is in its window`.
    verdict: String,
    /// True where every pair is in its window.
    all_in: bool,
    /// How far it moves the piece, ΔE00, mean by area.
    moved: f64,
    /// All pairs with it on.
    pairs: Vec<PairTold>,
    /// Pairs that are further outside than before.
    worse: Vec<String>,
    /// Mixture, ml.
    ml: f64,
    /// What that costs, where every price is known.
    cost: Option<f64>,
    /// Hours at it, without waiting.
    hours: f64,
}

/// Washes, glazes and waxes from the shelf that bring every pair of neighbours into its window. Leaving off stops the search.
#[utoipa::path(post, path = "/piece/unify", operation_id = "unify_piece",
    tag = "piece", params(LookedAt, SchemeAsked), request_body = PieceEntry,
    responses((status = OK, body = UnifyFound), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn find(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(of): Asked<SchemeAsked>,
    Body(entry): Body<PieceEntry>,
) -> Result<Json<UnifyFound>, Problem> {
    let (look, piece) = (asked.get()?, entry.parse()?);
    let scheme = scheme_of(&piece, of.scheme)?;
    let room = Room::of(&workspace, look).await?;
    while_asked(move |asking| room.unify(&piece, &scheme, asking)).await.map(Json)
}

impl Room {
    fn unify(&self, piece: &Piece, scheme: &Scheme, asking: &Asking) -> Result<UnifyFound, Problem> {
        let standing = self.stand(piece, scheme)?.ok_or_else(not_said)?;
        let looked = standing.looked(piece, scheme, self.look);
        let elevation = &standing.in_dress.elevation;
        let found =
            self.with(elevation, |wardrobe| unify(&looked, wardrobe, &self.shelf, |_| asking.goes_on()));
        let found = found.map_err(|error| Problem::field("/schemes", error))?;
        Ok(UnifyFound { ways: found.iter().map(|way| self.way(way)).collect(), off: off(&looked.pairs()) })
    }

    fn way(&self, way: &Unified) -> UnifyWay {
        let layer = &way.over.layer;
        let names: Vec<String> =
            way.over.zones.iter().map(|zone: &Zone| zone.name().to_lowercase()).collect();
        let place = if names.is_empty() { "everything".to_owned() } else { names.join(", ") };
        let passes = match layer.hand.passes.value() {
            1 => "",
            2 => ", twice",
            _ => ", several times",
        };
        let wipe = match layer.hand.wipe.value() {
            wipe if !layer.technique.is_wiped() || (0.4..=0.6).contains(&wipe) => "",
            wipe if wipe < 0.4 => ", hardly wiped",
            _ => ", wiped firmly",
        };
        let all_in = way.off <= 1e-9;
        let left = way.pairs.iter().filter(|pair| pair.off() > 0.0).count();
        UnifyWay {
            words: format!(
                "{}: {}{wipe}{passes}, over {place}",
                layer.technique.name(),
                self.names.pot(&layer.pot)
            ),
            verdict: match (all_in, left) {
                (true, _) => "every pair is in its window".to_owned(),
                (false, 1) => "one pair stays outside".to_owned(),
                (false, left) => format!("{left} pairs stay outside"),
            },
            all_in,
            moved: way.moved,
            pairs: way.pairs.iter().map(PairTold::of).collect(),
            worse: way.worse.iter().copied().map(named_together).collect(),
            ml: way.ml,
            cost: self.cost(&layer.pot, way.ml),
            hours: way.hours,
            over: OverEntry::from(&way.over),
        }
    }
}
