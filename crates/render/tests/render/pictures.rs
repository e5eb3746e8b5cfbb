//! The picture says what the engine says.

use proptest::prelude::*;
use warm_blend_board::{Application, Below, Ground, GroundKind, Place, Stack, Technique};
use warm_blend_paint::{Class, CoatsToHide, FilmState, Masstone, Material, Parts, Seen, mix};
use warm_blend_piece::Mark;
use warm_blend_render::{Closer, Coats, Fineness, Lamp, Picture, Relief, Shading, draw};
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
            let rough = technique.rough(Application::default());
            stack.lay_rough(material, technique.usual(), Below::LIES, None, rough);
        }
    }
    stack
}

fn drawn(plate: &Relief, stack: &Stack, layers: &[Put], shading: Shading) -> Picture {
    let marks: Vec<Mark> = layers.iter().map(|(technique, ..)| Mark::By(*technique)).collect();
    let coats = Coats { stack, marks: &marks, layers: stack.len() };
    draw(plate, &[coats], Light::Daylight, FilmState::Dry, shading)
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
            let states = stack.seen(*place, stack.len(), FilmState::Dry).states;
            states.iter().all(|state| Seen::of(&state.seen, Light::Daylight).screen.in_gamut)
        })
    })
}

/// Without shading, the mean of each place is the colour that is predicted from across the room.
fn means_agree(ground: GroundKind, layers: &[Put]) -> f64 {
    let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
    let stack = stack(ground, layers);
    let picture = drawn(&plate, &stack, layers, Shading::None);
    let off = |place: Place| {
        let predicted = stack.seen(place, stack.len(), FilmState::Dry).from_afar();
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

/// What is sanded through shows every coat on the way down, each by its share, and the one below always within the one above.
#[test]
fn a_chip_shows_all_it_goes_through() {
    let coats = [[200, 40, 40], [40, 200, 40], [40, 40, 200]];
    let mut layers: Vec<Put> = coats.map(|code| (Technique::BrushedCoat, code, 0.0)).to_vec();
    layers.push((Technique::SandBack, [0; 3], 0.0));
    let (plate, sanded) = (
        Relief::panelled(900, 600, Closer::WHOLE, Fineness::Quick).unwrap(),
        stack(GroundKind::WhitePrimer, &layers),
    );
    let picture = drawn(&plate, &sanded, &layers, Shading::None);
    let (wide, edge) = (picture.width as usize, Place::Edge);
    let told: Vec<f64> = (0..4)
        .map(|coats| {
            let states = sanded.seen(edge, sanded.len(), FilmState::Dry).states;
            states.iter().filter(|state| state.present == (1 << coats) - 1).map(|state| state.share).sum()
        })
        .collect();
    assert!(told.iter().all(|share| *share > 0.01), "{told:?}");
    // The nearest of the four colours, by the channel that stands out; all alike is the ground.
    let coats_at = |x: usize, y: usize| -> usize {
        let code: Vec<i32> =
            picture.rgb[3 * (y * wide + x)..][..3].iter().map(|code| i32::from(*code)).collect();
        let most = code.iter().max().unwrap();
        let apart = most - code.iter().min().unwrap();
        if apart < 60 { 0 } else { 1 + code.iter().position(|code| code == most).unwrap() }
    };
    let (mut seen, mut all, mut jumps, mut steps) = ([0.0; 4], 0.0, 0, 0);
    for y in 0..picture.height as usize {
        for x in (1..wide).filter(|x| plate.place(*x, y) == edge && plate.place(x - 1, y) == edge) {
            let (here, before) = (coats_at(x, y), coats_at(x - 1, y));
            (seen[here], all) = (seen[here] + 1.0, all + 1.0);
            steps += usize::from(here != before);
            jumps += usize::from(here.abs_diff(before) == 3);
        }
    }
    for (seen, told) in seen.iter().zip(&told) {
        assert!((seen / all - told).abs() < 0.03, "{seen:?} of {all} for {told:?}");
    }
    assert!(4 * jumps < steps, "{jumps} of {steps} steps go from the top to the ground at once");
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
    let plate = Relief::panelled(300, 200, Closer::WHOLE, Fineness::Quick).unwrap();
    let stack = stack(GroundKind::RedStain, &aged());
    let picture = || drawn(&plate, &stack, &aged(), Shading::default());
    assert_eq!(picture(), picture());
}

#[test]
fn a_bare_ground_is_one_colour_without_shading() {
    let plate = Relief::panelled(120, 80, Closer::WHOLE, Fineness::Quick).unwrap();
    let bare = stack(GroundKind::WhitePrimer, &[]);
    let picture = drawn(&plate, &bare, &[], Shading::None);
    assert!(picture.rgb.chunks_exact(3).all(|pixel| pixel == &picture.rgb[..3]));
    let decoded = image::load_from_memory(&picture.to_png()).unwrap().to_rgb8();
    assert_eq!((decoded.width(), decoded.height()), (120, 80));
    assert_eq!(decoded.into_raw(), picture.rgb);
}

/// Bare wood shows its grain, and is on average what it is said to be.
#[test]
fn wood_has_grain_about_its_colour() {
    for ground in [GroundKind::PaleWood, GroundKind::MidWood, GroundKind::DarkWood, GroundKind::RedStain] {
        let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
        let picture = drawn(&plate, &stack(ground, &[]), &[], Shading::None);
        // Of a dark stain red is what is seen.
        let light = picture.rgb.chunks_exact(3).map(|pixel| pixel[0]);
        let (darkest, lightest) =
            light.fold((255, 0), |(low, high): (u8, u8), code| (low.min(code), high.max(code)));
        assert!(lightest - darkest > 8, "{ground:?}: {darkest} to {lightest}");
        assert!(means_agree(ground, &[]) < 0.5);
    }
}

/// Grain runs along the plank, and each kind of wood has its own, whatever its colour.
#[test]
fn each_wood_has_its_own_grain() {
    let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
    // The middle of the field, where the plank lies across, about its mean.
    let painted = |ground, layers: &[Put]| -> Vec<f64> {
        let picture = drawn(&plate, &stack(ground, layers), layers, Shading::None);
        let at = |x: usize, y: usize| f64::from(picture.rgb[3 * (600 * y + x)]);
        let spots: Vec<f64> =
            (0..160).flat_map(|y| (0..240).map(move |x| (x, y))).map(|(x, y)| at(160 + x, 120 + y)).collect();
        let mean = spots.iter().sum::<f64>() / spots.len() as f64;
        spots.iter().map(|spot| spot - mean).collect()
    };
    let field = |ground| painted(ground, &[]);
    let alike = |one: &[f64], other: &[f64]| -> f64 {
        let product = |one: &[f64], other: &[f64]| one.iter().zip(other).map(|(a, b)| a * b).sum::<f64>();
        product(one, other) / (product(one, one) * product(other, other)).sqrt()
    };
    let [pale, middling, dark, stained] =
        [GroundKind::PaleWood, GroundKind::MidWood, GroundKind::DarkWood, GroundKind::RedStain].map(field);
    for wood in [&pale, &middling, &dark, &stained] {
        let along = alike(&wood[..wood.len() - 8], &wood[8..]);
        let across = alike(&wood[..wood.len() - 8 * 240], &wood[8 * 240..]);
        assert!(along > across + 0.15, "{along} along, {across} across");
    }
    for (one, other) in [(&pale, &middling), (&middling, &dark), (&dark, &pale)] {
        assert!(alike(one, other).abs() < 0.3, "{}", alike(one, other));
    }
    // A dark stain lies on dark wood.
    assert!(alike(&dark, &stained) > 0.8, "{}", alike(&dark, &stained));
    // Under a stain it is seen, under two coats it is not.
    let toned = painted(GroundKind::MidWood, &[(Technique::StainWiped, [74, 58, 47], 1.0)]);
    assert!(alike(&middling, &toned) > 0.8, "{}", alike(&middling, &toned));
    let covered = painted(GroundKind::MidWood, &[(Technique::BrushedCoat, [120, 140, 150], 0.0); 2]);
    assert!(alike(&middling, &covered).abs() < 0.2, "{}", alike(&middling, &covered));
}

/// The mean colour of each place is as predicted, whatever the texture, under each technique.
#[test]
fn means_agree_on_a_rough_ground() {
    for technique in Technique::ALL {
        let layers: [Put; 3] = [
            (Technique::BrushedCoat, [120, 140, 150], 0.0),
            (Technique::TextureCoat, [205, 195, 170], 0.0),
            (technique, [90, 100, 80], if technique == Technique::KnifeFlecks { 0.0 } else { 1.5 }),
        ];
        if can_be_shown(&stack(GroundKind::MidWood, &layers)) {
            let off = means_agree(GroundKind::MidWood, &layers);
            assert!(off < 0.5, "{technique:?}: off by {off}");
        }
    }
}

/// Turning the lamp moves the light about; where nothing is shaded there is no lamp.
#[test]
fn the_lamp_turns() {
    let plate = Relief::panelled(300, 200, Closer::WHOLE, Fineness::Quick).unwrap();
    let aged = aged();
    let stack = stack(GroundKind::RedStain, &aged);
    let from =
        |side: f64, rakes: bool| drawn(&plate, &stack, &aged, Shading::By(Lamp::from_side(side, rakes)));
    let (window, left) = (drawn(&plate, &stack, &aged, Shading::default()), from(270.0, true));
    assert_eq!(from(320.0, false), window);
    assert_ne!(left, from(90.0, true));
    // A raking light from the left shows more of the shape than one from a window: of one colour, where nothing else is to be seen.
    let coats: [Put; 2] = [(Technique::BrushedCoat, [120, 140, 150], 0.0); 2];
    let plain = self::stack(GroundKind::WhitePrimer, &coats);
    let of_one_colour = |lamp| drawn(&plate, &plain, &coats, Shading::By(lamp));
    let window = drawn(&plate, &plain, &coats, Shading::default());
    let left = of_one_colour(Lamp::from_side(270.0, true));
    let contrast = |picture: &Picture| {
        let row: Vec<f64> = (20..280).map(|x| f64::from(picture.rgb[3 * (100 * 300 + x) + 1])).collect();
        row.windows(2).map(|pair| (pair[0] - pair[1]).abs()).sum::<f64>()
    };
    assert!(contrast(&left) > contrast(&window), "{} {}", contrast(&left), contrast(&window));
}

/// Within one state of a glaze the film swells and thins, so that near is no flat step; a full coat of what hides is flat.
#[test]
fn films_are_no_steps() {
    let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
    let shades = |layers: &[Put]| {
        let stack = stack(GroundKind::WhitePrimer, layers);
        let picture = drawn(&plate, &stack, layers, Shading::None);
        let mut known: Vec<&[u8]> = picture.rgb.chunks_exact(3).collect();
        known.sort_unstable();
        known.dedup();
        known.len()
    };
    let base = (Technique::BrushedCoat, [225, 215, 195], 0.0);
    let glaze = shades(&[base, base, (Technique::GlazeRagged, [90, 60, 40], 2.0)]);
    assert!(glaze > 40, "{glaze}");
    let hidden = shades(&[base, base, base, base]);
    assert!(hidden < 12, "{hidden}");
}

/// Metal changes with the side the light comes from, more than what is matt does.
#[test]
fn metal_turns_with_the_light() {
    let plate = Relief::panelled(300, 200, Closer::WHOLE, Fineness::Quick).unwrap();
    let brass =
        Material::of(Class::Metallic, Some(Masstone::Hex(Srgb { red: 170, green: 140, blue: 80 })), None);
    let matt = Material::of(Class::Chalk, Some(Masstone::Hex(Srgb { red: 170, green: 140, blue: 80 })), None);
    let turned = |paint: Material| {
        let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
        stack.lay(paint, Technique::BrushedCoat.usual(), Below::LIES, None);
        let marks = [Mark::By(Technique::BrushedCoat)];
        let from = |side: f64| {
            let coats = Coats { stack: &stack, marks: &marks, layers: 1 };
            let lit = Shading::By(Lamp::from_side(side, false));
            draw(&plate, &[coats], Light::Daylight, FilmState::Dry, lit).rgb
        };
        let (left, right) = (from(270.0), from(90.0));
        left.iter().zip(&right).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>() / left.len() as f64
    };
    let (metal, plain) = (turned(brass.unwrap()), turned(matt.unwrap()));
    assert!(metal > 1.3 * plain, "{metal} against {plain}");
}

/// As many layers as a board can have, at the size of a screen, end with a picture.
#[test]
fn sixty_layers_are_a_picture() {
    let plate = Relief::panelled(1200, 800, Closer::WHOLE, Fineness::Quick).unwrap();
    let layers: Vec<Put> = (0..60)
        .map(|n| (Technique::ALL[n % Technique::ALL.len()], [40 + 3 * n as u8, 220 - 3 * n as u8, 120], 1.0))
        .collect();
    let stack = stack(GroundKind::MidWood, &layers);
    assert_eq!(drawn(&plate, &stack, &layers, Shading::default()).rgb.len(), 3 * 1200 * 800);
}

/// Black dragged over white: as much of each as is said, to half a percent, in every place. A pixel on a soft rim counts for
/// as much of either as it shows.
#[test]
fn shares_of_pixels_are_the_shares_of_the_engine() {
    let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
    let layers: [Put; 2] =
        [(Technique::BrushedCoat, [250, 250, 250], 0.0), (Technique::DryBrush, [10, 10, 10], 0.0)];
    let mut stack = Stack::over(&Ground::of(GroundKind::WhitePrimer)).unwrap();
    let thick = |technique: Technique| {
        let mut print = technique.usual();
        print.film = warm_blend_board::ByPlace::all(warm_blend_paint::Microns::new(3000.0).unwrap());
        print
    };
    for (technique, code, _) in layers {
        stack.lay(paint(Class::LatexSatin, code), thick(technique), Below::LIES, None);
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

/// A strip at two sizes is the same strip: the larger, made smaller, is nearly the smaller.
#[test]
fn a_strip_at_two_sizes_is_the_same_strip() {
    let layers: [Put; 3] = [
        (Technique::BrushedCoat, [90, 110, 125], 0.0),
        (Technique::BrushedCoat, [90, 110, 125], 0.0),
        (Technique::GlazeRagged, [225, 215, 195], 1.0),
    ];
    let stack = stack(GroundKind::WhitePrimer, &layers);
    let at = |width: u32| {
        let plate = Relief::panelled(width, width * 2 / 3, Closer::WHOLE, Fineness::Quick).unwrap();
        let picture = drawn(&plate, &stack, &layers, Shading::None);
        let whole = image::RgbImage::from_raw(picture.width, picture.height, picture.rgb).unwrap();
        image::imageops::thumbnail(&whole, 60, 40)
    };
    let (small, large) = (at(600), at(1200));
    let greens =
        |picture: &image::RgbImage| -> Vec<f64> { picture.pixels().map(|p| f64::from(p[1])).collect() };
    let (small, large) = (greens(&small), greens(&large));
    let mean = |of: &[f64]| of.iter().sum::<f64>() / of.len() as f64;
    let (a, b) = (mean(&small), mean(&large));
    let together: f64 = small.iter().zip(&large).map(|(x, y)| (x - a) * (y - b)).sum();
    let spread = |of: &[f64], mean: f64| of.iter().map(|v| (v - mean).powi(2)).sum::<f64>().sqrt();
    let alike = together / (spread(&small, a) * spread(&large, b));
    assert!(alike > 0.9, "{alike}");
}
