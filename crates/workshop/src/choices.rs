//! The choices of the workshop, as they are entered and shown.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Currency, Measure, PaintId};

use crate::{Kept, Refusal, Workshop, house_white};

/// The choices.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct WorkshopEntry {
    /// The white that tints are made with and strengths are measured against.
    pub house_white: Option<Uuid>,
    /// The spoons, cups and syringes at hand, such as `tsp` and `cup`; everything when empty.
    #[serde(default)]
    pub owned: Vec<Measure>,
    /// What prices and budgets are in, by its ISO 4217 code; plain numbers where none was chosen.
    #[serde(default)]
    pub currency: Option<String>,
}

/// The choices as they are kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopKept {
    /// To be named when they are changed.
    pub revision: i64,
    /// The choices.
    pub entry: WorkshopEntry,
}

/// Choices that were checked.
#[derive(Debug)]
pub struct Chosen {
    /// The house white.
    pub house_white: Option<PaintId>,
    owned: Vec<Measure>,
    currency: Option<Currency>,
}

impl WorkshopEntry {
    /// What is chosen.
    pub fn parse(&self) -> Result<Chosen, Refusal> {
        let currency = self.currency.as_deref().map(Currency::new).transpose();
        let currency = currency.map_err(|error| Refusal::field("/currency", error))?;
        Ok(Chosen { house_white: self.house_white.map(PaintId), owned: self.owned.clone(), currency })
    }
}

impl Chosen {
    /// The workshop with these choices: `white` is the tin of the house white.
    pub fn over(self, before: Workshop, white: Option<&Kept<ShelfPaint>>) -> Result<Workshop, Refusal> {
        let Self { house_white, owned, currency } = self;
        let refused = |words| Err(Refusal::field("/house_white", words));
        match white {
            Some(tin) if tin.value.class.is_medium() => {
                refused("a medium has no white to it: choose a white paint")
            }
            Some(tin) if tin.removed => refused("this paint is no longer on the shelf: choose one that is"),
            _ => Ok(Workshop { house_white, owned, currency, ..before }),
        }
    }
}

impl WorkshopKept {
    /// The choices as they stand, among these tins.
    pub fn of(kept: &Kept<Workshop>, tins: &[Kept<ShelfPaint>]) -> Self {
        let house_white = house_white(&kept.value, tins).map(|paint| paint.0);
        let currency = kept.value.currency.map(String::from);
        Self {
            revision: kept.revision,
            entry: WorkshopEntry { house_white, owned: kept.value.owned.clone(), currency },
        }
    }
}
