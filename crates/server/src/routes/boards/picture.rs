//! Strips as pictures.

use std::sync::Arc;

use axum::{
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use serde::Deserialize;
use utoipa::IntoParams;
use warm_blend_board::{Board, Letter};
use warm_blend_piece::Mark;
use warm_blend_render::{Coats, Relief, Shading, draw};

use super::{StripAsked, entry::BoardEntry, told::OnTheEasel};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    colour::{Look, LookedAt},
    known::Known,
    lately::Lately,
    off_thread::off_thread,
    problem::Problem,
};

/// How to draw.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct DrawnAs {
    /// Pixels across, 48 to 4096; 1200 if left out.
    width: Option<u32>,
    /// Pixels down, 48 to 4096; 800 if left out.
    height: Option<u32>,
    /// `soft` (as when left out): the relief is shaded; `none`: not, so that colours can be judged.
    shading: Option<String>,
    /// True where all strips are drawn side by side.
    #[serde(default)]
    all: bool,
}

/// A strip, or all of them side by side, as a picture; nothing is kept.
#[utoipa::path(post, path = "/boards/picture", operation_id = "draw_board",
    tag = "board", params(LookedAt, StripAsked, DrawnAs), request_body = BoardEntry,
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(strip): Asked<StripAsked>,
    Asked(drawn): Asked<DrawnAs>,
    Body(entry): Body<BoardEntry>,
) -> Result<Response, Problem> {
    let (look, board) = (asked.get()?, entry.parse()?);
    let ((), known) = workspace.with_known(|_| Ok(())).await?;
    drawn_on(workspace.plates, board, known, look, strip, drawn).await
}

/// A strip of a kept board, or all of them side by side, as a picture: for the record, at any size.
#[utoipa::path(get, path = "/boards/{id}/picture", operation_id = "draw_kept_board",
    tag = "board", params(LookedAt, StripAsked, DrawnAs, ("id" = Uuid, Path)),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn kept_picture(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<LookedAt>,
    Asked(strip): Asked<StripAsked>,
    Asked(drawn): Asked<DrawnAs>,
) -> Result<Response, Problem> {
    let look = asked.get()?;
    let (kept, known) = workspace.with_known(move |store| store.get::<Board>(id)).await?;
    drawn_on(workspace.plates, kept.value, known, look, strip, drawn).await
}

async fn drawn_on(
    plates: Plates,
    board: Board,
    known: Arc<Known>,
    look: Look,
    strip: StripAsked,
    drawn: DrawnAs,
) -> Result<Response, Problem> {
    let letter = strip.of(&board)?;
    let shading = match drawn.shading.as_deref() {
        None | Some("soft") => Shading::Soft,
        Some("none") => Shading::None,
        Some(_) => return Err(Problem::field("?shading", "choose soft or none")),
    };
    let png = off_thread(move || {
        let plate = plates.of(drawn.width.unwrap_or(1200), drawn.height.unwrap_or(800))?;
        let easel = OnTheEasel::new(&board, &known, look)?;
        let letters: Vec<Letter> =
            if drawn.all { board.strips().iter().map(|strip| strip.letter).collect() } else { vec![letter] };
        let stacks = letters.iter().map(|letter| easel.stack(*letter)).collect::<Result<Vec<_>, _>>()?;
        let marks: Vec<Vec<Mark>> = letters
            .iter()
            .map(|letter| board.layers(*letter).into_iter().map(|layer| Mark::By(layer.technique)).collect())
            .collect();
        let coats: Vec<Coats> = stacks
            .iter()
            .zip(&marks)
            .map(|(stack, marks)| Coats {
                stack,
                marks,
                layers: strip.layers.unwrap_or(usize::MAX).min(stack.len()),
            })
            .collect();
        Ok(draw(&plate, &coats, look.light, look.state, shading).to_png())
    })
    .await?;
    Ok(answered(png))
}

/// A PNG file as an answer.
pub fn answered(png: Vec<u8>) -> Response {
    ([(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-store")], png).into_response()
}

/// Reliefs of the sizes that were drawn last: a draft's, a screen's, two strips' side by side.
#[derive(Debug, Clone, Default)]
pub struct Plates(Lately<(u32, u32), Relief, 4>);

/// A large picture for the record is made once: its relief is not kept.
pub fn worth_keeping((width, height): (u32, u32)) -> bool {
    u64::from(width) * u64::from(height) <= 4_000_000
}

impl Plates {
    /// What the board screen asks for, and its list.
    const USUAL: [(u32, u32); 2] = [(840, 420), (520, 260)];

    /// Makes the reliefs that are asked for first.
    pub fn warm(&self) {
        for (width, height) in Self::USUAL {
            // A usual size is one that can be.
            drop(self.of(width, height));
        }
    }

    fn of(&self, width: u32, height: u32) -> Result<Arc<Relief>, Problem> {
        self.0.get((width, height), worth_keeping((width, height)), || {
            Relief::panelled(width, height).map_err(|error| Problem::field("?width", error))
        })
    }
}
