//! Guidance: the first hour, the terms of the trade, and how a colour is found by eye.

use axum::extract::State;
use jiff::Timestamp;
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{FirstHour, MadeSoFar, NamedColour, Neighbour, NeighboursAsked, TermView, chart};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    off_thread::off_thread,
};

/// The steps of the first hour, with what is done.
#[utoipa::path(get, path = "/first-hour", operation_id = "get_first_hour", tag = "guide",
    responses((status = OK, body = FirstHour)))]
pub async fn first_hour(State(workspace): State<Workspace>) -> Answer<FirstHour> {
    let (made, shelf) = workspace.with_shelf(made_so_far).await?;
    Ok(Json(FirstHour::of(&shelf, made, Timestamp::now())))
}

fn made_so_far(store: &mut Store) -> Result<MadeSoFar, StoreError> {
    let boards = store.all::<Board>()?.len();
    Ok(MadeSoFar::of(&store.all()?, boards, &store.all()?, &store.all()?))
}

/// A paint to explain terms with.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ExplainedWith {
    /// The paint; the most vivid dark one of the shelf if left out, or if it is a medium.
    paint: Option<Uuid>,
}

/// Terms of the trade, each in two sentences and a picture made from the paints on the shelf.
#[utoipa::path(get, path = "/terms", operation_id = "list_terms", tag = "guide", params(ExplainedWith),
    responses((status = OK, body = Vec<TermView>)))]
pub async fn terms(
    State(workspace): State<Workspace>,
    Query(ExplainedWith { paint }): Query<ExplainedWith>,
) -> Answer<Vec<TermView>> {
    let shelf = workspace.shelf().await?;
    off_thread(move || Ok(shelf.terms(paint)?)).await.map(Json)
}

/// A chart of common colour names, to start a tin from.
#[utoipa::path(get, path = "/chart", operation_id = "get_chart", tag = "guide",
    responses((status = OK, body = Vec<NamedColour>)))]
pub async fn colour_chart() -> Json<Vec<NamedColour>> {
    Json(chart())
}

/// Colours around one, to approach a tin by eye.
#[utoipa::path(get, path = "/neighbours", operation_id = "get_neighbours", tag = "guide", params(NeighboursAsked),
    responses((status = OK, body = Vec<Neighbour>)))]
pub async fn neighbours(Query(asked): Query<NeighboursAsked>) -> Answer<Vec<Neighbour>> {
    Ok(Json(asked.neighbours()?))
}
