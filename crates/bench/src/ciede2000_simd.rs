//! CIEDE2000 of four colours at a time, in single precision: what a search asks before it asks in full.

use warm_blend_spectral::Lab;
use wide::f32x4;

use super::reduced_bands::Labs;

/// How far it may be from the formula in double precision, ΔE00, where the two hues are not opposite.
pub(super) const OFF: f64 = 0.02;

/// Two hues count as opposite, where the formula jumps, when the cosine between them is below minus this.
pub(super) const OPPOSITE: f64 = 0.9;
/// By how far a hue is turned at least to see both sides of the jump, and at most: sines, of 8° and of 72°.
const TURNS: (f64, f64) = (0.139_173_100_960_065_44, 0.95);
/// What is within ΔE00 1 of a dull colour is within so much of it in a* and b*.
const WITHIN: f64 = 1.2;

/// A colour that is aimed at, with what is asked of it for every mix.
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

/// Sine of how far a hue is turned to see both sides of the jump: as far as a colour of that chroma, known to within `nearly`,
/// may be turned.
pub(super) fn turn(nearly: f64, chroma: f64) -> f64 {
    (WITHIN * nearly / chroma.max(0.01)).clamp(TURNS.0, TURNS.1)
}

/// The least of it where hues are opposite, on both sides of the jump, of colours known to within `nearly`.
pub(super) fn least_apart(aim: &Aim, labs: &Labs, nearly: f64) -> f32x4 {
    let here = ciede2000_simd(aim, labs);
    let across = labs.a * four(aim.lab.a) + labs.b * four(aim.lab.b);
    let chroma = (square(labs.a) + square(labs.b)).sqrt();
    // As [`turn`] has it.
    let sin = four(WITHIN * nearly) / chroma.max(f32x4::splat(0.01));
    let sin = sin.max(four(TURNS.0)).min(four(TURNS.1));
    let cos = (f32x4::splat(1.0) - square(sin)).sqrt();
    let most = chroma * cos * four(-OPPOSITE * aim.chroma);
    if across.simd_gt(most).all() {
        return here;
    }
    let turned = |sin: f32x4| {
        let labs = Labs { l: labs.l, a: labs.a * cos - labs.b * sin, b: labs.a * sin + labs.b * cos };
        ciede2000_simd(aim, &labs)
    };
    here.min(turned(sin)).min(turned(-sin))
}

pub(super) fn four(value: f64) -> f32x4 {
    f32x4::splat(value as f32)
}

pub(super) fn square(v: f32x4) -> f32x4 {
    v * v
}

/// √(c⁷ / (c⁷ + 25⁷)).
pub(super) fn grown(chroma: f32x4) -> f32x4 {
    let seventh = square(square(chroma)) * square(chroma) * chroma;
    (seventh / (seventh + four(25f64.powi(7)))).sqrt()
}

/// CIEDE2000 (Sharma, Wu and Dalal 2005, equations 2 to 22) between a target and four colours. Angles are never made of the
/// hues: what the formula asks of them is said by their cosines and sines.
pub(super) fn ciede2000_simd(aim: &Aim, labs: &Labs) -> f32x4 {
    let one = f32x4::splat(1.0);
    let half = f32x4::splat(0.5);
    let none = f32x4::splat(1e-6);
    let (l, a, b) = (four(aim.lab.l), four(aim.lab.a), four(aim.lab.b));
    let chroma = (square(labs.a) + square(labs.b)).sqrt();
    let stretch = one + half * (one - grown((chroma + four(aim.chroma)) * half));
    let (a1, a2) = (a * stretch, labs.a * stretch);
    let (c1, c2) = ((square(a1) + square(b)).sqrt(), (square(a2) + square(labs.b)).sqrt());
    // ΔH² = 2 (C₁C₂ − their dot product); its sign is that of the turn from one to the other.
    let (dot, cross) = (a1 * a2 + b * labs.b, a1 * labs.b - b * a2);
    let dl = labs.l - l;
    let dc = c2 - c1;
    let dh = ((c1 * c2 - dot).max(f32x4::ZERO) * f32x4::splat(2.0)).sqrt();
    // The middle hue lies along the sum of the two directions; a grey has none of its own.
    let middle = (a1 * c2 + a2 * c1, b * c2 + labs.b * c1);
    let long = (square(middle.0) + square(middle.1)).sqrt();
    let hueless = long.simd_le(none);
    let (sum_a, sum_b) = (a1 + a2, b + labs.b);
    let long_sum = (square(sum_a) + square(sum_b)).sqrt().max(none);
    let cos = hueless.select(sum_a / long_sum, middle.0 / long.max(none));
    let sin = hueless.select(sum_b / long_sum, middle.1 / long.max(none));

    // T, by the multiples of the middle hue.
    let (sin2, cos2) = (sin * cos * f32x4::splat(2.0), square(cos) - square(sin));
    let (sin3, cos3) = (sin2 * cos + cos2 * sin, cos2 * cos - sin2 * sin);
    let (sin4, cos4) = (sin2 * cos2 * f32x4::splat(2.0), square(cos2) - square(sin2));
    let turned = |(sin, cos): (f32x4, f32x4), by: f64| {
        let (by_sin, by_cos) = by.to_radians().sin_cos();
        cos * four(by_cos) - sin * four(by_sin)
    };
    let t = one - four(0.17) * turned((sin, cos), -30.0)
        + four(0.24) * cos2
        + four(0.32) * turned((sin3, cos3), 6.0)
        - four(0.20) * turned((sin4, cos4), -63.0);

    let mean_c = (c1 + c2) * half;
    let from_mid = square((labs.l + l) * half - four(50.0));
    let s_l = one + four(0.015) * from_mid / (four(20.0) + from_mid).sqrt();
    let s_c = one + four(0.045) * mean_c;
    let s_h = one + four(0.015) * mean_c * t;
    let (blue_sin, blue_cos) = 275f64.to_radians().sin_cos();
    let from_blue = square_of_angle(cos * four(blue_cos) + sin * four(blue_sin));
    let turns = sine(four(60f64.to_radians()) * (-from_blue * four(1.0 / 25f64.to_radians().powi(2))).exp());
    let r_t = turns * f32x4::splat(2.0) * grown(mean_c);

    let (l, c, h) = (dl / s_l, dc / s_c, dh / s_h);
    let signed = cross.simd_lt(f32x4::ZERO).select(-h, h);
    (square(l) + square(c) + square(h) - r_t * c * signed).max(f32x4::ZERO).sqrt()
}

/// The square of an angle in radians by its cosine: arccos²(1 − t) = Σ 2ⁿ⁺² n!² tⁿ⁺¹ / (2n + 2)!, good to four digits up to 75°
/// and too small by at most a third beyond, where the turn of blues is long over.
fn square_of_angle(cos: f32x4) -> f32x4 {
    let t = f32x4::splat(1.0) - cos;
    let row = [2.0, 1.0 / 3.0, 4.0 / 45.0, 1.0 / 35.0, 16.0 / 1575.0, 8.0 / 2079.0];
    row.iter().rev().fold(f32x4::ZERO, |sum, of| (sum + four(*of)) * t)
}

/// The sine of an angle from 0 to 60°, in radians.
fn sine(x: f32x4) -> f32x4 {
    let xx = square(x);
    let one = f32x4::splat(1.0);
    x * (one - xx * four(1.0 / 6.0) * (one - xx * four(1.0 / 20.0) * (one - xx * four(1.0 / 42.0))))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::difference;

    proptest! {
        #![proptest_config(ProptestConfig { max_global_rejects: 100_000, ..ProptestConfig::with_cases(4000) })]
        #[test]
        fn as_the_formula_has_it(t in (5.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64), m in (2.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64)) {
            let (target, mix) = (Lab { l: t.0, a: t.1, b: t.2 }, Lab { l: m.0, a: m.1, b: m.2 });
            // Where the hues are opposite the formula jumps.
            let across = target.a * mix.a + target.b * mix.b;
            prop_assume!(across > -0.97 * target.chroma() * mix.chroma());
            let labs = Labs { l: four(mix.l), a: four(mix.a), b: four(mix.b) };
            let [quick, ..] = ciede2000_simd(&target.into(), &labs).to_array();
            let full = difference(target, mix).value();
            prop_assert!((f64::from(quick) - full).abs() < OFF, "{} for {}", quick, full);
        }
    }
}
