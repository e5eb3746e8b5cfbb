//! Readings: what they teach, what is asked about, what cannot be.

use crate::bench::{Bench, about, in_light};
use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

const OK: StatusCode = StatusCode::OK;
const MADE: StatusCode = StatusCode::CREATED;
const REFUSED: StatusCode = StatusCode::UNPROCESSABLE_ENTITY;
const GONE: StatusCode = StatusCode::NO_CONTENT;

async fn tin(bench: &Bench, name: &str, hex: &str) -> Value {
    let entry = json!({"name": name, "class": "chalk", "components": null, "colour": {"hex": hex}});
    bench.post("/api/paints", entry, MADE).await["id"].clone()
}

async fn choose_white(bench: &Bench, white: &Value) {
    let kept = bench.get("/api/workshop").await;
    let path = format!("/api/workshop?revision={}", kept["revision"]);
    bench.call(Method::PUT, &path, json!({"house_white": white}), OK).await;
}

async fn page(bench: &Bench, id: &Value) -> Value {
    bench.get(&format!("/api/paints/{}/page", id.as_str().unwrap())).await
}

fn doubt(page: &Value) -> f64 {
    page["paint"]["known"]["doubt"].as_f64().unwrap()
}

/// The reader's words as a reading to keep.
fn keep(of: &Value, read: &Value) -> Value {
    json!({"of": of, "pour": "scale", "thick": read["thick"], "drawdown": read["drawdown"], "device": read["device"]})
}

#[tokio::test]
async fn a_tint_read_by_the_reader_shrinks_the_doubt_and_undo_forgets_it() {
    let bench = Bench::empty().await;
    let (white, blue) = (tin(&bench, "white", "#f0ede6").await, tin(&bench, "blue", "#2f5f8e").await);
    let before = page(&bench, &blue).await;
    assert!(before["advice"].as_str().unwrap().starts_with("Choose the house white first"));
    choose_white(&bench, &white).await;
    let before = page(&bench, &blue).await;
    // Of the two tints now one promises a little more, now the other: what is not known of a tin is drawn by its id.
    let advice = before["advice"].as_str().unwrap();
    assert!(
        ["Test next: A 1 : 1 tint with white", "Test next: A tint with 4 parts white"]
            .iter()
            .any(|words| advice.starts_with(words)),
        "{advice}"
    );

    let of = json!([{"paint": blue, "parts": 1.0}, {"paint": white, "parts": 1.0}]);
    let read = bench.post("/api/reader/read", json!({"of": of, "spectrum": false}), OK).await;
    assert!(read["device"].as_str().unwrap().starts_with("simulated reader"), "{read}");
    let made = bench.post("/api/readings", keep(&of, &read), MADE).await;
    assert_eq!(made["reading"]["questioned"], false);
    let news = &made["news"][0];
    assert!(news["after"].as_f64().unwrap() < 0.5 * news["before"].as_f64().unwrap(), "{news}");
    let after = page(&bench, &blue).await;
    assert!(doubt(&after) < 0.5 * doubt(&before));
    assert_eq!(after["readings"][0]["title"], "blue 1 : white 1");
    // The stand-in for a reader is practice where tins are real: marked as such, and no proof of anything.
    assert_eq!(bench.get("/api/reader").await["practice"], true);
    assert_eq!(after["readings"][0]["entry"]["device"], "simulated reader, for practice");
    assert_eq!(bench.get("/api/log/truth").await["readings"], json!([]));
    assert!(bench.get("/api/log?kinds=reading").await.to_string().contains("dry, for practice"));

    // The log holds it against what was predicted, as whoever read it was shown.
    let lines = bench.get("/api/log?kinds=reading").await;
    let line = &lines["days"][0]["groups"][0]["entries"][0];
    assert!(line["came_out"]["within"].as_f64().unwrap() > 0.0, "{line}");
    assert_eq!(line["came_out"], made["came_out"]);
    // What the test was said to buy is about what it bought.
    let promised =
        before["tests"].as_array().unwrap().iter().find(|test| test["test"] == "tint-1-1").unwrap();
    let ratio = doubt(&after) / promised["after"].as_f64().unwrap();
    assert!((0.4..2.5).contains(&ratio), "promised {} and left {}", promised["after"], doubt(&after));

    bench.undo().await;
    assert!((doubt(&page(&bench, &blue).await) - doubt(&before)).abs() < 1e-9);
}

#[tokio::test]
async fn what_contradicts_is_asked_about_until_somebody_insists() {
    let bench = Bench::demo().await;
    assert_eq!(bench.get("/api/reader").await["practice"], false);
    let log = bench.get("/api/readings").await;
    let odd = log.as_array().unwrap().iter().find(|reading| reading["questioned"] == true).unwrap().clone();
    assert!(odd["title"].as_str().unwrap().starts_with("oxblood") && odd["off"].as_f64().unwrap() > 3.0);
    let path = format!("/api/readings/{}?revision={}", odd["id"].as_str().unwrap(), odd["revision"]);
    let mut entry = odd["entry"].clone();
    entry["sure"] = json!(true);
    let insisted = bench.call(Method::PUT, &path, entry, OK).await;
    assert_eq!(insisted["questioned"], false);
    let path = format!("/api/readings/{}?revision={}", odd["id"].as_str().unwrap(), insisted["revision"]);
    bench.call(Method::DELETE, &path, Value::Null, GONE).await;
    let left = bench.get("/api/readings").await;
    assert!(left.as_array().unwrap().iter().all(|reading| reading["questioned"] == false));
}

#[tokio::test]
async fn readings_that_cannot_be_are_refused_with_the_remedy() {
    let bench = Bench::empty().await;
    let (white, blue) = (tin(&bench, "white", "#f0ede6").await, tin(&bench, "blue", "#2f5f8e").await);
    let tint = |lab: [f64; 3]| json!({"of": [{"paint": blue, "parts": 1.0}, {"paint": white, "parts": 1.0}], "thick": {"lab": lab}});
    let refused = bench.post("/api/readings", tint([99.5, 0.0, 0.0]), REFUSED).await;
    assert!(about(&refused, "/thick").contains("lighter than any paint in it"));
    let refused = bench.post("/api/readings", tint([12.0, 0.0, -10.0]), REFUSED).await;
    assert!(about(&refused, "/thick").contains("darker than any paint in it"));
    let itself = json!({"of": [{"paint": blue, "parts": 1.0}, {"paint": blue, "parts": 1.0}], "thick": {"lab": [40.0, 0.0, -20.0]}});
    assert!(about(&bench.post("/api/readings", itself, REFUSED).await, "/thick").contains("is listed twice"));

    // What is changed passes what is new has to; a note stands beside anything.
    let made =
        bench.post("/api/readings", tint([61.0, -4.0, -12.0]), StatusCode::CREATED).await["reading"].clone();
    let path = format!("/api/readings/{}?revision={}", made["id"].as_str().unwrap(), made["revision"]);
    let refused = bench.call(Method::PUT, &path, tint([99.5, 0.0, 0.0]), REFUSED).await;
    assert!(about(&refused, "/thick").contains("lighter than any paint in it"));
    let mut noted = tint([61.0, -4.0, -12.0]);
    noted["note"] = json!("north window");
    let noted = bench.call(Method::PUT, &path, noted, OK).await;
    let path = format!("/api/readings/{}?revision={}", made["id"].as_str().unwrap(), noted["revision"]);
    bench.call(Method::DELETE, &path, Value::Null, GONE).await;

    let one = |thick: Value| json!({"of": [{"paint": blue, "parts": 1.0}], "thick": thick});
    for (thick, pointer, words) in [
        (json!({"lab": [400.0, 0.0, 0.0]}), "/thick/lab", "L* is 0 to 100"),
        (json!({"hex": "#12"}), "/thick/hex", "a hex code has"),
        (json!({"spectrum": [0.1, 0.2]}), "/thick/spectrum", "a spectrum needs 36 values"),
        (json!({"spectrum": vec![42.0; 36]}), "/thick/spectrum", "look like percent"),
        (json!({"spectrum": vec![-0.5; 36]}), "/thick/spectrum", "between 0 and 1"),
        (json!({}), "/thick", "one way only"),
    ] {
        let refused = bench.post("/api/readings", one(thick), REFUSED).await;
        assert!(about(&refused, pointer).contains(words), "{refused}");
    }
    let thin = json!({"of": [{"paint": blue, "parts": 1.0}], "drawdown": {"wet_um": 0.0,
        "over_black": {"lab": [40, 0, 0]}, "over_white": {"lab": [60, 0, 0]}}});
    assert!(
        about(&bench.post("/api/readings", thin, REFUSED).await, "/drawdown/wet_um").contains("5 to 1000")
    );
    let nobody = json!({"of": [{"paint": "018f0000-0000-7000-8000-000000000000", "parts": 1.0}], "thick": {"lab": [40, 0, 0]}});
    about(&bench.post("/api/readings", nobody, REFUSED).await, "/of/0/paint");
    assert_eq!(bench.get("/api/readings").await, json!([]));
}

/// Chalk-type paint darkens under water and wax, satin latex is paler wet than dry (common practice).
#[tokio::test]
async fn wet_and_sealed_are_what_painters_see() {
    let bench = Bench::demo().await;
    let chalk = bench.paint("slate blue").await;
    let lightness = async |id: &str, state: &str| {
        let paint = bench.get(&format!("/api/paints/{id}?state={state}")).await;
        paint["swatch"]["face"]["lab"][0].as_f64().unwrap()
    };
    let dry = lightness(&chalk, "dry").await;
    assert!(lightness(&chalk, "wet").await < dry - 2.0 && lightness(&chalk, "sealed").await < dry - 1.0);
    let latex = json!({"name": "trim", "class": "latex-satin", "colour": {"hex": "#53687a"}});
    let latex = bench.post("/api/paints", latex, MADE).await["id"].as_str().unwrap().to_owned();
    assert!(lightness(&latex, "wet").await > lightness(&latex, "dry").await);
    bench.call(Method::GET, &format!("/api/paints/{latex}?state=damp"), Value::Null, REFUSED).await;
}

#[tokio::test]
async fn two_tins_become_one_and_two_again() {
    let bench = Bench::demo().await;
    let (keep, gone) = (bench.paint("night blue").await, bench.paint("slate blue").await);
    let merged = bench.post("/api/paints/merge", json!({"keep": keep, "gone": gone}), OK).await;
    assert_eq!(merged["entry"]["stock_ml"], 770.0);
    let mixes = bench.get("/api/mixes").await;
    let uses = |paint: &str| mixes.to_string().contains(paint);
    assert!(!uses(&gone) && uses(&keep));
    assert_eq!(page(&bench, &json!(keep)).await["readings"].as_array().unwrap().len(), 3);
    let undone = bench.undo().await;
    assert!(undone["done"]["words"].as_str().unwrap().contains("and"), "{}", undone["done"]);
    assert!(bench.get("/api/mixes").await.to_string().contains(&gone));
    let same = bench.post("/api/paints/merge", json!({"keep": keep, "gone": keep}), REFUSED).await;
    assert!(about(&same, "/gone").contains("merged with itself"));
}

#[tokio::test]
async fn a_photo_with_a_card_gives_a_colour() {
    let bench = Bench::empty().await;
    let pixel = |x: u32, _: u32| {
        // A white card and a blue dab in warm light: 0.9 and (0.1, 0.2, 0.4) times (0.8, 0.7, 0.5), in sRGB.
        image::Rgb(if x < 100 { [221, 208, 179] } else { [80, 105, 124] })
    };
    let mut bytes = std::io::Cursor::new(Vec::new());
    image::RgbImage::from_fn(200, 100, pixel).write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    let answer = bench.raw(Method::POST, "/api/photos", "application/octet-stream", bytes.into_inner()).await;
    assert_eq!(answer.status(), MADE);
    let photo: Value = answer.json().await.unwrap();
    let seen = format!("{}/api/photos/{}", bench.base, photo["id"].as_str().unwrap());
    let seen = bench.client.get(seen).send().await.unwrap().bytes().await.unwrap();
    let seen = image::load_from_memory(&seen).unwrap();
    assert_eq!(json!([seen.width(), seen.height()]), json!([photo["width"], photo["height"]]));
    let none = format!("/api/photos/{}", uuid::Uuid::from_u128(7));
    bench.call(Method::GET, &none, Value::Null, StatusCode::NOT_FOUND).await;
    let path = format!("/api/photos/{}/pick", photo["id"].as_str().unwrap());
    let spot = |x: f64| json!({"x": x, "y": 0.25, "radius": 0.1});
    let ask = |card: f64, dab: f64| json!({"card": "white", "card_at": spot(card), "spots": [spot(dab)]});
    let picked = bench.post(&path, ask(0.25, 0.75), OK).await;
    let hex = picked["colours"][0]["hex"].as_str().unwrap();
    // (0.1, 0.2, 0.4) in sRGB is #597caa; a step of the photo's 8 bits is a step or two here.
    let near = [0x59, 0x7c, 0xaa].iter().zip([1, 3, 5]).all(|(channel, at): (&i32, usize)| {
        (i32::from_str_radix(&hex[at..at + 2], 16).unwrap() - channel).abs() <= 3
    });
    assert!(near, "{hex}");
    assert!(about(&bench.post(&path, ask(0.5, 0.75), REFUSED).await, "/card_at").contains("uneven"));
    let heic =
        bench.raw(Method::POST, "/api/photos", "image/heic", b"\0\0\0\x18ftypheic\0\0\0\0".to_vec()).await;
    assert_eq!(heic.status(), REFUSED);
    assert!(heic.text().await.unwrap().contains("HEIC"));
}

/// The whole engine by script: the same paints, known better and better.
#[tokio::test]
async fn predict_takes_readings_and_answers_with_a_band() {
    let bench = Bench::empty().await;
    let ask = async |readings: Value| {
        let body = json!({
            "paints": [
                {"class": "chalk", "colour": {"hex": "#2f5f8e"}, "parts": 1.0, "readings": readings},
                {"class": "chalk", "colour": {"hex": "#f0ede6"}, "parts": 3.0, "house_white": true}
            ],
            "state": "dry"
        });
        bench.post("/api/predict", body, OK).await
    };
    let within = |predicted: &Value| predicted["within"].as_f64().unwrap();
    let nothing = ask(json!([])).await;
    let tint = json!({"tint": [1, 1], "of": {"lab": [62.0, -4.0, -20.0]}});
    let one = ask(json!([tint])).await;
    let more = ask(json!([tint, {"tint": [1, 4], "of": {"lab": [77.0, -3.5, -12.0]}}, {"of": {"lab": [39.3, -2.0, -31.0]}}])).await;
    assert!(
        within(&one) < 0.7 * within(&nothing) && within(&more) <= within(&one) + 0.05,
        "{} {} {}",
        within(&nothing),
        within(&one),
        within(&more)
    );
    // Two that contradict each other.
    let torn = ask(json!([tint, tint, {"tint": [1, 1], "of": {"lab": [80.0, 10.0, 20.0]}}])).await;
    assert_eq!(torn["questioned"], json!(["/paints/0/readings/2"]));
    let wet =
        json!({"paints": [{"class": "chalk", "colour": {"hex": "#2f5f8e"}, "parts": 1.0}], "state": "wet"});
    assert_eq!(bench.post("/api/predict", wet, OK).await["state"], "wet");
    let lonely = json!({"paints": [{"class": "chalk", "colour": {"hex": "#2f5f8e"}, "parts": 1.0, "readings": [tint]}]});
    assert!(
        about(&bench.post("/api/predict", lonely, REFUSED).await, "/paints/0/readings/0/tint")
            .contains("/white")
    );
}

/// From a photo to its colours and a board begun from them: a slate wall, an ochre door partly in shade, and the white card.
#[tokio::test]
async fn a_photo_gives_its_colours_and_a_board() {
    let bench = Bench::demo().await;
    let (wall, door): ([f64; 3], [f64; 3]) = ([98.0, 116.0, 128.0], [190.0, 150.0, 84.0]);
    // Half the light: by the curve of the screen.
    let shaded = |code| in_light(code, [0.5; 3]);
    let picture = image::RgbImage::from_fn(600, 400, |x, y| {
        let code = match (x, y) {
            (0..80, 0..80) => [243.0; 3],
            (0..360, _) => wall,
            (_, 0..280) => door,
            _ => shaded(door),
        };
        image::Rgb(code.map(|v| v.round() as u8))
    });
    let mut bytes = std::io::Cursor::new(Vec::new());
    picture.write_to(&mut bytes, image::ImageFormat::Png).unwrap();
    let answer = bench.raw(Method::POST, "/api/photos", "application/octet-stream", bytes.into_inner()).await;
    let photo: Value = answer.json().await.unwrap();
    let path = format!("/api/photos/{}/palette", photo["id"].as_str().unwrap());
    let asked = json!({"card": "white", "card_at": {"x": 0.06, "y": 0.06, "radius": 0.03}});
    let palette = bench.post(&path, asked.clone(), OK).await;
    let colours = palette["colours"].as_array().unwrap();
    assert_eq!(colours.len(), 3, "{palette}");
    let [base, over, shade] = [0, 1, 2].map(|n| &colours[n]);
    assert!((55..=62).contains(&base["percent"].as_u64().unwrap()), "{base}");
    assert_eq!(base["how"], "the base, in two coats");
    assert_eq!(over["layer"]["technique"], "dry-brush", "{over}");
    assert_eq!((&shade["shade_of"], &shade["recipe"]), (&json!(1), &Value::Null));
    assert!(base["recipe"]["judgement"]["difference"].as_f64().unwrap() < 2.0, "{base}");

    // The wall in another lamp: its codes stay those of daylight, what is seen turns.
    assert_eq!(base["in_light"], base["hex"]);
    let by_bulb = bench.post(&format!("{path}?light=bulb"), asked.clone(), OK).await;
    assert_eq!(by_bulb["colours"][0]["hex"], base["hex"]);
    assert_ne!(by_bulb["colours"][0]["in_light"], base["hex"]);

    let layers = json!([base["layer"], over["layer"]]);
    let board = json!({"name": "From a photo", "ground": "red-stain", "layers": layers});
    let board = bench.post("/api/boards", board, MADE).await;
    let laid = board["entry"]["strips"][0]["layers"].as_array().unwrap();
    assert_eq!(laid.len(), 2);
    assert_eq!(laid[0]["pot"], base["recipe"]["parts"]);

    let mut bad = layers[0].clone();
    bad["technique"] = json!("magic");
    let board = json!({"name": "From a photo", "ground": "red-stain", "layers": [bad]});
    let refused = bench.post("/api/boards", board, REFUSED).await;
    assert!(!about(&refused, "/layers/0/technique").is_empty(), "{refused}");
    let mut asked = asked;
    asked["card"] = json!("black");
    let refused = bench.post(&path, asked.clone(), REFUSED).await;
    assert!(about(&refused, "/card").contains("white or grey"), "{refused}");
    asked["card"] = json!("white");
    asked["card_at"]["x"] = json!(7.0);
    let refused = bench.post(&path, asked, REFUSED).await;
    assert!(about(&refused, "/card_at").contains("outside the photo"), "{refused}");
}

/// The camera of the demo takes what stands before it; by the card in the picture the paint is found that is on it, and what would
/// make it. A painter's own workspace has no stand-in for one.
#[tokio::test]
async fn the_camera_stand_in_takes_pictures() {
    let bench = Bench::demo().await;
    let camera = bench.get("/api/camera").await;
    assert_eq!(camera["name"], "Simulated camera");
    assert_eq!(
        camera["scenes"].as_array().unwrap().len(),
        warm_blend_sim::SCENES.len() + warm_blend_sim::INTERIORS.len()
    );
    let palette_of = async |id: &str| {
        let taken = bench.raw(Method::GET, &format!("/api/camera/{id}"), "", Vec::new()).await;
        assert_eq!((taken.status(), &taken.headers()["content-type"]), (OK, &"image/png".parse().unwrap()));
        let png = taken.bytes().await.unwrap();
        let photo = bench.raw(Method::POST, "/api/photos", "application/octet-stream", png).await;
        let photo: Value = photo.json().await.unwrap();
        let scene = warm_blend_sim::Scene::find(id).unwrap();
        let (x, y) = scene.card();
        let asked = json!({"card": "white", "card_at": {"x": x, "y": y, "radius": 0.03}});
        let path = format!("/api/photos/{}/palette", photo["id"].as_str().unwrap());
        (bench.post(&path, asked, OK).await, scene)
    };
    let (palette, scene) = palette_of("north").await;
    let lab = |of: &Value| [0, 1, 2].map(|n| of[n].as_f64().unwrap());
    let ([l, a, b], truth) = (lab(&palette["colours"][0]["lab"]), scene.mostly().unwrap());
    let off = warm_blend_spectral::difference(warm_blend_spectral::Lab { l, a, b }, truth).value();
    assert!(off < 3.0, "{off}: {palette}");
    // What grime has made of a paint is distinguished from paint; gold that was rubbed on a red is gold.
    for (scene, under) in [("barn", Some("probably colour 1 under grime")), ("hall", None)] {
        let (palette, _) = palette_of(scene).await;
        let colours = palette["colours"].as_array().unwrap();
        assert_eq!(colours[0]["weathered_of"], Value::Null, "the base is paint");
        let aged: Vec<&Value> = colours.iter().filter(|colour| !colour["weathered_of"].is_null()).collect();
        assert_eq!(aged.len(), usize::from(under.is_some()), "{palette}");
        assert!(
            aged.iter().all(|colour| colour["how"].as_str().unwrap().starts_with(under.unwrap())),
            "{palette}"
        );
    }
    bench.call(Method::GET, "/api/camera/nowhere", Value::Null, StatusCode::NOT_FOUND).await;

    let own = Bench::empty().await;
    assert_eq!(own.get("/api/camera").await, json!({"name": null, "scenes": []}));
    own.call(Method::GET, "/api/camera/north", Value::Null, StatusCode::NOT_FOUND).await;
}

/// A workspace of hundreds of readings that was never learnt from is shown at once, by its labels, and learnt meanwhile; what lasts
/// longer than a look waits for it, and a change meanwhile is learnt too.
#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn a_workspace_never_learnt_from_is_shown_at_once() {
    const READINGS: usize = 1200;
    let folder = tempfile::tempdir().unwrap();
    let [file, other] = ["one.db", "other.db"].map(|name| folder.path().join(name));
    never_learnt_from(&file, READINGS);
    std::fs::copy(&file, &other).unwrap();
    let doubts = async |bench: &Bench| -> Vec<f64> {
        let paints = bench.get("/api/paints").await;
        paints.as_array().unwrap().iter().map(|paint| paint["known"]["doubt"].as_f64().unwrap()).collect()
    };
    let yet = async |bench: &Bench| bench.get("/api/learning").await["readings"].as_u64().unwrap();
    let last_reading = async |bench: &Bench| bench.get("/api/readings?count=1").await[0]["words"].clone();
    let waited_for = async |bench: &Bench| {
        let answer = bench.raw(Method::GET, "/api/export/csv", "text/csv", "").await;
        assert_eq!(answer.status(), OK);
    };
    // What is asked first is answered by the labels.
    let one = Bench::of(&file).await.unwrap();
    let first = doubts(&one).await;
    waited_for(&one).await;
    assert_eq!(yet(&one).await, 0);
    let last = doubts(&one).await;
    assert!(last[1] < 0.5 * first[1], "{first:?} {last:?}");
    assert_ne!(last_reading(&one).await, Value::Null);
    // And says that it is.
    let other = Bench::of(&other).await.unwrap();
    assert_eq!(yet(&other).await, READINGS as u64);
    tin(&other, "moss", "#5b6b45").await;
    waited_for(&other).await;
    assert_eq!(yet(&other).await, 0);
    tin(&one, "moss", "#5b6b45").await;
    // One by one or at a go, meanwhile or later: the same is known.
    assert_eq!(doubts(&one).await[..2], doubts(&other).await[..2]);
}

/// A file of two tins and many readings of them, as another program may leave it.
fn never_learnt_from(file: &std::path::Path, readings: usize) {
    use warm_blend_learn::{LoggedReading, Measured, PartsMethod, Reading, ShelfPaint, Shown, Source};
    use warm_blend_paint::{Class, FilmState, Masstone, Name, PaintId, Parts};
    use warm_blend_spectral::{Lab, Srgb};
    let mut store = warm_blend_store::Store::open(file).unwrap();
    let made = store.together(|batch| {
        let mut tins = [uuid::Uuid::nil(); 2];
        for (tin, (name, code)) in tins.iter_mut().zip([("salt", [236, 234, 226]), ("tar", [42, 43, 46])]) {
            let [red, green, blue] = code;
            let colour = Some(Masstone::Hex(Srgb { red, green, blue }));
            *tin = batch.make(ShelfPaint::new(Name::new(name).unwrap(), Class::Chalk, colour))?.id;
        }
        for n in 0..readings {
            let parts = |n: usize| Parts::new(1.0 + n as f64).unwrap();
            let read = Lab { l: 55.0 + 2.0 * (n % 5) as f64, a: -0.5, b: 0.2 * (n % 3) as f64 };
            let reading = Reading {
                of: vec![(PaintId(tins[0]), parts(n % 5)), (PaintId(tins[1]), parts(0))],
                pour: PartsMethod::Spoons,
                state: FilmState::Dry,
                shown: Shown::Thick(Measured::Colour(read)),
                source: Source::Reader,
                sure: true,
            };
            batch.make(LoggedReading { reading, note: None, device: None, pot: None })?;
        }
        Ok(())
    });
    made.unwrap();
}
