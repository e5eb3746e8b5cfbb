//! What must be mended before a part is painted.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

use crate::Zone;

/// A repair of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Repair {
    /// The old finish is stripped.
    Strip,
    /// Loose veneer is glued down.
    LooseVeneer,
    /// Dents, chips and holes are filled.
    Fill,
    /// The old holes of pulls are filled and new ones drilled.
    NewPulls,
    /// Knots or stains that would bleed through are blocked.
    Bleeds,
    /// Metal is soaked until old paint and grime come off.
    Soak,
    /// Metal is polished.
    Polish,
}

impl Repair {
    /// All repairs, in the order in which they are made.
    pub const ALL: [Repair; Repair::VARIANTS.len()] = *Repair::VARIANTS.as_array().unwrap();

    /// `strip` …
    pub const fn id(self) -> &'static str {
        match self {
            Repair::Strip => "strip",
            Repair::LooseVeneer => "loose-veneer",
            Repair::Fill => "fill",
            Repair::NewPulls => "new-pulls",
            Repair::Bleeds => "bleeds",
            Repair::Soak => "soak",
            Repair::Polish => "polish",
        }
    }

    /// True if a zone can need it: metal is soaked and polished, wood is glued, filled and drilled, and both can be stripped.
    pub const fn applies_to(self, zone: Zone) -> bool {
        match self {
            Repair::Strip => true,
            Repair::Soak | Repair::Polish => matches!(zone, Zone::Hardware),
            Repair::LooseVeneer | Repair::Fill | Repair::NewPulls | Repair::Bleeds => {
                !matches!(zone, Zone::Hardware)
            }
        }
    }

    /// Name on the screen.
    pub const fn name(self) -> &'static str {
        match self {
            Repair::Strip => "Strip the old finish",
            Repair::LooseVeneer => "Glue down loose veneer",
            Repair::Fill => "Fill dents and holes",
            Repair::NewPulls => "Fit new pulls",
            Repair::Bleeds => "Block knots and stains that bleed",
            Repair::Soak => "Soak off old paint and grime",
            Repair::Polish => "Polish the metal",
        }
    }
}
