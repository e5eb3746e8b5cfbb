//! How something is viewed: the light, and the state of the film.

use serde::Deserialize;
use warm_blend_spectral::{Lab, Light};

use crate::{FilmState, Material, Seen};

/// A light, and the state of the film that is viewed in it.
///
/// The state is that of the mix, never of its tins: paints are stirred, brushed out, and only then dry or are sealed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::IntoParams))]
#[serde(default)]
pub struct Look {
    /// Light; daylight by default.
    pub light: Light,
    /// Wet, dry, sealed or buffed; dry by default.
    pub state: FilmState,
}

impl From<Light> for Look {
    fn from(light: Light) -> Self {
        Self { light, state: FilmState::Dry }
    }
}

impl Look {
    /// L\*a\*b\* of a material too thick for any ground to show.
    pub fn lab(self, material: &Material) -> Lab {
        material.in_state(self.state).seen_lab(self.light)
    }

    /// Masstone as a screen shows it.
    pub fn masstone(self, material: &Material) -> Seen {
        material.in_state(self.state).seen(self.light)
    }

    /// The one flat colour that represents a material (see [`Material::swatch_reflectance`]).
    pub fn face(self, material: &Material) -> Seen {
        Seen::of(&material.in_state(self.state).swatch_reflectance(), self.light)
    }

    /// Swatch colour as a hex code.
    pub fn hex(self, material: &Material) -> String {
        self.face(material).screen.srgb.to_string()
    }
}
