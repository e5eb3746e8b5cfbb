//! What is believed of a paint before anything was read of it.
//!
//! A paint is a point in a small space: unit-normal coordinates, each a *mode* of what may be wrong with the first guess.
//!
//! | coordinates | what they move | prior sd |
//! |---|---|---|
//! | 5 shapes | the masstone curve, as z = artanh(2R − 1) | steps of 0.05 to 0.17 a band, held to the stated colour |
//! | 1 level | ln S in all bands | 0.6 by class, 0.5 by coats to hide, 0.25 of the house white† |
//! | 2 slopes | ln S from band to band | 0.06 a band† from 550 nm outwards |
//! | 1 sheen | ln α | 0.25† |
//! | 1 voids | ln φ | 0.35† |
//!
//! Ten finer shapes are not fitted: they are taken out of every reading as chance, and every plausible paint draws its own.
//!
//! The stated colour is the smoothest curve of that colour. The true curve wanders from it as a random walk in z whose
//! first modes are those that an eye would notice most (a Karhunen–Loève expansion in the metric of daylight vision:
//! R. G. Ghanem and P. D. Spanos, *Stochastic Finite Elements* (1991), ch. 2). The steps of the walk are those of
//! measured surfaces (`shape_step`), whose smoothest curves are off under a bulb by 0.8 ΔE00 in the median.

use std::sync::LazyLock;

use nalgebra::{DMatrix, SMatrix, SVector, SymmetricEigen};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz};

use super::eye::{Eye, Rows, lab_by_band};
use super::reading::Source;
use crate::film::{Optics, k_over_s};
use crate::strength::by_class;
use crate::surface::{K1, K2, LEAST, MOST, Sheen};
use crate::{BadPaint, Class, CoatsToHide, Masstone, Material, Role};

const SHAPES: usize = 5;
/// Finer shapes, which are not fitted but taken out of every reading as chance.
const FINE: usize = 10;
const SLOPES: usize = 2;
/// Where each group of coordinates begins.
const LEVEL: usize = SHAPES;
const SHEEN: usize = LEVEL + 1 + SLOPES;
const VOIDS: usize = SHEEN + 1;
/// Coordinates of one paint.
pub(crate) const DIMENSIONS: usize = VOIDS + 1;

/// Step of the walk of z from band `i` to the next: how much more 38 measured surfaces (the test colour samples 1–14 of
/// CIE 13.3 and 24 chart patches, Ohta 1997) change there than the smoothest curves of their colours. Whites and much
/// else turn dark towards the violet end, where an eye hardly sees it.
const fn shape_step(i: usize) -> f64 {
    const VIOLET: [f64; 4] = [0.17, 0.17, 0.13, 0.09];
    if i < VIOLET.len() {
        VIOLET[i]
    } else if i < 30 {
        0.05
    } else {
        0.07
    }
}
/// Step of the walk of ln S from band to band, from 550 nm outwards†.
const SLOPE_STEP: f64 = 0.06;
/// sd of ln s where the class says it and where coats to hide say it†.
const BY_CLASS: f64 = 0.6;
const BY_COATS: f64 = 0.5;
/// And of the house white, which strengths are measured against†.
const OF_HOUSE_WHITE: f64 = 0.25;
/// sd of ln α and of ln φ†.
const SHEEN_SD: f64 = 0.25;
const VOIDS_SD: f64 = 0.35;
/// α k1 never explains more than this share of the darkest band.
const MOST_SURFACE: f64 = 0.95;

pub(crate) type Bands = [f64; BANDS];
type Square = SMatrix<f64, BANDS, BANDS>;

/// What is written down of a tin, and what its colour was taken from.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Facts {
    /// What kind of product it is.
    pub class: Class,
    /// Its dry, thick, unsealed colour; a medium needs none.
    pub masstone: Option<Masstone>,
    /// What that colour was taken from.
    pub source: Source,
    /// Coats it is said to need.
    pub coats_to_hide: Option<CoatsToHide>,
    /// Share of the area that flakes cover; by class where unknown.
    pub lustre: Option<f64>,
    /// True of the one white that strengths are measured against.
    pub house_white: bool,
}

/// The first guess at a paint and its modes; a medium is taken as it is.
#[derive(Debug, Clone)]
pub(crate) enum Prior {
    Medium(Box<Material>),
    Paint(Box<PaintPrior>),
}

#[derive(Debug, Clone)]
pub(crate) struct PaintPrior {
    z: Bands,
    shapes: [Bands; SHAPES],
    fine: [Bands; FINE],
    ln_s: f64,
    level_sd: f64,
    alpha: f64,
    voids: f64,
    milk: f64,
    lustre: f64,
}

/// A paint at some coordinates, with what each band does when they change.
#[derive(Debug, Clone)]
pub(crate) struct Local {
    pub k: Bands,
    pub s: Bands,
    pub alpha: f64,
    pub voids: f64,
    pub milk: f64,
    /// Share of the wet volume that stays.
    pub stays: f64,
    /// ∂K/∂coordinate and ∂S/∂coordinate, by coordinate; empty for a medium.
    pub dk: Vec<Bands>,
    pub ds: Vec<Bands>,
    /// ∂K by each of the finer shapes of the masstone.
    pub fine: Vec<Bands>,
    /// ∂α/∂(sheen coordinate), ∂φ/∂(voids coordinate).
    pub dalpha: f64,
    pub dvoids: f64,
}

impl Local {
    pub(crate) const SHEEN: usize = SHEEN;
    pub(crate) const VOIDS: usize = VOIDS;
}

impl Prior {
    /// The first guess from the facts, or from a spectrum of the masstone where one was read.
    pub(crate) fn of(facts: &Facts, read: Option<&Reflectance>) -> Result<Self, BadPaint> {
        let strength = match facts.class.role() {
            Role::Medium(_) => {
                let mut medium = Material::of(facts.class, None, None)?;
                medium.lustre = facts.lustre.unwrap_or(medium.lustre);
                return Ok(Prior::Medium(Box::new(medium)));
            }
            Role::Paint { strength } => strength,
        };
        let seen = match read {
            Some(spectrum) => inward(spectrum),
            None => facts.masstone.ok_or(BadPaint::NoColour)?.reflectance()?,
        };
        let sheen = Sheen::new(facts.class.sheen()).limited_by(&seen);
        let (shapes, fine) = shapes(&seen, read.is_some(), facts.source);
        let (s, level_sd) = match facts.coats_to_hide {
            Some(coats) => (coats.scattering(&sheen.inside(&seen), sheen), BY_COATS),
            None => (by_class(strength, &sheen.inside(&seen)), BY_CLASS),
        };
        Ok(Prior::Paint(Box::new(PaintPrior {
            z: seen.bands().map(depth),
            shapes,
            fine,
            ln_s: s.ln(),
            level_sd: if facts.house_white { level_sd.min(OF_HOUSE_WHITE) } else { level_sd },
            alpha: sheen.alpha(),
            voids: facts.class.voids(),
            milk: facts.class.milk(),
            lustre: facts.lustre.unwrap_or(facts.class.lustre()),
        })))
    }

    /// How many coordinates it has.
    pub(crate) fn dimensions(&self) -> usize {
        match self {
            Prior::Medium(_) => 0,
            Prior::Paint(_) => DIMENSIONS,
        }
    }

    /// How many an ensemble draws: the finer shapes too.
    pub(crate) fn drawn(&self) -> usize {
        match self {
            Prior::Medium(_) => 0,
            Prior::Paint(_) => DIMENSIONS + FINE,
        }
    }

    /// The material at some coordinates: `at` holds [`Prior::dimensions`] of them, or [`Prior::drawn`].
    pub(crate) fn material(&self, at: &[f64]) -> Material {
        match self {
            Prior::Medium(material) => (**material).clone(),
            Prior::Paint(prior) => {
                let (seen, ln_s) = prior.curves(at);
                let (alpha, _) = prior.sheen(at, &seen);
                let inside = Sheen::new(alpha).inside(&Reflectance::clamped(seen));
                let s = ln_s.map(f64::exp);
                let k = std::array::from_fn(|i| s[i] * k_over_s(inside.bands()[i]));
                Material {
                    optics: Optics::new(k, s),
                    sheen: Sheen::new(alpha),
                    stays: 1.0,
                    voids: prior.voids * (VOIDS_SD * at[VOIDS]).exp(),
                    milk: prior.milk,
                    lustre: prior.lustre,
                }
            }
        }
    }

    /// The same with its derivatives.
    pub(crate) fn local(&self, at: &[f64]) -> Local {
        match self {
            Prior::Medium(medium) => Local {
                k: *medium.optics.k(),
                s: *medium.optics.s(),
                alpha: medium.sheen.alpha(),
                voids: medium.voids,
                milk: medium.milk,
                stays: medium.stays,
                dk: Vec::new(),
                ds: Vec::new(),
                fine: Vec::new(),
                dalpha: 0.0,
                dvoids: 0.0,
            },
            Prior::Paint(prior) => prior.local(at, &self.material(at)),
        }
    }
}

impl PaintPrior {
    /// Seen reflectance and ln S, by band.
    fn curves(&self, at: &[f64]) -> (Bands, Bands) {
        let slopes = &*SLOPE_MODES;
        let mut z = self.z;
        let mut ln_s = [self.ln_s + self.level_sd * at[LEVEL]; BANDS];
        let go = |curve: &mut Bands, along: f64, mode: &Bands| {
            for (value, step) in curve.iter_mut().zip(mode) {
                *value += along * step;
            }
        };
        let fine = self.fine.iter().zip(&at[DIMENSIONS..]);
        self.shapes.iter().zip(at).chain(fine).for_each(|(mode, along)| go(&mut z, *along, mode));
        slopes.iter().zip(&at[LEVEL + 1..]).for_each(|(mode, along)| go(&mut ln_s, *along, mode));
        (z.map(share), ln_s)
    }

    /// α, and its derivative by the sheen coordinate.
    fn sheen(&self, at: &[f64], seen: &Bands) -> (f64, f64) {
        let alpha = self.alpha * (SHEEN_SD * at[SHEEN]).exp();
        let most = MOST_SURFACE * seen.iter().copied().fold(f64::INFINITY, f64::min) / K1;
        if alpha < most.min(1.0) { (alpha, SHEEN_SD * alpha) } else { (most.min(1.0), 0.0) }
    }

    fn local(&self, at: &[f64], material: &Material) -> Local {
        let (seen, _) = self.curves(at);
        let (alpha, dalpha) = self.sheen(at, &seen);
        let (k, s) = (*material.optics.k(), *material.optics.s());
        // K = S · K/S(r), r = y/(A + k2 y), y = R − α k1, R = (1 + tanh z)/2.
        let pass = (1.0 - K1) * (1.0 - K2);
        let dk_dy: Bands = std::array::from_fn(|i| {
            let y = (seen[i] - alpha * K1).max(1e-9);
            let r = y / (pass + K2 * y);
            // Held at the ends, it does not move.
            if !(LEAST..=MOST).contains(&r) {
                return 0.0;
            }
            s[i] * (r * r - 1.0) / (2.0 * r * r) * pass / (pass + K2 * y).powi(2)
        });
        let none = [0.0; BANDS];
        let mut dk = vec![none; DIMENSIONS];
        let mut ds = vec![none; DIMENSIONS];
        let mut fine = vec![none; FINE];
        for i in 0..BANDS {
            let dk_dz = dk_dy[i] * 2.0 * seen[i] * (1.0 - seen[i]);
            for (dk, shape) in dk.iter_mut().zip(&self.shapes).chain(fine.iter_mut().zip(&self.fine)) {
                dk[i] = dk_dz * shape[i];
            }
            dk[LEVEL][i] = k[i] * self.level_sd;
            ds[LEVEL][i] = s[i] * self.level_sd;
            for j in 0..SLOPES {
                dk[LEVEL + 1 + j][i] = k[i] * SLOPE_MODES[j][i];
                ds[LEVEL + 1 + j][i] = s[i] * SLOPE_MODES[j][i];
            }
            dk[SHEEN][i] = -K1 * dalpha * dk_dy[i];
        }
        let voids = material.voids;
        Local {
            k,
            s,
            alpha,
            voids,
            milk: self.milk,
            stays: 1.0,
            dk,
            ds,
            fine,
            dalpha,
            dvoids: VOIDS_SD * voids,
        }
    }
}

/// R of z: (1 + tanh z)/2.
fn share(z: f64) -> f64 {
    1.0 / (1.0 + (-2.0 * z).exp())
}

/// z of R.
fn depth(r: f64) -> f64 {
    (2.0 * r - 1.0).atanh()
}

/// A read spectrum, kept off the ends where z has none.
fn inward(spectrum: &Reflectance) -> Reflectance {
    Reflectance::from_fn(|i| spectrum.bands()[i].clamp(0.002, 0.985))
}

/// The modes of a masstone curve around `seen`: of the random walk, held to the colour by its source, or to every band
/// where the spectrum was read.
fn shapes(seen: &Reflectance, read: bool, source: Source) -> ([Bands; SHAPES], [Bands; FINE]) {
    let slope = seen.bands().map(|r| 2.0 * r * (1.0 - r)); // dR/dz
    let mut precision = walk();
    let white = Light::Daylight.white();
    let colour = Lab::of(Xyz::of(seen, Light::Daylight), white);
    let rows = lab_by_band(colour, &Eye::at(colour), Light::Daylight);
    let (held, sd) = if read { (Source::Reader, Source::Reader.sd()) } else { (source, source.sd()) };
    hold(&mut precision, &rows, &slope, sd);
    if read {
        // The inverse of diag(sd²) + gain gainᵀ (Sherman and Morrison 1950).
        let by_band = SVector::<f64, BANDS>::from_fn(|i, _| held.band_sd(seen.bands()[i], i).powi(-2));
        let gain = SVector::<f64, BANDS>::from_fn(|i, _| seen.bands()[i] * held.gain_sd() * by_band[i]);
        let shared = 1.0 + (0..BANDS).map(|i| gain[i] * gain[i] / by_band[i]).sum::<f64>();
        for i in 0..BANDS {
            for j in 0..BANDS {
                let own = if i == j { by_band[i] } else { 0.0 };
                precision[(i, j)] += slope[i] * slope[j] * (own - gain[i] * gain[j] / shared);
            }
        }
    }
    let covariance = precision.try_inverse().unwrap_or_else(Square::zeros);
    let all: [Bands; SHAPES + FINE] = modes(&covariance, |i| visible(i) * slope[i]);
    (std::array::from_fn(|j| all[j]), std::array::from_fn(|j| all[SHAPES + j]))
}

/// Adds to the precision that the colour is known to within `sd` a direction.
fn hold(precision: &mut Square, rows: &Rows, slope: &Bands, sd: f64) {
    for row in rows {
        let row = SVector::<f64, BANDS>::from_fn(|i, _| row[i] * slope[i] / sd);
        *precision += row * row.transpose();
    }
}

/// Σ ((z[i+1] − z[i])/step)² as a matrix.
fn walk() -> Square {
    let mut sum = Square::zeros();
    for i in 0..BANDS - 1 {
        let weight = 1.0 / (shape_step(i) * shape_step(i));
        sum[(i, i)] += weight;
        sum[(i + 1, i + 1)] += weight;
        sum[(i, i + 1)] -= weight;
        sum[(i + 1, i)] -= weight;
    }
    sum
}

/// How much a band counts for the eye in daylight: the root mean square of its three weights.
pub(crate) fn visible(i: usize) -> f64 {
    let [x, y, z] = Light::Daylight.weights();
    (x[i] * x[i] + y[i] * y[i] + z[i] * z[i]).sqrt()
}

/// The `N` modes of a covariance that matter most when band `i` counts `weight(i)`.
fn modes<const N: usize>(covariance: &Square, weight: impl Fn(usize) -> f64) -> [Bands; N] {
    // A hair on the diagonal keeps a singular covariance (an anchored walk) factorable.
    let root = (covariance + Square::identity() * 1e-12).cholesky().map_or_else(Square::zeros, |c| c.l());
    let weighed = DMatrix::from_fn(BANDS, BANDS, |i, j| weight(i) * root[(i, j)]);
    let eigen = SymmetricEigen::new(weighed.transpose() * &weighed);
    let mut order: Vec<usize> = (0..BANDS).collect();
    order.sort_by(|a, b| eigen.eigenvalues[*b].total_cmp(&eigen.eigenvalues[*a]));
    std::array::from_fn(|n| {
        let along = eigen.eigenvectors.column(order[n]);
        std::array::from_fn(|i| (0..BANDS).map(|j| root[(i, j)] * along[j]).sum())
    })
}

/// Modes of ln S: a walk from 550 nm outwards. The same for every paint.
static SLOPE_MODES: LazyLock<[Bands; SLOPES]> = LazyLock::new(|| {
    const MIDDLE: usize = 17;
    let covariance = Square::from_fn(|i, j| {
        let (one, other) = (i as f64 - MIDDLE as f64, j as f64 - MIDDLE as f64);
        let shared = if one * other > 0.0 { one.abs().min(other.abs()) } else { 0.0 };
        SLOPE_STEP * SLOPE_STEP * shared
    });
    modes(&covariance, visible)
});

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn facts() -> impl Strategy<Value = Facts> {
        (any::<[u8; 3]>(), 0usize..8, proptest::option::of(0.5..6.0f64)).prop_map(
            |([red, green, blue], class, coats)| Facts {
                class: Class::ALL[class],
                masstone: Some(Masstone::Hex(warm_blend_spectral::Srgb { red, green, blue })),
                source: Source::Chip,
                coats_to_hide: coats.map(|coats| CoatsToHide::new(coats).unwrap()),
                lustre: None,
                house_white: false,
            },
        )
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        #[test]
        fn before_any_reading_a_paint_is_what_its_tin_says(facts in facts()) {
            let told = Material::of(facts.class, facts.masstone, facts.coats_to_hide).unwrap();
            let guessed = Prior::of(&facts, None).unwrap().material(&[0.0; DIMENSIONS]);
            for i in 0..BANDS {
                prop_assert!((guessed.optics.k()[i] / told.optics.k()[i] - 1.0).abs() < 1e-6);
                prop_assert!((guessed.optics.s()[i] / told.optics.s()[i] - 1.0).abs() < 1e-9);
            }
            prop_assert_eq!(guessed.voids, told.voids);
        }

        #[test]
        fn derivatives_are_those_of_the_material(facts in facts(), at in proptest::collection::vec(-0.7..0.7f64, DIMENSIONS), j in 0..DIMENSIONS) {
            let prior = Prior::of(&facts, None).unwrap();
            let step = 1e-5;
            let moved = |by: f64| { let mut to = at.clone(); to[j] += by; prior.material(&to) };
            let (less, more, local) = (moved(-step), moved(step), prior.local(&at));
            // At the cap of the surface α follows the darkest band, which the local form leaves out.
            prop_assume!(local.dalpha != 0.0);
            for i in 0..BANDS {
                let slope = |of: fn(&Material) -> &[f64; BANDS]| (of(&more)[i] - of(&less)[i]) / (2.0 * step);
                let (dk, ds) = (slope(|m| m.optics.k()), slope(|m| m.optics.s()));
                prop_assert!((dk - local.dk[j][i]).abs() <= 1e-3 * (dk.abs() + 1e-3 * local.k[i]), "K at band {}: {} {}", i, dk, local.dk[j][i]);
                prop_assert!((ds - local.ds[j][i]).abs() <= 1e-3 * (ds.abs() + 1e-3 * local.s[i]));
            }
            prop_assert!(j != VOIDS || (more.voids - less.voids - 2.0 * step * local.dvoids).abs() < 1e-9);
        }
    }
}
