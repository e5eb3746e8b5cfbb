//! The pictures of `docs/screenshots`, from the demo workspace, 1280×800.

use std::path::Path;

use warm_blend_e2e::Painter;

#[tokio::main]
async fn main() {
    let painter = Painter::at_the_demo_with_a_scale().await;
    painter.the("button", "oat white").await;
    painter.reads("roughly known").await;
    keep(&painter, "shelf").await;
    painter.click("button", "slate blue").await;
    painter.reads("Read so far").await;
    keep(&painter, "paint").await;
    painter.open("/pot").await;
    painter.click("tab", "Mixes 3").await;
    painter.click("link", "drift blue for the case").await;
    painter.reads("5 : 1, 6 parts").await;
    painter.click("tab", "Paints").await;
    painter.reads("than the target").await;
    painter.reads("Next: add").await;
    keep(&painter, "pot").await;
    painter.click("radio", "Match").await;
    painter.reads("Best of every mix").await;
    keep(&painter, "match").await;
    painter.click("radio", "Blend").await;
    painter.choose("Blend into", "mustard seed").await;
    painter.reads("turns green in between").await;
    keep(&painter, "blend").await;
    painter.click("radio", "Mix").await;
    painter.click("button", "Start pouring").await;
    for (paint, more) in [("slate blue", false), ("barley", true)] {
        painter.click("radio", paint).await;
        painter.click("button", "Pour what is wanted").await;
        if more {
            painter.click("button", "Pour 5 g").await;
        }
        painter
            .until("the scale rests", async || {
                let ready = painter.the("button", "Record").await;
                painter.text().await.contains("At rest") && ready.is_enabled().await.unwrap_or(false)
            })
            .await;
        painter.click("button", "Record").await;
        painter.reads(&format!("g {paint}\nUndo last")).await;
    }
    painter.click("radio", "slate blue").await;
    painter.click("button", "Pour 5 g").await;
    painter.reads("Weigh it in").await;
    keep(&painter, "pouring").await;
    painter.click("button", "Finish and update recipe").await;
    painter.the("region", "Earlier batches").await;
    painter.saved().await;
    painter.open("/board").await;
    painter.the("heading", "Ready finishes").await;
    let shown = "document.querySelector('[aria-label=\"Ready finishes\"]').scrollIntoView()";
    painter.driver.execute(shown, vec![]).await.expect("the finishes");
    painter.settled().await;
    painter.until("all are drawn", async || !painter.text().await.contains("Drawing")).await;
    keep(&painter, "finishes").await;
    painter.open("/board").await;
    painter.click("link", "aged drift blue for the case").await;
    painter.the("image", "Strip A as it will look").await;
    painter.the("list", "Places").await;
    keep(&painter, "board").await;
    painter.open("/quotes").await;
    painter.the("image", "The piece as it would look").await;
    painter.choose("What it is", "Sideboard").await;
    painter.choose("Fronts", "Vignetted panel").await;
    painter.write("textbox", "Client", "Ina Holm").await;
    painter.until("it is quoted", async || painter.text().await.contains("on the fronts")).await;
    painter.drawn_finely().await;
    keep(&painter, "quote").await;
    painter.open("/jars").await;
    painter.reads("need a look").await;
    keep(&painter, "jars").await;
    painter.open("/run-sheet").await;
    painter.reads("Ready on").await;
    keep(&painter, "run-sheet").await;
    painter.open("/log").await;
    painter.reads("Prediction accuracy").await;
    keep(&painter, "log").await;
    painter.open("/practice").await;
    painter.reads("practise next").await;
    keep(&painter, "practice").await;
    painter.open("/backups").await;
    painter.click("button", "Back up now").await;
    painter.reads("Everything is backed up").await;
    painter.the("button", "Go back to").await;
    keep(&painter, "backups").await;
    painter.open("/piece/photo").await;
    painter.bring("Choose a photo", "wall.png", &wall()).await;
    painter.click("button", "Yes, that is the card").await;
    painter.click("button", "Find its colours").await;
    painter.reads("the base, in two coats").await;
    keep(&painter, "photo").await;
    painter.open("/piece").await;
    painter.the("image", "The piece from the front, as it will look").await;
    painter.reads("Panels and mouldings clash").await;
    keep(&painter, "piece").await;
    painter.open("/piece/on-photo").await;
    painter.the_computed("image", "The piece in its finish").await;
    keep(&painter, "on-photo").await;
    painter.open("/piece").await;
    painter.click("radio", "Front").await;
    painter.click("radio", "pale trim").await;
    painter.reads("4 pairs of adjoining parts clash").await;
    painter.click("button", "Unify").await;
    painter.reads("These bring it together").await;
    keep(&painter, "unify").await;
    painter.leave().await;
}

async fn keep(painter: &Painter, name: &str) {
    // The cursor and the focus ring are not part of the picture.
    painter.driver.execute("document.activeElement?.blur()", vec![]).await.expect("a page");
    painter.drawn_finely().await;
    painter.settled().await;
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/screenshots/{name}.png"));
    painter.driver.screenshot(&file).await.expect("a picture");
    println!("docs/screenshots/{name}.png");
}

/// An invented photo: a cupboard before a plastered wall, a card leaning on it in the middle.
fn wall() -> Vec<u8> {
    let mut chance = 7u32;
    let picture = image::RgbImage::from_fn(1200, 800, |x, y| {
        chance = chance.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        let grain = (chance >> 28) as i32 - 8;
        let colour: [i32; 3] = match (x, y) {
            (530..670, 340..460) => [238, 237, 233],
            (430..470, 120..640) | (770..820, 120..640) => [186, 140, 70],
            (470..770, 160..600) => [172, 127, 62],
            (430..820, 120..640) => [186, 140, 70],
            (820..900, 150..690) => [116, 84, 40],
            (940..1110, 300..640) => [100, 34, 36],
            (_, 640..) => [92, 70, 52],
            _ => [126, 134, 128],
        };
        image::Rgb(colour.map(|channel| (channel + grain / 2).clamp(0, 255) as u8))
    });
    let mut png = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut png, image::ImageFormat::Png).expect("a picture");
    png.into_inner()
}
