//! The open workspace, shared by all requests.

use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};

use warm_blend_finish::{Name, Piece};
use warm_blend_store::{Kept, OpenError, Store, StoreError};

use crate::problem::Problem;

/// A workspace file that requests take turns with.
#[derive(Debug, Clone)]
pub struct Workspace {
    store: Arc<Mutex<Store>>,
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
        Ok(Self { store: Arc::new(Mutex::new(store)) })
    }

    /// Runs a read or a change off the threads that answer requests, because it waits for the disk.
    pub(crate) async fn with<R: Send + 'static>(
        &self,
        work: impl FnOnce(&mut Store) -> Result<R, StoreError> + Send + 'static,
    ) -> Result<R, Problem> {
        let store = Arc::clone(&self.store);
        let done = tokio::task::spawn_blocking(move || {
            // A panic in another request leaves the store whole: its transaction was rolled back.
            let mut store = store.lock().unwrap_or_else(PoisonError::into_inner);
            work(&mut store)
        })
        .await;
        match done {
            Ok(result) => result.map_err(Problem::from),
            Err(_) => Err(Problem::internal()),
        }
    }
}

fn furnish(store: &mut Store) -> Result<(), StoreError> {
    let pieces: Vec<Kept<Piece>> = store.all()?;
    if pieces.is_empty()
        && let Ok(name) = Name::new("Untitled piece")
    {
        store.furnish(Piece { name })?;
    }
    Ok(())
}
