//! Marks of tools: square tiles of ranks that repeat without a seam.
//!
//! A layer covers the pixels of lowest rank first. Each tile holds every rank equally often, so that a share of the ranks is
//! a share of the area.

use std::sync::OnceLock;

use warm_blend_board::Technique;
use warm_blend_piece::{Age, Mark};

/// Side of a tile, pixels; a pixel of it is [`TILE_MM`]`/SIDE` mm of board.
pub(crate) const SIDE: usize = 512;

/// How much of a board a tile covers, mm.
pub(crate) const TILE_MM: f64 = 128.0;

/// What a mark looks like.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Texture {
    /// Along the brush, broken now and then.
    Streaks,
    /// Fine and even.
    Stipple,
    /// Folds of a cloth.
    Rag,
    /// Soft patches.
    Cloud,
    /// The weave of a cloth that was pressed on.
    Patted,
    /// Rubbed through: patches with a rough rim.
    Rubbed,
    /// Round drops of several sizes.
    Drops,
    /// Down the board.
    Runs,
    /// A repeated motif.
    Motif,
}

/// How hard a mark's rim is, as a share of all ranks within which it fades.
pub(crate) const fn softness(mark: Mark) -> f32 {
    match mark {
        Mark::By(Technique::WetBlend | Technique::MeshedGlaze) => 0.35,
        Mark::By(Technique::GlazeRaggedSoftened) => 0.2,
        Mark::By(Technique::WashPatted | Technique::MetallicWash) => 0.3,
        Mark::By(Technique::GlazeStippled | Technique::WashDripped) => 0.15,
        Mark::By(Technique::Speckle | Technique::KnifeFlecks | Technique::Stencil) => 0.004,
        Mark::By(Technique::DryBrush) => 0.12,
        Mark::Repeated => 0.02,
        Mark::By(_) | Mark::Aged(Age::Wear) => 0.06,
        Mark::Aged(Age::WaterMarks | Age::Verdigris) => 0.2,
        Mark::Aged(Age::Grime | Age::SunFade) => 0.5,
    }
}

impl Texture {
    const ALL: [Texture; 9] = [
        Texture::Streaks,
        Texture::Stipple,
        Texture::Rag,
        Texture::Cloud,
        Texture::Patted,
        Texture::Rubbed,
        Texture::Drops,
        Texture::Runs,
        Texture::Motif,
    ];

    pub(crate) const fn of(mark: Mark) -> Self {
        let technique = match mark {
            Mark::By(technique) => technique,
            // The brush of a stencil stipples; the pattern is laid by where its repeats are.
            Mark::Repeated => return Texture::Stipple,
            Mark::Aged(Age::Wear) => return Texture::Rubbed,
            Mark::Aged(Age::WaterMarks) => return Texture::Runs,
            Mark::Aged(Age::Grime | Age::SunFade | Age::Verdigris) => return Texture::Cloud,
        };
        match technique {
            Technique::GlazeStippled | Technique::TextureCoat | Technique::RolledCoat => Texture::Stipple,
            Technique::GlazeRagged | Technique::GlazeRaggedSoftened => Texture::Rag,
            Technique::WetBlend
            | Technique::MeshedGlaze
            | Technique::WashPatted
            | Technique::MetallicWash => Texture::Cloud,
            Technique::SandBack | Technique::WetDistress | Technique::Gilding => Texture::Rubbed,
            Technique::Speckle | Technique::KnifeFlecks => Texture::Drops,
            Technique::WashDripped => Texture::Runs,
            Technique::Stencil => Texture::Motif,
            _ => Texture::Streaks,
        }
    }

    /// Its ranks, row by row, each of `0..=u16::MAX` as often as any other; made when first asked for.
    pub(crate) fn tile(self) -> &'static [u16] {
        static TILES: [OnceLock<Vec<u16>>; Texture::ALL.len()] =
            [const { OnceLock::new() }; Texture::ALL.len()];
        TILES[self as usize].get_or_init(|| ranked(&self.drawn()))
    }

    fn drawn(self) -> Vec<f32> {
        let seed = 1 + self as u32;
        let side = SIDE as f32;
        let at = |f: &dyn Fn(f32, f32) -> f32| -> Vec<f32> {
            (0..SIDE * SIDE).map(|i| f((i % SIDE) as f32 / side, (i / SIDE) as f32 / side)).collect()
        };
        match self {
            // Long along x, fine across; the long wave lets a brush run dry and be loaded anew.
            Texture::Streaks => at(&|x, y| {
                let bend = 0.012 * noise(x, y, [2, 2], seed + 40);
                let y = y + bend;
                noise(x, y, [2, 96], seed)
                    + 0.7 * noise(x, y, [5, 200], seed + 7)
                    + 0.55 * noise(x, y, [4, 12], seed + 9)
                    + 0.35 * noise(x, y, [64, 256], seed + 11)
            }),
            Texture::Stipple => at(&|x, y| {
                noise(x, y, [110, 110], seed)
                    + 0.6 * noise(x, y, [230, 230], seed + 3)
                    + 0.45 * noise(x, y, [9, 9], seed + 5)
            }),
            Texture::Rag => at(&|x, y| {
                let (dx, dy) = (0.03 * noise(x, y, [6, 6], seed + 20), 0.03 * noise(x, y, [6, 6], seed + 21));
                let (x, y) = (x + dx, y + dy);
                let fold = |n: i32, seed| 1.0 - (2.0 * noise(x, y, [n, n], seed)).abs();
                0.9 * fold(9, seed)
                    + 0.6 * fold(19, seed + 1)
                    + 0.35 * noise(x, y, [60, 60], seed + 2)
                    + 0.4 * noise(x, y, [5, 5], seed + 4)
            }),
            Texture::Cloud => at(&|x, y| {
                (0..5)
                    .map(|octave| {
                        noise(x, y, [5 << octave, 5 << octave], seed + octave) / (1 << octave) as f32
                    })
                    .sum()
            }),
            Texture::Patted => at(&|x, y| {
                noise(x, y, [14, 14], seed)
                    + 0.8 * noise(x, y, [31, 31], seed + 1)
                    + 0.6 * noise(x, y, [70, 70], seed + 2)
                    + 0.4 * noise(x, y, [170, 40], seed + 3)
                    + 0.4 * noise(x, y, [40, 170], seed + 4)
            }),
            Texture::Rubbed => at(&|x, y| {
                noise(x, y, [6, 6], seed)
                    + 0.7 * noise(x, y, [15, 15], seed + 1)
                    + 0.45 * noise(x, y, [44, 44], seed + 2)
                    + 0.4 * noise(x, y, [120, 120], seed + 3)
                    + 0.25 * noise(x, y, [24, 160], seed + 4)
            }),
            Texture::Drops => drops(seed),
            Texture::Runs => at(&|x, y| {
                let sway = 0.006 * noise(x, y, [8, 4], seed + 30);
                let x = x + sway;
                noise(x, y, [40, 2], seed)
                    + 0.5 * noise(x, y, [90, 3], seed + 1)
                    + 0.45 * noise(x, y, [12, 5], seed + 2)
                    + 0.2 * noise(x, y, [120, 60], seed + 3)
            }),
            Texture::Motif => at(&|x, y| {
                motif(x, y) + 0.006 * noise(x, y, [90, 90], seed) + 0.02 * noise(x, y, [7, 7], seed + 1)
            }),
        }
    }
}

/// Distance to the nearest drop over the drop's size.
fn drops(seed: u32) -> Vec<f32> {
    const CELLS: i32 = 26;
    let mut field = vec![f32::INFINITY; SIDE * SIDE];
    let (side, cell) = (SIDE as i32, SIDE as f32 / CELLS as f32);
    for cy in 0..CELLS {
        for cx in 0..CELLS {
            let chance = |n: u32| unit(hash(cx, cy, seed + 100 * n));
            let (x, y) = ((cx as f32 + chance(1)) * cell, (cy as f32 + chance(2)) * cell);
            // Few are large.
            let size = 0.25 + 1.1 * chance(3).powi(4);
            let long = 0.8 + 0.5 * chance(4);
            let reach = (2.2 * cell) as i32;
            for dy in -reach..=reach {
                for dx in -reach..=reach {
                    let (px, py) = (x as i32 + dx, y as i32 + dy);
                    let (ex, ey) = ((px as f32 - x) * long, (py as f32 - y) / long);
                    let far = (ex * ex + ey * ey).sqrt() / size;
                    let at = (py.rem_euclid(side) * side + px.rem_euclid(side)) as usize;
                    field[at] = field[at].min(far);
                }
            }
        }
    }
    field
}

/// A lozenge of four leaves round a dot, twice over in each direction; low inside.
fn motif(x: f32, y: f32) -> f32 {
    let (x, y) = ((x * 2.0).fract() - 0.5, (y * 2.0).fract() - 0.5);
    let (r, turn) = (x.hypot(y), y.atan2(x));
    // How far along the nearest leaf, and how far from its middle.
    let quarter = (turn / std::f32::consts::FRAC_PI_2).round() * std::f32::consts::FRAC_PI_2;
    let (along, off) = (r * (turn - quarter).cos(), (r * (turn - quarter).sin()).abs());
    let half = (along - 0.05).max(0.0) * (0.40 - along).max(0.0) * 3.0;
    let leaf = if (0.05..0.40).contains(&along) { off - half } else { off + 0.2 + (along - 0.40).abs() };
    let vein = off - 0.006;
    leaf.max(-vein).min(r - 0.035)
}

/// Replaces values by their ranks, scaled to all of `u16`.
fn ranked(values: &[f32]) -> Vec<u16> {
    let mut order: Vec<u32> = (0..values.len() as u32).collect();
    order.sort_unstable_by(|one, other| values[*one as usize].total_cmp(&values[*other as usize]));
    let mut ranks = vec![0; values.len()];
    for (rank, at) in order.into_iter().enumerate() {
        ranks[at as usize] = (rank * 65536 / values.len()) as u16;
    }
    ranks
}

/// Smooth noise about −1..1 that repeats over 0..1, with so many cells across and down (K. Perlin, *Computer Graphics* 19
/// (1985) 287, as value noise with his later fade).
pub(crate) fn noise(x: f32, y: f32, [across, down]: [i32; 2], seed: u32) -> f32 {
    let (x, y) = (x * across as f32, y * down as f32);
    let (cx, cy) = (x.floor() as i32, y.floor() as i32);
    let fade = |t: f32| t * t * t * (t * (t * 6.0 - 15.0) + 10.0);
    let (fx, fy) = (fade(x - cx as f32), fade(y - cy as f32));
    let value = |dx: i32, dy: i32| {
        2.0 * unit(hash((cx + dx).rem_euclid(across), (cy + dy).rem_euclid(down), seed)) - 1.0
    };
    let along = |dy| value(0, dy) + fx * (value(1, dy) - value(0, dy));
    along(0) + fy * (along(1) - along(0))
}

/// A number of its own for each cell (the finisher of MurmurHash3, A. Appleby 2011, public domain).
pub(crate) fn hash(x: i32, y: i32, seed: u32) -> u32 {
    let mut h = (x as u32).wrapping_mul(0x9e37_79b1)
        ^ (y as u32).wrapping_mul(0x85eb_ca77)
        ^ seed.wrapping_mul(0xc2b2_ae3d);
    h = (h ^ (h >> 16)).wrapping_mul(0x85eb_ca6b);
    h = (h ^ (h >> 13)).wrapping_mul(0xc2b2_ae35);
    h ^ (h >> 16)
}

fn unit(hash: u32) -> f32 {
    (hash >> 8) as f32 / (1 << 24) as f32
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_rank_is_there_equally_often() {
        for texture in Texture::ALL {
            let mut tenths = [0usize; 10];
            for rank in texture.tile() {
                tenths[usize::from(*rank) * 10 / 65536] += 1;
            }
            let each = SIDE * SIDE / 10;
            assert!(tenths.iter().all(|n| n.abs_diff(each) < 40), "{texture:?} {tenths:?}");
        }
    }

    #[test]
    fn noise_repeats_without_a_seam() {
        for y in [0.1, 0.37, 0.9] {
            let across = noise(0.0, y, [7, 5], 3) - noise(1.0 - 1e-6, y, [7, 5], 3);
            let down = noise(y, 0.0, [7, 5], 3) - noise(y, 1.0 - 1e-6, [7, 5], 3);
            assert!(across.abs() < 1e-3 && down.abs() < 1e-3);
        }
    }
}
