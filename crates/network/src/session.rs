//! Those who were let in.

use base64::Engine;
use base64::prelude::BASE64_URL_SAFE_NO_PAD;
use jiff::{SignedDuration, Timestamp};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use uuid::Uuid;
use warm_blend_paint::Name;

/// How long a helper may stay away.
const HELPER: SignedDuration = SignedDuration::from_hours(180 * 24);
/// How long a guest is let in.
const GUEST: SignedDuration = SignedDuration::from_hours(24);

/// What somebody may do.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::EnumString,
    strum::VariantArray,
)]
#[serde(rename_all = "kebab-case")]
#[strum(serialize_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Access {
    /// Sees and changes everything but what concerns the workshop's machine itself.
    Helper,
    /// Looks at everything and changes nothing; for a day.
    Guest,
}

/// A machine that was let in.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Session {
    /// Id.
    pub id: Uuid,
    /// Who uses it.
    pub name: Name,
    /// What they may do.
    pub role: Access,
    /// SHA-256 of the token: whoever reads the file cannot use it.
    pub(crate) token: String,
    /// When it was let in.
    pub made_at: Timestamp,
    /// When it was last seen, within an hour.
    pub seen_at: Timestamp,
}

impl Session {
    /// Whether it may still come in.
    pub fn is_valid(&self, now: Timestamp) -> bool {
        match self.role {
            Access::Helper => now < self.seen_at + HELPER,
            Access::Guest => now < self.made_at + GUEST,
        }
    }

    pub(crate) fn visitor(&self) -> Visitor {
        Visitor { session: self.id, name: self.name.clone(), role: self.role }
    }
}

/// Somebody at another machine.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Visitor {
    /// Id of the session.
    pub session: Uuid,
    /// Name.
    pub name: Name,
    /// What they may do.
    pub role: Access,
}

/// The secret by which a session is recognised: 256 random bits.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Token(String);

impl Token {
    pub(crate) fn draw() -> Result<Self, getrandom::Error> {
        let mut bytes = [0; 32];
        getrandom::fill(&mut bytes)?;
        Ok(Self(BASE64_URL_SAFE_NO_PAD.encode(bytes)))
    }

    /// The token as text.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

/// SHA-256 of a token. It has 256 random bits, so that a slow hash would add nothing.
pub(crate) fn hashed(token: &str) -> String {
    BASE64_URL_SAFE_NO_PAD.encode(Sha256::digest(token))
}

/// Why a code does not let somebody in.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NotLetIn {
    /// There is no invitation.
    #[error("no code is valid now: ask for a new one at the workshop’s machine")]
    NoInvitation,
    /// The code is wrong.
    #[error("this code is wrong: type the eight figures shown on the workshop’s machine")]
    Wrong,
    /// Too many wrong codes came from there.
    #[error("too many wrong codes: wait {} min, then ask for a new one", minutes(*.0))]
    Locked(SignedDuration),
    /// It could not be saved.
    #[error("{0}")]
    Failed(String),
}

/// Minutes, rounded up.
fn minutes(wait: SignedDuration) -> i64 {
    (wait.as_secs() + 59) / 60
}
