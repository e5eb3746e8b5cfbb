//! Millimetres or inches, ml or fl oz, m² or ft², °C or °F: one choice for every screen, never both.

use serde_json::Value;
use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

const METRIC: [&str; 8] = ["mm", "cm", "m", "m²", "cm²", "ml", "l", "°C"];
const IMPERIAL: [&str; 8] = ["in", "ft", "ft²", "in²", "oz", "fl", "qt", "°F"];

/// Numbers on the screen with one of these units after them.
async fn measured_in(painter: &Painter, units: &[&str]) -> Vec<String> {
    let text = painter.text().await;
    let words: Vec<&str> =
        text.split_whitespace().map(|word| word.trim_matches(['(', ')', ',', '.', ';', ':', '·'])).collect();
    let number = |word: &str| {
        word.trim_start_matches(['−', '±']).starts_with(|c: char| c.is_ascii_digit() || "½¼¾".contains(c))
    };
    // “4 in sun” and “2 in 5” are no inches.
    let prose = |pair: &[&str], next: Option<&&str>| {
        pair[1] == "in"
            && next.is_some_and(|next| next.starts_with(|c: char| c.is_lowercase() || c.is_ascii_digit()))
    };
    let pairs = words
        .windows(2)
        .enumerate()
        .filter(|(at, pair)| number(pair[0]) && units.contains(&pair[1]) && !prose(pair, words.get(at + 2)));
    pairs.map(|(_, pair)| pair.join(" ")).collect()
}

/// Each screen in turn, waited for.
async fn every_screen(painter: &Painter, check: impl AsyncFn(&str)) {
    painter.open("/shelf").await;
    painter.click("button", "chimney white").await;
    painter.the("button", "Delete this paint").await;
    check("shelf").await;
    painter.open("/pot").await;
    painter.click("tab", "Mixes 3").await;
    painter.click("link", "drift blue for the case").await;
    painter.reads("Enough for one layer").await;
    check("pot").await;
    painter.click("radio", "Match").await;
    painter.reads("Best of every mix").await;
    check("match").await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    check("board").await;
    painter.open("/piece").await;
    painter.reads("Panels and mouldings clash").await;
    check("piece").await;
    painter.click("button", "Unify").await;
    painter.reads("These bring it together").await;
    check("unify").await;
    painter.open("/piece/sheet").await;
    painter.the("button", "Print").await;
    check("client sheet").await;
    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    for beside in ["Mix", "Buy", "Tools", "Cost"] {
        painter.click("radio", beside).await;
        painter.settled().await;
        check(beside).await;
    }
    painter.open("/log").await;
    painter.reads("Prediction accuracy").await;
    check("log").await;
}

/// The painter chooses once, and no screen says a measure of the other kind.
#[tokio::test]
async fn one_choice_of_units_holds_everywhere() {
    let painter = Painter::at_the_demo().await;
    painter.the("button", "mm: switch to inches").await;
    every_screen(&painter, async |screen: &str| {
        assert_eq!(measured_in(&painter, &IMPERIAL).await, Vec::<String>::new(), "{screen}, metric");
    })
    .await;
    painter.click("button", "mm: switch to inches").await;
    painter.the("button", "in: switch to mm").await;
    every_screen(&painter, async |screen: &str| {
        assert_eq!(measured_in(&painter, &METRIC).await, Vec::<String>::new(), "{screen}, imperial");
    })
    .await;
    painter.leave().await;
}

/// What is typed in one unit is the same in the other; a unit that is typed counts before that of the field.
#[tokio::test]
async fn what_is_typed_keeps_its_size() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "mm: switch to inches").await;
    painter.click("button", "chimney white").await;
    painter.write("textbox", "Amount left, fl oz", "250 ml").await;
    painter.press(Key::Tab).await;
    painter.saved().await;
    let paints = painter.meanwhile("GET", "/api/paints", Value::Null).await;
    let white = paints.as_array().unwrap().iter().find(|paint| paint["entry"]["name"] == "chimney white");
    assert_eq!(white.unwrap()["entry"]["stock_ml"], 250.0);
    painter.open("/run-sheet").await;
    painter.click("button", "Hours and rates").await;
    painter.write("textbox", "Temperature, °F", "41").await;
    painter.press(Key::Tab).await;
    painter.reads("Too cold at 41 °F").await;
    painter.write("textbox", "Temperature, °F", "400").await;
    painter.press(Key::Tab).await;
    painter.reads("400 °F is out of range").await;
    painter.leave().await;
}
