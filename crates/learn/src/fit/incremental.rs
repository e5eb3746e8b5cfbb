//! Incremental fit of a few new readings.
//!
//! One of a thousand readings changes its own paints by hundredths of their uncertainty, and the others hardly at all. A
//! reading whose paints barely moved is not evaluated again: its linear approximation is accurate enough, and its effect
//! on the plausible shelves is kept. How far a paint may move before all of its readings are evaluated again is measured
//! from where they were last evaluated, so that small steps do not accumulate.

use std::sync::Arc;

use nalgebra::DMatrix;
use rayon::prelude::*;

use super::{
    found::Fit,
    plausible::Forms,
    remembered::Remembered,
    search::{FAR, MOST_STEPS, NEAR, STILL},
    system::{Here, System},
};
use crate::factor::Factor;

/// Distance from where its readings were evaluated, in prior standard deviations, beyond which a paint's readings are
/// evaluated again.
const STRAIGHT: f64 = 0.005;
/// Root-mean-square change of a tin's plausible variants beyond which they are straightened again.
const ALIKE: f64 = 0.03;

impl System<'_> {
    /// Incremental fit. `None` if a full fit is needed: a step was long, a reading had to be left out, or one was
    /// readmitted.
    pub(super) fn again(&self, before: &Remembered, forced: &[bool]) -> Option<Fit> {
        if before.places != self.places {
            return None;
        }
        let known = before.off.len();
        let left_out = [&before.left_out, &forced[known..]].concat();
        let (here, factor) = self.settle_again(before, &left_out)?;
        let noises = self.noises(&here, &left_out, Some((&before.here, &before.noises)));
        let spread = self.spread(&factor, &noises);
        let alike: Vec<bool> = (0..self.tins.len())
            .map(|paint| self.alike(&before.forms[paint], &here, &spread, paint))
            .collect();
        let off = self.off(&here, &factor, &spread, &left_out, |reading| {
            let stands = reading < known
                && Arc::ptr_eq(&here.sights[reading], &before.here.sights[reading])
                && self.readings[reading].of.iter().all(|(paint, _)| alike[*paint]);
            stands.then(|| before.off[reading])
        });
        let doubted = |i| self.is_odd(i, &off, &left_out) || self.comes_back(i, &off, &left_out, forced);
        if (0..self.readings.len()).any(doubted) {
            return None;
        }
        Some(self.found(here, &factor, noises, spread, off, left_out, Some((before, &alike))))
    }

    /// Continues the search to the minimum, if that is near.
    fn settle_again(&self, before: &Remembered, left_out: &[bool]) -> Option<(Here, Factor)> {
        let mut here = before.here.clone();
        let more = &self.readings[here.sights.len()..];
        let seen: Vec<_> = more.iter().map(|reading| self.sight(reading, &here.stands)).collect();
        here.sights.extend(seen);
        let mut factor = self.factor(&here, left_out);
        for _ in 0..MOST_STEPS {
            let step = factor.solve(&self.downhill(&here, left_out));
            let length = step.amax();
            if length.is_nan() || length > FAR {
                return None;
            }
            here.theta += &step;
            if !self.look_again(&mut here) && length < STILL {
                return Some((here, factor));
            }
            if length > NEAR {
                factor = self.factor(&here, left_out);
            }
        }
        None
    }

    /// Evaluates readings of paints that moved too far; false if there are none.
    fn look_again(&self, here: &mut Here) -> bool {
        let each = self.places.each;
        let gone = |paint: usize| {
            let stand = &here.stands[paint].at;
            self.places.at[paint].is_some_and(|at| {
                here.theta.rows(at, each).iter().zip(stand).any(|(now, was)| (now - was).abs() > STRAIGHT)
            })
        };
        let gone: Vec<bool> = (0..self.tins.len()).map(gone).collect();
        for paint in (0..gone.len()).filter(|paint| gone[*paint]) {
            here.stands[paint] = self.stand(&here.theta, paint);
        }
        let stands = &here.stands;
        self.readings.par_iter().zip(&mut here.sights).for_each(|(reading, sight)| {
            if reading.of.iter().any(|(paint, _)| gone[*paint]) {
                *sight = self.sight(reading, stands);
            }
        });
        gone.contains(&true)
    }

    /// True if a tin's plausible variants are practically unchanged.
    fn alike(&self, was: &Forms, here: &Here, spread: &[DMatrix<f64>], paint: usize) -> bool {
        let best = self.of_paint(&here.theta, paint);
        let apart = |one: &[f64], other: &[f64]| -> f64 {
            one.iter().zip(other).map(|(one, other)| (one - other).powi(2)).fold(0.0, f64::max)
        };
        let spread = &spread[paint];
        let widest = (0..best.len())
            .map(|j| (spread.row(j) - was.spread.row(j)).norm_squared() / spread.ncols() as f64)
            .fold(0.0, f64::max);
        apart(&best, &was.best).max(widest).sqrt() < ALIKE
    }
}
