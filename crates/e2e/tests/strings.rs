//! The words of the screens.

use warm_blend_e2e::strings::visible_strings;

/// Words that no painter says, by what is wrong with them: translations, and words of the code.
const REFUSED: [&str; 24] = [
    "reckoned",
    "foretold",
    "was said",
    "what was said",
    "comes to stand",
    "as happens",
    "in the mean",
    "for good",
    "any more",
    "water-borne",
    "put down",
    "taken down",
    "took down",
    "cannot be begun",
    "was not begun",
    "is no number",
    "is no colour",
    "is no time",
    "write it like",
    "look at it again",
    "hold against",
    "further back",
    "sealer",
    "half-way",
];

/// `make strings` prints this list, to be read aloud.
#[test]
fn every_visible_string_is_printed() {
    let all = visible_strings();
    for string in &all {
        println!("{}:{}\t{}", string.file, string.line, string.text);
    }
    assert!(all.len() > 2000, "{}", all.len());
    for known in
        ["Covers in {}", "Hours and rates", "clear: does not cover", "Ageing: {}", "Check these entries"]
    {
        assert!(
            all.iter().any(|string| string.text.contains(known.trim_end_matches("{}").trim())),
            "{known} is missing"
        );
    }
}

#[test]
fn no_visible_string_has_a_refused_word() {
    let bad: Vec<String> = visible_strings()
        .into_iter()
        .filter(|string| {
            let text = format!(" {} ", string.text.to_lowercase());
            REFUSED.iter().any(|word| {
                text.contains(&format!(" {word} "))
                    || text.contains(&format!(" {word},"))
                    || text.contains(&format!(" {word}."))
            })
        })
        .map(|string| format!("{}:{} {}", string.file, string.line, string.text))
        .collect();
    assert!(bad.is_empty(), "{}", bad.join("\n"));
}
