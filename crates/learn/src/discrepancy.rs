//! Model discrepancy (M. C. Kennedy and A. O'Hagan, *J. R. Stat. Soc. B* 63 (2001) 425): real paint is not an ideal film,
//! and its two constants do not add exactly. The size is that found for paints computed by radiative transfer
//! (`crates/sim/tests/sim/radiative.rs`).

use std::sync::LazyLock;

use nalgebra::DMatrix;
use warm_blend_paint::{Material, Optics, SurfaceReflection};
use warm_blend_spectral::BANDS;

use super::{
    draws::{self, Whose},
    reading::GROUPS,
};

/// For a single paint, in each direction of colour, ΔE00†.
const OF_A_PAINT: f64 = 0.1;
/// For a mix, in each direction of colour, ΔE00†.
const OF_A_MIX: f64 = 0.2;
/// For a mix, in a band of a spectrum, as a share of R (1 − R).
const BY_BAND: f64 = 0.025;
/// Correlation length of the error over groups of 30 nm: wrong absorption or scattering extends over a hundred
/// nanometres.
const ALIKE: f64 = 4.0;

/// Standard deviation in one direction of colour, ΔE00.
pub(crate) fn colour_sd(of_a_mix: bool) -> f64 {
    if of_a_mix { OF_A_MIX } else { OF_A_PAINT }
}

/// Derivatives of the reflectance `r` of a group of bands by independent unit normals, one for each group.
pub(crate) fn by_group(of_a_mix: bool, group: usize, r: f64) -> [f64; GROUPS] {
    /// Root of a Gaussian correlation.
    static ROOT: LazyLock<DMatrix<f64>> = LazyLock::new(|| {
        // The diagonal is increased by a negligible amount, enough for a root.
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

/// Effect of a clear medium on a paint, besides thinning: separated particles scatter more (F. Fitzwater and J. W. Hook,
/// *J. Coat. Technol.* 57 (721) (1985) 39), the medium fills the air between them and smooths the surface, each to an
/// unknown extent. Standard deviations for pure medium: of ln S and ln K in the middle of the spectrum and between its
/// ends, and of α.
const DILUTED: [f64; 5] = [0.6, 0.4, 0.2, 0.2, 0.1];

/// Factor on the uncertainty of S and α for each unit of φ, the air that the medium fills.
const POROUS: f64 = 1.3;

/// Plausible variant number `member` of a mix that contains a share of clear medium, 0..=1.
pub(crate) fn diluted(mix: Material, clear: f64, member: usize) -> Material {
    static CHANCES: LazyLock<DMatrix<f64>> =
        LazyLock::new(|| draws::unit_normals(Whose::Dilution, DILUTED.len()));
    if clear <= 0.0 {
        return mix;
    }
    let [s, s_run, k, k_run, alpha] = std::array::from_fn(|n| clear * DILUTED[n] * CHANCES[(n, member)]);
    let porous = 1.0 + POROUS * mix.voids / (1.0 - clear).max(0.01);
    let [s, alpha] = [s, alpha].map(|off| off * porous);
    let along = |band: usize| band as f64 / (BANDS - 1) as f64 - 0.5;
    let times = |of: &[f64; BANDS], level: f64, run: f64| {
        std::array::from_fn(|i| of[i] * (level + run * along(i)).exp())
    };
    let optics = Optics::new(times(mix.optics.k(), k, k_run), times(mix.optics.s(), s, s_run));
    Material { sheen: SurfaceReflection::new(mix.sheen.alpha() + alpha), optics, ..mix }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::draws::MEMBERS;

    /// Without a medium a mix is what it was; the more of it is medium, the wider plausible S and K are spread round the likeliest, and
    /// the more so where there is air to fill.
    #[test]
    fn a_medium_spreads_what_a_mix_may_be() {
        let mix = Material::closed(Optics::new([0.5; BANDS], [20.0; BANDS]), SurfaceReflection::new(0.2));
        let spread = |clear: f64, voids: f64| {
            let of = |member| diluted(Material { voids, ..mix.clone() }, clear, member);
            let ln = |member: usize| (of(member).optics.s()[BANDS / 2] / 20.0).ln();
            (0..MEMBERS).map(|member| ln(member).powi(2)).sum::<f64>().sqrt() / (MEMBERS as f64).sqrt()
        };
        assert_eq!(spread(0.0, 0.5), 0.0);
        let [half, whole] = [0.5, 1.0].map(|clear| spread(clear, 0.0));
        assert!((whole / half - 2.0).abs() < 0.02, "{half} {whole}");
        assert!((whole / DILUTED[0] - 1.0).abs() < 0.1, "{whole}");
        // Half of it is medium, so the paint itself has twice the air of the mix.
        let porous = spread(0.5, 0.5) / half;
        assert!((porous - (1.0 + POROUS)).abs() < 1e-3, "{porous}");
    }

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
