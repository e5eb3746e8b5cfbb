//! Colour arithmetic on reflectance curves.
//!
//! A paint surface is a [`Reflectance`]: 36 numbers, 380–730 nm by 10 nm. Everything a person sees of it
//! follows: its [`Xyz`] in a [`Light`], its [`Lab`] relative to that light's white, how different it looks
//! from another ([`difference()`]), and what a screen has to show so that it looks the same ([`on_screen()`]).
//! The way back, from a colour to a plausible curve, is [`smoothest()`].
//!
//! What this crate leaves out: paint. It knows nothing of mixing, films, gloss or hiding; that is the job of
//! the crate above. It also leaves out viewing angle, fluorescence and the 10° observer.
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
