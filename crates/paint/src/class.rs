//! Classes of paint and medium, with the defaults that hold until a test replaces them.
//!
//! Every default in this file is marked †: common practice or memory, without a published source. The painter's own coats
//! to hide and, later, readings take their place.

use crate::state::SEAL;
use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// What kind of product a tin holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Class {
    /// Chalk-type paint: dead matt, porous.
    Chalk,
    /// Mineral paint.
    Mineral,
    /// Clay-type paint: matt, porous, re-wettable.
    Clay,
    /// Milk paint: lime or borax casein, matt and porous.
    Milk,
    /// Satin latex wall or trim paint.
    LatexSatin,
    /// Acrylic craft paint.
    AcrylicCraft,
    /// Oil paint: pigment in linseed oil, slow to dry.
    Oil,
    /// Oil-based enamel in an alkyd resin.
    Alkyd,
    /// Metallic paint: flakes in a coloured binder.
    Metallic,
    /// Primer.
    Primer,
    /// Gel stain: colour with little body.
    GelStain,
    /// Pigmented shellac.
    Shellac,
    /// Wax sold with its colour in it: dark, white or any other.
    TintedWax,
    /// Slow clear glazing liquid.
    GlazingLiquid,
    /// Acrylic scumble.
    Scumble,
    /// Water-based clear finishing coat.
    ClearCoat,
    /// Drying extender.
    Extender,
    /// Water, which evaporates.
    Water,
    /// Clear wax.
    ClearWax,
    /// Translucent pearl.
    Pearl,
    /// Texture powder: a matt filler that thickens.
    TexturePowder,
}

/// Whether a product adds colour or only volume.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Role {
    /// A colour; needs a masstone. Holds the scattering per wet volume relative to the house white (= 1)†.
    Paint {
        /// Relative scattering strength s, no unit.
        strength: f64,
    },
    /// A thinner or carrier with hardly any colour of its own.
    Medium(Medium),
}

/// What thins a product while it is wet, as products of its class are usually sold†.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Base {
    /// Water.
    Water,
    /// Mineral spirits: oils, oil stains and waxes.
    Oil,
    /// Alcohol: shellac.
    Alcohol,
}

/// Optics of a clear medium†.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Medium {
    /// K at 730 nm, per mm wet.
    pub k_red: f64,
    /// K at 380 nm, per mm wet; higher for a slightly yellow medium.
    pub k_violet: f64,
    /// S, per mm wet.
    pub s: f64,
    /// True if it evaporates and leaves no surface of its own.
    pub leaves: bool,
}

/// One row of the table of defaults.
struct Row {
    id: &'static str,
    name: &'static str,
    /// α, share of the surface reflection that reaches the eye.
    sheen: f64,
    /// φ, share by which the air in a dry unsealed film adds to its scattering.
    voids: f64,
    /// S that a wet film has on top of what it keeps, per mm: the milk of a water-based binder.
    milk: f64,
    role: Role,
}

const fn paint(id: &'static str, name: &'static str, [sheen, voids, milk]: [f64; 3], strength: f64) -> Row {
    Row { id, name, sheen, voids, milk, role: Role::Paint { strength } }
}

const fn medium(
    id: &'static str,
    name: &'static str,
    [sheen, milk]: [f64; 2],
    [k_red, k_violet, s]: [f64; 3],
    leaves: bool,
) -> Row {
    Row { id, name, sheen, voids: 0.0, milk, role: Role::Medium(Medium { k_red, k_violet, s, leaves }) }
}

impl Class {
    /// All classes, paints first, in the order in which they are offered.
    pub const ALL: [Class; Class::VARIANTS.len()] = *Class::VARIANTS.as_array().unwrap();

    /// The table of defaults†.
    const fn row(self) -> Row {
        match self {
            //                                        sheen voids milk  strength
            Class::Chalk => paint("chalk", "Chalk-type paint", [0.85, 0.35, 0.0], 1.0),
            Class::Mineral => paint("mineral", "Mineral paint", [0.6, 0.2, 1.0], 0.9),
            Class::Clay => paint("clay", "Clay-type paint", [0.85, 0.4, 0.0], 0.9),
            Class::Milk => paint("milk", "Milk paint", [0.85, 0.4, 0.0], 0.7),
            Class::LatexSatin => paint("latex-satin", "Satin latex", [0.3, 0.05, 20.0], 0.8),
            Class::AcrylicCraft => paint("acrylic-craft", "Acrylic craft paint", [0.4, 0.05, 14.0], 0.6),
            Class::Oil => paint("oil", "Oil paint (linseed)", [0.25, 0.0, 0.0], 0.8),
            Class::Alkyd => paint("alkyd", "Oil-based enamel (alkyd)", [0.2, 0.0, 0.0], 0.9),
            Class::Metallic => paint("metallic", "Metallic paint", [0.2, 0.0, 4.0], 0.7),
            Class::Primer => paint("primer", "Primer", [0.6, 0.15, 4.0], 1.0),
            Class::GelStain => paint("gel-stain", "Gel stain", [0.3, 0.0, 0.0], 0.08),
            Class::Shellac => paint("shellac", "Pigmented shellac", [0.1, 0.0, 0.0], 0.5),
            Class::TintedWax => paint("tinted-wax", "Dark, white or coloured wax", [SEAL, 0.0, 0.0], 0.1),
            //                                     sheen milk  K red, K violet, S per mm     leaves
            Class::GlazingLiquid => {
                medium("glazing-liquid", "Glazing liquid", [0.3, 10.0], [0.004, 0.02, 0.05], false)
            }
            Class::Scumble => medium("scumble", "Acrylic scumble", [0.3, 10.0], [0.004, 0.02, 0.05], false),
            Class::ClearCoat => medium("clear-coat", "Clear coat", [SEAL, 10.0], [0.002, 0.01, 0.005], false),
            Class::Extender => medium("extender", "Extender", [0.3, 1.0], [0.002, 0.01, 0.02], false),
            Class::Water => medium("water", "Water", [0.85, 0.0], [1e-9, 1e-9, 1e-9], true),
            Class::ClearWax => medium("clear-wax", "Clear wax", [SEAL, 0.0], [0.01, 0.15, 0.03], false),
            Class::Pearl => medium("pearl", "Pearl medium", [0.2, 2.0], [0.004, 0.01, 0.4], false),
            Class::TexturePowder => {
                medium("texture-powder", "Texture powder", [0.85, 0.0], [0.01, 0.02, 1.5], false)
            }
        }
    }

    /// Short identifier, as used in files and requests: `latex-satin`.
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// What a painter calls it: `Satin latex`.
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Paint or medium, with its default optics.
    pub const fn role(self) -> Role {
        self.row().role
    }

    /// True for glazing liquid, wax, water and the like.
    pub const fn is_medium(self) -> bool {
        matches!(self.role(), Role::Medium(_))
    }

    /// True of the paints that colours are mixed from. Excludes mediums, wax, and primer, which is there to block and to
    /// hold.
    pub const fn makes_colours(self) -> bool {
        !self.is_medium() && !matches!(self, Class::Primer | Class::TintedWax)
    }

    /// True of paints that plain colours are mixed from. Excludes metallics, whose flakes glint.
    pub const fn makes_plain_colours(self) -> bool {
        self.makes_colours() && !matches!(self, Class::Metallic)
    }

    /// True of paints that plain colours are mixed from with water and water-based mediums.
    pub const fn makes_water_based_colours(self) -> bool {
        self.makes_plain_colours() && matches!(self.base(), Base::Water)
    }

    /// What thins the product.
    pub const fn base(self) -> Base {
        match self {
            Class::Oil | Class::Alkyd | Class::GelStain | Class::ClearWax | Class::TintedWax => Base::Oil,
            Class::Shellac => Base::Alcohol,
            _ => Base::Water,
        }
    }

    /// True of wax, clear or coloured, to which only wax sticks.
    pub const fn is_wax(self) -> bool {
        matches!(self, Class::ClearWax | Class::TintedWax)
    }

    /// True of paint that dries to a hard oily film.
    pub const fn is_oil_paint(self) -> bool {
        matches!(self, Class::Oil | Class::Alkyd)
    }

    /// True of paint that stays porous when dry and absorbs water, glaze and the colour of a wax.
    pub const fn is_porous(self) -> bool {
        matches!(self, Class::Chalk | Class::Clay | Class::Milk)
    }

    /// Share of the surface reflection that reaches the eye, before a dark masstone limits it.
    pub const fn sheen(self) -> f64 {
        self.row().sheen
    }

    /// φ: the factor, less 1, by which air in the dry, unsealed film raises its scattering.
    pub const fn voids(self) -> f64 {
        self.row().voids
    }

    /// Share of the area that flakes cover†.
    pub const fn lustre(self) -> f64 {
        match self {
            Class::Metallic => 0.6,
            Class::Pearl => 0.35,
            _ => 0.0,
        }
    }

    /// Mass of a millilitre of wet product, g†, if the tin does not state it. Water: 0.998 (at 20 °C).
    pub const fn density(self) -> f64 {
        match self {
            Class::Chalk | Class::Primer | Class::Oil => 1.4,
            Class::Mineral => 1.35,
            Class::Clay => 1.45,
            Class::LatexSatin => 1.25,
            Class::Milk | Class::Alkyd => 1.2,
            Class::AcrylicCraft => 1.15,
            Class::Metallic | Class::Shellac => 1.1,
            Class::GelStain => 0.95,
            Class::GlazingLiquid | Class::Scumble | Class::ClearCoat => 1.03,
            Class::Extender | Class::Pearl => 1.05,
            Class::Water => 0.998,
            Class::ClearWax | Class::TintedWax => 0.87,
            Class::TexturePowder => 0.7,
        }
    }

    /// Additional S of the wet film, 1/mm, which disappears on drying.
    pub const fn milk(self) -> f64 {
        self.row().milk
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn identifiers_are_the_same_in_text_and_in_files() {
        for class in Class::ALL {
            let written = format!("\"{}\"", class.id());
            assert_eq!(serde_json::to_string(&class).unwrap(), written);
            assert_eq!(serde_json::from_str::<Class>(&written).unwrap(), class);
        }
        let unknown = serde_json::from_str::<Class>("\"mirror\"").unwrap_err().to_string();
        assert!(unknown.contains("latex-satin"), "{unknown}");
    }
}
