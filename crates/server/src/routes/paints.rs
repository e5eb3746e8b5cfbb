//! The shelf.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_finish::{CoatsToHide, Material, Millilitres, Name, Price, SavedMix, ShelfPaint};
use warm_blend_spectral::Light;
use warm_blend_store::Kept;

use crate::Workspace;
use crate::body::{Asked, Body, IdPath};
use crate::check::Checks;
use crate::colour::{Colour, InLight, Swatch};
use crate::problem::{Problem, UsedBy};

/// A paint or medium as the painter writes it down.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PaintEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "oat white")]
    name: String,
    /// Its class: see `/api/classes`.
    #[schema(example = "chalk")]
    class: String,
    /// Its dry, thick, unsealed colour; a medium has none.
    colour: Option<Colour>,
    /// Coats it needs to hide black and white, 0.25 to 20.
    coats_to_hide: Option<f64>,
    /// What a tin costs.
    price: Option<TinPrice>,
    /// What is left, ml.
    stock_ml: Option<f64>,
}

/// The price of a tin.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct TinPrice {
    /// In the painter's own currency.
    amount: f64,
    /// What the tin holds, ml.
    tin_ml: f64,
}

/// A paint on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Paint {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// True once it was taken off the shelf.
    removed: bool,
    /// What the painter wrote down.
    entry: PaintEntry,
    /// Its class as a painter calls it.
    class_name: &'static str,
    /// True for a medium.
    medium: bool,
    /// How it looks in the light that was asked for.
    swatch: Swatch,
}

/// Which revision a change was made to.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Seen {
    /// The revision that was seen.
    pub revision: i64,
}

/// Which revision is to go, and whether to ask.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Removal {
    /// The revision that was seen.
    revision: i64,
    /// True once the painter has said that it may go although mixes use it.
    #[serde(default)]
    confirmed: bool,
}

impl PaintEntry {
    fn parse(&self) -> Result<ShelfPaint, Problem> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&self.name));
        let class = checks.field("/class", self.class.parse());
        let coats_to_hide = checks.optional("/coats_to_hide", self.coats_to_hide.map(CoatsToHide::new));
        let stock = checks.optional("/stock_ml", self.stock_ml.map(Millilitres::new));
        let price = self.price.as_ref().and_then(|price| price.parse(&mut checks));
        let masstone = self.colour.as_ref().and_then(|colour| colour.parse(&mut checks, "/colour"));
        let tin = name.zip(class).map(|(name, class)| ShelfPaint {
            name,
            class,
            masstone,
            coats_to_hide,
            price,
            stock,
        });
        // Whether a colour is missing is asked only where none was given: one that was refused has its own message.
        if let Some(tin) = tin.as_ref().filter(|_| self.colour.is_none()) {
            checks.field("/colour", tin.material());
        }
        checks.done(tin)
    }
}

impl From<ShelfPaint> for PaintEntry {
    fn from(tin: ShelfPaint) -> Self {
        let price = |price: Price| TinPrice { amount: price.amount(), tin_ml: price.tin().value() };
        Self {
            name: tin.name.into(),
            class: tin.class.id().to_owned(),
            colour: tin.masstone.map(Colour::from),
            coats_to_hide: tin.coats_to_hide.map(CoatsToHide::value),
            price: tin.price.map(price),
            stock_ml: tin.stock.map(Millilitres::value),
        }
    }
}

impl TinPrice {
    fn parse(&self, checks: &mut Checks) -> Option<Price> {
        let tin = checks.field("/price/tin_ml", Millilitres::new(self.tin_ml))?;
        checks.field("/price/amount", Price::new(self.amount, tin))
    }
}

impl Paint {
    fn of(kept: Kept<ShelfPaint>, light: Light) -> Result<Self, Problem> {
        let material = optics(&kept)?;
        let class = kept.value.class;
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            removed: kept.removed,
            class_name: class.name(),
            medium: class.is_medium(),
            swatch: Swatch::of(&material, light),
            entry: kept.value.into(),
        })
    }
}

/// The optics of a kept tin. It was checked when it was kept, so a failure is the program's own.
pub fn optics(kept: &Kept<ShelfPaint>) -> Result<Material, Problem> {
    kept.value.material().map_err(|_| Problem::internal())
}

/// All paints and mediums on the shelf, in the order they were added.
#[utoipa::path(get, path = "/paints", operation_id = "list_paints",
    tag = "shelf", params(InLight),
    responses((status = OK, body = Vec<Paint>), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<InLight>,
) -> Result<Json<Vec<Paint>>, Problem> {
    let light = asked.get()?;
    let tins = workspace.with(|store| store.all::<ShelfPaint>()).await?;
    tins.into_iter().map(|tin| Paint::of(tin, light)).collect::<Result<_, _>>().map(Json)
}

/// Put a paint on the shelf.
#[utoipa::path(post, path = "/paints", operation_id = "make_paint",
    tag = "shelf", params(InLight), request_body = PaintEntry,
    responses((status = CREATED, body = Paint), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn make(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<InLight>,
    Body(entry): Body<PaintEntry>,
) -> Result<(StatusCode, Json<Paint>), Problem> {
    let (light, tin) = (asked.get()?, entry.parse()?);
    let kept = workspace.with(|store| store.make(tin)).await?;
    Ok((StatusCode::CREATED, Json(Paint::of(kept, light)?)))
}

/// How a paint would look, before it is kept.
#[utoipa::path(post, path = "/paints/preview", operation_id = "preview_paint",
    tag = "shelf", params(InLight), request_body = PaintEntry,
    responses((status = OK, body = Swatch), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn preview(
    Asked(asked): Asked<InLight>,
    Body(entry): Body<PaintEntry>,
) -> Result<Json<Swatch>, Problem> {
    let (light, tin) = (asked.get()?, entry.parse()?);
    let material = tin.material().map_err(|error| Problem::field("/colour", error))?;
    Ok(Json(Swatch::of(&material, light)))
}

/// One paint; also one that was taken off the shelf.
#[utoipa::path(get, path = "/paints/{id}", operation_id = "get_paint",
    tag = "shelf", params(InLight, ("id" = Uuid, Path)),
    responses((status = OK, body = Paint), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn get(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<InLight>,
) -> Result<Json<Paint>, Problem> {
    let light = asked.get()?;
    let kept = workspace.with(move |store| store.get(id)).await?;
    Paint::of(kept, light).map(Json)
}

/// Change what is written down of a paint.
#[utoipa::path(put, path = "/paints/{id}", operation_id = "change_paint",
    tag = "shelf", params(InLight, Seen, ("id" = Uuid, Path)), request_body = PaintEntry,
    responses((status = OK, body = Paint), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(asked): Asked<InLight>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PaintEntry>,
) -> Result<Json<Paint>, Problem> {
    let (light, tin) = (asked.get()?, entry.parse()?);
    let kept = workspace.with(move |store| store.change(id, revision, tin)).await?;
    Paint::of(kept, light).map(Json)
}

/// Take a paint off the shelf. Where a mix uses it this answers 409 `in-use` until it is confirmed; the mix goes on
/// knowing it.
#[utoipa::path(delete, path = "/paints/{id}", operation_id = "remove_paint",
    tag = "shelf", params(Removal, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Removal { revision, confirmed }): Asked<Removal>,
) -> Result<StatusCode, Problem> {
    let users = workspace
        .with(move |store| {
            let users = store.users::<SavedMix>(id)?;
            if users.is_empty() || confirmed {
                store.remove::<ShelfPaint>(id, revision)?;
                return Ok(Vec::new());
            }
            Ok(users)
        })
        .await?;
    if users.is_empty() {
        return Ok(StatusCode::NO_CONTENT);
    }
    let used_by = |mix: Kept<SavedMix>| UsedBy { id: mix.id, name: mix.value.name.map(String::from) };
    Err(Problem::in_use(users.into_iter().map(used_by).collect()))
}
