//! The seven lights in which a piece is judged.
//!
//! | light | standard | why it is here |
//! |---|---|---|
//! | [`Light::Daylight`] | D65 | average daylight; what a screen's white is |
//! | [`Light::Sun`] | D50 | direct sun and the print trade |
//! | [`Light::NorthShade`] | D75 | a north window, a shaded porch |
//! | [`Light::Bulb`] | A | incandescent and halogen, candle-like evenings |
//! | [`Light::WarmLed`] | LED-B1 | the warm lamps of most living rooms |
//! | [`Light::NeutralLed`] | LED-B3 | offices and kitchens |
//! | [`Light::ShopTube`] | FL11 | three-band tube: spiky, the one that surprises |
//!
//! All of CIE 015:2018 with the CIE 1931 2° observer, as weighting tables in the manner of ASTM E308: the weights
//! of 1 or 5 nm data are folded down onto the 36 bands and the ends are included. Sampling a spiky tube every
//! 10 nm instead would cost about one unit of ΔE00.

mod weights;

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

use crate::{BANDS, Reflectance, Xyz};

/// A light in which colours are viewed.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Hash,
    Default,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Light {
    /// CIE D65.
    #[default]
    Daylight,
    /// CIE D50.
    Sun,
    /// CIE D75.
    NorthShade,
    /// CIE A.
    Bulb,
    /// CIE LED-B1.
    WarmLed,
    /// CIE LED-B3.
    NeutralLed,
    /// CIE FL11.
    ShopTube,
}

impl Light {
    /// All seven lights, in the order in which they are offered.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Short identifier, as used in addresses and files: `north-shade`.
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// What a painter calls it: `North shade`.
    pub const fn name(self) -> &'static str {
        match self {
            Light::Daylight => "Daylight",
            Light::Sun => "Sun",
            Light::NorthShade => "North shade",
            Light::Bulb => "Bulb",
            Light::WarmLed => "Warm LED",
            Light::NeutralLed => "Neutral LED",
            Light::ShopTube => "Shop tube",
        }
    }

    /// One-word name, for narrow places: `North`.
    pub const fn short_name(self) -> &'static str {
        match self {
            Light::Daylight => "Daylight",
            Light::Sun => "Sun",
            Light::NorthShade => "North",
            Light::Bulb => "Bulb",
            Light::WarmLed => "Warm",
            Light::NeutralLed => "Neutral",
            Light::ShopTube => "Tube",
        }
    }

    /// The CIE name of its spectrum: `D75`.
    pub const fn standard(self) -> &'static str {
        match self {
            Light::Daylight => "D65",
            Light::Sun => "D50",
            Light::NorthShade => "D75",
            Light::Bulb => "A",
            Light::WarmLed => "LED-B1",
            Light::NeutralLed => "LED-B3",
            Light::ShopTube => "FL11",
        }
    }

    /// XYZ of a perfect white in this light, Y = 1.
    pub const fn white(self) -> Xyz {
        TABLES[self as usize].white
    }

    /// Weighting table: three rows (X, Y, Z) of 36 bands, no unit; each row adds up to that value of the white.
    pub const fn weights(self) -> &'static [[f64; BANDS]; 3] {
        &TABLES[self as usize].rows
    }
}

/// A weighting table turned so that each row can be summed in one sweep, with its white.
struct Table {
    rows: [[f64; BANDS]; 3],
    white: Xyz,
}

static TABLES: [Table; 7] = [
    Table::turned(&weights::D65),
    Table::turned(&weights::D50),
    Table::turned(&weights::D75),
    Table::turned(&weights::A),
    Table::turned(&weights::LED_B1),
    Table::turned(&weights::LED_B3),
    Table::turned(&weights::FL11),
];

impl Table {
    /// Computed when the program is compiled, hence the plain loops.
    const fn turned(by_band: &[[f64; 3]; BANDS]) -> Self {
        let mut rows = [[0.0; BANDS]; 3];
        let mut white = [0.0; 3];
        let mut c = 0;
        while c < 3 {
            let mut i = 0;
            while i < BANDS {
                rows[c][i] = by_band[i][c];
                white[c] += by_band[i][c];
                i += 1;
            }
            c += 1;
        }
        Self { rows, white: Xyz { x: white[0], y: white[1], z: white[2] } }
    }
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

#[cfg(test)]
mod tests {
    use super::*;

    /// White points of CIE 015:2018: D65, D50 and A in the text and table 5 notes; FL11 in table 10; LED-B1 and
    /// LED-B3 in table 12. D75 as in colour-science 0.4.7. Chromaticities x, y are published to 4 or 5 figures.
    #[test]
    fn whites_have_the_published_chromaticity() {
        for (light, x, y) in [
            (Light::Daylight, 0.31272, 0.32903),
            (Light::Sun, 0.34567, 0.35851),
            (Light::NorthShade, 0.29903, 0.31488),
            (Light::Bulb, 0.44758, 0.40745),
            (Light::WarmLed, 0.4560, 0.4078),
            (Light::NeutralLed, 0.3756, 0.3723),
            (Light::ShopTube, 0.3805, 0.3769),
        ] {
            let white = light.white();
            let sum = white.x + white.y + white.z;
            assert!((white.y - 1.0).abs() < 1e-8, "{light:?}: Y {}", white.y);
            assert!((white.x / sum - x).abs() < 6e-5, "{light:?}: x {}", white.x / sum);
            assert!((white.y / sum - y).abs() < 6e-5, "{light:?}: y {}", white.y / sum);
        }
    }

    #[test]
    fn every_light_is_found_by_its_id_and_no_other() {
        for light in Light::ALL {
            assert_eq!(serde_json::to_value(light).unwrap(), light.id());
            assert_eq!(serde_json::from_value::<Light>(light.id().into()).unwrap(), light);
        }
        let unknown = serde_json::from_value::<Light>("moonlight".into()).unwrap_err().to_string();
        assert!(unknown.contains("north-shade"), "{unknown}");
    }
}
