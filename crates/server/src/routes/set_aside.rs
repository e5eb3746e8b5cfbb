//! Unusable entries of an older file.

use axum::{extract::State, http::StatusCode};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_store::SetAside;

use crate::{
    Workspace,
    body::{Answer, Json, Path},
    problem::Problem,
};

/// An unusable entry.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetAsideEntry {
    /// Id.
    id: Uuid,
    /// What is wrong with it, in a sentence.
    words: String,
}

impl From<SetAside> for SetAsideEntry {
    fn from(entry: SetAside) -> Self {
        let words = format!(
            "{} cannot be used, so it is left off every list: {}. Nothing else depends on it.",
            entry.title(),
            entry.why
        );
        Self { id: entry.id, words }
    }
}

/// Unusable entries, for example a mix that refers to a board instead of a paint.
#[utoipa::path(get, path = "/set-aside", operation_id = "list_set_aside", tag = "workspace",
    responses((status = OK, body = Vec<SetAsideEntry>)))]
pub async fn list(State(workspace): State<Workspace>) -> Answer<Vec<SetAsideEntry>> {
    let entries = workspace.with(|store| store.set_aside()).await?;
    Ok(Json(entries.into_iter().map(SetAsideEntry::from).collect()))
}

/// Permanently delete an unusable entry.
#[utoipa::path(delete, path = "/set-aside/{id}", operation_id = "delete_set_aside", tag = "workspace",
    responses((status = NO_CONTENT)))]
pub async fn delete(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.delete_set_aside(id)).await?;
    Ok(StatusCode::NO_CONTENT)
}
