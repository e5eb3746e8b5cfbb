//! Tasks at the mixing bench, beyond mixing itself.
//!
//! | question | where |
//! |---|---|
//! | which mix of the shelf comes closest to a colour? | [`find`], [`Recipe`] |
//! | what must be added to a pot to reach its target? | [`correct`], [`PotCorrection`] |
//! | which mixes are lighter and darker? | [`ladder`], [`Shade`] |
//! | what does a medium make of a pot, and what are the limits? | [`Preset`], [`MixtureKind`], [`warnings`] |
//! | how far off is a recipe that is mixed again? | [`mixed_again`] |
//! | what is left of a pot, and is it still good? | [`Jar`], [`Keeping`] |
//! | how large should a batch be? | [`for_area`], [`using_up`] |
//! | what does the shelf lack, and what should not be mixed? | [`missing`], [`clash`] |
//! | what colours are thousands of mixes? | [`ManyMixes`] |
//! | what lies between two colours, and what bridges them? | [`BlendCurve`], [`bridge`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod advice;
mod again;
mod batch;
mod blend;
mod ciede2000_bound;
mod ciede2000_simd;
mod correct;
mod jar;
mod keeping;
mod labs;
mod ladder;
mod lanes;
mod likely;
mod matching;
mod mediums;
mod pour;
mod reach;
mod reduced_bands;

pub use advice::{clash, missing};
pub use again::mixed_again;
pub use batch::{SQUARE_FOOT, for_area, per_square_metre, using_up};
pub use blend::{BlendCurve, Mud, Stronger, bridge, seen_between};
pub use correct::{Pot, PotCorrection, correct};
pub use jar::{BadJar, Jar, JarSign, JarUse};
pub use keeping::{Disposal, JarState, Keeping};
pub use ladder::{MadeShade, SHADE, SHADES, Shade, ladder};
pub use likely::{DoubtfulTin, InDoubt, LikelyRecipe, deciding_test, expected, expected_in, find_likely};
pub use matching::{EVERY, Limits, MatchTin, Progress, Recipe, find};
pub use mediums::{MixtureKind, Preset, Warning, warnings};
pub use pour::{AmountAsEntered, BadPour, PartStanding, PourAction, PourEvent, PourRecord, TOUCH, touch};
pub use reduced_bands::{ManyMixes, PartRows};
