//! A painter at the virtual workshop: lays out samples, reads them, and compares predictions with what comes out.

// Each test file uses its own part of it.
#![allow(dead_code)]

use std::fmt;

use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use warm_blend_device::ColourReader;
use warm_blend_learn::{Ensemble, Facts, Measured, PartsMethod, Reading, Shown, Source};
use warm_blend_paint::{FilmState, Masstone, Material, Microns, Parts};
use warm_blend_sim::{SimulatedReader, VirtualPaint, VirtualSample, tins};
use warm_blend_spectral::{Lab, Light, Reflectance, Xyz, difference};

pub const SEED: u64 = 20_261_124;
/// Mixes of each number of parts.
pub const MIXES: usize = 400;

/// Tins by their place, and parts.
pub type Recipe = Vec<(usize, Parts)>;

pub fn parts(n: f64) -> Parts {
    Parts::new(n).unwrap()
}

pub fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

pub fn truth(recipe: &Recipe, tins: &[VirtualPaint]) -> Lab {
    let of: Vec<_> = recipe.iter().map(|(tin, parts)| (*parts, &tins[*tin])).collect();
    VirtualSample::thick(&of, FilmState::Dry).unwrap().lab()
}

pub struct Workshop {
    pub tins: Vec<VirtualPaint>,
    chance: ChaCha8Rng,
    colours: SimulatedReader,
    spectra: SimulatedReader,
}

impl Workshop {
    pub fn new(seed: u64) -> Self {
        Self {
            tins: tins(),
            chance: ChaCha8Rng::seed_from_u64(seed),
            colours: SimulatedReader::new(seed, false),
            spectra: SimulatedReader::new(seed, true),
        }
    }

    /// Mixes of `n` different tins, each in 1 to 6 parts.
    pub fn recipes(&mut self, n: usize) -> Vec<Recipe> {
        (0..MIXES)
            .map(|_| {
                let chosen = rand::seq::index::sample(&mut self.chance, self.tins.len(), n);
                chosen
                    .into_iter()
                    .map(|tin| (tin, parts(f64::from(self.chance.random_range(1..=6u8)))))
                    .collect()
            })
            .collect()
    }

    /// The true colours to 8 bits, as a reader shows them: what is lost is the curve and the rounding.
    pub fn codes(&self) -> Vec<Facts> {
        self.facts(self.tins.iter().map(|tin| Masstone::Hex(tin.code())).collect(), Source::Reader)
    }

    /// What printed chips say: off by 1.5 ΔE00 on the average square.
    pub fn chips(&mut self) -> Vec<Facts> {
        let sd = Source::Chip.off() / 3f64.sqrt();
        let chips = (0..self.tins.len())
            .map(|tin| {
                let seen = lab(&self.tins[tin].masstone());
                loop {
                    let mut step = || self.normal() * sd;
                    let off = [step(), step(), step()];
                    let chip = Masstone::Lab(moved(seen, off));
                    if chip.reflectance().is_ok() {
                        return chip;
                    }
                }
            })
            .collect();
        self.facts(chips, Source::Chip)
    }

    fn facts(&self, chips: Vec<Masstone>, source: Source) -> Vec<Facts> {
        let fact = |(i, (tin, chip)): (usize, (&VirtualPaint, Masstone))| Facts {
            class: tin.class,
            masstone: Some(chip),
            source,
            coats_to_hide: None,
            lustre: None,
            house_white: i == 0,
        };
        self.tins.iter().zip(chips).enumerate().map(fact).collect()
    }

    fn normal(&mut self) -> f64 {
        // The sum of twelve uniforms has mean 6 and variance 1.
        (0..12).map(|_| self.chance.random::<f64>()).sum::<f64>() - 6.0
    }

    /// One part of a tin with `white` parts of the house white, measured out with the pour's own error.
    pub fn tint(&mut self, tin: usize, white: f64, pour: PartsMethod, spectrum: bool) -> Reading {
        let off = match pour {
            PartsMethod::Eye => 0.15,
            PartsMethod::Spoons => 0.05,
            PartsMethod::Scale => 0.01,
        };
        let mut poured = |amount: f64| parts(amount * (off * self.normal()).exp());
        let amounts = [poured(1.0), poured(white)];
        let of = [(amounts[0], &self.tins[tin]), (amounts[1], &self.tins[0])];
        let sample = VirtualSample::thick(&of, FilmState::Dry).unwrap();
        // Poured by scale, it is read with care: at three places.
        let careful = pour == PartsMethod::Scale;
        self.reading(vec![(tin, parts(1.0)), (0, parts(white))], pour, sample, spectrum, careful)
    }

    /// A dab of a pot: read with care, entered as it was read.
    pub fn dab(&mut self, told: &Recipe, real: &Recipe) -> Reading {
        let of: Vec<_> = real.iter().map(|(tin, parts)| (*parts, &self.tins[*tin])).collect();
        let sample = VirtualSample::thick(&of, FilmState::Dry).unwrap();
        self.reading(told.clone(), PartsMethod::Scale, sample, false, true)
    }

    pub fn masstone(&mut self, tin: usize, spectrum: bool) -> Reading {
        let sample = VirtualSample::thick(&[(parts(1.0), &self.tins[tin])], FilmState::Dry).unwrap();
        self.reading(vec![(tin, parts(1.0))], PartsMethod::Scale, sample, spectrum, true)
    }

    fn reading(
        &mut self,
        of: Recipe,
        pour: PartsMethod,
        sample: VirtualSample,
        spectrum: bool,
        careful: bool,
    ) -> Reading {
        let reader = if spectrum { &mut self.spectra } else { &mut self.colours };
        reader.put_on(sample);
        let measured = if careful { reader.read_sample() } else { reader.read() }.unwrap();
        Reading {
            of,
            pour,
            state: FilmState::Dry,
            shown: Shown::Thick(measured),
            source: Source::Reader,
            sure: false,
        }
    }

    pub fn drawdown(&mut self, tin: usize, microns: f64) -> Reading {
        let wet = Microns::new(microns).unwrap();
        let halves = VirtualSample::drawdown(&[(parts(1.0), &self.tins[tin])], wet).unwrap();
        let [over_black, over_white]: [Measured; 2] = halves.map(|half| {
            self.colours.put_on(half);
            self.colours.read_sample().unwrap()
        });
        Reading {
            of: vec![(tin, parts(1.0))],
            pour: PartsMethod::Scale,
            state: FilmState::Dry,
            shown: Shown::Drawdown { wet, over_black, over_white },
            source: Source::Reader,
            sure: false,
        }
    }
}

/// A colour moved by so many ΔE00 along L*, a* and b*.
fn moved(seen: Lab, off: [f64; 3]) -> Lab {
    let unit = |l: f64, a: f64, b: f64| {
        0.1 / difference(seen, Lab { l: seen.l + 0.1 * l, a: seen.a + 0.1 * a, b: seen.b + 0.1 * b }).value()
    };
    Lab {
        l: (seen.l + off[0] * unit(1.0, 0.0, 0.0)).clamp(1.0, 99.0),
        a: seen.a + off[1] * unit(0.0, 1.0, 0.0),
        b: seen.b + off[2] * unit(0.0, 0.0, 1.0),
    }
}

/// Errors of many predictions.
pub struct Figures {
    errors: Vec<f64>,
    /// Share of the bands that held.
    pub held: f64,
    /// Mean band, ΔE00.
    pub band: f64,
}

impl Figures {
    /// From pairs of error and band.
    pub fn of(pairs: impl Iterator<Item = (f64, f64)>) -> Self {
        let pairs: Vec<(f64, f64)> = pairs.collect();
        let n = pairs.len() as f64;
        let held = pairs.iter().filter(|(error, band)| error <= band).count() as f64 / n;
        let band = pairs.iter().map(|(_, band)| band).sum::<f64>() / n;
        let mut errors: Vec<f64> = pairs.into_iter().map(|(error, _)| error).collect();
        errors.sort_by(f64::total_cmp);
        Self { errors, held, band }
    }

    pub fn predicted(paints: &[Ensemble], recipes: &[Recipe], tins: &[VirtualPaint]) -> Self {
        let look = |material: &Material| lab(&material.masstone());
        Self::of(recipes.iter().map(|recipe| {
            let of: Vec<_> = recipe.iter().map(|(tin, parts)| (*parts, &paints[*tin])).collect();
            let mixed = Ensemble::mix(&of).unwrap();
            (difference(look(mixed.best()), truth(recipe, tins)).value(), mixed.within(look))
        }))
    }

    pub fn at(&self, share: f64) -> f64 {
        self.errors[((self.errors.len() - 1) as f64 * share).round() as usize]
    }
}

impl fmt::Display for Figures {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:5.2} {:5.2}", self.at(0.5), self.at(0.9))?;
        if self.band.is_finite() {
            write!(f, " band {:4.1} held {:3.0} %", self.band, 100.0 * self.held)
        } else {
            write!(f, "{:21}", "")
        }
    }
}
