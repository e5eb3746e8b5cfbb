//! The estimate of the shelf, cached until the file changes.

use std::{
    ops::Deref,
    sync::{
        Arc, Mutex, MutexGuard, PoisonError,
        atomic::{AtomicBool, Ordering},
    },
};

use warm_blend_board::BoardReading;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_learn::{BadTin, LoggedReading, ShelfPaint};
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{ShelfDocuments, ShelfSnapshot};

/// The cache, which computes once for all who ask.
#[derive(Debug, Clone, Default)]
pub struct Memory {
    latest: Arc<Mutex<Option<Arc<Remembered>>>>,
    /// State of the file when results of learning were last stored.
    written_down: Arc<Mutex<Option<FileState>>>,
    /// Held during computation.
    reckoning: Arc<Mutex<()>>,
    /// Held while deferred readings are learned.
    learning: Arc<Mutex<()>>,
    /// True once somebody has started to learn them.
    begun: Arc<AtomicBool>,
}

/// The estimate for a state of the file, or the data to compute it from.
pub enum Now {
    Known(Arc<Remembered>),
    Written(Box<(FileState, ShelfDocuments)>),
}

/// An estimate and the state of the file it belongs to.
#[derive(Debug)]
pub struct Remembered {
    state: FileState,
    shelf: ShelfSnapshot,
}

impl Deref for Remembered {
    type Target = ShelfSnapshot;

    fn deref(&self) -> &ShelfSnapshot {
        &self.shelf
    }
}

impl Remembered {
    /// The state of the file that it belongs to.
    pub const fn state(&self) -> FileState {
        self.state
    }

    /// True if the file has not changed since.
    pub fn is_of(&self, store: &Store) -> Result<bool, StoreError> {
        Ok(FileState::of(store)? == self.state)
    }
}

/// State of the file: which file it is, and a counter for each kind of document that the estimate depends on.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FileState {
    opening: u64,
    counters: [i64; 4],
}

impl FileState {
    fn of(store: &Store) -> Result<Self, StoreError> {
        let counters = [
            store.state::<ShelfPaint>()?,
            store.state::<LoggedReading>()?,
            store.state::<Workshop>()?,
            store.state::<BoardReading>()?,
        ];
        Ok(Self { opening: store.opening(), counters })
    }

    fn is_newer_than(self, other: Self) -> bool {
        let further = || self.counters.iter().zip(other.counters).any(|(own, other)| *own > other);
        self.opening > other.opening || self.opening == other.opening && further()
    }
}

impl Memory {
    /// Reads the state of the file, and its data if they changed.
    pub fn now(&self, store: &Store) -> Result<Now, StoreError> {
        let state = FileState::of(store)?;
        match self.latest() {
            Some(known) if known.state == state => Ok(Now::Known(known)),
            known => Ok(Now::Written(Box::new((state, read(store, known.as_deref())?)))),
        }
    }

    /// The estimate for this state or a newer one. Requests for the same state share one computation.
    pub fn known(&self, now: Now) -> Result<Arc<Remembered>, StoreError> {
        let (state, documents) = match now {
            Now::Known(known) => return Ok(known),
            Now::Written(written) => *written,
        };
        let _reckoning = in_turn(&self.reckoning);
        let before = self.latest();
        if let Some(before) = &before
            && !state.is_newer_than(before.state)
        {
            return Ok(Arc::clone(before));
        }
        let shelf =
            ShelfSnapshot::of(documents, before.as_ref().map(|before| &before.shelf)).map_err(damaged)?;
        Ok(self.is_known(state, shelf))
    }

    fn is_known(&self, state: FileState, shelf: ShelfSnapshot) -> Arc<Remembered> {
        let known = Arc::new(Remembered { state, shelf });
        *self.latest.lock().unwrap_or_else(PoisonError::into_inner) = Some(Arc::clone(&known));
        known
    }

    /// True once, for the first request that meets deferred readings and must have them learned.
    pub fn hands_over(&self, known: &Remembered) -> bool {
        known.pending_readings() > 0 && !self.begun.swap(true, Ordering::Relaxed)
    }

    /// The estimate with all deferred readings learned. Meanwhile, requests are answered from the previous estimate.
    pub fn in_full(&self) -> Result<Option<Arc<Remembered>>, StoreError> {
        let _learning = in_turn(&self.learning);
        let put_off = self.latest().filter(|known| known.pending_readings() > 0);
        let Some(put_off) = put_off else { return Ok(self.latest()) };
        let learnt = put_off.learnt_in_full(None).map_err(damaged)?;
        let _reckoning = in_turn(&self.reckoning);
        let now = self.latest().filter(|now| now.state != put_off.state);
        let (state, shelf) = match now {
            None => (put_off.state, learnt),
            // The shelf was changed in the meantime.
            Some(now) => (now.state, now.learnt_in_full(Some(&learnt)).map_err(damaged)?),
        };
        Ok(Some(self.is_known(state, shelf)))
    }

    /// An estimate newly learned since the last call, if there is one.
    pub fn newly_learnt(&self) -> Option<Arc<Remembered>> {
        let known = self.latest().filter(|known| known.pending_readings() == 0)?;
        let mut asked = self.written_down.lock().unwrap_or_else(PoisonError::into_inner);
        (asked.replace(known.state) != Some(known.state)).then_some(known)
    }

    fn latest(&self) -> Option<Arc<Remembered>> {
        self.latest.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }
}

/// Waits for a lock.
fn in_turn(lock: &Mutex<()>) -> MutexGuard<'_, ()> {
    lock.lock().unwrap_or_else(PoisonError::into_inner)
}

fn damaged(error: BadTin) -> StoreError {
    StoreError::Damaged(error.to_string())
}

fn read(store: &Store, known: Option<&Remembered>) -> Result<ShelfDocuments, StoreError> {
    let readings = known.map_or(&[][..], |known| known.shelf.logged());
    Ok(ShelfDocuments {
        tins: store.all_ever()?,
        readings: store.all_after(readings)?,
        boards: store.all()?,
        workshop: workshop(store)?,
        learnt: if known.is_none() { store.learnt()? } else { Vec::new() },
    })
}

/// Settings of the workshop, which every workspace has.
pub fn workshop(store: &Store) -> Result<Kept<Workshop>, StoreError> {
    let first = store.all()?.into_iter().next();
    first.ok_or(StoreError::Damaged("the choices of the workshop are missing".to_owned()))
}
