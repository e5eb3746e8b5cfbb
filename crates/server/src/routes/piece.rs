//! The piece at hand.

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_finish::{Name, Piece};
use warm_blend_store::{Kept, Store, StoreError};

use super::paints::Seen;
use crate::Workspace;
use crate::body::{Asked, Body};
use crate::problem::Problem;

/// The piece as the painter calls it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    name: String,
}

/// The piece at hand.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceAtHand {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// What it is called.
    name: String,
}

impl From<Kept<Piece>> for PieceAtHand {
    fn from(kept: Kept<Piece>) -> Self {
        Self { id: kept.id, revision: kept.revision, name: kept.value.name.into() }
    }
}

/// A workspace comes with one piece, so there is always a first.
fn at_hand(store: &Store) -> Result<Kept<Piece>, StoreError> {
    let first = store.all()?.into_iter().next();
    first.ok_or(StoreError::Damaged("there is no piece in it".to_owned()))
}

/// The piece at hand.
#[utoipa::path(get, path = "/piece", operation_id = "get_piece",
    tag = "workspace", responses((status = OK, body = PieceAtHand)))]
pub async fn get(State(workspace): State<Workspace>) -> Result<Json<PieceAtHand>, Problem> {
    workspace.with(|store| at_hand(store)).await.map(|kept| Json(kept.into()))
}

/// Call the piece at hand something else.
#[utoipa::path(put, path = "/piece", operation_id = "change_piece",
    tag = "workspace", params(Seen), request_body = PieceEntry,
    responses((status = OK, body = PieceAtHand), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change(
    State(workspace): State<Workspace>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PieceEntry>,
) -> Result<Json<PieceAtHand>, Problem> {
    let name = Name::new(&entry.name).map_err(|error| Problem::field("/name", error))?;
    let kept = workspace
        .with(move |store| {
            let id = at_hand(store)?.id;
            store.change(id, revision, Piece { name })
        })
        .await?;
    Ok(Json(kept.into()))
}
