//! Benefit of a test before it is made.
//!
//! The uncertainty of a paint is the mean band of its 1 : 1 mixes with the others on the shelf, which are held at their
//! best guess. To see what a test would leave of it, the test is made on the plausible shelves: each is moved by −C (Y +
//! noise)⁻¹ (y + ε), where Y is the covariance of the simulated readings, C their covariance with ln K, ln S, α and φ of
//! the paint, y the deviation of this shelf's reading from the best and ε a draw of the noise (ensemble Kalman filter
//! with perturbed observations: G. Burgers, P. J. van Leeuwen and G. Evensen, *Mon. Weather Rev.* 126 (1998) 1719). Then
//! the mixes are made again. The reading itself is assumed to be as expected.

use nalgebra::{DMatrix, DVector};
use strum::VariantArray as _;
use warm_blend_paint::{
    FilmState, Material, Microns, Optics, Parts, SurfaceReflection,
    hiding::{COAT, chart_black, chart_white},
    mix,
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz};

use super::{
    discrepancy,
    draws::{self, MEMBERS, Whose},
    ensemble::{Ensemble, band90},
    local_metric::LocalMetric,
    reading::{GROUPS, PartsMethod, Source, TOGETHER},
    residual::group_mean,
};

/// A test of a paint.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, strum::IntoStaticStr, strum::VariantArray)]
#[strum(serialize_all = "kebab-case")]
pub enum Test {
    /// A mix of one part with one part of the house white.
    #[strum(serialize = "tint-1-1")]
    TintHalf,
    /// A mix of one part with four parts of the house white.
    #[strum(serialize = "tint-1-4")]
    TintFifth,
    /// A mix of four parts of a pale paint with one of a dark paint: white reveals little about a paint that is nearly
    /// white.
    Darkened,
    /// Its dry masstone.
    Masstone,
    /// A drawdown: one coat over black and white.
    Drawdown,
    /// A sample sealed with clear wax.
    Sealed,
}

impl Test {
    /// All tests.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// `tint-1-1`, `tint-1-4`, `darkened`, `masstone`, `drawdown` or `sealed`.
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// True if it needs the house white.
    pub const fn needs_white(self) -> bool {
        matches!(self, Test::TintHalf | Test::TintFifth)
    }

    /// Paints and parts to mix; `None` if something it needs is missing.
    pub fn of<P>(self, paint: P, white: Option<P>, dark: Option<P>) -> Option<Vec<(P, Parts)>> {
        let (own, other, parts) = match self {
            Test::TintHalf => (1.0, white, 1.0),
            Test::TintFifth => (1.0, white, 4.0),
            Test::Darkened => (4.0, dark, 1.0),
            Test::Masstone | Test::Drawdown | Test::Sealed => return Some(vec![(paint, Parts::of(1.0))]),
        };
        Some(vec![(paint, Parts::of(own)), (other?, Parts::of(parts))])
    }

    /// The sample of a test on one plausible shelf, with `pour` times the intended amount of the paint: one curve, or two
    /// over black and white.
    fn sample(self, shelf: &OneShelf, pour: f64) -> Option<Vec<Reflectance>> {
        let mut of: Vec<(Parts, &Material)> = self
            .of(&shelf.paint, shelf.white.as_ref(), shelf.dark.as_ref())?
            .into_iter()
            .map(|(material, parts)| (parts, material))
            .collect();
        of[0].0 = Parts::of(of[0].0.value() * pour);
        let stirred = mix(&of).ok()?;
        Some(match self {
            Test::Drawdown => {
                let over = |ground| stirred.film(Microns::of(COAT), ground);
                vec![over(chart_black()), over(chart_white())]
            }
            Test::Sealed => vec![stirred.in_state(FilmState::Sealed).masstone()],
            _ => vec![stirred.masstone()],
        })
    }
}

/// What a colour reader measures.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Reads {
    /// L\*a\*b\* only.
    Colours,
    /// Reflectance by band.
    Spectra,
}

/// Paints used to judge and to test a paint.
#[derive(Debug, Clone, Copy)]
pub struct Beside<'a> {
    /// Paints it may be mixed with, at their best guess.
    pub others: &'a [&'a Material],
    /// The house white.
    pub white: Option<&'a Ensemble>,
    /// A dark paint for testing a pale one.
    pub dark: Option<&'a Ensemble>,
}

/// Materials of a test on one plausible shelf.
struct OneShelf {
    paint: Material,
    white: Option<Material>,
    dark: Option<Material>,
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

/// Uncertainty of a paint, and what each test would leave of it.
#[derive(Debug, Clone, PartialEq)]
pub struct Worth {
    /// Mean 90 % band of its 1 : 1 mixes, ΔE00.
    pub doubt: f64,
    /// Mean band expected after each possible test, best first.
    pub after: Vec<(Test, f64)>,
}

/// Mean 90 % band of the 1 : 1 mixes of `paint` with the others, ΔE00; 0 without others.
///
/// Only relative strength matters in a thick mix: an error common to all strengths is no uncertainty of this paint, so
/// that of the house white is removed.
pub(super) fn doubt(paint: &Ensemble, beside: Beside) -> f64 {
    let strength = |white: &Material| white.optics.s()[MIDDLE].max(f64::MIN_POSITIVE);
    let share = |member: Option<usize>| match (beside.white, member) {
        (Some(white), Some(m)) => Parts::of(strength(white.best()) / strength(&white.member(m))),
        _ => Parts::of(1.0),
    };
    let plausible: Vec<(Parts, Material)> = (0..MEMBERS).map(|m| (share(Some(m)), paint.member(m))).collect();
    let band = |partner: &&Material| {
        let half = |(share, paint): (Parts, &Material)| {
            mix(&[(share, paint), (Parts::of(1.0), partner)]).map(|mixed| lab(&mixed.masstone()))
        };
        let plausible = plausible.iter().filter_map(|(share, paint)| half((*share, paint)).ok());
        half((share(None), paint.best())).map_or(0.0, |best| band90(best, plausible))
    };
    beside.others.iter().map(band).sum::<f64>() / beside.others.len().max(1) as f64
}

/// Benefit of each test of `paint`, with a device that measures `reads`.
pub fn worth(paint: &Ensemble, beside: Beside, reads: Reads) -> Worth {
    if beside.others.is_empty() {
        return Worth { doubt: 0.0, after: Vec::new() };
    }
    let known = Known { paint: paint.clone(), white: beside.white.cloned(), dark: beside.dark.cloned() };
    let mut after: Vec<(Test, f64)> = Test::ALL
        .into_iter()
        .filter_map(|test| {
            let taught = known.taught(test, reads)?;
            Some((test, doubt(&taught.paint, Beside { white: taught.white.as_ref(), ..beside })))
        })
        .collect();
    after.sort_by(|one, other| one.1.total_cmp(&other.1));
    Worth { doubt: doubt(paint, beside), after }
}

/// `paint` after a test came out as expected, with a device that measures `reads`; `None` if something it needs is missing.
pub(super) fn after_test(test: Test, paint: &Ensemble, beside: Beside, reads: Reads) -> Option<Ensemble> {
    let known = Known { paint: paint.clone(), white: beside.white.cloned(), dark: beside.dark.cloned() };
    known.taught(test, reads).map(|taught| taught.paint)
}

/// 550 nm.
const MIDDLE: usize = 17;

/// Number of steps of the update, each with correspondingly more noise, because mixes are not linear in their paints (A.
/// A. Emerick and A. C. Reynolds, *Comput. Geosci.* 55 (2013) 3).
const STEPS: usize = 4;

/// Factor on the reader's sd for the shapes that are not fitted.
const FINER: f64 = 1.5;

/// Materials of a test with their uncertainty.
#[derive(Clone)]
struct Known {
    paint: Ensemble,
    white: Option<Ensemble>,
    dark: Option<Ensemble>,
}

impl Known {
    /// The best shelf, or a plausible one.
    fn shelf(&self, member: Option<usize>) -> OneShelf {
        let one = |ensemble: &Ensemble| match member {
            Some(m) => ensemble.member(m),
            None => ensemble.best().clone(),
        };
        OneShelf {
            paint: one(&self.paint),
            white: self.white.as_ref().map(one),
            dark: self.dark.as_ref().map(one),
        }
    }

    /// The state after the test came out as expected; `None` if something it needs is missing.
    fn taught(&self, test: Test, reads: Reads) -> Option<Self> {
        let expected = test.sample(&self.shelf(None), 1.0)?;
        let eyes: Vec<LocalMetric> = expected.iter().map(|curve| LocalMetric::at(lab(curve))).collect();
        let numbers = |curves: Vec<Reflectance>| -> DVector<f64> {
            let each = curves.iter().zip(&eyes).flat_map(|(curve, eye)| match reads {
                Reads::Colours => {
                    let Lab { l, a, b } = lab(curve);
                    eye.weigh([l, a, b]).to_vec()
                }
                Reads::Spectra => (0..GROUPS).map(|group| group_mean(curve, group)).collect(),
            });
            DVector::from_vec(each.collect())
        };
        let middle = numbers(expected);
        let n = middle.len();
        let reader = Source::Reader;
        let of_a_mix = test.of((), Some(()), Some(())).is_some_and(|of| of.len() > 1);
        let mut noise = match reads {
            Reads::Colours => {
                DMatrix::identity(n, n) * (reader.sd().powi(2) + discrepancy::colour_sd(of_a_mix).powi(2))
            }
            Reads::Spectra => {
                let own = |i: usize| FINER * reader.band_sd(middle[i], i % GROUPS * TOGETHER + TOGETHER / 2);
                let gain = &middle * reader.gain_sd();
                let model = |i: usize| discrepancy::by_group(of_a_mix, i % GROUPS, middle[i]);
                let model = DMatrix::from_row_iterator(n, GROUPS, (0..n).flat_map(model));
                DMatrix::from_diagonal(&DVector::from_fn(n, |i, _| own(i).powi(2)))
                    + &gain * gain.transpose()
                    + &model * model.transpose()
            }
        };
        if of_a_mix {
            // An error of the pour of a tint, in the direction of more paint.
            let poured = numbers(test.sample(&self.shelf(None), 1.0 + PartsMethod::Spoons.sd())?) - &middle;
            noise += &poured * poured.transpose();
        }
        noise *= STEPS as f64;
        let root = noise.clone().cholesky()?.l();
        let mut known = self.clone();
        for step in 0..STEPS {
            let mut deviations = DMatrix::zeros(n, MEMBERS);
            for m in 0..MEMBERS {
                let read = numbers(test.sample(&known.shelf(Some(m)), 1.0)?);
                deviations.set_column(m, &(read - &middle));
            }
            let spread = &deviations * deviations.transpose() / MEMBERS as f64 + &noise;
            let chance = &root * draws::unit_normals(Whose::Test(step), n);
            let news = spread.cholesky()?.solve(&(&deviations + chance)) / MEMBERS as f64;
            let teach = |of: &Ensemble| moved(of, &deviations, &news);
            known = Self {
                paint: teach(&known.paint),
                white: known.white.as_ref().map(teach),
                dark: known.dark.as_ref().map(teach),
            };
        }
        Some(known)
    }
}

/// Plausible materials after an update: each is moved by its covariance with the reading.
fn moved(of: &Ensemble, deviations: &DMatrix<f64>, news: &DMatrix<f64>) -> Ensemble {
    let best = logarithms(of.best());
    let members: Vec<Vec<f64>> = (0..MEMBERS).map(|m| logarithms(&of.member(m))).collect();
    let spread = DMatrix::from_fn(best.len(), MEMBERS, |i, m| members[m][i] - best[i]);
    let by = &spread * deviations.transpose() * news;
    let moved = members.iter().enumerate().map(|(m, own)| {
        let at: Vec<f64> = own.iter().enumerate().map(|(i, ln)| ln - by[(i, m)]).collect();
        from_logarithms(&of.member(m), &at)
    });
    Ensemble::new(of.best().clone(), moved)
}

/// ln K, ln S, ln α and ln φ of a material.
fn logarithms(of: &Material) -> Vec<f64> {
    let all = of.optics.k().iter().chain(of.optics.s()).copied().chain([of.sheen.alpha(), of.voids]);
    all.map(|v| v.max(f64::MIN_POSITIVE).ln()).collect()
}

/// The material with these logarithms, otherwise like another.
fn from_logarithms(like: &Material, at: &[f64]) -> Material {
    let bands = |from: usize| std::array::from_fn(|i| at[from + i].exp());
    Material {
        optics: Optics::new(bands(0), bands(BANDS)),
        sheen: SurfaceReflection::new(at[2 * BANDS].exp()),
        voids: at[2 * BANDS + 1].exp(),
        ..like.clone()
    }
}
