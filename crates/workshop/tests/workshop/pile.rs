//! Documents in memory, and a small shelf of them.

use std::collections::BTreeMap;

use jiff::Timestamp;
use serde_json::Value;
use uuid::Uuid;
use warm_blend_documents::{Document, Documents, Kept, Revision, Workshop, uses_of};
use warm_blend_learn::{LoggedReading, Measured, PartsMethod, Reading, ShelfPaint, Shown, Source};
use warm_blend_paint::{
    Class, CoatsToHide, FilmState, Masstone, Millilitres, MixPart, Name, PaintId, Parts, Price, SavedMix,
    WholeParts,
};
use warm_blend_spectral::{Lab, Light};
use warm_blend_workshop::{Fault, Refusal, ShelfDocuments, ShelfSnapshot};

/// What a file would hold.
#[derive(Clone, Default)]
pub struct Pile(BTreeMap<Uuid, Row>);

#[derive(Clone, PartialEq, Debug)]
struct Row {
    kind: &'static str,
    revision: Revision,
    removed: bool,
    body: Value,
}

/// Why a pile does not change.
#[derive(Debug, PartialEq)]
pub enum NotInPile {
    Unknown(Uuid),
    Stale,
    Refused(Refusal),
}

impl From<Refusal> for NotInPile {
    fn from(refusal: Refusal) -> Self {
        Self::Refused(refusal)
    }
}

fn kept<T: Document>(id: Uuid, row: &Row) -> Kept<T> {
    Kept {
        id,
        revision: row.revision,
        removed: row.removed,
        made_at: Timestamp::UNIX_EPOCH,
        changed_at: Timestamp::UNIX_EPOCH,
        value: serde_json::from_value(row.body.clone()).unwrap(),
    }
}

impl Pile {
    /// All of a kind, in the order they were made; removed ones too.
    pub fn all_ever<T: Document>(&self) -> Vec<Kept<T>> {
        self.0.iter().filter(|(_, row)| row.kind == T::KIND).map(|(id, row)| kept(*id, row)).collect()
    }

    /// Those that are there.
    pub fn all<T: Document>(&self) -> Vec<Kept<T>> {
        self.all_ever().into_iter().filter(|kept| !kept.removed).collect()
    }

    /// What is there and speaks of a document.
    pub fn speaking_of(&self, id: Uuid) -> Vec<&'static str> {
        let speaks =
            |row: &&Row| uses_of(row.kind, &row.body.to_string()).unwrap().iter().any(|used| used.id == id);
        self.0.values().filter(|row| !row.removed).filter(speaks).map(|row| row.kind).collect()
    }

    /// The shelf of it.
    pub fn shelf(&self) -> ShelfSnapshot {
        self.shelf_after(None)
    }

    pub fn shelf_after(&self, before: Option<&ShelfSnapshot>) -> ShelfSnapshot {
        let documents = ShelfDocuments {
            tins: self.all_ever(),
            readings: self.all(),
            boards: self.all(),
            workshop: self.workshop(),
            learnt: Vec::new(),
        };
        ShelfSnapshot::of(documents, before).unwrap()
    }

    pub fn workshop(&self) -> Kept<Workshop> {
        self.all::<Workshop>().remove(0)
    }

    /// Adds a tin, under an id of its own number.
    pub fn tin(&mut self, n: u128, tin: ShelfPaint) -> Uuid {
        let id = Uuid::from_u128(n);
        self.put(id, tin);
        id
    }

    pub fn put<T: Document>(&mut self, id: Uuid, value: T) {
        let body = serde_json::to_value(value).unwrap();
        self.0.insert(id, Row { kind: T::KIND, revision: 1, removed: false, body });
    }
}

impl Documents for Pile {
    type Error = NotInPile;

    fn get<T: Document>(&self, id: Uuid) -> Result<Kept<T>, NotInPile> {
        let row = self.0.get(&id).filter(|row| row.kind == T::KIND);
        row.map(|row| kept(id, row)).ok_or(NotInPile::Unknown(id))
    }

    fn users<T: Document>(&self, of: Uuid) -> Result<Vec<Kept<T>>, NotInPile> {
        Ok(self
            .all()
            .into_iter()
            .filter(|kept: &Kept<T>| kept.value.uses().iter().any(|used| used.id == of))
            .collect())
    }

    fn make<T: Document>(&mut self, value: T) -> Result<Kept<T>, NotInPile> {
        let id = Uuid::now_v7();
        self.put(id, value);
        self.get(id)
    }

    fn change<T: Document>(&mut self, id: Uuid, seen: Revision, value: T) -> Result<Kept<T>, NotInPile> {
        let row = self.0.get_mut(&id).ok_or(NotInPile::Unknown(id))?;
        if row.revision != seen {
            return Err(NotInPile::Stale);
        }
        (row.revision, row.body) = (seen + 1, serde_json::to_value(value).unwrap());
        self.get(id)
    }

    fn remove<T: Document>(&mut self, id: Uuid, seen: Revision) -> Result<(), NotInPile> {
        let row = self.0.get_mut(&id).ok_or(NotInPile::Unknown(id))?;
        if row.revision != seen {
            return Err(NotInPile::Stale);
        }
        (row.revision, row.removed) = (seen + 1, true);
        Ok(())
    }
}

pub const LIGHT: Light = Light::Daylight;

/// Numbers of the tins of [`shelf`].
pub const WHITE: u128 = 1;
pub const BLUE: u128 = 2;
pub const BROWN: u128 = 3;
pub const BLACK: u128 = 4;
pub const YELLOW: u128 = 5;
pub const GLAZE: u128 = 8;
pub const WAX: u128 = 9;

pub fn paint(name: &str, class: Class, hex: &str) -> ShelfPaint {
    let colour = Masstone::Hex(hex.parse().unwrap());
    let coats_to_hide = Some(CoatsToHide::new(1.75).unwrap());
    ShelfPaint { coats_to_hide, ..ShelfPaint::new(Name::new(name).unwrap(), class, Some(colour)) }
}

pub fn priced(mut tin: ShelfPaint, price: f64, ml: f64, left: f64) -> ShelfPaint {
    tin.price = Some(Price::new(price, Millilitres::new(ml).unwrap()).unwrap());
    tin.stock = Some(Millilitres::new(left).unwrap());
    tin
}

pub fn medium(name: &str, class: Class, left: f64) -> ShelfPaint {
    let stock = Some(Millilitres::new(left).unwrap());
    ShelfPaint { stock, ..ShelfPaint::new(Name::new(name).unwrap(), class, None) }
}

/// A made-up shelf of five paints and two mediums; the white is the house white.
pub fn pile() -> Pile {
    let mut pile = Pile::default();
    let white = pile.tin(WHITE, priced(paint("chimney white", Class::Chalk, "#f0ede6"), 20.0, 1000.0, 900.0));
    pile.tin(BLUE, priced(paint("harbour", Class::Chalk, "#2f4b66"), 12.0, 500.0, 300.0));
    pile.tin(BROWN, priced(paint("peat", Class::Chalk, "#5a4636"), 12.0, 500.0, 40.0));
    pile.tin(BLACK, paint("soot", Class::Chalk, "#1c1b1a"));
    pile.tin(YELLOW, priced(paint("straw", Class::LatexSatin, "#d8b45a"), 9.0, 250.0, 250.0));
    pile.tin(GLAZE, medium("glazing liquid", Class::GlazingLiquid, 500.0));
    pile.tin(WAX, medium("clear wax", Class::ClearWax, 200.0));
    let workshop = Workshop { house_white: Some(PaintId(white)), ..Workshop::default() };
    pile.put(Uuid::from_u128(100), workshop);
    pile
}

pub fn id(n: u128) -> Uuid {
    Uuid::from_u128(n)
}

pub fn components(of: &[(u128, u32)]) -> Vec<MixPart> {
    let part = |(paint, parts): &(u128, u32)| MixPart {
        paint: PaintId(id(*paint)),
        parts: WholeParts::new(*parts).unwrap(),
    };
    of.iter().map(part).collect()
}

pub fn mix(of: &[(u128, u32)]) -> SavedMix {
    SavedMix::new(None, components(of), None).unwrap()
}

/// A reading of parts by the reader, dry and thick.
pub fn reading(of: &[(u128, f64)], lab: Lab) -> LoggedReading {
    let of = of.iter().map(|(paint, parts)| (PaintId(id(*paint)), Parts::new(*parts).unwrap())).collect();
    let shown = Shown::Thick(Measured::Colour(lab));
    LoggedReading {
        reading: Reading {
            of,
            pour: PartsMethod::Scale,
            state: FilmState::Dry,
            shown,
            source: Source::Reader,
            sure: false,
        },
        note: None,
        device: None,
        pot: None,
    }
}

/// The fields that are refused.
pub fn pointers<T: std::fmt::Debug>(answer: Result<T, Refusal>) -> Vec<String> {
    match answer.unwrap_err() {
        Refusal::Faults(faults) => faults.into_iter().map(|Fault { pointer, .. }| pointer).collect(),
        other => panic!("{other:?}"),
    }
}
