//! What the prediction of a mix rests on: which readings, which guess matters most, and what would settle it.
//!
//! Readings are weighed by leaving each one out and learning the rest again. Guesses are weighed by letting one thing at a
//! time vary over the plausible shelves while everything else keeps its most probable value.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_learn::draws::MEMBERS;
use warm_blend_learn::{Certainty, Ensemble, LoggedReading, Reads, Source, Test};
use warm_blend_paint::{Look, Material, PaintId, Parts, SavedMix, Verdict};
use warm_blend_spectral::{BANDS, difference};

use crate::{Refusal, ShelfSnapshot};

/// Most readings that are left out in turn: those of the paints in the mix, newest first, then others.
const WEIGHED: usize = 48;

/// Readings that are named.
const NAMED: usize = 3;

/// Change of a prediction, ΔE00, that is too small to see.
const UNSEEN: f64 = 0.1;

/// Share of the band's variance from which a guess is named.
const COUNTS: f64 = 0.04;

/// Number of paints whose tests are tried, and number of tests of each.
const TRIED: usize = 2;

/// What the prediction of a mix rests on.
#[derive(Debug, Serialize, ToSchema)]
pub struct MixReasons {
    /// The answer in a sentence: `Least sure: how strong slate blue is.`
    pub words: String,
    /// 90 % band of the mix, ΔE00.
    pub within: f64,
    /// Readings that it rests on, the one whose removal changes it most first, in colour or in its band.
    pub evidence: Vec<Evidence>,
    /// Number of readings that were weighed.
    pub weighed: usize,
    /// What is guessed, the greatest contribution to the band first.
    pub guesses: Vec<Guess>,
    /// The test that would narrow the band most; absent if none would.
    pub next: Option<NextTest>,
}

/// A reading that a prediction rests on.
#[derive(Debug, Serialize, ToSchema)]
pub struct Evidence {
    /// The reading.
    pub reading: Uuid,
    /// A paint of it, on whose page it stands.
    pub paint: Uuid,
    /// Its sample: `1 slate blue : 1 chimney white`.
    pub sample: String,
    /// When it was taken, RFC 3339.
    pub made_at: String,
    /// Change of the prediction without it, ΔE00.
    pub moved: f64,
    /// That change in words: `clearly darker than predicted`.
    pub words: String,
    /// 90 % band without it, ΔE00.
    pub within: f64,
}

/// What is guessed of a paint.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Guess {
    /// The paint; absent for what a medium does to it.
    pub paint: Option<Uuid>,
    /// `how strong slate blue is`.
    pub words: String,
    /// Where it comes from: `from its type`.
    pub source: &'static str,
    /// Contribution to the band of the mix, ΔE00: the squares of all contributions add up to that of the band.
    pub within: f64,
}

/// A test, with what it would do for a mix.
#[derive(Debug, Serialize, ToSchema)]
pub struct NextTest {
    /// The paint to test.
    pub paint: Uuid,
    /// `tint-1-1` …
    pub test: &'static str,
    /// In a sentence: `A 1 : 1 tint of slate blue would bring this mix from about ±5 to ±2.`
    pub words: String,
    /// Expected 90 % band of the mix after the test, ΔE00.
    pub within: f64,
}

impl Guess {
    /// Puts guesses in order, the greatest first, scaled so that the squares of their contributions add up to that of the
    /// band; leaves out those with less than a share of its variance. What is known of paints hangs together, so that
    /// their bands alone do not add up.
    pub(crate) fn in_order(guesses: &mut Vec<Self>, within: f64) {
        guesses.sort_by(|one, other| other.within.total_cmp(&one.within));
        let all = guesses.iter().map(|guess| guess.within.powi(2)).sum::<f64>().sqrt();
        guesses.retain(|guess| guess.within.powi(2) > COUNTS * all.powi(2));
        for guess in guesses {
            guess.within *= within / all;
        }
    }
}

impl ShelfSnapshot {
    /// What the prediction of a mix rests on; `None` without parts.
    pub fn reasons(&self, mix: &SavedMix, look: Look) -> Result<Option<MixReasons>, Refusal> {
        let of: Vec<(PaintId, Parts)> =
            mix.components().iter().map(|part| (part.paint, part.parts.into())).collect();
        let Some(mixed) = self.stirred(&of)? else { return Ok(None) };
        let within = mixed.in_state(look.state).doubt(look.light).within;
        let guesses = self.guesses(&of, within, look)?;
        let (evidence, weighed) = self.evidence(&of, &mixed, look)?;
        let next = self.next_test(&of, &guesses, within, look)?;
        let words = headline(within, &guesses, evidence.first());
        Ok(Some(MixReasons { words, within, evidence, weighed, guesses, next }))
    }

    /// Readings by what leaving them out does to the mix, and how many were weighed.
    fn evidence(
        &self,
        of: &[(PaintId, Parts)],
        now: &Ensemble,
        look: Look,
    ) -> Result<(Vec<Evidence>, usize), Refusal> {
        let at = look.face(now.best()).lab;
        let within = now.in_state(look.state).doubt(look.light).within;
        let mut which = self.connected(of);
        which.truncate(WEIGHED);
        let left_out = which.par_iter().map(|reading| {
            let without = self.estimate_without(*reading)?;
            let tins: Vec<(Parts, &Ensemble)> =
                of.iter().filter_map(|(paint, parts)| Some((*parts, without.paint(*paint)?))).collect();
            let mixed = Ensemble::mix(&tins).map_err(|_| Refusal::Broken)?.in_state(look.state);
            let seen = Look::from(look.light).face(mixed.best()).lab;
            let kept = &self.logged()[*reading];
            Ok(Evidence {
                reading: kept.id,
                paint: self.concerns(kept),
                sample: self.reading_words(&kept.value.reading),
                made_at: kept.made_at.to_string(),
                moved: difference(seen, at).value(),
                words: Verdict::against(seen, at, "predicted").words(),
                within: mixed.doubt(look.light).within,
            })
        });
        let mut evidence = left_out.collect::<Result<Vec<_>, Refusal>>()?;
        // A reading that came out as expected moves nothing, but the band is narrow because of it.
        let changes = |one: &Evidence| one.moved.max(one.within - within);
        evidence.sort_by(|one, other| changes(other).total_cmp(&changes(one)));
        evidence.truncate(NAMED);
        evidence.retain(|one| changes(one) >= UNSEEN);
        Ok((evidence, which.len()))
    }

    /// Indices of the readings that bear on a mix: those of its paints, newest first, then those that are tied to them
    /// through other paints. Questioned ones are not used, so they bear on nothing.
    fn connected(&self, of: &[(PaintId, Parts)]) -> Vec<usize> {
        let used = |at: &usize| self.estimate().judged(*at).is_some_and(|judged| !judged.questioned);
        let mut left: Vec<usize> = (0..self.logged().len()).rev().filter(used).collect();
        let mut reached: Vec<PaintId> = of.iter().map(|(paint, _)| *paint).collect();
        let mut found = Vec::new();
        loop {
            let touches = |at: &usize| {
                self.logged()[*at].value.reading.of.iter().any(|(paint, _)| reached.contains(paint))
            };
            let (near, far): (Vec<usize>, Vec<usize>) = left.into_iter().partition(touches);
            if near.is_empty() {
                return found;
            }
            let paints = near.iter().flat_map(|at| self.logged()[*at].value.reading.of.iter());
            let paints: Vec<PaintId> = paints.map(|(paint, _)| *paint).collect();
            reached.extend(paints);
            found.extend(near);
            left = far;
        }
    }

    /// The paint that a reading tells most about.
    fn concerns(&self, kept: &Kept<LoggedReading>) -> Uuid {
        let of = &kept.value.reading.of;
        let other = of.iter().find(|(paint, _)| !self.is_house_white(paint.0));
        other.or(of.first()).map_or(Uuid::nil(), |(paint, _)| paint.0)
    }

    /// What is guessed of each paint, and its contribution to the band.
    fn guesses(&self, of: &[(PaintId, Parts)], within: f64, look: Look) -> Result<Vec<Guess>, Refusal> {
        let tins: Vec<(Parts, &Ensemble)> = of
            .iter()
            .map(|(paint, parts)| Ok((*parts, self.paint(paint.0)?)))
            .collect::<Result<_, Refusal>>()?;
        let common = common_strength(&tins);
        let mut guesses = Vec::new();
        for (i, (paint, _)) in of.iter().enumerate().filter(|(i, _)| tins[*i].1.is_uncertain()) {
            let tin = tins[i].1;
            let strength = strengths(tin);
            let relative: Vec<f64> = strength.iter().zip(&common).map(|(own, all)| own - all).collect();
            let alone = |members: &mut dyn Iterator<Item = Material>| {
                self.band_if(&tins, i, Ensemble::new(tin.best().clone(), members), look)
            };
            let strong = alone(&mut relative.iter().map(|ln| tin.best().stronger(*ln)))?;
            let colour = alone(&mut strength.iter().enumerate().map(|(m, ln)| tin.member(m).stronger(-ln)))?;
            let name = self.name(paint.0);
            let (colour_from, strong_from) = self.sources(*paint);
            let guess = |words, source, within| Guess { paint: Some(paint.0), words, source, within };
            guesses.push(guess(format!("how strong {name} is"), strong_from, strong));
            guesses.push(guess(format!("the colour of {name}"), colour_from, colour));
        }
        if let Some(within) = medium_effect(&tins, look)? {
            let words = "what the medium does to the paint".to_owned();
            guesses.push(Guess { paint: None, words, source: "only a sample on a board shows it", within });
        }
        Guess::in_order(&mut guesses, within);
        Ok(guesses)
    }

    /// Band of a mix in which only tin `i` varies.
    fn band_if(
        &self,
        tins: &[(Parts, &Ensemble)],
        i: usize,
        varied: Ensemble,
        look: Look,
    ) -> Result<f64, Refusal> {
        let held: Vec<(Parts, Ensemble)> = tins
            .iter()
            .enumerate()
            .map(|(n, (parts, tin))| (*parts, if n == i { varied.clone() } else { held(tin) }))
            .collect();
        let tins: Vec<(Parts, &Ensemble)> = held.iter().map(|(parts, tin)| (*parts, tin)).collect();
        let mixed = Ensemble::mix_with_known_media(&tins).map_err(|_| Refusal::Broken)?;
        Ok(mixed.in_state(look.state).doubt(look.light).within)
    }

    /// Where the colour and the strength of a tin are known from.
    fn sources(&self, paint: PaintId) -> (&'static str, &'static str) {
        let mut readings =
            self.readings_of(paint.0).filter(|(_, judged)| judged.is_some_and(|it| !it.questioned));
        let alone = self.masstones_of(paint.0).next().is_some();
        let mixed = readings.any(|(kept, _)| kept.value.reading.of.len() > 1);
        let tin = self.tin(paint.0).ok().map(|tin| &tin.value);
        let colour = match tin.map(|tin| tin.source) {
            _ if alone => "from its own dry dab",
            _ if mixed => "from its label and its mixes",
            Some(Source::Reader) => "from its entry, read by a colour reader",
            Some(Source::Photo) => "from a photo",
            Some(Source::Guess) => "judged by eye",
            _ => "from its chip",
        };
        let strength = match tin.and_then(|tin| tin.coats_to_hide) {
            _ if mixed => "from its mixes so far",
            Some(_) => "from the coats it takes to cover",
            None => "only the usual figure of its type",
        };
        (colour, strength)
    }

    /// The test that would narrow the band of a mix most.
    fn next_test(
        &self,
        of: &[(PaintId, Parts)],
        guesses: &[Guess],
        now: f64,
        look: Look,
    ) -> Result<Option<NextTest>, Refusal> {
        let mut paints: Vec<Uuid> = guesses.iter().filter_map(|guess| guess.paint).collect();
        let mut seen = Vec::new();
        paints.retain(|paint| {
            !seen.contains(paint) && {
                seen.push(*paint);
                true
            }
        });
        paints.retain(|paint| self.tin(*paint).is_ok_and(|tin| !tin.removed));
        let mut best: Option<(Uuid, Test, f64)> = None;
        for paint in paints.into_iter().take(TRIED) {
            for test in Test::ALL {
                let Some(after) = self.estimate().after_test(test, PaintId(paint), Reads::Spectra) else {
                    continue;
                };
                let tins = of.iter().map(|(id, parts)| match id.0 == paint {
                    true => Ok((*parts, &after)),
                    false => Ok((*parts, self.paint(id.0)?)),
                });
                let tins: Vec<(Parts, &Ensemble)> = tins.collect::<Result<_, Refusal>>()?;
                let mixed = Ensemble::mix(&tins).map_err(|_| Refusal::Broken)?.in_state(look.state);
                let within = mixed.doubt(look.light).within;
                if best.is_none_or(|(.., least)| within < least) {
                    best = Some((paint, test, within));
                }
            }
        }
        let helpful = best.filter(|(.., within)| *within < 0.85 * now);
        Ok(helpful.map(|(paint, test, within)| {
            let name = self.name(paint);
            let how = match test {
                Test::TintHalf => format!("A 1 : 1 tint test of {name}"),
                Test::TintFifth => format!("A 1 : 4 tint test of {name}"),
                Test::Darkened => format!("A mix of 4 parts {name} with one dark part"),
                Test::Masstone => format!("Reading a dry dab of {name}"),
                Test::Drawdown => format!("A drawdown of {name}"),
                Test::Sealed => format!("Reading {name} under wax"),
            };
            let words = format!("{how} would bring this mix from {} to {}.", band(now), band(within));
            NextTest { paint, test: test.id(), words, within }
        }))
    }
}

/// A tin that is taken to be what it most probably is.
fn held(tin: &Ensemble) -> Ensemble {
    match tin.is_uncertain() {
        true => Ensemble::new(tin.best().clone(), std::iter::repeat_n(tin.best().clone(), MEMBERS)),
        false => tin.clone(),
    }
}

/// ln of the strength of each plausible material relative to the best: the mean change of ln S.
fn strengths(tin: &Ensemble) -> Vec<f64> {
    let mean = |of: &Material| {
        of.optics.s().iter().map(|s| s.max(f64::MIN_POSITIVE).ln()).sum::<f64>() / BANDS as f64
    };
    let best = mean(tin.best());
    (0..MEMBERS).map(|m| mean(&tin.member(m)) - best).collect()
}

/// What the strengths of all paints of a mix have in common, which changes no thick colour.
fn common_strength(tins: &[(Parts, &Ensemble)]) -> Vec<f64> {
    let paints: Vec<_> = tins.iter().filter(|(_, tin)| tin.is_uncertain()).collect();
    let total: f64 = paints.iter().map(|(parts, _)| parts.value()).sum();
    let mut common = vec![0.0; MEMBERS];
    for (parts, tin) in paints {
        for (sum, own) in common.iter_mut().zip(strengths(tin)) {
            *sum += parts.value() / total * own;
        }
    }
    common
}

/// Band that comes from what the mediums do to the paints; `None` without mediums.
fn medium_effect(tins: &[(Parts, &Ensemble)], look: Look) -> Result<Option<f64>, Refusal> {
    let known: Vec<(Parts, Ensemble)> = tins.iter().map(|(parts, tin)| (*parts, held(tin))).collect();
    if known.iter().all(|(_, tin)| tin.is_uncertain()) {
        return Ok(None);
    }
    let tins: Vec<(Parts, &Ensemble)> = known.iter().map(|(parts, tin)| (*parts, tin)).collect();
    let mixed = Ensemble::mix(&tins).map_err(|_| Refusal::Broken)?;
    Ok(Some(mixed.in_state(look.state).doubt(look.light).within))
}

/// A band with as many digits as it deserves: `about ±5`.
fn band(within: f64) -> String {
    if within < 2.0 { format!("±{within:.1}") } else { format!("about ±{within:.0}") }
}

fn headline(within: f64, guesses: &[Guess], evidence: Option<&Evidence>) -> String {
    match (guesses.first(), evidence) {
        (_, Some(reading)) if Certainty::of(within) == Certainty::Measured => {
            format!("Well known, mostly by reading {}.", reading.sample)
        }
        (Some(guess), _) if Certainty::of(within) != Certainty::Measured => {
            format!("Least sure: {}.", guess.words)
        }
        _ => "Nothing in it is uncertain enough to see.".to_owned(),
    }
}
