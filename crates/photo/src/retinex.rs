//! Separates old grain from the light on it.
//!
//! A photo shows reflectance × light, so their logarithms add up. Steps that change the colour, small ones where a surface is flat, and those
//! that a moulding does not have all along its run, are of the reflectance: grain, stains. Other steps are of the light: shadows, mouldings,
//! carving. The reflectance is what has just its steps,
//! in the sense of least squares (Retinex: B. K. P. Horn, *Comput. Graph. Image Process.* 3 (1974) 277; with colour: R. Grosse, M. K. Johnson,
//! E. H. Adelson and W. T. Freeman, *Proc. IEEE Int. Conf. Computer Vision* (2009) 2335). That is Poisson's equation; cosines solve it exactly
//! where nothing crosses the border of the picture (T. Simchony, R. Chellappa and M. Shao, *IEEE Trans. Pattern Anal. Mach. Intell.* 12 (1990)
//! 435).

use std::{collections::HashMap, f64::consts::PI};

use rayon::prelude::*;
use rustdct::DctPlanner;

use crate::{luminance, median};

/// A line along which the shape of a surface is the same, as along a moulding or an edge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Run {
    /// Stable identifier of the line within the photo.
    pub line: u64,
    /// Position along it, mm.
    pub along: f32,
    /// True where grain runs the same way, so that only its colour tells it from the profile.
    pub with_grain: bool,
}

/// What a pixel shows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Surface {
    /// Something else.
    Other,
    /// A flat surface with the number of its part: fine changes are of its reflectance.
    Flat(u16),
    /// A moulding or an edge: its shape changes the light, but not along a run.
    Shaped(u16, Option<Run>),
    /// Carving: all changes are of the light, since its shape hides the grain.
    Carved(u16),
}

impl Surface {
    /// Number of the part.
    pub fn part(self) -> Option<u16> {
        match self {
            Self::Other => None,
            Self::Flat(part) | Self::Shaped(part, _) | Self::Carved(part) => Some(part),
        }
    }
}

/// Changes of colour, as the distance of log ratios of channels, from none to all of which is of the reflectance†.
const COLOURED: [f32; 2] = [0.008, 0.025];
/// Colours are averaged over three pixels, so a step of the light is sharper than theirs.
const SHARPER: f32 = 3.6;
/// Width of what counts as fine on a flat surface, as a share of the width of the picture†.
const FINE: f64 = 0.012;
/// How far along a run the light is taken to be the same, mm†.
const RUN: f32 = 150.0;

/// By pixel the logarithm of the reflectance against the mean of its part; 0 where there is none. `linear` are the pixels row by row.
pub fn grain(width: usize, linear: &[[f32; 3]], surfaces: &[Surface]) -> Vec<f32> {
    let height = linear.len() / width.max(1);
    if width < 2 || height < 2 {
        return vec![0.0; linear.len()];
    }
    let logs: Vec<[f32; 3]> = linear.iter().map(|rgb| rgb.map(|channel| channel.max(1e-4).ln())).collect();
    let light: Vec<f32> =
        linear.iter().map(|rgb| luminance(rgb.map(f64::from)).max(1e-4).ln() as f32).collect();
    // Colours are averaged over a few pixels, or along a run, since their noise is larger.
    let colours: [Vec<f32>; 2] = [0, 2].map(|c| logs.iter().map(|log| log[c] - log[1]).collect());
    let chroma = colours.each_ref().map(|values| blurred(width, values, surfaces, 1));
    let runs = Runs::of(surfaces);
    let run_chroma = colours.each_ref().map(|values| runs.medians(values, values.clone()));
    let radius = ((FINE * width as f64) as usize).max(2);
    let smooth = runs.medians(&light, middles(width, &light, surfaces, radius));
    let turn =
        |of: &[Vec<f32>; 2], from: usize, to: usize| [of[0][to] - of[0][from], of[1][to] - of[1][from]];
    let [none, all] = COLOURED;
    let darkens = darkens(width, &light, surfaces, |from, to| {
        Some(turn(&chroma, from, to)).filter(|turn| turn[0].hypot(turn[1]) > none)
    });
    // How much of a change is of the reflectance by its turn of colour. A shadow may end where the colour changes: the rest is its.
    let by_colour = |change: f32, turn: [f32; 2], sharper: f32| {
        let coloured = ((turn[0].hypot(turn[1]) - none) / (all - none)).clamp(0.0, 1.0);
        let most = sharper * (darkens[0] * turn[0] + darkens[1] * turn[1]);
        coloured * change.clamp(most.min(0.0), most.max(0.0))
    };
    // The step of the reflectance from one pixel to the next.
    let step = |from: usize, to: usize| -> f64 {
        let (one, other) = (surfaces[from], surfaces[to]);
        if one.part().is_none() || one.part() != other.part() {
            return 0.0;
        }
        let (change, usual) = (light[to] - light[from], smooth[to] - smooth[from]);
        f64::from(match (one, other) {
            (Surface::Carved(_), _) | (_, Surface::Carved(_)) => 0.0,
            (Surface::Shaped(_, None), _) | (_, Surface::Shaped(_, None)) => {
                by_colour(change, turn(&chroma, from, to), SHARPER)
            }
            (Surface::Shaped(_, Some(one)), Surface::Shaped(_, Some(other)))
                if one.with_grain && other.with_grain =>
            {
                change - usual + by_colour(usual, turn(&run_chroma, from, to), 1.0)
            }
            _ => change - usual,
        })
    };
    let mut divergence = vec![0.0; linear.len()];
    for y in 0..height {
        for x in 0..width {
            let at = y * width + x;
            for next in [(x + 1 < width).then(|| at + 1), (y + 1 < height).then(|| at + width)] {
                let Some(next) = next else { continue };
                let step = step(at, next);
                divergence[at] += step;
                divergence[next] -= step;
            }
        }
    }
    poisson(width, &mut divergence);
    centred(&divergence, surfaces)
}

/// How much lighter a surface becomes with each change of its colour: least squares over the steps that change it.
fn darkens(
    width: usize,
    light: &[f32],
    surfaces: &[Surface],
    coloured: impl Fn(usize, usize) -> Option<[f32; 2]>,
) -> [f32; 2] {
    let down = surfaces.len() - width;
    let across = (0..surfaces.len()).filter(|at| at % width + 1 < width).map(|at| (at, at + 1));
    let pairs = across.chain((0..down).map(|at| (at, at + width)));
    let (mut aa, mut ab, mut bb, mut al, mut bl) = (1e-6, 0.0, 1e-6, 0.0, 0.0);
    for (from, to) in pairs {
        if surfaces[from].part().is_none() || surfaces[from].part() != surfaces[to].part() {
            continue;
        }
        let Some([a, b]) = coloured(from, to).map(|turn| turn.map(f64::from)) else { continue };
        let lighter = f64::from(light[to] - light[from]);
        (aa, ab, bb) = (aa + a * a, ab + a * b, bb + b * b);
        (al, bl) = (al + a * lighter, bl + b * lighter);
    }
    // Woods change along a line of colours: without a ridge its other axis would follow the noise.
    let ridge = 0.01 * (aa + bb);
    let (aa, bb) = (aa + ridge, bb + ridge);
    let determinant = aa * bb - ab * ab;
    [((al * bb - bl * ab) / determinant) as f32, ((bl * aa - al * ab) / determinant) as f32]
}

/// The values against the mean of each part.
fn centred(values: &[f64], surfaces: &[Surface]) -> Vec<f32> {
    let most = surfaces.iter().filter_map(|surface| surface.part()).max().unwrap_or(0);
    let mut sums = vec![(0.0, 0.0); usize::from(most) + 1];
    for (value, surface) in values.iter().zip(surfaces) {
        if let Some(part) = surface.part() {
            let (sum, n) = &mut sums[usize::from(part)];
            (*sum, *n) = (*sum + value, *n + 1.0);
        }
    }
    let off = |(value, surface): (&f64, &Surface)| {
        surface.part().map_or(0.0, |part| {
            let (sum, n) = sums[usize::from(part)];
            (value - sum / f64::max(n, 1.0)) as f32
        })
    };
    values.iter().zip(surfaces).map(off).collect()
}

/// The mean over a square of pixels, along rows and columns, of what is of the same part.
pub fn blurred(width: usize, values: &[f32], surfaces: &[Surface], radius: usize) -> Vec<f32> {
    in_runs(width, values, surfaces, |run, out| {
        let mut sums = vec![0.0f64; run.len() + 1];
        for (i, value) in run.iter().enumerate() {
            sums[i + 1] = sums[i] + f64::from(*value);
        }
        for (i, out) in out.iter_mut().enumerate() {
            let (least, most) = (i.saturating_sub(radius), (i + radius + 1).min(run.len()));
            *out = ((sums[most] - sums[least]) / (most - least) as f64) as f32;
        }
    })
}

/// The median along rows and then along columns of what is of the same part: lines of grain vanish, the edge of a shadow stays (J. W.
/// Tukey, *Exploratory Data Analysis* (1977) ch. 7).
fn middles(width: usize, values: &[f32], surfaces: &[Surface], radius: usize) -> Vec<f32> {
    in_runs(width, values, surfaces, |run, out| {
        let mut window = Vec::with_capacity(2 * radius + 1);
        for (i, out) in out.iter_mut().enumerate() {
            // The same number on both sides, so that a slope stays a slope.
            let reach = radius.min(i).min(run.len() - 1 - i);
            window.clear();
            window.extend_from_slice(&run[i - reach..=i + reach]);
            *out = median(&mut window);
        }
    })
}

/// The pixels along each run, in their order, with their positions along it.
struct Runs(Vec<Vec<(f32, usize)>>);

impl Runs {
    fn of(surfaces: &[Surface]) -> Self {
        let mut lines: HashMap<u64, Vec<(f32, usize)>> = HashMap::new();
        for (at, surface) in surfaces.iter().enumerate() {
            if let Surface::Shaped(_, Some(run)) = surface {
                lines.entry(run.line).or_default().push((run.along, at));
            }
        }
        let mut lines: Vec<_> = lines.into_values().collect();
        lines.par_iter_mut().for_each(|line| {
            line.sort_unstable_by(|one, other| one.0.total_cmp(&other.0).then(one.1.cmp(&other.1)));
        });
        Self(lines)
    }

    /// The median along each run: grain vanishes, the profile of a moulding stays. Pixels on no run are as in `smooth`.
    fn medians(&self, values: &[f32], mut smooth: Vec<f32>) -> Vec<f32> {
        let medians = self.0.par_iter().flat_map_iter(|line| {
            let mut window = Vec::new();
            let (mut from, mut to) = (0, 0);
            line.iter().map(move |(along, at)| {
                while line[from].0 < along - RUN {
                    from += 1;
                }
                while to < line.len() && line[to].0 <= along + RUN {
                    to += 1;
                }
                window.clear();
                window.extend(line[from..to].iter().map(|(_, at)| values[*at]));
                (*at, median(&mut window))
            })
        });
        for (at, median) in medians.collect::<Vec<_>>() {
            smooth[at] = median;
        }
        smooth
    }
}

/// Filters every row of pixels of one part, along the rows first and then along the columns.
fn in_runs(
    width: usize,
    values: &[f32],
    surfaces: &[Surface],
    filter: impl Fn(&[f32], &mut [f32]) + Sync,
) -> Vec<f32> {
    let along = |values: &[f32], parts: &[Option<u16>], length: usize| {
        let mut out = values.to_vec();
        let rows = out.par_chunks_exact_mut(length).zip(values.par_chunks_exact(length));
        rows.zip(parts.par_chunks_exact(length)).for_each(|((out, values), parts)| {
            let mut from = 0;
            for run in parts.chunk_by(|one, other| one == other) {
                let to = from + run.len();
                if run[0].is_some() {
                    filter(&values[from..to], &mut out[from..to]);
                }
                from = to;
            }
        });
        out
    };
    let height = values.len() / width;
    let parts: Vec<Option<u16>> = surfaces.iter().map(|surface| surface.part()).collect();
    let across = along(values, &parts, width);
    let both = along(&transposed(&across, width), &transposed(&parts, width), height);
    transposed(&both, height)
}

/// Solves Poisson's equation with no flow across the border: from the divergence of a field to what it is the gradient of.
fn poisson(width: usize, field: &mut [f64]) {
    let height = field.len() / width;
    let mut planner = DctPlanner::new();
    let (rows, columns) = (planner.plan_dct2(width), planner.plan_dct2(height));
    field.chunks_exact_mut(width).for_each(|row| rows.process_dct2(row));
    let mut turned = transposed(field, width);
    turned.chunks_exact_mut(height).for_each(|column| columns.process_dct2(column));
    let bend = |k: usize, n: usize| 2.0 * (PI * k as f64 / n as f64).cos() - 2.0;
    for (x, column) in turned.chunks_exact_mut(height).enumerate() {
        for (y, value) in column.iter_mut().enumerate() {
            let bends = bend(x, width) + bend(y, height);
            // The transform there and back is half the number of values of each axis.
            *value = if x + y == 0 { 0.0 } else { *value / bends * 4.0 / (width * height) as f64 };
        }
    }
    turned.chunks_exact_mut(height).for_each(|column| columns.process_dct3(column));
    let mut back = transposed(&turned, height);
    back.chunks_exact_mut(width).for_each(|row| rows.process_dct3(row));
    field.copy_from_slice(&back);
}

fn transposed<T: Copy>(values: &[T], width: usize) -> Vec<T> {
    let height = values.len() / width;
    (0..values.len()).map(|i| values[(i % height) * width + i / height]).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(32))]

        /// What a field is the gradient of is found again, but for a constant.
        #[test]
        fn poisson_is_solved(width in 2usize..40, height in 2usize..40, seed: u64) {
            let value = |i: usize| ((seed.wrapping_mul(2 * i as u64 + 3) >> 33) as f64 / f64::from(u32::MAX)).sin();
            let field: Vec<f64> = (0..width * height).map(value).collect();
            let mut divergence = vec![0.0; field.len()];
            for at in 0..field.len() {
                let (x, y) = (at % width, at / width);
                for next in [(x + 1 < width).then(|| at + 1), (y + 1 < height).then(|| at + width)].into_iter().flatten() {
                    divergence[at] += field[next] - field[at];
                    divergence[next] -= field[next] - field[at];
                }
            }
            poisson(width, &mut divergence);
            let shift = field[0] - divergence[0];
            for (one, other) in field.iter().zip(&divergence) {
                prop_assert!((one - other - shift).abs() < 1e-8);
            }
        }

        /// Anything at all is looked at, and parts have no grain on the whole.
        #[test]
        fn grain_is_finite(width in 1usize..30, height in 1usize..30, seed: u64) {
            let noise = |i: usize| ((seed.wrapping_mul(i as u64 + 7) >> 40) & 255) as f32 / 255.0;
            let pixels: Vec<[f32; 3]> = (0..width * height).map(|i| [noise(i), noise(i + 1), noise(2 * i)]).collect();
            let surface = |i: usize| match (seed >> (i % 60)) & 3 {
                0 => Surface::Other,
                1 => Surface::Flat(1),
                2 => Surface::Carved(2),
                _ => Surface::Shaped(2, (seed & 4 > 0).then(|| Run { line: (i % 7) as u64, along: noise(i), with_grain: seed & 8 > 0 })),
            };
            let surfaces: Vec<Surface> = (0..width * height).map(surface).collect();
            let grain = grain(width, &pixels, &surfaces);
            prop_assert!(grain.iter().all(|v| v.is_finite()));
            for part in [1, 2] {
                let of: Vec<f32> = grain.iter().zip(&surfaces).filter(|(_, s)| s.part() == Some(part)).map(|(v, _)| *v).collect();
                prop_assert!(of.iter().sum::<f32>().abs() < 1e-2 * of.len().max(1) as f32);
            }
        }
    }

    /// A board of two woods, in light that falls off and with a shadow across it: the grain is found, the light is not taken for grain.
    #[test]
    fn grain_is_told_from_light() {
        let (width, height) = (120, 80);
        let (pale, dark): ([f32; 3], [f32; 3]) = ([0.30, 0.17, 0.09], [0.20, 0.09, 0.04]);
        let is_dark = |x: usize, y: usize| (y + x / 4) % 24 < 9;
        let light = |x: usize, y: usize| (1.0 - 0.004 * x as f32) * if y > 50 { 0.45 } else { 1.0 };
        let pixels: Vec<[f32; 3]> = (0..width * height)
            .map(|i| {
                let (x, y) = (i % width, i / width);
                (if is_dark(x, y) { dark } else { pale }).map(|c| c * light(x, y))
            })
            .collect();
        let grain = grain(width, &pixels, &vec![Surface::Shaped(0, None); pixels.len()]);
        let mean = |wanted: &dyn Fn(usize, usize) -> bool| {
            let (sum, n) = (0..pixels.len())
                .filter(|i| wanted(i % width, i / width))
                .fold((0.0, 0.0), |(sum, n), i| (sum + grain[i], n + 1.0));
            sum / n
        };
        let contrast = mean(&|x, y| !is_dark(x, y)) - mean(&|x, y| is_dark(x, y));
        let of = |rgb: [f32; 3]| luminance(rgb.map(f64::from)) as f32;
        let true_contrast = (of(pale) / of(dark)).ln();
        assert!((contrast / true_contrast - 1.0).abs() < 0.1, "{contrast} {true_contrast}");
        let shadow = mean(&|_, y| y <= 50) - mean(&|_, y| y > 50);
        // Of 0.8: where grain ends at its edge, some is taken for grain.
        assert!(shadow.abs() < 0.1, "{shadow}");
        let falls = mean(&|x, _| x < 60) - mean(&|x, _| x >= 60);
        assert!(falls.abs() < 0.06, "{falls}");
    }
    /// A moulding whose profile is steeper than its grain, which runs across it: the profile is of the light, the grain is not.
    #[test]
    fn a_profile_is_told_from_the_grain_across_it() {
        let (width, height) = (160, 40);
        let (pale, dark): ([f32; 3], [f32; 3]) = ([0.20, 0.08, 0.04], [0.13, 0.045, 0.02]);
        let is_dark = |x: usize| x % 13 < 5;
        let profile = |y: usize| 1.0 + 0.6 * (y as f32 * 0.4).sin();
        let pixels: Vec<[f32; 3]> = (0..width * height)
            .map(|i| (if is_dark(i % width) { dark } else { pale }).map(|c| c * profile(i / width)))
            .collect();
        let on_run =
            |i: usize| Run { line: (i / width) as u64, along: 4.0 * (i % width) as f32, with_grain: false };
        let surfaces: Vec<Surface> = (0..pixels.len()).map(|i| Surface::Shaped(3, Some(on_run(i)))).collect();
        let grain = grain(width, &pixels, &surfaces);
        let of = |rgb: [f32; 3]| luminance(rgb.map(f64::from)) as f32;
        let contrast = (of(pale) / of(dark)).ln();
        let row = |y: usize| &grain[y * width..(y + 1) * width];
        let mean = |y: usize| row(y).iter().sum::<f32>() / width as f32;
        for y in 0..height {
            assert!((mean(y) - mean(0)).abs() < 0.02, "{y}: {} {}", mean(y), mean(0));
            for x in 1..width - 1 {
                let step = row(y)[x + 1] - row(y)[x];
                let expected = match (is_dark(x), is_dark(x + 1)) {
                    (true, false) => contrast,
                    (false, true) => -contrast,
                    _ => 0.0,
                };
                assert!((step - expected).abs() < 0.03, "{x} {y}: {step} {expected}");
            }
        }
    }
}
