//! Colour differences in units of ΔE00, linearised.
//!
//! Near a colour CIEDE2000 is a metric, with weighting functions S_L, S_C and S_H and a stretched a′ (ISO/CIE 11664-6;
//! the small rotation term for blues is left out). A difference becomes a vector of three numbers whose length is ΔE00,
//! as least squares needs it.

use warm_blend_spectral::{BANDS, Lab, Light, Xyz, lab_f_slope};

/// Derivatives of three numbers by the reflectance of each band.
pub type Rows = [[f64; BANDS]; 3];

/// Metric at a colour, in the directions of lightness, chroma and hue.
#[derive(Debug, Clone, Copy)]
pub struct LocalMetric {
    rows: [[f64; 3]; 3],
}

impl LocalMetric {
    /// Metric at this colour.
    pub fn at(colour: Lab) -> Self {
        let seventh = colour.chroma().powi(7);
        let stretch = 1.5 - 0.5 * (seventh / (seventh + 25f64.powi(7))).sqrt();
        let (a, b) = (colour.a * stretch, colour.b);
        let chroma = a.hypot(b);
        let hue = b.atan2(a);
        let turned = |times: f64, by: f64| (times * hue - by.to_radians()).cos();
        let t = 1.0 - 0.17 * turned(1.0, 30.0) + 0.24 * turned(2.0, 0.0) + 0.32 * turned(3.0, -6.0)
            - 0.20 * turned(4.0, 63.0);
        let from_mid = (colour.l - 50.0).powi(2);
        let s_l = 1.0 + 0.015 * from_mid / (20.0 + from_mid).sqrt();
        let s_c = 1.0 + 0.045 * chroma;
        let s_h = 1.0 + 0.015 * chroma * t;
        let (sin, cos) = hue.sin_cos();
        Self {
            rows: [
                [1.0 / s_l, 0.0, 0.0],
                [0.0, cos * stretch / s_c, sin / s_c],
                [0.0, -sin * stretch / s_h, cos / s_h],
            ],
        }
    }

    /// Converts a small difference of L\*, a\*, b\* to units of ΔE00.
    pub fn weigh(&self, [l, a, b]: [f64; 3]) -> [f64; 3] {
        self.rows.map(|row| row[0] * l + row[1] * a + row[2] * b)
    }
}

/// Derivatives of a colour by the reflectance of each band, in the metric `eye`.
pub fn lab_jacobian(colour: Lab, eye: &LocalMetric, light: Light) -> Rows {
    let white = light.white();
    let Xyz { x, y, z } = colour.to_xyz(white);
    let slope =
        [(x, white.x), (y, white.y), (z, white.z)].map(|(seen, white)| lab_f_slope(seen / white) / white);
    let weights = light.weights();
    let mut rows = [[0.0; BANDS]; 3];
    for i in 0..BANDS {
        let f: [f64; 3] = std::array::from_fn(|c| slope[c] * weights[c][i]);
        let moved = eye.weigh([116.0 * f[1], 500.0 * (f[0] - f[1]), 200.0 * (f[1] - f[2])]);
        for (row, value) in rows.iter_mut().zip(moved) {
            row[i] = value;
        }
    }
    rows
}

/// Weight of a band for the eye in daylight: the root mean square of its three weights.
pub fn visible(i: usize) -> f64 {
    let [x, y, z] = Light::Daylight.weights();
    (x[i] * x[i] + y[i] * y[i] + z[i] * z[i]).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::{Reflectance, difference};

    proptest! {
        /// CIEDE2000 itself, but for blues, where its rotation term is left out here.
        #[test]
        fn small_differences_have_the_length_of_ciede2000(l in 10.0..95.0f64, a in -40.0..60.0f64, b in -5.0..60.0f64, step in proptest::array::uniform3(-0.05..0.05f64)) {
            let colour = Lab { l, a, b };
            let other = Lab { l: l + step[0], a: a + step[1], b: b + step[2] };
            let truth = difference(colour, other).value();
            let length = LocalMetric::at(colour).weigh(step).iter().map(|v| v * v).sum::<f64>().sqrt();
            prop_assert!((length - truth).abs() < 0.03 * truth + 1e-6, "{} against {}", length, truth);
        }

        #[test]
        fn bands_move_the_colour_as_they_should(r in 0.05..0.9f64, at in 3usize..30) {
            let lab = |by: f64| {
                let curve = Reflectance::from_fn(|i| r + if i == at { by } else { 0.0 });
                Lab::of(Xyz::of(&curve, Light::Bulb), Light::Bulb.white())
            };
            let eye = LocalMetric::at(lab(0.0));
            let rows = lab_jacobian(lab(0.0), &eye, Light::Bulb);
            let (less, more) = (lab(-1e-5), lab(1e-5));
            let moved = eye.weigh([more.l - less.l, more.a - less.a, more.b - less.b]);
            for (row, moved) in rows.iter().zip(moved) {
                prop_assert!((row[at] * 2e-5 - moved).abs() < 1e-3 * moved.abs() + 1e-9);
            }
        }
    }
}
