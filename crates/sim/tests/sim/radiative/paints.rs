//! The paints of a file of radiative transfer, and what a painter learns of them.

use std::collections::HashMap;
use std::path::Path;

use warm_blend_device::ColourReader;
use warm_blend_learn::{Facts, PartsMethod, Reading, Shown, Source};
use warm_blend_paint::{Class, FilmState, Masstone};
use warm_blend_sim::{SimulatedReader, VirtualSample};
use warm_blend_spectral::{BANDS, Degree, Lab, Light, Reflectance, Xyz, difference, on_screen};

use crate::workshop::{Recipe, parts};

/// The files that ship.
pub const SEEDS: [u64; 2] = [1, 2];

/// What is known of a shelf.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Known {
    Codes,
    Tints,
    Spectra,
}

impl Known {
    pub const ALL: [Known; 3] = [Known::Codes, Known::Tints, Known::Spectra];

    pub fn name(self) -> &'static str {
        match self {
            Known::Codes => "codes",
            Known::Tints => "a tint",
            Known::Spectra => "spectra",
        }
    }
}

/// One shelf of a file.
pub struct Radiative {
    pub class: Class,
    pub masstones: Vec<Reflectance>,
    /// By tin: one part with one of the house white.
    pub tints: HashMap<usize, Reflectance>,
    pub mixes: Vec<(Recipe, Reflectance)>,
    /// 90 µm wet over the black and the white half of a chart.
    pub drawdowns: HashMap<(usize, bool), Reflectance>,
    /// A tin in four parts of a clear medium, 40 µm wet, over a tin.
    pub glazes: Vec<([usize; 2], Reflectance)>,
}

fn recipe(what: &str) -> Recipe {
    let part = |one: &str| {
        let (tin, of) = one.split_once(':').unwrap();
        (tin.parse().unwrap(), parts(of.parse().unwrap()))
    };
    what.split(' ').map(part).collect()
}

impl Radiative {
    /// The matte shelf and the satin one.
    pub fn read(seed: u64) -> [Self; 2] {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/data/radiative-{seed}.csv"));
        let mut rows = csv::ReaderBuilder::new().has_headers(false).from_path(path).unwrap();
        let rows: Vec<csv::StringRecord> = rows.records().map(Result::unwrap).collect();
        [("chalk", Class::Chalk), ("satin", Class::LatexSatin)].map(|(shelf, class)| {
            let mut paints = Self {
                class,
                masstones: Vec::new(),
                tints: HashMap::new(),
                mixes: Vec::new(),
                drawdowns: HashMap::new(),
                glazes: Vec::new(),
            };
            for row in rows.iter().filter(|row| &row[0] == shelf) {
                assert_eq!(row.len(), 3 + BANDS);
                let curve = Reflectance::from_fn(|i| row[3 + i].parse::<f64>().unwrap() / 1e5);
                paints.take(&row[1], &row[2], curve);
            }
            paints
        })
    }

    fn take(&mut self, kind: &str, what: &str, curve: Reflectance) {
        match kind {
            "masstone" => self.masstones.push(curve),
            "mix" => match &recipe(what)[..] {
                [(tin, one), (0, white)] if one.value() == 1.0 && white.value() == 1.0 => {
                    self.tints.entry(*tin).or_insert(curve);
                }
                of => self.mixes.push((of.to_vec(), curve)),
            },
            "black" | "white" => {
                self.drawdowns.insert((what.parse().unwrap(), kind == "white"), curve);
            }
            "glaze" => {
                let (tin, base) = what.split_once('/').unwrap();
                self.glazes.push(([tin, base].map(|tin| tin.parse().unwrap()), curve));
            }
            other => panic!("{other} is no kind of row"),
        }
    }

    /// The true colours to 8 bits; as L\*a\*b\* of those that no screen shows.
    pub fn facts(&self) -> Vec<Facts> {
        let code = |curve: &Reflectance| {
            let shown = on_screen(Xyz::of(curve, Light::Daylight), Light::Daylight, Degree::FULL).srgb;
            let lab = Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white());
            let near = difference(shown.to_lab(), lab).value() < 0.5;
            if near { Masstone::Hex(shown) } else { Masstone::Lab(lab) }
        };
        let fact = |(tin, curve): (usize, &Reflectance)| Facts {
            class: self.class,
            masstone: Some(code(curve)),
            source: Source::Reader,
            coats_to_hide: None,
            lustre: None,
            house_white: tin == 0,
        };
        self.masstones.iter().enumerate().map(fact).collect()
    }

    /// What was read of the shelf, each at three places.
    pub fn readings(&self, known: Known) -> Vec<Reading> {
        let spectra = known == Known::Spectra;
        let mut reader = SimulatedReader::new(7, spectra);
        let mut read = |of: Recipe, curve: &Reflectance| {
            reader.put_on(VirtualSample::measured(*curve));
            Reading {
                of,
                pour: PartsMethod::Scale,
                state: FilmState::Dry,
                shown: Shown::Thick(reader.read_sample().unwrap()),
                source: Source::Reader,
                sure: false,
            }
        };
        let mut readings = Vec::new();
        if spectra {
            let masstones = self.masstones.iter().enumerate();
            readings.extend(masstones.map(|(tin, curve)| read(vec![(tin, parts(1.0))], curve)));
        }
        if known != Known::Codes {
            let tins = 1..self.masstones.len();
            let tint = |tin: usize| read(vec![(tin, parts(1.0)), (0, parts(1.0))], &self.tints[&tin]);
            readings.extend(tins.map(tint));
        }
        readings
    }
}
