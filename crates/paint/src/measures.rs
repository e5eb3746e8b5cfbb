//! Parts as a painter measures them: in cups, spoons, fluid ounces or millilitres, and what rounding to them does.

use serde::{Deserialize, Serialize};
use warm_blend_spectral::{Light, difference};

use crate::quantity::in_range;
use crate::{BadMeasure, Material, Millilitres, NothingToMix, Parts, mix};

/// Something to measure with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Measure {
    /// US gallon.
    Gallon,
    /// US liquid quart.
    Quart,
    /// US liquid pint.
    Pint,
    /// US cup of 8 fl oz.
    Cup,
    /// US fluid ounce.
    #[serde(rename = "fl-oz")]
    #[strum(serialize = "fl-oz")]
    FluidOunce,
    /// US tablespoon.
    #[serde(rename = "tbsp")]
    #[strum(serialize = "tbsp")]
    Tablespoon,
    /// US teaspoon.
    #[serde(rename = "tsp")]
    #[strum(serialize = "tsp")]
    Teaspoon,
    /// The scoop of a powder tub: a level tablespoon†.
    Scoop,
    /// Litre.
    Litre,
    /// Millilitre, as on a syringe.
    #[serde(rename = "ml")]
    #[strum(serialize = "ml")]
    Millilitre,
    /// A drop: a twentieth of a millilitre†.
    Drop,
}

impl Measure {
    /// From the largest of either system to the smallest.
    pub const ALL: [Measure; 11] = [
        Measure::Gallon,
        Measure::Quart,
        Measure::Pint,
        Measure::Cup,
        Measure::FluidOunce,
        Measure::Tablespoon,
        Measure::Teaspoon,
        Measure::Scoop,
        Measure::Litre,
        Measure::Millilitre,
        Measure::Drop,
    ];

    /// So many of it: what is wrong with a count is said of the count, not of what it comes to in ml.
    pub fn times(self, count: f64) -> Result<Millilitres, BadMeasure> {
        Millilitres::new(
            in_range(count, 0.0, (Millilitres::MOST / self.millilitres()).floor())? * self.millilitres(),
        )
    }

    /// What it holds, ml: the factors of NIST Special Publication 811 (2008), appendix B.8, to their digits.
    pub const fn millilitres(self) -> f64 {
        match self {
            Measure::Gallon => 3785.412,
            Measure::Quart => 946.3529,
            Measure::Pint => 473.1765,
            Measure::Cup => 236.5882,
            Measure::FluidOunce => 29.57353,
            Measure::Tablespoon | Measure::Scoop => 14.78676,
            Measure::Teaspoon => 4.928922,
            Measure::Litre => 1000.0,
            Measure::Millilitre => 1.0,
            Measure::Drop => 0.05,
        }
    }

    /// `cup`, `fl-oz`, `tbsp` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// What it is called, of one and of many.
    pub const fn names(self) -> [&'static str; 2] {
        match self {
            Measure::Gallon => ["gallon", "gallons"],
            Measure::Quart => ["quart", "quarts"],
            Measure::Pint => ["pint", "pints"],
            Measure::Cup => ["cup", "cups"],
            Measure::FluidOunce => ["fl oz", "fl oz"],
            Measure::Tablespoon => ["tbsp", "tbsp"],
            Measure::Teaspoon => ["tsp", "tsp"],
            Measure::Scoop => ["scoop", "scoops"],
            Measure::Litre => ["litre", "litres"],
            Measure::Millilitre => ["ml", "ml"],
            Measure::Drop => ["drop", "drops"],
        }
    }

    /// What to measure additions to so much with, in the same system: the largest of which a quarter (or one, of a
    /// millilitre or a drop) is a sixtieth of the pot at most†.
    pub fn for_additions(self, pot: Millilitres) -> Measure {
        let metric = matches!(self, Measure::Litre | Measure::Millilitre | Measure::Drop);
        let spoons = [Measure::Cup, Measure::FluidOunce, Measure::Tablespoon, Measure::Teaspoon];
        let metric_ones = [Measure::Millilitre];
        let choices: &[Measure] = if metric { &metric_ones } else { &spoons };
        let fine = |measure: &&Measure| measure.least() <= pot.value() / 60.0;
        choices.iter().find(fine).copied().unwrap_or(Measure::Drop)
    }

    /// The least that can be measured with it, ml.
    pub const fn least(self) -> f64 {
        self.finest() * self.millilitres()
    }

    /// The smallest share of it that can be measured with it†: a syringe and a drop only whole, a spoon in quarters.
    const fn finest(self) -> f64 {
        match self {
            Measure::Millilitre | Measure::Drop => 1.0,
            Measure::Litre => 0.1,
            Measure::Scoop => 0.5,
            _ => 0.25,
        }
    }
}

/// A batch measured out in one kind of measure.
#[derive(Debug, Clone, PartialEq)]
pub struct Rounded {
    /// What it is measured with.
    pub measure: Measure,
    /// How many of it, by component.
    pub counts: Vec<f64>,
    /// What the batch comes to, ml.
    pub total: f64,
    /// That over what was asked for.
    pub ratio: f64,
    /// How far the rounding moves the colour, ΔE00.
    pub shift: f64,
}

impl Rounded {
    /// How much of each component it is, ml.
    pub fn amounts(&self) -> impl Iterator<Item = f64> {
        self.counts.iter().map(|count| count * self.measure.millilitres())
    }

    /// Whether it is as much as was asked for, near enough.
    pub fn keeps_the_batch(&self) -> bool {
        (self.ratio - 1.0).abs() <= KEPT
    }

    /// The number of times something is dipped and levelled: each started measure counts.
    fn spoonfuls(&self) -> f64 {
        self.counts.iter().map(|count| count.ceil()).sum()
    }
}

/// From which shift on nobody sees a rounding, ΔE00.
const UNSEEN: f64 = 0.5;
/// How far a batch may be off what was asked for and still be called that.
const KEPT: f64 = 0.05;
/// Most spoonfuls that anybody counts†.
const COUNTED: f64 = 60.0;

/// A batch of a mix in each measure, rounded to what can be measured with it: those whose rounding nobody sees first, by how
/// few spoonfuls they take; then the rest by how little they move the colour; last those that come to more or less than was
/// asked for. Measures in which a part would be none, or
/// that would have to be counted past sixty, are left out.
pub fn measured(
    components: &[(Parts, &Material)],
    batch: Millilitres,
    measures: &[Measure],
    light: Light,
) -> Result<Vec<Rounded>, NothingToMix> {
    let exact = mix(components)?.seen_lab(light);
    let total: f64 = components.iter().map(|(parts, _)| parts.value()).sum();
    let mut all: Vec<Rounded> = measures
        .iter()
        .filter_map(|measure| {
            let step = measure.finest();
            let counts: Vec<f64> = components
                .iter()
                .map(|(parts, _)| {
                    let ml = batch.value() * parts.value() / total;
                    (ml / measure.millilitres() / step).round() * step
                })
                .collect();
            let poured: Vec<(Parts, &Material)> = counts
                .iter()
                .zip(components)
                .map(|(count, (_, material))| Some((Parts::new(*count).ok()?, *material)))
                .collect::<Option<_>>()?;
            let shift = difference(mix(&poured).ok()?.seen_lab(light), exact).value();
            let total = counts.iter().sum::<f64>() * measure.millilitres();
            let ratio = total / batch.value();
            let rounded = Rounded { measure: *measure, counts, total, ratio, shift };
            (rounded.spoonfuls() <= COUNTED || *measure == Measure::Millilitre).then_some(rounded)
        })
        .collect();
    let rank = |rounded: &Rounded| match rounded.shift < UNSEEN {
        _ if !rounded.keeps_the_batch() => (2, rounded.ratio.ln().abs()),
        // A syringe takes one pull however many millilitres.
        true if rounded.measure == Measure::Millilitre => (0, 12.0),
        true => (0, rounded.spoonfuls()),
        false => (1, rounded.shift),
    };
    all.sort_by(|one, other| {
        let (one, other) = (rank(one), rank(other));
        one.0.cmp(&other.0).then(one.1.total_cmp(&other.1))
    });
    Ok(all)
}

/// An amount in a measure, as it is said: `1½ cups`.
pub fn amount(ml: f64, measure: Measure) -> String {
    let count = ml / measure.millilitres();
    let [one, many] = measure.names();
    format!("{} {}", counted((count * 1e6).round() / 1e6), if count <= 1.0 + 1e-9 { one } else { many })
}

/// About so much in a measure, to the least that can be measured with it: `3¼ tsp`, `under ¼ tsp`.
pub fn about(ml: f64, measure: Measure) -> String {
    let least = measure.least();
    match (ml / least).round() {
        steps if steps > 0.0 => amount(steps * least, measure),
        _ if ml <= 0.0 => amount(0.0, measure),
        _ => format!("under {}", amount(least, measure)),
    }
}

/// A number of measures as it is said: `1½`, `¾`, `12`.
fn counted(count: f64) -> String {
    let whole = count.floor();
    let rest = match ((count - whole) * 4.0).round() as u32 {
        _ if (count * 4.0 - (count * 4.0).round()).abs() > 1e-9 => return format!("{count:.1}"),
        1 => "¼",
        2 => "½",
        3 => "¾",
        _ => "",
    };
    if whole == 0.0 && !rest.is_empty() { rest.to_owned() } else { format!("{whole}{rest}") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Class, CoatsToHide, Masstone};
    use proptest::prelude::*;

    fn chalk(code: &str) -> Material {
        let masstone = Masstone::Hex(code.parse().unwrap());
        Material::of(Class::Chalk, Some(masstone), Some(CoatsToHide::new(2.0).unwrap())).unwrap()
    }

    /// So many of a measure come to as much; what is wrong is told of the count, in the measure it was given in.
    #[test]
    fn counts_are_found_fault_with_as_they_were_given() {
        for measure in Measure::ALL {
            assert_eq!(measure.times(1.0).unwrap().value(), measure.millilitres());
            assert_eq!(measure.times(0.0).unwrap().value(), 0.0);
            assert_eq!(measure.times(-2.0), Err(BadMeasure::TooSmall(-2.0, 0.0)));
            assert_eq!(measure.times(f64::NAN), Err(BadMeasure::NotANumber));
            assert_eq!(measure.times(f64::INFINITY), Err(BadMeasure::NotANumber));
            let Err(BadMeasure::TooLarge(given, most)) = measure.times(3e7) else { panic!("{measure:?}") };
            assert_eq!(given, 3e7);
            assert!(measure.times(most).is_ok() && measure.times(most + 1.0).is_err());
        }
    }

    /// A gallon and a quart are 4 : 1, 6 and 2 fl oz are 3 : 1 of a cup (common practice, and NIST SP 811).
    #[test]
    fn the_trades_own_examples() {
        let ratio = |a: Measure, b: Measure| a.millilitres() / b.millilitres();
        assert!((ratio(Measure::Gallon, Measure::Quart) - 4.0).abs() < 1e-6);
        assert!((ratio(Measure::Cup, Measure::FluidOunce) - 8.0).abs() < 1e-5);
        assert!((ratio(Measure::Tablespoon, Measure::Teaspoon) - 3.0).abs() < 1e-5);
        assert!((ratio(Measure::FluidOunce, Measure::Tablespoon) - 2.0).abs() < 1e-6);
        assert!((ratio(Measure::Quart, Measure::Pint) - 2.0).abs() < 1e-6);

        let (grey, navy) = (chalk("#a79f92"), chalk("#26324a"));
        let pot = [(Parts::of(3.0), &grey), (Parts::of(1.0), &navy)];
        let batch = Millilitres::new(Measure::Cup.millilitres()).unwrap();
        let rounded = measured(&pot, batch, &[Measure::FluidOunce], Light::Daylight).unwrap();
        assert_eq!(rounded[0].counts, [6.0, 2.0]);
        assert!(rounded[0].shift < 1e-9 && (rounded[0].total - batch.value()).abs() < 0.01);
        // Of a quarter of a fluid ounce nobody measures a part in cups.
        let little = Millilitres::new(8.0).unwrap();
        assert!(measured(&pot, little, &[Measure::Cup], Light::Daylight).unwrap().is_empty());
        assert_eq!(measured(&[], batch, &Measure::ALL, Light::Daylight), Err(NothingToMix));
    }

    /// Three equal parts of a cup are no three quarter pints, eight parts of two cups no two pints: such a way comes last, with
    /// what it comes to.
    #[test]
    fn a_way_that_does_not_keep_the_batch_is_the_last() {
        let (red, buff, blue) = (chalk("#7c3a34"), chalk("#cdb58a"), chalk("#53687a"));
        let batch = Millilitres::new(Measure::Cup.millilitres()).unwrap();
        let pot = [&red, &buff, &blue].map(|paint| (Parts::of(1.0), paint));
        let ways =
            measured(&pot, batch, &[Measure::Pint, Measure::Litre, Measure::Tablespoon], Light::Daylight)
                .unwrap();
        assert_eq!(
            ways.iter().map(|way| way.measure).collect::<Vec<_>>(),
            [Measure::Tablespoon, Measure::Litre, Measure::Pint]
        );
        assert!(ways[0].keeps_the_batch() && !ways[1].keeps_the_batch() && !ways[2].keeps_the_batch());
        assert!((ways[2].total - 354.88).abs() < 0.01 && (ways[1].total - 300.0).abs() < 1e-9);
        assert!((ways[2].amounts().sum::<f64>() - ways[2].total).abs() < 1e-9);
    }

    #[test]
    fn additions_are_measured_finely() {
        let finer = |measure: Measure, ml: f64| measure.for_additions(Millilitres::new(ml).unwrap());
        assert_eq!(finer(Measure::Cup, 236.6), Measure::Tablespoon);
        assert_eq!(finer(Measure::Gallon, 3785.0), Measure::Cup);
        assert_eq!(finer(Measure::Teaspoon, 90.0), Measure::Teaspoon);
        assert_eq!(finer(Measure::Teaspoon, 5.0), Measure::Drop);
        assert_eq!(finer(Measure::Litre, 500.0), Measure::Millilitre);
    }

    #[test]
    fn numbers_are_said_as_spoons_are_marked() {
        let said = [0.25, 0.5, 1.75, 2.0, 12.0, 0.3].map(counted);
        assert_eq!(said, ["¼", "½", "1¾", "2", "12", "0.3"]);
        let tsp = |ml| about(ml, Measure::Teaspoon);
        assert_eq!([16.0, 0.4, 0.0].map(tsp), ["3¼ tsp", "under ¼ tsp", "0 tsp"]);
    }

    proptest! {
        /// What is measured out is the batch to within half a step of each, and its shift is that of its counts.
        #[test]
        fn the_batch_comes_out(a in 1u32..12, b in 1u32..12, ml in 20.0..2000.0f64) {
            let (one, other) = (chalk("#e9dfc8"), chalk("#7c8a5f"));
            let pot = [(Parts::of(f64::from(a)), &one), (Parts::of(f64::from(b)), &other)];
            for rounded in measured(&pot, Millilitres::new(ml).unwrap(), &Measure::ALL, Light::Daylight).unwrap() {
                let step = rounded.measure.finest() * rounded.measure.millilitres();
                prop_assert!((rounded.total - ml).abs() <= step + 1e-6);
                prop_assert!(rounded.counts.iter().all(|count| *count > 0.0));
                let poured = [(Parts::of(rounded.counts[0]), &one), (Parts::of(rounded.counts[1]), &other)];
                let shift = difference(mix(&poured).unwrap().seen_lab(Light::Daylight), mix(&pot).unwrap().seen_lab(Light::Daylight)).value();
                prop_assert!((shift - rounded.shift).abs() < 1e-9);
            }
        }
    }
}
