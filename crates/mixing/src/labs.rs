//! Many Lab colours in vector registers.

use pulp::Simd;
use warm_blend_spectral::Lab;

use super::lanes::Lanes;

/// Lab of many mixes.
pub(super) struct Labs<S: Simd> {
    pub l: Lanes<S>,
    pub a: Lanes<S>,
    pub b: Lanes<S>,
}

impl<S: Simd> Labs<S> {
    /// The colour at one position.
    #[inline(always)]
    pub(super) fn at(&self, place: usize) -> Lab {
        let of = |lanes: &Lanes<S>| f64::from(lanes.each()[place]);
        Lab { l: of(&self.l), a: of(&self.a), b: of(&self.b) }
    }

    /// The same colour at every position.
    #[cfg(test)]
    #[inline(always)]
    pub(super) fn same(simd: S, lab: Lab) -> Self {
        let same = |value: f64| Lanes::splat(simd, value as f32);
        Self { l: same(lab.l), a: same(lab.a), b: same(lab.b) }
    }
}
