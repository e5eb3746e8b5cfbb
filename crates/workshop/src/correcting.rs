//! Corrections of a pot.

use std::ops::ControlFlow;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_mixing as bench;
use warm_blend_mixing::{Pot, PotCorrection};
use warm_blend_paint::{
    Colour, Look, Masstone, Material, Measure, Millilitres, MixPart, PaintId, Parts, Seen,
};

use crate::matching::likely_words;
use crate::mixable::{DoubtfulPot, Mixable, thick};
use crate::{AgainstTarget, Checks, Refusal, ShelfSnapshot};

/// A pot to correct.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PotToCorrect {
    /// Contents.
    pub components: Vec<MixPart>,
    /// Amount, in `measure`.
    pub amount: f64,
    /// Measure. Additions are in spoons of the same system or in ml, fine enough for the pot.
    pub measure: Measure,
    /// Capacity, in the same measure; by default four times the amount.
    pub room: Option<f64>,
    /// Target colour.
    pub target: Colour,
}

/// Ways to correct a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct Corrections {
    /// The pot as it is, compared with the target.
    pub now: AgainstTarget,
    /// The next single addition, for approaching the colour step by step; absent if nothing improves it.
    pub next: Option<PotFix>,
    /// The smallest additions that visibly bring it as near as possible, best first.
    pub ways: Vec<PotFix>,
    /// A sentence, if no addition can reach the target or none is needed.
    pub words: Option<String>,
}

/// A correction.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotFix {
    /// Amount to take out first: `6½ tbsp`; absent if nothing needs to be.
    pub discard: Option<String>,
    /// Additions.
    pub additions: Vec<PotFixPart>,
    /// Amount in the pot afterwards, in the measure.
    pub amount: f64,
    /// Comparison with the target afterwards, if every tin is what it most probably is.
    pub judgement: AgainstTarget,
    /// Expected difference, ΔE00: the mean over everything that pot and tins may be, by which corrections are ranked.
    pub expected: f64,
    /// Expected difference in words: `likely within 3`.
    pub likely: String,
    /// Colour afterwards.
    pub hex: String,
    /// Contents afterwards, in whole parts.
    pub components: Vec<MixPart>,
}

/// An addition to a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotFixPart {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Amount as measured: `½ tsp`.
    pub amount: String,
    /// Amount, ml.
    pub ml: f64,
    /// Amount, g, by the density of the tin or of its class.
    pub grams: f64,
    /// Its flat colour.
    pub hex: String,
}

/// A checked pot.
struct Checked {
    target: Masstone,
    measure: Measure,
    ml: f64,
    room: f64,
}

impl PotToCorrect {
    fn parse(&self) -> Result<Checked, Refusal> {
        let mut checks = Checks::default();
        let measure = self.measure;
        let target = checks.colour("/target", &self.target);
        let volume = |checks: &mut Checks, pointer: &str, count: f64| {
            let ml = measure.times(count).map_err(|error| error.to_string());
            let some = |ml: Millilitres| match ml.value() >= 1.0 {
                true => Ok(ml.value()),
                false => Err("less than 1 ml; enter how much is in the pot".to_owned()),
            };
            checks.field(pointer, ml.and_then(some))
        };
        let ml = volume(&mut checks, "/amount", self.amount);
        let room = self.room.map_or(ml.map(|ml| 4.0 * ml), |room| volume(&mut checks, "/room", room));
        if let (Some(ml), Some(room)) = (ml, room)
            && room < ml
        {
            checks.wrong::<()>("/room", "the pot is smaller than what is in it; enter a larger size");
        }
        let whole = target.zip(ml.zip(room));
        checks.done(whole.map(|(target, (ml, room))| Checked { target, measure, ml, room }))
    }
}

/// Improvement, ΔE00, below which the pot should be left as it is.
const THERE: f64 = 0.5;
/// Difference, ΔE00, from which the best correction is still another colour.
const OUT_OF_REACH: f64 = 3.0;

/// A sentence, if no addition can reach the target or none is needed.
fn in_words(now: f64, best: Option<f64>) -> Option<&'static str> {
    match best {
        _ if now < THERE => Some("Spot on: leave it."),
        None => Some("Nothing on the shelf brings it closer."),
        Some(best) if best >= OUT_OF_REACH => {
            Some("You can’t get there by adding from this shelf. This is the closest.")
        }
        Some(_) => None,
    }
}

impl ShelfSnapshot {
    /// Finds additions that bring a pot to its target; `watch` may cancel the search.
    pub fn correct(
        &self,
        of: &PotToCorrect,
        look: Look,
        watch: impl Fn() -> ControlFlow<()> + Sync,
    ) -> Result<Corrections, Refusal> {
        let Checked { target, measure, ml, room } = of.parse()?;
        let pot = self.pot("/components", &of.components)?;
        let with: Vec<Uuid> = of.components.iter().map(|part| part.paint.0).collect();
        let mixable = self.mixable(look, &with, |_| true)?;
        let curve = target.reflectance().map_err(|error| Refusal::field("/target", error))?;
        let aim = Seen::of(&curve, look.light).lab;
        let spoon = measure.for_additions(Millilitres::new(ml).map_err(|_| Refusal::Broken)?);
        let doubtful = DoubtfulPot::of(&pot);
        let held = Pot { inside: doubtful.material(), ml, room, least: spoon.least() };
        let tins = mixable.doubtful(&[]);
        let find = |one_at_a_time| bench::correct(held, &tins, aim, look, one_at_a_time, &watch);
        let (single, ways) = (find(true), find(false));
        let fix = |correction: &PotCorrection| {
            mixable.fixed(&of.components, held, correction, [measure, spoon], target)
        };
        let now = AgainstTarget::of(pot.best(), target, look)?;
        Ok(Corrections {
            next: single.first().map(fix).transpose()?,
            ways: ways.iter().map(fix).collect::<Result<_, _>>()?,
            words: in_words(now.difference, ways.first().map(|best| best.difference)).map(str::to_owned),
            now,
        })
    }
}

impl Mixable<'_> {
    fn fixed(
        &self,
        inside: &[MixPart],
        pot: Pot,
        correction: &PotCorrection,
        [measure, spoon]: [Measure; 2],
        target: Masstone,
    ) -> Result<PotFix, Refusal> {
        let left = pot.ml - correction.discard;
        let mut of = vec![(left, pot.inside.best)];
        of.extend(correction.additions.iter().map(|(at, ml)| (*ml, self.known[*at].best())));
        let of: Vec<(Parts, &Material)> =
            of.into_iter().filter_map(|(ml, material)| Some((Parts::new(ml).ok()?, material))).collect();
        let mixed = warm_blend_paint::mix(&of).map_err(|_| Refusal::Broken)?;
        // In tenths of the least addition, so that whole parts can hold it.
        let total: f64 = inside.iter().map(|part| f64::from(part.parts.value())).sum();
        let whole = |ml: f64| (10.0 * ml / pot.least).round().max(1.0) as u32;
        let was = inside.iter().map(|part| (part.paint, whole(left * f64::from(part.parts.value()) / total)));
        let more = correction.additions.iter().map(|(at, ml)| (PaintId(self.tins[*at].id), whole(*ml)));
        Ok(PotFix {
            discard: (correction.discard > 0.5 * pot.least).then(|| {
                warm_blend_paint::amount((correction.discard / pot.least).round() * pot.least, spoon)
            }),
            additions: correction
                .additions
                .iter()
                .map(|(at, ml)| PotFixPart {
                    paint: self.tins[*at].id,
                    name: self.tins[*at].value.name.as_str().to_owned(),
                    amount: warm_blend_paint::amount(*ml, spoon),
                    ml: *ml,
                    grams: ml * self.tins[*at].value.density(),
                    hex: thick(self.look, self.known[*at].best()),
                })
                .collect(),
            amount: correction.total / measure.millilitres(),
            hex: thick(self.look, &mixed),
            judgement: AgainstTarget::of(&mixed, target, self.look)?,
            expected: correction.expected,
            likely: likely_words(correction.expected),
            components: MixPart::gathered(was.chain(more)),
        })
    }
}
