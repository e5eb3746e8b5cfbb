//! Making a pot again: what the same parts give today, and how to get the old colour.

use std::collections::HashSet;

use jiff::Timestamp;
use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::{Kept, KeptLine, LogKind, LoggedPot};
use warm_blend_learn::{Ensemble, Judged, LoggedReading, Shown};
use warm_blend_mixing::expected_in;
use warm_blend_paint::{
    Colour, Condition, FilmState, Look, Masstone, MixPart, PaintId, Parts, Seen, Verdict, WholeParts,
    nearest_whole,
};
use warm_blend_spectral::{Lab, Light, difference};

use crate::matching::likely_words;
use crate::mixable::{DoubtfulPot, pot_of};
use crate::snapshot::parts_key;
use crate::{AgainstTarget, FoundRecipe, Refusal, SeenColour, ShelfSnapshot, Swatch};

/// Difference, ΔE00, below which the same parts will do†.
const WILL_DO: f64 = 1.0;
/// Greatest number of mixes offered for a colour.
const LIKE: usize = 24;

/// A pot made again with today's tins and knowledge.
#[derive(Debug, Serialize, ToSchema)]
pub struct MadeAgain {
    /// Its contents then, in whole parts.
    pub then: Vec<MixPart>,
    /// `5 slate blue : 1 barley`
    pub then_words: String,
    /// Its colour then.
    pub like: SeenColour,
    /// Where that is from: `from its reading`, or `from what is known of its paints today`.
    pub like_from: &'static str,
    /// What the same parts give today.
    pub now: Swatch,
    /// Comparison of today's colour with that of then.
    pub judgement: AgainstTarget,
    /// Tins that cannot be used: `oat white is no longer on the shelf`.
    pub missing: Vec<String>,
    /// What was learned about its tins since: `slate blue was read twice`.
    pub since: Vec<String>,
    /// How that changed the prediction for the same parts; absent if nothing was learned.
    pub said_then: Option<SaidThen>,
    /// What to pour to get the old colour; the same parts if they still give it.
    pub recipe: Vec<MixPart>,
    /// The recipe in words.
    pub recipe_words: String,
    /// True if the parts are the same.
    pub same: bool,
    /// Comparison with the old colour if the tins are what they most probably are.
    pub comes: AgainstTarget,
    /// Expected difference in words: `likely within 3`.
    pub likely: String,
}

/// The prediction when the pot was made, from the readings until then.
#[derive(Debug, Serialize, ToSchema)]
pub struct SaidThen {
    /// Predicted colour, dry, in daylight.
    pub expected: SeenColour,
    /// 90 % band, ΔE00.
    pub within: f64,
    /// Today's prediction compared with it: `a touch darker`, or `no change`.
    pub words: String,
    /// Difference, ΔE00.
    pub difference: f64,
}

/// A pot that looks like a colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct MixLike {
    /// The line of the log.
    pub line: i64,
    /// Text of the line.
    pub words: String,
    /// Time, RFC 3339.
    pub at: String,
    /// The mix, if it was one.
    pub mix: Option<Uuid>,
    /// Its colour on the screen.
    pub hex: String,
    /// Difference from the colour, ΔE00.
    pub difference: f64,
}

/// A pot that looks like a colour.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LikePot {
    /// Its line in the log.
    pub line: i64,
    /// Difference from the colour, ΔE00.
    pub difference: f64,
    seen: Seen,
}

impl LikePot {
    /// Adds the text of its line.
    pub fn with_line(&self, line: KeptLine) -> MixLike {
        MixLike {
            mix: line.mix.or((line.kind == LogKind::Mix).then_some(line.document)),
            at: line.at.to_string(),
            line: line.id,
            words: line.words,
            hex: self.seen.screen.srgb.to_string(),
            difference: self.difference,
        }
    }
}

impl ShelfSnapshot {
    /// Makes the pot of a log line again, with today's tins.
    pub fn make_again(&self, of: &KeptLine, look: Look) -> Result<MadeAgain, Refusal> {
        if of.pot.is_empty() {
            return Err(Refusal::Unknown("nothing was mixed here; choose an entry with a mix".to_owned()));
        }
        let amounts: Vec<f64> = of.pot.iter().map(|(_, parts)| parts.value()).collect();
        let whole = nearest_whole(&amounts);
        let part = |(&(paint, _), &parts): (&(PaintId, Parts), &WholeParts)| MixPart { paint, parts };
        let then: Vec<MixPart> = of.pot.iter().zip(&whole).map(part).collect();
        let of_whole: Vec<(PaintId, Parts)> =
            of.pot.iter().zip(&whole).map(|((paint, _), parts)| (*paint, (*parts).into())).collect();
        let now = self.stirred(&of_whole)?.ok_or(Refusal::Broken)?;
        let read = self.was_read(of);
        let like_from =
            if read.is_some() { "from its reading" } else { "from what is known of its paints today" };
        // Readings are dry and in daylight, and so is everything compared with them.
        let daylight = Look { light: Light::Daylight, state: FilmState::Dry };
        let target = match read {
            Some(target) => target,
            None => {
                let stirred = self.most_probable(&of.pot)?.ok_or(Refusal::Broken)?;
                Masstone::Lab(daylight.face(&stirred).lab)
            }
        };
        let judgement = AgainstTarget::of(now.best(), target, daylight)?;
        let since: Vec<String> =
            of.pot.iter().filter_map(|(paint, _)| self.learned_since(paint.0, of)).collect();
        let said_then = if since.is_empty() { None } else { self.predicted_then(of.at, &of_whole, &now)? };
        let missing: Vec<String> =
            of.pot.iter().filter_map(|(paint, _)| self.cannot_be_used(paint.0)).collect();
        let same = missing.is_empty() && judgement.difference <= WILL_DO;
        let found = if same { None } else { self.nearest_usable(target, daylight)? };
        let [l, a, b] = judgement.target.lab;
        let expected = expected_in(DoubtfulPot::of(&now).material(), Lab { l, a, b }, daylight);
        // The mix found must be expected to come closer than the same parts.
        let likelier = found.filter(|found| !missing.is_empty() || found.expected < expected);
        let (recipe, comes, expected) = match likelier {
            Some(found) => (pot_of(&found.parts), found.judgement, found.expected),
            None => (then.clone(), judgement.clone(), expected),
        };
        Ok(MadeAgain {
            then_words: self.mix_words(&then),
            like: judgement.target.clone(),
            like_from,
            now: Swatch::of(&now, look),
            recipe_words: self.mix_words(&recipe),
            same: recipe == then,
            then,
            judgement,
            missing,
            since,
            said_then,
            recipe,
            comes,
            likely: likely_words(expected),
        })
    }

    /// Reading of a log line: of a reading itself, or of a pot the last dry one.
    fn was_read(&self, of: &KeptLine) -> Option<Masstone> {
        let own = |kept: &Kept<LoggedReading>| {
            let logged = &kept.value;
            let it = match of.kind {
                LogKind::Reading => kept.id == of.document,
                _ => logged.pot == Some(of.document),
            };
            match &logged.reading.shown {
                Shown::Thick(measured) if it && logged.reading.state == FilmState::Dry => {
                    Some(Masstone::Lab(measured.lab()))
                }
                _ => None,
            }
        };
        self.readings().rev().find_map(|(kept, _)| own(kept))
    }

    /// The earlier prediction compared with today's.
    fn predicted_then(
        &self,
        then: Timestamp,
        pot: &[(PaintId, Parts)],
        now: &Ensemble,
    ) -> Result<Option<SaidThen>, Refusal> {
        let daylight = Look { light: Light::Daylight, state: FilmState::Dry };
        let compared = |said: Ensemble| {
            let (expected, today) = (daylight.face(said.best()), daylight.face(now.best()));
            let verdict = Verdict::of(today.lab, expected.lab);
            let words = match verdict.can_be_seen() {
                true => verdict.lean().to_owned(),
                false => "no change".to_owned(),
            };
            SaidThen {
                expected: expected.into(),
                within: said.doubt(Light::Daylight).within,
                words,
                difference: verdict.difference.value(),
            }
        };
        Ok(self.predicted_at(then, pot)?.map(compared))
    }

    /// How often a tin was read since a line was written; `None` if it was not.
    fn learned_since(&self, paint: Uuid, of: &KeptLine) -> Option<String> {
        let believed = |judged: Option<&Judged>| judged.is_none_or(|judged| !judged.questioned);
        let later = |kept: &Kept<LoggedReading>| kept.made_at > of.at && kept.id != of.document;
        let read = self.readings_of(paint).filter(|(kept, judged)| later(kept) && believed(*judged)).count();
        let times = match read {
            0 => return None,
            1 => "once".to_owned(),
            2 => "twice".to_owned(),
            more => format!("{more} times"),
        };
        Some(format!("{} was read {times}", self.name(paint)))
    }

    fn cannot_be_used(&self, paint: Uuid) -> Option<String> {
        let name = self.name(paint);
        let Some(tin) = self.tins().find(|tin| tin.id == paint) else {
            return Some(format!("{name} is no longer on the shelf"));
        };
        match (tin.value.condition, tin.value.stock) {
            (Condition::Off, _) => Some(format!("{name} is off")),
            (_, Some(stock)) if stock.value() <= 0.0 => Some(format!("{name} is used up")),
            _ => None,
        }
    }

    fn nearest_usable(&self, target: Masstone, look: Look) -> Result<Option<FoundRecipe>, Refusal> {
        let without =
            self.tins().filter(|tin| self.cannot_be_used(tin.id).is_some()).map(|tin| tin.id).collect();
        self.nearest(target, without, look)
    }

    /// Computes the colours of pots in advance, so that searches are quick.
    pub fn see_pots(&self, pots: &[LoggedPot], look: Look) -> Result<(), Refusal> {
        pots.iter().try_for_each(|pot| self.seen_pot(&pot.of, look).map(drop))
    }

    /// Pots that look most like a colour, each mix once, closest first; `pots` must be newest first.
    pub fn like(&self, target: &Colour, pots: &[LoggedPot], look: Look) -> Result<Vec<LikePot>, Refusal> {
        let mut checks = crate::Checks::default();
        let target = checks.colour("", target);
        let target = checks.done(target)?;
        let curve = target.reflectance().map_err(|error| Refusal::field("/hex", error))?;
        let target: Lab = Seen::of(&curve, look.light).lab;
        let near = |pot: &LoggedPot| {
            let seen = self.seen_pot(&pot.of, look)?;
            let like = |seen: Seen| LikePot {
                line: pot.line,
                difference: difference(seen.lab, target).value(),
                seen,
            };
            Ok(seen.map(like))
        };
        let near: Vec<Option<LikePot>> = pots.par_iter().map(near).collect::<Result<_, Refusal>>()?;
        let mut near: Vec<(LikePot, &LoggedPot)> =
            near.into_iter().zip(pots).filter_map(|(near, pot)| Some((near?, pot))).collect();
        near.sort_by(|one, other| one.0.difference.total_cmp(&other.0.difference));
        let mut seen = HashSet::new();
        let each_once = near.into_iter().filter(|(_, pot)| seen.insert(parts_key(&pot.of)));
        Ok(each_once.take(LIKE).map(|(near, _)| near).collect())
    }
}
