//! Cholesky factors of large matrices, block column by block column.
//!
//! nalgebra's own factorisation goes column by column, which is bound by memory from a few hundred unknowns on. Here the
//! bulk of the work is nalgebra's matrix product, on all cores (G. H. Golub and C. F. Van Loan, *Matrix Computations*,
//! 4th ed., §4.2.9).

use nalgebra::{DMatrix, DVector};
use rayon::prelude::*;

/// Width of a block column.
const BLOCK: usize = 64;

/// A = L Lᵀ.
#[derive(Debug, Clone)]
pub(crate) struct Factor {
    /// L by block columns, each from its diagonal down, but for the diagonal block, of which the inverse stands there:
    /// what is solved by it is then a product, which nalgebra does many times faster than a solution.
    columns: Vec<DMatrix<f64>>,
    n: usize,
}

impl Factor {
    /// Factors a symmetric positive definite matrix, of which the lower triangle is read; None if it is not one.
    pub(crate) fn of(a: &DMatrix<f64>) -> Option<Self> {
        let n = a.nrows();
        let mut columns: Vec<DMatrix<f64>> = (0..n)
            .step_by(BLOCK)
            .map(|from| a.view((from, from), (n - from, BLOCK.min(n - from))).clone_owned())
            .collect();
        for at in 0..columns.len() {
            let (done, rest) = columns.split_at_mut(at + 1);
            let column = &mut done[at];
            let width = column.ncols();
            let corner = column.rows(0, width).clone_owned().cholesky()?.unpack();
            let mut inverse = DMatrix::identity(width, width);
            corner.solve_lower_triangular_mut(&mut inverse);
            // L21 = A21 L11⁻ᵀ, then A22 ← A22 − L21 L21ᵀ, lower block columns only.
            let below = column.nrows() - width;
            let panel = column.rows(width, below) * inverse.transpose();
            let across = panel.transpose();
            column.rows_mut(0, width).copy_from(&inverse);
            column.rows_mut(width, below).copy_from(&panel);
            rest.par_iter_mut().enumerate().for_each(|(i, later)| {
                let from = i * BLOCK;
                let (tall, wide) = later.shape();
                later.gemm(-1.0, &panel.rows(from, tall), &across.columns(from, wide), 1.0);
            });
        }
        Some(Self { columns, n })
    }

    /// L⁻¹ B.
    fn forward(&self, b: &mut DMatrix<f64>) {
        for (i, column) in self.columns.iter().enumerate() {
            let (from, width) = (i * BLOCK, column.ncols());
            let own = column.rows(0, width) * b.rows(from, width);
            b.rows_mut(from, width).copy_from(&own);
            let below = column.nrows() - width;
            b.rows_mut(from + width, below).gemm(-1.0, &column.rows(width, below), &own, 1.0);
        }
    }

    /// A⁻¹ b.
    pub(crate) fn solve(&self, b: &DVector<f64>) -> DVector<f64> {
        let x = self.solve_all(DMatrix::from_column_slice(self.n, 1, b.as_slice()));
        DVector::from_column_slice(x.as_slice())
    }

    /// A⁻¹ B.
    pub(crate) fn solve_all(&self, mut b: DMatrix<f64>) -> DMatrix<f64> {
        self.forward(&mut b);
        self.spread(b)
    }

    /// Bᵀ A⁻¹ B.
    pub(crate) fn squared(&self, mut b: DMatrix<f64>) -> DMatrix<f64> {
        self.forward(&mut b);
        b.tr_mul(&b)
    }

    /// The factor of nothing: no unknowns.
    pub(crate) fn none() -> Self {
        Self { columns: Vec::new(), n: 0 }
    }

    /// L⁻ᵀ B: turns independent unit normals into draws with the covariance A⁻¹.
    pub(crate) fn spread(&self, mut b: DMatrix<f64>) -> DMatrix<f64> {
        for (i, column) in self.columns.iter().enumerate().rev() {
            let (from, width) = (i * BLOCK, column.ncols());
            let mut own = b.rows(from, width).clone_owned();
            let below = column.nrows() - width;
            let coupling = column.rows(width, below).transpose();
            own.gemm(-1.0, &coupling, &b.rows(from + width, below), 1.0);
            let own = column.rows(0, width).transpose() * own;
            b.rows_mut(from, width).copy_from(&own);
        }
        b
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]

        #[test]
        fn solves_and_spreads_as_the_inverse_does(n in 1usize..200, seed in 1u64..1_000_000) {
            let mut state = seed;
            let mut next = || { state = state.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407); (state >> 33) as f64 / 2f64.powi(31) - 0.5 };
            let root = DMatrix::from_fn(n, n, |_, _| next());
            let a = &root * root.transpose() + DMatrix::identity(n, n);
            let b = DVector::from_fn(n, |_, _| next());
            let factor = Factor::of(&a).unwrap();
            prop_assert!((&a * factor.solve(&b) - &b).amax() < 1e-9);
            let spread = factor.spread(DMatrix::identity(n, n));
            prop_assert!((&a * &spread * spread.transpose() - DMatrix::identity(n, n)).amax() < 1e-8);
            let squared = factor.squared(DMatrix::identity(n, n));
            prop_assert!((&a * squared - DMatrix::identity(n, n)).amax() < 1e-8);
        }
    }

    #[test]
    fn what_is_not_positive_definite_has_no_factor() {
        assert!(Factor::of(&DMatrix::from_row_slice(2, 2, &[1.0, 2.0, 2.0, 1.0])).is_none());
    }
}
