//! A piece on a photo of it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_paint::{Dimension, FilmState, Units};
use warm_blend_photo::{Card, Photo, PhotoSpot, Point2};
use warm_blend_piece::{CardKind, Elevation, FinishedZone, Form, MarkedFace, PiecePhoto, View, Zone};
use warm_blend_render::{MarkedPhoto, OnPhoto, Proportions, Worn};

use crate::{Refusal, SpotEntry};

/// What is known of a photo of a piece before its finish is shown on it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceOnPhoto {
    /// Width of the photo, pixels.
    pub width: usize,
    /// Height of the photo, pixels.
    pub height: usize,
    /// Faces of the piece: `front`, `side`, `top`.
    pub faces: Vec<View>,
    /// A first guess of the front's corners, if the front is not marked.
    pub guess: Option<MarkedFace>,
    /// Probable position of a white card, for a person to confirm.
    pub likely_card: Option<SpotEntry>,
    /// Dimensions that fit the marks, if those entered do not.
    pub fitting: Option<FittingForm>,
    /// What is wrong with the marks; null where the finish can be shown.
    pub problem: Option<String>,
    /// Reasons for doubt.
    pub warnings: Vec<String>,
}

/// Dimensions that fit the marks on a photo better than those that were entered.
#[derive(Debug, Serialize, ToSchema)]
pub struct FittingForm {
    /// What the photo shows, beside what was entered.
    pub words: String,
    /// The piece with these dimensions: its width as it was entered.
    pub form: Form,
}

impl FittingForm {
    fn of(form: &Form, fits: Proportions, units: Units) -> Self {
        /// A photo measures no better, mm.
        const STEP: f64 = 5.0;
        let scaled = |mm: f64, by: f64| STEP * (mm * by / STEP).round();
        let said = |mm: f64| units.say(Dimension::Length, mm);
        let new = Form {
            height: scaled(form.height, fits.height),
            depth: scaled(form.depth, fits.depth.unwrap_or(1.0)),
            ..*form
        };
        let size = |of: &Form| match fits.depth {
            Some(_) => format!("{} high and {} deep", said(of.height), said(of.depth)),
            None => format!("{} high", said(of.height)),
        };
        let words = format!(
            "By the marks the piece is {} for a width of {}, not {}",
            size(&new),
            said(form.width),
            size(form)
        );
        Self { words, form: new }
    }
}

/// A point of a photo that a corner was set down near.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
pub struct PhotoPoint {
    /// Distance from the left, in widths of the photo.
    pub x: f64,
    /// Distance from the top, in widths of the photo.
    pub y: f64,
}

/// How far a corner snaps, in widths of the photo.
const REACH: f64 = 0.02;

impl PhotoPoint {
    /// The strongest corner near it, or the point itself.
    pub fn snapped(self, photo: &Photo) -> Self {
        match photo.snapped([self.x, self.y], REACH) {
            Some([x, y]) => Self { x, y },
            None => self,
        }
    }
}

/// What is wrong with a photo of a piece: the field of the photo, and a message.
type Wrong = (&'static str, String);

/// What a photo of a piece is judged by.
struct White {
    /// What a perfect white reads in each channel, linear.
    reads: [f64; 3],
    card: Option<PhotoSpot>,
    /// Reasons for doubt.
    warnings: Vec<String>,
}

fn white(photo: &Photo, of: &PiecePhoto) -> Result<White, Wrong> {
    let Some(card) = of.card else {
        let approximate = "No card in the photo, so colours are only approximate. Hold a white or grey card against the piece";
        let warnings = vec![approximate.to_owned()];
        return Ok(White { reads: photo.guessed_white(), card: None, warnings });
    };
    let spot = PhotoSpot { x: card.x, y: card.y, radius: card.radius };
    let kind = match card.kind {
        CardKind::White => Card::White,
        CardKind::Grey => Card::Grey,
    };
    let (reads, warnings) = photo.white(kind, spot).map_err(|error| ("/card", error.to_string()))?;
    Ok(White { reads, card: Some(spot), warnings: warnings.into_iter().map(str::to_owned).collect() })
}

/// The faces in the form that they are drawn from.
fn faces(of: &PiecePhoto) -> Vec<(View, [Point2; 4])> {
    of.faces.iter().map(|face| (face.view, face.corners)).collect()
}

fn prepared(photo: &Photo, elevation: &Elevation, of: &PiecePhoto, width: u32) -> Result<OnPhoto, Wrong> {
    let White { reads, card, .. } = white(photo, of)?;
    let faces = faces(of);
    let marked = MarkedPhoto { faces: &faces, hidden: &of.hidden, white: reads, card };
    OnPhoto::new(photo, elevation, marked, width).map_err(|error| ("/faces", error.to_string()))
}

/// Prepares a photo of a piece, scaled to a width in pixels.
pub fn on_photo(
    photo: &Photo,
    elevation: &Elevation,
    of: &PiecePhoto,
    width: u32,
) -> Result<OnPhoto, Refusal> {
    prepared(photo, elevation, of, width).map_err(|(field, error)| Refusal::field(field, error))
}

/// How each zone that has a finish covers what is below.
pub fn worn(dressed: &BTreeMap<Zone, FinishedZone>, state: FilmState) -> BTreeMap<Zone, Worn> {
    let painted = dressed.iter().filter(|(_, zone)| zone.painted);
    painted.map(|(zone, finished)| (*zone, Worn::of(finished, state))).collect()
}

impl PieceOnPhoto {
    /// Looks at a photo of a piece of this form and its marks.
    pub fn of(photo: &Photo, form: &Form, elevation: &Elevation, of: &PiecePhoto, units: Units) -> Self {
        let (width, height) = photo.size();
        let marked = of.faces.iter().find(|face| face.view == View::Front).copied();
        let front = elevation.face(View::Front).filter(|_| marked.is_none());
        let guess = front.map(|front| MarkedFace {
            view: View::Front,
            corners: photo.guessed_face(front.width / front.height),
        });
        let likely_card = match of.card {
            Some(_) => None,
            None => guess.or(marked).and_then(|face| photo.card_on(&face.corners)),
        };
        let warnings = white(photo, of).map(|white| white.warnings).unwrap_or_default();
        // On a small picture, since only the camera matters.
        let wrong = marked.and_then(|_| prepared(photo, elevation, of, 64).err());
        let faces = faces(of);
        let marks = MarkedPhoto { faces: &faces, hidden: &[], white: [1.0; 3], card: None };
        let fits = Proportions::contradicting(elevation, &marks, height as f64 / width as f64);
        Self {
            fitting: fits.map(|fits| FittingForm::of(form, fits, units)),
            width,
            height,
            faces: elevation.faces.iter().map(|face| face.view).collect(),
            guess,
            likely_card: likely_card.map(SpotEntry::from),
            problem: wrong.map(|(_, words)| words),
            warnings,
        }
    }
}
