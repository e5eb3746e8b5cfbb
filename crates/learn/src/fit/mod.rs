//! Fit: the most probable shelf, given all readings.
//!
//! Maximum a posteriori: the coordinates θ of all paints with readings, each with prior N(0, 1), minimise
//!
//! ```text
//! ½ |θ|² + ½ Σ |residual(reading)|²
//! ```
//!
//! | step | where |
//! | Gauss–Newton search from any start | `search` |
//! | full and incremental fits | `full`, `incremental` |
//! | remaining uncertainty, as plausible shelves | `plausible` |
//! | distance of each reading from what the others predict | `outliers` |
//! | result | `found` |
//!
//! A reading that is further out than chance explains is left out, and the painter is asked about it.

mod found;
mod full;
mod incremental;
mod outliers;
mod plausible;
mod remembered;
mod search;
mod system;

use std::sync::Arc;

pub use outliers::deviations;
pub(crate) use remembered::{MANY, Remembered};

use super::{first_guess::FirstGuess, reading::Reading};
use found::Fit;
use system::System;

/// Fits all readings, except those marked in `left_out` beforehand.
///
/// `before` was fitted to the same tins and all but the last few readings. `near` gives coordinates by tin to start from.
/// If the result is to be `kept`, it includes what the next incremental fit needs.
pub(crate) fn fit(
    tins: &[Arc<FirstGuess>],
    readings: &[Reading],
    left_out: Vec<bool>,
    before: Option<&Remembered>,
    near: &[Option<&[f64]>],
    kept: bool,
) -> Fit {
    let kept = kept && readings.len() >= MANY;
    let system = System::of(tins, readings, &left_out, before.map(|before| &before.pattern), kept);
    before
        .and_then(|before| system.again(before, &left_out))
        .unwrap_or_else(|| system.fit_all(left_out, near))
}
