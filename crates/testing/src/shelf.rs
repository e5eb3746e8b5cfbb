//! A small shelf, and boards painted with it.

use uuid::Uuid;
use warm_blend_board::{Board, Ground, GroundKind, KnownTin, Layer, Letter, OnShelf, Strip};
use warm_blend_paint::{Class, CoatsToHide, Masstone, Material, MixPart, Name, PaintId, WholeParts};
use warm_blend_spectral::{Light, Srgb};

pub const A: Letter = Letter::ALL[0];

pub const CREAM: u128 = 0;
pub const CLAY_BLUE: u128 = 1;
pub const BROWN: u128 = 2;
pub const WHITE: u128 = 3;
pub const OXBLOOD: u128 = 4;
pub const GLAZING_LIQUID: u128 = 8;
pub const CLEAR_WAX: u128 = 9;
pub const PRIMER: u128 = 10;
pub const GEL_STAIN: u128 = 11;
pub const PEARL: u128 = 12;

pub fn paint(class: Class, [red, green, blue]: [u8; 3], coats: f64) -> Material {
    let code = Masstone::Hex(Srgb { red, green, blue });
    Material::of(class, Some(code), Some(CoatsToHide::new(coats).unwrap())).unwrap()
}

/// Tins by number.
pub struct Shelf(Vec<(PaintId, Class, Material)>);

impl Default for Shelf {
    fn default() -> Self {
        let paints = [
            (CREAM, Class::Chalk, [226, 220, 200], 1.5),
            (CLAY_BLUE, Class::Clay, [110, 130, 140], 1.5),
            (BROWN, Class::LatexSatin, [90, 70, 60], 1.5),
            (WHITE, Class::Chalk, [240, 238, 230], 1.75),
            (OXBLOOD, Class::Chalk, [110, 32, 30], 1.5),
            (PRIMER, Class::Primer, [225, 224, 220], 1.5),
        ];
        let of = |n, class, material| (PaintId(Uuid::from_u128(n)), class, material);
        let mediums = [(GLAZING_LIQUID, Class::GlazingLiquid), (CLEAR_WAX, Class::ClearWax)];
        let paints = paints.map(|(n, class, code, coats)| of(n, class, paint(class, code, coats)));
        let mediums = mediums.map(|(n, class)| of(n, class, Material::of(class, None, None).unwrap()));
        Self(paints.into_iter().chain(mediums).collect())
    }
}

impl Shelf {
    /// The shelf with a stain and a pearl medium added.
    pub fn wide() -> Self {
        let mut shelf = Self::default();
        let stain = paint(Class::GelStain, [86, 54, 34], 6.0);
        let pearl = Material::of(Class::Pearl, None, None).unwrap();
        shelf.0.push((PaintId(Uuid::from_u128(GEL_STAIN)), Class::GelStain, stain));
        shelf.0.push((PaintId(Uuid::from_u128(PEARL)), Class::Pearl, pearl));
        shelf
    }

    pub fn add(&mut self, n: u128, class: Class, code: [u8; 3]) {
        self.0.push((PaintId(Uuid::from_u128(n)), class, paint(class, code, 1.5)));
    }

    /// The shelf with this factor on the strength of every paint.
    pub fn stronger(mut self, times: f64) -> Self {
        for (_, class, material) in &mut self.0 {
            if class.makes_colours() {
                *material = material.stronger(times.ln());
            }
        }
        self
    }

    pub fn without(mut self, class: Class) -> Self {
        self.0.retain(|(_, of, _)| *of != class);
        self
    }

    pub fn tin(&self, id: PaintId) -> Option<KnownTin<'_>> {
        let (_, class, material) = self.0.iter().find(|(known, ..)| *known == id)?;
        Some(KnownTin::new(*class, material))
    }

    pub fn on(&self) -> Vec<OnShelf> {
        let on = |(paint, class, material): &(PaintId, Class, Material)| OnShelf {
            paint: *paint,
            class: *class,
            lab: material.seen_lab(Light::Daylight),
            left: 500.0,
        };
        self.0.iter().map(on).collect()
    }
}

pub fn pot(of: &[(u128, u32)]) -> Vec<MixPart> {
    let part = |(paint, parts): &(u128, u32)| MixPart {
        paint: PaintId(Uuid::from_u128(*paint)),
        parts: WholeParts::new(*parts).unwrap(),
    };
    of.iter().map(part).collect()
}

pub fn named(name: &str) -> Name {
    Name::new(name).unwrap()
}

pub fn board_on(ground: GroundKind, layers: Vec<Layer>) -> Board {
    let strip = Strip { letter: A, from: None, layers };
    Board::new(named("aged case"), Ground::of(ground), vec![strip]).unwrap()
}

pub fn board(layers: Vec<Layer>) -> Board {
    board_on(GroundKind::WhitePrimer, layers)
}
