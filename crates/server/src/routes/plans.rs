//! Run sheets: planned anew at each request, ticked off step by step.

use axum::{extract::State, response::Response};
use jiff::{Timestamp, tz::TimeZone};
use serde::Deserialize;
use utoipa::IntoParams;
use uuid::Uuid;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{FilmState, Look, Units};
use warm_blend_piece::Piece;
use warm_blend_plan::{BrushRack, Paces, Rates, RunSheet, Spot, WorkingHours};
use warm_blend_spectral::Light;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{
    BrushCounted, BrushesNow, ClockSet, OnTheBench, PieceRecord, Planned, Refusal, RunSheetEntry,
    RunSheetView, SheetChange, SpotMended, StepDone, TouchUp, WashedEntry, WhenAsked, keep_pour,
};

use super::{files::attached, piece::Around};
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    shelf_cache::workshop,
    wire::{SeenRevision, UnitsAsked},
};

/// A piece and its run sheet, with everything they are planned with.
struct Sheet {
    id: Uuid,
    /// Revision of the sheet; 0 if none was saved yet.
    revision: i64,
    sheet: RunSheet,
    /// Every piece that has a sheet, including this one.
    bench: Vec<(Kept<Piece>, RunSheet)>,
    asked: WhenAsked,
    around: Around,
    look: Look,
}

/// Light and units of the response.
#[derive(Debug, Clone, Copy, Default, Deserialize, IntoParams)]
#[serde(default)]
pub struct SaidAs {
    /// Light; by default daylight.
    light: Light,
    /// Wet, dry, sealed or buffed; by default dry.
    state: FilmState,
    /// `metric` (default) or `imperial`.
    #[param(inline)]
    units: Units,
}

/// The saved run sheet of a piece.
fn own(sheets: Vec<Kept<RunSheet>>, piece: Uuid) -> Option<Kept<RunSheet>> {
    sheets.into_iter().find(|kept| kept.value.piece == piece)
}

/// A new run sheet, with the latest settings of the workshop and its rates for new work.
pub fn begun(piece: Uuid, sheets: &[Kept<RunSheet>], rates: Rates) -> RunSheet {
    let last = sheets.last().map(|last| last.value.in_the_same_workshop(piece));
    let sheet = last.unwrap_or_else(|| RunSheet::new(piece, WorkingHours::usual_by(&TimeZone::system())));
    RunSheet { rates: rates.or(sheet.rates), ..sheet }
}

impl Sheet {
    async fn of(workspace: &Workspace, id: Uuid, said: SaidAs) -> Result<Self, Problem> {
        let read = move |store: &mut Store| {
            let mut pieces = store.all::<Piece>()?;
            // A deleted piece can still be viewed.
            if pieces.iter().all(|piece| piece.id != id) {
                pieces.push(store.get(id)?);
            }
            let Workshop { brushes, terms, .. } = workshop(store)?.value;
            let made = (store.all::<RunSheet>()?, store.all::<PourRecord>()?);
            Ok::<_, StoreError>((pieces, made, (brushes, terms.rates)))
        };
        let ((pieces, (sheets, pours), (rack, rates)), around) = Around::and(workspace, read).await?;
        let paces = Paces::learned(sheets.iter().flat_map(|kept| &kept.value.done));
        let of = |piece: Uuid| sheets.iter().find(|kept| kept.value.piece == piece);
        let (revision, sheet) =
            of(id).map_or_else(|| (0, begun(id, &sheets, rates)), |kept| (kept.revision, kept.value.clone()));
        // In order of creation, so that of two pieces due on one day the same one always comes first.
        let on_it = |piece: Kept<Piece>| match piece.id == id {
            true => Some((piece, sheet.clone())),
            false => of(piece.id).map(|kept| (piece, kept.value.clone())),
        };
        let bench = pieces.into_iter().filter_map(on_it).collect();
        let (now, tins) = (Timestamp::now(), |paint| around.shelf().product(paint));
        let unwashed = rack.unwashed(sheets.iter().flat_map(|kept| &kept.value.done), now, &tins);
        let brushes = BrushesNow { rack, unwashed };
        let asked = WhenAsked { now, paces, units: said.units, pours, brushes };
        let look = Look { light: said.light, state: said.state };
        Ok(Self { id, revision, sheet, bench, asked, around, look })
    }

    /// Answers a question about the plan.
    async fn plan<R: Send + 'static>(
        self,
        ask: impl FnOnce(&Planned, &Self) -> Result<R, Refusal> + Send + 'static,
    ) -> Result<R, Problem> {
        off_thread(move || {
            let bench: Vec<OnTheBench> = self
                .bench
                .iter()
                .map(|(piece, sheet)| OnTheBench { id: piece.id, piece: &piece.value, sheet })
                .collect();
            let room = self.around.room(self.look);
            Ok(ask(&room.plan(&bench, self.id, &self.asked)?, &self)?)
        })
        .await
    }

    /// The sheet for display.
    async fn view(self) -> Answer<RunSheetView> {
        self.plan(|planned, sheet| planned.view(sheet.revision)).await.map(Json)
    }
}

/// Saves a sheet over the revision that was seen, with the pots that change with it, and returns it.
async fn keep(
    workspace: &Workspace,
    (seen, said): (i64, SaidAs),
    change: SheetChange,
) -> Answer<RunSheetView> {
    let SheetChange { sheet, pours } = change;
    let piece = sheet.piece;
    // Checked within the transaction: of two clients that start a sheet at once, the second has seen an older state.
    let write = move |store: &mut Store| {
        let kept = own(store.all()?, piece);
        store.together(|batch| {
            match kept {
                Some(kept) => batch.change(kept.id, seen, sheet).map(drop)?,
                None => batch.make(sheet).map(drop)?,
            }
            pours.into_iter().try_for_each(|(before, next)| keep_pour(batch, before, next).map(drop))
        })
    };
    workspace.with(write).await?;
    Sheet::of(workspace, piece, said).await?.view().await
}

/// The run sheet of a piece, planned from now on.
#[utoipa::path(get, path = "/pieces/{id}/run-sheet", operation_id = "get_run_sheet",
    tag = "run sheet", params(SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(said): Query<SaidAs>,
) -> Answer<RunSheetView> {
    Sheet::of(&workspace, id, said).await?.view().await
}

/// Change how the workshop works on a piece: hours, helper, air, rates. Finished steps stay.
#[utoipa::path(put, path = "/pieces/{id}/run-sheet", operation_id = "change_run_sheet",
    tag = "run sheet", params(SeenRevision, SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Query(said): Query<SaidAs>,
    Json(entry): Json<RunSheetEntry>,
) -> Answer<RunSheetView> {
    let Sheet { sheet, .. } = Sheet::of(&workspace, id, said).await?;
    keep(&workspace, (revision, said), entry.over(sheet)?.into()).await
}

/// Tick off a step.
#[utoipa::path(post, path = "/pieces/{id}/run-sheet/done", operation_id = "tick_step",
    tag = "run sheet", params(SeenRevision, SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn tick(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Query(said): Query<SaidAs>,
    Json(done): Json<StepDone>,
) -> Answer<RunSheetView> {
    let by = workspace.by();
    let ticked = Sheet::of(&workspace, id, said).await?;
    let change = ticked.plan(move |planned, _| planned.ticked(&done, by)).await?;
    keep(&workspace, (revision, said), change).await
}

/// Start or pause the clock of a step; when the step is ticked off, the clock gives its duration.
#[utoipa::path(post, path = "/pieces/{id}/run-sheet/clock", operation_id = "set_step_clock",
    tag = "run sheet", params(SeenRevision, SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn clock(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Query(said): Query<SaidAs>,
    Json(set): Json<ClockSet>,
) -> Answer<RunSheetView> {
    let sheet = Sheet::of(&workspace, id, said).await?.plan(move |planned, _| planned.clocked(&set)).await?;
    keep(&workspace, (revision, said), sheet.into()).await
}

/// Undo a finished step, by its index.
#[utoipa::path(delete, path = "/pieces/{id}/run-sheet/done/{place}", operation_id = "untick_step",
    tag = "run sheet", params(SeenRevision, SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn untick(
    State(workspace): State<Workspace>,
    Path((id, place)): Path<(Uuid, usize)>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Query(said): Query<SaidAs>,
) -> Answer<RunSheetView> {
    let ticked = Sheet::of(&workspace, id, said).await?;
    let change = ticked.plan(move |planned, _| Ok(planned.unticked(place))).await?;
    keep(&workspace, (revision, said), change).await
}

/// Saves what became of the brushes, and returns the run sheet.
async fn keep_brushes(
    workspace: &Workspace,
    (piece, said): (Uuid, SaidAs),
    after: impl FnOnce(BrushRack) -> Result<BrushRack, Refusal> + Send + 'static,
) -> Answer<RunSheetView> {
    let write = move |store: &mut Store| {
        let kept = workshop(store)?;
        let brushes = after(kept.value.brushes.clone())?;
        let next = Workshop { brushes, ..kept.value };
        store.change(kept.id, kept.revision, next).map(drop).map_err(Problem::from)
    };
    workspace.with(write).await?;
    Sheet::of(workspace, piece, said).await?.view().await
}

/// Count the brushes of a kind.
#[utoipa::path(put, path = "/pieces/{id}/run-sheet/brushes", operation_id = "count_brushes",
    tag = "run sheet", params(SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn count_brushes(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(said): Query<SaidAs>,
    Json(count): Json<BrushCounted>,
) -> Answer<RunSheetView> {
    keep_brushes(&workspace, (id, said), move |rack| count.over(rack)).await
}

/// Mark a brush as washed.
#[utoipa::path(post, path = "/pieces/{id}/run-sheet/brushes/washed", operation_id = "wash_brush",
    tag = "run sheet", params(SaidAs),
    responses((status = OK, body = RunSheetView)))]
pub async fn wash_brush(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(said): Query<SaidAs>,
    Json(washed): Json<WashedEntry>,
) -> Answer<RunSheetView> {
    keep_brushes(&workspace, (id, said), move |rack| washed.over(rack)).await
}

/// The record for the client: layers on the piece from finished steps, mending and care.
#[utoipa::path(get, path = "/pieces/{id}/record", operation_id = "get_record",
    tag = "run sheet", params(UnitsAsked),
    responses((status = OK, body = PieceRecord)))]
pub async fn record(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<PieceRecord> {
    workspace.shelf_in_full().await?;
    let sheet = Sheet::of(&workspace, id, SaidAs { units, ..SaidAs::default() }).await?;
    sheet.plan(|planned, _| planned.record()).await.map(Json)
}

/// Size of the spot to mend.
#[derive(Debug, Clone, Copy, Default, Deserialize, IntoParams)]
#[serde(default)]
pub struct SpotAsked {
    /// `chip` (default) or `palm`.
    #[param(inline)]
    spot: Spot,
}

/// How a spot of each part is mended: layers in order, from which pot, or in drops from today's tins.
#[utoipa::path(get, path = "/pieces/{id}/touch-up", operation_id = "get_touch_up",
    tag = "run sheet", params(SaidAs, SpotAsked),
    responses((status = OK, body = TouchUp)))]
pub async fn touch_up(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(said): Query<SaidAs>,
    Query(SpotAsked { spot }): Query<SpotAsked>,
) -> Answer<TouchUp> {
    workspace.shelf_in_full().await?;
    let sheet = Sheet::of(&workspace, id, said).await?;
    sheet.plan(move |planned, _| planned.touch_up(spot)).await.map(Json)
}

/// Note that a spot was mended: it goes into the record and the log, and what it took out of the jars.
#[utoipa::path(post, path = "/pieces/{id}/touch-up", operation_id = "note_touch_up",
    tag = "run sheet", params(SaidAs),
    responses((status = OK, body = PieceRecord)))]
pub async fn touched_up(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(said): Query<SaidAs>,
    Json(spot): Json<SpotMended>,
) -> Answer<PieceRecord> {
    let by = workspace.by();
    let sheet = Sheet::of(&workspace, id, said).await?;
    let seen = sheet.revision;
    let change = sheet.plan(move |planned, _| planned.touched_up(&spot, by)).await?;
    keep(&workspace, (seen, said), change).await?;
    Sheet::of(&workspace, id, said).await?.plan(|planned, _| planned.record()).await.map(Json)
}

/// Export a run sheet: the remaining work as a calendar, shopping as a table, or the record as a table or JSON:
/// `calendar`, `shopping`, `record.csv` or `record.json`.
#[utoipa::path(get, path = "/pieces/{id}/run-sheet/{file}", operation_id = "export_run_sheet",
    tag = "run sheet",
    responses((status = OK, description = "The file")))]
pub async fn export(
    State(workspace): State<Workspace>,
    Path((id, file)): Path<(Uuid, String)>,
) -> Result<Response, Problem> {
    workspace.shelf_in_full().await?;
    let sheet = Sheet::of(&workspace, id, SaidAs::default()).await?;
    let export = sheet.plan(move |planned, sheet| planned.file(&file, sheet.id, sheet.asked.now));
    Ok(attached(export.await?))
}
