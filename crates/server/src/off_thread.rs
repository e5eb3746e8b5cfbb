//! Reckoning that takes some milliseconds or more, off the threads that answer requests.

use std::convert::Infallible;
use std::ops::ControlFlow;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use axum::body::Body;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use tokio::sync::mpsc;
use tokio_stream::wrappers::ReceiverStream;

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

/// Leaves the other threads to those who wait. Nothing where there is no thread to be had.
pub fn on_one_thread<R: Send>(work: impl FnOnce() -> R + Send) -> Option<R> {
    let one = rayon::ThreadPoolBuilder::new().num_threads(1).build().ok()?;
    Some(one.install(work))
}

/// Whether somebody still waits for an answer.
#[derive(Clone)]
pub struct Asking(Arc<AtomicBool>);

impl Asking {
    /// An error where nobody waits any more: nobody hears of it.
    pub fn still(&self) -> Result<(), Problem> {
        if self.goes_on().is_continue() { Ok(()) } else { Err(Problem::internal()) }
    }

    /// Goes on while somebody waits.
    pub fn goes_on(&self) -> ControlFlow<()> {
        if self.0.load(Ordering::Relaxed) { ControlFlow::Continue(()) } else { ControlFlow::Break(()) }
    }
}

/// Runs a search there and answers line by line (NDJSON, one JSON text a line): how far it is, and at last what it found, or what
/// went wrong. It ends early when whoever asked has gone.
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

/// Tells whoever asked how far it is.
pub struct Telling(mpsc::Sender<Result<String, Infallible>>);

#[derive(Serialize)]
struct WentWrong {
    problem: Problem,
}

impl Telling {
    /// Tells a step; goes on while somebody listens.
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
