//! What is left of a pot goes into a jar, and is used up.

use serde_json::{Value, json};
use warm_blend_e2e::{Hand, Painter};

use crate::put_on_the_bench;

/// Some paint is taken out of a jar, its amount and its faults are corrected, and it is thrown away and brought back.
async fn a_rest_is_kept_and_used(painter: &Painter) {
    painter.open("/jars").await;
    // What is to be seen to comes first.
    painter.click("link", "toasted straw").await;
    painter.reads("60 ml left").await;
    painter.reads("Frost spoils water-based paint").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.write("textbox", "Take out, ml", "20 ml").await;
    painter.click("button", "Take out").await;
    painter.reads("40 ml left").await;
    painter.reads("Taken so far").await;
    // More than was poured cannot be left.
    painter.write("textbox", "In the jar, ml", "900").await;
    painter.click("button", "Save").await;
    painter.reads("at most 70.0 ml can be left of this pot").await;
    painter.write("textbox", "In the jar, ml", "35").await;
    painter.click("checkbox", "Stood in frost").await;
    painter.click("button", "Save").await;
    painter.reads("35 ml left").await;
    painter.until("it is good", async || !painter.text().await.contains("Frost spoils")).await;
    painter.click("button", "It’s thrown away").await;
    painter.the("heading", "Jars").await;
    painter.gone("heading", "unheated shed").await;
    painter.control('z').await;
    painter.the("heading", "unheated shed").await;
}

#[tokio::test]
async fn a_jar_is_used_by_mouse() {
    let painter = Painter::at_the_demo().await;
    a_rest_is_kept_and_used(&painter).await;
    painter.leave().await;
}

#[tokio::test]
async fn a_jar_is_used_by_keys() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    a_rest_is_kept_and_used(&painter).await;
    painter.leave().await;
}

/// By shelf and by client, from the shelf in one click; the labels fill a sheet of paper.
#[tokio::test]
async fn jars_are_found_and_labelled() {
    let painter = Painter::at_the_demo().await;
    painter.click("link", "5 jars, 2 to see to").await;
    painter.reads("2 jars need a look").await;
    painter.the("heading", "shelf 2").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.click("radio", "By client").await;
    painter.the("heading", "Village hall committee").await;
    painter.click("link", "Labels").await;
    painter.until("five labels", async || painter.names("article").await.len() == 5).await;
    assert_eq!(painter.pages_on_paper().await, 1);
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.leave().await;
}

/// The run sheet uses a jar before anything is mixed, and Match offers one that is near the target.
#[tokio::test]
async fn jars_come_before_mixing() {
    let painter = Painter::at_the_demo().await;
    painter.open("/run-sheet").await;
    painter.reads("First use 140 ml from jar").await;
    // What is ticked off is out of the jar.
    painter.click("button", "Done: Brushed coat, 2 of 2").await;
    painter.click("DisclosureTriangle", "7 of").await;
    painter.reads("ml from jar").await;
    put_on_the_bench(&painter, "drift blue for the case").await;
    painter.click("radio", "Match").await;
    painter.reads("In a jar already").await;
    painter.click("button", "Use this jar").await;
    painter.saved().await;
    painter.leave().await;
}

/// An empty workspace says how a jar comes about, and the pot that was just finished becomes one.
#[tokio::test]
async fn the_first_jar() {
    let painter = Painter::at_an_empty_bench().await;
    painter.open("/jars").await;
    painter.reads("No jars yet").await;
    let paint = json!({"name": "rain cloud", "class": "chalk", "colour": {"hex": "#8899aa"}});
    let paint = painter.meanwhile("POST", "/api/paints", paint).await["id"].clone();
    let mix = json!({"name": "rain", "components": [{"paint": paint, "parts": 1}]});
    let mix = painter.meanwhile("POST", "/api/mixes", mix).await["id"].clone();
    let pour = painter.meanwhile("POST", "/api/pours", json!({"mix": mix, "batch_ml": 200})).await;
    let at = format!("/api/pours/{}", pour["id"].as_str().unwrap());
    let step =
        json!({"id": "0190a0a0-0000-4000-8000-000000000001", "paint": paint, "measure": "ml", "count": 200});
    painter.meanwhile("POST", &format!("{at}/steps"), step).await;
    painter.meanwhile("POST", &format!("{at}/finish"), Value::Null).await;

    painter.open(&format!("/pot/{}", mix.as_str().unwrap())).await;
    painter.click("link", "Keep the rest of").await;
    painter.reads("Keep the rest of rain").await;
    painter.write("textbox", "In the jar, ml", "1/2 l").await;
    painter.click("button", "Keep it in a jar").await;
    painter.reads("at most 200.0 ml can be left of this pot").await;
    painter.write("textbox", "In the jar, ml", "120").await;
    painter.write("textbox", "Where it stands", "shelf 2").await;
    painter.write("textbox", "Kept for", "Ina Holm").await;
    painter.click("button", "Keep it in a jar").await;
    painter.reads("120 ml left").await;
    painter.click("button", "Take all of it").await;
    painter.reads("It is empty.").await;
    painter.leave().await;
}
