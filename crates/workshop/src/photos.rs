//! Colours picked from a photo.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_interchange::hex;
use warm_blend_learn::Measured;
use warm_blend_photo::{Card, Photo, PhotoSpot};
use warm_blend_spectral::Lab;

use crate::Refusal;

/// Where the card lies and what is to be picked. Places are in widths of the photo, from the left and from the top.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PickRequest {
    /// `white` or `grey`.
    pub card: String,
    /// A spot wholly on the card.
    pub card_at: SpotEntry,
    /// One to sixteen spots to pick.
    pub spots: Vec<SpotEntry>,
}

/// A round spot.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct SpotEntry {
    /// From the left, in widths of the photo.
    pub x: f64,
    /// From the top, in widths of the photo.
    pub y: f64,
    /// Radius, in widths of the photo.
    pub radius: f64,
}

/// What was picked.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColours {
    /// In the order of the spots.
    pub colours: Vec<PickedColour>,
    /// What may be wrong with them.
    pub warnings: Vec<&'static str>,
}

/// One colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct PickedColour {
    /// L*, a*, b* in daylight (D65, 2°).
    pub lab: [f64; 3],
    /// What the screen shows for it.
    pub hex: String,
}

impl From<SpotEntry> for PhotoSpot {
    fn from(SpotEntry { x, y, radius }: SpotEntry) -> Self {
        Self { x, y, radius }
    }
}

impl PickRequest {
    /// Picks them, weighed by the card.
    pub fn pick(self, photo: &Photo) -> Result<PickedColours, Refusal> {
        let card = match self.card.as_str() {
            "white" => Card::White,
            "grey" => Card::Grey,
            _ => return Err(Refusal::field("/card", "say which card is in the photo: white or grey")),
        };
        if self.spots.is_empty() || self.spots.len() > 16 {
            return Err(Refusal::field("/spots", "pick one to sixteen spots"));
        }
        let spots: Vec<PhotoSpot> = self.spots.into_iter().map(PhotoSpot::from).collect();
        let picked = photo
            .pick(card, self.card_at.into(), &spots)
            .map_err(|error| Refusal::field("/card_at", error))?;
        let colour = |lab: Lab| PickedColour { lab: [lab.l, lab.a, lab.b], hex: hex(&Measured::Colour(lab)) };
        Ok(PickedColours {
            colours: picked.colours.into_iter().map(colour).collect(),
            warnings: picked.warnings,
        })
    }
}
