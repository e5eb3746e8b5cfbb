//! A simulated colour reader with the faults of a real one.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal, StandardNormal};
use warm_blend_device::{ColourReader, ReaderTrouble};
use warm_blend_learn::Measured;
use warm_blend_spectral::{BANDS, Lab, Light, Reflectance, Xyz, difference};

use crate::VirtualSample;

/// State of the reader's window.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Window {
    /// Clean.
    Clean,
    /// With a smear of white: every reading is too pale.
    Smeared,
}

/// Root mean square error of a clean, freshly calibrated reading, ΔE00.
const NOISE: f64 = 0.4;
/// How much of a spectrum's error all bands share, and each has alone, as a share of R; and the noise of the dark.
const GAIN: f64 = 0.004;
const BY_BAND: f64 = 0.003;
const DARK: f64 = 0.0006;
/// Gain lost with each reading since the last calibration.
const DRIFT: f64 = 0.0001;
/// Readings after which it asks for calibration.
const CALIBRATION_LASTS: u32 = 500;

/// A simulated colour reader, for spectra or colours only.
#[derive(Debug)]
pub struct SimulatedReader {
    noise: ChaCha8Rng,
    spectra: bool,
    window: Window,
    since_calibration: u32,
    under: Option<VirtualSample>,
}

impl SimulatedReader {
    /// A reader with noise from `seed`; `spectra` makes it give curves.
    pub fn new(seed: u64, spectra: bool) -> Self {
        Self {
            noise: ChaCha8Rng::seed_from_u64(seed),
            spectra,
            window: Window::Clean,
            since_calibration: 0,
            under: None,
        }
    }

    /// Places it on a sample.
    pub fn put_on(&mut self, sample: VirtualSample) {
        self.under = Some(sample);
    }

    /// Smears or cleans its window.
    pub fn set_window(&mut self, window: Window) {
        self.window = window;
    }

    fn normal(&mut self) -> f64 {
        StandardNormal.sample(&mut self.noise)
    }

    /// What comes through the window: less with every reading, and paler through a smear.
    fn through_window(&self, truth: &Reflectance) -> Reflectance {
        let gain = 1.0 - DRIFT * f64::from(self.since_calibration);
        let veil = if self.window == Window::Smeared { 0.05 } else { 0.0 };
        Reflectance::from_fn(|i| gain * (truth.bands()[i] * (1.0 - veil) + veil))
    }

    fn spectrum(&mut self, truth: &Reflectance) -> Reflectance {
        let gain = 1.0 + GAIN * self.normal();
        let mut bands = [0.0; BANDS];
        for (band, r) in bands.iter_mut().zip(truth.bands()) {
            *band = gain * r * (1.0 + BY_BAND * self.normal()) + DARK * self.normal();
        }
        Reflectance::clamped(bands)
    }

    /// The colour of a spectrum with the rest of the error that a colour reader has: the steps along L*, a* and b* are
    /// scaled so that their length is `NOISE` in ΔE00 on the average square.
    fn colour(&mut self, curve: &Reflectance) -> Lab {
        let seen = Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white());
        let Ok(size) = Normal::new(0.0, NOISE / 3f64.sqrt()) else { return seen };
        let mut step = || size.sample(&mut self.noise);
        let (dl, da, db) = (step(), step(), step());
        // One ΔE00 along an axis, found by asking the formula itself.
        let unit = |l: f64, a: f64, b: f64| {
            let other = Lab { l: seen.l + 0.1 * l, a: seen.a + 0.1 * a, b: seen.b + 0.1 * b };
            0.1 / difference(seen, other).value()
        };
        Lab {
            l: (seen.l + dl * unit(1.0, 0.0, 0.0)).clamp(0.0, 100.0),
            a: seen.a + da * unit(0.0, 1.0, 0.0),
            b: seen.b + db * unit(0.0, 0.0, 1.0),
        }
    }
}

impl ColourReader for SimulatedReader {
    fn name(&self) -> &str {
        "simulated reader"
    }

    fn calibrate(&mut self) -> Result<(), ReaderTrouble> {
        self.since_calibration = 0;
        Ok(())
    }

    fn read(&mut self) -> Result<Measured, ReaderTrouble> {
        if self.since_calibration >= CALIBRATION_LASTS {
            return Err(ReaderTrouble::NeedsCalibration);
        }
        let truth =
            self.through_window(&self.under.as_ref().ok_or(ReaderTrouble::NothingUnderIt)?.reflectance());
        self.since_calibration += 1;
        Ok(if self.spectra {
            Measured::spectrum(self.spectrum(&truth))
        } else {
            Measured::Colour(self.colour(&truth))
        })
    }
}
