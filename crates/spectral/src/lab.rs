//! CIELAB.

use palette::convert::FromColorUnclamped;
use palette::white_point::D65;

use crate::Xyz;
use crate::screen::screen_white;

/// CIE 1976 L\*a\*b\* relative to a white that goes with it (ISO/CIE 11664-4).
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
    /// Lab of a colour as seen beside `white`. Total for any finite colour; negative XYZ follow the linear part.
    pub fn of(colour: Xyz, white: Xyz) -> Self {
        // The curve is palette's; its white is fixed by type, so the colour is scaled to it first.
        let d65 = screen_white();
        let lab = palette::Lab::from_color_unclamped(palette::Xyz::<D65, f64>::new(
            colour.x / white.x * d65.x,
            colour.y / white.y * d65.y,
            colour.z / white.z * d65.z,
        ));
        Self { l: lab.l, a: lab.a, b: lab.b }
    }

    /// The XYZ of this Lab beside `white`: the inverse of [`Lab::of`].
    pub fn to_xyz(self, white: Xyz) -> Xyz {
        let d65 = screen_white();
        let xyz = palette::Xyz::<D65, f64>::from_color_unclamped(self.to_palette());
        Xyz { x: xyz.x / d65.x * white.x, y: xyz.y / d65.y * white.y, z: xyz.z / d65.z * white.z }
    }

    /// Chroma C\*ab = √(a² + b²): distance from grey.
    pub fn chroma(self) -> f64 {
        self.a.hypot(self.b)
    }

    /// Hue angle h_ab in degrees, 0..360 from the red axis through yellow; 0 for a grey.
    pub fn hue(self) -> f64 {
        self.b.atan2(self.a).to_degrees().rem_euclid(360.0)
    }

    /// The same lightness and hue at `share` of the chroma.
    pub fn with_chroma_scaled(self, share: f64) -> Self {
        Self { l: self.l, a: self.a * share, b: self.b * share }
    }

    pub(crate) fn to_palette(self) -> palette::Lab<D65, f64> {
        palette::Lab::new(self.l, self.a, self.b)
    }
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

    #[test]
    fn white_is_one_hundred_in_every_light() {
        for light in Light::ALL {
            let lab = Lab::of(light.white(), light.white());
            assert!((lab.l - 100.0).abs() < 1e-9 && lab.chroma() < 1e-9);
        }
    }

    #[test]
    fn hue_runs_from_red_through_yellow() {
        let hue = |a, b| Lab { l: 50.0, a, b }.hue();
        assert_eq!([hue(1.0, 0.0), hue(0.0, 1.0), hue(-1.0, 0.0), hue(0.0, -1.0)], [0.0, 90.0, 180.0, 270.0]);
    }
}
