//! A finish shown on a photo, against the same scene photographed in that finish.

use std::collections::BTreeMap;

use palette::encoding::{FromLinear, IntoLinear, Srgb as Coding};
use warm_blend_board::Place;
use warm_blend_paint::Seen;
use warm_blend_photo::{BadPick, Card, Photo, PhotoSpot};
use warm_blend_piece::{Elevation, Form, View, Zone};
use warm_blend_render::{
    Closer, Fineness, Front, MarkedPhoto, OnPhoto, Picture, Placed, Proportions, SeenPoint, Worn,
};
use warm_blend_sim::{INTERIORS, Interior, Photograph, SurfaceCoat};
use warm_blend_spectral::{Light, Reflectance, Srgb, difference};

const SIZE: (u32, u32) = (800, 600);

/// Linear reflectance that each zone is painted in.
type Colours = fn(Zone) -> [f64; 3];

fn blue_and_cream(zone: Zone) -> [f64; 3] {
    match zone {
        Zone::Drawers | Zone::Panels => [0.30, 0.36, 0.40],
        Zone::Top | Zone::Fall => [0.11, 0.14, 0.17],
        _ => [0.62, 0.57, 0.47],
    }
}

fn ochre(_: Zone) -> [f64; 3] {
    [0.46, 0.30, 0.10]
}

/// A photograph as the program reads it.
fn read(picture: &Picture) -> Photo {
    let pixels =
        picture.rgb.chunks_exact(3).map(|rgb| [0, 1, 2].map(|c| Coding::into_linear(rgb[c]))).collect();
    let clipped = picture.rgb.chunks_exact(3).map(|rgb| rgb.contains(&u8::MAX)).collect();
    Photo::new(picture.width as usize, pixels, clipped).unwrap()
}

fn card(of: &Photograph) -> PhotoSpot {
    PhotoSpot { x: of.card.0[0], y: of.card.0[1], radius: of.card.1 }
}

fn prepared(of: &Photograph, elevation: &Elevation, hidden: &[Vec<[f64; 2]>]) -> OnPhoto {
    let photo = read(&of.picture);
    let (white, _) = photo.white(Card::White, card(of)).unwrap();
    let marked = MarkedPhoto { faces: &of.faces, hidden, white, card: Some(card(of)) };
    OnPhoto::new(&photo, elevation, marked, SIZE.0).unwrap()
}

/// Flat pictures of faces in plain colours.
fn flats(on: &OnPhoto, elevation: &Elevation, colours: Colours) -> Vec<Picture> {
    let flat = |(view, _, (width, height)): (View, bool, (u32, u32))| {
        let face = elevation.face(view).unwrap();
        let placed = Placed::of(face, width, height).unwrap();
        let code = |linear: f64| -> u8 { Coding::from_linear(linear as f32) };
        let rgb = (0..(width * height) as usize).flat_map(|i| {
            let (x, y) = placed.at(i % width as usize, i / width as usize);
            let part = face.parts.iter().rev().find(|part| part.holds(x, y));
            colours(part.map_or(Zone::Case, |part| part.zone)).map(code)
        });
        Picture { width, height, rgb: rgb.collect() }
    };
    on.flats().map(flat).collect()
}

fn painted(gloss: f64) -> BTreeMap<Zone, Worn> {
    Zone::ALL
        .into_iter()
        .filter(|zone| zone.is_painted())
        .map(|zone| (zone, Worn { through: 0.0, gloss }))
        .collect()
}

/// Median and 90th percentile of ΔE00 on painted zones between the finish shown and the finish photographed.
fn off(interior: &Interior, colours: Colours) -> (f64, f64) {
    let elevation = interior.form().build().unwrap();
    let before = interior.photograph(&elevation, SIZE, |_| None).unwrap();
    let paint = |point: &SeenPoint| {
        point.zone.is_painted().then(|| SurfaceCoat { reflects: colours(point.zone), gloss: 0.1 })
    };
    let truth = interior.photograph(&elevation, SIZE, paint).unwrap();
    let on = prepared(&before, &elevation, &[]);
    let shown = on.draw(&flats(&on, &elevation, colours), &painted(0.12), Light::Daylight);
    let mut all = Vec::new();
    for (i, point) in before.points.iter().enumerate() {
        if !point.is_some_and(|point| point.zone.is_painted()) {
            continue;
        }
        let lab = |picture: &Picture| {
            Srgb::new(picture.rgb[3 * i], picture.rgb[3 * i + 1], picture.rgb[3 * i + 2]).to_lab()
        };
        all.push(difference(lab(&shown), lab(&truth.picture)).value());
    }
    all.sort_by(f64::total_cmp);
    (all[all.len() / 2], all[all.len() * 9 / 10])
}

/// Colours are right to ΔE00 3 in half of the pixels and 7 in nine of ten, over old paint, whose colour hardly changes,
#[test]
fn a_painted_chest_is_shown_as_it_would_be_photographed() {
    let shed = Interior::find("chest-in-shed").unwrap();
    for colours in [blue_and_cream as Colours, ochre] {
        let (median, most) = off(shed, colours);
        println!("shed: median {median:.1}, 90 % {most:.1}");
        assert!(median <= 3.0 && most <= 7.0, "{median} {most}");
    }
}

/// and over dark varnished wood with bold grain.
#[test]
fn so_is_a_varnished_piano() {
    let hall = Interior::find("piano-in-hall").unwrap();
    for colours in [blue_and_cream as Colours, ochre] {
        let (median, most) = off(hall, colours);
        println!("hall: median {median:.1}, 90 % {most:.1}");
        assert!(median <= 3.0 && most <= 7.0, "{median} {most}");
    }
}

/// Beside the piece, on what is hidden and on zones without a finish not a single code changes; the card is painted over.
#[test]
fn what_is_not_painted_stays_as_it_is() {
    let shed = Interior::find("chest-in-shed").unwrap();
    let elevation = shed.form().build().unwrap();
    let before = shed.photograph(&elevation, SIZE, |_| None).unwrap();
    let vase = vec![[0.40, 0.45], [0.46, 0.45], [0.46, 0.60], [0.40, 0.60]];
    let on = prepared(&before, &elevation, std::slice::from_ref(&vase));
    let mut worn = painted(0.1);
    worn.remove(&Zone::Drawers);
    let shown = on.draw(&flats(&on, &elevation, ochre), &worn, Light::Daylight);
    let mut changed = 0;
    for (i, point) in before.points.iter().enumerate() {
        let (x, y) = ((i % 800) as f64 / 800.0, (i / 800) as f64 / 800.0);
        let in_vase = (0.402..0.458).contains(&x) && (0.452..0.598).contains(&y);
        let is_changed = shown.rgb[3 * i..3 * i + 3] != on.before().rgb[3 * i..3 * i + 3];
        // The card is painted over where it covers a painted zone.
        let on_card = (x - before.card.0[0]).hypot(y - before.card.0[1]) < 3.0 * before.card.1;
        let is_painted = on_card || (point.is_some_and(|point| worn.contains_key(&point.zone)) && !in_vase);
        changed += usize::from(is_changed);
        // The edge of a zone lies within a pixel.
        let beside = |by: i64| {
            usize::try_from(i as i64 + by)
                .ok()
                .and_then(|at| before.points.get(at))
                .is_some_and(|point| point.is_some())
        };
        let near =
            [-802, -801, -800, -799, -798, -2, -1, 1, 2, 798, 799, 800, 801, 802].into_iter().any(beside);
        assert!(!is_changed || is_painted || near, "{x} {y}");
    }
    assert!(changed > 10_000, "{changed}");
    // All of it painted, the card is gone.
    let on = prepared(&before, &elevation, &[]);
    let shown = on.draw(&flats(&on, &elevation, ochre), &painted(0.1), Light::Daylight);
    let [x, y] = before.card.0.map(|v| (v * 800.0) as usize);
    let at = 3 * (y * 800 + x);
    let lab = Srgb::new(shown.rgb[at], shown.rgb[at + 1], shown.rgb[at + 2]).to_lab();
    assert!(lab.b > 15.0, "{lab:?}");
}

/// A surface of one colour keeps its mean colour in perspective; what is marked in mm is as long as it was marked.
#[test]
fn marks_keep_their_size() {
    let shed = Interior::find("chest-in-shed").unwrap();
    let elevation = shed.form().build().unwrap();
    let before = shed.photograph(&elevation, SIZE, |_| None).unwrap();
    let on = prepared(&before, &elevation, &[]);
    // Upright stripes of 50 mm on the front.
    let striped = |(view, _, (width, height)): (View, bool, (u32, u32))| {
        let placed = Placed::of(elevation.face(view).unwrap(), width, height).unwrap();
        let rgb = (0..(width * height) as usize).flat_map(|i| {
            let (x, _) = placed.at(i % width as usize, i / width as usize);
            [if x.rem_euclid(100.0) < 50.0 { 230 } else { 40 }; 3]
        });
        Picture { width, height, rgb: rgb.collect() }
    };
    let pictures: Vec<Picture> = on.flats().map(striped).collect();
    let shown = on.draw(&pictures, &painted(0.0), Light::Daylight);
    let mut right = (0, 0);
    for (i, point) in before.points.iter().enumerate() {
        // The truth: where the simulated camera saw this point.
        let Some(point) = point.filter(|point| point.view == View::Front && point.zone == Zone::Drawers)
        else {
            continue;
        };
        let from_edge = point.at.0.rem_euclid(50.0);
        if !(6.0..44.0).contains(&from_edge) || point.normal[2] < 0.9 {
            continue;
        }
        let is_pale = point.at.0.rem_euclid(100.0) < 50.0;
        let level = shown.rgb[3 * i + 1];
        let old = on.before().rgb[3 * i + 1];
        right.1 += 1;
        right.0 += usize::from((level > old) == is_pale);
    }
    assert!(right.1 > 5000 && right.0 * 100 > right.1 * 97, "{right:?}");
}

/// A grey looks the same whichever light the photo was taken in: the photo has the cast of that light already.
#[test]
fn a_cast_is_not_put_on_twice() {
    let shed = Interior::find("chest-in-shed").unwrap();
    let elevation = shed.form().build().unwrap();
    let before = shed.photograph(&elevation, (320, 240), |_| None).unwrap();
    let photo = read(&before.picture);
    let (white, _) = photo.white(Card::White, card(&before)).unwrap();
    let marked = MarkedPhoto { faces: &before.faces, hidden: &[], white, card: Some(card(&before)) };
    let on = OnPhoto::new(&photo, &elevation, marked, 320).unwrap();
    let in_light = |light: Light| {
        let grey = Seen::linear(&Reflectance::grey(0.4), light);
        let flat = |(_, _, (width, height)): (View, bool, (u32, u32))| {
            let rgb = (0..width * height)
                .flat_map(|_| grey.map(|linear| -> u8 { Coding::from_linear(linear as f32) }));
            Picture { width, height, rgb: rgb.collect() }
        };
        on.draw(&on.flats().map(flat).collect::<Vec<_>>(), &painted(0.0), light)
    };
    let daylight = in_light(Light::Daylight);
    for light in [Light::Bulb, Light::WarmLed, Light::NorthShade] {
        let most =
            daylight.rgb.iter().zip(&in_light(light).rgb).map(|(one, other)| one.abs_diff(*other)).max();
        assert!(most.unwrap() <= 3, "{light:?}: {most:?}");
    }
}

/// Marks set down by a hand, up to 2 pixels from where the corners are.
fn by_hand(of: &Photograph) -> Vec<(View, [[f64; 2]; 4])> {
    let mut turn = 0.0_f64;
    let mut near = |at: f64| {
        turn += 2.4;
        at + 2.0 / f64::from(SIZE.0) * turn.sin()
    };
    of.faces.iter().map(|(view, corners)| (*view, corners.map(|[x, y]| [near(x), near(y)]))).collect()
}

/// Dimensions that the photo contradicts are found, and those that fit it; right ones are left alone, by one face or more.
#[test]
fn wrong_dimensions_are_found_in_the_photo() {
    for interior in &INTERIORS {
        let right = interior.form();
        let before = interior.photograph(&right.build().unwrap(), SIZE, |_| None).unwrap();
        let high = f64::from(SIZE.1) / f64::from(SIZE.0);
        let all = by_hand(&before);
        let front: Vec<_> = all.iter().copied().filter(|(view, _)| *view == View::Front).collect();
        for faces in [&all, &front] {
            let marked = MarkedPhoto::of(faces);
            let found = |form: &Form| Proportions::contradicting(&form.build().unwrap(), &marked, high);
            assert_eq!(found(&right), None, "{} by {} faces", interior.id, faces.len());
            for wrong in [0.75, 1.3] {
                let form = Form { height: right.height * wrong, ..right };
                let Proportions { height, .. } = found(&form).expect("a contradiction");
                assert!((height * wrong - 1.0).abs() < 0.05, "{}: {wrong}, {height}", interior.id);
            }
        }
        // A depth shows only in faces that have it.
        let form = Form { depth: right.depth * 1.4, ..right };
        let elevation = form.build().unwrap();
        let of = |faces: &[_]| {
            let marked = MarkedPhoto::of(faces);
            Proportions::contradicting(&elevation, &marked, high)
        };
        assert_eq!(of(&front), None);
        let depth = of(&all).and_then(|found| found.depth).expect("a contradiction");
        assert!((depth * 1.4 - 1.0).abs() < 0.1, "{}: {depth}", interior.id);
    }
}

/// The outlines of parts lie where the simulated camera sees those parts: the last outline that holds a point is that of its zone.
#[test]
fn parts_are_outlined_where_they_are_seen() {
    for interior in INTERIORS {
        let elevation = interior.form().build().unwrap();
        let before = interior.photograph(&elevation, SIZE, |_| None).unwrap();
        let marks = MarkedPhoto::of(&before.faces);
        let parts = marks.parts(&elevation, 0.75).unwrap();
        let holds = |[a, b, c, d]: [[f64; 2]; 4], [x, y]: [f64; 2]| {
            let sides = [(a, b), (b, c), (c, d), (d, a)];
            let left =
                sides.iter().filter(|([ax, ay], [bx, by])| (bx - ax) * (y - ay) < (by - ay) * (x - ax));
            matches!(left.count(), 0 | 4)
        };
        let (mut right, mut all) = (0, 0);
        for (i, point) in before.points.iter().enumerate() {
            let Some(point) = point.filter(|point| point.zone.is_painted()) else { continue };
            let at = [(i % 800) as f64 / 800.0, (i / 800) as f64 / 800.0];
            all += 1;
            let outlined = parts.iter().rfind(|part| holds(part.corners, at));
            right += usize::from(outlined.is_some_and(|part| part.zone == point.zone));
        }
        // Outlines are straight, and edges lie within pixels.
        assert!(right * 100 > all * 96, "{}: {right} of {all}", interior.id);
    }
}

/// A painted surface whose colour is known shows the cast of the light as a card does; one that is nearly black shows nothing.
#[test]
fn a_known_colour_shows_the_cast_of_the_light_as_a_card_does() {
    const HALF: usize = 6;
    for interior in INTERIORS {
        let elevation = interior.form().build().unwrap();
        let paint = |point: &SeenPoint| {
            point.zone.is_painted().then(|| SurfaceCoat { reflects: ochre(point.zone), gloss: 0.0 })
        };
        let of = interior.photograph(&elevation, SIZE, paint).unwrap();
        let photo = read(&of.picture);
        let (by_card, _) = photo.white(Card::White, card(&of)).unwrap();
        let is_front = |x: usize, y: usize| {
            let point = of.points[y * SIZE.0 as usize + x];
            point.is_some_and(|point| point.zone.is_painted() && point.normal[2] > 0.9)
        };
        let mut read = 0;
        for (x, y) in (40..760).step_by(40).flat_map(|x| (40..560).step_by(40).map(move |y| (x, y))) {
            let all = (x - HALF..=x + HALF).all(|x| (y - HALF..=y + HALF).all(|y| is_front(x, y)));
            let on_card = (x as f64 / 800.0 - of.card.0[0]).hypot(y as f64 / 800.0 - of.card.0[1]) < 0.06;
            let spot = PhotoSpot { x: x as f64 / 800.0, y: y as f64 / 800.0, radius: HALF as f64 / 800.0 };
            if !all || on_card {
                continue;
            }
            let Ok((white, _)) = photo.white(Card::Known(ochre(Zone::Case)), spot) else { continue };
            read += 1;
            for c in [0, 2] {
                let (one, other) = (white[c] / white[1], by_card[c] / by_card[1]);
                assert!((one / other - 1.0).abs() < 0.08, "{}: {one} {other}", interior.id);
            }
            let dark = photo.white(Card::Known([0.4, 0.2, 0.01]), spot);
            assert_eq!(dark, Err(BadPick::KnownTooDark));
        }
        assert!(read > 5, "{}: {read}", interior.id);
    }
}

/// Carving wears where the photo shows it to stand out, and each corner in its own way; drawn carving knows nothing of the photo.
#[test]
fn carving_follows_the_photo() {
    let hall = Interior::find("piano-in-hall").unwrap();
    let elevation = hall.form().build().unwrap();
    let before = hall.photograph(&elevation, SIZE, |_| None).unwrap();
    let on = prepared(&before, &elevation, &[]);
    let face = elevation.face(View::Front).unwrap();
    let size = (960, 720);
    let placed = Placed::of(face, size.0, size.1).unwrap();
    let ((x0, y0), (x1, _)) = (placed.at(0, 0), placed.at(1, 0));
    let lightness = |i: usize| {
        let rgb = [0, 1, 2].map(|c| before.picture.rgb[3 * i + c]);
        Srgb::new(rgb[0], rgb[1], rgb[2]).to_lab().l
    };
    // How much lighter the photo is at edges than in recesses, within what is carved of panels.
    let lighter = |front: &Front| {
        let mut by_place: BTreeMap<&str, Vec<f64>> = BTreeMap::new();
        for (i, point) in before.points.iter().enumerate() {
            let Some(point) = point.filter(|p| p.view == View::Front && p.zone == Zone::Panels) else {
                continue;
            };
            let part = &face.parts[point.part];
            let (u, v) = (point.at.0 - part.rect.x, point.at.1 - part.rect.y);
            let (u, v) = (u.min(part.rect.w - u), v.min(part.rect.h - v));
            if u.hypot(v) > 0.8 * part.carving() || u.min(v) < 8.0 {
                continue;
            }
            let pixel = |at: f64, from: f64| ((at - from) / (x1 - x0)).round() as usize;
            let place = front.place(pixel(point.at.0, x0), pixel(point.at.1, y0));
            let name = match place {
                Place::Edge => "edge",
                Place::Recess => "recess",
                Place::Field => "field",
            };
            by_place.entry(name).or_default().push(lightness(i));
        }
        let mean = |name: &str| {
            let all = &by_place[name];
            assert!(all.len() > 60, "{name}: {}", all.len());
            all.iter().sum::<f64>() / all.len() as f64
        };
        mean("edge") - mean("recess")
    };
    let drawn = Front::new(face, size.0, size.1, Closer::WHOLE, Fineness::Quick).unwrap();
    let seen = Front::carved(face, size, Closer::WHOLE, Fineness::Quick, &on.carving(View::Front)).unwrap();
    let (drawn_lighter, seen_lighter) = (lighter(&drawn), lighter(&seen));
    println!("edges are lighter than recesses by {seen_lighter:.1}, drawn {drawn_lighter:.1}");
    assert!(seen_lighter > 4.0 && drawn_lighter.abs() < 1.0, "{seen_lighter} {drawn_lighter}");
    // A side that shows no carving has none.
    assert_eq!(on.carving(View::Top), Default::default());
}
