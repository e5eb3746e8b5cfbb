//! Questions about what went wrong.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;

use super::question::{Question, said};

/// What is seen, why, and the way back (common practice).
const TROUBLES: [(&str, &str, &str); 8] = [
    (
        "The first coat over a dark red wood looks pale and chalky.",
        "One coat lets the dark ground through",
        "Wait and put on the second coat, or an undercoat nearer the colour.",
    ),
    (
        "Nothing stands out: the whole front looks dull.",
        "The neighbouring colours are too close",
        "Set something lighter on the detail, or go a step further in hue.",
    ),
    (
        "One drawer jumps out of the piece.",
        "It is too far from its neighbours",
        "Pull everything together with one thin wash or glaze.",
    ),
    (
        "A spoon of red has taken over the whole pot.",
        "It has far more tint strength than the rest",
        "Add the strong colour last, and least.",
    ),
    (
        "The glaze pulls up the paint under it.",
        "Water in the glaze wets a paint that was not sealed",
        "Seal it first, or use wax.",
    ),
    (
        "The dark wax went on much too dark, and will not come off.",
        "There is no clear wax under it",
        "Put clear wax on first; while it is fresh, a little clear wax lifts the dark one.",
    ),
    (
        "The coat has cracked and run.",
        "It went on too thick and too wet",
        "Let it dry, sand it flat, and recoat thinly.",
    ),
    (
        "Where yellow met blue on the panel there is a patch of green.",
        "One brush was used for both",
        "Give each of them its own brush.",
    ),
];

/// Why something went wrong; the lower the level, the fewer causes to choose from.
pub(super) fn trouble(size: f64, chance: &mut ChaCha8Rng) -> Option<Question> {
    let at = chance.random_range(0..TROUBLES.len());
    let (seen, why, back) = TROUBLES[at];
    let wrong = if size > 2.0 {
        1
    } else if size > 1.0 {
        2
    } else {
        3
    };
    let mut others: Vec<usize> = (0..TROUBLES.len()).filter(|n| *n != at).collect();
    let mut choices = vec![said(why)];
    for _ in 0..wrong {
        let other = others.remove(chance.random_range(0..others.len()));
        choices.push(said(TROUBLES[other].1));
    }
    let because = format!("{why}. {back}");
    Some(Question::shuffled(format!("{seen} Why?"), Vec::new(), choices, because, chance))
}
