//! Faces of a piece marked in a photo, and the camera that saw them so.

use warm_blend_photo::{BadCorners, Homography, PhotoSpot, Pinhole, Point2, check_corners};
use warm_blend_piece::{Elevation, View};

use crate::{in_view::Corrected, solid::depth, space::Point};

/// Where faces of a piece are seen in a photo, and what to leave alone.
#[derive(Debug, Clone, Copy)]
pub struct MarkedPhoto<'a> {
    /// Faces and their corners: upper left, upper right, lower right, lower left, in widths of the photo.
    pub faces: &'a [(View, [Point2; 4])],
    /// Outlines of what stands in front, in widths of the photo.
    pub hidden: &'a [Vec<Point2>],
    /// What a perfect white reads in each channel, linear, where the card is.
    pub white: [f64; 3],
    /// The card; the light there is that of `white`.
    pub card: Option<PhotoSpot>,
}

/// Why a finish cannot be shown on a photo.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum BadMarks {
    /// No face is marked.
    #[error("mark the corners of the front first")]
    NoFront,
    /// The piece has no such face.
    #[error("this piece has no such face; mark another")]
    NoFace,
    /// Wrong corners of a face, with its index.
    #[error("{1}")]
    Corners(usize, BadCorners),
    /// No camera sees the faces so.
    #[error("the marked corners do not fit together; check each of them")]
    NoCamera,
}

impl<'a> MarkedPhoto<'a> {
    /// Only where the faces are, for what does not depend on the light.
    pub fn of(faces: &'a [(View, [Point2; 4])]) -> Self {
        Self { faces, hidden: &[], white: [1.0; 3], card: None }
    }

    /// Whether an outline of what stands in front holds a point, in widths of the photo.
    pub(crate) fn hides(&self, at: Point2) -> bool {
        self.hidden.iter().any(|outline| is_inside(outline, at))
    }
}

/// Points of a piece, and where they are marked.
pub(crate) type Points = Vec<(Point, Point2)>;

/// The corners of the marked faces, in their order.
pub(crate) fn marked_points(elevation: &Elevation, marked: &MarkedPhoto) -> Result<Points, BadMarks> {
    if !marked.faces.iter().any(|(view, _)| *view == View::Front) {
        return Err(BadMarks::NoFront);
    }
    let mut points = Points::new();
    for (n, (view, corners)) in marked.faces.iter().enumerate() {
        check_corners(corners).map_err(|error| BadMarks::Corners(n, error))?;
        let is_right = *view != View::Side || is_right_of_front(marked, corners);
        let in_space = face_corners(elevation, *view, is_right).ok_or(BadMarks::NoFace)?;
        points.extend(in_space.into_iter().zip(*corners));
    }
    Ok(points)
}

/// A camera whose points are farther from where they should be is none, in widths of the photo.
pub(crate) const FITS: f64 = 0.08;

/// The camera that saw the marked faces, and how each face is moved so that its corners lie where they were marked.
pub(crate) fn found_camera(
    elevation: &Elevation,
    marked: &MarkedPhoto,
    width: f64,
    height: f64,
) -> Result<(Pinhole, Corrected), BadMarks> {
    let points = marked_points(elevation, marked)?;
    let camera = Pinhole::fit(&points, height / width).ok_or(BadMarks::NoCamera)?;
    if camera.error > FITS {
        return Err(BadMarks::NoCamera);
    }
    let mut corrected = Corrected::default();
    for ((view, corners), in_space) in marked.faces.iter().zip(points.chunks_exact(4)) {
        let seen: Option<Vec<Point2>> = in_space.iter().map(|(point, _)| camera.sees(*point)).collect();
        let seen: Option<[Point2; 4]> = seen.and_then(|seen| seen.try_into().ok());
        let pixels = |corners: [Point2; 4]| corners.map(|corner| corner.map(|v| v * width));
        let back = seen.and_then(|seen| Homography::between(&pixels(*corners), &pixels(seen)));
        corrected.set(*view, back.ok_or(BadMarks::NoCamera)?);
    }
    Ok((camera, corrected))
}

/// Whether a side lies to the right of the front in the photo.
fn is_right_of_front(marked: &MarkedPhoto, side: &[Point2; 4]) -> bool {
    let middle = |corners: &[Point2; 4]| corners.iter().map(|corner| corner[0]).sum::<f64>();
    let front = marked.faces.iter().find(|(view, _)| *view == View::Front);
    front.is_none_or(|(_, front)| middle(side) > middle(front))
}

/// Corners of a face in space, as it is seen: upper left, upper right, lower right, lower left, mm.
pub fn face_corners(elevation: &Elevation, view: View, is_right: bool) -> Option<[Point; 4]> {
    elevation.face(view)?;
    let front = elevation.face(View::Front)?;
    let (w, h, d) = (front.width, front.height, depth(elevation)?);
    Some(match view {
        View::Front => [[0.0, 0.0, 0.0], [w, 0.0, 0.0], [w, h, 0.0], [0.0, h, 0.0]],
        View::Side if is_right => [[w, 0.0, 0.0], [w, 0.0, -d], [w, h, -d], [w, h, 0.0]],
        View::Side => [[0.0, 0.0, -d], [0.0, 0.0, 0.0], [0.0, h, 0.0], [0.0, h, -d]],
        View::Top => [[0.0, 0.0, -d], [w, 0.0, -d], [w, 0.0, 0.0], [0.0, 0.0, 0.0]],
    })
}

/// Whether a point lies inside an outline (crossings of a ray: M. Shimrat, *Commun. ACM* 5 (1962) 434).
fn is_inside(outline: &[Point2], [x, y]: Point2) -> bool {
    let crosses = |i: usize| {
        let ([ax, ay], [bx, by]) = (outline[i], outline[(i + 1) % outline.len()]);
        (ay > y) != (by > y) && x < ax + (y - ay) / (by - ay) * (bx - ax)
    };
    (0..outline.len()).filter(|i| crosses(*i)).count() % 2 == 1
}
