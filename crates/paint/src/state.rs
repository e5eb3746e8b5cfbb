//! What has become of a film: still wet, dry, sealed, or buffed under wax.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// A state a film is looked at in.
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
    /// As it is brushed on: glossy, the air in it filled with water.
    Wet,
    /// Dry and unsealed, as a masstone is known.
    #[default]
    Dry,
    /// Under clear wax or a clear coat, as it dries.
    Sealed,
    /// Under clear wax that was polished.
    Buffed,
}

impl FilmState {
    /// In the order they come.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `wet`, `dry`, `sealed` or `buffed`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

/// How dull the surface of a clear coat and of an unpolished wax is, α†.
pub const SEAL: f64 = 0.4;

impl FilmState {
    /// How dull a seal's own surface is (α), which it lays over any that is duller; none where there is no seal.
    /// That of polished wax is common practice†.
    pub const fn seal(self) -> Option<f64> {
        match self {
            FilmState::Wet | FilmState::Dry => None,
            FilmState::Sealed => Some(SEAL),
            FilmState::Buffed => Some(0.15),
        }
    }
}
