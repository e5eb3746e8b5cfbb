//! A tin before any reading is fitted to it.

use nalgebra::DMatrix;
use warm_blend_paint::{BadPaint, Material};
use warm_blend_spectral::Reflectance;

use super::draws::{self, Whose};
use super::prior::{Facts, Prior};

/// What its first guess follows from.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Label {
    /// Its name in the estimate, by which its doubt is drawn.
    pub name: u64,
    pub facts: Facts,
    /// The spectrum of its masstone, where one was read.
    pub base: Option<Reflectance>,
}

/// What it may be.
#[derive(Debug)]
pub(crate) struct FirstGuess {
    pub label: Label,
    pub prior: Prior,
    /// Coordinates of plausible tins: unit normals.
    pub drawn: DMatrix<f64>,
}

impl FirstGuess {
    pub(crate) fn of(label: Label) -> Result<Self, BadPaint> {
        let prior = Prior::of(&label.facts, label.base.as_ref())?;
        let drawn = draws::of(Whose::Tin(label.name), prior.drawn());
        Ok(Self { label, prior, drawn })
    }

    /// Plausible tins.
    pub(crate) fn plausible(&self) -> impl Iterator<Item = Material> {
        self.drawn.column_iter().map(|at| self.prior.material(at.as_slice()))
    }

    /// Tins at some coordinates × members, with the finer shapes of the plausible ones.
    pub(crate) fn plausible_at(&self, at: &DMatrix<f32>) -> impl Iterator<Item = Material> {
        self.drawn.column_iter().zip(at.column_iter()).map(|(drawn, at)| {
            let mut whole = drawn.into_owned();
            whole.iter_mut().zip(at.iter()).for_each(|(whole, at)| *whole = f64::from(*at));
            self.prior.material(whole.as_slice())
        })
    }
}
