//! Whatever comes through the door, and whatever stands in the file, is taken or refused with words.

use std::fs;

use crate::bench::{Bench, LISTS, about};
use rand::Rng;
use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::SeedableRng;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use warm_blend_server::Workspace;

const NOBODY: &str = "01900000-0000-7000-8000-000000000000";

/// Every operation of the description, with what makes no sense: whatever is refused is refused with a problem document.
#[tokio::test]
async fn whatever_is_refused_is_refused_with_a_problem() {
    let bench = Bench::demo().await;
    let description = bench.get("/api/openapi.json").await;
    let mut refused = 0;
    for (path, operations) in description["paths"].as_object().unwrap() {
        for (method, operation) in operations.as_object().unwrap() {
            let reply = &operation["responses"]["default"]["content"]["application/problem+json"];
            assert_eq!(reply["schema"]["$ref"], "#/components/schemas/Problem", "{method} {path}");
            let method: Method = method.to_uppercase().parse().unwrap();
            for (id, query, kind, body) in [
                (NOBODY, "revision=1", "application/json", "{}"),
                (NOBODY, "light=moon&state=frozen&revision=x", "application/json", "[1, {\"a\": null}]"),
                ("x'--", "revision=1&width=0&scheme=-1", "application/json", "{\"name\": \u{fffd}"),
                ("%ff", "revision=99999999999999999999", "text/plain", "three parts of grey"),
                ("../..", "", "", ""),
            ] {
                let at = path
                    .split('/')
                    .map(|part| if part.starts_with('{') { id } else { part })
                    .collect::<Vec<_>>()
                    .join("/");
                let answer = bench.raw(method.clone(), &format!("{at}?{query}"), kind, body).await;
                let status = answer.status();
                if status.is_success() {
                    continue;
                }
                refused += 1;
                let reply =
                    answer.headers().get("content-type").map(|kind| kind.to_str().unwrap().to_owned());
                let text = answer.text().await.unwrap();
                let said = format!("{method} {at}?{query} {body}: {status} {text}");
                assert_eq!(reply.as_deref(), Some("application/problem+json"), "{said}");
                let problem: Value = serde_json::from_str(&text).unwrap();
                assert_eq!(problem["status"], status.as_u16(), "{said}");
                assert!(problem["detail"].as_str().unwrap().len() > 10, "{said}");
                assert!(status.is_client_error(), "{said}");
            }
        }
    }
    assert!(refused > 200, "{refused}");
}

/// Every operation of the description that names something, with the id and the document of everything else: nothing but what was asked is
/// done, nothing breaks, and every list is readable afterwards.
#[tokio::test]
async fn ids_of_every_other_kind_break_nothing() {
    let bench = Bench::demo().await;
    let description = bench.get("/api/openapi.json").await;
    let mut things = Vec::new();
    for kind in ["paints", "mixes", "boards", "pieces", "readings", "pours"] {
        let first = bench.get(&format!("/api/{kind}")).await[0].clone();
        if let Some(id) = first["id"].as_str() {
            things.push((kind, id.to_owned(), first["entry"].clone()));
        }
    }
    assert!(things.len() >= 5, "{things:?}");
    let mut asked = 0;
    for (path, operations) in description["paths"].as_object().unwrap() {
        let names = path.split('/').filter(|part| part.starts_with('{')).count();
        for method in operations.as_object().unwrap().keys().filter(|_| names > 0) {
            let method: Method = method.to_uppercase().parse().unwrap();
            for (kind, id, entry) in things.iter().filter(|(kind, ..)| !path.contains(*kind)) {
                let fill = |part| if str::starts_with(part, '{') { id } else { part };
                let at = path.split('/').map(fill).collect::<Vec<_>>().join("/");
                let at = format!("{at}?revision=1");
                let answer = bench.raw(method.clone(), &at, "application/json", entry.to_string()).await;
                let (status, reply) = (answer.status(), answer.text().await.unwrap());
                assert!(!status.is_server_error(), "{method} {at} of {kind}: {status} {reply}");
                asked += 1;
            }
        }
    }
    assert!(asked > 150, "{asked}");
    for list in LISTS {
        bench.get(list).await;
    }
    for (kind, id, _) in &things {
        assert!(bench.get(&format!("/api/{kind}")).await.to_string().contains(id), "{kind} {id} is gone");
    }
}

/// What is not there is found fault with where it is spoken of, in whatever document.
#[tokio::test]
async fn an_id_of_nothing_is_blamed_on_the_field_that_holds_it() {
    let bench = Bench::demo().await;
    let refused = StatusCode::UNPROCESSABLE_ENTITY;
    let fern = bench.paint("fern").await;
    let reading = json!({"of": [{"paint": fern, "parts": 1}, {"paint": NOBODY, "parts": 4}], "pour": "spoons",
        "state": "dry", "thick": {"lab": [50.0, 0.0, 0.0]}});
    let problem = bench.post("/api/readings", reading, refused).await;
    about(&problem, "/of/1/paint");

    let mix = json!({"components": [{"paint": fern, "parts": 1}, {"paint": NOBODY, "parts": 1}]});
    about(&bench.post("/api/mixes", mix, refused).await, "/components/1/paint");

    let boards = bench.get("/api/boards").await;
    let path = format!("/api/boards/{}", boards[0]["id"].as_str().unwrap());
    let board = bench.get(&path).await;
    let mut entry = board["entry"].clone();
    entry["strips"][0]["layers"][0]["pot"] = json!([{"paint": NOBODY, "parts": 1}]);
    let put = format!("{path}?revision={}", board["revision"]);
    let problem = bench.call(Method::PUT, &put, entry, refused).await;
    about(&problem, "/strips/0/layers/0/pot/0/paint");

    let workshop = bench.get("/api/workshop").await;
    let put = format!("/api/workshop?revision={}", workshop["revision"]);
    let problem = bench.call(Method::PUT, &put, json!({"house_white": NOBODY, "owned": []}), refused).await;
    about(&problem, "/house_white");
}

/// What a painter never typed is not found fault with.
#[tokio::test]
async fn amounts_are_found_fault_with_in_the_measure_they_were_given_in() {
    let bench = Bench::demo().await;
    let refused = StatusCode::UNPROCESSABLE_ENTITY;
    let pot = json!([{"paint": bench.paint("dove grey").await, "parts": 1}]);
    let said = async |amount: f64, measure: &str| {
        let body = json!({"components": pot, "amount": amount, "measure": measure});
        let problem = bench.post("/api/bench/measure", body, refused).await;
        about(&problem, "/amount").to_owned()
    };
    assert_eq!(said(-1.0, "cup").await, "-1 is too small; the least is 0");
    assert_eq!(said(5000.0, "cup").await, "5000 is too large; the most is 4226");
    assert_eq!(said(20_000.0, "ft2").await, "20000 is too large; the most is 10000");
    assert_eq!(said(0.0, "m2").await, "0 is too small; the least is 0.01");
}

/// Money is in a currency, chosen once; a sign is none.
#[tokio::test]
async fn money_has_a_currency() {
    let bench = Bench::empty().await;
    let mut workshop = bench.get("/api/workshop").await;
    assert!(workshop["entry"]["currency"].is_null());
    let choose = async |workshop: &Value, code: &str, expected: StatusCode| {
        let mut entry = workshop["entry"].clone();
        entry["currency"] = json!(code);
        let put = format!("/api/workshop?revision={}", workshop["revision"]);
        bench.call(Method::PUT, &put, entry, expected).await
    };
    for bad in ["£", "EU", "EURO", "12€", ""] {
        let problem = choose(&workshop, bad, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert!(about(&problem, "/currency").contains("three letters"), "{bad}");
    }
    workshop = choose(&workshop, "gbp", StatusCode::OK).await;
    assert_eq!(workshop["entry"]["currency"], "GBP");
    // What is chosen besides leaves it.
    let spoons = json!({"house_white": null, "owned": ["tsp"], "currency": "GBP"});
    let put = format!("/api/workshop?revision={}", workshop["revision"]);
    assert_eq!(bench.call(Method::PUT, &put, spoons, StatusCode::OK).await["entry"]["currency"], "GBP");
    bench.undo().await;
    bench.undo().await;
    assert!(bench.get("/api/workshop").await["entry"]["currency"].is_null());
}

/// A paint that is to go names everything that speaks of it, and what it was in marks it afterwards.
#[tokio::test]
async fn a_paint_in_use_names_what_uses_it() {
    let bench = Bench::demo().await;
    let shelf = bench.get("/api/paints").await;
    let slate =
        shelf.as_array().unwrap().iter().find(|paint| paint["entry"]["name"] == "slate blue").unwrap();
    let path = format!("/api/paints/{}?revision={}", slate["id"].as_str().unwrap(), slate["revision"]);
    let problem = bench.call(Method::DELETE, &path, Value::Null, StatusCode::CONFLICT).await;
    let users = problem["used_by"].as_array().unwrap();
    let of = |kind: &str| users.iter().filter(|user| user["kind"] == kind).count();
    assert!(of("mix") > 0 && of("board") > 0, "{problem}");
    let board = users.iter().find(|user| user["kind"] == "board").unwrap()["id"].as_str().unwrap().to_owned();
    bench.call(Method::DELETE, &format!("{path}&confirmed=true"), Value::Null, StatusCode::NO_CONTENT).await;
    let entry = bench.get(&format!("/api/boards/{board}")).await["entry"].clone();
    let seen = bench.post("/api/boards/preview?strip=A", entry, StatusCode::OK).await;
    assert!(seen.to_string().contains("slate blue (no longer on the shelf)"), "{seen}");
}

/// One touch is one step of undo: the mediums that the shelf lacks and the pot that is made with them.
#[tokio::test]
async fn a_mixture_with_what_the_shelf_lacks_is_one_step() {
    let bench = Bench::empty().await;
    let red = json!({"name": "gate red", "class": "chalk", "colour": {"hex": "#7a2e22"}});
    let red = bench.post("/api/paints", red, StatusCode::CREATED).await["id"].clone();
    let pot = json!({"name": "door", "components": [{"paint": red, "parts": 2}]});
    let mix = bench.post("/api/mixes", pot, StatusCode::CREATED).await;
    let path = format!("/api/mixes/{}", mix["id"].as_str().unwrap());
    let missing = bench.get("/api/bench/presets").await;
    let scumble = missing.as_array().unwrap().iter().find(|preset| preset["id"] == "scumble").unwrap();
    let lacks = scumble["missing"].as_array().unwrap().len();
    assert!(lacks > 0);

    let wanted = json!({"preset": "scumble"});
    let into = format!("{path}/make-into?revision=");
    let made = bench.post(&format!("{into}1"), wanted.clone(), StatusCode::OK).await;
    assert_eq!(made["entry"]["components"].as_array().unwrap().len(), 1 + lacks);
    assert_eq!(made["entry"]["name"], "door");
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1 + lacks);
    // An old revision leaves no tins behind.
    bench.post(&format!("{into}1"), wanted, StatusCode::CONFLICT).await;
    bench.post(&format!("{into}2"), json!({"preset": "jam"}), StatusCode::UNPROCESSABLE_ENTITY).await;

    bench.undo().await;
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1);
    assert_eq!(bench.get(&path).await["entry"], mix["entry"]);
    bench.redo().await;
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), 1 + lacks);
}

/// What the painter should hear of the file is there to be asked for.
#[tokio::test]
async fn a_second_program_on_the_file_is_told() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let first = Bench::of(&file).await.unwrap();
    assert_eq!(first.get("/api/notices").await, json!([]));
    let second = Bench::of(&file).await.unwrap();
    let reply = second.get("/api/notices").await;
    assert!(reply[0].as_str().unwrap().contains("has this workspace file open"), "{reply}");
    // The first hears of it as soon as the second has changed something.
    let paint = |name: &str| json!({"name": name, "class": "water"});
    second.post("/api/paints", paint("rain"), StatusCode::CREATED).await;
    first.post("/api/paints", paint("dew"), StatusCode::CREATED).await;
    assert_eq!(first.get("/api/notices").await.as_array().unwrap().len(), 1);
    assert_eq!(first.get("/api/paints").await.as_array().unwrap().len(), 2);
}

/// A place somewhere in a document.
fn anywhere<'a>(document: &'a mut Value, rng: &mut ChaCha8Rng) -> &'a mut Value {
    let inside = match document {
        Value::Array(items) => items.len(),
        Value::Object(fields) => fields.len(),
        _ => 0,
    };
    if inside == 0 || rng.random_ratio(1, 6) {
        return document;
    }
    let which = rng.random_range(0..inside);
    match document {
        Value::Array(items) => anywhere(&mut items[which], rng),
        Value::Object(fields) => anywhere(fields.values_mut().nth(which).unwrap(), rng),
        other => other,
    }
}

fn mangle(document: &mut Value, rng: &mut ChaCha8Rng) {
    let place = anywhere(document, rng);
    let wrong = [
        Value::Null,
        json!(-1),
        json!(0),
        json!(1e308),
        json!(-1e-308),
        json!(u64::MAX),
        json!(""),
        json!("\u{202e}x\u{0}"),
        json!(NOBODY),
        json!([]),
        json!({}),
        json!(true),
        json!("x".repeat(5000)),
    ];
    *place = match place {
        Value::Array(items) if !items.is_empty() && rng.random() => {
            let one = items[0].clone();
            Value::Array(items.iter().cloned().chain(vec![one; 40]).collect())
        }
        Value::Object(fields) if !fields.is_empty() && rng.random() => {
            let gone = fields.keys().nth(rng.random_range(0..fields.len())).cloned();
            Value::Object(fields.clone().into_iter().filter(|(key, _)| Some(key) != gone.as_ref()).collect())
        }
        Value::Number(number) if rng.random() => json!(number.as_f64().unwrap_or(1.0) * -1e6),
        _ => wrong[rng.random_range(0..wrong.len())].clone(),
    };
}

/// A mix of a paint that is not in the file, as another program may leave it, is shown as such and not as a fault of this one.
#[tokio::test]
async fn a_mix_of_a_paint_that_is_not_there_is_told() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("demo.db");
    drop(Workspace::demo(&file).unwrap());
    let database = rusqlite::Connection::open(&file).unwrap();
    let part = "json_set(body, '$.components[0].paint', ?1)";
    let changed =
        database.execute(&format!("UPDATE document SET body = {part} WHERE kind = 'mix'"), [NOBODY]);
    assert!(changed.unwrap() > 0);
    drop(database);
    let bench = Bench::of(&file).await.unwrap();
    let broken = StatusCode::INTERNAL_SERVER_ERROR;
    let problem = bench.call(Method::GET, "/api/mixes", Value::Null, broken).await;
    assert_eq!(problem["type"], "urn:warm-blend:storage", "{problem}");
    assert!(
        problem["detail"].as_str().unwrap().contains("a paint that is no longer in the workspace"),
        "{problem}"
    );
    assert!(!bench.get("/api/paints").await.as_array().unwrap().is_empty());
}

/// Any JSON that stands in the file gives documents that can be looked at, or words: no request fails for want of either.
#[tokio::test]
async fn whatever_stands_in_the_file_is_a_document_or_is_told() {
    const ROUNDS: usize = 48;
    let folder = tempfile::tempdir().unwrap();
    let demo = folder.path().join("demo.db");
    drop(Workspace::demo(&demo).unwrap());
    let mut rng = ChaCha8Rng::seed_from_u64(14);
    let (mut taken, mut reply) = (0, 0);
    for round in 0..ROUNDS {
        let file = folder.path().join(format!("{round}.db"));
        fs::copy(&demo, &file).unwrap();
        let database = rusqlite::Connection::open(&file).unwrap();
        let row: (String, String, String) = database
            .query_row(
                "SELECT id, kind, body FROM document WHERE kind =
                     (SELECT kind FROM document GROUP BY kind ORDER BY kind LIMIT 1
                      OFFSET ?1 % (SELECT COUNT(DISTINCT kind) FROM document))
                 ORDER BY id LIMIT 1 OFFSET ?2",
                [round as i64, rng.random_range(0..3)],
                |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?)),
            )
            .unwrap_or_else(|_| {
                let all = "SELECT id, kind, body FROM document ORDER BY id LIMIT 1";
                database.query_row(all, [], |row| Ok((row.get(0)?, row.get(1)?, row.get(2)?))).unwrap()
            });
        let (id, kind, body) = row;
        let mut document: Value = serde_json::from_str(&body).unwrap();
        mangle(&mut document, &mut rng);
        let text = document.to_string();
        database.execute("UPDATE document SET body = ?2 WHERE id = ?1", [&id, &text]).unwrap();
        drop(database);
        let what = format!("round {round}, {kind}: {}", &text[..text.len().min(600)]);

        let bench = match Bench::of(&file).await {
            Ok(bench) => bench,
            Err(words) => {
                assert!(words.contains("damaged"), "{what}: {words}");
                reply += 1;
                continue;
            }
        };
        let one = match kind.as_str() {
            "mix" => format!("/api/mixes/{id}"),
            "board" => format!("/api/boards/{id}"),
            "piece" => format!("/api/pieces/{id}"),
            "pour" => format!("/api/pours/{id}"),
            "board-reading" => "/api/boards".to_owned(),
            _ => "/api/history".to_owned(),
        };
        for path in LISTS.into_iter().chain([one.as_str()]) {
            let answer = bench.raw(Method::GET, path, "", "").await;
            let (status, text) = (answer.status(), answer.text().await.unwrap());
            if status.is_success() {
                taken += 1;
                continue;
            }
            reply += 1;
            let problem: Value = serde_json::from_str(&text).unwrap_or_else(|_| panic!("{what}: {text}"));
            assert_ne!(problem["type"], "urn:warm-blend:internal", "{what}, {path}: {text}");
        }
    }
    assert!(taken > 2 * ROUNDS && reply > ROUNDS, "{taken} taken, {reply} told");
}
