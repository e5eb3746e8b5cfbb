//! Tristimulus values.

use crate::{BANDS, Light, Reflectance};

/// CIE 1931 XYZ, normalised so that the white of the light has Y = 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Xyz {
    /// X, no unit.
    pub x: f64,
    /// Y: luminance relative to white.
    pub y: f64,
    /// Z, no unit.
    pub z: f64,
}

impl Xyz {
    /// The colour of a surface in a light: X = Σ Wx(λ) R(λ), and so on (ASTM E308, eq. 5).
    ///
    /// ```
    /// use warm_blend_spectral::{Light, Reflectance, Xyz};
    /// let half = Xyz::of(&Reflectance::grey(0.5), Light::Bulb);
    /// assert!((half.y - 0.5).abs() < 1e-8);
    /// ```
    pub fn of(surface: &Reflectance, light: Light) -> Self {
        let [x, y, z] = light.rows().each_ref().map(|row| dot(row, surface.bands()));
        Self { x, y, z }
    }

    pub(crate) const fn as_array(self) -> [f64; 3] {
        [self.x, self.y, self.z]
    }

    pub(crate) const fn from_array([x, y, z]: [f64; 3]) -> Self {
        Self { x, y, z }
    }
}

/// Inner product in four independent sums, so that the processor need not wait for each addition.
fn dot(a: &[f64; BANDS], b: &[f64; BANDS]) -> f64 {
    let mut sums = [0.0; 4];
    for (a, b) in a.chunks_exact(4).zip(b.chunks_exact(4)) {
        for lane in 0..4 {
            sums[lane] += a[lane] * b[lane];
        }
    }
    (sums[0] + sums[1]) + (sums[2] + sums[3])
}
