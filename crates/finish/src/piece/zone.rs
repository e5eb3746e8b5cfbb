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
    /// Carved.
    Carved,
    /// A knob.
    Knob,
}

struct Row {
    id: &'static str,
    name: &'static str,
    rank: Rank,
}

/// What a zone is to the eye: where it should stand in depth.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Rank {
    /// What the rest is seen against.
    Main,
    /// What is set into it.
    Set,
    /// What frames and lines it.
    Trim,
    /// Small things.
    Detail,
    /// Not of the palette.
    None,
}

impl Zone {
    /// In the order they are told.
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
        const fn row(id: &'static str, name: &'static str, rank: Rank) -> Row {
            Row { id, name, rank }
        }
        match self {
            Zone::Top => row("top", "Top", Rank::Set),
            Zone::Case => row("case", "Case", Rank::Main),
            Zone::Sides => row("sides", "Sides", Rank::Main),
            Zone::Cornice => row("cornice", "Cornice", Rank::Trim),
            Zone::Drawers => row("drawers", "Drawer fronts", Rank::Set),
            Zone::Doors => row("doors", "Doors", Rank::Main),
            Zone::Panels => row("panels", "Panels", Rank::Set),
            Zone::Mouldings => row("mouldings", "Mouldings", Rank::Trim),
            Zone::Fall => row("fall", "Fall and shelf", Rank::Set),
            Zone::Apron => row("apron", "Rails", Rank::Main),
            Zone::Legs => row("legs", "Legs", Rank::Main),
            Zone::Plinth => row("plinth", "Plinth", Rank::Trim),
            Zone::Seat => row("seat", "Seat", Rank::Set),
            Zone::Back => row("back", "Back", Rank::Main),
            Zone::Frame => row("frame", "Frame", Rank::Main),
            Zone::Wall => row("wall", "Wall", Rank::Main),
            Zone::Skirting => row("skirting", "Skirting and rail", Rank::Trim),
            Zone::Hardware => row("hardware", "Hardware", Rank::Detail),
            Zone::Unpainted => row("unpainted", "Not painted", Rank::None),
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

    /// What it is to the eye†.
    pub const fn rank(self) -> Rank {
        self.row().rank
    }

    /// Of an id.
    pub fn find(id: &str) -> Option<Zone> {
        Zone::ALL.into_iter().find(|zone| zone.id() == id)
    }
}
