//! Questions about one colour: lighter, warmer, wet to dry, in another light.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;
use warm_blend_mixing::SHADE;
use warm_blend_paint::{FilmState, Look, Seen};
use warm_blend_spectral::{Lab, Light};

use super::palette::Palette;
use super::question::{ChoiceShown, Question, is_shown, said, swatch};
use crate::pane::{Pane, pane, shown};

/// Direction of warm hues, degrees: towards orange.
const WARM: f64 = 60.0;

/// Places of two colours that touch each other.
const SIDES: [&str; 2] = ["left", "right"];

/// A difference in L* as shades: `1½ shades`.
fn shades(l: f64) -> String {
    match l / SHADE {
        n if n < 0.95 => format!("{n:.1} of a shade"),
        n if (n - 1.0).abs() < 0.05 => "1 shade".to_owned(),
        n => format!("{n:.1} shades").replace(".0 ", " "),
    }
}

fn touching(one: Lab, other: Lab) -> Vec<Pane> {
    vec![pane("", vec![shown(one), shown(other)])]
}

/// Which of two is lighter, and by how many shades: by `size` L* or by twice that.
pub(super) fn lighter(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let from = palette.any(chance).lab;
    let more = if chance.random() { 2.0 } else { 1.0 };
    let other = Lab { l: from.l - more * size, ..from };
    if !is_shown(other) {
        return None;
    }
    let first = usize::from(chance.random::<bool>());
    let pair = if first == 0 { (from, other) } else { (other, from) };
    let by = |side: usize, times: f64| said(format!("{}, by {}", SIDES[side], shades(times * size)));
    let wrong = 3.0 - more;
    let choices = vec![by(first, more), by(first, wrong), by(1 - first, more), by(1 - first, wrong)];
    let because = format!("The {} one is {} lighter.", SIDES[first], shades(more * size));
    Some(Question::shuffled(
        "Which is lighter, and by how much?",
        touching(pair.0, pair.1),
        choices,
        because,
        chance,
    ))
}

/// Which of two is warmer, by `size` ΔE*ab.
pub(super) fn warmer(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let from = palette.any(chance).lab;
    let (sin, cos) = WARM.to_radians().sin_cos();
    let warm = Lab { a: from.a + size * cos, b: from.b + size * sin, ..from };
    // A little lighter or darker, so that it is not only the lightness that differs.
    let warm = Lab { l: warm.l + chance.random_range(-0.3..0.3) * size, ..warm };
    if !is_shown(warm) {
        return None;
    }
    let first = usize::from(chance.random::<bool>());
    let (left, right) = if first == 0 { (warm, from) } else { (from, warm) };
    let choices = vec![said(SIDES[first]), said(SIDES[1 - first])];
    let because = format!("The {} one is warmer: it leans more towards orange.", SIDES[first]);
    Some(Question::shuffled("Which is warmer?", touching(left, right), choices, because, chance))
}

/// Three colours at even distance along a line: the right one is the first, the middle or the last of them.
pub(super) fn in_a_row(right: Lab, step: impl Fn(f64) -> Lab, chance: &mut ChaCha8Rng) -> Option<Vec<Lab>> {
    let place = chance.random_range(0..3);
    let mut all = vec![right];
    all.extend((0..3).filter(|n| *n != place).map(|n| step(f64::from(n - place))));
    all.iter().all(|lab| is_shown(*lab)).then_some(all)
}

fn swatches(labs: Vec<Lab>) -> Vec<ChoiceShown> {
    labs.into_iter().map(|lab| swatch("", lab)).collect()
}

/// What a wet colour dries to; the others are `size` L* away.
pub(super) fn drying(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let tin = palette.any(chance);
    let wet = Look { state: FilmState::Wet, ..Look::default() }.lab(&tin.material);
    let dry = tin.lab;
    let row = in_a_row(dry, |n| Lab { l: dry.l + n * size, ..dry }, chance)?;
    let change = warm_blend_paint::Verdict::against(dry, wet, "wet").words();
    let because = format!("{} dries {}.", tin.name, change.trim_end_matches(" than wet"));
    is_shown(wet).then(|| {
        let shows = vec![pane("wet", vec![shown(wet)])];
        Question::shuffled("This is wet. What does it dry to?", shows, swatches(row), because, chance)
    })
}

/// What a colour seen under a bulb is in daylight; the others are `size` away in b*.
pub(super) fn light(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let tin = palette.any(chance);
    let bulb = Seen::of(&tin.material.masstone(), Light::Bulb).screen;
    let day = tin.lab;
    let row = in_a_row(day, |n| Lab { b: day.b + n * size, ..day }, chance)?;
    let because = format!("It is {}. A bulb makes everything yellower, and blues lose most.", tin.name);
    bulb.in_gamut.then(|| {
        let shows = vec![pane("in a photo, under a bulb", vec![bulb.srgb.to_string()])];
        Question::shuffled("What is it in daylight?", shows, swatches(row), because, chance)
    })
}
