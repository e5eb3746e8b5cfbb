//! The simulated camera of the demo.

use axum::{
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_sim::{INTERIORS, Interior, SCENES, Scene};

use crate::{
    Workspace,
    body::{Json, Path},
    off_thread::off_thread,
    problem::Problem,
};

/// A camera and the scenes in front of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct CameraView {
    /// Its name; absent if there is only the machine's own camera.
    name: Option<&'static str>,
    /// Scenes.
    scenes: Vec<SceneView>,
}

/// A scene that can be photographed.
#[derive(Debug, Serialize, ToSchema)]
pub struct SceneView {
    /// Stable identifier.
    id: &'static str,
    /// Name.
    name: &'static str,
}

/// The camera and its scenes. `Simulated camera` shows invented finishes, each with a white card.
#[utoipa::path(get, path = "/camera", operation_id = "get_camera", tag = "workspace",
    responses((status = OK, body = CameraView)))]
pub async fn get(State(workspace): State<Workspace>) -> Json<CameraView> {
    let flat = SCENES.iter().map(|Scene { id, name, .. }| SceneView { id, name });
    let rooms = INTERIORS.iter().map(|Interior { id, name, .. }| SceneView { id, name });
    let scenes = if workspace.camera { flat.chain(rooms).collect() } else { Vec::new() };
    Json(CameraView { name: workspace.camera.then_some("Simulated camera"), scenes })
}

/// A photo of a scene.
#[utoipa::path(get, path = "/camera/{scene}", operation_id = "take_picture", tag = "workspace",
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn take(
    State(workspace): State<Workspace>,
    Path(scene): Path<String>,
) -> Result<Response, Problem> {
    if let Some(room) = Interior::find(&scene).filter(|_| workspace.camera) {
        return Ok(([(header::CONTENT_TYPE, "image/jpeg")], room.photo).into_response());
    }
    photo(Scene::find(&scene).filter(|_| workspace.camera)).await
}

/// An example photo: an invented finish with a white card.
#[utoipa::path(get, path = "/example-photo", operation_id = "get_example_photo", tag = "workspace",
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn example() -> Result<Response, Problem> {
    // Shown first and used later, it is drawn once; it contains nothing of a workspace.
    Ok(([(header::CACHE_CONTROL, "private, max-age=3600")], photo(SCENES.first()).await?).into_response())
}

async fn photo(scene: Option<&'static Scene>) -> Result<Response, Problem> {
    let nothing = || Problem::not_found("nothing in front of the camera; choose a photo");
    let scene = scene.ok_or_else(nothing)?;
    let png = off_thread(move || scene.taken().map(|taken| taken.to_png()).ok_or_else(nothing)).await?;
    Ok(([(header::CONTENT_TYPE, "image/png")], png).into_response())
}
