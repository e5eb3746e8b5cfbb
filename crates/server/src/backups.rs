//! Backups of the open workspace, made beside other work.

use std::{
    io,
    path::{Path, PathBuf},
    time::Duration,
};

use jiff::Timestamp;
use warm_blend_store::{Backup, BackupError, Restored, StoreError, backups_in};

use crate::{Workspace, off_thread::off_thread, problem::Problem, state::furnish};

/// How often it is asked whether a backup is due.
const ASKED: Duration = Duration::from_secs(60);

impl Workspace {
    /// From now on makes a backup whenever one is due.
    pub fn back_up_when_due(&mut self) {
        self.backs_up = true;
        let workspace = self.clone();
        tokio::spawn(async move {
            let mut asked = tokio::time::interval(ASKED);
            loop {
                asked.tick().await;
                let state = workspace.with(|store| store.backup_state()).await;
                if state.is_ok_and(|state| state.is_due(Timestamp::now())) {
                    // What fails is written down, and shown until a later one is made.
                    drop(workspace.back_up().await);
                }
            }
        });
    }

    /// Makes a backup.
    pub(crate) async fn back_up(&self) -> Result<(), Problem> {
        let make = self.with(|store| store.backup(Timestamp::now())).await?;
        let attempt = off_thread(|| Ok(make())).await?;
        self.with(|store| store.backed_up(attempt)).await??;
        Ok(())
    }

    /// Goes back to one of the backups; the file that was there is set aside. Everybody else waits meanwhile.
    pub(crate) async fn go_back_to(&self, name: String) -> Result<Restored, Problem> {
        let folder = self.with(|store| store.backup_state()).await?.folder;
        let backup = off_thread(move || {
            let named = |backup: &Backup| backup.file.file_name().is_some_and(|file| *file == *name);
            let found = backups_in(&folder).ok().and_then(|backups| backups.into_iter().find(named));
            found.ok_or_else(|| Problem::not_found("this backup is no longer in the folder; choose another"))
        })
        .await?;
        self.with(move |store| {
            let restored = store.go_back_to(&backup.file, Timestamp::now())?;
            furnish(store)?;
            Ok::<_, Problem>(restored)
        })
        .await
    }

    /// Chooses the folder of backups, which must be there and let itself be written to; `None` for the usual one.
    pub(crate) async fn choose_backup_folder(&self, folder: Option<String>) -> Result<(), Problem> {
        let folder = folder.map(PathBuf::from);
        if let Some(folder) = folder.clone() {
            // A disk may be slow: nobody else waits for it.
            off_thread(move || check_folder(&folder).map_err(|why| Problem::field("/folder", why))).await?;
        }
        self.with(move |store| store.choose_backup_folder(folder.as_deref())).await
    }
}

/// Why backups cannot go to a folder.
fn check_folder(folder: &Path) -> Result<(), String> {
    if !folder.is_absolute() {
        return Err("name the whole path of the folder, such as /media/disk/backups".to_owned());
    }
    if !folder.is_dir() {
        return Err(format!("there is no folder {}; create it, or connect its disk", folder.display()));
    }
    let probe = folder.join(".warm-blend-probe");
    let written = std::fs::write(&probe, b"").and_then(|()| std::fs::remove_file(&probe));
    written.map_err(|error: io::Error| {
        format!(
            "can’t write to {} ({error}); allow writing to it, or choose another folder",
            folder.display()
        )
    })
}

impl From<BackupError> for Problem {
    fn from(error: BackupError) -> Self {
        match error {
            BackupError::Store(error) => StoreError::into(error),
            BackupError::Full(_) => Self::new(
                axum::http::StatusCode::INSUFFICIENT_STORAGE,
                "full",
                "The disk is full",
                error.to_string(),
            ),
            BackupError::Files { error, .. } if error.kind() == io::ErrorKind::StorageFull => {
                Self::disk(error)
            }
            error => {
                Self::new(axum::http::StatusCode::CONFLICT, "backup", "No backup was made", error.to_string())
            }
        }
    }
}
