//! CIEDE2000 of many colours at once in single precision: the check of a search before the full computation.

use pulp::Simd;
use warm_blend_spectral::Lab;

use super::{labs::Labs, lanes::Lanes};

/// Greatest error relative to double precision, ΔE00, if the two hues are not opposite.
pub(super) const OFF: f64 = 0.02;

/// Two hues count as opposite, where the formula is discontinuous, if the cosine between them is below minus this.
pub(super) const OPPOSITE: f64 = 0.9;
/// By how far a hue is turned at least to see both sides of the jump, and at most: sines, of 8° and of 72°.
const TURNS: (f64, f64) = (0.139_173_100_960_065_44, 0.95);
/// What is within ΔE00 1 of a dull colour is within so much of it in a* and b*.
const WITHIN: f64 = 1.2;

/// A target, with constants computed once for all mixes.
#[derive(Debug, Clone, Copy)]
pub(super) struct Aim {
    pub lab: Lab,
    /// C*ab.
    pub chroma: f64,
}

impl From<Lab> for Aim {
    fn from(lab: Lab) -> Self {
        Self { lab, chroma: lab.chroma() }
    }
}

/// Sine of the rotation of hue that reveals both sides of the discontinuity, for a colour of this chroma known to within
/// `nearly`.
pub(super) fn turn(nearly: f64, chroma: f64) -> f64 {
    (WITHIN * nearly / chroma.max(0.01)).clamp(TURNS.0, TURNS.1)
}

/// Least difference on both sides of the discontinuity, for colours of nearly opposite hue known to within `nearly`.
#[inline(always)]
pub(super) fn least_apart<S: Simd>(simd: S, aim: &Aim, labs: &Labs<S>, nearly: f64) -> Lanes<S> {
    let same = |value: f64| Lanes::splat(simd, value as f32);
    let here = ciede2000_simd(simd, aim, labs);
    let across = labs.a * aim.lab.a as f32 + labs.b * aim.lab.b as f32;
    let chroma = (labs.a.square() + labs.b.square()).sqrt();
    // As [`turn`] has it.
    let sin = same(WITHIN * nearly) / chroma.at_least(0.01);
    let sin = sin.at_least(TURNS.0 as f32).at_most(TURNS.1 as f32);
    let cos = (same(1.0) - sin.square()).sqrt();
    let most = chroma * cos * (-OPPOSITE * aim.chroma) as f32;
    if !across.up_to(most).any() {
        return here;
    }
    let mut least = here;
    for sin in [sin, -sin] {
        let turned = Labs { l: labs.l, a: labs.a * cos - labs.b * sin, b: labs.a * sin + labs.b * cos };
        least = least.min(ciede2000_simd(simd, aim, &turned));
    }
    least
}

/// √(c⁷ / (c⁷ + 25⁷)).
#[inline(always)]
pub(super) fn grown<S: Simd>(chroma: Lanes<S>) -> Lanes<S> {
    let seventh = chroma.square().square() * chroma.square() * chroma;
    (seventh / (seventh + 25f32.powi(7))).sqrt()
}

/// CIEDE2000 (Sharma, Wu and Dalal 2005, equations 2 to 22) between a target and many colours. Hue angles are never
/// computed; their cosines and sines suffice.
#[inline(always)]
pub(super) fn ciede2000_simd<S: Simd>(simd: S, aim: &Aim, labs: &Labs<S>) -> Lanes<S> {
    let same = |value: f64| Lanes::splat(simd, value as f32);
    let (one, zero) = (same(1.0), same(0.0));
    const NONE: f32 = 1e-6;
    let (l, a, b) = (same(aim.lab.l), same(aim.lab.a), same(aim.lab.b));
    let chroma = (labs.a.square() + labs.b.square()).sqrt();
    let stretch = one + (one - grown((chroma + aim.chroma as f32) * 0.5)) * 0.5;
    let (a1, a2) = (a * stretch, labs.a * stretch);
    let (c1, c2) = ((a1.square() + b.square()).sqrt(), (a2.square() + labs.b.square()).sqrt());
    // ΔH² = 2 (C₁C₂ − their dot product); its sign is that of the turn from one to the other.
    let (dot, cross) = (a1 * a2 + b * labs.b, a1 * labs.b - b * a2);
    let dl = labs.l - l;
    let dc = c2 - c1;
    let dh = ((c1 * c2 - dot).max(zero) * 2.0).sqrt();
    // The middle hue lies along the sum of the two directions; a grey has none of its own.
    let middle = (a1 * c2 + a2 * c1, b * c2 + labs.b * c1);
    let long = (middle.0.square() + middle.1.square()).sqrt();
    let hueless = long.no_more_than(NONE);
    let (sum_a, sum_b) = (a1 + a2, b + labs.b);
    let long_sum = (sum_a.square() + sum_b.square()).sqrt().at_least(NONE);
    let cos = hueless.select(sum_a / long_sum, middle.0 / long.at_least(NONE));
    let sin = hueless.select(sum_b / long_sum, middle.1 / long.at_least(NONE));

    // T, by the multiples of the middle hue.
    let (sin2, cos2) = (sin * cos * 2.0, cos.square() - sin.square());
    let (sin3, cos3) = (sin2 * cos + cos2 * sin, cos2 * cos - sin2 * sin);
    let (sin4, cos4) = (sin2 * cos2 * 2.0, cos2.square() - sin2.square());
    let t = one - cosine_turned(sin, cos, -30.0) * 0.17 + cos2 * 0.24 + cosine_turned(sin3, cos3, 6.0) * 0.32
        - cosine_turned(sin4, cos4, -63.0) * 0.20;

    let mean_c = (c1 + c2) * 0.5;
    let from_mid = ((labs.l + l) * 0.5 - 50.0).square();
    let s_l = one + from_mid * 0.015 / (from_mid + 20.0).sqrt();
    let s_c = one + mean_c * 0.045;
    let s_h = one + mean_c * 0.015 * t;
    let (blue_sin, blue_cos) = 275f64.to_radians().sin_cos();
    let from_blue = square_of_angle(one, cos * blue_cos as f32 + sin * blue_sin as f32);
    let fades = (-1.0 / 25f64.to_radians().powi(2)) as f32;
    let turns = sine(one, (from_blue * fades).fading() * 60f32.to_radians());
    let r_t = turns * 2.0 * grown(mean_c);

    let (l, c, h) = (dl / s_l, dc / s_c, dh / s_h);
    let signed = cross.below(zero).select(-h, h);
    (l.square() + c.square() + h.square() - r_t * c * signed).max(zero).sqrt()
}

/// The cosine of an angle so many degrees further on.
#[inline(always)]
fn cosine_turned<S: Simd>(sin: Lanes<S>, cos: Lanes<S>, by: f64) -> Lanes<S> {
    let (by_sin, by_cos) = by.to_radians().sin_cos();
    cos * by_cos as f32 - sin * by_sin as f32
}

/// The square of an angle in radians by its cosine: arccos²(1 − t) = Σ 2ⁿ⁺² n!² tⁿ⁺¹ / (2n + 2)!, good to four digits up to 75°
/// and too small by at most a third beyond, where the turn of blues is long over.
#[inline(always)]
fn square_of_angle<S: Simd>(one: Lanes<S>, cos: Lanes<S>) -> Lanes<S> {
    let t = one - cos;
    let mut sum = t * (8.0 / 2079.0);
    for of in [16.0 / 1575.0, 1.0 / 35.0, 4.0 / 45.0, 1.0 / 3.0, 2.0] {
        sum = (sum + of) * t;
    }
    sum
}

/// The sine of an angle from 0 to 60°, in radians.
#[inline(always)]
fn sine<S: Simd>(one: Lanes<S>, x: Lanes<S>) -> Lanes<S> {
    let xx = x.square();
    x * (one - xx * (1.0 / 6.0) * (one - xx * (1.0 / 20.0) * (one - xx * (1.0 / 42.0))))
}

#[cfg(test)]
mod tests {
    use super::super::lanes::side_by_side;
    use super::*;
    use proptest::prelude::*;
    use pulp::{Scalar128b, WithSimd};
    use warm_blend_spectral::difference;

    struct Between(Lab, Lab);

    impl WithSimd for Between {
        type Output = f64;

        #[inline(always)]
        fn with_simd<S: Simd>(self, simd: S) -> f64 {
            let apart = ciede2000_simd(simd, &self.0.into(), &Labs::same(simd, self.1));
            f64::from(apart.each()[0])
        }
    }

    proptest! {
        #![proptest_config(ProptestConfig { max_global_rejects: 100_000, ..ProptestConfig::with_cases(4000) })]
        #[test]
        fn as_the_formula_has_it(t in (5.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64), m in (2.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64)) {
            let (target, mix) = (Lab { l: t.0, a: t.1, b: t.2 }, Lab { l: m.0, a: m.1, b: m.2 });
            // Where the hues are opposite the formula jumps.
            let across = target.a * mix.a + target.b * mix.b;
            prop_assume!(across > -0.97 * target.chroma() * mix.chroma());
            let full = difference(target, mix).value();
            for quick in [side_by_side(Between(target, mix)), Scalar128b.vectorize(Between(target, mix))] {
                prop_assert!((quick - full).abs() < OFF, "{} for {}", quick, full);
            }
        }
    }
}
