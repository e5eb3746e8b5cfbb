//! Advice beside a recipe: what the shelf lacks for a target, and what should not be mixed.

use warm_blend_paint::{Class, HueFamily};
use warm_blend_spectral::Lab;

/// From how far off a target counts as out of reach, ΔE00†: a little, in words.
const OUT_OF_REACH: f64 = 3.0;

/// What the shelf lacks if even its best mix is far from the target: `nothing here is this yellow`.
pub fn missing(best: Lab, target: Lab, difference: f64) -> Option<String> {
    if difference < OUT_OF_REACH {
        return None;
    }
    let (dl, dc) = (target.l - best.l, target.chroma() - best.chroma());
    let turned = (target.hue() - best.hue() + 540.0).rem_euclid(360.0) - 180.0;
    let along_hue = turned.to_radians().abs() * (target.chroma() * best.chroma()).max(0.0).sqrt();
    let colour = match HueFamily::of(target) {
        HueFamily::White | HueFamily::Grey | HueFamily::Black | HueFamily::Brown => None,
        family => Some(family.id()),
    };
    Some(match colour {
        _ if dl.abs() > dc.abs().max(along_hue) && dl > 0.0 => {
            "nothing on the shelf mixes this light".to_owned()
        }
        _ if dl.abs() > dc.abs().max(along_hue) => "nothing on the shelf mixes this dark".to_owned(),
        Some(colour) if dc > 0.0 || along_hue > dc.abs() => {
            format!("nothing on the shelf mixes this {colour}")
        }
        None if dc > 0.0 => "nothing on the shelf mixes this strong".to_owned(),
        _ => "nothing on the shelf mixes this grey".to_owned(),
    })
}

/// Why two classes should not be mixed (common practice); `None` if they may be.
pub fn clash(one: Class, other: Class) -> Option<&'static str> {
    use Class::{
        AcrylicCraft, Alkyd, Chalk, Clay, ClearWax, GelStain, LatexSatin, Metallic, Milk, Mineral, Oil,
        Pearl, Shellac, TintedWax,
    };
    let pair = |a: &[Class], b: &[Class]| {
        a.contains(&one) && b.contains(&other) || a.contains(&other) && b.contains(&one)
    };
    let water_borne = &[Chalk, Mineral, Clay, Milk, LatexSatin, AcrylicCraft, Metallic, Class::Primer];
    if pair(&[Shellac], water_borne) {
        Some("shellac is made with alcohol: it curdles water-based paint")
    } else if pair(&[GelStain], water_borne) {
        Some("gel stain is oil-based: it will not stir into water-based paint")
    } else if pair(&[Oil, Alkyd], water_borne) {
        Some("oil and water don’t mix: the paint splits in the pot")
    } else if pair(
        &[Oil, Alkyd],
        &[Class::Water, Class::GlazingLiquid, Class::Scumble, Class::ClearCoat, Class::Extender],
    ) {
        Some("oil-based paint is thinned with mineral spirits, not with water or a water-based medium")
    } else if pair(&[Shellac], &[GelStain, Oil, Alkyd]) {
        Some("shellac is made with alcohol: it doesn’t mix with oil")
    } else if pair(&[TintedWax], &[Class::Water]) {
        Some("water and wax don’t mix")
    } else if pair(&[Milk], &[LatexSatin, AcrylicCraft]) {
        Some("milk paint thickens and turns lumpy in acrylic and latex")
    } else if pair(&[Clay], &[LatexSatin, AcrylicCraft]) {
        Some("clay-type paint re-wets, acrylic and latex don’t: it may lift in patches under the next coat")
    } else if pair(&[ClearWax, TintedWax], &[Metallic, Pearl]) {
        Some("metal flakes settle in wax: keep stirring, and try it on a board first")
    } else if pair(&[Chalk, Clay], &[LatexSatin]) {
        Some("sheen ends up between the two, and it takes wax less well")
    } else {
        None
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_clash_is_mutual(a in 0..Class::ALL.len(), b in 0..Class::ALL.len()) {
            let (a, b) = (Class::ALL[a], Class::ALL[b]);
            prop_assert_eq!(clash(a, b), clash(b, a));
            prop_assert!(clash(a, a).is_none());
        }
    }

    proptest! {
        /// Nothing that water thins stirs into what oil or alcohol thins, wax as a medium for colour aside.
        #[test]
        fn bases_do_not_stir(a in 0..Class::ALL.len(), b in 0..Class::ALL.len()) {
            let (a, b) = (Class::ALL[a], Class::ALL[b]);
            let colours = a.makes_colours() && b.makes_colours();
            prop_assert!(!colours || a.base() == b.base() || clash(a, b).is_some(), "{:?} {:?}", a, b);
        }
    }

    #[test]
    fn says_what_is_missing() {
        let lab = |l, a, b| Lab { l, a, b };
        let answer = |best, target| missing(best, target, 9.0).unwrap();
        assert_eq!(
            answer(lab(80.0, 2.0, 40.0), lab(82.0, 2.0, 70.0)),
            "nothing on the shelf mixes this yellow"
        );
        assert_eq!(answer(lab(85.0, 0.0, 5.0), lab(97.0, 0.0, 4.0)), "nothing on the shelf mixes this light");
        assert_eq!(answer(lab(30.0, 0.0, 0.0), lab(15.0, 0.0, 0.0)), "nothing on the shelf mixes this dark");
        assert_eq!(
            answer(lab(50.0, 30.0, 30.0), lab(50.0, 2.0, 2.0)),
            "nothing on the shelf mixes this grey"
        );
        assert_eq!(missing(lab(50.0, 0.0, 0.0), lab(51.0, 0.0, 0.0), 1.0), None);
    }
}
