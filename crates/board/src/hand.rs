//! Learning a painter's hand from boards that were painted and measured.
//!
//! The unknowns are, for each technique, the film, coverage and texture of this hand relative to the table
//! ([`HandBias`]); and for each paint on the boards, its strength relative to its own tests, because a thin film of a
//! strong paint looks like a thick film of a weak one. All are estimated together from all readings as the most probable
//! values given their priors (maximum a posteriori, by Gauss–Newton with step halving). Other uncertainty about a paint,
//! such as the shape of its curve, counts as noise shared by all spots of a reading.
//!
//! Nothing is stored between calls, so removing a reading undoes it completely.

use std::collections::BTreeMap;

use nalgebra::{Cholesky, DMatrix, DVector, Dyn};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_learn::{
    Ensemble, Measured, Source, Strength,
    draws::{self, MEMBERS, Whose},
    fit::deviations,
    local_metric::LocalMetric,
    strengths,
};
use warm_blend_paint::{Class, FilmState, Material, Note, PaintId};
use warm_blend_spectral::{Lab, Light, difference};

use super::{Board, ByPlace, HandBias, KnownTin, Letter, Place, Technique, stack::lab};

/// Prior sd of ln of a technique's film†.
const FILM: f64 = 0.5;

/// Prior sd of the shift of its coverage, on the scale of [`HandBias::cover`]†.
const COVER: f64 = 0.5;

/// Prior sd of ln of its texture†.
const ROUGH: f64 = 0.4;

/// sd that no board removes: a hand varies from place to place and day to day†.
const NOISE_FLOOR: f64 = 0.07;

/// sd of a habit from place to place of one board†.
const BY_PLACE: f64 = 0.1;

/// Unevenness of a painted place from spot to spot, root mean square, ΔE00†.
const UNEVEN: f64 = 0.8;

/// Standard deviations from which a reading is doubted: no hand makes that of this board.
const OUTLIER_SD: f64 = 3.0;

/// Number of plausible shelves that represent the uncertainty of paints.
const SHELVES: usize = 32;

/// Strengths known better than this (sd of ln) are not estimated.
const SURE: f64 = 0.01;

/// A measured spot of a board.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct BoardSpot {
    /// Kind of place.
    pub place: Place,
    /// The measurement.
    pub measured: Measured,
}

/// A reading of a painted strip, with the board it was painted from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct BoardReading {
    /// The board.
    pub board: Uuid,
    /// The strip alone, as it was when measured.
    painted: Board,
    /// State of the film when it was measured.
    pub state: FilmState,
    /// Instrument or method.
    pub source: Source,
    /// One to nine spots.
    spots: Vec<BoardSpot>,
    /// True once the painter has confirmed an unlikely reading.
    #[serde(default)]
    pub sure: bool,
    /// The painter's note.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<Note>,
}

/// An invalid reading of a board.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum BadReading {
    /// No spot, or too many.
    #[error("{0} spots is out of range; read 1 to {most} spots", most = BoardReading::SPOTS)]
    Spots(usize),
    /// A strip that the board does not have.
    #[error("the board has no strip {0}; choose another")]
    NoSuchStrip(Letter),
    /// A strip without layers.
    #[error("strip {0} has no layers yet; add one first")]
    Bare(Letter),
}

impl BoardReading {
    /// Greatest number of spots in a reading.
    pub const SPOTS: usize = 9;

    /// A reading of a strip of a board as it is now.
    pub fn new(
        (id, board): (Uuid, &Board),
        letter: Letter,
        (state, source): (FilmState, Source),
        spots: Vec<BoardSpot>,
    ) -> Result<Self, BadReading> {
        if !(1..=Self::SPOTS).contains(&spots.len()) {
            return Err(BadReading::Spots(spots.len()));
        }
        let painted = board.strip_alone(letter).ok_or(BadReading::NoSuchStrip(letter))?;
        if painted.layers(letter).is_empty() {
            return Err(BadReading::Bare(letter));
        }
        Ok(Self { board: id, painted, state, source, spots, sure: false, note: None })
    }

    /// The spots.
    pub fn spots(&self) -> &[BoardSpot] {
        &self.spots
    }

    /// The board it was painted from.
    pub fn painted(&self) -> &Board {
        &self.painted
    }

    /// The strip.
    pub fn letter(&self) -> Letter {
        self.painted.strips().first().map_or(Letter::ALL[0], |strip| strip.letter)
    }

    /// Techniques of its layers, each one once.
    pub fn techniques(&self) -> Vec<Technique> {
        let mut of: Vec<Technique> =
            self.painted.layers(self.letter()).iter().map(|layer| layer.technique).collect();
        of.sort_unstable();
        of.dedup();
        of
    }

    /// Replaces one tin with another.
    pub fn with_paint_replaced(self, gone: PaintId, kept: PaintId) -> Self {
        Self { painted: self.painted.with_paint_replaced(gone, kept), ..self }
    }
}

/// A painter's hand, as far as it is known.
#[derive(Debug, Clone)]
pub struct LearnedHand {
    by_technique: Vec<KnownHand>,
}

/// What is known of a hand in one technique.
#[derive(Debug, Clone)]
struct KnownHand {
    best: HandBias,
    members: Vec<HandBias>,
    film_sd: f64,
    boards: usize,
}

impl Default for LearnedHand {
    /// A hand without readings.
    fn default() -> Self {
        let of = |technique: Technique| {
            let draws = drawn(technique);
            let members = (0..MEMBERS)
                .map(|m| HandBias {
                    film: (FILM * draws[(0, m)]).exp(),
                    cover: COVER * draws[(1, m)],
                    rough: (ROUGH * draws[(4, m)]).exp(),
                })
                .collect();
            KnownHand { best: HandBias::USUAL, members, film_sd: FILM, boards: 0 }
        };
        let mut by_technique = vec![of(Technique::ALL[0]); Technique::ALL.len()];
        for technique in Technique::ALL {
            by_technique[technique as usize] = of(technique);
        }
        Self { by_technique }
    }
}

impl LearnedHand {
    /// The most probable bias in a technique.
    pub fn habit(&self, technique: Technique) -> HandBias {
        self.by_technique[technique as usize].best
    }

    /// Factor within which the film is known: in nine cases of ten the true film is within this factor, either way.
    pub fn within(&self, technique: Technique) -> f64 {
        (1.645 * self.by_technique[technique as usize].film_sd).exp()
    }

    /// Number of readings of boards from which it was learned.
    pub fn boards(&self, technique: Technique) -> usize {
        self.by_technique[technique as usize].boards
    }

    /// Bias of one plausible hand, 0..128.
    pub(super) fn plausible(&self, technique: Technique, member: usize) -> HandBias {
        self.by_technique[technique as usize].members[member % MEMBERS]
    }
}

/// Draws for a technique: film, coverage and texture, and the part of each that no board removes.
fn drawn(technique: Technique) -> DMatrix<f64> {
    draws::unit_normals(Whose::Technique(technique as u8), 6)
}

/// How a reading of a board compares with the prediction.
#[derive(Debug, Clone, PartialEq)]
pub struct BoardJudgement {
    /// True if it is so unlikely that it is left out until the painter confirms it.
    pub questioned: bool,
    /// Distance from the prediction, in standard deviations.
    pub off: f64,
    /// By spot: colour predicted for an average hand.
    pub usual: Vec<Lab>,
    /// By spot: colour predicted for this hand.
    pub predicted: Vec<Lab>,
    /// By spot: ΔE00 between reading and prediction.
    pub difference: Vec<f64>,
}

/// What was learned from boards.
#[derive(Debug, Clone, Default)]
pub struct Taught {
    /// The hand.
    pub hands: LearnedHand,
    /// Paints whose strength was learned.
    pub strengths: Vec<(PaintId, Strength)>,
    /// By reading; `None` if it cannot be predicted, for example because a tin was deleted.
    pub judged: Vec<Option<BoardJudgement>>,
}

/// A quantity to estimate.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Unknown {
    Film(Technique),
    Cover(Technique),
    Rough(Technique),
    Strength(PaintId),
}

/// Index and prior sd of each unknown.
type Unknowns = BTreeMap<Unknown, (usize, f64)>;

/// A tin used on the boards.
#[derive(Debug, Clone)]
struct OnBoards<'a> {
    class: Class,
    known: &'a Ensemble,
    /// ln of the strength of each plausible variant relative to the best.
    own: Vec<f64>,
}

type Tins<'a> = BTreeMap<PaintId, OnBoards<'a>>;

/// Estimates the hand from readings of boards. The readings are in the order in which they will be referred to.
pub fn learn_hand<'a>(
    readings: &[BoardReading],
    known: impl Fn(PaintId) -> Option<(Class, &'a Ensemble)>,
) -> Taught {
    let mut tins = Tins::new();
    for paint in readings.iter().flat_map(|reading| reading.painted.paints()) {
        if let Some((class, known)) = known(paint) {
            tins.entry(paint).or_insert_with(|| OnBoards { class, known, own: strengths(known) });
        }
    }
    let unknowns = asked_for(readings, &tins);
    if unknowns.is_empty() {
        return Taught { judged: vec![None; readings.len()], ..Taught::default() };
    }
    let nothing = DVector::zeros(unknowns.len());
    let views: Vec<Option<View>> = readings
        .par_iter()
        .map(|reading| View::of(reading, &tins, &unknowns).and_then(|view| view.believed(&nothing)))
        .collect();
    let off: Vec<Option<f64>> =
        views.par_iter().map(|view| view.as_ref().and_then(|view| view.surprise(&unknowns))).collect();
    let questioned =
        |i: usize| !readings[i].sure && off[i].is_some_and(|off| off > OUTLIER_SD) || off[i].is_none();
    let believed: Vec<&View> = views
        .iter()
        .enumerate()
        .filter(|(i, _)| !questioned(*i))
        .filter_map(|(_, view)| view.as_ref())
        .collect();
    let (best, root) = most_probable(&believed, &unknowns);
    let judged = (0..readings.len())
        .map(|i| {
            let view = views[i].as_ref()?;
            let [usual, predicted] = [&nothing, &best].map(|at| view.seen(at));
            let (usual, predicted) = (view.by_spot(&usual?), view.by_spot(&predicted?));
            let spots = readings[i].spots.iter().zip(&predicted);
            Some(BoardJudgement {
                questioned: questioned(i),
                off: off[i]?,
                difference: spots
                    .map(|(spot, reply)| difference(spot.measured.lab(), *reply).value())
                    .collect(),
                usual,
                predicted,
            })
        })
        .collect();
    taught(&believed, &unknowns, &tins, (&best, root), judged)
}

/// Unknowns that the readings depend on.
fn asked_for(readings: &[BoardReading], tins: &Tins) -> Unknowns {
    let mut unknowns = Unknowns::new();
    for reading in readings {
        for layer in reading.painted.layers(reading.letter()) {
            // Texture shows in what is applied later.
            if layer.technique.rough(layer.hand).value() > 0.0 {
                unknowns.insert(Unknown::Rough(layer.technique), (0, ROUGH));
            }
            // A film set by the painter is taken as given.
            if layer.print.is_some() {
                continue;
            }
            let usual = layer.technique.print(layer.hand);
            if !layer.technique.takes_away() {
                unknowns.insert(Unknown::Film(layer.technique), (0, FILM));
            }
            let broken = |place: Place| (0.0..1.0).contains(&usual.cover.at(place).value());
            if Place::ALL.into_iter().any(broken) {
                unknowns.insert(Unknown::Cover(layer.technique), (0, COVER));
            }
        }
    }
    for (paint, tin) in tins {
        let sd = (tin.own.iter().map(|ln| ln * ln).sum::<f64>() / tin.own.len() as f64).sqrt();
        if sd > SURE && !tin.class.is_medium() {
            unknowns.insert(Unknown::Strength(*paint), (0, sd));
        }
    }
    for (at, place) in unknowns.values_mut().enumerate() {
        place.0 = at;
    }
    unknowns
}

/// The most probable values, and the root of their precision.
fn most_probable(views: &[&View], unknowns: &Unknowns) -> (DVector<f64>, Option<Cholesky<f64, Dyn>>) {
    const ROUNDS: usize = 12;
    let before = DVector::from_iterator(unknowns.len(), unknowns.values().map(|(_, sd)| 1.0 / (sd * sd)));
    let misfit = |at: &DVector<f64>| {
        let of_boards: f64 = views.par_iter().map(|view| view.misfit(at)).sum();
        of_boards + at.component_mul(at).dot(&before)
    };
    let mut best = DVector::zeros(unknowns.len());
    let mut root = Cholesky::new(DMatrix::from_diagonal(&before));
    let mut least = misfit(&best);
    for _ in 0..ROUNDS {
        let looks: Vec<Look> = views.par_iter().filter_map(|view| view.look(&best)).collect();
        let mut precision = DMatrix::from_diagonal(&before);
        let mut pull = -best.component_mul(&before);
        for look in &looks {
            precision += look.slope.tr_mul(&look.slope);
            pull -= look.slope.tr_mul(&look.residual);
        }
        root = Cholesky::new(precision);
        let Some(root) = &root else { break };
        let mut step = root.solve(&pull);
        let next = (0..5).find_map(|_| {
            let next = &best + &step;
            let off = misfit(&next);
            step *= 0.5;
            (off < least).then_some((next, off))
        });
        let Some((next, off)) = next else { break };
        let gained = least - off;
        (best, least) = (next, off);
        if gained < 1e-3 {
            break;
        }
    }
    (best, root)
}

/// Converts the result to hands and strengths, with plausible alternatives drawn around the best.
fn taught(
    believed: &[&View],
    unknowns: &Unknowns,
    tins: &Tins,
    (best, root): (&DVector<f64>, Option<Cholesky<f64, Dyn>>),
    judged: Vec<Option<BoardJudgement>>,
) -> Taught {
    let n = unknowns.len();
    let mut around = DMatrix::zeros(n, MEMBERS);
    for (unknown, (at, sd)) in unknowns {
        let row = match unknown {
            Unknown::Film(technique) => drawn(*technique).row(0).clone_owned(),
            Unknown::Cover(technique) => drawn(*technique).row(1).clone_owned(),
            Unknown::Rough(technique) => drawn(*technique).row(4).clone_owned(),
            Unknown::Strength(paint) => {
                DMatrix::from_fn(1, MEMBERS, |_, m| tins.get(paint).map_or(0.0, |tin| tin.own[m] / sd))
                    .row(0)
                    .clone_owned()
            }
        };
        around.set_row(*at, &row);
    }
    let mut variance = DVector::from_iterator(n, unknowns.values().map(|(_, sd)| sd * sd));
    if let Some(root) = &root {
        // Independent unit normals become draws with the covariance (L Lᵀ)⁻¹ by solving Lᵀ x = z.
        root.l_dirty().tr_solve_lower_triangular_mut(&mut around);
        variance = root.inverse().diagonal();
    }
    let value = |unknown: Unknown, m: Option<usize>| {
        let (at, _) = unknowns.get(&unknown)?;
        Some(best[*at] + m.map_or(0.0, |m| around[(*at, m)]))
    };
    let mut hands = LearnedHand::default();
    for technique in Technique::ALL {
        let known = &mut hands.by_technique[technique as usize];
        known.boards = believed.iter().filter(|view| view.is_of(technique)).count();
        let (film, cover) = (Unknown::Film(technique), Unknown::Cover(technique));
        let rough = Unknown::Rough(technique);
        // Plausible hands include the part that no board removes.
        let always = drawn(technique);
        let read = known.boards > 0;
        let off =
            |row: usize, m: Option<usize>| m.filter(|_| read).map_or(0.0, |m| NOISE_FLOOR * always[(row, m)]);
        let habit = |m: Option<usize>, before: HandBias| HandBias {
            film: value(film, m).map_or(before.film, |ln| (ln + off(2, m)).exp()),
            cover: value(cover, m).map_or(before.cover, |cover| cover + off(3, m)),
            rough: value(rough, m).map_or(before.rough, |ln| (ln + off(5, m)).exp()),
        };
        known.best = habit(None, known.best);
        known.members = known.members.iter().enumerate().map(|(m, before)| habit(Some(m), *before)).collect();
        if let Some((at, _)) = unknowns.get(&film).filter(|_| read) {
            known.film_sd = variance[*at].sqrt().hypot(NOISE_FLOOR);
        }
    }
    let strength = |paint: &PaintId| {
        let of = |m| value(Unknown::Strength(*paint), m);
        let members = (0..MEMBERS).map(|m| of(Some(m))).collect::<Option<_>>()?;
        Some((*paint, Strength::new(of(None)?, members)))
    };
    Taught { hands, strengths: tins.keys().filter_map(strength).collect(), judged }
}

/// A reading with what the estimate needs.
struct View<'a> {
    reading: &'a BoardReading,
    tins: &'a Tins<'a>,
    unknowns: &'a Unknowns,
    /// Unknowns it depends on.
    own: Vec<usize>,
    /// Root of the covariance of the reading around its prediction.
    noise: Option<Cholesky<f64, Dyn>>,
}

/// A reading evaluated at some values of the unknowns, whitened so that each number is in units of its sd.
struct Look {
    residual: DVector<f64>,
    slope: DMatrix<f64>,
}

impl<'a> View<'a> {
    /// `None` if some tins of the board are unknown.
    fn of(reading: &'a BoardReading, tins: &'a Tins<'a>, unknowns: &'a Unknowns) -> Option<Self> {
        let painted = &reading.painted;
        let paints = painted.paints();
        if paints.iter().any(|paint| !tins.contains_key(paint)) {
            return None;
        }
        let mut view = Self { reading, tins, unknowns, own: Vec::new(), noise: None };
        let own = unknowns.iter().filter(|(unknown, _)| match unknown {
            Unknown::Film(technique) | Unknown::Cover(technique) => view.is_of(*technique),
            Unknown::Rough(technique) => view.is_rough_by(*technique),
            Unknown::Strength(paint) => paints.contains(paint),
        });
        view.own = own.map(|(_, (at, _))| *at).collect();
        Some(view)
    }

    fn is_of(&self, technique: Technique) -> bool {
        let layers = self.reading.painted.layers(self.reading.letter());
        layers.iter().any(|layer| layer.technique == technique && layer.print.is_none())
    }

    fn is_rough_by(&self, technique: Technique) -> bool {
        let mut layers = self.reading.painted.layers(self.reading.letter()).into_iter();
        layers.any(|layer| layer.technique == technique && technique.rough(layer.hand).value() > 0.0)
    }

    fn value(&self, at: &DVector<f64>, unknown: Unknown) -> f64 {
        self.unknowns.get(&unknown).map_or(0.0, |(i, _)| at[*i])
    }

    /// Colour at each kind of place on a plausible shelf, or the most probable one; strengths come from the unknowns.
    fn seen_of(&self, at: &DVector<f64>, shelf: Option<usize>) -> Option<ByPlace<Lab>> {
        let letter = self.reading.letter();
        let materials: BTreeMap<PaintId, (Class, Material)> = self
            .reading
            .painted
            .paints()
            .into_iter()
            .map(|paint| {
                let tin = self.tins.get(&paint)?;
                let strength = self.value(at, Unknown::Strength(paint));
                let material = match shelf {
                    None => tin.known.best().stronger(strength),
                    Some(m) => tin.known.member(m).stronger(strength - tin.own[m]),
                };
                Some((paint, (tin.class, material)))
            })
            .collect::<Option<_>>()?;
        let tin = |paint| materials.get(&paint).map(|(class, material)| KnownTin::new(*class, material));
        let habit = |technique| HandBias {
            film: self.value(at, Unknown::Film(technique)).clamp(-4.0, 4.0).exp(),
            cover: self.value(at, Unknown::Cover(technique)),
            rough: self.value(at, Unknown::Rough(technique)).clamp(-4.0, 4.0).exp(),
        };
        let stack = self.reading.painted.stack(letter, tin, habit).ok()?;
        Some(ByPlace::from_fn(|place| {
            lab(&stack.seen(place, stack.len(), self.reading.state).from_afar(), Light::Daylight)
        }))
    }

    fn seen(&self, at: &DVector<f64>) -> Option<ByPlace<Lab>> {
        self.seen_of(at, None)
    }

    fn by_spot(&self, seen: &ByPlace<Lab>) -> Vec<Lab> {
        self.reading.spots.iter().map(|spot| *seen.at(spot.place)).collect()
    }

    /// Differences from `from` by spot, in the metric at the midpoint to the reading.
    fn weighed(&self, seen: &ByPlace<Lab>, from: &[Lab], eyes: &[LocalMetric]) -> DVector<f64> {
        let spots = self.by_spot(seen);
        let off =
            spots.iter().zip(from).zip(eyes).flat_map(|((seen, from), eye)| {
                eye.weigh([seen.l - from.l, seen.a - from.a, seen.b - from.b])
            });
        DVector::from_iterator(3 * spots.len(), off)
    }

    fn read(&self) -> Vec<Lab> {
        self.reading.spots.iter().map(|spot| spot.measured.lab()).collect()
    }

    fn eyes(&self, seen: &ByPlace<Lab>) -> Vec<LocalMetric> {
        let half = |(seen, read): (Lab, Lab)| {
            LocalMetric::at(Lab {
                l: 0.5 * (seen.l + read.l),
                a: 0.5 * (seen.a + read.a),
                b: 0.5 * (seen.b + read.b),
            })
        };
        self.by_spot(seen).into_iter().zip(self.read()).map(half).collect()
    }

    /// Adds the noise from its paints at some values of the unknowns.
    fn believed(mut self, at: &DVector<f64>) -> Option<Self> {
        let seen = self.seen(at)?;
        let (eyes, best) = (self.eyes(&seen), self.by_spot(&seen));
        let own = self.reading.source.sd().hypot(UNEVEN / 3f64.sqrt());
        let n = 3 * best.len();
        let mut covariance = DMatrix::identity(n, n) * (own * own);
        for shelf in draws::some(SHELVES) {
            let off = self.weighed(&self.seen_of(at, Some(shelf))?, &best, &eyes);
            covariance.ger(1.0 / SHELVES as f64, &off, &off, 1.0);
        }
        // No hand has the same bias at every place.
        for (unknown, (i, _)) in self.unknowns {
            if matches!(unknown, Unknown::Strength(_)) || !self.own.contains(i) {
                continue;
            }
            let moved = |by: f64| {
                let mut at = at.clone();
                at[*i] += by;
                Some(self.weighed(&self.seen(&at)?, &best, &eyes))
            };
            let slope = (moved(BY_PLACE)? - moved(-BY_PLACE)?) / 2.0;
            for place in Place::ALL {
                let here = DVector::from_fn(n, |row, _| match self.reading.spots[row / 3].place == place {
                    true => slope[row],
                    false => 0.0,
                });
                covariance.ger(1.0, &here, &here, 1.0);
            }
        }
        self.noise = Some(covariance.cholesky()?);
        Some(self)
    }

    /// Twice the negative log-likelihood of the reading; infinite if the board is impossible.
    fn misfit(&self, at: &DVector<f64>) -> f64 {
        let squared = || {
            let seen = self.seen(at)?;
            let mut off = self.weighed(&seen, &self.read(), &self.eyes(&seen));
            self.noise.as_ref()?.l_dirty().solve_lower_triangular_mut(&mut off).then_some(off.norm_squared())
        };
        squared().unwrap_or(f64::INFINITY)
    }

    /// Distance of the reading from what any hand makes of that board, in standard deviations of a normal.
    ///
    /// If the linear test finds it odd, the hand that most probably made it is searched for: its total cost, ½|θ|² +
    /// ½|residual|², is the same χ² without linearisation.
    fn surprise(&self, unknowns: &Unknowns) -> Option<f64> {
        let look = self.look(&DVector::zeros(unknowns.len()))?;
        let n = look.residual.len() as f64;
        let straight = deviations(look.squared(&self.own, unknowns), n);
        if straight <= OUTLIER_SD {
            return Some(straight);
        }
        let (best, _) = most_probable(&[self], unknowns);
        let hand: f64 = unknowns.values().map(|(at, sd)| (best[*at] / sd).powi(2)).sum();
        Some(straight.min(deviations(hand + self.misfit(&best), n)))
    }

    fn look(&self, at: &DVector<f64>) -> Option<Look> {
        const STEP: f64 = 0.02;
        let seen = self.seen(at)?;
        let (eyes, read) = (self.eyes(&seen), self.read());
        let mut residual = self.weighed(&seen, &read, &eyes);
        let mut slope = DMatrix::zeros(residual.len(), at.len());
        for i in &self.own {
            let moved = |by: f64| {
                let mut at = at.clone();
                at[*i] += by;
                Some(self.weighed(&self.seen(&at)?, &read, &eyes))
            };
            slope.set_column(*i, &((moved(STEP)? - moved(-STEP)?) / (2.0 * STEP)));
        }
        let root = self.noise.as_ref()?.l_dirty();
        root.solve_lower_triangular_mut(&mut residual);
        root.solve_lower_triangular_mut(&mut slope);
        Some(Look { residual, slope })
    }
}

impl Look {
    /// Squared distance of the reading from the prior prediction, including the hand's uncertainty: a χ² with as many
    /// degrees of freedom as there are numbers, if films are linear in the hand.
    fn squared(&self, own: &[usize], unknowns: &Unknowns) -> f64 {
        let n = self.residual.len();
        let mut covariance = DMatrix::identity(n, n);
        for (_, (at, sd)) in unknowns.iter().filter(|(_, (at, _))| own.contains(at)) {
            let along = self.slope.column(*at) * *sd;
            covariance.ger(1.0, &along, &along, 1.0);
        }
        let mut off = self.residual.clone();
        match covariance.cholesky() {
            Some(root) if root.l_dirty().solve_lower_triangular_mut(&mut off) => off.norm_squared(),
            _ => 0.0,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Three standard deviations are three, however many numbers were read: χ² of one spot and of nine (Wilson and
    /// Hilferty's cube root turned round: 15.9 of 3 degrees, 54.5 of 27), and a little to either side.
    #[test]
    fn one_spot_and_nine_are_judged_alike() {
        let surprise = |n: usize, squared: f64| {
            let each = (squared / n as f64).sqrt();
            let look = Look { residual: DVector::repeat(n, each), slope: DMatrix::zeros(n, 0) };
            deviations(look.squared(&[], &Unknowns::new()), n as f64)
        };
        for (n, at_three) in [(3, 15.9), (27, 54.5)] {
            assert!(surprise(n, 0.9 * at_three) < OUTLIER_SD && surprise(n, 1.1 * at_three) > OUTLIER_SD);
        }
    }
}
