//! Appearance of paints, mixes and films: swatches, and comparison with targets.

use serde::{Serialize, Serializer};
use utoipa::ToSchema;
use warm_blend_learn::{Certainty, Doubt, Ensemble};
use warm_blend_paint::{CoatsToHide, Drawdown, Look, Masstone, Material, Seen, Verdict};
use warm_blend_spectral::{Lab, Light, OnScreen, Reflectance, Srgb};

use crate::Refusal;

/// A colour in a light.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SeenColour {
    /// What a screen shows for it.
    #[schema(example = "#b08d57")]
    pub hex: String,
    /// False if the screen can only approximate it.
    pub in_gamut: bool,
    /// L*, a*, b* relative to the white of the light (2°).
    pub lab: [f64; 3],
}

impl From<Seen> for SeenColour {
    fn from(seen: Seen) -> Self {
        let Lab { l, a, b } = seen.lab;
        Self { hex: seen.screen.srgb.to_string(), in_gamut: seen.screen.in_gamut, lab: [l, a, b] }
    }
}

/// A colour on the screen, written as a hex code. Compact, because thousands of swatches are kept, each with dozens of
/// colours.
#[derive(Debug, Clone, Copy)]
pub struct Hex(Srgb);

impl Serialize for Hex {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(&self.0)
    }
}

/// Colours of a surface in each light, in the order of `/api/lights`.
pub(crate) fn in_each_light(surface: &Reflectance) -> [Hex; Light::ALL.len()] {
    Light::ALL.map(|light| Hex(Seen::of(surface, light).screen.srgb))
}

/// Most probable drawdown of a paint: a wedge of wet film from thick to a wash, over white and over black.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Wedge {
    /// Flat colour: thick and dry, or one coat over white if it never hides.
    pub face: SeenColour,
    /// Flat colour in each light, in the order of `/api/lights`.
    #[schema(value_type = Vec<String>)]
    pub lights: [Hex; Light::ALL.len()],
    /// Colours over the white half, thick to thin, evenly spaced.
    #[schema(value_type = Vec<String>)]
    pub over_white: Vec<Hex>,
    /// Colours over the black half.
    #[schema(value_type = Vec<String>)]
    pub over_black: Vec<Hex>,
    /// Glint of its flakes; absent without flakes.
    pub lustre: Option<Lustre>,
}

/// A drawdown with its certainty.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Swatch {
    /// Most probable drawdown.
    #[serde(flatten)]
    pub wedge: Wedge,
    /// Brushed coats until black and white no longer show; absent for a clear medium or a thin glaze.
    pub hides_in: Option<f64>,
    /// 90 % band of the flat colour, ΔE00 in this light: in nine cases of ten the true colour is within it.
    pub within: f64,
    /// Certainty in words: `reliable`.
    pub certainty: &'static str,
    /// Plausible colours at the edge of the band, dark to light; empty if nothing is uncertain.
    #[schema(value_type = Vec<String>)]
    pub halo: Vec<Hex>,
}

/// Glint of flakes.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Lustre {
    /// Share of the area covered by flakes, 0–1.
    pub share: f64,
    /// What a screen shows at the mirror angle.
    pub glint: String,
}

impl Wedge {
    /// Drawdown of a paint or mix.
    pub fn of(material: &Material, Look { light, state }: Look) -> Self {
        Self::in_its_state(&material.in_state(state), light)
    }

    fn in_its_state(material: &Material, light: Light) -> Self {
        let drawdown = Drawdown::of(material, light);
        let glint = || Seen::of(&material.specular_reflectance(), light).screen.srgb.to_string();
        let codes = |stops: &[OnScreen]| stops.iter().map(|stop| Hex(stop.srgb)).collect();
        let face = material.swatch_reflectance();
        Self {
            face: Seen::of(&face, light).into(),
            lights: in_each_light(&face),
            over_white: codes(&drawdown.over_white),
            over_black: codes(&drawdown.over_black),
            lustre: (material.lustre > 0.0).then(|| Lustre { share: material.lustre, glint: glint() }),
        }
    }
}

impl Swatch {
    /// Swatch of a paint or mix with its uncertainty.
    pub fn of(known: &Ensemble, Look { light, state }: Look) -> Self {
        let known = known.in_state(state);
        let material = known.best();
        let Doubt { within, halo } = known.doubt(light);
        Self {
            wedge: Wedge::in_its_state(material, light),
            hides_in: material.coats_to_hide().map(CoatsToHide::value),
            within,
            certainty: Certainty::of(within).words(),
            halo: halo.iter().map(|face| Hex(Seen::of(face, light).screen.srgb)).collect(),
        }
    }
}

/// A colour compared with its target.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AgainstTarget {
    /// As text: `a hair warmer and lighter than the target`.
    pub words: String,
    /// CIEDE2000 in the requested light.
    pub difference: f64,
    /// The target in that light.
    pub target: SeenColour,
    /// The target in each light, in the order of `/api/lights`.
    #[schema(value_type = Vec<String>)]
    pub lights: [Hex; Light::ALL.len()],
}

impl AgainstTarget {
    /// Compares a material with a target, which must be a possible colour.
    pub fn of(material: &Material, target: Masstone, look: Look) -> Result<Self, Refusal> {
        let target = target.reflectance().map_err(|error| Refusal::field("/target", error))?;
        let lights = in_each_light(&target);
        let target = Seen::of(&target, look.light);
        let verdict = Verdict::of(look.face(material).lab, target.lab);
        Ok(Self {
            words: verdict.words(),
            difference: verdict.difference.value(),
            target: target.into(),
            lights,
        })
    }
}
