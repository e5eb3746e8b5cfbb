//! Ranks mixes by how far off they will probably be, instead of by the most probable tins alone.
//!
//! A mix of untested paints may promise a difference of 0.4 and be off by ten; a mix of tested paints that promises 0.8
//! and keeps it is better. Each candidate is mixed on a number of plausible shelves and ranked by its mean difference
//! there (expected loss: M. H. DeGroot, *Optimal Statistical Decisions* (1970), ch. 8).
//!
//! On a small shelf every mix is a candidate. On a larger one the candidates are, by the most probable tins, the best
//! mixes of two paints of the whole shelf, of three of the 34 best-known, of four of the 16 best-known and of the
//! best-known quarter, and mixes that differ by one part from the best of these.

use std::{cmp::Ordering, ops::ControlFlow};

use rayon::prelude::*;
use warm_blend_paint::{
    Look, Material, Optics, Parts, SurfaceReflection, divisor, hiding::house_white_scattering, mix,
};
use warm_blend_spectral::{BANDS, Lab, difference};

use super::matching::{Limits, MatchTin, Progress, Ratios, Recipe, STEP, Sets, find};

/// A tin for a mix, with its uncertainty.
#[derive(Debug, Clone)]
pub struct DoubtfulTin<'a> {
    /// Its most probable state.
    pub tin: MatchTin<'a>,
    /// Its plausible materials; index `i` belongs to the same plausible shelf in every tin. Empty if nothing is
    /// uncertain.
    pub plausible: Vec<Material>,
}

/// A mix with its expected difference.
#[derive(Debug, Clone, PartialEq)]
pub struct LikelyRecipe {
    /// The mix, with the difference it has if every tin is what it most probably is.
    pub recipe: Recipe,
    /// Mean CIEDE2000 from the target over the plausible shelves, but never less than the recipe's difference.
    pub expected: f64,
}

/// Up to how many mixes all are candidates.
const SMALL: usize = 4000;
/// Candidates for each mix that is wanted.
const CANDIDATES: usize = 2;
/// Of how many tins mixes of three are made where some are in doubt, and of how many mixes of four: one more tin that is itself a guess
/// makes no mix likelier.
const SURE: usize = 34;
const SUREST: usize = 16;
/// How many of the likeliest are looked at with a part more or less.
const REFINED: usize = 12;

impl LikelyRecipe {
    /// The order of the list: that of recipes whose difference is what is expected of them.
    fn before(&self, other: &Self) -> Ordering {
        let expected = |of: &Self| Recipe { difference: of.expected, ..of.recipe.clone() };
        expected(self).before(&expected(other)).then(self.expected.total_cmp(&other.expected))
    }

    fn set(&self) -> Vec<usize> {
        let mut set: Vec<usize> = self.recipe.parts.iter().map(|(at, _)| *at).collect();
        set.sort_unstable();
        set
    }
}

/// Expected difference of a mix from a target: the mean CIEDE2000 over the plausible shelves, but never less than that of
/// the most probable tins.
pub fn expected(parts: &[(usize, u32)], tins: &[DoubtfulTin], target: Lab, look: Look) -> f64 {
    expected_if(None, parts, tins, target, look)
}

/// Expected difference of a mixed pot from a target.
pub fn expected_in(pot: InDoubt, target: Lab, look: Look) -> f64 {
    expected_of(&[(Parts::of(1.0), pot)], &[(); 0], |_, mixed| difference(look.lab(mixed), target).value())
}

/// The same if one of the tins were known for certain.
fn expected_if(
    sure: Option<usize>,
    parts: &[(usize, u32)],
    tins: &[DoubtfulTin],
    target: Lab,
    look: Look,
) -> f64 {
    let stirred = parts.iter().map(|(at, parts)| {
        let tin = tins[*at].material();
        (Parts::of(f64::from(*parts)), if sure == Some(*at) { InDoubt::certain(tin.best) } else { tin })
    });
    expected_of(&stirred.collect::<Vec<_>>(), &[(); 0], |_, mixed| {
        difference(look.lab(mixed), target).value()
    })
}

/// A material with its uncertainty.
#[derive(Debug, Clone, Copy)]
pub struct InDoubt<'a> {
    /// The most probable material.
    pub best: &'a Material,
    /// Material on each plausible shelf; empty if nothing is uncertain.
    pub plausible: &'a [Material],
}

impl<'a> InDoubt<'a> {
    /// A material without uncertainty.
    pub const fn certain(best: &'a Material) -> Self {
        Self { best, plausible: &[] }
    }

    /// Material on a plausible shelf, or the most probable one.
    pub fn on(&self, shelf: Option<usize>) -> &'a Material {
        shelf.and_then(|m| self.plausible.get(m)).unwrap_or(self.best)
    }
}

impl<'a> DoubtfulTin<'a> {
    /// A tin without uncertainty.
    pub const fn certain(tin: MatchTin<'a>) -> Self {
        Self { tin, plausible: Vec::new() }
    }

    /// Its contents.
    pub fn material(&self) -> InDoubt<'_> {
        InDoubt { best: self.tin.material, plausible: &self.plausible }
    }
}

/// A component of a mix: parts and material.
pub(crate) type Stirred<'a> = (Parts, InDoubt<'a>);

/// Mean difference of a mix over the plausible shelves, but never less than that of the most probable materials. `aims`
/// holds the target on each shelf; empty if the target is certain.
pub(crate) fn expected_of<'a, A>(
    of: &[Stirred<'a>],
    aims: &[A],
    off: impl Fn(Option<&A>, &Material) -> f64,
) -> f64 {
    let by = |shelf: Option<usize>| {
        let stirred: Vec<(Parts, &Material)> =
            of.iter().map(|(parts, own)| (*parts, own.on(shelf))).collect();
        mix(&stirred).map_or(f64::INFINITY, |mixed| off(shelf.and_then(|m| aims.get(m)), &mixed))
    };
    let best = by(None);
    let shelves = of.iter().map(|(_, own)| own.plausible.len()).max().unwrap_or(0);
    if shelves == 0 { best } else { mean_over(shelves, by).max(best) }
}

/// Mean over this many plausible shelves; without any, the value for the most probable one.
pub(crate) fn mean_over(shelves: usize, by: impl Fn(Option<usize>) -> f64) -> f64 {
    match shelves {
        0 => by(None),
        _ => (0..shelves).map(|m| by(Some(m))).sum::<f64>() / shelves as f64,
    }
}

/// Mixes with the smallest expected difference, best first, one for each set of paints. `watch` as in [`find`].
pub fn find_likely(
    tins: &[DoubtfulTin],
    target: Lab,
    look: impl Into<Look>,
    limits: Limits,
    mut watch: impl FnMut(Progress) -> ControlFlow<()>,
) -> Vec<LikelyRecipe> {
    let look = look.into();
    let likely = |recipe: Recipe| {
        let expected = expected(&recipe.parts, tins, target, look);
        LikelyRecipe { recipe, expected }
    };
    let stirred = |parts: Vec<(usize, u32)>| likely(as_known(parts, tins, target, look));
    let mut candidates: Vec<LikelyRecipe> = match all(tins, limits) {
        Some(all) => all.into_par_iter().map(stirred).collect(),
        None => {
            let found = pools(tins, limits).into_iter().flat_map(|(among, limits)| {
                let some: Vec<MatchTin> = among.iter().map(|at| tins[*at].tin).collect();
                let mut found = find(&some, target, look, limits, &mut watch);
                for (at, _) in found.iter_mut().flat_map(|recipe| &mut recipe.parts) {
                    *at = among[*at];
                }
                found
            });
            let found: Vec<Recipe> = found.collect();
            found.into_par_iter().map(likely).collect()
        }
    };
    candidates.sort_by(LikelyRecipe::before);
    let beside: Vec<Vec<(usize, u32)>> = candidates
        .iter()
        .filter(|candidate| candidate.expected > candidate.recipe.difference)
        .take(REFINED)
        .flat_map(|candidate| beside(&candidate.recipe.parts, limits.parts))
        .collect();
    candidates.extend(beside.into_par_iter().map(stirred).collect::<Vec<_>>());
    candidates.sort_by(LikelyRecipe::before);
    let mut list: Vec<LikelyRecipe> = Vec::new();
    for candidate in candidates {
        if list.len() < limits.recipes && list.iter().all(|other| other.set() != candidate.set()) {
            list.push(candidate);
        }
    }
    list
}

/// The tin whose uncertainty decides which mix comes first: if it were known, another mix might win. Of several, the one
/// with most to gain; `None` if the first mix stays first.
pub fn deciding_test(
    list: &[LikelyRecipe],
    tins: &[DoubtfulTin],
    target: Lab,
    look: impl Into<Look>,
) -> Option<usize> {
    let look = look.into();
    let (first, others) = list.split_first()?;
    let mut used: Vec<usize> = others.iter().flat_map(LikelyRecipe::set).collect();
    used.sort_unstable();
    used.dedup();
    let gains = used.into_par_iter().filter(|at| !tins[*at].plausible.is_empty()).map(|at| {
        let with = |of: &LikelyRecipe| expected_if(Some(at), &of.recipe.parts, tins, target, look);
        let best = others.iter().filter(|other| other.set().contains(&at)).map(with);
        (at, with(first).min(first.expected) - best.fold(f64::INFINITY, f64::min))
    });
    let most = gains.max_by(|one, other| one.1.total_cmp(&other.1))?;
    (most.1 > STEP).then_some(most.0)
}

fn as_known(parts: Vec<(usize, u32)>, tins: &[DoubtfulTin], target: Lab, look: Look) -> Recipe {
    let known: Vec<MatchTin> = parts.iter().map(|(at, _)| tins[*at].tin).collect();
    let own: Vec<(usize, u32)> = parts.iter().enumerate().map(|(n, (_, parts))| (n, *parts)).collect();
    Recipe { parts, ..Recipe::of(own, &known, target, look) }
}

/// Every mix of a small shelf; none of a larger one.
fn all(tins: &[DoubtfulTin], limits: Limits) -> Option<Vec<Vec<(usize, u32)>>> {
    let wanted: Vec<usize> = (0..tins.len()).filter(|at| tins[*at].tin.wanted).collect();
    let among: Vec<usize> = (0..tins.len()).collect();
    let mut all = Vec::new();
    for size in wanted.len().max(1)..=limits.paints.min(tins.len()) {
        let ratios = Ratios::of(size, limits.parts).all;
        for set in Sets::new(&among, size) {
            if !wanted.iter().all(|at| set[..size].contains(at)) {
                continue;
            }
            if all.len() + ratios.len() > SMALL {
                return None;
            }
            all.extend(
                ratios.iter().map(|ratio| set.iter().copied().zip(ratio.iter().copied()).collect::<Vec<_>>()),
            );
        }
    }
    Some(all)
}

/// Which tins are looked through, and how: all of them for mixes of two, then the surest ones for mixes of three and of four, then the
/// surest quarter. What must be in the mix is in each. Where nothing is in doubt, all of them for all mixes.
fn pools(tins: &[DoubtfulTin], limits: Limits) -> Vec<(Vec<usize>, Limits)> {
    let doubts: Vec<f64> = tins.par_iter().map(doubt).collect();
    let mut order: Vec<usize> = (0..tins.len()).collect();
    order.sort_by(|one, other| {
        let wanted = |at: usize| !tins[at].tin.wanted;
        wanted(*one).cmp(&wanted(*other)).then(doubts[*one].total_cmp(&doubts[*other]))
    });
    let more = Limits { recipes: CANDIDATES * limits.recipes, ..limits };
    let up_to = |paints: usize| Limits { paints: limits.paints.min(paints), ..more };
    let pools = if doubts.iter().any(|doubt| *doubt > 0.0) {
        &[(tins.len(), up_to(2)), (SURE, up_to(3)), (SUREST, more), (tins.len() / 4, more)][..]
    } else {
        &[(tins.len(), more)]
    };
    let mut all: Vec<(Vec<usize>, Limits)> = Vec::new();
    for (n, limits) in pools {
        let mut among = order[..(*n).max(limits.paints).min(tins.len())].to_vec();
        among.sort_unstable();
        // The same tins again are looked through once, for the largest mixes.
        all.retain(|(known, _)| *known != among);
        all.push((among, *limits));
    }
    all
}

/// How much a tin's doubt shows where it is a third of a pot of white, ΔE00 on average.
fn doubt(tin: &DoubtfulTin) -> f64 {
    let white = Material::closed(
        Optics::new([0.01 * house_white_scattering(); BANDS], [house_white_scattering(); BANDS]),
        SurfaceReflection::new(0.5),
    );
    let look = Look::default();
    let tinted = |own: &Material| {
        let of = [(Parts::of(1.0), own), (Parts::of(2.0), &white)];
        mix(&of).ok().map(|mixed| look.lab(&mixed))
    };
    let Some(best) = tinted(tin.tin.material) else { return 0.0 };
    let off = tin.plausible.iter().filter_map(tinted).map(|lab| difference(lab, best).value());
    off.sum::<f64>() / tin.plausible.len().max(1) as f64
}

/// Ratios with a part more or less of one of the paints.
fn beside(parts: &[(usize, u32)], most: u32) -> Vec<Vec<(usize, u32)>> {
    let mut all = Vec::new();
    for place in 0..parts.len() {
        for step in [-1i64, 1] {
            let mut other = parts.to_vec();
            let more = i64::from(other[place].1) + step;
            let Ok(more @ 1..) = u32::try_from(more) else { continue };
            other[place].1 = more;
            let by = other.iter().map(|(_, parts)| *parts).fold(0, divisor);
            other.iter_mut().for_each(|(_, parts)| *parts /= by);
            if other.iter().map(|(_, parts)| parts).sum::<u32>() <= most {
                all.push(other);
            }
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_paint::{Class, Masstone};
    use warm_blend_spectral::{Light, Srgb};

    fn material(red: u8, green: u8, blue: u8) -> Material {
        let masstone = Masstone::Hex(Srgb { red, green, blue });
        Material::of(Class::Chalk, Some(masstone), None).unwrap()
    }

    /// A tin whose strength is off by as much, up or down, on half of the shelves each.
    fn tin(material: &Material, off: f64) -> DoubtfulTin<'_> {
        let plausible = if off == 0.0 {
            Vec::new()
        } else {
            (0..8).map(|m| material.stronger(if m % 2 == 0 { off } else { -off })).collect()
        };
        DoubtfulTin { tin: MatchTin { material, price: None, wanted: false }, plausible }
    }

    fn limits(parts: u32) -> Limits {
        Limits { paints: 3, parts, recipes: 3, every: crate::EVERY }
    }

    fn go(_: Progress) -> ControlFlow<()> {
        ControlFlow::Continue(())
    }

    const LOOK: Light = Light::Daylight;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]

        /// What is expected is never less than what is promised, and the first of the list is the likeliest of all mixes but for
        /// what nobody sees; where nothing is in doubt it is the list of [`find`].
        #[test]
        fn the_likeliest_of_all(
            codes in proptest::collection::vec(any::<[u8; 3]>(), 3..5),
            doubts in proptest::collection::vec(0.05..1.5f64, 4),
            aim in any::<[u8; 3]>(),
        ) {
            let materials: Vec<Material> = codes.iter().map(|[r, g, b]| material(*r, *g, *b)).collect();
            let target = Srgb { red: aim[0], green: aim[1], blue: aim[2] }.to_lab();
            let tins: Vec<DoubtfulTin> = materials.iter().zip(&doubts).map(|(own, off)| tin(own, *off)).collect();
            let found = find_likely(&tins, target, LOOK, limits(8), go);
            for one in &found {
                prop_assert!(one.expected >= one.recipe.difference);
                prop_assert_eq!(one.expected, expected(&one.recipe.parts, &tins, target, LOOK.into()));
            }
            let best = all(&tins, limits(8)).unwrap().iter()
                .map(|parts| expected(parts, &tins, target, LOOK.into())).fold(f64::INFINITY, f64::min);
            prop_assert!(found[0].expected <= best * 8.0 / 7.0 + 0.5, "{} {}", found[0].expected, best);

            let sure: Vec<DoubtfulTin> = materials.iter().map(|own| tin(own, 0.0)).collect();
            let known: Vec<MatchTin> = sure.iter().map(|tin| tin.tin).collect();
            let likely = find_likely(&sure, target, LOOK, limits(8), go);
            let plain = find(&known, target, LOOK, limits(8), go);
            prop_assert_eq!(likely.into_iter().map(|one| one.recipe).collect::<Vec<_>>(), plain);
        }
    }

    /// A black that may be four times as strong or as weak promises to come nearer than two tested paints, and is not poured.
    #[test]
    fn a_tested_mix_comes_before_a_promise() {
        let [white, black, slate] = [material(240, 238, 230), material(30, 30, 32), material(92, 96, 100)];
        let shelf = [tin(&white, 0.0), tin(&black, 1.4), tin(&slate, 0.0)];
        let of = [(Parts::of(9.0), &white), (Parts::of(1.0), &black)];
        let target = Look::default().lab(&mix(&of).unwrap());
        let found = find_likely(&shelf, target, LOOK, limits(10), go);
        let set = |one: &LikelyRecipe| one.set();
        assert_eq!(set(&found[0]), [0, 2], "{found:?}");
        assert!(found.iter().find(|one| set(one) == [0, 1]).unwrap().expected > 3.0);
        let known: Vec<MatchTin> = shelf.iter().map(|tin| tin.tin).collect();
        assert_eq!(find(&known, target, LOOK, limits(10), go)[0].parts, [(0, 9), (1, 1)]);
    }
}
