//! Sample boards: layers of a finish, predicted and drawn.

mod picture;
mod read;

use axum::{Json, extract::State, http::StatusCode};
use warm_blend_board::Board;
use warm_blend_store::Kept;
use warm_blend_workshop::{
    BoardChoices, BoardEntry, BoardInList, BoardKept, NewBoard, ReadyFinish, RemediesView, SchoolsView,
    StripPrediction,
};

pub use self::{picture::*, read::*};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    problem::Problem,
    wire::{LookedAt, ReadyAsked, SeenRevision, StripAsked, TroubleAsked},
};

/// What boards are made of: techniques and grounds.
#[utoipa::path(get, path = "/boards/choices", operation_id = "list_board_choices",
    tag = "board", responses((status = OK, body = BoardChoices)))]
pub async fn choices() -> Json<BoardChoices> {
    Json(BoardChoices::all())
}

/// Finishes to begin a board from, each filled from the shelf.
#[utoipa::path(get, path = "/boards/ready", operation_id = "list_ready_finishes",
    tag = "board", params(ReadyAsked), responses((status = OK, body = Vec<ReadyFinish>)))]
pub async fn ready(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<ReadyAsked>,
) -> Result<Json<Vec<ReadyFinish>>, Problem> {
    Ok(Json(workspace.shelf().await?.ready_finishes(&asked.ground, asked.base)?))
}

/// All boards, in the order they were begun.
#[utoipa::path(get, path = "/boards", operation_id = "list_boards",
    tag = "board", params(LookedAt),
    responses((status = OK, body = Vec<BoardInList>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Vec<BoardInList>>, Problem> {
    let look = asked.get()?;
    let (boards, shelf) = workspace.with_shelf(|store| store.all::<Board>()).await?;
    let row = |kept: &Kept<Board>| Ok(shelf.board_in_list(kept, look)?);
    boards.iter().map(row).collect::<Result<_, Problem>>().map(Json)
}

/// Begin a board.
#[utoipa::path(post, path = "/boards", operation_id = "make_board",
    tag = "board", request_body = NewBoard,
    responses((status = CREATED, body = BoardKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Body(new): Body<NewBoard>,
) -> Result<(StatusCode, Json<BoardKept>), Problem> {
    let board = workspace.shelf().await?.new_board(&new)?;
    let kept = workspace.with(|store| store.make(board)).await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// One board.
#[utoipa::path(get, path = "/boards/{id}", operation_id = "get_board",
    tag = "board", params(("id" = Uuid, Path)),
    responses((status = OK, body = BoardKept)))]
pub async fn get(State(workspace): State<Workspace>, IdPath(id): IdPath) -> Result<Json<BoardKept>, Problem> {
    workspace.with(move |store| store.get::<Board>(id)).await.map(|kept| Json(kept.into()))
}

/// Change a board.
#[utoipa::path(put, path = "/boards/{id}", operation_id = "change_board",
    tag = "board", params(SeenRevision, ("id" = Uuid, Path)), request_body = BoardEntry,
    responses((status = OK, body = BoardKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(SeenRevision { revision }): Asked<SeenRevision>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<BoardKept>, Problem> {
    let board = entry.parse()?;
    workspace.with(move |store| store.change(id, revision, board)).await.map(|kept| Json(kept.into()))
}

/// Put a board away; undo brings it back.
#[utoipa::path(delete, path = "/boards/{id}", operation_id = "remove_board",
    tag = "board", params(SeenRevision, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(SeenRevision { revision }): Asked<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<Board>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// What a strip of a board would look like; nothing is kept.
#[utoipa::path(post, path = "/boards/preview", operation_id = "preview_board",
    tag = "board", params(LookedAt, StripAsked), request_body = BoardEntry,
    responses((status = OK, body = StripPrediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(StripAsked { strip, layers }): Asked<StripAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<StripPrediction>, Problem> {
    let (look, board) = (asked.get()?, entry.parse()?);
    workspace.ask(move |shelf| shelf.predict_strip(&board, strip.as_deref(), layers, look)).await
}

/// The ways back for a strip gone wrong, tried on it with what is on the shelf; nothing is kept.
#[utoipa::path(post, path = "/boards/rescue", operation_id = "rescue_board",
    tag = "board", params(LookedAt, StripAsked, TroubleAsked), request_body = BoardEntry,
    responses((status = OK, body = RemediesView)))]
pub async fn rescue(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(StripAsked { strip, .. }): Asked<StripAsked>,
    Asked(TroubleAsked { trouble }): Asked<TroubleAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<RemediesView>, Problem> {
    let (look, board) = (asked.get()?, entry.parse()?);
    workspace.ask(move |shelf| shelf.ways_back(&board, strip.as_deref(), &trouble, look)).await
}

/// How other schools would do a strip, tried on it with what is on the shelf; nothing is kept.
#[utoipa::path(post, path = "/boards/schools", operation_id = "other_schools",
    tag = "board", params(LookedAt, StripAsked), request_body = BoardEntry,
    responses((status = OK, body = SchoolsView)))]
pub async fn schools(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(StripAsked { strip, .. }): Asked<StripAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<SchoolsView>, Problem> {
    let (look, board) = (asked.get()?, entry.parse()?);
    workspace.ask(move |shelf| shelf.other_schools(&board, strip.as_deref(), look)).await
}
