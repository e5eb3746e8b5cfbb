//! What brings the parts of a piece together.

use std::{collections::HashMap, ops::ControlFlow};

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::KnownTin;
use warm_blend_paint::{Material, PaintId};
use warm_blend_piece::{
    BadFinish, Looked, Over, Piece, Scheme, Searched, Unified, Visit, Zone, calms, off, unify_likely,
};

use crate::pieces::prediction::named_together;
use crate::{PairView, PullView, Refusal, Room, not_said};

/// Treatments that bring parts together.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyFound {
    /// The surest first: what is likely to leave least off, and of those that are alike the lightest. Empty where nothing is off, or nothing
    /// helps.
    pub ways: Vec<UnifyWay>,
    /// Colours of pairs that fight, calmed with a paint from the shelf.
    pub calms: Vec<PullView>,
    /// By how much pairs are outside their windows now, ΔE00, all together.
    pub off: f64,
}

/// Plausible shelves that treatments are judged by.
const SHELVES: usize = 8;

/// Mud from which on it is mentioned, ΔE00†.
const MUDDY: f64 = 3.0;

/// A line of the answer to whoever accepts `application/x-ndjson`.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyStep {
    /// Share of what is tried, 0 to 1.
    pub done: f64,
    /// On the last line: what was found.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub found: Option<UnifyFound>,
}

/// A treatment, and what becomes of every pair.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyWay {
    /// The layer, and where it lies: to be added to the scheme.
    pub over: Over,
    /// `Wash, patted: oat white, over everything`.
    pub words: String,
    /// What it does: `all adjoining parts go together`.
    pub verdict: String,
    /// How much is likely to be off with it, ΔE00: the mean over all that the tins may be, by which the list is ranked.
    pub expected: f64,
    /// The same in words, where it is worth a word: `likely 2 off, as far as the tins are known`.
    pub likely: Option<String>,
    /// True where every pair is within range and nothing else is amiss that was not before.
    pub all_in: bool,
    /// How far it moves the piece, ΔE00, mean by area.
    pub moved: f64,
    /// All pairs with it on.
    pub pairs: Vec<PairView>,
    /// Pairs that are further outside than before.
    pub worse: Vec<String>,
    /// Other faults that it makes, in words.
    pub faults: Vec<String>,
    /// Mixture, ml.
    pub ml: f64,
    /// What that costs, where every price is known.
    pub cost: Option<f64>,
    /// Hours at it, without waiting.
    pub hours: f64,
}

/// What is in doubt about a way, in words; none where that is less than anybody sees.
fn likely(way: &Unified) -> Option<String> {
    let off = way.expected.round();
    (way.expected - way.amount() >= 1.0).then(|| format!("likely {off} off, as far as the tins are known"))
}

impl Room<'_> {
    /// Treatments that bring every pair of neighbours into its window; `watch` may break the search off.
    pub fn unify(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        watch: impl FnMut(Searched) -> ControlFlow<()>,
    ) -> Result<UnifyFound, Refusal> {
        let standing = self.stand(piece, scheme)?.ok_or_else(not_said)?;
        let looked = standing.looked(piece, scheme, self.look);
        let elevation = &standing.in_dress.elevation;
        let on_shelf = self.shelf.on_shelf();
        let plausible = |visit: &mut Visit| {
            let may_be: HashMap<PaintId, Vec<Material>> = self.shelf.plausible(SHELVES);
            for shelf in 0..SHELVES {
                let tin = |paint| {
                    let known = self.shelf.material(paint)?;
                    let material = may_be.get(&paint).and_then(|all| all.get(shelf));
                    Some(KnownTin { material: material.unwrap_or(known.material), ..known })
                };
                let step = self.with_tins(&tin, elevation, |wardrobe| {
                    let zones = standing.seen_by(wardrobe, piece, scheme, self.look)?;
                    visit(&Looked { zones: &zones, ..standing.looked(piece, scheme, self.look) }, wardrobe)
                })?;
                if step.is_break() {
                    break;
                }
            }
            Ok(())
        };
        let found = self.with(elevation, |wardrobe| {
            let ways = unify_likely(&looked, wardrobe, &on_shelf, &plausible, watch)?;
            Ok((ways, calms(&looked, wardrobe, &on_shelf)?))
        });
        let (ways, calms) = found.map_err(|error: BadFinish| Refusal::field("/schemes", error))?;
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
            wipe if wipe < 0.4 => ", lightly wiped",
            _ => ", wiped firmly",
        };
        let all_in = way.off + way.amiss <= 1e-9;
        let muddies = (way.mud > MUDDY).then(|| "it muddies the colours".to_owned());
        let left = way.pairs.iter().filter(|pair| pair.off() > 0.0).count();
        UnifyWay {
            words: format!(
                "{}: {}{wipe}{passes}, over {place}",
                layer.technique.name(),
                self.shelf.pot_words(&layer.pot)
            ),
            verdict: match left {
                0 => "all adjoining parts go together".to_owned(),
                1 => "1 pair of adjoining parts still doesn’t go together".to_owned(),
                left => format!("{left} pairs of adjoining parts still don’t go together"),
            },
            expected: way.expected,
            likely: likely(way),
            all_in,
            moved: way.moved,
            pairs: way.pairs.iter().map(PairView::of).collect(),
            worse: way.worse.iter().copied().map(named_together).collect(),
            faults: way.faults.iter().map(|fault| fault.what.clone()).chain(muddies).collect(),
            ml: way.ml,
            cost: self.cost(&layer.pot, way.ml),
            hours: way.hours,
            over: way.over.clone(),
        }
    }
}
