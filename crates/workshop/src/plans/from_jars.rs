//! Jars that a plan can use, before anything is mixed anew.

use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::{Jar, JarState, JarUse, PourRecord};
use warm_blend_paint::{MixPart, PaintId, shares};
use warm_blend_plan::{Done, FromJar, Needed, Step, amounts};

use super::planning::Planned;
use super::sheet_change::PourChange;
use crate::{held_in_jars, label};

/// How far the share of a tin may be from the recipe in a pot that was poured by it†.
const SAME_POT: f64 = 0.02;

/// A jar to use before a pot is mixed.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarForPot {
    /// The pot that it was filled from.
    pub pour: Uuid,
    /// Short code on its label.
    pub code: String,
    /// Where it stands.
    pub place: Option<String>,
    /// Amount of it that is used, ml.
    pub ml: f64,
    /// Amount as text.
    pub amount: String,
}

/// A pot that may still hold what is needed.
#[derive(Debug, Serialize, ToSchema)]
pub struct JarToUse {
    /// The pot.
    pub pour: Uuid,
    /// Short code on its label.
    pub code: String,
    /// Where it is kept.
    pub place: Option<String>,
    /// When it was poured, RFC 3339.
    pub poured_at: String,
    /// Amount left in its jar as text; absent if it is not known whether any is left.
    pub left: Option<String>,
    /// What to do about it first; absent if it is good, or nothing is known.
    pub advice: Option<&'static str>,
}

/// True if a finished pot holds this recipe.
fn is_of(pour: &PourRecord, pot: &[MixPart]) -> bool {
    let inside = pour.inside();
    let total = pour.total();
    let share =
        |paint: PaintId| inside.iter().find(|(own, _)| *own == paint).map_or(0.0, |(_, ml)| ml / total);
    pour.finished_at.is_some()
        && total > 0.0
        && !pot.is_empty()
        && inside.len() == pot.len()
        && shares(pot).all(|(paint, wanted)| (share(paint) - wanted).abs() <= SAME_POT)
}

/// Takes amounts, ml, out of the jars of pots. Less than can be measured, and more than is left, is not noted.
fn taken<'p>(
    uses: impl Iterator<Item = (&'p Kept<PourRecord>, f64)>,
    at: Timestamp,
) -> (Vec<FromJar>, Vec<PourChange>) {
    let (mut from, mut changes): (Vec<FromJar>, Vec<PourChange>) = (Vec::new(), Vec::new());
    for (kept, ml) in uses {
        let taken = JarUse { id: Uuid::now_v7(), at, ml };
        let known = changes.iter().position(|(before, _)| before.id == kept.id);
        let now = known.map_or(&kept.value, |n| &changes[n].1);
        let Ok(next) = now.clone().used_from_jar(taken) else { continue };
        from.push(FromJar { pour: kept.id, taken: taken.id, ml });
        match known {
            Some(n) => changes[n].1 = next,
            None => changes.push((kept.clone(), next)),
        }
    }
    (from, changes)
}

impl Planned<'_> {
    /// What a step takes out of jars, and the pots after it.
    pub(super) fn out_of_jars(&self, step: &Step, at: Timestamp) -> (Vec<FromJar>, Vec<PourChange>) {
        let needed = amounts(std::slice::from_ref(step), &self.zones);
        taken(needed.iter().flat_map(|pot| self.jars_for(pot)), at)
    }

    /// What is dabbed on a spot out of jars, of each pot so much, ml, and the pots after it.
    pub(super) fn dabbed_from_jars<'p>(
        &self,
        wanted: impl Iterator<Item = (&'p [MixPart], f64)>,
        at: Timestamp,
    ) -> (Vec<FromJar>, Vec<PourChange>) {
        let of = |(pot, ml): (&[MixPart], f64)| {
            let jar = self.pot_left(pot, ml).filter(|jar| jar.left.is_some())?;
            Some((self.asked.pours.iter().find(|kept| kept.id == jar.pour)?, ml))
        };
        taken(wanted.filter_map(of), at)
    }

    /// What comes back into jars once a step is undone.
    pub(super) fn back_in_jars(&self, taken: &[FromJar]) -> Vec<PourChange> {
        let with_some = self.asked.pours.iter().filter(|kept| taken.iter().any(|from| from.pour == kept.id));
        let back = |kept: &Kept<PourRecord>| {
            let next = taken.iter().fold(kept.value.clone(), |pour, from| pour.back_in_jar(from.taken));
            (kept.clone(), next)
        };
        with_some.map(back).filter(|(kept, next)| kept.value != *next).collect()
    }

    /// Jars that a finished step took from, in words.
    pub(super) fn jars_taken(&self, done: &Done) -> Vec<String> {
        let words = |from: &FromJar| {
            format!("{} from jar {}", self.asked.units.say_volume(from.ml), label::code(from.pour))
        };
        done.from_jars.iter().map(words).collect()
    }

    fn state(&self, pour: &PourRecord, jar: &Jar) -> (JarState, Option<&'static str>) {
        let zone = self.sheet.hours.clock();
        let today = self.asked.now.to_zoned_datetime(zone.clone()).date();
        let keeping = self.room.shelf.keeping(pour, jar, today, &zone);
        (keeping.state, keeping.advice)
    }

    /// Jars of a pot that may be used up on this piece, with the amount used of each, ml: the soonest over first. A jar that is kept for
    /// another client stays where it is, and so does one that may be spoiled.
    fn jars_for(&self, needed: &Needed) -> Vec<(&Kept<PourRecord>, f64)> {
        let client = self.piece.brief.client.as_ref();
        let fit = |(kept, jar): &(&Kept<PourRecord>, &Jar)| {
            let free = jar.client.is_none() || jar.client.as_ref() == client;
            free && is_of(&kept.value, &needed.pot)
                && matches!(self.state(&kept.value, jar).0, JarState::Good | JarState::Soon)
        };
        let mut jars: Vec<(&Kept<PourRecord>, &Jar)> = held_in_jars(&self.asked.pours).filter(fit).collect();
        jars.sort_by_key(|(kept, _)| kept.value.finished_at);
        let mut open = needed.ml;
        let used = |(kept, jar): (_, &Jar)| {
            let ml = jar.left().min(open);
            open -= ml;
            (kept, ml)
        };
        jars.into_iter().map(used).filter(|(_, ml)| *ml > 0.0).collect()
    }

    /// Jars to use for a pot, for display.
    pub(super) fn jars_to_use(&self, needed: &Needed) -> Vec<JarForPot> {
        let one = |(kept, ml): (&Kept<PourRecord>, f64)| JarForPot {
            pour: kept.id,
            code: label::code(kept.id),
            place: kept.value.place.as_ref().map(|place| place.as_str().to_owned()),
            ml,
            amount: self.asked.units.say_volume(ml),
        };
        self.jars_for(needed).into_iter().map(one).collect()
    }

    /// Pots as they must be mixed once the jars are used up.
    pub(super) fn after_jars(&self, needed: &[Needed]) -> Vec<Needed> {
        let rest = |pot: &Needed| {
            let kept: f64 = self.jars_for(pot).iter().map(|(_, ml)| ml).sum();
            Needed { ml: (pot.ml - kept).max(0.0), ..pot.clone() }
        };
        needed.iter().map(rest).filter(|pot| pot.ml > 0.0).collect()
    }

    /// A pot of this recipe that may still hold so much, ml: the jar with the best chance of being good; without one, the last pot of which
    /// nothing is known since.
    pub(super) fn pot_left(&self, pot: &[MixPart], ml: f64) -> Option<JarToUse> {
        let of = || self.asked.pours.iter().rev().filter(|kept| is_of(&kept.value, pot));
        let jars = of().filter_map(|kept| {
            let jar = kept.value.jar().filter(|jar| jar.left() >= ml)?;
            let (state, advice) = self.state(&kept.value, jar);
            (state != JarState::Spoiled).then_some((kept, Some((jar.left(), state, advice))))
        });
        let best = jars.max_by_key(|(_, known)| known.map(|(_, state, _)| state));
        let (kept, known) =
            best.or_else(|| of().find(|kept| kept.value.jar().is_none()).map(|kept| (kept, None)))?;
        Some(JarToUse {
            pour: kept.id,
            code: label::code(kept.id),
            place: kept.value.place.as_ref().map(|place| place.as_str().to_owned()),
            poured_at: kept.value.finished_at.unwrap_or(kept.made_at).to_string(),
            left: known.map(|(left, ..)| self.asked.units.say_volume(left)),
            advice: known.and_then(|(_, _, advice)| advice),
        })
    }
}
