//! Photographs the simulated rooms, and prints where faces and card are. Those that are shipped are made so:
//! `cargo run --release -p warm-blend-sim --example interiors -- crates/sim/photos 1600`

use image::{Rgb, RgbImage, codecs::jpeg::JpegEncoder};
use palette::encoding::{FromLinear, IntoLinear, Srgb as Coding};
use warm_blend_render::Picture;
use warm_blend_sim::INTERIORS;

/// A pixel of a camera gathers the light over its whole area: so many points across and down.
const FINER: u32 = 3;

/// The mean light on a pixel.
fn mean(finer: &Picture, x: u32, y: u32) -> Rgb<u8> {
    let points = (0..FINER * FINER).map(|n| {
        let (x, y) = (FINER * x + n % FINER, FINER * y + n / FINER);
        3 * (y * finer.width + x) as usize
    });
    let light = |channel: usize| -> f32 {
        points.clone().map(|at| -> f32 { Coding::into_linear(finer.rgb[at + channel]) }).sum()
    };
    Rgb([0, 1, 2].map(|channel| Coding::from_linear(light(channel) / (FINER * FINER) as f32)))
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut given = std::env::args().skip(1);
    let folder = given.next().unwrap_or_else(|| ".".to_owned());
    let width: u32 = given.next().map_or(Ok(800), |width| width.parse())?;
    for interior in INTERIORS {
        let elevation = interior.form().build()?;
        let size = (FINER * width, FINER * width * 3 / 4);
        let taken = interior.photograph(&elevation, size, |_| None).ok_or("it has no front")?;
        let image = RgbImage::from_fn(width, width * 3 / 4, |x, y| mean(&taken.picture, x, y));
        let mut jpeg = Vec::new();
        image.write_with_encoder(JpegEncoder::new_with_quality(&mut jpeg, 88))?;
        std::fs::write(format!("{folder}/{}.jpg", interior.id), jpeg)?;
        println!("{}: {:?}, card {:?}", interior.id, taken.faces, taken.card);
    }
    Ok(())
}
