//! The piece as a picture.

use std::sync::Arc;

use axum::{extract::State, response::Response};
use serde::Deserialize;
use utoipa::IntoParams;
use warm_blend_piece::{Elevation, Form, View};
use warm_blend_render::{Closer, Front, Shading};

use super::{Room, entry::PieceEntry, not_said, scheme_of, told::SchemeAsked};
use crate::{
    Workspace,
    body::{Asked, Body},
    colour::LookedAt,
    lately::Lately,
    off_thread::off_thread,
    problem::Problem,
    routes::boards::picture::{answered, worth_keeping},
};

/// From where it is seen.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ViewAsked {
    /// `front` (as when left out), `side` or `top`.
    view: Option<String>,
    /// How much closer than the whole, 1 to 16; 1 if left out.
    closer: Option<f64>,
    /// What is in the middle then: the share of the whole picture's width to its left, 0 to 1.
    x: Option<f64>,
    /// And the share of its height above.
    y: Option<f64>,
}

impl ViewAsked {
    fn view(&self) -> Result<View, Problem> {
        match self.view.as_deref() {
            None => Ok(View::Front),
            Some(id) => View::ALL
                .into_iter()
                .find(|view| view.id() == id)
                .ok_or_else(|| Problem::field("?view", "choose front, side or top")),
        }
    }

    fn closer(&self) -> Result<Closer, Problem> {
        let within = |name: &str, value: Option<f64>, usual: f64, least: f64, most: f64| {
            let value = value.unwrap_or(usual);
            let wrong = || Problem::field(name, format!("{value}: from {least} to {most}"));
            if (least..=most).contains(&value) { Ok(value) } else { Err(wrong()) }
        };
        let by = within("?closer", self.closer, 1.0, 1.0, 16.0)?;
        Ok(Closer {
            by,
            middle: (within("?x", self.x, 0.5, 0.0, 1.0)?, within("?y", self.y, 0.5, 0.0, 1.0)?),
        })
    }
}

/// A piece in what it wears, as a picture; nothing is kept.
#[utoipa::path(post, path = "/piece/picture", operation_id = "draw_piece",
    tag = "piece", params(LookedAt, SchemeAsked, ViewAsked), request_body = PieceEntry,
    responses((status = OK, body = Vec<u8>, content_type = "image/png")))]
pub async fn picture(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(of): Asked<SchemeAsked>,
    Asked(seen): Asked<ViewAsked>,
    Body(entry): Body<PieceEntry>,
) -> Result<Response, Problem> {
    let (look, piece) = (asked.get()?, entry.parse()?);
    let scheme = scheme_of(&piece, of.scheme)?;
    let (view, closer) = (seen.view()?, seen.closer()?);
    let room = Room::of(&workspace, look).await?;
    let fronts = workspace.fronts;
    let png = off_thread(move || {
        let worn = room.dress(&piece, &scheme)?.ok_or_else(not_said)?;
        let front = fronts.of(worn.form, &worn.elevation, view, of.size(), closer)?;
        Ok(front.draw(&worn.dressed, look.light, look.state, Shading::Soft).to_png())
    })
    .await?;
    Ok(answered(png))
}

/// Reliefs of the faces that were drawn last: front, side and top, small and large.
#[derive(Debug, Clone, Default)]
pub struct Fronts(Lately<(Form, View, (u32, u32), Closer), Front, 6>);

impl Fronts {
    fn of(
        &self,
        form: Form,
        elevation: &Elevation,
        view: View,
        size: (u32, u32),
        closer: Closer,
    ) -> Result<Arc<Front>, Problem> {
        self.0.get((form, view, size, closer), worth_keeping(size), || {
            let face = elevation.face(view).ok_or_else(|| {
                Problem::field("?view", "such a piece is not seen from there: choose front")
            })?;
            Front::new(face, size.0, size.1, closer).map_err(|error| Problem::field("?width", error))
        })
    }
}
