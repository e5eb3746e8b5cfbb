//! A piece in space before a camera: what a simulated camera photographs.

use warm_blend_photo::Pinhole;
use warm_blend_piece::Elevation;

use crate::{
    camera::Camera,
    in_view::{Corrected, InView, SeenPoint},
    solid::Solid,
};

/// A piece in space before a camera.
#[derive(Debug)]
pub struct Stage {
    solid: Solid,
    seen: InView,
}

impl Stage {
    /// A piece before a camera whose photo is `width` pixels wide; `None` if it has no front.
    pub fn new(elevation: &Elevation, camera: &Pinhole, width: u32) -> Option<Self> {
        let solid = Solid::of(elevation)?;
        let seen = InView::new(Camera::with_photo(camera, f64::from(width)), &solid);
        Some(Self { solid, seen })
    }

    /// The nearest point of the piece at a position of the photo, pixels.
    pub fn seen(&self, x: f64, y: f64) -> Option<SeenPoint> {
        let met = self.seen.nearest_by(x, y, &Corrected::default())?;
        self.seen.point(&met)
    }

    /// Direction of the ray through a position of the photo, pixels.
    pub fn ray(&self, x: f64, y: f64) -> [f64; 3] {
        self.seen.camera.ray(x, y)
    }

    /// Whether the piece stands in the way of light that comes to a point from a direction.
    pub fn blocks(&self, point: [f64; 3], way: [f64; 3]) -> bool {
        self.solid.planes.iter().any(|plane| plane.met(point, way, f64::INFINITY).is_some())
    }

    /// The least and the greatest coordinates of the piece, mm.
    pub fn bounds(&self) -> ([f64; 3], [f64; 3]) {
        self.solid.bounds()
    }
}
