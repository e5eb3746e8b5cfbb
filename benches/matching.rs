//! `cargo bench --bench matching`: how long a search for a colour takes, and how often the search of a large shelf finds
//! what a search of every mix finds.

use std::{
    hint::black_box,
    ops::ControlFlow,
    time::{Duration, Instant},
};

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use warm_blend_mixing::{
    BlendCurve, DoubtfulTin, EVERY, Limits, MatchTin, Pot, Recipe, SHADE, bridge, correct, find, find_likely,
    ladder,
};
use warm_blend_paint::{CoatsToHide, Masstone, Material, Parts, mix};
use warm_blend_sim::tins;
use warm_blend_spectral::{Lab, Light};

const LIGHT: Light = Light::Daylight;
const LIMITS: Limits = Limits { paints: 4, parts: 12, recipes: 12, every: EVERY };

/// So many tins as a painter has them: known by their codes.
fn shelf(many: usize) -> Vec<Material> {
    let mut chance = ChaCha8Rng::seed_from_u64(11);
    tins()
        .iter()
        .cycle()
        .take(many)
        .map(|tin| {
            // The second time round, the tins are others of a like colour.
            let code = Masstone::Hex(tin.code()).lab();
            let moved = |v: f64, chance: &mut ChaCha8Rng| v + chance.random_range(-6.0..6.0);
            let lab =
                Lab { l: moved(code.l, &mut chance).clamp(12.0, 95.0), a: code.a * 0.9, b: code.b * 0.9 };
            let coats = CoatsToHide::new(chance.random_range(1.0..4.0)).unwrap();
            Material::of(tin.class, Some(Masstone::Lab(lab)), Some(coats)).unwrap()
        })
        .collect()
}

/// Colours between those of the shelf, and some beyond.
fn targets(shelf: &[Material], many: usize) -> Vec<Lab> {
    let mut chance = ChaCha8Rng::seed_from_u64(12);
    (0..many)
        .map(|n| {
            if n % 4 == 3 {
                let mut any = |low, high| chance.random_range(low..high);
                return Lab { l: any(15.0, 95.0), a: any(-40.0, 40.0), b: any(-40.0, 50.0) };
            }
            let of: Vec<(Parts, &Material)> = (0..4)
                .map(|_| {
                    let at = chance.random_range(0..shelf.len());
                    (Parts::new(chance.random_range(0.5..6.0)).unwrap(), &shelf[at])
                })
                .collect();
            mix(&of).unwrap().seen_lab(LIGHT)
        })
        .collect()
}

fn tins_of(shelf: &[Material]) -> Vec<MatchTin<'_>> {
    shelf.iter().map(|material| MatchTin { material, price: None, wanted: false }).collect()
}

/// The same with 32 plausible strengths of each, as many as the program asks.
fn doubtful(shelf: &[Material]) -> Vec<DoubtfulTin<'_>> {
    let mut chance = ChaCha8Rng::seed_from_u64(13);
    tins_of(shelf)
        .into_iter()
        .zip(shelf)
        .map(|(tin, material)| {
            let plausible = (0..32).map(|_| material.stronger(chance.random_range(-0.8..0.8))).collect();
            DoubtfulTin { tin, plausible }
        })
        .collect()
}

fn main() {
    for (paints, how_many) in [(24, 60), (60, 60)] {
        let shelf = shelf(paints);
        let tins = doubtful(&shelf);
        let mut times: Vec<Duration> = Vec::new();
        let mut first: Vec<Duration> = Vec::new();
        let mut likely = 0.0;
        for target in targets(&shelf, how_many) {
            let start = Instant::now();
            let mut heard = None;
            let found = find_likely(black_box(&tins), target, LIGHT, LIMITS, |progress| {
                if progress.best.len() > 1 && heard.is_none() {
                    heard = Some(start.elapsed());
                }
                ControlFlow::Continue(())
            });
            times.push(start.elapsed());
            likely += black_box(found).first().map_or(0.0, |first| first.expected);
            first.extend(heard);
        }
        times.sort();
        first.sort();
        println!(
            "match on {paints} paints, {} targets: median {:.0?}, 90 % within {:.0?}, slowest {:.0?}; first useful answer after {:.1?}, the \
             first likely within {:.3} on average",
            times.len(),
            times[times.len() / 2],
            times[times.len() * 9 / 10],
            times[times.len() - 1],
            first[first.len() / 2],
            likely / how_many as f64
        );
    }
    the_rest_of_the_bench();
    if std::env::args().any(|argument| argument == "--same-best") {
        same_best();
    }
}

/// Ladder, blend and correction on a shelf of 24.
fn the_rest_of_the_bench() {
    let shelf = shelf(24);
    let tins = doubtful(&shelf);
    let pairs: Vec<(usize, usize)> = (0..24).map(|i| (i, (i * 7 + 5) % 24)).filter(|(a, b)| a != b).collect();
    let timed = |name: &str, work: &dyn Fn(usize, usize)| {
        let mut times: Vec<Duration> = pairs
            .iter()
            .map(|(one, other)| {
                let start = Instant::now();
                work(*one, *other);
                start.elapsed()
            })
            .collect();
        times.sort();
        println!("{name}: median {:.1?}, slowest {:.1?}", times[times.len() / 2], times[times.len() - 1]);
    };
    timed("ladder on 24 paints", &|one, _| {
        black_box(ladder(tins[one].material(), &tins, LIGHT, SHADE));
    });
    timed("blend of two, with the bridge from 24 paints", &|one, other| {
        black_box(BlendCurve::between(&shelf[one], &shelf[other], LIGHT));
        black_box(bridge(tins[one].material(), tins[other].material(), &tins, LIGHT));
    });
    timed("correction of a pot from 24 paints", &|one, other| {
        let pot = Pot { inside: tins[one].material(), ml: 240.0, room: 960.0, least: 0.5 };
        let goes_on = || ControlFlow::Continue(());
        black_box(correct(pot, &tins, shelf[other].seen_lab(LIGHT), LIGHT, false, goes_on));
    });
}

/// How often the best of 60 paints is the one that a search of all sets of four finds.
fn same_best() {
    let shelf = shelf(60);
    let tins = tins_of(&shelf);
    let targets = targets(&shelf, 200);
    let parts = |found: &[Recipe]| found.first().map(|recipe| recipe.parts.clone());
    let mut same = 0;
    for target in &targets {
        let quick = find(&tins, *target, LIGHT, LIMITS, |_| ControlFlow::Continue(()));
        // Of every mix, the one that is best of all: the list beside it would take many times as long.
        let every = Limits { every: tins.len(), recipes: 1, ..LIMITS };
        let all = find(&tins, *target, LIGHT, every, |_| ControlFlow::Continue(()));
        if parts(&quick) == parts(&all) {
            same += 1;
        } else {
            println!("  {target:?}: {:?} instead of {:?}", quick.first(), all.first());
        }
    }
    println!("60 paints: the same best as of every mix for {same} of {} targets", targets.len());
}
