//! What a painter calls the kinds of documents.

/// Kind, one and several of it, in the order in which they are shown.
const KINDS: [(&str, &str, &str); 10] = [
    ("paint", "paint", "paints"),
    ("mix", "mix", "mixes"),
    ("board", "board", "boards"),
    ("piece", "piece", "pieces"),
    ("run-sheet", "run sheet", "run sheets"),
    ("pour", "pour", "pours"),
    ("reading", "reading", "readings"),
    ("board-reading", "board reading", "board readings"),
    ("note", "note", "notes"),
    ("workshop", "workshop settings", "workshop settings"),
];

/// What one and several of a kind are called.
pub fn one_and_many(kind: &str) -> (&'static str, &'static str) {
    let found = KINDS.iter().find(|(id, ..)| *id == kind);
    found.map_or(("entry", "entries"), |(_, one, many)| (one, many))
}

/// Place of a kind among the others.
pub fn place(kind: &str) -> usize {
    KINDS.iter().position(|(id, ..)| *id == kind).unwrap_or(KINDS.len())
}
