//! The smoothest curve of a colour: exact for every screen colour, refused for what no surface can be.

use proptest::prelude::*;
use warm_blend_spectral::{
    BANDS, Degree, Lab, Light, Reflectance, Srgb, Unreachable, Xyz, difference, on_screen, smoothest,
    smoothest_above,
};

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

/// Round trip of one code: ΔE00, and the code that comes back.
fn round_trip(code: Srgb) -> (f64, Srgb) {
    let curve = smoothest(code.to_lab()).unwrap_or_else(|error| panic!("{code}: {error}"));
    assert!(curve.bands().iter().all(|r| *r > 0.0 && *r < 1.0), "{code} leaves (0, 1)");
    let shown = on_screen(Xyz::of(&curve, Light::Daylight), Light::Daylight, Degree::FULL);
    (difference(lab(&curve), code.to_lab()).value(), shown.srgb)
}

/// Every code of a grid of 18 levels a channel, corners and edges of the cube included: 5832 colours.
#[test]
fn every_screen_colour_of_a_dense_grid_has_an_exact_curve() {
    let levels = || (0..=255u8).step_by(15);
    let mut worst: f64 = 0.0;
    for red in levels() {
        for green in levels() {
            for blue in levels() {
                let code = Srgb::new(red, green, blue);
                let (gap, back) = round_trip(code);
                assert_eq!(back, code);
                worst = worst.max(gap);
            }
        }
    }
    assert!(worst < 0.01, "worst {worst}");
}

/// The square pulse of an optimal colour (Schrödinger 1920, MacAdam 1935): 1 from one band edge to another.
fn optimal(from: usize, width: usize) -> Reflectance {
    Reflectance::from_fn(|i| if (i + BANDS - from) % BANDS < width { 1.0 } else { 0.0 })
}

proptest! {
    #[test]
    fn so_has_any_other(red: u8, green: u8, blue: u8) {
        let code = Srgb::new(red, green, blue);
        let (gap, back) = round_trip(code);
        prop_assert!(gap < 0.01);
        prop_assert_eq!(back, code);
    }

    /// The colour solid is convex and its surface is known: on the straight line (in XYZ) from mid grey through an
    /// optimal colour, a curve is found before the surface and refused behind it, with a limit that is possible.
    #[test]
    fn what_no_surface_can_be_is_refused(from in 0usize..BANDS, width in 3usize..BANDS - 3) {
        let (edge, grey) = (Xyz::of(&optimal(from, width), Light::Daylight), Xyz::of(&Reflectance::grey(0.5), Light::Daylight));
        let along = |share: f64| {
            let between = |grey: f64, edge: f64| grey + share * (edge - grey);
            let xyz = Xyz { x: between(grey.x, edge.x), y: between(grey.y, edge.y), z: between(grey.z, edge.z) };
            Lab::of(xyz, Light::Daylight.white())
        };
        let inside = along(0.95);
        prop_assert!(difference(lab(&smoothest(inside).unwrap()), inside).value() < 0.01);
        match smoothest(along(1.05)) {
            Err(Unreachable::Chroma { limit }) => prop_assert!(smoothest(limit).is_ok()),
            Err(Unreachable::Lightness(l)) => prop_assert!(!(0.0..=100.0).contains(&l)),
            Ok(curve) => prop_assert!(false, "{curve:?}"),
        }
    }

    /// Above a floor the colour is as exact, no band lies below what the floor was lowered to, and whatever has a curve has one above
    /// some floor.
    #[test]
    fn a_floor_lies_below_the_curve(red: u8, green: u8, blue: u8, floor in 0.0..0.06f64) {
        let colour = Srgb::new(red, green, blue).to_lab();
        let curve = smoothest_above(floor, colour).unwrap();
        prop_assert!(difference(lab(&curve), colour).value() < 0.01);
        let white = Light::Daylight.white();
        let xyz = colour.to_xyz(white);
        let least = (xyz.x / white.x).min(xyz.y / white.y).min(xyz.z / white.z);
        let lowered = [1.0, 0.75, 0.5, 0.25].map(|quarter| quarter * floor.min(0.8 * least));
        prop_assert!(curve == smoothest(colour).unwrap() || lowered.iter().any(|floor| curve.lowest() >= *floor));
        // A floor that no band comes near is none.
        prop_assert_eq!(smoothest_above(0.0, colour), smoothest(colour));
    }

    #[test]
    fn any_numbers_at_all_give_a_curve_or_a_reason(l: f64, a: f64, b: f64) {
        for answer in [smoothest(Lab { l, a, b }), smoothest_above(0.03, Lab { l, a, b })] {
            if let Err(error) = answer {
                prop_assert!(!error.to_string().is_empty());
            }
        }
    }
}

#[test]
fn lightness_out_of_range_is_said_as_such() {
    for l in [-1.0, 100.1, f64::NAN, f64::INFINITY] {
        assert!(matches!(smoothest(Lab { l, a: 0.0, b: 0.0 }), Err(Unreachable::Lightness(_))));
    }
    assert!(matches!(smoothest(Lab { l: 50.0, a: f64::NAN, b: 0.0 }), Err(Unreachable::Chroma { .. })));
}

#[test]
fn a_grey_is_flat_and_the_curve_is_smooth() {
    let grey = smoothest(Lab { l: 60.0, a: 0.0, b: 0.0 }).unwrap();
    assert!(grey.bands().iter().all(|r| (r - grey.bands()[0]).abs() < 1e-4));
    let ochre = smoothest("#b08d57".parse::<Srgb>().unwrap().to_lab()).unwrap();
    assert!(ochre.bands().windows(2).all(|w| (w[0] - w[1]).abs() < 0.05));
}

/// Measured surfaces known by their 8-bit codes (CIE 13.3 test colour samples, Ohta's chart patches): by the curve of the code
/// they are seen under a bulb nearly as they are. By Burns' plain slope it is 0.78 and 1.85.
#[test]
fn under_a_bulb_the_curves_of_codes_are_nearly_those_of_surfaces() {
    let (bulb, daylight) = (Light::Bulb, Light::Daylight);
    let mut off: Vec<f64> = include_str!("../data/raw_reflectances.csv")
        .lines()
        .skip(1)
        .filter_map(|line| {
            let bands: Vec<f64> = line.split(',').skip(1).map(|r| r.parse().unwrap()).collect();
            let surface = Reflectance::from_fn(|i| bands[i]);
            let code = on_screen(Xyz::of(&surface, daylight), daylight, Degree::FULL).srgb;
            let seen = |curve: &Reflectance| Lab::of(Xyz::of(curve, bulb), bulb.white());
            let on_the_screen = difference(code.to_lab(), lab(&surface)).value() < 1.0;
            on_the_screen
                .then(|| difference(seen(&surface), seen(&smoothest(code.to_lab()).unwrap())).value())
        })
        .collect();
    off.sort_by(f64::total_cmp);
    let (median, ninth) = (off[off.len() / 2], off[off.len() * 9 / 10]);
    println!("{} surfaces: median {median:.2}, nine in ten {ninth:.2}", off.len());
    assert!(median < 0.78 && ninth < 1.6, "{median} {ninth}");
}
