//! Quantities with units and ranges.

use serde::{Deserialize, Serialize};

/// A quantity out of range.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadMeasure {
    /// Not a finite number.
    #[error("not a number; enter a plain number")]
    NotANumber,
    /// Negative, or zero where that is not allowed: the value and the least.
    #[error("{given} is too small; the least is {1}", given = short(*.0))]
    TooSmall(f64, f64),
    /// More than any workshop holds: the value and the most.
    #[error("{given} is too large; the most is {1}", given = short(*.0))]
    TooLarge(f64, f64),
}

/// A number for a sentence: no three hundred digits.
fn short(value: f64) -> String {
    if value.abs() < 1e9 { value.to_string() } else { format!("{value:e}") }
}

/// A currency by its ISO 4217 code.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(value_type = String, example = "EUR"))]
pub struct Currency([u8; 3]);

/// A text that is not a currency code.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a currency; use three letters, such as EUR")]
pub struct BadCurrency(String);

impl Currency {
    /// Accepts a code in letters of either case.
    ///
    /// ```
    /// use warm_blend_paint::Currency;
    /// assert_eq!(Currency::new("eur").unwrap().code(), "EUR");
    /// assert!(Currency::new("£").is_err());
    /// ```
    pub fn new(text: &str) -> Result<Self, BadCurrency> {
        match <[u8; 3]>::try_from(text.trim().as_bytes()) {
            Ok(letters) if letters.iter().all(u8::is_ascii_alphabetic) => {
                Ok(Self(letters.map(|letter| letter.to_ascii_uppercase())))
            }
            _ => Err(BadCurrency(text.chars().take(20).collect())),
        }
    }

    /// `EUR`
    pub fn code(&self) -> &str {
        std::str::from_utf8(&self.0).unwrap_or_default()
    }
}

impl TryFrom<String> for Currency {
    type Error = BadCurrency;

    fn try_from(text: String) -> Result<Self, BadCurrency> {
        Self::new(&text)
    }
}

impl From<Currency> for String {
    fn from(currency: Currency) -> Self {
        currency.code().to_owned()
    }
}

/// Checks that a number lies in a range.
pub fn in_range(value: f64, least: f64, most: f64) -> Result<f64, BadMeasure> {
    if !value.is_finite() {
        Err(BadMeasure::NotANumber)
    } else if value < least {
        Err(BadMeasure::TooSmall(value, least))
    } else if value > most {
        Err(BadMeasure::TooLarge(value, most))
    } else {
        Ok(value)
    }
}

/// Wet film thickness, µm.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Microns(f64);

impl Microns {
    /// Accepts 0 to a metre of paint, in µm.
    pub fn new(microns: f64) -> Result<Self, BadMeasure> {
        in_range(microns, 0.0, 1e6).map(Self)
    }

    /// Takes a computed or tabulated thickness, in µm, that is known to be in range.
    pub const fn of(microns: f64) -> Self {
        Self(microns)
    }

    /// Thickness in mm, the unit that goes with K and S.
    pub const fn millimetres(self) -> f64 {
        self.0 / 1000.0
    }

    /// Thickness in µm.
    pub const fn value(self) -> f64 {
        self.0
    }

    /// Spreading rate at this thickness, m²/l: 1000/µm, because a litre is a thousandth of a cubic metre.
    ///
    /// ```
    /// use warm_blend_paint::Microns;
    /// assert_eq!(Microns::new(100.0).unwrap().spreading_rate(), 10.0);
    /// ```
    pub fn spreading_rate(self) -> f64 {
        1000.0 / self.0
    }
}

/// A volume of wet product, ml.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
pub struct Millilitres(f64);

impl Millilitres {
    /// Greatest volume: a thousand litres.
    pub const MOST: f64 = 1e6;

    /// Accepts 0 to a thousand litres, in ml.
    pub fn new(ml: f64) -> Result<Self, BadMeasure> {
        in_range(ml, 0.0, Self::MOST).map(Self)
    }

    /// Volume in ml.
    pub const fn value(self) -> f64 {
        self.0
    }
}

impl TryFrom<f64> for Microns {
    type Error = BadMeasure;

    fn try_from(microns: f64) -> Result<Self, BadMeasure> {
        Self::new(microns)
    }
}

impl From<Microns> for f64 {
    fn from(microns: Microns) -> f64 {
        microns.0
    }
}

impl TryFrom<f64> for Millilitres {
    type Error = BadMeasure;

    fn try_from(ml: f64) -> Result<Self, BadMeasure> {
        Self::new(ml)
    }
}

impl From<Millilitres> for f64 {
    fn from(ml: Millilitres) -> f64 {
        ml.0
    }
}

/// Price of a tin in the painter's own currency.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Price {
    amount: f64,
    tin: Millilitres,
}

impl Price {
    /// Price `amount` for a tin of `tin` ml; a tin holds at least 1 ml.
    pub fn new(amount: f64, tin: Millilitres) -> Result<Self, BadMeasure> {
        in_range(tin.value(), 1.0, 1e6)?;
        Ok(Self { amount: in_range(amount, 0.0, 1e6)?, tin })
    }

    /// Price of the tin.
    pub const fn amount(self) -> f64 {
        self.amount
    }

    /// Price of a millilitre.
    pub const fn by_ml(self) -> f64 {
        self.amount / self.tin.value()
    }

    /// Volume of the tin.
    pub const fn tin(self) -> Millilitres {
        self.tin
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn nonsense_is_refused_with_the_bound_it_broke() {
        assert_eq!(Millilitres::new(f64::NAN), Err(BadMeasure::NotANumber));
        assert_eq!(Millilitres::new(-1.0), Err(BadMeasure::TooSmall(-1.0, 0.0)));
        assert_eq!(Millilitres::new(1e308), Err(BadMeasure::TooLarge(1e308, 1e6)));
        assert!(Price::new(12.0, Millilitres::new(0.0).unwrap()).is_err());
        assert!(Price::new(f64::INFINITY, Millilitres::new(500.0).unwrap()).is_err());
        assert!(serde_json::from_str::<Millilitres>("-3").is_err());
    }

    /// Letters of either case, as ISO 4217 has them; whatever else there is, is refused in a sentence that names it.
    #[test]
    fn a_currency_is_three_letters() {
        for (text, code) in [("EUR", "EUR"), (" gbp ", "GBP"), ("Chf", "CHF")] {
            let currency = Currency::new(text).unwrap();
            assert_eq!(currency.code(), code);
            assert_eq!(serde_json::to_string(&currency).unwrap(), format!("\"{code}\""));
        }
        for bad in ["", "€", "EU", "EURO", "E1R", "ÄÖÜ", "\u{202e}EUR"] {
            let error = Currency::new(bad).unwrap_err().to_string();
            assert!(error.contains("three letters"), "{error}");
        }
        assert!(Currency::new(&"x".repeat(10_000)).unwrap_err().to_string().len() < 100);
        assert!(serde_json::from_str::<Currency>("\"pounds\"").is_err());
    }
}
