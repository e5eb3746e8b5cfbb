//! Ways back for a board gone wrong, each with what it would do.

use axum::Json;
use axum::extract;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;
use warm_blend_finish::board::{Change, Mending, Place, Trouble, Way};
use warm_blend_finish::{Seen as SeenInLight, ShelfPaint, State, Verdict};

use super::entry::{BoardEntry, LayerEntry};
use super::told::{Names, OnTheEasel, off_thread};
use super::{StripAsked, on_shelf};
use crate::Workspace;
use crate::body::{Asked, Body};
use crate::colour::{Look, LookedAt};
use crate::problem::Problem;

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
    /// A new layer, or one in place of that with its id.
    layer: LayerEntry,
    /// True of a new one.
    new: bool,
    /// The layer that a new one lies below; on top if none.
    below: Option<Uuid>,
}

impl From<&Change> for ChangeTold {
    fn from(change: &Change) -> Self {
        match change {
            Change::Put(layer, above) => {
                Self { layer: layer.into(), new: true, below: above.map(|above| above.0) }
            }
            Change::Instead(layer) => Self { layer: layer.into(), new: false, below: None },
        }
    }
}

/// The ways back for a strip gone wrong, tried on it with what is on the shelf; nothing is kept.
#[utoipa::path(post, path = "/boards/rescue", operation_id = "rescue_board",
    tag = "board", params(LookedAt, StripAsked, TroubleAsked), request_body = BoardEntry,
    responses((status = OK, body = RescueTold), (status = "4XX", body = Problem, content_type = "application/problem+json")))]
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
    let ((names, shelf), known) =
        workspace.with_known(|store| Ok((Names::of(store)?, store.all::<ShelfPaint>()?))).await?;
    off_thread(move || {
        let (easel, shelf) = (OnTheEasel::new(&board, &known, look)?, on_shelf(&shelf, &known));
        let stack = easel.stack(letter)?;
        let before = Place::ALL.map(|place| easel.seen_from_afar(&stack, place, stack.len()));
        let tin = |paint| easel.tin(paint);
        let mending = Mending { board: &board, letter, shelf: &shelf, tin, hands: known.hands() };
        let ways = mending.ways(trouble).map_err(|error| Problem::field("/ground/colour", error))?;
        Ok(Json(RescueTold {
            first: trouble.first(),
            ways: ways.iter().map(|way| told(way, &before[0], look, &names)).collect(),
            before: before.map(|seen| seen.screen.srgb.to_string()).into(),
            source: "common practice",
        }))
    })
    .await
}

fn told(way: &Way, field: &SeenInLight, look: Look, names: &Names) -> WayTold {
    let after = Place::ALL.map(|place| SeenInLight::of(way.after.at(place), look.light));
    let moves = Verdict::of(after[0].lab, field.lab).words.replace(" than the target", "");
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
