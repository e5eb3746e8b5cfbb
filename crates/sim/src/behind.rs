//! The virtual tin behind a painter's paint, for the simulated reader.

use nalgebra::{DMatrix, DVector};
use rand::{Rng, SeedableRng, seq::SliceRandom};
use rand_chacha::ChaCha8Rng;
use warm_blend_paint::{Class, CoatsToHide};
use warm_blend_spectral::{Lab, Light, Xyz, difference};

use crate::{Pigment, VirtualPaint};

/// Sets of pigments that are tried.
const TRIES: usize = 40;
/// Close enough to the chip, ΔE00.
const CLOSE: f64 = 0.3;
/// What painters say of coats to hide is right to about a quarter†.
const MORE_OR_LESS: std::ops::Range<f64> = 0.8..1.25;
/// Most of a pigment that goes into a tin, and least that counts.
const MOST: f64 = 1.2;
const LEAST: f64 = 1e-5;

impl VirtualPaint {
    /// A tin of invented pigments, chosen by `seed`, whose masstone is as near to `chip` as possible; the same seed gives
    /// the same tin. Nothing else about it is recorded anywhere.
    ///
    /// If the painter states how many coats it needs, it really needs about as many.
    pub fn behind(name: &str, class: Class, chip: Lab, coats: Option<CoatsToHide>, seed: u64) -> Self {
        if let Some(medium) = Self::medium(name, class) {
            return medium;
        }
        let mut chance = ChaCha8Rng::seed_from_u64(seed);
        let around = |middle: f64, chance: &mut ChaCha8Rng| middle * chance.random_range(0.85..1.15);
        let surface = match class {
            Class::Chalk | Class::Clay | Class::Milk => [around(0.8, &mut chance), around(0.36, &mut chance)],
            Class::Mineral | Class::Primer => [around(0.6, &mut chance), around(0.18, &mut chance)],
            _ => [around(0.33, &mut chance), around(0.05, &mut chance)],
        };
        let mut colours: Vec<Pigment> = Pigment::ALL[2..].to_vec();
        let mut best: Option<(f64, Self)> = None;
        for _ in 0..TRIES {
            colours.shuffle(&mut chance);
            let set = [Pigment::WhiteEarth, colours[0], colours[1], colours[2], Pigment::Soot];
            let tin = matched(name, class, &set, surface, chip);
            let off = difference(lab(&tin), chip).value();
            if best.as_ref().is_none_or(|(least, _)| off < *least) {
                best = Some((off, tin));
            }
            if off < CLOSE {
                break;
            }
        }
        let plain = || Self::new(name, class, &[(Pigment::WhiteEarth, 0.6)], surface);
        let tin = (0..3).fold(best.map_or_else(plain, |(_, tin)| tin), |tin, _| tin.nearer(chip));
        let Some(said) = coats else { return tin };
        let goal = said.value() * chance.random_range(MORE_OR_LESS);
        // Coats are stated from a quarter to twenty only, so that a rich or a very thin tin takes a few rounds.
        (0..12).fold(tin, |tin, _| match tin.coats_to_hide() {
            Some(now) => tin.richer(now.value() / goal),
            None => tin.richer(4.0),
        })
    }
}

fn lab(tin: &VirtualPaint) -> Lab {
    Lab::of(Xyz::of(&tin.masstone(), Light::Daylight), Light::Daylight.white())
}

/// The loads, on a logarithmic scale, that bring these pigments nearest to the chip: Levenberg's damped least squares.
fn matched(name: &str, class: Class, set: &[Pigment], surface: [f64; 2], chip: Lab) -> VirtualPaint {
    let tin = |logs: &DVector<f64>| {
        let loads: Vec<(Pigment, f64)> =
            set.iter().zip(logs.iter()).map(|(p, log)| (*p, log.exp())).collect();
        VirtualPaint::new(name, class, &loads, surface)
    };
    let miss = |logs: &DVector<f64>| {
        let seen = lab(&tin(logs));
        DVector::from_vec(vec![seen.l - chip.l, seen.a - chip.a, seen.b - chip.b])
    };
    let bounded = |logs: DVector<f64>| logs.map(|log| log.clamp(LEAST.ln(), MOST.ln()));
    let mut logs = DVector::from_element(set.len(), 0.1f64.ln());
    let (mut off, mut damping) = (miss(&logs), 1.0);
    for _ in 0..40 {
        const STEP: f64 = 1e-4;
        let slope = DMatrix::from_columns(
            &(0..set.len())
                .map(|i| {
                    let mut moved = logs.clone();
                    moved[i] += STEP;
                    (miss(&moved) - &off) / STEP
                })
                .collect::<Vec<_>>(),
        );
        let normal = slope.tr_mul(&slope) + DMatrix::identity(set.len(), set.len()) * damping;
        let Some(step) = normal.lu().solve(&slope.tr_mul(&off)) else { break };
        let next = bounded(&logs - step);
        let next_off = miss(&next);
        if next_off.norm() < off.norm() {
            (logs, off, damping) = (next, next_off, damping * 0.3);
        } else {
            damping *= 4.0;
        }
        if off.norm() < 0.05 {
            break;
        }
    }
    tin(&logs)
}
