//! What a painter does, at the real interface.

mod answers;
mod backups;
mod boards;
mod brushes;
mod everyone;
mod faulty;
mod guide;
mod jars;
mod keeping;
mod log;
mod network;
mod newcomer;
mod on_photo;
mod pieces;
mod pot;
mod pouring;
mod quotes;
mod runsheet;
mod shelf;
mod stays;
mod template;
mod tests_of_paint;
mod touch_up;
mod units;
mod words;

use warm_blend_e2e::Painter;

/// Puts one of the demo's three mixes on the bench.
async fn put_on_the_bench(painter: &Painter, mix: &str) {
    painter.open("/pot").await;
    painter.click("tab", "Mixes 3").await;
    painter.click("link", mix).await;
}

/// A picture as a PNG file.
fn png(picture: &image::RgbImage) -> Vec<u8> {
    let mut png = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut png, image::ImageFormat::Png).unwrap();
    png.into_inner()
}

/// Picks the target in a photo of a wall beside a white card; both spots start where they are to look.
async fn aim_at_a_photo(painter: &Painter, wall: [u8; 3]) {
    painter.click("button", "Set a target").await;
    painter.click("button", "Pick it in a photo").await;
    let photo =
        image::RgbImage::from_fn(600, 400, |x, _| image::Rgb(if x < 300 { [214, 214, 214] } else { wall }));
    painter.bring("Choose a photo", "wall.png", &png(&photo)).await;
    painter.click("button", "Spot on the card").await;
    painter.click("button", "Pick the colour").await;
    painter.click("button", "Set as target").await;
}
