//! Placement of coats in a picture.

/// Light level in the middle of a face, in 8 bits.
pub(crate) const REACHED: f32 = 200.0;
/// Coat of a pixel without paint.
pub(crate) const NOTHING: u8 = 255;
/// Greatest number of coats in a picture.
pub(crate) const COATS: usize = NOTHING as usize;

/// Place in a motif of a pattern.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct InMotif {
    /// Share of the motif that paint reaches before it, in 8 bits.
    pub before: u8,
    /// Cover as a share of that where the pattern is strongest, in 8 bits; 0 outside of motifs.
    pub strength: u8,
    /// Which colour's turn it is there, counted from 0.
    pub turn: u8,
    /// How little the brush was pressed there, in 8 bits, evenly spread: the same for all colours of the pattern.
    pub pressed: u8,
}

/// Placement of coats.
pub(crate) struct Lay<'a> {
    /// Index of the coat at each pixel; [`NOTHING`] without one.
    pub coats: &'a [u8],
    /// Place in a motif at each pixel; empty without a pattern.
    pub pattern: &'a [InMotif],
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
    pub fn in_motif(&self, i: usize) -> InMotif {
        self.pattern.get(i).copied().unwrap_or_default()
    }
}
