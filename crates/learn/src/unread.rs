//! Tins that no reading was fitted to: what they may be follows from what is written on them, and is drawn when it is asked for.

use warm_blend_paint::Material;
use warm_blend_spectral::Reflectance;

use super::draws::{self, Whose};
use super::prior::{Facts, Prior};

/// What is known of such a tin.
#[derive(Debug, Clone)]
pub(crate) struct Unread {
    /// Its name in the estimate, by which its doubt is drawn.
    pub name: u64,
    pub facts: Facts,
    /// The spectrum of its masstone.
    pub base: Option<Reflectance>,
    /// Whether what was drawn once is kept: not where it is one of thousands.
    pub kept: bool,
}

impl Unread {
    /// What it may be: none where that follows from nothing, which whoever made an ensemble of it has seen to.
    pub(crate) fn plausible(&self) -> impl Iterator<Item = Material> {
        let prior = Prior::of(&self.facts, self.base.as_ref()).ok();
        prior.into_iter().flat_map(|prior| {
            let drawn = draws::of(Whose::Tin(self.name), prior.drawn());
            let members: Vec<Material> =
                drawn.column_iter().map(|at| prior.material(at.into_owned().as_slice())).collect();
            members
        })
    }
}
