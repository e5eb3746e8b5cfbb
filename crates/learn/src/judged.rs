//! How readings compare with the estimate.

use warm_blend_spectral::{Lab, difference};

use crate::reading::Reading;

/// How a reading compares with the estimate.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Judged {
    /// True if it is so unlikely that it is left out until the painter decides.
    pub questioned: bool,
    /// Distance from what the others predict, in standard deviations.
    pub off: f64,
    /// Predicted colours in daylight: one, or those over black and over white.
    pub predicted: Vec<Lab>,
    /// ΔE00 between prediction and reading; of two, the larger.
    pub difference: f64,
}

impl Judged {
    pub(crate) fn of(reading: &Reading, predicted: Vec<Lab>, questioned: bool, off: f64) -> Self {
        let differences =
            reading.measured().zip(&predicted).map(|(read, shown)| difference(read.lab(), *shown).value());
        Self { questioned, off, difference: differences.fold(0.0, f64::max), predicted }
    }
}
