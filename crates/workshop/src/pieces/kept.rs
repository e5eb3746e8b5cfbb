//! Pieces that are kept.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_paint::Name;
use warm_blend_piece::Piece;

use crate::{Kept, Refusal};

/// The piece as the painter calls it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PieceName {
    /// Its name, 1 to 80 characters.
    #[schema(example = "Upright piano and stool")]
    pub name: String,
}

impl PieceName {
    /// The name, as strict as that of a tin or a mix: what only an older file may hold is refused.
    pub fn parse(&self) -> Result<Name, Refusal> {
        Name::new(&self.name).map_err(|error| Refusal::field("/name", error))
    }
}

/// A piece that is kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceKept {
    /// Stable identifier.
    pub id: Uuid,
    /// To be named when it is changed.
    pub revision: i64,
    /// What it is called.
    pub name: String,
    /// What the painter says of it.
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
    /// How often it was changed.
    pub revision: i64,
    /// What it is called.
    pub name: String,
    /// `Chest of drawers` …; none where that was not said yet.
    pub kind: Option<&'static str>,
    /// For whom, as its brief says.
    pub client: Option<String>,
    /// True of the one that is worked on.
    pub at_hand: bool,
}

impl PieceInList {
    /// A piece, where one is at hand.
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
