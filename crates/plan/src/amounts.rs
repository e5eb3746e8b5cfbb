//! Amounts of each pot, and packs to buy.
//!
//! Amounts follow what is applied before any of it is broken up or wiped off, at each kind of place in the zone's own
//! relief, including what stays in brush and tray ([`warm_blend_board::Technique::ml_by_square_metre`]). Relief increases
//! the surface.

use warm_blend_board::FLAT;
use warm_blend_paint::{Class, MixPart};

use crate::{Step, ZoneWork};

/// How much more surface relief has than its outline, where all of it is relief†.
const MORE_SURFACE: f64 = 0.6;

/// Amount of one pot.
#[derive(Debug, Clone, PartialEq)]
pub struct Needed {
    /// Contents; empty if the technique names its product.
    pub pot: Vec<MixPart>,
    /// That product.
    pub product: Option<Class>,
    /// Volume as mixed, ml.
    pub ml: f64,
    /// Volume of the thickest coat on a square metre of flat board, ml.
    pub by_square_metre: f64,
    /// Number of applications.
    pub times: usize,
}

/// Amounts of each pot for some steps, in the order in which they are first needed.
pub fn amounts(steps: &[Step], zones: &[ZoneWork]) -> Vec<Needed> {
    let mut all: Vec<Needed> = Vec::new();
    for (step, laid) in steps.iter().flat_map(|step| step.work.layers().iter().map(move |laid| (step, laid)))
    {
        if laid.technique.takes_away() {
            continue;
        }
        let on_zone = |zone: &ZoneWork| {
            let surface = zone.area * (1.0 + MORE_SURFACE * zone.relief());
            surface * laid.technique.ml_by_square_metre(laid.hand, &zone.places)
        };
        let ml: f64 = zones.iter().filter(|zone| step.zones.contains(&zone.zone)).map(on_zone).sum();
        let each = laid.technique.ml_by_square_metre(laid.hand, &FLAT);
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

/// An invalid pack.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadPacks {
    /// A pack size that is zero or infinite.
    #[error("a pack of {0} ml is out of range; enter what a tin holds")]
    Size(f64),
    /// A negative price.
    #[error("a price of {0} is out of range; enter 0 or more")]
    Price(f64),
    /// More packs than can be counted.
    #[error("{0:.0} packs would be needed; check what a pack holds, or the area")]
    TooMany(f64),
}

/// Most packs of a size that are bought at once.
const MOST: usize = 100;

/// Number of packs of each size that hold at least `ml` for the least money; of equals, the fewest packs. `sizes` are ml
/// and price. `None` if nothing is on sale.
pub fn packs(ml: f64, sizes: &[(f64, f64)]) -> Result<Option<Vec<usize>>, BadPacks> {
    for (size, price) in sizes {
        if !(*size > 0.0 && size.is_finite()) {
            return Err(BadPacks::Size(*size));
        }
        if !(*price >= 0.0 && price.is_finite()) {
            return Err(BadPacks::Price(*price));
        }
    }
    let largest = sizes.iter().map(|(size, _)| *size).fold(0.0, f64::max);
    if largest <= 0.0 {
        return Ok(None);
    }
    let mut none = vec![0; sizes.len()];
    if ml <= 0.0 {
        return Ok(Some(none));
    }
    let fewest = (ml / largest).ceil();
    if fewest.is_nan() || fewest > MOST as f64 {
        return Err(BadPacks::TooMany(fewest));
    }
    let usable: Vec<(usize, (f64, f64))> = sizes.iter().copied().enumerate().collect();
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
    Ok(best.map(|(_, _, taken)| taken))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{chalk, layer, zone};
    use crate::{Air, LayerWork, steps, wanted};
    use proptest::prelude::*;
    use warm_blend_board::{ByPlace, Technique};
    use warm_blend_piece::Zone;

    fn needed_on(zone: ZoneWork) -> Vec<Needed> {
        let left = [wanted(&zone, false, &chalk)];
        let zones = [zone];
        amounts(&steps(&zones, &left, &chalk, Air::default()), &zones)
    }

    fn needed(area: f64, layers: Vec<LayerWork>) -> Vec<Needed> {
        needed_on(zone(Zone::Case, area, layers))
    }

    /// A chest of drawers takes about a pint of base in two coats (common practice): some two and a half square metres.
    #[test]
    fn a_chest_of_drawers_takes_a_pint_of_base() {
        let base = needed(2.5, vec![layer(Technique::BrushedCoat, 1, 2)]);
        assert!((base[0].ml / 473.0 - 1.0).abs() < 0.3, "{} ml", base[0].ml);
        assert_eq!(base[0].times, 2);
    }

    /// At 100 % solids a gallon covers 1604 square feet at a mil: of a film of 90 µm on a square metre of nothing but field there are
    /// 90 ml, and a tenth.
    #[test]
    fn by_the_rule_of_1604() {
        let places = ByPlace { field: 1.0, recess: 0.0, edge: 0.0 };
        let flat = ZoneWork { places, ..zone(Zone::Case, 1.0, vec![layer(Technique::BrushedCoat, 1, 1)]) };
        let ml = needed_on(flat)[0].ml;
        let mils = 90.0 / 25.4;
        let gallons = mils / (1604.0 * 0.092_903_04);
        assert!((ml / (gallons * 3785.41 * 1.1) - 1.0).abs() < 2e-3, "{ml}");
    }

    /// A ragged glaze takes what its roller applies, 60 to 70 ml/m², and clear wax 40 to 50; gilding wax goes by the high points of a
    /// carved zone: a small pot, not a drop (common practice).
    #[test]
    fn what_is_applied_is_bought() {
        let one = |technique| needed(1.0, vec![layer(technique, 1, 1)])[0].ml;
        assert!((60.0..=70.0).contains(&one(Technique::GlazeRagged)));
        assert!((40.0..=50.0).contains(&one(Technique::ClearWax)));
        let carved = ByPlace { field: 0.4, recess: 0.3, edge: 0.3 };
        let gilded = zone(Zone::Mouldings, 3.0, vec![layer(Technique::Gilding, 1, 1)]);
        let ml = needed_on(ZoneWork { places: carved, ..gilded })[0].ml;
        assert!((15.0..60.0).contains(&ml), "{ml} ml");
    }

    /// The wax of a resist is on the list although no layer of the board is a wax.
    #[test]
    fn the_wax_of_a_resist_is_bought() {
        let layers = vec![layer(Technique::BrushedCoat, 1, 2), layer(Technique::WetWaxResist, 2, 1)];
        let all = needed(2.0, layers);
        let wax = all.iter().find(|needed| needed.product == Some(Class::ClearWax)).expect("wax");
        assert!((80.0..=100.0).contains(&wax.ml), "{} ml", wax.ml);
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

    /// What cannot be bought names what is wrong with it.
    #[test]
    fn packs_that_cannot_be() {
        assert_eq!(packs(100.0, &[]), Ok(None));
        assert_eq!(packs(100.0, &[(500.0, -1.0)]), Err(BadPacks::Price(-1.0)));
        assert_eq!(packs(100.0, &[(0.0, 5.0)]), Err(BadPacks::Size(0.0)));
        assert!(matches!(packs(100.0, &[(500.0, f64::NAN)]), Err(BadPacks::Price(_))));
        assert_eq!(packs(50_050.0, &[(500.0, 9.0)]), Err(BadPacks::TooMany(101.0)));
        assert_eq!(packs(50_000.0, &[(500.0, 9.0)]), Ok(Some(vec![100])));
        assert!(packs(f64::NAN, &[(500.0, 9.0)]).is_err());
    }

    proptest! {
        /// Against every way there is of up to 26 packs of each.
        #[test]
        fn packs_are_the_cheapest_there_are(ml in 1.0..2500.0f64, sizes in proptest::collection::vec((100.0..1000.0f64, 1.0..40.0f64), 1..4)) {
            let taken = packs(ml, &sizes).unwrap().unwrap();
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
