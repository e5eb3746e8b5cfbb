//! What the readings reveal about the shelf, component by component.

use std::collections::HashMap;
use std::sync::Arc;

use rayon::prelude::*;

use crate::component::components;
use crate::ensemble::Ensemble;
pub use crate::fitted_component::BadTin;
use crate::fitted_component::{FittedComponent, Found, Keep};
use crate::judged::Judged;
use crate::kept::{KeptComponent, Said};
use crate::prior::Facts;
use crate::reading::Reading;

/// Number of components beyond which drawn variants are no longer kept.
const MOST_KEPT: usize = 500;

/// Number of readings whose fits are kept in memory, about 35 kB each.
const MOST_REMEMBERED: usize = 2000;

/// Number of readings up to which components are learned in parallel.
const MOST_TOGETHER: usize = 500;

/// What the readings reveal about the shelf.
#[derive(Debug, Clone, Default)]
pub struct Learnt {
    /// By paint.
    pub paints: Vec<Ensemble>,
    /// By reading; meaningless for deferred readings.
    pub judged: Vec<Judged>,
    /// Number of deferred readings.
    pub pending_readings: usize,
    /// Result for each connected group of paints, by key.
    components: HashMap<u64, Arc<FittedComponent>>,
    /// Stored results that nobody has asked for yet.
    recalled: HashMap<u64, KeptComponent>,
}

impl Learnt {
    fn found(&self) -> Found<'_> {
        let all = self.components.values().flat_map(|component| &component.found);
        all.map(|found| (found.0.label.name, found)).collect()
    }

    /// Wraps stored components, to be used once the same tins and readings are learned.
    pub fn recalled(kept: impl IntoIterator<Item = KeptComponent>) -> Self {
        let recalled = kept.into_iter().map(|kept| (kept.name, kept)).collect();
        Self { recalled, ..Self::default() }
    }

    /// Keys and data hashes of the components worth storing: those that take time to learn.
    pub fn worth_keeping(&self) -> Vec<(u64, Said)> {
        let fitted = self.components.iter().filter(|(_, component)| !component.found.is_empty());
        fitted.filter_map(|(name, component)| Some((*name, component.fingerprint()?))).collect()
    }

    /// The stored form of a component.
    pub fn kept(&self, name: u64) -> Option<KeptComponent> {
        self.components.get(&name)?.kept(name)
    }
}

/// Learns from readings. Tins are identified by their indices: see [`learn_named`].
pub fn learn(paints: &[Facts], readings: &[Reading]) -> Result<Learnt, BadTin> {
    let names: Vec<u64> = (0..paints.len() as u64).collect();
    learn_named(&names, paints, readings)
}

/// Learns from readings of tins with unique keys. Random draws depend on the key, so adding or removing other tins does
/// not change anything that is not connected to them.
pub fn learn_named(names: &[u64], paints: &[Facts], readings: &[Reading]) -> Result<Learnt, BadTin> {
    learn_after(&Learnt::default(), names, paints, readings)
}

/// Learns from readings, starting from `before`. Components that did not change are reused exactly; large ones are
/// updated incrementally, to within a few thousandths of their uncertainty.
pub fn learn_after(
    before: &Learnt,
    names: &[u64],
    paints: &[Facts],
    readings: &[Reading],
) -> Result<Learnt, BadTin> {
    learn_up_to(usize::MAX, before, names, paints, readings)
}

/// Learns from readings without a long wait: components with more new readings than a limit are deferred, and their tins
/// estimated from labels and measured masstones.
pub fn learn_up_to(
    most: usize,
    before: &Learnt,
    names: &[u64],
    paints: &[Facts],
    readings: &[Reading],
) -> Result<Learnt, BadTin> {
    let components = components(names, paints, readings);
    let near = before.found();
    // By component: the previous result, and whether it is still valid.
    let known = components.iter().map(|component| {
        let known = before.components.get(&component.name);
        (known, known.is_some_and(|known| known.said == component.said))
    });
    let known: Vec<(Option<&Arc<FittedComponent>>, bool)> = known.collect();
    let at_hand = components.par_iter().zip(&known).map(|(component, (known, stays))| {
        let recall =
            || FittedComponent::recall(component, before.recalled.get(&component.name)?).map(Arc::new);
        known.filter(|_| *stays).map(Arc::clone).or_else(recall)
    });
    let at_hand: Vec<Option<Arc<FittedComponent>>> = at_hand.collect();
    let anew: Vec<usize> = (0..components.len()).filter(|at| at_hand[*at].is_none()).collect();
    let size = |at: &usize| components[*at].said.readings.len();
    let readings_anew: usize = anew.iter().map(size).sum();
    let keep = Keep { draws: components.len() <= MOST_KEPT, fits: readings_anew <= MOST_REMEMBERED };
    let put_off = readings_anew > most;
    let learn = |at: usize| -> Result<Arc<FittedComponent>, BadTin> {
        let (component, (known, _)) = (&components[at], &known[at]);
        match put_off {
            true => FittedComponent::put_off(component, keep),
            false => FittedComponent::learn(component, keep, known.map(Arc::as_ref), &near),
        }
        .map(Arc::new)
    };
    // In parallel, except for components that need much memory; those use all cores by themselves.
    let (large, small): (Vec<usize>, Vec<usize>) = anew.into_iter().partition(|at| size(at) > MOST_TOGETHER);
    let mut learnt: Vec<_> = large.into_iter().map(|at| (at, learn(at))).collect();
    learnt.par_extend(small.into_par_iter().map(|at| (at, learn(at))));
    learnt.extend(at_hand.into_iter().enumerate().filter_map(|(at, known)| Some((at, Ok(known?)))));
    learnt.sort_unstable_by_key(|(at, _)| *at);
    let learnt = learnt.into_iter().map(|(_, learnt)| learnt).collect::<Result<Vec<_>, _>>()?;
    let (stay, anew): (Vec<_>, Vec<_>) = learnt.iter().zip(&known).partition(|(_, (_, stays))| *stays);
    make_room(anew.into_iter().chain(stay).map(|(learnt, _)| learnt.as_ref()));
    let mut by_paint: Vec<Option<Ensemble>> = vec![None; paints.len()];
    let mut judged = vec![Judged::default(); readings.len()];
    for (component, learnt) in components.iter().zip(&learnt) {
        for (paint, known) in component.paints.iter().zip(&learnt.paints) {
            by_paint[*paint] = Some(known.clone());
        }
        for (at, how) in component.of_readings.iter().zip(&learnt.judged) {
            judged[*at] = how.clone();
        }
    }
    let components = components.iter().map(|component| component.name).zip(learnt).collect();
    // Every paint belongs to a component.
    let paints = by_paint.into_iter().flatten().collect();
    let pending_readings = if put_off { readings_anew } else { 0 };
    Ok(Learnt { paints, judged, pending_readings, components, recalled: HashMap::new() })
}

/// Discards what incremental fits need if there is too much of it, last components first; these are then fitted in full,
/// only more slowly.
fn make_room<'a>(components: impl Iterator<Item = &'a FittedComponent>) {
    let mut room = MOST_REMEMBERED;
    for component in components {
        let mut memory = component.memory();
        if memory.is_some() {
            match room.checked_sub(component.said.readings.len()) {
                Some(left) => room = left,
                None => *memory = None,
            }
        }
    }
}
