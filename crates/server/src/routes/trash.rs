//! What was deleted lately.

use axum::{extract::State, http::StatusCode};
use jiff::{SignedDuration, Timestamp};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_store::Deleted;

use crate::{
    Workspace,
    body::{Answer, Json, Path},
    kinds::one_and_many,
    problem::Problem,
};

/// How long deleted entries are listed.
const LISTED: SignedDuration = SignedDuration::from_hours(30 * 24);

/// A deleted entry.
#[derive(Debug, Serialize, ToSchema)]
pub struct TrashEntry {
    /// Id.
    id: Uuid,
    /// `mix` …
    kind: &'static str,
    /// Its name, or else what the log says of it.
    words: String,
    /// When it was deleted (RFC 3339).
    at: String,
}

impl From<Deleted> for TrashEntry {
    fn from(Deleted { id, kind, words, at }: Deleted) -> Self {
        Self { id, kind: one_and_many(&kind).0, words, at: at.to_string() }
    }
}

/// Entries that were deleted in the last 30 days, the latest first.
#[utoipa::path(get, path = "/trash", operation_id = "list_trash", tag = "workspace",
    responses((status = OK, body = Vec<TrashEntry>)))]
pub async fn list(State(workspace): State<Workspace>) -> Answer<Vec<TrashEntry>> {
    let deleted = workspace.with(|store| store.deleted_since(Timestamp::now() - LISTED)).await?;
    Ok(Json(deleted.into_iter().map(TrashEntry::from).collect()))
}

/// Bring a deleted entry back, as one step of undo.
#[utoipa::path(post, path = "/trash/{id}", operation_id = "bring_back", tag = "workspace",
    responses((status = NO_CONTENT)))]
pub async fn bring_back(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.together(|batch| batch.bring_back(id))).await?;
    Ok(StatusCode::NO_CONTENT)
}
