//! Photos of the piece itself, with its faces marked.

use serde::{Deserialize, Serialize};
use uuid::Uuid;
use warm_blend_paint::{Colour, Masstone};
use warm_blend_spectral::Reflectance;

use crate::View;

/// Greatest number of photos of a piece.
pub const PHOTOS: usize = 6;
/// Greatest number of outlines, and of their points.
const OUTLINES: usize = 12;
const POINTS: usize = 64;
/// How far outside the photo a corner may lie, in its widths.
const OUTSIDE: f64 = 4.0;

/// A face of the piece in a photo.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MarkedFace {
    /// `front`, `side` or `top`.
    pub view: View,
    /// Its corners as they are seen: upper left, upper right, lower right, lower left. Distances from the left and the top of the photo, in
    /// its widths.
    pub corners: [[f64; 2]; 4],
}

/// What the light of a photo is judged by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CardKind {
    /// A white card.
    White,
    /// A photographer's grey card.
    Grey,
    /// A surface of a known colour.
    Known,
}

/// A card held against the piece, or a surface whose colour is known.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MarkedCard {
    /// `white`, `grey` or `known`.
    pub kind: CardKind,
    /// Its colour, if it is `known`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub colour: Option<Colour>,
    /// Distance of its centre from the left, in widths of the photo.
    pub x: f64,
    /// Distance from the top, in widths of the photo.
    pub y: f64,
    /// Radius of a circle within it, in widths of the photo.
    pub radius: f64,
}

impl MarkedCard {
    /// Reflectance of a surface of known colour, or what is wrong with that colour.
    pub fn known(&self) -> Result<Reflectance, String> {
        let colour = self.colour.clone().ok_or("enter the colour, or choose a card")?;
        let masstone = Masstone::try_from(colour).map_err(|error| error.to_string())?;
        masstone.reflectance().map_err(|error| error.to_string())
    }
}

/// A photo of the piece, with its faces marked.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PiecePhoto {
    /// The photo, uploaded to `/api/photos/kept`.
    pub photo: Uuid,
    /// Faces that are marked; the finish is shown once the front is.
    #[serde(default)]
    pub faces: Vec<MarkedFace>,
    /// The card; without one colours are approximate.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub card: Option<MarkedCard>,
    /// Outlines of what stands in front of the piece and stays as it is, in widths of the photo.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub hidden: Vec<Vec<[f64; 2]>>,
}

impl PiecePhoto {
    /// Checks its numbers; whether the corners make sense is checked where the finish is shown. The error is a JSON pointer below the photo
    /// and a message.
    pub(crate) fn check(&self) -> Result<(), (String, String)> {
        let near = |point: &[f64; 2]| point.iter().all(|v| v.is_finite() && v.abs() <= OUTSIDE);
        for (n, face) in self.faces.iter().enumerate() {
            if !face.corners.iter().all(near) {
                return Err((
                    format!("faces/{n}/corners"),
                    "a corner is far outside the photo; move it back".into(),
                ));
            }
            if self.faces[..n].iter().any(|other| other.view == face.view) {
                return Err((
                    format!("faces/{n}/view"),
                    "this face is marked twice; keep one of them".into(),
                ));
            }
        }
        if let Some(card) = &self.card
            && !(near(&[card.x, card.y]) && card.radius > 0.0 && card.radius <= 0.5)
        {
            return Err(("card".into(), "the card is outside the photo; move it onto the card".into()));
        }
        if let Some(card) = self.card.as_ref().filter(|card| card.kind == CardKind::Known) {
            card.known().map_err(|words| ("card/colour".into(), words))?;
        }
        if self.hidden.len() > OUTLINES {
            return Err(("hidden".into(), format!("too many outlines; the most is {OUTLINES}")));
        }
        for (n, outline) in self.hidden.iter().enumerate() {
            if !(3..=POINTS).contains(&outline.len()) || !outline.iter().all(near) {
                let words = format!("an outline needs 3 to {POINTS} points on the photo; draw it again");
                return Err((format!("hidden/{n}"), words));
            }
        }
        Ok(())
    }
}
