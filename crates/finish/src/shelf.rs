//! A paint as it stands on the shelf: what the painter knows of it.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use warm_blend_spectral::{BANDS, Lab, Reflectance, Srgb, Unreachable, smoothest, wavelength};

use crate::film::Optics;
use crate::learn::{Facts, Source};
use crate::strength::by_class;
use crate::surface::Sheen;
use crate::{
    Class, CoatsToHide, Condition, Material, Medium, Millilitres, Name, Note, Price, Role, Specials,
};

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

/// A tin on the shelf.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct ShelfPaint {
    /// What the painter calls it.
    pub name: Name,
    /// What kind of product it is.
    pub class: Class,
    /// Its dry colour; a medium needs none.
    pub masstone: Option<Masstone>,
    /// What that colour was taken from.
    #[serde(default)]
    pub source: Source,
    /// How many coats it needs; where unknown, its class says.
    pub coats_to_hide: Option<CoatsToHide>,
    /// What a tin costs.
    pub price: Option<Price>,
    /// What is left.
    pub stock: Option<Millilitres>,
    /// When the tin was opened.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub opened_on: Option<Date>,
    /// Whether it is still good.
    #[serde(default)]
    pub condition: Condition,
    /// The warning on the tin.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub safety: Option<Note>,
    /// What only some classes have.
    #[serde(default)]
    pub specials: Specials,
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

impl ShelfPaint {
    /// What a tin says when only its name, class and colour are known.
    pub fn new(name: Name, class: Class, masstone: Option<Masstone>) -> Self {
        Self {
            name,
            class,
            masstone,
            source: Source::Chip,
            coats_to_hide: None,
            price: None,
            stock: None,
            opened_on: None,
            condition: Condition::Good,
            safety: None,
            specials: Specials::default(),
        }
    }

    /// What the estimate is told of it.
    pub fn facts(&self, house_white: bool) -> Facts {
        Facts {
            class: self.class,
            masstone: self.masstone,
            source: self.source,
            coats_to_hide: self.coats_to_hide,
            lustre: self.specials.lustre,
            house_white,
        }
    }

    /// This tin with what another of the same paint adds to it: its stock, and what was not written down here.
    pub fn merged_with(mut self, other: &ShelfPaint) -> Self {
        let stock =
            [self.stock, other.stock].into_iter().flatten().map(Millilitres::value).reduce(|a, b| a + b);
        // What two tins hold is no more than the most a workshop does, or stays as it was written down.
        self.stock = stock.and_then(|sum| Millilitres::new(sum).ok()).or(self.stock);
        self.masstone = self.masstone.or(other.masstone);
        self.coats_to_hide = self.coats_to_hide.or(other.coats_to_hide);
        self.price = self.price.or(other.price);
        self.safety = self.safety.or_else(|| other.safety.clone());
        self
    }

    /// Mass of a millilitre, g: as it is written on the tin, or what its class usually has.
    pub fn density(&self) -> f64 {
        self.specials.density.unwrap_or(self.class.density())
    }

    /// Its K, S and surface: K/S from the masstone, S from the coats to hide, or else from the class.
    pub fn material(&self) -> Result<Material, BadPaint> {
        Material::of(self.class, self.masstone, self.coats_to_hide)
    }
}

impl Material {
    /// The material of a product of a class, from what is known of it: K/S from the masstone, S from the coats to hide,
    /// or else from the class. A medium has its class's optics.
    pub fn of(
        class: Class,
        masstone: Option<Masstone>,
        coats_to_hide: Option<CoatsToHide>,
    ) -> Result<Self, BadPaint> {
        let sheen = Sheen::new(class.sheen());
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
        sheen: Sheen::new(class.sheen()),
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
