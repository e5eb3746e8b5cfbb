//! The log: a pot found again by word and by colour, made again; a note.

use serde_json::Value;
use thirtyfour::Key;
use warm_blend_e2e::Painter;

/// A mix is found by a word and by its colour, and made again: as much as a touch-up takes goes to the Pot.
#[tokio::test]
async fn a_pot_is_found_and_made_again() {
    let painter = Painter::at_the_door().await;
    painter.click("link", "Log").await;
    painter.reads("5 steps done").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.write("searchbox", "Find in the log", "drifts").await;
    painter.reads("Mixed “drift blue for the case”").await;
    painter.until("only that is left", async || !painter.text().await.contains("5 steps done")).await;
    let page = painter.meanwhile("GET", "/api/log?kinds=mix&search=drift", Value::Null).await;
    let hex =
        page["days"][0]["groups"][0]["entries"][0]["swatch"]["face"]["hex"].as_str().unwrap().to_owned();
    painter.click("button", "Make again: Mixed “drift blue for the case”: 5 slate blue : 1 barley").await;
    painter.reads("Same parts still match").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.write("textbox", "How much, ml", "a bit").await;
    painter.click("button", "Take to Pot").await;
    painter.reads("is not a number").await;
    painter.write("textbox", "How much, ml", "60").await;
    painter.click("button", "Take to Pot").await;
    painter.reads("drift blue for the case").await;
    assert_eq!(painter.value("textbox", "Batch").await, "60");

    painter.click("link", "Log").await;
    painter.write("searchbox", "Find in the log", "").await;
    painter.write("textbox", "Find by colour", &hex).await;
    painter.reads("ΔE 0").await;
    // What is no colour is refused, and nothing that was found for another is left standing.
    painter.write("textbox", "Find by colour", "slate").await;
    painter.until("the old pots are gone", async || !painter.text().await.contains("ΔE 0")).await;
    let wrong = async || {
        let field = painter.the("textbox", "Find by colour").await;
        field.attr("aria-invalid").await.unwrap().as_deref() == Some("true")
    };
    painter.until("it is found fault with", wrong).await;
    painter.leave().await;
}

/// A note of the piece at hand is kept, found after a reload, and undone.
#[tokio::test]
async fn a_note_is_kept() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    painter.click("button", "Add note").await;
    painter.reads("the note is empty").await;
    painter.write("textbox", "Note", "The lid sticks again; plane it before the wax.").await;
    painter.click("button", "Add note").await;
    // Typed text counts as text of the page, and survives a reload until the note is saved.
    painter.until("it is kept", async || painter.value("textbox", "Note").await.is_empty()).await;
    painter.reads("The lid sticks again").await;
    painter.driver.refresh().await.unwrap();
    painter.reads("The lid sticks again").await;
    painter.click("button", "Undo").await;
    painter.until("it is gone", async || !painter.text().await.contains("The lid sticks again")).await;
    painter.leave().await;
}

/// A note that is written before the log has loaded appears in it, although that first answer is older than the note.
#[tokio::test]
async fn a_note_is_not_lost_behind_a_late_answer() {
    let painter = Painter::at_the_door().await;
    painter.holds_up_first_answer("/api/log").await;
    painter.open("/log").await;
    painter.write("textbox", "Note", "Hinges oiled before the primer.").await;
    painter.click("button", "Add note").await;
    painter.until("it is kept", async || painter.value("textbox", "Note").await.is_empty()).await;
    painter.lets_go("/api/log").await;
    painter.reads("Hinges oiled before the primer").await;
    painter.click("button", "Undo").await;
    painter.until("it is gone", async || !painter.text().await.contains("Hinges oiled")).await;
    painter.leave().await;
}

/// A JPEG file that says when the camera took it.
fn taken(when: &[u8; 19]) -> Vec<u8> {
    let mut plain = Vec::new();
    let image = image::RgbImage::from_pixel(80, 60, image::Rgb([120, 130, 140]));
    image.write_to(&mut std::io::Cursor::new(&mut plain), image::ImageFormat::Jpeg).unwrap();
    warm_blend_testing::exif::taken_at(&plain, when)
}

/// A photo is kept under the time when it was taken, if the painter wants it so.
#[tokio::test]
async fn a_photo_brings_its_day() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    let write = async |words: &str| {
        painter.bring("Photo", "bare.jpg", &taken(b"2025:03:09 14:20:11")).await;
        painter.the("checkbox", "Date it 9 March 2025 at 14:20, when the photo was taken").await;
        painter.write("textbox", "Note", words).await;
    };
    let day = async |words: &str| {
        let page = painter.meanwhile("GET", &format!("/api/log?search={words}"), Value::Null).await;
        page["days"][0]["day"].as_str().unwrap_or_default().to_owned()
    };
    write("unsanded").await;
    painter.click("button", "Add note").await;
    painter.the("button", "Photo").await;
    assert_eq!(day("unsanded").await, "2025-03-09");
    write("degreased").await;
    painter.click("checkbox", "Date it 9 March 2025 at 14:20, when the photo was taken").await;
    painter.click("button", "Add note").await;
    painter.reads("degreased").await;
    painter.the("button", "Photo").await;
    assert!(*day("degreased").await > *"2026", "{}", day("degreased").await);
    painter.leave().await;
}

/// The first and the last photo of the piece stand beside each other, until another is chosen.
#[tokio::test]
async fn before_and_after_side_by_side() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    for (n, (words, code)) in
        [("bare still", [90, 50, 40]), ("first coat", [120, 130, 140]), ("waxed", [80, 95, 105])]
            .into_iter()
            .enumerate()
    {
        let photo = image::RgbImage::from_pixel(80, 60, image::Rgb(code));
        painter.bring("Photo", &format!("{n}.png"), &crate::png(&photo)).await;
        painter.the("button", "Another photo").await;
        painter.write("textbox", "Note", words).await;
        painter.click("button", "Add note").await;
        painter.reads(&format!("\n{words}")).await;
        painter.the("button", "Photo").await;
    }
    painter.click("button", "Before and after").await;
    let source = async |name: &str| {
        let images = painter.names("image").await;
        images.into_iter().find(|image| image.starts_with(name)).unwrap_or_default()
    };
    painter
        .until("the first and the last", async || {
            source("Before").await.contains("bare still") && source("After").await.contains("waxed")
        })
        .await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("combobox", "After").await;
    let first_coat = async || {
        let options = painter.names("option").await;
        options.into_iter().find(|option| option.contains("first coat"))
    };
    painter.until("the list is open", async || first_coat().await.is_some()).await;
    painter.click("option", &first_coat().await.unwrap_or_default()).await;
    painter.until("another", async || source("After").await.contains("first coat")).await;
    painter.click("button", "Close the full screen").await;
    painter.the("searchbox", "Find in the log").await;
    painter.leave().await;
}

/// A photo of progress with a card in it is held against what was predicted: the case is what it is to be, the panels are not.
#[tokio::test]
async fn a_finish_on_a_photo_is_held_against_the_prediction() {
    let painter = Painter::at_the_door().await;
    let piece = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let seen = painter.meanwhile("POST", "/api/piece/preview", piece["entry"].clone()).await;
    let case = seen["zones"].as_array().unwrap().iter().find(|zone| zone["zone"] == "case").expect("a case");
    let code = case["seen"]["hex"].as_str().unwrap();
    let channel = |at: usize| u8::from_str_radix(&code[at..at + 2], 16).unwrap();
    let paint = [channel(1), channel(3), channel(5)];
    let photo = image::RgbImage::from_fn(600, 400, |x, _| image::Rgb(if x < 300 { [243; 3] } else { paint }));
    painter.open("/log").await;
    painter.bring("Photo", "case.png", &crate::png(&photo)).await;
    painter.the("button", "Another photo").await;
    painter.write("textbox", "Note", "both coats on the case").await;
    painter.click("button", "Add note").await;
    painter.click("button", "Compare with the prediction").await;
    painter.the("image", "Your sample with the card").await;
    painter.click("button", "Spot on the card").await;
    painter.click("button", "Read the finish").await;
    painter.reads("as predicted, as near as a photo can show").await;
    painter.reads("than predicted").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    // A spot that lies on both is no card.
    painter.the("button", "Spot on the card").await.focus().await.unwrap();
    for _ in 0..17 {
        painter.press(Key::Right).await;
    }
    painter.click("button", "Read the finish").await;
    painter.reads("move it fully onto the card").await;
    painter.leave().await;
}

/// From a photo to a board: its colours are found, what would make them stands beside, a board is begun from them; and from the brief they
/// are what is aimed at.
#[tokio::test]
async fn from_a_photo_to_a_board() {
    let painter = Painter::at_the_door().await;
    painter.click("button", "Brief").await;
    painter.click("link", "Colours from a photo").await;
    painter.the("heading", "Colours from a photo").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    let photo = image::RgbImage::from_fn(600, 400, |x, y| {
        image::Rgb(match (x, y) {
            (220..380, 140..260) => [243, 243, 243],
            (0..400, _) => [98, 116, 128],
            _ => [190, 150, 84],
        })
    });
    painter.bring("Choose a photo", "wall.png", &crate::png(&photo)).await;
    painter.click("button", "Yes, that is the card").await;
    painter.click("button", "Find its colours").await;
    painter.reads("the base, in two coats").await;
    painter.reads("as a layer: dry brush").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.click("button", "Create board").await;
    painter.the("image", "Strip A as it will look").await;
    painter.the("button", "Dry brush").await;

    // The photo is still there, with what was found in it.
    painter.open("/piece/photo").await;
    painter.the("button", "Another photo").await;
    painter.reads("the base, in two coats").await;
    let before = painter.meanwhile("GET", "/api/piece", Value::Null).await;
    let targets = |piece: &Value| piece["entry"]["brief"]["targets"].as_array().map_or(0, Vec::len);
    painter.click("button", "Set as targets").await;
    painter
        .until("they are aimed at", async || {
            targets(&painter.meanwhile("GET", "/api/piece", Value::Null).await) == targets(&before) + 2
        })
        .await;
    painter.leave().await;
}

/// The demo has a camera that takes invented pictures: what it takes is a photo like any other.
#[tokio::test]
async fn a_picture_is_taken_with_the_camera_of_the_demo() {
    let painter = Painter::at_the_demo().await;
    painter.open("/piece/photo").await;
    painter.click("button", "Simulated camera").await;
    painter.click("menuitem", "Green chest in the shade").await;
    let photo = painter.the("image", "Your sample with the card").await;
    let wide = async || photo.prop("naturalWidth").await.ok().flatten();
    painter.until("the picture is there", async || wide().await.as_deref() == Some("1080")).await;
    painter.click("button", "Yes, that is the card").await;
    painter.the("button", "Find its colours").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    painter.leave().await;
}

/// The record for the client is one page: what is on the piece, how it is mended and looked after.
#[tokio::test]
async fn the_record_is_printed() {
    let painter = Painter::at_the_door().await;
    painter.click("link", "Client sheet").await;
    painter.click("link", "Record").await;
    painter.reads("What is on Upright piano").await;
    painter.reads("1 ml repairs a palm").await;
    painter.the("heading", "How to look after it").await;
    assert_eq!(painter.violations().await, Vec::<String>::new());
    assert_eq!(painter.pages_on_paper().await, 1);
    painter.leave().await;
}

/// What narrows the log holds together, and the rail leads back to it as it was left.
#[tokio::test]
async fn the_log_is_narrowed_and_found_again() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    painter.click("radio", "Steps").await;
    painter.until("only steps", async || !painter.text().await.contains("Agreed on")).await;
    painter.reads("Stool, village hall").await;
    painter
        .choose("Piece or client", "Upright piano and stool, village hall, for Village hall committee")
        .await;
    painter.until("only the piano's", async || !painter.text().await.contains("Stool, village hall")).await;
    painter.choose("Piece or client", "All for Village hall committee").await;
    painter.reads("Stool, village hall").await;
    painter.reads("Brushed coat, 1 of 2 in 5 slate blue : 1 barley").await;
    painter.click("link", "Shelf").await;
    painter.the("heading", "Shelf").await;
    painter.click("link", "Log").await;
    painter.reads("Brushed coat, 1 of 2 in 5 slate blue : 1 barley").await;
    assert!(!painter.text().await.contains("Agreed on"), "as it was left");
    painter.click("radio", "Notes").await;
    painter.reads("Agreed on “pale panels”").await;
    painter.write("searchbox", "Find in the log", "zzz").await;
    painter.reads("No matches").await;
    painter.leave().await;
}

/// Over a slow line: a note isn't sent before it is known which piece it is about, nor without the photo that is on its way, and what is
/// typed meanwhile stays.
#[tokio::test]
async fn a_note_waits_for_its_piece_and_its_photo() {
    let painter = Painter::at_the_door().await;
    painter.holds_up("/api/piece").await;
    painter.holds_up("/api/photos/kept").await;
    painter.open("/log").await;
    painter.write("textbox", "Note", "by the window").await;
    assert!(!painter.the("button", "Add note").await.is_enabled().await.unwrap(), "no piece is known yet");
    painter.lets_go("/api/piece").await;
    painter.the("checkbox", "About").await;
    let photo = image::RgbImage::from_pixel(60, 40, image::Rgb([98, 116, 128]));
    painter.bring("Photo", "case.png", &crate::png(&photo)).await;
    painter.write("textbox", "Note", "by the window, at noon").await;
    assert!(!painter.the("button", "Add note").await.is_enabled().await.unwrap(), "the photo is on its way");
    painter.lets_go("/api/photos/kept").await;
    painter.the("button", "Another photo").await;
    painter.click("button", "Add note").await;
    painter.the("link", "by the window, at noon").await;
    painter.the("button", "Compare with the prediction").await;
    painter.leave().await;
}

/// What the client agreed to is kept as a picture.
#[tokio::test]
async fn what_was_agreed_on_is_seen_again() {
    let painter = Painter::at_the_door().await;
    painter.open("/log").await;
    painter.click("checkbox", "The client agreed to “pale panels”").await;
    painter.reads("A picture of the piece in this finish is saved with the note").await;
    painter.click("button", "Add note").await;
    // A large picture is drawn for it.
    painter.the_computed("link", "Agreed on “pale panels”").await;
    let picture = painter.the("image", "Agreed on “pale panels”").await;
    let wide = async || picture.prop("naturalWidth").await.ok().flatten().unwrap_or_default();
    painter.until("it is a large picture", async || wide().await.parse().unwrap_or(0) >= 1200).await;
    painter.leave().await;
}
