//! The ground of a finish.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_paint::{BadPaint, Masstone, SurfaceReflection};
use warm_blend_spectral::{Reflectance, Srgb};

/// A kind of ground. Colours and surfaces are common practice†, until the painter enters the real colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GroundKind {
    /// Bare pale wood, such as pine, birch or maple.
    PaleWood,
    /// Bare wood of medium tone, such as oak.
    MidWood,
    /// Bare dark wood, such as walnut.
    DarkWood,
    /// Bare red wood, such as mahogany; bleeds tannin.
    RedWood,
    /// Bare wood with knots, such as knotty pine; resin bleeds through.
    KnottyWood,
    /// Dark red stain under old varnish, as on many pieces of the 1920s; bleeds.
    RedStain,
    /// Brown stain in the wood, with little or nothing over it; bleeds.
    StainedWood,
    /// Yellowed clear varnish over pale wood.
    Varnished,
    /// Old wax over wood.
    OldWax,
    /// Old paint.
    OldPaint,
    /// Slick laminate or melamine.
    Laminate,
    /// Bare polished metal: brass handles, steel legs.
    PolishedMetal,
    /// Painted metal.
    PaintedMetal,
    /// White primer.
    WhitePrimer,
    /// Grey primer.
    GreyPrimer,
}

/// How the grain of a wood runs (common practice).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Wood {
    /// Even, with narrow dark bands of late growth, such as pine.
    Banded,
    /// Straight, with open pores and flecks across it, such as oak.
    Open,
    /// In wide swaying streaks, such as walnut.
    Streaked,
}

/// The ground of a finish.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ground {
    /// Kind of ground.
    pub kind: GroundKind,
    /// Its colour, if the painter knows it better than the kind suggests.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub colour: Option<Masstone>,
}

struct Row {
    id: &'static str,
    name: &'static str,
    colour: Srgb,
    alpha: f64,
    grain: f64,
}

impl GroundKind {
    /// All kinds, in the order in which they are offered.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Table of defaults†.
    const fn row(self) -> Row {
        const fn row(
            id: &'static str,
            name: &'static str,
            [red, green, blue]: [u8; 3],
            alpha: f64,
            grain: f64,
        ) -> Row {
            Row { id, name, colour: Srgb { red, green, blue }, alpha, grain }
        }
        match self {
            GroundKind::PaleWood => row("pale-wood", "Bare wood, pale", [0xcf, 0xb4, 0x8a], 0.7, 0.22),
            GroundKind::MidWood => row("mid-wood", "Bare wood, medium", [0xa8, 0x82, 0x56], 0.7, 0.34),
            GroundKind::DarkWood => row("dark-wood", "Bare wood, dark", [0x5e, 0x43, 0x30], 0.7, 0.38),
            GroundKind::RedWood => row("red-wood", "Bare wood, red", [0x7a, 0x42, 0x2e], 0.7, 0.3),
            GroundKind::KnottyWood => row("knotty-wood", "Bare wood, knotty", [0xc8, 0xa2, 0x6a], 0.7, 0.3),
            GroundKind::RedStain => row("red-stain", "Dark red stain", [0x4a, 0x20, 0x19], 0.3, 0.25),
            GroundKind::StainedWood => {
                row("stained-wood", "Stained wood, brown", [0x6b, 0x45, 0x2a], 0.5, 0.3)
            }
            GroundKind::Varnished => row("varnished", "Varnished wood", [0xb0, 0x7e, 0x44], 0.15, 0.22),
            GroundKind::OldWax => row("old-wax", "Waxed wood", [0x9a, 0x6f, 0x42], 0.3, 0.28),
            GroundKind::Laminate => row("laminate", "Slick laminate", [0xd8, 0xd2, 0xc4], 0.1, 0.0),
            GroundKind::PolishedMetal => {
                row("polished-metal", "Polished metal", [0xa8, 0x8e, 0x58], 0.0, 0.0)
            }
            GroundKind::PaintedMetal => row("painted-metal", "Painted metal", [0x3c, 0x3b, 0x39], 0.2, 0.0),
            GroundKind::OldPaint => row("old-paint", "Old paint", [0xc9, 0xc2, 0xae], 0.5, 0.0),
            GroundKind::WhitePrimer => row("white-primer", "White primer", [0xec, 0xea, 0xe4], 0.6, 0.0),
            GroundKind::GreyPrimer => row("grey-primer", "Grey primer", [0x8d, 0x8c, 0x88], 0.6, 0.0),
        }
    }

    /// `pale-wood` …
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// `Bare wood, pale` …
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Colour assumed for the kind.
    pub const fn colour(self) -> Srgb {
        self.row().colour
    }

    /// How much darker than the mean the darkest bands of its grain are, as a share†; 0 if it is not wood.
    pub const fn grain(self) -> f64 {
        self.row().grain
    }

    /// The wood whose grain shows where it is bare.
    pub const fn wood(self) -> Option<Wood> {
        match self {
            GroundKind::PaleWood | GroundKind::KnottyWood | GroundKind::Varnished => Some(Wood::Banded),
            GroundKind::MidWood | GroundKind::StainedWood | GroundKind::OldWax => Some(Wood::Open),
            GroundKind::DarkWood | GroundKind::RedWood | GroundKind::RedStain => Some(Wood::Streaked),
            GroundKind::OldPaint
            | GroundKind::Laminate
            | GroundKind::PolishedMetal
            | GroundKind::PaintedMetal
            | GroundKind::WhitePrimer
            | GroundKind::GreyPrimer => None,
        }
    }

    /// True of bare wood, which absorbs what is applied to it.
    pub const fn is_raw_wood(self) -> bool {
        matches!(
            self,
            GroundKind::PaleWood
                | GroundKind::MidWood
                | GroundKind::DarkWood
                | GroundKind::RedWood
                | GroundKind::KnottyWood
        )
    }

    /// True of a stain or wood whose colour bleeds through water-based paint (common practice).
    pub const fn bleeds(self) -> bool {
        matches!(
            self,
            GroundKind::RedStain
                | GroundKind::StainedWood
                | GroundKind::DarkWood
                | GroundKind::RedWood
                | GroundKind::KnottyWood
        )
    }

    /// True if paint does not stick without a bonding primer (common practice).
    pub const fn is_slick(self) -> bool {
        matches!(self, GroundKind::Laminate | GroundKind::PolishedMetal | GroundKind::PaintedMetal)
    }

    /// True if paint needs a primer below it, to block bleeding or to stick.
    pub const fn needs_primer(self) -> bool {
        self.bleeds() || self.is_slick()
    }

    /// True if sanding may release lead: paint of unknown age, on wood or metal.
    pub const fn may_hold_lead(self) -> bool {
        matches!(self, GroundKind::OldPaint | GroundKind::PaintedMetal)
    }

    /// True of a glossy surface that is dulled with a liquid rather than sanded (common practice).
    pub const fn is_glossy(self) -> bool {
        matches!(self, GroundKind::RedStain | GroundKind::StainedWood | GroundKind::Varnished)
    }

    /// True of a primer, to which paint sticks.
    pub const fn is_primed(self) -> bool {
        matches!(self, GroundKind::WhitePrimer | GroundKind::GreyPrimer)
    }
}

impl Ground {
    /// A ground of a kind, of the colour assumed for it.
    pub const fn of(kind: GroundKind) -> Self {
        Self { kind, colour: None }
    }

    /// Reflectance when bare, and surface.
    pub fn seen(&self) -> Result<(Reflectance, SurfaceReflection), BadPaint> {
        let curve = self.colour.unwrap_or(Masstone::Hex(self.kind.colour())).reflectance()?;
        Ok((curve, SurfaceReflection::new(self.kind.row().alpha).limited_by(&curve)))
    }
}
