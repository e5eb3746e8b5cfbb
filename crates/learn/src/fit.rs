//! The most probable shelf, given every reading.
//!
//! Maximum a posteriori: the coordinates θ of all paints that were read, each N(0, 1) beforehand, minimise
//!
//! ```text
//! ½ |θ|² + ½ Σ |residual(reading)|²
//! ```
//!
//! by Gauss and Newton's method with a halved step where a full one climbs (J. Nocedal and S. J. Wright, *Numerical
//! Optimization*, 2nd ed., §10.3); near the end each step learns from the last ones (D. G. Anderson, *J. ACM* 12 (1965) 547).
//! The matrix of the last step is the inverse covariance of what is still unknown (Laplace's approximation).
//!
//! A reading that lies further out than chance explains is not absorbed: it is left out, and asked about. A reading is
//! judged by its distance from what the *others* predict, √(rᵀ(1 − H)⁻¹r) with H the share of the prediction that it
//! brought itself (R. D. Cook and S. Weisberg, *Residuals and Influence in Regression* (1982), §2.2), turned into
//! standard deviations by Wilson and Hilferty's cube root (1931).

use std::{collections::HashMap, sync::Arc};

use nalgebra::{DMatrix, DVector};
use rayon::prelude::*;
use warm_blend_paint::State;

use super::{
    crowd::Crowd,
    draws::{self, HALF, Whose},
    factor::{Factor, Pattern},
    first_guess::FirstGuess,
    prior::{DIMENSIONS, Local},
    reading::Reading,
    residual::WhitenedResidual,
};

/// From how many standard deviations a reading is asked about rather than absorbed.
const OUTLIER_SD: f64 = 3.0;
/// Most of its own prediction that is held against a reading: √(1/(1 − 0.9)) standard deviations for each of the guess.
const ALONE: f64 = 0.9;
/// The walk ends when no coordinate has further to go, or none moves although one should.
const STILL: f64 = 2e-3;
const STUCK: f64 = 1e-4;
/// From where on the last factor serves.
const NEAR: f64 = 0.1;
const MOST_STEPS: usize = 25;
/// Share of a step below which it is not halved any more.
const SHORTEST: f64 = 1e-4;
/// A step that is longer, in standard deviations of the first guess, is not drawn out by what the last ones taught.
const FAR: f64 = 0.5;
/// How many of them are looked back on.
const LOOKS_BACK: usize = 3;

/// How far a plausible tin is brought back at most, in standard deviations of the first guess: from further off a straight
/// line points nowhere.
const MOST_STRAIGHTENED: f64 = 1.0;

/// Paints that were read, at their most probable.
pub(crate) struct Fit {
    /// Coordinates by paint, in the order of the shelf; zeros where nothing was read.
    pub best: Vec<Vec<f64>>,
    /// The same for each member of the ensemble: `members[paint][member]`.
    pub members: Vec<Vec<Vec<f64>>>,
    /// How far each reading lies from what the others say, in standard deviations.
    pub off: Vec<f64>,
    /// Which readings were left out.
    pub left_out: Vec<bool>,
    /// Each reading against its prediction at the best.
    pub sights: Vec<WhitenedResidual>,
}

/// Where each paint's coordinates stand in the system.
struct Places {
    /// By paint: first coordinate, None if nothing of it is fitted or it has none.
    at: Vec<Option<usize>>,
    /// Coordinates of each: the last, the voids, shows in no dry reading, and is left alone where all are dry.
    each: usize,
    unknowns: usize,
}

struct System<'a> {
    tins: &'a [Arc<FirstGuess>],
    readings: &'a [Reading],
    places: Places,
    pattern: Pattern,
    /// By reading.
    chances: Vec<Whose>,
}

/// Fits all readings; those marked in `left_out` beforehand stay out.
/// From `near`, coordinates by tin where it may be not far from, the way is shorter.
pub(crate) fn fit(
    tins: &[Arc<FirstGuess>],
    readings: &[Reading],
    mut left_out: Vec<bool>,
    near: &[Option<&[f64]>],
) -> Fit {
    let names: Vec<u64> = tins.iter().map(|tin| tin.label.name).collect();
    let places = Places::of(tins, readings, &left_out);
    let pattern = places.pattern(readings);
    let system = System { tins, readings, places, pattern, chances: chances(&names, readings) };
    let forced = left_out.clone();
    let mut theta = system.places.gathered(near);
    let (mut factor, mut sights) = system.settle(&mut theta, &left_out);
    let mut spread = system.spread(&factor, &sights, &left_out);
    let mut off = system.off(&sights, &factor, &spread, &left_out);
    // Take out the oddest and look again; then let back in, once, whom the rest has come to agree with.
    let mut let_back = false;
    loop {
        let odd = (0..readings.len()).filter(|i| !left_out[*i] && !readings[*i].sure && off[*i] > OUTLIER_SD);
        if let Some(oddest) = odd.max_by(|a, b| off[*a].total_cmp(&off[*b])) {
            left_out[oddest] = true;
        } else if !let_back {
            let_back = true;
            let back = |i: &usize| left_out[*i] && !forced[*i] && off[*i] < 0.75 * OUTLIER_SD;
            let agreed: Vec<usize> = (0..readings.len()).filter(back).collect();
            if agreed.is_empty() {
                break;
            }
            agreed.into_iter().for_each(|i| left_out[i] = false);
        } else {
            break;
        }
        (factor, sights) = system.settle(&mut theta, &left_out);
        spread = system.spread(&factor, &sights, &left_out);
        off = system.off(&sights, &factor, &spread, &left_out);
    }
    let best = system.by_paint(&theta);
    system.straighten(&best, &sights, &factor, &mut spread, &left_out);
    let member = |paint: usize, member: usize| {
        let at = |(j, drawn): (usize, &f64)| best[paint].get(j).copied().unwrap_or(0.0) + drawn;
        spread[paint].column(member).iter().enumerate().map(at).collect()
    };
    let members = (0..tins.len())
        .map(|paint| (0..spread[paint].ncols()).map(|draw| member(paint, draw)).collect())
        .collect();
    Fit { best, members, off, left_out, sights }
}

/// Whose draws stand for the noise of each reading. What was read twice over was read by two chances.
fn chances(names: &[u64], readings: &[Reading]) -> Vec<Whose> {
    let mut met: HashMap<Whose, usize> = HashMap::new();
    readings
        .iter()
        .map(|reading| {
            let before = met.entry(Whose::reading(reading, names, 0)).or_insert(0);
            *before += 1;
            Whose::reading(reading, names, *before - 1)
        })
        .collect()
}

impl Places {
    fn of(tins: &[Arc<FirstGuess>], readings: &[Reading], left_out: &[bool]) -> Self {
        let mut read = vec![false; tins.len()];
        let fitted = readings.iter().zip(left_out).filter(|(_, out)| !**out);
        for (paint, _) in fitted.flat_map(|(reading, _)| &reading.of) {
            read[*paint] = true;
        }
        let all_dry = readings.iter().all(|reading| reading.state == State::Dry);
        let each = if all_dry { DIMENSIONS - 1 } else { DIMENSIONS };
        let mut unknowns = 0;
        let at = tins
            .iter()
            .zip(read)
            .map(|(tin, read)| {
                (read && tin.prior.dimensions() > 0).then(|| {
                    unknowns += each;
                    unknowns - each
                })
            })
            .collect();
        Self { at, each, unknowns }
    }

    /// Places of the paints of a reading, with where each stands among those that are named.
    fn of_reading<'b>(&'b self, reading: &'b Reading) -> impl Iterator<Item = (usize, usize)> + Clone + 'b {
        let places = reading.of.iter().filter_map(|(paint, _)| self.at[*paint]);
        places.enumerate()
    }

    /// The coordinates of a shelf, of those that are known; zeros of the others.
    fn gathered(&self, known: &[Option<&[f64]>]) -> DVector<f64> {
        let mut theta = DVector::zeros(self.unknowns);
        for (at, known) in self.at.iter().zip(known) {
            if let (Some(at), Some(known)) = (at, known) {
                theta.rows_mut(*at, self.each).copy_from_slice(&known[..self.each]);
            }
        }
        theta
    }

    /// Which paints meet.
    fn pattern(&self, readings: &[Reading]) -> Pattern {
        let blocks = |reading| self.of_reading(reading).map(|(_, at)| at / self.each);
        let pairs = readings.iter().flat_map(|reading| {
            blocks(reading).flat_map(move |one| blocks(reading).map(move |other| (one, other)))
        });
        Pattern::of(self.unknowns / self.each, self.each, pairs)
    }
}

impl System<'_> {
    fn by_paint(&self, theta: &DVector<f64>) -> Vec<Vec<f64>> {
        self.tins
            .iter()
            .zip(&self.places.at)
            .map(|(tin, at)| match at {
                Some(at) => {
                    let mut all = vec![0.0; DIMENSIONS];
                    all[..self.places.each].copy_from_slice(theta.rows(*at, self.places.each).as_slice());
                    all
                }
                None => vec![0.0; tin.prior.dimensions()],
            })
            .collect()
    }

    fn sights(&self, theta: &DVector<f64>) -> Vec<WhitenedResidual> {
        let coordinates = self.by_paint(theta);
        let locals: Vec<Local> =
            self.tins.iter().zip(&coordinates).map(|(tin, at)| tin.prior.local(at)).collect();
        self.readings
            .par_iter()
            .map(|reading| {
                let paints: Vec<&Local> = reading.of.iter().map(|(paint, _)| &locals[*paint]).collect();
                WhitenedResidual::of(reading, &paints)
            })
            .collect()
    }

    /// What is minimised, by the metrics and the covariances of `measure`.
    fn cost(
        &self,
        theta: &DVector<f64>,
        sights: &[WhitenedResidual],
        measure: &[WhitenedResidual],
        left_out: &[bool],
    ) -> f64 {
        let each = self.readings.par_iter().zip(sights).zip(measure).zip(left_out);
        // Summed in their order: the same sum on however many cores.
        let misfits: Vec<f64> = each
            .filter(|(_, out)| !**out)
            .map(|(((reading, sight), measure), _)| sight.misfit_by(reading, measure))
            .collect();
        0.5 * theta.norm_squared() + misfits.iter().sum::<f64>()
    }

    /// Columns of a reading's slope, each with its place in θ.
    fn columns<'b>(&'b self, reading: &'b Reading) -> impl Iterator<Item = (usize, usize)> + Clone + 'b {
        let each = self.places.each;
        let places = self.places.of_reading(reading);
        places.flat_map(move |(n, at)| (0..each).map(move |j| (n * DIMENSIONS + j, at + j)))
    }

    /// Walks θ to the minimum; the factor is that of the last long step's matrix, the sights those at the end.
    fn settle(&self, theta: &mut DVector<f64>, left_out: &[bool]) -> (Factor, Vec<WhitenedResidual>) {
        let mut sights = self.sights(theta);
        let mut factor = self.factor(&sights, left_out);
        let mut walk = Walk::default();
        for _ in 0..MOST_STEPS {
            let step = factor.solve(&self.downhill(theta, &sights, left_out));
            let moved = match walk.further(theta, &step) {
                Some(further) if self.goes(theta, &mut sights, &further, left_out) => further.amax(),
                _ => {
                    let mut length = 1.0;
                    while length > SHORTEST && !self.goes(theta, &mut sights, &(&step * length), left_out) {
                        length *= 0.5;
                    }
                    if length > SHORTEST { step.amax() * length } else { 0.0 }
                }
            };
            // Near the end the slope hardly changes: the factor at hand still points the way.
            if step.amax() > NEAR {
                factor = self.factor(&sights, left_out);
            }
            if step.amax() < STILL || moved < STUCK {
                break;
            }
        }
        (factor, sights)
    }

    /// Against the slope of what is minimised.
    fn downhill(&self, theta: &DVector<f64>, sights: &[WhitenedResidual], left_out: &[bool]) -> DVector<f64> {
        let mut downhill = -theta;
        let pulls: Vec<_> = sights.par_iter().map(WhitenedResidual::pull).collect();
        for ((reading, pull), _) in self.kept(&pulls, left_out) {
            for (j, column) in self.columns(reading) {
                downhill[column] -= pull[j];
            }
        }
        downhill
    }

    /// Takes a step, unless it climbs.
    fn goes(
        &self,
        theta: &mut DVector<f64>,
        sights: &mut Vec<WhitenedResidual>,
        step: &DVector<f64>,
        left_out: &[bool],
    ) -> bool {
        let next = &*theta + step;
        let seen = self.sights(&next);
        let stands: f64 =
            self.kept(sights, left_out).map(|((_, sight), _)| sight.residual.norm_squared()).sum();
        let falls = self.cost(&next, &seen, sights, left_out) <= 0.5 * (theta.norm_squared() + stands);
        if falls {
            (*theta, *sights) = (next, seen);
        }
        falls
    }

    /// The readings that count, each with what stands beside it.
    fn kept<'b, T>(
        &'b self,
        beside: &'b [T],
        left_out: &'b [bool],
    ) -> impl Iterator<Item = ((&'b Reading, &'b T), &'b bool)> {
        self.readings.iter().zip(beside).zip(left_out).filter(|(_, out)| !**out)
    }

    /// The factor of 1 + Σ slopeᵀ slope.
    fn factor(&self, sights: &[WhitenedResidual], left_out: &[bool]) -> Factor {
        let each = self.places.each;
        let mut matrix = self.pattern.identity();
        let squares: Vec<_> = sights.par_iter().map(|sight| sight.slope.transpose() * &sight.slope).collect();
        for ((reading, square), _) in self.kept(&squares, left_out) {
            let places = self.places.of_reading(reading);
            for (b, column) in places.clone() {
                // The lower triangle; a paint that is named twice in one reading lands on itself.
                for (a, row) in places.clone().filter(|(_, row)| *row >= column) {
                    let of = |i, j| square[(a * DIMENSIONS + i, b * DIMENSIONS + j)];
                    matrix.add(row / each, column / each, of);
                }
            }
        }
        // One plus a sum of squares is positive definite, but for numbers that have overflown: then nothing was learnt.
        matrix.factor().or_else(|| self.pattern.identity().factor()).unwrap_or_else(Factor::of_nothing)
    }

    /// What is still unknown, as draws: by paint, coordinates × members.
    ///
    /// Each is a draw of the first guess that was taught by the same readings with a draw of their noise, A⁻¹(n + Jᵀε)
    /// (G. Matheron's rule; its covariance is A⁻¹(1 + JᵀJ)A⁻¹ = A⁻¹). So a plausible tin stays the same tin while readings
    /// come in, and is as it was where none tells of it.
    fn spread(&self, factor: &Factor, sights: &[WhitenedResidual], left_out: &[bool]) -> Vec<DMatrix<f64>> {
        let mut around = DMatrix::zeros(self.places.unknowns, HALF);
        let mut by_paint: Vec<DMatrix<f64>> = self.tins.iter().map(|tin| tin.drawn.clone()).collect();
        for (own, at) in by_paint.iter().zip(&self.places.at) {
            if let Some(at) = at {
                let each = (self.places.each, HALF);
                around.view_mut((*at, 0), each).copy_from(&own.view((0, 0), each));
            }
        }
        let noise: Vec<_> = sights
            .par_iter()
            .zip(&self.chances)
            .map(|(sight, chance)| sight.slope.transpose() * draws::half(*chance, sight.residual.len()))
            .collect();
        self.gather(&mut around, &noise, left_out);
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

    /// Adds up what readings say of the coordinates, member by member.
    fn gather(&self, sum: &mut DMatrix<f64>, of_readings: &[DMatrix<f64>], left_out: &[bool]) {
        let each = self.places.each;
        let members = sum.as_mut_slice().par_chunks_mut(self.places.unknowns.max(1)).enumerate();
        members.for_each(|(m, sum)| {
            for ((reading, pull), _) in self.kept(of_readings, left_out) {
                let said = pull.column(m);
                for (n, at) in self.places.of_reading(reading) {
                    for (sum, said) in sum[at..at + each].iter_mut().zip(&said.as_slice()[n * DIMENSIONS..]) {
                        *sum += said;
                    }
                }
            }
        });
    }

    /// Brings each plausible shelf back to what was read.
    ///
    /// A draw of Laplace's approximation keeps to the readings only as far as these follow the coordinates in straight
    /// lines. What a shelf would read beyond that, q = g(θ + δ) − g(θ) − Jδ, is chance that the readings have
    /// already ruled out: the least step that takes it back is −A⁻¹Jᵀq (a step of randomised maximum likelihood:
    /// D. S. Oliver, N. He and A. C. Reynolds, *ECMOR V* (1996)).
    fn straighten(
        &self,
        best: &[Vec<f64>],
        sights: &[WhitenedResidual],
        factor: &Factor,
        spread: &mut [DMatrix<f64>],
        left_out: &[bool],
    ) {
        let each = self.places.each;
        // Every plausible tin that was read, without its finer shapes: the readings count those as chance.
        let tins: Vec<Crowd> = self
            .tins
            .par_iter()
            .enumerate()
            .map(|(paint, tin)| {
                let read = self.places.at[paint].is_some();
                Crowd::of(|m| {
                    let mut at = best[paint].clone();
                    (0..each).filter(|_| read).for_each(|j| at[j] += spread[paint][(j, m)]);
                    tin.prior.material(&at)
                })
            })
            .collect();
        let pulls: Vec<_> = self
            .readings
            .par_iter()
            .zip(sights)
            .zip(left_out)
            .map(|((reading, sight), out)| {
                if *out {
                    return DMatrix::zeros(0, 0);
                }
                let paints: Vec<&Crowd> = reading.of.iter().map(|(paint, _)| &tins[*paint]).collect();
                let mut bent = sight.residuals_of(reading, &paints);
                for mut bent in bent.column_iter_mut() {
                    bent -= &sight.residual;
                }
                let mut column = 0;
                for (paint, _) in &reading.of {
                    if self.places.at[*paint].is_some() {
                        bent.gemm(
                            -1.0,
                            &sight.slope.columns(column, each),
                            &spread[*paint].rows(0, each),
                            1.0,
                        );
                    }
                    column += self.tins[*paint].prior.dimensions();
                }
                sight.slope.transpose() * bent * -1.0
            })
            .collect();
        let mut downhill = DMatrix::zeros(self.places.unknowns, draws::MEMBERS);
        self.gather(&mut downhill, &pulls, left_out);
        let back = factor.solve_all(downhill);
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

    /// How far each reading lies from what the others say, in standard deviations.
    fn off(
        &self,
        sights: &[WhitenedResidual],
        factor: &Factor,
        spread: &[DMatrix<f64>],
        left_out: &[bool],
    ) -> Vec<f64> {
        let each = self.readings.par_iter().zip(sights).zip(left_out);
        each.map(|((reading, sight), out)| {
            let n = sight.residual.len();
            let residual = &sight.residual;
            // A reading that is alone in what it says contradicts only the first guess, which is no reading: it is
            // believed further.
            let sign = if *out { 1.0 } else { -ALONE };
            let judge = |hat: DMatrix<f64>| {
                let covariance = DMatrix::identity(n, n) + hat * sign;
                let root = covariance.cholesky()?;
                Some(deviations(residual.dot(&root.solve(residual)), n as f64))
            };
            // Roughly, from the draws; exactly where that is anywhere near odd.
            let mut drawn = DMatrix::zeros(n, HALF);
            let mut column = 0;
            for (paint, _) in &reading.of {
                let own = &spread[*paint];
                let known = self.tins[*paint].prior.dimensions();
                drawn += sight.slope.columns(column, known) * own.view((0, 0), (known, HALF));
                column += known;
            }
            let rough = judge(&drawn * drawn.transpose() / HALF as f64);
            if let Some(off) = rough.filter(|off| *off < 0.5 * OUTLIER_SD) {
                return off;
            }
            let mut slope = DMatrix::zeros(self.places.unknowns, n);
            for (j, column) in self.columns(reading) {
                for i in 0..n {
                    slope[(column, i)] += sight.slope[(i, j)];
                }
            }
            // The factor is that of the last step but one: where it claims more for the reading than there is, the most that
            // can be held against it.
            judge(factor.squared(slope))
                .unwrap_or_else(|| deviations(residual.norm_squared() / (1.0 - ALONE), n as f64))
        })
        .collect()
    }
}

/// Steps that were taken: the next is drawn out by what they teach.
#[derive(Default)]
struct Walk {
    /// Where it stood and which step was pointed out there, the last first.
    steps: Vec<(DVector<f64>, DVector<f64>)>,
}

impl Walk {
    /// The step from here, where `step` is pointed out; None as long as there is too little to go by.
    fn further(&mut self, at: &DVector<f64>, step: &DVector<f64>) -> Option<DVector<f64>> {
        self.steps.insert(0, (at.clone(), step.clone()));
        self.steps.truncate(LOOKS_BACK + 1);
        if self.steps.len() < 2 || step.amax() > FAR {
            return None;
        }
        // How far each step moved, and how it turned what was pointed out.
        let each = self.steps.windows(2).map(|pair| (&pair[0].0 - &pair[1].0, &pair[0].1 - &pair[1].1));
        let (moved, turned): (Vec<_>, Vec<_>) = each.unzip();
        // The mix of them after which the least would be left to go.
        let n = turned.len();
        let square = DMatrix::from_fn(n, n, |i, j| turned[i].dot(&turned[j]));
        let along = DVector::from_fn(n, |i, _| turned[i].dot(step));
        let shares = square.svd(true, true).solve(&along, 1e-12).ok()?;
        let back =
            moved.iter().zip(&turned).zip(&shares).map(|((moved, turned), share)| (moved + turned) * *share);
        Some(back.fold(step.clone(), |further, back| further - back))
    }
}

/// A χ² of `n` degrees in standard deviations of a normal (E. B. Wilson and M. M. Hilferty, *PNAS* 17 (1931) 684).
pub fn deviations(squared: f64, n: f64) -> f64 {
    let ninth = 2.0 / (9.0 * n);
    ((squared.max(0.0) / n).cbrt() - (1.0 - ninth)) / ninth.sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Quantiles of χ²: 3 degrees, 14.16 at three standard deviations (0.99730); 12 degrees, 11.34 at the median
    /// (handbook tables).
    #[test]
    fn chi_squares_in_standard_deviations() {
        assert!((deviations(14.16, 3.0) - 2.78).abs() < 0.02, "one-sided: {}", deviations(14.16, 3.0));
        assert!(deviations(11.34, 12.0).abs() < 0.01);
        assert!(deviations(0.0, 3.0) < -3.0);
    }
}
