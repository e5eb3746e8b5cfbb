//! Undo and redo, and notices about the file.

use axum::extract::State;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_store::{ChangeKind, History, HistoryEntry, Store, StoreError};

use crate::Workspace;
use crate::body::{Answer, Json};
use crate::problem::Problem;

/// What undo and redo would do next.
#[derive(Debug, Serialize, ToSchema)]
pub struct HistoryNow {
    /// The change that undo would reverse.
    undo: Option<HistoryStep>,
    /// The change that redo would repeat.
    redo: Option<HistoryStep>,
    /// The change that this request reversed or repeated, if any.
    done: Option<HistoryStep>,
}

/// One change.
#[derive(Debug, Serialize, ToSchema)]
pub struct HistoryStep {
    /// Number of the change, required to undo or redo it.
    change: i64,
    /// The document.
    document: Uuid,
    /// `paint`, `reading`, `mix`, `pour`, `board`, `piece`, `run-sheet`, `note` or `workshop`.
    kind: String,
    /// The change in words: `adding oat white`, `changing oat white: price`.
    words: String,
    /// True if the document exists now.
    there: bool,
}

/// The change to undo or redo.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChangeMeant {
    /// Number of the change from `/api/history`; if another has been made since, nothing happens.
    change: i64,
}

impl From<HistoryEntry> for HistoryStep {
    fn from(step: HistoryEntry) -> Self {
        let action = match step.action {
            ChangeKind::Added => "adding",
            ChangeKind::Changed => "changing",
            ChangeKind::Removed => "deleting",
        };
        let what = step.name.unwrap_or_else(|| match step.kind.as_str() {
            "reading" => "a reading".to_owned(),
            "workshop" => "workshop settings".to_owned(),
            "pour" => "the pour of an unnamed mix".to_owned(),
            "board-reading" => "a board reading".to_owned(),
            "run-sheet" => "the run sheet".to_owned(),
            "note" => "a note".to_owned(),
            kind => format!("an unnamed {kind}"),
        });
        let more = match (step.more, altered(&step.fields)) {
            (0, None) => String::new(),
            (0, Some(fields)) => format!(": {fields}"),
            (n, _) => format!(" and {n} more"),
        };
        Self {
            change: step.change,
            document: step.document,
            kind: step.kind,
            words: format!("{action} {what}{more}"),
            there: step.there,
        }
    }
}

/// Fields with another name on screen.
const CALLED: &[(&str, &str)] = &[
    ("components", "parts"),
    ("coats_to_hide", "coats to hide"),
    ("stock_ml", "amount left"),
    ("opened_on", "date of opening"),
    ("source", "what its colour was taken from"),
    ("safety", "warning"),
    ("strips", "layers"),
    ("form", "dimensions"),
    ("corrections", "areas"),
    ("schemes", "finish"),
    ("chosen", "chosen scheme"),
    ("done", "steps done"),
    ("steps", "what is in it"),
    ("finished_at", "whether it is finished"),
    ("tapes_colours", "tape between colours"),
    ("owned", "measures at hand"),
];

/// What was changed, in words; `None` if nothing can be named.
fn altered(fields: &[String]) -> Option<String> {
    let called = |field: &String| {
        let known = CALLED.iter().find(|(name, _)| name == field);
        known.map_or_else(|| field.replace('_', " "), |(_, words)| (*words).to_owned())
    };
    match fields {
        [] => None,
        [one] => Some(called(one)),
        [one, other] => Some(format!("{} and {}", called(one), called(other))),
        [first, ..] => Some(format!("{} and {} more fields", called(first), fields.len() - 1)),
    }
}

async fn after(
    workspace: &Workspace,
    walk: impl FnOnce(&mut Store) -> Result<Option<HistoryEntry>, StoreError> + Send + 'static,
) -> Answer<HistoryNow> {
    let (done, History { undo, redo }) =
        workspace.with(|store| walk(store).and_then(|done| Ok((done, store.history()?)))).await?;
    let [undo, redo, done] = [undo, redo, done].map(|step| step.map(HistoryStep::from));
    Ok(Json(HistoryNow { undo, redo, done }))
}

/// Notices about the workspace file, as sentences: that it is damaged, or used by another program.
#[utoipa::path(get, path = "/notices", operation_id = "get_notices", tag = "workspace",
    responses((status = OK, body = Vec<String>)))]
pub async fn notices(State(workspace): State<Workspace>) -> Answer<Vec<String>> {
    let backs_up = workspace.backs_up;
    let notices = workspace.with(move |store| {
        let backup = if backs_up { store.backup_notice(Timestamp::now())? } else { None };
        Ok::<_, Problem>(store.notices().into_iter().chain(backup).collect::<Vec<_>>())
    });
    let notices = notices.await?;
    Ok(Json(notices.iter().map(ToString::to_string).collect()))
}

/// What undo and redo would do.
#[utoipa::path(get, path = "/history", operation_id = "get_history", tag = "workspace",
    responses((status = OK, body = HistoryNow)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<HistoryNow> {
    after(&workspace, |_| Ok(None)).await
}

/// Undo the newest change.
#[utoipa::path(post, path = "/undo", operation_id = "undo", tag = "workspace",
    responses((status = OK, body = HistoryNow)))]
pub async fn undo(
    State(workspace): State<Workspace>,
    Json(ChangeMeant { change }): Json<ChangeMeant>,
) -> Answer<HistoryNow> {
    after(&workspace, move |store| store.undo(change).map(Some)).await
}

/// Redo the change that was undone last.
#[utoipa::path(post, path = "/redo", operation_id = "redo", tag = "workspace",
    responses((status = OK, body = HistoryNow)))]
pub async fn redo(
    State(workspace): State<Workspace>,
    Json(ChangeMeant { change }): Json<ChangeMeant>,
) -> Answer<HistoryNow> {
    after(&workspace, move |store| store.redo(change).map(Some)).await
}
