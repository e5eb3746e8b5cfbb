//! Files in and out of a shelf.

use crate::bench::Bench;
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

async fn send(bench: &Bench, path: &str, body: impl Into<reqwest::Body>) -> (StatusCode, Value) {
    let answer = bench.raw(Method::POST, path, "application/octet-stream", body).await;
    (answer.status(), answer.json().await.unwrap())
}

async fn export(bench: &Bench, format: &str) -> Vec<u8> {
    let answer = bench.client.get(format!("{}/api/export/{format}", bench.base)).send().await.unwrap();
    assert_eq!(answer.status(), StatusCode::OK);
    assert!(answer.headers()["content-disposition"].to_str().unwrap().contains("shelf."));
    answer.bytes().await.unwrap().to_vec()
}

#[tokio::test]
async fn a_preview_writes_nothing_and_an_import_is_one_step_of_undo() {
    let bench = Bench::demo().await;
    let before = bench.get("/api/paints").await.as_array().unwrap().len();
    let file = "name;L*;a*;b*\nslate blue;42,5;-3,0;-13,0\nsea glass;70;-12;2\nSea Glass;71;-12;2\n";
    let (status, plan) =
        send(&bench, "/api/import/preview?class=clay&file=card.csv&source=reader", file).await;
    assert_eq!(status, StatusCode::OK, "{plan}");
    assert_eq!(plan["summary"], "1 new, 1 reading of a paint on the shelf, 1 left out");
    let actions: Vec<_> =
        plan["rows"].as_array().unwrap().iter().map(|row| row["action"].as_str().unwrap()).collect();
    assert_eq!(actions, ["reading", "new", "skip"]);
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), before);

    send(&bench, "/api/import?class=clay&file=card.csv&source=reader", file).await;
    let glass = bench.paint("sea glass").await;
    assert_eq!(bench.get(&format!("/api/paints/{glass}")).await["entry"]["class"], "clay");
    assert_eq!(bench.get("/api/readings").await[0]["entry"]["device"], "card.csv");
    bench.undo().await;
    assert_eq!(bench.get("/api/paints").await.as_array().unwrap().len(), before);
}

#[tokio::test]
async fn what_goes_out_comes_in_again() {
    let (demo, empty) = (Bench::demo().await, Bench::empty().await);
    for (format, lines) in [("cgats", 16), ("cxf", 16), ("csv", 16), ("gpl", 16), ("json", 19)] {
        let bytes = export(&demo, format).await;
        let (status, plan) = send(&empty, "/api/import/preview", bytes).await;
        assert_eq!(status, StatusCode::OK, "{format}: {plan}");
        let rows = plan["rows"].as_array().unwrap();
        assert_eq!(rows.len(), lines, "{format}");
        assert!(rows.iter().all(|row| row["action"] == "new"), "{format}: {plan}");
    }
    // A whole shelf brings its readings: what is known is known there too.
    let whole = export(&demo, "json").await;
    send(&empty, "/api/import", whole.clone()).await;
    assert_eq!(empty.get("/api/readings").await.as_array().unwrap().len(), 9);
    let (_, again) = send(&empty, "/api/import/preview", whole).await;
    assert_eq!(again["summary"], "0 new, 0 readings of paints on the shelf, 19 left out");
}

/// What was predicted here or is known already teaches nothing, whichever file it comes back in.
#[tokio::test]
async fn own_exports_are_no_evidence() {
    let bench = Bench::demo().await;
    let mustard = bench.paint("mustard seed").await;
    let doubt = bench.get(&format!("/api/paints/{mustard}")).await["known"]["doubt"].clone();
    for format in ["cgats", "cxf", "csv", "gpl"] {
        let bytes = export(&bench, format).await;
        let (status, done) = send(&bench, "/api/import", bytes).await;
        assert_eq!(status, StatusCode::OK, "{done}");
        assert_eq!(done["summary"], "0 new, 0 readings of paints on the shelf, 16 left out", "{format}");
    }
    // Nor where another program has taken the maker's mark off.
    let bare = String::from_utf8(export(&bench, "cgats").await).unwrap();
    assert!(bare.contains("Predictions of Warm Blend, not measurements"));
    let bare = bare.replace("Warm Blend", "a meter");
    let (_, done) = send(&bench, "/api/import", bare.clone()).await;
    assert_eq!(done["summary"], "0 new, 0 readings of paints on the shelf, 16 left out", "{done}");
    assert_eq!(bench.get(&format!("/api/paints/{mustard}")).await["known"]["doubt"], doubt);

    // A measurement counts once.
    let file = "name,L,a,b\nmustard seed,58.31,12.62,41.23\nmustard seed,58.31,12.62,41.23\n";
    let (_, once) = send(&bench, "/api/import?source=reader", file).await;
    assert_eq!(once["summary"], "0 new, 1 reading of a paint on the shelf, 1 left out", "{once}");
    let (_, twice) = send(&bench, "/api/import?source=reader", file).await;
    assert_eq!(twice["rows"][0]["words"], "left out: already in the log", "{twice}");

    // Elsewhere a prediction becomes a paint that is guessed at, without a reading.
    let empty = Bench::empty().await;
    let (_, plan) = send(&empty, "/api/import", export(&bench, "cxf").await).await;
    assert_eq!(plan["rows"][0]["words"], "a new paint, by eye", "{plan}");
    assert!(empty.get("/api/readings").await.as_array().unwrap().is_empty());
}

/// Codes are of chips, not of an instrument, unless somebody says otherwise; the reading is believed accordingly.
#[tokio::test]
async fn a_sample_comes_with_what_it_was_read_with() {
    let bench = Bench::demo().await;
    let file = "name,hex\noat white,#e9e4d6\nsea glass,#9cb0a8\n";
    let (_, plan) = send(&bench, "/api/import/preview", file).await;
    assert_eq!(plan["rows"][0]["words"], "a reading of oat white, from a colour card or code");
    assert_eq!(plan["rows"][1]["words"], "a new paint, from a colour card or code");
    let (_, plan) = send(&bench, "/api/import/preview?source=photo", file).await;
    assert_eq!(plan["rows"][0]["source"], "photo");
    assert_eq!(plan["rows"][1]["words"], "a new paint, from a photo");
    let (status, problem) = send(&bench, "/api/import/preview?source=nose", file).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem.to_string().contains("use one of reader, photo, chip, guess"), "{problem}");

    send(&bench, "/api/import", file).await;
    assert_eq!(bench.get("/api/readings").await[0]["entry"]["source"], "chip");
    let glass = bench.paint("sea glass").await;
    assert_eq!(bench.get(&format!("/api/paints/{glass}")).await["entry"]["source"], "chip");
}

#[tokio::test]
async fn what_cannot_be_read_says_where_and_why() {
    let bench = Bench::empty().await;
    for (file, kind, words) in [
        ("", "file", "empty"),
        ("name,L,a,b\noat,90,0,7\n", "source", "say whether by a reader"),
        ("{\"format\": \"another\"}", "file", "line 1: not a shelf in JSON"),
        ("<CxF>", "file", "not closed"),
        (
            "name,380,390,400,410,420,430,440,450,460,470,480,490,500,510,520,530,540,550,560,570,580,590,600,610,620,630,640,650,660,670,680\nx,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50,50\n",
            "percent",
            "are these values percent?",
        ),
    ] {
        let (status, problem) = send(&bench, "/api/import/preview", file).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
        assert_eq!(problem["type"], format!("urn:warm-blend:{kind}"));
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let large = bench.raw(Method::POST, "/api/import", "application/octet-stream", vec![b'x'; 9 << 20]).await;
    assert_eq!(large.status(), StatusCode::PAYLOAD_TOO_LARGE);
    assert!(large.text().await.unwrap().contains("8 MB"));
    bench.call(Method::GET, "/api/export/pdf", Value::Null, StatusCode::NOT_FOUND).await;
}

/// Rows that cannot be read are shown with the others; they keep the rest out only until somebody has agreed.
#[tokio::test]
async fn bad_rows_are_left_out_when_somebody_says_so() {
    let bench = Bench::empty().await;
    let file = "name,hex\nsea glass,#9cb0a8\nmoss,#12\nfern,green\n";
    let (status, plan) = send(&bench, "/api/import/preview", file).await;
    assert_eq!(status, StatusCode::OK, "{plan}");
    let actions: Vec<&str> =
        plan["rows"].as_array().unwrap().iter().map(|row| row["action"].as_str().unwrap()).collect();
    assert_eq!(actions, ["bad", "bad", "new"]);
    assert_eq!((&plan["rows"][0]["name"], &plan["rows"][0]["line"]), (&json!("moss"), &json!(3)));
    let (status, problem) = send(&bench, "/api/import", file).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(problem["errors"].as_array().unwrap().len(), 2, "{problem}");
    assert_eq!(bench.get("/api/paints").await, json!([]));
    let (status, done) = send(&bench, "/api/import?without_bad=true", file).await;
    assert_eq!(status, StatusCode::OK, "{done}");
    let shelf = bench.get("/api/paints").await;
    assert_eq!((shelf.as_array().unwrap().len(), &shelf[0]["entry"]["name"]), (1, &json!("sea glass")));
}

/// The largest file of readings that is taken: the shelf after it can be listed, and a name or a stock makes nobody learn anew.
#[tokio::test]
async fn five_thousand_spectra_are_a_shelf_still() {
    let bench = Bench::empty().await;
    let bands: Vec<String> = (380..=730).step_by(10).map(|nm| format!("SPECTRAL_NM_{nm}")).collect();
    let mut file = format!(
        "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_NAME {}\nEND_DATA_FORMAT\nNUMBER_OF_SETS 5000\nBEGIN_DATA\n",
        bands.join(" ")
    );
    for i in 0..5000 {
        let curve: Vec<String> = (0..36)
            .map(|band| format!("{:.4}", 0.1 + 0.8 * f64::from((i * 7 + band * (1 + i % 5)) % 97) / 97.0))
            .collect();
        file += &format!("\"tin {i}\" {}\n", curve.join(" "));
    }
    file += "END_DATA\n";
    let (status, reply) = send(&bench, "/api/import", file).await;
    assert_eq!(
        (status, &reply["summary"]),
        (StatusCode::OK, &Value::from("5000 new, 0 readings of paints on the shelf, 0 left out"))
    );
    // Part by part, each where the one before says that it is.
    let shelf = bench.in_parts("/api/paints?light=bulb&count=2000").await;
    assert_eq!(shelf.len(), 5000);
    assert!(
        shelf
            .iter()
            .all(|tin| tin["known"]["readings"] == 1 && tin["known"]["doubt"].as_f64().unwrap() > 0.0)
    );
    let few = bench.get("/api/paints?from=4998&light=bulb").await;
    assert_eq!(few.as_array().unwrap()[..], shelf[4998..]);
    assert_eq!(bench.get("/api/paints?from=7000&count=0").await, serde_json::json!([]));
    let problem =
        bench.call(Method::GET, "/api/paints?from=-1", Value::Null, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert_eq!(
        problem["errors"][0],
        serde_json::json!({"pointer": "?from", "detail": "not a whole number; enter one"})
    );
}
