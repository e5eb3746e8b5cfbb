//! Backups from the command line, and beside a running program.

use std::{fs, path::Path, time::Duration};

use serde_json::{Value, json};
use warm_blend_store::{Store, backups_in};

use crate::{Disk, program, refused, serve};

fn does(args: &[&str]) -> String {
    let done = program().args(args).output().unwrap();
    assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    String::from_utf8(done.stdout).unwrap()
}

fn name(path: &Path) -> &str {
    path.to_str().unwrap()
}

async fn add(base: &str, paint: &str) {
    let request = reqwest::Client::new().post(format!("{base}/api/paints"));
    let body = json!({"name": paint, "class": "water"}).to_string();
    let answer = request.header("content-type", "application/json").body(body).send().await.unwrap();
    assert_eq!(answer.status(), 201);
}

async fn paints(base: &str) -> Vec<String> {
    let paints: Vec<Value> = reqwest::get(format!("{base}/api/paints")).await.unwrap().json().await.unwrap();
    paints.iter().map(|paint| paint["entry"]["name"].as_str().unwrap().to_owned()).collect()
}

/// What a new user does after a mishap: the file is deleted under the running program, and brought back from its backup.
#[tokio::test]
async fn a_deleted_file_comes_back() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let mut running = serve(&file);
    add(&running.base, "barn door").await;
    // Nobody has to ask for the first one.
    let made = async {
        loop {
            let asked = reqwest::get(format!("{}/api/backups", running.base)).await.unwrap();
            let backups: Value = asked.json().await.unwrap();
            if backups["last"].is_string() {
                break;
            }
            tokio::time::sleep(Duration::from_millis(20)).await;
        }
    };
    tokio::time::timeout(Duration::from_secs(30), made).await.expect("a backup that nobody asked for");
    // In use, from another program, with what is only in the log.
    add(&running.base, "oat husk").await;
    assert!(does(&["backup", "--data", name(&file)]).starts_with("Backed up "));
    running.child.kill().unwrap();
    running.child.wait().unwrap();
    for ending in ["", "-wal", "-shm"] {
        drop(fs::remove_file(folder.path().join(format!("workspace.db{ending}"))));
    }
    let last = &backups_in(&folder.path().join("backups")).unwrap()[0].file;
    assert!(does(&["check", name(last)]).contains(" is whole: "));
    let said = does(&["restore", name(last), "--data", name(&file)]);
    assert!(said.starts_with("Restored ") && !said.contains("kept as"), "{said}");
    let again = serve(&file);
    assert_eq!(paints(&again.base).await, ["barn door", "oat husk"]);
}

#[test]
fn what_cannot_be_backed_up_or_restored_is_said() {
    let folder = tempfile::tempdir().unwrap();
    let (file, letter) = (folder.path().join("workspace.db"), folder.path().join("letter.txt"));
    fs::write(&letter, "Dear Sir").unwrap();
    let nowhere = folder.path().join("nowhere.db");
    assert!(refused(&["backup", "--data", name(&nowhere)]).contains("there is no file"));
    assert!(!nowhere.exists());
    drop(Store::open(&file).unwrap());
    let before = fs::read(&file).unwrap();
    let said = refused(&["backup", "--data", name(&file), "--to", "/no/such/folder"]);
    assert!(said.contains("connect its disk"), "{said}");
    assert!(refused(&["restore", name(&nowhere), "--data", name(&file)]).contains("there is no file"));
    assert!(refused(&["restore", name(&letter), "--data", name(&file)]).contains("not an SQLite file"));
    assert!(refused(&["check", name(&letter)]).contains("not an SQLite file"));
    assert_eq!(fs::read(&file).unwrap(), before);
    // A folder whose disk is full keeps nothing half.
    let disk = Disk::new(folder.path(), "64k");
    if disk.small {
        disk.fill();
        let said = refused(&["backup", "--data", name(&file), "--to", name(&disk.at)]);
        assert!(said.contains("is full"), "{said}");
        assert_eq!(fs::read_dir(&disk.at).unwrap().count(), 1);
    }
}

/// From one machine to another: everything in one file, looked at first, and nothing is written over.
#[tokio::test]
async fn a_workspace_moves_as_an_archive() {
    let folder = tempfile::tempdir().unwrap();
    let (file, other) = (folder.path().join("workspace.db"), folder.path().join("other.db"));
    let archive = folder.path().join("all.zip");
    let running = serve(&file);
    add(&running.base, "barn door").await;
    // In use.
    assert!(does(&["export", name(&archive), "--data", name(&file)]).starts_with("Exported "));
    let said = refused(&["export", name(&archive), "--data", name(&file)]);
    assert!(said.contains("is there already"), "{said}");
    let said = does(&["import", name(&archive), "--data", name(&other), "--look"]);
    assert!(said.starts_with("It would bring 1 entry") || said.contains("Nothing was written"), "{said}");
    assert!(does(&["import", name(&archive), "--data", name(&other)]).starts_with("Imported "));
    let again = serve(&other);
    assert_eq!(paints(&again.base).await, ["barn door"]);
    assert!(refused(&["import", name(&file), "--data", name(&other)]).contains("no archive"));
    assert!(refused(&["import", "/no/such/file.zip", "--data", name(&other)]).contains("there is no file"));
}
