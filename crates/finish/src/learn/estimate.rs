//! The estimate of a workspace: tins and readings by their ids.

use std::collections::HashMap;

use rayon::prelude::*;
use warm_blend_spectral::{Lab, Light, Reflectance, Xyz};

use super::worth::{Beside, Reads, Test, Worth, doubt, worth};
use super::{BadTin, Ensemble, Facts, Judged, Learnt, Reading, learn_named};
use crate::board::Strength;
use crate::{Class, Material, PaintId, Parts};

/// Paints that the doubt of a paint in mixes is told by: enough, spread from dark to light.
const COMPANIONS: usize = 8;

/// From which L* a paint is pale enough to be tested with a dark one, and to which a paint is dark enough for that†.
const PALE: f64 = 60.0;
const DARK: f64 = 45.0;

/// What the readings of a workspace say of its tins.
#[derive(Debug, Clone)]
pub struct Estimate {
    places: HashMap<PaintId, usize>,
    ids: Vec<PaintId>,
    facts: Vec<Facts>,
    learnt: Learnt,
    /// By paint: mean 90 % band of its 1 : 1 mixes, ΔE00.
    doubts: Vec<f64>,
    house_white: Option<usize>,
    /// By paint: whether it is at hand.
    at_hand: Vec<bool>,
}

/// A tin that an estimate is asked about.
#[derive(Debug, Clone, Copy)]
pub struct OfShelf {
    /// Its id.
    pub id: PaintId,
    /// What is stated of it.
    pub facts: Facts,
    /// Whether it is on the shelf still: what is not is known as before, but no test is made with it.
    pub at_hand: bool,
}

impl Estimate {
    /// From the tins and the readings, each in the order it is asked about later. Readings of unknown tins are not.
    pub fn of(paints: &[OfShelf], readings: &[Reading<PaintId>]) -> Result<Self, BadTin> {
        let places: HashMap<PaintId, usize> = paints.iter().enumerate().map(|(i, tin)| (tin.id, i)).collect();
        let ids: Vec<PaintId> = paints.iter().map(|tin| tin.id).collect();
        let facts: Vec<Facts> = paints.iter().map(|tin| tin.facts).collect();
        let at_hand = paints.iter().map(|tin| tin.at_hand).collect();
        let placed: Vec<Reading> = readings
            .iter()
            .filter_map(|reading| reading.clone().with_paints(|id| places.get(&id).copied()))
            .collect();
        let names: Vec<u64> = ids.iter().map(|id| id.0.as_u64_pair()).map(|(a, b)| a ^ b).collect();
        let learnt = learn_named(&names, &facts, &placed)?;
        let house_white = facts.iter().position(|facts| facts.house_white);
        Ok(Self { places, ids, facts, learnt, doubts: Vec::new(), house_white, at_hand }.doubted())
    }

    /// The same shelf with what boards say of the strengths of some tins. How readings of paints stand to the rest stays.
    pub fn strengthened(mut self, strengths: &[(PaintId, Strength)]) -> Self {
        for (paint, strength) in strengths {
            if let Some(at) = self.places.get(paint) {
                let known = &mut self.learnt.paints[*at];
                *known = strength.of(known);
            }
        }
        if strengths.is_empty() { self } else { self.doubted() }
    }

    fn doubted(mut self) -> Self {
        self.doubts = (0..self.facts.len())
            .into_par_iter()
            .map(|at| {
                let others = self.companions(at);
                let beside = Beside { others: &others, white: self.white(), dark: None };
                doubt(&self.learnt.paints[at], beside)
            })
            .collect();
        self
    }

    /// A tin as it is known.
    pub fn paint(&self, id: PaintId) -> Option<&Ensemble> {
        self.places.get(&id).map(|at| &self.learnt.paints[*at])
    }

    /// What kind of product a tin holds.
    pub fn class(&self, id: PaintId) -> Option<Class> {
        self.places.get(&id).map(|at| self.facts[*at].class)
    }

    /// The mean 90 % band of its 1 : 1 mixes with others of the shelf, ΔE00; 0 of a medium.
    pub fn doubt(&self, id: PaintId) -> f64 {
        self.places.get(&id).map_or(0.0, |at| self.doubts[*at])
    }

    /// How the reading at this place of the list stands to the rest.
    pub fn judged(&self, reading: usize) -> Option<&Judged> {
        self.learnt.judged.get(reading)
    }

    /// What each test of a tin would buy with a reader that gives `reads`.
    pub fn worth(&self, id: PaintId, reads: Reads) -> Worth {
        let Some(at) = self.places.get(&id).copied().filter(|at| !self.facts[*at].class.is_medium()) else {
            return Worth { doubt: 0.0, after: Vec::new() };
        };
        let others = self.companions(at);
        let dark = self.dark_for(at).map(|dark| &self.learnt.paints[dark]);
        let beside = Beside { others: &others, white: self.white(), dark };
        let mut worth = worth(&self.learnt.paints[at], beside, reads);
        // Nothing is tinted with itself.
        worth.after.retain(|(test, _)| !test.needs_white() || self.house_white != Some(at));
        worth
    }

    /// What is stirred together for a test of a tin, with the parts of each.
    pub fn sample(&self, test: Test, id: PaintId) -> Option<Vec<(PaintId, Parts)>> {
        let at = *self.places.get(&id)?;
        let of = test.of(at, self.house_white.filter(|white| *white != at), self.dark_for(at))?;
        Some(of.into_iter().map(|(at, parts)| (self.ids[at], parts)).collect())
    }

    /// The dark paint that a pale one is best tested with: the one whose own mixes are surest.
    fn dark_for(&self, at: usize) -> Option<usize> {
        let light = |at: usize| lightness(&self.learnt.paints[at].best().masstone());
        let paint = |at: &usize| !self.facts[*at].class.is_medium();
        let dark = self.others(at).filter(|other| light(*other) <= DARK);
        dark.min_by(|a, b| self.doubts[*a].total_cmp(&self.doubts[*b]))
            .filter(|_| paint(&at) && light(at) >= PALE)
    }

    fn white(&self) -> Option<&Ensemble> {
        self.house_white.map(|at| &self.learnt.paints[at])
    }

    /// The other paints at hand.
    fn others(&self, at: usize) -> impl Iterator<Item = usize> {
        (0..self.facts.len()).filter(move |other| {
            *other != at && self.at_hand[*other] && !self.facts[*other].class.is_medium()
        })
    }

    /// Other paints at hand, evenly from the darkest to the lightest.
    fn companions(&self, at: usize) -> Vec<&Material> {
        if self.facts[at].class.is_medium() {
            return Vec::new();
        }
        let mut others: Vec<(f64, &Material)> = self
            .others(at)
            .map(|other| {
                let best = self.learnt.paints[other].best();
                (lightness(&best.masstone()), best)
            })
            .collect();
        others.sort_by(|one, other| one.0.total_cmp(&other.0));
        let n = others.len();
        let kept = n.min(COMPANIONS);
        (0..kept).map(|i| others[if kept > 1 { i * (n - 1) / (kept - 1) } else { 0 }].1).collect()
    }
}

fn lightness(curve: &Reflectance) -> f64 {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white()).l
}
