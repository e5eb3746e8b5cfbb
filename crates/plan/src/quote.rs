//! What a client is asked to pay.
//!
//! Common practice: paint and products with a mark-up, work and overhead with a margin ([`Rates`]), at least a minimum; then delivery, and
//! tax on all of it. The sum that the client pays is rounded up, and a share of it is due when the work is ordered.

use serde::{Deserialize, Serialize};

use crate::Rates;

/// Terms on which the workshop quotes. Those that are not set count as nothing.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct QuoteTerms {
    /// Share of the sum due when the work is ordered.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub deposit: Option<f64>,
    /// Price of delivery.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub delivery: Option<f64>,
    /// Tax as a share of the price and delivery.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tax: Option<f64>,
    /// Least price of a piece, before delivery and tax.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub minimum: Option<f64>,
    /// Mark-up on paint and products as a share of their cost.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub markup: Option<f64>,
    /// The sum is rounded up to a multiple of this.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rounding: Option<f64>,
    /// Rates for work that is new; what is not set here is as on the last run sheet.
    #[serde(skip_serializing_if = "Rates::is_unset")]
    pub rates: Rates,
}

/// What a client is asked to pay. Price, delivery and tax add up to the sum.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Offer {
    /// Price of the piece, including what rounding adds.
    pub price: f64,
    /// Delivery.
    pub delivery: f64,
    /// Tax.
    pub tax: f64,
    /// The sum.
    pub sum: f64,
    /// Part of the sum due when the work is ordered.
    pub deposit: f64,
    /// True where the minimum is more than what the work would come to.
    pub is_minimum: bool,
}

/// What a share above a multiple may come from arithmetic alone.
const ARITHMETIC: f64 = 1e-9;

impl QuoteTerms {
    /// Highest amount of money.
    pub const MOST: f64 = 1e7;

    /// Checks the terms; an error names the field.
    pub fn check(&self) -> Result<(), (&'static str, String)> {
        let shares = [
            ("deposit", self.deposit, 1.0),
            // Twice the highest rates of value added tax.
            ("tax", self.tax, 0.6),
            ("markup", self.markup, 5.0),
        ];
        for (name, value, most) in shares {
            if let Some(value) = value.filter(|value| !(0.0..=most).contains(value)) {
                let words = format!("{} % is out of range; use 0 to {} %", 100.0 * value, 100.0 * most);
                return Err((name, words));
            }
        }
        for (name, value) in [("delivery", self.delivery), ("minimum", self.minimum)] {
            if let Some(value) = value.filter(|value| !(0.0..=Self::MOST).contains(value)) {
                return Err((name, format!("{value} is out of range; use 0 to {}", Self::MOST)));
            }
        }
        match self.rounding.filter(|value| !(0.0..=1000.0).contains(value)) {
            Some(value) => Err(("rounding", format!("{value} is out of range; use 0 to 1000"))),
            None => self.rates.check(),
        }
    }

    /// What is asked for these materials and hours.
    pub fn offer(&self, rates: &Rates, materials: f64, hours: f64) -> Offer {
        let share = |value: Option<f64>| value.unwrap_or(0.0);
        let worth = rates.cost(materials * (1.0 + share(self.markup)), hours).price;
        let least = share(self.minimum);
        let (delivery, tax) = (share(self.delivery), share(self.tax));
        let exact = (worth.max(least) + delivery) * (1.0 + tax);
        let sum = match self.rounding {
            Some(step) if step > 0.0 => (exact / step - ARITHMETIC).ceil() * step,
            _ => exact,
        };
        let net = sum / (1.0 + tax);
        Offer {
            price: net - delivery,
            delivery,
            tax: sum - net,
            sum,
            deposit: sum * share(self.deposit),
            is_minimum: least > worth,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn terms() -> QuoteTerms {
        QuoteTerms {
            deposit: Some(0.3),
            delivery: Some(45.0),
            tax: Some(0.2),
            minimum: Some(250.0),
            markup: Some(0.5),
            rounding: Some(10.0),
            rates: Rates::default(),
        }
    }

    /// By hand: 40 of paint are 60 with the mark-up; 12 hours at 35 are 420; with an eighth for the workshop 540; a tenth of a price of
    /// 600 is earned. With delivery 645, with tax 774, rounded up 780; a third less a tenth of it is 234.
    #[test]
    fn a_worked_example() {
        let rates = Rates { hour: Some(35.0), overhead: Some(0.125), margin: Some(0.1) };
        let offer = terms().offer(&rates, 40.0, 12.0);
        assert!((offer.sum - 780.0).abs() < 1e-9 && (offer.deposit - 234.0).abs() < 1e-9, "{offer:?}");
        assert!((offer.tax - 130.0).abs() < 1e-9 && (offer.price - 605.0).abs() < 1e-9, "{offer:?}");
        assert!(!offer.is_minimum);
        // Two hours on a frame come to less than the minimum: (250 + 45) × 1.2 = 354.
        let frame = terms().offer(&rates, 4.0, 2.0);
        assert!(frame.is_minimum && (frame.sum - 360.0).abs() < 1e-9, "{frame:?}");
        // What is a multiple already is not rounded up.
        let plain = QuoteTerms { rounding: Some(0.1), ..QuoteTerms::default() };
        assert!((plain.offer(&Rates::default(), 0.3, 0.0).sum - 0.3).abs() < 1e-12);
        assert_eq!(QuoteTerms::default().offer(&Rates::default(), 80.0, 20.0).sum, 80.0);
    }

    #[test]
    fn terms_that_cannot_be() {
        for (terms, field) in [
            (QuoteTerms { tax: Some(2.0), ..terms() }, "tax"),
            (QuoteTerms { deposit: Some(1.1), ..terms() }, "deposit"),
            (QuoteTerms { markup: Some(f64::NAN), ..terms() }, "markup"),
            (QuoteTerms { delivery: Some(f64::INFINITY), ..terms() }, "delivery"),
            (QuoteTerms { minimum: Some(-1.0), ..terms() }, "minimum"),
            (QuoteTerms { rounding: Some(1e6), ..terms() }, "rounding"),
        ] {
            assert_eq!(terms.check().unwrap_err().0, field);
        }
        assert_eq!(terms().check(), Ok(()));
    }

    proptest! {
        /// It adds up, is a multiple, never less than without rounding, and never less for more work.
        #[test]
        fn it_adds_up(
            materials in 0.0..500.0f64, hours in 0.0..100.0f64, more in 0.0..50.0f64, rounding in 0.5..50.0f64, tax in 0.0..0.5f64,
        ) {
            let rates = Rates { hour: Some(38.0), overhead: Some(0.12), margin: Some(0.1) };
            let rounded = QuoteTerms { rounding: Some(rounding), tax: Some(tax), ..terms() };
            let offer = rounded.offer(&rates, materials, hours);
            prop_assert!((offer.price + offer.delivery + offer.tax - offer.sum).abs() < 1e-9 * offer.sum.max(1.0));
            let times = offer.sum / rounding;
            prop_assert!((times - times.round()).abs() < 1e-6);
            let exact = QuoteTerms { rounding: None, ..rounded }.offer(&rates, materials, hours);
            prop_assert!(offer.sum >= exact.sum - 1e-6 && offer.sum < exact.sum + rounding + 1e-6);
            prop_assert!(offer.deposit <= offer.sum);
            prop_assert!(rounded.offer(&rates, materials, hours + more).sum >= offer.sum - 1e-9);
        }
    }
}
