//! Backups of the workspace file.

use std::path;

use axum::extract::State;
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_store::{Backup, BackupState, backups_in};

use crate::{
    Workspace,
    body::{Answer, Json, Path},
    off_thread::off_thread,
};

/// Backups, and where they go.
#[derive(Debug, Serialize, ToSchema)]
pub struct Backups {
    /// Path of the folder.
    folder: String,
    /// True if that is the usual folder, beside the workspace file.
    is_usual: bool,
    /// True if backups are made without being asked for. Not in the demo.
    by_itself: bool,
    /// When the last one was made (RFC 3339).
    last: Option<String>,
    /// Why the last attempt made none.
    failed: Option<String>,
    /// True if what was changed has had no backup for a day.
    is_overdue: bool,
    /// True if something was changed since the last one.
    is_changed: bool,
    /// Those in the folder, newest first.
    backups: Vec<BackupFile>,
}

/// A backup.
#[derive(Debug, Serialize, ToSchema)]
pub struct BackupFile {
    /// Name of the file, by which it is gone back to.
    name: String,
    /// Path of the file.
    file: String,
    /// When it was made (RFC 3339).
    made_at: String,
    /// Length, bytes.
    bytes: u64,
    /// Command that puts it in the place of the workspace file.
    restore: String,
}

impl BackupFile {
    fn of(backup: &Backup, workspace: &path::Path) -> Self {
        let restore = format!("warm-blend restore {} --data {}", quoted(&backup.file), quoted(workspace));
        Self {
            name: backup.file.file_name().unwrap_or_default().to_string_lossy().into_owned(),
            file: backup.file.display().to_string(),
            made_at: backup.made_at.to_string(),
            bytes: backup.bytes,
            restore,
        }
    }
}

/// A path as a word of a command (POSIX shell).
fn quoted(path: &path::Path) -> String {
    let path = path.display().to_string();
    let is_plain = |c: char| c.is_ascii_alphanumeric() || "/._-:".contains(c);
    if path.chars().all(is_plain) { path } else { format!("'{}'", path.replace('\'', r"'\''")) }
}

impl Backups {
    fn of(state: BackupState, by_itself: bool) -> Self {
        // A folder that is not there holds none.
        let files = backups_in(&state.folder).unwrap_or_default();
        let backups = files.iter().map(|backup| BackupFile::of(backup, &state.file)).collect();
        Self {
            is_overdue: state.is_overdue(Timestamp::now()),
            folder: state.folder.display().to_string(),
            is_usual: state.is_usual,
            by_itself,
            last: state.last.map(|last| last.to_string()),
            failed: state.failed,
            is_changed: state.is_changed,
            backups,
        }
    }
}

/// The folder in which backups are kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BackupFolder {
    /// Absolute path of a folder that exists; without it, the usual one.
    folder: Option<String>,
}

/// Backups, and where they go.
#[utoipa::path(get, path = "/backups", operation_id = "get_backups", tag = "workspace",
    responses((status = OK, body = Backups)))]
pub async fn get(State(workspace): State<Workspace>) -> Answer<Backups> {
    let state = workspace.with(|store| store.backup_state()).await?;
    // The folder may be on a slow disk.
    off_thread(move || Ok(Json(Backups::of(state, workspace.backs_up)))).await
}

/// Make a backup now.
#[utoipa::path(post, path = "/backups", operation_id = "make_backup", tag = "workspace",
    responses((status = OK, body = Backups)))]
pub async fn make(State(workspace): State<Workspace>) -> Answer<Backups> {
    workspace.back_up().await?;
    get(State(workspace)).await
}

/// What going back to a backup did.
#[derive(Debug, Serialize, ToSchema)]
pub struct BackupRestored {
    /// Path of the file that was there before, with everything that is newer.
    set_aside: Option<String>,
    /// Backups now.
    backups: Backups,
}

/// Go back to a backup of the folder. What was there is set aside in a file of its own.
#[utoipa::path(post, path = "/backups/{name}/restore", operation_id = "restore_backup", tag = "workspace",
    responses((status = OK, body = BackupRestored)))]
pub async fn restore(State(workspace): State<Workspace>, Path(name): Path<String>) -> Answer<BackupRestored> {
    let set_aside = workspace.go_back_to(name).await?.set_aside.map(|path| path.display().to_string());
    let Json(backups) = get(State(workspace)).await?;
    Ok(Json(BackupRestored { set_aside, backups }))
}

/// Choose the folder of backups.
#[utoipa::path(put, path = "/backups/folder", operation_id = "choose_backup_folder", tag = "workspace",
    responses((status = OK, body = Backups)))]
pub async fn choose_folder(
    State(workspace): State<Workspace>,
    Json(BackupFolder { folder }): Json<BackupFolder>,
) -> Answer<Backups> {
    workspace.choose_backup_folder(folder).await?;
    get(State(workspace)).await
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_command_names_any_file() {
        assert_eq!(quoted(path::Path::new("/home/m/work-1.db")), "/home/m/work-1.db");
        assert_eq!(quoted(path::Path::new("/my disk/it's $HOME.db")), r"'/my disk/it'\''s $HOME.db'");
    }
}
