//! The choices of the workshop, as they are entered and shown.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Currency, Measure, PaintId};

use crate::{Kept, Refusal, Workshop, house_white};

/// The choices.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct WorkshopEntry {
    /// The white that tints are made with and strengths are measured against.
    pub house_white: Option<PaintId>,
    /// The spoons, cups and syringes at hand, such as `tsp` and `cup`; everything when empty.
    #[serde(default)]
    pub owned: Vec<Measure>,
    /// What prices and budgets are in, by its ISO 4217 code; plain numbers where none was chosen.
    #[serde(default)]
    pub currency: Option<Currency>,
}

/// The choices as they are kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopKept {
    /// To be named when they are changed.
    pub revision: i64,
    /// The choices.
    pub entry: WorkshopEntry,
}

impl WorkshopEntry {
    /// The workshop with these choices: `white` is the tin of the house white.
    pub fn over(self, before: Workshop, white: Option<&Kept<ShelfPaint>>) -> Result<Workshop, Refusal> {
        let Self { house_white, owned, currency } = self;
        let refused = |words| Err(Refusal::field("/house_white", words));
        match white {
            Some(tin) if tin.value.class.is_medium() => {
                refused("a medium can’t be the house white; choose a white paint")
            }
            Some(tin) if tin.removed => refused("this paint is no longer on the shelf; choose another"),
            _ => Ok(Workshop { house_white, owned, currency, ..before }),
        }
    }
}

impl WorkshopKept {
    /// The choices as they stand, among these tins.
    pub fn of(kept: &Kept<Workshop>, tins: &[Kept<ShelfPaint>]) -> Self {
        let Workshop { owned, currency, .. } = kept.value.clone();
        let house_white = house_white(&kept.value, tins);
        Self { revision: kept.revision, entry: WorkshopEntry { house_white, owned, currency } }
    }
}
