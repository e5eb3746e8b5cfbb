//! Choices for boards.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::{Defect, Deposit, Grit, GroundKind, Motif, Technique, Template};

/// Choices for boards.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardChoices {
    /// Techniques.
    pub techniques: Vec<TechniqueChoice>,
    /// Grounds.
    pub grounds: Vec<GroundChoice>,
    /// Ready finishes.
    pub templates: Vec<TemplateChoice>,
    /// Defects.
    pub troubles: Vec<TroubleChoice>,
}

/// A defect of a board.
#[derive(Debug, Serialize, ToSchema)]
pub struct TroubleChoice {
    /// `too-dark` …
    pub id: Defect,
    /// `Too dark` …
    pub name: &'static str,
}

/// A ready finish.
#[derive(Debug, Serialize, ToSchema)]
pub struct TemplateChoice {
    /// `aged` …
    pub id: &'static str,
    /// `Glazed, dry-brushed and rubbed` …
    pub name: &'static str,
    /// What it suits.
    pub note: &'static str,
}

/// A technique.
#[derive(Debug, Serialize, ToSchema)]
pub struct TechniqueChoice {
    /// `glaze-wiped` …
    pub id: &'static str,
    /// `Glaze, wiped` …
    pub name: &'static str,
    /// True if it is wiped, more or less firmly.
    pub wiped: bool,
    /// True if it takes paint away.
    pub takes_away: bool,
    /// True if it needs a pot.
    pub needs_pot: bool,
    /// Usual deposit.
    pub usual: Deposit,
    /// Usual texture, µm from tip to hollow; absent if it has none of its own.
    pub texture_um: Option<f64>,
    /// Possible grits, coarse to fine; empty if it needs no paper, or works with any.
    pub grits: Vec<Grit>,
    /// Usual grit.
    pub usual_grit: Option<Grit>,
    /// True if it can be worked into the layer below while that is wet.
    pub goes_wet: bool,
    /// True if it usually is.
    pub usually_wet: bool,
    /// Motifs of a stencil, the usual one first; otherwise empty.
    pub motifs: Vec<MotifChoice>,
}

/// A motif of a stencil.
#[derive(Debug, Serialize, ToSchema)]
pub struct MotifChoice {
    /// `clover` …
    pub id: &'static str,
    /// `Clover` …
    pub name: &'static str,
    /// True if it has petals, which can have colours of their own.
    pub petals: bool,
}

impl MotifChoice {
    /// All motifs, the usual one first.
    pub fn all() -> Vec<Self> {
        let mut all = Motif::ALL;
        all.sort_by_key(|motif| *motif != Motif::default());
        all.map(|motif| Self { id: motif.id(), name: motif.name(), petals: motif.petal(0.0, 0.0).is_some() })
            .into()
    }
}

/// A ground.
#[derive(Debug, Serialize, ToSchema)]
pub struct GroundChoice {
    /// `pale-wood` …
    pub id: GroundKind,
    /// `Bare wood, pale` …
    pub name: &'static str,
    /// Assumed colour in daylight.
    pub hex: String,
}

impl BoardChoices {
    /// All choices.
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
            motifs: if technique.is_a_pattern() { MotifChoice::all() } else { Vec::new() },
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
