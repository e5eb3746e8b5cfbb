//! Absorption and scattering, and a film of them over a ground.
//!
//! P. Kubelka, “New contributions to the optics of intensely light-scattering materials, part I”, *J. Opt. Soc. Am.*
//! 38 (1948) 448. With a = 1 + K/S, b = √(a² − 1), film thickness X and ground Rg:
//!
//! ```text
//! R0 = 1 / (a + b coth bSX)          reflectance over black
//! T  = b / (a sinh bSX + b cosh bSX) transmittance
//! R  = R0 + T² Rg / (1 − R0 Rg)      reflectance over the ground
//! R∞ = S / (K + S + √(K(K + 2S)))    an endlessly thick film
//! ```
//!
//! Computed with g = bS = √(K(K + 2S)), e = exp(−2gX) and q = (1 − e)/g, which tends to 2X as g → 0:
//!
//! ```text
//! R0 = S q / ((K + S) q + 1 + e),  T = 2 exp(−gX) / ((K + S) q + 1 + e)
//! ```
//!
//! In this form nothing divides by S or by g, so pure absorbers (S → 0), pure scatterers (K → 0), no film (X → 0)
//! and thick films are all ordinary values.

use warm_blend_spectral::{BANDS, Reflectance};

use crate::Microns;

/// Kubelka–Munk K and S in 36 bands, per mm of wet film; both finite and ≥ 0.
#[derive(Debug, Clone, PartialEq)]
pub struct Optics {
    /// Absorption K, 1/mm.
    k: [f64; BANDS],
    /// Scattering S, 1/mm.
    s: [f64; BANDS],
}

impl Optics {
    /// K and S by band, 1/mm. Negative values and NaN are read as 0, and infinities as 10⁹.
    pub fn new(k: [f64; BANDS], s: [f64; BANDS]) -> Self {
        let tidy = |v: f64| v.max(0.0).min(1e9);
        Self { k: k.map(tidy), s: s.map(tidy) }
    }

    /// A film of the K/S that goes with `inside` (reflectance of a thick film below its surface, inside (0, 1)) and
    /// of scattering `s`, 1/mm, in every band: K/S = (1 − R)²/2R.
    pub fn of_thick_film(inside: &Reflectance, s: f64) -> Self {
        Self::of_masstone(inside, [s; BANDS])
    }

    /// The same where S is not alike in all bands.
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

    /// The same absorption, and in every band a scattering of `share` times its own and `more` (1/mm).
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

    /// A film of wet thickness `x` by itself.
    pub fn sheet(&self, x: Microns) -> FilmTransfer {
        let x = x.millimetres();
        let mut sheet = FilmTransfer { over_black: [0.0; BANDS], through: [0.0; BANDS] };
        for i in 0..BANDS {
            (sheet.over_black[i], sheet.through[i]) = alone(self.k[i], self.s[i], x);
        }
        sheet
    }

    /// Reflectance, below the surface, of a film of wet thickness `x` over a ground (also below the surface).
    /// Total for any thickness ≥ 0; never leaves 0..=1.
    pub fn over(&self, x: Microns, ground: &Reflectance) -> Reflectance {
        let x = x.millimetres();
        Reflectance::from_fn(|i| film_over(self.k[i], self.s[i], x, ground.bands()[i]))
    }
}

/// One band of a film by itself, R0 and T: K and S in 1/mm, `x` in mm.
#[inline]
fn alone(k: f64, s: f64, x: f64) -> (f64, f64) {
    let g = (k * (k + 2.0 * s)).sqrt();
    let e = (-2.0 * g * x).exp();
    let q = if g * x < 1e-12 { 2.0 * x } else { -(-2.0 * g * x).exp_m1() / g };
    let below = (k + s) * q + 1.0 + e;
    (s * q / below, 2.0 * (-g * x).exp() / below)
}

/// One band of a film of R0 and T over a ground.
#[inline]
fn laid(over_black: f64, through: f64, ground: f64) -> f64 {
    over_black + through * through * ground / (1.0 - over_black * ground).max(f64::MIN_POSITIVE)
}

/// One band of [`Optics::over`]: K and S in 1/mm, `x` in mm.
pub fn film_over(k: f64, s: f64, x: f64, ground: f64) -> f64 {
    let (over_black, through) = alone(k, s, x);
    laid(over_black, through, ground)
}

/// A film by itself, to be laid over many grounds.
#[derive(Debug, Clone)]
pub struct FilmTransfer {
    over_black: [f64; BANDS],
    through: [f64; BANDS],
}

impl FilmTransfer {
    /// What comes through from one side to the other, on average.
    pub fn lets_through(&self) -> f64 {
        self.through.iter().sum::<f64>() / BANDS as f64
    }

    /// Lays it over a ground, both below the surface.
    pub fn lay_over(&self, ground: &mut [f64; BANDS]) {
        for (r, (over_black, through)) in ground.iter_mut().zip(self.over_black.iter().zip(&self.through)) {
            *r = laid(*over_black, *through, *r);
        }
    }
}

/// One band of an endlessly thick film, R∞.
#[inline]
pub fn thick_film(k: f64, s: f64) -> f64 {
    s / (k + s + (k * (k + 2.0 * s)).sqrt()).max(f64::MIN_POSITIVE)
}

/// K/S of a thick film's reflectance.
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

    fn over(k: f64, s: f64, microns: f64, ground: f64) -> f64 {
        one(k, s).over(Microns::new(microns).unwrap(), &Reflectance::grey(ground)).bands()[0]
    }

    fn thick(k: f64, s: f64) -> f64 {
        over(k, s, 1e6, 0.3)
    }

    /// Kubelka and Munk (1931): K/S of R = 0.5 is 0.25, and its film comes back to 0.5.
    #[test]
    fn k_over_s_of_one_half_is_a_quarter() {
        assert_eq!(k_over_s(0.5), 0.25);
        assert!((thick(2.5, 10.0) - 0.5).abs() < 1e-9);
    }

    /// Limits stated by Kubelka (1948): no scattering is Beer's law, no absorption is R0 = SX/(1 + SX).
    #[test]
    fn kubelkas_limits() {
        assert!((over(3.0, 0.0, 200.0, 0.8) - 0.8 * (-2.0 * 3.0 * 0.2f64).exp()).abs() < 1e-12);
        assert!((over(0.0, 10.0, 150.0, 0.0) - 1.5 / 2.5).abs() < 1e-12);
        assert!((over(0.0, 10.0, 150.0, 1.0) - 1.0).abs() < 1e-12);
        assert_eq!(over(5.0, 5.0, 0.0, 0.37), 0.37);
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
            let r = over(k, s, x, ground);
            prop_assert!(r.is_finite() && (0.0..=1.0).contains(&r));
        }

        #[test]
        fn two_half_films_are_one(k in 0.001..500.0f64, s in 0.001..500.0f64, x in 0.1..500.0f64, ground in 0.0..=1.0f64) {
            let half = over(k, s, x / 2.0, ground);
            prop_assert!((over(k, s, x / 2.0, half) - over(k, s, x, ground)).abs() < 1e-9);
        }

        #[test]
        fn thicker_goes_towards_the_masstone(k in 0.001..500.0f64, s in 0.001..500.0f64, x in 0.1..500.0f64, ground in 0.0..=1.0f64) {
            let masstone = thick(k, s);
            let far = |x| (over(k, s, x, ground) - masstone).abs();
            prop_assert!(far(x * 1.5) <= far(x) + 1e-12);
        }

        #[test]
        fn over_a_lighter_ground_it_is_never_darker(k in coefficient(), s in coefficient(), x in thickness(), ground in 0.0..0.9f64) {
            prop_assert!(over(k, s, x, ground + 0.1) >= over(k, s, x, ground) - 1e-12);
        }

        #[test]
        fn more_absorption_is_never_lighter(k in coefficient(), s in coefficient(), x in thickness(), ground in 0.0..=1.0f64) {
            prop_assert!(over(k * 2.0 + 1e-6, s, x, ground) <= over(k, s, x, ground) + 1e-9);
        }

        #[test]
        fn an_opaque_film_forgets_its_ground(r in 0.01..0.95f64, s in 1.0..100.0f64) {
            let optics = Optics::of_thick_film(&Reflectance::grey(r), s);
            let seen = optics.over(Microns::new(1e6).unwrap(), &Reflectance::grey(0.1));
            prop_assert!((seen.bands()[0] - r).abs() < 1e-9);
        }
    }
}
