//! Scattering of a paint that nobody has tested.
//!
//! A tin holds a limited amount of pigment, and only white scatters strongly. The more the darkest band of a masstone
//! absorbs, the less white the paint can contain. So S starts from that of the class's whites and falls with the largest
//! K/S of the visible bands†; common practice knows this as the deep base, which contains little white or none. Nor can a
//! paint contain more colourant than absorbs some hundreds per mm†: something nearly black is so because it scatters
//! little.

use warm_blend_spectral::{BANDS, Reflectance, wavelength};

use crate::film::k_over_s;
use crate::hiding::house_white_scattering;
use crate::undertone::run_of_scattering;
use crate::{CoatsToHide, SurfaceReflection};

/// Largest K/S at which half the white has given way to colourant†.
const HALF_WHITE: f64 = 1.0;
/// Scattering of a colourant against that of white†.
const COLOURANT: f64 = 0.08;
/// What the air in a film scatters against white, by φ†: it is there whatever the pigment.
const AIR: f64 = 0.3;
/// Mean K that no load of colourant exceeds, 1/mm†.
const MOST_K: f64 = 300.0;
/// Bands in which eyes and colourants matter, nm.
const SEEN: std::ops::RangeInclusive<u32> = 420..=680;

/// S, 1/mm, of a paint of a class whose whites have this `strength` (house white = 1) and whose dry films hold air φ;
/// `inside` is its masstone below the surface.
pub fn by_class(strength: f64, voids: f64, inside: &Reflectance) -> f64 {
    let white = white_share(inside);
    let colourant = COLOURANT + AIR * voids;
    let s = strength * (white + colourant * (1.0 - white)) * house_white_scattering();
    let k = s * mean(inside);
    s / (1.0 + (k / MOST_K).powi(2)).sqrt()
}

/// Basis, besides the masstone, for guessing the S of a paint.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ScatteringGuess {
    /// S of the whites of its class, house white = 1.
    pub strength: f64,
    /// Air in its dry film, φ.
    pub voids: f64,
    /// Blackness of the paint: see [`crate::undertone::blackness`].
    pub blackness: f64,
    /// Coats that the painter says it needs. If one coat hides, S is only known to be at least that large: nobody sees
    /// how thin a coat would have done.
    pub coats_to_hide: Option<CoatsToHide>,
}

impl ScatteringGuess {
    /// S by band, 1/mm, of a paint whose masstone below the surface is `inside`.
    pub fn by_band(&self, inside: &Reflectance, sheen: SurfaceReflection) -> [f64; BANDS] {
        let run = run_of_scattering(inside, self.blackness);
        let by_class = || by_class(self.strength, self.voids, inside);
        let level = match self.coats_to_hide.map(|coats| (coats, coats.scattering(inside, &run, sheen))) {
            None => by_class(),
            Some((coats, least)) if coats.is_a_bound() => by_class().max(least),
            Some((_, s)) => s,
        };
        run.map(|run| level * run)
    }
}

fn seen(inside: &Reflectance) -> impl Iterator<Item = f64> {
    let seen = (0..BANDS).filter(|i| SEEN.contains(&wavelength(*i)));
    seen.map(|i| k_over_s(inside.bands()[i]))
}

/// Mean K/S of the bands that are seen.
fn mean(inside: &Reflectance) -> f64 {
    seen(inside).sum::<f64>() / seen(inside).count() as f64
}

/// Share of white in what a paint could contain, from its masstone below the surface: 1 for a white, 0 for a deep base.
pub fn white_share(inside: &Reflectance) -> f64 {
    HALF_WHITE / (HALF_WHITE + seen(inside).fold(0.0, f64::max))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_deeper_a_paint_the_less_it_scatters(r in 0.01..0.95f64, less in 0.1..0.99f64) {
            let (pale, deep) = (Reflectance::grey(r), Reflectance::grey(r * less));
            prop_assert!(by_class(1.0, 0.0, &deep) < by_class(1.0, 0.0, &pale));
            let k = by_class(1.0, 0.0, &deep) * k_over_s(deep.bands()[0]);
            prop_assert!(k < MOST_K && k >= by_class(1.0, 0.0, &pale) * k_over_s(pale.bands()[0]));
        }
    }

    #[test]
    fn a_white_has_the_strength_of_its_class() {
        let white = Reflectance::grey(0.95);
        assert!((by_class(0.8, 0.0, &white) / house_white_scattering() / 0.8 - 1.0).abs() < 0.01);
    }
}
