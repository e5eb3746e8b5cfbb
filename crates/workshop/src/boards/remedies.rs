//! Ways back for a board gone wrong, and what other schools would do: each with what it would look like.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, Defect, KnownTin, Layer, LayerChange, Letter, OnShelf, Place, Remedy, RemedySearch, School,
};
use warm_blend_paint::{FilmState, Look, PaintId, Seen as SeenInLight, Verdict};

use crate::{Refusal, SeenBoard, ShelfSnapshot, strip_of};

const PRACTICE: &str = "common practice";

/// The ways back.
#[derive(Debug, Serialize, ToSchema)]
pub struct RemediesView {
    /// What to do before any layer.
    pub first: &'static str,
    /// The strip as it is, from across the room: field, recess, edge.
    pub before: Vec<String>,
    /// The most helpful first; none where nothing on the shelf helps.
    pub ways: Vec<RemedyView>,
    /// Where they are from.
    pub source: &'static str,
}

/// A way back.
#[derive(Debug, Serialize, ToSchema)]
pub struct RemedyView {
    /// What to do.
    pub words: String,
    /// Why it helps.
    pub why: &'static str,
    /// What would be seen from across the room: field, recess, edge.
    pub after: Vec<String>,
    /// What that is in words, on the field: `clearly lighter`.
    pub moves: String,
    /// What is done to the strip.
    pub changes: Vec<LayerChangeView>,
}

/// A change of a strip.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayerChangeView {
    /// `put`: a new layer; `instead`: one in place of that with its id; `take`: one is taken out.
    pub action: &'static str,
    /// Which layer.
    pub id: Uuid,
    /// What it is; none where it is taken out.
    pub layer: Option<Layer>,
    /// The layer that a new one lies below; on top if none.
    pub below: Option<Uuid>,
}

/// A question that painters answer differently.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolView {
    /// The question.
    pub question: &'static str,
    /// Answers other than this strip's.
    pub ways: Vec<RemedyView>,
}

/// What other schools would do.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolsView {
    /// The strip as it is, from across the room: field, recess, edge.
    pub before: Vec<String>,
    /// What applies to it.
    pub schools: Vec<SchoolView>,
    /// Where they are from.
    pub source: &'static str,
}

impl From<&LayerChange> for LayerChangeView {
    fn from(change: &LayerChange) -> Self {
        let shown =
            |action, layer: &Layer| Self { action, id: layer.id.0, layer: Some(layer.clone()), below: None };
        match change {
            LayerChange::Put(layer, above) => {
                Self { below: above.map(|above| above.0), ..shown("put", layer) }
            }
            LayerChange::Instead(layer) => shown("instead", layer),
            LayerChange::Take(id) => Self { action: "take", id: id.0, layer: None, below: None },
        }
    }
}

/// A strip that ways are tried on.
struct Tried<'a> {
    seen: SeenBoard<'a>,
    letter: Letter,
    on_shelf: Vec<OnShelf>,
    before: [SeenInLight; 3],
}

impl<'a> Tried<'a> {
    fn new(board: &'a Board, letter: Letter, shelf: &'a ShelfSnapshot, look: Look) -> Result<Self, Refusal> {
        let seen = SeenBoard::new(board, shelf, Look { state: FilmState::Dry, ..look })?;
        let stack = seen.stack(letter)?;
        let before = Place::ALL.map(|place| seen.look_at(&stack, place, stack.len()));
        Ok(Self { seen, letter, on_shelf: shelf.on_shelf(), before })
    }

    fn mending(&self) -> RemedySearch<'_, impl Fn(PaintId) -> Option<KnownTin<'a>>> {
        let SeenBoard { board, shelf, .. } = self.seen;
        RemedySearch {
            board,
            letter: self.letter,
            shelf: &self.on_shelf,
            tin: |paint| shelf.material(paint),
            hands: shelf.hands(),
        }
    }

    fn before(&self) -> Vec<String> {
        self.before.iter().map(|seen| seen.screen.srgb.to_string()).collect()
    }

    fn view(&self, way: &Remedy) -> RemedyView {
        let after = Place::ALL.map(|place| SeenInLight::of(way.after.at(place), self.seen.look.light));
        let moves = Verdict::of(after[0].lab, self.before[0].lab).lean().to_owned();
        RemedyView {
            words: match &way.pot {
                Some(layer) => format!("{} {}", way.words, self.seen.shelf.pot_words(&layer.pot)),
                None => way.words.clone(),
            },
            why: way.why,
            after: after.map(|seen| seen.screen.srgb.to_string()).into(),
            moves: format!("{moves} on the flat"),
            changes: way.changes.iter().map(LayerChangeView::from).collect(),
        }
    }
}

impl ShelfSnapshot {
    /// Ways back for a strip gone wrong, tried on it with what is on the shelf.
    pub fn ways_back(
        &self,
        board: &Board,
        strip: Option<Letter>,
        trouble: Defect,
        look: Look,
    ) -> Result<RemediesView, Refusal> {
        let letter = strip_of(board, strip)?;
        let tried = Tried::new(board, letter, self, look)?;
        let ways = tried.mending().ways(trouble).map_err(|error| Refusal::field("/ground/colour", error))?;
        Ok(RemediesView {
            first: trouble.first(),
            before: tried.before(),
            ways: ways.iter().map(|way| tried.view(way)).collect(),
            source: PRACTICE,
        })
    }

    /// How other schools would do a strip, tried on it with what is on the shelf.
    pub fn other_schools(
        &self,
        board: &Board,
        strip: Option<Letter>,
        look: Look,
    ) -> Result<SchoolsView, Refusal> {
        let letter = strip_of(board, strip)?;
        let tried = Tried::new(board, letter, self, look)?;
        let schools = tried.mending().schools().map_err(|error| Refusal::field("/ground/colour", error))?;
        let shown = |school: &School| SchoolView {
            question: school.question,
            ways: school.ways.iter().map(|way| tried.view(way)).collect(),
        };
        Ok(SchoolsView {
            before: tried.before(),
            schools: schools.iter().map(shown).collect(),
            source: PRACTICE,
        })
    }
}
