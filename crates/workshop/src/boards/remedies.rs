//! Remedies for a board gone wrong, and ways of other schools, each with its effect.

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{
    Board, Defect, KnownTin, Layer, LayerChange, Letter, OnShelf, Place, Remedy, RemedySearch, School,
};
use warm_blend_paint::{FilmState, Look, PaintId, Seen as SeenInLight, Verdict};

use crate::{Refusal, SeenBoard, ShelfSnapshot, strip_of};

const PRACTICE: &str = "common practice";

/// Remedies.
#[derive(Debug, Serialize, ToSchema)]
pub struct RemediesView {
    /// What to do before adding any layer.
    pub first: &'static str,
    /// The strip as it is, from across the room: field, recess, edge.
    pub before: Vec<String>,
    /// Remedies, most helpful first; empty if nothing on the shelf helps.
    pub ways: Vec<RemedyView>,
    /// Source.
    pub source: &'static str,
}

/// A remedy.
#[derive(Debug, Serialize, ToSchema)]
pub struct RemedyView {
    /// Id of the way.
    pub id: &'static str,
    /// What to do.
    pub words: String,
    /// Reason.
    pub why: &'static str,
    /// Colours from across the room afterwards: field, recess, edge.
    pub after: Vec<String>,
    /// Change of the field in words: `clearly lighter`.
    pub moves: String,
    /// Changes to the strip.
    pub changes: Vec<LayerChangeView>,
}

/// A change to a layer.
#[derive(Debug, Serialize, ToSchema)]
pub struct LayerChangeView {
    /// `put`: adds a layer; `instead`: replaces the layer with this id; `take`: removes it.
    pub action: &'static str,
    /// The layer's id.
    pub id: Uuid,
    /// The layer; absent if it is removed.
    pub layer: Option<Layer>,
    /// The layer above a new one; on top if absent.
    pub below: Option<Uuid>,
}

/// A question that painters answer differently.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolView {
    /// Id of what is disputed.
    pub id: &'static str,
    /// The question.
    pub question: &'static str,
    /// Answers other than this strip's.
    pub ways: Vec<RemedyView>,
}

/// Ways of other schools.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolsView {
    /// The strip as it is, from across the room: field, recess, edge.
    pub before: Vec<String>,
    /// Questions that apply to it.
    pub schools: Vec<SchoolView>,
    /// Source.
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

/// A strip on which remedies are tried.
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
            id: way.way.id(),
            words: match &way.pot {
                Some(layer) => format!("{} {}", way.words(), self.seen.shelf.pot_words(&layer.pot)),
                None => way.words(),
            },
            why: way.way.why(),
            after: after.map(|seen| seen.screen.srgb.to_string()).into(),
            moves: format!("{moves} on the flat"),
            changes: way.changes.iter().map(LayerChangeView::from).collect(),
        }
    }
}

impl ShelfSnapshot {
    /// Remedies for a strip, tried with tins of the shelf.
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

    /// Ways of other schools for a strip, tried with tins of the shelf.
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
            id: school.dispute.id(),
            question: school.dispute.question(),
            ways: school.ways.iter().map(|way| tried.view(way)).collect(),
        };
        Ok(SchoolsView {
            before: tried.before(),
            schools: schools.iter().map(shown).collect(),
            source: PRACTICE,
        })
    }
}
