//! The log of readings, and the reader that makes them.

use std::sync::Arc;

use axum::{Json, extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_device::ReaderTrouble;
use warm_blend_interchange::hex;
use warm_blend_learn::{Judged, LoggedReading, Measured, Pour, Reading, ShelfPaint, Shown, make_sense};
use warm_blend_paint::{Microns, Name, Note, PaintId, Parts, Seen as Look, Verdict};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, wavelength};
use warm_blend_store::{Kept, Store, StoreError};

use super::{
    names::Names,
    paints::{Seen, source},
};
use crate::{
    Workspace,
    body::{Body, IdPath},
    check::Checks,
    colour::{StateName, state},
    device::LaidOut,
    known::Known,
    problem::Problem,
};

/// A reading as it is entered.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct ReadingEntry {
    /// What was stirred together; a paint by itself is one part of it.
    of: Vec<ReadPart>,
    /// How the parts were measured: `spoons` (as when left out), `eye` or `scale`.
    pour: Option<String>,
    /// `dry` (as when left out), `wet` or `sealed`.
    #[schema(value_type = Option<StateName>)]
    state: Option<String>,
    /// A sample so thick that nothing beneath shows; or else a drawdown.
    thick: Option<MeasuredEntry>,
    /// A film over black and white.
    drawdown: Option<DrawdownEntry>,
    /// What it was read with: `reader` (as when left out), `photo`, `chip` or `guess`.
    source: Option<String>,
    /// True to say that it is right however odd it looks.
    sure: Option<bool>,
    /// The painter's words.
    note: Option<String>,
    /// The name of the device, or of the file it came from.
    device: Option<String>,
    /// The pot that it is a dab of.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pot: Option<Uuid>,
}

/// One paint of what was read.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct ReadPart {
    /// A paint of the shelf.
    paint: Uuid,
    /// Parts by wet volume.
    parts: f64,
}

/// A colour or a curve that was read: one of the two.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MeasuredEntry {
    /// L*, a*, b* in daylight (D65, 2°).
    #[serde(skip_serializing_if = "Option::is_none")]
    lab: Option<[f64; 3]>,
    /// sRGB hex code.
    #[serde(skip_serializing_if = "Option::is_none")]
    hex: Option<String>,
    /// Reflectance factor in 36 bands, 380–730 nm by 10 nm, each 0–1.
    #[serde(skip_serializing_if = "Option::is_none")]
    spectrum: Option<Vec<f64>>,
}

/// A film over the halves of a hiding chart.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct DrawdownEntry {
    /// Wet thickness, µm.
    wet_um: f64,
    /// Read over the black half.
    over_black: MeasuredEntry,
    /// Read over the white half.
    over_white: MeasuredEntry,
}

/// A reading in the log.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingKept {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// When it was made, RFC 3339.
    made_at: String,
    /// What was entered.
    entry: ReadingEntry,
    /// What it is of, in words: `oxblood 1 : chimney white 1`.
    title: String,
    /// What a screen shows for it in daylight; two over black and over white.
    hex: Vec<String>,
    /// True where it contradicts the others: it is left out until somebody says which is right.
    questioned: bool,
    /// How far out it lies, in standard deviations.
    off: f64,
    /// ΔE00 of what the estimate predicts from what was read.
    difference: f64,
    /// What it is predicted to be, in words: `the reading is a touch lighter than predicted`.
    words: String,
}

/// What a new reading did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingMade {
    /// The reading.
    reading: ReadingKept,
    /// What it did to the doubt of each of its paints.
    news: Vec<News>,
}

/// What a reading did to the doubt of a paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct News {
    /// The paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// Doubt in its mixes before, ΔE00.
    before: f64,
    /// And after.
    after: f64,
}

/// What is to be read with the reader.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ToRead {
    /// What lies under it.
    of: Vec<ReadPart>,
    /// `dry` (as when left out), `wet` or `sealed`.
    #[schema(value_type = Option<StateName>)]
    state: Option<String>,
    /// Wet thickness of a drawdown, µm; a thick sample if left out.
    wet_um: Option<f64>,
    /// True to read with a smear on the window, as happens.
    smeared: Option<bool>,
    /// True for a curve, else only the colour.
    spectrum: Option<bool>,
}

/// What the reader says.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadOut {
    /// Its name. `simulated reader` is a stand-in: it reads virtual paints behind the painter's own.
    device: String,
    /// A thick sample.
    thick: Option<MeasuredEntry>,
    /// A drawdown.
    drawdown: Option<DrawdownEntry>,
    /// What a screen shows for it in daylight; two over black and over white.
    hex: Vec<String>,
}

impl From<Measured> for MeasuredEntry {
    fn from(measured: Measured) -> Self {
        match measured {
            Measured::Colour(Lab { l, a, b }) => Self { lab: Some([l, a, b]), hex: None, spectrum: None },
            Measured::Spectrum(curve) => {
                Self { lab: None, hex: None, spectrum: Some(curve.bands().to_vec()) }
            }
        }
    }
}

impl MeasuredEntry {
    pub fn parse(&self, checks: &mut Checks, pointer: &str) -> Option<Measured> {
        match (self.lab, &self.hex, &self.spectrum) {
            (Some(lab), None, None) => checks.field(format!("{pointer}/lab"), colour(lab)),
            (None, Some(hex), None) => {
                let code =
                    checks.field(format!("{pointer}/hex"), hex.parse::<warm_blend_spectral::Srgb>())?;
                Some(Measured::Colour(code.to_lab()))
            }
            (None, None, Some(bands)) => {
                checks.field(format!("{pointer}/spectrum"), curve(bands)).map(Measured::Spectrum)
            }
            _ => {
                let help: Result<(), _> = Err("give the reading once: as lab, as hex or as spectrum");
                checks.field(pointer, help);
                None
            }
        }
    }
}

fn colour([l, a, b]: [f64; 3]) -> Result<Measured, String> {
    match [l, a, b].iter().all(|v| v.is_finite()) && (0.0..=110.0).contains(&l) && a.hypot(b) < 200.0 {
        true => Ok(Measured::Colour(Lab { l, a, b })),
        false => Err("this is no L*, a*, b* of a surface: L* goes from 0 to 100, a* and b* from −128 to 128"
            .to_owned()),
    }
}

/// A curve of 36 bands; percent instead of a share is noticed and asked about.
fn curve(bands: &[f64]) -> Result<Reflectance, String> {
    let whole: [f64; BANDS] = bands.try_into().map_err(|_| {
        format!(
            "a spectrum has {BANDS} values, {} to {} nm by 10 nm; this has {}: import it as a file, which resamples",
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
            if most > 2.0 && most <= 120.0 { ": these look like percent, divide them by 100" } else { "" };
        return Err(format!("reflectance goes up to {most}: it must be between 0 and 1{remedy}"));
    }
    Ok(Reflectance::clamped(whole))
}

fn parts(of: &[ReadPart], checks: &mut Checks) -> Option<Vec<(PaintId, Parts)>> {
    of.iter()
        .enumerate()
        .map(|(i, part)| {
            Some((PaintId(part.paint), checks.field(format!("/of/{i}/parts"), Parts::new(part.parts))?))
        })
        .collect()
}

impl ReadingEntry {
    fn parse(&self) -> Result<LoggedReading, Problem> {
        let mut checks = Checks::default();
        let of = parts(&self.of, &mut checks);
        let pour = match self.pour.as_deref() {
            None => Some(Pour::Spoons),
            Some(text) => checks.field("/pour", pour(text)),
        };
        let state = checks.field("/state", state(self.state.as_deref()));
        let source = checks.field("/source", source(self.source.as_deref().unwrap_or("reader")));
        let note = checks.optional("/note", self.note.as_deref().map(Note::new)).flatten();
        let device = checks.optional("/device", self.device.as_deref().map(Name::new));
        let shown = match (&self.thick, &self.drawdown) {
            (Some(thick), None) => thick.parse(&mut checks, "/thick").map(Shown::Thick),
            (None, Some(drawdown)) => drawdown.parse(&mut checks),
            _ => {
                let help: Result<(), _> = Err("give the reading once: as a thick sample or as a drawdown");
                checks.field("/thick", help);
                None
            }
        };
        let whole = of.zip(pour).zip(state.zip(source)).zip(shown);
        checks.done(whole.map(|(((of, pour), (state, source)), shown)| LoggedReading {
            reading: Reading { of, pour, state, shown, source, sure: self.sure.unwrap_or(false) },
            note,
            device,
            pot: self.pot,
        }))
    }
}

pub fn pour(text: &str) -> Result<Pour, String> {
    Pour::ALL.into_iter().find(|pour| pour.id() == text).ok_or_else(|| {
        let short: String = text.chars().take(40).collect();
        format!("“{short}” is no way of measuring parts: choose eye, spoons or scale")
    })
}

impl DrawdownEntry {
    fn parse(&self, checks: &mut Checks) -> Option<Shown> {
        let wet = checks.field("/drawdown/wet_um", wet(self.wet_um));
        let over_black = self.over_black.parse(checks, "/drawdown/over_black");
        let over_white = self.over_white.parse(checks, "/drawdown/over_white");
        Some(Shown::Drawdown { wet: wet?, over_black: over_black?, over_white: over_white? })
    }
}

/// A wet film that can be drawn: 5 µm to a millimetre.
pub fn wet(microns: f64) -> Result<Microns, String> {
    match (5.0..=1000.0).contains(&microns) {
        true => Microns::new(microns).map_err(|error| error.to_string()),
        false => {
            Err("the wet thickness of a drawdown is 5 to 1000 µm: a brushed coat is about 90".to_owned())
        }
    }
}

impl From<&LoggedReading> for ReadingEntry {
    fn from(logged: &LoggedReading) -> Self {
        let LoggedReading { reading, note, device, pot } = logged;
        let (thick, drawdown) = shown_entry(&reading.shown);
        Self {
            of: reading.of.iter().map(|(id, parts)| ReadPart { paint: id.0, parts: parts.value() }).collect(),
            pour: Some(reading.pour.id().to_owned()),
            state: Some(reading.state.id().to_owned()),
            thick,
            drawdown,
            source: Some(reading.source.id().to_owned()),
            sure: Some(reading.sure),
            note: note.clone().map(String::from),
            device: device.clone().map(String::from),
            pot: *pot,
        }
    }
}

fn shown_entry(shown: &Shown) -> (Option<MeasuredEntry>, Option<DrawdownEntry>) {
    match shown {
        Shown::Thick(measured) => (Some((*measured).into()), None),
        Shown::Drawdown { wet, over_black, over_white } => {
            let drawdown = DrawdownEntry {
                wet_um: wet.value(),
                over_black: (*over_black).into(),
                over_white: (*over_white).into(),
            };
            (None, Some(drawdown))
        }
    }
}

impl ReadingKept {
    pub fn of(kept: &Kept<LoggedReading>, judged: Option<&Judged>, names: &Names) -> Self {
        let reading = &kept.value.reading;
        let of: Vec<String> = match reading.of.as_slice() {
            [(paint, _)] => vec![names.of(paint.0)],
            parts => parts.iter().map(|(paint, n)| format!("{} {}", names.of(paint.0), n.value())).collect(),
        };
        let words = judged.zip(reading.measured().next()).map(|(judged, read)| {
            let predicted = judged.predicted.first().copied().unwrap_or(read.lab());
            Verdict::of(read.lab(), predicted).words.replace("the target", "predicted")
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

/// The tins of a reading, which must all be known.
fn tins(store: &Store, of: &[(PaintId, Parts)]) -> Result<Vec<Kept<ShelfPaint>>, StoreError> {
    of.iter().map(|(id, _)| store.get(id.0)).collect()
}

/// All readings, newest first.
#[utoipa::path(get, path = "/readings", operation_id = "list_readings",
    tag = "readings",
    responses((status = OK, body = Vec<ReadingKept>)))]
pub async fn list(State(workspace): State<Workspace>) -> Result<Json<Vec<ReadingKept>>, Problem> {
    let (names, known) = workspace.with_known(|store| Names::gather(store)).await?;
    let mut all: Vec<_> =
        known.readings().map(|(kept, judged)| ReadingKept::of(kept, judged, &names)).collect();
    all.reverse();
    Ok(Json(all))
}

/// That a reading can be at all, given what is known of its paints; with these and that.
async fn sensible(
    workspace: &Workspace,
    reading: &Reading<PaintId>,
) -> Result<(Vec<Kept<ShelfPaint>>, Arc<Known>), Problem> {
    let of = reading.of.clone();
    let (paints, known) = workspace.with_known(move |store| tins(store, &of)).await?;
    let masstones: Vec<Option<Lab>> = paints
        .iter()
        .map(|tin| {
            let lab = Look::of(&known.paint(tin.id)?.best().masstone(), Light::Daylight).lab;
            Ok((!tin.value.class.is_medium()).then_some(lab))
        })
        .collect::<Result<_, Problem>>()?;
    let at = if reading.of.len() < 2 { "/drawdown" } else { "/thick" };
    make_sense(reading, &masstones).map_err(|error| Problem::field(at, error))?;
    Ok((paints, known))
}

/// Enter a reading; everything that rests on it is known better at once.
#[utoipa::path(post, path = "/readings", operation_id = "make_reading",
    tag = "readings", request_body = ReadingEntry,
    responses((status = CREATED, body = ReadingMade)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Body(entry): Body<ReadingEntry>,
) -> Result<(StatusCode, Json<ReadingMade>), Problem> {
    let logged = entry.parse()?;
    let of = logged.reading.of.clone();
    let (paints, before) = sensible(&workspace, &logged.reading).await?;
    let ((id, names), known) = workspace
        .with_known(move |store| {
            let kept = store.make(logged)?;
            Ok((kept.id, Names::gather(store)?))
        })
        .await?;
    let (kept, judged) = known.reading(id)?;
    let news =
        of.iter().zip(&paints).filter(|(_, tin)| !tin.value.class.is_medium()).map(|((paint, _), tin)| {
            News {
                paint: paint.0,
                name: tin.value.name.as_str().to_owned(),
                before: before.estimate().doubt(*paint),
                after: known.estimate().doubt(*paint),
            }
        });
    let made = ReadingMade { reading: ReadingKept::of(kept, judged, &names), news: news.collect() };
    Ok((StatusCode::CREATED, Json(made)))
}

/// Change a reading: say that it is right, or note something.
#[utoipa::path(put, path = "/readings/{id}", operation_id = "change_reading",
    tag = "readings", params(Seen, ("id" = Uuid, Path)), request_body = ReadingEntry,
    responses((status = OK, body = ReadingKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    crate::body::Asked(Seen { revision }): crate::body::Asked<Seen>,
    Body(entry): Body<ReadingEntry>,
) -> Result<Json<ReadingKept>, Problem> {
    let logged = entry.parse()?;
    let before = workspace.with(move |store| store.get::<LoggedReading>(id)).await?;
    // A note may be written beside whatever is in the log.
    if before.value.reading != logged.reading {
        sensible(&workspace, &logged.reading).await?;
    }
    let (names, known) = workspace
        .with_known(move |store| {
            tins(store, &logged.reading.of)?;
            store.change(id, revision, logged)?;
            Names::gather(store)
        })
        .await?;
    let (kept, judged) = known.reading(id)?;
    Ok(Json(ReadingKept::of(kept, judged, &names)))
}

/// Take a reading out of the log: what it taught is forgotten; undo brings it back.
#[utoipa::path(delete, path = "/readings/{id}", operation_id = "remove_reading",
    tag = "readings", params(Seen, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    crate::body::Asked(Seen { revision }): crate::body::Asked<Seen>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<LoggedReading>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What a reader says where it cannot.
pub fn trouble(trouble: ReaderTrouble) -> Problem {
    Problem::new(StatusCode::CONFLICT, "reader", "The reader cannot", trouble.to_string())
}

/// Read a sample with the reader at hand, at three places; nothing is kept.
#[utoipa::path(post, path = "/reader/read", operation_id = "read_sample",
    tag = "readings", request_body = ToRead,
    responses((status = OK, body = ReadOut)))]
pub async fn read(
    State(workspace): State<Workspace>,
    Body(asked): Body<ToRead>,
) -> Result<Json<ReadOut>, Problem> {
    let mut checks = Checks::default();
    let of = parts(&asked.of, &mut checks);
    let state = checks.field("/state", state(asked.state.as_deref()));
    let wet = checks.optional("/wet_um", asked.wet_um.map(wet));
    let (of, state) = checks.done(of.zip(state))?;
    if of.is_empty() || of.len() > 8 {
        return Err(Problem::field("/of", "lay out one to eight paints for the reader"));
    }
    let paints = {
        let of = of.clone();
        workspace.with(move |store| tins(store, &of)).await?
    };
    let laid_out = LaidOut {
        of: paints.into_iter().zip(of).map(|(tin, (_, parts))| (tin.value, parts)).collect(),
        state,
        wet,
    };
    let reader = workspace.reader.clone();
    let (smeared, spectrum) = (asked.smeared.unwrap_or(false), asked.spectrum.unwrap_or(true));
    let shown = tokio::task::spawn_blocking(move || reader.read(&laid_out, smeared, spectrum))
        .await
        .map_err(|_| Problem::internal())?
        .map_err(trouble)?;
    let hex = match &shown {
        Shown::Thick(measured) => vec![hex(measured)],
        Shown::Drawdown { over_black, over_white, .. } => vec![hex(over_black), hex(over_white)],
    };
    let (thick, drawdown) = shown_entry(&shown);
    Ok(Json(ReadOut { device: workspace.reader.name(), thick, drawdown, hex }))
}

/// Set the reader right on its white tile and wipe its window.
#[utoipa::path(post, path = "/reader/calibrate", operation_id = "calibrate_reader",
    tag = "readings", responses((status = NO_CONTENT)))]
pub async fn calibrate(State(workspace): State<Workspace>) -> Result<StatusCode, Problem> {
    workspace.reader.calibrate().map_err(trouble)?;
    Ok(StatusCode::NO_CONTENT)
}
