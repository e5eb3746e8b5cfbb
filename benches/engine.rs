//! `cargo bench`: the engine's steps one by one, then a two-part mix to Lab against a general-purpose library from npm
//! (spectral.js 3, `general_mixer.mjs`) in the same run, each on one thread.

use std::hint::black_box;
use std::process::Command;
use std::time::{Duration, Instant};

use criterion::Criterion;
use warm_blend_finish::{Class, CoatsToHide, Drawdown, Masstone, Material, Name, Parts, ShelfPaint, mix};
use warm_blend_spectral::{Lab, Light, Xyz, smoothest};

fn tin(hex: &str) -> ShelfPaint {
    ShelfPaint {
        name: Name::new(hex).unwrap(),
        class: Class::Chalk,
        masstone: Some(Masstone::Hex(hex.parse().unwrap())),
        coats_to_hide: Some(CoatsToHide::new(2.0).unwrap()),
        price: None,
        stock: None,
    }
}

/// The step that is measured: two parts to the Lab of the dry mix.
fn mixed(blue: &Material, yellow: &Material, parts: f64) -> Lab {
    let components = [(Parts::new(parts).unwrap(), blue), (Parts::new(50.0).unwrap(), yellow)];
    let surface = mix(&components).unwrap().masstone();
    Lab::of(Xyz::of(&surface, Light::Daylight), Light::Daylight.white())
}

fn steps(c: &mut Criterion) {
    let (blue, yellow) = (tin("#2f5f9e"), tin("#e3b93a"));
    let lab = blue.masstone.unwrap().lab();
    c.bench_function("reflectance from a colour", |b| b.iter(|| smoothest(black_box(lab))));
    c.bench_function("paint from hex and coats", |b| b.iter(|| black_box(&blue).material()));
    let (blue, yellow) = (blue.material().unwrap(), yellow.material().unwrap());
    c.bench_function("two-part mix to Lab", |b| b.iter(|| mixed(black_box(&blue), black_box(&yellow), 7.0)));
    c.bench_function("drawdown", |b| b.iter(|| Drawdown::of(black_box(&blue), Light::ShopTube)));
    c.bench_function("coats to hide of a mix", |b| b.iter(|| CoatsToHide::of(black_box(&blue))));
}

/// Mixes per second of this engine, every mix with its own ratio.
fn ours(seconds: f64) -> f64 {
    let (blue, yellow) = (tin("#2f5f9e").material().unwrap(), tin("#e3b93a").material().unwrap());
    let (start, mut done, mut sum) = (Instant::now(), 0u32, 0.0);
    while start.elapsed() < Duration::from_secs_f64(seconds) {
        for i in 0..10_000 {
            sum += mixed(black_box(&blue), black_box(&yellow), f64::from(1 + i % 97)).l;
        }
        done += 10_000;
    }
    assert!(sum.is_finite());
    f64::from(done) / start.elapsed().as_secs_f64()
}

fn theirs(seconds: f64) -> Option<f64> {
    let folder = env!("CARGO_MANIFEST_DIR");
    let script = format!("{folder}/general_mixer.mjs");
    let run = Command::new("node").args([script, seconds.to_string()]).current_dir(folder).output().ok()?;
    String::from_utf8(run.stdout).ok()?.trim().parse().ok()
}

fn main() {
    let mut criterion = Criterion::default().configure_from_args();
    steps(&mut criterion);
    criterion.final_summary();

    // Turn about, so that neither has the quieter machine; the least favourable ratio counts.
    let rounds: Option<Vec<(f64, f64)>> = (0..3).map(|_| Some((ours(1.0), theirs(1.0)?))).collect();
    match rounds {
        Some(rounds) => {
            for (ours, theirs) in &rounds {
                println!(
                    "two-part mix to Lab: {ours:.0}/s, general library {theirs:.0}/s: {:.1} times",
                    ours / theirs
                );
            }
            let least = rounds.iter().map(|(ours, theirs)| ours / theirs).fold(f64::INFINITY, f64::min);
            println!("least of three: {least:.1} times");
        }
        None => println!("no comparison: it needs Node and `npm ci --prefix benches`"),
    }
}
