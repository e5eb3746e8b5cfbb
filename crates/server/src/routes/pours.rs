//! Pouring records.

use axum::{extract::State, http::StatusCode};
use jiff::{Timestamp, tz::TimeZone};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{PourRecord, touch};
use warm_blend_paint::{FilmState, Look, MixId, Name, SavedMix};
use warm_blend_spectral::Light;
use warm_blend_store::{ChangeSet, Store, StoreError};
use warm_blend_workshop::{
    AmountsIn, Checks, OnScale, PotAtHand, PotLabel, PourBegun, PourLine, PourView, StepEntry, keep_pour,
    refused,
};

use crate::{
    Workspace,
    body::{Answer, Json, Path, Query},
    off_thread::off_thread,
    problem::Problem,
    wire::PoursOf,
};

/// Where a pot is kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PourPlace {
    /// The painter's description; null removes it.
    place: Option<String>,
}

/// Light, state and measures in which a pot is shown.
#[derive(Debug, Deserialize, IntoParams)]
pub struct PotTelling {
    /// Light; by default daylight.
    #[serde(default)]
    light: Light,
    /// Wet, dry, sealed or buffed; by default dry.
    #[serde(default)]
    state: FilmState,
    /// A measure such as `tsp` or `ml`, or `g`; by default ml.
    #[serde(default)]
    #[param(value_type = String)]
    pub measure: AmountsIn,
}

impl PotTelling {
    pub fn look(&self) -> Look {
        Look { light: self.light, state: self.state }
    }
}

/// All pour records, from which the size of a touch is learned.
struct AllPots(Vec<Kept<PourRecord>>);

impl AllPots {
    fn read(store: &Store) -> Result<Self, StoreError> {
        store.all().map(Self)
    }

    /// Size of a touch, ml, and number of weighed touches it is learned from.
    fn touch(&self) -> (f64, usize) {
        touch(self.0.iter().map(|kept| &kept.value))
    }

    /// A pot with its mix and the size of a touch; the pot may have changed since the others were read.
    fn with(mut self, store: &Store, kept: Kept<PourRecord>) -> Result<PotAtHand, StoreError> {
        match self.0.iter_mut().find(|known| known.id == kept.id) {
            Some(known) => *known = kept.clone(),
            None => self.0.push(kept.clone()),
        }
        let mix = store.get::<SavedMix>(kept.value.mix.0)?.value;
        Ok(PotAtHand { kept, mix, touch: self.touch() })
    }
}

/// A change to a record.
struct Change<'a> {
    store: &'a Store,
    record: PourRecord,
    /// Size of a touch before the change, ml.
    touch: f64,
}

/// Runs a change of a pot and returns the pot.
async fn answered(
    workspace: &Workspace,
    telling: PotTelling,
    work: impl FnOnce(&mut Store) -> Result<PotAtHand, Problem> + Send + 'static,
) -> Answer<PourView> {
    let (pot, shelf) = workspace.with_shelf(work).await?;
    off_thread(move || Ok(PourView::of(&pot, &shelf, telling.look(), telling.measure)?)).await.map(Json)
}

/// Changes a record exclusively and returns the pot; `then` runs once the change is on disk, before anybody makes
/// another.
async fn changed(
    workspace: &Workspace,
    id: Uuid,
    telling: PotTelling,
    change: impl FnOnce(Change<'_>) -> Result<PourRecord, Problem> + Send + 'static,
    then: impl FnOnce(&PourRecord) + Send + 'static,
) -> Answer<PourView> {
    let work = move |store: &mut Store| {
        let (before, all) = (store.get::<PourRecord>(id)?, AllPots::read(store)?);
        let (revision, record) = (before.revision, before.value.clone());
        let next = change(Change { store, record, touch: all.touch().0 })?;
        let kept = store.together(|batch| keep_pour(batch, before, next))?;
        if kept.revision != revision {
            then(&kept.value);
        }
        Ok(all.with(store, kept)?)
    };
    answered(workspace, telling, work).await
}

/// Begin to pour a mix, or continue the pot that is being poured.
#[utoipa::path(post, path = "/pours", operation_id = "begin_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn begin(
    State(workspace): State<Workspace>,
    Query(telling): Query<PotTelling>,
    Json(PourBegun { mix, batch_ml }): Json<PourBegun>,
) -> Answer<PourView> {
    let work = move |store: &mut Store| {
        let kept = store.together_or(|batch| begun(batch, mix, batch_ml))?;
        Ok(AllPots::read(store)?.with(store, kept)?)
    };
    answered(&workspace, telling, work).await
}

/// The pot being poured, or a new one; in one transaction, because another program may begin the same pot.
fn begun(batch: &mut ChangeSet<'_>, mix: Uuid, batch_ml: Option<f64>) -> Result<Kept<PourRecord>, Problem> {
    let of = batch.get::<SavedMix>(mix)?;
    let pours = batch.users::<PourRecord>(mix)?;
    if let Some(open) = pours.into_iter().rev().find(|kept| kept.value.finished_at.is_none()) {
        return Ok(open);
    }
    let record = PourRecord::begin(MixId(mix), &of.value, batch_ml);
    Ok(batch.make(record.map_err(|error| Problem::field("/batch_ml", error))?)?)
}

/// All pots, latest first.
#[utoipa::path(get, path = "/pours", operation_id = "list_pours", tag = "pot", params(Look, PoursOf),
    responses((status = OK, body = Vec<PourLine>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Query(look): Query<Look>,
    Query(of): Query<PoursOf>,
) -> Answer<Vec<PourLine>> {
    let pours = move |store: &mut Store| match of.mix {
        Some(mix) => store.users::<PourRecord>(mix),
        None => store.all::<PourRecord>(),
    };
    let (pours, shelf) = workspace.with_shelf(pours).await?;
    let line = move |kept: &Kept<PourRecord>| Ok(shelf.pour_line(kept, look)?);
    off_thread(move || pours.iter().rev().map(line).collect()).await.map(Json)
}

/// A pot.
#[utoipa::path(get, path = "/pours/{id}", operation_id = "get_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn get(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
) -> Answer<PourView> {
    answered(&workspace, telling, move |store| Ok(AllPots::read(store)?.with(store, store.get(id)?)?)).await
}

/// Add something to the pot, or take something out.
#[utoipa::path(post, path = "/pours/{id}/steps", operation_id = "pour_step", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn step(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
    Json(entry): Json<StepEntry>,
) -> Answer<PourView> {
    let (scale, under) = (workspace.scale.clone(), workspace.scale.clone());
    // The recorded weight is subtracted from the scale; the rest belongs to the next addition.
    let take = move |grams| under.weighing(|weighing| weighing.taken(grams));
    let (step, by_scale) = (entry.id, entry.is_by_scale());
    let practice = workspace.reader.is_practice() && scale.standing().simulated();
    let change = move |Change { store, record, touch }: Change| {
        let tin = entry.paint.map(|paint| store.get::<ShelfPaint>(paint)).transpose()?;
        // The scale is not reset until the step is on disk.
        let on_scale = OnScale { grams: scale.weighing(|weighing| weighing.addition()), practice };
        Ok(entry.taken_down(record, tin.as_ref().map(|tin| &tin.value), on_scale, touch, Timestamp::now())?)
    };
    let then =
        move |record: &PourRecord| record.weighed(step).filter(|_| by_scale).into_iter().for_each(take);
    changed(&workspace, id, telling, change, then).await
}

/// Undo the last step.
#[utoipa::path(delete, path = "/pours/{id}/steps/{step}", operation_id = "take_back_step",
    tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn take_back(
    State(workspace): State<Workspace>,
    Path((id, step)): Path<(Uuid, Uuid)>,
    Query(telling): Query<PotTelling>,
) -> Answer<PourView> {
    let change = move |Change { record, .. }: Change| {
        Ok(record.without_last(step).map_err(|error| refused(&error))?)
    };
    changed(&workspace, id, telling, change, |_| ()).await
}

/// Finish the pot: nothing more can be added, and the amounts are subtracted from stock.
#[utoipa::path(post, path = "/pours/{id}/finish", operation_id = "finish_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn finish(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
) -> Answer<PourView> {
    let change = |Change { record, .. }: Change| {
        Ok(record.finished(Timestamp::now()).map_err(|error| refused(&error))?)
    };
    changed(&workspace, id, telling, change, |_| ()).await
}

/// Reopen the pot: the amounts return to stock.
#[utoipa::path(post, path = "/pours/{id}/reopen", operation_id = "reopen_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn reopen(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
) -> Answer<PourView> {
    let change = |Change { record, .. }: Change| Ok(record.reopened().map_err(|error| refused(&error))?);
    changed(&workspace, id, telling, change, |_| ()).await
}

/// Set where the pot is kept.
#[utoipa::path(put, path = "/pours/{id}/place", operation_id = "place_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PourView)))]
pub async fn place(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
    Json(PourPlace { place }): Json<PourPlace>,
) -> Answer<PourView> {
    let mut checks = Checks::default();
    let text = place.as_deref().map(str::trim).filter(|text| !text.is_empty());
    let place = checks.optional("/place", text.map(Name::new));
    checks.done(Some(()))?;
    changed(&workspace, id, telling, move |change| Ok(change.record.kept_at(place)), |_| ()).await
}

/// Delete a pour record; undo restores it.
#[utoipa::path(delete, path = "/pours/{id}", operation_id = "remove_pour", tag = "pot",
    responses((status = NO_CONTENT)))]
pub async fn remove(State(workspace): State<Workspace>, Path(id): Path<Uuid>) -> Result<StatusCode, Problem> {
    let remove = move |store: &mut Store| {
        let kept = store.get::<PourRecord>(id)?;
        store.remove::<PourRecord>(id, kept.revision)
    };
    workspace.with(remove).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The label of a pot.
#[utoipa::path(get, path = "/pours/{id}/label", operation_id = "label_pour", tag = "pot", params(PotTelling),
    responses((status = OK, body = PotLabel)))]
pub async fn label(
    State(workspace): State<Workspace>,
    Path(id): Path<Uuid>,
    Query(telling): Query<PotTelling>,
) -> Answer<PotLabel> {
    let shelf = workspace.shelf_in_full().await?;
    let kept = workspace.with(move |store| store.get::<PourRecord>(id)).await?;
    let (look, measure, address) = (telling.look(), telling.measure, workspace.network.address().await);
    let label = move || PotLabel::of(&kept, &shelf, look, measure, TimeZone::system());
    off_thread(move || Ok(label()?.opened_at(address.as_deref()))).await.map(Json)
}
