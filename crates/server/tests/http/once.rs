//! A change that is asked for twice is made once, and everybody hears of it.

use std::time::Duration;

use reqwest::{Response, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;
use warm_blend_server::{Workspace, serve};

use crate::bench::Bench;

/// Posts under a key.
async fn under(key: &str, base: &str, path: &str, body: &Value) -> Response {
    let request = reqwest::Client::new().post(format!("{base}{path}")).header("idempotency-key", key);
    request.json(body).send().await.unwrap()
}

fn fresh_key() -> String {
    Uuid::new_v4().to_string()
}

#[tokio::test]
async fn the_answer_is_repeated_and_nothing_made_twice() {
    let bench = Bench::empty().await;
    let (key, rain) = (fresh_key(), json!({"name": "rain", "class": "water"}));
    let first = under(&key, &bench.base, "/api/paints", &rain).await;
    assert_eq!(first.status(), StatusCode::CREATED);
    let first: Value = first.json().await.unwrap();
    let again = under(&key, &bench.base, "/api/paints", &rain).await;
    assert_eq!(again.status(), StatusCode::CREATED);
    assert_eq!(again.json::<Value>().await.unwrap(), first);
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1);
    // A refusal is an answer too, and a key is for one request.
    let nameless = json!({"name": "", "class": "water"});
    let key = fresh_key();
    for _ in 0..2 {
        let refused = under(&key, &bench.base, "/api/paints", &nameless).await;
        assert_eq!(refused.status(), StatusCode::UNPROCESSABLE_ENTITY);
    }
    let elsewhere = under(&key, &bench.base, "/api/notes", &json!({"words": "dry"})).await;
    assert_eq!(elsewhere.json::<Value>().await.unwrap()["type"], "urn:warm-blend:key");
    let no_key = under("rain", &bench.base, "/api/paints", &rain).await;
    assert_eq!(no_key.status(), StatusCode::BAD_REQUEST);
    // Without a key each is a change of its own.
    bench.post("/api/paints", rain.clone(), StatusCode::CREATED).await;
    bench.post("/api/paints", rain, StatusCode::CREATED).await;
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 3);
}

/// Many ask at once, some of whom leave before they hear anything: it is made once all the same.
#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn asked_for_at_once_it_is_made_once() {
    let bench = Bench::empty().await;
    let (key, rain) = (fresh_key(), json!({"name": "rain", "class": "water"}));
    let mut asking = Vec::new();
    for n in 0..12 {
        let (key, base, rain) = (key.clone(), bench.base.clone(), rain.clone());
        asking.push(tokio::spawn(async move {
            let answer = under(&key, &base, "/api/paints", &rain);
            let patience = Duration::from_millis(if n % 3 == 0 { 1 } else { 20_000 });
            tokio::time::timeout(patience, answer).await.ok().map(|answer| answer.status())
        }));
    }
    for answer in asking {
        assert!(answer.await.unwrap().is_none_or(|status| status == StatusCode::CREATED));
    }
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1);
}

/// The program was killed after it had saved and before it could say so.
#[tokio::test]
async fn a_program_that_was_killed_makes_nothing_twice() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let (key, rain) = (fresh_key(), json!({"name": "rain", "class": "water"}));
    let before = serve(Workspace::open(&file).unwrap(), 0).await.unwrap();
    assert_eq!(under(&key, &before.url(), "/api/paints", &rain).await.status(), StatusCode::CREATED);
    drop(before);
    let bench = Bench::of(&file).await.unwrap();
    let shown = under(&key, &bench.base, "/api/paints", &rain).await;
    assert_eq!(shown.status(), StatusCode::CONFLICT);
    assert_eq!(shown.json::<Value>().await.unwrap()["type"], "urn:warm-blend:done");
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1);
}

/// Reads a stream of events until one of them holds a number above another.
async fn until_above(events: &mut Response, seen: u64) -> Value {
    loop {
        let piece = events.chunk().await.unwrap().expect("the stream goes on");
        let text = String::from_utf8_lossy(&piece).into_owned();
        for data in text.lines().filter_map(|line| line.strip_prefix("data: ")) {
            let change: Value = serde_json::from_str(data).unwrap();
            if change["count"].as_u64().unwrap() > seen {
                return change;
            }
        }
    }
}

#[tokio::test]
async fn everybody_hears_of_a_change_at_once() {
    let bench = Bench::empty().await;
    let mut events = bench.client.get(format!("{}/api/changes", bench.base)).send().await.unwrap();
    assert_eq!(events.headers()["content-type"], "text/event-stream");
    let (key, rain) = (fresh_key(), json!({"name": "rain", "class": "water"}));
    let heard = async {
        let change = until_above(&mut events, 0).await;
        assert_eq!(change["by"], key.as_str());
        // What was only looked at is no change; the next is.
        bench.get("/api/paints").await;
        bench.post("/api/paints", rain.clone(), StatusCode::CREATED).await;
        let next = until_above(&mut events, change["count"].as_u64().unwrap()).await;
        assert_eq!((next["count"].as_u64(), &next["by"]), (Some(2), &Value::Null));
    };
    let (_, ()) = tokio::join!(under(&key, &bench.base, "/api/paints", &rain), heard);
}
