//! The light on each pixel of a piece in a photo, its old grain and its gloss.

use std::collections::{BTreeMap, HashMap, HashSet};

use warm_blend_photo::{PhotoSpot, Surface, blurred, grain};

use crate::{
    old_surface::{Kind, clear_colours, groups, haze, luminance, mirrored, old_colours, tint_apart, usual},
    photo_pixel::Pixel,
};

/// Width over which the haze of a glossy surface is even, of the width of the photo†.
const GLOSSY: f64 = 0.015;
/// From this reflectance of its darkest channel on, a surface shows the colour of the light on it†.
const SURE_OF_LIGHT: f32 = 0.15;

/// Finds the light on each pixel, its old grain and its gloss. `kinds` are those of the pixels; `shares` and `surfaces` are of the whole
/// photo, what each pixel reads of a white beside the card and what it shows.
pub(crate) fn find_light(
    pixels: &mut [Pixel],
    kinds: &[Kind],
    shares: Vec<[f32; 3]>,
    mut surfaces: Vec<Surface>,
    card: Option<PhotoSpot>,
    width: usize,
) {
    let mut by_kind: BTreeMap<Kind, Vec<u32>> = BTreeMap::new();
    for (pixel, kind) in pixels.iter().zip(kinds) {
        by_kind.entry(*kind).or_default().push(pixel.index);
    }
    let usual: BTreeMap<Kind, [f32; 3]> =
        by_kind.iter().map(|(kind, of)| (*kind, usual(of.iter().map(|at| shares[*at as usize])))).collect();
    let groups = groups(&by_kind, &usual);
    let clear = clear_colours(&groups, &by_kind, &usual);
    let foreign = foreign(pixels, kinds, &shares, &usual, card, width);
    foreign.iter().for_each(|at| surfaces[*at as usize] = Surface::Other);
    let radius = (GLOSSY * width as f64) as usize;
    let near: [Vec<f32>; 3] = std::array::from_fn(|c| {
        let channel: Vec<f32> = shares.iter().map(|share| share[c]).collect();
        blurred(width, &channel, &surfaces, radius)
    });
    let mut matt = shares;
    for (pixel, kind) in pixels.iter_mut().zip(kinds) {
        let at = pixel.index as usize;
        let haze = haze([near[0][at], near[1][at], near[2][at]], clear[kind]);
        let own = usual[kind].map(|channel| channel - haze);
        let gloss = haze + mirrored(matt[at].map(|channel| channel - haze), own);
        // Noise must not take all of a dark pixel.
        let gloss = gloss.min(0.6 * matt[at][0].min(matt[at][1]).min(matt[at][2]));
        matt[at] = matt[at].map(|channel| channel - gloss);
        pixel.gloss = gloss;
    }
    let of =
        |kind: &Kind| by_kind[kind].iter().filter(|at| !foreign.contains(at)).map(|at| matt[*at as usize]);
    let usual: BTreeMap<Kind, [f32; 3]> = by_kind.keys().map(|kind| (*kind, self::usual(of(kind)))).collect();
    let olds = old_colours(&groups, &by_kind, &usual, &matt, card, width, &surfaces);
    let grain = grain(width, &matt, &surfaces);
    for (pixel, kind) in pixels.iter_mut().zip(kinds) {
        let (old, usual) = (olds[kind], usual[kind]);
        pixel.grain = grain[pixel.index as usize];
        // Light and dark from the pixel, its colour from the whole zone.
        let level = luminance(matt[pixel.index as usize]) / luminance(usual) / pixel.grain.exp();
        pixel.light = light_of(level, usual, old);
    }
    cover(pixels, &foreign, width);
}

/// Pixels near the card that show something else than the piece: the card, and whoever holds it.
fn foreign(
    pixels: &[Pixel],
    kinds: &[Kind],
    shares: &[[f32; 3]],
    usual: &BTreeMap<Kind, [f32; 3]>,
    card: Option<PhotoSpot>,
    width: usize,
) -> HashSet<u32> {
    let Some(card) = card else { return HashSet::new() };
    let mut foreign = HashSet::new();
    let reach = (0.004 * width as f64).ceil() as i64;
    for (pixel, kind) in pixels.iter().zip(kinds) {
        let (x, y) = (pixel.index as usize % width, pixel.index as usize / width);
        let away = (x as f64 / width as f64 - card.x).hypot(y as f64 / width as f64 - card.y);
        let (share, usual) = (shares[pixel.index as usize], usual[kind]);
        let is_other = luminance(share) > 1.8 * luminance(usual) || tint_apart(share, usual) > 0.5;
        if away < 1.2 * card.radius || (away < 3.0 * card.radius && is_other) {
            for (dx, dy) in (-reach..=reach).flat_map(|dx| (-reach..=reach).map(move |dy| (dx, dy))) {
                let (x, y) = (x as i64 + dx, y as i64 + dy);
                if (0..width as i64).contains(&x) && y >= 0 {
                    foreign.insert((y * width as i64 + x) as u32);
                }
            }
        }
    }
    foreign
}

/// Gives pixels that show something else the light of what is beside them.
fn cover(pixels: &mut [Pixel], foreign: &HashSet<u32>, width: usize) {
    if foreign.is_empty() {
        return;
    }
    let at: HashMap<u32, usize> = pixels.iter().enumerate().map(|(n, pixel)| (pixel.index, n)).collect();
    let mut left: Vec<usize> = foreign.iter().filter_map(|index| at.get(index).copied()).collect();
    left.sort_unstable();
    let mut known: HashSet<u32> =
        pixels.iter().map(|pixel| pixel.index).filter(|index| !foreign.contains(index)).collect();
    // From the rim inwards: light changes slowly.
    while !left.is_empty() {
        let mean = |n: usize| {
            let index = pixels[n].index;
            let (mut sum, mut times) = ([0.0f32; 3], 0.0f32);
            for row in -4i64..=4 {
                for column in -4i64..=4 {
                    let beside = i64::from(index) + row * width as i64 + column;
                    let Some(n) =
                        u32::try_from(beside).ok().filter(|b| known.contains(b)).and_then(|b| at.get(&b))
                    else {
                        continue;
                    };
                    (0..3).for_each(|c| sum[c] += pixels[*n].light[c]);
                    times += 1.0;
                }
            }
            (times > 0.0).then(|| sum.map(|sum| sum / times))
        };
        let found: Vec<(usize, [f32; 3])> = left.iter().filter_map(|n| Some((*n, mean(*n)?))).collect();
        if found.is_empty() {
            break;
        }
        for (n, light) in &found {
            let pixel = &mut pixels[*n];
            (pixel.light, pixel.grain, pixel.gloss) = (*light, 0.0, 0.0);
            known.insert(pixel.index);
        }
        left.retain(|n| !known.contains(&pixels[*n].index));
    }
}

/// Light by channel, where a surface of this old colour usually looks like that in it. The darkest channel of a dark surface tells little of
/// the colour of the light.
fn light_of(level: f32, usual: [f32; 3], old: [f32; 3]) -> [f32; 3] {
    let whole = luminance(usual) / luminance(old);
    let certain = (old[0].min(old[1]).min(old[2]) / SURE_OF_LIGHT).min(1.0);
    std::array::from_fn(|c| level * whole * (usual[c] / old[c] / whole).powf(certain))
}
