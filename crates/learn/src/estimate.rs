//! The estimate of a workspace, with tins and readings by id.

use std::{
    collections::HashMap,
    sync::{LazyLock, OnceLock},
};

use warm_blend_paint::{Class, Masstone, Material, Optics, PaintId, Parts, SurfaceReflection};
use warm_blend_spectral::{Light, Srgb};

use super::{
    BadTin, Ensemble, Facts, Judged, KeptComponent, Learnt, Reading, learn_up_to,
    worth::{Beside, Reads, Test, Worth, after_test, doubt, worth},
};
use crate::Strength;

/// Number of paints that represent the shelf when the uncertainty of a paint in mixes is computed, evenly spaced from
/// dark to light.
const COMPANIONS: usize = 8;

/// L* from which a paint is pale enough to be tested with a dark one, and up to which a paint is dark enough for that†.
const PALE: f64 = 60.0;
const DARK: f64 = 45.0;

/// Partner for the first paint of a shelf: a typical white chalk-type paint.
static PLAIN_WHITE: LazyLock<Material> = LazyLock::new(|| {
    let white = Masstone::Hex(Srgb { red: 240, green: 237, blue: 230 });
    // A white of a class always makes a material.
    Material::of(Class::Chalk, Some(white), None)
        .unwrap_or_else(|_| Material::closed(Optics::NONE, SurfaceReflection::new(0.0)))
});

/// What the readings of a workspace reveal about its tins.
#[derive(Debug, Clone)]
pub struct Estimate {
    places: HashMap<PaintId, usize>,
    ids: Vec<PaintId>,
    facts: Vec<Facts>,
    /// Result from readings of paints.
    learnt: Learnt,
    /// The same with strengths from boards.
    known: Vec<Ensemble>,
    /// By paint: mean 90 % band of its 1 : 1 mixes, ΔE00, computed when first needed.
    doubts: Vec<OnceLock<f64>>,
    /// Paints on the shelf by L* of the masstone, darkest first.
    by_lightness: Vec<(f64, usize)>,
    house_white: Option<usize>,
    /// By paint: true if it is on the shelf.
    at_hand: Vec<bool>,
}

/// A tin to be estimated.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OfShelf {
    /// Identifier.
    pub id: PaintId,
    /// What is known of it without readings.
    pub facts: Facts,
    /// True if it is still on the shelf. Others are estimated too, but not used in tests.
    pub at_hand: bool,
}

impl Estimate {
    /// Estimates from tins and readings; results are in the order of both. Readings of unknown tins are ignored.
    pub fn of(paints: &[OfShelf], readings: &[Reading<PaintId>]) -> Result<Self, BadTin> {
        Self::from(&Learnt::default(), paints, readings, usize::MAX)
    }

    /// Estimates with the help of a stored copy, with exactly the same result. Only what changed is learned again;
    /// components with more than `most` new readings are deferred.
    pub fn recalled(
        kept: Vec<KeptComponent>,
        paints: &[OfShelf],
        readings: &[Reading<PaintId>],
        most: usize,
    ) -> Result<Self, BadTin> {
        Self::from(&Learnt::recalled(kept), paints, readings, most)
    }

    /// Updates the estimate. Only what changed is learned again; components with more than `most` new readings are
    /// deferred.
    pub fn after(
        &self,
        paints: &[OfShelf],
        readings: &[Reading<PaintId>],
        most: usize,
    ) -> Result<Self, BadTin> {
        Self::from(&self.learnt, paints, readings, most)
    }

    /// Number of deferred readings; their tins are estimated from labels and masstones.
    pub fn pending_readings(&self) -> usize {
        self.learnt.pending_readings
    }

    /// What readings of paints reveal, without boards.
    pub fn learnt(&self) -> &Learnt {
        &self.learnt
    }

    fn from(
        before: &Learnt,
        paints: &[OfShelf],
        readings: &[Reading<PaintId>],
        most: usize,
    ) -> Result<Self, BadTin> {
        let places: HashMap<PaintId, usize> = paints.iter().enumerate().map(|(i, tin)| (tin.id, i)).collect();
        let ids: Vec<PaintId> = paints.iter().map(|tin| tin.id).collect();
        let facts: Vec<Facts> = paints.iter().map(|tin| tin.facts).collect();
        let at_hand = paints.iter().map(|tin| tin.at_hand).collect();
        let placed: Vec<Reading> = readings
            .iter()
            .filter_map(|reading| reading.clone().with_paints(|id| places.get(&id).copied()))
            .collect();
        let names: Vec<u64> = ids.iter().map(|id| id.0.as_u64_pair()).map(|(a, b)| a ^ b).collect();
        let learnt = learn_up_to(most, before, &names, &facts, &placed)?;
        let house_white = facts.iter().position(|facts| facts.house_white);
        let known = learnt.paints.clone();
        let (doubts, by_lightness) = (Vec::new(), Vec::new());
        Ok(Self { places, ids, facts, learnt, known, doubts, by_lightness, house_white, at_hand }.in_order())
    }

    /// Adds what boards reveal about the strength of some tins. Judgements of readings do not change.
    pub fn strengthened(mut self, strengths: &[(PaintId, Strength)]) -> Self {
        for (paint, strength) in strengths {
            if let Some(at) = self.places.get(paint) {
                let known = &mut self.known[*at];
                *known = strength.applied_to(known);
            }
        }
        self.in_order()
    }

    fn in_order(mut self) -> Self {
        self.doubts = vec![OnceLock::new(); self.facts.len()];
        let at_hand = |at: &usize| self.at_hand[*at] && !self.facts[*at].class.is_medium();
        self.by_lightness =
            (0..self.facts.len()).filter(at_hand).map(|at| (lightness(&self.known[at]), at)).collect();
        self.by_lightness.sort_by(|one, other| one.0.total_cmp(&other.0));
        self
    }

    fn doubt_at(&self, at: usize) -> f64 {
        *self.doubts[at].get_or_init(|| {
            let others = self.companions(at);
            doubt(&self.known[at].for_a_look(), Beside { others: &others, white: self.white(), dark: None })
        })
    }

    /// The ensemble of a tin.
    pub fn paint(&self, id: PaintId) -> Option<&Ensemble> {
        self.places.get(&id).map(|at| &self.known[*at])
    }

    /// Class of a tin.
    pub fn class(&self, id: PaintId) -> Option<Class> {
        self.places.get(&id).map(|at| self.facts[*at].class)
    }

    /// Mean 90 % band of its 1 : 1 mixes with others on the shelf, ΔE00; 0 for a medium.
    pub fn doubt(&self, id: PaintId) -> f64 {
        self.places.get(&id).map_or(0.0, |at| self.doubt_at(*at))
    }

    /// Judgement of the reading at this index; `None` while it is deferred.
    pub fn judged(&self, reading: usize) -> Option<&Judged> {
        self.learnt.judged.get(reading).filter(|judged| !judged.predicted.is_empty())
    }

    /// Benefit of each test of a tin, with a device that gives `reads`.
    pub fn worth(&self, id: PaintId, reads: Reads) -> Worth {
        let Some(at) = self.places.get(&id).copied().filter(|at| !self.facts[*at].class.is_medium()) else {
            return Worth { doubt: 0.0, after: Vec::new() };
        };
        let others = self.companions(at);
        let dark = self.dark_for(at).map(|dark| &self.known[dark]);
        let beside = Beside { others: &others, white: self.white(), dark };
        let mut worth = worth(&self.known[at], beside, reads);
        // The house white is not tinted with itself.
        worth.after.retain(|(test, _)| !test.needs_white() || self.house_white != Some(at));
        worth
    }

    /// A tin after a test of it came out as expected, with a device that gives `reads`; `None` if the test cannot be made.
    pub fn after_test(&self, test: Test, id: PaintId, reads: Reads) -> Option<Ensemble> {
        let at = *self.places.get(&id)?;
        self.sample(test, id)?;
        let dark = self.dark_for(at).map(|dark| &self.known[dark]);
        after_test(test, &self.known[at], Beside { others: &[], white: self.white(), dark }, reads)
    }

    /// Tins and parts to mix for a test of a tin.
    pub fn sample(&self, test: Test, id: PaintId) -> Option<Vec<(PaintId, Parts)>> {
        let at = *self.places.get(&id)?;
        let of = test.of(at, self.house_white.filter(|white| *white != at), self.dark_for(at))?;
        Some(of.into_iter().map(|(at, parts)| (self.ids[at], parts)).collect())
    }

    /// The best dark paint to test a pale one with: the one whose mixes are most certain.
    fn dark_for(&self, at: usize) -> Option<usize> {
        if self.facts[at].class.is_medium() || lightness(&self.known[at]) < PALE {
            return None;
        }
        let dark = self.others(at).filter(|(light, _)| *light <= DARK).map(|(_, other)| other);
        dark.min_by(|a, b| self.doubt_at(*a).total_cmp(&self.doubt_at(*b)))
    }

    fn white(&self) -> Option<&Ensemble> {
        self.house_white.map(|at| &self.known[at])
    }

    /// The other paints on the shelf, darkest first.
    fn others(&self, at: usize) -> impl Iterator<Item = (f64, usize)> {
        self.by_lightness.iter().copied().filter(move |(_, other)| *other != at)
    }

    /// Representatives of the other paints, evenly spaced from dark to light; a plain white if there is no other.
    fn companions(&self, at: usize) -> Vec<&Material> {
        if self.facts[at].class.is_medium() {
            return Vec::new();
        }
        let own = self.by_lightness.iter().position(|(_, other)| *other == at);
        let n = self.by_lightness.len() - usize::from(own.is_some());
        if n == 0 {
            return vec![&PLAIN_WHITE];
        }
        let kept = n.min(COMPANIONS);
        let nth = |i: usize| if kept > 1 { i * (n - 1) / (kept - 1) } else { 0 };
        let beside = |i: usize| if own.is_some_and(|own| own <= i) { i + 1 } else { i };
        (0..kept).map(|i| self.known[self.by_lightness[beside(nth(i))].1].best()).collect()
    }
}

fn lightness(of: &Ensemble) -> f64 {
    of.best().seen_lab(Light::Daylight).l
}
