//! Reckoning that takes some milliseconds or more, off the threads that answer requests.

use std::ops::ControlFlow;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use crate::problem::Problem;

/// Runs it there.
pub async fn off_thread<R: Send + 'static>(
    work: impl FnOnce() -> Result<R, Problem> + Send + 'static,
) -> Result<R, Problem> {
    tokio::task::spawn_blocking(work).await.unwrap_or_else(|_| Err(Problem::internal()))
}

/// Runs a search there, which ends early when whoever asked has gone.
pub async fn while_asked<R: Send + 'static>(
    search: impl FnOnce(&Asking) -> Result<R, Problem> + Send + 'static,
) -> Result<R, Problem> {
    let asking = Asking(Arc::new(AtomicBool::new(true)));
    let _guard = GoneWhenDropped(asking.clone());
    off_thread(move || search(&asking)).await
}

/// Whether somebody still waits for an answer.
#[derive(Clone)]
pub struct Asking(Arc<AtomicBool>);

impl Asking {
    /// Goes on while somebody waits.
    pub fn goes_on(&self) -> ControlFlow<()> {
        if self.0.load(Ordering::Relaxed) { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
    }
}

struct GoneWhenDropped(Asking);

impl Drop for GoneWhenDropped {
    fn drop(&mut self) {
        self.0.0.store(false, Ordering::Relaxed);
    }
}
