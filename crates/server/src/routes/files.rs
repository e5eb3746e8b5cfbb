//! Files in and out: a preview of what an import will do, the import at one go, and exports.

use std::{collections::HashMap, sync::Arc};

use axum::{
    Json,
    body::Bytes,
    extract::State,
    http::{StatusCode, header},
    response::{IntoResponse, Response},
};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_interchange::{
    BadFile, Format, Import, LARGEST_FILE, Sample, Told, cgats, csv, cxf, gpl, hex, import,
};
use warm_blend_learn::{LoggedReading, Measured, Pour, Reading, ShelfPaint, Shown, Source};
use warm_blend_paint::{Class, CoatsToHide, Masstone, Name, PaintId, Parts, Price, State as Film};
use warm_blend_piece::Piece;
use warm_blend_spectral::Lab;
use warm_blend_store::{Kept, Store, StoreError};

use super::paints::source;
use crate::{
    Workspace,
    body::{Asked, InPath, Raw},
    known::Known,
    problem::Problem,
};

/// How often a file is read anew because somebody changed the shelf meanwhile.
const TRIES: usize = 3;

/// How a file is to be taken.
#[derive(Debug, Clone, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HowToImport {
    /// Class of paints that are not on the shelf yet; `chalk` if left out.
    class: Option<String>,
    /// Whether reflectance above 1 is percent: to be said where the answer was `urn:warm-blend:percent`.
    percent: Option<bool>,
    /// What the file was read with: `reader`, `chip`, `photo` or `guess`; as its samples say if left out.
    source: Option<String>,
    /// The name of the file, for the log.
    file: Option<String>,
}

/// What an import will do, or did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportPlan {
    /// The format that was recognised: `CGATS.17`, `CxF/X`, `CSV`, `GIMP palette` or `Warm Blend shelf`.
    format: String,
    /// Line by line.
    rows: Vec<ImportRow>,
    /// How many paints are new, how many readings are of paints on the shelf, how many lines change nothing.
    summary: String,
}

/// One line of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportRow {
    /// Where it stands in the file, counted from 1.
    line: usize,
    /// Its name.
    name: String,
    /// What the screen shows for it.
    hex: String,
    /// `new`, `reading` or `skip`.
    deed: &'static str,
    /// What it is taken to be read with: `reader`, `chip`, `photo` or `guess`.
    source: &'static str,
    /// In words: `a reading of oat white, from a chip or code`.
    words: String,
    /// What was done to it on the way in.
    notes: Vec<String>,
}

/// What is done with one sample.
enum Deed {
    /// A paint that is not on the shelf.
    New(Box<ShelfPaint>, Log),
    /// A masstone reading of a paint that is.
    Read(Uuid),
    /// A tin of an exported shelf with the id it had there and its readings.
    Whole(Box<ShelfPaint>, Uuid, Vec<LoggedReading>),
    /// A tin of an exported shelf that is on this one: its id there and here.
    Same(Uuid, Uuid),
    /// Nothing.
    Skip(&'static str),
}

/// What is logged of a new paint.
enum Log {
    Masstone,
    Nothing,
}

struct Plan {
    format: &'static str,
    deeds: Vec<(Sample, Deed)>,
    file: Option<Name>,
}

/// A name as it is compared: without case and outer spaces.
fn tidy(name: &str) -> String {
    name.trim().to_lowercase()
}

/// A file as it was read, before anybody looked at the shelf.
enum FileRead {
    Colours {
        format: Format,
        predicted: bool,
        class: Class,
        /// Each with whether a surface can have its colour.
        samples: Vec<(Sample, bool)>,
        name: Option<Name>,
    },
    Whole(WholeShelf),
}

impl FileRead {
    fn of(bytes: &[u8], how: &HowToImport) -> Result<Self, Problem> {
        if bytes.trim_ascii_start().starts_with(b"{") {
            return serde_json::from_slice(bytes).map(Self::Whole).map_err(|error| {
                let what = format!("this is no shelf in JSON ({error}): export one to see its form");
                unread(&BadFile::Line { line: error.line().max(1), what })
            });
        }
        let class = match how.class.as_deref().unwrap_or("chalk").parse::<Class>() {
            Ok(class) if !class.is_medium() => class,
            Ok(_) => return Err(Problem::field("?class", "colours are of paints: choose a class of paint")),
            Err(error) => return Err(Problem::field("?class", error)),
        };
        let stated = how.source.as_deref().map(source).transpose();
        let stated = stated.map_err(|error| Problem::field("?source", error))?;
        let Import { format, predicted, samples } =
            import(bytes, Told { percent: how.percent }).map_err(|error| unread(&error))?;
        let looked_at = |mut sample: Sample| {
            // What was predicted here is worth a guess where nothing else is known of it.
            sample.source = stated.unwrap_or(if predicted { Source::Guess } else { sample.source });
            let can_be = Masstone::Lab(sample.measured.lab()).reflectance().is_ok();
            (sample, can_be)
        };
        let samples = samples.into_par_iter().map(looked_at).collect();
        let short = |file: &str| Name::new(&file.chars().take(80).collect::<String>()).ok();
        Ok(Self::Colours { format, predicted, class, samples, name: how.file.as_deref().and_then(short) })
    }
}

impl Plan {
    /// What a file would do to these tins.
    fn of(file: FileRead, tins: Vec<Kept<ShelfPaint>>, known: &Known) -> Self {
        let (format, predicted, class, samples, name) = match file {
            FileRead::Whole(whole) => return Self::of_whole_shelf(&tins, whole),
            FileRead::Colours { format, predicted, class, samples, name } => {
                (format, predicted, class, samples, name)
            }
        };
        let here: HashMap<String, Kept<ShelfPaint>> =
            tins.into_iter().map(|tin| (tidy(tin.value.name.as_str()), tin)).collect();
        let mut before: HashMap<String, Vec<Measured>> = HashMap::new();
        let deeds = samples.into_iter().map(|(sample, can_be)| {
            let earlier = before.entry(tidy(&sample.name)).or_default();
            let deed = match here.get(&tidy(&sample.name)) {
                Some(tin) if tin.value.class.is_medium() => {
                    Deed::Skip("a medium of that name is on the shelf")
                }
                Some(_) if predicted => Deed::Skip("it was predicted here, not read"),
                Some(_) if format == Format::Gpl => {
                    Deed::Skip("on the shelf, and a palette says no more than its tin")
                }
                Some(_) if earlier.iter().any(|other| sample.measured.repeats(other, sample.source)) => {
                    Deed::Skip("the same stands there before")
                }
                Some(tin) => match known_already(known, tin, &sample) {
                    Some(why) => Deed::Skip(why),
                    None => Deed::Read(tin.id),
                },
                None if !earlier.is_empty() => Deed::Skip("the same name stands there before"),
                None if !can_be => Deed::Skip("no surface can have this colour"),
                None => made(&sample, class, predicted),
            };
            earlier.push(sample.measured);
            (sample, deed)
        });
        let deeds: Vec<_> = deeds.collect();
        Self { format: format.name(), deeds, file: name }
    }

    /// A shelf that was exported as JSON: its tins that are not on this shelf, and their readings.
    fn of_whole_shelf(tins: &[Kept<ShelfPaint>], whole: WholeShelf) -> Self {
        let known: HashMap<String, Uuid> =
            tins.iter().map(|tin| (tidy(tin.value.name.as_str()), tin.id)).collect();
        // A reading comes with the last of its tins that is new; one of tins that are all here is here already.
        let new: Vec<Uuid> = whole
            .paints
            .iter()
            .filter(|tin| !known.contains_key(&tidy(tin.value.name.as_str())))
            .map(|tin| tin.id)
            .collect();
        let mut readings: HashMap<Uuid, Vec<LoggedReading>> = HashMap::new();
        for reading in whole.readings {
            let speaks_of = |id: &Uuid| reading.value.reading.of.iter().any(|(paint, _)| paint.0 == *id);
            if let Some(last) = new.iter().rev().find(|id| speaks_of(id)) {
                readings.entry(*last).or_default().push(reading.value);
            }
        }
        let deeds = whole.paints.into_iter().enumerate().map(|(i, tin)| {
            let clear = Lab { l: 90.0, a: 0.0, b: 0.0 };
            let with = readings.remove(&tin.id).unwrap_or_default();
            let sample = Sample {
                name: tin.value.name.as_str().to_owned(),
                line: i + 1,
                measured: Measured::Colour(tin.value.masstone.map_or(clear, Masstone::lab)),
                source: tin.value.source,
                notes: if with.is_empty() {
                    Vec::new()
                } else {
                    vec![format!("with {} readings", with.len())]
                },
            };
            let deed = match known.get(&tidy(&sample.name)) {
                Some(id) => Deed::Same(tin.id, *id),
                None if tin.value.material().is_err() => Deed::Skip("its colour cannot be"),
                None => Deed::Whole(Box::new(tin.value), tin.id, with),
            };
            (sample, deed)
        });
        Self { format: "Warm Blend shelf", deeds: deeds.collect(), file: None }
    }

    fn told(&self, names: &HashMap<Uuid, String>) -> ImportPlan {
        let row = |(sample, deed): &(Sample, Deed)| ImportRow {
            line: sample.line,
            name: sample.name.chars().take(80).collect(),
            hex: hex(&sample.measured),
            deed: match deed {
                Deed::New(..) | Deed::Whole(..) => "new",
                Deed::Read(_) => "reading",
                Deed::Skip(_) | Deed::Same(..) => "skip",
            },
            words: match deed {
                Deed::Whole(..) => "a new paint".to_owned(),
                Deed::New(..) => format!("a new paint, {}", sample.source.words()),
                Deed::Same(..) => "left out: it is on the shelf".to_owned(),
                Deed::Read(id) => {
                    let of = names.get(id).map_or("a paint", String::as_str);
                    format!("a reading of {of}, {}", sample.source.words())
                }
                Deed::Skip(why) => format!("left out: {why}"),
            },
            source: sample.source.id(),
            notes: sample.notes.clone(),
        };
        let rows: Vec<ImportRow> = self.deeds.iter().map(row).collect();
        let count = |deed: &str| rows.iter().filter(|row| row.deed == deed).count();
        let readings = match count("reading") {
            1 => "1 reading of a paint on the shelf".to_owned(),
            n => format!("{n} readings of paints on the shelf"),
        };
        let summary = format!("{} new, {readings}, {} left out", count("new"), count("skip"));
        ImportPlan { format: self.format.to_owned(), rows, summary }
    }

    fn carry_out(&self, store: &mut Store) -> Result<(), StoreError> {
        let file = self.file.clone();
        store.together(|batch| {
            let mut here: HashMap<Uuid, Uuid> = HashMap::new();
            for (sample, deed) in &self.deeds {
                let id = match deed {
                    Deed::Skip(_) => continue,
                    Deed::Same(there, id) => {
                        here.insert(*there, *id);
                        continue;
                    }
                    Deed::Whole(tin, there, _) => {
                        here.insert(*there, batch.make((**tin).clone())?.id);
                        continue;
                    }
                    Deed::Read(id) => *id,
                    Deed::New(tin, Log::Nothing) => {
                        batch.make((**tin).clone())?;
                        continue;
                    }
                    Deed::New(tin, Log::Masstone) => batch.make((**tin).clone())?.id,
                };
                let Ok(one) = Parts::new(1.0) else { continue };
                let reading = Reading {
                    of: vec![(PaintId(id), one)],
                    pour: Pour::Scale,
                    state: Film::Dry,
                    shown: Shown::Thick(sample.measured),
                    source: sample.source,
                    sure: false,
                };
                batch.make(LoggedReading { reading, note: None, device: file.clone(), pot: None })?;
            }
            let logs = self.deeds.iter().filter_map(|(_, deed)| match deed {
                Deed::Whole(_, _, readings) => Some(readings),
                _ => None,
            });
            for LoggedReading { reading, note, device, pot: _ } in logs.flatten().cloned() {
                if let Some(reading) = reading.with_paints(|id| here.get(&id.0).copied().map(PaintId)) {
                    batch.make(LoggedReading { reading, note, device, pot: None })?;
                }
            }
            Ok(())
        })
    }
}

/// Why a sample of a tin tells nothing that is not known; None if it does.
fn known_already(known: &Known, tin: &Kept<ShelfPaint>, sample: &Sample) -> Option<&'static str> {
    let repeats = |other: &Measured| sample.measured.repeats(other, sample.source);
    if known.masstones_of(tin.id).any(repeats) {
        return Some("this reading is in the log");
    }
    let stated = tin.value.masstone.map(|masstone| Measured::Colour(masstone.lab()));
    // A curve says more than the colour on the tin, also where they agree.
    if stated.is_some_and(|stated| matches!(sample.measured, Measured::Colour(_)) && repeats(&stated)) {
        return Some("its tin says the same");
    }
    let predicted = Measured::Spectrum(known.paint(tin.id).ok()?.best().masstone());
    repeats(&predicted).then_some("it was predicted here, not read")
}

fn made(sample: &Sample, class: Class, predicted: bool) -> Deed {
    let short: String = sample.name.chars().filter(|c| !c.is_control()).take(80).collect();
    let Ok(name) = Name::new(&short) else { return Deed::Skip("it has no name") };
    let masstone = Masstone::Lab(sample.measured.lab());
    // A colour is written on the tin; a curve says more and is a reading, if it was read.
    let log = match sample.measured {
        Measured::Spectrum(_) if !predicted => Log::Masstone,
        _ => Log::Nothing,
    };
    let tin = ShelfPaint { source: sample.source, ..ShelfPaint::new(name, class, Some(masstone)) };
    Deed::New(Box::new(tin), log)
}

fn unread(error: &BadFile) -> Problem {
    match error {
        BadFile::Percent { most, .. } => Problem::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "percent",
            "Percent or not?",
            format!("reflectance goes up to {most}: say whether these are percent"),
        ),
        _ => Problem::new(
            StatusCode::UNPROCESSABLE_ENTITY,
            "file",
            "This file cannot be read",
            error.to_string(),
        ),
    }
}

/// What importing a file (CGATS.17, CxF/X, CSV, GIMP palette or a shelf as JSON; its bytes are the body) would do. Nothing is written.
#[utoipa::path(post, path = "/import/preview", operation_id = "preview_import", tag = "shelf",
    params(HowToImport), request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ImportPlan)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Asked(how): Asked<HowToImport>,
    Raw(bytes, _place): Raw<LARGEST_FILE>,
) -> Result<Json<ImportPlan>, Problem> {
    Ok(Json(plan(&workspace, how, bytes).await?.told()))
}

/// Import a file as the preview said, at one go: one step of undo takes all of it out again.
#[utoipa::path(post, path = "/import", operation_id = "import_file", tag = "shelf",
    params(HowToImport), request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ImportPlan)))]
pub async fn carry_out(
    State(workspace): State<Workspace>,
    Asked(how): Asked<HowToImport>,
    Raw(bytes, _place): Raw<LARGEST_FILE>,
) -> Result<Json<ImportPlan>, Problem> {
    for _ in 0..TRIES {
        let planned = plan(&workspace, how.clone(), bytes.clone()).await?;
        let carried_out = workspace.with(move |store| planned.carry_out(store)).await?;
        if let Some(told) = carried_out {
            return Ok(Json(told));
        }
    }
    let detail = "the shelf was changed while the file was read: import it again";
    Err(Problem::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Somebody else is at the shelf", detail))
}

/// What a file would do, and of which shelf.
struct Planned {
    plan: Plan,
    known: Arc<Known>,
    names: HashMap<Uuid, String>,
}

/// Reads a file and finds what it would do, while others use the shelf.
async fn plan(workspace: &Workspace, how: HowToImport, bytes: Bytes) -> Result<Planned, Problem> {
    let (tins, known) = workspace.with_known(|store| store.all::<ShelfPaint>()).await?;
    workspace
        .heavy
        .file(move || {
            let names = tins.iter().map(|tin| (tin.id, tin.value.name.as_str().to_owned())).collect();
            let plan = Plan::of(FileRead::of(&bytes, &how)?, tins, &known);
            Ok(Planned { plan, known, names })
        })
        .await
}

impl Planned {
    fn told(&self) -> ImportPlan {
        self.plan.told(&self.names)
    }

    /// None where the shelf is another by now.
    fn carry_out(self, store: &mut Store) -> Result<Option<ImportPlan>, StoreError> {
        if !self.known.is_of(store)? {
            return Ok(None);
        }
        self.plan.carry_out(store)?;
        Ok(Some(self.told()))
    }
}

/// A whole shelf as JSON: what is kept, in the form it is kept in.
#[derive(Serialize, Deserialize)]
struct WholeShelf {
    format: WholeShelfForm,
    paints: Vec<WithId<ShelfPaint>>,
    readings: Vec<WithId<LoggedReading>>,
}

/// The one form there is so far: a file of another is refused.
#[derive(Serialize, Deserialize)]
enum WholeShelfForm {
    #[serde(rename = "warm-blend shelf 1")]
    First,
}

#[derive(Serialize, Deserialize)]
struct WithId<T> {
    id: Uuid,
    #[serde(flatten)]
    value: T,
}

/// The shelf as a file: `cgats` and `cxf` hold a spectrum and Lab of every paint as it is predicted, and say so, `csv` the tins as
/// stated, `gpl` a palette, `json` everything that is kept of paints and readings.
#[utoipa::path(get, path = "/export/{format}", operation_id = "export_shelf", tag = "shelf",
    params(("format" = String, Path)),
    responses((status = OK, description = "The file")))]
pub async fn export(
    State(workspace): State<Workspace>,
    InPath(format): InPath<String>,
) -> Result<Response, Problem> {
    let ((tins, readings, piece), known) = workspace
        .with_known(|store| {
            Ok((store.all::<ShelfPaint>()?, store.all::<LoggedReading>()?, store.all::<Piece>()?))
        })
        .await?;
    let (kind, name, bytes) =
        workspace.heavy.file(move || written(&format, tins, readings, &piece, &known)).await?;
    let disposition = format!("attachment; filename=\"{name}\"");
    Ok(([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)], bytes)
        .into_response())
}

/// The kind of file, its name and its bytes.
fn written(
    format: &str,
    tins: Vec<Kept<ShelfPaint>>,
    readings: Vec<Kept<LoggedReading>>,
    piece: &[Kept<Piece>],
    known: &Known,
) -> Result<(&'static str, &'static str, Vec<u8>), Problem> {
    let paints: Vec<(String, Measured)> = tins
        .iter()
        .filter(|tin| !tin.value.class.is_medium())
        .map(|tin| {
            let masstone = known.paint(tin.id)?.best().masstone();
            Ok((tin.value.name.as_str().to_owned(), Measured::Spectrum(masstone)))
        })
        .collect::<Result<_, Problem>>()?;
    let internal = |_| Problem::internal();
    Ok(match format {
        "cgats" => ("text/plain; charset=utf-8", "shelf.cgats.txt", cgats(&paints).into_bytes()),
        "cxf" => {
            let now = jiff::Timestamp::now().to_string();
            ("application/xml", "shelf.cxf", cxf(&paints, &now).map_err(|_| Problem::internal())?)
        }
        "gpl" => {
            let title = piece.first().map_or("Shelf", |piece| piece.value.name.as_str());
            ("text/plain; charset=utf-8", "shelf.gpl", gpl(title, &paints).into_bytes())
        }
        "csv" => ("text/csv; charset=utf-8", "shelf.csv", table(&tins).map_err(|_| Problem::internal())?),
        "json" => {
            let whole = WholeShelf {
                format: WholeShelfForm::First,
                paints: tins.into_iter().map(|tin| WithId { id: tin.id, value: tin.value }).collect(),
                readings: readings
                    .into_iter()
                    .map(|kept| WithId { id: kept.id, value: kept.value })
                    .collect(),
            };
            ("application/json", "shelf.json", serde_json::to_vec_pretty(&whole).map_err(internal)?)
        }
        _ => {
            let detail = "there is no such format: choose cgats, cxf, csv, gpl or json";
            return Err(Problem::not_found(detail));
        }
    })
}

fn table(tins: &[Kept<ShelfPaint>]) -> Result<Vec<u8>, impl std::fmt::Debug + use<>> {
    let head = [
        "name",
        "class",
        "hex",
        "L",
        "a",
        "b",
        "source",
        "coats_to_hide",
        "price",
        "tin_ml",
        "left_ml",
        "condition",
    ];
    let number = |value: Option<f64>| value.map(|value| value.to_string()).unwrap_or_default();
    let row = |tin: &Kept<ShelfPaint>| {
        let tin = &tin.value;
        let lab = tin.masstone.map(Masstone::lab);
        let shown = lab.map(|lab| hex(&Measured::Colour(lab))).unwrap_or_default();
        let rounded = |value: f64| (value * 100.0).round() / 100.0;
        vec![
            tin.name.as_str().to_owned(),
            tin.class.id().to_owned(),
            shown,
            number(lab.map(|lab| rounded(lab.l))),
            number(lab.map(|lab| rounded(lab.a))),
            number(lab.map(|lab| rounded(lab.b))),
            tin.source.id().to_owned(),
            number(tin.coats_to_hide.map(CoatsToHide::value)),
            number(tin.price.map(Price::amount)),
            number(tin.price.map(|price| price.tin().value())),
            number(tin.stock.map(|stock| stock.value())),
            tin.condition.id().to_owned(),
        ]
    };
    csv(&head, &tins.iter().map(row).collect::<Vec<_>>())
}
