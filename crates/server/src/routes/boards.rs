//! Sample boards: layers of a finish, predicted and drawn.

mod picture;
mod read;

use axum::{extract::State, http::StatusCode};
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_documents::Kept;
use warm_blend_paint::Look;
use warm_blend_workshop::{
    BoardChoices, BoardInList, BoardKept, BoardReasons, NewBoard, ReadyFinish, RemediesView, SchoolsView,
    StripPrediction,
};

pub use self::{picture::*, read::*};
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    wire::{ReadyAsked, SeenRevision, StripAsked, TroubleAsked},
};

/// Choices for boards.
#[utoipa::path(get, path = "/boards/choices", operation_id = "list_board_choices", tag = "board",
    responses((status = OK, body = BoardChoices)))]
pub async fn choices() -> Json<BoardChoices> {
    Json(BoardChoices::all())
}

/// Ready finishes, each filled from the shelf.
#[utoipa::path(get, path = "/boards/ready", operation_id = "list_ready_finishes",
    tag = "board", params(ReadyAsked),
    responses((status = OK, body = Vec<ReadyFinish>)))]
pub async fn ready(
    State(workspace): State<Workspace>,
    Query(asked): Query<ReadyAsked>,
) -> Answer<Vec<ReadyFinish>> {
    workspace.ask(move |shelf| shelf.ready_finishes(asked.ground, asked.base)).await
}

/// All boards, in the order in which they were created.
#[utoipa::path(get, path = "/boards", operation_id = "list_boards", tag = "board", params(Look),
    responses((status = OK, body = Vec<BoardInList>)))]
pub async fn list(State(workspace): State<Workspace>, Query(look): Query<Look>) -> Answer<Vec<BoardInList>> {
    let (boards, shelf) = workspace.with_shelf(|store| store.all::<Board>()).await?;
    let row = move |kept: &Kept<Board>| Ok(shelf.board_in_list(kept, look)?);
    off_thread(move || boards.iter().map(row).collect()).await.map(Json)
}

/// Create a board.
#[utoipa::path(post, path = "/boards", operation_id = "make_board", tag = "board",
    responses((status = CREATED, body = BoardKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Json(new): Json<NewBoard>,
) -> Result<(StatusCode, Json<BoardKept>), Problem> {
    let Json(board) = workspace.ask(move |shelf| shelf.new_board(&new)).await?;
    let kept = workspace.with(|store| store.make(board)).await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// A board.
#[utoipa::path(get, path = "/boards/{id}", operation_id = "get_board", tag = "board",
    responses((status = OK, body = BoardKept)))]
pub async fn get(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Answer<BoardKept> {
    workspace.with(move |store| store.get::<Board>(id)).await.map(|kept| Json(kept.into()))
}

/// Change a board.
#[utoipa::path(put, path = "/boards/{id}", operation_id = "change_board", tag = "board", params(SeenRevision),
    responses((status = OK, body = BoardKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(board): Json<Board>,
) -> Answer<BoardKept> {
    board.check()?;
    workspace.with(move |store| store.change(id, revision, board)).await.map(|kept| Json(kept.into()))
}

/// Delete a board; undo restores it.
#[utoipa::path(delete, path = "/boards/{id}", operation_id = "remove_board",
    tag = "board", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<Board>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Predict a strip of a board; nothing is saved.
#[utoipa::path(post, path = "/boards/preview", operation_id = "preview_board",
    tag = "board", params(Look, StripAsked),
    responses((status = OK, body = StripPrediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(StripAsked { strip, layers }): Query<StripAsked>,
    Json(board): Json<Board>,
) -> Answer<StripPrediction> {
    board.check()?;
    workspace.ask(move |shelf| shelf.predict_strip(&board, strip, layers, look)).await
}

/// What the prediction of a strip rests on: its paints, the painter's touch, bare wood.
#[utoipa::path(post, path = "/boards/why", operation_id = "explain_board",
    tag = "board", params(Look, StripAsked),
    responses((status = OK, body = BoardReasons)))]
pub async fn why(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(StripAsked { strip, .. }): Query<StripAsked>,
    Json(board): Json<Board>,
) -> Answer<BoardReasons> {
    board.check()?;
    workspace.ask(move |shelf| shelf.board_reasons(&board, strip, look)).await
}

/// Remedies for a strip gone wrong, tried with tins of the shelf; nothing is saved.
#[utoipa::path(post, path = "/boards/rescue", operation_id = "rescue_board",
    tag = "board", params(Look, StripAsked, TroubleAsked),
    responses((status = OK, body = RemediesView)))]
pub async fn rescue(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(StripAsked { strip, .. }): Query<StripAsked>,
    Query(TroubleAsked { trouble }): Query<TroubleAsked>,
    Json(board): Json<Board>,
) -> Answer<RemediesView> {
    board.check()?;
    workspace.ask(move |shelf| shelf.ways_back(&board, strip, trouble, look)).await
}

/// Ways of other schools for a strip, tried with tins of the shelf; nothing is saved.
#[utoipa::path(post, path = "/boards/schools", operation_id = "other_schools",
    tag = "board", params(Look, StripAsked),
    responses((status = OK, body = SchoolsView)))]
pub async fn schools(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(StripAsked { strip, .. }): Query<StripAsked>,
    Json(board): Json<Board>,
) -> Answer<SchoolsView> {
    board.check()?;
    workspace.ask(move |shelf| shelf.other_schools(&board, strip, look)).await
}
