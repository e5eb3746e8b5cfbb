//! Several pairs of hands on one workspace: no change is lost, none is made twice, and undo is nobody else's.

use std::collections::HashSet;
use std::sync::Arc;

use crate::bench::Bench;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

/// Sends JSON; the status and what was answered.
async fn send(bench: &Bench, method: Method, path: &str, body: Value) -> (StatusCode, Value) {
    let answer = bench.raw(method, path, "application/json", body.to_string()).await;
    let status = answer.status();
    (status, answer.json().await.unwrap_or(Value::Null))
}

/// Eight hands count one mix up, each from what it saw last: as many parts are in it as changes were acknowledged.
#[tokio::test(flavor = "multi_thread", worker_threads = 4)]
async fn no_change_is_written_over() {
    const HANDS: usize = 8;
    const EACH: usize = 6;
    let bench = Arc::new(Bench::demo().await);
    let fern = bench.paint("fern").await;
    let mix = json!({"components": [{"paint": fern, "parts": 1}]});
    let made = bench.post("/api/mixes", mix, StatusCode::CREATED).await;
    let path = format!("/api/mixes/{}", made["id"].as_str().unwrap());
    let hands: Vec<_> = (0..HANDS)
        .map(|_| {
            let (bench, path) = (Arc::clone(&bench), path.clone());
            tokio::spawn(async move {
                let mut refused = 0;
                for _ in 0..EACH {
                    loop {
                        let mut kept = bench.get(&path).await;
                        let parts = kept["entry"]["components"][0]["parts"].as_u64().unwrap();
                        kept["entry"]["components"][0]["parts"] = json!(parts + 1);
                        let put = format!("{path}?revision={}", kept["revision"]);
                        match send(&bench, Method::PUT, &put, kept["entry"].clone()).await {
                            (StatusCode::OK, _) => break,
                            (StatusCode::CONFLICT, problem) => {
                                assert_eq!(problem["type"], "urn:warm-blend:stale");
                                refused += 1;
                            }
                            other => panic!("{other:?}"),
                        }
                    }
                }
                refused
            })
        })
        .collect();
    let mut refused = 0;
    for hand in hands {
        refused += hand.await.unwrap();
    }
    let kept = bench.get(&path).await;
    assert_eq!(kept["entry"]["components"][0]["parts"], 1 + HANDS * EACH, "{refused} were refused");
    assert_eq!(kept["revision"], 1 + (HANDS * EACH) as i64);
}

/// Several who begin the same pot pour into one, and a step that is sent by each of them counts once.
#[tokio::test(flavor = "multi_thread", worker_threads = 4)]
async fn a_pot_that_several_begin_is_one() {
    let bench = Arc::new(Bench::demo().await);
    let mixes = bench.get("/api/mixes").await;
    let mix = mixes.as_array().unwrap().iter().find(|mix| mix["entry"]["name"] == "toasted straw").unwrap();
    let paint = mix["entry"]["components"][0]["paint"].clone();
    let begin = json!({"mix": mix["id"], "batch_ml": 200});
    let begun: Vec<_> = (0..6)
        .map(|_| {
            let (bench, begin) = (Arc::clone(&bench), begin.clone());
            tokio::spawn(async move { bench.post("/api/pours", begin, StatusCode::OK).await["id"].clone() })
        })
        .collect();
    let mut pots = HashSet::new();
    for pot in begun {
        pots.insert(pot.await.unwrap().as_str().unwrap().to_owned());
    }
    assert_eq!(pots.len(), 1, "{pots:?}");
    let pot = pots.into_iter().next().unwrap();
    let step =
        json!({"id": "01900000-0000-7000-8000-00000000abcd", "paint": paint, "measure": "ml", "count": 10});
    let sent: Vec<_> = (0..6)
        .map(|_| {
            let (bench, step, path) = (Arc::clone(&bench), step.clone(), format!("/api/pours/{pot}/steps"));
            tokio::spawn(async move { bench.post(&path, step, StatusCode::OK).await })
        })
        .collect();
    for step in sent {
        step.await.unwrap();
    }
    let pot = bench.get(&format!("/api/pours/{pot}")).await;
    assert_eq!(pot["steps"].as_array().unwrap().len(), 1, "{pot}");
}

/// Everybody undoes what they last saw on the button: what is turned back is always what was named, and each of it once.
#[tokio::test(flavor = "multi_thread", worker_threads = 4)]
async fn undo_is_nobody_elses() {
    const HANDS: usize = 5;
    let bench = Arc::new(Bench::empty().await);
    for n in 0..12 {
        let tin = json!({"name": format!("tin {n}"), "class": "water"});
        bench.post("/api/paints", tin, StatusCode::CREATED).await;
    }
    let hands: Vec<_> = (0..HANDS)
        .map(|hand| {
            let bench = Arc::clone(&bench);
            tokio::spawn(async move {
                let mut undone = Vec::new();
                for n in 0..4 {
                    let tin = json!({"name": format!("hand {hand} {n}"), "class": "water"});
                    bench.post("/api/paints", tin, StatusCode::CREATED).await;
                    let meant = bench.get("/api/history").await["undo"].clone();
                    let body = json!({"change": meant["change"]});
                    match send(&bench, Method::POST, "/api/undo", body).await {
                        (StatusCode::OK, now) => {
                            assert_eq!(now["done"]["words"], meant["words"]);
                            undone.push(meant["document"].as_str().unwrap().to_owned());
                        }
                        (StatusCode::CONFLICT, problem) => {
                            assert_eq!(problem["type"], "urn:warm-blend:overtaken");
                        }
                        other => panic!("{other:?}"),
                    }
                }
                undone
            })
        })
        .collect();
    let mut undone = Vec::new();
    for hand in hands {
        undone.extend(hand.await.unwrap());
    }
    let once: HashSet<&String> = undone.iter().collect();
    assert_eq!(once.len(), undone.len(), "each was turned back once");
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 12 + HANDS * 4 - undone.len());
}

/// Every kind of document: made, changed, deleted, and all of it turned back and made again to the letter.
#[tokio::test]
async fn every_kind_of_document_is_undone_to_the_letter() {
    let bench = Bench::demo().await;
    let fern = bench.paint("fern").await;
    let white = bench.paint("chimney white").await;
    let pot = |parts: u32| json!([{"paint": fern, "parts": parts}, {"paint": white, "parts": 1}]);
    let created = StatusCode::CREATED;
    let mut docs: Vec<(String, Vec<Value>)> = Vec::new();

    // A paint, a mix, a board, a piece: each made, then changed twice.
    let tin = |name: &str| json!({"name": name, "class": "clay", "colour": {"hex": "#55606b"}});
    let made = bench.post("/api/paints", tin("one"), created).await;
    docs.push((format!("/api/paints/{}", id(&made)), vec![tin("two"), tin("three")]));
    let made = bench.post("/api/mixes", json!({"components": pot(1)}), created).await;
    let mix = |parts: u32, name: &str| json!({"components": pot(parts), "name": name});
    docs.push((format!("/api/mixes/{}", id(&made)), vec![mix(2, "pale fern"), mix(3, "paler fern")]));
    let board = json!({"name": "trial", "ground": "red-stain", "template": "aged", "base": null});
    let made = bench.post("/api/boards", board, created).await;
    let renamed = |name: &str| {
        let mut entry = made["entry"].clone();
        entry["name"] = json!(name);
        entry
    };
    docs.push((format!("/api/boards/{}", id(&made)), vec![renamed("trial two"), renamed("trial three")]));

    for (path, changes) in docs {
        let mut states = vec![bench.get(&path).await["entry"].clone()];
        for change in changes {
            let revision = bench.get(&path).await["revision"].clone();
            let put = format!("{path}?revision={revision}");
            let kept = bench.call(Method::PUT, &put, change, StatusCode::OK).await;
            states.push(kept["entry"].clone());
        }
        let revision = bench.get(&path).await["revision"].clone();
        let gone = format!("{path}?revision={revision}&confirmed=true");
        bench.call(Method::DELETE, &gone, Value::Null, StatusCode::NO_CONTENT).await;
        // Back from being deleted, and through every state to the first.
        for state in states.iter().rev() {
            bench.undo().await;
            assert_eq!(&bench.get(&path).await["entry"], state, "{path}");
        }
        for state in &states[1..] {
            bench.redo().await;
            assert_eq!(&bench.get(&path).await["entry"], state, "{path}");
        }
    }
}

fn id(made: &Value) -> &str {
    made["id"].as_str().unwrap()
}
