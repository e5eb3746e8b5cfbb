//! What a person sees of a surface in a light.

use crate::{Material, State};
use warm_blend_spectral::{Degree, Lab, Light, OnScreen, Reflectance, Xyz, linear_on_screen, on_screen};

/// Luminance a workshop eye is settled to, cd/m²†: about 1000 lx on mid grey (E ρ/π with ρ = 0.2).
const WORKSHOP_LUMINANCE: f64 = 64.0;

/// A light, and what has become of the film that is looked at in it.
///
/// What is mixed is brushed out, and then dries or is sealed: a state is that of the mix, never of the tins in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub struct Look {
    /// The light.
    pub light: Light,
    /// Wet, dry, sealed or buffed.
    pub state: State,
}

impl From<Light> for Look {
    fn from(light: Light) -> Self {
        Self { light, state: State::Dry }
    }
}

impl Look {
    /// L\*a\*b\* of a material where it lies so thick that nothing beneath shows.
    pub fn lab(self, material: &Material) -> Lab {
        material.in_state(self.state).seen_lab(self.light)
    }

    /// The same as a screen shows it.
    pub fn masstone(self, material: &Material) -> Seen {
        material.in_state(self.state).seen(self.light)
    }

    /// The one flat colour that stands for it (see [`Material::face`]).
    pub fn face(self, material: &Material) -> Seen {
        Seen::of(&material.in_state(self.state).swatch_reflectance(), self.light)
    }

    /// That as a hex code.
    pub fn hex(self, material: &Material) -> String {
        self.face(material).screen.srgb.to_string()
    }
}

/// A surface's colour in a light, for reckoning and for showing.
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

    /// What a screen shows of a surface, as linear sRGB channels: means of surfaces are means of these.
    pub fn linear(surface: &Reflectance, light: Light) -> [f64; 3] {
        linear_on_screen(Xyz::of(surface, light), light, Degree::under(WORKSHOP_LUMINANCE))
    }
}
