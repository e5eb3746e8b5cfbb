//! The finish chosen for a zone.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_board::{Ground, Letter};
use warm_blend_paint::MixPart;

use crate::{Ageing, BadFinish, Stencil};

/// Greatest number of colours in a blend.
pub const COLOURS: usize = 5;

/// A finish.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Finish {
    /// The bare ground, natural or stained.
    Bare,
    /// A strip of a board.
    Strip {
        /// The board. One that was put away is still worn as it was.
        board: Uuid,
        /// Its strip.
        strip: Letter,
    },
    /// Two brushed coats of a paint or mix, without a board.
    Paint {
        /// What is in its pot.
        pot: Vec<MixPart>,
    },
    /// Two to five colours that blend into each other.
    Blend {
        /// `down`, `across` or `outward`.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        way: BlendDirection,
        /// The colours in their order.
        bands: Vec<Band>,
    },
}

/// Direction of a blend.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum BlendDirection {
    /// From the top down.
    Down,
    /// From left to right.
    Across,
    /// From the middle of each part outwards, as a vignette.
    Outward,
}

/// A colour in a blend.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Band {
    /// Contents of its pot.
    pub pot: Vec<MixPart>,
    /// Position of the pure colour, from 0 at the start to 1 at the end.
    pub at: f64,
}

/// Finish of a zone, with pattern and age.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneFinish {
    /// Finish.
    pub wears: Finish,
    /// Ground of the piece here, if different from elsewhere; the ground of the board plays no part.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ground: Option<Ground>,
    /// Stencilled pattern.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stencil: Option<Stencil>,
    /// Signs of age.
    #[serde(default)]
    pub ageing: Ageing,
}

impl Finish {
    pub(crate) fn check(&self) -> Result<(), BadFinish> {
        let bands = match self {
            Finish::Paint { pot } if pot.is_empty() => return Err(BadFinish::EmptyPot),
            Finish::Blend { bands, .. } => bands,
            _ => return Ok(()),
        };
        if !(2..=COLOURS).contains(&bands.len()) {
            return Err(BadFinish::Colours(bands.len()));
        }
        let within = bands.iter().all(|band| (0.0..=1.0).contains(&band.at));
        if !within || bands.windows(2).any(|two| two[1].at <= two[0].at) {
            return Err(BadFinish::Order);
        }
        if bands.iter().any(|band| band.pot.is_empty()) {
            return Err(BadFinish::EmptyPot);
        }
        Ok(())
    }
}

impl ZoneFinish {
    /// A new finish without a pattern on the ground of the piece.
    pub fn of(wears: Finish) -> Self {
        Self { wears, ground: None, stencil: None, ageing: Ageing::default() }
    }

    /// Its pots, except those of its board.
    pub fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        let (pot, bands) = match &self.wears {
            Finish::Paint { pot } => (Some(pot), [].as_slice()),
            Finish::Blend { bands, .. } => (None, bands.as_slice()),
            Finish::Bare | Finish::Strip { .. } => (None, [].as_slice()),
        };
        pot.into_iter()
            .chain(bands.iter().map(|band| &band.pot))
            .chain(self.stencil.iter().flat_map(Stencil::pots))
    }
}
