//! Pictures as answers, and the reliefs that they are drawn on.

use std::sync::Arc;

use axum::{
    http::header,
    response::{IntoResponse, Response},
};
use warm_blend_piece::{Elevation, Form, View};
use warm_blend_render::{Closer, Front, Relief};

use crate::{problem::Problem, recent::Recent};

/// A PNG file as an answer.
pub fn answered(png: Vec<u8>) -> Response {
    ([(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-store")], png).into_response()
}

/// A large picture for the record is made once: its relief is not kept.
fn worth_keeping((width, height): (u32, u32)) -> bool {
    u64::from(width) * u64::from(height) <= 4_000_000
}

/// Reliefs of the sizes that were drawn last: a draft's, a screen's, two strips' side by side.
#[derive(Debug, Clone, Default)]
pub struct Plates(Recent<(u32, u32), Relief, 4>);

impl Plates {
    /// What the board screen asks for, and its list.
    const USUAL: [(u32, u32); 2] = [(840, 420), (520, 260)];

    /// Makes the marks of all techniques, and the reliefs that are asked for first.
    pub fn warm(&self) {
        warm_blend_render::make_ready();
        for (width, height) in Self::USUAL {
            // A usual size is one that can be.
            drop(self.of((width, height)));
        }
    }

    pub fn of(&self, (width, height): (u32, u32)) -> Result<Arc<Relief>, Problem> {
        self.0.get((width, height), worth_keeping((width, height)), || {
            Relief::panelled(width, height).map_err(|error| Problem::field("?width", error))
        })
    }
}

/// Reliefs of the faces that were drawn last: front, side and top, small and large.
#[derive(Debug, Clone, Default)]
pub struct Fronts(Recent<(Form, View, (u32, u32), Closer), Front, 6>);

impl Fronts {
    pub fn of(
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
