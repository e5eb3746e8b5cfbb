//! Pots as they are poured.

use axum::{
    Json,
    extract::{FromRequestParts, State},
    http::StatusCode,
};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_bench::{BadPour, Deed, PourRecord, Said, Step, touch};
use warm_blend_learn::{Ensemble, ShelfPaint};
use warm_blend_paint::{Component, Measure, MixId, Name, PaintId, Parts, SavedMix, Verdict};
use warm_blend_store::{Kept, Store, StoreError};

use super::{bench::measure_of, mixes::MixPart, names::Names, scale::not_yet};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath, InPath},
    check::Checks,
    colour::{Judgement, Look, LookedAt, Swatch},
    known::Known,
    label::{self, LabelPart},
    problem::Problem,
};

/// A pot to begin.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PourBegun {
    /// The mix that is poured. Where it is being poured already, that pot is the answer.
    mix: Uuid,
    /// How much is meant to be made, ml.
    batch_ml: Option<f64>,
}

/// What to say amounts in.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct SaidIn {
    /// A measure such as `tsp` or `ml`, or `g`; ml when left out.
    measure: Option<String>,
}

/// Which pots.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PoursOf {
    /// Only those of this mix.
    mix: Option<Uuid>,
}

/// Something that was done to a pot.
#[derive(Debug, Deserialize, ToSchema)]
pub struct StepEntry {
    /// A UUID of its own: the same step sent twice counts once.
    id: Uuid,
    /// What went in; none where something is taken out.
    paint: Option<Uuid>,
    /// `ml`, `tsp` … : `count` of it. `g`: `count` grams. `scale`: what went in since the last addition by the scale. `touch`: a
    /// touch. `scale-touch`: a touch that stands on the scale.
    measure: String,
    /// How many.
    count: Option<f64>,
}

/// Where a pot is kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PourPlace {
    /// In the painter's words; none forgets it.
    place: Option<String>,
}

/// A pot as it was poured.
#[derive(Debug, Serialize, ToSchema)]
pub struct Pour {
    /// For good.
    id: Uuid,
    /// How often it was written.
    revision: i64,
    /// Short code, as on the label.
    code: String,
    /// The mix that was poured.
    mix: Uuid,
    /// What that was called.
    name: Option<String>,
    /// RFC 3339.
    begun_at: String,
    /// RFC 3339; none while it is open.
    finished_at: Option<String>,
    /// Where the pot is kept.
    place: Option<String>,
    /// How much was meant to be made, ml.
    batch_ml: Option<f64>,
    /// How much is in the pot, ml.
    total_ml: f64,
    /// The same in words.
    total: String,
    /// What was done, the last first.
    steps: Vec<PourStep>,
    /// How each paint stands, those of the plan first.
    paints: Vec<PouredPaint>,
    /// What was poured, in few whole parts.
    recipe: Vec<MixPart>,
    /// What is in the pot, looked at; none of an empty one.
    swatch: Option<Swatch>,
    /// Against the target of the mix.
    judgement: Option<Judgement>,
    /// Against the plan: how far the ratio that was poured moves the colour.
    against_plan: Option<AgainstPlan>,
    /// How much a touch is, ml.
    touch_ml: f64,
    /// How many weighed touches say so.
    touches: usize,
    /// Paints whose weight by volume is only what their class usually has.
    usual_density: Vec<String>,
    /// What was read of this pot, the last first.
    readings: Vec<PotReading>,
}

/// One step of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PourStep {
    /// The step.
    id: Uuid,
    /// RFC 3339.
    at: String,
    /// As it was told: `2 tsp`, `12.4 g`, `a touch`.
    amount: String,
    /// What went in; none where something was taken out.
    name: Option<String>,
    /// Its flat colour.
    hex: Option<String>,
    /// ml.
    ml: f64,
}

/// One paint of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PouredPaint {
    /// The paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// Its flat colour.
    hex: String,
    /// What of it is in the pot, ml.
    ml: f64,
    /// The same in words.
    inside: String,
    /// What the plan wants of it, ml.
    planned_ml: f64,
    /// What is still to go in, in words; none where nothing is.
    left: Option<String>,
    /// The same, g.
    left_g: f64,
    /// By how much it is over what was meant, in words; none where it is not.
    over: Option<String>,
}

/// A pot against its plan.
#[derive(Debug, Serialize, ToSchema)]
pub struct AgainstPlan {
    /// `a hair darker than the plan`.
    words: String,
    /// CIEDE2000.
    difference: f64,
}

/// What was read of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotReading {
    /// The reading.
    id: Uuid,
    /// RFC 3339.
    made_at: String,
    /// What a screen shows for it.
    hex: String,
    /// Against the target of the mix in daylight: `a hair darker than the target`.
    words: Option<String>,
    /// ΔE00 from it.
    difference: Option<f64>,
}

/// One pot in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct PourLine {
    /// The pot.
    id: Uuid,
    /// Short code.
    code: String,
    /// The mix.
    mix: Uuid,
    /// Its name.
    name: Option<String>,
    /// RFC 3339.
    begun_at: String,
    /// True while it is being poured.
    open: bool,
    /// How much is in it, ml.
    total_ml: f64,
    /// What is in it: `3 dove grey : 1 night blue`.
    recipe: String,
    /// Its flat colour; none of an empty pot.
    hex: Option<String>,
}

/// What stands on the label of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotLabel {
    /// The pot.
    id: Uuid,
    /// What the mix is called.
    name: Option<String>,
    /// The day it was poured, in the time zone of this machine: `2026-11-25`.
    day: String,
    /// Short code of the record.
    code: String,
    /// Where it is kept.
    place: Option<String>,
    /// How much is in it, ml.
    total_ml: f64,
    /// The same in words.
    total: String,
    /// What is in it.
    parts: Vec<LabelPart>,
    /// The drawdown.
    swatch: Option<Swatch>,
    /// What the square code says, in plain words: any reader of such codes shows it.
    text: String,
    /// Modules along one side of the square code.
    code_size: usize,
    /// Its dark modules as an SVG path, one unit a module.
    code_path: String,
}

/// How an amount is said.
#[derive(Debug, Clone, Copy)]
enum Unit {
    Grams,
    In(Measure),
}

impl SaidIn {
    fn unit(&self) -> Result<Unit, Problem> {
        match self.measure.as_deref() {
            None => Ok(Unit::In(Measure::Millilitre)),
            Some("g") => Ok(Unit::Grams),
            Some(text) => measure_of(text).map(Unit::In).map_err(|error| Problem::field("?measure", error)),
        }
    }
}

/// How a pot is told: what it is looked at in, and what its amounts are said in.
#[derive(Debug, Clone, Copy)]
pub struct Telling {
    look: Look,
    unit: Unit,
}

impl<S: Sync> FromRequestParts<S> for Telling {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut axum::http::request::Parts, state: &S) -> Result<Self, Problem> {
        let Asked(look) = Asked::<LookedAt>::from_request_parts(parts, state).await?;
        let Asked(said) = Asked::<SaidIn>::from_request_parts(parts, state).await?;
        Ok(Self { look: look.get()?, unit: said.unit()? })
    }
}

impl Unit {
    fn say(self, ml: f64, density: f64) -> String {
        match self {
            Unit::Grams => format!("{:.1} g", ml * density),
            Unit::In(measure) => warm_blend_paint::about(ml, measure),
        }
    }

    /// Whether so little cannot be told from nothing.
    fn nothing(self, ml: f64, density: f64) -> bool {
        match self {
            Unit::Grams => ml * density < 0.05,
            Unit::In(measure) => ml < 0.5 * measure.least(),
        }
    }
}

/// Everything that a pot is told with.
struct Gathered {
    kept: Kept<PourRecord>,
    mix: SavedMix,
    tins: Vec<Kept<ShelfPaint>>,
    touch: (f64, usize),
}

impl Gathered {
    fn of(store: &Store, kept: Kept<PourRecord>) -> Result<Self, StoreError> {
        let tins =
            kept.value.paints().iter().map(|paint| store.get(paint.0)).collect::<Result<_, StoreError>>()?;
        let mix = store.get::<SavedMix>(kept.value.mix.0)?.value;
        Ok(Self { kept, mix, tins, touch: learned_touch(store)? })
    }

    fn tin(&self, paint: PaintId) -> Result<&ShelfPaint, Problem> {
        let tin = self.tins.iter().find(|tin| tin.id == paint.0);
        tin.map(|tin| &tin.value).ok_or_else(Problem::internal)
    }
}

/// How much a touch is, ml, and how many weighed ones say so.
fn learned_touch(store: &Store) -> Result<(f64, usize), StoreError> {
    Ok(touch(store.all::<PourRecord>()?.iter().map(|kept| &kept.value)))
}

/// The mix of some paints as they are known; None of nothing.
fn stirred(of: &[(PaintId, Parts)], known: &Known) -> Result<Option<Ensemble>, Problem> {
    let of: Vec<(Parts, &Ensemble)> = of
        .iter()
        .map(|(paint, parts)| Ok((*parts, known.paint(paint.0)?)))
        .collect::<Result<_, Problem>>()?;
    Ok(Ensemble::mix(&of).ok())
}

impl Pour {
    fn of(gathered: &Gathered, known: &Known, Telling { look, unit }: Telling) -> Result<Self, Problem> {
        let Gathered { kept, mix, touch, .. } = gathered;
        let record = &kept.value;
        let hex = |paint: PaintId| Ok::<_, Problem>(look.hex(known.paint(paint.0)?.best()));
        let step = |step: &Step| {
            let paint = match step.deed {
                Deed::Added { paint, .. } => Some(paint),
                Deed::TakenOut { .. } => None,
            };
            Ok::<_, Problem>(PourStep {
                id: step.id,
                at: step.at.to_string(),
                amount: told(&step.deed),
                name: paint
                    .map(|paint| gathered.tin(paint))
                    .transpose()?
                    .map(|tin| tin.name.as_str().to_owned()),
                hex: paint.map(hex).transpose()?,
                ml: match step.deed {
                    Deed::Added { ml, .. } | Deed::TakenOut { ml } => ml,
                },
            })
        };
        let paint = |standing: &warm_blend_bench::Standing| {
            let tin = gathered.tin(standing.paint)?;
            let density = tin.density();
            let said = |ml: f64| (!unit.nothing(ml, density)).then(|| unit.say(ml, density));
            Ok::<_, Problem>(PouredPaint {
                paint: standing.paint.0,
                name: tin.name.as_str().to_owned(),
                hex: hex(standing.paint)?,
                ml: standing.inside,
                inside: unit.say(standing.inside, density),
                planned_ml: standing.planned,
                left: said(standing.left()),
                left_g: standing.left() * density,
                over: said(standing.over),
            })
        };
        let poured = stirred(&record.parts(), known)?;
        let planned: Vec<(PaintId, Parts)> = record.plan.iter().map(|c| (c.paint, c.parts.into())).collect();
        let against_plan = poured.as_ref().zip(stirred(&planned, known)?).map(|(poured, planned)| {
            let verdict = Verdict::of(look.face(poured.best()).lab, look.face(planned.best()).lab);
            AgainstPlan {
                words: verdict.words.replace("the target", "the plan"),
                difference: verdict.difference.value(),
            }
        });
        let aim = poured.as_ref().zip(mix.target);
        let usual = gathered.tins.iter().filter(|tin| tin.value.specials.density.is_none());
        let mut steps = record.steps().iter().map(step).collect::<Result<Vec<_>, _>>()?;
        steps.reverse();
        let total = record.total();
        let weight: f64 = record
            .inside()
            .iter()
            .try_fold(0.0, |sum, (paint, ml)| Ok::<_, Problem>(sum + ml * gathered.tin(*paint)?.density()))?;
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            code: label::code(kept.id),
            mix: record.mix.0,
            name: record.name.clone().map(String::from),
            begun_at: kept.made_at.to_string(),
            finished_at: record.finished_at.map(|at| at.to_string()),
            place: record.place.clone().map(String::from),
            batch_ml: record.batch,
            total_ml: total,
            total: unit.say(total, if total > 0.0 { weight / total } else { 1.0 }),
            steps,
            paints: record.against_plan().iter().map(paint).collect::<Result<_, _>>()?,
            recipe: record.recipe().iter().map(MixPart::from).collect(),
            judgement: aim.map(|(poured, target)| Judgement::of(poured, target, look)).transpose()?,
            against_plan,
            swatch: poured.map(|poured| Swatch::of(&poured, look)),
            touch_ml: touch.0,
            touches: touch.1,
            usual_density: usual.map(|tin| tin.value.name.as_str().to_owned()).collect(),
            readings: readings(kept.id, mix, known),
        })
    }
}

fn readings(pot: Uuid, mix: &SavedMix, known: &Known) -> Vec<PotReading> {
    let of_this = known.readings().filter(|(kept, _)| kept.value.pot == Some(pot));
    let mut readings: Vec<PotReading> = of_this
        .filter_map(|(kept, _)| {
            let read = kept.value.reading.measured().last()?;
            let verdict = mix.target.map(|target| Verdict::of(read.lab(), target.lab()));
            Some(PotReading {
                id: kept.id,
                made_at: kept.made_at.to_string(),
                hex: warm_blend_interchange::hex(read),
                difference: verdict.as_ref().map(|verdict| verdict.difference.value()),
                words: verdict.map(|verdict| verdict.words),
            })
        })
        .collect();
    readings.reverse();
    readings
}

/// An amount as it was told.
fn told(deed: &Deed) -> String {
    match deed {
        Deed::Added { said: Said::Counted(count, measure), .. } => {
            warm_blend_paint::amount(count * measure.millilitres(), *measure)
        }
        Deed::Added { said: Said::Weighed(grams), .. } => format!("{grams:.1} g"),
        Deed::Added { said: Said::Touch, .. } => "a touch".to_owned(),
        Deed::Added { said: Said::WeighedTouch(grams), .. } => format!("a touch, {grams:.1} g"),
        Deed::TakenOut { ml } => format!("{ml:.0} ml taken out"),
    }
}

fn refused(error: &BadPour) -> Problem {
    match error {
        BadPour::NotTheLast | BadPour::Finished | BadPour::Empty => {
            Problem::new(StatusCode::CONFLICT, "stale", "Not so any more", error.to_string())
        }
        BadPour::Paints(_) => Problem::field("/paint", error),
        _ => Problem::field("/count", error),
    }
}

/// Changes a record and tells it, while nobody else does; `then` is told of a change once it is on the disk, before anybody makes
/// another.
async fn changed(
    workspace: &Workspace,
    id: Uuid,
    telling: Telling,
    change: impl FnOnce(&Store, Kept<PourRecord>) -> Result<Result<PourRecord, Problem>, StoreError>
    + Send
    + 'static,
    then: impl FnOnce(&PourRecord) + Send + 'static,
) -> Result<Pour, Problem> {
    let (gathered, known) = workspace
        .with_known(move |store| {
            let kept = store.get::<PourRecord>(id)?;
            let revision = kept.revision;
            match change(store, kept)? {
                Ok(record) => {
                    let kept = store.change(id, revision, record)?;
                    if kept.revision != revision {
                        then(&kept.value);
                    }
                    Gathered::of(store, kept).map(Ok)
                }
                Err(problem) => Ok(Err(problem)),
            }
        })
        .await?;
    Pour::of(&gathered?, &known, telling)
}

/// Begin to pour a mix, or go on with the pot that is being poured.
#[utoipa::path(post, path = "/pours", operation_id = "begin_pour",
    tag = "pot", params(LookedAt, SaidIn), request_body = PourBegun,
    responses((status = OK, body = Pour)))]
pub async fn begin(
    State(workspace): State<Workspace>,
    telling: Telling,
    Body(PourBegun { mix, batch_ml }): Body<PourBegun>,
) -> Result<Json<Pour>, Problem> {
    let (gathered, known) = workspace
        .with_known(move |store| {
            let of = store.get::<SavedMix>(mix)?;
            let open = store.users::<PourRecord>(mix)?;
            let open = open.into_iter().rev().find(|kept| kept.value.finished_at.is_none());
            let kept = match open {
                Some(open) => open,
                None => match PourRecord::begin(MixId(mix), &of.value, batch_ml) {
                    Ok(record) => store.make(record)?,
                    Err(error) => return Ok(Err(Problem::field("/batch_ml", error))),
                },
            };
            Gathered::of(store, kept).map(Ok)
        })
        .await?;
    Pour::of(&gathered?, &known, telling).map(Json)
}

/// All pots, the last first.
#[utoipa::path(get, path = "/pours", operation_id = "list_pours",
    tag = "pot", params(LookedAt, PoursOf),
    responses((status = OK, body = Vec<PourLine>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(of): Asked<PoursOf>,
) -> Result<Json<Vec<PourLine>>, Problem> {
    let look = asked.get()?;
    let ((pours, names), known) = workspace
        .with_known(move |store| {
            let pours = match of.mix {
                Some(mix) => store.users::<PourRecord>(mix)?,
                None => store.all::<PourRecord>()?,
            };
            Ok((pours, Names::gather(store)?))
        })
        .await?;
    let line = |kept: &Kept<PourRecord>| {
        let record = &kept.value;
        let poured = stirred(&record.parts(), &known)?;
        let part = |part: &Component| format!("{} {}", part.parts.value(), names.of(part.paint.0));
        Ok(PourLine {
            id: kept.id,
            code: label::code(kept.id),
            mix: record.mix.0,
            name: record.name.clone().map(String::from),
            begun_at: kept.made_at.to_string(),
            open: record.finished_at.is_none(),
            total_ml: record.total(),
            recipe: record.recipe().iter().map(part).collect::<Vec<_>>().join(" : "),
            hex: poured.map(|poured| look.hex(poured.best())),
        })
    };
    pours.iter().rev().map(line).collect::<Result<_, Problem>>().map(Json)
}

/// One pot.
#[utoipa::path(get, path = "/pours/{id}", operation_id = "get_pour",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)),
    responses((status = OK, body = Pour)))]
pub async fn get(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
) -> Result<Json<Pour>, Problem> {
    let (gathered, known) =
        workspace.with_known(move |store| store.get(id).and_then(|kept| Gathered::of(store, kept))).await?;
    Pour::of(&gathered, &known, telling).map(Json)
}

/// Something goes into the pot, or out of it.
#[utoipa::path(post, path = "/pours/{id}/steps", operation_id = "pour_step",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)), request_body = StepEntry,
    responses((status = OK, body = Pour)))]
pub async fn step(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
    Body(entry): Body<StepEntry>,
) -> Result<Json<Pour>, Problem> {
    let scale = workspace.scale.clone();
    let (under, step) = (scale.clone(), entry.id);
    let by_scale = matches!(entry.measure.as_str(), "scale" | "scale-touch");
    // Of what stands on the scale so much is recorded: the next addition begins with it.
    let then = move |record: &PourRecord| {
        let step = record.steps().iter().find(|known| known.id == step);
        if let Some(Deed::Added { said: Said::Weighed(grams) | Said::WeighedTouch(grams), .. }) =
            step.map(|step| &step.deed)
            && by_scale
        {
            under.weighing(|weighing| weighing.taken(*grams));
        }
    };
    let change = move |store: &Store, kept: Kept<PourRecord>| {
        let repeated = kept.value.steps().iter().any(|known| known.id == entry.id);
        if repeated {
            return Ok(Ok(kept.value));
        }
        let tin = entry.paint.map(|paint| store.get::<ShelfPaint>(paint)).transpose()?;
        // The scale's mark stays where it is until the step is on the disk.
        let on_scale = scale.weighing(|weighing| weighing.addition());
        let deed = match entry.deed(tin.as_ref().map(|tin| &tin.value), on_scale, || learned_touch(store)) {
            Ok(deed) => deed,
            Err(problem) => return Ok(Err(problem)),
        };
        let next = kept.value.with(Step { id: entry.id, at: Timestamp::now(), deed });
        Ok(next.map_err(|error| refused(&error)))
    };
    changed(&workspace, id, telling, change, then).await.map(Json)
}

impl StepEntry {
    fn deed(
        &self,
        tin: Option<&ShelfPaint>,
        on_scale: Result<f64, warm_blend_device::NotYet>,
        touch: impl FnOnce() -> Result<(f64, usize), StoreError>,
    ) -> Result<Deed, Problem> {
        let mut checks = Checks::default();
        let count = || {
            let count = self.count.filter(|count| count.is_finite() && *count > 0.0);
            count.ok_or("how much? Give a number above zero")
        };
        let Some((paint, tin)) = self.paint.zip(tin) else {
            let ml = match self.measure.as_str() {
                "g" | "scale" | "touch" | "scale-touch" => {
                    Err("what is taken out is told in ml or spoons, not by weight".to_owned())
                }
                measure => measure_of(measure).map(Measure::millilitres),
            };
            let ml = checks.field("/measure", ml).zip(checks.field("/count", count()));
            return checks.done(ml.map(|(ml, count)| Deed::TakenOut { ml: ml * count }));
        };
        let density = tin.density();
        let (ml, said) = match self.measure.as_str() {
            "g" => {
                let grams = checks.field("/count", count());
                let grams = checks.done(grams)?;
                (grams / density, Said::Weighed(grams))
            }
            "scale" => {
                let grams = on_scale.map_err(|why| not_yet(&why))?;
                (grams / density, Said::Weighed(grams))
            }
            "scale-touch" => {
                let grams = on_scale.map_err(|why| not_yet(&why))?;
                (grams / density, Said::WeighedTouch(grams))
            }
            "touch" => (touch()?.0, Said::Touch),
            measure => {
                let measure = checks.field("/measure", measure_of(measure));
                let count = checks.field("/count", count());
                let (measure, count) = checks.done(measure.zip(count))?;
                (count * measure.millilitres(), Said::Counted(count, measure))
            }
        };
        Ok(Deed::Added { paint: PaintId(paint), ml, said })
    }
}

/// Take the last step back.
#[utoipa::path(delete, path = "/pours/{id}/steps/{step}", operation_id = "take_back_step",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path), ("step" = Uuid, Path)),
    responses((status = OK, body = Pour)))]
pub async fn take_back(
    State(workspace): State<Workspace>,
    InPath((id, step)): InPath<(Uuid, Uuid)>,
    telling: Telling,
) -> Result<Json<Pour>, Problem> {
    let change = move |_: &Store, kept: Kept<PourRecord>| {
        Ok(kept.value.without_last(step).map_err(|error| refused(&error)))
    };
    changed(&workspace, id, telling, change, |_| ()).await.map(Json)
}

/// Close the record: nothing more goes in.
#[utoipa::path(post, path = "/pours/{id}/finish", operation_id = "finish_pour",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)),
    responses((status = OK, body = Pour)))]
pub async fn finish(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
) -> Result<Json<Pour>, Problem> {
    let change = |_: &Store, kept: Kept<PourRecord>| {
        Ok(kept.value.finished(Timestamp::now()).map_err(|error| refused(&error)))
    };
    changed(&workspace, id, telling, change, |_| ()).await.map(Json)
}

/// Open the record again.
#[utoipa::path(post, path = "/pours/{id}/reopen", operation_id = "reopen_pour",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)),
    responses((status = OK, body = Pour)))]
pub async fn reopen(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
) -> Result<Json<Pour>, Problem> {
    changed(&workspace, id, telling, |_, kept| Ok(Ok(kept.value.reopened())), |_| ()).await.map(Json)
}

/// Say where the pot is kept.
#[utoipa::path(put, path = "/pours/{id}/place", operation_id = "place_pour",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)), request_body = PourPlace,
    responses((status = OK, body = Pour)))]
pub async fn place(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
    Body(PourPlace { place }): Body<PourPlace>,
) -> Result<Json<Pour>, Problem> {
    let mut checks = Checks::default();
    let text = place.as_deref().map(str::trim).filter(|text| !text.is_empty());
    let place = checks.optional("/place", text.map(Name::new));
    checks.done(Some(()))?;
    changed(&workspace, id, telling, move |_, kept| Ok(Ok(kept.value.kept_at(place))), |_| ()).await.map(Json)
}

/// Put a record away; undo brings it back.
#[utoipa::path(delete, path = "/pours/{id}", operation_id = "remove_pour",
    tag = "pot", params(("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(State(workspace): State<Workspace>, IdPath(id): IdPath) -> Result<StatusCode, Problem> {
    workspace
        .with(move |store| {
            let kept = store.get::<PourRecord>(id)?;
            store.remove::<PourRecord>(id, kept.revision)
        })
        .await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What stands on the label of a pot.
#[utoipa::path(get, path = "/pours/{id}/label", operation_id = "label_pour",
    tag = "pot", params(LookedAt, SaidIn, ("id" = Uuid, Path)),
    responses((status = OK, body = PotLabel)))]
pub async fn label(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    telling: Telling,
) -> Result<Json<PotLabel>, Problem> {
    let Telling { look, unit } = telling;
    let (gathered, known) =
        workspace.with_known(move |store| store.get(id).and_then(|kept| Gathered::of(store, kept))).await?;
    let record = &gathered.kept.value;
    let inside = record.inside();
    let parts = record
        .recipe()
        .iter()
        .zip(&inside)
        .map(|(part, (paint, ml))| {
            let tin = gathered.tin(*paint)?;
            Ok(LabelPart {
                name: tin.name.as_str().to_owned(),
                parts: part.parts.value(),
                ml: *ml,
                amount: unit.say(*ml, tin.density()),
            })
        })
        .collect::<Result<Vec<_>, Problem>>()?;
    let day = gathered.kept.made_at.to_zoned_datetime(jiff::tz::TimeZone::system()).date().to_string();
    let code = label::code(id);
    let name = record.name.clone().map(String::from);
    let place = record.place.clone().map(String::from);
    let text = label::text(name.as_deref(), &parts, record.total(), &day, place.as_deref(), &code);
    let square = label::square(&text);
    let (code_size, code_path) = square.ok_or_else(Problem::internal)?;
    Ok(Json(PotLabel {
        id,
        name,
        day,
        code,
        place,
        total_ml: record.total(),
        total: unit.say(record.total(), 1.0),
        parts,
        swatch: stirred(&record.parts(), &known)?.map(|poured| Swatch::of(&poured, look)),
        text,
        code_size,
        code_path,
    }))
}
