//! Parallel counting over pixels.

use rayon::prelude::*;

/// Counts over all pixels, one piece for each thread, and adds up the pieces.
pub(crate) fn in_pieces<T: Send>(
    n: usize,
    count: impl Fn(std::ops::Range<usize>) -> T + Sync,
    add: impl Fn(&mut T, T),
) -> T {
    let piece = n.div_ceil(rayon::current_num_threads()).max(1);
    let pieces: Vec<T> =
        (0..n.div_ceil(piece)).into_par_iter().map(|i| count(i * piece..((i + 1) * piece).min(n))).collect();
    let mut pieces = pieces.into_iter();
    let mut sum = pieces.next().unwrap_or_else(|| count(0..0));
    for piece in pieces {
        add(&mut sum, piece);
    }
    sum
}
