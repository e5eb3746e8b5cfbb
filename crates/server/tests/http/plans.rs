//! The run sheet: planned, ticked off, changed half way, taken away.

use reqwest::{Method, StatusCode};
use serde_json::{Value, json};

use crate::bench::{Bench, about};

async fn piano(bench: &Bench) -> String {
    bench.get("/api/pieces").await[0]["id"].as_str().unwrap().to_owned()
}

async fn stool(bench: &Bench) -> String {
    bench.get("/api/pieces").await[1]["id"].as_str().unwrap().to_owned()
}

fn at(of: &Value) -> jiff::Timestamp {
    of.as_str().unwrap().parse().unwrap()
}

fn names(sheet: &Value) -> Vec<&str> {
    sheet["steps"].as_array().unwrap().iter().map(|step| step["name"].as_str().unwrap()).collect()
}

fn ends(sheet: &Value) -> jiff::Timestamp {
    sheet["ends"].as_str().unwrap().parse().unwrap()
}

async fn tick(bench: &Bench, id: &str, sheet: &Value, step: &Value, minutes: Option<f64>) -> Value {
    let path = format!("/api/pieces/{id}/run-sheet/done?revision={}", sheet["revision"]);
    bench.post(&path, json!({"step": step["id"], "minutes": minutes}), StatusCode::OK).await
}

/// The demo's sheet is half done and goes on where it was left; a step that takes twice as long moves the rest and is learned; undo
/// takes the tick back.
#[tokio::test]
async fn it_goes_on_where_it_was_left_and_learns_the_pace() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let sheet = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    assert_eq!(sheet["stop"], Value::Null);
    assert_eq!(names(&sheet)[0], "Brushed coat, 2 of 2", "primed, and one coat of blue: {:?}", names(&sheet));
    assert!(!names(&sheet).contains(&"Clean"));
    assert!(sheet["share_done"].as_f64().unwrap() > 0.15);
    // Its first step cannot wait for one that is still to come; nothing else can be ticked before it.
    let waiting = sheet["steps"].as_array().unwrap().iter().find(|step| step["ready"] == false).unwrap();
    let path = format!("/api/pieces/{id}/run-sheet/done?revision={}", sheet["revision"]);
    let refused = bench
        .call(Method::POST, &path, json!({"step": waiting["id"]}), StatusCode::UNPROCESSABLE_ENTITY)
        .await;
    assert!(about(&refused, "/step").contains("first"), "{refused}");

    let coat = sheet["steps"][0].clone();
    let slow = tick(&bench, &id, &sheet, &coat, Some(2.5 * coat["minutes"].as_f64().unwrap())).await;
    assert_ne!(names(&slow)[0], "Brushed coat, 2 of 2");
    let pace = &slow["paces"][0];
    assert_eq!(pace["technique"], "Brushed coat");
    assert!(pace["factor"].as_f64() > sheet["paces"][0]["factor"].as_f64(), "{pace}");
    let skills = bench.get("/api/log/skills").await;
    let brushed = |skill: &&Value| skill["technique"] == "brushed-coat" && skill["of"] == "pace";
    let reply = skills.as_array().unwrap().iter().find(brushed).unwrap();
    assert_eq!(reply["points"].as_array().unwrap().last().unwrap()["times"], pace["factor"]);
    assert!(reply["words"].as_str().unwrap().starts_with("takes 1."), "{reply}");
    let longer = |of: &Value| {
        of["steps"].as_array().unwrap().iter().find(|step| step["name"] == "Brushed coat, 1 of 2").unwrap()["minutes"]
            .as_f64()
            .unwrap()
    };
    assert!(longer(&slow) > longer(&sheet), "the rest is planned at that pace");

    bench.undo().await;
    let again = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    assert_eq!(names(&again), names(&sheet));
}

/// The trim's scheme in place of the panels' half way: what lies there and is wanted stays, the rest is covered.
#[tokio::test]
async fn the_scheme_is_changed_half_way() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let mut sheet = bench.get(&path).await;
    // The panels get their red, which the other scheme does not want there.
    let red =
        sheet["steps"].as_array().unwrap().iter().find(|step| step["pot"] == "oxblood").unwrap().clone();
    sheet = tick(&bench, &id, &sheet, &red, None).await;
    let piece = bench.get(&format!("/api/pieces/{id}")).await;
    let mut entry = piece["entry"].clone();
    entry["chosen"] = json!(1);
    let at = format!("/api/pieces/{id}?revision={}", piece["revision"]);
    bench.call(Method::PUT, &at, entry, StatusCode::OK).await;

    let other = bench.get(&path).await;
    assert_eq!(other["scheme"], "pale trim");
    let steps = other["steps"].as_array().unwrap();
    let covered =
        steps.iter().find(|step| step["name"] == "Scuff before recoating").expect("the red is covered");
    let zones = |step: &Value| {
        step["zones"]
            .as_array()
            .unwrap()
            .iter()
            .map(|zone| zone.as_str().unwrap().to_owned())
            .collect::<Vec<_>>()
    };
    assert!(zones(covered).contains(&"Panels".to_owned()), "{covered}");
    assert!(names(&other).iter().all(|name| !["Clean", "Rinse"].contains(name)), "nothing is prepared twice");
    // The case has its first coat and keeps it.
    let second = steps
        .iter()
        .find(|step| step["name"] == "Brushed coat, 2 of 2" && zones(step).contains(&"Case".to_owned()));
    assert!(second.is_some());
    let _ = sheet;
}

/// A helper, longer days, colder air: what they do to the day it is ready.
#[tokio::test]
async fn how_the_workshop_works_moves_the_end() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let sheet = bench.get(&path).await;
    let with = async |sheet: &Value, change: &dyn Fn(&mut Value), expected: StatusCode| {
        let mut entry = sheet["entry"].clone();
        change(&mut entry);
        bench.call(Method::PUT, &format!("{path}?revision={}", sheet["revision"]), entry, expected).await
    };
    let helped = with(&sheet, &|entry| entry["helper"] = json!(true), StatusCode::OK).await;
    assert!(ends(&helped) <= ends(&sheet));
    let cold = with(
        &helped,
        &|entry| {
            entry["helper"] = json!(false);
            entry["celsius"] = json!(10.0)
        },
        StatusCode::OK,
    )
    .await;
    assert!(ends(&cold) > ends(&sheet));
    let frost = with(&cold, &|entry| entry["celsius"] = json!(-10.0), StatusCode::OK).await;
    assert!(frost["stop"].as_str().unwrap().contains("Warm the workshop"), "{}", frost["stop"]);
    assert_eq!(frost["steps"], json!([]));

    for (change, pointer, word) in [
        (json!({"celsius": 900.0}), "/celsius", "−30"),
        (json!({"humidity": 140.0}), "/humidity", "100 %"),
        (json!({"margin": 100.0}), "/margin", "90 %"),
        (json!({"hour": -3.0}), "/hour", "0 to"),
        (
            json!({"hours": {"week": [null, null, null, null, null, null, null]}}),
            "/hours/week",
            "at least one",
        ),
        (json!({"hours": {"week": []}}), "/hours/week", "a week has 7"),
        (
            json!({"hours": {"week": [null, null, null, null, null, null, {"from": "17:00", "to": "9 o'clock"}]}}),
            "/hours/week",
            "09:00",
        ),
        (
            json!({"hours": {"zone": "Moon/Crater", "week": sheet["entry"]["hours"]["week"]}}),
            "/hours/zone",
            "time zone",
        ),
        (
            json!({"hours": {"week": sheet["entry"]["hours"]["week"], "off": ["tomorrow"]}}),
            "/hours/off",
            "2026-12-24",
        ),
        (
            json!({"hours": {"week": [{"from": "09:00", "to": "09:10"}, null, null, null, null, null, null]}}),
            "/hours/week",
            "quarter of an hour",
        ),
        (
            json!({"hours": {"week": sheet["entry"]["hours"]["week"], "overrun": 600}}),
            "/hours/overrun",
            "0 to 120",
        ),
        (json!({"starts": "soon"}), "/starts", "valid date and time"),
    ] {
        let merge = |entry: &mut Value| {
            for (field, value) in change.as_object().unwrap() {
                entry[field] = value.clone();
            }
        };
        let refused = with(&frost, &merge, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert!(about(&refused, pointer).contains(word), "{change}: {refused}");
    }
    // Over a revision that somebody else has changed nothing is written.
    with(&sheet, &|entry| entry["helper"] = json!(true), StatusCode::CONFLICT).await;
}

/// A day on which work may begin begins on the workshop's clock. Of two who begin a sheet at once one is shown that the other was first.
#[tokio::test]
async fn a_day_begins_in_the_workshop_and_a_sheet_begins_once() {
    let bench = Bench::demo().await;
    let stool = bench.get(&format!("/api/pieces/{}", stool(&bench).await)).await;
    let another = bench.post("/api/pieces", json!({"name": "Another stool"}), StatusCode::CREATED).await;
    let id = another["id"].as_str().unwrap();
    let at = format!("/api/pieces/{id}?revision={}", another["revision"]);
    bench.call(Method::PUT, &at, stool["entry"].clone(), StatusCode::OK).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let sheet = bench.get(&path).await;
    assert_eq!(sheet["revision"], 0);
    assert_eq!(sheet["entry"]["hour"], 32.0, "as the workshop works on its other pieces");
    let mut entry = sheet["entry"].clone();
    entry["starts"] = json!("2030-01-07");
    entry["hours"]["zone"] = json!("America/New_York");
    let put = async || {
        let at = format!("{path}?revision=0");
        bench.raw(Method::PUT, &at, "application/json", entry.to_string()).await.status()
    };
    let (one, other) = tokio::join!(put(), put());
    let mut both = [one, other];
    both.sort();
    assert_eq!(both, [StatusCode::OK, StatusCode::CONFLICT]);
    let sheet = bench.get(&path).await;
    assert_eq!(sheet["entry"]["starts"], "2030-01-07T05:00:00Z");
    assert_eq!(sheet["steps"][0]["begins"], "2030-01-07T14:00:00Z", "a Monday at nine");
}

/// Old paint is tested for lead before anything is sanded; where there is some, the plan stops and says whom to ask.
#[tokio::test]
async fn lead_stops_the_plan() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let sheet = bench.get(&path).await;
    for place in (0..sheet["done"].as_array().unwrap().len()).rev() {
        let revision = bench.get(&path).await["revision"].clone();
        let at = format!("{path}/done/{place}?revision={revision}");
        bench.call(Method::DELETE, &at, Value::Null, StatusCode::OK).await;
    }
    let piece = bench.get(&format!("/api/pieces/{id}")).await;
    let mut entry = piece["entry"].clone();
    for scheme in entry["schemes"].as_array_mut().unwrap() {
        let worn = scheme["wears"].as_object_mut().unwrap();
        worn.values_mut().for_each(|worn| worn["ground"] = json!({"kind": "old-paint"}));
    }
    bench
        .call(Method::PUT, &format!("/api/pieces/{id}?revision={}", piece["revision"]), entry, StatusCode::OK)
        .await;
    let sheet = bench.get(&path).await;
    let all = names(&sheet);
    let at =
        |name: &str| all.iter().position(|found| *found == name).unwrap_or_else(|| panic!("{name}: {all:?}"));
    assert!(at("Test for lead") < at("Scuff-sand"));
    let test = &sheet["steps"][at("Test for lead")];
    assert!(test["asks_lead"] == true && test["care"][0]["source"].as_str().unwrap().contains("745"));
    let body = json!({"step": test["id"], "lead": true});
    let stopped =
        bench.post(&format!("{path}/done?revision={}", sheet["revision"]), body, StatusCode::OK).await;
    assert!(stopped["stop"].as_str().unwrap().contains("licensed"), "{}", stopped["stop"]);
    assert_eq!(stopped["steps"], json!([]));
}

/// A calendar, a shopping list; and a piece of which nothing was said.
#[tokio::test]
async fn it_is_taken_away() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let text = async |file: &str| {
        let answer = bench.raw(Method::GET, &format!("/api/pieces/{id}/run-sheet/{file}"), "", "").await;
        (answer.status(), answer.text().await.unwrap())
    };
    let (status, calendar) = text("calendar").await;
    assert_eq!(status, StatusCode::OK);
    assert!(
        calendar.starts_with("BEGIN:VCALENDAR") && calendar.contains("SUMMARY:Brushed coat"),
        "{calendar}"
    );
    let sheet = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    let hands_on =
        sheet["steps"].as_array().unwrap().iter().filter(|step| step["begins"] != step["ends"]).count();
    assert!(calendar.matches("BEGIN:VEVENT").count() >= hands_on);
    let (_, shopping) = text("shopping").await;
    assert!(shopping.starts_with("product,needed_ml") && shopping.contains("slate blue"), "{shopping}");
    assert_eq!(text("../../paints").await.0, StatusCode::NOT_FOUND);
    assert_eq!(text("other").await.0, StatusCode::NOT_FOUND);

    let empty = Bench::empty().await;
    let id = piano(&empty).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let refused = empty.call(Method::GET, &path, Value::Null, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&refused, "/form").contains("what the piece is"));
}

/// When hands are on something, from and to.
fn worked(of: &Value) -> Vec<(jiff::Timestamp, jiff::Timestamp)> {
    let all = of.as_array().unwrap().iter().map(|one| (at(&one["begins"]), at(&one["ends"])));
    all.filter(|(begins, ends)| begins < ends).collect()
}

/// The piano and its stool share one painter: what is due earlier comes first, the other is done in its waits, and what is idle then is
/// taken by neither.
#[tokio::test]
async fn two_pieces_on_one_bench() {
    let bench = Bench::demo().await;
    let (piano, stool) = (piano(&bench).await, stool(&bench).await);
    let of = async |id: &str| bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    let (first, second) = (of(&piano).await, of(&stool).await);
    assert!(
        first["elsewhere"].as_array().unwrap().iter().any(|one| one["step"] == "Prime"),
        "{}",
        first["elsewhere"]
    );
    assert_eq!(first["elsewhere"][0]["name"], "Stool, village hall");
    assert_eq!(second["elsewhere"][0]["name"], "Upright piano and stool, village hall");
    for sheet in [&first, &second] {
        let elsewhere = worked(&sheet["elsewhere"]);
        let whole = sheet["steps"]
            .as_array()
            .unwrap()
            .iter()
            .filter(|step| step["split"] == false)
            .cloned()
            .collect();
        let apart = |one: &[(jiff::Timestamp, jiff::Timestamp)],
                     other: &[(jiff::Timestamp, jiff::Timestamp)]| {
            one.iter().all(|(from, to)| other.iter().all(|(begins, ends)| to <= begins || ends <= from))
        };
        let (own, idle) = (worked(&Value::Array(whole)), worked(&sheet["idle"]));
        assert!(apart(&own, &elsewhere) && apart(&own, &idle) && apart(&elsewhere, &idle), "{sheet}");
        assert!(!own.is_empty() && !elsewhere.is_empty() && !idle.is_empty());
    }

    // The stool is wanted tomorrow: now it comes first, and the piano is ready no sooner.
    let kept = bench.get(&format!("/api/pieces/{stool}")).await;
    let mut entry = kept["entry"].clone();
    entry["brief"]["due"] = json!("2026-01-02");
    let path = format!("/api/pieces/{stool}?revision={}", kept["revision"]);
    bench.call(Method::PUT, &path, entry, StatusCode::OK).await;
    let (later, sooner) = (of(&piano).await, of(&stool).await);
    assert!(ends(&sooner) <= ends(&second) && ends(&later) >= ends(&first));
    assert!(at(&sooner["steps"][0]["begins"]) <= at(&later["steps"][0]["begins"]));
    assert!(
        sooner["verdict"].as_str().unwrap().contains("Late by"),
        "due in the past is said: {}",
        sooner["verdict"]
    );
}

/// The clock of a step is kept by the server: it runs on when the page is closed, is stopped, and is gone once the step is ticked off.
#[tokio::test]
async fn the_clock_of_a_step_is_kept() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let sheet = bench.get(&path).await;
    let set = async |sheet: &Value, step: &Value, runs: bool, expected: StatusCode| {
        let at = format!("{path}/clock?revision={}", sheet["revision"]);
        bench.call(Method::POST, &at, json!({"step": step["id"], "runs": runs}), expected).await
    };
    let waiting = sheet["steps"].as_array().unwrap().iter().find(|step| step["ready"] == false).unwrap();
    let refused = set(&sheet, waiting, true, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&refused, "/step").contains("can’t start yet"));

    set(&sheet, &sheet["steps"][0], true, StatusCode::OK).await;
    let running = bench.get(&path).await;
    assert_eq!(running["steps"][0]["clock"]["runs"], true);
    let stopped = set(&running, &sheet["steps"][0], false, StatusCode::OK).await;
    assert_eq!(stopped["steps"][0]["clock"]["runs"], false);
    let minutes = stopped["steps"][0]["clock"]["minutes"].as_f64().unwrap();
    assert!((0.0..2.0).contains(&minutes), "it ran for a moment: {minutes}");
    let done = tick(&bench, &id, &stopped, &stopped["steps"][0], None).await;
    assert!(done["steps"].as_array().unwrap().iter().all(|step| step["clock"].is_null()));
    assert_eq!(
        done["done"][0]["minutes"],
        Value::Null,
        "nobody works for no time: nothing is learned from it"
    );
}

/// Only Sundays, and every Sunday off: the plan says so. Amounts are said in the painter's own units; other schools and what they cost are
/// those of the board.
#[tokio::test]
async fn what_is_said_of_a_plan() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let path = format!("/api/pieces/{id}/run-sheet");
    let ounces = bench.get(&format!("{path}?units=imperial")).await;
    assert!(ounces["pots"][0]["amount"].as_str().unwrap().ends_with("fl oz"), "{}", ounces["pots"][0]);
    assert_eq!(ounces["cost"]["area_unit"], "ft²");
    let schools = ounces["schools"].as_array().unwrap();
    let neither = schools
        .iter()
        .find(|way| way["words"] == "Neither: leave the colour plain")
        .expect("it has dark wax");
    assert!(
        neither["minutes"].as_f64().unwrap() < -30.0 && neither["days"].as_i64().unwrap() <= 0,
        "{neither}"
    );
    let first = schools.iter().find(|way| way["words"] == "Clear wax first").expect("none is under it");
    assert!(first["minutes"].as_f64().unwrap() > 0.0, "{first}");
    assert!(ounces["cost"]["buyers"]["what"].as_str().unwrap().starts_with("Quiet"));

    let mut entry = ounces["entry"].clone();
    let mut sunday = jiff::Timestamp::now().to_zoned_datetime(jiff::tz::TimeZone::UTC).date();
    let mut off = Vec::new();
    for _ in 0..430 {
        if sunday.weekday() == jiff::civil::Weekday::Sunday {
            off.push(json!(sunday.to_string()));
        }
        sunday = sunday.tomorrow().unwrap();
    }
    entry["hours"]["week"] = json!([null, null, null, null, null, null, {"from": "09:00", "to": "17:00"}]);
    entry["hours"]["off"] = Value::Array(off);
    let at = format!("{path}?revision={}", ounces["revision"]);
    let never = bench.call(Method::PUT, &at, entry, StatusCode::UNPROCESSABLE_ENTITY).await;
    assert!(about(&never, "/hours/off").contains("remove some days off"), "{never}");
}

/// The record: what was ticked off, part by part from the ground up, with what mends a spot; as a table and for other programs too.
#[tokio::test]
async fn the_record_for_the_client() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let record = bench.get(&format!("/api/pieces/{id}/record")).await;
    assert_eq!((&record["client"], &record["finished"]), (&json!("Village hall committee"), &json!(false)));
    let zones = record["zones"].as_array().unwrap();
    let case = zones.iter().find(|zone| zone["zone"] == "Case").unwrap();
    let how: Vec<&str> =
        case["layers"].as_array().unwrap().iter().map(|layer| layer["how"].as_str().unwrap()).collect();
    assert_eq!(how, ["Prime", "Brushed coat, 1 of 2"]);
    // A film of 90 µm with a tenth more, on a square decimetre: 1 ml (1604 ft²·mil a gallon).
    assert_eq!(case["layers"][1]["mends"], "1 ml");
    assert_eq!(case["layers"][1]["pot"], "5 slate blue : 1 barley");
    let text = async |file: &str| {
        bench
            .raw(Method::GET, &format!("/api/pieces/{id}/run-sheet/{file}"), "", "")
            .await
            .text()
            .await
            .unwrap()
    };
    let table = text("record.csv").await;
    assert!(table.starts_with("part,layer,how,pot,at,note,mends_a_palm"), "{table}");
    assert!(table.contains("5 slate blue : 1 barley") && table.contains("fretwork"), "{table}");
    let file: Value = serde_json::from_str(&text("record.json").await).unwrap();
    assert_eq!(file, record);
}

/// A step takes a photo: it stands with what was done, in the log, and goes with the tick that is taken back.
#[tokio::test]
async fn a_step_takes_a_photo() {
    let bench = Bench::demo().await;
    let id = piano(&bench).await;
    let mut png = Vec::new();
    let image = image::RgbImage::from_pixel(64, 48, image::Rgb([90, 110, 120]));
    image.write_to(&mut std::io::Cursor::new(&mut png), image::ImageFormat::Png).unwrap();
    let kept = bench.raw(Method::POST, "/api/photos/kept", "application/octet-stream", png).await;
    let photo: Value = kept.json().await.unwrap();
    let sheet = bench.get(&format!("/api/pieces/{id}/run-sheet")).await;
    let path = format!("/api/pieces/{id}/run-sheet/done?revision={}", sheet["revision"]);
    let body = json!({"step": sheet["steps"][0]["id"], "photo": photo["id"], "note": "covers now"});
    let done = bench.post(&path, body, StatusCode::OK).await;
    assert_eq!(done["done"][0]["photo"], photo["id"]);
    let found = async || {
        let page = bench.get("/api/log?kinds=step&search=covers%20now").await;
        page["days"][0]["groups"][0]["entries"][0]["photo"].clone()
    };
    assert_eq!(found().await, photo["id"]);
    let of_piece = format!("/api/pieces/{id}/photos");
    assert_eq!(bench.get(&of_piece).await[0]["photo"], photo["id"]);
    let path = format!("/api/pieces/{id}/run-sheet/done/6?revision={}", done["revision"]);
    let back = bench.call(Method::DELETE, &path, Value::Null, StatusCode::OK).await;
    assert_eq!(names(&back), names(&sheet));
    assert_eq!(found().await, Value::Null);
    assert_eq!(bench.get(&of_piece).await, json!([]));
    let nobody = "/api/pieces/00000000-0000-0000-0000-000000000001/photos";
    bench.call(Method::GET, nobody, Value::Null, StatusCode::NOT_FOUND).await;
}

/// Brushes are counted and washed; numbers nobody has, unknown kinds and times that are none are refused, and nothing is saved of them.
#[tokio::test]
async fn brushes_are_counted_and_washed() {
    let bench = Bench::demo().await;
    let piece = bench.get("/api/piece").await["id"].as_str().unwrap().to_owned();
    let path = format!("/api/pieces/{piece}/run-sheet/brushes");
    let history = bench.get("/api/history").await;
    for (body, pointer) in [
        (json!({"brush": "flat", "good": 100}), "/good"),
        (json!({"brush": "flat", "good": 2, "worn": 255}), "/worn"),
        (json!({"brush": "flat", "good": -1}), "/good"),
        (json!({"brush": "flat", "good": 1e9}), "/good"),
        (json!({"brush": "toothbrush", "good": 1}), "/brush"),
    ] {
        let problem = bench.call(Method::PUT, &path, body, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert_eq!(problem["errors"][0]["pointer"], pointer, "{problem}");
    }
    let washed = format!("{path}/washed");
    for used in ["", "soon", "2026-99-01T00:00:00Z"] {
        let body = json!({"brush": "flat", "used": used});
        let problem = bench.post(&washed, body, StatusCode::UNPROCESSABLE_ENTITY).await;
        assert_eq!(problem["errors"][0]["pointer"], "/used", "{problem}");
    }
    assert_eq!(bench.get("/api/history").await, history);
    let sheet =
        bench.call(Method::PUT, &path, json!({"brush": "flat", "good": 2, "worn": 1}), StatusCode::OK).await;
    let flat = sheet["brushes"]["kinds"].as_array().unwrap().iter().find(|kind| kind["brush"] == "flat");
    assert_eq!((&flat.unwrap()["good"], &flat.unwrap()["worn"]), (&json!(2), &json!(1)));
    // One step of undo brings back that they were not counted.
    bench.undo().await;
    let sheet = bench.get(&format!("/api/pieces/{piece}/run-sheet")).await;
    assert!(sheet["brushes"]["kinds"].as_array().unwrap().iter().all(|kind| kind["good"].is_null()));
}
