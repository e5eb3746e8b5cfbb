//! Archives: a workspace as one open file.

use std::fs::File;

use axum::{
    body::Body,
    extract::State,
    http::header,
    response::{IntoResponse, Response},
};
use jiff::{Timestamp, tz::TimeZone};
use serde::{Deserialize, Serialize};
use tokio_util::io::ReaderStream;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_store::{Brought, Comparison, Differing, Merged, Stays};

use crate::{
    Workspace,
    body::{Answer, Json, Query},
    kinds::{one_and_many, place},
    problem::Problem,
    to_disk::ToDisk,
};

/// What an archive is to hold.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ArchiveOf {
    /// A document, with everything that it needs; by default the whole workspace.
    #[serde(default)]
    of: Option<Uuid>,
}

/// Which version stays where both have changed something.
#[derive(Debug, Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum VersionKept {
    /// That of this workspace.
    Mine,
    /// That of the archive.
    Theirs,
    /// The one that was changed last.
    #[default]
    Newer,
}

/// How an archive is imported.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HowToTakeIn {
    /// Which version stays where both have changed something.
    #[serde(default)]
    #[param(inline)]
    stays: VersionKept,
}

/// What importing an archive would do.
#[derive(Debug, Serialize, ToSchema)]
pub struct ArchivePreview {
    /// When it was written, RFC 3339.
    made_at: String,
    /// What it brings, by kind.
    new: Vec<ArchiveCount>,
    /// Number of entries that are the same in both.
    same: usize,
    /// Number of photos that it brings.
    photos: usize,
    /// Entries that differ.
    different: Vec<ArchiveDiffering>,
}

/// Some entries of one kind.
#[derive(Debug, Serialize, ToSchema)]
pub struct ArchiveCount {
    /// `3 mixes` …
    words: String,
    /// The first names.
    names: Vec<String>,
    /// Number of further names.
    more: usize,
}

/// An entry that differs between this workspace and the archive.
#[derive(Debug, Serialize, ToSchema)]
pub struct ArchiveDiffering {
    /// Id.
    id: Uuid,
    /// `mix` …
    kind: &'static str,
    /// Name, if it has one.
    name: Option<String>,
    /// When it was last changed here, RFC 3339.
    mine: String,
    /// True if it was deleted here.
    deleted: bool,
    /// When it was last changed in the archive, RFC 3339.
    theirs: String,
}

/// What importing an archive did.
#[derive(Debug, Serialize, ToSchema)]
pub struct ArchiveTakenIn {
    /// Number of entries that were added.
    added: usize,
    /// Number of entries of which the archive's version was taken.
    changed: usize,
    /// Number of photos that were added.
    photos: usize,
}

/// Names shown of one kind.
const NAMES: usize = 12;

impl From<VersionKept> for Stays {
    fn from(kept: VersionKept) -> Self {
        match kept {
            VersionKept::Mine => Self::Mine,
            VersionKept::Theirs => Self::Theirs,
            VersionKept::Newer => Self::Newer,
        }
    }
}

impl From<Merged> for ArchiveTakenIn {
    fn from(Merged { added, changed, photos }: Merged) -> Self {
        Self { added, changed, photos }
    }
}

impl ArchivePreview {
    fn new(made_at: Timestamp, found: Comparison) -> Self {
        let mut new = found.new;
        new.sort_by_key(|brought| place(brought.kind));
        let new = new.chunk_by(|one, other| one.kind == other.kind).map(ArchiveCount::new).collect();
        Self {
            made_at: made_at.to_string(),
            new,
            same: found.same,
            photos: found.photos,
            different: found.different.into_iter().map(ArchiveDiffering::from).collect(),
        }
    }
}

impl ArchiveCount {
    /// Counts documents of one kind.
    fn new(of_kind: &[Brought]) -> Self {
        let (one, many) = of_kind.first().map_or(("", ""), |brought| one_and_many(brought.kind));
        let words = match of_kind.len() {
            _ if one == many => one.to_owned(),
            1 => format!("1 {one}"),
            count => format!("{count} {many}"),
        };
        let mut names: Vec<String> = of_kind.iter().filter_map(|brought| brought.name.clone()).collect();
        let more = names.len().saturating_sub(NAMES);
        names.truncate(NAMES);
        Self { words, names, more }
    }
}

impl From<Differing> for ArchiveDiffering {
    fn from(Differing { of, mine, deleted, theirs }: Differing) -> Self {
        Self {
            id: of.id,
            kind: one_and_many(of.kind).0,
            name: of.name,
            mine: mine.to_string(),
            deleted,
            theirs: theirs.to_string(),
        }
    }
}

/// Export an archive: a zip with everything as JSON, photos, and views for other programs.
#[utoipa::path(get, path = "/archive", operation_id = "export_archive", tag = "workspace", params(ArchiveOf),
    responses((status = OK, description = "The archive", content_type = "application/zip")))]
pub async fn export(
    State(workspace): State<Workspace>,
    Query(ArchiveOf { of }): Query<ArchiveOf>,
) -> Result<Response, Problem> {
    streamed(workspace.archive(of).await?)
}

/// Preview the import of an archive (the body is the file). Nothing is written.
#[utoipa::path(post, path = "/archive/preview", operation_id = "preview_archive", tag = "workspace",
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ArchivePreview)))]
pub async fn preview(
    State(workspace): State<Workspace>,
    ToDisk(file, _place): ToDisk,
) -> Answer<ArchivePreview> {
    let (found, made_at) = workspace.compare(file).await?;
    Ok(Json(ArchivePreview::new(made_at, found)))
}

/// Import an archive (the body is the file), as one step of undo.
#[utoipa::path(post, path = "/archive", operation_id = "take_in_archive", tag = "workspace", params(HowToTakeIn),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = OK, body = ArchiveTakenIn)))]
pub async fn take_in(
    State(workspace): State<Workspace>,
    Query(HowToTakeIn { stays }): Query<HowToTakeIn>,
    ToDisk(file, _place): ToDisk,
) -> Answer<ArchiveTakenIn> {
    Ok(Json(workspace.take_in(file, stays.into()).await?.into()))
}

/// A file as a download that is read from the disk while it is sent.
fn streamed(file: File) -> Result<Response, Problem> {
    let bytes = file.metadata().map_err(Problem::disk)?.len();
    let day = Timestamp::now().to_zoned_datetime(TimeZone::system()).date();
    let head = [
        (header::CONTENT_TYPE, "application/zip".to_owned()),
        (header::CONTENT_LENGTH, bytes.to_string()),
        (header::CONTENT_DISPOSITION, format!("attachment; filename=\"warm-blend-{day}.zip\"")),
    ];
    let body = Body::from_stream(ReaderStream::new(tokio::fs::File::from_std(file)));
    Ok((head, body).into_response())
}
