//! A quote as the client sees it.

use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_documents::Workshop;
use warm_blend_paint::Units;
use warm_blend_piece::{Likely, Quote};
use warm_blend_plan::Offer;

use super::QuoteAsked;
use crate::pieces::dimensions;
use crate::{DimensionView, JobEstimate, Refusal, TinCost};

/// A quote for a piece that does not exist yet.
#[derive(Debug, Serialize, ToSchema)]
pub struct QuoteView {
    /// The finishes: `Glazed, dry-brushed and rubbed`.
    pub finishes: Vec<String>,
    /// Dimensions, as text.
    pub dimensions: Vec<DimensionView>,
    /// Hours of work.
    pub hours: Likely,
    /// Hours as a range: `14 to 19 h`.
    pub hours_words: String,
    /// First day on which it is ready, `2026-12-08`.
    pub ready_from: String,
    /// Last day on which it is ready.
    pub ready_by: String,
    /// What the client is asked to pay; the ends are what it would come to at the ends of the hours.
    pub sum: Likely,
    /// Price of the piece, without delivery and tax.
    pub price: f64,
    /// Delivery.
    pub delivery: f64,
    /// Tax.
    pub tax: f64,
    /// Due when the work is ordered.
    pub deposit: f64,
    /// True where the minimum price counts.
    pub is_minimum: bool,
    /// Cost of paint and products.
    pub materials: f64,
    /// What is used of each tin, the dearest first.
    pub tins: Vec<TinCost>,
    /// What makes the ranges wide, the greatest first.
    pub wide: Vec<String>,
    /// Assumptions.
    pub notes: Vec<String>,
}

/// What is asked for a job on the terms of a workshop: the offer and its range.
fn offered(workshop: &Workshop, estimate: &JobEstimate) -> (Offer, Likely) {
    let JobEstimate { rates, materials, hours, .. } = estimate;
    let at = |hours: f64| workshop.terms.offer(rates, *materials, hours);
    let likely = at(hours.likely);
    (likely, Likely { least: at(hours.least).sum, likely: likely.sum, most: at(hours.most).sum })
}

impl QuoteAsked {
    /// The quote for display.
    pub fn view(&self, workshop: &Workshop, estimate: JobEstimate, units: Units) -> QuoteView {
        let (offer, sum) = offered(workshop, &estimate);
        let JobEstimate { hours, hours_words, ready: (from, by), materials, tins, wide, notes, .. } =
            estimate;
        QuoteView {
            finishes: self.finishes_in_words(),
            dimensions: dimensions(&self.sized(), units),
            hours,
            hours_words,
            ready_from: from.to_string(),
            ready_by: by.to_string(),
            sum,
            price: offer.price,
            delivery: offer.delivery,
            tax: offer.tax,
            deposit: offer.deposit,
            is_minimum: offer.is_minimum,
            materials,
            tins,
            wide,
            notes,
        }
    }
}

/// The quote as it is kept with the piece.
pub fn quote_of(workshop: &Workshop, estimate: &JobEstimate, at: Timestamp) -> Result<Quote, Refusal> {
    let (offer, sum) = offered(workshop, estimate);
    let quote = Quote {
        at,
        hours: estimate.hours,
        sum,
        deposit: offer.deposit,
        currency: workshop.currency,
        ready_from: estimate.ready.0,
        ready_by: estimate.ready.1,
        accepted_by: None,
        accepted_at: None,
    };
    if quote.is_sound() { Ok(quote) } else { Err(Refusal::Broken) }
}
