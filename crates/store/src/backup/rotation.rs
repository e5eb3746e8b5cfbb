//! Which backups are kept: the last ten, and of older ones the last of each day for two weeks, of each week for two months, and of each
//! month after that.

use jiff::{Timestamp, civil::Date, tz::TimeZone};

/// Number of last backups that are kept.
const LAST: usize = 10;
/// Number of days and weeks of which the last backup is kept.
const DAYS: usize = 14;
const WEEKS: usize = 9;

/// Which of these times of backups, newest first, need not be kept.
pub(super) fn superfluous(newest_first: &[Timestamp], zone: &TimeZone) -> Vec<bool> {
    let day = |at: &Timestamp| at.to_zoned_datetime(zone.clone()).date();
    let week = |day: Date| day.iso_week_date().first_of_week().map_or(day, |first| first.date());
    let mut days = Vec::new();
    let mut weeks = Vec::new();
    let mut months = Vec::new();
    let first_of = |of: &mut Vec<Date>, period: Date, most: usize| {
        let is_first = !of.contains(&period) && of.len() < most;
        if is_first {
            of.push(period);
        }
        is_first
    };
    let mut is_kept = |(n, at): (usize, &Timestamp)| {
        let day = day(at);
        let of_day = first_of(&mut days, day, DAYS);
        let of_week = first_of(&mut weeks, week(day), WEEKS);
        let of_month = first_of(&mut months, day.first_of_month(), usize::MAX);
        n < LAST || of_day || of_week || of_month
    };
    newest_first.iter().enumerate().map(|each| !is_kept(each)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::SignedDuration;
    use proptest::prelude::*;

    /// A year of work: a backup at these hours after its start, each followed by a rotation.
    fn kept(hours: impl Iterator<Item = i64>) -> Vec<Timestamp> {
        let start: Timestamp = "2026-01-01T06:00:00Z".parse().unwrap();
        let mut kept: Vec<Timestamp> = Vec::new();
        for hour in hours {
            kept.insert(0, start + SignedDuration::from_hours(hour));
            let gone = superfluous(&kept, &TimeZone::UTC);
            kept = kept.into_iter().zip(gone).filter(|(_, gone)| !gone).map(|(at, _)| at).collect();
        }
        kept
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]

        /// Whenever backups were made, the last ten are there, each of the last days and weeks has one, each month has its last, and
        /// there are never many.
        #[test]
        fn every_stretch_of_time_keeps_its_last(gaps in prop::collection::vec(1i64..40, 20..500)) {
            let mut at = 0;
            let hours: Vec<i64> = gaps.iter().map(|gap| { at += gap; at }).collect();
            let kept = kept(hours.iter().copied());
            let start: Timestamp = "2026-01-01T06:00:00Z".parse().unwrap();
            let all: Vec<Timestamp> = hours.iter().rev().map(|hour| start + SignedDuration::from_hours(*hour)).collect();
            prop_assert_eq!(&kept[..10], &all[..10]);
            let date = |at: &Timestamp| at.to_zoned_datetime(TimeZone::UTC).date();
            let mut days: Vec<Date> = all.iter().map(date).collect();
            days.dedup();
            for day in days.iter().take(DAYS) {
                let last = all.iter().find(|at| date(at) == *day).unwrap();
                prop_assert!(kept.contains(last), "{day}");
            }
            let mut months: Vec<Date> = days.iter().map(|day| day.first_of_month()).collect();
            months.dedup();
            for month in &months {
                let last = all.iter().find(|at| date(at).first_of_month() == *month).unwrap();
                prop_assert!(kept.contains(last), "{month}");
            }
            prop_assert!(kept.len() <= LAST + DAYS + WEEKS + months.len());
        }
    }
}
