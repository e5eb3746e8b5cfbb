//! The paint's surface, between the film and the eye.
//!
//! Light meets the surface twice: some is turned back before it enters, and much of what comes from inside is
//! turned back in again (J. L. Saunderson, *J. Opt. Soc. Am.* 32 (1942) 727):
//!
//! ```text
//! R_seen = α k1 + (1 − k1)(1 − k2) R / (1 − k2 R),   k1 = 0.04, k2 = 0.6
//! ```
//!
//! α is the share of the outer reflection that reaches the eye: much on a dead matt surface, which scatters it
//! everywhere, none on a gloss one, which mirrors it away.

use warm_blend_spectral::Reflectance;

/// Reflection of light that meets the surface from outside, index 1.5 (Fresnel, normal incidence).
pub const K1: f64 = 0.04;
/// Reflection of diffuse light that meets it from inside (Saunderson's value).
pub const K2: f64 = 0.6;

/// How much of the surface reflection is taken as seen at most, against the darkest band of a masstone†.
/// A dark masstone's reflectance is close to k1, and taking all of it away leaves a band at almost nothing, which
/// makes an absurdly orange or blue undertone of every glaze of that paint.
const DARK_FLOOR: f64 = 0.65;

/// Least reflectance below the surface, so that K/S stays finite.
pub const LEAST: f64 = 1e-5;
/// Most reflectance below the surface.
pub const MOST: f64 = 1.0 - 1e-5;

/// What is seen of one band whose reflectance below the surface is `inside`.
#[inline]
pub fn surfaced(alpha: f64, inside: f64) -> f64 {
    alpha * K1 + (1.0 - K1) * (1.0 - K2) * inside / (1.0 - K2 * inside)
}

/// α: share of the 4 % surface reflection that reaches the eye, 0 gloss to 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SurfaceReflection(f64);

impl SurfaceReflection {
    /// Brings any number into 0..=1; a NaN is read as 0.
    pub fn new(alpha: f64) -> Self {
        Self(alpha.max(0.0).min(1.0))
    }

    /// α, 0..=1.
    pub const fn alpha(self) -> f64 {
        self.0
    }

    /// The sheen that is possible for a masstone: limited so that the surface explains at most 65 % of its darkest
    /// band.
    pub fn limited_by(self, masstone: &Reflectance) -> Self {
        Self(self.0.min(DARK_FLOOR * masstone.lowest() / K1))
    }

    /// What is seen of a film whose reflectance below the surface is `inside`.
    pub fn seen(self, inside: &Reflectance) -> Reflectance {
        Reflectance::from_fn(|i| surfaced(self.0, inside.bands()[i]))
    }

    /// The inverse of [`SurfaceReflection::seen`]: what is below the surface, kept strictly inside (0, 1). A reflectance that is
    /// brighter than any coated surface can be (0.96 + α k1) is read as the brightest.
    pub fn inside(self, seen: &Reflectance) -> Reflectance {
        Reflectance::from_fn(|i| {
            let y = seen.bands()[i] - self.0 * K1;
            (y / ((1.0 - K1) * (1.0 - K2) + K2 * y)).clamp(LEAST, MOST)
        })
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
            prop_assert!((sheen.seen(&inside).bands()[0] - seen).abs() < 1e-12);
        }

        #[test]
        fn more_below_is_more_above(one in 0.0..1.0f64, other in 0.0..1.0f64, alpha in 0.0..1.0f64) {
            let seen = |r| SurfaceReflection::new(alpha).seen(&Reflectance::grey(r)).bands()[0];
            prop_assert_eq!(one < other, seen(one) < seen(other));
        }
    }

    #[test]
    fn a_perfect_gloss_white_is_seen_at_96_percent() {
        assert!((SurfaceReflection::new(0.0).seen(&Reflectance::grey(1.0)).bands()[0] - 0.96).abs() < 1e-12);
    }
}
