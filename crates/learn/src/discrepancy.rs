//! What the model leaves out (M. C. Kennedy and A. O'Hagan, *J. R. Stat. Soc. B* 63 (2001) 425): paint is no perfect film, and
//! two constants do not add up exactly. Its size is that found on the paints of radiative transfer
//! (`crates/sim/tests/radiative.rs`).

use std::sync::LazyLock;

use nalgebra::DMatrix;

use super::reading::GROUPS;

/// Of a single paint, along one direction of colour, ΔE00†.
const OF_A_PAINT: f64 = 0.1;
/// And of a mix.
const OF_A_MIX: f64 = 0.2;
/// Of a mix in a band of a spectrum, as a share of R (1 − R).
const BY_BAND: f64 = 0.025;
/// How far apart groups of bands are off in the same sense, in groups of 30 nm: what scatters or absorbs more than was thought
/// does so over a hundred nanometres.
const ALIKE: f64 = 4.0;

/// Its standard deviation along one direction of colour, ΔE00.
pub(crate) fn colour_sd(of_a_mix: bool) -> f64 {
    if of_a_mix { OF_A_MIX } else { OF_A_PAINT }
}

/// How the reflectance `r` of a group of bands hangs on as many independent chances of unit variance.
pub(crate) fn by_group(of_a_mix: bool, group: usize, r: f64) -> [f64; GROUPS] {
    /// The root of a correlation that falls off as a normal curve does.
    static ROOT: LazyLock<DMatrix<f64>> = LazyLock::new(|| {
        // The diagonal is larger by so little that nobody sees it, and enough for a root.
        let alike = |i: usize, j: usize| {
            let apart = i.abs_diff(j) as f64 / ALIKE;
            (-0.5 * apart * apart).exp() + if i == j { 1e-6 } else { 0.0 }
        };
        let correlation = DMatrix::from_fn(GROUPS, GROUPS, alike);
        correlation.cholesky().map_or_else(|| DMatrix::identity(GROUPS, GROUPS), |root| root.unpack())
    });
    let sd = if of_a_mix { BY_BAND * r * (1.0 - r) } else { 0.0 };
    std::array::from_fn(|chance| sd * ROOT[(group, chance)])
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_group_is_off_by_its_share_and_as_its_neighbour_is() {
        let covariance = |i: usize, j: usize| -> f64 {
            let rows = [i, j].map(|group| by_group(true, group, 0.4));
            rows[0].iter().zip(&rows[1]).map(|(a, b)| a * b).sum()
        };
        let sd = BY_BAND * 0.4 * 0.6;
        for i in 0..GROUPS {
            assert!((covariance(i, i).sqrt() / sd - 1.0).abs() < 1e-5);
        }
        assert!((covariance(3, 7) / (sd * sd) - (-0.5f64).exp()).abs() < 1e-5);
        assert_eq!(by_group(false, 4, 0.4), [0.0; GROUPS]);
    }
}
