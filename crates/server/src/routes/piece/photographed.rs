//! The finish of a piece on a photo of it.

use std::sync::Arc;

use axum::{extract::State, response::Response};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_interchange::photo as decoded;
use warm_blend_paint::Look;
use warm_blend_photo::Photo;
use warm_blend_piece::{Elevation, MovedPart, Piece, PiecePhoto};
use warm_blend_render::Fineness;
use warm_blend_workshop::{
    PartPlaced, PhotoPoint, PieceOnPhoto, elevation_of, not_said, on_photo, scheme_of, worn,
};

use super::look::{Around, Worn};
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::Asking,
    pictures::{OnPhotoOf, Photographed, Pictures},
    problem::Problem,
    routes::photos::saved_photo,
    wire::{PhotoAsked, SchemeAsked, UnitsAsked, fineness},
};

fn decode(jpeg: &[u8]) -> Result<Photo, Problem> {
    decoded(jpeg).map_err(|error| Problem::field("/photo", error))
}

/// The photo that is asked for, of those of the piece.
fn photo_of(piece: &Piece, n: usize) -> Result<PiecePhoto, Problem> {
    piece
        .photos
        .get(n)
        .cloned()
        .ok_or_else(|| Problem::field("?photo", "no such photo of this piece; add it first"))
}

/// Look at a photo of a piece and the marks on it: a first guess for them, and what is wrong with them. Nothing is saved.
#[utoipa::path(post, path = "/piece/on-photo", operation_id = "look_at_photo_of_piece",
    tag = "piece", params(PhotoAsked, UnitsAsked),
    responses((status = OK, body = PieceOnPhoto)))]
pub async fn look_at_photo(
    State(workspace): State<Workspace>,
    Query(asked): Query<PhotoAsked>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(piece): Json<Piece>,
) -> Answer<PieceOnPhoto> {
    piece.check()?;
    let of = photo_of(&piece, asked.photo)?;
    let jpeg = saved_photo(&workspace, of.photo).await?;
    let look = move || {
        let form = piece.form.ok_or_else(not_said)?;
        let elevation = elevation_of(&piece)?;
        Ok(PieceOnPhoto::of(&decode(&jpeg)?, &form, &elevation, &of, units))
    };
    workspace.heavy.photo(look).await.map(Json)
}

/// The strongest corner near a point of a saved photo, or the point itself.
#[utoipa::path(post, path = "/photos/kept/{id}/snap", operation_id = "snap_to_corner", tag = "piece",
    responses((status = OK, body = PhotoPoint)))]
pub async fn snap(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Json(at): Json<PhotoPoint>,
) -> Answer<PhotoPoint> {
    let jpeg = saved_photo(&workspace, id).await?;
    workspace.heavy.photo(move || Ok(at.snapped(&decode(&jpeg)?))).await.map(Json)
}

/// Where the edges of a part lie in a photo of the piece, as the parts that now lie elsewhere than in the drawing; nothing is saved.
#[utoipa::path(post, path = "/piece/on-photo/part", operation_id = "move_part_on_photo", tag = "piece",
    params(PhotoAsked), responses((status = OK, body = Vec<MovedPart>)))]
pub async fn move_part(
    State(workspace): State<Workspace>,
    Query(asked): Query<PhotoAsked>,
    Json(PartMoved { piece, to }): Json<PartMoved>,
) -> Answer<Vec<MovedPart>> {
    piece.check()?;
    let of = photo_of(&piece, asked.photo)?;
    let jpeg = saved_photo(&workspace, of.photo).await?;
    let moved = move || {
        let (width, height) = decode(&jpeg)?.size();
        Ok(to.moved(&piece, &of, height as f64 / width as f64)?)
    };
    workspace.heavy.photo(moved).await.map(Json)
}

/// A piece, and where a part of it belongs.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PartMoved {
    /// The piece.
    piece: Piece,
    /// Where the part belongs.
    to: PartPlaced,
}

/// What is drawn.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PictureOnPhoto {
    /// Width of the picture, 64 to 1600 pixels.
    width: u32,
    /// True to draw the finish finely, but slower.
    #[serde(default)]
    fine: bool,
}

/// Draw a piece in its finish on a photo of it, taken in the light that is given; nothing is saved.
#[utoipa::path(post, path = "/piece/on-photo/picture", operation_id = "draw_piece_on_photo",
    tag = "piece", params(Look, SchemeAsked, PhotoAsked, PictureOnPhoto),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture_on_photo(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(scheme): Query<SchemeAsked>,
    Query(asked): Query<PhotoAsked>,
    Query(drawn): Query<PictureOnPhoto>,
    Json(piece): Json<Piece>,
) -> Result<Response, Problem> {
    piece.check()?;
    let scheme = scheme_of(&piece, scheme.scheme)?;
    let of = photo_of(&piece, asked.photo)?;
    let jpeg = saved_photo(&workspace, of.photo).await?;
    let around = Around::of(&workspace).await?;
    let shown = Shown { pictures: Arc::clone(&workspace.pictures), of, jpeg, drawn };
    let (size, fineness) = (shown.size(), shown.fineness());
    let draw = move |asking: &Asking| shown.draw(&Worn::unshaded(&around, &piece, &scheme, look), asking);
    workspace.pictures.answer(size, fineness, draw).await
}

/// Resolution of a flat picture, as a share of the full one: round edges little is seen, and a quick picture is soon replaced.
fn detail(patterned: bool, fineness: Fineness) -> f64 {
    match (patterned, fineness) {
        (true, Fineness::Fine) => 1.0,
        (true, Fineness::Quick) => 0.6,
        (false, _) => 0.35,
    }
}

fn scaled((width, height): (u32, u32), by: f64) -> (u32, u32) {
    let scaled = |pixels: u32| ((f64::from(pixels) * by).round() as u32).max(48);
    (scaled(width), scaled(height))
}

/// A photo that a piece is shown on.
struct Shown {
    pictures: Arc<Pictures>,
    of: PiecePhoto,
    jpeg: Vec<u8>,
    drawn: PictureOnPhoto,
}

impl Shown {
    fn size(&self) -> (u32, u32) {
        let width = self.drawn.width.clamp(64, 1600);
        (width, width)
    }

    fn fineness(&self) -> Fineness {
        fineness(self.drawn.fine)
    }

    /// The photo, prepared for this piece, as it was if it was prepared before.
    fn prepared(
        &self,
        piece: &Piece,
        elevation: &Elevation,
        asking: &Asking,
    ) -> Result<Photographed, Problem> {
        let (width, _) = self.size();
        let depends = (&self.of, piece.form, &piece.corrections, &piece.moved);
        let marks = serde_json::to_vec(&depends).map_err(|_| Problem::internal())?;
        let of = OnPhotoOf { marks, width };
        let on = self.pictures.on_photos.get(of.clone(), || {
            let photo = decode(&self.jpeg)?;
            asking.still()?;
            Ok::<_, Problem>(on_photo(&photo, elevation, &self.of, width)?)
        })?;
        Ok(Photographed { of, on })
    }

    /// The piece on it, a PNG file.
    fn draw(&self, of: &Worn, asking: &Asking) -> Result<Vec<u8>, Problem> {
        let elevation = elevation_of(of.piece)?;
        let photo = self.prepared(of.piece, &elevation, asking)?;
        asking.still()?;
        let fineness = self.fineness();
        let wanted = photo
            .on
            .flats()
            .map(|(view, patterned, size)| (view, patterned, scaled(size, detail(patterned, fineness))));
        let flats = of.flats(&self.pictures, &elevation, wanted, fineness, Some(&photo), asking)?;
        asking.still()?;
        let worn = worn(&of.finished()?.dressed, of.look.state);
        Ok(photo.on.draw(&flats, &worn, of.look.light).to_png())
    }
}
