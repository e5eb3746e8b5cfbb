//! Writes `tests/data/ours.*`, for `tests/data/by_others.py` to read: two invented curves.

use std::path::Path;

use warm_blend_interchange::{Samples, cgats, cxf};
use warm_blend_learn::Measured;
use warm_blend_spectral::Reflectance;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let slope = Reflectance::from_fn(|i| 0.05 + i as f64 * 0.02);
    let hill = Reflectance::from_fn(|i| 0.1 + 0.6 * (-((i as f64 - 17.0) / 6.0).powi(2)).exp());
    let samples =
        [("slope", slope), ("hill", hill)].map(|(name, curve)| (name.to_owned(), Measured::spectrum(curve)));
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/data");
    std::fs::write(folder.join("ours.cgats.txt"), cgats(Samples::Predictions, &samples))?;
    std::fs::write(folder.join("ours.cxf"), cxf(Samples::Predictions, &samples, "2026-11-24T00:00:00Z")?)?;
    Ok(())
}
