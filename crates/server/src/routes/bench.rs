//! Tools of the mixing bench. Nothing is saved.

use axum::extract::State;
use warm_blend_paint::{Look, MixPart};
use warm_blend_workshop::{
    BatchMeasured, BatchOf, Blend, BlendOf, Corrections, FilmOf, FilmsSeen, Found, Ladder, LadderOf,
    MadeInto, PotToCorrect, PotToShade, PresetChoice, Wanted,
};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    off_thread::while_asked,
};

/// Find the mixes of the shelf that are closest to a colour. Closing the request stops the search.
#[utoipa::path(post, path = "/bench/match", operation_id = "find_mixes", tag = "pot", params(Look),
    responses((status = OK, body = Found)))]
pub async fn find(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(wanted): Json<Wanted>,
) -> Answer<Found> {
    let shelf = workspace.shelf().await?;
    while_asked(move |asking| Ok(shelf.find(&wanted, look, || asking.goes_on())?)).await.map(Json)
}

/// Lighter and darker shades of a colour, as mixes of the shelf.
#[utoipa::path(post, path = "/bench/ladder", operation_id = "make_ladder", tag = "pot", params(Look),
    responses((status = OK, body = Ladder)))]
pub async fn ladder(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<LadderOf>,
) -> Answer<Ladder> {
    workspace.ask(move |shelf| shelf.ladder(&of, look)).await
}

/// Make a pot lighter or darker by a number of shades.
#[utoipa::path(post, path = "/boards/shade", operation_id = "shade_pot", tag = "board", params(Look),
    responses((status = OK, body = Vec<MixPart>)))]
pub async fn shade(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<PotToShade>,
) -> Answer<Vec<MixPart>> {
    workspace.ask(move |shelf| shelf.shade(of, look)).await
}

/// Transitions between colours: where they turn grey or into another hue, what bridges them, which brushes to keep apart.
#[utoipa::path(post, path = "/bench/blend", operation_id = "make_blend", tag = "pot", params(Look),
    responses((status = OK, body = Blend)))]
pub async fn blend(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<BlendOf>,
) -> Answer<Blend> {
    workspace.ask(move |shelf| shelf.blend(&of, look)).await
}

/// Measure a batch in cups, spoons, ounces or millilitres, with the effect of rounding on its colour.
#[utoipa::path(post, path = "/bench/measure", operation_id = "measure_batch", tag = "pot", params(Look),
    responses((status = OK, body = BatchMeasured)))]
pub async fn measure(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<BatchOf>,
) -> Answer<BatchMeasured> {
    workspace.ask(move |shelf| shelf.measure_out(&of, look)).await
}

/// Find what to add to a pot to reach its target. Closing the request stops the search.
#[utoipa::path(post, path = "/bench/correct", operation_id = "correct_pot", tag = "pot", params(Look),
    responses((status = OK, body = Corrections)))]
pub async fn correct(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<PotToCorrect>,
) -> Answer<Corrections> {
    let shelf = workspace.shelf().await?;
    while_asked(move |asking| Ok(shelf.correct(&of, look, || asking.goes_on())?)).await.map(Json)
}

/// The usual mixtures, with the mediums that the shelf lacks.
#[utoipa::path(get, path = "/bench/presets", operation_id = "list_presets", tag = "pot",
    responses((status = OK, body = Vec<PresetChoice>)))]
pub async fn presets(State(workspace): State<Workspace>) -> Answer<Vec<PresetChoice>> {
    workspace.ask(|shelf| Ok(shelf.presets())).await
}

/// Make a pot into a glaze, a wash, a wax …: its paints keep their ratio, and its mediums are replaced.
#[utoipa::path(post, path = "/bench/make-into", operation_id = "make_into", tag = "pot",
    responses((status = OK, body = Vec<MixPart>)))]
pub async fn make_into(
    State(workspace): State<Workspace>,
    Json(wanted): Json<MadeInto>,
) -> Answer<Vec<MixPart>> {
    workspace.ask(move |shelf| shelf.made_into(&wanted)).await
}

/// Films of a pot over a ground, at three places of a carved surface.
#[utoipa::path(post, path = "/bench/film", operation_id = "see_film", tag = "pot", params(Look),
    responses((status = OK, body = FilmsSeen)))]
pub async fn film(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Json(of): Json<FilmOf>,
) -> Answer<FilmsSeen> {
    workspace.ask(move |shelf| shelf.film(&of, look)).await
}
