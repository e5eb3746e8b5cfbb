//! Backups, archives and rescue from the command line: each tells in a sentence what it did.

use std::{
    error::Error,
    fs::File,
    path::{Path, PathBuf},
};

use jiff::Timestamp;
use warm_blend_server::Workspace;
use warm_blend_store::{BackupMade, Checked, Rescued, Restored, Stays, Store};

type Told = Result<String, Box<dyn Error + Send + Sync>>;

/// Number of entries and photos, in words.
fn entries(documents: u64, photos: u64) -> String {
    let entries = if documents == 1 { "1 entry".to_owned() } else { format!("{documents} entries") };
    let with = match photos {
        0 => String::new(),
        1 => " and 1 photo".to_owned(),
        n => format!(" and {n} photos"),
    };
    entries + &with
}

/// A file that is there.
fn there<'a>(file: &'a Path, what: &str) -> Result<&'a Path, String> {
    if file.is_file() { Ok(file) } else { Err(format!("there is no file {}: name {what}", file.display())) }
}

/// Makes a backup.
pub fn back_up(file: &Path, to: Option<&Path>) -> Told {
    let mut store = Store::open(there(file, "the workspace file with --data FILE")?)?;
    let BackupMade { backup, holds } = match to {
        Some(folder) => warm_blend_store::back_up(file, folder, Timestamp::now())?,
        None => {
            let attempt = store.backup(Timestamp::now())?();
            store.backed_up(attempt)??
        }
    };
    Ok(format!("Backed up {} in {}", entries(holds.documents, holds.photos), backup.file.display()))
}

/// Puts a backup in the place of a file.
pub fn restore(backup: &Path, to: &Path) -> Told {
    let Restored { holds, set_aside } = Store::restore(there(backup, "the backup")?, to, Timestamp::now())?;
    let aside = set_aside
        .map_or(String::new(), |aside| format!(" The file that was there is kept as {}.", aside.display()));
    Ok(format!("Restored {} to {}.{aside}", entries(holds.documents, holds.photos), to.display()))
}

/// Writes an archive.
pub async fn export(file: &Path, to: PathBuf) -> Told {
    if to.exists() {
        return Err(format!("{} is there already: name a file that is not", to.display()).into());
    }
    let workspace = Workspace::open(there(file, "the workspace file with --data FILE")?)?;
    let bytes = workspace.export_to(to.clone()).await?;
    Ok(format!("Exported {} ({:.1} MB)", to.display(), bytes as f64 / 1e6))
}

/// Takes an archive in, or says what that would do.
pub async fn import(archive: &Path, file: &Path, stays: Stays, only_look: bool) -> Told {
    let archive = File::open(there(archive, "the archive")?)?;
    let workspace = Workspace::open(file)?;
    if only_look {
        let (found, _) = workspace.compare(archive).await?;
        return Ok(format!(
            "It would bring {}; {} are the same, {} were changed in both. Nothing was written.",
            entries(found.new.len() as u64, found.photos as u64),
            found.same,
            found.different.len()
        ));
    }
    let done = workspace.take_in(archive, stays).await?;
    workspace.write_back()?;
    let with = entries(done.added as u64, done.photos as u64);
    Ok(format!("Imported {with} to {}; {} of yours were changed.", file.display(), done.changed))
}

/// Checks a file.
pub fn check(file: &Path) -> Told {
    let Checked { documents, photos } = warm_blend_store::check(there(file, "the one to check")?)?;
    Ok(format!("{} is whole: {}", file.display(), entries(documents, photos)))
}

/// Rescues a file and describes the result in a sentence.
pub fn rescue(file: &Path, to: &Path) -> Told {
    if !file.is_file() {
        return Err(format!("there is no file {}: name the damaged one", file.display()).into());
    }
    let Rescued { documents, photos, lost, .. } = Store::rescue(file, to)?;
    let left = match lost {
        0 => "nothing had to be left behind".to_owned(),
        1 => "1 could not be read".to_owned(),
        n => format!("{n} could not be read"),
    };
    Ok(format!(
        "Saved {} in {}; {left}. Go on with: warm-blend serve --data {}",
        entries(documents as u64, photos as u64),
        to.display(),
        to.display()
    ))
}
