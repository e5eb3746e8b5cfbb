//! How strongly a paint scatters when nobody has tested it.
//!
//! A tin holds only so much pigment: what is colourant is not white, and white is what scatters. The more the darkest band
//! of a masstone absorbs, the less white can be in it. So the strength of a class is that of its whites, and falls with
//! the largest K/S of the visible bands†: common practice knows it as the deep base, which holds little white or none.

use warm_blend_spectral::{BANDS, Reflectance, wavelength};

use crate::film::k_over_s;
use crate::hiding::house_white_scattering;

/// Largest K/S at which half the white has given way to colourant†.
const HALF_WHITE: f64 = 1.0;
/// Scattering of a colourant against that of white†.
const COLOURANT: f64 = 0.08;
/// Bands in which eyes and colourants matter, nm.
const SEEN: std::ops::RangeInclusive<u32> = 420..=680;

/// S, 1/mm, of a paint of a class whose whites have this `strength` (house white = 1), from its masstone below the surface.
pub fn by_class(strength: f64, inside: &Reflectance) -> f64 {
    let deepest = (0..BANDS)
        .filter(|i| SEEN.contains(&wavelength(*i)))
        .map(|i| k_over_s(inside.bands()[i]))
        .fold(0.0, f64::max);
    let white = HALF_WHITE / (HALF_WHITE + deepest);
    strength * (white + COLOURANT * (1.0 - white)) * house_white_scattering()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_deeper_a_paint_the_less_it_scatters(r in 0.01..0.95f64, less in 0.1..0.99f64) {
            let (pale, deep) = (Reflectance::grey(r), Reflectance::grey(r * less));
            prop_assert!(by_class(1.0, &deep) < by_class(1.0, &pale));
            prop_assert!(by_class(1.0, &deep) >= COLOURANT * house_white_scattering());
        }
    }

    #[test]
    fn a_white_has_the_strength_of_its_class() {
        let white = Reflectance::grey(0.95);
        assert!((by_class(0.8, &white) / house_white_scattering() / 0.8 - 1.0).abs() < 0.01);
    }
}
