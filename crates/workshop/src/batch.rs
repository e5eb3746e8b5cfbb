//! Measuring a batch: amounts of each tin, cost and coverage.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;
use warm_blend_board::{Application, FLAT, Technique};
use warm_blend_learn::ShelfPaint;
use warm_blend_mixing::{self as mixing, MixtureKind};
use warm_blend_paint::{
    Class, Look, Material, Measure, Microns, Millilitres, MixPart, Parts, Rounded, Units,
};

use crate::{Refusal, ShelfSnapshot};

/// A batch to measure.
#[derive(Debug, Deserialize, ToSchema)]
pub struct BatchOf {
    /// Components.
    pub components: Vec<MixPart>,
    /// Number of `measure`; ignored for `left`.
    #[serde(default)]
    pub amount: f64,
    /// `gallon`, `quart`, `pint`, `cup`, `fl-oz`, `tbsp`, `tsp`, `scoop`, `litre`, `ml` or `drop`; `m2` or `ft2` of a
    /// surface; or `left` for all that is left of a paint.
    #[schema(value_type = String)]
    pub measure: BatchIn,
    /// Coats on the surface; by default 2.
    pub coats: Option<f64>,
    /// The paint to use up, for `left`.
    pub using_up: Option<Uuid>,
    /// Available measures; by default those of the workshop.
    #[serde(default)]
    pub owned: Vec<Measure>,
}

/// Unit of a batch size.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[serde(
    rename_all = "lowercase",
    expecting = "not a valid measure; use gallon, quart, pint, cup, fl-oz, tbsp, tsp, scoop, litre, ml, drop, m2, ft2 or left"
)]
pub enum BatchIn {
    /// Square metres of a surface.
    M2,
    /// Square feet of a surface.
    Ft2,
    /// Everything left of a paint.
    Left,
    /// A volume in this measure.
    #[serde(untagged)]
    In(Measure),
}

/// Ways to measure a batch.
#[derive(Debug, Serialize, ToSchema)]
pub struct BatchMeasured {
    /// Best first: those whose rounding does not show, fewest measures first; then by change of colour; then by weight;
    /// last those that make more or less than was asked for.
    pub ways: Vec<MeasuredOut>,
    /// Volume asked for, ml.
    pub ml: f64,
    /// How it is applied: `Coat, brushed`.
    pub put_on: &'static str,
    /// Cost of a coat on a square metre, applied like this.
    pub cost_per_m2: Option<f64>,
    /// Cost of a coat on a square foot.
    pub cost_per_ft2: Option<f64>,
}

/// A batch in one measure.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeasuredOut {
    /// The measure; `g` by weight.
    pub measure: &'static str,
    /// Amounts in the order of the components: `1½ cups`.
    pub amounts: Vec<String>,
    /// Volume of the batch, ml.
    pub ml: f64,
    /// Cost, if every price is known.
    pub cost: Option<f64>,
    /// Coverage of one coat, m².
    pub covers_m2: f64,
    /// Coverage of one coat, ft².
    pub covers_ft2: f64,
    /// Tins that do not contain enough.
    pub short: Vec<String>,
    /// Colour difference caused by rounding, ΔE00.
    pub shift: f64,
    /// The difference in words.
    pub words: String,
}

impl ShelfSnapshot {
    /// Measures a batch in cups, spoons, ounces or millilitres, with the effect of rounding on its colour.
    pub fn measure_out(&self, of: &BatchOf, look: Look) -> Result<BatchMeasured, Refusal> {
        let one = |(i, part): (usize, &MixPart)| {
            let (parts, known) = self.part(&format!("/components/{i}"), part)?;
            Ok((parts, known.best()))
        };
        let mixed: Vec<(Parts, &Material)> =
            of.components.iter().enumerate().map(one).collect::<Result<_, Refusal>>()?;
        let tins = of.tins(self)?;
        let shares = of.shares();
        let inside: Vec<(Class, f64)> =
            tins.iter().zip(&shares).map(|(tin, share)| (tin.class, *share)).collect();
        let technique = Technique::usual_for(MixtureKind::of(&inside));
        let film = technique.applied_over(Application::default(), &FLAT);
        let batch = of.batch(&tins, &shares, film)?;
        let at_hand = self.at_hand(&of.owned);
        let mut rounded = warm_blend_paint::measured(&mixed, batch, &at_hand, of.used_up(&tins), look.light)
            .map_err(|error| Refusal::field("/components", error))?;
        let exact: Vec<f64> = shares.iter().map(|share| batch.value() * share).collect();
        let by_weight = MeasuredOut::by_weight(&tins, &exact, film);
        let cost_per_m2 = by_weight.cost.map(|cost| cost / by_weight.covers_m2);
        // Measures of the requested system come first.
        let asked_in = of.measure.units();
        rounded.sort_by_key(|rounded| {
            let rank = match (Units::system_of(rounded.measure), asked_in) {
                (Some(own), Some(asked)) if own == asked => 0,
                (Some(_), Some(_)) => 2,
                _ => 1,
            };
            (!rounded.keeps_the_batch(), rank)
        });
        let units = asked_in.unwrap_or_default();
        let mut ways: Vec<MeasuredOut> =
            rounded.iter().map(|rounded| MeasuredOut::of(rounded, &tins, film, units)).collect();
        ways.insert(rounded.iter().take_while(|rounded| rounded.keeps_the_batch()).count(), by_weight);
        Ok(BatchMeasured {
            cost_per_ft2: cost_per_m2.map(|cost| cost * mixing::SQUARE_FOOT),
            cost_per_m2,
            put_on: technique.name(),
            ml: batch.value(),
            ways,
        })
    }

    /// Available measures: those requested, or the workshop's, or all.
    fn at_hand(&self, asked: &[Measure]) -> Vec<Measure> {
        match (asked, self.workshop.value.owned.as_slice()) {
            // Scoops are for powders.
            ([], []) => Measure::ALL.into_iter().filter(|measure| *measure != Measure::Scoop).collect(),
            ([], at_hand) => at_hand.to_vec(),
            (asked, _) => asked.to_vec(),
        }
    }
}

impl BatchIn {
    /// System of units of the request; `None` if a tin is used up.
    fn units(self) -> Option<Units> {
        match self {
            BatchIn::M2 => Some(Units::Metric),
            BatchIn::Ft2 => Some(Units::Imperial),
            BatchIn::Left => None,
            BatchIn::In(measure) => Units::system_of(measure),
        }
    }
}

impl BatchOf {
    fn tins<'a>(&self, shelf: &'a ShelfSnapshot) -> Result<Vec<&'a ShelfPaint>, Refusal> {
        let gone = || Refusal::field("/components", "a paint in this mix is no longer on the shelf");
        let tin = |part: &MixPart| {
            shelf.tin(part.paint.0).ok().filter(|tin| !tin.removed).map(|tin| &tin.value).ok_or_else(gone)
        };
        self.components.iter().map(tin).collect()
    }

    fn shares(&self) -> Vec<f64> {
        let total: f64 = self.components.iter().map(|part| f64::from(part.parts.value())).sum();
        self.components.iter().map(|part| f64::from(part.parts.value()) / total).collect()
    }

    /// Index of the paint to use up, and how much of it is left, ml.
    fn used_up(&self, tins: &[&ShelfPaint]) -> Option<(usize, f64)> {
        let at = self.components.iter().position(|part| Some(part.paint.0) == self.using_up)?;
        let left = tins[at].stock?.value();
        (self.measure == BatchIn::Left).then_some((at, left))
    }

    /// Volume of the batch.
    fn batch(&self, tins: &[&ShelfPaint], shares: &[f64], film: Microns) -> Result<Millilitres, Refusal> {
        let coats = self.coats.unwrap_or(2.0);
        let bad = |error: warm_blend_paint::BadMeasure| Refusal::field("/amount", error);
        let batch = match self.measure {
            BatchIn::M2 | BatchIn::Ft2 if !(0.5..=12.0).contains(&coats) => {
                return Err(Refusal::field("/coats", "enter 0.5 to 12 coats"));
            }
            BatchIn::M2 => mixing::for_area(self.amount, Units::Metric, coats, film).map_err(bad)?,
            BatchIn::Ft2 => mixing::for_area(self.amount, Units::Imperial, coats, film).map_err(bad)?,
            BatchIn::Left => {
                let which = self.components.iter().position(|part| Some(part.paint.0) == self.using_up);
                let at = which
                    .ok_or_else(|| Refusal::field("/using_up", "choose which paint of the mix to use up"))?;
                let left = tins[at].stock.filter(|left| left.value() > 0.0).ok_or_else(|| {
                    let name = tins[at].name.as_str();
                    Refusal::field(
                        "/using_up",
                        format!("no stock recorded for {name}; enter how much is left"),
                    )
                })?;
                mixing::using_up(left, shares[at]).map_err(bad)?
            }
            BatchIn::In(measure) => measure.times(self.amount).map_err(bad)?,
        };
        match batch.value() >= 1.0 {
            true => Ok(batch),
            false => Err(Refusal::field("/amount", "too small to measure; make at least 1 ml")),
        }
    }
}

impl MeasuredOut {
    fn of(rounded: &Rounded, tins: &[&ShelfPaint], film: Microns, units: Units) -> Self {
        let measure = rounded.measure;
        let poured: Vec<f64> = rounded.amounts().collect();
        let seen = match rounded.shift {
            shift if shift < 0.5 => "rounding won’t show".to_owned(),
            shift => format!("rounding shifts the colour by {shift:.1} ΔE00"),
        };
        let asked = rounded.total / rounded.ratio;
        Self {
            measure: measure.id(),
            amounts: rounded.words(),
            shift: rounded.shift,
            words: match rounded.keeps_the_batch() {
                true => seen,
                false => {
                    let [made, asked] = [rounded.total, asked].map(|ml| units.say_volume(ml));
                    format!("{seen}, but it makes {made}, not {asked}")
                }
            },
            ..Self::poured(tins, &poured, film)
        }
    }

    /// Amounts of each tin, cost, coverage, and tins that do not contain enough.
    fn poured(tins: &[&ShelfPaint], poured: &[f64], film: Microns) -> Self {
        let each = || tins.iter().zip(poured);
        let ml: f64 = poured.iter().sum();
        let covers = ml / mixing::per_square_metre(film);
        Self {
            measure: "ml",
            amounts: Vec::new(),
            ml,
            cost: each().map(|(tin, ml)| Some(tin.price_by_ml()? * ml)).sum(),
            covers_m2: covers,
            covers_ft2: covers / mixing::SQUARE_FOOT,
            short: each()
                .filter(|(tin, ml)| tin.stock.is_some_and(|stock| stock.value() < **ml))
                .map(|(tin, _)| tin.name.as_str().to_owned())
                .collect(),
            shift: 0.0,
            words: String::new(),
        }
    }

    /// The batch by weight.
    fn by_weight(tins: &[&ShelfPaint], poured: &[f64], film: Microns) -> Self {
        let (mut amounts, mut usual) = (Vec::new(), Vec::new());
        for (tin, ml) in tins.iter().zip(poured) {
            amounts.push(format!("{:.1} g", ml * tin.density()));
            if tin.specials.density.is_none() {
                usual.push(tin.name.as_str());
            }
        }
        let words = match usual.as_slice() {
            [] => "by weight".to_owned(),
            [one] => format!("by weight; typical density assumed for {one}"),
            _ => "by weight; typical densities assumed".to_owned(),
        };
        Self { measure: "g", amounts, words, ..Self::poured(tins, poured, film) }
    }
}
