//! What is chosen once for the whole workshop.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Currency, Measure, PaintId};

/// What is chosen once for the whole workshop.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Workshop {
    /// The white that tints are made with and strengths are measured against.
    pub house_white: Option<PaintId>,
    /// The spoons, cups and syringes at hand; everything when empty.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub owned: Vec<Measure>,
    /// The piece at hand; the first where none was chosen.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece: Option<Uuid>,
    /// What prices and budgets are in; they are plain numbers where none was chosen.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub currency: Option<Currency>,
}
