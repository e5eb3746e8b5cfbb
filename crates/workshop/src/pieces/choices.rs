//! What pieces are made of.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Dimension, Units};
use warm_blend_piece::{Age, Carving, Form, FormField, Part, PieceKind, Rect, View};

use crate::MotifChoice;

/// What pieces are made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoices {
    /// Kinds of pieces.
    pub kinds: Vec<KindChoice>,
    /// Kinds of ageing.
    pub ages: Vec<PieceChoice>,
    /// Motifs of a stencil.
    pub motifs: Vec<MotifChoice>,
    /// How carved a zone can be, from the least to the most.
    pub carvings: Vec<CarvingChoice>,
}

/// How carved a zone can be.
#[derive(Debug, Serialize, ToSchema)]
pub struct CarvingChoice {
    /// `all-over` …
    pub id: Carving,
    /// `Carved all over` …
    pub name: &'static str,
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
    /// Its front, mm: the size of it, and left, upper edge, width and height of each part, each after the one it is set into.
    pub front: FrontOutline,
}

/// A front in outline.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct FrontOutline {
    /// mm.
    pub width: f64,
    /// mm.
    pub height: f64,
    /// Left, upper edge, width and height of each part, mm.
    pub parts: Vec<[f64; 4]>,
}

impl FrontOutline {
    fn of(form: Form) -> Self {
        // The usual form of a kind can be built, and every piece has a front.
        let Ok(elevation) = form.build() else { return Self::default() };
        let Some(front) = elevation.face(View::Front) else { return Self::default() };
        let part = |Part { rect: Rect { x, y, w, h }, .. }: &Part| [*x, *y, *w, *h];
        Self { width: front.width, height: front.height, parts: front.parts.iter().map(part).collect() }
    }
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
            front: FrontOutline::of(kind.usual()),
        };
        Self {
            kinds: PieceKind::ALL.map(kind).into(),
            ages: Age::ALL.map(|age| PieceChoice { id: age.id(), name: age.name() }).into(),
            motifs: MotifChoice::all(),
            carvings: Carving::ALL.map(|carving| CarvingChoice { id: carving, name: carving.name() }).into(),
        }
    }
}
