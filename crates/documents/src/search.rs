//! Text search: ignores case and accents, matches beginnings of words, in singular or plural.

use unicode_normalization::{UnicodeNormalization, char::is_combining_mark};

/// Greatest number of words searched for.
const MOST: usize = 16;
/// Greatest length of a word, beyond which it is cut.
const LONGEST: usize = 40;

/// Normalised words of a text: `Crème-Weiß, 3 Böden` becomes creme, weiss, 3, boden.
pub fn folded(text: &str) -> Vec<String> {
    let plain: String = text
        .nfkd()
        .filter(|c| !is_combining_mark(*c))
        .flat_map(char::to_lowercase)
        .flat_map(|c| if c == 'ß' { vec!['s', 's'] } else { vec![c] })
        .collect();
    plain.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).map(str::to_owned).collect()
}

/// Beginnings of words to search for; a plural also finds the singular.
pub fn beginnings(search: &str) -> Vec<String> {
    let short = |word: String| word.chars().take(LONGEST).collect::<String>();
    folded(search).into_iter().take(MOST).map(short).map(|word| singular(&word)).collect()
}

/// Removes the ending of a plural.
fn singular(word: &str) -> String {
    // The rest must be a word: wax of waxes, not us of uses.
    let cut = |ending: &str| word.strip_suffix(ending).filter(|stem| stem.chars().count() >= 3);
    if let Some(stem) = cut("es")
        .filter(|stem| stem.ends_with(['x', 's', 'z']) || stem.ends_with("ch") || stem.ends_with("sh"))
    {
        return stem.to_owned();
    }
    match cut("s") {
        Some(stem) if !stem.ends_with(['s', 'u', 'i']) => stem.to_owned(),
        _ => word.to_owned(),
    }
}

/// True if each of the beginnings starts a word of the text.
pub fn finds(beginnings: &[String], text: &str) -> bool {
    let words = folded(text);
    beginnings.iter().all(|begins| words.iter().any(|word| word.starts_with(begins.as_str())))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn accents_plurals_and_parts_of_words() {
        for (search, text) in [
            ("creme", "Crème for the case"),
            ("Crème", "creme"),
            ("panels", "one panel"),
            ("waxes", "clear wax"),
            ("brushes", "a brush"),
            ("glass", "glass"),
            ("blu", "night blue"),
            ("slate 5", "5 slate blue : 1 barley"),
            ("weiss", "Weiß"),
            ("\"slate\" OR *", "or slate"),
            ("", "anything"),
        ] {
            assert!(finds(&beginnings(search), text), "{search} in {text}: {:?}", beginnings(search));
        }
        assert!(!finds(&beginnings("red"), "bored"), "in the middle of a word");
        assert!(!finds(&beginnings("slate oxblood"), "slate blue"));
        let long = beginnings(&"slate ".repeat(2000));
        assert_eq!(long.len(), MOST);
        assert!(beginnings(&"x".repeat(10_000))[0].len() <= LONGEST);
    }
}
