//! Ready finishes, each filled from the painter's own shelf for preview.

use std::collections::BTreeSet;

use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Board, ByPlace, Ground, GroundKind, Lacks, OnShelf, Strip, Template};
use warm_blend_paint::{Name, PaintId};
use warm_blend_piece::Zone;
use warm_blend_plan::{LayerWork, Tins, Work, ZoneWork, minutes, wanted};

use crate::{MissingMedium, Refusal, ShelfSnapshot};

/// A chest of drawers†: painted area in m², and its shares of field, recess and edge.
const CHEST: (f64, ByPlace<f64>) = (3.0, ByPlace { field: 0.79, recess: 0.09, edge: 0.12 });

/// A ready finish as this shelf would make it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadyFinish {
    /// `aged` …
    pub id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    pub name: &'static str,
    /// What it looks like.
    pub note: &'static str,
    /// What it suits.
    pub suits: &'static str,
    /// `easy`, `takes some practice` or `takes a sure hand`.
    pub skill: &'static str,
    /// Time it takes: `about 9 h by hand on a chest of drawers`; absent if the shelf lacks something.
    pub takes: Option<String>,
    /// The new board; absent if the shelf lacks something.
    pub entry: Option<Board>,
    /// What the shelf lacks.
    pub lacks: Option<String>,
    /// The medium that the shelf lacks, if it is one.
    pub medium: Option<MissingMedium>,
}

impl ShelfSnapshot {
    /// All ready finishes over a ground, with this main colour or one that suits each.
    pub fn ready_finishes(
        &self,
        ground: GroundKind,
        base: Option<Uuid>,
    ) -> Result<Vec<ReadyFinish>, Refusal> {
        let ground = Ground::of(ground);
        let tins = self.on_shelf();
        let base = main_colour(&tins, base, "?base")?;
        let ready = |template: &Template| {
            let Template { id, name, note, suits, skill, .. } = *template;
            let filled = template.filled(&tins, base);
            let medium = filled.as_ref().err().and_then(Lacks::medium).map(MissingMedium::of);
            let board = filled.map_err(|lacks| lacks.to_string()).and_then(|filled| {
                // A finish is a board named after it.
                let name = Name::new(name).map_err(|error| error.to_string())?;
                Board::new(name, ground, filled.strips()).map_err(|error| error.to_string())
            });
            let (board, lacks) = match board {
                Ok(board) => (Some(board), None),
                Err(lacks) => (None, Some(lacks)),
            };
            ReadyFinish {
                id,
                name,
                note,
                suits,
                skill: skill.words(),
                takes: board.as_ref().map(|board| by_hand(board, &|paint| self.product(paint))),
                entry: board,
                lacks,
                medium,
            }
        };
        let mut all: Vec<ReadyFinish> = Template::ALL.iter().map(ready).collect();
        // Finishes that the shelf can make come first.
        all.sort_by_key(|finish| finish.entry.is_none());
        Ok(all)
    }

    /// Strips of a finish, filled from the shelf; errors refer to the fields of a new board.
    pub(crate) fn strips_of(&self, template: &str, base: Option<Uuid>) -> Result<Vec<Strip>, Refusal> {
        let template = Template::find(template).ok_or_else(|| {
            let known = Template::ALL.map(|template| template.id).join(", ");
            let words = format!("no such finish; use one of {known}");
            Refusal::field("/template", words)
        })?;
        let tins = self.on_shelf();
        let base = main_colour(&tins, base, "/base")?;
        let filled = template.filled(&tins, base).map_err(|error| Refusal::field("/template", error))?;
        Ok(filled.strips())
    }
}

fn main_colour(tins: &[OnShelf], base: Option<Uuid>, at: &str) -> Result<Option<PaintId>, Refusal> {
    let base = base.map(PaintId);
    match base.is_some_and(|base| tins.iter().all(|tin| tin.paint != base)) {
        true => Err(Refusal::field(at, "this paint is not on the shelf; choose another")),
        false => Ok(base),
    }
}

/// The first strip of a board on a primed chest of drawers.
pub(crate) fn on_a_chest(board: &Board) -> ZoneWork {
    let (area, places) = CHEST;
    let strip = board.strips().first().map(|strip| strip.letter);
    let layers = strip.map(|strip| board.layers(strip)).unwrap_or_default();
    ZoneWork {
        zone: Zone::Case,
        area,
        places,
        parts: Vec::new(),
        taped: 0.0,
        ground: GroundKind::WhitePrimer,
        repairs: BTreeSet::new(),
        layers: layers.into_iter().map(LayerWork::from).collect(),
        ages: Vec::new(),
    }
}

/// Time for the first strip on a chest of drawers, in words.
fn by_hand(board: &Board, tins: Tins) -> String {
    let chest = on_a_chest(board);
    let works = wanted(&chest, false, tins);
    let painting = works.iter().filter(|work| work.lies() || **work == Work::Buff);
    let hours = painting.map(|work| minutes(work, &[&chest])).sum::<f64>() / 60.0;
    format!("about {:.0} h of painting on a chest of drawers", hours.max(1.0))
}
