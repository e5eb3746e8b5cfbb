//! Work that takes milliseconds or more, run off the threads that answer requests.

use std::convert::Infallible;
use std::ops::ControlFlow;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, LazyLock};

use axum::body::Body;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use rayon::{ThreadPool, ThreadPoolBuilder};
use serde::Serialize;
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;

use crate::problem::Problem;

/// Runs work on a blocking thread.
pub async fn off_thread<R: Send + 'static>(
    work: impl FnOnce() -> Result<R, Problem> + Send + 'static,
) -> Result<R, Problem> {
    tokio::task::spawn_blocking(work).await.unwrap_or_else(|_| Err(Problem::internal()))
}

/// Runs a search that is cancelled when the client has gone.
pub async fn while_asked<R: Send + 'static>(
    search: impl FnOnce(&Asking) -> Result<R, Problem> + Send + 'static,
) -> Result<R, Problem> {
    let asking = Asking(Arc::new(AtomicBool::new(true)));
    let _guard = GoneWhenDropped(asking.clone());
    off_thread(move || search(&asking)).await
}

/// A thread of its own for long work, which leaves the others to requests.
pub struct OneThread(LazyLock<Option<ThreadPool>>);

/// Where large pictures are drawn.
pub static DRAWING: OneThread = OneThread::new();
/// Where everything is learned that requests did not wait for.
pub static LEARNING: OneThread = OneThread::new();

impl OneThread {
    const fn new() -> Self {
        Self(LazyLock::new(|| ThreadPoolBuilder::new().num_threads(1).build().ok()))
    }

    /// Runs work after that which came before; `None` if there is no thread.
    pub fn run<R: Send>(&self, work: impl FnOnce() -> R + Send) -> Option<R> {
        self.0.as_ref().map(|one| one.install(work))
    }
}

/// Tells whether a client still waits for an answer.
#[derive(Clone)]
pub struct Asking(Arc<AtomicBool>);

impl Asking {
    /// An error once nobody waits.
    pub fn still(&self) -> Result<(), Problem> {
        if self.goes_on().is_continue() { Ok(()) } else { Err(Problem::internal()) }
    }

    /// Continues while somebody waits.
    pub fn goes_on(&self) -> ControlFlow<()> {
        if self.0.load(Ordering::Relaxed) { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
    }
}

/// Runs a search and streams its progress as NDJSON, ending with its result or a problem. It is cancelled when the client
/// has gone.
pub fn line_by_line<S: Serialize>(
    search: impl FnOnce(&Telling) -> Result<S, Problem> + Send + 'static,
) -> Response {
    let (tell, shown) = mpsc::channel(64);
    tokio::task::spawn_blocking(move || {
        let telling = Telling(tell);
        // Nobody may be listening any more.
        let _ = match search(&telling) {
            Ok(found) => telling.line(&found),
            Err(problem) => telling.line(&WentWrong { problem }),
        };
    });
    let kind = [(header::CONTENT_TYPE, "application/x-ndjson"), (header::CACHE_CONTROL, "no-store")];
    (kind, Body::from_stream(ReceiverStream::new(shown))).into_response()
}

/// Sends progress to the client.
pub struct Telling(mpsc::Sender<Result<String, Infallible>>);

#[derive(Serialize)]
struct WentWrong {
    problem: Problem,
}

impl Telling {
    /// Sends a line; continues while the client listens.
    pub fn line(&self, of: &impl Serialize) -> ControlFlow<()> {
        let line = serde_json::to_string(of).map(|line| line + "\n");
        match line.map(|line| self.0.blocking_send(Ok(line))) {
            Ok(Ok(())) => ControlFlow::Continue(()),
            _ => ControlFlow::Break(()),
        }
    }
}

struct GoneWhenDropped(Asking);

impl Drop for GoneWhenDropped {
    fn drop(&mut self) {
        self.0.0.store(false, Ordering::Relaxed);
    }
}
