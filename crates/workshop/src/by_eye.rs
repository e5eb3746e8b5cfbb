//! Finding the colour of a tin without a reader: from a chart of common names, or by eye, step by step.

use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use warm_blend_paint::{CHART, Colour, Masstone};
use warm_blend_spectral::Lab;

use crate::pane::in_daylight;
use crate::{Checks, Refusal};

/// A colour of the chart.
#[derive(Debug, Serialize, ToSchema)]
pub struct NamedColour {
    /// Its everyday name: `duck egg`.
    pub name: &'static str,
    /// Hex code.
    pub hex: String,
    /// Heading under which it stands: see the families of paints.
    pub family: &'static str,
}

/// The chart of common colour names, by family, light to dark.
pub fn chart() -> Vec<NamedColour> {
    let mut rows = CHART;
    rows.sort_by(|one, other| {
        let light = |l: f64| std::cmp::Reverse((l * 100.0) as i64);
        let key = |row: &warm_blend_paint::ChartColour| (row.family() as usize, light(row.colour.to_lab().l));
        key(one).cmp(&key(other))
    });
    let named = |row: warm_blend_paint::ChartColour| NamedColour {
        name: row.name,
        hex: row.colour.to_string(),
        family: row.family().id(),
    };
    rows.into_iter().map(named).collect()
}

/// A colour whose neighbours are asked for.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct NeighboursAsked {
    /// The colour, a hex code.
    pub hex: String,
    /// Distance of the neighbours: about a quarter of a shade if true, a whole one if not.
    #[serde(default)]
    pub fine: bool,
}

/// A colour near another one.
#[derive(Debug, Serialize, ToSchema)]
pub struct Neighbour {
    /// How it differs: `lighter`.
    pub words: &'static str,
    /// Hex code.
    pub hex: String,
}

/// Directions of the neighbours in L*, a*, b*, by rows of three around the colour itself; the last two change its chroma.
const AROUND: [(&str, [f64; 3]); 6] = [
    ("lighter", [1.0, 0.0, 0.0]),
    ("darker", [-1.0, 0.0, 0.0]),
    ("redder", [0.0, 1.0, 0.0]),
    ("greener", [0.0, -1.0, 0.0]),
    ("yellower", [0.0, 0.0, 1.0]),
    ("bluer", [0.0, 0.0, -1.0]),
];

impl NeighboursAsked {
    /// Length of a step in L*, a* or b*.
    const fn step(&self) -> f64 {
        if self.fine { 1.5 } else { 6.0 }
    }

    /// Colours around this one that differ from it and that a paint can have.
    pub fn neighbours(&self) -> Result<Vec<Neighbour>, Refusal> {
        let mut checks = Checks::default();
        let colour = Colour { hex: Some(self.hex.clone()), lab: None };
        let parsed = checks.colour("", &colour);
        let Masstone::Hex(own) = checks.done(parsed)? else {
            return Err(Refusal::field("/hex", "use a hex code, such as #b08d57"));
        };
        let (at, step) = (own.to_lab(), self.step());
        let moved = AROUND.map(|(words, [l, a, b])| {
            (words, Lab { l: at.l + step * l, a: at.a + step * a, b: at.b + step * b })
        });
        let chroma = at.chroma().max(f64::MIN_POSITIVE);
        let stronger = [("greyer", chroma - step), ("stronger", chroma + step)]
            .map(|(words, to)| (words, at.with_chroma_scaled(to.max(0.0) / chroma)));
        let all = moved.into_iter().chain(stronger);
        let shown = all.map(|(words, lab)| (words, in_daylight(lab).srgb));
        let possible = shown.filter(|(_, srgb)| *srgb != own && Masstone::Hex(*srgb).reflectance().is_ok());
        Ok(possible.map(|(words, srgb)| Neighbour { words, hex: srgb.to_string() }).collect())
    }
}
