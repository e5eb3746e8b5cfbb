//! What several fields of values share: bilinear interpolation, and numbers as if by chance.

/// Interpolates bilinearly between the four values around a point; `u` and `v` say how far right and down of the first it lies, 0 to 1.
#[inline]
pub(crate) fn between((u, v): (f32, f32), at: impl Fn(usize, usize) -> f32) -> f32 {
    let line = |down: usize| (1.0 - u) * at(0, down) + u * at(1, down);
    (1.0 - v) * line(0) + v * line(1)
}

/// A number whose bits look random, from one whose bits do not.
#[inline]
pub(crate) const fn mixed(number: u32) -> u32 {
    (number ^ (number >> 15)).wrapping_mul(0x2C1B_3C6D)
}
