//! The piece: described, dressed, judged, brought together, shown to the client.

use serde_json::{Value, json};
use thirtyfour::prelude::*;
use warm_blend_e2e::{Hand, Painter};

async fn piece(painter: &Painter) -> Value {
    painter.meanwhile("GET", "/api/piece", Value::Null).await["entry"].clone()
}

async fn prediction(painter: &Painter) -> Value {
    let entry = piece(painter).await;
    painter.meanwhile("POST", "/api/piece/preview", entry).await
}

fn off(answer: &Value) -> usize {
    answer["pairs"].as_array().unwrap().iter().filter(|pair| pair["stands"] != "in").count()
}

async fn picture(painter: &Painter) -> String {
    painter.drawn_finely().await;
    let picture = painter.the("image", "The piece from the front, as it will look").await;
    picture.attr("src").await.unwrap().unwrap_or_default()
}

async fn two_pictures(painter: &Painter) {
    painter
        .until("two pictures stand beside each other", async || {
            painter.names("image").await.iter().filter(|name| name.starts_with("The piece")).count() == 2
        })
        .await;
}

/// A chest of drawers from its dimensions, dressed from two boards; its neighbours fight, a treatment brings them together.
#[tokio::test]
async fn a_chest_is_described_dressed_and_brought_together() {
    let painter = Painter::at_the_door().await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.click("button", "Dimensions").await;
    painter.choose("What it is", "Chest of drawers").await;
    painter.write("textbox", "Width", "1100").await;
    painter.press(Key::Tab).await;
    painter.write("textbox", "Rows of drawers", "40").await;
    painter.press(Key::Tab).await;
    painter.reads("rows of drawers can be 1 to 12").await;
    painter.write("textbox", "Rows of drawers", "3").await;
    painter.press(Key::Tab).await;
    painter.saved().await;
    let form = piece(&painter).await["form"].clone();
    assert_eq!((form["width"].as_f64(), form["drawers"].as_u64()), (Some(1100.0), Some(3)));
    painter.escape("Dimensions").await;

    for (zone, finish) in [
        ("Drawer fronts", "rubbed oat white for the trim"),
        ("Hardware", "rubbed oat white for the trim"),
        ("Top", "aged drift blue for the case, strip B"),
        ("Plinth", "aged drift blue for the case, strip B"),
    ] {
        painter.click("button", zone).await;
        painter.the("region", &format!("Finish of {}", zone.to_lowercase())).await;
        painter.choose("Finish", finish).await;
        painter.saved().await;
    }
    painter.reads("Case and drawer fronts clash").await;
    painter.settled().await;
    let before = (off(&prediction(&painter).await), picture(&painter).await);
    assert!(before.0 > 0);

    painter.click("button", "Unify").await;
    painter.reads("These bring it together, surest first").await;
    painter.click("button", "Apply").await;
    painter.saved().await;
    painter.reads("It holds together").await;
    painter.settled().await;
    assert_eq!(off(&prediction(&painter).await), 0);
    assert_ne!(picture(&painter).await, before.1);
    painter.the("button", "Remove").await;
    // What was laid over is taken off by undo, and put on again.
    painter.control('z').await;
    painter.until("it is off again", async || off(&prediction(&painter).await) == before.0).await;
    painter.reads("clash").await;
    painter.control('y').await;
    painter.reads("It holds together").await;

    // Two schemes side by side, then the page for the client.
    painter.click("button", "Compare").await;
    painter.the("dialog", "The schemes side by side").await;
    two_pictures(&painter).await;
    painter.press(Key::Escape).await;
    painter.click("link", "Client sheet").await;
    painter.the("button", "Print").await;
    painter.reads("for Village hall committee").await;
    // On the photo of the piece, since there is one.
    painter.the("image", "The piece as it is").await;
    painter.the_computed("image", "The piece in its finish").await;
    painter.settled().await;
    assert_eq!(painter.pages_on_paper().await, 1);
    painter.leave().await;
}

/// What the piece has below a finish is chosen where the zone is dressed: what that does to the colour is said, and old paint is tested for
/// lead on the run sheet. How carved a part is changes the hours.
#[tokio::test]
async fn the_ground_and_the_carving_belong_to_the_piece() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Panels").await;
    painter.click("DisclosureTriangle", "More ageing, pattern, surface").await;
    painter.choose("On the piece below it", "On old paint").await;
    painter.saved().await;
    painter.reads("The board lay on dark red stain").await;
    let worn = piece(&painter).await["schemes"][0]["wears"]["panels"].clone();
    assert_eq!(worn["ground"]["kind"], "old-paint");
    painter.click("button", "Dimensions").await;
    painter.click("DisclosureTriangle", "Carving, areas and edges by hand").await;
    painter.choose("Carving of panels", "Carved all over").await;
    painter.saved().await;
    assert_eq!(piece(&painter).await["corrections"]["panels"]["carved"], "all-over");
    painter.escape("Dimensions").await;
    painter.settled().await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("link", "Run sheet").await;
    painter.reads("Test for lead").await;
    painter.leave().await;
}

/// A part takes a plain paint without a board, and one touch dresses the whole piece in it; undo takes that back.
#[tokio::test]
async fn one_touch_dresses_the_whole_piece() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Top").await;
    painter.choose("Finish", "Plain paint").await;
    painter.choose("Paint", "oxblood").await;
    painter.saved().await;
    painter.reads("Top\noxblood").await;
    let dressed = async || {
        let answer = prediction(&painter).await;
        let zones = answer["zones"].as_array().unwrap().clone();
        let painted = zones.iter().filter(|zone| zone["zone"] != "unpainted");
        painted.filter(|zone| zone["wears"].as_str().unwrap().starts_with("oxblood")).count()
    };
    assert_eq!(dressed().await, 1);
    // Sides that wear what the case does have no finish of their own to give.
    painter.click("button", "Sides").await;
    painter.reads("Same finish as the front").await;
    painter.gone("button", "Dress every part like this").await;
    painter.click("button", "Top").await;
    painter.click("button", "Dress every part like this").await;
    painter.reads("Every part wears oxblood. Undo takes it back.").await;
    painter.saved().await;
    assert_eq!(dressed().await, 8);
    painter.reads("It holds together").await;
    painter.control('z').await;
    painter.reads("Panels and mouldings clash").await;
    assert_eq!(dressed().await, 1);
    painter.leave().await;
}

/// A zone in a blend of three colours, made older by a slider under the keys.
#[tokio::test]
async fn a_zone_goes_from_colour_to_colour_and_ages() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Fall and shelf").await;
    painter.choose("Finish", "A blend of colours").await;
    painter.choose("Colour 1", "slate blue").await;
    painter.choose("Colour 2", "duck egg").await;
    painter.click("button", "Another colour").await;
    painter.choose("Colour 3", "oat white").await;
    painter.click("radio", "Across").await;
    painter.saved().await;
    let worn = |entry: &Value| entry["schemes"][0]["wears"]["fall"].clone();
    let blend = worn(&piece(&painter).await)["wears"]["blend"].clone();
    assert_eq!(blend["way"], "across");
    let at: Vec<f64> = blend["bands"].as_array().unwrap().iter().map(|b| b["at"].as_f64().unwrap()).collect();
    assert_eq!(at, [0.0, 0.5, 1.0]);
    let grime = painter.the("slider", "Grime").await;
    grime.send_keys(Key::End + "").await.unwrap();
    painter.saved().await;
    assert_eq!(worn(&piece(&painter).await)["ageing"]["grime"].as_f64(), Some(1.0));
    painter.leave().await;
}

/// The fall takes the colour of the panels through a stencil; sides go back to what the case wears.
#[tokio::test]
async fn a_pattern_answers_from_the_opposite_part() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Panels").await;
    let before = picture(&painter).await;
    painter.click("DisclosureTriangle", "More ageing, pattern, surface").await;
    painter.choose("Pattern", "Rosettes").await;
    painter.choose("Colour of the pattern", "Same as the case").await;
    painter.write("textbox", "Repeats on each part", "2").await;
    painter.press(Key::Enter).await;
    painter.saved().await;
    painter.reads("2 repeats, ").await;
    painter.until("the picture shows it", async || picture(&painter).await != before).await;
    let answer = prediction(&painter).await;
    let zone = |id: &str| {
        let zones = answer["zones"].as_array().unwrap().clone();
        zones.into_iter().find(|zone| zone["zone"] == id).unwrap()
    };
    assert!(zone("panels")["wears"].as_str().unwrap().ends_with(", with rosettes"), "{answer}");
    // It fades towards one end, and its centre lines are said.
    let before = picture(&painter).await;
    painter.the("slider", "How far the pattern fades").await.focus().await.unwrap();
    painter.press(Key::End).await;
    painter.the("slider", "Where along it is strongest").await.focus().await.unwrap();
    painter.press(Key::Home).await;
    painter.saved().await;
    painter.until("the picture shows it faded", async || picture(&painter).await != before).await;
    let kept = piece(&painter).await["schemes"][0]["wears"]["panels"]["stencil"]["fade"].clone();
    assert_eq!((kept["weakest"].as_f64(), kept["along"].as_f64()), (Some(0.0), Some(0.0)));
    painter.click("DisclosureTriangle", "Where to mark centre lines").await;
    painter.the("list", "Centre lines, measured from one end").await;
    assert_eq!(zone("sides")["carried_from"], "Case");
    painter.click("button", "Sides").await;
    painter.choose("Finish", "Leave as it is").await;
    painter.saved().await;
    painter.choose("Finish", "Same as the case").await;
    painter.reads("Same finish as the front").await;
    painter.saved().await;
    painter.leave().await;
}

/// A border of petals round the fall, by hand, with edges of their own, sanded in: in the picture, on the template with its corner, and on the
/// run sheet.
async fn a_border_is_painted_by_hand(painter: &Painter) {
    painter.open("/piece").await;
    painter.click("button", "Fall").await;
    let before = picture(painter).await;
    painter.choose("Pattern", "Sprays of petals").await;
    painter.click("checkbox", "Border round each part").await;
    painter.saved().await;
    painter.write("textbox", "From the edge of the part", "10").await;
    painter.press(Key::Enter).await;
    painter.click("checkbox", "Painted by hand, without a stencil").await;
    painter.click("button", "Shade the edges").await;
    painter.the("combobox", "Colour of the edges").await;
    painter.click("button", "Wisp another colour over it").await;
    painter.the("combobox", "Wisped colour 2").await;
    painter.click("checkbox", "Petal by petal: colours take turns").await;
    painter.the("combobox", "Colour 2").await;
    painter.choose("Once it is on", "Sanded in once dry").await;
    painter.the("slider", "How much of the pattern is taken off").await;
    painter.saved().await;
    painter.reads("along the longer sides").await;
    painter.until("the picture shows it", async || picture(painter).await != before).await;
    let kept = piece(painter).await["schemes"][0]["wears"]["fall"]["stencil"].clone();
    assert_eq!(kept["around"], json!({"inset": 10, "corner": "corner"}), "{kept}");
    assert_eq!((&kept["by_hand"], &kept["softened"]["how"]), (&json!(true), &json!("sanded")), "{kept}");
    assert_eq!((&kept["in_turn"], kept["wisps"].as_array().unwrap().len()), (&json!(true), 1), "{kept}");
    assert!(!kept["edge"].as_array().unwrap().is_empty(), "{kept}");
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");
    painter.click("link", "Template to print").await;
    painter.reads("Template: sprays of petals and corner flourishes").await;
    painter.the("image", "Corner flourishes at true size").await;
    painter.open("/run-sheet").await;
    painter.reads("Painted by hand").await;
}

#[tokio::test]
async fn a_border_is_painted_by_hand_with_a_mouse() {
    let painter = Painter::at_the_demo().await;
    a_border_is_painted_by_hand(&painter).await;
    painter.leave().await;
}

#[tokio::test]
async fn a_border_is_painted_by_hand_by_keys() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    a_border_is_painted_by_hand(&painter).await;
    painter.leave().await;
}

/// A word is cut, in the colours of the panels in one touch, every second one mirrored; a drawing is brought instead. What cannot be cut
/// says why, and leaves the pattern as it was.
#[tokio::test]
async fn a_pattern_of_ones_own() {
    let painter = Painter::at_the_demo().await;
    painter.open("/piece").await;
    painter.click("button", "Fall").await;
    let kept =
        async |painter: &Painter| piece(painter).await["schemes"][0]["wears"]["fall"]["stencil"].clone();
    let before = picture(&painter).await;
    painter.click("DisclosureTriangle", "A word or your own drawing").await;
    painter.write("textbox", "Word", "ورد").await;
    painter.click("button", "Cut it").await;
    painter.reads("the lettering has no “و”").await;
    painter.write("textbox", "Word", "moss").await;
    painter.click("button", "Cut it").await;
    painter.the("image", "Cut-out: moss").await;
    painter.choose("Colours of", "Colours of the panels").await;
    painter.click("checkbox", "Mirror every second repeat").await;
    painter.saved().await;
    painter.until("the picture shows it", async || picture(&painter).await != before).await;
    let word = kept(&painter).await;
    assert_eq!((&word["own"]["name"], &word["mirrored"]), (&json!("moss"), &json!(true)));
    assert!(!word["wisps"].as_array().unwrap().is_empty(), "{word}");
    let violations = painter.violations().await;
    assert!(violations.is_empty(), "{violations:#?}");

    let svg = |inside: &str| format!("<svg xmlns='http://www.w3.org/2000/svg'>{inside}</svg>");
    for (wrong, why) in [
        (svg("<script>alert(1)</script>"), "contains a script"),
        (svg("<image href='http://example.org/a.png'/>"), "contains a picture"),
        (svg("<path d='M0 0L9 9'/>"), "enclose no area"),
        (svg(&format!("<path d='M0 0{}z'/>", "l1 1".repeat(250_000))), "the most is 256 kB"),
        ("no drawing".to_owned(), "not an SVG drawing"),
    ] {
        painter.bring("Bring an SVG drawing", "wrong.svg", wrong.as_bytes()).await;
        painter.reads(why).await;
    }
    assert_eq!(kept(&painter).await["own"], word["own"], "nothing of it was taken");
    painter
        .bring("Bring an SVG drawing", "leaf.svg", svg("<path d='M0 0Q9 0 9 9Q0 9 0 0z'/>").as_bytes())
        .await;
    painter.the("image", "Cut-out: leaf").await;
    painter.saved().await;
    assert_eq!(kept(&painter).await["own"]["name"], "leaf");
    painter.click("link", "Template to print").await;
    painter.the("image", "leaf at true size").await;
    painter.leave().await;
}

/// Dimensions in inches: what is typed counts, in whatever unit.
#[tokio::test]
async fn a_piece_is_measured_in_inches() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "mm: switch to inches").await;
    painter.reads("ft²").await;
    painter.click("button", "Dimensions").await;
    painter.write("textbox", "Width", "5 ft 1/2").await;
    painter.press(Key::Enter).await;
    painter.saved().await;
    let reads = |text: &'static str| {
        let painter = &painter;
        async move || painter.value("textbox", "Width").await == text
    };
    painter.until("the width is said in inches", reads("60 1/2 in")).await;
    assert_eq!(piece(&painter).await["form"]["width"].as_f64(), Some(60.5 * 25.4));
    painter.write("textbox", "Width", "wide").await;
    painter.press(Key::Enter).await;
    painter.reads("a number with mm, cm, m, in or ft").await;
    painter.write("textbox", "Width", "150 cm").await;
    painter.press(Key::Enter).await;
    painter.until("centimetres are inches", reads("59 in")).await;
    assert_eq!(piece(&painter).await["form"]["width"].as_f64(), Some(1500.0));
    painter.leave().await;
}

/// The piece on the whole screen is stepped up to, and back from.
#[tokio::test]
async fn a_piece_is_looked_at_from_close_by() {
    let painter = Painter::at_the_door().await;
    let small = picture(&painter).await;
    painter.click("button", "Full screen").await;
    let shown = async || picture(&painter).await;
    painter.until("it fills the screen", async || shown().await != small).await;
    let whole = shown().await;
    painter.click("button", "Zoom in").await;
    painter.until("it is closer", async || shown().await != whole).await;
    let close = shown().await;
    painter.click("button", "Move down").await;
    painter.until("it is lower", async || shown().await != close).await;
    painter.the("image", "The piece from the front, as it will look").await.click().await.unwrap();
    painter.click("button", "Zoom out").await;
    painter.click("button", "Zoom out").await;
    let back = painter.the("button", "Zoom out").await;
    painter.until("it is whole again", async || !back.is_enabled().await.unwrap()).await;
    assert!(painter.violations().await.is_empty());
    painter.leave().await;
}

/// The photo the client brought stays with the brief, across a reload.
#[tokio::test]
async fn a_brief_shows_the_clients_photo() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Brief").await;
    let wall = image::RgbImage::from_pixel(300, 200, image::Rgb([150, 140, 120]));
    painter.bring("Reference photo", "broken.png", b"no photo").await;
    painter.the("alert", "").await;
    painter.bring("Reference photo", "wall.png", &crate::png(&wall)).await;
    painter.the("image", "What it should be like").await;
    painter.saved().await;
    assert!(piece(&painter).await["brief"]["photo"].is_string());
    painter.open("/piece").await;
    painter.click("button", "Brief").await;
    let photo = painter.the("image", "What it should be like").await;
    painter
        .until("the photo is there", async || {
            photo.prop("naturalWidth").await.ok().flatten().as_deref() == Some("300")
        })
        .await;
    painter.click("button", "Remove the photo").await;
    painter.gone("image", "What it should be like").await;
    painter.saved().await;
    painter.leave().await;
}

/// Another piece is taken to hand, and one is begun.
#[tokio::test]
async fn pieces_are_one_key_away() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Switch piece").await;
    painter.click("menuitem", "Stool, village hall").await;
    painter.the("button", "Seat").await;
    assert_eq!(piece(&painter).await["form"]["kind"], "stool");
    assert_eq!(painter.value("textbox", "Piece").await, "Stool, village hall");
    painter.click("button", "Switch piece").await;
    painter.click("menuitem", "New piece").await;
    painter.the("heading", "What is it?").await;
    painter.click("button", "Chest of drawers").await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.click("button", "Switch piece").await;
    painter.click("menuitem", "Delete New piece").await;
    painter.until("another is at hand", async || piece(&painter).await["name"] != "New piece").await;
    painter.leave().await;
}

/// A workspace with nothing in it asks first what the piece is.
#[tokio::test]
async fn a_new_workspace_asks_what_it_is() {
    let painter = Painter::at_an_empty_bench().await;
    painter.open("/").await;
    painter.the("heading", "What is it?").await;
    painter.click("button", "Table").await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.click("radio", "Top").await;
    painter.the("image", "The piece from the top, as it will look").await;
    assert_eq!(piece(&painter).await["form"]["kind"], "table");
    painter.leave().await;
}

/// Who has nothing of their own yet looks round in the demo, and comes back to what they had.
#[tokio::test]
async fn a_new_workspace_offers_the_demo_to_look_round_in() {
    let painter = Painter::at_an_empty_bench().await;
    painter.open("/").await;
    painter.the("button", "Try the demo").await;
    painter.open("/shelf").await;
    painter.click("button", "Try the demo").await;
    painter.the("image", "The piece from the front, as it will look").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("link", "Back to your own work").await;
    painter.the("heading", "What is it?").await;
    assert_eq!(piece(&painter).await["name"], "Untitled piece");
    painter.leave().await;
}

/// From a corner the piece is turned by a hand on it and by keys; a smaller picture follows the hand, and the corner is remembered.
#[tokio::test]
async fn a_piece_is_turned_by_hand_and_by_keys() {
    let painter = Painter::at_the_door().await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.click("radio", "Corner").await;
    let seen = painter.the("image", "The piece from the corner, as it will look").await;
    let before = seen.attr("src").await.unwrap();
    let turn = async || {
        painter.the("slider", "Turn").await.attr("aria-valuetext").await.unwrap().unwrap_or_default()
    };
    assert_eq!(turn().await, "35° to the right");
    let hand = painter.driver.action_chain().move_to_element_center(&seen).click_and_hold();
    hand.move_by_offset(100, 0).move_by_offset(50, 0).release().perform().await.unwrap();
    painter.until("it has turned by a hand", async || turn().await.ends_with("to the left")).await;
    let turned = turn().await;
    painter
        .until("a picture of the size of the screen takes the place of the drafts", async || {
            let after = painter.the("image", "The piece from the corner, as it will look").await;
            let width = after.prop("naturalWidth").await.unwrap();
            after.attr("src").await.unwrap() != before && width.as_deref() == Some("960")
        })
        .await;
    painter.tab_to("slider", "Turn").await;
    painter.press(Key::Right).await;
    painter.until("it has turned by a key", async || turn().await != turned).await;
    let turned = turn().await;
    painter.tab_to("slider", "Height").await;
    painter.press(Key::End).await;
    let height = async || painter.the("slider", "Height").await.attr("aria-valuetext").await.unwrap();
    painter.until("it is seen from high up", async || height().await.as_deref() == Some("60° above")).await;
    painter.open("/pot").await;
    painter.open("/piece").await;
    painter.until("it stands as it stood", async || turn().await == turned).await;
    painter.leave().await;
}

/// What must be mended on a part is planned before it is painted.
async fn a_repair_is_planned(painter: &Painter) {
    painter.open("/piece").await;
    painter.click("button", "Plinth").await;
    painter.click("DisclosureTriangle", "More ageing, pattern, surface, repairs").await;
    painter.click("checkbox", "Fill dents and holes").await;
    painter.saved().await;
    painter.open("/run-sheet").await;
    painter.reads("Fill dents and holes").await;
    painter.reads("Sand the filler flush").await;
}

#[tokio::test]
async fn a_repair_is_planned_by_mouse() {
    let painter = Painter::at_the_demo().await;
    a_repair_is_planned(&painter).await;
    painter.leave().await;
}

#[tokio::test]
async fn a_repair_is_planned_by_keys() {
    let painter = Painter::at_the_demo().await.by(Hand::Keys).await;
    a_repair_is_planned(&painter).await;
    painter.leave().await;
}
