//! How true predictions were, as it is shown.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::{Backtested, Reading};
use warm_blend_paint::{PaintId, Verdict};

use crate::{Refusal, ShelfSnapshot, pot_words::pot_words};

/// How many surprises are named.
const WORST: usize = 3;

/// Every reading against what had been said of it before.
#[derive(Debug, Serialize, ToSchema)]
pub struct TruthView {
    /// The last readings, the oldest first.
    pub readings: Vec<TruthPoint>,
    /// How many came out within what was predicted.
    pub held: usize,
    /// As text: `8 of 9 came out as was said, where nine of ten are to`.
    pub words: String,
    /// How far mixes of this shelf were from their predictions, in words; none until three mixes have been read.
    pub mixes: Option<String>,
    /// The furthest from what was predicted, the worst first.
    pub worst: Vec<Surprise>,
}

/// A reading against what had been said of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct TruthPoint {
    /// Which reading.
    pub reading: Uuid,
    /// When it was taken, RFC 3339.
    pub at: String,
    /// What was read: `1 night blue : 4 chimney white`.
    pub name: String,
    /// ΔE00 from what was expected.
    pub difference: f64,
    /// What was predicted that it would be within, ΔE00.
    pub within: f64,
    /// Whether it was.
    pub held: bool,
}

/// A reading that was far from what was predicted.
#[derive(Debug, Serialize, ToSchema)]
pub struct Surprise {
    /// Which reading.
    pub reading: Uuid,
    /// A paint of it: where to look.
    pub paint: Uuid,
    /// What was read.
    pub name: String,
    /// How it came out: `clearly darker than predicted`.
    pub words: String,
    /// What was made of it since: it is asked about, the painter said that it is right, or it was learned.
    pub since: &'static str,
}

/// How a reading came out against what had been said of it before it was taken.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CameOut {
    /// As text: `a touch lighter than predicted`, or `as predicted`.
    pub words: String,
    /// ΔE00 from what was predicted.
    pub difference: f64,
    /// How far it might be in nine cases of ten, ΔE00.
    pub within: f64,
    /// Whether it was no further.
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
    /// How a reading came out; none where it is not one of the last, shows no thick film, or is of paints that are gone.
    pub fn came_out(&self, reading: Uuid) -> Result<Option<CameOut>, Refusal> {
        let answer = self.backtested()?;
        let of = |one: &&Backtested| self.logged().get(one.reading).is_some_and(|kept| kept.id == reading);
        Ok(answer.iter().rev().find(of).map(CameOut::from))
    }

    /// How true what was predicted of the last readings was.
    pub fn truth(&self) -> Result<TruthView, Refusal> {
        let all: Vec<_> = self.readings().collect();
        let predicted = self.backtested()?;
        let answer: Vec<&Backtested> =
            predicted.iter().filter(|one| !all[one.reading].0.value.is_practice()).collect();
        let name = |of: &Reading<PaintId>| {
            let part = |(paint, parts): &(PaintId, warm_blend_paint::Parts)| {
                ((100.0 * parts.value()).round() / 100.0, self.name(paint.0).to_owned())
            };
            pot_words(&of.of.iter().map(part).collect::<Vec<_>>())
        };
        let point = |one: &Backtested| {
            let kept = all[one.reading].0;
            TruthPoint {
                reading: kept.id,
                at: kept.made_at.to_string(),
                name: name(&kept.value.reading),
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
                name: name(&kept.value.reading),
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

/// Fewer mixes than this say nothing of how mixes come out.
const FEWEST: usize = 3;

/// The differences between mixes and their predictions in words: the median, and the ninth decile or the largest.
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
