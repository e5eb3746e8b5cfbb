//! `cargo bench --bench learning`: how long the estimate of a whole shelf takes, and what is made of it.

use std::hint::black_box;

use criterion::Criterion;
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use warm_blend_device::ColourReader;
use warm_blend_learn::{
    Beside, Ensemble, Facts, PartsMethod, Reading, Reads, Shown, Source, learn, learn_after, learn_named,
    worth,
};
use warm_blend_paint::{FilmState, Masstone, Material, Parts};
use warm_blend_sim::{SimulatedReader, VirtualPaint, VirtualSample, tins};
use warm_blend_spectral::{Lab, Light, Xyz};

const PAINTS: usize = 60;
const READINGS: usize = 1000;

/// A shelf of virtual tins, and readings of tints and mixes of them.
fn workshop() -> (Vec<Facts>, Vec<Reading>) {
    let shelf: Vec<VirtualPaint> = tins().into_iter().cycle().take(PAINTS).collect();
    let facts = shelf.iter().enumerate().map(|(i, tin)| Facts {
        class: tin.class,
        masstone: Some(Masstone::Hex(tin.code())),
        source: Source::Chip,
        coats_to_hide: None,
        lustre: None,
        house_white: i == 0,
    });
    let facts = facts.collect();
    let mut chance = ChaCha8Rng::seed_from_u64(7);
    let mut reader = SimulatedReader::new(7, false);
    let readings = (0..READINGS).map(|n| {
        let part = |chance: &mut ChaCha8Rng| Parts::new(f64::from(chance.random_range(1..=6u8))).unwrap();
        let mut of = vec![(1 + n % (PAINTS - 1), part(&mut chance))];
        let other = if n < 3 * PAINTS { 0 } else { (of[0].0 + chance.random_range(1..PAINTS)) % PAINTS };
        of.push((other, part(&mut chance)));
        let stirred: Vec<_> = of.iter().map(|(tin, parts)| (*parts, &shelf[*tin])).collect();
        reader.put_on(VirtualSample::thick(&stirred, FilmState::Dry).unwrap());
        if n % 100 == 0 {
            reader.calibrate().unwrap();
        }
        let shown = Shown::Thick(reader.read().unwrap());
        Reading {
            of,
            pour: PartsMethod::Spoons,
            state: FilmState::Dry,
            shown,
            source: Source::Reader,
            sure: false,
        }
    });
    (facts, readings.collect())
}

/// Thousands of tins, each read once as a tint with the house white.
fn star(paints: usize) -> (Vec<Facts>, Vec<Reading>) {
    let (few, readings) = workshop();
    let facts: Vec<Facts> = few.iter().copied().cycle().take(paints).collect();
    let facts = facts.into_iter().enumerate().map(|(i, facts)| Facts { house_white: i == 0, ..facts });
    let of = |i: usize| 1 + (i - 1) % (PAINTS - 1);
    let readings = (1..paints).filter(|i| i % PAINTS != 0).map(|i| {
        let like = &readings[of(i % PAINTS) - 1];
        Reading { of: vec![(i, like.of[0].1), (0, like.of[1].1)], ..like.clone() }
    });
    (facts.collect(), readings.collect())
}

/// As if it had been read alone.
fn alone(tint: &Reading) -> Reading {
    Reading { of: tint.of[..1].to_vec(), sure: true, ..tint.clone() }
}

fn lab(material: &Material) -> Lab {
    Lab::of(Xyz::of(&material.masstone(), Light::Daylight), Light::Daylight.white())
}

fn main() {
    let (facts, readings) = workshop();
    let learnt = learn(&facts, &readings).unwrap();
    let questioned = learnt.judged.iter().filter(|judged| judged.questioned).count();
    println!("{PAINTS} paints, {READINGS} readings, {questioned} questioned");
    let mut criterion = Criterion::default().sample_size(10).configure_from_args();
    criterion.bench_function("estimate of 60 paints, 1000 readings", |b| {
        b.iter(|| learn(black_box(&facts), black_box(&readings)))
    });
    let names: Vec<u64> = (0..PAINTS as u64).collect();
    let before = learn_named(&names, &facts, &readings[..READINGS - 1]).unwrap();
    criterion.bench_function("the same after one more reading", |b| {
        b.iter(|| learn_after(black_box(&before), &names, black_box(&facts), black_box(&readings)))
    });
    criterion.bench_function("estimate of 60 paints, 60 readings", |b| {
        b.iter(|| learn(black_box(&facts), black_box(&readings[..60])))
    });
    let (facts, tints) = star(5000);
    criterion.bench_function("estimate of 5000 paints, each a tint with the white", |b| {
        b.iter(|| learn(black_box(&facts), black_box(&tints)))
    });
    let spectra: Vec<Reading> = tints.iter().map(alone).collect();
    criterion.bench_function("estimate of 5000 paints, each a spectrum", |b| {
        b.iter(|| learn(black_box(&facts), black_box(&spectra)))
    });
    let parts = |n: f64| Parts::new(n).unwrap();
    let components = [(parts(3.0), &learnt.paints[3]), (parts(1.0), &learnt.paints[20])];
    criterion.bench_function("two-part mix with its band", |b| {
        b.iter(|| Ensemble::mix(black_box(&components)).unwrap().within(lab))
    });
    let partners: Vec<&Material> = learnt.paints.iter().map(Ensemble::best).collect();
    criterion.bench_function("worth of every test of a paint", |b| {
        b.iter(|| {
            worth(
                black_box(&learnt.paints[5]),
                Beside { others: &partners, white: Some(&learnt.paints[0]), dark: None },
                Reads::Spectra,
            )
        })
    });
    criterion.final_summary();
}
