//! Ids: whatever a document names is checked when it is written, and a wrong one takes nothing down.

use std::collections::{BTreeMap, BTreeSet};

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};
use uuid::Uuid;
use warm_blend_documents::{KINDS, uses_of};
use warm_blend_server::Workspace;

use crate::bench::{Bench, LISTS};

/// Every string in a value that is an id, with its JSON pointer.
fn ids(value: &Value, at: &str, found: &mut Vec<(String, Uuid)>) {
    match value {
        Value::String(text) if text.len() == 36 => {
            found.extend(text.parse().ok().map(|id| (at.to_owned(), id)));
        }
        Value::Array(list) => {
            list.iter().enumerate().for_each(|(n, one)| ids(one, &format!("{at}/{n}"), found));
        }
        Value::Object(fields) => {
            fields.iter().for_each(|(name, one)| ids(one, &format!("{at}/{name}"), found))
        }
        _ => {}
    }
}

fn ids_in(value: &Value) -> Vec<(String, Uuid)> {
    let mut found = Vec::new();
    ids(value, "", &mut found);
    found
}

/// Every id in every document of the demo, in whatever field, is one that is checked when it is written; and the demo holds documents of
/// all kinds.
#[tokio::test]
async fn no_field_is_forgotten() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    drop(Workspace::demo(&file).unwrap());
    {
        let bench = Bench::of(&file).await.unwrap();
        let mix = bench.get("/api/mixes").await[0]["id"].clone();
        bench.post("/api/pours", json!({ "mix": mix, "batch_ml": 200 }), StatusCode::OK).await;
        let board = bench.get("/api/boards").await[0]["id"].as_str().unwrap().to_owned();
        let spots = crate::boards::spots(&bench, &board, "A", 1).await;
        let entry = json!({ "strip": "A", "spots": spots });
        bench.post(&format!("/api/boards/{board}/readings"), entry, StatusCode::CREATED).await;
    }
    let connection = rusqlite::Connection::open(&file).unwrap();
    let mut query = connection.prepare("SELECT kind, body FROM document").unwrap();
    let rows = query.query_map([], |row| Ok((row.get::<_, String>(0)?, row.get::<_, String>(1)?))).unwrap();
    let mut seen = BTreeSet::new();
    for row in rows {
        let (kind, body) = row.unwrap();
        let checked: Vec<Uuid> = uses_of(&kind, &body).unwrap().iter().map(|used| used.id).collect();
        let named = ids_in(&serde_json::from_str(&body).unwrap());
        // Layers have ids of their own, by which others of the board find them.
        let own: Vec<Uuid> =
            named.iter().filter(|(field, _)| field.ends_with("/id")).map(|(_, id)| *id).collect();
        for (field, id) in named.into_iter().filter(|(_, id)| !own.contains(id)) {
            assert!(checked.contains(&id), "{kind} names something in {field} that is not checked");
        }
        seen.insert(kind);
    }
    assert_eq!(seen, KINDS.iter().map(|kind| (*kind).to_owned()).collect());
}

/// What else is read again and again, and must stay as it is.
const LOG: [&str; 3] = ["/api/log", "/api/log/truth", "/api/log/skills"];

async fn lists(bench: &Bench) -> Vec<Value> {
    let mut all = Vec::new();
    for list in LISTS.into_iter().chain(LOG) {
        all.push(bench.get(list).await);
    }
    all
}

/// In every entry that can be written, each id in turn is that of a document of each other kind: refused, and every list reads as before.
#[tokio::test]
async fn a_wrong_id_is_refused_and_changes_nothing() {
    let bench = Bench::demo().await;
    let before = lists(&bench).await;
    let one_of = async |list: &str| bench.get(list).await[0]["id"].as_str().map(str::to_owned);
    let mut by_kind: BTreeMap<&str, String> = BTreeMap::new();
    for (kind, list) in [
        ("paint", "/api/paints"),
        ("mix", "/api/mixes"),
        ("board", "/api/boards"),
        ("piece", "/api/pieces"),
        ("pour", "/api/pours"),
        ("reading", "/api/readings"),
    ] {
        by_kind.extend(one_of(list).await.map(|id| (kind, id)));
    }
    assert!(by_kind.len() >= 5, "{by_kind:?}");
    let kind_of =
        |id: &Uuid| by_kind.iter().find(|(_, other)| **other == id.to_string()).map(|(kind, _)| *kind);

    let mut tried = 0;
    for (list, preview) in [
        ("/api/mixes", Some("/api/mixes/preview")),
        ("/api/boards", Some("/api/boards/preview")),
        ("/api/pieces", Some("/api/piece/preview")),
        ("/api/readings", None),
    ] {
        for item in bench.get(list).await.as_array().unwrap().iter().take(4) {
            let path = format!("{list}/{}", item["id"].as_str().unwrap());
            let kept = if list == "/api/readings" { item.clone() } else { bench.get(&path).await };
            let named = ids_in(&kept["entry"]);
            // One field of each name is enough.
            let mut fields = BTreeSet::new();
            for (field, id) in named {
                if !fields.insert(field.rsplit('/').next().unwrap().to_owned()) {
                    continue;
                }
                for (kind, other) in &by_kind {
                    let mut entry = kept["entry"].clone();
                    *entry.pointer_mut(&field).unwrap() = json!(other);
                    if entry == kept["entry"] {
                        continue;
                    }
                    let put = format!("{path}?revision={}", kept["revision"]);
                    let answer = bench.raw(Method::PUT, &put, "application/json", entry.to_string()).await;
                    let (status, text) = (answer.status(), answer.text().await.unwrap());
                    assert!(!status.is_server_error(), "{put} {field} as a {kind}: {text}");
                    // Another of the same kind may be right: it is put back.
                    if status.is_success() {
                        assert!(
                            kind_of(&id).is_none_or(|right| right == *kind),
                            "{put} {field} took a {kind}"
                        );
                        bench.undo().await;
                        return_to(&bench, &path, &kept).await;
                        continue;
                    }
                    tried += 1;
                    if let Some(preview) = preview {
                        let answer =
                            bench.raw(Method::POST, preview, "application/json", entry.to_string()).await;
                        assert!(!answer.status().is_server_error(), "{preview} {field} as a {kind}");
                    }
                }
            }
        }
    }
    assert!(tried > 20, "{tried}");
    for (list, (now, then)) in LISTS.iter().chain(&LOG).zip(lists(&bench).await.iter().zip(&before)) {
        assert_eq!(ids_in(now), ids_in(then), "{list}");
    }
}

/// After an undo the revision has counted on; what is kept is as it was.
async fn return_to(bench: &Bench, path: &str, kept: &Value) {
    if kept["entry"]["thick"].is_null() {
        assert_eq!(bench.get(path).await["entry"], kept["entry"]);
    }
}

/// A note for what is no piece, and for a piece that was deleted; a tick on one: refused, and the log can be read.
#[tokio::test]
async fn nothing_is_written_on_what_is_not_there() {
    let bench = Bench::demo().await;
    let fern = bench.paint("fern").await;
    let note = |piece: &str| json!({ "words": "left the key with the neighbour", "piece": piece });
    let refused = bench.post("/api/notes", note(&fern), StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(
        crate::bench::about(&refused, "/piece").contains("this is a paint: name a piece instead"),
        "{refused}"
    );

    let piece = bench.post("/api/pieces", json!({ "name": "hall chair" }), StatusCode::CREATED).await;
    let id = piece["id"].as_str().unwrap();
    let path = format!("/api/pieces/{id}?revision={}", piece["revision"]);
    bench.call(Method::DELETE, &path, Value::Null, StatusCode::NO_CONTENT).await;
    let refused = bench.post("/api/notes", note(id), StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(crate::bench::about(&refused, "/piece").contains("“hall chair” was deleted"), "{refused}");
    bench.get("/api/log").await;
    for empty in ["", "   ", "\u{200b}\n"] {
        bench.post("/api/notes", json!({ "words": empty }), StatusCode::UNPROCESSABLE_ENTITY).await;
    }
}
