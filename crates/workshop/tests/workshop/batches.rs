//! Batches measured out: amounts, weights, costs, what a tin holds and how far it goes.

use proptest::prelude::*;
use warm_blend_paint::Measure;
use warm_blend_workshop::{BatchIn, BatchMeasured, BatchOf, Refusal, ShelfSnapshot};

use crate::pile::*;

fn read(measure: &str) -> serde_json::Result<BatchIn> {
    serde_json::from_value(measure.into())
}

fn batch(of: &[(u128, u32)], amount: f64, measure: &str) -> BatchOf {
    BatchOf {
        components: components(of),
        amount,
        measure: read(measure).unwrap(),
        coats: None,
        using_up: None,
        owned: Vec::new(),
    }
}

fn measured(shelf: &ShelfSnapshot, of: &BatchOf) -> Result<BatchMeasured, Refusal> {
    shelf.measure_out(of, LIGHT.into())
}

/// A batch by weight is exact: grams by each tin's density, the price of every millilitre, and the tins that hold too little.
#[test]
fn a_batch_by_weight_is_exact() {
    let shelf = pile().shelf();
    let answer = measured(&shelf, &batch(&[(WHITE, 3), (BROWN, 1)], 200.0, "ml")).unwrap();
    let by_weight = answer.ways.iter().find(|way| way.measure == "g").unwrap();
    let density = |n| shelf.tin(id(n)).unwrap().value.density();
    let grams = [format!("{:.1} g", 150.0 * density(WHITE)), format!("{:.1} g", 50.0 * density(BROWN))];
    assert_eq!(by_weight.amounts, grams);
    // 150 ml at 20 a litre, 50 ml at 24 a litre.
    assert!((by_weight.cost.unwrap() - (3.0 + 1.2)).abs() < 1e-9);
    // The brown tin holds 40 ml.
    assert_eq!(by_weight.short, ["peat"]);
    assert!((answer.ml - 200.0).abs() < 1e-9 && (by_weight.ml - 200.0).abs() < 1e-9);
    let per_m2 = answer.cost_per_m2.unwrap();
    assert!((per_m2 * by_weight.covers_m2 - 4.2).abs() < 1e-9);
    // NIST SP 811: a square foot is 0.09290304 m².
    assert!((answer.cost_per_ft2.unwrap() / per_m2 - 0.092_903_04).abs() < 1e-9);
}

#[test]
fn without_a_price_there_is_no_cost() {
    let answer = measured(&pile().shelf(), &batch(&[(WHITE, 1), (BLACK, 1)], 1.0, "cup")).unwrap();
    assert!(answer.cost_per_m2.is_none() && answer.ways.iter().all(|way| way.cost.is_none()));
}

#[test]
fn all_that_is_left_of_a_tin_sets_the_batch() {
    let shelf = pile().shelf();
    let left = |using_up| BatchOf { using_up, ..batch(&[(WHITE, 3), (BROWN, 1)], 0.0, "left") };
    assert!((measured(&shelf, &left(Some(id(BROWN)))).unwrap().ml - 160.0).abs() < 1e-9);
    assert_eq!(pointers(measured(&shelf, &left(None))), ["/using_up"]);
    assert_eq!(pointers(measured(&shelf, &left(Some(id(BLUE))))), ["/using_up"]);
    let unknown = BatchOf { using_up: Some(id(BLACK)), ..batch(&[(BLACK, 1)], 0.0, "left") };
    assert_eq!(pointers(measured(&shelf, &unknown)), ["/using_up"]);
}

/// A scoop is for powders: nobody is told to take one of paint unless it is all there is.
#[test]
fn what_is_owned_is_what_is_measured_with() {
    let shelf = pile().shelf();
    let measures = |of: &BatchOf| -> Vec<&str> {
        measured(&shelf, of).unwrap().ways.iter().map(|way| way.measure).collect()
    };
    let any = measures(&batch(&[(WHITE, 3), (BLUE, 1)], 2.0, "cup"));
    assert!(!any.contains(&"scoop") && any.len() > 3, "{any:?}");
    let few = BatchOf {
        owned: vec![Measure::Teaspoon, Measure::Tablespoon],
        ..batch(&[(WHITE, 3), (BLUE, 1)], 2.0, "cup")
    };
    assert!(measures(&few).iter().all(|measure| ["tsp", "tbsp", "g"].contains(measure)));
}

#[test]
fn each_fault_of_a_batch_names_its_field() {
    let shelf = pile().shelf();
    let bad = batch(&[(WHITE, 1), (50, 1)], 1.0, "cup");
    assert_eq!(pointers(measured(&shelf, &bad)), ["/components/1/paint"]);
    for (amount, measure, at) in [
        (f64::NAN, "ml", "/amount"),
        (f64::INFINITY, "cup", "/amount"),
        (-1.0, "m2", "/amount"),
        (0.2, "ml", "/amount"),
    ] {
        assert_eq!(
            pointers(measured(&shelf, &batch(&[(WHITE, 1)], amount, measure))),
            [at],
            "{amount} {measure}"
        );
    }
    let coats = BatchOf { coats: Some(40.0), ..batch(&[(WHITE, 1)], 2.0, "m2") };
    assert_eq!(pointers(measured(&shelf, &coats)), ["/coats"]);
}

#[test]
fn measures_are_known_by_their_ids() {
    for measure in Measure::ALL {
        assert_eq!(read(measure.id()).unwrap(), BatchIn::In(measure));
    }
    for (id, unit) in [("m2", BatchIn::M2), ("ft2", BatchIn::Ft2), ("left", BatchIn::Left)] {
        assert_eq!(read(id).unwrap(), unit);
    }
    assert!(read("Cup").unwrap_err().to_string().contains("use gallon"));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// Twice the batch takes twice of everything, and goes twice as far; the same in square metres and in square feet.
    #[test]
    fn twice_as_much_is_twice_as_much(a in 1u32..20, b in 1u32..20, ml in 20.0..400.0f64, m2 in 0.5..20.0f64) {
        let shelf = pile().shelf();
        let of = |amount, measure: &str| measured(&shelf, &batch(&[(WHITE, a), (BLUE, b)], amount, measure)).unwrap();
        let (one, two) = (of(ml, "ml"), of(2.0 * ml, "ml"));
        let weighed = |shown: &BatchMeasured| {
            let way = shown.ways.iter().find(|way| way.measure == "g").unwrap();
            (way.cost.unwrap(), way.covers_m2)
        };
        let ((cost, covers), (twice, further)) = (weighed(&one), weighed(&two));
        prop_assert!((twice / cost - 2.0).abs() < 1e-9 && (further / covers - 2.0).abs() < 1e-9);
        let (metric, feet) = (of(m2, "m2").ml, of(m2 / 0.092_903_04, "ft2").ml);
        prop_assert!((metric / feet - 1.0).abs() < 1e-9);
        // What is measured with spoons comes to what it says it comes to.
        for way in &one.ways {
            prop_assert!(way.ml > 0.0 && way.shift >= 0.0 && way.amounts.len() == 2);
        }
    }
}
