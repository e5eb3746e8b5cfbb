//! How long a mixed pot keeps in a closed jar, and how to get rid of it.
//!
//! The times are common practice†; what is seen and smelt counts for more than any of them.

use jiff::civil::Date;
use warm_blend_paint::{Base, Class, Contents, Product};

use crate::JarSign;

/// Share of water or extender from which a pot counts as thinned†.
const THINNED: f64 = 0.1;
/// How long water-based paint keeps once it is thinned, days: water brings in what makes it sour†.
const THINNED_DAYS: i32 = 30;
/// How many times sooner it is over below a loose lid†.
const LOOSE: i32 = 4;
/// How long before the end a jar should be used up, days, and as a share of its time†.
const SOON: (i32, i32) = (30, 4);

/// State of a jar.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum JarState {
    /// Throw it away.
    Spoiled,
    /// It may be spoiled.
    Doubtful,
    /// Past its time: try it first.
    Past,
    /// To be used up soon.
    Soon,
    /// Good.
    Good,
}

/// How a jar keeps.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Keeping {
    /// Last day on which it is expected to be good.
    pub until: Date,
    /// State.
    pub state: JarState,
    /// What to do about it; absent if it is good.
    pub advice: Option<&'static str>,
}

/// How to get rid of a pot.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Disposal {
    /// What to do.
    pub words: &'static str,
    /// Where that is published.
    pub source: &'static str,
}

/// How long a product keeps in a closed jar once it was opened, days†.
const fn days(class: Class) -> i32 {
    match class {
        // Casein is food.
        Class::Milk => 7,
        Class::TexturePowder => 14,
        Class::Clay | Class::Shellac => 180,
        Class::LatexSatin
        | Class::AcrylicCraft
        | Class::Oil
        | Class::Alkyd
        | Class::TintedWax
        | Class::ClearWax
        | Class::Extender => 730,
        Class::Water => i32::MAX,
        Class::Chalk
        | Class::Mineral
        | Class::Metallic
        | Class::Primer
        | Class::GelStain
        | Class::GlazingLiquid
        | Class::Scumble
        | Class::ClearCoat
        | Class::Pearl => 365,
    }
}

/// How long a pot keeps in a closed jar, days.
fn keeps(pot: &Contents) -> i32 {
    let parts = pot.classes();
    let all: f64 = parts.iter().map(|(_, n)| n).sum();
    let thin: f64 = parts
        .iter()
        .filter(|(class, _)| matches!(class, Class::Water | Class::Extender))
        .map(|(_, n)| n)
        .sum();
    let shortest = parts.iter().map(|(class, _)| days(*class)).min().unwrap_or(0);
    if thin > THINNED * all && !pot.is_solvent_borne() { shortest.min(THINNED_DAYS) } else { shortest }
}

impl Keeping {
    /// How a jar of this keeps that was mixed on a day, as seen today.
    pub fn of(pot: &Contents, signs: &[JarSign], mixed: Date, today: Date) -> Self {
        let has = |sign| signs.contains(&sign);
        let whole = keeps(pot);
        let days = if has(JarSign::LooseLid) { (whole / LOOSE).max(1) } else { whole };
        let until = mixed.saturating_add(jiff::Span::new().days(days));
        let left = (until - today).get_days();
        let watery = pot.share(|product| !product.is_solvent_borne()) > 0.0;
        let (state, advice) = if has(JarSign::Smell) && watery {
            (
                JarState::Spoiled,
                Some("Sour or foul means bacteria: throw it away. It would smell on the piece too."),
            )
        } else if has(JarSign::Frost) && watery {
            let words =
                "Frost spoils water-based paint. Stir it: if it stays grainy or curdled, throw it away.";
            (JarState::Doubtful, Some(words))
        } else if left < 0 {
            (
                JarState::Past,
                Some("Past its time: stir, smell, and brush out a test patch before you use it."),
            )
        } else if has(JarSign::Smell) {
            (JarState::Doubtful, Some("Smells off: brush out a test patch and see whether it dries."))
        } else if has(JarSign::Skin) {
            let words =
                "Lift the skin off whole and strain the rest. What dried is missing: expect it thicker.";
            (JarState::Doubtful, Some(words))
        } else if left <= SOON.0.min(whole / SOON.1) {
            (JarState::Soon, Some("Use it up soon."))
        } else if has(JarSign::LooseLid) {
            (JarState::Good, Some("A tight lid would keep it four times as long."))
        } else {
            (JarState::Good, None)
        };
        Self { until, state, advice }
    }
}

impl Disposal {
    /// How to get rid of a pot.
    pub fn of(pot: &Contents) -> Self {
        let oil = pot.share(|product: &Product| product.base() == Base::Oil) > 0.0;
        if oil || pot.share(Product::is_solvent_borne) > 0.0 {
            return Self {
                words: "Take it to the collection point for hazardous waste, in a closed container. Never into a drain or the \
                        bin. Rags with oil or wax go under water in a lidded metal can first. Local rules decide.",
                source: "US EPA, Household Hazardous Waste",
            };
        }
        Self {
            words: "Let a little harden in the open jar; stir a larger rest into cat litter or sawdust. Once it is hard it goes into \
                    the bin where local rules allow that, and else to the collection point. Never into a drain.",
            source: "US EPA, Household Hazardous Waste",
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;
    use proptest::prelude::*;

    const MIXED: Date = date(2026, 11, 1);

    fn state(pot: &[(Class, f64)], signs: &[JarSign], today: Date) -> JarState {
        Keeping::of(&Contents::from(pot), signs, MIXED, today).state
    }

    /// Common practice: milk paint is used within days, thinned paint within a month, chalk-type paint within a year.
    #[test]
    fn the_shortest_lived_part_decides() {
        let until = |pot: &[(Class, f64)]| Keeping::of(&Contents::from(pot), &[], MIXED, MIXED).until;
        assert_eq!(until(&[(Class::Chalk, 3.0), (Class::Milk, 1.0)]), date(2026, 11, 8));
        assert_eq!(until(&[(Class::Chalk, 3.0), (Class::Water, 1.0)]), date(2026, 12, 1));
        assert_eq!(until(&[(Class::Chalk, 30.0), (Class::Water, 1.0)]), date(2027, 11, 1));
        assert_eq!(until(&[(Class::Alkyd, 3.0), (Class::ClearWax, 1.0)]), date(2028, 10, 31));
    }

    #[test]
    fn what_is_seen_and_smelt_comes_before_the_date() {
        let chalk = [(Class::Chalk, 1.0)];
        assert_eq!(state(&chalk, &[], date(2027, 1, 1)), JarState::Good);
        assert_eq!(state(&chalk, &[], date(2027, 10, 15)), JarState::Soon);
        assert_eq!(state(&chalk, &[], date(2027, 11, 2)), JarState::Past);
        assert_eq!(state(&chalk, &[JarSign::LooseLid], date(2027, 3, 1)), JarState::Past);
        assert_eq!(state(&chalk, &[JarSign::Smell], MIXED), JarState::Spoiled);
        assert_eq!(state(&chalk, &[JarSign::Frost], MIXED), JarState::Doubtful);
        assert_eq!(state(&[(Class::Alkyd, 1.0)], &[JarSign::Frost], MIXED), JarState::Good);
    }

    #[test]
    fn solvent_never_goes_into_the_bin() {
        for class in Class::ALL {
            let solvent = Product::from(class).is_solvent_borne();
            let words = Disposal::of(&Contents::from(Some(class))).words;
            assert_eq!(words.contains("hazardous waste"), solvent, "{class:?}");
            assert!(words.contains("Never into") && words.to_lowercase().contains("local rules"));
        }
    }

    proptest! {
        /// No sign makes a jar keep longer, and a longer wait never makes it better.
        #[test]
        fn a_jar_never_gets_better(
            parts in proptest::collection::vec((0..Class::ALL.len(), 0.1..9.0f64), 1..5),
            days in 0..900i32, later in 0..400i32, sign in 0..JarSign::ALL.len(),
        ) {
            let pot: Contents = parts.iter().map(|(at, n)| (Product::from(Class::ALL[*at]), *n)).collect();
            let on = |days: i32| MIXED.saturating_add(jiff::Span::new().days(days));
            let (now, then) = (Keeping::of(&pot, &[], MIXED, on(days)), Keeping::of(&pot, &[], MIXED, on(days + later)));
            prop_assert!(then.state <= now.state && then.until == now.until);
            let signed = Keeping::of(&pot, &[JarSign::ALL[sign]], MIXED, on(days));
            prop_assert!(signed.until <= now.until);
        }
    }
}
