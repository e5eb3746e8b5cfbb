//! Zones of a piece: parts that are painted alike.

use serde::{Deserialize, Serialize};

/// A zone: all parts of a piece that are painted alike unless the painter decides otherwise.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Zone {
    /// The top including its edge.
    Top,
    /// Front of a case: stiles and rails, without doors and drawers.
    Case,
    /// Sides of a case.
    Sides,
    /// Cornice.
    Cornice,
    /// Drawer fronts.
    Drawers,
    /// Door frames.
    Doors,
    /// Panels, framed or sunk.
    Panels,
    /// Mouldings round panels, or by length.
    Mouldings,
    /// The board above the keys of an upright, or a shelf across a case.
    Fall,
    /// Rails below a top or seat.
    Apron,
    /// Legs and feet.
    Legs,
    /// Plinth.
    Plinth,
    /// A seat.
    Seat,
    /// The back of a chair.
    Back,
    /// Frame of a mirror or picture.
    Frame,
    /// A wall.
    Wall,
    /// Skirting and rails along a wall.
    Skirting,
    /// Knobs and handles.
    Hardware,
    /// Glass, an open shelf and anything else that is not painted.
    Unpainted,
}

/// Shape of a surface, which determines its shares of recess and edge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Shaping {
    /// Flat, with arrises only.
    Flat,
    /// Sunk, with an inside corner all round.
    Sunk,
    /// Raised, with a rounded edge all round.
    Raised,
    /// Moulded all round.
    Framing,
    /// Moulded along its length.
    Running,
    /// Turned or square, upright.
    Upright,
    /// Carved in the corners.
    Carved,
    /// Bands of carving along both ends of its shorter side.
    Bands,
    /// Carved all over.
    CarvedAllOver,
    /// A knob.
    Knob,
}

struct Row {
    id: &'static str,
    name: &'static str,
}

impl Zone {
    /// All zones, in the order in which they are shown.
    pub const ALL: [Zone; 19] = [
        Zone::Top,
        Zone::Cornice,
        Zone::Case,
        Zone::Sides,
        Zone::Drawers,
        Zone::Doors,
        Zone::Panels,
        Zone::Mouldings,
        Zone::Fall,
        Zone::Apron,
        Zone::Legs,
        Zone::Plinth,
        Zone::Seat,
        Zone::Back,
        Zone::Frame,
        Zone::Wall,
        Zone::Skirting,
        Zone::Hardware,
        Zone::Unpainted,
    ];

    const fn row(self) -> Row {
        const fn row(id: &'static str, name: &'static str) -> Row {
            Row { id, name }
        }
        match self {
            Zone::Top => row("top", "Top"),
            Zone::Case => row("case", "Case"),
            Zone::Sides => row("sides", "Sides"),
            Zone::Cornice => row("cornice", "Cornice"),
            Zone::Drawers => row("drawers", "Drawer fronts"),
            Zone::Doors => row("doors", "Doors"),
            Zone::Panels => row("panels", "Panels"),
            Zone::Mouldings => row("mouldings", "Mouldings"),
            Zone::Fall => row("fall", "Fall and shelf"),
            Zone::Apron => row("apron", "Rails"),
            Zone::Legs => row("legs", "Legs"),
            Zone::Plinth => row("plinth", "Plinth"),
            Zone::Seat => row("seat", "Seat"),
            Zone::Back => row("back", "Back"),
            Zone::Frame => row("frame", "Frame"),
            Zone::Wall => row("wall", "Wall"),
            Zone::Skirting => row("skirting", "Skirting and rail"),
            Zone::Hardware => row("hardware", "Hardware"),
            Zone::Unpainted => row("unpainted", "Not painted"),
        }
    }

    /// `drawers` …
    pub const fn id(self) -> &'static str {
        self.row().id
    }

    /// `Drawer fronts` …
    pub const fn name(self) -> &'static str {
        self.row().name
    }

    /// Zone from which a finish is carried round to this one, unless it wears its own.
    pub const fn carried_from(self) -> Option<Zone> {
        match self {
            Zone::Sides => Some(Zone::Case),
            _ => None,
        }
    }

    /// False for glass and open shelves, which are not part of the palette.
    pub const fn is_painted(self) -> bool {
        !matches!(self, Zone::Unpainted)
    }
}
