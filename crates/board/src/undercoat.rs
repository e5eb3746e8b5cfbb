//! The undercoat that saves a coat: primer tinted towards the final colour, so that fewer coats of paint cover.

use std::collections::HashMap;

use warm_blend_paint::{
    BadPaint, Class, FilmState, Material, Microns, MixPart, PaintId, Parts, WholeParts, hiding::COAT, mix,
};
use warm_blend_spectral::{Light, difference};

use super::{Below, ByPlace, Deposit, Ground, KnownTin, OnShelf, Place, Share, Stack, stack::lab};

/// Difference from the paint's own colour at which a coat covers, ΔE00†.
const COVERS: f64 = 1.0;

/// Greatest number of coats.
const MOST: usize = 6;

/// Parts of primer to one part of tint that are tried, least tint first: too much colour stops a primer from blocking
/// (common practice).
const TINTED: [u32; 3] = [8, 4, 2];

/// Number of the best that are judged on plausible shelves, and number of those shelves.
const JUDGED: usize = 4;
const SHELVES: usize = 8;

/// A tinted primer, and the coats it saves.
#[derive(Debug, Clone, PartialEq)]
pub struct Undercoat {
    /// Contents of the pot.
    pub pot: Vec<MixPart>,
    /// Coats of paint over it until the ground no longer shows: the mean over the plausible shelves, rounded.
    pub coats: usize,
    /// Coats without it, found in the same way.
    pub without: usize,
}

impl Undercoat {
    /// Number of coats of paint saved; one coat of primer is applied instead.
    pub const fn saves(&self) -> usize {
        self.without.saturating_sub(self.coats)
    }
}

/// Number of brushed coats over a ground until only the paint's own colour shows; `None` if six are not enough.
pub fn coats_over(
    ground: &Ground,
    below: Option<&Material>,
    paint: &Material,
) -> Result<Option<usize>, BadPaint> {
    let own = lab(&paint.masstone(), Light::Daylight);
    let coat = Deposit { film: ByPlace::all(Microns::of(COAT)), cover: ByPlace::all(Share::WHOLE) };
    let mut stack = Stack::over(ground)?;
    if let Some(below) = below {
        stack.lay(below.clone(), coat, Below::LIES, None);
    }
    Ok((1..=MOST).find(|_| {
        stack.lay(paint.clone(), coat, Below::LIES, None);
        let seen = stack.seen(Place::Field, stack.len(), FilmState::Dry).from_afar();
        difference(lab(&seen, Light::Daylight), own).value() <= COVERS
    }))
}

/// A paint that is to cover a ground.
#[derive(Debug, Clone, Copy)]
pub struct Covering<'a> {
    /// Its most probable material.
    pub best: &'a Material,
    /// Contents of its pot.
    pub pot: &'a [MixPart],
}

/// The primer, plain or tinted with one paint of the shelf, over which a paint probably needs the fewest coats on a
/// ground; the least tint of several that are as good. `None` without a primer.
pub fn undercoat<'a>(
    ground: &Ground,
    paint: Covering,
    shelf: &[OnShelf],
    tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
) -> Option<Undercoat> {
    let primers = shelf.iter().filter(|tin| tin.class == Class::Primer);
    let primer = primers.max_by(|one, other| one.left.total_cmp(&other.left))?.paint;
    let tints = shelf.iter().filter(|tin| tin.class.makes_water_based_colours());
    let tinted = tints.flat_map(|tint| TINTED.map(|parts| vec![(primer, parts), (tint.paint, 1)]));
    let tried = std::iter::once(vec![(primer, 1)]).chain(tinted).filter_map(|pot| {
        let below = stirred(&pot, |paint| Some(tin(paint)?.material.clone()))?;
        let coats = coats_or_more(ground, Some(&below), paint.best)?;
        // Of primers with equal coats the one closest to the final colour, ignoring invisible differences.
        let off =
            difference(lab(&below.masstone(), Light::Daylight), lab(&paint.best.masstone(), Light::Daylight))
                .value();
        Some((coats, pot.len(), off, pot))
    });
    let mut tried: Vec<_> = tried.collect();
    tried.sort_by(|one, other| (one.0, one.1).cmp(&(other.0, other.1)).then(one.2.total_cmp(&other.2)));
    tried.truncate(JUDGED);
    let under = tried.iter().flat_map(|(.., pot)| pot.iter().map(|(paint, _)| *paint));
    let likely = Likely::of(ground, paint, under, &tin);
    let without = likely.coats(None)?;
    let judged = tried.into_iter().filter_map(|(_, _, off, pot)| Some((likely.coats(Some(&pot))?, off, pot)));
    let (coats, _, pot) = judged.min_by(|one, other| {
        (one.0, one.2.len()).cmp(&(other.0, other.2.len())).then(one.1.total_cmp(&other.1))
    })?;
    let part = |(paint, parts)| Some(MixPart { paint, parts: WholeParts::new(parts).ok()? });
    Some(Undercoat { pot: pot.into_iter().map(part).collect::<Option<_>>()?, coats, without })
}

/// Number of coats, or one more than the greatest number if that is not enough.
fn coats_or_more(ground: &Ground, below: Option<&Material>, paint: &Material) -> Option<usize> {
    Some(coats_over(ground, below, paint).ok()?.unwrap_or(MOST + 1))
}

/// Mixes whole parts of tins, looked up by `of`.
fn stirred(pot: &[(PaintId, u32)], of: impl Fn(PaintId) -> Option<Material>) -> Option<Material> {
    let each = pot.iter().map(|(paint, parts)| Some((Parts::new(f64::from(*parts)).ok()?, of(*paint)?)));
    let each = each.collect::<Option<Vec<(Parts, Material)>>>()?;
    mix(&each.iter().map(|(parts, material)| (*parts, material)).collect::<Vec<_>>()).ok()
}

/// A paint over a ground on the plausible shelves.
struct Likely<'g, F> {
    ground: &'g Ground,
    tin: F,
    /// What tins may be, by plausible shelf; nothing of what is not in doubt.
    may_be: HashMap<PaintId, Vec<Material>>,
    best: &'g Material,
    /// The paint by plausible shelf; empty where it is not in doubt.
    paints: Vec<Material>,
}

impl<'g, 'a, F: Fn(PaintId) -> Option<KnownTin<'a>>> Likely<'g, F> {
    /// `under` are the tins of what may go under it.
    fn of(ground: &'g Ground, paint: Covering<'g>, under: impl Iterator<Item = PaintId>, tin: F) -> Self {
        let pot: Vec<(PaintId, u32)> =
            paint.pot.iter().map(|part| (part.paint, part.parts.value())).collect();
        let mut may_be = HashMap::new();
        for tin_of in pot.iter().map(|(paint, _)| *paint).chain(under) {
            let known =
                || tin(tin_of).and_then(|tin| tin.known).map_or_else(Vec::new, |known| known.some(SHELVES));
            may_be.entry(tin_of).or_insert_with(known);
        }
        let mut likely = Self { ground, tin, may_be, best: paint.best, paints: Vec::new() };
        if pot.iter().any(|(paint, _)| !likely.may_be[paint].is_empty()) {
            let paints = (0..SHELVES).map(|shelf| stirred(&pot, |paint| likely.on(shelf, paint)));
            likely.paints = paints.collect::<Option<_>>().unwrap_or_default();
        }
        likely
    }

    /// What a tin is on a plausible shelf.
    fn on(&self, shelf: usize, paint: PaintId) -> Option<Material> {
        let there = self.may_be.get(&paint).and_then(|may_be| may_be.get(shelf));
        there.cloned().or_else(|| Some((self.tin)(paint)?.material.clone()))
    }

    /// Mean coats over what is stirred of some tins, or over the ground itself, to the next whole.
    fn coats(&self, below: Option<&[(PaintId, u32)]>) -> Option<usize> {
        if self.paints.is_empty() {
            let below = below.map(|pot| stirred(pot, |paint| Some((self.tin)(paint)?.material.clone())));
            return coats_or_more(self.ground, below.flatten().as_ref(), self.best);
        }
        let mut sum = 0;
        for (shelf, paint) in self.paints.iter().enumerate() {
            let below = below.map(|pot| stirred(pot, |paint| self.on(shelf, paint)));
            sum += coats_or_more(self.ground, below.flatten().as_ref(), paint)?;
        }
        Some((2 * sum + self.paints.len()) / (2 * self.paints.len()))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::GroundKind;
    use proptest::prelude::*;
    use uuid::Uuid;
    use warm_blend_learn::Ensemble;
    use warm_blend_paint::{CoatsToHide, Masstone};
    use warm_blend_spectral::Srgb;

    fn tin(class: Class, [red, green, blue]: [u8; 3], coats: f64) -> Material {
        let code = Masstone::Hex(Srgb { red, green, blue });
        Material::of(class, Some(code), Some(CoatsToHide::new(coats).unwrap())).unwrap()
    }

    fn shelf(materials: &[(Class, Material)]) -> Vec<OnShelf> {
        let on = |(n, (class, material)): (usize, &(Class, Material))| OnShelf {
            paint: PaintId(Uuid::from_u128(n as u128)),
            class: *class,
            lab: material.seen_lab(Light::Daylight),
            left: 500.0,
        };
        materials.iter().enumerate().map(on).collect()
    }

    fn found(ground: GroundKind, paint: &Material, materials: &[(Class, Material)]) -> Option<Undercoat> {
        let of = |paint: PaintId| {
            let (class, material) = materials.get(paint.0.as_u128() as usize)?;
            Some(KnownTin::new(*class, material))
        };
        undercoat(&Ground::of(ground), Covering { best: paint, pot: &[] }, &shelf(materials), of)
    }

    /// Common practice: a grey primer under a mid tone saves a coat of the paint against the bare dark red.
    #[test]
    fn a_tinted_primer_saves_a_coat_of_a_pale_paint_over_dark_red() {
        let pale = tin(Class::Chalk, [226, 213, 181], 2.5);
        let materials =
            [(Class::Chalk, pale.clone()), (Class::Primer, tin(Class::Primer, [225, 224, 220], 1.5))];
        let undercoat = found(GroundKind::RedStain, &pale, &materials).unwrap();
        assert!(undercoat.saves() >= 1, "{undercoat:?}");
        assert_eq!(
            found(GroundKind::RedStain, &pale, &materials[..1]),
            None,
            "without a primer there is none"
        );
    }

    /// Where the paint may hide less than it most probably does, the coats are those to be expected of it; where nothing is in doubt, those
    /// of the most probable one.
    #[test]
    fn coats_are_those_to_be_expected() {
        let ground = Ground::of(GroundKind::RedStain);
        let weak = |coats: f64| tin(Class::Chalk, [226, 213, 181], coats);
        let (best, other) = (weak(1.5), weak(4.0));
        let primer = tin(Class::Primer, [225, 224, 220], 1.5);
        // Half of the plausible shelves have the weaker paint.
        let doubted =
            Ensemble::new(best.clone(), (0..128).map(|m| if m < 64 { best.clone() } else { other.clone() }));
        let materials = [(Class::Chalk, best.clone()), (Class::Primer, primer)];
        let pot = [MixPart { paint: PaintId(Uuid::from_u128(0)), parts: WholeParts::new(1).unwrap() }];
        let covering = Covering { best: &best, pot: &pot };
        let found = |known: Option<&Ensemble>| {
            let of = |paint: PaintId| {
                let (class, material) = materials.get(paint.0.as_u128() as usize)?;
                let known = known.filter(|_| paint == pot[0].paint);
                Some(KnownTin { known, ..KnownTin::new(*class, material) })
            };
            undercoat(&ground, covering, &shelf(&materials), of).unwrap()
        };
        let over = |paint: &Material| coats_over(&ground, None, paint).unwrap().unwrap_or(MOST + 1);
        let (least, most) = (over(&best), over(&other));
        assert!(most >= least + 2, "{least}, {most}");
        assert_eq!(found(None).without, least);
        let doubtful = found(Some(&doubted)).without;
        assert!(doubtful > least && doubtful < most, "{least} < {doubtful} < {most}");
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]
        /// It is the best of what was tried: never worse than the primer as it comes.
        #[test]
        fn tinting_is_never_worse_than_the_plain_primer(code in any::<[u8; 3]>(), other in any::<[u8; 3]>(), grey in 40u8..240, coats in 0.5..4.0f64, at in 0usize..7) {
            let ground = GroundKind::ALL[at];
            let paint = tin(Class::Chalk, code, coats);
            let primer = tin(Class::Primer, [grey; 3], 1.5);
            let plain = coats_over(&Ground::of(ground), Some(&primer), &paint).unwrap().unwrap_or(MOST + 1);
            let materials = [(Class::Primer, primer), (Class::Chalk, paint.clone()), (Class::Chalk, tin(Class::Chalk, other, 2.0))];
            let undercoat = found(ground, &paint, &materials).unwrap();
            prop_assert!(undercoat.coats <= plain);
            prop_assert!((1..=2).contains(&undercoat.pot.len()));
        }
    }
}
