//! What boards say of how strong a paint is.

use warm_blend_paint::Material;

use crate::{Ensemble, draws::MEMBERS};

/// What boards say of a paint's strength: ln of it, against what its own tests say.
#[derive(Debug, Clone, PartialEq)]
pub struct Strength {
    best: f64,
    members: Vec<f64>,
}

impl Strength {
    /// The most probable, and what it is in each of the plausible shelves.
    pub const fn new(best: f64, members: Vec<f64>) -> Self {
        Self { best, members }
    }

    /// ln of the strength against what the paint's own tests say.
    pub const fn ln(&self) -> f64 {
        self.best
    }

    /// A tin that has it.
    pub fn of(&self, known: &Ensemble) -> Ensemble {
        let own = strengths(known);
        known.with_strength(self.best, |m| self.members[m] - own[m])
    }
}

/// ln of the strength of each plausible tin against the best: the mean over the bands of ln S.
pub fn strengths(known: &Ensemble) -> Vec<f64> {
    let ln_s = |material: &Material| {
        let s = material.optics.s();
        s.iter().map(|s| s.max(f64::MIN_POSITIVE).ln()).sum::<f64>() / s.len() as f64
    };
    let best = ln_s(known.best());
    (0..MEMBERS).map(|m| ln_s(&known.member(m)) - best).collect()
}
