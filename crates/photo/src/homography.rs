//! The plane of a face in a photo.
//!
//! A pinhole camera maps a plane to the photo by a homography: (x, y, 1) ↦ H · (x, y, 1), up to scale. Four points and where they are seen
//! fix its eight ratios (R. Hartley and A. Zisserman, *Multiple View Geometry in Computer Vision*, 2nd ed. (2004), §2.3 and §4.1).

use nalgebra::{Matrix3, SMatrix, SVector, Vector3};

/// A point of a plane, in any unit.
pub type Point2 = [f64; 2];

/// A map of one plane to another that keeps lines straight.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Homography(Matrix3<f64>);

/// Why four corners do not show a face.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum BadCorners {
    /// Two sides cross, or a corner points inwards.
    #[error("the sides cross; put the corners in order: upper left, upper right, lower right, lower left")]
    Crossed,
    /// They run the wrong way round.
    #[error("the face is seen from behind; swap its left and right corners")]
    Behind,
    /// Too little between them.
    #[error("two corners are too close together; pull them apart")]
    Narrow,
    /// Not a number, or far outside.
    #[error("a corner is outside the photo; move it back")]
    Outside,
}

/// Least area of a marked face, of a square with the width of the photo.
const LEAST: f64 = 1e-4;

/// Twice the area of a triangle; positive if its corners run clockwise, where y points down.
pub(crate) fn turn(a: Point2, b: Point2, c: Point2) -> f64 {
    (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
}

/// Checks the corners of a face in a photo: upper left, upper right, lower right, lower left, in widths of the photo.
pub fn check_corners(corners: &[Point2; 4]) -> Result<(), BadCorners> {
    if corners.iter().flatten().any(|v| !v.is_finite() || v.abs() > 8.0) {
        return Err(BadCorners::Outside);
    }
    let turns: [f64; 4] =
        std::array::from_fn(|i| turn(corners[i], corners[(i + 1) % 4], corners[(i + 2) % 4]));
    if turns.iter().any(|turn| turn.abs() < LEAST) {
        return Err(BadCorners::Narrow);
    }
    match turns.iter().filter(|turn| **turn > 0.0).count() {
        4 => Ok(()),
        0 => Err(BadCorners::Behind),
        _ => Err(BadCorners::Crossed),
    }
}

impl Homography {
    /// The map that takes four points to four others; `None` if three of them are in line.
    pub fn between(from: &[Point2; 4], to: &[Point2; 4]) -> Option<Self> {
        // Both are moved to about the origin and scaled first, so that rounding does not matter (§4.4.4).
        let (centred, from) = centred(from);
        let (seen, to) = self::centred(to);
        let mut a = SMatrix::<f64, 8, 8>::zeros();
        let mut b = SVector::<f64, 8>::zeros();
        for (i, ([x, y], [u, v])) in from.into_iter().zip(to).enumerate() {
            a.row_mut(2 * i).copy_from_slice(&[x, y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y]);
            a.row_mut(2 * i + 1).copy_from_slice(&[0.0, 0.0, 0.0, x, y, 1.0, -v * x, -v * y]);
            (b[2 * i], b[2 * i + 1]) = (u, v);
        }
        let h = a.lu().solve(&b)?;
        let h = Matrix3::new(h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1.0);
        let h = seen.try_inverse()? * h * centred;
        (h.iter().all(|v| v.is_finite()) && h.determinant().abs() > 1e-12 * h.norm().powi(3))
            .then_some(Self(h))
    }

    /// Where a point is mapped to; `None` on or behind the horizon.
    pub fn map(&self, [x, y]: Point2) -> Option<Point2> {
        let seen = self.0 * Vector3::new(x, y, 1.0);
        (seen.z > 1e-9 * self.0.norm()).then(|| [seen.x / seen.z, seen.y / seen.z])
    }

    /// The map back.
    pub fn inverse(&self) -> Option<Self> {
        let inverse = self.0.try_inverse()?;
        // With the sign that keeps what is in front in front.
        Some(Self(inverse * self.0.determinant().signum()))
    }
}

/// The map that centres points and scales them to about 1, and the points after it.
fn centred(points: &[Point2; 4]) -> (Matrix3<f64>, [Point2; 4]) {
    let mean = |axis: usize| points.iter().map(|point| point[axis]).sum::<f64>() / 4.0;
    let (x, y) = (mean(0), mean(1));
    let spread = points.iter().map(|point| (point[0] - x).hypot(point[1] - y)).sum::<f64>() / 4.0;
    let scale = 1.0 / spread.max(f64::MIN_POSITIVE);
    let map = Matrix3::new(scale, 0.0, -scale * x, 0.0, scale, -scale * y, 0.0, 0.0, 1.0);
    (map, points.map(|[u, v]| [scale * (u - x), scale * (v - y)]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const SQUARE: [Point2; 4] = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];

    fn any_face() -> impl Strategy<Value = [Point2; 4]> {
        proptest::array::uniform8(-0.12..0.12f64)
            .prop_map(|d| std::array::from_fn(|i| [SQUARE[i][0] + d[2 * i], SQUARE[i][1] + d[2 * i + 1]]))
    }

    proptest! {
        /// Corners go where they are seen, and back; lines stay straight.
        #[test]
        fn corners_go_to_corners(face in any_face(), size in 0.1..3000.0f64, x in 0.0..1.0f64, y in 0.0..1.0f64) {
            let from = SQUARE.map(|[u, v]| [size * u, 0.7 * size * v]);
            let map = Homography::between(&from, &face).unwrap();
            for (from, to) in from.into_iter().zip(face) {
                let [u, v] = map.map(from).unwrap();
                prop_assert!((u - to[0]).hypot(v - to[1]) < 1e-9);
            }
            let at = [size * x, size * y];
            let there = map.map(at).unwrap();
            let back = map.inverse().unwrap().map(there).unwrap();
            prop_assert!((back[0] - at[0]).hypot(back[1] - at[1]) < 1e-7 * size);
            let ends = [map.map([0.0, at[1]]).unwrap(), map.map([size, at[1]]).unwrap()];
            prop_assert!(turn(ends[0], there, ends[1]).abs() < 1e-9);
        }

        #[test]
        fn a_face_from_behind_is_refused(face in any_face()) {
            prop_assert_eq!(check_corners(&face), Ok(()));
            let [a, b, c, d] = face;
            prop_assert_eq!(check_corners(&[b, a, d, c]), Err(BadCorners::Behind));
            prop_assert_eq!(check_corners(&[a, c, b, d]), Err(BadCorners::Crossed));
            prop_assert!(check_corners(&[a, a, c, d]).is_err());
            prop_assert_eq!(check_corners(&[[f64::NAN, 0.0], b, c, d]), Err(BadCorners::Outside));
        }
    }

    /// Points and where they are seen, by OpenCV 5.0.0 and scikit-image 0.26.0 (`data/make_homography.py`).
    const LIBRARY: [(Point2, Point2); 5] = [
        ([450.0, 390.0], [775.59261135, 612.50650862]),
        ([0.0, 390.0], [300.99008824, 619.15384975]),
        ([900.0, 100.0], [1196.93714034, 350.62606831]),
        ([33.0, 700.0], [329.32709291, 929.90263723]),
        ([120.5, 61.25], [448.4336803, 280.53450698]),
    ];

    #[test]
    fn libraries_agree() {
        let from = [[0.0, 0.0], [900.0, 0.0], [900.0, 780.0], [0.0, 780.0]];
        let to = [[312.5, 208.25], [1204.0, 260.5], [1150.75, 940.0], [290.0, 1011.5]];
        let map = Homography::between(&from, &to).unwrap();
        for (at, seen) in LIBRARY {
            let [x, y] = map.map(at).unwrap();
            assert!((x - seen[0]).hypot(y - seen[1]) < 1e-6, "{at:?}: {x} {y}");
        }
    }
}
