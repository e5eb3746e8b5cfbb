//! The picture.

use std::sync::OnceLock;

use rayon::prelude::*;
use warm_blend_finish::State;
use warm_blend_finish::board::{Place, Stack, Technique};
use warm_blend_spectral::Light;

use crate::Plate;
use crate::colours::{Linear, Tone, tones};
use crate::masks::{ALL, Spots, Table, in_pieces};
use crate::plate::Spot;

/// A strip to be drawn.
#[derive(Debug, Clone, Copy)]
pub struct Coats<'a> {
    /// Its films.
    pub stack: &'a Stack,
    /// How each of its layers was put on, from the ground up.
    pub techniques: &'a [Technique],
    /// How many of them are on.
    pub layers: usize,
}

/// Whether the relief is shaded.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Shading {
    /// As in the light of a window; flakes shine.
    #[default]
    Soft,
    /// Not at all, so that colours can be judged.
    None,
}

/// Pixels, row by row.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Picture {
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// Red, green, blue of each, sRGB.
    pub rgb: Vec<u8>,
}

/// Draws strips side by side on a plate, as they look in a light and a state. Without a strip there is nothing to draw: the
/// picture is black.
pub fn draw(plate: &Plate, strips: &[Coats], light: Light, state: State, shading: Shading) -> Picture {
    let (width, height) = (plate.width, plate.height);
    let mut rgb = vec![0; 3 * width * height];
    if !strips.is_empty() {
        let spots = Spots::of(plate, strips);
        let tones: Vec<Vec<Tone>> = spots
            .present
            .iter()
            .enumerate()
            .map(|(group, present)| {
                let strip = &strips[group / Place::ALL.len()];
                tones(strip.stack, Place::ALL[group % 3], strip.layers, present, light, state)
            })
            .collect();
        paint(plate, &spots, &tones, shading, &mut rgb);
    }
    Picture { width: width as u32, height: height as u32, rgb }
}

fn paint(plate: &Plate, spots: &Spots, tones: &[Vec<Tone>], shading: Shading, rgb: &mut [u8]) {
    // What pools on average is taken out, so that a state's mean stays what it is.
    let pooled = in_pieces(
        plate.pixels.len(),
        |pixels| {
            let mut pooled = Table::of(tones, |_, _, _| [0i64; 3]);
            for i in pixels {
                let (group, shows, pool) = (spots.group[i], spots.shows[i], i64::from(plate.pixels[i].pools));
                let mut add = |state: u16, shows: u8| {
                    let [thick, thin, n] = pooled.at_mut(group, state);
                    let shows = i64::from(shows);
                    *thick += shows * pool.max(0);
                    *thin += shows * (-pool).max(0);
                    *n += shows;
                };
                add(spots.state[i], ALL - shows);
                if shows > 0 {
                    add(spots.other[i], shows);
                }
            }
            pooled
        },
        |pooled, mut more| {
            for (sums, more) in pooled.values_mut().iter_mut().zip(more.values_mut()) {
                for (sum, more) in sums.iter_mut().zip(more) {
                    *sum += *more;
                }
            }
        },
    );
    let tones = Table::of(tones, |group, state, tone| {
        let [thick, thin, n] = pooled.at(group as u8, state).map(|sum| sum as f32);
        let (thick, thin) = (thick / 127.0 / n.max(1.0), thin / 127.0 / n.max(1.0));
        let usual = |c: usize| tone.usual[c] - thick * tone.thick[c] - thin * tone.thin[c];
        Tone { usual: std::array::from_fn(usual), ..*tone }
    });
    let to_screen = screen();
    rgb.par_chunks_exact_mut(3 * plate.width).enumerate().for_each(|(y, row)| {
        for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
            let i = y * plate.width + x;
            let colour = shown(&plate.pixels[i], &tones, spots, i, shading);
            for c in 0..3 {
                pixel[c] = to_screen[(colour[c].clamp(0.0, 1.0) * (STEPS - 1) as f32 + 0.5) as usize];
            }
        }
    });
}

/// What a pixel shows.
#[inline]
fn shown(spot: &Spot, tones: &Table<Tone>, spots: &Spots, i: usize, shading: Shading) -> Linear {
    let pool = f32::from(spot.pools) * (1.0 / 127.0);
    let tone = tones.at(spots.group[i], spots.state[i]);
    let mut colour = pooling(tone, pool);
    if spots.shows[i] > 0 {
        let other = pooling(tones.at(spots.group[i], spots.other[i]), pool);
        let shows = f32::from(spots.shows[i]) * (1.0 / 255.0);
        for c in 0..3 {
            colour[c] += shows * (other[c] - colour[c]);
        }
    }
    if shading == Shading::Soft {
        let lit = f32::from(spot.lit) * (1.0 / 128.0);
        if tone.lustre > 0.0 {
            let shine = tone.lustre * f32::from(spot.mirrors) / 255.0;
            let brightest = colour[0].max(colour[1]).max(colour[2]).max(1e-4);
            for channel in &mut colour {
                *channel = *channel * lit + shine * 0.5 * (*channel / brightest) * (1.0 - *channel).max(0.0);
            }
        } else {
            colour = colour.map(|channel| channel * lit);
        }
    }
    colour
}

#[inline]
fn pooling(tone: &Tone, pool: f32) -> Linear {
    let (by, change) = if pool > 0.0 { (pool, &tone.thick) } else { (-pool, &tone.thin) };
    std::array::from_fn(|c| tone.usual[c] + by * change[c])
}

/// Steps of the table from linear to 8-bit channels: fine enough for the dark end, where 255 steps are narrowest.
const STEPS: usize = 16384;

fn screen() -> &'static [u8] {
    static TABLE: OnceLock<Vec<u8>> = OnceLock::new();
    // The transfer curve of IEC 61966-2-1.
    let curve = |linear: f64| {
        if linear <= 0.003_130_8 { 12.92 * linear } else { 1.055 * linear.powf(1.0 / 2.4) - 0.055 }
    };
    TABLE.get_or_init(|| {
        (0..STEPS).map(|i| (255.0 * curve(i as f64 / (STEPS - 1) as f64)).round() as u8).collect()
    })
}

impl Picture {
    /// As a PNG file.
    pub fn to_png(&self) -> Vec<u8> {
        use image::ImageEncoder;
        use image::codecs::png::{CompressionType, FilterType, PngEncoder};
        let mut png = Vec::new();
        let encoder = PngEncoder::new_with_quality(&mut png, CompressionType::Fast, FilterType::Sub);
        // Writing to memory fails only for a picture whose size is not its own.
        let written = encoder.write_image(&self.rgb, self.width, self.height, image::ExtendedColorType::Rgb8);
        debug_assert!(written.is_ok());
        png
    }
}
