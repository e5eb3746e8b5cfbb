//! Import and export of files, with a preview of each import.

use std::sync::Arc;

use axum::{
    body::Bytes,
    extract::State,
    http::{StatusCode, header},
    response::{IntoResponse, Response},
};
use jiff::Timestamp;
use warm_blend_interchange::LARGEST_FILE;
use warm_blend_piece::Piece;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{Export, FileRead, HowToImport, Import, ImportPlan};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    problem::Problem,
    raw::Raw,
    shelf_cache::Remembered,
};

/// Number of times that an import is planned again because the shelf changed.
const TRIES: usize = 3;

/// An import, and the shelf it was planned for.
struct Planned {
    import: Import,
    shelf: Arc<Remembered>,
}

/// Parses a file and plans its import, while others use the shelf.
async fn plan(workspace: &Workspace, how: HowToImport, bytes: Bytes) -> Result<Planned, Problem> {
    let shelf = workspace.shelf().await?;
    let read = move || {
        let import = Import::of(FileRead::of(&bytes, &how)?, &shelf);
        Ok(Planned { import, shelf })
    };
    workspace.heavy.file(read).await
}

impl Planned {
    fn plan_view(&self) -> ImportPlan {
        self.import.view(&self.shelf)
    }

    /// `None` if the shelf has changed.
    fn carry_out(self, store: &mut Store) -> Result<Option<ImportPlan>, StoreError> {
        if !self.shelf.is_of(store)? {
            return Ok(None);
        }
        store.together(|batch| self.import.carry_out(batch))?;
        Ok(Some(self.plan_view()))
    }
}

/// Preview the import of a file (CGATS.17, CxF/X, CSV, .gpl palette or a shelf as JSON, as the body). Nothing is written.
#[utoipa::path(post, path = "/import/preview", operation_id = "preview_import",
    tag = "shelf", params(HowToImport), request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ImportPlan)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    Query(how): Query<HowToImport>,
    Raw(bytes, _place): Raw<LARGEST_FILE>,
) -> Answer<ImportPlan> {
    Ok(Json(plan(&workspace, how, bytes).await?.plan_view()))
}

/// Import a file as previewed, as one step of undo. If rows cannot be read, all of them are listed and nothing is
/// imported, unless they are to be left out.
#[utoipa::path(post, path = "/import", operation_id = "import_file",
    tag = "shelf", params(HowToImport), request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ImportPlan)))]
pub async fn carry_out(
    State(workspace): State<Workspace>,
    Query(how): Query<HowToImport>,
    Raw(bytes, _place): Raw<LARGEST_FILE>,
) -> Answer<ImportPlan> {
    for _ in 0..TRIES {
        let planned = plan(&workspace, how.clone(), bytes.clone()).await?;
        planned.import.check(&how)?;
        if let Some(shown) = workspace.with(move |store| planned.carry_out(store)).await? {
            return Ok(Json(shown));
        }
    }
    let detail = "the shelf changed during the import; import the file again";
    Err(Problem::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Shelf changed", detail))
}

/// Export the shelf: `cgats` and `cxf` contain a predicted spectrum and Lab of every paint, marked as predictions; `csv`
/// the tins as entered; `gpl` a palette; `json` all paints and readings.
#[utoipa::path(get, path = "/export/{format}", operation_id = "export_shelf", tag = "shelf",
    responses((status = OK, description = "The file")))]
pub async fn export(
    State(workspace): State<Workspace>,
    Path(format): Path<String>,
) -> Result<Response, Problem> {
    let shelf = workspace.shelf_in_full().await?;
    let pieces = workspace.with(|store| store.all::<Piece>()).await?;
    let write = move || {
        let title = pieces.first().map_or("Shelf", |piece| piece.value.name.as_str());
        Ok(shelf.export(&format, title, Timestamp::now())?)
    };
    Ok(attached(workspace.heavy.file(write).await?))
}

/// A file as a download.
pub fn attached(Export { kind, name, bytes }: Export) -> Response {
    let disposition = format!("attachment; filename=\"{name}\"");
    let head = [(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)];
    (head, bytes).into_response()
}
