//! Spots that were mended on a finished piece.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use warm_blend_paint::{Name, Note};
use warm_blend_piece::Zone;

use crate::FromJar;

/// Size of a spot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Spot {
    /// A chip, 2 × 2 cm.
    #[default]
    Chip,
    /// The size of a palm, 10 × 10 cm.
    Palm,
}

impl Spot {
    /// Area, m²†.
    pub const fn square_metres(self) -> f64 {
        match self {
            Spot::Chip => 4e-4,
            Spot::Palm => 0.01,
        }
    }

    /// Within a sentence: `a chip`.
    pub const fn words(self) -> &'static str {
        match self {
            Spot::Chip => "a chip",
            Spot::Palm => "a spot the size of a palm",
        }
    }
}

/// A mended spot.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct TouchedUp {
    /// Time.
    pub at: Timestamp,
    /// The part.
    pub zone: Zone,
    /// Its size.
    pub spot: Spot,
    /// How it came out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
    /// Who did it, if they are named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<Name>,
    /// What it took out of jars.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub from_jars: Vec<FromJar>,
}
