//! What is done at the mixing bench, beside mixing itself.
//!
//! | question | where |
//! |---|---|
//! | which mix of the shelf comes nearest to a colour? | [`find`], [`Recipe`] |
//! | what is to be added to a pot that is off its target? | [`correct`], [`Correction`] |
//! | what are its shades, lighter and darker? | [`ladder`], [`Rung`] |
//! | what does a medium make of it, and where are its limits? | [`Preset`], [`Kind`], [`warnings`] |
//! | how much is to be mixed? | [`for_area`], [`using_up`] |
//! | what does the shelf lack, and what should not be stirred together? | [`missing`], [`clash`] |
//! | what lies between two colours, and what bridges them? | [`Path`], [`bridge`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod advice;
mod apart;
mod batch;
mod blend;
mod correct;
mod ladder;
mod matching;
mod mediums;
mod pour;
mod reach;
mod roughly;
mod sweep;

pub use advice::{clash, missing};
pub use batch::{SQUARE_FOOT, for_area, per_square_metre, using_up};
pub use blend::{Mud, Path, Stronger, bridge, seen_between};
pub use correct::{Correction, Pot, correct};
pub use ladder::{Made, Rung, SHADE, SHADES, ladder};
pub use matching::{EVERY, Limits, Progress, Recipe, Tin, find};
pub use mediums::{Kind, Preset, Warning, warnings};
pub use pour::{BadPour, Deed, PourRecord, Said, Standing, Step, TOUCH, touch};
