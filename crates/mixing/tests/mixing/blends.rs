//! What must be true of blends and ladders.

use proptest::prelude::*;
use warm_blend_mixing::{
    BlendCurve, DoubtfulTin, InDoubt, MatchTin, SHADE, SHADES, Stronger, bridge, ladder,
};
use warm_blend_paint::{Class, HueFamily, Masstone, Material, Parts, mix};
use warm_blend_spectral::{Light, difference};
use warm_blend_testing::tins::{any_tin, tin};

const LIGHT: Light = Light::Daylight;

fn chalk(code: &str, coats: f64) -> Material {
    tin(Class::Chalk, Some(Masstone::Hex(code.parse().unwrap())), Some(coats))
}

fn tins(shelf: &[Material]) -> Vec<DoubtfulTin<'_>> {
    let tin = |material| MatchTin { material, price: None, wanted: false };
    shelf.iter().map(|material| DoubtfulTin::certain(tin(material))).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn a_blend_begins_and_ends_at_its_colours(a in any_tin(), b in any_tin()) {
        let path = BlendCurve::between(&a, &b, LIGHT);
        let (first, last) = (path.colours[0], path.colours[path.colours.len() - 1]);
        prop_assert!(difference(first, a.seen_lab(LIGHT)).value() < 1e-9);
        prop_assert!(difference(last, b.seen_lab(LIGHT)).value() < 1e-9);
        prop_assert!(path.uneven >= 1.0 - 1e-9 && (0.0..=1.0).contains(&path.half_way));
    }

    /// Exchanging the colours exchanges the shares.
    #[test]
    fn half_way_is_the_same_from_either_end(a in any_tin(), b in any_tin()) {
        let (there, back) = (BlendCurve::between(&a, &b, LIGHT), BlendCurve::between(&b, &a, LIGHT));
        prop_assert!((there.half_way + back.half_way - 1.0).abs() < 1e-6, "{} {}", there.half_way, back.half_way);
        prop_assert_eq!(there.must_not_meet(), back.must_not_meet());
        let other = |stronger| match stronger { Stronger::First => Stronger::Second, Stronger::Second => Stronger::First };
        prop_assert_eq!(there.stronger(), back.stronger().map(other));
    }

    /// Just before the half-way share the mix is nearer to the one, just after to the other. (Where it is as near to both
    /// cannot be asked for: CIEDE2000 jumps where two hues are opposite.)
    #[test]
    fn half_way_is_half_way(a in any_tin(), b in any_tin()) {
        let half = BlendCurve::between(&a, &b, LIGHT).half_way;
        prop_assume!((0.004..0.996).contains(&half));
        let nearer_to_the_first = |share: f64| {
            let of = [(Parts::new(1.0 - share).unwrap(), &a), (Parts::new(share).unwrap(), &b)];
            let mixed = mix(&of).unwrap().seen_lab(LIGHT);
            difference(mixed, a.seen_lab(LIGHT)).value() < difference(mixed, b.seen_lab(LIGHT)).value()
        };
        prop_assert!(nearer_to_the_first(half - 1e-5) && !nearer_to_the_first(half + 1e-5));
    }

    /// Rungs stand where they should, in order, and each is what its parts come to.
    #[test]
    fn rungs_are_a_shade_apart(base in any_tin(), shelf in proptest::collection::vec(any_tin(), 1..7), shade in 3.0..9.0f64) {
        let rungs = ladder(InDoubt::certain(&base), &tins(&shelf), LIGHT, shade);
        prop_assert_eq!(rungs.len(), 2 * SHADES as usize + 1);
        let home = base.seen_lab(LIGHT);
        for (n, rung) in (-SHADES..=SHADES).zip(&rungs) {
            prop_assert_eq!(rung.shade, n);
            prop_assert!((rung.wanted - home.l - shade * f64::from(n)).abs() < 1e-9);
            let Some(made) = &rung.made else { continue };
            prop_assert!((made.lab.l - rung.wanted).abs() <= 2.0 && made.leans <= 5.0);
            let mut of = vec![(Parts::new(f64::from(made.base)).unwrap(), &base)];
            of.extend(made.more.iter().map(|(at, parts)| (Parts::new(f64::from(*parts)).unwrap(), &shelf[*at])));
            prop_assert!(difference(mix(&of).unwrap().seen_lab(LIGHT), made.lab).value() < 1e-9);
        }
    }
}

/// Yellow and blue on one brush turn green (common practice).
#[test]
fn yellow_and_blue_turn_green() {
    let path = BlendCurve::between(&chalk("#e3b93a", 2.0), &chalk("#2f5f9e", 2.0), LIGHT);
    assert_eq!(path.turns.map(|(family, _)| family), Some(HueFamily::Green));
    assert!(path.must_not_meet());
}

/// Complements mixed go dull (common practice): orange and blue lose their chroma between.
#[test]
fn complements_go_grey() {
    let path = BlendCurve::between(&chalk("#c2703a", 2.0), &chalk("#3f6f9e", 2.0), LIGHT);
    let mud = path.mud.expect("mud");
    assert!(mud.dip > 10.0 && (0.05..0.95).contains(&mud.share), "{mud:?}");
}

/// Some colours overpower: a very little of a deep red takes over (common practice).
#[test]
fn a_deep_red_overpowers_a_cream() {
    let path = BlendCurve::between(&chalk("#e9dfc8", 2.0), &chalk("#5b1f24", 1.0), LIGHT);
    assert_eq!(path.stronger(), Some(Stronger::Second), "half-way at {}", path.half_way);
}

/// A green between yellow and blue is the bridge that a painter would set there; a red is not.
#[test]
fn a_bridge_lies_between() {
    let (yellow, blue) = (chalk("#d9b44a", 2.0), chalk("#a0492f", 2.0));
    let shelf = [chalk("#c98a45", 2.0), chalk("#2f5f9e", 2.0), chalk("#26262a", 2.0)];
    let over = |one, other| bridge(InDoubt::certain(one), InDoubt::certain(other), &tins(&shelf), LIGHT);
    let found = over(&yellow, &blue);
    assert!(found.is_none_or(|at| at == 0), "{found:?}");
    // Over a black there is no way between two light colours.
    assert_eq!(over(&yellow, &yellow), None);
}

/// From a mid blue, with a white and a black at hand, most shades of both sides can be made.
#[test]
fn a_ladder_with_white_and_black() {
    let base = chalk("#5a6f88", 2.0);
    let shelf = [chalk("#f0ede6", 2.0), chalk("#26262a", 2.0), chalk("#2f4f7e", 2.0)];
    let rungs = ladder(InDoubt::certain(&base), &tins(&shelf), LIGHT, SHADE);
    let made: Vec<i32> = rungs.iter().filter(|rung| rung.made.is_some()).map(|rung| rung.shade).collect();
    assert!(made.len() >= 9, "{made:?}");
    // An empty shelf has the base alone.
    assert_eq!(
        ladder(InDoubt::certain(&base), &[], LIGHT, SHADE).iter().filter(|rung| rung.made.is_some()).count(),
        1
    );
}
