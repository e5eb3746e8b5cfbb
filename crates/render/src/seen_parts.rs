//! The parts of a piece, outlined in a photo of it.

use warm_blend_photo::Point2;
use warm_blend_piece::{Elevation, Face, Part, Rect, View, Zone};

use crate::{
    camera::Camera,
    in_view::{Corrected, InView, SeenPoint},
    marked::{BadMarks, MarkedPhoto, found_camera},
    solid::{Plane, Solid, Wears},
    space::Point,
};

/// Where a photo shows a part of a piece.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SeenPart {
    /// The face that it belongs to.
    pub view: View,
    /// Its index on that face.
    pub part: usize,
    /// Its zone.
    pub zone: Zone,
    /// Its corners as they are seen, in widths of the photo: upper left, upper right, lower right, lower left.
    pub corners: [Point2; 4],
    /// The same corners on the face, mm; `None` for what is seen of it round its edge.
    pub on_face: Option<[Point2; 4]>,
}

impl MarkedPhoto<'_> {
    /// What is seen of the parts, and of their edges where they stand out; what lies over another comes after it. `high` is the height of
    /// the photo in its widths.
    pub fn parts(&self, elevation: &Elevation, high: f64) -> Result<Vec<SeenPart>, BadMarks> {
        let (camera, corrected) = found_camera(elevation, self, 1.0, high)?;
        let solid = Solid::of(elevation).ok_or(BadMarks::NoFront)?;
        let seen = InView::new(Camera::with_photo(&camera, 1.0), &solid);
        let outlines = Outlines { seen: &seen, corrected };
        let mut parts: Vec<(&Plane, SeenPart)> = Vec::new();
        for face in &elevation.faces {
            let outlined = |(n, part): (usize, &Part)| outlines.of_part(face, n, part);
            parts.extend(face.parts.iter().enumerate().filter_map(outlined));
        }
        parts.extend(seen.planes.iter().enumerate().filter_map(|(n, plane)| outlines.round(n, plane)));
        // What stands out farther lies over the rest, and fronts lie over what is round their edges.
        let order = |plane: &Plane| (plane.most[2], plane.axis == 2);
        parts.sort_by(|(one, _), (other, _)| {
            let ((out, is_front), (other_out, is_other_front)) = (order(one), order(other));
            out.total_cmp(&other_out).then(is_front.cmp(&is_other_front))
        });
        Ok(parts.into_iter().map(|(_, part)| part).collect())
    }
}

/// A camera that draws outlines.
struct Outlines<'a> {
    seen: &'a InView,
    corrected: Corrected,
}

impl<'a> Outlines<'a> {
    /// A part of a face that looks at the camera.
    fn of_part(&self, face: &Face, n: usize, part: &Part) -> Option<(&'a Plane, SeenPart)> {
        let view = face.view;
        let plane = plane_of(&self.seen.planes, face, part)?;
        let Rect { x, y, w, h } = part.rect;
        let mut on_face = [[x, y], [x + w, y], [x + w, y + h], [x, y + h]];
        if view == View::Side && plane.normal()[0] < 0.0 {
            // A side is drawn as the right one is seen.
            on_face = [on_face[1], on_face[0], on_face[3], on_face[2]];
        }
        let at = plane.least[plane.axis];
        let in_space = on_face.map(|[x, y]| match view {
            View::Front => [x, y, at],
            View::Side => [at, y, -x],
            View::Top => [x, at, y - self.seen.depth],
        });
        let corners = self.seen_at(view, in_space)?;
        Some((plane, SeenPart { view, part: n, zone: part.zone, corners, on_face: Some(on_face) }))
    }

    /// What is seen round the edge of a part of the front.
    fn round(&self, n: usize, plane: &'a Plane) -> Option<(&'a Plane, SeenPart)> {
        if let Wears::Face(..) = plane.wears {
            return None;
        }
        let point = self.seen.middle(n)?;
        let (least, most) = (plane.least, plane.most);
        let in_space = match plane.axis {
            0 => [
                [least[0], least[1], most[2]],
                [least[0], least[1], least[2]],
                [least[0], most[1], least[2]],
                most,
            ],
            1 => [least, [most[0], least[1], least[2]], most, [least[0], least[1], most[2]]],
            _ => [least, [most[0], least[1], least[2]], most, [least[0], most[1], least[2]]],
        };
        let corners = self.seen_at(point.view, in_space)?;
        let SeenPoint { view, part, zone, .. } = point;
        Some((plane, SeenPart { view, part, zone, corners, on_face: None }))
    }

    fn seen_at(&self, view: View, in_space: [Point; 4]) -> Option<[Point2; 4]> {
        let [a, b, c, d] = in_space.map(|corner| {
            let (x, y) = self.seen.camera.project(corner)?;
            self.corrected.marked(view, [x, y])
        });
        Some([a?, b?, c?, d?])
    }
}

/// The plane that shows a part, or what it is set flush into.
fn plane_of<'a>(planes: &'a [Plane], face: &Face, part: &Part) -> Option<&'a Plane> {
    let shown = planes.iter().find(|plane| plane.wears == Wears::Face(face.view, part.rect));
    shown.or_else(|| plane_of(planes, face, face.parts.get(part.on?)?))
}
