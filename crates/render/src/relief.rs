//! The surface at each pixel of a picture: kind of place, pooling of films, lighting.
//!
//! Heights are in mm.

use rayon::prelude::*;
use warm_blend_board::Place;

use crate::{
    marks::{self, Texture},
    places::{Bounds, Ragged},
};

/// Steps to a slope of 1.
const SLOPES: f32 = 4096.0;
/// Smallest and largest side of a picture, pixels.
const SMALLEST: u32 = 48;
const LARGEST: u32 = 4096;

/// An impossible size of a picture.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("a picture of {0} × {1} pixels: each side goes from {SMALLEST} to {LARGEST}")]
pub struct BadSize(u32, u32);

/// A surface at a size in pixels, prepared for repeated drawing.
#[derive(Debug)]
pub struct Relief {
    pub(crate) width: usize,
    pub(crate) height: usize,
    /// Size of a pixel for marks and brush strokes, mm.
    pub(crate) mm: f64,
    /// Pixels to the left and above that the whole picture would have at this scale, and its width.
    pub(crate) from: (usize, usize),
    pub(crate) whole: usize,
    /// Samples per pixel of the picture in each direction.
    pub(crate) times: usize,
    pub(crate) pixels: Vec<Spot>,
}

/// The surface at a pixel.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(crate) struct Spot {
    /// 0 field, 1 recess, 2 edge.
    pub place: u8,
    /// True if the brush goes up and down: on stiles and upright mouldings.
    pub upright: bool,
    /// Height relative to the surroundings, 127 for a millimetre.
    pub stands_out: i8,
    /// Pooling of films, from −127 (thin) to 127 (thick).
    pub pools: i8,
    /// Slope across and down, 4096 for 45°.
    pub across: i16,
    pub down: i16,
    /// Visible share of the surroundings, 128 as on the flat.
    pub open: u8,
    /// Closeness to an outline, 255 on it.
    pub near: u8,
    /// Position on its part from the top, 255 at the bottom.
    pub low: u8,
    /// Slope of brush furrows, −127 to 127.
    pub furrow: i8,
}

impl Spot {
    /// Slope across and down.
    #[inline]
    pub fn slope(&self) -> (f32, f32) {
        (f32::from(self.across) / SLOPES, f32::from(self.down) / SLOPES)
    }
}

/// Input of a relief.
pub(crate) struct Shaped<'a> {
    pub width: usize,
    /// Size of a pixel on the surface, mm.
    pub mm: f64,
    /// Size of a pixel for marks, mm: on a large piece marks are drawn enlarged.
    pub marks: f64,
    /// Pixels to the left and above that the whole picture would have at this scale, and its width.
    pub from: (usize, usize),
    pub whole: usize,
    /// Samples per pixel of the picture in each direction.
    pub times: usize,
    /// Heights, mm.
    pub heights: &'a [f32],
    /// Height of each pixel relative to its surroundings, mm.
    pub out: &'a [f32],
    /// The same with ragged boundaries, and the bounds of kinds of place at each pixel.
    pub resolved: &'a [f32],
    pub bounds: &'a (dyn Fn(usize) -> Bounds + Sync),
    /// True where the brush goes up and down.
    pub upright: &'a (dyn Fn(usize, usize) -> bool + Sync),
    /// Closeness to an outline and position on its part at a pixel, each 0 to 255.
    pub stands: &'a (dyn Fn(usize, usize) -> (u8, u8) + Sync),
}

/// Checks the size of a picture.
pub(crate) fn sized(width: u32, height: u32) -> Result<(usize, usize), BadSize> {
    if !(SMALLEST..=LARGEST).contains(&width) || !(SMALLEST..=LARGEST).contains(&height) {
        return Err(BadSize(width, height));
    }
    Ok((width as usize, height as usize))
}

impl Relief {
    pub(crate) fn of(shaped: &Shaped) -> Self {
        let Shaped { width, heights, .. } = *shaped;
        let mut pixels = vec![Spot::default(); heights.len()];
        let seen = Looked { shaped, ragged: Ragged::at(shaped.mm, shaped.marks, shaped.from) };
        pixels.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for (x, spot) in row.iter_mut().enumerate() {
                *spot = seen.at(x, y);
            }
        });
        let Shaped { marks: mm, from, whole, times, .. } = *shaped;
        Self { width, height: heights.len() / width, mm, from, whole, times, pixels }
    }

    /// Memory it takes, bytes.
    pub fn bytes(&self) -> usize {
        self.pixels.len() * size_of::<Spot>()
    }

    /// True if marks are sampled coarsely.
    pub(crate) fn is_coarse(&self) -> bool {
        self.mm > marks::COARSE
    }

    /// Share of the pixels of a kind of place.
    pub fn share(&self, place: Place) -> f64 {
        let there = self.pixels.iter().filter(|spot| spot.place == place as u8).count();
        there as f64 / self.pixels.len() as f64
    }

    /// Kind of place at a pixel.
    pub fn place(&self, x: usize, y: usize) -> Place {
        Place::ALL[usize::from(self.pixels[y * self.width + x].place)]
    }
}

/// A surface, pixel by pixel.
struct Looked<'a> {
    shaped: &'a Shaped<'a>,
    ragged: Ragged,
}

impl Looked<'_> {
    fn at(&self, x: usize, y: usize) -> Spot {
        let Shaped { width, mm, heights, out, .. } = *self.shaped;
        let i = y * width + x;
        let height = heights.len() / width;
        let place = (self.shaped.bounds)(i).place(self.shaped.resolved[i]);
        let out = out[i];
        let upright = (self.shaped.upright)(x, y);
        let (near, low) = (self.shaped.stands)(x, y);
        let pool = -1.4 * out.clamp(-0.6, 0.6);

        let beside = |at: usize| heights[at];
        let (left, right) = (beside(i - usize::from(x > 0)), beside(i + usize::from(x + 1 < width)));
        let above = beside(if y > 0 { i - width } else { i });
        let below = beside(if y + 1 < height { i + width } else { i });
        let step = 2.0 * mm as f32;
        let (across, down) = ((right - left) / step, (below - above) / step);
        let open = 1.0 + 0.16 * out.clamp(-1.0, 0.5);
        let slope = |v: f32| (v * SLOPES).clamp(-32767.0, 32767.0) as i16;
        let in_127ths = |v: f32| (v * 127.0).clamp(-127.0, 127.0) as i8;
        Spot {
            place: place as u8,
            upright,
            stands_out: in_127ths(out),
            pools: in_127ths(pool),
            across: slope(across),
            down: slope(down),
            open: (128.0 * open).clamp(30.0, 255.0) as u8,
            near,
            low,
            furrow: in_127ths(self.ragged.noise(Texture::Brushed, 1.0, 200, (x, y))),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn sizes_that_no_picture_has_are_refused() {
        for (width, height) in [(10, 10), (1200, 10), (20_000, 800), (0, 0)] {
            assert!(sized(width, height).unwrap_err().to_string().contains("from 48 to 4096"));
        }
    }
}
