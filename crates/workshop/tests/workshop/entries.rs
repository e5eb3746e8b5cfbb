//! What is entered and what is kept: the one comes back from the other, and every fault of an entry is shown at once.

use proptest::prelude::*;
use serde_json::{Value, json};
use warm_blend_board::{
    Board, Defect, Ground, GroundKind, Layer, Letter, Load, Passes, Share, Strip, Technique,
};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Name, SavedMix};
use warm_blend_piece::{Piece, PieceKind};
use warm_blend_spectral::Light;
use warm_blend_workshop::{
    BoardChoices, Checks, Fault, MixEntry, NewBoard, PaintEntry, PieceChoices, PieceName, ReadingEntry,
    Refusal, SpotToRead, StripPrediction, ToRead, not_said, scheme_of, strip_of,
};

use crate::pile::*;

fn read<T: serde::de::DeserializeOwned>(value: Value) -> T {
    serde_json::from_value(value).unwrap()
}

#[test]
fn checks_collect_every_fault() {
    let mut checks = Checks::default();
    assert_eq!(checks.field("/a", Ok::<_, String>(1)), Some(1));
    assert_eq!(checks.field::<i32, _>("/b", Err("too long")), None);
    assert_eq!(checks.optional::<i32, String>("/c", None), None);
    assert_eq!(checks.optional::<i32, _>("/d", Some(Err("too short"))), None);
    let fault =
        |pointer: &str, detail: &str| Fault { pointer: pointer.to_owned(), detail: detail.to_owned() };
    let faults = vec![fault("/b", "too long"), fault("/d", "too short")];
    assert_eq!(checks.done(Some(1)), Err(Refusal::Faults(faults)));
    assert_eq!(Checks::default().done(Some(1)), Ok(1));
    assert_eq!(Checks::default().done::<i32>(None), Err(Refusal::Faults(Vec::new())));
}

#[test]
fn a_paint_that_cannot_be_says_all_of_it() {
    let entry: PaintEntry = read(json!({
        "name": "", "class": "chalk", "colour": {"hex": "#12"}, "coats_to_hide": 400.0,
        "price": {"amount": -3.0, "tin_ml": 500.0}, "stock_ml": -1.0, "opened_on": "yesterday",
        "specials": {"density": 90.0, "lustre": 7.0, "open_minutes": -5.0}
    }));
    let at = pointers(entry.parse());
    for field in [
        "/name",
        "/colour/hex",
        "/coats_to_hide",
        "/price/amount",
        "/stock_ml",
        "/opened_on",
        "/specials/density",
        "/specials/lustre",
        "/specials/open_minutes",
    ] {
        assert!(at.contains(&field.to_owned()), "{field} in {at:?}");
    }
}

#[test]
fn a_paint_needs_a_colour_and_a_medium_none() {
    let entry = |class: &str| -> PaintEntry { read(json!({"name": "new", "class": class})) };
    assert_eq!(pointers(entry("chalk").parse()), ["/colour"]);
    assert!(entry("clear-wax").parse().is_ok());
    assert_eq!(pointers(entry("chalk").preview(LIGHT.into())), ["/colour"]);
    assert!(entry("clear-wax").preview(LIGHT.into()).is_ok());
}

/// Every tin that can be kept comes back as it was entered.
#[test]
fn tins_come_back_as_they_were_entered() {
    for tin in pile().all::<ShelfPaint>() {
        assert_eq!(PaintEntry::from(tin.value.clone()).parse(), Ok(tin.value));
    }
}

#[test]
fn a_mix_of_too_much_is_refused() {
    let part = |n: u128| json!({"paint": id(n), "parts": 1});
    let nine: MixEntry = read(json!({"components": (1..10).map(part).collect::<Vec<_>>()}));
    assert_eq!(pointers(nine.parse()), ["/components"]);
    let twice: MixEntry = read(json!({"components": [part(1), part(1)]}));
    assert_eq!(pointers(twice.parse()), ["/components"]);
    let nameless: MixEntry = read(json!({"name": " ", "components": [part(1)], "target": {}}));
    assert_eq!(pointers(nameless.parse()), ["/name", "/target"]);
}

#[test]
fn a_reading_is_given_once() {
    let lab = json!({"lab": [50.0, 1.0, 2.0]});
    let of = json!([{"paint": id(1), "parts": 1.0}]);
    let entry = |more: Value| -> ReadingEntry {
        let mut whole = json!({"of": of});
        whole.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        read(whole)
    };
    assert!(entry(json!({"thick": lab})).parse().is_ok());
    assert_eq!(pointers(entry(json!({})).parse()), ["/thick"]);
    let both = json!({"thick": lab, "drawdown": {"wet_um": 90.0, "over_black": lab, "over_white": lab}});
    assert_eq!(pointers(entry(both).parse()), ["/thick"]);
    let film =
        json!({"drawdown": {"wet_um": 9000.0, "over_black": {"lab": [400.0, 0.0, 0.0]}, "over_white": {}}});
    assert_eq!(
        pointers(entry(film).parse()),
        ["/drawdown/wet_um", "/drawdown/over_black/lab", "/drawdown/over_white"]
    );
    let percent: Vec<f64> = (0..36).map(|i| 20.0 + f64::from(i)).collect();
    let Err(Refusal::Faults(faults)) = entry(json!({"thick": {"spectrum": percent}})).parse() else {
        panic!()
    };
    assert!(faults[0].detail.contains("percent"), "{faults:?}");
    assert_eq!(pointers(entry(json!({"thick": {"spectrum": [0.1, 0.2]}})).parse()), ["/thick/spectrum"]);
    for (what, odd) in [("pour", "guesswork"), ("state", "damp"), ("source", "rumour")] {
        let said =
            serde_json::from_value::<ReadingEntry>(json!({"of": of, "thick": lab, what: odd})).unwrap_err();
        assert!(said.to_string().contains(odd), "{said}");
    }
}

#[test]
fn the_reader_is_given_one_to_eight_paints() {
    let nothing: ToRead = read(json!({"of": []}));
    assert_eq!(pointers(nothing.parse()), ["/of"]);
    let nine: Vec<Value> = (0..9).map(|n| json!({"paint": id(n), "parts": 1.0})).collect();
    assert_eq!(pointers(read::<ToRead>(json!({"of": nine})).parse()), ["/of"]);
    let wet: ToRead = read(json!({"of": [{"paint": id(1), "parts": 1.0}], "wet_um": 90.0, "smeared": true}));
    assert!(wet.parse().unwrap().2.is_some() && wet.smeared() && wet.spectrum());
}

/// A document sent and brought again.
fn as_it_travels<T: serde::Serialize + serde::de::DeserializeOwned>(document: &T) -> T {
    read(serde_json::to_value(document).unwrap())
}

fn board() -> Board {
    let base = Layer::new(Technique::BrushedCoat, components(&[(WHITE, 1)]));
    let glaze = Layer::new(Technique::GlazeWiped, components(&[(BROWN, 1), (GLAZE, 4)]));
    let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![base, glaze] };
    Board::new(Name::new("sample").unwrap(), Ground::of(GroundKind::RedStain), vec![strip]).unwrap()
}

#[test]
fn a_board_comes_back_and_its_strips_are_found() {
    let board = board();
    assert_eq!(as_it_travels(&board), board);
    assert_eq!(strip_of(&board, None), Ok(Letter::ALL[0]));
    assert_eq!(pointers(strip_of(&board, Some(Letter::ALL[5]))), ["?strip"]);
    let put = |strip: &str, place: &str| -> SpotToRead { read(json!({"strip": strip, "place": place})) };
    assert!(put("A", "recess").parse(id(9), &board).is_ok());
    for (strip, place) in [("G", "edge"), ("AB", "edge"), ("", "edge"), ("A", "corner")] {
        assert!(serde_json::from_value::<SpotToRead>(json!({"strip": strip, "place": place})).is_err());
    }
    assert_eq!(pointers(put("B", "edge").parse(id(9), &board)), ["/strip"]);
}

#[test]
fn a_strip_is_predicted_layer_by_layer() {
    let shelf = pile().shelf();
    let answer = shelf.predict_strip(&board(), None, None, LIGHT.into()).unwrap();
    assert_eq!((answer.layers.len(), answer.places.len(), answer.shared), (2, 3, 0));
    assert_eq!(answer.layers[1].pot, "1 peat : 4 glazing liquid");
    // A wiped glaze stays in the recess (common practice).
    assert!(answer.layers[1].moves.ends_with("in the recess"), "{}", answer.layers[1].moves);
    let bare = shelf.predict_strip(&board(), Some(Letter::ALL[0]), Some(0), LIGHT.into()).unwrap();
    assert_ne!(bare.places[0].seen.hex, answer.places[0].seen.hex);
    for place in &answer.places {
        assert!(place.colours.iter().map(|colour| colour.percent).sum::<u32>() == 100 && place.within > 0.0);
    }
    // Shares from near are named by the paint that they look most like: white under a thin glaze, brown under a coat of it; where
    // nothing lies, by the ground.
    let named = |prediction: &StripPrediction, place: usize| prediction.places[place].colours[0].of.clone();
    assert_eq!(named(&answer, 0).as_deref(), Some("chimney white"));
    let mut layers: Vec<Layer> = board().layers(Letter::ALL[0]).into_iter().cloned().collect();
    layers.push(Layer::new(Technique::BrushedCoat, components(&[(BROWN, 1)])));
    let strip = Strip { letter: Letter::ALL[0], from: None, layers };
    let covered = Board::new(Name::new("covered").unwrap(), board().ground, vec![strip]).unwrap();
    let covered = shelf.predict_strip(&covered, None, None, LIGHT.into()).unwrap();
    assert_eq!(named(&covered, 0).as_deref(), Some("peat"));
    assert_eq!(named(&bare, 0), Some(board().ground.kind.name().to_lowercase()));
    // What is seen in the light at hand is among what is seen in each.
    let daylight = serde_json::to_value(&answer.lights).unwrap()[0].clone();
    assert_eq!((answer.lights.len(), LIGHT), (Light::ALL.len(), Light::ALL[0]));
    assert_eq!(daylight, json!([answer.places[0].seen.hex, answer.places[1].seen.hex]));
    let mut strange = board();
    strange = Board::new(
        strange.name.clone(),
        strange.ground,
        vec![Strip {
            letter: Letter::ALL[0],
            from: None,
            layers: vec![Layer::new(Technique::BrushedCoat, components(&[(55, 1)]))],
        }],
    )
    .unwrap();
    assert_eq!(pointers(shelf.predict_strip(&strange, None, None, LIGHT.into())), ["/strips"]);
}

#[test]
fn ways_back_and_other_methods_are_tried_on_the_strip() {
    let shelf = pile().shelf();
    let ways = shelf.ways_back(&board(), None, Defect::TooDark, LIGHT.into()).unwrap();
    assert!(!ways.ways.is_empty() && ways.source == "common practice");
    for way in &ways.ways {
        assert!(!way.changes.is_empty() && way.after.len() == 3 && !way.moves.contains("target"), "{way:?}");
    }
    assert!(
        shelf
            .other_schools(&board(), None, LIGHT.into())
            .unwrap()
            .schools
            .iter()
            .all(|one| !one.ways.is_empty())
    );
}

#[test]
fn a_board_can_begin_from_every_finish_that_the_shelf_allows() {
    let mut pile = pile();
    pile.tin(40, medium("water", Class::Water, 1000.0));
    let shelf = pile.shelf();
    let choices = BoardChoices::all();
    let begin = |template: Option<&str>, base: Option<u128>| {
        let (name, ground) = ("new board".to_owned(), GroundKind::WhitePrimer);
        shelf.new_board(&NewBoard {
            name,
            ground,
            template: template.map(str::to_owned),
            base: base.map(id),
            layers: Vec::new(),
        })
    };
    let made = choices.templates.iter().filter(|choice| begin(Some(choice.id), None).is_ok()).count();
    assert!(made >= 2, "{made} of {}", choices.templates.len());
    assert!(begin(None, None).unwrap().layers(Letter::ALL[0]).is_empty());
    assert_eq!(pointers(begin(Some("baroque"), None)), ["/template"]);
    assert_eq!(pointers(begin(Some(choices.templates[0].id), Some(77))), ["/base"]);
    let bad = NewBoard {
        name: String::new(),
        ground: GroundKind::WhitePrimer,
        template: None,
        base: None,
        layers: Vec::new(),
    };
    assert_eq!(pointers(shelf.new_board(&bad)), ["/name"]);
}

#[test]
fn a_piece_comes_back_and_its_schemes_are_found() {
    let mut piece = Piece::named(Name::new("dresser").unwrap());
    piece.form = Some(PieceKind::ChestOfDrawers.usual());
    assert_eq!(as_it_travels(&piece), piece);
    assert!(scheme_of(&piece, None).is_ok() && scheme_of(&piece, Some(3)).is_ok());
    let scheme = scheme_of(&piece, None).unwrap();
    piece.schemes.push(scheme);
    assert_eq!(pointers(scheme_of(&piece, Some(3))), ["?scheme"]);
    assert!(matches!(not_said(), Refusal::Faults(_)));
    for name in ["\u{7}", "oat \u{202e}etihw", "\u{200b}"] {
        assert_eq!(pointers(PieceName { name: name.to_owned() }.parse()), ["/name"], "{name:?}");
    }
    let choices = PieceChoices::all(warm_blend_paint::Units::Imperial);
    assert!(choices.kinds.iter().all(|kind| kind.size.ends_with("in") && !kind.asks.is_empty()));
    for kind in &choices.kinds {
        let front = &kind.front;
        assert!(!front.parts.is_empty(), "{}", kind.id);
        // Every part lies on the front, as far as a drawing shows.
        for [x, y, w, h] in &front.parts {
            assert!(
                *x >= -1e-6 && *y >= -1e-6 && x + w <= front.width + 1e-6 && y + h <= front.height + 1e-6,
                "{}",
                kind.id
            );
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn layers_come_back(technique in 0usize..Technique::ALL.len(), load in 0.25..4.0f64, wipe in 0.0..1.0f64, passes in 1u8..9, muted: bool) {
        let mut layer = Layer::new(Technique::ALL[technique], components(&[(WHITE, 2), (GLAZE, 1)]));
        layer.hand.load = Load::new(load).unwrap();
        layer.hand.wipe = Share::new(wipe).unwrap();
        layer.hand.passes = Passes::new(passes).unwrap();
        layer.muted = muted;
        let strip = Strip { letter: Letter::ALL[0], from: None, layers: vec![layer] };
        let Ok(board) = Board::new(Name::new("one").unwrap(), Ground::of(GroundKind::MidWood), vec![strip]) else { return Ok(()) };
        prop_assert_eq!(as_it_travels(&board), board);
    }

    #[test]
    fn mixes_come_back(name in "[a-zäöß ]{1,30}", of in proptest::collection::btree_map(1u128..60, 1u32..=999, 0..=8)) {
        let of: Vec<(u128, u32)> = of.into_iter().collect();
        let Ok(name) = Name::new(&name) else { return Ok(()) };
        let mix = SavedMix::new(Some(name), components(&of), None).unwrap();
        prop_assert_eq!(MixEntry::from(&mix).parse(), Ok(mix));
    }

    /// Whatever is typed as a number, an entry is read or refused with its field: nothing panics.
    #[test]
    fn nonsense_is_refused(amounts in proptest::collection::vec(any::<f64>(), 6), text in any::<String>()) {
        let number = |i: usize| serde_json::Number::from_f64(amounts[i]).map_or(Value::Null, Value::Number);
        let entry = json!({
            "name": text, "class": "chalk", "colour": {"lab": [number(0), number(1), number(2)]},
            "coats_to_hide": number(3), "stock_ml": number(4), "price": {"amount": number(5), "tin_ml": number(4)},
            "opened_on": text
        });
        if let Ok(entry) = serde_json::from_value::<PaintEntry>(entry)
            && let Err(Refusal::Faults(faults)) = entry.parse()
        {
            prop_assert!(faults.iter().all(|fault| fault.pointer.starts_with('/') && !fault.detail.is_empty()));
        }
    }
}
