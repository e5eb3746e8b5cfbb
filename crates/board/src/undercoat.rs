//! The undercoat that saves a coat: primer tinted near the colour to come, so that fewer coats of the paint itself cover.

use warm_blend_paint::{
    BadPaint, Class, Material, Microns, MixPart, PaintId, Parts, State, WholeParts, hiding::COAT, mix,
};
use warm_blend_spectral::{Light, difference};

use super::{Below, ByPlace, Ground, KnownTin, OnShelf, Place, Print, Share, Stack, stack::lab};

/// A coat covers where what is seen is this near to the paint's own colour, ΔE00†.
const COVERS: f64 = 1.0;

/// Coats beyond which nobody goes on.
const MOST: usize = 6;

/// Parts of primer to one part of tint that are tried, the least tint first: a primer holds only so much colour before it
/// stops blocking (common practice).
const TINTED: [u32; 3] = [8, 4, 2];

/// A tinted primer, and what it does.
#[derive(Debug, Clone, PartialEq)]
pub struct Undercoat {
    /// What is stirred together.
    pub pot: Vec<MixPart>,
    /// Coats of the paint over it until the ground no longer shows.
    pub coats: usize,
    /// Coats without it.
    pub without: usize,
}

impl Undercoat {
    /// Coats of the paint that it saves; one of primer goes on instead.
    pub const fn saves(&self) -> usize {
        self.without.saturating_sub(self.coats)
    }
}

/// How many brushed coats it takes over a ground until the paint's own colour is seen; none where six do not do it.
pub fn coats_over(
    ground: &Ground,
    below: Option<&Material>,
    paint: &Material,
) -> Result<Option<usize>, BadPaint> {
    let own = lab(&paint.masstone(), Light::Daylight);
    let coat = Print { film: ByPlace::all(Microns::of(COAT)), cover: ByPlace::all(Share::WHOLE) };
    let mut stack = Stack::over(ground)?;
    if let Some(below) = below {
        stack.lay(below.clone(), coat, Below::LIES, None);
    }
    Ok((1..=MOST).find(|_| {
        stack.lay(paint.clone(), coat, Below::LIES, None);
        let seen = stack.seen(Place::Field, stack.len(), State::Dry).from_afar();
        difference(lab(&seen, Light::Daylight), own).value() <= COVERS
    }))
}

/// The primer of the shelf, plain or tinted with one of its paints, over which a paint needs the fewest coats on a ground; the
/// least tint where several are as good. None without a primer.
pub fn undercoat<'a>(
    ground: &Ground,
    paint: &Material,
    shelf: &[OnShelf],
    tin: impl Fn(PaintId) -> Option<KnownTin<'a>>,
) -> Option<Undercoat> {
    let without = coats_over(ground, None, paint).ok()?.unwrap_or(MOST + 1);
    let primers = shelf.iter().filter(|tin| tin.class == Class::Primer);
    let primer = primers.max_by(|one, other| one.left.total_cmp(&other.left))?.paint;
    let tints = shelf
        .iter()
        .filter(|tin| !tin.class.is_medium() && !matches!(tin.class, Class::Primer | Class::Metallic));
    let tinted = tints.flat_map(|tint| TINTED.map(|parts| vec![(primer, parts), (tint.paint, 1)]));
    let tried = std::iter::once(vec![(primer, 1)]).chain(tinted).filter_map(|pot| {
        let stirred: Vec<(Parts, &Material)> = pot
            .iter()
            .map(|(paint, parts)| Some((Parts::new(f64::from(*parts)).ok()?, tin(*paint)?.material)))
            .collect::<Option<_>>()?;
        let below = mix(&stirred).ok()?;
        let coats = coats_over(ground, Some(&below), paint).ok()?.unwrap_or(MOST + 1);
        // Of as many coats the primer that is nearer to the colour to come, but for what nobody sees.
        let off =
            difference(lab(&below.masstone(), Light::Daylight), lab(&paint.masstone(), Light::Daylight))
                .value();
        Some((coats, pot.len(), off, pot))
    });
    let (coats, _, _, pot) =
        tried.min_by(|one, other| (one.0, one.1).cmp(&(other.0, other.1)).then(one.2.total_cmp(&other.2)))?;
    let part = |(paint, parts)| Some(MixPart { paint, parts: WholeParts::new(parts).ok()? });
    Some(Undercoat { pot: pot.into_iter().map(part).collect::<Option<_>>()?, coats, without })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::GroundKind;
    use proptest::prelude::*;
    use uuid::Uuid;
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
        undercoat(&Ground::of(ground), paint, &shelf(materials), of)
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
