//! Air of the workshop: how it slows drying, and when not to paint at all.
//!
//! Water evaporates from a film in proportion to the vapour-pressure deficit es(T) · (1 − RH) (J. Dalton, 1802). Solvent
//! evaporates regardless of humidity, and faster in warmth.

use serde::{Deserialize, Serialize};

/// Temperature and humidity.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Air {
    /// Temperature, °C.
    pub celsius: f64,
    /// Relative humidity, 0 to 1.
    pub humidity: f64,
}

impl Default for Air {
    /// What the times on tins are said for: 20 °C, 50 %.
    fn default() -> Self {
        Self { celsius: 20.0, humidity: 0.5 }
    }
}

/// What a film gives off as it dries.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DriesBy {
    /// Water: depends on temperature and humidity.
    Water,
    /// Solvent, alcohol or the oil of a wax: depends on temperature only.
    Solvent,
}

/// Why nothing should be painted in this air.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum NoPaintingNow {
    /// Water-borne binders do not close.
    #[error(
        "too cold at {0:.0} °C: water-based paint won’t form a film and will dust off. Warm the workshop to {least:.0} °C",
        least = Air::COLDEST
    )]
    TooCold(f64),
    /// It dries on the brush.
    #[error("too hot at {0:.0} °C: paint dries on the brush and you lose the wet edge. Wait for evening, or cool to {most:.0} °C", most = Air::HOTTEST)]
    TooHot(f64),
    /// It does not dry.
    #[error("too damp at {percent:.0} %: nothing dries and finishes bloom white. Ventilate or heat to {most:.0} % or less", percent = 100.0 * .0, most = 100.0 * Air::DAMPEST)]
    TooDamp(f64),
}

impl Air {
    /// Lowest temperature for painting, °C†.
    pub const COLDEST: f64 = 8.0;
    /// Highest temperature for painting, °C†.
    pub const HOTTEST: f64 = 35.0;
    /// Highest humidity for painting†.
    pub const DAMPEST: f64 = 0.85;
    /// Greatest factor on drying times; beyond it, paint hardly dries at all.
    pub const SLOWEST: f64 = 12.0;

    /// Accepts −30 to 60 °C and 0 to 100 %.
    pub fn new(celsius: f64, humidity: f64) -> Result<Self, String> {
        if !(-30.0..=60.0).contains(&celsius) {
            return Err(format!("{celsius} °C is out of range; use −30 to 60 °C"));
        }
        if !(0.0..=1.0).contains(&humidity) {
            return Err(format!("{} is out of range; use 0 to 100 % humidity", 100.0 * humidity));
        }
        Ok(Self { celsius, humidity })
    }

    /// Checks whether painting is possible.
    pub fn allows(self) -> Result<(), NoPaintingNow> {
        match self {
            Self { celsius, .. } if celsius < Self::COLDEST => Err(NoPaintingNow::TooCold(celsius)),
            Self { celsius, .. } if celsius > Self::HOTTEST => Err(NoPaintingNow::TooHot(celsius)),
            Self { humidity, .. } if humidity > Self::DAMPEST => Err(NoPaintingNow::TooDamp(humidity)),
            _ => Ok(()),
        }
    }

    /// Factor on drying times relative to 20 °C and 50 %, 0.25 to [`Air::SLOWEST`].
    ///
    /// For water: the ratio of vapour-pressure deficits. For solvent: doubled for every ten degrees less†.
    pub fn slower(self, by: DriesBy) -> f64 {
        let ratio = match by {
            DriesBy::Water => Self::default().deficit() / self.deficit().max(f64::MIN_POSITIVE),
            DriesBy::Solvent => 2f64.powf((20.0 - self.celsius) / 10.0),
        };
        ratio.clamp(0.25, Self::SLOWEST)
    }

    /// Vapour-pressure deficit, hPa: what the air can still take up, es(T) · (1 − RH).
    fn deficit(self) -> f64 {
        saturation_pressure(self.celsius) * (1.0 - self.humidity)
    }
}

/// Saturation vapour pressure over water, hPa, −45 to 60 °C, within 0.4 %: the Magnus formula with the constants of O. A. Alduchov and
/// R. E. Eskridge, *J. Appl. Meteorol.* 35 (1996) 601, eq. 21.
fn saturation_pressure(celsius: f64) -> f64 {
    6.1094 * (17.625 * celsius / (243.04 + celsius)).exp()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn colder_and_damper_is_never_faster(celsius in -30.0..60.0f64, colder in 0.0..20.0f64, humidity in 0.0..1.0f64, damper in 0.0..0.5f64) {
            let air = Air::new(celsius, humidity).unwrap();
            let worse = Air { celsius: celsius - colder, humidity: (humidity + damper).min(1.0) };
            for by in [DriesBy::Water, DriesBy::Solvent] {
                prop_assert!(worse.slower(by) >= air.slower(by));
            }
            prop_assert_eq!(Air { humidity, ..worse }.slower(DriesBy::Solvent), worse.slower(DriesBy::Solvent));
        }
    }

    /// Saturation pressures of D. Sonntag, *Z. Meteorol.* 70 (1990) 340: 6.112, 12.28, 23.39 and 42.47 hPa at 0, 10, 20 and 30 °C.
    #[test]
    fn magnus_by_the_table() {
        for (celsius, hectopascals) in [(0.0, 6.112), (10.0, 12.28), (20.0, 23.39), (30.0, 42.47)] {
            let ratio = saturation_pressure(celsius) / hectopascals;
            assert!((ratio - 1.0).abs() < 4e-3, "{celsius} °C: {ratio}");
        }
    }

    /// By arithmetic: at 20 °C the deficit at 85 % is three tenths of that at 50 %.
    #[test]
    fn damp_air_dries_water_three_times_as_slowly_and_wax_as_fast() {
        let damp = Air::new(20.0, 0.85).unwrap();
        assert!((damp.slower(DriesBy::Water) - 0.5 / 0.15).abs() < 1e-9);
        assert_eq!(damp.slower(DriesBy::Solvent), 1.0);
        assert_eq!(Air::new(20.0, 1.0).unwrap().slower(DriesBy::Water), Air::SLOWEST);
    }

    #[test]
    fn what_cannot_be_and_when_not_to_paint() {
        assert_eq!(Air::default().slower(DriesBy::Water), 1.0);
        for (celsius, humidity) in [(f64::NAN, 0.5), (-300.0, 0.5), (20.0, 1.2), (20.0, f64::INFINITY)] {
            assert!(Air::new(celsius, humidity).is_err());
        }
        for (celsius, humidity, word) in
            [(-10.0, 0.5, "dust off"), (45.0, 0.3, "wet edge"), (20.0, 1.0, "bloom")]
        {
            let said = Air::new(celsius, humidity).unwrap().allows().unwrap_err().to_string();
            assert!(said.contains(word), "{said}");
        }
        assert!(Air::default().allows().is_ok());
    }
}
