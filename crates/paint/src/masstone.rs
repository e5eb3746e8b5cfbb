//! The colour of a paint as it is known, and the material that it makes.

use serde::{Deserialize, Serialize};
use warm_blend_spectral::{BANDS, Lab, Reflectance, Srgb, Unreachable, smoothest, wavelength};

use crate::strength::by_class;
use crate::{Class, CoatsToHide, Material, Medium, Optics, Role, SurfaceReflection};

/// The colour of a thick, dry, unsealed film, as it is known.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase", from = "Written", into = "Written")]
pub enum Masstone {
    /// A chip's 8-bit sRGB code.
    Hex(Srgb),
    /// L\*a\*b\* in daylight (D65, 2°).
    Lab(Lab),
}

/// How a masstone stands in a file: `{"hex": [176, 141, 87]}` or `{"lab": [61.2, 9.8, 33.1]}`.
#[derive(Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Written {
    Hex([u8; 3]),
    Lab([f64; 3]),
}

impl From<Written> for Masstone {
    fn from(written: Written) -> Self {
        match written {
            Written::Hex([red, green, blue]) => Masstone::Hex(Srgb { red, green, blue }),
            Written::Lab([l, a, b]) => Masstone::Lab(Lab { l, a, b }),
        }
    }
}

impl From<Masstone> for Written {
    fn from(masstone: Masstone) -> Self {
        match masstone {
            Masstone::Hex(Srgb { red, green, blue }) => Written::Hex([red, green, blue]),
            Masstone::Lab(Lab { l, a, b }) => Written::Lab([l, a, b]),
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

    /// The smoothest curve of this colour.
    pub fn reflectance(self) -> Result<Reflectance, Unreachable> {
        smoothest(self.lab())
    }
}

/// Why a tin has no known optics.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadPaint {
    /// A paint whose colour was not given.
    #[error("a paint needs its colour: a hex code such as #b08d57, or L*, a*, b*")]
    NoColour,
    /// A colour that no surface can have.
    #[error(transparent)]
    Impossible(#[from] Unreachable),
}

impl Material {
    /// The material of a product of a class, from what is known of it: K/S from the masstone, S from the coats to hide,
    /// or else from the class. A medium has its class's optics.
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
        let seen = masstone.ok_or(BadPaint::NoColour)?.reflectance()?;
        let sheen = sheen.limited_by(&seen);
        let inside = sheen.inside(&seen);
        let s = match coats_to_hide {
            Some(coats) => coats.scattering(&inside, sheen),
            None => by_class(strength, &inside),
        };
        Ok(Self {
            optics: Optics::of_thick_film(&inside, s),
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
        for text in [r#"{"hex":[176,141,87]}"#, r#"{"lab":[61.25,9.5,33.0]}"#] {
            let masstone: Masstone = serde_json::from_str(text).unwrap();
            assert_eq!(serde_json::to_string(&masstone).unwrap(), text);
        }
    }
}
