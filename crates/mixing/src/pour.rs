//! The pour record of a pot: every addition with its time and amount. It is also the recipe.
//!
//! Amounts are kept in ml of wet product together with the entry: teaspoons, grams, a touch. Taking some out does not
//! change the ratio. A record only grows at its end, and only its last step can be removed, so two people can pour into
//! one pot without overwriting each other.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{
    BadMeasure, BadMix, Measure, MixId, MixPart, Name, PaintId, Parts, SavedMix, quantity::in_range,
};

use crate::{BadJar, Jar, JarUse, jar};

/// A touch of paint, ml, until one was weighed†: what hangs from the tip of a stirring stick.
pub const TOUCH: f64 = 0.3;

/// An amount as it was entered.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum AmountAsEntered {
    /// Counted in spoons, cups, drops or ml.
    Counted(f64, Measure),
    /// Weighed, g.
    Weighed(f64),
    /// A touch, not measured.
    Touch,
    /// A touch that was weighed, g; reveals the size of this painter's touch.
    WeighedTouch(f64),
    /// Weighed with a simulated scale although the tins are real, g; reveals nothing.
    Practised(f64),
}

/// An action on a pot.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum PourAction {
    /// A paint was added.
    Added {
        /// Which.
        paint: PaintId,
        /// How much of it, ml.
        ml: f64,
        /// How that was entered.
        said: AmountAsEntered,
    },
    /// Some of the contents were taken out.
    TakenOut {
        /// How much, ml.
        ml: f64,
    },
}

/// An action with its id and time.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct PourEvent {
    /// Chosen by the client, so that a repeated request is recorded once.
    pub id: Uuid,
    /// Time.
    pub at: Timestamp,
    /// Action.
    #[serde(rename = "deed")]
    pub action: PourAction,
}

/// An invalid step of a pour.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadPour {
    /// An amount that nobody pours.
    #[error("amount in ml: {0}")]
    Amount(BadMeasure),
    /// More than the pot contains.
    #[error("can’t take {asked:.1} ml out of {inside:.1} ml; take out less")]
    MoreThanInside {
        /// What was to be taken out, ml.
        asked: f64,
        /// What is in the pot, ml.
        inside: f64,
    },
    /// More than a pot holds.
    #[error("the most in one pot is {most:.0} ml; start a second one", most = PourRecord::LARGEST)]
    RunsOver,
    /// Too many paints.
    #[error(transparent)]
    Paints(#[from] BadMix),
    /// Too many steps.
    #[error("the most is {most} steps; finish this pour and start another", most = PourRecord::LONGEST)]
    TooLong,
    /// The pour is closed.
    #[error("this pour is finished; reopen it or start a new one")]
    Finished,
    /// The pot is empty.
    #[error("nothing poured yet; discard the pot instead")]
    Empty,
    /// What was left is in a jar.
    #[error("what was left of this pot is in a jar; start a new pour")]
    InAJar,
    /// Not the last step.
    #[error("only the last step can be undone, and another was added since; check the list")]
    NotTheLast,
}

/// Pour record of a pot.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct PourRecord {
    /// The mix being poured.
    pub mix: MixId,
    /// Name of the mix when it was begun.
    pub name: Option<Name>,
    /// Parts intended.
    pub plan: Vec<MixPart>,
    /// Volume intended, ml.
    pub batch: Option<f64>,
    /// When it was finished, if it was.
    pub finished_at: Option<Timestamp>,
    /// Where the pot is kept.
    #[serde(default)]
    pub place: Option<Name>,
    /// Amounts subtracted from stock when it was finished, ml; restored if it is reopened.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub taken: Vec<(PaintId, f64)>,
    /// What was left of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    jar: Option<Jar>,
    steps: Vec<PourEvent>,
}

/// So much more of a paint in a list of them.
fn add(amounts: &mut Vec<(PaintId, f64)>, paint: PaintId, ml: f64) {
    match amounts.iter_mut().find(|(known, _)| *known == paint) {
        Some((_, sum)) => *sum += ml,
        None => amounts.push((paint, ml)),
    }
}

/// One paint of a pot compared with the plan.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PartStanding {
    /// The paint.
    pub paint: PaintId,
    /// Amount in the pot, ml.
    pub inside: f64,
    /// Planned amount, ml: for the batch, or for a larger one if some paint was overpoured.
    pub planned: f64,
    /// Excess over the intended batch, ml.
    pub over: f64,
}

impl PartStanding {
    /// Amount still to add, ml.
    pub fn left(&self) -> f64 {
        (self.planned - self.inside).max(0.0)
    }
}

impl PourRecord {
    /// Greatest number of steps.
    pub const LONGEST: usize = 300;
    /// Greatest volume of a pot, ml.
    pub const LARGEST: f64 = jar::LARGEST;
    /// Least that can be poured, ml.
    const LEAST: f64 = 0.005;

    /// Starts an empty pot for a mix.
    pub fn begin(mix: MixId, of: &SavedMix, batch: Option<f64>) -> Result<Self, BadPour> {
        let batch = batch.map(|ml| in_range(ml, 1.0, Self::LARGEST)).transpose().map_err(BadPour::Amount)?;
        Ok(Self {
            mix,
            name: of.name.clone(),
            plan: of.components().to_vec(),
            batch,
            finished_at: None,
            place: None,
            taken: Vec::new(),
            jar: None,
            steps: Vec::new(),
        })
    }

    /// Weight of a step that was weighed, g.
    pub fn weighed(&self, step: Uuid) -> Option<f64> {
        let step = self.steps.iter().find(|known| known.id == step)?;
        match step.action {
            PourAction::Added {
                said:
                    AmountAsEntered::Weighed(grams)
                    | AmountAsEntered::WeighedTouch(grams)
                    | AmountAsEntered::Practised(grams),
                ..
            } => Some(grams),
            _ => None,
        }
    }

    /// The steps, earliest first.
    pub fn steps(&self) -> &[PourEvent] {
        &self.steps
    }

    /// Appends a step. Repeating a step changes nothing.
    pub fn with(mut self, step: PourEvent) -> Result<Self, BadPour> {
        if self.steps.iter().any(|known| known.id == step.id) {
            return Ok(self);
        }
        if self.finished_at.is_some() {
            return Err(BadPour::Finished);
        }
        if self.steps.len() >= Self::LONGEST {
            return Err(BadPour::TooLong);
        }
        let inside = self.total();
        match step.action {
            PourAction::Added { ml, paint, .. } => {
                let ml = in_range(ml, Self::LEAST, Self::LARGEST).map_err(BadPour::Amount)?;
                if inside + ml > Self::LARGEST {
                    return Err(BadPour::RunsOver);
                }
                let others = self.inside().iter().filter(|(known, _)| *known != paint).count();
                if others >= SavedMix::MOST {
                    return Err(BadMix::TooMany(others + 1).into());
                }
            }
            PourAction::TakenOut { ml } => {
                let ml = in_range(ml, Self::LEAST, Self::LARGEST).map_err(BadPour::Amount)?;
                if ml > inside {
                    return Err(BadPour::MoreThanInside { asked: ml, inside });
                }
            }
        }
        self.steps.push(step);
        Ok(self)
    }

    /// Removes the last step, which must have this id.
    pub fn without_last(mut self, id: Uuid) -> Result<Self, BadPour> {
        if self.finished_at.is_some() {
            return Err(BadPour::Finished);
        }
        match self.steps.last() {
            Some(last) if last.id == id => {
                self.steps.pop();
                Ok(self)
            }
            _ => Err(BadPour::NotTheLast),
        }
    }

    /// Closes the pot, which must not be empty.
    pub fn finished(mut self, at: Timestamp) -> Result<Self, BadPour> {
        if self.steps.is_empty() {
            return Err(BadPour::Empty);
        }
        self.finished_at.get_or_insert(at);
        Ok(self)
    }

    /// Reopens the pot, unless what was left of it is in a jar.
    pub fn reopened(mut self) -> Result<Self, BadPour> {
        if self.jar.is_some() {
            return Err(BadPour::InAJar);
        }
        self.finished_at = None;
        Ok(self)
    }

    /// What was left of it, in a jar.
    pub fn jar(&self) -> Option<&Jar> {
        self.jar.as_ref()
    }

    /// Keeps so much of the finished pot in a jar, ml, or corrects how much is left in the jar.
    pub fn in_jar(self, left: f64, at: Timestamp) -> Result<Self, BadJar> {
        let poured = self.total();
        let filled = |jar: Option<Jar>| match jar {
            Some(jar) if jar.gone_at.is_some() => Err(BadJar::Gone),
            Some(jar) => jar.corrected(left, poured),
            None => Jar::filled(left, poured, at),
        };
        match self.finished_at {
            Some(_) => Ok(Self { jar: Some(filled(self.jar)?), ..self }),
            None => Err(BadJar::StillOpen),
        }
    }

    /// Takes some out of the jar. Repeating a use changes nothing.
    pub fn used_from_jar(self, taken: JarUse) -> Result<Self, BadJar> {
        let jar = self.jar.ok_or(BadJar::None)?.with_use(taken)?;
        Ok(Self { jar: Some(jar), ..self })
    }

    /// Undoes a use of the jar; without a jar, or without that use, nothing changes.
    pub fn back_in_jar(self, taken: Uuid) -> Self {
        Self { jar: self.jar.map(|jar| jar.without_use(taken)), ..self }
    }

    /// Changes what is noted about the jar.
    pub fn with_jar(self, change: impl FnOnce(&mut Jar)) -> Result<Self, BadJar> {
        let mut jar = self.jar.ok_or(BadJar::None)?;
        change(&mut jar);
        Ok(Self { jar: Some(jar), ..self })
    }

    /// Sets where the pot is kept.
    pub fn kept_at(mut self, place: Option<Name>) -> Self {
        self.place = place;
        self
    }

    /// Amount used of each tin, ml, including what was taken out of the pot later.
    pub fn used_up(&self) -> Vec<(PaintId, f64)> {
        let mut used: Vec<(PaintId, f64)> = Vec::new();
        for step in &self.steps {
            if let PourAction::Added { paint, ml, .. } = step.action {
                add(&mut used, paint, ml);
            }
        }
        used
    }

    /// Contents: paints in the order in which they were first added, ml of each.
    pub fn inside(&self) -> Vec<(PaintId, f64)> {
        let mut inside: Vec<(PaintId, f64)> = Vec::new();
        for step in &self.steps {
            match step.action {
                PourAction::Added { paint, ml, .. } => add(&mut inside, paint, ml),
                PourAction::TakenOut { ml } => {
                    let total: f64 = inside.iter().map(|(_, ml)| ml).sum();
                    let stays = if total > 0.0 { (1.0 - ml / total).max(0.0) } else { 0.0 };
                    inside.iter_mut().for_each(|(_, sum)| *sum *= stays);
                    inside.retain(|(_, sum)| *sum > 1e-9);
                }
            }
        }
        inside
    }

    /// Volume, ml.
    pub fn total(&self) -> f64 {
        // The sum of nothing would be -0.
        self.inside().iter().fold(0.0, |sum, (_, ml)| sum + ml)
    }

    /// Contents as parts that can be mixed and read, in ml.
    pub fn parts(&self) -> Vec<(PaintId, Parts)> {
        self.inside().into_iter().filter_map(|(paint, ml)| Some((paint, Parts::new(ml).ok()?))).collect()
    }

    /// The recipe that was actually poured, in whole parts.
    pub fn recipe(&self) -> Vec<MixPart> {
        let inside = self.inside();
        let ml: Vec<f64> = inside.iter().map(|(_, ml)| *ml).collect();
        inside
            .iter()
            .zip(warm_blend_paint::nearest_whole(&ml))
            .map(|((paint, _), parts)| MixPart { paint: *paint, parts })
            .collect()
    }

    /// Each paint compared with the plan, planned paints first. If one was overpoured, the plan grows to restore the
    /// ratio.
    pub fn against_plan(&self) -> Vec<PartStanding> {
        let inside = self.inside();
        let of = |paint| inside.iter().find(|(known, _)| *known == paint).map_or(0.0, |(_, ml)| *ml);
        let parts = |c: &MixPart| f64::from(c.parts.value());
        let total: f64 = self.plan.iter().map(parts).sum();
        let meant = self.batch.filter(|_| total > 0.0).map_or(0.0, |batch| batch / total);
        let part = self.plan.iter().map(|c| of(c.paint) / parts(c)).fold(meant, f64::max);
        let planned = self.plan.iter().map(|c| {
            let inside = of(c.paint);
            let over = if meant > 0.0 { (inside - meant * parts(c)).max(0.0) } else { 0.0 };
            PartStanding { paint: c.paint, inside, planned: part * parts(c), over }
        });
        let extra = inside.iter().filter(|(paint, _)| self.plan.iter().all(|c| c.paint != *paint));
        let extra =
            extra.map(|(paint, ml)| PartStanding { paint: *paint, inside: *ml, planned: 0.0, over: *ml });
        planned.chain(extra).collect()
    }

    /// Replaces one tin with another.
    pub fn with_paint_replaced(mut self, gone: PaintId, kept: PaintId) -> Self {
        for step in &mut self.steps {
            if let PourAction::Added { paint, .. } = &mut step.action
                && *paint == gone
            {
                *paint = kept;
            }
        }
        for (paint, ml) in std::mem::take(&mut self.taken) {
            add(&mut self.taken, if paint == gone { kept } else { paint }, ml);
        }
        if let Ok(plan) = SavedMix::new(None, self.plan.clone(), None) {
            self.plan = plan.with_paint_replaced(gone, kept).components().to_vec();
        }
        self
    }

    /// Tins that the record refers to.
    pub fn paints(&self) -> Vec<PaintId> {
        let poured = self.steps.iter().filter_map(|step| match step.action {
            PourAction::Added { paint, .. } => Some(paint),
            PourAction::TakenOut { .. } => None,
        });
        let mut all: Vec<PaintId> = self.plan.iter().map(|part| part.paint).chain(poured).collect();
        all.sort_unstable();
        all.dedup();
        all
    }
}

/// Size of this painter's touch, ml, as the median of the weighed touches, with their number; [`TOUCH`] without any.
pub fn touch<'a>(records: impl IntoIterator<Item = &'a PourRecord>) -> (f64, usize) {
    let mut weighed: Vec<f64> = records
        .into_iter()
        .flat_map(|record| &record.steps)
        .filter_map(|step| match step.action {
            PourAction::Added { ml, said: AmountAsEntered::WeighedTouch(_), .. } => Some(ml),
            _ => None,
        })
        .collect();
    weighed.sort_by(f64::total_cmp);
    match weighed.len() {
        0 => (TOUCH, 0),
        n if n % 2 == 1 => (weighed[n / 2], n),
        n => (0.5 * (weighed[n / 2 - 1] + weighed[n / 2]), n),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use warm_blend_paint::WholeParts;

    fn paint(n: u128) -> PaintId {
        PaintId(Uuid::from_u128(n))
    }

    fn plan(parts: &[u32]) -> SavedMix {
        let component = |(n, parts): (usize, &u32)| MixPart {
            paint: paint(n as u128),
            parts: WholeParts::new(*parts).unwrap(),
        };
        SavedMix::new(None, parts.iter().enumerate().map(component).collect(), None).unwrap()
    }

    fn begun(parts: &[u32], batch: Option<f64>) -> PourRecord {
        PourRecord::begin(MixId(Uuid::nil()), &plan(parts), batch).unwrap()
    }

    fn step(id: u128, action: PourAction) -> PourEvent {
        PourEvent { id: Uuid::from_u128(id), at: Timestamp::UNIX_EPOCH, action }
    }

    fn added(id: u128, which: u128, ml: f64) -> PourEvent {
        step(
            id,
            PourAction::Added {
                paint: paint(which),
                ml,
                said: AmountAsEntered::Counted(ml, Measure::Millilitre),
            },
        )
    }

    #[test]
    fn what_cannot_be_poured_is_refused() {
        let pot = begun(&[3, 1], Some(100.0));
        for bad in [-1.0, 0.0, 1e9, f64::NAN, f64::INFINITY] {
            assert!(pot.clone().with(added(1, 0, bad)).is_err(), "{bad}");
        }
        let pot = pot.with(added(1, 0, 30.0)).unwrap();
        let out = step(2, PourAction::TakenOut { ml: 30.1 });
        assert_eq!(pot.clone().with(out), Err(BadPour::MoreThanInside { asked: 30.1, inside: 30.0 }));
        assert_eq!(pot.clone().without_last(Uuid::from_u128(9)), Err(BadPour::NotTheLast));
        let closed = PourRecord { finished_at: Some(Timestamp::UNIX_EPOCH), ..pot };
        assert_eq!(closed.with(added(3, 0, 1.0)), Err(BadPour::Finished));
        assert!(PourRecord::begin(MixId(Uuid::nil()), &plan(&[1]), Some(-3.0)).is_err());
    }

    #[test]
    fn a_ninth_paint_is_refused() {
        let mut pot = begun(&[1], None);
        for n in 0..8 {
            pot = pot.with(added(n, n, 1.0)).unwrap();
        }
        assert_eq!(pot.clone().with(added(99, 8, 1.0)), Err(BadPour::Paints(BadMix::TooMany(9))));
        assert!(pot.with(added(99, 3, 1.0)).is_ok());
    }

    /// Three to one of 200 ml, and 10 ml too much of the second: 30 ml more of the first bring it back.
    #[test]
    fn an_overshoot_is_made_good_by_more_of_the_others() {
        let pot =
            begun(&[3, 1], Some(200.0)).with(added(1, 0, 150.0)).unwrap().with(added(2, 1, 60.0)).unwrap();
        let [first, second] = pot.against_plan()[..] else { panic!("two paints") };
        assert!((first.left() - 30.0).abs() < 1e-9 && first.over == 0.0);
        assert!(second.left() < 1e-9 && (second.over - 10.0).abs() < 1e-9);
    }

    #[test]
    fn a_touch_is_learned_from_those_that_were_weighed() {
        assert_eq!(touch([]), (TOUCH, 0));
        let pour = |ml: &f64| {
            let said = AmountAsEntered::WeighedTouch(ml * 1.4);
            begun(&[1], None).with(step(1, PourAction::Added { paint: paint(0), ml: *ml, said })).unwrap()
        };
        let pours: Vec<PourRecord> = [0.4, 0.25, 0.5].iter().map(pour).collect();
        assert_eq!(touch(&pours), (0.4, 3));
        assert_eq!(touch(&pours[..2]), (0.325, 2));
        let practised =
            PourAction::Added { paint: paint(0), ml: 9.0, said: AmountAsEntered::Practised(12.0) };
        let practised = begun(&[1], None).with(step(1, practised)).unwrap();
        assert_eq!(touch(pours.iter().chain([&practised])), (0.4, 3));
        assert_eq!(practised.weighed(Uuid::from_u128(1)), Some(12.0));
    }

    #[derive(Debug, Clone)]
    enum Any {
        Add(u128, f64),
        Out(f64),
    }

    fn actions() -> impl Strategy<Value = Vec<Any>> {
        let one = prop_oneof![
            4 => (0u128..5, 0.01..200.0f64).prop_map(|(paint, ml)| Any::Add(paint, ml)),
            1 => (0.0..1.0f64).prop_map(Any::Out),
        ];
        proptest::collection::vec(one, 0..30)
    }

    fn poured(actions: &[Any]) -> (PourRecord, f64) {
        let (mut pot, mut sum) = (begun(&[2, 1, 1], Some(120.0)), 0.0);
        for (id, action) in actions.iter().enumerate() {
            let action = match action {
                Any::Add(which, ml) => added(id as u128, *which, *ml).action,
                Any::Out(share) => PourAction::TakenOut { ml: share * pot.total() },
            };
            if let Ok(next) = pot.clone().with(step(id as u128, action)) {
                sum += match action {
                    PourAction::Added { ml, .. } => ml,
                    PourAction::TakenOut { ml } => -ml,
                };
                pot = next;
            }
        }
        (pot, sum)
    }

    proptest! {
        /// What is in the pot is what went in less what was taken out; taking out keeps the ratio.
        #[test]
        fn nothing_is_lost_and_nothing_comes_from_nowhere(actions in actions(), share in 0.01..0.9f64) {
            let (pot, sum) = poured(&actions);
            prop_assert!((pot.total() - sum).abs() < 1e-8);
            prop_assert!(pot.inside().iter().all(|(_, ml)| *ml > 0.0));
            let out = PourAction::TakenOut { ml: share * pot.total() };
            if let Ok(less) = pot.clone().with(step(999, out)) {
                for ((_, was), (_, is)) in pot.inside().iter().zip(less.inside()) {
                    prop_assert!((is - was * (1.0 - share)).abs() < 1e-8);
                }
            }
        }

        /// Whatever is kept, used and corrected: what is left in the jar, what was taken from it and what went onto the work at
        /// once make what was poured; and no jar holds more.
        #[test]
        fn a_jar_neither_loses_nor_makes_paint(
            actions in actions(), share in 0.0..1.3f64, uses in proptest::collection::vec((0.0..1.2f64, any::<bool>()), 0..20),
        ) {
            let (pot, _) = poured(&actions);
            let total = pot.total();
            prop_assert_eq!(pot.clone().in_jar(1.0, Timestamp::UNIX_EPOCH), Err(BadJar::StillOpen));
            let Ok(pot) = pot.finished(Timestamp::UNIX_EPOCH) else { return Ok(()) };
            let Ok(mut pot) = pot.clone().in_jar(share * total, Timestamp::UNIX_EPOCH) else {
                prop_assert!(share * total > total || share * total < 0.005);
                return Ok(());
            };
            for (id, (share, correct)) in uses.into_iter().enumerate() {
                let ml = share * pot.jar().unwrap().left();
                let used = |pot: &PourRecord| pot.jar().unwrap().uses().iter().map(|one| one.ml).sum::<f64>();
                let before = (used(&pot), pot.jar().unwrap().left());
                let taken = JarUse { id: Uuid::from_u128(id as u128), at: Timestamp::UNIX_EPOCH, ml };
                let next = if correct { pot.clone().in_jar(ml, Timestamp::UNIX_EPOCH) } else { pot.clone().used_from_jar(taken) };
                if let Ok(next) = next {
                    // A repeated request counts once.
                    if !correct { prop_assert_eq!(next.clone().used_from_jar(taken).unwrap(), next.clone()) }
                    let jar = next.jar().unwrap();
                    let moved = if correct { 0.0 } else { before.1 - jar.left() };
                    prop_assert!((used(&next) - before.0 - moved).abs() < 1e-6);
                    prop_assert!(jar.left() >= 0.0 && used(&next) + jar.left() <= total + 1e-6);
                    prop_assert!((jar.filled_ml() - used(&next) - jar.left()).abs() < 1e-6);
                    pot = next;
                }
            }
            prop_assert!((pot.total() - total).abs() < 1e-12);
            prop_assert_eq!(pot.clone().reopened(), Err(BadPour::InAJar));
            let gone = pot.with_jar(|jar| jar.gone_at = Some(Timestamp::UNIX_EPOCH)).unwrap();
            prop_assert!(gone.jar().unwrap().is_empty());
            prop_assert_eq!(gone.in_jar(1.0, Timestamp::UNIX_EPOCH), Err(BadJar::Gone));
        }

        /// The last step taken back leaves the pot as it was; the same step twice counts once.
        #[test]
        fn undo_and_repetition(actions in actions(), ml in 0.1..50.0f64) {
            let (pot, _) = poured(&actions);
            let more = pot.clone().with(added(500, 0, ml)).unwrap();
            prop_assert_eq!(more.clone().with(added(500, 0, ml)).unwrap(), more.clone());
            prop_assert_eq!(more.without_last(Uuid::from_u128(500)).unwrap(), pot);
        }

        /// Adding what is left brings every paint of the plan to its ratio, and never asks to take out.
        #[test]
        fn what_is_left_restores_the_plan(a in 0.1..300.0f64, b in 0.1..300.0f64) {
            let mut pot = begun(&[3, 1], Some(100.0)).with(added(1, 0, a)).unwrap().with(added(2, 1, b)).unwrap();
            for (id, standing) in pot.against_plan().into_iter().enumerate().filter(|(_, s)| s.left() > 0.01) {
                pot = pot.with(step(10 + id as u128, PourAction::Added { paint: standing.paint, ml: standing.left(), said: AmountAsEntered::Touch })).unwrap();
            }
            let inside = pot.inside();
            // A hundredth of a millilitre is left where it is.
            prop_assert!((inside[0].1 / inside[1].1 - 3.0).abs() < 0.002);
            prop_assert!(pot.total() >= 99.98);
        }

        /// The recipe in whole parts is what was poured, to a hundredth of the pot.
        #[test]
        fn the_record_is_the_recipe(actions in actions()) {
            let (pot, _) = poured(&actions);
            let (recipe, total) = (pot.recipe(), pot.total());
            let parts: u32 = recipe.iter().map(|part| part.parts.value()).sum();
            for (part, (paint, ml)) in recipe.iter().zip(pot.inside()) {
                prop_assert_eq!(part.paint, paint);
                prop_assert!((f64::from(part.parts.value()) / f64::from(parts) - ml / total).abs() <= 0.01);
            }
        }
    }
}
