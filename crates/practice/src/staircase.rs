//! How hard the next question is: a transformed up–down staircase.
//!
//! After two right answers in a row the next question is one level harder, after each wrong one a level easier. That settles
//! where two right answers in a row are as likely as not, so at 70.7 % right answers: H. Levitt, “Transformed up–down methods
//! in psychoacoustics”, *J. Acoust. Soc. Am.* 49 (1971) 467, table I, entry 2. The threshold is the mean of the levels at
//! which the direction turned, without the first ones, which still depend on where the staircase began.

use serde::{Deserialize, Serialize};

/// Right answers in a row after which it becomes harder.
const IN_A_ROW: u8 = 2;

/// Turns that are left out of the threshold, and the least number that it is the mean of.
const RUN_IN: usize = 2;
const ENOUGH: usize = 4;

/// Most turns that count, the latest.
const LATEST: usize = 8;

/// How hard a question is, 0 (easiest) to 12.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default, Serialize, Deserialize)]
#[serde(try_from = "u8", into = "u8")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Difficulty(u8);

impl Difficulty {
    /// The hardest.
    pub const HARDEST: Self = Self(12);

    /// The number.
    pub const fn value(self) -> u8 {
        self.0
    }

    const fn harder(self) -> Self {
        if self.0 < Self::HARDEST.0 { Self(self.0 + 1) } else { self }
    }

    const fn easier(self) -> Self {
        Self(self.0.saturating_sub(1))
    }
}

impl TryFrom<u8> for Difficulty {
    type Error = String;

    fn try_from(level: u8) -> Result<Self, String> {
        match level <= Self::HARDEST.0 {
            true => Ok(Self(level)),
            false => Err(format!("{level} is no level; use 0 to {}", Self::HARDEST.0)),
        }
    }
}

impl From<Difficulty> for u8 {
    fn from(level: Difficulty) -> Self {
        level.0
    }
}

/// The state of a staircase.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Staircase {
    level: Difficulty,
    /// Right answers in a row at this level.
    row: u8,
    harder: Option<bool>,
    /// Levels at which the direction turned.
    turns: Vec<Difficulty>,
}

impl Staircase {
    /// The staircase after these answers, oldest first; each states the level it was asked at.
    pub fn of(answers: impl IntoIterator<Item = (Difficulty, bool)>) -> Self {
        answers
            .into_iter()
            .fold(Self::default(), |stairs, (level, right)| Self { level, ..stairs }.after(right))
    }

    /// The staircase after another answer.
    pub fn after(mut self, right: bool) -> Self {
        self.row = if right { self.row + 1 } else { 0 };
        if right && self.row < IN_A_ROW {
            return self;
        }
        if self.harder.is_some_and(|before| before != right) {
            self.turns.push(self.level);
        }
        self.harder = Some(right);
        self.row = 0;
        self.level = if right { self.level.harder() } else { self.level.easier() };
        self
    }

    /// Level of the next question.
    pub const fn level(&self) -> Difficulty {
        self.level
    }

    /// Level at which 71 % of the answers are right; `None` until the staircase has turned often enough.
    pub fn threshold(&self) -> Option<f64> {
        let counted = self.turns.get(RUN_IN..)?;
        let counted = &counted[counted.len().saturating_sub(LATEST)..];
        let sum: f64 = counted.iter().map(|level| f64::from(level.0)).sum();
        (counted.len() >= ENOUGH).then(|| sum / counted.len() as f64)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use rand::{Rng as _, SeedableRng as _};
    use rand_chacha::ChaCha8Rng;

    use super::*;

    /// An eye that answers right in `chance` of the cases without seeing anything, and with a Weibull psychometric function
    /// otherwise, so that 70.7 % are right at `threshold`.
    fn is_right(level: Difficulty, threshold: f64, chance: f64, eye: &mut ChaCha8Rng) -> bool {
        const SLOPE: f64 = 3.0;
        let seen_at_threshold = (0.5f64.sqrt() - chance) / (1.0 - chance);
        // The size of what is to be seen halves with every two levels.
        let size = 2f64.powf((threshold - f64::from(level.value())) / 2.0);
        let seen = 1.0 - (1.0 - seen_at_threshold).powf(size.powf(SLOPE));
        eye.random::<f64>() < chance + (1.0 - chance) * seen
    }

    fn settles(threshold: f64, chance: f64, seed: u64) -> f64 {
        let mut eye = ChaCha8Rng::seed_from_u64(seed);
        let stairs = (0..90).fold(Staircase::default(), |stairs, _| {
            let right = is_right(stairs.level(), threshold, chance, &mut eye);
            stairs.after(right)
        });
        stairs.threshold().unwrap_or(f64::NAN)
    }

    /// Levitt (1971): the rule settles at 70.7 %, whatever the chance of guessing right.
    #[test]
    fn it_settles_at_the_threshold_of_an_eye() {
        for chance in [0.25, 1.0 / 3.0, 0.5] {
            for threshold in [3.0, 5.5, 8.0] {
                let each: Vec<f64> = (0..200).map(|seed| settles(threshold, chance, seed)).collect();
                let mean = each.iter().sum::<f64>() / each.len() as f64;
                assert!((mean - threshold).abs() < 0.5, "{threshold} at {chance}: {mean}");
                let near = each.iter().filter(|one| (*one - threshold).abs() < 1.5).count();
                assert!(near >= 180, "{threshold} at {chance}: {near} of 200 within 1.5 levels");
            }
        }
    }

    proptest! {
        #[test]
        fn the_level_moves_by_one_at_most(answers in proptest::collection::vec(any::<bool>(), 0..200)) {
            let mut stairs = Staircase::default();
            for right in answers {
                let next = stairs.clone().after(right);
                let (now, then) = (i16::from(stairs.level().value()), i16::from(next.level().value()));
                prop_assert!((now - then).abs() <= 1);
                let kept = if right { then >= now } else { then <= now };
                prop_assert!(kept);
                stairs = next;
            }
        }

        #[test]
        fn it_is_told_again_from_its_answers(answers in proptest::collection::vec(any::<bool>(), 0..60)) {
            let mut told = Vec::new();
            let mut stairs = Staircase::default();
            for right in answers {
                told.push((stairs.level(), right));
                stairs = stairs.after(right);
            }
            prop_assert_eq!(Staircase::of(told), stairs);
        }
    }

    #[test]
    fn two_right_answers_are_harder_and_one_wrong_one_easier() {
        let levels = [true, true, true, false, true, true, true, true].iter().scan(
            Staircase::default(),
            |stairs, right| {
                *stairs = stairs.clone().after(*right);
                Some(stairs.level().value())
            },
        );
        assert_eq!(levels.collect::<Vec<_>>(), [0, 1, 1, 0, 0, 1, 1, 2]);
    }
}
