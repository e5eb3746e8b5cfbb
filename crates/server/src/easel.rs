//! The queue of pictures: a few are drawn at a time, newest first, and none for a client that has gone.
//!
//! A request waits for its turn in async code, before it takes a thread, so hundreds of abandoned requests cost nothing.
//! The newest goes first because the screen shows it now; if too many wait, the oldest is rejected.

use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use tokio::sync::oneshot;

/// Greatest number of waiting requests.
const WAITING: usize = 48;

/// The queue of pictures.
#[derive(Debug, Clone)]
pub struct Easel(Arc<Mutex<Line>>);

#[derive(Debug)]
struct Line {
    /// Turns available.
    free: usize,
    /// Waiting requests, newest last.
    waiting: Vec<oneshot::Sender<Turn>>,
}

/// A turn; dropping it lets the newest waiting request proceed.
#[derive(Debug)]
pub struct Turn(Option<Easel>);

/// Rejected because too many newer requests wait.
#[derive(Debug)]
pub struct TooMany;

impl Easel {
    /// A queue with this many turns at a time.
    pub fn of(turns: usize) -> Self {
        Self(Arc::new(Mutex::new(Line { free: turns, waiting: Vec::new() })))
    }

    /// Waits for a turn. Dropping the future leaves the queue.
    pub async fn turn(&self) -> Result<Turn, TooMany> {
        let shown = {
            let mut line = self.line();
            if line.free > 0 {
                line.free -= 1;
                return Ok(Turn(Some(self.clone())));
            }
            line.waiting.retain(|waits| !waits.is_closed());
            let (tell, shown) = oneshot::channel();
            line.waiting.push(tell);
            if line.waiting.len() > WAITING {
                line.waiting.remove(0);
            }
            shown
        };
        shown.await.map_err(|_| TooMany)
    }

    fn line(&self) -> MutexGuard<'_, Line> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }
}

impl Drop for Turn {
    fn drop(&mut self) {
        while let Some(easel) = self.0.take() {
            let mut line = easel.line();
            let Some(next) = line.waiting.pop() else {
                line.free += 1;
                return;
            };
            drop(line);
            // If that client has gone, the turn comes back and is offered to the next.
            if let Err(mut turn) = next.send(Turn(Some(easel))) {
                self.0 = turn.0.take();
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicUsize, Ordering};

    use tokio::task::yield_now;

    use super::*;

    async fn waits(easel: &Easel, order: &Arc<Mutex<Vec<usize>>>, n: usize) -> tokio::task::JoinHandle<()> {
        let (easel, order) = (easel.clone(), Arc::clone(order));
        let task = tokio::spawn(async move {
            if let Ok(_turn) = easel.turn().await {
                order.lock().unwrap().push(n);
            }
        });
        yield_now().await;
        task
    }

    /// The newest that still waits is next; those that left are passed over, and no turn is lost with them.
    #[tokio::test]
    async fn the_newest_first_and_nothing_for_who_has_gone() {
        let (easel, order) = (Easel::of(1), Arc::default());
        let first = easel.turn().await.unwrap();
        let mut tasks = Vec::new();
        for n in 0..6 {
            tasks.push(waits(&easel, &order, n).await);
        }
        tasks[5].abort();
        tasks[2].abort();
        yield_now().await;
        drop(first);
        for task in tasks {
            let _ = task.await;
        }
        assert_eq!(*order.lock().unwrap(), [4, 3, 1, 0]);
        assert!(easel.turn().await.is_ok());
    }

    /// Of hundreds the oldest are turned away.
    #[tokio::test]
    async fn no_more_than_so_many_wait() {
        let (easel, order) = (Easel::of(1), Arc::default());
        let first = easel.turn().await.unwrap();
        let mut tasks = Vec::new();
        for n in 0..WAITING + 20 {
            tasks.push(waits(&easel, &order, n).await);
        }
        drop(first);
        for task in tasks {
            task.await.unwrap();
        }
        assert_eq!(*order.lock().unwrap(), (20..WAITING + 20).rev().collect::<Vec<_>>());
    }

    /// Never more than two at a time, on many threads, with some that leave in between.
    #[tokio::test(flavor = "multi_thread", worker_threads = 4)]
    async fn no_more_than_so_many_at_a_time() {
        let (easel, now, most) = (Easel::of(2), Arc::new(AtomicUsize::new(0)), Arc::new(AtomicUsize::new(0)));
        let tasks: Vec<_> = (0..WAITING)
            .map(|n| {
                let (easel, now, most) = (easel.clone(), Arc::clone(&now), Arc::clone(&most));
                let task = tokio::spawn(async move {
                    let _turn = easel.turn().await.unwrap();
                    most.fetch_max(now.fetch_add(1, Ordering::SeqCst) + 1, Ordering::SeqCst);
                    yield_now().await;
                    now.fetch_sub(1, Ordering::SeqCst);
                });
                if n % 5 == 0 {
                    task.abort();
                }
                task
            })
            .collect();
        for task in tasks {
            let _ = task.await;
        }
        assert!(most.load(Ordering::SeqCst) <= 2);
        let _both = (easel.turn().await.unwrap(), easel.turn().await.unwrap());
    }
}
