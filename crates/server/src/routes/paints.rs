//! The shelf.

use axum::{
    extract::{OriginalUri, State},
    http::StatusCode,
};
use rayon::prelude::*;
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_documents::{Document, Kept};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Look, Name, SavedMix};
use warm_blend_piece::Piece;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{Merge, Paint, PaintEntry, PaintPage, Swatch};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::{Problem, UsedBy},
    shelf_cache::workshop,
    wire::{OrderAsked, PartAsked, PartOfList, Removal, SeenRevision, next_part},
};

/// A tin with the number of mixes that use it.
type Counted = (Kept<ShelfPaint>, usize);

fn counted(store: &Store, kept: Kept<ShelfPaint>) -> Result<Counted, StoreError> {
    let users = store.count_users::<SavedMix>(kept.id)?;
    Ok((kept, users))
}

/// Part of the shelf, and where the next part begins.
fn counted_part(store: &Store, part: &PartAsked) -> Result<(Vec<Counted>, Option<usize>), StoreError> {
    let (part, next) = part.read(store, OrderAsked::default())?;
    let tins = part.into_iter().map(|kept| counted(store, kept));
    Ok((tins.collect::<Result<_, _>>()?, next))
}

/// All paints and mediums on the shelf, in the order in which they were added; long lists in parts.
#[utoipa::path(get, path = "/paints", operation_id = "list_paints", tag = "shelf", params(Look, PartAsked),
    responses((status = OK, body = Vec<Paint>, headers(("Link" = Option<String>, description = "Where the next part is")))))]
pub async fn list(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(part): Query<PartAsked>,
    OriginalUri(asked_at): OriginalUri,
) -> Result<PartOfList<Paint>, Problem> {
    let ((tins, next), shelf) = workspace.with_shelf(move |store| counted_part(store, &part)).await?;
    // Sixty tins take a while, so each is computed separately, on all cores.
    let paints = off_thread(move || {
        tins.par_iter().map(|(tin, used)| Ok(Paint::of(tin, *used, &shelf, look)?)).collect()
    });
    Ok((next_part(&asked_at, next), Json(paints.await?)))
}

/// How a paint is added.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[serde(default)]
pub struct Adding {
    /// Whether a white becomes the house white if the shelf has none.
    may_be_white: bool,
}

/// Add a paint to the shelf.
#[utoipa::path(post, path = "/paints", operation_id = "make_paint", tag = "shelf", params(Look, Adding),
    responses((status = CREATED, body = Paint)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(Adding { may_be_white }): Query<Adding>,
    Json(entry): Json<PaintEntry>,
) -> Result<(StatusCode, Json<Paint>), Problem> {
    let tin = entry.parse()?;
    let now = workspace.shelf().await?;
    let add = move |store: &mut Store| store.together(|batch| now.add_tin(batch, tin, may_be_white));
    let (kept, shelf) = workspace.with_shelf(add).await?;
    Ok((StatusCode::CREATED, Json(Paint::of(&kept, 0, &shelf, look)?)))
}

/// Add the usual mediums that the shelf lacks (glazing liquid, extender, water, clear coat and clear wax), as one step of
/// undo.
#[utoipa::path(post, path = "/paints/usual-mediums", operation_id = "add_usual_mediums", tag = "shelf", params(Look),
    responses((status = CREATED, body = Vec<Paint>)))]
pub async fn usual_mediums(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
) -> Result<(StatusCode, Json<Vec<Paint>>), Problem> {
    let now = workspace.shelf().await?;
    let add = move |store: &mut Store| store.together_or(|batch| now.add_usual_mediums::<_, Problem>(batch));
    let (added, shelf) = workspace.with_shelf(add).await?;
    let paints = added.iter().map(|tin| Ok(Paint::of(tin, 0, &shelf, look)?));
    Ok((StatusCode::CREATED, Json(paints.collect::<Result<_, Problem>>()?)))
}

/// Preview a paint by its entry, before it is saved and before any reading.
#[utoipa::path(post, path = "/paints/preview", operation_id = "preview_paint", tag = "shelf", params(Look),
    responses((status = OK, body = Swatch)))]
pub async fn preview(Query(look): Query<Look>, Json(entry): Json<PaintEntry>) -> Answer<Swatch> {
    Ok(Json(entry.preview(look)?))
}

/// A paint, even if it was deleted from the shelf.
#[utoipa::path(get, path = "/paints/{id}", operation_id = "get_paint", tag = "shelf", params(Look),
    responses((status = OK, body = Paint)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
) -> Answer<Paint> {
    let ((tin, used), shelf) = workspace.with_shelf(move |store| counted(store, store.get(id)?)).await?;
    off_thread(move || Ok(Paint::of(&tin, used, &shelf, look)?)).await.map(Json)
}

/// The page of a paint: every light and state, what is known of it, and the benefit of one more test.
#[utoipa::path(get, path = "/paints/{id}/page", operation_id = "get_paint_page", tag = "shelf", params(Look),
    responses((status = OK, body = PaintPage)))]
pub async fn page(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
) -> Answer<PaintPage> {
    let ((tin, used), shelf) = workspace.with_shelf(move |store| counted(store, store.get(id)?)).await?;
    off_thread(move || Ok(PaintPage::of(&tin, used, &shelf, look)?)).await.map(Json)
}

/// Change the entry of a paint.
#[utoipa::path(put, path = "/paints/{id}", operation_id = "change_paint",
    tag = "shelf", params(Look, SeenRevision),
    responses((status = OK, body = Paint)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(entry): Json<PaintEntry>,
) -> Answer<Paint> {
    let tin = entry.parse()?;
    let ((tin, used), shelf) = workspace
        .with_shelf(move |store| store.change(id, revision, tin).and_then(|kept| counted(store, kept)))
        .await?;
    off_thread(move || Ok(Paint::of(&tin, used, &shelf, look)?)).await.map(Json)
}

/// Delete a paint from the shelf. If a mix uses it, the answer is 409 `in-use` until the deletion is confirmed; the mix
/// keeps it.
#[utoipa::path(delete, path = "/paints/{id}", operation_id = "remove_paint", tag = "shelf", params(Removal),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(Removal { revision, confirmed }): Query<Removal>,
) -> Result<StatusCode, Problem> {
    let remove = move |store: &mut Store| {
        let users = users_of(store, id)?;
        if !users.is_empty() && !confirmed {
            return Err(Problem::in_use(users));
        }
        store.remove::<ShelfPaint>(id, revision)?;
        Ok(StatusCode::NO_CONTENT)
    };
    workspace.with(remove).await
}

/// Mixes, boards and pieces that use a paint.
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

/// Merge two entries of one tin: the one that stays takes over mixes and readings. One step of undo reverses it.
#[utoipa::path(post, path = "/paints/merge", operation_id = "merge_paints", tag = "shelf", params(Look),
    responses((status = OK, body = Paint)))]
pub async fn merge(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(merge): Json<Merge>,
) -> Answer<Paint> {
    let merge = merge.parse()?;
    let ((tin, used), shelf) = workspace
        .with_shelf(move |store| {
            let workshop = workshop(store)?;
            store.together(|batch| merge.carry_out(batch, workshop))?;
            counted(store, store.get(merge.keep)?)
        })
        .await?;
    off_thread(move || Ok(Paint::of(&tin, used, &shelf, look)?)).await.map(Json)
}
