//! How different two colours look.

use palette::color_difference::Ciede2000;

use crate::Lab;

/// A CIEDE2000 colour difference, ΔE00. A trained eye just finds 0.5 side by side; 1 is slight, 5 is obvious.
#[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
pub struct Difference(f64);

impl Difference {
    /// The number, ≥ 0.
    pub const fn value(self) -> f64 {
        self.0
    }
}

/// CIEDE2000 with kL = kC = kH = 1 (ISO/CIE 11664-6; Sharma, Wu and Dalal 2005), as `palette` computes it.
/// Symmetric, zero for equal colours. Both colours must be relative to the same white.
pub fn difference(one: Lab, other: Lab) -> Difference {
    Difference(one.to_palette().difference(other.to_palette()))
}
