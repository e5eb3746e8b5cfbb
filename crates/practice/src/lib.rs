//! Practice for a painter's eye: what is practised, how hard the next question is, and how it goes over the weeks.
//!
//! | question | where |
//! |---|---|
//! | what is practised? | [`EyeSkill`] |
//! | how hard is the next question? | [`Staircase`], [`Difficulty`] |
//! | how does it go? | [`SkillProgress`] |
//!
//! The questions themselves are made from a shelf, elsewhere.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod progress;
mod skill;
mod staircase;

pub use progress::{Answered, SkillProgress, Week, weakest};
pub use skill::EyeSkill;
pub use staircase::{Difficulty, Staircase};
