//! Choices for the whole workshop.

use axum::extract::State;
use warm_blend_learn::ShelfPaint;
use warm_blend_workshop::{WorkshopEntry, WorkshopKept};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    problem::Problem,
    shelf_cache::workshop,
    wire::SeenRevision,
};

/// Settings of the workshop.
#[utoipa::path(get, path = "/workshop", operation_id = "get_workshop", tag = "workspace",
    responses((status = OK, body = WorkshopKept)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<WorkshopKept> {
    workspace.ask(|shelf| Ok(WorkshopKept::of(&shelf.workshop, shelf.tins_ever()))).await
}

/// Change the settings: house white, available measures, currency.
#[utoipa::path(put, path = "/workshop", operation_id = "change_workshop",
    tag = "workspace", params(SeenRevision),
    responses((status = OK, body = WorkshopKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(entry): Json<WorkshopEntry>,
) -> Answer<WorkshopKept> {
    let (kept, shelf) = workspace
        .with_shelf(move |store| {
            let white = entry.house_white.map(|white| store.get::<ShelfPaint>(white.0)).transpose()?;
            let before = workshop(store)?;
            let next = entry.over(before.value, white.as_ref())?;
            Ok::<_, Problem>(store.change(before.id, revision, next)?)
        })
        .await?;
    Ok(Json(WorkshopKept::of(&kept, shelf.tins_ever())))
}
