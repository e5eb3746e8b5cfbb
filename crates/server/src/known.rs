//! What the log says of the shelf: computed from the file when it has changed, never kept in it.

use std::{
    collections::HashMap,
    sync::{Arc, Mutex, PoisonError},
};

use warm_blend_board::{BoardReading, Hands, Judgement, learn_hand};
use warm_blend_learn::{
    Ensemble, Estimate, Judged, LoggedReading, Measured, OfShelf, Reading, ShelfPaint, Shown,
};
use warm_blend_paint::PaintId;
use warm_blend_store::{Id, Kept, Store, StoreError};
use warm_blend_workshop::Workshop;

use crate::problem::Problem;

/// What is known now, reckoned once for all who ask.
#[derive(Debug, Clone, Default)]
pub(crate) struct Memory {
    latest: Arc<Mutex<Option<Arc<Known>>>>,
    /// Held while it is reckoned.
    reckoning: Arc<Mutex<()>>,
}

/// What the file holds at a moment: known already, or what it is to be reckoned from.
pub(crate) enum Now {
    Known(Arc<Known>),
    Written(Box<Written>),
}

/// All that is known hangs on.
pub(crate) struct Written {
    state: State,
    tins: Vec<OfShelf>,
    readings: Vec<Kept<LoggedReading>>,
    boards: Vec<Kept<BoardReading>>,
    workshop: Kept<Workshop>,
    house_white: Option<PaintId>,
}

/// Numbers that only grow, of each kind of document that what is known hangs on.
#[derive(Debug, Clone, Copy, PartialEq)]
struct State([i64; 4]);

impl State {
    fn of(store: &Store) -> Result<Self, StoreError> {
        Ok(Self([
            store.state::<ShelfPaint>()?,
            store.state::<LoggedReading>()?,
            store.state::<Workshop>()?,
            store.state::<BoardReading>()?,
        ]))
    }

    fn is_newer_than(self, other: Self) -> bool {
        self.0.iter().zip(other.0).any(|(own, other)| *own > other)
    }
}

impl Memory {
    /// Looks into the file, which takes no longer than to read it.
    pub fn of(&self, store: &Store) -> Result<Now, StoreError> {
        let state = State::of(store)?;
        match self.latest() {
            Some(known) if known.state == state => Ok(Now::Known(known)),
            _ => Written::read(store, state).map(Box::new).map(Now::Written),
        }
    }

    /// What is known of it, or of what the file has become since. Whoever asks for the same waits for the one who reckons.
    pub fn known(&self, now: Now) -> Result<Arc<Known>, StoreError> {
        let written = match now {
            Now::Known(known) => return Ok(known),
            Now::Written(written) => written,
        };
        let _reckoning = self.reckoning.lock().unwrap_or_else(PoisonError::into_inner);
        let before = self.latest();
        if let Some(before) = &before
            && !written.state.is_newer_than(before.state)
        {
            return Ok(Arc::clone(before));
        }
        let known = Arc::new(Known::after(before.as_deref(), *written)?);
        *self.latest.lock().unwrap_or_else(PoisonError::into_inner) = Some(Arc::clone(&known));
        Ok(known)
    }

    fn latest(&self) -> Option<Arc<Known>> {
        self.latest.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }
}

impl Written {
    fn read(store: &Store, state: State) -> Result<Self, StoreError> {
        let workshop = workshop(store)?;
        // Removed tins too: mixes and readings may still speak of them.
        let tins = store.all_ever::<ShelfPaint>()?;
        let house_white = house_white(&workshop.value, &tins);
        let of_shelf = |tin: &Kept<ShelfPaint>| {
            let id = PaintId(tin.id);
            OfShelf { id, facts: tin.value.facts(house_white == Some(id)), at_hand: !tin.removed }
        };
        let tins = tins.iter().map(of_shelf).collect();
        let (readings, boards) = (store.all()?, store.all()?);
        Ok(Self { state, tins, readings, boards, workshop, house_white })
    }
}

/// What the log says of the shelf.
#[derive(Debug)]
pub(crate) struct Known {
    state: State,
    learnt: Arc<Learnt>,
    /// Readings in the order of the log.
    readings: Vec<Kept<LoggedReading>>,
    /// By tin: its readings by their places in the log.
    by_paint: HashMap<Id, Vec<usize>>,
    /// Readings of boards in the order they were made, with how they stand to the rest.
    boards: Vec<(Kept<BoardReading>, Option<Judgement>)>,
    pub workshop: Kept<Workshop>,
    house_white: Option<PaintId>,
}

/// What was learnt, and from what: names, stocks and notes are not in it, so they change nothing.
#[derive(Debug)]
struct Learnt {
    tins: Vec<OfShelf>,
    read: Vec<Reading<PaintId>>,
    of_boards: Vec<BoardReading>,
    estimate: Estimate,
    hands: Hands,
    judged: Vec<Option<Judgement>>,
}

impl Learnt {
    fn after(
        before: Option<&Arc<Self>>,
        tins: Vec<OfShelf>,
        read: Vec<Reading<PaintId>>,
        of_boards: Vec<BoardReading>,
    ) -> Result<Arc<Self>, StoreError> {
        let same =
            |before: &Self| before.tins == tins && before.read == read && before.of_boards == of_boards;
        if let Some(before) = before.filter(|before| same(before)) {
            return Ok(Arc::clone(before));
        }
        // Tins were checked when they were kept.
        let estimate = Estimate::after(before.map(|before| &before.estimate), &tins, &read)
            .map_err(|error| StoreError::Damaged(error.to_string()))?;
        let taught = learn_hand(&of_boards, |paint| estimate.class(paint).zip(estimate.paint(paint)));
        let estimate = estimate.strengthened(&taught.strengths);
        Ok(Arc::new(Self { tins, read, of_boards, estimate, hands: taught.hands, judged: taught.judged }))
    }
}

impl Known {
    fn after(before: Option<&Self>, written: Written) -> Result<Self, StoreError> {
        let Written { state, tins, readings, boards, workshop, house_white } = written;
        let read = readings.iter().map(|kept| kept.value.reading.clone()).collect();
        let of_boards = boards.iter().map(|kept| kept.value.clone()).collect();
        let learnt = Learnt::after(before.map(|before| &before.learnt), tins, read, of_boards)?;
        let boards = boards.into_iter().zip(learnt.judged.iter().cloned()).collect();
        let mut by_paint: HashMap<Id, Vec<usize>> = HashMap::new();
        for (at, kept) in readings.iter().enumerate() {
            for (paint, _) in &kept.value.reading.of {
                let of_paint = by_paint.entry(paint.0).or_default();
                // A paint may be named twice in one reading.
                if of_paint.last() != Some(&at) {
                    of_paint.push(at);
                }
            }
        }
        Ok(Self { state, learnt, readings, by_paint, boards, workshop, house_white })
    }

    /// Whether the file says nothing else by now.
    pub fn is_of(&self, store: &Store) -> Result<bool, StoreError> {
        Ok(State::of(store)? == self.state)
    }

    /// A tin as it is known.
    pub fn paint(&self, id: Id) -> Result<&Ensemble, Problem> {
        self.learnt.estimate.paint(PaintId(id)).ok_or_else(Problem::internal)
    }

    pub fn estimate(&self) -> &Estimate {
        &self.learnt.estimate
    }

    /// The hand that paints, as boards show it.
    pub fn hands(&self) -> &Hands {
        &self.learnt.hands
    }

    /// Readings of boards, with how they stand to the rest.
    pub fn boards(&self) -> &[(Kept<BoardReading>, Option<Judgement>)] {
        &self.boards
    }

    /// All readings with how they stand to the rest.
    pub fn readings(&self) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        self.readings.iter().enumerate().map(|(i, kept)| (kept, self.learnt.estimate.judged(i)))
    }

    /// One of them.
    pub fn reading(&self, id: Id) -> Result<(&Kept<LoggedReading>, Option<&Judged>), Problem> {
        self.readings().find(|(kept, _)| kept.id == id).ok_or_else(Problem::internal)
    }

    /// Those that speak of a tin.
    pub fn readings_of(&self, paint: Id) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        let places = self.by_paint.get(&paint).map(Vec::as_slice).unwrap_or_default();
        places.iter().map(|at| (&self.readings[*at], self.learnt.estimate.judged(*at)))
    }

    /// What was read of a tin by itself, laid on thick.
    pub fn masstones_of(&self, paint: Id) -> impl Iterator<Item = &Measured> {
        self.readings_of(paint).filter_map(|(kept, _)| match &kept.value.reading {
            Reading { of, shown: Shown::Thick(measured), .. } if of.len() == 1 => Some(measured),
            _ => None,
        })
    }

    /// Whether a reading asks about this tin: a tint asks about the paint, not about the house white in it.
    pub fn asks_about(&self, paint: Id, reading: &Kept<LoggedReading>, judged: Option<&Judged>) -> bool {
        let alone = reading.value.reading.of.len() == 1;
        judged.is_some_and(|judged| judged.questioned) && (alone || !self.is_house_white(paint))
    }

    /// The house white, as long as it is on the shelf.
    pub fn house_white(&self) -> Option<PaintId> {
        self.house_white
    }

    pub fn is_house_white(&self, paint: Id) -> bool {
        self.house_white == Some(PaintId(paint))
    }
}

/// The white that was chosen, as long as it is among these tins and not removed: one that is put back is it again.
pub(crate) fn house_white(workshop: &Workshop, tins: &[Kept<ShelfPaint>]) -> Option<PaintId> {
    let at_hand = |white: &PaintId| tins.iter().any(|tin| tin.id == white.0 && !tin.removed);
    workshop.house_white.filter(at_hand)
}

/// The choices of the workshop: a workspace comes with them.
pub(crate) fn workshop(store: &Store) -> Result<Kept<Workshop>, StoreError> {
    let first = store.all()?.into_iter().next();
    first.ok_or(StoreError::Damaged("the choices of the workshop are missing".to_owned()))
}
