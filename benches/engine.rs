//! `cargo bench`: the engine's steps one by one, then a two-part mix to Lab against a general-purpose library from npm
//! (spectral.js 3, `general_mixer.mjs`) in the same run, each on one thread.

use std::{
    hint::black_box,
    process::Command,
    time::{Duration, Instant},
};

use criterion::Criterion;
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{ManyMixes, PartRows};
use warm_blend_paint::{Class, CoatsToHide, Drawdown, Masstone, Material, Name, Parts, mix};
use warm_blend_spectral::{Lab, Light, Xyz, smoothest};

fn tin(hex: &str) -> ShelfPaint {
    let masstone = Some(Masstone::Hex(hex.parse().unwrap()));
    ShelfPaint {
        coats_to_hide: Some(CoatsToHide::new(2.0).unwrap()),
        ..ShelfPaint::new(Name::new(hex).unwrap(), Class::Chalk, masstone)
    }
}

/// A mix in full: its material, its curve, its Lab.
fn mixed(blue: &Material, yellow: &Material, parts: f64) -> Lab {
    let components = [(Parts::new(parts).unwrap(), blue), (Parts::new(50.0).unwrap(), yellow)];
    let surface = mix(&components).unwrap().masstone();
    Lab::of(Xyz::of(&surface, Light::Daylight), Light::Daylight.white())
}

/// The same colours as the shades of a paint are looked for: many at a time, in single precision.
fn many(mixes: &ManyMixes, rows: &PartRows) -> Vec<Lab> {
    mixes.labs(&[0, 1], rows)
}

/// As many two-part mixes as one call takes.
fn rows() -> PartRows {
    PartRows::of(&std::array::from_fn::<_, MANY, _>(|i| [ratio(i as u32) as f32, 50.0, 0.0, 0.0]))
}

const MANY: usize = 1024;

fn ratio(i: u32) -> f64 {
    f64::from(1 + i % 97)
}

fn steps(c: &mut Criterion) {
    let (blue, yellow) = (tin("#2f5f9e"), tin("#e3b93a"));
    let lab = blue.masstone.unwrap().lab();
    c.bench_function("reflectance from a colour", |b| b.iter(|| smoothest(black_box(lab))));
    c.bench_function("paint from hex and coats", |b| b.iter(|| black_box(&blue).material()));
    let (blue, yellow) = (blue.material().unwrap(), yellow.material().unwrap());
    c.bench_function("two-part mix to Lab", |b| b.iter(|| mixed(black_box(&blue), black_box(&yellow), 7.0)));
    let (mixes, rows) = (ManyMixes::new(&[&blue, &yellow], Light::Daylight), rows());
    c.bench_function("1024 two-part mixes to Lab, side by side", |b| {
        b.iter(|| many(black_box(&mixes), &rows))
    });
    c.bench_function("drawdown", |b| b.iter(|| Drawdown::of(black_box(&blue), Light::ShopTube)));
    c.bench_function("coats to hide of a mix", |b| b.iter(|| black_box(&blue).coats_to_hide()));
}

/// Mixes per second of this engine, every mix with its own ratio. `mix` makes [`MANY`] of them.
fn per_second(seconds: f64, mix: impl Fn() -> f64) -> f64 {
    let (start, mut done, mut sum) = (Instant::now(), 0usize, 0.0);
    while start.elapsed() < Duration::from_secs_f64(seconds) {
        for _ in 0..8 {
            sum += mix();
            done += MANY;
        }
    }
    assert!(sum.is_finite());
    done as f64 / start.elapsed().as_secs_f64()
}

fn theirs(seconds: f64) -> Option<f64> {
    let folder = env!("CARGO_MANIFEST_DIR");
    let script = format!("{folder}/general_mixer.mjs");
    let run = Command::new("node")
        .args(["--single-threaded", &script, &seconds.to_string()])
        .current_dir(folder)
        .output()
        .ok()?;
    String::from_utf8(run.stdout).ok()?.trim().parse().ok()
}

fn main() {
    let mut criterion = Criterion::default().configure_from_args();
    steps(&mut criterion);
    criterion.final_summary();

    let (blue, yellow) = (tin("#2f5f9e").material().unwrap(), tin("#e3b93a").material().unwrap());
    let (mixes, rows) = (ManyMixes::new(&[&blue, &yellow], Light::Daylight), rows());
    let full = || {
        per_second(1.0, || {
            (0..MANY as u32).map(|i| mixed(black_box(&blue), black_box(&yellow), ratio(i)).l).sum()
        })
    };
    let quick = || per_second(1.0, || many(black_box(&mixes), &rows).iter().map(|lab| lab.l).sum());
    // Turn about, so that neither has the quieter machine. The library's speed doubles now and then with what its
    // just-in-time compiler makes of it, so the median of five counts, and the least is said too.
    let mut ratios = Vec::new();
    for _ in 0..5 {
        let Some(theirs) = theirs(1.0) else {
            println!("no comparison: it needs Node and `npm install --prefix benches`");
            return;
        };
        let (quick, full) = (quick(), full());
        ratios.push(quick / theirs);
        println!(
            "two-part mixes to Lab a second: quick {quick:.0}, in full {full:.0}, general library {theirs:.0}: {:.1} and {:.1} times",
            quick / theirs,
            full / theirs
        );
    }
    ratios.sort_by(f64::total_cmp);
    println!("quick: median of five {:.1} times, least {:.1}", ratios[2], ratios[0]);
}
