//! Sample boards: begun from a finish, mended, branched, looked at layer by layer.

use serde_json::Value;
use thirtyfour::prelude::*;
use warm_blend_e2e::Painter;

async fn kept(painter: &Painter) -> Value {
    let address = painter.driver.current_url().await.unwrap();
    let id = address.path_segments().unwrap().next_back().unwrap().to_owned();
    painter.meanwhile("GET", &format!("/api/boards/{id}"), Value::Null).await
}

/// Begins a five-layer aged finish over clay-type paint.
async fn aged_dove_grey(painter: &Painter) {
    painter.open("/board").await;
    painter.write("textbox", "Name", "aged grey trial").await;
    painter.choose("Main colour", "dove").await;
    painter.click("button", "Create board").await;
    painter.the("image", "Strip A as it will look").await;
}

/// An aged finish of five layers: its glaze would lift the clay-type paint, the fix is taken, three wax strips branch, the
/// painted board is read and the next prediction moves.
#[tokio::test]
async fn a_finish_is_begun_mended_branched_and_read() {
    let painter = Painter::at_the_demo().await;
    aged_dove_grey(&painter).await;
    let board = kept(&painter).await;
    assert_eq!(board["entry"]["strips"][0]["layers"].as_array().unwrap().len(), 5);
    painter.reads("Will fail: this will lift the clay-type paint below").await;
    painter.click("button", "Add clear coat below").await;
    painter.saved().await;
    painter.until("the warning is gone", async || !painter.text().await.contains("Will fail")).await;
    let layers = kept(&painter).await["entry"]["strips"][0]["layers"].clone();
    assert_eq!((layers.as_array().unwrap().len(), &layers[1]["technique"]), (6, &Value::from("clear-coat")));

    for letter in ["B", "C"] {
        painter.click("radio", "Strip A").await;
        painter.click("button", "New strip from this one").await;
        painter.the("image", &format!("Strip {letter} as it will look")).await;
        painter.click("button", "Clear wax").await;
        painter.choose("Technique", "Tinted").await;
        painter.choose("Paint or mix", if letter == "B" { "peat" } else { "oat" }).await;
        painter.saved().await;
    }
    let strips = kept(&painter).await["entry"]["strips"].clone();
    assert_eq!(strips.as_array().unwrap().len(), 3);
    assert_eq!(strips[2]["from"], serde_json::json!({"strip": "A", "after": 5}));
    painter.click("button", "Side by side").await;
    painter.the("image", "All strips side by side").await;
    painter.click("button", "Side by side").await;
    // What the strips share is put on once: muted on one, it is gone from all.
    painter.click("radio", "Strip B").await;
    let recess = || painter.text();
    let before = recess().await;
    painter.click("button", "Wiped glaze").await;
    painter.click("button", "Hide: Wiped glaze").await;
    painter.reads("hidden").await;
    painter.until("the places change", async || recess().await != before).await;
    painter.click("radio", "Strip C").await;
    painter.reads("hidden").await;
    painter.control('z').await;
    painter.until("the glaze is on again", async || !painter.text().await.contains("hidden")).await;
    painter.click("radio", "Strip A").await;
    read_and_learn(&painter).await;
    painter.leave().await;
}

/// A ready finish is chosen by its picture and begun; its texture is smoothed by the slider, and a raking light is put on.
#[tokio::test]
async fn a_ready_finish_with_texture_by_a_raking_light() {
    let painter = Painter::at_the_door().await;
    painter.open("/board").await;
    painter.the("heading", "Ready finishes").await;
    painter.click("button", "Cross-brushed, dark wax").await;
    painter.reads("Brush strokes left standing in all directions").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "Create board").await;
    let image = painter.the("image", "Strip A as it will look").await;
    painter.reads("Standing brush strokes need more paint").await;

    painter.click("button", "Shadows").await;
    painter.drawn_finely().await;
    let drawn = image.attr("src").await.unwrap();
    painter.click("radio", "Raking").await;
    painter.until("it is drawn anew", async || image.attr("src").await.unwrap() != drawn).await;
    painter.the("slider", "Light from").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("radio", "None").await;
    painter.gone("slider", "Light from").await;
    painter.click("button", "Done").await;

    let coats = kept(&painter).await["entry"]["strips"][0]["layers"].clone();
    assert_eq!(coats[1]["hand"]["texture"], 140.0);
    painter.click("button", "Brushed coat").await;
    painter.tab_to("slider", "Texture").await;
    painter.press(Key::Home).await;
    painter.saved().await;
    painter
        .until("the strokes are gone", async || !painter.text().await.contains("Standing brush strokes"))
        .await;
    painter.control('z').await;
    painter.reads("Standing brush strokes").await;
    painter.leave().await;
}

/// What is cut out of the stencil of a ready finish is chosen, drawn and kept, and undo takes it back.
#[tokio::test]
async fn a_stencil_of_rosettes() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("button", "Half-worn stencil").await;
    painter.click("button", "Create board").await;
    let image = painter.the("image", "Strip A as it will look").await;
    painter.drawn_finely().await;
    let source = async || image.attr("src").await.unwrap();
    painter.until("it is drawn", async || source().await.is_some()).await;
    let clover = source().await;
    painter.click("button", "Stencil").await;
    painter.choose("Pattern", "Rosettes").await;
    painter.saved().await;
    painter.until("it is drawn anew", async || source().await != clover).await;
    let motif = async || {
        let layers = kept(&painter).await["entry"]["strips"][0]["layers"].clone();
        let layers = layers.as_array().unwrap().clone();
        layers.iter().find(|layer| layer["technique"] == "stencil").unwrap()["motif"].clone()
    };
    assert_eq!(motif().await, "rosette");
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.control('z').await;
    painter.until("it is clover again", async || motif().await.is_null()).await;
    painter.leave().await;
}

/// The field of strip A as it is predicted: its L*.
async fn predicted_field(painter: &Painter) -> f64 {
    let board = kept(painter).await;
    let seen = painter.meanwhile("POST", "/api/boards/preview", board["entry"].clone()).await;
    seen["places"][0]["seen"]["lab"][0].as_f64().unwrap()
}

/// The real board is read at three places by the simulated reader, and the next prediction moves; undo moves it back.
async fn read_and_learn(painter: &Painter) {
    let before = predicted_field(painter).await;
    painter.click("radio", "Read the real board").await;
    for place in ["flat", "recess", "edge"] {
        painter.click("button", &format!("Read the {place}")).await;
        painter.reads(&format!("{place}: predicted, then 1 read")).await;
    }
    painter.click("button", "Calibrate to me from these 3 spots").await;
    painter.reads("Your touch on this board").await;
    painter.reads("times as thick as usual").await;
    painter.reads("for a usual touch").await;
    let after = predicted_field(painter).await;
    assert!((after - before).abs() > 0.05, "the prediction does not move: {before} to {after}");
    painter.control('z').await;
    painter.until("the reading is gone", async || !painter.text().await.contains("for a usual touch")).await;
    assert!((predicted_field(painter).await - before).abs() < 1e-9);
}

/// A board too dark: a way back is chosen by what it would do, put on, and the field is lighter.
#[tokio::test]
async fn a_board_gone_wrong_is_mended() {
    let painter = Painter::at_the_demo().await;
    aged_dove_grey(&painter).await;
    let before = predicted_field(&painter).await;
    painter.click("radio", "Fix a problem").await;
    painter.choose("The problem", "Too dark").await;
    painter.reads("Remove the wax, then a thin wash of").await;
    painter.click("button", "Apply: Remove the wax, then a thin wash of").await;
    painter.saved().await;
    painter.until("it is lighter", async || predicted_field(&painter).await > before + 1.0).await;

    // Another school distresses it before the glaze goes on.
    painter.click("radio", "Other methods").await;
    painter.reads("Distress before or after the glaze?").await;
    painter.click("button", "Apply: Distress before the glaze").await;
    painter.saved().await;
    painter.reads("Distress after the glaze").await;
    painter.leave().await;
}

/// Film and coverage by hand, how a layer falls on another, and what it does seen before and after.
#[tokio::test]
async fn a_layer_is_set_by_hand() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    painter.click("button", "Wiped glaze").await;
    painter.click("button", "Set the film myself").await;
    painter.write("textbox", "Film on the flat, µm", "25").await;
    painter.press(Key::Enter).await;
    painter.reads("flat: 25 µm on 100").await;
    painter.write("textbox", "Coverage, flat, %", "140").await;
    painter.press(Key::Enter).await;
    painter.reads("0 to 100").await;
    painter.write("textbox", "Coverage, flat, %", "60").await;
    painter.press(Key::Enter).await;
    painter.saved().await;
    painter.choose("Where it lands on the layers below", "Beside: Brushed coat, 5").await;
    painter.saved().await;
    let layer = kept(&painter).await["entry"]["strips"][0]["layers"][3].clone();
    assert_eq!(layer["print"]["film"]["field"].as_f64(), Some(25.0));
    assert_eq!(layer["meets"]["how"], "avoids");

    painter.click("button", "Before and after").await;
    painter.reads("Before | after: Wiped glaze").await;
    painter.the("slider", "Divider between before and after").await.focus().await.unwrap();
    painter.press(Key::End).await;
    painter.click("button", "Before and after").await;
    painter.click("button", "Compare two strips").await;
    painter.reads("Strip A beside strip B").await;
    painter.click("radio", "Strip C").await;
    painter.reads("Strip A beside strip C").await;
    painter.leave().await;
}

/// The layers go on one by one by keyboard; undo takes back what was changed.
#[tokio::test]
async fn layers_go_on_one_by_one() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    painter.reads("All layers").await;
    painter.the("slider", "Layers that are on").await.focus().await.unwrap();
    painter.press(Key::Home).await;
    painter.reads("The bare ground").await;
    painter.reads("One colour").await;
    painter.press(Key::Right).await;
    painter.reads("Up to: Brushed coat").await;
    painter.press(Key::End).await;
    painter.reads("All layers").await;

    painter.click("button", "Dry brush").await;
    painter.the("slider", "Passes").await.focus().await.unwrap();
    painter.press(Key::Right).await;
    painter.reads("2 times").await;
    painter.saved().await;
    painter.control('z').await;
    painter.until("it is as it was", async || !painter.text().await.contains("2 times")).await;
    painter.leave().await;
}

/// What was read elsewhere is typed: the engine says how it looks on the screen, and what no surface can have is refused where it
/// stands.
#[tokio::test]
async fn a_typed_reading_is_shown_by_the_engine() {
    let painter = Painter::at_the_demo().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.click("radio", "Read the real board").await;
    painter.click("radio", "Type it").await;
    let button = painter.the("button", "Add it").await;
    assert!(!button.is_enabled().await.unwrap());
    painter.click("radio", "L* a* b*").await;
    for (label, value) in [("L*", "53,585"), ("a*", "180"), ("b*", "0")] {
        painter.write("textbox", label, value).await;
    }
    painter.click("button", "Add it").await;
    painter.reads("no surface").await;
    painter.write("textbox", "a*", "0").await;
    painter.click("button", "Add it").await;
    // A middle grey (IEC 61966-2-1).
    painter.reads("predicted, then 1 read").await;
    painter.the("image", "Read on the flat: #808080").await;
    painter.leave().await;
}

/// On a tablet a layer is held and carried to its place, and a picture is pulled closer by two fingers.
#[tokio::test]
async fn fingers_carry_a_layer_and_pull_a_picture_closer() {
    let painter = Painter::at_the_demo().await;
    painter.with_touchscreen().await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    painter.settled().await;
    let list = painter.the("list", "Layers, from the top down").await;
    let rows = list.find_all(By::Tag("li")).await.unwrap();
    let names = async || list.text().await.unwrap();
    let before = names().await;
    let middle = async |row: &WebElement| {
        let at = row.rect().await.unwrap();
        (at.x + 0.5 * at.width, at.y + 0.5 * at.height)
    };
    let [from, to] = [middle(&rows[0]).await, middle(&rows[1]).await];
    painter.touch("touchStart", &[from]).await;
    painter
        .until("it is lifted", async || rows[0].class_name().await.unwrap().unwrap().contains("shadow"))
        .await;
    painter.touch("touchMove", &[((from.0 + to.0) / 2.0, (from.1 + to.1) / 2.0)]).await;
    painter.touch("touchMove", &[(to.0, to.1 + 4.0)]).await;
    painter
        .until("the other makes room", async || {
            rows[1].attr("style").await.unwrap().unwrap_or_default().contains("translate")
        })
        .await;
    painter.touch("touchEnd", &[]).await;
    painter.reads("Dropped Clear wax at position 2 of 8").await;
    painter.until("it lies lower", async || names().await != before).await;
    painter.saved().await;
    painter.click("button", "Undo").await;
    painter.until("it lies where it did", async || names().await == before).await;

    painter.click("button", "Full screen").await;
    let back = painter.the("button", "Zoom out").await;
    assert!(!back.is_enabled().await.unwrap());
    painter.touch("touchStart", &[(560.0, 400.0), (720.0, 400.0)]).await;
    for apart in [100.0, 140.0, 180.0] {
        painter.touch("touchMove", &[(640.0 - apart, 400.0), (640.0 + apart, 400.0)]).await;
    }
    painter.touch("touchEnd", &[]).await;
    painter.until("it came closer", async || back.is_enabled().await.unwrap()).await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.leave().await;
}
