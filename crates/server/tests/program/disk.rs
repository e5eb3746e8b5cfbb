//! A disk that fills up.

use std::fs;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::Command;

/// A small disk of its own, where this machine lets a test mount one.
pub struct Disk {
    pub at: PathBuf,
    /// False where it is a plain folder, because nothing can be mounted here.
    pub small: bool,
}

impl Disk {
    pub fn new(folder: &Path, size: &str) -> Self {
        let at = folder.join("disk");
        fs::create_dir(&at).unwrap();
        let size = format!("size={size}");
        let mount = Command::new("mount").args(["-t", "tmpfs", "-o", &size, "tmpfs"]).arg(&at).output();
        let small = mount.is_ok_and(|done| done.status.success());
        if !small {
            eprintln!(
                "no small disk can be mounted here: see the store's tests of a limit on the file's pages"
            );
        }
        Self { at, small }
    }

    pub fn fill(&self) {
        let mut filler = fs::File::create(self.at.join("filler")).unwrap();
        while filler.write_all(&[0; 4096]).is_ok() {}
    }

    pub fn empty(&self) {
        fs::remove_file(self.at.join("filler")).unwrap();
    }
}

impl Drop for Disk {
    fn drop(&mut self) {
        if self.small {
            drop(Command::new("umount").arg("-l").arg(&self.at).output());
        }
    }
}
