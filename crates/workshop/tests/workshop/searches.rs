//! Searches of the shelf: which tins may be in, what it costs, whether the tins hold it, and what to add to a pot.

use std::ops::ControlFlow;

use proptest::prelude::*;
use warm_blend_paint::{Class, Colour, Condition, FilmState, Look, Measure};
use warm_blend_spectral::Light;
use warm_blend_workshop::{Corrections, Found, PotToCorrect, Refusal, ShelfSnapshot, Wanted};

use crate::pile::*;

fn wanted(hex: &str) -> Wanted {
    Wanted {
        target: Colour { hex: Some(hex.to_owned()), lab: None },
        paints: None,
        parts: Some(8),
        with: Vec::new(),
        without: Vec::new(),
        no_black: false,
        classes: Vec::new(),
        batch_ml: None,
    }
}

fn find(shelf: &ShelfSnapshot, wanted: &Wanted) -> Found {
    shelf.find(wanted, LIGHT.into(), || ControlFlow::Continue(())).unwrap()
}

const GREY_BLUE: &str = "#6f7f8c";

#[test]
fn mediums_and_what_has_gone_off_are_never_in_a_match() {
    let mut pile = pile();
    let mut off = paint("spoiled", Class::Chalk, GREY_BLUE);
    off.condition = Condition::Off;
    pile.tin(20, off);
    let found = find(&pile.shelf(), &wanted(GREY_BLUE));
    assert_eq!(found.paints, 5);
    let used = found.recipes.iter().flat_map(|recipe| &recipe.parts);
    assert!(
        used.clone().count() > 0
            && used.clone().all(|part| part.name != "spoiled" && part.paint != id(GLAZE))
    );
}

/// Oil and water do not stir: a match is of what most of the shelf is, or of what a tin that must be in is.
#[test]
fn a_match_stirs_together() {
    let mut pile = pile();
    for (n, hex) in [(20, "#e8e4da"), (21, "#27405c"), (22, "#6b7076")] {
        pile.tin(n, paint(&format!("enamel {n}"), Class::Alkyd, hex));
    }
    let shelf = pile.shelf();
    let oily = |found: &Found| -> Vec<bool> {
        let parts = found.recipes.iter().flat_map(|recipe| &recipe.parts);
        parts.map(|part| part.name.starts_with("enamel")).collect()
    };
    let usual = find(&shelf, &wanted(GREY_BLUE));
    assert!(!usual.recipes.is_empty() && oily(&usual).iter().all(|oily| !oily));
    let with = find(&shelf, &Wanted { with: vec![id(20)], ..wanted(GREY_BLUE) });
    assert!(!with.recipes.is_empty() && oily(&with).iter().all(|oily| *oily));
}

/// A tin that was frozen may be in, with a word about it.
#[test]
fn a_frozen_tin_is_told_of() {
    let mut pile = pile();
    let mut frozen = paint("left in the van", Class::Chalk, GREY_BLUE);
    frozen.condition = Condition::Frozen;
    pile.tin(20, frozen);
    let found = find(&pile.shelf(), &wanted(GREY_BLUE));
    let best =
        found.recipes.iter().find(|recipe| recipe.parts.iter().any(|part| part.paint == id(20))).unwrap();
    assert!(
        best.cautions.iter().any(|caution| caution.contains("left in the van has been frozen")),
        "{:?}",
        best.cautions
    );
}

#[test]
fn what_is_left_out_is_out_and_what_is_asked_for_is_in() {
    let shelf = pile().shelf();
    let all = |found: &Found| -> Vec<Vec<uuid::Uuid>> {
        found.recipes.iter().map(|recipe| recipe.parts.iter().map(|part| part.paint).collect()).collect()
    };
    let without = find(&shelf, &Wanted { without: vec![id(WHITE)], ..wanted(GREY_BLUE) });
    assert!(all(&without).iter().all(|parts| !parts.contains(&id(WHITE))));
    let with = find(&shelf, &Wanted { with: vec![id(BROWN)], ..wanted(GREY_BLUE) });
    assert!(!with.recipes.is_empty() && all(&with).iter().all(|parts| parts.contains(&id(BROWN))));
    let no_black = find(&shelf, &Wanted { no_black: true, ..wanted("#3a3a3c") });
    assert!(all(&no_black).iter().all(|parts| !parts.contains(&id(BLACK))));
    let latex = find(&shelf, &Wanted { classes: vec![Class::LatexSatin], ..wanted(GREY_BLUE) });
    assert_eq!(latex.paints, 1);
    // What is asked for by name is in though its class is not.
    let both = Wanted { classes: vec![Class::LatexSatin], with: vec![id(BLUE)], ..wanted(GREY_BLUE) };
    assert_eq!(find(&shelf, &both).paints, 2);
}

#[test]
fn all_that_is_wrong_with_a_search_is_told_at_once() {
    let nonsense = Wanted {
        target: Colour { hex: Some("blue".to_owned()), lab: None },
        paints: Some(9),
        parts: Some(0),
        with: vec![id(1), id(2), id(3), id(4)],
        batch_ml: Some(f64::NAN),
        ..wanted(GREY_BLUE)
    };
    let answer = pile().shelf().find(&nonsense, LIGHT.into(), || ControlFlow::Continue(()));
    assert_eq!(pointers(answer), ["/target/hex", "/paints", "/parts", "/with", "/batch_ml"]);
}

/// A recipe's price is that of its parts; it is there where every price is known. Enough is said where every stock is.
#[test]
fn price_and_stock_of_a_recipe_are_those_of_its_tins() {
    let shelf = pile().shelf();
    let found = find(&shelf, &Wanted { batch_ml: Some(100.0), ..wanted("#4a4a46") });
    let by_ml = |paint: uuid::Uuid| shelf.tin(paint).unwrap().value.price.map(|price| price.by_ml());
    let left = |paint: uuid::Uuid| shelf.tin(paint).unwrap().value.stock.map(|stock| stock.value());
    let (mut priced, mut scarce) = (0, 0);
    for recipe in &found.recipes {
        let cost: Option<f64> =
            recipe.parts.iter().map(|part| Some(by_ml(part.paint)? * part.share * 100.0)).sum();
        match (cost, recipe.cost) {
            (Some(cost), Some(reply)) => assert!((cost - reply).abs() < 1e-9, "{recipe:?}"),
            (cost, reply) => assert_eq!(cost, reply, "{recipe:?}"),
        }
        let enough: Option<Vec<bool>> =
            recipe.parts.iter().map(|part| Some(left(part.paint)? >= part.share * 100.0)).collect();
        assert_eq!(recipe.enough, enough.map(|each| each.into_iter().all(|enough| enough)), "{recipe:?}");
        priced += usize::from(recipe.cost.is_some());
        scarce += usize::from(recipe.enough == Some(false));
    }
    assert!(priced > 0 && priced < found.recipes.len() && scarce > 0);
}

#[test]
fn the_other_light_is_told_beside_the_one_that_is_on() {
    let shelf = pile().shelf();
    for (light, other) in [(Light::Daylight, "bulb"), (Light::Bulb, "daylight"), (Light::ShopTube, "bulb")] {
        let look = Look { light, state: FilmState::Dry };
        let found = shelf.find(&wanted(GREY_BLUE), look, || ControlFlow::Continue(())).unwrap();
        assert_eq!(found.recipes[0].elsewhere_in, other);
    }
}

/// What no mix of the shelf comes near to is shown in words.
#[test]
fn what_the_shelf_lacks_is_said() {
    let found = find(&pile().shelf(), &wanted("#ff2a00"));
    assert!(found.missing.is_some());
    assert_eq!(find(&pile().shelf(), &wanted("#f0ede6")).missing, None);
}

/// A search that is broken off says what it has so far.
#[test]
fn a_search_can_be_left() {
    let left = pile().shelf().find(&wanted(GREY_BLUE), LIGHT.into(), || ControlFlow::Break(()));
    assert!(left.unwrap().recipes.len() <= find(&pile().shelf(), &wanted(GREY_BLUE)).recipes.len());
}

fn correct(of: &[(u128, u32)], target: &str, room: Option<f64>) -> Result<Corrections, Refusal> {
    let target = Colour { hex: Some(target.to_owned()), lab: None };
    let components = components(of);
    let pot = PotToCorrect { components, amount: 120.0, measure: Measure::Millilitre, room, target };
    pile().shelf().correct(&pot, LIGHT.into(), || ControlFlow::Continue(()))
}

#[test]
fn a_pot_at_its_target_is_left_alone() {
    let there = correct(&[(BLUE, 1)], "#2f4b66", None).unwrap();
    assert_eq!(there.words.as_deref(), Some("Spot on: leave it."));
}

#[test]
fn what_cannot_be_reached_by_adding_is_said() {
    let never = correct(&[(BLACK, 1)], "#ff2a00", None).unwrap();
    assert!(never.words.unwrap().contains("can’t get there by adding"));
}

/// Each addition is shown in spoons, ml and grams that agree, and leaves the pot nearer than it was, within its room.
#[test]
fn additions_bring_it_nearer_and_fit_the_pot() {
    let shelf = pile().shelf();
    let reply = correct(&[(BLUE, 1)], GREY_BLUE, Some(400.0)).unwrap();
    assert!(!reply.ways.is_empty());
    for fix in reply.next.iter().chain(&reply.ways) {
        assert!(fix.judgement.difference < reply.now.difference && fix.amount <= 400.0 + 1e-9, "{fix:?}");
        for part in &fix.additions {
            let density = shelf.tin(part.paint).unwrap().value.density();
            assert!(part.ml > 0.0 && (part.grams / part.ml - density).abs() < 1e-9, "{part:?}");
        }
        assert!(fix.components.iter().all(|part| (1..=999).contains(&part.parts.value())));
    }
    assert_eq!(reply.next.unwrap().additions.len(), 1);
}

#[test]
fn a_pot_that_cannot_be_is_refused_field_by_field() {
    assert_eq!(pointers(correct(&[(BLUE, 1)], GREY_BLUE, Some(60.0))), ["/room"]);
    assert_eq!(pointers(correct(&[(99, 1)], GREY_BLUE, None)), ["/components/0/paint"]);
    let pot = PotToCorrect {
        components: components(&[(BLUE, 1)]),
        amount: -3.0,
        measure: Measure::Cup,
        room: None,
        target: Colour { hex: None, lab: None },
    };
    assert_eq!(
        pointers(pile().shelf().correct(&pot, LIGHT.into(), || ControlFlow::Continue(()))),
        ["/target", "/amount"]
    );
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// What is found is what the Pot says of the same parts, to the last digit that is shown.
    #[test]
    fn a_recipe_found_is_the_mix_that_the_pot_shows(code in any::<[u8; 3]>(), state in 0usize..4) {
        let [r, g, b] = code;
        let shelf = pile().shelf();
        let look = Look { light: LIGHT, state: FilmState::ALL[state] };
        let search = wanted(&format!("#{r:02x}{g:02x}{b:02x}"));
        let Ok(found) = shelf.find(&search, look, || ControlFlow::Continue(())) else { return Ok(()) };
        for recipe in found.recipes.iter().take(3) {
            let of: Vec<(u128, u32)> =
                recipe.parts.iter().map(|part| (part.paint.as_u128(), part.parts)).collect();
            let reply = shelf.predict(&mix(&of), look).unwrap().swatch.unwrap();
            prop_assert_eq!(&reply.wedge.face.hex, &recipe.swatch.wedge.face.hex);
            prop_assert!((reply.within - recipe.swatch.within).abs() < 1e-6);
        }
        let expected: Vec<f64> = found.recipes.iter().map(|recipe| recipe.expected).collect();
        // The likeliest comes first, or one as good as it to the eye (half a unit, or a seventh far off) that is simpler or cheaper.
        let best = expected.iter().copied().fold(f64::INFINITY, f64::min);
        prop_assert!(expected.first().is_none_or(|first| *first <= 8.0 / 7.0 * best + 0.5), "{expected:?}");
        prop_assert!(found.recipes.iter().all(|recipe| recipe.expected >= recipe.judgement.difference - 1e-9));
    }
}
