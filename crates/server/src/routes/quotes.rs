//! Quotes for pieces that do not exist yet, the client's yes, and what became of them.

use std::sync::Arc;

use axum::{extract::State, http::StatusCode, response::Response};
use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Look, Units};
use warm_blend_piece::{Piece, Quote};
use warm_blend_plan::{Paces, RunSheet};
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{
    Accepted, BrushesNow, JobEstimate, OnTheBench, PieceKept, QuoteAsked, QuoteCompared, QuoteView,
    QuotesView, Refusal, WhenAsked, quote_of, scheme_of,
};

use super::{
    piece::{Around, Shown, Worn, take},
    plans::begun,
};
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::{Asking, off_thread},
    problem::Problem,
    shelf_cache::workshop,
    wire::{SchemeAsked, SeenRevision, ShadingAsked, UnitsAsked, ViewAsked},
};

/// Ids that the piece and the boards of a quote have until they are saved.
const PIECE: Uuid = Uuid::from_u128(1);
const BOARDS: [Uuid; 2] = [Uuid::from_u128(2), Uuid::from_u128(3)];

/// A quote with everything it is planned with.
struct Quoting {
    asked: QuoteAsked,
    piece: Piece,
    boards: Vec<Board>,
    around: Around,
    bench: Vec<(Kept<Piece>, RunSheet)>,
    sheet: RunSheet,
    workshop: Kept<Workshop>,
    when: WhenAsked,
}

impl Quoting {
    async fn of(workspace: &Workspace, asked: QuoteAsked, units: Units) -> Result<Self, Problem> {
        let read = |store: &mut Store| {
            let made = (store.all::<RunSheet>()?, store.all::<PourRecord>()?);
            Ok::<_, StoreError>((store.all::<Piece>()?, made, workshop(store)?))
        };
        let ((pieces, (sheets, pours), workshop), mut around) = Around::and(workspace, read).await?;
        let boards = around.shelf().quoted_boards(&asked)?;
        let piece = asked.piece(&BOARDS[..boards.len()])?;
        around.add(BOARDS.into_iter().zip(boards.iter().cloned()));
        let paces = Paces::learned(sheets.iter().flat_map(|kept| &kept.value.done));
        let sheet = begun(PIECE, &sheets, workshop.value.terms.rates);
        let on_it = |piece: Kept<Piece>| {
            let sheet = sheets.iter().find(|kept| kept.value.piece == piece.id)?.value.clone();
            Some((piece, sheet))
        };
        let bench = pieces.into_iter().filter_map(on_it).collect();
        let when = WhenAsked { now: Timestamp::now(), paces, units, pours, brushes: BrushesNow::default() };
        Ok(Self { asked, piece, boards, around, bench, sheet, workshop, when })
    }

    fn estimate(&self) -> Result<JobEstimate, Refusal> {
        let own = OnTheBench { id: PIECE, piece: &self.piece, sheet: &self.sheet };
        let others =
            self.bench.iter().map(|(piece, sheet)| OnTheBench { id: piece.id, piece: &piece.value, sheet });
        let bench: Vec<OnTheBench> = others.chain([own]).collect();
        self.around.room(Look::default()).plan(&bench, PIECE, &self.when)?.estimate()
    }
}

impl Quoting {
    /// Saves the piece with its boards and its quote, and makes it the current one.
    fn keep(&self, store: &mut Store, quote: Quote) -> Result<Kept<Piece>, Problem> {
        let workshop = workshop(store)?;
        store.together_or(|batch| {
            let made = self.boards.iter().map(|board| Ok(batch.make(board.clone())?.id));
            let boards = made.collect::<Result<Vec<Uuid>, StoreError>>()?;
            let kept = batch.make(Piece { quote: Some(quote), ..self.asked.piece(&boards)? })?;
            take(batch, workshop, kept.id)?;
            Ok(kept)
        })
    }
}

/// Quote a piece that does not exist yet: hours, days, paint and price. Nothing is saved.
#[utoipa::path(post, path = "/quotes/preview", operation_id = "preview_quote", tag = "piece", params(UnitsAsked),
    responses((status = OK, body = QuoteView)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(asked): Json<QuoteAsked>,
) -> Answer<QuoteView> {
    let quoting = Quoting::of(&workspace, asked, units).await?;
    off_thread(move || Ok(quoting.asked.view(&quoting.workshop.value, quoting.estimate()?, units)))
        .await
        .map(Json)
}

/// Draw a piece that is quoted, in its finishes. Nothing is saved.
#[utoipa::path(post, path = "/quotes/picture", operation_id = "draw_quote", tag = "piece",
    params(Look, SchemeAsked, ViewAsked, ShadingAsked),
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<SchemeAsked>,
    Query(seen): Query<ViewAsked>,
    Query(lit): Query<ShadingAsked>,
    Json(asked): Json<QuoteAsked>,
) -> Result<Response, Problem> {
    let (shown, shading) = (Shown::of(&seen, of.size())?, lit.get()?);
    let Quoting { piece, around, .. } = Quoting::of(&workspace, asked, Units::default()).await?;
    let (scheme, pictures) = (scheme_of(&piece, None)?, Arc::clone(&workspace.pictures));
    let draw = move |asking: &Asking| {
        let of = Worn::shaded(&around, &piece, &scheme, look, shading);
        Ok(shown.draw(&pictures, &of, asking)?.to_png())
    };
    workspace.pictures.answer(of.size(), seen.fineness(), draw).await
}

/// Save a quote: its piece, with the boards of its finishes, becomes the current one.
#[utoipa::path(post, path = "/quotes", operation_id = "make_quote", tag = "piece",
    responses((status = CREATED, body = PieceKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Json(asked): Json<QuoteAsked>,
) -> Result<(StatusCode, Json<PieceKept>), Problem> {
    let quoting = Quoting::of(&workspace, asked, Units::default()).await?;
    let (quoting, quote) = off_thread(move || {
        let quote = quote_of(&quoting.workshop.value, &quoting.estimate()?, quoting.when.now)?;
        Ok((quoting, quote))
    })
    .await?;
    let kept = workspace.with(move |store| quoting.keep(store, quote)).await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// Record the client's yes to a quote, in the piece and in the log.
#[utoipa::path(put, path = "/pieces/{id}/quote/accepted", operation_id = "accept_quote", tag = "piece",
    params(SeenRevision),
    responses((status = OK, body = PieceKept)))]
pub async fn accept(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(accepted): Json<Accepted>,
) -> Answer<PieceKept> {
    let accept = move |store: &mut Store| {
        let (piece, note) = accepted.by(id, store.get::<Piece>(id)?.value, Timestamp::now())?;
        Ok::<_, Problem>(store.together(|batch| {
            batch.make(note)?;
            batch.change(id, revision, piece)
        })?)
    };
    workspace.with(accept).await.map(|kept| Json(kept.into()))
}

/// All quotes with what became of them, and what they teach.
#[utoipa::path(get, path = "/quotes", operation_id = "list_quotes", tag = "piece",
    responses((status = OK, body = QuotesView)))]
pub async fn list(State(workspace): State<Workspace>) -> Answer<QuotesView> {
    let read = |store: &mut Store| Ok::<_, StoreError>((store.all::<Piece>()?, store.all::<RunSheet>()?));
    let ((pieces, sheets), around) = Around::and(&workspace, read).await?;
    off_thread(move || {
        let room = around.room(Look::default());
        let compared = |kept: &Kept<Piece>| {
            let sheet = sheets.iter().map(|sheet| &sheet.value).find(|sheet| sheet.piece == kept.id);
            let finished = sheet.is_some_and(|sheet| room.is_finished(&kept.value, sheet));
            QuoteCompared::of(kept, sheet, finished)
        };
        let quoted = pieces.iter().filter(|kept| kept.value.quote.is_some());
        Ok(QuotesView::of(quoted.filter_map(compared).collect(), Timestamp::now()))
    })
    .await
    .map(Json)
}
