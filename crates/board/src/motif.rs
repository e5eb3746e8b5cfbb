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
}

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
        }
    }

    /// Share of its square that a motif covers: computed once, from the centres of 160 × 160 cells.
    pub fn share(self) -> f64 {
        static SHARES: [OnceLock<f64>; Motif::ALL.len()] = [const { OnceLock::new() }; Motif::ALL.len()];
        *SHARES[self as usize].get_or_init(|| self.counted())
    }

    fn counted(self) -> f64 {
        const CELLS: usize = 160;
        let at = |i: usize| (2 * i + 1) as f64 / CELLS as f64 - 1.0;
        let row = |y: usize| (0..CELLS).filter(|x| self.depth(at(*x), at(y)) > 0.0).count();
        (0..CELLS).map(row).sum::<usize>() as f64 / (CELLS * CELLS) as f64
    }
}

#[cfg(test)]
mod tests {
    use super::*;

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
}
