//! Settings of the workshop.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Currency, Measure, PaintId};

use crate::{Refusal, TermsEntry, house_white};

/// Settings as entered.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct WorkshopEntry {
    /// The white for tints, which defines unit strength.
    pub house_white: Option<PaintId>,
    /// Available spoons, cups and syringes, such as `tsp` and `cup`; if empty, all measures.
    #[serde(default)]
    pub owned: Vec<Measure>,
    /// Currency of prices and budgets, ISO 4217; if absent, plain numbers.
    #[serde(default)]
    pub currency: Option<Currency>,
    /// Terms of quotes; unchanged if left out.
    #[serde(default)]
    pub terms: Option<TermsEntry>,
}

/// Saved settings.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopKept {
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// The settings.
    pub entry: WorkshopEntry,
}

impl WorkshopEntry {
    /// The workshop with these settings; `white` is the tin of the house white.
    pub fn over(self, before: Workshop, white: Option<&Kept<ShelfPaint>>) -> Result<Workshop, Refusal> {
        let Self { house_white, owned, currency, terms } = self;
        let terms = terms.map_or(Ok(before.terms), TermsEntry::parse)?;
        let refused = |words| Err(Refusal::field("/house_white", words));
        match white {
            Some(tin) if tin.value.class.is_medium() => {
                refused("a medium can’t be the house white; choose a white paint")
            }
            Some(tin) if tin.removed => refused("this paint is no longer on the shelf; choose another"),
            _ => Ok(Workshop { house_white, owned, currency, terms, ..before }),
        }
    }
}

impl WorkshopKept {
    /// Settings of a workshop with these tins.
    pub fn of(kept: &Kept<Workshop>, tins: &[Kept<ShelfPaint>]) -> Self {
        let Workshop { owned, currency, terms, .. } = kept.value.clone();
        let house_white = house_white(&kept.value, tins);
        Self {
            revision: kept.revision,
            entry: WorkshopEntry { house_white, owned, currency, terms: Some(terms.into()) },
        }
    }
}
