//! Paints and mediums of the shelf: entry and look.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_documents::Kept;
use warm_blend_learn::{Certainty, Estimate, OfShelf, ShelfPaint, Source};
use warm_blend_paint::{
    Class, CoatsToHide, Colour, Condition, HueFamily, Look, Millilitres, Name, Note, PaintId, Price,
    Specials, density, minutes, share,
};
use warm_blend_spectral::Light;

use crate::refusal::shown;
use crate::{Checks, Refusal, ShelfSnapshot, Swatch};

/// A paint or medium as entered.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PaintEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "oat white")]
    pub name: String,
    /// Its class: see `/api/classes`.
    #[schema(example = "chalk")]
    pub class: Class,
    /// Colour of a thick, dry, unsealed film; a medium has none.
    pub colour: Option<Colour>,
    /// Origin of that colour: `chip` (default), `reader`, `photo` or `guess`.
    pub source: Option<Source>,
    /// Coats it needs to hide black and white, 0.25 to 20.
    pub coats_to_hide: Option<f64>,
    /// Price of a tin.
    pub price: Option<TinPrice>,
    /// Amount left, ml.
    pub stock_ml: Option<f64>,
    /// When the tin was opened, `2026-05-01`.
    pub opened_on: Option<String>,
    /// `good` (default), `frozen` or `off`.
    pub condition: Option<Condition>,
    /// Warning on the tin, at most 1000 characters.
    pub safety: Option<String>,
    /// Facts that only some classes have: see `/api/classes`.
    pub specials: Option<Specials>,
}

/// The price of a tin.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct TinPrice {
    /// Amount in the painter's own currency.
    pub amount: f64,
    /// Contents of the tin, ml.
    pub tin_ml: f64,
}

/// A paint on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Paint {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision, to be sent with a change.
    pub revision: i64,
    /// True if it was deleted from the shelf.
    pub removed: bool,
    /// The entry.
    pub entry: PaintEntry,
    /// Name of its class.
    pub class_name: &'static str,
    /// True for a medium.
    pub medium: bool,
    /// True for the house white, with which tints are made.
    pub house_white: bool,
    /// Its family of hue: `white`, `grey`, `black`, `brown`, `red`, `orange`, `yellow`, `green`, `blue` or `purple`.
    pub family: &'static str,
    /// Look in the requested light and state.
    pub swatch: Swatch,
    /// Certainty of its mixes.
    pub known: HowSure,
    /// Number of mixes that use it.
    pub used_in: usize,
}

/// Certainty of the mixes of a paint.
#[derive(Debug, Serialize, ToSchema)]
pub struct HowSure {
    /// Mean 90 % band of its 1 : 1 mixes with others on the shelf, ΔE00; 0 for a medium.
    pub doubt: f64,
    /// `measured`, `good`, `rough` or `guess`.
    pub rank: &'static str,
    /// Certainty in words: `roughly known`.
    pub words: &'static str,
    /// Number of readings that include it.
    pub readings: usize,
    /// Number of those that contradict the others.
    pub questions: usize,
}

impl PaintEntry {
    /// Checks and converts the entry.
    pub fn parse(&self) -> Result<ShelfPaint, Refusal> {
        let mut checks = Checks::default();
        let name = checks.field("/name", Name::new(&self.name));
        let coats_to_hide = checks.optional("/coats_to_hide", self.coats_to_hide.map(CoatsToHide::new));
        let stock = checks.optional("/stock_ml", self.stock_ml.map(Millilitres::new));
        let price = self.price.as_ref().and_then(|price| price.parse(&mut checks));
        let opened_on = checks.optional("/opened_on", self.opened_on.as_deref().map(date));
        let safety = checks.optional("/safety", self.safety.as_deref().map(Note::new)).flatten();
        let specials = self.specials.unwrap_or_default();
        checks.optional("/specials/density", specials.density.map(density));
        checks.optional("/specials/lustre", specials.lustre.map(share));
        checks.optional("/specials/open_minutes", specials.open_minutes.map(minutes));
        let masstone = self.colour.as_ref().and_then(|colour| checks.colour("/colour", colour));
        let tin = name.map(|name| ShelfPaint {
            source: self.source.unwrap_or_default(),
            coats_to_hide,
            price,
            stock,
            opened_on,
            condition: self.condition.unwrap_or_default(),
            safety,
            specials,
            ..ShelfPaint::new(name, self.class, masstone)
        });
        // A missing colour is reported only if none was given; an invalid one has its own message.
        if let Some(tin) = tin.as_ref().filter(|_| self.colour.is_none()) {
            checks.field("/colour", tin.material());
        }
        checks.done(tin)
    }
}

fn date(text: &str) -> Result<Date, String> {
    text.trim().parse().map_err(|_| {
        let short = shown(text);
        format!("“{short}” is not a valid date; use 2026-05-01")
    })
}

impl From<ShelfPaint> for PaintEntry {
    fn from(tin: ShelfPaint) -> Self {
        let price = |price: Price| TinPrice { amount: price.amount(), tin_ml: price.tin().value() };
        Self {
            name: tin.name.into(),
            class: tin.class,
            colour: tin.masstone.map(Colour::from),
            source: Some(tin.source),
            coats_to_hide: tin.coats_to_hide.map(CoatsToHide::value),
            price: tin.price.map(price),
            stock_ml: tin.stock.map(Millilitres::value),
            opened_on: tin.opened_on.map(|date| date.to_string()),
            condition: Some(tin.condition),
            safety: tin.safety.map(String::from),
            specials: Some(tin.specials),
        }
    }
}

impl TinPrice {
    fn parse(&self, checks: &mut Checks) -> Option<Price> {
        let tin = checks.field("/price/tin_ml", Millilitres::new(self.tin_ml))?;
        checks.field("/price/amount", Price::new(self.amount, tin))
    }
}

impl HowSure {
    fn of(known: &ShelfSnapshot, id: Uuid) -> Self {
        let doubt = known.estimate().doubt(PaintId(id));
        let certainty = Certainty::of(doubt);
        let (mut readings, mut questions) = (0, 0);
        for (kept, judged) in known.readings_of(id) {
            readings += 1;
            questions += usize::from(known.asks_about(id, kept, judged));
        }
        Self { doubt, rank: certainty.id(), words: certainty.words(), readings, questions }
    }
}

impl Paint {
    /// A tin; `used_in` is the number of mixes that use it.
    pub fn of(
        tin: &Kept<ShelfPaint>,
        used_in: usize,
        known: &ShelfSnapshot,
        look: Look,
    ) -> Result<Self, Refusal> {
        let kept = tin.clone();
        let ensemble = known.paint(kept.id)?.for_a_look();
        let class = kept.value.class;
        let dry = warm_blend_paint::Seen::of(&ensemble.best().swatch_reflectance(), Light::Daylight).lab;
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            removed: kept.removed,
            class_name: class.name(),
            medium: class.is_medium(),
            house_white: known.is_house_white(kept.id),
            family: HueFamily::of(dry).id(),
            swatch: Swatch::of(&ensemble, look),
            known: HowSure::of(known, kept.id),
            used_in,
            entry: kept.value.into(),
        })
    }
}

impl PaintEntry {
    /// Look by the entry alone, before it is saved and before any reading.
    pub fn preview(&self, look: Look) -> Result<Swatch, Refusal> {
        let tin = self.parse()?;
        let id = PaintId(Uuid::nil());
        let estimate = Estimate::of(&[OfShelf { id, facts: tin.facts(false), at_hand: true }], &[])
            .map_err(|error| Refusal::field("/colour", error))?;
        let known = estimate.paint(id).ok_or(Refusal::Broken)?;
        Ok(Swatch::of(known, look))
    }
}
