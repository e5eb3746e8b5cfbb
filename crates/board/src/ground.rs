//! What a finish is laid on.

use serde::{Deserialize, Serialize};
use warm_blend_paint::{BadPaint, Masstone, SurfaceReflection};
use warm_blend_spectral::{Reflectance, Srgb};

/// A kind of ground. Colours and surfaces are common practice†, until the painter gives the colour that is really there.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GroundKind {
    /// Bare wood of a pale tone, as of pine, birch or maple.
    PaleWood,
    /// Bare wood of a middle tone, as of oak.
    MidWood,
    /// Bare wood of a dark tone, as of walnut.
    DarkWood,
    /// A dark red stain under old varnish, as on many a piece of the 1920s: it bleeds.
    RedStain,
    /// Old paint.
    OldPaint,
    /// White primer.
    WhitePrimer,
    /// Grey primer.
    GreyPrimer,
}

/// How the grain of a wood runs (common practice).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Wood {
    /// Even, with narrow dark bands of late growth, as of pine.
    Banded,
    /// Straight, with open pores and flecks across it, as of oak.
    Open,
    /// In wide streaks that sway, as of walnut.
    Streaked,
}

/// What a finish is laid on.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ground {
    /// What it is.
    pub kind: GroundKind,
    /// Its colour, where the painter knows better than the kind says.
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
    /// In the order they are offered.
    pub const ALL: [GroundKind; 7] = [
        GroundKind::PaleWood,
        GroundKind::MidWood,
        GroundKind::DarkWood,
        GroundKind::RedStain,
        GroundKind::OldPaint,
        GroundKind::WhitePrimer,
        GroundKind::GreyPrimer,
    ];

    /// The table of defaults†.
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
            GroundKind::MidWood => row("mid-wood", "Bare wood, middling", [0xa8, 0x82, 0x56], 0.7, 0.34),
            GroundKind::DarkWood => row("dark-wood", "Bare wood, dark", [0x5e, 0x43, 0x30], 0.7, 0.38),
            GroundKind::RedStain => row("red-stain", "Dark red stain", [0x4a, 0x20, 0x19], 0.3, 0.25),
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

    /// The colour it is taken to have.
    pub const fn colour(self) -> Srgb {
        self.row().colour
    }

    /// How much darker than the mean the darkest bands of its grain are, as a share†; 0 of what is no wood.
    pub const fn grain(self) -> f64 {
        self.row().grain
    }

    /// Which wood's grain it shows where it is bare.
    pub const fn wood(self) -> Option<Wood> {
        match self {
            GroundKind::PaleWood => Some(Wood::Banded),
            GroundKind::MidWood => Some(Wood::Open),
            GroundKind::DarkWood | GroundKind::RedStain => Some(Wood::Streaked),
            GroundKind::OldPaint | GroundKind::WhitePrimer | GroundKind::GreyPrimer => None,
        }
    }

    /// True of a stain or a wood whose colour comes up through water-borne paint (common practice).
    pub const fn bleeds(self) -> bool {
        matches!(self, GroundKind::RedStain | GroundKind::DarkWood)
    }

    /// True where sanding may set lead free: paint of unknown age.
    pub const fn may_hold_lead(self) -> bool {
        matches!(self, GroundKind::OldPaint)
    }

    /// True of a primer: what lies on it holds.
    pub const fn is_primed(self) -> bool {
        matches!(self, GroundKind::WhitePrimer | GroundKind::GreyPrimer)
    }
}

impl Ground {
    /// One of a kind, of the colour it is taken to have.
    pub const fn of(kind: GroundKind) -> Self {
        Self { kind, colour: None }
    }

    /// What it looks like bare, and the surface it has.
    pub fn seen(&self) -> Result<(Reflectance, SurfaceReflection), BadPaint> {
        let curve = self.colour.unwrap_or(Masstone::Hex(self.kind.colour())).reflectance()?;
        Ok((curve, SurfaceReflection::new(self.kind.row().alpha).limited_by(&curve)))
    }
}
