//! Matching a colour with mixes of the shelf.

use std::ops::ControlFlow;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_mixing as bench;
use warm_blend_mixing::{LikelyRecipe, Limits};
use warm_blend_paint::{Class, Colour, HueFamily, Look, Masstone, Millilitres, Seen};
use warm_blend_spectral::Light;

use crate::mixable::Mixable;
use crate::{AgainstTarget, Checks, RecipePart, Refusal, ShelfSnapshot, Swatch};

/// A target colour, with restrictions on the mix.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Wanted {
    /// Target colour.
    pub target: Colour,
    /// Greatest number of paints in a mix, 1–4; by default 3.
    pub paints: Option<u32>,
    /// Greatest total of parts, 1–24; by default 12.
    pub parts: Option<u32>,
    /// Required paints, at most three.
    #[serde(default)]
    pub with: Vec<Uuid>,
    /// Excluded paints.
    #[serde(default)]
    pub without: Vec<Uuid>,
    /// True to exclude blacks.
    #[serde(default)]
    pub no_black: bool,
    /// Allowed classes; if empty, all.
    #[serde(default)]
    pub classes: Vec<Class>,
    /// Batch in ml, for its cost and to check stock.
    pub batch_ml: Option<f64>,
}

/// The closest mixes, best first.
#[derive(Debug, Serialize, ToSchema)]
pub struct Found {
    /// Mixes, one for each set of paints.
    pub recipes: Vec<FoundRecipe>,
    /// The test that could change the order, if one could.
    pub test: Option<TestToOrder>,
    /// What the shelf lacks if even the best mix is far off: `nothing here is this yellow`.
    pub missing: Option<String>,
    /// Number of paints searched.
    pub paints: usize,
}

/// A tint test of a paint whose uncertainty decides which mix comes first.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestToOrder {
    /// The paint.
    pub paint: Uuid,
    /// Its effect: `A tint test of slate blue could change this order.`
    pub words: String,
}

/// A mix close to the target.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundRecipe {
    /// Its parts, largest first.
    pub parts: Vec<RecipePart>,
    /// Its look and certainty.
    pub swatch: Swatch,
    /// Comparison with the target.
    pub judgement: AgainstTarget,
    /// Expected difference, ΔE00: the mean over everything that its tins may be, by which mixes are ranked.
    pub expected: f64,
    /// Expected difference in words: `likely within 3`.
    pub likely: String,
    /// Difference from the target in the other light, ΔE00, which reveals metamerism.
    pub elsewhere: f64,
    /// The other light: `bulb`, or `daylight` if viewed by the bulb.
    pub elsewhere_in: &'static str,
    /// Cost of the batch, if every price is known; without a batch, of a litre.
    pub cost: Option<f64>,
    /// False if a tin contains less than the batch needs; absent if stock is unknown.
    pub enough: Option<bool>,
    /// Points to consider: classes that should not be mixed, tins that were frozen.
    pub cautions: Vec<String>,
}

/// Tins and limits of a search.
struct Search {
    target: Masstone,
    limits: Limits,
    batch: Option<f64>,
}

impl Wanted {
    fn parse(&self) -> Result<Search, Refusal> {
        let mut checks = Checks::default();
        let range = |value: Option<u32>, default: u32, most: u32| {
            let value = value.unwrap_or(default);
            if (1..=most).contains(&value) {
                Ok(value)
            } else {
                Err(format!("{value} is out of range; use 1 to {most}"))
            }
        };
        let target = checks.colour("/target", &self.target);
        let paints = checks.field("/paints", range(self.paints, 3, 4));
        let parts = checks.field("/parts", range(self.parts, 12, 24));
        if self.with.len() > 3 {
            checks.wrong::<()>("/with", "too many paints required; the most is 3");
        }
        let batch = match self.batch_ml {
            Some(ml) => checks
                .field("/batch_ml", Millilitres::new(ml))
                .filter(|ml| ml.value() > 0.0)
                .map(|ml| ml.value()),
            None => None,
        };
        let asked = target.zip(paints).zip(parts).map(|((target, paints), parts)| Search {
            target,
            limits: Limits { paints: paints as usize, parts, recipes: RECIPES, every: bench::EVERY },
            batch,
        });
        checks.done(asked)
    }
}

/// Number of mixes shown.
const RECIPES: usize = 12;

impl ShelfSnapshot {
    /// The mixes closest to a colour; `watch` may cancel the search.
    pub fn find(
        &self,
        wanted: &Wanted,
        look: Look,
        watch: impl Fn() -> ControlFlow<()> + Sync,
    ) -> Result<Found, Refusal> {
        let search = wanted.parse()?;
        let mixable = self.mixable(look, &wanted.with, |tin| {
            let class = wanted.classes.is_empty() || wanted.classes.contains(&tin.value.class);
            let unwanted = wanted.without.contains(&tin.id) || wanted.no_black && self.is_black(tin.id);
            wanted.with.contains(&tin.id) || class && !unwanted
        })?;
        let curve = search.target.reflectance().map_err(|error| Refusal::field("/target", error))?;
        let target = Seen::of(&curve, look.light).lab;
        let tins = mixable.doubtful(&wanted.with);
        let found = bench::find_likely(&tins, target, look, search.limits, |_| watch());
        let missing = found.first().and_then(|best| {
            let lab = look.lab(mixable.stirred(&best.recipe.parts).ok()?.best());
            bench::missing(lab, target, best.recipe.difference)
        });
        let test = bench::deciding_test(&found, &tins, target, look).map(|at| TestToOrder {
            paint: mixable.tins[at].id,
            words: format!(
                "A tint test of {} could change this order.",
                mixable.tins[at].value.name.as_str()
            ),
        });
        let recipes = found.iter().map(|likely| mixable.recipe(likely, &search)).collect::<Result<_, _>>()?;
        Ok(Found { recipes, test, missing, paints: tins.len() })
    }

    /// The mix closest to a colour without some of the tins, and otherwise unrestricted.
    pub(crate) fn nearest(
        &self,
        target: Masstone,
        without: Vec<Uuid>,
        look: Look,
    ) -> Result<Option<FoundRecipe>, Refusal> {
        let wanted = Wanted {
            target: target.into(),
            paints: None,
            parts: None,
            with: Vec::new(),
            without,
            no_black: false,
            classes: Vec::new(),
            batch_ml: None,
        };
        let found = self.find(&wanted, look, || ControlFlow::Continue(()))?;
        Ok(found.recipes.into_iter().next())
    }

    /// True if a paint is black in daylight.
    fn is_black(&self, paint: Uuid) -> bool {
        let lab = self.paint(paint).map(|paint| paint.best().seen_lab(Light::Daylight));
        lab.is_ok_and(|lab| HueFamily::of(lab) == HueFamily::Black)
    }
}

/// The second light of a comparison: the one that differs most and that a painter has.
fn other_light(light: Light) -> Light {
    if light == Light::Bulb { Light::Daylight } else { Light::Bulb }
}

/// Expected difference in words: rounded up to halves as far as three, then to whole numbers.
pub(crate) fn likely_words(expected: f64) -> String {
    let step = if expected <= 3.0 { 0.5 } else { 1.0 };
    format!("likely within {}", (expected / step).ceil().max(1.0) * step)
}

impl Mixable<'_> {
    fn recipe(
        &self,
        LikelyRecipe { recipe, expected }: &LikelyRecipe,
        search: &Search,
    ) -> Result<FoundRecipe, Refusal> {
        let mixed = self.stirred(&recipe.parts)?;
        let look = self.look;
        let other = other_light(look.light);
        let elsewhere =
            AgainstTarget::of(mixed.best(), search.target, Look { light: other, ..look })?.difference;
        Ok(FoundRecipe {
            parts: self.parts(&recipe.parts),
            swatch: Swatch::of(&mixed, look),
            judgement: AgainstTarget::of(mixed.best(), search.target, look)?,
            expected: *expected,
            likely: likely_words(*expected),
            elsewhere,
            elsewhere_in: other.id(),
            cost: recipe.price.map(|price| price * search.batch.unwrap_or(1000.0)),
            enough: search.batch.and_then(|batch| self.hold_enough(&recipe.parts, batch)),
            cautions: self.cautions(&recipe.parts),
        })
    }

    /// Whether the tins contain enough for a batch; `None` if stock is unknown.
    fn hold_enough(&self, parts: &[(usize, u32)], batch: f64) -> Option<bool> {
        let total: f64 = parts.iter().map(|(_, parts)| f64::from(*parts)).sum();
        let holds = |(at, parts): &(usize, u32)| {
            let needed = batch * f64::from(*parts) / total;
            self.tins[*at].value.stock.map(|stock| stock.value() >= needed)
        };
        let each = parts.iter().map(holds).collect::<Option<Vec<bool>>>()?;
        Some(each.into_iter().all(|enough| enough))
    }
}
