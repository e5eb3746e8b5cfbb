//! Outliers: distances of readings from what the others predict.
//!
//! The distance is √(rᵀ(1 − H)⁻¹r), with H the leverage of the reading on its own prediction (R. D. Cook and S. Weisberg,
//! *Residuals and Influence in Regression* (1982), §2.2), converted to standard deviations by the cube root of Wilson and
//! Hilferty (1931).

use nalgebra::DMatrix;
use rayon::prelude::*;

use super::system::{Here, System};
use crate::{draws::HALF, factor::Factor};

/// Standard deviations from which a reading is questioned, and up to which one that was left out is readmitted.
const OUTLIER_SD: f64 = 3.0;
const AGREES_SD: f64 = 0.75 * OUTLIER_SD;
/// Greatest leverage that is held against a reading: √(1/(1 − 0.9)) standard deviations for each of the guess.
const ALONE: f64 = 0.9;

impl System<'_> {
    /// Distance of each reading from what the others predict, in standard deviations, reusing those in `known`.
    pub fn off(
        &self,
        here: &Here,
        factor: &Factor,
        spread: &[DMatrix<f64>],
        left_out: &[bool],
        known: impl Fn(usize) -> Option<f64> + Sync,
    ) -> Vec<f64> {
        let own = |reading: usize| self.off_one(here, factor, spread, reading, left_out[reading]);
        let off = |reading: usize| known(reading).unwrap_or_else(|| own(reading));
        (0..self.readings.len()).into_par_iter().map(off).collect()
    }

    /// True if a reading that counts should be questioned.
    pub fn is_odd(&self, reading: usize, off: &[f64], left_out: &[bool]) -> bool {
        !left_out[reading] && !self.readings[reading].sure && off[reading] > OUTLIER_SD
    }

    /// True if a reading that was left out now agrees with the rest. Readings left out beforehand stay out.
    pub fn comes_back(&self, reading: usize, off: &[f64], left_out: &[bool], forced: &[bool]) -> bool {
        left_out[reading] && !forced[reading] && off[reading] < AGREES_SD
    }

    fn off_one(
        &self,
        here: &Here,
        factor: &Factor,
        spread: &[DMatrix<f64>],
        reading: usize,
        left_out: bool,
    ) -> f64 {
        let slope = &here.sights[reading].slope;
        let residual = self.residual(here, reading);
        let n = residual.len();
        // A reading without others to compare contradicts only the first guess, which is no evidence, so it gets more
        // credit.
        let sign = if left_out { 1.0 } else { -ALONE };
        let judge = |hat: DMatrix<f64>| {
            let covariance = DMatrix::identity(n, n) + hat * sign;
            let root = covariance.cholesky()?;
            Some(deviations(residual.dot(&root.solve(&residual)), n as f64))
        };
        // Approximate, from the draws; exact if that is anywhere near the limit.
        let mut drawn = DMatrix::zeros(n, HALF);
        let mut column = 0;
        for (paint, _) in &self.readings[reading].of {
            let own = &spread[*paint];
            let known = self.tins[*paint].dimensions();
            drawn += slope.columns(column, known) * own.view((0, 0), (known, HALF));
            column += known;
        }
        let rough = judge(&drawn * drawn.transpose() / HALF as f64);
        if let Some(off) = rough.filter(|off| *off < 0.5 * OUTLIER_SD) {
            return off;
        }
        let mut all = DMatrix::zeros(self.places.unknowns, n);
        for (column, at, _) in self.fitted(&self.readings[reading]) {
            for j in 0..self.places.each {
                for i in 0..n {
                    all[(at + j, i)] += slope[(i, column + j)];
                }
            }
        }
        // The factor is that of the step before the last; if it gives a leverage above the possible, the greatest is
        // used.
        judge(factor.squared(all))
            .unwrap_or_else(|| deviations(residual.norm_squared() / (1.0 - ALONE), n as f64))
    }
}

/// Converts a χ² of `n` degrees of freedom to standard deviations of a normal (E. B. Wilson and M. M. Hilferty, *PNAS* 17
/// (1931) 684).
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
