//! Routes under `/api`, one subject per file.

mod archives;
mod backups;
mod bench;
mod boards;
mod camera;
mod changes;
mod demo;
mod files;
mod history;
mod log;
mod mixes;
mod paints;
mod photos;
mod piece;
mod plans;
mod pours;
mod predict;
mod readings;
mod reference;
mod scale;
mod set_aside;
mod trash;
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
        .routes(routes!(demo::get, demo::visit))
        .routes(routes!(camera::get))
        .routes(routes!(camera::take))
        .routes(routes!(camera::example))
        .routes(routes!(reference::colour))
        .routes(routes!(reference::lights))
        .routes(routes!(units::read))
        .routes(routes!(units::scales))
        .routes(routes!(reference::classes))
        .routes(routes!(predict::predict))
        .routes(routes!(predict::predict_board))
        .routes(routes!(paints::list, paints::make))
        .routes(routes!(paints::preview))
        .routes(routes!(paints::usual_mediums))
        .routes(routes!(paints::merge))
        .routes(routes!(paints::get, paints::change, paints::remove))
        .routes(routes!(paints::page))
        .routes(routes!(readings::list, readings::make))
        .routes(routes!(readings::change, readings::remove))
        .routes(routes!(readings::reader))
        .routes(routes!(readings::read))
        .routes(routes!(readings::calibrate))
        .routes(routes!(photos::see))
        .routes(routes!(photos::pick))
        .routes(routes!(photos::palette))
        .routes(routes!(workshop::get, workshop::change))
        .routes(routes!(mixes::list, mixes::make))
        .routes(routes!(mixes::of_parts))
        .routes(routes!(mixes::preview))
        .routes(routes!(mixes::get, mixes::change, mixes::remove))
        .routes(routes!(bench::find))
        .routes(routes!(bench::ladder))
        .routes(routes!(bench::blend))
        .routes(routes!(bench::measure))
        .routes(routes!(bench::correct))
        .routes(routes!(bench::presets))
        .routes(routes!(bench::make_into))
        .routes(routes!(mixes::make_into))
        .routes(routes!(bench::film))
        .routes(routes!(boards::choices))
        .routes(routes!(boards::ready))
        .routes(routes!(boards::list, boards::make))
        .routes(routes!(boards::preview))
        .routes(routes!(boards::picture))
        .routes(routes!(boards::kept_picture))
        .routes(routes!(bench::shade))
        .routes(routes!(boards::rescue))
        .routes(routes!(boards::schools))
        .routes(routes!(boards::read_spot))
        .routes(routes!(boards::list_readings, boards::make_reading))
        .routes(routes!(boards::change_reading, boards::remove_reading))
        .routes(routes!(boards::hands))
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
        .routes(routes!(piece::preview))
        .routes(routes!(piece::picture))
        .routes(routes!(piece::find_unifying))
        .routes(routes!(piece::look_at_photo))
        .routes(routes!(piece::picture_on_photo))
        .routes(routes!(piece::snap))
        .routes(routes!(piece::move_part))
        .routes(routes!(plans::get, plans::change))
        .routes(routes!(plans::tick))
        .routes(routes!(plans::clock))
        .routes(routes!(plans::untick))
        .routes(routes!(plans::record))
        .routes(routes!(log::photos_of_piece))
        .routes(routes!(log::finish_on_photo))
        .routes(routes!(plans::export))
        .routes(routes!(log::get))
        .routes(routes!(log::like))
        .routes(routes!(log::again))
        .routes(routes!(log::truth))
        .routes(routes!(log::skills))
        .routes(routes!(log::make_note))
        .routes(routes!(log::remove_note))
        .routes(routes!(archives::export, archives::take_in))
        .routes(routes!(archives::preview))
        .routes(routes!(backups::get, backups::make))
        .routes(routes!(trash::list))
        .routes(routes!(trash::bring_back))
        .routes(routes!(backups::restore))
        .routes(routes!(backups::choose_folder))
        .routes(routes!(history::notices))
        .routes(routes!(set_aside::list))
        .routes(routes!(set_aside::delete))
        .routes(routes!(readings::learning))
        .routes(routes!(changes::watch))
        .routes(routes!(history::get))
        .routes(routes!(history::undo))
        .routes(routes!(history::redo))
}
