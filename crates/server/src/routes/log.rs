//! The log: searching it, repeating what was done, and writing notes.

use std::collections::{BTreeSet, HashMap};

use axum::{extract::State, http::StatusCode};
use jiff::{Timestamp, tz::TimeZone};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::LogNote;
use warm_blend_interchange::photo;
use warm_blend_paint::{Colour, Look};
use warm_blend_piece::Piece;
use warm_blend_plan::{Done, RunSheet};
use warm_blend_spectral::Light;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{
    FinishOnPhoto, FinishRequest, LikePot, LogAsked, LogNoteEntry, LogPage, MadeAgain, MixLike, PhotoOfPiece,
    SkillLearned, TruthView, scheme_of,
};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    routes::piece::Around,
    wire::{HexAsked, SeenRevision, UnitsAsked},
};

/// The log, newest first, page by page. All conditions must hold.
#[utoipa::path(get, path = "/log", operation_id = "get_log", tag = "log", params(LogAsked, Look, UnitsAsked),
    responses((status = OK, body = LogPage)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Query(asked): Query<LogAsked>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<LogPage> {
    let clock = TimeZone::system();
    let query = asked.read(&clock)?;
    let read = move |store: &mut Store| {
        let (lines, more) = store.log(&query)?;
        // Only the pieces on this page, once each.
        let spoken_of: BTreeSet<Uuid> = lines.iter().filter_map(|line| line.piece).collect();
        let named = |id| Some((id, store.get::<Piece>(id).ok()?.value.name.as_str().to_owned()));
        let pieces: HashMap<_, _> = spoken_of.into_iter().filter_map(named).collect();
        Ok::<_, StoreError>((lines, more, pieces))
    };
    let ((lines, more, pieces), shelf) = workspace.with_shelf(read).await?;
    off_thread(move || Ok(shelf.log_page(lines, more, &pieces, (&clock, look, units))?)).await.map(Json)
}

/// What the pot of a log line would give today, and what to pour to get the old colour.
#[utoipa::path(get, path = "/log/{line}/again", operation_id = "make_again", tag = "log", params(Look),
    responses((status = OK, body = MadeAgain)))]
pub async fn again(
    State(workspace): State<Workspace>,
    Path(line): Path<i64>,
    Query(look): Query<Look>,
) -> Answer<MadeAgain> {
    let (line, shelf) = workspace.with_shelf(move |store| store.log_line(line)).await?;
    let line = line.ok_or_else(|| Problem::not_found("this entry is no longer in the log; reload it"))?;
    off_thread(move || Ok(shelf.make_again(&line, look)?)).await.map(Json)
}

/// Progress photos of a piece, oldest first.
#[utoipa::path(get, path = "/pieces/{id}/photos", operation_id = "list_photos_of_piece", tag = "log",
    responses((status = OK, body = Vec<PhotoOfPiece>)))]
pub async fn photos_of_piece(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
) -> Answer<Vec<PhotoOfPiece>> {
    let read = move |store: &mut Store| {
        store.get::<Piece>(id)?;
        store.photos_of(id)
    };
    let lines = workspace.with(read).await?;
    Ok(Json(lines.into_iter().filter_map(PhotoOfPiece::of).collect()))
}

/// Compare the finish on a photo of a piece, relative to its card, with the prediction for its zones in daylight.
#[utoipa::path(post, path = "/pieces/{id}/on-photo", operation_id = "read_finish_on_photo",
    tag = "log", params(Look),
    responses((status = OK, body = FinishOnPhoto)))]
pub async fn finish_on_photo(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Json(asked): Json<FinishRequest>,
) -> Answer<FinishOnPhoto> {
    let look = Look { light: Light::Daylight, ..look };
    let of = asked.photo;
    let read = move |store: &mut Store| Ok((store.get::<Piece>(id)?.value, store.photo(of)?));
    let ((piece, jpeg), around) = Around::and(&workspace, read).await?;
    let gone = || Problem::field("/photo", "no such photo; choose one from the log");
    let (jpeg, scheme) = (jpeg.ok_or_else(gone)?, scheme_of(&piece, None)?);
    let on_photo = move || {
        let photo = photo(&jpeg).map_err(|error| Problem::field("/photo", error))?;
        Ok(around.room(look).on_photo(&piece, &scheme, &photo, &asked)?)
    };
    workspace.heavy.photo(on_photo).await.map(Json)
}

/// Pots that look like a colour, closest first.
#[utoipa::path(get, path = "/log/like", operation_id = "find_like", tag = "log", params(HexAsked, Look),
    responses((status = OK, body = Vec<MixLike>)))]
pub async fn like(
    State(workspace): State<Workspace>,
    Query(HexAsked { hex }): Query<HexAsked>,
    Query(look): Query<Look>,
) -> Answer<Vec<MixLike>> {
    let colour = Colour { hex: Some(hex), lab: None };
    let (pots, shelf) = workspace.with_shelf(|store| store.pots()).await?;
    let near = off_thread(move || Ok(shelf.like(&colour, &pots, look)?)).await?;
    let shown = move |store: &mut Store| {
        let shown = |near: LikePot| Ok(store.log_line(near.line)?.map(|line| near.with_line(line)));
        near.into_iter().filter_map(|near| shown(near).transpose()).collect::<Result<_, StoreError>>()
    };
    workspace.with(shown).await.map(Json)
}

/// Prediction accuracy: recent readings compared with their earlier predictions.
#[utoipa::path(get, path = "/log/truth", operation_id = "get_truth", tag = "log",
    responses((status = OK, body = TruthView)))]
pub async fn truth(State(workspace): State<Workspace>) -> Answer<TruthView> {
    workspace.ask(|shelf| shelf.truth()).await
}

/// What was learned of this painter's hand from boards and of the pace from timed steps, over time.
#[utoipa::path(get, path = "/log/skills", operation_id = "get_skills", tag = "log",
    responses((status = OK, body = Vec<SkillLearned>)))]
pub async fn skills(State(workspace): State<Workspace>) -> Answer<Vec<SkillLearned>> {
    let (sheets, shelf) = workspace.with_shelf(|store| store.all::<RunSheet>()).await?;
    let done: Vec<Done> = sheets.into_iter().flat_map(|kept| kept.value.done).collect();
    off_thread(move || Ok(shelf.skills(&done))).await.map(Json)
}

/// A saved note.
#[derive(Debug, Serialize, ToSchema)]
pub struct NoteKept {
    /// Id.
    id: Uuid,
    /// Revision, to be sent when it is deleted.
    revision: i64,
}

/// Write a note, with or without a photo, or record that the client agreed to a scheme.
#[utoipa::path(post, path = "/notes", operation_id = "make_note", tag = "log",
    responses((status = CREATED, body = NoteKept)))]
pub async fn make_note(
    State(workspace): State<Workspace>,
    Json(entry): Json<LogNoteEntry>,
) -> Result<(StatusCode, Json<NoteKept>), Problem> {
    let note = entry.parse(Timestamp::now())?;
    let kept = workspace.with(move |store| store.make(note)).await?;
    Ok((StatusCode::CREATED, Json(NoteKept { id: kept.id, revision: kept.revision })))
}

/// Delete a note.
#[utoipa::path(delete, path = "/notes/{id}", operation_id = "remove_note", tag = "log", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove_note(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<LogNote>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}
