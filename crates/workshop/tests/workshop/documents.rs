//! Changes to several documents at once: two tins made one, a mix made into another, the choices of the workshop.

use proptest::prelude::*;
use uuid::Uuid;
use warm_blend_board::{
    Board, BoardReading, BoardSpot, Ground, GroundKind, Layer, Letter, Place, Strip, Technique,
};
use warm_blend_documents::{Documents, Workshop};
use warm_blend_learn::{LoggedReading, Measured, ShelfPaint, Source};
use warm_blend_mixing::{AmountAsEntered, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{Class, FilmState, Measure, MixId, Name, PaintId, SavedMix};
use warm_blend_piece::{Finish, Piece, Scheme, Zone, ZoneFinish};
use warm_blend_spectral::Lab;
use warm_blend_workshop::{Merge, MixtureWanted, WorkshopEntry, WorkshopKept};

use crate::pile::*;

const GREY: Lab = Lab { l: 60.0, a: 0.0, b: 1.0 };

fn name(text: &str) -> Name {
    Name::new(text).unwrap()
}

/// Documents of every kind that speak of the blue tin.
fn all_kinds(pile: &mut Pile) {
    let mixed = mix(&[(WHITE, 3), (BLUE, 1)]);
    pile.put(id(200), mixed.clone());
    let added = |n: u128, ml| PourEvent {
        id: id(n),
        at: jiff::Timestamp::UNIX_EPOCH,
        action: PourAction::Added { paint: PaintId(id(BLUE)), ml, said: AmountAsEntered::Weighed(1.3 * ml) },
    };
    let pour = PourRecord::begin(MixId(id(200)), &mixed, None).unwrap().with(added(1, 20.0)).unwrap();
    pile.put(id(201), pour);
    let layer = Layer::new(Technique::BrushedCoat, components(&[(BLUE, 1)]));
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![layer] };
    let board = Board::new(name("sample"), Ground::of(GroundKind::WhitePrimer), vec![strip]).unwrap();
    let spot = BoardSpot { place: Place::Field, measured: Measured::Colour(GREY) };
    let read =
        BoardReading::new((id(202), &board), Letter::ALL[0], (FilmState::Dry, Source::Reader), vec![spot]);
    pile.put(id(202), board);
    pile.put(id(203), read.unwrap());
    let band = |of: &[(u128, u32)], at| warm_blend_piece::Band { pot: components(of), at };
    let bands = vec![band(&[(BLUE, 1)], 0.0), band(&[(WHITE, 1)], 1.0)];
    let blend = Finish::Blend { way: warm_blend_piece::BlendDirection::Down, bands };
    let mut piece = Piece::named(name("dresser"));
    piece.schemes.push(Scheme {
        name: name("first"),
        wears: [(Zone::Case, ZoneFinish::of(blend))].into(),
        over: Vec::new(),
        intent: warm_blend_piece::Intent::Quiet,
        pairs: Vec::new(),
    });
    pile.put(id(204), piece);
    pile.put(id(205), reading(&[(BLUE, 1.0), (WHITE, 1.0)], GREY));
    pile.put(id(206), reading(&[(BLUE, 1.0), (BROWN, 1.0)], GREY));
}

#[test]
fn every_kind_of_document_speaks_of_the_tin_that_stays() {
    let mut pile = pile();
    all_kinds(&mut pile);
    let mut kinds = pile.speaking_of(id(BLUE));
    kinds.sort_unstable();
    assert_eq!(kinds, ["board", "board-reading", "mix", "piece", "pour", "reading", "reading"]);
    let workshop = pile.workshop();
    Merge { keep: id(BROWN), gone: id(BLUE) }.parse().unwrap().carry_out(&mut pile, workshop).unwrap();
    assert_eq!(pile.speaking_of(id(BLUE)), Vec::<&str>::new());
    // A reading of the two against each other says nothing once they are one.
    assert_eq!(pile.all::<LoggedReading>().len(), 1);
    let tins = pile.all::<ShelfPaint>();
    let stays = tins.iter().find(|tin| tin.id == id(BROWN)).unwrap();
    assert_eq!(stays.value.stock.map(|ml| ml.value()), Some(340.0));
    assert!(tins.iter().all(|tin| tin.id != id(BLUE)));
    // The record of the pour keeps what was said of it.
    let pour = &pile.all::<PourRecord>()[0].value;
    assert_eq!((pour.weighed(id(1)), pour.total()), (Some(26.0), 20.0));
}

/// Where both were in one pot, their parts are added.
#[test]
fn parts_of_the_two_are_added() {
    let mut pile = pile();
    pile.put(id(200), mix(&[(BLUE, 2), (BROWN, 3), (WHITE, 1)]));
    let workshop = pile.workshop();
    Merge { keep: id(BROWN), gone: id(BLUE) }.carry_out(&mut pile, workshop).unwrap();
    let merged = pile.all::<SavedMix>().remove(0).value;
    assert_eq!(merged.components(), components(&[(BROWN, 5), (WHITE, 1)]));
}

#[test]
fn the_house_white_goes_over_and_a_tin_is_not_merged_with_itself() {
    let mut pile = pile();
    let workshop = pile.workshop();
    Merge { keep: id(YELLOW), gone: id(WHITE) }.carry_out(&mut pile, workshop).unwrap();
    assert_eq!(pile.workshop().value.house_white, Some(PaintId(id(YELLOW))));
    assert_eq!(pointers(Merge { keep: id(BLUE), gone: id(BLUE) }.parse()), ["/gone"]);
    let workshop = pile.workshop();
    let missing = Merge { keep: id(BLUE), gone: id(66) }.carry_out(&mut pile, workshop);
    assert_eq!(missing, Err(NotInPile::Unknown(id(66))));
}

fn make_into(pile: &mut Pile, preset: &str) -> Result<SavedMix, NotInPile> {
    let shelf = pile.shelf();
    let wanted = MixtureWanted { preset: preset.to_owned() };
    shelf.make_mix_into::<_, NotInPile>(pile, (id(200), 1), &wanted).map(|kept| kept.value)
}

/// Four of glazing liquid to one of paint (common practice), from the tin that is there.
#[test]
fn a_mix_becomes_a_glaze_of_the_tin_at_hand() {
    let mut pile = pile();
    pile.put(id(200), mix(&[(BLUE, 1), (WHITE, 1)]));
    let made = make_into(&mut pile, "wall-glaze").unwrap();
    assert_eq!(made.components(), components(&[(BLUE, 1), (WHITE, 1), (GLAZE, 8)]));
}

/// What the shelf lacks is put on it, at the same go.
#[test]
fn a_missing_medium_is_put_on_the_shelf() {
    let mut pile = pile();
    pile.put(id(200), mix(&[(BLUE, 2)]));
    make_into(&mut pile, "wash").unwrap();
    let water: Vec<_> =
        pile.all::<ShelfPaint>().into_iter().filter(|tin| tin.value.class == Class::Water).collect();
    assert_eq!(water.len(), 1);
    assert_eq!(water[0].value.name.as_str(), "water");
}

#[test]
fn what_cannot_be_made_changes_nothing() {
    let mut pile = pile();
    pile.put(id(200), mix(&[(GLAZE, 4)]));
    assert!(matches!(make_into(&mut pile, "wall-glaze"), Err(NotInPile::Refused(_))));
    pile.put(id(200), mix(&[(BLUE, 1)]));
    assert!(matches!(make_into(&mut pile, "porridge"), Err(NotInPile::Refused(_))));
    assert_eq!(pile.all::<SavedMix>()[0].revision, 1);
    pile.put(id(200), mix(&[(BLUE, 1)]));
    make_into(&mut pile, "wall-glaze").unwrap();
    assert_eq!(make_into(&mut pile, "wall-glaze"), Err(NotInPile::Stale));
}

#[test]
fn the_fullest_good_tin_of_a_medium_is_taken() {
    let mut pile = pile();
    pile.tin(30, medium("a little glaze", Class::GlazingLiquid, 20.0));
    pile.tin(31, medium("much glaze", Class::GlazingLiquid, 4000.0));
    assert_eq!(pile.shelf().fullest(Class::GlazingLiquid), Some(id(31)));
    Documents::remove::<ShelfPaint>(&mut pile, id(31), 1).unwrap();
    assert_eq!(pile.shelf().fullest(Class::GlazingLiquid), Some(id(GLAZE)));
    assert_eq!(pile.shelf().fullest(Class::Pearl), None);
    let choices = pile.shelf().presets();
    let missing = |preset: &str| choices.iter().find(|choice| choice.id == preset).unwrap().missing.len();
    assert_eq!((missing("wall-glaze"), missing("wash")), (0, 1));
}

#[test]
fn choices_of_the_workshop_are_checked() {
    let mut pile = pile();
    let entry = |white: u128| WorkshopEntry {
        house_white: Some(PaintId(id(white))),
        owned: vec![Measure::Teaspoon],
        currency: None,
        terms: None,
    };
    let tin = |pile: &Pile, n: u128| Documents::get::<ShelfPaint>(pile, id(n)).unwrap();
    let chosen = |pile: &Pile, n: u128| entry(n).over(Workshop::default(), Some(&tin(pile, n)));
    assert_eq!(chosen(&pile, YELLOW).unwrap().house_white, Some(PaintId(id(YELLOW))));
    assert_eq!(pointers(chosen(&pile, GLAZE)), ["/house_white"]);
    Documents::remove::<ShelfPaint>(&mut pile, id(BLUE), 1).unwrap();
    assert_eq!(pointers(chosen(&pile, BLUE)), ["/house_white"]);
    // A white that was removed is the house white no more, and is it again where it is put back.
    let shown = |pile: &Pile| WorkshopKept::of(&pile.workshop(), &pile.all_ever()).entry.house_white;
    assert_eq!(shown(&pile), Some(PaintId(id(WHITE))));
    Documents::remove::<ShelfPaint>(&mut pile, id(WHITE), 1).unwrap();
    assert_eq!((shown(&pile), pile.shelf().house_white()), (None, None));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Whatever two tins are merged in whatever order, nothing speaks of one that went, and parts are never lost.
    #[test]
    fn merging_loses_nothing(order in proptest::sample::subsequence(vec![WHITE, BLUE, BROWN, BLACK, YELLOW], 2..5)) {
        let mut pile = pile();
        all_kinds(&mut pile);
        let before: u32 =
            pile.all::<SavedMix>().iter().flat_map(|kept| kept.value.components().to_vec()).map(|part| part.parts.value()).sum();
        let keep = order[0];
        for gone in &order[1..] {
            let workshop = pile.workshop();
            Merge { keep: id(keep), gone: id(*gone) }.carry_out(&mut pile, workshop).unwrap();
            prop_assert_eq!(pile.speaking_of(id(*gone)), Vec::<&str>::new());
        }
        let after: u32 =
            pile.all::<SavedMix>().iter().flat_map(|kept| kept.value.components().to_vec()).map(|part| part.parts.value()).sum();
        prop_assert_eq!(before, after);
        prop_assert_eq!(pile.all::<ShelfPaint>().len(), 8 - order.len());
        let unknown: Vec<Uuid> = pile.all::<LoggedReading>().iter().map(|kept| kept.id).filter(|id| id.is_nil()).collect();
        prop_assert!(unknown.is_empty());
    }
}
