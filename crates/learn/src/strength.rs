//! Strength of a paint, learned from boards.

use warm_blend_paint::Material;

use crate::{Ensemble, draws::MEMBERS};

/// Strength of a paint relative to its own tests, learned from boards; logarithmic.
#[derive(Debug, Clone, PartialEq)]
pub struct Strength {
    best: f64,
    members: Vec<f64>,
}

impl Strength {
    /// Takes the most probable strength and that on each plausible shelf.
    pub const fn new(best: f64, members: Vec<f64>) -> Self {
        Self { best, members }
    }

    /// ln of the strength relative to the paint's own tests.
    pub const fn ln(&self) -> f64 {
        self.best
    }

    /// The tin with this strength.
    pub fn applied_to(&self, known: &Ensemble) -> Ensemble {
        let own = strengths(known);
        known.with_strength(self.best, |m| self.members[m] - own[m])
    }
}

/// ln of the strength of each plausible tin relative to the best: the mean of ln S over the bands.
pub fn strengths(known: &Ensemble) -> Vec<f64> {
    let ln_s = |material: &Material| {
        let s = material.optics.s();
        s.iter().map(|s| s.max(f64::MIN_POSITIVE).ln()).sum::<f64>() / s.len() as f64
    };
    let best = ln_s(known.best());
    (0..MEMBERS).map(|m| ln_s(&known.member(m)) - best).collect()
}
