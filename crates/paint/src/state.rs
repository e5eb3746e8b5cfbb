//! What has become of a film: still wet, dry, sealed, or buffed under wax.

use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};

/// A state a film is looked at in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
pub enum State {
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

/// A state that is none.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a state of paint: choose wet, dry, sealed or buffed")]
pub struct UnknownState(String);

impl State {
    /// In the order they come.
    pub const ALL: [State; 4] = [State::Wet, State::Dry, State::Sealed, State::Buffed];

    /// `wet`, `dry`, `sealed` or `buffed`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

/// How dull the surface of a clear coat and of an unpolished wax is, α†.
pub const SEAL: f64 = 0.4;

impl State {
    /// How dull a seal's own surface is (α), which it lays over any that is duller; none where there is no seal.
    /// That of polished wax is common practice†.
    pub const fn seal(self) -> Option<f64> {
        match self {
            State::Wet | State::Dry => None,
            State::Sealed => Some(SEAL),
            State::Buffed => Some(0.15),
        }
    }
}

impl fmt::Display for State {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.id())
    }
}

impl FromStr for State {
    type Err = UnknownState;

    fn from_str(text: &str) -> Result<Self, UnknownState> {
        State::ALL
            .into_iter()
            .find(|state| state.id() == text)
            .ok_or_else(|| UnknownState(text.chars().take(40).collect()))
    }
}
