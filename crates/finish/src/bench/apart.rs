//! CIEDE2000 of four colours at a time, in single precision: what a search asks before it asks in full.

use warm_blend_spectral::Lab;
use wide::f32x4;

use super::sweep::Labs;

/// How far it may be from the formula in double precision, ΔE00, where the two hues are not opposite.
pub(super) const OFF: f64 = 0.02;

/// Two hues count as opposite, where the formula jumps, when the cosine between them is below minus this.
pub(super) const OPPOSITE: f64 = 0.9;
/// By how far, °, a hue is turned at least to see both sides of the jump.
const TURN: f64 = 8.0;
/// What is within ΔE00 1 of a dull colour is within so much of it in a* and b*.
const WITHIN: f64 = 1.2;

/// Sine of how far a hue is turned to see both sides of the jump: as far as a colour of that chroma, known to within `nearly`,
/// may be turned.
pub(super) fn turn(nearly: f64, chroma: f64) -> f64 {
    (WITHIN * nearly / chroma.max(0.01)).clamp(TURN.to_radians().sin(), 0.95)
}

/// The least of it where hues are opposite, on both sides of the jump, of colours known to within `nearly`.
pub(super) fn least_apart(target: Lab, labs: &Labs, nearly: f64) -> f32x4 {
    let here = apart(target, labs);
    let across = labs.a * four(target.a) + labs.b * four(target.b);
    let chroma = (square(labs.a) + square(labs.b)).sqrt();
    let sin = f32x4::from(chroma.to_array().map(|chroma| turn(nearly, chroma.into()) as f32));
    let cos = (f32x4::splat(1.0) - square(sin)).sqrt();
    let most = chroma * cos * four(-OPPOSITE * target.chroma());
    if across.to_array().iter().zip(most.to_array()).all(|(across, most)| *across > most) {
        return here;
    }
    let turned = |sin: f32x4| {
        let labs = Labs { l: labs.l, a: labs.a * cos - labs.b * sin, b: labs.a * sin + labs.b * cos };
        apart(target, &labs)
    };
    here.min(turned(sin)).min(turned(-sin))
}

fn four(value: f64) -> f32x4 {
    f32x4::splat(value as f32)
}

fn square(v: f32x4) -> f32x4 {
    v * v
}

/// √(c⁷ / (c⁷ + 25⁷)).
fn grown(chroma: f32x4) -> f32x4 {
    let seventh = square(square(chroma)) * square(chroma) * chroma;
    (seventh / (seventh + four(25f64.powi(7)))).sqrt()
}

/// CIEDE2000 (Sharma, Wu and Dalal 2005, equations 2 to 22) between a target and four colours.
pub(super) fn apart(target: Lab, labs: &Labs) -> f32x4 {
    let one = f32x4::splat(1.0);
    let half = f32x4::splat(0.5);
    let (l, a, b) = (four(target.l), four(target.a), four(target.b));
    let chroma = (square(labs.a) + square(labs.b)).sqrt();
    let stretch = one + half * (one - grown((chroma + four(target.chroma())) * half));
    let (a1, a2) = (a * stretch, labs.a * stretch);
    let (c1, c2) = ((square(a1) + square(b)).sqrt(), (square(a2) + square(labs.b)).sqrt());
    // The angle between the hues, and the middle one, from the first.
    let (dot, cross) = (a1 * a2 + b * labs.b, a1 * labs.b - b * a2);
    let turn = cross.atan2(dot);
    let middle = b.atan2(a1) + turn * half;
    let dl = labs.l - l;
    let dc = c2 - c1;
    let (half_sin, _) = (turn * half).sin_cos();
    let dh = (c1 * c2).sqrt() * half_sin * f32x4::splat(2.0);

    // T, by the multiples of the middle hue.
    let (sin, cos) = middle.sin_cos();
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
    // How far the middle hue is from 275°, by the shorter way.
    let (blue_sin, blue_cos) = 275f64.to_radians().sin_cos();
    let from_blue = (sin * four(blue_cos) - cos * four(blue_sin))
        .atan2(cos * four(blue_cos) + sin * four(blue_sin))
        * four(180.0 / std::f64::consts::PI / 25.0);
    let theta = four(30f64.to_radians()) * (-square(from_blue)).exp();
    let (theta_sin, _) = (theta * f32x4::splat(2.0)).sin_cos();
    let r_t = -theta_sin * f32x4::splat(2.0) * grown(mean_c);

    let (l, c, h) = (dl / s_l, dc / s_c, dh / s_h);
    (square(l) + square(c) + square(h) + r_t * c * h).max(f32x4::ZERO).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_spectral::difference;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(4000))]
        #[test]
        fn as_the_formula_has_it(t in (5.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64), m in (2.0..98.0f64, -70.0..70.0f64, -70.0..70.0f64)) {
            let (target, mix) = (Lab { l: t.0, a: t.1, b: t.2 }, Lab { l: m.0, a: m.1, b: m.2 });
            // Where the hues are opposite the formula jumps.
            let across = target.a * mix.a + target.b * mix.b;
            prop_assume!(across > -0.97 * target.chroma() * mix.chroma());
            let labs = Labs { l: four(mix.l), a: four(mix.a), b: four(mix.b) };
            let [quick, ..] = apart(target, &labs).to_array();
            let full = difference(target, mix).value();
            prop_assert!((f64::from(quick) - full).abs() < OFF, "{} for {}", quick, full);
        }
    }
}
