//! How much of each pot is put on, and how many packs are to be bought.
//!
//! A millilitre is a cubic centimetre, so a film of a micrometre on a square metre is a millilitre (and 1604 ft²·mil a gallon). What is
//! put on before any of it is wiped off counts, with a tenth more that stays in brush and tray
//! ([`warm_blend_bench::per_square_metre`]); relief has more surface than its outline.

use warm_blend_bench::per_square_metre;
use warm_blend_paint::{Class, MixPart};

use crate::{Step, ZoneWork};

/// How much more surface relief has than its outline, where all of it is relief†.
const MORE_SURFACE: f64 = 0.6;

/// How much of one pot is put on.
#[derive(Debug, Clone, PartialEq)]
pub struct Needed {
    /// What is in it; empty where a technique says what by itself.
    pub pot: Vec<MixPart>,
    /// What that is, then.
    pub product: Option<Class>,
    /// ml of it, as mixed.
    pub ml: f64,
    /// ml that a coat of a square metre of a flat board takes, where it is put on thickest.
    pub by_square_metre: f64,
    /// How often it is put on.
    pub times: usize,
}

/// How much of each pot some steps need, in the order they are first needed.
pub fn amounts(steps: &[Step], zones: &[ZoneWork]) -> Vec<Needed> {
    let mut all: Vec<Needed> = Vec::new();
    for step in steps {
        let Some(laid) = step.work.laid().filter(|laid| !laid.technique.takes_away()) else { continue };
        let surface: f64 = zones
            .iter()
            .filter(|zone| step.zones.contains(&zone.zone))
            .map(|zone| zone.area * (1.0 + MORE_SURFACE * zone.relief))
            .sum();
        let each = per_square_metre(laid.technique.takes(laid.hand));
        let ml = surface * each;
        let product = if laid.pot.is_empty() { laid.technique.product() } else { None };
        match all.iter_mut().find(|needed| needed.pot == laid.pot && needed.product == product) {
            Some(needed) => {
                needed.ml += ml;
                needed.by_square_metre = needed.by_square_metre.max(each);
                needed.times += 1;
            }
            None => all.push(Needed { pot: laid.pot.clone(), product, ml, by_square_metre: each, times: 1 }),
        }
    }
    all
}

/// How many packs of each size to buy so that they hold at least so much for the least money; of equals the fewest packs. `sizes` are ml
/// and price. None where nothing is on sale. Up to a hundred packs.
pub fn packs(ml: f64, sizes: &[(f64, f64)]) -> Option<Vec<usize>> {
    const MOST: usize = 100;
    let usable: Vec<(usize, (f64, f64))> =
        sizes.iter().copied().enumerate().filter(|(_, (size, price))| *size > 0.0 && *price >= 0.0).collect();
    if usable.is_empty() {
        return None;
    }
    let mut none = vec![0; sizes.len()];
    if ml <= 0.0 {
        return Some(none);
    }
    // The largest first: how many of each, the rest by the next.
    fn search(
        ml: f64,
        at: usize,
        usable: &[(usize, (f64, f64))],
        taken: &mut Vec<usize>,
        best: &mut Option<(f64, usize, Vec<usize>)>,
    ) {
        let cost: f64 = usable.iter().map(|(n, (_, price))| taken[*n] as f64 * price).sum();
        let many: usize = taken.iter().sum();
        let better = |best: &Option<(f64, usize, Vec<usize>)>| {
            best.as_ref().is_none_or(|(least, fewest, _)| {
                cost < least - 1e-9 || (cost < least + 1e-9 && many < *fewest)
            })
        };
        if !better(best) {
            return;
        }
        if ml <= 1e-9 {
            *best = Some((cost, many, taken.clone()));
            return;
        }
        let Some((n, (size, _))) = usable.get(at).copied() else { return };
        let enough = ((ml / size).ceil() as usize).min(MOST);
        for count in (0..=enough).rev() {
            taken[n] = count;
            search(ml - count as f64 * size, at + 1, usable, taken, best);
        }
        taken[n] = 0;
    }
    let mut best = None;
    search(ml, 0, &usable, &mut none, &mut best);
    best.map(|(_, _, taken)| taken)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{layer, zone};
    use crate::{Air, steps, wanted};
    use proptest::prelude::*;
    use warm_blend_board::Technique;
    use warm_blend_piece::Zone;

    fn needed(area: f64, layers: Vec<crate::LayerWork>) -> Vec<Needed> {
        let zones = [zone(Zone::Case, area, layers)];
        let left = [wanted(&zones[0], false, false)];
        amounts(&steps(&zones, &left, |_| Some(Class::Chalk), Air::default()), &zones)
    }

    /// A chest of drawers takes about a pint of base in two coats (common practice): some two and a half square metres.
    #[test]
    fn a_chest_of_drawers_takes_a_pint_of_base() {
        let base = needed(2.5, vec![layer(Technique::BrushedCoat, 1, 2)]);
        assert!((base[0].ml / 473.0 - 1.0).abs() < 0.3, "{} ml", base[0].ml);
        assert_eq!(base[0].times, 2);
    }

    /// At 100 % solids a gallon covers 1604 square feet at a mil: of a film of 90 µm on a square metre there are 90 ml, and a tenth.
    #[test]
    fn by_the_rule_of_1604() {
        let ml = needed(1.0, vec![layer(Technique::BrushedCoat, 1, 1)])[0].ml;
        let mils = 90.0 / 25.4;
        let gallons = mils / (1604.0 * 0.092_903_04);
        assert!((ml / (gallons * 3785.41 * 1.1) - 1.0).abs() < 2e-3, "{ml}");
    }

    #[test]
    fn dry_brush_takes_next_to_nothing_and_clear_wax_names_its_product() {
        let all = needed(
            2.5,
            vec![
                layer(Technique::BrushedCoat, 1, 2),
                layer(Technique::DryBrush, 2, 1),
                layer(Technique::ClearWax, 0, 1),
            ],
        );
        assert!(all[1].ml < 0.05 * all[0].ml);
        assert_eq!(all[2].product, Some(Class::ClearWax));
    }

    proptest! {
        /// Against every way there is of up to eight packs of each.
        #[test]
        fn packs_are_the_cheapest_there_are(ml in 1.0..2500.0f64, sizes in proptest::collection::vec((100.0..1000.0f64, 1.0..40.0f64), 1..4)) {
            let taken = packs(ml, &sizes).unwrap();
            let of = |taken: &[usize]| -> (f64, f64) {
                taken.iter().zip(&sizes).fold((0.0, 0.0), |(ml, cost), (n, (size, price))| (ml + *n as f64 * size, cost + *n as f64 * price))
            };
            let (held, cost) = of(&taken);
            prop_assert!(held >= ml - 1e-6);
            let mut every = vec![vec![]];
            for _ in &sizes {
                every = every.into_iter().flat_map(|way: Vec<usize>| (0..=26).map(move |n| [way.clone(), vec![n]].concat())).collect();
            }
            let least = every.iter().map(|way| of(way)).filter(|(held, _)| *held >= ml).map(|(_, cost)| cost).fold(f64::INFINITY, f64::min);
            prop_assert!(cost <= least + 1e-6, "{} for {}", cost, least);
        }
    }
}
