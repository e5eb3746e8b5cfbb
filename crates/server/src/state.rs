//! The open workspace, shared by all requests.

use std::{
    path::Path,
    sync::{
        Arc, Mutex, MutexGuard, PoisonError,
        atomic::{AtomicU64, Ordering},
    },
    time::Duration,
};

use tokio::sync::watch;
use uuid::Uuid;
use warm_blend_board::Board;
use warm_blend_documents::{Kept, Workshop};
use warm_blend_learn::Learnt;
use warm_blend_paint::{Look, Name};
use warm_blend_piece::{Age, Mark, Piece};
use warm_blend_store::{Deed, Notice, OpenError, Store, StoreError, TraceEvent};
use warm_blend_workshop::{Refusal, ShelfSnapshot};

use crate::{
    body::{Answer, Json},
    demo_offer::LookRound,
    device::ReaderAtHand,
    network::Network,
    off_thread::{DRAWING, LEARNING, off_thread},
    once,
    photos::Photos,
    pictures::Pictures,
    problem::Problem,
    scale::ScaleAtHand,
    shelf_cache::{Memory, Remembered},
    upload_limits::Heavy,
    who::Who,
};

/// How long the file must be idle before work that can wait.
const QUIET: Duration = Duration::from_millis(1500);

/// Multiple of that time after which such work starts anyway.
const PATIENT: u32 = 20;

/// The last change of the file.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(crate) struct Changed {
    /// Number of changes since the program was started.
    pub count: u64,
    /// Key of the request that made it, if it had one.
    pub by: Option<Uuid>,
}

/// An open workspace file with caches and devices.
#[derive(Debug, Clone)]
pub struct Workspace {
    store: Arc<Mutex<Store>>,
    memory: Memory,
    /// Idempotency key of the current request.
    deed: Option<Arc<Deed>>,
    /// Who makes the current request, if they are named.
    by: Option<Name>,
    /// Notifies listeners of changes.
    pub(crate) changed: watch::Sender<Changed>,
    /// Number of accesses to the file.
    asked: Arc<AtomicU64>,
    pub(crate) reader: ReaderAtHand,
    pub(crate) scale: ScaleAtHand,
    pub(crate) photos: Photos,
    pub(crate) heavy: Heavy,
    pub(crate) pictures: Arc<Pictures>,
    pub(crate) look_round: LookRound,
    /// True if there is a simulated camera.
    pub(crate) camera: bool,
    /// The workspace on other machines.
    pub(crate) network: Network,
    /// True if backups are made without being asked for.
    pub(crate) backs_up: bool,
}

impl Workspace {
    /// Opens or creates a workspace file, with at least one piece.
    pub fn open(path: &Path) -> Result<Self, OpenError> {
        Self::open_and(path, |_| Ok(()))
    }

    /// Creates a file with the demo.
    pub fn demo(path: &Path) -> Result<Self, OpenError> {
        let workspace = Self::open_and(path, crate::demo::fill)?;
        Ok(Self { camera: true, reader: ReaderAtHand::of_demo(), ..workspace })
    }

    fn open_and(path: &Path, fill: fn(&mut Store) -> Result<(), StoreError>) -> Result<Self, OpenError> {
        let mut store = Store::open(path)?;
        fill(&mut store)
            .and_then(|()| furnish(&mut store))
            .map_err(|error| OpenError::Other { path: path.into(), error })?;
        Ok(Self {
            store: Arc::new(Mutex::new(store)),
            memory: Memory::default(),
            deed: None,
            by: None,
            changed: watch::Sender::default(),
            asked: Arc::default(),
            reader: ReaderAtHand::default(),
            scale: ScaleAtHand::default(),
            photos: Photos::default(),
            heavy: Heavy::default(),
            pictures: Arc::default(),
            look_round: LookRound::default(),
            camera: false,
            network: Network::beside(path),
            backs_up: false,
        })
    }

    /// Notices about the file for the painter.
    pub fn notices(&self) -> Vec<Notice> {
        self.store().notices()
    }

    /// Reports every SQL statement as it starts; see [`Store::trace_statements`].
    pub fn trace_statements(&self, report: fn(TraceEvent<'_>)) {
        self.store().trace_statements(report);
    }

    /// Writes everything back to the file itself.
    pub fn write_back(&self) -> Result<(), StoreError> {
        self.store().write_back()
    }

    /// Runs a read or a change on a blocking thread, because it waits for the disk.
    pub(crate) async fn with<R: Send + 'static, E: Into<Problem> + 'static>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<R, E> + Send + 'static,
    ) -> Result<R, Problem> {
        self.off_thread(move |workspace| workspace.turn(work)).await
    }

    /// Runs a read or a change and returns the resulting estimate of the shelf, computed while others use the file.
    pub(crate) async fn with_shelf<R: Send + 'static, E: Into<Problem> + 'static>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<R, E> + Send + 'static,
    ) -> Result<(R, Arc<Remembered>), Problem> {
        self.off_thread(move |workspace| {
            let (done, now) = workspace.turn(|store| {
                let done = work(store).map_err(Into::into)?;
                Ok::<_, Problem>((done, workspace.memory.now(store)?))
            })?;
            let known = workspace.memory.known(now)?;
            if workspace.memory.hands_over(&known) {
                workspace.learn_behind();
            }
            Ok((done, known))
        })
        .await
    }

    /// Learns deferred readings on one thread; the others are for requests.
    fn learn_behind(&self) {
        let memory = self.memory.clone();
        // An error now is reported to whoever needs the result.
        tokio::task::spawn_blocking(move || LEARNING.run(|| memory.in_full()));
    }

    /// The estimate with everything learned, for answers that last.
    pub(crate) async fn shelf_in_full(&self) -> Result<Arc<Remembered>, Problem> {
        let shelf = self.shelf().await?;
        if shelf.pending_readings() == 0 {
            return Ok(shelf);
        }
        self.off_thread(|workspace| Ok(workspace.memory.in_full()?.unwrap_or(shelf))).await
    }

    /// The current estimate of the shelf.
    pub(crate) async fn shelf(&self) -> Result<Arc<Remembered>, Problem> {
        let ((), shelf) = self.with_shelf(|_| Ok::<_, Problem>(())).await?;
        Ok(shelf)
    }

    /// Answers a question about the shelf on a blocking thread.
    pub(crate) async fn ask<R: Send + 'static>(
        &self,
        question: impl FnOnce(&ShelfSnapshot) -> Result<R, Refusal> + Send + 'static,
    ) -> Answer<R> {
        let shelf = self.shelf().await?;
        off_thread(move || Ok(question(&shelf)?)).await.map(Json)
    }

    /// Name of who makes the current request.
    pub(crate) fn by(&self) -> Option<Name> {
        match Who::now() {
            Who::Visitor(visitor) => Some(visitor.name),
            Who::Painter | Who::Stranger => self.network.painter(),
        }
    }

    /// Connects to a scale that speaks the line protocol of docs/formats.md.
    pub fn connect_scale(&self, address: std::net::SocketAddr) {
        self.scale.connect(address);
    }

    /// Once the program is idle, writes everything back to the file, saves what was learned, and frees unused photos.
    pub fn tidy_when_idle(&self) {
        let workspace = self.clone();
        tokio::spawn(async move {
            loop {
                workspace.quiet().await;
                let workspace = workspace.clone();
                // An error now is retried, and reported to whoever needs the result.
                drop(tokio::task::spawn_blocking(move || workspace.tidy()).await);
            }
        });
    }

    fn tidy(&self) -> Result<(), StoreError> {
        let written =
            self.memory.newly_learnt().map_or(Ok(()), |known| self.write_down(known.estimate().learnt()));
        self.store().tidy().and(written)
    }

    /// Stores results of learning that are not stored yet. They are encoded while others use the file.
    fn write_down(&self, learnt: &Learnt) -> Result<(), StoreError> {
        let (all, there) = (learnt.worth_keeping(), self.store().learnt_from()?);
        let new = all.iter().filter(|(name, said)| there.get(name) != Some(said));
        let new = new.filter_map(|(name, _)| learnt.kept(*name)).collect();
        self.store().keep_learnt(&all, new)
    }

    /// Once the program is idle, checks the whole file: opening a file does not reveal an index that disagrees with its
    /// table.
    pub fn look_deep(&self) {
        let workspace = self.clone();
        tokio::spawn(async move {
            drop(tokio::time::timeout(QUIET * PATIENT, workspace.quiet()).await);
            let look = workspace.store().deep_look();
            // An error now, such as no room for a copy, is retried at the next start.
            if let Ok(Ok(found)) = tokio::task::spawn_blocking(look).await {
                drop(workspace.with(|store| store.heed(found)).await);
            }
        });
    }

    /// Prepares slow results in advance, so that first requests are as quick as later ones: the estimate of the shelf,
    /// prediction accuracy and the look of the log's pots; and once idle, because the first screen comes first, the marks
    /// that lie on boards and the relief of these.
    pub fn make_ready(&self) {
        let workspace = self.clone();
        // An error now is reported to whoever needs the result.
        tokio::spawn(async move {
            if let Ok(shelf) = workspace.shelf().await {
                let (whole, then) = (shelf.pending_readings() == 0, Arc::clone(&shelf));
                drop(tokio::task::spawn_blocking(move || LEARNING.run(|| then.truth())).await);
                drop(workspace.see_pots(shelf).await);
                // By labels first, then with everything learned.
                if !whole && let Ok(learnt) = workspace.shelf_in_full().await {
                    drop(workspace.see_pots(learnt).await);
                }
            }
            drop(tokio::time::timeout(QUIET * PATIENT, workspace.quiet()).await);
            let marks = workspace
                .with(|store| store.all::<Board>().map(|boards| marks(&boards)))
                .await
                .unwrap_or_default();
            drop(tokio::task::spawn_blocking(move || workspace.pictures.plates.warm(marks)).await);
        });
    }

    /// Computes the colours of the log's pots.
    async fn see_pots(&self, shelf: Arc<Remembered>) -> Result<(), Problem> {
        let pots = self.with(|store| store.pots()).await?;
        let see = move || shelf.see_pots(&pots, Look::default());
        off_thread(|| Ok(DRAWING.run(see).transpose().map(drop)?)).await
    }

    /// Waits until the file has been idle for a while.
    async fn quiet(&self) {
        loop {
            let before = self.asked.load(Ordering::Relaxed);
            tokio::time::sleep(QUIET).await;
            if self.asked.load(Ordering::Relaxed) == before {
                return;
            }
        }
    }

    /// Runs work on the file exclusively, and notifies listeners of changes.
    fn turn<R, E: Into<Problem>>(&self, work: impl FnOnce(&mut Store) -> Result<R, E>) -> Result<R, Problem> {
        let mut store = self.store();
        let before = store.written();
        store.on_behalf_of(self.deed.clone(), self.by.clone());
        let done = work(&mut store);
        if store.written() != before {
            let by = self.deed.as_ref().map(|deed| deed.key());
            self.changed.send_modify(|last| *last = Changed { count: last.count + 1, by });
        }
        done.map_err(Into::into)
    }

    /// Exclusive access to the file. A panic in another request leaves it intact, because its transaction was rolled
    /// back.
    fn store(&self) -> MutexGuard<'_, Store> {
        let mut store = self.store.lock().unwrap_or_else(PoisonError::into_inner);
        // Where it cannot be, whatever is asked of it says so.
        drop(store.take_up_again());
        store.on_behalf_of(None, None);
        store
    }

    async fn off_thread<R: Send + 'static>(
        &self,
        work: impl FnOnce(&Self) -> Result<R, Problem> + Send + 'static,
    ) -> Result<R, Problem> {
        self.asked.fetch_add(1, Ordering::Relaxed);
        let workspace = Self { deed: once::deed(), by: self.by(), ..self.clone() };
        off_thread(move || work(&workspace)).await
    }
}

/// Name of the piece that a new workspace begins with.
pub(crate) const UNTITLED: &str = "Untitled piece";

/// Adds what every workspace has.
pub(crate) fn furnish(store: &mut Store) -> Result<(), StoreError> {
    let pieces: Vec<Kept<Piece>> = store.all()?;
    if pieces.is_empty()
        && let Ok(name) = Name::new(UNTITLED)
    {
        store.furnish(Piece::named(name))?;
    }
    if store.all::<Workshop>()?.is_empty() {
        store.furnish(Workshop::default())?;
    }
    Ok(())
}

/// The marks on boards, and of the ageing that most pieces have.
fn marks(boards: &[Kept<Board>]) -> Vec<Mark> {
    let strips = boards.iter().flat_map(|board| board.value.strips());
    let layers = strips.flat_map(|strip| &strip.layers).map(Mark::of);
    layers.chain([Mark::Aged(Age::Wear), Mark::Aged(Age::Grime)]).collect()
}
