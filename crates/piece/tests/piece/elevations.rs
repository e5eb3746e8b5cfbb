//! Pieces from a few dimensions: areas, edges and neighbours. Worked examples are worked by hand, from the dimensions and the
//! thicknesses that `build.rs` names.

use std::f64::consts::PI;

use proptest::prelude::*;
use warm_blend_paint::Name;
use warm_blend_piece::{
    AreaCorrection, Elevation, Form, FormField, Outline, Part, Piece, PieceKind, Rect, Shaping, View, Zone,
};

fn near(one: f64, other: f64) -> bool {
    (one - other).abs() < 1e-6 * (1.0 + other.abs())
}

fn area(elevation: &Elevation, zone: Zone) -> f64 {
    elevation.extents()[&zone].area
}

fn meets(elevation: &Elevation, one: Zone, other: Zone) -> f64 {
    let found = elevation
        .meetings()
        .into_iter()
        .find(|meeting| meeting.zones == (one, other) || meeting.zones == (other, one));
    found.map_or(0.0, |meeting| meeting.length)
}

/// A case 1000 × 900 × 480 on a plinth: the top 24 thick overhangs 12 at each side, the plinth is 90 high, so the case is
/// 976 × 786; inside stiles of 38 there are 900 × 710, four drawers with three rails of 18 between them, 164 high each.
#[test]
fn a_chest_of_four_drawers() {
    let form = PieceKind::ChestOfDrawers.usual();
    assert_eq!((form.width, form.height, form.depth, form.drawers), (1000.0, 900.0, 480.0, 4));
    let chest = form.build().unwrap();
    let knobs = 8.0 * PI * 17.0 * 17.0 / 1e6;
    assert!(near(area(&chest, Zone::Hardware), knobs));
    assert!(near(area(&chest, Zone::Drawers), 4.0 * 0.9 * 0.164 - knobs));
    assert!(near(area(&chest, Zone::Case), 0.976 * 0.786 - 4.0 * 0.9 * 0.164));
    assert!(near(area(&chest, Zone::Sides), 2.0 * 0.48 * 0.786));
    assert!(near(area(&chest, Zone::Top), 0.48 + 0.024 + 2.0 * 0.48 * 0.024));
    assert!(near(area(&chest, Zone::Plinth), 0.976 * 0.09 + 2.0 * 0.48 * 0.09));
    // A drawer meets the case all round; the case meets the top and the plinth along its width.
    assert!(near(meets(&chest, Zone::Case, Zone::Drawers), 4.0 * 2.0 * (0.9 + 0.164)));
    assert!(near(meets(&chest, Zone::Case, Zone::Top), 0.976));
    assert!(near(meets(&chest, Zone::Case, Zone::Plinth), 0.976));
    assert!(near(meets(&chest, Zone::Sides, Zone::Top), 2.0 * 0.48));
    // Round both corners of the front.
    assert!(near(meets(&chest, Zone::Case, Zone::Sides), 2.0 * 0.786));
    assert_eq!(meets(&chest, Zone::Top, Zone::Plinth), 0.0);
}

/// A frame 700 × 1000 with a round top, 80 wide: rectangles of 700 × 650 and 540 × 570 under half circles.
#[test]
fn a_frame_with_a_round_top() {
    let form = Form { round: true, ..PieceKind::Frame.usual() };
    let frame = form.build().unwrap();
    let outer = 0.7 * 0.65 + PI * 0.7 * 0.7 / 8.0;
    let inner = 0.54 * 0.57 + PI * 0.54 * 0.54 / 8.0;
    assert!(near(area(&frame, Zone::Frame), outer - inner));
    assert!(near(area(&frame, Zone::Unpainted), inner));
    assert!(near(meets(&frame, Zone::Frame, Zone::Unpainted), 0.54 + 2.0 * 0.57 + PI * 0.27));
}

/// Two doors of two panels each: 1200 × 1900, cornice 85, plinth 90, so the case is 1176 × 1725 and inside it 1100 × 1649;
/// doors are 548 wide with 4 between; within door stiles of 70 there are 408 × 1509 for two panels with 70 between.
#[test]
fn a_cupboard_with_panelled_doors() {
    let cupboard = PieceKind::Cupboard.usual().build().unwrap();
    let high = (1.509 - 0.07) / 2.0;
    let knobs = 2.0 * PI * 0.017 * 0.017;
    assert!(near(area(&cupboard, Zone::Doors), 2.0 * 0.548 * 1.649 - 4.0 * 0.408 * high - knobs));
    assert!(near(area(&cupboard, Zone::Panels), 4.0 * (0.408 - 0.056) * (high - 0.056)));
    let framed = 4.0 * (0.408 * high - (0.408 - 0.056) * (high - 0.056));
    assert!(near(area(&cupboard, Zone::Mouldings), framed));
    assert!(meets(&cupboard, Zone::Panels, Zone::Mouldings) > 5.0);
    assert_eq!(meets(&cupboard, Zone::Panels, Zone::Doors), 0.0);
}

/// An oval table top, 1600 × 850: π a b, and S. Ramanujan's perimeter within a part in ten thousand of the integral (3.9286 m).
#[test]
fn an_oval_top() {
    let part = Part {
        zone: Zone::Top,
        rect: Rect { x: 0.0, y: 0.0, w: 1600.0, h: 850.0 },
        outline: Outline::Oval,
        shaping: Shaping::Flat,
        rim: 0.0,
        on: None,
        forward: 0.0,
    };
    assert!(near(part.area(), PI * 800.0 * 425.0));
    // The perimeter by the trapezoidal rule over the angle.
    let step = |i: usize| {
        let t = 2.0 * PI * i as f64 / 4000.0;
        (800.0 * t.sin()).hypot(425.0 * t.cos()) * 2.0 * PI / 4000.0
    };
    let perimeter: f64 = (0..4000).map(step).sum();
    assert!((part.around() - perimeter).abs() < 1e-4 * perimeter, "{} {perimeter}", part.around());
    assert!(part.holds(800.0, 425.0) && !part.holds(20.0, 20.0));
}

#[test]
fn what_cannot_be_built_says_which_dimension_and_what_would_do() {
    let chest = PieceKind::ChestOfDrawers.usual();
    let refused = |form: Form| form.build().unwrap_err();
    for (form, field, words) in [
        (Form { width: 0.0, ..chest }, "width", "can be 150 to 8000 mm"),
        (Form { width: 9000.0, ..chest }, "width", "can be 150 to 8000 mm"),
        (Form { height: f64::NAN, ..chest }, "height", "not a number"),
        (Form { drawers: 40, ..chest }, "drawers", "1 to 12"),
        (Form { drawers: 12, height: 700.0, ..chest }, "drawers", "use fewer rows or a taller case"),
        (Form { across: 6, width: 500.0, ..chest }, "across", "wider case"),
        (Form { legs: 800.0, ..chest }, "legs", "legs shorter"),
        (Form { moulding: 260.0, ..PieceKind::Cupboard.usual() }, "moulding", "a narrower one"),
        (Form { doors: 6, ..PieceKind::Cupboard.usual() }, "doors", "fewer doors"),
        (Form { width: 600.0, moulding: 300.0, ..PieceKind::Frame.usual() }, "moulding", "10 to 270"),
        (Form { round: true, height: 300.0, ..PieceKind::Frame.usual() }, "height", "taller than it is wide"),
        (Form { panels: 8, width: 1400.0, ..PieceKind::Wall.usual() }, "panels", "fewer"),
        (Form { height: 120.0, ..PieceKind::Stool.usual() }, "height", "at least"),
        (Form { depth: 150.0, ..PieceKind::Table.usual() }, "depth", "between the legs"),
    ] {
        let error = refused(form);
        assert_eq!(error.field, field, "{error}");
        assert!(error.message.contains(words), "{error}");
    }
}

#[test]
fn what_was_measured_goes_before_what_was_drawn() {
    let mut piece = Piece::named(Name::new("chest").unwrap());
    piece.form = Some(PieceKind::ChestOfDrawers.usual());
    let elevation = piece.form.unwrap().build().unwrap();
    piece.corrections.insert(Zone::Drawers, AreaCorrection { area: Some(0.5), edge: None, carved: None });
    let extents = piece.extents(&elevation);
    assert_eq!(extents[&Zone::Drawers].area, 0.5);
    assert_eq!(extents[&Zone::Drawers].edge, elevation.extents()[&Zone::Drawers].edge);
    piece.corrections.insert(Zone::Case, AreaCorrection { area: Some(0.0), edge: None, carved: None });
    let error = piece.check().unwrap_err();
    assert_eq!(error.pointer, "/corrections/case/area");
    assert!(error.message.contains("or leave blank"));
}

/// A piece from before it had more than a name opens, and is kept as it was.
#[test]
fn an_older_piece_is_read() {
    let piece: Piece = serde_json::from_str(r#"{"name": "hall bench"}"#).unwrap();
    assert_eq!(piece, Piece::named(Name::new("hall bench").unwrap()));
    let again: Piece = serde_json::from_str(&serde_json::to_string(&piece).unwrap()).unwrap();
    assert_eq!(again, piece);
    piece.check().unwrap();
}

#[test]
fn ids_are_as_they_are_kept() {
    for kind in PieceKind::ALL {
        assert_eq!(serde_json::to_value(kind).unwrap(), kind.id());
        assert!(kind.usual().build().is_ok(), "{kind:?}");
        assert!(kind.asks().contains(&FormField::Width));
    }
    for zone in Zone::ALL {
        assert_eq!(serde_json::to_value(zone).unwrap(), zone.id());
    }
}

fn any_form() -> impl Strategy<Value = Form> {
    let sizes = (300.0..3000.0f64, 300.0..2600.0f64, 200.0..900.0f64);
    let counts = (1u32..7, 1u32..4, 1u32..5, 1u32..5);
    (0..PieceKind::ALL.len(), sizes, counts, 0.0..90.0f64, 0.0..400.0f64, any::<(bool, bool)>()).prop_map(
        |(
            kind,
            (width, height, depth),
            (drawers, across, doors, panels),
            moulding,
            legs,
            (carved, round),
        )| Form {
            kind: PieceKind::ALL[kind],
            width,
            height,
            depth,
            drawers,
            across,
            doors,
            panels,
            moulding,
            legs,
            carved,
            round,
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(600))]

    /// What can be built adds up: every part lies on the one it is set into, no net area is below nought, and zones are
    /// together as large as what the faces are made of.
    #[test]
    fn areas_add_up(form in any_form()) {
        if let Ok(elevation) = form.build() {
            let mut whole = 0.0;
            for face in &elevation.faces {
                let sheet = Rect { x: 0.0, y: 0.0, w: face.width, h: face.height };
                for (n, part) in face.parts.iter().enumerate() {
                    let below = part.on.map_or(sheet, |on| face.parts[on].rect);
                    prop_assert!(below.holds(part.rect), "{:?} on {:?}", part, below);
                    prop_assert!(part.on.is_none_or(|on| on < n));
                    prop_assert!(part.rect.w > 0.0 && part.rect.h > 0.0 && part.inward(-1.0, -1.0) < 0.0);
                    if part.on.is_none() {
                        whole += f64::from(face.times) * part.area() / 1e6;
                    }
                }
                prop_assert!(face.net().iter().all(|net| *net > -1e-6));
            }
            let zones: f64 = elevation.extents().values().map(|extent| extent.area).sum();
            prop_assert!((zones - whole).abs() < 1e-9 * (1.0 + whole), "{} of {}", zones, whole);
            prop_assert!(elevation.face(View::Front).is_some());
            for meeting in elevation.meetings() {
                prop_assert!(meeting.zones.0 < meeting.zones.1 && meeting.length > 0.0);
            }
            for shares in elevation.places().values() {
                prop_assert!((shares.field + shares.recess + shares.edge - 1.0).abs() < 1e-9);
            }
        }
    }

    /// Whatever is said of a piece, it is built or refused with a dimension and a reason.
    #[test]
    fn any_number_is_answered(width in any::<f64>(), height in any::<f64>(), moulding in any::<f64>(), n in any::<u32>(), kind in 0..PieceKind::ALL.len()) {
        let usual = PieceKind::ALL[kind].usual();
        for form in [Form { width, ..usual }, Form { height, ..usual }, Form { moulding, legs: moulding, ..usual }, Form { drawers: n, doors: n, panels: n, ..usual }] {
            if let Err(error) = form.build() {
                prop_assert!(!error.field.is_empty() && error.message.len() > 15, "{}", error);
            }
        }
    }
}
