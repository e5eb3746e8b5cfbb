//! What boards are made of.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::{Defect, Deposit, Grit, GroundKind, Motif, Technique, Template};

/// What boards are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardChoices {
    /// Ways to put on a layer.
    pub techniques: Vec<TechniqueChoice>,
    /// What a board can lie on.
    pub grounds: Vec<GroundChoice>,
    /// Finishes to start from.
    pub templates: Vec<TemplateChoice>,
    /// What can have gone wrong.
    pub troubles: Vec<TroubleChoice>,
}

/// What can have gone wrong with a board.
#[derive(Debug, Serialize, ToSchema)]
pub struct TroubleChoice {
    /// `too-dark` …
    pub id: Defect,
    /// `Too dark` …
    pub name: &'static str,
}

/// A finish to start from.
#[derive(Debug, Serialize, ToSchema)]
pub struct TemplateChoice {
    /// `aged` …
    pub id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    pub name: &'static str,
    /// What it is good for.
    pub note: &'static str,
}

/// A way to put on a layer.
#[derive(Debug, Serialize, ToSchema)]
pub struct TechniqueChoice {
    /// `glaze-wiped` …
    pub id: &'static str,
    /// `Glaze, wiped` …
    pub name: &'static str,
    /// True where it can be wiped more or less.
    pub wiped: bool,
    /// True where it takes away.
    pub takes_away: bool,
    /// True where it needs something in the pot.
    pub needs_pot: bool,
    /// What it usually leaves.
    pub usual: Deposit,
    /// How rough it usually leaves the surface, µm from tip to hollow; none where it has no texture of its own.
    pub texture_um: Option<f64>,
    /// The grits it can be done with, coarse to fine; empty of what needs no paper, or any.
    pub grits: Vec<Grit>,
    /// The one it is usually done with.
    pub usual_grit: Option<Grit>,
    /// True if it can be worked into the layer below while that is wet.
    pub goes_wet: bool,
    /// True if it usually is.
    pub usually_wet: bool,
    /// What can be cut out of a stencil, the usual one first; empty of all else.
    pub motifs: Vec<MotifChoice>,
}

/// What is cut out of a stencil.
#[derive(Debug, Serialize, ToSchema)]
pub struct MotifChoice {
    /// `clover` …
    pub id: &'static str,
    /// `Clover` …
    pub name: &'static str,
}

impl MotifChoice {
    /// The usual one first.
    pub fn all() -> Vec<Self> {
        let mut all = Motif::ALL;
        all.sort_by_key(|motif| *motif != Motif::default());
        all.map(|motif| Self { id: motif.id(), name: motif.name() }).into()
    }
}

/// What a board can lie on.
#[derive(Debug, Serialize, ToSchema)]
pub struct GroundChoice {
    /// `pale-wood` …
    pub id: GroundKind,
    /// `Bare wood, pale` …
    pub name: &'static str,
    /// What it is taken to look like in daylight.
    pub hex: String,
}

impl BoardChoices {
    /// All there is: techniques, grounds, finishes to start from, and what can have gone wrong.
    pub fn all() -> Self {
        let technique = |technique: Technique| TechniqueChoice {
            id: technique.id(),
            name: technique.name(),
            wiped: technique.is_wiped(),
            takes_away: technique.takes_away(),
            needs_pot: !technique.needs_no_pot(),
            usual: technique.usual(),
            texture_um: technique.texture(),
            grits: technique.grit().map_or_else(Vec::new, |_| Grit::ALL.into()),
            usual_grit: technique.grit(),
            goes_wet: technique.can_go_into_wet(),
            usually_wet: technique.goes_into_wet(),
            motifs: if technique == Technique::Stencil { MotifChoice::all() } else { Vec::new() },
        };
        let ground =
            |kind: GroundKind| GroundChoice { id: kind, name: kind.name(), hex: kind.colour().to_string() };
        let template = |Template { id, name, note, .. }: &Template| TemplateChoice { id, name, note };
        let trouble = |trouble: Defect| TroubleChoice { id: trouble, name: trouble.name() };
        Self {
            techniques: Technique::ALL.map(technique).into(),
            grounds: GroundKind::ALL.map(ground).into(),
            templates: Template::ALL.iter().map(template).collect(),
            troubles: Defect::ALL.map(trouble).into(),
        }
    }
}
