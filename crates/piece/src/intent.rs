//! Intended contrast of adjoining parts.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// Intended contrast of adjoining parts.
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
pub enum Intent {
    /// Calm: one piece at a glance.
    #[default]
    Quiet,
    /// Parts can be told apart, none dominates.
    Layered,
    /// Parts contrast strongly.
    Bold,
}

/// Least and greatest contrast of adjoining parts for each intent, ΔE00.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Windows {
    /// Window of [`Intent::Quiet`].
    #[cfg_attr(feature = "schema", schema(value_type = [f64; 2]))]
    pub quiet: (f64, f64),
    /// Window of [`Intent::Layered`].
    #[cfg_attr(feature = "schema", schema(value_type = [f64; 2]))]
    pub layered: (f64, f64),
    /// Window of [`Intent::Bold`].
    #[cfg_attr(feature = "schema", schema(value_type = [f64; 2]))]
    pub bold: (f64, f64),
}

impl Default for Windows {
    fn default() -> Self {
        Self { quiet: (0.0, 24.0), layered: (6.0, 38.0), bold: (18.0, 70.0) }
    }
}

impl Intent {
    /// All intents, quietest first.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `quiet` …
    pub fn id(self) -> &'static str {
        self.into()
    }
}

impl Windows {
    /// Window of an intent.
    pub const fn window(&self, intent: Intent) -> (f64, f64) {
        match intent {
            Intent::Quiet => self.quiet,
            Intent::Layered => self.layered,
            Intent::Bold => self.bold,
        }
    }

    pub(super) fn check(&self) -> Result<(), String> {
        for intent in Intent::ALL {
            let (least, most) = self.window(intent);
            if !(0.0..=150.0).contains(&least) || !(0.0..=150.0).contains(&most) || least >= most {
                return Err(format!(
                    "contrast range for {}: {least} to {most} is not valid; use 0 to 150, lower number first",
                    intent.id()
                ));
            }
        }
        Ok(())
    }
}
