//! Matching: the mixes of the shelf that come closest to a colour.
//!
//! Considers every mix of one to four paints in whole parts up to a total. What cannot reach the list is discarded early,
//! but never by chance:
//!
//! 1. all ratios of one, two and three paints, then of four;
//! 2. a set of paints is skipped if the target is lighter, darker, redder, greener, yellower or bluer than any of its
//!    mixes can be (`reach`), by more than the list still allows;
//! 3. ratios are computed at six bands, then at eighteen if they may be near, then in full if they are.
//!
//! On a shelf of more than [`EVERY`] paints, sets of four are made only of paints in the best smaller sets. The best mix
//! is then found nearly always, not always (a bench measures how often).

use std::{cmp::Ordering, ops::ControlFlow};

use pulp::{Simd, WithSimd};
use rayon::prelude::*;
use warm_blend_paint::{Look, Material, Parts, divisor, mix};
use warm_blend_spectral::{Lab, difference, lab_f_inverse};

use super::{
    ciede2000_bound::Ciede2000Bound,
    ciede2000_simd::{Aim, OFF, OPPOSITE, least_apart, turn},
    labs::Labs,
    lanes::{Mask, side_by_side},
    reach::Reach,
    reduced_bands::{DEEP, HalfBands, PartRows, SixthBands},
};

/// Largest shelf on which every set of four is considered.
pub const EVERY: usize = 24;
/// Of how many paints sets of four are made on a larger shelf.
const FAVOURITES: usize = 18;
/// Difference of two differences, ΔE00, below which nobody sees which mix is closer.
pub(super) const STEP: f64 = 0.5;
/// From where on steps grow, which step that is, and by how much they grow.
const FAR: f64 = 2.0;
const FIRST_FAR: u32 = 4;
const GROWS: f64 = 8.0 / 7.0;
/// Sets that are looked at between two looks at the clock.
const CHUNK: usize = 2048;

/// A tin for a mix.
#[derive(Debug, Clone, Copy)]
pub struct MatchTin<'a> {
    /// Its contents.
    pub material: &'a Material,
    /// Price per ml, if known.
    pub price: Option<f64>,
    /// True if the mix must contain it.
    pub wanted: bool,
}

/// Limits of a search.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Limits {
    /// Greatest number of paints, 1 to 4.
    pub paints: usize,
    /// Greatest total of parts.
    pub parts: u32,
    /// Number of mixes to find.
    pub recipes: usize,
    /// Largest shelf on which every set of four is considered; [`EVERY`] answers within 300 ms.
    pub every: usize,
}

/// A mix close to the target.
#[derive(Debug, Clone, PartialEq)]
pub struct Recipe {
    /// Indices of tins, with whole parts in lowest terms.
    pub parts: Vec<(usize, u32)>,
    /// CIEDE2000 from the target.
    pub difference: f64,
    /// Price per ml, if all prices are known.
    pub price: Option<f64>,
}

/// Progress of a search.
#[derive(Debug, Clone)]
pub struct Progress<'a> {
    /// Share of sets considered, 0..=1.
    pub done: f64,
    /// Best mixes so far, best first.
    pub best: &'a [Recipe],
}

impl Recipe {
    /// Predicts a mix in full.
    pub(super) fn of(parts: Vec<(usize, u32)>, tins: &[MatchTin], target: Lab, look: Look) -> Self {
        let stirred: Vec<(Parts, &Material)> =
            parts.iter().map(|(at, parts)| (Parts::of(f64::from(*parts)), tins[*at].material)).collect();
        let lab = mix(&stirred).map(|mixed| look.lab(&mixed));
        let total: f64 = parts.iter().map(|(_, parts)| f64::from(*parts)).sum();
        let price = parts
            .iter()
            .map(|(at, parts)| tins[*at].price.map(|price| price * f64::from(*parts) / total))
            .sum::<Option<f64>>();
        let difference = lab.map_or(f64::INFINITY, |lab| difference(lab, target).value());
        Recipe { parts, difference, price }
    }

    /// The order of the list: what is nearer by a step that can be seen; then fewer paints, fewer parts, cheaper; then what
    /// is nearer at all.
    fn rank(&self) -> (u32, usize, u32, f64, f64) {
        let parts = self.parts.iter().map(|(_, parts)| parts).sum();
        (step(self.difference), self.parts.len(), parts, self.price.unwrap_or(f64::INFINITY), self.difference)
    }

    /// Compares the rank of two mixes.
    pub fn before(&self, other: &Recipe) -> Ordering {
        let (one, two) = (self.rank(), other.rank());
        one.partial_cmp(&two).unwrap_or(Ordering::Equal)
    }
}

/// Rank of a difference: differences of the same rank look alike. Steps are half a unit up to two, then grow by a
/// seventh, because far from a target small differences between differences are invisible.
pub(super) fn step(difference: f64) -> u32 {
    if difference < FAR {
        (difference / STEP) as u32
    } else {
        FIRST_FAR + ((difference / FAR).ln() / GROWS.ln()) as u32
    }
}

/// Where a step begins.
fn begins(step: u32) -> f64 {
    if step <= FIRST_FAR { f64::from(step) * STEP } else { FAR * GROWS.powf(f64::from(step - FIRST_FAR)) }
}

/// The best mixes, best first, one for each set of paints. `watch` is given the progress and may stop the search; what
/// was found so far is the result.
pub fn find(
    tins: &[MatchTin],
    target: Lab,
    look: impl Into<Look>,
    limits: Limits,
    mut watch: impl FnMut(Progress) -> ControlFlow<()>,
) -> Vec<Recipe> {
    let look = look.into();
    let materials: Vec<&Material> = tins.iter().map(|tin| tin.material).collect();
    let search = Search {
        tins,
        aim: target.into(),
        rough: Ciede2000Bound::of(target.into()),
        look,
        sweep: HalfBands::new(&materials, look),
        glance: SixthBands::new(&materials, look),
        reach: Reach::new(&materials, look, target, limits.parts),
    };
    let deepest = limits.paints.min(DEEP).min(tins.len());
    let wanted = tins.iter().filter(|tin| tin.wanted).count();
    let mut list = List { best: Vec::new(), room: limits.recipes.max(1) };
    let sizes: Vec<f64> = (1..=deepest)
        .map(|size| {
            sets_of(
                size,
                tins.len().min(if size == DEEP && tins.len() > limits.every {
                    FAVOURITES
                } else {
                    usize::MAX
                }),
            )
        })
        .collect();
    let (mut passed, all) = (0.0, sizes.iter().sum::<f64>());
    for size in wanted.max(1)..=deepest {
        let among =
            if size == DEEP { list.favourites(tins, limits.every) } else { (0..tins.len()).collect() };
        let ratios = Ratios::of(size, limits.parts);
        let mut sets = Sets::new(&among, size).filter(|set| search.has_all_wanted(set, wanted)).peekable();
        while sets.peek().is_some() {
            let chunk: Vec<[usize; DEEP]> = sets.by_ref().take(CHUNK).collect();
            let bar = list.bar(size);
            let window = search.reach.window(bar.near);
            let best = |set: &[usize; DEEP]| {
                if !search.reach.may_come_into(&window, &set[..size]) {
                    return None;
                }
                match size {
                    1 => search.best_of::<1>(&set[..1], &ratios, bar),
                    2 => search.best_of::<2>(&set[..2], &ratios, bar),
                    3 => search.best_of::<3>(&set[..3], &ratios, bar),
                    _ => search.best_of::<4>(set, &ratios, bar),
                }
            };
            let found: Vec<Recipe> = chunk.par_iter().filter_map(best).collect();
            passed += chunk.len() as f64;
            list.take(found);
            if watch(Progress { done: (passed / all).min(1.0), best: &list.best }).is_break() {
                return list.best;
            }
        }
    }
    list.best
}

struct Search<'a> {
    tins: &'a [MatchTin<'a>],
    aim: Aim,
    rough: Ciede2000Bound,
    look: Look,
    sweep: HalfBands,
    glance: SixthBands,
    reach: Reach,
}

impl Search<'_> {
    fn has_all_wanted(&self, set: &[usize; DEEP], wanted: usize) -> bool {
        wanted == 0
            || set.iter().filter(|at| self.tins.get(**at).is_some_and(|tin| tin.wanted)).count() == wanted
    }

    /// The best ratio of a set that gets over the bar.
    fn best_of<const N: usize>(&self, set: &[usize], ratios: &Ratios, bar: Bar) -> Option<Recipe> {
        side_by_side(BestOf::<N> { search: self, set, ratios, bar })
    }

    /// Which of the mixes, known to within `nearly`, may be as near as that: first roughly, then nearly in full.
    #[inline(always)]
    fn may_be_near<S: Simd>(&self, simd: S, labs: &Labs<S>, near: f64, nearly: f64) -> Mask<S> {
        let may = self.rough.may_be_near(simd, labs, near, nearly);
        if !may.any() {
            return may;
        }
        may & least_apart(simd, &self.aim, labs, nearly).no_more_than((near + nearly + OFF) as f32)
    }

    fn recipe(&self, parts: Vec<(usize, u32)>) -> Recipe {
        Recipe::of(parts, self.tins, self.aim.lab, self.look)
    }
}

/// A search of the ratios of one set.
struct BestOf<'a, const N: usize> {
    search: &'a Search<'a>,
    set: &'a [usize],
    ratios: &'a Ratios,
    bar: Bar,
}

impl<const N: usize> WithSimd for BestOf<'_, N> {
    type Output = Option<Recipe>;

    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) -> Option<Recipe> {
        let Self { search, set, ratios, bar } = self;
        let (glance, at_a_glance) = (search.glance.set(set), search.glance.trusted_to);
        let (swept, nearly) = (search.sweep.set(set), search.sweep.trusted_to);
        let mut best: Option<Recipe> = None;
        let mut own = Bar::NONE;
        let (mut here, mut light) = (f64::NAN, [0.0; 2]);
        // Ratios come with the fewest parts first: later ones must be nearer.
        for start in ratios.rows.starts::<S>() {
            let limit = |total: u32| bar.for_parts(total).min(own.for_parts(total));
            let now = limit(ratios.totals[start]);
            if now == 0.0 {
                break;
            }
            if now != here {
                here = now;
                light = lightnesses(search.aim.lab.l, here + at_a_glance + OFF);
            }
            let parts = ratios.rows.at::<S, N>(simd, start);
            let Some(labs) = glance.look_as_light(simd, &parts, light) else { continue };
            if !search.may_be_near(simd, &labs, here, at_a_glance).any() {
                continue;
            }
            let labs = swept.look(simd, &parts);
            for place in search.may_be_near(simd, &labs, here, nearly).places() {
                let Some(parts) = ratios.all.get(start + place) else { break };
                let total = ratios.totals[start + place];
                let limit = bar.for_parts(total).min(own.for_parts(total));
                if at_least(labs.at(place), search.aim.lab, nearly) >= limit {
                    continue;
                }
                let recipe = search.recipe(set.iter().copied().zip(parts.iter().copied()).collect());
                if recipe.difference < limit && best.as_ref().is_none_or(|best| recipe.before(best).is_lt()) {
                    own = Bar::over(&recipe, N);
                    best = Some(recipe);
                }
            }
        }
        best
    }
}

/// How near a mix must come to be wanted.
#[derive(Debug, Clone, Copy)]
struct Bar {
    /// With so many parts at most it must be nearer than `near`, with more nearer than `nearer`, ΔE00.
    few: u32,
    near: f64,
    nearer: f64,
}

impl Bar {
    /// Any mix is.
    const NONE: Self = Self { few: u32::MAX, near: f64::INFINITY, nearer: f64::INFINITY };

    /// So that a mix of `size` paints comes before this one: nearer by a step, or with fewer paints or no more parts.
    fn over(recipe: &Recipe, size: usize) -> Self {
        let here = step(recipe.difference);
        let (alike, nearer) = (begins(here + 1), begins(here));
        match size.cmp(&recipe.parts.len()) {
            Ordering::Less => Self { few: u32::MAX, near: alike, nearer },
            Ordering::Equal => {
                Self { few: recipe.parts.iter().map(|(_, parts)| parts).sum(), near: alike, nearer }
            }
            Ordering::Greater => Self { few: 0, near: nearer, nearer },
        }
    }

    fn for_parts(self, total: u32) -> f64 {
        if total <= self.few { self.near } else { self.nearer }
    }
}

/// As light as a colour must be, Y over that of the white, from and to, so that it can be within `near` of a lightness, ΔE00: the
/// difference of lightness over S_L alone is at most as much.
fn lightnesses(target: f64, near: f64) -> [f32; 2] {
    // What is known only nearly may be a little darker than black.
    let y = |l: f64| if l > 0.0 { lab_f_inverse((l + 16.0) / 116.0) as f32 } else { f32::NEG_INFINITY };
    let reach = |toward: f64| {
        // S_L is 1.75 at most; d/S_L grows with d.
        let (mut within, mut beyond) = (0.0, 1.75 * near + 0.1);
        while beyond < f64::INFINITY && beyond - within > 0.05 {
            let d = 0.5 * (within + beyond);
            let from_middle = (target + 0.5 * toward * d - 50.0).powi(2);
            let s_l = 1.0 + 0.015 * from_middle / (20.0 + from_middle).sqrt();
            if d / s_l <= near { within = d } else { beyond = d }
        }
        beyond
    };
    [y(target - reach(-1.0)) - 1e-4, y(target + reach(1.0)) + 1e-4]
}

/// The least that CIEDE2000 can be, where the colour is known to within `nearly`. It jumps where two hues are opposite: there
/// both sides are looked at.
fn at_least(seen: Lab, target: Lab, nearly: f64) -> f64 {
    let here = difference(seen, target).value();
    let across = seen.a * target.a + seen.b * target.b;
    let sin = turn(nearly, seen.chroma());
    let cos = (1.0 - sin * sin).sqrt();
    if across > -OPPOSITE * cos * seen.chroma() * target.chroma() {
        return here - nearly;
    }
    let turned = |sin: f64| {
        let turned = Lab { l: seen.l, a: seen.a * cos - seen.b * sin, b: seen.a * sin + seen.b * cos };
        difference(turned, target).value()
    };
    here.min(turned(sin)).min(turned(-sin)) - nearly
}

/// The best so far.
struct List {
    best: Vec<Recipe>,
    room: usize,
}

impl List {
    fn take(&mut self, found: Vec<Recipe>) {
        self.best.extend(found);
        self.best.sort_by(Recipe::before);
        self.best.truncate(self.room);
    }

    /// What a mix of so many paints must be to come into the list.
    fn bar(&self, size: usize) -> Bar {
        self.best.get(self.room - 1).map_or(Bar::NONE, |last| Bar::over(last, size))
    }

    /// The paints that sets of four are made of: all of a small shelf; of a large one those of the best sets so far, and
    /// the rest in their order.
    fn favourites(&self, tins: &[MatchTin], every: usize) -> Vec<usize> {
        if tins.len() <= every {
            return (0..tins.len()).collect();
        }
        let mut chosen: Vec<usize> = (0..tins.len()).filter(|at| tins[*at].wanted).collect();
        let used = self.best.iter().flat_map(|recipe| recipe.parts.iter().map(|(at, _)| *at));
        for at in used.chain(0..tins.len()) {
            if !chosen.contains(&at) {
                chosen.push(at);
            }
        }
        chosen.truncate(FAVOURITES);
        chosen.sort_unstable();
        chosen
    }
}

/// All ratios of this many paints in whole parts in lowest terms, fewest parts first.
pub(super) struct Ratios {
    pub(super) all: Vec<Vec<u32>>,
    totals: Vec<u32>,
    pub(super) rows: PartRows,
}

impl Ratios {
    pub(super) fn of(size: usize, most: u32) -> Self {
        let mut all: Vec<Vec<u32>> = Vec::new();
        let mut parts = vec![1u32; size];
        if size as u32 <= most {
            loop {
                if parts.iter().copied().fold(0, divisor) == 1 {
                    all.push(parts.clone());
                }
                // The next in the order of an odometer whose digits sum to `most` at most.
                let Some(at) = (0..size).rev().find(|at| {
                    let before: u32 = parts[..*at].iter().sum();
                    before + parts[*at] + (size - at) as u32 <= most
                }) else {
                    break;
                };
                parts[at] += 1;
                parts[at + 1..].fill(1);
            }
        }
        all.sort_by_key(|parts| parts.iter().sum::<u32>());
        let parts = |parts: &Vec<u32>| -> [f32; DEEP] {
            std::array::from_fn(|place| parts.get(place).map_or(0.0, |parts| *parts as f32))
        };
        let rows = PartRows::of(&all.iter().map(parts).collect::<Vec<_>>());
        let totals = all.iter().map(|parts| parts.iter().sum()).collect();
        Self { all, totals, rows }
    }
}

/// How many sets of `size` there are among `n`.
fn sets_of(size: usize, n: usize) -> f64 {
    (0..size).map(|i| (n as f64 - i as f64) / (i as f64 + 1.0)).product::<f64>().max(0.0)
}

/// All sets of `size` paints, in order; unused positions hold no paint.
pub(super) struct Sets<'a> {
    among: &'a [usize],
    at: Option<Vec<usize>>,
}

impl<'a> Sets<'a> {
    pub(super) fn new(among: &'a [usize], size: usize) -> Self {
        Self { among, at: (size <= among.len()).then(|| (0..size).collect()) }
    }
}

impl Iterator for Sets<'_> {
    type Item = [usize; DEEP];

    fn next(&mut self) -> Option<[usize; DEEP]> {
        let at = self.at.as_mut()?;
        let (size, n) = (at.len(), self.among.len());
        let set = std::array::from_fn(|i| at.get(i).map_or(usize::MAX, |at| self.among[*at]));
        match (0..size).rev().find(|i| at[*i] < n - size + i) {
            Some(i) => {
                at[i] += 1;
                for j in i + 1..size {
                    at[j] = at[j - 1] + 1;
                }
            }
            None => self.at = None,
        }
        Some(set)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Compositions of n into k positive parts number C(n − 1, k − 1): all up to 12 in four parts are C(12, 4) = 495, of
    /// which those with a divisor 2 or 3 go: C(6, 4) + C(4, 4) = 16.
    #[test]
    fn every_ratio_is_there_once() {
        assert_eq!(Ratios::of(4, 12).all.len(), 495 - 16);
        assert_eq!(Ratios::of(1, 12).all, [[1]]);
        assert_eq!(Ratios::of(2, 4).all, [[1, 1], [1, 2], [2, 1], [1, 3], [3, 1]]);
        assert!(Ratios::of(3, 2).all.is_empty());
    }

    #[test]
    fn every_set_is_there_once() {
        let among: Vec<usize> = (0..9).collect();
        for size in 1..=4 {
            assert_eq!(Sets::new(&among, size).count() as f64, sets_of(size, 9));
        }
        assert_eq!(Sets::new(&among[..2], 3).count(), 0);
    }
}
