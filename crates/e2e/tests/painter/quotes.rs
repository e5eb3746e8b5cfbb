//! A client stands in the shop: a quote, the yes, and the piece that goes on from it.

use serde_json::json;
use thirtyfour::Key;
use warm_blend_e2e::{Hand, Painter};

/// From what the client says to the yes, and on to the piece, without typing anything twice.
async fn a_quote_is_given(painter: &Painter) {
    painter.open("/quotes").await;
    painter.the("image", "The piece as it would look").await;
    painter.reads("What makes the range wide").await;
    painter.reads("Mostly your pace with").await;
    let sum = async || {
        let status = painter.driver.find(thirtyfour::By::Css("[aria-label='The quote'] [role=status]")).await;
        match status {
            Ok(status) => status.text().await.unwrap_or_default(),
            Err(_) => String::new(),
        }
    };
    let before = sum().await;
    painter.choose("What it is", "Sideboard").await;
    painter.until("another sum", async || sum().await != before).await;
    painter.write("textbox", "Width", "1.8 m").await;
    painter.press(Key::Tab).await;
    painter.until("it is read", async || painter.value("textbox", "Width").await == "1800 mm").await;
    painter.choose("How carved", "Carved corners").await;
    painter.choose("Fronts", "Vignetted panel").await;
    painter.write("textbox", "Client", "Ina Holm").await;
    painter.write("textbox", "Name of the piece", "Hall sideboard").await;
    painter.click("button", "Save the quote").await;
    painter.reads("Saved: “Hall sideboard” is the current piece").await;
    painter.reads("waiting for an answer").await;
    painter.click("button", "The client says yes").await;
    assert_eq!(painter.value("textbox", "Name of who says yes").await, "Ina Holm");
    painter.click("button", "Record the yes").await;
    painter.reads("Ina Holm said yes").await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    painter.open("/log").await;
    painter.reads("Ina Holm said yes to").await;
}

#[tokio::test]
async fn a_client_in_the_shop_gets_a_quote() {
    let painter = Painter::at_the_demo().await;
    a_quote_is_given(&painter).await;
    painter.open("/quotes").await;
    painter.the("image", "The piece as it would look").await;
    assert_eq!(painter.pages_on_paper().await, 1);
    // What was told of the piano is beside what was worked on it.
    painter.reads("Village hall committee said yes").await;
    painter.reads("in progress").await;
    painter.leave().await;
}

#[tokio::test]
async fn a_quote_goes_by_keys_alone() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    a_quote_is_given(&painter).await;
    painter.leave().await;
}

/// Terms that cannot be are refused at their field, and the others are saved all the same.
#[tokio::test]
async fn terms_are_set_once() {
    let painter = Painter::at_the_demo().await;
    painter.open("/quotes").await;
    painter.click("DisclosureTriangle", "Your terms").await;
    painter.write("textbox", "Tax", "200").await;
    painter.press(Key::Tab).await;
    painter.reads("use 0 to 60 %").await;
    painter.write("textbox", "Tax", "20").await;
    painter.write("textbox", "Minimum price", "5000").await;
    painter.press(Key::Tab).await;
    painter.reads("this is your minimum price").await;
    painter.open("/quotes").await;
    // (5000 + 45) × 1.2 = 6054, rounded up to ten.
    painter.reads("€6,060.00").await;
    painter.leave().await;
}

/// A job on a workspace of one's own with two tins, from the hourly rate to the touch-up: every screen leads to the next, and nothing is
/// typed twice.
#[tokio::test]
async fn a_whole_job_on_ones_own_workspace() {
    let painter = Painter::at_an_empty_bench().await;
    for (name, hex) in [("house white", "#f0ede6"), ("rain cloud", "#5f7388")] {
        let tin = json!({"name": name, "class": "chalk", "colour": {"hex": hex}});
        painter.meanwhile("POST", "/api/paints", tin).await;
    }
    painter.open("/quotes").await;
    // The first finish that two tins make is offered; the usual one lacks a glaze.
    painter.the("image", "The piece as it would look").await;
    painter.reads("No price yet").await;
    let mut steps = vec![("begins", painter.clicks())];
    painter.choose("What is on it", "White primer").await;
    painter.click("DisclosureTriangle", "Your terms").await;
    painter.write("textbox", "An hour of work", "40").await;
    painter.press(Key::Tab).await;
    painter.gone("status", "No price yet").await;
    painter.write("textbox", "Client", "Ina Holm").await;
    painter.click("button", "Save the quote").await;
    painter.click("button", "The client says yes").await;
    painter.click("button", "Record the yes").await;
    painter.reads("Ina Holm said yes").await;
    steps.push(("a quote", painter.clicks()));

    painter.open("/piece").await;
    painter.click("button", "Drawer fronts").await;
    painter.click("DisclosureTriangle", "More ageing, pattern, surface").await;
    painter.choose("Pattern", "Medallions").await;
    painter.click("checkbox", "Border round each part").await;
    painter.saved().await;
    painter.reads("along the longer sides").await;
    steps.push(("a border", painter.clicks()));

    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    let next = async || {
        let names = painter.names("button").await;
        names.into_iter().find(|name| name.starts_with("Done: ")).expect("a step that can be done")
    };
    while !next().await.contains("coat") {
        let now = next().await;
        painter.click("button", &now).await;
        painter.saved().await;
        painter.until("the next step", async || next().await != now).await;
    }
    let coat = next().await;
    painter.click("button", &coat).await;
    painter.reads(&format!("Last: {}", coat.trim_start_matches("Done: ").to_lowercase())).await;
    steps.push(("the first coat", painter.clicks()));
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");

    painter.open("/piece/touch-up").await;
    painter.write("textbox", "How did it come out?", "nobody will see it").await;
    painter.click("button", "Save the touch-up").await;
    painter.click("link", "Record").await;
    painter.reads("“nobody will see it”").await;
    steps.push(("a touch-up", painter.clicks()));
    for pair in steps.windows(2) {
        println!("{}: {} clicks", pair[1].0, pair[1].1 - pair[0].1);
    }
    painter.leave().await;
}
