//! Planning a run sheet from the piece and its finishes, the finished steps, and the shelf.

use std::collections::BTreeMap;

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_board::{FLAT, Layer};
use warm_blend_documents::Kept;
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Contents, Name, PaintId, Product, Units};
use warm_blend_piece::{Meeting, Piece, Zone};
use warm_blend_plan::{
    BrushRack, BusyTimes, By, Crew, Done, Laid, LayerWork, OnPiece, Paces, PartSize, RunSheet, Scheduled,
    Step, Stretch, Unwashed, Work, WorkingHours, ZoneWork, schedule, steps, wanted,
};

use super::entry::{ClockSet, StepDone};
use super::sheet_change::SheetChange;
use crate::pieces::elevation_of;
use crate::{Refusal, Room, scheme_of};

/// Time, pace and units for a plan.
#[derive(Debug, Clone)]
pub struct WhenAsked {
    /// The current time.
    pub now: Timestamp,
    /// This painter's pace.
    pub paces: Paces,
    /// Units for amounts.
    pub units: Units,
    /// All pots, some of them kept in jars.
    pub pours: Vec<Kept<PourRecord>>,
    /// The brushes.
    pub brushes: BrushesNow,
}

/// The brushes of the workshop, and their condition.
#[derive(Debug, Clone, Default)]
pub struct BrushesNow {
    /// The brushes.
    pub rack: BrushRack,
    /// Those used lately, on any piece, and not washed yet.
    pub unwashed: Vec<Unwashed>,
}

/// Work on another piece.
#[derive(Debug, Clone)]
pub(super) struct Elsewhere {
    pub piece: Uuid,
    pub name: String,
    pub step: String,
    pub work: Work,
    pub when: Stretch,
    pub by: By,
}

/// Plan of the remaining work on a piece.
#[derive(Debug)]
pub struct Planned<'a> {
    pub(super) room: Room<'a>,
    pub(super) piece: &'a Piece,
    pub(super) sheet: &'a RunSheet,
    pub(super) asked: WhenAsked,
    /// Time taken first by other pieces.
    pub(super) taken: [BusyTimes; 2],
    /// Work on other pieces in between.
    pub(super) elsewhere: Vec<Elsewhere>,
    pub(super) zones: Vec<ZoneWork>,
    /// What lies on the piece.
    pub(super) on: OnPiece,
    /// All work on each zone, as if nothing had been done.
    pub(super) wanted: Vec<Vec<Work>>,
    /// All steps, as if nothing had been done.
    pub(super) all: Vec<Step>,
    /// Remaining steps.
    pub(super) steps: Vec<Step>,
    pub(super) plan: Vec<Scheduled>,
    /// True if there are no working hours left for it within a year.
    out_of_hours: bool,
    pub(super) notes: Vec<String>,
}

/// A change to layers.
pub(super) type Way<'a> = &'a dyn Fn(&[Layer]) -> Vec<Layer>;

impl<'a> Room<'a> {
    /// Plans the remaining work on a piece around time that is taken.
    pub(super) fn plan_around(
        &self,
        (piece, sheet): (&'a Piece, &'a RunSheet),
        asked: WhenAsked,
        taken: [BusyTimes; 2],
    ) -> Result<Planned<'a>, Refusal> {
        self.plan_by((piece, sheet), asked, taken, &|layers| layers.to_vec())
    }

    /// True if no work is left on a piece, and some was done.
    pub fn is_finished(&self, piece: &'a Piece, sheet: &'a RunSheet) -> bool {
        let asked = WhenAsked {
            now: Timestamp::UNIX_EPOCH,
            paces: Paces::default(),
            units: Units::default(),
            pours: Vec::new(),
            brushes: BrushesNow::default(),
        };
        let planned = self.plan_around((piece, sheet), asked, Default::default());
        !sheet.done.is_empty() && planned.is_ok_and(|planned| planned.steps.is_empty())
    }

    /// Plans the remaining work with the layers of each zone changed.
    pub(super) fn plan_by(
        &self,
        (piece, sheet): (&'a Piece, &'a RunSheet),
        asked: WhenAsked,
        taken: [BusyTimes; 2],
        way: Way,
    ) -> Result<Planned<'a>, Refusal> {
        let tins = |paint: PaintId| self.shelf.product(paint);
        let (zones, notes) = self.zones_to_work((piece, sheet), way)?;
        let hardware = zones.iter().any(|zone| zone.zone == Zone::Hardware);
        let worked = zones.into_iter().filter(|zone| zone.is_painted() || !zone.repairs.is_empty());
        let zones: Vec<ZoneWork> = worked.collect();
        let wanted: Vec<Vec<Work>> = zones.iter().map(|zone| wanted(zone, hardware, &tins)).collect();
        let on = OnPiece::of(&sheet.done, &tins);
        let still_to_do = |(zone, wanted): (&ZoneWork, &Vec<Work>)| {
            on.zone(zone.zone).cloned().unwrap_or_default().still_to_do(wanted, &tins)
        };
        let left: Vec<Vec<Work>> = zones.iter().zip(&wanted).map(still_to_do).collect();
        let all = steps(&zones, &wanted, &tins, sheet.air);
        let steps = steps(&zones, &left, &tins, sheet.air);
        let mut planned = Planned {
            room: *self,
            piece,
            sheet,
            asked,
            taken,
            elsewhere: Vec::new(),
            zones,
            on,
            wanted,
            all,
            steps,
            plan: Vec::new(),
            out_of_hours: false,
            notes,
        };
        let plan = planned.scheduled(&sheet.hours, sheet.helper, 1.0);
        planned.out_of_hours = plan.is_none();
        planned.plan = plan.unwrap_or_default();
        Ok(planned)
    }

    /// Work on each zone that can be painted.
    pub(super) fn zones_to_work(
        &self,
        (piece, sheet): (&Piece, &RunSheet),
        way: Way,
    ) -> Result<(Vec<ZoneWork>, Vec<String>), Refusal> {
        let elevation = elevation_of(piece)?;
        let scheme = scheme_of(piece, None)?;
        let (extents, places) = (piece.extents(&elevation), elevation.places());
        let mut parts: BTreeMap<Zone, Vec<PartSize>> = BTreeMap::new();
        for face in &elevation.faces {
            for (part, net) in face.parts.iter().zip(face.net()).filter(|(_, net)| *net > 0.0) {
                let size = PartSize { area: net / 1e6, narrow: part.rect.w.min(part.rect.h) / 1e3 };
                let own = parts.entry(part.zone).or_default();
                own.extend(std::iter::repeat_n(size, face.times as usize));
            }
        }
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
                    places: places.get(zone).copied().unwrap_or(FLAT),
                    parts: parts.remove(zone).unwrap_or_default(),
                    taped: 0.0,
                    ground: laid.ground.kind,
                    repairs: piece.repairs_of(*zone),
                    layers: way(&laid.layers).iter().map(LayerWork::from).collect(),
                    ages: laid.ages,
                });
            }
        });
        tape(&mut zones, &elevation.meetings(), sheet.tapes_colours);
        Ok((zones, notes))
    }
}

/// Tapes edges where paint stops at something that stays as it is (glass, bare wood). Hardware comes off. Between two
/// colours only if the painter tapes rather than cuts in.
fn tape(zones: &mut [ZoneWork], meetings: &[Meeting], tapes_colours: bool) {
    let layers = |zone: Zone| zones.iter().find(|one| one.zone == zone).map(|one| one.layers.as_slice());
    let lengths: Vec<f64> = zones
        .iter()
        .map(|own| {
            let stops = |meeting: &&Meeting| {
                let other = match meeting.zones {
                    (one, other) if one == own.zone => other,
                    (one, other) if other == own.zone => one,
                    _ => return false,
                };
                match layers(other) {
                    _ if other == Zone::Hardware || own.layers.is_empty() => false,
                    None | Some([]) => true,
                    Some(layers) => tapes_colours && layers != own.layers,
                }
            };
            meetings.iter().filter(stops).map(|meeting| meeting.length).sum()
        })
        .collect();
    zones.iter_mut().zip(lengths).for_each(|(zone, length)| zone.taped = length);
}

impl<'a> Planned<'a> {
    pub(super) fn product(&self, paint: PaintId) -> Option<Product> {
        self.room.shelf.product(paint)
    }

    pub(super) fn contents(&self, laid: &Laid) -> Contents {
        laid.contents(&|paint| self.product(paint))
    }

    /// True if it blocks stains from below.
    pub(super) fn blocks(&self, laid: &Laid) -> bool {
        self.contents(laid).blocks_stains()
    }

    pub(super) fn zones_of(&self, step: &Step) -> Vec<&ZoneWork> {
        self.zones.iter().filter(|zone| step.zones.contains(&zone.zone)).collect()
    }

    /// Minutes of a step at this painter's pace.
    pub(super) fn minutes(&self, step: &Step) -> f64 {
        step.minutes * self.asked.paces.for_work(&step.work).factor
    }

    pub(super) fn starts(&self) -> Timestamp {
        self.sheet.starts.map_or(self.asked.now, |starts| starts.max(self.asked.now))
    }

    /// Schedules the plan in these hours, with this factor on the painter's pace.
    pub(super) fn scheduled(&self, hours: &WorkingHours, helper: bool, times: f64) -> Option<Vec<Scheduled>> {
        let tins = |paint: PaintId| self.product(paint);
        let ready = |step: &Step| {
            let zones = step.zones.iter().filter_map(|zone| self.on.zone(*zone));
            zones.filter_map(|on| on.ready_for(&step.work, &tins, self.sheet.air)).max()
        };
        let pace = |step: &Step| times * self.asked.paces.for_work(&step.work).factor;
        let crew = Crew { hours: hours.clone(), helper, taken: self.taken.clone() };
        schedule(&self.steps, &crew, self.starts(), &ready, pace)
    }

    /// Factor within which the hands-on time of some steps lies in nine cases of ten.
    pub(super) fn within<'s>(&self, steps: impl Iterator<Item = &'s Step>) -> f64 {
        self.asked.paces.within(steps.map(|step| (&step.work, self.minutes(step))))
    }

    pub(super) fn ends(plan: &[Scheduled]) -> Option<Timestamp> {
        plan.iter().map(|one| one.ends).max()
    }

    /// When the piece is ready; `None` if something prevents it.
    pub(super) fn ready(&self) -> Option<Timestamp> {
        Self::ends(&self.plan).filter(|_| self.stop().is_none())
    }
    /// Remaining steps in the order in which they start, with their times.
    pub(super) fn in_order(&self) -> impl Iterator<Item = (&Step, &Scheduled)> {
        self.plan.iter().map(|one| (&self.steps[one.step], one))
    }

    /// Why nothing can be planned, if so.
    pub(super) fn stop(&self) -> Option<String> {
        if self.sheet.lead {
            return Some(
                "Lead in the old paint: do not sand or strip. Follow local rules and use a licensed contractor (US: 40 CFR Part 745)."
                    .to_owned(),
            );
        }
        if self.zones.is_empty() {
            return Some("No part has a finish yet. Choose one on the Piece screen.".to_owned());
        }
        if self.out_of_hours {
            return Some("Not enough working hours in the next year. Check “Hours and rates”.".to_owned());
        }
        let wet = self.steps.iter().any(|step| step.work.laid().is_some());
        let refused = self.sheet.air.allows().err().filter(|_| wet);
        refused.map(|why| {
            let words = self.asked.units.restate(&why.to_string());
            let mut letters = words.chars();
            letters
                .next()
                .map_or(words.clone(), |first| format!("{}{}.", first.to_uppercase(), letters.as_str()))
        })
    }

    /// The sheet after somebody finished a step, and the pots whose jars it took from. Refused if the step waits for another.
    pub fn ticked(&self, said: &StepDone, by: Option<Name>) -> Result<SheetChange, Refusal> {
        let (at, minutes_taken, note) = said.parse(self.asked.now)?;
        let step = self.steps.iter().find(|step| step.id.to_string() == said.step).ok_or_else(|| {
            Refusal::field("/step", "this step is no longer on the run sheet; check the sheet")
        })?;
        if let Some(after) = step.after.first() {
            let before = self.name(&self.steps[after.step].work).to_lowercase();
            return Err(Refusal::field("/step", format!("tick “{before}” first")));
        }
        let minutes_taken = minutes_taken.or_else(|| self.sheet.by_the_clock(step.id, at));
        let (from_jars, pours) = self.out_of_jars(step, at);
        let mut sheet = self.sheet.clone().without_clock(step.id);
        sheet.lead |= said.lead && step.work == Work::LeadTest;
        sheet.done.push(Done {
            work: step.work.clone(),
            zones: step.zones.clone(),
            at,
            minutes: minutes_taken,
            usual: step.minutes,
            note,
            photo: said.photo,
            by,
            from_jars,
        });
        sheet.check().map_err(|error| Refusal::field(error.pointer, error.message))?;
        Ok(SheetChange { sheet, pours })
    }

    /// The sheet without a finished step, by its index, and the pots whose jars get back what it took.
    pub fn unticked(&self, place: usize) -> SheetChange {
        let pours =
            self.sheet.done.get(place).map_or_else(Vec::new, |done| self.back_in_jars(&done.from_jars));
        SheetChange { sheet: self.sheet.clone().without(place), pours }
    }

    /// The sheet after a clock was started or paused.
    pub fn clocked(&self, set: &ClockSet) -> Result<RunSheet, Refusal> {
        let step = self.steps.iter().find(|step| step.id.to_string() == set.step && step.after.is_empty());
        let step =
            step.ok_or_else(|| Refusal::field("/step", "this step can’t start yet; check the run sheet"))?;
        Ok(self.sheet.clone().with_clock(step.id, set.runs, self.asked.now))
    }
}
