//! `cargo bench --bench log`: a workshop of many years, and how fast its log answers.

use std::hint::black_box;
use std::time::{Duration, Instant};

use jiff::{SignedDuration, Timestamp};
use warm_blend_learn::ShelfPaint;
use warm_blend_paint::{Class, Component, Masstone, Name, Note, PaintId, SavedMix, WholeParts};
use warm_blend_piece::Piece;
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{LogAsked, LogNote};

const WORDS: [&str; 16] = [
    "slate",
    "barley",
    "panel",
    "wax",
    "fretwork",
    "dried",
    "darker",
    "lamp",
    "second",
    "coat",
    "mouldings",
    "client",
    "agreed",
    "sanded",
    "edge",
    "glaze",
];

/// 500 pieces, 5 000 mixes of 60 tins and 44 500 notes: 50 060 lines.
fn fill(store: &mut Store) -> Result<(), StoreError> {
    let start: Timestamp = "2016-01-04T09:00:00Z".parse().expect("a time");
    let name = |text: String| Name::new(&text).expect("a name");
    store.together(|batch| {
        let mut tins = Vec::new();
        for n in 0..60 {
            let hex = Masstone::Hex(
                format!("#{:02x}{:02x}{:02x}", 40 + 3 * n, 200 - 2 * n, 90 + n).parse().expect("a code"),
            );
            tins.push(batch.make(ShelfPaint::new(name(format!("paint {n}")), Class::Chalk, Some(hex)))?.id);
        }
        let mut pieces = Vec::new();
        for n in 0..500 {
            pieces.push(batch.make(Piece::named(name(format!("chest {n}"))))?.id);
        }
        for n in 0..5000usize {
            let part = |at: usize, parts: u32| Component {
                paint: PaintId(tins[at % 60]),
                parts: WholeParts::new(parts).expect("parts"),
            };
            let parts = vec![part(n, 1 + (n % 7) as u32), part(n + 1 + n % 50, 1)];
            batch.make(SavedMix::new(Some(name(format!("mix {n}"))), parts, None).expect("a mix"))?;
        }
        for n in 0..44_500usize {
            let words: Vec<&str> = (0..9).map(|k| WORDS[(n * 7 + k * (1 + n % 5)) % WORDS.len()]).collect();
            let words = Note::new(&format!("{} {n}", words.join(" "))).expect("a note");
            let at = start + SignedDuration::from_mins(90 * n as i64);
            batch.make(LogNote { at, words, piece: Some(pieces[n % 500]), photo: None, agreed: None })?;
        }
        Ok(())
    })
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let file = folder.path().join("many-years.db");
    let began = Instant::now();
    let mut store = Store::open(&file).expect("a file");
    fill(&mut store).expect("filled");
    println!("written in {:.1?}", began.elapsed());
    drop(store);
    let began = Instant::now();
    let store = Store::open(&file).expect("a file");
    println!(
        "opened in {:.1?}, {} MB",
        began.elapsed(),
        std::fs::metadata(&file).expect("a file").len() >> 20
    );
    let some = store.all::<ShelfPaint>().expect("tins")[7].id;
    let piece = store.all::<Piece>().expect("pieces")[40].id;
    let search = |text: &str| LogAsked { search: Some(text.to_owned()), ..LogAsked::default() };
    for (what, asked) in [
        ("first page", LogAsked::default()),
        ("a rare word", search("31717")),
        ("a word in most lines", search("slate")),
        ("three words", search("fretworks lamp client")),
        ("the beginning of a word", search("fr")),
        ("a paint", LogAsked { paint: Some(some), ..LogAsked::default() }),
        ("a piece and a word", LogAsked { piece: Some(piece), ..search("wax") }),
        ("a kind", LogAsked { kinds: Some("mix".to_owned()), ..LogAsked::default() }),
    ] {
        let query = asked.read(&jiff::tz::TimeZone::UTC).expect("a question");
        let mut times: Vec<Duration> = Vec::new();
        let mut found = 0;
        for _ in 0..30 {
            let began = Instant::now();
            found = black_box(store.log(&query).expect("a page")).0.len();
            times.push(began.elapsed());
        }
        times.sort();
        println!("{what}: {found} lines, median {:.1?}, slowest {:.1?}", times[15], times[29]);
    }
}
