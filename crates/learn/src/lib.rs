//! Learning the shelf from readings: what each paint most probably is, how certain that is, and what to test next.
//!
//! | question | where |
//! |---|---|
//! | what is assumed before any reading? | `prior`, drawn in `first_guess` |
//! | what does a reading contain, and how accurate is it? | [`Reading`], [`Source`], [`PartsMethod`] |
//! | what should it have been? | `residual`; for all plausible shelves at once: `ensemble_lanes` |
//! | what is most probable, given all readings? | [`learn`], component by component: `fitted_component`, `fit` |
//! | is a reading possible at all? | [`make_sense`] |
//! | how certain is a mix, a film, a state? | [`Ensemble`], [`Certainty`] |
//! | all of that for a workspace | [`Estimate`] |
//! | what is one more test worth? | [`worth`](worth()) |
//!
//! The estimate depends only on the tins and the list of readings, so that removing a reading undoes it. What is kept
//! between calls, and in files (`kept`), is a cache.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod backtest;
mod certainty;
mod component;
mod discrepancy;
pub mod draws;
pub mod ensemble;
mod ensemble_lanes;
mod estimate;
mod factor;
mod first_guess;
pub mod fit;
mod fitted_component;
mod judged;
mod kept;
mod learnt;
pub mod local_metric;
mod log;
mod masstones;
mod plausibility;
mod prior;
mod reading;
mod residual;
mod shelf;
mod strength;
mod worth;

pub use backtest::{Backtested, LogOf, backtest, predicted_mix};
pub use certainty::Certainty;
pub use ensemble::{Doubt, Ensemble};
pub use estimate::{Estimate, OfShelf};
pub use judged::Judged;
pub use kept::{KeptComponent, Said};
pub use learnt::{BadTin, Learnt, learn, learn_after, learn_named, learn_up_to};
pub use log::{LoggedReading, PRACTICE_READER};
pub use plausibility::{Senseless, make_sense};
pub use prior::Facts;
pub use reading::{BadMeasured, Measured, PartsMethod, Reading, Shown, Source};
pub use shelf::ShelfPaint;
pub use strength::{Strength, strengths};
pub use worth::{Beside, Reads, Test, Worth, worth};
