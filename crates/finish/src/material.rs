//! A wet material, ready to be mixed or brushed: its K and S, and the surface it dries to.

use warm_blend_spectral::Reflectance;

use crate::film::Optics;
use crate::hiding::{COAT, chart_white};
use crate::surface::{K1, K2, Sheen};
use crate::{CoatsToHide, Microns, Seen};

/// A paint, a medium or a mix of them.
#[derive(Debug, Clone, PartialEq)]
pub struct Material {
    /// K and S per mm of wet film.
    pub optics: Optics,
    /// The surface it dries to, unsealed.
    pub sheen: Sheen,
    /// Share of the wet volume that stays and makes the surface, 0..=1: water leaves.
    pub stays: f64,
}

impl Material {
    /// Dry, unsealed and thick: the reflectance that is seen where nothing beneath shows.
    pub fn masstone(&self) -> Reflectance {
        let (k, s) = (self.optics.k(), self.optics.s());
        let surface = self.sheen.alpha() * K1;
        Reflectance::from_fn(|i| {
            // Saunderson's surface over R∞ = S/(K + S + √(K(K + 2S))), drawn into one division.
            let below = (1.0 - K2) * s[i] + k[i] + (k[i] * (k[i] + 2.0 * s[i])).sqrt();
            surface + (1.0 - K1) * (1.0 - K2) * s[i] / below.max(f64::MIN_POSITIVE)
        })
    }

    /// What is seen of a film of wet thickness `x` over a ground that lies below the surface.
    pub fn film(&self, x: Microns, ground: &Reflectance) -> Reflectance {
        self.sheen.seen(&self.optics.over(x, ground))
    }

    /// The one flat colour that stands for it: the masstone of what hides within twenty coats, and of a clear medium or a
    /// thin glaze one coat over the white of a hiding chart, because nobody ever sees those thick.
    pub fn face(&self) -> Reflectance {
        match CoatsToHide::of(self) {
            Some(_) => self.masstone(),
            None => self.film(Microns::of(COAT), chart_white()),
        }
    }

    /// The masstone in a light.
    pub fn seen(&self, light: warm_blend_spectral::Light) -> Seen {
        Seen::of(&self.masstone(), light)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::BANDS;

    proptest! {
        #[test]
        fn one_division_or_two_steps_are_the_same(k in 1e-4..500.0f64, s in 1e-4..500.0f64, alpha in 0.0..1.0f64) {
            let optics = Optics::new([k; BANDS], [s; BANDS]);
            let sheen = Sheen::new(alpha);
            let r = s / (k + s + (k * (k + 2.0 * s)).sqrt());
            let material = Material { optics, sheen, stays: 1.0 };
            let two_steps = sheen.seen(&Reflectance::grey(r)).bands()[7];
            prop_assert!((material.masstone().bands()[7] - two_steps).abs() < 1e-12);
        }
    }
}
