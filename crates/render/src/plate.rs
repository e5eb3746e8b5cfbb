//! The relief that a finish is shown on: a panelled board with a flat, a bead and a cove, a sunk panel, a carved corner.
//!
//! Heights are mm. What lies lower than its surroundings is a recess, what stands out an edge, the rest the field; the rim
//! between them is ragged, as that of a wiped glaze is.

use rayon::prelude::*;
use warm_blend_finish::board::Place;

use crate::texture::{SIDE, TILE_MM, Texture};

/// Height of the board, mm; its width follows the picture's.
const TALL: f64 = 200.0;
/// From the outline to the moulding, and the moulding's width, mm.
const MARGIN: f64 = 26.0;
const MOULDING: f64 = 22.0;
/// How deep the panel is sunk, mm.
const SUNK: f64 = -3.0;
/// Radius of the carving, mm, and how many leaves it has.
const CARVED: f64 = 58.0;
const LEAVES: f64 = 5.0;
/// How far around a spot its surroundings go, mm.
const AROUND: f64 = 1.7;
/// From how far below or above its surroundings, mm, a spot is a recess or an edge.
const RECESS: f64 = -0.10;
const EDGE: f64 = 0.13;
/// Slope of the marks a brush leaves in a coat.
const BRUSH: f64 = 0.05;
/// Smallest and largest side of a picture, pixels.
const SMALLEST: u32 = 48;
const LARGEST: u32 = 4096;

/// A size that no picture has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("a picture of {0} × {1} pixels: each side goes from {SMALLEST} to {LARGEST}")]
pub struct BadSize(u32, u32);

/// The board's relief at a size in pixels: made once, drawn on often.
#[derive(Debug)]
pub struct Plate {
    pub(crate) width: usize,
    pub(crate) height: usize,
    /// Board millimetres by pixel.
    pub(crate) mm: f64,
    pub(crate) pixels: Vec<Spot>,
}

/// What the relief is like at a pixel.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Spot {
    /// 0 field, 1 recess, 2 edge.
    pub place: u8,
    /// True where a brush goes up and down: on the stiles, and on the upright mouldings.
    pub upright: bool,
    /// How far it stands out from its surroundings, 127 for a millimetre.
    pub stands_out: i8,
    /// Where a film pools, −127 thin to 127 thick.
    pub pools: i8,
    /// Light that falls on it against that on the flat, 128 for the same.
    pub lit: u8,
    /// How nearly it mirrors the lamp, 0 to 255.
    pub mirrors: u8,
}

impl Plate {
    /// The relief of a picture of this size.
    pub fn new(width: u32, height: u32) -> Result<Self, BadSize> {
        if !(SMALLEST..=LARGEST).contains(&width) || !(SMALLEST..=LARGEST).contains(&height) {
            return Err(BadSize(width, height));
        }
        let (width, height) = (width as usize, height as usize);
        let mm = TALL / height as f64;
        let wide = width as f64 * mm;
        let mut relief = vec![0f32; width * height];
        relief.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, h) in row.iter_mut().enumerate() {
                *h = carved((x as f64 + 0.5) * mm, (y as f64 + 0.5) * mm, wide) as f32;
            }
        });
        let around = ((AROUND / mm).round() as usize).max(1);
        let smooth = blurred(&blurred(&relief, width, around), width, around);
        let mut pixels = vec![Spot::default(); width * height];
        let seen = Relief { width, mm, relief: &relief, smooth: &smooth };
        pixels.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, spot) in row.iter_mut().enumerate() {
                *spot = seen.at(x, y);
            }
        });
        Ok(Self { width, height, mm, pixels })
    }

    /// Share of the pixels of a kind of place.
    pub fn share(&self, place: Place) -> f64 {
        let there = self.pixels.iter().filter(|spot| spot.place == place as u8).count();
        there as f64 / self.pixels.len() as f64
    }

    /// Which kind of place a pixel is.
    pub fn place(&self, x: usize, y: usize) -> Place {
        Place::ALL[usize::from(self.pixels[y * self.width + x].place)]
    }
}

/// The heights, and what they are smoothed.
struct Relief<'a> {
    width: usize,
    mm: f64,
    relief: &'a [f32],
    smooth: &'a [f32],
}

impl Relief<'_> {
    fn at(&self, x: usize, y: usize) -> Spot {
        let (width, i) = (self.width, y * self.width + x);
        let height = self.relief.len() / width;
        // Noise goes with the board, not with the pixels: a tile's rank about −1..1.
        let noise = |texture: Texture, times: f64, offset: usize| {
            let at =
                |v: usize| ((v as f64 * self.mm * SIDE as f64 / TILE_MM * times) as usize + offset) % SIDE;
            f32::from(texture.tile()[at(y) * SIDE + at(x)]) / 32768.0 - 1.0
        };
        let ragged = 0.3 * noise(Texture::Cloud, 2.0, 90) + 0.15 * noise(Texture::Stipple, 1.0, 0);
        let out = self.relief[i] - self.smooth[i];
        let (recess, edge) = (RECESS as f32 * (1.0 + ragged), EDGE as f32 * (1.0 + ragged));
        let place = if out < recess {
            Place::Recess
        } else if out > edge {
            Place::Edge
        } else {
            Place::Field
        };
        let across_rim = (x.min(width - 1 - x) as f64) < (y.min(height - 1 - y) as f64);
        let rim = x.min(width - 1 - x).min(y).min(height - 1 - y) as f64 * self.mm;
        let upright = across_rim && rim < MARGIN + MOULDING;
        let pool = -1.4 * out.clamp(-0.6, 0.6)
            + 0.22 * noise(Texture::Streaks, 1.0, 40)
            + 0.3 * noise(Texture::Cloud, 0.6, 11);

        let beside = |at: usize| self.relief[at];
        let (left, right) = (beside(i - usize::from(x > 0)), beside(i + usize::from(x + 1 < width)));
        let above = beside(if y > 0 { i - width } else { i });
        let below = beside(if y + 1 < height { i + width } else { i });
        let step = 2.0 * self.mm as f32;
        let brush = BRUSH as f32 * noise(Texture::Streaks, 1.0, 200);
        let (mut across, mut down) = ((right - left) / step, (below - above) / step);
        if upright {
            across += brush
        } else {
            down += brush
        }
        // A lamp up on the left, a third of the way from overhead; the flat is lit by 1.
        let length = (across * across + down * down + 1.0).sqrt();
        let facing = (1.0 + 0.38 * across + 0.46 * down) / length;
        let open = 1.0 + 0.16 * out.clamp(-1.0, 0.5);
        // Half-way between lamp and eye.
        let half = ((1.0 + 0.2 * across + 0.25 * down) / (length * 1.05)).clamp(0.0, 1.0);
        let in_127ths = |v: f32| (v * 127.0).clamp(-127.0, 127.0) as i8;
        Spot {
            place: place as u8,
            upright,
            stands_out: in_127ths(out),
            pools: in_127ths(pool),
            lit: (128.0 * (facing.clamp(0.3, 1.6) * 0.75 + 0.25) * open).clamp(30.0, 255.0) as u8,
            mirrors: (255.0 * half.powi(24)) as u8,
        }
    }
}

/// Height of the board at a spot, mm.
fn carved(x: f64, y: f64, wide: f64) -> f64 {
    let rim = x.min(wide - x).min(y).min(TALL - y);
    let rounded = if rim < 3.0 { -(3.0 - rim).powi(2) / 3.0 } else { 0.0 };
    let inward = rim - MARGIN;
    if inward < MOULDING {
        return rounded + moulding(inward);
    }
    let (dx, dy) = (wide - MARGIN - MOULDING - 4.0 - x, TALL - MARGIN - MOULDING - 4.0 - y);
    SUNK + if dx > 0.0 && dy > 0.0 { carving(dx.hypot(dy), dy.atan2(dx)) } else { 0.0 }
}

/// The moulding in section: a quirk, a bead, a fillet, a cove down to the panel.
fn moulding(s: f64) -> f64 {
    let round = |u: f64| (1.0 - u * u).max(0.0).sqrt();
    match s {
        s if s < 0.0 => 0.0,
        s if s < 2.4 => -1.5 * (std::f64::consts::PI * s / 2.4).sin(),
        s if s < 9.2 => 2.9 * round((s - 5.8) / 3.4),
        s if s < 10.6 => -0.9,
        s if s < 11.6 => 1.2,
        s if s < 20.0 => {
            let down = (s - 11.6) / 8.4;
            SUNK + (1.2 - SUNK) * (1.0 - round(1.0 - down))
        }
        s if s < 21.2 => SUNK - 0.8,
        _ => SUNK,
    }
}

/// A fan of leaves round a boss, above the panel.
fn carving(r: f64, turn: f64) -> f64 {
    if r < 9.0 {
        return 3.2 * (1.0 - (r / 9.0).powi(2)).sqrt();
    }
    if r < 11.0 {
        return -0.9;
    }
    let along = turn / std::f64::consts::FRAC_PI_2 * LEAVES;
    let off = 2.0 * (along.fract() - 0.5);
    let middle = (along.floor() - (LEAVES - 1.0) / 2.0).abs();
    let tip = CARVED * (0.74 + 0.26 * (1.0 - off * off).sqrt()) * (1.0 - 0.04 * middle);
    if r > tip {
        return 0.0;
    }
    let out = (r - 11.0) / (tip - 11.0);
    let body = 3.4
        * (1.0 - off.abs().powf(2.4))
        * (std::f64::consts::PI * (0.12 + 0.80 * out)).sin().max(0.0).sqrt();
    // A rib along the middle, and veins that leave it.
    let half_width = r * std::f64::consts::FRAC_PI_4 / LEAVES;
    let rib = -0.8 * (-(off * half_width / 0.5).powi(2)).exp();
    let veins = 0.28 * (11.0 * out - 3.6 * off.abs()).sin() * (1.0 - off.abs());
    let groove = if off.abs() > 0.9 { -0.5 } else { 0.0 };
    body + rib + veins + groove
}

/// The mean over a square of 2 `around` + 1; beyond the board it is lower.
fn blurred(heights: &[f32], width: usize, around: usize) -> Vec<f32> {
    const BEYOND: f32 = -6.0;
    let height = heights.len() / width;
    let mut rows = vec![0f32; heights.len()];
    for (from, to) in heights.chunks_exact(width).zip(rows.chunks_exact_mut(width)) {
        smooth_line(width, around, BEYOND, |i| from[i], |i, mean| to[i] = mean);
    }
    let mut done = vec![0f32; heights.len()];
    for x in 0..width {
        smooth_line(height, around, BEYOND, |i| rows[i * width + x], |i, mean| done[i * width + x] = mean);
    }
    done
}

fn smooth_line(
    n: usize,
    around: usize,
    beyond: f32,
    of: impl Fn(usize) -> f32,
    mut put: impl FnMut(usize, f32),
) {
    let value =
        |i: isize| if (0..n as isize).contains(&i) { f64::from(of(i as usize)) } else { f64::from(beyond) };
    let around = around as isize;
    let mut sum: f64 = (-around..=around).map(value).sum();
    for i in 0..n as isize {
        put(i as usize, (sum / (2 * around + 1) as f64) as f32);
        sum += value(i + around + 1) - value(i - around);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn there_is_some_of_every_place() {
        let plate = Plate::new(600, 400).unwrap();
        let shares = Place::ALL.map(|place| plate.share(place));
        assert!((0.5..0.85).contains(&shares[0]) && shares[1] > 0.06 && shares[2] > 0.06, "{shares:?}");
        assert!((shares.iter().sum::<f64>() - 1.0).abs() < 1e-9);
        // The outline is an arris, the middle of the margin a flat, the groove beside the bead a recess.
        assert_eq!(plate.place(300, 1), Place::Edge);
        assert_eq!(plate.place(300, 26), Place::Field);
        assert_eq!(plate.place(300, 54), Place::Recess);
    }

    #[test]
    fn sizes_that_no_picture_has_are_refused() {
        for (width, height) in [(10, 10), (1200, 10), (20_000, 800), (0, 0)] {
            assert!(Plate::new(width, height).unwrap_err().to_string().contains("from 48 to 4096"));
        }
    }
}
