//! A workshop that is not there: virtual paints of invented pigments, a colour reader that reads them, and a scale.
//!
//! The paints here have what the engine can only estimate: absorption and scattering that change with wavelength, a
//! surface and voids of their own. The engine predicts, this crate answers, and the error is measured
//! (`tests/sim/closed_loop.rs`). The engine cannot cheat: no crate of it depends on this one.
//!
//! The physics of the truth is the published one, as in the engine (Kubelka and Munk, Duncan, Saunderson); what differs is
//! that nothing is simplified to what a painter can know.
//!
//! | what | where |
//! |---|---|
//! | sixteen invented pigments | [`Pigment`] |
//! | 44 tins made of them | [`tins`], [`VirtualPaint`] |
//! | a tin behind any paint a painter writes down | [`VirtualPaint::behind`] |
//! | a painter whose hand is not the table's, and the boards it paints | [`VirtualHand`], [`VirtualBoard`] |
//! | a reader with noise, drift and a dirty window | [`SimulatedReader`] |
//! | a camera before invented finishes, in lights that lie | [`Scene`] |
//! | a scale with noise, drift, a pot to lift and a hand that pours | [`SimulatedScale`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod behind;
mod camera;
mod hand;
mod paint;
mod pigment;
mod reader;
mod scale;
mod tins;

pub use camera::{SCENES, Scene};
pub use hand::{VirtualBoard, VirtualHand};
pub use paint::{VirtualPaint, VirtualSample};
pub use pigment::Pigment;
pub use reader::{SimulatedReader, Window};
pub use scale::SimulatedScale;
pub use tins::tins;
