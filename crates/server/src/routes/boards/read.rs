//! Real boards read: predicted against read, and what that says of the hand.

use axum::{Json, extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, BoardReading, Hands, Judgement, Spot, Technique};
use warm_blend_interchange::hex;
use warm_blend_learn::{Measured, ShelfPaint};
use warm_blend_paint::{Note, PaintId, Verdict};
use warm_blend_spectral::Lab;
use warm_blend_store::Kept;

use super::entry::{letter, place};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    check::Checks,
    colour::{StateName, state},
    known::Known,
    problem::Problem,
    routes::{
        paints::{Seen, source},
        readings::{MeasuredEntry, trouble},
    },
};

/// A spot that the reader is put on.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SpotToRead {
    /// `A` to `F`.
    strip: String,
    /// `field`, `recess` or `edge`.
    place: String,
    /// `dry` (as when left out), `wet` or `sealed`.
    #[schema(value_type = Option<StateName>)]
    state: Option<String>,
}

/// What the reader says of a spot.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotRead {
    /// Its name. `simulated reader` is a stand-in: a made-up painter paints the board with made-up paints behind the painter's own.
    device: String,
    /// What it read.
    measured: MeasuredEntry,
    /// What a screen shows for it in daylight.
    hex: String,
}

/// A painted strip that was read, as it is entered.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingEntry {
    /// `A` to `F`.
    strip: String,
    /// `dry` (as when left out), `wet` or `sealed`.
    #[schema(value_type = Option<StateName>)]
    state: Option<String>,
    /// What it was read with: `reader` (as when left out), `photo`, `chip` or `guess`.
    source: Option<String>,
    /// One to nine.
    spots: Vec<BoardSpotEntry>,
    /// The painter's words.
    note: Option<String>,
}

/// A spot that was read.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardSpotEntry {
    /// `field`, `recess` or `edge`.
    place: String,
    /// What was read.
    measured: MeasuredEntry,
}

/// A painted strip that was read, with how it stands to what was predicted.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingKept {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// When it was made, RFC 3339.
    made_at: String,
    /// `A` to `F`.
    strip: String,
    /// `dry`, `wet` or `sealed`.
    #[schema(value_type = StateName)]
    state: String,
    /// What was read, spot by spot.
    spots: Vec<SpotKept>,
    /// True where it lies so far out that no hand makes that of this board: it is left out until somebody says that it is right.
    questioned: bool,
    /// How far out, in standard deviations.
    off: f64,
    /// Mean ΔE00 of its spots from what a hand that was never read would have made.
    usual_difference: f64,
    /// The same from what this hand makes, as it is known now.
    difference: f64,
    /// The painter's words.
    note: Option<String>,
}

/// A spot of a reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpotKept {
    /// `field`, `recess` or `edge`.
    place: &'static str,
    /// What was read, on a screen in daylight.
    hex: String,
    /// What a hand that was never read would have made.
    usual_hex: Option<String>,
    /// What this hand makes, as it is known now.
    predicted_hex: Option<String>,
    /// ΔE00 from what was read of the first, and of the second.
    usual_difference: Option<f64>,
    /// See `usual_difference`.
    difference: Option<f64>,
    /// What was read against what is predicted now: `a touch darker than predicted`.
    words: String,
}

/// What a new reading of a board taught.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReadingMade {
    /// The reading.
    reading: BoardReadingKept,
    /// What is known of the hand now, of the techniques on this strip.
    hands: Vec<HandKnown>,
}

/// What is known of a hand in one technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct HandKnown {
    /// `glaze-wiped` …
    technique: &'static str,
    /// `Glaze, wiped` …
    name: &'static str,
    /// Times the usual film.
    film: f64,
    /// In nine cases of ten the true one is within this factor either way.
    within: f64,
    /// How many readings of boards say so.
    boards: usize,
    /// In words: `leaves about 1.4 times the usual film, and covers more`.
    words: String,
}

/// A board reading that is found to be right, or is annotated.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BoardReadingChange {
    /// True to say that it is right however odd it looks.
    sure: bool,
    /// The painter's words.
    note: Option<String>,
}

impl BoardSpotEntry {
    /// Spots of one reading; one more than may be, so that the reading itself says that it is too much.
    pub fn parse_all(spots: &[Self], at: &str, checks: &mut Checks) -> Vec<Spot> {
        let spots = spots.iter().take(BoardReading::SPOTS + 1).enumerate();
        spots
            .filter_map(|(i, spot)| {
                let place = checks.field(format!("{at}/{i}/place"), place(&spot.place));
                let measured = spot.measured.parse(checks, &format!("{at}/{i}/measured"));
                Some(Spot { place: place?, measured: measured? })
            })
            .collect()
    }
}

impl HandKnown {
    fn of(hands: &Hands, technique: Technique) -> Self {
        let (habit, within) = (hands.habit(technique), hands.within(technique));
        Self {
            technique: technique.id(),
            name: technique.name(),
            film: habit.film,
            within,
            boards: hands.boards(technique),
            words: habit.words(technique),
        }
    }

    /// Of the techniques that boards were read of.
    pub fn all(hands: &Hands) -> Vec<Self> {
        let read = Technique::ALL.into_iter().filter(|technique| hands.boards(*technique) > 0);
        read.map(|technique| Self::of(hands, technique)).collect()
    }
}

impl BoardReadingKept {
    fn of(kept: &Kept<BoardReading>, judged: Option<&Judgement>) -> Self {
        let reading = &kept.value;
        let spot = |(i, spot): (usize, &Spot)| {
            let told = |of: fn(&Judgement) -> &Vec<Lab>| judged.and_then(|judged| of(judged).get(i).copied());
            let (usual, predicted) = (told(|judged| &judged.usual), told(|judged| &judged.predicted));
            let read = spot.measured.lab();
            let off = |lab: Lab| Verdict::of(read, lab).difference.value();
            SpotKept {
                place: spot.place.id(),
                hex: hex(&spot.measured),
                usual_hex: usual.map(|lab| hex(&Measured::Colour(lab))),
                predicted_hex: predicted.map(|lab| hex(&Measured::Colour(lab))),
                usual_difference: usual.map(off),
                difference: predicted.map(off),
                words: predicted.map_or_else(String::new, |lab| {
                    Verdict::of(read, lab).words.replace("the target", "predicted")
                }),
            }
        };
        let spots: Vec<SpotKept> = reading.spots().iter().enumerate().map(spot).collect();
        let off = |of: fn(&SpotKept) -> Option<f64>| mean(spots.iter().filter_map(of));
        Self {
            usual_difference: off(|spot| spot.usual_difference),
            difference: off(|spot| spot.difference),
            id: kept.id,
            revision: kept.revision,
            made_at: kept.made_at.to_string(),
            strip: reading.letter().to_string(),
            state: reading.state.id().to_owned(),
            spots,
            questioned: judged.is_some_and(|judged| judged.questioned),
            off: judged.map_or(0.0, |judged| judged.off),
            note: reading.note.clone().map(String::from),
        }
    }

    fn find(known: &Known, id: Uuid) -> Result<Self, Problem> {
        let found = known.boards().iter().find(|(kept, _)| kept.id == id).ok_or_else(Problem::internal)?;
        Ok(Self::of(&found.0, found.1.as_ref()))
    }
}

/// The mean of some differences; 0 of none.
fn mean(of: impl Iterator<Item = f64>) -> f64 {
    let (sum, n) = of.fold((0.0, 0.0), |(sum, n), off| (sum + off, n + 1.0));
    if n > 0.0 { sum / n } else { 0.0 }
}

/// Put the reader on a spot of the painted board; nothing is kept.
#[utoipa::path(post, path = "/boards/{id}/read", operation_id = "read_board",
    tag = "board", params(("id" = Uuid, Path)), request_body = SpotToRead,
    responses((status = OK, body = SpotRead)))]
pub async fn read(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Body(asked): Body<SpotToRead>,
) -> Result<Json<SpotRead>, Problem> {
    let mut checks = Checks::default();
    let strip = checks.field("/strip", letter(&asked.strip));
    let place = checks.field("/place", place(&asked.place));
    let state = checks.field("/state", state(asked.state.as_deref()));
    let ((strip, place), state) = checks.done(strip.zip(place).zip(state))?;
    let (board, tins) = workspace
        .with(move |store| {
            let board = store.get::<Board>(id)?.value;
            let tins =
                board.paints().into_iter().map(|paint| Ok((paint, store.get::<ShelfPaint>(paint.0)?.value)));
            let tins: Vec<(PaintId, ShelfPaint)> =
                tins.collect::<Result<_, warm_blend_store::StoreError>>()?;
            Ok((board, tins))
        })
        .await?;
    // What cannot be kept is not read either.
    let nothing = Spot { place, measured: Measured::Colour(Lab { l: 0.0, a: 0.0, b: 0.0 }) };
    BoardReading::new((id, &board), strip, (state, warm_blend_learn::Source::Reader), vec![nothing])
        .map_err(|error| Problem::field("/strip", error))?;
    let reader = workspace.reader.clone();
    let read = move || reader.read_board(&board, strip, (place, state), &tins);
    let measured =
        tokio::task::spawn_blocking(read).await.map_err(|_| Problem::internal())?.map_err(trouble)?;
    Ok(Json(SpotRead { device: workspace.reader.name(), hex: hex(&measured), measured: measured.into() }))
}

/// What was read of a board, newest first.
#[utoipa::path(get, path = "/boards/{id}/readings", operation_id = "list_board_readings",
    tag = "board", params(("id" = Uuid, Path)),
    responses((status = OK, body = Vec<BoardReadingKept>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
) -> Result<Json<Vec<BoardReadingKept>>, Problem> {
    let (_, known) = workspace.with_known(move |store| store.get::<Board>(id)).await?;
    let of_board = known.boards().iter().filter(|(kept, _)| kept.value.board == id).rev();
    Ok(Json(of_board.map(|(kept, judged)| BoardReadingKept::of(kept, judged.as_ref())).collect()))
}

/// Keep a reading of a painted strip, and learn the hand from it.
#[utoipa::path(post, path = "/boards/{id}/readings", operation_id = "make_board_reading",
    tag = "board", params(("id" = Uuid, Path)), request_body = BoardReadingEntry,
    responses((status = CREATED, body = BoardReadingMade)))]
pub async fn make(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Body(entry): Body<BoardReadingEntry>,
) -> Result<(StatusCode, Json<BoardReadingMade>), Problem> {
    let mut checks = Checks::default();
    let strip = checks.field("/strip", letter(&entry.strip));
    let state = checks.field("/state", state(entry.state.as_deref()));
    let source = checks.field("/source", source(entry.source.as_deref().unwrap_or("reader")));
    let note = checks.optional("/note", entry.note.as_deref().map(Note::new)).flatten();
    let spots = BoardSpotEntry::parse_all(&entry.spots, "/spots", &mut checks);
    let ((strip, state), source) = checks.done(strip.zip(state).zip(source))?;
    let board = workspace.with(move |store| store.get::<Board>(id)).await?;
    let mut reading = BoardReading::new((id, &board.value), strip, (state, source), spots)
        .map_err(|error| Problem::field("/spots", error))?;
    reading.note = note;
    let techniques = reading.techniques();
    let (kept, known) = workspace.with_known(move |store| store.make(reading)).await?;
    let hands = techniques.into_iter().map(|technique| HandKnown::of(known.hands(), technique)).collect();
    let made = BoardReadingMade { reading: BoardReadingKept::find(&known, kept.id)?, hands };
    Ok((StatusCode::CREATED, Json(made)))
}

/// Say that a reading is right however odd it looks, or note something.
#[utoipa::path(put, path = "/boards/readings/{id}", operation_id = "change_board_reading",
    tag = "board", params(Seen, ("id" = Uuid, Path)), request_body = BoardReadingChange,
    responses((status = OK, body = BoardReadingKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
    Body(BoardReadingChange { sure, note }): Body<BoardReadingChange>,
) -> Result<Json<BoardReadingKept>, Problem> {
    let mut checks = Checks::default();
    let note = checks.optional("/note", note.as_deref().map(Note::new)).flatten();
    let note = checks.done(Some(note))?;
    let (_, known) = workspace
        .with_known(move |store| {
            let mut reading = store.get::<BoardReading>(id)?.value;
            (reading.sure, reading.note) = (sure, note);
            store.change(id, revision, reading)
        })
        .await?;
    BoardReadingKept::find(&known, id).map(Json)
}

/// Take a reading of a board out of the log: what it taught is forgotten; undo brings it back.
#[utoipa::path(delete, path = "/boards/readings/{id}", operation_id = "remove_board_reading",
    tag = "board", params(Seen, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<BoardReading>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What boards say of the hand that paints, technique by technique.
#[utoipa::path(get, path = "/hands", operation_id = "list_hands",
    tag = "board", responses((status = OK, body = Vec<HandKnown>)))]
pub async fn hands(State(workspace): State<Workspace>) -> Result<Json<Vec<HandKnown>>, Problem> {
    let ((), known) = workspace.with_known(|_| Ok(())).await?;
    Ok(Json(HandKnown::all(known.hands())))
}
