//! Small pictures of colours that touch each other.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::Seen;
use warm_blend_spectral::{Degree, Lab, Light, OnScreen, Reflectance, on_screen};

/// A pane of a small picture.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Pane {
    /// What it shows: `1 : 4 with white`.
    pub words: String,
    /// Colours from left to right.
    pub cells: Vec<String>,
    /// Colours below those, over black; empty if it makes no difference.
    pub below: Vec<String>,
}

/// A pane with one row.
pub(crate) fn pane(words: impl Into<String>, cells: Vec<String>) -> Pane {
    Pane { words: words.into(), cells, below: Vec::new() }
}

/// A surface in daylight on a screen.
pub(crate) fn hex(surface: &Reflectance) -> String {
    Seen::of(surface, Light::Daylight).screen.srgb.to_string()
}

/// A colour of daylight on a screen.
pub(crate) fn in_daylight(lab: Lab) -> OnScreen {
    on_screen(lab.to_xyz(Light::Daylight.white()), Light::Daylight, Degree::FULL)
}

/// The same as a hex code.
pub(crate) fn shown(lab: Lab) -> String {
    in_daylight(lab).srgb.to_string()
}
