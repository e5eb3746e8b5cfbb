//! Fixed draws: the same at every call, so that a band does not flicker.

use nalgebra::DMatrix;

/// How many plausible shelves stand for what is not known.
pub(crate) const MEMBERS: usize = 128;

/// Unit normals of a paint, coordinates × members, each with its opposite: mean exactly 0, and covariance exactly 1 among
/// the coordinates of one paint, so that few members serve for many.
pub(crate) fn of(paint: usize, dimensions: usize) -> DMatrix<f64> {
    let half = MEMBERS / 2;
    let mut normal = normals(paint as u64);
    let mut rows = DMatrix::from_fn(dimensions, half, |_, _| normal());
    for i in 0..dimensions {
        for j in 0..i {
            let along = rows.row(i).dot(&rows.row(j)) / half as f64;
            let other = rows.row(j) * along;
            rows.set_row(i, &(rows.row(i) - other));
        }
        let length = (rows.row(i).norm_squared() / half as f64).sqrt();
        rows.row_mut(i).scale_mut(1.0 / length);
    }
    DMatrix::from_fn(dimensions, MEMBERS, |i, m| if m < half { rows[(i, m)] } else { -rows[(i, m - half)] })
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
        let drawn = of(3, 13);
        let covariance = &drawn * drawn.transpose() / MEMBERS as f64;
        assert!((covariance - DMatrix::identity(13, 13)).amax() < 1e-12);
        assert!(drawn.column_sum().amax() < 1e-9);
        assert_ne!(of(3, 2), of(4, 2));
    }
}
