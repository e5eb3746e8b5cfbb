//! What a camera sees of a solid.

use std::collections::BTreeSet;

use warm_blend_photo::{Homography, Point2};
use warm_blend_piece::{Face, Rect, View, Zone};

use crate::{
    camera::Camera,
    flat::FlatFace,
    solid::{Plane, Solid, Wears, folded},
    space::{Point, corners, dot, sum},
};

/// Steps in which flat pictures of faces grow.
const STEP: f64 = 1.25;
/// Longest side of the flat picture of a face, pixels.
const LARGEST: f64 = 1600.0;

/// The planes of a solid that face a camera.
#[derive(Debug)]
pub(crate) struct InView {
    pub camera: Camera,
    pub planes: Vec<Plane>,
    pub depth: f64,
    /// Left, upper, right and lower bound of each in the picture.
    boxes: Vec<[f64; 4]>,
    /// Front, side and top.
    faces: Vec<Face>,
    /// Distance of the nearest corner of the piece along the optical axis, mm.
    nearest: f64,
}

/// For front, side and top: from where a point of the face is seen to where the camera would see it.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Corrected([Option<Homography>; 3]);

impl Corrected {
    pub fn set(&mut self, view: View, back: Homography) {
        self.0[face_number(view)] = Some(back);
    }

    /// Where a point of a face lies that the camera would see there.
    pub fn marked(&self, view: View, seen: Point2) -> Option<Point2> {
        self.0[face_number(view)].map_or(Some(seen), |back| back.inverse()?.map(seen))
    }
}

fn face_number(view: View) -> usize {
    match view {
        View::Front => 0,
        View::Side => 1,
        View::Top => 2,
    }
}

/// A point of a solid that is seen.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Met {
    /// Index of its plane.
    pub plane: usize,
    pub point: Point,
    /// Where on the flat picture it lies, mm, and the part that it must not leave.
    pub flat: (f64, f64),
    pub over: Rect,
}

/// A point of the piece that is seen.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SeenPoint {
    /// The face whose finish it wears.
    pub view: View,
    /// Position on that face, mm.
    pub at: (f64, f64),
    /// Its zone.
    pub zone: Zone,
    /// Index of its part on the face.
    pub part: usize,
    /// Position in space, mm: x to the right, y down, z towards the viewer.
    pub point: [f64; 3],
    /// Unit vector away from the surface.
    pub normal: [f64; 3],
}

impl InView {
    pub fn new(camera: Camera, solid: &Solid) -> Self {
        let mut planes = solid.planes.clone();
        let (least, most) = solid.bounds();
        planes.retain(|plane| dot(sum(camera.at, plane.least, -1.0), plane.normal()) > 0.0);
        let boxes = planes.iter().map(|plane| seen_within(&camera, plane)).collect();
        let away = corners(least, most).map(|corner| dot(sum(corner, camera.at, -1.0), camera.forward));
        let nearest = away.fold(f64::INFINITY, f64::min).max(1.0);
        Self { camera, planes, depth: solid.depth, boxes, faces: solid.faces.clone(), nearest }
    }

    /// Planes that a row of pixels may show.
    pub fn row(&self, y: f64) -> Vec<usize> {
        (0..self.boxes.len()).filter(|n| self.boxes[*n][1] <= y && y <= self.boxes[*n][3]).collect()
    }

    /// The nearest point at a position of the picture, among the planes of its [`InView::row`].
    pub fn nearest(&self, row: &[usize], x: f64, y: f64) -> Option<Met> {
        let seen = ([x, y], self.camera.ray(x, y));
        self.first(row.iter().copied(), |_| Some(seen))
    }

    /// The nearest point among all planes, where faces lie a little beside where the camera would see them.
    pub fn nearest_by(&self, x: f64, y: f64, corrected: &Corrected) -> Option<Met> {
        let seen = corrected.0.map(|face| {
            let [x, y] = face.map_or(Some([x, y]), |face| face.map([x, y]))?;
            Some(([x, y], self.camera.ray(x, y)))
        });
        self.first(0..self.planes.len(), |view| seen[face_number(view)])
    }

    /// The nearest point of some planes. `seen` tells for each face which position of the picture is looked at, and the ray through it.
    fn first(
        &self,
        planes: impl Iterator<Item = usize>,
        seen: impl Fn(View) -> Option<([f64; 2], Point)>,
    ) -> Option<Met> {
        let mut before = f64::INFINITY;
        let mut nearest = None;
        for plane in planes {
            let (view, _) = self.planes[plane].wears.flat();
            let Some(([x, y], ray)) = seen(view) else { continue };
            let [left, upper, right, lower] = self.boxes[plane];
            if x < left || x > right || y < upper || y > lower {
                continue;
            }
            let Some((way, point)) = self.planes[plane].met(self.camera.at, ray, before) else { continue };
            let (flat, over) = self.flat_point(&self.planes[plane], point);
            if self.face(view).is_some_and(|face| is_of(face, flat)) {
                (before, nearest) = (way, Some(Met { plane, point, flat, over }));
            }
        }
        nearest
    }

    fn face(&self, view: View) -> Option<&Face> {
        self.faces.iter().find(|face| face.view == view)
    }

    /// What is there on the face.
    pub fn point(&self, met: &Met) -> Option<SeenPoint> {
        let plane = &self.planes[met.plane];
        let (view, _) = plane.wears.flat();
        let face = self.face(view)?;
        let (x, y) = met.flat;
        let part = face.parts.iter().rposition(|part| part.holds(x, y))?;
        let (zone, normal) = (face.parts[part].zone, plane.normal());
        Some(SeenPoint { view, at: met.flat, zone, part, point: met.point, normal })
    }

    /// What is at the middle of a plane.
    pub fn middle(&self, plane: usize) -> Option<SeenPoint> {
        let Plane { least, most, .. } = self.planes[plane];
        let point = std::array::from_fn(|axis| 0.5 * (least[axis] + most[axis]));
        let (flat, over) = self.flat_point(&self.planes[plane], point);
        self.point(&Met { plane, point, flat, over })
    }

    /// Where on its flat picture a point of a plane lies, mm, and the part that it must not leave.
    fn flat_point(&self, plane: &Plane, [x, y, z]: Point) -> ((f64, f64), Rect) {
        let back = (-z).clamp(0.0, self.depth);
        let (at, over) = match plane.wears {
            Wears::Face(View::Front, over) => ((x, y), over),
            Wears::Face(View::Side, over) => ((back, y), over),
            Wears::Face(View::Top, over) => ((x, self.depth - back), over),
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
        };
        // The outermost points belong to it too.
        let inner = |at: f64, from: f64, length: f64| at.clamp(from + 1e-6, from + (length - 1e-6).max(1e-6));
        ((inner(at.0, over.x, over.w), inner(at.1, over.y, over.h)), over)
    }

    /// Faces that are seen, with or without their patterns, and the sizes of their flat pictures where a pixel is drawn this many
    /// times across.
    pub fn flats(&self, times: f64) -> Vec<FlatFace> {
        // Pixels of a mm where it is nearest.
        let nearest = self.camera.focal / self.nearest / times;
        let size = |face: &Face| {
            // In steps, so that a piece that turns keeps its flat pictures.
            let scale = STEP.powf((nearest.ln() / STEP.ln()).ceil());
            let scale = scale.min(LARGEST / face.width.max(face.height));
            let pixels = |mm: f64| ((mm * scale / 0.9).round() as u32).clamp(48, 4096);
            (pixels(face.width), pixels(face.height))
        };
        let flats: BTreeSet<(View, bool)> = self.planes.iter().map(|plane| plane.wears.flat()).collect();
        let face = |(view, patterned): (View, bool)| {
            let face = self.face(view)?;
            Some(FlatFace { face: face.clone(), patterned, size: size(face) })
        };
        flats.into_iter().filter_map(face).collect()
    }

    /// For each plane the index of its flat picture.
    pub fn by_plane(&self, faces: &[FlatFace]) -> Vec<Option<usize>> {
        let of = |plane: &Plane| {
            let (view, patterned) = plane.wears.flat();
            faces.iter().position(|face| face.face.view == view && face.patterned == patterned)
        };
        self.planes.iter().map(of).collect()
    }
}

/// Whether a point lies within the outline of a part of a face.
fn is_of(face: &Face, (x, y): (f64, f64)) -> bool {
    face.parts.iter().any(|part| part.on.is_none() && part.holds(x, y))
}

/// Left, upper, right and lower bound of a plane in the picture; all of it where a corner lies behind the camera.
fn seen_within(camera: &Camera, plane: &Plane) -> [f64; 4] {
    let mut bounds = [f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY];
    for corner in corners(plane.least, plane.most) {
        let Some((x, y)) = camera.project(corner) else {
            return [f64::NEG_INFINITY, f64::NEG_INFINITY, f64::INFINITY, f64::INFINITY];
        };
        bounds = [bounds[0].min(x), bounds[1].min(y), bounds[2].max(x), bounds[3].max(y)];
    }
    bounds
}
