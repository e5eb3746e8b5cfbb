//! Kind of place at each pixel.
//!
//! What is lower than its surroundings is a recess, what stands out is an edge, and the rest is field; boundaries are
//! ragged, like those of a wiped glaze. On a sample board heights alone decide. On a piece each part gets the shares of
//! each place that the engine computes with, so the picture shows the predicted colours at any size.

use rayon::prelude::*;
use warm_blend_board::{ByPlace, Place};

use crate::{
    between::{between, mixed},
    blurred::blurred,
    counted::in_pieces,
    marks::{SIDE, TILE_MM, Texture, UP_CLOSE},
};

/// How far around a spot its surroundings go, mm, where shapes are as large as on a sample board.
const AROUND: f64 = 1.7;
/// Nearer to its surroundings than this, mm, nothing is a recess or an edge.
const LEAST: f32 = 0.015;

/// Heights relative to the surroundings below which a point is a recess, and above which it is an edge, mm.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Bounds {
    recess: f32,
    edge: f32,
}

impl Bounds {
    /// Bounds of a sample board.
    pub const OF_A_BOARD: Self = Self { recess: -0.10, edge: 0.13 };
    /// Bounds that make everything field.
    pub const NONE: Self = Self { recess: f32::NEG_INFINITY, edge: f32::INFINITY };

    pub fn place(self, resolved: f32) -> Place {
        if resolved < self.recess {
            Place::Recess
        } else if resolved > self.edge {
            Place::Edge
        } else {
            Place::Field
        }
    }
}

/// How far to either side a rim is scattered at most, mm†: a wiped film thins out, wear feathers.
const SCATTERED: f64 = 0.6;

/// Noise that makes boundaries ragged, fixed to the surface rather than the pixels.
pub(crate) struct Ragged {
    /// Steps of a tile by pixel.
    scale: f64,
    /// Pixels to the left and above that the whole picture would have.
    from: (usize, usize),
    /// Pixels that a rim is scattered over to either side.
    scattered: f32,
}

impl Ragged {
    /// For pixels of this size, mm, drawn as if they had the size `marks`, with so many of the whole picture to the left and above.
    pub fn at(mm: f64, marks: f64, from: (usize, usize)) -> Self {
        Self { scale: marks * SIDE as f64 / TILE_MM, from, scattered: (SCATTERED / mm) as f32 }
    }

    /// Value of a tile at a pixel, about −1 to 1, at a multiple of its scale and with an offset.
    pub fn noise(&self, texture: Texture, times: f64, offset: usize, (x, y): (usize, usize)) -> f32 {
        let scale = self.scale * times;
        let tile = texture.tile(false);
        let read = |x: usize, y: usize| f32::from(tile[(y + offset) % SIDE * SIDE + (x + offset) % SIDE]);
        on_steps(scale, (x + self.from.0, y + self.from.1), read) / 32768.0 - 1.0
    }

    /// Height of each pixel relative to its surroundings with ragged boundaries, mm; `out` is the height without.
    pub fn resolved(&self, out: &[f32], width: usize) -> Vec<f32> {
        let resolved = |i: usize| {
            let (x, y) = (i % width, i / width);
            let ragged = 0.3 * self.noise(Texture::Clouded, 2.0, 90, (x, y))
                + 0.15 * self.noise(Texture::Stippled, 1.0, 0, (x, y));
            let (across, down) = self.aside((x, y));
            let (x, y) = (x.saturating_add_signed(across).min(width - 1), y.saturating_add_signed(down));
            out[(y * width + x).min(out.len() - 1)] / (1.0 + ragged)
        };
        (0..out.len()).into_par_iter().with_min_len(1 << 14).map(resolved).collect()
    }

    /// Where a pixel near a rim takes its place from: from so many pixels beside, mostly few.
    fn aside(&self, (x, y): (usize, usize)) -> (isize, isize) {
        let chances = |x: usize, y: usize| {
            let mixed = mixed((x as u32).wrapping_mul(0x9E37_79B1) ^ (y as u32).wrapping_mul(0x85EB_CA77));
            (mixed ^ (mixed >> 12)).wrapping_mul(0x297A_2D39)
        };
        // The difference of two even chances: the nearer, the likelier.
        let chance = |shift: u32| {
            let even = |mixed: u32, shift: u32| f32::from((mixed >> shift) as u8) * (1.0 / 256.0);
            let read = |x: usize, y: usize| {
                let chances = chances(x, y);
                even(chances, shift) - even(chances, shift + 8)
            };
            let at = (x + self.from.0, y + self.from.1);
            (on_steps(self.scale, at, read) * self.scattered).round() as isize
        };
        (chance(0), chance(16))
    }
}

/// The value of a pixel in a field of so many steps a pixel; between its steps where pixels are much finer.
#[inline]
fn on_steps(scale: f64, (x, y): (usize, usize), read: impl Fn(usize, usize) -> f32) -> f32 {
    let (x, y) = (x as f64 * scale, y as f64 * scale);
    let (column, row) = (x as usize, y as usize);
    if scale >= UP_CLOSE {
        return read(column, row);
    }
    between((x.fract() as f32, y.fract() as f32), |right, down| read(column + right, row + down))
}

/// Heights of a surface.
pub(crate) struct Heights<'a> {
    pub width: usize,
    /// Size of a pixel, mm.
    pub mm: f64,
    /// Heights, mm, row by row.
    pub heights: &'a [f32],
    /// Height outside the picture, mm; by default, that of the nearest pixel.
    pub beyond: Option<f32>,
    /// Size of the shapes at a point relative to those of a sample board, which determines the radius of its
    /// surroundings.
    pub grown: &'a (dyn Fn(usize) -> f64 + Sync),
}

impl Heights<'_> {
    /// Height of each pixel relative to its surroundings, mm.
    pub fn out(&self) -> Vec<f32> {
        let Self { width, mm, heights, beyond, grown } = *self;
        let around = |i: usize| ((grown(i) * AROUND / mm).round() as usize).clamp(1, 255) as u8;
        let around: Vec<u8> = (0..heights.len()).into_par_iter().with_min_len(1 << 14).map(around).collect();
        let mut known = [false; 256];
        for around in &around {
            known[usize::from(*around)] = true;
        }
        let mut out = vec![0.0; heights.len()];
        for size in (1..=255u8).filter(|size| known[usize::from(*size)]) {
            let blur = |heights: &[f32]| blurred(heights, width, usize::from(size), beyond);
            let blurred = blur(&blur(heights));
            let pixels = out.par_iter_mut().zip(heights).zip(&blurred).zip(&around).with_min_len(1 << 14);
            pixels.filter(|(_, around)| **around == size).for_each(|(((out, height), blurred), _)| {
                *out = height - blurred;
            });
        }
        out
    }
}

/// Steps that heights are distinguished by, and how many of them make a millimetre.
const STEPS: usize = 8192;
const BY_MM: f32 = 128.0;

/// Bounds that give each part its computed shares of each place, as far as it has any relief. By pixel: index of its
/// part, and height relative to the surroundings.
pub(crate) fn bounds_by_share(part: &[u16], resolved: &[f32], shares: &[ByPlace<f64>]) -> Vec<Bounds> {
    let step = |out: f32| (out * BY_MM + (STEPS / 2) as f32).clamp(0.0, (STEPS - 1) as f32) as usize;
    let counted = in_pieces(
        part.len(),
        |pixels| {
            let mut counted = vec![vec![0u32; STEPS]; shares.len()];
            for i in pixels {
                if let Some(counted) = counted.get_mut(usize::from(part[i])) {
                    counted[step(resolved[i])] += 1;
                }
            }
            counted
        },
        |counted, more| {
            for (n, more) in counted.iter_mut().flatten().zip(more.iter().flatten()) {
                *n += more;
            }
        },
    );
    let height = |step: usize| (step as f32 - (STEPS / 2) as f32) / BY_MM;
    let bounds = |(counted, shares): (&Vec<u32>, &ByPlace<f64>)| {
        let all: u32 = counted.iter().sum();
        if all == 0 {
            return Bounds::NONE;
        }
        // From either end up to where so many of all lie.
        let up_to = |share: f64, steps: &mut dyn Iterator<Item = &u32>| {
            let mut n = 0;
            steps
                .take_while(|step| {
                    n += **step;
                    f64::from(n) <= share * f64::from(all)
                })
                .count()
        };
        let recess = height(up_to(shares.recess, &mut counted.iter())).min(-LEAST);
        let edge = height(STEPS - up_to(shares.edge, &mut counted.iter().rev())).max(LEAST);
        Bounds { recess, edge }
    };
    counted.iter().zip(shares).map(bounds).collect()
}
