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
    painter.the("button", "oat white").await;
    check("shelf").await;
    painter.click("button", "fern").await;
    painter.the("button", "Take it off the shelf").await;
    check("one paint").await;
    painter.click("radio", "L* a* b*").await;
    painter.write("textbox", "L*", "x").await;
    painter.reads("is not a number").await;
    check("one paint with an error").await;
    painter.click("button", "oxblood").await;
    painter.reads("left out").await;
    check("a paint with readings and a question").await;
    painter.click("button", "Tint 1 : 1").await;
    painter.click("button", "Read it").await;
    painter.the("button", "Keep this reading").await;
    check("a test").await;
    painter.click("radio", "From a photo").await;
    painter.reads("Lay a white or grey card").await;
    check("a test by photo").await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Tint test of oxblood, 1 : 1").await;
    painter.click("button", "Files").await;
    painter.click("menuitem", "Import a file…").await;
    painter.the("dialog", "Import a file").await;
    check("import").await;
    painter.open("/pot").await;
    painter.the("heading", "An empty pot").await;
    check("empty pot").await;
    painter.click("tab", "Mixes 3").await;
    check("mixes").await;
    painter.click("link", "soft grey-blue for the case").await;
    painter.reads("3 : 1, 4 parts").await;
    check("pot").await;
    painter.click("radio", "Match").await;
    painter.reads("The best of every mix").await;
    check("match").await;
    painter.click("radio", "Ladder").await;
    painter.reads("off the hue").await;
    check("ladder").await;
    painter.click("radio", "Blend").await;
    painter.click("combobox", "Blend into").await;
    painter.click("option", "mustard seed").await;
    painter.reads("turns green").await;
    check("blend").await;
    painter.click("radio", "Mix").await;
    painter.click("button", "Target").await;
    painter.the("textbox", "Hex code").await;
    check("target").await;
    painter.press(Key::Escape).await;
    painter.click("button", "Keys").await;
    painter.the("dialog", "Keys").await;
    check("keys").await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Keys").await;
    painter.control('k').await;
    painter.the("combobox", "Screen, paint, mix or light").await;
    check("jump").await;
    painter.press(Key::Escape).await;
    painter.size(390, 844).await;
    check("pot on a phone").await;
    painter.open("/shelf").await;
    painter.the("button", "oat white").await;
    check("shelf on a phone").await;
    painter.leave().await;

    let beginner = Painter::at_an_empty_bench().await;
    beginner.the("heading", "Start with your white").await;
    let violations = beginner.violations().await;
    assert!(violations.is_empty(), "empty shelf:\n{}", violations.join("\n"));
    beginner.leave().await;
}
