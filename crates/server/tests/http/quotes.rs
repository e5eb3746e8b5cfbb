//! Quotes: previewed, saved as a piece, accepted, and compared with the work.

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

use crate::bench::{Bench, about};

fn chest() -> Value {
    json!({"kind": "chest-of-drawers", "width": 1000, "height": 900, "depth": 480, "ground": "white-primer",
        "finishes": [{"template": "aged"}]})
}

fn with(mut entry: Value, field: &str, value: Value) -> Value {
    entry[field] = value;
    entry
}

/// What was quoted is what the piece made from it takes and costs, without typing anything again; the yes is in the log.
#[tokio::test]
async fn a_quote_becomes_a_piece() {
    let bench = Bench::demo().await;
    let terms =
        json!({"deposit": 30, "delivery": 45, "tax": 20, "minimum": null, "markup": 50, "rounding": 10});
    let workshop = bench.get("/api/workshop").await;
    let entry = with(workshop["entry"].clone(), "terms", terms);
    let path = format!("/api/workshop?revision={}", workshop["revision"]);
    bench.call(Method::PUT, &path, entry, StatusCode::OK).await;

    let asked = with(with(chest(), "client", json!("Ina Holm")), "name", json!("Hall chest"));
    let quote = bench.post("/api/quotes/preview", asked.clone(), StatusCode::OK).await;
    let number = |value: &Value| value.as_f64().unwrap();
    let sum = number(&quote["sum"]["likely"]);
    assert!(number(&quote["sum"]["least"]) < sum && sum < number(&quote["sum"]["most"]), "{quote}");
    assert_eq!(sum % 10.0, 0.0);
    assert!((number(&quote["price"]) + 45.0 + number(&quote["tax"]) - sum).abs() < 1e-9);
    assert!((number(&quote["deposit"]) - 0.3 * sum).abs() < 1e-9);

    let piece = bench.post("/api/quotes", asked, StatusCode::CREATED).await;
    assert_eq!(
        (&piece["name"], &piece["entry"]["brief"]["client"]),
        (&json!("Hall chest"), &json!("Ina Holm"))
    );
    assert_eq!(number(&piece["entry"]["quote"]["sum"]["likely"]), sum);
    let id = piece["id"].as_str().unwrap();
    let sheet = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    assert!((number(&sheet["cost"]["hours"]) - number(&quote["hours"]["likely"])).abs() < 1e-6);
    // By hand: the mark-up on paint, the rates of the sheet, delivery and tax, rounded up to ten.
    let rate = |name: &str| number(&sheet["entry"][name]);
    let cost = 1.5 * number(&sheet["cost"]["materials"]) + number(&sheet["cost"]["hours"]) * rate("hour");
    let price = cost * (1.0 + rate("overhead") / 100.0) / (1.0 - rate("margin") / 100.0);
    assert_eq!((((price + 45.0) * 1.2) / 10.0).ceil() * 10.0, sum);

    let accepted = format!("/api/pieces/{id}/quote/accepted?revision={}", piece["revision"]);
    let nobody =
        bench.call(Method::PUT, &accepted, json!({"name": " "}), StatusCode::UNPROCESSABLE_ENTITY).await;
    about(&nobody, "/name");
    let agreed = bench.call(Method::PUT, &accepted, json!({"name": "Ina Holm"}), StatusCode::OK).await;
    assert_eq!(agreed["entry"]["brief"]["due"], quote["ready_by"]);
    let again = format!("/api/pieces/{id}/quote/accepted?revision={}", agreed["revision"]);
    let twice = bench.call(Method::PUT, &again, json!({"name": "Ina Holm"}), StatusCode::CONFLICT).await;
    assert!(twice["detail"].as_str().unwrap().contains("already said yes"), "{twice}");
    let log = bench.get("/api/log?kind=agreed").await;
    assert!(log.to_string().contains("Ina Holm said yes to"), "{log}");
    let quotes = bench.get("/api/quotes").await;
    let own = quotes["quotes"].as_array().unwrap().iter().find(|one| one["piece"] == *id).unwrap();
    assert_eq!((&own["words"], &own["accepted_by"]), (&json!("agreed, not begun"), &json!("Ina Holm")));

    // A currency that is chosen later changes nothing of it.
    let workshop = bench.get("/api/workshop").await;
    let other = with(workshop["entry"].clone(), "currency", json!("SEK"));
    let path = format!("/api/workshop?revision={}", workshop["revision"]);
    bench.call(Method::PUT, &path, other, StatusCode::OK).await;
    let quotes = bench.get("/api/quotes").await;
    let own = quotes["quotes"].as_array().unwrap().iter().find(|one| one["piece"] == *id).unwrap();
    assert_eq!(own["currency"], json!("EUR"));
    bench.undo().await;
    // One step back takes the yes from piece and log; another takes the piece with its boards.
    bench.undo().await;
    assert!(!bench.get("/api/log?kind=agreed").await.to_string().contains("Ina Holm said yes to"));
    let boards = bench.get("/api/boards").await.as_array().unwrap().len();
    bench.undo().await;
    assert_eq!(bench.get("/api/boards").await.as_array().unwrap().len(), boards - 1);
}

/// Two finishes are two boards, the second on the fronts; the picture shows both.
#[tokio::test]
async fn two_finishes_share_a_piece() {
    let bench = Bench::demo().await;
    let templates = bench.get("/api/boards/choices").await["templates"].clone();
    let other = templates.as_array().unwrap().iter().map(|one| &one["id"]).find(|id| **id != "aged").unwrap();
    let asked = with(chest(), "finishes", json!([{"template": "aged"}, {"template": other}]));
    let piece = bench.post("/api/quotes", asked.clone(), StatusCode::CREATED).await;
    let wears = &piece["entry"]["schemes"][0]["wears"];
    assert_ne!(wears["drawers"]["wears"], wears["case"]["wears"], "{wears}");
    let path = "/api/quotes/picture?width=320&height=240";
    let picture = bench.raw(Method::POST, path, "application/json", asked.to_string()).await;
    assert_eq!(picture.status(), StatusCode::OK);
    let picture = image::load_from_memory(&picture.bytes().await.unwrap()).unwrap();
    assert_eq!((picture.width(), picture.height()), (320, 240));
}

#[tokio::test]
async fn what_cannot_be_quoted_says_why() {
    let bench = Bench::demo().await;
    for (field, value, at, words) in [
        ("width", json!(0), "/width", "150 to 8000 mm"),
        ("width", json!(40_000), "/width", "150 to 8000 mm"),
        ("kind", json!("piano"), "/kind", ""),
        ("finishes", json!([]), "/finishes", "one or two"),
        ("finishes", json!([{"template": "sunburst"}]), "/finishes/0/template", "no such finish"),
        ("name", json!("x".repeat(500)), "/name", ""),
        ("client", json!("x".repeat(500)), "/client", ""),
    ] {
        let problem = bench
            .post("/api/quotes/preview", with(chest(), field, value), StatusCode::UNPROCESSABLE_ENTITY)
            .await;
        assert!(about(&problem, at).contains(words), "{problem}");
    }
    // A frame has no fronts beside itself.
    let frame = with(chest(), "kind", json!("frame"));
    let frame = with(frame, "finishes", json!([{"template": "aged"}, {"template": "aged"}]));
    let problem = bench.post("/api/quotes/preview", frame, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&problem, "/finishes/1").contains("use one finish"), "{problem}");
    let workshop = bench.get("/api/workshop").await;
    let path = format!("/api/workshop?revision={}", workshop["revision"]);
    let terms = json!({"deposit": null, "delivery": null, "tax": 200, "minimum": null, "markup": null, "rounding": null});
    let entry = with(workshop["entry"].clone(), "terms", terms);
    let problem = bench.call(Method::PUT, &path, entry, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&problem, "/terms/tax").contains("0 to 60 %"), "{problem}");
    // Terms that are left out stay.
    let mut entry = workshop["entry"].clone();
    entry.as_object_mut().unwrap().remove("terms");
    let kept = bench.call(Method::PUT, &path, entry, StatusCode::OK).await;
    assert_eq!(kept["entry"]["terms"], workshop["entry"]["terms"]);
}

/// A workspace of one's own has no run sheet to take rates from: they are set with the terms, count in every new quote and sheet, and a
/// rate that cannot be is refused at its field.
#[tokio::test]
async fn rates_are_set_before_the_first_sheet() {
    let bench = Bench::empty().await;
    for (name, class, hex) in [("house white", "chalk", "#f0ede6"), ("rain cloud", "chalk", "#5f7388")] {
        let tin = json!({"name": name, "class": class, "colour": {"hex": hex}});
        bench.post("/api/paints", tin, StatusCode::CREATED).await;
    }
    let set = async |hour: f64, status| {
        let workshop = bench.get("/api/workshop").await;
        let path = format!("/api/workshop?revision={}", workshop["revision"]);
        let entry = with(workshop["entry"].clone(), "terms", json!({"hour": hour}));
        bench.call(Method::PUT, &path, entry, status).await
    };
    let refused = set(-1.0, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&refused, "/terms/hour").contains("hourly rate of 0"), "{refused}");
    let asked = with(chest(), "finishes", json!([{"template": "three-dry-brushed"}]));
    let number = |value: &Value| value.as_f64().unwrap();
    let before = bench.post("/api/quotes/preview", asked.clone(), StatusCode::OK).await;
    set(40.0, StatusCode::OK).await;
    let quote = bench.post("/api/quotes/preview", asked.clone(), StatusCode::OK).await;
    let more = number(&quote["sum"]["likely"]) - number(&before["sum"]["likely"]);
    assert!((more - 40.0 * number(&quote["hours"]["likely"])).abs() < 0.01, "{more} {quote}");
    let piece = bench.post("/api/quotes", asked, StatusCode::CREATED).await;
    let sheet = bench.get(&format!("/api/pieces/{}/run-sheet", piece["id"].as_str().unwrap())).await;
    assert_eq!(sheet["entry"]["hour"], 40.0);
}
