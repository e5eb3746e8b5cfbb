//! Mixing by parts.

use serde::{Deserialize, Serialize};

use crate::quantity::in_range;
use crate::{BadMeasure, Material, Optics, SurfaceReflection};

/// Parts by wet volume, 0.001 to 100 000.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(try_from = "f64", into = "f64")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Parts(f64);

/// Parts that cannot be poured.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadParts {
    /// Zero: the paint is not in the mix at all.
    #[error("0 parts is too little; use at least 0.001, or remove the paint")]
    Zero,
    /// Negative, too large or not a number.
    #[error("parts: {0}")]
    Range(BadMeasure),
}

/// A mix without components.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("the pot is empty; add at least one paint")]
pub struct NothingToMix;

impl Parts {
    /// Accepts 0.001 to 100 000.
    pub fn new(parts: f64) -> Result<Self, BadParts> {
        if parts == 0.0 {
            return Err(BadParts::Zero);
        }
        in_range(parts, 0.001, 100_000.0).map(Self).map_err(BadParts::Range)
    }

    /// The number.
    pub const fn value(self) -> f64 {
        self.0
    }

    /// Takes computed parts that are known to be in range, without checking them.
    pub const fn of(parts: f64) -> Self {
        Self(parts)
    }
}

impl TryFrom<f64> for Parts {
    type Error = BadParts;

    fn try_from(parts: f64) -> Result<Self, BadParts> {
        Self::new(parts)
    }
}

impl From<Parts> for f64 {
    fn from(parts: Parts) -> f64 {
        parts.0
    }
}

/// Material that results from stirring these together: K = Σ v K and S = Σ v S with v the share by wet volume (Duncan
/// 1940). Surface, air and flakes are averaged by what remains after drying.
///
/// The order does not matter, nor does a common factor of the parts; a paint mixed with itself does not change.
pub fn mix(components: &[(Parts, &Material)]) -> Result<Material, NothingToMix> {
    let total: f64 = components.iter().map(|(parts, _)| parts.0).sum();
    let film = dried_film(components)?;
    let (mut optics, mut milk) = (Optics::NONE, 0.0);
    for (parts, material) in components {
        let share = parts.0 / total;
        optics.add(share, &material.optics);
        milk += share * material.milk;
    }
    Ok(Material {
        optics,
        sheen: film.sheen,
        voids: film.voids,
        milk,
        lustre: film.lustre,
        stays: film.stays / total,
    })
}

/// The film a mix dries to, and how many of its parts stay to make it.
struct DriedFilm {
    sheen: SurfaceReflection,
    voids: f64,
    lustre: f64,
    stays: f64,
}

fn dried_film(components: &[(Parts, &Material)]) -> Result<DriedFilm, NothingToMix> {
    let first = components.first().ok_or(NothingToMix)?.1;
    let (mut stays, mut alpha, mut voids, mut lustre) = (0.0, 0.0, 0.0, 0.0);
    for (parts, material) in components {
        let stay = parts.0 * material.stays;
        stays += stay;
        alpha += stay * material.sheen.alpha();
        voids += stay * material.voids;
        lustre += stay * material.lustre;
    }
    // Where nothing stays there is only water, of one kind.
    Ok(match stays > 0.0 {
        true => DriedFilm {
            sheen: SurfaceReflection::new(alpha / stays),
            voids: voids / stays,
            lustre: lustre / stays,
            stays,
        },
        false => DriedFilm { sheen: first.sheen, voids: 0.0, lustre: first.lustre, stays },
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn parts_that_cannot_be_poured_are_refused() {
        assert_eq!(Parts::new(0.0), Err(BadParts::Zero));
        assert_eq!(Parts::new(-0.0), Err(BadParts::Zero));
        for bad in [-1.0, f64::NAN, f64::INFINITY, 1e308, 1e-9] {
            assert!(matches!(Parts::new(bad), Err(BadParts::Range(_))), "{bad}");
        }
        assert_eq!(mix(&[]), Err(NothingToMix));
    }
}
