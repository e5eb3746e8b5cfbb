//! Jars: kept, used, found near a colour, labelled and thrown away.

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;

use crate::bench::{Bench, about};

fn number(value: &Value) -> f64 {
    value.as_f64().unwrap()
}

/// Jars of the demo by what is in them.
async fn jars(bench: &Bench) -> Vec<Value> {
    bench.get("/api/jars").await["jars"].as_array().unwrap().clone()
}

/// A use counts once however often it is sent, nothing comes from nowhere, and undo brings everything back.
#[tokio::test]
async fn a_jar_is_used_corrected_and_thrown_away() {
    let bench = Bench::demo().await;
    let all = jars(&bench).await;
    assert_eq!(all.len(), 5);
    let jar = all.iter().find(|jar| jar["left"] == "160 ml").unwrap();
    let at = format!("/api/pours/{}/jar", jar["id"].as_str().unwrap());

    let taken = json!({"id": Uuid::new_v4(), "ml": 60});
    for _ in 0..2 {
        let now = bench.post(&format!("{at}/uses"), taken.clone(), StatusCode::OK).await;
        assert_eq!((number(&now["left_ml"]), now["uses"].as_array().unwrap().len()), (100.0, 1));
    }
    let more = json!({"id": Uuid::new_v4(), "ml": 130});
    let refused = bench.post(&format!("{at}/uses"), more, StatusCode::UNPROCESSABLE_ENTITY).await;
    about(&refused, "/ml");

    let entry = |left: f64| json!({"left_ml": left, "place": "shelf 3", "client": null, "signs": ["smell"]});
    // 240 ml were poured, and 60 of them are used.
    let refused = bench.call(Method::PUT, &at, entry(181.0), StatusCode::UNPROCESSABLE_ENTITY).await;
    about(&refused, "/left_ml");
    assert!(refused.to_string().contains("at most 180.0 ml"), "{refused}");
    let odd = json!({"left_ml": 10, "signs": ["rust"]});
    bench.call(Method::PUT, &at, odd, StatusCode::UNPROCESSABLE_ENTITY).await;
    let sour = bench.call(Method::PUT, &at, entry(90.0), StatusCode::OK).await;
    assert_eq!(
        (&sour["state"], &sour["place"], number(&sour["left_ml"])),
        (&json!("spoiled"), &json!("shelf 3"), 90.0)
    );

    bench.call(Method::DELETE, &at, Value::Null, StatusCode::OK).await;
    assert_eq!(jars(&bench).await.len(), 4);
    bench.call(Method::PUT, &at, entry(10.0), StatusCode::CONFLICT).await;
    let change = &bench.get("/api/history").await["undo"]["change"];
    bench.post("/api/undo", json!({"change": change}), StatusCode::OK).await;
    assert_eq!(number(&bench.get(&at).await["left_ml"]), 90.0);
}

/// A finished pot becomes a jar once; an open one does not, nor one that is not there.
#[tokio::test]
async fn what_is_left_of_a_pot_is_kept() {
    let bench = Bench::demo().await;
    let mix = bench.get("/api/mixes").await[0]["id"].clone();
    let pour = bench.post("/api/pours", json!({"mix": mix, "batch_ml": 100}), StatusCode::OK).await;
    let at = format!("/api/pours/{}", pour["id"].as_str().unwrap());
    let step =
        json!({"id": Uuid::new_v4(), "paint": pour["paints"][0]["paint"], "measure": "ml", "count": 80});
    bench.post(&format!("{at}/steps"), step, StatusCode::OK).await;
    let entry = json!({"left_ml": 30, "place": "shelf 2"});
    bench.call(Method::PUT, &format!("{at}/jar"), entry.clone(), StatusCode::CONFLICT).await;
    bench.call(Method::GET, &format!("{at}/jar"), Value::Null, StatusCode::NOT_FOUND).await;
    bench.post(&format!("{at}/finish"), Value::Null, StatusCode::OK).await;
    let jar = bench.call(Method::PUT, &format!("{at}/jar"), entry, StatusCode::OK).await;
    assert_eq!((&jar["left"], &jar["state"]), (&json!("30 ml"), &json!("good")));
    // What is in a jar is not poured into again.
    bench.post(&format!("{at}/reopen"), Value::Null, StatusCode::CONFLICT).await;
    let labels = bench.get("/api/jars/labels").await;
    let label = labels.as_array().unwrap().iter().find(|label| label["id"] == pour["id"]).unwrap();
    assert_eq!((&label["total"], &label["until"]), (&json!("30 ml"), &jar["until"]));
    let log = bench.get("/api/log").await.to_string();
    assert!(log.contains("Kept 30 ml") && log.contains("in a jar"), "{log}");
}

/// The run sheet of the demo takes the committee's jar first; one that stood on the window sill with a skin is left alone.
#[tokio::test]
async fn the_run_sheet_takes_jars_first() {
    let bench = Bench::demo().await;
    let piece = bench.get("/api/piece").await;
    let sheet = bench.get(&format!("/api/pieces/{}/run-sheet", piece["id"].as_str().unwrap())).await;
    let used: Vec<&Value> =
        sheet["pots"].as_array().unwrap().iter().flat_map(|pot| pot["jars"].as_array().unwrap()).collect();
    let places: Vec<&Value> = used.iter().map(|jar| &jar["place"]).collect();
    assert!(places.contains(&&json!("shelf 2")) && !places.contains(&&json!("window sill")), "{places:?}");
    for pot in sheet["pots"].as_array().unwrap() {
        let kept: f64 = pot["jars"].as_array().unwrap().iter().map(|jar| number(&jar["ml"])).sum();
        assert!((number(&pot["ml"]) - kept - number(&pot["to_mix_ml"])).abs() < 1e-9, "{pot}");
    }
}

/// A step takes what it uses out of the jar as it is ticked off, and puts it back as the tick is taken back, by hand or by undo. Nothing is
/// lost and nothing comes from nowhere.
#[tokio::test]
async fn a_step_takes_its_paint_out_of_the_jar() {
    let bench = Bench::demo().await;
    let piece = bench.get("/api/piece").await;
    let path = format!("/api/pieces/{}/run-sheet", piece["id"].as_str().unwrap());
    let left = async || jars(&bench).await.iter().map(|jar| number(&jar["left_ml"])).sum::<f64>();
    let sheet = bench.get(&path).await;
    let step = sheet["steps"].as_array().unwrap()[0].clone();
    assert_eq!(step["name"], "Brushed coat, 2 of 2");
    let before = left().await;
    let done = format!("{path}/done?revision={}", sheet["revision"]);
    let ticked = bench.post(&done, json!({"step": step["id"]}), StatusCode::OK).await;
    let from: Vec<&str> =
        ticked["done"][0]["from_jars"].as_array().unwrap().iter().map(|one| one.as_str().unwrap()).collect();
    assert!(from.len() == 1 && from[0].contains(" ml from jar "), "{from:?}");
    let said: f64 = from[0].split(' ').next().unwrap().parse().unwrap();
    let after = left().await;
    assert!((before - after - said).abs() < 0.06 * said, "{before} {after} {said}");
    // The step needed at least that much, and the jar held no more.
    let needed: f64 = step["amount"].as_str().unwrap().split(' ').next().unwrap().parse().unwrap();
    assert!(said <= needed * 1.05 && said <= 140.0 * 1.05, "{said} of {needed}");

    let untick = format!("{path}/done/{}?revision={}", ticked["done"][0]["at_place"], ticked["revision"]);
    bench.call(Method::DELETE, &untick, Value::Null, StatusCode::OK).await;
    assert!((left().await - before).abs() < 1e-9);
    bench.undo().await;
    assert!((left().await - after).abs() < 1e-9, "ticked again");
    bench.undo().await;
    assert!((left().await - before).abs() < 1e-9);
}

/// A mended spot stands in the record and the log, and what it took is out of the jar.
#[tokio::test]
async fn a_mended_spot_is_on_record() {
    let bench = Bench::demo().await;
    let piece = bench.get("/api/piece").await;
    let path = format!("/api/pieces/{}", piece["id"].as_str().unwrap());
    let left = async || jars(&bench).await.iter().map(|jar| number(&jar["left_ml"])).sum::<f64>();
    let before = left().await;
    let spot = json!({"zone": "case", "spot": "palm", "note": "a touch lighter"});
    let record = bench.post(&format!("{path}/touch-up"), spot, StatusCode::OK).await;
    assert_eq!(record["touched_up"].as_array().unwrap().len(), 1);
    assert_eq!(record["touched_up"][0]["words"], "Case, a spot the size of a palm");
    assert_eq!(record["touched_up"][0]["note"], "a touch lighter");
    assert_eq!(bench.get(&format!("{path}/record")).await["touched_up"], record["touched_up"]);
    // A square decimetre of the one coat of it that is on: about 1 ml.
    assert!((0.9..1.3).contains(&(before - left().await)), "{} {}", before, left().await);
    let log = bench.get("/api/log").await;
    assert!(log.to_string().contains("Touched up a spot the size of a palm: case"), "{log}");
    let nothing = json!({"zone": "doors"});
    let refused = bench.post(&format!("{path}/touch-up"), nothing, StatusCode::UNPROCESSABLE_ENTITY).await;
    about(&refused, "/zone");
    bench.undo().await;
    assert!((left().await - before).abs() < 1e-9);
}
