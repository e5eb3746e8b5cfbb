//! The engine alone: the answer depends only on the request, and nothing is saved.

use warm_blend_workshop::{BoardPredicted, PredictBoardRequest, PredictRequest, Predicted};

use crate::{
    body::{Answer, Json},
    off_thread::off_thread,
};

/// Predict a mix of the given paints; nothing is saved.
#[utoipa::path(post, path = "/predict", tag = "engine", responses((status = OK, body = Predicted)))]
pub async fn predict(Json(request): Json<PredictRequest>) -> Answer<Predicted> {
    // A request with many readings takes a while and must not delay others.
    off_thread(move || Ok(request.answer()?)).await.map(Json)
}

/// Predict a strip of layers from the given paints, by a hand learned from the given boards; nothing is saved.
#[utoipa::path(post, path = "/predict/board", operation_id = "predict_board", tag = "engine",
    responses((status = OK, body = BoardPredicted)))]
pub async fn predict_board(Json(request): Json<PredictBoardRequest>) -> Answer<BoardPredicted> {
    off_thread(move || Ok(request.answer()?)).await.map(Json)
}
