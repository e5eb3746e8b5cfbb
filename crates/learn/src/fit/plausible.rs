//! Remaining uncertainty, as plausible shelves.

use std::sync::Arc;

use nalgebra::DMatrix;
use rayon::prelude::*;

use super::system::{Here, Said, System};
use crate::{
    draws::{self, HALF},
    ensemble_lanes::Crowd,
    factor::Factor,
};

/// Greatest correction of a plausible tin, in prior standard deviations; from further away the linear correction is
/// meaningless.
const MOST_STRAIGHTENED: f64 = 1.0;

/// Plausible variants of a tin before straightening, for which readings are predicted.
#[derive(Debug)]
pub(super) struct Forms {
    pub best: Vec<f64>,
    /// Deviations from the best, coordinates × members.
    pub spread: DMatrix<f64>,
    /// Without the finer shapes, which count as noise in readings.
    crowd: Crowd,
}

/// Number of readings processed before their effects are summed, to limit memory.
const HEARD: usize = 500;

/// Effect of readings on their paints on each plausible shelf, by reading and in total.
#[derive(Debug)]
pub(super) struct SaidOfAll {
    /// By reading, if kept for incremental fits.
    each: Vec<Said>,
    sum: DMatrix<f64>,
}

impl System<'_> {
    /// Sum of the effects of all readings on each plausible shelf, updating the sum in `before`.
    fn sum_of_readings(
        &self,
        members: usize,
        say: impl Fn(usize) -> Said + Sync,
        left_out: &[bool],
        before: Option<&SaidOfAll>,
    ) -> SaidOfAll {
        let n = self.readings.len();
        let nothing = || DMatrix::zeros(self.places.unknowns, members);
        let mut sum = before.map_or_else(nothing, |before| before.sum.clone());
        let mut each = Vec::with_capacity(if self.kept { n } else { 0 });
        for start in (0..n).step_by(HEARD) {
            let heard: Vec<Said> = (start..n.min(start + HEARD)).into_par_iter().map(&say).collect();
            let was = |reading: usize| before.and_then(|before| before.each.get(reading));
            let counts = (start..).zip(&heard).filter(|(reading, _)| !left_out[*reading]);
            let news = counts.map(|(reading, now)| (reading, now, was(reading)));
            let news: Vec<_> =
                news.filter(|(_, now, was)| was.is_none_or(|was| !Arc::ptr_eq(now, was))).collect();
            self.add(&mut sum, &news);
            if self.kept {
                each.extend(heard);
            }
        }
        SaidOfAll { each, sum }
    }

    /// Effect of each reading's noise on its paints. Effects are taken from `before` where the reading was not evaluated
    /// again and counted before as now.
    pub fn noises(&self, here: &Here, left_out: &[bool], before: Option<(&Here, &SaidOfAll)>) -> SaidOfAll {
        let say = |reading: usize| {
            let sight = &here.sights[reading];
            let known = before.and_then(|(was, said)| was.sights.get(reading).zip(said.each.get(reading)));
            match known {
                Some((was, said)) if Arc::ptr_eq(was, sight) => Arc::clone(said),
                _ => {
                    let drawn = draws::half(self.chances[reading], sight.residual.len());
                    Arc::new(sight.slope.tr_mul(&drawn).cast())
                }
            }
        };
        self.sum_of_readings(HALF, say, left_out, before.map(|(_, before)| before))
    }

    /// Draws of the remaining uncertainty: by paint, coordinates × members.
    ///
    /// Each is a prior draw updated by the same readings with a draw of their noise, A⁻¹(n + Jᵀε) (Matheron's rule; the
    /// covariance is A⁻¹(1 + JᵀJ)A⁻¹ = A⁻¹). So a plausible tin stays the same tin while readings are added, and does not
    /// change if none concerns it.
    pub fn spread(&self, factor: &Factor, noises: &SaidOfAll) -> Vec<DMatrix<f64>> {
        let mut around = noises.sum.clone();
        let mut by_paint: Vec<DMatrix<f64>> = self.tins.iter().map(|tin| tin.drawn().clone()).collect();
        for (own, at) in by_paint.iter().zip(&self.places.at) {
            if let Some(at) = at {
                let each = (self.places.each, HALF);
                around.view_mut((*at, 0), each).zip_apply(&own.view((0, 0), each), |sum, own| *sum += own);
            }
        }
        let drawn = factor.solve_all(around);
        for (own, at) in by_paint.iter_mut().zip(&self.places.at) {
            if let Some(at) = at {
                let drawn = drawn.rows(*at, self.places.each);
                own.view_mut((0, 0), drawn.shape()).copy_from(&drawn);
                own.view_mut((0, HALF), drawn.shape()).copy_from(&-drawn);
            }
        }
        by_paint
    }

    /// Plausible variants of every tin, reusing earlier ones where `alike` says so.
    pub fn forms(
        &self,
        here: &Here,
        spread: &[DMatrix<f64>],
        before: Option<(&[Arc<Forms>], &[bool])>,
    ) -> Vec<Arc<Forms>> {
        let each = self.places.each;
        let of = |paint: usize| {
            if let Some((forms, alike)) = before
                && alike[paint]
            {
                return Arc::clone(&forms[paint]);
            }
            let best = self.of_paint(&here.theta, paint);
            let spread = &spread[paint];
            let read = self.places.at[paint].is_some();
            let crowd = Crowd::of(|m| {
                let mut at = best.clone();
                (0..each).filter(|_| read).for_each(|j| at[j] += spread[(j, m)]);
                self.tins[paint].prior().material(&at)
            });
            Arc::new(Forms { best, spread: spread.clone(), crowd })
        };
        (0..self.tins.len()).into_par_iter().map(of).collect()
    }

    /// Correction of the plausible shelves by each reading, reusing earlier ones where the variants did not change.
    pub fn pulls(
        &self,
        here: &Here,
        forms: &[Arc<Forms>],
        left_out: &[bool],
        before: Option<(&[Arc<Forms>], &SaidOfAll)>,
    ) -> SaidOfAll {
        let each = self.places.each;
        let pull = |reading: usize| {
            let of = &self.readings[reading].of;
            if let Some((was, pulls)) = before
                && let Some(pull) = pulls.each.get(reading)
                && of.iter().all(|(paint, _)| Arc::ptr_eq(&was[*paint], &forms[*paint]))
            {
                return Arc::clone(pull);
            }
            if left_out[reading] {
                return Said::default();
            }
            let paints: Vec<&Crowd> = of.iter().map(|(paint, _)| &forms[*paint].crowd).collect();
            let sight = &here.sights[reading];
            let mut bent = sight.residuals_of(&self.readings[reading], &paints);
            for mut bent in bent.column_iter_mut() {
                bent -= &sight.residual;
            }
            for (column, _, paint) in self.fitted(&self.readings[reading]) {
                let (forms, stand) = (&forms[paint], &here.stands[paint].at);
                let gone = DMatrix::from_fn(each, draws::MEMBERS, |j, m| {
                    forms.best[j] - stand[j] + forms.spread[(j, m)]
                });
                bent.gemm(-1.0, &sight.slope.columns(column, each), &gone, 1.0);
            }
            Arc::new((sight.slope.transpose() * bent * -1.0).cast())
        };
        self.sum_of_readings(draws::MEMBERS, pull, left_out, before.map(|(_, before)| before))
    }

    /// Moves each plausible shelf back to the readings.
    ///
    /// A draw of Laplace's approximation agrees with the readings only as far as these are linear in the coordinates. The
    /// nonlinear rest, q = g(θ + δ) − g(θ) − Jδ, is something the readings have already ruled out. The smallest step that
    /// removes it is −A⁻¹Jᵀq (a step of randomised maximum likelihood: D. S. Oliver, N. He and A. C. Reynolds, *ECMOR V*
    /// (1996)).
    pub fn straighten(&self, factor: &Factor, spread: &mut [DMatrix<f64>], pulls: &SaidOfAll) {
        let each = self.places.each;
        let back = factor.solve_all(pulls.sum.clone());
        for (own, at) in spread.iter_mut().zip(&self.places.at) {
            if let Some(at) = at {
                for (m, mut own) in own.column_iter_mut().enumerate() {
                    let step = back.view((*at, m), (each, 1));
                    let held = (MOST_STRAIGHTENED / step.norm()).min(1.0);
                    own.rows_mut(0, each).axpy(held, &step.column(0), 1.0);
                }
            }
        }
    }
}
