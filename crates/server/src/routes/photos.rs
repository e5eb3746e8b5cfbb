//! Colours from a photo that includes a white or grey card.

use axum::{
    extract::State,
    http::{StatusCode, header},
    response::{IntoResponse, Response},
};
use jiff::{Timestamp, tz::TimeZone};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_interchange::{LARGEST_PHOTO, kept_photo, photo, photo_as_jpeg, taken};
use warm_blend_paint::Look;
use warm_blend_workshop::{PaletteRequest, PhotoPalette, PickRequest, PickedColours, SpotEntry};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    raw::Raw,
};

/// A photo kept while colours are picked from it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoAtHand {
    /// Id, valid until the program stops or three more photos are uploaded.
    id: Uuid,
    /// Width of the stored photo, pixels.
    width: usize,
    /// Height of the stored photo, pixels.
    height: usize,
    /// Probable position of a white card, for a person to confirm.
    likely_card: Option<SpotEntry>,
}

/// Upload a photo to pick colours from (JPEG, PNG or WebP, at most 40 MB, as the body).
#[utoipa::path(post, path = "/photos", operation_id = "bring_photo",
    tag = "readings", request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = CREATED, body = PhotoAtHand)))]
pub async fn bring(
    State(workspace): State<Workspace>,
    Raw(bytes, place): Raw<LARGEST_PHOTO>,
) -> Result<(StatusCode, Json<PhotoAtHand>), Problem> {
    let read = move || {
        let decoded = photo(&bytes).map_err(|error| Problem::field("/photo", error))?;
        let likely_card = decoded.likely_card().map(SpotEntry::from);
        Ok((decoded, likely_card))
    };
    let (decoded, likely_card) = workspace.heavy.photo(read).await?;
    drop(place);
    let (width, height) = decoded.size();
    let id = workspace.photos.keep(decoded);
    Ok((StatusCode::CREATED, Json(PhotoAtHand { id, width, height, likely_card })))
}

/// A saved photo.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoKept {
    /// Stable identifier.
    id: Uuid,
    /// When it was taken, RFC 3339, assuming that the camera's clock agrees with this machine's; null if unknown or in
    /// the future.
    taken: Option<String>,
}

/// Save a photo (JPEG, PNG or WebP, at most 40 MB, as the body). It is stored as JPEG, at most 1600 pixels long, without
/// the camera's metadata.
#[utoipa::path(post, path = "/photos/kept", operation_id = "keep_photo",
    tag = "workspace", request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = CREATED, body = PhotoKept)))]
pub async fn keep(
    State(workspace): State<Workspace>,
    Raw(bytes, place): Raw<LARGEST_PHOTO>,
) -> Result<(StatusCode, Json<PhotoKept>), Problem> {
    let read = move || {
        let jpeg = kept_photo(&bytes).map_err(|error| Problem::field("/photo", error))?;
        Ok((jpeg, taken(&bytes)))
    };
    let (jpeg, taken) = workspace.heavy.photo(read).await?;
    drop(place);
    let id = workspace.with(move |store| store.keep_photo(&jpeg)).await?;
    let taken = taken.and_then(|taken| taken.to_zoned_datetime(TimeZone::system()).ok());
    let taken = taken.map(|taken| taken.timestamp()).filter(|taken| *taken <= Timestamp::now());
    let taken = taken.map(|taken| taken.to_string());
    Ok((StatusCode::CREATED, Json(PhotoKept { id, taken })))
}

/// Reads a saved photo, a JPEG file.
pub async fn saved_photo(workspace: &Workspace, id: Uuid) -> Result<Vec<u8>, Problem> {
    let jpeg = workspace.with(move |store| store.photo(id)).await?;
    jpeg.ok_or_else(|| Problem::not_found("no such photo; add it again"))
}

/// A saved photo.
#[utoipa::path(get, path = "/photos/kept/{id}", operation_id = "get_photo", tag = "workspace",
    responses((status = OK, body = Vec<u8>, content_type = "image/jpeg")))]
pub async fn kept(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Result<Response, Problem> {
    let jpeg = saved_photo(&workspace, id).await?;
    // It never changes.
    let shown = [
        (header::CONTENT_TYPE, "image/jpeg"),
        (header::CACHE_CONTROL, "private, max-age=31536000, immutable"),
    ];
    Ok((shown, jpeg).into_response())
}

/// An uploaded photo.
#[utoipa::path(get, path = "/photos/{id}", operation_id = "see_photo", tag = "readings",
    responses((status = OK, body = Vec<u8>, content_type = "image/jpeg")))]
pub async fn see(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Result<Response, Problem> {
    let photo = workspace.photos.get(id).ok_or_else(gone)?;
    let jpeg = off_thread(move || photo_as_jpeg(&photo).map_err(|_| Problem::internal())).await?;
    Ok(([(header::CONTENT_TYPE, "image/jpeg"), (header::CACHE_CONTROL, "no-store")], jpeg).into_response())
}

fn gone() -> Problem {
    Problem::not_found("this photo is no longer available; choose it again")
}

/// Pick colours, relative to the card.
#[utoipa::path(post, path = "/photos/{id}/pick", operation_id = "pick_colours", tag = "readings",
    responses((status = OK, body = PickedColours)))]
pub async fn pick(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Json(asked): Json<PickRequest>,
) -> Answer<PickedColours> {
    let photo = workspace.photos.get(id).ok_or_else(gone)?;
    off_thread(move || Ok(asked.pick(&photo)?)).await.map(Json)
}

/// Main colours of a photo by area, relative to the card, with shadow distinguished from paint as far as possible; each
/// with the closest mix and the layer that it would be.
#[utoipa::path(post, path = "/photos/{id}/palette", operation_id = "find_palette",
    tag = "readings", params(Look),
    responses((status = OK, body = PhotoPalette)))]
pub async fn palette(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Json(asked): Json<PaletteRequest>,
) -> Answer<PhotoPalette> {
    let photo = workspace.photos.get(id).ok_or_else(gone)?;
    workspace.ask(move |shelf| shelf.palette(&asked, &photo, look)).await
}
