//! The known colour of a paint, and the material derived from it.

use serde::{Deserialize, Deserializer, Serialize};
use warm_blend_spectral::{
    BANDS, HexError, Lab, Reflectance, Srgb, Unreachable, smoothest, smoothest_above, wavelength,
};

use crate::strength::ScatteringGuess;
use crate::surface::K1;
use crate::undertone::blackness;
use crate::{Class, CoatsToHide, Material, Medium, Optics, Role, SurfaceReflection};

/// How much of what the usual surface of a class reflects the surface of a tin does, whatever its colour†.
const SURE_OF_SURFACE: f64 = 0.85;

/// Known colour of a thick, dry, unsealed film.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "Colour", into = "Colour")]
pub enum Masstone {
    /// A chip's 8-bit sRGB code.
    Hex(Srgb),
    /// L\*a\*b\* in daylight (D65, 2°).
    Lab(Lab),
}

/// A colour as written: either a hex code or L*, a*, b*.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Colour {
    /// sRGB, 3, 6 or 8 hex digits.
    #[serde(default, skip_serializing_if = "Option::is_none", deserialize_with = "code")]
    #[cfg_attr(feature = "schema", schema(example = "#b08d57"))]
    pub hex: Option<String>,
    /// L*, a*, b* in daylight (D65, 2°).
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(example = json!([61.2, 9.8, 33.1])))]
    pub lab: Option<[f64; 3]>,
}

/// A text that is not the colour of a surface.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadColour {
    /// Neither form was given, or both were.
    #[error("give the colour one way only: hex or lab")]
    NotOnce,
    /// Not a hex code.
    #[error(transparent)]
    Hex(#[from] HexError),
    /// No surface can have this colour.
    #[error(transparent)]
    Impossible(#[from] Unreachable),
}

/// A hex code as text; documents from earlier versions hold its three numbers.
fn code<'de, D: Deserializer<'de>>(from: D) -> Result<Option<String>, D::Error> {
    #[derive(Deserialize)]
    #[serde(untagged, expecting = "not a valid hex code; use one such as #b08d57")]
    enum Written {
        Text(String),
        Numbers(u8, u8, u8),
    }
    Ok(Option::<Written>::deserialize(from)?.map(|written| match written {
        Written::Text(text) => text,
        Written::Numbers(red, green, blue) => Srgb { red, green, blue }.to_string(),
    }))
}

impl TryFrom<Colour> for Masstone {
    type Error = BadColour;

    fn try_from(written: Colour) -> Result<Self, BadColour> {
        match (&written.hex, written.lab) {
            (Some(hex), None) => Ok(Masstone::Hex(hex.parse()?)),
            (None, Some([l, a, b])) => Ok(Masstone::Lab(Lab { l, a, b })),
            _ => Err(BadColour::NotOnce),
        }
    }
}

impl From<Masstone> for Colour {
    fn from(masstone: Masstone) -> Self {
        match masstone {
            Masstone::Hex(code) => Self { hex: Some(code.to_string()), lab: None },
            Masstone::Lab(Lab { l, a, b }) => Self { hex: None, lab: Some([l, a, b]) },
        }
    }
}

impl Colour {
    /// Checks that a surface can have this colour.
    pub fn of_a_surface(&self) -> Result<Masstone, BadColour> {
        let masstone = Masstone::try_from(self.clone())?;
        masstone.reflectance()?;
        Ok(masstone)
    }
}

#[cfg(feature = "schema")]
mod schema {
    use super::{Colour, Masstone};
    use utoipa::{PartialSchema, ToSchema, openapi};

    /// A masstone travels as it is written.
    impl PartialSchema for Masstone {
        fn schema() -> openapi::RefOr<openapi::Schema> {
            Colour::schema()
        }
    }

    impl ToSchema for Masstone {
        fn name() -> std::borrow::Cow<'static, str> {
            Colour::name()
        }
    }
}

impl Masstone {
    /// Its L\*a\*b\* in daylight.
    pub fn lab(self) -> Lab {
        match self {
            Masstone::Hex(code) => code.to_lab(),
            Masstone::Lab(lab) => lab,
        }
    }

    /// The smoothest curve of this colour that a paint of a class can have: the surface reflects part of every band,
    /// whatever the film absorbs.
    pub fn reflectance_of_class(self, class: Class) -> Result<Reflectance, Unreachable> {
        smoothest_above(SURE_OF_SURFACE * K1 * class.sheen(), self.lab())
    }

    /// The smoothest curve of this colour.
    pub fn reflectance(self) -> Result<Reflectance, Unreachable> {
        smoothest(self.lab())
    }
}

/// Why a tin has no known optics.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadPaint {
    /// The paint has no colour.
    #[error("no colour set; enter a hex code such as #b08d57, or L*, a*, b*")]
    NoColour,
    /// A colour that no surface can have.
    #[error(transparent)]
    Impossible(#[from] Unreachable),
}

impl Material {
    /// Material of a product of a class from what is known of it: K/S from the masstone, S from the coats to hide, or
    /// else from the class. A medium has the optics of its class.
    pub fn of(
        class: Class,
        masstone: Option<Masstone>,
        coats_to_hide: Option<CoatsToHide>,
    ) -> Result<Self, BadPaint> {
        let sheen = SurfaceReflection::new(class.sheen());
        let strength = match class.role() {
            Role::Medium(medium) => return Ok(clear(class, medium)),
            Role::Paint { strength } => strength,
        };
        let seen = masstone.ok_or(BadPaint::NoColour)?.reflectance_of_class(class)?;
        let sheen = sheen.limited_by(&seen);
        let inside = sheen.inside(&seen);
        let guess =
            ScatteringGuess { strength, voids: class.voids(), blackness: blackness(&seen), coats_to_hide };
        Ok(Self {
            optics: Optics::of_masstone(&inside, guess.by_band(&inside, sheen)),
            sheen,
            stays: 1.0,
            voids: class.voids(),
            milk: class.milk(),
            lustre: class.lustre(),
        })
    }
}

/// A medium: K straight from its value at 380 nm to that at 730 nm.
fn clear(class: Class, medium: Medium) -> Material {
    let (first, last) = (f64::from(wavelength(0)), f64::from(wavelength(BANDS - 1)));
    let k = std::array::from_fn(|i| {
        let along = (f64::from(wavelength(i)) - first) / (last - first);
        medium.k_violet + along * (medium.k_red - medium.k_violet)
    });
    let stays = if medium.leaves { 0.0 } else { 1.0 };
    Material {
        optics: Optics::new(k, [medium.s; BANDS]),
        sheen: SurfaceReflection::new(class.sheen()),
        stays,
        voids: class.voids(),
        milk: class.milk(),
        lustre: class.lustre(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_paint_without_colour_is_refused_and_a_medium_needs_none() {
        assert_eq!(Material::of(Class::Chalk, None, None), Err(BadPaint::NoColour));
        for class in Class::ALL.into_iter().filter(|class| class.is_medium()) {
            let clear = Material::of(class, None, None).unwrap();
            // A powder is a filler: it scatters a little, still a twentieth of what a white does.
            let most = if class == Class::TexturePowder { 2.0 } else { 0.5 };
            assert!(clear.optics.k().iter().chain(clear.optics.s()).all(|v| *v > 0.0 && *v < most));
        }
    }

    #[test]
    fn what_is_written_is_read_back() {
        for text in [r##"{"hex":"#b08d57"}"##, r#"{"lab":[61.25,9.5,33.0]}"#] {
            let masstone: Masstone = serde_json::from_str(text).unwrap();
            assert_eq!(serde_json::to_string(&masstone).unwrap(), text);
        }
        // As documents from earlier versions hold it.
        let of_before: Masstone = serde_json::from_str(r#"{"hex":[176,141,87]}"#).unwrap();
        assert_eq!(of_before, Masstone::Hex(Srgb { red: 176, green: 141, blue: 87 }));
    }

    #[test]
    fn a_colour_is_given_once_and_can_be() {
        let written = |text: &str| serde_json::from_str::<Masstone>(text).map_err(|error| error.to_string());
        for nothing in ["{}", r##"{"hex":"#b08d57","lab":[61.25,9.5,33.0]}"##, r#"{"hex":null}"#] {
            assert!(written(nothing).unwrap_err().contains("give the colour one way only"), "{nothing}");
        }
        assert!(written(r#"{"hex":7}"#).unwrap_err().contains("such as #b08d57"));
        assert!(written(r#"{"hex":"teal"}"#).is_err());
        let loud = Colour { hex: None, lab: Some([50.0, 150.0, 150.0]) };
        assert!(matches!(loud.of_a_surface(), Err(BadColour::Impossible(_))));
    }
}
