//! A workspace out in one file and in again.

use std::io::{Cursor, Read};

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use zip::ZipArchive;

use crate::bench::{Bench, LISTS};

async fn exported(bench: &Bench, query: &str) -> Vec<u8> {
    let answer = bench.client.get(format!("{}/api/archive{query}", bench.base)).send().await.unwrap();
    assert_eq!(answer.status(), StatusCode::OK);
    assert_eq!(answer.headers()["content-type"], "application/zip");
    assert!(
        answer.headers()["content-disposition"]
            .to_str()
            .unwrap()
            .starts_with("attachment; filename=\"warm-blend-")
    );
    answer.bytes().await.unwrap().to_vec()
}

async fn send(bench: &Bench, path: &str, archive: Vec<u8>) -> (StatusCode, Value) {
    let answer = bench.raw(Method::POST, path, "application/octet-stream", archive).await;
    (answer.status(), answer.json().await.unwrap())
}

/// An answer without the numbers that count changes and lines of one file.
fn lasting(mut answer: Value) -> Value {
    match &mut answer {
        Value::Object(fields) => {
            fields.retain(|name, value| name != "revision" && !(name == "id" && value.is_number()));
            fields.values_mut().for_each(|value| *value = lasting(value.take()));
        }
        Value::Array(items) => items.iter_mut().for_each(|item| *item = lasting(item.take())),
        _ => {}
    }
    answer
}

/// Everything that screens show of a workspace.
async fn seen(bench: &Bench) -> Vec<(String, Value)> {
    let mut paths: Vec<String> = LISTS.map(str::to_owned).into();
    paths.push("/api/log".to_owned());
    paths.push("/api/log/truth".to_owned());
    for (list, page) in
        [("paints", "/page"), ("pieces", "/run-sheet"), ("pieces", "/record"), ("boards", "/readings")]
    {
        for one in bench.get(&format!("/api/{list}")).await.as_array().unwrap() {
            paths.push(format!("/api/{list}/{}{page}", one["id"].as_str().unwrap()));
        }
    }
    let mut all = Vec::new();
    for path in paths {
        // A piece without a form has no run sheet: that, too, is what is seen.
        let answer = bench.client.get(format!("{}{path}", bench.base)).send().await.unwrap();
        all.push((path, lasting(answer.json().await.unwrap())));
    }
    all
}

#[tokio::test]
async fn every_screen_is_as_before() {
    let (demo, empty) = (Bench::demo().await, Bench::empty().await);
    let before = seen(&empty).await;
    let archive = exported(&demo, "").await;
    let (status, plan) = send(&empty, "/api/archive/preview", archive.clone()).await;
    assert_eq!(status, StatusCode::OK, "{plan}");
    let words: Vec<&str> =
        plan["new"].as_array().unwrap().iter().map(|new| new["words"].as_str().unwrap()).collect();
    assert!(
        words.contains(&"19 paints") && words.contains(&"3 mixes") && words.contains(&"2 run sheets"),
        "{words:?}"
    );
    assert_eq!((&plan["same"], &plan["different"]), (&json!(0), &json!([])));
    assert!(seen(&empty).await == before, "a preview writes nothing");

    let (status, done) = send(&empty, "/api/archive", archive.clone()).await;
    assert_eq!((status, &done["changed"]), (StatusCode::OK, &json!(0)), "{done}");
    // A plan begins now: both are asked in the same minute.
    let (is, was) = loop {
        let (before, is, after) = (seen(&demo).await, seen(&empty).await, seen(&demo).await);
        if before == after {
            break (is, after);
        }
    };
    for ((path, is), (_, was)) in is.into_iter().zip(was) {
        assert!(is == was, "{path}");
    }
    let (_, again) = send(&empty, "/api/archive/preview", archive).await;
    assert_eq!((&again["new"], &again["different"], &again["photos"]), (&json!([]), &json!([]), &json!(0)));

    empty.undo().await;
    assert_eq!(empty.get("/api/paints").await, json!([]));
    assert_eq!(empty.get("/api/pieces").await[0]["name"], "Untitled piece");
}

/// Other programs find tables, readings and a palette in it. What CGATS and CxF say is checked where they are written.
#[tokio::test]
async fn other_programs_find_their_files() {
    let demo = Bench::demo().await;
    let mut zip = ZipArchive::new(Cursor::new(exported(&demo, "").await)).unwrap();
    let mut file = |name: &str| {
        let mut text = String::new();
        zip.by_name(&format!("views/{name}")).unwrap().read_to_string(&mut text).unwrap();
        text
    };
    assert_eq!(file("shelf.csv").lines().count(), 20);
    assert!(file("mixes.csv").contains("drift blue for the case"));
    assert!(file("log.csv").lines().count() > 20);
    assert!(file("shelf.gpl").starts_with("GIMP Palette"));
    assert!(file("shelf.svg").contains("<text") && file("shelf.svg").contains("slate blue"));
    let read = file("colours.cgats.txt");
    assert!(
        read.starts_with("CGATS.17") && read.contains("NUMBER_OF_SETS 9") && !read.contains("Predictions")
    );
    assert_eq!(file("readings.cxf").matches("<cc:Object ").count(), 9);
}

/// A mix is handed to another painter with its paints.
#[tokio::test]
async fn one_mix_is_handed_on() {
    let (demo, other) = (Bench::demo().await, Bench::empty().await);
    let mix = demo.get("/api/mixes").await[0].clone();
    let archive = exported(&demo, &format!("?of={}", mix["id"].as_str().unwrap())).await;
    let (status, done) = send(&other, "/api/archive", archive).await;
    assert_eq!(status, StatusCode::OK, "{done}");
    let theirs = other.get("/api/mixes").await;
    assert_eq!(theirs.as_array().unwrap().len(), 1);
    assert_eq!(theirs[0]["prediction"]["target"], mix["prediction"]["target"]);
    assert_eq!(
        other.get("/api/paints").await.as_array().unwrap().len(),
        mix["entry"]["components"].as_array().unwrap().len()
    );
    // Nobody's own piece is taken away.
    assert_eq!(other.get("/api/pieces").await[0]["name"], "Untitled piece");
    let unknown = demo.client.get(format!("{}/api/archive?of={}", demo.base, uuid::Uuid::nil()));
    assert_eq!(unknown.send().await.unwrap().status(), StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn what_is_no_archive_changes_nothing() {
    let demo = Bench::demo().await;
    let before = seen(&demo).await;
    let whole = exported(&demo, "").await;
    for (what, bytes) in [
        ("empty", Vec::new()),
        ("a letter", b"Dear Sir".to_vec()),
        ("cut off", whole[..whole.len() / 2].to_vec()),
    ] {
        for path in ["/api/archive/preview", "/api/archive"] {
            let (status, problem) = send(&demo, path, bytes.clone()).await;
            assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{what}");
            assert_eq!(problem["type"], "urn:warm-blend:archive");
            assert!(problem["detail"].as_str().unwrap().contains("no archive"), "{what}: {problem}");
        }
    }
    let (status, problem) = send(&demo, "/api/archive?stays=whatever", whole).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    assert!(seen(&demo).await == before);
}

/// Every file of the demo is valid by the schema that lies beside it, says an independent validator (the crate `jsonschema`).
#[tokio::test]
async fn the_demo_is_valid_by_its_schemas() {
    let demo = Bench::demo().await;
    let mut zip = ZipArchive::new(Cursor::new(exported(&demo, "").await)).unwrap();
    let mut file = |name: String| -> Value {
        serde_json::from_reader(zip.by_name(&name).unwrap_or_else(|_| panic!("{name}"))).unwrap()
    };
    for kind in warm_blend_documents::KINDS {
        let schema = file(format!("schemas/{kind}.schema.json"));
        let validator = jsonschema::validator_for(&schema).unwrap();
        let faults: Vec<String> = validator
            .iter_errors(&file(format!("documents/{kind}.json")))
            .map(|fault| format!("{kind} {}: {fault}", fault.instance_path()))
            .collect();
        assert_eq!(faults, Vec::<String>::new());
    }
}
