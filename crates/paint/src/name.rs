//! Names of paints, mixes and pieces.

use serde::{Deserialize, Serialize};

/// A name: 1 to 80 characters of any script, at least one of them visible, without control characters or surrounding
/// spaces.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Name(String);

/// A text that cannot be a name.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum BadName {
    /// Only spaces and invisible characters.
    #[error("enter a name, such as “oat white”")]
    Empty,
    /// Longer than a label has room for.
    #[error("name too long ({0} characters); the most is {most}", most = Name::LONGEST)]
    TooLong(usize),
    /// A line break, tab or other control character.
    #[error("a name must be one line of plain text; remove line breaks, tabs and control characters")]
    Control,
    /// Marks that reverse the direction of text, with which a name can be made to look like another.
    #[error("remove the hidden text-direction marks from the name")]
    TurnedRound,
}

impl Name {
    /// Greatest length of a name, characters.
    pub const LONGEST: usize = 80;

    /// Accepts a text and trims it.
    pub fn new(text: &str) -> Result<Self, BadName> {
        let text = text.trim();
        if text.chars().any(breaks_the_line) {
            return Err(BadName::Control);
        }
        if text.chars().any(turns_round) {
            return Err(BadName::TurnedRound);
        }
        if text.chars().all(is_unseen) {
            return Err(BadName::Empty);
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

fn breaks_the_line(c: char) -> bool {
    c.is_control() || matches!(c, '\u{2028}' | '\u{2029}')
}

/// Embeddings, overrides and isolates (Unicode Standard Annex 9, table 1): a mark that only says how a neighbour is read stays.
fn turns_round(c: char) -> bool {
    matches!(c, '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}

/// True of characters without ink: spaces, and those that are ignorable by default (Unicode Character Database,
/// `Default_Ignorable_Code_Point`).
pub(crate) fn is_unseen(c: char) -> bool {
    c.is_whitespace()
        || matches!(c,
            '\u{ad}' | '\u{34f}' | '\u{61c}' | '\u{115f}'..='\u{1160}' | '\u{17b4}'..='\u{17b5}'
            | '\u{180b}'..='\u{180f}' | '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2060}'..='\u{206f}'
            | '\u{2800}' | '\u{3164}' | '\u{fe00}'..='\u{fe0f}' | '\u{feff}' | '\u{ffa0}' | '\u{fff0}'..='\u{fff8}'
            | '\u{1bca0}'..='\u{1bca3}' | '\u{1d173}'..='\u{1d17a}' | '\u{e0000}'..='\u{e0fff}')
}

/// A name that was kept once: what is no longer taken is left out of it, because the rest of the document is sound.
impl TryFrom<String> for Name {
    type Error = BadName;

    fn try_from(text: String) -> Result<Self, BadName> {
        match Self::new(&text) {
            Err(BadName::TurnedRound) => {
                Self::new(&text.chars().filter(|c| !turns_round(*c)).collect::<String>())
            }
            other => other,
        }
        .or_else(|error| match error {
            BadName::Empty if !text.trim().is_empty() => Ok(Self("unnamed".to_owned())),
            error => Err(error),
        })
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

    #[test]
    fn a_name_can_be_seen_and_is_what_it_looks_like() {
        for unseen in ["\u{200b}", "\u{feff}\u{200d}", "\u{3164} \u{2800}", "\u{e0041}"] {
            assert_eq!(Name::new(unseen), Err(BadName::Empty), "{unseen:?}");
        }
        assert_eq!(Name::new("oat \u{202e}etihw"), Err(BadName::TurnedRound));
        assert_eq!(Name::new("oat\u{2028}white"), Err(BadName::Control));
        // Joined letters and pictures need their joiners.
        for text in ["👩\u{200d}🎨 blue", "می\u{200c}شود"] {
            assert_eq!(Name::new(text).unwrap().as_str(), text);
        }
        // A document from earlier versions opens for good.
        let kept = |json: &str| serde_json::from_str::<Name>(json).unwrap();
        assert_eq!(kept("\"oat \\u202ewhite\"").as_str(), "oat white");
        assert_eq!(kept("\"\\u200b\"").as_str(), "unnamed");
    }
}
