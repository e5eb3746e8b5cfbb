//! Light on a plane face.
//!
//! All points of a plane face the same way, so light that comes from afar changes slowly along it: its logarithm is nearly a quadratic of the
//! position (as for the uneven field of a scanner: B. Likar, M. A. Viergever and F. Pernuš, *IEEE Trans. Med. Imaging* 20 (2001) 1398). Shadows,
//! and what else is not of the plane, are outliers of the fit (biweight: A. E. Beaton and J. W. Tukey, *Technometrics* 16 (1974) 147).

use nalgebra::{SMatrix, SVector};

use crate::median;

/// Coefficients of a quadratic in two variables.
const TERMS: usize = 6;
/// Rounds of the robust fit: first by absolute deviations, so that a shadow does not bend it, then by the biweight.
const ROUNDS: [usize; 2] = [30, 6];
/// Median deviations beyond which a point has no weight (Beaton and Tukey's 6).
const OUTLIER: f32 = 6.0;
/// Fewest points that a face is fitted to.
const FEWEST: usize = 200;
/// Pull of the slopes and bends to none, of the number of points: a plane that is seen in a narrow strip only is not extrapolated†.
const RIDGE: f32 = 1e-3;

/// Logarithm of the light on a plane face, as a quadratic of the position.
#[derive(Debug, Clone, Copy)]
pub struct PlaneLight {
    middle: [f32; 2],
    scale: f32,
    terms: SVector<f32, TERMS>,
}

impl PlaneLight {
    /// Fits positions and logarithms of the light there; `None` if there are too few.
    pub fn fit(lit: &[([f32; 2], f32)]) -> Option<Self> {
        if lit.len() < FEWEST
            || !lit.iter().all(|(at, log)| at[0].is_finite() && at[1].is_finite() && log.is_finite())
        {
            return None;
        }
        let range = |axis: usize| {
            lit.iter().fold((f32::MAX, f32::MIN), |(least, most), (at, _)| {
                (least.min(at[axis]), most.max(at[axis]))
            })
        };
        let (across, down) = (range(0), range(1));
        let middle = [0.5 * (across.0 + across.1), 0.5 * (down.0 + down.1)];
        let scale = (0.5 * (across.1 - across.0).max(down.1 - down.0)).max(1e-6);
        let mut fitted = Self { middle, scale, terms: SVector::zeros() };
        fitted.terms[0] = median(&mut lit.iter().map(|(_, log)| *log).collect::<Vec<_>>());
        for round in 0..ROUNDS[0] + ROUNDS[1] {
            let apart: Vec<f32> = lit.iter().map(|(at, log)| log - fitted.at(*at)).collect();
            let usual = median(&mut apart.iter().map(|apart| apart.abs()).collect::<Vec<_>>()).max(1e-4);
            let mut matrix = SMatrix::<f32, TERMS, TERMS>::zeros();
            let mut right = SVector::<f32, TERMS>::zeros();
            for ((at, log), apart) in lit.iter().zip(&apart) {
                let weight = match round < ROUNDS[0] {
                    true => usual / apart.abs().max(0.05 * usual),
                    false => (1.0 - (apart / (OUTLIER * usual)).powi(2)).max(0.0).powi(2),
                };
                let basis = fitted.basis(*at);
                matrix += weight * basis * basis.transpose();
                right += weight * *log * basis;
            }
            for term in 1..TERMS {
                matrix[(term, term)] += RIDGE * lit.len() as f32;
            }
            fitted.terms = matrix.cholesky()?.solve(&right);
        }
        Some(fitted)
    }

    fn basis(&self, at: [f32; 2]) -> SVector<f32, TERMS> {
        let (x, y) = ((at[0] - self.middle[0]) / self.scale, (at[1] - self.middle[1]) / self.scale);
        SVector::from([1.0, x, y, x * x, x * y, y * y])
    }

    /// Logarithm of the light at a position.
    pub fn at(&self, at: [f32; 2]) -> f32 {
        self.basis(at).dot(&self.terms)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]

        /// The quadratic is found again although a fifth of the face, across its middle, lies in shadow and the rest has grain.
        #[test]
        fn a_shadow_does_not_bend_the_light(
            terms in prop::array::uniform6(-0.5f32..0.5),
            shadow in 0.7f32..3.0,
            from in 10usize..22,
            seed: u64,
        ) {
            let log = |x: f32, y: f32| {
                terms[0] + terms[1] * x + terms[2] * y + terms[3] * x * x + terms[4] * x * y + terms[5] * y * y
            };
            let grain = |i: usize| ((seed.wrapping_mul(2 * i as u64 + 1) >> 40) & 255) as f32 / 255.0 - 0.5;
            let point = |i: usize| {
                let (x, y) = ((i % 40) as f32 / 20.0 - 1.0, (i / 40) as f32 / 20.0 - 1.0);
                let dark = if (from..from + 8).contains(&(i / 40)) { shadow } else { 0.0 };
                ([700.0 + 400.0 * x, 300.0 + 400.0 * y], log(x, y) - dark + 0.1 * grain(i))
            };
            let lit: Vec<_> = (0..1600).map(point).collect();
            let light = PlaneLight::fit(&lit).unwrap();
            for (x, y) in [(-0.9, -0.9), (0.9, -0.5), (0.0, 0.0), (0.5, 0.9)] {
                let found = light.at([700.0 + 400.0 * x, 300.0 + 400.0 * y]);
                prop_assert!((found - log(x, y)).abs() < 0.1, "{found} {}", log(x, y));
            }
        }
    }

    #[test]
    fn too_few_points_and_what_is_not_finite_have_no_light() {
        assert!(PlaneLight::fit(&[]).is_none());
        assert!(PlaneLight::fit(&vec![([0.0, 0.0], 0.0); FEWEST - 1]).is_none());
        assert!(PlaneLight::fit(&vec![([0.0, 0.0], f32::NAN); FEWEST]).is_none());
        // All at one point: it is as light as they are.
        let one = PlaneLight::fit(&vec![([3.0, 4.0], -0.7); FEWEST]).unwrap();
        assert!((one.at([3.0, 4.0]) + 0.7).abs() < 1e-3);
    }
}
