//! The finish on a progress photo, read relative to a card and compared with the prediction.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_interchange::hex;
use warm_blend_learn::{Measured, Source};
use warm_blend_paint::{Seen, Verdict};
use warm_blend_photo::{NotPicked, Photo};
use warm_blend_piece::{Piece, Scheme, Zone};
use warm_blend_spectral::{Lab, Light, Reflectance};

use crate::photos::card_of;
use crate::{Refusal, Room, SpotEntry, not_said};

/// 90 % limit of an error in three directions, relative to its root mean square.
const NINE_OF_TEN: f64 = 1.44;

/// Positions of the card and the finish in a photo.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FinishRequest {
    /// Id of a photo in the log.
    pub photo: Uuid,
    /// `white` or `grey`.
    pub card: String,
    /// A spot completely on the card.
    pub card_at: SpotEntry,
    /// A spot of the finish, large enough to average its marks.
    pub finish_at: SpotEntry,
}

/// Colour of the finish on a photo, compared with each zone.
#[derive(Debug, Serialize, ToSchema)]
pub struct FinishOnPhoto {
    /// Measured colour on the screen, in daylight.
    pub hex: String,
    /// 90 % band of a colour from a photo, ΔE00.
    pub within: f64,
    /// Reasons for doubt.
    pub warnings: Vec<&'static str>,
    /// Painted zones, closest first.
    pub zones: Vec<ZoneOnPhoto>,
}

/// A zone compared with the measured colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct ZoneOnPhoto {
    /// `drawers` …
    pub zone: &'static str,
    /// `Drawer fronts` …
    pub name: &'static str,
    /// Predicted colour from across the room, in daylight.
    pub hex: String,
    /// The measured colour compared with it: `a hair lighter than predicted`.
    pub words: String,
    /// ΔE00.
    pub difference: f64,
    /// True if the difference is within the accuracy of a photo.
    pub held: bool,
}

impl Room<'_> {
    /// Compares the finish on a photo with the prediction for each finished zone in daylight.
    pub fn on_photo(
        &self,
        piece: &Piece,
        scheme: &Scheme,
        photo: &Photo,
        asked: &FinishRequest,
    ) -> Result<FinishOnPhoto, Refusal> {
        let at = [asked.finish_at.into()];
        let picked = photo.pick(card_of(&asked.card)?, asked.card_at.into(), &at).map_err(
            |NotPicked { spot, why }| {
                Refusal::field(if spot.is_some() { "/finish_at" } else { "/card_at" }, why)
            },
        )?;
        let read = picked.colours.first().copied().ok_or(Refusal::Broken)?;
        let within = NINE_OF_TEN * Source::Photo.off();
        let standing = self.stand(piece, scheme)?.ok_or_else(not_said)?;
        let painted = standing.zones.iter().filter(|seen| seen.painted);
        let mut zones: Vec<ZoneOnPhoto> =
            painted.map(|seen| ZoneOnPhoto::of(seen.zone, &seen.seen, read, within)).collect();
        zones.sort_by(|one, other| one.difference.total_cmp(&other.difference));
        Ok(FinishOnPhoto { hex: hex(&Measured::Colour(read)), within, warnings: picked.warnings, zones })
    }
}

impl ZoneOnPhoto {
    fn of(zone: Zone, predicted: &Reflectance, read: Lab, within: f64) -> Self {
        let predicted = Seen::of(predicted, Light::Daylight);
        let verdict = Verdict::against(read, predicted.lab, "predicted");
        let difference = verdict.difference.value();
        Self {
            zone: zone.id(),
            name: zone.name(),
            hex: predicted.screen.srgb.to_string(),
            words: verdict.words(),
            difference,
            held: difference <= within,
        }
    }
}
