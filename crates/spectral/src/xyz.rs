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
        let [wx, wy, wz] = light.weights();
        let r = surface.bands();
        let [x, y, z] = [dot(wx, r), dot(wy, r), dot(wz, r)];
        Self { x, y, z }
    }

    pub(crate) const fn as_array(self) -> [f64; 3] {
        [self.x, self.y, self.z]
    }

    pub(crate) const fn from_array([x, y, z]: [f64; 3]) -> Self {
        Self { x, y, z }
    }
}

/// Inner product over the bands, folded by thirds: loops without a running sum are worked on several bands at a time.
fn dot(a: &[f64; BANDS], b: &[f64; BANDS]) -> f64 {
    let mut products = [0.0; BANDS];
    for i in 0..BANDS {
        products[i] = a[i] * b[i];
    }
    let mut thirds = [0.0; BANDS / 3];
    for i in 0..BANDS / 3 {
        thirds[i] = products[i] + products[i + BANDS / 3] + products[i + 2 * BANDS / 3];
    }
    let mut ninths = [0.0; BANDS / 9];
    for i in 0..BANDS / 9 {
        ninths[i] = thirds[i] + thirds[i + BANDS / 9] + thirds[i + 2 * BANDS / 9];
    }
    ninths.iter().sum()
}
