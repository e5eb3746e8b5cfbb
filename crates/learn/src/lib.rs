//! Learning the shelf from readings: what each paint most probably is, how sure that is, and what to test next.
//!
//! | question | where |
//! |---|---|
//! | what is believed before anything is read? | `prior`, drawn in `first_guess` |
//! | what does a reading say, and how far may it be off? | [`Reading`], [`Source`], [`PartsMethod`] |
//! | what should it have been? | `residual`; of all plausible shelves at once: `crowd` |
//! | what is most probable, given all of them? | `fit` |
//! | can a reading be at all? | [`make_sense`] |
//! | how sure is a mix, a film, a state? | [`Ensemble`], [`Certainty`] |
//! | all of that for a workspace | [`Estimate`] |
//! | what would one more test buy? | [`worth`](worth()) |
//!
//! Nothing is kept between calls: the estimate is computed from the tins and the list of readings, so that taking a
//! reading away undoes it.

#![warn(missing_docs, clippy::unwrap_used)]
#![cfg_attr(test, allow(clippy::unwrap_used))]

mod certainty;
mod circle;
mod crowd;
pub mod draws;
pub mod ensemble;
mod estimate;
mod factor;
mod first_guess;
pub mod fit;
pub mod local_metric;
mod log;
mod prior;
mod reading;
mod residual;
mod sense;
mod shelf;
mod strength;
mod truth;
mod worth;

use std::collections::HashMap;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use rayon::prelude::*;
use warm_blend_spectral::{Lab, Light, Reflectance, difference};

pub use certainty::Certainty;
pub use ensemble::{Doubt, Ensemble};
pub use estimate::{Estimate, OfShelf};
pub use log::LoggedReading;
pub use prior::Facts;
pub use reading::{BadMeasured, Measured, PartsMethod, Reading, Shown, Source};
pub use sense::{Senseless, make_sense};
pub use shelf::ShelfPaint;
pub use strength::{Strength, strengths};
pub use truth::{Foretold, foretell};
pub use worth::{Beside, Reads, Test, Worth, worth};

use circle::{Circle, CircleData, circles};
use first_guess::{FirstGuess, Label};
use fit::{MANY, Remembered};
use prior::Prior;
use warm_blend_paint::BadPaint;

/// From how many circles on what their tins may be is no longer kept once it was drawn.
const MOST_KEPT: usize = 500;

/// How many readings are kept in memory as they were fitted, about 35 kB each.
const MOST_REMEMBERED: usize = 2000;

/// From how many standard deviations a spectrum is not believed against the colour that was written down.
const OUTLIER_SD: f64 = 3.0;

/// A paint whose tin says too little.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("{error}")]
pub struct BadTin {
    /// Its place in the list.
    pub paint: usize,
    /// What is wrong.
    pub error: BadPaint,
}

/// What the readings say of the shelf.
#[derive(Debug, Clone, Default)]
pub struct Learnt {
    /// By paint.
    pub paints: Vec<Ensemble>,
    /// By reading.
    pub judged: Vec<Judged>,
    /// What was learnt of each circle of paints, by its name.
    circles: HashMap<u64, Arc<OfCircle>>,
}

/// Tins that readings were fitted to, by their names: what was guessed first of each, and where it was found.
type Found<'a> = HashMap<u64, &'a (Arc<FirstGuess>, Vec<f64>)>;

impl Learnt {
    fn found(&self) -> Found<'_> {
        let all = self.circles.values().flat_map(|circle| &circle.found);
        all.map(|found| (found.0.label.name, found)).collect()
    }
}

/// What was said of a circle, and what was learnt.
#[derive(Debug)]
struct OfCircle {
    said: CircleData,
    /// By paint, where readings were fitted: what was guessed first, and where it was found.
    found: Vec<(Arc<FirstGuess>, Vec<f64>)>,
    paints: Vec<Ensemble>,
    judged: Vec<Judged>,
    /// What readings to come are learnt from, where there are many.
    remembered: Mutex<Option<Arc<Remembered>>>,
}

impl OfCircle {
    /// What a few more readings of the same tins are learnt from.
    fn remembered(&self, said: &CircleData, guesses: &[Arc<FirstGuess>]) -> Option<Arc<Remembered>> {
        let same = self.found.iter().map(|(guess, _)| guess);
        let same =
            same.len() == guesses.len() && same.zip(guesses).all(|(one, other)| Arc::ptr_eq(one, other));
        let remembered = self.memory().clone();
        remembered.filter(|_| same && said.readings.starts_with(&self.said.readings))
    }

    fn memory(&self) -> MutexGuard<'_, Option<Arc<Remembered>>> {
        self.remembered.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

/// How a reading stands to the rest.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Judged {
    /// True where it lies so far out that it was left out until the painter says which is right.
    pub questioned: bool,
    /// How far out, in standard deviations of what the others predict.
    pub off: f64,
    /// What the estimate says it should be, in daylight: one colour, or over black and over white.
    pub predicted: Vec<Lab>,
    /// ΔE00 of the prediction from the reading, the larger of two.
    pub difference: f64,
}

impl Judged {
    fn of(reading: &Reading, predicted: Vec<Lab>, questioned: bool, off: f64) -> Self {
        let differences =
            reading.measured().zip(&predicted).map(|(read, told)| difference(read.lab(), *told).value());
        Self { questioned, off, difference: differences.fold(0.0, f64::max), predicted }
    }
}

/// The most probable shelf. Tins are told apart by their places: see [`learn_named`].
pub fn learn(paints: &[Facts], readings: &[Reading]) -> Result<Learnt, BadTin> {
    let names: Vec<u64> = (0..paints.len() as u64).collect();
    learn_named(&names, paints, readings)
}

/// The same of tins with names, one for each. Whatever is not known of a tin is drawn by its name: other tins may come and
/// go, and what no reading ties to them stays as it is to the last digit.
pub fn learn_named(names: &[u64], paints: &[Facts], readings: &[Reading]) -> Result<Learnt, BadTin> {
    learn_after(&Learnt::default(), names, paints, readings)
}

/// The same, where `before` was learnt of a shelf that may be much like it: what nothing new is said of is not learnt anew, and
/// stays to the last digit; what is said of hundreds of times is found again from where it stood, to a few thousandths of what
/// was not known.
pub fn learn_after(
    before: &Learnt,
    names: &[u64],
    paints: &[Facts],
    readings: &[Reading],
) -> Result<Learnt, BadTin> {
    let circles = circles(names, paints, readings);
    let near = before.found();
    // By circle: what was known of it, and whether nothing else is said of it now.
    let known = circles.iter().map(|circle| {
        let known = before.circles.get(&circle.name);
        (known, known.is_some_and(|known| known.said == circle.said))
    });
    let known: Vec<(Option<&Arc<OfCircle>>, bool)> = known.collect();
    let anew = circles.iter().zip(&known).filter(|(_, (_, stays))| !stays);
    let readings_anew: usize = anew.map(|(circle, _)| circle.said.readings.len()).sum();
    let keep = Keep { draws: circles.len() <= MOST_KEPT, fits: readings_anew <= MOST_REMEMBERED };
    let learnt = circles
        .par_iter()
        .zip(&known)
        .map(|(circle, (known, stays))| match known {
            Some(known) if *stays => Ok(Arc::clone(known)),
            _ => OfCircle::learn(circle, keep, known.map(Arc::as_ref), &near).map(Arc::new),
        })
        .collect::<Result<Vec<_>, _>>()?;
    let (stay, anew): (Vec<_>, Vec<_>) = learnt.iter().zip(&known).partition(|(_, (_, stays))| *stays);
    make_room(anew.into_iter().chain(stay).map(|(learnt, _)| learnt.as_ref()));
    let mut by_paint: Vec<Option<Ensemble>> = vec![None; paints.len()];
    let mut judged = vec![Judged::default(); readings.len()];
    for (circle, learnt) in circles.iter().zip(&learnt) {
        for (paint, known) in circle.paints.iter().zip(&learnt.paints) {
            by_paint[*paint] = Some(known.clone());
        }
        for (at, how) in circle.of_readings.iter().zip(&learnt.judged) {
            judged[*at] = how.clone();
        }
    }
    let circles = circles.iter().map(|circle| circle.name).zip(learnt).collect();
    // Every paint stands in a circle.
    Ok(Learnt { paints: by_paint.into_iter().flatten().collect(), judged, circles })
}

/// What is kept in memory of circles that are learnt.
#[derive(Clone, Copy)]
struct Keep {
    /// What unread tins may be, once it was drawn.
    draws: bool,
    /// What readings to come are learnt from.
    fits: bool,
}

/// Forgets what readings to come would be learnt from where there is too much of it, of the last circles first: then they are
/// learnt as before, only slower.
fn make_room<'a>(circles: impl Iterator<Item = &'a OfCircle>) {
    let mut room = MOST_REMEMBERED;
    for circle in circles {
        let mut memory = circle.memory();
        if memory.is_some() {
            match room.checked_sub(circle.said.readings.len()) {
                Some(left) => room = left,
                None => *memory = None,
            }
        }
    }
}

impl OfCircle {
    fn learn(circle: &Circle, keep: Keep, known: Option<&Self>, near: &Found) -> Result<Self, BadTin> {
        let bases = Bases::of(&circle.said.facts, &circle.said.readings);
        if bases.not_fitted.iter().all(|out| *out) {
            Self::unread(circle, bases, keep.draws)
        } else {
            Self::fit(circle, bases, keep.fits, known, near)
        }
    }

    /// A circle that has nothing to be fitted to: a tin with spectra of its masstone, or with no reading at all.
    fn unread(circle: &Circle, bases: Bases, kept: bool) -> Result<Self, BadTin> {
        let CircleData { names, facts, readings } = &circle.said;
        let tins = names.iter().zip(facts).zip(bases.spectra).zip(&circle.paints);
        let paints = tins
            .map(|(((name, facts), base), paint)| {
                let label = Label { name: *name, facts: *facts, base };
                Ensemble::unread(label, kept).map_err(|error| BadTin { paint: *paint, error })
            })
            .collect::<Result<Vec<_>, _>>()?;
        let judged = readings.iter().zip(&bases.odd).map(|(reading, odd)| {
            let predicted = |(paint, _): &(usize, _)| paints[*paint].best().seen_lab(Light::Daylight);
            let predicted: Vec<Lab> = reading.of.iter().map(predicted).collect();
            Judged::of(reading, predicted, odd.is_some_and(|odd| odd > OUTLIER_SD), odd.unwrap_or(0.0))
        });
        let (judged, found) = (judged.collect(), Vec::new());
        Ok(Self { judged, found, paints, said: circle.said.clone(), remembered: Mutex::default() })
    }

    fn fit(
        circle: &Circle,
        bases: Bases,
        keep: bool,
        known: Option<&Self>,
        near: &Found,
    ) -> Result<Self, BadTin> {
        let CircleData { names, facts, readings } = &circle.said;
        let tins: Vec<_> = names.iter().zip(facts).zip(bases.spectra).zip(&circle.paints).collect();
        let guesses = tins
            .into_par_iter()
            .map(|(((name, facts), base), paint)| {
                let label = Label { name: *name, facts: *facts, base };
                match near.get(name).filter(|(guess, _)| guess.label == label) {
                    Some((guess, _)) => Ok(Arc::clone(guess)),
                    None => {
                        FirstGuess::of(label).map(Arc::new).map_err(|error| BadTin { paint: *paint, error })
                    }
                }
            })
            .collect::<Result<Vec<_>, _>>()?;
        // A short way is not worth that its end hangs, however little, on where it began.
        let stood = |name| near.get(name).filter(|_| readings.len() >= MANY).map(|(_, at)| at.as_slice());
        let near: Vec<Option<&[f64]>> = names.iter().map(stood).collect();
        let before = known.and_then(|known| known.remembered(&circle.said, &guesses));
        let fit = fit::fit(&guesses, readings, bases.not_fitted, before.as_deref(), &near);
        let judged = readings.iter().zip(&fit.sights).enumerate().map(|(i, (reading, sight))| {
            let questioned = bases.odd[i].map_or(fit.left_out[i], |odd| odd > OUTLIER_SD);
            Judged::of(reading, sight.predicted(), questioned, bases.odd[i].unwrap_or(fit.off[i]))
        });
        let judged = judged.collect();
        let paints = guesses.par_iter().zip(fit.best.par_iter().zip(&fit.members));
        let paints = paints.map(|(guess, (best, members))| match &guess.prior {
            Prior::Medium(material) => Ensemble::certain((**material).clone()),
            prior => Ensemble::new(
                prior.material(best),
                members.column_iter().map(|at| prior.material(at.into_owned().as_slice())),
            ),
        });
        let paints = paints.collect();
        let found = guesses.into_iter().zip(fit.best).collect();
        let remembered = Mutex::new(fit.remembered.filter(|_| keep).map(Arc::new));
        Ok(Self { paints, judged, found, said: circle.said.clone(), remembered })
    }
}

/// Spectra of masstones, which take the place of the colours that are written down.
struct Bases {
    /// By paint.
    spectra: Vec<Option<Reflectance>>,
    /// By reading: a masstone spectrum's distance from the colour written down, in standard deviations.
    odd: Vec<Option<f64>>,
    /// By reading: used as a base or not believed, so not fitted.
    not_fitted: Vec<bool>,
}

impl Bases {
    fn of(paints: &[Facts], readings: &[Reading]) -> Self {
        let mut found: Vec<Vec<usize>> = vec![Vec::new(); paints.len()];
        let mut odd: Vec<Option<f64>> = readings
            .iter()
            .enumerate()
            .map(|(at, reading)| {
                let (paint, curve) = reading.masstone_spectrum()?;
                let facts = &paints[*paint];
                let stated = facts.masstone.filter(|_| !facts.class.is_medium() && !reading.sure);
                let off = stated.map_or(0.0, |stated| {
                    let noise = facts.source.off().hypot(reading.source.off());
                    difference(stated.lab(), Measured::Spectrum(*curve).lab()).value() / noise
                });
                if off <= OUTLIER_SD {
                    found[*paint].push(at);
                }
                Some(off)
            })
            .collect();
        let curves = |of: &[usize]| -> Vec<&Reflectance> {
            of.iter().filter_map(|at| readings[*at].masstone_spectrum()).map(|(_, curve)| curve).collect()
        };
        let mean = |curves: Vec<&Reflectance>| {
            let n = curves.len() as f64;
            (n > 0.0).then(|| {
                Reflectance::from_fn(|i| curves.iter().map(|curve| curve.bands()[i]).sum::<f64>() / n)
            })
        };
        for of_paint in &mut found {
            // Against each other: the one farthest from the rest is asked about, of two the later.
            while let Some((place, off)) = farthest(readings, of_paint, &|of| mean(curves(of))) {
                odd[of_paint.remove(place)] = Some(off);
            }
        }
        let not_fitted = odd.iter().map(Option::is_some).collect();
        Self { spectra: found.iter().map(|of| mean(curves(of))).collect(), odd, not_fitted }
    }
}

/// Of spectra of one masstone that one which lies farthest from the mean of the others, if that is further than chance
/// explains: its place in the list, and how far, in standard deviations. What the painter is sure of is never it.
fn farthest(
    readings: &[Reading],
    of: &[usize],
    mean: &dyn Fn(&[usize]) -> Option<Reflectance>,
) -> Option<(usize, f64)> {
    let off = |place: usize| {
        let others: Vec<usize> =
            of.iter().enumerate().filter(|(i, _)| *i != place).map(|(_, at)| *at).collect();
        let noise = |at: usize| readings[at].source.off();
        let of_mean = others.iter().map(|at| noise(*at).powi(2)).sum::<f64>().sqrt() / others.len() as f64;
        let (rest, own) = (mean(&others)?, mean(&of[place..=place])?);
        let lab = |curve| Measured::Spectrum(curve).lab();
        Some(difference(lab(own), lab(rest)).value() / noise(of[place]).hypot(of_mean))
    };
    (0..of.len())
        .filter(|place| !readings[of[*place]].sure)
        .filter_map(|place| Some((place, off(place)?)))
        .filter(|(_, off)| *off > OUTLIER_SD)
        .max_by(|one, other| one.1.total_cmp(&other.1))
}
