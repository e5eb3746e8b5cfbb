//! The run sheet: what is done on a piece in which order, when, with how much of what, and for how much.
//!
//! | question | where |
//! |---|---|
//! | what is to be done on a zone? | [`ZoneWork`], [`Work`], [`wanted`], [`preparation`] |
//! | what lies on the piece, and what is still to be done? | [`OnPiece`], [`OnZone::still_to_do`] |
//! | what is done together, and what must come first? | [`Step`], [`steps`] |
//! | how long does each dry, in this air? | [`Air`], [`wait`] |
//! | how long does it take by hand? | [`minutes`], [`units`], [`Paces`] |
//! | when is it done, in the workshop's hours? | [`WorkingHours`], [`Crew`], [`schedule`], [`Scheduled`] |
//! | how large a section can be worked before it sets, by one and by two? | [`WetEdge`] |
//! | how much of each pot, and what is to be bought? | [`amounts`], [`packs`] |
//! | what does it cost, and what price to ask? | [`Rates`], [`Cost`] |
//! | what cannot be left for a week? | [`if_it_stays`] |
//! | which brushes and rags? | [`tools`] |
//! | how does the client look after it? | [`care_card`] |
//! | what is kept? | [`RunSheet`], [`Done`], [`Clock`] |
//!
//! Rates of work and times of drying are common practice†, until this painter's own are learned from what was ticked. What this
//! crate leaves out: colours, what tins hold and cost (these are given), storage, HTTP. It does no input or output at all, and asks no
//! clock.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod air;
mod amounts;
mod care_card;
mod cost;
mod drying;
mod effort;
mod hours;
mod on_piece;
mod pace;
mod preparation;
mod schedule;
mod sheet;
mod stays;
mod steps;
mod tools;
mod wanted;
mod wet_edge;
mod work;

pub use air::{Air, DriesBy, NoPaintingNow};
pub use amounts::{BadPacks, Needed, amounts, packs};
pub use care_card::care_card;
pub use cost::{Cost, Rates};
pub use drying::wait;
pub use effort::{Unit, minutes, units};
pub use hours::{BadHours, BusyTimes, DayHours, Stretch, WorkingHours, plus_minutes};
pub use on_piece::{Lying, OnPiece, OnZone};
pub use pace::{Pace, Paces};
pub use preparation::preparation;
pub use schedule::{By, Crew, ReadyFrom, Scheduled, hands_on, schedule};
pub use sheet::{BadSheet, Clock, Done, RunSheet};
pub use stays::if_it_stays;
pub use steps::{After, Step, StepId, steps};
pub use tools::{Tool, tools};
pub use wanted::wanted;
pub use wet_edge::{Shared, WetEdge, breaks_at};
pub use work::{Laid, LayerWork, PartSize, Tins, Work, ZoneWork};
