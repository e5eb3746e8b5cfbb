//! The most probable shelf, given every reading.
//!
//! Maximum a posteriori: the coordinates θ of all paints that were read, each N(0, 1) beforehand, minimise
//!
//! ```text
//! ½ |θ|² + ½ Σ |residual(reading)|²
//! ```
//!
//! | step | where |
//! |---|---|
//! | the search for it, from wherever | `search` |
//! | the same where it stood, with a few readings more | `again` |
//! | what is still unknown, as plausible shelves | `plausible` |
//! | how far each reading lies from what the others say | `off` |
//!
//! A reading that lies further out than chance explains is not absorbed: it is left out, and asked about.

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

/// Fits all readings; those marked in `left_out` beforehand stay out.
///
/// `before` was fitted to the same tins and to all readings but the last few. From `near`, coordinates by tin where it may be
/// not far from, the way is shorter. What readings to come are learnt from is gathered where it is to be `kept`.
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
