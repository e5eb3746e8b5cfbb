//! What is served under `/api`, one subject a file.

mod bench;
pub mod boards;
mod files;
mod history;
mod mediums;
mod mixes;
mod names;
mod paints;
mod photos;
pub mod piece;
mod pours;
mod predict;
mod readings;
mod reference;
mod scale;
pub mod units;
mod workshop;

use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::Workspace;

pub fn all() -> OpenApiRouter<Workspace> {
    OpenApiRouter::new()
        .routes(routes!(photos::bring))
        .routes(routes!(photos::keep))
        .routes(routes!(photos::kept))
        .routes(routes!(files::preview))
        .routes(routes!(files::carry_out))
        .routes(routes!(files::export))
        .routes(routes!(reference::health))
        .routes(routes!(reference::colour))
        .routes(routes!(reference::lights))
        .routes(routes!(units::read))
        .routes(routes!(reference::classes))
        .routes(routes!(predict::predict))
        .routes(routes!(predict::board::predict))
        .routes(routes!(paints::list, paints::make))
        .routes(routes!(paints::preview))
        .routes(routes!(paints::merge))
        .routes(routes!(paints::get, paints::change, paints::remove))
        .routes(routes!(paints::page))
        .routes(routes!(readings::list, readings::make))
        .routes(routes!(readings::change, readings::remove))
        .routes(routes!(readings::read))
        .routes(routes!(readings::calibrate))
        .routes(routes!(photos::pick))
        .routes(routes!(workshop::get, workshop::change))
        .routes(routes!(mixes::list, mixes::make))
        .routes(routes!(mixes::preview))
        .routes(routes!(mixes::get, mixes::change, mixes::remove))
        .routes(routes!(bench::find))
        .routes(routes!(bench::ladder))
        .routes(routes!(bench::blend))
        .routes(routes!(bench::measure))
        .routes(routes!(bench::correct))
        .routes(routes!(mediums::presets))
        .routes(routes!(mediums::make_into))
        .routes(routes!(mediums::make_mix_into))
        .routes(routes!(mediums::film))
        .routes(routes!(boards::choices))
        .routes(routes!(boards::list, boards::make))
        .routes(routes!(boards::told::preview))
        .routes(routes!(boards::picture::picture))
        .routes(routes!(boards::picture::kept_picture))
        .routes(routes!(boards::shade::shade))
        .routes(routes!(boards::rescue::rescue))
        .routes(routes!(boards::rescue::schools))
        .routes(routes!(boards::read::read))
        .routes(routes!(boards::read::list, boards::read::make))
        .routes(routes!(boards::read::change, boards::read::remove))
        .routes(routes!(boards::read::hands))
        .routes(routes!(boards::get, boards::change, boards::remove))
        .routes(routes!(pours::list, pours::begin))
        .routes(routes!(pours::get, pours::remove))
        .routes(routes!(pours::step))
        .routes(routes!(pours::take_back))
        .routes(routes!(pours::finish))
        .routes(routes!(pours::reopen))
        .routes(routes!(pours::place))
        .routes(routes!(pours::label))
        .routes(routes!(scale::get))
        .routes(routes!(scale::begin))
        .routes(routes!(scale::act))
        .routes(routes!(piece::get))
        .routes(routes!(piece::list, piece::make))
        .routes(routes!(piece::one, piece::change, piece::remove))
        .routes(routes!(piece::rename))
        .routes(routes!(piece::take_to_hand))
        .routes(routes!(piece::choices))
        .routes(routes!(piece::told::preview))
        .routes(routes!(piece::picture::picture))
        .routes(routes!(piece::unify::find))
        .routes(routes!(history::notices))
        .routes(routes!(history::get))
        .routes(routes!(history::undo))
        .routes(routes!(history::redo))
}
