//! Groups of paints that are connected by readings.
//!
//! Two paints that are not connected by any chain of readings reveal nothing about each other, so each group is learned
//! separately, and only if something about it changed. Mediums are not estimated and connect nothing; a medium belongs to
//! every group that has a reading of it.

use serde::Serialize;

use super::prior::Facts;
use super::reading::Reading;

/// A connected group of paints, treated as a shelf of its own.
#[derive(Debug, Clone)]
pub(crate) struct Component {
    /// Key: that of its first paint, which is in no other group.
    pub name: u64,
    /// Its paints, as ascending indices on the shelf.
    pub paints: Vec<usize>,
    /// Its readings, as ascending indices in the log.
    pub of_readings: Vec<usize>,
    pub said: CircleData,
}

/// Everything that determines what is learned of a component.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub(crate) struct CircleData {
    pub names: Vec<u64>,
    pub facts: Vec<Facts>,
    pub readings: Vec<Reading>,
}

/// The connected groups of a shelf. Each paint that is not a medium belongs to exactly one; a medium without readings
/// forms its own.
pub(crate) fn components(names: &[u64], paints: &[Facts], readings: &[Reading]) -> Vec<Component> {
    let ties = |reading: &Reading| -> Vec<usize> {
        let of = || reading.of.iter().map(|(paint, _)| *paint);
        let tied: Vec<usize> = of().filter(|paint| !paints[*paint].class.is_medium()).collect();
        if tied.is_empty() { of().take(1).collect() } else { tied }
    };
    let mut roots = Roots((0..paints.len()).collect());
    for reading in readings {
        let tied = ties(reading);
        tied.windows(2).for_each(|pair| roots.tie(pair[0], pair[1]));
    }
    // The root of a component is its first paint, so components are in the order of the shelf.
    let mut by_root: Vec<(Vec<usize>, Vec<usize>)> = vec![Default::default(); paints.len()];
    for paint in 0..paints.len() {
        by_root[roots.root(paint)].0.push(paint);
    }
    for (at, reading) in readings.iter().enumerate() {
        if let Some(first) = ties(reading).first() {
            by_root[roots.root(*first)].1.push(at);
        }
    }
    let component = |(mut own, of_readings): (Vec<usize>, Vec<usize>)| {
        let name = names[own[0]];
        own.extend(of_readings.iter().flat_map(|at| readings[*at].of.iter().map(|(paint, _)| *paint)));
        own.sort_unstable();
        own.dedup();
        let place = |paint: usize| own.binary_search(&paint).ok();
        let said = CircleData {
            names: own.iter().map(|paint| names[*paint]).collect(),
            facts: own.iter().map(|paint| paints[*paint]).collect(),
            readings: of_readings.iter().filter_map(|at| readings[*at].clone().with_paints(place)).collect(),
        };
        Component { name, paints: own, of_readings, said }
    };
    by_root.into_iter().filter(|(own, _)| !own.is_empty()).map(component).collect()
}

/// Union–find over connected paints (B. A. Galler and M. J. Fischer, *Commun. ACM* 7 (1964) 301).
struct Roots(Vec<usize>);

impl Roots {
    fn root(&mut self, paint: usize) -> usize {
        let mut at = paint;
        while self.0[at] != at {
            self.0[at] = self.0[self.0[at]];
            at = self.0[at];
        }
        at
    }

    fn tie(&mut self, one: usize, other: usize) {
        let (one, other) = (self.root(one), self.root(other));
        self.0[one.max(other)] = one.min(other);
    }
}
