//! A piece from a corner: its flat faces as planes in space, in perspective.
//!
//! The solid is what the front, the side and the top leave of a box (A. Laurentini, “The visual hull concept”, *IEEE Trans. Pattern
//! Anal. Mach. Intell.* 16 (1994) 150), and at the front as deep as each part stands out. It is cut into boxes at every edge of a part;
//! the outer sides of those are the planes that are seen. A ray through each pixel meets the nearest plane, and the flat picture of a
//! face gives the colour of that point: so marks keep their size in mm, and seams meet at the corners.
//!
//! Lengths are mm: x to the right and y down, as on the front, and z from the front towards the viewer.

use std::{borrow::Borrow, collections::BTreeSet};

use palette::encoding::IntoLinear;
use rayon::prelude::*;
use warm_blend_piece::{Elevation, Face, Outline, Part, Rect, View, Zone};

use crate::{
    fineness::{Drawn, Fineness},
    lamp::{Lamp, Shading},
    picture::{Picture, Screen},
    placed::{Closer, Placed},
    relief::BadSize,
};

/// Room around a piece, as a share of the picture.
const ROOM: f64 = 0.07;
/// Distance of the camera, in diagonals of the piece: as in a room.
const DISTANCE: f64 = 2.3;
/// Steps in which a round outline is cut.
const ROUND: usize = 28;
/// Gap between a piece and the wall behind it, mm.
const GAP: f64 = 40.0;
/// Linear grey of wall and floor.
const WALL: f32 = 0.62;
const FLOOR: f32 = 0.50;
/// Steps in which flat pictures of faces grow.
const STEP: f64 = 1.25;
/// Longest side of the flat picture of a face, pixels.
const LARGEST: f64 = 1600.0;

/// From where a piece is seen.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Viewpoint {
    /// Degrees to the right of the front; negative to the left.
    turn: f64,
    /// Degrees above the middle of the piece.
    up: f64,
}

impl Viewpoint {
    /// Farthest to a side, degrees.
    pub const MOST_TURN: f64 = 80.0;
    /// Highest, degrees.
    pub const MOST_UP: f64 = 60.0;
    /// From the right and a little above, as somebody stands before it.
    pub const USUAL: Self = Self { turn: 35.0, up: 14.0 };

    /// Clamps both angles; a value that is not finite is the usual one.
    pub fn new(turn: f64, up: f64) -> Self {
        let or = |value: f64, usual: f64| if value.is_finite() { value } else { usual };
        Self {
            turn: or(turn, Self::USUAL.turn).clamp(-Self::MOST_TURN, Self::MOST_TURN),
            up: or(up, Self::USUAL.up).clamp(0.0, Self::MOST_UP),
        }
    }
}

type Point = [f64; 3];

fn dot(a: Point, b: Point) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

fn sum(a: Point, b: Point, times: f64) -> Point {
    [a[0] + times * b[0], a[1] + times * b[1], a[2] + times * b[2]]
}

/// A pinhole camera.
#[derive(Debug, Clone, Copy)]
struct Camera {
    at: Point,
    forward: Point,
    right: Point,
    down: Point,
    /// Focal length and principal point, pixels.
    focal: f64,
    centre: (f64, f64),
}

impl Camera {
    /// Looks at the middle of a box, which fills the picture.
    fn of(least: Point, most: Point, from: Viewpoint, (width, height): (f64, f64), closer: Closer) -> Self {
        let (sin, cos) = from.turn.to_radians().sin_cos();
        let (above, level) = from.up.to_radians().sin_cos();
        let forward = [-sin * level, above, -cos * level];
        let middle = sum(least, sum(most, least, -1.0), 0.5);
        let size = sum(most, least, -1.0);
        let at = sum(middle, forward, -DISTANCE * dot(size, size).sqrt());
        let right = [cos, 0.0, -sin];
        let down = [sin * above, level, cos * above];
        let mut camera = Self { at, forward, right, down, focal: 1.0, centre: (0.0, 0.0) };
        // Where the corners of the box lie at a focal length of 1.
        let (mut left, mut upper, mut far, mut low) =
            (f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY);
        for (x, y) in corners(least, most).filter_map(|corner| camera.project(corner)) {
            (left, far) = (left.min(x), far.max(x));
            (upper, low) = (upper.min(y), low.max(y));
        }
        let room = 1.0 - 2.0 * ROOM;
        camera.focal = (room * width / (far - left)).min(room * height / (low - upper));
        let by = closer.by.max(1.0);
        // The point of the whole picture that is in the middle, as far aside as the picture goes.
        let aside = |share: f64| share.clamp(0.5 / by, 1.0 - 0.5 / by) - 0.5;
        let whole = (
            0.5 * width - camera.focal * 0.5 * (left + far),
            0.5 * height - camera.focal * 0.5 * (upper + low),
        );
        camera.centre = (
            0.5 * width + by * (whole.0 - 0.5 * width - aside(closer.middle.0) * width),
            0.5 * height + by * (whole.1 - 0.5 * height - aside(closer.middle.1) * height),
        );
        camera.focal *= by;
        camera
    }

    /// Pixel at which a point is seen; `None` behind the camera.
    fn project(&self, point: Point) -> Option<(f64, f64)> {
        let to = sum(point, self.at, -1.0);
        let depth = dot(to, self.forward);
        (depth > 1.0).then(|| {
            let scale = self.focal / depth;
            (self.centre.0 + scale * dot(to, self.right), self.centre.1 + scale * dot(to, self.down))
        })
    }

    /// Direction of the ray through a point of the picture; its part along [`Camera::forward`] is the focal length.
    fn ray(&self, x: f64, y: f64) -> Point {
        let along = sum([0.0; 3], self.forward, self.focal);
        sum(sum(along, self.right, x - self.centre.0), self.down, y - self.centre.1)
    }
}

/// Colours of a plane.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Wears {
    /// The flat picture of a face, within a part of it.
    Face(View, Rect),
    /// What the front of a part wears, carried round its edge at this x or y. A pattern is not carried round.
    Round { edge: f64, over: Rect, beyond: f64 },
    /// What the front of a part wears, carried on below its end.
    Below(Rect),
}

impl Wears {
    /// The face whose flat picture is needed, and whether without a pattern.
    fn flat(self) -> (View, bool) {
        match self {
            Self::Face(view, _) => (view, true),
            Self::Round { .. } | Self::Below(_) => (View::Front, false),
        }
    }
}

/// The eight corners of a box.
fn corners(least: Point, most: Point) -> impl Iterator<Item = Point> {
    (0..8).map(move |n| std::array::from_fn(|axis| if n >> axis & 1 == 1 { most[axis] } else { least[axis] }))
}

/// A rectangle at right angles to an axis.
#[derive(Debug, Clone, Copy)]
struct Plane {
    /// 0 to 2 for x, y or z, and on which side of it the solid is not.
    axis: usize,
    outward: f64,
    at: f64,
    least: Point,
    most: Point,
    wears: Wears,
}

impl Plane {
    fn normal(&self) -> Point {
        let mut normal = [0.0; 3];
        normal[self.axis] = self.outward;
        normal
    }

    /// How many times the length of a ray it goes until it meets the plane, and where; `None` unless that is
    /// ahead and nearer than `before`.
    fn met(&self, from: Point, ray: Point, before: f64) -> Option<(f64, Point)> {
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
struct Shape {
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
struct Solid {
    front: Vec<Shape>,
    /// True if the piece is the same from behind.
    is_alike: bool,
    side: Option<Vec<Shape>>,
    top: Option<Vec<Shape>>,
    depth: f64,
    /// Where the plane of the front lies: back from the foremost edge of what stands out over legs.
    plane: f64,
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
    fn of(elevation: &Elevation) -> Option<Self> {
        let front = elevation.face(View::Front)?;
        let side = elevation.face(View::Side);
        let depth = side.map_or(front.behind, |side| side.width).max(1.0);
        let foremost = |side: &Face| {
            let feet = side.parts.iter().filter(|part| matches!(part.zone, Zone::Legs | Zone::Plinth));
            feet.map(|part| part.rect.x).min_by(f64::total_cmp)
        };
        Some(Self {
            front: shapes(front),
            is_alike: front.times > 1,
            side: side.map(shapes),
            top: elevation.face(View::Top).map(shapes),
            depth,
            plane: -side.and_then(foremost).unwrap_or(0.0),
        })
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
    fn inside(&self, [x, y, z]: Point) -> Option<&Shape> {
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

    /// Outer planes.
    fn planes(&self) -> Vec<Plane> {
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

/// A piece from a corner at a size in pixels.
#[derive(Debug)]
pub struct Corner {
    camera: Camera,
    planes: Vec<Plane>,
    /// Faces that are seen, with or without their patterns, and the sizes of their flat pictures.
    faces: Vec<(Face, bool, (u32, u32))>,
    depth: f64,
    /// Leftmost and rightmost point, and height, mm.
    sides: (f64, f64),
    height: f64,
    is_on_floor: bool,
    width: usize,
    rows: usize,
    times: usize,
}

impl Corner {
    /// Prepares a piece; `None` if it has no front.
    pub fn new(
        elevation: &Elevation,
        from: Viewpoint,
        (width, height): (u32, u32),
        closer: Closer,
        fineness: Fineness,
    ) -> Result<Option<Self>, BadSize> {
        let Drawn { width, height: rows, times } = Drawn::of((width, height), fineness)?;
        let Some(solid) = Solid::of(elevation) else { return Ok(None) };
        let mut planes = solid.planes();
        let mut least = [f64::INFINITY; 3];
        let mut most = [f64::NEG_INFINITY; 3];
        for plane in &planes {
            for axis in 0..3 {
                least[axis] = least[axis].min(plane.least[axis]);
                most[axis] = most[axis].max(plane.most[axis]);
            }
        }
        let camera = Camera::of(least, most, from, (width as f64, rows as f64), closer);
        planes.retain(|plane| dot(sum(camera.at, plane.least, -1.0), plane.normal()) > 0.0);
        // Pixels of a mm where it is nearest.
        let nearest = camera.focal
            / (dot(sum(least, camera.at, -1.0), camera.forward)
                .min(dot(sum(most, camera.at, -1.0), camera.forward))
                .max(1.0));
        let size = |face: &Face| {
            // In steps, so that a piece that turns keeps its flat pictures.
            let scale = STEP.powf(((nearest / times as f64).ln() / STEP.ln()).ceil());
            let scale = scale.min(LARGEST / face.width.max(face.height));
            let pixels = |mm: f64| ((mm * scale / 0.9).round() as u32).clamp(48, 4096);
            (pixels(face.width), pixels(face.height))
        };
        let flats = planes.iter().map(|plane| plane.wears.flat());
        let flats: BTreeSet<(View, bool)> = flats.collect();
        let face = |(view, patterned)| elevation.face(view).map(|face| (face.clone(), patterned, size(face)));
        let faces = flats.into_iter().filter_map(face).collect();
        Ok(Some(Self {
            camera,
            planes,
            faces,
            depth: solid.depth,
            sides: (least[0], most[0]),
            height: most[1],
            is_on_floor: elevation.face(View::Front).is_some_and(|front| front.behind >= 60.0),
            width,
            rows,
            times,
        }))
    }

    /// Flat pictures that [`Corner::draw`] needs: of which face, with or without its patterns, and how large.
    pub fn flats(&self) -> impl Iterator<Item = (View, bool, (u32, u32))> {
        self.faces.iter().map(|(face, patterned, size)| (face.view, *patterned, *size))
    }

    /// Draws it from flat pictures of its faces, in the order of [`Corner::flats`].
    pub fn draw<P: Borrow<Picture>>(&self, pictures: &[P], shading: Shading) -> Picture {
        let linear: [f32; 256] = std::array::from_fn(|code| palette::encoding::Srgb::into_linear(code as u8));
        let flats: Vec<Flat> = self
            .faces
            .iter()
            .zip(pictures)
            .map(|((face, patterned, _), picture)| {
                let picture = picture.borrow();
                let placed = Placed::within(face, picture.width as usize, picture.height as usize);
                Flat { of: (face.view, *patterned), face, picture, placed, linear: &linear }
            })
            .collect();
        let flats: Vec<Option<&Flat>> =
            self.planes.iter().map(|plane| flats.iter().find(|flat| flat.of == plane.wears.flat())).collect();
        // Where on the picture each plane can be seen.
        let boxes: Vec<[f64; 4]> = self.planes.iter().map(|plane| self.seen_within(plane)).collect();
        let lit: Vec<f32> = self.planes.iter().map(|plane| lit(plane.normal(), shading)).collect();
        let screen = Screen::get();
        let mut rgb = vec![0; 3 * self.width * self.rows];
        rgb.par_chunks_exact_mut(3 * self.width).enumerate().for_each(|(y, row)| {
            let py = y as f64 + 0.5;
            let here: Vec<usize> =
                (0..boxes.len()).filter(|n| boxes[*n][1] <= py && py <= boxes[*n][3]).collect();
            for (x, pixel) in row.chunks_exact_mut(3).enumerate() {
                let px = x as f64 + 0.5;
                let ray = self.camera.ray(px, py);
                let mut nearest = f64::INFINITY;
                let mut colour = None;
                for n in &here {
                    let [left, _, right, _] = boxes[*n];
                    if px < left || px > right {
                        continue;
                    }
                    let plane = &self.planes[*n];
                    let Some((way, point)) = plane.met(self.camera.at, ray, nearest) else { continue };
                    let (at, over) = self.flat_point(plane, point);
                    let Some(seen) = flats[*n].and_then(|flat| flat.at(at, over)) else { continue };
                    (nearest, colour) = (way, Some(seen.map(|channel| channel * lit[*n])));
                }
                let seen = colour.unwrap_or_else(|| [self.behind(ray, shading); 3]);
                for (to, channel) in pixel.iter_mut().zip(seen) {
                    *to = screen.code(channel);
                }
            }
        });
        let picture = Picture { width: self.width as u32, height: self.rows as u32, rgb };
        Picture::from_finer(picture, self.times)
    }

    /// Where on its flat picture a point of a plane lies, mm, and the part that it must not leave.
    fn flat_point(&self, plane: &Plane, [x, y, z]: Point) -> ((f64, f64), Rect) {
        match plane.wears {
            Wears::Face(View::Front, over) => ((x, y), over),
            Wears::Face(View::Side, over) => (((-z).clamp(0.0, self.depth), y), over),
            Wears::Face(View::Top, over) => ((x, (self.depth + z).clamp(0.0, self.depth)), over),
            Wears::Below(over) => ((x, over.y + folded(y - over.y, over.h)), over),
            Wears::Round { edge, over, beyond } => {
                let within = |from: f64, length: f64| {
                    let aside = folded(beyond - z, length);
                    if edge > from { from + length - aside } else { from + aside }
                };
                let at = if plane.axis == 0 {
                    (within(over.x, over.w), over.y + folded(y - over.y, over.h))
                } else {
                    (x, within(over.y, over.h))
                };
                (at, over)
            }
        }
    }

    /// Left, upper, right and lower bound of a plane in the picture; all of it where a corner lies behind the camera.
    fn seen_within(&self, plane: &Plane) -> [f64; 4] {
        let mut bounds = [f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY];
        for corner in corners(plane.least, plane.most) {
            let Some((x, y)) = self.camera.project(corner) else {
                return [f64::NEG_INFINITY, f64::NEG_INFINITY, f64::INFINITY, f64::INFINITY];
            };
            bounds = [bounds[0].min(x), bounds[1].min(y), bounds[2].max(x), bounds[3].max(y)];
        }
        bounds
    }

    /// Wall and floor where a ray misses the piece, with its shadow.
    fn behind(&self, ray: Point, shading: Shading) -> f32 {
        let at = self.camera.at;
        let (left, right) = self.sides;
        let lamp = shading.lamp().unwrap_or(Lamp::WINDOW).way();
        let to_wall = (-self.depth - GAP - at[2]) / ray[2];
        let wall = sum(at, ray, to_wall);
        let is_floor = self.is_on_floor && ray[1] > 0.0 && {
            let to_floor = (self.height - at[1]) / ray[1];
            to_floor > 0.0 && (to_floor < to_wall || to_wall <= 0.0)
        };
        if is_floor {
            let [x, _, z] = sum(at, ray, (self.height - at[1]) / ray[1]);
            // Beneath the piece it is dark, and on the side away from the lamp.
            let aside = -0.25 * f64::from(lamp.0) * self.height;
            let near = covered(x, left, right, 40.0) * covered(z, -self.depth, 0.0, 40.0);
            let far = covered(x, left + aside, right + aside, 0.22 * self.height)
                * covered(z, -self.depth, 0.12 * self.height, 0.16 * self.height);
            let wall = 0.16 * (1.0 - ((z + self.depth + GAP) / 260.0).clamp(0.0, 1.0));
            return FLOOR * (1.0 - 0.55 * near).min(1.0 - 0.34 * far) as f32 * (1.0 - wall) as f32;
        }
        if to_wall <= 0.0 {
            return WALL;
        }
        let (aside, lower) =
            (-0.5 * f64::from(lamp.0) * (self.depth + GAP), -0.3 * f64::from(lamp.1) * (self.depth + GAP));
        let soft = 0.35 * self.depth + 60.0;
        let shadow = covered(wall[0], left + aside, right + aside, soft)
            * covered(wall[1], lower, self.height + soft, soft);
        let floor = if self.is_on_floor {
            0.10 * (1.0 - ((self.height - wall[1]) / 300.0).clamp(0.0, 1.0))
        } else {
            0.0
        };
        WALL * (1.0 - 0.30 * shadow) as f32 * (1.0 - floor) as f32
    }
}

/// A distance mirrored to and fro within a length, so that marks go on without a seam.
fn folded(distance: f64, length: f64) -> f64 {
    let length = length.max(1e-6);
    let turns = distance.rem_euclid(2.0 * length);
    if turns > length { 2.0 * length - turns } else { turns }
}

/// How much of a soft edge of this width is within two bounds, 0 to 1.
fn covered(at: f64, from: f64, to: f64, soft: f64) -> f64 {
    let rise = |v: f64| {
        let t = (v / soft + 0.5).clamp(0.0, 1.0);
        t * t * (3.0 - 2.0 * t)
    };
    rise(at - from) * rise(to - at)
}

/// Light on a plane against that on the front.
fn lit([x, y, z]: Point, shading: Shading) -> f32 {
    let Some(lamp) = shading.lamp() else { return 1.0 };
    let (across, down) = lamp.way();
    let facing = (x as f32 * across + y as f32 * down + z as f32).clamp(0.0, 1.3);
    // What faces the ceiling gets more of the room's light.
    let room = if y < 0.0 { 0.72 } else { 0.52 };
    room + 0.48 * facing
}

/// The flat picture of a face.
struct Flat<'a> {
    of: (View, bool),
    face: &'a Face,
    picture: &'a Picture,
    placed: Placed,
    linear: &'a [f32; 256],
}

impl Flat<'_> {
    /// Linear colour at a point of a part, mm; `None` beside its outline.
    fn at(&self, (x, y): (f64, f64), over: Rect) -> Option<[f32; 3]> {
        // The outermost pixels show some of what lies beside.
        let rim = |length: f64| (self.placed.mm).min(0.5 * length);
        let inner =
            |at: f64, from: f64, length: f64| at.clamp(from + rim(length), from + length - rim(length));
        let (x, y) = (inner(x, over.x, over.w), inner(y, over.y, over.h));
        self.face.parts.iter().any(|part| part.on.is_none() && part.holds(x, y)).then(|| {
            let (px, py) = self.placed.pixel(x, y);
            let (width, height) = (self.picture.width as usize, self.picture.height as usize);
            let (px, py) =
                ((px - 0.5).clamp(0.0, width as f64 - 1.0), (py - 0.5).clamp(0.0, height as f64 - 1.0));
            let (left, upper) = (px as usize, py as usize);
            let (right, lower) = ((left + 1).min(width - 1), (upper + 1).min(height - 1));
            let (u, v) = ((px - left as f64) as f32, (py - upper as f64) as f32);
            let pixel = |x: usize, y: usize| {
                let at = 3 * (y * width + x);
                [0, 1, 2].map(|channel| self.linear[usize::from(self.picture.rgb[at + channel])])
            };
            let (a, b, c, d) =
                (pixel(left, upper), pixel(right, upper), pixel(left, lower), pixel(right, lower));
            std::array::from_fn(|n| {
                (1.0 - v) * ((1.0 - u) * a[n] + u * b[n]) + v * ((1.0 - u) * c[n] + u * d[n])
            })
        })
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use warm_blend_piece::PieceKind;

    use super::*;

    fn any_piece() -> impl Strategy<Value = Elevation> {
        proptest::sample::select(PieceKind::ALL.to_vec()).prop_map(|kind| kind.usual().build().unwrap())
    }

    fn corner(elevation: &Elevation, turn: f64, up: f64) -> Corner {
        let from = Viewpoint::new(turn, up);
        Corner::new(elevation, from, (240, 180), Closer::WHOLE, Fineness::Quick).unwrap().unwrap()
    }

    /// Flat pictures of one grey for each face.
    fn greys(corner: &Corner) -> Vec<Picture> {
        let grey = |(view, _, (width, height)): (View, bool, (u32, u32))| {
            let code = match view {
                View::Front => 250,
                View::Side => 120,
                View::Top => 60,
            };
            Picture { width, height, rgb: vec![code; 3 * (width * height) as usize] }
        };
        corner.flats().map(grey).collect()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]

        /// In perspective the middle of a rectangle is where its diagonals cross (R. Hartley and A. Zisserman, *Multiple View Geometry
        /// in Computer Vision*, 2nd ed. (2004), §2.3: a projection keeps lines and where they meet).
        #[test]
        fn diagonals_cross_in_the_middle(piece in any_piece(), turn in -80.0..80.0f64, up in 0.0..60.0f64) {
            let corner = corner(&piece, turn, up);
            let (w, h) = (piece.faces[0].width, piece.faces[0].height);
            let seen = |x: f64, y: f64| corner.camera.project([x, y, 0.0]).unwrap();
            let ((ax, ay), (bx, by)) = (seen(0.0, 0.0), seen(w, h));
            let ((cx, cy), (dx, dy)) = (seen(w, 0.0), seen(0.0, h));
            // a + t (b − a) = c + s (d − c)
            let crossed = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx);
            let t = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / crossed;
            let (mx, my) = seen(0.5 * w, 0.5 * h);
            prop_assert!((ax + t * (bx - ax) - mx).hypot(ay + t * (by - ay) - my) < 1e-6);
        }

        /// The ray through the pixel of a point leads to that point.
        #[test]
        fn rays_lead_back(turn in -80.0..80.0f64, up in 0.0..60.0f64, x in 0.0..1000.0f64, y in 0.0..900.0f64, z in -450.0..0.0f64) {
            let corner = corner(&PieceKind::ChestOfDrawers.usual().build().unwrap(), turn, up);
            let (px, py) = corner.camera.project([x, y, z]).unwrap();
            let ray = corner.camera.ray(px, py);
            let to = sum([x, y, z], corner.camera.at, -1.0);
            let along = dot(to, ray) / dot(ray, ray);
            let off = sum(to, ray, -along);
            prop_assert!(along > 0.0 && dot(off, off).sqrt() < 1e-6);
        }

        /// Every kind of piece is seen whole, from every side, and only planes that face the camera.
        #[test]
        fn every_piece_is_seen_whole(piece in any_piece(), turn in -80.0..80.0f64, up in 0.0..60.0f64) {
            let corner = corner(&piece, turn, up);
            for plane in &corner.planes {
                prop_assert!(dot(sum(corner.camera.at, plane.least, -1.0), plane.normal()) > 0.0);
                for point in [plane.least, plane.most] {
                    let (x, y) = corner.camera.project(point).unwrap();
                    prop_assert!((0.0..240.0).contains(&x) && (0.0..180.0).contains(&y), "{} {}", x, y);
                }
            }
            let picture = corner.draw(&greys(&corner), Shading::None);
            prop_assert!(picture.rgb.contains(&250));
        }
    }

    /// Unshaded, a plane has the colour of its flat picture; from the right the right side is seen, from the left the left.
    #[test]
    fn planes_have_their_flat_colours() {
        let chest = PieceKind::ChestOfDrawers.usual().build().unwrap();
        let of = |turn: f64, up: f64| {
            let corner = corner(&chest, turn, up);
            let picture = corner.draw(&greys(&corner), Shading::None);
            let share = |code: u8, right: bool| {
                let at = (0..picture.width as usize * picture.height as usize)
                    .filter(|i| (i % picture.width as usize >= picture.width as usize / 2) == right);
                at.filter(|i| picture.rgb[3 * i] == code).count()
            };
            [
                share(250, false),
                share(250, true),
                share(120, false),
                share(120, true),
                share(60, false) + share(60, true),
            ]
        };
        let [front, _, left, right, top] = of(40.0, 20.0);
        assert!(front > 1000 && left == 0 && right > 1000 && top > 300, "{front} {left} {right} {top}");
        let [_, front, left, right, _] = of(-40.0, 20.0);
        assert!(front > 1000 && left > 1000 && right == 0, "{front} {left} {right}");
        let [_, _, left, right, top] = of(0.0, 0.0);
        assert_eq!([left, right, top], [0, 0, 0]);
    }

    /// What stands out hides what lies behind it: the shelf of an upright case hides part of the panels below from above.
    #[test]
    fn near_parts_hide_far_ones() {
        let case = PieceKind::UprightCase.usual().build().unwrap();
        let front = case.face(View::Front).unwrap();
        let below = front
            .parts
            .iter()
            .find(|part| {
                part.forward > 0.0
                    && part.zone == Zone::Fall
                    && part.shaping == warm_blend_piece::Shaping::Running
            })
            .unwrap();
        let corner = corner(&case, 0.0, 40.0);
        // Just below the shelf, on the case behind it.
        let hidden = [0.5 * front.width, below.rect.y + below.rect.h + 10.0, 0.0];
        let (x, y) = corner.camera.project(hidden).unwrap();
        let ray = corner.camera.ray(x, y);
        let nearest = corner
            .planes
            .iter()
            .filter_map(|plane| plane.met(corner.camera.at, ray, f64::INFINITY))
            .map(|(_, point)| point[2])
            .max_by(f64::total_cmp)
            .unwrap();
        assert!(nearest > 50.0, "{nearest}");
    }

    /// A table stands on four legs, with nothing between them.
    #[test]
    fn a_table_is_open_below() {
        let table = PieceKind::Table.usual().build().unwrap();
        let solid = Solid::of(&table).unwrap();
        let (w, h) = (table.faces[0].width, table.faces[0].height);
        let low = 0.8 * h;
        assert!(solid.inside([0.5 * w, low, -0.5 * solid.depth]).is_none());
        let leg = table.faces[0].parts.iter().find(|part| part.zone == Zone::Legs).unwrap().rect;
        let at = leg.x + 0.5 * leg.w;
        for x in [at, w - at] {
            for z in [-at, at - solid.depth] {
                assert!(solid.inside([x, low, z]).is_some(), "{x} {z}");
            }
            assert!(solid.inside([x, low, -0.5 * solid.depth]).is_none());
        }
    }
}
