//! The pictures of `docs/screenshots`, from the demo workspace, 1280×800.

use std::path::Path;

use warm_blend_e2e::Painter;

#[tokio::main]
async fn main() {
    let painter = Painter::at_the_demo().await;
    painter.the("button", "oat white").await;
    painter.reads("only roughly known").await;
    keep(&painter, "shelf").await;
    painter.click("button", "slate blue").await;
    painter.reads("Read so far").await;
    keep(&painter, "paint").await;
    painter.open("/pot").await;
    painter.click("tab", "Mixes 3").await;
    painter.click("link", "soft grey-blue for the case").await;
    painter.reads("3 : 1, 4 parts").await;
    painter.click("tab", "Paints").await;
    painter.reads("than the target").await;
    painter.reads("All the way: add").await;
    keep(&painter, "pot").await;
    painter.click("radio", "Match").await;
    painter.reads("The best of every mix").await;
    keep(&painter, "match").await;
    painter.click("radio", "Ladder").await;
    painter.reads("off the hue").await;
    keep(&painter, "ladder").await;
    painter.click("radio", "Blend").await;
    painter.choose("Blend into", "mustard seed").await;
    painter.reads("turns green on the way").await;
    keep(&painter, "blend").await;
    painter.leave().await;
}

async fn keep(painter: &Painter, name: &str) {
    // The cursor and the focus ring are not part of the picture.
    painter.driver.execute("document.activeElement?.blur()", vec![]).await.expect("a page");
    painter.settled().await;
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("../../docs/screenshots/{name}.png"));
    painter.driver.screenshot(&file).await.expect("a picture");
    println!("docs/screenshots/{name}.png");
}
