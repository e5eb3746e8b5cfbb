//! What must be mended before a part is painted.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

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
        }
    }

    /// Name on the screen.
    pub const fn name(self) -> &'static str {
        match self {
            Repair::Strip => "Strip the old finish",
            Repair::LooseVeneer => "Glue down loose veneer",
            Repair::Fill => "Fill dents and holes",
        }
    }
}
