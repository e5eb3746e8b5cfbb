//! The precision matrix of the paints' coordinates, and its Cholesky factor.
//!
//! There is a block of unknowns for each paint, and two blocks are coupled only if a reading names both paints: the house
//! white is coupled with everything, and most others with nothing else. So the matrix is sparse, and factored in an order
//! that keeps it so (approximate minimum degree: P. R. Amestoy, T. A. Davis and I. S. Duff, *SIAM J. Matrix Anal. Appl.*
//! 17 (1996) 886), by `faer`.

use std::sync::Arc;

use faer::linalg::solvers::Solve;
use faer::sparse::linalg::solvers::{Llt, SymbolicLlt};
use faer::sparse::{SparseColMatRef, SymbolicSparseColMat};
use faer::{MatMut, Side};
use nalgebra::{DMatrix, DVector};
use rayon::prelude::*;

/// Number of columns solved for together.
const TOGETHER: usize = 64;

/// Sparsity pattern; its elimination order is computed once.
#[derive(Debug)]
pub(crate) struct Pattern {
    /// Unknowns per block.
    each: usize,
    /// By block: coupled blocks below it, in order.
    below: Vec<Vec<usize>>,
    lower: SymbolicSparseColMat<usize>,
    order: Option<SymbolicLlt<usize>>,
}

impl Pattern {
    /// Pattern of `blocks` blocks with `each` unknowns, of which `pairs` are coupled; returns `known` if it fits.
    pub(crate) fn of(
        blocks: usize,
        each: usize,
        pairs: impl Iterator<Item = (usize, usize)>,
        known: Option<&Arc<Self>>,
    ) -> Arc<Self> {
        let mut below = vec![Vec::new(); blocks];
        for (one, other) in pairs.filter(|(one, other)| one != other) {
            below[one.min(other)].push(one.max(other));
        }
        for below in &mut below {
            below.sort_unstable();
            below.dedup();
        }
        if let Some(known) = known.filter(|known| known.each == each && known.below == below) {
            return Arc::clone(known);
        }
        let (mut starts, mut rows) = (vec![0], Vec::new());
        for (block, below) in below.iter().enumerate() {
            for j in 0..each {
                rows.extend(block * each + j..(block + 1) * each);
                rows.extend(below.iter().flat_map(|below| below * each..(below + 1) * each));
                starts.push(rows.len());
            }
        }
        let n = blocks * each;
        let lower = SymbolicSparseColMat::new_checked(n, n, starts, None, rows);
        let order = SymbolicLlt::try_new(lower.as_ref(), Side::Lower).ok().filter(|_| n > 0);
        Arc::new(Self { each, below, lower, order })
    }

    /// Identity matrix.
    pub(crate) fn identity(&self) -> Matrix<'_> {
        let mut values = vec![0.0; self.lower.row_idx().len()];
        for starts in self.lower.col_ptr().windows(2) {
            values[starts[0]] = 1.0;
        }
        Matrix { pattern: self, values }
    }
}

/// A symmetric matrix, stored as its lower triangle.
pub(crate) struct Matrix<'a> {
    pattern: &'a Pattern,
    values: Vec<f64>,
}

impl Matrix<'_> {
    /// Adds `value(i, j)` to row `i` of block `row` and column `j` of block `column`; `row` must not be above `column`,
    /// and the two must be coupled.
    pub(crate) fn add(&mut self, row: usize, column: usize, value: impl Fn(usize, usize) -> f64) {
        let Pattern { each, below, lower, .. } = self.pattern;
        for j in 0..*each {
            let start = lower.col_ptr()[column * each + j];
            let (first, at) = if row == column {
                (j, Some(start))
            } else {
                // After the rest of the block itself.
                let place = below[column].binary_search(&row).ok();
                (0, place.map(|place| start + each - j + place * each))
            };
            let Some(at) = at else { continue };
            for i in first..*each {
                self.values[at + i - first] += value(i, j);
            }
        }
    }

    /// Factors A = L Lᵀ; `None` if it is not positive definite.
    pub(crate) fn factor(&self) -> Option<Factor> {
        let lower = SparseColMatRef::new(self.pattern.lower.as_ref(), &self.values);
        let Some(order) = self.pattern.order.clone() else {
            return self.values.is_empty().then(Factor::of_nothing);
        };
        let finite = self.values.iter().all(|v| v.is_finite());
        let factor = finite.then(|| Llt::try_new_with_symbolic(order, lower, Side::Lower).ok())??;
        Some(Factor(Some(factor)))
    }
}

/// The factor L of A = L Lᵀ.
#[derive(Debug, Clone)]
pub(crate) struct Factor(Option<Llt<usize, f64>>);

impl Factor {
    /// Factor of an empty matrix.
    pub(crate) fn of_nothing() -> Self {
        Self(None)
    }

    /// A⁻¹ b.
    pub(crate) fn solve(&self, b: &DVector<f64>) -> DVector<f64> {
        let x = self.solve_all(DMatrix::from_column_slice(b.len(), 1, b.as_slice()));
        DVector::from_column_slice(x.as_slice())
    }

    /// A⁻¹ B.
    pub(crate) fn solve_all(&self, mut b: DMatrix<f64>) -> DMatrix<f64> {
        let rows = b.nrows();
        if let Some(factor) = &self.0 {
            b.as_mut_slice().par_chunks_mut(rows * TOGETHER).for_each(|some| {
                let columns = some.len() / rows;
                factor.solve_in_place(MatMut::from_column_major_slice_mut(some, rows, columns));
            });
        }
        b
    }

    /// Bᵀ A⁻¹ B.
    pub(crate) fn squared(&self, b: DMatrix<f64>) -> DMatrix<f64> {
        b.tr_mul(&self.solve_all(b.clone()))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// Against nalgebra's dense factor, whatever meets: nobody, everybody, a star.
        #[test]
        fn solves_as_a_dense_factor_does(
            blocks in 1usize..12,
            each in 1usize..14,
            pairs in prop::collection::vec((0usize..12, 0usize..12), 0..40),
            values in prop::collection::vec(-1.0f64..1.0, 64),
        ) {
            let pairs: Vec<_> = pairs.into_iter().map(|(a, b)| (a % blocks, b % blocks)).collect();
            let pattern = Pattern::of(blocks, each, pairs.iter().copied(), None);
            let mut sparse = pattern.identity();
            let n = blocks * each;
            let mut dense = DMatrix::<f64>::identity(n, n);
            // As readings do: a square of a slope along the unknowns of two blocks.
            for (k, (a, b)) in pairs.iter().copied().enumerate() {
                let slope = |block: usize, i: usize| values[(7 * block + 5 * i + 11 * k) % values.len()];
                for (row, column) in [(a, a), (b, b), (a.max(b), a.min(b))].into_iter().take(if a == b { 1 } else { 3 }) {
                    sparse.add(row, column, |i, j| slope(row, i) * slope(column, j));
                    for i in 0..each {
                        for j in 0..each {
                            let product = slope(row, i) * slope(column, j);
                            dense[(row * each + i, column * each + j)] += product;
                            if row != column {
                                dense[(column * each + j, row * each + i)] += product;
                            }
                        }
                    }
                }
            }
            let factor = sparse.factor().unwrap();
            let b = DMatrix::from_fn(n, 3, |i, j| values[(3 * i + j) % values.len()]);
            let expected = dense.clone().cholesky().unwrap().solve(&b);
            prop_assert!((factor.solve_all(b.clone()) - &expected).amax() < 1e-9);
            prop_assert!((factor.squared(b.clone()) - b.tr_mul(&expected)).amax() < 1e-8);
        }
    }

    #[test]
    fn what_is_not_positive_definite_has_no_factor() {
        let pattern = Pattern::of(2, 1, [(0, 1)].into_iter(), None);
        let mut matrix = pattern.identity();
        matrix.add(1, 0, |_, _| 2.0);
        assert!(matrix.factor().is_none());
        matrix.add(0, 0, |_, _| f64::INFINITY);
        assert!(matrix.factor().is_none());
        assert_eq!(Pattern::of(0, 12, std::iter::empty(), None).identity().factor().map(|_| ()), Some(()));
    }
}
