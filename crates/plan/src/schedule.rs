//! The schedule: when each step is done in the workshop's hours, alone or with a helper.
//!
//! Steps are started in one fixed order, each as soon as what it waits for is dry and somebody is free. The order is
//! computed once, for standard drying conditions: of the steps that could start soonest, the one with the longest path to
//! the end comes first. With a fixed order, longer work or drying never brings a later step forward, and a helper delays
//! none (tested). An order computed anew for each case could do both (R. L. Graham, *SIAM J. Appl. Math.* 17 (1969) 416).

use jiff::Timestamp;

use crate::hours::{between, plus_minutes, quarters};
use crate::{BusyTimes, Step, Stretch, WorkingHours};

/// Who works, and when.
#[derive(Debug, Clone)]
pub struct Crew {
    /// In which hours.
    pub hours: WorkingHours,
    /// True if there is a helper.
    pub helper: bool,
    /// Time already taken, of the painter and of the helper.
    pub taken: [BusyTimes; 2],
}

/// Who works on a step.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum By {
    /// The painter.
    Painter,
    /// The helper.
    Helper,
    /// Both together: one applies, the other works the paint.
    Both,
}

impl By {
    /// Indices of these people in a crew.
    pub const fn hands(self) -> &'static [usize] {
        match self {
            By::Painter => &[0],
            By::Helper => &[1],
            By::Both => &[0, 1],
        }
    }
}

/// A scheduled step.
#[derive(Debug, Clone, PartialEq)]
pub struct Scheduled {
    /// Index of the step.
    pub step: usize,
    /// Stretches of work; one of zero length for a step that only rests.
    pub stretches: Vec<Stretch>,
    /// For a step in units, the number finished by the end of each stretch.
    pub units: Vec<usize>,
    /// Who works on it.
    pub by: By,
    /// When it is finished; for a step that rests, when it has rested.
    pub ends: Timestamp,
}

/// Earliest time of a step because of earlier work on its zones.
pub type ReadyFrom<'a> = &'a dyn Fn(&Step) -> Option<Timestamp>;

impl Crew {
    /// A crew with no time taken.
    pub fn free(hours: WorkingHours, helper: bool) -> Self {
        Self { hours, helper, taken: Default::default() }
    }

    /// The crew after a plan has taken its time.
    pub fn busy_with(mut self, plan: &[Scheduled]) -> Self {
        for one in plan {
            for hands in one.by.hands() {
                self.taken[*hands].take(one.stretches.iter().copied());
            }
        }
        self
    }

    /// Stretches of at least `least` minutes in which the painter is free.
    pub fn idle(&self, from: Timestamp, to: Timestamp, least: f64) -> Vec<Stretch> {
        let free = self.hours.free(from, &self.taken[0]).map(|free| free.stretch);
        let ahead = free.take_while(|(begins, _)| *begins < to).map(|(begins, ends)| (begins, ends.min(to)));
        ahead.filter(|(begins, ends)| between(*begins, *ends) >= least).collect()
    }
}

/// Schedules all steps from a time on, in the order in which they start; `None` if there are no hours left within a year.
/// `pace` scales hands-on minutes.
pub fn schedule(
    steps: &[Step],
    crew: &Crew,
    from: Timestamp,
    ready_from: ReadyFrom,
    pace: impl Fn(&Step) -> f64,
) -> Option<Vec<Scheduled>> {
    let together = BusyTimes::both(&crew.taken[0], &crew.taken[1]);
    let mut free = [from; 2];
    let mut ends: Vec<Option<Timestamp>> = vec![None; steps.len()];
    let mut plan = Vec::with_capacity(steps.len());
    for n in order(steps) {
        let step = &steps[n];
        let ready = step.after.iter().map(|after| plus_minutes(ends[after.step].unwrap_or(from), after.wait));
        let ready = ready.chain(ready_from(step)).fold(from, Timestamp::max);
        let pace = pace(step);
        if step.minutes * pace <= 0.0 {
            let over = plus_minutes(ready, step.rests);
            ends[n] = Some(over);
            let stretches = vec![(ready, ready)];
            plan.push(Scheduled { step: n, stretches, units: Vec::new(), by: By::Painter, ends: over });
            continue;
        }
        let work = |share: f64| match step.units.as_slice() {
            [] => quarters(step.minutes * pace * share),
            units => units.iter().map(|unit| unit.minutes * pace * share).collect(),
        };
        let by = |by: By, taken: &BusyTimes, share: f64| {
            let starts = by.hands().iter().map(|hands| free[*hands]).fold(ready, Timestamp::max);
            let stretches = crew.hours.spend(starts, &work(share), taken);
            let over = stretches.last()?.0.1;
            Some((over, by, stretches))
        };
        let alone = by(By::Painter, &crew.taken[0], 1.0)?;
        let helped = match step.wet_edge.as_ref().and_then(|edge| edge.shared) {
            _ if !crew.helper => None,
            // Whoever is done with it first; of two who are, the painter.
            None => by(By::Helper, &crew.taken[1], 1.0).filter(|helper| helper.0 < alone.0),
            // What one cannot keep wet is shared, unless somebody else keeps the helper for longer than it takes alone.
            Some(shared) => by(By::Both, &together, shared.share).filter(|both| both.0 <= alone.0),
        };
        let (over, by, stretches) = helped.unwrap_or(alone);
        for hands in by.hands() {
            free[*hands] = over;
        }
        let over = plus_minutes(over, step.rests);
        ends[n] = Some(over);
        let (stretches, units) = stretches.into_iter().unzip();
        let units = if step.units.is_empty() { Vec::new() } else { units };
        plan.push(Scheduled { step: n, stretches, units, by, ends: over });
    }
    Some(plan)
}

/// The order in which steps are taken up: see the module. The painter's pace and the air do not change it.
fn order(steps: &[Step]) -> Vec<usize> {
    let mut to_go: Vec<f64> = steps.iter().map(|step| step.minutes).collect();
    for n in (0..steps.len()).rev() {
        for after in &steps[n].after {
            let through = steps[after.step].minutes + after.usual + to_go[n];
            to_go[after.step] = to_go[after.step].max(through);
        }
    }
    let mut before: Vec<Vec<(usize, f64)>> = vec![Vec::new(); steps.len()];
    for (n, step) in steps.iter().enumerate() {
        for after in &step.after {
            before[after.step].push((n, after.usual));
        }
    }
    // How many each still waits for, and the earliest time by those that were taken up.
    let mut waits: Vec<usize> = steps.iter().map(|step| step.after.len()).collect();
    let mut ready = vec![0.0f64; steps.len()];
    let mut could: Vec<usize> = (0..steps.len()).filter(|n| waits[*n] == 0).collect();
    let (mut now, mut order) = (0.0f64, Vec::with_capacity(steps.len()));
    // Steps wait only for earlier ones, so there is always one that could be begun.
    while let Some(soonest) = (0..could.len()).min_by(|one, other| {
        let (one, other) = (could[*one], could[*other]);
        let begins = |n: usize| now.max(ready[n]);
        let longest_first = || to_go[other].total_cmp(&to_go[one]);
        begins(one).total_cmp(&begins(other)).then_with(longest_first).then(one.cmp(&other))
    }) {
        let n = could.swap_remove(soonest);
        let over = now.max(ready[n]) + steps[n].minutes;
        if steps[n].minutes > 0.0 {
            now = over;
        }
        for (later, wait) in &before[n] {
            ready[*later] = ready[*later].max(over + wait);
            waits[*later] -= 1;
            if waits[*later] == 0 {
                could.push(*later);
            }
        }
        order.push(n);
    }
    order
}

/// Total minutes of hands-on work of a plan; double where two work together.
pub fn hands_on(plan: &[Scheduled]) -> f64 {
    let one = |one: &Scheduled| -> f64 {
        let minutes = one.stretches.iter().map(|(from, to)| between(*from, *to)).sum::<f64>();
        minutes * one.by.hands().len() as f64
    };
    plan.iter().map(one).sum()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::work::tests::{any_layers, chalk, layer, zone};
    use crate::{Air, PartSize, Work, ZoneWork, steps, wanted};
    use proptest::prelude::*;
    use warm_blend_board::Technique::{BrushedCoat, DryBrush, GlazeRagged};
    use warm_blend_piece::Zone;

    const VIENNA: &str = "Europe/Vienna";

    fn planned(zones: &[ZoneWork], air: Air) -> Vec<Step> {
        let left: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, true, &chalk)).collect();
        steps(zones, &left, &chalk, air)
    }

    fn from() -> Timestamp {
        "2026-11-27T09:00[Europe/Vienna]".parse::<jiff::ZonedDateTime>().unwrap().timestamp()
    }

    fn done(steps: &[Step], helper: bool) -> Vec<Scheduled> {
        on_a_bench(steps, helper, &BusyTimes::default())
    }

    /// While something else takes the painter's time.
    fn on_a_bench(steps: &[Step], helper: bool, taken: &BusyTimes) -> Vec<Scheduled> {
        let mut crew = Crew::free(WorkingHours::usual(VIENNA), helper);
        crew.taken[0] = taken.clone();
        schedule(steps, &crew, from(), &|_| None, |_| 1.0).unwrap()
    }

    fn ends(plan: &[Scheduled]) -> Timestamp {
        plan.iter().map(|one| one.ends).max().unwrap()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]

        /// No step before what it waits for is dry; nobody does two at once; a helper makes nothing later, and longer drying nothing
        /// earlier; all of it within hours.
        #[test]
        fn a_plan_that_can_be_kept(layers in proptest::collection::vec(any_layers(), 1..5), area in 0.2..6.0f64, celsius in 9.0..20.0f64) {
            let zones: Vec<ZoneWork> = layers.into_iter().zip(Zone::ALL).map(|(layers, at)| zone(at, area, layers)).collect();
            let steps = planned(&zones, Air::default());
            let (alone, helped) = (done(&steps, false), done(&steps, true));
            prop_assert!(ends(&helped) <= ends(&alone));
            let slow = done(&planned(&zones, Air::new(celsius, 0.5).unwrap()), false);
            prop_assert!(ends(&slow) >= ends(&alone));
            for plan in [&alone, &helped] {
                prop_assert_eq!(plan.len(), steps.len());
                for one in plan {
                    for after in &steps[one.step].after {
                        let before = plan.iter().find(|other| other.step == after.step).unwrap();
                        prop_assert!(one.stretches[0].0 >= plus_minutes(before.ends, after.wait));
                    }
                    // No part is crossed by closing time: each stretch is its units, from the first to the last of them.
                    let (mut before, units) = (0, &steps[one.step].units);
                    for ((begin, end), done) in one.stretches.iter().zip(&one.units) {
                        let shared = steps[one.step].wet_edge.as_ref().and_then(|edge| edge.shared);
                        let share = shared.filter(|_| one.by == By::Both).map_or(1.0, |shared| shared.share);
                        let minutes: f64 = units[before..*done].iter().map(|unit| share * unit.minutes).sum();
                        prop_assert!((between(*begin, *end) - minutes).abs() < 0.02);
                        before = *done;
                    }
                    prop_assert!(units.is_empty() || before == units.len());
                    for (begin, end) in one.stretches.iter().filter(|(begin, end)| begin < end) {
                        let day = |t: &Timestamp| t.to_zoned_datetime(jiff::tz::TimeZone::get(VIENNA).unwrap());
                        prop_assert!(day(begin).hour() >= 9 && day(end).time() <= jiff::civil::time(17, 15, 0, 0));
                        let clash = plan.iter().filter(|other| other.step != one.step && other.by.hands().iter().any(|hands| one.by.hands().contains(hands)))
                            .flat_map(|other| &other.stretches)
                            .any(|(from, to)| from < end && begin < to && from < to);
                        prop_assert!(!clash);
                    }
                }
            }
        }

        /// Two pieces on one bench: nobody does two things at once, the first is as soon as it would be alone, the other no sooner,
        /// and with a helper no later; what is idle is taken by neither.
        #[test]
        fn two_on_one_bench(one in any_layers(), other in any_layers(), area in 0.2..6.0f64) {
            let (one, other) = ([zone(Zone::Case, 2.0, one)], [zone(Zone::Seat, area, other)]);
            let (one, other) = (planned(&one, Air::default()), planned(&other, Air::default()));
            let first = done(&one, false);
            let crew = Crew::free(WorkingHours::usual(VIENNA), false).busy_with(&first);
            let second = on_a_bench(&other, false, &crew.taken[0]);
            prop_assert!(ends(&second) >= ends(&done(&other, false)));
            prop_assert!(ends(&on_a_bench(&other, true, &crew.taken[0])) <= ends(&second));
            let stretches = |plan: &[Scheduled]| plan.iter().flat_map(|one| one.stretches.clone()).filter(|(a, b)| a < b).collect::<Vec<_>>();
            let apart = |(from, to): &Stretch, (begin, end): &Stretch| to <= begin || end <= from;
            for stretch in stretches(&second) {
                prop_assert!(stretches(&first).iter().all(|other| apart(&stretch, other)), "{:?}", stretch);
            }
            let idle = crew.busy_with(&second).idle(from(), ends(&first), 30.0);
            for free in &idle {
                prop_assert!(between(free.0, free.1) >= 30.0);
                prop_assert!(stretches(&first).iter().chain(&stretches(&second)).all(|other| apart(free, other)));
            }
        }

        /// Where somebody works day and night, the plan of one zone is as long as its longest way.
        #[test]
        fn without_calendars_it_is_the_longest_way(layers in any_layers()) {
            let zones = [zone(Zone::Case, 2.0, layers)];
            let steps = planned(&zones, Air::default());
            let always = Some(crate::DayHours { from: 0, to: 24 * 60 });
            let hours = WorkingHours { week: [always; 7], ..WorkingHours::usual("UTC") };
            let plan = schedule(&steps, &Crew::free(hours, false), from(), &|_| None, |_| 1.0).unwrap();
            let mut over: Vec<f64> = Vec::new();
            for step in &steps {
                let ready = step.after.iter().map(|after| over[after.step] + after.wait).fold(0.0, f64::max);
                over.push(ready.max(over.last().copied().unwrap_or(0.0)) + step.minutes + step.rests);
            }
            // At midnight work pauses at a break.
            let (longest, took) = (over[over.len() - 1], between(from(), ends(&plan)));
            let unit = steps.iter().flat_map(|step| &step.units).map(|unit| unit.minutes).fold(16.0, f64::max);
            prop_assert!(took >= longest - 1.0 && took <= longest + unit * (1.0 + took / 1440.0), "{} {}", took, longest);
        }
    }

    /// Twelve zones in twenty layers each, no two alike.
    #[test]
    fn hundreds_of_steps() {
        let layers = |n: u128| {
            (0..20).map(|k| layer(if k % 2 == 0 { BrushedCoat } else { DryBrush }, 100 * n + k, 2)).collect()
        };
        let zones: Vec<ZoneWork> =
            (0u128..).zip(Zone::ALL).take(12).map(|(n, at)| zone(at, 0.5, layers(n))).collect();
        let steps = planned(&zones, Air::default());
        assert!(steps.len() > 300, "{}", steps.len());
        let plan = done(&steps, true);
        assert_eq!(plan.len(), steps.len());
        assert!(ends(&plan) < ends(&done(&steps, false)));
    }

    /// A wall of one part, ten square metres, ragged; alone and by two.
    fn wall(helper: bool) -> (Vec<Step>, Vec<Scheduled>) {
        let parts = vec![PartSize { area: 10.0, narrow: 2.5 }];
        let wall = ZoneWork { parts, ..zone(Zone::Wall, 10.0, vec![layer(GlazeRagged, 1, 1)]) };
        let steps = planned(&[wall], Air::default());
        let plan = done(&steps, helper);
        (steps, plan)
    }

    /// A wall is glazed from corner to corner in one stretch; two do it together, one rolling and one ragging, in less time (common
    /// practice).
    #[test]
    fn a_wall_is_one_stretch_and_two_share_it() {
        let glaze = |(steps, plan): (Vec<Step>, Vec<Scheduled>)| {
            let at = steps.iter().position(|step| step.wet_edge.is_some()).unwrap();
            plan.into_iter().find(|one| one.step == at).unwrap()
        };
        let (alone, together) = (glaze(wall(false)), glaze(wall(true)));
        assert_eq!((alone.stretches.len(), alone.by), (1, By::Painter));
        assert_eq!((together.stretches.len(), together.by), (1, By::Both));
        let minutes = |one: &Scheduled| between(one.stretches[0].0, one.stretches[0].1);
        assert!(minutes(&together) < 0.8 * minutes(&alone), "{together:?} {alone:?}");
    }

    /// A panel whose glaze would still be wet at closing time on a Friday waits for Monday.
    #[test]
    fn a_glaze_is_not_left_for_the_weekend() {
        let parts = vec![PartSize { area: 1.5, narrow: 0.5 }];
        let side = ZoneWork { parts, ..zone(Zone::Sides, 1.5, vec![layer(GlazeRagged, 1, 1)]) };
        let glaze =
            planned(&[side], Air::default()).into_iter().find(|step| step.wet_edge.is_some()).unwrap();
        let glaze = Step { after: Vec::new(), ..glaze };
        let at = |text: &str| text.parse::<jiff::ZonedDateTime>().unwrap().timestamp();
        let crew = Crew::free(WorkingHours::usual(VIENNA), false);
        let from =
            |text| schedule(std::slice::from_ref(&glaze), &crew, at(text), &|_| None, |_| 1.0).unwrap();
        let late = from("2026-11-27T16:35[Europe/Vienna]");
        assert_eq!(late[0].stretches[0].0, at("2026-11-30T09:00[Europe/Vienna]"));
        let early = from("2026-11-27T16:10[Europe/Vienna]");
        assert_eq!(early[0].stretches[0].0, at("2026-11-27T16:10[Europe/Vienna]"));
    }

    #[test]
    fn twice_as_slow_a_hand_moves_the_rest() {
        let steps = planned(&[zone(Zone::Case, 3.0, vec![layer(BrushedCoat, 1, 2)])], Air::default());
        let slow =
            schedule(&steps, &Crew::free(WorkingHours::usual(VIENNA), false), from(), &|_| None, |_| 2.0)
                .unwrap();
        assert!(ends(&slow) > ends(&done(&steps, false)));
        assert!((hands_on(&slow) / hands_on(&done(&steps, false)) - 2.0).abs() < 0.01);
    }
}
