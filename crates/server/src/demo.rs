//! The demo workspace: an upright piano and its stool from the 1920s with a dark red stain, to be painted for a village
//! hall in an aged, layered two-colour scheme. All of it is invented.

mod boards;
mod days;
mod jars;
mod log;
mod piece;
mod plan;
mod practice;
mod shelf;

use std::{
    io,
    path::{Path, PathBuf},
};

use uuid::Uuid;
use warm_blend_documents::Workshop;
use warm_blend_learn::{LoggedReading, PartsMethod, Reading, ShelfPaint, Source};
use warm_blend_paint::{
    Class, CoatsToHide, Currency, FilmState, Masstone, Millilitres, MixPart, Name, PaintId, Parts, Price,
    SavedMix, WholeParts,
};
use warm_blend_plan::QuoteTerms;
use warm_blend_store::{Store, StoreError};

use self::days::days_ago;
use self::shelf::{DemoShelf, tin, unsound};
use crate::device::{LaidOut, ReaderAtHand};

/// A temporary workspace file, deleted with everything beside it when dropped.
#[derive(Debug)]
pub struct File {
    folder: PathBuf,
    path: PathBuf,
}

impl File {
    /// Creates a file in a new temporary folder.
    pub fn make() -> Result<Self, io::Error> {
        let folder = std::env::temp_dir().join(format!("warm-blend-demo-{}", uuid::Uuid::new_v4().simple()));
        std::fs::create_dir_all(&folder)?;
        Ok(Self { path: folder.join("demo.db"), folder })
    }

    /// Path of the file.
    pub fn path(&self) -> &Path {
        &self.path
    }
}

impl Drop for File {
    fn drop(&mut self) {
        // What cannot be deleted is left to the system, like other temporary files.
        drop(std::fs::remove_dir_all(&self.folder));
    }
}

/// Name, class, hex, coats to hide, price of a tin, tin in ml, amount left in ml.
type Tin = (&'static str, Class, Option<&'static str>, Option<f64>, f64, f64, f64);

const SHELF: [Tin; 19] = [
    ("oat white", Class::Chalk, Some("#e9dfc8"), Some(2.0), 26.0, 1000.0, 720.0),
    ("chimney white", Class::Chalk, Some("#f0ede6"), Some(2.0), 26.0, 1000.0, 940.0),
    ("barley", Class::Chalk, Some("#cdb58a"), Some(1.75), 15.5, 500.0, 310.0),
    ("mustard seed", Class::Chalk, Some("#c2953a"), Some(2.5), 15.5, 500.0, 440.0),
    ("brick dust", Class::Chalk, Some("#a8573f"), Some(1.5), 15.5, 500.0, 260.0),
    ("oxblood", Class::Mineral, Some("#5e1f22"), Some(2.0), 9.8, 120.0, 85.0),
    ("fern", Class::Chalk, Some("#7d8a5c"), Some(1.75), 15.5, 500.0, 500.0),
    ("bottle green", Class::Mineral, Some("#27443a"), Some(1.25), 17.0, 500.0, 390.0),
    ("duck egg", Class::Chalk, Some("#aebfb6"), Some(2.0), 15.5, 500.0, 180.0),
    ("slate blue", Class::Chalk, Some("#53687a"), Some(1.5), 15.5, 500.0, 350.0),
    ("night blue", Class::Chalk, Some("#26324a"), Some(1.25), 15.5, 500.0, 420.0),
    ("dove grey", Class::Clay, Some("#b3aea3"), Some(1.75), 15.0, 500.0, 470.0),
    ("peat brown", Class::Chalk, Some("#4a3a2f"), Some(1.25), 15.5, 500.0, 330.0),
    ("blocking primer", Class::Primer, Some("#a9a7a1"), Some(1.5), 13.0, 1000.0, 720.0),
    ("lamp black", Class::AcrylicCraft, Some("#25252a"), Some(1.0), 4.2, 60.0, 48.0),
    ("glazing liquid", Class::GlazingLiquid, None, None, 19.0, 1000.0, 880.0),
    ("clear wax", Class::ClearWax, None, None, 17.5, 500.0, 360.0),
    ("old brass", Class::Metallic, Some("#a98a4e"), Some(2.0), 8.5, 60.0, 52.0),
    ("pearl medium", Class::Pearl, None, None, 12.0, 250.0, 240.0),
];

/// Name, parts of tins by name, target.
type Recipe = (&'static str, &'static [(&'static str, u32)], Option<&'static str>);

const MIXES: [Recipe; 3] = [
    ("drift blue for the case", &[("slate blue", 5), ("barley", 1)], Some("#66737c")),
    ("toasted straw", &[("fern", 2), ("brick dust", 1), ("barley", 2)], None),
    ("detail glaze, three shades darker", &[("peat brown", 1), ("glazing liquid", 4)], None),
];

/// The white for tints.
const HOUSE_WHITE: &str = "chimney white";

/// Samples for the reader, and what the painter recorded them as: parts of a paint, parts of the house white. In one of
/// them the wrong dab was read, which the estimate questions.
const READ: [(&str, &str, f64, f64); 9] = [
    ("slate blue", "slate blue", 1.0, 1.0),
    ("night blue", "night blue", 1.0, 1.0),
    ("night blue", "night blue", 1.0, 4.0),
    ("dove grey", "dove grey", 1.0, 1.0),
    ("fern", "fern", 1.0, 1.0),
    ("peat brown", "peat brown", 1.0, 1.0),
    ("oxblood", "oxblood", 1.0, 1.0),
    ("oxblood", "oxblood", 1.0, 4.0),
    ("fern", "oxblood", 1.0, 1.0),
];

/// Id of the first tin, before any created later. Draws depend on ids, so fixed ones give the same bands in every demo.
const FIRST: u128 = 0x0190_0000_0000_7000_8000_0000_0000_0001;

/// Fills an empty workspace with the demo.
pub(crate) fn fill(store: &mut Store) -> Result<(), StoreError> {
    let named = |text: &str| Name::new(text).map_err(|_| unsound(text));
    let code = |text: &str| text.parse().map(Masstone::Hex).map_err(|_| unsound(text));

    let mut shelf = DemoShelf::default();
    for (n, (name, class, hex, coats, price, tin, left)) in SHELF.into_iter().enumerate() {
        let ml = |ml| Millilitres::new(ml).map_err(|_| unsound(name));
        let paint = ShelfPaint {
            coats_to_hide: coats.map(CoatsToHide::new).transpose().map_err(|_| unsound(name))?,
            price: Some(Price::new(price, ml(tin)?).map_err(|_| unsound(name))?),
            stock: Some(ml(left)?),
            ..ShelfPaint::new(named(name)?, class, hex.map(code).transpose()?)
        };
        shelf.push((
            name,
            store.furnish_as(Uuid::from_u128(FIRST + n as u128), days_ago(41, (9, n as i8)), paint)?,
        ));
    }
    readings(store, &shelf)?;
    let mut mixes = Vec::new();
    for (n, (name, recipe, target)) in (0i64..).zip(MIXES) {
        let component = |(paint, parts): &(&str, u32)| {
            let parts = WholeParts::new(*parts).map_err(|_| unsound(paint))?;
            Ok(MixPart { paint: PaintId(tin(&shelf, paint)?.id), parts })
        };
        let components = recipe.iter().map(component).collect::<Result<_, StoreError>>()?;
        let target = target.map(code).transpose()?;
        let mix = SavedMix::new(Some(named(name)?), components, target).map_err(|_| unsound(name))?;
        mixes.push(store.furnish_on(days_ago(34 - 3 * n, (10 + n as i8, 20)), mix)?);
    }
    jars::jars(store, &mixes)?;
    let boards = boards::boards(store, &shelf)?;
    let pieces = piece::pieces(store, &shelf, &boards)?;
    plan::plans(store, pieces, boards[0])?;
    practice::answers(store)?;
    log::notes(store, pieces)
}

/// The house white, and readings of tints with it by the simulated reader.
fn readings(store: &mut Store, shelf: &DemoShelf) -> Result<(), StoreError> {
    let white = tin(shelf, HOUSE_WHITE)?;
    let currency = Currency::new("EUR").ok();
    let terms = QuoteTerms {
        deposit: Some(0.3),
        delivery: Some(45.0),
        rounding: Some(10.0),
        ..QuoteTerms::default()
    };
    let house_white = Some(PaintId(white.id));
    store.furnish(Workshop { house_white, currency, terms, ..Workshop::default() })?;
    let reader = ReaderAtHand::of_demo();
    for (n, (laid_out, written_down, own, more)) in (0i64..).zip(READ) {
        let parts = |n| Parts::new(n).map_err(|_| unsound(laid_out));
        let (own, more) = (parts(own)?, parts(more)?);
        let of = vec![(tin(shelf, laid_out)?.value.clone(), own), (white.value.clone(), more)];
        let sample = LaidOut { of, state: FilmState::Dry, wet: None };
        let shown = reader.read(&sample, false, false).map_err(|_| unsound(laid_out))?;
        let of = vec![(PaintId(tin(shelf, written_down)?.id), own), (PaintId(white.id), more)];
        let reading = Reading {
            of,
            pour: PartsMethod::Spoons,
            state: FilmState::Dry,
            shown,
            source: Source::Reader,
            sure: false,
        };
        let device = Name::new(&reader.name()).ok();
        let read = LoggedReading { reading, note: None, device, pot: None };
        store.furnish_on(days_ago(39 - n / 3, (14, 5 + 6 * n as i8)), read)?;
    }
    Ok(())
}
