//! Brushes: how many of which on each day, what to wash where there are fewer, and which are not washed yet.
//!
//! A brush holds one colour at a time, or the second colour picks up the first (common practice†). Where there are fewer
//! brushes than colours, the brush whose colour is needed again last is washed out for the next: no other choice needs fewer
//! washes (L. A. Belady, *IBM Systems Journal* 5 (1966) 78, on pages of memory; tested against every choice). Overnight all
//! of them are washed.

use std::collections::BTreeMap;

use jiff::{Timestamp, civil::Date, tz::TimeZone};
use serde::{Deserialize, Serialize};
use warm_blend_board::{Family, Technique};
use warm_blend_paint::Base;

use crate::hours::plus_minutes;
use crate::work::is_wax;
use crate::{Done, Laid, Stretch, Tins, Work};

/// A kind of brush, or of what is used like one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Brush {
    /// A flat brush for coats, washes, stains and blends.
    Flat,
    /// A roller with its tray.
    Roller,
    /// A wide, soft brush for dry brushing.
    Dry,
    /// A stencil brush.
    Stencil,
    /// A wax brush.
    Wax,
}

/// Brushes of a kind that a workshop owns.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct BrushCount {
    /// Number in use.
    pub good: u8,
    /// Number worn out: too stiff or too shaggy for a coat, good enough for what ruins a brush.
    pub worn: u8,
}

/// The latest use of a brush, which identifies it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct BrushUse {
    /// Kind of brush.
    pub brush: Brush,
    /// When the step it was last used for was finished.
    pub used: Timestamp,
    /// Index of the layer in that step.
    pub layer: u8,
}

/// The brushes of a workshop.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct BrushRack {
    /// Number of each kind, where the painter has counted.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub owned: BTreeMap<Brush, BrushCount>,
    /// Latest uses that were washed out.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub washed: Vec<BrushUse>,
}

/// A brush that was used and is not washed yet.
#[derive(Debug, Clone, PartialEq)]
pub struct Unwashed {
    /// Its latest use, by which it is marked as washed.
    pub mark: BrushUse,
    /// What was on it.
    pub laid: Laid,
    /// What washes it out.
    pub base: Base,
    /// When it must be washed at the latest†.
    pub until: Timestamp,
}

/// Brushes of one kind that a day needs.
#[derive(Debug, Clone, PartialEq)]
pub struct BrushNeed {
    /// Kind of brush.
    pub brush: Brush,
    /// What they are used for, one each, in order of first use.
    pub colours: Vec<Laid>,
    /// The fewest that will do, with washing in between.
    pub at_least: usize,
    /// What to wash in between, if there are fewer brushes than colours; empty if there are fewer than `at_least`.
    pub washes: Vec<Wash>,
    /// Number missing, even with washing in between.
    pub short: usize,
}

/// A brush to be washed out between two steps.
#[derive(Debug, Clone, PartialEq)]
pub struct Wash {
    /// What is on it.
    pub laid: Laid,
    /// Index of the work after which it is washed.
    pub after: usize,
    /// Index of the work that it is washed for.
    pub before: usize,
}

/// Brushes for a day of the plan.
#[derive(Debug, Clone, PartialEq)]
pub struct BrushDay {
    /// The day.
    pub day: Date,
    /// What it needs of each kind.
    pub needs: Vec<BrushNeed>,
}

/// A stretch of work with a brush.
struct Use<'a> {
    work: usize,
    from: Timestamp,
    to: Timestamp,
    laid: &'a Laid,
}

impl Brush {
    /// All kinds, in the order in which they are listed.
    pub const ALL: &[Brush] = <Brush as strum::VariantArray>::VARIANTS;

    /// Kind of brush for a technique; `None` for what needs none, or ruins it.
    pub fn of(technique: Technique) -> Option<Self> {
        use Technique::{BrushedCoat, ClearCoat, DryBrush, MeshedGlaze, RolledCoat, Stencil, WetBlend};
        Some(match technique {
            BrushedCoat | ClearCoat | WetBlend | MeshedGlaze => Brush::Flat,
            RolledCoat => Brush::Roller,
            DryBrush => Brush::Dry,
            Stencil => Brush::Stencil,
            technique if is_wax(technique) => Brush::Wax,
            technique if matches!(technique.family(), Family::Wash | Family::Stain) => Brush::Flat,
            _ => return None,
        })
    }

    /// Name on screen of one, and of several.
    const fn names(self) -> [&'static str; 2] {
        match self {
            Brush::Flat => ["Flat brush", "Flat brushes"],
            Brush::Roller => ["Roller and tray", "Rollers and trays"],
            Brush::Dry => ["Wide soft brush for dry brushing", "Wide soft brushes for dry brushing"],
            Brush::Stencil => ["Stencil brush", "Stencil brushes"],
            Brush::Wax => ["Wax brush", "Wax brushes"],
        }
    }

    /// Name on screen of so many.
    pub fn name(self, n: usize) -> &'static str {
        self.names()[usize::from(n != 1)]
    }

    /// Why there is one for each colour.
    pub const fn why(self) -> &'static str {
        match self {
            Brush::Flat => "one per colour: a shared brush mixes them",
            Brush::Roller => "one per colour",
            Brush::Dry => "one per colour; keep it dry",
            Brush::Stencil => "almost no paint on them",
            Brush::Wax => "one per tint: dark wax never washes out",
        }
    }

    /// True if it can be used again on the day it was washed. Damp, neither dry brushing nor a stencil succeeds, and wax does not wash
    /// out of a brush at all (common practice†).
    pub const fn serves_again(self) -> bool {
        matches!(self, Brush::Flat | Brush::Roller)
    }
}

impl BrushCount {
    /// Highest number of one kind.
    pub const MOST: u8 = 99;

    /// Checks a number of brushes as it was entered.
    pub fn number(entered: f64) -> Result<u8, String> {
        match entered {
            n if n.fract() == 0.0 && (0.0..=f64::from(Self::MOST)).contains(&n) => Ok(n as u8),
            n => Err(format!("{n} isn’t a number of brushes; enter a whole number, at most {}", Self::MOST)),
        }
    }
}

impl BrushRack {
    /// How many washed uses are remembered.
    const REMEMBERED: usize = 200;

    /// The rack with this many brushes of a kind.
    pub fn counted(mut self, brush: Brush, count: BrushCount) -> Self {
        self.owned.insert(brush, count);
        self
    }

    /// The rack after a brush was washed.
    pub fn with_washed(mut self, mark: BrushUse) -> Self {
        self.washed.retain(|other| *other != mark);
        self.washed.push(mark);
        let too_many = self.washed.len().saturating_sub(Self::REMEMBERED);
        self.washed.drain(..too_many);
        self
    }

    /// Number of good brushes of a kind, if counted.
    pub fn good(&self, brush: Brush) -> Option<usize> {
        self.owned.get(&brush).map(|count| usize::from(count.good))
    }

    /// Brushes used in the last two days and not washed since, the most urgent first. What is older was washed, or is lost.
    pub fn unwashed<'d>(
        &self,
        done: impl IntoIterator<Item = &'d Done>,
        now: Timestamp,
        tins: Tins,
    ) -> Vec<Unwashed> {
        let mut last: Vec<Unwashed> = Vec::new();
        for done in done {
            if done.at > now || plus_minutes(done.at, 2.0 * 24.0 * 60.0) < now {
                continue;
            }
            for (layer, laid) in done.work.layers().iter().enumerate() {
                let Some(brush) = Brush::of(laid.technique) else { continue };
                let mark = BrushUse { brush, used: done.at, layer: layer.min(255) as u8 };
                let base = laid.base(tins);
                let until = plus_minutes(done.at, minutes_in_the_cup(base));
                let one = Unwashed { mark, laid: laid.clone(), base, until };
                let same =
                    |other: &&mut Unwashed| other.mark.brush == brush && same_colour(&other.laid, laid);
                match last.iter_mut().find(same) {
                    Some(other) if other.mark.used > done.at => {}
                    Some(other) => *other = one,
                    None => last.push(one),
                }
            }
        }
        last.retain(|one| !self.washed.contains(&one.mark));
        last.sort_by_key(|one| one.until);
        last
    }
}

/// Minutes for which a brush may stand in water or in a solvent: longer, and its bristles bend or its ferrule swells; shellac dries on it at
/// once†.
const fn minutes_in_the_cup(base: Base) -> f64 {
    match base {
        Base::Water => 4.0 * 60.0,
        Base::Oil => 12.0 * 60.0,
        Base::Alcohol => 15.0,
    }
}

impl Laid {
    /// What thins it and washes it out of a brush.
    pub fn base(&self, tins: Tins) -> Base {
        let contents = self.contents(tins);
        let of = |base: Base| contents.share(|product| product.base() == base) > 0.0;
        [Base::Alcohol, Base::Oil].into_iter().find(|base| of(*base)).unwrap_or(Base::Water)
    }
}

/// True if one brush can do both: what is in the pot, or the product of a technique without one.
fn same_colour(one: &Laid, other: &Laid) -> bool {
    one.pot == other.pot && (!one.pot.is_empty() || one.technique.product() == other.technique.product())
}

/// Colours, each once, in order of first use.
fn colours<'a>(uses: impl IntoIterator<Item = &'a Laid>) -> Vec<&'a Laid> {
    let mut all: Vec<&Laid> = Vec::new();
    for laid in uses {
        if !all.iter().any(|other| same_colour(other, laid)) {
            all.push(laid);
        }
    }
    all
}

/// Brushes for each day of some work, each with the stretch in which it is done. `good` tells how many there are of a kind, if counted.
pub fn brush_days<'a>(
    works: impl IntoIterator<Item = (&'a Work, Stretch)>,
    clock: &TimeZone,
    good: impl Fn(Brush) -> Option<usize>,
) -> Vec<BrushDay> {
    let mut days: BTreeMap<Date, BTreeMap<Brush, Vec<Use>>> = BTreeMap::new();
    for (n, (work, (from, to))) in works.into_iter().enumerate() {
        let day = clock.to_datetime(from).date();
        for laid in work.layers() {
            if let Some(brush) = Brush::of(laid.technique) {
                let uses = days.entry(day).or_default().entry(brush).or_default();
                uses.push(Use { work: n, from, to, laid });
            }
        }
    }
    let needs = |by_kind: BTreeMap<Brush, Vec<Use>>| {
        by_kind.into_iter().map(|(brush, uses)| need(brush, uses, good(brush))).collect()
    };
    days.into_iter().map(|(day, by_kind)| BrushDay { day, needs: needs(by_kind) }).collect()
}

fn need(brush: Brush, mut uses: Vec<Use>, good: Option<usize>) -> BrushNeed {
    uses.sort_by_key(|one| one.from);
    let colours = colours(uses.iter().map(|one| one.laid));
    let of = |laid: &Laid| colours.iter().position(|colour| same_colour(colour, laid)).unwrap_or(0);
    // What is on a brush at the start of each stretch.
    let wanted: Vec<Vec<usize>> = uses
        .iter()
        .map(|now| {
            let at_once = uses.iter().filter(|one| one.from <= now.from && now.from < one.to);
            let mut all: Vec<usize> = at_once.map(|one| of(one.laid)).collect();
            all.sort_unstable();
            all.dedup();
            all
        })
        .collect();
    let at_once = wanted.iter().map(Vec::len).max().unwrap_or(0);
    let at_least = if brush.serves_again() { at_once } else { colours.len() };
    let short = good.map_or(0, |good| at_least.saturating_sub(good));
    let washes = match good {
        Some(good) if short == 0 && good < colours.len() => washes(&wanted, good),
        _ => Vec::new(),
    };
    let wash = |(colour, before): (usize, usize)| {
        let after = uses[..before].iter().rev().find(|one| of(one.laid) == colour);
        Some(Wash { laid: colours[colour].clone(), after: after?.work, before: uses[before].work })
    };
    let washes = washes.into_iter().filter_map(wash).collect();
    BrushNeed { brush, at_least, washes, short, colours: colours.into_iter().cloned().collect() }
}

/// Which colour is washed out before which stretch, with so many brushes; `wanted` are the colours in use at each.
fn washes(wanted: &[Vec<usize>], brushes: usize) -> Vec<(usize, usize)> {
    let mut held: Vec<usize> = Vec::new();
    let mut washes = Vec::new();
    for (n, now) in wanted.iter().enumerate() {
        for colour in now {
            if held.contains(colour) {
                continue;
            }
            if held.len() >= brushes {
                let next = |colour: usize| wanted[n..].iter().position(|later| later.contains(&colour));
                let free = (0..held.len()).filter(|at| !now.contains(&held[*at]));
                let Some(last) = free.max_by_key(|at| next(held[*at]).unwrap_or(usize::MAX)) else {
                    continue;
                };
                washes.push((held.swap_remove(last), n));
            }
            held.push(*colour);
        }
    }
    washes
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{any_layers, chalk, layer, zone};
    use crate::{Air, Crew, WorkingHours, ZoneWork, schedule, steps, wanted};
    use proptest::prelude::*;
    use warm_blend_board::Technique::{BrushedCoat, ClearWax, DryBrush};
    use warm_blend_piece::Zone;

    fn days(zones: &[ZoneWork], good: Option<usize>) -> (Vec<Work>, Vec<BrushDay>) {
        let left: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, true, &chalk)).collect();
        let steps = steps(zones, &left, &chalk, Air::default());
        let crew = Crew::free(WorkingHours::usual("UTC"), false);
        let from = "2026-12-07T08:00:00Z".parse().unwrap();
        let plan = schedule(&steps, &crew, from, &|_| None, |_| 1.0).unwrap();
        let worked = plan.iter().flat_map(|one| one.stretches.iter().map(|stretch| (one.step, *stretch)));
        let worked: Vec<(usize, Stretch)> = worked.filter(|(_, (from, to))| from < to).collect();
        let days = brush_days(worked.iter().map(|(n, at)| (&steps[*n].work, *at)), &TimeZone::UTC, |_| good);
        (worked.iter().map(|(n, _)| steps[*n].work.clone()).collect(), days)
    }

    /// Fewest washes over every choice of what is washed out.
    fn fewest(wanted: &[Vec<usize>], held: &[usize], brushes: usize) -> usize {
        let Some((now, later)) = wanted.split_first() else { return 0 };
        let Some(missing) = now.iter().find(|colour| !held.contains(colour)) else {
            return fewest(later, held, brushes);
        };
        if held.len() < brushes {
            return fewest(wanted, &[held, &[*missing]].concat(), brushes);
        }
        let out = held.iter().filter(|colour| !now.contains(colour));
        let with = |out: &usize| {
            let kept: Vec<usize> =
                held.iter().copied().filter(|colour| colour != out).chain([*missing]).collect();
            1 + fewest(wanted, &kept, brushes)
        };
        out.map(with).min().unwrap_or(usize::MAX)
    }

    proptest! {
        /// No other choice of what is washed out needs fewer washes.
        #[test]
        fn nothing_is_washed_without_need(order in proptest::collection::vec(proptest::collection::btree_set(0usize..5, 1..3), 1..9), brushes in 2usize..5) {
            let wanted: Vec<Vec<usize>> = order.into_iter().map(|now| now.into_iter().collect()).collect();
            prop_assert_eq!(washes(&wanted, brushes).len(), fewest(&wanted, &[], brushes));
        }

        /// With a brush for each colour nothing is washed; with fewer, a wash stands between two steps of that day in their order, and
        /// whatever is counted the day needs as many colours.
        #[test]
        fn a_day_with_fewer_brushes(layers in proptest::collection::vec(any_layers(), 1..4), good in 1usize..4) {
            let zones: Vec<ZoneWork> = layers.into_iter().zip(Zone::ALL).map(|(layers, at)| zone(at, 1.0, layers)).collect();
            let (_, plenty) = days(&zones, Some(99));
            let (_, few) = days(&zones, Some(good));
            prop_assert!(plenty.iter().flat_map(|day| &day.needs).all(|need| need.washes.is_empty() && need.short == 0));
            prop_assert_eq!(plenty.len(), few.len());
            for (many, few) in plenty.iter().flat_map(|day| &day.needs).zip(few.iter().flat_map(|day| &day.needs)) {
                prop_assert_eq!(&many.colours, &few.colours);
                prop_assert!(few.at_least <= few.colours.len());
                prop_assert_eq!(few.short, few.at_least.saturating_sub(good));
                prop_assert!(few.washes.iter().all(|wash| wash.after != wash.before));
                let done_with_washing = few.washes.is_empty() == (few.short > 0 || good >= few.colours.len());
                prop_assert!(done_with_washing, "{:?}", few);
            }
        }
    }

    /// Two coats of one colour, then a second colour: with one flat brush, it is washed once in between; a dry brush for which there is
    /// none is missing.
    #[test]
    fn one_brush_for_two_colours() {
        let layers = vec![layer(BrushedCoat, 1, 1), layer(BrushedCoat, 2, 1), layer(DryBrush, 3, 1)];
        let (works, days) = days(&[zone(Zone::Case, 0.2, layers)], Some(1));
        let flat: Vec<&BrushNeed> =
            days.iter().flat_map(|day| &day.needs).filter(|need| need.brush == Brush::Flat).collect();
        let [need] = flat.as_slice() else { panic!("{days:?}") };
        assert_eq!((need.colours.len(), need.at_least, need.short), (2, 1, 0));
        let [wash] = need.washes.as_slice() else { panic!("{need:?}") };
        let pot = |n: usize| works[n].laid().unwrap().pot.clone();
        assert_eq!(
            (pot(wash.after), pot(wash.before)),
            (need.colours[0].pot.clone(), need.colours[1].pot.clone())
        );
    }

    /// What was used this morning is in the cup until it is washed; another coat of the same colour counts anew; a day later it is
    /// overdue, and three days later nobody asks.
    #[test]
    fn a_brush_is_in_the_cup_until_it_is_washed() {
        let at = |minutes: f64| plus_minutes("2026-12-07T09:00:00Z".parse().unwrap(), minutes);
        let done = |technique, minutes: f64| Done {
            work: Work::Layer(layer(technique, 1, 1).coats(&chalk).remove(0)),
            zones: vec![Zone::Case],
            at: at(minutes),
            minutes: None,
            usual: 1.0,
            note: None,
            photo: None,
            by: None,
            from_jars: Vec::new(),
        };
        let ticks = [done(BrushedCoat, 0.0), done(ClearWax, 60.0), done(BrushedCoat, 120.0)];
        let rack = BrushRack::default();
        let out = rack.unwashed(&ticks, at(130.0), &chalk);
        let kinds: Vec<(Brush, Base)> = out.iter().map(|one| (one.mark.brush, one.base)).collect();
        assert_eq!(kinds, [(Brush::Flat, Base::Water), (Brush::Wax, Base::Oil)]);
        assert_eq!(out[0].until, at(120.0 + 240.0));
        let washed = rack.clone().with_washed(out[0].mark);
        assert_eq!(washed.unwashed(&ticks, at(130.0), &chalk).len(), 1);
        let again = [ticks.to_vec(), vec![done(BrushedCoat, 200.0)]].concat();
        assert_eq!(washed.unwashed(&again, at(210.0), &chalk).len(), 2);
        assert!(rack.unwashed(&ticks, at(3.0 * 24.0 * 60.0), &chalk).is_empty());
        assert!(rack.unwashed(&ticks[1..], at(30.0), &chalk).is_empty(), "not used yet");
    }

    #[test]
    fn numbers_of_brushes_are_whole_and_few() {
        assert_eq!((BrushCount::number(0.0), BrushCount::number(99.0)), (Ok(0), Ok(99)));
        for wrong in [-1.0, 1.5, 100.0, 1e300, f64::NAN, f64::INFINITY] {
            assert!(BrushCount::number(wrong).unwrap_err().contains("at most 99"), "{wrong}");
        }
    }
}
