//! The shelf.

use axum::{Json, extract::State, http::StatusCode};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_bench::PourRecord;
use warm_blend_board::{Board, BoardReading};
use warm_blend_learn::{
    Certainty, Ensemble, Estimate, LoggedReading, OfShelf, Reads, ShelfPaint, Source, Test,
};
use warm_blend_paint::{
    CoatsToHide, Condition, HueFamily, Millilitres, Name, Note, PaintId, Parts, Price, SavedMix, Specials,
    density, minutes, share,
};
use warm_blend_piece::Piece;
use warm_blend_spectral::Light;
use warm_blend_store::{Document, Kept, Store, StoreError};

use super::{names::Names, readings::ReadingKept};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    check::Checks,
    colour::{Colour, Look, LookedAt, StateName, Swatch},
    known::Known,
    problem::{Problem, UsedBy},
};

/// A paint or medium as the painter writes it down.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PaintEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "oat white")]
    name: String,
    /// Its class: see `/api/classes`.
    #[schema(example = "chalk")]
    class: String,
    /// Its dry, thick, unsealed colour; a medium has none.
    colour: Option<Colour>,
    /// What that colour was taken from: `chip` (as when left out), `reader`, `photo` or `guess`.
    source: Option<String>,
    /// Coats it needs to hide black and white, 0.25 to 20.
    coats_to_hide: Option<f64>,
    /// What a tin costs.
    price: Option<TinPrice>,
    /// What is left, ml.
    stock_ml: Option<f64>,
    /// When the tin was opened, `2026-05-01`.
    opened_on: Option<String>,
    /// `good` (as when left out), `frozen` or `off`.
    condition: Option<String>,
    /// The warning on the tin, at most 1000 characters.
    safety: Option<String>,
    /// What only some classes have: `/api/classes` says which.
    specials: Option<SpecialsEntry>,
}

/// What only some classes of product have; left out, the class's own default stands.
#[derive(Debug, Clone, Default, Serialize, Deserialize, ToSchema)]
pub struct SpecialsEntry {
    /// g/ml, wet.
    #[serde(skip_serializing_if = "Option::is_none")]
    density: Option<f64>,
    /// Share of the area that flakes cover, 0–1.
    #[serde(skip_serializing_if = "Option::is_none")]
    lustre: Option<f64>,
    /// Minutes that it can be worked.
    #[serde(skip_serializing_if = "Option::is_none")]
    open_minutes: Option<f64>,
    /// Keeps tannin from coming through.
    #[serde(skip_serializing_if = "Option::is_none")]
    blocks_stains: Option<bool>,
    /// Made with solvent: its rags can heat by themselves.
    #[serde(skip_serializing_if = "Option::is_none")]
    solvent_borne: Option<bool>,
}

/// The price of a tin.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct TinPrice {
    /// In the painter's own currency.
    amount: f64,
    /// What the tin holds, ml.
    tin_ml: f64,
}

/// A paint on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Paint {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// True once it was taken off the shelf.
    removed: bool,
    /// What the painter wrote down.
    entry: PaintEntry,
    /// Its class as a painter calls it.
    class_name: &'static str,
    /// True for a medium.
    medium: bool,
    /// True of the white that tints are made with.
    house_white: bool,
    /// Its family of hue: `white`, `grey`, `black`, `brown`, `red`, `orange`, `yellow`, `green`, `blue` or `purple`.
    family: &'static str,
    /// How it looks in the light and the state that were asked for.
    swatch: Swatch,
    /// How sure its mixes are.
    known: HowSure,
    /// How many mixes use it.
    used_in: usize,
}

/// How sure the mixes of a paint are.
#[derive(Debug, Serialize, ToSchema)]
pub struct HowSure {
    /// The mean 90 % band of its 1 : 1 mixes with others of the shelf, ΔE00; 0 of a medium.
    doubt: f64,
    /// `measured`, `good`, `rough` or `guess`.
    rank: &'static str,
    /// In words: `only roughly known`.
    words: &'static str,
    /// Readings that speak of it.
    readings: usize,
    /// Those of them that contradict the rest.
    questions: usize,
}

/// Everything about one paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct PaintPage {
    /// The paint.
    paint: Paint,
    /// Its drawdown in every light (columns) and state (rows: wet, dry, sealed, buffed).
    looks: Vec<LooksInState>,
    /// What to do next, in a sentence.
    advice: String,
    /// What each test would leave of the doubt in mixes, the best first.
    tests: Vec<TestWorth>,
    /// The readings that speak of it, newest first.
    readings: Vec<ReadingKept>,
}

/// How a paint looks in one state.
#[derive(Debug, Serialize, ToSchema)]
pub struct LooksInState {
    /// `wet`, `dry` or `sealed`.
    #[schema(value_type = StateName)]
    state: &'static str,
    /// One a light, in the order of `/api/lights`.
    lights: Vec<LookInLight>,
    /// What the state does to it in daylight against dry: `clearly darker`; empty for dry.
    words: String,
}

/// A drawdown in one light and state.
#[derive(Debug, Serialize, ToSchema)]
pub struct LookInLight {
    /// Its flat colour, a hex code.
    face: String,
    /// Hex codes from thick to thin over the white half, evenly spaced.
    over_white: Vec<String>,
    /// The same over the black half.
    over_black: Vec<String>,
}

/// What a test would buy.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestWorth {
    /// `tint-1-1`, `tint-1-4`, `darkened`, `masstone`, `drawdown` or `sealed`.
    test: &'static str,
    /// The doubt in mixes now, ΔE00.
    now: f64,
    /// What would be left of it.
    after: f64,
    /// What is stirred together for it.
    of: Vec<TestPart>,
    /// In a sentence: `A 1 : 1 dab with chimney white would cut the doubt in mixes from ±4.1 to ±0.9.`
    words: String,
}

/// What a test is made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestPart {
    /// Id of the paint.
    paint: Uuid,
    /// Its name.
    name: String,
    /// Parts by volume.
    parts: f64,
}

impl TestPart {
    fn new(paint: PaintId, parts: Parts, names: &Names) -> Self {
        Self { paint: paint.0, name: names.of(paint.0), parts: parts.value() }
    }
}

/// Which revision a change was made to.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Seen {
    /// The revision that was seen.
    pub revision: i64,
}

/// Which revision is to go, and whether to ask.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Removal {
    /// The revision that was seen.
    revision: i64,
    /// True once the painter has said that it may go although mixes use it.
    #[serde(default)]
    confirmed: bool,
}

/// Two tins that are one.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Merge {
    /// The tin that stays.
    keep: Uuid,
    /// The tin that goes: its mixes and readings become those of the one that stays, its stock is added.
    gone: Uuid,
}

impl PaintEntry {
    pub fn parse(&self) -> Result<ShelfPaint, Problem> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&self.name));
        let class = checks.field("/class", self.class.parse());
        let source = match self.source.as_deref() {
            None => Some(Source::Chip),
            Some(text) => checks.field("/source", source(text)),
        };
        let coats_to_hide = checks.optional("/coats_to_hide", self.coats_to_hide.map(CoatsToHide::new));
        let stock = checks.optional("/stock_ml", self.stock_ml.map(Millilitres::new));
        let price = self.price.as_ref().and_then(|price| price.parse(&mut checks));
        let opened_on = checks.optional("/opened_on", self.opened_on.as_deref().map(date));
        let condition = match self.condition.as_deref() {
            None => Some(Condition::Good),
            Some(text) => checks.field("/condition", text.parse()),
        };
        let safety = checks.optional("/safety", self.safety.as_deref().map(Note::new)).flatten();
        let specials = self.specials.as_ref().map(|specials| specials.parse(&mut checks)).unwrap_or_default();
        let masstone = self.colour.as_ref().and_then(|colour| colour.parse(&mut checks, "/colour"));
        let whole = name.zip(class).zip(source.zip(condition));
        let tin = whole.map(|((name, class), (source, condition))| ShelfPaint {
            source,
            coats_to_hide,
            price,
            stock,
            opened_on,
            condition,
            safety,
            specials,
            ..ShelfPaint::new(name, class, masstone)
        });
        // Whether a colour is missing is asked only where none was given: one that was refused has its own message.
        if let Some(tin) = tin.as_ref().filter(|_| self.colour.is_none()) {
            checks.field("/colour", tin.material());
        }
        checks.done(tin)
    }
}

/// What a colour was taken from.
pub fn source(text: &str) -> Result<Source, String> {
    Source::find(text).ok_or_else(|| {
        let short: String = text.chars().take(40).collect();
        format!("“{short}” is nothing a colour is taken from: choose reader, chip, photo or guess")
    })
}

fn date(text: &str) -> Result<Date, String> {
    text.trim().parse().map_err(|_| {
        let short: String = text.chars().take(40).collect();
        format!("“{short}” is no date: write year, month and day, such as 2026-05-01")
    })
}

impl SpecialsEntry {
    fn parse(&self, checks: &mut Checks) -> Specials {
        Specials {
            density: checks.optional("/specials/density", self.density.map(density)),
            lustre: checks.optional("/specials/lustre", self.lustre.map(share)),
            open_minutes: checks.optional("/specials/open_minutes", self.open_minutes.map(minutes)),
            blocks_stains: self.blocks_stains,
            solvent_borne: self.solvent_borne,
        }
    }
}

impl From<ShelfPaint> for PaintEntry {
    fn from(tin: ShelfPaint) -> Self {
        let price = |price: Price| TinPrice { amount: price.amount(), tin_ml: price.tin().value() };
        let Specials { density, lustre, open_minutes, blocks_stains, solvent_borne } = tin.specials;
        Self {
            name: tin.name.into(),
            class: tin.class.id().to_owned(),
            colour: tin.masstone.map(Colour::from),
            source: Some(tin.source.id().to_owned()),
            coats_to_hide: tin.coats_to_hide.map(CoatsToHide::value),
            price: tin.price.map(price),
            stock_ml: tin.stock.map(Millilitres::value),
            opened_on: tin.opened_on.map(|date| date.to_string()),
            condition: Some(tin.condition.id().to_owned()),
            safety: tin.safety.map(String::from),
            specials: Some(SpecialsEntry { density, lustre, open_minutes, blocks_stains, solvent_borne }),
        }
    }
}

impl TinPrice {
    fn parse(&self, checks: &mut Checks) -> Option<Price> {
        let tin = checks.field("/price/tin_ml", Millilitres::new(self.tin_ml))?;
        checks.field("/price/amount", Price::new(self.amount, tin))
    }
}

impl HowSure {
    fn of(known: &Known, id: Uuid) -> Self {
        let doubt = known.estimate().doubt(PaintId(id));
        let certainty = Certainty::of(doubt);
        let (mut readings, mut questions) = (0, 0);
        for (kept, judged) in known.readings_of(id) {
            readings += 1;
            questions += usize::from(known.asks_about(id, kept, judged));
        }
        Self { doubt, rank: certainty.id(), words: certainty.words(), readings, questions }
    }
}

/// A tin with how many mixes use it.
type Counted = (Kept<ShelfPaint>, usize);

fn counted(store: &Store, kept: Kept<ShelfPaint>) -> Result<Counted, StoreError> {
    let users = store.users::<SavedMix>(kept.id)?.len();
    Ok((kept, users))
}

impl Paint {
    fn of((kept, used_in): Counted, known: &Known, look: Look) -> Result<Self, Problem> {
        let ensemble = known.paint(kept.id)?;
        let class = kept.value.class;
        let dry = warm_blend_paint::Seen::of(&ensemble.best().face(), Light::Daylight).lab;
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            removed: kept.removed,
            class_name: class.name(),
            medium: class.is_medium(),
            house_white: known.is_house_white(kept.id),
            family: HueFamily::of(dry).id(),
            swatch: Swatch::of(ensemble, look),
            known: HowSure::of(known, kept.id),
            used_in,
            entry: kept.value.into(),
        })
    }
}

impl PaintPage {
    fn of(counted: Counted, names: &Names, known: &Known, look: Look) -> Result<Self, Problem> {
        let id = counted.0.id;
        let ensemble = known.paint(id)?;
        let mut readings: Vec<ReadingKept> =
            known.readings_of(id).map(|(kept, judged)| ReadingKept::of(kept, judged, names)).collect();
        readings.reverse();
        let tests = tests(known, id, names);
        let advice = advice(known, id, &tests, names);
        Ok(Self { looks: looks(ensemble), advice, tests, readings, paint: Paint::of(counted, known, look)? })
    }
}

fn looks(ensemble: &Ensemble) -> Vec<LooksInState> {
    use warm_blend_paint::{Drawdown, Seen, State, Verdict};
    use warm_blend_spectral::OnScreen;
    let lab = |state| Look { light: Light::Daylight, state }.face(ensemble.best()).lab;
    let row = |state: State| {
        let material = ensemble.best().in_state(state);
        let face = material.face();
        // Small pictures: every third stop is enough.
        let codes = |stops: &[OnScreen]| stops.iter().step_by(3).map(|stop| stop.srgb.to_string()).collect();
        let in_light = |light| {
            let Drawdown { over_white, over_black } = Drawdown::of(&material, light);
            LookInLight {
                face: Seen::of(&face, light).screen.srgb.to_string(),
                over_white: codes(&over_white),
                over_black: codes(&over_black),
            }
        };
        LooksInState {
            state: state.id(),
            lights: Light::ALL.map(in_light).into(),
            words: match state {
                State::Dry => String::new(),
                _ => Verdict::of(lab(state), lab(State::Dry)).words.replace(" than the target", " than dry"),
            },
        }
    };
    State::ALL.map(row).into()
}

fn tests(known: &Known, id: Uuid, names: &Names) -> Vec<TestWorth> {
    let worth = known.estimate().worth(PaintId(id), Reads::Spectra);
    let tell = |(test, after): (Test, f64)| {
        let sample = known.estimate().sample(test, PaintId(id)).unwrap_or_default();
        let other = sample.get(1).map_or("the house white".to_owned(), |(other, _)| names.of(other.0));
        let how = match test {
            Test::TintHalf => format!("A 1 : 1 dab with {other}"),
            Test::TintFifth => format!("A dab with 4 parts of {other}"),
            Test::Darkened => format!("A dab of 4 parts of it with 1 of {other}"),
            Test::Masstone => "Reading a thick dry dab of it alone".to_owned(),
            Test::Drawdown => "One coat over black and white, read on both".to_owned(),
            Test::Sealed => "Reading the dab under clear wax".to_owned(),
        };
        // To be worth telling it must be seen in figures of one decimal.
        let words = if after < worth.doubt - 0.05 {
            format!("{how} would cut the doubt in mixes from ±{:.1} to ±{after:.1}.", worth.doubt)
        } else {
            format!("{how} would tell little of its mixes.")
        };
        TestWorth {
            test: test.id(),
            now: worth.doubt,
            after,
            of: sample.iter().map(|(paint, parts)| TestPart::new(*paint, *parts, names)).collect(),
            words,
        }
    };
    worth.after.into_iter().map(tell).collect()
}

/// What to do next.
fn advice(known: &Known, id: Uuid, tests: &[TestWorth], names: &Names) -> String {
    let estimate: &Estimate = known.estimate();
    let questioned = known.readings_of(id).any(|(kept, judged)| known.asks_about(id, kept, judged));
    if questioned {
        return "A reading contradicts the others: say below which one is right.".to_owned();
    }
    if known.house_white().is_none() {
        return "Choose the house white first: tints with it say most of any paint for least work."
            .to_owned();
    }
    let next = match tests.iter().find(|test| test.after < 0.85 * test.now) {
        Some(best) => format!("Test next: {}", best.words),
        None if tests.is_empty() => "There is nothing to test in it.".to_owned(),
        None => format!(
            "Known well enough: no single test would tell much more than ±{:.1} in mixes.",
            estimate.doubt(PaintId(id))
        ),
    };
    match known.is_house_white(id) {
        true => format!("This is the house white: every tint is made with {}. {next}", names.of(id)),
        false => next,
    }
}

/// All paints and mediums on the shelf, in the order they were added.
#[utoipa::path(get, path = "/paints", operation_id = "list_paints",
    tag = "shelf", params(LookedAt),
    responses((status = OK, body = Vec<Paint>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Vec<Paint>>, Problem> {
    let look = asked.get()?;
    let (tins, known) = workspace
        .with_known(|store| {
            store.all()?.into_iter().map(|kept| counted(store, kept)).collect::<Result<Vec<_>, _>>()
        })
        .await?;
    // A shelf of sixty takes a while: each tin by itself, on all cores.
    let paints = tokio::task::spawn_blocking(move || {
        use rayon::prelude::*;
        tins.into_par_iter().map(|tin| Paint::of(tin, &known, look)).collect::<Result<Vec<_>, _>>()
    });
    paints.await.map_err(|_| Problem::internal())?.map(Json)
}

/// Put a paint on the shelf.
#[utoipa::path(post, path = "/paints", operation_id = "make_paint",
    tag = "shelf", params(LookedAt), request_body = PaintEntry,
    responses((status = CREATED, body = Paint)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(entry): Body<PaintEntry>,
) -> Result<(StatusCode, Json<Paint>), Problem> {
    let (look, tin) = (asked.get()?, entry.parse()?);
    let (kept, known) = workspace.with_known(|store| store.make(tin)).await?;
    Ok((StatusCode::CREATED, Json(Paint::of((kept, 0), &known, look)?)))
}

/// How a paint would look by what is written down of it, before it is kept and before anything was read.
#[utoipa::path(post, path = "/paints/preview", operation_id = "preview_paint",
    tag = "shelf", params(LookedAt), request_body = PaintEntry,
    responses((status = OK, body = Swatch)))]
pub async fn preview(
    Asked(asked): Asked<LookedAt>,
    Body(entry): Body<PaintEntry>,
) -> Result<Json<Swatch>, Problem> {
    let (look, tin) = (asked.get()?, entry.parse()?);
    let id = PaintId(Uuid::nil());
    let estimate = Estimate::of(&[OfShelf { id, facts: tin.facts(false), at_hand: true }], &[])
        .map_err(|error| Problem::field("/colour", error))?;
    let known = estimate.paint(id).ok_or_else(Problem::internal)?;
    Ok(Json(Swatch::of(known, look)))
}

/// One paint; also one that was taken off the shelf.
#[utoipa::path(get, path = "/paints/{id}", operation_id = "get_paint",
    tag = "shelf", params(LookedAt, ("id" = Uuid, Path)),
    responses((status = OK, body = Paint)))]
pub async fn get(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Paint>, Problem> {
    let look = asked.get()?;
    let (tin, known) = workspace.with_known(move |store| counted(store, store.get(id)?)).await?;
    Paint::of(tin, &known, look).map(Json)
}

/// Everything about one paint: every light and state, how it is known, and what one more test would buy.
#[utoipa::path(get, path = "/paints/{id}/page", operation_id = "get_paint_page",
    tag = "shelf", params(LookedAt, ("id" = Uuid, Path)),
    responses((status = OK, body = PaintPage)))]
pub async fn page(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<PaintPage>, Problem> {
    let look = asked.get()?;
    let ((tin, names), known) = workspace
        .with_known(move |store| Ok((counted(store, store.get(id)?)?, Names::gather(store)?)))
        .await?;
    PaintPage::of(tin, &names, &known, look).map(Json)
}

/// Change what is written down of a paint.
#[utoipa::path(put, path = "/paints/{id}", operation_id = "change_paint",
    tag = "shelf", params(LookedAt, Seen, ("id" = Uuid, Path)), request_body = PaintEntry,
    responses((status = OK, body = Paint)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PaintEntry>,
) -> Result<Json<Paint>, Problem> {
    let (look, tin) = (asked.get()?, entry.parse()?);
    let (tin, known) = workspace
        .with_known(move |store| store.change(id, revision, tin).and_then(|kept| counted(store, kept)))
        .await?;
    Paint::of(tin, &known, look).map(Json)
}

/// Take a paint off the shelf. Where a mix uses it this answers 409 `in-use` until it is confirmed; the mix goes on
/// knowing it.
#[utoipa::path(delete, path = "/paints/{id}", operation_id = "remove_paint",
    tag = "shelf", params(Removal, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Removal { revision, confirmed }): Asked<Removal>,
) -> Result<StatusCode, Problem> {
    let users = workspace
        .with(move |store| {
            let users = users_of(store, id)?;
            if users.is_empty() || confirmed {
                store.remove::<ShelfPaint>(id, revision)?;
                return Ok(Vec::new());
            }
            Ok(users)
        })
        .await?;
    if users.is_empty() {
        return Ok(StatusCode::NO_CONTENT);
    }
    Err(Problem::in_use(users))
}

/// The mixes, boards and pieces that speak of a paint.
fn users_of(store: &Store, paint: Uuid) -> Result<Vec<UsedBy>, StoreError> {
    fn of<T: Document>(
        store: &Store,
        paint: Uuid,
        name: fn(T) -> Option<Name>,
    ) -> Result<Vec<UsedBy>, StoreError> {
        let users = store.users::<T>(paint)?.into_iter();
        Ok(users
            .map(|kept| UsedBy { kind: T::KIND, id: kept.id, name: name(kept.value).map(String::from) })
            .collect())
    }
    let mut users = of::<SavedMix>(store, paint, |mix| mix.name)?;
    users.extend(of::<Board>(store, paint, |board| Some(board.name))?);
    users.extend(of::<Piece>(store, paint, |piece| Some(piece.name))?);
    Ok(users)
}

/// Make two tins one: mixes and readings of the one that goes become those of the one that stays. One step of undo turns it
/// back.
#[utoipa::path(post, path = "/paints/merge", operation_id = "merge_paints",
    tag = "shelf", params(LookedAt), request_body = Merge,
    responses((status = OK, body = Paint)))]
pub async fn merge(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Body(Merge { keep, gone }): Body<Merge>,
) -> Result<Json<Paint>, Problem> {
    let look = asked.get()?;
    if keep == gone {
        return Err(Problem::field("/gone", "this is the same tin: choose another one that goes"));
    }
    let (tin, known) = workspace
        .with_known(move |store| {
            let (stays, goes) = (PaintId(keep), PaintId(gone));
            let house_white = crate::known::workshop(store)?;
            store.together(|batch| {
                let (one, other) = (batch.get::<ShelfPaint>(keep)?, batch.get::<ShelfPaint>(gone)?);
                batch.change(keep, one.revision, one.value.merged_with(&other.value))?;
                for mix in batch.users::<SavedMix>(gone)? {
                    batch.change(mix.id, mix.revision, mix.value.with_paint_replaced(goes, stays))?;
                }
                for board in batch.users::<Board>(gone)? {
                    batch.change(board.id, board.revision, board.value.with_paint_replaced(goes, stays))?;
                }
                for piece in batch.users::<Piece>(gone)? {
                    batch.change(piece.id, piece.revision, piece.value.with_paint_replaced(goes, stays))?;
                }
                for reading in batch.users::<BoardReading>(gone)? {
                    let value = reading.value.with_paint_replaced(goes, stays);
                    batch.change(reading.id, reading.revision, value)?;
                }
                for pour in batch.users::<PourRecord>(gone)? {
                    batch.change(pour.id, pour.revision, pour.value.with_paint_replaced(goes, stays))?;
                }
                for reading in batch.users::<LoggedReading>(gone)? {
                    match reading.value.with_paint_replaced(goes, stays) {
                        Some(value) => batch.change(reading.id, reading.revision, value).map(drop)?,
                        // A reading of the two against each other says nothing once they are one.
                        None => batch.remove::<LoggedReading>(reading.id, reading.revision).map(drop)?,
                    }
                }
                if house_white.value.house_white == Some(goes) {
                    let chosen = warm_blend_workshop::Workshop {
                        house_white: Some(stays),
                        ..house_white.value.clone()
                    };
                    batch.change(house_white.id, house_white.revision, chosen)?;
                }
                batch.remove::<ShelfPaint>(gone, other.revision)
            })?;
            counted(store, store.get(keep)?)
        })
        .await?;
    Paint::of(tin, &known, look).map(Json)
}
