//! Backups on the page: made, where they go, and gone back to.

use std::{fs, path::PathBuf};

use jiff::Timestamp;
use serde_json::Value;
use warm_blend_e2e::Painter;
use warm_blend_store::Store;

/// The mixes that there are.
async fn mixes(painter: &Painter) -> Vec<Value> {
    painter
        .meanwhile("GET", "/api/mixes?light=daylight&state=dry", Value::Null)
        .await
        .as_array()
        .unwrap()
        .clone()
}

/// What was deleted after a backup is there again once the backup was restored, and the deletion is in the file that was set aside.
#[tokio::test]
async fn a_workspace_is_backed_up_and_brought_back() {
    let mut painter = Painter::at_the_demo_on_a_line().await;
    painter.click("button", "Backups").await;
    painter.reads("No backup has been made yet.").await;
    painter.reads("There are none in this folder yet.").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "Back up now").await;
    painter.reads("Everything is backed up").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    let before = mixes(&painter).await;
    let (id, revision) = (before[0]["id"].as_str().unwrap(), &before[0]["revision"]);
    painter.meanwhile("DELETE", &format!("/api/mixes/{id}?revision={revision}"), Value::Null).await;
    painter.driver.refresh().await.unwrap();
    painter.reads("Something has changed since.").await;

    // The command beside the backup names its file.
    let text = painter.text().await;
    let command = text.split("warm-blend restore ").nth(1).expect("a command");
    let backup = PathBuf::from(command.split_whitespace().next().unwrap());
    assert!(command.contains(&format!("--data {}", painter.file().display())), "{command}");
    let restored = Store::restore(&backup, &painter.file(), Timestamp::now()).unwrap();
    painter.restart().await;
    painter.driver.refresh().await.unwrap();
    painter.reads("Everything is backed up").await;
    assert_eq!(mixes(&painter).await.len(), before.len());
    let aside = Store::open(&restored.set_aside.unwrap()).unwrap();
    assert_eq!(aside.all::<warm_blend_paint::SavedMix>().unwrap().len(), before.len() - 1);
    painter.leave().await;
}

/// A folder is taken only if it is there and can be written to; one that is taken away later is said on every screen until it is back.
#[tokio::test]
async fn backups_go_where_the_painter_chooses() {
    let painter = Painter::at_the_demo().await;
    painter.open("/backups").await;
    painter.write("textbox", "Folder", "backups on the disk").await;
    painter.press(thirtyfour::Key::Enter).await;
    painter.reads("name the whole path of the folder").await;
    let disk = painter.file().with_file_name("disk");
    painter.write("textbox", "Folder", &disk.display().to_string()).await;
    painter.press(thirtyfour::Key::Enter).await;
    painter.reads("there is no folder").await;
    fs::create_dir(&disk).unwrap();
    painter.press(thirtyfour::Key::Enter).await;
    painter.the("button", "Use the usual folder").await;
    painter.click("button", "Back up now").await;
    painter.reads("Everything is backed up").await;
    assert_eq!(fs::read_dir(&disk).unwrap().count(), 1);
    fs::remove_dir_all(&disk).unwrap();
    painter.click("button", "Back up now").await;
    painter.reads("connect its disk, or choose another folder").await;
    painter.click("button", "Use the usual folder").await;
    painter.click("button", "Back up now").await;
    painter.reads("Everything is backed up").await;
    assert_eq!(
        painter.value("textbox", "Folder").await,
        painter.file().with_file_name("backups").display().to_string()
    );
    painter.leave().await;
}

/// The demo leaves as one file, is taken into a new workspace after a look at what it brings, and one undo takes it out again.
#[tokio::test]
async fn a_workspace_arrives_as_an_archive() {
    let demo = Painter::at_the_demo().await;
    demo.open("/backups").await;
    let archive = demo.download("Export an archive").await;
    // One mix alone goes with its paints.
    demo.choose("What to export", "Mix: toasted straw").await;
    let mix = demo.download("Export an archive").await;
    assert!(mix.len() < archive.len() / 2, "{} of {}", mix.len(), archive.len());
    demo.leave().await;

    let painter = Painter::at_an_empty_bench().await;
    painter.open("/backups").await;
    painter.bring("Import an archive", "letter.zip", b"Dear all").await;
    painter.reads("this is no archive").await;
    painter.bring("Import an archive", "mix.zip", &mix).await;
    painter.reads("3 paints").await;
    painter.reads("1 mix").await;
    painter.click("button", "Cancel").await;
    painter.bring("Import an archive", "demo.zip", &archive).await;
    painter.reads("19 paints").await;
    painter.reads("2 run sheets").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "Import it").await;
    painter.reads("Undo takes it out again").await;
    painter.open("/shelf").await;
    painter.reads("chimney white").await;
    painter.open("/").await;
    painter.reads("Upright piano and stool, village hall").await;

    // Taken in again, there is nothing to do.
    painter.open("/backups").await;
    painter.bring("Import an archive", "demo.zip", &archive).await;
    painter.reads("Everything in it is here already.").await;
    painter.leave().await;
}

/// Gone back to by a button: what was newer is set aside, and everything shown is as it was then.
#[tokio::test]
async fn a_button_goes_back_to_a_backup() {
    let painter = Painter::at_the_demo().await;
    painter.open("/backups").await;
    painter.click("button", "Back up now").await;
    painter.reads("Everything is backed up").await;
    let before = mixes(&painter).await;
    let (id, revision) = (before[0]["id"].as_str().unwrap(), &before[0]["revision"]);
    painter.meanwhile("DELETE", &format!("/api/mixes/{id}?revision={revision}"), Value::Null).await;
    painter.driver.refresh().await.unwrap();
    painter.reads("Something has changed since.").await;
    painter.click("button", "Go back to").await;
    painter.reads("Everything will be as it was then.").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "Go back").await;
    painter.reads("What was newer is in").await;
    let after = mixes(&painter).await;
    assert_eq!(after.len(), before.len());
    // A page that shows the mix as it was before does not write over it.
    assert!(after[0]["revision"].as_i64() > before[0]["revision"].as_i64());
    painter.leave().await;
}

/// What was deleted is listed for a while, and comes back.
#[tokio::test]
async fn what_was_deleted_is_brought_back() {
    let painter = Painter::at_the_demo().await;
    let before = mixes(&painter).await;
    let (id, revision) = (before[0]["id"].as_str().unwrap(), &before[0]["revision"]);
    let name = before[0]["entry"]["name"].as_str().unwrap();
    painter.meanwhile("DELETE", &format!("/api/mixes/{id}?revision={revision}"), Value::Null).await;
    painter.open("/backups").await;
    painter.reads("Deleted in the last 30 days").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", &format!("Bring back {name}")).await;
    painter.reads(&format!("{name} is back")).await;
    assert_eq!(mixes(&painter).await.len(), before.len());
    painter.leave().await;
}
