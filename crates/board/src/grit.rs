//! The grit of sandpaper.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;

/// A grit for smoothing. Coarser papers, which shape wood, are not part of a finish.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, strum::VariantArray)]
#[serde(try_from = "u16", into = "u16")]
pub enum Grit {
    /// Levels ridges between coats of paint.
    P220,
    /// Smooths a glaze.
    P320,
    /// Smooths a seal.
    P400,
    /// Polishes.
    P600,
}

/// A number that is not one of these grits.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("{0} grit: choose 220, 320, 400 or 600 to smooth with; to wear through, choose “Sanded back”")]
pub struct NotAGrit(u16);

impl Grit {
    /// All grits, coarse to fine.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// The number printed on the paper.
    pub const fn number(self) -> u16 {
        match self {
            Grit::P220 => 220,
            Grit::P320 => 320,
            Grit::P400 => 400,
            Grit::P600 => 600,
        }
    }

    /// Median grain diameter, µm: FEPA 43-1, ISO 6344-3 (from memory).
    pub const fn grain(self) -> f64 {
        match self {
            Grit::P220 => 68.0,
            Grit::P320 => 46.2,
            Grit::P400 => 35.0,
            Grit::P600 => 25.8,
        }
    }
}

impl TryFrom<u16> for Grit {
    type Error = NotAGrit;

    fn try_from(number: u16) -> Result<Self, NotAGrit> {
        Self::ALL.into_iter().find(|grit| grit.number() == number).ok_or(NotAGrit(number))
    }
}

impl From<Grit> for u16 {
    fn from(grit: Grit) -> u16 {
        grit.number()
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Grit {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        u16::schema()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for Grit {}

#[cfg(test)]
mod tests {
    use super::*;

    /// The finer, the smaller the grain; what is not in the list is refused with the list.
    #[test]
    fn finer_grits_have_smaller_grains() {
        assert!(Grit::ALL.windows(2).all(|pair| pair[0].grain() > pair[1].grain()));
        for grit in Grit::ALL {
            assert_eq!(serde_json::from_str::<Grit>(&grit.number().to_string()).unwrap(), grit);
        }
        for bad in ["80", "0", "-320", "1e9", "\"fine\""] {
            assert!(serde_json::from_str::<Grit>(bad).is_err(), "{bad}");
        }
        assert!(Grit::try_from(100).unwrap_err().to_string().contains("220, 320, 400 or 600"));
    }
}
