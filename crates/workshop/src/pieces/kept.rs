//! Saved pieces.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_paint::Name;
use warm_blend_piece::Piece;

use crate::Refusal;

/// Name of a piece.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceName {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    pub name: String,
}

impl PieceName {
    /// Checks the name, as strictly as that of a tin or mix.
    pub fn parse(&self) -> Result<Name, Refusal> {
        Name::new(&self.name).map_err(|error| Refusal::field("/name", error))
    }
}

/// A saved piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceKept {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// Name.
    pub name: String,
    /// The piece.
    pub entry: Piece,
}

impl From<Kept<Piece>> for PieceKept {
    fn from(kept: Kept<Piece>) -> Self {
        let name = kept.value.name.as_str().to_owned();
        Self { id: kept.id, revision: kept.revision, name, entry: kept.value }
    }
}

/// A piece in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceInList {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision.
    pub revision: i64,
    /// Name.
    pub name: String,
    /// Kind: `Chest of drawers` …; absent if not chosen yet.
    pub kind: Option<&'static str>,
    /// Client, from its brief.
    pub client: Option<String>,
    /// True for the current piece.
    pub at_hand: bool,
}

impl PieceInList {
    /// A piece in the list, given which one is current.
    pub fn of(kept: Kept<Piece>, at_hand: Uuid) -> Self {
        Self {
            id: kept.id,
            revision: kept.revision,
            at_hand: kept.id == at_hand,
            kind: kept.value.form.map(|form| form.kind.name()),
            client: kept.value.brief.client.map(String::from),
            name: kept.value.name.into(),
        }
    }
}
