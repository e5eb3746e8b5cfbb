//! The chip at the corner of the door.

use warm_blend_e2e::{Hand, Painter};

/// From the piece to what to dab on in two touches, and into the record and the log.
async fn a_chip_is_touched_up(painter: &Painter) {
    painter.open("/piece").await;
    painter.the("image", "The piece from the front, as it will look").await;
    let before = painter.clicks();
    painter.click("button", "This scheme").await;
    painter.click("menuitem", "Touch up a spot").await;
    painter.reads("Touch up Upright piano").await;
    assert_eq!(painter.clicks() - before, 2);
    painter.reads("5 drops slate blue, 1 drop barley").await;
    painter.reads("Let it dry 12 h").await;
    painter.reads("less than a drop").await;
    painter.click("radio", "A palm").await;
    painter.until("a palm takes more", async || !painter.text().await.contains("less than a drop")).await;
    painter.choose("Part", "Panels").await;
    painter.until("the panels are only primed", async || !painter.text().await.contains("slate blue")).await;
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.write("textbox", "How did it come out?", "a touch lighter").await;
    painter.click("button", "Save the touch-up").await;
    painter.reads("in the record and the log").await;
    painter.click("link", "Record").await;
    painter.reads("Panels, a spot the size of a palm: “a touch lighter”").await;
    painter.open("/log").await;
    painter.reads("Touched up a spot the size of a palm: panels").await;
}

/// From the coat in the log to what to dab on, and from there to the Pot, where a reading of the old finish is the target.
#[tokio::test]
async fn a_chip_is_touched_up_from_the_log() {
    let painter = Painter::at_the_demo().await;
    painter.open("/log").await;
    let coat = "Touch up: Brushed coat, 1 of 2 in 5 slate blue : 1 barley";
    painter.the("button", coat).await;
    let before = painter.clicks();
    painter.click("button", coat).await;
    painter.reads("Touch up Upright piano").await;
    assert_eq!(painter.clicks() - before, 1);
    painter.reads("5 drops slate blue, 1 drop barley").await;
    painter.click("button", "Match the old finish: 5 slate blue : 1 barley").await;
    painter.the("dialog", "Target").await;
    painter.the("combobox", "A reading to match").await;
    assert_eq!(painter.value("textbox", "Batch").await, "5");
    painter.leave().await;
}

#[tokio::test]
async fn a_chip_is_touched_up_in_two_touches() {
    let painter = Painter::at_the_demo().await;
    a_chip_is_touched_up(&painter).await;
    painter.leave().await;
}

#[tokio::test]
async fn a_chip_is_touched_up_by_keys() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    a_chip_is_touched_up(&painter).await;
    painter.leave().await;
}
