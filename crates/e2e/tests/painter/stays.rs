//! What stays where it was: across screens, a reload, and a program that was started again.

use serde_json::{Value, json};
use thirtyfour::Key;
use warm_blend_e2e::Painter;

use crate::put_on_the_bench;

/// A photo that colours are being picked from is there again after a reload, its spots where they were put. Once the program has let go
/// of it, that is said, and another can be chosen.
#[tokio::test]
async fn a_photo_in_work_stays() {
    let mut painter = Painter::at_the_demo_on_a_line().await;
    put_on_the_bench(&painter, "toasted straw").await;
    let open = async |painter: &Painter| {
        painter.click("button", "Set a target").await;
        painter.click("button", "Pick it in a photo").await;
    };
    open(&painter).await;
    let photo = image::RgbImage::from_fn(600, 400, |x, _| {
        image::Rgb(if x < 300 { [214; 3] } else { [110, 122, 96] })
    });
    painter.bring("Choose a photo", "wall.png", &crate::png(&photo)).await;
    painter.click("button", "Spot on the card").await;
    painter.the("button", "Spot on the colour").await.focus().await.unwrap();
    painter.press(Key::Right).await;
    let place = async |painter: &Painter| {
        let spot = painter.the("button", "Spot on the colour").await;
        spot.attr("style").await.unwrap().unwrap()
    };
    let put = place(&painter).await;
    painter.driver.refresh().await.unwrap();
    open(&painter).await;
    assert_eq!(place(&painter).await, put);
    // A second photo that cannot be read leaves the first as it is.
    painter.bring("Another photo", "broken.png", b"no photo").await;
    painter.reads("this photo can’t be read").await;
    assert_eq!(place(&painter).await, put);
    // What the system takes away in the middle of a drag (a call, a gesture of its own) ends the drag.
    const CANCELLED: &str = "
        const [spot] = arguments;
        spot.setPointerCapture = () => {};
        const said = (kind, x) => spot.dispatchEvent(new PointerEvent(kind, { bubbles: true, clientX: x, clientY: 300 }));
        said('pointerdown', 500); said('pointercancel', 500); said('pointermove', 700);";
    let spot = painter.the("button", "Spot on the colour").await.to_json().unwrap();
    painter.driver.execute(CANCELLED, vec![spot]).await.unwrap();
    assert_eq!(place(&painter).await, put);
    painter.click("button", "Pick the colour").await;
    painter.the("image", "Picked: #").await;

    painter.restart().await;
    painter.driver.refresh().await.unwrap();
    open(&painter).await;
    painter.reads("no longer available; choose it again").await;
    painter.bring("Choose a photo", "wall.png", &crate::png(&photo)).await;
    painter.click("button", "Spot on the card").await;
    painter.click("button", "Pick the colour").await;
    painter.click("button", "Set as target").await;
    // Its colour was taken: the next photo begins anew.
    painter.the("button", "Target").await;
    painter.leave().await;
}

/// A colour that was picked in a photo and is refused leaves the photo and its spots as they are, and says why.
#[tokio::test]
async fn a_refused_reading_leaves_its_photo() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "fern").await;
    painter.click("button", "Tint 1 : 1").await;
    painter.click("radio", "From a photo").await;
    let photo =
        image::RgbImage::from_fn(600, 400, |x, _| image::Rgb(if x < 300 { [214; 3] } else { [40, 50, 30] }));
    painter.bring("Choose a photo", "dab.png", &crate::png(&photo)).await;
    painter.click("button", "Spot on the card").await;
    painter.click("button", "Pick the colour").await;
    painter.click("button", "Save reading").await;
    painter.reads("is darker than any paint in it").await;
    painter.the("button", "Spot on the dab").await;
    painter.the("image", "Picked: #").await;
    painter.leave().await;
}

/// As far back in the log as one was, after another screen and after a reload.
#[tokio::test]
async fn the_log_stays_where_it_was() {
    let painter = Painter::at_the_demo().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await["id"].clone();
    for n in 0..130 {
        // By turns, so that they are not gathered in one line.
        let piece = if n % 2 == 0 { &piece } else { &Value::Null };
        let note = json!({ "words": format!("note number {n} of many"), "piece": piece });
        painter.meanwhile("POST", "/api/notes", note).await;
    }
    painter.open("/log?kinds=note,agreed").await;
    painter.reads("note number 129 of many").await;
    let oldest = "note number 0 of many";
    assert!(!painter.text().await.contains(oldest), "more than one page");
    painter.click("button", "Older").await;
    painter.reads(oldest).await;
    painter.alt('2').await;
    painter.gone("heading", "Log").await;
    painter.alt('6').await;
    painter.reads(oldest).await;
    painter.driver.refresh().await.unwrap();
    painter.reads(oldest).await;
    painter.leave().await;
}

/// What the dialog says of a reading the log says too, to the digit.
#[tokio::test]
async fn the_log_says_what_the_dialog_said() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "fern").await;
    painter.click("button", "Masstone").await;
    painter.click("button", "Read it").await;
    painter.click("button", "Save reading").await;
    painter.reads("Came out ").await;
    let text = painter.text().await;
    let said = text.lines().find(|line| line.starts_with("Came out ")).unwrap().to_owned();
    assert!(said.contains("ΔE00") && said.contains('±'), "{said}");
    painter.click("button", "Done").await;
    painter.open("/log?kinds=reading,board-reading").await;
    painter.reads(&said).await;
    painter.leave().await;
}

/// A notice leaves free what was pressed: at the foot of the screen, or at its head.
#[tokio::test]
async fn a_notice_does_not_lie_over_what_it_tells_of() {
    let painter = Painter::at_the_demo().await;
    painter.click("button", "oxblood").await;
    let to = async |block: &str| {
        let delete = painter.the("button", "Delete the reading of oxblood 1 : chimney white 1").await;
        let script = format!("arguments[0].scrollIntoView({{block: '{block}'}})");
        painter.driver.execute(&script, vec![delete.to_json().unwrap()]).await.unwrap();
    };
    for (block, above) in [("end", true), ("center", false)] {
        to(block).await;
        painter.click("button", "Delete the reading of oxblood 1 : chimney white 1").await;
        painter.reads("deleted").await;
        painter.settled().await;
        let undo = painter.the("button", "Undo").await.rect().await.unwrap();
        assert_eq!(undo.y < 400.0, above, "{undo:?}");
        painter.click("button", "Undo").await;
        painter.the("button", "Delete the reading of oxblood 1 : chimney white 1").await;
    }
    painter.leave().await;
}

/// A slider moved by keys is one step of undo, however many keys.
#[tokio::test]
async fn keys_on_a_slider_are_one_step_back() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.click("button", "Dry brush").await;
    let slider = painter.the("slider", "Passes").await;
    let now = async || slider.attr("aria-valuenow").await.unwrap().unwrap();
    let before = now().await;
    slider.focus().await.unwrap();
    // In one go: on a slow machine, keys that are sent one by one come further apart than a hand's.
    painter.press(String::from(char::from(Key::Right)).repeat(3)).await;
    assert_ne!(now().await, before);
    painter.saved().await;
    painter.control('z').await;
    painter.until("all keys are taken back at once", async || now().await == before).await;
    painter.leave().await;
}

/// A picture that is tapped twice marks no text around it.
#[tokio::test]
async fn a_double_click_on_a_picture_marks_nothing() {
    let painter = Painter::at_the_door().await;
    let picture = painter.the("image", "The piece from the front, as it will look").await;
    let actions = painter.driver.action_chain();
    actions.double_click_element(&picture).perform().await.unwrap();
    let marked = painter.driver.execute("return String(getSelection())", vec![]).await.unwrap();
    assert_eq!(marked.json().as_str(), Some(""));
    painter.leave().await;
}

/// A screen is scrolled to where it was, after another screen and after a reload.
#[tokio::test]
async fn a_screen_stays_scrolled_to_where_it_was() {
    let painter = Painter::at_the_demo().await;
    painter.open("/log").await;
    painter.the("heading", "Prediction accuracy").await;
    let part = "document.querySelector('main [aria-label=\"What was done\"]')";
    let scrolled = async || {
        let top = painter.driver.execute(&format!("return {part}?.scrollTop ?? 0"), vec![]).await.unwrap();
        top.json().as_f64().unwrap()
    };
    // The list may be shorter than that when it comes.
    painter
        .until("it is scrolled", async || {
            painter.driver.execute(&format!("{part}.scrollTop = 400"), vec![]).await.unwrap();
            scrolled().await == 400.0
        })
        .await;
    painter.alt('2').await;
    painter.the("heading", "Shelf").await;
    painter.alt('6').await;
    painter.until("it is there again", async || scrolled().await == 400.0).await;
    painter.driver.refresh().await.unwrap();
    painter.until("it is there again", async || scrolled().await == 400.0).await;
    painter.leave().await;
}

/// Control-Z undoes the last change wherever the cursor is, but for where somebody types.
#[tokio::test]
async fn control_z_undoes_from_a_checkbox_too() {
    let painter = Painter::at_the_demo().await;
    painter.meanwhile("POST", "/api/notes", json!({ "words": "the lid sticks again" })).await;
    painter.open("/log").await;
    painter.reads("the lid sticks again").await;
    painter.the("checkbox", "About Upright piano").await.focus().await.unwrap();
    painter.control('z').await;
    painter.until("it is undone", async || !painter.text().await.contains("the lid sticks again")).await;
    painter.leave().await;
}
