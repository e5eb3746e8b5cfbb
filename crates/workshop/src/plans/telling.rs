//! What a plan says: of its steps, of what was done, of the whole.

use warm_blend_board::{TakeCare, cautions_of};
use warm_blend_paint::{Dimension, PaintId};
use warm_blend_plan::{
    Done, Scheduled, Step, WetEdge, Work, ZoneWork, amounts, breaks_at, care_card, hands_on, later, tools,
};

use super::entry::RunSheetEntry;
use super::materials::{Swatches, swatch_of};
use super::planning::Planned;
use super::view::{
    CareView, ClockView, CostView, DoneView, PaceView, RunSheetView, StepView, ToolView, WetEdgeView,
};
use super::words::work_words;
use crate::{Refusal, scheme_of};

impl Planned<'_> {
    /// What a step is called.
    pub(super) fn name(&self, work: &Work) -> String {
        let hardware = self.all.iter().any(|step| step.work == Work::HardwareOff);
        work_words(work, |paint| self.class(paint), hardware)
    }

    /// What is in the pot of a step, in words.
    pub(super) fn pot(&self, work: &Work) -> Option<String> {
        let laid = work.laid()?;
        (!laid.pot.is_empty()).then(|| self.room.shelf.pot_words(&laid.pot))
    }

    pub(super) fn why(&self, work: &Work) -> Option<&'static str> {
        let ground = self.piece.ground.kind;
        match work {
            Work::LeadTest => Some("before anything is sanded: what is found stops the plan"),
            Work::Deglaze => Some("paint does not hold on gloss; dry in about ten minutes, no rinsing"),
            Work::WaxOff => Some("paint does not hold on wax"),
            Work::ScuffBack => Some("so that what covers it holds"),
            Work::Rest => Some("wax and paint are dry to the touch long before they are hard: up to 30 days"),
            Work::Layer(laid) if self.blocks(laid) && ground.bleeds() => {
                Some("tannin and old stain come up through water-borne paint: this blocks them")
            }
            Work::Layer(laid) if self.blocks(laid) => Some("so that what follows holds"),
            Work::Layer(laid) if laid.coat.0 == 1 && laid.coat.1 > 1 => {
                Some("the first coat is never the colour; sand lightly before the next")
            }
            _ => None,
        }
    }

    pub(super) fn care(&self, step: &Step) -> Vec<TakeCare> {
        let zones = self.zones_of(step);
        let old = zones.iter().any(|zone| zone.ground.may_hold_lead());
        match &step.work {
            Work::LeadTest => vec![TakeCare::LEAD],
            Work::Scuff | Work::ScuffBack if old => vec![TakeCare::LEAD, TakeCare::DUST],
            Work::Scuff | Work::ScuffBack => vec![TakeCare::DUST],
            Work::Deglaze => vec![TakeCare::SOLVENT],
            Work::WaxOff => vec![TakeCare::SOLVENT, TakeCare::RAGS],
            Work::Layer(laid) => {
                let ground = zones.first().map_or(self.piece.ground.kind, |zone| zone.ground);
                cautions_of(laid.technique, &self.inside(laid), ground)
            }
            _ => Vec::new(),
        }
    }

    /// The same as they are told: in full the first time.
    pub(super) fn told(&self, step: &Step, said: &mut Vec<TakeCare>) -> Vec<CareView> {
        let tell = |care: TakeCare| {
            if said.contains(&care) {
                return CareView { words: care.short, source: None };
            }
            said.push(care);
            CareView { words: care.words, source: Some(care.source) }
        };
        self.care(step).into_iter().map(tell).collect()
    }

    pub(super) fn wet_edge(&self, step: &Step) -> Option<WetEdgeView> {
        let laid = step.work.laid()?;
        let zones = self.zones_of(step);
        let tins = laid.pot.iter().filter_map(|part| self.room.shelf.tin(part.paint.0).ok());
        let open = tins.filter_map(|tin| tin.value.specials.open_minutes).reduce(f64::max);
        let edge = WetEdge::of(laid, &zones, &self.inside(laid), open, self.sheet.air)?;
        let sections = match edge.sections {
            1 => "all of it at one go".to_owned(),
            n => format!(
                "{n} sections of about {}: {}",
                self.asked.units.say(Dimension::Area, edge.section),
                breaks(&zones)
            ),
        };
        let two = if edge.two {
            ". The largest part is more than one person can work: one puts on, another works it, and leaves a wet strip to join up"
        } else {
            ""
        };
        let words = format!("Open for about {:.0} min: {sections}{two}", edge.open);
        Some(WetEdgeView { words, two: edge.two })
    }

    pub(super) fn step(&self, (step, when): (&Step, &Scheduled), swatches: &Swatches) -> StepView {
        let laid = step.work.laid();
        let alone = amounts(std::slice::from_ref(step), &self.zones);
        let next = self.steps.iter().flat_map(|other| &other.after).filter(|after| after.step == when.step);
        let dry = next.map(|after| after.wait).reduce(f64::max);
        let (begins, ends) = (when.stretches.first(), when.stretches.last());
        StepView {
            id: step.id.to_string(),
            name: self.name(&step.work),
            pot: self.pot(&step.work),
            parts: laid.map_or_else(Vec::new, |laid| laid.pot.clone()),
            swatch: laid.and_then(|laid| swatch_of(&laid.pot, swatches)),
            amount: alone.first().map(|needed| self.amount(needed.ml)),
            zones: step.zones.iter().map(|zone| zone.name()).collect(),
            why: self.why(&step.work),
            minutes: self.minutes(step),
            begins: begins.map_or(when.ends, |(from, _)| *from).to_string(),
            ends: ends.map_or(when.ends, |(_, to)| *to).to_string(),
            dry: dry.map(|wait| later(when.ends, wait).to_string()),
            split: when.stretches.len() > 1,
            by: if when.by == 0 { "you" } else { "helper" },
            critical: step.critical,
            ready: step.after.is_empty(),
            clock: self
                .sheet
                .clock
                .filter(|clock| clock.step == step.id)
                .map(|clock| ClockView { minutes: clock.shows(self.asked.now), runs: clock.since.is_some() }),
            asks_lead: step.work == Work::LeadTest,
            wet_edge: self.wet_edge(step),
            care: Vec::new(),
        }
    }

    /// The sheet as it is shown.
    pub fn view(&self, revision: i64) -> Result<RunSheetView, Refusal> {
        let stop = self.stop();
        let (whole, left) = (amounts(&self.all, &self.zones), amounts(&self.steps, &self.zones));
        let swatches = self.swatches(&left)?;
        let steps: Vec<StepView> = match stop {
            Some(_) => Vec::new(),
            None => {
                let mut said: Vec<TakeCare> = Vec::new();
                self.in_order()
                    .map(|one| StepView { care: self.told(one.0, &mut said), ..self.step(one, &swatches) })
                    .collect()
            }
        };
        let ends = self.ready();
        let of_all: f64 = self.all.iter().map(|step| self.minutes(step)).sum();
        let to_do: f64 = hands_on(&self.plan);
        let hours = of_all / 60.0;
        let cost = self.sheet.rates.cost(self.materials(&whole), hours);
        let units = self.asked.units;
        let area: f64 = self.zones.iter().map(|zone| zone.area).sum::<f64>() / units.one(Dimension::Area);
        let class = |paint: PaintId| self.class(paint);
        Ok(RunSheetView {
            revision,
            entry: RunSheetEntry::of(self.sheet),
            scheme: scheme_of(self.piece, None)?.name.as_str().to_owned(),
            ends: ends.map(|ends| ends.to_string()),
            minutes: if stop.is_some() { 0.0 } else { to_do },
            share_done: if of_all > 0.0 { (1.0 - to_do / of_all).clamp(0.0, 1.0) } else { 0.0 },
            due: self.piece.brief.due.map(|due| due.to_string()),
            other_ways: ends.map_or_else(Vec::new, |ends| self.other_ways(ends)),
            verdict: ends.and_then(|ends| self.verdict(ends)),
            notes: self.assumptions(&whole),
            pots: self.pots(&left, &swatches),
            shopping: self.to_buy(&left),
            undercoats: self.undercoats(),
            cost: CostView {
                materials: cost.materials,
                hours,
                work: cost.work,
                overhead: cost.overhead,
                price: cost.price,
                price_per_area: (area > 0.0).then(|| cost.price / area),
                area_unit: units.unit(Dimension::Area),
                budget: self.piece.brief.budget,
                buyers: self.buyers()?,
            },
            care_card: care_card(self.all.iter().map(|step| &step.work), class),
            schemes: self.schemes()?,
            schools: ends.map_or_else(|| Ok(Vec::new()), |ends| self.schools(ends))?,
            elsewhere: self.elsewhere(),
            idle: self.idle(),
            if_it_stays: self.if_it_stays(),
            tools: tools(&self.steps, class)
                .into_iter()
                .map(|tool| ToolView { name: tool.name, count: tool.count, why: tool.why })
                .collect(),
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
            pot: self.pot(&done.work),
            zones: done.zones.iter().map(|zone| zone.name()).collect(),
            at: done.at.to_string(),
            minutes: done.minutes,
            usual: done.usual,
            note: done.note.as_ref().map(|note| note.as_str().to_owned()),
            photo: done.photo,
        };
        self.sheet.done.iter().enumerate().rev().map(one).collect()
    }
}

/// Where sections end, zone by zone; what is alike is said once.
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
