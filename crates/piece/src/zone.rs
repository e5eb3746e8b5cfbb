//! The parts of a piece as a painter sees them: what is painted alike.

use serde::{Deserialize, Serialize};

/// A zone: everything on a piece that is painted alike unless the painter says otherwise.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Zone {
    /// The top, with its edge.
    Top,
    /// The front of a case: stiles and rails, what is neither door nor drawer.
    Case,
    /// The sides of a case.
    Sides,
    /// Cornice at the top.
    Cornice,
    /// Drawer fronts.
    Drawers,
    /// Doors: their frames.
    Doors,
    /// Panels, framed or sunk.
    Panels,
    /// Mouldings round panels, mouldings by length.
    Mouldings,
    /// The board over the keys of an upright, or a shelf across a case.
    Fall,
    /// Rails below a top or a seat.
    Apron,
    /// Legs and feet.
    Legs,
    /// Plinth.
    Plinth,
    /// A seat.
    Seat,
    /// The back of a chair.
    Back,
    /// The frame of a mirror or picture.
    Frame,
    /// A wall.
    Wall,
    /// Skirting and rails along a wall.
    Skirting,
    /// Knobs and handles.
    Hardware,
    /// What is not painted: glass, an open shelf.
    Unpainted,
}

/// How a surface is shaped: how much of it is recess and edge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Shaping {
    /// Flat, with arrises.
    Flat,
    /// Sunk, with a corner all round.
    Sunk,
    /// Standing out, with a rounded edge all round.
    Raised,
    /// Moulded all round, from the outside in.
    Framing,
    /// Moulded along its length, level by level from the top.
    Running,
    /// Turned or square, standing upright.
    Upright,
    /// Carved in its corners.
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
    /// In the order they are shown.
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

    /// Whose finish is carried round to it, unless it wears its own.
    pub const fn carried_from(self) -> Option<Zone> {
        match self {
            Zone::Sides => Some(Zone::Case),
            _ => None,
        }
    }

    /// False of glass and open shelves: they are no part of the palette.
    pub const fn is_painted(self) -> bool {
        !matches!(self, Zone::Unpainted)
    }
}
