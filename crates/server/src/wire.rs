//! Query parameters.

use std::ops::Range;

use axum::http::{HeaderName, Uri, header};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_board::{Defect, GroundKind, Letter};
use warm_blend_documents::{Document, Kept};
use warm_blend_paint::Units;
use warm_blend_piece::View;
use warm_blend_render::{Closer, Fineness, Lamp, Shading, Viewpoint};
use warm_blend_store::{Store, StoreError};

use crate::{body::Json, problem::Problem};

/// Part of a long list.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PartAsked {
    /// Number of entries to skip; 0 if left out.
    #[serde(default)]
    pub from: usize,
    /// Greatest number of entries; all if left out. If there are more, the header `Link` says where (RFC 8288,
    /// `rel=\"next\"`).
    pub count: Option<usize>,
}

/// Order of a long list.
#[derive(Debug, Default, Deserialize, IntoParams)]
pub struct OrderAsked {
    /// True to list the latest first.
    #[serde(default)]
    pub latest_first: bool,
}

impl PartAsked {
    /// Range of the requested part, and where the next part begins, if there is one.
    pub fn range_within(&self, all: usize) -> (Range<usize>, Option<usize>) {
        let from = self.from.min(all);
        let to = self.count.map_or(all, |count| from.saturating_add(count.max(1)).min(all));
        (from..to, (to < all).then_some(to))
    }

    /// Reads the requested part, and says where the next part begins.
    pub fn read<T: Document>(
        &self,
        store: &Store,
        OrderAsked { latest_first }: OrderAsked,
    ) -> Result<(Vec<Kept<T>>, Option<usize>), StoreError> {
        let mut next = None;
        let part = store.some(latest_first, |all| {
            let (part, then) = self.range_within(all);
            next = then;
            part
        })?;
        Ok((part, next))
    }
}

/// Part of a long list, with a link to the next.
pub type PartOfList<T> = (Option<[(HeaderName, String); 1]>, Json<Vec<T>>);

/// Link to the next part of a list, if there is one.
pub fn next_part(asked_at: &Uri, from: Option<usize>) -> Option<[(HeaderName, String); 1]> {
    let from = from?;
    let others = asked_at.query().unwrap_or_default().split('&').filter(|asked| !asked.starts_with("from="));
    let query: String = others.filter(|asked| !asked.is_empty()).map(|asked| format!("{asked}&")).collect();
    Some([(header::LINK, format!("<{}?{query}from={from}>; rel=\"next\"", asked_at.path()))])
}

/// A colour.
#[derive(Debug, Deserialize, IntoParams)]
pub struct HexAsked {
    /// sRGB, 3, 6 or 8 hex digits.
    pub hex: String,
}

/// Revision that a change was based on.
#[derive(Debug, Deserialize, IntoParams)]
pub struct SeenRevision {
    /// Revision that the client saw.
    pub revision: i64,
}

/// Revision to delete, and whether the painter has confirmed it.
#[derive(Debug, Deserialize, IntoParams)]
pub struct Removal {
    /// Revision that the client saw.
    pub revision: i64,
    /// True if the painter has confirmed it although mixes use it.
    #[serde(default)]
    pub confirmed: bool,
}

/// A strip of a board.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct StripAsked {
    /// `A` to `F`; by default the first.
    pub strip: Option<Letter>,
    /// Number of layers that are on, from the ground up; by default all.
    pub layers: Option<usize>,
}

/// A defect.
#[derive(Debug, Deserialize, IntoParams)]
pub struct TroubleAsked {
    /// See `/api/boards/choices`.
    pub trouble: Defect,
}

/// Ground and main colour for the ready finishes.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ReadyAsked {
    /// The ground: see `/api/boards/choices`.
    pub ground: GroundKind,
    /// The main colour; by default a paint that suits the finish.
    pub base: Option<Uuid>,
}

/// Width and height of a picture, with defaults.
fn pixels(width: Option<u32>, height: Option<u32>) -> (u32, u32) {
    (width.unwrap_or(1200), height.unwrap_or(800))
}

/// Options of a picture.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct DrawnAs {
    /// Width in pixels, 48 to 4096; by default 1200.
    pub width: Option<u32>,
    /// Height in pixels, 48 to 4096; by default 800.
    pub height: Option<u32>,
    /// True to draw all strips side by side.
    #[serde(default)]
    pub all: bool,
    /// True to draw it finely, up to 1 050 000 pixels: smooth edges, but slower.
    #[serde(default)]
    fine: bool,
}

/// Fineness for this option.
pub fn fineness(fine: bool) -> Fineness {
    if fine { Fineness::Fine } else { Fineness::Quick }
}

impl DrawnAs {
    /// Width and height in pixels.
    pub fn size(&self) -> (u32, u32) {
        pixels(self.width, self.height)
    }

    pub fn fineness(&self) -> Fineness {
        fineness(self.fine)
    }
}

/// Direction of the light.
#[derive(Debug, Default, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
enum Lit {
    /// Lit by a window.
    #[default]
    Soft,
    /// Lit by a low lamp that shows every ridge.
    Raking,
    /// Not shaded, so that colours can be judged.
    None,
}

/// Shading of the relief.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ShadingAsked {
    /// `soft` (default): lit by a window; `raking`: by a low lamp that shows every ridge; `none`: not shaded, so that
    /// colours can be judged.
    #[param(inline)]
    #[serde(default)]
    shading: Lit,
    /// Direction of the light, degrees clockwise from the top; by default 320.
    lamp: Option<f64>,
}

impl ShadingAsked {
    pub fn get(&self) -> Result<Shading, Problem> {
        let side = self.lamp.unwrap_or(Lamp::WINDOW_SIDE);
        let rakes = match self.shading {
            Lit::None => return Ok(Shading::None),
            Lit::Soft => false,
            Lit::Raking => true,
        };
        match (0.0..=360.0).contains(&side) {
            true => Ok(Shading::By(Lamp::from_side(side, rakes))),
            false => Err(Problem::field(
                "?lamp",
                format!("{side} is out of range; use 0 to 360 degrees clockwise from the top"),
            )),
        }
    }
}

/// A scheme, and the size of its pictures.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct SchemeAsked {
    /// Index of the scheme; by default the chosen one.
    pub scheme: Option<usize>,
    /// Width in pixels, 48 to 4096; by default 1200.
    pub width: Option<u32>,
    /// Height in pixels, 48 to 4096; by default 800.
    pub height: Option<u32>,
}

impl SchemeAsked {
    /// Width and height in pixels.
    pub fn size(&self) -> (u32, u32) {
        pixels(self.width, self.height)
    }
}

/// A number of the query in its range.
fn within(name: &str, value: Option<f64>, usual: f64, least: f64, most: f64) -> Result<f64, Problem> {
    let value = value.unwrap_or(usual);
    let wrong = || Problem::field(name, format!("{value} is out of range; use {least} to {most}"));
    if (least..=most).contains(&value) { Ok(value) } else { Err(wrong()) }
}

/// Enlargement of a picture.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct CloserAsked {
    /// Enlargement, 1 to 16; by default 1.
    closer: Option<f64>,
    /// Horizontal centre of the enlargement, as a share of the whole picture, 0 to 1.
    x: Option<f64>,
    /// Vertical centre of the enlargement, as a share of the whole picture, 0 to 1.
    y: Option<f64>,
}

impl CloserAsked {
    pub fn get(&self) -> Result<Closer, Problem> {
        let by = within("?closer", self.closer, 1.0, 1.0, 16.0)?;
        let middle = (within("?x", self.x, 0.5, 0.0, 1.0)?, within("?y", self.y, 0.5, 0.0, 1.0)?);
        Ok(Closer { by, middle })
    }
}

/// Direction of view.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ViewAsked {
    /// `front` (default), `side` or `top`.
    #[param(inline)]
    #[serde(default)]
    pub view: View,
    /// Degrees to the right of the front, −80 to 80; gives a view from a corner instead of `view`.
    turn: Option<f64>,
    /// Degrees above the middle of the piece, 0 to 60, for a view from a corner; by default 14.
    up: Option<f64>,
    /// True to draw it finely, up to 1 050 000 pixels: smooth edges, but slower.
    #[serde(default)]
    fine: bool,
}

impl ViewAsked {
    pub fn fineness(&self) -> Fineness {
        fineness(self.fine)
    }

    /// Where the piece is seen from, if from a corner.
    pub fn viewpoint(&self) -> Result<Option<Viewpoint>, Problem> {
        let most = Viewpoint::MOST_TURN;
        let from = |turn| {
            let turn = within("?turn", Some(turn), 0.0, -most, most)?;
            Ok(Viewpoint::new(turn, within("?up", self.up, 14.0, 0.0, Viewpoint::MOST_UP)?))
        };
        self.turn.map(from).transpose()
    }
}

/// Which photo of a piece.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PhotoAsked {
    /// Index of the photo among those of the piece.
    pub photo: usize,
}

/// System of units.
#[derive(Debug, Default, Deserialize, IntoParams)]
pub struct UnitsAsked {
    /// `metric` (default) or `imperial`.
    #[param(inline)]
    #[serde(default)]
    pub units: Units,
}

/// Which pots to list.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PoursOf {
    /// Only pots of this mix.
    pub mix: Option<Uuid>,
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Parts, each asked for where the one before says, are the whole once.
        #[test]
        fn parts_are_the_whole(all in 0usize..500, count in proptest::option::of(0usize..600), from in 0usize..700) {
            let (mut next, mut seen) = (Some(0), 0);
            while let Some(at) = next {
                let (part, after) = PartAsked { from: at, count }.range_within(all);
                prop_assert_eq!(part.start, seen);
                prop_assert!(after.is_none_or(|after| after > at));
                (seen, next) = (part.end, after);
            }
            prop_assert_eq!(seen, all);
            let (part, _) = PartAsked { from, count: Some(usize::MAX) }.range_within(all);
            prop_assert!(part.start <= part.end && part.end == all);
        }
    }
}
