//! Parts in a painter's measures (cups, spoons, fluid ounces, millilitres), and the effect of rounding to them.

use serde::{Deserialize, Serialize};
use strum::VariantArray as _;
use warm_blend_spectral::{Light, difference};

use crate::quantity::in_range;
use crate::{BadMeasure, Material, Millilitres, NothingToMix, Parts, mix};

/// A unit of volume that a painter measures with.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, strum::IntoStaticStr, strum::VariantArray,
)]
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
    /// All measures, largest first, of both systems.
    pub const ALL: [Self; Self::VARIANTS.len()] = *Self::VARIANTS.as_array().unwrap();

    /// Volume of `count` of this measure. An error names the count, not the volume.
    pub fn times(self, count: f64) -> Result<Millilitres, BadMeasure> {
        Millilitres::new(
            in_range(count, 0.0, (Millilitres::MOST / self.millilitres()).floor())? * self.millilitres(),
        )
    }

    /// Volume in ml, exact: a US gallon is 231 cubic inches of 25.4 mm (NIST Special Publication 811 (2008), appendix
    /// B.6), and every smaller measure a whole fraction of it.
    pub const fn millilitres(self) -> f64 {
        const GALLON: f64 = 231.0 * 16.387_064;
        match self {
            Measure::Gallon => GALLON,
            Measure::Quart => GALLON / 4.0,
            Measure::Pint => GALLON / 8.0,
            Measure::Cup => GALLON / 16.0,
            Measure::FluidOunce => GALLON / 128.0,
            Measure::Tablespoon | Measure::Scoop => GALLON / 256.0,
            Measure::Teaspoon => GALLON / 768.0,
            Measure::Litre => 1000.0,
            Measure::Millilitre => 1.0,
            Measure::Drop => 0.05,
        }
    }

    /// `cup`, `fl-oz`, `tbsp` …
    pub fn id(self) -> &'static str {
        self.into()
    }

    /// Names, singular and plural.
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

    /// Measure for additions to a pot, in the same system: the largest whose least amount (a quarter, or one millilitre
    /// or drop) is at most a sixtieth of the pot†.
    pub fn for_additions(self, pot: Millilitres) -> Measure {
        let metric = matches!(self, Measure::Litre | Measure::Millilitre | Measure::Drop);
        let spoons = [Measure::Cup, Measure::FluidOunce, Measure::Tablespoon, Measure::Teaspoon];
        let metric_ones = [Measure::Millilitre];
        let choices: &[Measure] = if metric { &metric_ones } else { &spoons };
        let fine = |measure: &&Measure| measure.least() <= pot.value() / 60.0;
        choices.iter().find(fine).copied().unwrap_or(Measure::Drop)
    }

    /// Least amount that can be measured with it, ml.
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

/// A batch in one measure, or in a larger and a smaller one.
#[derive(Debug, Clone, PartialEq)]
pub struct Rounded {
    /// The measure.
    pub measure: Measure,
    /// Number of measures of each component.
    pub counts: Vec<f64>,
    /// A smaller measure for the remainder, and the number of each component.
    pub and: Option<(Measure, Vec<f64>)>,
    /// Volume of the rounded batch, ml.
    pub total: f64,
    /// Volume of the rounded batch divided by the volume asked for.
    pub ratio: f64,
    /// Colour difference caused by rounding, ΔE00.
    pub shift: f64,
}

impl Rounded {
    /// Volume of each component, ml.
    pub fn amounts(&self) -> impl Iterator<Item = f64> {
        self.counts.iter().enumerate().map(|(i, count)| {
            let rest = self.and.as_ref().map_or(0.0, |(measure, rest)| rest[i] * measure.millilitres());
            count * self.measure.millilitres() + rest
        })
    }

    /// Amount of each component as text: `3 tbsp and 4 drops`.
    pub fn words(&self) -> Vec<String> {
        let word = |(i, count): (usize, &f64)| {
            let rest = self.and.as_ref().map(|(measure, rest)| (*measure, rest[i]));
            let said = |(measure, count): (Measure, f64)| amount(count * measure.millilitres(), measure);
            let [whole, rest] = [Some((self.measure, *count)), rest].map(|of| of.filter(|(_, n)| *n > 0.0));
            [whole, rest].into_iter().flatten().map(said).collect::<Vec<_>>().join(" and ")
        };
        self.counts.iter().enumerate().map(word).collect()
    }

    /// True if the rounded batch is close enough to the volume asked for.
    pub fn keeps_the_batch(&self) -> bool {
        (self.ratio - 1.0).abs() <= KEPT
    }

    /// The number of times something is dipped and levelled: each started measure counts.
    fn spoonfuls(&self) -> f64 {
        let rest = self.and.iter().flat_map(|(_, rest)| rest);
        self.counts.iter().chain(rest).map(|count| count.ceil()).sum()
    }
}

/// A larger measure and the smaller one that its rest is measured with.
const TOGETHER: [(Measure, Measure); 5] = [
    (Measure::Cup, Measure::Tablespoon),
    (Measure::FluidOunce, Measure::Teaspoon),
    (Measure::Tablespoon, Measure::Teaspoon),
    (Measure::Tablespoon, Measure::Drop),
    (Measure::Teaspoon, Measure::Drop),
];

/// From which shift on nobody sees a rounding, ΔE00.
const UNSEEN: f64 = 0.5;
/// How far a batch may be off what was asked for and still be called that.
const KEPT: f64 = 0.05;
/// Most spoonfuls that anybody counts†.
const COUNTED: f64 = 60.0;

/// Ways to measure a batch of a mix, each rounded to what can be measured. First come those whose rounding cannot be
/// seen, fewest measures first; then the rest by how little the colour changes; last those that make too much or too
/// little. Two measures are combined where one alone is not close enough. Left out: measures that would round a component
/// to nothing or need more than sixty of it, and less than a litre in litres. A component listed in `at_most` is limited
/// to that many ml.
pub fn measured(
    components: &[(Parts, &Material)],
    batch: Millilitres,
    measures: &[Measure],
    at_most: Option<(usize, f64)>,
    light: Light,
) -> Result<Vec<Rounded>, NothingToMix> {
    let exact = mix(components)?.seen_lab(light);
    let total: f64 = components.iter().map(|(parts, _)| parts.value()).sum();
    let wanted: Vec<f64> =
        components.iter().map(|(parts, _)| batch.value() * parts.value() / total).collect();
    let most = |i: usize| at_most.filter(|(at, _)| *at == i).map_or(f64::INFINITY, |(_, most)| most);
    // Whole steps of a measure: the nearest, or as many as there are.
    let steps = |ml: f64, most: f64, measure: Measure, whole: bool| {
        let step = if whole { 1.0 } else { measure.finest() };
        let [ml, most] = [ml, most].map(|ml| ml / measure.millilitres() / step);
        (if most - ml < 0.5 { (ml.min(most) + 1e-9).floor() } else { ml.round() }) * step
    };
    let finished = |measure: Measure, counts: Vec<f64>, and: Option<(Measure, Vec<f64>)>| {
        let mut rounded = Rounded { measure, counts, and, total: 0.0, ratio: 0.0, shift: 0.0 };
        let poured: Vec<(Parts, &Material)> = rounded
            .amounts()
            .zip(components)
            .map(|(ml, (_, material))| Some((Parts::new(ml).ok()?, *material)))
            .collect::<Option<_>>()?;
        rounded.shift = difference(mix(&poured).ok()?.seen_lab(light), exact).value();
        rounded.total = rounded.amounts().sum();
        rounded.ratio = rounded.total / batch.value();
        (rounded.spoonfuls() <= COUNTED || measure == Measure::Millilitre).then_some(rounded)
    };
    let will_do = |rounded: &Rounded| rounded.shift < UNSEEN && rounded.keeps_the_batch();
    let usable = |measure: &&Measure| **measure != Measure::Litre || batch.value() >= 1000.0;
    let alone = |measure: &Measure| {
        let count = |(i, ml): (usize, &f64)| steps(*ml, most(i), *measure, false);
        finished(*measure, wanted.iter().enumerate().map(count).collect(), None)
    };
    let mut all: Vec<Rounded> = measures.iter().filter(usable).filter_map(alone).collect();
    let pairs = TOGETHER.iter().filter(|(large, small)| measures.contains(large) && measures.contains(small));
    let together = pairs.filter_map(|(large, small)| {
        let whole = wanted.iter().map(|ml| (ml / large.least() + 1e-9).floor() * large.finest());
        let whole: Vec<f64> = whole.collect();
        let rest = wanted.iter().zip(&whole).enumerate().map(|(i, (ml, count))| {
            let poured = count * large.millilitres();
            steps((ml - poured).max(0.0), most(i) - poured, *small, *small == Measure::Drop).max(0.0)
        });
        let rest: Vec<f64> = rest.collect();
        let both = whole.iter().any(|count| *count > 0.0) && rest.iter().any(|count| *count > 0.0);
        finished(*large, whole, Some((*small, rest))).filter(|found| both && will_do(found))
    });
    let together: Vec<Rounded> = together.collect();
    // Where one spoon will do, nobody takes two.
    if !all.iter().any(|one| will_do(one) && one.measure != Measure::Millilitre) {
        all.extend(together);
    }
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

/// An amount in a measure as text: `1½ cups`.
pub fn amount(ml: f64, measure: Measure) -> String {
    let count = ml / measure.millilitres();
    let [one, many] = measure.names();
    format!("{} {}", counted((count * 1e6).round() / 1e6), if count <= 1.0 + 1e-9 { one } else { many })
}

/// An amount in a measure as text, rounded to what can be measured: `3¼ tsp`, `under ¼ tsp`.
pub fn about(ml: f64, measure: Measure) -> String {
    match about_count(ml, measure) {
        count if count > 0.0 => amount(count * measure.millilitres(), measure),
        _ if ml <= 0.0 => amount(0.0, measure),
        _ => format!("under {}", amount(measure.least(), measure)),
    }
}

/// Number of measures, rounded to what can be measured.
pub fn about_count(ml: f64, measure: Measure) -> f64 {
    (ml / measure.least()).round() * measure.least() / measure.millilitres()
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

    /// So many of a measure come to as much; what is wrong is reported the count, in the measure it was given in.
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
        let rounded = measured(&pot, batch, &[Measure::FluidOunce], None, Light::Daylight).unwrap();
        assert_eq!(rounded[0].counts, [6.0, 2.0]);
        assert!(rounded[0].shift < 1e-9 && (rounded[0].total - batch.value()).abs() < 0.01);
        // Of a quarter of a fluid ounce nobody measures a part in cups.
        let little = Millilitres::new(8.0).unwrap();
        assert!(measured(&pot, little, &[Measure::Cup], None, Light::Daylight).unwrap().is_empty());
        assert_eq!(measured(&[], batch, &Measure::ALL, None, Light::Daylight), Err(NothingToMix));
    }

    /// Three equal parts of a cup are no three quarter pints: such a way comes last, with what it comes to. Nobody measures a cup in tenths
    /// of a litre.
    #[test]
    fn a_way_that_does_not_keep_the_batch_is_the_last() {
        let (red, buff, blue) = (chalk("#7c3a34"), chalk("#cdb58a"), chalk("#53687a"));
        let batch = Millilitres::new(Measure::Cup.millilitres()).unwrap();
        let pot = [&red, &buff, &blue].map(|paint| (Parts::of(1.0), paint));
        let measures = [Measure::Pint, Measure::Litre, Measure::Tablespoon];
        let ways = measured(&pot, batch, &measures, None, Light::Daylight).unwrap();
        assert_eq!(
            ways.iter().map(|way| way.measure).collect::<Vec<_>>(),
            [Measure::Tablespoon, Measure::Pint]
        );
        assert!(ways[0].keeps_the_batch() && !ways[1].keeps_the_batch());
        assert!((ways[1].total - 354.88).abs() < 0.01);
        assert!((ways[1].amounts().sum::<f64>() - ways[1].total).abs() < 1e-9);
        let two_litres = Millilitres::new(2000.0).unwrap();
        let ways = measured(&pot[..2], two_litres, &[Measure::Litre], None, Light::Daylight).unwrap();
        assert_eq!(ways[0].counts, [1.0, 1.0]);
    }

    /// Eight teaspoons in three parts and one are six and two: nobody takes a second spoon for that.
    #[test]
    fn one_spoon_where_one_will_do() {
        let (grey, navy) = (chalk("#a79f92"), chalk("#26324a"));
        let pot = [(Parts::of(3.0), &grey), (Parts::of(1.0), &navy)];
        let ways =
            measured(&pot, Measure::Teaspoon.times(8.0).unwrap(), &Measure::ALL, None, Light::Daylight);
        let ways = ways.unwrap();
        assert!(ways.iter().all(|way| way.and.is_none()));
        assert_eq!(ways[0].words(), ["6 tsp", "2 tsp"]);
    }

    /// A little of a strong paint: three tablespoons of the one and a few drops of the other, where no spoon is as small (common
    /// practice).
    #[test]
    fn two_measures_where_they_come_closer() {
        let (cream, red) = (chalk("#e9dfc8"), chalk("#7c1a24"));
        let pot = [(Parts::of(60.0), &cream), (Parts::of(1.0), &red)];
        let batch = Millilitres::new(3.0 * Measure::Tablespoon.millilitres() * 61.0 / 60.0).unwrap();
        let at_hand = [Measure::Tablespoon, Measure::Drop];
        let ways = measured(&pot, batch, &at_hand, None, Light::Daylight).unwrap();
        let words: Vec<Vec<String>> = ways.iter().map(Rounded::words).collect();
        assert_eq!(words[0], ["3 tbsp", "15 drops"], "{words:?}");
        assert!(ways[0].shift < UNSEEN && ways[0].keeps_the_batch());
    }

    /// What is left of a paint is enough for what is measured out of it, and no step more would be.
    #[test]
    fn no_more_than_there_is() {
        let (one, other) = (chalk("#e9dfc8"), chalk("#7c8a5f"));
        let pot = [(Parts::of(2.0), &one), (Parts::of(1.0), &other)];
        for left in [7.4, 29.4, 73.0, 118.2, 355.0] {
            let batch = Millilitres::new(left * 1.5).unwrap();
            let ways = measured(&pot, batch, &Measure::ALL, Some((0, left)), Light::Daylight).unwrap();
            assert!(!ways.is_empty());
            for way in ways {
                let poured = way.amounts().next().unwrap();
                assert!(poured <= left + 1e-6, "{poured} of {left} in {:?}", way.measure);
            }
        }
    }

    /// Exactly as the gallon is divided: three teaspoons are a tablespoon, to the last bit that counts.
    #[test]
    fn shares_of_a_gallon_are_exact() {
        for (large, small, times) in [
            (Measure::Gallon, Measure::Quart, 4.0),
            (Measure::Cup, Measure::Tablespoon, 16.0),
            (Measure::FluidOunce, Measure::Tablespoon, 2.0),
            (Measure::Tablespoon, Measure::Teaspoon, 3.0),
        ] {
            let (whole, shares) = (large.times(1.0).unwrap().value(), small.times(times).unwrap().value());
            assert!((whole - shares).abs() <= whole * f64::EPSILON, "{large:?}");
        }
        // To the digits of NIST SP 811, appendix B.8.
        for (measure, ml) in
            [(Measure::Gallon, 3785.412), (Measure::FluidOunce, 29.57353), (Measure::Teaspoon, 4.928922)]
        {
            assert!((measure.millilitres() / ml - 1.0).abs() < 2e-7, "{measure:?}");
        }
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
            for rounded in measured(&pot, Millilitres::new(ml).unwrap(), &Measure::ALL, None, Light::Daylight).unwrap() {
                let finest = rounded.and.as_ref().map_or(rounded.measure, |(small, _)| *small);
                let step = finest.finest() * finest.millilitres();
                prop_assert!((rounded.total - ml).abs() <= step + 1e-6);
                let amounts: Vec<f64> = rounded.amounts().collect();
                prop_assert!(amounts.iter().all(|ml| *ml > 0.0));
                let poured = [(Parts::of(amounts[0]), &one), (Parts::of(amounts[1]), &other)];
                let shift = difference(mix(&poured).unwrap().seen_lab(Light::Daylight), mix(&pot).unwrap().seen_lab(Light::Daylight)).value();
                prop_assert!((shift - rounded.shift).abs() < 1e-9);
            }
        }
    }
}
