//! What is learned of a connected group of paints.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, OnceLock, PoisonError};

use nalgebra::DMatrix;
use rayon::prelude::*;
use warm_blend_paint::BadPaint;
use warm_blend_spectral::{Lab, Light, Reflectance};

use crate::component::{CircleData, Component};
use crate::draws::MEMBERS;
use crate::ensemble::Ensemble;
use crate::first_guess::{FirstGuess, Label};
use crate::fit::{self, MANY, Remembered};
use crate::judged::Judged;
use crate::kept::{self, KeptComponent, KeptTin, Said};
use crate::masstones::{Bases, OUTLIER_SD};

/// A paint whose tin lacks necessary facts.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("{error}")]
pub struct BadTin {
    /// Index of the paint.
    pub paint: usize,
    /// The problem.
    pub error: BadPaint,
}

/// Fitted tins by key: first guess and coordinates.
pub(crate) type Found<'a> = HashMap<u64, &'a (Arc<FirstGuess>, Vec<f64>)>;

/// The data of a component, and what was learned from it.
#[derive(Debug)]
pub(crate) struct FittedComponent {
    pub said: CircleData,
    /// Hash, once it was needed.
    shown: OnceLock<Option<Said>>,
    /// First guess and coordinates by paint, if readings were fitted.
    pub found: Vec<(Arc<FirstGuess>, Vec<f64>)>,
    pub paints: Vec<Ensemble>,
    pub judged: Vec<Judged>,
    /// What incremental fits need, for large components.
    remembered: Mutex<Option<Arc<Remembered>>>,
}

/// Label of each tin.
fn labels(said: &CircleData, spectra: Vec<Option<Reflectance>>) -> impl Iterator<Item = Label> {
    let tins = said.names.iter().zip(&said.facts).zip(spectra);
    tins.map(|((name, facts), base)| Label { name: *name, facts: *facts, base })
}

impl FittedComponent {
    /// What an incremental fit of the same tins needs.
    fn remembered(&self, said: &CircleData, guesses: &[Arc<FirstGuess>]) -> Option<Arc<Remembered>> {
        let same = self.found.iter().map(|(guess, _)| guess);
        let same =
            same.len() == guesses.len() && same.zip(guesses).all(|(one, other)| Arc::ptr_eq(one, other));
        let remembered = self.memory().clone();
        remembered.filter(|_| same && said.readings.starts_with(&self.said.readings))
    }

    pub fn memory(&self) -> MutexGuard<'_, Option<Arc<Remembered>>> {
        self.remembered.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// What is kept in memory of a learned component.
#[derive(Clone, Copy)]
pub(crate) struct Keep {
    /// The plausible variants of tins without readings.
    pub draws: bool,
    /// What incremental fits need.
    pub fits: bool,
}

impl FittedComponent {
    pub fn learn(
        component: &Component,
        keep: Keep,
        known: Option<&Self>,
        near: &Found,
    ) -> Result<Self, BadTin> {
        let bases = Bases::of(&component.said.facts, &component.said.readings);
        if bases.not_fitted.iter().all(|out| *out) {
            Self::unread(component, bases, keep.draws)
        } else {
            Self::fit(component, bases, keep.fits, known, near)
        }
    }

    /// A component whose readings are deferred; they are ignored.
    pub fn put_off(component: &Component, keep: Keep) -> Result<Self, BadTin> {
        let bases = Bases::of(&component.said.facts, &component.said.readings);
        let mut known = Self::unread(component, bases, keep.draws)?;
        known.said.readings.clear();
        known.judged.clear();
        Ok(known)
    }

    /// A component without anything to fit: a tin with spectra of its masstone, or without readings.
    fn unread(component: &Component, bases: Bases, kept: bool) -> Result<Self, BadTin> {
        let readings = &component.said.readings;
        let paints = labels(&component.said, bases.spectra).zip(&component.paints).map(|(label, paint)| {
            Ensemble::unread(label, kept).map_err(|error| BadTin { paint: *paint, error })
        });
        let paints = paints.collect::<Result<Vec<_>, _>>()?;
        let judged = readings.iter().zip(&bases.odd).map(|(reading, odd)| {
            let predicted = |(paint, _): &(usize, _)| paints[*paint].best().seen_lab(Light::Daylight);
            let predicted: Vec<Lab> = reading.of.iter().map(predicted).collect();
            Judged::of(reading, predicted, odd.is_some_and(|odd| odd > OUTLIER_SD), odd.unwrap_or(0.0))
        });
        let (judged, found) = (judged.collect(), Vec::new());
        let (said, shown) = (component.said.clone(), OnceLock::new());
        Ok(Self { said, shown, found, paints, judged, remembered: Mutex::default() })
    }

    /// First guess of each tin, reusing those with the same label.
    fn guesses(
        component: &Component,
        spectra: Vec<Option<Reflectance>>,
        near: &Found,
    ) -> Result<Vec<Arc<FirstGuess>>, BadTin> {
        let tins: Vec<_> = labels(&component.said, spectra).zip(&component.paints).collect();
        let guesses = tins.into_par_iter().map(|(label, paint)| {
            match near.get(&label.name).filter(|(guess, _)| guess.label == label) {
                Some((guess, _)) => Ok(Arc::clone(guess)),
                None => FirstGuess::of(label).map(Arc::new).map_err(|error| BadTin { paint: *paint, error }),
            }
        });
        guesses.collect()
    }

    fn fit(
        component: &Component,
        bases: Bases,
        keep: bool,
        known: Option<&Self>,
        near: &Found,
    ) -> Result<Self, BadTin> {
        let CircleData { names, readings, .. } = &component.said;
        let guesses = Self::guesses(component, bases.spectra, near)?;
        // Warm-start only large fits, so that small ones do not depend on the start.
        let stood = |name| near.get(name).filter(|_| readings.len() >= MANY).map(|(_, at)| at.as_slice());
        let near: Vec<Option<&[f64]>> = names.iter().map(stood).collect();
        let before = known.and_then(|known| known.remembered(&component.said, &guesses));
        let fit = fit::fit(&guesses, readings, bases.not_fitted, before.as_deref(), &near, keep);
        let judged = readings.iter().zip(&fit.sights).enumerate().map(|(i, (reading, sight))| {
            let questioned = bases.odd[i].map_or(fit.left_out[i], |odd| odd > OUTLIER_SD);
            Judged::of(reading, sight.predicted(), questioned, bases.odd[i].unwrap_or(fit.off[i]))
        });
        let judged = judged.collect();
        let paints = guesses.iter().zip(fit.best.iter().zip(fit.members));
        let paints = paints.map(|(guess, (best, members))| {
            let members = members.rows(0, best.len()).map(|at| at as f32);
            Ensemble::fitted(guess, guess.prior().material(best), members)
        });
        let paints = paints.collect();
        let found = guesses.into_iter().zip(fit.best).collect();
        let remembered = Mutex::new(fit.remembered.map(Arc::new));
        let (said, shown) = (component.said.clone(), OnceLock::new());
        Ok(Self { said, shown, found, paints, judged, remembered })
    }

    /// Hash of the data it was learned from.
    pub fn fingerprint(&self) -> Option<Said> {
        *self.shown.get_or_init(|| kept::fingerprint(&self.said))
    }

    /// The stored form of the component, under its key.
    pub fn kept(&self, name: u64) -> Option<KeptComponent> {
        let found = self.found.iter().zip(&self.paints).map(|((_, at), paint)| KeptTin {
            at: at.clone(),
            best: paint.best().clone(),
            members: paint.coordinates().to_vec(),
        });
        KeptComponent::of(name, self.fingerprint()?, found, &self.judged)
    }

    /// Restores a component from its stored form, if that was made from the same data.
    pub fn recall(component: &Component, kept: &KeptComponent) -> Option<Self> {
        let shown = kept::fingerprint(&component.said).filter(|shown| *shown == kept.said)?;
        let (found, judged) = kept.open()?;
        let bases = Bases::of(&component.said.facts, &component.said.readings);
        let labels = labels(&component.said, bases.spectra);
        if found.len() != component.paints.len() || judged.len() != component.said.readings.len() {
            return None;
        }
        let known = labels.zip(found).map(|(label, KeptTin { at, best, members })| {
            let guess = FirstGuess::again(label);
            let dimensions = guess.dimensions();
            (at.len() == dimensions && members.len() == dimensions * MEMBERS).then(|| {
                let members = DMatrix::from_vec(dimensions, MEMBERS, members);
                let guess = Arc::new(guess);
                (Ensemble::fitted(&guess, best, members), (guess, at))
            })
        });
        let (paints, found) = known.collect::<Option<Vec<_>>>()?.into_iter().unzip();
        let (said, shown) = (component.said.clone(), Some(shown).into());
        Some(Self { said, shown, found, paints, judged, remembered: Mutex::default() })
    }
}
