//! The shelf at a moment: what is known, what readings did, what to test next.

use warm_blend_board::{
    Board, BoardReading, BoardSpot, Ground, GroundKind, Layer, Letter, Place, Strip, Technique,
};
use warm_blend_documents::Documents;
use warm_blend_learn::{Measured, ShelfPaint, Source};
use warm_blend_paint::{Class, FilmState, Look, Name, PaintId};
use warm_blend_spectral::Lab;
use warm_blend_workshop::{Paint, PaintPage};

use crate::pile::*;

fn look() -> Look {
    LIGHT.into()
}

fn page(pile: &Pile, n: u128) -> PaintPage {
    let shelf = pile.shelf();
    PaintPage::of(shelf.tin(id(n)).unwrap(), 0, &shelf, look()).unwrap()
}

/// The test that helps most comes first, and the advice names it.
#[test]
fn the_next_test_is_the_one_that_helps_most() {
    let page = page(&pile(), BLUE);
    let after: Vec<f64> = page.tests.iter().map(|test| test.after).collect();
    assert!(after.len() > 3 && after.is_sorted(), "{after:?}");
    assert!(page.advice.starts_with("Test next: "), "{}", page.advice);
    assert!(page.advice.contains("chimney white") || page.advice.contains("alone"), "{}", page.advice);
}

#[test]
fn without_a_house_white_one_is_chosen_first() {
    let mut pile = pile();
    Documents::remove::<ShelfPaint>(&mut pile, id(WHITE), 1).unwrap();
    assert!(page(&pile, BLUE).advice.starts_with("Choose the house white first"));
}

#[test]
fn a_medium_needs_no_test() {
    let page = page(&pile(), GLAZE);
    assert!(page.tests.is_empty());
    assert!(page.paint.medium && page.paint.known.doubt == 0.0, "{:?}", page.paint.known);
}

/// A reading narrows what is known of its paint, and says by how much.
#[test]
fn a_reading_narrows_the_doubt() {
    let mut pile = pile();
    let before = pile.shelf();
    let tint = warm_blend_paint::mix(&[
        (warm_blend_paint::Parts::new(1.0).unwrap(), before.paint(id(BLUE)).unwrap().best()),
        (warm_blend_paint::Parts::new(1.0).unwrap(), before.paint(id(WHITE)).unwrap().best()),
    ]);
    let lab = tint.unwrap().seen_lab(LIGHT);
    pile.put(id(300), reading(&[(BLUE, 1.0), (WHITE, 1.0)], lab));
    let after = pile.shelf_after(Some(&before));
    let news = after.news(id(300), &before).unwrap();
    assert_eq!(news.reading.title, "harbour 1 : chimney white 1");
    let blue = news.news.iter().find(|news| news.paint == id(BLUE)).unwrap();
    assert!(blue.after < blue.before, "{blue:?}");
    assert_eq!(
        (
            after.log(0..usize::MAX).len(),
            after.readings_of(id(BLUE)).count(),
            after.readings_of(id(BROWN)).count()
        ),
        (1, 1, 0)
    );
    assert!(after.news(id(999), &before).is_err());
}

/// A reading that contradicts the tin is left out and asked about: of the paint, not of the white in it.
#[test]
fn a_contradiction_is_asked_about() {
    let mut pile = pile();
    for n in 0..3 {
        pile.put(id(300 + n), reading(&[(BLUE, 1.0)], Lab { l: 31.0, a: -2.0, b: -18.5 + 0.1 * n as f64 }));
    }
    pile.put(id(310), reading(&[(BLUE, 1.0), (WHITE, 1.0)], Lab { l: 50.0, a: 60.0, b: 40.0 }));
    let shelf = pile.shelf();
    let paint = |n: u128| Paint::of(shelf.tin(id(n)).unwrap(), 2, &shelf, look()).unwrap();
    assert_eq!((paint(BLUE).known.questions, paint(WHITE).known.questions), (1, 0));
    assert_eq!(paint(BLUE).used_in, 2);
    assert!(page(&pile, BLUE).advice.contains("contradicts the others"));
    assert!(shelf.reading(id(310)).unwrap().questioned);
    assert!(!shelf.reading(id(300)).unwrap().questioned);
}

/// Names, stocks and notes are not what is known of colours: nothing is learnt anew when they change.
#[test]
fn a_new_name_changes_no_colour() {
    let mut pile = pile();
    let before = pile.shelf();
    let tin = Documents::get::<ShelfPaint>(&pile, id(BLUE)).unwrap();
    let renamed = ShelfPaint { name: Name::new("quay").unwrap(), stock: None, ..tin.value };
    Documents::change(&mut pile, id(BLUE), 1, renamed).unwrap();
    let after = pile.shelf_after(Some(&before));
    assert_eq!(after.name(id(BLUE)), "quay");
    assert!(std::ptr::eq(before.estimate(), after.estimate()));
}

/// What a tin was learnt to be does not hang on the way there.
#[test]
fn learning_by_and_by_is_learning_at_once() {
    let mut pile = pile();
    let first = pile.shelf();
    pile.put(id(300), reading(&[(BROWN, 1.0), (WHITE, 4.0)], Lab { l: 72.0, a: 4.0, b: 9.0 }));
    let by_and_by = pile.shelf_after(Some(&first));
    let at_once = pile.shelf();
    for n in [WHITE, BLUE, BROWN] {
        let lab =
            |shelf: &warm_blend_workshop::ShelfSnapshot| shelf.paint(id(n)).unwrap().best().seen_lab(LIGHT);
        assert_eq!(lab(&by_and_by), lab(&at_once));
        assert_eq!(by_and_by.estimate().doubt(PaintId(id(n))), at_once.estimate().doubt(PaintId(id(n))));
    }
}

/// What boards say of the hand is learnt again where their paints are known otherwise than before, and only there: what comes of it is the
/// same as if nothing had been known.
#[test]
fn boards_are_learnt_from_again_only_where_their_paints_changed() {
    let mut pile = pile();
    let layer = Layer::new(Technique::BrushedCoat, components(&[(BLUE, 1)]));
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![layer] };
    let name = |text: &str| Name::new(text).unwrap();
    let board = Board::new(name("sample"), Ground::of(GroundKind::WhitePrimer), vec![strip]).unwrap();
    let measured = Measured::Colour(Lab { l: 40.0, a: -2.0, b: -14.0 });
    let spots = vec![BoardSpot { place: Place::Field, measured }];
    let read = BoardReading::new((id(202), &board), Letter::ALL[0], (FilmState::Dry, Source::Reader), spots);
    pile.put(id(202), board);
    pile.put(id(203), read.unwrap());
    let before = pile.shelf();

    pile.tin(BROWN, paint("peat", Class::Chalk, "#6a4a36"));
    let brown = pile.shelf_after(Some(&before));
    assert!(std::ptr::eq(before.hands(), brown.hands()), "the brown is on no board");
    pile.tin(BLUE, paint("harbour", Class::Chalk, "#3f5b76"));
    let blue = pile.shelf_after(Some(&brown));
    assert!(!std::ptr::eq(brown.hands(), blue.hands()));
    let anew = pile.shelf();
    assert_eq!(format!("{:?}", blue.hands()), format!("{:?}", anew.hands()));
}
