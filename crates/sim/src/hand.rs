//! A virtual painter whose hand differs from the table, and boards painted by it.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, StandardNormal};
use warm_blend_board::{Board, ByPlace, Deposit, HandBias, KnownTin, Letter, Place, Stack, Technique};
use warm_blend_paint::{FilmState, Microns, PaintId};
use warm_blend_spectral::Reflectance;

use crate::{VirtualPaint, VirtualSample};

/// Sd of ln of the film this hand leaves against the table's, and of the shift of its coverage.
const FILM: f64 = 0.4;
const COVER: f64 = 0.4;
/// Sd of ln of how rough it leaves what has a texture.
const ROUGH: f64 = 0.4;
/// The same of each kind of place alone: no hand is heavier everywhere alike.
const BY_PLACE: f64 = 0.1;
/// Sd of what is seen at a spot against its place: paint is uneven.
const UNEVEN: f64 = 0.03;

/// A hand, the same on every board.
#[derive(Debug, Clone)]
pub struct VirtualHand {
    /// By technique.
    habits: Vec<ByPlace<HandBias>>,
    /// By technique.
    rough: Vec<f64>,
}

/// A painted strip.
#[derive(Debug, Clone)]
pub struct VirtualBoard {
    stack: Stack,
    unevenness: ChaCha8Rng,
}

impl VirtualHand {
    /// A hand from a seed.
    pub fn new(seed: u64) -> Self {
        let mut chance = ChaCha8Rng::seed_from_u64(seed);
        let mut normal = || -> f64 { StandardNormal.sample(&mut chance) };
        let habits = Technique::ALL.map(|_| {
            let (film, cover) = (FILM * normal(), COVER * normal());
            ByPlace::from_fn(|_| HandBias {
                film: (film + BY_PLACE * normal()).exp(),
                cover: cover + BY_PLACE * normal(),
                rough: 1.0,
            })
        });
        let rough = Technique::ALL.map(|_| (ROUGH * normal()).exp());
        Self { habits: habits.into(), rough: rough.into() }
    }

    /// Factor on the texture of a technique.
    pub fn roughness(&self, technique: Technique) -> f64 {
        self.rough[technique as usize]
    }

    /// Bias in a technique, by place.
    pub fn habit(&self, technique: Technique) -> &ByPlace<HandBias> {
        &self.habits[technique as usize]
    }

    /// Paints a strip of a board; `None` if the strip or one of its tins does not exist.
    pub fn paint<'a>(
        &self,
        board: &Board,
        letter: Letter,
        tin: impl Fn(PaintId) -> Option<&'a VirtualPaint>,
        seed: u64,
    ) -> Option<VirtualBoard> {
        let alone = board.strip_alone(letter)?;
        if alone.paints().into_iter().any(|paint| tin(paint).is_none()) {
            return None;
        }
        let mut strips = alone.strips().to_vec();
        for layer in strips.iter_mut().flat_map(|strip| &mut strip.layers) {
            // What the painter says was left was left.
            let habits = self.habit(layer.technique);
            let usual = layer.technique.print(layer.hand);
            let print = ByPlace::from_fn(|place| habits.at(place).print(&usual));
            layer.print = layer.print.or(Some(Deposit {
                film: ByPlace::from_fn(|place: Place| -> Microns { *print.at(place).film.at(place) }),
                cover: ByPlace::from_fn(|place| *print.at(place).cover.at(place)),
            }));
        }
        let painted = Board::new(alone.name, alone.ground, strips).ok()?;
        let truth = |paint| tin(paint).map(|tin| KnownTin::new(tin.class, &tin.truth));
        let rough = |technique| HandBias { rough: self.roughness(technique), ..HandBias::USUAL };
        let stack = painted.stack(letter, truth, rough).ok()?;
        Some(VirtualBoard { stack, unevenness: ChaCha8Rng::seed_from_u64(seed) })
    }
}

impl VirtualBoard {
    /// True reflectance from across the room at a kind of place.
    pub fn truth(&self, place: Place, state: FilmState) -> Reflectance {
        self.stack.seen(place, self.stack.len(), state).from_afar()
    }

    /// A spot for the reader, each a little lighter or darker than its place.
    pub fn spot(&mut self, place: Place, state: FilmState) -> VirtualSample {
        let truth = self.truth(place, state);
        let uneven: f64 = StandardNormal.sample(&mut self.unevenness);
        VirtualSample::of(Reflectance::from_fn(|i| truth.bands()[i] * (UNEVEN * uneven).exp()))
    }
}
