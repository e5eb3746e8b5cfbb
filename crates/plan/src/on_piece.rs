//! What lies on a piece, computed from the finished steps.
//!
//! Next steps, drying, a change of plan, the record, the care card, rules and prediction all use this account. It is
//! built step by step, so undoing the last step restores the account before it.

use std::collections::BTreeMap;

use jiff::Timestamp;
use warm_blend_board::Family;
use warm_blend_paint::Note;
use warm_blend_piece::Zone;

use crate::{Air, Done, Laid, Tins, Work, plus_minutes, wait};

/// What lies on a piece, zone by zone.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct OnPiece {
    zones: BTreeMap<Zone, OnZone>,
}

/// What lies on a zone, and its condition.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct OnZone {
    /// What was done to the ground as found, in that order.
    prepared: Vec<Work>,
    /// From the ground up.
    lies: Vec<Lying>,
    /// True once the top was scuffed, or its wax taken off, and nothing was laid on it since.
    cleared: bool,
    taped: bool,
    hardware_off: bool,
    /// True of wax that was not buffed yet.
    unbuffed: bool,
    rested: bool,
    /// All that was done, for what may still be wet.
    history: Vec<(Work, Timestamp)>,
}

/// A layer, or several that were worked wet into each other.
#[derive(Debug, Clone, PartialEq)]
pub struct Lying {
    /// The work that laid it.
    pub work: Work,
    /// When it was finished.
    pub at: Timestamp,
    /// The painter's note.
    pub note: Option<Note>,
    /// True if what lay below was scuffed, or its wax taken off, before this went on.
    on_cleared: bool,
}

impl OnPiece {
    /// Account of these steps, in their order.
    pub fn of(done: &[Done], tins: Tins) -> Self {
        done.iter().fold(Self::default(), |account, done| account.after(done, tins))
    }

    /// Account after one more step.
    pub fn after(mut self, done: &Done, tins: Tins) -> Self {
        for zone in &done.zones {
            self.zones.entry(*zone).or_default().take(done, tins);
        }
        self
    }

    /// What lies on a zone; `None` if nothing was ever done on it.
    pub fn zone(&self, zone: Zone) -> Option<&OnZone> {
        self.zones.get(&zone)
    }

    /// Zones on which something was done.
    pub fn zones(&self) -> impl Iterator<Item = (Zone, &OnZone)> {
        self.zones.iter().map(|(zone, on)| (*zone, on))
    }
}

impl OnZone {
    fn take(&mut self, done: &Done, tins: Tins) {
        match &done.work {
            Work::HardwareOff => self.hardware_off = true,
            Work::Tape => self.taped = true,
            Work::TapeOff => self.taped = false,
            Work::HardwareOn => (self.hardware_off, self.taped) = (false, false),
            Work::WaxOff | Work::ScuffBack => self.clear(&done.work, tins),
            Work::Buff => self.unbuffed = false,
            Work::Rest => self.rested = true,
            work if work.lies() => {
                let on_cleared = std::mem::take(&mut self.cleared);
                let (at, note) = (done.at, done.note.clone());
                self.lies.push(Lying { work: work.clone(), at, note, on_cleared });
                self.unbuffed |= work.needs_buffing();
                self.rested = false;
            }
            work => self.prepared.push(work.clone()),
        }
        self.history.push((done.work.clone(), done.at));
    }

    /// Layers from the ground up, without wax that was removed again.
    pub fn lies(&self) -> &[Lying] {
        &self.lies
    }

    /// True while it is taped.
    pub const fn is_taped(&self) -> bool {
        self.taped
    }

    /// The last work.
    pub fn last(&self) -> Option<&Work> {
        self.history.last().map(|(work, _)| work)
    }

    /// Earliest time for a work: when everything before has dried enough for it.
    pub fn ready_for(&self, next: &Work, tins: Tins, air: Air) -> Option<Timestamp> {
        self.history.iter().map(|(done, at)| plus_minutes(*at, wait(done, next, tins, air))).max()
    }

    /// Until when some layer is too wet for the next; in the past if all are dry.
    pub fn wet_until(&self, tins: Tins, air: Air) -> Option<Timestamp> {
        let laid = self.history.iter().filter(|(work, _)| work.lies());
        laid.map(|(work, at)| plus_minutes(*at, wait(work, &Work::ScuffBack, tins, air))).max()
    }

    /// What is left to do of what is wanted.
    ///
    /// If the layers so far are wanted, work continues from there. If the painter has changed plans, unwanted layers are
    /// covered: wax is removed, paint is scuffed, and layers start again from the last closed coat that hides them.
    /// Preparation is not repeated; hardware and tape come off and go on again for later layers.
    pub fn still_to_do(&self, wanted: &[Work], tins: Tins) -> Vec<Work> {
        let layers: Vec<&Work> = wanted.iter().filter(|work| work.lies()).collect();
        let bridge = match self.matched(&layers) {
            Matched { unwanted: false, .. } => None,
            _ if self.lies.iter().any(|lying| lying.work.is_waxy(tins))
                && self.wax_is_unwanted(&layers, tins) =>
            {
                Some(Work::WaxOff)
            }
            _ => Some(Work::ScuffBack),
        };
        let mut cleared = self.clone();
        if let Some(bridge) = &bridge {
            cleared.clear(bridge, tins);
        }
        let from = cleared.matched(&layers).good;
        let prepares = |work: &Work| work.prepares() && !self.prepared.contains(work);
        // A part that stays as it is has its repairs left until they are made.
        let repairs = layers.is_empty() && wanted.iter().any(prepares);
        let paints = from < layers.len() || bridge.is_some() || repairs;
        let takes_hardware_off = paints && wanted.contains(&Work::HardwareOff);
        // Tape is on for what lies below the place where it comes off.
        let taped = wanted.iter().position(|work| *work == Work::TapeOff);
        let below = taped.map_or(0, |at| wanted[..at].iter().filter(|work| work.lies()).count());
        let tapes = from < below && wanted.contains(&Work::Tape);
        let buffs = cleared.unbuffed || layers[from..].iter().any(|work| work.needs_buffing());
        let mut bridge = bridge;
        let mut left = Vec::new();
        let mut nth = 0;
        for work in wanted {
            let wanted_now = match work {
                Work::HardwareOff => takes_hardware_off && !self.hardware_off,
                Work::Tape => tapes && !self.taped,
                Work::TapeOff => tapes || self.taped,
                Work::HardwareOn => takes_hardware_off || self.hardware_off,
                Work::Buff => buffs,
                Work::Rest => paints || !self.rested,
                work if work.prepares() => paints && prepares(work),
                _ => {
                    nth += 1;
                    if nth > from {
                        left.extend(bridge.take());
                    }
                    nth > from
                }
            };
            if wanted_now {
                left.push(work.clone());
            }
        }
        // Nothing is laid over it: it is cleared all the same.
        if let Some(bridge) = bridge {
            let before = |work: &Work| work.prepares() || matches!(work, Work::HardwareOff | Work::Tape);
            left.insert(left.iter().take_while(|work| before(work)).count(), bridge);
        }
        left
    }

    fn clear(&mut self, bridge: &Work, tins: Tins) {
        if *bridge == Work::WaxOff {
            let wax = self.lies.iter().position(|lying| lying.work.is_waxy(tins));
            self.lies.truncate(wax.unwrap_or(self.lies.len()));
            self.unbuffed = false;
        }
        self.cleared = true;
    }

    /// True if what is not wanted has wax in it or lies on wax.
    fn wax_is_unwanted(&self, layers: &[&Work], tins: Tins) -> bool {
        let below = |n: usize| Self { lies: self.lies[..n].to_vec(), cleared: false, ..Self::default() };
        let unwanted_from = (1..=self.lies.len()).find(|n| below(*n).matched(layers).unwanted);
        unwanted_from.is_some_and(|from| self.lies[from - 1..].iter().any(|lying| lying.work.is_waxy(tins)))
    }

    /// How much of what is wanted lies there.
    fn matched(&self, layers: &[&Work]) -> Matched {
        let mut matched = Matched { good: self.first_wanted(layers), within: 0, unwanted: false };
        for lying in &self.lies {
            if lying.on_cleared {
                matched.covered(layers);
            }
            matched.lay(layers, &lying.work);
        }
        if self.cleared {
            matched.covered(layers);
        }
        matched
    }

    /// A primer that is wanted below what already lies there comes too late.
    fn first_wanted(&self, layers: &[&Work]) -> usize {
        let lies = |at: usize| {
            let (lying, wanted) = (self.lies.first()?, layers.get(at)?);
            Some(begins_alike(&lying.work, wanted))
        };
        let late = lies(0) == Some(false) && lies(1) == Some(true);
        let closes = |work: &&Work| work.laid().is_some_and(|laid| laid.technique.family() == Family::Coat);
        usize::from(late && layers.first().is_some_and(closes))
    }
}

/// How far what lies on a zone is what is wanted there.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct Matched {
    /// How many of the wanted works lie there.
    good: usize,
    /// How many layers of the next one, where that is several worked wet, were laid one by one.
    within: usize,
    /// True if something lies on top that is not wanted.
    unwanted: bool,
}

impl Matched {
    fn lay(&mut self, layers: &[&Work], work: &Work) {
        if self.unwanted {
            return;
        }
        let next = layers.get(self.good).copied();
        match (work, next) {
            (work, Some(next)) if work == next => (self.good, self.within) = (self.good + 1, 0),
            (Work::Layer(laid), Some(Work::Wet(group))) if group.get(self.within) == Some(laid) => {
                self.within += 1;
                if self.within == group.len() {
                    (self.good, self.within) = (self.good + 1, 0);
                }
            }
            // Ticked as one before its passes were steps of their own.
            (Work::Layer(laid), Some(_)) if passes_at_once(laid, &layers[self.good..]) => {
                self.good += usize::from(laid.hand.passes.value());
            }
            _ => self.unwanted = true,
        }
    }

    /// What is not wanted was cleared: layers begin again where the first of them hides it.
    fn covered(&mut self, layers: &[&Work]) {
        if self.unwanted {
            (self.good, self.within, self.unwanted) = (hidden_from(layers, self.good), 0, false);
        }
    }
}

/// True if all passes of a layer at once are the next wanted works, pass by pass.
fn passes_at_once(laid: &Laid, wanted: &[&Work]) -> bool {
    let passes = laid.hand.passes.value();
    let one = |n: u8| {
        let hand = warm_blend_board::Application {
            passes: warm_blend_board::Application::default().passes,
            ..laid.hand
        };
        Work::Layer(Laid { hand, coat: (n, passes), ..laid.clone() })
    };
    passes > 1
        && (1..=passes).zip(wanted).filter(|(n, work)| one(*n) == ***work).count() == usize::from(passes)
}

fn begins_alike(lying: &Work, wanted: &Work) -> bool {
    match (lying.laid(), wanted.laid()) {
        (Some(one), Some(other)) => (one.technique, &one.pot) == (other.technique, &other.pot),
        _ => lying == wanted,
    }
}

/// From which layer on it is laid anew, so that what lies on the first `good` is hidden: the last closed coat that comes no later, or
/// the first layer of all.
fn hidden_from(layers: &[&Work], good: usize) -> usize {
    let hides = |work: &Work| {
        work.laid().is_some_and(|laid| laid.technique.family() == Family::Coat && laid.coat.0 == 1)
    };
    (0..layers.len().min(good + 1)).rev().find(|at| hides(layers[*at])).unwrap_or(0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{any_layers, chalk, layer, zone};
    use crate::{LayerWork, wanted};
    use proptest::prelude::*;
    use warm_blend_board::Technique::{BrushedCoat, ClearWax, DryBrush, GlazeRagged, TintedWax, WetBlend};

    fn all(layers: Vec<LayerWork>) -> Vec<Work> {
        let taped = crate::ZoneWork { taped: 1.0, ..zone(Zone::Case, 1.0, layers) };
        wanted(&taped, true, &chalk)
    }

    fn morning() -> Timestamp {
        "2026-11-30T08:00:00Z".parse().unwrap()
    }

    /// Each ticked an hour after the one before.
    fn done(works: &[Work]) -> Vec<Done> {
        let one = |(n, work): (usize, &Work)| Done {
            work: work.clone(),
            zones: vec![Zone::Case],
            at: plus_minutes(morning(), 60.0 * n as f64),
            minutes: None,
            usual: 1.0,
            note: None,
            photo: None,
            by: None,
            from_jars: Vec::new(),
        };
        works.iter().enumerate().map(one).collect()
    }

    fn left(wanted: &[Work], ticked: &[Work]) -> Vec<Work> {
        let on = OnPiece::of(&done(ticked), &chalk);
        on.zone(Zone::Case).cloned().unwrap_or_default().still_to_do(wanted, &chalk)
    }

    proptest! {
        /// Whatever was done of it, what was done and what is left are all there is, in that order.
        #[test]
        fn it_goes_on_where_it_was_left(layers in any_layers(), share in 0.0..=1.0f64) {
            let all = all(layers);
            let n = (share * all.len() as f64) as usize;
            prop_assert_eq!(&left(&all, &all[..n]), &all[n..]);
        }

        /// Folded tick by tick it is what it is as a whole; without its last tick it is the account before.
        #[test]
        fn it_grows_tick_by_tick(layers in any_layers()) {
            let ticks = done(&all(layers));
            let mut account = OnPiece::default();
            for n in 0..ticks.len() {
                prop_assert_eq!(&account, &OnPiece::of(&ticks[..n], &chalk));
                account = account.after(&ticks[n], &chalk);
            }
        }

        /// After a change of mind every wanted layer lies on top in its order; ticked off to the end, nothing is left, and on the way
        /// each plan is the one before less what was done.
        #[test]
        fn a_change_of_mind_ends_as_it_is_wanted(first in any_layers(), then in any_layers(), share in 0.0..=1.0f64) {
            let (before, after) = (all(first), all(then));
            let n = (share * before.len() as f64) as usize;
            let mut ticked = before[..n].to_vec();
            let mut plan = left(&after, &ticked);
            let layers = |all: &[Work]| all.iter().filter(|work| work.lies()).cloned().collect::<Vec<_>>();
            let planned = layers(&plan);
            prop_assert!(layers(&after).ends_with(&planned), "{:?} for {:?}", planned, after);
            while let Some(next) = plan.first().cloned() {
                ticked.push(next);
                let now = left(&after, &ticked);
                prop_assert_eq!(&now, &plan[1..], "after {:?}", ticked.last());
                plan = now;
            }
        }
    }

    /// Another base over a waxed one: the wax comes off first, then all is laid anew; nothing is cleaned twice.
    #[test]
    fn over_wax_the_wax_comes_off_first() {
        let waxed = all(vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)]);
        let other = all(vec![layer(BrushedCoat, 2, 2), layer(DryBrush, 3, 1), layer(TintedWax, 3, 1)]);
        let left = left(&other, &waxed);
        assert_eq!(left[..3], [Work::HardwareOff, Work::Tape, Work::WaxOff], "{left:?}");
        assert_eq!(left.iter().filter(|work| work.laid().is_some()).count(), 4, "all of it anew: {left:?}");
        assert!(!left.contains(&Work::Clean), "it is clean");
        assert!(left.contains(&Work::Buff) && left.ends_with(&[Work::HardwareOn, Work::Rest]));
    }

    /// Wax that was taken off lies there no more; the coats below it stay, and another wax goes on them at once.
    #[test]
    fn wax_that_was_taken_off_is_gone() {
        let clear = all(vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)]);
        let white = all(vec![layer(BrushedCoat, 1, 2), layer(TintedWax, 3, 1)]);
        let mut ticked = clear;
        ticked.push(Work::WaxOff);
        let on = OnPiece::of(&done(&ticked), &chalk);
        let lies: Vec<_> =
            on.zone(Zone::Case).unwrap().lies().iter().map(|l| l.work.laid().unwrap().technique).collect();
        assert_eq!(lies, [BrushedCoat, BrushedCoat]);
        let left = left(&white, &ticked);
        let laid: Vec<_> = left.iter().filter_map(|work| work.laid()).map(|laid| laid.technique).collect();
        assert_eq!(laid, [TintedWax], "{left:?}");
    }

    /// One layer more on a piece that was handed over: hardware and tape come off and go on again.
    #[test]
    fn a_layer_after_the_end_takes_hardware_and_tape_with_it() {
        let first = vec![layer(BrushedCoat, 1, 2)];
        let then = [first.clone(), vec![layer(DryBrush, 2, 1)]].concat();
        let left = left(&all(then.clone()), &all(first));
        let dry_brush = Work::Layer(then[1].coats(&chalk).remove(0));
        let wanted = [Work::HardwareOff, Work::Tape, dry_brush, Work::TapeOff, Work::HardwareOn, Work::Rest];
        assert_eq!(left, wanted);
    }

    /// Brass that stays brass: soaked, rinsed and polished once; then it is refitted, and nothing is left.
    #[test]
    fn hardware_that_is_not_painted_is_done_once() {
        let mut brass = zone(Zone::Hardware, 0.05, Vec::new());
        brass.repairs = [warm_blend_piece::Repair::Soak, warm_blend_piece::Repair::Polish].into();
        let all = wanted(&brass, true, &chalk);
        for n in 0..=all.len() {
            let on = OnPiece::of(&done(&all[..n]), &chalk);
            let ticked = on.zones().map(|(_, on)| on.still_to_do(&all, &chalk)).next();
            assert_eq!(ticked.unwrap_or_else(|| all.clone()), &all[n..]);
        }
    }

    /// Hardware refitted five minutes after waxing: the wax is buffed the next day all the same (common practice).
    #[test]
    fn drying_counts_from_the_layer_and_not_from_the_last_tick() {
        let wax = Work::Layer(layer(ClearWax, 0, 1).coats(&chalk).remove(0));
        let on = OnPiece::of(&done(&[wax, Work::HardwareOn]), &chalk);
        let ready = on.zone(Zone::Case).unwrap().ready_for(&Work::Buff, &chalk, Air::default()).unwrap();
        assert!(ready >= plus_minutes(morning(), 8.0 * 60.0), "{ready}");
    }

    /// Sheets from before: a wet blend ticked after its base, a glaze of two passes ticked at once, tape that came off with the hardware.
    #[test]
    fn sheets_from_before_go_on() {
        let blend = vec![layer(BrushedCoat, 1, 2), layer(WetBlend, 2, 1)];
        let coats = blend[0].coats(&chalk);
        let single = |n: usize| Work::Layer(coats[n].clone());
        let blended = Work::Layer(blend[1].coats(&chalk).remove(0));
        let ticked = [single(0), single(1), blended];
        assert!(left(&all(blend.clone()), &ticked).iter().all(|work| !work.lies()));
        // Left between both, the second coat is laid again, wet.
        let half = left(&all(blend), &ticked[..2]);
        assert!(half.iter().any(|work| matches!(work, Work::Wet(_))) && !half.contains(&Work::ScuffBack));
        let glaze = layer(GlazeRagged, 1, 2);
        let at_once = Laid { technique: GlazeRagged, pot: glaze.pot.clone(), hand: glaze.hand, coat: (1, 1) };
        assert!(left(&all(vec![glaze]), &[Work::Layer(at_once)]).iter().all(|work| !work.lies()));
        let on = OnPiece::of(&done(&[Work::Tape, Work::HardwareOn]), &chalk);
        assert!(!on.zone(Zone::Case).unwrap().is_taped());
    }
}
