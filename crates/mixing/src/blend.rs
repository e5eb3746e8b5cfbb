//! The transition between two colours that are worked into each other.
//!
//! The path runs through the mixes of the two paints, by share of the wet volume. It is judged by eye: how even it is
//! (CIEDE2000 from step to step), where it turns grey (less chroma than either end), and whether it turns into a third
//! colour (a family of hue that is neither end's).

use std::cmp::Ordering;

use rayon::prelude::*;
use warm_blend_paint::{HueFamily, Look, Material, Parts, Seen, mix};
use warm_blend_spectral::{Lab, difference};

use super::likely::{DoubtfulTin, InDoubt, mean_over};

/// Steps of a path.
const STEPS: usize = 24;
/// Chroma that a blend may lose below the weaker end before it is called muddy†.
const MUD: f64 = 6.0;
/// Chroma from which a colour between counts as a colour of its own†.
const COLOURED: f64 = 9.0;
/// At less than this share half-way, a colour overpowers the other†.
const OVERPOWERS: f64 = 0.3;

/// Transition from one colour to another.
#[derive(Debug, Clone, PartialEq)]
pub struct BlendCurve {
    /// Colours along the path: 25, evenly spaced by volume, including both ends.
    pub colours: Vec<Lab>,
    /// Largest step divided by the mean step; 1 if the transition is even.
    pub uneven: f64,
    /// Share of the second colour that looks half-way, 0–1.
    pub half_way: f64,
    /// Where it turns grey, if it does.
    pub mud: Option<Mud>,
    /// Third colour that it turns into, if any, and the share of the second colour at which that is strongest.
    pub turns: Option<(HueFamily, f64)>,
}

/// A loss of chroma along a transition.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mud {
    /// Share of the second colour at which it is greyest.
    pub share: f64,
    /// C*ab at that point.
    pub chroma: f64,
    /// Loss of chroma relative to the weaker end.
    pub dip: f64,
}

/// Which of two colours dominates.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stronger {
    /// The first.
    First,
    /// The second.
    Second,
}

fn at(one: &Material, other: &Material, share: f64, look: Look) -> Lab {
    match share {
        s if s <= 0.0 => look.lab(one),
        s if s >= 1.0 => look.lab(other),
        s => mix(&[(Parts::of(1.0 - s), one), (Parts::of(s), other)])
            .map_or(Lab { l: 0.0, a: 0.0, b: 0.0 }, |mixed| look.lab(&mixed)),
    }
}

/// Colours of the path on a screen.
pub fn seen_between(one: &Material, other: &Material, look: impl Into<Look>) -> Vec<Seen> {
    let look = look.into();
    let seen = |i: usize| match i {
        0 => look.masstone(one),
        STEPS => look.masstone(other),
        _ => {
            let share = i as f64 / STEPS as f64;
            mix(&[(Parts::of(1.0 - share), one), (Parts::of(share), other)])
                .map_or_else(|_| look.masstone(one), |mixed| look.masstone(&mixed))
        }
    };
    (0..=STEPS).map(seen).collect()
}

impl BlendCurve {
    /// Transition from one material to the other.
    pub fn between(one: &Material, other: &Material, look: impl Into<Look>) -> Self {
        let look = look.into();
        let share = |i: usize| i as f64 / STEPS as f64;
        let colours: Vec<Lab> = (0..=STEPS).map(|i| at(one, other, share(i), look)).collect();
        let steps: Vec<f64> = colours.windows(2).map(|pair| difference(pair[0], pair[1]).value()).collect();
        let mean = steps.iter().sum::<f64>() / steps.len() as f64;
        let largest = steps.iter().copied().fold(0.0, f64::max);
        let weaker = colours[0].chroma().min(colours[STEPS].chroma());
        let (greyest, chroma) = colours
            .iter()
            .enumerate()
            .map(|(i, lab)| (i, lab.chroma()))
            .min_by(|a, b| a.1.total_cmp(&b.1))
            .unwrap_or((0, weaker));
        let ends = [HueFamily::of(colours[0]), HueFamily::of(colours[STEPS])];
        let third = colours
            .iter()
            .enumerate()
            .filter(|(_, lab)| lab.chroma() >= COLOURED && !ends.contains(&HueFamily::of(**lab)))
            .max_by(|a, b| a.1.chroma().total_cmp(&b.1.chroma()));
        Self {
            uneven: if mean > 1e-9 { largest / mean } else { 1.0 },
            half_way: half_way(one, other, look),
            mud: (weaker - chroma > MUD).then(|| Mud { share: share(greyest), chroma, dip: weaker - chroma }),
            turns: third.map(|(i, lab)| (HueFamily::of(*lab), share(i))),
            colours,
        }
    }

    /// The colour that dominates even in a small share, if one does.
    pub fn stronger(&self) -> Option<Stronger> {
        match self.half_way {
            half if half < OVERPOWERS => Some(Stronger::Second),
            half if half > 1.0 - OVERPOWERS => Some(Stronger::First),
            _ => None,
        }
    }

    /// True if one brush must not serve both, because their mix resembles neither.
    pub fn must_not_meet(&self) -> bool {
        self.turns.is_some() || self.mud.is_some()
    }

    /// The half-way share as whole parts of the first and the second: twelve in all at most, or one in many.
    pub fn half_way_parts(&self) -> (u32, u32) {
        let far = |(one, other): &(u32, u32)| {
            let share = f64::from(*other) / f64::from(one + other);
            // As ratios go: 1 in 20 for 1 in 25 is as far as 1 in 4 for 1 in 5.
            ((share / (1.0 - share)).ln() - (self.half_way / (1.0 - self.half_way)).ln()).abs()
        };
        let small = (1u32..=11).flat_map(|one| (1..=12 - one).map(move |other| (one, other)));
        let large = (12u32..=999).flat_map(|many| [(many, 1), (1, many)]);
        let near = |ratios: &mut dyn Iterator<Item = (u32, u32)>| {
            ratios.min_by(|a, b| {
                (far(a), a.0 + a.1).partial_cmp(&(far(b), b.0 + b.1)).unwrap_or(Ordering::Equal)
            })
        };
        let (small, large) = (near(&mut { small }), near(&mut { large }));
        match (small, large) {
            (Some(small), Some(large)) if far(&large) < 0.5 * far(&small) && far(&small) > 0.1 => large,
            (Some(small), _) => small,
            _ => (1, 1),
        }
    }

    /// The transition in words.
    pub fn words(&self) -> String {
        let runs = match self.uneven {
            uneven if uneven < 1.6 => "blends evenly",
            uneven if uneven < 2.6 => "changes faster at one end",
            _ => "jumps at one end",
        };
        let turns = self.turns.map(|(family, _)| format!(", turns {} in between", family.id()));
        let grey = self.mud.map(|_| ", greys out in between".to_owned());
        format!("{runs}{}", turns.or(grey).unwrap_or_default())
    }

    /// What one brush would make of the two, in words.
    pub fn on_one_brush(&self) -> String {
        match (self.turns, self.mud) {
            (Some((family, _)), _) => format!("turns {}", family.id()),
            (None, Some(_)) => "goes muddy".to_owned(),
            (None, None) => "can share a brush".to_owned(),
        }
    }

    /// How rough the way is: what is lost to grey, what it jumps, how long it is.
    fn roughness(&self) -> f64 {
        let turned = if self.turns.is_some() { 6.0 } else { 0.0 };
        self.mud.map_or(0.0, |mud| mud.dip) + 3.0 * (self.uneven - 1.0) + turned
    }
}

/// Share of the second at which the mix is as far from the one as from the other. By halving: the nearer to the second, the
/// more of it.
fn half_way(one: &Material, other: &Material, look: Look) -> f64 {
    let (first, second) = (look.lab(one), look.lab(other));
    if difference(first, second).value() < 1e-6 {
        return 0.5;
    }
    // In ln of the ratio, where both ends are alike.
    let (mut low, mut high) = (-7.0f64, 7.0f64);
    let share = |ratio: f64| 1.0 / (1.0 + (-ratio).exp());
    for _ in 0..30 {
        let middle = 0.5 * (low + high);
        let mixed = at(one, other, share(middle), look);
        if difference(mixed, first).value() < difference(mixed, second).value() {
            low = middle;
        } else {
            high = middle;
        }
    }
    share(0.5 * (low + high))
}

/// Index of the tin that best bridges two colours: the path through it is probably the smoothest, and clearly smoother
/// than the direct one.
pub fn bridge(one: InDoubt, other: InDoubt, tins: &[DoubtfulTin], look: impl Into<Look>) -> Option<usize> {
    let look = look.into();
    /// A bridge is worth a third pot when it takes away this share of the roughness†.
    const WORTH: f64 = 0.65;
    /// It must lie between: the way over it may be longer by this†.
    const DETOUR: f64 = 1.5;
    /// So many of the smoothest are tried on so many plausible shelves.
    const CANDIDATES: usize = 4;
    const SHELVES: usize = 8;
    let leg = |a: &Material, b: &Material| BlendCurve::between(a, b, look).roughness();
    let over = |tin: InDoubt, shelf: Option<usize>| {
        leg(one.on(shelf), tin.on(shelf)).max(leg(tin.on(shelf), other.on(shelf)))
    };
    let (first, second) = (look.lab(one.best), look.lab(other.best));
    let apart = difference(first, second).value();
    let lies_between = |tin: InDoubt| {
        let middle = look.lab(tin.best);
        let (to, from) = (difference(first, middle).value(), difference(middle, second).value());
        to + from <= DETOUR * apart && to.min(from) > 0.15 * apart
    };
    let between =
        tins.par_iter().map(DoubtfulTin::material).enumerate().filter(|(_, tin)| lies_between(*tin));
    let mut between: Vec<(usize, InDoubt, f64)> =
        between.map(|(at, tin)| (at, tin, over(tin, None))).collect();
    between.sort_by(|a, b| a.2.total_cmp(&b.2));
    between.truncate(CANDIDATES);
    let shelves = |of: &[InDoubt]| of.iter().map(|own| own.plausible.len()).max().unwrap_or(0).min(SHELVES);
    let direct = mean_over(shelves(&[one, other]), |shelf| leg(one.on(shelf), other.on(shelf)));
    let ways = between
        .par_iter()
        .map(|(at, tin, _)| (*at, mean_over(shelves(&[one, other, *tin]), |shelf| over(*tin, shelf))));
    let best = ways.min_by(|a, b| a.1.total_cmp(&b.1));
    best.filter(|(_, rough)| *rough < WORTH * direct).map(|(at, _)| at)
}
