//! Prior for a paint without readings.
//!
//! A paint is a point in a small space with unit-normal coordinates, each a *mode* in which the first guess may be wrong.
//!
//! | coordinates | effect | prior sd |
//! |---|---|---|
//! | 12 shapes | the masstone curve, as z = artanh(2R − 1), and with it the run of ln S from band to band | as surfaces
//! differ, constrained to the stated colour; a band from 550 nm outwards 0.015 (whites) to 0.12 (deep colours)† |
//! | 1 level | ln S in all bands | by class 0.4 (whites) to 0.8 (1 − φ) (deep colours); 0.5 from coats to hide, 0.25 for
//! the house white† |
//! | 1 sheen | α, within what the darkest band of the masstone allows ([`SheenOfMasstone`]); K and S follow, so that the
//! masstone does not change | 0.35 of ln α† |
//! | 1 voids | ln φ | 0.35† |
//!
//! The masstone of a nearly black paint is mostly surface reflection: it shows that K/S is large, not how large. So K/S
//! depends on α nonlinearly and grows without bound as α approaches its limit, while K stays within the range of
//! pigments; a tint decides.
//!
//! The first guess is the smoothest curve of the stated colour; the true curve deviates from it as measured surfaces do
//! ([`warm_blend_spectral::step_covariance`]). The shapes are the deviations of the curve and of S that are most visible
//! in the paint and its tints with white, mainly in daylight, in which readings are taken (a Karhunen–Loève expansion in
//! the metric of vision: R. G. Ghanem and P. D. Spanos, *Stochastic Finite Elements* (1991), ch. 2). A dark band that
//! does not show in the masstone shows in tints, and is the same in the pot that was read and in the next. What the
//! shapes leave out usually changes a tint in daylight by less than ΔE00 0.2 (tested). Ten finer shapes of it count as
//! noise in every reading, and each plausible paint draws its own.

use std::sync::LazyLock;

use nalgebra::{Cholesky, Const, DMatrix, SMatrix, SVector, SymmetricEigen};
use serde::Serialize;
use warm_blend_paint::{
    BadPaint, Class, CoatsToHide, Masstone, Material, Optics, Role, SurfaceReflection,
    film::{k_over_s, thick_film},
    strength::{ScatteringGuess, white_share},
    surface::{K1, K2, LEAST, MOST, SheenOfMasstone, surfaced},
    undertone::blackness,
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, step_covariance};

use super::{
    local_metric::{LocalMetric, Rows, lab_jacobian},
    reading::Source,
};

const SHAPES: usize = 12;
/// Number of finer shapes, which are not fitted but count as noise in every reading.
const FINE: usize = 10;
/// First index of each group of coordinates.
const LEVEL: usize = SHAPES;
const SHEEN: usize = LEVEL + 1;
const VOIDS: usize = SHEEN + 1;
/// Number of coordinates of a paint that readings can change.
pub(crate) const DIMENSIONS: usize = VOIDS + 1;

/// Step of the random walk of ln S from band to band, from 550 nm outwards, for whites and for deep colours†: near an
/// absorption edge S follows n. From paints by radiative transfer (`crates/sim/tests/sim/radiative.rs`).
const RUN: f64 = 0.03;
const RUN_DEEP: f64 = 0.12;
/// The band at 550 nm.
const MIDDLE: usize = 17;
/// sd of ln s from the class, for whites and for deep colours in a film without air, and from coats to hide†.
const BY_CLASS: f64 = 0.4;
const BY_CLASS_DEEP: f64 = 0.8;
const BY_COATS: f64 = 0.5;
/// sd of ln s of the house white, the unit of strength†.
const OF_HOUSE_WHITE: f64 = 0.25;
/// sd of ln φ†.
const VOIDS_SD: f64 = 0.35;

/// Greatest slope of ln K by z, reached where nothing covers the film. As a colour approaches the whitest possible coated
/// film the slope would grow without bound; anything whiter than paint is treated as paint†.
const MOST_LN_K_BY_Z: f64 = 4.0;
/// Share of the distance between a masstone and the whitest coated film that another α may take†.
const WHITER: f64 = 0.5;

/// Tints with white in which deviations are looked at, by share of the paint. Readings are in daylight; the other lights
/// count for less†.
const TINTS: [f64; 3] = [1.0, 0.4, 0.1];
const LIGHTS: [(Light, f64); 4] =
    [(Light::Daylight, 1.0), (Light::Bulb, 0.3), (Light::WarmLed, 0.3), (Light::ShopTube, 0.3)];
/// Number of values from these: three for each, and three for the tint in which half of the strength is the white's, in
/// daylight; for a paint much weaker than a white that tint is far from the others.
const LOOKS: usize = 3 * TINTS.len() * LIGHTS.len() + 3;

pub(crate) type Bands = [f64; BANDS];
type Square = SMatrix<f64, BANDS, BANDS>;

/// What is known of a tin without readings.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Facts {
    /// Class of product.
    pub class: Class,
    /// Colour of a thick, dry, unsealed film; a medium needs none.
    pub masstone: Option<Masstone>,
    /// Where that colour is from.
    pub source: Source,
    /// Coats it is said to need.
    pub coats_to_hide: Option<CoatsToHide>,
    /// Share of the area covered by flakes; `None` for that of the class.
    pub lustre: Option<f64>,
    /// True for the white that defines unit strength.
    pub house_white: bool,
}

/// First guess of a paint, with its modes; a medium is taken as certain.
#[derive(Debug, Clone)]
pub(crate) enum Prior {
    Medium(Box<Material>),
    Paint(Box<PaintPrior>),
}

#[derive(Debug, Clone)]
pub(crate) struct PaintPrior {
    seen: Reflectance,
    sheen: SheenOfMasstone,
    /// Basis of S.
    scattering: ScatteringGuess,
    modes: [Mode; DIMENSIONS - 1],
    fine: [Mode; FINE],
    voids: f64,
    milk: f64,
    lustre: f64,
}

/// A deviation from the first guess by one standard deviation.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Mode {
    ln_k: Bands,
    ln_s: Bands,
}

impl Mode {
    const NONE: Mode = Mode { ln_k: [0.0; BANDS], ln_s: [0.0; BANDS] };
}

/// A paint at given coordinates, with derivatives.
#[derive(Debug, Clone)]
pub(crate) struct Local {
    pub k: Bands,
    pub s: Bands,
    pub alpha: f64,
    pub voids: f64,
    pub milk: f64,
    /// Share of the wet volume that remains when dry.
    pub stays: f64,
    /// ∂K and ∂S by coordinate; empty for a medium.
    pub dk: Vec<Bands>,
    pub ds: Vec<Bands>,
    /// ∂K and ∂S by each finer shape.
    pub fine: Vec<(Bands, Bands)>,
    /// ∂α by the sheen coordinate, ∂φ by the air coordinate.
    pub dalpha: f64,
    pub dvoids: f64,
}

impl Local {
    pub(crate) const SHEEN: usize = SHEEN;
    pub(crate) const VOIDS: usize = VOIDS;

    fn still(material: &Material) -> Self {
        Self {
            k: *material.optics.k(),
            s: *material.optics.s(),
            alpha: material.sheen.alpha(),
            voids: material.voids,
            milk: material.milk,
            stays: material.stays,
            dk: Vec::new(),
            ds: Vec::new(),
            fine: Vec::new(),
            dalpha: 0.0,
            dvoids: 0.0,
        }
    }
}

/// Stated facts about a paint, or a measured spectrum of its masstone, without uncertainty.
struct Stated {
    seen: Reflectance,
    sheens: SheenOfMasstone,
    sheen: SurfaceReflection,
    scattering: ScatteringGuess,
    s: Bands,
}

impl Stated {
    /// `None` for a medium.
    fn of(facts: &Facts, read: Option<&Reflectance>) -> Result<Option<Self>, BadPaint> {
        let Role::Paint { strength } = facts.class.role() else { return Ok(None) };
        let seen = match read {
            Some(spectrum) => inward(spectrum),
            None => facts.masstone.ok_or(BadPaint::NoColour)?.reflectance_of_class(facts.class)?,
        };
        let usual = SurfaceReflection::new(facts.class.sheen());
        let sheens = SheenOfMasstone::of(usual, &seen);
        let sheen = SurfaceReflection::new(sheens.at(0.0));
        let scattering = ScatteringGuess {
            strength,
            voids: facts.class.voids(),
            blackness: blackness(&seen),
            coats_to_hide: facts.coats_to_hide,
        };
        let s = scattering.by_band(&sheen.inside(&seen), sheen);
        Ok(Some(Self { seen, sheens, sheen, scattering, s }))
    }
}

impl Facts {
    fn medium(&self) -> Result<Material, BadPaint> {
        let medium = Material::of(self.class, None, None)?;
        Ok(Material { lustre: self.lustre.unwrap_or(medium.lustre), ..medium })
    }

    /// The most probable material of a tin without fitted readings: equals [`Prior::material`] at the origin, but needs
    /// no modes.
    pub(crate) fn most_probable(&self, read: Option<&Reflectance>) -> Result<Material, BadPaint> {
        let Some(Stated { seen, sheen, s, .. }) = Stated::of(self, read)? else { return self.medium() };
        let guess = Guess::of(&seen, sheen, s);
        Ok(Material {
            optics: Optics::new(guess.k, s),
            sheen: SurfaceReflection::new(sheen.alpha()),
            stays: 1.0,
            voids: self.class.voids(),
            milk: self.class.milk(),
            lustre: self.lustre.unwrap_or(self.class.lustre()),
        })
    }
}

impl Prior {
    /// Prior of a tin without any facts.
    pub(crate) fn nothing() -> Self {
        Prior::Medium(Box::new(Material::closed(Optics::NONE, SurfaceReflection::new(0.0))))
    }

    /// First guess from the facts, or from a measured spectrum of the masstone.
    pub(crate) fn of(facts: &Facts, read: Option<&Reflectance>) -> Result<Self, BadPaint> {
        let Some(Stated { seen, sheens, sheen, scattering, s }) = Stated::of(facts, read)? else {
            return Ok(Prior::Medium(Box::new(facts.medium()?)));
        };
        let white = white_share(&sheen.inside(&seen));
        let level_sd = match facts.coats_to_hide {
            Some(coats) if !coats.is_a_bound() => BY_COATS,
            _ => blend(BY_CLASS, BY_CLASS_DEEP * (1.0 - facts.class.voids()), white),
        };
        let guess = Guess::of(&seen, sheen, s);
        let (shapes, fine) = shapes(&guess, read.is_some(), facts.source);
        let level_sd = if facts.house_white { level_sd.min(OF_HOUSE_WHITE) } else { level_sd };
        let level = Mode { ln_k: [level_sd; BANDS], ln_s: [level_sd; BANDS] };
        Ok(Prior::Paint(Box::new(PaintPrior {
            seen,
            sheen: sheens,
            scattering,
            modes: std::array::from_fn(|j| match j {
                // What the surface gains the inside loses: see `PaintPrior::below`.
                SHEEN => Mode::NONE,
                LEVEL => level,
                _ => shapes[j],
            }),
            fine,
            voids: facts.class.voids(),
            milk: facts.class.milk(),
            lustre: facts.lustre.unwrap_or(facts.class.lustre()),
        })))
    }

    /// Number of coordinates that an ensemble draws, including the finer shapes.
    pub(crate) fn drawn(&self) -> usize {
        match self {
            Prior::Medium(_) => 0,
            Prior::Paint(_) => DIMENSIONS + FINE,
        }
    }

    /// Material at given coordinates: as many as readings can change, or [`Prior::drawn`].
    pub(crate) fn material(&self, at: &[f64]) -> Material {
        match self {
            Prior::Medium(material) => (**material).clone(),
            Prior::Paint(prior) => {
                let (k, s) = prior.optics(at);
                Material {
                    optics: Optics::new(k, s),
                    sheen: SurfaceReflection::new(prior.alpha(at)),
                    stays: 1.0,
                    voids: prior.voids(at),
                    milk: prior.milk,
                    lustre: prior.lustre,
                }
            }
        }
    }

    /// Material and derivatives at given coordinates.
    pub(crate) fn local(&self, at: &[f64]) -> Local {
        match self {
            Prior::Medium(medium) => Local::still(medium),
            Prior::Paint(prior) => prior.local(at),
        }
    }
}

impl PaintPrior {
    fn optics(&self, at: &[f64]) -> (Bands, Bands) {
        let (mut ln_k, mut ln_s) = self.below(self.sheen.at(at[SHEEN]));
        let fine = self.fine.iter().zip(&at[DIMENSIONS..]);
        for (mode, along) in self.modes.iter().zip(at).chain(fine) {
            for i in 0..BANDS {
                ln_k[i] += along * mode.ln_k[i];
                ln_s[i] += along * mode.ln_s[i];
            }
        }
        (ln_k.map(f64::exp), ln_s.map(f64::exp))
    }

    /// ln K and ln S of the masstone below a surface of α, so that the masstone does not change with α.
    fn below(&self, alpha: f64) -> (Bands, Bands) {
        let usual = self.sheen.at(0.0);
        let [inside, usually] = [alpha, usual].map(|alpha| SurfaceReflection::new(alpha).inside(&self.seen));
        let inside =
            Reflectance::from_fn(|i| inside.bands()[i].min(1.0 - WHITER * (1.0 - usually.bands()[i])));
        let s = match self.scattering.coats_to_hide {
            None => self.scattering.by_band(&inside, SurfaceReflection::new(alpha)),
            Some(_) => self.scattering.by_band(&usually, SurfaceReflection::new(usual)),
        };
        (std::array::from_fn(|i| (s[i] * k_over_s(inside.bands()[i])).ln()), s.map(f64::ln))
    }

    fn alpha(&self, at: &[f64]) -> f64 {
        self.sheen.at(at[SHEEN])
    }

    fn voids(&self, at: &[f64]) -> f64 {
        self.voids * (VOIDS_SD * at[VOIDS]).exp()
    }

    fn local(&self, at: &[f64]) -> Local {
        let (k, s) = self.optics(at);
        let by = |of: &Bands, ln: &Bands| std::array::from_fn(|i| of[i] * ln[i]);
        let moved = |mode: &Mode| (by(&k, &mode.ln_k), by(&s, &mode.ln_s));
        let none = [0.0; BANDS];
        let (mut dk, mut ds): (Vec<Bands>, Vec<Bands>) =
            self.modes.iter().map(moved).chain([(none, none)]).unzip();
        let (alpha, dalpha) = (self.alpha(at), self.sheen.slope(at[SHEEN]));
        const STEP: f64 = 1e-4;
        let [less, more] = [-STEP, STEP].map(|step| self.below(self.sheen.at(at[SHEEN] + step)));
        dk[SHEEN] = std::array::from_fn(|i| k[i] * (more.0[i] - less.0[i]) / (2.0 * STEP));
        ds[SHEEN] = std::array::from_fn(|i| s[i] * (more.1[i] - less.1[i]) / (2.0 * STEP));
        let voids = self.voids(at);
        Local {
            k,
            s,
            alpha,
            voids,
            milk: self.milk,
            stays: 1.0,
            dk,
            ds,
            fine: self.fine.iter().map(moved).collect(),
            dalpha,
            dvoids: VOIDS_SD * voids,
        }
    }
}

/// Interpolates between the value for a white and for a deep base.
fn blend(white: f64, deep: f64, share: f64) -> f64 {
    share * white + (1.0 - share) * deep
}

/// A measured spectrum kept inside (0, 1), where z is finite.
fn inward(spectrum: &Reflectance) -> Reflectance {
    Reflectance::from_fn(|i| spectrum.bands()[i].clamp(0.002, 0.985))
}

/// ∂K/∂R by band, of a masstone R seen through a surface of α.
fn k_by_seen(seen: &Bands, s: &Bands, alpha: f64) -> Bands {
    // K = S · K/S(r), r = y/(A + k2 y), y = R − α k1.
    let pass = (1.0 - K1) * (1.0 - K2);
    std::array::from_fn(|i| {
        let y = (seen[i] - alpha * K1).max(1e-9);
        let r = y / (pass + K2 * y);
        // Clamped values do not move.
        if !(LEAST..=MOST).contains(&r) {
            return 0.0;
        }
        s[i] * (r * r - 1.0) / (2.0 * r * r) * pass / (pass + K2 * y).powi(2)
    })
}

/// The first guess of a paint's optics, and how K depends on the masstone.
struct Guess<'a> {
    seen: &'a Reflectance,
    alpha: f64,
    k: Bands,
    s: Bands,
    /// Step of the random walk of ln S.
    run: f64,
    /// By its own band.
    ln_k_by_z: Bands,
}

impl<'a> Guess<'a> {
    fn of(seen: &'a Reflectance, sheen: SurfaceReflection, s: Bands) -> Self {
        let alpha = sheen.alpha();
        let inside = sheen.inside(seen);
        let k = std::array::from_fn(|i| s[i] * k_over_s(inside.bands()[i]));
        let by_seen = k_by_seen(seen.bands(), &s, alpha);
        Self {
            seen,
            alpha,
            k,
            s,
            run: blend(RUN, RUN_DEEP, white_share(&inside)),
            ln_k_by_z: std::array::from_fn(|i| {
                (by_seen[i] * slope(seen.bands()[i]) / k[i]).max(-MOST_LN_K_BY_Z)
            }),
        }
    }

    /// The mode for a change of z and ln S.
    fn mode(&self, z: &Bands, ln_s: Bands) -> Mode {
        Mode { ln_k: std::array::from_fn(|i| self.ln_k_by_z[i] * z[i] + ln_s[i]), ln_s }
    }
}

/// dR/dz.
fn slope(r: f64) -> f64 {
    2.0 * r * (1.0 - r)
}

/// Modes of a paint around the first guess. Its curve is constrained to the stated colour by the accuracy of the source,
/// or in every band to a measured spectrum.
fn shapes(guess: &Guess, read: bool, source: Source) -> ([Mode; SHAPES], [Mode; FINE]) {
    let seen = guess.seen;
    let slope = seen.bands().map(slope);
    let white = Light::Daylight.white();
    let colour = Lab::of(Xyz::of(seen, Light::Daylight), white);
    let mut precision = *WANDERING / wandering(colour).powi(2);
    let rows = lab_jacobian(colour, &LocalMetric::at(colour), Light::Daylight);
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
    let all = modes(&precision, guess);
    (std::array::from_fn(|j| all[j]), std::array::from_fn(|j| all[SHAPES + j]))
}

/// Visible effect of a change of z and of ln S in each band, in the paint and its tints.
fn looks(guess: &Guess) -> [Looks; 2] {
    /// K/S of the white used for tints, a good white.
    const WHITE: f64 = 0.01;
    let (mut by_z, mut by_s) = (Looks::zeros(), Looks::zeros());
    let white = warm_blend_paint::hiding::house_white_scattering();
    let half = white / (white + guess.s[MIDDLE]);
    let tints = TINTS.map(|share| (share, &LIGHTS[..]));
    let mut at = 0;
    for (share, lights) in tints.into_iter().chain([(half, &LIGHTS[..1])]) {
        let mut curve = [0.0; BANDS];
        let (mut by_ln_k, mut by_ln_s) = ([0.0; BANDS], [0.0; BANDS]);
        for i in 0..BANDS {
            let own = share * guess.k[i];
            let k = own + (1.0 - share) * white * WHITE;
            let s = share * guess.s[i] + (1.0 - share) * white;
            const STEP: f64 = 1e-4;
            let seen = |k: f64| surfaced(guess.alpha, thick_film(k, s));
            curve[i] = seen(k);
            // By ln K of the mix; ln S has the opposite effect.
            let by_ln = (seen(k * (1.0 + STEP)) - seen(k * (1.0 - STEP))) / (2.0 * STEP);
            by_ln_k[i] = by_ln * own / k;
            by_ln_s[i] = by_ln * (own / k - share * guess.s[i] / s);
        }
        let curve = Reflectance::clamped(curve);
        for (light, counts) in lights.iter().copied() {
            let colour = Lab::of(Xyz::of(&curve, light), light.white());
            let rows = lab_jacobian(colour, &LocalMetric::at(colour), light);
            for row in &rows {
                for i in 0..BANDS {
                    let seen = counts * row[i];
                    by_z[(at, i)] = seen * by_ln_k[i] * guess.ln_k_by_z[i];
                    by_s[(at, i)] = seen * by_ln_s[i];
                }
                at += 1;
            }
        }
    }
    [by_z, by_s]
}

/// Adds a constraint of the colour to within `sd` in each direction to a precision matrix.
fn hold(precision: &mut Square, rows: &Rows, slope: &Bands, sd: f64) {
    for row in rows {
        let row = SVector::<f64, BANDS>::from_fn(|i, _| row[i] * slope[i] / sd);
        *precision += row * row.transpose();
    }
}

type Looks = SMatrix<f64, LOOKS, BANDS>;

/// Scale of the deviation of a colour's curve relative to the mean of all surfaces: smaller for greys than for vivid
/// colours. Fitted by eye to the errors of the smoothest curves of 194 measured surfaces in other lights; nine bands of
/// ten then hold for chips that were left out.
fn wandering(colour: Lab) -> f64 {
    0.9 * (0.4 + 0.6 * (colour.chroma() / 40.0).min(1.0))
}

/// Inverse covariance of the deviation of z, with free level.
static WANDERING: LazyLock<Square> = LazyLock::new(|| {
    let steps = step_covariance().try_inverse().unwrap_or_else(SMatrix::identity);
    Square::from_fn(|i, j| {
        let at = |i: usize, j: usize| if i < BANDS - 1 && j < BANDS - 1 { steps[(i, j)] } else { 0.0 };
        let before = |i: usize| i.wrapping_sub(1);
        at(i, j) + at(before(i), before(j)) - at(before(i), j) - at(i, before(j))
    })
});

/// Root of the covariance of ln S, a random walk from 550 nm outwards; the same for every paint.
static SLOPES: LazyLock<Square> = LazyLock::new(|| {
    let covariance = Square::from_fn(|i, j| {
        let (one, other) = (i as f64 - MIDDLE as f64, j as f64 - MIDDLE as f64);
        if one * other > 0.0 { one.abs().min(other.abs()) } else { 0.0 }
    });
    // A tiny diagonal keeps the covariance factorable.
    (covariance + Square::identity() * 1e-12).cholesky().map_or_else(Square::zeros, |root| root.l())
});

/// The most visible modes, for this inverse covariance of the curve and for the run of ln S.
fn modes(precision: &Square, guess: &Guess) -> [Mode; SHAPES + FINE] {
    let [by_z, by_s] = looks(guess);
    // The covariance is U Uᵀ with U = L⁻ᵀ.
    let root = Cholesky::<f64, Const<BANDS>>::new(*precision)
        .and_then(|root| root.l().transpose().try_inverse())
        .unwrap_or_else(Square::zeros);
    let slopes = *SLOPES * guess.run;
    let seen = [by_z * root, by_s * slopes];
    let together = seen[0] * seen[0].transpose() + seen[1] * seen[1].transpose();
    let eigen = SymmetricEigen::new(DMatrix::from_fn(LOOKS, LOOKS, |i, j| together[(i, j)]));
    let mut order: Vec<usize> = (0..LOOKS).collect();
    order.sort_by(|a, b| eigen.eigenvalues[*b].total_cmp(&eigen.eigenvalues[*a]));
    let most = eigen.eigenvalues[order[0]];
    std::array::from_fn(|n| {
        let value = eigen.eigenvalues[order[n]];
        // Invisible directions are not modes: a white tinted with white shows no run of S.
        if value <= 1e-12 * most {
            return Mode::NONE;
        }
        let look = SVector::<f64, LOOKS>::from_fn(|i, _| eigen.eigenvectors[(i, order[n])] / value.sqrt());
        let along = |root: &Square, seen: &Looks| -> Bands {
            let of = root * seen.tr_mul(&look);
            std::array::from_fn(|i| of[i])
        };
        guess.mode(&along(&root, &seen[0]), along(&slopes, &seen[1]))
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn facts() -> impl Strategy<Value = Facts> {
        use Class::{AcrylicCraft, Chalk, Clay, GelStain, LatexSatin, Metallic, Mineral, Primer};
        let of = [Chalk, Mineral, Clay, LatexSatin, AcrylicCraft, Metallic, Primer, GelStain];
        let class = proptest::sample::select(of.to_vec());
        (any::<[u8; 3]>(), class, proptest::option::of(0.5..6.0f64)).prop_map(
            |([red, green, blue], class, coats)| Facts {
                class,
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
            let shown = Material::of(facts.class, facts.masstone, facts.coats_to_hide).unwrap();
            let guessed = Prior::of(&facts, None).unwrap().material(&[0.0; DIMENSIONS]);
            for i in 0..BANDS {
                prop_assert!((guessed.optics.k()[i] / shown.optics.k()[i] - 1.0).abs() < 1e-6);
                prop_assert!((guessed.optics.s()[i] / shown.optics.s()[i] - 1.0).abs() < 1e-9);
            }
            prop_assert_eq!(guessed.voids, shown.voids);
        }

        /// What is reported a tin before its doubt is drawn is the middle of that doubt.
        #[test]
        fn the_most_probable_needs_no_modes(facts in facts(), spectrum in proptest::option::of(0.03..0.9f64)) {
            let read = spectrum.map(|level| Reflectance::from_fn(|i| level * (1.0 - 0.01 * i as f64)));
            let whole = Prior::of(&facts, read.as_ref()).unwrap().material(&[0.0; DIMENSIONS]);
            let quick = facts.most_probable(read.as_ref()).unwrap();
            for i in 0..BANDS {
                prop_assert!((quick.optics.k()[i] / whole.optics.k()[i] - 1.0).abs() < 1e-12);
                prop_assert!((quick.optics.s()[i] / whole.optics.s()[i] - 1.0).abs() < 1e-12);
            }
            prop_assert!((quick.sheen.alpha() - whole.sheen.alpha()).abs() < 1e-12);
            prop_assert_eq!((quick.voids, quick.milk, quick.stays, quick.lustre), (whole.voids, whole.milk, whole.stays, whole.lustre));
        }

        /// What the fitted shapes leave, of any paint and any tint: seen in daylight it is nearly nothing, in nine cases of ten.
        #[test]
        fn what_is_not_fitted_is_not_seen_in_daylight(facts in facts(), share in 0.05..1.0f64) {
            let prior = Prior::of(&facts, None).unwrap();
            let Prior::Paint(paint) = &prior else { unreachable!() };
            prop_assume!(facts.masstone.unwrap().reflectance().unwrap().lowest() > 0.012);
            let white = Material::of(Class::Chalk, Some(Masstone::Hex(warm_blend_spectral::Srgb::new(240, 237, 230))), None).unwrap();
            let tinted = |own: &Material| warm_blend_paint::mix(&[(warm_blend_paint::Parts::of(share), own), (warm_blend_paint::Parts::of(1.0 - share), &white)]).unwrap().seen_lab(Light::Daylight);
            let rest: f64 = (0..FINE).map(|j| {
                let mut at = vec![0.0; DIMENSIONS + paint.fine.len()];
                let best = tinted(&prior.material(&at));
                at[DIMENSIONS + j] = 1.0;
                warm_blend_spectral::difference(tinted(&prior.material(&at)), best).value().powi(2)
            }).sum();
            prop_assert!(rest.sqrt() < 0.2, "{}", rest.sqrt());
        }

        #[test]
        fn derivatives_are_those_of_the_material(facts in facts(), at in proptest::collection::vec(-0.7..0.7f64, DIMENSIONS), j in 0..DIMENSIONS) {
            let prior = Prior::of(&facts, None).unwrap();
            let step = 1e-5;
            let moved = |by: f64| { let mut to = at.clone(); to[j] += by; prior.material(&to) };
            let (less, more, local) = (moved(-step), moved(step), prior.local(&at));
            // At the cap of the surface α follows the darkest band, which the local form leaves out.
            prop_assume!(local.alpha < 1.0);
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
