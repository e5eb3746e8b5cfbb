//! The picture.

use std::sync::OnceLock;

use rayon::prelude::*;
use warm_blend_board::Place;
use warm_blend_paint::State;
use warm_blend_spectral::Light;

use crate::{
    Coats, Relief,
    colours::{Linear, Tone, tones},
    masks::{ALL, COATS, Lay, NOTHING, Pixel, Spots, Table, in_pieces},
    relief::Spot,
};

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

/// Draws strips side by side on a relief, as they look in a light and a state. Without a strip there is nothing to draw: the
/// picture is black.
pub fn draw(relief: &Relief, strips: &[Coats], light: Light, state: State, shading: Shading) -> Picture {
    let (width, n) = (relief.width, strips.len());
    let strip = |i: usize| if n == 0 { NOTHING } else { ((i % width) * n / width).min(n - 1) as u8 };
    let lay: Vec<u8> = (0..relief.pixels.len()).into_par_iter().map(strip).collect();
    draw_laid(relief, &Lay { coats: &lay, pattern: &[] }, strips, light, state, shading)
}

/// Draws coats that lie so. More coats than can be told apart are left out.
pub(crate) fn draw_laid(
    relief: &Relief,
    lay: &Lay,
    coats: &[Coats],
    light: Light,
    state: State,
    shading: Shading,
) -> Picture {
    let coats = &coats[..coats.len().min(COATS)];
    let mut rgb = vec![0; 3 * lay.coats.len()];
    if !coats.is_empty() {
        let spots = Spots::of(relief, lay, coats);
        let tones: Vec<Vec<Tone>> = spots
            .present
            .par_iter()
            .enumerate()
            .map(|(group, present)| {
                let coat = &coats[group / Place::ALL.len()];
                tones(coat.stack, Place::ALL[group % 3], coat.layers, present, light, state)
            })
            .collect();
        paint(relief, &spots, &tones, shading, &mut rgb);
    }
    Picture { width: relief.width as u32, height: relief.height as u32, rgb }
}

fn paint(relief: &Relief, spots: &Spots, tones: &[Vec<Tone>], shading: Shading, rgb: &mut [u8]) {
    // What pools on average is taken out, so that a state's mean stays what it is.
    let pooled = in_pieces(
        relief.pixels.len(),
        |pixels| {
            let mut pooled = Table::of(tones, |_, _, _| [0i64; 3]);
            for i in pixels {
                let Pixel { group, shows, state, other } = spots.pixels[i];
                if group == NOTHING {
                    continue;
                }
                let pool = i64::from(relief.pixels[i].pools);
                let mut add = |state: u16, shows: u8| {
                    let [thick, thin, n] = pooled.at_mut(group, state);
                    let shows = i64::from(shows);
                    *thick += shows * pool.max(0);
                    *thin += shows * (-pool).max(0);
                    *n += shows;
                };
                add(state, ALL - shows);
                if shows > 0 {
                    add(other, shows);
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
    let screen = Screen::get();
    rgb.par_chunks_exact_mut(3 * relief.width).enumerate().for_each(|(y, row)| {
        for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
            let i = y * relief.width + x;
            let shows = &spots.pixels[i];
            if shows.group == NOTHING {
                continue;
            }
            let colour = shown(&relief.pixels[i], &tones, shows, shading);
            for c in 0..3 {
                pixel[c] = screen.code(colour[c]);
            }
        }
    });
}

/// What a pixel shows.
#[inline]
fn shown(spot: &Spot, tones: &Table<Tone>, pixel: &Pixel, shading: Shading) -> Linear {
    let pool = f32::from(spot.pools) * (1.0 / 127.0);
    let tone = tones.at(pixel.group, pixel.state);
    let mut colour = pooling(tone, pool);
    if pixel.shows > 0 {
        let other = pooling(tones.at(pixel.group, pixel.other), pool);
        let shows = f32::from(pixel.shows) * (1.0 / 255.0);
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

/// Linear channels as 8-bit ones of sRGB.
pub(crate) struct Screen(Vec<u8>);

impl Screen {
    /// Made when first asked for.
    pub(crate) fn get() -> &'static Self {
        static SCREEN: OnceLock<Screen> = OnceLock::new();
        // The transfer curve of IEC 61966-2-1.
        let curve = |linear: f64| {
            if linear <= 0.003_130_8 { 12.92 * linear } else { 1.055 * linear.powf(1.0 / 2.4) - 0.055 }
        };
        let code = |i: usize| (255.0 * curve(i as f64 / (STEPS - 1) as f64)).round() as u8;
        SCREEN.get_or_init(|| Screen((0..STEPS).map(code).collect()))
    }

    #[inline]
    pub(crate) fn code(&self, linear: f32) -> u8 {
        self.0[(linear.clamp(0.0, 1.0) * (STEPS - 1) as f32 + 0.5) as usize]
    }
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
