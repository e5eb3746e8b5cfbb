//! Where a face lies in a picture, the whole of it or from closer by.

use warm_blend_piece::{Face, Rect};

use crate::relief::{BadSize, sized};

/// Room around a face, as a share of the picture.
const ROOM: f64 = 0.05;

/// Where a face lies in a picture.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Placed {
    /// mm by pixel.
    pub(crate) mm: f64,
    /// Where the face's upper left corner is, mm.
    pub(crate) corner: (f64, f64),
    /// The picture, mm.
    size: (f64, f64),
}

/// How much closer than the whole a picture is, and what is in its middle.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Closer {
    /// By what factor, 1 or more.
    pub by: f64,
    /// The point of the whole picture that is in the middle, as shares of its width and height.
    pub middle: (f64, f64),
}

impl Closer {
    /// The whole.
    pub const WHOLE: Self = Self { by: 1.0, middle: (0.5, 0.5) };
}

impl Placed {
    /// A face in the middle of a picture of so many pixels, as large as it goes.
    pub fn of(face: &Face, width: u32, height: u32) -> Result<Self, BadSize> {
        sized(width, height).map(|(width, height)| Self::within(face, width, height))
    }

    /// The same, of any size.
    pub(crate) fn within(face: &Face, width: usize, height: usize) -> Self {
        let (width, height) = (width as f64, height as f64);
        let room = 1.0 - 2.0 * ROOM;
        let mm = (face.width / (room * width)).max(face.height / (room * height));
        let size = (width * mm, height * mm);
        Self { mm, corner: ((size.0 - face.width) / 2.0, (size.1 - face.height) / 2.0), size }
    }

    /// The same from closer by, as far aside as the picture goes.
    pub fn closer(self, Closer { by, middle: (x, y) }: Closer) -> Self {
        let by = by.max(1.0);
        let size = (self.size.0 / by, self.size.1 / by);
        let aside = |at: f64, whole: f64, part: f64| (at * whole - part / 2.0).clamp(0.0, whole - part);
        let corner =
            (self.corner.0 - aside(x, self.size.0, size.0), self.corner.1 - aside(y, self.size.1, size.1));
        Self { mm: self.mm / by, corner, size }
    }

    /// The point of the face at the middle of a pixel, mm.
    pub fn at(&self, x: usize, y: usize) -> (f64, f64) {
        ((x as f64 + 0.5) * self.mm - self.corner.0, (y as f64 + 0.5) * self.mm - self.corner.1)
    }

    /// Where a part lies, as shares of the picture: left, upper edge, width, height.
    pub fn share(&self, rect: Rect) -> [f64; 4] {
        let (w, h) = self.size;
        [(rect.x + self.corner.0) / w, (rect.y + self.corner.1) / h, rect.w / w, rect.h / h]
    }
}
