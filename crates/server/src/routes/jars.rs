//! What is left of pots, in jars.

use axum::extract::State;
use jiff::civil::Date;
use jiff::{Timestamp, tz::TimeZone};
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Look, Units};
use warm_blend_store::Store;
use warm_blend_workshop::{
    JarEntry, JarNear, JarTaken, JarView, JarsView, JarsWanted, PotLabel, Refusal, held_in_jars, keep_pour,
};

use super::pours::PotTelling;
use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::{off_thread, while_asked},
    problem::Problem,
    wire::UnitsAsked,
};

/// Today, on the clock of this machine.
fn today() -> (Date, TimeZone) {
    let zone = TimeZone::system();
    (Timestamp::now().to_zoned_datetime(zone.clone()).date(), zone)
}

/// Reads or changes a pot, and returns its jar.
async fn answered(
    workspace: &Workspace,
    (look, units): (Look, Units),
    work: impl FnOnce(&mut Store) -> Result<Kept<PourRecord>, Problem> + Send + 'static,
) -> Answer<JarView> {
    let (kept, shelf) = workspace.with_shelf(work).await?;
    let none = || Refusal::Unknown("nothing of this pot is kept in a jar".to_owned());
    off_thread(move || {
        let (day, zone) = today();
        Ok(shelf.jar(&kept, look, units, (day, &zone))?.ok_or_else(none)?)
    })
    .await
    .map(Json)
}

/// Changes a pot and returns its jar.
async fn changed(
    workspace: &Workspace,
    id: Uuid,
    telling: (Look, Units),
    change: impl FnOnce(PourRecord, Timestamp) -> Result<PourRecord, Refusal> + Send + 'static,
) -> Answer<JarView> {
    let work = move |store: &mut Store| {
        let before = store.get::<PourRecord>(id)?;
        let next = change(before.value.clone(), Timestamp::now())?;
        Ok(store.together(|batch| keep_pour(batch, before, next))?)
    };
    answered(workspace, telling, work).await
}

/// All jars with something in them, those to see to first.
#[utoipa::path(get, path = "/jars", operation_id = "list_jars", tag = "pot", params(Look, UnitsAsked),
    responses((status = OK, body = JarsView)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<JarsView> {
    let (pours, shelf) = workspace.with_shelf(|store: &mut Store| store.all::<PourRecord>()).await?;
    let (day, zone) = today();
    off_thread(move || Ok(shelf.jars(&pours, look, units, (day, &zone))?)).await.map(Json)
}

/// Labels of all jars.
#[utoipa::path(get, path = "/jars/labels", operation_id = "label_jars", tag = "pot", params(PotTelling),
    responses((status = OK, body = Vec<PotLabel>)))]
pub async fn labels(
    State(workspace): State<Workspace>,
    Query(telling): Query<PotTelling>,
) -> Answer<Vec<PotLabel>> {
    let (pours, shelf) = workspace.with_shelf(|store: &mut Store| store.all::<PourRecord>()).await?;
    let address = workspace.network.address().await;
    let label = move |kept: &Kept<PourRecord>| {
        let label = PotLabel::of(kept, &shelf, telling.look(), telling.measure, TimeZone::system())?;
        Ok(label.opened_at(address.as_deref()))
    };
    off_thread(move || held_in_jars(&pours).rev().map(|(kept, _)| label(kept)).collect()).await.map(Json)
}

/// Jars near a colour, as they are or with a little added. Closing the request stops the search.
#[utoipa::path(post, path = "/jars/near", operation_id = "jars_near", tag = "pot", params(Look, UnitsAsked),
    responses((status = OK, body = Vec<JarNear>)))]
pub async fn near(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(wanted): Json<JarsWanted>,
) -> Answer<Vec<JarNear>> {
    let (pours, shelf) = workspace.with_shelf(|store: &mut Store| store.all::<PourRecord>()).await?;
    while_asked(move |asking| Ok(shelf.jars_near(&pours, &wanted, look, units, || asking.goes_on())?))
        .await
        .map(Json)
}

/// The jar of a pot, also when it is empty or was thrown away.
#[utoipa::path(get, path = "/pours/{id}/jar", operation_id = "get_jar", tag = "pot", params(Look, UnitsAsked),
    responses((status = OK, body = JarView)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<JarView> {
    answered(&workspace, (look, units), move |store| Ok(store.get::<PourRecord>(id)?)).await
}

/// Keep what is left of a finished pot in a jar, or correct what is known of the jar.
#[utoipa::path(put, path = "/pours/{id}/jar", operation_id = "keep_jar", tag = "pot", params(Look, UnitsAsked),
    responses((status = OK, body = JarView)))]
pub async fn keep(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(entry): Json<JarEntry>,
) -> Answer<JarView> {
    changed(&workspace, id, (look, units), |record, at| entry.of(record, at)).await
}

/// Take some out of a jar.
#[utoipa::path(post, path = "/pours/{id}/jar/uses", operation_id = "use_jar", tag = "pot", params(Look, UnitsAsked),
    responses((status = OK, body = JarView)))]
pub async fn take(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
    Json(taken): Json<JarTaken>,
) -> Answer<JarView> {
    changed(&workspace, id, (look, units), move |record, at| taken.of(record, at)).await
}

/// Throw a jar away with what is left in it; undo restores it.
#[utoipa::path(delete, path = "/pours/{id}/jar", operation_id = "throw_away_jar", tag = "pot",
    params(Look, UnitsAsked),
    responses((status = OK, body = JarView)))]
pub async fn throw_away(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(look): Query<Look>,
    Query(UnitsAsked { units }): Query<UnitsAsked>,
) -> Answer<JarView> {
    changed(&workspace, id, (look, units), JarTaken::all_away).await
}
