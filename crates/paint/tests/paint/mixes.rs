//! What must be true of any mix by parts.

use proptest::prelude::*;
use warm_blend_paint::{Class, Drawdown, Masstone, Material, Parts, STOPS, mix};
use warm_blend_spectral::{BANDS, Lab, Light, Srgb, difference};
use warm_blend_testing::tins::{any_class, any_tin, tin};

fn hex(code: &str) -> Option<Masstone> {
    Some(Masstone::Hex(code.parse().unwrap()))
}

fn parts<'a>(components: &[(f64, &'a Material)]) -> Vec<(Parts, &'a Material)> {
    components.iter().map(|(parts, material)| (Parts::new(*parts).unwrap(), *material)).collect()
}

fn stirred(components: &[(f64, &Material)]) -> Material {
    mix(&parts(components)).unwrap()
}

fn lab(material: &Material) -> Lab {
    material.seen(Light::Daylight).lab
}

fn far(one: &Material, other: &Material) -> f64 {
    let gap = |i: usize| (one.masstone().bands()[i] - other.masstone().bands()[i]).abs();
    (0..BANDS).map(gap).fold(0.0, f64::max)
}

fn grey_tin() -> impl Strategy<Value = Material> {
    (5.0..95.0f64, 0.5..8.0f64)
        .prop_map(|(l, coats)| tin(Class::Chalk, Some(Masstone::Lab(Lab { l, a: 0.0, b: 0.0 })), Some(coats)))
}

proptest! {
    #[test]
    fn the_order_of_pouring_does_not_matter(a in any_tin(), b in any_tin(), c in any_tin(), p in 0.01..50.0f64, q in 0.01..50.0f64) {
        prop_assert!(far(&stirred(&[(p, &a), (q, &b), (1.0, &c)]), &stirred(&[(1.0, &c), (p, &a), (q, &b)])) < 1e-12);
    }

    #[test]
    fn stirring_half_first_does_not_matter(a in any_tin(), b in any_tin(), c in any_tin(), p in 0.1..9.0f64) {
        let at_once = stirred(&[(p, &a), (1.0, &b), (p + 1.0, &c)]);
        let in_turn = stirred(&[(p + 1.0, &stirred(&[(p, &a), (1.0, &b)])), (p + 1.0, &c)]);
        prop_assert!(far(&at_once, &in_turn) < 1e-12);
    }

    #[test]
    fn only_the_ratio_matters(a in any_tin(), b in any_tin(), p in 0.1..50.0f64, scale in 0.01..100.0f64) {
        prop_assert!(far(&stirred(&[(p, &a), (1.0, &b)]), &stirred(&[(p * scale, &a), (scale, &b)])) < 1e-12);
    }

    #[test]
    fn a_paint_with_itself_is_itself(a in any_tin(), p in 0.01..50.0f64) {
        prop_assert!(far(&stirred(&[(p, &a), (1.0, &a)]), &a) < 1e-12);
    }

    #[test]
    fn between_two_greys_it_stays_between(a in grey_tin(), b in grey_tin(), p in 0.01..50.0f64) {
        let (one, other, both) = (lab(&a).l, lab(&b).l, lab(&stirred(&[(p, &a), (1.0, &b)])).l);
        prop_assert!(both >= one.min(other) - 1e-9 && both <= one.max(other) + 1e-9);
    }

    #[test]
    fn more_of_the_darker_is_never_lighter(a in grey_tin(), b in grey_tin(), p in 0.01..50.0f64, more in 1.0..10.0f64) {
        let (dark, light) = if lab(&a).l < lab(&b).l { (a, b) } else { (b, a) };
        let l = |parts| lab(&stirred(&[(parts, &dark), (1.0, &light)])).l;
        prop_assert!(l(p * more) <= l(p) + 1e-9);
    }

    #[test]
    fn nothing_leaves_the_range_of_a_reflectance(a in any_tin(), b in any_tin(), p in 0.001..1000.0f64) {
        let both = stirred(&[(p, &a), (1.0, &b)]);
        prop_assert!(both.masstone().bands().iter().all(|r| *r > 0.0 && *r < 1.0));
    }

    #[test]
    fn a_tin_shows_the_colour_it_was_given(code: [u8; 3], class in any_class(), coats in proptest::option::of(0.25..12.0f64)) {
        // The brightest coated surface of the model sends 0.96 back in every band; a curve that asks for more in one is cut there.
        let given = Srgb::new(code[0], code[1], code[2]);
        let curve = Masstone::Hex(given).reflectance_of_class(class);
        prop_assume!(curve.is_ok_and(|curve| curve.bands().iter().all(|r| *r < 0.96)));
        let shown = tin(class, Some(Masstone::Hex(given)), coats).seen(Light::Daylight);
        prop_assert!(difference(shown.lab, given.to_lab()).value() < 0.02);
        prop_assert_eq!(shown.screen.srgb, given);
    }

    #[test]
    fn water_thins_but_does_not_change_the_thick_colour(a in any_tin(), p in 0.01..2.0f64) {
        let water = tin(Class::Water, None, None);
        let thinned = stirred(&[(1.0, &a), (p, &water)]);
        // The 10⁻⁹ per mm that water is given keep it out of division by zero and out of sight.
        prop_assert!(difference(lab(&thinned), lab(&a)).value() < 0.2);
        let (thin, full) = (thinned.coats_to_hide(), a.coats_to_hide());
        if let (Some(thin), Some(full)) = (thin, full) {
            prop_assert!(thin.value() >= full.value() - 1e-6);
        }
    }

    #[test]
    fn a_drawdown_starts_alike_on_both_halves_where_the_paint_hides(l in 5.0..95.0f64, coats in 0.5..4.0f64) {
        let a = tin(Class::Chalk, Some(Masstone::Lab(Lab { l, a: 0.0, b: 0.0 })), Some(coats));
        let drawdown = Drawdown::of(&a, Light::Bulb);
        let gap = |i: usize| {
            drawdown.over_white[i].srgb.to_lab().l - drawdown.over_black[i].srgb.to_lab().l
        };
        prop_assert!(gap(0).abs() < 2.0, "thick {} thin {}", gap(0), gap(STOPS - 1));
        prop_assert!(gap(STOPS - 1) > gap(0), "thick {} thin {}", gap(0), gap(STOPS - 1));
    }
}

/// Common practice: a yellow and a blue of ordinary paint give a green, where averaged light would give a grey.
#[test]
fn blue_and_yellow_go_green() {
    for class in [Class::Chalk, Class::LatexSatin, Class::AcrylicCraft] {
        let yellow = tin(class, hex("#e3b93a"), None);
        let blue = tin(class, hex("#2f5f9e"), None);
        for parts in [1.0, 2.0, 4.0] {
            let both = lab(&stirred(&[(parts, &yellow), (1.0, &blue)]));
            assert!(
                both.chroma() > 12.0 && (110.0..200.0).contains(&both.hue()),
                "{class:?} {parts}: {both:?}"
            );
        }
    }
}

/// Common practice: a very little of a deep colour takes over a white; a tenth part of white hardly shows in it.
#[test]
fn a_deep_colour_swamps_a_white() {
    let white = tin(Class::Chalk, hex("#f2efe6"), Some(2.0));
    let red = tin(Class::Chalk, hex("#6d1f22"), Some(2.0));
    let step = |red_parts, white_parts| lab(&stirred(&[(red_parts, &red), (white_parts, &white)]));
    let tinged = difference(step(1.0, 10.0), lab(&white)).value();
    let lifted = difference(step(10.0, 1.0), lab(&red)).value();
    assert!(tinged > 2.0 * lifted, "{tinged} against {lifted}");
}

/// The one that hides better carries the mix: with equal masstones given, fewer coats means more say.
#[test]
fn the_stronger_paint_has_more_say() {
    let white = tin(Class::Chalk, hex("#f2efe6"), Some(2.0));
    let half =
        |coats| lab(&stirred(&[(1.0, &white), (1.0, &tin(Class::Chalk, hex("#3c4650"), Some(coats)))])).l;
    assert!(half(1.0) < half(2.0) && half(2.0) < half(4.0));
}

/// Who sees that the first coat covers cannot see how much less would have done: a black that covers in one coat is as strong in white
/// as one of which nothing is said (common practice), and of two paints that need more the one that needs fewer is the stronger.
#[test]
fn covering_in_one_coat_is_a_bound() {
    let white = tin(Class::Chalk, hex("#f0ede6"), None);
    let tinted = |coats| lab(&stirred(&[(1.0, &tin(Class::Chalk, hex("#1e1e22"), coats)), (1.0, &white)])).l;
    assert!((tinted(Some(1.0)) - tinted(None)).abs() < 0.1, "{:?} {}", tinted(Some(1.0)), tinted(None));
    assert!(tinted(None) < 45.0, "{}", tinted(None));
    assert!(tinted(Some(2.0)) < tinted(Some(3.0)));
    // It is at least so strong that one coat covers.
    let pale = tin(Class::AcrylicCraft, hex("#efe9dc"), Some(1.0));
    assert!(pale.coats_to_hide().unwrap().value() <= 1.0 + 1e-3);
}
