//! Prediction accuracy.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::Backtested;
use warm_blend_paint::Verdict;

use crate::{Refusal, ShelfSnapshot};

/// Number of surprises listed.
const WORST: usize = 3;

/// Prediction accuracy of recent readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct TruthView {
    /// Recent readings, oldest first.
    pub readings: Vec<TruthPoint>,
    /// Number of readings within the predicted band.
    pub held: usize,
    /// Summary: `8 of 9 came out as predicted; expected: 9 in 10`.
    pub words: String,
    /// How far mixes were from their predictions, in words; absent until three mixes have been read.
    pub mixes: Option<String>,
    /// Readings furthest from their predictions, worst first.
    pub worst: Vec<Surprise>,
}

/// A reading compared with its earlier prediction.
#[derive(Debug, Serialize, ToSchema)]
pub struct TruthPoint {
    /// Id of the reading.
    pub reading: Uuid,
    /// Time, RFC 3339.
    pub at: String,
    /// The sample: `1 night blue : 4 chimney white`.
    pub name: String,
    /// Difference from the prediction, ΔE00.
    pub difference: f64,
    /// Predicted band, ΔE00.
    pub within: f64,
    /// True if the reading was within the band.
    pub held: bool,
}

/// A reading far from its prediction.
#[derive(Debug, Serialize, ToSchema)]
pub struct Surprise {
    /// Id of the reading.
    pub reading: Uuid,
    /// A paint of the sample, where to look for the cause.
    pub paint: Uuid,
    /// The sample.
    pub name: String,
    /// The difference in words: `clearly darker than predicted`.
    pub words: String,
    /// What happened since: the painter is being asked, has confirmed it, or it was learned.
    pub since: &'static str,
}

/// A reading compared with the prediction made before it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CameOut {
    /// As text: `a touch lighter than predicted`, or `as predicted`.
    pub words: String,
    /// Difference from the prediction, ΔE00.
    pub difference: f64,
    /// Predicted 90 % band, ΔE00.
    pub within: f64,
    /// True if the reading was within the band.
    pub held: bool,
}

impl From<&Backtested> for CameOut {
    fn from(one: &Backtested) -> Self {
        let verdict = Verdict::against(one.read, one.expected, "predicted");
        let words = match verdict.can_be_seen() {
            true => verdict.words(),
            false => "as predicted".to_owned(),
        };
        Self { words, difference: one.difference, within: one.within, held: one.held() }
    }
}

impl ShelfSnapshot {
    /// Comparison of a reading with its prediction; `None` if it is not recent, is not of a thick film, or its paints
    /// were deleted.
    pub fn came_out(&self, reading: Uuid) -> Result<Option<CameOut>, Refusal> {
        let answer = self.backtested()?;
        let of = |one: &&Backtested| self.logged().get(one.reading).is_some_and(|kept| kept.id == reading);
        Ok(answer.iter().rev().find(of).map(CameOut::from))
    }

    /// Prediction accuracy of recent readings.
    pub fn truth(&self) -> Result<TruthView, Refusal> {
        let all: Vec<_> = self.readings().collect();
        let predicted = self.backtested()?;
        let answer: Vec<&Backtested> =
            predicted.iter().filter(|one| !all[one.reading].0.value.is_practice()).collect();
        let point = |one: &Backtested| {
            let kept = all[one.reading].0;
            TruthPoint {
                reading: kept.id,
                at: kept.made_at.to_string(),
                name: self.reading_words(&kept.value.reading),
                difference: one.difference,
                within: one.within,
                held: one.held(),
            }
        };
        let held = answer.iter().filter(|one| one.held()).count();
        let mut worst: Vec<&Backtested> = answer.iter().copied().filter(|one| !one.held()).collect();
        let beyond = |one: &Backtested| one.difference / one.within.max(1e-9);
        worst.sort_by(|a, b| beyond(b).total_cmp(&beyond(a)));
        let surprise = |one: &&Backtested| {
            let (kept, judged) = all[one.reading];
            Surprise {
                reading: kept.id,
                paint: kept.value.reading.of.first().map_or(kept.id, |(paint, _)| paint.0),
                name: self.reading_words(&kept.value.reading),
                words: CameOut::from(*one).words,
                since: match judged {
                    _ if kept.value.reading.sure => "you confirmed it",
                    Some(judged) if judged.questioned => "contradicts the others: check it",
                    _ => "learned from",
                },
            }
        };
        let words = match answer.len() {
            0 => "No predictions checked by a reading yet.".to_owned(),
            n => format!("{held} of {n} readings came out as predicted; expected: 9 in 10."),
        };
        // A questioned reading says nothing about the mix.
        let of_mixes = answer.iter().filter(|one| {
            let (kept, judged) = all[one.reading];
            kept.value.reading.of.len() > 1 && !judged.is_some_and(|judged| judged.questioned)
        });
        Ok(TruthView {
            mixes: mixes_in_words(of_mixes.map(|one| one.difference).collect()),
            readings: answer.iter().copied().map(point).collect(),
            held,
            words,
            worst: worst.iter().take(WORST).map(surprise).collect(),
        })
    }
}

/// Least number of mixes for a statement about mixes.
const FEWEST: usize = 3;

/// Differences between mixes and predictions in words: the median, and the ninth decile or the largest.
fn mixes_in_words(mut off: Vec<f64>) -> Option<String> {
    let last = off.len().checked_sub(1).filter(|last| last + 1 >= FEWEST)?;
    off.sort_by(f64::total_cmp);
    let at = |share: f64| format!("{:.1}", off[(share * last as f64).ceil() as usize]);
    let (most, share) = if off.len() >= 10 { ("nine of ten within", 0.9) } else { ("all within", 1.0) };
    Some(format!(
        "Half of the {} mixes read from this shelf were within {} of the prediction, {most} {}.",
        off.len(),
        at(0.5),
        at(share)
    ))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn how_mixes_come_out_is_told_from_three_on() {
        assert_eq!(mixes_in_words(vec![1.0, 2.0]), None);
        let few = mixes_in_words(vec![2.0, 0.44, 1.0]).unwrap();
        assert_eq!(
            few,
            "Half of the 3 mixes read from this shelf were within 1.0 of the prediction, all within 2.0."
        );
        let many = mixes_in_words((1..=11).map(f64::from).collect()).unwrap();
        assert!(
            many.contains("11 mixes")
                && many.contains("within 6.0")
                && many.ends_with("nine of ten within 10.0.")
        );
    }
}
