//! The log: a pot found again by word and by colour, made again; a note.

use serde_json::Value;
use warm_blend_e2e::Painter;

/// A mix is found by a word and by its colour, and made again: as much as a touch-up takes goes to the Pot.
#[tokio::test]
async fn a_pot_is_found_and_made_again() {
    let painter = Painter::at_the_door().await;
    painter.click("link", "Log").await;
    painter.reads("5 steps done").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.write("searchbox", "Find in the log", "drifts").await;
    painter.reads("Mixed “drift blue for the case”").await;
    painter.until("only that is left", async || !painter.text().await.contains("5 steps done")).await;
    let page = painter.meanwhile("GET", "/api/log?kinds=mix&search=drift", Value::Null).await;
    let hex =
        page["days"][0]["groups"][0]["entries"][0]["swatch"]["face"]["hex"].as_str().unwrap().to_owned();
    painter.click("button", "Make it again: Mixed “drift blue for the case”: 5 slate blue : 1 barley").await;
    painter.reads("The same parts will do").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.write("textbox", "How much, ml", "a bit").await;
    painter.click("button", "To the Pot").await;
    painter.reads("is not a number").await;
    painter.write("textbox", "How much, ml", "60").await;
    painter.click("button", "To the Pot").await;
    painter.reads("drift blue for the case").await;
    assert_eq!(painter.value("textbox", "Batch").await, "60");

    painter.click("link", "Log").await;
    painter.write("searchbox", "Find in the log", "").await;
    painter.write("textbox", "Looks like", &hex).await;
    painter.reads("ΔE 0").await;
    painter.leave().await;
}

/// A note of the piece at hand is kept, found after a reload, and undone.
#[tokio::test]
async fn a_note_is_kept() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    painter.click("button", "Keep").await;
    painter.reads("nothing to keep").await;
    painter.write("textbox", "Note", "The lid sticks again; plane it before the wax.").await;
    painter.click("button", "Keep").await;
    painter.reads("The lid sticks again").await;
    painter.driver.refresh().await.unwrap();
    painter.reads("The lid sticks again").await;
    painter.click("button", "Undo").await;
    painter.until("it is gone", async || !painter.text().await.contains("The lid sticks again")).await;
    painter.leave().await;
}
