//! The texture that a coat leaves: how high it is at each pixel.

use crate::{
    Coats, Relief,
    lay::Lay,
    marks::{RANKS, Texture},
    on_tile::{OnTile, RowOnTile},
};

/// Where the texture of a coat begins on its tile: elsewhere than the marks of any layer.
const OF_TEXTURE: usize = 77;
/// Heights of a texture that are distinguished.
pub(crate) const HEIGHTS: usize = 1024;

/// The texture of a coat.
pub(crate) struct Rough {
    tile: &'static [u16],
    /// mm from tip to hollow.
    pub depth: f32,
}

impl Rough {
    /// None where it is smooth.
    pub(crate) fn of(coats: &Coats, coarse: bool) -> Option<Self> {
        let layer = coats.stack.roughest(coats.layers)?;
        let mark = coats.marks.get(layer)?;
        let depth = coats.stack.texture(coats.layers).millimetres() as f32;
        Some(Self { tile: Texture::of_relief(*mark).tile(coarse), depth })
    }

    /// Where on its tile pixels are.
    pub(crate) fn on_tile<'a>(relief: &Relief, lay: &Lay<'a>) -> OnTile<'a> {
        OnTile::of(relief, (lay.parts, lay.large), OF_TEXTURE)
    }

    /// How high it is at a pixel of a row, or at one next to it, 0 to 1.
    #[inline]
    pub(crate) fn height(&self, row: &RowOnTile, x: usize, aside: (usize, usize)) -> f32 {
        1.0 - f32::from(row.rank(self.tile, x, aside, false)) * (1.0 / RANKS)
    }

    /// In which bin of heights a pixel of a row lies.
    #[inline]
    pub(crate) fn bin(&self, row: &RowOnTile, x: usize) -> usize {
        ((self.height(row, x, (0, 0)) * HEIGHTS as f32) as usize).min(HEIGHTS - 1)
    }
}
