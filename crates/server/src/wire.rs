//! What requests ask in their address.

use std::ops::Range;

use axum::http::{HeaderName, Uri, header};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_board::{Defect, GroundKind, Letter};
use warm_blend_paint::Units;
use warm_blend_piece::View;
use warm_blend_render::{Closer, Fineness, Lamp, Shading};
use warm_blend_store::{Document, Kept, Store, StoreError};

use crate::{body::Json, problem::Problem};

/// Which part of a long list.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PartAsked {
    /// How many to leave out at the start; none if left out.
    #[serde(default)]
    pub from: usize,
    /// How many at most; all if left out. Where there are more, the header `Link` says where (RFC 8288, `rel=\"next\"`).
    pub count: Option<usize>,
}

/// Where a long list begins.
#[derive(Debug, Default, Deserialize, IntoParams)]
pub struct OrderAsked {
    /// True to count from the latest one back, latest first.
    #[serde(default)]
    pub latest_first: bool,
}

impl PartAsked {
    /// Of so many, which; and where the next part begins, if there is one.
    pub fn of(&self, all: usize) -> (Range<usize>, Option<usize>) {
        let from = self.from.min(all);
        let to = self.count.map_or(all, |count| from.saturating_add(count.max(1)).min(all));
        (from..to, (to < all).then_some(to))
    }

    /// What is kept of it, and where the next part begins.
    pub fn read<T: Document>(
        &self,
        store: &Store,
        OrderAsked { latest_first }: OrderAsked,
    ) -> Result<(Vec<Kept<T>>, Option<usize>), StoreError> {
        let mut next = None;
        let part = store.some(latest_first, |all| {
            let (part, then) = self.of(all);
            next = then;
            part
        })?;
        Ok((part, next))
    }
}

/// Part of a long list, and where the next one is.
pub type PartOfList<T> = (Option<[(HeaderName, String); 1]>, Json<Vec<T>>);

/// Where the next part of a list is, if there is one: asked as before, but from there on.
pub fn next_part(asked_at: &Uri, from: Option<usize>) -> Option<[(HeaderName, String); 1]> {
    let from = from?;
    let others = asked_at.query().unwrap_or_default().split('&').filter(|asked| !asked.starts_with("from="));
    let query: String = others.filter(|asked| !asked.is_empty()).map(|asked| format!("{asked}&")).collect();
    Some([(header::LINK, format!("<{}?{query}from={from}>; rel=\"next\"", asked_at.path()))])
}

/// Which colour.
#[derive(Debug, Deserialize, IntoParams)]
pub struct HexAsked {
    /// sRGB, 3, 6 or 8 hex digits.
    pub hex: String,
}

/// Which revision a change was made to.
#[derive(Debug, Deserialize, IntoParams)]
pub struct SeenRevision {
    /// The revision that was seen.
    pub revision: i64,
}

/// Which revision is to go, and whether to ask.
#[derive(Debug, Deserialize, IntoParams)]
pub struct Removal {
    /// The revision that was seen.
    pub revision: i64,
    /// True once the painter has said that it may go although mixes use it.
    #[serde(default)]
    pub confirmed: bool,
}

/// Which strip to look at.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct StripAsked {
    /// `A` to `F`; the first if left out.
    pub strip: Option<Letter>,
    /// How many of its layers are on, from the ground up; all if left out.
    pub layers: Option<usize>,
}

/// What went wrong.
#[derive(Debug, Deserialize, IntoParams)]
pub struct TroubleAsked {
    /// See `/api/boards/choices`.
    pub trouble: Defect,
}

/// What finishes are to be laid on, and in which colour.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ReadyAsked {
    /// The ground: see `/api/boards/choices`.
    pub ground: GroundKind,
    /// The paint that is the main colour; one that suits the finish if left out.
    pub base: Option<Uuid>,
}

/// Pixels across and down of a picture, where nothing else is asked for.
fn pixels(width: Option<u32>, height: Option<u32>) -> (u32, u32) {
    (width.unwrap_or(1200), height.unwrap_or(800))
}

/// How to draw.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct DrawnAs {
    /// Pixels across, 48 to 4096; 1200 if left out.
    pub width: Option<u32>,
    /// Pixels down, 48 to 4096; 800 if left out.
    pub height: Option<u32>,
    /// True where all strips are drawn side by side.
    #[serde(default)]
    pub all: bool,
    /// True where it is drawn finely, up to 1 050 000 pixels: smooth where a quick picture is jagged, and slower.
    #[serde(default)]
    fine: bool,
}

/// How finely to draw.
fn fineness(fine: bool) -> Fineness {
    if fine { Fineness::Fine } else { Fineness::Quick }
}

impl DrawnAs {
    /// Pixels across and down.
    pub fn size(&self) -> (u32, u32) {
        pixels(self.width, self.height)
    }

    pub fn fineness(&self) -> Fineness {
        fineness(self.fine)
    }
}

/// How the light falls in.
#[derive(Debug, Default, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
enum Lit {
    /// As by a window.
    #[default]
    Soft,
    /// By a low lamp that shows every ridge.
    Raking,
    /// Not at all, so that colours can be judged.
    None,
}

/// By which light the relief is shaded.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ShadingAsked {
    /// `soft` (as when left out): as by a window; `raking`: by a low lamp that shows every ridge; `none`: not at all, so that
    /// colours can be judged.
    #[param(inline)]
    #[serde(default)]
    shading: Lit,
    /// From which side of the picture the light comes, degrees clockwise from above; 320 if left out.
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

/// Which scheme, and how large its pictures are.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct SchemeAsked {
    /// From 0; the one that was chosen if left out.
    pub scheme: Option<usize>,
    /// Pixels across, 48 to 4096; 1200 if left out.
    pub width: Option<u32>,
    /// Pixels down, 48 to 4096; 800 if left out.
    pub height: Option<u32>,
}

impl SchemeAsked {
    /// Pixels across and down.
    pub fn size(&self) -> (u32, u32) {
        pixels(self.width, self.height)
    }
}

/// From where it is seen.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ViewAsked {
    /// `front` (as when left out), `side` or `top`.
    #[param(inline)]
    #[serde(default)]
    pub view: View,
    /// How much closer than the whole, 1 to 16; 1 if left out.
    closer: Option<f64>,
    /// What is in the middle then: the share of the whole picture's width to its left, 0 to 1.
    x: Option<f64>,
    /// And the share of its height above.
    y: Option<f64>,
    /// True where it is drawn finely, up to 1 050 000 pixels: smooth where a quick picture is jagged, and slower.
    #[serde(default)]
    fine: bool,
}

impl ViewAsked {
    pub fn fineness(&self) -> Fineness {
        fineness(self.fine)
    }

    pub fn closer(&self) -> Result<Closer, Problem> {
        let within = |name: &str, value: Option<f64>, usual: f64, least: f64, most: f64| {
            let value = value.unwrap_or(usual);
            let wrong = || Problem::field(name, format!("{value} is out of range; use {least} to {most}"));
            if (least..=most).contains(&value) { Ok(value) } else { Err(wrong()) }
        };
        let by = within("?closer", self.closer, 1.0, 1.0, 16.0)?;
        Ok(Closer {
            by,
            middle: (within("?x", self.x, 0.5, 0.0, 1.0)?, within("?y", self.y, 0.5, 0.0, 1.0)?),
        })
    }
}

/// What is measured in.
#[derive(Debug, Default, Deserialize, IntoParams)]
pub struct UnitsAsked {
    /// `metric` (as when left out) or `imperial`.
    #[param(inline)]
    #[serde(default)]
    pub units: Units,
}

/// Which pots.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PoursOf {
    /// Only those of this mix.
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
                let (part, after) = PartAsked { from: at, count }.of(all);
                prop_assert_eq!(part.start, seen);
                prop_assert!(after.is_none_or(|after| after > at));
                (seen, next) = (part.end, after);
            }
            prop_assert_eq!(seen, all);
            let (part, _) = PartAsked { from, count: Some(usize::MAX) }.of(all);
            prop_assert!(part.start <= part.end && part.end == all);
        }
    }
}
