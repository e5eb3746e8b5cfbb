//! Box blur.

use rayon::prelude::*;

/// Mean over a square of 2 `around` + 1 pixels. `beyond` is the value outside the picture; by default, that of the
/// nearest pixel.
pub(crate) fn blurred(heights: &[f32], width: usize, around: usize, beyond: Option<f32>) -> Vec<f32> {
    let share = 1.0 / (2 * around + 1) as f64;
    let mut across = vec![0f32; heights.len()];
    across.par_chunks_exact_mut(width).zip(heights.par_chunks_exact(width)).for_each(|(to, from)| {
        let value = |at: isize| {
            f64::from(within(at, width, beyond.is_some()).map_or(beyond.unwrap_or(0.0), |at| from[at]))
        };
        let around = around as isize;
        let mut sum: f64 = (-around..=around).map(value).sum();
        for (i, to) in (0..).zip(to) {
            *to = (share * sum) as f32;
            sum += value(i + around + 1) - value(i - around);
        }
    });
    // Down, many columns at a time.
    let height = heights.len() / width;
    let outside = vec![beyond.unwrap_or(0.0); width];
    let row = |at: isize| {
        within(at, height, beyond.is_some()).map_or(&outside[..], |at| &across[at * width..][..width])
    };
    let many = height.div_ceil(4 * rayon::current_num_threads()).max(1);
    let mut done = vec![0f32; heights.len()];
    done.par_chunks_mut(many * width).enumerate().for_each(|(chunk, rows)| {
        let (first, around) = ((chunk * many) as isize, around as isize);
        let mut sums = vec![0f64; width];
        for y in first - around..=first + around {
            sums.iter_mut().zip(row(y)).for_each(|(sum, value)| *sum += f64::from(*value));
        }
        for (y, to) in (first..).zip(rows.chunks_exact_mut(width)) {
            let (comes, goes) = (row(y + around + 1), row(y - around));
            for (((to, sum), comes), goes) in to.iter_mut().zip(&mut sums).zip(comes).zip(goes) {
                *to = (share * *sum) as f32;
                *sum += f64::from(*comes) - f64::from(*goes);
            }
        }
    });
    done
}

/// Where a place of a line of `n` is: nowhere beyond its ends if there is something else, at the end that is nearer if not.
fn within(at: isize, n: usize, else_beyond: bool) -> Option<usize> {
    let last = n.saturating_sub(1) as isize;
    (!else_beyond || (0..=last).contains(&at)).then(|| at.clamp(0, last) as usize)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_mean_is_taken_over_a_square_also_at_the_rim() {
        let heights: Vec<f32> = (0..35).map(|i| ((i * 37) % 11) as f32).collect();
        for (around, beyond) in [(1, None), (2, Some(-3.0)), (4, None), (9, Some(1.0))] {
            let blurred = blurred(&heights, 7, around, beyond);
            let reach = around as isize;
            for i in 0..35isize {
                let at = |dx, dy| {
                    let (x, y) =
                        (within(i % 7 + dx, 7, beyond.is_some()), within(i / 7 + dy, 5, beyond.is_some()));
                    x.zip(y).map_or(beyond.unwrap_or(f32::NAN), |(x, y)| heights[7 * y + x])
                };
                let square = (-reach..=reach).flat_map(|dy| (-reach..=reach).map(move |dx| at(dx, dy)));
                let mean = square.sum::<f32>() / ((2 * around + 1) as f32).powi(2);
                assert!((blurred[i as usize] - mean).abs() < 1e-4, "{i}, {around}: {mean}");
            }
        }
    }
}
