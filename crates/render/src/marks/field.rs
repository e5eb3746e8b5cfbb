//! Random fields over a square tile that repeats without a seam.
//!
//! Lattice noise shows its squares. Here bumps are scattered at random and added (sparse convolution: J. P. Lewis,
//! *Computer Graphics* 23 (1989) 263), so that the only direction is that of the bumps. Broad features are scattered on a
//! coarser tile and refined by subdivision of cubic B-splines.

/// Side of a tile in pixels, a power of two.
pub(crate) const SIDE: usize = 1024;
/// Side of a tile, mm.
pub(crate) const TILE_MM: f64 = 256.0;
/// Pixels of a tile per mm.
pub(super) const PER_MM: f32 = SIDE as f32 / TILE_MM as f32;

/// Radius up to which bumps are strewn as they are, pixels; broader ones on a coarser tile.
const FINE: f32 = 4.5;
/// Bumps that lie over a spot on average.
const OVER: f32 = 5.0;

/// Pseudo-random numbers, the same at every run (SplitMix64: G. L. Steele and others, 2014).
pub(super) struct Chance(u64);

impl Chance {
    pub(super) fn of(seed: u32) -> Self {
        Self(u64::from(seed).wrapping_mul(0xd134_2543_de82_ef95) ^ 0x9e37_79b9_7f4a_7c15)
    }

    /// A number in 0..1.
    pub(super) fn unit(&mut self) -> f32 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut mixed = self.0;
        mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((mixed ^ (mixed >> 31)) >> 40) as f32 / (1u64 << 24) as f32
    }

    pub(super) fn between(&mut self, low: f32, high: f32) -> f32 {
        low + (high - low) * self.unit()
    }

    /// A number in −1..1.
    pub(super) fn either(&mut self) -> f32 {
        self.between(-1.0, 1.0)
    }

    /// A point of a tile, in pixels.
    pub(super) fn spot(&mut self) -> (f32, f32) {
        (SIDE as f32 * self.unit(), SIDE as f32 * self.unit())
    }
}

/// Index of a point on the tile, with wrap-around.
#[inline]
pub(super) fn on_tile(x: i32, y: i32) -> usize {
    let wrap = |v: i32| (v as usize) & (SIDE - 1);
    wrap(y) * SIDE + wrap(x)
}

/// Value of a field at a point between pixels.
#[inline]
pub(super) fn between(field: &Field, x: f32, y: f32) -> f32 {
    let (left, top) = (x.floor(), y.floor());
    let (along, down) = (x - left, y - top);
    let at = |dx: i32, dy: i32| field[on_tile(left as i32 + dx, top as i32 + dy)];
    let row = |dy: i32| at(0, dy) + along * (at(1, dy) - at(0, dy));
    row(0) + down * (row(1) - row(0))
}

/// A value for each pixel of a tile, row by row.
pub(super) type Field = Vec<f32>;

/// Noise of mean 0 and standard deviation 1, from bumps with these radii across and down in pixels.
pub(super) fn noise(across: f32, down: f32, seed: u32) -> Field {
    let halvings = |radius: f32| {
        let mut halved = 0;
        while radius / (1 << halved) as f32 > FINE && SIDE >> halved > 16 {
            halved += 1;
        }
        halved
    };
    let (of_x, of_y) = (halvings(across), halvings(down));
    let (mut width, height) = (SIDE >> of_x, SIDE >> of_y);
    let (rx, ry) = (across / (1 << of_x) as f32, down / (1 << of_y) as f32);
    let mut field = strewn(width, height, (rx, ry), seed);
    while width < SIDE {
        field = finer_across(&field, width);
        width *= 2;
    }
    for _ in 0..of_y {
        field = finer_down(&field, width);
    }
    levelled(&mut field);
    field
}

/// A bump on a few pixels, its middle a part of a pixel aside and down.
struct Bump {
    /// Pixels across.
    width: usize,
    /// Row by row.
    height: Vec<f32>,
}

/// Parts of a pixel that the middle of a bump is assigned to.
const PARTS: usize = 4;

impl Bump {
    /// Of such radii, for each part of a pixel that its middle may lie aside and down.
    fn all((rx, ry): (f32, f32)) -> Vec<Self> {
        let (reach_x, reach_y) = (rx.ceil(), ry.ceil());
        let (width, rows) = (2 * reach_x as usize + 2, 2 * reach_y as usize + 2);
        let part = |n: usize| (n as f32 + 0.5) / PARTS as f32;
        let of = |n: usize| {
            let (x, y) = (reach_x + part(n % PARTS), reach_y + part(n / PARTS));
            let at = |i: usize| {
                let (dx, dy) = (((i % width) as f32 - x) / rx, ((i / width) as f32 - y) / ry);
                (1.0 - dx * dx - dy * dy).max(0.0).powi(2)
            };
            Self { width, height: (0..width * rows).map(at).collect() }
        };
        (0..PARTS * PARTS).map(of).collect()
    }
}

/// Bumps of either sign at random spots.
fn strewn(width: usize, height: usize, (rx, ry): (f32, f32), seed: u32) -> Field {
    let mut chance = Chance::of(seed);
    let mut field = vec![0.0; width * height];
    let bumps = ((width * height) as f32 * OVER / (std::f32::consts::PI * rx * ry)).ceil() as usize;
    let (reach_x, reach_y) = (rx.ceil() as i32, ry.ceil() as i32);
    let kinds = Bump::all((rx, ry));
    for _ in 0..bumps {
        let (x, y) = (width as f32 * chance.unit(), height as f32 * chance.unit());
        let sign = if chance.unit() < 0.5 { -1.0 } else { 1.0 };
        let part = |v: f32| ((v.fract() * PARTS as f32) as usize).min(PARTS - 1);
        let bump = &kinds[part(y) * PARTS + part(x)];
        let (left, top) = (x as i32 - reach_x, y as i32 - reach_y);
        for (n, heights) in bump.height.chunks_exact(bump.width).enumerate() {
            // Both sides are powers of two.
            let row = &mut field[((top + n as i32) as usize & (height - 1)) * width..][..width];
            match usize::try_from(left).ok().and_then(|left| row.get_mut(left..left + bump.width)) {
                Some(row) => row.iter_mut().zip(heights).for_each(|(to, height)| *to += sign * height),
                None => heights.iter().enumerate().for_each(|(k, height)| {
                    row[(left + k as i32) as usize & (width - 1)] += sign * height;
                }),
            }
        }
    }
    field
}

/// Twice as many columns, as a cubic B-spline goes.
fn finer_across(field: &[f32], width: usize) -> Field {
    let mut finer = vec![0.0; 2 * field.len()];
    for (row, to) in field.chunks_exact(width).zip(finer.chunks_exact_mut(2 * width)) {
        for x in 0..width {
            let (left, here, right) =
                (row[(x + width - 1) & (width - 1)], row[x], row[(x + 1) & (width - 1)]);
            to[2 * x] = 0.125 * left + 0.75 * here + 0.125 * right;
            to[2 * x + 1] = 0.5 * (here + right);
        }
    }
    finer
}

/// Twice as many rows.
fn finer_down(field: &[f32], width: usize) -> Field {
    let height = field.len() / width;
    let mut finer = vec![0.0; 2 * field.len()];
    for y in 0..height {
        let row = |y: usize| &field[(y % height) * width..][..width];
        let (above, here, below) = (row(y + height - 1), row(y), row(y + 1));
        let (even, odd) = finer[2 * y * width..][..2 * width].split_at_mut(width);
        for x in 0..width {
            even[x] = 0.125 * above[x] + 0.75 * here[x] + 0.125 * below[x];
            odd[x] = 0.5 * (here[x] + below[x]);
        }
    }
    finer
}

/// Scales to mean 0 and standard deviation 1.
pub(super) fn levelled(field: &mut [f32]) {
    let n = field.len() as f64;
    let mean = field.iter().map(|v| f64::from(*v)).sum::<f64>() / n;
    let spread = (field.iter().map(|v| (f64::from(*v) - mean).powi(2)).sum::<f64>() / n).sqrt().max(1e-12);
    for value in field {
        *value = ((f64::from(*value) - mean) / spread) as f32;
    }
}

/// Weighted sum of fields.
pub(super) fn sum(of: &[(f32, Field)]) -> Field {
    let mut sum = vec![0.0; SIDE * SIDE];
    for (weight, field) in of {
        add(&mut sum, *weight, field);
    }
    sum
}

fn add(sum: &mut [f32], weight: f32, field: &[f32]) {
    for (sum, value) in sum.iter_mut().zip(field) {
        *sum += weight * value;
    }
}

/// Noise of several sizes, each given as a radius in mm and a weight.
pub(super) fn rough(sizes: &[(f32, f32)], seed: u32) -> Field {
    let mut sum = vec![0.0; SIDE * SIDE];
    for ((mm, weight), seed) in sizes.iter().zip(seed..) {
        add(&mut sum, *weight, &noise(mm * PER_MM, mm * PER_MM, seed));
    }
    sum
}

/// Distorts a field by two others of these [sizes](rough): each point shows what lies about this many mm away.
pub(super) fn bent(field: &[f32], mm: f32, sizes: &[(f32, f32)], [across, down]: [u32; 2]) -> Field {
    let (by, across, down) = (mm * PER_MM, rough(sizes, across), rough(sizes, down));
    (0..SIDE * SIDE)
        .map(|i| {
            let (x, y) = ((i % SIDE) as f32 + by * across[i], (i / SIDE) as f32 + by * down[i]);
            at(field, x, y)
        })
        .collect()
}

/// Interpolates between pixels.
#[inline]
pub(super) fn at(field: &[f32], x: f32, y: f32) -> f32 {
    let (cx, cy) = (x.floor(), y.floor());
    let (fx, fy) = (x - cx, y - cy);
    let value = |dx: i32, dy: i32| field[on_tile(cx as i32 + dx, cy as i32 + dy)];
    let along = |dy: i32| value(0, dy) + fx * (value(1, dy) - value(0, dy));
    along(0) + fy * (along(1) - along(0))
}

/// Mean over a square of 2 `around` + 1 pixels.
pub(super) fn softened(field: &[f32], around: usize) -> Field {
    let n = (2 * around + 1) as f32;
    let mut rows = vec![0.0; field.len()];
    for (from, to) in field.chunks_exact(SIDE).zip(rows.chunks_exact_mut(SIDE)) {
        let at = |x: usize| from[x & (SIDE - 1)];
        let mut sum: f32 = (0..2 * around + 1).map(|i| at(i + SIDE - around)).sum();
        for (x, to) in to.iter_mut().enumerate() {
            *to = sum / n;
            sum += at(x + around + 1) - at(x + SIDE - around);
        }
    }
    let row = |y: usize| &rows[(y & (SIDE - 1)) * SIDE..][..SIDE];
    let mut sums = vec![0.0f32; SIDE];
    for y in 0..2 * around + 1 {
        sums.iter_mut().zip(row(y + SIDE - around)).for_each(|(sum, value)| *sum += value);
    }
    let mut done = vec![0.0; field.len()];
    for (y, to) in done.chunks_exact_mut(SIDE).enumerate() {
        to.iter_mut().zip(&sums).for_each(|(to, sum)| *to = sum / n);
        let (enters, leaves) = (row(y + around + 1), row(y + SIDE - around));
        for (sum, (enters, leaves)) in sums.iter_mut().zip(enters.iter().zip(leaves)) {
            *sum += enters - leaves;
        }
    }
    done
}

/// Refines a field of half the side to a full tile.
pub(super) fn finer(half: &[f32]) -> Field {
    finer_down(&finer_across(half, SIDE / 2), SIDE)
}

/// Writes the ranks of values, scaled to all of `u16`, into `ranks`. Values are compared to a thousandth; ties are ranked
/// in order.
pub(super) fn ranked(values: Field, mut ranks: Vec<u16>) -> Vec<u16> {
    const KEPT: u32 = 11;
    // Floats in the order of whole numbers.
    let key = |value: f32| {
        let bits = value.to_bits();
        let ordered = if bits >> 31 == 1 { !bits } else { bits | 1 << 31 };
        (ordered >> KEPT) as usize
    };
    let mut begins = vec![0u32; (1 << (32 - KEPT)) + 1];
    for value in &values {
        begins[key(*value) + 1] += 1;
    }
    for i in 1..begins.len() {
        begins[i] += begins[i - 1];
    }
    let scale = 65536.0 / values.len() as f64;
    ranks.extend(values.into_iter().map(|value| {
        let place = &mut begins[key(value)];
        *place += 1;
        (f64::from(*place - 1) * scale) as u16
    }));
    ranks
}

#[cfg(test)]
mod tests {
    use super::*;

    /// How alike a field is to itself when it is moved by so much.
    fn alike(field: &[f32], dx: usize, dy: usize) -> f64 {
        let moved = |i: usize| on_tile((i % SIDE + dx) as i32, (i / SIDE + dy) as i32);
        let product = |i: usize| f64::from(field[i]) * f64::from(field[moved(i)]);
        (0..SIDE * SIDE).map(product).sum::<f64>() / (SIDE * SIDE) as f64
    }

    /// The same along, across and aslant: no lattice. And nothing comes again.
    #[test]
    fn noise_has_no_direction_and_no_period() {
        for radius in [16.0, 30.0, 90.0] {
            let field = noise(radius, radius, 5);
            // Ten aside are as far as seven aside and seven down.
            let (along, across, slant) = (alike(&field, 10, 0), alike(&field, 0, 10), alike(&field, 7, 7));
            // Of few bumps chance leaves more.
            let chance = 6.0 * f64::from(radius) / SIDE as f64 + 0.02;
            assert!(
                (along - across).abs() < chance && (along - slant).abs() < chance,
                "{radius}: {along} {across} {slant}"
            );
            for times in 3..8 {
                let away = alike(&field, (times as f32 * radius) as usize, 0).abs();
                assert!(away < 2.0 * chance, "{radius} × {times}: {away}");
            }
        }
    }

    #[test]
    fn ranks_are_spread_evenly_and_in_order() {
        let values = noise(4.0, 9.0, 2);
        let ranks = ranked(values.clone(), Vec::new());
        let mut tenths = [0usize; 10];
        for rank in &ranks {
            tenths[usize::from(*rank) * 10 / 65536] += 1;
        }
        assert!(tenths.iter().all(|n| n.abs_diff(SIDE * SIDE / 10) < 50), "{tenths:?}");
        for i in (0..values.len() - 1).step_by(997) {
            let apart = (values[i] - values[i + 1]).abs() > 0.01;
            assert!(!apart || (values[i] < values[i + 1]) == (ranks[i] <= ranks[i + 1]));
        }
    }

    #[test]
    fn softening_keeps_the_mean() {
        let field = noise(5.0, 5.0, 8);
        let soft = softened(&field, 12);
        let mean = |field: &[f32]| field.iter().map(|v| f64::from(*v)).sum::<f64>() / field.len() as f64;
        assert!((mean(&soft) - mean(&field)).abs() < 1e-4);
        let spread = |field: &[f32]| field.iter().map(|v| f64::from(*v * *v)).sum::<f64>();
        assert!(spread(&soft) < 0.2 * spread(&field));
    }
}
