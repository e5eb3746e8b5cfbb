//! What a dark masstone leaves open: whether its hue comes from absorption or from scattering.
//!
//! The masstone of a black has some hue, by a few hundredths of the light. If all of that came from K, its tints and thin
//! films would be vividly of that hue. But blacks thin to greys (common practice), and fine particles scatter blue more
//! strongly (Lord Rayleigh, *Phil. Mag.* 41 (1871) 107). So the unevenness of K/S is attributed to S in a black, and to K
//! in a colour†.

use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz};

use crate::film::k_over_s;

/// Up to the first chroma of its masstone a dark paint is taken for a black, from the second on for a colour†.
const BLACK_TO_COLOUR: [f64; 2] = [4.0, 8.0];
/// Up to the first lightness it is dark, from the second on it is not†.
const DARK_TO_PALE: [f64; 2] = [25.0, 40.0];
/// How many times as large as another S may be for that†.
const MOST: f64 = 2.0;

/// Blackness of a masstone: 1 for a black, 0 for a colour or anything light.
pub fn blackness(masstone: &Reflectance) -> f64 {
    let lab = Lab::of(Xyz::of(masstone, Light::Daylight), Light::Daylight.white());
    let from_to = |[from, to]: [f64; 2], at: f64| ((to - at) / (to - from)).clamp(0.0, 1.0);
    from_to(BLACK_TO_COLOUR, lab.chroma()) * from_to(DARK_TO_PALE, lab.l)
}

/// S by band, relative to its level, of a paint with this blackness and the reflectance `inside` below its surface.
pub fn run_of_scattering(inside: &Reflectance, blackness: f64) -> [f64; BANDS] {
    if blackness == 0.0 {
        return [1.0; BANDS];
    }
    let ln = inside.bands().map(|r| k_over_s(r).ln());
    let level = ln.iter().sum::<f64>() / BANDS as f64;
    ln.map(|ln| (blackness * (level - ln)).exp().clamp(1.0 / MOST, MOST))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Class, Masstone, Material, Parts, mix};
    use proptest::prelude::*;
    use warm_blend_spectral::Srgb;

    const WHITE: Srgb = Srgb::new(240, 237, 230);

    fn material(code: Srgb) -> Material {
        Material::of(Class::AcrylicCraft, Some(Masstone::Hex(code)), None).unwrap()
    }

    proptest! {
        /// However K and S share what is uneven, the masstone is that of the tin.
        #[test]
        fn the_masstone_stays(red in 20u8..70, green in 20u8..70, blue in 20u8..70) {
            let code = Srgb { red, green, blue };
            let seen = material(code).seen_lab(Light::Daylight);
            prop_assert!(warm_blend_spectral::difference(seen, code.to_lab()).value() < 0.02);
        }

        /// A black that leans to any hue by its code gives greys with white that are hardly more coloured than the white and the
        /// code are (common practice).
        #[test]
        fn a_black_gives_greys(lean in proptest::array::uniform3(-2i16..=2), dark in 28i16..48, white in 1u32..20) {
            let [red, green, blue] = lean.map(|by| u8::try_from(dark + by).unwrap());
            let code = Srgb { red, green, blue };
            let (black, white_paint) = (material(code), material(WHITE));
            let of = [(Parts::of(1.0), &black), (Parts::of(f64::from(white)), &white_paint)];
            let grey = mix(&of).unwrap().seen_lab(Light::Daylight);
            prop_assert!(grey.chroma() < 5.0 + code.to_lab().chroma(), "{:?} {:?}", code, grey);
        }
    }

    #[test]
    fn a_navy_is_no_black_and_a_grey_neither() {
        let of = |code: Srgb| blackness(&Masstone::Hex(code).reflectance().unwrap());
        assert_eq!(of(Srgb::new(38, 50, 74)), 0.0);
        assert_eq!(of(Srgb::new(128, 128, 130)), 0.0);
        assert_eq!(of(Srgb::new(37, 37, 42)), 1.0);
    }
}
