//! Stories of a shelf and its pots, over HTTP.

use crate::bench::{Bench, about};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const OK: StatusCode = StatusCode::OK;
const CREATED: StatusCode = StatusCode::CREATED;
const REFUSED: StatusCode = StatusCode::UNPROCESSABLE_ENTITY;
const CONFLICT: StatusCode = StatusCode::CONFLICT;

fn entry(name: &str) -> Value {
    json!({"name": name, "class": "chalk", "colour": {"hex": "#b08d57"}, "coats_to_hide": 2.0})
}

#[tokio::test]
async fn three_parts_to_one_are_mixed_named_and_found_again() {
    let bench = Bench::demo().await;
    let (grey, blue) = (bench.paint("dove grey").await, bench.paint("night blue").await);
    let parts = |a, b| json!([{"paint": grey, "parts": a}, {"paint": blue, "parts": b}]);
    let begun = bench.post("/api/mixes", json!({"components": parts(1, 1)}), CREATED).await;
    let path = format!("/api/mixes/{}", begun["id"].as_str().unwrap());

    let named = json!({"name": "case colour", "components": parts(3, 1), "target": {"hex": "#6c7482"}});
    let kept = bench.call(Method::PUT, &format!("{path}?revision=1&light=bulb"), named.clone(), OK).await;
    assert_eq!(kept["revision"], 2);
    assert_eq!(bench.get(&format!("{path}?light=bulb")).await, kept);
    assert_eq!(kept["prediction"]["parts"][0]["share"], 0.75);
    assert!(kept["prediction"]["judgement"]["words"].as_str().unwrap().ends_with("than the target"));

    // The preview says the same without keeping anything, and another light says something else.
    let preview = bench.post("/api/mixes/preview?light=bulb", named.clone(), OK).await;
    assert_eq!(preview, kept["prediction"]);
    let daylight = bench.post("/api/mixes/preview", named, OK).await;
    assert_ne!(daylight["swatch"]["face"], preview["swatch"]["face"]);
}

/// Thousands of mixes come in parts: those that were begun last come first where that is asked for.
#[tokio::test]
async fn mixes_and_readings_come_in_parts() {
    let bench = Bench::demo().await;
    let all = bench.get("/api/mixes?light=bulb").await;
    let all = all.as_array().unwrap();
    assert!(all.len() > 1);
    for count in [1, 2, 3, all.len(), 4000] {
        assert_eq!(bench.in_parts(&format!("/api/mixes?light=bulb&count={count}")).await, *all);
        let latest = bench.in_parts(&format!("/api/mixes?latest_first=true&count={count}&light=bulb")).await;
        assert!(latest.iter().eq(all.iter().rev()), "{count}");
    }
    // Readings too: they are shown the last first.
    let read = bench.get("/api/readings").await;
    let read = read.as_array().unwrap();
    assert!(read.len() > 2 && read[0]["made_at"].as_str() >= read[1]["made_at"].as_str());
    for count in [1, 2, read.len(), 4000] {
        assert_eq!(bench.in_parts(&format!("/api/readings?count={count}")).await, *read);
    }
}

/// A pot that is taken up elsewhere is the mix that it is already, a named one first; else a new one.
#[tokio::test]
async fn a_pot_is_the_mix_that_it_is_already() {
    let bench = Bench::demo().await;
    let mixes = bench.get("/api/mixes").await;
    let of = async |components: &Value| {
        bench.post("/api/mixes/of-parts", json!({"components": components}), OK).await["id"].clone()
    };
    for mix in mixes.as_array().unwrap() {
        assert_eq!(of(&mix["entry"]["components"]).await, mix["id"]);
    }
    assert_eq!(bench.get("/api/mixes").await, mixes, "nothing was begun");
    let barley = bench.paint("barley").await;
    let seven = json!([{"paint": barley, "parts": 7}]);
    let first = of(&seven).await;
    assert_eq!(of(&seven).await, first);
    let named = bench.post("/api/mixes", json!({"name": "seven of it", "components": seven}), CREATED).await;
    assert_eq!(of(&seven).await, named["id"]);
    bench.undo().await;
    assert_eq!(of(&seven).await, first);
    let nowhere = json!({"components": [{"paint": uuid::Uuid::nil(), "parts": 1}]});
    bench.post("/api/mixes/of-parts", nowhere, REFUSED).await;
}

#[tokio::test]
async fn every_light_sees_the_whole_shelf() {
    let bench = Bench::demo().await;
    let lights = bench.get("/api/lights").await;
    assert_eq!(lights.as_array().unwrap().len(), 7);
    for light in lights.as_array().unwrap() {
        let shelf = bench.get(&format!("/api/paints?light={}", light["id"].as_str().unwrap())).await;
        assert_eq!(shelf.as_array().unwrap().len(), 19);
    }
    let problem = bench.call(Method::GET, "/api/paints?light=moon", Value::Null, REFUSED).await;
    assert!(about(&problem, "?light").contains("north-shade"));
}

#[tokio::test]
async fn an_old_revision_is_refused_and_neither_side_is_lost() {
    let bench = Bench::empty().await;
    let made = bench.post("/api/paints", entry("oat white"), CREATED).await;
    let path = format!("/api/paints/{}", made["id"].as_str().unwrap());
    let first = bench.call(Method::PUT, &format!("{path}?revision=1"), entry("first tab"), OK).await;
    let refused = bench.call(Method::PUT, &format!("{path}?revision=1"), entry("second tab"), CONFLICT).await;
    assert_eq!(refused["type"], "urn:warm-blend:stale");
    assert_eq!(bench.get(&path).await, first);
    // The second tab takes the kept revision and writes over it; the first state is in the history.
    bench.call(Method::PUT, &format!("{path}?revision=2"), entry("second tab"), OK).await;
    bench.undo().await;
    assert_eq!(bench.get(&path).await["entry"]["name"], "first tab");
}

#[tokio::test]
async fn a_used_paint_is_asked_about_and_its_mix_keeps_it() {
    let bench = Bench::demo().await;
    let (green, blue) = (bench.paint("bottle green").await, bench.paint("slate blue").await);
    let gone = StatusCode::NO_CONTENT;
    bench.call(Method::DELETE, &format!("/api/paints/{green}?revision=1"), Value::Null, gone).await;

    let path = format!("/api/paints/{blue}?revision=1");
    let asked = bench.call(Method::DELETE, &path, Value::Null, CONFLICT).await;
    assert_eq!(asked["type"], "urn:warm-blend:in-use");
    assert_eq!(asked["used_by"][0]["name"], "drift blue for the case");
    bench.call(Method::DELETE, &format!("{path}&confirmed=true"), Value::Null, gone).await;
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 17);
    let mix = &bench.get("/api/mixes").await[0];
    assert_eq!(mix["prediction"]["parts"][0]["removed"], true);
    assert!(mix["prediction"]["swatch"]["face"]["hex"].is_string());
}

#[tokio::test]
async fn undo_and_redo_say_what_they_did() {
    let bench = Bench::demo().await;
    assert!(bench.get("/api/history").await["undo"].is_null(), "a fresh demo has nothing to undo");
    bench.post("/api/paints", entry("sand"), CREATED).await;
    let undone = bench.undo().await;
    assert_eq!(undone["done"]["words"], "adding sand");
    assert_eq!(undone["redo"]["words"], "adding sand");
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 19);
    assert_eq!(bench.redo().await["done"]["words"], "adding sand");
    let history = bench.get("/api/history").await;
    assert!(history["redo"].is_null());
    // With two at the shelf: what the other did in between stays.
    let meant = json!({ "change": history["undo"]["change"] });
    bench.post("/api/paints", entry("bone"), CREATED).await;
    let refused = bench.post("/api/undo", meant, StatusCode::CONFLICT).await;
    assert_eq!(refused["type"], "urn:warm-blend:overtaken");
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 21);
    let unnamed = bench.post("/api/undo", json!({}), StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(unnamed["errors"][0]["detail"].as_str().unwrap().contains("change"), "{unnamed}");
}

#[tokio::test]
async fn names_of_any_script_are_kept_as_they_are() {
    let bench = Bench::empty().await;
    for name in ["أزرق رمادي", "🎨 \"l'ardoise\"", "'); DROP TABLE document; --", "<b>bold</b>"] {
        let made = bench.post("/api/paints", entry(name), CREATED).await;
        assert_eq!(made["entry"]["name"], name);
    }
    for (bad, said) in [("", "a name"), ("   ", "a name"), ("a\nb", "one line")] {
        let problem = bench.post("/api/paints", entry(bad), REFUSED).await;
        assert!(about(&problem, "/name").contains(said), "{problem}");
    }
    let long = bench.post("/api/paints", entry(&"x".repeat(10_000)), REFUSED).await;
    assert!(about(&long, "/name").contains("10000") && about(&long, "/name").len() < 100);
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 4);
}

#[tokio::test]
async fn tins_that_cannot_be_are_refused_field_by_field() {
    let bench = Bench::empty().await;
    let bad = json!({
        "name": "", "class": "chalk", "colour": {"hex": "zz"}, "coats_to_hide": 0,
        "price": {"amount": -1, "tin_ml": 500}, "stock_ml": 1e308
    });
    let problem = bench.post("/api/paints", bad, REFUSED).await;
    for pointer in ["/name", "/colour/hex", "/coats_to_hide", "/price/amount", "/stock_ml"] {
        about(&problem, pointer);
    }
    let unknown = bench.post("/api/paints", json!({"name": "mirror", "class": "mirror"}), REFUSED).await;
    assert!(about(&unknown, "/class").contains("use one of chalk"), "{unknown}");
    let medium = json!({"name": "slow glaze", "class": "glazing-liquid"});
    assert!(bench.post("/api/paints", medium, CREATED).await["swatch"]["hides_in"].is_null());
}

#[tokio::test]
async fn mixes_that_cannot_be_are_refused() {
    let bench = Bench::demo().await;
    let fern = bench.paint("fern").await;
    let part = |parts: i64| json!({"paint": fern, "parts": parts});
    for (components, pointer) in [
        (json!([part(0)]), "/components/0/parts"),
        (json!([part(1000)]), "/components/0/parts"),
        (json!([part(-1)]), "/components/0/parts"),
        (json!([part(1), part(2)]), "/components"),
        (json!([{"paint": "01900000-0000-7000-8000-000000000000", "parts": 1}]), "/components/0/paint"),
        (json!([{"paint": "not an id", "parts": 1}]), "/components/0/paint"),
        (Value::Array(vec![part(1); 9]), "/components"),
        (Value::Array(vec![part(1); 10_000]), "/components"),
    ] {
        let problem = bench.post("/api/mixes", json!({"components": components}), REFUSED).await;
        about(&problem, pointer);
    }
    let empty = bench.post("/api/mixes/preview", json!({"components": []}), OK).await;
    assert!(empty["swatch"].is_null());
}

#[tokio::test]
async fn unknown_ids_addresses_and_methods_are_said() {
    let bench = Bench::empty().await;
    let missing = StatusCode::NOT_FOUND;
    for path in [
        "/api/paints/01900000-0000-7000-8000-000000000000",
        "/api/paints/x'--",
        "/api/mixes/1",
        "/api/nothing",
    ] {
        let problem = bench.call(Method::GET, path, Value::Null, missing).await;
        assert_eq!(problem["type"], "urn:warm-blend:unknown", "{problem}");
    }
    bench.call(Method::PATCH, "/api/paints", Value::Null, StatusCode::METHOD_NOT_ALLOWED).await;
    let no_revision = bench
        .call(
            Method::DELETE,
            "/api/mixes/01900000-0000-7000-8000-000000000000",
            Value::Null,
            StatusCode::UNPROCESSABLE_ENTITY,
        )
        .await;
    assert_eq!(about(&no_revision, "?revision"), "revision is missing from the address");
}

#[tokio::test]
async fn the_piece_is_renamed() {
    let bench = Bench::empty().await;
    let piece = bench.get("/api/piece").await;
    assert_eq!(piece["name"], "Untitled piece");
    let address = format!("/api/pieces/{}/name?revision=1", piece["id"].as_str().unwrap());
    let renamed = bench.call(Method::PUT, &address, json!({"name": "hall bench"}), OK).await;
    assert_eq!(renamed["revision"], 2);
    assert_eq!(bench.get("/api/piece").await["name"], "hall bench");
}

/// A house white that is removed rules no more, and is it again when it is put back; its own page asks for what its table says.
#[tokio::test]
async fn a_removed_house_white_does_not_rule() {
    let bench = Bench::demo().await;
    let (white, fern) = (bench.paint("chimney white").await, bench.paint("fern").await);
    let page = |id: String| {
        let bench = &bench;
        async move { bench.get(&format!("/api/paints/{id}/page")).await }
    };
    let own = page(white.clone()).await;
    let advice = own["advice"].as_str().unwrap();
    let best = &own["tests"][0];
    assert!(advice.starts_with("This is the house white: make every tint with chimney white. "), "{advice}");
    let helps = best["after"].as_f64().unwrap() < 0.85 * best["now"].as_f64().unwrap();
    let answer = if helps { best["words"].as_str().unwrap() } else { "Good enough" };
    assert!(advice.contains(answer), "{advice}, but {best}");

    let before = page(fern.clone()).await;
    assert!(before["tests"].to_string().contains("chimney white"));
    let address = format!("/api/paints/{white}?revision={}&confirmed=true", own["paint"]["revision"]);
    bench.call(Method::DELETE, &address, Value::Null, StatusCode::NO_CONTENT).await;
    assert_eq!(bench.get("/api/workshop").await["entry"]["house_white"], Value::Null);
    let after = page(fern.clone()).await;
    assert!(
        after["advice"].as_str().unwrap().starts_with("Choose the house white first"),
        "{}",
        after["advice"]
    );
    assert!(!after["tests"].to_string().contains("chimney white"), "{}", after["tests"]);
    let workshop = bench.get("/api/workshop").await;
    let address = format!("/api/workshop?revision={}", workshop["revision"]);
    let refused = bench.call(Method::PUT, &address, json!({"house_white": white}), REFUSED).await;
    assert!(about(&refused, "/house_white").contains("no longer on the shelf"));
    bench.undo().await;
    assert_eq!(bench.get("/api/workshop").await["entry"]["house_white"], white);
    assert_eq!(page(fern).await["tests"], before["tests"]);
}

/// What a screen shows for a colour that was typed is the engine's word, and what no surface can have is refused.
#[tokio::test]
async fn a_typed_colour_is_shown_by_the_engine() {
    let bench = Bench::empty().await;
    // A middle grey: L* 53.585 is #808080 (IEC 61966-2-1).
    let seen = bench.post("/api/colour", json!({"lab": [53.585, 0.0, 0.0]}), OK).await;
    assert_eq!(seen["hex"], "#808080");
    let seen = bench.post("/api/colour", json!({"hex": "#8a9aa3"}), OK).await;
    assert_eq!(seen["hex"], "#8a9aa3");
    let refused = bench.post("/api/colour", json!({"lab": [50.0, 180.0, 0.0]}), REFUSED).await;
    assert!(!about(&refused, "/lab").is_empty());
}
