//! A virtual workshop: paints of invented pigments, a colour reader, a camera and a scale.
//!
//! These paints have what the engine can only estimate: absorption and scattering that vary with wavelength, a surface
//! and air of their own. The engine predicts, this crate answers, and the error is measured (`tests/sim/closed_loop.rs`).
//! The engine cannot cheat, because no crate of it depends on this one.
//!
//! The physics is the same published theory as in the engine (Kubelka and Munk, Duncan, Saunderson), but nothing is
//! simplified to what a painter can know.
//!
//! | object | where |
//! |---|---|
//! | sixteen invented pigments | [`Pigment`] |
//! | 44 tins made of them | [`tins`], [`VirtualPaint`] |
//! | a tin behind any paint of a painter | [`VirtualPaint::behind`] |
//! | a painter whose hand differs from the table, and its boards | [`VirtualHand`], [`VirtualBoard`] |
//! | a reader with noise, drift and a dirty window | [`SimulatedReader`] |
//! | a camera in front of invented finishes | [`Scene`] |
//! | a camera in front of a piece in a room | [`Interior`] |
//! | a scale with noise and drift, and a pot to lift | [`SimulatedScale`] |

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod behind;
mod camera;
mod hand;
mod interior;
mod paint;
mod pigment;
mod reader;
mod scale;
mod tins;

pub use camera::{SCENES, Scene};
pub use hand::{VirtualBoard, VirtualHand};
pub use interior::{INTERIORS, Interior, Photograph, SurfaceCoat};
pub use paint::{VirtualPaint, VirtualSample};
pub use pigment::Pigment;
pub use reader::{SimulatedReader, Window};
pub use scale::SimulatedScale;
pub use tins::tins;
