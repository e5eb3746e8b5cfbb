//! Jars that a plan can use, before anything is mixed anew.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::{Jar, JarState, PourRecord};
use warm_blend_paint::{MixPart, PaintId, shares};
use warm_blend_plan::Needed;

use super::planning::Planned;
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

impl Planned<'_> {
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
