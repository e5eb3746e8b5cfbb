//! Absorption and scattering, and a film over a ground.
//!
//! A thick film follows P. Kubelka and F. Munk, *Z. tech. Phys.* 12 (1931) 593:
//!
//! ```text
//! R∞ = S / (K + S + √(K(K + 2S)))
//! ```
//!
//! For a film of thickness X over a ground, two fluxes are too few: see [`Undersurface`] for the two cones in which light
//! travels. Within them a film is solved as P. Kubelka (*J. Opt. Soc. Am.* 38 (1948) 448) solved it for two fluxes. With
//! σ the path through a film of thickness 1 in each cone, K the absorption and q the scattering,
//!
//! ```text
//! Λ = diag(σ (K/2 + q))       what a cone loses on its way
//! M = Λ² − ½ q w wᵀ           w = σ √(flux) √Λ; scattered light goes up and down alike, and is diffuse
//! Z = Λ^−½ √M tanh(√M X/2) Λ^−½,  Z' = Λ^½ tanh(√M X/2)/√M Λ^½
//! R = (1 + Z)⁻¹ − (1 + Z')⁻¹,     T = (1 + Z)⁻¹ + (1 + Z')⁻¹ − 1
//! ```
//!
//! and a film over a ground is R + T G (1 − R G)⁻¹ T. Nothing is divided by K, S or X, so that pure absorbers, pure
//! scatterers, and films of zero or great thickness need no special case.
//!
//! K is the same in both theories. q follows from S and K/S so that a thick film looks like R∞: 1.2 S where little is
//! absorbed, and more in dark films.

use std::sync::LazyLock;

use warm_blend_spectral::{BANDS, Reflectance};

use crate::Microns;
use crate::undersurface::{Cones, FLUX, Undersurface};

/// How far light runs in a film of thickness 1 in the open cone: straight down (1), and up at all angles that leave (1.15)†.
const OPEN: f64 = 1.08;
/// The same by cone: on the mean diffuse light runs twice the thickness.
const PATH: [f64; 2] = [OPEN, (2.0 - FLUX[0] * OPEN) / FLUX[1]];

/// Kubelka–Munk K and S in 36 bands, per mm of wet film; both finite and ≥ 0.
#[derive(Debug, Clone, PartialEq)]
pub struct Optics {
    /// Absorption K, 1/mm.
    k: [f64; BANDS],
    /// Scattering S, 1/mm.
    s: [f64; BANDS],
}

impl Optics {
    /// Makes optics of K and S by band, 1/mm. Negative values and NaN become 0, infinities 10⁹.
    pub fn new(k: [f64; BANDS], s: [f64; BANDS]) -> Self {
        let tidy = |v: f64| v.max(0.0).min(1e9);
        Self { k: k.map(tidy), s: s.map(tidy) }
    }

    /// Optics of a film that has the reflectance `inside` (below its surface, inside (0, 1)) when thick, and the
    /// scattering `s`, 1/mm, in every band: K/S = (1 − R)²/2R.
    pub fn of_thick_film(inside: &Reflectance, s: f64) -> Self {
        Self::of_masstone(inside, [s; BANDS])
    }

    /// Optics of a film that has the reflectance `inside` when thick, and the scattering `s`, 1/mm, by band.
    pub fn of_masstone(inside: &Reflectance, s: [f64; BANDS]) -> Self {
        Self::new(std::array::from_fn(|i| s[i] * k_over_s(inside.bands()[i])), s)
    }

    /// K, 1/mm.
    pub const fn k(&self) -> &[f64; BANDS] {
        &self.k
    }

    /// S, 1/mm.
    pub const fn s(&self) -> &[f64; BANDS] {
        &self.s
    }

    /// Optics of the same K, with S multiplied by `share` and raised by `more` (1/mm) in every band.
    pub fn scattering(&self, share: f64, more: f64) -> Self {
        Self::new(self.k, self.s.map(|s| s * share + more))
    }

    /// Neither absorbs nor scatters.
    pub const NONE: Optics = Optics { k: [0.0; BANDS], s: [0.0; BANDS] };

    /// Adds `share` of another material's K and S (S. Duncan, *Proc. Phys. Soc.* 52 (1940) 390: both are additive by
    /// concentration).
    pub fn add(&mut self, share: f64, other: &Optics) {
        for i in 0..BANDS {
            self.k[i] += share * other.k[i];
            self.s[i] += share * other.s[i];
        }
    }

    /// A film of wet thickness `x` alone.
    pub fn sheet(&self, x: Microns) -> FilmTransfer {
        self.films().sheet(x)
    }

    /// Films of it, by thickness.
    pub(crate) fn films(&self) -> Films {
        Films(std::array::from_fn(|i| Modes::of(self.k[i], self.s[i])))
    }

    /// A film of wet thickness `x`, ≥ 0, over a ground.
    pub fn over(&self, x: Microns, ground: &Undersurface) -> Undersurface {
        let x = x.millimetres();
        Undersurface::from_fn(|i| Sheet::of(self.k[i], self.s[i], x).over(ground.bands()[i]))
    }

    /// A film too thick for any ground to show.
    pub fn thick(&self) -> Undersurface {
        Undersurface::from_fn(|i| Modes::of(self.k[i], self.s[i]).thick())
    }
}

/// Films of one material: what is the same at every thickness is computed once.
#[derive(Debug, Clone)]
pub(crate) struct Films([Modes; BANDS]);

impl Films {
    /// A film of wet thickness `x` alone.
    pub fn sheet(&self, x: Microns) -> FilmTransfer {
        FilmTransfer(self.0.map(|modes| modes.sheet(x.millimetres())))
    }
}

/// A material in one band, by what is the same in a film of any thickness.
#[derive(Debug, Clone, Copy)]
struct Modes {
    /// K/2 + q, 1/mm: what light in a cone loses on a millimetre of its path.
    loses: f64,
    /// M / loses², and its roots, the larger first.
    m: Cones,
    rates: [f64; 2],
}

impl Modes {
    /// K and S in 1/mm.
    #[inline]
    fn of(k: f64, s: f64) -> Self {
        let [open, shut] = PATH;
        let root = darkness(k, s);
        let loses = if k > 1e-12 * s { 0.5 * k / (root * root) } else { PALE * s };
        // q / loses.
        let albedo = 1.0 - root * root;
        let m = Cones {
            open: open * open - 0.5 * albedo * OPENS,
            across: -0.5 * albedo * (OPENS * SHUTS).sqrt(),
            shut: shut * shut - 0.5 * albedo * SHUTS,
        };
        let half = (0.25 * (m.open - m.shut) * (m.open - m.shut) + m.across * m.across).sqrt();
        let larger = (0.5 * (m.open + m.shut) + half).sqrt();
        // Their product is the root of the determinant, σ σ' √(1 − albedo).
        Self { loses, m, rates: [larger, open * shut * root / larger] }
    }

    /// f(√M), where f is known at the two rates.
    #[inline]
    fn function(&self, [one, other]: [f64; 2]) -> Cones {
        let squares = self.rates.map(|rate| rate * rate);
        let slope = (one - other) / (squares[0] - squares[1]);
        Cones::ONE.times(one - slope * squares[0]).plus(self.m.times(slope))
    }

    /// A film, `x` in mm.
    #[inline]
    fn sheet(&self, x: f64) -> Sheet {
        let half = 0.5 * self.loses * x;
        let through = self.rates.map(|rate| tanh(rate * half));
        let z = self.function(std::array::from_fn(|n| self.rates[n] * through[n]));
        let over = |n: usize| if through[n] > 1e-8 { through[n] / self.rates[n] } else { half };
        let other = self.function([over(0), over(1)]);
        let z = Cones::ONE.plus(z.scaled(PATH.map(|path| 1.0 / path.sqrt()))).inverse();
        let other = Cones::ONE.plus(other.scaled(PATH.map(f64::sqrt))).inverse();
        Sheet { reflects: z.minus(other), passes: z.plus(other).minus(Cones::ONE) }
    }

    #[inline]
    fn thick(&self) -> Cones {
        let z = self.function(self.rates).scaled(PATH.map(|path| 1.0 / path.sqrt()));
        Cones::ONE.plus(z).inverse().times(2.0).minus(Cones::ONE)
    }
}

/// σ³ × flux of each cone.
const OPENS: f64 = PATH[0] * PATH[0] * PATH[0] * FLUX[0];
const SHUTS: f64 = PATH[1] * PATH[1] * PATH[1] * FLUX[1];
/// What remains of these where nothing is absorbed.
const TRACE: f64 = PATH[0] * PATH[0] + PATH[1] * PATH[1] - 0.5 * (OPENS + SHUTS);
const REST: f64 = PATH[1] * PATH[1] - 0.5 * SHUTS;
/// q / S where nothing is absorbed.
const PALE: f64 = FLUX[0] * FLUX[0] * PATH[1] * PATH[1] * TRACE / (REST * REST);

/// √(1 − albedo), 0 to 1, at which a thick film in two cones looks as R∞ does: K and S in 1/mm.
#[inline]
fn darkness(k: f64, s: f64) -> f64 {
    let g = (k * (k + 2.0 * s)).sqrt();
    // (1 − leaving) / (1 + leaving) of R∞.
    let wanted = (k + g) / (k + g + 2.0 * FLUX[0] * s).max(f64::MIN_POSITIVE);
    static TABLE: LazyLock<Vec<[f64; 2]>> = LazyLock::new(|| {
        let at = |wanted: f64| {
            let (root, slope) = solved(wanted);
            [root / wanted, (slope - root / wanted) / wanted / STEPS as f64]
        };
        // At 0 both are 0: from what it is near there, to the second order.
        let least = REST / (PATH[1] * TRACE.sqrt());
        let rises = |wanted: f64| (at(wanted)[0] - least) / wanted;
        let first = [least, (2.0 * rises(1e-3) - rises(2e-3)) / STEPS as f64];
        std::iter::once(first).chain((1..=STEPS).map(|i| at(i as f64 / STEPS as f64))).collect()
    });
    // What it is a multiple of `wanted` by, from cubic pieces (Hermite).
    let place = wanted * STEPS as f64;
    let i = (place as usize).min(STEPS - 1);
    let t = place - i as f64;
    let [[from, rises], [to, falls]] = [TABLE[i], TABLE[i + 1]];
    let apart = to - from;
    let cubic =
        from + t * (rises + t * (3.0 * apart - 2.0 * rises - falls + t * (rises + falls - 2.0 * apart)));
    wanted * cubic
}

/// Pieces that [`darkness`] is known by.
const STEPS: usize = 512;

/// The same, and how fast it rises, for what is wanted of a thick film: (1 − leaving) / (1 + leaving), 0 to 1. By Newton's method.
fn solved(wanted: f64) -> (f64, f64) {
    let [open, shut] = PATH;
    // What a thick film has of it at √(1 − albedo), and how fast that rises.
    let film = |root: f64| {
        let square = TRACE + 0.5 * (OPENS + SHUTS) * root * root + 2.0 * open * shut * root;
        let under = REST + 0.5 * SHUTS * root * root + open * shut * root;
        let ratio = shut * square.sqrt() / under;
        let bends =
            (0.5 * (OPENS + SHUTS) * root + open * shut) / square - (SHUTS * root + open * shut) / under;
        (root * ratio, ratio * (1.0 + root * bends))
    };
    let mut root = wanted / (wanted + (1.0 - wanted) * shut * TRACE.sqrt() / REST);
    for _ in 0..8 {
        let (has, slope) = film(root);
        root -= (has - wanted) / slope;
    }
    (root, 1.0 / film(root).1)
}

/// A hyperbolic tangent of what is not negative.
#[inline]
fn tanh(x: f64) -> f64 {
    if x < 1e-3 {
        return x * (1.0 - x * x / 3.0 * (1.0 - 0.4 * x * x));
    }
    let e = (-2.0 * x).exp();
    (1.0 - e) / (1.0 + e)
}

/// Reflection and transmission of a film in one band, with nothing below it.
#[derive(Debug, Clone, Copy)]
struct Sheet {
    reflects: Cones,
    passes: Cones,
}

impl Sheet {
    /// K and S in 1/mm, `x` in mm.
    #[inline]
    fn of(k: f64, s: f64, x: f64) -> Self {
        Modes::of(k, s).sheet(x)
    }

    #[inline]
    fn over(&self, ground: Cones) -> Cones {
        self.reflects.over(self.passes, ground)
    }
}

/// Light that leaves one band of a film over a ground, 0..=1 ([`emerging`](crate::surface::emerging) converts it to what
/// is seen). K and S in 1/mm, `x` in mm.
#[inline]
pub fn leaving_film(k: f64, s: f64, x: f64, ground: Cones) -> f64 {
    Sheet::of(k, s, x).over(ground).leaving()
}

/// Reflection and transmission of a film alone, to be applied to many grounds.
#[derive(Debug, Clone)]
pub struct FilmTransfer([Sheet; BANDS]);

impl FilmTransfer {
    /// Mean transmittance for diffuse light.
    pub fn lets_through(&self) -> f64 {
        self.0.iter().map(|sheet| sheet.passes.of_diffuse()).sum::<f64>() / BANDS as f64
    }

    /// Lays the film over a ground.
    pub fn lay_over(&self, ground: &mut Undersurface) {
        for (ground, sheet) in ground.bands_mut().iter_mut().zip(&self.0) {
            *ground = sheet.over(*ground);
        }
    }
}

/// R∞ of one band: reflectance of an infinitely thick film.
#[inline]
pub fn thick_film(k: f64, s: f64) -> f64 {
    s / (k + s + (k * (k + 2.0 * s)).sqrt()).max(f64::MIN_POSITIVE)
}

/// K/S of a thick film of this reflectance.
pub fn k_over_s(r: f64) -> f64 {
    (1.0 - r) * (1.0 - r) / (2.0 * r)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn one(k: f64, s: f64) -> Optics {
        Optics::new([k; BANDS], [s; BANDS])
    }

    fn over(k: f64, s: f64, microns: f64, ground: &Undersurface) -> Undersurface {
        one(k, s).over(Microns::new(microns).unwrap(), ground)
    }

    fn grey(ground: f64) -> Undersurface {
        Undersurface::diffuse(&Reflectance::grey(ground))
    }

    /// What leaves of one band.
    fn leaves(below: &Undersurface) -> f64 {
        below.bands()[7].leaving()
    }

    /// Kubelka and Munk (1931): K/S of R = 0.5 is 0.25.
    #[test]
    fn k_over_s_of_one_half_is_a_quarter() {
        assert_eq!(k_over_s(0.5), 0.25);
        assert!((thick_film(2.5, 10.0) - 0.5).abs() < 1e-12);
    }

    /// F. C. Williams and F. R. Clapper (1953), with one angle for each cone: what is clear lets light in straight, and out or back in again.
    #[test]
    fn a_clear_film_is_that_of_williams_and_clapper() {
        for (k, x, ground) in [(3.0, 200.0, 0.8), (40.0, 30.0, 0.5), (0.2, 90.0, 0.95)] {
            let [open, shut] = PATH.map(|path| (-path * k / 2.0 * x / 1000.0f64).exp());
            let wanted = FLUX[0] * ground * open * open / (1.0 - FLUX[1] * ground * shut * shut);
            let got = leaves(&over(k, 0.0, x, &grey(ground)));
            assert!((got - wanted).abs() < 1e-12, "{got} {wanted}");
        }
    }

    #[test]
    fn no_film_changes_nothing() {
        assert!((leaves(&over(5.0, 5.0, 0.0, &grey(0.37))) - leaves(&grey(0.37))).abs() < 1e-15);
    }

    /// Diffuse light runs twice the thickness on the mean, so that two fluxes and two cones have the same K.
    #[test]
    fn diffuse_light_runs_twice_the_thickness() {
        assert!((FLUX[0] * PATH[0] + FLUX[1] * PATH[1] - 2.0).abs() < 1e-15);
        assert!((PALE - 1.2).abs() < 0.01, "{PALE}");
    }

    /// Any K and S from nothing to a black ink or a dense white, log-spread; any thickness to a metre.
    fn coefficient() -> impl Strategy<Value = f64> {
        prop_oneof![Just(0.0), (-12.0..9.0f64).prop_map(|e| 10f64.powf(e))]
    }

    fn thickness() -> impl Strategy<Value = f64> {
        prop_oneof![Just(0.0), (-6.0..6.0f64).prop_map(|e| 10f64.powf(e))]
    }

    proptest! {
        #[test]
        fn a_film_is_always_a_reflectance(k in coefficient(), s in coefficient(), x in thickness(), ground in 0.0..=1.0f64) {
            let below = over(k, s, x, &grey(ground));
            let seen = [leaves(&below), below.bands()[7].of_diffuse()];
            prop_assert!(seen.iter().all(|r| r.is_finite() && (-1e-12..=1.0 + 1e-9).contains(r)), "{:?}", seen);
        }

        #[test]
        fn nothing_is_lost_where_nothing_absorbs(s in coefficient(), x in 0.1..1000.0f64) {
            let below = over(0.0, s, x, &grey(1.0));
            prop_assert!((leaves(&below) - 1.0).abs() < 1e-6 && (below.bands()[7].of_diffuse() - 1.0).abs() < 1e-6);
        }

        #[test]
        fn two_half_films_are_one(k in 0.001..500.0f64, s in 0.001..500.0f64, x in 0.1..500.0f64, ground in 0.0..=1.0f64) {
            let half = over(k, s, x / 2.0, &grey(ground));
            prop_assert!((leaves(&over(k, s, x / 2.0, &half)) - leaves(&over(k, s, x, &grey(ground)))).abs() < 1e-9);
        }

        /// Whatever it lies over, a film thick enough looks as R∞ does, through any surface.
        #[test]
        fn a_thick_film_looks_like_the_masstone(k in coefficient(), s in 0.001..500.0f64, ground in 0.0..=1.0f64) {
            let masstone = crate::surface::leaving(thick_film(k, s));
            prop_assert!((leaves(&one(k, s).thick()) - masstone).abs() < 1e-9);
            let deep = 1e6 / k.min(s).max(1.0);
            prop_assert!(k < 0.001 || (leaves(&over(k, s, deep, &grey(ground))) - masstone).abs() < 1e-6);
        }

        #[test]
        fn over_a_lighter_ground_it_is_never_darker(k in coefficient(), s in coefficient(), x in thickness(), ground in 0.0..0.9f64) {
            prop_assert!(leaves(&over(k, s, x, &grey(ground + 0.1))) >= leaves(&over(k, s, x, &grey(ground))) - 1e-9);
        }

        /// Not to the last digit: q grows with K/S, and over black a thin film with twice the absorption turns back up to 0.0042 more.
        #[test]
        fn more_absorption_is_hardly_ever_lighter(k in coefficient(), s in coefficient(), x in thickness(), ground in 0.0..=1.0f64) {
            let ground = grey(ground);
            prop_assert!(leaves(&over(k * 2.0 + 1e-6, s, x, &ground)) <= leaves(&over(k, s, x, &ground)) + 0.0043);
        }

        #[test]
        fn a_darker_masstone_absorbs_more(k in 1e-6..1e6f64, s in 1e-3..1e6f64) {
            prop_assert!(leaves(&one(k * 2.0, s).thick()) < leaves(&one(k, s).thick()));
        }

        #[test]
        fn a_film_laid_over_is_that_film_over(k in 0.001..500.0f64, s in 0.001..500.0f64, x in 0.1..500.0f64, ground in 0.0..=1.0f64) {
            let mut laid = grey(ground);
            one(k, s).sheet(Microns::of(x)).lay_over(&mut laid);
            prop_assert_eq!(laid, over(k, s, x, &grey(ground)));
        }
    }
}
