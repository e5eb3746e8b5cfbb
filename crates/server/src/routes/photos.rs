//! Colours out of a photo that holds a white or grey card.

use axum::{
    Json,
    extract::State,
    http::{StatusCode, header},
    response::{IntoResponse, Response},
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_interchange::{LARGEST_PHOTO, hex, kept_photo, photo};
use warm_blend_learn::Measured;
use warm_blend_photo::{Card, PhotoSpot};
use warm_blend_spectral::Lab;

use crate::{
    Workspace,
    body::{Body, IdPath, Raw},
    off_thread::off_thread,
    problem::Problem,
};

/// A photo that is kept while colours are picked from it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoAtHand {
    /// Until the program stops or four others were brought.
    id: Uuid,
    /// Width of what is kept, pixels.
    width: usize,
    /// Height of it.
    height: usize,
}

/// Where the card lies and what is to be picked. Places are in widths of the photo, from the left and from the top.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PickRequest {
    /// `white` or `grey`.
    card: String,
    /// A spot wholly on the card.
    card_at: SpotEntry,
    /// One to sixteen spots to pick.
    spots: Vec<SpotEntry>,
}

/// A round spot.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct SpotEntry {
    /// From the left, in widths of the photo.
    x: f64,
    /// From the top, in widths of the photo.
    y: f64,
    /// Radius, in widths of the photo.
    radius: f64,
}

/// What was picked.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColours {
    /// In the order of the spots.
    colours: Vec<PickedColour>,
    /// What may be wrong with them.
    warnings: Vec<&'static str>,
}

/// One colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColour {
    /// L*, a*, b* in daylight (D65, 2°).
    lab: [f64; 3],
    /// What the screen shows for it.
    hex: String,
}

impl From<SpotEntry> for PhotoSpot {
    fn from(SpotEntry { x, y, radius }: SpotEntry) -> Self {
        Self { x, y, radius }
    }
}

/// Bring a photo (JPEG, PNG or WebP, at most 40 MB): its bytes are the body.
#[utoipa::path(post, path = "/photos", operation_id = "bring_photo", tag = "readings",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = CREATED, body = PhotoAtHand)))]
pub async fn bring(
    State(workspace): State<Workspace>,
    Raw(bytes, place): Raw<LARGEST_PHOTO>,
) -> Result<(StatusCode, Json<PhotoAtHand>), Problem> {
    let read = move || photo(&bytes).map_err(|error| Problem::field("/photo", error));
    let decoded = workspace.heavy.photo(read).await?;
    drop(place);
    let (width, height) = decoded.size();
    let id = workspace.photos.keep(decoded);
    Ok((StatusCode::CREATED, Json(PhotoAtHand { id, width, height })))
}

/// A photo that stays.
#[derive(Debug, Serialize, ToSchema)]
pub struct PhotoKept {
    /// For good.
    id: Uuid,
}

/// Keep a photo (JPEG, PNG or WebP, at most 40 MB): its bytes are the body. It is kept as JPEG, at most 1600 pixels long, without what
/// the camera wrote beside it.
#[utoipa::path(post, path = "/photos/kept", operation_id = "keep_photo", tag = "workspace",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = CREATED, body = PhotoKept)))]
pub async fn keep(
    State(workspace): State<Workspace>,
    Raw(bytes, place): Raw<LARGEST_PHOTO>,
) -> Result<(StatusCode, Json<PhotoKept>), Problem> {
    let read = move || kept_photo(&bytes).map_err(|error| Problem::field("/photo", error));
    let jpeg = workspace.heavy.photo(read).await?;
    drop(place);
    let id = workspace.with(move |store| store.keep_photo(&jpeg)).await?;
    Ok((StatusCode::CREATED, Json(PhotoKept { id })))
}

/// A photo that was kept.
#[utoipa::path(get, path = "/photos/kept/{id}", operation_id = "get_photo", tag = "workspace",
    params(("id" = Uuid, Path)),
    responses((status = OK, body = Vec<u8>, content_type = "image/jpeg")))]
pub async fn kept(State(workspace): State<Workspace>, IdPath(id): IdPath) -> Result<Response, Problem> {
    let photo = workspace.with(move |store| store.photo(id)).await?;
    let jpeg = photo.ok_or_else(|| Problem::not_found("there is no such photo: bring it again"))?;
    // It never changes.
    let told = [
        (header::CONTENT_TYPE, "image/jpeg"),
        (header::CACHE_CONTROL, "private, max-age=31536000, immutable"),
    ];
    Ok((told, jpeg).into_response())
}

/// Pick colours, weighed by the card.
#[utoipa::path(post, path = "/photos/{id}/pick", operation_id = "pick_colours", tag = "readings",
    params(("id" = Uuid, Path)), request_body = PickRequest,
    responses((status = OK, body = PickedColours)))]
pub async fn pick(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Body(asked): Body<PickRequest>,
) -> Result<Json<PickedColours>, Problem> {
    let photo = workspace
        .photos
        .get(id)
        .ok_or_else(|| Problem::not_found("this photo is no longer at hand: choose it again"))?;
    let card = match asked.card.as_str() {
        "white" => Card::White,
        "grey" => Card::Grey,
        _ => return Err(Problem::field("/card", "say which card is in the photo: white or grey")),
    };
    if asked.spots.is_empty() || asked.spots.len() > 16 {
        return Err(Problem::field("/spots", "pick one to sixteen spots"));
    }
    let spots: Vec<PhotoSpot> = asked.spots.into_iter().map(PhotoSpot::from).collect();
    let picked = off_thread(move || {
        photo.pick(card, asked.card_at.into(), &spots).map_err(|error| Problem::field("/card_at", error))
    })
    .await?;
    let colour = |lab: Lab| PickedColour { lab: [lab.l, lab.a, lab.b], hex: hex(&Measured::Colour(lab)) };
    Ok(Json(PickedColours {
        colours: picked.colours.into_iter().map(colour).collect(),
        warnings: picked.warnings,
    }))
}
