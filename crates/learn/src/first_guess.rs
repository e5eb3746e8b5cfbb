//! The estimate of a tin before any reading.

use std::sync::OnceLock;

use nalgebra::DMatrix;
use warm_blend_paint::{BadPaint, Material};
use warm_blend_spectral::Reflectance;

use super::draws::{self, Whose};
use super::prior::{DIMENSIONS, Facts, Prior};

/// What the first guess is based on.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Label {
    /// Key of the tin in the estimate, which selects its draws.
    pub name: u64,
    pub facts: Facts,
    /// Measured spectrum of its masstone, if there is one.
    pub base: Option<Reflectance>,
}

/// First guess and plausible alternatives, computed when first needed.
#[derive(Debug)]
pub(crate) struct FirstGuess {
    pub label: Label,
    made: OnceLock<Made>,
}

#[derive(Debug)]
struct Made {
    prior: Prior,
    drawn: DMatrix<f64>,
}

impl Made {
    fn of(label: &Label) -> Result<Self, BadPaint> {
        let prior = Prior::of(&label.facts, label.base.as_ref())?;
        let drawn = draws::unit_normals(Whose::Tin(label.name), prior.drawn());
        Ok(Self { prior, drawn })
    }
}

impl FirstGuess {
    pub(crate) fn of(label: Label) -> Result<Self, BadPaint> {
        let made = Made::of(&label)?.into();
        Ok(Self { label, made })
    }

    /// Repeats the guess for a label that had one before.
    pub(crate) fn again(label: Label) -> Self {
        Self { label, made: OnceLock::new() }
    }

    fn made(&self) -> &Made {
        self.made.get_or_init(|| {
            // A label that had a guess before has one again; any other gives an empty one.
            let nothing = || Made { prior: Prior::nothing(), drawn: DMatrix::zeros(0, 0) };
            Made::of(&self.label).unwrap_or_else(|_| nothing())
        })
    }

    pub(crate) fn prior(&self) -> &Prior {
        &self.made().prior
    }

    /// Coordinates of plausible tins: unit normals, coordinates × members.
    pub(crate) fn drawn(&self) -> &DMatrix<f64> {
        &self.made().drawn
    }

    /// Number of coordinates that readings can change.
    pub(crate) fn dimensions(&self) -> usize {
        if self.label.facts.class.is_medium() { 0 } else { DIMENSIONS }
    }

    /// Materials of plausible tins.
    pub(crate) fn plausible(&self) -> impl Iterator<Item = Material> {
        self.drawn().column_iter().map(|at| self.prior().material(at.as_slice()))
    }

    /// Materials at given coordinates × members, with the finer shapes of the plausible tins.
    pub(crate) fn plausible_at(&self, at: &DMatrix<f32>) -> impl Iterator<Item = Material> {
        self.drawn().column_iter().zip(at.column_iter()).map(|(drawn, at)| {
            let mut whole = drawn.into_owned();
            whole.iter_mut().zip(at.iter()).for_each(|(whole, at)| *whole = f64::from(*at));
            self.prior().material(whole.as_slice())
        })
    }
}
