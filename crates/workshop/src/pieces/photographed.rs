//! A piece on a photo of it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_paint::{Dimension, FilmState, Seen, Units};
use warm_blend_photo::{Card, Homography, Photo, PhotoSpot, Point2};
use warm_blend_piece::{
    CardKind, Elevation, Face, FinishedZone, Form, MarkedFace, MovedPart, Piece, PiecePhoto, Rect, View, Zone,
};
use warm_blend_render::{MarkedPhoto, OnPhoto, Proportions, SeenPart, Worn};
use warm_blend_spectral::Light;

use crate::{Refusal, SpotEntry, elevation_of};

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
    /// Parts that can be painted, as they are seen; what lies over another comes after it. Empty where the marks are wrong.
    pub parts: Vec<PartOnPhoto>,
    /// What is wrong with the marks; null where the finish can be shown.
    pub problem: Option<String>,
    /// Reasons for doubt.
    pub warnings: Vec<String>,
}

/// A part of a piece in a photo of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartOnPhoto {
    /// The face that it belongs to.
    pub view: View,
    /// Its index on that face.
    pub part: usize,
    /// Its zone.
    #[schema(value_type = String)]
    pub zone: Zone,
    /// Its name, with a number where there are several: `Drawer fronts 2`.
    pub name: String,
    /// True if it is set into another and can be moved within that.
    pub moves: bool,
    /// Upper left, upper right, lower right and lower left corner as they are seen, in widths of the photo.
    pub corners: [[f64; 2]; 4],
    /// True for what is seen of it round its edge.
    pub is_round: bool,
}

impl PartOnPhoto {
    fn of(face: &Face, SeenPart { view, part, zone, corners, on_face }: SeenPart) -> Option<Self> {
        let name = match face.parts.iter().filter(|other| other.zone == zone).count() {
            1 => zone.name().to_owned(),
            _ => format!("{} {}", zone.name(), face.nth(part) + 1),
        };
        let moves = on_face.is_some() && face.parts.get(part)?.on.is_some();
        Some(Self { view, part, zone, name, moves, corners, is_round: on_face.is_none() })
    }
}

/// Where the edges of a part were set down on a photo.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct PartPlaced {
    /// The face that it belongs to.
    pub view: View,
    /// Its index on that face.
    pub part: usize,
    /// Its upper left corner, in widths of the photo.
    pub upper_left: [f64; 2],
    /// Its lower right corner, in widths of the photo.
    pub lower_right: [f64; 2],
}

impl PartPlaced {
    /// The moved parts of a piece with this one, as near to there as there is room. `high` is the height of the photo in its widths.
    pub fn moved(&self, piece: &Piece, of: &PiecePhoto, high: f64) -> Result<Vec<MovedPart>, Refusal> {
        let elevation = elevation_of(piece)?;
        let faces = faces(of);
        let marks = MarkedPhoto::of(&faces);
        let parts = marks.parts(&elevation, high).map_err(|error| Refusal::field("/faces", error))?;
        let gone = || Refusal::field("/to/part", "no such part is seen in the photo; choose another");
        let is_it =
            |seen: &&SeenPart| (seen.view, seen.part) == (self.view, self.part) && seen.on_face.is_some();
        let seen = parts.iter().find(is_it).ok_or_else(gone)?;
        let on_face = |at: Point2| Homography::between(&seen.corners, &seen.on_face?)?.map(at);
        let out = || Refusal::field("/to", "this is outside the photo; put the corner nearer");
        let [left, upper] = on_face(self.upper_left).ok_or_else(out)?;
        let [right, lower] = on_face(self.lower_right).ok_or_else(out)?;
        // The left side is a mirror image of the drawing.
        let wanted = Rect { x: left.min(right), y: upper, w: (right - left).abs(), h: lower - upper };
        let fixed = || Refusal::field("/to/part", "this part follows the dimensions; change those");
        let new = elevation.moved(self.view, self.part, wanted).ok_or_else(fixed)?;
        let others = piece.moved.iter().filter(|moved| !moved.is_of(&new)).copied();
        Ok(others.chain([new]).collect())
    }
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
    let Some(card) = &of.card else {
        let approximate = "No card in the photo, so colours are only approximate. Hold a white or grey card against the piece";
        let warnings = vec![approximate.to_owned()];
        return Ok(White { reads: photo.guessed_white(), card: None, warnings });
    };
    let spot = PhotoSpot { x: card.x, y: card.y, radius: card.radius };
    let kind = match card.kind {
        CardKind::White => Card::White,
        CardKind::Grey => Card::Grey,
        CardKind::Known => {
            let reflects = card.known().map_err(|words| ("/card/colour", words))?;
            Card::Known(Seen::linear(&reflects, Light::Daylight))
        }
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
        let judged = white(photo, of);
        let faces = faces(of);
        let marks = MarkedPhoto::of(&faces);
        let high = height as f64 / width as f64;
        let seen = marked.map(|_| marks.parts(elevation, high)).transpose();
        let wrong = match (&judged, &seen) {
            (Err((_, words)), _) if marked.is_some() => Some(words.clone()),
            (_, Err(error)) => Some(error.to_string()),
            _ => None,
        };
        let painted = seen.ok().flatten().into_iter().flatten().filter(|part| part.zone.is_painted());
        let parts = painted.filter_map(|seen| PartOnPhoto::of(elevation.face(seen.view)?, seen)).collect();
        let fits = Proportions::contradicting(elevation, &marks, high);
        Self {
            fitting: fits.map(|fits| FittingForm::of(form, fits, units)),
            width,
            height,
            faces: elevation.faces.iter().map(|face| face.view).collect(),
            guess,
            likely_card: likely_card.map(SpotEntry::from),
            parts,
            problem: wrong,
            warnings: judged.map(|white| white.warnings).unwrap_or_default(),
        }
    }
}
