//! Several pieces in progress: those due earlier come first, and waiting times are used for the others.

use jiff::Timestamp;
use uuid::Uuid;
use warm_blend_piece::Piece;
use warm_blend_plan::{BusyTimes, By, Crew, RunSheet, Scheduled, Step};

use super::planning::{Elsewhere, Planned, WhenAsked};
use super::telling::{by_words, quarter};
use super::view::{ElsewhereView, IdleView};
use crate::{Refusal, Room};

/// Length of a wait worth mentioning, minutes†.
const WORTH_TELLING: f64 = 30.0;

/// A piece in progress.
#[derive(Debug, Clone, Copy)]
pub struct OnTheBench<'a> {
    /// Its id.
    pub id: Uuid,
    /// The piece.
    pub piece: &'a Piece,
    /// Its run sheet.
    pub sheet: &'a RunSheet,
}

impl OnTheBench<'_> {
    /// True once something was done on it, so that it takes time from others.
    pub fn is_begun(&self) -> bool {
        !self.sheet.done.is_empty()
    }
}

impl<'a> Room<'a> {
    /// Plans a piece among others: those that are begun and due earlier come first.
    pub fn plan(
        &self,
        bench: &[OnTheBench<'a>],
        own: Uuid,
        asked: &WhenAsked,
    ) -> Result<Planned<'a>, Refusal> {
        let mut bench: Vec<&OnTheBench> =
            bench.iter().filter(|one| one.id == own || one.is_begun()).collect();
        bench.sort_by_key(|one| (one.piece.brief.due.is_none(), one.piece.brief.due));
        let mut taken: [BusyTimes; 2] = Default::default();
        let (mut planned, mut elsewhere) = (None, Vec::new());
        for one in bench {
            match self.plan_around((one.piece, one.sheet), asked.clone(), taken.clone()) {
                Ok(plan) if one.id == own => {
                    taken = plan.and_taken();
                    planned = Some(plan);
                }
                Ok(plan) => {
                    taken = plan.and_taken();
                    elsewhere.extend(plan.as_seen_from_elsewhere(one));
                }
                Err(refused) if one.id == own => return Err(refused),
                // A piece that cannot be planned takes no time.
                Err(_) => {}
            }
        }
        let mut planned = planned.ok_or(Refusal::Broken)?;
        let over = planned.hands_off();
        elsewhere.retain(|one: &Elsewhere| one.when.0 < over);
        elsewhere.sort_by_key(|one| one.when);
        planned.elsewhere = elsewhere;
        Ok(planned)
    }
}

impl Planned<'_> {
    /// When its last hands-on work ends.
    fn hands_off(&self) -> Timestamp {
        let worked = self.plan.iter().flat_map(|one| &one.stretches).filter(|(begins, ends)| begins < ends);
        worked.map(|(_, ends)| *ends).max().unwrap_or(self.asked.now)
    }

    fn crew(&self) -> Crew {
        let Self { sheet, taken, .. } = self;
        Crew { hours: sheet.hours.clone(), helper: sheet.helper, taken: taken.clone() }.busy_with(&self.plan)
    }

    /// Time taken by it and by those before it.
    fn and_taken(&self) -> [BusyTimes; 2] {
        if self.stop().is_some() { self.taken.clone() } else { self.crew().taken }
    }

    fn as_seen_from_elsewhere(&self, one: &OnTheBench) -> Vec<Elsewhere> {
        if self.stop().is_some() {
            return Vec::new();
        }
        let of = |(step, when): (&Step, &Scheduled)| {
            let worked = when.stretches.iter().filter(|(begins, ends)| begins < ends);
            let shown = worked.map(|stretch| Elsewhere {
                piece: one.id,
                name: one.piece.name.as_str().to_owned(),
                step: self.name(&step.work),
                work: step.work.clone(),
                when: *stretch,
                by: when.by,
            });
            shown.collect::<Vec<_>>()
        };
        self.in_order().flat_map(of).collect()
    }

    /// Work on other pieces until this one is finished.
    pub(super) fn elsewhere(&self) -> Vec<ElsewhereView> {
        let view = |one: &Elsewhere| ElsewhereView {
            piece: one.piece,
            name: one.name.clone(),
            step: one.step.clone(),
            begins: quarter(one.when.0).to_string(),
            ends: quarter(one.when.1).to_string(),
            by: by_words(one.by),
        };
        self.elsewhere.iter().map(view).collect()
    }

    /// Hours in which the painter is free until this piece is finished.
    pub(super) fn idle(&self) -> Vec<IdleView> {
        let mut crew = self.crew();
        let own = self.elsewhere.iter().filter(|one| one.by != By::Helper);
        crew.taken[0].take(own.map(|one| one.when));
        let free = crew.idle(self.asked.now, self.hands_off(), WORTH_TELLING);
        free.into_iter()
            .map(|(from, to)| IdleView { begins: quarter(from).to_string(), ends: quarter(to).to_string() })
            .collect()
    }
}
