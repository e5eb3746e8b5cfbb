//! The colour of a mix in a fraction of the time, for searches over thousands of ratios.
//!
//! | way | keeps | precision | time |
//! |---|---|---|---|
//! | [`mix`](crate::mix), [`Material::masstone`], [`Xyz::of`] | material, curve | double | 1 |
//! | [`QuickMixer::colour`] | the colour only | single: within 0.001 ΔE00 | about a quarter |
//!
//! The same equations in one sweep over the bands, four at a time, in single precision: what is slow in a mix is a square
//! root and a division per band, and those are twice as fast there. What a search finds is predicted again in full.

use warm_blend_spectral::{BANDS, Light, Xyz};
use wide::f32x4;

use crate::surface::{K1, K2};
use crate::{Material, NothingToMix, Parts};

const FOURS: usize = BANDS / 4;

/// A material prepared for [`QuickMixer`].
#[derive(Debug, Clone)]
pub struct QuickMaterial {
    /// K and S by fours of bands, 1/mm.
    optics: [(f32x4, f32x4); FOURS],
    stays: f64,
    /// α times the share that stays.
    surface: f64,
    /// α where nothing stays.
    wet_surface: f64,
}

/// A light prepared for many mixes.
#[derive(Debug, Clone)]
pub struct QuickMixer {
    /// Weights for X, Y and Z by fours of bands.
    weights: [[f32x4; 3]; FOURS],
    white: Xyz,
}

fn four(bands: &[f64; BANDS], i: usize) -> f32x4 {
    f32x4::new(std::array::from_fn(|lane| bands[4 * i + lane] as f32))
}

impl From<&Material> for QuickMaterial {
    fn from(material: &Material) -> Self {
        let (k, s) = (material.optics.k(), material.optics.s());
        Self {
            optics: std::array::from_fn(|i| (four(k, i), four(s, i))),
            stays: material.stays,
            surface: material.stays * material.sheen.alpha(),
            wet_surface: material.sheen.alpha(),
        }
    }
}

impl QuickMixer {
    /// For mixes seen in `light`.
    pub fn new(light: Light) -> Self {
        let rows = light.weights();
        let weights = std::array::from_fn(|i| std::array::from_fn(|c| four(&rows[c], i)));
        Self { weights, white: light.white() }
    }

    /// The dry, thick colour of a mix by parts: what [`Xyz::of`] says of the masstone of [`mix`](crate::mix).
    #[inline]
    pub fn colour(&self, components: &[(Parts, &QuickMaterial)]) -> Result<Xyz, NothingToMix> {
        let first = components.first().ok_or(NothingToMix)?.1;
        let (mut stays, mut surface) = (0.0, 0.0);
        // Only K/S counts in a thick film, so the parts need not be made shares of one.
        let mut optics = [(f32x4::ZERO, f32x4::ZERO); FOURS];
        for (parts, material) in components {
            stays += parts.value() * material.stays;
            surface += parts.value() * material.surface;
            let parts = f32x4::splat(parts.value() as f32);
            for (sum, more) in optics.iter_mut().zip(&material.optics) {
                sum.0 += more.0 * parts;
                sum.1 += more.1 * parts;
            }
        }
        let alpha = if stays > 0.0 { surface / stays } else { first.wet_surface };

        let mut sums = [f32x4::ZERO; 3];
        for ((k, s), weights) in optics.into_iter().zip(&self.weights) {
            // As in `Material::masstone`, but for the constants, which wait until after the sums.
            let below = s * f32x4::splat((1.0 - K2) as f32) + k + (k * (k + s + s)).sqrt();
            let inside = s / (below + f32x4::splat(f32::MIN_POSITIVE));
            for (sum, weight) in sums.iter_mut().zip(weights) {
                *sum += *weight * inside;
            }
        }
        let seen = |sum: f32x4, white: f64| {
            alpha * K1 * white + (1.0 - K1) * (1.0 - K2) * f64::from(sum.reduce_add())
        };
        let [x, y, z] = sums;
        let Xyz { x: white_x, y: white_y, z: white_z } = self.white;
        Ok(Xyz { x: seen(x, white_x), y: seen(y, white_y), z: seen(z, white_z) })
    }
}
