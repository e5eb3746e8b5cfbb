//! Which light something is looked at in, and what has become of the film.

use serde::Deserialize;
use warm_blend_spectral::{Lab, Light};

use crate::{FilmState, Material, Seen};

/// A light, and what has become of the film that is looked at in it.
///
/// What is mixed is brushed out, and then dries or is sealed: a state is that of the mix, never of the tins in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::IntoParams))]
#[serde(default)]
pub struct Look {
    /// The light; daylight if left out.
    pub light: Light,
    /// Wet, dry, sealed or buffed; dry if left out.
    pub state: FilmState,
}

impl From<Light> for Look {
    fn from(light: Light) -> Self {
        Self { light, state: FilmState::Dry }
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

    /// The one flat colour that stands for it (see [`Material::swatch_reflectance`]).
    pub fn face(self, material: &Material) -> Seen {
        Seen::of(&material.in_state(self.state).swatch_reflectance(), self.light)
    }

    /// That as a hex code.
    pub fn hex(self, material: &Material) -> String {
        self.face(material).screen.srgb.to_string()
    }
}
