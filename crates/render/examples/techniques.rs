//! Every technique on a panel of its own, every ready finish, and all of either on one sheet, to be looked at: `make techniques`.

use std::time::Instant;

use image::{RgbImage, imageops};
use uuid::Uuid;
use warm_blend_board::{
    Application, Below, Board, Family, Ground, GroundKind, HandBias, KnownTin, Layer, Load, OnShelf, Stack,
    Technique, Template, TextureDepth,
};
use warm_blend_paint::{Class, CoatsToHide, FilmState, Masstone, Material, Name, PaintId, Parts, mix};
use warm_blend_piece::Mark;
use warm_blend_render::{Closer, Coats, Fineness, Relief, Shading, draw};
use warm_blend_spectral::{Light, Srgb};

/// A panel, pixels, and how many stand side by side.
const PANEL: (u32, u32) = (510, 340);
const ACROSS: u32 = 5;

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

/// A panel: its name, the ground, and the layers, each with how it was put on.
struct Panel {
    name: String,
    ground: GroundKind,
    layers: Vec<(Technique, Material, Application)>,
}

/// As usual, but so rough.
fn left_rough(microns: f64) -> Application {
    Application { texture: Some(TextureDepth::new(microns).expect("a texture")), ..Application::default() }
}

/// What shows a technique well: the ground, the coats below it, and what is in its own pot.
fn shown(technique: Technique) -> (GroundKind, Vec<Material>, Option<Material>) {
    let oat = || paint(Class::Chalk, "#e3dac6");
    let slate = || paint(Class::Chalk, "#5b7180");
    let peat = || paint(Class::Chalk, "#44372d");
    let clay = || paint(Class::Chalk, "#a9674c");
    let medium = |class| Material::of(class, None, None).expect("a medium");
    let on = |base: Material, pot: Material| (GroundKind::MidWood, vec![base.clone(), base], Some(pot));
    match technique {
        Technique::BrushedCoat | Technique::RolledCoat | Technique::TextureCoat => {
            (GroundKind::MidWood, Vec::new(), Some(slate()))
        }
        Technique::WetBlend | Technique::MeshedGlaze => on(oat(), slate()),
        Technique::GlazeStippled | Technique::GlazeRagged | Technique::GlazeRaggedSoftened => {
            on(oat(), with(&clay(), Class::GlazingLiquid, 4.0))
        }
        Technique::GlazeWiped => on(oat(), with(&peat(), Class::GlazingLiquid, 4.0)),
        Technique::StainWiped => {
            (GroundKind::PaleWood, Vec::new(), Some(with(&peat(), Class::ClearCoat, 1.0)))
        }
        Technique::WashWiped | Technique::WashPatted | Technique::WashDragged => {
            on(slate(), with(&oat(), Class::Water, 1.0))
        }
        Technique::WashDripped => on(oat(), with(&slate(), Class::Water, 1.0)),
        Technique::DryBrush => on(slate(), oat()),
        Technique::WetWaxResist => on(oat(), with(&slate(), Class::Water, 0.7)),
        Technique::MetallicWash => on(peat(), with(&paint(Class::Metallic, "#b08d57"), Class::Water, 1.0)),
        Technique::Speckle => on(oat(), peat()),
        Technique::Stencil | Technique::Freehand => on(slate(), oat()),
        Technique::KnifeFlecks => on(oat(), clay()),
        Technique::TintedWax => on(oat(), with(&peat(), Class::ClearWax, 1.0)),
        Technique::SandBack | Technique::SmoothSand | Technique::WetDistress => {
            (GroundKind::MidWood, vec![clay(), oat(), slate()], None)
        }
        Technique::ClearWax => on(slate(), medium(Class::ClearWax)),
        Technique::ClearCoat => on(slate(), medium(Class::ClearCoat)),
        Technique::Gilding => on(peat(), paint(Class::Metallic, "#b8934f")),
    }
}

/// A technique alone.
fn alone(technique: Technique) -> Panel {
    let (ground, below, pot) = shown(technique);
    let coats = below.into_iter().map(|coat| (Technique::BrushedCoat, coat, Application::default()));
    // What takes away has nothing in its pot.
    let own = pot.unwrap_or_else(|| Material::of(Class::Water, None, None).expect("water"));
    Panel {
        name: technique.id().to_owned(),
        ground,
        layers: coats.chain([(technique, own, Application::default())]).collect(),
    }
}

/// Texture, and what comes after it; a coat that was put on too thick.
fn rough() -> Vec<Panel> {
    let (oat, slate, peat) =
        (paint(Class::Chalk, "#e3dac6"), paint(Class::Chalk, "#5b7180"), paint(Class::Chalk, "#44372d"));
    let wax = with(&peat, Class::ClearWax, 2.0);
    let panel = |name: &str, layers| Panel { name: name.to_owned(), ground: GroundKind::MidWood, layers };
    let crossed = |code: &Material| (Technique::BrushedCoat, code.clone(), left_rough(140.0));
    let peaks = |code: &Material| (Technique::TextureCoat, code.clone(), Application::default());
    let then = |technique: Technique, pot: Material| (technique, pot, Application::default());
    let cracked = |name: &str, load: f64, last: Option<(Technique, Material)>| {
        let thick = Application { load: Load::new(load).expect("a load"), ..Application::default() };
        let coats =
            [then(Technique::BrushedCoat, slate.clone()), (Technique::BrushedCoat, oat.clone(), thick)];
        panel(name, coats.into_iter().chain(last.map(|(technique, pot)| then(technique, pot))).collect())
    };
    vec![
        panel(
            "crossed-dark-wax",
            vec![crossed(&oat), crossed(&oat), then(Technique::TintedWax, wax.clone())],
        ),
        panel("peaks-dark-wax", vec![peaks(&oat), then(Technique::TintedWax, wax.clone())]),
        panel("peaks-dry-brush", vec![peaks(&slate), then(Technique::DryBrush, oat.clone())]),
        panel("peaks-wash", vec![peaks(&oat), then(Technique::WashWiped, with(&slate, Class::Water, 1.0))]),
        panel(
            "peaks-sanded",
            vec![
                then(Technique::BrushedCoat, slate.clone()),
                peaks(&oat),
                then(Technique::SandBack, oat.clone()),
            ],
        ),
        cracked("fine-cracks", 2.0, None),
        cracked("cracked", 3.0, None),
        cracked("cracked-dark-wax", 2.4, Some((Technique::TintedWax, wax))),
        cracked("cracked-dry-brush", 2.4, Some((Technique::DryBrush, peat))),
        cracked("cracked-sanded", 4.0, Some((Technique::SandBack, oat.clone()))),
    ]
}

/// Woods, bare and where a coat is sanded back.
fn woods() -> Vec<Panel> {
    let slate = paint(Class::Chalk, "#5b7180");
    let sanded = [Technique::BrushedCoat, Technique::SandBack]
        .map(|technique| (technique, slate.clone(), Application::default()));
    let sanded = sanded.to_vec();
    let panel = |name: &str, ground, layers| Panel { name: name.to_owned(), ground, layers };
    vec![
        panel("pale-wood", GroundKind::PaleWood, Vec::new()),
        panel("middling-wood", GroundKind::MidWood, Vec::new()),
        panel("dark-wood", GroundKind::DarkWood, Vec::new()),
        panel("red-stain", GroundKind::RedStain, Vec::new()),
        panel("dark-wood-sanded", GroundKind::DarkWood, sanded),
    ]
}

/// An invented shelf, as that of the demo.
fn shelf() -> Vec<(Class, Material)> {
    let paints = [
        "#e9dfc8", "#f0ede6", "#cdb58a", "#c2953a", "#a8573f", "#7d8a5c", "#aebfb6", "#53687a", "#26324a",
        "#4a3a2f",
    ];
    let mediums = [Class::GlazingLiquid, Class::ClearWax, Class::ClearCoat, Class::Pearl, Class::Water];
    let paints = paints.map(|code| (Class::Chalk, paint(Class::Chalk, code)));
    let mediums = mediums.map(|class| (class, Material::of(class, None, None).expect("a medium")));
    let brass = (Class::Metallic, paint(Class::Metallic, "#a98a4e"));
    paints.into_iter().chain(mediums).chain([brass]).collect()
}

/// A ready finish, its strips side by side.
fn ready(template: &Template, plate: &Relief) -> RgbImage {
    let shelf = shelf();
    let id = |n: usize| PaintId(Uuid::from_u128(n as u128));
    let on: Vec<OnShelf> = shelf
        .iter()
        .enumerate()
        .map(|(n, (class, tin))| OnShelf {
            paint: id(n),
            class: *class,
            lab: tin.seen_lab(Light::Daylight),
            left: 500.0,
        })
        .collect();
    let tin = |paint: PaintId| {
        let (class, material) = shelf.get(paint.0.as_u128() as usize)?;
        Some(KnownTin::new(*class, material))
    };
    let strips = template.filled(&on, None).expect("all of it is on the shelf").strips();
    let name = Name::new(template.name).expect("a name");
    let board = Board::new(name, Ground::of(GroundKind::RedStain), strips).expect("a board");
    let letters: Vec<_> = board.strips().iter().map(|strip| strip.letter).collect();
    let stacks: Vec<Stack> = letters
        .iter()
        .map(|letter| board.stack(*letter, tin, |_| HandBias::USUAL).expect("paints"))
        .collect();
    let mark = |letter| board.layers(letter).iter().map(|layer| Mark::of(layer)).collect::<Vec<_>>();
    let marks: Vec<Vec<Mark>> = letters.iter().map(|letter| mark(*letter)).collect();
    let coats = stacks.iter().zip(&marks);
    let coats: Vec<Coats> = coats.map(|(stack, marks)| Coats { stack, marks, layers: stack.len() }).collect();
    let picture = draw(plate, &coats, Light::Daylight, FilmState::Dry, Shading::default());
    RgbImage::from_raw(picture.width, picture.height, picture.rgb).expect("its size")
}

/// Panels side by side, row by row.
fn sheet(panels: &[RgbImage], file: &str) {
    let rows = (panels.len() as u32).div_ceil(ACROSS);
    let mut sheet = RgbImage::from_pixel(ACROSS * PANEL.0, rows * PANEL.1, image::Rgb([150; 3]));
    for (panel, n) in panels.iter().zip(0u32..) {
        let panel = imageops::resize(panel, PANEL.0, PANEL.1, imageops::FilterType::Triangle);
        let (x, y) = (n % ACROSS * PANEL.0, n / ACROSS * PANEL.1);
        imageops::replace(&mut sheet, &panel, i64::from(x), i64::from(y));
    }
    sheet.save(file).expect("a file");
}

fn main() {
    let folder = std::env::args().nth(1).expect("a folder to write to");
    let size = std::env::args().nth(2).and_then(|side| side.parse().ok()).unwrap_or(PANEL.0);
    std::fs::create_dir_all(&folder).expect("a folder");
    let plate =
        Relief::panelled(size, size * PANEL.1 / PANEL.0, Closer::WHOLE, Fineness::Fine).expect("a plate");
    let mut panels = Vec::new();
    for Panel { name, ground, layers } in Technique::ALL.into_iter().map(alone).chain(rough()).chain(woods())
    {
        let mut stack = Stack::over(&Ground::of(ground)).expect("a ground");
        let layer = |technique, hand| Layer { hand, ..Layer::new(technique, Vec::new()) };
        let marks: Vec<Mark> =
            layers.iter().map(|(technique, _, hand)| Mark::of(&layer(*technique, *hand))).collect();
        for (technique, pot, hand) in layers {
            if technique.takes_away() {
                stack.take_away(technique.print(hand), 0);
            } else {
                let seals = matches!(technique.family(), Family::Seal | Family::Wax);
                let below = Below { seals, soaks: technique.soaks() };
                stack.lay_rough(pot, technique.print(hand), below, None, technique.rough(hand));
                if layer(technique, hand).is_cracked() {
                    stack.crack();
                }
            }
        }
        let coats = Coats { stack: &stack, marks: &marks, layers: stack.len() };
        let began = Instant::now();
        let picture = draw(&plate, &[coats], Light::Daylight, FilmState::Dry, Shading::default());
        println!("{name}: {:.0?}", began.elapsed());
        let panel = RgbImage::from_raw(picture.width, picture.height, picture.rgb).expect("its size");
        panel.save(format!("{folder}/{name}.png")).expect("a file");
        panels.push(panel);
    }
    sheet(&panels, &format!("{folder}/techniques.png"));
    let finishes: Vec<RgbImage> = Template::ALL.iter().map(|template| ready(template, &plate)).collect();
    for (template, panel) in Template::ALL.iter().zip(&finishes) {
        panel.save(format!("{folder}/ready-{}.png", template.id)).expect("a file");
    }
    sheet(&finishes, &format!("{folder}/finishes.png"));
}
