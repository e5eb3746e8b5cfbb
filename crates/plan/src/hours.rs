//! Working hours on the workshop's clock, including days of 23 and 25 hours.

use jiff::civil::{Date, Weekday};
use jiff::tz::TimeZone;
use jiff::{Span, Timestamp};
use serde::{Deserialize, Serialize};

/// Shortest stretch of work, and the unit in which work without natural breaks is interrupted, minutes†.
pub(crate) const QUARTER: f64 = 15.0;
/// What a computer says that does not know where it is.
const UNKNOWN: &str = "Etc/Unknown";
/// Days ahead that are looked at for one with hours.
const AHEAD: usize = 400;

/// Hours of one day, minutes after midnight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct DayHours {
    /// Start of work.
    pub from: u16,
    /// End of work.
    pub to: u16,
}

/// Weekly working hours.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct WorkingHours {
    /// IANA name of the time zone.
    pub zone: String,
    /// Monday to Sunday; `None` on a day off.
    pub week: [Option<DayHours>; 7],
    /// Dates off.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub off: Vec<Date>,
    /// Minutes of overtime to finish a step, 0 to 120.
    #[serde(default = "WorkingHours::usual_overrun")]
    pub overrun: u16,
}

/// Working hours in which nobody can work.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadHours {
    /// No day has any hours.
    #[error("no working hours set; give hours for at least one day")]
    None,
    /// The end is before the start.
    #[error("{0}: working hours must end after they start, on the same day")]
    EndsBeforeStart(&'static str),
    /// A day too short to do anything.
    #[error("{0}: working hours are too short ({1} min); use at least a quarter of an hour, or a day off")]
    TooShort(&'static str, u16),
    /// Days off that leave no working day within a year.
    #[error("no working day is left within a year; remove some days off")]
    Never,
    /// More overtime than finishing a step requires.
    #[error("{0} minutes of overrun is out of range; use 0 to {most}", most = WorkingHours::MOST_OVERRUN)]
    Overrun(u16),
    /// An unknown time zone.
    #[error("“{0}” is not a time zone; use one such as Europe/Vienna")]
    Zone(String),
    /// Too many days off.
    #[error("too many days off ({0}); the most is {most}", most = WorkingHours::MOST_OFF)]
    Off(usize),
}

impl BadHours {
    /// The field concerned.
    pub const fn field(&self) -> &'static str {
        match self {
            BadHours::None | BadHours::EndsBeforeStart(_) | BadHours::TooShort(..) => "week",
            BadHours::Zone(_) => "zone",
            BadHours::Off(_) | BadHours::Never => "off",
            BadHours::Overrun(_) => "overrun",
        }
    }
}

const DAYS: [&str; 7] = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

impl WorkingHours {
    /// Greatest number of days off.
    pub const MOST_OFF: usize = 200;
    /// Longest overtime, minutes.
    pub const MOST_OVERRUN: u16 = 120;

    const fn usual_overrun() -> u16 {
        15
    }

    /// Monday to Friday, nine to five, in a time zone.
    pub fn usual(zone: &str) -> Self {
        let day = Some(DayHours { from: 9 * 60, to: 17 * 60 });
        let week = [day, day, day, day, day, None, None];
        Self { zone: zone.to_owned(), week, off: Vec::new(), overrun: Self::usual_overrun() }
    }

    /// Usual hours in the time zone of this clock, or in UTC if that has no name.
    pub fn usual_by(clock: &TimeZone) -> Self {
        Self::usual(clock.iana_name().filter(|name| *name != UNKNOWN).unwrap_or("UTC"))
    }

    /// Validates the working hours.
    pub fn check(&self) -> Result<(), BadHours> {
        let known = self.zone != UNKNOWN && TimeZone::get(&self.zone).is_ok();
        if !known {
            return Err(BadHours::Zone(self.zone.chars().take(40).collect()));
        }
        if self.week.iter().all(Option::is_none) {
            return Err(BadHours::None);
        }
        for (day, window) in DAYS.into_iter().zip(&self.week) {
            let Some(window) = window else { continue };
            if window.to <= window.from || window.to > 24 * 60 {
                return Err(BadHours::EndsBeforeStart(day));
            }
            if f64::from(window.to - window.from) < QUARTER {
                return Err(BadHours::TooShort(day, window.to - window.from));
            }
        }
        if self.overrun > Self::MOST_OVERRUN {
            return Err(BadHours::Overrun(self.overrun));
        }
        if self.off.len() > Self::MOST_OFF {
            return Err(BadHours::Off(self.off.len()));
        }
        let mut off: Vec<Date> = self.off.clone();
        off.sort_unstable();
        let works = |day: Date| {
            self.week[day.weekday().to_monday_zero_offset() as usize].is_some()
                && off.binary_search(&day).is_err()
        };
        let within_a_year =
            |from: Date| std::iter::successors(Some(from), |day| day.tomorrow().ok()).take(365).any(works);
        if off.iter().all(|day| within_a_year(*day)) { Ok(()) } else { Err(BadHours::Never) }
    }

    /// Clock of the workshop.
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

    /// Schedules work that may start at `not_before` around time that is taken: stretches, each with the number of units
    /// finished by its end. `units` are minutes between natural breaks. Closing time splits no unit, and work stops only
    /// at a break. Overtime is used if it finishes everything and at least half of that lies within hours. A unit longer
    /// than any day starts with a day and runs until it is done. Empty if there are no hours within a year.
    pub fn spend(&self, not_before: Timestamp, units: &[f64], taken: &BusyTimes) -> Vec<(Stretch, usize)> {
        let longest = self.week.iter().flatten().map(|day| f64::from(day.to - day.from)).fold(0.0, f64::max);
        let mut stretches = Vec::new();
        let mut at = 0;
        for Free { stretch, cut, from_opening, to_closing } in self.free(not_before, taken) {
            let room = between(stretch.0, stretch.1);
            let left: f64 = units[at..].iter().sum();
            let over = left - room;
            let stays_longer =
                over > 0.0 && to_closing && over <= f64::from(self.overrun) && room >= 0.5 * left;
            let mut spent = 0.0;
            let before = at;
            if left <= room + 1e-9 || stays_longer {
                (spent, at) = (left, units.len());
            } else {
                while at < units.len() && spent + units[at] <= room + 1e-9 {
                    spent += units[at];
                    at += 1;
                }
                let endless = units.get(at).is_some_and(|unit| *unit > longest);
                if at == before && endless && from_opening && !cut {
                    (spent, at) = (units[at], at + 1);
                }
            }
            if at > before {
                stretches.push(((stretch.0, plus_minutes(stretch.0, spent)), at));
            }
            if at == units.len() {
                return stretches;
            }
        }
        Vec::new()
    }

    /// Free working hours from a time on, day by day for a year.
    pub(crate) fn free(&self, from: Timestamp, taken: &BusyTimes) -> impl Iterator<Item = Free> {
        let clock = self.clock();
        let first = from.to_zoned_datetime(clock.clone()).date();
        let days = std::iter::successors(Some(first), |day| day.tomorrow().ok()).take(AHEAD);
        let hours = days.filter_map(move |day| self.of_day(day, &clock));
        let ahead = hours.filter(move |(_, ends)| from < *ends);
        ahead.flat_map(move |(opens, closes)| {
            let free = taken.around((opens.max(from), closes)).into_iter();
            free.map(move |(stretch, cut)| Free {
                stretch,
                cut,
                from_opening: stretch.0 == opens,
                to_closing: stretch.1 == closes,
            })
        })
    }
}

/// Working hours that are free.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Free {
    /// Start and end.
    pub stretch: Stretch,
    /// True if it is bounded by time that is taken.
    pub cut: bool,
    /// True if it starts at opening time.
    pub from_opening: bool,
    /// True if it ends at closing time.
    pub to_closing: bool,
}

/// Splits minutes of work without natural breaks into quarter hours.
pub(crate) fn quarters(minutes: f64) -> Vec<f64> {
    let whole = (minutes / QUARTER).floor().clamp(0.0, 1e4) as usize;
    let rest = minutes - QUARTER * whole as f64;
    std::iter::repeat_n(QUARTER, whole).chain((rest > 1e-9).then_some(rest)).collect()
}

/// Start and end of work.
pub type Stretch = (Timestamp, Timestamp);

/// Time that is already taken.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct BusyTimes(Vec<Stretch>);

impl BusyTimes {
    /// Adds stretches, in any order.
    pub fn take(&mut self, stretches: impl IntoIterator<Item = Stretch>) {
        self.0.extend(stretches.into_iter().filter(|(begins, ends)| begins < ends));
        self.0.sort_unstable();
    }

    /// Time when at least one of two people is busy.
    pub fn both(one: &Self, other: &Self) -> Self {
        let mut all: Vec<Stretch> = [one.0.as_slice(), &other.0].concat();
        all.sort_unstable();
        let mut merged: Vec<Stretch> = Vec::with_capacity(all.len());
        for next in all {
            match merged.last_mut() {
                Some(last) if next.0 <= last.1 => last.1 = last.1.max(next.1),
                _ => merged.push(next),
            }
        }
        Self(merged)
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

/// Minutes from one time to another; negative if the second is earlier.
pub(crate) fn between(from: Timestamp, to: Timestamp) -> f64 {
    to.duration_since(from).as_secs_f64() / 60.0
}

/// A time some minutes later, rounded to a second.
pub fn plus_minutes(from: Timestamp, minutes: f64) -> Timestamp {
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

    fn strict(zone: &str) -> WorkingHours {
        WorkingHours { overrun: 0, ..WorkingHours::usual(zone) }
    }

    fn stretches(hours: &WorkingHours, from: Timestamp, minutes: f64) -> Vec<Stretch> {
        hours
            .spend(from, &quarters(minutes), &BusyTimes::default())
            .into_iter()
            .map(|(stretch, _)| stretch)
            .collect()
    }

    #[test]
    fn what_does_not_fit_today_goes_on_tomorrow() {
        let hours = strict("Europe/Vienna");
        let wanted = [
            (at("2026-11-27T15:00[Europe/Vienna]"), at("2026-11-27T17:00[Europe/Vienna]")),
            (at("2026-11-30T09:00[Europe/Vienna]"), at("2026-11-30T10:00[Europe/Vienna]")),
        ];
        assert_eq!(stretches(&hours, wanted[0].0, 180.0), wanted, "a Friday, then a Monday");
        // For ten minutes nobody starts an hour's work.
        let late = stretches(&hours, at("2026-11-27T16:50[Europe/Vienna]"), 60.0);
        assert_eq!(late[0].0, wanted[1].0);
    }

    /// Everybody stays six minutes longer to finish a primer; nobody starts at five to stay for a quarter of an hour (common practice).
    #[test]
    fn six_minutes_do_not_cost_a_day() {
        let hours = WorkingHours::usual("Europe/Vienna");
        let (from, closing) = (at("2026-11-30T16:20[Europe/Vienna]"), at("2026-11-30T17:00[Europe/Vienna]"));
        let primed = hours.spend(from, &[46.0], &BusyTimes::default());
        assert_eq!(primed, [((from, plus_minutes(closing, 6.0)), 1)]);
        let tomorrow = at("2026-12-01T09:00[Europe/Vienna]");
        let next_day = strict("Europe/Vienna").spend(from, &[46.0], &BusyTimes::default());
        assert_eq!(next_day[0].0.0, tomorrow);
        let late = at("2026-11-30T16:55[Europe/Vienna]");
        assert_eq!(hours.spend(late, &[14.0], &BusyTimes::default())[0].0.0, tomorrow);
    }

    /// Half a wall is never left: three panels of 50 minutes from half past two are two today and one tomorrow. A wall longer than a
    /// day takes one from its start to its end.
    #[test]
    fn work_is_left_at_a_break() {
        let hours = strict("Europe/Vienna");
        let from = at("2026-11-30T15:00[Europe/Vienna]");
        let tomorrow = at("2026-12-01T09:00[Europe/Vienna]");
        let panels = hours.spend(from, &[50.0; 3], &BusyTimes::default());
        let wanted = [((from, plus_minutes(from, 100.0)), 2), ((tomorrow, plus_minutes(tomorrow, 50.0)), 3)];
        assert_eq!(panels, wanted);
        let wall = hours.spend(from, &[600.0], &BusyTimes::default());
        assert_eq!(wall, [((tomorrow, plus_minutes(tomorrow, 600.0)), 1)]);
    }

    /// Clocks go forward on 29 March 2026 and back on 25 October in Vienna: a night shift has seven and nine hours.
    #[test]
    fn days_of_23_and_25_hours() {
        let night = Some(DayHours { from: 0, to: 8 * 60 });
        let hours = WorkingHours { week: [night; 7], ..strict("Europe/Vienna") };
        for (day, minutes) in [("2026-03-29", 7.0 * 60.0), ("2026-10-25", 9.0 * 60.0), ("2026-06-01", 480.0)]
        {
            let stretches = stretches(&hours, at(&format!("{day}T00:00[Europe/Vienna]")), 24.0 * 60.0);
            assert_eq!(between(stretches[0].0, stretches[0].1), minutes, "{day}");
        }
    }

    #[test]
    fn hours_that_cannot_be() {
        let usual = WorkingHours::usual("Europe/Vienna");
        assert_eq!(usual.check(), Ok(()));
        let none = WorkingHours { week: [None; 7], ..usual.clone() };
        assert!(none.check().unwrap_err().to_string().contains("at least one"));
        assert!(stretches(&none, at("2026-11-27T15:00[Europe/Vienna]"), 5.0).is_empty());
        assert!(WorkingHours::usual("Moon/Crater").check().is_err());
        let every_day = |from, to| WorkingHours { week: [Some(DayHours { from, to }); 7], ..usual.clone() };
        assert!(every_day(600, 500).check().unwrap_err().to_string().contains("Monday"));
        assert_eq!(every_day(600, 614).check(), Err(BadHours::TooShort("Monday", 14)));
        assert_eq!(every_day(600, 615).check(), Ok(()));
        assert!(WorkingHours { overrun: 121, ..usual.clone() }.check().is_err());
        // Sundays only, and a year of them off.
        let sunday = jiff::civil::date(2026, 11, 29);
        let sundays: Vec<Date> = (0..54).map(|n| sunday.checked_add(Span::new().weeks(n)).unwrap()).collect();
        let only_sundays = [None, None, None, None, None, None, usual.week[0]];
        let never = WorkingHours { week: only_sundays, off: sundays, ..usual };
        assert_eq!(never.check(), Err(BadHours::Never));
        let some = WorkingHours { off: never.off[..30].to_vec(), ..never };
        assert_eq!(some.check(), Ok(()));
    }

    proptest! {
        /// What is free and what is taken are the hours, and nothing twice.
        #[test]
        fn free_and_taken_are_the_hours(busy in proptest::collection::vec((0i64..4 * 1440, 1i64..300), 0..6)) {
            let hours = WorkingHours::usual("Europe/Vienna");
            let from = at("2026-11-30T00:00[Europe/Vienna]");
            let until = at("2026-12-04T00:00[Europe/Vienna]");
            let mut taken = BusyTimes::default();
            let mut latest = from;
            for (after, minutes) in busy {
                // Each after the one before: nobody does two things at once.
                let begins = plus_minutes(latest, after as f64 / 6.0);
                latest = plus_minutes(begins, minutes as f64);
                taken.take([(begins, latest)]);
            }
            let free = |of: &BusyTimes| -> Vec<Stretch> {
                hours.free(from, of).map(|free| free.stretch).take_while(|free| free.0 < until).collect()
            };
            let sum = |of: &BusyTimes| -> f64 { free(of).iter().map(|free| between(free.0, free.1.min(until))).sum() };
            let (all, left) = (sum(&BusyTimes::default()), sum(&taken));
            prop_assert_eq!(all, 4.0 * 8.0 * 60.0);
            let worked: f64 = free(&BusyTimes::default()).iter()
                .map(|(begins, ends)| taken.0.iter().map(|(a, b)| between((*a).max(*begins), (*b).min(*ends)).max(0.0)).sum::<f64>()).sum();
            prop_assert!((left + worked - all).abs() < 0.1, "{left} and {worked} of {all}");
            for one in free(&taken) {
                prop_assert!(taken.0.iter().all(|(a, b)| one.1 <= *a || *b <= one.0));
            }
        }

        /// Two people are free together where each of them is.
        #[test]
        fn both_are_taken_where_either_is(one in proptest::collection::vec((0i64..900, 1i64..90), 0..5), other in proptest::collection::vec((0i64..900, 1i64..90), 0..5)) {
            let from = at("2026-11-30T08:00[Europe/Vienna]");
            let busy = |all: &[(i64, i64)]| {
                let mut taken = BusyTimes::default();
                taken.take(all.iter().map(|(after, minutes)| {
                    let begins = plus_minutes(from, *after as f64);
                    (begins, plus_minutes(begins, *minutes as f64))
                }));
                taken
            };
            let (one, other) = (busy(&one), busy(&other));
            let both = BusyTimes::both(&one, &other);
            for minute in 0..1000 {
                let at = plus_minutes(from, minute as f64 + 0.5);
                let is = |taken: &BusyTimes| taken.0.iter().any(|(begins, ends)| *begins <= at && at < *ends);
                prop_assert_eq!(is(&both), is(&one) || is(&other));
            }
            prop_assert!(both.0.windows(2).all(|two| two[0].1 < two[1].0));
        }

        /// All of it is spent in whole units, within hours but for the overrun at the very end, in order, around what is taken; later
        /// never ends earlier.
        #[test]
        fn all_of_it_within_hours(start in 0i64..400 * 86_400, units in proptest::collection::vec(0.5..200.0f64, 1..12), more in 0i64..100_000, other in 0.0..2000.0f64, ahead in 0i64..5 * 86_400) {
            let hours = WorkingHours::usual("America/New_York");
            let from = Timestamp::from_second(1_767_225_600 + start).unwrap();
            // Another piece takes some of the time.
            let mut taken = BusyTimes::default();
            let another = hours.spend(Timestamp::from_second(from.as_second() + ahead).unwrap(), &quarters(other), &taken);
            taken.take(another.iter().map(|(stretch, _)| *stretch));
            let stretches = hours.spend(from, &units, &taken);
            let mut before = 0;
            for (n, ((begin, end), done)) in stretches.iter().enumerate() {
                let spent: f64 = units[before..*done].iter().sum();
                prop_assert!(*done > before && (between(*begin, *end) - spent).abs() < 0.02);
                before = *done;
                let day = |t: &Timestamp| t.to_zoned_datetime(hours.clock());
                prop_assert!(day(begin).hour() >= 9 && day(begin).date() == day(end).date());
                let closes = if n + 1 == stretches.len() { jiff::civil::time(17, 15, 0, 0) } else { jiff::civil::time(17, 0, 0, 0) };
                prop_assert!(day(end).time() <= closes && begin <= end && *begin >= from);
                prop_assert!(another.iter().all(|((from, to), _)| end <= from || to <= begin || from == to));
            }
            prop_assert_eq!(before, units.len());
            let later = hours.spend(Timestamp::from_second(from.as_second() + more).unwrap(), &units, &taken);
            prop_assert!(later.last().unwrap().0.1 >= stretches.last().unwrap().0.1);
        }
    }
}
