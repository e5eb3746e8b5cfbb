//! How a reading stands to the rest.

use warm_blend_spectral::{Lab, difference};

use crate::reading::Reading;

/// How a reading stands to the rest.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Judged {
    /// True where it lies so far out that it was left out until the painter says which is right.
    pub questioned: bool,
    /// How far out, in standard deviations of what the others predict.
    pub off: f64,
    /// What the estimate says it should be, in daylight: one colour, or over black and over white.
    pub predicted: Vec<Lab>,
    /// ΔE00 of the prediction from the reading, the larger of two.
    pub difference: f64,
}

impl Judged {
    pub(crate) fn of(reading: &Reading, predicted: Vec<Lab>, questioned: bool, off: f64) -> Self {
        let differences =
            reading.measured().zip(&predicted).map(|(read, shown)| difference(read.lab(), *shown).value());
        Self { questioned, off, difference: differences.fold(0.0, f64::max), predicted }
    }
}
