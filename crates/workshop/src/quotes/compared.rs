//! Quotes compared with what became of them.

use jiff::Timestamp;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_piece::{Likely, Piece};
use warm_blend_plan::RunSheet;

/// Jobs from which a suggestion for the next quote is made†.
const ENOUGH: usize = 3;

/// How far the logarithm of actual over quoted hours is off in nine cases of ten, in standard errors of few jobs†: Student's t for
/// n − 1 degrees of freedom, one entry for each from two on (NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.2).
const T90: [f64; 9] = [2.920, 2.353, 2.132, 2.015, 1.943, 1.895, 1.860, 1.833, 1.812];
/// The same for many.
const T90_MANY: f64 = 1.645;

/// A quote and what became of it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct QuoteCompared {
    /// The piece.
    pub piece: Uuid,
    /// Its revision, to be sent with a change.
    pub revision: i64,
    /// Its name.
    pub name: String,
    /// The client.
    pub client: Option<String>,
    /// When it was quoted, RFC 3339.
    pub quoted_at: String,
    /// Hours quoted.
    pub hours: Likely,
    /// The sum quoted.
    pub sum: f64,
    /// Its currency, ISO 4217.
    pub currency: Option<String>,
    /// Last day on which it was to be ready.
    pub ready_by: String,
    /// Who said yes.
    pub accepted_by: Option<String>,
    /// When they did, RFC 3339.
    pub accepted_at: Option<String>,
    /// Hours of work so far.
    pub actual_hours: Option<f64>,
    /// When the last step was ticked off, RFC 3339; absent while work is left.
    pub finished_at: Option<String>,
    /// What became of it in a few words: `2 h more than quoted`.
    pub words: String,
}

/// All quotes, latest first, and what they teach.
#[derive(Debug, Serialize, ToSchema)]
pub struct QuotesView {
    /// The quotes.
    pub quotes: Vec<QuoteCompared>,
    /// What the finished jobs of the last twelve months say about the next quote; absent before there are three.
    pub suggestion: Option<String>,
    /// Hours quoted for those jobs, and hours worked.
    pub year: Option<(f64, f64)>,
}

impl QuoteCompared {
    /// Compares the quote of a piece with its run sheet; `None` without a quote. `is_finished` if no work is left.
    pub fn of(kept: &Kept<Piece>, sheet: Option<&RunSheet>, is_finished: bool) -> Option<Self> {
        let piece = &kept.value;
        let quote = piece.quote.as_ref()?;
        let done = sheet.map_or(&[] as &[_], |sheet| sheet.done.as_slice());
        let minutes: f64 = done.iter().map(|done| done.minutes.unwrap_or(done.usual)).fold(0.0, |a, b| a + b);
        let actual_hours = (!done.is_empty()).then_some(minutes / 60.0);
        let finished_at = done.iter().map(|done| done.at).max().filter(|_| is_finished);
        let words = match (finished_at, actual_hours, quote.accepted_at) {
            (Some(_), Some(actual), _) => in_words(quote.hours, actual),
            (None, Some(_), _) => "in progress".to_owned(),
            (_, _, Some(_)) => "agreed, not begun".to_owned(),
            _ => "waiting for an answer".to_owned(),
        };
        Some(Self {
            piece: kept.id,
            revision: kept.revision,
            name: piece.name.as_str().to_owned(),
            client: piece.brief.client.as_ref().map(|client| client.as_str().to_owned()),
            quoted_at: quote.at.to_string(),
            hours: quote.hours,
            sum: quote.sum.likely,
            currency: quote.currency.map(String::from),
            ready_by: quote.ready_by.to_string(),
            accepted_by: quote.accepted_by.as_ref().map(|name| name.as_str().to_owned()),
            accepted_at: quote.accepted_at.map(|at| at.to_string()),
            actual_hours,
            finished_at: finished_at.map(|at| at.to_string()),
            words,
        })
    }
}

fn in_words(quoted: Likely, actual: f64) -> String {
    let off = actual - quoted.likely;
    let hours = if off.abs() < 10.0 { (off.abs() * 2.0).round() / 2.0 } else { off.abs().round() };
    let off = match off {
        _ if hours < 0.5 => "as quoted".to_owned(),
        off if off > 0.0 => format!("{hours} h more than quoted"),
        _ => format!("{hours} h less than quoted"),
    };
    let within = (quoted.least..=quoted.most).contains(&actual);
    if within { off } else { format!("{off}, outside the range given") }
}

impl QuotesView {
    /// All quotes, and what those finished within a year of now teach.
    pub fn of(mut quotes: Vec<QuoteCompared>, now: Timestamp) -> Self {
        quotes.sort_by(|one, other| other.quoted_at.cmp(&one.quoted_at));
        let a_year = jiff::SignedDuration::from_hours(365 * 24);
        let jobs: Vec<(f64, f64)> = quotes
            .iter()
            .filter_map(|one| {
                let finished: Timestamp = one.finished_at.as_deref()?.parse().ok()?;
                let counts = now.duration_since(finished) <= a_year;
                Some((one.hours.likely, one.actual_hours?))
                    .filter(|(quoted, actual)| counts && *quoted > 0.0 && *actual > 0.0)
            })
            .collect();
        let sums = jobs.iter().fold((0.0, 0.0), |sum, job| (sum.0 + job.0, sum.1 + job.1));
        Self { quotes, suggestion: suggestion(&jobs), year: (!jobs.is_empty()).then_some(sums) }
    }
}

/// What jobs, as hours quoted and worked, say about the next quote.
fn suggestion(jobs: &[(f64, f64)]) -> Option<String> {
    let n = jobs.len();
    if n < ENOUGH {
        return None;
    }
    let off: Vec<f64> = jobs.iter().map(|(quoted, actual)| (actual / quoted).ln()).collect();
    let mean = off.iter().sum::<f64>() / n as f64;
    let variance = off.iter().map(|one| (one - mean).powi(2)).sum::<f64>() / (n - 1) as f64;
    let t = T90.get(n - ENOUGH).copied().unwrap_or(T90_MANY);
    let error = t * (variance / n as f64).sqrt();
    let percent = (100.0 * (mean.exp() - 1.0)).round();
    Some(match mean {
        mean if mean.abs() <= error || percent == 0.0 => {
            format!("Your last {n} jobs took about what was quoted. Nothing to change.")
        }
        mean if mean > 0.0 => format!(
            "Your last {n} jobs took {percent} % longer than quoted. Add as much to the hours of the next quote, or time your steps: quotes follow your pace."
        ),
        _ => format!(
            "Your last {n} jobs took {} % less than quoted. The next quote can be as much lower, or time your steps: quotes follow your pace.",
            -percent
        ),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_year_says_what_to_change() {
        // Three jobs of 10, 20 and 30 hours that took a fifth longer, more or less.
        let longer = suggestion(&[(10.0, 12.0), (20.0, 24.5), (30.0, 35.5)]).unwrap();
        assert!(longer.contains("20 % longer"), "{longer}");
        let shorter = suggestion(&[(10.0, 9.0), (20.0, 18.2), (30.0, 26.8), (5.0, 4.5)]).unwrap();
        assert!(shorter.contains("10 % less"), "{shorter}");
        // One much longer, one much shorter: nothing is learned from that.
        let mixed = suggestion(&[(10.0, 14.0), (20.0, 15.0), (30.0, 31.0)]).unwrap();
        assert!(mixed.contains("Nothing to change"), "{mixed}");
        assert_eq!(suggestion(&[(10.0, 20.0), (10.0, 20.0)]), None);
    }

    #[test]
    fn hours_are_compared_in_words() {
        let quoted = Likely { least: 8.0, likely: 10.0, most: 13.0 };
        assert_eq!(in_words(quoted, 10.2), "as quoted");
        assert_eq!(in_words(quoted, 12.0), "2 h more than quoted");
        assert_eq!(in_words(quoted, 7.4), "2.5 h less than quoted, outside the range given");
    }
}
