//! A pot is poured: by spoons, by weight, by a scale; by two people at once.

use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::{Duration, Instant};

use crate::bench::Bench;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;
use warm_blend_store::TraceEvent;

fn number(value: &Value) -> f64 {
    value.as_f64().unwrap_or_else(|| panic!("not a number: {value}"))
}

/// A mix of 3 dove grey and 1 night blue is begun to be poured, 200 ml.
async fn begun(bench: &Bench) -> (Value, String, String) {
    let (grey, blue) = (bench.paint("dove grey").await, bench.paint("night blue").await);
    let entry = json!({
        "name": "case",
        "components": [{"paint": grey, "parts": 3}, {"paint": blue, "parts": 1}],
        "target": {"hex": "#6c7482"},
    });
    let mix = bench.post("/api/mixes", entry, StatusCode::CREATED).await;
    let pour = bench.post("/api/pours", json!({"mix": mix["id"], "batch_ml": 200}), StatusCode::OK).await;
    (pour, grey, blue)
}

async fn step(
    bench: &Bench,
    pour: &Value,
    paint: &str,
    measure: &str,
    count: f64,
    status: StatusCode,
) -> Value {
    let address = format!("/api/pours/{}/steps?measure=tsp", pour["id"].as_str().unwrap());
    let entry = json!({"id": Uuid::new_v4(), "paint": paint, "measure": measure, "count": count});
    bench.post(&address, entry, status).await
}

#[tokio::test]
async fn what_is_poured_is_the_recipe() {
    let bench = Bench::demo().await;
    let (pour, grey, blue) = begun(&bench).await;
    assert!(pour["swatch"].is_null() && pour["steps"] == json!([]));
    assert_eq!(number(&pour["paints"][0]["planned_ml"]), 150.0);

    step(&bench, &pour, &grey, "ml", 150.0, StatusCode::OK).await;
    let over = step(&bench, &pour, &blue, "ml", 60.0, StatusCode::OK).await;
    // 10 ml of the blue too many: 30 ml, 6 tsp, of the grey bring the ratio back.
    assert_eq!(over["paints"][0]["left"], "6 tsp");
    assert_eq!(over["paints"][1]["over"], "2 tsp");
    assert!(number(&over["against_plan"]["difference"]) > 0.5, "{over}");
    assert!(over["against_plan"]["words"].as_str().unwrap().contains("darker"));

    let back = step(&bench, &pour, &grey, "ml", 30.0, StatusCode::OK).await;
    assert!(number(&back["against_plan"]["difference"]) < 1e-6);
    assert_eq!(back["recipe"], json!([{"paint": grey, "parts": 3}, {"paint": blue, "parts": 1}]));
    assert!(number(&back["total_ml"]) - 240.0 < 1e-9);

    // The live colour is that of the same mix on the bench.
    let entry = json!({"components": back["recipe"], "target": {"hex": "#6c7482"}, "name": null});
    let shown = bench.post("/api/mixes/preview", entry, StatusCode::OK).await;
    assert_eq!(shown["swatch"]["face"]["hex"], back["swatch"]["face"]["hex"]);
}

/// The records of all pots tell how much a touch is; a step reads them once, however many there are.
#[tokio::test]
async fn a_step_reads_the_pots_once() {
    static READS: AtomicUsize = AtomicUsize::new(0);
    let bench = Bench::demo_traced(|event| {
        if let TraceEvent::Stmt(statement, _) = event {
            let sql = statement.expanded_sql().unwrap_or_default();
            let all_pots = sql.contains("body FROM document WHERE kind = 'pour'");
            READS.fetch_add(usize::from(all_pots), Ordering::SeqCst);
        }
    })
    .await;
    let (pour, grey, blue) = begun(&bench).await;
    // What is learned from pots reads them in the background as well: it is up to date after the first step.
    step(&bench, &pour, &grey, "ml", 30.0, StatusCode::OK).await;
    for count in [20.0, 10.0, 5.0] {
        let before = READS.load(Ordering::SeqCst);
        step(&bench, &pour, &blue, "ml", count, StatusCode::OK).await;
        assert_eq!(READS.load(Ordering::SeqCst) - before, 1, "after {count} ml");
    }
}

/// A millilitre of dove grey weighs what its class usually does (1.45 g, common practice) until its tin says otherwise.
#[tokio::test]
async fn weights_become_volumes() {
    let bench = Bench::demo().await;
    let (pour, grey, _) = begun(&bench).await;
    let weighed = step(&bench, &pour, &grey, "g", 145.0, StatusCode::OK).await;
    assert!((number(&weighed["total_ml"]) - 100.0).abs() < 1e-9);
    assert!(weighed["usual_density"].as_array().unwrap().contains(&json!("dove grey")));
    assert_eq!(weighed["steps"][0]["amount"], "145.0 g");
    let touched = step(&bench, &pour, &grey, "touch", 0.0, StatusCode::OK).await;
    assert_eq!(touched["steps"][0]["amount"], "a touch");
    assert!((number(&touched["total_ml"]) - 100.0 - number(&touched["touch_ml"])).abs() < 1e-9);
}

#[tokio::test]
async fn what_cannot_be_poured_says_why() {
    let bench = Bench::demo().await;
    let (pour, grey, _) = begun(&bench).await;
    let refused = StatusCode::UNPROCESSABLE_ENTITY;
    for (measure, count, word) in [
        ("ml", -3.0, "above zero"),
        ("ml", 1e9, "too large"),
        ("pinch", 1.0, "not a valid measure"),
        ("g", 0.0, "above zero"),
    ] {
        let problem = step(&bench, &pour, &grey, measure, count, refused).await;
        assert!(problem["detail"].as_str().unwrap().contains(word), "{problem}");
    }
    step(&bench, &pour, &grey, "ml", 20.0, StatusCode::OK).await;
    let address = format!("/api/pours/{}/steps", pour["id"].as_str().unwrap());
    let out = |ml: f64| json!({"id": Uuid::new_v4(), "measure": "ml", "count": ml});
    let problem = bench.post(&address, out(50.0), refused).await;
    assert_eq!(problem["errors"][0]["pointer"], "/count");
    assert!(problem["detail"].as_str().unwrap().contains("20.0 ml"), "{problem}");
    let less = bench.post(&address, out(5.0), StatusCode::OK).await;
    assert!((number(&less["total_ml"]) - 15.0).abs() < 1e-9);
    // There is no scale here.
    let problem = step(&bench, &pour, &grey, "scale", 0.0, StatusCode::CONFLICT).await;
    assert!(problem["detail"].as_str().unwrap().contains("no signal"), "{problem}");
    let begin = json!({"mix": pour["mix"], "batch_ml": -4});
    // The pot that is open is the answer, whatever is asked of a new one.
    assert_eq!(bench.post("/api/pours", begin, StatusCode::OK).await["id"], pour["id"]);
}

/// Two tabs pour into one pot: nothing of either is lost, a step that was sent twice counts once, and only what is still the
/// last can be taken back.
#[tokio::test]
async fn two_tabs_pour_into_one_pot() {
    let bench = Bench::demo().await;
    let (pour, grey, blue) = begun(&bench).await;
    let address = format!("/api/pours/{}/steps", pour["id"].as_str().unwrap());
    let entry = |paint: &str| json!({"id": Uuid::new_v4(), "paint": paint, "measure": "ml", "count": 1});
    let mine: Vec<Value> = (0..10).map(|_| entry(&grey)).collect();
    let theirs: Vec<Value> = (0..10).map(|_| entry(&blue)).collect();
    for (one, other) in mine.iter().zip(&theirs) {
        let (first, second) = tokio::join!(
            bench.post(&address, one.clone(), StatusCode::OK),
            bench.post(&address, other.clone(), StatusCode::OK)
        );
        assert!(number(&first["total_ml"]) > 0.0 && number(&second["total_ml"]) > 0.0);
    }
    let again = bench.post(&address, mine[9].clone(), StatusCode::OK).await;
    assert_eq!(again["steps"].as_array().unwrap().len(), 20);
    assert!((number(&again["total_ml"]) - 20.0).abs() < 1e-9);

    let steps = again["steps"].as_array().unwrap();
    let (last, before) = (steps[0]["id"].as_str().unwrap(), steps[1]["id"].as_str().unwrap());
    let stale =
        bench.call(Method::DELETE, &format!("{address}/{before}"), Value::Null, StatusCode::CONFLICT).await;
    assert!(stale["detail"].as_str().unwrap().contains("last step"), "{stale}");
    let less = bench.call(Method::DELETE, &format!("{address}/{last}"), Value::Null, StatusCode::OK).await;
    assert_eq!(less["steps"].as_array().unwrap().len(), 19);
    // Undo of the workspace brings it back.
    bench.undo().await;
    let pot = bench.get(&format!("/api/pours/{}", pour["id"].as_str().unwrap())).await;
    assert_eq!(pot["steps"].as_array().unwrap().len(), 20);
}

#[tokio::test]
async fn a_finished_pot_is_read_and_labelled() {
    let bench = Bench::demo().await;
    let (pour, grey, blue) = begun(&bench).await;
    let id = pour["id"].as_str().unwrap();
    let empty = bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::CONFLICT).await;
    assert!(empty["detail"].as_str().unwrap().contains("nothing poured yet"), "{empty}");
    step(&bench, &pour, &grey, "ml", 151.0, StatusCode::OK).await;
    step(&bench, &pour, &blue, "ml", 50.0, StatusCode::OK).await;
    bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::OK).await;
    let closed = step(&bench, &pour, &grey, "ml", 1.0, StatusCode::CONFLICT).await;
    assert!(closed["detail"].as_str().unwrap().contains("finished"), "{closed}");

    let of = json!([{"paint": grey, "parts": 151}, {"paint": blue, "parts": 50}]);
    let read = bench.post("/api/reader/read", json!({"of": of}), StatusCode::OK).await;
    let reading = json!({"of": of, "pour": "scale", "thick": read["thick"], "source": "reader", "pot": id});
    bench.post("/api/readings", reading, StatusCode::CREATED).await;
    let reply = bench.get(&format!("/api/pours/{id}")).await;
    assert_eq!(reply["readings"].as_array().unwrap().len(), 1);
    assert!(number(&reply["readings"][0]["difference"]) >= 0.0);

    let place = json!({"place": " shelf 3 "});
    bench.call(Method::PUT, &format!("/api/pours/{id}/place"), place, StatusCode::OK).await;
    let label = bench.get(&format!("/api/pours/{id}/label?measure=tsp")).await;
    let parts = label["parts"].as_array().unwrap();
    let sum: f64 = parts.iter().map(|part| number(&part["ml"])).sum();
    assert!((sum - number(&label["total_ml"])).abs() < 1e-9, "the label adds up to the batch");
    assert_eq!((label["place"].as_str(), parts[0]["parts"].as_u64()), (Some("shelf 3"), Some(3)));
    let text = label["text"].as_str().unwrap();
    for word in ["3 dove grey : 1 night blue", "6.8 fl oz", "shelf 3", label["code"].as_str().unwrap()] {
        assert!(text.contains(word), "{word} in {text}");
    }
    assert!(label["code_path"].as_str().unwrap().starts_with("M0 0h7"));
    assert_eq!(bench.get("/api/pours").await[0]["code"], label["code"]);
}

/// A finished pot takes what was poured off the stock of its tins, no further than they hold; opened again it gives just that back, and
/// one step of undo turns all of it back.
#[tokio::test]
async fn a_finished_pot_takes_its_stock() {
    let bench = Bench::demo().await;
    let (pour, grey, blue) = begun(&bench).await;
    let id = pour["id"].as_str().unwrap();
    let stock = async || {
        let of = async |paint: &str| {
            number(&bench.get(&format!("/api/paints/{paint}")).await["entry"]["stock_ml"])
        };
        (of(&grey).await, of(&blue).await)
    };
    assert_eq!(stock().await, (470.0, 420.0));
    step(&bench, &pour, &grey, "ml", 150.0, StatusCode::OK).await;
    step(&bench, &pour, &blue, "ml", 500.0, StatusCode::OK).await;
    assert_eq!(stock().await, (470.0, 420.0), "nothing is taken while it is poured");
    bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::OK).await;
    assert_eq!(stock().await, (320.0, 0.0));
    // Finished twice takes once.
    bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::OK).await;
    assert_eq!(stock().await, (320.0, 0.0));
    bench.post(&format!("/api/pours/{id}/reopen"), json!({}), StatusCode::OK).await;
    assert_eq!(stock().await, (470.0, 420.0));
    bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::OK).await;
    assert_eq!(stock().await, (320.0, 0.0));
    bench.undo().await;
    assert_eq!(stock().await, (470.0, 420.0));
    assert!(bench.get(&format!("/api/pours/{id}")).await["finished_at"].is_null());
    bench.redo().await;
    assert_eq!(stock().await, (320.0, 0.0));
}

/// Two tins of a finished pot that turn out to be one: opened again, the one that stays has back what both gave.
#[tokio::test]
async fn a_merged_tin_gets_its_stock_back() {
    let bench = Bench::demo().await;
    let (pour, grey, blue) = begun(&bench).await;
    let id = pour["id"].as_str().unwrap();
    step(&bench, &pour, &grey, "ml", 150.0, StatusCode::OK).await;
    step(&bench, &pour, &blue, "ml", 50.0, StatusCode::OK).await;
    bench.post(&format!("/api/pours/{id}/finish"), json!({}), StatusCode::OK).await;
    bench.post("/api/paints/merge", json!({"keep": grey, "gone": blue}), StatusCode::OK).await;
    bench.post(&format!("/api/pours/{id}/reopen"), json!({}), StatusCode::OK).await;
    let kept = bench.get(&format!("/api/paints/{grey}")).await;
    assert_eq!(number(&kept["entry"]["stock_ml"]), 470.0 + 420.0);
}

/// The simulated scale, as a process speaks it: pour, overshoot, lift, unplug.
#[tokio::test]
async fn poured_by_the_scale() {
    let bench = Bench::demo_with_scale().await;
    let (pour, grey, _) = begun(&bench).await;
    let until = async |pan: &str| -> Value {
        let end = Instant::now() + Duration::from_secs(10);
        loop {
            let scale = bench.get("/api/scale").await;
            if scale["pan"] == pan {
                return scale;
            }
            assert!(Instant::now() < end, "{scale}");
            tokio::time::sleep(Duration::from_millis(30)).await;
        }
    };
    let action =
        async |action: Value| bench.post("/api/scale/simulated", action, StatusCode::NO_CONTENT).await;
    let scale = until("steady").await;
    assert_eq!((scale["simulated"].as_bool(), scale["name"].as_str()), (Some(true), Some("simulated scale")));
    action(json!({"action": "pour", "grams": 29.0})).await;
    until("moving").await;
    let scale = until("steady").await;
    assert!((number(&scale["grams"]) - 29.0).abs() < 1.0, "{scale}");
    let taken = step(&bench, &pour, &grey, "scale", 0.0, StatusCode::OK).await;
    let ml = number(&taken["total_ml"]);
    assert!((ml - 20.0).abs() < 0.7, "{taken}");
    // What was recorded begins anew.
    let problem = step(&bench, &pour, &grey, "scale", 0.0, StatusCode::CONFLICT).await;
    assert!(problem["detail"].as_str().unwrap().contains("nothing added since the last pour"), "{problem}");

    action(json!({"action": "pour", "grams": 0.9})).await;
    until("moving").await;
    until("steady").await;
    let touched = step(&bench, &pour, &grey, "scale-touch", 0.0, StatusCode::OK).await;
    assert_eq!(touched["touches"], 1);
    assert!((number(&touched["touch_ml"]) * 1.45 - 0.9).abs() < 0.5, "{touched}");

    action(json!({"action": "lift"})).await;
    until("lifted").await;
    action(json!({"action": "put back"})).await;
    until("steady").await;
    action(json!({"action": "pour", "grams": 10.0})).await;
    until("moving").await;
    until("steady").await;
    action(json!({"action": "unplug"})).await;
    let silent = until("silent").await;
    assert!(
        (number(&silent["grams"]) - 10.0).abs() < 1.0 && silent["trouble"].as_str().unwrap().contains("plug")
    );
    let scale = until("steady").await;
    assert!(
        (number(&scale["grams"]) - 10.0).abs() < 1.0,
        "what went in before the silence is not lost: {scale}"
    );
    let problem =
        bench.post("/api/scale/simulated", json!({"action": "pour"}), StatusCode::UNPROCESSABLE_ENTITY).await;
    assert_eq!(problem["errors"][0]["pointer"], "/grams");
}
