//! The old surface of a piece in a photo: its colours without gloss, as far as a photo tells them.
//!
//! Old paint or wood has nearly one colour in a zone. Gloss has the colour of the light, so it makes a coloured surface paler (S. A. Shafer,
//! *Color Res. Appl.* 10 (1985) 210).

use std::collections::BTreeMap;

use warm_blend_photo::{PhotoSpot, Surface};
use warm_blend_piece::View;

/// Gloss is what is lighter than this, of the usual lightness of its zone†.
const GLOSS_FROM: f32 = 1.25;
/// Zones whose log ratios of channels differ by less are of one old colour†.
const ONE_COLOUR: f32 = 0.35;

/// A zone on a face: the face, and the number of the zone.
pub(crate) type Kind = (View, u8);

pub(crate) fn luminance(rgb: [f32; 3]) -> f32 {
    warm_blend_photo::luminance(rgb.map(f64::from)) as f32
}

/// How different two colours are but for their lightness: the distance of the logarithms of the ratios of their channels.
pub(crate) fn tint_apart(one: [f32; 3], other: [f32; 3]) -> f32 {
    let tint = |rgb: [f32; 3]| [(rgb[0] / rgb[1]).ln(), (rgb[2] / rgb[1]).ln()];
    let (one, other) = (tint(one), tint(other));
    (one[0] - other[0]).hypot(one[1] - other[1])
}

/// Zones on faces that are of nearly one colour, in more or less light.
pub(crate) fn groups(by_kind: &BTreeMap<Kind, Vec<u32>>, usual: &BTreeMap<Kind, [f32; 3]>) -> Vec<Vec<Kind>> {
    let mut left: Vec<Kind> = by_kind.keys().copied().collect();
    left.sort_by_key(|kind| (kind.0 != View::Front, std::cmp::Reverse(by_kind[kind].len())));
    let mut groups = Vec::new();
    while let Some(first) = left.first().copied() {
        let alike = |kind: &Kind| tint_apart(usual[kind], usual[&first]) < ONE_COLOUR;
        let (group, others) = left.iter().partition(|kind| alike(kind));
        left = others;
        groups.push(group);
    }
    groups
}

/// What a share mirrors: as much white as explains why it is paler than usual, where it is lighter than usual.
pub(crate) fn mirrored(share: [f32; 3], usual: [f32; 3]) -> f32 {
    let sum = |rgb: [f32; 3]| rgb[0] + rgb[1] + rgb[2];
    let lighter = sum(share) / sum(usual).max(1e-3);
    if lighter < GLOSS_FROM {
        return 0.0;
    }
    // share = level · usual + gloss · (1, 1, 1), least squares.
    let dot = |a: [f32; 3], b: [f32; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    let (uu, u1, us) = (dot(usual, usual), sum(usual), dot(usual, share));
    let determinant = 3.0 * uu - u1 * u1;
    let gloss = if determinant > 0.02 * uu {
        (uu * sum(share) - u1 * us) / determinant
    } else {
        // A grey surface has the colour of its gloss: only what no light explains is taken for it.
        share[1] - 2.0 * usual[1]
    };
    let certain = ((lighter - GLOSS_FROM) / 0.5).min(1.0);
    (certain * gloss).clamp(0.0, share[0].min(share[1]).min(share[2]).max(0.0))
}

/// The geometric mean of some colours, without the darkest and the lightest: grain is centred in the same way.
pub(crate) fn usual(colours: impl Iterator<Item = [f32; 3]>) -> [f32; 3] {
    let mut all: Vec<[f32; 3]> = colours.collect();
    let sum = |rgb: &[f32; 3]| rgb[0] + rgb[1] + rgb[2];
    all.sort_unstable_by(|one, other| sum(one).total_cmp(&sum(other)));
    let cut = all.len() / 10;
    let middle = &all[cut..all.len() - cut];
    let n = middle.len().max(1) as f32;
    std::array::from_fn(|c| (middle.iter().map(|rgb| rgb[c].max(1e-4).ln()).sum::<f32>() / n).exp())
}

/// The old reflectance of each zone on each face: what is flat and near the card has its light.
pub(crate) fn old_colours(
    groups: &[Vec<Kind>],
    by_kind: &BTreeMap<Kind, Vec<u32>>,
    usual_of: &BTreeMap<Kind, [f32; 3]>,
    shares: &[[f32; 3]],
    card: Option<PhotoSpot>,
    width: usize,
    surfaces: &[Surface],
) -> BTreeMap<Kind, [f32; 3]> {
    let near = |at: &&u32| {
        card.is_some_and(|card| {
            let (x, y) = (**at as usize % width, **at as usize / width);
            (x as f64 / width as f64 - card.x).hypot(y as f64 / width as f64 - card.y) < 10.0 * card.radius
        }) && matches!(surfaces[**at as usize], Surface::Flat(_))
    };
    let mut olds = BTreeMap::new();
    for group in groups {
        let first = group[0];
        let of_face = group.iter().filter(|kind| kind.0 == first.0).flat_map(|kind| &by_kind[kind]);
        let beside: Vec<[f32; 3]> = of_face.filter(near).map(|at| shares[*at as usize]).collect();
        let old = if beside.len() < 60 { usual_of[&first] } else { usual(beside.into_iter()) };
        olds.extend(group.iter().map(|kind| (*kind, old)));
    }
    olds
}
