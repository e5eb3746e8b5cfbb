//! Ways back for a board gone wrong, and what other schools would do: each with what it would look like.

use axum::{Json, extract};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_board::{Change, Layer, Letter, Mending, OnShelf, Place, School, Tin, Trouble, Way};
use warm_blend_paint::{PaintId, Seen as SeenInLight, State, Verdict};

use super::{
    StripAsked,
    entry::{BoardEntry, LayerEntry},
    on_shelf,
    told::OnTheEasel,
};
use crate::{
    Workspace,
    body::{Asked, Body},
    colour::{Look, LookedAt},
    off_thread::off_thread,
    problem::Problem,
    routes::names::Names,
};

const PRACTICE: &str = "common practice";

/// What went wrong.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct TroubleAsked {
    /// `too-dark` and others: see `/api/boards/choices`.
    trouble: String,
}

/// The ways back.
#[derive(Debug, Serialize, ToSchema)]
pub struct RescueTold {
    /// What to do before any layer.
    first: &'static str,
    /// The strip as it is, from across the room: field, recess, edge.
    before: Vec<String>,
    /// The most helpful first; none where nothing on the shelf helps.
    ways: Vec<WayTold>,
    /// Where they are from.
    source: &'static str,
}

/// A way back.
#[derive(Debug, Serialize, ToSchema)]
pub struct WayTold {
    /// What to do.
    words: String,
    /// Why it helps.
    why: &'static str,
    /// What would be seen from across the room: field, recess, edge.
    after: Vec<String>,
    /// What that is in words, on the field: `clearly lighter`.
    moves: String,
    /// What is done to the strip.
    changes: Vec<ChangeTold>,
}

/// A change of a strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangeTold {
    /// `put`: a new layer; `instead`: one in place of that with its id; `take`: one is taken out.
    deed: &'static str,
    /// Which layer.
    id: Uuid,
    /// What it is; none where it is taken out.
    layer: Option<LayerEntry>,
    /// The layer that a new one lies below; on top if none.
    below: Option<Uuid>,
}

/// A question that painters answer differently.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolTold {
    /// The question.
    question: &'static str,
    /// Answers other than this strip's.
    ways: Vec<WayTold>,
}

/// What other schools would do.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolsTold {
    /// The strip as it is, from across the room: field, recess, edge.
    before: Vec<String>,
    /// What applies to it.
    schools: Vec<SchoolTold>,
    /// Where they are from.
    source: &'static str,
}

impl From<&Change> for ChangeTold {
    fn from(change: &Change) -> Self {
        let told =
            |deed, layer: &Layer| Self { deed, id: layer.id.0, layer: Some(layer.into()), below: None };
        match change {
            Change::Put(layer, above) => Self { below: above.map(|above| above.0), ..told("put", layer) },
            Change::Instead(layer) => told("instead", layer),
            Change::Take(id) => Self { deed: "take", id: id.0, layer: None, below: None },
        }
    }
}

/// A strip on the easel, and how its ways are told.
struct Tried<'a> {
    easel: OnTheEasel<'a>,
    letter: Letter,
    shelf: Vec<OnShelf>,
    before: [SeenInLight; 3],
}

impl<'a> Tried<'a> {
    fn new(easel: OnTheEasel<'a>, letter: Letter, shelf: Vec<OnShelf>) -> Result<Self, Problem> {
        let stack = easel.stack(letter)?;
        let before = Place::ALL.map(|place| easel.seen_from_afar(&stack, place, stack.len()));
        Ok(Self { easel, letter, shelf, before })
    }

    fn mending(&self) -> Mending<'_, impl Fn(PaintId) -> Option<Tin<'a>>> {
        let OnTheEasel { board, known, .. } = self.easel;
        Mending {
            board,
            letter: self.letter,
            shelf: &self.shelf,
            tin: |paint| self.easel.tin(paint),
            hands: known.hands(),
        }
    }

    fn before(&self) -> Vec<String> {
        self.before.iter().map(|seen| seen.screen.srgb.to_string()).collect()
    }

    fn told(&self, way: &Way, names: &Names) -> WayTold {
        let after = Place::ALL.map(|place| SeenInLight::of(way.after.at(place), self.easel.look.light));
        let moves = Verdict::of(after[0].lab, self.before[0].lab).words.replace(" than the target", "");
        WayTold {
            words: match &way.pot {
                Some(layer) => format!("{} {}", way.words, names.pot(&layer.pot)),
                None => way.words.clone(),
            },
            why: way.why,
            after: after.map(|seen| seen.screen.srgb.to_string()).into(),
            moves: format!("{moves} on the field"),
            changes: way.changes.iter().map(ChangeTold::from).collect(),
        }
    }
}

/// The ways back for a strip gone wrong, tried on it with what is on the shelf; nothing is kept.
#[utoipa::path(post, path = "/boards/rescue", operation_id = "rescue_board",
    tag = "board", params(LookedAt, StripAsked, TroubleAsked), request_body = BoardEntry,
    responses((status = OK, body = RescueTold)))]
pub async fn rescue(
    extract::State(workspace): extract::State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(strip): Asked<StripAsked>,
    Asked(TroubleAsked { trouble }): Asked<TroubleAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<RescueTold>, Problem> {
    let (look, board) = (Look { state: State::Dry, ..asked.get()? }, entry.parse()?);
    let letter = strip.of(&board)?;
    let trouble: Trouble = trouble.parse().map_err(|error: String| Problem::field("?trouble", error))?;
    let ((names, shelf), known) = workspace.with_known(|store| Names::and_shelf(store)).await?;
    off_thread(move || {
        let easel = OnTheEasel::new(&board, &known, look)?;
        let tried = Tried::new(easel, letter, on_shelf(&shelf, &known))?;
        let ways = tried.mending().ways(trouble).map_err(|error| Problem::field("/ground/colour", error))?;
        Ok(Json(RescueTold {
            first: trouble.first(),
            before: tried.before(),
            ways: ways.iter().map(|way| tried.told(way, &names)).collect(),
            source: PRACTICE,
        }))
    })
    .await
}

/// How other schools would do a strip, tried on it with what is on the shelf; nothing is kept.
#[utoipa::path(post, path = "/boards/schools", operation_id = "other_schools",
    tag = "board", params(LookedAt, StripAsked), request_body = BoardEntry,
    responses((status = OK, body = SchoolsTold)))]
pub async fn schools(
    extract::State(workspace): extract::State<Workspace>,
    Asked(asked): Asked<LookedAt>,
    Asked(strip): Asked<StripAsked>,
    Body(entry): Body<BoardEntry>,
) -> Result<Json<SchoolsTold>, Problem> {
    let (look, board) = (Look { state: State::Dry, ..asked.get()? }, entry.parse()?);
    let letter = strip.of(&board)?;
    let ((names, shelf), known) = workspace.with_known(|store| Names::and_shelf(store)).await?;
    off_thread(move || {
        let easel = OnTheEasel::new(&board, &known, look)?;
        let tried = Tried::new(easel, letter, on_shelf(&shelf, &known))?;
        let schools = tried.mending().schools().map_err(|error| Problem::field("/ground/colour", error))?;
        let told = |school: &School| SchoolTold {
            question: school.question,
            ways: school.ways.iter().map(|way| tried.told(way, &names)).collect(),
        };
        Ok(Json(SchoolsTold {
            before: tried.before(),
            schools: schools.iter().map(told).collect(),
            source: PRACTICE,
        }))
    })
    .await
}
