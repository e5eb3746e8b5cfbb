//! Costs and price of a piece.

use serde::{Deserialize, Serialize};

/// Rates of the workshop.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Rates {
    /// Price of an hour of work, in the workshop's currency.
    pub hour: Option<f64>,
    /// Overhead (rent, heating, tools) as a share of materials and work.
    pub overhead: Option<f64>,
    /// Margin as a share of the price.
    pub margin: Option<f64>,
}

/// Costs of a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cost {
    /// Paints and products used.
    pub materials: f64,
    /// Work.
    pub work: f64,
    /// Overhead.
    pub overhead: f64,
    /// Price that leaves the margin.
    pub price: f64,
}

impl Rates {
    /// True if none is set.
    pub fn is_unset(&self) -> bool {
        *self == Self::default()
    }

    /// These, and others where these are not set.
    pub fn or(self, other: Self) -> Self {
        Self {
            hour: self.hour.or(other.hour),
            overhead: self.overhead.or(other.overhead),
            margin: self.margin.or(other.margin),
        }
    }

    /// Highest price of an hour.
    pub const MOST: f64 = 1e5;

    /// Checks the rates; an error names the field.
    pub fn check(&self) -> Result<(), (&'static str, String)> {
        let share = |name, value: Option<f64>, most: f64| match value {
            Some(value) if !(0.0..=most).contains(&value) => {
                Err((name, format!("{} is out of range; use 0 to {} %", 100.0 * value, 100.0 * most)))
            }
            _ => Ok(()),
        };
        if let Some(hour) = self.hour.filter(|hour| !(0.0..=Self::MOST).contains(hour)) {
            return Err((
                "hour",
                format!("{hour} is out of range; use an hourly rate of 0 to {}", Self::MOST),
            ));
        }
        share("overhead", self.overhead, 5.0)?;
        // A margin of the whole price would make it endless.
        share("margin", self.margin, 0.9)
    }

    /// Costs for these materials and hours; rates that are not set count as zero.
    pub fn cost(&self, materials: f64, hours: f64) -> Cost {
        let work = hours * self.hour.unwrap_or(0.0);
        let overhead = (materials + work) * self.overhead.unwrap_or(0.0);
        let price = (materials + work + overhead) / (1.0 - self.margin.unwrap_or(0.0));
        Cost { materials, work, overhead, price }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// By hand: 80 of paint and 20 hours at 30 are 680; with a quarter for the workshop 850; of a price of 1000 fifteen parts in a
    /// hundred are earned.
    #[test]
    fn a_worked_example() {
        let rates = Rates { hour: Some(30.0), overhead: Some(0.25), margin: Some(0.15) };
        let cost = rates.cost(80.0, 20.0);
        assert_eq!((cost.work, cost.overhead), (600.0, 170.0));
        assert!((cost.price - 1000.0).abs() < 1e-9);
        assert_eq!(Rates::default().cost(80.0, 20.0).price, 80.0);
    }

    #[test]
    fn rates_that_cannot_be() {
        for (rates, field) in [
            (Rates { hour: Some(-1.0), ..Rates::default() }, "hour"),
            (Rates { overhead: Some(f64::NAN), ..Rates::default() }, "overhead"),
            (Rates { margin: Some(1.0), ..Rates::default() }, "margin"),
        ] {
            assert_eq!(rates.check().unwrap_err().0, field);
        }
        assert!(Rates::default().check().is_ok());
    }
}
