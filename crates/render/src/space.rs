//! Points in space. Lengths are mm: x to the right and y down, as on the front of a piece, and z from the front towards the viewer.

pub(crate) type Point = [f64; 3];

pub(crate) fn dot(a: Point, b: Point) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

/// A point and a number of times another.
pub(crate) fn sum(a: Point, b: Point, times: f64) -> Point {
    [a[0] + times * b[0], a[1] + times * b[1], a[2] + times * b[2]]
}

/// The eight corners of a box.
pub(crate) fn corners(least: Point, most: Point) -> impl Iterator<Item = Point> {
    (0..8).map(move |n| std::array::from_fn(|axis| if n >> axis & 1 == 1 { most[axis] } else { least[axis] }))
}
