//! Lengths, areas, volumes and weights as a painter writes them, metric or imperial.
//!
//! Internally everything is metric. Factors are exact: an inch is 25.4 mm, an avoirdupois ounce 28.349 523 125 g, a US
//! fluid ounce 29.573 529 562 5 ml (NIST Special Publication 811 (2008), appendix B.8).

use serde::Deserialize;

use crate::Measure;

/// mm in an inch.
const INCH: f64 = 25.4;
/// mm in a foot.
const FOOT: f64 = 12.0 * INCH;
/// g in an ounce.
const OUNCE: f64 = 28.349_523_125;
/// Most mm that are read: a kilometre.
const MOST: f64 = 1e6;

/// System of units.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Deserialize)]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Units {
    /// mm, m and m².
    #[default]
    Metric,
    /// Inches with their fractions, feet and square feet.
    Imperial,
}

/// Kind of length or area, with its units.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Dimension {
    /// Dimension of a piece, mm; a plain number is in mm or inches.
    Length,
    /// Length of edges, m; a plain number is in metres or feet.
    Run,
    /// Area, m²; a plain number is in square metres or square feet.
    Area,
}

/// A quantity with a linear scale, besides lengths and areas.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Quantity {
    /// Amount of paint, ml.
    Volume,
    /// Temperature, °C.
    Temperature,
}

/// A linear scale: a value in ml or °C is shown as `zero + value / one`.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scale {
    /// `ml`, `fl oz`, `°C` or `°F`.
    pub unit: &'static str,
    /// One unit in ml or kelvin.
    pub one: f64,
    /// Number shown for 0 ml or 0 °C.
    pub zero: f64,
    /// Decimal places to show.
    pub places: usize,
}

impl Scale {
    /// Number shown for a value.
    pub fn shown(&self, value: f64) -> f64 {
        self.zero + value / self.one
    }
}

/// A text that is not a measure.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BadLength {
    /// No number, or an unknown unit.
    #[error("“{0}” is not a valid {1}; enter a number with {2}")]
    Unread(String, &'static str, &'static str),
    /// Larger than any piece.
    #[error("“{0}” is too large for a piece")]
    TooMuch(String),
}

impl Units {
    /// System that a measure belongs to; `None` for drops and scoops, which belong to both.
    pub const fn system_of(measure: Measure) -> Option<Self> {
        match measure {
            Measure::Litre | Measure::Millilitre => Some(Units::Metric),
            Measure::Drop | Measure::Scoop => None,
            _ => Some(Units::Imperial),
        }
    }

    /// Unit of a plain number.
    pub const fn unit(self, what: Dimension) -> &'static str {
        match (self, what) {
            (Units::Metric, Dimension::Length) => "mm",
            (Units::Metric, Dimension::Run) => "m",
            (Units::Metric, Dimension::Area) => "m²",
            (Units::Imperial, Dimension::Length) => "in",
            (Units::Imperial, Dimension::Run) => "ft",
            (Units::Imperial, Dimension::Area) => "ft²",
        }
    }

    /// Converts to [`Units::unit`]: whole mm, eighths of an inch, two or three figures of the others. `value` is in mm, m
    /// or m².
    pub fn number(self, what: Dimension, value: f64) -> String {
        match (self, what) {
            (Units::Metric, Dimension::Length) => rounded(value, 0),
            (Units::Imperial, Dimension::Length) => eighths(value / INCH),
            (Units::Metric, Dimension::Run) => rounded(value, 1),
            (Units::Imperial, Dimension::Run) => {
                rounded(value * 1000.0 / FOOT, if value < 3.0 { 1 } else { 0 })
            }
            (Units::Metric, Dimension::Area) => rounded(value, 2),
            (Units::Imperial, Dimension::Area) => {
                let feet = value * 1e6 / (FOOT * FOOT);
                rounded(feet, if feet < 10.0 { 1 } else { 0 })
            }
        }
    }

    /// One [`Units::unit`] in mm, m or m².
    pub const fn one(self, what: Dimension) -> f64 {
        match (self, what) {
            (Units::Metric, _) => 1.0,
            (Units::Imperial, Dimension::Length) => INCH,
            (Units::Imperial, Dimension::Run) => FOOT / 1e3,
            (Units::Imperial, Dimension::Area) => FOOT * FOOT / 1e6,
        }
    }

    /// A measure with its unit: `914 mm`, `36 1/4 in`.
    pub fn say(self, what: Dimension, value: f64) -> String {
        match (self, what) {
            // What is smaller than the last figure is said in the smaller unit.
            (Units::Metric, Dimension::Area) if value < 0.01 => format!("{} cm²", rounded(value * 1e4, 0)),
            (Units::Imperial, Dimension::Area) if value * 1e6 < 0.1 * FOOT * FOOT => {
                format!("{} in²", rounded(value * 1e6 / (INCH * INCH), 0))
            }
            _ => format!("{} {}", self.number(what, value), self.unit(what)),
        }
    }

    /// An amount of paint: `260 ml`, `1.2 l`, `8.8 fl oz`, `1.1 qt`.
    pub fn say_volume(self, ml: f64) -> String {
        let of = |measure: Measure| ml / measure.millilitres();
        match self {
            Units::Metric if ml < 999.5 => format!("{} ml", rounded(ml, 0)),
            Units::Metric => format!("{} l", rounded(of(Measure::Litre), 2)),
            Units::Imperial if of(Measure::Quart) < 0.995 => {
                format!("{} fl oz", rounded(of(Measure::FluidOunce), 1))
            }
            Units::Imperial => format!("{} qt", rounded(of(Measure::Quart), 2)),
        }
    }

    /// A small amount of paint: `1.4 ml`, `0.05 fl oz`.
    pub fn say_drop(self, ml: f64) -> String {
        match self {
            Units::Metric => format!("{} ml", rounded(ml, 1)),
            Units::Imperial => format!("{} fl oz", rounded(ml / Measure::FluidOunce.millilitres(), 2)),
        }
    }

    /// A weight: `320 g`, `11.3 oz`.
    pub fn say_weight(self, grams: f64) -> String {
        match self {
            Units::Metric => format!("{} g", rounded(grams, 0)),
            Units::Imperial => format!("{} oz", rounded(grams / OUNCE, 1)),
        }
    }

    /// Scale on which a quantity is shown and typed.
    pub const fn scale(self, of: Quantity) -> Scale {
        const FLUID_OUNCE: f64 = Measure::FluidOunce.millilitres();
        match (self, of) {
            (Units::Metric, Quantity::Volume) => Scale { unit: "ml", one: 1.0, zero: 0.0, places: 1 },
            (Units::Imperial, Quantity::Volume) => {
                Scale { unit: "fl oz", one: FLUID_OUNCE, zero: 0.0, places: 2 }
            }
            (Units::Metric, Quantity::Temperature) => Scale { unit: "°C", one: 1.0, zero: 0.0, places: 1 },
            (Units::Imperial, Quantity::Temperature) => {
                Scale { unit: "°F", one: 5.0 / 9.0, zero: 32.0, places: 0 }
            }
        }
    }

    /// Converts the mm, ml and °C in a sentence: `a 450 × 300 mm panel` becomes `a 17 3/4 × 11 3/4 in panel`.
    pub fn restate(self, sentence: &str) -> String {
        if self == Units::Metric {
            return sentence.to_owned();
        }
        let words: Vec<&str> = sentence.split(' ').collect();
        let mut restated: Vec<String> = words.iter().map(|word| (*word).to_owned()).collect();
        let number = |at: Option<usize>| -> Option<(usize, f64)> {
            let at = at?;
            Some((at, words[at].replace('−', "-").parse().ok()?))
        };
        for (at, word) in words.iter().enumerate() {
            let unit = word.trim_end_matches([',', ';', '.', ':', ')', '”']);
            let Some((last, value)) = number(at.checked_sub(1)) else { continue };
            let Some((amount, own)) = self.instead(value, unit) else { continue };
            restated[at] = word.replacen(unit, own, 1);
            restated[last] = amount;
            let range = last.checked_sub(1).filter(|at| matches!(words[*at], "×" | "to" | "and"));
            // The first of two shares the unit of the second.
            if let Some((first, value)) = number(range.and_then(|at| at.checked_sub(1)))
                && let Some((amount, _)) = self.instead(value, unit)
            {
                restated[first] = amount;
            }
        }
        restated.join(" ")
    }

    /// A number of a metric unit as a number of one of these units, and that unit.
    fn instead(self, value: f64, unit: &str) -> Option<(String, &'static str)> {
        let scale = match unit {
            "mm" => return Some((self.number(Dimension::Length, value), self.unit(Dimension::Length))),
            "ml" => self.scale(Quantity::Volume),
            "°C" => self.scale(Quantity::Temperature),
            _ => return None,
        };
        Some((rounded(scale.shown(value), scale.places).replace('-', "−"), scale.unit))
    }

    /// Parses `914`, `91.4 cm`, `36 1/2 in`, `3 ft 2` or `2.5 m²` to mm, m or m². A number without a unit is in
    /// [`Units::unit`], or in inches if it follows feet.
    pub fn read(self, what: Dimension, text: &str) -> Result<f64, BadLength> {
        let usual = self.unit(what);
        let (named, remedy) = match what {
            Dimension::Area => ("area", "m², cm², ft² or in²"),
            _ => ("length", "mm, cm, m, in or ft"),
        };
        let shown: String = text.chars().take(40).collect();
        let unread = || BadLength::Unread(shown.clone(), named, remedy);
        let mut words = words(text).peekable();
        let (mut sum, mut any, mut after_feet) = (0.0, false, false);
        while words.peek().is_some() {
            let mut value = number(&words.next().unwrap_or_default()).ok_or_else(unread)?;
            // A whole number and a fraction are one: 36 1/2.
            if let Some(more) = words.next_if(|word| word.contains('/')) {
                value += number(&more).filter(|_| value.fract() == 0.0).ok_or_else(unread)?;
            }
            let unit = words.next_if(|word| !word.starts_with(|c: char| c.is_ascii_digit() || c == '.'));
            let factor = match &unit {
                Some(unit) => factor(what, unit).ok_or_else(unread)?,
                // What has no unit ends it.
                None if words.peek().is_some() => return Err(unread()),
                None if after_feet => INCH,
                None => factor(what, usual).ok_or_else(unread)?,
            };
            after_feet = what != Dimension::Area && factor == FOOT;
            sum += value * factor;
            any = true;
        }
        if !any {
            return Err(unread());
        }
        let whole = match what {
            Dimension::Length => 1.0,
            Dimension::Run => 1e3,
            Dimension::Area => 1e6,
        };
        // A kilometre, or a square of that.
        if sum > if what == Dimension::Area { MOST * MOST } else { MOST } {
            return Err(BadLength::TooMuch(shown));
        }
        Ok(sum / whole)
    }
}

/// So many mm, or mm².
fn factor(what: Dimension, unit: &str) -> Option<f64> {
    let unit = unit.to_lowercase();
    if what == Dimension::Area {
        return Some(match unit.as_str() {
            "mm²" | "mm2" => 1.0,
            "cm²" | "cm2" => 1e2,
            "m²" | "m2" | "sqm" => 1e6,
            "in²" | "in2" | "sqin" => INCH * INCH,
            "ft²" | "ft2" | "sqft" => FOOT * FOOT,
            _ => return None,
        });
    }
    Some(match unit.as_str() {
        "mm" => 1.0,
        "cm" => 10.0,
        "m" => 1e3,
        "in" | "inch" | "inches" | "\"" | "″" | "”" => INCH,
        "ft" | "foot" | "feet" | "'" | "′" | "’" => FOOT,
        _ => return None,
    })
}

/// Numbers and units apart, with commas as points: `3'2 1/2"` is 3, ', 2, 1/2, ".
fn words(text: &str) -> impl Iterator<Item = String> + use<> {
    let mut words: Vec<String> = Vec::new();
    let (mut previous, mut was_number) = (' ', false);
    for c in text.chars().map(|c| if c == ',' { '.' } else { c }) {
        // The 2 of ft2 belongs to its unit.
        let squares = c == '2' && previous.is_alphabetic();
        let of_number = (c.is_ascii_digit() || c == '.' || c == '/') && !squares;
        match words.last_mut().filter(|_| !previous.is_whitespace() && of_number == was_number) {
            _ if c.is_whitespace() => {}
            Some(word) => word.push(c),
            None => words.push(c.to_string()),
        }
        (previous, was_number) = (c, of_number);
    }
    // sq ft
    if let Some(at) = words.iter().position(|word| word.eq_ignore_ascii_case("sq"))
        && at + 1 < words.len()
    {
        let unit = words.remove(at + 1);
        words[at] += &unit;
    }
    words.into_iter()
}

/// `36.5`, `1/2`; not below nought.
fn number(word: &str) -> Option<f64> {
    let value = match word.split_once('/') {
        Some((above, below)) => {
            let (above, below): (u32, u32) = (above.parse().ok()?, below.parse().ok()?);
            f64::from(above) / f64::from(below)
        }
        None if word.starts_with(|c: char| c.is_ascii_digit() || c == '.') => word.parse().ok()?,
        None => return None,
    };
    value.is_finite().then_some(value)
}

/// Rounded, without noughts at the end.
fn rounded(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    match text.contains('.') {
        true => text.trim_end_matches('0').trim_end_matches('.').to_owned(),
        false => text,
    }
}

/// `36`, `36 1/2`, `3/8`.
fn eighths(inches: f64) -> String {
    let all = (8.0 * inches.max(0.0)).round();
    let (whole, part) = ((all / 8.0).floor(), all % 8.0);
    let (above, below) = match part as u32 {
        0 => return format!("{whole:.0}"),
        4 => (1, 2),
        n if n % 2 == 0 => (n / 2, 4),
        n => (n, 8),
    };
    if whole > 0.0 { format!("{whole:.0} {above}/{below}") } else { format!("{above}/{below}") }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    const ALL: [Dimension; 3] = [Dimension::Length, Dimension::Run, Dimension::Area];

    proptest! {
        /// More is never said to be less, and what is said is within half of its last figure.
        #[test]
        fn an_amount_is_said_as_it_is(ml in 0.0..5000.0f64) {
            for units in [Units::Metric, Units::Imperial] {
                let said = units.say_volume(ml);
                let (number, unit) = said.split_once(' ').unwrap();
                let (one, last) = match unit {
                    "ml" => (1.0, 1.0),
                    "l" => (1000.0, 10.0),
                    "fl oz" => (29.573_53, 2.957_353),
                    "qt" => (946.353, 9.463_53),
                    other => panic!("{other}"),
                };
                let back = number.parse::<f64>().unwrap() * one;
                prop_assert!((back - ml).abs() <= 0.501 * last, "{ml}: {said}");
            }
        }
    }

    #[test]
    fn amounts_of_paint() {
        let both = |ml| [Units::Metric.say_volume(ml), Units::Imperial.say_volume(ml)];
        assert_eq!(both(260.0), ["260 ml", "8.8 fl oz"]);
        assert_eq!(both(1200.0), ["1.2 l", "1.27 qt"]);
        assert_eq!(both(946.4), ["946 ml", "1 qt"]);
        assert_eq!(both(0.0), ["0 ml", "0 fl oz"]);
        assert_eq!([Units::Metric.say_drop(1.43), Units::Imperial.say_drop(1.43)], ["1.4 ml", "0.05 fl oz"]);
        assert!((Units::Imperial.one(Dimension::Area) - 0.092_903_04).abs() < 1e-12);
        assert_eq!(
            [Units::Metric.say_weight(320.0), Units::Imperial.say_weight(320.0)],
            ["320 g", "11.3 oz"]
        );
    }

    /// Freezing and boiling water, and a room: 0, 20 and 100 °C are 32, 68 and 212 °F exactly (NIST SP 811 (2008), appendix B.8).
    #[test]
    fn temperatures() {
        let both = |celsius: &str| [Units::Metric, Units::Imperial].map(|units| units.restate(celsius));
        assert_eq!(both("0 °C"), ["0 °C", "32 °F"]);
        assert_eq!(both("20 °C"), ["20 °C", "68 °F"]);
        assert_eq!(both("100 °C"), ["100 °C", "212 °F"]);
        assert_eq!(both("−30 °C"), ["−30 °C", "−22 °F"]);
    }

    #[test]
    fn sentences_are_restated() {
        let inches = |text: &str| Units::Imperial.restate(text);
        assert_eq!(
            inches("a 450 × 300 mm panel has no room for a 20 mm moulding; use less"),
            "a 17 3/4 × 11 3/4 in panel has no room for a 3/4 in moulding; use less"
        );
        assert_eq!(
            inches("90 °C is out of range; use −30 to 60 °C"),
            "194 °F is out of range; use −22 to 140 °F"
        );
        assert_eq!(inches("Poured 200 ml of “2 mm grey”"), "Poured 6.76 fl oz of “2 mm grey”");
        for same in ["mm", "in 3 passes", "a number mm", "", "  two  spaces "] {
            assert_eq!(inches(same), same);
        }
        assert_eq!(Units::Metric.restate("450 mm"), "450 mm");
    }

    proptest! {
        /// What has no metric unit in it stays, to the letter.
        #[test]
        fn other_words_stay(text in "[a-z0-9 ,.×]{0,40}") {
            let plain = text.replace("mm", "m").replace("ml", "l");
            prop_assert_eq!(Units::Imperial.restate(&plain), plain);
        }

        /// A scale is read back.
        #[test]
        fn a_scale_is_undone(value in -50.0..5000.0f64) {
            for units in [Units::Metric, Units::Imperial] {
                for of in [Quantity::Volume, Quantity::Temperature] {
                    let scale = units.scale(of);
                    prop_assert!(((scale.shown(value) - scale.zero) * scale.one - value).abs() < 1e-9);
                }
            }
        }
    }

    /// Worked with the factors of NIST SP 811: 36 in = 914.4 mm, 1 ft = 0.3048 m, 1 ft² = 0.092 903 04 m².
    #[test]
    fn what_painters_type() {
        for (text, mm) in [
            ("914", 914.0),
            ("91,4 cm", 914.0),
            ("0.9m", 900.0),
            ("36 in", 914.4),
            ("36 1/2\"", 927.1),
            ("3' 2\"", 965.2),
            ("3'2 1/2\"", 977.9),
            ("3 ft 2", 965.2),
            ("1/2 in", 12.7),
            ("  1 m 5 cm ", 1050.0),
            ("6 Feet", 1828.8),
        ] {
            let read = Units::Metric.read(Dimension::Length, text).unwrap();
            assert!((read - mm).abs() < 1e-9, "{text}: {read}");
        }
        let plain = |what, text| Units::Imperial.read(what, text).unwrap();
        assert!((plain(Dimension::Length, "36") - 914.4).abs() < 1e-9);
        assert!((plain(Dimension::Run, "10") - 3.048).abs() < 1e-9);
        for text in ["10 sq ft", "10 ft2", "10ft²", "10"] {
            let read = Units::Imperial.read(Dimension::Area, text).unwrap();
            assert!((read - 0.929_030_4).abs() < 1e-12, "{text}: {read}");
        }
        assert_eq!(Units::Metric.read(Dimension::Area, "1.5"), Ok(1.5));
    }

    #[test]
    fn what_is_no_measure_says_so() {
        for text in [
            "",
            "  ",
            "wide",
            "12 parsec",
            "-5",
            "1/0",
            "NaN",
            "inf",
            "36 1/2 1/2",
            "1.5 1/2",
            "in 36",
            "½",
            "1..2",
        ] {
            let read = Units::Metric.read(Dimension::Length, text);
            assert!(matches!(read, Err(BadLength::Unread(..))), "{text}: {read:?}");
        }
        let read = Units::Metric.read(Dimension::Length, "36 in²");
        assert!(read.unwrap_err().to_string().contains("mm, cm, m, in or ft"));
        assert!(matches!(Units::Metric.read(Dimension::Run, "1e9"), Err(BadLength::Unread(..))));
        let huge = "9".repeat(300);
        assert!(matches!(Units::Metric.read(Dimension::Run, &huge), Err(BadLength::TooMuch(_))));
    }

    #[test]
    fn what_is_said() {
        let say = |units: Units, what, value| units.say(what, value);
        assert_eq!(say(Units::Metric, Dimension::Length, 914.4), "914 mm");
        assert_eq!(say(Units::Imperial, Dimension::Length, 914.4), "36 in");
        assert_eq!(say(Units::Imperial, Dimension::Length, 927.1), "36 1/2 in");
        assert_eq!(say(Units::Imperial, Dimension::Length, 9.6), "3/8 in");
        assert_eq!(say(Units::Imperial, Dimension::Length, 0.0), "0 in");
        assert_eq!(say(Units::Metric, Dimension::Area, 1.0), "1 m²");
        assert_eq!(say(Units::Imperial, Dimension::Area, 1.0), "11 ft²");
        assert_eq!(say(Units::Metric, Dimension::Area, 0.0042), "42 cm²");
        assert_eq!(say(Units::Imperial, Dimension::Area, 0.0042), "7 in²");
        assert_eq!(say(Units::Imperial, Dimension::Run, 0.5), "1.6 ft");
    }

    proptest! {
        /// What is said is read back as nearly as it is said.
        #[test]
        fn said_and_read(value in 0.02..900.0f64, at in 0usize..3, imperial: bool) {
            let (units, what) = (if imperial { Units::Imperial } else { Units::Metric }, ALL[at]);
            for text in [units.say(what, value), units.number(what, value)] {
                let read = units.read(what, &text).unwrap();
                let off = match what { Dimension::Length => 1.6, Dimension::Run => 0.16, Dimension::Area => 0.05 };
                prop_assert!((read - value).abs() < off, "{value}: {text} is {read}");
                prop_assert_eq!(units.say(what, read), units.say(what, value));
            }
        }

        #[test]
        fn whatever_is_typed_is_read_or_refused(text in "\\PC{0,40}", at in 0usize..3) {
            if let Ok(read) = Units::Imperial.read(ALL[at], &text) {
                prop_assert!(read.is_finite() && read >= 0.0);
            }
        }
    }
}
