//! Where the camera stood.
//!
//! Points of known position and where they are seen fix the camera (resection: R. Hartley and A. Zisserman, *Multiple View Geometry in
//! Computer Vision*, 2nd ed. (2004), §7). Pixels are taken to be square, and the optical axis to meet the middle of the photo. The points
//! of a single plane that faces the camera leave the focal length open; then it is that of a telephone's main camera.

use nalgebra::{Matrix3, Rotation3, SMatrix, SVector, Vector3};

use crate::Point2;

/// A pinhole camera. Lengths are in the unit of the points, x to the right, y down and z towards the viewer.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pinhole {
    /// Position.
    pub at: [f64; 3],
    /// Unit vectors: its optical axis, and right and down in the photo.
    pub forward: [f64; 3],
    /// Right.
    pub right: [f64; 3],
    /// Down.
    pub down: [f64; 3],
    /// Focal length, in widths of the photo.
    pub focal: f64,
    /// Where the optical axis meets the photo, in its widths.
    pub centre: Point2,
    /// Root mean square distance of the points from where they should be seen, in widths of the photo.
    pub error: f64,
    /// Sum of the squares of what does not fit, each in its standard deviations: the points, and the focal length from the usual one.
    pub misfit: f64,
}

/// Focal length of a telephone's main camera, of the longer side of the photo (26 mm where the film is 36 mm wide)†.
const USUAL: f64 = 0.72;
/// And how much it varies, standard deviation of its logarithm†.
const VARIES: f64 = 0.4;
/// How exactly points are marked, in widths of the photo†.
const MARKED: f64 = 0.002;

/// Unknowns: logarithm of the focal length, turns about three axes, and the position.
type Unknowns = SVector<f64, 7>;

/// A camera that is being fitted.
#[derive(Clone)]
struct Fit<'a> {
    points: &'a [([f64; 3], Point2)],
    centre: Point2,
    usual: f64,
    /// From space to the axes of the camera.
    turned: Matrix3<f64>,
    to: Vector3<f64>,
    log_focal: f64,
}

impl Fit<'_> {
    fn moved(&self, by: &Unknowns) -> Self {
        let turn = Rotation3::new(Vector3::new(by[1], by[2], by[3]));
        let turned = turn.matrix() * self.turned;
        let to = self.to + Vector3::new(by[4], by[5], by[6]);
        Self { turned, to, log_focal: self.log_focal + by[0], ..self.clone() }
    }

    /// How far each point is from where it should be, in standard deviations, and the focal length from the usual one.
    fn off(&self) -> Vec<f64> {
        let focal = self.log_focal.exp();
        let mut off: Vec<f64> = self
            .points
            .iter()
            .flat_map(|([x, y, z], [u, v])| {
                let seen = self.turned * Vector3::new(*x, *y, *z) + self.to;
                // Behind the camera it is wrong by as much as it is behind.
                let depth = seen.z.max(1e-3);
                let behind = (1e-3 - seen.z).max(0.0) * 1e3;
                [
                    (self.centre[0] + focal * seen.x / depth - u) / MARKED + behind,
                    (self.centre[1] + focal * seen.y / depth - v) / MARKED + behind,
                ]
            })
            .collect();
        off.push((self.log_focal - self.usual) / VARIES);
        off
    }
}

fn squares(off: &[f64]) -> f64 {
    off.iter().map(|v| v * v).sum()
}

/// Points of a piece, and how large they are together in space and in the photo.
struct Resection<'a> {
    points: &'a [([f64; 3], Point2)],
    /// Mean of the points in space, and of where they are seen.
    middle: Vector3<f64>,
    seen: Point2,
    /// Greatest distance from it in space.
    size: f64,
    /// And in the photo, in its widths.
    spread: f64,
    centre: Point2,
    /// Logarithm of the usual focal length, in widths of the photo.
    usual: f64,
}

impl<'a> Resection<'a> {
    fn new(points: &'a [([f64; 3], Point2)], high: f64) -> Option<Self> {
        if points.len() < 4 {
            return None;
        }
        let n = points.len() as f64;
        let middle = points.iter().map(|(point, _)| Vector3::from(*point)).sum::<Vector3<f64>>() / n;
        let seen = [0, 1].map(|axis| points.iter().map(|(_, at)| at[axis]).sum::<f64>() / n);
        let from_middle = |(point, _): &([f64; 3], Point2)| (Vector3::from(*point) - middle).norm();
        let from_seen = |(_, at): &([f64; 3], Point2)| (at[0] - seen[0]).hypot(at[1] - seen[1]);
        Some(Self {
            points,
            middle,
            seen,
            size: points.iter().map(from_middle).fold(0.0, f64::max),
            spread: points.iter().map(from_seen).fold(f64::MIN_POSITIVE, f64::max),
            centre: [0.5, 0.5 * high],
            usual: (USUAL * high.max(1.0)).ln(),
        })
    }

    /// The usual camera, turned and raised by so many degrees.
    fn usual(&self, turn: f64, up: f64) -> Fit<'a> {
        let (sin, cos) = turn.to_radians().sin_cos();
        let (above, level) = up.to_radians().sin_cos();
        let forward = Vector3::new(-sin * level, above, -cos * level);
        let right = Vector3::new(cos, 0.0, -sin);
        let down = Vector3::new(sin * above, level, cos * above);
        let turned = Matrix3::from_rows(&[right.transpose(), down.transpose(), forward.transpose()]);
        // As far away as the points are small, and towards where they are seen.
        let away = self.usual.exp() * self.size / self.spread;
        let aside = [0, 1].map(|axis| (self.seen[axis] - self.centre[axis]) * away / self.usual.exp());
        self.at(turned, Vector3::new(aside[0], aside[1], away) - turned * self.middle, self.usual)
    }

    fn at(&self, turned: Matrix3<f64>, to: Vector3<f64>, log_focal: f64) -> Fit<'a> {
        Fit { points: self.points, centre: self.centre, usual: self.usual, turned, to, log_focal }
    }

    /// The best camera that is found from where the search begins.
    fn best(&self, starts: impl Iterator<Item = Fit<'a>>) -> Option<Pinhole> {
        // Positions are fitted in sizes of the piece.
        let fits = starts.map(|start| fitted(start, self.size));
        let (best, misfit) = fits.min_by(|one, other| one.1.total_cmp(&other.1))?;
        let off = best.off();
        let n = self.points.len();
        let error = (squares(&off[..2 * n]) / n as f64).sqrt() * MARKED;
        let row = |axis: usize| -> [f64; 3] { std::array::from_fn(|i| best.turned[(axis, i)]) };
        let at: Vector3<f64> = -best.turned.transpose() * best.to;
        error.is_finite().then(|| Pinhole {
            at: at.into(),
            forward: row(2),
            right: row(0),
            down: row(1),
            focal: best.log_focal.exp(),
            centre: self.centre,
            error,
            misfit,
        })
    }
}

impl Pinhole {
    /// Fits a camera to at least four points (K. Levenberg, *Q. Appl. Math.* 2 (1944) 164); `high` is the height of the photo in its
    /// widths. `None` where no camera sees them so.
    pub fn fit(points: &[([f64; 3], Point2)], high: f64) -> Option<Self> {
        let of = Resection::new(points, high)?;
        let turns = [-60.0, -30.0, 0.0, 30.0, 60.0];
        let starts = turns.into_iter().flat_map(|turn| [0.0, 25.0].map(|up| of.usual(turn, up)));
        of.best(starts)
    }

    /// Fits a camera to points that have changed a little since this one was fitted.
    pub fn refit(&self, points: &[([f64; 3], Point2)], high: f64) -> Option<Self> {
        let of = Resection::new(points, high)?;
        let axes = [self.right, self.down, self.forward].map(|axis| Vector3::from(axis).transpose());
        let turned = Matrix3::from_rows(&axes);
        of.best(std::iter::once(of.at(turned, -turned * Vector3::from(self.at), self.focal.ln())))
    }

    /// Where a point is seen, in widths of the photo; `None` behind the camera.
    pub fn sees(&self, point: [f64; 3]) -> Option<Point2> {
        let to: [f64; 3] = std::array::from_fn(|axis| point[axis] - self.at[axis]);
        let along = |way: [f64; 3]| to[0] * way[0] + to[1] * way[1] + to[2] * way[2];
        let depth = along(self.forward);
        let scale = self.focal / depth;
        (depth > 0.0)
            .then(|| [self.centre[0] + scale * along(self.right), self.centre[1] + scale * along(self.down)])
    }
}

/// The nearest least sum of squares, and what it is.
fn fitted<'a>(mut fit: Fit<'a>, size: f64) -> (Fit<'a>, f64) {
    /// Steps of the numeric derivatives: of the unknowns, the position in sizes of the piece.
    const STEP: f64 = 1e-6;
    let scaled = |mut by: Unknowns| {
        (4..7).for_each(|i| by[i] *= size);
        by
    };
    let mut off = fit.off();
    let mut damping = 1e-2;
    for _ in 0..60 {
        let columns: [Vec<f64>; 7] = std::array::from_fn(|i| {
            let mut by = Unknowns::zeros();
            by[i] = STEP;
            let moved = fit.moved(&scaled(by)).off();
            moved.iter().zip(&off).map(|(moved, off)| (moved - off) / STEP).collect()
        });
        let product = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| a * b).sum::<f64>();
        let normal = SMatrix::<f64, 7, 7>::from_fn(|i, j| product(&columns[i], &columns[j]));
        let towards = Unknowns::from_fn(|i, _| -product(&columns[i], &off));
        let before = squares(&off);
        let mut better = None;
        for _ in 0..8 {
            let mut damped = normal;
            (0..7).for_each(|i| damped[(i, i)] *= 1.0 + damping);
            let next = damped.cholesky().map(|solved| fit.moved(&scaled(solved.solve(&towards))));
            if let Some(next) = next.filter(|next| squares(&next.off()) < before) {
                better = Some(next);
                damping *= 0.2;
                break;
            }
            damping *= 8.0;
        }
        let Some(next) = better else { break };
        fit = next;
        off = fit.off();
        if before - squares(&off) < 1e-9 * before {
            break;
        }
    }
    let left = squares(&off);
    (fit, left)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const SIZE: [f64; 3] = [900.0, 780.0, 450.0];

    /// The corners of front and side of a chest.
    fn corners(sees_side: bool) -> Vec<[f64; 3]> {
        let [w, h, d] = SIZE;
        let mut corners = vec![[0.0, 0.0, 0.0], [w, 0.0, 0.0], [w, h, 0.0], [0.0, h, 0.0]];
        if sees_side {
            corners.extend([[w, 0.0, -d], [w, h, -d]]);
        }
        corners
    }

    /// A camera at some distance before the middle of the chest.
    fn camera(turn: f64, up: f64, away: f64, focal: f64) -> Pinhole {
        let (sin, cos) = turn.to_radians().sin_cos();
        let (above, level) = up.to_radians().sin_cos();
        let forward = [-sin * level, above, -cos * level];
        let at = std::array::from_fn(|i| [0.5, 0.5, -0.5][i] * SIZE[i] - away * forward[i]);
        let (right, down) = ([cos, 0.0, -sin], [sin * above, level, cos * above]);
        Pinhole { at, forward, right, down, focal, centre: [0.5, 0.375], error: 0.0, misfit: 0.0 }
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]

        /// Two faces fix the camera: other points are seen where they are.
        #[test]
        fn a_camera_is_found(turn in 15.0..65.0f64, up in 0.0..35.0f64, away in 1800.0..4500.0f64, focal in 0.6..1.4f64, x in 0.0..900.0f64, y in 0.0..780.0f64) {
            let true_one = camera(turn, up, away, focal);
            let points: Vec<_> = corners(true).into_iter().map(|point| (point, true_one.sees(point).unwrap())).collect();
            let found = Pinhole::fit(&points, 0.75).unwrap();
            // The usual focal length pulls a little where the camera is far away.
            prop_assert!(found.error < 2e-3, "{}", found.error);
            let [u, v] = found.sees([x, y, -100.0]).unwrap();
            let [p, q] = true_one.sees([x, y, -100.0]).unwrap();
            prop_assert!((u - p).hypot(v - q) < 3e-3, "{} {} {} {}", u, p, v, q);
        }

        /// One face leaves some doubt: what stands out a little is seen about where it is.
        #[test]
        fn one_face_is_enough(turn in -50.0..50.0f64, up in 0.0..25.0f64, away in 1800.0..4000.0f64) {
            let true_one = camera(turn, up, away, 0.72);
            let points: Vec<_> = corners(false).into_iter().map(|point| (point, true_one.sees(point).unwrap())).collect();
            let found = Pinhole::fit(&points, 0.75).unwrap();
            prop_assert!(found.error < 1e-3, "{}", found.error);
            let [u, v] = found.sees([450.0, 400.0, 40.0]).unwrap();
            let [p, q] = true_one.sees([450.0, 400.0, 40.0]).unwrap();
            prop_assert!((u - p).hypot(v - q) < 3e-3);
        }
    }

    #[test]
    fn too_little_is_no_camera() {
        assert_eq!(Pinhole::fit(&[([0.0; 3], [0.0; 2]); 3], 0.75), None);
    }
}
