//! Wood grain along x, high where it is dark.

use std::f32::consts::{PI, TAU};

use super::field::{Field, SIDE, noise, sum};

/// Bands of growth across the tile, bent.
fn bands(many: f32, bends: &[f32], by: f32) -> impl Fn(usize) -> f32 {
    let y = |i: usize| (i / SIDE) as f32 / SIDE as f32;
    move |i| 0.5 + 0.5 * (TAU * many * y(i) + by * bends[i] + PI).sin()
}

/// Only what is far from the middle, one side of it.
fn above(noise: f32, from: f32) -> f32 {
    (noise - from).max(0.0)
}

/// Bands that narrow and widen around a heart; late wood is narrow and dark.
pub(super) fn banded(seed: u32) -> Field {
    let bends = sum(&[(1.0, noise(420.0, 70.0, seed)), (0.25, noise(160.0, 24.0, seed + 1))]);
    let (fibres, streaks) = (noise(70.0, 1.0, seed + 2), noise(240.0, 3.2, seed + 3));
    let ring = bands(11.0, &bends, 6.5);
    (0..SIDE * SIDE).map(|i| 0.9 * ring(i).powi(5) + 0.3 * streaks[i] + 0.12 * fibres[i]).collect()
}

/// Narrow, nearly straight bands; early wood has long dark pores, and bright flecks cross it.
pub(super) fn open(seed: u32) -> Field {
    let bends = sum(&[(1.0, noise(500.0, 90.0, seed)), (0.15, noise(120.0, 20.0, seed + 1))]);
    let (pores, flecks) = (noise(22.0, 1.0, seed + 2), noise(8.0, 2.6, seed + 3));
    let (streaks, broad) = (noise(300.0, 2.4, seed + 4), noise(400.0, 40.0, seed + 5));
    let ring = bands(19.0, &bends, 4.0);
    (0..SIDE * SIDE)
        .map(|i| {
            let early = 1.0 - ring(i);
            let open = above(pores[i], 0.35) * (0.35 + early * early);
            0.35 * ring(i) + 1.1 * open + 0.3 * streaks[i] + 0.2 * broad[i] - 0.5 * above(flecks[i], 1.5)
        })
        .collect()
}

/// A few wide swaying bands in streaks of several tones, with short fine pores.
pub(super) fn streaked(seed: u32) -> Field {
    let bends = sum(&[(1.0, noise(260.0, 80.0, seed)), (0.35, noise(90.0, 30.0, seed + 1))]);
    let (wide, narrow) = (noise(380.0, 13.0, seed + 2), noise(220.0, 2.6, seed + 3));
    let (pores, figure) = (noise(10.0, 1.0, seed + 4), noise(26.0, 60.0, seed + 5));
    let ring = bands(7.0, &bends, 8.0);
    (0..SIDE * SIDE)
        .map(|i| {
            let tones = 0.7 * ring(i).powi(2) + 0.55 * wide[i] + 0.35 * narrow[i];
            tones + 0.5 * above(pores[i], 0.9) + 0.12 * figure[i]
        })
        .collect()
}
