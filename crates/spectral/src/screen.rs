//! sRGB: reading hex codes, and computing what a screen must show.

use std::fmt;
use std::str::FromStr;

use palette::convert::FromColorUnclamped;
use palette::white_point::{D65, WhitePoint};

use crate::{Degree, Lab, Light, Xyz, adapt};

/// An 8-bit sRGB colour (IEC 61966-2-1).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Srgb {
    /// Red, 0–255.
    pub red: u8,
    /// Green, 0–255.
    pub green: u8,
    /// Blue, 0–255.
    pub blue: u8,
}

/// What a screen shows for a colour, and whether the screen can show it truly.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct OnScreen {
    /// The nearest displayable colour: see [`displayable`].
    pub srgb: Srgb,
    /// False where the colour is more vivid than sRGB can show.
    pub in_gamut: bool,
}

/// A text that is not an opaque hex colour.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum HexError {
    /// Only spaces or a lone `#`.
    #[error("the hex code is empty: write six digits, such as #b08d57")]
    Empty,
    /// A character that is not a hex digit.
    #[error("“{0}” is not a hex digit: use 0–9 and a–f, such as #b08d57")]
    NotADigit(char),
    /// The number of digits is not 3, 6 or 8.
    #[error("a hex code has 3, 6 or 8 digits, not {0}: write six, such as #b08d57")]
    WrongLength(usize),
    /// Eight digits whose last two say it is see-through.
    #[error(
        "this code is see-through (its last two digits are {0:02x}, not ff): a chip is opaque, leave those two off"
    )]
    SeeThrough(u8),
}

impl Srgb {
    /// Makes a colour of its three channels.
    pub const fn new(red: u8, green: u8, blue: u8) -> Self {
        Self { red, green, blue }
    }

    /// XYZ on a D65 screen, where white has Y = 1 and equals the white of [`Light::Daylight`].
    pub fn to_xyz(self) -> Xyz {
        let linear = palette::Srgb::new(self.red, self.green, self.blue).into_format::<f64>().into_linear();
        from_linear_srgb([linear.red, linear.green, linear.blue])
    }

    /// Lab in daylight.
    pub fn to_lab(self) -> Lab {
        Lab::of(self.to_xyz(), Light::Daylight.white())
    }
}

/// XYZ of linear sRGB channels (IEC 61966-2-1) relative to the white of [`Light::Daylight`]; 1 is full, and larger values
/// are allowed.
pub fn from_linear_srgb([red, green, blue]: [f64; 3]) -> Xyz {
    let xyz = palette::Xyz::<D65, f64>::from_color_unclamped(palette::LinSrgb::new(red, green, blue));
    adapt(Xyz { x: xyz.x, y: xyz.y, z: xyz.z }, screen_white(), Light::Daylight.white(), Degree::FULL)
}

/// Linear sRGB channels that look as `colour` does in `light` to an eye adapted by `degree`; 1 is full, and colours
/// outside the screen's gamut lie outside 0..=1. Linear in `colour`, so the mean of colours is the mean of their
/// channels.
pub fn linear_on_screen(colour: Xyz, light: Light, degree: Degree) -> [f64; 3] {
    // The screen's white and the daylight table's differ in the fourth decimal: between those two the eye is
    // always settled, so that a white in daylight is #ffffff whatever the degree.
    let in_daylight = adapt(colour, light.white(), Light::Daylight.white(), degree);
    let xyz = adapt(in_daylight, Light::Daylight.white(), screen_white(), Degree::FULL);
    let linear =
        palette::LinSrgb::<f64>::from_color_unclamped(palette::Xyz::<D65, f64>::new(xyz.x, xyz.y, xyz.z));
    [linear.red, linear.green, linear.blue]
}

/// The nearest linear sRGB channels in 0..=1. Colours that are too vivid lose chroma at constant lightness and hue in
/// Oklab (B. Ottosson, 2020), as CSS Color 4 maps them: clipping channels would turn a deep blue violet. Continuous, so
/// that no edge appears in a gradient.
pub fn displayable(linear: [f64; 3]) -> [f64; 3] {
    const STEPS: usize = 24;
    let shown = |linear: &[f64; 3]| linear.iter().all(|c| (0.0..=1.0).contains(c));
    if shown(&linear) {
        return linear;
    }
    let [red, green, blue] = linear;
    let vivid = palette::Oklab::<f64>::from_color_unclamped(palette::LinSrgb::new(red, green, blue));
    let lightness = vivid.l.clamp(0.0, 1.0);
    let at = |chroma: f64| {
        let duller = palette::Oklab::new(lightness, chroma * vivid.a, chroma * vivid.b);
        let linear = palette::LinSrgb::<f64>::from_color_unclamped(duller);
        [linear.red, linear.green, linear.blue]
    };
    // How much of its chroma can be shown, by bisection.
    let (mut can, mut cannot) = (0.0, 1.0);
    for _ in 0..STEPS {
        let middle = 0.5 * (can + cannot);
        if shown(&at(middle)) { can = middle } else { cannot = middle }
    }
    at(can).map(|c| c.clamp(0.0, 1.0))
}

/// What a screen must show to look as `colour` does in `light` to an eye adapted by `degree`.
pub fn on_screen(colour: Xyz, light: Light, degree: Degree) -> OnScreen {
    let linear = linear_on_screen(colour, light, degree);
    // Half a step of an 8-bit channel at the dark end, where steps are widest in relation.
    let slack = 0.5 / 255.0 / 12.92;
    let in_gamut = linear.iter().all(|c| (-slack..=1.0 + 10.0 * slack).contains(c));
    let [red, green, blue] = displayable(linear);
    let [red, green, blue]: [u8; 3] =
        palette::Srgb::<f64>::from_linear(palette::LinSrgb::new(red, green, blue)).into_format().into();
    OnScreen { srgb: Srgb { red, green, blue }, in_gamut }
}

/// The white that `palette` assumes for sRGB and D65.
pub(crate) fn screen_white() -> Xyz {
    let white: palette::Xyz<_, f64> = D65::get_xyz();
    Xyz { x: white.x, y: white.y, z: white.z }
}

impl fmt::Display for Srgb {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "#{:02x}{:02x}{:02x}", self.red, self.green, self.blue)
    }
}

impl FromStr for Srgb {
    type Err = HexError;

    /// Reads 3, 6 or 8 hex digits, with or without `#`, in either case, with spaces around them or between
    /// pairs; eight digits only if the last two are `ff` (opaque).
    fn from_str(text: &str) -> Result<Self, HexError> {
        let trimmed = text.trim();
        let digits: Vec<char> =
            trimmed.strip_prefix('#').unwrap_or(trimmed).chars().filter(|c| !c.is_whitespace()).collect();
        if digits.is_empty() {
            return Err(HexError::Empty);
        }
        let values: Vec<u8> = digits
            .iter()
            .map(|c| c.to_digit(16).map(|d| d as u8).ok_or(HexError::NotADigit(*c)))
            .collect::<Result<_, _>>()?;
        let pair = |i: usize| values[i] * 16 + values[i + 1];
        match values.len() {
            3 => Ok(Srgb::new(values[0] * 17, values[1] * 17, values[2] * 17)),
            6 => Ok(Srgb::new(pair(0), pair(2), pair(4))),
            8 if pair(6) == 0xff => Ok(Srgb::new(pair(0), pair(2), pair(4))),
            8 => Err(HexError::SeeThrough(pair(6))),
            n => Err(HexError::WrongLength(n)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Lab (D65) of the sRGB corners: values widely published to two decimals, here as colour-science 0.4.7 gives
    /// them (`colour.XYZ_to_Lab(colour.sRGB_to_XYZ(rgb), D65)`), within 0.02 for its slightly different white.
    #[test]
    fn corners_have_their_published_lab() {
        for (hex, l, a, b) in [
            ("#ff0000", 53.24, 80.09, 67.20),
            ("#00ff00", 87.73, -86.18, 83.18),
            ("#0000ff", 32.30, 79.19, -107.86),
            ("#ffffff", 100.0, 0.0, 0.0),
            ("#808080", 53.59, 0.0, 0.0),
            ("#000000", 0.0, 0.0, 0.0),
        ] {
            let lab = hex.parse::<Srgb>().unwrap().to_lab();
            assert!(
                (lab.l - l).abs() < 0.02 && (lab.a - a).abs() < 0.02 && (lab.b - b).abs() < 0.02,
                "{hex}: {lab:?}"
            );
        }
    }

    proptest! {
        #[test]
        fn every_code_survives_the_way_to_xyz_and_back(red: u8, green: u8, blue: u8, degree in 0.0..400.0) {
            let srgb = Srgb { red, green, blue };
            let shown = on_screen(srgb.to_xyz(), Light::Daylight, Degree::under(degree));
            prop_assert_eq!(shown, OnScreen { srgb, in_gamut: true });
            prop_assert_eq!(srgb.to_string().parse(), Ok(srgb));
        }

        #[test]
        fn any_text_is_a_colour_or_a_message(text in "\\PC{0,12}") {
            if let Err(error) = text.parse::<Srgb>() {
                prop_assert!(error.to_string().len() > 20);
            }
        }
    }

    #[test]
    fn reads_the_forms_people_write() {
        let tan = Ok(Srgb::new(0xb0, 0x8d, 0x57));
        for text in ["#b08d57", "b08d57", " #B08D57 ", "b0 8d 57", "#b08d57ff", "B08D57FF"] {
            assert_eq!(text.parse(), tan, "{text}");
        }
        assert_eq!("#fa0".parse(), Ok(Srgb::new(0xff, 0xaa, 0)));
        assert_eq!("#".parse::<Srgb>(), Err(HexError::Empty));
        assert_eq!("#b08d5".parse::<Srgb>(), Err(HexError::WrongLength(5)));
        assert_eq!("#b08d5780".parse::<Srgb>(), Err(HexError::SeeThrough(0x80)));
        assert_eq!("oat wh".parse::<Srgb>(), Err(HexError::NotADigit('o')));
    }

    fn oklab([red, green, blue]: [f64; 3]) -> palette::Oklab<f64> {
        palette::Oklab::from_color_unclamped(palette::LinSrgb::new(red, green, blue))
    }

    proptest! {
        /// What cannot be shown keeps its lightness and its hue, what can be shown is left alone, and no edge lies between.
        #[test]
        fn what_is_too_vivid_is_shown_duller(linear in proptest::array::uniform3(-0.3..1.3f64), step in proptest::array::uniform3(-1e-3..1e-3f64)) {
            let shown = displayable(linear);
            prop_assert!(shown.iter().all(|c| (0.0..=1.0).contains(c)));
            prop_assert!(shown == linear || linear.iter().any(|c| !(0.0..=1.0).contains(c)));
            let (was, is) = (oklab(linear), oklab(shown));
            prop_assert!((is.l - was.l.clamp(0.0, 1.0)).abs() < 1e-3, "{:?} {:?}", was, is);
            prop_assert!((was.a * is.b - was.b * is.a).abs() < 1e-3 && was.a * is.a + was.b * is.b > -1e-3, "{:?} {:?}", was, is);
            let beside = oklab(displayable(std::array::from_fn(|i| linear[i] + step[i])));
            let near = oklab(std::array::from_fn(|i| linear[i] + step[i]));
            let apart = |one: palette::Oklab<f64>, other: palette::Oklab<f64>| (one.l - other.l).hypot(one.a - other.a).hypot(one.b - other.b);
            prop_assert!(apart(is, beside) < 12.0 * apart(was, near) + 2e-3, "{} {}", apart(is, beside), apart(was, near));
        }
    }

    /// Cut off channel by channel this navy would be shown violet: its hue, 266 degrees, stays.
    #[test]
    fn a_deep_blue_stays_blue() {
        let navy = [-0.04, 0.01, 0.35];
        let hue = |lab: palette::Oklab<f64>| lab.b.atan2(lab.a).to_degrees();
        assert!((hue(oklab(navy)) - hue(oklab(displayable(navy)))).abs() < 0.5);
        assert!((hue(oklab(navy)) - hue(oklab(navy.map(|c| c.max(0.0))))).abs() > 3.0);
    }

    #[test]
    fn more_vivid_than_the_screen_is_flagged() {
        let vivid = Lab { l: 60.0, a: -90.0, b: 10.0 }.to_xyz(Light::Daylight.white());
        assert!(!on_screen(vivid, Light::Daylight, Degree::FULL).in_gamut);
    }
}
