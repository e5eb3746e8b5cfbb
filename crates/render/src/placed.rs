//! Position of a face in a picture, whole or enlarged.

use warm_blend_piece::{Face, Rect};

use crate::relief::{BadSize, sized};

/// Room around a face, as a share of the picture.
const ROOM: f64 = 0.05;

/// Position of a face in a picture.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Placed {
    /// Size of a pixel, mm.
    pub(crate) mm: f64,
    /// Position of the upper left corner of the picture on the face, mm.
    pub(crate) corner: (f64, f64),
    /// The picture, mm.
    size: (f64, f64),
    /// Pixels to the left of it and above it that the whole picture would have at this scale.
    pub(crate) from: (usize, usize),
}

/// Enlargement of a picture, and its centre.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Closer {
    /// Factor, at least 1.
    pub by: f64,
    /// Point of the whole picture that is at the centre, as shares of width and height.
    pub middle: (f64, f64),
}

impl Closer {
    /// The whole picture.
    pub const WHOLE: Self = Self { by: 1.0, middle: (0.5, 0.5) };

    /// The size in pixels that the whole would have, and how many of them lie to the left of a picture of this size and above it.
    pub(crate) fn of(self, (width, height): (usize, usize)) -> ((usize, usize), (usize, usize)) {
        let by = self.by.max(1.0);
        let whole = |part: usize| (part as f64 * by).round() as usize;
        let from = |middle: f64, part: usize| {
            ((middle * part as f64 * by - 0.5 * part as f64).max(0.0).round() as usize)
                .min(whole(part) - part)
        };
        ((whole(width), whole(height)), (from(self.middle.0, width), from(self.middle.1, height)))
    }
}

impl Placed {
    /// Centres a face in a picture of this many pixels, as large as possible.
    pub fn of(face: &Face, width: u32, height: u32) -> Result<Self, BadSize> {
        sized(width, height).map(|(width, height)| Self::within(face, width, height))
    }

    /// Centres a face in a picture of any size.
    pub(crate) fn within(face: &Face, width: usize, height: usize) -> Self {
        let (width, height) = (width as f64, height as f64);
        let room = 1.0 - 2.0 * ROOM;
        let mm = (face.width / (room * width)).max(face.height / (room * height));
        let size = (width * mm, height * mm);
        Self { mm, corner: ((size.0 - face.width) / 2.0, (size.1 - face.height) / 2.0), size, from: (0, 0) }
    }

    /// Enlarges it, keeping within the picture.
    pub fn closer(self, Closer { by, middle: (x, y) }: Closer) -> Self {
        let by = by.max(1.0);
        let size = (self.size.0 / by, self.size.1 / by);
        let aside = |at: f64, whole: f64, part: f64| (at * whole - part / 2.0).clamp(0.0, whole - part);
        let corner =
            (self.corner.0 - aside(x, self.size.0, size.0), self.corner.1 - aside(y, self.size.1, size.1));
        let mm = self.mm / by;
        let from = ((self.corner.0 - corner.0) / mm, (self.corner.1 - corner.1) / mm);
        Self { mm, corner, size, from: (from.0.round() as usize, from.1.round() as usize) }
    }

    /// Point of the face at the centre of a pixel, mm.
    pub fn at(&self, x: usize, y: usize) -> (f64, f64) {
        ((x as f64 + 0.5) * self.mm - self.corner.0, (y as f64 + 0.5) * self.mm - self.corner.1)
    }

    /// Where a point of the face lies in the picture, pixels: the inverse of [`Placed::at`].
    pub(crate) fn pixel(&self, x: f64, y: f64) -> (f64, f64) {
        ((x + self.corner.0) / self.mm, (y + self.corner.1) / self.mm)
    }

    /// Position of a part as shares of the picture: left, top, width, height.
    pub fn share(&self, rect: Rect) -> [f64; 4] {
        let (w, h) = self.size;
        [(rect.x + self.corner.0) / w, (rect.y + self.corner.1) / h, rect.w / w, rect.h / h]
    }
}
