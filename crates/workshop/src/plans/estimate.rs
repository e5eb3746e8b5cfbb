//! What a job will take, as a range, and what makes the range wide.

use jiff::civil::Date;
use warm_blend_piece::Likely;
use warm_blend_plan::{Rates, Step, amounts};

use super::planning::Planned;
use super::telling::hours_between;
use super::view::TinCost;
use crate::Refusal;

/// What a job will take.
#[derive(Debug)]
pub struct JobEstimate {
    /// Hours of work.
    pub hours: Likely,
    /// Hours as a range: `14 to 19 h`.
    pub hours_words: String,
    /// First and last day on which it is ready, in nine cases of ten.
    pub ready: (Date, Date),
    /// Cost of paint and products, as far as prices are known.
    pub materials: f64,
    /// What is used of each tin.
    pub tins: Vec<TinCost>,
    /// Rates of the workshop.
    pub rates: Rates,
    /// What makes the range wide, the greatest first.
    pub wide: Vec<String>,
    /// Assumptions.
    pub notes: Vec<String>,
}

impl Planned<'_> {
    /// What the whole job takes from now on; refused if it cannot be planned.
    pub fn estimate(&self) -> Result<JobEstimate, Refusal> {
        if let Some(stop) = self.stop() {
            return Err(Refusal::field("/finishes", stop));
        }
        let within = self.within(self.all.iter());
        let days = || Some((self.day_of(1.0 / within)?, self.day_of(within)?));
        let ready = days().ok_or(Refusal::Broken)?;
        let needed = amounts(&self.all, &self.zones);
        let likely = self.all.iter().map(|step| self.minutes(step)).sum::<f64>() / 60.0;
        Ok(JobEstimate {
            hours: Likely { least: likely / within, likely, most: likely * within },
            hours_words: hours_between(60.0 * likely / within, 60.0 * likely * within),
            ready,
            materials: self.materials(&needed),
            tins: self.tin_costs(&needed),
            rates: self.sheet.rates,
            wide: self.pace_unsure(likely).into_iter().chain(self.others_first()).collect(),
            notes: self.assumptions(&needed),
        })
    }

    /// Day on which it is ready if everything takes so many times as long.
    fn day_of(&self, times: f64) -> Option<Date> {
        let plan = self.scheduled(&self.sheet.hours, self.sheet.helper, times)?;
        Some(self.sheet.hours.clock().to_datetime(Self::ends(&plan)?).date())
    }

    /// The work whose pace is least sure, and what timing it once would do.
    fn pace_unsure(&self, hours: f64) -> Option<String> {
        let works = self.all.iter().map(|step| (&step.work, self.minutes(step)));
        let (kind, within) = self.asked.paces.least_sure(works)?;
        let name = kind.map_or_else(|| "preparation".to_owned(), |technique| technique.name().to_lowercase());
        let of_kind = |step: &&Step| step.work.technique() == kind;
        let steps =
            self.all.iter().find(of_kind).map_or(0, |step| self.asked.paces.for_work(&step.work).steps);
        let known = match steps {
            0 => "you have not timed it yet".to_owned(),
            1 => "timed once so far".to_owned(),
            n => format!("timed {n} times so far"),
        };
        let then = hours_between(60.0 * hours / within, 60.0 * hours * within);
        Some(format!(
            "Mostly your pace with {name}: {known}. Time one such step, and the hours become {then}."
        ))
    }

    /// Other pieces that are worked on first.
    fn others_first(&self) -> Option<String> {
        let mut names: Vec<&str> = self.elsewhere.iter().map(|one| one.name.as_str()).collect();
        names.sort_unstable();
        names.dedup();
        (!names.is_empty()).then(|| format!("The days also depend on work on {}.", names.join(", ")))
    }
}
