//! Corrections: what to add to a pot to reach its target.
//!
//! What is in the pot stays there. Additions of one or two tins are tried in measurable amounts, each about a seventh
//! more than the last, up to three times the pot; of those that are visibly as good, the smallest wins. If the pot would
//! overflow, just enough is taken out first, and correspondingly less is added.
//!
//! The best by the most probable tins are then ranked by how far off they will probably be: see [`super::likely`].

use std::ops::ControlFlow;

use rayon::prelude::*;
use warm_blend_paint::{Look, Material, Parts, mix};
use warm_blend_spectral::{Lab, difference};

use super::{
    ciede2000_simd::Aim,
    likely::{DoubtfulTin, InDoubt, Stirred, expected_of},
    matching::step,
    reduced_bands::{DEEP, HalfBands, PartRows},
};

/// How many pots' worth may be added.
const MOST: f64 = 3.0;
/// How much more each amount is than the last.
const MORE: f64 = 8.0 / 7.0;

/// A pot, its target and its limits.
#[derive(Debug, Clone, Copy)]
pub struct Pot<'a> {
    /// Its contents.
    pub inside: InDoubt<'a>,
    /// Volume, ml.
    pub ml: f64,
    /// Capacity, ml.
    pub room: f64,
    /// Smallest measurable amount, ml; every addition is a multiple of it.
    pub least: f64,
}

/// A correction of a pot.
#[derive(Debug, Clone, PartialEq)]
pub struct PotCorrection {
    /// Amount to take out first, ml.
    pub discard: f64,
    /// Additions: index of the tin, ml.
    pub additions: Vec<(usize, f64)>,
    /// Volume afterwards, ml.
    pub total: f64,
    /// CIEDE2000 from the target afterwards, if every tin is what it most probably is.
    pub difference: f64,
    /// Its mean over the plausible shelves, but never less than `difference`.
    pub expected: f64,
}

/// The smallest additions that visibly bring the pot as near as possible, best first, one for each set of tins: at most
/// two tins, or one if `one_at_a_time`. Each improves the pot; if none does, the list is empty. `watch` may cancel the
/// search, which then finds nothing.
pub fn correct(
    pot: Pot,
    tins: &[DoubtfulTin],
    target: Lab,
    look: impl Into<Look>,
    one_at_a_time: bool,
    watch: impl Fn() -> ControlFlow<()> + Sync,
) -> Vec<PotCorrection> {
    let look = look.into();
    const SHOWN: usize = 6;
    /// So many of the nearest are ranked by what is likely.
    const CANDIDATES: usize = 24;
    let off = |_: Option<&()>, material: &Material| difference(look.lab(material), target).value();
    let now = off(None, pot.inside.best);
    let aim = Aim::from(target);
    let amounts = amounts(pot);
    let materials: Vec<&Material> =
        std::iter::once(pot.inside.best).chain(tins.iter().map(|tin| tin.tin.material)).collect();
    let sweep = HalfBands::new(&materials, look);
    let one: Vec<Vec<f64>> = amounts.iter().map(|ml| vec![*ml]).collect();
    let two: Vec<Vec<f64>> = amounts.iter().flat_map(|a| amounts.iter().map(move |b| vec![*a, *b])).collect();
    let rows = |ways: &[Vec<f64>]| {
        let parts = |way: &Vec<f64>| -> [f32; DEEP] {
            std::array::from_fn(|place| match place {
                0 => pot.ml as f32,
                _ => way.get(place - 1).map_or(0.0, |ml| *ml as f32),
            })
        };
        PartRows::of(&ways.iter().map(parts).collect::<Vec<_>>())
    };
    let (rows_of_one, rows_of_two) = (rows(&one), rows(&two));
    let mut sets: Vec<Vec<usize>> = (0..tins.len()).map(|at| vec![at]).collect();
    if !one_at_a_time {
        sets.extend((0..tins.len()).flat_map(|at| (at + 1..tins.len()).map(move |other| vec![at, other])));
    }
    let best = |set: &Vec<usize>| {
        if watch().is_break() {
            return None;
        }
        let swept: Vec<usize> = std::iter::once(0).chain(set.iter().map(|at| at + 1)).collect();
        let swept = sweep.set(&swept);
        // The nearest by the sweep; then the least of those in its step.
        let (ways, off) = match set.len() {
            1 => (&one, swept.differences::<2>(&rows_of_one, &aim)),
            _ => (&two, swept.differences::<3>(&rows_of_two, &aim)),
        };
        let nearest = off.iter().copied().fold(f64::INFINITY, f64::min);
        let least = ways
            .iter()
            .zip(&off)
            .filter(|(_, off)| step(**off) == step(nearest))
            .min_by(|a, b| a.0.iter().sum::<f64>().total_cmp(&b.0.iter().sum()))?;
        let additions: Vec<(usize, f64)> = set.iter().copied().zip(least.0.iter().copied()).collect();
        let correction = fitted(pot, additions, tins, target, look)?;
        (correction.difference < now).then_some(correction)
    };
    let mut found: Vec<PotCorrection> = sets.par_iter().filter_map(best).collect();
    found.sort_by(PotCorrection::before);
    found.truncate(CANDIDATES);
    found.par_iter_mut().for_each(|way| way.expected = expected_of(&way.stirred(pot, tins), &[], off));
    let as_it_is = [(Parts::of(pot.ml), pot.inside)];
    let as_it_is = expected_of(&as_it_is, &[], off);
    found.retain(|way| way.expected < as_it_is && watch().is_continue());
    found.sort_by(PotCorrection::before);
    found.truncate(SHOWN);
    found
}

impl PotCorrection {
    /// The nearest first; of those that nobody distinguishes, by fewer and smaller additions.
    fn before(&self, other: &Self) -> std::cmp::Ordering {
        let rank = |c: &Self| (step(c.expected), c.additions.len());
        let added = |c: &Self| c.additions.iter().map(|(_, ml)| ml).sum::<f64>() + c.discard;
        rank(self).cmp(&rank(other)).then(added(self).total_cmp(&added(other)))
    }

    /// What is in the pot then.
    fn stirred<'a>(&self, pot: Pot<'a>, tins: &'a [DoubtfulTin<'a>]) -> Vec<Stirred<'a>> {
        let inside = (Parts::of(pot.ml - self.discard), pot.inside);
        let added = self.additions.iter().map(|(at, ml)| (Parts::of(*ml), tins[*at].material()));
        std::iter::once(inside).chain(added).collect()
    }
}

/// Amounts that can be measured: whole numbers of the least.
fn amounts(pot: Pot) -> Vec<f64> {
    let most = (MOST * pot.ml / pot.least).max(1.0);
    let mut counts = vec![1.0f64];
    while let Some(last) = counts.last().copied().filter(|last| *last < most) {
        counts.push((last * MORE).round().max(last + 1.0));
    }
    counts.into_iter().filter(|count| *count <= most.max(1.0)).map(|count| count * pot.least).collect()
}

/// The additions as they fit into the pot, predicted in full; None where what can be measured leaves nothing of one.
fn fitted(
    pot: Pot,
    mut additions: Vec<(usize, f64)>,
    tins: &[DoubtfulTin],
    target: Lab,
    look: Look,
) -> Option<PotCorrection> {
    let added: f64 = additions.iter().map(|(_, ml)| ml).sum();
    let mut left = pot.ml;
    if pot.ml + added > pot.room {
        let share = pot.room / (pot.ml + added);
        for (_, ml) in &mut additions {
            *ml = (*ml * share / pot.least).round() * pot.least;
        }
        let added: f64 = additions.iter().map(|(_, ml)| ml).sum();
        left = (pot.ml * share).min(pot.room - added);
    }
    if left <= 0.0 || additions.iter().any(|(_, ml)| *ml <= 0.0) {
        return None;
    }
    let mut of = vec![(Parts::of(left), pot.inside.best)];
    of.extend(additions.iter().map(|(at, ml)| (Parts::of(*ml), tins[*at].tin.material)));
    let lab = look.lab(&mix(&of).ok()?);
    let total = left + additions.iter().map(|(_, ml)| ml).sum::<f64>();
    let difference = difference(lab, target).value();
    Some(PotCorrection { discard: pot.ml - left, additions, total, difference, expected: difference })
}
