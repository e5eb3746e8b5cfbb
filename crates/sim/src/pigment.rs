//! Invented pigments. Each absorbs at an edge or in bands and scatters by its own law; none is real.

use std::sync::LazyLock;
use strum::VariantArray as _;

use warm_blend_spectral::{BANDS, wavelength};

/// A pigment at full load in a vehicle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, strum::VariantArray)]
#[allow(missing_docs)] // the names say what there is to say
pub enum Pigment {
    WhiteEarth,
    ChalkFiller,
    StrawOxide,
    RustOxide,
    UmberEarth,
    Soot,
    LakeBlue,
    MarineBlue,
    SkyBlue,
    LeafGreen,
    MossOxide,
    Lemon,
    Marigold,
    Scarlet,
    Rose,
    Plum,
}

/// How absorption runs over the spectrum, 1/mm.
enum Absorbs {
    /// Falls from `height` at short wavelengths to zero at long ones, half-way at `at` nm, over about four `width`s.
    Edge { height: f64, at: f64, width: f64 },
    /// A bell curve.
    Band { height: f64, at: f64, width: f64 },
    /// Constant.
    Flat(f64),
}
use Absorbs::{Band, Edge, Flat};

/// What a full load is, so that the whites of the virtual shelf hide in two coats or so, as paints do†.
const FULL: f64 = 2.4;

impl Absorbs {
    fn at(&self, nm: f64) -> f64 {
        match *self {
            Edge { height, at, width } => height / (1.0 + ((nm - at) / width).exp()),
            Band { height, at, width } => height * (-((nm - at) / width).powi(2) / 2.0).exp(),
            Flat(height) => height,
        }
    }
}

impl Pigment {
    /// All pigments.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// What absorbs; S at 550 nm, 1/mm; and the power of the wavelength by which S falls.
    fn recipe(self) -> (Vec<Absorbs>, f64, f64) {
        let edge = |height, at, width| Edge { height, at, width };
        let band = |height, at, width| Band { height, at, width };
        match self {
            Self::WhiteEarth => (vec![edge(30.0, 385.0, 7.0), Flat(0.15)], 55.0, 0.9),
            Self::ChalkFiller => (vec![edge(0.6, 430.0, 40.0), Flat(0.1)], 5.0, 0.4),
            Self::StrawOxide => {
                (vec![edge(95.0, 495.0, 17.0), band(9.0, 640.0, 60.0), Flat(1.2)], 17.0, -0.6)
            }
            Self::RustOxide => {
                (vec![edge(150.0, 572.0, 16.0), band(7.0, 690.0, 60.0), Flat(2.5)], 22.0, -1.2)
            }
            Self::UmberEarth => (vec![edge(75.0, 500.0, 75.0), Flat(11.0)], 9.0, 0.2),
            Self::Soot => (vec![Flat(260.0), edge(40.0, 480.0, 90.0)], 3.0, 1.5),
            Self::LakeBlue => (
                vec![band(210.0, 625.0, 42.0), band(150.0, 695.0, 34.0), band(18.0, 390.0, 30.0), Flat(1.5)],
                2.5,
                2.0,
            ),
            Self::MarineBlue => (vec![band(70.0, 592.0, 46.0), edge(4.0, 400.0, 12.0), Flat(1.0)], 3.5, 1.4),
            Self::SkyBlue => (vec![band(48.0, 640.0, 48.0), band(30.0, 575.0, 32.0), Flat(1.5)], 11.0, 0.8),
            Self::LeafGreen => (
                vec![band(170.0, 645.0, 40.0), band(70.0, 705.0, 30.0), edge(90.0, 435.0, 15.0), Flat(1.8)],
                2.5,
                1.8,
            ),
            Self::MossOxide => {
                (vec![band(38.0, 610.0, 38.0), edge(42.0, 470.0, 26.0), Flat(4.0)], 15.0, -0.3)
            }
            Self::Lemon => (vec![edge(120.0, 478.0, 9.0), Flat(0.4)], 9.0, 0.5),
            Self::Marigold => (vec![edge(130.0, 540.0, 11.0), Flat(0.5)], 10.0, 0.1),
            Self::Scarlet => (vec![edge(125.0, 590.0, 9.0), Flat(0.8)], 7.0, -0.4),
            Self::Rose => (
                vec![band(110.0, 540.0, 34.0), band(45.0, 500.0, 40.0), band(12.0, 400.0, 30.0), Flat(0.8)],
                2.0,
                1.0,
            ),
            Self::Plum => (vec![band(120.0, 565.0, 48.0), band(60.0, 615.0, 30.0), Flat(2.5)], 2.2, 1.5),
        }
    }

    /// K in 36 bands at full load, 1/mm wet.
    pub fn k(self) -> &'static [f64; BANDS] {
        &TABLE[self as usize].0
    }

    /// S in 36 bands at full load, 1/mm wet.
    pub fn s(self) -> &'static [f64; BANDS] {
        &TABLE[self as usize].1
    }
}

/// K and S of every pigment, in the order of [`Pigment::ALL`].
static TABLE: LazyLock<[([f64; BANDS], [f64; BANDS]); 16]> = LazyLock::new(|| {
    Pigment::ALL.map(|pigment| {
        let (absorbs, at_550, power) = pigment.recipe();
        let nm = |i| f64::from(wavelength(i));
        (
            std::array::from_fn(|i| FULL * absorbs.iter().map(|part| part.at(nm(i))).sum::<f64>()),
            std::array::from_fn(|i| FULL * at_550 * (550.0 / nm(i)).powf(power)),
        )
    })
});
