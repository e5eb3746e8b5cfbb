//! What must be true of learning from readings, whatever the paints are. How well it works is measured in `warm-blend-sim`.

use proptest::prelude::*;
use warm_blend_finish::learn::{Ensemble, Facts, Learnt, Measured, Pour, Reading, Shown, Source, learn};
use warm_blend_finish::{Class, Masstone, Material, Parts, State, mix};
use warm_blend_spectral::{Lab, Light, Reflectance, Srgb, Xyz};

fn facts(code: Srgb, house_white: bool) -> Facts {
    Facts {
        class: Class::Chalk,
        masstone: Some(Masstone::Hex(code)),
        source: Source::Chip,
        coats_to_hide: None,
        lustre: None,
        house_white,
    }
}

const WHITE: Srgb = Srgb::new(240, 237, 230);

fn parts(n: f64) -> Parts {
    Parts::new(n).unwrap()
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

fn reading(of: &[(usize, f64)], read: Lab) -> Reading {
    Reading {
        of: of.iter().map(|(paint, n)| (*paint, parts(*n))).collect(),
        pour: Pour::Spoons,
        state: State::Dry,
        shown: Shown::Thick(Measured::Colour(read)),
        source: Source::Reader,
        sure: false,
    }
}

/// What a tint would read if the paint were so much stronger than its class.
fn tint(code: Srgb, stronger: f64, white: f64) -> Lab {
    let material = |code| Material::of(Class::Chalk, Some(Masstone::Hex(code)), None).unwrap();
    let (paint, house) = (material(code), material(WHITE));
    lab(&mix(&[(parts(stronger), &paint), (parts(white), &house)]).unwrap().masstone())
}

fn band(learnt: &Learnt) -> f64 {
    let [white, paint] = [&learnt.paints[0], &learnt.paints[1]];
    let mixed = Ensemble::mix(&[(parts(1.0), paint), (parts(2.0), white)]).unwrap();
    mixed.within(|material| lab(&material.masstone()))
}

fn deep_code() -> impl Strategy<Value = Srgb> {
    proptest::array::uniform3(10u8..150).prop_map(|[red, green, blue]| Srgb { red, green, blue })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// The band of a mix shrinks with a tint test, and does not grow with a second one.
    #[test]
    fn bands_shrink_with_readings(code in deep_code(), stronger in 0.6..1.7f64) {
        let shelf = [facts(WHITE, true), facts(code, false)];
        let one = reading(&[(1, 1.0), (0, 1.0)], tint(code, stronger, 1.0));
        let two = reading(&[(1, 1.0), (0, 4.0)], tint(code, stronger, 4.0));
        let bands = [vec![], vec![one.clone()], vec![one, two]].map(|readings| band(&learn(&shelf, &readings).unwrap()));
        prop_assert!(bands[1] < bands[0] && bands[2] <= bands[1] * 1.05, "{:?}", bands);
    }

    /// Readings have no order, and one that is taken away was never there.
    #[test]
    fn the_order_of_the_log_does_not_matter(code in deep_code(), stronger in 0.7..1.5f64) {
        let shelf = [facts(WHITE, true), facts(code, false)];
        let one = reading(&[(1, 1.0), (0, 1.0)], tint(code, stronger, 1.0));
        let two = reading(&[(1, 1.0), (0, 4.0)], tint(code, stronger, 4.0));
        let forth = learn(&shelf, &[one.clone(), two.clone()]).unwrap();
        let back = learn(&shelf, &[two, one.clone()]).unwrap();
        let colour = |learnt: &Learnt| lab(&learnt.paints[1].best().masstone());
        let strength = |learnt: &Learnt| learnt.paints[1].best().optics.s()[17];
        prop_assert!((colour(&forth).l - colour(&back).l).abs() < 0.02);
        prop_assert!((strength(&forth) / strength(&back) - 1.0).abs() < 0.01);
        let without = learn(&shelf, std::slice::from_ref(&one)).unwrap();
        let again = learn(&shelf, &[one]).unwrap();
        prop_assert_eq!(without.paints[1].best(), again.paints[1].best());
    }

    /// Whatever is read, whatever comes out is a paint.
    #[test]
    fn any_reading_leaves_sound_paints(code in deep_code(), l in 0.0..100.0f64, a in -90.0..90.0f64, b in -90.0..90.0f64, n in 0.001..1000.0f64) {
        let shelf = [facts(WHITE, true), facts(code, false)];
        let mut odd = reading(&[(1, n), (0, 1.0)], Lab { l, a, b });
        odd.sure = true;
        let learnt = learn(&shelf, &[odd]).unwrap();
        for paint in &learnt.paints {
            let sound = paint.best().optics.k().iter().chain(paint.best().optics.s()).all(|v| v.is_finite() && *v >= 0.0);
            prop_assert!(sound && band(&learnt).is_finite());
        }
    }
}

/// Two tests that contradict each other: one of them is asked about.
#[test]
fn two_contradictory_tests_are_asked_about() {
    let code = Srgb::new(38, 50, 74);
    let shelf = [facts(WHITE, true), facts(code, false)];
    let one = reading(&[(1, 1.0), (0, 1.0)], tint(code, 1.0, 1.0));
    let other = reading(&[(1, 1.0), (0, 4.0)], tint(code, 8.0, 4.0));
    let learnt = learn(&shelf, &[one, other]).unwrap();
    assert_eq!(learnt.judged.iter().filter(|judged| judged.questioned).count(), 1);
}

/// A paint whose tin says nothing of its colour is named by its place.
#[test]
fn a_tin_without_colour_is_named() {
    let nameless = Facts { masstone: None, ..facts(WHITE, false) };
    assert_eq!(learn(&[facts(WHITE, true), nameless], &[]).unwrap_err().paint, 1);
}
