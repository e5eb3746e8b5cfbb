//! Flat pictures of faces, to be looked up point by point.

use std::borrow::Borrow;

use warm_blend_piece::{Face, Rect};

use crate::{
    picture::{LINEAR, Picture},
    placed::Placed,
};

/// A face whose flat picture is needed.
#[derive(Debug)]
pub(crate) struct FlatFace {
    pub face: Face,
    /// True if with its patterns.
    pub patterned: bool,
    /// Size of the picture, pixels.
    pub size: (u32, u32),
}

/// The flat picture of a face.
pub(crate) struct Flat<'a> {
    picture: &'a Picture,
    placed: Placed,
}

/// Flat pictures, in the order of their faces.
pub(crate) fn flats<'a, P: Borrow<Picture>>(faces: &[FlatFace], pictures: &'a [P]) -> Vec<Flat<'a>> {
    let flat = |(face, picture): (&FlatFace, &'a P)| {
        let picture = picture.borrow();
        Flat { picture, placed: Placed::within(&face.face, picture.width as usize, picture.height as usize) }
    };
    faces.iter().zip(pictures).map(flat).collect()
}

impl Flat<'_> {
    /// Linear colour at a point of a part, mm.
    pub fn at(&self, (x, y): (f64, f64), over: Rect) -> [f32; 3] {
        // The outermost pixels show some of what lies beside.
        let rim = |length: f64| (self.placed.mm).min(0.5 * length);
        let inner =
            |at: f64, from: f64, length: f64| at.clamp(from + rim(length), from + length - rim(length));
        let (px, py) = self.placed.pixel(inner(x, over.x, over.w), inner(y, over.y, over.h));
        let (width, height) = (self.picture.width as usize, self.picture.height as usize);
        let (px, py) =
            ((px - 0.5).clamp(0.0, width as f64 - 1.0), (py - 0.5).clamp(0.0, height as f64 - 1.0));
        let (left, upper) = (px as usize, py as usize);
        let (right, lower) = ((left + 1).min(width - 1), (upper + 1).min(height - 1));
        let (u, v) = ((px - left as f64) as f32, (py - upper as f64) as f32);
        let linear = &*LINEAR;
        let pixel = |x: usize, y: usize| {
            let at = 3 * (y * width + x);
            [0, 1, 2].map(|channel| linear[usize::from(self.picture.rgb[at + channel])])
        };
        let (a, b, c, d) = (pixel(left, upper), pixel(right, upper), pixel(left, lower), pixel(right, lower));
        std::array::from_fn(|n| (1.0 - v) * ((1.0 - u) * a[n] + u * b[n]) + v * ((1.0 - u) * c[n] + u * d[n]))
    }
}
