//! Backups, restoring and rescue from the command line: each tells in a sentence what it did.

use std::{error::Error, path::Path};

use jiff::Timestamp;
use warm_blend_store::{BackupMade, Checked, Rescued, Restored, Store};

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
