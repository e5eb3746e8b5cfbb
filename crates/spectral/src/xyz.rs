//! Tristimulus values.

/// CIE 1931 XYZ, normalised so that the white of the light has Y = 1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Xyz {
    /// X, no unit.
    pub x: f64,
    /// Y: luminance relative to white.
    pub y: f64,
    /// Z, no unit.
    pub z: f64,
}

impl Xyz {
    pub(crate) const fn as_array(self) -> [f64; 3] {
        [self.x, self.y, self.z]
    }

    pub(crate) const fn from_array([x, y, z]: [f64; 3]) -> Self {
        Self { x, y, z }
    }
}
