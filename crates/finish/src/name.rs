//! Names that people give to paints, mixes and pieces.

use serde::{Deserialize, Serialize};

/// A name: 1 to 80 characters of any script, no control characters, no spaces at the ends.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Name(String);

/// A text that cannot be a name.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadName {
    /// Nothing but spaces.
    #[error("give it a name, such as “oat white”")]
    Empty,
    /// More than fits a label.
    #[error("a name has at most {most} characters, this one has {0}: shorten it", most = Name::LONGEST)]
    TooLong(usize),
    /// A line break, tab or other control character.
    #[error("a name is one line of plain text: take out line breaks, tabs and other control characters")]
    Control,
}

impl Name {
    /// Most characters of a name.
    pub const LONGEST: usize = 80;

    /// Takes a text, less the spaces at its ends.
    pub fn new(text: &str) -> Result<Self, BadName> {
        let text = text.trim();
        if text.is_empty() {
            return Err(BadName::Empty);
        }
        if text.chars().any(char::is_control) {
            return Err(BadName::Control);
        }
        match text.chars().count() {
            n if n > Self::LONGEST => Err(BadName::TooLong(n)),
            _ => Ok(Self(text.to_owned())),
        }
    }

    /// The text.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl TryFrom<String> for Name {
    type Error = BadName;

    fn try_from(text: String) -> Result<Self, BadName> {
        Self::new(&text)
    }
}

impl From<Name> for String {
    fn from(name: Name) -> String {
        name.0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn any_script_is_a_name_and_control_characters_are_not() {
        for text in ["oat white", "أزرق", "🎨 l'ardoise", "'); DROP TABLE document; --"] {
            assert_eq!(Name::new(&format!("  {text} ")).unwrap().as_str(), text);
        }
        assert_eq!(Name::new(" \u{a0} "), Err(BadName::Empty));
        assert_eq!(Name::new("oat\nwhite"), Err(BadName::Control));
        assert_eq!(Name::new(&"é".repeat(10_000)), Err(BadName::TooLong(10_000)));
        assert!(Name::new(&"é".repeat(80)).is_ok());
    }
}
