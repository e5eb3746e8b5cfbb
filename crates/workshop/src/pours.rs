//! Pouring: what was added, what remains, and the result.

use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_device::NotYet;
use warm_blend_documents::{Documents, Kept};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{AmountAsEntered, BadPour, Jar, PourAction, PourEvent, PourRecord};
use warm_blend_paint::{
    Look, Measure, Millilitres, MixPart, PaintId, Parts, SavedMix, Units, Verdict, WholeParts,
};

use crate::label::LabelPart;
use crate::{AgainstTarget, Checks, Refusal, ShelfSnapshot, Swatch, label};

/// A pot to begin.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PourBegun {
    /// The mix. If it is already being poured, that pot is returned.
    pub mix: Uuid,
    /// Volume intended, ml.
    pub batch_ml: Option<f64>,
}

/// A step of a pour, as entered.
#[derive(Debug, Deserialize, ToSchema)]
pub struct StepEntry {
    /// A UUID chosen by the client, so that a repeated request counts once.
    pub id: Uuid,
    /// The paint added; absent if something is taken out.
    pub paint: Option<Uuid>,
    /// `ml`, `tsp` …: `count` of this measure. `g`: `count` grams. `scale`: what the scale shows since the last addition.
    /// `touch`: a touch. `scale-touch`: a touch that is on the scale.
    #[schema(value_type = String)]
    pub measure: PouredBy,
    /// Number of measures.
    pub count: Option<f64>,
}

/// A pot, poured or being poured.
#[derive(Debug, Serialize, ToSchema)]
pub struct PourView {
    /// Stable identifier.
    pub id: Uuid,
    /// Revision.
    pub revision: i64,
    /// Short code, as on its label.
    pub code: String,
    /// The mix.
    pub mix: Uuid,
    /// Name of the mix.
    pub name: Option<String>,
    /// Time it was begun, RFC 3339.
    pub begun_at: String,
    /// Time it was finished, RFC 3339; absent while it is open.
    pub finished_at: Option<String>,
    /// Where the pot is kept.
    pub place: Option<String>,
    /// Volume intended, ml.
    pub batch_ml: Option<f64>,
    /// Volume in the pot, ml.
    pub total_ml: f64,
    /// Volume as text.
    pub total: String,
    /// Steps, latest first.
    pub steps: Vec<PourStep>,
    /// Paints compared with the plan, planned ones first.
    pub paints: Vec<PouredPaint>,
    /// Recipe that was poured, in few whole parts.
    pub recipe: Vec<MixPart>,
    /// Its look; absent if the pot is empty.
    pub swatch: Option<Swatch>,
    /// Comparison with the target of the mix.
    pub judgement: Option<AgainstTarget>,
    /// Comparison with the plan: how far the poured ratio changes the colour.
    pub against_plan: Option<AgainstPlan>,
    /// Size of a touch, ml.
    pub touch_ml: f64,
    /// Number of weighed touches it is learned from.
    pub touches: usize,
    /// Paints whose density is only the usual one of their class.
    pub usual_density: Vec<String>,
    /// Readings of this pot, latest first.
    pub readings: Vec<PotReading>,
}

/// A step of a pour.
#[derive(Debug, Serialize, ToSchema)]
pub struct PourStep {
    /// Id.
    pub id: Uuid,
    /// Time, RFC 3339.
    pub at: String,
    /// Amount as entered: `2 tsp`, `12.4 g`, `a touch`.
    pub amount: String,
    /// The paint added; absent if something was taken out.
    pub name: Option<String>,
    /// Its flat colour.
    pub hex: Option<String>,
    /// Amount, ml.
    pub ml: f64,
}

/// One paint of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PouredPaint {
    /// The paint.
    pub paint: Uuid,
    /// Its name.
    pub name: String,
    /// Its flat colour.
    pub hex: String,
    /// Amount in the pot, ml.
    pub ml: f64,
    /// Amount in the pot as text.
    pub inside: String,
    /// Planned amount, ml.
    pub planned_ml: f64,
    /// Amount still to add as text; absent if there is none.
    pub left: Option<String>,
    /// Amount still to add, g.
    pub left_g: f64,
    /// Amount still to add as a number of measures, rounded to what can be measured.
    pub left_count: Option<f64>,
    /// Excess over the intended amount as text; absent if there is none.
    pub over: Option<String>,
}

/// A pot compared with its plan.
#[derive(Debug, Serialize, ToSchema)]
pub struct AgainstPlan {
    /// `a hair darker than the recipe`.
    pub words: String,
    /// CIEDE2000.
    pub difference: f64,
}

/// A reading of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotReading {
    /// Id of the reading.
    pub id: Uuid,
    /// Time, RFC 3339.
    pub made_at: String,
    /// Its colour on the screen.
    pub hex: String,
    /// Comparison with the target in daylight: `a hair darker than the target`.
    pub words: Option<String>,
    /// Difference from the target, ΔE00.
    pub difference: Option<f64>,
}

/// A pot in the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct PourLine {
    /// Id.
    pub id: Uuid,
    /// Short code.
    pub code: String,
    /// The mix.
    pub mix: Uuid,
    /// Name of the mix.
    pub name: Option<String>,
    /// Time it was begun, RFC 3339.
    pub begun_at: String,
    /// True while it is open.
    pub open: bool,
    /// Volume, ml.
    pub total_ml: f64,
    /// Contents: `3 dove grey : 1 night blue`.
    pub recipe: String,
    /// Its flat colour; absent if it is empty.
    pub hex: Option<String>,
    /// Amount left of it in a jar, ml; absent without a jar.
    pub jar_ml: Option<f64>,
}

/// Label of a pot.
#[derive(Debug, Serialize, ToSchema)]
pub struct PotLabel {
    /// Id of the pot.
    pub id: Uuid,
    /// Name of the mix.
    pub name: Option<String>,
    /// Date it was poured, on the clock of this machine: `2026-11-25`.
    pub day: String,
    /// Short code of the record.
    pub code: String,
    /// Where it is kept.
    pub place: Option<String>,
    /// Client that what is left is kept for.
    pub client: Option<String>,
    /// Last day on which what is left is expected to be good; absent without a jar.
    pub until: Option<String>,
    /// Volume, or what is left in its jar, ml.
    pub total_ml: f64,
    /// Volume as text.
    pub total: String,
    /// Contents.
    pub parts: Vec<LabelPart>,
    /// The drawdown.
    pub swatch: Option<Swatch>,
    /// Text of the QR code.
    pub text: String,
    /// Modules along a side of the QR code.
    pub code_size: usize,
    /// Dark modules as an SVG path, one unit per module.
    pub code_path: String,
    /// Its page, where another machine of the network can open it.
    pub page: Option<PageSquare>,
}

/// A page of a pot, for a phone.
#[derive(Debug, Serialize, ToSchema)]
pub struct PageSquare {
    /// Address.
    pub address: String,
    /// Modules along a side of its QR code.
    pub size: usize,
    /// Dark modules of it as an SVG path.
    pub path: String,
}

/// Unit for amounts.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[serde(expecting = "not a valid measure; use g, ml, tsp or another")]
pub enum AmountsIn {
    /// By weight.
    #[serde(rename = "g")]
    Grams,
    /// In spoons, cups or ml.
    #[serde(untagged)]
    In(Measure),
}

impl Default for AmountsIn {
    fn default() -> Self {
        Self::In(Measure::Millilitre)
    }
}

/// How an addition was measured.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[serde(
    rename_all = "kebab-case",
    expecting = "not a valid measure; use g, scale, touch, ml, tsp or another"
)]
pub enum PouredBy {
    /// Grams.
    #[serde(rename = "g")]
    Grams,
    /// The weight added since the last addition, from the scale.
    Scale,
    /// A touch, not measured.
    Touch,
    /// A touch that is on the scale.
    ScaleTouch,
    /// Spoons, cups or a syringe.
    #[serde(untagged)]
    In(Measure),
}

impl AmountsIn {
    fn say(self, ml: f64, density: f64) -> String {
        match self {
            AmountsIn::Grams => format!("{:.1} g", ml * density),
            AmountsIn::In(measure) => warm_blend_paint::about(ml, measure),
        }
    }

    /// Number of measures, rounded to what can be measured; [`AmountsIn::say`] puts it in words.
    fn count(self, ml: f64, density: f64) -> f64 {
        match self {
            AmountsIn::Grams => (10.0 * ml * density).round() / 10.0,
            AmountsIn::In(measure) => warm_blend_paint::about_count(ml, measure),
        }
    }

    /// True if the amount is too small to measure.
    fn nothing(self, ml: f64, density: f64) -> bool {
        match self {
            AmountsIn::Grams => ml * density < 0.05,
            AmountsIn::In(measure) => ml < 0.5 * measure.least(),
        }
    }
}

/// A pot with its mix and this painter's touch.
#[derive(Debug)]
pub struct PotAtHand {
    /// The record.
    pub kept: Kept<PourRecord>,
    /// The mix.
    pub mix: SavedMix,
    /// Size of a touch, ml, and number of weighed touches it is learned from.
    pub touch: (f64, usize),
}

impl PourView {
    /// A pot for display, with amounts in a unit.
    pub fn of(pot: &PotAtHand, known: &ShelfSnapshot, look: Look, unit: AmountsIn) -> Result<Self, Refusal> {
        let PotAtHand { kept, mix, touch } = pot;
        let tin = |paint: PaintId| Ok::<_, Refusal>(&known.tin(paint.0)?.value);
        let record = &kept.value;
        let hex = |paint: PaintId| Ok::<_, Refusal>(look.hex(known.paint(paint.0)?.best()));
        let step = |step: &PourEvent| {
            let paint = match step.action {
                PourAction::Added { paint, .. } => Some(paint),
                PourAction::TakenOut { .. } => None,
            };
            Ok::<_, Refusal>(PourStep {
                id: step.id,
                at: step.at.to_string(),
                amount: amount_words(&step.action, unit),
                name: paint.map(tin).transpose()?.map(|tin| tin.name.as_str().to_owned()),
                hex: paint.map(hex).transpose()?,
                ml: match step.action {
                    PourAction::Added { ml, .. } | PourAction::TakenOut { ml } => ml,
                },
            })
        };
        let paint = |standing: &warm_blend_mixing::PartStanding| {
            let tin = tin(standing.paint)?;
            let density = tin.density();
            let said = |ml: f64| (!unit.nothing(ml, density)).then(|| unit.say(ml, density));
            Ok::<_, Refusal>(PouredPaint {
                paint: standing.paint.0,
                name: tin.name.as_str().to_owned(),
                hex: hex(standing.paint)?,
                ml: standing.inside,
                inside: unit.say(standing.inside, density),
                planned_ml: standing.planned,
                left: said(standing.left()),
                left_count: (!unit.nothing(standing.left(), density))
                    .then(|| unit.count(standing.left(), density)),
                left_g: standing.left() * density,
                over: said(standing.over),
            })
        };
        let poured = known.stirred(&record.parts())?;
        let planned: Vec<(PaintId, Parts)> = record.plan.iter().map(|c| (c.paint, c.parts.into())).collect();
        let against_plan = poured.as_ref().zip(known.stirred(&planned)?).map(|(poured, planned)| {
            let [poured, planned] = [poured, &planned].map(|pot| look.face(pot.best()).lab);
            let verdict = Verdict::against(poured, planned, "the recipe");
            AgainstPlan { words: verdict.words(), difference: verdict.difference.value() }
        });
        let aim = poured.as_ref().zip(mix.target);
        let tins = record.paints().into_iter().map(tin).collect::<Result<Vec<_>, _>>()?;
        let usual = tins.iter().filter(|tin| tin.specials.density.is_none());
        let mut steps = record.steps().iter().map(step).collect::<Result<Vec<_>, _>>()?;
        steps.reverse();
        let total = record.total();
        let weight: f64 = record
            .inside()
            .iter()
            .try_fold(0.0, |sum, (paint, ml)| Ok::<_, Refusal>(sum + ml * tin(*paint)?.density()))?;
        Ok(Self {
            id: kept.id,
            revision: kept.revision,
            code: label::code(kept.id),
            mix: record.mix.0,
            name: record.name.clone().map(String::from),
            begun_at: kept.made_at.to_string(),
            finished_at: record.finished_at.map(|at| at.to_string()),
            place: record.place.clone().map(String::from),
            batch_ml: record.batch,
            total_ml: total,
            total: unit.say(total, if total > 0.0 { weight / total } else { 1.0 }),
            steps,
            paints: record.against_plan().iter().map(paint).collect::<Result<_, _>>()?,
            recipe: record.recipe(),
            judgement: aim
                .map(|(poured, target)| AgainstTarget::of(poured.best(), target, look))
                .transpose()?,
            against_plan,
            swatch: poured.map(|poured| Swatch::of(&poured, look)),
            touch_ml: touch.0,
            touches: touch.1,
            usual_density: usual.map(|tin| tin.name.as_str().to_owned()).collect(),
            readings: readings(kept.id, mix, known),
        })
    }
}

fn readings(pot: Uuid, mix: &SavedMix, known: &ShelfSnapshot) -> Vec<PotReading> {
    let of_this = known.readings().filter(|(kept, _)| kept.value.pot == Some(pot));
    let mut readings: Vec<PotReading> = of_this
        .filter_map(|(kept, _)| {
            let read = kept.value.reading.measured().last()?;
            let verdict = mix.target.map(|target| Verdict::of(read.lab(), target.lab()));
            Some(PotReading {
                id: kept.id,
                made_at: kept.made_at.to_string(),
                hex: warm_blend_interchange::hex(read),
                difference: verdict.as_ref().map(|verdict| verdict.difference.value()),
                words: verdict.map(|verdict| verdict.words()),
            })
        })
        .collect();
    readings.reverse();
    readings
}

/// An amount as entered; what was taken out is in the pot's current unit.
fn amount_words(action: &PourAction, unit: AmountsIn) -> String {
    match action {
        PourAction::Added { said: AmountAsEntered::Counted(count, measure), .. } => {
            warm_blend_paint::amount(count * measure.millilitres(), *measure)
        }
        PourAction::Added { said: AmountAsEntered::Weighed(grams), .. } => format!("{grams:.1} g"),
        PourAction::Added { said: AmountAsEntered::Touch, .. } => "a touch".to_owned(),
        PourAction::Added { said: AmountAsEntered::WeighedTouch(grams), .. } => {
            format!("a touch, {grams:.1} g")
        }
        PourAction::Added { said: AmountAsEntered::Practised(grams), .. } => {
            format!("{grams:.1} g, for practice")
        }
        PourAction::TakenOut { ml } => match unit {
            AmountsIn::Grams => format!("{ml:.0} ml taken out"),
            AmountsIn::In(_) => format!("{} taken out", unit.say(*ml, 1.0)),
        },
    }
}

/// Why a pot cannot be changed like this.
pub fn refused(error: &BadPour) -> Refusal {
    match error {
        BadPour::NotTheLast | BadPour::Finished | BadPour::Empty | BadPour::InAJar => {
            Refusal::Stale(error.to_string())
        }
        BadPour::Paints(_) => Refusal::field("/paint", error),
        _ => Refusal::field("/count", error),
    }
}

/// State of the scale for a step.
#[derive(Debug, Clone, Copy)]
pub struct OnScale {
    /// Amount added since the last addition, g.
    pub grams: Result<f64, NotYet>,
    /// True for a simulated scale although the tins are real.
    pub practice: bool,
}

impl StepEntry {
    /// True if the scale determines the amount.
    pub fn is_by_scale(&self) -> bool {
        matches!(self.measure, PouredBy::Scale | PouredBy::ScaleTouch)
    }

    /// Adds the step to a record: `tin` is the tin added, `touch` the size of a touch in ml. Repeating a step changes
    /// nothing.
    pub fn taken_down(
        &self,
        record: PourRecord,
        tin: Option<&ShelfPaint>,
        on_scale: OnScale,
        touch: f64,
        at: Timestamp,
    ) -> Result<PourRecord, Refusal> {
        if record.steps().iter().any(|known| known.id == self.id) {
            return Ok(record);
        }
        let action = self.action(tin, on_scale, touch)?;
        record.with(PourEvent { id: self.id, at, action }).map_err(|error| refused(&error))
    }

    /// Effect on the pot: `tin` is the tin added, `touch` the size of a touch in ml.
    fn action(&self, tin: Option<&ShelfPaint>, on_scale: OnScale, touch: f64) -> Result<PourAction, Refusal> {
        let mut checks = Checks::default();
        let count = || {
            let count = self.count.filter(|count| count.is_finite() && *count > 0.0);
            count.ok_or("enter an amount above zero")
        };
        let Some((paint, tin)) = self.paint.zip(tin) else {
            let ml = match self.measure {
                PouredBy::In(measure) => Ok(measure.millilitres()),
                _ => Err("enter what you take out in ml or spoons, not by weight"),
            };
            let ml = checks.field("/measure", ml).zip(checks.field("/count", count()));
            return checks.done(ml.map(|(ml, count)| PourAction::TakenOut { ml: ml * count }));
        };
        let density = tin.density();
        let (ml, said) = match self.measure {
            PouredBy::Grams => {
                let grams = checks.field("/count", count());
                let grams = checks.done(grams)?;
                (grams / density, AmountAsEntered::Weighed(grams))
            }
            PouredBy::Scale | PouredBy::ScaleTouch => {
                let grams = on_scale.grams.map_err(|why| Refusal::Device(why.to_string()))?;
                let said = match self.measure {
                    _ if on_scale.practice => AmountAsEntered::Practised(grams),
                    PouredBy::ScaleTouch => AmountAsEntered::WeighedTouch(grams),
                    _ => AmountAsEntered::Weighed(grams),
                };
                (grams / density, said)
            }
            PouredBy::Touch => (touch, AmountAsEntered::Touch),
            PouredBy::In(measure) => {
                let count = checks.field("/count", count());
                let count = checks.done(count)?;
                (count * measure.millilitres(), AmountAsEntered::Counted(count, measure))
            }
        };
        Ok(PourAction::Added { paint: PaintId(paint), ml, said })
    }
}

impl ShelfSnapshot {
    /// A pot in the list.
    pub fn pour_line(&self, kept: &Kept<PourRecord>, look: Look) -> Result<PourLine, Refusal> {
        let record = &kept.value;
        let poured = self.stirred(&record.parts())?;
        let part = |part: &MixPart| format!("{} {}", part.parts.value(), self.name(part.paint.0));
        Ok(PourLine {
            id: kept.id,
            code: label::code(kept.id),
            mix: record.mix.0,
            name: record.name.clone().map(String::from),
            begun_at: kept.made_at.to_string(),
            open: record.finished_at.is_none(),
            total_ml: record.total(),
            recipe: record.recipe().iter().map(part).collect::<Vec<_>>().join(" : "),
            hex: poured.map(|poured| look.hex(poured.best())),
            jar_ml: record.jar().map(Jar::left),
        })
    }
}

impl PotLabel {
    /// The label of a pot, with the date in a time zone.
    pub fn of(
        kept: &Kept<PourRecord>,
        known: &ShelfSnapshot,
        look: Look,
        unit: AmountsIn,
        zone: jiff::tz::TimeZone,
    ) -> Result<Self, Refusal> {
        let record = &kept.value;
        // What is left in a jar, where there is one.
        let left = record.jar().map(Jar::left).filter(|ml| *ml > 0.0);
        let held = left.unwrap_or_else(|| record.total());
        let of_held = held / record.total().max(f64::MIN_POSITIVE);
        let mut inside = record.inside();
        inside.iter_mut().for_each(|(_, ml)| *ml *= of_held);
        let amounts: Vec<f64> = inside.iter().map(|(_, ml)| *ml).collect();
        let recipe = warm_blend_paint::measurable(&amounts);
        let mut grams = 0.0;
        let part = |(parts, (paint, ml)): (&WholeParts, &(PaintId, f64))| {
            let tin = &known.tin(paint.0)?.value;
            grams += ml * tin.density();
            Ok(LabelPart {
                name: tin.name.as_str().to_owned(),
                parts: parts.value(),
                ml: *ml,
                amount: unit.say(*ml, tin.density()),
            })
        };
        let parts = recipe.iter().zip(&inside).map(part).collect::<Result<Vec<_>, Refusal>>()?;
        let day = kept.made_at.to_zoned_datetime(zone.clone()).date();
        let code = label::code(kept.id);
        let name = record.name.clone().map(String::from);
        let place = record.place.clone().map(String::from);
        // With the combined density of its tins.
        let total = unit.say(held, grams / held.max(f64::MIN_POSITIVE));
        let units = match unit {
            AmountsIn::In(measure) => Units::system_of(measure),
            AmountsIn::Grams => None,
        };
        let whole = units.unwrap_or_default().say_volume(held);
        let text = label::text(name.as_deref(), &parts, &whole, &day.to_string(), place.as_deref(), &code);
        let (code_size, code_path) = label::square(&text).ok_or(Refusal::Broken)?;
        Ok(Self {
            id: kept.id,
            name,
            day: day.to_string(),
            code,
            place,
            client: record.jar().and_then(|jar| jar.client.clone()).map(String::from),
            until: record.jar().map(|jar| known.keeping(record, jar, day, &zone).until.to_string()),
            total_ml: held,
            total,
            parts,
            swatch: known.swatch_of(&record.parts(), look)?,
            text,
            code_size,
            code_path,
            page: None,
        })
    }

    /// With its page, at this address of the program.
    pub fn opened_at(mut self, address: Option<&str>) -> Self {
        let page = if self.until.is_some() { "jars" } else { "label" };
        let address = address.map(|address| format!("{address}/{page}/{}", self.id));
        self.page = address.and_then(|address| {
            let (size, path) = label::square(&address)?;
            Some(PageSquare { address, size, path })
        });
        self
    }
}

/// Saves a record. Finishing it subtracts the amounts from the stock of its tins, as far as that is known; reopening it
/// restores them.
pub fn keep_pour<D: Documents>(
    documents: &mut D,
    before: Kept<PourRecord>,
    mut next: PourRecord,
) -> Result<Kept<PourRecord>, D::Error> {
    // Amount by which each stock decreases, ml.
    let less = match (before.value.finished_at, next.finished_at) {
        (None, Some(_)) => next.used_up(),
        (Some(_), None) => {
            std::mem::take(&mut next.taken).into_iter().map(|(paint, ml)| (paint, -ml)).collect()
        }
        _ => Vec::new(),
    };
    let mut tins = Vec::new();
    for (paint, ml) in less {
        let tin = documents.get::<ShelfPaint>(paint.0)?;
        let Some(stock) = tin.value.stock.filter(|_| !tin.removed).map(Millilitres::value) else { continue };
        let Ok(left) = Millilitres::new((stock - ml).max(0.0)) else { continue };
        if left.value() < stock {
            next.taken.push((paint, stock - left.value()));
        }
        tins.push((tin, left));
    }
    // The pot comes first, because undo is named after it.
    let kept = documents.change(before.id, before.revision, next)?;
    for (tin, left) in tins {
        documents.change(tin.id, tin.revision, ShelfPaint { stock: Some(left), ..tin.value })?;
    }
    Ok(kept)
}
