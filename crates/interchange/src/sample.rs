//! Contents of a file: named colours and curves, each with its line.

use warm_blend_learn::{Measured, Source};
use warm_blend_spectral::{BANDS, Degree, Lab, Light, Reflectance, Xyz, adapt, wavelength};

/// A colour or curve in a file.
#[derive(Debug, Clone, PartialEq)]
pub struct Sample {
    /// Its name in the file.
    pub name: String,
    /// Its line, from 1.
    pub line: usize,
    /// The curve, or the colour in daylight (D65, 2°).
    pub measured: Measured,
    /// Its origin, as far as its form reveals: a curve or Lab comes from an instrument, a code from a chip.
    pub source: Source,
    /// Conversions made on import.
    pub notes: Vec<String>,
}

/// A row that cannot be used.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct BadRow {
    /// Its line, from 1.
    pub line: usize,
    /// Its name, if it has one.
    pub name: String,
    /// Problem and remedy.
    pub what: String,
}

/// Rows of a file.
#[derive(Debug, Default)]
pub(crate) struct Rows {
    pub samples: Vec<Sample>,
    pub bad: Vec<BadRow>,
}

impl Rows {
    /// Adds a row with its content. An error if the file as a whole cannot be read further.
    pub(crate) fn take(&mut self, name: &str, read: Result<Option<Sample>, BadFile>) -> Result<(), BadFile> {
        match read {
            Ok(sample) => self.samples.extend(sample),
            Err(BadFile::Line { line, what }) => {
                self.bad.push(BadRow { line, name: name.trim().chars().take(80).collect(), what });
            }
            Err(whole) => return Err(whole),
        }
        Ok(())
    }

    /// An error if there are no rows.
    pub(crate) fn or_none(self, what: &str) -> Result<Self, BadFile> {
        if self.samples.is_empty() && self.bad.is_empty() {
            return Err(BadFile::Whole(what.to_owned()));
        }
        Ok(self)
    }

    pub(crate) fn count(&self) -> usize {
        self.samples.len() + self.bad.len()
    }
}

/// Author stated in files written here.
pub(crate) const MAKER: &str = "Warm Blend";
/// What the samples of a file are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Samples {
    /// Predicted.
    Predictions,
    /// Measured.
    Readings,
}

impl Samples {
    /// The statement in a file, so that nobody takes predictions for measurements.
    pub(crate) const fn statement(self) -> &'static str {
        match self {
            Self::Predictions => PREDICTIONS,
            Self::Readings => "Readings of samples of paint",
        }
    }
}

pub(crate) const PREDICTIONS: &str = "Predictions of Warm Blend, not measurements";

/// What is wrong with a file, and where.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadFile {
    /// A fault in a line.
    #[error("line {line}: {what}")]
    Line {
        /// Counted from 1.
        line: usize,
        /// What is wrong and what to do.
        what: String,
    },
    /// A fault of the whole file.
    #[error("{0}")]
    Whole(String),
    /// Nothing says what these L\*a\*b\* were taken with.
    #[error(
        "line {line}: nothing says what these L*a*b* were taken with: a reader, a chip, a photo or by eye?"
    )]
    Source {
        /// Counted from 1.
        line: usize,
    },
    /// Reflectance reaches this value: it may be percent, and only a person can tell.
    #[error("line {line}: reflectance goes up to {most}; are these values percent?")]
    Percent {
        /// Counted from 1.
        line: usize,
        /// The largest value.
        most: f64,
    },
}

impl BadFile {
    pub(crate) fn at(line: usize, what: impl Into<String>) -> Self {
        Self::Line { line, what: what.into() }
    }
}

/// A person's answers about a file.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Told {
    /// Whether reflectance above 1 is percent; `None` if not asked yet.
    pub percent: Option<bool>,
    /// Origin of all samples; `None` if not asked yet, or if the file states it.
    pub source: Option<Source>,
}

/// Fewest bands that make a curve.
const FEWEST: usize = 8;
/// Widest step between bands that is taken, nm.
const WIDEST: f64 = 25.0;
/// Beyond this nothing is a surface without fluorescence, and below this nothing is noise.
const MOST: f64 = 1.2;
const LEAST: f64 = -0.02;

/// Converts a curve at any wavelengths to 36 bands. Values in between are interpolated, values beyond the ends are
/// extended, and both are noted.
pub(crate) fn curve(
    line: usize,
    points: &[(f64, f64)],
    told: Told,
    notes: &mut Vec<String>,
) -> Result<Reflectance, BadFile> {
    if points.len() < FEWEST {
        let what =
            format!("{} bands are too few; use at least {FEWEST}, every 20 nm or closer", points.len());
        return Err(BadFile::at(line, what));
    }
    let mut points = points.to_vec();
    points.sort_by(|one, other| one.0.total_cmp(&other.0));
    if let Some((nm, r)) = points.iter().find(|(nm, r)| !nm.is_finite() || !r.is_finite()) {
        return Err(BadFile::at(line, format!("reflectance at {nm} nm is {r}, not a number")));
    }
    if let Some(pair) = points.windows(2).find(|pair| pair[1].0 - pair[0].0 < 1e-6) {
        return Err(BadFile::at(line, format!("{} nm is listed twice", pair[0].0)));
    }
    let (first, last) = (points[0].0, points[points.len() - 1].0);
    if first > 420.0 || last < 680.0 {
        let what = format!("the curve covers {first} to {last} nm; it must cover at least 420 to 680 nm");
        return Err(BadFile::at(line, what));
    }
    if let Some(pair) = points.windows(2).find(|pair| pair[1].0 - pair[0].0 > WIDEST) {
        let what = format!(
            "bands missing between {} and {} nm; measure every 20 nm or closer",
            pair[0].0, pair[1].0
        );
        return Err(BadFile::at(line, what));
    }
    let most = points.iter().map(|(_, r)| *r).fold(f64::NEG_INFINITY, f64::max);
    let scale = match told.percent {
        Some(true) => 0.01,
        None if most > 2.0 && most <= 150.0 => return Err(BadFile::Percent { line, most }),
        _ => 1.0,
    };
    if scale < 1.0 {
        notes.push("percent, divided by 100".to_owned());
    }
    if let Some((nm, r)) = points.iter().find(|(_, r)| r * scale > MOST || r * scale < LEAST) {
        let what = format!("reflectance at {nm} nm is {}: it must be between 0 and 1", r * scale);
        return Err(BadFile::at(line, what));
    }
    let regular = points.len() == BANDS
        && points.iter().zip(0..).all(|((nm, _), i)| (nm - f64::from(wavelength(i))).abs() < 1e-6);
    if !regular {
        let step = points[1].0 - points[0].0;
        if points.windows(2).any(|pair| (pair[1].0 - pair[0].0 - 10.0).abs() > 1e-6) {
            notes.push(format!("resampled from {step} nm to 10 nm"));
        }
        if first > 380.0 || last < 730.0 {
            notes.push(format!("measured from {first} to {last} nm, taken as level beyond"));
        }
    }
    Ok(Reflectance::from_fn(|i| at(&points, f64::from(wavelength(i))) * scale))
}

/// Straight between the points, level beyond them.
fn at(points: &[(f64, f64)], nm: f64) -> f64 {
    match points.iter().position(|(at, _)| *at >= nm) {
        None => points[points.len() - 1].1,
        Some(0) => points[0].1,
        Some(i) => {
            let ((before, low), (after, high)) = (points[i - 1], points[i]);
            low + (high - low) * (nm - before) / (after - before)
        }
    }
}

/// Illuminant and observer of a file's Lab values.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Viewing {
    pub light: Light,
    pub ten_degrees: bool,
}

impl Default for Viewing {
    fn default() -> Self {
        Self { light: Light::Daylight, ten_degrees: false }
    }
}

impl Viewing {
    /// Parses the words of a file: `D50`, `2 degree`, `1931`, `10°`.
    pub fn named(illuminant: &str, observer: &str) -> Result<Self, String> {
        let tidy = illuminant.trim().trim_matches('"').to_ascii_uppercase();
        let light = match tidy.as_str() {
            "" | "D65" => Light::Daylight,
            "D50" => Light::Sun,
            "D75" => Light::NorthShade,
            "A" => Light::Bulb,
            "F11" | "FL11" | "TL84" => Light::ShopTube,
            other => {
                return Err(format!(
                    "can’t use Lab under “{other}”; export Lab under D65 or D50, or the spectra"
                ));
            }
        };
        Ok(Self { light, ten_degrees: observer.contains("10") || observer.contains("1964") })
    }

    /// Converts a Lab value to daylight, and notes what was done.
    pub fn to_daylight(
        self,
        [l, a, b]: [f64; 3],
        line: usize,
        notes: &mut Vec<String>,
    ) -> Result<Lab, BadFile> {
        if ![l, a, b].iter().all(|v| v.is_finite()) || !(-0.5..=110.0).contains(&l) || a.hypot(b) > 200.0 {
            let what = format!(
                "L* {l}, a* {a}, b* {b} is not a paint colour; L* is 0 to 100, a* and b* are −128 to 128"
            );
            return Err(BadFile::at(line, what));
        }
        if self.ten_degrees {
            notes.push("made for the 10° observer, used as 2°; spectra would be more accurate".to_owned());
        }
        let lab = Lab { l: l.max(0.0), a, b };
        if self.light == Light::Daylight {
            return Ok(lab);
        }
        notes.push(format!(
            "converted from {} to D65 (CAT16); spectra would be more accurate",
            self.light.standard()
        ));
        let white = self.light.white();
        let day = Light::Daylight.white();
        let seen: Xyz = adapt(lab.to_xyz(white), white, day, Degree::FULL);
        Ok(Lab::of(seen, day))
    }
}
