//! A reflectance curve from a colour.
//!
//! Infinitely many curves share a colour. Paint curves are smooth, so this is the smoothest one inside (0, 1): with R =
//! (1 + tanh z)/2, the z of least slope that satisfies T R = XYZ in daylight (S. A. Burns, “Numerical methods for
//! smoothest reflectance reconstruction”, *Color Research and Application* 45 (2020) 8). It is found by a damped Newton
//! method on the Lagrange conditions; if that fails, the target is approached in steps from the grey of the same
//! lightness.
//!
//! Burns defines slope as Σ (`z[i+1] − z[i]`)². Here it is stepsᵀ C⁻¹ steps, where C is the covariance of the steps of
//! 194 measured surfaces ([`step_covariance`]), so that steps which surfaces take together, such as the edge of a red and
//! what follows it, cost less than each alone. For 86 chips that were not used to make C, curves from codes are off by
//! 0.71 ΔE00 under a bulb in the median and 1.53 at the 90th percentile; with Burns' slope by 0.81 and 1.64.

mod steps;

use std::{convert::Infallible, sync::LazyLock};

use nalgebra::{SMatrix, SVector};
use quick_cache::sync::Cache;

use crate::{BANDS, Lab, Light, Reflectance, Xyz};

/// Unknowns: the 36 z and the three multipliers.
const N: usize = BANDS + 3;

/// How far every target is drawn towards mid grey, so that black and white, which no curve strictly inside (0, 1)
/// can have, are reached as well: it costs at most 0.003 ΔE00, at black.
const INWARD: f64 = 5e-6;

/// Chroma below which a colour is taken for a grey.
const GREY: f64 = 0.005;

/// Share of the white's X, Y or Z up to which a nearly black colour is lightened to begin with, and a nearly white one darkened.
const MID_TONE: f64 = 0.5;

/// How much of the least of X, Y and Z, relative to those of the white, may be a floor below the whole curve†.
const DARKEST: f64 = 0.8;
/// Floors that are tried.
const QUARTERS: [f64; 4] = [1.0, 0.75, 0.5, 0.25];

/// Largest error allowed in X, Y and Z (white Y = 1).
const CLOSE: f64 = 1e-9;

/// A colour that no reflecting surface can have in daylight.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum Unreachable {
    /// L\* is outside 0..=100 or not finite.
    #[error("lightness L* {0} is outside 0–100, black to white")]
    Lightness(f64),
    /// Too much chroma for the lightness.
    #[error(
        "no surface is this vivid at L* {l:.1}: in this hue the limit is about a* {a:.0}, b* {b:.0}",
        l = limit.l, a = limit.a, b = limit.b
    )]
    Chroma {
        /// The most vivid colour of that lightness and hue that can be.
        limit: Lab,
    },
}

/// The smoothest curve of this colour (Lab in daylight, D65 and 2°).
///
/// Accurate to 0.01 ΔE00. The error says why no curve exists, and names the nearest possible colour.
///
/// ```
/// use warm_blend_spectral::{Lab, Light, Xyz, smoothest};
/// let slate = Lab { l: 45.0, a: -3.0, b: -12.0 };
/// let curve = smoothest(slate)?;
/// let back = Lab::of(Xyz::of(&curve, Light::Daylight), Light::Daylight.white());
/// assert!((back.b + 12.0).abs() < 0.001);
/// # Ok::<(), warm_blend_spectral::Unreachable>(())
/// ```
pub fn smoothest(colour: Lab) -> Result<Reflectance, Unreachable> {
    let key = [colour.l, colour.a, colour.b].map(f64::to_bits);
    let answer = KNOWN.get_or_insert_with(&key, || Ok::<_, Infallible>(find(colour)));
    answer.unwrap_or_else(|never| match never {})
}

/// Curves of the colours that were asked for last, about a megabyte: a tin and a ground are asked for again and again.
static KNOWN: LazyLock<Cache<[u64; 3], Result<Reflectance, Unreachable>>> =
    LazyLock::new(|| Cache::new(4096));

/// The smoothest curve of this colour that reflects at least `floor` in every band, as anything below a surface does.
///
/// For a dark colour the floor drops to four fifths of its least tristimulus value (relative to the white); if no curve
/// above it has the colour, the floor is reduced by quarters down to zero.
///
/// ```
/// use warm_blend_spectral::{Lab, smoothest, smoothest_above};
/// let green = Lab { l: 45.0, a: -40.0, b: 15.0 };
/// assert!(smoothest(green)?.lowest() < 0.03);
/// assert!(smoothest_above(0.034, green)?.lowest() >= 0.034);
/// # Ok::<(), warm_blend_spectral::Unreachable>(())
/// ```
pub fn smoothest_above(floor: f64, colour: Lab) -> Result<Reflectance, Unreachable> {
    let white = Light::Daylight.white();
    let shares = |xyz: Xyz| {
        let (of, white) = (xyz.as_array(), white.as_array());
        std::array::from_fn::<f64, 3, _>(|c| of[c] / white[c])
    };
    let own = shares(colour.to_xyz(white));
    let floor = floor.min(DARKEST * own.into_iter().fold(f64::INFINITY, f64::min)).max(0.0);
    let above = |floor: f64| {
        let above = std::array::from_fn(|c| white.as_array()[c] * (own[c] - floor) / (1.0 - floor));
        let curve = smoothest(Lab::of(Xyz::from_array(above), white)).ok()?;
        Some(Reflectance::from_fn(|i| floor + (1.0 - floor) * curve.bands()[i]))
    };
    let mut floors = QUARTERS.into_iter().map(|quarter| quarter * floor).take_while(|floor| *floor > 0.0);
    floors.find_map(above).map_or_else(|| smoothest(colour), Ok)
}

fn find(colour: Lab) -> Result<Reflectance, Unreachable> {
    // A hair of slack: a screen's white comes out at 100.000004, by the rounded matrix of sRGB.
    if !(-1e-4..=100.0001).contains(&colour.l) {
        return Err(Unreachable::Lightness(colour.l));
    }
    match colour.chroma() {
        chroma if chroma <= MOST_CHROMA => {
            reach(colour).map(|z| curve(&z)).map_err(|limit| Unreachable::Chroma { limit })
        }
        chroma => {
            let nearer = if chroma.is_finite() { MOST_CHROMA / chroma } else { 0.0 };
            // Where even the nearer colour could be, it is the limit itself: still less than was asked for.
            let nearer =
                Lab { l: colour.l, a: zero_if_nan(colour.a * nearer), b: zero_if_nan(colour.b * nearer) };
            Err(Unreachable::Chroma { limit: reach(nearer).map_or_else(|limit| limit, |_| nearer) })
        }
    }
}

/// No surface has more chroma than this in daylight (the optimal colours end near 160).
const MOST_CHROMA: f64 = 200.0;

fn zero_if_nan(value: f64) -> f64 {
    if value.is_nan() { 0.0 } else { value }
}

fn curve(z: &State) -> Reflectance {
    Reflectance::from_fn(|i| share(z[i]))
}

/// R of z.
fn share(z: f64) -> f64 {
    0.5 * (1.0 + z.tanh())
}

/// z of R.
fn z_of(share: f64) -> f64 {
    0.5 * (share / (1.0 - share)).ln()
}

/// Covariance (not centred) of `z[i+1] − z[i]` over measured surfaces: how much z changes from band to band, and which
/// changes go together.
pub fn step_covariance() -> &'static SMatrix<f64, { BANDS - 1 }, { BANDS - 1 }> {
    static COVARIANCE: LazyLock<SMatrix<f64, { BANDS - 1 }, { BANDS - 1 }>> =
        LazyLock::new(|| SMatrix::from_fn(|i, j| 1e-4 * steps::COVARIANCE[i][j]));
    &COVARIANCE
}

/// What slope is measured by: half the squared slope is ½ zᵀ M z.
type Measure = SMatrix<f64, BANDS, BANDS>;

/// Differences of neighbours, by `weight` of two steps.
fn measure(weight: impl Fn(usize, usize) -> f64) -> Measure {
    let mut sum = Measure::zeros();
    for i in 0..BANDS - 1 {
        for j in 0..BANDS - 1 {
            let w = weight(i, j);
            sum[(i, j)] += w;
            sum[(i + 1, j + 1)] += w;
            sum[(i + 1, j)] -= w;
            sum[(i, j + 1)] -= w;
        }
    }
    sum
}

/// Burns' own: every step counts the same.
static PLAIN: LazyLock<Measure> = LazyLock::new(|| measure(|i, j| if i == j { 1.0 } else { 0.0 }));

/// That of measured surfaces, in units of their usual step.
static MEASURED: LazyLock<Measure> = LazyLock::new(|| {
    let covariance = step_covariance();
    let usual = covariance.trace() / (BANDS - 1) as f64;
    covariance.try_inverse().map_or(*PLAIN, |inverse| measure(|i, j| usual * inverse[(i, j)]))
});

type State = SVector<f64, N>;

/// Solves for a colour. The error is the most vivid colour of that lightness and hue that was reached.
fn reach(colour: Lab) -> Result<State, Lab> {
    // Nobody sees so little chroma, and close to white no curve may have it.
    let colour = if colour.chroma() < GREY { colour.with_chroma_scaled(0.0) } else { colour };
    let target = target(colour);
    let attempt = |start: &State| newton(start, target, &MEASURED);
    if let Some(state) = attempt(&grey_state(colour)).or_else(|| attempt(&from_mid_tone(target)?)) {
        return Ok(state);
    }
    // At the rim of what can be, Burns' slope leads further, and from its curve it may not be far.
    let plain = reach_plainly(colour)?;
    Ok(newton(&plain, target, &MEASURED).unwrap_or(plain))
}

/// A start for what is nearly black or nearly white: the curve of the mid tone that reflects, or absorbs, so many times as much in every
/// band, brought back in that ratio. It has the colour, and is nearly the smoothest.
fn from_mid_tone(target: [f64; 3]) -> Option<State> {
    let white = Light::Daylight.white().as_array();
    let most = |of: [f64; 3]| (0..3).map(|c| of[c] / white[c]).fold(0.0, f64::max);
    let left = std::array::from_fn(|c| white[c] - target[c]);
    let dark = target[1] < 0.5;
    let own = if dark { target } else { left };
    let ratio = MID_TONE / most(own);
    if ratio <= 1.0 || !ratio.is_finite() {
        return None;
    }
    let mid: [f64; 3] = std::array::from_fn(|c| ratio * own[c]);
    let mid_tone = newton(&level(mid[1]), mid, &MEASURED)?;
    let mut state = State::from_fn(|i, _| {
        let z = z_of(share(mid_tone[i.min(BANDS - 1)]) / ratio);
        if dark { z } else { -z }
    });
    // The multipliers under which it is nearest to the smoothest, by least squares.
    let rows = Light::Daylight.weights();
    let bend = *MEASURED * state.fixed_rows::<BANDS>(0);
    let pull = SMatrix::<f64, BANDS, 3>::from_fn(|i, c| {
        2.0 * share(state[i]) * (1.0 - share(state[i])) * rows[c][i]
    });
    let multipliers = (pull.transpose() * pull).lu().solve(&(pull.transpose() * -bend))?;
    for c in 0..3 {
        state[BANDS + c] = multipliers[c];
    }
    Some(state)
}

/// The same by Burns' own slope: at once, or else step by step from the grey of its lightness.
fn reach_plainly(colour: Lab) -> Result<State, Lab> {
    let grey = grey_state(colour);
    let newton = |start: &State, target| newton(start, target, &PLAIN);
    if let Some(state) = newton(&grey, target(colour)) {
        return Ok(state);
    }
    let (mut state, mut done, mut step) = (grey, 0.0, 0.25);
    while done < 1.0 {
        let next: f64 = f64::min(1.0, done + step);
        match newton(&state, target(colour.with_chroma_scaled(next))) {
            Some(found) => {
                (state, done) = (found, next);
                step *= 1.5;
            }
            None if step < 1.0 / 256.0 => return Err(colour.with_chroma_scaled(done)),
            None => step /= 2.0,
        }
    }
    Ok(state)
}

fn target(colour: Lab) -> [f64; 3] {
    let white = Light::Daylight.white();
    let xyz = colour.to_xyz(white).as_array();
    std::array::from_fn(|c| xyz[c] + INWARD * (0.5 * white.as_array()[c] - xyz[c]))
}

fn grey_state(colour: Lab) -> State {
    level(target(colour)[1])
}

/// A grey that reflects so much.
fn level(reflects: f64) -> State {
    let z = z_of(reflects.clamp(1e-6, 1.0 - 1e-6));
    State::from_fn(|i, _| if i < BANDS { z } else { 0.0 })
}

/// Damped Newton from `start`; None if it does not arrive.
fn newton(start: &State, target: [f64; 3], slope: &Measure) -> Option<State> {
    let mut state = *start;
    let mut error = residual(&state, target, slope);
    for _ in 0..60 {
        if error.rows(BANDS, 3).amax() < CLOSE && error.amax() < 1e-6 {
            return Some(state);
        }
        let step = jacobian(&state, slope).lu().solve(&error)?;
        let mut length = 1.0;
        loop {
            let candidate = state - step * length;
            let candidate_error = residual(&candidate, target, slope);
            // The merit is not always reduced by the full step of a constrained problem: let it grow a little at
            // full length, insist on progress only once the step has been cut.
            let grows = if length == 1.0 { 4.0 } else { 1.0 };
            if candidate_error.norm() < error.norm() * grows && candidate_error.amax().is_finite() {
                (state, error) = (candidate, candidate_error);
                break;
            }
            length /= 2.0;
            if length < 1e-4 {
                return None;
            }
        }
    }
    None
}

/// The Lagrange conditions: slope terms plus pulled-back multipliers, then T R − target.
fn residual(state: &State, target: [f64; 3], slope: &Measure) -> State {
    let rows = Light::Daylight.weights();
    let mut out = State::zeros();
    let bend = slope * state.fixed_rows::<BANDS>(0);
    for i in 0..BANDS {
        let derivative = 2.0 * share(state[i]) * (1.0 - share(state[i]));
        let pull: f64 = (0..3).map(|c| rows[c][i] * state[BANDS + c]).sum();
        out[i] = bend[i] + derivative * pull;
    }
    let xyz = Xyz::of(&curve(state), Light::Daylight).as_array();
    for c in 0..3 {
        out[BANDS + c] = xyz[c] - target[c];
    }
    out
}

fn jacobian(state: &State, slope: &Measure) -> SMatrix<f64, N, N> {
    let rows = Light::Daylight.weights();
    let mut out = SMatrix::<f64, N, N>::zeros();
    out.fixed_view_mut::<BANDS, BANDS>(0, 0).copy_from(slope);
    for i in 0..BANDS {
        let z = state[i];
        // dR/dz = (1 − tanh²z)/2 and d²R/dz² = −tanh z (1 − tanh²z).
        let derivative = 2.0 * share(z) * (1.0 - share(z));
        let curvature = -2.0 * z.tanh() * derivative;
        let pull: f64 = (0..3).map(|c| rows[c][i] * state[BANDS + c]).sum();
        out[(i, i)] += curvature * pull;
        for c in 0..3 {
            out[(i, BANDS + c)] = derivative * rows[c][i];
            out[(BANDS + c, i)] = derivative * rows[c][i];
        }
    }
    out
}
