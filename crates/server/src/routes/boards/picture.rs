//! Pictures of strips.

use std::sync::Arc;

use axum::{extract::State, response::Response};
use uuid::Uuid;
use warm_blend_board::{Board, Letter};
use warm_blend_paint::Look;
use warm_blend_piece::Mark;
use warm_blend_render::{self as render, Closer, Coats, Shading};
use warm_blend_workshop::{SeenBoard, strip_of};

use crate::{
    Workspace,
    body::{Json, Path, Query},
    off_thread::Asking,
    pictures::Pictures,
    problem::Problem,
    shelf_cache::Remembered,
    wire::{CloserAsked, DrawnAs, ShadingAsked, StripAsked},
};

/// Draw a strip, or all of them side by side; nothing is saved.
#[utoipa::path(post, path = "/boards/picture", operation_id = "draw_board",
    tag = "board", params(Look, StripAsked, DrawnAs, CloserAsked, ShadingAsked),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(strip): Query<StripAsked>,
    Query(drawn): Query<DrawnAs>,
    Query(closer): Query<CloserAsked>,
    Query(lit): Query<ShadingAsked>,
    Json(board): Json<Board>,
) -> Result<Response, Problem> {
    let view = BoardView { drawn, closer: closer.get()?, shading: lit.get()? };
    board.check()?;
    let shelf = workspace.shelf().await?;
    drawn_on(workspace.pictures, board, shelf, look, strip, view).await
}

/// A picture of a strip of a saved board, or of all strips side by side, at any size.
#[utoipa::path(get, path = "/boards/{id}/picture", operation_id = "draw_kept_board",
    tag = "board", params(Look, StripAsked, DrawnAs, CloserAsked, ShadingAsked),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn kept_picture(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(strip): Query<StripAsked>,
    Query(drawn): Query<DrawnAs>,
    Query(closer): Query<CloserAsked>,
    Query(lit): Query<ShadingAsked>,
) -> Result<Response, Problem> {
    let view = BoardView { drawn, closer: closer.get()?, shading: lit.get()? };
    let (kept, shelf) = workspace.with_shelf(move |store| store.get::<Board>(id)).await?;
    drawn_on(workspace.pictures, kept.value, shelf, look, strip, view).await
}

/// How boards are looked at.
struct BoardView {
    drawn: DrawnAs,
    closer: Closer,
    shading: Shading,
}

async fn drawn_on(
    pictures: Arc<Pictures>,
    board: Board,
    shelf: Arc<Remembered>,
    look: Look,
    StripAsked { strip, layers }: StripAsked,
    BoardView { drawn, closer, shading }: BoardView,
) -> Result<Response, Problem> {
    let letter = strip_of(&board, strip)?;
    let (here, size, fineness) = (Arc::clone(&pictures), drawn.size(), drawn.fineness());
    let draw = move |asking: &Asking| {
        let plate = here.plates.relief(size, closer, fineness)?;
        let seen = SeenBoard::new(&board, &shelf, look)?;
        let all = board.strips().iter().map(|strip| strip.letter);
        let letters: Vec<Letter> = if drawn.all { all.collect() } else { vec![letter] };
        let mark = |letter: &Letter| board.layers(*letter).into_iter().map(Mark::of);
        let marks: Vec<Vec<Mark>> = letters.iter().map(|letter| mark(letter).collect()).collect();
        let stacks = letters.iter().map(|letter| seen.stack(*letter)).collect::<Result<Vec<_>, _>>()?;
        let on = layers.unwrap_or(usize::MAX);
        let coats = stacks.iter().zip(&marks);
        let coats: Vec<Coats> =
            coats.map(|(stack, marks)| Coats { stack, marks, layers: on.min(stack.len()) }).collect();
        asking.still()?;
        let drawn = render::draw(&plate, &coats, look.light, look.state, shading);
        asking.still()?;
        Ok(drawn.to_png())
    };
    pictures.answer(size, fineness, draw).await
}
