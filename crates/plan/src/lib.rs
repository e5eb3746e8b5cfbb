//! The run sheet: what is done on a piece in which order, when, with how much of what, and at what price.
//!
//! | question | where |
//! |---|---|
//! | what must be done on a zone? | [`ZoneWork`], [`Work`], [`wanted`], [`preparation`] |
//! | what lies on the piece, and what is left to do? | [`OnPiece`], [`OnZone::still_to_do`] |
//! | what is done together, and what must come first? | [`Step`], [`steps`] |
//! | how long does each dry, in this air? | [`Air`], [`wait`] |
//! | how much work is it? | [`minutes`], [`units`], [`Paces`] |
//! | when is it done, in the workshop's hours? | [`WorkingHours`], [`Crew`], [`schedule`], [`Scheduled`] |
//! | how large a section can be worked before it sets, alone or in pairs? | [`WetEdge`] |
//! | how much of each pot is needed, and what must be bought? | [`amounts`], [`packs`] |
//! | what does it cost, and what should it be sold for? | [`Rates`], [`Cost`] |
//! | what is the client asked to pay? | [`QuoteTerms`], [`Offer`] |
//! | what cannot be left for a week? | [`if_it_stays`] |
//! | which tools? | [`tools`] |
//! | how many brushes on which day, what to wash in between, and what is not washed yet? | [`brush_days`], [`BrushRack`] |
//! | how does the client look after it? | [`care_card`] |
//! | what is saved? | [`RunSheet`], [`Done`], [`Clock`] |
//!
//! Working and drying times are common practice†, until this painter's own are learned from finished steps. Colours and
//! the contents and prices of tins are inputs; storage and HTTP are elsewhere. This crate does no input or output, and
//! reads no clock.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod air;
mod amounts;
mod brushes;
mod care_card;
mod cost;
mod drying;
mod effort;
mod from_jar;
mod hours;
mod on_piece;
mod pace;
mod preparation;
mod quote;
mod schedule;
mod sheet;
mod stays;
mod steps;
mod tools;
mod touched_up;
mod wanted;
mod wet_edge;
mod work;

pub use air::{Air, DriesBy, NoPaintingNow};
pub use amounts::{BadPacks, Needed, amounts, packs};
pub use brushes::{Brush, BrushCount, BrushDay, BrushNeed, BrushRack, BrushUse, Unwashed, Wash, brush_days};
pub use care_card::care_card;
pub use cost::{Cost, Rates};
pub use drying::{dries, wait};
pub use effort::{Effort, Rate, Unit, effort, minutes, units};
pub use from_jar::FromJar;
pub use hours::{BadHours, BusyTimes, DayHours, Stretch, WorkingHours, plus_minutes};
pub use on_piece::{Lying, OnPiece, OnZone};
pub use pace::{Pace, Paces};
pub use preparation::preparation;
pub use quote::{Offer, QuoteTerms};
pub use schedule::{By, Crew, ReadyFrom, Scheduled, hands_on, schedule};
pub use sheet::{BadSheet, Clock, Done, RunSheet};
pub use stays::if_it_stays;
pub use steps::{After, Step, StepId, steps};
pub use tools::{Tool, tools};
pub use touched_up::{Spot, TouchedUp};
pub use wanted::wanted;
pub use wet_edge::{Shared, WetEdge, breaks_at};
pub use work::{Laid, LayerWork, PartSize, Tins, Work, ZoneWork};
