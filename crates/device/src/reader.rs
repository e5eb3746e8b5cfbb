//! Interface of a colour reader.

use warm_blend_learn::Measured;
use warm_blend_spectral::difference;

/// Number of places on a sample that are read and averaged†: a single reading may fall on a brush mark.
pub const PLACES: usize = 3;
/// From how far apart, ΔE00, the places of one sample are not one colour†.
const UNEVEN: f64 = 2.5;

/// An instrument that measures the colour it is placed on.
pub trait ColourReader {
    /// What to call it.
    fn name(&self) -> &str;

    /// Sets it right on its own white tile.
    fn calibrate(&mut self) -> Result<(), ReaderTrouble>;

    /// Reads what it stands on: a curve where it can, else a colour in daylight.
    fn read(&mut self) -> Result<Measured, ReaderTrouble>;

    /// Reads a sample at three places and takes the mean; refused where they are not one colour.
    fn read_sample(&mut self) -> Result<Measured, ReaderTrouble> {
        let places = (0..PLACES).map(|_| self.read()).collect::<Result<Vec<_>, _>>()?;
        let mean = Measured::mean(&places).ok_or(ReaderTrouble::NothingUnderIt)?;
        let off = |place: &Measured| difference(place.lab(), mean.lab()).value();
        let widest = places.iter().map(off).fold(0.0, f64::max);
        if widest > UNEVEN { Err(ReaderTrouble::Uneven { apart: widest }) } else { Ok(mean) }
    }
}

/// Why a reading failed.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum ReaderTrouble {
    /// There is no sample under it.
    #[error("the reader is not on paint; lay it flat on dry paint and read again")]
    NothingUnderIt,
    /// It has drifted.
    #[error("the reader needs calibrating; use its white tile, then read again")]
    NeedsCalibration,
    /// The places that were read differ.
    #[error(
        "uneven: the 3 spots differ by {apart:.1} ΔE00. Let it dry, brush it out evenly, wipe the reader window, read again"
    )]
    Uneven {
        /// The farthest from the mean, ΔE00.
        apart: f64,
    },
}
