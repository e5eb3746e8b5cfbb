//! Routes under `/api`, one subject per file, and for whom they are.

mod archives;
mod backups;
mod bench;
mod boards;
mod camera;
mod changes;
mod demo;
mod files;
mod guide;
mod history;
mod jars;
mod log;
mod mixes;
mod network;
mod paints;
mod photos;
mod piece;
mod plans;
mod pours;
mod practice;
mod predict;
mod quotes;
mod readings;
mod reference;
mod scale;
mod set_aside;
mod trash;
pub mod units;
mod workshop;

use axum::middleware::from_fn;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

use crate::{Workspace, who};

pub fn all() -> OpenApiRouter<Workspace> {
    for_everybody().merge(for_painters()).merge(at_the_machine())
}

/// Questions, which change nothing: guests may ask them too, but for those about other clients.
fn for_everybody() -> OpenApiRouter<Workspace> {
    OpenApiRouter::new()
        .routes(routes!(photos::kept))
        .routes(routes!(reference::health))
        .routes(routes!(demo::get))
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
        .routes(routes!(paints::list))
        .routes(routes!(paints::preview))
        .routes(routes!(paints::get))
        .routes(routes!(paints::page))
        .routes(routes!(readings::list))
        .routes(routes!(readings::reader))
        .routes(routes!(photos::see))
        .routes(routes!(photos::pick))
        .routes(routes!(photos::palette))
        .routes(routes!(workshop::get))
        .routes(routes!(mixes::list))
        .routes(routes!(mixes::of_parts))
        .routes(routes!(mixes::preview))
        .routes(routes!(mixes::get))
        .routes(routes!(bench::find))
        .routes(routes!(bench::ladder))
        .routes(routes!(bench::blend))
        .routes(routes!(bench::measure))
        .routes(routes!(bench::correct))
        .routes(routes!(bench::presets))
        .routes(routes!(bench::make_into))
        .routes(routes!(bench::film))
        .routes(routes!(boards::choices))
        .routes(routes!(boards::ready))
        .routes(routes!(boards::list))
        .routes(routes!(boards::preview))
        .routes(routes!(boards::picture))
        .routes(routes!(boards::kept_picture))
        .routes(routes!(bench::shade))
        .routes(routes!(boards::rescue))
        .routes(routes!(boards::why))
        .routes(routes!(boards::schools))
        .routes(routes!(boards::list_readings))
        .routes(routes!(boards::hands))
        .routes(routes!(boards::get))
        .routes(routes!(pours::list))
        .routes(routes!(pours::get))
        .routes(routes!(pours::label))
        .routes(routes!(scale::get))
        .routes(routes!(piece::get))
        .routes(routes!(piece::list))
        .routes(routes!(piece::one))
        .routes(routes!(piece::choices))
        .routes(routes!(piece::preview))
        .routes(routes!(piece::why))
        .routes(routes!(quotes::preview))
        .routes(routes!(quotes::picture))
        .routes(routes!(piece::picture))
        .routes(routes!(piece::find_unifying))
        .routes(routes!(piece::look_at_photo))
        .routes(routes!(piece::picture_on_photo))
        .routes(routes!(piece::snap))
        .routes(routes!(piece::move_part))
        .routes(routes!(piece::template))
        .routes(routes!(piece::outline))
        .routes(routes!(plans::get))
        .routes(routes!(plans::record))
        .routes(routes!(plans::touch_up))
        .routes(routes!(log::photos_of_piece))
        .routes(routes!(log::finish_on_photo))
        .routes(routes!(plans::export))
        .routes(routes!(log::get))
        .routes(routes!(log::like))
        .routes(routes!(log::again))
        .routes(routes!(log::truth))
        .routes(routes!(log::skills))
        .routes(routes!(history::notices))
        .routes(routes!(readings::learning))
        .routes(routes!(changes::watch))
        .routes(routes!(history::get))
        .routes(routes!(guide::first_hour))
        .routes(routes!(guide::terms))
        .routes(routes!(guide::colour_chart))
        .routes(routes!(guide::neighbours))
        .routes(routes!(mixes::why))
        .routes(routes!(practice::get))
        .routes(routes!(practice::question))
        .routes(routes!(network::me))
        .routes(routes!(network::door))
        .routes(routes!(network::authority))
        .routes(routes!(network::join))
}

/// Changes, and what takes the workspace away: for the painter and helpers.
fn for_painters() -> OpenApiRouter<Workspace> {
    OpenApiRouter::new()
        .routes(routes!(photos::bring))
        .routes(routes!(photos::keep))
        .routes(routes!(files::preview))
        .routes(routes!(files::carry_out))
        .routes(routes!(files::export))
        .routes(routes!(paints::make))
        .routes(routes!(paints::usual_mediums))
        .routes(routes!(paints::merge))
        .routes(routes!(paints::change, paints::remove))
        .routes(routes!(readings::make))
        .routes(routes!(readings::change, readings::remove))
        .routes(routes!(readings::read))
        .routes(routes!(readings::calibrate))
        .routes(routes!(workshop::change))
        .routes(routes!(mixes::make))
        .routes(routes!(mixes::change, mixes::remove))
        .routes(routes!(mixes::make_into))
        .routes(routes!(boards::make))
        .routes(routes!(boards::read_spot))
        .routes(routes!(boards::make_reading))
        .routes(routes!(boards::change_reading, boards::remove_reading))
        .routes(routes!(boards::change, boards::remove))
        .routes(routes!(pours::begin))
        .routes(routes!(pours::remove))
        .routes(routes!(pours::step))
        .routes(routes!(pours::take_back))
        .routes(routes!(pours::finish))
        .routes(routes!(pours::reopen))
        .routes(routes!(pours::place))
        .routes(routes!(jars::list))
        .routes(routes!(jars::labels))
        .routes(routes!(jars::near))
        .routes(routes!(jars::get, jars::keep, jars::throw_away))
        .routes(routes!(jars::take))
        .routes(routes!(scale::begin))
        .routes(routes!(scale::act))
        .routes(routes!(piece::make))
        .routes(routes!(quotes::list, quotes::make))
        .routes(routes!(quotes::accept))
        .routes(routes!(piece::change, piece::remove))
        .routes(routes!(piece::rename))
        .routes(routes!(piece::take_to_hand))
        .routes(routes!(plans::change))
        .routes(routes!(plans::tick))
        .routes(routes!(plans::touched_up))
        .routes(routes!(plans::clock))
        .routes(routes!(plans::untick))
        .routes(routes!(plans::count_brushes))
        .routes(routes!(plans::wash_brush))
        .routes(routes!(log::make_note))
        .routes(routes!(log::remove_note))
        .routes(routes!(practice::answer))
        .routes(routes!(archives::export, archives::take_in))
        .routes(routes!(archives::preview))
        .routes(routes!(backups::get, backups::make))
        .routes(routes!(trash::list))
        .routes(routes!(trash::bring_back))
        .routes(routes!(set_aside::list))
        .routes(routes!(set_aside::delete))
        .routes(routes!(history::undo))
        .routes(routes!(history::redo))
        .route_layer(from_fn(who::no_guests))
}

/// What concerns the machine itself.
fn at_the_machine() -> OpenApiRouter<Workspace> {
    OpenApiRouter::new()
        .routes(routes!(demo::visit))
        .routes(routes!(backups::restore))
        .routes(routes!(backups::choose_folder))
        .routes(routes!(network::get, network::change))
        .routes(routes!(network::invite, network::withdraw))
        .routes(routes!(network::revoke))
        .routes(routes!(network::choose_certificate, network::forget_certificate))
        .route_layer(from_fn(who::at_this_machine))
}
