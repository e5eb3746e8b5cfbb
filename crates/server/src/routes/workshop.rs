//! What is chosen once for the whole workshop.

use axum::{Json, extract::State};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Currency, PaintId};
use warm_blend_store::{Kept, Store, StoreError};
use warm_blend_workshop::Workshop;

use super::{bench::measures_of, paints::Seen};
use crate::{
    Workspace,
    body::{Asked, Body},
    known::{house_white, workshop},
    problem::Problem,
};

/// The choices.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct WorkshopEntry {
    /// The white that tints are made with and strengths are measured against.
    house_white: Option<Uuid>,
    /// The spoons, cups and syringes at hand, such as `tsp` and `cup`; everything when empty.
    #[serde(default)]
    owned: Vec<String>,
    /// What prices and budgets are in, by its ISO 4217 code; plain numbers where none was chosen.
    #[serde(default)]
    currency: Option<String>,
}

/// The choices as they are kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopKept {
    /// To be named when they are changed.
    revision: i64,
    /// The choices.
    entry: WorkshopEntry,
}

impl WorkshopKept {
    fn of(store: &Store, kept: &Kept<Workshop>) -> Result<Self, StoreError> {
        let house_white = house_white(&kept.value, &store.all::<ShelfPaint>()?).map(|paint| paint.0);
        let owned = kept.value.owned.iter().map(|measure| measure.id().to_owned()).collect();
        let currency = kept.value.currency.map(String::from);
        Ok(Self { revision: kept.revision, entry: WorkshopEntry { house_white, owned, currency } })
    }
}

/// What is chosen for the workshop.
#[utoipa::path(get, path = "/workshop", operation_id = "get_workshop",
    tag = "workspace", responses((status = OK, body = WorkshopKept)))]
pub async fn get(State(workspace): State<Workspace>) -> Result<Json<WorkshopKept>, Problem> {
    workspace.with(|store| WorkshopKept::of(store, &workshop(store)?)).await.map(Json)
}

/// Choose the house white, and what there is to measure with.
#[utoipa::path(put, path = "/workshop", operation_id = "change_workshop",
    tag = "workspace", params(Seen), request_body = WorkshopEntry,
    responses((status = OK, body = WorkshopKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(WorkshopEntry { house_white: white, owned, currency }): Body<WorkshopEntry>,
) -> Result<Json<WorkshopKept>, Problem> {
    let owned = measures_of(&owned)?;
    let currency = currency.as_deref().map(Currency::new).transpose();
    let currency = currency.map_err(|error| Problem::field("/currency", error))?;
    if let Some(id) = white {
        let tin = workspace.with(move |store| store.get::<ShelfPaint>(id)).await?;
        if tin.value.class.is_medium() {
            return Err(Problem::field("/house_white", "a medium has no white to it: choose a white paint"));
        }
        if tin.removed {
            return Err(Problem::field(
                "/house_white",
                "this paint is no longer on the shelf: choose one that is",
            ));
        }
    }
    let kept = workspace
        .with(move |store| {
            let Kept { id, value, .. } = workshop(store)?;
            let chosen = Workshop { house_white: white.map(PaintId), owned, currency, ..value };
            let kept = store.change(id, revision, chosen)?;
            WorkshopKept::of(store, &kept)
        })
        .await?;
    Ok(Json(kept))
}
