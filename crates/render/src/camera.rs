//! A pinhole camera, and where it stands.

use warm_blend_photo::Pinhole;

use crate::{
    placed::Closer,
    space::{Point, corners, dot, sum},
};

/// Room around a piece, as a share of the picture.
const ROOM: f64 = 0.07;
/// Distance of the camera, in diagonals of the piece: as in a room.
const DISTANCE: f64 = 2.3;

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

/// A pinhole camera.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Camera {
    pub at: Point,
    pub forward: Point,
    right: Point,
    down: Point,
    /// Focal length and principal point, pixels.
    pub focal: f64,
    centre: (f64, f64),
}

impl Camera {
    /// Looks at the middle of a box, which fills the picture.
    pub fn of(
        least: Point,
        most: Point,
        from: Viewpoint,
        (width, height): (f64, f64),
        closer: Closer,
    ) -> Self {
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
        let (x, y) = closer.seen_middle();
        let whole = (
            0.5 * width - camera.focal * 0.5 * (left + far),
            0.5 * height - camera.focal * 0.5 * (upper + low),
        );
        camera.centre = (
            0.5 * width + by * (whole.0 - 0.5 * width - (x - 0.5) * width),
            0.5 * height + by * (whole.1 - 0.5 * height - (y - 0.5) * height),
        );
        camera.focal *= by;
        camera
    }

    /// The camera of a photo that is this many pixels wide.
    pub fn with_photo(camera: &Pinhole, width: f64) -> Self {
        let Pinhole { at, forward, right, down, focal, centre, .. } = *camera;
        Self {
            at,
            forward,
            right,
            down,
            focal: focal * width,
            centre: (centre[0] * width, centre[1] * width),
        }
    }

    /// Pixel at which a point is seen; `None` behind the camera.
    pub fn project(&self, point: Point) -> Option<(f64, f64)> {
        let to = sum(point, self.at, -1.0);
        let depth = dot(to, self.forward);
        (depth > 1.0).then(|| {
            let scale = self.focal / depth;
            (self.centre.0 + scale * dot(to, self.right), self.centre.1 + scale * dot(to, self.down))
        })
    }

    /// Direction of the ray through a point of the picture; its part along [`Camera::forward`] is the focal length.
    pub fn ray(&self, x: f64, y: f64) -> Point {
        let along = sum([0.0; 3], self.forward, self.focal);
        sum(sum(along, self.right, x - self.centre.0), self.down, y - self.centre.1)
    }
}
