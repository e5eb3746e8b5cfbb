//! Positions of pixels on the tiles of marks.
//!
//! A tile is a quarter of a metre wide, and a table is longer. So that nothing repeats visibly, a large part is assembled
//! from patches of the tile, each from another place. Where two patches meet, marks of both overlap, with fewer of each
//! further from its own patch. For two uniformly distributed ranks, the lower of a and b + p is below v with probability
//! 1 − (1 − v)(1 − (v − p)); re-ranked by that, ranks are uniform there too.

use crate::{
    Relief,
    between::{between, mixed},
    marks::{SIDE, TILE_MM, UP_CLOSE},
};

/// How long and wide a patch is, and how far on either side of a seam both patches lie, in steps of a tile.
const PATCH: u32 = 860;
const MEET: u32 = 75;

/// Positions of pixels on the tiles of marks.
pub(crate) struct OnTile<'a> {
    across: Vec<u32>,
    down: Vec<u32>,
    /// By column and by row: how far it is to the next step of a tile, 0 to 1, where pixels are much finer than those.
    beyond: Option<(Vec<f32>, Vec<f32>)>,
    /// By column and by row: between which seams it lies.
    columns: Vec<Between>,
    rows: Vec<Between>,
    parts: &'a [u16],
    large: &'a [bool],
    width: usize,
}

/// A row of pixels on the tiles of marks.
pub(crate) struct RowOnTile<'a> {
    on_tile: &'a OnTile<'a>,
    parts: &'a [u16],
    y: usize,
}

/// Mask that wraps a number to the tile.
pub(crate) const ON_TILE: u32 = SIDE as u32 - 1;

impl<'a> OnTile<'a> {
    /// Positions for a relief, offset by `nth` and by part; without parts, everything is one.
    pub fn of(relief: &Relief, (parts, large): (&'a [u16], &'a [bool]), nth: usize) -> Self {
        let scale = relief.mm * SIDE as f64 / TILE_MM;
        let (ox, oy) = (nth * 397 + 161, nth * 631 + 117);
        let line = |n: usize, from: usize, offset: usize| -> Vec<u32> {
            (from..from + n).map(|v| ((v as f64 * scale) as usize + offset) as u32).collect()
        };
        let rest =
            |n: usize, from: usize| (from..from + n).map(|v| (v as f64 * scale).fract() as f32).collect();
        // One more than there are, for who looks beside.
        let most = relief.width.max(relief.height) + 1;
        let (across, down) = (line(most, relief.from.0, ox), line(most, relief.from.1, oy));
        let beyond = (scale < UP_CLOSE).then(|| (rest(most, relief.from.0), rest(most, relief.from.1)));
        let seams = |line: &[u32]| line.iter().map(|at| Between::seams(at + PATCH)).collect();
        let (columns, rows) = (seams(&across), seams(&down));
        Self { across, down, beyond, columns, rows, parts, large, width: relief.width }
    }

    #[inline]
    pub fn row(&'a self, y: usize) -> RowOnTile<'a> {
        let parts = self.parts.get(y * self.width..).unwrap_or_default();
        RowOnTile { on_tile: self, parts, y }
    }
}

/// Where a spot lies between two seams: the number of its patch, and of the one that it is near to, with how far from that, 0 on
/// the seam to 1.
#[derive(Clone, Copy)]
struct Between {
    own: u32,
    next: Option<(u32, f32)>,
}

impl Between {
    #[inline]
    fn seams(at: u32) -> Self {
        let (own, within) = (at / PATCH, at % PATCH);
        let apart = |steps: u32| steps as f32 * (1.0 / MEET as f32);
        let next = match within {
            _ if within < MEET => Some((own - 1, apart(within))),
            _ if PATCH - within <= MEET => Some((own + 1, apart(PATCH - within))),
            _ => None,
        };
        Self { own, next }
    }
}

/// The rank where marks of another patch lie over the own ones.
#[inline]
fn over(own: f32, other: f32, apart: f32) -> f32 {
    let first = own.min(other + apart);
    1.0 - (1.0 - first) * (1.0 - (first - apart).max(0.0))
}

impl RowOnTile<'_> {
    /// Where a pixel lies, or one beside it on the same part, and which part that is.
    #[inline]
    fn spot(&self, x: usize, (dx, dy): (usize, usize), turned: bool) -> (u32, u32, u32) {
        let OnTile { across, down, .. } = self.on_tile;
        let (x_then, y_then) = (x + dx, self.y + dy);
        let (u, v) = if turned { (down[y_then], across[x_then]) } else { (across[x_then], down[y_then]) };
        let part = self.parts.get(x).map_or(0, |part| u32::from(*part));
        let (du, dv) = aside(part);
        (u + du, v + dv, part)
    }

    /// Position on a tile of pixel `x` of the row, `turned` where the brush goes up and down.
    #[inline]
    pub fn at(&self, x: usize, turned: bool) -> usize {
        let (u, v, _) = self.spot(x, (0, 0), turned);
        place(u, v)
    }

    /// Ranks of pixels of the row from one on, `turned` where the brush goes up and down. With `patched`, marks on large
    /// parts do not repeat.
    pub fn ranks(
        &self,
        tile: &[u16],
        patched: bool,
        from: usize,
        ranks: &mut [u16],
        turned: impl Fn(usize) -> bool,
    ) {
        let OnTile { across, down, beyond, columns, rows, large, .. } = self.on_tile;
        if let Some(beyond) = beyond {
            for (rank, x) in ranks.iter_mut().zip(from..) {
                *rank = self.between(tile, x, turned(x), patched, beyond);
            }
            return;
        }
        let row = rows[self.y];
        let along = |x: usize| {
            let part = self.parts.get(x).copied().unwrap_or_default();
            let patched = patched && large.get(usize::from(part)).is_some_and(|large| *large);
            let patch = patched.then(|| (columns[x].own, row.next.is_none() && columns[x].next.is_none()));
            (u32::from(part), turned(x), patch)
        };
        let (mut x, end) = (from, from + ranks.len());
        while x < end {
            // As long as a line of the tile goes on.
            let here = along(x);
            let to = (x + 1..end).find(|x| along(*x) != here).unwrap_or(end);
            let run = &mut ranks[x - from..to - from];
            let (part, turns, patch) = here;
            if let Some((_, false)) = patch {
                for (rank, x) in run.iter_mut().zip(x..) {
                    *rank = self.rank(tile, x, (0, 0), turns);
                }
            } else {
                let (mut u, mut v) = aside(part);
                if let Some((column, _)) = patch {
                    let (column, row) = if turns { (row.own, column) } else { (column, row.own) };
                    let (du, dv) = patch_aside(column, row, part);
                    (u, v) = (u + du, v + dv);
                }
                let line = across[x..to].iter().zip(run);
                match turns {
                    false => {
                        let tile = &tile[place(0, down[self.y] + v)..][..SIDE];
                        line.for_each(|(x, rank)| *rank = tile[((x + u) & ON_TILE) as usize]);
                    }
                    true => {
                        let u = down[self.y] + u;
                        line.for_each(|(x, rank)| *rank = tile[place(u, x + v)]);
                    }
                }
            }
            x = to;
        }
    }

    /// Rank of a pixel that lies between the steps of a tile: up close marks have soft edges, not those of the steps.
    fn between(
        &self,
        tile: &[u16],
        x: usize,
        turned: bool,
        patched: bool,
        (across, down): &(Vec<f32>, Vec<f32>),
    ) -> u16 {
        let (u, v, part) = self.spot(x, (0, 0), turned);
        let (right, below) = if turned { (down[self.y], across[x]) } else { (across[x], down[self.y]) };
        let is_patched = patched && self.is_large(part);
        let rank = |du: usize, dv: usize| {
            let at = (u + du as u32, v + dv as u32);
            f32::from(if is_patched {
                self.patched(tile, at, part, x, (0, 0), turned)
            } else {
                tile[place(at.0, at.1)]
            })
        };
        between((right, below), rank) as u16
    }

    fn is_large(&self, part: u32) -> bool {
        self.on_tile.large.get(part as usize).is_some_and(|large| *large)
    }

    /// Rank of a pixel of the row, or of an adjacent one on the same part, in marks that do not repeat.
    #[inline]
    pub fn rank(&self, tile: &[u16], x: usize, aside: (usize, usize), turned: bool) -> u16 {
        let (u, v, part) = self.spot(x, aside, turned);
        if !self.is_large(part) {
            return tile[place(u, v)];
        }
        self.patched(tile, (u, v), part, x, aside, turned)
    }

    /// Rank at a spot of a part that is made of patches.
    #[inline]
    fn patched(
        &self,
        tile: &[u16],
        (u, v): (u32, u32),
        part: u32,
        x: usize,
        aside: (usize, usize),
        turned: bool,
    ) -> u16 {
        let (across, down) = (self.on_tile.columns[x + aside.0], self.on_tile.rows[self.y + aside.1]);
        let (columns, rows) = if turned { (down, across) } else { (across, down) };
        let of = |column: u32, row: u32| {
            let (du, dv) = patch_aside(column, row, part);
            tile[place(u + du, v + dv)]
        };
        if columns.next.is_none() && rows.next.is_none() {
            return of(columns.own, rows.own);
        }
        let share = |rank: u16| (f32::from(rank) + 0.5) * (1.0 / 65536.0);
        let along = |row: u32| {
            let own = share(of(columns.own, row));
            columns.next.map_or(own, |(next, apart)| over(own, share(of(next, row)), apart))
        };
        let own = along(rows.own);
        let rank = rows.next.map_or(own, |(next, apart)| over(own, along(next), apart));
        (rank * 65536.0) as u16
    }
}

/// How far on a tile a part begins: by odd steps, so that none lie together.
#[inline]
fn aside(part: u32) -> (u32, u32) {
    (389 * part, 727 * part)
}

/// How much further on a patch begins: anywhere.
#[inline]
fn patch_aside(column: u32, row: u32, part: u32) -> (u32, u32) {
    let chance = column
        .wrapping_mul(0x9E37_79B1)
        .wrapping_add(row.wrapping_mul(0x85EB_CA77))
        .wrapping_add(part.wrapping_mul(0xC2B2_AE3D));
    let chance = mixed(chance);
    (chance >> 22, (chance >> 12) & ON_TILE)
}

/// The place of a spot on a tile.
#[inline]
fn place(u: u32, v: u32) -> usize {
    ((v & ON_TILE) as usize) * SIDE + (u & ON_TILE) as usize
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::marks::Texture;

    /// A square so many pixels wide, each so many steps of a tile.
    fn relief(width: usize, steps: f64) -> Relief {
        let mm = steps * TILE_MM / SIDE as f64;
        Relief { width, height: width, mm, from: (0, 0), whole: width, times: 1, pixels: Vec::new() }
    }

    /// Ranks of a part so many tiles wide, at every second step of the tile.
    fn ranks(texture: Texture, tiles: usize, large: bool) -> (usize, Vec<f32>) {
        let width = tiles * SIDE / 2;
        let relief = relief(width, 2.0);
        let parts = vec![3u16; width * width];
        let on_tile = OnTile::of(&relief, (&parts, if large { &[true; 4] } else { &[] }), 0);
        let tile = texture.tile(false);
        let row = |y: usize| {
            let row = on_tile.row(y);
            (0..width).map(move |x| f32::from(row.rank(tile, x, (0, 0), false)) / 65536.0).collect::<Vec<_>>()
        };
        (width, (0..width).flat_map(row).collect())
    }

    /// How much what lies so many tiles further on is the same: 1 for all of it.
    fn alike((width, ranks): &(usize, Vec<f32>), tiles: usize) -> f32 {
        let on = tiles * SIDE / 2;
        let pairs =
            (0..*width).flat_map(|y| (0..width - on).map(move |x| (y * width + x, y * width + x + on)));
        let (mut sum, mut n) = (0.0, 0.0);
        for (one, other) in pairs {
            sum += (ranks[one] - 0.5) * (ranks[other] - 0.5);
            n += 1.0;
        }
        // Even ranks have a variance of a twelfth.
        12.0 * sum / n
    }

    /// Between the steps of a tile ranks go over into each other: none is left out, and no step is seen.
    #[test]
    fn up_close_ranks_go_over_into_each_other() {
        let width = 400;
        let tile = Texture::Crossed.tile(false);
        for large in [&[true][..], &[false]] {
            let parts = vec![0u16; width * width];
            let fine = relief(width, 0.125);
            let on_tile = OnTile::of(&fine, (&parts, large), 2);
            let row = |y: usize| {
                let mut ranks = vec![0; width];
                on_tile.row(y).ranks(tile, true, 0, &mut ranks, |_| false);
                ranks
            };
            let (first, steps) = (row(0), 8);
            let most =
                |of: &[u16], by: usize| of.windows(by + 1).map(|w| w[0].abs_diff(w[by])).max().unwrap();
            // From one pixel to the next an eighth of what it is from step to step.
            assert!(f64::from(most(&first, 1)) <= 0.126 * f64::from(most(&first, steps)) + 2.0);
            for x in (0..width).step_by(steps) {
                assert_eq!(first[x], on_tile.row(0).rank(tile, x, (0, 0), false), "{x}");
            }
        }
    }

    /// A line of ranks is made of the same ranks as pixel by pixel, across seams, parts, and where a brush turns.
    #[test]
    fn a_line_of_ranks_is_as_pixel_by_pixel() {
        let width = 2 * SIDE;
        let relief = relief(width, 1.3);
        let parts: Vec<u16> =
            (0..width * width).map(|i| (i % width / 300 + i / width / 500) as u16).collect();
        let large: Vec<bool> = (0..20).map(|part| part % 3 != 1).collect();
        let on_tile = OnTile::of(&relief, (&parts, &large), 4);
        let (tile, turned) = (Texture::Crossed.tile(false), |x: usize| x % 700 > 450);
        for y in [0, 640, 655, 1301, width - 1] {
            let row = on_tile.row(y);
            let line = |patched: bool| {
                let mut ranks = vec![0; width - 20];
                row.ranks(tile, patched, 10, &mut ranks, turned);
                ranks
            };
            for (i, (patched, even)) in line(true).into_iter().zip(line(false)).enumerate() {
                assert_eq!(patched, row.rank(tile, 10 + i, (0, 0), turned(10 + i)), "{i}, {y}");
                assert_eq!(even, tile[row.at(10 + i, turned(10 + i))], "{i}, {y}");
            }
        }
    }

    #[test]
    fn marks_of_a_part_do_not_come_again_and_all_ranks_are_as_often() {
        for texture in [Texture::Smeared, Texture::Crossed, Texture::Dragged, Texture::Ragged] {
            let once = ranks(texture, 3, false);
            assert!(alike(&once, 1) > 0.99);
            let patched = ranks(texture, 3, true);
            for tiles in [1, 2] {
                let alike = alike(&patched, tiles);
                assert!(alike.abs() < 0.1, "{texture:?}: {alike} after {tiles}");
            }
            for tenth in 0..10 {
                let of = |rank: &&f32| (**rank * 10.0) as usize == tenth;
                let share = patched.1.iter().filter(of).count() as f32 / patched.1.len() as f32;
                assert!((share - 0.1).abs() < 0.02, "{texture:?}: {share} of the tenth {tenth}");
            }
        }
    }
}
