//! Paints and mediums of the shelf, as they are written down and as they look.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_learn::{Certainty, Estimate, OfShelf, ShelfPaint, Source};
use warm_blend_paint::{
    Class, CoatsToHide, Colour, Condition, HueFamily, Look, Millilitres, Name, Note, PaintId, Price,
    Specials, density, minutes, share,
};
use warm_blend_spectral::Light;

use crate::refusal::shown;
use crate::{Checks, Kept, Refusal, ShelfSnapshot, Swatch};

/// A paint or medium as the painter writes it down.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct PaintEntry {
    /// Its name, 1 to 80 characters.
    #[schema(example = "oat white")]
    pub name: String,
    /// Its class: see `/api/classes`.
    #[schema(example = "chalk")]
    pub class: Class,
    /// Its dry, thick, unsealed colour; a medium has none.
    pub colour: Option<Colour>,
    /// What that colour was taken from: `chip` (as when left out), `reader`, `photo` or `guess`.
    pub source: Option<Source>,
    /// Coats it needs to hide black and white, 0.25 to 20.
    pub coats_to_hide: Option<f64>,
    /// What a tin costs.
    pub price: Option<TinPrice>,
    /// What is left, ml.
    pub stock_ml: Option<f64>,
    /// When the tin was opened, `2026-05-01`.
    pub opened_on: Option<String>,
    /// `good` (as when left out), `frozen` or `off`.
    pub condition: Option<Condition>,
    /// The warning on the tin, at most 1000 characters.
    pub safety: Option<String>,
    /// What only some classes have: `/api/classes` says which.
    pub specials: Option<Specials>,
}

/// The price of a tin.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct TinPrice {
    /// In the painter's own currency.
    pub amount: f64,
    /// What the tin holds, ml.
    pub tin_ml: f64,
}

/// A paint on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct Paint {
    /// Stable identifier.
    pub id: Uuid,
    /// To be named when it is changed.
    pub revision: i64,
    /// True once it was taken off the shelf.
    pub removed: bool,
    /// What the painter wrote down.
    pub entry: PaintEntry,
    /// Its class as a painter calls it.
    pub class_name: &'static str,
    /// True for a medium.
    pub medium: bool,
    /// True of the white that tints are made with.
    pub house_white: bool,
    /// Its family of hue: `white`, `grey`, `black`, `brown`, `red`, `orange`, `yellow`, `green`, `blue` or `purple`.
    pub family: &'static str,
    /// How it looks in the light and the state that were asked for.
    pub swatch: Swatch,
    /// How sure its mixes are.
    pub known: HowSure,
    /// How many mixes use it.
    pub used_in: usize,
}

/// How sure the mixes of a paint are.
#[derive(Debug, Serialize, ToSchema)]
pub struct HowSure {
    /// The mean 90 % band of its 1 : 1 mixes with others of the shelf, ΔE00; 0 of a medium.
    pub doubt: f64,
    /// `measured`, `good`, `rough` or `guess`.
    pub rank: &'static str,
    /// As text: `only roughly known`.
    pub words: &'static str,
    /// Readings that speak of it.
    pub readings: usize,
    /// Those of them that contradict the rest.
    pub questions: usize,
}

impl PaintEntry {
    /// What is kept of it.
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
        // Whether a colour is missing is asked only where none was given: one that was refused has its own message.
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
    /// A tin, which so many mixes use.
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
    /// How it would look by what is written down, before it is kept and before anything was read.
    pub fn preview(&self, look: Look) -> Result<Swatch, Refusal> {
        let tin = self.parse()?;
        let id = PaintId(Uuid::nil());
        let estimate = Estimate::of(&[OfShelf { id, facts: tin.facts(false), at_hand: true }], &[])
            .map_err(|error| Refusal::field("/colour", error))?;
        let known = estimate.paint(id).ok_or(Refusal::Broken)?;
        Ok(Swatch::of(known, look))
    }
}
