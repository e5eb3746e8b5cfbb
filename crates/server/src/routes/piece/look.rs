//! The piece as it would look: predicted, drawn, and brought together.

use std::{collections::BTreeMap, sync::Arc};

use axum::{
    extract::State,
    http::{HeaderMap, header},
    response::{IntoResponse, Response},
};
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_paint::Look;
use warm_blend_piece::{FinishedZone, Piece, Searched, Zone};
use warm_blend_render::{Front, Shading};
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{PiecePrediction, Room, UnifyFound, UnifyStep, not_said, scheme_of};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    off_thread::{Asking, line_by_line, off_thread, while_asked},
    problem::Problem,
    shelf_cache::Remembered,
    wire::{SchemeAsked, ShadingAsked, UnitsAsked, ViewAsked},
};

/// What a piece is looked at among.
pub struct Around {
    boards: BTreeMap<Uuid, Board>,
    shelf: Arc<Remembered>,
}

impl Around {
    async fn of(workspace: &Workspace) -> Result<Self, Problem> {
        Self::and(workspace, |_| Ok(())).await.map(|((), around)| around)
    }

    /// The same with what else is read at that moment.
    pub async fn and<R: Send + 'static>(
        workspace: &Workspace,
        read: impl FnOnce(&mut Store) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<(R, Self), Problem> {
        let both = |store: &mut Store| Ok::<_, StoreError>((read(store)?, store.all_ever::<Board>()?));
        let ((read, boards), shelf) = workspace.with_shelf(both).await?;
        let boards = boards.into_iter().map(|kept| (kept.id, kept.value)).collect();
        Ok((read, Self { boards, shelf }))
    }

    pub fn room(&self, look: Look) -> Room<'_> {
        Room { boards: &self.boards, shelf: &self.shelf, look }
    }
}

/// What a piece would look like; nothing is kept.
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

/// A piece in what it wears, as a picture; nothing is kept.
#[utoipa::path(post, path = "/piece/picture", operation_id = "draw_piece",
    tag = "piece", params(Look, SchemeAsked, ViewAsked, ShadingAsked),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    Query(seen): Query<ViewAsked>,
    Query(lit): Query<ShadingAsked>,
    Json(piece): Json<Piece>,
) -> Result<Response, Problem> {
    let shading = lit.get()?;
    piece.check()?;
    let scheme = scheme_of(&piece, of.scheme)?;
    let (view, closer, fineness) = (seen.view, seen.closer()?, seen.fineness());
    let around = Around::of(&workspace).await?;
    let (pictures, size) = (Arc::clone(&workspace.pictures), of.size());
    let draw = move |asking: &Asking| {
        let worn = around.room(look).dress(&piece, &scheme)?.ok_or_else(not_said)?;
        asking.still()?;
        let front = pictures.fronts.of(&worn.elevation, view, size, closer, fineness)?;
        front_as_png(&front, &worn.dressed, look, shading, asking)
    };
    workspace.pictures.answer(size, fineness, draw).await
}

/// Drawn and written, as long as somebody waits for it.
fn front_as_png(
    front: &Front,
    dressed: &BTreeMap<Zone, FinishedZone>,
    look: Look,
    shading: Shading,
    asking: &Asking,
) -> Result<Vec<u8>, Problem> {
    asking.still()?;
    let drawn = front.draw(dressed, look.light, look.state, shading);
    asking.still()?;
    Ok(drawn.to_png())
}

/// Washes, glazes, waxes and metallics from the shelf that bring every pair of neighbours into its window. Leaving off stops the
/// search. To whoever accepts `application/x-ndjson` it is shown line by line how far it is: see `UnifyStep`.
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
