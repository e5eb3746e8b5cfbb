//! Motifs of a stencil.

use std::sync::OnceLock;

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// One repeat of a stencil's pattern.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum Motif {
    /// A lozenge inside another.
    Lozenge,
    /// A ring around a dot.
    Ring,
    /// Eight petals.
    Rosette,
    /// Four leaves in a cross.
    Leaves,
    /// Four round leaves and a dot.
    #[default]
    Clover,
    /// A wave with a dot in each hollow; repeats without a gap join to a running border.
    Wave,
    /// A stem with pairs of leaves.
    Sprig,
    /// A flourish for the upper left corner of a frame: an arm along either side, and a bud in the corner.
    Corner,
    /// A rosette within a scalloped ring.
    Medallion,
    /// A spray of petals, as a round brush leaves them.
    Petals,
}

/// Angle between the petals of a spray, rad.
const SPREAD: f64 = 0.42;

impl Motif {
    /// All motifs.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    const fn row(self) -> (&'static str, &'static str) {
        match self {
            Motif::Lozenge => ("lozenge", "Lozenges"),
            Motif::Ring => ("ring", "Rings"),
            Motif::Rosette => ("rosette", "Rosettes"),
            Motif::Leaves => ("leaves", "Leaves"),
            Motif::Clover => ("clover", "Clover"),
            Motif::Wave => ("wave", "Waves"),
            Motif::Sprig => ("sprig", "Sprigs"),
            Motif::Corner => ("corner", "Corner flourishes"),
            Motif::Medallion => ("medallion", "Medallions"),
            Motif::Petals => ("petals", "Sprays of petals"),
        }
    }

    /// `lozenge` …
    pub const fn id(self) -> &'static str {
        self.row().0
    }

    /// `Lozenges` …
    pub const fn name(self) -> &'static str {
        self.row().1
    }

    /// Depth of a point inside a motif: 1 at most, 0 or less outside. `u` and `v` run from −1 to 1.
    pub fn depth(self, u: f64, v: f64) -> f64 {
        let r = u.hypot(v);
        match self {
            Motif::Lozenge => {
                let d = 1.0 - (u.abs() + v.abs());
                if d < 0.45 { (d / 0.225).min((0.45 - d) / 0.225) } else { (d - 0.58) / 0.42 }
            }
            Motif::Ring => ((r - 0.62).min(1.0 - r) / 0.19).max(1.0 - r / 0.34),
            Motif::Rosette => {
                let petal = 0.66 + 0.34 * (8.0 * v.atan2(u)).cos();
                ((petal - r).min(r - 0.26) / 0.3).max(1.0 - r / 0.17).min(1.0)
            }
            Motif::Leaves => {
                let leaf = |along: f64, across: f64| {
                    let t = (along.abs() - 0.56) / 0.44;
                    let width = 0.26 * (1.0 - t * t);
                    let vein = across.abs() - 0.025;
                    // The vein ends short of the tip.
                    let vein = if along.abs() > 0.9 { vein.max(0.1) } else { vein };
                    (width - across.abs()).min(vein) / 0.12
                };
                leaf(u, v).max(leaf(v, u)).min(1.0)
            }
            Motif::Clover => {
                // Position along the nearest leaf, and distance from its centre line.
                let (r, turn, quarter) = (0.8 * r, v.atan2(u), std::f64::consts::FRAC_PI_2);
                let turn = turn - (turn / quarter).round() * quarter;
                let (along, off) = (r * turn.cos(), (r * turn.sin()).abs());
                let half = (along - 0.1).max(0.0) * (0.8 - along).max(0.0) * 1.5;
                let leaf =
                    if (0.1..0.8).contains(&along) { off - half } else { off + 0.4 + (along - 0.8).abs() };
                let vein = off - 0.012;
                (-(leaf.max(-vein).min(r - 0.07)) / 0.18).min(1.0)
            }
            Motif::Wave => {
                let (high, turn) = (0.5, std::f64::consts::PI * u);
                // Across the band, whichever way it runs.
                let off =
                    (v - high * turn.sin()).abs() / (high * std::f64::consts::PI * turn.cos()).hypot(1.0);
                let dot = (u.abs() - 0.5).hypot(v + 0.3f64.copysign(u));
                ((0.16 - off) / 0.16).max(1.0 - dot / 0.2)
            }
            Motif::Sprig => {
                // A leaf from the stem outwards and up; both sides are alike.
                let leaf = |x: f64, y: f64, lean: f64, long: f64| {
                    let (sin, cos) = lean.sin_cos();
                    let (along, off) =
                        ((u.abs() - x) * cos - (v - y) * sin, (u.abs() - x) * sin + (v - y) * cos);
                    let t = along / long - 1.0;
                    (0.34 * long * (1.0 - t * t) - off.abs()) / 0.1
                };
                let stem = (0.035 - u.abs()).min(0.95 - v) / 0.035;
                let stem = if v > -0.45 { stem } else { -1.0 };
                let pairs = [(0.62, 0.36), (0.14, 0.32), (-0.26, 0.26)];
                let leaves = pairs.map(|(y, long)| leaf(0.05, y, 0.7, long)).into_iter().fold(stem, f64::max);
                let top = leaf(0.0, -0.42, std::f64::consts::FRAC_PI_2, 0.25);
                leaves.max(top).min(1.0)
            }
            Motif::Corner => {
                // An arm to the right of the corner, thinner and thinner; both arms are alike.
                let arm = |along: f64, across: f64| {
                    let t = ((along + 0.6) / 1.5).clamp(0.0, 1.0);
                    let middle = -0.62 + 0.14 * (std::f64::consts::TAU * t).sin();
                    let half = 0.15 * (1.0 - t).sqrt();
                    let stroke =
                        if (-0.6..0.9).contains(&along) { half - (across - middle).abs() } else { -0.1 };
                    let leaf = |x: f64, y: f64, long: f64| {
                        let (p, q) = (along - x, across - y);
                        let (p, q) = (
                            (p + q) * std::f64::consts::FRAC_1_SQRT_2,
                            (q - p) * std::f64::consts::FRAC_1_SQRT_2,
                        );
                        let t = p / long - 1.0;
                        0.42 * long * (1.0 - t * t) - q.abs()
                    };
                    stroke.max(leaf(-0.18, -0.42, 0.2)).max(leaf(0.3, -0.66, 0.16))
                };
                let bud = 0.23 - (u + 0.62).hypot(v + 0.62);
                let on_the_diagonal = 0.13 - (u + 0.2).hypot(v + 0.2);
                let all = arm(u, v).max(arm(v, u)).max(bud).max(on_the_diagonal);
                (all / 0.14).min(1.0)
            }
            Motif::Medallion => {
                let turn = v.atan2(u);
                // Twelve scallops outside, a plain rim within, and six petals round a dot.
                let outside = 0.93 + 0.07 * (12.0 * turn).cos();
                let ring = (outside - r).min(r - 0.7);
                let petal = 0.4 + 0.18 * (6.0 * turn).cos();
                let flower = (petal - r).min(r - 0.16);
                (ring.max(flower).max(0.11 - r) / 0.11).min(1.0)
            }
            Motif::Petals => {
                // Each petal is a drop: pointed where the brush was lifted, round where it was pressed.
                let petal = |n: i32| {
                    let (sin, cos) = (SPREAD * f64::from(n) - std::f64::consts::FRAC_PI_2).sin_cos();
                    let (x, y) = (u, v - 0.75);
                    let (along, off) = (x * cos + y * sin, (y * cos - x * sin).abs());
                    let long = 1.5 - 0.11 * f64::from(n.abs());
                    let t = along / long;
                    if (0.25..1.0).contains(&t) {
                        0.42 * (t - 0.25) * (1.0 - t).sqrt() * long - off
                    } else {
                        -0.1
                    }
                };
                let stem = if (0.55..0.98).contains(&v) { 0.035 - u.abs() } else { -0.1 };
                ((-2..=2).map(petal).fold(stem, f64::max) / 0.1).min(1.0)
            }
        }
    }

    /// Which petal a point is on, 0 for the first and for what is no petal; `None` if the motif has no petals.
    pub fn petal(self, u: f64, v: f64) -> Option<usize> {
        let turn = v.atan2(u);
        // Petals spread evenly round the middle, the first to the right.
        let round = |n: f64| (turn / std::f64::consts::TAU * n).round().rem_euclid(n) as usize;
        let petal = match self {
            Motif::Rosette => round(8.0),
            Motif::Leaves | Motif::Clover => round(4.0),
            // Only its flower: the rim is one piece.
            Motif::Medallion if u.hypot(v) < 0.65 => round(6.0),
            Motif::Medallion => 0,
            // Below the lowest petal is the stem.
            Motif::Petals if v > 0.55 => 0,
            Motif::Petals => (u.atan2(0.75 - v) / SPREAD + 2.0).round().clamp(0.0, 4.0) as usize,
            Motif::Lozenge | Motif::Ring | Motif::Wave | Motif::Sprig | Motif::Corner => return None,
        };
        Some(petal)
    }

    /// Share of a motif that paint reaches before a depth: 0 in its middle, 1 at its edges.
    pub fn before(self, depth: f64) -> f64 {
        static DEPTHS: [OnceLock<Vec<f64>>; Motif::ALL.len()] = [const { OnceLock::new() }; Motif::ALL.len()];
        let depths = DEPTHS[self as usize].get_or_init(|| {
            let mut depths: Vec<f64> =
                Self::cells().map(|(u, v)| self.depth(u, v)).filter(|depth| *depth > 0.0).collect();
            depths.sort_by(f64::total_cmp);
            depths
        });
        // In the middle of those that are as deep.
        let shallower = depths.partition_point(|one| *one < depth);
        let no_deeper = depths.partition_point(|one| *one <= depth);
        1.0 - 0.5 * (shallower + no_deeper) as f64 / depths.len().max(1) as f64
    }

    /// Share of its square that a motif covers: computed once, from the centres of 160 × 160 cells.
    pub fn share(self) -> f64 {
        static SHARES: [OnceLock<f64>; Motif::ALL.len()] = [const { OnceLock::new() }; Motif::ALL.len()];
        *SHARES[self as usize].get_or_init(|| self.counted())
    }

    fn counted(self) -> f64 {
        Self::cells().filter(|(u, v)| self.depth(*u, *v) > 0.0).count() as f64 / Self::cells().count() as f64
    }

    /// Centres of the cells of its square.
    fn cells() -> impl Iterator<Item = (f64, f64)> {
        const CELLS: usize = 160;
        let at = |i: usize| (2 * i + 1) as f64 / CELLS as f64 - 1.0;
        (0..CELLS * CELLS).map(move |i| (at(i % CELLS), at(i / CELLS)))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Each petal takes about as much of its motif as the others, and what lies to the right of a rosette is its first.
    #[test]
    fn petals_are_alike() {
        for (motif, petals) in
            [(Motif::Rosette, 8), (Motif::Leaves, 4), (Motif::Clover, 4), (Motif::Petals, 5)]
        {
            let mut of = vec![0.0; petals];
            for (u, v) in Motif::cells().filter(|(u, v)| motif.depth(*u, *v) > 0.0) {
                of[motif.petal(u, v).unwrap()] += 1.0;
            }
            let mean = of.iter().sum::<f64>() / petals as f64;
            assert!(of.iter().all(|one| (0.8..1.2).contains(&(one / mean))), "{motif:?}: {of:?}");
        }
        assert_eq!((Motif::Rosette.petal(0.8, 0.0), Motif::Rosette.petal(0.0, 0.8)), (Some(0), Some(2)));
        assert_eq!((Motif::Petals.petal(0.0, -0.5), Motif::Ring.petal(0.8, 0.0)), (Some(2), None));
    }

    /// Areas worked by hand: a ring from 0.62 to 1 with a dot of 0.34 takes π(1 − 0.62² + 0.34²)/4 of its square; a lozenge of
    /// half the square without what lies between 0.45 and 0.58 of the way in takes (1 − 0.55² + 0.42²)/2.
    #[test]
    fn motifs_take_what_they_should() {
        let ring = std::f64::consts::PI * (1.0 - 0.62f64.powi(2) + 0.34f64.powi(2)) / 4.0;
        assert!((Motif::Ring.share() - ring).abs() < 0.005, "{} {ring}", Motif::Ring.share());
        let lozenge = (1.0 - 0.55f64.powi(2) + 0.42f64.powi(2)) / 2.0;
        assert!((Motif::Lozenge.share() - lozenge).abs() < 0.01, "{} {lozenge}", Motif::Lozenge.share());
        for motif in Motif::ALL {
            assert!((0.15..0.75).contains(&motif.share()), "{motif:?}: {}", motif.share());
            assert_eq!(serde_json::to_value(motif).unwrap(), motif.id());
        }
    }

    /// Waves go on from one repeat to the next.
    #[test]
    fn waves_join() {
        for i in 0..200 {
            let v = f64::from(i) / 100.0 - 1.0;
            let (left, right) = (Motif::Wave.depth(-1.0, v), Motif::Wave.depth(1.0, v));
            assert!((left - right).abs() < 1e-9, "{v}: {left} {right}");
        }
    }

    /// Depths are spread evenly over a motif: a quarter of it is reached before a quarter.
    #[test]
    fn paint_reaches_a_motif_share_by_share() {
        for motif in Motif::ALL {
            let all: Vec<f64> =
                Motif::cells().map(|(u, v)| motif.depth(u, v)).filter(|depth| *depth > 0.0).collect();
            for share in [0.5, 0.75, 0.9] {
                let reached = all.iter().filter(|depth| motif.before(**depth) <= share).count() as f64;
                assert!(
                    (reached / all.len() as f64 - share).abs() < 0.12,
                    "{motif:?} {share} {}",
                    reached / all.len() as f64
                );
            }
        }
    }
}
