//! Match, ladder and blend over the demo shelf.

use crate::bench::Bench;
use reqwest::StatusCode;
use serde_json::{Value, json};

fn total(recipe: &Value) -> u64 {
    recipe["parts"].as_array().unwrap().iter().map(|part| part["parts"].as_u64().unwrap()).sum()
}

/// A colour that is on the shelf is that paint alone; the parts that are found are what a preview of them says.
#[tokio::test]
async fn a_target_is_found_and_is_what_the_pot_says() {
    let bench = Bench::demo().await;
    let olive = json!({"target": {"hex": "#9a9a5e"}, "batch_ml": 250});
    let found = bench.post("/api/bench/match", olive, StatusCode::OK).await;
    assert!(found["missing"].is_null(), "{found}");
    let best = &found["recipes"][0];
    assert!(total(best) <= 12 && best["parts"].as_array().unwrap().len() <= 3);
    assert!(best["judgement"]["difference"].as_f64().unwrap() < 1.0, "{best}");
    assert!(best["cost"].as_f64().unwrap() > 0.0 && best["enough"] == true);
    let components: Vec<Value> = best["parts"]
        .as_array()
        .unwrap()
        .iter()
        .map(|part| json!({"paint": part["paint"], "parts": part["parts"]}))
        .collect();
    let entry = json!({"components": components, "target": {"hex": "#9a9a5e"}});
    let shown = bench.post("/api/mixes/preview", entry, StatusCode::OK).await;
    assert_eq!(shown["judgement"]["difference"], best["judgement"]["difference"]);
    assert_eq!(shown["swatch"]["face"]["hex"], best["swatch"]["face"]["hex"]);

    let own = bench.post("/api/bench/match", json!({"target": {"hex": "#e9dfc8"}}), StatusCode::OK).await;
    assert_eq!(own["recipes"][0]["parts"].as_array().unwrap().len(), 1);
    assert_eq!(own["recipes"][0]["parts"][0]["name"], "oat white");
}

#[tokio::test]
async fn the_painters_limits_hold() {
    let bench = Bench::demo().await;
    let (olive, black) = (bench.paint("mustard seed").await, bench.paint("lamp black").await);
    let wanted =
        json!({"target": {"hex": "#55584a"}, "with": [olive], "without": [black], "paints": 2, "parts": 6});
    let found = bench.post("/api/bench/match", wanted, StatusCode::OK).await;
    for recipe in found["recipes"].as_array().unwrap() {
        let parts = recipe["parts"].as_array().unwrap();
        assert!(parts.iter().any(|part| part["paint"] == json!(olive)));
        assert!(parts.iter().all(|part| part["paint"] != json!(black)));
        assert!(parts.len() <= 2 && total(recipe) <= 6);
    }
    let chalk = json!({"target": {"hex": "#55584a"}, "classes": ["chalk"], "no_black": true});
    let found = bench.post("/api/bench/match", chalk, StatusCode::OK).await;
    let names: Vec<&str> = found["recipes"]
        .as_array()
        .unwrap()
        .iter()
        .flat_map(|recipe| recipe["parts"].as_array().unwrap())
        .map(|part| part["name"].as_str().unwrap())
        .collect();
    assert!(!names.is_empty() && !names.contains(&"lamp black") && !names.contains(&"oxblood"), "{names:?}");
}

#[tokio::test]
async fn what_cannot_be_reached_or_asked_is_said() {
    let bench = Bench::demo().await;
    let bright = json!({"target": {"hex": "#ffe000"}});
    let found = bench.post("/api/bench/match", bright, StatusCode::OK).await;
    assert_eq!(found["missing"], "nothing here is this yellow");
    assert!(!found["recipes"].as_array().unwrap().is_empty(), "the nearest is shown all the same");
    let nonsense =
        json!({"target": {"hex": "#12"}, "paints": 9, "parts": 0, "classes": ["milk"], "batch_ml": -1});
    let told = bench.post("/api/bench/match", nonsense, StatusCode::UNPROCESSABLE_ENTITY).await;
    let pointers: Vec<&str> =
        told["errors"].as_array().unwrap().iter().map(|error| error["pointer"].as_str().unwrap()).collect();
    assert_eq!(pointers, ["/target/hex", "/paints", "/parts", "/classes/0", "/batch_ml"]);

    let empty = Bench::empty().await;
    let found = empty.post("/api/bench/match", json!({"target": {"hex": "#808080"}}), StatusCode::OK).await;
    assert_eq!(found["recipes"], json!([]));
    assert_eq!(found["paints"], 0);
}

/// Every shade is a mix that can be poured: what its parts come to is what it is said to be.
#[tokio::test]
async fn a_ladder_is_made_of_mixes() {
    let bench = Bench::demo().await;
    let blue = bench.paint("slate blue").await;
    let asked = json!({"base": [{"paint": blue, "parts": 1}]});
    let ladder = bench.post("/api/bench/ladder", asked, StatusCode::OK).await;
    let rungs = ladder["rungs"].as_array().unwrap();
    assert_eq!(rungs.len(), 11);
    assert_eq!(ladder["shade"], 6.0);
    let made = rungs.iter().filter(|rung| !rung["made"].is_null());
    assert!(made.clone().count() >= 8, "{ladder}");
    for rung in made {
        let entry = json!({"components": rung["made"]["components"], "target": null});
        let shown = bench.post("/api/mixes/preview", entry, StatusCode::OK).await;
        assert_eq!(shown["swatch"]["face"]["hex"], rung["made"]["hex"], "{rung}");
    }
    let none = json!({"base": [], "shade": 6});
    assert!(
        bench.post("/api/bench/ladder", none, StatusCode::UNPROCESSABLE_ENTITY).await["detail"].is_string()
    );
    let wide = json!({"base": [{"paint": blue, "parts": 1}], "shade": 60});
    bench.post("/api/bench/ladder", wide, StatusCode::UNPROCESSABLE_ENTITY).await;
}

#[tokio::test]
async fn a_blend_tells_what_lies_between() {
    let bench = Bench::demo().await;
    let one = async |name: &str| json!([{"paint": bench.paint(name).await, "parts": 1}]);
    let colours = [one("mustard seed").await, one("night blue").await, one("oat white").await];
    let blend = bench.post("/api/bench/blend", json!({"colours": colours}), StatusCode::OK).await;
    assert_eq!(blend["paths"].as_array().unwrap().len(), 2);
    let pairs = blend["pairs"].as_array().unwrap();
    assert_eq!(pairs.len(), 3);
    assert_eq!(pairs[0]["words"], "turns green", "{blend}");
    assert_eq!(pairs[0]["apart"], true);
    // Night blue takes over the cream: half-way is far on the cream's side.
    let half = blend["paths"][1]["half_way"].as_f64().unwrap();
    assert!(half > 0.6, "{half}");
    let alone = json!({"colours": [colours[0]]});
    bench.post("/api/bench/blend", alone, StatusCode::UNPROCESSABLE_ENTITY).await;
}

/// Six and two fluid ounces are a cup of three to one; what a batch takes is told with what it costs and what is short.
#[tokio::test]
async fn a_batch_is_measured_out() {
    let bench = Bench::demo().await;
    let (grey, navy) = (bench.paint("dove grey").await, bench.paint("night blue").await);
    let components = json!([{"paint": grey, "parts": 3}, {"paint": navy, "parts": 1}]);
    let cup =
        json!({"components": components, "amount": 1, "measure": "cup", "owned": ["fl-oz", "tbsp", "tsp"]});
    let batch = bench.post("/api/bench/measure", cup, StatusCode::OK).await;
    assert_eq!(batch["ways"][0]["amounts"], json!(["6 fl oz", "2 fl oz"]));
    assert_eq!(batch["ways"][0]["words"], "nobody sees the rounding");
    assert!((batch["ml"].as_f64().unwrap() - 236.5882).abs() < 1e-9);
    assert!(batch["cost"].as_f64().unwrap() > 0.0);
    assert_eq!(batch["short"], json!([]));
    let much = json!({"components": components, "amount": 2, "measure": "gallon"});
    let batch = bench.post("/api/bench/measure", much, StatusCode::OK).await;
    assert_eq!(batch["short"], json!(["dove grey", "night blue"]));

    for (amount, measure, pointer) in [
        (-1.0, "cup", "/amount"),
        (1e9, "gallon", "/amount"),
        (0.0, "ml", "/amount"),
        (1.0, "bucket", "/measure"),
    ] {
        let asked = json!({"components": components, "amount": amount, "measure": measure});
        let told = bench.post("/api/bench/measure", asked, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert_eq!(told["errors"][0]["pointer"], pointer, "{told}");
    }
    let empty = json!({"components": [], "amount": 1, "measure": "cup"});
    bench.post("/api/bench/measure", empty, StatusCode::UNPROCESSABLE_ENTITY).await;
}

/// A pot that is off is brought nearer; what it comes to in parts is what is promised; what is asked wrongly is said.
#[tokio::test]
async fn a_pot_is_corrected() {
    let bench = Bench::demo().await;
    let (grey, navy) = (bench.paint("dove grey").await, bench.paint("night blue").await);
    let components = json!([{"paint": grey, "parts": 3}, {"paint": navy, "parts": 1}]);
    let target = json!({"hex": "#6c7482"});
    let asked = json!({"components": components, "amount": 8, "measure": "fl-oz", "target": target});
    let told = bench.post("/api/bench/correct", asked, StatusCode::OK).await;
    let now = told["now"]["difference"].as_f64().unwrap();
    let next = &told["next"];
    assert_eq!(next["additions"].as_array().unwrap().len(), 1);
    assert!(next["judgement"]["difference"].as_f64().unwrap() < now, "{told}");
    let best = &told["ways"][0];
    assert!(best["judgement"]["difference"].as_f64().unwrap() < 1.5, "{best}");
    assert!(best["discard"].is_null() && best["amount"].as_f64().unwrap() > 8.0);
    let entry = json!({"components": best["components"], "target": target});
    let shown = bench.post("/api/mixes/preview", entry, StatusCode::OK).await;
    let (promised, comes) = (&best["judgement"]["difference"], &shown["judgement"]["difference"]);
    assert!((promised.as_f64().unwrap() - comes.as_f64().unwrap()).abs() < 0.2, "{promised} {comes}");

    // A full pot: something has to come out first.
    let full = json!({"components": components, "amount": 8, "measure": "fl-oz", "room": 8, "target": {"hex": "#c9cdd2"}});
    let told = bench.post("/api/bench/correct", full, StatusCode::OK).await;
    assert!(told["ways"][0]["discard"].as_str().unwrap().ends_with("tbsp"), "{told}");
    assert!(told["ways"][0]["amount"].as_f64().unwrap() <= 8.0 + 1e-9);

    for (amount, room, pointer) in
        [(-3.0, None, "/amount"), (1e12, None, "/amount"), (8.0, Some(2.0), "/room")]
    {
        let asked = json!({"components": components, "amount": amount, "measure": "fl-oz", "room": room, "target": target});
        let told = bench.post("/api/bench/correct", asked, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert_eq!(told["errors"][0]["pointer"], pointer, "{told}");
    }
}
