//! Pieces: what they are, what they wear, and whether their parts belong together.

mod look;
mod photographed;
mod template;

use axum::{extract::State, http::StatusCode};
use uuid::Uuid;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_piece::Piece;
use warm_blend_store::{ChangeSet, Store, StoreError};
use warm_blend_workshop::{PieceChoices, PieceInList, PieceKept, PieceName};

pub use self::{look::*, photographed::*, template::*};
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    problem::Problem,
    shelf_cache::workshop,
    wire::{SeenRevision, UnitsAsked},
};

/// The current piece, or the first; every workspace has one.
fn at_hand(store: &Store) -> Result<Kept<Piece>, StoreError> {
    let chosen = workshop(store)?.value.piece;
    let pieces = store.all::<Piece>()?;
    let at = pieces.iter().position(|kept| Some(kept.id) == chosen).unwrap_or(0);
    pieces.into_iter().nth(at).ok_or(StoreError::Damaged("there is no piece in it".to_owned()))
}

/// Makes a piece the current one.
pub fn take(batch: &mut ChangeSet<'_>, workshop: Kept<Workshop>, piece: Uuid) -> Result<(), StoreError> {
    let Kept { id, revision, value, .. } = workshop;
    batch.change(id, revision, Workshop { piece: Some(piece), ..value }).map(drop)
}

/// The current piece.
#[utoipa::path(get, path = "/piece", operation_id = "get_piece", tag = "piece",
    responses((status = OK, body = PieceKept)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<PieceKept> {
    workspace.with(|store| at_hand(store)).await.map(|kept| Json(kept.into()))
}

/// All pieces, in the order in which they were created.
#[utoipa::path(get, path = "/pieces", operation_id = "list_pieces", tag = "piece",
    responses((status = OK, body = Vec<PieceInList>)))]
pub async fn list(State(workspace): State<Workspace>) -> Answer<Vec<PieceInList>> {
    let both = |store: &mut Store| Ok::<_, StoreError>((store.all::<Piece>()?, at_hand(store)?.id));
    let (pieces, at_hand) = workspace.with(both).await?;
    Ok(Json(pieces.into_iter().map(|kept| PieceInList::of(kept, at_hand)).collect()))
}

/// Create a piece, and make it the current one.
#[utoipa::path(post, path = "/pieces", operation_id = "make_piece", tag = "piece",
    responses((status = CREATED, body = PieceKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Json(entry): Json<PieceName>,
) -> Result<(StatusCode, Json<PieceKept>), Problem> {
    let name = entry.parse()?;
    let begin = |store: &mut Store| {
        let workshop = workshop(store)?;
        store.together(|batch| {
            let kept = batch.make(Piece::named(name))?;
            take(batch, workshop, kept.id)?;
            Ok(kept)
        })
    };
    let kept = workspace.with(begin).await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// Make a piece the current one.
#[utoipa::path(put, path = "/pieces/{id}/at-hand", operation_id = "take_piece", tag = "piece",
    responses((status = OK, body = PieceKept)))]
pub async fn take_to_hand(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Answer<PieceKept> {
    let take = move |store: &mut Store| {
        let (kept, workshop) = (store.get::<Piece>(id)?, workshop(store)?);
        store.together(|batch| take(batch, workshop, id))?;
        Ok::<_, StoreError>(kept)
    };
    workspace.with(take).await.map(|kept| Json(kept.into()))
}

/// A piece.
#[utoipa::path(get, path = "/pieces/{id}", operation_id = "get_one_piece", tag = "piece",
    responses((status = OK, body = PieceKept)))]
pub async fn one(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Answer<PieceKept> {
    workspace.with(move |store| store.get::<Piece>(id)).await.map(|kept| Json(kept.into()))
}

/// Rename a piece.
#[utoipa::path(put, path = "/pieces/{id}/name", operation_id = "rename_piece",
    tag = "piece", params(SeenRevision),
    responses((status = OK, body = PieceKept)))]
pub async fn rename(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(entry): Json<PieceName>,
) -> Answer<PieceKept> {
    let name = entry.parse()?;
    let rename = move |store: &mut Store| {
        let kept = store.get::<Piece>(id)?;
        store.change(id, revision, Piece { name, ..kept.value })
    };
    workspace.with(rename).await.map(|kept| Json(kept.into()))
}

/// Change a piece.
#[utoipa::path(put, path = "/pieces/{id}", operation_id = "change_piece", tag = "piece", params(SeenRevision),
    responses((status = OK, body = PieceKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(piece): Json<Piece>,
) -> Answer<PieceKept> {
    piece.check()?;
    workspace.with(move |store| store.change(id, revision, piece)).await.map(|kept| Json(kept.into()))
}

/// Delete a piece; undo restores it. The last one cannot be deleted.
#[utoipa::path(delete, path = "/pieces/{id}", operation_id = "remove_piece",
    tag = "piece", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    let remove = move |store: &mut Store| {
        if store.all::<Piece>()?.iter().all(|kept| kept.id == id) {
            let words = "this is the only piece; add another before deleting it";
            return Err(Problem::field("/id", words));
        }
        store.remove::<Piece>(id, revision)?;
        Ok(StatusCode::NO_CONTENT)
    };
    workspace.with(remove).await
}

/// Choices for pieces: kinds with their dimensions, signs of age.
#[utoipa::path(get, path = "/piece/choices", operation_id = "list_piece_choices",
    tag = "piece", params(UnitsAsked),
    responses((status = OK, body = PieceChoices)))]
pub async fn choices(Query(UnitsAsked { units }): Query<UnitsAsked>) -> Answer<PieceChoices> {
    Ok(Json(PieceChoices::all(units)))
}
