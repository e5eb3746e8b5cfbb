//! What is served under `/api`, one subject a file.

mod history;
mod mixes;
mod paints;
mod piece;
mod predict;
mod reference;

use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::Workspace;

pub fn all() -> OpenApiRouter<Workspace> {
    OpenApiRouter::new()
        .routes(routes!(reference::health))
        .routes(routes!(reference::lights))
        .routes(routes!(reference::classes))
        .routes(routes!(predict::predict))
        .routes(routes!(paints::list, paints::make))
        .routes(routes!(paints::preview))
        .routes(routes!(paints::get, paints::change, paints::remove))
        .routes(routes!(mixes::list, mixes::make))
        .routes(routes!(mixes::preview))
        .routes(routes!(mixes::get, mixes::change, mixes::remove))
        .routes(routes!(piece::get, piece::change))
        .routes(routes!(history::get))
        .routes(routes!(history::undo))
        .routes(routes!(history::redo))
}
