//! Brushes: what is not washed yet, and what to wash in between where there are few.

use serde_json::{Value, json};
use warm_blend_e2e::{Hand, Painter};

async fn sheet(painter: &Painter) -> (String, Value) {
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await["id"].as_str().unwrap().to_owned();
    let path = format!("/api/pieces/{piece}/run-sheet");
    let sheet = painter.meanwhile("GET", &path, Value::Null).await;
    (path, sheet)
}

/// A step is ticked off: its brush is to be washed, and is, in one touch. With one flat brush the day says what to wash out for what.
async fn brushes_are_looked_after(painter: &Painter) {
    let (path, now) = sheet(painter).await;
    let coat = &now["steps"].as_array().unwrap()[0];
    assert!(coat["name"].as_str().unwrap().starts_with("Brushed coat"), "{coat}");
    let done = format!("{path}/done?revision={}", now["revision"]);
    painter.meanwhile("POST", &done, json!({"step": coat["id"]})).await;
    // From Monday on, at whatever hour this runs.
    let (_, now) = sheet(painter).await;
    let today = jiff::tz::TimeZone::system().to_datetime(jiff::Timestamp::now()).date();
    let mut monday = today.tomorrow().unwrap();
    while monday.weekday() != jiff::civil::Weekday::Monday {
        monday = monday.tomorrow().unwrap();
    }
    let mut entry = now["entry"].clone();
    entry["starts"] = json!(monday.to_string());
    painter.meanwhile("PUT", &format!("{path}?revision={}", now["revision"]), entry).await;

    painter.open("/run-sheet").await;
    painter.click("radio", "Tools").await;
    painter.reads("Not washed yet").await;
    painter.click("button", "Washed: Brushed coat, 5 slate blue : 1 barley").await;
    painter.gone("heading", "Not washed yet").await;
    painter.click("DisclosureTriangle", "How many you have").await;
    painter.reads("a shared brush mixes them").await;
    painter.write("textbox", "Good", "1").await;
    painter.press(thirtyfour::Key::Tab).await;
    painter.reads("wash out").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.write("textbox", "Good", "500").await;
    painter.press(thirtyfour::Key::Tab).await;
    painter.reads("at most 99").await;
    let (_, now) = sheet(painter).await;
    let kinds = now["brushes"]["kinds"].as_array().unwrap();
    let flat = kinds.iter().find(|kind| kind["brush"] == "flat").unwrap();
    assert_eq!((&flat["good"], &flat["worn"]), (&json!(1), &json!(0)));
}

#[tokio::test]
async fn brushes_are_washed_and_counted() {
    let painter = Painter::at_the_demo().await;
    brushes_are_looked_after(&painter).await;
    painter.leave().await;
}

#[tokio::test]
async fn brushes_are_washed_and_counted_by_keys() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    brushes_are_looked_after(&painter).await;
    painter.leave().await;
}
