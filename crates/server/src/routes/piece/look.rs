//! Appearance of a piece: predicted, drawn, and brought together.

use std::{
    cell::OnceCell,
    collections::{BTreeMap, BTreeSet},
    sync::Arc,
};

use axum::{
    extract::State,
    http::{HeaderMap, header},
    response::{IntoResponse, Response},
};
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_paint::Look;
use warm_blend_piece::{Elevation, Face, FinishedZone, Piece, Scheme, Searched, View, Zone};
use warm_blend_render::{Closer, Corner, Fineness, Front, Picture, Shading, Viewpoint};
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{
    FinishedPiece, PiecePrediction, PieceReasons, Room, ShelfSnapshot, UnifyFound, UnifyStep, elevation_of,
    not_said, scheme_of,
};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    off_thread::{Asking, line_by_line, off_thread, while_asked},
    pictures::{FlatOf, Photographed, Pictures},
    problem::Problem,
    shelf_cache::Remembered,
    wire::{CloserAsked, SchemeAsked, ShadingAsked, UnitsAsked, ViewAsked},
};

/// Documents that the look of a piece depends on.
pub struct Around {
    boards: BTreeMap<Uuid, Board>,
    shelf: Arc<Remembered>,
}

impl Around {
    pub(super) async fn of(workspace: &Workspace) -> Result<Self, Problem> {
        Self::and(workspace, |_| Ok(())).await.map(|((), around)| around)
    }

    /// Reads something else at the same moment.
    pub async fn and<R: Send + 'static>(
        workspace: &Workspace,
        read: impl FnOnce(&mut Store) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<(R, Self), Problem> {
        let both = |store: &mut Store| Ok::<_, StoreError>((read(store)?, store.all_ever::<Board>()?));
        let ((read, boards), shelf) = workspace.with_shelf(both).await?;
        let boards = boards.into_iter().map(|kept| (kept.id, kept.value)).collect();
        Ok((read, Self { boards, shelf }))
    }

    pub fn shelf(&self) -> &ShelfSnapshot {
        &self.shelf
    }

    /// Adds boards that are not saved.
    pub fn add(&mut self, boards: impl Iterator<Item = (Uuid, Board)>) {
        self.boards.extend(boards);
    }

    pub fn room(&self, look: Look) -> Room<'_> {
        Room { boards: &self.boards, shelf: &self.shelf, look }
    }
}

/// Predict a piece; nothing is saved.
#[utoipa::path(post, path = "/piece/preview", operation_id = "preview_piece",
    tag = "piece", params(Look, SchemeAsked, UnitsAsked),
    responses((status = OK, body = PiecePrediction)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(piece): Json<Piece>,
) -> Answer<PiecePrediction> {
    piece.check()?;
    let scheme = scheme_of(&piece, of.scheme)?;
    let around = Around::of(&workspace).await?;
    off_thread(move || Ok(around.room(look).predict(&piece, &scheme, of.size(), units)?)).await.map(Json)
}

/// How sure the verdict on a piece is, and which paints it hangs on.
#[utoipa::path(post, path = "/piece/why", operation_id = "explain_piece",
    tag = "piece", params(Look, SchemeAsked),
    responses((status = OK, body = PieceReasons)))]
pub async fn why(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    Json(piece): Json<Piece>,
) -> Answer<PieceReasons> {
    piece.check()?;
    let scheme = scheme_of(&piece, of.scheme)?;
    let around = Around::of(&workspace).await?;
    off_thread(move || Ok(around.room(look).piece_reasons(&piece, &scheme)?)).await.map(Json)
}

/// Draw a piece in its finishes, from a face or from a corner; nothing is saved.
#[utoipa::path(post, path = "/piece/picture", operation_id = "draw_piece",
    tag = "piece", params(Look, SchemeAsked, ViewAsked, CloserAsked, ShadingAsked),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    Query(seen): Query<ViewAsked>,
    Query(closer): Query<CloserAsked>,
    Query(lit): Query<ShadingAsked>,
    Json(piece): Json<Piece>,
) -> Result<Response, Problem> {
    let shading = lit.get()?;
    piece.check()?;
    let scheme = scheme_of(&piece, of.scheme)?;
    let (size, fineness) = (of.size(), seen.fineness());
    let shown = Shown { closer: closer.get()?, ..Shown::of(&seen, size)? };
    let around = Around::of(&workspace).await?;
    let pictures = Arc::clone(&workspace.pictures);
    let draw = move |asking: &Asking| {
        let of = Worn::shaded(&around, &piece, &scheme, look, shading);
        Ok(shown.draw(&pictures, &of, asking)?.to_png())
    };
    workspace.pictures.answer(size, fineness, draw).await
}

/// A piece in a scheme, and how it is looked at.
pub(in crate::routes) struct Worn<'a> {
    around: &'a Around,
    pub piece: &'a Piece,
    scheme: &'a Scheme,
    pub look: Look,
    shading: Shading,
    /// Dressed when first needed.
    finished: OnceCell<FinishedPiece>,
}

impl<'a> Worn<'a> {
    /// Without the shading of a lamp: the light is another's.
    pub fn unshaded(around: &'a Around, piece: &'a Piece, scheme: &'a Scheme, look: Look) -> Self {
        Self::shaded(around, piece, scheme, look, Shading::None)
    }

    /// In the light of a lamp, or without one.
    pub fn shaded(
        around: &'a Around,
        piece: &'a Piece,
        scheme: &'a Scheme,
        look: Look,
        shading: Shading,
    ) -> Self {
        Self { around, piece, scheme, look, shading, finished: OnceCell::new() }
    }

    pub fn finished(&self) -> Result<&FinishedPiece, Problem> {
        if self.finished.get().is_none() {
            let finished =
                self.around.room(self.look).dress(self.piece, self.scheme)?.ok_or_else(not_said)?;
            drop(self.finished.set(finished));
        }
        self.finished.get().ok_or_else(Problem::internal)
    }

    /// What the look of every face depends on besides the shelf and what its own zones wear.
    fn around_all(&self) -> Result<Vec<u8>, Problem> {
        let Piece { form, ground, corrections, moved, .. } = self.piece;
        let on = (form, ground, corrections, moved);
        serde_json::to_vec(&(on, &self.scheme.over, &self.around.boards)).map_err(|_| Problem::internal())
    }

    /// What the zones of a face wear.
    fn wears(&self, face: &Face) -> Result<Vec<u8>, Problem> {
        let zones: BTreeSet<Zone> = face.parts.iter().map(|part| part.zone).collect();
        let worn = zones.iter().map(|zone| (self.scheme.dress(*zone), self.scheme.stencil(*zone)));
        serde_json::to_vec(&worn.collect::<Vec<_>>()).map_err(|_| Problem::internal())
    }

    /// Flat pictures of faces, with or without their patterns and with the carving of a photo, as they were if they were drawn before.
    pub fn flats(
        &self,
        pictures: &Pictures,
        elevation: &Elevation,
        wanted: impl Iterator<Item = (View, bool, (u32, u32))>,
        fineness: Fineness,
        photo: Option<&Photographed>,
        asking: &Asking,
    ) -> Result<Vec<Arc<Picture>>, Problem> {
        let (around, shelf) = (Arc::new(self.around_all()?), self.around.shelf.state());
        let has_patterns = self.scheme.wears.values().any(|finish| finish.stencil.is_some());
        let flat = |(view, patterned, size): (View, bool, (u32, u32))| {
            let face = elevation.face(view).ok_or_else(not_said)?;
            let (look, shading, wears) = (self.look, self.shading, self.wears(face)?);
            let patterned = patterned || !has_patterns;
            // Without its patterns a face is seen round edges only.
            let fineness = if patterned { fineness } else { Fineness::Quick };
            let carved_as = photo.map(|photo| photo.of.clone());
            let around = Arc::clone(&around);
            let known =
                FlatOf { around, wears, shelf, look, shading, view, patterned, size, fineness, carved_as };
            pictures.flats.get(known, || {
                asking.still()?;
                let front = pictures.fronts.front(elevation, view, size, Closer::WHOLE, fineness, photo)?;
                asking.still()?;
                self.flat(&front, patterned)
            })
        };
        wanted.map(flat).collect()
    }

    /// Draws a face, with or without its patterns.
    fn flat(&self, front: &Front, patterned: bool) -> Result<Picture, Problem> {
        let dressed = &self.finished()?.dressed;
        let draw = |dressed| front.draw(dressed, self.look.light, self.look.state, self.shading);
        if patterned {
            return Ok(draw(dressed));
        }
        let plain = |(zone, dressed): (&Zone, &FinishedZone)| {
            (*zone, FinishedZone { stencil: None, ..dressed.clone() })
        };
        Ok(draw(&dressed.iter().map(plain).collect()))
    }
}

/// How a piece is shown.
pub(in crate::routes) struct Shown {
    view: View,
    /// From which corner, in place of the view.
    from: Option<Viewpoint>,
    size: (u32, u32),
    closer: Closer,
    fineness: Fineness,
}

impl Shown {
    /// All of it.
    pub fn of(seen: &ViewAsked, size: (u32, u32)) -> Result<Self, Problem> {
        let (from, fineness) = (seen.viewpoint()?, seen.fineness());
        Ok(Self { view: seen.view, from, size, closer: Closer::WHOLE, fineness })
    }

    /// Draws a piece in its finishes, as long as somebody waits for it.
    pub fn draw(&self, pictures: &Pictures, of: &Worn, asking: &Asking) -> Result<Picture, Problem> {
        let Some(from) = self.from else {
            let elevation = &of.finished()?.elevation;
            asking.still()?;
            let front =
                pictures.fronts.front(elevation, self.view, self.size, self.closer, self.fineness, None)?;
            asking.still()?;
            return of.flat(&front, true);
        };
        let elevation = elevation_of(of.piece)?;
        let corner = Corner::new(&elevation, from, self.size, self.closer, self.fineness)
            .map_err(|error| Problem::field("?width", error))?
            .ok_or_else(not_said)?;
        let flats = of.flats(pictures, &elevation, corner.flats(), self.fineness, None, asking)?;
        asking.still()?;
        Ok(corner.draw(&flats, of.shading))
    }
}

/// Find washes, glazes, waxes and metallics from the shelf that bring every pair of adjoining zones into its window.
/// Closing the request stops the search. With `Accept: application/x-ndjson`, progress is streamed line by line: see
/// `UnifyStep`.
#[utoipa::path(post, path = "/piece/unify", operation_id = "unify_piece",
    tag = "piece", params(Look, SchemeAsked),
    responses((status = OK, content((UnifyFound = "application/json"), (UnifyStep = "application/x-ndjson")))))]
pub async fn find_unifying(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    headers: HeaderMap,
    Json(piece): Json<Piece>,
) -> Result<Response, Problem> {
    piece.check()?;
    let scheme = scheme_of(&piece, of.scheme)?;
    let around = Around::of(&workspace).await?;
    if headers.get(header::ACCEPT).is_some_and(|accept| accept == "application/x-ndjson") {
        return Ok(line_by_line(move |telling| {
            let step = |searched: Searched| telling.line(&UnifyStep { done: searched.done, found: None });
            let found = around.room(look).unify(&piece, &scheme, step)?;
            Ok(UnifyStep { done: 1.0, found: Some(found) })
        }));
    }
    let search =
        while_asked(move |asking| Ok(around.room(look).unify(&piece, &scheme, |_| asking.goes_on())?));
    Ok(Json::<UnifyFound>(search.await?).into_response())
}
