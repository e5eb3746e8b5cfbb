//! The piece: described, dressed, judged, unified, drawn.

use crate::bench::Bench;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const OK: StatusCode = StatusCode::OK;
const WRONG: StatusCode = StatusCode::UNPROCESSABLE_ENTITY;

fn zone<'a>(shown: &'a Value, id: &str) -> &'a Value {
    shown["zones"].as_array().unwrap().iter().find(|zone| zone["zone"] == id).unwrap()
}

async fn entry(bench: &Bench) -> Value {
    bench.get("/api/piece").await["entry"].clone()
}

async fn kept(bench: &Bench, entry: &Value, revision: u64, status: StatusCode) -> Value {
    let id = bench.get("/api/piece").await["id"].as_str().unwrap().to_owned();
    bench.call(Method::PUT, &format!("/api/pieces/{id}?revision={revision}"), entry.clone(), status).await
}

/// A chest of drawers in two strips of the demo's boards.
async fn chest(bench: &Bench) -> Value {
    let boards = bench.get("/api/boards").await;
    let worn = |board: usize, strip: &str| json!({"wears": {"strip": {"board": boards[board]["id"], "strip": strip}}});
    let mut entry = entry(bench).await;
    let choices = bench.get("/api/piece/choices").await;
    entry["form"] = choices["kinds"][0]["usual"].clone();
    entry["schemes"] = json!([{
        "name": "first", "intent": "quiet", "over": [], "pairs": [],
        "wears": {"case": worn(0, "A"), "sides": worn(0, "A"), "top": worn(0, "A"), "plinth": worn(0, "B"),
            "drawers": worn(1, "A"), "hardware": worn(1, "A")},
    }]);
    entry["chosen"] = json!(0);
    entry
}

#[tokio::test]
async fn every_kind_of_piece_can_be_described_and_drawn() {
    let bench = Bench::demo().await;
    let mut entry = entry(&bench).await;
    for kind in bench.get("/api/piece/choices").await["kinds"].as_array().unwrap() {
        entry["form"] = kind["usual"].clone();
        let reply = bench.post("/api/piece/preview?width=480&height=360", entry.clone(), OK).await;
        let sum: f64 =
            reply["zones"].as_array().unwrap().iter().map(|zone| zone["share"].as_f64().unwrap()).sum();
        assert!((sum - 1.0).abs() < 1e-9, "{kind}: {sum}");
        for face in reply["faces"].as_array().unwrap() {
            for part in face["parts"].as_array().unwrap() {
                let at: Vec<f64> =
                    part["at"].as_array().unwrap().iter().map(|v| v.as_f64().unwrap()).collect();
                assert!(
                    at[0] >= 0.0 && at[1] >= 0.0 && at[0] + at[2] <= 1.0 && at[1] + at[3] <= 1.0,
                    "{at:?}"
                );
            }
            let view = face["view"].as_str().unwrap();
            let address = format!("/api/piece/picture?width=240&height=180&view={view}");
            let answer = bench.raw(Method::POST, &address, "application/json", entry.to_string()).await;
            let png = answer.bytes().await.unwrap();
            let decoded = image::load_from_memory(&png).unwrap();
            assert_eq!((decoded.width(), decoded.height()), (240, 180));
        }
    }
}

#[tokio::test]
async fn a_piece_is_kept_undone_and_not_overwritten() {
    let bench = Bench::demo().await;
    let before = entry(&bench).await;
    let mut changed = before.clone();
    changed["brief"]["mood"] = json!("seaside-weathered");
    changed["brief"]["due"] = json!("2027-03-01");
    changed["schemes"][0]["wears"]["case"]["ageing"]["grime"] = json!(0.8);
    assert_eq!(kept(&bench, &changed, 1, OK).await["entry"], changed);
    kept(&bench, &before, 1, StatusCode::CONFLICT).await;
    bench.undo().await;
    assert_eq!(entry(&bench).await, before);
}

#[tokio::test]
async fn fighting_neighbours_are_brought_together() {
    let bench = Bench::demo().await;
    let mut entry = chest(&bench).await;
    let reply = bench.post("/api/piece/preview", entry.clone(), OK).await;
    let far = reply["pairs"].as_array().unwrap().iter().filter(|pair| pair["stands"] == "far").count();
    assert_eq!(far, 1, "{}", reply["pairs"]);
    let first = reply["findings"][0]["what"].as_str().unwrap();
    assert!(first.contains("clash"), "{first}");
    assert!(!reply["pulls"].as_array().unwrap().is_empty());

    let found = bench.post("/api/piece/unify", entry.clone(), OK).await;
    let best = &found["ways"][0];
    assert_eq!(
        (&best["all_in"], &best["verdict"]),
        (&json!(true), &json!("all adjoining parts go together"))
    );
    assert!(best["cost"].as_f64().unwrap() > 0.0 && best["ml"].as_f64().unwrap() > 0.0);
    assert!(best["hours"].as_f64().unwrap() > 0.0);
    // Line by line it is the same, after how far it is.
    let lines = bench.lines("/api/piece/unify", entry.clone()).await;
    let done: Vec<f64> = lines.iter().map(|line| line["done"].as_f64().unwrap()).collect();
    assert!(done.len() > 2 && done.windows(2).all(|two| two[0] <= two[1]) && done[0] < 1.0, "{done:?}");
    let last = &lines[lines.len() - 1];
    assert_eq!((&last["found"]["ways"][0]["words"], &last["done"]), (&best["words"], &json!(1.0)));
    entry["schemes"][0]["over"] = json!([best["over"]]);
    let then = bench.post("/api/piece/preview", entry.clone(), OK).await;
    assert!(then["pairs"].as_array().unwrap().iter().all(|pair| pair["stands"] == "in"), "{}", then["pairs"]);
    // What was shown of each pair is what it then is.
    for pair in then["pairs"].as_array().unwrap() {
        let reply =
            best["pairs"].as_array().unwrap().iter().find(|reply| reply["name"] == pair["name"]).unwrap();
        let off = reply["contrast"].as_f64().unwrap() - pair["contrast"].as_f64().unwrap();
        assert!(off.abs() < 1e-6);
    }
    // Together already: nothing to be done.
    assert_eq!(bench.post("/api/piece/unify", entry, OK).await["ways"], json!([]));
}

#[tokio::test]
async fn a_board_that_was_put_away_is_still_worn() {
    let bench = Bench::demo().await;
    let entry = chest(&bench).await;
    let before = bench.post("/api/piece/preview", entry.clone(), OK).await;
    let board = entry["schemes"][0]["wears"]["case"]["wears"]["strip"]["board"].as_str().unwrap().to_owned();
    let address = format!("/api/boards/{board}?revision=1");
    bench.call(Method::DELETE, &address, Value::Null, StatusCode::NO_CONTENT).await;
    let after = bench.post("/api/piece/preview", entry.clone(), OK).await;
    assert_eq!(zone(&after, "case")["seen"], zone(&before, "case")["seen"]);
    // A strip that the board never had is said at its zone, and the rest stands.
    let mut gone = entry;
    gone["schemes"][0]["wears"]["case"]["wears"]["strip"]["strip"] = json!("F");
    let reply = bench.post("/api/piece/preview", gone, OK).await;
    assert!(zone(&reply, "case")["refused"].as_str().unwrap().contains("no longer has a strip F"));
    assert!(zone(&reply, "drawers")["seen"].is_object());
}

#[tokio::test]
async fn what_cannot_be_says_where_and_what_would_do() {
    let bench = Bench::demo().await;
    let good = chest(&bench).await;
    let refused = |change: &dyn Fn(&mut Value)| {
        let mut entry = good.clone();
        change(&mut entry);
        entry
    };
    let paint = bench.get("/api/paints").await[0]["id"].clone();
    let cases: [(Value, &str, &str); 10] = [
        (refused(&|e| e["form"]["width"] = json!(0)), "/form/width", "150 to 8000"),
        (refused(&|e| e["form"]["width"] = json!(9000)), "/form/width", "150 to 8000"),
        (refused(&|e| e["form"]["drawers"] = json!(40)), "/form/drawers", "1 to 12"),
        (refused(&|e| e["form"]["legs"] = json!(850)), "/form/legs", "legs shorter"),
        (
            refused(&|e| e["corrections"] = json!({"case": {"area": 0, "edge": null}})),
            "/corrections/case/area",
            "or leave blank",
        ),
        (
            refused(&|e| e["schemes"][0]["intent"] = json!("loud")),
            "/schemes/0/intent",
            "one of quiet, layered, bold",
        ),
        (
            refused(&|e| e["schemes"][0]["wears"]["roof"] = json!({"wears": "bare"})),
            "/schemes/0/wears",
            "use one of top",
        ),
        (
            refused(&|e| e["schemes"][0]["wears"]["top"]["ageing"] = json!({"wear": 1.4})),
            "/schemes/0/wears/top/ageing/wear",
            "1",
        ),
        (refused(&|e| e["windows"]["quiet"] = json!([30, 20])), "/windows", "lower number first"),
        (refused(&|e| e["brief"]["due"] = json!("soon")), "/brief/due", "2026-12-01"),
    ];
    for (entry, pointer, words) in cases {
        let problem = bench.post("/api/piece/preview", entry, WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{problem}");
        assert!(problem["errors"][0]["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let blend = |bands: Value| {
        refused(&|e| {
            e["schemes"][0]["wears"]["case"]["wears"] = json!({"blend": {"way": "down", "bands": bands}})
        })
    };
    let band = |at: f64| json!({"pot": [{"paint": paint, "parts": 1}], "at": at});
    for bands in [json!([]), json!([band(0.0)]), json!([band(1.0), band(0.0)]), json!([band(0.0), band(7.0)])]
    {
        let reply = bench.post("/api/piece/preview", blend(bands), OK).await;
        assert!(zone(&reply, "case")["refused"].is_string());
    }
    let reply = bench.post("/api/piece/preview", blend(json!([band(0.0), band(1.0)])), OK).await;
    assert!(zone(&reply, "case")["refused"].is_null());
    let stencilled = |size: f64, repeats: Value, motif: &str| {
        refused(&|e| {
            let pot = json!([{"paint": paint, "parts": 1}]);
            e["schemes"][0]["wears"]["drawers"]["stencil"] =
                json!({"motif": motif, "size": size, "repeats": repeats, "pot": pot})
        })
    };
    for (size, repeats, motif, pointer) in [
        (80.0, json!(null), "skull", "/schemes/0/wears/drawers/stencil/motif"),
        (0.0, json!(null), "ring", "/schemes/0/wears/drawers/stencil"),
        (80.0, json!(0), "ring", "/schemes/0/wears/drawers/stencil"),
    ] {
        let problem = bench.post("/api/piece/preview", stencilled(size, repeats, motif), WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{problem}");
    }
    let reply = bench.post("/api/piece/preview", stencilled(900.0, json!(null), "ring"), OK).await;
    assert!(zone(&reply, "drawers")["refused"].as_str().unwrap().contains("choose a smaller one"), "{reply}");
    let reply = bench.post("/api/piece/preview", stencilled(60.0, json!(5), "ring"), OK).await;
    let spread = zone(&reply, "drawers")["stencil"]["spread"].as_str().unwrap();
    assert!(
        spread.starts_with("5 repeats, ") && spread.ends_with("mm between them and at each end"),
        "{spread}"
    );
    for (repairs, pointer) in [
        (json!({"case": ["varnish"]}), "/repairs/case"),
        (json!({"cellar": ["fill"]}), "/repairs"),
        (json!({"case": "fill"}), "/repairs/case"),
    ] {
        let problem =
            bench.post("/api/piece/preview", refused(&|e| e["repairs"] = repairs.clone()), WRONG).await;
        assert!(problem["errors"][0]["pointer"].as_str().unwrap().starts_with(pointer), "{problem}");
    }
    // A running border that fades, and what is none.
    let faded = |gap: Value, fade: Value| {
        refused(&|e| {
            let pot = json!([{"paint": paint, "parts": 1}]);
            let stencil = json!({"motif": "wave", "size": 60, "gap": gap, "fade": fade, "pot": pot});
            e["schemes"][0]["wears"]["drawers"]["stencil"] = stencil
        })
    };
    let fade = |weakest: f64| json!({"weakest": weakest, "along": 0.5, "patchy": 0.3});
    for (gap, fade) in [(-1, fade(0.2)), (5000, fade(0.2)), (0, fade(1.5)), (0, fade(-0.1))] {
        let problem = bench.post("/api/piece/preview", faded(json!(gap), fade), WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], "/schemes/0/wears/drawers/stencil", "{problem}");
    }
    let reply = bench.post("/api/piece/preview", faded(json!(0), fade(0.2)), OK).await;
    let border = &zone(&reply, "drawers")["stencil"];
    assert!(border["spread"].as_str().unwrap().contains("repeats that join"), "{border}");
    assert!(border["marks"][0].as_str().unwrap().starts_with("On "), "{border}");
    // Round each part, by hand, sanded in, with a highlight; and what is none.
    let around = |around: Value, softened: Value| {
        refused(&|e| {
            let pot = json!([{"paint": paint, "parts": 1}]);
            let stencil = json!({"motif": "petals", "size": 30, "by_hand": true, "around": around, "softened": softened,
                "pot": pot, "edge": pot});
            e["schemes"][0]["wears"]["drawers"]["stencil"] = stencil
        })
    };
    let sanded = |share: f64| json!({"how": "sanded", "share": share});
    let corner = |inset: f64, corner: &str| json!({"inset": inset, "corner": corner});
    let reply = bench.post("/api/piece/preview", around(corner(12.0, "corner"), sanded(0.4)), OK).await;
    let border = &zone(&reply, "drawers")["stencil"];
    assert!(border["spread"].as_str().unwrap().contains("along the longer sides"), "{border}");
    assert_eq!(border["inset"], "12 mm");
    for (around_it, softened, pointer) in [
        (corner(-1.0, "corner"), sanded(0.4), "/schemes/0/wears/drawers/stencil"),
        (corner(12.0, "skull"), sanded(0.4), "/schemes/0/wears/drawers/stencil/around/corner"),
        (corner(12.0, "corner"), sanded(1.4), "/schemes/0/wears/drawers/stencil/softened/share"),
        (
            corner(12.0, "corner"),
            json!({"how": "burned", "share": 0.3}),
            "/schemes/0/wears/drawers/stencil/softened/how",
        ),
    ] {
        let problem = bench.post("/api/piece/preview", around(around_it, softened), WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{problem}");
    }
    // The template of the demo's border, and of what has none.
    let id = bench.get("/api/piece").await["id"].as_str().unwrap().to_owned();
    let template = bench.get(&format!("/api/pieces/{id}/template?zone=fall")).await;
    assert_eq!(
        (&template["cuts"][0]["name"], template["sheets"].as_array().unwrap().len()),
        (&json!("Waves"), 1)
    );
    for (zone, at) in [("case", "?zone"), ("cellar", "?zone")] {
        let path = format!("/api/pieces/{id}/template?zone={zone}");
        let problem = bench.call(Method::GET, &path, Value::Null, WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], at, "{problem}");
    }
    let unknown = refused(&|e| e["form"]["kind"] = json!("spaceship"));
    let problem = bench.post("/api/piece/preview", unknown, WRONG).await;
    assert!(problem["detail"].as_str().unwrap().contains("chest-of-drawers"), "{problem}");
    let none = refused(&|e| e["form"] = Value::Null);
    let reply = bench.post("/api/piece/preview", none.clone(), OK).await;
    assert_eq!(reply["zones"], json!([]));
    bench.post("/api/piece/unify", none.clone(), WRONG).await;
    let lines = bench.lines("/api/piece/unify", none.clone()).await;
    assert_eq!(lines[0]["problem"]["errors"][0]["pointer"], "/form", "{lines:?}");
    bench.post("/api/piece/picture", none, WRONG).await;
    let problem = bench.post("/api/piece/picture?view=below", good.clone(), WRONG).await;
    assert_eq!(problem["errors"][0]["pointer"], "?view");
    for query in ["closer=0", "closer=99", "closer=2&x=-1", "closer=2&y=NaN"] {
        bench.post(&format!("/api/piece/picture?{query}"), good.clone(), WRONG).await;
    }
    bench.post("/api/piece/picture?width=10&height=20000", good, WRONG).await;
}

/// The same piece in inches and feet; what is typed is read in any unit.
#[tokio::test]
async fn a_piece_is_told_in_either_units() {
    let bench = Bench::demo().await;
    let mut entry = chest(&bench).await;
    entry["form"]["width"] = json!(914.4);
    let reply = bench.post("/api/piece/preview", entry.clone(), OK).await;
    let said = |shown: &Value, id: &str| {
        let dimensions = shown["dimensions"].as_array().unwrap();
        dimensions.iter().find(|dimension| dimension["id"] == id).unwrap()["said"].clone()
    };
    assert_eq!(said(&reply, "width"), "914 mm");
    let feet = bench.post("/api/piece/preview?units=imperial", entry.clone(), OK).await;
    assert_eq!((said(&feet, "width"), said(&feet, "drawers")), (json!("36 in"), json!("4")));
    assert!(zone(&reply, "case")["area"].as_str().unwrap().ends_with(" m²"));
    assert!(zone(&feet, "case")["area"].as_str().unwrap().ends_with(" ft²"));
    assert_eq!(zone(&reply, "case")["area_m2"], zone(&feet, "case")["area_m2"]);
    let read = bench.get("/api/measured?measured=length&text=36%201/2%20in").await;
    // An inch is 25.4 mm, which no binary number is.
    assert!((read["value"].as_f64().unwrap() - 927.1).abs() < 1e-9 && read["said"] == "927 mm", "{read}");
    let read = bench.get("/api/measured?measured=length&units=imperial&text=3%20ft%202").await;
    assert_eq!(read["said"], "38 in");
    for (query, pointer) in [
        ("measured=length&text=wide", "?text"),
        ("measured=length&text=-3", "?text"),
        ("measured=depth&text=3", "?measured"),
        ("measured=run&text=3&units=cubits", "?units"),
    ] {
        let problem = bench.call(Method::GET, &format!("/api/measured?{query}"), Value::Null, WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{problem}");
    }
    bench.post("/api/piece/preview?units=cubits", entry, WRONG).await;
}

/// A photo of the brief stays, and what is no photo is refused; undo takes it out again.
#[tokio::test]
async fn a_brief_keeps_its_photo() {
    let bench = Bench::demo().await;
    let bytes = "application/octet-stream";
    let raw = async |body: Vec<u8>| bench.raw(Method::POST, "/api/photos/kept", bytes, body).await;
    let mut png = Vec::new();
    let image = image::RgbImage::from_pixel(64, 48, image::Rgb([120, 110, 90]));
    image.write_to(&mut std::io::Cursor::new(&mut png), image::ImageFormat::Png).unwrap();
    let answer = raw(png.clone()).await;
    assert_eq!(answer.status(), StatusCode::CREATED);
    let id = serde_json::from_str::<Value>(&answer.text().await.unwrap()).unwrap()["id"].clone();
    let mut entry = entry(&bench).await;
    entry["brief"]["photo"] = id.clone();
    let saved = kept(&bench, &entry, 1, OK).await;
    assert_eq!(saved["entry"]["brief"]["photo"], id);
    let path = format!("/api/photos/kept/{}", id.as_str().unwrap());
    let photo = bench.raw(Method::GET, &path, bytes, Vec::new()).await;
    assert_eq!((photo.status(), photo.headers()["content-type"].as_bytes()), (OK, b"image/jpeg".as_slice()));
    assert_eq!(photo.headers()["x-content-type-options"], "nosniff");
    let jpeg = photo.bytes().await.unwrap();
    assert_eq!(image::load_from_memory(&jpeg).unwrap().into_rgb8().dimensions(), (64, 48));
    bench.undo().await;
    assert_eq!(bench.get("/api/piece").await["entry"]["brief"]["photo"], Value::Null);
    for bad in [Vec::new(), png[..40].to_vec(), b"<svg/>".to_vec()] {
        assert_eq!(raw(bad).await.status(), WRONG);
    }
    bench.call(Method::GET, "/api/photos/kept/0", Value::Null, StatusCode::NOT_FOUND).await;
    let none = format!("/api/photos/kept/{}", uuid::Uuid::from_u128(7));
    bench.call(Method::GET, &none, Value::Null, StatusCode::NOT_FOUND).await;
}

/// A second piece is begun and taken to hand; the first is taken up again; the last one stays.
#[tokio::test]
async fn pieces_are_taken_to_hand_and_put_away() {
    let bench = Bench::demo().await;
    let first = bench.get("/api/piece").await;
    let stool = bench.post("/api/pieces", json!({"name": "second stool"}), StatusCode::CREATED).await;
    assert_eq!(bench.get("/api/piece").await["id"], stool["id"]);
    let listed = bench.get("/api/pieces").await;
    let named = |n: usize| (listed[n]["name"].as_str().unwrap().to_owned(), listed[n]["at_hand"].clone());
    assert_eq!((named(0).1, named(2)), (json!(false), ("second stool".to_owned(), json!(true))));
    assert_eq!((&listed[0]["kind"], &listed[2]["kind"]), (&json!("Upright case with panels"), &Value::Null));
    let address = |piece: &Value| format!("/api/pieces/{}", piece["id"].as_str().unwrap());
    bench.call(Method::PUT, &format!("{}/at-hand", address(&first)), Value::Null, OK).await;
    assert_eq!(bench.get("/api/piece").await["id"], first["id"]);
    let gone = StatusCode::NO_CONTENT;
    bench.call(Method::DELETE, &format!("{}?revision=1", address(&first)), Value::Null, gone).await;
    // What was deleted is no longer at hand, and the only piece is not deleted.
    assert_eq!(bench.get("/api/piece").await["id"], listed[1]["id"]);
    bench.call(Method::DELETE, &format!("{}?revision=1", address(&listed[1])), Value::Null, gone).await;
    let kept =
        bench.call(Method::DELETE, &format!("{}?revision=1", address(&stool)), Value::Null, WRONG).await;
    assert!(kept["detail"].as_str().unwrap().contains("only piece"), "{kept}");
    for _ in 0..2 {
        bench.undo().await;
    }
    assert_eq!(bench.get("/api/piece").await["id"], first["id"]);
    bench.post("/api/pieces", json!({"name": " "}), WRONG).await;
    let unknown = "/api/pieces/00000000-0000-7000-8000-000000000000/at-hand";
    bench.call(Method::PUT, unknown, Value::Null, StatusCode::NOT_FOUND).await;
}

/// The tins of a blend are known to be in use, and merged with the rest.
#[tokio::test]
async fn merging_two_tins_reaches_the_piece() {
    let bench = Bench::demo().await;
    let paints = bench.get("/api/paints").await;
    let (one, other) = (paints[2]["id"].clone(), paints[3]["id"].clone());
    let mut entry = chest(&bench).await;
    let band = |paint: &Value, at: f64| json!({"pot": [{"paint": paint, "parts": 1}], "at": at});
    let third = &paints[4]["id"];
    let blend = json!({"way": "down", "bands": [band(&one, 0.0), band(third, 1.0)]});
    entry["schemes"][0]["wears"]["case"]["wears"] = json!({"blend": blend});
    kept(&bench, &entry, 1, OK).await;
    bench.post("/api/paints/merge", json!({"keep": other, "gone": one}), OK).await;
    let now = self::entry(&bench).await;
    let case = &now["schemes"][0]["wears"]["case"]["wears"];
    assert_eq!(case["blend"]["bands"][0]["pot"][0]["paint"], other);
}

/// A picture of no size is refused where it is asked for, with the sizes that can be.
#[tokio::test]
async fn pictures_of_no_size_are_refused() {
    let bench = Bench::demo().await;
    let entry = chest(&bench).await;
    for size in ["width=0", "height=0", "width=47", "width=4097", "width=0&height=0"] {
        for path in ["/api/piece/picture", "/api/piece/preview"] {
            let reply =
                bench.post(&format!("{path}?{size}"), entry.clone(), StatusCode::UNPROCESSABLE_ENTITY).await;
            assert_eq!(reply["errors"][0]["pointer"], "?width", "{reply}");
            assert!(reply.to_string().contains("from 48 to 4096"), "{reply}");
        }
    }
}

/// The finish on the photo of the demo: looked at, marked, drawn; bad marks say what is wrong, and nothing else of the piece is lost.
#[tokio::test]
async fn a_finish_is_shown_on_a_photo() {
    let bench = Bench::demo().await;
    let good = entry(&bench).await;
    let seen = bench.post("/api/piece/on-photo?photo=0", good.clone(), OK).await;
    assert_eq!((&seen["problem"], &seen["guess"]), (&Value::Null, &Value::Null));
    assert_eq!(seen["faces"], json!(["front", "side", "top"]));
    let parts: Vec<&str> =
        seen["parts"].as_array().unwrap().iter().map(|part| part["zone"].as_str().unwrap()).collect();
    assert!(
        parts.contains(&"panels") && parts.contains(&"top") && !parts.contains(&"unpainted"),
        "{parts:?}"
    );
    let draw = async |query: &str, entry: &Value| {
        let address = format!("/api/piece/on-photo/picture?photo=0&{query}");
        bench.raw(Method::POST, &address, "application/json", entry.to_string()).await
    };
    let decoded = async |query: &str, entry: &Value| {
        let answer = draw(query, entry).await;
        assert_eq!(answer.status(), OK);
        image::load_from_memory(&answer.bytes().await.unwrap()).unwrap().into_rgb8()
    };
    let first = decoded("width=320&scheme=0", &good).await;
    assert_eq!(first.width(), 320);
    assert_eq!(first, decoded("width=320&scheme=0", &good).await);
    let other = decoded("width=320&scheme=1", &good).await;
    let changed = first.pixels().zip(other.pixels()).filter(|(one, other)| one != other).count();
    assert!(changed > 2000, "{changed}");
    assert_eq!(first.get_pixel(4, 4), other.get_pixel(4, 4));

    // Not marked yet: a guess, and no picture.
    let mut bare = good.clone();
    bare["photos"][0]["faces"] = json!([]);
    bare["photos"][0]["card"] = Value::Null;
    let seen = bench.post("/api/piece/on-photo?photo=0", bare.clone(), OK).await;
    assert_eq!(seen["guess"]["corners"].as_array().unwrap().len(), 4);
    assert!(seen["warnings"][0].as_str().unwrap().contains("approximate"), "{seen}");
    assert_eq!(draw("width=320", &bare).await.status(), WRONG);

    let corners = |corners: Value| {
        let mut entry = good.clone();
        entry["photos"][0]["faces"][0]["corners"] = corners;
        entry
    };
    let crossed = corners(json!([[0.29, 0.2], [0.71, 0.53], [0.73, 0.19], [0.32, 0.62]]));
    let behind = corners(json!([[0.73, 0.19], [0.29, 0.2], [0.32, 0.62], [0.71, 0.53]]));
    for (entry, words) in [(crossed, "cross"), (behind, "behind")] {
        let seen = bench.post("/api/piece/on-photo?photo=0", entry.clone(), OK).await;
        assert!(seen["problem"].as_str().unwrap().contains(words), "{seen}");
        let answer = draw("width=320", &entry).await;
        assert_eq!(answer.status(), WRONG);
        assert!(answer.text().await.unwrap().contains("/faces"));
        // It can be kept so, to be mended later.
        bench.post("/api/piece/preview", entry, OK).await;
    }
    let far =
        bench.post("/api/piece/preview", corners(json!([[9e9, 0.2], [0, 1], [1, 1], [1, 0]])), WRONG).await;
    assert!(far.to_string().contains("/photos/0/faces/0/corners"), "{far}");
    bench.post("/api/piece/preview", corners(json!([[0.1, 0.2], [0, 1], [1, 1]])), WRONG).await;
    let mut shaded = good.clone();
    shaded["photos"][0]["card"]["y"] = json!(0.29);
    let seen = bench.post("/api/piece/on-photo?photo=0", shaded, OK).await;
    assert!(seen["problem"].as_str().is_some() || seen["warnings"][0].as_str().is_some(), "{seen}");
    // A surface of known colour serves instead of the card.
    let known = |colour: Value| {
        let mut entry = good.clone();
        entry["photos"][0]["card"]["kind"] = json!("known");
        entry["photos"][0]["card"]["colour"] = colour;
        entry
    };
    let seen = bench.post("/api/piece/on-photo?photo=0", known(json!({"hex": "#f2f0ea"})), OK).await;
    assert_eq!(seen["problem"], Value::Null, "{seen}");
    let seen = bench.post("/api/piece/on-photo?photo=0", known(json!({"hex": "#102060"})), OK).await;
    assert!(seen["problem"].as_str().unwrap().contains("too dark or too pure"), "{seen}");
    for colour in
        [Value::Null, json!({"hex": "#b08"}), json!({"hex": "#b08d5"}), json!({"lab": [50, 300, 0]})]
    {
        let is_right = colour["hex"] == "#b08";
        let answer = bench.post("/api/piece/preview", known(colour), if is_right { OK } else { WRONG }).await;
        assert!(is_right || answer.to_string().contains("/photos/0/card/colour"), "{answer}");
    }
    bench.post("/api/piece/on-photo?photo=7", good.clone(), WRONG).await;
    let mut gone = good.clone();
    gone["photos"][0]["photo"] = json!(uuid::Uuid::from_u128(7));
    bench.post("/api/piece/on-photo?photo=0", gone, StatusCode::NOT_FOUND).await;
    let mut many = good.clone();
    many["photos"] = json!(vec![good["photos"][0].clone(); 7]);
    bench.post("/api/piece/preview", many, WRONG).await;

    // A part that lies elsewhere than in the drawing is put where it is seen, as far as there is room.
    let seen = bench.post("/api/piece/on-photo?photo=0", good.clone(), OK).await;
    let part = |of: &Value, moves: bool| {
        of["parts"].as_array().unwrap().iter().find(|part| part["moves"] == moves).unwrap().clone()
    };
    let first = part(&seen, true);
    let corner = |of: &Value, n: usize, by: f64| {
        json!([of["corners"][n][0].as_f64().unwrap() + by, of["corners"][n][1].as_f64().unwrap() + by])
    };
    let place = async |entry: &Value, of: &Value, by: f64, status: StatusCode| {
        let to = json!({"view": of["view"], "part": of["part"], "upper_left": corner(of, 0, by), "lower_right": corner(of, 2, 0.0)});
        bench.post("/api/piece/on-photo/part?photo=0", json!({"piece": entry, "to": to}), status).await
    };
    let moved = place(&good, &first, 0.01, OK).await;
    let mut there = good.clone();
    there["moved"] = moved.clone();
    let seen_again = bench.post("/api/piece/on-photo?photo=0", there.clone(), OK).await;
    let now = part(&seen_again, true);
    for (n, by) in [(0, 0.01), (2, 0.0)] {
        for axis in 0..2 {
            let (at, asked) =
                (now["corners"][n][axis].as_f64().unwrap(), corner(&first, n, by)[axis].as_f64().unwrap());
            assert!((at - asked).abs() < 1e-3, "{at} {asked}");
        }
    }
    // Put twice, it is kept once; far outside it stays within what it is set into.
    assert_eq!(place(&there, &now, 0.002, OK).await.as_array().unwrap().len(), 1);
    let far = place(&good, &first, -0.4, OK).await;
    there["moved"] = far;
    bench.post("/api/piece/preview", there.clone(), OK).await;
    place(&good, &part(&seen, false), 0.01, WRONG).await;
    there["moved"][0]["within"] = json!([0.5, 0.2, 0.1, 0.9]);
    let wrong = bench.post("/api/piece/preview", there, WRONG).await;
    assert!(wrong.to_string().contains("/moved"), "{wrong}");

    // A point near a corner of the piece lands on it.
    let photo = good["photos"][0]["photo"].as_str().unwrap();
    let snapped =
        bench.post(&format!("/api/photos/kept/{photo}/snap"), json!({"x": 0.738, "y": 0.199}), OK).await;
    let (x, y) = (snapped["x"].as_f64().unwrap(), snapped["y"].as_f64().unwrap());
    assert!((x - 0.7368).hypot(y - 0.194) < 0.02, "{x} {y}");
}

/// A word and a drawing become outlines that a pattern can have; what cannot be cut says in which field and why.
#[tokio::test]
async fn outlines_of_ones_own() {
    let bench = Bench::demo().await;
    let word = bench.post("/api/piece/outline", json!({"word": "moss"}), OK).await;
    assert_eq!((&word["own"]["name"], &word["size"]), (&json!("moss"), &Value::Null));
    // A word of its own height lengthwise fills what it is given.
    let room = json!({"long": 900.0, "broad": 120.0, "border": 0.0, "inset": 0.0});
    let filled = bench.post("/api/piece/outline", json!({"word": "moss", "room": room}), OK).await;
    assert!((10.0..=720.0).contains(&filled["size"].as_f64().unwrap()), "{filled}");
    let word = word["own"].clone();
    let drawing = "<svg xmlns='http://www.w3.org/2000/svg'><circle r='5'/></svg>";
    let circle = bench.post("/api/piece/outline", json!({"svg": drawing, "name": "moon"}), OK).await;
    assert_eq!(circle["own"]["name"], "moon");
    for (asked, pointer) in [
        (json!({"word": ""}), "/word"),
        (json!({"word": "🌿"}), "/word"),
        (json!({"svg": "<svg><script/></svg>"}), "/svg"),
        (json!({"svg": "M0 0L9 9"}), "/svg"),
        (json!({"svg": drawing, "name": ""}), "/name"),
        (json!({}), "/svg"),
        (json!({"svg": drawing, "word": "moss"}), "/svg"),
    ] {
        let problem = bench.post("/api/piece/outline", asked.clone(), WRONG).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{asked}: {problem}");
    }
    // In a pattern: as it was made, and not as somebody wrote it by hand.
    let piece = bench.get("/api/piece").await;
    let with = |own: &Value| {
        let mut entry = piece["entry"].clone();
        entry["schemes"][0]["wears"]["fall"]["stencil"]["own"] = own.clone();
        entry
    };
    bench.post("/api/piece/preview", with(&word), OK).await;
    let by_hand = json!({"name": "line", "path": "M0 0L9 9"});
    let problem = bench.post("/api/piece/preview", with(&by_hand), WRONG).await;
    assert!(problem["errors"][0]["detail"].as_str().unwrap().contains("enclose no area"), "{problem}");
}

/// The colours that a pattern can take over from a part are those that are seen there: layers that are left out lend none.
#[tokio::test]
async fn a_part_lends_the_colours_that_are_seen() {
    let bench = Bench::demo().await;
    let entry = entry(&bench).await;
    let pots = |shown: &Value| zone(shown, "panels")["pots"].as_array().unwrap().clone();
    let before = pots(&bench.post("/api/piece/preview", entry.clone(), OK).await);
    assert!(before.len() > 1, "{before:?}");
    let board = entry["schemes"][0]["wears"]["panels"]["wears"]["strip"]["board"].as_str().unwrap();
    let path = format!("/api/boards/{board}");
    let kept = bench.get(&path).await;
    let mut without = kept["entry"].clone();
    let layers = without["strips"]
        .as_array_mut()
        .unwrap()
        .iter_mut()
        .flat_map(|strip| strip["layers"].as_array_mut().unwrap());
    for layer in layers.filter(|layer| layer["pot"] != before[0]) {
        layer["muted"] = json!(true);
    }
    bench.call(Method::PUT, &format!("{path}?revision={}", kept["revision"]), without, OK).await;
    assert_eq!(pots(&bench.post("/api/piece/preview", entry, OK).await), before[..1]);
}
