//! The piece at hand: what it is, what it wears, and whether its parts belong together.

pub mod entry;
pub mod picture;
pub mod told;
pub mod unify;

use std::collections::BTreeMap;
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_finish::board::{Board, ByPlace, OnShelf, Tin};
use warm_blend_finish::piece::{
    Age, BadDress, Dressed, Elevation, Kind, Meeting, Piece, Scheme, Wardrobe, Zone, ZoneSeen,
};
use warm_blend_finish::{Component, Name, PaintId, ShelfPaint};
use warm_blend_store::{Kept, Store, StoreError};

use self::entry::{FormEntry, PieceEntry};
use super::boards::on_shelf;
use super::boards::told::Names;
use super::paints::Seen;
use crate::Workspace;
use crate::body::{Asked, Body};
use crate::colour::Look;
use crate::problem::Problem;
use crate::state::Known;

/// The piece as the painter calls it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceName {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    name: String,
}

/// The piece at hand.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceAtHand {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// What it is called.
    name: String,
    /// What the painter says of it.
    entry: PieceEntry,
}

impl From<Kept<Piece>> for PieceAtHand {
    fn from(kept: Kept<Piece>) -> Self {
        let entry = PieceEntry::from(&kept.value);
        Self { id: kept.id, revision: kept.revision, name: kept.value.name.into(), entry }
    }
}

/// What pieces are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoices {
    /// Kinds of pieces.
    kinds: Vec<KindChoice>,
    /// Kinds of ageing.
    ages: Vec<AgeChoice>,
}

/// A kind of piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct KindChoice {
    /// `chest-of-drawers` …
    id: &'static str,
    /// `Chest of drawers` …
    name: &'static str,
    /// One of the usual size.
    usual: FormEntry,
    /// The dimensions that count.
    asks: Vec<AskChoice>,
}

/// A dimension.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskChoice {
    /// `width` …
    id: &'static str,
    /// `Width` …
    name: &'static str,
    /// True of a number without a unit; the others are mm.
    count: bool,
    /// Least.
    least: f64,
    /// Most.
    most: f64,
}

/// A kind of ageing.
#[derive(Debug, Serialize, ToSchema)]
pub struct AgeChoice {
    /// `wear` …
    id: &'static str,
    /// `Wear` …
    name: &'static str,
}

/// A workspace comes with one piece, so there is always a first.
fn at_hand(store: &Store) -> Result<Kept<Piece>, StoreError> {
    let first = store.all()?.into_iter().next();
    first.ok_or(StoreError::Damaged("there is no piece in it".to_owned()))
}

/// The piece at hand.
#[utoipa::path(get, path = "/piece", operation_id = "get_piece",
    tag = "piece", responses((status = OK, body = PieceAtHand)))]
pub async fn get(State(workspace): State<Workspace>) -> Result<Json<PieceAtHand>, Problem> {
    workspace.with(|store| at_hand(store)).await.map(|kept| Json(kept.into()))
}

/// Call the piece at hand something else.
#[utoipa::path(put, path = "/piece/name", operation_id = "rename_piece",
    tag = "piece", params(Seen), request_body = PieceName,
    responses((status = OK, body = PieceAtHand), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn rename(
    State(workspace): State<Workspace>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PieceName>,
) -> Result<Json<PieceAtHand>, Problem> {
    let name = Name::new(&entry.name).map_err(|error| Problem::field("/name", error))?;
    let kept = workspace
        .with(move |store| {
            let kept = at_hand(store)?;
            store.change(kept.id, revision, Piece { name, ..kept.value })
        })
        .await?;
    Ok(Json(kept.into()))
}

/// Change the piece at hand.
#[utoipa::path(put, path = "/piece", operation_id = "change_piece",
    tag = "piece", params(Seen), request_body = PieceEntry,
    responses((status = OK, body = PieceAtHand), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
pub async fn change(
    State(workspace): State<Workspace>,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PieceEntry>,
) -> Result<Json<PieceAtHand>, Problem> {
    let piece = entry.parse()?;
    let kept = workspace
        .with(move |store| {
            let id = at_hand(store)?.id;
            store.change(id, revision, piece)
        })
        .await?;
    Ok(Json(kept.into()))
}

/// What pieces are made of: kinds with their dimensions, kinds of ageing.
#[utoipa::path(get, path = "/piece/choices", operation_id = "list_piece_choices",
    tag = "piece", responses((status = OK, body = PieceChoices)))]
pub async fn choices() -> Json<PieceChoices> {
    let kind = |kind: Kind| KindChoice {
        id: kind.id(),
        name: kind.name(),
        usual: kind.usual().into(),
        asks: kind
            .asks()
            .iter()
            .map(|asks| {
                let (least, most) = asks.range();
                AskChoice { id: asks.id(), name: asks.name(), count: asks.is_count(), least, most }
            })
            .collect(),
    };
    Json(PieceChoices {
        kinds: Kind::ALL.map(kind).into(),
        ages: Age::ALL.map(|age| AgeChoice { id: age.id(), name: age.name() }).into(),
    })
}

/// What a scheme is looked at with: the file's boards and shelf.
pub(super) struct Room {
    boards: BTreeMap<Uuid, Board>,
    shelf: Vec<OnShelf>,
    names: Names,
    /// By ml, of the tins whose price is known.
    prices: BTreeMap<Uuid, f64>,
    known: Arc<Known>,
    look: Look,
}

/// A piece in the room: its elevation, its zones as they are dressed and as they look.
struct Standing {
    elevation: Elevation,
    dressed: BTreeMap<Zone, Dressed>,
    zones: Vec<ZoneSeen>,
    places: BTreeMap<Zone, ByPlace<f64>>,
    meetings: Vec<Meeting>,
    /// Zones that cannot be dressed, and why.
    refused: Vec<(Zone, BadDress)>,
}

impl Room {
    async fn of(workspace: &Workspace, look: Look) -> Result<Self, Problem> {
        let ((boards, tins, names), known) = workspace
            .with_known(|store| {
                Ok((store.all_ever::<Board>()?, store.all::<ShelfPaint>()?, Names::of_all(store)?))
            })
            .await?;
        let price = |tin: &Kept<ShelfPaint>| {
            let price = tin.value.price?;
            Some((tin.id, price.amount() / price.tin().value()))
        };
        let prices = tins.iter().filter_map(price).collect();
        let shelf = on_shelf(&tins, &known);
        let boards = boards.into_iter().map(|kept| (kept.id, kept.value)).collect();
        Ok(Self { boards, shelf, names, prices, known, look })
    }

    fn tin(&self, paint: PaintId) -> Option<Tin<'_>> {
        let estimate = self.known.estimate();
        Some(Tin { class: estimate.class(paint)?, material: estimate.paint(paint)?.best() })
    }

    /// What so much of a mixture costs, where every price is known.
    fn cost(&self, pot: &[Component], ml: f64) -> Option<f64> {
        let total: f64 = pot.iter().map(|part| f64::from(part.parts.value())).sum();
        let each = pot
            .iter()
            .map(|part| Some(self.prices.get(&part.paint.0)? * ml * f64::from(part.parts.value()) / total));
        each.sum()
    }

    /// Runs something with what the engine asks of a room.
    fn with<R>(&self, work: impl FnOnce(&Wardrobe) -> R) -> R {
        let tin = |paint| self.tin(paint);
        let habit = |technique| self.known.hands().habit(technique);
        let board = |id| self.boards.get(&id);
        work(&Wardrobe { tin: &tin, habit: &habit, board: &board })
    }

    /// How a scheme looks; none of a piece of which nothing was said yet.
    fn stand(&self, piece: &Piece, scheme: &Scheme) -> Result<Option<Standing>, Problem> {
        let Some(form) = &piece.form else { return Ok(None) };
        let elevation =
            form.build().map_err(|error| Problem::field(format!("/form/{}", error.field), error.message))?;
        let (extents, places) = (piece.extents(&elevation), elevation.places());
        let meetings = piece.meetings(&elevation);
        let (mut dressed, mut zones, mut refused) = (BTreeMap::new(), Vec::new(), Vec::new());
        self.with(|wardrobe| {
            for (zone, extent) in extents.into_iter().filter(|(zone, _)| *zone != Zone::Unpainted) {
                match wardrobe.dress(zone, scheme, piece.ground, &scheme.over, None) {
                    Ok(worn) => {
                        zones.push(worn.look(zone, extent, &places[&zone], self.look.light, self.look.state));
                        dressed.insert(zone, worn);
                    }
                    Err(error) => refused.push((zone, error)),
                }
            }
        });
        Ok(Some(Standing { elevation, dressed, zones, places, meetings, refused }))
    }
}

/// Which scheme a request asks for: the one that was chosen where it asks for none; an empty one of a piece that was never
/// dressed.
fn scheme_of(piece: &Piece, asked: Option<usize>) -> Result<Scheme, Problem> {
    let at = asked.unwrap_or(piece.chosen);
    match piece.schemes.get(at) {
        Some(scheme) => Ok(scheme.clone()),
        None if asked.is_none() || piece.schemes.is_empty() => Ok(Scheme {
            name: piece.name.clone(),
            wears: BTreeMap::new(),
            over: Vec::new(),
            intent: warm_blend_finish::piece::Intent::default(),
            pairs: Vec::new(),
        }),
        None => Err(Problem::field(
            "?scheme",
            format!("there is no such scheme: 0 to {}", piece.schemes.len() - 1),
        )),
    }
}
