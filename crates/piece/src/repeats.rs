//! Repeats of a pattern on one part: in a row along its longer side, or as a border along all four.
//!
//! In a border, motifs stand with their upper side outwards. Corners are squares of the motif's size, and the motif in them is
//! turned a quarter from one to the next.

use serde::{Deserialize, Serialize};

use super::stencil::SIZES;
use super::{
    Border, Cut, Elevation, Face, Fade, Outline, Part, Rect, Shaping, Spacing, Stencil, Zone, spaced,
    spaced_by,
};

/// The gap where nothing else is said, as a share of the motif†.
const GAP: f64 = 0.6;
/// How much of a part a single pattern takes, from end to end†.
const FILLS: f64 = 0.8;
/// How much of a part the motifs of a border take on either side†, at most so much, mm†, and how far they lie from the edge, mm†.
const BORDER: f64 = 0.3;
const LARGEST_BORDER: f64 = 60.0;
const INSET: f64 = 15.0;

/// Repeats on one part.
#[derive(Debug, Clone)]
pub struct Repeats {
    cut: Cut,
    mirrored: bool,
    /// Number of colours that take turns, at least 1.
    colours: usize,
    size: f64,
    fade: Option<Fade>,
    /// Share of the motifs that is sanded off.
    sanded: f64,
    rect: Rect,
    strips: Vec<Strip>,
    corners: Option<Corners>,
}

/// A row of repeats.
#[derive(Debug, Clone, Copy)]
struct Strip {
    /// Its middle on the face, mm.
    middle: (f64, f64),
    /// Quarter turns clockwise from one that runs to the right.
    turns: u8,
    measured: SideSpacing,
}

/// A motif in the corners of a border.
#[derive(Debug, Clone)]
struct Corners {
    cut: Cut,
    /// Their middles, clockwise from the upper left, mm.
    middles: [(f64, f64); 4],
}

/// Where a point is in one repeat.
struct Square<'a> {
    cut: &'a Cut,
    /// Number of the repeat in its row, from 0, or of the corner.
    n: usize,
    /// Place in its square, −1 to 1.
    u: f64,
    v: f64,
}

/// A small piece of a motif.
struct Cell {
    /// Its share of the square of the motif.
    share: f64,
    /// The colour whose turn it is.
    turn: usize,
    /// Its middle on the face, mm.
    at: (f64, f64),
}

/// Which side of a part a spacing is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Side {
    /// Along the middle of the part.
    Middle,
    /// Along the longer sides.
    Longer,
    /// Along the shorter sides.
    Shorter,
    /// Along all four sides of a square.
    Each,
}

/// Spacing along a side of a part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SideSpacing {
    /// Which side.
    pub side: Side,
    /// Distance from the end of the part to where it begins, mm.
    pub from: f64,
    /// The spacing.
    pub spacing: Spacing,
}

impl SideSpacing {
    /// True of two that are measured out alike.
    pub(super) fn is_alike(&self, other: &Self) -> bool {
        let near = |one: f64, two: f64| (one - two).abs() < 0.5;
        let (one, two) = (&self.spacing, &other.spacing);
        self.side == other.side
            && near(self.from, other.from)
            && one.repeats == two.repeats
            && near(one.gap, two.gap)
            && near(one.end, two.end)
    }

    /// Centre lines of the repeats, mm from either end of the part.
    pub fn centres(&self) -> Vec<f64> {
        self.spacing.centres().into_iter().map(|centre| self.from + centre).collect()
    }

    /// Length of the part on that side, mm.
    pub fn length(&self) -> f64 {
        2.0 * self.from + self.spacing.length()
    }
}

/// A point seen from something that was turned clockwise so many quarters.
fn turned_back((mut a, mut b): (f64, f64), turns: u8) -> (f64, f64) {
    for _ in 0..turns {
        (a, b) = (b, -a);
    }
    (a, b)
}

impl Strip {
    /// Distance of a point from its start, and from its middle line, mm.
    fn lengthwise(&self, x: f64, y: f64) -> (f64, f64) {
        let (along, aside) = turned_back((x - self.middle.0, y - self.middle.1), self.turns);
        (along + 0.5 * self.measured.spacing.length(), aside)
    }

    /// The point of the face at a distance from its start and from its middle line, mm.
    fn point(&self, along: f64, aside: f64) -> (f64, f64) {
        let from_middle = (along - 0.5 * self.measured.spacing.length(), aside);
        let (x, y) = turned_back(from_middle, (4 - self.turns) % 4);
        (x + self.middle.0, y + self.middle.1)
    }
}

impl Repeats {
    /// Repeats of a pattern on a part of a face; `None` where it does not go.
    pub(super) fn on(stencil: &Stencil, face: &Face, at: usize) -> Option<Self> {
        let rect = field(face, at)?;
        let (cut, size) = (stencil.cut().ok()?, stencil.size);
        let (strips, corners) = match stencil.around {
            None => (vec![row(stencil, size * cut.across(), rect)?], None),
            Some(Border { inset, corner }) => {
                let border = rect.inset(inset);
                let middles = corners(border, size)?;
                let corners = corner.map(|motif| Corners { cut: Cut::Motif(motif), middles });
                (sides(stencil, border, inset), corners)
            }
        };
        let (fade, mirrored, sanded) = (stencil.fade, stencil.mirrored, stencil.taken_off().1);
        let colours = if stencil.in_turn { 1 + stencil.wisps.len() } else { 1 };
        Some(Self { cut, mirrored, colours, size, fade, sanded, rect, strips, corners })
    }

    /// Depth of a point of the face, in mm, inside a motif: 1 at most, 0 outside.
    pub fn depth(&self, x: f64, y: f64) -> f64 {
        self.square(x, y).map_or(0.0, |Square { cut, u, v, .. }| cut.depth(u, v).max(0.0))
    }

    /// At a point of the face, in mm: the share of its motif that paint reaches before it, 0 in the middle and 1 at the edges, and which
    /// colour's turn it is, from 0; `None` outside.
    pub fn in_motif(&self, x: f64, y: f64) -> Option<(f64, usize)> {
        let square = self.square(x, y)?;
        let depth = square.cut.depth(square.u, square.v);
        (depth > 0.0).then(|| (square.cut.before(depth), self.turn_in(&square)))
    }

    fn turn_in(&self, Square { cut, n, u, v }: &Square<'_>) -> usize {
        cut.petal(*u, *v).unwrap_or(*n) % self.colours
    }

    /// The square that a point of the face is in.
    fn square<'a>(&'a self, x: f64, y: f64) -> Option<Square<'a>> {
        let half = self.size / 2.0;
        let in_strip = |strip: &Strip| {
            let (along, aside) = strip.lengthwise(x, y);
            let spacing = &strip.measured.spacing;
            let within = along - spacing.end;
            let n = (within / spacing.step).floor();
            if aside.abs() > half || n < 0.0 || n >= f64::from(spacing.repeats) {
                return None;
            }
            let u = (within - n * spacing.step) / half - 1.0;
            let u = if self.is_mirrored(n as usize) { -u } else { u };
            (u.abs() <= 1.0).then_some(Square { cut: &self.cut, n: n as usize, u, v: aside / half })
        };
        let in_corner = |corners: &'a Corners| {
            (0..4u8).find_map(|turns| {
                let (cx, cy) = corners.middles[usize::from(turns)];
                let (u, v) = turned_back(((x - cx) / half, (y - cy) / half), turns);
                let square = Square { cut: &corners.cut, n: usize::from(turns), u, v };
                (u.abs() <= 1.0 && v.abs() <= 1.0).then_some(square)
            })
        };
        self.strips.iter().find_map(in_strip).or_else(|| in_corner(self.corners.as_ref()?))
    }

    const fn is_mirrored(&self, n: usize) -> bool {
        self.mirrored && n % 2 == 1
    }

    /// How the repeats are measured out, each kind of side once.
    pub fn sides(&self) -> Vec<SideSpacing> {
        let mut all: Vec<SideSpacing> = Vec::new();
        for Strip { measured, .. } in &self.strips {
            if !all.iter().any(|known| known.is_alike(measured)) {
                all.push(*measured);
            }
        }
        all
    }

    /// Cover at a point of the face, as a share of that where the pattern is strongest; `patch` is how little the hand pressed there, 0 to
    /// 1, evenly spread.
    pub fn strength(&self, x: f64, y: f64, patch: f64) -> f64 {
        if patch > 1.0 - self.sanded {
            return 0.0;
        }
        self.fade.map_or(1.0, |fade| self.faded(&fade, x, y) * (1.0 - fade.patchy * patch))
    }

    fn faded(&self, fade: &Fade, x: f64, y: f64) -> f64 {
        let Rect { x: left, y: upper, w, h } = self.rect;
        let (across, down) = ((x - left) / w, (y - upper) / h);
        if w >= h { fade.at(across, down) } else { fade.at(down, across) }
    }

    /// What patchy pressure and sanding leave on average: the integral of [`Repeats::strength`] over `patch`.
    fn left(&self) -> f64 {
        let left = 1.0 - self.sanded;
        left - 0.5 * self.fade.map_or(0.0, |fade| fade.patchy) * left * left
    }

    /// Area of the motifs on this part times the mean of [`Repeats::strength`] over them, mm².
    pub fn painted(&self) -> f64 {
        self.area() * self.mean_strength()
    }

    /// Area of the motifs on this part, mm².
    fn area(&self) -> f64 {
        let n: u32 = self.strips.iter().map(|strip| strip.measured.spacing.repeats).sum();
        let corners = self.corners.as_ref().map_or(0.0, |corners| 4.0 * corners.cut.share());
        self.size * self.size * (f64::from(n) * self.cut.share() + corners)
    }

    /// Mean of [`Repeats::strength`] over all motifs.
    pub fn mean_strength(&self) -> f64 {
        if self.fade.is_none() {
            return self.left();
        }
        let (mut sum, mut all) = (0.0, 0.0);
        self.each_cell(&mut |cell| {
            sum += cell.share * self.faded_at(&cell);
            all += cell.share;
        });
        if all > 0.0 { self.left() * sum / all } else { 0.0 }
    }

    /// By colour, the share of what is painted where it is its turn or that of a later one.
    pub fn from_turn(&self) -> Vec<f64> {
        let mut painted = vec![0.0; self.colours];
        self.each_cell(&mut |cell| {
            let here = cell.share * self.faded_at(&cell);
            painted[..=cell.turn].iter_mut().for_each(|sum| *sum += here);
        });
        let all = painted[0];
        painted.into_iter().map(|sum| if all > 0.0 { sum / all } else { 0.0 }).collect()
    }

    fn faded_at(&self, Cell { at: (x, y), .. }: &Cell) -> f64 {
        self.fade.map_or(1.0, |fade| self.faded(&fade, *x, *y))
    }

    /// Goes through small pieces of all motifs.
    fn each_cell(&self, see: &mut dyn FnMut(Cell)) {
        let half = self.size / 2.0;
        let mut motif =
            |cut: &Cut, n: usize, cells: &[(f64, f64)], place: &dyn Fn(f64, f64) -> (f64, f64)| {
                for (u, v) in cells {
                    let turn = self.turn_in(&Square { cut, n, u: *u, v: *v });
                    see(Cell { share: cut.share() / cells.len() as f64, turn, at: place(*u, *v) });
                }
            };
        let cells = cut_out(&self.cut);
        for strip in &self.strips {
            for (n, centre) in strip.measured.spacing.centres().into_iter().enumerate() {
                let way = if self.is_mirrored(n) { -half } else { half };
                motif(&self.cut, n, &cells, &|u, v| strip.point(centre + way * u, half * v));
            }
        }
        if let Some(Corners { cut, middles }) = &self.corners {
            let cells = cut_out(cut);
            for (turns, (cx, cy)) in (0..4u8).zip(middles) {
                let place = |u: f64, v: f64| {
                    let (a, b) = turned_back((half * u, half * v), (4 - turns) % 4);
                    (cx + a, cy + b)
                };
                motif(cut, usize::from(turns), &cells, &place);
            }
        }
    }
}

/// The room for patterns on the parts of a zone.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PatternRoom {
    /// Length of the longest part, mm; 0 where no pattern goes.
    pub long: f64,
    /// Width of the longest part, mm.
    pub broad: f64,
    /// Size of the motifs of a border that suits the broadest part, mm; 0 where none goes.
    pub border: f64,
    /// Distance of that border from the edge, mm.
    pub inset: f64,
}

impl PatternRoom {
    /// Room on the parts of a zone.
    pub fn of(elevation: &Elevation, zone: Zone) -> Self {
        let of = |face: &'_ Face| {
            let parts = (0..face.parts.len()).filter(|at| face.parts[*at].zone == zone);
            parts.filter_map(|at| field(face, at)).collect::<Vec<_>>()
        };
        let fields = elevation.faces.iter().flat_map(of).map(|rect| (rect.w.max(rect.h), rect.w.min(rect.h)));
        let fields: Vec<(f64, f64)> = fields.collect();
        let (long, broad) = fields.iter().copied().max_by(|a, b| a.0.total_cmp(&b.0)).unwrap_or_default();
        let broadest = fields.iter().map(|(_, broad)| *broad).fold(0.0, f64::max);
        let inset = INSET.min(0.1 * broadest).floor();
        Self { long, broad, border: fives((BORDER * broadest).min(LARGEST_BORDER)), inset }
    }

    /// Size at which an outline of the painter's own fills the longest part well, mm: what it leaves free lengthwise, it leaves across.
    pub fn filled_by(&self, cut: &Cut) -> f64 {
        let size = (FILLS * self.long).min(FILLS * self.broad / cut.across());
        fives(size).clamp(SIZES.0, SIZES.1)
    }
}

/// A length as a painter would set it, to 5 mm and no longer.
fn fives(mm: f64) -> f64 {
    (mm / 5.0).floor() * 5.0
}

/// The rectangle of a part that a pattern lies in; `None` where none goes.
fn field(face: &Face, at: usize) -> Option<Rect> {
    let part = face.parts.get(at)?;
    let plain = matches!(part.shaping, Shaping::Flat | Shaping::Sunk | Shaping::Raised | Shaping::Carved);
    let holds = face.parts.iter().any(|part| part.on == Some(at) && part.zone != Zone::Hardware);
    (plain && !holds).then(|| within(part))
}

/// Points of a square that are cut out, evenly spread.
fn cut_out(cut: &Cut) -> Vec<(f64, f64)> {
    const CELLS: usize = 24;
    let at = |i: usize| (2 * i + 1) as f64 / CELLS as f64 - 1.0;
    let cells = (0..CELLS * CELLS).map(|i| (at(i % CELLS), at(i / CELLS)));
    cells.filter(|(u, v)| cut.depth(*u, *v) > 0.0).collect()
}

/// Repeats along the middle of a part; `None` where they do not fit.
fn row(stencil: &Stencil, high: f64, rect: Rect) -> Option<Strip> {
    let (length, width) = (rect.w.max(rect.h), rect.w.min(rect.h));
    if high > width {
        return None;
    }
    let spacing = along(stencil, length, stencil.repeats)?;
    let measured = SideSpacing { side: Side::Middle, from: 0.0, spacing };
    Some(Strip { middle: rect.middle(), turns: u8::from(rect.w < rect.h), measured })
}

fn along(stencil: &Stencil, length: f64, repeats: Option<u32>) -> Option<Spacing> {
    let spacing = match stencil.gap {
        Some(gap) => spaced_by(length, stencil.size, gap, repeats),
        None => spaced(length, stencil.size, repeats, GAP * stencil.size),
    };
    spacing.ok()
}

/// Middles of the corners of a border, clockwise from the upper left; `None` where they would lie over each other.
fn corners(Rect { x, y, w, h }: Rect, size: f64) -> Option<[(f64, f64); 4]> {
    let half = size / 2.0;
    let (left, right, upper, lower) = (x + half, x + w - half, y + half, y + h - half);
    (w.min(h) >= 2.0 * size).then_some([(left, upper), (right, upper), (right, lower), (left, lower)])
}

/// Repeats along the four sides of a border, between its corners. A number of repeats is that of the longer sides.
fn sides(stencil: &Stencil, border: Rect, inset: f64) -> Vec<Strip> {
    let half = stencil.size / 2.0;
    let (x, y) = border.middle();
    let (aside, above) = (0.5 * border.w - half, 0.5 * border.h - half);
    let which = |turns: u8| match border.w - border.h {
        more if more.abs() < 1e-6 => Side::Each,
        more if turns.is_multiple_of(2) == (more > 0.0) => Side::Longer,
        _ => Side::Shorter,
    };
    let side = |(turns, middle): (u8, (f64, f64))| {
        let (side, long) = (which(turns), if turns.is_multiple_of(2) { border.w } else { border.h });
        let repeats = stencil.repeats.filter(|_| side != Side::Shorter);
        let spacing = along(stencil, long - 2.0 * stencil.size, repeats)?;
        Some(Strip { middle, turns, measured: SideSpacing { side, from: inset + stencil.size, spacing } })
    };
    let middles = [(x, y - above), (x + aside, y), (x, y + above), (x - aside, y)];
    (0..4u8).zip(middles).filter_map(side).collect()
}

/// The rectangle of a part that a pattern lies in: below most of an arch, in the middle of an oval.
fn within(Part { rect, outline, .. }: &Part) -> Rect {
    match outline {
        Outline::Square => *rect,
        Outline::RoundTop => {
            let arch = (0.35 * rect.w).min(0.5 * rect.h);
            Rect { y: rect.y + arch, h: rect.h - arch, ..*rect }
        }
        Outline::Oval => {
            let (aside, above) = (0.15 * rect.w, 0.15 * rect.h);
            Rect { x: rect.x + aside, y: rect.y + above, w: rect.w - 2.0 * aside, h: rect.h - 2.0 * above }
        }
    }
}
