//! Tins that no reading was fitted to: what they may be follows from their labels, and is drawn when it is asked for.

use warm_blend_paint::Material;

use super::first_guess::{FirstGuess, Label};

/// Such a tin.
#[derive(Debug, Clone)]
pub(crate) struct Unread {
    pub label: Label,
    /// Whether what was drawn once is kept: not where it is one of thousands.
    pub kept: bool,
}

impl Unread {
    /// What it may be: nothing where its label says too little, which whoever made an ensemble of it has seen to.
    pub(crate) fn plausible(&self) -> Vec<Material> {
        FirstGuess::of(self.label.clone()).map_or_else(|_| Vec::new(), |guess| guess.plausible().collect())
    }
}
