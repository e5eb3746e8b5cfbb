//! Wet, dry, sealed and buffed: what painters see (common practice), and what must be true of any paint.

use proptest::prelude::*;
use warm_blend_paint::{Class, FilmState, Masstone, Material, Microns, Parts, chart_black, chart_white, mix};
use warm_blend_spectral::{BANDS, Light, Srgb};

fn tin(class: Class, code: Srgb) -> Material {
    Material::of(class, Some(Masstone::Hex(code)), None).unwrap()
}

fn lightness(material: &Material, state: FilmState) -> f64 {
    material.in_state(state).seen(Light::Daylight).lab.l
}

fn any_code() -> impl Strategy<Value = Srgb> {
    any::<[u8; 3]>().prop_map(|[red, green, blue]| Srgb { red, green, blue })
}

/// Neither near white nor near black, where there is room to move.
fn mid_code() -> impl Strategy<Value = Srgb> {
    proptest::array::uniform3(60u8..190).prop_map(|[red, green, blue]| Srgb { red, green, blue })
}

proptest! {
    /// Common practice: chalk-type paint goes on darker than it dries, and clear wax deepens it.
    #[test]
    fn chalk_type_dries_lighter_and_wax_deepens_it(code in any_code(), clay: bool) {
        let paint = tin(if clay { Class::Clay } else { Class::Chalk }, code);
        prop_assert!(lightness(&paint, FilmState::Wet) < lightness(&paint, FilmState::Dry));
        prop_assert!(lightness(&paint, FilmState::Sealed) < lightness(&paint, FilmState::Dry));
        prop_assert!(lightness(&paint, FilmState::Buffed) <= lightness(&paint, FilmState::Sealed));
    }

    /// Common practice: latex-type paint goes on paler than it dries.
    #[test]
    fn latex_type_dries_darker(code in mid_code()) {
        let paint = tin(Class::LatexSatin, code);
        prop_assert!(lightness(&paint, FilmState::Wet) > lightness(&paint, FilmState::Dry));
    }

    #[test]
    fn sealing_again_changes_nothing(code in any_code(), class in 0usize..9) {
        let sealed = tin(Class::ALL[class], code).in_state(FilmState::Sealed);
        prop_assert_eq!(sealed.in_state(FilmState::Sealed), sealed.clone());
        prop_assert_eq!(sealed.in_state(FilmState::Buffed), tin(Class::ALL[class], code).in_state(FilmState::Buffed));
    }

    /// Mixed and then sealed, or sealed and then mixed: K is the same, and S lies between.
    #[test]
    fn a_mix_of_one_class_seals_as_its_paints_do(one in any_code(), other in any_code(), parts in 0.1..9.0f64) {
        let (one, other) = (tin(Class::Chalk, one), tin(Class::Chalk, other));
        let stir = |a: &Material, b: &Material| mix(&[(Parts::new(parts).unwrap(), a), (Parts::new(1.0).unwrap(), b)]).unwrap();
        let late = stir(&one, &other).in_state(FilmState::Sealed);
        let early = stir(&one.in_state(FilmState::Sealed), &other.in_state(FilmState::Sealed));
        for i in 0..BANDS {
            prop_assert!((late.optics.k()[i] - early.optics.k()[i]).abs() <= 1e-9 * early.optics.k()[i]);
            prop_assert!((late.optics.s()[i] - early.optics.s()[i]).abs() <= 1e-9 * early.optics.s()[i]);
        }
    }

    /// A film in any state lies between its ground and its masstone, and nothing leaves 0..=1.
    #[test]
    fn films_stay_within_their_ends(code in any_code(), class in 0usize..9, microns in 0.1..900.0f64, state in 0usize..4) {
        let paint = tin(Class::ALL[class], code).in_state(FilmState::ALL[state]);
        let film = |ground| paint.film(Microns::new(microns).unwrap(), ground);
        let (black, white) = (film(chart_black()), film(chart_white()));
        for i in 0..BANDS {
            prop_assert!((0.0..=1.0).contains(&black.bands()[i]));
            prop_assert!(black.bands()[i] <= white.bands()[i] + 1e-12);
        }
    }
}

/// 90 µm of wet paint: a litre covers 11.1 m² (plain geometry), and four litres and a quarter-litre measure four times that and more.
#[test]
fn a_litre_covers_its_thickness() {
    assert!((Microns::new(90.0).unwrap().spreading_rate() - 11.111).abs() < 0.001);
}
