//! Colours and swatches as they travel.

use serde::{Deserialize, Serialize};
use utoipa::{
    IntoParams, ToSchema,
    openapi::{
        RefOr,
        schema::{ObjectBuilder, Schema, Type},
    },
};
use warm_blend_learn::{Certainty, Doubt, Ensemble};
use warm_blend_paint::{CoatsToHide, Drawdown, Masstone, Seen, State, UnknownState, Verdict};
use warm_blend_spectral::{Lab, Light, OnScreen, Srgb};

pub use warm_blend_paint::Look;

use crate::check::Checks;
use crate::problem::Problem;

/// A light, by its id.
pub struct LightName;

/// A state of the film, by its id.
pub struct StateName;

macro_rules! named {
    ($name:ident, $of:ident) => {
        impl utoipa::PartialSchema for $name {
            fn schema() -> RefOr<Schema> {
                let ids = $of::ALL.map(|one| one.id());
                ObjectBuilder::new().schema_type(Type::String).enum_values(Some(ids)).into()
            }
        }

        impl ToSchema for $name {}
    };
}

named!(LightName, Light);
named!(StateName, State);

/// Which light to look in, and at what state of the film.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct LookedAt {
    /// `daylight` (as when left out), `sun`, `north-shade`, `bulb`, `warm-led`, `neutral-led` or `shop-tube`.
    #[param(value_type = Option<LightName>)]
    light: Option<String>,
    /// `dry` (as when left out), `wet`, `sealed` or `buffed`.
    #[param(value_type = Option<StateName>)]
    state: Option<String>,
}

impl LookedAt {
    pub fn get(&self) -> Result<Look, Problem> {
        let mut checks = Checks::default();
        let light = checks.field("?light", light(self.light.as_deref()));
        let state = checks.field("?state", state(self.state.as_deref()));
        checks.done(light.zip(state).map(|(light, state)| Look { light, state }))
    }
}

/// The state of a text; dry where there is none.
pub fn state(text: Option<&str>) -> Result<State, UnknownState> {
    text.map_or(Ok(State::Dry), str::parse)
}

/// The light of a text; daylight where there is none.
pub fn light(text: Option<&str>) -> Result<Light, warm_blend_spectral::UnknownLight> {
    text.map_or(Ok(Light::Daylight), str::parse)
}

/// A colour as it is known: either a hex code or L*, a*, b*.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct Colour {
    /// sRGB, 3, 6 or 8 hex digits.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(example = "#b08d57")]
    pub hex: Option<String>,
    /// L*, a*, b* in daylight (D65, 2°).
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(example = json!([61.2, 9.8, 33.1]))]
    pub lab: Option<[f64; 3]>,
}

impl Colour {
    /// Reads the one form that was given; the curve is tried, so that impossible colours are refused here.
    pub fn parse(&self, checks: &mut Checks, pointer: &str) -> Option<Masstone> {
        let masstone = match (&self.hex, self.lab) {
            (Some(hex), None) => Masstone::Hex(checks.field(format!("{pointer}/hex"), hex.parse::<Srgb>())?),
            (None, Some([l, a, b])) => Masstone::Lab(Lab { l, a, b }),
            _ => {
                let help: Result<(), _> = Err("give the colour once: as hex or as lab");
                checks.field(pointer, help);
                return None;
            }
        };
        let form = if self.hex.is_some() { "hex" } else { "lab" };
        checks.field(format!("{pointer}/{form}"), masstone.reflectance()).map(|_| masstone)
    }
}

impl From<Masstone> for Colour {
    fn from(masstone: Masstone) -> Self {
        match masstone {
            Masstone::Hex(code) => Self { hex: Some(code.to_string()), lab: None },
            Masstone::Lab(Lab { l, a, b }) => Self { hex: None, lab: Some([l, a, b]) },
        }
    }
}

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

/// A drawdown: a wedge of wet film from thick to a wash, over white and over black.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Swatch {
    /// Its flat colour: thick and dry, or one coat over white for what never hides.
    pub face: SeenColour,
    /// Hex codes from thick to thin over the white half, evenly spaced.
    pub over_white: Vec<String>,
    /// The same over the black half.
    pub over_black: Vec<String>,
    /// Brushed coats until black and white no longer show; absent for a clear medium or a thin glaze.
    pub hides_in: Option<f64>,
    /// 90 % band of the flat colour, ΔE00 in this light: the true one is nearer in nine cases of ten.
    pub within: f64,
    /// That in words: `sure to a touch`.
    pub certainty: &'static str,
    /// What it could as well be: hex codes at the rim of the band, from dark to light; empty where nothing is in doubt.
    pub halo: Vec<String>,
    /// How flakes shine; absent where there are none.
    pub lustre: Option<Lustre>,
}

/// How flakes shine.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Lustre {
    /// Share of the area that flakes cover, 0–1.
    pub share: f64,
    /// What the screen shows at the mirror angle.
    pub glint: String,
}

impl Swatch {
    pub fn of(known: &Ensemble, Look { light, state }: Look) -> Self {
        let known = known.in_state(state);
        let material = known.best();
        let drawdown = Drawdown::of(material, light);
        let Doubt { within, halo } = known.doubt(light);
        let glint = || Seen::of(&material.glint(), light).screen.srgb.to_string();
        let codes = |stops: &[OnScreen]| stops.iter().map(|stop| stop.srgb.to_string()).collect();
        Self {
            face: Seen::of(&material.face(), light).into(),
            over_white: codes(&drawdown.over_white),
            over_black: codes(&drawdown.over_black),
            hides_in: CoatsToHide::of(material).map(CoatsToHide::value),
            within,
            certainty: Certainty::of(within).words(),
            halo: halo.iter().map(|face| Seen::of(face, light).screen.srgb.to_string()).collect(),
            lustre: (material.lustre > 0.0).then(|| Lustre { share: material.lustre, glint: glint() }),
        }
    }
}

/// How a colour stands to its target.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Judgement {
    /// In words: `a hair warmer and lighter than the target`.
    pub words: String,
    /// CIEDE2000, in the light asked for.
    pub difference: f64,
    /// The target in that light.
    pub target: SeenColour,
}

impl Judgement {
    /// What is known of a material against a target, which has been read and so has a curve.
    pub fn of(known: &Ensemble, target: Masstone, look: Look) -> Result<Self, Problem> {
        let target = target.reflectance().map_err(|error| Problem::field("/target", error))?;
        let target = Seen::of(&target, look.light);
        let verdict = Verdict::of(look.face(known.best()).lab, target.lab);
        Ok(Self { words: verdict.words, difference: verdict.difference.value(), target: target.into() })
    }
}
