//! A pot in words.

use std::fmt::Display;

/// Parts and names: `5 slate blue : 1 barley`; for one paint its name alone.
pub fn pot_words(parts: &[(impl Display, String)]) -> String {
    match parts {
        [(_, name)] => name.clone(),
        _ => parts.iter().map(|(parts, name)| format!("{parts} {name}")).collect::<Vec<_>>().join(" : "),
    }
}
