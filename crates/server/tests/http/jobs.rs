//! Eight of a painter's jobs, from the board to the record. Figures marked `common practice` are the trade's own.

use std::collections::BTreeMap;

use jiff::{SignedDuration, Timestamp};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

use crate::bench::Bench;

/// A workshop with a shelf of invented tins, and what is needed to put a finish on a piece.
struct Shop {
    bench: Bench,
    tins: BTreeMap<&'static str, Value>,
}

const PAINTS: [(&str, &str, &str); 12] = [
    ("linen", "chalk", "#e8e0cc"),
    ("fog", "chalk", "#b9bcb8"),
    ("harbour", "chalk", "#35556f"),
    ("ember", "chalk", "#dd7a2e"),
    ("meadow", "chalk", "#3f8c52"),
    ("cornflower", "chalk", "#2f63a8"),
    ("peat", "chalk", "#4b3829"),
    ("dove", "clay", "#8f9aa0"),
    ("stem", "latex-satin", "#d9d3c2"),
    ("blocker", "primer", "#eceae4"),
    ("gilt", "metallic", "#b08d4a"),
    ("walnut stain", "gel-stain", "#4a2f20"),
];

const MEDIUMS: [(&str, &str); 6] = [
    ("tap water", "water"),
    ("slow glaze", "glazing-liquid"),
    ("clear coat", "clear-coat"),
    ("clear wax", "clear-wax"),
    ("scumble", "scumble"),
    ("pearl", "pearl"),
];

fn put(technique: &str, pot: Value, passes: u8) -> Value {
    json!({
        "id": uuid::Uuid::now_v7(), "technique": technique, "pot": pot,
        "hand": {"load": 1.0, "wipe": 0.5, "passes": passes},
        "on": {"field": true, "recess": true, "edge": true}, "muted": false,
    })
}

impl Shop {
    async fn new() -> Self {
        let bench = Bench::empty().await;
        let mut tins = BTreeMap::new();
        for (name, class, hex) in PAINTS {
            let entry = json!({
                "name": name, "class": class, "colour": {"hex": hex}, "price": {"amount": 18.0, "tin_ml": 500.0},
                "stock_ml": 900.0,
            });
            tins.insert(name, bench.post("/api/paints", entry, StatusCode::CREATED).await["id"].clone());
        }
        for (name, class) in MEDIUMS {
            let entry = json!({"name": name, "class": class, "stock_ml": 900.0});
            tins.insert(name, bench.post("/api/paints", entry, StatusCode::CREATED).await["id"].clone());
        }
        Self { bench, tins }
    }

    fn pot(&self, of: &[(&str, u32)]) -> Value {
        of.iter().map(|(name, parts)| json!({"paint": self.tins[name], "parts": parts})).collect()
    }

    fn one(&self, technique: &str, of: &[(&str, u32)]) -> Value {
        put(technique, self.pot(of), 1)
    }

    fn coats(&self, name: &str, passes: u8) -> Value {
        put("brushed-coat", self.pot(&[(name, 1)]), passes)
    }

    /// A board on a card; its id.
    async fn board(&self, ground: &str, layers: Vec<Value>) -> Value {
        let entry =
            json!({"name": format!("{ground}, {} layers", layers.len()), "ground": ground, "layers": layers});
        self.bench.post("/api/boards", entry, StatusCode::CREATED).await["id"].clone()
    }

    /// What the rules say of a board's first strip.
    async fn advice(&self, board: &Value) -> Vec<String> {
        let seen = self.bench.get(&format!("/api/boards/{}", board.as_str().unwrap())).await;
        let shown = self.bench.post("/api/boards/preview", seen["entry"].clone(), StatusCode::OK).await;
        shown["advice"]
            .as_array()
            .unwrap()
            .iter()
            .map(|one| one["what"].as_str().unwrap().to_owned())
            .collect()
    }

    /// A piece of a kind on some ground, some zones of which wear boards; its id.
    async fn piece(&self, kind: &str, ground: &str, wears: &[(&str, &Value)]) -> String {
        let choices = self.bench.get("/api/piece/choices").await;
        let kinds = choices["kinds"].as_array().unwrap();
        let usual =
            kinds.iter().find(|one| one["id"] == kind).unwrap_or_else(|| panic!("{kind}"))["usual"].clone();
        let made = self.bench.post("/api/pieces", json!({"name": kind}), StatusCode::CREATED).await;
        let id = made["id"].as_str().unwrap().to_owned();
        let mut entry = made["entry"].clone();
        entry["form"] = usual;
        entry["ground"] = json!({"kind": ground});
        let worn = |board: &Value| json!({"wears": {"strip": {"board": board, "strip": "A"}}});
        let wears: serde_json::Map<String, Value> =
            wears.iter().map(|(zone, board)| ((*zone).to_owned(), worn(board))).collect();
        entry["schemes"] =
            json!([{"name": "first", "intent": "quiet", "over": [], "pairs": [], "wears": wears}]);
        self.change(&id, &made["revision"], entry).await;
        id
    }

    async fn change(&self, piece: &str, revision: &Value, entry: Value) -> Value {
        let path = format!("/api/pieces/{piece}?revision={revision}");
        self.bench.call(Method::PUT, &path, entry, StatusCode::OK).await
    }

    /// The zones of a piece as they are predicted, by their ids.
    async fn zones(&self, piece: &str) -> BTreeMap<String, Value> {
        let entry = self.bench.get(&format!("/api/pieces/{piece}")).await["entry"].clone();
        let shown = self.bench.post("/api/piece/preview?width=320&height=240", entry, StatusCode::OK).await;
        let zones = shown["zones"].as_array().unwrap().iter();
        zones.map(|zone| (zone["zone"].as_str().unwrap().to_owned(), zone.clone())).collect()
    }

    async fn sheet(&self, piece: &str) -> Value {
        self.bench.get(&format!("/api/pieces/{piece}/run-sheet")).await
    }

    async fn settings(&self, piece: &str, set: impl Fn(&mut Value)) -> Value {
        let sheet = self.sheet(piece).await;
        let mut entry = sheet["entry"].clone();
        set(&mut entry);
        let path = format!("/api/pieces/{piece}/run-sheet?revision={}", sheet["revision"]);
        self.bench.call(Method::PUT, &path, entry, StatusCode::OK).await
    }

    /// Ticks off the first step that can be, again and again, until `until` says enough or nothing is left. What is ticked is over an hour
    /// ago or more, so that nothing lies in the future.
    async fn work(&self, piece: &str, until: impl Fn(&Value) -> bool) -> Value {
        let mut sheet = self.sheet(piece).await;
        for _ in 0..80 {
            let Some(step) = steps(&sheet).into_iter().find(|step| step["ready"] == true) else { break };
            if until(&step) {
                break;
            }
            let path = format!("/api/pieces/{piece}/run-sheet/done?revision={}", sheet["revision"]);
            let at = (Timestamp::now() - SignedDuration::from_mins(1)).to_string();
            sheet = self.bench.post(&path, json!({"step": step["id"], "at": at}), StatusCode::OK).await;
        }
        sheet
    }
}

fn steps(sheet: &Value) -> Vec<Value> {
    sheet["steps"].as_array().unwrap().clone()
}

fn names(sheet: &Value) -> Vec<String> {
    steps(sheet).iter().map(|step| step["name"].as_str().unwrap().to_owned()).collect()
}

fn named(sheet: &Value, name: &str) -> Value {
    let found = steps(sheet).into_iter().find(|step| step["name"].as_str().unwrap().contains(name));
    found.unwrap_or_else(|| panic!("no {name} in {:?}", names(sheet)))
}

fn needed(sheet: &Value, name: &str) -> f64 {
    let rows = sheet["shopping"].as_array().unwrap();
    let row = rows.iter().find(|row| row["name"] == name).unwrap_or_else(|| panic!("no {name}: {rows:?}"));
    row["needed"].as_f64().unwrap()
}

fn at(of: &Value) -> Timestamp {
    of.as_str().unwrap().parse().unwrap()
}

fn hours(from: &Value, to: &Value) -> f64 {
    at(to).duration_since(at(from)).as_secs_f64() / 3600.0
}

/// A buffet over dark red stain from a board on a primed card: primed against the stain, a first coat that may be cheaper only where it is
/// close, streaks dragged into the wet second coat, white wax; then the client wants clear wax: the white comes off, the coats stay.
#[tokio::test]
async fn a_buffet_with_streaks_and_a_change_of_mind() {
    let shop = Shop::new().await;
    let mut streaks = shop.one("wash-dragged", &[("fog", 1), ("tap water", 1)]);
    streaks["into_wet"] = json!(true);
    let layers = |wax: Value| vec![shop.coats("harbour", 2), streaks.clone(), wax];
    let white =
        shop.board("white-primer", layers(shop.one("tinted-wax", &[("linen", 1), ("clear wax", 6)]))).await;
    let clear = shop.board("white-primer", layers(put("clear-wax", json!([]), 1))).await;
    let zones = ["case", "sides", "drawers", "top"];
    let all = |board| zones.map(|zone| (zone, board));
    let piece = shop.piece("chest-of-drawers", "red-stain", &all(&white)).await;
    let sheet = shop.sheet(&piece).await;
    let order = names(&sheet);
    let prime = order.iter().position(|name| name == "Prime").expect("it bleeds: it is primed");
    let gloss = order.iter().position(|name| name.contains("gloss")).unwrap();
    assert!(gloss < prime, "{order:?}");
    // The streaks are no step of their own: they go into the wet second coat.
    let wet = named(&sheet, "into the wet");
    assert!(wet["name"].as_str().unwrap().contains("2 of 2"), "{wet}");
    assert!(!order.iter().any(|name| name.starts_with("Dragged wash")), "{order:?}");
    // A wash takes about 75 ml/m² (common practice), of which half is water, which is not bought.
    assert!(!sheet["shopping"].as_array().unwrap().iter().any(|row| row["name"] == "tap water"));
    assert!(sheet["cost"]["materials"].as_f64().unwrap() > 0.0);
    for shown in sheet["undercoats"].as_array().unwrap() {
        assert!(
            !shown["words"].as_str().unwrap().contains("linen,"),
            "white is no first coat of a blue: {shown}"
        );
    }
    let waxed = shop.work(&piece, |step| step["name"].as_str().unwrap().contains("Buff")).await;
    assert!(names(&waxed).iter().any(|name| name.contains("Buff")), "{:?}", names(&waxed));
    // Wax is buffed the next day (common practice).
    let buff = named(&waxed, "Buff");
    assert!(hours(&json!(Timestamp::now().to_string()), &buff["begins"]) > 8.0, "{buff}");

    let kept = shop.bench.get(&format!("/api/pieces/{piece}")).await;
    let mut entry = kept["entry"].clone();
    for zone in zones {
        entry["schemes"][0]["wears"][zone] = json!({"wears": {"strip": {"board": clear, "strip": "A"}}});
    }
    shop.change(&piece, &kept["revision"], entry).await;
    let changed = shop.sheet(&piece).await;
    let order = names(&changed);
    assert!(order.contains(&"Remove wax".to_owned()) && order.contains(&"Clear wax".to_owned()), "{order:?}");
    assert!(!order.iter().any(|name| name.contains("Brushed coat") || name == "Clean"), "{order:?}");
    shop.work(&piece, |_| false).await;
    let record = shop.bench.get(&format!("/api/pieces/{piece}/record")).await;
    let case = record["zones"].as_array().unwrap().iter().find(|zone| zone["zone"] == "Case").unwrap();
    let lies: Vec<&str> =
        case["layers"].as_array().unwrap().iter().map(|one| one["how"].as_str().unwrap()).collect();
    assert!(!lies.contains(&"Tinted wax") && lies.contains(&"Clear wax"), "{lies:?}");
}

/// A vivid carved wardrobe with gilding and stark cream details: Unify proposes pale washes over everything, gilding takes a small pot, and
/// carving it all over takes about twice as long as flat (common practice).
#[tokio::test]
async fn a_vivid_wardrobe_is_pulled_together_by_a_pale_wash() {
    let shop = Shop::new().await;
    let gilded = |paint| vec![shop.coats(paint, 2), shop.one("gilding", &[("gilt", 1), ("clear wax", 3)])];
    let orange = shop.board("white-primer", gilded("ember")).await;
    let green = shop.board("white-primer", gilded("meadow")).await;
    let blue = shop.board("white-primer", gilded("cornflower")).await;
    let cream = shop.board("white-primer", vec![shop.coats("linen", 2)]).await;
    let wears = [
        ("case", &blue),
        ("sides", &blue),
        ("doors", &orange),
        ("panels", &green),
        ("plinth", &cream),
        ("cornice", &cream),
    ];
    let piece = shop.piece("cupboard", "white-primer", &wears).await;
    let kept = shop.bench.get(&format!("/api/pieces/{piece}")).await;
    let ways = shop.bench.lines("/api/piece/unify", kept["entry"].clone()).await;
    let found = ways.last().unwrap()["found"]["ways"]
        .as_array()
        .unwrap_or_else(|| panic!("{:?}", ways.last()))
        .clone();
    for way in &found[..found.len().min(2)] {
        let wash = way["over"]["layer"]["pot"][0]["paint"].clone();
        assert!(
            ["linen", "fog", "stem", "dove"].iter().any(|pale| shop.tins[pale] == wash),
            "a pale or grey wash, not {}",
            way["words"]
        );
    }
    let sheet = |carved: &'static str| {
        let (shop, piece, kept) = (&shop, &piece, &kept);
        async move {
            let now = shop.bench.get(&format!("/api/pieces/{piece}")).await;
            let mut entry = kept["entry"].clone();
            for (zone, _) in wears {
                entry["corrections"][zone] = json!({"carved": carved});
            }
            shop.change(piece, &now["revision"], entry).await;
            shop.sheet(piece).await
        }
    };
    let (flat, carved) = (sheet("flat").await, sheet("all-over").await);
    let times = carved["minutes"].as_f64().unwrap() / flat["minutes"].as_f64().unwrap();
    assert!((1.5..2.2).contains(&times), "{times}");
    let gilding = needed(&carved, "gilt") + needed(&carved, "clear wax");
    assert!((10.0..200.0).contains(&gilding), "a small pot of gilding wax, not a drop: {gilding} ml");
}

/// A washstand with a vignette on its panels and a top that is sanded and stained: the second colour goes into the wet first, and the top
/// dries by solvent, in damp air as fast as in dry.
#[tokio::test]
async fn a_washstand_with_a_vignette_and_a_stained_top() {
    let shop = Shop::new().await;
    let vignette =
        shop.board("white-primer", vec![shop.coats("linen", 2), shop.one("wet-blend", &[("fog", 1)])]).await;
    let stained = shop.board("mid-wood", vec![put("wash-wiped", shop.pot(&[("walnut stain", 1)]), 2)]).await;
    let piece =
        shop.piece("chest-of-drawers", "white-primer", &[("drawers", &vignette), ("top", &stained)]).await;
    let kept = shop.bench.get(&format!("/api/pieces/{piece}")).await;
    let mut entry = kept["entry"].clone();
    entry["schemes"][0]["wears"]["top"]["ground"] = json!({"kind": "mid-wood"});
    shop.change(&piece, &kept["revision"], entry).await;
    let sheet = shop.sheet(&piece).await;
    let wet = named(&sheet, "into the wet");
    assert_eq!(wet["zones"], json!(["Drawer fronts"]));
    let edge = wet["wet_edge"]["words"].as_str().unwrap();
    assert!(edge.starts_with("Open time about 8 min") && edge.contains("drawer front"), "{edge}");
    assert_eq!(wet["wet_edge"]["two"], false);
    // Two passes of a stain dry in between: a day each (common practice), in damp air too.
    let stain = |sheet: &Value| {
        let passes: Vec<Value> =
            steps(sheet).into_iter().filter(|step| step["pot"] == "walnut stain").collect();
        assert_eq!(passes.len(), 2);
        hours(&passes[0]["ends"], &passes[0]["dry"])
    };
    let dry = stain(&sheet);
    let damp = shop.settings(&piece, |entry| entry["humidity"] = json!(84.0)).await;
    assert!((dry - 24.0).abs() < 0.5 && (stain(&damp) - dry).abs() < 0.5, "{dry} {}", stain(&damp));
    // The top is raw wood there, the rest is primed.
    let scuffed = named(&sheet, "Scuff-sand");
    assert_eq!(scuffed["zones"], json!(["Top"]));
}

/// A stone table top carried round its edge: the flecks go into the wet coat, and all of it takes one night, not three; a clear coat with a
/// little pearl closes it.
#[tokio::test]
async fn a_stone_top_takes_one_night() {
    let shop = Shop::new().await;
    let stone = vec![
        shop.coats("linen", 2),
        shop.one("knife-flecks", &[("fog", 1)]),
        shop.one("knife-flecks", &[("peat", 1)]),
        put("clear-coat", shop.pot(&[("clear coat", 9), ("pearl", 1)]), 1),
    ];
    let board = shop.board("white-primer", stone).await;
    let piece = shop.piece("table", "white-primer", &[("top", &board), ("apron", &board)]).await;
    let sheet = shop.settings(&piece, |entry| entry["starts"] = json!("2031-01-06T09:00:00Z")).await;
    let wet = named(&sheet, "into the wet");
    assert_eq!(wet["pot"].as_str().unwrap().matches("; ").count(), 2, "three pots at hand: {wet}");
    let clear = named(&sheet, "Clear coat");
    let night = hours(&wet["ends"], &clear["begins"]);
    assert!((8.0..36.0).contains(&night), "{night} h from the flecks to the clear coat");
    assert_eq!(
        steps(&sheet).iter().filter(|step| step["name"].as_str().unwrap().contains("Flecks")).count(),
        0
    );
    let zone = shop.zones(&piece).await;
    assert!(zone["top"]["seen"]["hex"].is_string() && zone["apron"]["seen"]["hex"].is_string());
}

/// Dry brush in three colours takes next to nothing of each, and each dries at once (common practice).
#[tokio::test]
async fn dry_brush_in_three_colours() {
    let shop = Shop::new().await;
    let brushed = |paint| shop.one("dry-brush", &[(paint, 1)]);
    let board = shop
        .board(
            "white-primer",
            vec![shop.coats("harbour", 2), brushed("fog"), brushed("meadow"), brushed("linen")],
        )
        .await;
    let piece =
        shop.piece("chest-of-drawers", "white-primer", &[("case", &board), ("drawers", &board)]).await;
    let sheet = shop.sheet(&piece).await;
    let base = needed(&sheet, "harbour");
    for paint in ["fog", "meadow", "linen"] {
        assert!(needed(&sheet, paint) < 0.1 * base, "{paint}: {} of {base}", needed(&sheet, paint));
    }
    let passes: Vec<Value> = steps(&sheet).into_iter().filter(|step| step["name"] == "Dry brush").collect();
    assert_eq!(passes.len(), 3);
    assert!(hours(&passes[0]["ends"], &passes[0]["dry"]) <= 0.25, "{}", passes[0]);
    // A little is given in drops where it can be counted.
    let amounts: Vec<&str> = passes.iter().map(|step| step["amount"].as_str().unwrap()).collect();
    assert!(amounts.iter().all(|amount| *amount != "a little"), "{amounts:?}");
    let days = sheet["brushes"]["days"].as_array().unwrap().iter();
    let needs = days.flat_map(|day| day["needs"].as_array().unwrap()).filter(|need| need["brush"] == "dry");
    let colours: usize = needs.map(|need| need["colours"].as_array().unwrap().len()).sum();
    assert_eq!(colours, 3, "one brush a colour (common practice)");
}

/// Taped strips with clear, white and blue wax share a base; dark wax on bare chalk-type paint stays, over clear wax it can be taken back
/// (common practice). A wax is never asked for two people.
#[tokio::test]
async fn strips_under_three_waxes() {
    let shop = Shop::new().await;
    let wax = |paint: &str| shop.one("tinted-wax", &[(paint, 1), ("clear wax", 6)]);
    let clear = || put("clear-wax", json!([]), 1);
    let bare = shop.board("white-primer", vec![shop.coats("linen", 2), wax("cornflower")]).await;
    let over_clear =
        shop.board("white-primer", vec![shop.coats("linen", 2), clear(), wax("cornflower")]).await;
    let low =
        vec![shop.coats("linen", 1), put("clear-coat", json!([]), 1), shop.coats("linen", 1), wax("peat")];
    let sealed_below = shop.board("white-primer", low).await;
    let stains = |advice: Vec<String>| advice.iter().any(|what| what.contains("stains the bare paint"));
    assert!(stains(shop.advice(&bare).await) && stains(shop.advice(&sealed_below).await));
    assert!(!stains(shop.advice(&over_clear).await));
    let piece = shop.piece("table", "white-primer", &[("top", &over_clear)]).await;
    let sheet = shop.settings(&piece, |entry| entry["helper"] = json!(true)).await;
    let waxed = named(&sheet, "Tinted wax");
    assert_eq!((&waxed["wet_edge"]["two"], waxed["by"] == "both"), (&json!(false), false), "{waxed}");
    // 40 to 50 ml/m² of wax, clear and tinted (common practice).
    let zone = shop.zones(&piece).await;
    let area = zone["top"]["area_m2"].as_f64().unwrap();
    let each = needed(&sheet, "clear wax") / area / (1.0 + 6.0 / 7.0);
    assert!((40.0..=50.0).contains(&each), "{each} ml/m²");
}

/// A detail glaze on paint and, as a toner, on raw wood: a second layer for darker dries in between; the wood there is prepared as wood.
#[tokio::test]
async fn a_detail_glaze_on_paint_and_on_raw_wood() {
    let shop = Shop::new().await;
    let glaze = |passes| put("glaze-wiped", shop.pot(&[("peat", 1), ("clear coat", 1)]), passes);
    let painted = shop.board("white-primer", vec![shop.coats("linen", 2), glaze(1)]).await;
    let toned = shop.board("pale-wood", vec![glaze(2)]).await;
    let piece = shop.piece("chest-of-drawers", "pale-wood", &[("case", &painted), ("top", &toned)]).await;
    let sheet = shop.sheet(&piece).await;
    let passes: Vec<Value> = steps(&sheet)
        .into_iter()
        .filter(|step| step["name"].as_str().unwrap().starts_with("Wiped glaze, "))
        .collect();
    assert_eq!(passes.len(), 2, "{:?}", names(&sheet));
    assert!(hours(&passes[0]["ends"], &passes[1]["begins"]) >= 8.0, "overnight (common practice)");
    // The board of the case lay on a primed card, the piece is pale wood: said, with what it does.
    let zone = shop.zones(&piece).await;
    let differs = zone["case"]["ground"]["differs"].as_str().unwrap().to_owned();
    assert!(differs.contains("The board lay on white primer"), "{differs}");
    assert_eq!(zone["top"]["ground"]["differs"], Value::Null);
    assert_eq!(zone["case"]["ground"]["fails"], Value::Null);
}

/// A wall in a ragged glaze, by one and by two: one rolls, the other rags; it is never left in the middle, and 60 to 70 ml/m² are bought
/// (common practice).
#[tokio::test]
async fn a_wall_by_one_and_by_two() {
    let shop = Shop::new().await;
    let ragged = shop.one("glaze-ragged", &[("harbour", 1), ("slow glaze", 4)]);
    let board = shop.board("white-primer", vec![shop.coats("stem", 2), ragged]).await;
    let piece = shop.piece("wall", "white-primer", &[("wall", &board), ("panels", &board)]).await;
    let alone = shop.settings(&piece, |entry| entry["starts"] = json!("2031-01-06T09:00:00Z")).await;
    let together = shop.settings(&piece, |entry| entry["helper"] = json!(true)).await;
    let (one, two) = (named(&alone, "Ragged glaze"), named(&together, "Ragged glaze"));
    assert_eq!((&one["by"], &two["by"]), (&json!("you"), &json!("both")));
    assert!(one["wet_edge"]["words"].as_str().unwrap().contains("add extender"), "{one}");
    assert!(
        two["wet_edge"]["words"].as_str().unwrap().contains("One applies and the other works it"),
        "{two}"
    );
    // Where it is left for the night it is left after a panel or at the corner.
    for glaze in [&one, &two] {
        let pauses = glaze["pauses"].as_array().unwrap();
        assert_eq!(glaze["split"] == true, !pauses.is_empty(), "{glaze}");
        assert!(pauses.iter().all(|pause| pause.as_str().unwrap().starts_with("pause after")), "{glaze}");
    }
    assert!(at(&two["ends"]) < at(&one["ends"]), "{two} {one}");
    assert!(at(&together["ends"]) <= at(&alone["ends"]), "a helper makes nothing later");
    let zone = shop.zones(&piece).await;
    let area = zone["wall"]["area_m2"].as_f64().unwrap() + zone["panels"]["area_m2"].as_f64().unwrap();
    let each = (needed(&alone, "slow glaze") * 1.25) / area;
    assert!((60.0..=70.0).contains(&each), "{each} ml/m²");
    // Times by the quarter of an hour, in the calendar too.
    for step in steps(&alone) {
        assert_eq!(at(&step["begins"]).as_second() % 900, 0, "{step}");
    }
    let calendar =
        shop.bench.raw(Method::GET, &format!("/api/pieces/{piece}/run-sheet/calendar"), "", "").await;
    let calendar = calendar.text().await.unwrap();
    for line in calendar.lines().filter(|line| line.starts_with("DTSTART") || line.starts_with("DTEND")) {
        let seconds = line.trim_end_matches('Z');
        assert!(["0000", "1500", "3000", "4500"].iter().any(|quarter| seconds.ends_with(quarter)), "{line}");
    }
}
