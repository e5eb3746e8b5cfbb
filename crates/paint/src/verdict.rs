//! How far a colour is from its target, in a painter's words.
//!
//! The sizes and words are common practice; the measure behind them is CIEDE2000. For the direction, each component of
//! the difference is divided by its tolerance (the weighting functions of CIE94: SC = 1 + 0.045 C*, SH = 1 + 0.015 C*),
//! so that the words name what is seen.

use warm_blend_spectral::{Difference, Lab, difference};

/// A judgement of one colour against another.
#[derive(Debug, Clone, PartialEq)]
pub struct Verdict {
    /// CIEDE2000.
    pub difference: Difference,
    /// How far it leans and where to: `a hair warmer and lighter`; none where nobody sees it.
    lean: Option<String>,
    /// What it was compared with.
    with: &'static str,
}

/// Chroma below which a colour is spoken of as a neutral: warmer or cooler rather than stronger or redder†.
const NEUTRAL: f64 = 14.0;

/// A second direction is named when it is at least this share of the first†.
const WORTH_NAMING: f64 = 0.45;

const NOTHING_SEEN: &str = "no difference you could see";

impl Verdict {
    /// Compares `seen` with `target`, both Lab in the same light.
    pub fn of(seen: Lab, target: Lab) -> Self {
        Self::against(seen, target, "the target")
    }

    /// Compares `seen` with anything else, by its name: `a hair warmer than the board`.
    pub fn against(seen: Lab, other: Lab, with: &'static str) -> Self {
        let difference = difference(seen, other);
        let lean = size(difference.value()).map(|size| format!("{size} {}", directions(seen, other)));
        Self { difference, lean, with }
    }

    /// The verdict in full: `a hair warmer and lighter than the target`.
    pub fn words(&self) -> String {
        match &self.lean {
            None => NOTHING_SEEN.to_owned(),
            Some(lean) => format!("{lean} than {}", self.with),
        }
    }

    /// The verdict without what it is compared with: `a hair warmer and lighter`.
    pub fn lean(&self) -> &str {
        self.lean.as_deref().unwrap_or(NOTHING_SEEN)
    }

    /// True if the difference can be seen.
    pub const fn can_be_seen(&self) -> bool {
        self.lean.is_some()
    }
}

/// The size of a difference†: below half a unit nobody sees it.
fn size(difference: f64) -> Option<&'static str> {
    match difference {
        d if d < 0.5 => None,
        d if d < 1.5 => Some("a hair"),
        d if d < 3.0 => Some("a touch"),
        d if d < 6.0 => Some("a little"),
        d if d < 12.0 => Some("clearly"),
        _ => Some("far"),
    }
}

/// The one or two directions in which `seen` lies from `target`, the larger first.
fn directions(seen: Lab, target: Lab) -> String {
    let mut named = parts(seen, target);
    named.sort_by(|a, b| b.1.total_cmp(&a.1));
    match named.as_slice() {
        [(first, one), (second, other), ..] if *other >= WORTH_NAMING * one => {
            format!("{first} and {second}")
        }
        [(first, _), ..] => (*first).to_owned(),
        [] => String::new(),
    }
}

/// Each direction with its size in tolerances, ≥ 0.
fn parts(seen: Lab, target: Lab) -> Vec<(&'static str, f64)> {
    let (dl, da, db) = (seen.l - target.l, seen.a - target.a, seen.b - target.b);
    let lightness = (if dl > 0.0 { "lighter" } else { "darker" }, dl.abs());
    let chroma = (seen.chroma() * target.chroma()).sqrt();
    if chroma < NEUTRAL {
        // Around grey, the whole step in a*, b* is one word.
        let words =
            [("pinker", 0.0), ("warmer", 70.0), ("greener", 150.0), ("cooler", 255.0), ("pinker", 360.0)];
        return vec![lightness, (nearest(words, da, db), da.hypot(db) / (1.0 + 0.045 * chroma))];
    }
    let dc = seen.chroma() - target.chroma();
    let dh = (da * da + db * db - dc * dc).max(0.0).sqrt();
    let strength = (if dc > 0.0 { "stronger" } else { "greyer" }, dc.abs() / (1.0 + 0.045 * chroma));
    // The part of the step across the hue, not along it, says which way the hue has turned.
    let along = (target.a * da + target.b * db) / (target.chroma() * target.chroma()).max(1e-9);
    let words =
        [("redder", 0.0), ("yellower", 90.0), ("greener", 180.0), ("bluer", 270.0), ("redder", 360.0)];
    let turned = (nearest(words, da - along * target.a, db - along * target.b), dh / (1.0 + 0.015 * chroma));
    vec![lightness, strength, turned]
}

/// The word whose angle is nearest to the direction (a, b).
fn nearest(words: [(&'static str, f64); 5], a: f64, b: f64) -> &'static str {
    let angle = b.atan2(a).to_degrees().rem_euclid(360.0);
    let far = |(_, at): &(&str, f64)| (angle - at).abs();
    words.into_iter().min_by(|x, y| far(x).total_cmp(&far(y))).map_or("", |(word, _)| word)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn words(seen: [f64; 3], target: [f64; 3]) -> String {
        let lab = |[l, a, b]: [f64; 3]| Lab { l, a, b };
        Verdict::of(lab(seen), lab(target)).words()
    }

    #[test]
    fn says_what_a_painter_would() {
        assert_eq!(words([70.0, 2.0, 8.0], [70.0, 2.0, 8.0]), "no difference you could see");
        assert_eq!(words([70.9, 2.2, 8.7], [70.0, 2.0, 8.0]), "a hair lighter and warmer than the target");
        assert_eq!(words([70.0, 1.0, 2.0], [70.0, 1.0, 5.0]), "a touch cooler than the target");
        assert_eq!(words([40.0, 0.0, 0.0], [60.0, 0.0, 0.0]), "far darker than the target");
        assert_eq!(words([50.0, 10.0, 25.0], [50.0, 16.0, 40.0]), "clearly greyer than the target");
        assert_eq!(words([50.0, -30.0, -8.0], [50.0, -30.0, 8.0]), "clearly bluer than the target");
    }

    proptest! {
        #[test]
        fn exchanging_the_colours_turns_the_lightness_word(l in 20.0..70.0f64, step in 3.0..20.0f64, a in -3.0..3.0f64, b in -3.0..3.0f64) {
            let lighter = words([l + step, a, b], [l, a, b]);
            let darker = words([l, a, b], [l + step, a, b]);
            prop_assert!(lighter.contains("lighter than") && darker.contains("darker than"));
        }

        #[test]
        fn words_come_with_any_pair(l in 0.0..100.0f64, a in -90.0..90.0f64, b in -90.0..90.0f64, c in -90.0..90.0f64) {
            let verdict = Verdict::of(Lab { l, a, b }, Lab { l: 50.0, a: c, b: a });
            prop_assert_eq!(verdict.difference.value() < 0.5, verdict.words().starts_with("no difference"));
        }
    }
}
