//! Random draws that are the same at every call, so that a band does not flicker, and that do not depend on the other
//! tins on the shelf.

use std::hash::{Hash, Hasher};

use nalgebra::DMatrix;

use super::reading::{Measured, Reading, Shown};

/// Number of plausible shelves.
pub const MEMBERS: usize = 128;

/// Number of antithetic pairs: each draw has its opposite, so the first half determines anything linear.
pub(crate) const HALF: usize = MEMBERS / 2;

/// The first `n` plausible shelves, each followed by its opposite.
pub fn some(n: usize) -> impl Iterator<Item = usize> {
    (0..n).map(|i| if i.is_multiple_of(2) { i / 2 } else { i / 2 + HALF })
}

/// What a draw is for; each key has draws of its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Whose {
    /// A tin, by its key in the estimate.
    Tin(u64),
    /// A reading, by its content and the number of equal readings before it.
    Reading(u64, usize),
    /// A technique of the painter's hand.
    Technique(u8),
    /// A step in the update by a hypothetical test.
    Test(usize),
    /// The ground of a finish.
    Ground,
    /// The effect of a clear medium on a paint.
    Dilution,
}

impl Whose {
    /// Key of a reading of tins with these keys.
    pub fn reading(reading: &Reading, names: &[u64], before: usize) -> Self {
        let mut said = Fnv::default();
        for (paint, parts) in &reading.of {
            names[*paint].hash(&mut said);
            parts.value().to_bits().hash(&mut said);
        }
        (reading.pour, reading.state, reading.source).hash(&mut said);
        if let Shown::Drawdown { wet, .. } = &reading.shown {
            wet.value().to_bits().hash(&mut said);
        }
        for measured in reading.measured() {
            match measured {
                Measured::Colour(lab) => [lab.l, lab.a, lab.b].map(f64::to_bits).hash(&mut said),
                Measured::Spectrum(curve) => curve.bands().map(f64::to_bits).hash(&mut said),
            }
        }
        Whose::Reading(said.finish(), before)
    }

    fn seed(self) -> u64 {
        let mut said = Fnv::default();
        self.hash(&mut said);
        said.finish()
    }
}

/// A hash that is the same on every run and machine: FNV-1a, 64 bits (G. Fowler, L. C. Noll and K.-P. Vo, 1991).
struct Fnv(u64);

impl Default for Fnv {
    fn default() -> Self {
        Self(0xcbf2_9ce4_8422_2325)
    }
}

impl Hasher for Fnv {
    fn finish(&self) -> u64 {
        self.0
    }

    fn write(&mut self, bytes: &[u8]) {
        for byte in bytes {
            self.0 = (self.0 ^ u64::from(*byte)).wrapping_mul(0x0000_0100_0000_01b3);
        }
    }
}

/// Unit normals, coordinates × members, in antithetic pairs: the mean is exactly 0 and the covariance of the coordinates
/// exactly the identity, so that few members suffice.
pub fn unit_normals(whose: Whose, dimensions: usize) -> DMatrix<f64> {
    let half = half(whose, dimensions);
    DMatrix::from_fn(dimensions, MEMBERS, |i, m| if m < HALF { half[(i, m)] } else { -half[(i, m - HALF)] })
}

/// The first half of the draws; the second half are their opposites, in the same order.
pub(crate) fn half(whose: Whose, dimensions: usize) -> DMatrix<f64> {
    let mut normal = normals(whose.seed());
    // A column for each coordinate; the columns are then orthogonalised.
    let all = (0..HALF * dimensions).map(|_| normal());
    let mut columns = DMatrix::from_row_iterator(HALF, dimensions, all);
    for i in 0..dimensions {
        for j in 0..i {
            let along = columns.column(i).dot(&columns.column(j)) / HALF as f64;
            let other = columns.column(j).into_owned();
            columns.column_mut(i).axpy(-along, &other, 1.0);
        }
        let length = (columns.column(i).norm_squared() / HALF as f64).sqrt();
        columns.column_mut(i).scale_mut(1.0 / length);
    }
    columns.transpose()
}

/// Unit normals by Box and Muller (1958) from the SplitMix64 sequence (G. L. Steele and others, 2014).
fn normals(seed: u64) -> impl FnMut() -> f64 {
    let mut state = seed.wrapping_mul(0xd134_2543_de82_ef95);
    let mut uniform = move || {
        state = state.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut mixed = state;
        mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((mixed ^ (mixed >> 31)) >> 11) as f64 / (1u64 << 53) as f64
    };
    move || {
        let (u, v) = (1.0 - uniform(), uniform());
        (-2.0 * u.ln()).sqrt() * (std::f64::consts::TAU * v).cos()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn draws_have_mean_nought_and_covariance_one() {
        let drawn = unit_normals(Whose::Tin(3), 13);
        let covariance = &drawn * drawn.transpose() / MEMBERS as f64;
        assert!((covariance - DMatrix::identity(13, 13)).amax() < 1e-12);
        assert!(drawn.column_sum().amax() < 1e-9);
        assert_ne!(unit_normals(Whose::Tin(3), 2), unit_normals(Whose::Tin(4), 2));
        assert_ne!(unit_normals(Whose::Tin(3), 2), unit_normals(Whose::Technique(3), 2));
    }
}
