//! The log: found again, made again, written into, and how true it was.

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

use crate::bench::{Bench, about, in_light};

fn entries(page: &Value) -> Vec<&Value> {
    let groups = page["days"].as_array().unwrap().iter().flat_map(|day| day["groups"].as_array().unwrap());
    groups.flat_map(|group| group["entries"].as_array().unwrap()).collect()
}

async fn found(bench: &Bench, query: &str) -> Vec<Value> {
    entries(&bench.get(&format!("/api/log?{query}")).await).into_iter().cloned().collect()
}

fn words(entries: &[Value]) -> Vec<&str> {
    entries.iter().map(|entry| entry["words"].as_str().unwrap()).collect()
}

/// Six weeks of the demo: by word, kind, piece and paint, which hold together; newest first, day by day.
#[tokio::test]
async fn what_was_done_is_found() {
    let bench = Bench::demo().await;
    let page = bench.get("/api/log").await;
    let days = page["days"].as_array().unwrap();
    assert!(days.len() > 10, "six weeks: {}", days.len());
    assert!(days.windows(2).all(|two| two[0]["day"].as_str() > two[1]["day"].as_str()));
    assert!(
        days.iter()
            .flat_map(|day| day["groups"].as_array().unwrap())
            .any(|group| group["title"] == "5 steps done"),
        "a busy day reads in one glance"
    );

    let fretwork = found(&bench, "search=fretworks").await;
    assert_eq!(words(&fretwork), ["Brushed coat, 1 of 2 in 5 slate blue : 1 barley"]);
    assert!(fretwork[0]["swatch"].is_object() && fretwork[0]["again"] == true);
    assert!(found(&bench, "search=fretwork&kinds=note").await.is_empty());
    let mixed = found(&bench, "kinds=mix").await;
    assert_eq!(mixed.len(), 3);
    let barley = bench.paint("barley").await;
    let with = found(&bench, &format!("kinds=mix&paint={barley}")).await;
    assert_eq!(with.len(), 2);
    let piano = bench.get("/api/pieces").await[0]["id"].as_str().unwrap().to_owned();
    let agreed = found(&bench, &format!("kinds=agreed,note&piece={piano}&search=pale%20panels")).await;
    assert_eq!(words(&agreed), ["Agreed on “pale panels”"]);
    // For a client, on whichever piece.
    let client = bench.get("/api/pieces").await[0]["client"].as_str().unwrap().to_owned();
    let asked = client.replace(' ', "%20");
    let theirs = found(&bench, &format!("client={asked}")).await;
    let of = |theirs: &[Value], piece: &str| {
        theirs.iter().filter(|line| line["piece"] == piece).cloned().collect::<Vec<_>>()
    };
    assert_eq!(of(&theirs, &piano), found(&bench, &format!("piece={piano}")).await);
    let of_their_stool = |line: &Value| line["piece_name"] == "Stool, village hall";
    assert!(theirs.iter().any(of_their_stool), "on all they have here");
    assert_eq!(found(&bench, &format!("client={asked}&kinds=agreed")).await.len(), agreed.len());
    assert!(found(&bench, "client=somebody%20else").await.is_empty());
    assert_eq!(found(&bench, "client=%20").await.len(), found(&bench, "").await.len());

    let unnamed = format!("client={}", "x".repeat(200));
    for (query, at, word) in [
        ("kinds=party", "?kinds", "board-reading"),
        ("from=tomorrow", "?from", "2026-11-27"),
        (&unnamed, "?client", "characters"),
    ] {
        let path = format!("/api/log?{query}");
        let refused = bench.call(Method::GET, &path, Value::Null, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert!(about(&refused, at).contains(word), "{refused}");
    }
    // Whatever is looked for, nothing breaks: a novel, quotes, nothing.
    let novel = "slate%20".repeat(1200);
    for search in [novel.as_str(), "%22%22%22", "%00", "%F0%9F%8E%A8", "a%27%20OR%201=1", "(((*"] {
        bench.get(&format!("/api/log?search={search}")).await;
    }
}

/// On an unchanged shelf the same parts will do. Once a tin is gone the nearest of what is left is offered, and the line still tells what
/// was in the pot.
#[tokio::test]
async fn a_pot_is_made_again() {
    let bench = Bench::demo().await;
    let mixed = found(&bench, "kinds=mix&search=drift").await;
    let again = format!("/api/log/{}/again", mixed[0]["id"]);
    let same = bench.get(&again).await;
    assert_eq!(same["same"], true);
    assert_eq!(same["recipe"], same["then"]);
    assert_eq!(same["then_words"], "5 slate blue : 1 barley");
    // In another light, and wet, it is the same pot still.
    let bulb = bench.get(&format!("{again}?light=bulb&state=wet")).await;
    assert_eq!((&bulb["same"], &bulb["recipe"]), (&json!(true), &same["recipe"]));

    let slate = bench.paint("slate blue").await;
    let kept = bench.get(&format!("/api/paints/{slate}")).await;
    let path = format!("/api/paints/{slate}?revision={}&confirmed=true", kept["revision"]);
    let gone = bench.raw(Method::DELETE, &path, "application/json", "").await;
    assert!(gone.status().is_success(), "{}", gone.status());
    let other = bench.get(&again).await;
    assert_eq!(other["missing"], json!(["slate blue is no longer on the shelf"]));
    assert_eq!(other["same"], false);
    assert!(
        other["recipe"].as_array().unwrap().iter().all(|part| part["paint"] != slate.as_str()),
        "{other}"
    );
    assert!(other["comes"]["difference"].as_f64().unwrap() < 8.0, "{}", other["comes"]);
    let tells = found(&bench, "kinds=mix&search=drift").await;
    assert!(words(&tells)[0].contains("slate blue"), "{}", words(&tells)[0]);

    bench.call(Method::GET, "/api/log/999999/again", Value::Null, StatusCode::NOT_FOUND).await;
}

/// What was read of it is what it is held against.
#[tokio::test]
async fn what_was_read_is_what_it_was_like() {
    let bench = Bench::demo().await;
    let read = found(&bench, "kinds=reading&search=1%20slate%20blue").await;
    let again = bench.get(&format!("/api/log/{}/again", read[0]["id"])).await;
    assert_eq!(again["like_from"], "from its reading");
    assert!(again["judgement"]["difference"].as_f64().unwrap() < 3.0, "{again}");
}

/// What was expected of a pot when it was made is shown beside what is expected now, as soon as a tin of it was read.
#[tokio::test]
async fn what_was_expected_then_is_told() {
    let bench = Bench::empty().await;
    let mut tins = Vec::new();
    for (name, hex) in [("flour", "#efeae0"), ("ink", "#2f3c58")] {
        let entry = json!({"name": name, "class": "chalk", "colour": {"hex": hex}});
        tins.push(bench.post("/api/paints", entry, StatusCode::CREATED).await["id"].clone());
    }
    let parts = json!([{"paint": tins[0], "parts": 3}, {"paint": tins[1], "parts": 1}]);
    let mix = bench.post("/api/mixes", json!({"components": parts}), StatusCode::CREATED).await;
    let swatch = |mix: &Value| mix["prediction"]["swatch"].clone();
    let line = found(&bench, "kinds=mix").await[0]["id"].clone();
    let again = async || bench.get(&format!("/api/log/{line}/again")).await;
    let before = again().await;
    assert_eq!((&before["said_then"], &before["since"]), (&Value::Null, &json!([])));
    assert_eq!(before["now"], swatch(&mix));
    let reading = json!({"of": parts, "thick": {"lab": [60.0, -1.0, -9.0]}});
    bench.post("/api/readings", reading, StatusCode::CREATED).await;
    let after = again().await;
    assert_eq!(after["since"], json!(["flour was read once", "ink was read once"]));
    let (then, now) = (&after["said_then"], &after["now"]);
    assert_eq!(then["expected"], swatch(&mix)["face"]);
    assert_eq!(then["within"], swatch(&mix)["within"]);
    assert!(now["within"].as_f64().unwrap() < 0.5 * then["within"].as_f64().unwrap(), "{after}");
    assert!(
        then["words"].as_str().is_some_and(|words| words == "the same"
            || words.starts_with("a ")
            || words.starts_with("clearly")
            || words.starts_with("far")),
        "{then}"
    );
}

/// A colour finds the pot that looks like it.
#[tokio::test]
async fn a_pot_is_found_by_its_colour() {
    let bench = Bench::demo().await;
    let mixed = found(&bench, "kinds=mix&search=toasted").await;
    let hex = mixed[0]["swatch"]["face"]["hex"].as_str().unwrap().trim_start_matches('#').to_owned();
    let like = bench.get(&format!("/api/log/like?hex={hex}")).await;
    assert_eq!(like[0]["mix"], mixed[0]["document"]);
    assert!(like[0]["difference"].as_f64().unwrap() < 0.5, "{like}");
    let far: Vec<f64> =
        like.as_array().unwrap().iter().map(|one| one["difference"].as_f64().unwrap()).collect();
    assert!(far.is_sorted());
    let refused = bench
        .call(Method::GET, "/api/log/like?hex=teal", Value::Null, StatusCode::UNPROCESSABLE_ENTITY)
        .await;
    assert!(about(&refused, "/hex").contains("hex"), "{refused}");
}

/// A note is kept, found, undone, and refused where there is nothing in it.
#[tokio::test]
async fn a_note_is_written() {
    let bench = Bench::demo().await;
    let piano = bench.get("/api/pieces").await[0]["id"].clone();
    let entry = json!({"words": "Zwölf Grad, die Grundierung wartet", "piece": piano});
    let kept = bench.post("/api/notes", entry, StatusCode::CREATED).await;
    let note = found(&bench, "search=zwolf").await;
    assert_eq!(note[0]["document"], kept["id"]);
    assert_eq!(note[0]["piece_name"], "Upright piano and stool, village hall");
    bench.undo().await;
    assert!(found(&bench, "search=zwolf").await.is_empty());
    bench.redo().await;
    assert_eq!(found(&bench, "search=zwolf").await.len(), 1);

    for (entry, at, word) in [
        (json!({}), "/words", "the note is empty"),
        (json!({"words": " "}), "/words", "the note is empty"),
        (json!({"words": "x".repeat(100_000)}), "/words", "characters"),
        (json!({"words": "later", "at": "2199-01-01T00:00:00Z"}), "/at", "in the future"),
    ] {
        let refused = bench.post("/api/notes", entry, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert!(about(&refused, at).contains(word), "{refused}");
    }
}

/// The plot's figures are those of a plain loop over it; the wrong dab of the demo is the worst surprise, and is asked about.
#[tokio::test]
async fn how_true_it_was() {
    let bench = Bench::demo().await;
    let truth = bench.get("/api/log/truth").await;
    let readings = truth["readings"].as_array().unwrap();
    assert_eq!(readings.len(), 9);
    let within = |one: &&Value| one["difference"].as_f64().unwrap() <= one["within"].as_f64().unwrap();
    let held = readings.iter().filter(within).count();
    assert_eq!(truth["held"], json!(held));
    assert!(truth["words"].as_str().unwrap().starts_with(&format!("{held} of 9")));
    let worst = &truth["worst"][0];
    assert!(worst["name"].as_str().unwrap().contains("oxblood"), "{worst}");
    assert!(worst["since"].as_str().unwrap().contains("contradicts"), "{worst}");
}

/// A painter at work for a while, by chance: tins, mixes, notes, boards and steps made, taken away, undone and made again. Whatever is
/// there stands in the log exactly once; what was taken away stands there as such, what was undone does not.
#[tokio::test]
async fn nothing_acknowledged_is_missing() {
    let bench = Bench::demo().await;
    let piano = bench.get("/api/pieces").await[0]["id"].as_str().unwrap().to_owned();
    let fern = bench.paint("fern").await;
    let mut chance = 20_261_127u64;
    let mut dice = move |sides: u64| {
        chance = chance.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (chance >> 33) % sides
    };
    // What was made here: its id, and whether it was taken away; undone changes by their order.
    let mut undone = 0u32;
    for n in 0..60u32 {
        match dice(9) {
            0 => {
                let tin = json!({"name": format!("tin {n}"), "class": "chalk", "colour": {"hex": "#8899aa"}});
                bench.post("/api/paints", tin, StatusCode::CREATED).await;
                undone = 0;
            }
            1 => {
                let mix =
                    json!({"name": format!("mix {n}"), "components": [{"paint": fern, "parts": n + 1}]});
                bench.post("/api/mixes", mix, StatusCode::CREATED).await;
                undone = 0;
            }
            2 | 3 => {
                let note = json!({"words": format!("note {n}"), "piece": piano});
                bench.post("/api/notes", note, StatusCode::CREATED).await;
                undone = 0;
            }
            4 => {
                let sheet = bench.get(&format!("/api/pieces/{piano}/run-sheet")).await;
                let ready = sheet["steps"].as_array().unwrap().iter().find(|step| step["ready"] == true);
                if let Some(step) = ready.filter(|step| step["asks_lead"] == false) {
                    let path = format!("/api/pieces/{piano}/run-sheet/done?revision={}", sheet["revision"]);
                    let body = json!({"step": step["id"], "note": format!("step {n}")});
                    bench.post(&path, body, StatusCode::OK).await;
                    undone = 0;
                }
            }
            5 => {
                let mixes = bench.get("/api/mixes").await;
                let all = mixes.as_array().unwrap();
                let mix = &all[dice(all.len() as u64) as usize];
                let path = format!("/api/mixes/{}?revision={}", mix["id"].as_str().unwrap(), mix["revision"]);
                bench.raw(Method::DELETE, &path, "application/json", "").await;
                undone = 0;
            }
            6 | 7 if bench.get("/api/history").await["undo"].is_object() => {
                bench.undo().await;
                undone += 1;
            }
            _ if undone > 0 => {
                bench.redo().await;
                undone -= 1;
            }
            _ => {}
        }
        if n % 6 != 5 {
            continue;
        }
        let mut lines = Vec::new();
        let mut before = String::new();
        loop {
            let page = bench.get(&format!("/api/log?{before}")).await;
            lines.extend(entries(&page).into_iter().cloned());
            let Some(more) = page["more"].as_str() else { break };
            before = format!("before={more}");
        }
        let of = |kind: &str, removed: bool| {
            let own = lines.iter().filter(|line| line["kind"] == kind && line["removed"] == removed);
            let mut ids: Vec<String> =
                own.map(|line| line["document"].as_str().unwrap().to_owned()).collect();
            ids.sort();
            ids
        };
        for (kind, path) in [
            ("tin", "/api/paints"),
            ("mix", "/api/mixes"),
            ("board", "/api/boards"),
            ("piece", "/api/pieces"),
        ] {
            let there = bench.get(path).await;
            let mut there: Vec<String> =
                there.as_array().unwrap().iter().map(|one| one["id"].as_str().unwrap().to_owned()).collect();
            there.sort();
            assert_eq!(of(kind, false), there, "{kind} after {n}");
            assert!(of(kind, true).iter().all(|id| !there.contains(id)));
        }
        let sheet = bench.get(&format!("/api/pieces/{piano}/run-sheet")).await;
        let done = sheet["done"].as_array().unwrap().len();
        let reply =
            lines.iter().filter(|line| line["kind"] == "step" && line["piece"] == piano.as_str()).count();
        assert_eq!(reply, done, "steps after {n}");
    }
}

/// Two tins that are one: what was mixed of the one is reported the other from then on, and found with it.
#[tokio::test]
async fn a_merged_tin_is_told_by_its_new_name() {
    let bench = Bench::demo().await;
    let (keep, gone) = (bench.paint("night blue").await, bench.paint("slate blue").await);
    bench.post("/api/paints/merge", json!({"keep": keep, "gone": gone}), StatusCode::OK).await;
    let mixed = found(&bench, &format!("kinds=mix&paint={keep}")).await;
    assert_eq!(words(&mixed), ["Mixed “drift blue for the case”: 5 night blue : 1 barley"]);
    assert!(found(&bench, &format!("kinds=mix&paint={gone}")).await.is_empty());
    bench.undo().await;
    assert_eq!(words(&found(&bench, &format!("kinds=mix&paint={gone}")).await).len(), 1);
}

/// A piece that was taken away keeps its name in the log, and its steps are still found under it.
#[tokio::test]
async fn a_piece_that_is_gone_keeps_its_name() {
    let bench = Bench::demo().await;
    let stool = bench.get("/api/pieces").await[1].clone();
    let id = stool["id"].as_str().unwrap();
    let kept = bench.get(&format!("/api/pieces/{id}")).await;
    let path = format!("/api/pieces/{id}?revision={}", kept["revision"]);
    let answer = bench.raw(Method::DELETE, &path, "application/json", "").await;
    assert!(answer.status().is_success(), "{}", answer.status());
    let steps = found(&bench, &format!("kinds=step&piece={id}")).await;
    assert_eq!(steps.len(), 3);
    assert!(steps.iter().all(|step| step["piece_name"] == "Stool, village hall"));
    // Its sheet can still be looked at.
    let sheet = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    assert_eq!(sheet["done"].as_array().unwrap().len(), 3);
    let begun = found(&bench, &format!("kinds=piece&piece={id}")).await;
    assert_eq!(begun[0]["removed"], true);
}

/// A note can be taken away by whoever saw it last; a day is a day on this computer's clock.
#[tokio::test]
async fn a_note_is_taken_away_and_days_bound() {
    let bench = Bench::empty().await;
    let at = |text: &str| json!({"words": text, "at": format!("{text}T12:00:00Z")});
    for day in ["2026-03-01", "2026-03-02", "2026-03-03"] {
        bench.post("/api/notes", at(day), StatusCode::CREATED).await;
    }
    let between = found(&bench, "from=2026-03-02&to=2026-03-02&kinds=note").await;
    assert_eq!(words(&between), ["2026-03-02"]);
    assert_eq!(found(&bench, "from=2026-03-02&kinds=note").await.len(), 2);
    let id = between[0]["document"].as_str().unwrap();
    let stale = format!("/api/notes/{id}?revision=9");
    bench.call(Method::DELETE, &stale, Value::Null, StatusCode::CONFLICT).await;
    bench
        .call(Method::DELETE, &format!("/api/notes/{id}?revision=1"), Value::Null, StatusCode::NO_CONTENT)
        .await;
    let gone = found(&bench, "from=2026-03-02&to=2026-03-02&kinds=note").await;
    assert_eq!(gone[0]["removed"], true, "it was there, and was taken away");
}

/// A photo with a card in it is held against what each zone is predicted to be, whatever light it was taken in; the nearest first.
#[tokio::test]
async fn a_finish_is_read_from_a_photo() {
    let bench = Bench::demo().await;
    let piece = bench.get("/api/piece").await;
    let seen = bench.post("/api/piece/preview", piece["entry"].clone(), StatusCode::OK).await;
    let zones = seen["zones"].as_array().unwrap();
    let case = zones.iter().find(|zone| zone["zone"] == "case").unwrap();
    let code: warm_blend_spectral::Srgb = case["seen"]["hex"].as_str().unwrap().parse().unwrap();
    // By a lamp that is warm and dim: three quarters of the red, less of the rest.
    let lamp =
        |code: [u8; 3]| image::Rgb(in_light(code.map(f64::from), [0.75, 0.6, 0.4]).map(|v| v.round() as u8));
    let picture = image::RgbImage::from_fn(600, 400, |x, _| {
        lamp(if x < 300 { [243; 3] } else { [code.red, code.green, code.blue] })
    });
    let mut png = Vec::new();
    picture.write_to(&mut std::io::Cursor::new(&mut png), image::ImageFormat::Png).unwrap();
    let kept = bench.raw(Method::POST, "/api/photos/kept", "application/octet-stream", png).await;
    let kept: Value = kept.json().await.unwrap();
    let spot = |x: f64| json!({"x": x, "y": 0.3, "radius": 0.03});
    let asked = json!({"photo": kept["id"], "card": "white", "card_at": spot(0.25), "finish_at": spot(0.75)});
    let path = format!("/api/pieces/{}/on-photo", piece["id"].as_str().unwrap());
    let read = bench.post(&path, asked.clone(), StatusCode::OK).await;
    let held = read["zones"].as_array().unwrap();
    assert_eq!(held.len(), zones.iter().filter(|zone| !zone["percent"].is_null()).count());
    let of_case = held.iter().find(|zone| zone["zone"] == "case").unwrap();
    assert!(of_case["difference"].as_f64().unwrap() < 1.0 && of_case["held"] == true, "{of_case}");
    let far: Vec<f64> = held.iter().map(|zone| zone["difference"].as_f64().unwrap()).collect();
    assert!(far.is_sorted() && held.last().unwrap()["held"] == false, "{far:?}");
    assert!(held.last().unwrap()["words"].as_str().unwrap().ends_with("than predicted"), "{read}");

    let refused = |asked: Value| bench.call(Method::POST, &path, asked, StatusCode::UNPROCESSABLE_ENTITY);
    let with = |at: &str, value: Value| {
        let mut asked = asked.clone();
        asked[at] = value;
        asked
    };
    assert!(about(&refused(with("card", json!("black"))).await, "/card").contains("white or grey"));
    assert!(about(&refused(with("card_at", spot(0.5))).await, "/card_at").contains("uneven"));
    assert!(about(&refused(with("finish_at", spot(5.0))).await, "/finish_at").contains("outside the photo"));
    assert!(about(&refused(with("photo", json!(uuid::Uuid::nil()))).await, "/photo").contains("log"));
}
