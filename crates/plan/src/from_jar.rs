//! Paint out of jars.

use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// Paint that a step took out of a jar.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct FromJar {
    /// The pot whose rest is in the jar.
    pub pour: Uuid,
    /// Identifies the use among those of the jar.
    pub taken: Uuid,
    /// Amount, ml.
    pub ml: f64,
}
