//! `cargo bench --bench pieces`: the verdict on a piece, what brings it together, and its picture.

use std::{collections::BTreeMap, hint::black_box, ops::ControlFlow};

use uuid::Uuid;
use warm_blend_benches::timed;
use warm_blend_board::{
    Board, ByPlace, Ground, GroundKind, HandBias, KnownTin, Layer, Letter, OnShelf, Share, Strip, Technique,
};
use warm_blend_paint::{
    Class, CoatsToHide, FilmState, Masstone, Material, MixPart, Name, PaintId, Units, WholeParts,
};
use warm_blend_piece::{
    Ageing, Finish, FinishContext, FinishedZone, Form, Intent, Looked, Meeting, Piece, PieceKind, Scheme,
    View, Zone, ZoneFinish, ZoneSeen, findings, pairs, unify,
};
use warm_blend_render::{Closer, Fineness, Front, Lamp, Shading};
use warm_blend_spectral::{Light, Srgb};

/// A shelf of fourteen paints and two mediums.
const CODES: [&str; 14] = [
    "#e9dfc8", "#f0ede6", "#cdb58a", "#c2953a", "#a8573f", "#5e1f22", "#7d8a5c", "#27443a", "#aebfb6",
    "#53687a", "#26324a", "#b3aea3", "#4a3a2f", "#25252a",
];
const GLAZING_LIQUID: usize = 14;
const CLEAR_WAX: usize = 15;

fn shelf() -> Vec<(Class, Material)> {
    let coats = CoatsToHide::new(1.75).unwrap();
    let paint = |code: &&str| {
        let code: Srgb = code.parse().unwrap();
        (Class::Chalk, Material::of(Class::Chalk, Some(Masstone::Hex(code)), Some(coats)).unwrap())
    };
    let medium = |class| (class, Material::of(class, None, None).unwrap());
    CODES.iter().map(paint).chain([Class::GlazingLiquid, Class::ClearWax].map(medium)).collect()
}

fn pot(of: &[(usize, u32)]) -> Vec<MixPart> {
    let part = |(paint, parts): &(usize, u32)| MixPart {
        paint: PaintId(Uuid::from_u128(*paint as u128)),
        parts: WholeParts::new(*parts).unwrap(),
    };
    of.iter().map(part).collect()
}

fn board(layers: Vec<Layer>) -> Board {
    let strip = Strip { letter: Letter::ALL[0], from: None, layers };
    Board::new(Name::new("board").unwrap(), Ground::of(GroundKind::RedStain), vec![strip]).unwrap()
}

fn boards() -> [Board; 2] {
    let put = |technique, of: &[(usize, u32)]| Layer::new(technique, pot(of));
    [
        board(vec![
            put(Technique::BrushedCoat, &[(11, 3), (10, 1)]),
            put(Technique::BrushedCoat, &[(11, 3), (10, 1)]),
            put(Technique::ClearCoat, &[]),
            put(Technique::GlazeWiped, &[(12, 1), (GLAZING_LIQUID, 4)]),
            put(Technique::DryBrush, &[(9, 1), (8, 2)]),
            put(Technique::DryBrush, &[(8, 1)]),
            put(Technique::SandBack, &[]),
            put(Technique::TintedWax, &[(12, 1), (CLEAR_WAX, 9)]),
        ]),
        board(vec![
            put(Technique::BrushedCoat, &[(5, 1)]),
            put(Technique::BrushedCoat, &[(0, 1)]),
            put(Technique::DryBrush, &[(2, 1)]),
            put(Technique::WetDistress, &[]),
            put(Technique::ClearWax, &[]),
        ]),
    ]
}

fn main() {
    let (shelf, boards) = (shelf(), boards());
    let share = |of| Share::new(of).unwrap();
    let worn = |board: u128| ZoneFinish {
        ageing: Ageing { wear: share(0.2), grime: share(0.4), ..Ageing::default() },
        ..ZoneFinish::of(Finish::Strip { board: Uuid::from_u128(board), strip: Letter::ALL[0] })
    };
    let dresses = [Zone::Case, Zone::Sides, Zone::Fall, Zone::Legs, Zone::Plinth].map(|zone| (zone, worn(0)));
    let wears: BTreeMap<Zone, ZoneFinish> =
        dresses.into_iter().chain([Zone::Panels, Zone::Mouldings].map(|zone| (zone, worn(1)))).collect();
    let name = Name::new("piano").unwrap();
    let scheme = Scheme { name: name.clone(), wears, over: vec![], intent: Intent::Quiet, pairs: vec![] };
    let mut piece = Piece::named(name);
    let form = Form { panels: 3, moulding: 34.0, carved: true, ..PieceKind::UprightCase.usual() };
    piece.form = Some(form);

    let tin = |paint: PaintId| {
        let (class, material) = shelf.get(paint.0.as_u128() as usize)?;
        Some(KnownTin::new(*class, material))
    };
    let board = |id: Uuid| boards.get(id.as_u128() as usize);
    let elevation = form.build().unwrap();
    let wardrobe = FinishContext {
        tin: &tin,
        habit: &|_| HandBias::USUAL,
        elevation: &elevation,
        board: &board,
        primer: &|_| None,
    };
    let on = |(n, (class, material)): (usize, &(Class, Material))| OnShelf {
        paint: PaintId(Uuid::from_u128(n as u128)),
        class: *class,
        lab: material.seen_lab(Light::Daylight),
        left: 500.0,
    };
    let on_shelf: Vec<OnShelf> = shelf.iter().enumerate().map(on).collect();

    let places: BTreeMap<Zone, ByPlace<f64>> = elevation.places();
    let meetings: Vec<Meeting> = piece.meetings(&elevation);
    let dressed = || -> BTreeMap<Zone, FinishedZone> {
        let zones = piece.extents(&elevation).into_keys().filter(|zone| zone.is_painted());
        zones.map(|zone| (zone, wardrobe.dress(zone, &scheme, piece.ground, &[], None).unwrap())).collect()
    };
    let seen = |dressed: &BTreeMap<Zone, FinishedZone>| -> Vec<ZoneSeen> {
        let extents = piece.extents(&elevation);
        let look = |(zone, worn): (&Zone, &FinishedZone)| {
            worn.look(*zone, extents[zone], &places[zone], Light::Daylight, FilmState::Dry)
        };
        dressed.iter().map(look).collect()
    };
    timed("the verdict on a piano of eight zones, from its dimensions", 100, || {
        black_box(form.build().unwrap());
        let zones = seen(&dressed());
        let pairs = pairs(&zones, &meetings, &scheme, &piece.windows);
        black_box(findings(&zones, &pairs, Units::Metric));
    });
    let (dressed, zones) = (dressed(), seen(&dressed()));
    let looked = Looked {
        piece: &piece,
        scheme: &scheme,
        zones: &zones,
        places: &places,
        meetings: &meetings,
        look: (Light::Daylight, FilmState::Dry),
    };
    timed("unify, from fourteen paints and two mediums", 10, || {
        black_box(unify(&looked, &wardrobe, &on_shelf, |_| ControlFlow::Continue(())).unwrap());
    });
    let face = elevation.face(View::Front).unwrap();
    timed("the relief of its front, 1200 × 800", 5, || {
        black_box(Front::new(face, 1200, 800, Closer::WHOLE, Fineness::Quick).unwrap());
    });
    let front = Front::new(face, 1200, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    timed("its front in what it wears, 1200 × 800", 20, || {
        black_box(front.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::default()));
    });
    let mut turned = 0.0;
    timed("the same, the lamp turned each time", 20, || {
        turned += 17.0;
        let shading = Shading::By(Lamp::from_side(turned, false));
        black_box(front.draw(&dressed, Light::Daylight, FilmState::Dry, shading));
    });
    timed("the relief of a fine picture as the screen shows it, 960 × 720", 5, || {
        black_box(Front::new(face, 960, 720, Closer::WHOLE, Fineness::Fine).unwrap());
    });
    let fine = Front::new(face, 960, 720, Closer::WHOLE, Fineness::Fine).unwrap();
    timed("the fine picture, with its PNG", 10, || {
        black_box(fine.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::default()).to_png());
    });
}
