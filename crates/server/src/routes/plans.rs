//! The run sheet of a piece: planned anew each time it is asked for, ticked off step by step.

use axum::{
    Json,
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use jiff::{Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_paint::Look;
use warm_blend_piece::Piece;
use warm_blend_plan::{Paces, RunSheet, WorkingHours};
use warm_blend_store::{Kept, Store, StoreError};
use warm_blend_workshop::{Export, Planned, Refusal, RunSheetEntry, RunSheetView, StepDone, WhenAsked};

use super::piece::Around;
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
    /// Its id and revision; none where none was kept yet.
    kept: Option<(Uuid, i64)>,
    sheet: RunSheet,
    asked: WhenAsked,
    around: Around,
    look: Look,
}

/// The zone of this computer's clock.
fn own_zone() -> String {
    TimeZone::system().iana_name().unwrap_or("UTC").to_owned()
}

impl Sheet {
    async fn of(workspace: &Workspace, id: Uuid, look: Look) -> Result<Self, Problem> {
        let read =
            move |store: &mut Store| Ok::<_, StoreError>((store.get::<Piece>(id)?, store.all::<RunSheet>()?));
        let ((piece, sheets), around) = Around::and(workspace, read).await?;
        let paces = Paces::learned(sheets.iter().flat_map(|kept| &kept.value.done));
        let own = sheets.into_iter().find(|kept| kept.value.piece == id);
        let kept = own.as_ref().map(|own| (own.id, own.revision));
        let sheet = own.map_or_else(|| RunSheet::new(id, WorkingHours::usual(&own_zone())), |own| own.value);
        Ok(Self { piece, kept, sheet, asked: WhenAsked { now: Timestamp::now(), paces }, around, look })
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
        let revision = self.kept.map_or(0, |(_, revision)| revision);
        self.plan(move |planned, _| planned.view(revision)).await.map(Json)
    }
}

/// Keeps a sheet over the revision that was seen, and shows it.
async fn keep(
    workspace: &Workspace,
    kept: Option<(Uuid, i64)>,
    (seen, look): (i64, Look),
    sheet: RunSheet,
) -> Result<Json<RunSheetView>, Problem> {
    let piece = sheet.piece;
    let write = move |store: &mut Store| match kept {
        Some((id, _)) => store.change(id, seen, sheet).map(drop),
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
    let Sheet { kept, sheet, look, .. } = Sheet::of(&workspace, id, look.get()?).await?;
    keep(&workspace, kept, (revision, look), entry.over(sheet)?).await
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
    let (kept, look) = (before.kept, before.look);
    let sheet = before.plan(move |planned, _| planned.ticked(&said)).await?;
    keep(&workspace, kept, (revision, look), sheet).await
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
    let Sheet { kept, sheet, look, .. } = Sheet::of(&workspace, id, look.get()?).await?;
    keep(&workspace, kept, (revision, look), sheet.without(place)).await
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
    let Export { kind, name, bytes } = export.await?;
    let disposition = format!("attachment; filename=\"{name}\"");
    let head = [(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)];
    Ok((head, bytes).into_response())
}
