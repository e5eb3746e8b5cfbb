//! One painter at work, and everything that can happen to the program and its file meanwhile. What was acknowledged is there
//! afterwards, what was under way is there whole or not at all, and undo walks back over it as if nothing had been.
//!
//! Twenty rounds unless the environment says otherwise: `make torture` tries two hundred.

use std::{
    fs,
    io::Cursor,
    path::{Path, PathBuf},
    process::Command,
    sync::LazyLock,
    time::Duration,
};

use jiff::Timestamp;
use rand::Rng;
use rand_chacha::{ChaCha8Rng, rand_core::SeedableRng};
use reqwest::{Client, StatusCode};
use serde_json::{Value, json, value::RawValue};
use tokio::task::JoinSet;
use uuid::Uuid;
use warm_blend_archive::write;
use warm_blend_documents::{Archived, ArchivedPhoto, ByKind, LogNote};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::PourRecord;
use warm_blend_plan::RunSheet;
use warm_blend_store::{Notice, Store};

use crate::{Running, disk::Disk, serve};

/// What a painter sees: the names on the shelf, how often something went into the pot, what was noted and whether with a photo, and how
/// warm the run sheet takes the workshop to be, in tenths of a degree.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Seen {
    shelf: Vec<String>,
    poured: usize,
    notes: Vec<(String, bool)>,
    air: i64,
}

impl Seen {
    fn of(file: &Path) -> (Self, Vec<Notice>) {
        let store = Store::open(file).unwrap();
        let tins = store.all::<ShelfPaint>().unwrap().into_iter();
        let mut shelf: Vec<String> = tins.map(|tin| tin.value.name.into()).collect();
        shelf.sort();
        let poured = store.all::<PourRecord>().unwrap().iter().map(|pot| pot.value.steps().len()).sum();
        let note = |note: LogNote| {
            let photo = note.photo.map(|id| store.photo(id).unwrap().expect("the photo of a note is there"));
            (note.words.map(String::from).unwrap_or_default(), photo.is_some())
        };
        let mut notes: Vec<_> =
            store.all::<LogNote>().unwrap().into_iter().map(|kept| note(kept.value)).collect();
        notes.sort();
        let sheets = store.all::<RunSheet>().unwrap();
        let air = sheets.first().map_or(USUAL, |sheet| (10.0 * sheet.value.air.celsius).round() as i64);
        (Self { shelf, poured, notes, air }, store.notices())
    }
}

/// What a painter does.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Act {
    Tin,
    Import,
    Pour,
    Note,
    /// A note with a photo.
    Photo,
    /// A change of the run sheet.
    Air,
    /// A tin and a note with a photo, from an archive.
    Archive,
    Backup,
    /// Back to the last backup.
    GoBack,
    Undo,
    Redo,
}

const ACTS: [Act; 11] = [
    Act::Tin,
    Act::Import,
    Act::Pour,
    Act::Note,
    Act::Photo,
    Act::Air,
    Act::Archive,
    Act::Backup,
    Act::GoBack,
    Act::Undo,
    Act::Redo,
];

/// Of a run sheet of which nothing was changed yet, in tenths of a degree.
const USUAL: i64 = 200;

/// What happens to the program.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Blow {
    /// `kill -9`.
    Killed,
    /// The terminal is closed.
    HungUp,
    /// The file is taken away.
    Removed,
    /// Another file is put in its place.
    Replaced,
    /// The disk is full.
    Full,
}

/// A painter, and what must be seen after each of the acts that were acknowledged, oldest first.
struct Painter {
    rng: ChaCha8Rng,
    client: Client,
    pot: (String, String),
    piece: String,
    seen: Vec<Seen>,
    at: usize,
    made: usize,
    /// The last backup: its name, and what was seen when it was made.
    backup: Option<(String, Vec<Seen>, usize)>,
}

/// How an act ended.
#[derive(Debug)]
enum Ended {
    Acknowledged,
    /// It changed nothing that is seen.
    Nothing,
    Refused(StatusCode, String),
    /// Nobody knows: the program was gone.
    Lost,
}

/// What was answered, or how it ended otherwise.
async fn answered(answer: reqwest::Result<reqwest::Response>) -> Result<Value, Ended> {
    let Ok(answer) = answer else { return Err(Ended::Lost) };
    let status = answer.status();
    match answer.text().await {
        Ok(text) if status.is_success() => Ok(serde_json::from_str(&text).unwrap_or(Value::Null)),
        Ok(text) => Err(Ended::Refused(status, text)),
        Err(_) => Err(Ended::Lost),
    }
}

/// A grey photo of a few pixels.
static PHOTO: LazyLock<Vec<u8>> = LazyLock::new(|| {
    let mut png = std::io::Cursor::new(Vec::new());
    image::RgbImage::from_pixel(40, 30, image::Rgb([120; 3]))
        .write_to(&mut png, image::ImageFormat::Png)
        .unwrap();
    png.into_inner()
});

/// An archive with a tin and a note with a photo.
fn sent(n: usize) -> Vec<u8> {
    let (at, photo) = (Timestamp::now(), Uuid::now_v7());
    let one = |value: Value| {
        let value = RawValue::from_string(value.to_string()).unwrap();
        vec![Archived {
            id: Uuid::now_v7(),
            deleted: false,
            made_at: at,
            changed_at: at,
            made_by: None,
            value,
        }]
    };
    let documents = ByKind::from([
        ("paint", one(json!({"name": format!("sent {n}"), "class": "water", "source": "guess"}))),
        ("note", one(json!({"at": at, "words": format!("sent {n}"), "photo": photo}))),
    ]);
    let photos = [ArchivedPhoto { id: photo, made_at: at }];
    let jpeg = |_| Ok(vec![0xFF, 0xD8, 0xFF, 0xE0]);
    write(Cursor::new(Vec::new()), at, &documents, &photos, jpeg, &[]).unwrap().into_inner()
}

impl Painter {
    async fn begin(running: &Running, seed: u64) -> Self {
        let client = Client::new();
        let make = async |path: &str, body: Value| -> Value {
            let request = client.post(format!("{}{path}", running.base));
            let answer = request.header("content-type", "application/json").body(body.to_string());
            let answer = answer.send().await.unwrap();
            assert!(answer.status().is_success());
            serde_json::from_str(&answer.text().await.unwrap()).unwrap()
        };
        let id = |made: &Value| made["id"].as_str().unwrap().to_owned();
        let water = id(&make("/api/paints", json!({"name": "water", "class": "water"})).await);
        let red = json!({"name": "gate red", "class": "chalk", "colour": {"hex": "#7a2e22"}});
        let red = id(&make("/api/paints", red).await);
        let parts = json!([{"paint": red, "parts": 3}, {"paint": water, "parts": 1}]);
        let mix = id(&make("/api/mixes", json!({"components": parts})).await);
        let pot = id(&make("/api/pours", json!({"mix": mix, "batch_ml": 200})).await);
        let get = async |path: &str| -> Value {
            client.get(format!("{}{path}", running.base)).send().await.unwrap().json().await.unwrap()
        };
        let (piece, choices) = (get("/api/piece").await, get("/api/piece/choices").await);
        let mut formed = piece["entry"].clone();
        formed["form"] = choices["kinds"][0]["usual"].clone();
        let path = format!("/api/pieces/{}?revision={}", piece["id"].as_str().unwrap(), piece["revision"]);
        let formed = client.put(format!("{}{path}", running.base)).json(&formed).send().await.unwrap();
        assert!(formed.status().is_success());
        let shelf = vec!["gate red".into(), "water".into()];
        let seen = Seen { shelf, poured: 0, notes: Vec::new(), air: USUAL };
        Self {
            rng: ChaCha8Rng::seed_from_u64(seed),
            client,
            pot: (pot, red),
            piece: id(&piece),
            seen: vec![seen],
            at: 0,
            made: 0,
            backup: None,
        }
    }

    fn choose(&mut self) -> Act {
        loop {
            let act = ACTS[self.rng.random_range(0..ACTS.len())];
            let possible = match act {
                Act::Undo => self.at > 0,
                Act::Redo => self.at + 1 < self.seen.len(),
                Act::GoBack => self.backup.is_some(),
                _ => true,
            };
            if possible {
                return act;
            }
        }
    }

    /// What will be seen after an act, and where that stands in the line.
    fn after(&self, act: Act) -> (Seen, usize) {
        let mut next = self.seen[self.at].clone();
        let named = |what: &str| format!("{what} {}", self.made);
        match act {
            Act::Tin => next.shelf.push(named("tin")),
            Act::Import => next.shelf.extend([named("card one"), named("card two")]),
            Act::Pour => next.poured += 1,
            Act::Note | Act::Photo => {
                next.notes.push((named("note"), act == Act::Photo));
                next.notes.sort();
            }
            Act::Air => next.air = self.air(),
            Act::Archive => {
                next.shelf.push(named("sent"));
                next.notes.push((named("sent"), true));
                next.notes.sort();
            }
            Act::Backup => return (next, self.at),
            Act::GoBack => {
                let (_, seen, at) = self.backup.as_ref().unwrap();
                return (seen[*at].clone(), *at);
            }
            Act::Undo => return (self.seen[self.at - 1].clone(), self.at - 1),
            Act::Redo => return (self.seen[self.at + 1].clone(), self.at + 1),
        }
        next.shelf.sort();
        (next, self.at + 1)
    }

    /// How warm it is made, in tenths of a degree: another with every act.
    fn air(&self) -> i64 {
        150 + (self.made % 100) as i64
    }

    /// The act is what happened.
    fn happened(&mut self, act: Act) {
        let (seen, at) = self.after(act);
        if let (Act::GoBack, Some((_, then, _))) = (act, &self.backup) {
            self.seen.clone_from(then);
        } else if !matches!(act, Act::Undo | Act::Redo | Act::Backup) {
            self.seen.truncate(at);
            self.seen.push(seen);
        }
        self.at = at;
    }

    async fn act(&mut self, base: &str, act: Act) -> Ended {
        self.made += 1;
        let n = self.made;
        let post = |path: String, kind: &str, body: Vec<u8>| {
            self.client.post(format!("{base}{path}")).header("content-type", kind).body(body).send()
        };
        const JSON: &str = "application/json";
        let answer = match act {
            Act::Tin => {
                let tin = json!({"name": format!("tin {n}"), "class": "water"});
                post("/api/paints".into(), JSON, tin.to_string().into()).await
            }
            Act::Import => {
                let card = format!("name,hex\ncard one {n},#b08d57\ncard two {n},#55606b\n");
                post("/api/import".into(), "application/octet-stream", card.into()).await
            }
            Act::Pour => {
                let (pot, paint) = &self.pot;
                let id = Uuid::now_v7().to_string();
                let step = json!({"id": id, "paint": paint, "measure": "ml", "count": 5});
                post(format!("/api/pours/{pot}/steps"), JSON, step.to_string().into()).await
            }
            Act::Note | Act::Photo => {
                let photo = if act == Act::Photo {
                    let kept =
                        post("/api/photos/kept".into(), "application/octet-stream", PHOTO.clone()).await;
                    match answered(kept).await {
                        Ok(kept) => kept["id"].clone(),
                        Err(ended) => return ended,
                    }
                } else {
                    Value::Null
                };
                let note = json!({"words": format!("note {n}"), "photo": photo});
                post("/api/notes".into(), JSON, note.to_string().into()).await
            }
            Act::Air => {
                let path = format!("{base}/api/pieces/{}/run-sheet", self.piece);
                let sheet = match answered(self.client.get(&path).send().await).await {
                    Ok(sheet) => sheet,
                    Err(ended) => return ended,
                };
                let mut entry = sheet["entry"].clone();
                entry["celsius"] = json!(self.air() as f64 / 10.0);
                let put = self.client.put(format!("{path}?revision={}", sheet["revision"]));
                put.header("content-type", JSON).body(entry.to_string()).send().await
            }
            Act::Archive => post("/api/archive".into(), "application/octet-stream", sent(n)).await,
            Act::Backup => {
                let made = answered(post("/api/backups".into(), JSON, Vec::new()).await).await;
                // One that nobody knows of may have taken the name of the last.
                self.backup = None;
                return match made {
                    Ok(backups) => {
                        let name = backups["backups"][0]["name"].as_str().unwrap().to_owned();
                        self.backup = Some((name, self.seen.clone(), self.at));
                        Ended::Nothing
                    }
                    // Where it cannot be made, work goes on.
                    Err(Ended::Refused(..)) => Ended::Nothing,
                    Err(ended) => ended,
                };
            }
            Act::GoBack => {
                let (name, ..) = self.backup.as_ref().unwrap();
                post(format!("/api/backups/{name}/restore"), JSON, Vec::new()).await
            }
            Act::Undo | Act::Redo => {
                let which = if act == Act::Undo { "undo" } else { "redo" };
                let Ok(history) = self.client.get(format!("{base}/api/history")).send().await else {
                    return Ended::Lost;
                };
                let Ok(history) = history.json::<Value>().await else { return Ended::Lost };
                let meant = json!({"change": history[which]["change"]});
                post(format!("/api/{which}"), JSON, meant.to_string().into()).await
            }
        };
        answered(answer).await.map_or_else(|ended| ended, |_| Ended::Acknowledged)
    }

    /// Has pictures of the piece drawn, one after the other, for as long as the program is there and what is given back is kept.
    fn looks(&self, base: &str) -> JoinSet<()> {
        let (client, base) = (self.client.clone(), base.to_owned());
        let mut looks = JoinSet::new();
        looks.spawn(async move {
            let piece = answered(client.get(format!("{base}/api/piece")).send().await).await;
            let entry = piece.map_or(Value::Null, |piece| piece["entry"].clone());
            for n in 0.. {
                let how = if n % 3 == 0 { "width=480&height=360&fine=true" } else { "width=640&height=480" };
                let asked = client.post(format!("{base}/api/piece/picture?{how}")).json(&entry).send().await;
                if asked.is_err() {
                    break;
                }
            }
        });
        looks
    }

    /// Works until the program is gone or refuses, at most so many acts; says what was under way, and how it ended.
    async fn work(&mut self, base: &str, most: usize) -> Option<(Act, Ended)> {
        let _looks = self.looks(base);
        for _ in 0..most {
            let act = self.choose();
            match self.act(base, act).await {
                Ended::Acknowledged => self.happened(act),
                Ended::Nothing => {}
                ended => return Some((act, ended)),
            }
        }
        None
    }

    /// What is on the disk is what was acknowledged, or that and what was under way.
    fn look(&mut self, file: &Path, under_way: Option<Act>, what: &str) {
        let (found, notices) = Seen::of(file);
        assert_eq!(notices, [], "{what}");
        if found == self.seen[self.at] {
            return;
        }
        let act = under_way.unwrap_or_else(|| {
            panic!("{what}: {found:?} is there, {:?} was acknowledged", self.seen[self.at])
        });
        assert_eq!(found, self.after(act).0, "{what}, in the middle of {act:?}: {:?}", self.seen[self.at]);
        self.happened(act);
    }
}

async fn killed_after(mut running: Running, wait: Duration, painter: &mut Painter) -> Option<Act> {
    let base = running.base.clone();
    let (ended, ()) = tokio::join!(painter.work(&base, usize::MAX), async {
        tokio::time::sleep(wait).await;
        running.child.kill().unwrap();
        running.child.wait().unwrap();
    });
    match ended {
        Some((act, Ended::Lost)) => Some(act),
        other => panic!("{other:?}"),
    }
}

#[tokio::test]
#[cfg(unix)]
async fn nothing_acknowledged_is_lost_whatever_happens() {
    let rounds = std::env::var("TORTURE_ROUNDS").map_or(20, |rounds| rounds.parse().unwrap());
    let folder = tempfile::tempdir().unwrap();
    let disk = Disk::new(folder.path(), "48m");
    let blows = [
        Blow::Killed,
        Blow::Removed,
        Blow::Killed,
        Blow::HungUp,
        Blow::Killed,
        Blow::Full,
        Blow::Killed,
        Blow::Replaced,
    ];
    let mut begun: Option<(PathBuf, Painter)> = None;
    for round in 0..rounds {
        // A new workspace now and then: a shelf of hundreds takes its time to be known.
        if round % 40 == 0 {
            let file = disk.at.join(format!("workspace-{round}.db"));
            let running = serve(&file);
            begun = Some((file, Painter::begin(&running, round).await));
        }
        let (file, painter) = begun.as_mut().unwrap();
        let blow = match blows[round as usize % blows.len()] {
            Blow::Full if !disk.small => Blow::Killed,
            blow => blow,
        };
        let what = format!("round {round}, {blow:?}");
        // Whatever was set aside is not wanted any more.
        for entry in fs::read_dir(&disk.at).unwrap().flatten() {
            if entry.file_name().to_string_lossy().contains(".before-") {
                fs::remove_file(entry.path()).unwrap();
            }
        }
        let mut running = serve(file);
        let base = running.base.clone();
        match blow {
            Blow::Killed => {
                let wait = Duration::from_millis(painter.rng.random_range(0..250));
                let under_way = killed_after(running, wait, painter).await;
                painter.look(file, under_way, &what);
            }
            Blow::HungUp => {
                assert!(painter.work(&base, 6).await.is_none(), "{what}");
                let pid = running.child.id().to_string();
                assert!(Command::new("kill").args(["-HUP", &pid]).status().unwrap().success());
                assert!(running.child.wait().unwrap().success(), "{what}");
                // The file alone.
                let copy = folder.path().join("copy.db");
                fs::copy(&*file, &copy).unwrap();
                painter.look(&copy, None, &what);
            }
            Blow::Removed | Blow::Replaced => {
                assert!(painter.work(&base, 4).await.is_none(), "{what}");
                let aside = disk.at.join("aside.db");
                fs::rename(&*file, &aside).unwrap();
                if blow == Blow::Replaced {
                    fs::write(&*file, "another file").unwrap();
                }
                let Some((_, Ended::Refused(status, text))) = painter.work(&base, 3).await else {
                    panic!("{what}: something was acknowledged that is gone");
                };
                assert_eq!(status, StatusCode::INTERNAL_SERVER_ERROR, "{what}: {text}");
                drop(running);
                let rescued = file.with_extension("rescued.db");
                assert!(text.contains(rescued.to_str().unwrap()), "{what}: {text}");
                for left in ["", "-wal", "-shm"] {
                    drop(fs::remove_file(format!("{}{left}", file.display())));
                }
                fs::rename(rescued, &*file).unwrap();
                fs::remove_file(aside).unwrap();
                painter.look(file, None, &what);
            }
            Blow::Full => {
                disk.fill();
                let refused = painter.work(&base, 400).await;
                let Some((_, Ended::Refused(status, text))) = refused else {
                    panic!("{what}: {refused:?}");
                };
                assert_eq!(status, StatusCode::INSUFFICIENT_STORAGE, "{what}: {text}");
                disk.empty();
                assert!(painter.work(&base, 3).await.is_none(), "{what}: goes on once there is room");
                let under_way = killed_after(running, Duration::ZERO, painter).await;
                painter.look(file, under_way, &what);
            }
        }
    }
}
