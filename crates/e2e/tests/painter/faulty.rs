//! A line that loses, delays and mangles: afterwards page and file agree, and nothing that was typed is missing.

use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;

use serde_json::{Value, json};
use warm_blend_e2e::{Mishap, Painter};

use crate::put_on_the_bench;

/// Nearly every change meets something on its way; questions are late.
fn a_bad_line(painter: &Painter) {
    let mishaps = [
        Some(Mishap::LoseAnswer),
        None,
        Some(Mishap::Answer(502)),
        Some(Mishap::LoseRequest),
        None,
        Some(Mishap::BreakAnswer),
        Some(Mishap::Late(Duration::from_millis(600))),
        Some(Mishap::Answer(413)),
    ];
    let asked = AtomicUsize::new(0);
    painter.line().fails(move |method, path| {
        if !path.starts_with("/api/") || path == "/api/changes" {
            return None;
        }
        let question = ["/bench/", "/preview", "/picture"].iter().any(|of| path.contains(of));
        if method == "GET" || question {
            return Some(Mishap::Late(Duration::from_millis(20)));
        }
        mishaps[asked.fetch_add(1, Ordering::Relaxed) % mishaps.len()]
    });
}

async fn at(painter: &Painter, path: &str) -> Value {
    painter.meanwhile("GET", path, Value::Null).await
}

async fn id_here(painter: &Painter) -> String {
    painter.driver.current_url().await.unwrap().path_segments().unwrap().next_back().unwrap().to_owned()
}

#[tokio::test]
async fn a_pot_over_a_bad_line() {
    let painter = Painter::at_the_demo_on_a_line().await;
    put_on_the_bench(&painter, "toasted straw").await;
    let mix = format!("/api/mixes/{}", id_here(&painter).await);
    a_bad_line(&painter);
    for parts in 2..8 {
        painter.click("button", "One part more of brick dust").await;
        painter.reads(&format!("2 : {parts} : 2, {} parts", parts + 4)).await;
    }
    painter.write("textbox", "Name of the mix", "straw by the fire").await;
    painter.press(thirtyfour::Key::Enter).await;
    painter.saved().await;
    let kept = at(&painter, &mix).await;
    assert_eq!(kept["entry"]["name"], "straw by the fire");
    assert_eq!(kept["entry"]["components"][1]["parts"], 7);
    assert!(!painter.text().await.contains("was also changed elsewhere"));

    painter.click("button", "Start pouring").await;
    painter.the("button", "Finish pouring").await;
    let pours = at(&painter, "/api/pours").await;
    let open = pours.as_array().unwrap().iter().filter(|pour| pour["open"] == true).count();
    assert_eq!(open, 1, "{pours}");
    painter.line().works();
    painter.leave().await;
}

#[tokio::test]
async fn a_board_and_a_piece_over_a_bad_line() {
    let painter = Painter::at_the_demo_on_a_line().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    let board = format!("/api/boards/{}", id_here(&painter).await);
    let before = at(&painter, &board).await["entry"]["strips"][0]["layers"].as_array().unwrap().len();
    a_bad_line(&painter);
    for _ in 0..3 {
        painter.click("button", "Add layer").await;
    }
    painter.saved().await;
    let kept = at(&painter, &board).await;
    assert_eq!(kept["entry"]["strips"][0]["layers"].as_array().unwrap().len(), before + 3);

    painter.open("/piece").await;
    painter.click("button", "Brief").await;
    painter.write("textbox", "Client", "M. Ashdown").await;
    painter.write("textbox", "Hours", "31").await;
    painter.press(thirtyfour::Key::Escape).await;
    painter.saved().await;
    let brief = at(&painter, "/api/piece").await["entry"]["brief"].clone();
    assert_eq!((&brief["client"], brief["hours"].as_f64()), (&json!("M. Ashdown"), Some(31.0)));
    painter.line().works();
    painter.leave().await;
}

#[tokio::test]
async fn a_run_sheet_and_the_log_over_a_bad_line() {
    let painter = Painter::at_the_demo_on_a_line().await;
    let piece = at(&painter, "/api/piece").await["id"].as_str().unwrap().to_owned();
    let sheet = format!("/api/pieces/{piece}/run-sheet");
    let before = at(&painter, &sheet).await["done"].as_array().unwrap().len();
    painter.open("/run-sheet").await;
    painter.the("button", "Done: ").await;
    let done = painter.names("button").await.into_iter().find(|name| name.starts_with("Done: ")).unwrap();
    a_bad_line(&painter);
    painter.click("button", &done.replace("Done: ", "Time, note or photo: ")).await;
    painter.write("textbox", "Note", "took the whole morning").await;
    painter.click("button", &done).await;
    painter
        .until("it is ticked off", async || {
            at(&painter, &sheet).await["done"].as_array().unwrap().len() > before
        })
        .await;
    let after = at(&painter, &sheet).await;
    assert_eq!(after["done"].as_array().unwrap().len(), before + 1);
    assert_eq!(after["done"][0]["note"], "took the whole morning");

    painter.open("/log").await;
    for note in ["first coat covers", "second one too", "third for luck"] {
        painter.write("textbox", "Note", note).await;
        painter.click("button", "Add note").await;
        painter.until("it is kept", async || painter.value("textbox", "Note").await.is_empty()).await;
    }
    let log = at(&painter, "/api/log?kinds=note").await.to_string();
    for note in ["first coat covers", "second one too", "third for luck"] {
        assert_eq!(log.matches(note).count(), 1, "{note}");
    }
    painter.line().works();
    painter.leave().await;
}

/// The program is killed between saving and answering, and started again.
#[tokio::test]
async fn a_program_killed_before_its_answer() {
    let mut painter = Painter::at_the_demo_on_a_line().await;
    put_on_the_bench(&painter, "toasted straw").await;
    let mix = format!("/api/mixes/{}", id_here(&painter).await);
    painter.line().fails(|method, _| (method == "PUT").then_some(Mishap::LoseAnswer));
    painter.click("button", "One part more of brick dust").await;
    painter.reads("Not saved yet: trying again").await;
    painter.line().fails(|method, _| (method == "PUT").then_some(Mishap::LoseRequest));
    painter.restart().await;
    painter.click("button", "One part more of brick dust").await;
    painter.line().works();
    painter.saved().await;
    assert_eq!(at(&painter, &mix).await["entry"]["components"][1]["parts"], 3);
    assert!(!painter.text().await.contains("was also changed elsewhere"));
    painter.leave().await;
}

/// What the file takes of an entry is saved, what it refuses stays until it is put right, wherever one goes in the meantime.
#[tokio::test]
async fn what_is_refused_takes_nothing_else_with_it() {
    let painter = Painter::at_the_demo_on_a_line().await;
    painter.open("/shelf").await;
    painter.click("button", "fern").await;
    let paint = format!("/api/paints/{}", id_here(&painter).await);
    painter.write("textbox", "Coats to cover", "99").await;
    painter.write("textbox", "Price", "12").await;
    painter.write("textbox", "Tin, ml", "250").await;
    painter.reads("Not saved").await;
    let fern = async || at(&painter, &paint).await["entry"].clone();
    painter.until("the price is saved", async || fern().await["price"]["amount"] == 12.0).await;
    assert_ne!(fern().await["coats_to_hide"], 99.0);

    painter.alt('6').await;
    painter.the("textbox", "Note").await;
    painter.driver.refresh().await.unwrap();
    painter.click("link", "Put it right").await;
    painter
        .until("what was typed is there", async || painter.value("textbox", "Coats to cover").await == "99")
        .await;
    painter.write("textbox", "Coats to cover", "2").await;
    painter.saved().await;
    assert_eq!(fern().await["coats_to_hide"], 2.0);
    painter.leave().await;
}

/// Notes and half a tin outlast leaving the screen and a reload, and what a field holds is saved when its screen goes.
#[tokio::test]
async fn what_is_typed_outlasts_its_screen() {
    let painter = Painter::at_the_demo().await;
    painter.open("/log").await;
    painter.write("textbox", "Note", "half a thought").await;
    painter.alt('2').await;
    painter.click("button", "Add a paint").await;
    painter.write("textbox", "Name", "heather").await;
    painter.alt('1').await;
    painter.click("button", "Dimensions").await;
    painter.the("textbox", "Height").await;
    painter.write("textbox", "Height", "812 mm").await;
    painter.press(thirtyfour::Key::Escape).await;
    painter.saved().await;
    painter.driver.refresh().await.unwrap();
    painter.click("button", "Dimensions").await;
    painter
        .until("the height is kept", async || painter.value("textbox", "Height").await.starts_with("812"))
        .await;
    painter.press(thirtyfour::Key::Escape).await;
    painter.open("/log").await;
    painter
        .until("the note is there", async || painter.value("textbox", "Note").await == "half a thought")
        .await;
    painter.open("/shelf").await;
    painter.click("button", "Add a paint").await;
    painter.until("the tin is there", async || painter.value("textbox", "Name").await == "heather").await;
    painter.leave().await;
}

/// What another window saves is seen within a second.
#[tokio::test]
async fn windows_follow_each_other() {
    let painter = Painter::at_the_demo().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    let path = format!("/api/mixes/{}", id_here(&painter).await);
    let kept = at(&painter, &path).await;
    let mut entry = kept["entry"].clone();
    entry["components"][0]["parts"] = json!(4);
    painter.meanwhile("PUT", &format!("{path}?revision={}", kept["revision"]), entry).await;
    painter.reads("4 : 1 : 2, 7 parts").await;
    painter.leave().await;
}

/// Where nothing can be predicted the screen says so and shows what was put together, never what was there before.
#[tokio::test]
async fn the_screen_shows_what_was_asked() {
    let painter = Painter::at_the_demo_on_a_line().await;
    put_on_the_bench(&painter, "toasted straw").await;
    painter.reads("2 : 1 : 2, 5 parts").await;
    painter.line().fails(|_, path| path.ends_with("/preview").then_some(Mishap::Answer(502)));
    painter.click("button", "One part more of brick dust").await;
    painter.reads("Not predicted").await;
    painter.reads("2 : 2 : 2, 6 parts").await;
    painter.line().works();
    painter.click("button", "Try again").await;
    painter.until("it is predicted", async || !painter.text().await.contains("Not predicted")).await;

    painter.line().fails(|_, path| path.ends_with("/picture").then_some(Mishap::Answer(502)));
    painter.open("/piece").await;
    painter.reads("Couldn’t draw the picture").await;
    painter.line().works();
    painter.click("button", "Draw it again").await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.leave().await;
}

/// Under a page of an older build the program was replaced: the screens it knows of are gone, and it loads itself anew.
#[tokio::test]
async fn a_page_of_an_older_build_loads_itself_anew() {
    let painter = Painter::at_the_demo_on_a_line().await;
    painter.without_cache().await;
    let pages = AtomicUsize::new(0);
    painter.line().fails(move |_, path| {
        if path == "/shelf" || path == "/log" {
            pages.fetch_add(1, Ordering::Relaxed);
        }
        let older = pages.load(Ordering::Relaxed) < 2;
        (older && path.starts_with("/assets/Log-")).then_some(Mishap::Answer(404))
    });
    painter.open("/shelf").await;
    painter.click("link", "Log").await;
    painter.the("heading", "Log").await;
    painter.leave().await;
}

/// The page opens even while the program is unreachable, says so, and recovers once it is back. Only the page is cached, so no
/// outdated entries are shown.
#[tokio::test]
async fn the_page_opens_without_the_program() {
    let painter = Painter::at_the_demo_on_a_line().await;
    painter.reads("chimney white").await;
    painter
        .until("the service worker has the page", async || {
            let ready = "return navigator.serviceWorker.controller !== null";
            painter.driver.execute(ready, vec![]).await.is_ok_and(|ready| ready.json() == &Value::Bool(true))
        })
        .await;
    // Once more, so that it passes through the worker.
    painter.driver.refresh().await.unwrap();
    painter.reads("chimney white").await;
    painter.line().fails(|_, _| Some(Mishap::LoseRequest));
    painter.open("/shelf").await;
    painter.reads("Warm Blend isn’t responding").await;
    assert!(!painter.text().await.contains("chimney white"));
    painter.line().works();
    painter.reads("chimney white").await;
    painter.leave().await;
}
