//! What guides a painter: the first hour, terms, colours by eye, and why a prediction is what it is.

use proptest::prelude::*;
use std::collections::{BTreeMap, HashSet};
use warm_blend_documents::{Documents, Workshop};
use warm_blend_learn::{Ensemble, Estimate, OfShelf, Reading, ShelfPaint};
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Class, Look, MixId, Name, PaintId, Parts, Units, mix as stir};
use warm_blend_piece::{Finish, Intent, Piece, PieceKind, Zone, ZoneFinish};
use warm_blend_spectral::{Lab, Srgb, difference};
use warm_blend_workshop::{FirstHour, FirstStep, MadeSoFar, NeighboursAsked, Room, chart, scheme_of};

use crate::pile::*;

/// An empty shelf with its settings.
fn empty() -> Pile {
    let mut pile = Pile::default();
    pile.put(id(100), Workshop::default());
    pile
}

fn done(pile: &Pile, made: MadeSoFar) -> Vec<bool> {
    let hour = FirstHour::of(&pile.shelf(), made, jiff::Timestamp::UNIX_EPOCH);
    hour.steps.iter().map(|step| step.done).collect()
}

#[test]
fn the_first_hour_knows_what_is_done() {
    let nothing = done(&empty(), MadeSoFar::default());
    assert!(nothing.iter().all(|done| !done), "{nothing:?}");
    let mut pile = pile();
    assert_eq!(done(&pile, MadeSoFar::default()), [true, true, true, false, false, false, false, false]);
    pile.put(id(300), reading(&[(BLUE, 1.0), (WHITE, 1.0)], Lab { l: 60.0, a: -3.0, b: -12.0 }));
    let mixed = mix(&[(BLUE, 1), (WHITE, 1)]);
    pile.put(id(200), mixed.clone());
    let pour = PourRecord::begin(MixId(id(200)), &mixed, Some(100.0)).unwrap();
    pile.put(id(400), pour.clone());
    let begun = MadeSoFar::of(&pile.all(), 0, &[], &[]);
    assert!(!begun.poured && !done(&pile, begun)[4]);
    let mut finished = pour;
    finished.finished_at = Some(jiff::Timestamp::UNIX_EPOCH);
    pile.put(id(400), finished);
    let finished = MadeSoFar::of(&pile.all(), 1, &[], &[]);
    assert_eq!(done(&pile, finished), [true, true, true, true, true, true, false, false]);
}

/// The steps are offered for a month, and as long as one is left.
#[test]
fn the_first_hour_is_offered_to_newcomers_only() {
    let offered = |pile: &Pile, made, hours: i64| {
        let now = jiff::Timestamp::UNIX_EPOCH + jiff::SignedDuration::from_hours(hours);
        FirstHour::of(&pile.shelf(), made, now).offered
    };
    let none = MadeSoFar::default();
    assert!(offered(&empty(), none, 9999) && offered(&pile(), none, 24));
    assert!(!offered(&pile(), none, 31 * 24));
    let mut all = pile();
    all.put(id(300), reading(&[(BLUE, 1.0), (WHITE, 1.0)], Lab { l: 60.0, a: -3.0, b: -12.0 }));
    let everything = MadeSoFar { poured: true, board: true, dressed: true, ticked: true };
    assert!(!offered(&all, everything, 1));
    let hour = FirstHour::of(&all.shelf(), everything, jiff::Timestamp::UNIX_EPOCH);
    assert_eq!(hour.steps.first().map(|step| step.step), Some(FirstStep::White));
}

/// Only a white becomes the house white, only where there is none, and only where that is wanted.
#[test]
fn the_first_white_becomes_the_house_white() {
    let white = || paint("lime white", Class::Chalk, "#f1eee4");
    let add = |pile: &mut Pile, tin: ShelfPaint, may: bool| {
        let kept = pile.shelf().add_tin(pile, tin, may).unwrap();
        pile.workshop().value.house_white == Some(PaintId(kept.id))
    };
    let mut pile = empty();
    assert!(!add(&mut pile, paint("harbour", Class::Chalk, "#2f4b66"), true));
    assert!(!add(&mut pile, paint("mist", Class::Chalk, "#b4cad6"), true));
    assert!(!add(&mut pile, white(), false));
    assert!(!add(&mut pile, medium("water", Class::Water, 100.0), true));
    assert!(add(&mut pile, white(), true));
    assert!(!add(&mut pile, white(), true), "there is one already");
    // The choice goes with its tin.
    let chosen = pile.workshop().value.house_white.unwrap();
    Documents::remove::<ShelfPaint>(&mut pile, chosen.0, 1).unwrap();
    assert!(add(&mut pile, white(), true));
}

#[test]
fn every_term_is_two_sentences_and_a_picture() {
    for pile in [empty(), pile()] {
        let terms = pile.shelf().terms(None).unwrap();
        let names: HashSet<_> = terms.iter().map(|term| term.name).collect();
        assert_eq!(names.len(), terms.len());
        for term in &terms {
            assert_eq!(term.words.matches(['.', '?']).count(), 2, "{}: {}", term.name, term.words);
            let cells: Vec<&String> = term.panes.iter().flat_map(|pane| &pane.cells).collect();
            assert!(cells.iter().all(|hex| hex.parse::<Srgb>().is_ok()), "{}", term.name);
            // The band needs a tin in doubt; everything else is drawn without a shelf, too.
            assert!(!cells.is_empty() || term.name == "±", "{}", term.name);
        }
    }
}

/// The pictures show what the sentences claim, read back from the colours on the screen.
#[test]
fn the_pictures_show_what_is_said() {
    let terms = pile().shelf().terms(None).unwrap();
    let cells = |name: &str| -> Vec<Lab> {
        let term = terms.iter().find(|term| term.name == name).unwrap();
        term.panes
            .iter()
            .flat_map(|pane| &pane.cells)
            .map(|hex| hex.parse::<Srgb>().unwrap().to_lab())
            .collect()
    };
    let apart = |pair: &[Lab]| difference(pair[0], pair[1]).value();
    let pairs: Vec<f64> = cells("ΔE00").chunks(2).map(apart).collect();
    // Eight bits leave ±0.3.
    assert!(pairs.iter().zip([1.0, 3.0, 6.0]).all(|(shown, said)| (shown - said).abs() < 0.4), "{pairs:?}");
    let ladder = cells("shade");
    assert!(ladder.windows(2).all(|pair| (pair[1].l - pair[0].l - 6.0).abs() < 0.6), "{ladder:?}");
    let strength = cells("tint strength");
    assert!(strength[0].l + 5.0 < strength[1].l, "a strong tint is darker: {strength:?}");
    let coats = cells("coats to cover");
    assert!(coats[0].l < coats[1].l && coats[1].l < coats[2].l, "{coats:?}");
    let edge = cells("wet edge");
    assert!(apart(&edge[0..2]) < 0.01 && edge[4].l < edge[3].l, "the overlap is darker: {edge:?}");
    let mud = cells("mud");
    assert!(mud[2].chroma() < 0.6 * mud[0].chroma().min(mud[4].chroma()), "{mud:?}");
}

/// On the page of a paint, its own colour explains the masstone.
#[test]
fn a_paint_explains_itself() {
    let shelf = pile().shelf();
    let masstone = |paint| shelf.terms(paint).unwrap().remove(0).panes.remove(0).cells.remove(0);
    let yellow = masstone(Some(id(YELLOW))).parse::<Srgb>().unwrap().to_lab();
    assert!(difference(yellow, "#d8b45a".parse::<Srgb>().unwrap().to_lab()).value() < 1.0, "{yellow:?}");
    assert_eq!(masstone(Some(id(GLAZE))), masstone(None));
    assert_eq!(masstone(Some(id(77))), masstone(None));
}

#[test]
fn neighbours_differ_as_they_say() {
    let at = |hex: &str, fine| NeighboursAsked { hex: hex.to_owned(), fine }.neighbours().unwrap();
    for hex in ["#9a948a", "#2f4b66", "#d8b45a", "#efe2c0", "#3b3c3d"] {
        let own = hex.parse::<Srgb>().unwrap().to_lab();
        for fine in [true, false] {
            for neighbour in at(hex, fine) {
                let lab = neighbour.hex.parse::<Srgb>().unwrap().to_lab();
                let right = match neighbour.words {
                    "lighter" => lab.l > own.l,
                    "darker" => lab.l < own.l,
                    "redder" => lab.a > own.a,
                    "greener" => lab.a < own.a,
                    "yellower" => lab.b > own.b,
                    "bluer" => lab.b < own.b,
                    "greyer" => lab.chroma() < own.chroma(),
                    _ => lab.chroma() > own.chroma(),
                };
                assert!(right, "{} of {hex}: {}", neighbour.words, neighbour.hex);
            }
        }
    }
    assert_eq!(at("#9a948a", false).len(), 8);
    for bad in ["", "red", "#12345", "#ffffff\u{0}"] {
        let asked = NeighboursAsked { hex: bad.to_owned(), fine: false };
        assert_eq!(pointers(asked.neighbours()), ["/hex"], "{bad:?}");
    }
    let names: HashSet<_> = chart().into_iter().map(|row| row.name).collect();
    assert!(names.len() > 40 && names.contains("terracotta"));
}

#[test]
fn without_readings_it_rests_on_labels() {
    let shelf = pile().shelf();
    assert!(shelf.reasons(&mix(&[]), Look::default()).unwrap().is_none());
    let why = shelf.reasons(&mix(&[(BLUE, 1), (WHITE, 1)]), Look::default()).unwrap().unwrap();
    assert!(why.evidence.is_empty() && why.weighed == 0);
    assert!(why.words.contains("harbour") || why.words.contains("chimney white"), "{}", why.words);
    assert!(why.guesses.is_sorted_by(|one, other| one.within >= other.within));
    let next = why.next.expect("a test helps");
    assert!(next.within < 0.85 * why.within, "{} of {}", next.within, why.within);
}

/// What a test promises is about what it brings: the tint is read as it was expected, and the band is near the one promised.
#[test]
fn the_test_that_is_named_narrows_the_mix() {
    let mut pile = pile();
    let asked = mix(&[(BLUE, 1), (WHITE, 2)]);
    let before = pile.shelf();
    let why = before.reasons(&asked, Look::default()).unwrap().unwrap();
    let next = why.next.unwrap();
    assert_eq!(next.test, "tint-1-1", "{}", next.words);
    let part = |n| (Parts::new(1.0).unwrap(), before.paint(id(n)).unwrap().best());
    let tint = stir(&[part(BLUE), part(WHITE)]).unwrap().seen_lab(LIGHT);
    pile.put(id(300), reading(&[(BLUE, 1.0), (WHITE, 1.0)], tint));
    let after = pile.shelf().reasons(&asked, Look::default()).unwrap().unwrap();
    assert!(after.within < 0.7 * why.within, "{} after, {} before", after.within, why.within);
    assert!(after.within < 2.0 * next.within + 0.5, "{} after, {} promised", after.within, next.within);
    assert_eq!(after.evidence.first().map(|one| one.reading), Some(id(300)));
}

/// With a medium in the pot, what that does to the paint is named.
#[test]
fn a_medium_is_a_guess_of_its_own() {
    let why = pile().shelf().reasons(&mix(&[(BLUE, 1), (GLAZE, 4)]), Look::default()).unwrap().unwrap();
    assert!(why.guesses.iter().any(|guess| guess.paint.is_none()), "{:?}", why.guesses);
}

fn tin(pile: &Pile, n: u128) -> OfShelf {
    let white = pile.workshop().value.house_white == Some(PaintId(id(n)));
    let kept = pile.get::<ShelfPaint>(id(n)).unwrap();
    OfShelf { id: PaintId(id(n)), facts: kept.value.facts(white), at_hand: true }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 16, ..ProptestConfig::default() })]

    /// Against leaving out each reading and learning the shelf from nothing: the one that is named first
    /// changes the mix most, in colour or in its band.
    #[test]
    fn the_reading_that_matters_most_is_named(
        off in proptest::collection::vec((-4.0..4.0f64, 0usize..3, 1u32..4), 1..6),
        parts in (1u32..4, 1u32..4),
    ) {
        let mut pile = pile();
        let shelf = pile.shelf();
        for (n, (l, of, white)) in off.iter().enumerate() {
            let paint = [BLUE, BROWN, YELLOW][*of];
            let part = |n, parts| (Parts::new(parts).unwrap(), shelf.paint(id(n)).unwrap().best());
            let lab = stir(&[part(paint, 1.0), part(WHITE, f64::from(*white))]).unwrap().seen_lab(LIGHT);
            let read = Lab { l: lab.l + l, ..lab };
            pile.put(id(300 + n as u128), reading(&[(paint, 1.0), (WHITE, f64::from(*white))], read));
        }
        let shelf = pile.shelf();
        let asked = mix(&[(BLUE, parts.0), (WHITE, parts.1)]);
        let why = shelf.reasons(&asked, Look::default()).unwrap().unwrap();
        let tins: Vec<OfShelf> = [WHITE, BLUE, BROWN, BLACK, YELLOW, GLAZE, WAX].map(|n| tin(&pile, n)).into();
        let all: Vec<(uuid::Uuid, Reading<PaintId>)> =
            shelf.readings().map(|(kept, _)| (kept.id, kept.value.reading.clone())).collect();
        let learnt = |left_out: Option<uuid::Uuid>| {
            let read: Vec<_> = all.iter().filter(|(id, _)| Some(*id) != left_out).map(|(_, read)| read.clone()).collect();
            let known = Estimate::of(&tins, &read).unwrap();
            let of = [(BLUE, parts.0), (WHITE, parts.1)]
                .map(|(n, parts)| (Parts::new(f64::from(parts)).unwrap(), known.paint(PaintId(id(n))).unwrap()));
            let mixed = Ensemble::mix(&of).unwrap();
            (Look::default().face(mixed.best()).lab, mixed.within(|tin| Look::default().face(tin).lab))
        };
        let (colour, within) = learnt(None);
        let changes = |left_out| {
            let (without, wider) = learnt(Some(left_out));
            difference(without, colour).value().max(wider - within)
        };
        let judged: Vec<_> = shelf.readings().filter(|(_, judged)| judged.is_some_and(|it| !it.questioned)).collect();
        let most = judged.iter().map(|(kept, _)| changes(kept.id)).max_by(f64::total_cmp);
        match (most, why.evidence.first()) {
            (Some(most), Some(named)) => {
                let named = changes(named.reading);
                prop_assert!((named - most).abs() < 0.05, "{named} named, {most} found");
            }
            (Some(most), None) => prop_assert!(most < 0.15, "{most} found, none named"),
            (None, named) => prop_assert!(named.is_none()),
        }
    }
}

/// A stool in two plain paints whose contrast may be so much at most.
fn stool(most: f64) -> Piece {
    let mut piece = Piece::named(Name::new("stool").unwrap());
    piece.form = Some(PieceKind::Stool.usual());
    let mut scheme = scheme_of(&piece, None).unwrap();
    for (zone, paint) in [(Zone::Legs, BROWN), (Zone::Seat, BLUE)] {
        scheme.wears.insert(zone, ZoneFinish::of(Finish::Paint { pot: components(&[(paint, 1)]) }));
    }
    scheme.intent = Intent::Quiet;
    piece.windows.quiet = (0.0, most);
    piece.schemes = vec![scheme];
    piece
}

/// A contrast at its limit could be judged either way; one far from it is sure. What is measured is sure wherever it stands.
#[test]
fn a_verdict_says_how_sure_it_is() {
    let boards = BTreeMap::new();
    let ask = |pile: &Pile, most: f64| {
        let shelf = pile.shelf();
        let room = Room { boards: &boards, shelf: &shelf, look: Look::default() };
        let piece = stool(most);
        let scheme = scheme_of(&piece, None).unwrap();
        let contrast = room.predict(&piece, &scheme, (480, 360), Units::Metric).unwrap().pairs[0].contrast;
        (contrast, room.piece_reasons(&piece, &scheme).unwrap())
    };
    let mut pile = pile();
    let (contrast, far) = ask(&pile, 150.0);
    assert!(far.sure && far.within > 1.0, "{far:?}");
    assert!(far.words.starts_with("Sure, as far as the paints are known"), "{}", far.words);
    let (_, near) = ask(&pile, contrast + 0.1);
    assert!(!near.sure, "{near:?}");
    assert!(near.words.contains("could go either way"), "{}", near.words);
    let named: Vec<_> = near.guesses.iter().filter_map(|guess| guess.paint).collect();
    assert!(named.iter().all(|paint| [id(BROWN), id(BLUE)].contains(paint)), "{near:?}");
    // Both masstones are read, three times each.
    for (n, (paint, lab)) in
        [(BROWN, Lab { l: 40.0, a: 5.0, b: 12.0 }), (BLUE, Lab { l: 31.0, a: -3.0, b: -18.0 })]
            .into_iter()
            .cycle()
            .take(6)
            .enumerate()
    {
        pile.put(id(300 + n as u128), reading(&[(paint, 1.0)], lab));
    }
    let (_, read) = ask(&pile, 150.0);
    assert!(read.within < 0.6 * far.within, "{} {}", read.within, far.within);
}
