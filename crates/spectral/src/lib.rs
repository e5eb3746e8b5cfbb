//! Colour arithmetic on reflectance curves.
//!
//! A painted surface is a [`Reflectance`]: 36 numbers, 380–730 nm in steps of 10 nm. Everything a person sees follows
//! from it: its [`Xyz`] in a [`Light`], its [`Lab`] relative to that light's white, how much it differs from another
//! colour ([`difference()`]), and what a screen must show to look the same ([`on_screen()`]). [`smoothest()`] goes the
//! other way, from a colour to a plausible curve.
//!
//! This crate knows nothing of paint: mixing, films, gloss and hiding belong to the crate above. It also leaves out
//! viewing angle, fluorescence and the 10° observer.
//!
//! Values are `f64`. XYZ are normalised so that the white of the light has Y = 1; L\*, a\*, b\* have their usual
//! scale (0–100).

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod adaptation;
mod difference;
mod lab;
mod light;
mod reflectance;
mod screen;
mod smoothest;
mod xyz;

pub use adaptation::{Degree, adapt};
pub use difference::{Difference, difference};
pub use lab::{Lab, lab_f, lab_f_inverse, lab_f_slope};
pub use light::Light;
pub use reflectance::{BANDS, NotAReflectance, Reflectance, wavelength};
pub use screen::{HexError, OnScreen, Srgb, displayable, from_linear_srgb, linear_on_screen, on_screen};
pub use smoothest::{Unreachable, smoothest, smoothest_above, step_covariance};
pub use xyz::Xyz;
