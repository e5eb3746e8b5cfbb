//! How paints, mixes and films look: swatches, and colours against a target.

use serde::{Serialize, Serializer};
use utoipa::ToSchema;
use warm_blend_learn::{Certainty, Doubt, Ensemble};
use warm_blend_paint::{CoatsToHide, Drawdown, Look, Masstone, Material, Seen, Verdict};
use warm_blend_spectral::{Lab, Light, OnScreen, Reflectance, Srgb};

use crate::Refusal;

/// A colour as it is seen in a light.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SeenColour {
    /// What the screen shows for it.
    #[schema(example = "#b08d57")]
    pub hex: String,
    /// False where the screen cannot show it and comes as near as it can.
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

/// What the screen shows, shown as a hex code: thousands of swatches are kept, each with dozens of them.
#[derive(Debug, Clone, Copy)]
pub struct Hex(Srgb);

impl Serialize for Hex {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.collect_str(&self.0)
    }
}

/// What the screen shows of a surface in each light, in the order of `/api/lights`.
pub(crate) fn in_each_light(surface: &Reflectance) -> [Hex; Light::ALL.len()] {
    Light::ALL.map(|light| Hex(Seen::of(surface, light).screen.srgb))
}

/// A drawdown: a wedge of wet film from thick to a wash, over white and over black, of a paint as it is most likely.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Wedge {
    /// Its flat colour: thick and dry, or one coat over white for what never hides.
    pub face: SeenColour,
    /// The same as hex codes in each light, in the order of `/api/lights`.
    #[schema(value_type = Vec<String>)]
    pub lights: [Hex; Light::ALL.len()],
    /// Hex codes from thick to thin over the white half, evenly spaced.
    #[schema(value_type = Vec<String>)]
    pub over_white: Vec<Hex>,
    /// The same over the black half.
    #[schema(value_type = Vec<String>)]
    pub over_black: Vec<Hex>,
    /// How flakes shine; absent where there are none.
    pub lustre: Option<Lustre>,
}

/// A drawdown, and how surely it is known.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Swatch {
    /// As it is most likely.
    #[serde(flatten)]
    pub wedge: Wedge,
    /// Brushed coats until black and white no longer show; absent for a clear medium or a thin glaze.
    pub hides_in: Option<f64>,
    /// 90 % band of the flat colour, ΔE00 in this light: the true one is nearer in nine cases of ten.
    pub within: f64,
    /// That in words: `sure to a touch`.
    pub certainty: &'static str,
    /// What it could as well be: hex codes at the rim of the band, from dark to light; empty where nothing is in doubt.
    #[schema(value_type = Vec<String>)]
    pub halo: Vec<Hex>,
}

/// How flakes shine.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Lustre {
    /// Share of the area that flakes cover, 0–1.
    pub share: f64,
    /// What the screen shows at the mirror angle.
    pub glint: String,
}

impl Wedge {
    /// Of a paint or a mix.
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
    /// Of a paint or a mix as it is known.
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

/// How a colour stands to its target.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AgainstTarget {
    /// As text: `a hair warmer and lighter than the target`.
    pub words: String,
    /// CIEDE2000, in the light asked for.
    pub difference: f64,
    /// The target in that light.
    pub target: SeenColour,
    /// The target as hex codes in each light, in the order of `/api/lights`.
    #[schema(value_type = Vec<String>)]
    pub lights: [Hex; Light::ALL.len()],
}

impl AgainstTarget {
    /// A material against a target, which has been read and so has a curve.
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
