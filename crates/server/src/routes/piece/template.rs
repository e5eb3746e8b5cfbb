//! Templates of stencils.

use axum::extract::State;
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_piece::{Piece, Zone};
use warm_blend_workshop::{OutlineAsked, OutlineMade, StencilTemplate, template_of};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    wire::UnitsAsked,
};

/// Part of a piece.
#[derive(Debug, Deserialize, IntoParams)]
pub struct ZoneAsked {
    /// `fall` …
    #[param(value_type = String)]
    zone: Zone,
}

/// The template of the stencil on a part, to print at size.
#[utoipa::path(get, path = "/pieces/{id}/template", operation_id = "get_template", tag = "piece",
    params(ZoneAsked, UnitsAsked),
    responses((status = OK, body = StencilTemplate)))]
pub async fn template(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(ZoneAsked { zone }): Query<ZoneAsked>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<StencilTemplate> {
    let piece = workspace.with(move |store| store.get::<Piece>(id)).await?;
    off_thread(move || Ok(template_of(&piece.value, zone, units)?)).await.map(Json)
}

/// Make the outline of a stencil from a drawing or a word. Nothing is saved: the outline becomes part of a pattern.
#[utoipa::path(post, path = "/piece/outline", operation_id = "make_outline", tag = "piece",
    responses((status = OK, body = OutlineMade)))]
pub async fn outline(Json(asked): Json<OutlineAsked>) -> Answer<OutlineMade> {
    off_thread(move || Ok(asked.made()?)).await.map(Json)
}
