//! Families of colour, as a painter sorts tins.

use strum::VariantArray as _;
use warm_blend_spectral::Lab;

/// A family of hues; the boundaries are common practice†.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, strum::IntoStaticStr, strum::VariantArray)]
#[strum(serialize_all = "kebab-case")]
pub enum HueFamily {
    /// Light, with hardly any chroma.
    White,
    /// Medium, with hardly any chroma.
    Grey,
    /// Dark, with hardly any chroma.
    Black,
    /// Dark or dull red to yellow.
    Brown,
    /// Around 20°.
    Red,
    /// Around 60°.
    Orange,
    /// Around 90°.
    Yellow,
    /// Around 150°.
    Green,
    /// Around 250°.
    Blue,
    /// Around 320°.
    Purple,
}

impl HueFamily {
    /// All families, in the order of a shelf.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// The family of a colour in daylight.
    pub fn of(colour: Lab) -> Self {
        let chroma = colour.chroma();
        match colour.l {
            l if l >= 82.0 && chroma < 14.0 => return HueFamily::White,
            l if l < 22.0 && chroma < 9.0 => return HueFamily::Black,
            _ if chroma < 8.0 => return HueFamily::Grey,
            _ => {}
        }
        match colour.hue() {
            h if (38.0..95.0).contains(&h)
                && (colour.l < 45.0 && chroma < 45.0 || chroma < 26.0 && colour.l < 70.0) =>
            {
                HueFamily::Brown
            }
            h if !(10.0..345.0).contains(&h) || h < 45.0 => HueFamily::Red,
            h if h < 75.0 => HueFamily::Orange,
            h if h < 108.0 => HueFamily::Yellow,
            h if h < 200.0 => HueFamily::Green,
            h if h < 292.0 => HueFamily::Blue,
            _ => HueFamily::Purple,
        }
    }

    /// `white`, `grey`, … `purple`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use warm_blend_spectral::Srgb;

    #[test]
    fn tins_go_where_a_painter_would_put_them() {
        let family = |hex: &str| HueFamily::of(hex.parse::<Srgb>().unwrap().to_lab()).id();
        for (hex, expected) in [
            ("#f0ede6", "white"),
            ("#b3aea3", "grey"),
            ("#25252a", "black"),
            ("#4a3a2f", "brown"),
            ("#b4342c", "red"),
            ("#d67a2e", "orange"),
            ("#e3b93a", "yellow"),
            ("#7d8a5c", "green"),
            ("#53687a", "blue"),
            ("#6b3f7a", "purple"),
        ] {
            assert_eq!(family(hex), expected, "{hex}");
        }
    }
}
