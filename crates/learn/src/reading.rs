//! Readings: what was measured, and how.

use std::sync::Arc;
use strum::VariantArray as _;

use serde::{Deserialize, Serialize};
use warm_blend_paint::{FilmState, Microns, Parts};
use warm_blend_spectral::{BANDS, Degree, Lab, Light, Reflectance, Srgb, Xyz, on_screen};

use super::local_metric::visible;

/// Origin of a colour, which determines its accuracy.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Source {
    /// Colour reader.
    Reader,
    /// Photo that includes a white or grey card.
    Photo,
    /// Printed chip, or the maker's code.
    #[default]
    Chip,
    /// Judged by eye.
    Guess,
}

impl Source {
    /// All origins, most to least accurate.
    pub const ALL: [Source; 4] = [Source::Reader, Source::Chip, Source::Photo, Source::Guess];

    /// `reader`, `chip`, `photo` or `guess`.
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Finds an origin by its id.
    pub fn find(id: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|source| source.id() == id)
    }

    /// How a reading is described: `by colour reader`.
    pub const fn words(self) -> &'static str {
        match self {
            Source::Reader => "by colour reader",
            Source::Photo => "from a photo",
            Source::Chip => "from a colour card or code",
            Source::Guess => "by eye",
        }
    }

    /// Root mean square error, ΔE00†.
    pub const fn off(self) -> f64 {
        match self {
            Source::Reader => 0.4,
            Source::Photo => 2.0,
            Source::Chip => 1.5,
            Source::Guess => 4.0,
        }
    }

    /// Standard deviation in each of the three directions of colour, ΔE00.
    pub fn sd(self) -> f64 {
        self.off() / 3f64.sqrt()
    }

    /// Standard deviation of ln(reflectance) shared by all bands of a spectrum†: the reader's tile, the pressure of the
    /// hand.
    pub(crate) fn gain_sd(self) -> f64 {
        0.005 * self.off() / Source::Reader.off()
    }

    /// Independent error (sd) of a spectrum's reflectance in one band†, larger where lamps are weak and eyes insensitive.
    /// Chosen so that a colour computed from a spectrum is as accurate as a measured colour.
    pub(crate) fn band_sd(self, r: f64, band: usize) -> f64 {
        let dim = 1.0 + 20.0 * (-visible(band) / 0.005).exp();
        (0.0007 + 0.0034 * r) * dim * self.off() / Source::Reader.off()
    }
}

/// How the parts of a sample were measured, which determines their accuracy.
#[derive(
    Debug,
    Clone,
    Copy,
    PartialEq,
    Eq,
    Hash,
    Default,
    Serialize,
    Deserialize,
    strum::IntoStaticStr,
    strum::VariantArray,
)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PartsMethod {
    /// By eye, in dabs.
    Eye,
    /// In level spoons or cups.
    #[default]
    Spoons,
    /// With a scale or a syringe.
    Scale,
}

impl PartsMethod {
    /// All methods, least accurate first.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `eye`, `spoons` or `scale`.
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Standard deviation of ln(parts)†.
    pub(crate) const fn sd(self) -> f64 {
        match self {
            PartsMethod::Eye => 0.15,
            PartsMethod::Spoons => 0.05,
            PartsMethod::Scale => 0.01,
        }
    }
}

/// Standard deviation of ln(thickness) of a drawdown made with a blade or a wire-wound bar†.
pub(crate) const DRAWN: f64 = 0.1;

/// A measured colour in daylight, or a measured spectrum.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "Written", into = "Written")]
pub enum Measured {
    /// L\*a\*b\* (D65, 2°).
    Colour(Lab),
    /// Reflectance in 36 bands. Boxed because most readings are colours, which take a tenth of the space.
    Spectrum(Arc<Reflectance>),
}

/// File format of a measurement: `{"lab": [61.2, 9.8, 33.1]}` or `{"spectrum": [0.05, …]}` with 36 values.
#[derive(Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Written {
    Lab([f64; 3]),
    Spectrum(Vec<f64>),
}

/// A value in a file that is not a measurement.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadMeasured {
    /// Wrong number of bands.
    #[error("a spectrum needs {BANDS} values, 380 to 730 nm in 10 nm steps; this one has {0}")]
    Bands(usize),
    /// Not a possible reflectance or colour of a surface.
    #[error("{0} is not a valid reflectance or colour value")]
    FarOff(f64),
}

impl TryFrom<Written> for Measured {
    type Error = BadMeasured;

    /// Accepts more than is accepted from a painter, so that anything saved can be read again.
    fn try_from(written: Written) -> Result<Self, BadMeasured> {
        let far = |values: &[f64], least: f64, most: f64| {
            let off = values.iter().copied().find(|v| !(least..=most).contains(v));
            off.map_or(Ok(()), |v| Err(BadMeasured::FarOff(v)))
        };
        match written {
            Written::Lab([l, a, b]) => {
                far(&[l], -10.0, 200.0).and(far(&[a, b], -300.0, 300.0))?;
                Ok(Measured::Colour(Lab { l, a, b }))
            }
            Written::Spectrum(bands) => {
                far(&bands, -0.5, 2.0)?;
                let bands: [f64; BANDS] =
                    bands.try_into().map_err(|bands: Vec<f64>| BadMeasured::Bands(bands.len()))?;
                Ok(Measured::spectrum(Reflectance::from_fn(|i| bands[i])))
            }
        }
    }
}

impl From<Measured> for Written {
    fn from(measured: Measured) -> Self {
        match measured {
            Measured::Colour(Lab { l, a, b }) => Written::Lab([l, a, b]),
            Measured::Spectrum(curve) => Written::Spectrum(curve.bands().to_vec()),
        }
    }
}

impl Measured {
    /// A measured spectrum.
    pub fn spectrum(curve: Reflectance) -> Self {
        Self::Spectrum(Arc::new(curve))
    }

    /// Its colour in daylight.
    pub fn lab(&self) -> Lab {
        match self {
            Measured::Colour(lab) => *lab,
            Measured::Spectrum(curve) => Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white()),
        }
    }

    /// What a screen shows for it in daylight.
    pub fn on_screen(&self) -> Srgb {
        let xyz = self.lab().to_xyz(Light::Daylight.white());
        on_screen(xyz, Light::Daylight, Degree::FULL).srgb
    }

    /// True if it equals another to the last figure that files keep: percent and L\*a\*b\* to two decimals, or the same
    /// 8-bit code for sources that give only a code. No instrument repeats so exactly: it is a copy and adds no
    /// information.
    pub fn repeats(&self, other: &Measured, source: Source) -> bool {
        const BAND: f64 = 6e-5;
        const LAB: f64 = 0.006;
        match (self, other) {
            (Measured::Spectrum(one), Measured::Spectrum(other)) => {
                one.bands().iter().zip(other.bands()).all(|(one, other)| (one - other).abs() < BAND)
            }
            _ if source == Source::Chip => self.on_screen() == other.on_screen(),
            _ => {
                let (one, other) = (self.lab(), other.lab());
                [one.l - other.l, one.a - other.a, one.b - other.b].iter().all(|d| d.abs() < LAB)
            }
        }
    }

    /// Mean of several readings of one sample: of the spectra if all are spectra, otherwise of the colours. `None` for an
    /// empty list.
    pub fn mean(readings: &[Measured]) -> Option<Self> {
        let n = readings.len() as f64;
        let curves: Option<Vec<&Reflectance>> = readings
            .iter()
            .map(|reading| match reading {
                Measured::Spectrum(curve) => Some(&**curve),
                Measured::Colour(_) => None,
            })
            .collect();
        if readings.is_empty() {
            return None;
        }
        Some(match curves {
            Some(curves) => Measured::spectrum(Reflectance::from_fn(|i| {
                curves.iter().map(|curve| curve.bands()[i]).sum::<f64>() / n
            })),
            None => {
                let mean = |part: fn(&Lab) -> f64| {
                    readings.iter().map(|reading| part(&reading.lab())).sum::<f64>() / n
                };
                Measured::Colour(Lab { l: mean(|lab| lab.l), a: mean(|lab| lab.a), b: mean(|lab| lab.b) })
            }
        })
    }
}

/// How a sample was prepared for reading.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Shown {
    /// Too thick for anything beneath to show.
    Thick(Measured),
    /// A film of known wet thickness over the black and the white half of a hiding chart.
    Drawdown {
        /// Wet thickness.
        wet: Microns,
        /// Read over the black half.
        over_black: Measured,
        /// Read over the white half.
        over_white: Measured,
    },
}

/// A reading of a paint, or of a mix of known parts. `P` identifies a paint: by index or by id.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Reading<P = usize> {
    /// Paints and parts; a paint alone is one part.
    pub of: Vec<(P, Parts)>,
    /// How the parts were measured.
    pub pour: PartsMethod,
    /// State of the film when it was measured.
    pub state: FilmState,
    /// The measurement.
    pub shown: Shown,
    /// Origin of the measurement.
    pub source: Source,
    /// True once the painter has confirmed an unlikely reading.
    pub sure: bool,
}

impl<P> Reading<P> {
    /// The measurements; for a drawdown black, then white.
    pub fn measured(&self) -> impl Iterator<Item = &Measured> {
        let (first, second) = match &self.shown {
            Shown::Thick(measured) => (measured, None),
            Shown::Drawdown { over_black, over_white, .. } => (over_black, Some(over_white)),
        };
        std::iter::once(first).chain(second)
    }

    /// The same reading with paints identified in another way; `None` if one has no new identity.
    pub fn with_paints<Q>(self, name: impl Fn(P) -> Option<Q>) -> Option<Reading<Q>> {
        let of =
            self.of.into_iter().map(|(paint, parts)| Some((name(paint)?, parts))).collect::<Option<_>>()?;
        let Self { pour, state, shown, source, sure, .. } = self;
        Some(Reading { of, pour, state, shown, source, sure })
    }

    /// Spectrum of a paint alone, thick and dry, which replaces a stated colour.
    pub(crate) fn masstone_spectrum(&self) -> Option<(&P, &Reflectance)> {
        match (&self.of[..], self.state, &self.shown) {
            ([(paint, _)], FilmState::Dry, Shown::Thick(Measured::Spectrum(curve))) => Some((paint, curve)),
            _ => None,
        }
    }
}

/// Number of bands averaged when a spectrum is compared: a curve of a few smooth modes has no finer detail.
pub(crate) const TOGETHER: usize = 3;
/// Number of values compared for a spectrum.
pub(crate) const GROUPS: usize = BANDS / TOGETHER;

#[cfg(test)]
mod tests {
    use super::*;
    use crate::draws::{self, MEMBERS, Whose};
    use warm_blend_spectral::difference;

    #[test]
    fn what_stands_in_a_file_is_a_measurement_or_is_said_not_to_be() {
        let read = |json: &str| serde_json::from_str::<Measured>(json).map_err(|error| error.to_string());
        let curve = Measured::spectrum(Reflectance::from_fn(|i| 0.02 * i as f64));
        assert_eq!(read(&serde_json::to_string(&curve).unwrap()), Ok(curve));
        assert!(read(r#"{"spectrum": [0.5, 0.6]}"#).unwrap_err().contains("needs 36 values"));
        assert!(read(r#"{"spectrum": []}"#).unwrap_err().contains("this one has 0"));
        assert!(
            read(r#"{"lab": [1e300, 0, 0]}"#)
                .unwrap_err()
                .contains("is not a valid reflectance or colour value")
        );
        assert!(read(r#"{"lab": [50, 0]}"#).is_err() && read(r#"{"hex": "#).is_err());
    }

    /// A spectrum knows its colour as well as a reader of colours does, from grey to white; worse where it is nearly black.
    #[test]
    fn a_spectrum_is_as_far_off_as_a_colour() {
        let reader = Source::Reader;
        let chances = draws::unit_normals(Whose::Test(0), GROUPS + 1);
        let off = |r: f64| {
            let read = |m: usize| {
                let band = |i: usize| {
                    let group = i / TOGETHER;
                    let own = reader.band_sd(r, group * TOGETHER + TOGETHER / 2) * chances[(group, m)];
                    r * (1.0 + reader.gain_sd() * chances[(GROUPS, m)]) + own
                };
                Measured::spectrum(Reflectance::from_fn(band)).lab()
            };
            let grey = Measured::spectrum(Reflectance::from_fn(|_| r)).lab();
            let squares: f64 = (0..MEMBERS).map(|m| difference(grey, read(m)).value().powi(2)).sum();
            (squares / MEMBERS as f64).sqrt()
        };
        for r in [0.1, 0.2, 0.4, 0.6, 0.85] {
            assert!((off(r) / reader.off() - 1.0).abs() < 0.15, "{} at {r}", off(r));
        }
        assert!((1.0..2.5).contains(&(off(0.02) / reader.off())), "{}", off(0.02));
    }
}
