//! A piece's picture says what the engine says, zone by zone.

use std::collections::BTreeMap;

use uuid::Uuid;
use warm_blend_board::{
    Application, Board, Ground, GroundKind, HandBias, KnownTin, Layer, Letter, Motif, Passes, Place, Share,
    Strip, Technique,
};
use warm_blend_paint::{
    Class, CoatsToHide, FilmState, Masstone, Material, MixPart, Name, PaintId, WholeParts,
};
use warm_blend_piece::{
    Ageing, Band, BlendDirection, Border, Extent, Face, Fade, Finish, FinishContext, FinishedZone, Form,
    Intent, Outlined, PieceKind, Scheme, Softened, Softening, Stencil, View, Zone, ZoneFinish,
};
use warm_blend_render::{Closer, Fineness, Front, Picture, Placed, Shading};
use warm_blend_spectral::{Lab, Light, Srgb, Xyz, difference};

fn material(n: u128) -> Material {
    let codes = [[90, 112, 128], [226, 220, 200], [160, 74, 58], [60, 84, 66]];
    let [red, green, blue] = codes[n as usize];
    let code = Masstone::Hex(Srgb { red, green, blue });
    Material::of(Class::Chalk, Some(code), Some(CoatsToHide::new(1.5).unwrap())).unwrap()
}

fn one(n: u128) -> Vec<MixPart> {
    vec![MixPart { paint: PaintId(Uuid::from_u128(n)), parts: WholeParts::new(1).unwrap() }]
}

fn front() -> Face {
    PieceKind::ChestOfDrawers.usual().build().unwrap().face(View::Front).unwrap().clone()
}

/// A worn and grimy case, drawers that go over from one colour into the other.
fn dressed() -> BTreeMap<Zone, FinishedZone> {
    let materials = [material(0), material(1)];
    let name = Name::new("case").unwrap();
    let layers = vec![
        Layer::new(Technique::BrushedCoat, one(0)),
        Layer::new(Technique::DryBrush, one(1)),
        Layer::new(Technique::ClearWax, vec![]),
    ];
    let strip = Strip { letter: Letter::ALL[0], from: None, layers };
    let board = Board::new(name.clone(), Ground::of(GroundKind::RedStain), vec![strip]).unwrap();
    let share = |of| Share::new(of).unwrap();
    let ageing = Ageing { wear: share(0.4), grime: share(0.5), ..Ageing::default() };
    let strip = Finish::Strip { board: Uuid::from_u128(9), strip: Letter::ALL[0] };
    let bands = vec![Band { pot: one(0), at: 0.0 }, Band { pot: one(1), at: 1.0 }];
    let blend = Finish::Blend { way: BlendDirection::Down, bands };
    let dress = |wears, ageing| ZoneFinish { ageing, ..ZoneFinish::of(wears) };
    let wears = BTreeMap::from([
        (Zone::Case, dress(strip, ageing)),
        (Zone::Drawers, dress(blend, Ageing::default())),
    ]);
    let scheme = Scheme { name, wears, over: vec![], intent: Intent::Quiet, pairs: vec![] };
    let tin = |paint: PaintId| Some(KnownTin::new(Class::Chalk, materials.get(paint.0.as_u128() as usize)?));
    let elevation = &PieceKind::ChestOfDrawers.usual().build().unwrap();
    let wardrobe = FinishContext {
        tin: &tin,
        habit: &|_| HandBias::USUAL,
        elevation,
        board: &|_| Some(&board),
        primer: &|_| None,
    };
    let ground = Ground::of(GroundKind::RedStain);
    [Zone::Case, Zone::Drawers]
        .into_iter()
        .map(|zone| (zone, wardrobe.dress(zone, &scheme, ground, &[], None).unwrap()))
        .collect()
}

/// Drawers in one colour, with a pattern or without.
fn plain_drawers(stencil: Option<Stencil>) -> FinishedZone {
    let materials = [0, 1, 2, 3].map(material);
    let name = Name::new("drawers").unwrap();
    let twice = Layer {
        hand: Application { passes: Passes::new(3).unwrap(), ..Application::default() },
        ..Layer::new(Technique::BrushedCoat, one(0))
    };
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![twice] };
    let board = Board::new(name.clone(), Ground::of(GroundKind::RedStain), vec![strip]).unwrap();
    let worn = ZoneFinish {
        stencil,
        ..ZoneFinish::of(Finish::Strip { board: Uuid::from_u128(9), strip: Letter::ALL[0] })
    };
    let wears = BTreeMap::from([(Zone::Drawers, worn)]);
    let scheme = Scheme { name, wears, over: vec![], intent: Intent::Quiet, pairs: vec![] };
    let tin = |paint: PaintId| Some(KnownTin::new(Class::Chalk, materials.get(paint.0.as_u128() as usize)?));
    let elevation = &PieceKind::ChestOfDrawers.usual().build().unwrap();
    let wardrobe = FinishContext {
        tin: &tin,
        habit: &|_| HandBias::USUAL,
        elevation,
        board: &|_| Some(&board),
        primer: &|_| None,
    };
    wardrobe.dress(Zone::Drawers, &scheme, Ground::of(GroundKind::RedStain), &[], None).unwrap()
}

/// The mean colour of some pixels, in light rather than in codes.
fn mean(picture: &Picture, of: impl Fn(usize, usize) -> bool) -> Option<Lab> {
    let (mut sum, mut n) = ([0.0; 3], 0.0);
    for (i, pixel) in picture.rgb.chunks_exact(3).enumerate() {
        if of(i % picture.width as usize, i / picture.width as usize) {
            let xyz = Srgb { red: pixel[0], green: pixel[1], blue: pixel[2] }.to_xyz();
            sum = [sum[0] + xyz.x, sum[1] + xyz.y, sum[2] + xyz.z];
            n += 1.0;
        }
    }
    let [x, y, z] = sum.map(|sum| sum / n);
    (n > 0.0).then(|| Lab::of(Xyz { x, y, z }, Light::Daylight.white()))
}

#[test]
fn a_zone_is_drawn_in_the_colour_that_is_predicted() {
    let front = Front::new(&front(), 720, 640, Closer::WHOLE, Fineness::Quick).unwrap();
    let dressed = dressed();
    let picture = front.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::None);
    let coat = &dressed[&Zone::Case].coats[0];
    for place in Place::ALL {
        let here = |x, y| front.zone(x, y) == Some(Zone::Case) && front.place(x, y) == place;
        let drawn = mean(&picture, here).unwrap();
        let seen = coat.stack.seen(place, coat.stack.len(), FilmState::Dry).from_afar();
        let predicted = Lab::of(Xyz::of(&seen, Light::Daylight), Light::Daylight.white());
        let off = difference(drawn, predicted).value();
        assert!(off < 0.5, "{place:?}: {drawn:?} for {predicted:?}, {off} off");
    }
}

/// And a whole zone in the colour that it is said to have from across the room, however finely it is drawn.
#[test]
fn a_zone_is_as_it_is_seen_from_across_the_room() {
    let (dressed, elevation) = (dressed(), PieceKind::ChestOfDrawers.usual().build().unwrap());
    let (face, places) = (elevation.face(View::Front).unwrap(), elevation.places());
    let extent = Extent { area: 1.0, edge: 1.0 };
    let means = [Fineness::Quick, Fineness::Fine].map(|fineness| {
        let front = Front::new(face, 720, 640, Closer::WHOLE, fineness).unwrap();
        let drawn = front.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::None);
        // Every pixel that shows nothing else.
        let times = if fineness == Fineness::Fine { 2 } else { 1 };
        let shows = |zone, x, y| {
            (0..times * times).all(|i| front.zone(times * x + i % times, times * y + i / times) == Some(zone))
        };
        dressed
            .iter()
            .map(|(zone, dressed)| {
                let drawn = mean(&drawn, |x, y| shows(*zone, x, y)).unwrap();
                let predicted =
                    dressed.look(*zone, extent, &places[zone], Light::Daylight, FilmState::Dry).lab;
                println!(
                    "{zone:?} {fineness:?} {drawn:?} {predicted:?} {}",
                    difference(drawn, predicted).value()
                );
                drawn
            })
            .collect::<Vec<_>>()
    });
    assert_eq!(means[0].len(), 2);
}

/// What fills the screen is the same piece as before, only larger.
#[test]
fn a_larger_picture_shows_the_same_marks() {
    let face = front();
    let dressed = BTreeMap::from([(Zone::Drawers, dressed().remove(&Zone::Case).unwrap())]);
    let drawn = |(width, height)| {
        let front = Front::new(&face, width, height, Closer::WHOLE, Fineness::Quick).unwrap();
        let drawn = front.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::None);
        let drawn = image::RgbImage::from_raw(width, height, drawn.rgb).unwrap();
        image::imageops::resize(&drawn, 480, 360, image::imageops::FilterType::Triangle)
    };
    let (usual, larger) = (drawn((960, 720)), drawn((1680, 1260)));
    let seen = Front::new(&face, 960, 720, Closer::WHOLE, Fineness::Quick).unwrap();
    let green = |picture: &image::RgbImage, x, y| f64::from(picture.get_pixel(x, y)[1]);
    // How alike colours are within the drawers, that of the one so many pixels aside; 1 where they are the same.
    let alike = |aside: u32| {
        let flat =
            |x, y| seen.zone(2 * x, 2 * y) == Some(Zone::Drawers) && seen.place(2 * x, 2 * y) == Place::Field;
        let at = (160..320).flat_map(|x| (60..300).map(move |y| (x, y)));
        let at = at.filter(|(x, y)| (*y..=y + aside).all(|y| flat(*x as usize, y as usize)));
        let pairs: Vec<(f64, f64)> =
            at.map(|(x, y)| (green(&usual, x, y), green(&larger, x, y + aside))).collect();
        let n = pairs.len() as f64;
        let (a, b) = pairs.iter().fold((0.0, 0.0), |(a, b), pair| (a + pair.0 / n, b + pair.1 / n));
        let (mut ab, mut aa, mut bb) = (0.0, 0.0, 0.0);
        for pair in &pairs {
            let (da, db) = (pair.0 - a, pair.1 - b);
            (ab, aa, bb) = (ab + da * db, aa + da * da, bb + db * db);
        }
        ab / (aa * bb).sqrt()
    };
    assert!(alike(0) > 0.8 && alike(8) < 0.4, "{} and {} aside", alike(0), alike(8));
}

/// Two drawers in one finish are not painted stroke for stroke alike: each part begins elsewhere.
#[test]
fn no_two_drawers_are_alike() {
    let face = front();
    let front = Front::new(&face, 720, 640, Closer::WHOLE, Fineness::Quick).unwrap();
    let picture = front.draw(&dressed(), Light::Daylight, FilmState::Dry, Shading::None);
    let placed = Placed::of(&face, 720, 640).unwrap();
    let drawers: Vec<[f64; 4]> = face
        .parts
        .iter()
        .filter(|part| part.zone == Zone::Case && part.rect.w > 200.0)
        .map(|part| placed.share(part.rect))
        .collect();
    // The first parts of one width: their upper rows, pixel by pixel.
    let row = |[x, y, w, _]: &[f64; 4]| -> Vec<u8> {
        let (x, y, w) = ((x * 720.0) as usize, (y * 640.0) as usize + 6, (w * 720.0) as usize);
        (x..x + w.min(150)).map(|x| picture.rgb[3 * (y * 720 + x)]).collect()
    };
    let rows: Vec<Vec<u8>> = drawers.iter().map(row).collect();
    for (n, one) in rows.iter().enumerate() {
        for other in &rows[n + 1..] {
            let same = one.iter().zip(other).filter(|(a, b)| a == b).count();
            assert!(same < one.len() * 9 / 10, "{same} of {}", one.len());
        }
    }
}

/// White rosettes on dark drawers: light where their petals are said to be, nothing between them, and as much of it as is
/// predicted.
#[test]
fn a_pattern_is_drawn_where_its_repeats_are() {
    let face = front();
    let front = Front::new(&face, 960, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    let stencil = Stencil { repeats: Some(4), ..Stencil::new(Motif::Rosette, 120.0, one(1)) };
    let (plain, patterned) = (plain_drawers(None), plain_drawers(Some(stencil.clone())));
    let draw = |dressed| front.draw(&dressed, Light::Daylight, FilmState::Dry, Shading::None);
    let (before, after) = (draw(BTreeMap::from([(Zone::Drawers, plain)])), {
        draw(BTreeMap::from([(Zone::Drawers, patterned.clone())]))
    });
    let placed = Placed::of(&face, 960, 800).unwrap();
    let repeats: Vec<_> = (0..face.parts.len()).map(|at| stencil.on(&face, at)).collect();
    let inside = |x: usize, y: usize| {
        let (px, py) = placed.at(x, y);
        let part = face.at(px, py).filter(|at| face.parts[*at].zone == Zone::Drawers);
        part.and_then(|at| repeats[at].as_ref()).map_or(0.0, |repeats| repeats.depth(px, py))
    };
    let flat = |x, y| front.zone(x, y) == Some(Zone::Drawers) && front.place(x, y) == Place::Field;
    let within = |picture, deep: bool| {
        mean(picture, |x, y| flat(x, y) && (inside(x, y) > 0.3) == deep && (deep || inside(x, y) <= 0.0))
            .unwrap()
    };
    assert!(within(&after, true).l > within(&before, true).l + 15.0);
    assert!(difference(within(&after, false), within(&before, false)).value() < 0.3);
    let coat = &patterned.coats[0];
    let seen = coat.stack.seen(Place::Field, coat.stack.len(), FilmState::Dry).from_afar();
    let predicted = Lab::of(Xyz::of(&seen, Light::Daylight), Light::Daylight.white());
    let drawn = mean(&after, flat).unwrap();
    assert!(difference(drawn, predicted).value() < 1.5, "{drawn:?} for {predicted:?}");
}

/// White rings on dark drawers, strong on the left and faint on the right: as much of them as is predicted, and each repeat as strong, beside
/// the first, as the fade says.
#[test]
fn a_pattern_fades_as_it_is_said_to() {
    let face = front();
    let front = Front::new(&face, 960, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    let fade = Fade { weakest: 0.2, along: 0.0, across: None, patchy: 0.0 };
    let stencil = |fade| Stencil { repeats: Some(4), fade, ..Stencil::new(Motif::Ring, 120.0, one(1)) };
    let draw = |stencil| {
        let dressed = plain_drawers(stencil);
        let picture = front.draw(
            &BTreeMap::from([(Zone::Drawers, dressed.clone())]),
            Light::Daylight,
            FilmState::Dry,
            Shading::None,
        );
        (picture, dressed)
    };
    let (plain, _) = draw(None);
    let placed = Placed::of(&face, 960, 800).unwrap();
    let at = |x, y| {
        let (px, py) = placed.at(x, y);
        let part = face.at(px, py).filter(|at| face.parts[*at].zone == Zone::Drawers);
        part.map(|at| (at, px, py))
    };
    let flat = |x, y| front.zone(x, y) == Some(Zone::Drawers) && front.place(x, y) == Place::Field;
    let shades =
        [None, Some(fade), Some(Fade { patchy: 0.6, ..fade }), Some(Fade { across: Some(1.0), ..fade })];
    for fade in shades {
        let (picture, dressed) = draw(Some(stencil(fade)));
        let seen = dressed.coats[0]
            .stack
            .seen(Place::Field, dressed.coats[0].stack.len(), FilmState::Dry)
            .from_afar();
        let predicted = Lab::of(Xyz::of(&seen, Light::Daylight), Light::Daylight.white());
        let drawn = mean(&picture, flat).unwrap();
        assert!(difference(drawn, predicted).value() < 1.5, "{fade:?}: {drawn:?} for {predicted:?}");
    }

    // How much of the white of the first repeat each other one has, in light.
    let (faded, _) = draw(Some(stencil(Some(fade))));
    let repeats: Vec<_> = (0..face.parts.len()).map(|at| stencil(Some(fade)).on(&face, at)).collect();
    let of_repeat = |picture: &Picture, n: usize| {
        let lab = mean(picture, |x, y| {
            flat(x, y)
                && at(x, y).is_some_and(|(part, px, py)| {
                    repeats[part].as_ref().is_some_and(|own| {
                        let rect = face.parts[part].rect;
                        let length = rect.w.max(rect.h);
                        let along = if rect.w >= rect.h { px - rect.x } else { py - rect.y };
                        own.depth(px, py) > 0.0 && ((along / length * 4.0) as usize).min(3) == n
                    })
                })
        });
        lab.unwrap().to_xyz(Light::Daylight.white()).y
    };
    let white = |n| of_repeat(&faded, n) - of_repeat(&plain, n);
    // By hand: centres of four evenly spaced repeats on the widest drawer are at (n + 1) g + (n + 1/2) 120 mm.
    let own = repeats.iter().flatten().next().unwrap();
    let row = own.sides()[0];
    let strength = |n: usize| {
        let place = row.centres()[n] / row.length();
        0.2 + 0.8 * 0.5 * (1.0 + (std::f64::consts::PI * place).cos())
    };
    for n in 1..4 {
        let (drawn, said) = (white(n) / white(0), strength(n) / strength(0));
        assert!((drawn - said).abs() < 0.12, "repeat {n}: {drawn} for {said}");
    }
}

/// A flag of the painter's own, mirrored, in three colours: all of it as light as is predicted; what is wisped lies in the motifs, in
/// patches, and each further colour covers more of what was there.
#[test]
fn a_pattern_of_three_colours_is_as_predicted() {
    let face = front();
    let front = Front::new(&face, 960, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    let flag = Outlined::new(Name::new("flag").unwrap(), "M0 0V10H10Z").unwrap();
    let stencil = |wisps: usize, fade| Stencil {
        own: Some(flag.clone()),
        mirrored: true,
        repeats: Some(4),
        fade,
        wisps: [one(2), one(3)][..wisps].to_vec(),
        ..Stencil::new(Motif::Ring, 140.0, one(1))
    };
    let flat = |x, y| front.zone(x, y) == Some(Zone::Drawers) && front.place(x, y) == Place::Field;
    let fade = Fade { weakest: 0.3, along: 1.0, across: None, patchy: 0.4 };
    let softened = |how, share| Some(Softened { how, share: Share::new(share).unwrap() });
    let border = Stencil {
        around: Some(Border { inset: 8.0, corner: Some(Motif::Corner) }),
        own: None,
        repeats: None,
        size: 45.0,
        ..stencil(1, Some(fade))
    };
    let patterns = [
        stencil(0, None),
        stencil(1, None),
        stencil(2, None),
        stencil(2, Some(fade)),
        Stencil { edge: Some(one(2)), ..stencil(0, None) },
        Stencil { edge: Some(one(3)), ..stencil(1, Some(fade)) },
        Stencil { softened: softened(Softening::Wiped, 0.6), ..stencil(1, None) },
        Stencil { softened: softened(Softening::Sanded, 0.5), ..stencil(1, None) },
        Stencil { softened: softened(Softening::Sanded, 0.7), ..stencil(2, Some(fade)) },
        Stencil { by_hand: true, own: None, motif: Motif::Petals, edge: Some(one(2)), ..stencil(1, None) },
        border.clone(),
        Stencil { in_turn: true, ..stencil(2, None) },
        Stencil { in_turn: true, own: None, motif: Motif::Rosette, ..stencil(1, Some(fade)) },
        Stencil {
            in_turn: true,
            by_hand: true,
            edge: Some(one(1)),
            own: None,
            motif: Motif::Petals,
            ..stencil(2, None)
        },
        Stencil { in_turn: true, motif: Motif::Medallion, ..border.clone() },
        Stencil { edge: Some(one(3)), by_hand: true, ..border },
    ];
    for pattern in patterns {
        let (pots, sanded) =
            (pattern.pots().count(), pattern.softened.is_some_and(|s| s.how == Softening::Sanded));
        let dressed = plain_drawers(Some(pattern.clone()));
        let more = pots + usize::from(sanded);
        assert_eq!(dressed.coats[0].stack.len(), plain_drawers(None).coats[0].stack.len() + more);
        let seen = dressed.coats[0]
            .stack
            .seen(Place::Field, dressed.coats[0].stack.len(), FilmState::Dry)
            .from_afar();
        let predicted = Lab::of(Xyz::of(&seen, Light::Daylight), Light::Daylight.white());
        let zones = BTreeMap::from([(Zone::Drawers, dressed)]);
        let picture = front.draw(&zones, Light::Daylight, FilmState::Dry, Shading::None);
        let drawn = mean(&picture, flat).unwrap();
        assert!(difference(drawn, predicted).value() < 1.5, "{pattern:?}: {drawn:?} for {predicted:?}");
    }
}

#[test]
fn a_blend_goes_down_over_all_drawers() {
    let front = Front::new(&front(), 720, 640, Closer::WHOLE, Fineness::Quick).unwrap();
    let picture = front.draw(&dressed(), Light::Daylight, FilmState::Dry, Shading::None);
    let rows: Vec<usize> = (0..640).filter(|y| front.zone(360, *y) == Some(Zone::Drawers)).collect();
    let (first, last) = (rows[0], rows[rows.len() - 1]);
    let lightness = |from: usize, to: usize| {
        let here = |x, y| front.zone(x, y) == Some(Zone::Drawers) && (from..to).contains(&y);
        mean(&picture, here).unwrap().l
    };
    let step = (last - first) / 8;
    let lights: Vec<f64> = (0..8).map(|n| lightness(first + n * step, first + (n + 1) * step)).collect();
    assert!(lights.windows(2).all(|two| two[1] > two[0]), "{lights:?}");
    assert!(lights[7] - lights[0] > 25.0, "{lights:?}");
}

#[test]
fn the_same_piece_is_the_same_picture_and_what_is_not_painted_is_grey() {
    let front = Front::new(&front(), 400, 300, Closer::WHOLE, Fineness::Quick).unwrap();
    let draw = || front.draw(&dressed(), Light::Bulb, FilmState::Sealed, Shading::default());
    let picture = draw();
    assert_eq!(picture, draw());
    for (i, pixel) in picture.rgb.chunks_exact(3).enumerate() {
        let zone = front.zone(i % 400, i / 400);
        if zone != Some(Zone::Case) && zone != Some(Zone::Drawers) {
            assert!(pixel[0] == pixel[1] && pixel[1] == pixel[2], "{zone:?}");
        }
    }
}

/// Where the screen is told that a part lies, it is drawn.
#[test]
fn parts_lie_where_they_are_said_to() {
    let face = front();
    let front = Front::new(&face, 720, 640, Closer::WHOLE, Fineness::Quick).unwrap();
    let placed = Placed::of(&face, 720, 640).unwrap();
    for (n, part) in face.parts.iter().enumerate() {
        let [x, y, w, h] = placed.share(part.rect);
        let (cx, cy) = (((x + w / 2.0) * 720.0) as usize, ((y + h / 2.0) * 640.0) as usize);
        let covered = face
            .parts
            .iter()
            .skip(n + 1)
            .any(|later| later.holds(part.rect.x + part.rect.w / 2.0, part.rect.y + part.rect.h / 2.0));
        assert!(covered || front.zone(cx, cy) == Some(part.zone), "{part:?}");
    }
    assert!(Front::new(&face, 10, 10, Closer::WHOLE, Fineness::Quick).is_err());
    // From closer by, the point in the middle of the whole that was asked for is in the middle, and what is aside stays within.
    let closer = Closer { by: 4.0, middle: (0.4, 0.6) };
    let near = Front::new(&face, 720, 640, closer, Fineness::Quick).unwrap();
    assert_eq!(near.zone(360, 320), front.zone((0.4 * 720.0) as usize, (0.6 * 640.0) as usize));
    for (x, y) in [(0.0, 0.0), (1.0, 1.0)] {
        let corner = placed.closer(Closer { by: 4.0, middle: (x, y) });
        let at = corner.at(if x > 0.0 { 719 } else { 0 }, if y > 0.0 { 639 } else { 0 });
        let whole = placed.at(if x > 0.0 { 719 } else { 0 }, if y > 0.0 { 639 } else { 0 });
        assert!((at.0 - whole.0).hypot(at.1 - whole.1) < 3.0, "{at:?} {whole:?}");
    }
}

/// Whatever the piece, and however finely it is drawn: its picture has as much of each kind of place as the prediction is made with.
#[test]
fn a_picture_has_as_much_of_each_place_as_is_reckoned_with() {
    const SIZE: (u32, u32) = (480, 360);
    let (mut sum, mut n) = (0.0, 0.0);
    for form in
        PieceKind::ALL.into_iter().flat_map(|kind| [kind.usual(), Form { carved: true, ..kind.usual() }])
    {
        let elevation = form.build().unwrap();
        let face = elevation.face(View::Front).unwrap();
        for (fineness, times) in [(Fineness::Quick, 1), (Fineness::Fine, 2)] {
            let front = Front::new(face, SIZE.0, SIZE.1, Closer::WHOLE, fineness).unwrap();
            let mut zones: BTreeMap<Zone, ([f64; 3], [f64; 3])> = BTreeMap::new();
            for (y, x) in
                (0..times * SIZE.1 as usize).flat_map(|y| (0..times * SIZE.0 as usize).map(move |x| (y, x)))
            {
                let Some(zone) = front.zone(x, y) else { continue };
                zones.entry(zone).or_default().0[front.place(x, y) as usize] += 1.0;
            }
            for (part, net) in face.parts.iter().zip(face.net()) {
                let Some((_, reckoned)) = zones.get_mut(&part.zone) else { continue };
                for place in Place::ALL {
                    reckoned[place as usize] += net.max(0.0) * part.shares().at(place);
                }
            }
            for (zone, (drawn, reckoned)) in zones {
                let share = |of: [f64; 3], place: Place| of[place as usize] / of.iter().sum::<f64>();
                for place in Place::ALL {
                    let (drawn, reckoned) = (share(drawn, place), share(reckoned, place));
                    // Where nothing lies that low, none is a recess.
                    let off = (drawn - reckoned).abs();
                    assert!(
                        off < 0.08,
                        "{form:?}, {fineness:?}, {zone:?}, {place:?}: {drawn} for {reckoned}"
                    );
                    sum += off;
                    n += 1.0;
                }
            }
        }
    }
    assert!(sum / n < 0.012, "{} on average", sum / n);
}
