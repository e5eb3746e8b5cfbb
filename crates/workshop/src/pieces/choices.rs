//! What pieces are made of.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Dimension, Units};
use warm_blend_piece::{Age, Form, FormField, Motif, PieceKind};

/// What pieces are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoices {
    /// Kinds of pieces.
    pub kinds: Vec<KindChoice>,
    /// Kinds of ageing.
    pub ages: Vec<PieceChoice>,
    /// Motifs of a stencil.
    pub motifs: Vec<PieceChoice>,
}

/// A kind of piece.
#[derive(Debug, Serialize, ToSchema)]
pub struct KindChoice {
    /// `chest-of-drawers` …
    pub id: &'static str,
    /// `Chest of drawers` …
    pub name: &'static str,
    /// One of the usual size.
    pub usual: Form,
    /// How large it usually is: `1000 × 900 mm`.
    pub size: String,
    /// The dimensions that count.
    pub asks: Vec<AskChoice>,
}

/// A dimension.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskChoice {
    /// `width` …
    pub id: &'static str,
    /// `Width` …
    pub name: &'static str,
    /// True of a number without a unit; the others are mm.
    pub count: bool,
    /// Least.
    pub least: f64,
    /// Most.
    pub most: f64,
}

/// Something to choose by its name.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoice {
    /// `wear` …
    pub id: &'static str,
    /// `Wear` …
    pub name: &'static str,
}

impl PieceChoices {
    /// All there is, with sizes in some units.
    pub fn all(units: Units) -> Self {
        let size = |Form { width, height, .. }: Form| {
            format!("{} × {}", units.number(Dimension::Length, width), units.say(Dimension::Length, height))
        };
        let ask = |asks: &FormField| {
            let (least, most) = asks.range();
            AskChoice { id: asks.id(), name: asks.name(), count: asks.is_count(), least, most }
        };
        let kind = |kind: PieceKind| KindChoice {
            size: size(kind.usual()),
            id: kind.id(),
            name: kind.name(),
            usual: kind.usual(),
            asks: kind.asks().iter().map(ask).collect(),
        };
        Self {
            kinds: PieceKind::ALL.map(kind).into(),
            ages: Age::ALL.map(|age| PieceChoice { id: age.id(), name: age.name() }).into(),
            motifs: Motif::ALL.map(|motif| PieceChoice { id: motif.id(), name: motif.name() }).into(),
        }
    }
}
