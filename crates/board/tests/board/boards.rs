//! Laws of layered finishes.

use proptest::prelude::*;
use warm_blend_board::{
    Application, BadBoard, Below, Board, Branch, ByPlace, Deposit, FLAT, Ground, GroundKind, HandBias,
    KnownTin, Layer, Letter, Load, Meets, MeetsLayer, Place, PlaceSeen, Share, Stack, Strip, Technique,
    TextureDepth,
};
use warm_blend_paint::{
    Class, FilmState, Masstone, Material, Microns, PaintId, Parts, Seen, Undersurface, mix,
};
use warm_blend_spectral::{Lab, Light, Reflectance, Srgb, Xyz, difference};
use warm_blend_testing::{
    shelf::{CREAM, Shelf, named, paint, pot},
    tins::any_paint,
};

fn any_glaze() -> impl Strategy<Value = Material> {
    (any_paint(), 1.0..8.0f64).prop_map(|(paint, parts)| glaze(&paint, parts))
}

fn glaze(paint: &Material, parts: f64) -> Material {
    let medium = Material::of(Class::GlazingLiquid, None, None).unwrap();
    mix(&[(Parts::new(1.0).unwrap(), paint), (Parts::new(parts).unwrap(), &medium)]).unwrap()
}

fn any_ground() -> impl Strategy<Value = Ground> {
    proptest::sample::select(GroundKind::ALL.to_vec()).prop_map(Ground::of)
}

fn film(microns: f64, cover: f64) -> Deposit {
    let (film, cover) = (Microns::new(microns).unwrap(), Share::new(cover).unwrap());
    Deposit { film: ByPlace::all(film), cover: ByPlace::all(cover) }
}

fn seen(stack: &Stack) -> PlaceSeen {
    stack.seen(Place::Field, stack.len(), FilmState::Dry)
}

fn lab(curve: &Reflectance) -> Lab {
    Lab::of(Xyz::of(curve, Light::Daylight), Light::Daylight.white())
}

fn apart(one: &Reflectance, other: &Reflectance) -> f64 {
    difference(lab(one), lab(other)).value()
}

/// One layer over a ground.
fn one(ground: &Ground, material: &Material, print: Deposit) -> Reflectance {
    let mut stack = Stack::over(ground).unwrap();
    stack.lay(material.clone(), print, Below::LIES, None);
    seen(&stack).from_afar()
}

/// How much nearer to the base than a thinner film a thicker one may be, in reflectance: light that runs straight through is darkened by
/// a thin film of a strong paint, before that paint's own scattering makes up for it.
const OVERSHOOT: f64 = 0.01;

proptest! {
    #[test]
    fn two_half_coats_are_one(ground in any_ground(), paint in any_paint(), microns in 1.0..200.0f64) {
        let mut stack = Stack::over(&ground).unwrap();
        stack.lay(paint.clone(), film(microns / 2.0, 1.0), Below::LIES, None);
        stack.lay(paint.clone(), film(microns / 2.0, 1.0), Below::LIES, None);
        prop_assert!(apart(&seen(&stack).from_afar(), &one(&ground, &paint, film(microns, 1.0))) < 1e-6);
    }

    #[test]
    fn a_coat_that_hides_makes_the_ground_irrelevant(one_ground in any_ground(), other in any_ground(), paint in any_paint()) {
        let coats = paint.coats_to_hide().unwrap().value();
        let thick = film((90.0 * coats * 10.0).min(100_000.0), 1.0);
        prop_assert!(apart(&one(&one_ground, &paint, thick), &one(&other, &paint, thick)) < 0.1);
    }

    /// Demichel: the shares are all of the area, and what a layer covers is what it is said to cover.
    #[test]
    fn shares_are_all_of_the_area(
        ground in any_ground(),
        layers in proptest::collection::vec((any_glaze(), 0.0..=1.0f64, 0usize..4), 0..12),
        down_to in 0usize..4,
    ) {
        let mut stack = Stack::over(&ground).unwrap();
        for (n, (material, cover, how)) in layers.iter().enumerate() {
            let meets = match how {
                0 if n > 0 => Some((n - 1, Meets::Avoids)),
                1 if n > 0 => Some((n - 1, Meets::Seeks)),
                _ => None,
            };
            stack.lay(material.clone(), film(10.0, *cover), Below::LIES, meets);
            let here = seen(&stack).states;
            prop_assert!((here.iter().map(|state| state.share).sum::<f64>() - 1.0).abs() < 1e-9);
            let covered: f64 = here.iter().filter(|state| state.present >> n & 1 == 1).map(|state| state.share).sum();
            // Splits below a ten-millionth are made whole, one a state at most; beyond 256 states larger ones are too, which moves the
            // shares a little.
            let within = if n < 8 { 1e-7 * here.len() as f64 + 1e-12 } else { 0.02 };
            prop_assert!((covered - cover).abs() < within, "{covered} of {cover}");
        }
        stack.take_away(film(0.0, 0.6), down_to);
        let states = seen(&stack).states;
        prop_assert!((states.iter().map(|state| state.share).sum::<f64>() - 1.0).abs() < 1e-9);
        let worn: f64 = states.iter().filter(|state| state.present >> down_to == 0).map(|state| state.share).sum();
        // Up to 128 states were worn, of which those that became alike are one.
        let within = if layers.len() < 8 { 1e-7 * 128.0 + 1e-12 } else { 0.02 };
        prop_assert!(worn > 0.6 - within, "worn {worn}");
    }

    /// In every band a thicker film lies further from the base, towards its own masstone, but for a little overshoot.
    #[test]
    fn more_glaze_is_never_nearer_to_the_base(ground in any_ground(), glaze in any_glaze(), microns in 0.5..300.0f64, more in 1.0..3.0f64) {
        let (thin, thick) = (film(microns, 1.0), film(microns * more, 1.0));
        let (thin, thick) = (inside_of(&ground, &glaze, thin), inside_of(&ground, &glaze, thick));
        let bare = inside_of(&ground, &glaze, film(1e-6, 1.0));
        for i in 0..36 {
            prop_assert!((thick[i] - bare[i]).abs() >= (thin[i] - bare[i]).abs() - OVERSHOOT);
        }
    }

    #[test]
    fn a_firmer_wipe_is_never_further_from_the_base(ground in any_ground(), glaze in any_glaze(), wipe in 0.0..0.9f64, more in 0.0..0.1f64) {
        let wiped = |wipe: f64| {
            let hand = Application { wipe: Share::new(wipe).unwrap(), ..Application::default() };
            inside_of(&ground, &glaze, Technique::GlazeWiped.print(hand))
        };
        let bare = inside_of(&ground, &glaze, film(1e-6, 1.0));
        let (soft, firm) = (wiped(wipe), wiped(wipe + more));
        for i in 0..36 {
            prop_assert!((firm[i] - bare[i]).abs() <= (soft[i] - bare[i]).abs() + OVERSHOOT);
        }
    }

    #[test]
    fn the_order_of_two_glazes_that_never_overlap_does_not_matter(ground in any_ground(), one in any_glaze(), other in any_glaze(), first in 0.05..0.5f64, second in 0.05..0.5f64) {
        let in_order = |below: (&Material, f64), above: (&Material, f64)| {
            let mut stack = Stack::over(&ground).unwrap();
            stack.lay(below.0.clone(), film(20.0, below.1), Below::LIES, None);
            stack.lay(above.0.clone(), film(20.0, above.1), Below::LIES, Some((0, Meets::Avoids)));
            seen(&stack).from_afar()
        };
        let (one, other) = ((&one, first), (&other, second));
        prop_assert!(apart(&in_order(one, other), &in_order(other, one)) < 1e-6);
    }

    #[test]
    fn a_layer_that_is_left_out_is_not_there(ground in any_ground(), paint in any_paint(), cover in 0.1..1.0f64) {
        let mut stack = Stack::over(&ground).unwrap();
        stack.leave_out();
        stack.lay(paint.clone(), film(40.0, cover), Below::LIES, None);
        prop_assert_eq!(seen(&stack).from_afar(), one(&ground, &paint, film(40.0, cover)));
    }

    #[test]
    fn wear_shows_the_ground_by_its_share(ground in any_ground(), paint in any_paint(), worn in 0.0..=1.0f64) {
        let mut stack = Stack::over(&ground).unwrap();
        stack.lay(paint.clone(), film(90.0, 1.0), Below::LIES, None);
        stack.take_away(film(0.0, worn), 0);
        let (coat, bare) = (one(&ground, &paint, film(90.0, 1.0)), seen(&Stack::over(&ground).unwrap()).from_afar());
        let mean = Reflectance::from_fn(|i| (1.0 - worn) * coat.bands()[i] + worn * bare.bands()[i]);
        prop_assert!(apart(&seen(&stack).from_afar(), &mean) < 1e-6);
    }

    /// Around what is worn through, each film but the topmost shows as a ring as wide as it is thick; none where nothing is worn, or all.
    #[test]
    fn wear_lays_open_what_lies_between(
        ground in any_ground(), paint in any_paint(),
        films in proptest::collection::vec(20.0..200.0f64, 1..6), worn in 0.0..=1.0f64, down_to in 0usize..6,
    ) {
        let down_to = down_to.min(films.len() - 1);
        let mut stack = Stack::over(&ground).unwrap();
        for microns in &films {
            stack.lay(paint.clone(), film(*microns, 1.0), Below::LIES, None);
        }
        stack.take_away(film(0.0, worn), down_to);
        let states = seen(&stack).states;
        let share = |layers: usize| {
            let here = states.iter().filter(|state| state.present == (1 << layers) - 1);
            here.map(|state| state.share).sum::<f64>()
        };
        prop_assert!((share(down_to) - worn).abs() < 1e-6);
        let all: f64 = films[down_to..].iter().sum();
        for layers in down_to + 1..films.len() {
            let ring = worn * (1.0 - worn) * films[layers - 1] / all;
            let shown = if ring < 0.002 { 0.0 } else { ring };
            prop_assert!((share(layers) - shown).abs() < 1e-6, "{} of {shown} with {layers} layers", share(layers));
        }
        prop_assert!((states.iter().map(|state| state.share).sum::<f64>() - 1.0).abs() < 1e-9);
    }

    /// Wax fills the air in a chalk-type paint, and takes the veil off its surface (common practice: it deepens).
    #[test]
    fn clear_wax_deepens_a_chalk_type_paint(code in proptest::array::uniform3(40u8..230)) {
        let chalk = paint(Class::Chalk, code, 2.0);
        let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
        stack.lay(chalk, film(400.0, 1.0), Below::LIES, None);
        let bare = lab(&seen(&stack).from_afar());
        stack.lay(Material::of(Class::ClearWax, None, None).unwrap(), Technique::ClearWax.usual(), Below::WAXES, None);
        prop_assert!(lab(&seen(&stack).from_afar()).l < bare.l - 0.5);
    }

    /// A coat so thick that nothing below shows looks on a board, and as the Pot's film over a ground, as the Pot says of the mix: in
    /// every light and state.
    #[test]
    fn a_thick_coat_is_the_pot(
        ground in any_ground(), one in any_paint(), other in any_paint(), ratio in 0.1..10.0f64,
        light in proptest::sample::select(Light::ALL.to_vec()), state in proptest::sample::select(FilmState::ALL.to_vec()),
    ) {
        let pot = mix(&[(Parts::new(1.0).unwrap(), &one), (Parts::new(ratio).unwrap(), &other)]).unwrap();
        // 3 mm must hide in every band and state: of gel stains that is no thick coat, nor of a blue that lets red through.
        let thick = Microns::new(3000.0).unwrap();
        let [black, white] = [0.0, 1.0].map(|r| pot.in_state(state).film(thick, &Undersurface::diffuse(&Reflectance::grey(r))));
        prop_assume!(black.bands().iter().zip(white.bands()).all(|(black, white)| (black - white).abs() < 1e-6));
        prop_assume!(pot.coats_to_hide().is_some());
        let said = Seen::of(&pot.in_state(state).swatch_reflectance(), light).lab;
        let mut stack = Stack::over(&ground).unwrap();
        stack.lay(pot.clone(), film(3000.0, 1.0), Below::LIES, None);
        for place in Place::ALL {
            let board = Seen::of(&stack.seen(place, 1, state).from_afar(), light).lab;
            prop_assert!(difference(board, said).value() < 0.005, "{board:?} {said:?}");
        }
        let below = Undersurface::diffuse(&Reflectance::grey(0.5));
        let film = Seen::of(&pot.in_state(state).film(thick, &below), light).lab;
        prop_assert!(difference(film, said).value() < 0.005, "{film:?} {said:?}");
    }

    /// Sealed by a layer is sealed as in the state of that name, and sealed again changes next to nothing, on every place and whatever
    /// is sealed.
    #[test]
    fn sealed_is_sealed(ground in any_ground(), paint in any_paint(), place in 0usize..3, wax: bool) {
        let place = Place::ALL[place];
        let (class, technique) =
            if wax { (Class::ClearWax, Technique::ClearWax) } else { (Class::ClearCoat, Technique::ClearCoat) };
        let seal = Material::of(class, None, None).unwrap();
        let mut stack = Stack::over(&ground).unwrap();
        stack.lay(paint, film(180.0, 1.0), Below::LIES, None);
        let look = |stack: &Stack, state| stack.seen(place, stack.len(), state).from_afar();
        let as_state = look(&stack, FilmState::Sealed);
        stack.lay(seal.clone(), technique.usual(), Below::WAXES, None);
        let once = look(&stack, FilmState::Dry);
        prop_assert!(apart(&as_state, &once) <= 0.3, "by state {:?}, by layer {:?}", lab(&as_state), lab(&once));
        prop_assert!(apart(&look(&stack, FilmState::Sealed), &once) <= 1e-9);
        stack.lay(seal, technique.usual(), Below::WAXES, None);
        let twice = look(&stack, FilmState::Dry);
        prop_assert!(apart(&once, &twice) <= 0.3, "once {:?}, twice {:?}", lab(&once), lab(&twice));
    }

    /// A thin white over a dark, clear colour lightens and mutes it (common practice).
    #[test]
    fn whitewash_over_a_dark_base_lightens_and_mutes(code in proptest::array::uniform3(25u8..90), microns in 10.0..40.0f64) {
        let dark = lab(&paint(Class::Chalk, code, 1.0).masstone());
        prop_assume!(dark.chroma() > 18.0 && dark.l > 15.0);
        let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
        stack.lay(paint(Class::Chalk, code, 1.0), film(200.0, 1.0), Below::LIES, None);
        let base = lab(&seen(&stack).from_afar());
        stack.lay(paint(Class::Chalk, [240, 240, 240], 2.0), film(microns, 1.0), Below::LIES, None);
        let washed = lab(&seen(&stack).from_afar());
        prop_assert!(washed.l > base.l && washed.chroma() < base.chroma(), "{base:?} {washed:?}");
    }
}

/// What is below the surface of one layer over a ground: the surface differs with thickness and is left out.
fn inside_of(ground: &Ground, material: &Material, print: Deposit) -> [f64; 36] {
    let mut stack = Stack::over(ground).unwrap();
    stack.lay(material.clone(), print, Below::LIES, None);
    // Wet, every surface is the same gloss one; the milk is that of the layer.
    *stack.seen(Place::Field, 1, FilmState::Wet).from_afar().bands()
}

/// Half and half at random: four states of a quarter each (Demichel 1924).
#[test]
fn two_half_covers_make_four_quarters() {
    let mut stack = Stack::over(&Ground::of(GroundKind::PaleWood)).unwrap();
    for code in [[200, 40, 40], [40, 60, 200]] {
        stack.lay(paint(Class::Chalk, code, 1.0), film(90.0, 0.5), Below::LIES, None);
    }
    let states = seen(&stack).states;
    assert_eq!(states.len(), 4);
    assert!(states.iter().all(|state| (state.share - 0.25).abs() < 1e-12));
    stack.lay(
        paint(Class::Chalk, [40, 200, 40], 1.0),
        film(90.0, 0.25),
        Below::LIES,
        Some((1, Meets::Avoids)),
    );
    let on_the_second = |present: u64| present >> 1 & 1 == 1;
    assert!(
        seen(&stack)
            .states
            .iter()
            .all(|state| !(on_the_second(state.present) && state.present >> 2 & 1 == 1))
    );
}

#[test]
fn the_order_of_two_glazes_matters() {
    let (brown, white) = (
        glaze(&paint(Class::Chalk, [70, 50, 40], 1.0), 1.0),
        glaze(&paint(Class::Chalk, [235, 232, 225], 1.0), 1.0),
    );
    let in_order = |below: &Material, above: &Material| {
        let mut stack = Stack::over(&Ground::of(GroundKind::GreyPrimer)).unwrap();
        stack.lay(below.clone(), film(60.0, 1.0), Below::LIES, None);
        stack.lay(above.clone(), film(60.0, 1.0), Below::LIES, None);
        seen(&stack).from_afar()
    };
    assert!(apart(&in_order(&brown, &white), &in_order(&white, &brown)) > 3.0);
}

/// Engine notes of the trade: a 4 : 1 glaze three shades deeper, stippled, is subtle; six shades deeper it shouts; a 1 : 4
/// dark wax moves a cream field little and its recesses much (common practice).
#[test]
fn finishes_look_as_painters_know_them() {
    let cream = paint(Class::LatexSatin, [226, 213, 181], 2.0);
    let base = |place: Place, more: Option<(Material, Technique)>| {
        let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
        stack.lay(cream.clone(), film(200.0, 1.0), Below::LIES, None);
        if let Some((material, technique)) = more {
            stack.lay(material, technique.usual(), Below::LIES, None);
        }
        stack.seen(place, stack.len(), FilmState::Dry).from_afar()
    };
    let dark_wax = || {
        let wax = Material::of(Class::ClearWax, None, None).unwrap();
        let brown = paint(Class::Chalk, [74, 58, 47], 1.25);
        mix(&[(Parts::new(1.0).unwrap(), &brown), (Parts::new(4.0).unwrap(), &wax)]).unwrap()
    };
    let moved = |place| apart(&base(place, Some((dark_wax(), Technique::TintedWax))), &base(place, None));
    assert!(moved(Place::Field) < 4.0, "field {}", moved(Place::Field));
    assert!((12.0..35.0).contains(&moved(Place::Recess)), "recess {}", moved(Place::Recess));
}

#[test]
fn strips_share_their_lower_layers() {
    let coat = |n| Layer::new(Technique::BrushedCoat, pot(&[(n, 1)]));
    let [a, b, c, ..] = Letter::ALL;
    let strips = |b_from, c_from| {
        vec![
            Strip { letter: a, from: None, layers: vec![coat(0), coat(1), coat(2)] },
            Strip { letter: b, from: b_from, layers: vec![coat(2)] },
            Strip { letter: c, from: c_from, layers: vec![coat(0)] },
        ]
    };
    let made = |b_from, c_from| {
        Board::new(named("strips"), Ground::of(GroundKind::PaleWood), strips(b_from, c_from))
    };
    let branch = |strip, after| Some(Branch { strip, after });
    let board = made(branch(a, 2), branch(b, 3)).unwrap();
    let of =
        |letter| board.layers(letter).iter().map(|layer| layer.pot[0].paint.0.as_u128()).collect::<Vec<_>>();
    assert_eq!((of(a), of(b), of(c)), (vec![0, 1, 2], vec![0, 1, 2], vec![0, 1, 2, 0]));
    // A branch from the middle of what the other shares itself.
    let board = made(branch(a, 2), branch(b, 1)).unwrap();
    assert_eq!(board.layers(c).len(), 2);
    assert_eq!(made(branch(c, 1), branch(b, 1)).unwrap_err(), BadBoard::Cycle(b));
    assert_eq!(made(branch(b, 1), None).unwrap_err(), BadBoard::Cycle(b));
    assert_eq!(made(branch(Letter::ALL[5], 1), None).unwrap_err(), BadBoard::NoSuchStrip(b, Letter::ALL[5]));
}

#[test]
fn boards_that_cannot_be_are_refused() {
    let made = |layers| {
        let strip = Strip { letter: Letter::ALL[0], from: None, layers };
        Board::new(named("much"), Ground::of(GroundKind::PaleWood), vec![strip])
    };
    let many = |n| (0..n).map(|_| Layer::new(Technique::DryBrush, pot(&[(0, 1)]))).collect::<Vec<_>>();
    assert!(made(many(60)).is_ok() && made(vec![]).is_ok());
    assert!(made(many(61)).unwrap_err().to_string().contains("the most is 60"));
    assert_eq!(
        made(vec![Layer::new(Technique::WashWiped, vec![])]).unwrap_err(),
        BadBoard::EmptyPot(Technique::WashWiped)
    );
    assert_eq!(
        Board::new(named("none"), Ground::of(GroundKind::PaleWood), vec![]).unwrap_err(),
        BadBoard::Strips(0)
    );
    // Sixty broken layers are predicted, not refused.
    let shelf = Shelf::default();
    let stack =
        made(many(60)).unwrap().stack(Letter::ALL[0], |paint| shelf.tin(paint), |_| HandBias::USUAL).unwrap();
    let states = seen(&stack).states;
    assert!(states.len() <= 256 && (states.iter().map(|state| state.share).sum::<f64>() - 1.0).abs() < 1e-9);
}

/// A board that was read, as from a request, is checked as one that is made; where it fails it says where.
#[test]
fn a_board_that_was_read_is_as_sound_as_one_that_is_made() {
    let coat = Layer::new(Technique::BrushedCoat, pot(&[(0, 1)]));
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![coat.clone(), coat] };
    let board = Board::new(named("read"), Ground::of(GroundKind::PaleWood), vec![strip]).unwrap();
    let sound = serde_json::to_value(&board).unwrap();
    let read = |at: &str, field: &str, value: serde_json::Value| -> Board {
        let mut document = sound.clone();
        document.pointer_mut(at).unwrap()[field] = value;
        serde_json::from_value(document).unwrap()
    };
    let thick = serde_json::json!({"field": 9000.0, "recess": 9000.0, "edge": 9000.0});
    let whole = serde_json::json!({"field": 1.0, "recess": 1.0, "edge": 1.0});
    let loud = serde_json::json!({"lab": [50.0, 150.0, 150.0]});
    for (board, pointer) in [
        (read("", "strips", serde_json::json!([])), "/strips"),
        (read("/ground", "colour", loud), "/ground/colour"),
        (read("/strips/0/layers/1", "pot", serde_json::json!([])), "/strips"),
        (
            read("/strips/0/layers/1", "print", serde_json::json!({"film": thick, "cover": whole})),
            "/strips/0/layers/1/print/film",
        ),
    ] {
        assert_eq!(board.check().unwrap_err().pointer(), pointer);
    }
    // How a layer meets another stood without names in documents from earlier versions.
    let id = board.strips()[0].layers[0].id;
    let of_before = read("/strips/0/layers/1", "meets", serde_json::json!([id, "avoids"]));
    assert_eq!(of_before.strips()[0].layers[1].meets, Some(MeetsLayer { layer: id, how: Meets::Avoids }));
    assert!(of_before.check().is_ok());
}

/// A chest of drawers takes about a pint of base, and has some 3 m² (common practice).
#[test]
fn a_chest_takes_about_a_pint() {
    let coat = Technique::BrushedCoat.applied_over(Application::default(), &FLAT);
    let for_area =
        |area, coats| warm_blend_mixing::for_area(area, warm_blend_paint::Units::Metric, coats, coat);
    let pint = for_area(2.5, 2.0).unwrap().value();
    assert!((400.0..600.0).contains(&pint), "{pint}");
    assert!(for_area(-1.0, 2.0).is_err() && for_area(2.0, 0.0).is_err() && for_area(f64::NAN, 1.0).is_err());
}

/// A cream base brushed so rough, under so much clear wax, then a dark wax of one part in two.
fn waxed(texture: f64, clear: f64) -> Stack {
    let code = |red, green, blue| Some(Masstone::Hex(Srgb { red, green, blue }));
    let (cream, peat) = (
        Material::of(Class::Chalk, code(227, 218, 198), None).unwrap(),
        Material::of(Class::Chalk, code(68, 55, 45), None).unwrap(),
    );
    let clear_wax = Material::of(Class::ClearWax, None, None).unwrap();
    let dark = mix(&[(Parts::new(1.0).unwrap(), &peat), (Parts::new(2.0).unwrap(), &clear_wax)]).unwrap();
    let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
    let coat = Technique::BrushedCoat.usual();
    stack.lay(cream.clone(), coat, Below::LIES, None);
    stack.lay_rough(cream, coat, Below::LIES, None, Microns::new(texture).unwrap());
    if clear > 0.0 {
        let load = Application { load: Load::new(clear).unwrap(), ..Application::default() };
        stack.lay(clear_wax, Technique::ClearWax.print(load), Below::WAXES, None);
    }
    stack.lay(dark, Technique::TintedWax.usual(), Below::WAXES, None);
    stack
}

fn lightness(stack: &Stack) -> f64 {
    lab(&seen(stack).from_afar()).l
}

proptest! {
    /// The deeper the strokes, the more of a dark wax stays in them; a clear wax first leaves less room for it.
    #[test]
    fn rough_coats_hold_dark_wax(texture in 0.0..600.0f64, more in 20.0..300.0f64, clear in 0.5..4.0f64) {
        let (rough, rougher) = (lightness(&waxed(texture, 0.0)), lightness(&waxed(texture + more, 0.0)));
        prop_assert!(rougher < rough, "{rougher} {rough}");
        let depth = |stack: &Stack| stack.texture(stack.len() - 1).value();
        prop_assert!(depth(&waxed(texture + more, clear)) < depth(&waxed(texture + more, 0.0)));
    }
}

/// A flat board brushed every which way takes a dark wax as painters do it for: several ΔE00 on average, and dark lines from near
/// (common practice). On a smooth one nothing differs from before.
#[test]
fn a_flat_board_takes_dark_wax_in_its_strokes() {
    let (smooth, rough) = (waxed(0.0, 0.0), waxed(140.0, 0.0));
    let off = apart(&seen(&smooth).from_afar(), &seen(&rough).from_afar());
    assert!((2.0..12.0).contains(&off), "in the mean {off}");
    let lines: Vec<f64> = seen(&rough).states.iter().map(|state| lab(&state.seen).l).collect();
    let (darkest, lightest) =
        lines.iter().fold((100.0f64, 0.0f64), |(low, high), l| (low.min(*l), high.max(*l)));
    assert!(lightest - darkest > 8.0, "lines of {darkest} on {lightest}");
    assert_eq!(seen(&smooth).states.len(), 1);
    assert_eq!(smooth.levels(smooth.len()).len(), 1);
}

/// Two scoops of powder to a cup make the usual peaks, more of it higher ones, and what the painter says goes before both (common
/// practice).
#[test]
fn more_powder_makes_higher_peaks() {
    let shelf = Shelf::default();
    let powder =
        (PaintId(uuid::Uuid::from_u128(77)), Material::of(Class::TexturePowder, None, None).unwrap());
    let tin = |paint: PaintId| match paint == powder.0 {
        true => Some(KnownTin::new(Class::TexturePowder, &powder.1)),
        false => shelf.tin(paint),
    };
    let depth = |parts: u32, powder: u32, texture: Option<f64>| {
        let mut layer = Layer::new(Technique::TextureCoat, pot(&[(CREAM, parts)]));
        if powder > 0 {
            layer.pot.extend(pot(&[(77, powder)]));
        }
        layer.hand.texture = texture.map(|depth| TextureDepth::new(depth).unwrap());
        let stack =
            Stack::of_layers(&Ground::of(GroundKind::WhitePrimer), &[&layer], tin, |_| HandBias::USUAL);
        stack.unwrap().texture(1).value()
    };
    assert_eq!(depth(1, 0, None), 250.0, "bought as texture paint");
    assert_eq!(depth(8, 1, None), 250.0);
    assert!(depth(8, 2, None) > 450.0 && depth(16, 1, None) < 150.0);
    assert_eq!(depth(1, 1, None), 500.0, "no peak holds more");
    assert_eq!(depth(8, 2, Some(90.0)), 90.0);
}

/// Another smooth coat over fine strokes leaves little of them, over peaks much; a layer left out changes nothing.
#[test]
fn coats_bury_fine_texture() {
    let paint =
        Material::of(Class::Chalk, Some(Masstone::Hex(Srgb { red: 90, green: 100, blue: 110 })), None)
            .unwrap();
    let after = |texture: f64, coats: usize| {
        let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
        stack.lay_rough(
            paint.clone(),
            Technique::BrushedCoat.usual(),
            Below::LIES,
            None,
            Microns::new(texture).unwrap(),
        );
        stack.leave_out();
        (0..coats).for_each(|_| stack.lay(paint.clone(), Technique::BrushedCoat.usual(), Below::LIES, None));
        stack.texture(stack.len()).value()
    };
    assert_eq!(after(30.0, 0), 30.0);
    assert!(after(30.0, 2) < 12.0, "{}", after(30.0, 2));
    assert!(after(400.0, 1) > 350.0, "{}", after(400.0, 1));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// A dark wax lies in the cracks of a coat as it lies in a recess, and on the coat as ever; it makes no difference once the cracks
    /// were sanded or closed by another coat, nor before there are any (common practice: cracks are brought out by dark wax).
    #[test]
    fn dark_wax_lies_deeper_in_cracks(load in 2.2..4.0f64, between in 0usize..3) {
        let of = |code: &str| Material::of(Class::Chalk, Some(Masstone::Hex(code.parse().unwrap())), None).unwrap();
        let (cream, slate, peat) = (of("#e3dac6"), of("#8fa0aa"), of("#44372d"));
        let clear = Material::of(Class::ClearWax, None, None).unwrap();
        let dark = mix(&[(Parts::new(1.0).unwrap(), &peat), (Parts::new(3.0).unwrap(), &clear)]).unwrap();
        let waxed = |cracked: bool| {
            let mut stack = Stack::over(&Ground::of(GroundKind::MidWood)).unwrap();
            let coat = Technique::BrushedCoat;
            stack.lay(slate.clone(), coat.usual(), Below::LIES, None);
            stack.lay(slate.clone(), coat.usual(), Below::LIES, None);
            let heavy = Application { load: Load::new(load).unwrap(), ..Application::default() };
            stack.lay(cream.clone(), coat.print(heavy), Below::LIES, None);
            if cracked {
                stack.crack();
            }
            match between {
                1 => stack.take_away(Technique::SandBack.usual(), 2),
                2 => stack.lay(cream.clone(), coat.usual(), Below::LIES, None),
                _ => stack.leave_out(),
            }
            stack.lay(dark.clone(), Technique::TintedWax.usual(), Below::WAXES, None);
            seen(&stack)
        };
        let (open, whole) = (waxed(true), waxed(false));
        prop_assert_eq!(open.states.len(), whole.states.len());
        let mut deeper = 0;
        for state in &open.states {
            let same = whole.states.iter().find(|other| other.present == state.present).unwrap();
            prop_assert_eq!(same.share, state.share);
            let in_crack = between == 0 && state.present & 0b10100 == 0b10000;
            if in_crack {
                deeper += 1;
                prop_assert!(lab(&state.seen).l < lab(&same.seen).l - 1.0, "{} {}", lab(&state.seen).l, lab(&same.seen).l);
            } else {
                prop_assert_eq!(&state.seen, &same.seen);
            }
        }
        prop_assert_eq!(deeper, usize::from(between == 0));
    }
}
