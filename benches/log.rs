//! `cargo bench --bench log`: a workshop of many years, and how fast its log answers.

use std::hint::black_box;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use jiff::{SignedDuration, Timestamp};
use rand::{Rng, SeedableRng};
use rand_chacha::ChaCha8Rng;
use warm_blend_documents::{LogNote, Workshop};
use warm_blend_learn::{LoggedReading, Measured, PartsMethod, Reading, ShelfPaint, Shown, Source};
use warm_blend_paint::{
    Class, FilmState, Masstone, Material, MixPart, Name, Note, PaintId, Parts, SavedMix, WholeParts, mix,
};
use warm_blend_piece::Piece;
use warm_blend_spectral::{Lab, Light, Srgb};
use warm_blend_store::{Store, StoreError};
use warm_blend_workshop::{LogAsked, ShelfDocuments, ShelfSnapshot};

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

/// Years of a workshop, and the tins and readings of each: a year's tins are read beside each other, not beside those of others.
const YEARS: usize = 10;
const TINS: usize = 60;
const READINGS: usize = 2000;

/// 500 pieces, 5 000 mixes, 20 000 readings of 600 tins and 24 400 notes: 50 500 lines.
fn fill(store: &mut Store) -> Result<(), StoreError> {
    let start: Timestamp = "2016-01-04T09:00:00Z".parse().expect("a time");
    let name = |text: String| Name::new(&text).expect("a name");
    let mut chance = ChaCha8Rng::seed_from_u64(11);
    store.together(|batch| {
        let mut tins = Vec::new();
        for n in 0..YEARS * TINS {
            let of_year = n % TINS;
            let code = [40 + 3 * of_year, 210 - 2 * of_year, 60 + (n * 37) % 150].map(|v| v as u8);
            let code =
                if of_year == 0 { Srgb::new(238, 235, 226) } else { Srgb::new(code[0], code[1], code[2]) };
            let tin = ShelfPaint::new(name(format!("paint {n}")), Class::Chalk, Some(Masstone::Hex(code)));
            let truth = Material::of(tin.class, tin.masstone, None).expect("a paint");
            tins.push((batch.make(tin)?.id, truth.stronger(chance.random_range(-0.4..0.4))));
        }
        for n in 0..YEARS * READINGS {
            let year = n / READINGS;
            let mut part = || {
                let tin = year * TINS + chance.random_range(0..TINS);
                (tin, Parts::new(f64::from(chance.random_range(1..=6u8))).expect("parts"))
            };
            let (one, mut other) = (part(), part());
            while other.0 == one.0 {
                other = part();
            }
            let of = [one, other];
            let stirred = mix(&of.map(|(tin, parts)| (parts, &tins[tin].1))).expect("a mix");
            let seen = stirred.seen_lab(Light::Daylight);
            let mut off = || chance.random_range(-0.4..0.4);
            let read = Lab { l: seen.l + off(), a: seen.a + off(), b: seen.b + off() };
            let reading = Reading {
                of: of.map(|(tin, parts)| (PaintId(tins[tin].0), parts)).to_vec(),
                pour: PartsMethod::Spoons,
                state: FilmState::Dry,
                shown: Shown::Thick(Measured::Colour(read)),
                source: Source::Reader,
                sure: false,
            };
            batch.make(LoggedReading { reading, note: None, device: None, pot: None })?;
        }
        let mut pieces = Vec::new();
        for n in 0..500 {
            pieces.push(batch.make(Piece::named(name(format!("chest {n}"))))?.id);
        }
        for n in 0..5000usize {
            let part = |at: usize, parts: u32| MixPart {
                paint: PaintId(tins[at % tins.len()].0),
                parts: WholeParts::new(parts).expect("parts"),
            };
            let parts = vec![part(n, 1 + (n % 7) as u32), part(n + 1 + n % 50, 1)];
            batch.make(SavedMix::new(Some(name(format!("mix {n}"))), parts, None).expect("a mix"))?;
        }
        for n in 0..24_400usize {
            let words: Vec<&str> = (0..9).map(|k| WORDS[(n * 7 + k * (1 + n % 5)) % WORDS.len()]).collect();
            let words = Note::new(&format!("{} {n}", words.join(" "))).expect("a note");
            let at = start + SignedDuration::from_mins(160 * n as i64);
            batch.make(LogNote { at, words, piece: Some(pieces[n % 500]), photo: None, agreed: None })?;
        }
        Ok(())
    })
}

/// What is known of the shelf: from nothing, after a reading more, and when the file is opened again.
fn learn(store: &mut Store) -> Result<(), StoreError> {
    let read = |store: &Store| -> Result<ShelfDocuments, StoreError> {
        let workshop = store.all()?.into_iter().next().expect("the choices of the workshop");
        let (tins, readings) = (store.all_ever()?, store.all()?);
        Ok(ShelfDocuments { tins, readings, boards: Vec::new(), workshop, learnt: store.learnt()? })
    };
    let shelf = |documents, before| ShelfSnapshot::of(documents, before).expect("sound tins");
    let began = Instant::now();
    let documents = read(store)?;
    println!("tins and readings read in {:.1?}", began.elapsed());
    let mut less = documents.clone();
    less.readings.pop();
    let began = Instant::now();
    let put_off = shelf(less, None);
    println!("known by its labels in {:.1?}", began.elapsed());
    let began = Instant::now();
    let known = put_off.learnt_in_full(None).expect("sound tins");
    println!("learnt from nothing in {:.1?}", began.elapsed());
    let began = Instant::now();
    let known = shelf(documents, Some(&known));
    println!("a reading more in {:.1?}", began.elapsed());
    let began = Instant::now();
    let learnt = known.estimate().learnt();
    let all = learnt.worth_keeping();
    let bytes = all.iter().filter_map(|(name, _)| learnt.kept(*name)).collect();
    let told = began.elapsed();
    let began = Instant::now();
    store.keep_learnt(&all, bytes)?;
    println!("what was learnt told in {told:.1?}, written down in {:.1?}", began.elapsed());
    let began = Instant::now();
    let documents = read(store)?;
    let by_then = began.elapsed();
    black_box(shelf(documents, None));
    println!("known again in {:.1?}, of which read in {by_then:.1?}", began.elapsed());
    Ok(())
}

/// The most memory that this program ever held.
fn most_memory() -> String {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find(|line| line.starts_with("VmHWM"));
    line.map_or("unknown".to_owned(), |line| line.trim_start_matches("VmHWM:").trim().to_owned())
}

/// With `WARM_BLEND_YEARS=FILE` the file stays, for a look at it.
fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let file =
        std::env::var_os("WARM_BLEND_YEARS").map_or(folder.path().join("many-years.db"), PathBuf::from);
    let began = Instant::now();
    let mut store = Store::open(&file).expect("a file");
    fill(&mut store).expect("filled");
    store.furnish(Workshop::default()).expect("the choices of the workshop");
    println!("written in {:.1?}", began.elapsed());
    drop(store);
    let began = Instant::now();
    let mut store = Store::open(&file).expect("a file");
    println!(
        "opened in {:.1?}, {} MB",
        began.elapsed(),
        std::fs::metadata(&file).expect("a file").len() >> 20
    );
    learn(&mut store).expect("a shelf");
    println!("at most {}", most_memory());
    let some = store.all::<ShelfPaint>().expect("tins")[7].id;
    let piece = store.all::<Piece>().expect("pieces")[40].id;
    let search = |text: &str| LogAsked { search: Some(text.to_owned()), ..LogAsked::default() };
    for (what, asked) in [
        ("first page", LogAsked::default()),
        ("a rare word", search("21717")),
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
