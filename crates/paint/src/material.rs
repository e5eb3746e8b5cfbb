//! A wet material, ready to be mixed or brushed: its K and S, and the surface it dries to.

use warm_blend_spectral::{BANDS, Lab, Reflectance, Xyz};

use crate::hiding::{COAT, chart_white};
use crate::surface::{K1, K2};
use crate::{CoatsToHide, FilmState, Microns, Optics, Seen, SurfaceReflection, Undersurface};

/// A paint, a medium or a mix of them.
#[derive(Debug, Clone, PartialEq)]
pub struct Material {
    /// K and S of the film when dry and unsealed, per mm of wet film.
    pub optics: Optics,
    /// The surface it dries to, unsealed.
    pub sheen: SurfaceReflection,
    /// Share of the wet volume that remains in the dry film, 0..=1; water does not.
    pub stays: f64,
    /// φ: the factor, less 1, by which air in the dry, unsealed film raises its scattering; 0 for a closed film.
    pub voids: f64,
    /// Additional scattering of the wet film, 1/mm: a water-based binder is milky until it dries.
    pub milk: f64,
    /// Share of the area covered by flakes, 0..=1. They glint at the mirror angle, which a flat colour cannot show.
    pub lustre: f64,
}

impl Material {
    /// A closed film without air, milkiness or flakes, of which nothing evaporates.
    pub fn closed(optics: Optics, sheen: SurfaceReflection) -> Self {
        Self { optics, sheen, stays: 1.0, voids: 0.0, milk: 0.0, lustre: 0.0 }
    }

    /// Reflectance at the mirror angle: flakes and the paint between them, weighted by area. A flake mirrors the colour
    /// of the paint at its brightest†.
    pub fn specular_reflectance(&self) -> Reflectance {
        const MIRROR: f64 = 0.92;
        let face = self.swatch_reflectance();
        let brightest = face.bands().iter().copied().fold(f64::MIN_POSITIVE, f64::max);
        Reflectance::from_fn(|i| {
            let r = face.bands()[i];
            (1.0 - self.lustre) * r + self.lustre * MIRROR * r / brightest
        })
    }

    /// Reflectance of the dry, unsealed material too thick for any ground to show.
    pub fn masstone(&self) -> Reflectance {
        let (k, s) = (self.optics.k(), self.optics.s());
        let surface = self.sheen.alpha() * K1;
        Reflectance::from_fn(|i| {
            // Saunderson's surface over R∞ = S/(K + S + √(K(K + 2S))), drawn into one division.
            let below = (1.0 - K2) * s[i] + k[i] + (k[i] * (k[i] + 2.0 * s[i])).sqrt();
            surface + (1.0 - K1) * (1.0 - K2) * s[i] / below.max(f64::MIN_POSITIVE)
        })
    }

    /// Reflectance of a film of wet thickness `x` over a ground.
    pub fn film(&self, x: Microns, ground: &Undersurface) -> Reflectance {
        self.sheen.seen(&self.optics.over(x, ground))
    }

    /// Number of brushed coats until black and white no longer show; `None` for a glaze.
    pub fn coats_to_hide(&self) -> Option<CoatsToHide> {
        CoatsToHide::of(&self.optics, self.sheen)
    }

    /// True if it hides within twenty coats.
    pub fn hides(&self) -> bool {
        CoatsToHide::are_enough(&self.optics, self.sheen)
    }

    /// The one flat colour that represents it: the masstone if it hides within twenty coats; otherwise one coat over the
    /// white of a hiding chart, because nobody sees a clear medium or a glaze in a thick layer.
    pub fn swatch_reflectance(&self) -> Reflectance {
        self.swatch_reflectance_if(self.hides())
    }

    /// [`Material::swatch_reflectance`] of a material that is known to hide or not to hide.
    pub fn swatch_reflectance_if(&self, hides: bool) -> Reflectance {
        if hides { self.masstone() } else { self.film(Microns::of(COAT), chart_white()) }
    }

    /// The same film in another state, as a material of its own.
    ///
    /// In a wet or sealed film the air is filled and no longer scatters: S falls to S/(1 + φ), which deepens a porous
    /// paint. A wet surface is glossy and its binder milky. A seal covers a duller surface with its own.
    pub fn in_state(&self, state: FilmState) -> Self {
        let filled = |milk| self.optics.scattering(1.0 / (1.0 + self.voids), milk);
        match state {
            FilmState::Dry => self.clone(),
            FilmState::Wet => Self {
                stays: self.stays,
                lustre: self.lustre,
                ..Self::closed(filled(self.milk), SurfaceReflection::new(0.0))
            },
            FilmState::Sealed | FilmState::Buffed => {
                let seal = state.seal().unwrap_or(1.0);
                let sheen = SurfaceReflection::new(self.sheen.alpha().min(seal));
                Self { stays: self.stays, lustre: self.lustre, ..Self::closed(filled(0.0), sheen) }
            }
        }
    }

    /// The same colour with e^`ln` times the tinting strength: that much more of its pigments in the same volume.
    pub fn stronger(&self, ln: f64) -> Self {
        let times = |of: &[f64; BANDS]| of.map(|v| v * ln.exp());
        Self { optics: Optics::new(times(self.optics.k()), times(self.optics.s())), ..self.clone() }
    }

    /// L\*a\*b\* of the masstone in a light.
    pub fn seen_lab(&self, light: warm_blend_spectral::Light) -> Lab {
        Lab::of(Xyz::of(&self.masstone(), light), light.white())
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

    proptest! {
        #[test]
        fn one_division_or_two_steps_are_the_same(k in 1e-4..500.0f64, s in 1e-4..500.0f64, alpha in 0.0..1.0f64) {
            let optics = Optics::new([k; BANDS], [s; BANDS]);
            let sheen = SurfaceReflection::new(alpha);
            let r = s / (k + s + (k * (k + 2.0 * s)).sqrt());
            let material = Material::closed(optics, sheen);
            let two_steps = sheen.seen(&Undersurface::diffuse(&Reflectance::grey(r))).bands()[7];
            prop_assert!((material.masstone().bands()[7] - two_steps).abs() < 1e-12);
        }
    }
}
