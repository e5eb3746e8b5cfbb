//! The lamp that lights a relief.
//!
//! A matt surface is lit by its angle to the lamp (J. H. Lambert, *Photometria* (1760)); a glossy one mirrors the lamp
//! half-way between lamp and eye (J. F. Blinn, *Computer Graphics* 11 (1977) 192). A flat surface gets 1 from any
//! direction, so turning the lamp redistributes light without adding any.

/// Whether the relief is shaded.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Shading {
    /// Shaded by a lamp, with highlights on glossy surfaces.
    By(Lamp),
    /// Not shaded, so that colours can be judged.
    None,
}

/// Direction of the light.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lamp {
    /// From which side of the picture, degrees clockwise from above.
    turn: f32,
    /// How low it stands: a raking light shows every ridge.
    rakes: bool,
}

impl Default for Shading {
    /// In the light of a window.
    fn default() -> Self {
        Shading::By(Lamp::WINDOW)
    }
}

impl Shading {
    pub(crate) fn lamp(self) -> Option<Lamp> {
        match self {
            Shading::By(lamp) => Some(lamp),
            Shading::None => None,
        }
    }
}

impl Lamp {
    /// Direction of the window: top left, in degrees.
    pub const WINDOW_SIDE: f64 = 320.0;
    /// A window at the top left.
    pub const WINDOW: Lamp = Lamp { turn: Self::WINDOW_SIDE as f32, rakes: false };

    /// From a direction in degrees clockwise from the top; for a value that is not finite, the window.
    pub fn from_side(degrees: f64, rakes: bool) -> Self {
        let turn = if degrees.is_finite() { degrees.rem_euclid(360.0) as f32 } else { Self::WINDOW.turn };
        Self { turn, rakes }
    }

    /// Horizontal and vertical distance towards the lamp for each mm away from the surface.
    pub(crate) fn way(self) -> (f32, f32) {
        let (sin, cos) = self.turn.to_radians().sin_cos();
        let low = if self.rakes { 1.9 } else { 0.6 };
        (low * sin, -low * cos)
    }

    pub(crate) fn lit(self) -> Lit {
        let (across, down) = self.way();
        // Half-way to the eye, which is straight above.
        let lamp = (across * across + down * down + 1.0).sqrt();
        let half = [across / lamp, down / lamp, 1.0 / lamp + 1.0];
        let length = half.iter().map(|v| v * v).sum::<f32>().sqrt();
        let half = half.map(|v| v / length);
        Lit { across, down, half, soft: if self.rakes { 0.55 } else { 0.75 } }
    }
}

/// A lamp prepared for every pixel.
#[derive(Clone, Copy)]
pub(crate) struct Lit {
    across: f32,
    down: f32,
    half: [f32; 3],
    /// How much of the light comes from the lamp: the rest from all sides.
    soft: f32,
}

impl Lit {
    /// Light on a slope relative to that on the flat; `open` is the visible share of the surroundings, 128 for all of it.
    #[inline]
    pub(crate) fn on(&self, slope: (f32, f32), open: u8) -> f32 {
        self.facing(slope, upright(slope), open)
    }

    /// Light on a slope, and how much closer it comes to mirroring the lamp than the flat: −1 to 1.
    #[inline]
    pub(crate) fn on_and_mirrored(&self, slope: (f32, f32), open: u8) -> (f32, f32) {
        let upright = upright(slope);
        let [x, y, z] = self.half;
        let here = ((z - x * slope.0 - y * slope.1) * upright).max(0.0);
        (self.facing(slope, upright, open), sharp(here) - sharp(z))
    }

    #[inline]
    fn facing(&self, (across, down): (f32, f32), upright: f32, open: u8) -> f32 {
        // A slope that climbs to the right turns to the left.
        let facing = (1.0 - self.across * across - self.down * down) * upright;
        (facing.clamp(0.0, 1.8) * self.soft + 1.0 - self.soft) * f32::from(open) * (1.0 / 128.0)
    }

    /// How closely the flat mirrors the lamp, 0 to 1.
    #[inline]
    pub(crate) fn by_the_flat(&self) -> f32 {
        sharp(self.half[2])
    }
}

/// How far up the normal of a slope points.
#[inline]
fn upright((across, down): (f32, f32)) -> f32 {
    1.0 / (across * across + down * down + 1.0).sqrt()
}

/// A high power: the 22nd.
#[inline]
fn sharp(v: f32) -> f32 {
    let (second, fourth) = (v * v, v * v * v * v);
    let eighth = fourth * fourth;
    eighth * eighth * fourth * second
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_flat_is_lit_alike_from_every_side() {
        for turn in 0..36 {
            for rakes in [false, true] {
                let lit = Lamp::from_side(f64::from(turn) * 10.0, rakes).lit();
                assert!((lit.on((0.0, 0.0), 128) - 1.0).abs() < 1e-6);
                assert!(lit.on_and_mirrored((0.0, 0.0), 128).1.abs() < 1e-6);
            }
        }
    }

    #[test]
    fn what_faces_the_lamp_is_lit() {
        // From the left: what climbs to the right faces it.
        let lit = Lamp::from_side(270.0, false).lit();
        assert!(lit.on((0.4, 0.0), 128) > 1.1 && lit.on((-0.4, 0.0), 128) < 0.9);
        // From above: what climbs downwards faces it.
        let lit = Lamp::from_side(0.0, true).lit();
        assert!(lit.on((0.0, 0.4), 128) > 1.2 && lit.on((0.0, -0.4), 128) < 0.8);
        assert!((lit.on((0.4, 0.0), 128) - lit.on((-0.4, 0.0), 128)).abs() < 1e-5);
        assert_eq!(Lamp::from_side(f64::NAN, false), Lamp::WINDOW);
        assert_eq!(Lamp::from_side(-40.0, false), Lamp::WINDOW);
    }
}
