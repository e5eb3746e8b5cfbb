//! Readings of real boards.

use axum::{extract::State, http::StatusCode};
use uuid::Uuid;
use warm_blend_board::{Board, BoardReading};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::PaintId;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{
    BoardReadingChange, BoardReadingEntry, BoardReadingKept, BoardReadingMade, HandKnown, SpotRead,
    SpotToRead,
};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    routes::readings::trouble,
    wire::SeenRevision,
};

/// Read a spot of the painted board; nothing is saved.
#[utoipa::path(post, path = "/boards/{id}/read", operation_id = "read_board", tag = "board",
    responses((status = OK, body = SpotRead)))]
pub async fn read_spot(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Json(asked): Json<SpotToRead>,
) -> Answer<SpotRead> {
    let (board, tins) = workspace.with(move |store| with_tins(store, id)).await?;
    let (strip, place, state) = asked.parse(id, &board)?;
    let reader = workspace.reader.clone();
    let read = move || reader.read_board(&board, strip, (place, state), &tins).map_err(trouble);
    Ok(Json(SpotRead::of(workspace.reader.name(), off_thread(read).await?)))
}

type WithTins = (Board, Vec<(PaintId, ShelfPaint)>);

fn with_tins(store: &Store, id: Uuid) -> Result<WithTins, StoreError> {
    let board = store.get::<Board>(id)?.value;
    let tin = |paint: PaintId| Ok((paint, store.get::<ShelfPaint>(paint.0)?.value));
    let tins = board.paints().into_iter().map(tin).collect::<Result<_, StoreError>>()?;
    Ok((board, tins))
}

/// Readings of a board, newest first.
#[utoipa::path(get, path = "/boards/{id}/readings", operation_id = "list_board_readings", tag = "board",
    responses((status = OK, body = Vec<BoardReadingKept>)))]
pub async fn list_readings(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
) -> Answer<Vec<BoardReadingKept>> {
    let (_, shelf) = workspace.with_shelf(move |store| store.get::<Board>(id)).await?;
    off_thread(move || Ok(shelf.readings_of_board(id))).await.map(Json)
}

/// Save a reading of a painted strip, and learn the hand from it.
#[utoipa::path(post, path = "/boards/{id}/readings", operation_id = "make_board_reading", tag = "board",
    responses((status = CREATED, body = BoardReadingMade)))]
pub async fn make_reading(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Json(entry): Json<BoardReadingEntry>,
) -> Result<(StatusCode, Json<BoardReadingMade>), Problem> {
    let board = workspace.with(move |store| store.get::<Board>(id)).await?;
    let reading = entry.parse(id, &board.value)?;
    let (kept, shelf) = workspace.with_shelf(move |store| store.make(reading)).await?;
    Ok((StatusCode::CREATED, Json(shelf.taught(&kept)?)))
}

/// Confirm an unlikely reading, or add a note.
#[utoipa::path(put, path = "/boards/readings/{id}", operation_id = "change_board_reading",
    tag = "board", params(SeenRevision),
    responses((status = OK, body = BoardReadingKept)))]
pub async fn change_reading(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(change): Json<BoardReadingChange>,
) -> Answer<BoardReadingKept> {
    let work = move |store: &mut Store| {
        let reading = change.applied_to(store.get::<BoardReading>(id)?.value)?;
        Ok::<_, Problem>(store.change(id, revision, reading)?)
    };
    let (_, shelf) = workspace.with_shelf(work).await?;
    off_thread(move || Ok(shelf.board_reading(id)?)).await.map(Json)
}

/// Delete a reading of a board and what was learned from it; undo restores both.
#[utoipa::path(delete, path = "/boards/readings/{id}", operation_id = "remove_board_reading",
    tag = "board", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove_reading(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<BoardReading>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The painter's hand as learned from boards, by technique.
#[utoipa::path(get, path = "/hands", operation_id = "list_hands", tag = "board",
    responses((status = OK, body = Vec<HandKnown>)))]
pub async fn hands(State(workspace): State<Workspace>) -> Answer<Vec<HandKnown>> {
    workspace.ask(|shelf| Ok(HandKnown::all(shelf.hands()))).await
}
