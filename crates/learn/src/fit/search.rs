//! Search for the most probable shelf.
//!
//! Gauss–Newton with step halving (J. Nocedal and S. J. Wright, *Numerical Optimization*, 2nd ed., §10.3), accelerated
//! near the end by the last steps (D. G. Anderson, *J. ACM* 12 (1965) 547). The matrix of the last step is the inverse
//! covariance of what remains unknown (Laplace's approximation).

use std::sync::Arc;

use nalgebra::{DMatrix, DVector};
use rayon::prelude::*;

use super::system::{Here, System};
use crate::{factor::Factor, residual::WhitenedResidual};

/// The search ends when every step is below this, or when none can be improved.
pub(super) const STILL: f64 = 2e-3;
const STUCK: f64 = 1e-4;
/// Step below which the last factor is reused.
pub(super) const NEAR: f64 = 0.1;
pub(super) const MOST_STEPS: usize = 40;
/// Longest step of a paint in any coordinate: one paint that is far out must not hold up the others.
const LONGEST: f64 = 1.0;
/// Share of a step below which it is no longer halved.
const SHORTEST: f64 = 1e-4;
/// Step, in prior standard deviations, above which it is not accelerated.
pub(super) const FAR: f64 = 0.5;
/// Number of previous steps used for acceleration.
const LOOKS_BACK: usize = 3;

impl System<'_> {
    /// Searches for the minimum and returns the factor of the matrix there.
    pub fn settle(&self, here: &mut Here, left_out: &[bool]) -> Factor {
        let mut factor = self.factor(here, left_out);
        let mut factored_at = here.theta.clone();
        let mut walk = Walk::default();
        for _ in 0..MOST_STEPS {
            let mut step = factor.solve(&self.downhill(here, left_out));
            self.shorten(&mut step);
            let moved = match walk.further(&here.theta, &step) {
                Some(further) if self.goes(here, &further, left_out) => further.amax(),
                _ => {
                    let mut length = 1.0;
                    while length > SHORTEST && !self.goes(here, &(&step * length), left_out) {
                        length *= 0.5;
                    }
                    if length > SHORTEST { step.amax() * length } else { 0.0 }
                }
            };
            // Near the end the gradient hardly changes, so the last factor still points in the right direction.
            if step.amax() > NEAR {
                factor = self.factor(here, left_out);
                factored_at.copy_from(&here.theta);
            }
            if step.amax() < STILL || moved < STUCK {
                break;
            }
        }
        // The factor gives the remaining uncertainty: for a tin with a thousand readings even a tenth is a large step.
        if factored_at == here.theta { factor } else { self.factor(here, left_out) }
    }

    /// Limits the step of each paint.
    fn shorten(&self, step: &mut DVector<f64>) {
        let each = self.places.each;
        for at in self.places.at.iter().flatten() {
            let mut own = step.rows_mut(*at, each);
            let length = own.amax();
            if length > LONGEST {
                own *= LONGEST / length;
            }
        }
    }

    /// Takes a step unless it increases the objective.
    fn goes(&self, here: &mut Here, step: &DVector<f64>, left_out: &[bool]) -> bool {
        let there = self.look(&here.theta + step);
        let stands: f64 =
            self.kept(&here.sights, left_out).map(|((_, sight), _)| sight.residual.norm_squared()).sum();
        let falls = self.cost(&there, &here.sights, left_out) <= 0.5 * (here.theta.norm_squared() + stands);
        if falls {
            *here = there;
        }
        falls
    }

    /// The objective, in the metrics and covariances of `measure`.
    fn cost(&self, there: &Here, measure: &[Arc<WhitenedResidual>], left_out: &[bool]) -> f64 {
        let each = self.readings.par_iter().zip(&there.sights).zip(measure).zip(left_out);
        // Summed in order, so that the result does not depend on the number of cores.
        let misfits: Vec<f64> = each
            .filter(|(_, out)| !**out)
            .map(|(((reading, sight), measure), _)| sight.misfit_by(reading, measure))
            .collect();
        0.5 * there.theta.norm_squared() + misfits.iter().sum::<f64>()
    }
}

/// Previous steps, for acceleration.
#[derive(Default)]
struct Walk {
    /// Positions and proposed steps, latest first.
    steps: Vec<(DVector<f64>, DVector<f64>)>,
}

impl Walk {
    /// Accelerated step from the proposed `step`; `None` until there are enough previous steps.
    fn further(&mut self, at: &DVector<f64>, step: &DVector<f64>) -> Option<DVector<f64>> {
        self.steps.insert(0, (at.clone(), step.clone()));
        self.steps.truncate(LOOKS_BACK + 1);
        if self.steps.len() < 2 || step.amax() > FAR {
            return None;
        }
        // Movement of each step, and the resulting change of the proposed step.
        let each = self.steps.windows(2).map(|pair| (&pair[0].0 - &pair[1].0, &pair[0].1 - &pair[1].1));
        let (moved, turned): (Vec<_>, Vec<_>) = each.unzip();
        // The combination of steps that leaves the smallest residual step.
        let n = turned.len();
        let square = DMatrix::from_fn(n, n, |i, j| turned[i].dot(&turned[j]));
        let along = DVector::from_fn(n, |i, _| turned[i].dot(step));
        let shares = square.svd(true, true).solve(&along, 1e-12).ok()?;
        let back =
            moved.iter().zip(&turned).zip(&shares).map(|((moved, turned), share)| (moved + turned) * *share);
        Some(back.fold(step.clone(), |further, back| further - back))
    }
}
