//! Mixes of the shelf that come nearest to a colour.

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

/// A colour to find on the shelf, and what may go into it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Wanted {
    /// The colour aimed at.
    pub target: Colour,
    /// Most paints in one mix, 1–4; 3 when left out.
    pub paints: Option<u32>,
    /// Most parts together, 1–24; 12 when left out.
    pub parts: Option<u32>,
    /// Paints that must be in it, three at most.
    #[serde(default)]
    pub with: Vec<Uuid>,
    /// Paints that must not.
    #[serde(default)]
    pub without: Vec<Uuid>,
    /// True to do without blacks.
    #[serde(default)]
    pub no_black: bool,
    /// Only paints of these classes; all when empty.
    #[serde(default)]
    pub classes: Vec<Class>,
    /// ml that are to be mixed: what it costs, and whether the tins hold it.
    pub batch_ml: Option<f64>,
}

/// The mixes that come nearest, the best first.
#[derive(Debug, Serialize, ToSchema)]
pub struct Found {
    /// One mix of each set of paints.
    pub recipes: Vec<FoundRecipe>,
    /// The test that could change the order, where one could.
    pub test: Option<TestToOrder>,
    /// What the shelf lacks, where even the best is far off: `nothing here is this yellow`.
    pub missing: Option<String>,
    /// How many paints were looked through.
    pub paints: usize,
}

/// A tint test of a paint whose doubt decides which mix comes first.
#[derive(Debug, Serialize, ToSchema)]
pub struct TestToOrder {
    /// The paint.
    pub paint: Uuid,
    /// What it could do: `A tint test of slate blue could change this order.`
    pub words: String,
}

/// A mix of the shelf that comes near.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundRecipe {
    /// Its parts, the most of first.
    pub parts: Vec<RecipePart>,
    /// How it looks, and how sure that is.
    pub swatch: Swatch,
    /// Against the target.
    pub judgement: AgainstTarget,
    /// How far off it is likely to be, ΔE00: the mean over all that its tins may be, by which the list is ranked.
    pub expected: f64,
    /// The same in words: `likely within 3`.
    pub likely: String,
    /// ΔE00 from the target in the other light: how far it strays where the two part.
    pub elsewhere: f64,
    /// That light: `bulb`, or `daylight` where it is looked at by the bulb.
    pub elsewhere_in: &'static str,
    /// What the batch costs, where every price is known; a litre where no batch is given.
    pub cost: Option<f64>,
    /// False where a tin holds less than the batch needs, or stock is not written down.
    pub enough: Option<bool>,
    /// What to think of first: classes that should not meet, tins that were frozen.
    pub cautions: Vec<String>,
}

/// What a search may use.
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

/// How many mixes are shown.
const RECIPES: usize = 12;

impl ShelfSnapshot {
    /// The mixes that come nearest to a colour; `watch` may break the search off.
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

    /// The mix that comes nearest to a colour without some of the tins, with nothing else asked.
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

    /// Whether a paint is a black, as it is seen in daylight.
    fn is_black(&self, paint: Uuid) -> bool {
        let lab = self.paint(paint).map(|paint| paint.best().seen_lab(Light::Daylight));
        lab.is_ok_and(|lab| HueFamily::of(lab) == HueFamily::Black)
    }
}

/// The light to look in beside the one that is on: where two lights part most, and a painter has both.
fn other_light(light: Light) -> Light {
    if light == Light::Bulb { Light::Daylight } else { Light::Bulb }
}

/// How far off a mix is likely to be, in words: to the next half up to three, then to the next whole.
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

    /// Whether the tins hold what a batch of so many ml takes; none where stock is not written down.
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
