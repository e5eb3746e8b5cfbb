//! Progress in a skill over the weeks.

use std::collections::BTreeMap;

use jiff::{Timestamp, civil::Date, tz::TimeZone};

use crate::{Difficulty, EyeSkill, Staircase};

/// An answer that was given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Answered {
    /// When.
    pub at: Timestamp,
    /// The skill.
    pub skill: EyeSkill,
    /// Level of the question.
    pub level: Difficulty,
    /// Whether it was right.
    pub right: bool,
}

/// A week of practice.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Week {
    /// Its Monday.
    pub monday: Date,
    /// Mean level of its questions.
    pub level: f64,
    /// Number of answers.
    pub answers: usize,
}

/// Progress in a skill.
#[derive(Debug, Clone, PartialEq)]
pub struct SkillProgress {
    /// The skill.
    pub skill: EyeSkill,
    /// Level of the next question.
    pub level: Difficulty,
    /// Level at which 71 % of the answers are right, once that is known.
    pub threshold: Option<f64>,
    /// Number of answers.
    pub answers: usize,
    /// Weeks with practice, oldest first.
    pub weeks: Vec<Week>,
}

impl SkillProgress {
    /// Progress in a skill from all answers, oldest first.
    pub fn of(skill: EyeSkill, all: &[Answered], zone: &TimeZone) -> Self {
        let own: Vec<&Answered> = all.iter().filter(|answer| answer.skill == skill).collect();
        let stairs = Staircase::of(own.iter().map(|answer| (answer.level, answer.right)));
        let mut weeks: BTreeMap<Date, Vec<f64>> = BTreeMap::new();
        for answer in &own {
            let day = zone.to_datetime(answer.at).date();
            let since_monday = i64::from(day.weekday().to_monday_zero_offset());
            let monday = day.saturating_sub(jiff::Span::new().days(since_monday));
            weeks.entry(monday).or_default().push(f64::from(answer.level.value()));
        }
        let week = |(monday, levels): (Date, Vec<f64>)| Week {
            monday,
            level: levels.iter().sum::<f64>() / levels.len() as f64,
            answers: levels.len(),
        };
        Self {
            skill,
            level: stairs.level(),
            threshold: stairs.threshold(),
            answers: own.len(),
            weeks: weeks.into_iter().map(week).collect(),
        }
    }
}

/// The skill to practise next: one that was hardly practised yet, otherwise the one at the lowest level.
pub fn weakest(progress: &[SkillProgress]) -> Option<EyeSkill> {
    /// Answers after which a level says something.
    const FEW: usize = 6;
    let weakness = |one: &&SkillProgress| match one.answers < FEW {
        true => (0, one.answers, one.skill),
        false => (1, usize::from(one.level.value()), one.skill),
    };
    progress.iter().min_by_key(weakness).map(|one| one.skill)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn answer(day: i8, skill: EyeSkill, level: u8, right: bool) -> Answered {
        let at = format!("2026-11-{day:02}T09:00:00Z").parse().unwrap();
        Answered { at, skill, level: Difficulty::try_from(level).unwrap(), right }
    }

    #[test]
    fn weeks_begin_on_monday_and_the_weakest_comes_next() {
        let mut all: Vec<Answered> = (0..8).map(|n| answer(16, EyeSkill::Lighter, n / 2, true)).collect();
        all.extend(
            (0..8).map(|n| answer(22 + i8::try_from(n / 4).unwrap(), EyeSkill::Warmer, 1, n % 2 == 0)),
        );
        let of = |skill| SkillProgress::of(skill, &all, &TimeZone::UTC);
        let (lighter, warmer) = (of(EyeSkill::Lighter), of(EyeSkill::Warmer));
        assert_eq!((lighter.level.value(), lighter.answers), (4, 8));
        // The 22nd is a Sunday, the 23rd a Monday.
        let mondays: Vec<String> = warmer.weeks.iter().map(|week| week.monday.to_string()).collect();
        assert_eq!(mondays, ["2026-11-16", "2026-11-23"]);
        assert_eq!(weakest(&[lighter.clone(), warmer]), Some(EyeSkill::Warmer));
        assert_eq!(weakest(&[lighter, of(EyeSkill::Mud)]), Some(EyeSkill::Mud));
    }
}
