//! A colour as a person sees it in a light, as numbers and on a screen.

use warm_blend_spectral::{
    Degree, Lab, Light, OnScreen, Reflectance, Xyz, displayable, linear_on_screen, on_screen,
};

/// Luminance a workshop eye is settled to, cd/m²†: about 1000 lx on mid grey (E ρ/π with ρ = 0.2).
const WORKSHOP_LUMINANCE: f64 = 64.0;

/// A surface's colour in a light, as numbers and on a screen.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Seen {
    /// L\*a\*b\* relative to the white of the light (2°).
    pub lab: Lab,
    /// What a screen must show to look the same, adapted by CAT16 as far as an eye adapts in a workshop, so that a warm
    /// bulb stays a little warm.
    pub screen: OnScreen,
}

impl Seen {
    /// A surface in a light.
    pub fn of(surface: &Reflectance, light: Light) -> Self {
        let xyz = Xyz::of(surface, light);
        Self {
            lab: Lab::of(xyz, light.white()),
            screen: on_screen(xyz, light, Degree::under(WORKSHOP_LUMINANCE)),
        }
    }

    /// Linear sRGB channels, 0 to 1, that a screen shows for a surface. Several surfaces seen side by side average in
    /// these.
    pub fn linear(surface: &Reflectance, light: Light) -> [f64; 3] {
        displayable(linear_on_screen(Xyz::of(surface, light), light, Degree::under(WORKSHOP_LUMINANCE)))
    }
}
