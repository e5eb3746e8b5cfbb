//! The run sheet of a piece: planned anew each time it is asked for, ticked off step by step.

use axum::{Json, extract::State, response::Response};
use jiff::{Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_paint::Look;
use warm_blend_piece::Piece;
use warm_blend_plan::{Paces, RunSheet, WorkingHours};
use warm_blend_store::{Kept, Store, StoreError};
use warm_blend_workshop::{Planned, Refusal, RunSheetEntry, RunSheetView, StepDone, WhenAsked};

use super::{files::attached, piece::Around};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath, InPath},
    off_thread::off_thread,
    problem::Problem,
    wire::{LookedAt, SeenRevision},
};

/// A piece with its run sheet, and what both are planned among.
struct Sheet {
    piece: Kept<Piece>,
    /// Of the sheet; 0 where none was kept yet.
    revision: i64,
    sheet: RunSheet,
    asked: WhenAsked,
    around: Around,
    look: Look,
}

/// The run sheet of a piece, where one was kept.
fn own(sheets: Vec<Kept<RunSheet>>, piece: Uuid) -> Option<Kept<RunSheet>> {
    sheets.into_iter().find(|kept| kept.value.piece == piece)
}

impl Sheet {
    async fn of(workspace: &Workspace, id: Uuid, look: Look) -> Result<Self, Problem> {
        let read =
            move |store: &mut Store| Ok::<_, StoreError>((store.get::<Piece>(id)?, store.all::<RunSheet>()?));
        let ((piece, sheets), around) = Around::and(workspace, read).await?;
        let paces = Paces::learned(sheets.iter().flat_map(|kept| &kept.value.done));
        let (revision, sheet) = match own(sheets, id) {
            Some(kept) => (kept.revision, kept.value),
            None => (0, RunSheet::new(id, WorkingHours::usual_by(&TimeZone::system()))),
        };
        Ok(Self { piece, revision, sheet, asked: WhenAsked { now: Timestamp::now(), paces }, around, look })
    }

    /// Answers a question about the plan.
    async fn plan<R: Send + 'static>(
        self,
        ask: impl FnOnce(&Planned, &Self) -> Result<R, Refusal> + Send + 'static,
    ) -> Result<R, Problem> {
        off_thread(move || {
            let room = self.around.room(self.look);
            Ok(ask(&room.plan(&self.piece.value, &self.sheet, self.asked.clone())?, &self)?)
        })
        .await
    }

    /// What is shown of it.
    async fn view(self) -> Result<Json<RunSheetView>, Problem> {
        self.plan(|planned, sheet| planned.view(sheet.revision)).await.map(Json)
    }
}

/// Keeps a sheet over the revision that was seen, and shows it.
async fn keep(
    workspace: &Workspace,
    (seen, look): (i64, Look),
    sheet: RunSheet,
) -> Result<Json<RunSheetView>, Problem> {
    let piece = sheet.piece;
    // Asked within the change: of two who begin one at once the second has seen an older one.
    let write = move |store: &mut Store| match own(store.all()?, piece) {
        Some(kept) => store.change(kept.id, seen, sheet).map(drop),
        None => store.make(sheet).map(drop),
    };
    workspace.with(write).await?;
    Sheet::of(workspace, piece, look).await?.view().await
}

/// The run sheet of a piece, planned from now on.
#[utoipa::path(get, path = "/pieces/{id}/run-sheet", operation_id = "get_run_sheet", tag = "run sheet",
    params(LookedAt, ("id" = Uuid, Path)), responses((status = OK, body = RunSheetView)))]
pub async fn get(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(look): Asked<LookedAt>,
) -> Result<Json<RunSheetView>, Problem> {
    Sheet::of(&workspace, id, look.get()?).await?.view().await
}

/// Change how the workshop works on a piece: hours, helper, air, rates. What was done stays.
#[utoipa::path(put, path = "/pieces/{id}/run-sheet", operation_id = "change_run_sheet", tag = "run sheet",
    params(SeenRevision, LookedAt, ("id" = Uuid, Path)), request_body = RunSheetEntry,
    responses((status = OK, body = RunSheetView)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(SeenRevision { revision }): Asked<SeenRevision>,
    Asked(look): Asked<LookedAt>,
    Body(entry): Body<RunSheetEntry>,
) -> Result<Json<RunSheetView>, Problem> {
    let Sheet { sheet, look, .. } = Sheet::of(&workspace, id, look.get()?).await?;
    keep(&workspace, (revision, look), entry.over(sheet)?).await
}

/// Tick a step off.
#[utoipa::path(post, path = "/pieces/{id}/run-sheet/done", operation_id = "tick_step", tag = "run sheet",
    params(SeenRevision, LookedAt, ("id" = Uuid, Path)), request_body = StepDone,
    responses((status = OK, body = RunSheetView)))]
pub async fn tick(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(SeenRevision { revision }): Asked<SeenRevision>,
    Asked(look): Asked<LookedAt>,
    Body(said): Body<StepDone>,
) -> Result<Json<RunSheetView>, Problem> {
    let before = Sheet::of(&workspace, id, look.get()?).await?;
    let look = before.look;
    let sheet = before.plan(move |planned, _| planned.ticked(&said)).await?;
    keep(&workspace, (revision, look), sheet).await
}

/// Take a tick back, by its place in what was done.
#[utoipa::path(delete, path = "/pieces/{id}/run-sheet/done/{place}", operation_id = "untick_step", tag = "run sheet",
    params(SeenRevision, LookedAt, ("id" = Uuid, Path), ("place" = usize, Path)),
    responses((status = OK, body = RunSheetView)))]
pub async fn untick(
    State(workspace): State<Workspace>,
    InPath((id, place)): InPath<(Uuid, usize)>,
    Asked(SeenRevision { revision }): Asked<SeenRevision>,
    Asked(look): Asked<LookedAt>,
) -> Result<Json<RunSheetView>, Problem> {
    let Sheet { sheet, look, .. } = Sheet::of(&workspace, id, look.get()?).await?;
    keep(&workspace, (revision, look), sheet.without(place)).await
}

/// What is left to do as a calendar, what is to be bought as a table: `calendar` or `shopping`.
#[utoipa::path(get, path = "/pieces/{id}/run-sheet/{file}", operation_id = "export_run_sheet", tag = "run sheet",
    params(("id" = Uuid, Path), ("file" = String, Path)), responses((status = OK, description = "The file")))]
pub async fn export(
    State(workspace): State<Workspace>,
    InPath((id, file)): InPath<(Uuid, String)>,
) -> Result<Response, Problem> {
    let sheet = Sheet::of(&workspace, id, Look::default()).await?;
    let export = sheet.plan(move |planned, sheet| {
        planned.file(&file, sheet.piece.id, sheet.piece.value.name.as_str(), sheet.asked.now)
    });
    Ok(attached(export.await?))
}
