//! Placement of coats in a picture.

/// Light level in the middle of a face, in 8 bits.
pub(crate) const REACHED: f32 = 200.0;
/// Coat of a pixel without paint.
pub(crate) const NOTHING: u8 = 255;
/// Greatest number of coats in a picture.
pub(crate) const COATS: usize = NOTHING as usize;

/// Placement of coats.
pub(crate) struct Lay<'a> {
    /// Index of the coat at each pixel; [`NOTHING`] without one.
    pub coats: &'a [u8],
    /// Depth inside a motif at each pixel, 0 outside; empty without a pattern.
    pub pattern: &'a [u8],
    /// Index of the part at each pixel, because each part is painted separately; empty if there is only one.
    pub parts: &'a [u16],
    /// By part, true if it is longer or wider than the tile of a mark.
    pub large: &'a [bool],
    /// Light that reaches each pixel, [`REACHED`] as in the middle of a face; empty without shadows.
    pub reached: &'a [u8],
}

impl Lay<'_> {
    /// Light that reaches a pixel; 1 as in the middle of a face.
    #[inline]
    pub fn reached(&self, i: usize) -> f32 {
        self.reached.get(i).map_or(1.0, |reached| f32::from(*reached) * (1.0 / REACHED))
    }

    #[inline]
    pub fn depth(&self, i: usize) -> u8 {
        self.pattern.get(i).copied().unwrap_or(0)
    }
}
