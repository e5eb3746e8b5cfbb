//! CIELAB.
//!
//! ```text
//! L* = 116 f(Y/Yn) − 16,  a* = 500 (f(X/Xn) − f(Y/Yn)),  b* = 200 (f(Y/Yn) − f(Z/Zn))
//! f(t) = ∛t above (6/29)³, else (841/108) t + 4/29
//! ```
//!
//! (ISO/CIE 11664-4.) Written out here rather than taken from a library for two reasons: the white is one of seven and
//! known only at run time, and every search for a mix calls this.

use palette::white_point::D65;

use crate::Xyz;

/// CIE 1976 L\*a\*b\* colour. The white it is relative to is not stored (ISO/CIE 11664-4).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lab {
    /// Lightness, 0 black to 100 white.
    pub l: f64,
    /// Green (−) to red (+).
    pub a: f64,
    /// Blue (−) to yellow (+).
    pub b: f64,
}

impl Lab {
    /// Lab of a colour relative to `white`. Defined for every finite colour; negative XYZ follow the linear part.
    pub fn of(colour: Xyz, white: Xyz) -> Self {
        let [x, y, z] = [colour.x / white.x, colour.y / white.y, colour.z / white.z].map(lab_f);
        Self { l: 116.0 * y - 16.0, a: 500.0 * (x - y), b: 200.0 * (y - z) }
    }

    /// XYZ of this Lab relative to `white`: the inverse of [`Lab::of`].
    pub fn to_xyz(self, white: Xyz) -> Xyz {
        let y = (self.l + 16.0) / 116.0;
        let [x, y, z] = [y + self.a / 500.0, y, y - self.b / 200.0].map(lab_f_inverse);
        Xyz { x: x * white.x, y: y * white.y, z: z * white.z }
    }

    /// Chroma C\*ab = √(a² + b²): distance from grey.
    pub fn chroma(self) -> f64 {
        self.a.hypot(self.b)
    }

    /// Hue angle h_ab in degrees, 0..360, from the red axis towards yellow; 0 for a grey.
    pub fn hue(self) -> f64 {
        self.b.atan2(self.a).to_degrees().rem_euclid(360.0)
    }

    /// A colour of the same lightness and hue with `share` of the chroma.
    pub fn with_chroma_scaled(self, share: f64) -> Self {
        Self { l: self.l, a: self.a * share, b: self.b * share }
    }

    pub(crate) fn to_palette(self) -> palette::Lab<D65, f64> {
        palette::Lab::new(self.l, self.a, self.b)
    }
}

/// Where the cube root gives way to a straight line: δ = 6/29.
const DELTA: f64 = 6.0 / 29.0;

/// f of CIELAB (CIE 15:2018, 8.2.1): a cube root, continued by a straight line for dark colours. `t` is X, Y or Z divided
/// by that of the white; any finite value is allowed.
pub fn lab_f(t: f64) -> f64 {
    if t > DELTA * DELTA * DELTA { cube_root(t) } else { t / (3.0 * DELTA * DELTA) + 4.0 / 29.0 }
}

/// Inverse of [`lab_f`]; negative for arguments below 4/29.
pub fn lab_f_inverse(f: f64) -> f64 {
    if f > DELTA { f * f * f } else { 3.0 * DELTA * DELTA * (f - 4.0 / 29.0) }
}

/// Derivative of [`lab_f`], which decreases with `t`.
pub fn lab_f_slope(t: f64) -> f64 {
    if t > DELTA * DELTA * DELTA { 1.0 / (3.0 * cube_root(t).powi(2)) } else { 1.0 / (3.0 * DELTA * DELTA) }
}

/// Cube root of a positive number: a guess from a third of the exponent, good to 4 %, then Halley's iteration
/// x ← x (x³ + 2t)/(2x³ + t), which triples the digits each time. Three times as fast as the system's.
fn cube_root(t: f64) -> f64 {
    /// Two thirds of the exponent's offset, which dividing the bits by three takes away.
    const OFFSET: u64 = 0x2a9f_7893_782d_a1ce;
    let mut x = f64::from_bits(t.to_bits() / 3 + OFFSET);
    for _ in 0..2 {
        let cube = x * x * x;
        x *= (cube + 2.0 * t) / (2.0 * cube + t);
    }
    x
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Light;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn there_and_back(l in 0.0..100.0, a in -120.0..120.0, b in -120.0..120.0, i in 0usize..7) {
            let white = Light::ALL[i].white();
            let lab = Lab { l, a, b };
            let back = Lab::of(lab.to_xyz(white), white);
            prop_assert!((back.l - l).abs() < 1e-9 && (back.a - a).abs() < 1e-9 && (back.b - b).abs() < 1e-9);
        }
    }

    proptest! {
        /// The slope is that of the function, on both sides of where it bends.
        #[test]
        fn the_slope_is_the_slope(t in 1e-4..1.2f64) {
            let h = 1e-7 * t;
            let by_difference = (lab_f(t + h) - lab_f(t - h)) / (2.0 * h);
            prop_assume!((t - DELTA.powi(3)).abs() > 1e-5);
            prop_assert!((lab_f_slope(t) / by_difference - 1.0).abs() < 1e-5);
        }

        #[test]
        fn the_cube_root_is_the_cube_root(t in 1e-4..1e4f64) {
            prop_assert!((cube_root(t) / t.cbrt() - 1.0).abs() < 1e-14);
        }

        /// palette 0.7, whose white is D65 by type.
        #[test]
        fn agrees_with_a_general_library(l in 0.0..100.0, a in -120.0..120.0, b in -120.0..120.0) {
            use palette::convert::FromColorUnclamped;
            let lab = Lab { l, a, b };
            let theirs = palette::Xyz::<D65, f64>::from_color_unclamped(lab.to_palette());
            let ours = lab.to_xyz(crate::screen::screen_white());
            prop_assert!((ours.x - theirs.x).abs() < 1e-9 && (ours.y - theirs.y).abs() < 1e-9 && (ours.z - theirs.z).abs() < 1e-9);
        }
    }

    #[test]
    fn white_is_one_hundred_in_every_light() {
        for light in Light::ALL {
            let lab = Lab::of(light.white(), light.white());
            assert!((lab.l - 100.0).abs() < 1e-7 && lab.chroma() < 1e-9);
        }
    }

    #[test]
    fn hue_runs_from_red_through_yellow() {
        let hue = |a, b| Lab { l: 50.0, a, b }.hue();
        assert_eq!([hue(1.0, 0.0), hue(0.0, 1.0), hue(-1.0, 0.0), hue(0.0, -1.0)], [0.0, 90.0, 180.0, 270.0]);
    }
}
