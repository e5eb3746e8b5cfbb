//! Settings of the workshop.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Currency, Measure, PaintId};
use warm_blend_plan::{BrushRack, QuoteTerms};

/// Settings of the workshop.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct Workshop {
    /// The white for tints, which defines unit strength.
    pub house_white: Option<PaintId>,
    /// Available spoons, cups and syringes; if empty, all measures.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub owned: Vec<Measure>,
    /// The current piece; by default the first.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece: Option<Uuid>,
    /// Currency of prices and budgets; if absent, plain numbers.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub currency: Option<Currency>,
    /// Terms on which it quotes.
    #[serde(default, skip_serializing_if = "is_default")]
    pub terms: QuoteTerms,
    /// Its brushes.
    #[serde(default, skip_serializing_if = "is_default")]
    pub brushes: BrushRack,
}

fn is_default<T: Default + PartialEq>(value: &T) -> bool {
    *value == T::default()
}
