//! A few finishes as PNG files, to be looked at: `cargo run --release -p warm-blend-render --example look -- folder`.

use std::time::Instant;

use warm_blend_board::{Ground, GroundKind, Stack, Technique};
use warm_blend_paint::{Class, CoatsToHide, Masstone, Material, Parts, State, mix};
use warm_blend_piece::Mark;
use warm_blend_render::{Coats, Relief, Shading, draw};
use warm_blend_spectral::{Light, Srgb};

fn paint(class: Class, code: &str) -> Material {
    let code: Srgb = code.parse().expect("a code");
    let coats = CoatsToHide::new(1.75).expect("coats");
    Material::of(class, Some(Masstone::Hex(code)), Some(coats)).expect("a paint")
}

fn with(paint: &Material, medium: Class, parts: f64) -> Material {
    let medium = Material::of(medium, None, None).expect("a medium");
    let of = |n| Parts::new(n).expect("parts");
    mix(&[(of(1.0), paint), (of(parts), &medium)]).expect("a mix")
}

/// A name, what lies below, the layers.
type Board<'a> = (&'a str, GroundKind, Vec<(Technique, &'a Material)>);

fn main() {
    let folder = std::env::args().nth(1).expect("a folder to write to");
    let cream = paint(Class::Chalk, "#e2d5b5");
    let slate = paint(Class::Chalk, "#53687a");
    let peat = paint(Class::Chalk, "#4a3a2f");
    let oat = paint(Class::Chalk, "#e8e1cf");
    let gold = paint(Class::Metallic, "#b08d57");
    use Technique as T;
    let glaze = with(&peat, Class::GlazingLiquid, 4.0);
    let wash = with(&oat, Class::Water, 1.0);
    let wax = with(&peat, Class::ClearWax, 4.0);
    let boards: [Board; 6] = [
        (
            "aged",
            GroundKind::RedStain,
            vec![
                (T::BrushedCoat, &cream),
                (T::BrushedCoat, &cream),
                (T::GlazeWiped, &glaze),
                (T::DryBrush, &oat),
                (T::SandBack, &oat),
                (T::TintedWax, &wax),
            ],
        ),
        (
            "dry",
            GroundKind::PaleWood,
            vec![(T::BrushedCoat, &slate), (T::BrushedCoat, &slate), (T::DryBrush, &oat)],
        ),
        (
            "ragged",
            GroundKind::WhitePrimer,
            vec![(T::RolledCoat, &cream), (T::RolledCoat, &cream), (T::GlazeRagged, &glaze)],
        ),
        (
            "stippled",
            GroundKind::WhitePrimer,
            vec![(T::RolledCoat, &cream), (T::RolledCoat, &cream), (T::GlazeStippled, &glaze)],
        ),
        (
            "washed",
            GroundKind::DarkWood,
            vec![
                (T::BrushedCoat, &slate),
                (T::BrushedCoat, &slate),
                (T::WashPatted, &wash),
                (T::Gilding, &gold),
            ],
        ),
        (
            "stencil",
            GroundKind::WhitePrimer,
            vec![
                (T::BrushedCoat, &cream),
                (T::BrushedCoat, &cream),
                (T::Stencil, &slate),
                (T::Speckle, &peat),
            ],
        ),
    ];
    let start = Instant::now();
    let plate = Relief::panelled(1200, 800).expect("a plate");
    println!("plate {:.0?}", start.elapsed());
    for (name, ground, layers) in &boards {
        let mut stack = Stack::over(&Ground::of(*ground)).expect("a ground");
        for (technique, material) in layers {
            if technique.takes_away() {
                stack.take_away(technique.usual(), 0);
            } else {
                let seals = *technique == T::TintedWax;
                stack.lay((*material).clone(), technique.usual(), seals, None);
            }
        }
        let marks: Vec<Mark> = layers.iter().map(|(technique, _)| Mark::By(*technique)).collect();
        let coats = Coats { stack: &stack, marks: &marks, layers: stack.len() };
        let draw = || draw(&plate, &[coats], Light::Daylight, State::Dry, Shading::Soft);
        draw();
        let start = Instant::now();
        let picture = draw();
        let drawn = start.elapsed();
        let png = picture.to_png();
        println!(
            "{name}: drawn {drawn:.0?}, with its {} kB of PNG {:.0?}",
            png.len() / 1000,
            start.elapsed()
        );
        std::fs::write(format!("{folder}/{name}.png"), png).expect("a file");
    }
}
