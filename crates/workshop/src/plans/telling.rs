//! A plan in words: its steps, what was done, and the summary.

use jiff::Timestamp;
use warm_blend_board::{Family, TakeCare, cautions_of};
use warm_blend_documents::{layer_words, work_words};
use warm_blend_paint::{Dimension, PaintId};
use warm_blend_plan::{
    By, Done, Laid, Scheduled, Step, Work, ZoneWork, amounts, breaks_at, care_card, hands_on, plus_minutes,
    tools,
};

use super::entry::RunSheetEntry;
use super::materials::{Swatches, swatch_of};
use super::planning::Planned;
use super::view::{
    CareView, ClockView, CostView, DoneView, DryingView, PaceView, PriceBetween, ReadyBetween, RunSheetView,
    StepView, ToolView, WetEdgeView,
};
use crate::{Refusal, scheme_of};

impl Planned<'_> {
    /// Name of a step.
    pub(super) fn name(&self, work: &Work) -> String {
        work_words(work, &|paint| self.product(paint))
    }

    /// Name of a coat of a layer.
    pub(super) fn layer_name(&self, laid: &Laid) -> String {
        layer_words(laid, &|paint| self.product(paint))
    }

    /// Contents of a layer's pot in words.
    pub(super) fn pot(&self, laid: &Laid) -> Option<String> {
        (!laid.pot.is_empty()).then(|| self.room.shelf.pot_words(&laid.pot))
    }

    /// Pots of a step, each one once.
    pub(super) fn pots_of(&self, work: &Work) -> impl Iterator<Item = String> {
        let mut pots: Vec<String> = Vec::new();
        for pot in work.layers().iter().filter_map(|laid| self.pot(laid)) {
            if !pots.contains(&pot) {
                pots.push(pot);
            }
        }
        pots.into_iter()
    }

    /// The pots of a step in one line.
    fn pot_words(&self, work: &Work) -> Option<String> {
        let pots: Vec<String> = self.pots_of(work).collect();
        (!pots.is_empty()).then(|| pots.join("; "))
    }

    fn why(&self, step: &Step) -> Option<&'static str> {
        let bleeds = self.zones_of(step).iter().any(|zone| zone.ground.bleeds());
        match &step.work {
            Work::LeadTest => Some("test before you sand: if there is lead, the plan stops"),
            Work::Dewax => Some("paint does not stick to wax"),
            Work::Strip => Some(
                "after the lead test, with stripper and scraper; set the surface to raw wood if nothing is left",
            ),
            Work::GlueDown => Some("warm glue under it with a knife, clamp it over baking paper overnight"),
            Work::Fill => Some("fill a little proud: it shrinks"),
            Work::Drill => Some("mark with the template, drill from the front over tape"),
            Work::BlockStains => Some("tannin, knots and old stain bleed through water-based paint"),
            Work::Soak => Some(
                "in a lidded tub of hot water with a little soap; loose paint comes off with a toothbrush",
            ),
            Work::Polish => Some("wash the polish off afterwards: paint and wax don’t stick to it"),
            Work::Deglaze => Some("paint does not stick to gloss; dry in about ten minutes, no rinsing"),
            Work::WaxOff => Some("paint does not stick to wax"),
            Work::ScuffBack => Some("so that what covers it sticks"),
            Work::TapeOff => Some("while the edge is soft: later it tears the film"),
            Work::Rest => Some("dry to the touch is not hard: wax and paint take up to 30 days"),
            Work::Wet(_) => Some("worked section by section while it is wet: all of it dries together"),
            Work::Layer(laid) if self.blocks(laid) && bleeds => {
                Some("tannin and old stain bleed through water-based paint: this blocks them")
            }
            Work::Layer(laid) if self.blocks(laid) => Some("so that what follows sticks"),
            Work::Layer(laid) if laid.coat.0 == 1 => match laid.technique.family() {
                Family::Coat if laid.coat.1 > 1 => {
                    Some("the first coat never shows the true colour; sand lightly before the next")
                }
                Family::Stain => {
                    Some("mist the wood and wait a minute first: damp, it takes the colour evenly")
                }
                _ => None,
            },
            _ => None,
        }
    }

    pub(super) fn care(&self, step: &Step) -> Vec<TakeCare> {
        let zones = self.zones_of(step);
        let old = zones.iter().find(|zone| zone.ground.may_hold_lead()).or(zones.first());
        let ground = old.map_or(self.piece.ground.kind, |zone| zone.ground);
        match &step.work {
            Work::LeadTest => vec![TakeCare::LEAD],
            Work::Strip if ground.is_raw_wood() => vec![TakeCare::SOLVENT, TakeCare::RAGS],
            Work::Strip => vec![TakeCare::LEAD, TakeCare::SOLVENT, TakeCare::RAGS],
            Work::Soak if ground.may_hold_lead() => vec![TakeCare::LEAD],
            Work::BlockStains => vec![TakeCare::SOLVENT],
            Work::SandFlush | Work::Drill | Work::Scuff | Work::ScuffBack if ground.may_hold_lead() => {
                vec![TakeCare::LEAD, TakeCare::DUST]
            }
            Work::SandFlush | Work::Drill | Work::Scuff | Work::ScuffBack => vec![TakeCare::DUST],
            Work::Deglaze => vec![TakeCare::SOLVENT],
            Work::Dewax | Work::WaxOff => vec![TakeCare::SOLVENT, TakeCare::RAGS],
            work => {
                let mut all: Vec<TakeCare> = Vec::new();
                for laid in work.layers() {
                    let cares = cautions_of(laid.technique, &self.contents(laid), ground);
                    all.extend(cares.into_iter().filter(|care| !all.contains(care)).collect::<Vec<_>>());
                }
                all
            }
        }
    }

    /// Cautions of a step, in full the first time.
    pub(super) fn care_views(&self, step: &Step, said: &mut Vec<TakeCare>) -> Vec<CareView> {
        let tell = |care: TakeCare| {
            if said.contains(&care) {
                return CareView { words: care.short, source: None };
            }
            said.push(care);
            CareView { words: care.words, source: Some(care.source) }
        };
        self.care(step).into_iter().map(tell).collect()
    }

    pub(super) fn wet_edge(&self, step: &Step, by: By) -> Option<WetEdgeView> {
        let edge = step.wet_edge.as_ref()?;
        let zones = self.zones_of(step);
        let together = edge.shared.filter(|_| by == By::Both);
        let (section, count) =
            together.map_or((edge.section, edge.sections), |shared| (shared.section, shared.sections));
        let sections = match count {
            1 => "all in one go".to_owned(),
            n => {
                let size = self.asked.units.say(Dimension::Area, section);
                format!("{n} sections of about {size}: {}", breaks(&zones))
            }
        };
        let two = match (edge.shared, by) {
            (Some(_), By::Both) => {
                ". One applies and the other works it, always leaving a wet strip to join up"
            }
            (Some(_), _) => {
                ". Alone you can hardly keep the edge wet: add extender, work smaller sections, or cool the room. A helper \
                 who applies while you work it makes it one stretch"
            }
            _ => "",
        };
        let words = format!("Open time about {:.0} min: {sections}{two}", edge.open);
        Some(WetEdgeView { words, two: edge.shared.is_some() })
    }

    /// Where a step pauses for the day, in terms of what is finished.
    fn pauses(&self, step: &Step, when: &Scheduled) -> Vec<String> {
        let ends = when.stretches.iter().zip(&when.units).take(when.stretches.len().saturating_sub(1));
        let words = |(_, done): (_, &usize)| {
            let zone = step.units.get(done.checked_sub(1)?)?.zone;
            let of = step.units.iter().filter(|unit| unit.zone == zone).count();
            let finished = step.units[..*done].iter().filter(|unit| unit.zone == zone).count();
            let name = zone.name().to_lowercase();
            Some(if finished == of {
                format!("pause after the {name}")
            } else {
                format!("pause after {finished} of {of} parts of the {name}")
            })
        };
        ends.filter_map(words).collect()
    }

    pub(super) fn step(&self, (step, when): (&Step, &Scheduled), swatches: &Swatches) -> StepView {
        let main = step.work.layers().last();
        let alone = amounts(std::slice::from_ref(step), &self.zones);
        let amount: Vec<String> = alone.iter().map(|needed| self.amount(needed.ml)).collect();
        let next = self.steps.iter().flat_map(|other| &other.after).filter(|after| after.step == when.step);
        let dry = next.map(|after| after.wait).reduce(f64::max);
        let (begins, ends) = (when.stretches.first(), when.stretches.last());
        StepView {
            id: step.id.to_string(),
            name: self.name(&step.work),
            pot: self.pot_words(&step.work),
            parts: main.map_or_else(Vec::new, |laid| laid.pot.clone()),
            swatch: main.and_then(|laid| swatch_of(&laid.pot, swatches)),
            amount: (!amount.is_empty()).then(|| amount.join(" + ")),
            zones: step.zones.iter().map(|zone| zone.name()).collect(),
            why: self.why(step),
            minutes: self.minutes(step),
            reasons: self.reasons(step),
            rests: step.work == Work::Rest,
            begins: quarter(begins.map_or(when.ends, |(from, _)| *from)).to_string(),
            ends: quarter(ends.map_or(when.ends, |(_, to)| *to)).to_string(),
            dry: dry.map(|wait| quarter(plus_minutes(when.ends, wait)).to_string()),
            split: when.stretches.len() > 1,
            pauses: self.pauses(step, when),
            by: by_words(when.by),
            critical: step.critical,
            ready: step.after.is_empty(),
            clock: self
                .sheet
                .clock_of(step.id)
                .map(|clock| ClockView { minutes: clock.shows(self.asked.now), runs: clock.since.is_some() }),
            asks_lead: step.work == Work::LeadTest,
            wet_edge: self.wet_edge(step, when.by),
            care: Vec::new(),
        }
    }

    /// Zones that are drying, and until when.
    fn drying(&self) -> Vec<DryingView> {
        let tins = |paint: PaintId| self.product(paint);
        let mut all: Vec<DryingView> = Vec::new();
        for (zone, on) in self.on.zones() {
            let Some(until) = on.wet_until(&tins, self.sheet.air).filter(|until| *until > self.asked.now)
            else {
                continue;
            };
            let until = quarter(until).to_string();
            match all.iter_mut().find(|other| other.until == until) {
                Some(other) => other.zones.push(zone.name()),
                None => all.push(DryingView { zones: vec![zone.name()], until }),
            }
        }
        all
    }

    /// Earliest and latest time when it is ready, in nine cases of ten.
    fn ready_between(&self, within: f64) -> Option<ReadyBetween> {
        self.ready()?;
        let ends = |times: f64| {
            let plan = self.scheduled(&self.sheet.hours, self.sheet.helper, times)?;
            Some(Self::ends(&plan)?.to_string())
        };
        Some(ReadyBetween { first: ends(1.0 / within)?, last: ends(within)? })
    }

    /// The sheet for display.
    pub fn view(&self, revision: i64) -> Result<RunSheetView, Refusal> {
        let stop = self.stop();
        let (whole, left) = (amounts(&self.all, &self.zones), amounts(&self.steps, &self.zones));
        let swatches = self.swatches(&left)?;
        let steps: Vec<StepView> = match stop {
            Some(_) => Vec::new(),
            None => {
                let mut said: Vec<TakeCare> = Vec::new();
                self.in_order()
                    .map(|one| StepView {
                        care: self.care_views(one.0, &mut said),
                        ..self.step(one, &swatches)
                    })
                    .collect()
            }
        };
        let ends = self.ready();
        let of_all: f64 = self.all.iter().map(|step| self.minutes(step)).sum();
        let to_do: f64 = hands_on(&self.plan);
        let hours = of_all / 60.0;
        let (within, within_left) = (self.within(self.all.iter()), self.within(self.steps.iter()));
        let materials = self.materials(&whole);
        let cost = self.sheet.rates.cost(materials, hours);
        let price = |times: f64| self.sheet.rates.cost(materials, hours * times).price;
        let units = self.asked.units;
        let area: f64 = self.zones.iter().map(|zone| zone.area).sum::<f64>() / units.one(Dimension::Area);
        let tins = |paint: PaintId| self.product(paint);
        Ok(RunSheetView {
            revision,
            entry: RunSheetEntry::of(self.sheet),
            scheme: scheme_of(self.piece, None)?.name.as_str().to_owned(),
            ends: ends.map(|ends| ends.to_string()),
            minutes: if stop.is_some() { 0.0 } else { to_do },
            work_left: (stop.is_none() && to_do > 0.0)
                .then(|| hours_between(to_do / within_left, to_do * within_left)),
            ready_between: self.ready_between(within_left),
            drying: self.drying(),
            share_done: if of_all > 0.0 { (1.0 - to_do / of_all).clamp(0.0, 1.0) } else { 0.0 },
            due: self.piece.brief.due.map(|due| due.to_string()),
            other_ways: ends.map_or_else(Vec::new, |ends| self.other_ways(ends)),
            verdict: ends.and_then(|ends| self.verdict(ends)),
            notes: self.assumptions(&whole),
            pots: self.pots(&left, &swatches),
            shopping: self.to_buy(&self.after_jars(&left)),
            undercoats: self.undercoats(),
            cost: CostView {
                materials: cost.materials,
                hours,
                hours_words: hours_between(of_all / within, of_all * within),
                price_between: PriceBetween { least: price(1.0 / within), most: price(within) },
                tins: self.tin_costs(&whole),
                work: cost.work,
                overhead: cost.overhead,
                price: cost.price,
                price_per_area: (area > 0.0).then(|| cost.price / area),
                area_unit: units.unit(Dimension::Area),
                budget: self.piece.brief.budget,
                buyers: self.buyers()?,
            },
            care_card: care_card(self.wanted.iter().map(|works| works.iter().collect()), &tins),
            schemes: self.schemes()?,
            schools: ends.map_or_else(|| Ok(Vec::new()), |ends| self.schools(ends))?,
            elsewhere: self.elsewhere(),
            idle: self.idle(),
            if_it_stays: self.if_it_stays(),
            tools: tools(&self.steps, &tins)
                .into_iter()
                .map(|tool| ToolView { name: tool.name, count: tool.count, why: tool.why })
                .collect(),
            brushes: self.brushes(),
            paces: self
                .asked
                .paces
                .learned_ones()
                .map(|(technique, pace)| PaceView {
                    technique: technique.name(),
                    factor: pace.factor,
                    within: pace.within,
                    steps: pace.steps,
                })
                .collect(),
            done: self.done(),
            steps,
            stop,
        })
    }

    pub(super) fn done(&self) -> Vec<DoneView> {
        let one = |(at_place, done): (usize, &Done)| DoneView {
            at_place,
            name: self.name(&done.work),
            pot: self.pot_words(&done.work),
            zones: done.zones.iter().map(|zone| zone.name()).collect(),
            at: done.at.to_string(),
            minutes: done.minutes,
            usual: done.usual,
            note: done.note.as_ref().map(|note| note.as_str().to_owned()),
            photo: done.photo,
            by: done.by.as_ref().map(|by| by.as_str().to_owned()),
            from_jars: self.jars_taken(done),
        };
        self.sheet.done.iter().enumerate().rev().map(one).collect()
    }
}

/// `you`, `helper` or `both`.
pub(super) const fn by_words(by: By) -> &'static str {
    match by {
        By::Painter => "you",
        By::Helper => "helper",
        By::Both => "both",
    }
}

/// Rounds a time to a quarter of an hour.
pub(super) fn quarter(at: Timestamp) -> Timestamp {
    const QUARTER: i64 = 15 * 60;
    let nearest = (at.as_second() + QUARTER / 2).div_euclid(QUARTER) * QUARTER;
    Timestamp::from_second(nearest).unwrap_or(at)
}

/// Hours of work as a range: `14 to 19 h`, `1½ to 2 h`; in minutes below an hour.
pub(super) fn hours_between(least: f64, most: f64) -> String {
    let said = |minutes: f64| match minutes {
        minutes if minutes < 600.0 => (minutes / 30.0).round() * 0.5,
        minutes => (minutes / 60.0).round(),
    };
    let number = |hours: f64| match (hours.floor(), hours.fract()) {
        (whole, half) if half > 0.0 && whole > 0.0 => format!("{whole}½"),
        (_, half) if half > 0.0 => "½".to_owned(),
        (whole, _) => format!("{whole}"),
    };
    if most < 60.0 {
        let minutes = |minutes: f64| ((minutes / 5.0).round() * 5.0).max(5.0);
        let (least, most) = (minutes(least), minutes(most));
        return if least < most { format!("{least} to {most} min") } else { format!("{most} min") };
    }
    let (least, most) = (said(least).max(0.5), said(most));
    if least < most {
        format!("{} to {} h", number(least), number(most))
    } else {
        format!("{} h", number(most))
    }
}

/// Where sections end, by zone; equal ones are named once.
fn breaks(zones: &[&ZoneWork]) -> String {
    let mut all: Vec<(&str, Vec<String>)> = Vec::new();
    for zone in zones {
        let (at, name) = (breaks_at(zone.zone), zone.zone.name().to_lowercase());
        match all.iter_mut().find(|(words, _)| *words == at) {
            Some((_, names)) => names.push(name),
            None => all.push((at, vec![name])),
        }
    }
    if let [(words, _)] = all.as_slice() {
        return (*words).to_owned();
    }
    let words: Vec<String> =
        all.iter().map(|(words, names)| format!("{} {words}", names.join(", "))).collect();
    words.join("; ")
}

#[cfg(test)]
mod tests {
    use super::*;

    /// As many digits as are known.
    #[test]
    fn hours_as_a_painter_would_say_them() {
        let said = [(31.0, 52.0), (80.0, 121.0), (840.0, 1150.0), (3.0, 4.0), (40.0, 95.0), (59.0, 61.0)];
        let said = said.map(|(least, most)| hours_between(least, most));
        assert_eq!(said, ["30 to 50 min", "1½ to 2 h", "14 to 19 h", "5 min", "½ to 1½ h", "1 h"]);
    }

    /// Times keep their order, and none moves by more than half a quarter.
    #[test]
    fn times_to_the_quarter() {
        let at = |text: &str| text.parse::<Timestamp>().unwrap();
        assert_eq!(quarter(at("2026-11-30T09:07:29Z")), at("2026-11-30T09:00:00Z"));
        assert_eq!(quarter(at("2026-11-30T09:07:30Z")), at("2026-11-30T09:15:00Z"));
        assert_eq!(quarter(at("1969-12-31T23:50:00Z")), at("1969-12-31T23:45:00Z"));
    }
}
