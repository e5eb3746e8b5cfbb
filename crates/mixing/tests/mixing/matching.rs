//! What must be true of a search for a colour.

use std::ops::ControlFlow;

use proptest::prelude::*;
use warm_blend_mixing::{DoubtfulTin, EVERY, InDoubt, Limits, MatchTin, Recipe, find};
use warm_blend_paint::{FilmState, Look, Material, Parts, mix};
use warm_blend_spectral::{Lab, Light, difference};
use warm_blend_testing::tins::any_tin;

const LIGHT: Light = Light::Daylight;

fn lab(of: &[(usize, u32)], shelf: &[Material], look: Look) -> Lab {
    let stirred: Vec<(Parts, &Material)> =
        of.iter().map(|(at, parts)| (Parts::new(f64::from(*parts)).unwrap(), &shelf[*at])).collect();
    look.lab(&mix(&stirred).unwrap())
}

/// Every mix there is, one by one.
fn brute(shelf: &[Material], target: Lab, look: Look, limits: Limits) -> Vec<Recipe> {
    fn divisor(a: u32, b: u32) -> u32 {
        if b == 0 { a } else { divisor(b, a % b) }
    }
    let mut pots: Vec<Vec<(usize, u32)>> = vec![Vec::new()];
    for at in 0..shelf.len() {
        let mut with = Vec::new();
        for pot in &pots {
            let left = limits.parts - pot.iter().map(|(_, parts)| parts).sum::<u32>();
            with.extend((1..=left).filter(|_| pot.len() < limits.paints).map(|parts| {
                let mut more = pot.clone();
                more.push((at, parts));
                more
            }));
        }
        pots.extend(with);
    }
    let mut by_set: std::collections::HashMap<Vec<usize>, Recipe> = std::collections::HashMap::new();
    for parts in pots.into_iter().filter(|pot| pot.iter().map(|(_, p)| *p).fold(0, divisor) == 1) {
        let recipe =
            Recipe { difference: difference(lab(&parts, shelf, look), target).value(), parts, price: None };
        let set = recipe.parts.iter().map(|(at, _)| *at).collect();
        match by_set.get_mut(&set) {
            Some(best) if recipe.before(best).is_lt() => *best = recipe,
            Some(_) => {}
            None => drop(by_set.insert(set, recipe)),
        }
    }
    let mut all: Vec<Recipe> = by_set.into_values().collect();
    all.sort_by(Recipe::before);
    all.truncate(limits.recipes);
    all
}

fn tins(shelf: &[Material]) -> Vec<MatchTin<'_>> {
    shelf.iter().map(|material| MatchTin { material, price: None, wanted: false }).collect()
}

fn search(shelf: &[Material], target: Lab, look: impl Into<Look>, limits: Limits) -> Vec<Recipe> {
    find(&tins(shelf), target, look, limits, |_| ControlFlow::Continue(()))
}

fn any_look() -> impl Strategy<Value = Look> {
    (0usize..7, 0usize..4)
        .prop_map(|(light, state)| Look { light: Light::ALL[light], state: FilmState::ALL[state] })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Twelve tins of mixed sheen, and room for one mix: the bar is as tight as it gets, and what is passed over by it is
    /// never the best.
    #[test]
    fn a_tight_list_is_that_of_trying_everything(
        shelf in proptest::collection::vec(any_tin(), 12),
        (l, a, b) in (10.0..92.0f64, -40.0..50.0f64, -50.0..60.0f64),
        aimed in proptest::option::of((0usize..12, 0usize..12, 1u32..5, 1u32..5)),
        look in any_look(),
    ) {
        let between = |(one, other, n, m): (usize, usize, u32, u32)| lab(&[(one, n), (other, m)], &shelf, look);
        let target = aimed.map_or(Lab { l, a, b }, between);
        let limits = Limits { paints: 3, parts: 6, recipes: 1, every: EVERY };
        let (found, tried) = (search(&shelf, target, look, limits), brute(&shelf, target, look, limits));
        let (found, tried) = (&found[0], &tried[0]);
        prop_assert!(found.before(tried).is_le() || (found.difference - tried.difference).abs() < 1e-9, "{:?} {:?}", found, tried);
    }

    /// Whatever is asked of a mix, the answer is of the mix in that state, as the pot has it: not of tins in that state.
    #[test]
    fn every_tool_says_what_the_pot_says(shelf in proptest::collection::vec(any_tin(), 4), parts in proptest::collection::vec(1u32..5, 2), look in any_look()) {
        use warm_blend_mixing::{BlendCurve, Pot, correct, ladder};
        let target = lab(&[(0, parts[0]), (1, parts[1])], &shelf, look);
        for found in search(&shelf, target, look, Limits { paints: 3, parts: 9, recipes: 6, every: EVERY }) {
            let pot = difference(lab(&found.parts, &shelf, look), target).value();
            prop_assert!((found.difference - pot).abs() < 0.005);
        }
        let base = mix(&[(Parts::new(1.0).unwrap(), &shelf[0]), (Parts::new(2.0).unwrap(), &shelf[1])]).unwrap();
        let certain: Vec<DoubtfulTin> = tins(&shelf[2..]).into_iter().map(DoubtfulTin::certain).collect();
        for made in ladder(InDoubt::certain(&base), &certain, look, 6.0).into_iter().filter_map(|rung| rung.made) {
            let mut of = vec![(0, made.base), (1, 2 * made.base)];
            of.extend(made.more.iter().map(|(at, n)| (at + 2, 3 * n)));
            prop_assert!(difference(made.lab, lab(&of, &shelf, look)).value() < 0.005);
        }
        let path = BlendCurve::between(&shelf[0], &shelf[1], look);
        prop_assert!(difference(path.colours[6], lab(&[(0, 3), (1, 1)], &shelf, look)).value() < 0.005);
        let pot = Pot { inside: InDoubt::certain(&base), ml: 300.0, room: 900.0, least: 5.0 };
        let goes_on = || ControlFlow::Continue(());
        for found in correct(pot, &certain, target, look, false, goes_on).into_iter().filter(|found| found.discard == 0.0) {
            let mut of = vec![(0, 100), (1, 200)];
            of.extend(found.additions.iter().map(|(at, ml)| (at + 2, ml.round() as u32)));
            prop_assert!((found.difference - difference(lab(&of, &shelf, look), target).value()).abs() < 0.005);
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// On small shelves the list is that of trying everything.
    #[test]
    fn the_list_is_that_of_trying_everything(
        shelf in proptest::collection::vec(any_tin(), 1..6),
        (l, a, b) in (5.0..95.0f64, -40.0..40.0f64, -40.0..40.0f64),
        aimed in proptest::option::of(proptest::collection::vec(1u32..5, 5)),
        paints in 1usize..=4,
        look in any_look(),
    ) {
        let reachable = |parts: Vec<u32>| lab(&parts.into_iter().enumerate().take(shelf.len()).collect::<Vec<_>>(), &shelf, look);
        let target = aimed.map_or(Lab { l, a, b }, reachable);
        let limits = Limits { paints, parts: 9, recipes: 6, every: EVERY };
        let (found, tried) = (search(&shelf, target, look, limits), brute(&shelf, target, look, limits));
        prop_assert_eq!(found.len(), tried.len());
        for (one, other) in found.iter().zip(&tried) {
            // Two sets may tie exactly, as where a tin is there twice.
            prop_assert!(one.parts == other.parts || one.before(other).is_eq() || (one.difference - other.difference).abs() < 1e-9, "{:?} {:?}", one, other);
        }
    }

    /// What was poured is found again, and a shelf with more on it never does worse.
    #[test]
    fn a_mix_finds_itself(shelf in proptest::collection::vec(any_tin(), 4), more in any_tin(), parts in proptest::collection::vec(1u32..4, 3)) {
        let poured: Vec<(usize, u32)> = parts.into_iter().enumerate().collect();
        let target = lab(&poured, &shelf, LIGHT.into());
        let limits = Limits { paints: 3, parts: 9, recipes: 3, every: EVERY };
        let best = |shelf: &[Material]| search(shelf, target, LIGHT, limits)[0].difference;
        let first = best(&shelf);
        prop_assert!(first < 0.5, "{}", first);
        let larger: Vec<Material> = shelf.into_iter().chain([more]).collect();
        prop_assert!(best(&larger) < 0.5);
    }

    #[test]
    fn a_tin_that_must_be_in_it_is(shelf in proptest::collection::vec(any_tin(), 5), wanted in 0usize..5, (l, a, b) in (20.0..80.0f64, -20.0..20.0f64, -20.0..20.0f64)) {
        let mut tins = tins(&shelf);
        tins[wanted].wanted = true;
        let limits = Limits { paints: 3, parts: 6, recipes: 8, every: EVERY };
        let found = find(&tins, Lab { l, a, b }, LIGHT, limits, |_| ControlFlow::Continue(()));
        prop_assert!(!found.is_empty());
        for recipe in found {
            prop_assert!(recipe.parts.iter().any(|(at, _)| *at == wanted));
            prop_assert!(recipe.parts.len() <= 3 && recipe.parts.iter().map(|(_, p)| p).sum::<u32>() <= 6);
        }
    }
}

#[test]
fn an_empty_shelf_has_no_mix_and_one_tin_is_one() {
    let limits = Limits { paints: 4, parts: 12, recipes: 5, every: EVERY };
    let target = Lab { l: 50.0, a: 0.0, b: 0.0 };
    assert!(search(&[], target, LIGHT, limits).is_empty());
    let only = warm_blend_testing::tins::tin(
        warm_blend_paint::Class::Chalk,
        Some("#808080".parse().map(warm_blend_paint::Masstone::Hex).unwrap()),
        None,
    );
    let found = search(std::slice::from_ref(&only), only.seen_lab(LIGHT), LIGHT, limits);
    assert_eq!(found.len(), 1);
    assert!(found[0].parts == [(0, 1)] && found[0].difference < 1e-6);
    // Two that are the same: each alone comes before any mix of them.
    let found = search(&[only.clone(), only.clone()], only.seen_lab(LIGHT), LIGHT, limits);
    assert_eq!(found[0].parts.len(), 1);
}

/// A search that is stopped answers with what it has.
#[test]
fn a_search_that_is_stopped_keeps_what_it_found() {
    let code = |code: &str| Some(warm_blend_paint::Masstone::Hex(code.parse().unwrap()));
    let shelf: Vec<Material> = ["#f0ede6", "#26324a", "#c2953a", "#5b2a2a"]
        .map(|hex| warm_blend_testing::tins::tin(warm_blend_paint::Class::Chalk, code(hex), Some(2.0)))
        .into();
    let limits = Limits { paints: 4, parts: 12, recipes: 5, every: EVERY };
    let mut heard = 0;
    let found = find(&tins(&shelf), Lab { l: 50.0, a: 0.0, b: 5.0 }, LIGHT, limits, |progress| {
        heard += 1;
        assert!((0.0..=1.0).contains(&progress.done));
        ControlFlow::Break(())
    });
    assert_eq!(heard, 1);
    assert!(found.len() == 4 && found.iter().all(|recipe| recipe.parts.len() == 1));
}
