//! Whether the parts of a piece belong together, and what brings them together.

use std::{collections::BTreeMap, ops::ControlFlow};

use proptest::prelude::*;
use uuid::Uuid;
use warm_blend_board::{
    Board, ByPlace, Deposit, Ground, GroundKind, HandBias, Layer, Motif, OnShelf, Passes, Place, Share,
    Technique,
};
use warm_blend_paint::{Class, FilmState, MixPart, Parts, Units, mix};
use warm_blend_piece::{
    About, Age, Ageing, BadFinish, Band, BlendDirection, Extent, Finish, FinishContext, FinishedZone, Intent,
    Looked, Meeting, Over, Pair, PairIntent, Piece, PieceKind, Scheme, Stands, Stencil, Unified, Visit,
    Washed, Windows, With, Zone, ZoneFinish, ZoneSeen, blended, calms, findings, mud, pairs, poured_together,
    pulls, shared_paint, treatments, unify, unify_likely,
};
use warm_blend_spectral::{Lab, Light, difference};
use warm_blend_testing::shelf::{
    A, BROWN, CLEAR_WAX, CREAM, GLAZING_LIQUID, OXBLOOD, Shelf, WHITE, board_on, named, pot,
};

const LIGHT: Light = Light::Daylight;

fn coated(ground: GroundKind, of: &[(u128, u32)]) -> Board {
    let mut coat = Layer::new(Technique::BrushedCoat, pot(of));
    coat.hand.passes = Passes::new(3).unwrap();
    board_on(ground, vec![coat, Layer::new(Technique::ClearWax, vec![])])
}

/// A chest of drawers in a brown case with cream drawers.
struct Room {
    shelf: Shelf,
    boards: Vec<Board>,
    piece: Piece,
}

impl Room {
    fn new(case: &[(u128, u32)], drawers: &[(u128, u32)]) -> Self {
        let boards = vec![coated(GroundKind::WhitePrimer, case), coated(GroundKind::WhitePrimer, drawers)];
        let worn = |n: u128| ZoneFinish::of(Finish::Strip { board: Uuid::from_u128(n), strip: A });
        let zones = [Zone::Top, Zone::Case, Zone::Sides, Zone::Plinth];
        let mut wears: BTreeMap<Zone, ZoneFinish> = zones.into_iter().map(|zone| (zone, worn(0))).collect();
        wears.insert(Zone::Drawers, worn(1));
        wears.insert(Zone::Hardware, worn(1));
        let scheme =
            Scheme { name: named("first"), wears, over: vec![], intent: Intent::Quiet, pairs: vec![] };
        let mut piece = Piece::named(named("chest"));
        piece.form = Some(PieceKind::ChestOfDrawers.usual());
        piece.schemes = vec![scheme];
        Self { shelf: Shelf::default(), boards, piece }
    }

    fn with<R>(&self, work: impl FnOnce(&FinishContext) -> R) -> R {
        let tin = |paint| self.shelf.tin(paint);
        let board = |id: Uuid| self.boards.get(id.as_u128() as usize);
        let elevation = self.piece.form.unwrap().build().unwrap();
        work(&FinishContext {
            tin: &tin,
            habit: &|_| HandBias::USUAL,
            elevation: &elevation,
            board: &board,
            primer: &|_| None,
        })
    }

    fn zones(&self, scheme: &Scheme) -> (Vec<ZoneSeen>, Vec<Meeting>, BTreeMap<Zone, ByPlace<f64>>) {
        let elevation = self.piece.form.unwrap().build().unwrap();
        let places = elevation.places();
        let look = |(zone, extent): (Zone, Extent)| {
            let dressed = self
                .with(|wardrobe| wardrobe.dress(zone, scheme, self.piece.ground, &scheme.over, None))
                .unwrap();
            dressed.look(zone, extent, &places[&zone], LIGHT, FilmState::Dry)
        };
        let zones = self.piece.extents(&elevation).into_iter().map(look).collect();
        (zones, self.piece.meetings(&elevation), places)
    }

    fn pairs(&self, scheme: &Scheme) -> Vec<Pair> {
        let (zones, meetings, _) = self.zones(scheme);
        pairs(&zones, &meetings, scheme, &self.piece.windows)
    }

    fn looked<R>(&self, work: impl FnOnce(&Looked) -> R) -> R {
        let scheme = self.piece.scheme().unwrap();
        let (zones, meetings, places) = self.zones(scheme);
        work(&Looked {
            piece: &self.piece,
            scheme,
            zones: &zones,
            places: &places,
            meetings: &meetings,
            look: (LIGHT, FilmState::Dry),
        })
    }

    fn over(&self, layer: Layer) -> Scheme {
        Scheme { over: vec![Over { layer, zones: vec![] }], ..self.piece.scheme().unwrap().clone() }
    }
}

fn colour(zone: Zone, l: f64, a: f64, b: f64, area: f64) -> ZoneSeen {
    let grey = warm_blend_spectral::Reflectance::grey(0.2);
    ZoneSeen {
        zone,
        extent: Extent { area, edge: 1.0 },
        painted: true,
        seen: grey,
        lab: Lab { l, a, b },
        places: ByPlace::all(grey),
        light: LIGHT,
        colours: vec![],
    }
}

fn undressed(intent: Intent) -> Scheme {
    // Something else on each, so that none counts as the same finish.
    let worn = |n: u128| ZoneFinish::of(Finish::Strip { board: Uuid::from_u128(n), strip: A });
    let wears = Zone::ALL.into_iter().enumerate().map(|(n, zone)| (zone, worn(n as u128))).collect();
    Scheme { name: named("any"), wears, over: vec![], intent, pairs: vec![] }
}

fn meeting(one: Zone, other: Zone) -> Meeting {
    Meeting { zones: (one, other), length: 1.0 }
}

#[test]
fn neighbours_that_fight_are_told_first_and_the_odd_one_is_named() {
    let zones = [
        colour(Zone::Case, 45.0, -2.0, -8.0, 2.0),
        colour(Zone::Drawers, 50.0, -2.0, -6.0, 1.0),
        colour(Zone::Mouldings, 85.0, 10.0, 30.0, 0.2),
        colour(Zone::Plinth, 42.0, -2.0, -8.0, 0.4),
    ];
    let meetings = [
        meeting(Zone::Case, Zone::Drawers),
        meeting(Zone::Case, Zone::Mouldings),
        meeting(Zone::Case, Zone::Plinth),
        meeting(Zone::Drawers, Zone::Mouldings),
    ];
    let windows = Windows::default();
    let now = pairs(&zones, &meetings, &undressed(Intent::Quiet), &windows);
    assert_eq!(now.iter().filter(|pair| pair.stands() == Stands::Far).count(), 2);
    let found = findings(&zones, &now, Units::Metric);
    assert!(found[0].what.contains("mouldings") && found[0].what.contains("clash"), "{found:?}");
    assert!(found[0].from.contains("quiet allows at most 24"), "{}", found[0].from);
    assert!(found.iter().any(|finding| finding.what == "The odd one out: mouldings"), "{found:?}");
    assert!(found.iter().any(|finding| finding.what == "Slightly cool"), "{found:?}");
    // Meant to be bold, the same pairs stand in their window, and what is nearly alike runs together.
    let bold = pairs(&zones, &meetings, &undressed(Intent::Bold), &windows);
    assert!(bold.iter().any(|pair| pair.stands() == Stands::Near));
    assert!(bold.iter().filter(|pair| pair.contrast > 24.0).all(|pair| pair.stands() == Stands::In));
    // One pair may be meant otherwise.
    let mut scheme = undressed(Intent::Quiet);
    scheme.pairs = vec![PairIntent { one: Zone::Mouldings, other: Zone::Case, intent: Intent::Bold }];
    let own = pairs(&zones, &meetings, &scheme, &windows);
    assert_eq!(own.iter().filter(|pair| pair.stands() == Stands::Far).count(), 1);
}

#[test]
fn many_hues_a_large_accent_and_a_hollow_that_is_light_are_said() {
    let zones = [
        colour(Zone::Case, 60.0, 30.0, 10.0, 1.0),
        colour(Zone::Drawers, 60.0, -30.0, 10.0, 0.9),
        colour(Zone::Top, 60.0, 0.0, -35.0, 0.8),
        colour(Zone::Plinth, 80.0, 5.0, 60.0, 0.7),
    ];
    let said = findings(&zones, &[], Units::Metric);
    assert!(said.iter().any(|finding| finding.what.contains("Too many hues")), "{said:?}");
    assert!(said.iter().any(|finding| finding.what.contains("No colour leads")), "{said:?}");
    let mut hollow = colour(Zone::Panels, 50.0, 0.0, 0.0, 1.0);
    hollow.places.recess = warm_blend_spectral::Reflectance::grey(0.5);
    let said = findings(&[hollow], &[], Units::Metric);
    assert!(said.iter().any(|finding| finding.what.contains("inside out")), "{said:?}");
}

/// Bare parts are no part of what is painted; what is shown adds up.
#[test]
fn shares_are_of_what_is_painted() {
    let mut zones = [
        colour(Zone::Case, 45.0, -2.0, -8.0, 1.0),
        colour(Zone::Drawers, 85.0, 2.0, 10.0, 1.0),
        colour(Zone::Mouldings, 30.0, 20.0, 15.0, 1.0),
        colour(Zone::Top, 35.0, 12.0, 18.0, 5.0),
    ];
    zones[3].painted = false;
    let said = findings(&zones, &[], Units::Metric);
    let balance = said.iter().find(|finding| finding.about == About::Balance).unwrap();
    assert_eq!(balance.from, "share of the painted area: 34 %, 33 %, 33 %");
}

#[test]
fn a_paint_in_several_parts_ties_them() {
    let [blue, white] = [1, 2].map(|n| warm_blend_paint::PaintId(Uuid::from_u128(n)));
    let name = |paint| if paint == blue { "slate blue".to_owned() } else { "oat white".to_owned() };
    let tied = shared_paint(&[(Zone::Case, vec![blue]), (Zone::Drawers, vec![white, blue])], name).unwrap();
    assert_eq!((tied.what.as_str(), tied.weight), ("Slate blue ties them together", 0.0));
    let apart = shared_paint(&[(Zone::Case, vec![blue]), (Zone::Drawers, vec![white])], name).unwrap();
    assert!(apart.weight > 0.0 && apart.what.contains("No paint"));
    assert_eq!(shared_paint(&[(Zone::Case, vec![blue])], name), None);
}

/// What is put over a dressed zone lies below its wax, and age above.
#[test]
fn a_wash_goes_below_the_wax() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let wash = Layer::new(Technique::WashPatted, pot(&[(WHITE, 1)]));
    let mut scheme = room.over(wash);
    scheme.wears.get_mut(&Zone::Case).unwrap().ageing =
        Ageing { grime: Share::new(0.5).unwrap(), wear: Share::new(0.2).unwrap(), ..Ageing::default() };
    let dressed = room
        .with(|wardrobe| wardrobe.dress(Zone::Case, &scheme, room.piece.ground, &scheme.over, None))
        .unwrap();
    use warm_blend_piece::Mark::{Aged, By};
    let marks = [
        By(Technique::BrushedCoat),
        By(Technique::WashPatted),
        Aged(Age::Wear),
        By(Technique::ClearWax),
        Aged(Age::Grime),
    ];
    assert_eq!(dressed.coats[0].marks, marks);
    assert_eq!(dressed.main, pot(&[(BROWN, 1)]));
}

/// Sides of which nothing is said wear what the case does, wear and grime too, but not its pattern; their own finish stands.
#[test]
fn a_finish_is_carried_round() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let mut scheme = room.piece.scheme().unwrap().clone();
    let stencil = Stencil::new(Motif::Ring, 40.0, pot(&[(WHITE, 1)]));
    let worn = Ageing { wear: Share::new(0.5).unwrap(), ..Ageing::default() };
    scheme.wears.entry(Zone::Case).and_modify(|case| (case.ageing, case.stencil) = (worn, Some(stencil)));
    assert_eq!(scheme.dress(Zone::Sides).map(|sides| sides.ageing), Some(Ageing::default()));
    scheme.wears.remove(&Zone::Sides);
    assert_eq!(scheme.dress(Zone::Sides).map(|sides| sides.ageing), Some(worn));
    assert_eq!(scheme.stencil(Zone::Sides), None);
    // A drawer is no side: of it something must be said.
    scheme.wears.remove(&Zone::Drawers);
    assert_eq!(scheme.dress(Zone::Drawers), None);
    let marks = |scheme: &Scheme| {
        let dress =
            |wardrobe: &FinishContext| wardrobe.dress(Zone::Sides, scheme, room.piece.ground, &[], None);
        room.with(dress).unwrap().coats[0].marks.clone()
    };
    assert!(marks(&scheme).contains(&warm_blend_piece::Mark::Aged(Age::Wear)));
    scheme.wears.insert(Zone::Sides, ZoneFinish::of(Finish::Bare));
    assert_eq!(marks(&scheme), []);
}

/// A pattern changes a zone by what its motifs take of it: from across the room by no more than its share of a coat does.
#[test]
fn a_pattern_counts_by_its_share() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let seen = |size: f64| {
        let mut scheme = room.piece.scheme().unwrap().clone();
        let stencil = Stencil::new(Motif::Lozenge, size, pot(&[(OXBLOOD, 1)]));
        let drawers = scheme.wears.get_mut(&Zone::Drawers).unwrap();
        drawers.stencil = (size > 0.0).then_some(stencil);
        let (zones, ..) = room.zones(&scheme);
        zones.into_iter().find(|seen| seen.zone == Zone::Drawers).unwrap()
    };
    let plain = seen(0.0);
    let (small, large) = (seen(40.0), seen(120.0));
    let off = |zone: &ZoneSeen| difference(zone.lab, plain.lab).value();
    assert!(
        0.3 < off(&small) && off(&small) < off(&large) && off(&large) < 30.0,
        "{} {}",
        off(&small),
        off(&large)
    );
    // Recesses and edges stay as they are.
    for place in [Place::Recess, Place::Edge] {
        assert!(difference(large.place(place), plain.place(place)).value() < 1e-6);
    }
    assert!(large.colours.len() > plain.colours.len(), "{:?}", large.colours);
    let spoken = room.piece.clone();
    let mut with = spoken.clone();
    let stencil = Stencil::new(Motif::Ring, 40.0, pot(&[(WHITE, 1)]));
    with.schemes[0].wears.get_mut(&Zone::Drawers).unwrap().stencil = Some(stencil);
    let [white, cream] = [WHITE, CREAM].map(|n| warm_blend_paint::PaintId(Uuid::from_u128(n)));
    assert!(with.paints().contains(&white) && !spoken.paints().contains(&white));
    assert!(with.with_paint_replaced(white, cream).paints().contains(&cream));
}

/// Plain paint looks like a blend from a colour to itself, can be shifted like the main colour of a board, and is laid on in two coats.
#[test]
fn plain_paint_needs_no_board() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let in_finish = |wears: Finish, main: Option<&[MixPart]>| {
        let mut scheme = room.piece.scheme().unwrap().clone();
        scheme.wears.insert(Zone::Case, ZoneFinish::of(wears));
        room.with(|context| {
            let dressed = context.dress(Zone::Case, &scheme, room.piece.ground, &[], main).unwrap();
            let laid_on = context.laid_on(Zone::Case, &scheme, room.piece.ground).unwrap();
            (dressed, laid_on)
        })
    };
    let oxblood = pot(&[(OXBLOOD, 1)]);
    let paint = Finish::Paint { pot: oxblood.clone() };
    let (plain, laid_on) = in_finish(paint.clone(), None);
    let bands = [0.0, 1.0].map(|at| Band { pot: oxblood.clone(), at }).into();
    let (blended, _) = in_finish(Finish::Blend { way: BlendDirection::Down, bands }, None);
    let from_afar = |zone: &FinishedZone| {
        let stack = &zone.coats[0].stack;
        warm_blend_board::lab(&stack.seen(Place::Field, stack.len(), FilmState::Dry).from_afar(), LIGHT)
    };
    assert_eq!(from_afar(&plain), from_afar(&blended));
    assert!(plain.painted && plain.main == oxblood);
    let [layer] = laid_on.layers.as_slice() else { panic!("{:?}", laid_on.layers) };
    assert_eq!((layer.technique, layer.hand.passes), (Technique::BrushedCoat, Passes::new(2).unwrap()));

    let (cream, _) = in_finish(paint.clone(), Some(&pot(&[(CREAM, 1)])));
    let of_cream = in_finish(Finish::Paint { pot: pot(&[(CREAM, 1)]) }, None).0;
    assert_eq!(from_afar(&cream), from_afar(&of_cream));
    assert!(difference(from_afar(&cream), from_afar(&plain)).value() > 5.0);

    let mut piece = room.piece.clone();
    piece.schemes[0].wears.insert(Zone::Case, ZoneFinish::of(paint));
    let [was, is] = [OXBLOOD, WHITE].map(|n| warm_blend_paint::PaintId(Uuid::from_u128(n)));
    assert!(piece.paints().contains(&was));
    let piece = piece.with_paint_replaced(was, is);
    assert!(piece.paints().contains(&is) && !piece.paints().contains(&was));
}

#[test]
fn what_cannot_be_worn_says_why() {
    let mut room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let dress = |room: &Room, wears: Finish| {
        let mut scheme = room.piece.scheme().unwrap().clone();
        scheme.wears.insert(Zone::Case, ZoneFinish::of(wears));
        room.with(|wardrobe| wardrobe.dress(Zone::Case, &scheme, room.piece.ground, &[], None)).map(|_| ())
    };
    let gone = Finish::Strip { board: Uuid::from_u128(77), strip: A };
    assert_eq!(dress(&room, gone), Err(BadFinish::NoBoard));
    let strip = Finish::Strip { board: Uuid::from_u128(0), strip: warm_blend_board::Letter::ALL[4] };
    assert!(dress(&room, strip).unwrap_err().to_string().contains("no longer has a strip E"));
    let band = |of: &[(u128, u32)], at| Band { pot: pot(of), at };
    let blend = |bands| Finish::Blend { way: BlendDirection::Down, bands };
    assert_eq!(dress(&room, blend(vec![band(&[(CREAM, 1)], 0.0)])), Err(BadFinish::Colours(1)));
    let turned = vec![band(&[(CREAM, 1)], 0.8), band(&[(BROWN, 1)], 0.1)];
    assert_eq!(dress(&room, blend(turned)), Err(BadFinish::Order));
    let empty = vec![band(&[(CREAM, 1)], 0.0), band(&[], 1.0)];
    assert_eq!(dress(&room, blend(empty)), Err(BadFinish::EmptyPot));
    assert_eq!(dress(&room, Finish::Paint { pot: Vec::new() }), Err(BadFinish::EmptyPot));
    // A zone with no neighbours, a piece with nothing on: nothing is off, nothing is searched.
    room.piece.schemes[0].wears.clear();
    assert!(room.pairs(room.piece.scheme().unwrap()).iter().all(|pair| pair.stands() == Stands::In));
    let none = room.looked(|looked| {
        room.with(|wardrobe| unify(looked, wardrobe, &room.shelf.on(), |_| ControlFlow::Continue(())))
    });
    assert_eq!(none, Ok(vec![]));
}

/// The middle of a blend is the engine's own mix of its ends.
#[test]
fn the_middle_of_a_blend_is_the_mix() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let bands = [Band { pot: pot(&[(CREAM, 1)]), at: 0.0 }, Band { pot: pot(&[(OXBLOOD, 1)]), at: 1.0 }];
    let sorted = |mut pot: Vec<MixPart>| {
        pot.sort_by_key(|part| part.paint);
        pot
    };
    assert_eq!(blended(&bands, 0.5).map(sorted), Some(sorted(pot(&[(CREAM, 1), (OXBLOOD, 1)]))));
    assert_eq!(blended(&bands, 0.0), Some(pot(&[(CREAM, 1)])));
    assert_eq!(blended(&bands, 1.0), Some(pot(&[(OXBLOOD, 1)])));
    assert_eq!(blended(&bands, 0.25).map(sorted), Some(sorted(pot(&[(CREAM, 3), (OXBLOOD, 1)]))));
    let mut scheme = room.piece.scheme().unwrap().clone();
    let wears = Finish::Blend { way: BlendDirection::Down, bands: bands.to_vec() };
    scheme.wears.insert(Zone::Case, ZoneFinish::of(wears));
    let ground = Ground::of(GroundKind::WhitePrimer);
    let dressed = room.with(|wardrobe| wardrobe.dress(Zone::Case, &scheme, ground, &[], None)).unwrap();
    let tin = |n: u128| room.shelf.tin(warm_blend_paint::PaintId(Uuid::from_u128(n))).unwrap().material;
    let one = Parts::new(1.0).unwrap();
    let half = mix(&[(one, tin(CREAM)), (one, tin(OXBLOOD))]).unwrap();
    let middle = &dressed.coats[dressed.coats.len() / 2].stack;
    assert_eq!(middle.material(0), Some(&half));
}

#[test]
fn two_pots_are_poured_together_by_parts() {
    let one = pot(&[(CREAM, 3), (BROWN, 1)]);
    let other = pot(&[(OXBLOOD, 1)]);
    // Three of 4 parts to one of 1: ¾ of the first, so 9/16 cream, 3/16 brown, 4/16 oxblood.
    let mixed = poured_together(&one, 3, &other, 1).unwrap();
    let parts: BTreeMap<u128, u32> =
        mixed.iter().map(|part| (part.paint.0.as_u128(), part.parts.value())).collect();
    assert_eq!(parts, BTreeMap::from([(CREAM, 9), (BROWN, 3), (OXBLOOD, 4)]));
    assert_eq!(poured_together(&pot(&[(CREAM, 999)]), u32::MAX, &other, 2), None);
}

/// A whole shelf of treatments is tried: the best is the best of a plain loop over all of them and all sets of zones.
#[test]
fn unify_finds_what_trying_everything_finds() {
    for (case, drawers) in [(BROWN, CREAM), (OXBLOOD, WHITE), (CREAM, OXBLOOD)] {
        let room = Room::new(&[(case, 1)], &[(drawers, 1)]);
        let shelf: Vec<OnShelf> = room.shelf.on();
        let scheme = room.piece.scheme().unwrap();
        let before = room.pairs(scheme);
        let off = |pairs: &[Pair]| pairs.iter().map(Pair::off).sum::<f64>();
        assert!(off(&before) > 0.0);
        let ways = room
            .looked(|looked| {
                room.with(|wardrobe| unify(looked, wardrobe, &shelf, |_| ControlFlow::Continue(())))
            })
            .unwrap();
        let best = &ways[0];
        let said = |scheme: &Scheme| {
            let (zones, meetings, places) = room.zones(scheme);
            let look = (LIGHT, FilmState::Dry);
            let (piece, zones, places, meetings) = (&room.piece, &zones[..], &places, &meetings[..]);
            Looked { piece, scheme, zones, places, meetings, look }.findings(Units::Metric)
        };
        let said_before = said(scheme);
        // Faults but for pairs in this light, as far as they go beyond those from earlier versions.
        let amiss = |scheme: &Scheme| -> f64 {
            let new = said(scheme).into_iter().filter(|then| then.about != About::Pair).map(|then| {
                let whole = matches!(then.about, About::OddOneOut | About::Hues | About::Balance);
                let same = said_before
                    .iter()
                    .filter(|was| was.about == then.about && (whole || was.zones == then.zones));
                then.weight - same.map(|was| was.weight).fold(0.0, f64::max)
            });
            new.filter(|beyond| *beyond > 0.5).sum()
        };
        let seen_before = room.zones(scheme).0;
        let muddies = |scheme: &Scheme| {
            let wash = scheme.over[0].layer.pot[0].paint;
            let wash = shelf.iter().find(|tin| tin.paint == wash).unwrap().lab;
            let zones: Vec<Washed> = seen_before
                .iter()
                .zip(room.zones(scheme).0)
                .filter(|(seen, _)| seen.painted)
                .map(|(seen, then)| Washed { area: seen.extent.area, before: seen.lab, after: then.lab })
                .collect();
            let pairs: Vec<(Pair, Pair)> = before.iter().cloned().zip(room.pairs(scheme)).collect();
            mud(&zones, wash, &pairs)
        };
        // What it says of itself is what dressing the piece in it gives.
        let then = room.pairs(&Scheme { over: vec![best.over.clone()], ..scheme.clone() });
        assert!((off(&then) - best.off).abs() < 1e-9);
        assert!(
            (amiss(&Scheme { over: vec![best.over.clone()], ..scheme.clone() }) - best.amiss).abs() < 1e-9
        );
        for (answer, seen) in best.pairs.iter().zip(&then) {
            assert!((answer.contrast - seen.contrast).abs() < 1e-9);
        }
        // No way leaves a pair worse without saying so.
        for way in &ways {
            for (pair, now) in way.pairs.iter().zip(&before) {
                assert_eq!(way.worse.contains(&pair.zones), pair.off() > now.off() + 1e-9);
            }
        }
        let everywhere: Vec<Zone> = scheme.wears.keys().copied().collect();
        let sets = std::iter::once(everywhere.clone()).chain([
            vec![Zone::Case, Zone::Drawers],
            vec![Zone::Drawers],
            vec![Zone::Case],
        ]);
        for set in sets {
            for layer in treatments(&shelf) {
                let over = vec![Over { layer, zones: set.clone() }];
                let scheme = Scheme { over, ..scheme.clone() };
                let left = off(&room.pairs(&scheme)) + amiss(&scheme) + muddies(&scheme);
                assert!(left >= best.amount() - 1e-9, "{set:?} leaves {left}, the best {}", best.amount());
            }
        }
    }
}

/// A vivid orange, green and blue piece with stark cream details: what is proposed first is a pale wash over everything, not the strongest
/// colour on the shelf (common practice).
#[test]
fn unify_never_makes_mud() {
    const ORANGE: u128 = 20;
    const GREEN: u128 = 21;
    const BLUE: u128 = 22;
    const GREY: u128 = 23;
    let mut room = Room::new(&[(BLUE, 1)], &[(ORANGE, 1)]);
    for (n, code) in
        [(ORANGE, [226, 120, 44]), (GREEN, [64, 142, 84]), (BLUE, [44, 92, 168]), (GREY, [150, 150, 146])]
    {
        room.shelf.add(n, Class::Chalk, code);
    }
    for (n, paint) in [(2, GREEN), (3, CREAM)] {
        assert_eq!(room.boards.len(), n);
        room.boards.push(coated(GroundKind::WhitePrimer, &[(paint, 1)]));
    }
    let worn = |n: u128| ZoneFinish::of(Finish::Strip { board: Uuid::from_u128(n), strip: A });
    let scheme = &mut room.piece.schemes[0];
    scheme.wears.insert(Zone::Top, worn(2));
    scheme.wears.insert(Zone::Plinth, worn(3));
    scheme.wears.insert(Zone::Hardware, worn(3));
    let shelf = room.shelf.on();
    let ways = room
        .looked(|looked| room.with(|wardrobe| unify(looked, wardrobe, &shelf, |_| ControlFlow::Continue(()))))
        .unwrap();
    for way in &ways[..3] {
        let wash = way.over.layer.pot[0].paint;
        let lab = shelf.iter().find(|tin| tin.paint == wash).unwrap().lab;
        let pale_or_grey = lab.chroma() < 10.0 || lab.chroma() < 20.0 && lab.l > 55.0;
        assert!(pale_or_grey, "{:?} in {lab:?}", way.over.layer.technique);
    }
    assert!(ways[0].over.zones.is_empty(), "over everything: {:?}", ways[0].over.zones);
    let pale = treatments(&shelf).into_iter().filter(|layer| layer.pot[0].paint.0.as_u128() == CREAM).count();
    assert!(pale >= 12, "{pale} strengths of cream");
}

/// Where nothing is in doubt, what is expected is what comes out, and the list is the same. Where the tins may be others, what is expected
/// is the mean of what each of those shelves would come to, found by dressing the piece there; never less than what comes out.
#[test]
fn ways_are_ranked_by_what_is_expected_of_them() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let shelf = room.shelf.on();
    // On another plausible shelf all paints are much weaker.
    let mut other = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    other.shelf = other.shelf.stronger(0.15);
    let found = |rooms: &[&Room]| {
        let plausible = |visit: &mut Visit| {
            rooms.iter().try_for_each(|room| {
                room.looked(|looked| room.with(|wardrobe| visit(looked, wardrobe))).map(drop)
            })
        };
        let go_on = |_| ControlFlow::Continue(());
        room.looked(|looked| room.with(|wardrobe| unify_likely(looked, wardrobe, &shelf, &plausible, go_on)))
            .unwrap()
    };
    let sure = found(&[]);
    // Layers have new names each time.
    let figures = |ways: &[Unified]| {
        let of =
            |way: &Unified| (way.over.layer.technique, way.over.layer.pot.clone(), way.expected, way.moved);
        ways.iter().map(of).collect::<Vec<_>>()
    };
    assert_eq!(figures(&found(&[&room, &room])), figures(&sure));
    assert!(sure.iter().all(|way| way.expected == way.amount()), "{sure:?}");

    let doubtful = found(&[&room, &other]);
    assert!(doubtful.iter().any(|way| way.expected > way.amount() + 0.5), "{doubtful:?}");
    let steps: Vec<f64> = doubtful.iter().map(|way| (2.0 * way.expected).round()).collect();
    assert!(steps.is_sorted(), "{steps:?}");
    for way in &doubtful {
        let mut scheme = other.piece.scheme().unwrap().clone();
        scheme.over.push(way.over.clone());
        let off: f64 = other.pairs(&scheme).iter().map(Pair::off).sum();
        // Mud and other faults come on top of pairs.
        assert!(way.expected >= way.amount().max(0.5 * (way.off + off)) - 1e-6, "{way:?}: {off}");
    }
}

#[test]
fn a_search_can_be_stopped() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let mut heard = 0;
    room.looked(|looked| {
        room.with(|wardrobe| {
            unify(looked, wardrobe, &room.shelf.on(), |searched| {
                heard += 1;
                assert!(searched.done > 0.0 && searched.done < 1.0);
                ControlFlow::Break(())
            })
        })
    })
    .unwrap();
    assert_eq!(heard, 1);
}

/// The colour of one part mixed towards the other's brings them as near as they are meant to be, and no less is needed.
#[test]
fn a_colour_is_pulled_just_far_enough() {
    let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
    let found = room.looked(|looked| room.with(|wardrobe| pulls(looked, wardrobe))).unwrap();
    let pull = found
        .iter()
        .find(|pull| pull.zone == Zone::Drawers || pull.with == With::Neighbour(Zone::Drawers))
        .unwrap();
    assert!(pull.contrast.0 > 24.0 && pull.contrast.1 <= 24.0, "{pull:?}");
    let (own, more) = pull.parts;
    assert!(own >= more);
}

/// A strong colour is calmed with the paint that does it for the least; what it says comes out of dressing the zone in that pot.
#[test]
fn a_loud_part_is_calmed() {
    let mut room = Room::new(&[(CREAM, 1)], &[(OXBLOOD, 1)]);
    let shelf = room.shelf.on();
    // Wide enough for a calmer red, not for this one.
    let contrasts = room.pairs(room.piece.scheme().unwrap()).into_iter().map(|pair| pair.contrast);
    let most = contrasts.fold(0.0, f64::max) - 3.0;
    room.piece.windows.quiet = (0.0, most);
    let found = room.looked(|looked| room.with(|wardrobe| calms(looked, wardrobe, &shelf))).unwrap();
    let scheme = room.piece.scheme().unwrap();
    let (zones, _, places) = room.zones(scheme);
    let lab = |zone| zones.iter().find(|seen| seen.zone == zone).unwrap().lab;
    assert!(!found.is_empty());
    for calm in &found {
        assert!([Zone::Drawers, Zone::Hardware].contains(&calm.zone), "{calm:?}");
        let With::Paint(paint) = calm.with else { panic!("{calm:?}") };
        assert!(calm.pot.iter().any(|part| part.paint == paint));
        let dressed =
            room.with(|wardrobe| wardrobe.dress(calm.zone, scheme, room.piece.ground, &[], Some(&calm.pot)));
        let seen = dressed.unwrap().lab(&places[&calm.zone], LIGHT, FilmState::Dry);
        assert!(seen.chroma() < lab(calm.zone).chroma() - 2.0);
        assert!(calm.contrast.1 <= most && calm.contrast.0 > most);
    }
}

/// Metallics are tried as gilding, as a shimmer and in the wax, and only so.
#[test]
fn metallics_are_put_on_as_metallics_are() {
    let shelf = [Class::Metallic, Class::Chalk, Class::ClearWax].into_iter().enumerate();
    let on = |(n, class): (usize, Class)| OnShelf {
        paint: warm_blend_paint::PaintId(Uuid::from_u128(n as u128)),
        class,
        lab: Lab { l: 60.0, a: 5.0, b: 30.0 },
        left: 100.0,
    };
    let layers = treatments(&shelf.map(on).collect::<Vec<_>>());
    let techniques = |n: u128| -> Vec<Technique> {
        let of = layers.iter().filter(|layer| layer.pot[0].paint.0.as_u128() == n);
        of.map(|layer| layer.technique).collect()
    };
    use Technique::{Gilding, MetallicWash, TintedWax};
    assert_eq!(techniques(0), [Gilding, MetallicWash, TintedWax, TintedWax]);
    assert!(!techniques(1).contains(&Gilding) && techniques(1).contains(&Technique::WashWiped));
}

fn any_colour() -> impl Strategy<Value = (f64, f64, f64)> {
    (10.0..95.0f64, -40.0..40.0f64, -40.0..50.0f64)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Which of the two is named first makes no difference, and what looks the same is never off.
    #[test]
    fn a_pair_is_one_from_both_sides(one in any_colour(), other in any_colour(), intent in 0usize..3) {
        let dot = |zone, (l, a, b): (f64, f64, f64)| colour(zone, l, a, b, 1.0);
        let scheme = undressed(Intent::ALL[intent]);
        let met = [meeting(Zone::Case, Zone::Drawers)];
        let windows = Windows::default();
        let there = pairs(&[dot(Zone::Case, one), dot(Zone::Drawers, other)], &met, &scheme, &windows);
        let back = pairs(&[dot(Zone::Drawers, one), dot(Zone::Case, other)], &met, &scheme, &windows);
        prop_assert!((there[0].contrast - back[0].contrast).abs() < 1e-9);
        prop_assert_eq!(there[0].stands(), back[0].stands());
        let same = pairs(&[dot(Zone::Case, one), dot(Zone::Drawers, one)], &met, &scheme, &windows);
        prop_assert_eq!(same[0].stands(), Stands::In);
        prop_assert!(there[0].off() >= 0.0);
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// A closed film, alike at every place, over everything never adds contrast, and one that hides leaves none.
    #[test]
    fn a_wash_over_everything_mutes(case in 0usize..4, drawers in 0usize..4, over in 0usize..4, passes in 1u8..4, medium in 0u32..5) {
        const COLOURS: [u128; 4] = [CREAM, BROWN, WHITE, OXBLOOD];
        let room = Room::new(&[(COLOURS[case], 1)], &[(COLOURS[drawers], 1)]);
        let before = &room.pairs(room.piece.scheme().unwrap());
        let mean = |pairs: &[Pair]| pairs.iter().map(|pair| pair.contrast).sum::<f64>() / pairs.len() as f64;
        let mut of = vec![(COLOURS[over], 1)];
        if medium > 0 {
            of.push((GLAZING_LIQUID, medium));
        }
        let mut wash = Layer::new(Technique::RolledCoat, pot(&of));
        let film = ByPlace::all(Deposit::film(20.0 * f64::from(passes)).unwrap());
        wash.print = Some(Deposit { film, cover: ByPlace::all(Share::WHOLE) });
        let after = room.pairs(&room.over(wash));
        prop_assert!(mean(&after) <= mean(before) + 0.05, "{} from {}", mean(&after), mean(before));
        let mut hiding = Layer::new(Technique::BrushedCoat, pot(&[(COLOURS[over], 1)]));
        hiding.hand.passes = Passes::new(9).unwrap();
        prop_assert!(mean(&room.pairs(&room.over(hiding))) < 0.1);
    }

    /// More of any ageing that lays a film never brings a zone back towards what it was.
    #[test]
    fn age_only_adds_up(age in 1usize..5, amount in 0.05..0.5f64) {
        let room = Room::new(&[(BROWN, 1)], &[(CREAM, 1)]);
        let share = |amount: f64| Share::new(amount).unwrap();
        let seen = |amount: f64| {
            let mut ageing = Ageing::default();
            match Age::ALL[age] {
                Age::SunFade => ageing.fade = share(amount),
                Age::WaterMarks => ageing.water = share(amount),
                Age::Verdigris => ageing.verdigris = share(amount),
                _ => ageing.grime = share(amount),
            }
            let mut scheme = room.piece.scheme().unwrap().clone();
            scheme.wears.get_mut(&Zone::Case).unwrap().ageing = ageing;
            room.zones(&scheme).0.into_iter().find(|seen| seen.zone == Zone::Case).unwrap().lab
        };
        let (none, some, more) = (seen(0.0), seen(amount), seen(2.0 * amount));
        prop_assert!(difference(none, more).value() >= difference(none, some).value() - 1e-6);
        prop_assert!(difference(none, some).value() > 0.0);
    }
}

#[test]
fn a_shelf_without_mediums_still_makes_washes() {
    let shelf = Shelf::default().without(Class::GlazingLiquid).without(Class::ClearWax);
    let layers = treatments(&shelf.on());
    assert!(!layers.is_empty() && layers.iter().all(|layer| layer.pot.len() == 1));
    let full = treatments(&Shelf::default().on());
    assert!(full.iter().any(|layer| layer.pot.iter().any(|part| part.paint.0.as_u128() == CLEAR_WAX)));
    assert!(treatments(&[]).is_empty());
}

/// A piece that was read, as from a request, says where it cannot be; documents from earlier versions are read.
#[test]
fn a_piece_that_was_read_says_where_it_cannot_be() {
    let mut sound = serde_json::to_value(&Room::new(&[(1, 1)], &[(0, 1)]).piece).unwrap();
    let at = |at: &str, field: &str, value: serde_json::Value| {
        let mut document = sound.clone();
        document.pointer_mut(at).unwrap()[field] = value;
        serde_json::from_value::<Piece>(document).unwrap().check().map_err(|error| error.pointer)
    };
    let loud = serde_json::json!({"lab": [50.0, 150.0, 150.0]});
    let stencil = serde_json::json!({"motif": "ring", "size": 4.0, "pot": []});
    for (of, field, value, pointer) in [
        ("/ground", "colour", loud.clone(), "/ground/colour"),
        ("/brief", "targets", serde_json::json!([loud]), "/brief/targets/0"),
        ("/brief", "hours", serde_json::json!(-1.0), "/brief/hours"),
        ("/schemes/0/wears/top", "stencil", stencil, "/schemes/0/wears/top/stencil"),
        (
            "/schemes/0/wears/case",
            "ground",
            serde_json::json!({"kind": "old-paint", "colour": loud}),
            "/schemes/0/wears/case/ground/colour",
        ),
    ] {
        assert_eq!(at(of, field, value), Err(pointer.to_owned()));
    }
    assert_eq!(at("", "chosen", serde_json::json!(0)), Ok(()));
    // A blank is nothing said, and pairs stood without names in documents from earlier versions.
    sound["brief"] = serde_json::json!({"client": " ", "mood": "", "due": ""});
    sound["schemes"][0]["pairs"] = serde_json::json!([["top", "case", "bold"]]);
    let of_before: Piece = serde_json::from_value(sound).unwrap();
    assert_eq!((of_before.brief.client, of_before.brief.due), (None, None));
    let pair = PairIntent { one: Zone::Top, other: Zone::Case, intent: Intent::Bold };
    assert_eq!(of_before.schemes[0].pairs, [pair]);
}
