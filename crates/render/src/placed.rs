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

    /// The middle of what is seen, as shares of the whole picture: no view goes past its rim.
    pub(crate) fn seen_middle(self) -> (f64, f64) {
        let half = 0.5 / self.by.max(1.0);
        let within = |share: f64| share.clamp(half, 1.0 - half);
        (within(self.middle.0), within(self.middle.1))
    }

    /// The size in pixels that the whole would have, and how many of them lie to the left of a picture of this size and above it.
    pub(crate) fn whole_and_offset(
        self,
        (width, height): (usize, usize),
    ) -> ((usize, usize), (usize, usize)) {
        let by = self.by.max(1.0);
        let whole = |part: usize| (part as f64 * by).round() as usize;
        let from = |middle: f64, part: usize| ((middle * by - 0.5) * part as f64).round() as usize;
        let (x, y) = self.seen_middle();
        ((whole(width), whole(height)), (from(x, width), from(y, height)))
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
    pub fn closer(self, closer: Closer) -> Self {
        let by = closer.by.max(1.0);
        let size = (self.size.0 / by, self.size.1 / by);
        let (x, y) = closer.seen_middle();
        let corner = (
            self.corner.0 - (x * self.size.0 - 0.5 * size.0),
            self.corner.1 - (y * self.size.1 - 0.5 * size.1),
        );
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
