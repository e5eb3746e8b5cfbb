//! Questions about mixes: their parts, what lies halfway, what goes muddy, how strong a glaze was.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;
use warm_blend_board::{Place, Technique};
use warm_blend_mixing::{BlendCurve, MixtureKind};
use warm_blend_paint::{Class, Look, Material, Parts, Seen, mix};
use warm_blend_spectral::{Lab, Light, difference};

use super::colours::in_a_row;
use super::palette::{Palette, Tin};
use super::question::{ChoiceShown, Question, is_shown, said, swatch};
use crate::pane::{Pane, pane, shown};
use crate::{Refusal, ShelfSnapshot};

/// Ratios of two paints, from little to much of the first.
const RATIOS: [(u32, u32); 11] =
    [(1, 6), (1, 4), (1, 3), (1, 2), (2, 3), (1, 1), (3, 2), (2, 1), (3, 1), (4, 1), (6, 1)];

/// Least difference of the ends of a path, ΔE00, so that there is something between them.
const APART: f64 = 12.0;

fn mixed(one: &Material, other: &Material, share: f64) -> Option<Lab> {
    let of = [(Parts::new(share).ok()?, one), (Parts::new(1.0 - share).ok()?, other)];
    Some(Look::default().lab(&mix(&of).ok()?))
}

fn tins(one: &Tin, other: &Tin) -> Vec<Pane> {
    vec![pane(one.name.as_str(), vec![shown(one.lab)]), pane(other.name.as_str(), vec![shown(other.lab)])]
}

/// In which parts two paints were mixed; the others are `size` steps of the usual ratios away.
pub(super) fn parts(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let (one, other) = palette.two(chance);
    let step = size as usize;
    let at = chance.random_range(0..RATIOS.len());
    // The right one is the first, the middle or the last of three.
    let first = at.checked_sub(step * chance.random_range(0..3usize))?;
    let row = [first, first + step, first + 2 * step];
    if !row.contains(&at) || row[2] >= RATIOS.len() {
        return None;
    }
    let colour = |n: usize| {
        let (a, b) = RATIOS[n];
        mixed(&one.material, &other.material, f64::from(a) / f64::from(a + b))
    };
    let labs: Vec<Lab> = row.iter().map(|n| colour(*n)).collect::<Option<_>>()?;
    let distinct = labs.windows(2).all(|pair| difference(pair[0], pair[1]).value() >= 1.0);
    let right = colour(at).filter(|lab| is_shown(*lab) && distinct)?;
    let words = |n: usize| format!("{} : {}", RATIOS[n].0, RATIOS[n].1);
    let mut choices = vec![said(words(at))];
    choices.extend(row.iter().filter(|n| **n != at).map(|n| said(words(*n))));
    let mut shows = tins(one, other);
    shows.push(pane("mixed", vec![shown(right)]));
    let asked = format!("How many parts of {} to {}?", one.name, other.name);
    let because = format!("It is {} {} to {}.", words(at), one.name, other.name);
    Some(Question::shuffled(asked, shows, choices, because, chance))
}

/// What looks halfway between two paints; the others are `size` ΔE00 away along the path.
pub(super) fn halfway(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let (one, other) = palette.two(chance);
    if difference(one.lab, other.lab).value() < APART + 4.0 * size {
        return None;
    }
    let half = BlendCurve::between(&one.material, &other.material, Look::default()).half_way;
    let at = |share: f64| mixed(&other.material, &one.material, share);
    let right = at(half)?;
    let step = |n: f64| {
        // By halving: the share at which the colour is far enough from the middle.
        let (mut near, mut far) = (half, if n > 0.0 { 1.0 } else { 0.0 });
        for _ in 0..30 {
            let middle = (near + far) / 2.0;
            let off = at(middle).map_or(f64::MAX, |lab| difference(lab, right).value());
            *(if off < n.abs() * size { &mut near } else { &mut far }) = middle;
        }
        at(near).unwrap_or(right)
    };
    let row = in_a_row(right, step, chance)?;
    let choices = row.into_iter().map(|lab| swatch("", lab)).collect();
    let parts = format!("{:.0} % {}", 100.0 * half, other.name);
    let because = format!("Halfway to the eye is {parts}, not half and half by measure.");
    Some(Question::shuffled(
        "Which lies halfway between the two?",
        tins(one, other),
        choices,
        because,
        chance,
    ))
}

/// How much chroma a pair loses on the way from one to the other.
fn loss(one: &Tin, other: &Tin) -> f64 {
    let curve = BlendCurve::between(&one.material, &other.material, Look::default());
    let duller = one.lab.chroma().min(other.lab.chroma());
    duller - curve.colours.iter().map(|lab| lab.chroma()).fold(duller, f64::min)
}

/// Which of two pairs goes muddy; one loses at least `size` chroma more than the other.
pub(super) fn mud(palette: &Palette, size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let pairs = [palette.two(chance), palette.two(chance)];
    let losses = pairs.map(|(one, other)| loss(one, other));
    let worse = usize::from(losses[1] > losses[0]);
    let gap = losses[worse] - losses[1 - worse];
    // Not much easier than asked for either.
    if gap < size || gap > 3.0 * size {
        return None;
    }
    let choice = |(one, other): (&Tin, &Tin)| ChoiceShown {
        words: format!("{} into {}", one.name, other.name),
        cells: vec![shown(one.lab), shown(other.lab)],
    };
    let (one, other) = pairs[worse];
    let half = mixed(&one.material, &other.material, 0.5).map_or_else(String::new, |lab| {
        let named = warm_blend_paint::HueFamily::of(lab).id();
        format!(" Half and half it is {named}.")
    });
    let because = format!("{} and {} take the colour out of each other.{half}", one.name, other.name);
    let choices = vec![choice(pairs[worse]), choice(pairs[1 - worse])];
    Some(Question::shuffled("Which pair goes muddy?", Vec::new(), choices, because, chance))
}

/// Which of three strips was glazed at 4 : 1; the others have a medium `size` times more or less.
pub(super) fn strip(
    shelf: &ShelfSnapshot,
    palette: &Palette,
    size: f64,
    chance: &mut ChaCha8Rng,
) -> Result<Option<Question>, Refusal> {
    let (base, glaze) = palette.two(chance);
    let medium = Material::of(Class::GlazingLiquid, None, None).map_err(|_| Refusal::Broken)?;
    let technique = Technique::usual_for(MixtureKind::Glaze);
    let film = *shelf.hands().habit(technique).print(&technique.usual()).film.at(Place::Field);
    let ground = base.material.optics.thick();
    let at = |times: f64| {
        let of = [(Parts::of(4.0 * times), &medium), (Parts::of(1.0), &glaze.material)];
        let mixed = mix(&of).map_err(|_| Refusal::Broken)?;
        Ok::<_, Refusal>(Seen::of(&mixed.film(film, &ground), Light::Daylight))
    };
    let place = chance.random_range(0..3i32);
    let order: Vec<i32> = [0].into_iter().chain((0..3).map(|n| n - place).filter(|n| *n != 0)).collect();
    let seen = order.iter().map(|n| at((1.0 + size).powi(*n))).collect::<Result<Vec<_>, Refusal>>()?;
    if seen.iter().any(|seen| !seen.screen.in_gamut) {
        return Ok(None);
    }
    let choices = seen
        .iter()
        .map(|seen| ChoiceShown { words: String::new(), cells: vec![seen.screen.srgb.to_string()] });
    let words = format!("{} as a stippled glaze over {}. Which strip was 4 : 1?", glaze.name, base.name);
    let because = "More medium shows more of the base: the weaker the glaze, the nearer to it.";
    Ok(Some(Question::shuffled(words, tins(base, glaze), choices.collect(), because, chance)))
}
