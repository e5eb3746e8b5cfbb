//! Sample boards: layers of a finish, predicted and drawn.

pub mod entry;
pub mod picture;
pub mod read;
pub mod rescue;
pub mod shade;
pub mod told;

use axum::{Json, extract::State, http::StatusCode};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_board::{
    Board, Ground, GroundKind, Layer, Letter, OnShelf, Place, Strip, Technique, Template, Trouble,
};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Condition, Millilitres, Name, PaintId};
use warm_blend_spectral::Light;
use warm_blend_store::Kept;

use self::{
    entry::{BoardEntry, PrintEntry},
    told::OnTheEasel,
};
use super::paints::Seen;
use crate::{
    Workspace,
    body::{Asked, Body, IdPath},
    colour::LookedAt,
    known::Known,
    problem::Problem,
};

/// A board in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardInList {
    /// For good.
    id: Uuid,
    /// How often it was changed.
    revision: i64,
    /// What it is called.
    name: String,
    /// Letters of its strips.
    strips: Vec<String>,
    /// Strip A from across the room: field, recess and edge.
    hexes: Vec<String>,
}

/// A board that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardKept {
    /// For good.
    id: Uuid,
    /// To be named when it is changed.
    revision: i64,
    /// When it was last changed, RFC 3339.
    changed_at: String,
    /// What the painter put together.
    entry: BoardEntry,
}

/// Which strip to look at.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct StripAsked {
    /// `A` to `F`; the first if left out.
    strip: Option<String>,
    /// How many of its layers are on, from the ground up; all if left out.
    layers: Option<usize>,
}

/// What boards are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardChoices {
    /// Ways to put on a layer.
    techniques: Vec<TechniqueChoice>,
    /// What a board can lie on.
    grounds: Vec<GroundChoice>,
    /// Finishes to start from.
    templates: Vec<TemplateChoice>,
    /// What can have gone wrong.
    troubles: Vec<TroubleChoice>,
}

/// What can have gone wrong with a board.
#[derive(Debug, Serialize, ToSchema)]
pub struct TroubleChoice {
    /// `too-dark` …
    id: &'static str,
    /// `Too dark` …
    name: &'static str,
}

/// A finish to start from.
#[derive(Debug, Serialize, ToSchema)]
pub struct TemplateChoice {
    /// `aged` …
    id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    name: &'static str,
    /// What it is good for.
    note: &'static str,
}

/// A way to put on a layer.
#[derive(Debug, Serialize, ToSchema)]
pub struct TechniqueChoice {
    /// `glaze-wiped` …
    id: &'static str,
    /// `Glaze, wiped` …
    name: &'static str,
    /// True where it can be wiped more or less.
    wiped: bool,
    /// True where it takes away.
    takes_away: bool,
    /// True where it needs something in the pot.
    needs_pot: bool,
    /// What it usually leaves.
    usual: PrintEntry,
}

/// What a board can lie on.
#[derive(Debug, Serialize, ToSchema)]
pub struct GroundChoice {
    /// `pale-wood` …
    id: &'static str,
    /// `Bare wood, pale` …
    name: &'static str,
    /// What it is taken to look like in daylight.
    hex: String,
}

impl StripAsked {
    fn of(&self, board: &Board) -> Result<Letter, Problem> {
        let first = board.strips().first().map(|strip| strip.letter).ok_or_else(Problem::internal)?;
        let Some(asked) = &self.strip else { return Ok(first) };
        let found = board.strips().iter().find(|strip| strip.letter.to_string() == *asked);
        found.map(|strip| strip.letter).ok_or_else(|| {
            let letters: Vec<String> = board.strips().iter().map(|strip| strip.letter.to_string()).collect();
            Problem::field("?strip", format!("there is no such strip: this board has {}", letters.join(", ")))
        })
    }
}

impl From<Kept<Board>> for BoardKept {
    fn from(kept: Kept<Board>) -> Self {
        Self {
            id: kept.id,
            revision: kept.revision,
            changed_at: kept.changed_at.to_string(),
            entry: BoardEntry::from(&kept.value),
        }
    }
}

/// What boards are made of: techniques and grounds.
#[utoipa::path(get, path = "/boards/choices", operation_id = "list_board_choices",
    tag = "board", responses((status = OK, body = BoardChoices)))]
pub async fn choices() -> Json<BoardChoices> {
    let technique = |technique: Technique| TechniqueChoice {
        id: technique.id(),
        name: technique.name(),
        wiped: technique.is_wiped(),
        takes_away: technique.takes_away(),
        needs_pot: !technique.needs_no_pot(),
        usual: PrintEntry::of(technique.usual()),
    };
    let ground =
        |kind: GroundKind| GroundChoice { id: kind.id(), name: kind.name(), hex: kind.colour().to_string() };
    Json(BoardChoices {
        techniques: Technique::ALL.map(technique).into(),
        grounds: GroundKind::ALL.map(ground).into(),
        templates: Template::ALL
            .iter()
            .map(|Template { id, name, note, .. }| TemplateChoice { id, name, note })
            .collect(),
        troubles: Trouble::ALL.map(|trouble| TroubleChoice { id: trouble.id(), name: trouble.name() }).into(),
    })
}

/// All boards, in the order they were begun.
#[utoipa::path(get, path = "/boards", operation_id = "list_boards",
    tag = "board", params(LookedAt),
    responses((status = OK, body = Vec<BoardInList>)))]
pub async fn list(
    State(workspace): State<Workspace>,
    Asked(asked): Asked<LookedAt>,
) -> Result<Json<Vec<BoardInList>>, Problem> {
    let look = asked.get()?;
    let (boards, known) = workspace.with_known(|store| store.all::<Board>()).await?;
    let row = |kept: Kept<Board>| {
        let board = &kept.value;
        let easel = OnTheEasel::new(board, &known, look)?;
        let letter = StripAsked { strip: None, layers: None }.of(board)?;
        let stack = easel.stack(letter)?;
        let hex = |place| easel.seen_from_afar(&stack, place, stack.len()).screen.srgb.to_string();
        Ok(BoardInList {
            id: kept.id,
            revision: kept.revision,
            name: board.name.as_str().to_owned(),
            strips: board.strips().iter().map(|strip| strip.letter.to_string()).collect(),
            hexes: Place::ALL.map(hex).into(),
        })
    };
    boards.into_iter().map(row).collect::<Result<_, Problem>>().map(Json)
}

/// A board that is begun.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewBoard {
    /// Its name, 1 to 80 characters.
    #[schema(example = "sample board for the case")]
    name: String,
    /// What it is laid on: see `/api/boards/choices`.
    #[schema(example = "red-stain")]
    ground: String,
    /// A finish to start from, filled from the shelf: see `/api/boards/choices`.
    #[schema(example = "aged")]
    template: Option<String>,
    /// The paint that is its main colour; the one there is most of if left out.
    base: Option<Uuid>,
}

impl NewBoard {
    /// The layers of its template, with what is on the shelf.
    fn layers(&self, shelf: &[Kept<ShelfPaint>], known: &Known) -> Result<Vec<Layer>, Problem> {
        let Some(template) = &self.template else { return Ok(Vec::new()) };
        let template = Template::find(template).ok_or_else(|| {
            let known = Template::ALL.map(|template| template.id).join(", ");
            Problem::field(
                "/template",
                format!("there is no such finish to start from: choose one of {known}"),
            )
        })?;
        let tins = on_shelf(shelf, known);
        let base = self.base.map(PaintId);
        if base.is_some_and(|base| tins.iter().all(|tin| tin.paint != base)) {
            return Err(Problem::field("/base", "this paint is not on the shelf: choose another"));
        }
        template.layers(&tins, base).map_err(|error| Problem::field("/template", error))
    }
}

/// Tins that can be painted with, as a board sees them.
pub fn on_shelf(shelf: &[Kept<ShelfPaint>], known: &Known) -> Vec<OnShelf> {
    let on_shelf = |tin: &Kept<ShelfPaint>| {
        Some(OnShelf {
            paint: PaintId(tin.id),
            class: tin.value.class,
            lab: known.estimate().paint(PaintId(tin.id))?.best().seen_lab(Light::Daylight),
            left: tin.value.stock.map_or(0.0, Millilitres::value),
        })
    };
    shelf.iter().filter(|tin| tin.value.condition != Condition::Off).filter_map(on_shelf).collect()
}

/// Begin a board.
#[utoipa::path(post, path = "/boards", operation_id = "make_board",
    tag = "board", request_body = NewBoard,
    responses((status = CREATED, body = BoardKept)))]
pub async fn make(
    State(workspace): State<Workspace>,
    Body(new): Body<NewBoard>,
) -> Result<(StatusCode, Json<BoardKept>), Problem> {
    let mut checks = crate::check::Checks::default();
    let name = checks.field("/name", Name::new(&new.name));
    let kind = checks.field("/ground", entry::kind(&new.ground));
    let (name, kind) = checks.done(name.zip(kind))?;
    let (shelf, known) = workspace.with_known(|store| store.all::<ShelfPaint>()).await?;
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: new.layers(&shelf, &known)? };
    let board = Board::new(name, Ground::of(kind), vec![strip])
        .map_err(|error| Problem::field("/template", error))?;
    let kept = workspace.with(|store| store.make(board)).await?;
    Ok((StatusCode::CREATED, Json(kept.into())))
}

/// One board.
#[utoipa::path(get, path = "/boards/{id}", operation_id = "get_board",
    tag = "board", params(("id" = Uuid, Path)),
    responses((status = OK, body = BoardKept)))]
pub async fn get(State(workspace): State<Workspace>, IdPath(id): IdPath) -> Result<Json<BoardKept>, Problem> {
    workspace.with(move |store| store.get::<Board>(id)).await.map(|kept| Json(kept.into()))
}

/// Change a board.
#[utoipa::path(put, path = "/boards/{id}", operation_id = "change_board",
    tag = "board", params(Seen, ("id" = Uuid, Path)), request_body = BoardEntry,
    responses((status = OK, body = BoardKept)))]
pub async fn change(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<BoardKept>, Problem> {
    let board = entry.parse()?;
    workspace.with(move |store| store.change(id, revision, board)).await.map(|kept| Json(kept.into()))
}

/// Put a board away; undo brings it back.
#[utoipa::path(delete, path = "/boards/{id}", operation_id = "remove_board",
    tag = "board", params(Seen, ("id" = Uuid, Path)),
    responses((status = NO_CONTENT)))]
pub async fn remove(
    State(workspace): State<Workspace>,
    IdPath(id): IdPath,
    Asked(Seen { revision }): Asked<Seen>,
) -> Result<StatusCode, Problem> {
    workspace.with(move |store| store.remove::<Board>(id, revision)).await?;
    Ok(StatusCode::NO_CONTENT)
}
