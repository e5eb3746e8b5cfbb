//! Pots as they are poured: what is reported them, and the label.

use jiff::Timestamp;
use jiff::tz::TimeZone;
use proptest::prelude::*;
use warm_blend_device::NotYet;
use warm_blend_documents::Kept;
use warm_blend_mixing::PourRecord;
use warm_blend_paint::{Look, MixId, Name, SavedMix};
use warm_blend_workshop::{AmountsIn, OnScale, PotAtHand, PotLabel, PourView, Refusal, StepEntry};

use crate::pile::*;

fn look() -> Look {
    LIGHT.into()
}

fn begun(of: &[(u128, u32)], ml: Option<f64>) -> (SavedMix, PourRecord) {
    let mix = mix(of);
    let record = PourRecord::begin(MixId(id(200)), &mix, ml).unwrap();
    (mix, record)
}

fn step(n: u128, paint: Option<u128>, measure: &str, count: Option<f64>) -> StepEntry {
    StepEntry {
        id: id(n),
        paint: paint.map(id),
        measure: serde_json::from_value(measure.into()).unwrap(),
        count,
    }
}

fn with(
    pile: &Pile,
    record: PourRecord,
    step: &StepEntry,
    scale: Result<f64, NotYet>,
) -> Result<PourRecord, Refusal> {
    let shelf = pile.shelf();
    let tin = step.paint.map(|paint| &shelf.tin(paint).unwrap().value);
    let scale = OnScale { grams: scale, practice: false };
    step.taken_down(record, tin, scale, 0.3, Timestamp::UNIX_EPOCH)
}

fn kept(value: PourRecord) -> Kept<PourRecord> {
    let now = "2026-03-29T00:30:00Z".parse().unwrap();
    Kept { id: id(201), revision: 1, removed: false, made_at: now, changed_at: now, value }
}

fn seen(pile: &Pile, mix: SavedMix, record: PourRecord, unit: AmountsIn) -> PourView {
    let pot = PotAtHand { kept: kept(record), mix, touch: (0.3, 0) };
    PourView::of(&pot, &pile.shelf(), look(), unit).unwrap()
}

/// Grams become ml by the tin's density, spoons by their size, a touch by what touches were.
#[test]
fn every_way_of_telling_comes_to_ml() {
    let pile = pile();
    let (_, record) = begun(&[(WHITE, 3), (BLUE, 1)], Some(200.0));
    let density = pile.shelf().tin(id(WHITE)).unwrap().value.density();
    for (n, measure, count, ml) in [
        (1, "g", Some(50.0), 50.0 / density),
        (2, "tsp", Some(2.0), 2.0 * 4.928_921_6),
        (3, "ml", Some(7.5), 7.5),
        (4, "touch", None, 0.3),
        (5, "scale", None, 26.0 / density),
        (6, "scale-touch", None, 26.0 / density),
    ] {
        let next = with(&pile, record.clone(), &step(n, Some(WHITE), measure, count), Ok(26.0)).unwrap();
        assert!((next.total() - ml).abs() < 1e-4, "{measure}: {} not {ml}", next.total());
    }
}

#[test]
fn the_same_step_sent_twice_counts_once() {
    let pile = pile();
    let (_, record) = begun(&[(WHITE, 1)], None);
    let tap = step(1, Some(WHITE), "ml", Some(10.0));
    let once = with(&pile, record, &tap, Err(NotYet::Silent)).unwrap();
    let twice = with(&pile, once.clone(), &tap, Err(NotYet::Silent)).unwrap();
    assert_eq!(once, twice);
}

#[test]
fn what_cannot_be_poured_is_refused_with_its_field() {
    let pile = pile();
    let (_, record) = begun(&[(WHITE, 1)], None);
    let refused = |step: &StepEntry| with(&pile, record.clone(), step, Err(NotYet::Silent));
    assert_eq!(pointers(refused(&step(1, Some(WHITE), "ml", Some(-1.0)))), ["/count"]);
    assert_eq!(pointers(refused(&step(1, Some(WHITE), "tsp", None))), ["/count"]);
    assert_eq!(pointers(refused(&step(1, None, "g", Some(3.0)))), ["/measure"]);
    assert!(matches!(refused(&step(1, Some(WHITE), "scale", None)), Err(Refusal::Device(_))));
    let finished = record.clone().with_one(&pile).finished(Timestamp::UNIX_EPOCH).unwrap();
    let late = with(&pile, finished, &step(9, Some(WHITE), "ml", Some(1.0)), Ok(1.0));
    assert!(matches!(late, Err(Refusal::Stale(_))), "{late:?}");
}

trait WithOne {
    fn with_one(self, pile: &Pile) -> PourRecord;
}

impl WithOne for PourRecord {
    fn with_one(self, pile: &Pile) -> PourRecord {
        with(pile, self, &step(1, Some(WHITE), "ml", Some(10.0)), Ok(0.0)).unwrap()
    }
}

/// What is in, what is still to go in, and by how much it is over: each in the measure that was asked for.
#[test]
fn a_pot_says_what_is_still_to_go_in() {
    let pile = pile();
    let (mix, record) = begun(&[(WHITE, 3), (BLUE, 1)], Some(200.0));
    let record = with(&pile, record, &step(1, Some(WHITE), "ml", Some(100.0)), Ok(0.0)).unwrap();
    let shown = seen(&pile, mix, record, AmountsIn::default());
    assert_eq!((shown.total.as_str(), shown.code.len()), ("100 ml", 6));
    let white = &shown.paints[0];
    assert_eq!(
        (white.inside.as_str(), white.left.as_deref(), white.over.as_deref()),
        ("100 ml", Some("50 ml"), None)
    );
    assert_eq!(shown.paints[1].left.as_deref(), Some("50 ml"));
    assert!(shown.swatch.is_some() && shown.against_plan.unwrap().difference > 1.0);
    assert!(shown.usual_density.contains(&"chimney white".to_owned()));
    assert_eq!(serde_json::from_value::<AmountsIn>("g".into()).unwrap(), AmountsIn::Grams);
    assert!(serde_json::from_value::<AmountsIn>("mug".into()).unwrap_err().to_string().contains("use g"));
}

#[test]
fn an_empty_pot_is_told_without_a_colour() {
    let pile = pile();
    let (mix, record) = begun(&[(WHITE, 3), (BLUE, 1)], None);
    let shown = seen(&pile, mix, record.clone(), AmountsIn::Grams);
    assert!(shown.swatch.is_none() && shown.against_plan.is_none() && shown.recipe.is_empty());
    let line = pile.shelf().pour_line(&kept(record), look()).unwrap();
    assert!(line.open && line.hex.is_none() && line.recipe.is_empty());
}

/// The label says all of it in plain words, with the day where the painter is, also across daylight saving.
#[test]
fn a_label_says_all_of_it() {
    let pile = pile();
    let of = components(&[(WHITE, 3), (BLUE, 1)]);
    let named = SavedMix::new(Some(Name::new("drift").unwrap()), of, None).unwrap();
    let mut record = PourRecord::begin(MixId(id(200)), &named, None).unwrap();
    for (n, paint, ml) in [(1, WHITE, 150.0), (2, BLUE, 50.0)] {
        record = with(&pile, record, &step(n, Some(paint), "ml", Some(ml)), Ok(0.0)).unwrap();
    }
    let record = record.kept_at(Some(Name::new("shelf 3").unwrap()));
    let label = |zone: &str| {
        let zone = TimeZone::get(zone).unwrap_or(TimeZone::UTC);
        PotLabel::of(&kept(record.clone()), &pile.shelf(), look(), AmountsIn::default(), zone).unwrap()
    };
    let shown = label("UTC");
    assert_eq!(shown.day, "2026-03-29");
    for words in ["drift", "3 chimney white : 1 harbour", "200 ml, 2026-03-29", "shelf 3", &shown.code] {
        assert!(shown.text.contains(words), "{words} in {}", shown.text);
    }
    assert!(shown.code_size >= 21 && shown.code_path.starts_with('M'));
    assert_eq!(shown.parts.iter().map(|part| part.parts).collect::<Vec<_>>(), [3, 1]);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// The recipe of what was poured is the plan's where it was poured as planned, and nothing is then left or over.
    #[test]
    fn poured_as_planned_is_the_plan(a in 1u32..12, b in 1u32..12, ml in 50.0..900.0f64) {
        let pile = pile();
        let (mix, mut record) = begun(&[(WHITE, a), (BLUE, b)], Some(ml));
        let part = ml / f64::from(a + b);
        for (n, paint, parts) in [(1, WHITE, a), (2, BLUE, b)] {
            let count = Some(f64::from(parts) * part);
            record = with(&pile, record, &step(n, Some(paint), "ml", count), Ok(0.0)).unwrap();
        }
        let shown = seen(&pile, mix.clone(), record, AmountsIn::Grams);
        prop_assert!(shown.paints.iter().all(|paint| paint.left.is_none() && paint.over.is_none()));
        prop_assert!(shown.against_plan.unwrap().difference < 0.2);
        let poured = shown.swatch.unwrap().wedge.face.lab;
        let planned = pile.shelf().predict(&mix, look()).unwrap().swatch.unwrap().wedge.face.lab;
        prop_assert!((poured[0] - planned[0]).abs() < 0.2, "{poured:?} {planned:?}");
    }
}
