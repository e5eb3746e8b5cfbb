//! Jars: what is entered about them, how they keep, and which are near a colour.

use std::ops::ControlFlow;

use jiff::civil::{Date, date};
use jiff::tz::TimeZone;
use jiff::{Span, Timestamp};
use proptest::prelude::*;
use warm_blend_documents::Kept;
use warm_blend_mixing::{AmountAsEntered, JarSign, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{Colour, Look, MixId, PaintId, Parts, Units};
use warm_blend_workshop::{
    AmountsIn, JarEntry, JarNear, JarTaken, JarsWanted, PotLabel, Refusal, ShelfSnapshot,
};

use crate::pile::*;

const TODAY: Date = date(2026, 11, 30);

fn look() -> Look {
    LIGHT.into()
}

fn at() -> Timestamp {
    "2026-11-20T10:00:00Z".parse().unwrap()
}

/// A finished pot.
fn pot(n: u128, amounts: &[(u128, f64)]) -> Kept<PourRecord> {
    let of: Vec<(u128, u32)> = amounts.iter().map(|(paint, _)| (*paint, 1)).collect();
    let mut record = PourRecord::begin(MixId(id(50)), &mix(&of), None).unwrap();
    for (k, (paint, ml)) in amounts.iter().enumerate() {
        let action = PourAction::Added { paint: PaintId(id(*paint)), ml: *ml, said: AmountAsEntered::Touch };
        record = record.with(PourEvent { id: id(10 * n + k as u128), at: at(), action }).unwrap();
    }
    let value = record.finished(at()).unwrap();
    Kept { id: id(n), revision: 1, removed: false, made_at: at(), changed_at: at(), value }
}

fn entry(left_ml: f64) -> JarEntry {
    JarEntry { left_ml, place: Some(" shelf 2 ".into()), client: None, signs: Vec::new() }
}

/// The pot with so much of it in a jar.
fn kept(pot: Kept<PourRecord>, ml: f64) -> Kept<PourRecord> {
    Kept { value: entry(ml).of(pot.value.clone(), at()).unwrap(), ..pot }
}

fn near(shelf: &ShelfSnapshot, jars: &[Kept<PourRecord>], target: Colour) -> Vec<JarNear> {
    let wanted = JarsWanted { target };
    shelf.jars_near(jars, &wanted, look(), Units::Metric, || ControlFlow::Continue(())).unwrap()
}

/// The colour that a pot of these parts is predicted to have.
fn colour_of(shelf: &ShelfSnapshot, parts: &[(u128, f64)]) -> Colour {
    let parts: Vec<(PaintId, Parts)> =
        parts.iter().map(|(paint, n)| (PaintId(id(*paint)), Parts::new(*n).unwrap())).collect();
    let stirred = shelf.stirred(&parts).unwrap().unwrap();
    Colour { hex: Some(look().hex(stirred.best())), lab: None }
}

#[test]
fn what_cannot_be_in_a_jar_is_refused_by_name() {
    let pot = || pot(300, &[(BLUE, 50.0), (WHITE, 10.0)]).value;
    for wrong in [60.6, 1e9, -1.0, 0.0, f64::NAN, f64::INFINITY] {
        let Err(Refusal::Faults(faults)) = entry(wrong).of(pot(), at()) else { panic!("{wrong}") };
        assert_eq!(faults[0].pointer, "/left_ml", "{wrong}");
    }
    let more = entry(75.0).of(pot(), at()).unwrap_err();
    let Refusal::Faults(faults) = more else { panic!() };
    assert!(faults[0].detail.contains("at most 60.0 ml"), "{faults:?}");

    let long = JarEntry { place: Some("x".repeat(200)), client: Some("\u{7}".into()), ..entry(10.0) };
    let Err(Refusal::Faults(faults)) = long.of(pot(), at()) else { panic!() };
    assert_eq!(faults.iter().map(|fault| fault.pointer.as_str()).collect::<Vec<_>>(), ["/place", "/client"]);

    let open = PourRecord::begin(MixId(id(50)), &mix(&[(BLUE, 1)]), None).unwrap();
    assert!(matches!(entry(1.0).of(open, at()), Err(Refusal::Stale(_))));
    assert!(matches!(JarTaken { id: id(1), ml: 1.0 }.of(pot(), at()), Err(Refusal::Stale(_))));
    let jar = entry(20.0).of(pot(), at()).unwrap();
    for wrong in [21.0, -1.0, f64::NAN] {
        let Err(Refusal::Faults(faults)) = JarTaken { id: id(1), ml: wrong }.of(jar.clone(), at()) else {
            panic!()
        };
        assert_eq!(faults[0].pointer, "/ml");
    }
    let gone = JarTaken::all_away(jar, at()).unwrap();
    assert!(matches!(entry(10.0).of(gone, at()), Err(Refusal::Stale(_))));
}

/// Those to see to come first, empty ones are not listed, and each says until when it keeps, from the day it was mixed.
#[test]
fn jars_say_what_is_in_them_and_how_long_it_keeps() {
    let shelf = pile().shelf();
    let whole = kept(pot(300, &[(BLUE, 50.0), (WHITE, 10.0)]), 40.0);
    let some = JarTaken { id: id(1), ml: 15.0 }.of(whole.value.clone(), at()).unwrap();
    let frosty = JarEntry { signs: vec![JarSign::Frost, JarSign::Skin, JarSign::Frost], ..entry(20.0) };
    let frosty = frosty.of(pot(301, &[(BLUE, 30.0)]).value, at()).unwrap();
    let empty = JarTaken { id: id(2), ml: 40.0 }.of(whole.value.clone(), at()).unwrap();
    let all = [
        Kept { value: some, ..whole.clone() },
        Kept { value: frosty, ..pot(301, &[(BLUE, 30.0)]) },
        Kept { value: empty, ..kept(pot(302, &[(BLUE, 50.0), (WHITE, 10.0)]), 40.0) },
        pot(303, &[(BLUE, 9.0)]),
    ];
    let view = shelf.jars(&all, look(), Units::Metric, (TODAY, &TimeZone::UTC)).unwrap();
    let said: Vec<_> = view.jars.iter().map(|jar| (jar.id, jar.state, jar.left.as_str())).collect();
    assert_eq!(said, [(id(301), "doubtful", "20 ml"), (id(300), "good", "25 ml")]);
    assert_eq!((view.to_see_to, view.jars[0].signs.as_slice()), (1, &["frost", "skin"][..]));
    let good = &view.jars[1];
    assert_eq!((good.place.as_deref(), good.uses[0].amount.as_str()), (Some("shelf 2"), "15 ml"));
    // Chalk-type paint keeps a year (common practice).
    let mixed = at().to_zoned_datetime(TimeZone::UTC).date();
    assert_eq!(good.until, mixed.saturating_add(Span::new().days(365)).to_string());

    // The label holds what is left, in the ratio of the pot, and leads to the jar.
    let label = PotLabel::of(&all[0], &shelf, look(), AmountsIn::default(), TimeZone::UTC).unwrap();
    let ml: Vec<f64> = label.parts.iter().map(|part| part.ml).collect();
    assert!((ml[0] - 25.0 * 5.0 / 6.0).abs() < 1e-9 && (ml[1] - 25.0 / 6.0).abs() < 1e-9, "{ml:?}");
    assert!(label.text.contains("25 ml") && label.until.as_ref() == Some(&good.until));
    let page = label.opened_at(Some("https://192.0.2.1:7843")).page.unwrap();
    assert_eq!(page.address, format!("https://192.0.2.1:7843/jars/{}", id(300)));
}

/// A jar of just the colour comes first and needs nothing; far ones are not offered.
#[test]
fn the_nearest_jar_comes_first() {
    let shelf = pile().shelf();
    let jars = [
        kept(pot(300, &[(BLUE, 50.0), (WHITE, 50.0)]), 60.0),
        kept(pot(301, &[(BLUE, 50.0), (WHITE, 40.0)]), 60.0),
        kept(pot(302, &[(BROWN, 50.0)]), 40.0),
    ];
    let found = near(&shelf, &jars, colour_of(&shelf, &[(BLUE, 1.0), (WHITE, 1.0)]));
    assert_eq!(found.iter().map(|jar| jar.id).collect::<Vec<_>>(), [id(300), id(301)]);
    assert!(found[0].judgement.difference < 0.5 && found[0].adding.is_none(), "{found:?}");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(6))]

    /// What is to be added brings a jar nearer.
    #[test]
    fn what_is_added_brings_a_jar_nearer(white in 20.0..60.0f64, more in 1.3..2.0f64) {
        let shelf = pile().shelf();
        let jars = [kept(pot(300, &[(BLUE, 50.0), (WHITE, white)]), 40.0)];
        let target = |white: f64| colour_of(&shelf, &[(BLUE, 50.0), (WHITE, white * more)]);
        let found = near(&shelf, &jars, target(white));
        prop_assume!(!found.is_empty() && found[0].judgement.difference > 1.5);
        prop_assert!(found[0].adding.is_some(), "{:?}", found);
        // Poured again from those parts, it is nearer than it was.
        let poured: Vec<(u128, f64)> = found[0].then_parts.iter()
            .map(|part| (part.paint.0.as_u128() - id(0).as_u128(), f64::from(part.parts.value()))).collect();
        let again = near(&shelf, &[kept(pot(301, &poured), 5.0)], target(white));
        prop_assert!(again[0].judgement.difference < found[0].judgement.difference, "{:?} {:?}", again, found);
    }
}
