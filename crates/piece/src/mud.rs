//! Mud: the unwanted effect of a wash on the colours of a piece.
//!
//! A pale, grey or cream wash mutes everything equally; a black one makes it sooty. A wash of a strong colour turns every
//! other hue towards its own and costs chroma: the loudest colour of a piece over all of it brings the parts together, as
//! mud does (common practice).

use std::collections::BTreeSet;

use warm_blend_paint::HueFamily;
use warm_blend_spectral::Lab;

use crate::{Pair, Stands};

/// Chroma of a wash up to which it only mutes, and from which on all that it does to other hues counts, C*ab†.
const MUTES: f64 = 10.0;
const TAKES_OVER: f64 = 30.0;
/// Lightness of a wash up to which it soots whatever it lies on, and from which on it only tones it, L*†.
const BLACK: f64 = 25.0;
const GRIME: f64 = 45.0;
/// How much a family of hue weighs that was not on the piece before, ΔE00†.
const NEW_FAMILY: f64 = 3.0;
/// Share of a contrast that is meant which a wash over all may take†.
const MAY_TAKE: f64 = 1.0 / 3.0;

/// A zone before and after a wash.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Washed {
    /// Area, m².
    pub area: f64,
    /// Colour before.
    pub before: Lab,
    /// Colour with the wash.
    pub after: Lab,
}

/// How much a wash of a colour muddies a palette, comparable to ΔE00; 0 if nothing is lost.
///
/// Adds up, by area, lost chroma and turned hue in proportion to the chroma of the wash; lost lightness in proportion to
/// its blackness; new families of hue; and loss of intended contrast beyond a third.
pub fn mud(zones: &[Washed], wash: Lab, pairs: &[(Pair, Pair)]) -> f64 {
    let whole: f64 = zones.iter().map(|zone| zone.area).sum();
    let coloured = ((wash.chroma() - MUTES) / (TAKES_OVER - MUTES)).clamp(0.0, 1.0);
    let black = ((GRIME - wash.l) / (GRIME - BLACK)).clamp(0.0, 1.0);
    let by_area = |of: &dyn Fn(&Washed) -> f64| {
        zones.iter().map(|zone| zone.area * of(zone)).sum::<f64>() / whole.max(f64::MIN_POSITIVE)
    };
    let taken = by_area(&|zone| lost(zone) + turned(zone));
    let darkened = by_area(&|zone| (zone.before.l - zone.after.l).max(0.0));
    let families = |of: &dyn Fn(&Washed) -> Lab| -> BTreeSet<&'static str> {
        zones.iter().map(|zone| HueFamily::of(of(zone)).id()).collect()
    };
    let (before, after) = (families(&|zone| zone.before), families(&|zone| zone.after));
    let hues = |id: &&&str| !["white", "grey", "black"].contains(*id);
    let new = after.difference(&before).filter(hues).count();
    let meant = pairs.iter().filter(|(now, _)| now.stands() == Stands::In);
    let flattened = meant.map(|(now, then)| ((1.0 - MAY_TAKE) * now.contrast - then.contrast).max(0.0));
    coloured * (taken + NEW_FAMILY * new as f64) + black * darkened + flattened.sum::<f64>()
}

/// Chroma that is lost, C*ab.
fn lost(zone: &Washed) -> f64 {
    (zone.before.chroma() - zone.after.chroma()).max(0.0)
}

/// How far the hue is turned, as the metric difference ΔH*ab (CIE 015:2018).
fn turned(zone: &Washed) -> f64 {
    let Washed { before, after, .. } = zone;
    let (da, db, dc) = (after.a - before.a, after.b - before.b, after.chroma() - before.chroma());
    (da * da + db * db - dc * dc).max(0.0).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn lab(l: f64, chroma: f64, hue: f64) -> Lab {
        let (sin, cos) = hue.to_radians().sin_cos();
        Lab { l, a: chroma * cos, b: chroma * sin }
    }

    /// An orange case and a blue one: a cream wash mutes both, a blue one turns the orange brown.
    #[test]
    fn a_wash_of_the_loudest_colour_is_mud() {
        let zone = |before, after| Washed { area: 1.0, before, after };
        let (orange, blue) = (lab(65.0, 60.0, 60.0), lab(40.0, 45.0, 265.0));
        let creamed = [zone(orange, lab(76.0, 32.0, 66.0)), zone(blue, lab(60.0, 20.0, 262.0))];
        let blued = [zone(orange, lab(48.0, 14.0, 40.0)), zone(blue, lab(41.0, 44.0, 265.0))];
        let (pale, loud) = (mud(&creamed, lab(90.0, 9.0, 90.0), &[]), mud(&blued, blue, &[]));
        assert_eq!(pale, 0.0);
        assert!(loud > 20.0, "{loud}");
    }

    proptest! {
        /// Nothing changed is no mud, a neutral wash that is not dark never muddies, and a more coloured or a darker one never muddies less.
        #[test]
        fn only_colour_muddies(l in 20.0..90.0f64, chroma in 0.0..70.0f64, hue in 0.0..360.0f64, then in 0.0..70.0f64, turn in -90.0..90.0f64, wash in 0.0..60.0f64, more in 0.0..20.0f64) {
            let zones = [Washed { area: 2.0, before: lab(l, chroma, hue), after: lab(l, then, hue + turn) }];
            let still = [Washed { after: zones[0].before, ..zones[0] }];
            prop_assert_eq!(mud(&still, lab(50.0, wash, 0.0), &[]), 0.0);
            prop_assert_eq!(mud(&zones, lab(50.0, MUTES, 0.0), &[]), 0.0);
            prop_assert!(mud(&zones, lab(50.0, wash + more, 0.0), &[]) >= mud(&zones, lab(50.0, wash, 0.0), &[]) - 1e-9);
            let dark = |lightness: f64| mud(&zones, lab(lightness, 2.0, 0.0), &[]);
            prop_assert!(dark(40.0 - more) >= dark(40.0) - 1e-9 && dark(50.0) == 0.0);
        }
    }
}
