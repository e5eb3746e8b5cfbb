//! Answers given in practice.

use jiff::Timestamp;
use rusqlite::params;
use warm_blend_practice::{Answered, Difficulty, EyeSkill};

use crate::{Store, StoreError};

impl Store {
    /// All answers, oldest first. Those of skills that this program does not know are left out.
    pub fn answers(&self) -> Result<Vec<Answered>, StoreError> {
        let mut query =
            self.connection.prepare_cached("SELECT at, skill, level, correct FROM practice ORDER BY id")?;
        let rows = query.query_map([], |row| {
            let (at, skill): (String, String) = (row.get(0)?, row.get(1)?);
            Ok((at, skill, row.get::<_, u8>(2)?, row.get::<_, bool>(3)?))
        })?;
        let read = |(at, skill, level, right): (String, String, u8, bool)| {
            let (at, level) = (at.parse::<Timestamp>().ok()?, Difficulty::try_from(level).ok()?);
            Some(Answered { at, skill: EyeSkill::find(&skill)?, level, right })
        };
        let rows = rows.collect::<Result<Vec<_>, _>>()?;
        Ok(rows.into_iter().filter_map(read).collect())
    }

    /// Saves answers. They are on disk when this returns.
    pub fn keep_answers(&mut self, answers: &[Answered]) -> Result<(), StoreError> {
        self.write(|change| {
            for Answered { at, skill, level, right } in answers {
                change.execute(
                    "INSERT INTO practice (at, skill, level, correct) VALUES (?1, ?2, ?3, ?4)",
                    params![at.to_string(), skill.id(), level.value(), right],
                )?;
            }
            Ok(())
        })
    }
}
