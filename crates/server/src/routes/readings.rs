//! Readings, and the colour reader.

use std::sync::Arc;

use axum::{
    extract::{OriginalUri, State},
    http::StatusCode,
};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_device::ReaderTrouble;
use warm_blend_learn::{LoggedReading, ShelfPaint};
use warm_blend_paint::PaintId;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{PendingReadings, ReadOut, ReadingEntry, ReadingKept, ReadingMade, ToRead};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    device::LaidOut,
    off_thread::off_thread,
    problem::Problem,
    shelf_cache::Remembered,
    wire::{PartAsked, PartOfList, SeenRevision, next_part},
};

/// All readings, newest first; long lists in parts.
#[utoipa::path(get, path = "/readings", operation_id = "list_readings", tag = "readings", params(PartAsked),
    responses((status = OK, body = Vec<ReadingKept>, headers(("Link" = Option<String>, description = "Where the next part is")))))]
pub async fn list(
    State(workspace): State<Workspace>,
    Query(part): Query<PartAsked>,
    OriginalUri(asked_at): OriginalUri,
) -> Result<PartOfList<ReadingKept>, Problem> {
    let shelf = workspace.shelf().await?;
    let (part, next) = part.range_within(shelf.logged().len());
    let readings = off_thread(move || Ok(shelf.log(part))).await?;
    Ok((next_part(&asked_at, next), Json(readings)))
}

/// Number of deferred readings: a workspace of thousands that was never learned from is shown by its labels at first.
#[utoipa::path(get, path = "/learning", operation_id = "get_learning", tag = "readings",
    responses((status = OK, body = PendingReadings)))]
pub async fn learning(State(workspace): State<Workspace>) -> Answer<PendingReadings> {
    workspace.ask(|shelf| Ok(PendingReadings { readings: shelf.pending_readings() })).await
}

/// Everything known before a reading, which must be possible and refer to existing tins.
async fn sensible(workspace: &Workspace, logged: LoggedReading) -> Result<Arc<Remembered>, Problem> {
    // The effect of a reading is shown against everything that was known.
    workspace.shelf_in_full().await?;
    let check = move |store: &mut Store| store.verify_references(&logged).map(|()| logged);
    let (logged, shelf) = workspace.with_shelf(check).await?;
    shelf.make_sense(&logged.reading)?;
    Ok(shelf)
}

/// Save a reading; everything that depends on it becomes more certain at once.
#[utoipa::path(post, path = "/readings", operation_id = "make_reading", tag = "readings",
    responses((status = CREATED, body = ReadingMade)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Json(entry): Json<ReadingEntry>,
) -> Result<(StatusCode, Json<ReadingMade>), Problem> {
    let logged = entry.parse()?;
    let before = sensible(&workspace, logged.clone()).await?;
    let (kept, shelf) = workspace.with_shelf(move |store| store.make(logged)).await?;
    Ok((StatusCode::CREATED, Json(shelf.news(kept.id, &before)?)))
}

/// Confirm an unlikely reading, or add a note.
#[utoipa::path(put, path = "/readings/{id}", operation_id = "change_reading",
    tag = "readings", params(SeenRevision),
    responses((status = OK, body = ReadingKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
    Json(entry): Json<ReadingEntry>,
) -> Answer<ReadingKept> {
    let logged = entry.parse()?;
    let before = workspace.with(move |store| store.get::<LoggedReading>(id)).await?;
    // A note may be added to any reading in the log.
    if before.value.reading != logged.reading {
        sensible(&workspace, logged.clone()).await?;
    }
    let (_, shelf) = workspace.with_shelf(move |store| store.change(id, revision, logged)).await?;
    off_thread(move || Ok(shelf.reading(id)?)).await.map(Json)
}

/// Delete a reading and what was learned from it; undo restores both.
#[utoipa::path(delete, path = "/readings/{id}", operation_id = "remove_reading",
    tag = "readings", params(SeenRevision),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(SeenRevision { revision }): Query<SeenRevision>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<LoggedReading>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A colour reader.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReaderView {
    /// Name recorded with its readings.
    name: String,
    /// True if its readings are simulated and say nothing about the painter's own tins: they are marked, and do not count
    /// for prediction accuracy.
    practice: bool,
}

/// The colour reader. Only a simulated one ships.
#[utoipa::path(get, path = "/reader", operation_id = "get_reader", tag = "readings",
    responses((status = OK, body = ReaderView)))]
pub async fn reader(State(workspace): State<Workspace>) -> Json<ReaderView> {
    Json(ReaderView { name: workspace.reader.name(), practice: workspace.reader.is_practice() })
}

/// Message of a reader that cannot read.
pub fn trouble(trouble: ReaderTrouble) -> Problem {
    Problem::new(StatusCode::CONFLICT, "reader", "Can’t read with the reader", trouble.to_string())
}

/// Read a sample at three places; nothing is saved.
#[utoipa::path(post, path = "/reader/read", operation_id = "read_sample", tag = "readings",
    responses((status = OK, body = ReadOut)))]
pub async fn read(State(workspace): State<Workspace>, Json(asked): Json<ToRead>) -> Answer<ReadOut> {
    let (of, state, wet) = asked.parse()?;
    let tins = move |store: &mut Store| {
        let tin = |(paint, parts): (PaintId, _)| Ok((store.get::<ShelfPaint>(paint.0)?.value, parts));
        of.into_iter().map(tin).collect::<Result<_, StoreError>>()
    };
    let laid_out = LaidOut { of: workspace.with(tins).await?, state, wet };
    let reader = workspace.reader.clone();
    let shown =
        off_thread(move || reader.read(&laid_out, asked.smeared(), asked.spectrum()).map_err(trouble));
    Ok(Json(ReadOut::of(workspace.reader.name(), &shown.await?)))
}

/// Calibrate the reader on its white tile, and clean its window.
#[utoipa::path(post, path = "/reader/calibrate", operation_id = "calibrate_reader", tag = "readings",
    responses((status = NO_CONTENT)))]
pub async fn calibrate(State(workspace): State<Workspace>) -> Result<StatusCode, Problem> {
    workspace.reader.calibrate().map_err(trouble)?;
    Ok(StatusCode::NO_CONTENT)
}
