//! WCAG 2.2 AA on every view.

use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

#[tokio::test]
async fn the_interface_is_open_to_everyone() {
    let painter = Painter::at_the_demo().await;
    let check = async |what: &str| {
        let violations = painter.violations().await;
        assert!(violations.is_empty(), "{what}:\n{}", violations.join("\n"));
    };
    // A main view at the width of a tablet and of a phone too, and back.
    let at_every_width = async |what: &str| {
        for (width, height) in [(1024, 768), (390, 844), (1280, 800)] {
            painter.size(width, height).await;
            painter.settled().await;
            check(&format!("{what}, {width} wide")).await;
        }
    };
    painter.the("button", "oat white").await;
    at_every_width("shelf").await;
    painter.open("/about").await;
    painter.reads("MIT").await;
    at_every_width("about").await;
    painter.open("/backups").await;
    painter.the("button", "Back up now").await;
    at_every_width("backups").await;
    painter.open("/shelf").await;
    painter.click("button", "fern").await;
    painter.the("button", "Delete this paint").await;
    at_every_width("one paint").await;
    painter.click("radio", "L* a* b*").await;
    painter.write("textbox", "L*", "x").await;
    painter.reads("is not a number").await;
    check("one paint with an error").await;
    painter.click("button", "oxblood").await;
    painter.reads("not used").await;
    check("a paint with readings and a question").await;
    painter.click("button", "Tint 1 : 1").await;
    painter.click("button", "Read it").await;
    painter.the("button", "Save reading").await;
    check("a test").await;
    painter.click("radio", "From a photo").await;
    painter.reads("Photograph the dry dab next to a white or grey card").await;
    check("a test by photo").await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Tint test of oxblood, 1 : 1").await;
    painter.click("button", "Files").await;
    painter.click("menuitem", "Import a file…").await;
    painter.the("dialog", "Import a file").await;
    check("import").await;
    painter.open("/pot").await;
    painter.the("heading", "Empty pot").await;
    check("empty pot").await;
    painter.click("tab", "Mixes 3").await;
    at_every_width("mixes").await;
    painter.click("link", "drift blue for the case").await;
    painter.reads("5 : 1, 6 parts").await;
    at_every_width("pot").await;
    painter.click("radio", "Match").await;
    painter.reads("Best of every mix").await;
    at_every_width("match").await;
    painter.click("radio", "Ladder").await;
    painter.reads("hue shift").await;
    at_every_width("ladder").await;
    painter.click("radio", "Blend").await;
    painter.click("combobox", "Blend into").await;
    painter.click("option", "mustard seed").await;
    painter.reads("turns green").await;
    at_every_width("blend").await;
    painter.click("radio", "Mix").await;
    painter.click("button", "Target").await;
    painter.the("textbox", "Hex code").await;
    check("target").await;
    painter.press(Key::Escape).await;
    painter.click("button", "Why?").await;
    painter.the("region", "Readings it rests on").await;
    check("why").await;
    painter.escape("Why this colour?").await;
    painter.click("button", "Help").await;
    painter.the("dialog", "Help").await;
    check("help").await;
    for tab in ["Words", "Keyboard shortcuts"] {
        painter.click("tab", tab).await;
        painter.until("its contents are there", async || !painter.text().await.contains("Drawing…")).await;
        check(tab).await;
    }
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Help").await;
    painter.control('k').await;
    painter.the("combobox", "Screen, paint, mix or light").await;
    check("jump").await;
    painter.press(Key::Escape).await;
    painter.open("/board").await;
    painter.the("heading", "Sample boards").await;
    at_every_width("boards").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    painter.click("button", "Sand back").await;
    painter.the("slider", "Rubbing").await;
    at_every_width("board").await;
    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    painter.click("radio", "Cost").await;
    painter.reads("Asking price").await;
    at_every_width("run sheet").await;
    painter.open("/log").await;
    painter.reads("Prediction accuracy").await;
    painter.the("list", "What was learned of it").await;
    at_every_width("log").await;
    painter.open("/piece").await;
    painter.reads("Panels and mouldings clash").await;
    at_every_width("piece").await;
    painter.click("button", "Unify").await;
    painter.reads("These bring it together").await;
    check("unify").await;
    painter.click("button", "Close").await;
    painter.click("button", "Dimensions").await;
    painter.the("dialog", "Dimensions").await;
    check("dimensions").await;
    painter.press(Key::Escape).await;
    painter.click("button", "Brief").await;
    painter.the("dialog", "Brief").await;
    check("brief").await;
    painter.press(Key::Escape).await;
    painter.open("/piece/sheet").await;
    painter.the("button", "Print").await;
    at_every_width("client sheet").await;
    painter.open("/piece/on-photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    at_every_width("on a photo").await;
    painter.click("button", "Move the marks").await;
    painter.the("button", "Show the finish").await;
    at_every_width("marks on a photo").await;
    painter.leave().await;

    let beginner = Painter::at_an_empty_bench().await;
    beginner.the("heading", "Start with your white").await;
    let violations = beginner.violations().await;
    assert!(violations.is_empty(), "empty shelf:\n{}", violations.join("\n"));
    beginner.open("/piece").await;
    beginner.the("heading", "What is it?").await;
    let violations = beginner.violations().await;
    assert!(violations.is_empty(), "empty piece:\n{}", violations.join("\n"));
    beginner.leave().await;
}

/// Who works by keys lands at the beginning of the screen they went to, whose name is in the title; arrow keys choose within a group.
#[tokio::test]
async fn keys_and_readers_know_where_they_are() {
    let painter = Painter::at_the_demo().await;
    painter.the("button", "oat white").await;
    for screen in ["Pot", "Board", "Run sheet", "Log", "Piece", "Shelf"] {
        painter.click("link", screen).await;
        let at = "return [document.activeElement.id, document.title]";
        painter
            .until(&format!("{screen} has the focus and the title"), async || {
                let now = painter.driver.execute(at, vec![]).await.unwrap();
                now.json() == &serde_json::json!(["screen", format!("{screen} – Warm Blend")])
            })
            .await;
    }
    painter.the("radio", "Daylight").await.focus().await.unwrap();
    for light in ["Sun", "North shade"] {
        painter
            .hold(Key::Right, &format!("{light} is chosen"), async || {
                painter.the("radio", light).await.attr("aria-checked").await.unwrap().as_deref()
                    == Some("true")
            })
            .await;
    }
    painter.leave().await;
}
