//! Points, drops and smears.

use std::f32::consts::TAU;

use super::cloth::{dab, facets};
use super::field::{Chance, Field, PER_MM, SIDE, bent, between, noise, on_tile, rough, softened, sum};
use super::strokes::stroke;

/// Dabs of a stippling brush, each of many points.
pub(super) fn stippled(seed: u32) -> Field {
    let mut points = vec![0.0f32; SIDE * SIDE];
    let mut chance = Chance::of(seed);
    for _ in 0..SIDE * SIDE / 7 {
        let spot = chance.spot();
        let size = 1.3 + 1.9 * chance.unit().powi(2);
        let much = chance.between(0.3, 1.0);
        dab(spot, size, |pixel, out, _| points[pixel] += much * (1.0 - out * out));
    }
    let mut pressed = vec![0.0f32; SIDE * SIDE];
    for _ in 0..700 {
        let (spot, radius) = (chance.spot(), PER_MM * chance.between(7.0, 12.0));
        let much = chance.either();
        dab(spot, radius, |pixel, out, _| pressed[pixel] += much * (1.0 - out * out));
    }
    sum(&[(1.0, points), (0.22, pressed), (0.15, noise(60.0, 60.0, seed + 1))])
}

/// Orange peel of a roller.
pub(super) fn rolled(seed: u32) -> Field {
    rough(&[(0.9, 1.0), (1.8, 0.7), (30.0, 0.35)], seed)
}

/// Ragged, tilted peaks of thick paint drawn up by a stippling brush.
pub(super) fn peaks(seed: u32) -> Field {
    let mut field = vec![0.0f32; SIDE * SIDE];
    let mut chance = Chance::of(seed);
    for _ in 0..21_000 {
        let (x, y) = chance.spot();
        let size = PER_MM * (0.7 + 1.7 * chance.unit().powi(2));
        let (high, turn) = (chance.between(0.4, 1.2), TAU * chance.unit());
        let lean = 0.7 * chance.unit();
        let (lx, ly) = (lean * turn.cos(), lean * turn.sin());
        dab((x, y), size, |pixel, out, (dx, dy)| {
            // Steep on the side it leans to.
            let leans = 1.0 + (dx * lx + dy * ly) / size;
            field[pixel] = field[pixel].max(high * (1.0 - out.powf(0.8)) * leans);
        });
    }
    let drawn = softened(&bent(&field, 0.45, &[(1.6, 1.0), (0.7, 0.6)], [seed + 2, seed + 4]), 1);
    sum(&[(1.0, drawn), (0.05, rough(&[(0.5, 1.0), (9.0, 1.0)], seed + 1))])
}

/// Drops flung from a brush: few large and many small, in bursts, each with a direction. High inside.
pub(super) fn flung(seed: u32) -> Field {
    let mut chance = Chance::of(seed);
    let fine = noise(1.6, 1.6, seed + 1);
    let mut far: Field = vec![40.0; SIDE * SIDE];
    let mut drop = |(x, y): (f32, f32), radius: f32, (sin, cos): (f32, f32), long: f32| {
        let reach = (radius * long * 3.0 + 4.0).ceil() as i32;
        for py in y as i32 - reach..=y as i32 + reach {
            for px in x as i32 - reach..=x as i32 + reach {
                let (dx, dy) = (px as f32 - x, py as f32 - y);
                let (u, v) = ((dx * cos + dy * sin) / long, dy * cos - dx * sin);
                // The tail it came with.
                let v = v * (1.0 + 0.35 * (u / radius).clamp(-1.0, 1.0) * (long - 1.0));
                let here = &mut far[on_tile(px, py)];
                *here = here.min((u * u + v * v).sqrt() / radius);
            }
        }
    };
    for _ in 0..46 {
        let (x, y) = chance.spot();
        let turn = TAU * chance.unit();
        let (spread_along, spread_across) =
            (PER_MM * chance.between(18.0, 60.0), PER_MM * chance.between(8.0, 26.0));
        let speed = chance.unit();
        for _ in 0..chance.between(12.0, 75.0) as usize {
            let mut about = || (chance.either() + chance.either() + chance.either()) / 1.6;
            let (u, v) = (spread_along * about(), spread_across * about());
            let (sin, cos) = turn.sin_cos();
            let radius = PER_MM * (0.16 * (1.0 - 0.998 * chance.unit()).powf(-0.5)).min(1.9);
            let long = 1.0 + speed * chance.unit() * 0.9;
            drop((x + u * cos - v * sin, y + u * sin + v * cos), radius, (sin, cos), long);
        }
    }
    far.iter().zip(&fine).map(|(far, fine)| -far - 0.05 * fine).collect()
}

/// Smears of a palette knife in all directions: sharp where the knife came down, with a ridge of paint on either side,
/// and tongues where it left.
pub(super) fn smeared(seed: u32) -> Field {
    let mut chance = Chance::of(seed);
    let grit = rough(&[(0.5, 0.7), (1.4, 0.6), (4.0, 0.5)], seed + 1);
    let grooves = sum(&[(1.0, noise(160.0, 3.0, seed + 2)), (0.8, noise(110.0, 9.0, seed + 3))]);
    let mut field: Field = grit.iter().map(|v| -2.0 + 0.2 * v).collect();
    for _ in 0..420 {
        let spot = chance.spot();
        let length = PER_MM * (8.0 + 40.0 * chance.unit().powi(2));
        let width = PER_MM * chance.between(4.0, 16.0);
        let much = chance.between(0.2, 1.0);
        let (u, v) = chance.spot();
        let (bow, tilt) = (chance.between(0.0, 0.08), chance.between(-0.05, 0.05));
        stroke(spot, TAU * chance.unit(), length, width, |within| {
            let groove = between(&grooves, within.along + u, within.across + v);
            let tongue = between(&grooves, u - 500.0, within.across + v).clamp(-1.5, 1.5);
            // How far the knife had come where this streak of it was.
            let come = within.run - bow * within.aside.powi(2) - tilt * (1.0 + within.aside);
            let gone = within.run * (1.15 + 0.3 * tongue);
            let wide = within.aside.abs() * (1.0 + 0.1 * groove.abs());
            if come < 0.0 || gone > 1.0 || wide > 1.0 {
                return;
            }
            let ridge = 0.3 * (1.0 - (wide - 0.86).abs() / 0.14).max(0.0);
            let rim = ((1.0 - wide) / 0.06).min(1.0) * (come / 0.02).min(1.0);
            let value = rim
                * (much * (1.0 - 0.8 * gone) + ridge * (1.0 - gone) + 0.1 * groove * (0.3 + gone))
                + 0.1 * grit[within.pixel] * (0.1 + within.run);
            field[within.pixel] = field[within.pixel].max(value);
        });
    }
    softened(&field, 1)
}

/// Colours tapped into each other: tongues and eddies.
pub(super) fn meshed(seed: u32) -> Field {
    let broad = sum(&[(1.0, noise(130.0, 130.0, seed + 7)), (0.45, noise(55.0, 55.0, seed + 8))]);
    let eddies = softened(&bent(&broad, 11.0, &[(22.0, 1.0), (9.0, 0.5)], [seed + 1, seed + 4]), 9);
    sum(&[(1.0, eddies), (0.05, rough(&[(0.7, 1.0), (4.0, 1.0)], seed + 10))])
}

/// Rivulets down a surface: each winds, swells where it slows and ends in a bead.
pub(super) fn running(seed: u32) -> Field {
    let mut chance = Chance::of(seed);
    let fine = rough(&[(0.8, 0.6), (2.5, 0.6)], seed + 1);
    let mut field: Field = fine.iter().map(|v| -3.0 + 0.2 * v).collect();
    for _ in 0..150 {
        let (mut x, y) = chance.spot();
        let length = PER_MM * (10.0 + 160.0 * chance.unit().powi(2));
        let half = PER_MM * (0.25 + 1.5 * chance.unit().powi(2));
        let (mut drift, much) = (0.0f32, chance.between(0.2, 1.0));
        let waves = [chance.between(0.0, TAU), chance.between(0.0, TAU)];
        // How much lies at a pixel that is so far aside, in halves of its width there.
        let mut lay = |pixel: usize, run: f32, aside: f32| {
            let value = much * (0.55 + 0.45 * run) + 1.2 * (1.0 - aside) + 0.12 * fine[pixel];
            field[pixel] = field[pixel].max(value.min(2.2));
        };
        let bead = 1.6 * half;
        for step in 0..length as i32 {
            let run = step as f32 / length;
            drift = 0.97 * drift + 0.03 * chance.either();
            x += drift;
            let swells = 1.0
                + 0.25 * (step as f32 / 31.0 + waves[0]).sin()
                + 0.2 * (step as f32 / 73.0 + waves[1]).sin();
            // It hangs from the bead by a neck.
            let neck = 1.0 + 0.6 * (-((1.0 - run) * length / (2.0 * bead)).powi(2)).exp();
            let wide = half * swells * neck * (run / 0.06).min(1.0);
            let reach = (1.6 * wide).ceil() as i32;
            for px in x as i32 - reach..=x as i32 + reach {
                lay(on_tile(px, y as i32 + step), run, ((px as f32 - x) / wide.max(0.3)).abs());
            }
        }
        let end = y + length.floor();
        let reach = (1.6 * bead).ceil() as i32;
        for dy in -reach..=reach {
            for px in x as i32 - reach..=x as i32 + reach {
                let aside = (px as f32 - x).hypot(dy as f32) / bead;
                if aside < 1.6 {
                    lay(on_tile(px, end as i32 + dy), 1.0, aside);
                }
            }
        }
    }
    field
}

/// Rubbed through: patches chipped along facets, with scratches. Their edges are ragged but their slopes even, so that
/// films in between show as rings.
pub(super) fn rubbed(seed: u32) -> Field {
    let chips = facets(5.0, seed + 6);
    let patches = sum(&[
        (1.0, rough(&[(11.0, 0.9), (4.5, 0.7), (2.0, 0.45)], seed)),
        (0.45, chips),
        (0.18, noise(34.0, 1.2, seed + 7)),
        (0.12, noise(1.2, 30.0, seed + 8)),
    ]);
    bent(&patches, 0.6, &[(1.5, 1.0), (0.6, 0.7)], [seed + 9, seed + 17])
}

/// Sanded through: patches without chips that fade out in the scratches of the paper.
pub(super) fn sanded(seed: u32) -> Field {
    sum(&[
        (1.0, rough(&[(17.0, 0.9), (7.0, 0.6)], seed)),
        (0.5, noise(110.0, 1.3, seed + 7)),
        (0.4, noise(48.0, 1.0, seed + 8)),
        (0.25, noise(140.0, 6.0, seed + 9)),
        (0.2, rough(&[(0.5, 1.0), (1.2, 0.6)], seed + 10)),
    ])
}

/// Soft, endless patches.
pub(super) fn clouded(seed: u32) -> Field {
    rough(&[(34.0, 1.0), (15.0, 0.6), (7.0, 0.4), (3.0, 0.25), (1.2, 0.15)], seed)
}
