//! The open workspace, shared by all requests.

use std::path::Path;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use warm_blend_finish::board::{BoardReading, Hands, Judgement, learn_hand};
use warm_blend_finish::learn::{Ensemble, Estimate, Judged, Measured, OfShelf, Reading, Shown};
use warm_blend_finish::piece::Piece;
use warm_blend_finish::{LoggedReading, Name, PaintId, ShelfPaint, Workshop};
use warm_blend_store::{Id, Kept, OpenError, Store, StoreError};

use crate::device::ReaderAtHand;
use crate::photos::Photos;
use crate::problem::Problem;
use crate::routes::boards::picture::Plates;
use crate::routes::piece::picture::Fronts;
use crate::scale::ScaleAtHand;

/// How long nobody must have asked anything for work that can wait.
const QUIET: Duration = Duration::from_millis(1500);

/// And how often that is waited for.
const PATIENT: u32 = 20;

/// A workspace file that requests take turns with, and what is at hand beside it.
#[derive(Debug, Clone)]
pub struct Workspace {
    desk: Arc<Mutex<Desk>>,
    /// How often anything was asked of the file.
    asked: Arc<AtomicU64>,
    pub(crate) reader: ReaderAtHand,
    pub(crate) scale: ScaleAtHand,
    pub(crate) photos: Photos,
    pub(crate) plates: Plates,
    pub(crate) fronts: Fronts,
}

#[derive(Debug)]
struct Desk {
    store: Store,
    known: Option<Arc<Known>>,
}

/// What the log says of the shelf: computed from the file when it has changed, never kept in it.
#[derive(Debug)]
pub(crate) struct Known {
    /// What it was computed from.
    state: [i64; 4],
    estimate: Estimate,
    /// Readings in the order of the log.
    readings: Vec<Kept<LoggedReading>>,
    hands: Hands,
    /// Readings of boards in the order they were made, with how they stand to the rest.
    boards: Vec<(Kept<BoardReading>, Option<Judgement>)>,
    pub workshop: Kept<Workshop>,
    house_white: Option<PaintId>,
}

impl Known {
    fn of(store: &Store, state: [i64; 4]) -> Result<Self, StoreError> {
        let workshop = workshop(store)?;
        // Removed tins too: mixes and readings may still speak of them.
        let tins = store.all_ever::<ShelfPaint>()?;
        let house_white = house_white(&workshop.value, &tins);
        let tins: Vec<_> = tins
            .iter()
            .map(|tin| {
                let id = PaintId(tin.id);
                OfShelf { id, facts: tin.value.facts(house_white == Some(id)), at_hand: !tin.removed }
            })
            .collect();
        let readings = store.all::<LoggedReading>()?;
        let read: Vec<_> = readings.iter().map(|kept| kept.value.reading.clone()).collect();
        // Tins were checked when they were kept.
        let estimate = Estimate::of(&tins, &read).map_err(|error| StoreError::Damaged(error.to_string()))?;
        let boards = store.all::<BoardReading>()?;
        let of_boards: Vec<_> = boards.iter().map(|kept| kept.value.clone()).collect();
        let taught = learn_hand(&of_boards, |paint| estimate.class(paint).zip(estimate.paint(paint)));
        let estimate = estimate.strengthened(&taught.strengths);
        let boards = boards.into_iter().zip(taught.judged).collect();
        Ok(Self { state, estimate, readings, hands: taught.hands, boards, workshop, house_white })
    }

    /// A tin as it is known.
    pub fn paint(&self, id: Id) -> Result<&Ensemble, Problem> {
        self.estimate.paint(PaintId(id)).ok_or_else(Problem::internal)
    }

    pub fn estimate(&self) -> &Estimate {
        &self.estimate
    }

    /// The hand that paints, as boards show it.
    pub fn hands(&self) -> &Hands {
        &self.hands
    }

    /// Readings of boards, with how they stand to the rest.
    pub fn boards(&self) -> &[(Kept<BoardReading>, Option<Judgement>)] {
        &self.boards
    }

    /// All readings with how they stand to the rest.
    pub fn readings(&self) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        self.readings.iter().enumerate().map(|(i, kept)| (kept, self.estimate.judged(i)))
    }

    /// One of them.
    pub fn reading(&self, id: Id) -> Result<(&Kept<LoggedReading>, Option<&Judged>), Problem> {
        self.readings().find(|(kept, _)| kept.id == id).ok_or_else(Problem::internal)
    }

    /// Those that speak of a tin.
    pub fn readings_of(&self, paint: Id) -> impl Iterator<Item = (&Kept<LoggedReading>, Option<&Judged>)> {
        self.readings().filter(move |(kept, _)| kept.value.reading.of.iter().any(|(id, _)| id.0 == paint))
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

impl Workspace {
    /// Opens or makes the file, and sees to it that there is a piece to work on.
    pub fn open(path: &Path) -> Result<Self, OpenError> {
        Self::open_and(path, |_| Ok(()))
    }

    /// Makes a new file that holds the demo.
    pub fn demo(path: &Path) -> Result<Self, OpenError> {
        Self::open_and(path, crate::demo::fill)
    }

    fn open_and(path: &Path, fill: fn(&mut Store) -> Result<(), StoreError>) -> Result<Self, OpenError> {
        let mut store = Store::open(path)?;
        fill(&mut store)
            .and_then(|()| furnish(&mut store))
            .map_err(|error| OpenError::Other { path: path.into(), error })?;
        let desk = Arc::new(Mutex::new(Desk { store, known: None }));
        Ok(Self {
            desk,
            asked: Arc::default(),
            reader: ReaderAtHand::default(),
            scale: ScaleAtHand::default(),
            photos: Photos::default(),
            plates: Plates::default(),
            fronts: Fronts::default(),
        })
    }

    /// What is wrong with the file, where it can be read and is not written.
    pub fn damage(&self) -> Option<String> {
        let desk = self.desk.lock().unwrap_or_else(PoisonError::into_inner);
        desk.store.damage().map(str::to_owned)
    }

    /// Runs a read or a change off the threads that answer requests, because it waits for the disk.
    pub(crate) async fn with<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<R, Problem> {
        self.at_the_desk(|desk| Ok(work(&mut desk.store)?)).await
    }

    /// The same with what the log says of the shelf, after the work is done.
    pub(crate) async fn with_known<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<(R, Arc<Known>), Problem> {
        self.at_the_desk(|desk| {
            let done = work(&mut desk.store)?;
            Ok((done, desk.known()?))
        })
        .await
    }

    /// The same with what the log says of the shelf before the work is done.
    pub(crate) async fn knowing<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Store, &Known) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<R, Problem> {
        self.at_the_desk(|desk| {
            let known = desk.known()?;
            Ok(work(&mut desk.store, &known)?)
        })
        .await
    }

    /// Stays connected to a scale that speaks the line protocol of docs/formats.md.
    pub fn connect_scale(&self, address: std::net::SocketAddr) {
        self.scale.connect(address);
    }

    /// Makes the marks and the relief that boards are drawn with, so that the first picture comes as soon as the next: once nobody
    /// has asked anything for a while, because the first screen comes first.
    pub fn make_ready_to_draw(&self) {
        let (plates, asked) = (self.plates.clone(), Arc::clone(&self.asked));
        tokio::spawn(async move {
            let mut before = 0;
            for _ in 0..PATIENT {
                tokio::time::sleep(QUIET).await;
                let now = asked.load(Ordering::Relaxed);
                if now == before {
                    break;
                }
                before = now;
            }
            drop(tokio::task::spawn_blocking(move || plates.warm()).await);
        });
    }

    async fn at_the_desk<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Desk) -> Result<R, Problem> + Send + 'static,
    ) -> Result<R, Problem> {
        self.asked.fetch_add(1, Ordering::Relaxed);
        let desk = Arc::clone(&self.desk);
        let done = tokio::task::spawn_blocking(move || {
            // A panic in another request leaves the store whole: its transaction was rolled back.
            let mut desk = desk.lock().unwrap_or_else(PoisonError::into_inner);
            work(&mut desk)
        })
        .await;
        done.unwrap_or_else(|_| Err(Problem::internal()))
    }
}

impl Desk {
    fn known(&mut self) -> Result<Arc<Known>, StoreError> {
        let store = &self.store;
        let state = [
            store.state::<ShelfPaint>()?,
            store.state::<LoggedReading>()?,
            store.state::<Workshop>()?,
            store.state::<BoardReading>()?,
        ];
        match &self.known {
            Some(known) if known.state == state => Ok(Arc::clone(known)),
            _ => {
                let known = Arc::new(Known::of(store, state)?);
                self.known = Some(Arc::clone(&known));
                Ok(known)
            }
        }
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

fn furnish(store: &mut Store) -> Result<(), StoreError> {
    let pieces: Vec<Kept<Piece>> = store.all()?;
    if pieces.is_empty()
        && let Ok(name) = Name::new("Untitled piece")
    {
        store.furnish(Piece::named(name))?;
    }
    if store.all::<Workshop>()?.is_empty() {
        store.furnish(Workshop::default())?;
    }
    Ok(())
}
