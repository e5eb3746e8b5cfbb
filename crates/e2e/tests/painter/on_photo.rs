//! The finish on a photo of the piece: marked by mouse, touch and keys, seen before and after, and kept as a picture.

use std::time::Duration;

use serde_json::Value;
use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

/// Corners of a face of the first photo, as they are saved.
async fn corners(painter: &Painter, face: usize) -> Vec<[f64; 2]> {
    let answer: Value =
        reqwest::get(format!("{}/api/piece", painter.base)).await.unwrap().json().await.unwrap();
    serde_json::from_value(answer["entry"]["photos"][0]["faces"][face]["corners"].clone()).unwrap_or_default()
}

const LEFT: &str = "Front, upper left corner: move it with the arrow keys";
const RIGHT: &str = "Front, upper right corner: move it with the arrow keys";

#[tokio::test]
async fn a_piece_is_seen_in_its_finish_on_a_photo() {
    let painter = Painter::at_the_door().await;
    painter.click("link", "On a photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    let finish =
        async || painter.the_computed("image", "The piece in its finish").await.attr("src").await.unwrap();
    let first = finish().await;
    painter.click("radio", "pale trim").await;
    let other = async || finish().await != first;
    painter.until_within(Duration::from_secs(60), "the other scheme is shown", other).await;
    painter.tab_to("slider", "Show the piece as it is").await;
    painter.press(Key::End).await;
    painter.the("image", "The piece as it is").await;
    let bar = painter.the("slider", "Show the piece as it is").await;
    assert_eq!(bar.attr("aria-valuetext").await.unwrap().as_deref(), Some("100 % of the width"));
    painter.click("radio", "Side by side").await;
    painter.gone("slider", "Show the piece as it is").await;

    // It fills the screen, and is looked at from close by.
    painter.click("button", "Full screen").await;
    painter.the("dialog", "Upright piano and stool, village hall").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.click("button", "Zoom in").await;
    painter.press(Key::Escape).await;
    painter.gone("dialog", "Upright piano and stool, village hall").await;

    // What is saved as a file is a picture of the whole photo.
    let watch = "window.kept = undefined;
        HTMLAnchorElement.prototype.click = function () { window.kept = this.download; };";
    painter.driver.execute(watch, Vec::new()).await.unwrap();
    painter.click("button", "Save the picture").await;
    painter.the("button", "Drawing the picture").await;
    // A large fine picture takes a while where nothing is optimised.
    let named = async || {
        let kept = painter.driver.execute("return window.kept ?? ''", Vec::new()).await.unwrap();
        kept.json().as_str().unwrap_or_default().to_owned()
    };
    let saved = async || !named().await.is_empty();
    painter.until_within(Duration::from_secs(120), "the picture is saved", saved).await;
    assert!(named().await.ends_with("on a photo, daylight.png"), "{}", named().await);
    painter.the("button", "Save the picture").await;
    painter.leave().await;
}

/// A part is chosen on the photo and aged by keys; the picture follows, and what brings the parts together is shown on it too.
#[tokio::test]
async fn a_part_is_dressed_on_the_photo() {
    let painter = Painter::at_the_door().await;
    painter.open("/piece/on-photo").await;
    let finish =
        async || painter.the_computed("image", "The piece in its finish").await.attr("src").await.unwrap();
    painter.choose("Part", "Panels").await;
    painter.the("region", "Finish of panels").await;
    let before = finish().await;
    painter.tab_to("slider", "Grime").await;
    painter.press(Key::End).await;
    let follows = async || finish().await != before;
    painter.until_within(Duration::from_secs(60), "the picture follows", follows).await;
    painter.saved().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let scheme = &piece["entry"]["schemes"][piece["entry"]["chosen"].as_u64().unwrap() as usize];
    assert_eq!(scheme["wears"]["panels"]["ageing"]["grime"], 1.0, "{scheme}");

    // A touch on another part takes that in hand: the middle of the photo shows the fall or what is beside it.
    let picture = painter.the("image", "The piece in its finish").await;
    let hand = painter.driver.action_chain().move_to_element_center(&picture).click();
    hand.perform().await.unwrap();
    painter.gone("region", "Finish of panels").await;

    painter.click("button", "Unify").await;
    painter.the("list", "Ways").await;
    painter.click("button", "Apply").await;
    painter.saved().await;
    painter.the("region", "Over all").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.leave().await;
}

#[tokio::test]
async fn faces_are_marked_by_keys_mouse_and_touch() {
    let painter = Painter::at_the_door().await;
    painter.with_touchscreen().await;
    painter.open("/piece/on-photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.click("button", "Move the marks").await;
    painter.the("button", LEFT).await;
    let before = corners(&painter, 0).await;

    // A key moves a corner by a thousandth of the width.
    painter.tab_to("button", LEFT).await;
    painter.press(Key::Right).await;
    painter
        .until("it has moved by a key", async || {
            (corners(&painter, 0).await[0][0] - before[0][0] - 0.001).abs() < 1e-9
        })
        .await;

    // A mouse sets it down about where it belongs: it snaps to the corner of the piece.
    let handle = painter.the("button", LEFT).await;
    let hand = painter.driver.action_chain().move_to_element_center(&handle).click_and_hold();
    hand.move_by_offset(7, 5).release().perform().await.unwrap();
    let near = |at: [f64; 2], to: [f64; 2]| (at[0] - to[0]).hypot(at[1] - to[1]);
    painter
        .until("it has snapped", async || {
            let now = corners(&painter, 0).await;
            now[0][0] != before[0][0] + 0.001 && near(now[0], before[0]) < 0.012
        })
        .await;

    // A finger drags another.
    let middle = async |name: &str| {
        let rect = painter.the("button", name).await.rect().await.unwrap();
        (rect.x + rect.width / 2.0, rect.y + rect.height / 2.0)
    };
    let (x, y) = middle(RIGHT).await;
    painter.touch("touchStart", &[(x, y)]).await;
    painter.touch("touchMove", &[(x - 30.0, y + 40.0)]).await;
    painter.touch("touchMove", &[(x - 60.0, y + 80.0)]).await;
    painter.touch("touchEnd", &[]).await;
    painter
        .until("it has moved by a finger", async || near(corners(&painter, 0).await[1], before[1]) > 0.05)
        .await;

    // Undone, all is as it was.
    for _ in 0..3 {
        painter.saved().await;
        painter.click("button", "Undo").await;
    }
    painter.until("it is as it was", async || corners(&painter, 0).await == before).await;
    painter.leave().await;
}

/// A part that lies elsewhere than in the drawing is put there by keys and by mouse; the drawing is taken back in one touch.
#[tokio::test]
async fn a_part_is_put_where_it_is_on_the_piece() {
    let painter = Painter::at_the_door().await;
    painter.open("/piece/on-photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.click("button", "Move the marks").await;
    painter.click("radio", "Parts").await;
    painter.choose("Part", "Panels 1").await;
    let handle = "Panels 1, lower right corner: move it with the arrow keys";
    painter.tab_to("button", handle).await;
    painter.press(Key::Left).await;
    let moved = async || {
        let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
        piece["entry"]["moved"].clone()
    };
    painter
        .until("it is moved by a key", async || moved().await.as_array().is_some_and(|all| all.len() == 1))
        .await;
    let by_key = moved().await;
    painter.settled().await;
    let at = painter.the("button", handle).await;
    let hand = painter.driver.action_chain().move_to_element_center(&at).click_and_hold();
    hand.move_by_offset(-12, -8).release().perform().await.unwrap();
    painter
        .until("it is moved by mouse", async || {
            let now = moved().await;
            now[0]["within"][2].as_f64() < by_key[0]["within"][2].as_f64()
                && now.as_array().unwrap().len() == 1
        })
        .await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "All parts as drawn").await;
    painter.until("it is as drawn", async || moved().await.is_null()).await;
    painter.leave().await;
}

#[tokio::test]
async fn another_photo_is_marked_from_a_guess() {
    let painter = Painter::at_the_door().await;
    painter.open("/piece/on-photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.click("button", "Simulated camera").await;
    painter.click("menuitem", "Green chest in a shed").await;
    painter.the("button", LEFT).await;
    painter.click("radio", "Card").await;
    painter.reads("This looks like the card").await;
    // A surface of known colour serves instead of the card.
    painter.click("radio", "Known colour").await;
    painter.write("textbox", "Hex code", "#eeeae0").await;
    painter.saved().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    assert_eq!(piece["entry"]["photos"][1]["card"]["colour"]["hex"], "#eeeae0", "{piece}");
    painter.click("radio", "White card").await;
    // What stands in front is drawn round.
    painter.click("radio", "In front").await;
    painter.click("button", "Draw an outline").await;
    painter.click("button", "Add a point").await;
    painter.tab_to("button", "Outline, point 5: move it with the arrow keys").await;
    painter.press(Key::Left).await;
    painter.saved().await;
    painter.click("button", "Show the finish").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.click("button", "Remove photo").await;
    painter
        .until("the first is left", async || {
            painter.names("radio").await.iter().all(|name| name != "Photo 2")
        })
        .await;
    painter.click("button", "Remove photo").await;
    painter.reads("See the finish on the piece itself").await;
    painter.the_computed("image", "The piece from the corner, as it will look").await;
    painter.bring("Choose a photo", "torn.png", b"no photo").await;
    painter.the("alert", "").await;
    painter.leave().await;
}

/// Dimensions that the marks contradict are said, with those that fit, and adopted in one touch.
#[tokio::test]
async fn dimensions_that_the_photo_contradicts_are_adopted_from_it() {
    let painter = Painter::at_the_door().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let (id, revision) = (piece["id"].as_str().unwrap(), &piece["revision"]);
    let mut entry = piece["entry"].clone();
    let height = entry["form"]["height"].as_f64().unwrap();
    entry["form"]["height"] = serde_json::json!((height * 0.75).round());
    painter.meanwhile("PUT", &format!("/api/pieces/{id}?revision={revision}"), entry).await;
    painter.open("/piece/on-photo").await;
    painter.reads("By the marks the piece is").await;
    painter.click("button", "Use the dimensions of the photo").await;
    painter.gone("button", "Use the dimensions of the photo").await;
    painter.saved().await;
    let now = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let adopted = now["entry"]["form"]["height"].as_f64().unwrap();
    assert!((adopted / height - 1.0).abs() < 0.05, "{adopted} for {height}");
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.leave().await;
}
