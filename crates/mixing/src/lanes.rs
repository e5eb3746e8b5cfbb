//! Vectors of single-precision numbers, as wide as the processor allows.
//!
//! | processor | width |
//! |---|---|
//! | x86-64 with AVX2 and FMA (detected at run time) | 8 |
//! | any other | 4, as the compiler implements it |
//!
//! Every function on [`Lanes`] is inlined into the work that [`side_by_side`] runs, because only there are the wide
//! instructions enabled. Closures cannot be forced inline, so longer code uses functions and loops.

use std::ops::{Add, BitAnd, BitOr, Div, Mul, Neg, Sub};

use bytemuck::cast_slice;
use pulp::{Arch, Scalar128b, Simd, WithSimd};

/// Rows are padded to a multiple of this, the greatest width.
pub(super) const ROW: usize = 16;

/// Runs work with the widest instructions available.
#[inline]
pub(super) fn side_by_side<Work: WithSimd>(work: Work) -> Work::Output {
    match Arch::new() {
        Arch::Scalar => Scalar128b.vectorize(work),
        wide => wide.dispatch(work),
    }
}

/// One vector.
#[derive(Debug, Clone, Copy)]
pub(super) struct Lanes<S: Simd> {
    simd: S,
    all: S::f32s,
}

/// One truth value per number.
#[derive(Debug, Clone, Copy)]
pub(super) struct Mask<S: Simd> {
    simd: S,
    all: S::m32s,
}

impl<S: Simd> Lanes<S> {
    /// Width of the vector.
    pub(super) const MANY: usize = S::F32_LANES;

    #[inline(always)]
    pub(super) fn splat(simd: S, value: f32) -> Self {
        Self { simd, all: simd.splat_f32s(value) }
    }

    /// Loads the start of a row.
    #[inline(always)]
    pub(super) fn load(simd: S, row: &[f32]) -> Self {
        Self { simd, all: simd.partial_load_f32s(&row[..Self::MANY]) }
    }

    #[inline(always)]
    fn with(self, all: S::f32s) -> Self {
        Self { all, ..self }
    }

    #[inline(always)]
    fn same(self, value: f32) -> Self {
        Self::splat(self.simd, value)
    }

    /// The single numbers.
    #[inline(always)]
    pub(super) fn each(&self) -> &[f32] {
        cast_slice(std::slice::from_ref(&self.all))
    }

    #[inline(always)]
    pub(super) fn sqrt(self) -> Self {
        self.with(self.simd.sqrt_f32s(self.all))
    }

    #[inline(always)]
    pub(super) fn square(self) -> Self {
        self * self
    }

    #[inline(always)]
    pub(super) fn max(self, other: Self) -> Self {
        self.with(self.simd.max_f32s(self.all, other.all))
    }

    #[inline(always)]
    pub(super) fn min(self, other: Self) -> Self {
        self.with(self.simd.min_f32s(self.all, other.all))
    }

    #[inline(always)]
    pub(super) fn at_least(self, value: f32) -> Self {
        self.max(self.same(value))
    }

    #[inline(always)]
    pub(super) fn at_most(self, value: f32) -> Self {
        self.min(self.same(value))
    }

    /// Computes `self` × `by` + `more`.
    #[inline(always)]
    pub(super) fn times_and(self, by: Self, more: Self) -> Self {
        self.with(self.simd.mul_add_e_f32s(self.all, by.all, more.all))
    }

    #[inline(always)]
    pub(super) fn times_and_same(self, by: f32, more: Self) -> Self {
        self.times_and(self.same(by), more)
    }

    #[inline(always)]
    pub(super) fn below(self, other: Self) -> Mask<S> {
        Mask { simd: self.simd, all: self.simd.less_than_f32s(self.all, other.all) }
    }

    #[inline(always)]
    pub(super) fn above(self, other: Self) -> Mask<S> {
        other.below(self)
    }

    #[inline(always)]
    pub(super) fn up_to(self, other: Self) -> Mask<S> {
        Mask { simd: self.simd, all: self.simd.less_than_or_equal_f32s(self.all, other.all) }
    }

    #[inline(always)]
    pub(super) fn no_more_than(self, value: f32) -> Mask<S> {
        self.up_to(self.same(value))
    }

    #[inline(always)]
    pub(super) fn no_less_than(self, value: f32) -> Mask<S> {
        self.same(value).up_to(self)
    }

    /// Cube root of positive numbers, from a third of the exponent and Halley's method. One step is accurate to four
    /// digits, two to full precision.
    #[inline(always)]
    pub(super) fn nearly_cube_root(self, steps: usize) -> Self {
        const OFFSET: u32 = 0x2a51_37a0;
        const THIRD: u32 = 0x5555_5556;
        let simd = self.simd;
        let bits = simd.transmute_u32s_f32s(self.all);
        let (_, third) = simd.widening_mul_u32s(bits, simd.splat_u32s(THIRD));
        let guess = simd.transmute_f32s_u32s(simd.add_u32s(third, simd.splat_u32s(OFFSET)));
        let mut root = self.with(guess);
        for _ in 0..steps {
            let cube = root.square() * root;
            root = root * (cube + self + self) / (cube + cube + self);
        }
        root
    }

    /// eˣ from −16 to 0, accurate to four digits; 0 below that range.
    #[inline(always)]
    pub(super) fn fading(self) -> Self {
        // e^(x/16) by Taylor's row about −½, and its sixteenth power.
        const TAYLOR: [f32; 7] = [1.0, 1.0, 1.0 / 2.0, 1.0 / 6.0, 1.0 / 24.0, 1.0 / 120.0, 1.0 / 720.0];
        let x = self.at_least(-16.0) * (1.0 / 16.0) + 0.5;
        let mut sum = self.same(TAYLOR[6]);
        for of in TAYLOR[..6].iter().rev() {
            sum = sum.times_and(x, self.same(*of));
        }
        (sum * (-0.5f32).exp()).square().square().square().square()
    }
}

impl<S: Simd> Mask<S> {
    #[inline(always)]
    pub(super) fn any(self) -> bool {
        self.simd.first_true_m32s(self.all) < S::F32_LANES
    }

    #[inline(always)]
    pub(super) fn select(self, where_true: Lanes<S>, where_false: Lanes<S>) -> Lanes<S> {
        where_true.with(self.simd.select_f32s(self.all, where_true.all, where_false.all))
    }

    /// Positions that are true.
    #[inline(always)]
    pub(super) fn places(self) -> impl Iterator<Item = usize> {
        let held = self.select(Lanes::splat(self.simd, 1.0), Lanes::splat(self.simd, 0.0));
        (0..S::F32_LANES).filter(move |place| held.each()[*place] > 0.0)
    }
}

impl<S: Simd> BitOr for Mask<S> {
    type Output = Self;

    #[inline(always)]
    fn bitor(self, other: Self) -> Self {
        Self { all: self.simd.or_m32s(self.all, other.all), ..self }
    }
}

impl<S: Simd> BitAnd for Mask<S> {
    type Output = Self;

    #[inline(always)]
    fn bitand(self, other: Self) -> Self {
        Self { all: self.simd.and_m32s(self.all, other.all), ..self }
    }
}

impl<S: Simd> Neg for Lanes<S> {
    type Output = Self;

    #[inline(always)]
    fn neg(self) -> Self {
        self.with(self.simd.neg_f32s(self.all))
    }
}

/// An operation number by number, with numbers side by side or one that is alike in all.
macro_rules! operator {
    ($name:ident, $method:ident, $simd:ident) => {
        impl<S: Simd> $name for Lanes<S> {
            type Output = Self;

            #[inline(always)]
            fn $method(self, other: Self) -> Self {
                self.with(self.simd.$simd(self.all, other.all))
            }
        }

        impl<S: Simd> $name<f32> for Lanes<S> {
            type Output = Self;

            #[inline(always)]
            fn $method(self, other: f32) -> Self {
                self.$method(self.same(other))
            }
        }
    };
}

operator!(Add, add, add_f32s);
operator!(Sub, sub, sub_f32s);
operator!(Mul, mul, mul_f32s);
operator!(Div, div, div_f32s);

#[cfg(test)]
pub(super) mod tests {
    use super::*;
    use proptest::prelude::*;

    /// A function of numbers side by side, asked of one number.
    pub(in super::super) trait OfOne {
        fn of<S: Simd>(&self, one: Lanes<S>) -> Lanes<S>;
    }

    pub(in super::super) fn of_one(work: &impl OfOne, value: f64, wide: bool) -> f64 {
        struct Run<'a, W>(&'a W, f32);
        impl<W: OfOne> WithSimd for Run<'_, W> {
            type Output = f64;

            #[inline(always)]
            fn with_simd<S: Simd>(self, simd: S) -> f64 {
                f64::from(self.0.of(Lanes::splat(simd, self.1)).each()[0])
            }
        }
        let run = Run(work, value as f32);
        if wide { side_by_side(run) } else { Scalar128b.vectorize(run) }
    }

    struct Root(usize);
    impl OfOne for Root {
        fn of<S: Simd>(&self, one: Lanes<S>) -> Lanes<S> {
            one.nearly_cube_root(self.0)
        }
    }

    struct Fading;
    impl OfOne for Fading {
        fn of<S: Simd>(&self, one: Lanes<S>) -> Lanes<S> {
            one.fading()
        }
    }

    proptest! {
        #[test]
        fn roots_and_powers_are_good_to_four_digits(t in 0.0005..2.0f64, x in -30.0..0.0f64, wide: bool) {
            prop_assert!((of_one(&Root(1), t, wide) / t.cbrt() - 1.0).abs() < 2e-4);
            prop_assert!((of_one(&Root(2), t, wide) / t.cbrt() - 1.0).abs() < 5e-7);
            prop_assert!((of_one(&Fading, x, wide) - x.exp()).abs() < 5e-5);
        }
    }
}
