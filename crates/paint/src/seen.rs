//! A colour as a person sees it in a light, for computing and for showing.

use warm_blend_spectral::{
    Degree, Lab, Light, OnScreen, Reflectance, Xyz, displayable, linear_on_screen, on_screen,
};

/// Luminance a workshop eye is settled to, cd/m²†: about 1000 lx on mid grey (E ρ/π with ρ = 0.2).
const WORKSHOP_LUMINANCE: f64 = 64.0;

/// A surface's colour in a light, for computing and for showing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Seen {
    /// L\*a\*b\* relative to the white of the light (2°).
    pub lab: Lab,
    /// What a screen shows so that it looks the same: adapted by CAT16 as far as an eye in a workshop settles, so
    /// that a warm bulb stays a little warm.
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

    /// What a screen shows of a surface, as linear sRGB channels from 0 to 1: what is seen of several side by side is the mean of these.
    pub fn linear(surface: &Reflectance, light: Light) -> [f64; 3] {
        displayable(linear_on_screen(Xyz::of(surface, light), light, Degree::under(WORKSHOP_LUMINANCE)))
    }
}
