//! Hiding power: how many coats until the ground no longer shows.
//!
//! A film hides when its luminance over black is 98 % of that over white (contrast ratio, ASTM D2805 and ISO 6504-3, in
//! daylight). It depends only on K/S and S X, so the number of coats a paint needs reveals its S.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use warm_blend_spectral::{BANDS, Light, Reflectance, Xyz};

use crate::film::FilmTransfer;
use crate::quantity::in_range;
use crate::{BadMeasure, Microns, Optics, SurfaceReflection, Undersurface};

/// Contrast ratio from which a film counts as hiding (ISO 6504-3, ASTM D2805).
const HIDES: f64 = 0.98;

/// One brushed coat, µm wet†.
pub const COAT: f64 = 90.0;

/// Coats a class-known house white is taken to need†.
const HOUSE_WHITE_COATS: f64 = 2.0;

/// Seen reflectance of the halves of a hiding chart: white 0.80 ± 0.02 (ISO 6504-3), black 0.01 at most
/// (ASTM D2805; both limits from memory).
const CHART_WHITE: f64 = 0.80;
const CHART_BLACK: f64 = 0.01;

/// White half of a hiding chart below the surface of a film.
pub fn chart_white() -> &'static Undersurface {
    static WHITE: LazyLock<Undersurface> = LazyLock::new(|| chart(CHART_WHITE));
    &WHITE
}

/// Black half of a hiding chart below the surface of a film.
pub fn chart_black() -> &'static Undersurface {
    static BLACK: LazyLock<Undersurface> = LazyLock::new(|| chart(CHART_BLACK));
    &BLACK
}

fn chart(seen: f64) -> Undersurface {
    Undersurface::diffuse(&SurfaceReflection::new(0.0).inside(&Reflectance::grey(seen)))
}

/// Luminance over black divided by luminance over white, 0..=1, of a film in daylight.
pub fn contrast_ratio(film: &Optics, surface: SurfaceReflection, x: Microns) -> f64 {
    contrast_of(&film.sheet(x), surface)
}

fn contrast_of(sheet: &FilmTransfer, surface: SurfaceReflection) -> f64 {
    let luminance = |ground: &Undersurface| {
        let mut below = ground.clone();
        sheet.lay_over(&mut below);
        Xyz::of(&surface.seen(&below), Light::Daylight).y
    };
    luminance(chart_black()) / luminance(chart_white())
}

/// Number of brushed coats (90 µm wet each†) that hide black and white.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
pub struct CoatsToHide(f64);

/// An impossible number of coats.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("coats to cover: {0}; use 0.25 to 20")]
pub struct NotCoats(BadMeasure);

impl CoatsToHide {
    /// Accepts a quarter of a coat to twenty.
    pub fn new(coats: f64) -> Result<Self, NotCoats> {
        in_range(coats, 0.25, 20.0).map(Self).map_err(NotCoats)
    }

    /// The number of coats.
    pub const fn value(self) -> f64 {
        self.0
    }

    /// True of one coat or less, which is only an upper bound: one coat hides, but a thinner one might have done.
    pub fn is_a_bound(self) -> bool {
        self.0 <= 1.0
    }

    /// Number of coats that a film under a surface needs; at least a quarter of a coat. `None` beyond twenty, where it is
    /// a glaze rather than a paint.
    pub fn of(film: &Optics, surface: SurfaceReflection) -> Option<Self> {
        thickness_to_hide(film, surface, 20.0 * COAT).map(|x| Self((x / COAT).max(0.25)))
    }

    /// True if twenty coats hide. Much quicker than finding their number.
    pub fn are_enough(film: &Optics, surface: SurfaceReflection) -> bool {
        hides(film, surface, 20.0 * COAT)
    }

    /// S, 1/mm, of a paint that hides in this many coats. `inside` is its masstone below the surface, `run` its S by band
    /// relative to that level.
    pub fn scattering(self, inside: &Reflectance, run: &[f64; BANDS], sheen: SurfaceReflection) -> f64 {
        let unit = Optics::of_masstone(inside, *run);
        // With S = 1 per mm the film hides at X mm: only S X matters, and X is given by the coats. 10⁶ µm with
        // S = 1 is a thousand times what a dense white needs.
        let hides_at = thickness_to_hide(&unit, sheen, 1e6).unwrap_or(1e6);
        hides_at / (self.0 * COAT)
    }
}

impl TryFrom<f64> for CoatsToHide {
    type Error = NotCoats;

    fn try_from(coats: f64) -> Result<Self, NotCoats> {
        Self::new(coats)
    }
}

impl From<CoatsToHide> for f64 {
    fn from(coats: CoatsToHide) -> f64 {
        coats.0
    }
}

/// S, 1/mm, of the house white, the unit of relative strength: a neutral matt white of 88 % that hides in two coats†.
pub fn house_white_scattering() -> f64 {
    static S: LazyLock<f64> = LazyLock::new(|| {
        let seen = Reflectance::grey(0.88);
        let sheen = SurfaceReflection::new(crate::Class::Chalk.sheen());
        CoatsToHide(HOUSE_WHITE_COATS).scattering(&sheen.inside(&seen), &[1.0; BANDS], sheen)
    });
    *S
}

/// Whether so many µm hide.
fn hides(film: &Optics, surface: SurfaceReflection, x: f64) -> bool {
    contrast_ratio(film, surface, Microns::of(x)) >= HIDES
}

/// Thinnest film that is looked at, µm.
const LEAST: f64 = 1e-3;
/// How exactly a thickness is found, as a share of it.
const EXACTLY: f64 = 1e-5;
/// Rounds that find any thickness in any bracket.
const ROUNDS: usize = 80;

/// Wet thickness in µm at which a film first hides; None if not within `most`.
///
/// What it lacks falls about exponentially with the thickness, so its logarithm leads there in a few steps, by false position (the Illinois
/// rule: M. Dowell and P. Jarratt, *BIT* 11 (1971) 168).
fn thickness_to_hide(film: &Optics, surface: SurfaceReflection, most: f64) -> Option<f64> {
    let films = film.films();
    // Logarithm of what a film lacks by what it may lack, at the logarithm of a thickness: 0 or less where it hides.
    let lacks = |x: f64| {
        let contrast = contrast_of(&films.sheet(Microns::of(x.exp())), surface);
        ((1.0 - contrast).max(1e-15) / (1.0 - HIDES)).ln()
    };
    let mut hidden = (most.ln(), lacks(most.ln()));
    if hidden.1 > 0.0 {
        return None;
    }
    let mut bare = (LEAST.ln(), lacks(LEAST.ln()));
    if bare.1 <= 0.0 {
        return Some(LEAST);
    }
    // About there, by the middle of the spectrum; then ever further until it lies between.
    let (k, s) = (film.k()[BANDS / 2], film.s()[BANDS / 2]);
    let about = (1e3 / (0.7 * (k * (k + 2.0 * s)).sqrt() + 0.1 * s).max(1e-9)).ln();
    let (mut at, mut step) = (about, 0.5);
    while bare.0 < at && at < hidden.0 {
        let here = (at, lacks(at));
        if here.1 > 0.0 {
            bare = here;
            at += step;
        } else {
            hidden = here;
            at -= step;
        }
        step *= 2.0;
    }
    let mut last = None;
    for _ in 0..ROUNDS {
        if hidden.0 - bare.0 <= EXACTLY {
            break;
        }
        let part = bare.1 / (bare.1 - hidden.1);
        // Never so near to an end that the bracket does not close.
        let margin = 0.4 * EXACTLY / (hidden.0 - bare.0);
        let at = bare.0 + part.clamp(margin, 1.0 - margin) * (hidden.0 - bare.0);
        let here = (at, lacks(at));
        let is_bare = here.1 > 0.0;
        // An end that stays twice loses half its weight.
        let again = last.replace(is_bare) == Some(is_bare);
        if is_bare {
            bare = here;
            hidden.1 *= if again { 0.5 } else { 1.0 };
        } else {
            hidden = here;
            bare.1 *= if again { 0.5 } else { 1.0 };
        }
    }
    Some(hidden.0.exp())
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn coats_to_scattering_and_back(r in 0.03..0.9f64, coats in 0.25..12.0f64, alpha in 0.0..0.85f64) {
            let seen = Reflectance::grey(r);
            let sheen = SurfaceReflection::new(alpha).limited_by(&seen);
            let inside = sheen.inside(&seen);
            let s = CoatsToHide(coats).scattering(&inside, &[1.0; BANDS], sheen);
            let back = CoatsToHide::of(&Optics::of_thick_film(&inside, s), sheen).unwrap().value();
            prop_assert!((back / coats - 1.0).abs() < 1e-3, "{} came back as {}", coats, back);
        }

        /// As found by halving, whatever the film, and to the last figure that is asked for.
        #[test]
        fn the_thickness_is_where_it_begins_to_hide(
            r in 0.005..0.97f64, slope in -0.9..0.9f64, s in 1e-3..1e3f64, alpha in 0.0..0.85f64, most in 0.0..6.0f64,
        ) {
            let seen = Reflectance::new(std::array::from_fn(|i| r * (1.0 + slope * (i as f64 / 17.5 - 1.0)).clamp(0.02, 1.03))).unwrap();
            let sheen = SurfaceReflection::new(alpha).limited_by(&seen);
            let film = Optics::of_thick_film(&sheen.inside(&seen), s);
            let most = 10f64.powf(most);
            let hides = |x: f64| hides(&film, sheen, x);
            match thickness_to_hide(&film, sheen, most) {
                None => prop_assert!(!hides(most)),
                Some(x) => {
                    prop_assert!(hides(x * (1.0 + 1e-9)) && x <= most * (1.0 + 1e-9));
                    prop_assert!(x <= 1.0001 * LEAST || !hides(x * (1.0 - 1.1 * EXACTLY)));
                }
            }
        }

        #[test]
        fn that_it_hides_is_told_without_counting(r in 0.03..0.9f64, s in 0.01..100.0f64, alpha in 0.0..0.85f64) {
            let seen = Reflectance::grey(r);
            let sheen = SurfaceReflection::new(alpha).limited_by(&seen);
            let film = Optics::of_thick_film(&sheen.inside(&seen), s);
            prop_assert_eq!(CoatsToHide::are_enough(&film, sheen), CoatsToHide::of(&film, sheen).is_some());
        }

        #[test]
        fn a_thicker_film_hides_better(r in 0.03..0.9f64, s in 0.5..100.0f64, x in 5.0..400.0f64) {
            let film = Optics::of_thick_film(&Reflectance::grey(r), s);
            let at = |x| contrast_ratio(&film, SurfaceReflection::new(0.3), Microns::of(x));
            prop_assert!(at(x * 1.3) >= at(x) - 1e-12);
        }
    }

    #[test]
    fn coats_that_cannot_be_are_refused() {
        for bad in [0.0, -1.0, f64::NAN, 1e308] {
            assert!(CoatsToHide::new(bad).is_err());
        }
    }

    /// Scattering of dense white paints is some tens per mm (order of magnitude from memory).
    #[test]
    fn the_house_white_scatters_as_whites_do() {
        assert!((10.0..200.0).contains(&house_white_scattering()), "{}", house_white_scattering());
    }
}
