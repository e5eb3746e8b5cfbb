//! The objective function, evaluated at a shelf.

use std::{collections::HashMap, sync::Arc};

use nalgebra::{DMatrix, DVector};
use rayon::prelude::*;
use warm_blend_paint::FilmState;

use crate::{
    draws::Whose,
    factor::{Factor, Pattern},
    first_guess::FirstGuess,
    prior::{DIMENSIONS, Local},
    reading::Reading,
    residual::WhitenedResidual,
};

/// Position of each paint's coordinates among the unknowns.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Places {
    /// First coordinate by paint; `None` if the paint has none or no readings.
    pub at: Vec<Option<usize>>,
    /// Coordinates per paint. The last, air, affects no dry reading and is left out if all readings are dry.
    pub each: usize,
    pub unknowns: usize,
}

pub(super) struct System<'a> {
    pub tins: &'a [Arc<FirstGuess>],
    pub readings: &'a [Reading],
    pub places: Places,
    pub pattern: Arc<Pattern>,
    /// Draws for the noise of each reading.
    pub chances: Vec<Whose>,
    /// True if the result is kept for incremental fits.
    pub kept: bool,
}

/// A tin at the point where its readings are evaluated.
#[derive(Debug)]
pub(super) struct Stand {
    pub at: Vec<f64>,
    local: Local,
}

/// A shelf with every reading evaluated there. A paint may have moved a little since; readings are then extrapolated
/// linearly.
#[derive(Debug, Clone)]
pub(super) struct Here {
    pub theta: DVector<f64>,
    /// By paint.
    pub stands: Vec<Arc<Stand>>,
    /// By reading.
    pub sights: Vec<Arc<WhitenedResidual>>,
}

/// Effect of a reading on the coordinates of its paints, on each plausible shelf. Kept by the thousand; single precision
/// is more than accurate enough.
pub(super) type Said = Arc<DMatrix<f32>>;

/// Equal readings get different draws.
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
        let all_dry = readings.iter().all(|reading| reading.state == FilmState::Dry);
        let each = if all_dry { DIMENSIONS - 1 } else { DIMENSIONS };
        let mut unknowns = 0;
        let at = tins
            .iter()
            .zip(read)
            .map(|(tin, read)| {
                (read && tin.dimensions() > 0).then(|| {
                    unknowns += each;
                    unknowns - each
                })
            })
            .collect();
        Self { at, each, unknowns }
    }

    /// All coordinates of a shelf as one vector; zero where unknown.
    pub fn gathered(&self, known: &[Option<&[f64]>]) -> DVector<f64> {
        let mut theta = DVector::zeros(self.unknowns);
        for (at, known) in self.at.iter().zip(known) {
            if let (Some(at), Some(known)) = (at, known) {
                theta.rows_mut(*at, self.each).copy_from_slice(&known[..self.each]);
            }
        }
        theta
    }
}

impl<'a> System<'a> {
    pub fn of(
        tins: &'a [Arc<FirstGuess>],
        readings: &'a [Reading],
        left_out: &[bool],
        known: Option<&Arc<Pattern>>,
        kept: bool,
    ) -> Self {
        let names: Vec<u64> = tins.iter().map(|tin| tin.label.name).collect();
        let places = Places::of(tins, readings, left_out);
        let blocks = |reading: &Reading| -> Vec<usize> {
            reading.of.iter().filter_map(|(paint, _)| places.at[*paint]).map(|at| at / places.each).collect()
        };
        let pairs = readings.iter().map(blocks).flat_map(|blocks| {
            let all = blocks.clone();
            blocks.into_iter().flat_map(move |one| all.clone().into_iter().map(move |other| (one, other)))
        });
        let pattern = Pattern::of(places.unknowns / places.each, places.each, pairs, known);
        Self { tins, readings, pattern, places, chances: chances(&names, readings), kept }
    }

    /// The fitted paints of a reading: first column of each in the slope, first unknown, and index.
    pub fn fitted<'b>(
        &'b self,
        reading: &'b Reading,
    ) -> impl Iterator<Item = (usize, usize, usize)> + Clone + 'b {
        let columns = reading.of.iter().scan(0, |next, (paint, _)| {
            let column = *next;
            *next += self.tins[*paint].dimensions();
            Some((column, *paint))
        });
        columns.filter_map(|(column, paint)| self.places.at[paint].map(|at| (column, at, paint)))
    }

    /// The coordinates of a paint; zeros if it is not fitted.
    pub fn of_paint(&self, theta: &DVector<f64>, paint: usize) -> Vec<f64> {
        let mut own = vec![0.0; self.tins[paint].dimensions()];
        if let Some(at) = self.places.at[paint] {
            own[..self.places.each].copy_from_slice(theta.rows(at, self.places.each).as_slice());
        }
        own
    }

    pub fn stand(&self, theta: &DVector<f64>, paint: usize) -> Arc<Stand> {
        let at = self.of_paint(theta, paint);
        Arc::new(Stand { local: self.tins[paint].prior().local(&at), at })
    }

    pub fn sight(&self, reading: &Reading, stands: &[Arc<Stand>]) -> Arc<WhitenedResidual> {
        let paints: Vec<&Local> = reading.of.iter().map(|(paint, _)| &stands[*paint].local).collect();
        Arc::new(WhitenedResidual::of(reading, &paints))
    }

    /// Evaluates every reading at a shelf.
    pub fn look(&self, theta: DVector<f64>) -> Here {
        let stands: Vec<_> = (0..self.tins.len()).map(|paint| self.stand(&theta, paint)).collect();
        let sights = self.readings.par_iter().map(|reading| self.sight(reading, &stands)).collect();
        Here { theta, stands, sights }
    }

    /// Residual of a reading.
    pub fn residual(&self, here: &Here, reading: usize) -> DVector<f64> {
        let sight = &here.sights[reading];
        let mut residual = sight.residual.clone();
        let each = self.places.each;
        for (column, at, paint) in self.fitted(&self.readings[reading]) {
            let stand = &here.stands[paint].at;
            let gone = DVector::from_fn(each, |j, _| here.theta[at + j] - stand[j]);
            if gone.iter().any(|gone| *gone != 0.0) {
                residual.gemv(1.0, &sight.slope.columns(column, each), &gone, 1.0);
            }
        }
        residual
    }

    /// Negative gradient of the objective.
    pub fn downhill(&self, here: &Here, left_out: &[bool]) -> DVector<f64> {
        let mut downhill = -&here.theta;
        let pull = |reading: usize| here.sights[reading].slope.tr_mul(&self.residual(here, reading));
        let pulls: Vec<_> = (0..self.readings.len()).into_par_iter().map(pull).collect();
        for ((reading, pull), _) in self.kept(&pulls, left_out) {
            for (column, at, _) in self.fitted(reading) {
                for j in 0..self.places.each {
                    downhill[at + j] -= pull[column + j];
                }
            }
        }
        downhill
    }

    /// The readings that count, each with its entry of a list.
    pub fn kept<'b, T>(
        &'b self,
        beside: &'b [T],
        left_out: &'b [bool],
    ) -> impl Iterator<Item = ((&'b Reading, &'b T), &'b bool)> {
        self.readings.iter().zip(beside).zip(left_out).filter(|(_, out)| !**out)
    }

    /// Factor of 1 + Σ slopeᵀ slope.
    pub fn factor(&self, here: &Here, left_out: &[bool]) -> Factor {
        let each = self.places.each;
        let mut matrix = self.pattern.identity();
        let squares: Vec<_> = here.sights.par_iter().map(|sight| sight.square()).collect();
        for ((reading, square), _) in self.kept(&squares, left_out) {
            let fitted = self.fitted(reading);
            for (b, column, _) in fitted.clone() {
                // Only the lower triangle; a paint that occurs twice in one reading adds to itself.
                for (a, row, _) in fitted.clone().filter(|(_, row, _)| *row >= column) {
                    matrix.add(row / each, column / each, |i, j| square[(a + i, b + j)]);
                }
            }
        }
        // One plus a sum of squares is positive definite unless numbers overflowed; then nothing is learned.
        matrix.factor().or_else(|| self.pattern.identity().factor()).unwrap_or_else(Factor::of_nothing)
    }

    /// Updates a sum over coordinates, by member: adds the new effects of some readings and subtracts the old ones.
    pub fn add(&self, sum: &mut DMatrix<f64>, news: &[(usize, &Said, Option<&Said>)]) {
        let (each, unknowns) = (self.places.each, self.places.unknowns);
        let columns = sum.as_mut_slice().par_chunks_mut(unknowns.max(1)).enumerate();
        columns.for_each(|(m, sum)| {
            let mut add = |reading: usize, said: &Said, sign: f64| {
                let said = said.column(m);
                for (column, at, _) in self.fitted(&self.readings[reading]) {
                    for (sum, said) in sum[at..at + each].iter_mut().zip(&said.as_slice()[column..]) {
                        *sum += sign * f64::from(*said);
                    }
                }
            };
            for (reading, now, was) in news {
                was.iter().for_each(|was| add(*reading, was, -1.0));
                add(*reading, now, 1.0);
            }
        });
    }
}
