//! What a tin is besides its colour: its state, the warning on it, and what only some classes have.

use serde::{Deserialize, Serialize};

use crate::name::is_unseen;
use crate::quantity::in_range;
use crate::{BadMeasure, Class};

/// What has become of what is in the tin.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, strum::IntoStaticStr)]
#[strum(serialize_all = "kebab-case")]
#[serde(rename_all = "lowercase")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Condition {
    /// As it should be.
    #[default]
    Good,
    /// Has been frozen: water-based paint may have curdled, so try it on card first (common practice).
    Frozen,
    /// Smells or has mould: not to be used.
    Off,
}

impl Condition {
    /// `good`, `frozen` or `off`.
    pub fn id(self) -> &'static str {
        self.into()
    }
}

/// Free words of a painter: at most 1000 characters.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Note(String);

/// A note that is too long.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("note too long ({0} characters); the most is {most}", most = Note::LONGEST)]
pub struct LongNote(usize);

impl Note {
    /// Most characters of a note.
    pub const LONGEST: usize = 1000;

    /// Takes a text less the spaces at its ends; None where there is nothing to be seen.
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

/// What only some classes of product have. Left out, the class's own default stands.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Specials {
    /// Mass of a millilitre of wet product, g: for weighing.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub density: Option<f64>,
    /// Share of the area that flakes cover, 0–1: metallic and pearl.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lustre: Option<f64>,
    /// How long it can be worked, minutes: glazes and scumbles.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub open_minutes: Option<f64>,
    /// Keeps tannin and stain from coming through: primers and shellac.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub blocks_stains: Option<bool>,
    /// Made with solvent rather than water: its rags can heat by themselves. Waxes, stains, shellac.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub solvent_borne: Option<bool>,
}

/// Which of the [`Specials`] a class has, by their names in files.
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

/// A density, g/ml: 0.3 to 5, from an aerated wax to a lead-heavy paste.
pub fn density(value: f64) -> Result<f64, BadMeasure> {
    in_range(value, 0.3, 5.0)
}

/// A share, 0 to 1.
pub fn share(value: f64) -> Result<f64, BadMeasure> {
    in_range(value, 0.0, 1.0)
}

/// Minutes that something stays workable: half a minute to a day.
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
