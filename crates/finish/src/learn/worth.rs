//! What a test would buy, before it is made.
//!
//! The doubt a paint brings to mixes is the mean band of its 1 : 1 mixes with the others on the shelf, these held at
//! their best guess. A test tells of it as far as the two move together over the plausible shelves: of the mixes'
//! covariance M the part M − C (Y + noise)⁻¹ Cᵀ stays, where Y is that of the test and C what they share (the update of
//! the ensemble Kalman filter: G. Evensen, *J. Geophys. Res.* 99 (1994) 10143). No reading is needed for that.

use nalgebra::DMatrix;
use warm_blend_spectral::{Lab, Light, Reflectance, Xyz, difference};

use super::draws::MEMBERS;
use super::ensemble::Ensemble;
use super::eye::Eye;
use super::reading::{Pour, Source};
use crate::hiding::{COAT, chart_black, chart_white};
use crate::{Material, Microns, Parts, State, mix};

/// A test that can be made of a paint.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Test {
    /// Its dry masstone with the reader.
    Masstone,
    /// One part with one part of the house white.
    TintHalf,
    /// One part with four parts of the house white.
    TintFifth,
    /// Four parts of a pale paint with one of a dark one: white tells little of a paint that is nearly white.
    Darkened,
    /// One coat over black and white.
    Drawdown,
    /// Sealed with clear wax.
    Sealed,
}

impl Test {
    /// All of them.
    pub const ALL: [Test; 6] =
        [Test::TintHalf, Test::TintFifth, Test::Darkened, Test::Masstone, Test::Drawdown, Test::Sealed];

    /// `tint-1-1`, `tint-1-4`, `darkened`, `masstone`, `drawdown` or `sealed`.
    pub const fn id(self) -> &'static str {
        match self {
            Test::Masstone => "masstone",
            Test::TintHalf => "tint-1-1",
            Test::TintFifth => "tint-1-4",
            Test::Darkened => "darkened",
            Test::Drawdown => "drawdown",
            Test::Sealed => "sealed",
        }
    }

    /// Whether it needs the house white.
    pub const fn needs_white(self) -> bool {
        matches!(self, Test::TintHalf | Test::TintFifth)
    }

    /// What is stirred together for it, with the parts of each; None where what it needs is not there.
    pub fn of<P>(self, paint: P, white: Option<P>, dark: Option<P>) -> Option<Vec<(P, Parts)>> {
        let (own, other, parts) = match self {
            Test::TintHalf => (1.0, white, 1.0),
            Test::TintFifth => (1.0, white, 4.0),
            Test::Darkened => (4.0, dark, 1.0),
            Test::Masstone | Test::Drawdown | Test::Sealed => return Some(vec![(paint, Parts::of(1.0))]),
        };
        Some(vec![(paint, Parts::of(own)), (other?, Parts::of(parts))])
    }

    /// What the reader would say on one plausible shelf, of which `pour` times as much of the paint was taken as was
    /// meant: one colour, or two over black and white.
    fn read(self, shelf: OneShelf, pour: f64) -> Option<Vec<Lab>> {
        let mut of: Vec<(Parts, &Material)> = self
            .of(shelf.paint, shelf.white, shelf.dark)?
            .into_iter()
            .map(|(material, parts)| (parts, material))
            .collect();
        of[0].0 = Parts::of(of[0].0.value() * pour);
        let stirred = mix(&of).ok()?;
        Some(match self {
            Test::Drawdown => {
                let over = |ground| lab(&stirred.film(Microns::of(COAT), ground));
                vec![over(chart_black()), over(chart_white())]
            }
            Test::Sealed => vec![lab(&stirred.in_state(State::Sealed).masstone())],
            _ => vec![lab(&stirred.masstone())],
        })
    }
}

/// What stands beside a paint when its mixes are thought of, and when it is tested.
#[derive(Debug, Clone, Copy)]
pub struct Beside<'a> {
    /// What it may be mixed with, at the best guess.
    pub others: &'a [&'a Material],
    /// The house white.
    pub white: Option<&'a Ensemble>,
    /// A dark paint to try a pale one with.
    pub dark: Option<&'a Ensemble>,
}

/// What takes part in a test, of one plausible shelf.
#[derive(Clone, Copy)]
struct OneShelf<'a> {
    paint: &'a Material,
    white: Option<&'a Material>,
    dark: Option<&'a Material>,
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

/// The doubt a paint brings to mixes, and what each test would leave of it.
#[derive(Debug, Clone, PartialEq)]
pub struct Worth {
    /// Mean 90 % band of its 1 : 1 mixes, ΔE00.
    pub doubt: f64,
    /// What it would be after each test that can be made, the best first.
    pub after: Vec<(Test, f64)>,
}

/// The mean 90 % band of the 1 : 1 mixes of `paint` with the others, ΔE00; 0 without any.
pub(super) fn doubt(paint: &Ensemble, beside: Beside) -> f64 {
    let mixes = with_each(paint, beside);
    mixes.iter().map(|mixed| mixed.band).sum::<f64>() / mixes.len().max(1) as f64
}

/// Its mixes with each partner. In a thick mix only strength against strength counts: what all strengths may be off by
/// together is no doubt of this paint, so that of the house white is taken out.
fn with_each(paint: &Ensemble, beside: Beside) -> Vec<Looked> {
    const MIDDLE: usize = 17; // 550 nm
    let strength = |white: &Material| white.optics.s()[MIDDLE].max(f64::MIN_POSITIVE);
    let half = |partner: &&Material| {
        Looked::of(paint, beside, |shelf| {
            let share = match (beside.white, shelf.white) {
                (Some(white), Some(own)) => strength(white.best()) / strength(own),
                _ => 1.0,
            };
            mix(&[(Parts::of(share), shelf.paint), (Parts::of(1.0), partner)])
                .map(|mixed| vec![lab(&mixed.masstone())])
                .unwrap_or_default()
        })
    };
    beside.others.iter().map(half).collect()
}

/// What each test of `paint` would buy.
pub fn worth(paint: &Ensemble, beside: Beside) -> Worth {
    let mixes = with_each(paint, beside);
    if mixes.is_empty() {
        return Worth { doubt: 0.0, after: Vec::new() };
    }
    let mean = |of: &dyn Fn(&Looked) -> f64| mixes.iter().map(of).sum::<f64>() / mixes.len() as f64;
    let doubt = mean(&|mixed| mixed.band);
    let mut after: Vec<(Test, f64)> = Test::ALL
        .into_iter()
        .filter_map(|test| {
            let stirred = test.of((), beside.white.map(|_| ()), beside.dark.map(|_| ()))?.len() > 1;
            let read =
                |pour: f64| Looked::of(paint, beside, |shelf| test.read(shelf, pour).unwrap_or_default());
            let (told, poured) = (read(1.0), read(1.0 + Pour::Spoons.sd()));
            // The pour of a tint is off by a little, in the direction that more of the paint would take.
            let blur: Vec<f64> = told.best.iter().zip(&poured.best).map(|(one, other)| other - one).collect();
            Some((test, mean(&|mixed| mixed.band * mixed.left(&told, &blur, stirred))))
        })
        .collect();
    after.sort_by(|one, other| one.1.total_cmp(&other.1));
    Worth { doubt, after }
}

/// What a look at each plausible paint gives, around the look at the best guess, in the metric of the eye.
struct Looked {
    /// Numbers × members, deviations from the best.
    spread: DMatrix<f64>,
    /// The numbers of the best guess.
    best: Vec<f64>,
    /// 90 % band of the first colour.
    band: f64,
}

impl Looked {
    /// `look` is given each plausible shelf.
    fn of(paint: &Ensemble, beside: Beside, look: impl Fn(OneShelf) -> Vec<Lab>) -> Self {
        let best = look(OneShelf {
            paint: paint.best(),
            white: beside.white.map(Ensemble::best),
            dark: beside.dark.map(Ensemble::best),
        });
        let eyes: Vec<Eye> = best.iter().map(|lab| Eye::at(*lab)).collect();
        let weigh = |labs: &[Lab]| -> Vec<f64> {
            labs.iter().zip(&eyes).flat_map(|(lab, eye)| eye.weigh([lab.l, lab.a, lab.b])).collect()
        };
        let middle = weigh(&best);
        let mut spread = DMatrix::zeros(middle.len(), MEMBERS);
        let mut off = Vec::with_capacity(MEMBERS);
        for i in 0..MEMBERS {
            let looked = look(OneShelf {
                paint: paint.member(i),
                white: beside.white.map(|white| white.member(i)),
                dark: beside.dark.map(|dark| dark.member(i)),
            });
            off.push(looked.iter().zip(&best).map(|(one, other)| difference(*one, *other).value()).next());
            for (row, (value, middle)) in weigh(&looked).iter().zip(&middle).enumerate() {
                spread[(row, i)] = value - middle;
            }
        }
        let mut off: Vec<f64> = off.into_iter().flatten().collect();
        off.sort_by(f64::total_cmp);
        let band = off.get(off.len() * 9 / 10).copied().unwrap_or(0.0);
        Self { spread, best: middle, band }
    }

    /// What share of this look's spread stays once `told` has been read.
    fn left(&self, told: &Looked, blur: &[f64], poured: bool) -> f64 {
        let n = told.spread.nrows();
        let noise = Source::Reader.sd().powi(2);
        let covariance = DMatrix::from_fn(n, n, |i, j| {
            let same = if i == j { noise } else { 0.0 };
            same + if poured { blur[i] * blur[j] } else { 0.0 }
        }) * MEMBERS as f64
            + &told.spread * told.spread.transpose();
        let shared = &self.spread * told.spread.transpose();
        let all = (&self.spread * self.spread.transpose()).trace();
        let explained =
            covariance.cholesky().map_or(0.0, |root| (&shared * root.solve(&shared.transpose())).trace());
        if all > 0.0 { ((all - explained) / all).max(0.0).sqrt() } else { 1.0 }
    }
}
