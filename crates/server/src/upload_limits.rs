//! Upload limits: files and photos that take much memory are processed in turn, so that any number can arrive at once.

use std::sync::Arc;

use axum::http::StatusCode;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};

use crate::connections::BODY;
use crate::off_thread::off_thread;
use crate::problem::Problem;

/// Number of uploads held in memory.
const AT_THE_DOOR: usize = 3;

/// Number of files processed at a time. A photo counts as all of them, because it takes some hundred megabytes.
const ON_THE_TABLE: usize = 2;

/// The queue of uploads.
#[derive(Debug, Clone)]
pub struct Heavy {
    door: Arc<Semaphore>,
    table: Arc<Semaphore>,
}

/// A place in the queue, returned when dropped.
#[derive(Debug)]
pub struct Ticket {
    _held: OwnedSemaphorePermit,
}

impl Default for Heavy {
    fn default() -> Self {
        Self { door: Arc::new(Semaphore::new(AT_THE_DOOR)), table: Arc::new(Semaphore::new(ON_THE_TABLE)) }
    }
}

impl Heavy {
    /// A place for an upload, once there is one.
    pub async fn place(&self) -> Result<Ticket, Problem> {
        let place = tokio::time::timeout(BODY, Arc::clone(&self.door).acquire_owned()).await;
        let held = place.map_err(|_| {
            let detail = "busy with other files and photos; try again in a minute";
            Problem::new(StatusCode::SERVICE_UNAVAILABLE, "busy", "Busy", detail)
        })?;
        Ok(Ticket { _held: held.map_err(|_| Problem::internal())? })
    }

    /// Processes a file, at most two at a time.
    pub async fn file<R: Send + 'static>(
        &self,
        work: impl FnOnce() -> Result<R, Problem> + Send + 'static,
    ) -> Result<R, Problem> {
        self.taking(1, work).await
    }

    /// Processes a photo, one at a time.
    pub async fn photo<R: Send + 'static>(
        &self,
        work: impl FnOnce() -> Result<R, Problem> + Send + 'static,
    ) -> Result<R, Problem> {
        self.taking(ON_THE_TABLE as u32, work).await
    }

    async fn taking<R: Send + 'static>(
        &self,
        share: u32,
        work: impl FnOnce() -> Result<R, Problem> + Send + 'static,
    ) -> Result<R, Problem> {
        let table = Arc::clone(&self.table);
        let held = table.acquire_many_owned(share).await.map_err(|_| Problem::internal())?;
        // Held until the work is done, even if nobody waits for it any more.
        off_thread(move || {
            let done = work();
            drop(held);
            done
        })
        .await
    }
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicUsize, Ordering};
    use std::time::Duration;

    use super::*;

    /// Twenty at once: never more than two files, and a photo alone.
    #[tokio::test(flavor = "multi_thread", worker_threads = 2)]
    async fn they_take_turns() {
        let (heavy, now, most) =
            (Heavy::default(), Arc::new(AtomicUsize::new(0)), Arc::new(AtomicUsize::new(0)));
        let work = |weight: usize| {
            let (heavy, now, most) = (heavy.clone(), Arc::clone(&now), Arc::clone(&most));
            tokio::spawn(async move {
                let work = move || {
                    most.fetch_max(now.fetch_add(weight, Ordering::SeqCst) + weight, Ordering::SeqCst);
                    std::thread::sleep(Duration::from_millis(5));
                    now.fetch_sub(weight, Ordering::SeqCst);
                    Ok(())
                };
                if weight == 1 { heavy.file(work).await } else { heavy.photo(work).await }.unwrap();
            })
        };
        let all: Vec<_> = (0..20).map(|i| work(if i % 5 == 0 { ON_THE_TABLE } else { 1 })).collect();
        for one in all {
            one.await.unwrap();
        }
        assert_eq!(most.load(Ordering::SeqCst), ON_THE_TABLE);
    }

    #[tokio::test]
    async fn a_place_is_given_back() {
        let heavy = Heavy::default();
        let mut places = Vec::new();
        for _ in 0..AT_THE_DOOR {
            places.push(heavy.place().await.unwrap());
        }
        assert!(tokio::time::timeout(Duration::from_millis(20), heavy.place()).await.is_err());
        places.pop();
        assert!(heavy.place().await.is_ok());
    }
}
