//! A piece from a few dimensions.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_paint::{Dimension, Units};

/// What is drawn.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::VariantArray)]
#[serde(rename_all = "kebab-case")]
pub enum PieceKind {
    /// Drawers one above the other.
    ChestOfDrawers,
    /// Doors under a cornice.
    Cupboard,
    /// Drawers over doors, long and low.
    Sideboard,
    /// One drawer over an open shelf.
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
    /// A frame round a mirror or a picture.
    Frame,
    /// A wall, or a run of panels on one.
    Wall,
    /// A moulding or a cornice by length.
    Moulding,
}

/// A dimension that can be asked for.
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
    /// Drawers beside each other.
    Across,
    /// Doors beside each other.
    Doors,
    /// Panels: of each door one above the other, of a case or a wall beside each other.
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
    /// What it is: see `/api/piece/choices`.
    #[cfg_attr(feature = "schema", schema(value_type = String))]
    pub kind: PieceKind,
    /// mm.
    pub width: f64,
    /// mm.
    pub height: f64,
    /// mm.
    pub depth: f64,
    /// Rows of drawers.
    pub drawers: u32,
    /// Drawers beside each other.
    pub across: u32,
    /// Doors beside each other.
    pub doors: u32,
    /// Panels.
    pub panels: u32,
    /// Width of the moulding round a panel, mm; 0 for none.
    pub moulding: f64,
    /// Height of the legs, mm; 0 for a plinth.
    pub legs: f64,
    /// True where panels, drawer fronts or the frame are carved.
    #[serde(default)]
    pub carved: bool,
    /// True where panels or the frame have a round top, or the top of a table is oval.
    #[serde(default)]
    pub round: bool,
}

/// A form that cannot be built.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[error("{message}")]
pub struct BadForm {
    /// Which dimension: `width` …
    pub field: &'static str,
    /// What is wrong, and what would do.
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
    /// In the order they are offered.
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

    /// Which dimensions count.
    pub const fn asks(self) -> &'static [FormField] {
        self.row().asks
    }

    /// One of the usual size.
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

    /// What it is called in a form of that kind.
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

    /// True of a number without a unit.
    pub const fn is_count(self) -> bool {
        matches!(self, FormField::Drawers | FormField::Across | FormField::Doors | FormField::Panels)
    }

    /// Least and most: mm, or how many.
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

    /// What a form says of it: mm, or a number.
    pub fn of(self, form: &Form) -> f64 {
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
    /// That every dimension asked for is one that such a piece can have.
    pub(super) fn check(&self) -> Result<(), BadForm> {
        for asks in self.kind.asks() {
            let (value, (least, most)) = (asks.of(self), asks.range());
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
