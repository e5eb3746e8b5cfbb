//! `cargo bench --bench boards`: a six-layer board's table of states, a board of six strips, and its picture.

use std::hint::black_box;

use warm_blend_benches::timed;
use warm_blend_board::{Below, Ground, GroundKind, Place, Stack, Technique};
use warm_blend_paint::{Class, CoatsToHide, FilmState, Masstone, Material, Parts, mix};
use warm_blend_piece::Mark;
use warm_blend_render::{Closer, Coats, Fineness, Relief, Shading, draw};
use warm_blend_spectral::{Light, Srgb};

fn paint(code: &str) -> Material {
    let code: Srgb = code.parse().unwrap();
    Material::of(Class::Chalk, Some(Masstone::Hex(code)), Some(CoatsToHide::new(1.75).unwrap())).unwrap()
}

fn with(paint: &Material, medium: Class, parts: f64) -> Material {
    let medium = Material::of(medium, None, None).unwrap();
    mix(&[(Parts::new(1.0).unwrap(), paint), (Parts::new(parts).unwrap(), &medium)]).unwrap()
}

const LAYERS: [Technique; 6] = [
    Technique::BrushedCoat,
    Technique::GlazeRagged,
    Technique::WashPatted,
    Technique::DryBrush,
    Technique::SandBack,
    Technique::TintedWax,
];

/// A coat, three broken layers, wear and a wax; `n` tells the wax of a strip from the others'.
fn strip(n: u8) -> Stack {
    let (base, deep, pale) = (paint("#e2d5b5"), paint("#4a3a2f"), paint("#e8e1cf"));
    let materials = [
        base,
        with(&deep, Class::GlazingLiquid, 4.0),
        with(&pale, Class::Water, 1.0),
        pale.clone(),
        pale,
        with(&deep, Class::ClearWax, 3.0 + f64::from(n)),
    ];
    let mut stack = Stack::over(&Ground::of(GroundKind::RedStain)).unwrap();
    for (technique, material) in LAYERS.into_iter().zip(materials) {
        if technique.takes_away() {
            stack.take_away(technique.usual(), 0);
        } else {
            let below = if technique == Technique::TintedWax { Below::WAXES } else { Below::LIES };
            stack.lay(material, technique.usual(), below, None);
        }
    }
    stack
}

fn main() {
    let stack = strip(0);
    println!("states of the field: {}", stack.seen(Place::Field, 6, FilmState::Dry).states.len());
    timed("states of one place of six layers", 500, || {
        black_box(black_box(&stack).seen(Place::Field, 6, FilmState::Dry));
    });
    let strips: Vec<Stack> = (0..6).map(strip).collect();
    timed("six layers, six strips, three places each, with the colour from afar", 200, || {
        for stack in &strips {
            for place in Place::ALL {
                black_box(stack.seen(place, 6, FilmState::Dry).from_afar());
            }
        }
    });
    let marks = LAYERS.map(Mark::By);
    let coats: Vec<Coats> = strips.iter().map(|stack| Coats { stack, marks: &marks, layers: 6 }).collect();
    timed("the relief of a picture, 1200 × 800", 5, || {
        black_box(Relief::panelled(1200, 800, Closer::WHOLE, Fineness::Quick).unwrap());
    });
    let plate = Relief::panelled(1200, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    let picture = |coats: &[Coats], plate: &Relief| {
        draw(plate, coats, Light::Daylight, FilmState::Dry, Shading::default())
    };
    timed("a picture of one strip, 1200 × 800", 20, || {
        black_box(picture(&coats[..1], &plate));
    });
    timed("six strips side by side, 1200 × 800", 20, || {
        black_box(picture(&coats, &plate));
    });
    let draft = Relief::panelled(840, 420, Closer::WHOLE, Fineness::Quick).unwrap();
    timed("one strip as the screen shows it, 840 × 420, with its PNG", 20, || {
        black_box(picture(&coats[..1], &draft).to_png());
    });
    let fine = Relief::panelled(840, 420, Closer::WHOLE, Fineness::Fine).unwrap();
    timed("the same, drawn finely", 20, || {
        black_box(picture(&coats[..1], &fine).to_png());
    });
}
