//! The engine by script: `POST /api/predict`.

use crate::bench::{Bench, about};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const OK: StatusCode = StatusCode::OK;
const REFUSED: StatusCode = StatusCode::UNPROCESSABLE_ENTITY;

fn paint(hex: &str, parts: f64) -> Value {
    json!({"class": "chalk", "colour": {"hex": hex}, "coats_to_hide": 2.0, "parts": parts})
}

fn lab(predicted: &Value) -> [f64; 3] {
    [0, 1, 2].map(|i| predicted["lab"][i].as_f64().unwrap())
}

#[tokio::test]
async fn one_paint_is_its_own_colour_in_full() {
    let bench = Bench::empty().await;
    let one = bench.post("/api/predict", json!({"paints": [paint("#53687a", 1.0)]}), OK).await;
    assert_eq!((one["hex"].as_str(), one["light"].as_str()), (Some("#53687a"), Some("daylight")));
    assert_eq!(one["in_gamut"], true);
    assert_eq!((one["wavelengths"][0].as_u64(), one["wavelengths"][35].as_u64()), (Some(380), Some(730)));
    let bands = one["reflectance"].as_array().unwrap();
    assert!(bands.len() == 36 && bands.iter().all(|r| (0.0..1.0).contains(&r.as_f64().unwrap())));
    assert!((one["hides_in"].as_f64().unwrap() - 2.0).abs() < 0.001);
}

#[tokio::test]
async fn a_mix_lies_between_its_paints_and_moves_with_its_parts_and_light() {
    let bench = Bench::empty().await;
    let mut last = 100.0;
    for dark in [1.0, 2.0, 4.0, 8.0] {
        let body = json!({"paints": [paint("#f0ede6", 3.0), paint("#26324a", dark)]});
        let [l, _, b] = lab(&bench.post("/api/predict", body, OK).await);
        assert!(l < last && b < 0.0, "{dark} parts: L* {l}, b* {b}");
        last = l;
    }
    let under = async |light: &str| {
        let body = json!({"paints": [paint("#c2953a", 1.0), paint("#53687a", 1.0)], "light": light});
        lab(&bench.post("/api/predict", body, OK).await)
    };
    assert!(under("bulb").await[1] > under("daylight").await[1], "an olive turns redder under a bulb");
}

#[tokio::test]
async fn the_verdict_names_the_target_and_the_difference() {
    let bench = Bench::empty().await;
    let judged = async |target: Value| {
        let body = json!({"paints": [paint("#808080", 1.0)], "target": target});
        bench.post("/api/predict", body, OK).await["judgement"].clone()
    };
    let same = judged(json!({"hex": "808080"})).await;
    assert_eq!(same["words"], "no difference you could see");
    assert!(same["difference"].as_f64().unwrap() < 0.01);
    let darker = judged(json!({"lab": [70.0, 0.0, 0.0]})).await;
    assert_eq!(darker["words"], "far darker than the target");
}

#[tokio::test]
async fn colours_are_read_in_every_form_people_write() {
    let bench = Bench::empty().await;
    for hex in ["#B08D57", "b08d57", " b0 8d 57 ", "#b08d57ff"] {
        let got = bench.post("/api/predict", json!({"paints": [paint(hex, 1.0)]}), OK).await;
        assert_eq!(got["hex"], "#b08d57", "{hex}");
    }
    let short = bench.post("/api/predict", json!({"paints": [paint("#a64", 1.0)]}), OK).await;
    assert_eq!(short["hex"], "#aa6644");
    for (bad, said) in
        [("#b08d5", "digits"), ("#b08d5780", "see-through"), ("oat", "not a hex digit"), ("", "empty")]
    {
        let problem = bench.post("/api/predict", json!({"paints": [paint(bad, 1.0)]}), REFUSED).await;
        assert!(about(&problem, "/paints/0/colour/hex").contains(said), "{bad}: {problem}");
    }
}

#[tokio::test]
async fn colours_no_surface_can_have_are_refused_with_the_limit() {
    let bench = Bench::empty().await;
    for (lab, said) in
        [([50.0, 140.0, 0.0], "limit is about a*"), ([120.0, 0.0, 0.0], "0–100"), ([-3.0, 0.0, 0.0], "0–100")]
    {
        let body = json!({"paints": [{"class": "chalk", "colour": {"lab": lab}, "parts": 1}]});
        let problem = bench.post("/api/predict", body, REFUSED).await;
        assert!(about(&problem, "/paints/0/colour/lab").contains(said), "{problem}");
    }
    let both =
        json!({"paints": [{"class": "chalk", "colour": {"hex": "#fff", "lab": [1, 2, 3]}, "parts": 1}]});
    assert!(about(&bench.post("/api/predict", both, REFUSED).await, "/paints/0/colour").contains("once"));
    let none = json!({"paints": [{"class": "chalk", "parts": 1}]});
    assert!(
        about(&bench.post("/api/predict", none, REFUSED).await, "/paints/0/colour")
            .contains("needs its colour")
    );
}

#[tokio::test]
async fn parts_and_counts_that_cannot_be_are_refused() {
    let bench = Bench::empty().await;
    for bad in [0.0, -1.0, 1e308, 1e-9] {
        let problem = bench.post("/api/predict", json!({"paints": [paint("#888", bad)]}), REFUSED).await;
        assert!(about(&problem, "/paints/0/parts").len() < 120, "{problem}");
    }
    // NaN and infinities are no JSON, however they are written.
    for text in ["NaN", "Infinity", "1e999"] {
        let body = format!(
            r##"{{"paints": [{{"class": "chalk", "colour": {{"hex": "#888"}}, "parts": {text}}}]}}"##
        );
        let answer = bench.raw(Method::POST, "/api/predict", "application/json", body).await;
        assert_eq!(answer.status(), StatusCode::BAD_REQUEST, "{text}");
    }
    let written = json!({"paints": [{"class": "chalk", "colour": {"hex": "#888"}, "parts": "three"}]});
    assert!(about(&bench.post("/api/predict", written, REFUSED).await, "/paints/0/parts").contains("three"));
    let many: Vec<Value> = (0..10_000).map(|_| json!({"class": "water", "parts": 1})).collect();
    let problem = bench.post("/api/predict", json!({"paints": many}), REFUSED).await;
    assert!(about(&problem, "/paints").contains("10000"));
    assert!(
        about(&bench.post("/api/predict", json!({"paints": []}), REFUSED).await, "/paints")
            .contains("give 1")
    );
    // Everything that is wrong is said at once.
    let several = json!({"paints": [{"class": "milk", "parts": 0}], "light": "moon"});
    let problem = bench.post("/api/predict", several, REFUSED).await;
    for pointer in ["/light", "/paints/0/class", "/paints/0/parts"] {
        about(&problem, pointer);
    }
}

#[tokio::test]
async fn bodies_of_the_wrong_kind_and_size_are_refused() {
    let bench = Bench::empty().await;
    let status = async |kind: &str, body: Vec<u8>| bench.raw(Method::POST, "/api/predict", kind, body).await;
    let text = status("text/plain", b"{}".to_vec()).await;
    assert_eq!(text.status(), StatusCode::UNSUPPORTED_MEDIA_TYPE);
    assert_eq!(text.headers()["content-type"], "application/problem+json");
    assert_eq!(status("application/json", vec![b' '; 2 << 20]).await.status(), StatusCode::PAYLOAD_TOO_LARGE);
    assert_eq!(
        status("application/json", b"{\"paints\": [".to_vec()).await.status(),
        StatusCode::BAD_REQUEST
    );
    assert_eq!(status("application/json", vec![0xff, 0xfe, 0]).await.status(), StatusCode::BAD_REQUEST);
    let deep = [b"{\"paints\":".to_vec(), vec![b'['; 100_000]].concat();
    assert!(status("application/json", deep).await.status().is_client_error());
}
