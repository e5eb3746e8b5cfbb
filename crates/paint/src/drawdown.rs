//! The drawdown: the form in which every paint is shown.
//!
//! A wedge of wet film over a strip that is half white, half black. The thick end shows the masstone; the thin end shows
//! the undertone and how well the paint hides.

use warm_blend_spectral::{Light, OnScreen};

use crate::hiding::{chart_black, chart_white};
use crate::{Material, Microns, Seen};

/// Number of places computed along the wedge.
pub const STOPS: usize = 28;

/// Wet thickness at the thick end and at the thin end, µm†: many coats, and a patted-out wash.
const THICK: f64 = 600.0;
const THIN: f64 = 3.0;

/// Share of the length that is at full thickness.
const PLATEAU: f64 = 0.3;

/// A wedge of film as a screen shows it, at even distances from thick to thin.
#[derive(Debug, Clone, PartialEq)]
pub struct Drawdown {
    /// Over the white half of the chart.
    pub over_white: [OnScreen; STOPS],
    /// Over the black half.
    pub over_black: [OnScreen; STOPS],
}

impl Drawdown {
    /// The drawdown of a material in a light.
    pub fn of(material: &Material, light: Light) -> Self {
        let along =
            |ground| std::array::from_fn(|i| Seen::of(&material.film(thickness(i), ground), light).screen);
        Self { over_white: along(chart_white()), over_black: along(chart_black()) }
    }
}

/// Thickness at stop `i`: constant at first, then falling by equal ratios, as a blade lifts.
pub(crate) fn thickness(i: usize) -> Microns {
    let along = i as f64 / (STOPS - 1) as f64;
    let down = ((along - PLATEAU) / (1.0 - PLATEAU)).max(0.0);
    Microns::of(THICK * (THIN / THICK).powf(down))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_wedge_runs_from_many_coats_to_a_wash() {
        assert_eq!(thickness(0).value(), THICK);
        assert!((thickness(STOPS - 1).value() - THIN).abs() < 1e-9);
        assert!((1..STOPS).all(|i| thickness(i) <= thickness(i - 1)));
    }
}
