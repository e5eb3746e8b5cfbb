//! A run sheet planned: from the piece in what it is to wear, from what was done, and from the shelf.

use std::collections::BTreeMap;

use jiff::Timestamp;
use warm_blend_board::{ByPlace, Place, TakeCare, cautions_of};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Component, PaintId, Parts};
use warm_blend_piece::{Age, Piece, Scheme, Shaping, Zone};
use warm_blend_plan::{
    DayHours, Done, Laid, LayerWork, Needed, Paces, RunSheet, Scheduled, Step, WetEdge, Work, WorkingHours,
    ZoneWork, amounts, care_card, hands_on, later, packs, schedule, steps, still_to_do, tools, wait, wanted,
};

use super::entry::{RunSheetEntry, StepDone};
use super::view::{
    CareView, CostView, DoneView, OtherWay, PaceView, PotNeeded, RunSheetView, SchemeCost, StepView, ToBuy,
    ToolView, WetEdgeView,
};
use crate::{Kept, MixPart, Refusal, Room, Swatch, scheme_of};

/// A day of work that is longer by so much, minutes, and ends no later than that.
const LONGER: u16 = 120;

/// When a plan is asked for, and with whose pace.
#[derive(Debug, Clone)]
pub struct WhenAsked {
    /// Now.
    pub now: Timestamp,
    /// This painter's pace.
    pub paces: Paces,
}

/// A plan of what is left to do on a piece.
#[derive(Debug)]
pub struct Planned<'a> {
    room: Room<'a>,
    piece: &'a Piece,
    sheet: &'a RunSheet,
    asked: WhenAsked,
    zones: Vec<ZoneWork>,
    /// All of it, as if nothing had been done.
    all: Vec<Step>,
    /// What is left.
    pub(super) steps: Vec<Step>,
    pub(super) plan: Vec<Scheduled>,
    notes: Vec<String>,
}

impl<'a> Room<'a> {
    /// What is left to do on a piece, and when it is done.
    pub fn plan(
        &self,
        piece: &'a Piece,
        sheet: &'a RunSheet,
        asked: WhenAsked,
    ) -> Result<Planned<'a>, Refusal> {
        let (zones, notes) = self.zones_to_work(piece)?;
        let hardware = zones.iter().any(|zone| zone.zone == Zone::Hardware);
        // What stays bare beside what is painted is taped.
        let taped = zones.iter().any(|zone| zone.layers.is_empty());
        let worked: Vec<ZoneWork> =
            zones.into_iter().filter(|zone| !zone.layers.is_empty() || !zone.ages.is_empty()).collect();
        let all: Vec<Vec<Work>> = worked.iter().map(|zone| wanted(zone, hardware, taped)).collect();
        let left: Vec<Vec<Work>> =
            worked.iter().zip(&all).map(|(zone, all)| still_to_do(all, &sheet.done_on(zone.zone))).collect();
        let class = |paint: PaintId| self.shelf.known(paint).map(|(class, _)| class);
        let (all, steps) = (steps(&worked, &all, class, sheet.air), steps(&worked, &left, class, sheet.air));
        let mut planned =
            Planned { room: *self, piece, sheet, asked, zones: worked, all, steps, plan: Vec::new(), notes };
        planned.plan = planned.scheduled(&sheet.hours, sheet.helper).unwrap_or_default();
        Ok(planned)
    }

    /// What is to become of each zone that can be painted.
    fn zones_to_work(&self, piece: &Piece) -> Result<(Vec<ZoneWork>, Vec<String>), Refusal> {
        let form = piece.form.ok_or_else(crate::not_said)?;
        let elevation =
            form.build().map_err(|error| Refusal::field(format!("/form/{}", error.field), error.message))?;
        let scheme = scheme_of(piece, None)?;
        let (extents, places) = (piece.extents(&elevation), elevation.places());
        let mut largest: BTreeMap<Zone, f64> = BTreeMap::new();
        for face in &elevation.faces {
            for (part, net) in face.parts.iter().zip(face.net()) {
                let most = largest.entry(part.zone).or_default();
                *most = most.max(net / 1e6);
            }
        }
        let flat = Shaping::Flat.shares();
        let raised = |places: &ByPlace<f64>| places.at(Place::Recess) + places.at(Place::Edge);
        let mut notes = Vec::new();
        let mut zones = Vec::new();
        self.with(&elevation, |context| {
            for (zone, extent) in extents.iter().filter(|(zone, _)| zone.is_painted()) {
                let laid = match context.laid_on(*zone, &scheme, piece.ground) {
                    Ok(laid) => laid,
                    Err(error) => {
                        notes.push(format!("{} is left out: {error}", zone.name()));
                        continue;
                    }
                };
                zones.push(ZoneWork {
                    zone: *zone,
                    area: extent.area,
                    edge: extent.edge,
                    relief: places.get(zone).map_or(0.0, |own| (raised(own) - raised(&flat)).max(0.0)),
                    largest: largest.get(zone).copied().unwrap_or(extent.area).min(extent.area),
                    ground: laid.ground.kind,
                    layers: laid.layers.iter().map(LayerWork::from).collect(),
                    ages: laid.ages,
                });
            }
        });
        Ok((zones, notes))
    }

    /// The tin that a product without a pot comes from: of its class the one of which there is most.
    fn tin_of(&self, class: Class) -> Option<&'a Kept<ShelfPaint>> {
        let of_class = self.shelf.tins().filter(|tin| tin.value.class == class);
        of_class.max_by(|a, b| stock(&a.value).total_cmp(&stock(&b.value)))
    }
}

/// Pots and how they look.
type Swatches = [(Vec<Component>, Swatch)];

fn swatch_of(pot: &[Component], swatches: &Swatches) -> Option<Swatch> {
    swatches.iter().find(|(of, _)| of == pot).map(|(_, swatch)| swatch.clone())
}

fn stock(tin: &ShelfPaint) -> f64 {
    tin.stock.map_or(0.0, |stock| stock.value())
}

impl<'a> Planned<'a> {
    fn class(&self, paint: PaintId) -> Option<Class> {
        self.room.shelf.known(paint).map(|(class, _)| class)
    }

    fn inside(&self, laid: &Laid) -> Vec<(Class, f64)> {
        laid.inside(|paint| self.class(paint))
    }

    /// True of primer and of pigmented shellac: what is below it does not come up.
    fn blocks(&self, laid: &Laid) -> bool {
        self.inside(laid).iter().any(|(class, _)| matches!(class, Class::Primer | Class::Shellac))
    }

    fn zones_of(&self, step: &Step) -> Vec<&ZoneWork> {
        self.zones.iter().filter(|zone| step.zones.contains(&zone.zone)).collect()
    }

    /// Minutes of a step at this painter's pace.
    fn minutes(&self, step: &Step) -> f64 {
        step.minutes * self.asked.paces.of(&step.work).factor
    }

    fn starts(&self) -> Timestamp {
        self.sheet.starts.map_or(self.asked.now, |starts| starts.max(self.asked.now))
    }

    fn scheduled(&self, hours: &WorkingHours, helper: bool) -> Option<Vec<Scheduled>> {
        // The first step of each zone waits for what was done on it last.
        let first = |zone: Zone| self.steps.iter().position(|step| step.zones.contains(&zone));
        let ready = |step: &Step| {
            let waits = step.zones.iter().filter_map(|zone| {
                let last = self.sheet.last_on(*zone)?;
                let this = self.steps.get(first(*zone)?)?;
                let inside = last.work.laid().map_or_else(Vec::new, |laid| self.inside(laid));
                let wait = wait(&last.work, &step.work, &inside, self.sheet.air);
                (this.id == step.id).then(|| later(last.at, wait))
            });
            waits.max()
        };
        let pace = |step: &Step| self.asked.paces.of(&step.work).factor;
        schedule(&self.steps, hours, self.starts(), helper, &ready, pace)
    }

    fn ends(plan: &[Scheduled]) -> Option<Timestamp> {
        plan.iter().map(|one| one.ends).max()
    }

    /// When it can be handed over; none where something stops it.
    fn ready(&self) -> Option<Timestamp> {
        Self::ends(&self.plan).filter(|_| self.stop().is_none())
    }

    /// What a step is called.
    pub(super) fn name(&self, work: &Work) -> String {
        let of_layer = |laid: &Laid| {
            let alone = laid.pot.len() == 1 && self.blocks(laid);
            let name = if alone { "Prime" } else { laid.technique.name() };
            match laid.coat {
                (_, 1) => name.to_owned(),
                (coat, of) => format!("{name}: {coat} of {of}"),
            }
        };
        match work {
            Work::HardwareOff => "Take the hardware off".to_owned(),
            Work::LeadTest => "Test the old paint for lead".to_owned(),
            Work::Clean => "Clean".to_owned(),
            Work::Rinse => "Rinse".to_owned(),
            Work::Deglaze => "Take the gloss off with a deglosser".to_owned(),
            Work::Scuff => "Scuff-sand".to_owned(),
            Work::Tape => "Tape what stays as it is".to_owned(),
            Work::Layer(laid) => of_layer(laid),
            Work::Age(age) => format!("Age it: {}", age.name().to_lowercase()),
            Work::WaxOff => "Take the wax off".to_owned(),
            Work::ScuffBack => "Scuff what is to be covered".to_owned(),
            Work::HardwareOn if self.all.iter().any(|step| step.work == Work::HardwareOff) => {
                "Tape off, hardware back on".to_owned()
            }
            Work::HardwareOn => "Take the tape off".to_owned(),
            Work::Buff => "Buff the wax".to_owned(),
            Work::Rest => "Leave it alone for a day".to_owned(),
        }
    }

    /// What is in the pot of a step, in words.
    pub(super) fn pot(&self, work: &Work) -> Option<String> {
        let laid = work.laid()?;
        (!laid.pot.is_empty()).then(|| self.room.shelf.pot_words(&laid.pot))
    }

    /// The steps that are left in the order they are taken up, each with when.
    pub(super) fn in_order(&self) -> impl Iterator<Item = (&Step, &Scheduled)> {
        self.plan.iter().map(|one| (&self.steps[one.step], one))
    }

    /// How each pot of some looks.
    fn swatches(&self, needed: &[Needed]) -> Result<Vec<(Vec<Component>, Swatch)>, Refusal> {
        let mut all = Vec::new();
        for pot in needed.iter().filter(|pot| !pot.pot.is_empty()) {
            let parts: Vec<(PaintId, Parts)> =
                pot.pot.iter().map(|part| (part.paint, part.parts.into())).collect();
            if let Some(stirred) = self.room.shelf.stirred(&parts)? {
                all.push((pot.pot.clone(), Swatch::of(&stirred, self.room.look)));
            }
        }
        Ok(all)
    }

    fn why(&self, work: &Work) -> Option<&'static str> {
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

    fn care(&self, step: &Step) -> Vec<TakeCare> {
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
    fn told(&self, step: &Step, said: &mut Vec<TakeCare>) -> Vec<CareView> {
        let tell = |care: TakeCare| {
            if said.contains(&care) {
                return CareView { words: care.short, source: None };
            }
            said.push(care);
            CareView { words: care.words, source: Some(care.source) }
        };
        self.care(step).into_iter().map(tell).collect()
    }

    fn wet_edge(&self, step: &Step) -> Option<WetEdgeView> {
        let laid = step.work.laid()?;
        let zones = self.zones_of(step);
        let tins = laid.pot.iter().filter_map(|part| self.room.shelf.tin(part.paint.0).ok());
        let open = tins.filter_map(|tin| tin.value.specials.open_minutes).reduce(f64::max);
        let edge = WetEdge::of(laid, &zones, &self.inside(laid), open, self.sheet.air)?;
        let sections = match edge.sections {
            1 => "all of it at one go".to_owned(),
            n => format!(
                "{n} sections of about {:.2} m², each up to an edge, a moulding or the next drawer",
                edge.section
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

    fn step(&self, (step, when): (&Step, &Scheduled), swatches: &Swatches) -> StepView {
        let laid = step.work.laid();
        let alone = amounts(std::slice::from_ref(step), &self.zones);
        let next = self.steps.iter().flat_map(|other| &other.after).filter(|after| after.step == when.step);
        let dry = next.map(|after| after.wait).reduce(f64::max);
        let (begins, ends) = (when.stretches.first(), when.stretches.last());
        StepView {
            id: step.id.to_string(),
            name: self.name(&step.work),
            pot: self.pot(&step.work),
            parts: laid.map_or_else(Vec::new, |laid| laid.pot.iter().map(MixPart::from).collect()),
            swatch: laid.and_then(|laid| swatch_of(&laid.pot, swatches)),
            ml: alone.first().map(|needed| needed.ml),
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
            asks_lead: step.work == Work::LeadTest,
            wet_edge: self.wet_edge(step),
            care: Vec::new(),
        }
    }

    /// Why nothing is planned, where nothing is.
    fn stop(&self) -> Option<String> {
        if self.sheet.lead {
            return Some(
                "There is lead in the old paint. Nothing is sanded or stripped here: follow your local rules, and ask a \
                 practice that is licensed for it (in the US, 40 CFR Part 745)."
                    .to_owned(),
            );
        }
        if self.zones.is_empty() {
            return Some(
                "No part of the piece wears a finish yet: choose one on the Piece screen.".to_owned(),
            );
        }
        let wet = self.steps.iter().any(|step| step.work.laid().is_some());
        let refused = self.sheet.air.allows().err().filter(|_| wet);
        refused.map(|why| {
            let words = why.to_string();
            let mut letters = words.chars();
            letters
                .next()
                .map_or(words.clone(), |first| format!("{}{}.", first.to_uppercase(), letters.as_str()))
        })
    }

    fn verdict(&self, ends: Timestamp) -> Option<String> {
        let due = self.piece.brief.due?;
        let clock = self.sheet.hours.clock();
        let day = ends.to_zoned_datetime(clock).date();
        let days = day.until(due).ok()?.get_days();
        let count = |n: i32| if n == 1 { "a day".to_owned() } else { format!("{n} days") };
        Some(match days {
            0 => "Done on the very day it is due.".to_owned(),
            n if n > 0 => format!("In time, with {} to spare.", count(n)),
            n => format!("Late by {}: see what would help.", count(-n)),
        })
    }

    /// What would make it earlier.
    fn other_ways(&self, ends: Timestamp) -> Vec<OtherWay> {
        let hours = &self.sheet.hours;
        let with = |change: &dyn Fn(&mut [Option<DayHours>; 7])| {
            let mut week = hours.week;
            change(&mut week);
            WorkingHours { week, ..hours.clone() }
        };
        let longest = hours.week.iter().flatten().max_by_key(|window| window.to - window.from).copied();
        let ways = [
            ("With a helper", hours.clone(), true),
            (
                "Two hours longer a day",
                with(&|week| {
                    week.iter_mut().flatten().for_each(|day| day.to = (day.to + LONGER).min(24 * 60));
                }),
                self.sheet.helper,
            ),
            (
                "At weekends too",
                with(&|week| {
                    week[5..].iter_mut().for_each(|day| *day = day.or(longest));
                }),
                self.sheet.helper,
            ),
        ];
        let mut found: Vec<(Timestamp, OtherWay)> = ways
            .into_iter()
            .filter_map(|(words, hours, helper)| {
                let over = Self::ends(&self.scheduled(&hours, helper)?)?;
                (over < ends).then(|| (over, OtherWay { words, ends: over.to_string() }))
            })
            .collect();
        found.sort_by_key(|(over, _)| *over);
        found.into_iter().map(|(_, way)| way).collect()
    }

    /// ml of each tin in some pots, by the parts of each; of what comes out of a tin by itself that tin.
    fn by_tin(&self, needed: &[Needed]) -> Vec<(&'a Kept<ShelfPaint>, f64, f64)> {
        let mut all: Vec<(&Kept<ShelfPaint>, f64, f64)> = Vec::new();
        let mut add = |tin: &'a Kept<ShelfPaint>, ml: f64, each: f64| match all
            .iter_mut()
            .find(|(other, ..)| other.id == tin.id)
        {
            Some((_, sum, thickest)) => {
                *sum += ml;
                *thickest = thickest.max(each);
            }
            None => all.push((tin, ml, each)),
        };
        for pot in needed {
            let each = pot.by_square_metre;
            if let Some(tin) = pot.product.and_then(|class| self.room.tin_of(class)) {
                add(tin, pot.ml, each);
            }
            let total: f64 = pot.pot.iter().map(|part| f64::from(part.parts.value())).sum();
            for part in &pot.pot {
                if let Ok(tin) = self.room.shelf.tin(part.paint.0) {
                    add(tin, pot.ml * f64::from(part.parts.value()) / total, each);
                }
            }
        }
        all
    }

    /// What is to be bought for some pots, what is missing first.
    fn to_buy(&self, needed: &[Needed]) -> Vec<ToBuy> {
        let row = |(tin, ml, each): (&Kept<ShelfPaint>, f64, f64)| {
            let (value, stock) = (&tin.value, stock(&tin.value));
            let short = (ml - stock).max(0.0);
            let sizes = value.price.map(|price| (price.tin().value(), price.amount()));
            let count = match short {
                short if short <= 0.0 => Some(0),
                short => sizes.and_then(|size| packs(short, &[size])).map(|packs| packs[0]),
            };
            let bought = count.zip(sizes).map_or(0.0, |(n, (size, _))| n as f64 * size);
            let left = (stock + bought - ml).max(0.0);
            ToBuy {
                name: value.name.as_str().to_owned(),
                needed: ml,
                stock,
                packs: count,
                pack: sizes.map(|(size, _)| size),
                cost: count.zip(sizes).map(|(n, (_, price))| n as f64 * price),
                left,
                covers: left / each,
            }
        };
        let mut rows: Vec<ToBuy> = self.by_tin(needed).into_iter().map(row).collect();
        rows.sort_by_key(|row| row.packs == Some(0));
        rows
    }

    /// What is to be bought for what is left.
    pub(super) fn shopping_list(&self) -> Vec<ToBuy> {
        self.to_buy(&amounts(&self.steps, &self.zones))
    }

    fn pots(&self, needed: &[Needed], swatches: &Swatches) -> Vec<PotNeeded> {
        let one = |pot: &Needed| {
            let words = match pot.product {
                Some(class) => class.name().to_owned(),
                None => self.room.shelf.pot_words(&pot.pot),
            };
            let total: f64 = pot.pot.iter().map(|part| f64::from(part.parts.value())).sum();
            let amount = |part: &Component| {
                let ml = pot.ml * f64::from(part.parts.value()) / total;
                let density = self.room.shelf.tin(part.paint.0).map_or(1.0, |tin| tin.value.density());
                format!("{} {ml:.0} ml, {:.0} g", self.room.shelf.name(part.paint.0), ml * density)
            };
            let several = pot.pot.len() > 1;
            PotNeeded {
                words,
                parts: pot.pot.iter().map(MixPart::from).collect(),
                swatch: swatch_of(&pot.pot, swatches),
                ml: pot.ml,
                amounts: if several { pot.pot.iter().map(amount).collect() } else { Vec::new() },
            }
        };
        needed.iter().map(one).collect()
    }

    /// What was taken for granted.
    fn assumptions(&self, needed: &[Needed]) -> Vec<String> {
        let mut notes = self.notes.clone();
        for pot in needed {
            if let Some(class) = pot.product
                && self.room.tin_of(class).is_none()
            {
                let name = class.name().to_lowercase();
                notes.push(format!(
                    "There is no {name} on the shelf: its price and stock are not reckoned with."
                ));
            }
        }
        let unpriced: Vec<&str> = self
            .by_tin(needed)
            .into_iter()
            .filter(|(tin, ..)| tin.value.price.is_none())
            .map(|(tin, ..)| tin.value.name.as_str())
            .collect();
        if !unpriced.is_empty() {
            notes.push(format!("Without a price, so not in the cost: {}.", unpriced.join(", ")));
        }
        if self.sheet.rates.hour.is_none() {
            notes.push("No hourly rate is set: the price counts materials only.".to_owned());
        }
        let first = self.all.iter().find_map(|step| step.work.laid());
        if self.piece.ground.kind.bleeds() && first.is_some_and(|laid| !self.blocks(laid)) {
            notes.push(
                "The ground bleeds, and no primer is on the board: it will come up through the paint."
                    .to_owned(),
            );
        }
        if self.zones.iter().any(|zone| zone.ages.iter().any(|age| *age != Age::Wear)) {
            notes.push(
                "What makes it look old has no product yet: its time is planned, its paint is not. Put it on a board \
                 to have that too."
                    .to_owned(),
            );
        }
        notes
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
        let area: f64 = self.zones.iter().map(|zone| zone.area).sum();
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
            cost: CostView {
                materials: cost.materials,
                hours,
                work: cost.work,
                overhead: cost.overhead,
                price: cost.price,
                price_per_m2: (area > 0.0).then(|| cost.price / area),
                budget: self.piece.brief.budget,
            },
            care_card: care_card(self.all.iter().map(|step| &step.work), class),
            schemes: self.schemes()?,
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

    /// What each scheme would come to from here on: a change of mind before it is made.
    fn schemes(&self) -> Result<Vec<SchemeCost>, Refusal> {
        let of = |(at, scheme): (usize, &Scheme)| {
            let name = scheme.name.as_str().to_owned();
            if at == self.piece.chosen {
                return Ok(SchemeCost { name, chosen: true, ..self.scheme_cost() });
            }
            let piece = Piece { chosen: at, ..self.piece.clone() };
            let planned = self.room.plan(&piece, self.sheet, self.asked.clone())?;
            Ok(SchemeCost { name, ..planned.scheme_cost() })
        };
        self.piece.schemes.iter().enumerate().map(of).collect()
    }

    fn scheme_cost(&self) -> SchemeCost {
        SchemeCost {
            name: String::new(),
            chosen: false,
            ends: self.ready().map(|ends| ends.to_string()),
            minutes: hands_on(&self.plan),
            materials: self.materials(&amounts(&self.steps, &self.zones)),
        }
    }

    /// What some pots cost, as far as prices are known.
    fn materials(&self, needed: &[Needed]) -> f64 {
        let priced = self.by_tin(needed).into_iter();
        priced
            .filter_map(|(tin, ml, _)| Some(tin.value.price?.by_ml() * ml))
            .fold(0.0, |sum, cost| sum + cost)
    }

    fn done(&self) -> Vec<DoneView> {
        let one = |(at_place, done): (usize, &Done)| DoneView {
            at_place,
            name: self.name(&done.work),
            pot: self.pot(&done.work),
            zones: done.zones.iter().map(|zone| zone.name()).collect(),
            at: done.at.to_string(),
            minutes: done.minutes,
            usual: done.usual,
            note: done.note.as_ref().map(|note| note.as_str().to_owned()),
        };
        self.sheet.done.iter().enumerate().rev().map(one).collect()
    }

    /// The sheet once a step is done. One that waits for another cannot be.
    pub fn ticked(&self, said: &StepDone) -> Result<RunSheet, Refusal> {
        let (at, minutes_taken, note) = said.parse(self.asked.now)?;
        let step = self.steps.iter().find(|step| step.id.to_string() == said.step).ok_or_else(|| {
            Refusal::field("/step", "this step is not on the sheet any more: look at it again")
        })?;
        if let Some(after) = step.after.first() {
            let before = self.name(&self.steps[after.step].work).to_lowercase();
            return Err(Refusal::field(
                "/step",
                format!("first comes another step, “{before}”: tick that one"),
            ));
        }
        let mut sheet = self.sheet.clone();
        sheet.lead |= said.lead && step.work == Work::LeadTest;
        sheet.done.push(Done {
            work: step.work.clone(),
            zones: step.zones.clone(),
            at,
            minutes: minutes_taken,
            usual: step.minutes,
            note,
        });
        sheet.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(sheet)
    }
}
