//! Guidance and practice over HTTP.

use crate::bench::Bench;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const OK: StatusCode = StatusCode::OK;
const CREATED: StatusCode = StatusCode::CREATED;
const REFUSED: StatusCode = StatusCode::UNPROCESSABLE_ENTITY;

async fn done(bench: &Bench) -> Vec<bool> {
    let hour = bench.get("/api/first-hour").await;
    hour["steps"].as_array().unwrap().iter().map(|step| step["done"].as_bool().unwrap()).collect()
}

#[tokio::test]
async fn the_first_hour_follows_the_work() {
    let bench = Bench::empty().await;
    assert_eq!(done(&bench).await, [false; 8]);
    assert_eq!(bench.get("/api/first-hour").await["offered"], true);
    let white = json!({"name": "lime white", "class": "chalk", "colour": {"hex": "#f1eee4"}});
    let kept = bench.post("/api/paints?may_be_white=true", white, CREATED).await;
    assert_eq!(kept["house_white"], true);
    assert_eq!(bench.get("/api/workshop").await["entry"]["house_white"], kept["id"]);
    let strong = json!({"name": "harbour", "class": "chalk", "colour": {"hex": "#2f4b66"}});
    let blue = bench.post("/api/paints?may_be_white=true", strong, CREATED).await;
    assert_eq!(blue["house_white"], false);
    assert_eq!(done(&bench).await[..4], [true, true, false, false]);
    let tint = json!({
        "of": [{"paint": blue["id"], "parts": 1.0}, {"paint": kept["id"], "parts": 1.0}],
        "thick": {"lab": [62.0, -4.0, -12.0]}, "source": "reader", "pour": "scale"
    });
    bench.post("/api/readings", tint, CREATED).await;
    assert!(done(&bench).await[3]);
    // The white and the choice are one step: undo takes both away.
    for _ in 0..3 {
        let change = bench.get("/api/history").await["undo"]["change"].clone();
        bench.post("/api/undo", json!({"change": change}), OK).await;
    }
    assert_eq!(done(&bench).await, [false; 8]);
    assert!(bench.get("/api/workshop").await["entry"]["house_white"].is_null());
    // The demo is six weeks old: nothing is offered there.
    assert_eq!(Bench::demo().await.get("/api/first-hour").await["offered"], false);
}

#[tokio::test]
async fn a_prediction_says_what_it_rests_on() {
    let bench = Bench::demo().await;
    let (grey, blue) = (bench.paint("dove grey").await, bench.paint("night blue").await);
    let entry = json!({"components": [{"paint": grey, "parts": 3}, {"paint": blue, "parts": 1}]});
    let why = bench.post("/api/mixes/why", entry.clone(), OK).await;
    let number = |of: &Value| of.as_f64().unwrap();
    let within = number(&why["within"]);
    let changes = |one: &Value| number(&one["moved"]).max(number(&one["within"]) - within);
    let changes: Vec<f64> = why["evidence"].as_array().unwrap().iter().map(changes).collect();
    assert!(!changes.is_empty() && changes.is_sorted_by(|a, b| a >= b), "{why}");
    let preview = bench.post("/api/mixes/preview", entry, OK).await;
    assert_eq!(why["within"], preview["swatch"]["within"]);
    assert!(bench.post("/api/mixes/why", json!({"components": []}), OK).await.is_null());
    bench.post("/api/mixes/why", json!({"components": [{"paint": grey, "parts": 0}]}), REFUSED).await;
}

/// A strip names what it is least sure of; once the touch is certain, only the paints are left.
#[tokio::test]
async fn a_board_says_what_it_rests_on() {
    let bench = Bench::demo().await;
    let boards = bench.get("/api/boards").await;
    let board = bench.get(&format!("/api/boards/{}", boards[0]["id"].as_str().unwrap())).await;
    let why = bench.post("/api/boards/why", board["entry"].clone(), OK).await;
    let guesses = why["guesses"].as_array().unwrap();
    let parts: Vec<f64> = guesses.iter().map(|guess| guess["within"].as_f64().unwrap()).collect();
    assert!(parts.is_sorted_by(|a, b| a >= b), "{why}");
    let (all, within) =
        (parts.iter().map(|part| part * part).sum::<f64>().sqrt(), why["within"].as_f64().unwrap());
    assert!(all <= within + 1e-9 && all > 0.8 * within, "{why}");
    let preview = bench.post("/api/boards/preview", board["entry"].clone(), OK).await;
    let widest = preview["places"].as_array().unwrap().iter().map(|place| place["within"].as_f64().unwrap());
    assert!((widest.fold(0.0, f64::max) - within).abs() < 1e-9, "{why}");
    bench.post("/api/boards/why?strip=F", board["entry"].clone(), REFUSED).await;
}

#[tokio::test]
async fn terms_and_colours_are_there_for_an_empty_shelf() {
    for bench in [Bench::empty().await, Bench::demo().await] {
        assert!(bench.get("/api/terms").await.as_array().unwrap().len() >= 15);
        assert!(bench.get("/api/chart").await.as_array().unwrap().len() > 40);
        let around = bench.get("/api/neighbours?hex=%239a948a&fine=true").await;
        assert_eq!(around.as_array().unwrap().len(), 8);
        bench.call(Method::GET, "/api/neighbours?hex=mauve", Value::Null, REFUSED).await;
    }
}

/// Every question of the demo, easy and hard: each is answered, and nothing but the practice changes.
#[tokio::test]
async fn practice_changes_nothing_in_the_workspace() {
    let bench = Bench::demo().await;
    let lists = [
        "/api/paints",
        "/api/mixes",
        "/api/readings",
        "/api/boards",
        "/api/pieces",
        "/api/history",
        "/api/log",
    ];
    let mut before = Vec::new();
    for list in lists {
        before.push(bench.get(list).await);
    }
    let practice = bench.get("/api/practice").await;
    for skill in practice["skills"].as_array().unwrap() {
        let id = skill["skill"].as_str().unwrap();
        for (level, seed) in [(0, 1), (3, 2), (6, 3)] {
            let path = format!("/api/practice/question?skill={id}&level={level}&seed={seed}");
            let question = bench.get(&path).await;
            assert_eq!(question, bench.get(&path).await, "{path}");
            assert!(question["choices"].as_array().unwrap().len() >= 2, "{question}");
            let answer = json!({"skill": id, "level": level, "seed": seed, "choice": 0});
            let checked = bench.post("/api/practice/answers", answer, OK).await;
            assert_eq!(checked["right"], checked["choice"] == 0, "{checked}");
        }
    }
    for (list, before) in lists.iter().zip(before) {
        assert_eq!(bench.get(list).await, before, "{list}");
    }
    let after = bench.get("/api/practice").await;
    let answers = |practice: &Value, of: &Value| -> u64 {
        let skills = practice["skills"].as_array().unwrap();
        skills.iter().find(|skill| skill["skill"] == *of).unwrap()["answers"].as_u64().unwrap()
    };
    for skill in practice["skills"].as_array().unwrap() {
        let of = &skill["skill"];
        assert_eq!(answers(&after, of), answers(&practice, of) + 3, "{of}");
    }
}

#[tokio::test]
async fn questions_that_cannot_be_are_refused() {
    let bench = Bench::demo().await;
    for asked in [
        "skill=lighter&level=13&seed=1",
        "skill=taste&level=1&seed=1",
        "skill=lighter&level=1&seed=-1",
        "skill=lighter",
    ] {
        let path = format!("/api/practice/question?{asked}");
        let problem = bench.call(Method::GET, &path, Value::Null, REFUSED).await;
        assert!(problem["errors"][0]["pointer"].as_str().is_some_and(|at| at.starts_with('?')), "{problem}");
    }
    let answer = json!({"skill": "lighter", "level": 1, "seed": 1, "choice": 40});
    let problem = bench.post("/api/practice/answers", answer, REFUSED).await;
    assert_eq!(problem["errors"][0]["pointer"], "/choice", "{problem}");
}
