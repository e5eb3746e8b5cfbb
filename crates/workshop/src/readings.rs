//! Readings of paints: entry, comparison with the estimate, and effect.

use std::ops::Range;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_interchange::hex;
use warm_blend_learn::{Judged, LoggedReading, Measured, PartsMethod, Reading, Shown, Source, make_sense};
use warm_blend_paint::{FilmState, Microns, Name, Note, PaintId, Parts, Seen, Verdict};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, wavelength};

use crate::{CameOut, Checks, Refusal, ShelfSnapshot};

/// A reading as entered.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct ReadingEntry {
    /// Paints and parts; a paint alone is one part.
    pub of: Vec<ReadPart>,
    /// How the parts were measured: `spoons` (default), `eye` or `scale`.
    pub pour: Option<PartsMethod>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// A sample too thick for anything beneath to show; alternative to a drawdown.
    pub thick: Option<MeasuredEntry>,
    /// A drawdown over black and white.
    pub drawdown: Option<DrawdownEntry>,
    /// Origin: `reader` (default), `photo`, `chip` or `guess`.
    pub source: Option<Source>,
    /// True to confirm an unlikely reading.
    pub sure: Option<bool>,
    /// The painter's note.
    pub note: Option<String>,
    /// Name of the device, or of the file it was imported from.
    pub device: Option<String>,
    /// The pot from which the sample was taken.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pot: Option<Uuid>,
}

/// Readings that are still being learned from.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct PendingReadings {
    /// Number of deferred readings; until they are learned from, their tins are shown by labels and masstones. 0 if there
    /// are none.
    pub readings: usize,
}

/// A paint of a sample.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct ReadPart {
    /// The paint.
    pub paint: PaintId,
    /// Parts by wet volume, 0.001 to 100 000.
    pub parts: Parts,
}

/// A measured colour or curve, in one of three forms.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MeasuredEntry {
    /// L*, a*, b* in daylight (D65, 2°).
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lab: Option<[f64; 3]>,
    /// sRGB hex code.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hex: Option<String>,
    /// Reflectance factor in 36 bands, 380–730 nm in steps of 10 nm, each 0–1.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub spectrum: Option<Vec<f64>>,
}

/// A drawdown over the halves of a hiding chart.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct DrawdownEntry {
    /// Wet thickness, µm.
    pub wet_um: f64,
    /// Measurement over the black half.
    pub over_black: MeasuredEntry,
    /// Measurement over the white half.
    pub over_white: MeasuredEntry,
}

/// A reading in the log.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingKept {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// Time, RFC 3339.
    pub made_at: String,
    /// The reading.
    pub entry: ReadingEntry,
    /// Its sample in words: `oxblood 1 : chimney white 1`.
    pub title: String,
    /// Its colour on a screen in daylight; for a drawdown two, over black and over white.
    pub hex: Vec<String>,
    /// True if it contradicts the others: it is left out until the painter decides.
    pub questioned: bool,
    /// Distance from the prediction, in standard deviations.
    pub off: f64,
    /// ΔE00 between reading and prediction.
    pub difference: f64,
    /// Comparison in words: `the reading is a touch lighter than predicted`.
    pub words: String,
}

/// Effect of a new reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingMade {
    /// The reading.
    pub reading: ReadingKept,
    /// Comparison with the earlier prediction, as in the log; absent for a drawdown.
    pub came_out: Option<CameOut>,
    /// Effect on the uncertainty of each of its paints.
    pub news: Vec<News>,
}

/// Effect of a reading on the uncertainty of a paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct News {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Uncertainty of its mixes before, ΔE00.
    pub before: f64,
    /// Uncertainty of its mixes after, ΔE00.
    pub after: f64,
}

/// A sample for the colour reader.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ToRead {
    /// Paints and parts.
    pub of: Vec<ReadPart>,
    /// `dry` (default), `wet` or `sealed`.
    pub state: Option<FilmState>,
    /// Wet thickness of a drawdown, µm; a thick sample if left out.
    pub wet_um: Option<f64>,
    /// True to simulate a smeared window.
    pub smeared: Option<bool>,
    /// True for a curve, otherwise a colour.
    pub spectrum: Option<bool>,
}

/// A measurement by the colour reader.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadOut {
    /// Name of the device. `simulated reader` reads virtual paints behind the painter's own.
    pub device: String,
    /// Measurement of a thick sample.
    pub thick: Option<MeasuredEntry>,
    /// Measurement of a drawdown.
    pub drawdown: Option<DrawdownEntry>,
    /// Its colour on a screen in daylight; for a drawdown two, over black and over white.
    pub hex: Vec<String>,
}

impl From<&Measured> for MeasuredEntry {
    fn from(measured: &Measured) -> Self {
        match measured {
            Measured::Colour(Lab { l, a, b }) => Self { lab: Some([*l, *a, *b]), hex: None, spectrum: None },
            Measured::Spectrum(curve) => {
                Self { lab: None, hex: None, spectrum: Some(curve.bands().to_vec()) }
            }
        }
    }
}

impl MeasuredEntry {
    /// The measurement; errors refer to `pointer`.
    pub fn parse(&self, checks: &mut Checks, pointer: &str) -> Option<Measured> {
        match (self.lab, &self.hex, &self.spectrum) {
            (Some(lab), None, None) => checks.field(format!("{pointer}/lab"), colour(lab)),
            (None, Some(hex), None) => {
                let code =
                    checks.field(format!("{pointer}/hex"), hex.parse::<warm_blend_spectral::Srgb>())?;
                Some(Measured::Colour(code.to_lab()))
            }
            (None, None, Some(bands)) => {
                checks.field(format!("{pointer}/spectrum"), curve(bands)).map(Measured::spectrum)
            }
            _ => checks.wrong(pointer, "give the reading one way only: lab, hex or spectrum"),
        }
    }
}

fn colour([l, a, b]: [f64; 3]) -> Result<Measured, String> {
    match [l, a, b].iter().all(|v| v.is_finite()) && (0.0..=110.0).contains(&l) && a.hypot(b) < 200.0 {
        true => Ok(Measured::Colour(Lab { l, a, b })),
        false => Err("not a valid L*, a*, b*; L* is 0 to 100, a* and b* are −128 to 128".to_owned()),
    }
}

/// A curve of 36 bands; percentages are noticed and asked about.
fn curve(bands: &[f64]) -> Result<Reflectance, String> {
    let whole: [f64; BANDS] = bands.try_into().map_err(|_| {
        format!(
            "a spectrum needs {BANDS} values, {} to {} nm in 10 nm steps; this has {}. Import it as a file to resample it",
            wavelength(0),
            wavelength(BANDS - 1),
            bands.len()
        )
    })?;
    let most = whole.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    if let Some(i) = whole.iter().position(|r| !r.is_finite() || *r < -0.02) {
        return Err(format!(
            "reflectance at {} nm is {}: it must be between 0 and 1",
            wavelength(i),
            whole[i]
        ));
    }
    if most > 1.2 {
        let remedy =
            if most > 2.0 && most <= 120.0 { "; these look like percent, so divide by 100" } else { "" };
        return Err(format!("reflectance of {most} is too high; use 0 to 1{remedy}"));
    }
    Ok(Reflectance::clamped(whole))
}

impl ReadingEntry {
    /// Checks and converts the reading.
    pub fn parse(&self) -> Result<LoggedReading, Refusal> {
        let mut checks = Checks::default();
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        let device = checks.optional("/device", self.device.as_deref().map(Name::new));
        let shown = match (&self.thick, &self.drawdown) {
            (Some(thick), None) => thick.parse(&mut checks, "/thick").map(Shown::Thick),
            (None, Some(drawdown)) => drawdown.parse(&mut checks),
            _ => checks.wrong("/thick", "give the reading one way only: thick dab or drawdown"),
        };
        let (pour, state) = (self.pour.unwrap_or_default(), self.state.unwrap_or_default());
        let (source, sure) = (self.source.unwrap_or(Source::Reader), self.sure.unwrap_or_default());
        let of = self.of.iter().map(|part| (part.paint, part.parts)).collect();
        checks.done(shown.map(|shown| LoggedReading {
            reading: Reading { of, pour, state, shown, source, sure },
            note,
            device,
            pot: self.pot,
        }))
    }
}

impl DrawdownEntry {
    fn parse(&self, checks: &mut Checks) -> Option<Shown> {
        let wet = checks.field("/drawdown/wet_um", wet(self.wet_um));
        let over_black = self.over_black.parse(checks, "/drawdown/over_black");
        let over_white = self.over_white.parse(checks, "/drawdown/over_white");
        Some(Shown::Drawdown { wet: wet?, over_black: over_black?, over_white: over_white? })
    }
}

/// Accepts a wet film of 5 µm to a millimetre.
pub fn wet(microns: f64) -> Result<Microns, String> {
    match (5.0..=1000.0).contains(&microns) {
        true => Microns::new(microns).map_err(|error| error.to_string()),
        false => Err("wet thickness must be 5 to 1000 µm; a brushed coat is about 90 µm".to_owned()),
    }
}

impl From<&LoggedReading> for ReadingEntry {
    fn from(logged: &LoggedReading) -> Self {
        let LoggedReading { reading, note, device, pot } = logged;
        let (thick, drawdown) = shown_entry(&reading.shown);
        Self {
            of: reading.of.iter().map(|(id, parts)| ReadPart { paint: *id, parts: *parts }).collect(),
            pour: Some(reading.pour),
            state: Some(reading.state),
            thick,
            drawdown,
            source: Some(reading.source),
            sure: Some(reading.sure),
            note: note.clone().map(String::from),
            device: device.clone().map(String::from),
            pot: *pot,
        }
    }
}

/// Converts a measurement to the form in which it is entered.
pub fn shown_entry(shown: &Shown) -> (Option<MeasuredEntry>, Option<DrawdownEntry>) {
    match shown {
        Shown::Thick(measured) => (Some(measured.into()), None),
        Shown::Drawdown { wet, over_black, over_white } => {
            let drawdown = DrawdownEntry {
                wet_um: wet.value(),
                over_black: over_black.into(),
                over_white: over_white.into(),
            };
            (None, Some(drawdown))
        }
    }
}

impl ReadingKept {
    /// A reading with its comparison.
    pub fn of(kept: &Kept<LoggedReading>, judged: Option<&Judged>, shelf: &ShelfSnapshot) -> Self {
        let reading = &kept.value.reading;
        let of: Vec<String> = match reading.of.as_slice() {
            [(paint, _)] => vec![shelf.name(paint.0).to_owned()],
            parts => {
                parts.iter().map(|(paint, n)| format!("{} {}", shelf.name(paint.0), n.value())).collect()
            }
        };
        let words = judged.zip(reading.measured().next()).map(|(judged, read)| {
            let predicted = judged.predicted.first().copied().unwrap_or(read.lab());
            Verdict::against(read.lab(), predicted, "predicted").words()
        });
        Self {
            id: kept.id,
            revision: kept.revision,
            made_at: kept.made_at.to_string(),
            title: of.join(" : "),
            hex: reading.measured().map(hex).collect(),
            questioned: judged.is_some_and(|judged| judged.questioned),
            off: judged.map_or(0.0, |judged| judged.off),
            difference: judged.map_or(0.0, |judged| judged.difference),
            words: words.unwrap_or_default(),
            entry: ReadingEntry::from(&kept.value),
        }
    }
}

impl ShelfSnapshot {
    /// Checks that a reading is possible, given its paints.
    pub fn make_sense(&self, reading: &Reading<PaintId>) -> Result<(), Refusal> {
        let masstone = |(paint, _): &(PaintId, Parts)| {
            let tin = self.tin(paint.0)?;
            let lab = Seen::of(&self.paint(tin.id)?.best().masstone(), Light::Daylight).lab;
            Ok((!tin.value.class.is_medium()).then_some(lab))
        };
        let masstones = reading.of.iter().map(masstone).collect::<Result<Vec<_>, Refusal>>()?;
        let at = if reading.of.len() < 2 { "/drawdown" } else { "/thick" };
        make_sense(reading, &masstones).map_err(|error| Refusal::field(at, error))
    }

    /// These of all readings, latest first.
    pub fn log(&self, which: Range<usize>) -> Vec<ReadingKept> {
        let these = self.readings().rev().skip(which.start).take(which.len());
        these.map(|(kept, judged)| ReadingKept::of(kept, judged, self)).collect()
    }

    /// A reading.
    pub fn reading(&self, id: Uuid) -> Result<ReadingKept, Refusal> {
        let (kept, judged) = self.readings().find(|(kept, _)| kept.id == id).ok_or(Refusal::Broken)?;
        Ok(ReadingKept::of(kept, judged, self))
    }

    /// Effect of a reading that is new since `before`.
    pub fn news(&self, id: Uuid, before: &Self) -> Result<ReadingMade, Refusal> {
        let reading = self.reading(id)?;
        let of = reading.entry.of.iter().map(|part| self.tin(part.paint.0)).collect::<Result<Vec<_>, _>>()?;
        let paints = of.into_iter().filter(|tin| !tin.value.class.is_medium());
        let news = paints.map(|tin| News {
            paint: tin.id,
            name: tin.value.name.as_str().to_owned(),
            before: before.estimate().doubt(PaintId(tin.id)),
            after: self.estimate().doubt(PaintId(tin.id)),
        });
        Ok(ReadingMade { came_out: self.came_out(id)?, news: news.collect(), reading })
    }
}

/// Sample under the reader: paints and parts, state of the film, and wet thickness of a drawdown.
pub type UnderReader = (Vec<(PaintId, Parts)>, FilmState, Option<Microns>);

impl ToRead {
    /// Checks and converts the sample.
    pub fn parse(&self) -> Result<UnderReader, Refusal> {
        let mut checks = Checks::default();
        let of: Vec<(PaintId, Parts)> = self.of.iter().map(|part| (part.paint, part.parts)).collect();
        let wet = checks.optional("/wet_um", self.wet_um.map(wet));
        checks.done(Some(()))?;
        match of.is_empty() || of.len() > 8 {
            true => Err(Refusal::field("/of", "choose 1 to 8 paints for the reader")),
            false => Ok((of, self.state.unwrap_or_default(), wet)),
        }
    }

    /// True if the window is smeared.
    pub fn smeared(&self) -> bool {
        self.smeared.unwrap_or(false)
    }

    /// True if a curve is wanted.
    pub fn spectrum(&self) -> bool {
        self.spectrum.unwrap_or(true)
    }
}

impl ReadOut {
    /// The measurement of a device.
    pub fn of(device: String, shown: &Shown) -> Self {
        let hex = match shown {
            Shown::Thick(measured) => vec![hex(measured)],
            Shown::Drawdown { over_black, over_white, .. } => vec![hex(over_black), hex(over_white)],
        };
        let (thick, drawdown) = shown_entry(shown);
        Self { device, thick, drawdown, hex }
    }
}
