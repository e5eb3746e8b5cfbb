//! What was learned of this painter over time: the hand from measured boards, the pace from timed steps.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::{LearnedHand, Technique};
use warm_blend_plan::{Done, Pace, Paces};

use crate::ShelfSnapshot;

/// Greatest number of points, including the last.
const MOST: usize = 12;
/// Factor within which two paces are called the same†.
const AS_QUICK: f64 = 1.05;

/// What was learned of this painter in a technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct SkillLearned {
    /// `glaze-wiped` …
    pub technique: &'static str,
    /// `Glaze, wiped` …
    pub name: &'static str,
    /// `film` or `pace`.
    pub of: &'static str,
    /// Current estimate: `leaves 1.4 times the usual film`.
    pub words: String,
    /// History, oldest first.
    pub points: Vec<SkillPoint>,
}

/// An estimate after a reading or a timed step.
#[derive(Debug, Serialize, ToSchema)]
pub struct SkillPoint {
    /// Time, RFC 3339.
    pub at: String,
    /// Factor on the usual film or time.
    pub times: f64,
    /// Factor within which the true value lies in nine cases of ten.
    pub within: f64,
}

impl ShelfSnapshot {
    /// What was learned of this painter's hand and pace, with the estimate after each board and step, based on today's
    /// knowledge of the paints.
    pub fn skills(&self, done: &[Done]) -> Vec<SkillLearned> {
        let after = |until: usize| (self.boards()[until - 1].0.made_at.to_string(), self.hands_after(until));
        let known: Vec<(String, LearnedHand)> = evenly_spread(self.boards().len()).map(after).collect();
        let film = |technique: Technique| film(technique, self.hands(), &known);
        let pace = |technique: Technique| pace(technique, done);
        Technique::ALL
            .into_iter()
            .flat_map(|technique| [film(technique), pace(technique)])
            .flatten()
            .collect()
    }
}

/// Indices of an evenly spread selection, including the last.
fn evenly_spread(all: usize) -> impl Iterator<Item = usize> {
    let n = all.min(MOST);
    (1..=n).map(move |nth| (nth * all).div_ceil(n))
}

fn film(technique: Technique, now: &LearnedHand, known: &[(String, LearnedHand)]) -> Option<SkillLearned> {
    let point = |(at, hands): &(String, LearnedHand)| SkillPoint {
        at: at.clone(),
        times: hands.habit(technique).film,
        within: hands.within(technique),
    };
    let points = known.iter().filter(|(_, hands)| hands.boards(technique) > 0).map(point).collect();
    let words = || now.habit(technique).words(technique);
    (now.boards(technique) > 0).then(|| SkillLearned::new(technique, "film", words(), points))
}

fn pace(technique: Technique, done: &[Done]) -> Option<SkillLearned> {
    let of = |done: &&Done| done.minutes.is_some() && done.work.technique() == Some(technique);
    let mut timed: Vec<&Done> = done.iter().filter(of).collect();
    timed.sort_by_key(|done| done.at);
    let after = |until: usize| {
        let last = timed[until - 1];
        (last, Paces::learned(timed[..until].iter().copied()).for_work(&last.work))
    };
    let known: Vec<(&Done, Pace)> = evenly_spread(timed.len()).map(after).collect();
    let (_, now) = known.last()?;
    let point = |(last, pace): &(&Done, Pace)| SkillPoint {
        at: last.at.to_string(),
        times: pace.factor,
        within: pace.within,
    };
    Some(SkillLearned::new(technique, "pace", pace_words(*now), known.iter().map(point).collect()))
}

fn pace_words(Pace { factor, steps, .. }: Pace) -> String {
    let timed = if steps == 1 { "1 step".to_owned() } else { format!("{steps} steps") };
    match factor {
        slow if slow > AS_QUICK => format!("takes {slow:.1} times as long as usual, from {timed}"),
        quick if quick < AS_QUICK.recip() => format!("takes {quick:.1} times as long as usual, from {timed}"),
        _ => format!("takes the usual time, from {timed}"),
    }
}

impl SkillLearned {
    fn new(technique: Technique, of: &'static str, words: String, points: Vec<SkillPoint>) -> Self {
        Self { technique: technique.id(), name: technique.name(), of, words, points }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_is_told_is_spread_and_ends_with_all(all in 0usize..500) {
            let shown: Vec<usize> = evenly_spread(all).collect();
            prop_assert_eq!(shown.len(), all.min(MOST));
            prop_assert!(shown.is_sorted_by(|one, next| one < next) && shown.iter().all(|until| (1..=all).contains(until)));
            prop_assert_eq!(shown.last().copied(), (all > 0).then_some(all));
        }
    }

    #[test]
    fn paces_are_said_in_words() {
        let of = |factor, steps| pace_words(Pace { factor, within: 1.2, steps });
        assert_eq!(of(1.34, 3), "takes 1.3 times as long as usual, from 3 steps");
        assert_eq!(of(0.72, 1), "takes 0.7 times as long as usual, from 1 step");
        assert_eq!(of(1.02, 2), "takes the usual time, from 2 steps");
    }
}
