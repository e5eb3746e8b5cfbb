//! The paint's surface, between the film and the eye.
//!
//! Light meets the surface twice: some is reflected before it enters, and much of what comes from inside is reflected
//! back in (J. L. Saunderson, *J. Opt. Soc. Am.* 32 (1942) 727):
//!
//! ```text
//! R_seen = α k1 + (1 − k1)(1 − k2) R / (1 − k2 R),   k1 = 0.04, k2 = 0.6
//! ```
//!
//! α is the share of the outer reflection that reaches the eye: much from a dead matt surface, which scatters it in all
//! directions, none from a glossy one, which mirrors it away.

use warm_blend_spectral::{BANDS, Reflectance};

use crate::Undersurface;

/// Reflection of light that meets the surface from outside, for index 1.5 (Fresnel, normal incidence).
pub const K1: f64 = 0.04;
pub use crate::undersurface::K2;

/// Least reflectance below the surface of any masstone: no pigment load has a larger K/S than about 300†.
const BLACKEST: f64 = 0.0016;

/// How many times as uneven as the masstone is what lies below its surface at most, darkest band against the mean†: what takes nearly
/// all of the darkest band leaves an absurdly vivid undertone.
const VIVID: f64 = 2.0;

/// sd of ln α within a class†.
const SPREAD: f64 = 0.35;
/// A normal is a logistic variable of this scale, within 0.01 of probability (published approximation).
const LOGISTIC: f64 = 1.702;

/// Least reflectance below the surface; keeps K/S finite.
pub const LEAST: f64 = 1e-5;
/// Greatest reflectance below the surface.
pub const MOST: f64 = 1.0 - 1e-5;

/// Reflectance seen in one band, for a reflectance of `inside` below the surface.
#[inline]
pub fn surfaced(alpha: f64, inside: f64) -> f64 {
    emerging(alpha, leaving(inside))
}

/// Share of the light that has entered and leaves again, if what lies below is diffuse and of reflectance `inside`.
#[inline]
pub fn leaving(inside: f64) -> f64 {
    (1.0 - K2) * inside / (1.0 - K2 * inside)
}

/// Reflectance seen in one band, if this share of the light that has entered leaves again.
#[inline]
pub fn emerging(alpha: f64, leaving: f64) -> f64 {
    alpha * K1 + (1.0 - K1) * leaving
}

/// α: share of the 4 % surface reflection that reaches the eye, from 0 (gloss) to 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SurfaceReflection(f64);

impl SurfaceReflection {
    /// Clamps any number to 0..=1; NaN becomes 0.
    pub fn new(alpha: f64) -> Self {
        Self(alpha.max(0.0).min(1.0))
    }

    /// α, 0..=1.
    pub const fn alpha(self) -> f64 {
        self.0
    }

    /// The most probable sheen of a paint with this masstone in a class of this sheen: see [`SheenOfMasstone`].
    pub fn limited_by(self, masstone: &Reflectance) -> Self {
        Self::new(SheenOfMasstone::of(self, masstone).at(0.0))
    }

    /// Reflectance seen through the surface.
    pub fn seen(self, below: &Undersurface) -> Reflectance {
        Reflectance::from_fn(|i| emerging(self.0, below.bands()[i].leaving()))
    }

    /// Inverse of [`SurfaceReflection::seen`] for a diffuse ground: its reflectance, strictly inside (0, 1). A
    /// reflectance above that of any coated surface (0.96 + α k1) is treated as the greatest possible.
    pub fn inside(self, seen: &Reflectance) -> Reflectance {
        Reflectance::from_fn(|i| {
            let y = seen.bands()[i] - self.0 * K1;
            (y / ((1.0 - K1) * (1.0 - K2) + K2 * y)).clamp(LEAST, MOST)
        })
    }
}

/// Distribution of α for a paint whose masstone is known.
///
/// Within a class ln α has a logistic distribution around the usual value (standard deviation 0.35†). It is truncated in
/// two ways: the surface cannot reflect more than the darkest band of the masstone shows, nor, for a colour, so much that
/// what lies below becomes absurdly vivid. A unit normal runs through the rest; 0 is the median. The masstone of a black
/// reveals little of K, because K grows without bound as α approaches the limit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SheenOfMasstone {
    usual: f64,
    /// Probability of what is not cut off.
    possible: f64,
}

impl SheenOfMasstone {
    const SCALE: f64 = SPREAD / LOGISTIC;

    /// Distribution for the usual α of a class and a masstone.
    pub fn of(usual: SurfaceReflection, masstone: &Reflectance) -> Self {
        let below = (1.0 - K1) * (1.0 - K2) * BLACKEST;
        let mean = masstone.bands().iter().sum::<f64>() / BANDS as f64;
        let uneven = mean / masstone.lowest();
        let vivid = mean * (VIVID - 1.0) / (VIVID * uneven - 1.0);
        let most = ((masstone.lowest() - below).min(vivid) / K1).max(1e-3);
        let possible = 1.0 / (1.0 + (most / usual.0.max(1e-3)).powf(-1.0 / Self::SCALE));
        Self { usual: usual.0, possible }
    }

    /// α at a value of the unit normal.
    pub fn at(&self, normal: f64) -> f64 {
        let share = self.possible / (1.0 + (-LOGISTIC * normal).exp());
        (self.usual * (share / (1.0 - share)).powf(Self::SCALE)).min(1.0)
    }

    /// ∂α/∂normal; 0 where α has reached its limit.
    pub fn slope(&self, normal: f64) -> f64 {
        let alpha = self.at(normal);
        let quantile = 1.0 / (1.0 + (-LOGISTIC * normal).exp());
        if alpha >= 1.0 { 0.0 } else { alpha * SPREAD * (1.0 - quantile) / (1.0 - self.possible * quantile) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn below_and_back_above_is_the_same(seen in 0.005..0.95f64, alpha in 0.0..1.0f64) {
            let masstone = Reflectance::grey(seen);
            let sheen = SurfaceReflection::new(alpha).limited_by(&masstone);
            let inside = sheen.inside(&masstone);
            prop_assert!(inside.lowest() > LEAST, "a dark masstone keeps something below its surface");
            prop_assert!((sheen.seen(&Undersurface::diffuse(&inside)).bands()[0] - seen).abs() < 1e-12);
        }

        /// α follows the normal without a break, never reaches what the darkest band shows, and is the usual one where nothing is
        /// cut off.
        #[test]
        fn sheens_of_a_masstone(seen in 0.004..0.95f64, usual in 0.1..0.9f64, at in -3.0..3.0f64) {
            let masstone = Reflectance::grey(seen);
            let sheen = SheenOfMasstone::of(SurfaceReflection::new(usual), &masstone);
            let step = 1e-5;
            let slope = (sheen.at(at + step) - sheen.at(at - step)) / (2.0 * step);
            prop_assert!((slope - sheen.slope(at)).abs() < 1e-4 || sheen.at(at + step) >= 1.0, "{} {}", slope, sheen.slope(at));
            prop_assert!(sheen.at(at) * K1 < seen);
            prop_assert!(seen < 4.0 * K1 || (sheen.at(0.0) - usual).abs() < 0.01);
        }

        #[test]
        fn more_below_is_more_above(one in 0.0..1.0f64, other in 0.0..1.0f64, alpha in 0.0..1.0f64) {
            let seen = |r| SurfaceReflection::new(alpha).seen(&Undersurface::diffuse(&Reflectance::grey(r))).bands()[0];
            prop_assert_eq!(one < other, seen(one) < seen(other));
        }
    }

    #[test]
    fn a_perfect_gloss_white_is_seen_at_96_percent() {
        assert!(
            (SurfaceReflection::new(0.0).seen(&Undersurface::diffuse(&Reflectance::grey(1.0))).bands()[0]
                - 0.96)
                .abs()
                < 1e-12
        );
    }
}
