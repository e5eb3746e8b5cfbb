//! Steps: work done on several zones at once, and dependencies between steps.

use std::collections::HashMap;
use std::fmt;
use std::hash::Hasher;

use serde::{Deserialize, Serialize};
use warm_blend_piece::Zone;

use crate::drying::Drying;
use crate::{Air, Tins, Unit, WetEdge, Work, ZoneWork, minutes, units};

/// Identifies a step. Equal work has an equal id, so that a step can be ticked off after replanning.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
pub struct StepId(pub u32);

impl fmt::Display for StepId {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:08x}", self.0)
    }
}

/// A dependency of a step.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct After {
    /// Index of the earlier step.
    pub step: usize,
    /// Minutes to wait after its end, in this air.
    pub wait: f64,
    /// Minutes to wait in standard air.
    pub usual: f64,
}

/// A step: one work on one or more zones.
#[derive(Debug, Clone, PartialEq)]
pub struct Step {
    /// Stable identifier.
    pub id: StepId,
    /// The work.
    pub work: Work,
    /// Its zones.
    pub zones: Vec<Zone>,
    /// Minutes of hands-on work at the usual pace.
    pub minutes: f64,
    /// Units between natural breaks, in order; empty if it can stop at any time.
    pub units: Vec<Unit>,
    /// How it is worked wet; `None` for what is applied and left.
    pub wet_edge: Option<WetEdge>,
    /// Minutes of waiting that the step itself consists of.
    pub rests: f64,
    /// Dependencies, all of them earlier in the list.
    pub after: Vec<After>,
    /// True if delaying it delays the whole, however many people help.
    pub critical: bool,
}

/// Steps of all zones; `left` holds what is left to do on each. Zones that need the same work share a step, and steps are
/// sorted so that each follows those it depends on.
pub fn steps(zones: &[ZoneWork], left: &[Vec<Work>], tins: Tins, air: Air) -> Vec<Step> {
    let (works, by_zone) = distinct(left);
    let merged = merged(&by_zone);
    let drying = |air| -> Vec<Drying> { works.iter().map(|(work, _)| Drying::of(work, tins, air)).collect() };
    let (here, usually) = (drying(air), drying(Air::default()));
    let mut steps: Vec<Step> = Vec::with_capacity(merged.len());
    // What was done on each zone so far, the last thing last; and how often each work.
    let mut done: Vec<Vec<usize>> = vec![Vec::new(); zones.len()];
    let mut times = vec![0; works.len()];
    for (which, own) in &merged {
        let (work, written) = &works[*which];
        let on: Vec<&ZoneWork> = own.iter().map(|n| &zones[*n]).collect();
        let mut there: Vec<usize> = own.iter().flat_map(|n| &done[*n]).copied().collect();
        there.sort_unstable();
        there.dedup();
        // The last thing done on a zone, and whatever is still wet there.
        let after = there.into_iter().filter_map(|place| {
            let before = merged[place].0;
            let wait = here[before].until(work);
            let holds_up = wait > 0.0 || own.iter().any(|n| done[*n].last() == Some(&place));
            holds_up.then(|| After { step: place, wait, usual: usually[before].until(work) })
        });
        let after = after.collect();
        for n in own {
            done[*n].push(steps.len());
        }
        steps.push(Step {
            id: id(written, times[*which]),
            work: Work::clone(work),
            zones: on.iter().map(|zone| zone.zone).collect(),
            minutes: minutes(work, &on),
            units: units(work, &on),
            wet_edge: WetEdge::of(work, &on, tins, air),
            rests: work.rests(air),
            after,
            critical: false,
        });
        times[*which] += 1;
    }
    mark_critical(&mut steps);
    steps
}

/// Each work once, with how it is written down, and which of them each zone takes.
fn distinct(left: &[Vec<Work>]) -> (Vec<(&Work, String)>, Vec<Vec<usize>>) {
    let mut known: HashMap<String, usize> = HashMap::new();
    let mut works: Vec<(&Work, String)> = Vec::new();
    let mut which = |work| {
        // Work is plain data: it can always be written.
        let written = serde_json::to_string(work).unwrap_or_default();
        *known.entry(written).or_insert_with_key(|written| {
            works.push((work, written.clone()));
            works.len() - 1
        })
    };
    let by_zone = left.iter().map(|zone| zone.iter().map(&mut which).collect()).collect();
    (works, by_zone)
}

/// One list that every zone's own work is found in, in its order: zone after zone is laid along what there is so that as much as can
/// be is shared (a longest common subsequence: D. S. Hirschberg, *Commun. ACM* 18 (1975) 341, by its plain table).
fn merged(left: &[Vec<usize>]) -> Vec<(usize, Vec<usize>)> {
    let mut all: Vec<(usize, Vec<usize>)> = Vec::new();
    for (n, works) in left.iter().enumerate() {
        // Most that the rests from i and j on can share.
        let width = works.len() + 1;
        let at = |i: usize, j: usize| i * width + j;
        let mut common = vec![0usize; (all.len() + 1) * width];
        for i in (0..all.len()).rev() {
            for j in (0..works.len()).rev() {
                common[at(i, j)] = if all[i].0 == works[j] {
                    1 + common[at(i + 1, j + 1)]
                } else {
                    common[at(i + 1, j)].max(common[at(i, j + 1)])
                };
            }
        }
        let (mut i, mut j) = (0, 0);
        let mut next = Vec::with_capacity(all.len() + works.len());
        while i < all.len() || j < works.len() {
            if i < all.len() && j < works.len() && all[i].0 == works[j] {
                let mut zones = std::mem::take(&mut all[i].1);
                zones.push(n);
                next.push((all[i].0, zones));
                (i, j) = (i + 1, j + 1);
            } else if j < works.len() && (i == all.len() || common[at(i, j + 1)] > common[at(i + 1, j)]) {
                next.push((works[j], vec![n]));
                j += 1;
            } else {
                next.push((all[i].0, std::mem::take(&mut all[i].1)));
                i += 1;
            }
        }
        all = next;
    }
    all
}

/// The same number for the same work in every run and on every machine: FNV-1a, 32 bits (G. Fowler, L. C. Noll and K.-P. Vo, 1991) of
/// how it is written down.
fn id(written: &str, before: usize) -> StepId {
    struct Fnv(u32);
    impl Hasher for Fnv {
        fn finish(&self) -> u64 {
            u64::from(self.0)
        }

        fn write(&mut self, bytes: &[u8]) {
            for byte in bytes {
                self.0 = (self.0 ^ u32::from(*byte)).wrapping_mul(0x0100_0193);
            }
        }
    }
    let mut said = Fnv(0x811c_9dc5);
    said.write(written.as_bytes());
    said.write(&before.to_le_bytes());
    StepId(said.0)
}

/// The longest way through by hands-on work and waits (J. E. Kelley, *Operations Research* 9 (1961) 296), minutes; steps on it are
/// marked.
fn mark_critical(steps: &mut [Step]) -> f64 {
    let takes = |step: &Step| step.minutes + step.rests;
    let mut ends = vec![0.0f64; steps.len()];
    for (n, step) in steps.iter().enumerate() {
        let ready = step.after.iter().map(|after| ends[after.step] + after.wait).fold(0.0, f64::max);
        ends[n] = ready + takes(step);
    }
    let longest = ends.iter().copied().fold(0.0, f64::max);
    let mut latest = vec![longest; steps.len()];
    for n in (0..steps.len()).rev() {
        let begins = latest[n] - takes(&steps[n]);
        for after in &steps[n].after {
            latest[after.step] = latest[after.step].min(begins - after.wait);
        }
    }
    for (n, step) in steps.iter_mut().enumerate() {
        step.critical = latest[n] - ends[n] < 1e-6;
    }
    longest
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::wanted;
    use crate::work::tests::{any_layers, chalk, layer, zone};
    use proptest::prelude::*;
    use warm_blend_board::Technique::{BrushedCoat, ClearWax, DryBrush};

    fn planned(zones: &[ZoneWork]) -> Vec<Step> {
        let left: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, true, &chalk)).collect();
        steps(zones, &left, &chalk, Air::default())
    }

    proptest! {
        /// Every zone's own order is kept, nothing is lost, nothing comes twice, no step before what it waits for, no number twice.
        #[test]
        fn all_of_it_in_order(layers in proptest::collection::vec(any_layers(), 1..6)) {
            let zones: Vec<ZoneWork> = layers.into_iter().zip(Zone::ALL).map(|(layers, at)| zone(at, 1.0, layers)).collect();
            let steps = planned(&zones);
            for zone in &zones {
                let own: Vec<&Work> = steps.iter().filter(|step| step.zones.contains(&zone.zone)).map(|step| &step.work).collect();
                let wanted = wanted(zone, true, &chalk);
                prop_assert_eq!(own, wanted.iter().collect::<Vec<_>>());
            }
            for (n, step) in steps.iter().enumerate() {
                prop_assert!(step.after.iter().all(|after| after.step < n && after.wait >= 0.0));
                prop_assert!(steps[..n].iter().all(|other| other.id != step.id));
            }
            prop_assert!(steps.iter().any(|step| step.critical));
        }
    }

    #[test]
    fn what_is_alike_is_one_step() {
        let coats = vec![layer(BrushedCoat, 1, 2), layer(ClearWax, 0, 1)];
        let brushed = vec![layer(BrushedCoat, 1, 2), layer(DryBrush, 2, 1), layer(ClearWax, 0, 1)];
        let steps = planned(&[zone(Zone::Case, 2.0, coats), zone(Zone::Panels, 1.0, brushed)]);
        let of =
            |technique| steps.iter().filter(move |s| s.work.laid().is_some_and(|l| l.technique == technique));
        assert_eq!(of(BrushedCoat).count(), 2, "two coats, each on both");
        assert!(of(BrushedCoat).all(|step| step.zones.len() == 2));
        assert_eq!(of(DryBrush).count(), 1);
        assert_eq!(of(ClearWax).map(|step| step.zones.len()).collect::<Vec<_>>(), [2]);
    }

    /// Worked by hand: sixty minutes' rinse, ten minutes' deglazer, an hour and a half a coat, a day's rest.
    #[test]
    fn the_longest_way_is_the_sum_of_a_chain() {
        let mut steps = planned(&[zone(Zone::Case, 2.0, vec![layer(BrushedCoat, 1, 2)])]);
        let hands: f64 = steps.iter().map(|step| step.minutes).sum();
        let longest = mark_critical(&mut steps);
        assert!((longest - (hands + 60.0 + 10.0 + 90.0 + 90.0 + 24.0 * 60.0)).abs() < 1e-6);
        assert!(steps.iter().all(|step| step.critical));
    }
}
