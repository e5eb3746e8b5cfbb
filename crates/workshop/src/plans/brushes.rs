//! Brushes of a plan for display: how many on which day, what to wash, and what is still in the cup.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use warm_blend_paint::Base;
use warm_blend_plan::{
    Brush, BrushCount, BrushNeed, BrushRack, BrushUse, Laid, Stretch, Unwashed, Wash, Work, brush_days,
};

use super::entry::timestamp;
use super::planning::{BrushesNow, Planned};
use crate::{Checks, Refusal};

/// Brushes of a plan.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushesView {
    /// Kinds that the plan needs, and how many the workshop has.
    pub kinds: Vec<BrushKindView>,
    /// Brushes that were used and are not washed yet, the most urgent first.
    pub unwashed: Vec<UnwashedView>,
    /// What each day needs.
    pub days: Vec<BrushDayView>,
}

/// A kind of brush.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushKindView {
    /// Kind.
    pub brush: Brush,
    /// `Flat brushes` …
    pub name: &'static str,
    /// Why there is one for each colour.
    pub why: &'static str,
    /// Number of good ones; absent until they are counted.
    pub good: Option<u8>,
    /// Number of worn-out ones.
    pub worn: u8,
}

/// A brush that is not washed yet.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnwashedView {
    /// Its use, to mark it as washed.
    pub mark: WashedEntry,
    /// What was done with it, and in what: `Brushed coat, slate blue`.
    pub name: String,
    /// What washes it out.
    pub with: &'static str,
    /// When it must be washed at the latest, RFC 3339.
    pub until: String,
    /// True if that is over.
    pub late: bool,
}

/// Brushes for a day.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushDayView {
    /// The day, `2026-12-07`.
    pub day: String,
    /// What it needs of each kind.
    pub needs: Vec<BrushNeedView>,
}

/// Brushes of one kind for a day.
#[derive(Debug, Serialize, ToSchema)]
pub struct BrushNeedView {
    /// Kind.
    pub brush: Brush,
    /// `Flat brushes` …
    pub name: &'static str,
    /// What each is for.
    pub colours: Vec<String>,
    /// What to wash in between, or what is missing, a sentence each.
    pub notes: Vec<String>,
}

/// The latest use of a brush, which identifies it.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct WashedEntry {
    /// Kind of brush.
    pub brush: Brush,
    /// When the step it was used for was finished, RFC 3339.
    pub used: String,
    /// Index of the layer in that step.
    #[serde(default)]
    pub layer: u8,
}

/// Number of brushes of a kind, as counted.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct BrushCounted {
    /// Kind.
    pub brush: Brush,
    /// Number of good ones, 0 to 99.
    pub good: f64,
    /// Number of worn-out ones, 0 to 99.
    #[serde(default)]
    pub worn: f64,
}

impl WashedEntry {
    /// The rack once it is washed.
    pub fn over(&self, rack: BrushRack) -> Result<BrushRack, Refusal> {
        let used = timestamp(&self.used).map_err(|words| Refusal::field("/used", words))?;
        Ok(rack.with_washed(BrushUse { brush: self.brush, used, layer: self.layer }))
    }
}

impl BrushCounted {
    /// The rack with this many.
    pub fn over(&self, rack: BrushRack) -> Result<BrushRack, Refusal> {
        let mut checks = Checks::default();
        let good = checks.field("/good", BrushCount::number(self.good));
        let worn = checks.field("/worn", BrushCount::number(self.worn));
        let count = good.zip(worn).map(|(good, worn)| BrushCount { good, worn });
        Ok(rack.counted(self.brush, checks.done(count)?))
    }
}

/// What washes a brush out (common practice).
const fn washed_with(base: Base) -> &'static str {
    match base {
        Base::Water => "warm water and soap",
        Base::Oil => "mineral spirits, then soap",
        Base::Alcohol => "denatured alcohol, at once",
    }
}

/// Where there are fewer brushes of a kind than colours, and washing does not help.
fn missing(need: &BrushNeed) -> Option<String> {
    let why = match need.brush {
        Brush::Flat | Brush::Roller => "two colours are in use at once",
        Brush::Dry | Brush::Stencil => "washed, they are not dry the same day",
        Brush::Wax => "wax does not wash out between two tints",
    };
    match need.short {
        0 => None,
        1 => Some(format!("One is missing: {why}.")),
        n => Some(format!("{n} are missing: {why}.")),
    }
}

impl Planned<'_> {
    /// What a brush is used for: the pot, or the product of a technique without one.
    fn colour(&self, laid: &Laid) -> String {
        let product = || laid.technique.product().map(|class| class.name().to_lowercase());
        self.pot(laid).or_else(product).unwrap_or_else(|| laid.technique.name().to_lowercase())
    }

    /// Work of the plan, and of other pieces in between, with its name.
    fn worked(&self) -> Vec<(&Work, Stretch, String)> {
        if self.stop().is_some() {
            return Vec::new();
        }
        let own = self.in_order().flat_map(|(step, when)| {
            let worked = when.stretches.iter().filter(|(from, to)| from < to);
            worked.map(|stretch| (&step.work, *stretch, self.name(&step.work)))
        });
        let others =
            self.elsewhere.iter().map(|one| (&one.work, one.when, format!("{}, {}", one.step, one.name)));
        own.chain(others).collect()
    }

    /// The plan's brushes for display.
    pub(super) fn brushes(&self) -> BrushesView {
        let BrushesNow { rack, unwashed } = &self.asked.brushes;
        let worked = self.worked();
        let works = worked.iter().map(|(work, stretch, _)| (*work, *stretch));
        let days = brush_days(works, &self.sheet.hours.clock(), |brush| rack.good(brush));
        let wash = |wash: &Wash| {
            let (after, before) = (&worked[wash.after].2, &worked[wash.before].2);
            format!("After “{after}”, wash out {} for “{before}”.", self.colour(&wash.laid))
        };
        let needed = |brush: Brush| days.iter().flat_map(|day| &day.needs).any(|need| need.brush == brush);
        let kinds = Brush::ALL.iter().copied().filter(|brush| needed(*brush)).map(|brush| {
            let count = rack.owned.get(&brush).copied();
            let worn = count.unwrap_or_default().worn;
            BrushKindView {
                brush,
                name: brush.name(2),
                why: brush.why(),
                good: count.map(|count| count.good),
                worn,
            }
        });
        let need = |need: &BrushNeed| BrushNeedView {
            brush: need.brush,
            name: need.brush.name(need.colours.len()),
            colours: need.colours.iter().map(|laid| self.colour(laid)).collect(),
            notes: missing(need).into_iter().chain(need.washes.iter().map(wash)).collect(),
        };
        BrushesView {
            kinds: kinds.collect(),
            unwashed: unwashed.iter().map(|one| self.unwashed(one, self.asked.now)).collect(),
            days: days
                .iter()
                .map(|day| BrushDayView {
                    day: day.day.to_string(),
                    needs: day.needs.iter().map(need).collect(),
                })
                .collect(),
        }
    }

    fn unwashed(&self, one: &Unwashed, now: Timestamp) -> UnwashedView {
        let BrushUse { brush, used, layer } = one.mark;
        UnwashedView {
            mark: WashedEntry { brush, used: used.to_string(), layer },
            name: format!("{}, {}", one.laid.technique.name(), self.colour(&one.laid)),
            with: washed_with(one.base),
            until: one.until.to_string(),
            late: one.until < now,
        }
    }
}
