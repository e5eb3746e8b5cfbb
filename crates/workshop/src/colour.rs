//! Colours, lights and states as they are entered.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa::openapi::RefOr;
use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
use warm_blend_paint::{Masstone, State, UnknownState};
use warm_blend_spectral::{Lab, Light, Srgb};

use crate::Checks;

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
