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
    assert!(
        about(&bench.post("/api/predict", both, REFUSED).await, "/paints/0/colour").contains("one way only")
    );
    let none = json!({"paints": [{"class": "chalk", "parts": 1}]});
    assert!(
        about(&bench.post("/api/predict", none, REFUSED).await, "/paints/0/colour").contains("no colour set")
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
    let several = json!({"paints": [{"class": "chalk", "colour": {"hex": "#1"}, "parts": 0}], "target": {}});
    let problem = bench.post("/api/predict", several, REFUSED).await;
    for pointer in ["/target", "/paints/0/colour/hex", "/paints/0/parts"] {
        about(&problem, pointer);
    }
    // What is chosen from a list is shown with the list.
    let moon = json!({"paints": [paint("#888", 1.0)], "light": "moon"});
    assert!(about(&bench.post("/api/predict", moon, REFUSED).await, "/light").contains("north-shade"));
    let unknown = json!({"paints": [{"class": "mirror", "parts": 1}]});
    assert!(about(&bench.post("/api/predict", unknown, REFUSED).await, "/paints/0").contains("latex-satin"));
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

fn tin(class: &str, hex: Option<&str>) -> Value {
    match hex {
        Some(hex) => json!({"class": class, "colour": {"hex": hex}, "coats_to_hide": 1.75}),
        None => json!({"class": class}),
    }
}

/// Oat coats, a brown glaze wiped, a blue dry brush, rubbed through to the red on the edges.
fn board() -> Value {
    let pot = |of: &[(usize, u32)]| {
        of.iter().map(|(paint, parts)| json!({"paint": paint, "parts": parts})).collect::<Vec<_>>()
    };
    json!({
        "paints": [tin("chalk", Some("#e9dfc8")), tin("chalk", Some("#4a3a2f")), tin("chalk", Some("#53687a")),
            tin("glazing-liquid", None)],
        "ground": {"kind": "red-stain"},
        "layers": [
            {"technique": "brushed-coat", "pot": pot(&[(0, 1)]), "passes": 2},
            {"technique": "glaze-wiped", "pot": pot(&[(1, 1), (3, 4)])},
            {"technique": "dry-brush", "pot": pot(&[(2, 1)])},
            {"technique": "sand-back"},
            {"technique": "clear-wax"},
        ],
    })
}

fn places(predicted: &Value) -> Vec<[f64; 3]> {
    let lab = |place: &Value| [0, 1, 2].map(|i| place["seen"]["lab"][i].as_f64().unwrap());
    predicted["places"].as_array().unwrap().iter().map(lab).collect()
}

#[tokio::test]
async fn a_board_is_predicted_from_what_is_in_the_request() {
    let bench = Bench::empty().await;
    let seen = bench.post("/api/predict/board", board(), OK).await;
    let [field, recess, edge] = places(&seen)[..] else { panic!("{seen}") };
    assert!(recess[0] < field[0] - 10.0, "the glaze stays in the recess");
    assert!(edge[0] < field[0] - 10.0, "the dark ground comes through on the edge");
    // Where it is worn, nine tenths of the edge are the red stain itself, under wax.
    let worn = &seen["places"][2]["colours"][0];
    assert!((worn["share"].as_f64().unwrap() - 0.9).abs() < 1e-9 && worn["hex"] == "#4a2019", "{worn}");

    // Six more coats of the oat, and nothing of the ground or the glaze is left.
    let mut hidden = board();
    let coat = json!({"technique": "brushed-coat", "pot": [{"paint": 0, "parts": 1}], "passes": 6});
    hidden["layers"].as_array_mut().unwrap().push(coat);
    hidden["layers"][4] = json!({"technique": "speckle", "pot": [{"paint": 1, "parts": 1}]});
    let seen = bench.post("/api/predict/board", hidden, OK).await;
    let [field, recess, edge] = places(&seen)[..] else { panic!("{seen}") };
    assert!((field[0] - recess[0]).abs() < 0.2 && (field[0] - edge[0]).abs() < 0.2);
}

/// The board was read with twice the glaze in its recess: the hand is found heavy, and the prediction follows.
#[tokio::test]
async fn a_board_that_was_read_moves_the_prediction() {
    let bench = Bench::empty().await;
    let before = places(&bench.post("/api/predict/board", board(), OK).await);
    let mut heavy = board();
    heavy["layers"][1]["load"] = json!(2.0);
    let truth = places(&bench.post("/api/predict/board", heavy, OK).await);
    let spots: Vec<Value> = ["field", "recess", "edge"]
        .iter()
        .zip(&truth)
        .map(|(place, lab)| json!({"place": place, "measured": {"lab": lab}}))
        .collect();
    let mut read = board();
    read["boards"] = json!([{"spots": spots}]);
    let seen = bench.post("/api/predict/board", read, OK).await;
    let after = places(&seen);
    let off =
        |one: &[f64; 3], other: &[f64; 3]| one.iter().zip(other).map(|(a, b)| (a - b).abs()).sum::<f64>();
    assert!(off(&after[1], &truth[1]) < 0.5 * off(&before[1], &truth[1]), "{after:?} of {truth:?}");
    let glaze =
        seen["hands"].as_array().unwrap().iter().find(|hand| hand["technique"] == "glaze-wiped").unwrap();
    assert!(glaze["film"].as_f64().unwrap() > 1.2, "{glaze}");
    assert_eq!(seen["questioned"], json!([]));
}

#[tokio::test]
async fn boards_that_cannot_be_predicted_say_where_and_why() {
    let bench = Bench::empty().await;
    let refused = async |change: &dyn Fn(&mut Value)| {
        let mut body = board();
        change(&mut body);
        let problem = bench.post("/api/predict/board", body, REFUSED).await;
        (
            problem["errors"][0]["pointer"].as_str().unwrap().to_owned(),
            problem["errors"][0]["detail"].as_str().unwrap().to_owned(),
        )
    };
    let (at, why) = refused(&|body| body["layers"][1]["pot"][0]["paint"] = json!(9)).await;
    assert!(at == "/layers/1/pot/0/paint" && why.contains("no paint 9"), "{at} {why}");
    let (at, why) = refused(&|body| body["layers"][3]["down_to"] = json!(4)).await;
    assert!(at == "/layers/3" && why.contains("below this one"), "{at} {why}");
    let (at, _) = refused(&|body| body["layers"][0]["technique"] = json!("decoupage")).await;
    assert_eq!(at, "/layers/0/technique");
    let (at, why) = refused(&|body| body["layers"] = Value::Array(vec![body["layers"][0].clone(); 61])).await;
    assert!(at == "/layers" && why.contains("the most is 60"), "{at} {why}");
    let (at, _) = refused(&|body| body["layers"][1]["wipe"] = json!(1.5)).await;
    assert_eq!(at, "/layers/1/wipe");
    let (at, _) = refused(&|body| body["paints"] = json!([])).await;
    assert_eq!(at, "/paints");
    let (at, why) = refused(&|body| body["boards"] = json!([{"spots": []}])).await;
    assert!(at == "/boards/0/spots" && why.contains("1 to 9 spots"), "{at} {why}");
    let (at, _) = refused(&|body| body["ground"]["colour"] = json!({"hex": "puce"})).await;
    assert_eq!(at, "/ground/colour");
}
