//! Reflectance curve: the share of the light of each wavelength that a surface returns.

/// Number of bands in a curve.
pub const BANDS: usize = 36;

/// Centre of band `i` in nm: 380, 390, … 730.
pub const fn wavelength(i: usize) -> u32 {
    380 + 10 * i as u32
}

/// Reflectance factor of a surface in 36 bands, each in 0..=1 (no unit).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Reflectance([f64; BANDS]);

/// A value that is not a reflectance.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("reflectance at {nm} nm is {value}: it must be between 0 and 1")]
pub struct NotAReflectance {
    /// Wavelength of the offending band, nm.
    pub nm: u32,
    /// The offending value.
    pub value: f64,
}

impl Reflectance {
    /// Makes a curve of 36 values, 380–730 nm in steps of 10 nm, each in 0..=1.
    pub fn new(bands: [f64; BANDS]) -> Result<Self, NotAReflectance> {
        match bands.iter().position(|r| !(0.0..=1.0).contains(r)) {
            None => Ok(Self(bands)),
            Some(i) => Err(NotAReflectance { nm: wavelength(i), value: bands[i] }),
        }
    }

    /// A curve with the same reflectance in every band, clamped to 0..=1; NaN becomes 0.
    pub fn grey(value: f64) -> Self {
        Self([into_unit(value); BANDS])
    }

    /// Computes a curve band by band and clamps it: see [`Reflectance::clamped`].
    #[inline]
    pub fn from_fn(band: impl FnMut(usize) -> f64) -> Self {
        Self::clamped(std::array::from_fn(band))
    }

    /// Clamps each value to 0..=1 and turns NaN into 0, so that rounding in the physics still yields a reflectance.
    #[inline]
    pub fn clamped(mut bands: [f64; BANDS]) -> Self {
        for r in &mut bands {
            *r = into_unit(*r);
        }
        Self(bands)
    }

    /// The 36 values.
    #[inline]
    pub const fn bands(&self) -> &[f64; BANDS] {
        &self.0
    }

    /// The smallest value of the curve.
    pub fn lowest(&self) -> f64 {
        self.0.iter().copied().fold(f64::INFINITY, f64::min)
    }
}

#[inline]
fn into_unit(value: f64) -> f64 {
    value.max(0.0).min(1.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn refuses_what_is_no_reflectance_and_names_the_wavelength() {
        for bad in [-0.001, 1.001, f64::NAN, f64::INFINITY] {
            let mut bands = [0.5; BANDS];
            bands[3] = bad;
            let error = Reflectance::new(bands).unwrap_err();
            assert_eq!(error.nm, 410);
            assert!(error.to_string().contains("410 nm"));
        }
        assert!(Reflectance::new([0.0; BANDS]).is_ok() && Reflectance::new([1.0; BANDS]).is_ok());
    }

    #[test]
    fn bands_run_from_380_to_730() {
        assert_eq!((wavelength(0), wavelength(BANDS - 1)), (380, 730));
    }
}
