//! Where which coats lie in a picture.

/// What stands for as much light as the middle of a face gets.
pub(crate) const REACHED: f32 = 200.0;
/// The coat of a pixel that nothing is painted on.
pub(crate) const NOTHING: u8 = 255;
/// So many coats can be distinguished in one picture.
pub(crate) const COATS: usize = NOTHING as usize;

/// Where coats lie.
pub(crate) struct Lay<'a> {
    /// By pixel the number of a coat, [`NOTHING`] where none does.
    pub coats: &'a [u8],
    /// By pixel how deep inside a motif it is, 0 outside; empty where there is no pattern.
    pub pattern: &'a [u8],
    /// By pixel the number of a part: each is painted alone. Empty where all is one.
    pub parts: &'a [u16],
    /// By part whether it is longer or wider than the tile of a mark.
    pub large: &'a [bool],
    /// By pixel how much of the light reaches it, [`REACHED`] for as much as the middle of a face gets; empty where nothing casts a
    /// shadow.
    pub reached: &'a [u8],
}

impl Lay<'_> {
    /// How much of the light reaches a pixel, 1 for as much as the middle of a face gets.
    #[inline]
    pub fn reached(&self, i: usize) -> f32 {
        self.reached.get(i).map_or(1.0, |reached| f32::from(*reached) * (1.0 / REACHED))
    }

    #[inline]
    pub fn depth(&self, i: usize) -> u8 {
        self.pattern.get(i).copied().unwrap_or(0)
    }
}
