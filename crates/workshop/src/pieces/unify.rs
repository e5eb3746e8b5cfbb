//! Treatments that bring the parts of a piece together.

use std::{collections::HashMap, ops::ControlFlow};

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Material, PaintId};
use warm_blend_piece::{
    BadFinish, Looked, Over, Piece, Scheme, Searched, Unified, Visit, Zone, calms, off, unify_likely,
};

use crate::pieces::prediction::named_together;
use crate::{PairView, PullView, Refusal, Room, not_said};

/// Treatments that bring parts together.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyFound {
    /// Treatments that probably leave least wrong, best first, and of equals the lightest. Empty if nothing is wrong, or
    /// nothing helps.
    pub ways: Vec<UnifyWay>,
    /// Clashing colours, muted with a paint of the shelf.
    pub calms: Vec<PullView>,
    /// Current total distance of pairs outside their windows, ΔE00.
    pub off: f64,
}

/// Number of plausible shelves on which treatments are judged.
const SHELVES: usize = 8;

/// Mud from which it is mentioned, ΔE00†.
const MUDDY: f64 = 3.0;

/// A line of the streamed answer (`application/x-ndjson`).
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyStep {
    /// Share of treatments tried, 0 to 1.
    pub done: f64,
    /// The result, on the last line.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub found: Option<UnifyFound>,
}

/// A treatment with its effect.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnifyWay {
    /// The layer with its zones, to be added to the scheme.
    pub over: Over,
    /// `Wash, patted: oat white, over everything`.
    pub words: String,
    /// Effect in words: `all adjoining parts go together`.
    pub verdict: String,
    /// What is probably wrong afterwards, ΔE00: the mean over everything that the tins may be, by which treatments are
    /// ranked.
    pub expected: f64,
    /// Expected result in words, if notable: `likely 2 off, as far as the tins are known`.
    pub likely: Option<String>,
    /// True if every pair is within its window and no new fault appears.
    pub all_in: bool,
    /// Mean change of the piece by area, ΔE00.
    pub moved: f64,
    /// All pairs afterwards.
    pub pairs: Vec<PairView>,
    /// Pairs further outside their windows than before.
    pub worse: Vec<String>,
    /// Other new faults, as text.
    pub faults: Vec<String>,
    /// Amount of the mixture, ml.
    pub ml: f64,
    /// Its cost, if every price is known.
    pub cost: Option<f64>,
    /// Hours of work, without waiting.
    pub hours: f64,
}

/// Expected result of a treatment in words; `None` if it is too small to see.
fn likely(way: &Unified) -> Option<String> {
    let off = way.expected.round();
    (way.expected - way.amount() >= 1.0).then(|| format!("likely {off} off, as far as the tins are known"))
}

impl Room<'_> {
    /// Finds treatments that bring every pair into its window; `watch` may cancel the search.
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
                let tin = |paint| self.shelf.plausible_tin(&may_be, shelf, paint);
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
