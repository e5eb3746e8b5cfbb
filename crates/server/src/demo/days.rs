//! Dates of the demo's six weeks, relative to today.

use jiff::{Timestamp, ToSpan, tz::TimeZone};

/// A time of day some days ago, on the clock of this computer.
pub fn days_ago(days: i64, (hour, minute): (i8, i8)) -> Timestamp {
    let zone = TimeZone::system();
    let now = Timestamp::now();
    let day = now.to_zoned_datetime(zone.clone()).date().checked_sub(days.days());
    let at = day.map(|day| zone.to_ambiguous_timestamp(day.at(hour, minute, 0, 0)).compatible());
    // The calendar has no end a few weeks ago.
    at.ok().and_then(Result::ok).unwrap_or(now)
}
