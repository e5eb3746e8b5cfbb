//! Terms of quotes as entered: shares in percent.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_plan::{QuoteTerms, Rates};

use crate::Refusal;

/// Terms on which the workshop quotes. What is left out counts as nothing.
#[derive(Debug, Clone, Copy, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct TermsEntry {
    /// Deposit, % of the sum.
    pub deposit: Option<f64>,
    /// Price of delivery.
    pub delivery: Option<f64>,
    /// Tax, % of price and delivery.
    pub tax: Option<f64>,
    /// Least price of a piece.
    pub minimum: Option<f64>,
    /// Mark-up on paint and products, %.
    pub markup: Option<f64>,
    /// The sum is rounded up to a multiple of this.
    pub rounding: Option<f64>,
    /// Price of an hour of new work; if left out, as on the last run sheet.
    pub hour: Option<f64>,
    /// Overhead (rent, heating, tools), % of materials and work; likewise.
    pub overhead: Option<f64>,
    /// Margin, % of the price; likewise.
    pub margin: Option<f64>,
}

impl TermsEntry {
    /// The terms, if they are possible.
    pub fn parse(self) -> Result<QuoteTerms, Refusal> {
        let share = |percent: Option<f64>| percent.map(|percent| percent / 100.0);
        let Self { deposit, delivery, tax, minimum, markup, rounding, hour, overhead, margin } = self;
        let terms = QuoteTerms {
            deposit: share(deposit),
            delivery,
            tax: share(tax),
            minimum,
            markup: share(markup),
            rounding,
            rates: Rates { hour, overhead: share(overhead), margin: share(margin) },
        };
        terms.check().map_err(|(field, words)| Refusal::field(format!("/terms/{field}"), words))?;
        Ok(terms)
    }
}

impl From<QuoteTerms> for TermsEntry {
    fn from(terms: QuoteTerms) -> Self {
        // Shares are stored; 7 % of them are 7.000000000000001.
        let percent = |share: Option<f64>| share.map(|share| (1e8 * share).round() / 1e6);
        let QuoteTerms { deposit, delivery, tax, minimum, markup, rounding, rates } = terms;
        Self {
            deposit: percent(deposit),
            delivery,
            tax: percent(tax),
            minimum,
            markup: percent(markup),
            rounding,
            hour: rates.hour,
            overhead: percent(rates.overhead),
            margin: percent(rates.margin),
        }
    }
}
