//! What was quoted for a piece, as it was told to the client.

use jiff::{Timestamp, civil::Date};
use serde::{Deserialize, Serialize};
use warm_blend_paint::{Currency, Name};

/// A range with what is most likely.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Likely {
    /// Lower end; nine cases of ten lie between the ends.
    pub least: f64,
    /// Most likely value.
    pub likely: f64,
    /// Upper end.
    pub most: f64,
}

/// A quote. It stays as it was given, whatever tins, prices and paces become.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Quote {
    /// When it was given.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub at: Timestamp,
    /// Hours of work.
    pub hours: Likely,
    /// The sum asked is the most likely; the ends are what it would come to at the ends of the hours.
    pub sum: Likely,
    /// Part of the sum due when the work is ordered.
    pub deposit: f64,
    /// Currency of the sum, if the workshop had one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub currency: Option<Currency>,
    /// Earliest day when it is ready.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub ready_from: Date,
    /// Latest day when it is ready.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub ready_by: Date,
    /// Who said yes to it, as typed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub accepted_by: Option<Name>,
    /// When they did.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>))]
    pub accepted_at: Option<Timestamp>,
}

impl Likely {
    fn is_sound(&self) -> bool {
        let Self { least, likely, most } = *self;
        0.0 <= least && least <= likely && likely <= most && most <= 1e9
    }
}

impl Quote {
    /// True if its figures can be those of a quote; also applied to what was read from a file.
    pub fn is_sound(&self) -> bool {
        let accepted = self.accepted_by.is_some() == self.accepted_at.is_some();
        self.hours.is_sound()
            && self.sum.is_sound()
            && (0.0..=self.sum.likely).contains(&self.deposit)
            && self.ready_from <= self.ready_by
            && accepted
    }
}
