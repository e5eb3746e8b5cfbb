//! Lower bounds of CIEDE2000 that are quicker than the formula: the first check of a search, on many colours at once.
//!
//! | question | neglects | used for |
//! |---|---|---|
//! | [`Ciede2000Bound::may_be_near`], first stage | the stretch of a*, the dependence of S_H on hue; takes the largest
//! rotation of blues for the target | every mix |
//! | the same, beyond [`WIDE`] | the stretch of a*, the dependence of S_H on hue | targets out of reach, whose mixes have
//! every hue |
//!
//! Both compare squares, so that no root is needed, and err on the low side.

use pulp::Simd;

use super::{
    ciede2000_simd::{Aim, grown},
    labs::Labs,
    lanes::{Lanes, Mask},
};

/// By what factor CIEDE2000 may at most be smaller than the first question has it.
const AT_FIRST: f64 = 1.4;
/// The same of the second: 1.24 at most was found, in 8 million pairs.
const THEN: f64 = 1.3;
/// From which ΔE00 on hues may be far apart†.
const WIDE: f64 = 8.0;
/// Hues count as opposite here when the cosine between them is below minus this: their middle may then lie on either side.
const OPPOSITE: f64 = 0.8;
/// How far such a middle may be from a quarter turn.
const ASIDE: f64 = 25.0;
/// The hue where the turn of blues is strongest, and over how many degrees it fades.
const BLUE: (f64, f64) = (275.0, 25.0);
/// How much stronger than it is uncertain, in ΔE00, a colour must be to have a hue.
const HUED: f64 = 4.0;
/// S_H by hue, on the side of the hues for which it is large.
const T: f64 = 1.3;

/// A target, with constants computed once for all mixes.
#[derive(Debug, Clone, Copy)]
pub(super) struct Ciede2000Bound {
    aim: Aim,
    /// What the turn of blues leaves at least, of colours near the target and of those that are not.
    left: [f64; 2],
    /// The sine of the turn of blues at most where the other hue is opposite.
    opposite: f64,
}

impl Ciede2000Bound {
    pub(super) fn of(aim: Aim) -> Self {
        let quarter = [90.0, -90.0].map(|turn| from_blue(aim.lab.hue() + turn));
        let opposite = sine_of_turn(quarter[0].min(quarter[1]) - ASIDE);
        Self { aim, left: [left(aim, 0.0), left(aim, f64::INFINITY)], opposite }
    }

    /// Which colours, known to within `nearly`, may be within `near` of the target, ΔE00.
    #[inline(always)]
    pub(super) fn may_be_near<S: Simd>(&self, simd: S, labs: &Labs<S>, near: f64, nearly: f64) -> Mask<S> {
        let reach = |factor: f64| (factor * near + nearly).powi(2) as f32;
        let terms = Terms::of(simd, &self.aim, labs);
        let far = self.at_first(simd, &terms, near).no_more_than(reach(AT_FIRST));
        if near <= WIDE || !far.any() {
            return far;
        }
        far & self.then(simd, labs, &terms, nearly).no_more_than(reach(THEN))
    }

    /// The square of the difference where the turn of blues is as strong as it can be for the target.
    #[inline(always)]
    fn at_first<S: Simd>(&self, simd: S, terms: &Terms<S>, near: f64) -> Lanes<S> {
        let same = |value: f64| Lanes::splat(simd, value as f32);
        // The turn of blues takes away only where a colour is both stronger and of a later hue, or both weaker and of an earlier.
        let left = terms.takes.select(same(self.left[usize::from(near > WIDE)]), same(1.0));
        terms.l + (terms.c + terms.h) * left
    }

    /// The square of the difference where the turn of blues is that of the middle hue.
    #[inline(always)]
    fn then<S: Simd>(&self, simd: S, labs: &Labs<S>, terms: &Terms<S>, nearly: f64) -> Lanes<S> {
        let same = |value: f64| Lanes::splat(simd, value as f32);
        let &Terms { l, c, h, takes, chroma, mean } = terms;
        let (a, b, own) = (same(self.aim.lab.a), same(self.aim.lab.b), same(self.aim.chroma));
        // The middle hue lies along the sum of the two directions.
        let (along_a, along_b) = (a * chroma + labs.a * own, b * chroma + labs.b * own);
        let long = (along_a.square() + along_b.square() + 1e-6).sqrt();
        let (blue_sin, blue_cos) = BLUE.0.to_radians().sin_cos();
        let cos = (along_a * blue_cos as f32 + along_b * blue_sin as f32) / long;
        let sine = sine_at_most(same(1.0), cos);
        let opposite = (labs.a * a + labs.b * b).below(chroma * own * -OPPOSITE as f32);
        let sine = opposite.select(same(self.opposite), sine);
        // A dull colour that is not known well may be of any hue.
        let dull = chroma.below(same(HUED * nearly));
        let sine = dull.select(same(sine_of_turn(0.0)), sine);
        let takes = takes | opposite | dull;
        let turned = sine * grown(mean + nearly as f32) * (c * h).sqrt() * 2.0;
        l + c + h - takes.select(turned, same(0.0))
    }
}

/// Squares of the three differences over their weights, and what else is asked of colours beside a target.
struct Terms<S: Simd> {
    l: Lanes<S>,
    c: Lanes<S>,
    h: Lanes<S>,
    /// Where the turn of blues makes the difference smaller.
    takes: Mask<S>,
    chroma: Lanes<S>,
    /// Mean chroma.
    mean: Lanes<S>,
}

impl<S: Simd> Terms<S> {
    #[inline(always)]
    fn of(simd: S, aim: &Aim, labs: &Labs<S>) -> Self {
        let same = |value: f64| Lanes::splat(simd, value as f32);
        let (l, a, b) = (same(aim.lab.l), same(aim.lab.a), same(aim.lab.b));
        let (one, zero) = (same(1.0), same(0.0));
        let (dl, da, db) = (labs.l - l, labs.a - a, labs.b - b);
        let chroma = (labs.a.square() + labs.b.square()).sqrt();
        let dc = chroma - aim.chroma as f32;
        let dh = (da.square() + db.square() - dc.square()).max(zero);
        let mean = (chroma + aim.chroma as f32) * 0.5;
        let from_mid = ((labs.l + l) * 0.5 - 50.0).square();
        let s_l = one + from_mid * 0.015 / (from_mid + 20.0).sqrt();
        let s_c = one + mean * 0.045;
        let s_h = one + mean * (0.015 * T) as f32;
        let takes = (dc * (labs.b * a - labs.a * b)).above(zero);
        let over = |difference: Lanes<S>, weight: Lanes<S>| (difference / weight).square();
        Self { l: over(dl, s_l), c: over(dc, s_c), h: dh / s_h.square(), takes, chroma, mean }
    }
}

/// How far a hue is from the strongest turn of blues, 0 to 180 degrees.
fn from_blue(hue: f64) -> f64 {
    let apart = (hue - BLUE.0).rem_euclid(360.0);
    apart.min(360.0 - apart)
}

/// sin 2Δθ of CIEDE2000, so many degrees from the strongest turn of blues; nearer than it counts as there.
fn sine_of_turn(from_blue: f64) -> f64 {
    let away = from_blue.max(0.0) / BLUE.1;
    (60.0 * (-away * away).exp()).to_radians().sin()
}

/// At least [`sine_of_turn`], by the cosine of a hue that may be 8.7° nearer to blue than it is taken for: half of what a
/// colour [`HUED`] times as strong as it is uncertain can be turned by.
#[inline(always)]
fn sine_at_most<S: Simd>(one: Lanes<S>, cos: Lanes<S>) -> Lanes<S> {
    let away = (one - cos) * (1.0 / 0.17);
    one * 0.9 / (away.square() + one)
}

/// What the turn of blues may leave of a difference of chroma and hue: at least 1 − |R_T|/2, of the hue nearest to blue
/// half-way to a colour as near as that. Beyond [`WIDE`] that may be any hue within a quarter turn, and of any chroma.
fn left(aim: Aim, near: f64) -> f64 {
    let (aside, chroma) = if near > WIDE { (90.0, f64::INFINITY) } else { (20.0, 1.4 * aim.chroma) };
    let grown = 1.0 / (1.0 + (25.0 / chroma.max(1e-9)).powi(7));
    1.0 - sine_of_turn(from_blue(aim.lab.hue()) - aside) * grown.sqrt()
}

#[cfg(test)]
mod tests {
    use super::super::lanes::{
        side_by_side,
        tests::{OfOne, of_one},
    };
    use super::*;
    use pulp::WithSimd;
    use warm_blend_spectral::{Lab, difference};

    struct Chance(u64);

    impl Chance {
        fn between(&mut self, low: f64, high: f64) -> f64 {
            self.0 = self.0.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
            low + (high - low) * (self.0 >> 33) as f64 / 2f64.powi(31)
        }

        /// Two colours; every fourth time of hues that are nearly opposite.
        fn pair(&mut self, n: usize) -> (Lab, Lab) {
            let target = Lab {
                l: self.between(5.0, 98.0),
                a: self.between(-80.0, 80.0),
                b: self.between(-80.0, 90.0),
            };
            let far = self.between(0.5, 100.0);
            let mut other = Lab {
                l: target.l + self.between(-far, far),
                a: target.a + self.between(-far, far),
                b: target.b + self.between(-far, far),
            };
            if n % 4 == 3 {
                let back = self.between(-1.4, -0.05);
                other.a = back * target.a + self.between(-3.0, 3.0);
                other.b = back * target.b + self.between(-3.0, 3.0);
            }
            (target, other)
        }
    }

    /// Both questions of one colour, as differences.
    struct Asked<'a>(&'a Ciede2000Bound, Lab, f64);

    impl WithSimd for Asked<'_> {
        type Output = [f64; 2];

        #[inline(always)]
        fn with_simd<S: Simd>(self, simd: S) -> [f64; 2] {
            let Self(rough, seen, exact) = self;
            let labs = Labs::same(simd, seen);
            let terms = Terms::of(simd, &rough.aim, &labs);
            let first = |lanes: Lanes<S>| f64::from(lanes.each()[0]).max(0.0).sqrt();
            [first(rough.at_first(simd, &terms, exact)), first(rough.then(simd, &labs, &terms, 0.0))]
        }
    }

    /// Whether a colour may be as near as that.
    struct Kept<'a>(&'a Ciede2000Bound, Lab, f64, f64);

    impl WithSimd for Kept<'_> {
        type Output = bool;

        #[inline(always)]
        fn with_simd<S: Simd>(self, simd: S) -> bool {
            let Self(rough, seen, near, nearly) = self;
            let kept = rough.may_be_near(simd, &Labs::same(simd, seen), near, nearly);
            kept.places().count() == Lanes::<S>::MANY
        }
    }

    /// What is passed over is never nearer than it says.
    #[test]
    fn neither_question_is_much_too_large() {
        let mut chance = Chance(9);
        for n in 0..200_000 {
            let (target, other) = chance.pair(n);
            let exact = difference(other, target).value();
            let rough = Ciede2000Bound::of(target.into());
            let [at_first, then] = side_by_side(Asked(&rough, other, exact));
            assert!(at_first <= AT_FIRST * exact + 1e-3, "{target:?} {other:?}: {at_first} of {exact}");
            assert!(then <= THEN * exact + 1e-3, "{target:?} {other:?}: {then} of {exact}");
        }
    }

    /// However the colour lies within what is known of it.
    #[test]
    fn what_is_not_known_well_is_not_passed_over() {
        const NEARLY: f64 = 2.0;
        let mut chance = Chance(10);
        for n in 0..100_000 {
            let (target, other) = chance.pair(n);
            let mut about = |v: f64| v + chance.between(-3.0, 3.0);
            let seen = Lab { l: about(other.l), a: about(other.a), b: about(other.b) };
            if difference(seen, other).value() > NEARLY {
                continue;
            }
            let exact = difference(other, target).value();
            let rough = Ciede2000Bound::of(target.into());
            let kept = side_by_side(Kept(&rough, seen, exact + 1e-3, NEARLY));
            assert!(kept, "{target:?} {other:?} seen as {seen:?}, {exact} off");
        }
    }

    struct Turn;

    impl OfOne for Turn {
        fn of<S: Simd>(&self, cos: Lanes<S>) -> Lanes<S> {
            sine_at_most(cos * 0.0 + 1.0, cos)
        }
    }

    /// The bound by the cosine holds for every hue.
    #[test]
    fn the_turn_of_blues_is_at_most_that() {
        for degree in 0..1800 {
            let degree = f64::from(degree) / 10.0;
            let bound = of_one(&Turn, degree.to_radians().cos(), true);
            assert!(bound >= sine_of_turn(degree - 8.7), "at {degree}: {bound}");
        }
    }
}
