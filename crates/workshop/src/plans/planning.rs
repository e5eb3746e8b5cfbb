//! A run sheet planned: from the piece in what it is to wear, from what was done, and from the shelf.

use std::collections::BTreeMap;

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::{ByPlace, Layer, Place};
use warm_blend_paint::{Class, PaintId, Units};
use warm_blend_piece::{FLAT, Piece, Zone};
use warm_blend_plan::{
    Crew, Done, Laid, LayerWork, Paces, RunSheet, Scheduled, Step, Stretch, Taken, Work, WorkingHours,
    ZoneWork, later, schedule, steps, still_to_do, wait, wanted,
};

use super::entry::{ClockSet, StepDone};
use crate::{Refusal, Room, scheme_of};

/// When a plan is asked for, with whose pace, and said in which units.
#[derive(Debug, Clone)]
pub struct WhenAsked {
    /// Now.
    pub now: Timestamp,
    /// This painter's pace.
    pub paces: Paces,
    /// What amounts are said in.
    pub units: Units,
}

/// Something that is done on another piece.
#[derive(Debug, Clone)]
pub(super) struct Elsewhere {
    pub piece: Uuid,
    pub name: String,
    pub step: String,
    pub when: Stretch,
    pub by: usize,
}

/// A plan of what is left to do on a piece.
#[derive(Debug)]
pub struct Planned<'a> {
    pub(super) room: Room<'a>,
    pub(super) piece: &'a Piece,
    pub(super) sheet: &'a RunSheet,
    pub(super) asked: WhenAsked,
    /// What other pieces on the bench take of the time first.
    pub(super) taken: [Taken; 2],
    /// What is done on other pieces meanwhile.
    pub(super) elsewhere: Vec<Elsewhere>,
    pub(super) zones: Vec<ZoneWork>,
    /// All of it, as if nothing had been done.
    pub(super) all: Vec<Step>,
    /// What is left.
    pub(super) steps: Vec<Step>,
    pub(super) plan: Vec<Scheduled>,
    /// True where no working hours are left for it within a year.
    out_of_hours: bool,
    pub(super) notes: Vec<String>,
}

/// Layers done another way.
pub(super) type Way<'a> = &'a dyn Fn(&[Layer]) -> Vec<Layer>;

impl<'a> Room<'a> {
    /// What is left to do on a piece, and when it is done, around what others take of the time.
    pub(super) fn plan_around(
        &self,
        (piece, sheet): (&'a Piece, &'a RunSheet),
        asked: WhenAsked,
        taken: [Taken; 2],
    ) -> Result<Planned<'a>, Refusal> {
        self.plan_by((piece, sheet), asked, taken, &|layers| layers.to_vec())
    }

    /// The same with the layers of each zone done another way.
    pub(super) fn plan_by(
        &self,
        (piece, sheet): (&'a Piece, &'a RunSheet),
        asked: WhenAsked,
        taken: [Taken; 2],
        way: Way,
    ) -> Result<Planned<'a>, Refusal> {
        let (zones, notes) = self.zones_to_work(piece, way)?;
        let hardware = zones.iter().any(|zone| zone.zone == Zone::Hardware);
        // What stays bare beside what is painted is taped.
        let taped = zones.iter().any(|zone| zone.layers.is_empty());
        let worked = zones.into_iter().filter(|zone| !zone.layers.is_empty() || !zone.ages.is_empty());
        let zones: Vec<ZoneWork> = worked.collect();
        let all: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, hardware, taped)).collect();
        let left: Vec<Vec<Work>> =
            zones.iter().zip(&all).map(|(zone, all)| still_to_do(all, &sheet.done_on(zone.zone))).collect();
        let class = |paint: PaintId| self.shelf.known(paint).map(|(class, _)| class);
        let (all, steps) = (steps(&zones, &all, class, sheet.air), steps(&zones, &left, class, sheet.air));
        let mut planned = Planned {
            room: *self,
            piece,
            sheet,
            asked,
            taken,
            elsewhere: Vec::new(),
            zones,
            all,
            steps,
            plan: Vec::new(),
            out_of_hours: false,
            notes,
        };
        let plan = planned.scheduled(&sheet.hours, sheet.helper);
        planned.out_of_hours = plan.is_none();
        planned.plan = plan.unwrap_or_default();
        Ok(planned)
    }

    /// What is to become of each zone that can be painted.
    pub(super) fn zones_to_work(
        &self,
        piece: &Piece,
        way: Way,
    ) -> Result<(Vec<ZoneWork>, Vec<String>), Refusal> {
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
                    relief: places.get(zone).map_or(0.0, |own| (raised(own) - raised(&FLAT)).max(0.0)),
                    largest: largest.get(zone).copied().unwrap_or(extent.area).min(extent.area),
                    ground: laid.ground.kind,
                    layers: way(&laid.layers).iter().map(LayerWork::from).collect(),
                    ages: laid.ages,
                });
            }
        });
        Ok((zones, notes))
    }
}

impl<'a> Planned<'a> {
    pub(super) fn class(&self, paint: PaintId) -> Option<Class> {
        self.room.shelf.known(paint).map(|(class, _)| class)
    }

    pub(super) fn inside(&self, laid: &Laid) -> Vec<(Class, f64)> {
        laid.inside(|paint| self.class(paint))
    }

    /// True of primer and of pigmented shellac: what is below it does not come up.
    pub(super) fn blocks(&self, laid: &Laid) -> bool {
        self.inside(laid).iter().any(|(class, _)| matches!(class, Class::Primer | Class::Shellac))
    }

    pub(super) fn zones_of(&self, step: &Step) -> Vec<&ZoneWork> {
        self.zones.iter().filter(|zone| step.zones.contains(&zone.zone)).collect()
    }

    /// Minutes of a step at this painter's pace.
    pub(super) fn minutes(&self, step: &Step) -> f64 {
        step.minutes * self.asked.paces.of(&step.work).factor
    }

    pub(super) fn starts(&self) -> Timestamp {
        self.sheet.starts.map_or(self.asked.now, |starts| starts.max(self.asked.now))
    }

    pub(super) fn scheduled(&self, hours: &WorkingHours, helper: bool) -> Option<Vec<Scheduled>> {
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
        let crew = Crew { hours: hours.clone(), helper, taken: self.taken.clone() };
        schedule(&self.steps, &crew, self.starts(), &ready, pace)
    }

    pub(super) fn ends(plan: &[Scheduled]) -> Option<Timestamp> {
        plan.iter().map(|one| one.ends).max()
    }

    /// When it can be handed over; none where something stops it.
    pub(super) fn ready(&self) -> Option<Timestamp> {
        Self::ends(&self.plan).filter(|_| self.stop().is_none())
    }
    /// The steps that are left in the order they are taken up, each with when.
    pub(super) fn in_order(&self) -> impl Iterator<Item = (&Step, &Scheduled)> {
        self.plan.iter().map(|one| (&self.steps[one.step], one))
    }

    /// Why nothing is planned, where nothing is.
    pub(super) fn stop(&self) -> Option<String> {
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
        if self.out_of_hours {
            return Some(
                "There are no working hours for it within a year: look at the hours and the days off in “How we work”."
                    .to_owned(),
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
        let minutes_taken = minutes_taken.or_else(|| self.sheet.by_the_clock(step.id, at));
        let mut sheet = self.sheet.clone();
        sheet.clock = sheet.clock.filter(|clock| clock.step != step.id);
        sheet.lead |= said.lead && step.work == Work::LeadTest;
        sheet.done.push(Done {
            work: step.work.clone(),
            zones: step.zones.clone(),
            at,
            minutes: minutes_taken,
            usual: step.minutes,
            note,
            photo: said.photo,
        });
        sheet.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(sheet)
    }

    /// The sheet once the clock of a step was started or stopped.
    pub fn clocked(&self, set: &ClockSet) -> Result<RunSheet, Refusal> {
        let step = self.steps.iter().find(|step| step.id.to_string() == set.step && step.after.is_empty());
        let step = step.ok_or_else(|| {
            Refusal::field("/step", "this step cannot be begun now: look at the sheet again")
        })?;
        Ok(self.sheet.clone().with_clock(step.id, set.runs, self.asked.now))
    }
}
