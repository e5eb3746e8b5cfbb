//! The hours in which somebody works, on the clock of the workshop: days of 23 and 25 hours are what they are.

use jiff::civil::{Date, Weekday};
use jiff::tz::TimeZone;
use jiff::{Span, Timestamp};
use serde::{Deserialize, Serialize};

/// Minutes that are worth beginning for before the day ends†.
const WORTH_IT: f64 = 15.0;
/// Days ahead that are looked at for one with hours.
const AHEAD: usize = 400;

/// From when to when on a day, minutes after midnight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct DayHours {
    /// Work begins.
    pub from: u16,
    /// Work ends, later.
    pub to: u16,
}

/// When somebody works.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct WorkingHours {
    /// The zone of the workshop's clock, by its IANA name.
    pub zone: String,
    /// Monday to Sunday; none on a day off.
    pub week: [Option<DayHours>; 7],
    /// Days on which nobody works.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub off: Vec<Date>,
}

/// Hours that nobody can work in.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadHours {
    /// No day has any.
    #[error("no day of the week has working hours: give at least one from when to when")]
    None,
    /// They end before they begin.
    #[error("{0}: working hours end after they begin, within the day")]
    Turned(&'static str),
    /// A zone that is none.
    #[error("“{0}” is no time zone: write one such as Europe/Vienna")]
    Zone(String),
    /// Days off without end.
    #[error("{0} days off: {most} are the most", most = WorkingHours::MOST_OFF)]
    Off(usize),
}

const DAYS: [&str; 7] = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

impl WorkingHours {
    /// Most days off that are kept.
    pub const MOST_OFF: usize = 200;

    /// Monday to Friday from nine to five in a zone.
    pub fn usual(zone: &str) -> Self {
        let day = Some(DayHours { from: 9 * 60, to: 17 * 60 });
        Self { zone: zone.to_owned(), week: [day, day, day, day, day, None, None], off: Vec::new() }
    }

    /// The same on a clock that is at hand; in UTC where it has no name.
    pub fn usual_by(clock: &TimeZone) -> Self {
        Self::usual(clock.iana_name().unwrap_or("UTC"))
    }

    /// That somebody can work in them.
    pub fn check(&self) -> Result<(), BadHours> {
        TimeZone::get(&self.zone).map_err(|_| BadHours::Zone(self.zone.chars().take(40).collect()))?;
        if self.week.iter().all(Option::is_none) {
            return Err(BadHours::None);
        }
        for (day, window) in DAYS.into_iter().zip(&self.week) {
            if window.is_some_and(|window| window.to <= window.from || window.to > 24 * 60) {
                return Err(BadHours::Turned(day));
            }
        }
        if self.off.len() > Self::MOST_OFF { Err(BadHours::Off(self.off.len())) } else { Ok(()) }
    }

    /// The clock of the workshop.
    pub fn clock(&self) -> TimeZone {
        TimeZone::get(&self.zone).unwrap_or(TimeZone::UTC)
    }

    /// The hours of a day, as they are on that day's clock.
    fn of_day(&self, day: Date, clock: &TimeZone) -> Option<(Timestamp, Timestamp)> {
        let weekday: Weekday = day.weekday();
        let window = self.week[weekday.to_monday_zero_offset() as usize]?;
        if self.off.contains(&day) {
            return None;
        }
        let at = |minutes: u16| {
            let time = day.at(0, 0, 0, 0).checked_add(Span::new().minutes(i64::from(minutes))).ok()?;
            clock.to_ambiguous_timestamp(time).compatible().ok()
        };
        let (from, to) = (at(window.from)?, at(window.to)?);
        (to > from).then_some((from, to))
    }

    /// When work of some minutes is done that may begin at a time, around what is taken already: the stretches it takes, day after
    /// day. It is left off at the end of a day and taken up again; for a quarter of an hour nobody begins. Empty where there are no
    /// hours within a year.
    pub fn spend(&self, not_before: Timestamp, minutes: f64, taken: &Taken) -> Vec<Stretch> {
        let mut stretches = Vec::new();
        let mut left = minutes.max(0.0);
        for (free, cut) in self.free(not_before, taken) {
            let room = between(free.0, free.1);
            if room < left.min(WORTH_IT) && (stretches.is_empty() || cut) {
                continue;
            }
            let spent = left.min(room);
            stretches.push((free.0, later(free.0, spent)));
            left -= spent;
            if left <= 1e-9 {
                return stretches;
            }
        }
        Vec::new()
    }

    /// The hours from a time on that nothing takes, day after day for a year; whether what is taken bounds them.
    pub(crate) fn free(&self, from: Timestamp, taken: &Taken) -> impl Iterator<Item = (Stretch, bool)> {
        let clock = self.clock();
        let first = from.to_zoned_datetime(clock.clone()).date();
        let days = std::iter::successors(Some(first), |day| day.tomorrow().ok()).take(AHEAD);
        let hours = days.filter_map(move |day| self.of_day(day, &clock));
        let ahead =
            hours.map(move |(begins, ends)| (begins.max(from), ends)).filter(|(begins, ends)| begins < ends);
        ahead.flat_map(|window| taken.around(window))
    }
}

/// From when to when somebody works.
pub type Stretch = (Timestamp, Timestamp);

/// What somebody's time is taken by already.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Taken(Vec<Stretch>);

impl Taken {
    /// Some more of it, in whatever order.
    pub fn take(&mut self, stretches: impl IntoIterator<Item = Stretch>) {
        self.0.extend(stretches.into_iter().filter(|(begins, ends)| begins < ends));
        self.0.sort_unstable();
    }

    /// What is left of a stretch of hours; whether what is taken bounds each.
    fn around(&self, (mut from, to): Stretch) -> Vec<(Stretch, bool)> {
        let mut free = Vec::new();
        let mut cut = false;
        // Nothing that is taken overlaps, and it is in its order: what ends before is passed over.
        let first = self.0.partition_point(|(_, ends)| *ends <= from);
        for (begins, ends) in self.0[first..].iter().take_while(|(begins, _)| *begins < to) {
            if from < *begins {
                free.push(((from, *begins), true));
            }
            (from, cut) = (from.max(*ends), true);
        }
        if from < to {
            free.push(((from, to), cut));
        }
        free
    }
}

/// Minutes from one time to another; negative where that is earlier.
pub(crate) fn between(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 60.0
}

/// A time some minutes later, to the second.
pub fn later(from: Timestamp, minutes: f64) -> Timestamp {
    let seconds = (60.0 * minutes).round().clamp(0.0, 1e10) as i64;
    from.checked_add(jiff::SignedDuration::from_secs(seconds)).unwrap_or(from)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn at(text: &str) -> Timestamp {
        text.parse::<jiff::ZonedDateTime>().unwrap().timestamp()
    }

    #[test]
    fn what_does_not_fit_today_goes_on_tomorrow() {
        let hours = WorkingHours::usual("Europe/Vienna");
        let stretches = hours.spend(at("2026-11-27T15:00[Europe/Vienna]"), 180.0, &Taken::default());
        let wanted = [
            (at("2026-11-27T15:00[Europe/Vienna]"), at("2026-11-27T17:00[Europe/Vienna]")),
            (at("2026-11-30T09:00[Europe/Vienna]"), at("2026-11-30T10:00[Europe/Vienna]")),
        ];
        assert_eq!(stretches, wanted, "a Friday, then a Monday");
        // For ten minutes nobody begins an hour's work.
        let late = hours.spend(at("2026-11-27T16:50[Europe/Vienna]"), 60.0, &Taken::default());
        assert_eq!(late[0].0, at("2026-11-30T09:00[Europe/Vienna]"));
    }

    /// Clocks go forward on 29 March 2026 and back on 25 October in Vienna: a night shift has seven and nine hours.
    #[test]
    fn days_of_23_and_25_hours() {
        let night = Some(DayHours { from: 0, to: 8 * 60 });
        let hours = WorkingHours { week: [night; 7], ..WorkingHours::usual("Europe/Vienna") };
        for (day, minutes) in [("2026-03-29", 7.0 * 60.0), ("2026-10-25", 9.0 * 60.0), ("2026-06-01", 480.0)]
        {
            let from = at(&format!("{day}T00:00[Europe/Vienna]"));
            let stretches = hours.spend(from, 24.0 * 60.0, &Taken::default());
            assert_eq!(between(stretches[0].0, stretches[0].1), minutes, "{day}");
        }
    }

    #[test]
    fn hours_that_cannot_be() {
        let usual = WorkingHours::usual("Europe/Vienna");
        assert_eq!(usual.check(), Ok(()));
        let none = WorkingHours { week: [None; 7], ..usual.clone() };
        assert!(none.check().unwrap_err().to_string().contains("at least one"));
        assert!(none.spend(at("2026-11-27T15:00[Europe/Vienna]"), 5.0, &Taken::default()).is_empty());
        assert!(WorkingHours::usual("Moon/Crater").check().is_err());
        let turned = WorkingHours { week: [Some(DayHours { from: 600, to: 500 }); 7], ..usual };
        assert!(turned.check().unwrap_err().to_string().contains("Monday"));
    }

    proptest! {
        /// What is free and what is taken are the hours, and nothing twice.
        #[test]
        fn free_and_taken_are_the_hours(busy in proptest::collection::vec((0i64..4 * 1440, 1i64..300), 0..6)) {
            let hours = WorkingHours::usual("Europe/Vienna");
            let from = at("2026-11-30T00:00[Europe/Vienna]");
            let until = at("2026-12-04T00:00[Europe/Vienna]");
            let mut taken = Taken::default();
            let mut latest = from;
            for (after, minutes) in busy {
                // Each after the one before: nobody does two things at once.
                let begins = later(latest, after as f64 / 6.0);
                latest = later(begins, minutes as f64);
                taken.take([(begins, latest)]);
            }
            let sum = |of: &Taken| -> f64 {
                hours.free(from, of).map(|(free, _)| free).take_while(|free| free.0 < until).map(|free| between(free.0, free.1.min(until))).sum()
            };
            let (all, free) = (sum(&Taken::default()), sum(&taken));
            prop_assert_eq!(all, 4.0 * 8.0 * 60.0);
            let worked: f64 = hours.free(from, &Taken::default()).map(|(window, _)| window).take_while(|window| window.0 < until)
                .map(|(begins, ends)| taken.0.iter().map(|(a, b)| between((*a).max(begins), (*b).min(ends)).max(0.0)).sum::<f64>()).sum();
            prop_assert!((free + worked - all).abs() < 0.1, "{free} and {worked} of {all}");
            for (one, _) in hours.free(from, &taken).take_while(|(free, _)| free.0 < until) {
                prop_assert!(taken.0.iter().all(|(a, b)| one.1 <= *a || *b <= one.0));
            }
        }

        /// All of it is spent, within hours, in order, around what is taken; later never ends earlier.
        #[test]
        fn all_of_it_within_hours(start in 0i64..400 * 86_400, minutes in 0.5..3000.0f64, more in 0i64..100_000, other in 0.0..2000.0f64, ahead in 0i64..5 * 86_400) {
            let hours = WorkingHours::usual("America/New_York");
            let from = Timestamp::from_second(1_767_225_600 + start).unwrap();
            // Another piece takes some of the time.
            let mut taken = Taken::default();
            let another = hours.spend(Timestamp::from_second(from.as_second() + ahead).unwrap(), other, &taken);
            taken.take(another.iter().copied());
            let stretches = hours.spend(from, minutes, &taken);
            let spent: f64 = stretches.iter().map(|(from, to)| between(*from, *to)).sum();
            prop_assert!((spent - minutes).abs() < 0.02 * stretches.len() as f64);
            for (begin, end) in &stretches {
                let day = |t: &Timestamp| t.to_zoned_datetime(hours.clock());
                prop_assert!(day(begin).hour() >= 9 && day(begin).date() == day(end).date());
                prop_assert!(day(end).time() <= jiff::civil::time(17, 0, 0, 0) && begin <= end && *begin >= from);
                prop_assert!(another.iter().all(|(from, to)| end <= from || to <= begin || from == to));
            }
            let later = hours.spend(Timestamp::from_second(from.as_second() + more).unwrap(), minutes, &taken);
            prop_assert!(later.last().unwrap().1 >= stretches.last().unwrap().1);
        }
    }
}
