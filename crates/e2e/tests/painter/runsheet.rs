//! The run sheet: from the piece to a plan, ticked off, moved, poured from, changed half way.

use serde_json::Value;
use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

async fn sheet(painter: &Painter) -> Value {
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let path = format!("/api/pieces/{}/run-sheet", piece["id"].as_str().unwrap());
    painter.meanwhile("GET", &path, Value::Null).await
}

fn first(sheet: &Value) -> String {
    sheet["steps"][0]["name"].as_str().unwrap_or_default().to_owned()
}

/// The demo's sheet goes on where it was left. The coat took twice as long: it is ticked off with its time, the rest moves, and the
/// tick is there after a reload; taken back, all is as it was.
#[tokio::test]
async fn a_step_that_took_longer_moves_the_rest() {
    let painter = Painter::at_the_door().await;
    painter.click("link", "Run sheet").await;
    painter.reads("Ready on").await;
    let before = sheet(&painter).await;
    assert_eq!(first(&before), "Brushed coat, 2 of 2");
    painter.click("button", "Time, note or photo: Brushed coat, 2 of 2").await;
    painter.write("textbox", "Time taken, min", "two hours").await;
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter.reads("is not a number").await;
    painter.write("textbox", "Time taken, min", "190").await;
    painter.write("textbox", "Note", "dragged at the end").await;
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter.reads("7 of ").await;
    let after = sheet(&painter).await;
    assert_ne!(first(&after), first(&before));
    let factor = |sheet: &Value| sheet["paces"][0]["factor"].as_f64().unwrap();
    assert!(factor(&after) > factor(&before), "the pace is learned");

    painter.driver.refresh().await.unwrap();
    painter.reads("steps done. Last: brushed coat, 2 of 2").await;
    painter.click("button", "Undo").await;
    painter.reads("6 of ").await;
    assert_eq!(first(&sheet(&painter).await), first(&before));
    painter.leave().await;
}

/// Hours, air and rates by keyboard; what cannot be says so at its field; too cold stops the plan.
#[tokio::test]
async fn how_we_work_moves_the_end() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.click("button", "Hours and rates").await;
    painter.write("textbox", "Temperature, °C", "900").await;
    painter.press(Key::Tab).await;
    painter.reads("°C is out of range; use −30 to 60 °C").await;
    painter.write("textbox", "Temperature, °C", "4").await;
    painter.press(Key::Tab).await;
    painter
        .until("it is too cold", async || {
            sheet(&painter).await["stop"].as_str().is_some_and(|stop| stop.contains("4 °C"))
        })
        .await;
    painter.write("textbox", "Temperature, °C", "21").await;
    painter.press(Key::Tab).await;
    painter.click("checkbox", "I have a helper").await;
    painter
        .until("somebody helps", async || {
            let sheet = sheet(&painter).await;
            sheet["entry"]["helper"] == true && sheet["stop"].is_null()
        })
        .await;
    // Three boxes within a moment: each is kept.
    let three = "for (const box of document.querySelectorAll('[role=dialog] input[type=checkbox]'))
        if (/Monday|Tuesday|Wednesday/.test(box.parentElement.textContent)) box.click();";
    painter.driver.execute(three, vec![]).await.unwrap();
    painter
        .until("three days are free", async || {
            let week = &sheet(&painter).await["entry"]["hours"]["week"];
            (0..3).all(|day| week[day].is_null())
        })
        .await;
    painter.driver.execute(three, vec![]).await.unwrap();
    painter
        .until("and worked on again", async || {
            let week = &sheet(&painter).await["entry"]["hours"]["week"];
            (0..3).all(|day| week[day]["from"] == "09:00")
        })
        .await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Hours and rates").await;
    painter.settled().await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.leave().await;
}

/// What is to be mixed is taken to the Pot with its amount; the list of what to buy, tools and cost stand beside.
#[tokio::test]
async fn a_batch_is_poured_from_the_sheet() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.click("radio", "Buy").await;
    painter.reads("buy 1 ×").await;
    let link = painter.the("link", "Calendar").await;
    let file = link.attr("href").await.unwrap().expect("an address");
    let read = format!("return fetch('{file}').then((answer) => answer.text())");
    let calendar = painter.driver.execute(read.as_str(), vec![]).await.unwrap();
    assert!(calendar.json().as_str().unwrap().starts_with("BEGIN:VCALENDAR"), "{:?}", calendar.json());
    painter.click("radio", "Cost").await;
    painter.reads("Asking price").await;
    painter.reads("pale trim").await;
    let days = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
    let headings = painter.names("heading").await;
    let days = headings.iter().filter(|name| days.iter().any(|day| name.starts_with(day))).count();
    assert!(days > 0);
    let pages = painter.pages_on_paper().await;
    assert!(pages <= days + 1, "{pages} pages for {days} days in print that is read at arm’s length");
    painter.click("radio", "Tools").await;
    painter.reads("Flat brush").await;
    painter.the("list", "Other tools").await;
    painter.click("radio", "Mix").await;
    // What is left in a jar is used first.
    let needed = sheet(&painter).await["pots"][0]["to_mix_ml"].as_f64().unwrap().ceil();
    painter.click("button", "Take to Pot: 5 slate blue : 1 barley").await;
    painter.reads("drift blue for the case").await;
    assert_eq!(painter.value("textbox", "Batch").await, format!("{needed:.0}"));

    // Poured and finished, it is taken off the shelf.
    let stock = async || {
        let paints = painter.meanwhile("GET", "/api/paints", Value::Null).await;
        let slate = paints.as_array().unwrap().iter().find(|paint| paint["entry"]["name"] == "slate blue");
        slate.unwrap()["entry"]["stock_ml"].as_f64().unwrap()
    };
    assert_eq!(stock().await, 350.0);
    painter.click("button", "Start pouring").await;
    painter.click("radio", "slate blue").await;
    painter.choose("Amounts in", "ml").await;
    painter.write("textbox", "Amount in ml", "120").await;
    painter.click("button", "Add").await;
    painter.reads("Last: 120 ml slate blue").await;
    painter.click("button", "Finish, keep the recipe").await;
    painter.the("region", "Earlier batches").await;
    assert_eq!(stock().await, 230.0);
    painter.leave().await;
}

/// The panels have their red when the client wants the other scheme: the red is covered, the case goes on, and what is there already is
/// not done again. An earlier day it is due is reported.
#[tokio::test]
async fn the_client_changes_their_mind() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.click("button", "Done: Brushed coat").await;
    painter.reads("7 of ").await;
    let red = sheet(&painter).await["done"][0].clone();
    if red["pot"] != "oxblood" {
        painter.click("button", "Done: Brushed coat").await;
        painter.reads("8 of ").await;
    }
    painter.click("link", "Piece").await;
    painter.click("radio", "pale trim").await;
    painter.click("button", "Brief").await;
    let tomorrow = jiff::Timestamp::now() + jiff::SignedDuration::from_hours(24);
    painter.the("Date", "Due").await.send_keys(tomorrow.strftime("%m%d%Y").to_string()).await.unwrap();
    painter.press(Key::Tab).await;
    painter.saved().await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Brief").await;
    painter.click("link", "Run sheet").await;
    painter.reads("Scuff before recoating").await;
    painter.reads("Late by").await;
    let now = sheet(&painter).await;
    assert_eq!(now["scheme"], "pale trim");
    let names: Vec<&str> =
        now["steps"].as_array().unwrap().iter().map(|step| step["name"].as_str().unwrap()).collect();
    assert!(!names.contains(&"Clean") && !names.contains(&"Prime"), "{names:?}");
    painter.leave().await;
}

/// The clock of a step runs on through a reload and stands still while it is paused; the step at hand is read across the room, and ticked
/// off there.
#[tokio::test]
async fn a_clock_survives_a_reload() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.click("button", "Start the timer: Brushed coat, 2 of 2").await;
    painter.the("button", "Pause the timer: Brushed coat, 2 of 2").await;
    let shown = async |painter: &Painter| {
        let sheet = sheet(painter).await;
        let clock = &sheet["steps"][0]["clock"];
        (clock["minutes"].as_f64().unwrap(), clock["runs"].as_bool().unwrap())
    };
    let before = shown(&painter).await;
    painter.driver.refresh().await.unwrap();
    painter.the("button", "Pause the timer: Brushed coat, 2 of 2").await;
    let after = shown(&painter).await;
    assert!(after.0 > before.0 && after.1, "it ran on: {before:?} {after:?}");
    painter.click("button", "Full screen").await;
    painter.the("dialog", "Now").await;
    painter.click("button", "Pause the timer: Brushed coat, 2 of 2").await;
    painter.the("button", "Resume the timer: Brushed coat, 2 of 2").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    let stopped = shown(&painter).await;
    assert!(!stopped.1 && stopped.0 >= after.0);
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter
        .until("the next step is at hand", async || first(&sheet(&painter).await) != "Brushed coat, 2 of 2")
        .await;
    painter.press(Key::Escape).await;
    painter.reads("7 of ").await;
    painter.leave().await;
}

/// Two pieces on one bench: what is done on the stool in the piano's waits, and from there to the stool's own sheet.
#[tokio::test]
async fn a_wait_is_filled_with_another_piece() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.reads("Free for").await;
    painter.click("button", "Stool, village hall").await;
    painter.reads("steps done. Last: degloss").await;
    painter.reads("Upright piano and stool, village hall").await;
    painter.click("radio", "Cost").await;
    painter.reads("Other methods").await;
    painter.leave().await;
}

/// A step is ticked off with a photo, which stands with what was done and in the log.
#[tokio::test]
async fn a_step_is_kept_with_its_photo() {
    let painter = Painter::at_the_door().await;
    painter.open("/run-sheet").await;
    painter.click("button", "Time, note or photo: Brushed coat, 2 of 2").await;
    let photo = image::RgbImage::from_pixel(320, 200, image::Rgb([96, 112, 122]));
    painter.bring("Photo", "case.png", &crate::png(&photo)).await;
    painter.the("image", "To be kept with the step").await;
    painter.write("textbox", "Note", "two coats cover").await;
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter.reads("7 of ").await;
    painter.click("link", "Log").await;
    painter.reads("two coats cover").await;
    painter.the("image", "Brushed coat, 2 of 2 in 5 slate blue : 1 barley").await;
    painter.leave().await;
}

/// When a coat is dry, a notice and a tone say so on whichever screen is open; the page then releases the audio device.
#[tokio::test]
async fn the_drying_alarm_rings_once_and_is_silent_again() {
    /// Hours pass in a moment, and what sounds is counted.
    const HURRY: &str = "
        const wait = window.setTimeout;
        window.setTimeout = (deed, ms, ...of) => wait(deed, ms > 60000 ? 100 : ms, ...of);
        window.sounds = { opened: 0, closed: 0 };
        window.AudioContext = class extends AudioContext {
            constructor() { super(); window.sounds.opened += 1; }
            close() { window.sounds.closed += 1; return super.close(); }
        };";
    let painter = Painter::at_the_door().await;
    painter.click("link", "Run sheet").await;
    painter.reads("Ready on").await;
    painter.driver.execute(HURRY, Vec::new()).await.unwrap();
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter.click("link", "Shelf").await;
    painter.reads("Dry. Next: ").await;
    let sounds = async |which: &str| -> u64 {
        let counted = painter.driver.execute("return window.sounds", Vec::new()).await.unwrap();
        counted.json()[which].as_u64().unwrap()
    };
    painter.until("the sound is given back", async || sounds("closed").await == 1).await;
    assert_eq!(sounds("opened").await, 1);
    painter.leave().await;
}
