//! Choices for pieces.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_paint::{Dimension, Units};
use warm_blend_piece::{Age, Carving, Form, FormField, Part, PieceKind, Rect, Repair, Stencil, View, Zone};

use crate::MotifChoice;

/// Choices for pieces.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoices {
    /// Kinds of pieces.
    pub kinds: Vec<KindChoice>,
    /// Signs of age.
    pub ages: Vec<PieceChoice>,
    /// Repairs.
    pub repairs: Vec<RepairChoice>,
    /// Motifs of a stencil.
    pub motifs: Vec<MotifChoice>,
    /// Greatest number of colours through one stencil.
    pub stencil_colours: usize,
    /// Carvings, least carved first.
    pub carvings: Vec<CarvingChoice>,
}

/// A carving.
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
    /// A form of the usual size.
    pub usual: Form,
    /// Usual size: `1000 × 900 mm`.
    pub size: String,
    /// Dimensions that this kind has.
    pub asks: Vec<AskChoice>,
    /// Outline of its front.
    pub front: FrontOutline,
}

/// Outline of a front.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct FrontOutline {
    /// Width, mm.
    pub width: f64,
    /// Height, mm.
    pub height: f64,
    /// Left, top, width and height of each part, mm; each part follows the one it is set into.
    pub parts: Vec<[f64; 4]>,
}

impl FrontOutline {
    fn of(form: Form) -> Self {
        // The usual form of a kind can always be built and has a front.
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
    /// True for a number without a unit; the others are in mm.
    pub count: bool,
    /// Least value.
    pub least: f64,
    /// Greatest value.
    pub most: f64,
}

/// A choice with its name.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceChoice {
    /// `wear` …
    pub id: &'static str,
    /// `Wear` …
    pub name: &'static str,
}

/// A repair of a part.
#[derive(Debug, Serialize, ToSchema)]
pub struct RepairChoice {
    /// `strip` …
    pub id: &'static str,
    /// `Strip the old finish` …
    pub name: &'static str,
    /// Parts that can need it.
    pub zones: Vec<&'static str>,
}

impl From<Repair> for RepairChoice {
    fn from(repair: Repair) -> Self {
        let zones = Zone::ALL.into_iter().filter(|zone| repair.applies_to(*zone));
        Self { id: repair.id(), name: repair.name(), zones: zones.map(Zone::id).collect() }
    }
}

impl PieceChoices {
    /// All choices, with sizes in these units.
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
            repairs: Repair::ALL.map(RepairChoice::from).into(),
            motifs: MotifChoice::all(),
            stencil_colours: Stencil::COLOURS,
            carvings: Carving::ALL.map(|carving| CarvingChoice { id: carving, name: carving.name() }).into(),
        }
    }
}
