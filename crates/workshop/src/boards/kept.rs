//! Saved boards, and new boards from a finish.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, Ground, GroundKind, Layer, Letter, Place, Strip};
use warm_blend_documents::Kept;
use warm_blend_paint::{Look, Name};

use crate::{Checks, Refusal, SeenBoard, ShelfSnapshot, strip_of};

/// A board in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardInList {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, which increases with each change.
    pub revision: i64,
    /// Name.
    pub name: String,
    /// Letters of its strips.
    pub strips: Vec<String>,
    /// Strip A from across the room: field, recess and edge.
    pub hexes: Vec<String>,
}

/// A saved board.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardKept {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// Time of the last change, RFC 3339.
    pub changed_at: String,
    /// The board.
    pub entry: Board,
}

impl From<Kept<Board>> for BoardKept {
    fn from(kept: Kept<Board>) -> Self {
        let changed_at = kept.changed_at.to_string();
        Self { id: kept.id, revision: kept.revision, changed_at, entry: kept.value }
    }
}

/// A new board.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewBoard {
    /// Its name, 1 to 80 characters.
    #[schema(example = "sample board for the case")]
    pub name: String,
    /// Ground: see `/api/boards/choices`.
    #[schema(example = "red-stain")]
    pub ground: GroundKind,
    /// A ready finish, filled from the shelf: see `/api/boards/choices`.
    #[schema(example = "aged")]
    pub template: Option<String>,
    /// Main colour; by default a paint that suits the finish.
    pub base: Option<Uuid>,
    /// Initial layers, instead of a ready finish.
    #[serde(default)]
    pub layers: Vec<Layer>,
}

impl NewBoard {
    /// Strips of its ready finish, filled from the shelf, or one strip of its own layers.
    fn strips(&self, shelf: &ShelfSnapshot) -> Result<Vec<Strip>, Refusal> {
        if let Some(template) = &self.template {
            return shelf.strips_of(template, self.base);
        }
        Ok(vec![Strip { letter: Letter::ALL[0], from: None, layers: self.layers.clone() }])
    }
}

impl ShelfSnapshot {
    /// Makes a new board.
    pub fn new_board(&self, new: &NewBoard) -> Result<Board, Refusal> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&new.name));
        Board::new(checks.done(name)?, Ground::of(new.ground), new.strips(self)?)
            .map_err(|error| Refusal::field("/template", error))
    }

    /// A board in the list.
    pub fn board_in_list(&self, kept: &Kept<Board>, look: Look) -> Result<BoardInList, Refusal> {
        let board = &kept.value;
        let seen = SeenBoard::new(board, self, look)?;
        let stack = seen.stack(strip_of(board, None)?)?;
        let hex = |place| seen.look_at(&stack, place, stack.len()).screen.srgb.to_string();
        Ok(BoardInList {
            id: kept.id,
            revision: kept.revision,
            name: board.name.as_str().to_owned(),
            strips: board.strips().iter().map(|strip| strip.letter.to_string()).collect(),
            hexes: Place::ALL.map(hex).into(),
        })
    }
}
