//! Practice for the eye, on the painter's own shelf: questions, answers and progress.
//!
//! A question is made from the shelf, a skill, a level and a seed alone, so that nothing is kept between asking and answering.

mod colours;
mod layers;
mod mixes;
mod palette;
mod question;
mod trouble;

use jiff::{Timestamp, tz::TimeZone};
use rand::SeedableRng as _;
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use warm_blend_mixing::SHADE;
use warm_blend_practice::{Answered, Difficulty, EyeSkill, SkillProgress, weakest};
use warm_blend_spectral::Lab;

use crate::pane::shown;
use crate::{Refusal, ShelfSnapshot};

use palette::Palette;
pub use question::{ChoiceShown, Question};

/// Attempts to find a question of the right size.
const TRIES: usize = 200;

/// A question that is asked for.
#[derive(Debug, Clone, Copy, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct QuestionAsked {
    /// The skill.
    #[param(inline)]
    pub skill: EyeSkill,
    /// The level, 0 (easiest) to 12.
    #[param(value_type = u8)]
    pub level: Difficulty,
    /// Any number: the same one gives the same question.
    pub seed: u32,
}

/// An answer to a question.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct AnswerGiven {
    /// The skill.
    pub skill: EyeSkill,
    /// The level of the question, 0 to 12.
    #[schema(value_type = u8)]
    pub level: Difficulty,
    /// The seed of the question.
    pub seed: u32,
    /// Index of the choice.
    pub choice: usize,
}

/// What came of an answer.
#[derive(Debug, Serialize, ToSchema)]
pub struct AnswerChecked {
    /// Whether it was right.
    pub right: bool,
    /// Index of the right choice.
    pub choice: usize,
    /// Why, in a sentence or two.
    pub words: String,
    /// Level of the next question, 0 to 12.
    #[schema(value_type = u8)]
    pub level: Difficulty,
}

/// What can be practised, and how it goes.
#[derive(Debug, Serialize, ToSchema)]
pub struct PracticeView {
    /// Skills.
    pub skills: Vec<SkillView>,
    /// The skill to practise next.
    pub next: EyeSkill,
    /// Greys from black to white in even steps of lightness, to check the screen with.
    pub greys: Vec<String>,
    /// True if the shelf has too few paints, so that colours of the chart are used.
    pub from_chart: bool,
}

/// A skill with its progress.
#[derive(Debug, Serialize, ToSchema)]
pub struct SkillView {
    /// The skill.
    pub skill: EyeSkill,
    /// Its name.
    pub name: &'static str,
    /// Level of the next question, 0 to 12.
    #[schema(value_type = u8)]
    pub level: Difficulty,
    /// What the painter can do: `sees 0.5 of a shade`; empty until it is known.
    pub can: String,
    /// True if the shelf gives such questions.
    pub possible: bool,
    /// Number of answers.
    pub answers: usize,
    /// Weeks with practice, oldest first.
    pub weeks: Vec<WeekView>,
}

/// A week of practice.
#[derive(Debug, Serialize, ToSchema)]
pub struct WeekView {
    /// Its Monday, `2026-11-23`.
    pub monday: String,
    /// Mean level.
    pub level: f64,
}

impl PracticeView {
    /// How practice goes after these answers, oldest first.
    pub fn of(shelf: &ShelfSnapshot, answers: &[Answered]) -> Result<Self, Refusal> {
        let zone = TimeZone::system();
        let progress: Vec<SkillProgress> =
            EyeSkill::ALL.map(|skill| SkillProgress::of(skill, answers, &zone)).into();
        let (possible, not): (Vec<SkillProgress>, Vec<SkillProgress>) =
            progress.into_iter().partition(|one| shelf.asks(one.skill));
        let next = weakest(&possible).unwrap_or(EyeSkill::Lighter);
        let view = |possible: bool| move |one: SkillProgress| SkillView::of(one, possible);
        let grey = |n: u8| shown(Lab { l: f64::from(n) * 10.0, a: 0.0, b: 0.0 });
        Ok(Self {
            skills: possible.into_iter().map(view(true)).chain(not.into_iter().map(view(false))).collect(),
            next,
            greys: (0..=10).map(grey).collect(),
            from_chart: Palette::of(shelf)?.from_chart,
        })
    }
}

impl SkillView {
    fn of(of: SkillProgress, possible: bool) -> Self {
        let known = of.threshold.and_then(|level| Difficulty::try_from(level.round() as u8).ok());
        let week =
            |week: warm_blend_practice::Week| WeekView { monday: week.monday.to_string(), level: week.level };
        Self {
            skill: of.skill,
            name: of.skill.name(),
            level: of.level,
            can: known.map_or_else(String::new, |level| of.skill.can(level, SHADE)),
            possible,
            answers: of.answers,
            weeks: of.weeks.into_iter().map(week).collect(),
        }
    }
}

impl AnswerGiven {
    /// The question that it answers.
    fn question(self) -> QuestionAsked {
        QuestionAsked { skill: self.skill, level: self.level, seed: self.seed }
    }

    /// Checks the answer; returns it as it is to be kept, and what came of it after the earlier ones.
    pub fn check(
        self,
        shelf: &ShelfSnapshot,
        earlier: &[Answered],
        at: Timestamp,
    ) -> Result<(Answered, AnswerChecked), Refusal> {
        let question = shelf.question(self.question())?;
        if self.choice >= question.choices.len() {
            let last = question.choices.len() - 1;
            return Err(Refusal::field("/choice", format!("no such choice; use 0 to {last}")));
        }
        let right = self.choice == question.right;
        let answer = Answered { at, skill: self.skill, level: self.level, right };
        let all: Vec<Answered> = earlier.iter().copied().chain([answer]).collect();
        let level = SkillProgress::of(self.skill, &all, &TimeZone::system()).level;
        Ok((answer, AnswerChecked { right, choice: question.right, words: question.because, level }))
    }
}

impl ShelfSnapshot {
    /// True if there are questions of a skill.
    fn asks(&self, skill: EyeSkill) -> bool {
        self.question(QuestionAsked { skill, level: Difficulty::default(), seed: 1 }).is_ok()
    }

    /// A question of a skill at a level. The same seed gives the same one as long as the shelf is the same.
    pub fn question(&self, QuestionAsked { skill, level, seed }: QuestionAsked) -> Result<Question, Refusal> {
        let mut chance = ChaCha8Rng::seed_from_u64(u64::from(seed) << 8 | skill as u64);
        let size = skill.size(level);
        // What the shelf gives no question of is asked of the chart.
        let palettes = [Palette::of(self)?, Palette::chart()];
        for palette in palettes.iter().flat_map(|palette| std::iter::repeat_n(palette, TRIES)) {
            let found = match skill {
                EyeSkill::Lighter => colours::lighter(palette, size, &mut chance),
                EyeSkill::Warmer => colours::warmer(palette, size, &mut chance),
                EyeSkill::Drying => colours::drying(palette, size, &mut chance),
                EyeSkill::Light => colours::light(palette, size, &mut chance),
                EyeSkill::Parts => mixes::parts(palette, size, &mut chance),
                EyeSkill::Halfway => mixes::halfway(palette, size, &mut chance),
                EyeSkill::Mud => mixes::mud(palette, size, &mut chance),
                EyeSkill::Strip => mixes::strip(self, palette, size, &mut chance)?,
                EyeSkill::Layers => layers::layers(self, size, &mut chance)?,
                EyeSkill::Steps => layers::steps(self, size, &mut chance)?,
                EyeSkill::Trouble => trouble::trouble(size, &mut chance),
            };
            if let Some(question) = found.filter(Question::can_be_shown) {
                return Ok(question);
            }
        }
        let words = "this shelf gives no question of this kind; practise something else, or add more paints";
        Err(Refusal::field("/skill", words))
    }
}
