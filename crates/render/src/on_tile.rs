//! Where on the tiles of marks pixels are.
//!
//! A tile is a quarter of a metre wide, and a table is longer: so that nothing comes again, a large part of a piece is put
//! together of patches of the tile, each from elsewhere on it. Where two patches meet, marks of both lie over each other, the further from
//! its own patch the fewer. Of two ranks that are each as often as any other, the lower of a and b + p is below v with
//! probability 1 − (1 − v)(1 − (v − p)): told as that, each rank is as often as any other there too.

use crate::{
    Relief,
    marks::{SIDE, TILE_MM},
};

/// How long and wide a patch is, and how far on either side of a seam both patches lie, in steps of a tile.
const PATCH: u32 = 860;
const MEET: u32 = 75;

/// Where on the tiles of marks pixels are.
pub(crate) struct OnTile<'a> {
    across: Vec<u32>,
    down: Vec<u32>,
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

/// What keeps a number within a tile.
const ON_TILE: u32 = SIDE as u32 - 1;

impl<'a> OnTile<'a> {
    /// Of a relief, beginning elsewhere by `nth`, and on each part anew; all is one where there are no parts.
    pub fn of(relief: &Relief, (parts, large): (&'a [u16], &'a [bool]), nth: usize) -> Self {
        let scale = relief.mm * SIDE as f64 / TILE_MM;
        let (ox, oy) = (nth * 397 + 161, nth * 631 + 117);
        let line = |n: usize, offset: usize| -> Vec<u32> {
            (0..n).map(|v| ((v as f64 * scale) as usize + offset) as u32).collect()
        };
        // One more than there are, for who looks beside.
        let most = relief.width.max(relief.height) + 1;
        let (across, down) = (line(most, ox), line(most, oy));
        let seams = |line: &[u32]| line.iter().map(|at| Between::seams(at + PATCH)).collect();
        let (columns, rows) = (seams(&across), seams(&down));
        Self { across, down, columns, rows, parts, large, width: relief.width }
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
        // Each part begins elsewhere: by odd steps, so that none lie together.
        let part = self.parts.get(x).map_or(0, |part| u32::from(*part));
        (u + 389 * part, v + 727 * part, part)
    }

    /// The place on a tile of the pixel `x` of the row, or of one where a brush goes up and down.
    #[inline]
    pub fn at(&self, x: usize, turned: bool) -> usize {
        let (u, v, _) = self.spot(x, (0, 0), turned);
        place(u, v)
    }

    /// The rank of a pixel of the row, or of one next to it on the same part, in marks that never come again.
    #[inline]
    pub fn rank(&self, tile: &[u16], x: usize, aside: (usize, usize), turned: bool) -> u16 {
        let (u, v, part) = self.spot(x, aside, turned);
        if !self.on_tile.large.get(part as usize).is_some_and(|large| *large) {
            return tile[place(u, v)];
        }
        let (across, down) = (self.on_tile.columns[x + aside.0], self.on_tile.rows[self.y + aside.1]);
        let (columns, rows) = if turned { (down, across) } else { (across, down) };
        let of = |column: u32, row: u32| {
            let chance = column
                .wrapping_mul(0x9E37_79B1)
                .wrapping_add(row.wrapping_mul(0x85EB_CA77))
                .wrapping_add(part.wrapping_mul(0xC2B2_AE3D));
            let chance = (chance ^ (chance >> 15)).wrapping_mul(0x2C1B_3C6D);
            tile[place(u + (chance >> 22), v + ((chance >> 12) & ON_TILE))]
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

/// The place of a spot on a tile.
#[inline]
fn place(u: u32, v: u32) -> usize {
    ((v & ON_TILE) as usize) * SIDE + (u & ON_TILE) as usize
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::marks::Texture;

    /// Ranks of a part so many tiles wide, at every second step of the tile.
    fn ranks(texture: Texture, tiles: usize, large: bool) -> (usize, Vec<f32>) {
        let width = tiles * SIDE / 2;
        let relief =
            Relief { width, height: width, mm: 2.0 * TILE_MM / SIDE as f64, times: 1, pixels: Vec::new() };
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
