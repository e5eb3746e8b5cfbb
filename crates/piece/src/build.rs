//! Builds elevations of the kinds of piece from a few dimensions.
//!
//! Thicknesses of boards, rails and stiles are common practice† and defined together below.

use super::elevation::{Elevation, Face, Outline, Part, Rect, View};
use super::form::{BadForm, Form, PieceKind};
use super::{Shaping, Zone};

/// How thick a top is, mm†.
const TOP: f64 = 24.0;
/// By how much it stands out at each side, mm†.
const OVERHANG: f64 = 12.0;
/// Width of stiles and rails of a case, and of the rails between drawers, mm†.
const STILE: f64 = 38.0;
const RAIL: f64 = 18.0;
/// Width of stiles and rails of a door, mm†.
const DOOR_STILE: f64 = 70.0;
/// Height of a plinth and of a cornice, mm†.
const PLINTH: f64 = 90.0;
const CORNICE: f64 = 85.0;
/// Side of a leg, mm†.
const LEG: f64 = 48.0;
/// Height of rails below a top or a seat, mm†.
const APRON: f64 = 95.0;
/// How thick a frame is, mm†.
const FRAME: f64 = 30.0;
/// Diameter of a knob, mm†.
const KNOB: f64 = 34.0;
/// The lowest drawer and the narrowest door, panel or frame that can be made, mm.
const LOWEST_DRAWER: f64 = 60.0;
const NARROWEST: f64 = 60.0;
/// Drawers wider than this have two knobs, mm†.
const TWO_KNOBS: f64 = 420.0;
/// By how much a cornice stands out, mm†.
const CORNICE_OUT: f64 = 45.0;
/// How far the shelf of an upright case and the legs below it stand before its panels, and the fall over it, as shares of its
/// depth†.
const SHELF_OUT: f64 = 0.36;
const FALL_OUT: f64 = 0.24;

/// A face in the making.
struct Sheet(Face);

impl Sheet {
    fn new(view: View, (width, height): (f64, f64), behind: f64, times: u32) -> Self {
        Self(Face { view, width, height, behind, times, parts: Vec::new() })
    }

    fn put(&mut self, zone: Zone, shaping: Shaping, rect: Rect, on: Option<usize>) -> usize {
        self.shaped(zone, shaping, rect, Outline::Square, on)
    }

    fn shaped(
        &mut self,
        zone: Zone,
        shaping: Shaping,
        rect: Rect,
        outline: Outline,
        on: Option<usize>,
    ) -> usize {
        let forward = on.map_or(0.0, |on| self.0.parts[on].forward);
        self.0.parts.push(Part { zone, rect, outline, shaping, rim: 0.0, on, forward });
        self.0.parts.len() - 1
    }

    /// The part that was put on last stands so far before what it is set into, mm.
    fn forward(&mut self, by: f64) {
        if let Some(part) = self.0.parts.last_mut() {
            part.forward += by;
        }
    }

    fn framing(&mut self, zone: Zone, rim: f64, rect: Rect, outline: Outline, on: Option<usize>) -> usize {
        let at = self.shaped(zone, Shaping::Framing, rect, outline, on);
        self.0.parts[at].rim = rim;
        at
    }

    fn knob(&mut self, x: f64, y: f64, on: usize) {
        let rect = Rect { x: x - KNOB / 2.0, y: y - KNOB / 2.0, w: KNOB, h: KNOB };
        self.shaped(Zone::Hardware, Shaping::Knob, rect, Outline::Oval, Some(on));
    }

    /// A panel in its moulding, set into a part.
    fn panel(&mut self, form: &Form, rect: Rect, on: usize) -> Result<(), BadForm> {
        let wanted = 2.0 * form.moulding + NARROWEST / 2.0;
        if rect.w < wanted || rect.h < wanted {
            return Err(BadForm::new(
                "moulding",
                format!(
                    "a {:.0} × {:.0} mm panel has no room for a {:.0} mm moulding; use a narrower one or fewer panels",
                    rect.w, rect.h, form.moulding
                ),
            ));
        }
        let outline = if form.round && rect.h > rect.w { Outline::RoundTop } else { Outline::Square };
        let framed = (form.moulding > 0.0)
            .then(|| self.framing(Zone::Mouldings, form.moulding, rect, outline, Some(on)));
        let shaping = if form.carved { Shaping::Carved } else { Shaping::Sunk };
        self.shaped(Zone::Panels, shaping, rect.inset(form.moulding), outline, Some(framed.unwrap_or(on)));
        Ok(())
    }
}

/// A board on four legs.
struct OnLegs {
    /// What the board is.
    zone: Zone,
    /// Where its upper side is, mm from the top, and how thick it is.
    at: f64,
    thick: f64,
    /// By how much it stands out over the legs, mm.
    overhang: f64,
    /// Height of the rails below it, mm.
    apron: f64,
}

/// So many equal lengths with gaps between them, in a length: where each begins, and how long it is.
fn divided(length: f64, n: u32, gap: f64) -> (Vec<f64>, f64) {
    let n = f64::from(n.max(1));
    let each = (length - (n - 1.0) * gap) / n;
    ((0..n as usize).map(|i| i as f64 * (each + gap)).collect(), each)
}

impl Form {
    /// Builds the piece in true proportion.
    pub fn build(&self) -> Result<Elevation, BadForm> {
        self.check()?;
        let faces = match self.kind {
            PieceKind::ChestOfDrawers
            | PieceKind::Cupboard
            | PieceKind::Sideboard
            | PieceKind::BedSide
            | PieceKind::Chest
            | PieceKind::UprightCase => self.case()?,
            PieceKind::Table => self.table()?,
            PieceKind::Chair | PieceKind::Stool => self.seat()?,
            PieceKind::Frame => vec![self.frame()?],
            PieceKind::Wall => vec![self.wall()?],
            PieceKind::Moulding => {
                let mut front = Sheet::new(View::Front, (self.width, self.height), 0.0, 1);
                front.put(Zone::Mouldings, Shaping::Running, whole(self.width, self.height), None);
                vec![front.0]
            }
        };
        Ok(Elevation { faces })
    }

    /// A case: front, both sides and the top.
    fn case(&self) -> Result<Vec<Face>, BadForm> {
        let (w, h, d) = (self.width, self.height, self.depth);
        let has_cornice = self.kind == PieceKind::Cupboard;
        let top = if has_cornice { CORNICE } else { TOP };
        let legs = if self.kind == PieceKind::UprightCase { 0.0 } else { self.legs };
        let foot = if legs > 0.0 { legs } else { PLINTH };
        let body = h - top - foot;
        if body < 2.0 * STILE + LOWEST_DRAWER {
            return Err(BadForm::new(
                if legs > 0.0 { "legs" } else { "height" },
                format!(
                    "{foot:.0} mm of leg and {top:.0} mm of top leave a {body:.0} mm case; make it taller or the legs shorter"
                ),
            ));
        }
        let inner = w - 2.0 * OVERHANG;
        let mut front = Sheet::new(View::Front, (w, h), d, 1);
        head(&mut front, has_cornice, Rect { x: 0.0, y: 0.0, w, h: top });
        let case =
            front.put(Zone::Case, Shaping::Flat, Rect { x: OVERHANG, y: top, w: inner, h: body }, None);
        feet(&mut front, legs, Rect { x: OVERHANG, y: top + body, w: inner, h: foot });
        let room = Rect { x: OVERHANG, y: top, w: inner, h: body }.inset(STILE);
        match self.kind {
            PieceKind::ChestOfDrawers => self.drawers_in(&mut front, room, self.drawers, case)?,
            PieceKind::BedSide => {
                let drawers = f64::from(self.drawers) * 150.0;
                let drawers = Rect { h: drawers.min(room.h - RAIL - LOWEST_DRAWER), ..room };
                self.drawers_in(&mut front, drawers, self.drawers, case)?;
                let open = Rect { y: room.y + drawers.h + RAIL, h: room.h - drawers.h - RAIL, ..room };
                front.put(Zone::Unpainted, Shaping::Sunk, open, Some(case));
            }
            PieceKind::Sideboard => {
                let drawers = Rect { h: (0.25 * room.h).max(LOWEST_DRAWER), ..room };
                self.drawers_in(&mut front, drawers, 1, case)?;
                let doors = Rect { y: room.y + drawers.h + RAIL, h: room.h - drawers.h - RAIL, ..room };
                self.doors_in(&mut front, doors, case)?;
            }
            PieceKind::Cupboard => self.doors_in(&mut front, room, case)?,
            PieceKind::Chest => self.panels_beside(&mut front, room, self.panels, case)?,
            _ => self.upright(&mut front, room, case)?,
        }

        let mut side = Sheet::new(View::Side, (d, h), w, 2);
        head(&mut side, has_cornice, Rect { x: 0.0, y: 0.0, w: d, h: top });
        side.put(Zone::Sides, Shaping::Flat, Rect { x: 0.0, y: top, w: d, h: body }, None);
        feet(&mut side, legs, Rect { x: 0.0, y: top + body, w: d, h: foot });
        Ok(vec![front.0, side.0, self.above(Zone::Top, false)])
    }

    fn drawers_in(&self, front: &mut Sheet, room: Rect, rows: u32, on: usize) -> Result<(), BadForm> {
        let (rows_at, high) = divided(room.h, rows, RAIL);
        let (columns, wide) = divided(room.w, self.across, RAIL);
        if high < LOWEST_DRAWER {
            return Err(BadForm::new(
                "drawers",
                format!(
                    "{rows} rows give {:.0} mm drawers, under the {LOWEST_DRAWER} mm minimum; use fewer rows or a taller case",
                    high.max(0.0)
                ),
            ));
        }
        if wide < 2.0 * NARROWEST {
            return Err(BadForm::new(
                "across",
                format!(
                    "{} would be only {:.0} mm wide; use fewer, or a wider case",
                    if self.across == 1 {
                        "1 drawer".to_owned()
                    } else {
                        format!("{} drawers side by side, each", self.across)
                    },
                    wide.max(0.0)
                ),
            ));
        }
        for y in rows_at {
            for x in &columns {
                let rect = Rect { x: room.x + x, y: room.y + y, w: wide, h: high };
                let shaping = if self.carved { Shaping::Carved } else { Shaping::Raised };
                let drawer = front.put(Zone::Drawers, shaping, rect, Some(on));
                let middle = rect.y + rect.h / 2.0;
                if wide > TWO_KNOBS {
                    front.knob(rect.x + 0.22 * wide, middle, drawer);
                    front.knob(rect.x + 0.78 * wide, middle, drawer);
                } else {
                    front.knob(rect.x + 0.5 * wide, middle, drawer);
                }
            }
        }
        Ok(())
    }

    fn doors_in(&self, front: &mut Sheet, room: Rect, on: usize) -> Result<(), BadForm> {
        let (at, wide) = divided(room.w, self.doors, 4.0);
        let frame = 2.0 * DOOR_STILE + NARROWEST;
        if wide < frame || room.h < frame {
            return Err(BadForm::new(
                "doors",
                format!(
                    "{} doors would be {:.0} × {:.0} mm each, under the {frame:.0} mm minimum; use fewer doors or a larger case",
                    self.doors,
                    wide.max(0.0),
                    room.h
                ),
            ));
        }
        for (n, x) in at.iter().enumerate() {
            let rect = Rect { x: room.x + x, w: wide, ..room };
            let door = front.put(Zone::Doors, Shaping::Raised, rect, Some(on));
            let inner = rect.inset(DOOR_STILE);
            let (rows, high) = divided(inner.h, self.panels, DOOR_STILE);
            if high < NARROWEST {
                return Err(BadForm::new(
                    "panels",
                    format!(
                        "{} panels per door would be only {:.0} mm high each; use fewer",
                        self.panels,
                        high.max(0.0)
                    ),
                ));
            }
            for y in rows {
                front.panel(self, Rect { y: inner.y + y, h: high, ..inner }, door)?;
            }
            // Knobs of a pair of doors face each other.
            let left = n % 2 == 1;
            let x = if left { rect.x + DOOR_STILE / 2.0 } else { rect.x + wide - DOOR_STILE / 2.0 };
            front.knob(x, rect.y + rect.h / 2.0, door);
        }
        Ok(())
    }

    fn panels_beside(&self, front: &mut Sheet, room: Rect, panels: u32, on: usize) -> Result<(), BadForm> {
        let (at, wide) = divided(room.w, panels, STILE);
        if wide < NARROWEST || room.h < NARROWEST {
            return Err(BadForm::new(
                "panels",
                format!(
                    "{panels} panels would be only {:.0} × {:.0} mm each; use fewer, or a larger case",
                    wide.max(0.0),
                    room.h.max(0.0)
                ),
            ));
        }
        for x in at {
            front.panel(self, Rect { x: room.x + x, w: wide, ..room }, on)?;
        }
        Ok(())
    }

    /// Panels above the fall, the fall, the shelf, panels below between two legs.
    fn upright(&self, front: &mut Sheet, room: Rect, case: usize) -> Result<(), BadForm> {
        let upper = Rect { h: 0.36 * room.h, ..room };
        let fall = Rect { y: upper.y + upper.h + STILE / 2.0, h: 0.13 * room.h, ..room };
        let shelf = Rect { y: fall.y + fall.h, h: 0.055 * room.h, ..room };
        let below = shelf.y + shelf.h;
        let lower = Rect { y: below + STILE / 2.0, h: room.y + room.h - below - STILE / 2.0, ..room };
        self.panels_beside(front, upper, self.panels, case)?;
        front.put(Zone::Fall, Shaping::Raised, fall, Some(case));
        front.forward(FALL_OUT * self.depth);
        front.put(Zone::Fall, Shaping::Running, shelf, Some(case));
        front.forward(SHELF_OUT * self.depth);
        let leg = |x| Rect { x, w: 1.6 * LEG, ..lower };
        for x in [lower.x, lower.x + lower.w - 1.6 * LEG] {
            front.put(Zone::Legs, Shaping::Upright, leg(x), Some(case));
            front.forward(SHELF_OUT * self.depth - STILE);
        }
        let between =
            Rect { x: lower.x + 1.6 * LEG + STILE, w: lower.w - 2.0 * (1.6 * LEG + STILE), ..lower };
        self.panels_beside(front, between, self.panels.saturating_sub(1).max(1), case)
    }

    fn table(&self) -> Result<Vec<Face>, BadForm> {
        let on_legs = OnLegs { zone: Zone::Top, at: 0.0, thick: TOP, overhang: 2.0 * OVERHANG, apron: APRON };
        let (front, side) = self.on_legs(&on_legs)?;
        Ok(vec![front.0, side.0, self.above(Zone::Top, self.round)])
    }

    fn seat(&self) -> Result<Vec<Face>, BadForm> {
        /// How thick a seat is, mm†.
        const THICK: f64 = 32.0;
        let chair = self.kind == PieceKind::Chair;
        let at = if chair { 0.52 * self.height } else { 0.0 };
        let on_legs = OnLegs { zone: Zone::Seat, at, thick: THICK, overhang: OVERHANG, apron: 0.7 * APRON };
        let (mut front, mut side) = self.on_legs(&on_legs)?;
        if chair {
            let back = Rect { x: OVERHANG, y: 0.0, w: self.width - 2.0 * OVERHANG, h: at };
            let frame = front.put(Zone::Back, Shaping::Flat, back, None);
            front.forward(LEG - self.depth);
            let shaping = if self.carved { Shaping::Carved } else { Shaping::Sunk };
            front.put(Zone::Panels, shaping, back.inset(STILE), Some(frame));
            let post = Rect { x: self.depth - LEG, y: 0.0, w: LEG, h: at };
            side.put(Zone::Back, Shaping::Upright, post, None);
        }
        Ok(vec![front.0, side.0, self.above(Zone::Seat, self.round && !chair)])
    }

    /// A board on four legs from the front and from the side, each twice.
    fn on_legs(&self, of: &OnLegs) -> Result<(Sheet, Sheet), BadForm> {
        let OnLegs { zone, at, thick, overhang, apron } = *of;
        let least = at + thick + APRON + NARROWEST;
        if self.height < least {
            let message =
                format!("{:.0} mm leaves no room for legs; use at least {least:.0} mm", self.height);
            return Err(BadForm::new("height", message));
        }
        let below = at + thick;
        let face = |field, view, width: f64, deep: f64| {
            let inner = width - 2.0 * overhang - 2.0 * LEG;
            if inner < NARROWEST {
                let message = format!(
                    "only {:.0} mm between the legs; leave at least {NARROWEST:.0} mm",
                    inner.max(0.0)
                );
                return Err(BadForm::new(field, message));
            }
            let mut sheet = Sheet::new(view, (width, self.height), deep, 2);
            sheet.put(zone, Shaping::Flat, Rect { x: 0.0, y: at, w: width, h: thick }, None);
            sheet.forward(overhang);
            let legs = Rect { x: overhang, y: below, w: width - 2.0 * overhang, h: self.height - below };
            feet(&mut sheet, legs.h, legs);
            let rails = Rect { x: overhang + LEG, y: below, w: inner, h: apron };
            sheet.put(Zone::Apron, Shaping::Flat, rails, None);
            sheet.forward(-LEG / 3.0);
            Ok(sheet)
        };
        let (w, d) = (self.width, self.depth);
        Ok((face("width", View::Front, w, d)?, face("depth", View::Side, d, w)?))
    }

    /// A top or a seat from above.
    fn above(&self, zone: Zone, oval: bool) -> Face {
        let mut above = Sheet::new(View::Top, (self.width, self.depth), self.height, 1);
        let outline = if oval { Outline::Oval } else { Outline::Square };
        above.shaped(zone, Shaping::Flat, whole(self.width, self.depth), outline, None);
        above.0
    }

    fn frame(&self) -> Result<Face, BadForm> {
        let least = self.width.min(self.height);
        if 2.0 * self.moulding + NARROWEST > least || self.moulding <= 0.0 {
            return Err(BadForm::new(
                "moulding",
                format!(
                    "a {:.0} mm frame is too wide for a {least:.0} mm side; use 10 to {:.0} mm",
                    self.moulding,
                    (least - NARROWEST) / 2.0
                ),
            ));
        }
        if self.round && self.height <= self.width {
            return Err(BadForm::new("height", "a round top needs a frame taller than it is wide"));
        }
        let mut front = Sheet::new(View::Front, (self.width, self.height), FRAME, 1);
        let outline = if self.round { Outline::RoundTop } else { Outline::Square };
        let rect = whole(self.width, self.height);
        let frame = match self.carved {
            true => front.shaped(Zone::Frame, Shaping::Carved, rect, outline, None),
            false => front.framing(Zone::Frame, self.moulding, rect, outline, None),
        };
        front.shaped(Zone::Unpainted, Shaping::Sunk, rect.inset(self.moulding), outline, Some(frame));
        Ok(front.0)
    }

    fn wall(&self) -> Result<Face, BadForm> {
        const SKIRTING: f64 = 120.0;
        const ABOVE: f64 = 160.0;
        let mut front = Sheet::new(View::Front, (self.width, self.height), 0.0, 1);
        let above = self.height - SKIRTING;
        if above < 2.0 * ABOVE + NARROWEST {
            return Err(BadForm::new(
                "height",
                format!("a wall must be at least {:.0} mm", SKIRTING + 2.0 * ABOVE + NARROWEST),
            ));
        }
        let wall =
            front.put(Zone::Wall, Shaping::Flat, Rect { x: 0.0, y: 0.0, w: self.width, h: above }, None);
        let skirting = Rect { x: 0.0, y: above, w: self.width, h: SKIRTING };
        front.put(Zone::Skirting, Shaping::Running, skirting, None);
        let (at, wide) = divided(self.width - 2.0 * ABOVE, self.panels, ABOVE);
        if wide < NARROWEST {
            return Err(BadForm::new(
                "panels",
                format!("{} panels would be only {:.0} mm wide each; use fewer", self.panels, wide.max(0.0)),
            ));
        }
        for x in at {
            front.panel(self, Rect { x: ABOVE + x, y: ABOVE, w: wide, h: above - 2.0 * ABOVE }, wall)?;
        }
        Ok(front.0)
    }
}

fn whole(w: f64, h: f64) -> Rect {
    Rect { x: 0.0, y: 0.0, w, h }
}

/// A cornice, or the edge of a top.
fn head(face: &mut Sheet, cornice: bool, rect: Rect) {
    if cornice {
        face.put(Zone::Cornice, Shaping::Running, rect, None);
        face.forward(CORNICE_OUT);
    } else {
        face.put(Zone::Top, Shaping::Flat, rect, None);
        face.forward(OVERHANG);
    }
}

/// Legs at both ends, or a plinth.
fn feet(face: &mut Sheet, legs: f64, room: Rect) {
    if legs > 0.0 {
        for x in [room.x, room.x + room.w - LEG] {
            face.put(Zone::Legs, Shaping::Upright, Rect { x, w: LEG, ..room }, None);
        }
    } else {
        face.put(Zone::Plinth, Shaping::Running, room, None);
    }
}
