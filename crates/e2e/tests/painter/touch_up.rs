//! The chip at the corner of the door.

use warm_blend_e2e::{Hand, Painter};

/// From the piece to what to dab on in two touches, and into the log.
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
    painter.click("button", "Write it in the log").await;
    painter.reads("in the log").await;
    painter.open("/log").await;
    painter.reads("Touched up a spot: panels").await;
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
