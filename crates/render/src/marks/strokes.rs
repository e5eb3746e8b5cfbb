//! Brush strokes: bundles of bristles that hold paint, run dry and overlap.

use std::f32::consts::PI;

use super::field::{Chance, Field, PER_MM, SIDE, between, noise, on_tile, sum};

/// How a brush is used.
#[derive(Clone, Copy)]
pub(super) struct Brush {
    /// Shortest and longest stroke, mm.
    pub length: (f32, f32),
    /// Narrowest and widest stroke, mm.
    pub width: (f32, f32),
    /// Greatest deviation of a stroke's direction, radians; π for all directions.
    pub turn: f32,
    /// Mean number of strokes over a point.
    pub over: f32,
    /// Share of the load that a stroke has lost at its end.
    pub dry: f32,
    /// Contrast of the bristles relative to the stroke as a whole.
    pub bristles: f32,
}

/// A point of a stroke.
pub(super) struct Within {
    pub pixel: usize,
    /// Distance from its start and from its centre line, pixels.
    pub along: f32,
    pub across: f32,
    /// The same as shares: of its length, 0..1, and of its half width, −1..1.
    pub run: f32,
    pub aside: f32,
}

/// Visits every pixel of a stroke that starts at a point.
pub(super) fn stroke((x, y): (f32, f32), turn: f32, length: f32, width: f32, mut visit: impl FnMut(&Within)) {
    let (sin, cos) = turn.sin_cos();
    let half = 0.5 * width;
    // Line by line through what is around it, each as far as the stroke goes.
    let ends = [(0.0, -half), (0.0, half), (length, -half), (length, half)];
    let down = ends.map(|(u, v)| y + u * sin + v * cos);
    let (top, bottom) = down.iter().fold((f32::MAX, f32::MIN), |(low, high), v| (low.min(*v), high.max(*v)));
    for py in top.floor() as i32..=bottom.ceil() as i32 {
        let dy = py as f32 - y;
        // Where the line is within 0..length along and ±half across.
        let mut from = f32::MIN;
        let mut to = f32::MAX;
        let mut within = |slope: f32, at: f32, low: f32, high: f32| {
            if slope.abs() < 1e-6 {
                if at < low || at > high {
                    (from, to) = (1.0, 0.0);
                }
                return;
            }
            let (one, other) = ((low - at) / slope, (high - at) / slope);
            from = from.max(one.min(other));
            to = to.min(one.max(other));
        };
        within(cos, dy * sin, 0.0, length);
        within(-sin, dy * cos, -half, half);
        if from > to {
            continue;
        }
        for px in (x + from).ceil() as i32..=(x + to).floor() as i32 {
            let dx = px as f32 - x;
            let (along, across) = (dx * cos + dy * sin, dy * cos - dx * sin);
            visit(&Within {
                pixel: on_tile(px, py),
                along,
                across,
                run: along / length,
                aside: across / half,
            });
        }
    }
}

/// What bristles leave along x: furrows of several widths, each for some centimetres.
fn bristles(seed: u32) -> Field {
    sum(&[
        (1.0, noise(150.0, 1.6, seed)),
        (0.9, noise(220.0, 4.5, seed + 1)),
        (0.6, noise(70.0, 1.2, seed + 2)),
        (0.5, noise(90.0, 11.0, seed + 3)),
    ])
}

/// What passes over a spot of a stroke.
#[derive(Clone, Copy)]
struct Bristle {
    /// What it leaves there.
    furrow: f32,
    /// How late it touches down and how early it lifts off, beside the others, 0–1.
    lands: f32,
    lifts: f32,
}

impl Brush {
    /// Visits every spot of every stroke, with the bristle that passed there and how full the brush was, −1 to 1.
    fn strokes(&self, seed: u32, furrows: &Field, mut visit: impl FnMut(&Within, Bristle, f32)) {
        let mut chance = Chance::of(seed);
        let mean = 0.25 * (self.length.0 + self.length.1) * (self.width.0 + self.width.1) * PER_MM * PER_MM;
        let strokes = ((SIDE * SIDE) as f32 * self.over / mean).ceil() as usize;
        for nth in 0..strokes {
            let spot = chance.spot();
            let turn = self.turn * chance.either();
            let back = if chance.unit() < 0.5 { PI } else { 0.0 };
            let length = PER_MM * chance.between(self.length.0, self.length.1);
            let width = PER_MM * chance.between(self.width.0, self.width.1);
            let level = chance.either();
            let (u, v) = bristles_of(seed, nth);
            stroke(spot, turn + back, length, width, |within| {
                // Between the bristles as far as the spot lies between them: a stroke at a slant makes no steps.
                let (along, aside) = (within.along + u, within.across + v);
                let bristle = Bristle {
                    furrow: between(furrows, along, aside),
                    // By how it stands at two places far from the stroke: no two land or lift together.
                    lands: 0.5 + 0.5 * between(furrows, u - 700.0, aside).clamp(-1.0, 1.0),
                    lifts: 0.5 + 0.5 * between(furrows, u + 900.0, aside).clamp(-1.0, 1.0),
                };
                visit(within, bristle, level);
            });
        }
    }

    /// Strokes over strokes, of which the last shows. High where most paint lies.
    pub(super) fn closed(&self, seed: u32) -> Field {
        let furrows = bristles(seed + 100);
        let mut field: Field = furrows.iter().map(|v| self.bristles * v).collect();
        self.strokes(seed, &furrows, |within, Bristle { furrow, lands, lifts }, level| {
            let touched = (within.run - 0.06 * lands).min(1.0 - within.run - 0.1 * lifts);
            let ends = (10.0 * touched).clamp(0.0, 1.0);
            let side = (1.0 - within.aside.abs()).min(0.16) / 0.16;
            // A ridge where the brush pushed paint aside, and less paint as it runs out.
            let ridge = 0.7 * (1.0 - ((within.aside.abs() - 0.9) / 0.1).abs()).max(0.0);
            let value = self.bristles * furrow + 0.35 * level + ridge - self.dry * (within.run - 0.5);
            let here = &mut field[within.pixel];
            *here += ends * side * (value - *here);
        });
        field
    }

    /// Strokes that skip: the fullest decides. High where paint comes first.
    pub(super) fn broken(&self, seed: u32) -> Field {
        let furrows = bristles(seed + 100);
        // Where no bristle passes.
        const BARE: f32 = -3.0;
        let mut field: Field = furrows.iter().map(|v| BARE + 0.3 * v).collect();
        self.strokes(seed, &furrows, |within, Bristle { furrow, lands, lifts }, level| {
            let landed = ((within.run - 0.12 * lands) / 0.06).clamp(0.0, 1.0);
            let lifted = ((1.0 - within.run - 0.25 * lifts) / 0.08).clamp(0.0, 1.0);
            let side = 1.0 - within.aside.powi(4);
            let full = self.bristles * furrow + 0.5 * level - 1.6 * self.dry * within.run;
            let here = &mut field[within.pixel];
            *here = here.max(BARE + landed * lifted * side * (full - BARE));
        });
        field
    }
}

/// Which bristles a stroke is of.
fn bristles_of(seed: u32, nth: usize) -> (f32, f32) {
    Chance::of(seed.wrapping_mul(31).wrapping_add(nth as u32)).spot()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Whatever way a stroke turns, it has its area.
    #[test]
    fn a_stroke_has_its_area() {
        for turn in [0.0, 0.4, 1.2, PI / 2.0, 2.5, PI, -1.0] {
            let mut n = 0;
            stroke((500.0, 500.0), turn, 200.0, 60.0, |within| {
                // As exactly as a tile's places are numbered.
                assert!((-1e-3..=1.001).contains(&within.run) && within.aside.abs() <= 1.001);
                n += 1;
            });
            assert!((11_500..12_600).contains(&n), "{turn}: {n}");
        }
    }
}
