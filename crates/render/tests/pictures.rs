//! The picture says what the engine says.

use proptest::prelude::*;
use warm_blend_board::{Ground, GroundKind, Place, Stack, Technique};
use warm_blend_paint::{Class, CoatsToHide, Masstone, Material, Parts, Seen, State, mix};
use warm_blend_piece::Mark;
use warm_blend_render::{Coats, Picture, Relief, Shading, draw};
use warm_blend_spectral::{Lab, Light, Srgb, Xyz, difference};

fn paint(class: Class, [red, green, blue]: [u8; 3]) -> Material {
    let code = Masstone::Hex(Srgb { red, green, blue });
    Material::of(class, Some(code), Some(CoatsToHide::new(1.75).unwrap())).unwrap()
}

fn with(paint: &Material, medium: Class, parts: f64) -> Material {
    let medium = Material::of(medium, None, None).unwrap();
    mix(&[(Parts::new(1.0).unwrap(), paint), (Parts::new(parts).unwrap(), &medium)]).unwrap()
}

/// A layer: technique, colour, parts of medium.
type Put = (Technique, [u8; 3], f64);

fn stack(ground: GroundKind, layers: &[Put]) -> Stack {
    let mut stack = Stack::over(&Ground::of(ground)).unwrap();
    for (technique, code, medium) in layers {
        let material = paint(Class::Chalk, *code);
        let material = if *medium > 0.0 { with(&material, Class::GlazingLiquid, *medium) } else { material };
        if technique.takes_away() {
            stack.take_away(technique.usual(), 0);
        } else {
            stack.lay(material, technique.usual(), false, None);
        }
    }
    stack
}

fn drawn(plate: &Relief, stack: &Stack, layers: &[Put], shading: Shading) -> Picture {
    let marks: Vec<Mark> = layers.iter().map(|(technique, ..)| Mark::By(*technique)).collect();
    let coats = Coats { stack, marks: &marks, layers: stack.len() };
    draw(plate, &[coats], Light::Daylight, State::Dry, shading)
}

/// The mean colour of a kind of place, in light rather than in codes.
fn mean(plate: &Relief, picture: &Picture, place: Place) -> Lab {
    let mut sum = [0.0; 3];
    let mut n = 0.0;
    for (i, pixel) in picture.rgb.chunks_exact(3).enumerate() {
        if plate.place(i % picture.width as usize, i / picture.width as usize) == place {
            let xyz = Srgb { red: pixel[0], green: pixel[1], blue: pixel[2] }.to_xyz();
            sum = [sum[0] + xyz.x, sum[1] + xyz.y, sum[2] + xyz.z];
            n += 1.0;
        }
    }
    let [x, y, z] = sum.map(|sum| sum / n);
    Lab::of(Xyz { x, y, z }, Light::Daylight.white())
}

fn aged() -> Vec<Put> {
    vec![
        (Technique::BrushedCoat, [226, 213, 181], 0.0),
        (Technique::BrushedCoat, [226, 213, 181], 0.0),
        (Technique::GlazeWiped, [74, 58, 47], 4.0),
        (Technique::DryBrush, [240, 236, 226], 0.0),
        (Technique::SandBack, [0, 0, 0], 0.0),
    ]
}

/// True where a screen can show every spot, also where films pool or run thin: what it cannot show is cut off, and then the
/// mean is another.
fn can_be_shown(stack: &Stack) -> bool {
    let stacks = [stack.with_films(2.0), stack.with_films(0.5), stack.clone()];
    stacks.iter().all(|stack| {
        Place::ALL.iter().all(|place| {
            let states = stack.seen(*place, stack.len(), State::Dry).states;
            states.iter().all(|state| Seen::of(&state.seen, Light::Daylight).screen.in_gamut)
        })
    })
}

/// Without shading, the mean of each place is the colour that is predicted from across the room.
fn means_agree(ground: GroundKind, layers: &[Put]) -> f64 {
    let plate = Relief::panelled(600, 400).unwrap();
    let stack = stack(ground, layers);
    let picture = drawn(&plate, &stack, layers, Shading::None);
    let off = |place: Place| {
        let predicted = stack.seen(place, stack.len(), State::Dry).from_afar();
        let predicted = Lab::of(Xyz::of(&predicted, Light::Daylight), Light::Daylight.white());
        difference(mean(&plate, &picture, place), predicted).value()
    };
    Place::ALL.map(off).into_iter().fold(0.0, f64::max)
}

#[test]
fn the_mean_of_an_aged_finish_is_the_predicted_one() {
    let off = means_agree(GroundKind::RedStain, &aged());
    assert!(off < 0.5, "off by {off}");
}

fn any_layer() -> impl Strategy<Value = Put> {
    (
        proptest::sample::select(Technique::ALL.to_vec()),
        proptest::array::uniform3(40u8..230),
        prop_oneof![Just(0.0), 0.1..5.0f64],
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(16))]
    #[test]
    fn means_are_the_predicted_ones(layers in proptest::collection::vec(any_layer(), 1..6), ground in 0usize..7) {
        prop_assume!(can_be_shown(&stack(GroundKind::ALL[ground], &layers)));
        let off = means_agree(GroundKind::ALL[ground], &layers);
        prop_assert!(off < 0.5, "off by {off}");
    }
}

#[test]
fn the_same_board_is_the_same_picture() {
    let plate = Relief::panelled(300, 200).unwrap();
    let stack = stack(GroundKind::RedStain, &aged());
    let picture = || drawn(&plate, &stack, &aged(), Shading::Soft);
    assert_eq!(picture(), picture());
}

#[test]
fn a_bare_ground_is_one_colour_without_shading() {
    let plate = Relief::panelled(120, 80).unwrap();
    let bare = stack(GroundKind::MidWood, &[]);
    let picture = drawn(&plate, &bare, &[], Shading::None);
    assert!(picture.rgb.chunks_exact(3).all(|pixel| pixel == &picture.rgb[..3]));
    let decoded = image::load_from_memory(&picture.to_png()).unwrap().to_rgb8();
    assert_eq!((decoded.width(), decoded.height()), (120, 80));
    assert_eq!(decoded.into_raw(), picture.rgb);
}

/// Black dragged over white: as much of each as is said, to half a percent, in every place. A pixel on a soft rim counts for
/// as much of either as it shows.
#[test]
fn shares_of_pixels_are_the_shares_of_the_engine() {
    let plate = Relief::panelled(600, 400).unwrap();
    let layers: [Put; 2] =
        [(Technique::BrushedCoat, [250, 250, 250], 0.0), (Technique::DryBrush, [10, 10, 10], 0.0)];
    let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
    let thick = |technique: Technique| {
        let mut print = technique.usual();
        print.film = warm_blend_board::ByPlace::all(warm_blend_paint::Microns::new(3000.0).unwrap());
        print
    };
    for (technique, code, _) in layers {
        stack.lay(paint(Class::LatexSatin, code), thick(technique), false, None);
    }
    let picture = drawn(&plate, &stack, &layers, Shading::None);
    let light = |pixel: &[u8]| Srgb { red: pixel[0], green: pixel[1], blue: pixel[2] }.to_xyz().y;
    let all = picture.rgb.chunks_exact(3).map(light);
    let (black, white) = all.fold((f64::MAX, 0.0f64), |(low, high), y| (low.min(y), high.max(y)));
    for place in Place::ALL {
        let pixels =
            picture.rgb.chunks_exact(3).enumerate().filter(|(i, _)| plate.place(i % 600, i / 600) == place);
        let (dark, all) = pixels.fold((0.0, 0.0), |(dark, all), (_, pixel)| {
            (dark + (white - light(pixel)) / (white - black), all + 1.0)
        });
        let wanted = Technique::DryBrush.usual().cover.at(place).value();
        assert!((dark / all - wanted).abs() < 0.005, "{place:?}: {} of {wanted}", dark / all);
    }
}
