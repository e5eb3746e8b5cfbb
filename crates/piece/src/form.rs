//! Kinds of piece and their dimensions.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_paint::{Dimension, Units};

/// A kind of piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum PieceKind {
    /// Drawers one above another.
    ChestOfDrawers,
    /// Doors below a cornice.
    Cupboard,
    /// Drawers above doors, long and low.
    Sideboard,
    /// A drawer above an open shelf.
    BedSide,
    /// A box with a lid.
    Chest,
    /// An upright case: panels above and below a fall.
    UprightCase,
    /// A table.
    Table,
    /// A chair.
    Chair,
    /// A stool.
    Stool,
    /// A frame of a mirror or picture.
    Frame,
    /// A wall, or a run of panels on one.
    Wall,
    /// A moulding or cornice by length.
    Moulding,
}

/// A dimension of a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
pub enum FormField {
    /// Width, mm.
    Width,
    /// Height, mm.
    Height,
    /// Depth, mm.
    Depth,
    /// Rows of drawers.
    Drawers,
    /// Drawers side by side.
    Across,
    /// Doors side by side.
    Doors,
    /// Panels: one above another on each door, side by side on a case or wall.
    Panels,
    /// Width of the moulding round a panel, mm; 0 for none.
    Moulding,
    /// Height of the legs, mm; 0 for a plinth.
    Legs,
}

/// The dimensions of a piece. What its kind does not ask for does not count.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(example = json!({"kind": "chest-of-drawers", "width": 1000.0, "height": 900.0,
    "depth": 480.0, "drawers": 4, "across": 1, "doors": 2, "panels": 2, "moulding": 28.0, "legs": 0.0})))]
pub struct Form {
    /// Kind: see `/api/piece/choices`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub kind: PieceKind,
    /// Width, mm.
    pub width: f64,
    /// Height, mm.
    pub height: f64,
    /// Depth, mm.
    pub depth: f64,
    /// Rows of drawers.
    pub drawers: u32,
    /// Drawers side by side.
    pub across: u32,
    /// Doors side by side.
    pub doors: u32,
    /// Panels.
    pub panels: u32,
    /// Width of the moulding round a panel, mm; 0 for none.
    pub moulding: f64,
    /// Height of the legs, mm; 0 for a plinth.
    pub legs: f64,
    /// True if panels, drawer fronts or the frame are carved.
    #[serde(default)]
    pub carved: bool,
    /// True if panels or the frame have a round top, or if the table top is oval.
    #[serde(default)]
    pub round: bool,
}

/// A form that cannot be built.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{message}")]
pub struct BadForm {
    /// The dimension: `width` …
    pub field: &'static str,
    /// Problem and remedy.
    pub message: String,
}

impl BadForm {
    pub(super) fn new(field: &'static str, message: impl Into<String>) -> Self {
        Self { field, message: message.into() }
    }
}

struct Row {
    id: &'static str,
    name: &'static str,
    asks: &'static [FormField],
    usual: [f64; 3],
}

impl PieceKind {
    /// All kinds, in the order in which they are offered.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Usual sizes are common practice†.
    const fn row(self) -> Row {
        use FormField::{Across, Depth, Doors, Drawers, Height, Legs, Moulding, Panels, Width};
        const fn row(
            id: &'static str,
            name: &'static str,
            usual: [f64; 3],
            asks: &'static [FormField],
        ) -> Row {
            Row { id, name, asks, usual }
        }
        match self {
            PieceKind::ChestOfDrawers => row(
                "chest-of-drawers",
                "Chest of drawers",
                [1000.0, 900.0, 480.0],
                &[Width, Height, Depth, Drawers, Across, Legs],
            ),
            PieceKind::Cupboard => row(
                "cupboard",
                "Cupboard",
                [1200.0, 1900.0, 500.0],
                &[Width, Height, Depth, Doors, Panels, Moulding, Legs],
            ),
            PieceKind::Sideboard => row(
                "sideboard",
                "Sideboard",
                [1600.0, 850.0, 450.0],
                &[Width, Height, Depth, Across, Doors, Panels, Moulding, Legs],
            ),
            PieceKind::BedSide => row(
                "bed-side",
                "Bedside cabinet",
                [450.0, 620.0, 380.0],
                &[Width, Height, Depth, Drawers, Legs],
            ),
            PieceKind::Chest => {
                row("chest", "Chest", [1100.0, 520.0, 500.0], &[Width, Height, Depth, Panels, Moulding, Legs])
            }
            PieceKind::UprightCase => row(
                "upright-case",
                "Upright case with panels",
                [1480.0, 1260.0, 620.0],
                &[Width, Height, Depth, Panels, Moulding],
            ),
            PieceKind::Table => row("table", "Table", [1600.0, 760.0, 850.0], &[Width, Height, Depth]),
            PieceKind::Chair => row("chair", "Chair", [450.0, 950.0, 440.0], &[Width, Height, Depth]),
            PieceKind::Stool => row("stool", "Stool", [520.0, 500.0, 380.0], &[Width, Height, Depth]),
            PieceKind::Frame => {
                row("frame", "Frame or mirror", [700.0, 1000.0, 30.0], &[Width, Height, Moulding])
            }
            PieceKind::Wall => {
                row("wall", "Wall or panel run", [3600.0, 2500.0, 20.0], &[Width, Height, Panels, Moulding])
            }
            PieceKind::Moulding => {
                row("moulding", "Moulding or cornice", [2400.0, 120.0, 60.0], &[Width, Height])
            }
        }
    }

    /// `chest-of-drawers` …
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// `Chest of drawers` …
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Dimensions that this kind has.
    pub const fn asks(self) -> &'static [FormField] {
        self.row().asks
    }

    /// A form of this kind in the usual size.
    pub const fn usual(self) -> Form {
        let [width, height, depth] = self.row().usual;
        let on_legs = matches!(self, PieceKind::Sideboard | PieceKind::BedSide);
        Form {
            kind: self,
            width,
            height,
            depth,
            drawers: if matches!(self, PieceKind::BedSide) { 1 } else { 4 },
            across: if matches!(self, PieceKind::Sideboard) { 3 } else { 1 },
            doors: if matches!(self, PieceKind::Sideboard) { 3 } else { 2 },
            panels: if matches!(self, PieceKind::Sideboard) { 1 } else { 2 },
            moulding: if matches!(self, PieceKind::Frame) { 80.0 } else { 28.0 },
            legs: if on_legs { 160.0 } else { 0.0 },
            carved: false,
            round: false,
        }
    }
}

impl FormField {
    /// `width` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Name of the dimension for a kind of piece.
    pub const fn name(self) -> &'static str {
        match self {
            FormField::Width => "Width",
            FormField::Height => "Height",
            FormField::Depth => "Depth",
            FormField::Drawers => "Rows of drawers",
            FormField::Across => "Drawers per row",
            FormField::Doors => "Doors",
            FormField::Panels => "Panels",
            FormField::Moulding => "Panel moulding",
            FormField::Legs => "Legs",
        }
    }

    /// True for a plain number without a unit.
    pub const fn is_count(self) -> bool {
        matches!(self, FormField::Drawers | FormField::Across | FormField::Doors | FormField::Panels)
    }

    /// Range, in mm or as a number.
    pub const fn range(self) -> (f64, f64) {
        match self {
            FormField::Width => (150.0, 8000.0),
            FormField::Height => (60.0, 4000.0),
            FormField::Depth => (10.0, 2000.0),
            FormField::Drawers => (1.0, 12.0),
            FormField::Across => (1.0, 6.0),
            FormField::Doors => (1.0, 6.0),
            FormField::Panels => (1.0, 8.0),
            FormField::Moulding => (0.0, 300.0),
            FormField::Legs => (0.0, 900.0),
        }
    }

    /// Value in a form, in mm or as a number.
    pub fn value_in(self, form: &Form) -> f64 {
        match self {
            FormField::Width => form.width,
            FormField::Height => form.height,
            FormField::Depth => form.depth,
            FormField::Drawers => f64::from(form.drawers),
            FormField::Across => f64::from(form.across),
            FormField::Doors => f64::from(form.doors),
            FormField::Panels => f64::from(form.panels),
            FormField::Moulding => form.moulding,
            FormField::Legs => form.legs,
        }
    }
}

impl Form {
    /// Checks every dimension that the kind has.
    pub(super) fn check(&self) -> Result<(), BadForm> {
        for asks in self.kind.asks() {
            let (value, (least, most)) = (asks.value_in(self), asks.range());
            if !(least..=most).contains(&value) {
                let said = |units: Units, mm: f64| units.say(Dimension::Length, mm);
                let (shown, range) = if asks.is_count() {
                    (value.to_string(), format!("{least} to {most}"))
                } else {
                    let [metric, imperial] = [Units::Metric, Units::Imperial].map(|units| {
                        format!("{} to {}", units.number(Dimension::Length, least), said(units, most))
                    });
                    (said(Units::Metric, value), format!("{metric} ({imperial})"))
                };
                let shown = if value.is_finite() { shown } else { "not a number".to_owned() };
                let message =
                    format!("{shown} is out of range; {} can be {range}", asks.name().to_lowercase());
                return Err(BadForm::new(asks.id(), message));
            }
        }
        Ok(())
    }
}
