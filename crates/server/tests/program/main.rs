//! The program itself: how it starts, how it fails, and what a killed one leaves behind.

mod backups;
mod disk;
#[cfg(target_os = "linux")]
mod power;
#[cfg(target_os = "linux")]
mod room;
mod torture;

use std::fs;
use std::io::{BufRead, BufReader, Read};
use std::path::Path;
use std::process::{Child, Command, Output, Stdio};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::time::Duration;

use disk::Disk;
use serde_json::{Value, json};
use warm_blend_store::Store;

struct Running {
    child: Child,
    base: String,
}

impl Drop for Running {
    fn drop(&mut self) {
        drop(self.child.kill());
        drop(self.child.wait());
    }
}

impl Running {
    /// Stops it as the system does.
    #[cfg(unix)]
    fn stop(&mut self) {
        self.signal("-TERM");
    }

    /// Stops it as Ctrl-C does.
    #[cfg(unix)]
    fn interrupt(&mut self) {
        self.signal("-INT");
    }

    #[cfg(unix)]
    fn signal(&mut self, signal: &str) {
        let pid = self.child.id().to_string();
        assert!(Command::new("kill").args([signal, &pid]).status().unwrap().success());
        assert!(self.child.wait().unwrap().success(), "{signal}");
    }
}

fn program() -> Command {
    Command::new(env!("CARGO_BIN_EXE_warm-blend"))
}

fn start(args: &[&str]) -> Running {
    started(program().args(args))
}

/// Started with a folder of its own for temporary files.
fn start_with_temporary(folder: &Path, args: &[&str]) -> Running {
    started(program().env("TMPDIR", folder).args(args))
}

fn started(program: &mut Command) -> Running {
    let mut child = program.stdout(Stdio::piped()).spawn().unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.as_mut().unwrap()).read_line(&mut line).unwrap();
    let base =
        line.split_whitespace().find(|word| word.starts_with("http://")).unwrap_or_else(|| panic!("{line}"));
    Running { base: base.to_owned(), child }
}

fn refused(args: &[&str]) -> String {
    let Output { status, stderr, .. } = program().args(args).output().unwrap();
    assert!(!status.success());
    String::from_utf8(stderr).unwrap()
}

fn serve(file: &Path) -> Running {
    start(&["serve", "--port", "0", "--data", file.to_str().unwrap()])
}

#[tokio::test]
async fn a_killed_program_loses_no_acknowledged_write() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    for round in 0..3 {
        let mut running = serve(&file);
        let (stop, written) = (Arc::new(AtomicBool::new(false)), Arc::new(AtomicUsize::new(0)));
        let writers: Vec<_> = (0..4)
            .map(|writer| {
                let (base, stop, written) = (running.base.clone(), Arc::clone(&stop), Arc::clone(&written));
                tokio::spawn(async move {
                    let client = reqwest::Client::new();
                    let mut acknowledged = Vec::new();
                    for n in 0.. {
                        let name = format!("round {round} writer {writer} paint {n}");
                        let body = json!({"name": name, "class": "water"}).to_string();
                        let request = client
                            .post(format!("{base}/api/paints"))
                            .header("content-type", "application/json");
                        match request.body(body).send().await {
                            Ok(answer) if answer.status() == 201 => {
                                acknowledged.push(name);
                                written.fetch_add(1, Ordering::SeqCst);
                            }
                            _ if stop.load(Ordering::SeqCst) => break,
                            other => panic!("{other:?}"),
                        }
                    }
                    acknowledged
                })
            })
            .collect();
        let under_way = async {
            while written.load(Ordering::SeqCst) < 60 {
                tokio::time::sleep(Duration::from_millis(2)).await;
            }
        };
        tokio::time::timeout(Duration::from_secs(60), under_way).await.expect("sixty writes in a minute");
        stop.store(true, Ordering::SeqCst);
        running.child.kill().unwrap(); // SIGKILL
        running.child.wait().unwrap();
        let mut acknowledged = Vec::new();
        for writer in writers {
            acknowledged.extend(writer.await.unwrap());
        }
        assert!(acknowledged.len() >= 60);

        let again = serve(&file);
        let shelf: Vec<Value> =
            reqwest::get(format!("{}/api/paints", again.base)).await.unwrap().json().await.unwrap();
        let names: Vec<&str> = shelf.iter().map(|paint| paint["entry"]["name"].as_str().unwrap()).collect();
        for name in acknowledged {
            assert!(names.contains(&name.as_str()), "{name} was acknowledged and is lost");
        }
    }
}

#[test]
fn a_file_it_cannot_use_is_named_and_left_alone() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("notes.txt");
    let text = "three parts of dove grey, one of night blue\n".repeat(5);
    fs::write(&file, &text).unwrap();
    let said = refused(&["serve", "--port", "0", "--data", file.to_str().unwrap()]);
    assert!(said.contains("notes.txt") && said.contains("--data"), "{said}");
    assert_eq!(fs::read_to_string(&file).unwrap(), text);
    assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1, "nothing was put beside it");
    assert!(refused(&["serve", "--data", "/nowhere/at/all.db"]).contains("/nowhere/at"));
    assert!(refused(&["serve", "--data", folder.path().to_str().unwrap()]).contains("not a file"));
}

/// Nobody writes to it, so whoever opens it waits for ever.
#[test]
#[cfg(unix)]
fn a_pipe_is_no_workspace() {
    let folder = tempfile::tempdir().unwrap();
    let pipe = folder.path().join("pipe");
    assert!(Command::new("mkfifo").arg(&pipe).status().unwrap().success());
    let said = refused(&["serve", "--data", pipe.to_str().unwrap()]);
    assert!(said.contains("pipe is not a file") && said.contains("--data"), "{said}");
}

#[test]
fn a_full_disk_is_said_at_the_start() {
    let folder = tempfile::tempdir().unwrap();
    let disk = Disk::new(folder.path(), "64k");
    if !disk.small {
        return;
    }
    disk.fill();
    let file = disk.at.join("workspace.db");
    let said = refused(&["serve", "--port", "0", "--data", file.to_str().unwrap()]);
    assert!(said.contains("no disk space") && said.contains("free some"), "{said}");
}

/// What the scale has weighed while the disk was full is still on the pan for the next try, all of it, and only once.
#[tokio::test]
async fn what_was_weighed_on_a_full_disk_is_not_lost() {
    let folder = tempfile::tempdir().unwrap();
    let disk = Disk::new(folder.path(), "4m");
    if !disk.small {
        return;
    }
    let file = disk.at.join("workspace.db");
    let running = start(&["serve", "--port", "0", "--data", file.to_str().unwrap(), "--scale", "simulated"]);
    let client = reqwest::Client::new();
    let post = async |path: &str, body: Value| -> (u16, Value) {
        let request =
            client.post(format!("{}{path}", running.base)).header("content-type", "application/json");
        let answer = request.body(body.to_string()).send().await.unwrap();
        (answer.status().as_u16(), answer.json().await.unwrap_or_default())
    };
    let grams = async || -> f64 {
        let end = std::time::Instant::now() + std::time::Duration::from_secs(10);
        loop {
            let asked = client.get(format!("{}/api/scale", running.base)).send().await.unwrap();
            let scale: Value = asked.json().await.unwrap();
            if scale["pan"] == "steady" && scale["grams"].as_f64().is_some_and(|grams| grams > 10.0) {
                return scale["grams"].as_f64().unwrap();
            }
            assert!(std::time::Instant::now() < end, "{scale}");
            tokio::time::sleep(std::time::Duration::from_millis(30)).await;
        }
    };
    let red = json!({"name": "gate red", "class": "chalk", "colour": {"hex": "#7a2e22"}});
    let red = post("/api/paints", red).await.1["id"].clone();
    let mix = post("/api/mixes", json!({"components": [{"paint": red, "parts": 1}]})).await.1["id"].clone();
    let pot = post("/api/pours", json!({"mix": mix, "batch_ml": 200})).await.1["id"].clone();
    let pot = format!("/api/pours/{}/steps", pot.as_str().unwrap());
    let step = |id: u8| json!({"id": format!("00000000-0000-4000-8000-0000000000{id:02}"), "paint": red, "measure": "scale", "count": 0});

    assert_eq!(post("/api/scale/simulated", json!({"action": "pour", "grams": 40.0})).await.0, 204);
    let weighed = grams().await;
    disk.fill();
    let (status, problem) = post(&pot, step(1)).await;
    assert_eq!((status, problem["type"].as_str()), (507, Some("urn:warm-blend:full")), "{problem}");
    let still = grams().await;
    assert!((still - weighed).abs() < 1.0, "{weighed} g, then {still}");
    disk.empty();
    let (status, taken) = post(&pot, step(1)).await;
    assert_eq!(status, 200, "{taken}");
    let amount = taken["steps"][0]["amount"].as_str().unwrap();
    // A stand-in beside real tins: it says so.
    let recorded: f64 = amount.strip_suffix(" g, for practice").unwrap().parse().unwrap();
    assert!((recorded - still).abs() < 1.0, "{recorded} of {still}: {taken}");
    let (status, problem) = post(&pot, step(2)).await;
    assert_eq!(status, 409, "it was taken down once: {problem}");
}

#[test]
fn a_taken_port_is_said() {
    let folder = tempfile::tempdir().unwrap();
    let first = serve(&folder.path().join("one.db"));
    let port = first.base.rsplit(':').next().unwrap();
    let other = folder.path().join("two.db");
    let said = refused(&["serve", "--port", port, "--data", other.to_str().unwrap()]);
    assert!(said.contains(port) && said.contains("--port"), "{said}");
}

#[test]
#[cfg(unix)]
fn the_demo_is_fresh_each_time_and_takes_its_file_away() {
    let temporary = tempfile::tempdir().unwrap();
    let mut running = start_with_temporary(temporary.path(), &["demo", "--port", "0"]);
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 1);
    running.stop();
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 0);
}

/// A new painter may look round in the demo: it is another workspace at another address, the same however often it is asked for,
/// it says where its visitor came from, and it goes when the program stops.
#[tokio::test]
#[cfg(unix)]
async fn a_demo_can_be_looked_round_in_beside_an_empty_workspace() {
    let (folder, temporary) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    let file = folder.path().join("workspace.db");
    let args = ["serve", "--port", "0", "--data", file.to_str().unwrap()];
    let mut running = start_with_temporary(temporary.path(), &args);
    let client = reqwest::Client::new();
    let get = async |at: String| -> Value { client.get(at).send().await.unwrap().json().await.unwrap() };
    let own = running.base.clone();
    assert_eq!(get(format!("{own}/api/demo")).await, json!({ "offered": true, "back": null }));
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 0, "none is made before it is asked for");
    let mut urls = Vec::new();
    for _ in 0..2 {
        let visit = client.post(format!("{own}/api/demo")).header("origin", &own).send().await.unwrap();
        let running: Value = visit.json().await.unwrap();
        urls.push(running["url"].as_str().unwrap().to_owned());
    }
    assert!(urls[0] == urls[1] && urls[0] != own, "{urls:?}");
    let demo = &urls[0];
    assert_eq!(get(format!("{demo}/api/demo")).await, json!({ "offered": false, "back": own }));
    assert!(get(format!("{demo}/api/paints")).await.as_array().unwrap().len() > 15);
    assert_eq!(get(format!("{own}/api/paints")).await, json!([]));
    running.stop();
    assert!(client.get(demo).send().await.is_err(), "it is gone");
    assert_eq!(fs::read_dir(temporary.path()).unwrap().count(), 0, "and its file with it");
}

/// A closed terminal stops it as Ctrl-C does, and the file alone holds everything: it may be copied.
#[tokio::test]
#[cfg(unix)]
async fn a_closed_terminal_leaves_the_file_whole() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    for signal in ["-HUP", "-TERM", "-INT"] {
        let mut running = serve(&file);
        let body = json!({"name": format!("water {signal}"), "class": "water"}).to_string();
        let client = reqwest::Client::new();
        let request =
            client.post(format!("{}/api/paints", running.base)).header("content-type", "application/json");
        assert_eq!(request.body(body).send().await.unwrap().status(), 201);
        let pid = running.child.id().to_string();
        assert!(Command::new("kill").args([signal, &pid]).status().unwrap().success());
        assert!(running.child.wait().unwrap().success(), "{signal}");
        assert!(!folder.path().join("workspace.db-wal").exists(), "{signal} left a log beside the file");
        let copy = folder.path().join("copy.db");
        fs::copy(&file, &copy).unwrap();
        let kept = Store::open(&copy).unwrap().all::<warm_blend_learn::ShelfPaint>().unwrap();
        assert_eq!(kept.last().unwrap().value.name.as_str(), format!("water {signal}"));
    }
}

/// It stops within a second or so whatever it is doing: while marks are made ready right after the start, and next to large pictures,
/// quick and fine.
#[tokio::test]
#[cfg(unix)]
async fn it_stops_at_once_whatever_it_is_doing() {
    let client = reqwest::Client::new();
    for pictures in [false, true] {
        let mut running = start(&["demo", "--port", "0"]);
        if pictures {
            let boards: Value = client
                .get(format!("{}/api/boards", running.base))
                .send()
                .await
                .unwrap()
                .json()
                .await
                .unwrap();
            let board = boards[0]["id"].as_str().unwrap();
            for how in [
                "width=4096&height=4096",
                "width=4096&height=4096&fine=true",
                "width=1600&height=1200&fine=true",
            ] {
                let picture = format!("{}/api/boards/{board}/picture?{how}", running.base);
                let asked = client.get(picture).send();
                // Begun, and given up: the program goes on drawing, or not.
                let _ = tokio::time::timeout(Duration::from_millis(400), asked).await;
                tokio::spawn(client.get(format!("{}/api/boards/{board}/picture?{how}", running.base)).send());
            }
            tokio::time::sleep(Duration::from_millis(300)).await;
        }
        let asked = std::time::Instant::now();
        running.interrupt();
        assert!(asked.elapsed() < Duration::from_secs(3), "{:?} with pictures: {pictures}", asked.elapsed());
    }
}

/// Copied while it runs and nobody uses it, or after a kill and a new start: the one file holds everything.
#[tokio::test]
async fn the_file_alone_holds_everything_when_nobody_writes() {
    let folder = tempfile::tempdir().unwrap();
    let (file, log) = (folder.path().join("workspace.db"), folder.path().join("workspace.db-wal"));
    let names = |copy: &str| -> Vec<String> {
        let copy = folder.path().join(copy);
        fs::copy(&file, &copy).unwrap();
        let tins = Store::open(&copy).unwrap().all::<warm_blend_learn::ShelfPaint>().unwrap();
        tins.into_iter().map(|kept| kept.value.name.into()).collect()
    };
    let mut running = serve(&file);
    let client = reqwest::Client::new();
    let make = async |base: &str, name: &str| {
        let body = json!({ "name": name, "class": "water" }).to_string();
        let request = client.post(format!("{base}/api/paints")).header("content-type", "application/json");
        assert_eq!(request.body(body).send().await.unwrap().status(), 201);
    };
    make(&running.base, "rain").await;
    assert!(fs::metadata(&log).unwrap().len() > 0, "written to the log first");
    for _ in 0..200 {
        if fs::metadata(&log).unwrap().len() == 0 {
            break;
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    assert_eq!(names("idle.db"), ["rain"]);
    make(&running.base, "dew").await;
    running.child.kill().unwrap();
    running.child.wait().unwrap();
    let again = serve(&file);
    assert_eq!(names("killed.db"), ["rain", "dew"]);
    drop(again);
}

/// What was learnt is written down when nobody asks anything; a killed program, and one whose notes were spoilt, knows the same.
#[tokio::test]
async fn what_was_learnt_outlives_the_program() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let get = async |running: &Running, path: &str| -> Value {
        reqwest::get(format!("{}/api/{path}", running.base)).await.unwrap().json().await.unwrap()
    };
    let client = reqwest::Client::new();
    let post = async |running: &Running, path: &str, body: Value| -> Value {
        let request = client.post(format!("{}/api/{path}", running.base));
        let request = request.header("content-type", "application/json").body(body.to_string());
        request.send().await.unwrap().error_for_status().unwrap().json().await.unwrap()
    };
    let reply = async |running: &Running| [get(running, "paints").await, get(running, "readings").await];
    let mut running = serve(&file);
    let mut tins = Vec::new();
    for (name, hex) in [("salt", "#eceae2"), ("tar", "#2a2b2e")] {
        tins.push(
            post(&running, "paints", json!({"name": name, "class": "chalk", "colour": {"hex": hex}})).await,
        );
    }
    let of = json!([{"paint": tins[0]["id"], "parts": 3}, {"paint": tins[1]["id"], "parts": 1}]);
    post(&running, "readings", json!({"of": of, "thick": {"lab": [62.0, -0.5, 0.0]}})).await;
    let known = reply(&running).await;
    let kept = || Store::open(&file).unwrap().learnt().unwrap();
    for _ in 0..200 {
        if !kept().is_empty() {
            break;
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    running.child.kill().unwrap();
    running.child.wait().unwrap();
    let [component] = kept().try_into().unwrap();
    assert_eq!(reply(&serve(&file)).await, known);
    // It is what was kept that is shown: with another judgement in it, the reading is reported otherwise.
    let spoil = |at: usize, byte: u8| {
        let mut spoilt = component.clone();
        spoilt.body[at] ^= byte;
        let mut store = Store::open(&file).unwrap();
        store.keep_learnt(&[(spoilt.name, spoilt.said)], vec![spoilt]).unwrap();
    };
    spoil(component.body.len() - 2, 0x10);
    assert_ne!(reply(&serve(&file)).await[1], known[1]);
    // What is no such thing any more is learnt again.
    spoil(0, 0xff);
    assert_eq!(reply(&serve(&file)).await, known);
}

/// A connection costs its buffers, not a copy of the routes and their description.
#[tokio::test]
#[cfg(target_os = "linux")]
async fn an_idle_connection_costs_little() {
    const MANY: usize = 300;
    let folder = tempfile::tempdir().unwrap();
    let running = serve(&folder.path().join("workspace.db"));
    let answers = async || reqwest::get(format!("{}/api/paints", running.base)).await.unwrap().status();
    assert_eq!(answers().await, 200);
    let before = running.resident();
    let address = running.base.trim_start_matches("http://").to_owned();
    let mut idle = Vec::new();
    for _ in 0..MANY {
        idle.push(tokio::net::TcpStream::connect(&address).await.unwrap());
    }
    // Answered after all of them were taken in.
    assert_eq!(answers().await, 200);
    let each = 1024 * running.resident().saturating_sub(before) / MANY;
    assert!(each < 100, "{each} kB for each of {MANY} idle connections");
}

/// A thousand clients that say nothing, or half of what they began, stop no answer.
#[tokio::test]
async fn slow_clients_stop_no_answer() {
    use tokio::io::AsyncWriteExt;
    let folder = tempfile::tempdir().unwrap();
    let running = serve(&folder.path().join("workspace.db"));
    let address = running.base.trim_start_matches("http://").to_owned();
    let halves = [
        String::new(),
        format!("GET /api/paints HTTP/1.1\r\nHost: {address}\r\n"),
        format!(
            "POST /api/paints HTTP/1.1\r\nHost: {address}\r\ncontent-type: application/json\r\ncontent-length: 900\r\n\r\n{{"
        ),
    ];
    let mut slow = Vec::new();
    for n in 0..1000 {
        let mut stream = tokio::net::TcpStream::connect(&address).await.unwrap();
        // Some of the first are closed already to make room.
        drop(stream.write_all(halves[n % 3].as_bytes()).await);
        slow.push(stream);
        if n % 100 == 99 {
            let answer = reqwest::get(format!("{}/api/paints", running.base));
            let answer = tokio::time::timeout(Duration::from_secs(5), answer).await.expect("an answer");
            assert_eq!(answer.unwrap().status(), 200, "beside {n} slow clients");
        }
    }
}

#[test]
fn the_interface_can_be_printed() {
    let mut child = program().arg("openapi").stdout(Stdio::piped()).spawn().unwrap();
    let mut text = String::new();
    child.stdout.take().unwrap().read_to_string(&mut text).unwrap();
    assert!(child.wait().unwrap().success());
    assert!(serde_json::from_str::<Value>(&text).unwrap()["paths"]["/api/predict"].is_object());
}

/// A workspace made by the first form of the file opens for good: `tests/data/form-1.sqlite` is never made anew.
#[test]
fn a_file_of_the_first_form_still_opens() {
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("old.db");
    fs::copy(Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/data/form-1.sqlite"), &file).unwrap();
    let store = Store::open(&file).unwrap();
    assert_eq!(store.all::<warm_blend_learn::ShelfPaint>().unwrap().len(), 16);
    assert_eq!(store.all::<warm_blend_paint::SavedMix>().unwrap().len(), 3);
}

/// The demo has a simulated scale beside it, in a process of its own that speaks lines and ends when its input does.
#[tokio::test]
async fn the_demo_comes_with_a_scale() {
    let running = start(&["demo", "--port", "0"]);
    let client = reqwest::Client::new();
    let mut name = Value::Null;
    for _ in 0..200 {
        let scale: Value =
            client.get(format!("{}/api/scale", running.base)).send().await.unwrap().json().await.unwrap();
        name = scale["name"].clone();
        if !name.is_null() {
            break;
        }
        tokio::time::sleep(Duration::from_millis(50)).await;
    }
    assert_eq!(name, "simulated scale");

    let mut scale = program()
        .args(["scale", "--port", "0"])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut said = String::new();
    BufReader::new(scale.stdout.as_mut().unwrap()).read_line(&mut said).unwrap();
    let mut lines =
        BufReader::new(std::net::TcpStream::connect(said.trim().rsplit(' ').next().unwrap()).unwrap())
            .lines();
    assert_eq!(lines.next().unwrap().unwrap(), "scale simulated scale");
    let line = lines.next().unwrap().unwrap();
    assert!(line.parse::<warm_blend_device::ScaleLine>().is_ok(), "{line}");
    drop(scale.stdin.take());
    assert!(scale.wait().unwrap().success());

    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("workspace.db");
    let error = refused(&["serve", "--data", file.to_str().unwrap(), "--scale", "next to the sink"]);
    assert!(error.contains("is not a scale address"), "{error}");
}
