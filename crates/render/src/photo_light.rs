//! The light on each pixel of a piece in a photo, its old grain and its gloss.

use std::collections::{BTreeMap, HashSet};

use warm_blend_photo::{PhotoSpot, Surface, blurred, grain, median};

use crate::{
    broad_grain::broad_grain,
    old_surface::{Kind, groups, luminance, mirrored, old_colours, tint_apart, usual},
    photo_cover::cover,
    photo_pixel::Pixel,
};

/// From this reflectance of its darkest channel on, a surface shows the colour of the light on it†.
const SURE_OF_LIGHT: f32 = 0.15;
/// Width of a detail of carving, of the width of the photo†, and how much more uneven carving is than flat wood or paint†.
const DETAIL: f64 = 0.004;
const UNEVEN: f32 = 1.6;

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
    let foreign = foreign(pixels, kinds, &shares, &usual, card, width);
    foreign.iter().for_each(|at| surfaces[*at as usize] = Surface::Other);
    only_carving(&mut surfaces, &shares, width);
    let mut matt = shares;
    for (pixel, kind) in pixels.iter_mut().zip(kinds) {
        let at = pixel.index as usize;
        let gloss = mirrored(matt[at], usual[kind]);
        // Noise must not take all of a dark pixel.
        let gloss = gloss.min(0.6 * matt[at][0].min(matt[at][1]).min(matt[at][2]));
        matt[at] = matt[at].map(|channel| channel - gloss);
        pixel.gloss = gloss;
    }
    let of =
        |kind: &Kind| by_kind[kind].iter().filter(|at| !foreign.contains(at)).map(|at| matt[*at as usize]);
    let usual: BTreeMap<Kind, [f32; 3]> = by_kind.keys().map(|kind| (*kind, self::usual(of(kind)))).collect();
    let grain = grain(width, &matt, &surfaces);
    for pixel in pixels.iter_mut() {
        pixel.grain = grain[pixel.index as usize];
        pixel.carved = matches!(surfaces[pixel.index as usize], Surface::Carved(_));
    }
    let old = |matt: &[[f32; 3]]| old_colours(&groups, &by_kind, &usual, matt, card, width, &surfaces);
    let olds = old(&matt);
    let lit = |(pixel, kind): (&Pixel, &Kind)| {
        (luminance(matt[pixel.index as usize]) / luminance(olds[kind])).max(1e-4).ln() - pixel.grain
    };
    let lit: Vec<f32> = pixels.iter().zip(kinds).map(lit).collect();
    let broad = broad_grain(pixels, &lit, &surfaces, width);
    for (pixel, broad) in pixels.iter_mut().zip(broad) {
        pixel.grain += broad;
        let of = &mut matt[pixel.index as usize];
        *of = of.map(|channel| channel / pixel.grain.exp());
    }
    // The light on the card falls on what lies beside it, whatever its grain.
    let olds = old(&matt);
    for (pixel, kind) in pixels.iter_mut().zip(kinds) {
        let (old, usual) = (olds[kind], usual[kind]);
        // Light and dark from the pixel, its colour from the whole zone.
        let level = luminance(matt[pixel.index as usize]) / luminance(usual);
        pixel.light = light_of(level, usual, old);
    }
    cover(pixels, kinds, &foreign, width);
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

/// Where no more changes than on the flat of the same part there is no carving.
fn only_carving(surfaces: &mut [Surface], shares: &[[f32; 3]], width: usize) {
    let log: Vec<f32> = shares.iter().map(|share| luminance(*share).max(1e-4).ln()).collect();
    let radius = ((DETAIL * width as f64) as usize).max(2);
    let near = blurred(width, &log, surfaces, radius);
    let square: Vec<f32> = log.iter().zip(&near).map(|(log, near)| (log - near).powi(2)).collect();
    let spread = blurred(width, &square, surfaces, radius);
    let mut flat: BTreeMap<u16, Vec<f32>> = BTreeMap::new();
    for (surface, spread) in surfaces.iter().zip(&spread) {
        if let Surface::Flat(part) = surface {
            flat.entry(*part).or_default().push(*spread);
        }
    }
    let usual: BTreeMap<u16, f32> =
        flat.into_iter().map(|(part, mut spreads)| (part, median(&mut spreads))).collect();
    for (surface, spread) in surfaces.iter_mut().zip(spread) {
        if let Surface::Carved(part) = *surface
            && usual.get(&part).is_some_and(|usual| spread < UNEVEN * UNEVEN * usual)
        {
            *surface = Surface::Flat(part);
        }
    }
}

/// Light by channel, where a surface of this old colour usually looks like that in it. The darkest channel of a dark surface tells little of
/// the colour of the light.
fn light_of(level: f32, usual: [f32; 3], old: [f32; 3]) -> [f32; 3] {
    let whole = luminance(usual) / luminance(old);
    let certain = (old[0].min(old[1]).min(old[2]) / SURE_OF_LIGHT).min(1.0);
    std::array::from_fn(|c| level * whole * (usual[c] / old[c] / whole).powf(certain))
}
