//! The piece at hand: what it is, what it wears, and whether its parts belong together.

pub mod entry;
pub mod picture;
pub mod told;
pub mod unify;

use std::{collections::BTreeMap, sync::Arc};

use axum::{Json, extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, ByPlace, OnShelf, Tin};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Component, Dimension, Name, PaintId};
use warm_blend_piece::{
    Age, BadDress, Dressed, Elevation, Extent, Form, Kind, Looked, Meeting, Motif, Piece, Scheme, Wardrobe,
    Zone, ZoneSeen,
};
use warm_blend_store::{Batch, Kept, Store, StoreError};
use warm_blend_workshop::Workshop;

use self::entry::{FormEntry, PieceEntry};
use super::{boards::on_shelf, names::Names, paints::Seen, units::UnitsAsked};
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    colour::Look,
    known::Known,
    problem::Problem,
};

/// The piece as the painter calls it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceName {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    name: String,
}

/// A piece that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceKept {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// What it is called.
    name: String,
    /// What the painter says of it.
    entry: PieceEntry,
}

impl From<Kept<Piece>> for PieceKept {
    fn from(kept: Kept<Piece>) -> Self {
        let entry = PieceEntry::from(&kept.value);
        Self { id: kept.id, revision: kept.revision, name: kept.value.name.into(), entry }
    }
}

/// A piece in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceInList {
    /// For good.
    id: Uuid,
    /// How often it was changed.
    revision: i64,
    /// What it is called.
    name: String,
    /// `Chest of drawers` …; none where that was not said yet.
    kind: Option<&'static str>,
    /// True of the one that is worked on.
    at_hand: bool,
}

/// What pieces are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoices {
    /// Kinds of pieces.
    kinds: Vec<KindChoice>,
    /// Kinds of ageing.
    ages: Vec<PieceChoice>,
    /// Motifs of a stencil.
    motifs: Vec<PieceChoice>,
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
    /// How large it usually is: `1000 × 900 mm`.
    size: String,
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

/// Something to choose by its name.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoice {
    /// `wear` …
    id: &'static str,
    /// `Wear` …
    name: &'static str,
}

/// The piece that was chosen, or the first: a workspace comes with one.
fn at_hand(store: &Store) -> Result<Kept<Piece>, StoreError> {
    let chosen = crate::known::workshop(store)?.value.piece;
    let pieces = store.all::<Piece>()?;
    let at = pieces.iter().position(|kept| Some(kept.id) == chosen).unwrap_or(0);
    pieces.into_iter().nth(at).ok_or(StoreError::Damaged("there is no piece in it".to_owned()))
}

/// Takes a piece to hand.
fn take(batch: &mut Batch<'_>, workshop: Kept<Workshop>, piece: Uuid) -> Result<(), StoreError> {
    let Kept { id, revision, value, .. } = workshop;
    batch.change(id, revision, Workshop { piece: Some(piece), ..value }).map(|_| ())
}

/// The piece at hand.
#[utoipa::path(get, path = "/piece", operation_id = "get_piece",
    tag = "piece", responses((status = OK, body = PieceKept)))]
pub async fn get(State(workspace): State<Workspace>) -> Result<Json<PieceKept>, Problem> {
    workspace.with(|store| at_hand(store)).await.map(|kept| Json(kept.into()))
}

/// All pieces, in the order they were begun.
#[utoipa::path(get, path = "/pieces", operation_id = "list_pieces",
    tag = "piece", responses((status = OK, body = Vec<PieceInList>)))]
pub async fn list(State(workspace): State<Workspace>) -> Result<Json<Vec<PieceInList>>, Problem> {
    let (pieces, at_hand) = workspace.with(|store| Ok((store.all::<Piece>()?, at_hand(store)?.id))).await?;
    let row = |kept: Kept<Piece>| PieceInList {
        id: kept.id,
        revision: kept.revision,
        at_hand: kept.id == at_hand,
        kind: kept.value.form.map(|form| form.kind.name()),
        name: kept.value.name.into(),
    };
    Ok(Json(pieces.into_iter().map(row).collect()))
}

/// Begin a piece, and take it to hand.
#[utoipa::path(post, path = "/pieces", operation_id = "make_piece",
    tag = "piece", request_body = PieceName,
    responses((status = CREATED, body = PieceKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Body(entry): Body<PieceName>,
) -> Result<(StatusCode, Json<PieceKept>), Problem> {
    let name = Name::new(&entry.name).map_err(|error| Problem::field("/name", error))?;
    let kept = workspace
        .with(move |store| {
            let workshop = crate::known::workshop(store)?;
            store.together(|batch| {
                let kept = batch.make(Piece::named(name))?;
                take(batch, workshop, kept.id)?;
                Ok(kept)
            })
        })
        .await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// Take a piece to hand.
#[utoipa::path(put, path = "/pieces/{id}/at-hand", operation_id = "take_piece",
    tag = "piece", params(("id" = Uuid, Path)),
    responses((status = OK, body = PieceKept)))]
pub async fn take_to_hand(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
) -> Result<Json<PieceKept>, Problem> {
    let kept = workspace
        .with(move |store| {
            let (kept, workshop) = (store.get::<Piece>(id)?, crate::known::workshop(store)?);
            store.together(|batch| take(batch, workshop, id))?;
            Ok(kept)
        })
        .await?;
    Ok(Json(kept.into()))
}

/// One piece.
#[utoipa::path(get, path = "/pieces/{id}", operation_id = "get_one_piece",
    tag = "piece", params(("id" = Uuid, Path)),
    responses((status = OK, body = PieceKept)))]
pub async fn one(State(workspace): State<Workspace>, IdPath(id): IdPath) -> Result<Json<PieceKept>, Problem> {
    workspace.with(move |store| store.get::<Piece>(id)).await.map(|kept| Json(kept.into()))
}

/// Call a piece something else.
#[utoipa::path(put, path = "/pieces/{id}/name", operation_id = "rename_piece",
    tag = "piece", params(Seen, ("id" = Uuid, Path)), request_body = PieceName,
    responses((status = OK, body = PieceKept)))]
pub async fn rename(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PieceName>,
) -> Result<Json<PieceKept>, Problem> {
    let name = Name::new(&entry.name).map_err(|error| Problem::field("/name", error))?;
    let kept = workspace
        .with(move |store| {
            let kept = store.get::<Piece>(id)?;
            store.change(id, revision, Piece { name, ..kept.value })
        })
        .await?;
    Ok(Json(kept.into()))
}

/// Change a piece.
#[utoipa::path(put, path = "/pieces/{id}", operation_id = "change_piece",
    tag = "piece", params(Seen, ("id" = Uuid, Path)), request_body = PieceEntry,
    responses((status = OK, body = PieceKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<PieceEntry>,
) -> Result<Json<PieceKept>, Problem> {
    let piece = entry.parse()?;
    workspace.with(move |store| store.change(id, revision, piece)).await.map(|kept| Json(kept.into()))
}

/// Put a piece away; undo brings it back. The last one stays.
#[utoipa::path(delete, path = "/pieces/{id}", operation_id = "remove_piece",
    tag = "piece", params(Seen, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
) -> Result<StatusCode, Problem> {
    let last = workspace
        .with(move |store| {
            let last = store.all::<Piece>()?.iter().all(|kept| kept.id == id);
            if !last {
                store.remove::<Piece>(id, revision)?;
            }
            Ok(last)
        })
        .await?;
    if last {
        return Err(Problem::field(
            "/id",
            "this is the only piece: begin another one first, then put it away",
        ));
    }
    Ok(StatusCode::NO_CONTENT)
}

/// What pieces are made of: kinds with their dimensions, kinds of ageing.
#[utoipa::path(get, path = "/piece/choices", operation_id = "list_piece_choices",
    tag = "piece", params(UnitsAsked), responses((status = OK, body = PieceChoices)))]
pub async fn choices(Asked(units): Asked<UnitsAsked>) -> Result<Json<PieceChoices>, Problem> {
    let units = units.get()?;
    let size = |Form { width, height, .. }: Form| {
        format!("{} × {}", units.number(Dimension::Length, width), units.say(Dimension::Length, height))
    };
    let kind = |kind: Kind| KindChoice {
        size: size(kind.usual()),
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
    Ok(Json(PieceChoices {
        kinds: Kind::ALL.map(kind).into(),
        ages: Age::ALL.map(|age| PieceChoice { id: age.id(), name: age.name() }).into(),
        motifs: Motif::ALL.map(|motif| PieceChoice { id: motif.id(), name: motif.name() }).into(),
    }))
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

/// A piece in what it wears.
struct InDress {
    form: Form,
    elevation: Elevation,
    dressed: BTreeMap<Zone, Dressed>,
    /// Zones that cannot be dressed, and why.
    refused: Vec<(Zone, BadDress)>,
}

/// A piece in the room: how its zones look in what they wear.
struct Standing {
    in_dress: InDress,
    extents: BTreeMap<Zone, Extent>,
    zones: Vec<ZoneSeen>,
    places: BTreeMap<Zone, ByPlace<f64>>,
    meetings: Vec<Meeting>,
}

impl Standing {
    fn looked<'a>(&'a self, piece: &'a Piece, scheme: &'a Scheme, look: Look) -> Looked<'a> {
        let Standing { zones, places, meetings, .. } = self;
        Looked { piece, scheme, zones, places, meetings, look: (look.light, look.state) }
    }
}

/// The answer where nothing was said of a piece yet.
fn not_said() -> Problem {
    Problem::field("/form", "say first what the piece is")
}

impl Room {
    async fn of(workspace: &Workspace, look: Look) -> Result<Self, Problem> {
        let ((boards, (names, tins)), known) =
            workspace.with_known(|store| Ok((store.all_ever::<Board>()?, Names::and_shelf(store)?))).await?;
        let price = |tin: &Kept<ShelfPaint>| Some((tin.id, tin.value.price?.by_ml()));
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
    fn with<R>(&self, elevation: &Elevation, work: impl FnOnce(&Wardrobe) -> R) -> R {
        let tin = |paint| self.tin(paint);
        let habit = |technique| self.known.hands().habit(technique);
        let board = |id| self.boards.get(&id);
        work(&Wardrobe { tin: &tin, habit: &habit, elevation, board: &board })
    }

    /// A scheme put on; none of a piece of which nothing was said yet.
    fn dress(&self, piece: &Piece, scheme: &Scheme) -> Result<Option<InDress>, Problem> {
        let Some(form) = piece.form else { return Ok(None) };
        let elevation =
            form.build().map_err(|error| Problem::field(format!("/form/{}", error.field), error.message))?;
        let (mut dressed, mut refused) = (BTreeMap::new(), Vec::new());
        self.with(&elevation, |wardrobe| {
            for zone in elevation.extents().into_keys().filter(|zone| zone.is_painted()) {
                match wardrobe.dress(zone, scheme, piece.ground, &scheme.over, None) {
                    Ok(worn) => drop(dressed.insert(zone, worn)),
                    Err(error) => refused.push((zone, error)),
                }
            }
        });
        Ok(Some(InDress { form, elevation, dressed, refused }))
    }

    /// How a scheme looks; none of a piece of which nothing was said yet.
    fn stand(&self, piece: &Piece, scheme: &Scheme) -> Result<Option<Standing>, Problem> {
        let Some(in_dress) = self.dress(piece, scheme)? else { return Ok(None) };
        let elevation = &in_dress.elevation;
        let (extents, places) = (piece.extents(elevation), elevation.places());
        let meetings = piece.meetings(elevation);
        let look = |(zone, worn): (&Zone, &Dressed)| {
            worn.look(*zone, extents[zone], &places[zone], self.look.light, self.look.state)
        };
        let zones = in_dress.dressed.iter().map(look).collect();
        Ok(Some(Standing { in_dress, extents, zones, places, meetings }))
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
            intent: warm_blend_piece::Intent::default(),
            pairs: Vec::new(),
        }),
        None => Err(Problem::field(
            "?scheme",
            format!("there is no such scheme: 0 to {}", piece.schemes.len() - 1),
        )),
    }
}
