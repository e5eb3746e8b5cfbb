//! Difference between a reading and its prediction, and its derivatives.

use std::{ops::Range, sync::OnceLock};

use nalgebra::{DMatrix, DVector};
use warm_blend_paint::{
    Cones, FilmState, Undersurface,
    film::{leaving_film, thick_film},
    hiding::{chart_black, chart_white},
    surface::{K1, emerging, leaving},
};
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz};

use super::{
    discrepancy,
    draws::MEMBERS,
    ensemble_lanes::{Crowd, Lane, sum},
    local_metric::{LocalMetric, lab_jacobian},
    prior::{Bands, Local},
    reading::{DRAWN, GROUPS, Measured, Reading, Shown, TOGETHER},
};

/// Residual of a reading in units of its own standard deviation. Noise of the reading, the measured parts and the film is
/// whitened, so that residuals of a correct model are independent with sd 1.
#[derive(Debug)]
pub(crate) struct WhitenedResidual {
    /// By number measured.
    pub residual: DVector<f64>,
    /// Root of the covariance used for whitening.
    root: DMatrix<f64>,
    /// Observations: one, or over black and over white.
    looks: Vec<Look>,
    /// ∂residual/∂coordinate: a row for each number; columns are the coordinates of the paints in the order of `of`.
    pub slope: DMatrix<f64>,
    square: OnceLock<DMatrix<f64>>,
}

/// An observation of a sample.
#[derive(Debug)]
struct Look {
    curve: Reflectance,
    /// Its colour in daylight.
    lab: Lab,
    /// Metric for comparison with the reading.
    eye: LocalMetric,
}

/// One band of a mixed film in some state: reflectance and derivatives.
#[derive(Clone, Copy, Default)]
struct Band {
    r: f64,
    by_k: f64,
    by_s: f64,
    by_alpha: f64,
    by_voids: f64,
    by_thickness: f64,
}

/// A mixed sample.
struct Stirred {
    k: Bands,
    s: Bands,
    alpha: f64,
    voids: f64,
    milk: f64,
    /// Share of the wet and of the dry volume, by paint.
    wet: Vec<f64>,
    dry: Vec<f64>,
}

impl Stirred {
    fn of<P>(reading: &Reading<P>, paints: &[&Local]) -> Self {
        let (wet, dry) = shares(reading, paints.iter().map(|local| local.stays));
        let mut stirred =
            Self { k: [0.0; BANDS], s: [0.0; BANDS], alpha: 0.0, voids: 0.0, milk: 0.0, wet, dry };
        for (n, local) in paints.iter().enumerate() {
            let (wet, dry) = (stirred.wet[n], stirred.dry[n]);
            for i in 0..BANDS {
                stirred.k[i] += wet * local.k[i];
                stirred.s[i] += wet * local.s[i];
            }
            stirred.alpha += dry * local.alpha;
            stirred.voids += dry * local.voids;
            stirred.milk += wet * local.milk;
        }
        stirred
    }

    /// Reflectance in a state with derivatives, thick or as a film of `x` mm over a ground.
    fn band(&self, i: usize, state: FilmState, film: Option<(f64, Cones)>) -> Band {
        let Standing { s, filled, follows, alpha, free } =
            Standing::of(self.s[i], self.alpha, self.voids, self.milk, state);
        let k = self.k[i];
        let leaves =
            |k: f64, s: f64, stretch: f64| leaves(k, s, film.map(|(x, ground)| (x * stretch, ground)));
        // Central differences in ln K, ln S and ln X, so that the film's formula exists only once.
        const STEP: f64 = 1e-4;
        let by = |f: &dyn Fn(f64) -> f64| (1.0 - K1) * (f(1.0 + STEP) - f(1.0 - STEP)) / (2.0 * STEP);
        let by_ln_k = by(&|t| leaves(k * t, s, 1.0));
        // A thick film depends only on K/S.
        let by_ln_s = if film.is_none() { -by_ln_k } else { by(&|t| leaves(k, s * t, 1.0)) };
        let by_s = by_ln_s / s.max(f64::MIN_POSITIVE);
        Band {
            r: emerging(alpha, leaves(k, s, 1.0)),
            by_k: by_ln_k / k.max(f64::MIN_POSITIVE),
            by_s: by_s * follows,
            by_alpha: if free { K1 } else { 0.0 },
            by_voids: if state == FilmState::Dry { 0.0 } else { -by_s * self.s[i] * filled * filled },
            by_thickness: if film.is_some() { by(&|t| leaves(k, s, t)) } else { 0.0 },
        }
    }
}

/// A mixed film in a state.
struct Standing {
    s: f64,
    /// Factor on S from filled pores, and the part of S that follows the dry S.
    filled: f64,
    follows: f64,
    alpha: f64,
    /// True if α is the paint's own.
    free: bool,
}

impl Standing {
    #[inline]
    fn of(s: f64, alpha: f64, voids: f64, milk: f64, state: FilmState) -> Self {
        let filled = 1.0 / (1.0 + voids);
        let (s, follows, alpha, free) = match state {
            FilmState::Dry => (s, 1.0, alpha, true),
            FilmState::Wet => (s * filled + milk, filled, 0.0, false),
            FilmState::Sealed | FilmState::Buffed => {
                let seal = state.seal().unwrap_or(1.0);
                (s * filled, filled, alpha.min(seal), alpha <= seal)
            }
        };
        Self { s, filled, follows, alpha, free }
    }
}

/// Share of the light inside that leaves, thick or as a film of `x` mm over a ground.
fn leaves(k: f64, s: f64, film: Option<(f64, Cones)>) -> f64 {
    match film {
        None => leaving(thick_film(k, s)),
        Some((x, ground)) => leaving_film(k, s, x, ground),
    }
}

/// Plausible samples of one reading in its state: mixtures, with what remains of S and surface.
struct Standings<'a> {
    of: Vec<(&'a Crowd, f64)>,
    follows: Lane,
    alpha: Lane,
    /// S that does not depend on the paints.
    milk: f64,
}

impl<'a> Standings<'a> {
    fn of<P>(reading: &Reading<P>, paints: &[&'a Crowd]) -> Self {
        let (wet, dry) = shares(reading, paints.iter().map(|crowd| crowd.stays));
        let left =
            |of: fn(&Crowd) -> &Lane| sum(dry.iter().copied().zip(paints.iter().map(|crowd| of(crowd))));
        let (mut alpha, mut follows) = (left(|crowd| &crowd.alpha), left(|crowd| &crowd.voids));
        let milk = wet.iter().zip(paints).map(|(wet, crowd)| wet * crowd.milk).sum();
        let nothing = Standing::of(0.0, 0.0, 0.0, milk, reading.state).s;
        for (alpha, follows) in alpha.iter_mut().zip(&mut follows) {
            let standing = Standing::of(0.0, *alpha, *follows, milk, reading.state);
            (*alpha, *follows) = (standing.alpha, standing.follows);
        }
        Self { of: paints.iter().copied().zip(wet).collect(), follows, alpha, milk: nothing }
    }

    /// Reflectance of each by band, thick or as a film of `x` mm over a ground.
    fn seen(&self, film: Option<(f64, &Undersurface)>) -> Vec<Lane> {
        let mut seen = vec![[0.0; MEMBERS]; BANDS];
        pulp::Arch::new().dispatch(
            #[inline(always)]
            || {
                for (i, seen) in seen.iter_mut().enumerate() {
                    let k = sum(self.of.iter().map(|(crowd, wet)| (*wet, &crowd.k[i])));
                    let s = sum(self.of.iter().map(|(crowd, wet)| (*wet, &crowd.s[i])));
                    match film {
                        None => self.faces(seen, &k, &s, |k, s| leaving(thick_film(k, s))),
                        Some((x, ground)) => {
                            self.faces(seen, &k, &s, |k, s| leaving_film(k, s, x, ground.bands()[i]));
                        }
                    }
                }
            },
        );
        seen
    }

    #[inline(always)]
    fn faces(&self, seen: &mut Lane, k: &Lane, s: &Lane, leaves: impl Fn(f64, f64) -> f64) {
        for m in 0..MEMBERS {
            seen[m] = emerging(self.alpha[m], leaves(k[m], s[m] * self.follows[m] + self.milk));
        }
    }
}

/// Colour of each plausible variant in daylight.
fn lane_labs(seen: &[Lane]) -> impl Iterator<Item = Lab> {
    let white = Light::Daylight.white();
    let xyz = Light::Daylight.weights().map(|weights| sum(weights.iter().copied().zip(seen)));
    (0..MEMBERS).map(move |m| Lab::of(Xyz { x: xyz[0][m], y: xyz[1][m], z: xyz[2][m] }, white))
}

/// Share of the wet and of the dry volume by paint, given how much of each remains.
fn shares<P>(reading: &Reading<P>, stays: impl Iterator<Item = f64>) -> (Vec<f64>, Vec<f64>) {
    let parts: Vec<f64> = reading.of.iter().map(|(_, parts)| parts.value()).collect();
    let dry: Vec<f64> = parts.iter().zip(stays).map(|(parts, stays)| parts * stays).collect();
    let (all, left) = (parts.iter().sum::<f64>(), dry.iter().sum::<f64>().max(f64::MIN_POSITIVE));
    (parts.iter().map(|p| p / all).collect(), dry.iter().map(|p| p / left).collect())
}

impl WhitenedResidual {
    pub(crate) fn of<P>(reading: &Reading<P>, paints: &[&Local]) -> Self {
        let stirred = Stirred::of(reading, paints);
        let columns = paints.iter().map(|local| local.dk.len()).sum::<usize>();
        // After the coordinates come the random errors of the sample (parts, film thickness) and the finer shapes of the
        // masstones.
        let pours = if paints.len() > 1 { paints.len() } else { 0 };
        // What the model leaves out of a spectrum, band by band; for a colour it is part of the sd.
        let of_a_spectrum = reading.measured().any(|measured| matches!(measured, Measured::Spectrum(_)));
        let model = if paints.len() > 1 && of_a_spectrum { GROUPS } else { 0 };
        let chances = pours + 2 + model + paints.iter().map(|local| local.fine.len()).sum::<usize>();
        let (mut residual, mut looks) = (Vec::new(), Vec::new());
        let mut rows: Vec<Vec<f64>> = Vec::new();
        for (measured, film) in views(reading) {
            let bands: [Band; BANDS] = std::array::from_fn(|i| {
                stirred.band(i, reading.state, film.map(|(x, ground)| (x, ground.bands()[i])))
            });
            let curve = Reflectance::from_fn(|i| bands[i].r);
            let lab = Measured::spectrum(curve).lab();
            let look = Look { curve, lab, eye: half_way(measured.lab(), lab) };
            residual.extend(residuals(measured, &look, &look.eye, reading));
            for number in numbers(measured, lab, &look.eye, reading) {
                let pull = Pull::of(&number, &bands);
                let mut row = Vec::with_capacity(columns + chances);
                for (n, local) in paints.iter().enumerate() {
                    row.extend(pull.coordinates(local, stirred.wet[n], stirred.dry[n]));
                }
                let whole = pull.optics(&stirred.k, &stirred.s);
                for (local, share) in paints.iter().zip(&stirred.wet).take(pours) {
                    row.push(reading.pour.sd() * share * (pull.optics(&local.k, &local.s) - whole));
                }
                for (n, local) in paints.iter().enumerate() {
                    row.extend(local.fine.iter().map(|(dk, ds)| stirred.wet[n] * pull.optics(dk, ds)));
                }
                row.push(number.by_gain);
                row.extend(&number.by_model[..model]);
                row.push(DRAWN * pull.by_thickness);
                rows.push(row);
            }
            looks.push(look);
        }
        Self::whitened(residual, &rows, columns, looks)
    }

    /// Residuals on each plausible shelf, in the metric and covariance of this evaluation: one column for each shelf.
    pub(crate) fn residuals_of<P>(&self, reading: &Reading<P>, paints: &[&Crowd]) -> DMatrix<f64> {
        let standings = Standings::of(reading, paints);
        let mut all = DMatrix::zeros(self.residual.len(), MEMBERS);
        let mut first = 0;
        for ((measured, film), Look { eye, .. }) in views(reading).into_iter().zip(&self.looks) {
            let seen = standings.seen(film);
            match measured {
                Measured::Colour(read) => {
                    for (m, lab) in lane_labs(&seen).enumerate() {
                        let off = colour_off(read, lab, eye, reading);
                        all.view_mut((first, m), (off.len(), 1)).copy_from_slice(&off);
                    }
                    first += 3;
                }
                Measured::Spectrum(read) => {
                    for group in 0..GROUPS {
                        let bands = &seen[group * TOGETHER..(group + 1) * TOGETHER];
                        let sd = group_sd(read, group, reading);
                        for m in 0..MEMBERS {
                            let mean = bands.iter().map(|band| band[m]).sum::<f64>() / TOGETHER as f64;
                            all[(first + group, m)] = (mean - group_mean(read, group)) / sd;
                        }
                    }
                    first += GROUPS;
                }
            }
        }
        self.root.solve_lower_triangular_mut(&mut all);
        all
    }

    /// Divides by the root of the covariance 1 + Σ chance chanceᵀ, which accounts for the random errors of the sample.
    fn whitened(residual: Vec<f64>, rows: &[Vec<f64>], columns: usize, looks: Vec<Look>) -> Self {
        let n = rows.len();
        let mut residual = DVector::from_vec(residual);
        let mut slope = DMatrix::from_fn(n, columns, |i, j| rows[i][j]);
        let chances = DMatrix::from_fn(n, rows[0].len() - columns, |i, j| rows[i][columns + j]);
        let covariance = &chances * chances.transpose() + DMatrix::identity(n, n);
        // One plus squares is positive definite unless numbers overflowed.
        let root = covariance.cholesky().map_or_else(|| DMatrix::identity(n, n), |root| root.unpack());
        root.solve_lower_triangular_mut(&mut slope);
        root.solve_lower_triangular_mut(&mut residual);
        Self { residual, root, looks, slope, square: OnceLock::new() }
    }

    /// Predicted colours in daylight: one, or black and white.
    pub(crate) fn predicted(&self) -> Vec<Lab> {
        self.looks.iter().map(|look| look.lab).collect()
    }

    /// slopeᵀ slope.
    pub(crate) fn square(&self) -> &DMatrix<f64> {
        self.square.get_or_init(|| self.slope.transpose() * &self.slope)
    }

    /// Half the squared residual in the metric and covariance of another evaluation of the same reading, so that steps of
    /// a search are comparable.
    pub(crate) fn misfit_by<P>(&self, reading: &Reading<P>, measure: &WhitenedResidual) -> f64 {
        let seen = views(reading).into_iter().zip(&self.looks).zip(&measure.looks);
        let off = seen
            .flat_map(|(((measured, _), look), Look { eye, .. })| residuals(measured, look, eye, reading));
        let mut residual = DVector::from_vec(off.collect());
        measure.root.solve_lower_triangular_mut(&mut residual);
        0.5 * residual.norm_squared()
    }
}

/// A measured number: its derivative by the reflectance of each band and by the reader's gain, in units of its own sd.
struct Number {
    by_band: Bands,
    /// `by_band` is 0 outside these bands.
    bands: Range<usize>,
    by_gain: f64,
    /// Derivatives by what the model leaves out of the reflectance.
    by_model: [f64; GROUPS],
}

/// Measurements, each with its film: thickness in mm and ground.
fn views<P>(reading: &Reading<P>) -> Vec<(&Measured, Option<(f64, &'static Undersurface)>)> {
    match &reading.shown {
        Shown::Thick(measured) => vec![(measured, None)],
        Shown::Drawdown { wet, over_black, over_white } => vec![
            (over_black, Some((wet.millimetres(), chart_black()))),
            (over_white, Some((wet.millimetres(), chart_white()))),
        ],
    }
}

/// Metric at the midpoint: over a large difference, that at one end overstates the other's.
fn half_way(read: Lab, predicted: Lab) -> LocalMetric {
    let half = |a: f64, b: f64| 0.5 * (a + b);
    LocalMetric::at(Lab {
        l: half(read.l, predicted.l),
        a: half(read.a, predicted.a),
        b: half(read.b, predicted.b),
    })
}

/// sd of a colour in one direction of a metric.
fn colour_sd<P>(reading: &Reading<P>) -> f64 {
    reading.source.sd().hypot(discrepancy::colour_sd(reading.of.len() > 1))
}

pub(crate) fn group_mean(curve: &Reflectance, group: usize) -> f64 {
    curve.bands()[group * TOGETHER..(group + 1) * TOGETHER].iter().sum::<f64>() / TOGETHER as f64
}

/// sd of the mean of a group of bands: three neighbours share most of their error and count as one.
fn group_sd<P>(read: &Reflectance, group: usize, reading: &Reading<P>) -> f64 {
    reading.source.band_sd(group_mean(read, group), group * TOGETHER + TOGETHER / 2)
}

/// Distance of a measured colour from a predicted one, in its own sd, in each direction of the metric.
fn colour_off<P>(read: &Lab, seen: Lab, eye: &LocalMetric, reading: &Reading<P>) -> [f64; 3] {
    let off = eye.weigh([seen.l - read.l, seen.a - read.a, seen.b - read.b]);
    let sd = colour_sd(reading);
    off.map(|v| v / sd)
}

/// Distance of each measured number from the prediction, in its own sd, in the metric of this or another evaluation.
fn residuals<P>(measured: &Measured, look: &Look, eye: &LocalMetric, reading: &Reading<P>) -> Vec<f64> {
    match measured {
        Measured::Colour(read) => colour_off(read, look.lab, eye, reading).into(),
        Measured::Spectrum(read) => (0..GROUPS)
            .map(|group| {
                (group_mean(&look.curve, group) - group_mean(read, group)) / group_sd(read, group, reading)
            })
            .collect(),
    }
}

/// Numbers of a measured colour or curve, where `predicted` was expected.
fn numbers<P>(measured: &Measured, predicted: Lab, eye: &LocalMetric, reading: &Reading<P>) -> Vec<Number> {
    match measured {
        Measured::Colour(_) => {
            let sd = colour_sd(reading);
            let rows = lab_jacobian(predicted, eye, Light::Daylight);
            rows.map(|row| Number {
                by_band: row.map(|v| v / sd),
                bands: 0..BANDS,
                by_gain: 0.0,
                by_model: [0.0; GROUPS],
            })
            .into()
        }
        Measured::Spectrum(read) => (0..GROUPS)
            .map(|group| {
                let bands = group * TOGETHER..(group + 1) * TOGETHER;
                let sd = group_sd(read, group, reading);
                let r = group_mean(read, group);
                let weight = 1.0 / (TOGETHER as f64 * sd);
                Number {
                    by_band: std::array::from_fn(|i| if bands.contains(&i) { weight } else { 0.0 }),
                    bands,
                    by_gain: r * reading.source.gain_sd() / sd,
                    by_model: discrepancy::by_group(reading.of.len() > 1, group, r).map(|off| off / sd),
                }
            })
            .collect(),
    }
}

/// Derivatives of a number by the mixed film: by band for K and S, summed over bands for the rest.
struct Pull {
    bands: Range<usize>,
    by_k: Bands,
    by_s: Bands,
    by_alpha: f64,
    by_voids: f64,
    by_thickness: f64,
}

impl Pull {
    fn of(number: &Number, bands: &[Band; BANDS]) -> Self {
        let weight = &number.by_band;
        let by_band = |of: fn(&Band) -> f64| {
            let mut pull = [0.0; BANDS];
            number.bands.clone().for_each(|i| pull[i] = weight[i] * of(&bands[i]));
            pull
        };
        let whole = |of: fn(&Band) -> f64| number.bands.clone().map(|i| weight[i] * of(&bands[i])).sum();
        Self {
            bands: number.bands.clone(),
            by_k: by_band(|band| band.by_k),
            by_s: by_band(|band| band.by_s),
            by_alpha: whole(|band| band.by_alpha),
            by_voids: whole(|band| band.by_voids),
            by_thickness: whole(|band| band.by_thickness),
        }
    }

    fn optics(&self, dk: &Bands, ds: &Bands) -> f64 {
        self.over(&self.by_k, dk) + self.over(&self.by_s, ds)
    }

    fn over(&self, pull: &Bands, change: &Bands) -> f64 {
        dot(&pull[self.bands.clone()], &change[self.bands.clone()])
    }

    /// Derivatives by the coordinates of a paint that makes up `wet` of the pot and `dry` of what remains.
    fn coordinates<'a>(&'a self, local: &'a Local, wet: f64, dry: f64) -> impl Iterator<Item = f64> + 'a {
        local.dk.iter().zip(&local.ds).enumerate().map(move |(j, (dk, ds))| {
            let more = match j {
                Local::SHEEN => dry * local.dalpha * self.by_alpha,
                Local::VOIDS => dry * local.dvoids * self.by_voids,
                _ => 0.0,
            };
            wet * self.optics(dk, ds) + more
        })
    }
}

/// Inner product with four accumulators.
fn dot(a: &[f64], b: &[f64]) -> f64 {
    let mut sums = [0.0; 4];
    let (four, rest) = (a.chunks_exact(4), b.chunks_exact(4));
    let tail: f64 = four.remainder().iter().zip(rest.remainder()).map(|(a, b)| a * b).sum();
    for (a, b) in four.zip(rest) {
        for lane in 0..4 {
            sums[lane] += a[lane] * b[lane];
        }
    }
    sums.iter().sum::<f64>() + tail
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Facts, PartsMethod, Source, prior::DIMENSIONS, prior::Prior};
    use proptest::prelude::*;
    use warm_blend_paint::{Class, Masstone, Microns, Parts};
    use warm_blend_spectral::Srgb;

    fn prior(code: [u8; 3], class: usize) -> Prior {
        let facts = Facts {
            class: [Class::Chalk, Class::Mineral, Class::LatexSatin][class],
            masstone: Some(Masstone::Hex(Srgb { red: code[0], green: code[1], blue: code[2] })),
            source: Source::Chip,
            coats_to_hide: None,
            lustre: None,
            house_white: false,
        };
        Prior::of(&facts, None).unwrap()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// Plausible shelves side by side would read what each would alone, in every state, thick or as a film.
        #[test]
        fn side_by_side_is_one_by_one(
            codes in proptest::array::uniform2(any::<[u8; 3]>()),
            class in 0usize..3,
            ratio in 0.1..9.0f64,
            state in 0usize..4,
            film: bool,
            colour: bool,
            off in proptest::collection::vec(-0.8..0.8f64, 2 * DIMENSIONS),
        ) {
            let priors = [prior(codes[0], class), prior(codes[1], 0)];
            let at = |paint: usize, m: usize| -> Vec<f64> {
                let share = m as f64 / MEMBERS as f64;
                off[paint * DIMENSIONS..(paint + 1) * DIMENSIONS].iter().map(|off| off * share).collect()
            };
            let read = if colour {
                Measured::Colour(Lab { l: 55.0, a: 4.0, b: 9.0 })
            } else {
                Measured::spectrum(Reflectance::from_fn(|i| 0.2 + 0.01 * i as f64))
            };
            let shown = if film {
                Shown::Drawdown { wet: Microns::new(60.0).unwrap(), over_black: read.clone(), over_white: read }
            } else {
                Shown::Thick(read)
            };
            let reading = Reading {
                of: vec![(0, Parts::new(ratio).unwrap()), (1, Parts::new(1.0).unwrap())],
                pour: PartsMethod::Scale,
                state: [FilmState::Dry, FilmState::Wet, FilmState::Sealed, FilmState::Buffed][state],
                shown,
                source: Source::Reader,
                sure: false,
            };
            let look = |m: usize| {
                let locals = [0, 1].map(|paint| priors[paint].local(&at(paint, m)));
                WhitenedResidual::of(&reading, &locals.each_ref())
            };
            let best = look(0);
            let crowds = [0, 1].map(|paint| Crowd::of(|m| priors[paint].material(&at(paint, m))));
            let all = best.residuals_of(&reading, &crowds.each_ref());
            prop_assert!((all.column(0) - &best.residual).amax() < 1e-6, "{} {}", all.column(0), best.residual);
            for m in [1, 77, MEMBERS - 1] {
                let (one, side) = (look(m).misfit_by(&reading, &best), 0.5 * all.column(m).norm_squared());
                prop_assert!((one - side).abs() < 1e-6 * (1.0 + one), "{} {}", one, side);
            }
        }
    }
}
