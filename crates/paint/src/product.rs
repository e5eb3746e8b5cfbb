//! Facts about a tin besides its colour: condition, note, and what only some classes have.

use serde::{Deserialize, Serialize};

use crate::name::is_unseen;
use crate::quantity::in_range;
use crate::{BadMeasure, Class};

/// Condition of what is in the tin.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Condition {
    /// In good condition.
    #[default]
    Good,
    /// Has been frozen: water-based paint may have curdled, so try it on card first (common practice).
    Frozen,
    /// Smells or has mould: do not use.
    Off,
}

impl Condition {
    /// `good`, `frozen` or `off`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

/// A painter's note: at most 1000 characters.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Note(String);

/// A note that is too long.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("note too long ({0} characters); the most is {most}", most = Note::LONGEST)]
pub struct LongNote(usize);

impl Note {
    /// Greatest length of a note, characters.
    pub const LONGEST: usize = 1000;

    /// Trims a text; `None` if nothing visible is left.
    pub fn new(text: &str) -> Result<Option<Self>, LongNote> {
        let text = text.trim();
        match text.chars().count() {
            _ if text.chars().all(is_unseen) => Ok(None),
            n if n > Self::LONGEST => Err(LongNote(n)),
            _ => Ok(Some(Self(text.chars().filter(|c| !c.is_control() || *c == '\n').collect()))),
        }
    }

    /// The text.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for Note {
    type Error = LongNote;

    fn try_from(text: String) -> Result<Self, LongNote> {
        Self::new(&text).map(|note| note.unwrap_or(Self(String::new())))
    }
}

impl From<Note> for String {
    fn from(note: Note) -> String {
        note.0
    }
}

/// Facts that only some classes have. The default of the class applies to what is left out.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Specials {
    /// Mass of a millilitre of wet product, g, for weighing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// Share of the area covered by flakes, 0–1, of metallic and pearl.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lustre: Option<f64>,
    /// Open time, minutes, of glazes and scumbles.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub open_minutes: Option<f64>,
    /// Whether primer or shellac keeps tannin and stain from bleeding through.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub blocks_stains: Option<bool>,
    /// Whether a wax, stain or shellac is made with solvent rather than water; rags soaked with it can heat up and catch
    /// fire.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub solvent_borne: Option<bool>,
}

/// The [`Specials`] that a class has, by their names in files.
pub const fn specials_of(class: Class) -> &'static [&'static str] {
    match class {
        Class::Metallic | Class::Pearl => &["density", "lustre"],
        Class::Primer => &["density", "blocks_stains", "solvent_borne"],
        Class::Shellac => &["density", "blocks_stains", "solvent_borne"],
        Class::GelStain => &["density", "open_minutes", "solvent_borne"],
        Class::ClearWax | Class::TintedWax => &["density", "solvent_borne"],
        Class::Oil | Class::Alkyd => &["density", "open_minutes"],
        Class::GlazingLiquid | Class::Scumble | Class::Extender | Class::ClearCoat => {
            &["density", "open_minutes"]
        }
        _ => &["density"],
    }
}

/// Accepts a density of 0.3 to 5 g/ml: from aerated wax to a paste heavy with lead.
pub fn density(value: f64) -> Result<f64, BadMeasure> {
    in_range(value, 0.3, 5.0)
}

/// Accepts a share, 0 to 1.
pub fn share(value: f64) -> Result<f64, BadMeasure> {
    in_range(value, 0.0, 1.0)
}

/// Accepts an open time of half a minute to a day, in minutes.
pub fn minutes(value: f64) -> Result<f64, BadMeasure> {
    in_range(value, 0.5, 1440.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What is open for no time at all cannot be worked.
    #[test]
    fn an_open_time_of_nothing_is_refused() {
        assert!(minutes(0.0).is_err() && minutes(-1.0).is_err() && minutes(f64::NAN).is_err());
        assert_eq!(minutes(10.0), Ok(10.0));
    }

    #[test]
    fn notes_are_kept_short_and_plain() {
        assert_eq!(Note::new("  "), Ok(None));
        assert_eq!(Note::new(" contains\u{7} ammonia\n").unwrap().unwrap().as_str(), "contains ammonia");
        assert_eq!(Note::new(&"x".repeat(1001)), Err(LongNote(1001)));
    }
}
