//! Alternatives: other hours, other ways of working, other schemes.

use std::{cell::RefCell, collections::BTreeSet};

use jiff::Timestamp;
use warm_blend_board::{Layer, Way as OtherSchool, other_ways};
use warm_blend_paint::{Class, PaintId};
use warm_blend_piece::{Piece, Scheme, buyers};
use warm_blend_plan::{DayHours, WorkingHours, amounts, hands_on, if_it_stays};

use super::planning::{Planned, Way};
use super::view::{OtherWay, SchemeCost, SchoolCost};
use crate::{FindingView, Refusal, scheme_of};

/// How to be ready sooner.
#[derive(Debug, Clone, Copy, PartialEq, Eq, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
enum Sooner {
    Helper,
    LongerDays,
    Weekends,
    AllThree,
}

impl Sooner {
    const fn words(self) -> &'static str {
        match self {
            Self::Helper => "Get a helper",
            Self::LongerDays => "Work 2 more hours a day",
            Self::Weekends => "Work weekends",
            Self::AllThree => "All three",
        }
    }
}

/// Longer working day, in additional minutes, and the latest end.
const LONGER: u16 = 120;

impl Planned<'_> {
    pub(super) fn verdict(&self, ends: Timestamp) -> Option<String> {
        let due = self.piece.brief.due?;
        let clock = self.sheet.hours.clock();
        let day = ends.to_zoned_datetime(clock).date();
        let days = day.until(due).ok()?.get_days();
        let count = |n: i32| if n == 1 { "1 day".to_owned() } else { format!("{n} days") };
        Some(match days {
            0 => "Just in time: ready on the due day.".to_owned(),
            n if n > 0 => format!("On time, {} to spare.", count(n)),
            n => format!("Late by {}. See what you could do.", count(-n)),
        })
    }

    /// Ways to be ready sooner.
    pub(super) fn other_ways(&self, ends: Timestamp) -> Vec<OtherWay> {
        let hours = &self.sheet.hours;
        let with = |change: &dyn Fn(&mut [Option<DayHours>; 7])| {
            let mut week = hours.week;
            change(&mut week);
            WorkingHours { week, ..hours.clone() }
        };
        let longest = hours.week.iter().flatten().max_by_key(|window| window.to - window.from).copied();
        let longer = |week: &mut [Option<DayHours>; 7]| {
            week.iter_mut().flatten().for_each(|day| day.to = (day.to + LONGER).min(24 * 60));
        };
        let weekends = |week: &mut [Option<DayHours>; 7]| {
            week[5..].iter_mut().for_each(|day| *day = day.or(longest));
        };
        let all = with(&|week| {
            weekends(week);
            longer(week);
        });
        let ways = [
            (Sooner::Helper, hours.clone(), true),
            (Sooner::LongerDays, with(&longer), self.sheet.helper),
            (Sooner::Weekends, with(&weekends), self.sheet.helper),
            (Sooner::AllThree, all, true),
        ];
        let clock = hours.clock();
        let day = |at: Timestamp| at.to_zoned_datetime(clock.clone()).date();
        let mut found: Vec<(Timestamp, OtherWay)> = Vec::new();
        // A way that saves less than a day is left out, and all three together are shown only if they beat each alone.
        for (way, hours, helper) in ways {
            let Some(over) = self.scheduled(&hours, helper, 1.0).and_then(|plan| Self::ends(&plan)) else {
                continue;
            };
            let alone = way != Sooner::AllThree || found.iter().all(|(other, _)| day(over) < day(*other));
            if day(over) < day(ends) && alone {
                found.push((over, OtherWay { id: way.into(), words: way.words(), ends: over.to_string() }));
            }
        }
        found.sort_by_key(|(over, _)| *over);
        found.into_iter().map(|(_, way)| way).collect()
    }

    /// What cannot wait if work stops for a week.
    pub(super) fn if_it_stays(&self) -> Vec<&'static str> {
        let mut all = Vec::new();
        for zone in &self.zones {
            let next = self.steps.iter().find(|step| step.zones.contains(&zone.zone));
            let last = self.on.zone(zone.zone).and_then(|on| on.last());
            let shown = last.zip(next).and_then(|(last, next)| if_it_stays(last, &next.work));
            all.extend(shown.filter(|shown| !all.contains(shown)));
        }
        all
    }

    /// Remaining time and cost of each scheme.
    pub(super) fn schemes(&self) -> Result<Vec<SchemeCost>, Refusal> {
        let of = |(at, scheme): (usize, &Scheme)| {
            let name = scheme.name.as_str().to_owned();
            if at == self.piece.chosen {
                return Ok(SchemeCost { name, chosen: true, ..self.scheme_cost() });
            }
            let piece = Piece { chosen: at, ..self.piece.clone() };
            let planned =
                self.room.plan_around((&piece, self.sheet), self.asked.clone(), self.taken.clone())?;
            Ok(SchemeCost { name, ..planned.scheme_cost() })
        };
        self.piece.schemes.iter().enumerate().map(of).collect()
    }

    pub(super) fn scheme_cost(&self) -> SchemeCost {
        SchemeCost {
            name: String::new(),
            chosen: false,
            ends: self.ready().map(|ends| ends.to_string()),
            minutes: hands_on(&self.plan),
            materials: self.materials(&amounts(&self.steps, &self.zones)),
        }
    }

    /// Time and effort of other schools' ways from here on, with the same answers as on the board, on every zone that
    /// they apply to.
    pub(super) fn schools(&self, ends: Timestamp) -> Result<Vec<SchoolCost>, Refusal> {
        let clock = self.sheet.hours.clock();
        let day = |at: Timestamp| at.to_zoned_datetime(clock.clone()).date();
        let class = |paint: PaintId| self.product(paint).map(|product| product.class);
        let of_class = |class: Class| self.room.tin_of(class).map(|tin| PaintId(tin.id));
        let ways = |layers: &[Layer]| other_ways(layers, class, of_class);
        let asked: RefCell<BTreeSet<OtherSchool>> = RefCell::default();
        // Collects the ways that apply, without planning them.
        self.room.zones_to_work((self.piece, self.sheet), &|layers| {
            asked.borrow_mut().extend(ways(layers).into_iter().map(|(way, _)| way));
            layers.to_vec()
        })?;
        let mut found: Vec<SchoolCost> = Vec::new();
        for way in asked.into_inner() {
            let Some(dispute) = way.answers() else { continue };
            let planned = self.plan_again(&|layers| {
                let changed = ways(layers).into_iter().find(|(other, _)| *other == way);
                changed.map_or_else(|| layers.to_vec(), |(_, layers)| layers)
            })?;
            let Some(over) = planned.ready() else { continue };
            found.push(SchoolCost {
                id: way.id(),
                question: dispute.question(),
                words: way.words(),
                why: way.why(),
                ends: over.to_string(),
                days: day(ends).until(day(over)).map_or(0, |span| span.get_days()),
                minutes: hands_on(&planned.plan) - hands_on(&self.plan),
            });
        }
        Ok(found)
    }

    fn plan_again(&self, way: Way) -> Result<Self, Refusal> {
        self.room.plan_by((self.piece, self.sheet), self.asked.clone(), self.taken.clone(), way)
    }

    /// How soon such a palette finds a buyer.
    pub(super) fn buyers(&self) -> Result<Option<FindingView>, Refusal> {
        let scheme = scheme_of(self.piece, None)?;
        let Some(seen) = self.room.stand(self.piece, &scheme)? else { return Ok(None) };
        let pairs = seen.looked(self.piece, &scheme, self.room.look).pairs();
        Ok(buyers(&seen.zones, &pairs).map(FindingView::from))
    }
}
