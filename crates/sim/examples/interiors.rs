//! Photographs of the simulated rooms: before, in another finish, and that finish shown on the first photo.
//! Those that are shipped are made so: `cargo run --release -p warm-blend-sim --example interiors -- crates/sim/photos 1600`, of which the
//! JPEG files are kept. `cargo run -p warm-blend-sim --example interiors -- FOLDER WIDTH`

use std::collections::BTreeMap;

use palette::encoding::{FromLinear, IntoLinear, Srgb};
use warm_blend_photo::{Photo, PhotoSpot};
use warm_blend_piece::Zone;
use warm_blend_render::{MarkedPhoto, OnPhoto, Picture, SeenPoint, Worn};
use warm_blend_sim::{INTERIORS, SurfaceCoat};

fn main() {
    let mut given = std::env::args().skip(1);
    let folder = given.next().unwrap_or_else(|| ".".to_owned());
    let width: u32 = given.next().and_then(|width| width.parse().ok()).unwrap_or(900);
    let size = (width, width * 3 / 4);
    for interior in INTERIORS {
        let Ok(elevation) = interior.form().build() else { continue };
        let save = |name: &str, picture: &Picture| {
            let path = format!("{folder}/{}-{name}.png", interior.id);
            std::fs::write(&path, picture.to_png()).unwrap_or_else(|error| panic!("{path}: {error}"));
        };
        let start = std::time::Instant::now();
        let Some(before) = interior.photograph(&elevation, size, |_| None) else { continue };
        println!("{}: photographed in {:?}", interior.id, start.elapsed());
        save("before", &before.picture);
        let Picture { width: w, height: h, rgb } = before.picture.clone();
        if let Some(image) = image::RgbImage::from_raw(w, h, rgb) {
            let mut jpeg = Vec::new();
            let encoder = image::codecs::jpeg::JpegEncoder::new_with_quality(&mut jpeg, 88);
            image.write_with_encoder(encoder).expect("a picture as JPEG");
            std::fs::write(format!("{folder}/{}.jpg", interior.id), jpeg).expect("the folder is there");
            println!("faces {:?}, card {:?}", before.faces, before.card);
        }
        let colour = |zone: Zone| match zone {
            Zone::Drawers | Zone::Panels => [0.30, 0.36, 0.40],
            Zone::Top | Zone::Fall => [0.11, 0.14, 0.17],
            _ => [0.62, 0.57, 0.47],
        };
        let paint = |point: &SeenPoint| {
            point.zone.is_painted().then(|| SurfaceCoat { reflects: colour(point.zone), gloss: 0.1 })
        };
        let Some(after) = interior.photograph(&elevation, size, paint) else { continue };
        save("truth", &after.picture);
        let pixels: Vec<[f32; 3]> = before
            .picture
            .rgb
            .chunks_exact(3)
            .map(|rgb| [0, 1, 2].map(|c| Srgb::into_linear(rgb[c])))
            .collect();
        let clipped = vec![false; pixels.len()];
        let Some(photo) = Photo::new(width as usize, pixels, clipped) else { continue };
        let card = PhotoSpot { x: before.card.0[0], y: before.card.0[1], radius: before.card.1 };
        let Ok(white) = photo.white(warm_blend_photo::Card::White, card) else { continue };
        let marked = MarkedPhoto { faces: &before.faces, hidden: &[], white, card: Some(card) };
        let start = std::time::Instant::now();
        let on = match OnPhoto::new(&photo, &elevation, marked, width) {
            Ok(on) => on,
            Err(error) => panic!("{error}"),
        };
        println!("prepared in {:?}, error {:.4}, {} MB", start.elapsed(), on.error(), on.bytes() >> 20);
        let code = |c: f64| -> u8 { Srgb::from_linear(c as f32) };
        let flat = |(view, _, (w, h)): (warm_blend_piece::View, bool, (u32, u32))| {
            let face = elevation.face(view).expect("a face");
            let placed = warm_blend_render::Placed::of(face, w, h).expect("a size");
            let mut rgb = Vec::new();
            for i in 0..(w * h) as usize {
                let (x, y) = placed.at(i % w as usize, i / w as usize);
                let zone = face
                    .parts
                    .iter()
                    .rev()
                    .find(|part| part.holds(x, y))
                    .map_or(Zone::Case, |part| part.zone);
                rgb.extend(colour(zone).map(code));
            }
            Picture { width: w, height: h, rgb }
        };
        let pictures: Vec<Picture> = on.flats().map(flat).collect();
        let worn: BTreeMap<Zone, Worn> =
            Zone::ALL.into_iter().map(|zone| (zone, Worn { through: 0.0, gloss: 0.1 / 0.8 })).collect();
        let start = std::time::Instant::now();
        let shown = on.draw(&pictures, &worn, warm_blend_spectral::Light::Daylight);
        println!("drawn in {:?}", start.elapsed());
        save("shown", &shown);
        let mut off: BTreeMap<Zone, Vec<f64>> = BTreeMap::new();
        for (i, point) in before.points.iter().enumerate() {
            let Some(point) = point.filter(|point| point.zone.is_painted()) else { continue };
            let lab = |picture: &Picture| {
                let rgb = &picture.rgb[3 * i..];
                warm_blend_spectral::Srgb::new(rgb[0], rgb[1], rgb[2]).to_lab()
            };
            let difference = warm_blend_spectral::difference(lab(&shown), lab(&after.picture)).value();
            off.entry(point.zone).or_default().push(difference);
        }
        let mut all: Vec<f64> = off.values().flatten().copied().collect();
        for (name, values) in
            off.iter_mut().map(|(zone, values)| (zone.name(), values)).chain([("all", &mut all)])
        {
            values.sort_by(f64::total_cmp);
            println!(
                "  {name}: median {:.1}, 90 % {:.1}",
                values[values.len() / 2],
                values[values.len() * 9 / 10]
            );
        }
    }
}
