//! What brings the parts of a piece together.

use std::ops::ControlFlow;

use axum::{
    Json,
    extract::State,
    http::{HeaderMap, header},
    response::{IntoResponse, Response},
};
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_piece::{BadDress, Piece, Scheme, Searched, Unified, Zone, calms, off, unify};

use super::{
    Room,
    entry::{OverEntry, PieceEntry},
    not_said, scheme_of,
    told::{PairTold, PullTold, SchemeAsked, named_together},
};
use crate::{
    Workspace,
    body::{Asked, Body},
    colour::LookedAt,
    off_thread::{line_by_line, while_asked},
    problem::Problem,
};

/// Treatments that bring parts together.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyFound {
    /// The lightest that brings every pair into its window first; where none does, what leaves least off. Empty where nothing
    /// is off, or nothing helps.
    ways: Vec<UnifyWay>,
    /// Colours of pairs that fight, calmed with a paint from the shelf.
    calms: Vec<PullTold>,
    /// By how much pairs are outside their windows now, ΔE00, all together.
    off: f64,
}

/// A line of the answer to whoever accepts `application/x-ndjson`.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyStep {
    /// Share of what is tried, 0 to 1.
    done: f64,
    /// On the last line: what was found.
    #[serde(skip_serializing_if = "Option::is_none")]
    found: Option<UnifyFound>,
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
    /// True where every pair is in its window and nothing else is amiss that was not before.
    all_in: bool,
    /// How far it moves the piece, ΔE00, mean by area.
    moved: f64,
    /// All pairs with it on.
    pairs: Vec<PairTold>,
    /// Pairs that are further outside than before.
    worse: Vec<String>,
    /// Other faults that it makes, in words.
    faults: Vec<String>,
    /// Mixture, ml.
    ml: f64,
    /// What that costs, where every price is known.
    cost: Option<f64>,
    /// Hours at it, without waiting.
    hours: f64,
}

/// Washes, glazes, waxes and metallics from the shelf that bring every pair of neighbours into its window. Leaving off stops the
/// search. To whoever accepts `application/x-ndjson` it is told line by line how far it is: see `UnifyStep`.
#[utoipa::path(post, path = "/piece/unify", operation_id = "unify_piece",
    tag = "piece", params(LookedAt, SchemeAsked), request_body = PieceEntry,
    responses((status = OK, content((UnifyFound = "application/json"), (UnifyStep = "application/x-ndjson")))))]
pub async fn find(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(of): Asked<SchemeAsked>,
    headers: HeaderMap,
    Body(entry): Body<PieceEntry>,
) -> Result<Response, Problem> {
    let (look, piece) = (asked.get()?, entry.parse()?);
    let scheme = scheme_of(&piece, of.scheme)?;
    let room = Room::of(&workspace, look).await?;
    let by_line = headers.get(header::ACCEPT).is_some_and(|accept| accept == "application/x-ndjson");
    if by_line {
        return Ok(line_by_line(move |telling| {
            let step = |searched: Searched| telling.line(&UnifyStep { done: searched.done, found: None });
            Ok(UnifyStep { done: 1.0, found: Some(room.unify(&piece, &scheme, step)?) })
        }));
    }
    let found = while_asked(move |asking| room.unify(&piece, &scheme, |_| asking.goes_on())).await?;
    Ok(Json(found).into_response())
}

impl Room {
    fn unify(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        watch: impl FnMut(Searched) -> ControlFlow<()>,
    ) -> Result<UnifyFound, Problem> {
        let standing = self.stand(piece, scheme)?.ok_or_else(not_said)?;
        let looked = standing.looked(piece, scheme, self.look);
        let elevation = &standing.in_dress.elevation;
        let found = self.with(elevation, |wardrobe| {
            let ways = unify(&looked, wardrobe, &self.shelf, watch)?;
            Ok((ways, calms(&looked, wardrobe, &self.shelf)?))
        });
        let (ways, calms) = found.map_err(|error: BadDress| Problem::field("/schemes", error))?;
        Ok(UnifyFound {
            ways: ways.iter().map(|way| self.way(way)).collect(),
            calms: calms.iter().map(|calm| self.pull(calm)).collect(),
            off: off(&looked.pairs()),
        })
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
        let all_in = way.amount() <= 1e-9;
        let left = way.pairs.iter().filter(|pair| pair.off() > 0.0).count();
        UnifyWay {
            words: format!(
                "{}: {}{wipe}{passes}, over {place}",
                layer.technique.name(),
                self.names.pot(&layer.pot)
            ),
            verdict: match left {
                0 => "every pair is in its window".to_owned(),
                1 => "one pair stays outside".to_owned(),
                left => format!("{left} pairs stay outside"),
            },
            all_in,
            moved: way.moved,
            pairs: way.pairs.iter().map(PairTold::of).collect(),
            worse: way.worse.iter().copied().map(named_together).collect(),
            faults: way.faults.iter().map(|fault| fault.what.clone()).collect(),
            ml: way.ml,
            cost: self.cost(&layer.pot, way.ml),
            hours: way.hours,
            over: OverEntry::from(&way.over),
        }
    }
}
