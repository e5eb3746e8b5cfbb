//! The job of a decorative furniture painter, as physics and as rules.
//!
//! | question | where |
//! |---|---|
//! | what is a paint, and how is one known? | [`Class`], [`Masstone`], [`ShelfPaint`] |
//! | what does it absorb and scatter? | [`Optics`], [`Material`] |
//! | what does the surface add to what is seen? | [`Sheen`] |
//! | what do wet, dry, sealed and buffed change? | [`State`], [`Material::in_state`] |
//! | what does a coat over a ground look like? | [`Optics::over`], [`Drawdown`] |
//! | how many coats until the ground is hidden? | [`CoatsToHide`] |
//! | what colour is this mix? | [`mix`], [`Material::masstone`], [`Seen`] |
//! | and of thousands of mixes? | [`QuickMixer`] |
//! | which mix comes nearest, what is to be added, what lies between? | [`bench`] |
//! | what does a whole finish look like, layer on layer? | [`board`] |
//! | do the parts of a whole piece belong together? | [`piece`] |
//! | how sure is any of that, and what would one more test buy? | [`learn`] |
//! | how far is that from the target, in words? | [`Verdict`] |
//! | which family of hue is a colour of? | [`HueFamily`] |
//! | what colour is that in a photo? | [`photo`] |
//! | how long is that, in mm or in inches? | [`Units`], [`Dimension`] |
//! | what is a tin besides its colour? | [`Condition`], [`Note`], [`Specials`] |
//! | what is a recipe, and what is a pot as it was poured? | [`SavedMix`], [`Parts`], [`WholeParts`], [`PourRecord`] |
//!
//! The model is the two-constant theory of Kubelka and Munk (1931) with Saunderson's (1942) surface, on the 36
//! bands of `warm-blend-spectral`. Lengths are mm or µm of *wet* paint, K and S are per mm, volumes are wet.
//!
//! What this crate leaves out: storage, HTTP, pictures and file formats. It does no input or output at all.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

pub mod bench;
pub mod board;
mod class;
pub mod device;
mod drawdown;
mod film;
mod hiding;
mod hue;
pub mod learn;
mod look;
mod material;
mod measure;
mod mix;
mod name;
mod percent;
pub mod photo;
pub mod piece;
mod pot;
mod pour;
mod product;
mod quick;
mod shelf;
mod state;
mod strength;
mod surface;
mod units;
mod verdict;

pub use class::{Class, Medium, Role, UnknownClass};
pub use drawdown::{Drawdown, STOPS};
pub use film::Optics;
pub use hiding::{CoatsToHide, NotCoats, chart_black, chart_white, contrast_ratio};
pub use hue::HueFamily;
pub use look::{Look, Seen};
pub use material::Material;
pub use measure::{BadCurrency, BadMeasure, Currency, Microns, Millilitres, Price};
pub use mix::{BadParts, NothingToMix, Parts, mix};
pub use name::{BadName, Name};
pub use percent::percentages;
pub use pot::{
    BadMix, Component, LoggedReading, MixId, PaintId, SavedMix, WholeParts, Workshop, nearest_whole, simplest,
};
pub use pour::{BadPour, Deed, PourRecord, Said, Standing, Step, TOUCH, touch};
pub use product::{
    Condition, LongNote, Note, Specials, UnknownCondition, density, minutes, share, specials_of,
};
pub use quick::{QuickMaterial, QuickMixer};
pub use shelf::{BadPaint, Masstone, ShelfPaint};
pub use state::{State, UnknownState};
pub use surface::Sheen;
pub use units::{BadLength, Dimension, Units};
pub use verdict::Verdict;
