//! Texture of a coat: its height at each pixel.

use crate::{
    Coats, Relief,
    lay::Lay,
    marks::{RANKS, Texture},
    on_tile::{OnTile, RowOnTile},
};

/// Where the texture of a coat begins on its tile: elsewhere than the marks of any layer.
const OF_TEXTURE: usize = 77;
/// Number of heights of a texture.
pub(crate) const HEIGHTS: usize = 1024;

/// Texture of a coat.
pub(crate) struct Rough {
    tile: &'static [u16],
    /// Depth from tip to hollow, mm.
    pub depth: f32,
}

impl Rough {
    /// Texture of a coat; `None` if it is smooth.
    pub(crate) fn of(coats: &Coats, coarse: bool) -> Option<Self> {
        let layer = coats.stack.roughest(coats.layers)?;
        let mark = coats.marks.get(layer)?;
        let depth = coats.stack.texture(coats.layers).millimetres() as f32;
        Some(Self { tile: Texture::of_relief(*mark).tile(coarse), depth })
    }

    /// Positions of pixels on its tile.
    pub(crate) fn on_tile<'a>(relief: &Relief, lay: &Lay<'a>) -> OnTile<'a> {
        OnTile::of(relief, (lay.parts, lay.large), OF_TEXTURE)
    }

    /// Height at a pixel of a row, or at an adjacent one, 0 to 1.
    #[inline]
    pub(crate) fn height(&self, row: &RowOnTile, x: usize, aside: (usize, usize)) -> f32 {
        1.0 - f32::from(row.rank(self.tile, x, aside, false)) * (1.0 / RANKS)
    }

    /// Bin of the height at a pixel of a row.
    #[inline]
    pub(crate) fn bin(&self, row: &RowOnTile, x: usize) -> usize {
        ((self.height(row, x, (0, 0)) * HEIGHTS as f32) as usize).min(HEIGHTS - 1)
    }
}
