//! What benches share: see `engine.rs` and the others. Run with `make bench`.

use std::time::{Duration, Instant};

/// Does something once, then so many times, and says how long it took: the median and the slowest.
pub fn timed(name: &str, times: usize, mut work: impl FnMut()) {
    work();
    let mut took: Vec<Duration> = (0..times)
        .map(|_| {
            let start = Instant::now();
            work();
            start.elapsed()
        })
        .collect();
    took.sort();
    println!("{name}: median {:.1?}, slowest {:.1?} of {times}", took[times / 2], took[times - 1]);
}
