//! The estimate of a workspace: tins and readings by their ids.

use std::collections::HashMap;

use rayon::prelude::*;
use warm_blend_spectral::{Lab, Light, Reflectance, Xyz};

use super::worth::{Worth, doubt, worth};
use super::{BadTin, Ensemble, Facts, Judged, Learnt, Reading, learn};
use crate::{Material, PaintId};

/// Paints that the doubt of a paint in mixes is told by: enough, spread from dark to light.
const COMPANIONS: usize = 8;

/// What the readings of a workspace say of its tins.
#[derive(Debug, Clone)]
pub struct Estimate {
    places: HashMap<PaintId, usize>,
    facts: Vec<Facts>,
    learnt: Learnt,
    /// By paint: mean 90 % band of its 1 : 1 mixes, ΔE00.
    doubts: Vec<f64>,
    house_white: Option<usize>,
}

impl Estimate {
    /// From the tins and the readings, each in the order it is asked about later. Readings of unknown tins are not.
    pub fn of(paints: &[(PaintId, Facts)], readings: &[Reading<PaintId>]) -> Result<Self, BadTin> {
        let places: HashMap<PaintId, usize> =
            paints.iter().enumerate().map(|(i, (id, _))| (*id, i)).collect();
        let facts: Vec<Facts> = paints.iter().map(|(_, facts)| *facts).collect();
        let placed: Vec<Reading> = readings
            .iter()
            .filter_map(|reading| reading.clone().with_paints(|id| places.get(&id).copied()))
            .collect();
        let learnt = learn(&facts, &placed)?;
        let house_white = facts.iter().position(|facts| facts.house_white);
        let mut estimate = Self { places, facts, learnt, doubts: Vec::new(), house_white };
        estimate.doubts = (0..estimate.facts.len())
            .into_par_iter()
            .map(|at| doubt(&estimate.learnt.paints[at], &estimate.companions(at), estimate.white()))
            .collect();
        Ok(estimate)
    }

    /// A tin as it is known.
    pub fn paint(&self, id: PaintId) -> Option<&Ensemble> {
        self.places.get(&id).map(|at| &self.learnt.paints[*at])
    }

    /// The mean 90 % band of its 1 : 1 mixes with others of the shelf, ΔE00; 0 of a medium.
    pub fn doubt(&self, id: PaintId) -> f64 {
        self.places.get(&id).map_or(0.0, |at| self.doubts[*at])
    }

    /// How the reading at this place of the list stands to the rest.
    pub fn judged(&self, reading: usize) -> Option<&Judged> {
        self.learnt.judged.get(reading)
    }

    /// What each test of a tin would buy.
    pub fn worth(&self, id: PaintId) -> Worth {
        let Some(at) = self.places.get(&id).copied().filter(|at| !self.facts[*at].class.is_medium()) else {
            return Worth { doubt: 0.0, after: Vec::new() };
        };
        // Nothing is tinted with itself.
        let mut worth = worth(&self.learnt.paints[at], &self.companions(at), self.white());
        worth.after.retain(|(test, _)| !test.needs_white() || self.house_white != Some(at));
        worth
    }

    fn white(&self) -> Option<&Ensemble> {
        self.house_white.map(|at| &self.learnt.paints[at])
    }

    /// Other paints, evenly from the darkest to the lightest.
    fn companions(&self, at: usize) -> Vec<&Material> {
        if self.facts[at].class.is_medium() {
            return Vec::new();
        }
        let mut others: Vec<(f64, &Material)> = (0..self.facts.len())
            .filter(|other| *other != at && !self.facts[*other].class.is_medium())
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
