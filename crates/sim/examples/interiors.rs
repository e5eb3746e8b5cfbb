//! Photographs the simulated rooms, and prints where faces and card are. Those that are shipped are made so:
//! `cargo run --release -p warm-blend-sim --example interiors -- crates/sim/photos 1600`

use image::{RgbImage, codecs::jpeg::JpegEncoder};
use warm_blend_sim::INTERIORS;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut given = std::env::args().skip(1);
    let folder = given.next().unwrap_or_else(|| ".".to_owned());
    let width: u32 = given.next().map_or(Ok(800), |width| width.parse())?;
    for interior in INTERIORS {
        let elevation = interior.form().build()?;
        let taken =
            interior.photograph(&elevation, (width, width * 3 / 4), |_| None).ok_or("it has no front")?;
        let picture = taken.picture;
        let image = RgbImage::from_raw(picture.width, picture.height, picture.rgb).ok_or("whole rows")?;
        let mut jpeg = Vec::new();
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut jpeg, 88))?;
        std::fs::write(format!("{folder}/{}.jpg", interior.id), jpeg)?;
        println!("{}: {:?}, card {:?}", interior.id, taken.faces, taken.card);
    }
    Ok(())
}
