//! The solid of a piece, and its outer planes.
//!
//! The solid is what the front, the side and the top leave of a box (A. Laurentini, “The visual hull concept”, *IEEE Trans. Pattern
//! Anal. Mach. Intell.* 16 (1994) 150), and at the front as deep as each part stands out. It is cut into boxes at every edge of a part;
//! the outer sides of those are the planes that are seen.

use warm_blend_piece::{Elevation, Face, Outline, Part, Rect, View, Zone};

use crate::space::{Point, sum};

/// Steps in which a round outline is cut.
const ROUND: usize = 28;

/// Colours of a plane.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Wears {
    /// The flat picture of a face, within a part of it.
    Face(View, Rect),
    /// What the front of a part wears, carried round its edge at this x or y. A pattern is not carried round.
    Round { edge: f64, over: Rect, beyond: f64 },
    /// What the front of a part wears, carried on below its end.
    Below(Rect),
}

impl Wears {
    /// The face whose flat picture is needed, and whether without a pattern.
    pub(crate) fn flat(self) -> (View, bool) {
        match self {
            Self::Face(view, _) => (view, true),
            Self::Round { .. } | Self::Below(_) => (View::Front, false),
        }
    }
}

/// A rectangle at right angles to an axis.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Plane {
    /// 0 to 2 for x, y or z, and on which side of it the solid is not.
    pub axis: usize,
    outward: f64,
    at: f64,
    pub least: Point,
    pub most: Point,
    pub wears: Wears,
}

impl Plane {
    pub fn normal(&self) -> Point {
        let mut normal = [0.0; 3];
        normal[self.axis] = self.outward;
        normal
    }

    /// How many times the length of a ray it goes until it meets the plane, and where; `None` unless that is
    /// ahead and nearer than `before`.
    pub fn met(&self, from: Point, ray: Point, before: f64) -> Option<(f64, Point)> {
        let way = (self.at - from[self.axis]) / ray[self.axis];
        if !(way > 0.0 && way < before) {
            return None;
        }
        let point = sum(from, ray, way);
        let is_on = (0..3).all(|axis| {
            axis == self.axis || self.least[axis] <= point[axis] && point[axis] <= self.most[axis]
        });
        is_on.then_some((way, point))
    }
}

/// A part that shapes the solid.
#[derive(Debug)]
pub(crate) struct Shape {
    part: Part,
    /// Its rectangle on the face: what stands out from a case goes on to the floor where it is a leg.
    drawn: Rect,
}

/// Parts of a face that shape the solid: those that are set into nothing, or stand out from what they are set into.
fn shapes(face: &Face) -> Vec<Shape> {
    let shapes = |part: &&Part| part.on.is_none_or(|on| (face.parts[on].forward - part.forward).abs() > 1e-6);
    let shape = |part: &Part| {
        let mut part = *part;
        let drawn = part.rect;
        if part.zone == Zone::Legs {
            part.rect.h = face.height - part.rect.y;
        }
        Shape { part, drawn }
    };
    face.parts.iter().filter(shapes).map(shape).collect()
}

/// The shape at a point of a face.
fn at(shapes: &[Shape], x: f64, y: f64) -> Option<&Shape> {
    shapes.iter().rfind(|shape| shape.part.holds(x, y))
}

/// The solid of a piece.
#[derive(Debug)]
pub(crate) struct Solid {
    front: Vec<Shape>,
    /// True if the piece is the same from behind.
    is_alike: bool,
    side: Option<Vec<Shape>>,
    top: Option<Vec<Shape>>,
    pub depth: f64,
    /// Front, side and top.
    pub faces: Vec<Face>,
    /// Its outer planes.
    pub planes: Vec<Plane>,
    /// Where the plane of the front lies: back from the foremost edge of what stands out over legs.
    plane: f64,
}

/// Depth of a piece, mm; `None` if it has no front.
pub(crate) fn depth(elevation: &Elevation) -> Option<f64> {
    let front = elevation.face(View::Front)?;
    Some(elevation.face(View::Side).map_or(front.behind, |side| side.width).max(1.0))
}

/// Coordinates at which a solid is cut.
fn cuts(mut at: Vec<f64>) -> Vec<f64> {
    at.sort_by(f64::total_cmp);
    at.dedup_by(|one, other| (*one - *other).abs() < 1e-6);
    at
}

/// Edges of a part along one axis, with steps between them where its outline is round.
fn edges(from: f64, length: f64, part: &Part) -> Vec<f64> {
    let steps = if part.outline == Outline::Square { 1 } else { ROUND };
    (0..=steps).map(|n| from + length * n as f64 / steps as f64).collect()
}

impl Solid {
    pub fn of(elevation: &Elevation) -> Option<Self> {
        let front = elevation.face(View::Front)?;
        let side = elevation.face(View::Side);
        let depth = depth(elevation)?;
        let foremost = |side: &Face| {
            let feet = side.parts.iter().filter(|part| matches!(part.zone, Zone::Legs | Zone::Plinth));
            feet.map(|part| part.rect.x).min_by(f64::total_cmp)
        };
        let mut solid = Self {
            front: shapes(front),
            is_alike: front.times > 1,
            side: side.map(shapes),
            top: elevation.face(View::Top).map(shapes),
            depth,
            faces: elevation.faces.clone(),
            planes: Vec::new(),
            plane: -side.and_then(foremost).unwrap_or(0.0),
        };
        solid.planes = solid.cut();
        Some(solid)
    }

    /// How far along the side picture a depth lies.
    fn along(&self, z: f64) -> f64 {
        (-z).clamp(0.0, self.depth)
    }

    /// How far towards the viewer the front of a part lies.
    fn face_of(&self, part: &Part) -> f64 {
        self.plane + part.forward
    }

    /// How far back a part goes: a piece that is the same from behind stands out there too, but for its back.
    fn back_of(&self, part: &Part) -> f64 {
        let stands_out = self.is_alike && part.forward > -0.5 * self.depth;
        -self.depth - if stands_out { self.face_of(part) } else { 0.0 }
    }

    /// What the front of the piece is at a point of the solid; `None` outside it.
    pub fn inside(&self, [x, y, z]: Point) -> Option<&Shape> {
        let shape = at(&self.front, x, y)?;
        let part = &shape.part;
        if z > self.face_of(part) || z < self.back_of(part) {
            return None;
        }
        if let Some(side) = &self.side {
            // What lies back from the plane of the side narrows the solid there.
            let within = at(side, self.along(z), y)?.part.forward.min(0.0);
            let level = self
                .front
                .iter()
                .filter(|shape| (shape.part.rect.y..=shape.part.rect.y + shape.part.rect.h).contains(&y));
            let (left, right) = level.fold((f64::INFINITY, f64::NEG_INFINITY), |(left, right), shape| {
                (left.min(shape.part.rect.x), right.max(shape.part.rect.x + shape.part.rect.w))
            });
            if x < left - within || x > right + within {
                return None;
            }
        }
        if let Some(top) = &self.top
            && top.first().is_some_and(|above| above.part.zone == part.zone)
            && z <= 0.0
        {
            at(top, x, self.depth + z)?;
        }
        Some(shape)
    }

    /// The least and the greatest coordinates of its planes.
    pub fn bounds(&self) -> (Point, Point) {
        self.planes.iter().fold(([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]), |(least, most), plane| {
            (
                std::array::from_fn(|axis| least[axis].min(plane.least[axis])),
                std::array::from_fn(|axis| most[axis].max(plane.most[axis])),
            )
        })
    }

    /// Cuts it into boxes, and returns their outer planes.
    fn cut(&self) -> Vec<Plane> {
        let mut xs = Vec::new();
        let mut ys = Vec::new();
        let mut zs = vec![0.0, -self.depth];
        for Shape { part, drawn } in &self.front {
            ys.push(drawn.y + drawn.h);
            xs.extend(edges(part.rect.x, part.rect.w, part));
            ys.extend(edges(part.rect.y, part.rect.h, part));
            zs.extend([self.face_of(part), self.back_of(part)]);
        }
        for Shape { part, .. } in self.side.iter().flatten() {
            zs.extend([-part.rect.x, -part.rect.x - part.rect.w]);
            ys.extend([part.rect.y, part.rect.y + part.rect.h]);
            if part.forward < 0.0 {
                let all = self.front.iter().map(|shape| shape.part.rect);
                xs.extend(all.flat_map(|rect| [rect.x - part.forward, rect.x + rect.w + part.forward]));
            }
        }
        for Shape { part, .. } in self.top.iter().flatten() {
            xs.extend(edges(part.rect.x, part.rect.w, part));
            zs.extend(edges(part.rect.y - self.depth, part.rect.h, part));
        }
        let cuts = [cuts(xs), cuts(ys), cuts(zs)];
        let n = [cuts[0].len() - 1, cuts[1].len() - 1, cuts[2].len() - 1];
        let middle = |cell: [usize; 3]| -> Point {
            std::array::from_fn(|axis| 0.5 * (cuts[axis][cell[axis]] + cuts[axis][cell[axis] + 1]))
        };
        let index = |cell: [usize; 3]| (cell[2] * n[1] + cell[1]) * n[0] + cell[0];
        let mut solid = vec![None; n[0] * n[1] * n[2]];
        let mut all = Vec::new();
        for z in 0..n[2] {
            for y in 0..n[1] {
                for x in 0..n[0] {
                    solid[index([x, y, z])] = self.inside(middle([x, y, z]));
                    all.push([x, y, z]);
                }
            }
        }
        let mut planes = Vec::new();
        for cell in all {
            let Some(shape) = solid[index(cell)] else { continue };
            for (axis, beyond) in [(0, false), (0, true), (1, false), (2, true)] {
                let next = match beyond {
                    true => cell[axis] + 1,
                    false => cell[axis].wrapping_sub(1),
                };
                let mut beside = cell;
                beside[axis] = next;
                if next < n[axis] && solid[index(beside)].is_some() {
                    continue;
                }
                let (mut least, mut most): (Point, Point) = (
                    std::array::from_fn(|axis| cuts[axis][cell[axis]]),
                    std::array::from_fn(|axis| cuts[axis][cell[axis] + 1]),
                );
                let at = if beyond { most[axis] } else { least[axis] };
                (least[axis], most[axis]) = (at, at);
                let wears = self.wears(axis, beyond, shape, middle(cell));
                planes.push(Plane { axis, outward: if beyond { 1.0 } else { -1.0 }, at, least, most, wears });
            }
        }
        merged(planes)
    }

    fn wears(&self, axis: usize, beyond: bool, Shape { part, drawn }: &Shape, [x, y, z]: Point) -> Wears {
        let round = |edge: f64| Wears::Round { edge, over: *drawn, beyond: self.face_of(part) };
        let is_highest = || self.front.iter().all(|shape| part.rect.y <= shape.part.rect.y);
        let side = || at(self.side.as_ref()?, self.along(z), y);
        let above = || at(self.top.as_ref()?, x, (self.depth + z).min(self.depth));
        match axis {
            2 if y > drawn.y + drawn.h => Wears::Below(*drawn),
            2 => Wears::Face(View::Front, *drawn),
            0 => match side().filter(|_| z <= 0.0) {
                Some(beside) => Wears::Face(View::Side, beside.drawn),
                None => round(if beyond { drawn.x + drawn.w } else { drawn.x }),
            },
            _ => match above().filter(|above| above.part.zone == part.zone || is_highest()) {
                Some(above) => Wears::Face(View::Top, above.drawn),
                None => round(drawn.y),
            },
        }
    }
}

/// Planes with those joined that wear the same and share an edge.
fn merged(mut planes: Vec<Plane>) -> Vec<Plane> {
    for along in 0..3 {
        let mut joined: Vec<Plane> = Vec::with_capacity(planes.len());
        for plane in planes {
            let continues = |other: &&mut Plane| {
                let is_flush = (0..3).filter(|axis| *axis != along).all(|axis| {
                    (other.least[axis] - plane.least[axis]).abs() < 1e-9
                        && (other.most[axis] - plane.most[axis]).abs() < 1e-9
                });
                is_flush
                    && (other.most[along] - plane.least[along]).abs() < 1e-9
                    && (other.axis, other.outward, other.wears) == (plane.axis, plane.outward, plane.wears)
                    && other.axis != along
            };
            match joined.iter_mut().find(continues) {
                Some(other) => other.most[along] = plane.most[along],
                None => joined.push(plane),
            }
        }
        planes = joined;
    }
    planes
}

/// A distance mirrored to and fro within a length, so that marks go on without a seam.
pub(crate) fn folded(distance: f64, length: f64) -> f64 {
    let length = length.max(1e-6);
    let turns = distance.rem_euclid(2.0 * length);
    if turns > length { 2.0 * length - turns } else { turns }
}
