//! A coarse grid over a picture, for what varies slowly.

use rayon::prelude::*;

use crate::blurred::blurred;

/// Width of a cell, pixels.
pub(crate) const CELL: usize = 6;

/// Number of cell corners across and down a picture.
pub(crate) fn corners((width, height): (usize, usize)) -> (usize, usize) {
    (width.div_ceil(CELL) + 1, height.div_ceil(CELL) + 1)
}

/// Values at the corners of cells.
pub(crate) struct Grid {
    pub across: usize,
    pub corners: Vec<f32>,
}

impl Grid {
    /// Means over squares with this many pixels to either side, taken twice.
    pub fn of_means(
        (width, height): (usize, usize),
        around: f64,
        value: impl Fn(usize) -> f32 + Sync,
    ) -> Self {
        let (across, down) = corners((width, height));
        let mut means = vec![0f32; across * down];
        means.par_chunks_exact_mut(across).enumerate().for_each(|(v, row)| {
            let beside = |at: usize, end: usize| {
                let from = (CELL * at).saturating_sub(CELL / 2).min(end - 1);
                from..(CELL * at + CELL / 2).min(end)
            };
            for (u, mean) in row.iter_mut().enumerate() {
                let (columns, rows) = (beside(u, width), beside(v, height));
                let n = columns.len() * rows.len();
                let sum: f32 = rows
                    .flat_map(|y| columns.clone().map(move |x| (x, y)))
                    .map(|(x, y)| value(y * width + x))
                    .sum();
                *mean = sum / n as f32;
            }
        });
        let around = ((around / CELL as f64).round() as usize).max(1);
        let blur = |of: &[f32]| blurred(of, across, around, None);
        Self { across, corners: blur(&blur(&means)) }
    }

    /// Value at a pixel, interpolated between the corners of its cell.
    #[inline]
    pub fn at(&self, x: usize, y: usize) -> f32 {
        let (u, v) = ((x % CELL) as f32 / CELL as f32, (y % CELL) as f32 / CELL as f32);
        let at = y / CELL * self.across + x / CELL;
        let row = |at: usize| self.corners[at] + u * (self.corners[at + 1] - self.corners[at]);
        let (upper, lower) = (row(at), row(at + self.across));
        upper + v * (lower - upper)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_even_and_what_climbs_evenly_stays_so() {
        for size in [(48, 48), (100, 61), (203, 50)] {
            let even = Grid::of_means(size, 9.0, |_| 3.0);
            let climbs = Grid::of_means(size, 9.0, |i| (i % size.0) as f32);
            for (x, y) in (0..size.1).flat_map(|y| (0..size.0).map(move |x| (x, y))) {
                assert!((even.at(x, y) - 3.0).abs() < 1e-5);
                // Away from the rim, where there is nothing to go on.
                if (30..size.0.saturating_sub(30)).contains(&x) {
                    assert!((climbs.at(x, y) - x as f32).abs() < 0.6, "{x}: {}", climbs.at(x, y));
                }
            }
        }
    }
}
