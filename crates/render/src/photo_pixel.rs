//! What a pixel of a photo shows of a piece.

/// A pixel that shows the piece.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Pixel {
    /// Its place in the photo, row by row.
    pub index: u32,
    /// Index of the flat picture of its face, and of the part there that it must not leave.
    pub flat: u8,
    pub over: u16,
    /// Number of its zone.
    pub zone: u8,
    /// Share of it that shows the zone, 0–255.
    pub share: u8,
    /// Position on the face, mm.
    pub at: (f32, f32),
    /// Light on it, by channel, of that on the card.
    pub light: [f32; 3],
    /// Logarithm of the old grain.
    pub grain: f32,
    /// What the old varnish mirrors.
    pub gloss: f32,
    /// True where carving is seen.
    pub carved: bool,
}
