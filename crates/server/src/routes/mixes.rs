//! Mixes of tins on the shelf.

use axum::{
    extract::{OriginalUri, State},
    http::StatusCode,
};
use rayon::prelude::*;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_paint::{Look, SavedMix};
use warm_blend_store::Store;
use warm_blend_workshop::{Mix, MixEntry, MixReasons, MixtureWanted, Prediction, Refusal, mix_of_parts};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    wire::{OrderAsked, PartAsked, PartOfList, SeenRevision, next_part},
};

/// All mixes, in the order in which they were created; long lists in parts.
#[utoipa::path(get, path = "/mixes", operation_id = "list_mixes",
    tag = "pot", params(Look, PartAsked, OrderAsked),
    responses((status = OK, body = Vec<Mix>, headers(("Link" = Option<String>, description = "Where the next part is")))))]
pub async fn list(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(part): Query<PartAsked>,
    Query(order): Query<OrderAsked>,
    OriginalUri(asked_at): OriginalUri,
) -> Result<PartOfList<Mix>, Problem> {
    let ((mixes, next), shelf) =
        workspace.with_shelf(move |store| part.read::<SavedMix>(store, order)).await?;
    let mix = move |kept: Kept<SavedMix>| Mix::of(kept, &shelf, look);
    let mixes = off_thread(move || Ok(mixes.into_par_iter().map(mix).collect::<Result<_, Refusal>>()?));
    Ok((next_part(&asked_at, next), Json(mixes.await?)))
}

/// Create a mix.
#[utoipa::path(post, path = "/mixes", operation_id = "make_mix", tag = "pot", params(Look),
    responses((status = CREATED, body = Mix)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(entry): Json<MixEntry>,
) -> Result<(StatusCode, Json<Mix>), Problem> {
    let mix = entry.parse()?;
    let (kept, shelf) = workspace.with_shelf(|store| store.make(mix)).await?;
    let mix = off_thread(move || Ok(Mix::of(kept, &shelf, look)?)).await?;
    Ok((StatusCode::CREATED, Json(mix)))
}

/// The existing mix of these parts, or a new one, to take up a pot found elsewhere.
#[utoipa::path(post, path = "/mixes/of-parts", operation_id = "mix_of_parts", tag = "pot", params(Look),
    responses((status = OK, body = Mix)))]
pub async fn of_parts(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(entry): Json<MixEntry>,
) -> Answer<Mix> {
    let mix = entry.parse()?;
    let find = |store: &mut Store| store.together(|batch| mix_of_parts(batch, mix));
    let (kept, shelf) = workspace.with_shelf(find).await?;
    off_thread(move || Ok(Mix::of(kept, &shelf, look)?)).await.map(Json)
}

/// Predict a mix of the shelf; nothing is saved.
#[utoipa::path(post, path = "/mixes/preview", operation_id = "preview_mix", tag = "pot", params(Look),
    responses((status = OK, body = Prediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(entry): Json<MixEntry>,
) -> Answer<Prediction> {
    let mix = entry.parse()?;
    let (mix, shelf) = workspace.with_shelf(|store| store.verify_references(&mix).map(|()| mix)).await?;
    off_thread(move || Ok(shelf.predict(&mix, look)?)).await.map(Json)
}

/// What the prediction of a mix rests on; null for an empty pot.
#[utoipa::path(post, path = "/mixes/why", operation_id = "explain_mix", tag = "pot", params(Look),
    responses((status = OK, body = Option<MixReasons>)))]
pub async fn why(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(entry): Json<MixEntry>,
) -> Answer<Option<MixReasons>> {
    let mix = entry.parse()?;
    let (mix, shelf) = workspace.with_shelf(|store| store.verify_references(&mix).map(|()| mix)).await?;
    off_thread(move || Ok(shelf.reasons(&mix, look)?)).await.map(Json)
}

/// A mix.
#[utoipa::path(get, path = "/mixes/{id}", operation_id = "get_mix", tag = "pot", params(Look),
    responses((status = OK, body = Mix)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
) -> Answer<Mix> {
    let (kept, shelf) = workspace.with_shelf(move |store| store.get(id)).await?;
    off_thread(move || Ok(Mix::of(kept, &shelf, look)?)).await.map(Json)
}

/// Change a mix.
#[utoipa::path(put, path = "/mixes/{id}", operation_id = "change_mix", tag = "pot", params(Look, SeenRevision),
    responses((status = OK, body = Mix)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(entry): Json<MixEntry>,
) -> Answer<Mix> {
    let mix = entry.parse()?;
    let (kept, shelf) = workspace.with_shelf(move |store| store.change(id, revision, mix)).await?;
    off_thread(move || Ok(Mix::of(kept, &shelf, look)?)).await.map(Json)
}

/// Delete a mix; undo restores it.
#[utoipa::path(delete, path = "/mixes/{id}", operation_id = "remove_mix", tag = "pot", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<SavedMix>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Make a saved mix into a usual mixture, adding mediums that the shelf lacks, as one step of undo.
#[utoipa::path(post, path = "/mixes/{id}/make-into", operation_id = "make_mix_into",
    tag = "pot", params(Look, SeenRevision),
    responses((status = OK, body = Mix)))]
pub async fn make_into(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(wanted): Json<MixtureWanted>,
) -> Answer<Mix> {
    let now = workspace.shelf().await?;
    let (kept, shelf) = workspace
        .with_shelf(move |store| {
            store.together_or(|batch| now.make_mix_into::<_, Problem>(batch, (id, revision), &wanted))
        })
        .await?;
    off_thread(move || Ok(Mix::of(kept, &shelf, look)?)).await.map(Json)
}
