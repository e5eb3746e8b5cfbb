//! What a zone is to have on it.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_board::{Ground, Letter};
use warm_blend_paint::MixPart;

use crate::{Ageing, BadFinish, Stencil};

/// Most colours of a blend.
pub const COLOURS: usize = 5;

/// What a zone wears.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Finish {
    /// Nothing: the ground is seen, natural or stained.
    Bare,
    /// A strip of a board.
    Strip {
        /// The board. One that was put away is still worn as it was.
        board: Uuid,
        /// Its strip.
        strip: Letter,
    },
    /// Two brushed coats of a paint or a mix, without a board.
    Paint {
        /// What is in its pot.
        pot: Vec<MixPart>,
    },
    /// Two to five colours that go over into each other.
    Blend {
        /// `down`, `across` or `outward`.
        #[cfg_attr(feature = "schema", schema(value_type = String))]
        way: BlendDirection,
        /// The colours in their order.
        bands: Vec<Band>,
    },
}

/// Which way a blend goes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum BlendDirection {
    /// From the top down.
    Down,
    /// From left to right.
    Across,
    /// From the middle of each part outwards: a vignette.
    Outward,
}

/// A colour of a blend.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Band {
    /// What is in its pot.
    pub pot: Vec<MixPart>,
    /// Where it is pure, 0 at the beginning to 1 at the end.
    pub at: f64,
}

/// What a zone wears, and how old it looks.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneFinish {
    /// The finish.
    pub wears: Finish,
    /// What the piece has there, if not the same as elsewhere on it; never what the board lay on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ground: Option<Ground>,
    /// A pattern on it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stencil: Option<Stencil>,
    /// How old it looks.
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
    /// A finish on what its board lies on, without a pattern and new.
    pub fn of(wears: Finish) -> Self {
        Self { wears, ground: None, stencil: None, ageing: Ageing::default() }
    }

    /// The pots it has beside those of its board.
    pub fn pots(&self) -> impl Iterator<Item = &Vec<MixPart>> {
        let (pot, bands) = match &self.wears {
            Finish::Paint { pot } => (Some(pot), [].as_slice()),
            Finish::Blend { bands, .. } => (None, bands.as_slice()),
            Finish::Bare | Finish::Strip { .. } => (None, [].as_slice()),
        };
        pot.into_iter()
            .chain(bands.iter().map(|band| &band.pot))
            .chain(self.stencil.iter().map(|stencil| &stencil.pot))
    }
}
