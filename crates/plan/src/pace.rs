//! This painter's pace with each technique, relative to the usual.
//!
//! The logarithm of the factor has the prior N(0, 0.35²)†; each step recorded with its real minutes measures it with a
//! standard deviation of 0.25†. So a pace stays close to one until enough steps were recorded, and is shown with its
//! uncertainty.

use std::collections::BTreeMap;

use warm_blend_board::Technique;

use crate::{Done, Work};

const BEFORE: f64 = 0.35;
const CHANCE: f64 = 0.25;
/// What a stopwatch that was forgotten may say at most.
const FURTHEST: f64 = 8.0;

/// A pace with its uncertainty.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pace {
    /// Factor on the usual time.
    pub factor: f64,
    /// Factor within which the true pace lies in nine cases of ten.
    pub within: f64,
    /// Number of steps it was learned from.
    pub steps: usize,
}

/// Pace by technique, and of all other work together.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Paces {
    by_technique: BTreeMap<Technique, Pace>,
    other: Option<Pace>,
}

impl Pace {
    /// The usual pace.
    pub fn usual() -> Self {
        Self::of(&[])
    }

    /// Of real minutes over usual ones.
    fn of(ratios: &[f64]) -> Self {
        let precision = BEFORE.powi(-2) + ratios.len() as f64 * CHANCE.powi(-2);
        let mean = ratios.iter().map(|ratio| ratio.ln()).sum::<f64>() * CHANCE.powi(-2) / precision;
        let sd = precision.recip().sqrt();
        // 1.645 sd hold nine cases of ten of a normal.
        Self { factor: mean.exp(), within: (1.645 * sd).exp(), steps: ratios.len() }
    }
}

impl Pace {
    /// After one more step at this pace.
    fn once_more(self) -> Self {
        let precision = BEFORE.powi(-2) + (self.steps + 1) as f64 * CHANCE.powi(-2);
        Self { within: (1.645 * precision.recip().sqrt()).exp(), steps: self.steps + 1, ..self }
    }
}

impl Paces {
    /// Learns from steps recorded with real minutes.
    pub fn learned<'a>(done: impl Iterator<Item = &'a Done>) -> Self {
        let mut ratios: BTreeMap<Option<Technique>, Vec<f64>> = BTreeMap::new();
        for done in done {
            let Some(minutes) = done.minutes.filter(|minutes| *minutes > 0.0 && done.usual > 0.0) else {
                continue;
            };
            let ratio = (minutes / done.usual).clamp(FURTHEST.recip(), FURTHEST);
            ratios.entry(done.work.technique()).or_default().push(ratio);
        }
        let other = ratios.remove(&None).map(|ratios| Pace::of(&ratios));
        let own = |(technique, ratios): (Option<Technique>, Vec<f64>)| Some((technique?, Pace::of(&ratios)));
        Self { by_technique: ratios.into_iter().filter_map(own).collect(), other }
    }

    /// Pace of a kind of work.
    pub fn for_work(&self, work: &Work) -> Pace {
        let own = match work.technique() {
            Some(technique) => self.by_technique.get(&technique).copied(),
            None => self.other,
        };
        own.unwrap_or_else(Pace::usual)
    }

    /// Factor within which the total of some works, in minutes at this pace, lies in nine cases of ten: the pace of each technique may be
    /// off for all of its steps alike, and each step takes more or less time by chance.
    pub fn within<'a>(&self, works: impl Iterator<Item = (&'a Work, f64)>) -> f64 {
        let mut by_technique: BTreeMap<Option<Technique>, (f64, f64)> = BTreeMap::new();
        let each = (1.645 * CHANCE).exp() - 1.0;
        let mut by_chance = 0.0;
        for (work, minutes) in works {
            let (sum, _) =
                by_technique.entry(work.technique()).or_insert((0.0, self.for_work(work).within - 1.0));
            *sum += minutes;
            by_chance += (minutes * each).powi(2);
        }
        let total: f64 = by_technique.values().map(|(minutes, _)| minutes).sum();
        let by_pace: f64 = by_technique.values().map(|(minutes, off)| (minutes * off).powi(2)).sum();
        if total > 0.0 { 1.0 + (by_pace + by_chance).sqrt() / total } else { 1.0 }
    }

    /// The kind of work that makes the total of some works least sure, with the factor within which that total would lie after one more
    /// step of it was recorded at the pace it has; `None` for the work of a kind is all that is no technique. Nothing if there is no work.
    pub fn least_sure<'a>(
        &self,
        works: impl Iterator<Item = (&'a Work, f64)>,
    ) -> Option<(Option<Technique>, f64)> {
        let works: Vec<(&Work, f64)> = works.collect();
        let mut off: BTreeMap<Option<Technique>, f64> = BTreeMap::new();
        for (work, minutes) in &works {
            *off.entry(work.technique()).or_default() += minutes * (self.for_work(work).within - 1.0);
        }
        let (kind, _) = off.into_iter().max_by(|one, other| one.1.total_cmp(&other.1))?;
        let mut surer = self.clone();
        let known = match kind {
            Some(technique) => surer.by_technique.get(&technique).copied(),
            None => surer.other,
        };
        let next = known.unwrap_or_else(Pace::usual).once_more();
        match kind {
            Some(technique) => drop(surer.by_technique.insert(technique, next)),
            None => surer.other = Some(next),
        }
        Some((kind, surer.within(works.into_iter())))
    }

    /// Paces that were learned.
    pub fn learned_ones(&self) -> impl Iterator<Item = (Technique, Pace)> {
        self.by_technique.iter().map(|(technique, pace)| (*technique, *pace))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer};
    use proptest::prelude::*;

    /// Of a long dry brushing and a short stencil the first is named, and once it was timed it is as sure as is said.
    #[test]
    fn the_least_sure_work_is_named() {
        let works: Vec<Work> = [Technique::DryBrush, Technique::Stencil]
            .into_iter()
            .map(|technique| Work::Layer(layer(technique, 1, 1).coats(&chalk).remove(0)))
            .collect();
        let minutes = [240.0, 20.0];
        let all = || works.iter().zip(minutes);
        let (kind, after) = Paces::default().least_sure(all()).unwrap();
        assert_eq!(kind, Some(Technique::DryBrush));
        let timed =
            Paces { by_technique: BTreeMap::from([(Technique::DryBrush, Pace::of(&[1.0]))]), other: None };
        assert!((timed.within(all()) - after).abs() < 1e-12 && after < Paces::default().within(all()));
        assert_eq!(Paces::default().least_sure(std::iter::empty()), None);
    }

    proptest! {
        /// A sum is never less sure than its least sure work, and surer than each of several of a kind.
        #[test]
        fn a_sum_is_surer_than_its_parts(minutes in proptest::collection::vec(1.0..500.0f64, 2..6)) {
            let paces = Paces::default();
            let works: Vec<Work> = Technique::ALL.into_iter().map(|technique| Work::Layer(layer(technique, 1, 1).coats(&chalk).remove(0))).collect();
            let within = paces.within(works.iter().zip(minutes.iter().copied()));
            let one = paces.within([(&works[0], minutes[0])].into_iter());
            prop_assert!(within > 1.0 && within < one);
            // One step has its pace and its chance.
            let by_hand = 1.0 + ((Pace::usual().within - 1.0).powi(2) + ((1.645f64 * 0.25).exp() - 1.0).powi(2)).sqrt();
            prop_assert!((one - by_hand).abs() < 1e-9);
        }

        /// It lies between the usual hand and what was seen, and is the surer the more was seen.
        #[test]
        fn it_is_drawn_towards_what_was_seen(ratio in 0.2..5.0f64, n in 1usize..20) {
            let (few, more) = (Pace::of(&vec![ratio; n]), Pace::of(&vec![ratio; n + 1]));
            prop_assert!((few.factor.ln() / ratio.ln()) <= 1.0 + 1e-9 && few.factor.ln() * ratio.ln() >= 0.0);
            prop_assert!((more.factor / ratio).ln().abs() <= (few.factor / ratio).ln().abs());
            prop_assert!(more.within < few.within && few.within < Pace::usual().within);
        }
    }
}
