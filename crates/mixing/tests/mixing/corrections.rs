//! What must be true of additions to a pot.

use proptest::prelude::*;
use std::ops::ControlFlow;

use warm_blend_mixing::{DoubtfulTin, InDoubt, MatchTin, Pot, PotCorrection};
use warm_blend_paint::{Class, Masstone, Material, Parts, mix};
use warm_blend_spectral::{Lab, Light, difference};
use warm_blend_testing::tins::{any_tin, tin};

const LIGHT: Light = Light::Daylight;

/// Tins that are certain.
fn tins(shelf: &[Material]) -> Vec<DoubtfulTin<'_>> {
    let tin = |material| MatchTin { material, price: None, wanted: false };
    shelf.iter().map(|material| DoubtfulTin::certain(tin(material))).collect()
}

fn pot(material: &Material, ml: f64, room: f64) -> Pot<'_> {
    Pot { inside: InDoubt::certain(material), ml, room, least: 1.0 }
}

fn correct(pot: Pot, tins: &[DoubtfulTin], target: Lab, light: Light, one: bool) -> Vec<PotCorrection> {
    warm_blend_mixing::correct(pot, tins, target, light, one, || ControlFlow::Continue(()))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// Every proposal brings the pot nearer, is what its amounts come to, and keeps account of what is in the pot.
    #[test]
    fn a_correction_helps_and_conserves(
        base in any_tin(),
        shelf in proptest::collection::vec(any_tin(), 1..6),
        (l, a, b) in (15.0..90.0f64, -25.0..25.0f64, -25.0..25.0f64),
        ml in 20.0..800.0f64,
        spare in 0.0..500.0f64,
        one in any::<bool>(),
    ) {
        let target = Lab { l, a, b };
        let now = difference(base.seen_lab(LIGHT), target).value();
        for found in correct(pot(&base, ml, ml + spare), &tins(&shelf), target, LIGHT, one) {
            prop_assert!(found.difference < now, "{} of {}", found.difference, now);
            prop_assert!(found.additions.len() <= 2 - usize::from(one));
            prop_assert!(found.discard >= 0.0 && found.discard < ml);
            let added: f64 = found.additions.iter().map(|(_, ml)| ml).sum();
            prop_assert!((ml - found.discard + added - found.total).abs() < 1e-9);
            prop_assert!(found.total <= ml + spare + 1e-9);
            prop_assert!(found.additions.iter().all(|(_, ml)| *ml >= 1.0 && (ml - ml.round()).abs() < 1e-9));
            let mut of = vec![(Parts::new(ml - found.discard).unwrap(), &base)];
            of.extend(found.additions.iter().map(|(at, ml)| (Parts::new(*ml).unwrap(), &shelf[*at])));
            let lab = mix(&of).unwrap().seen_lab(LIGHT);
            prop_assert!((difference(lab, target).value() - found.difference).abs() < 1e-9);
        }
    }

    /// What was forgotten is what is asked for.
    #[test]
    fn what_is_missing_is_found(base in any_tin(), shelf in proptest::collection::vec(any_tin(), 2..5), forgotten in 5.0..80.0f64) {
        let of = [(Parts::new(100.0).unwrap(), &base), (Parts::new(forgotten).unwrap(), &shelf[0])];
        let target = mix(&of).unwrap().seen_lab(LIGHT);
        let now = difference(base.seen_lab(LIGHT), target).value();
        prop_assume!(now > 4.0);
        let found = correct(pot(&base, 100.0, 1000.0), &tins(&shelf), target, LIGHT, false);
        prop_assert!(found[0].difference < 0.35 * now, "{:?} of {}", found[0], now);
        prop_assert_eq!(found[0].discard, 0.0);
    }
}

fn chalk(code: &str) -> Material {
    tin(Class::Chalk, Some(Masstone::Hex(code.parse().unwrap())), Some(2.0))
}

/// A full pot that came out too dark: something is taken out before the white goes in.
#[test]
fn a_full_pot_makes_room_first() {
    let (navy, white) = (chalk("#26324a"), chalk("#f0ede6"));
    let target = mix(&[(Parts::new(1.0).unwrap(), &navy), (Parts::new(2.0).unwrap(), &white)])
        .unwrap()
        .seen_lab(LIGHT);
    let shelf = [white];
    let found = correct(pot(&navy, 400.0, 400.0), &tins(&shelf), target, LIGHT, false);
    assert!(found[0].discard > 100.0 && found[0].total <= 400.0 && found[0].difference < 1.0, "{found:?}");
}

#[test]
fn a_pot_at_its_target_is_left_alone() {
    let (grey, white) = (chalk("#8a8d90"), chalk("#f0ede6"));
    assert!(
        correct(pot(&grey, 100.0, 200.0), &tins(&[white]), grey.seen_lab(LIGHT), LIGHT, false).is_empty()
    );
    assert!(correct(pot(&grey, 100.0, 200.0), &[], Lab { l: 10.0, a: 0.0, b: 0.0 }, LIGHT, false).is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// What is likely is never less than what the most probable tins come to, is the same where nothing is in doubt, and the list is
    /// ranked by it.
    #[test]
    fn corrections_are_ranked_by_what_is_likely(
        base in any_tin(),
        shelf in proptest::collection::vec((any_tin(), 0.0..0.8f64), 2..6),
        (l, a, b) in (15.0..90.0f64, -25.0..25.0f64, -25.0..25.0f64),
        sure: bool,
    ) {
        let target = Lab { l, a, b };
        let materials: Vec<Material> = shelf.iter().map(|(material, _)| material.clone()).collect();
        let mut tins = tins(&materials);
        if !sure {
            for (tin, (material, doubt)) in tins.iter_mut().zip(&shelf) {
                tin.plausible = [-1.0, 1.0].map(|sign| material.stronger(sign * doubt)).into();
            }
        }
        let found = correct(pot(&base, 100.0, 400.0), &tins, target, LIGHT, false);
        for way in &found {
            prop_assert!(way.expected >= way.difference - 1e-9, "{:?}", way);
            prop_assert!(!sure || way.expected == way.difference);
            let by = |shelf: usize| {
                let left = (Parts::new(100.0 - way.discard).unwrap(), &base);
                let added = way.additions.iter().map(|(at, ml)| (Parts::new(*ml).unwrap(), &tins[*at].plausible[shelf]));
                let of: Vec<_> = std::iter::once(left).chain(added).collect();
                difference(mix(&of).unwrap().seen_lab(LIGHT), target).value()
            };
            let mean = if sure { way.difference } else { 0.5 * (by(0) + by(1)) };
            prop_assert!((way.expected - mean.max(way.difference)).abs() < 1e-9);
        }
        // In steps of half a unit, further off of a seventh.
        let before = |pair: &[PotCorrection]| pair[0].expected <= (pair[1].expected + 0.5).max(pair[1].expected * 8.0 / 7.0);
        prop_assert!(found.windows(2).all(before));
    }

    /// A search that nobody waits for any more finds nothing.
    #[test]
    fn a_search_can_be_broken_off(base in any_tin(), shelf in proptest::collection::vec(any_tin(), 1..6)) {
        let target = Lab { l: 50.0, a: 0.0, b: 0.0 };
        let found = warm_blend_mixing::correct(pot(&base, 100.0, 400.0), &tins(&shelf), target, LIGHT, false, || ControlFlow::Break(()));
        prop_assert!(found.is_empty());
    }
}
