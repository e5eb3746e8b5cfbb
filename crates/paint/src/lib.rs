//! A tin of paint and what it does to light: alone, mixed with others, over any ground, wet, dry or sealed.
//!
//! | question | where |
//! |---|---|
//! | what kinds of product are there? | [`Class`] |
//! | what colour is it on its own? | [`Masstone`] |
//! | what does it absorb and scatter? | [`Optics`], [`Material`] |
//! | what does the surface add to what is seen? | [`SurfaceReflection`] |
//! | what do wet, dry, sealed and buffed change? | [`FilmState`], [`Material::in_state`] |
//! | what does a coat over a ground look like? | [`Material::film`], [`Undersurface`], [`Drawdown`] |
//! | how many coats until the ground is hidden? | [`CoatsToHide`] |
//! | what colour is this mix? | [`mix`], [`Material::masstone`], [`Seen`] |
//! | how far is that from the target, in words? | [`Verdict`] |
//! | which family of hue is a colour of? | [`HueFamily`] |
//! | what is a recipe? | [`SavedMix`], [`MixPart`], [`Parts`], [`WholeParts`] |
//! | how much is that, in cups or in ml? how long, in mm or in inches? | [`Measure`], [`Millilitres`], [`Units`], [`Dimension`] |
//! | what is a tin besides its colour? | [`Condition`], [`Note`], [`Specials`] |
//! | what do the rules of the trade ask of a pot? | [`Product`], [`Contents`] |
//!
//! The model is the two-constant theory of Kubelka and Munk (1931) with the surface of Saunderson (1942), in the 36 bands
//! of `warm-blend-spectral`. Lengths are mm or µm of *wet* paint, K and S are per mm, volumes are wet.
//!
//! Uncertainty is in `warm-blend-learn`, searches are in `warm-blend-mixing`, layers in `warm-blend-board`. Storage,
//! HTTP, pictures and file formats are elsewhere too: this crate does no input or output.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod chart;
mod class;
mod contents;
mod drawdown;
pub mod film;
pub mod hiding;
mod hue;
mod look;
mod masstone;
mod material;
mod measures;
mod mix;
mod name;
mod percent;
mod product;
pub mod quantity;
mod recipe;
mod seen;
mod state;
pub mod strength;
pub mod surface;
mod undersurface;
pub mod undertone;
mod units;
mod verdict;

pub use chart::{CHART, ChartColour};
pub use class::{Base, Class, Medium, Role};
pub use contents::{Contents, Product};
pub use drawdown::{Drawdown, STOPS};
pub use film::Optics;
pub use hiding::{CoatsToHide, NotCoats, chart_black, chart_white, contrast_ratio};
pub use hue::HueFamily;
pub use look::Look;
pub use masstone::{BadColour, BadPaint, Colour, Masstone};
pub use material::Material;
pub use measures::{Measure, Rounded, about, about_count, amount, measured};
pub use mix::{BadParts, NothingToMix, Parts, mix};
pub use name::{BadName, Name};
pub use percent::percentages;
pub use product::{Condition, LongNote, Note, Specials, density, minutes, share, specials_of};
pub use quantity::{BadCurrency, BadMeasure, Currency, Microns, Millilitres, Price};
pub use recipe::{
    BadMix, MixId, MixPart, PaintId, SavedMix, WholeParts, divisor, measurable, nearest_whole, replace_paint,
    shares, simplest,
};
pub use seen::Seen;
pub use state::FilmState;
pub use surface::SurfaceReflection;
pub use undersurface::{Cones, Undersurface};
pub use units::{BadLength, Dimension, Quantity, Scale, Units};
pub use verdict::Verdict;
