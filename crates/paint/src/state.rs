//! State of a film: wet, dry, sealed or buffed.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// State in which a film is viewed.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Hash,
    Default,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FilmState {
    /// Freshly brushed: glossy, the air in it filled with water.
    Wet,
    /// Dry and unsealed, the state in which a masstone is known.
    #[default]
    Dry,
    /// Under clear wax or a clear coat.
    Sealed,
    /// Under polished clear wax.
    Buffed,
}

impl FilmState {
    /// All states, in the order in which a film passes through them.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `wet`, `dry`, `sealed` or `buffed`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

/// Dullness of a clear coat or an unpolished wax, α†.
pub const SEAL: f64 = 0.4;

impl FilmState {
    /// Dullness of a seal's own surface (α), which replaces a duller one; `None` without a seal. The value for polished
    /// wax is common practice†.
    pub const fn seal(self) -> Option<f64> {
        match self {
            FilmState::Wet | FilmState::Dry => None,
            FilmState::Sealed => Some(SEAL),
            FilmState::Buffed => Some(0.15),
        }
    }
}
