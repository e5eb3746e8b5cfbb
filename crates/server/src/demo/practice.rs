//! Five weeks of practice for the eye, on some evenings.

use warm_blend_practice::{Answered, EyeSkill, Staircase};
use warm_blend_store::{Store, StoreError};

use super::days::days_ago;

/// Days ago of each evening.
const EVENINGS: [i64; 5] = [36, 29, 23, 15, 8];

/// A skill with its answers by evening: `+` right, `-` wrong.
const ANSWERS: [(EyeSkill, [&str; 5]); 6] = [
    (EyeSkill::Lighter, ["++++++-+", "++++-+++", "+-++++-+", "++-+++-+", "++++-++-"]),
    (EyeSkill::Warmer, ["++-+++-+", "+++++-++", "", "++++-+++", "+-++++-+"]),
    (EyeSkill::Drying, ["+-+-++-+", "++-+-+++", "+++-++-+", "", "+++++-++"]),
    (EyeSkill::Parts, ["", "-+-++-+-", "++-+++-+", "+++++-++", ""]),
    (EyeSkill::Mud, ["", "", "++++++++", "+++-++++", ""]),
    (EyeSkill::Light, ["", "", "-+-+--+-", "", "+-++-+-+"]),
];

/// Saves the answers, each at the level at which it would have been asked.
pub fn answers(store: &mut Store) -> Result<(), StoreError> {
    let mut all = Vec::new();
    for (skill, evenings) in ANSWERS {
        let mut stairs = Staircase::default();
        for (days, evening) in EVENINGS.into_iter().zip(evenings) {
            for (minute, answer) in (0i8..).zip(evening.chars()) {
                let right = answer == '+';
                all.push(Answered { at: days_ago(days, (20, minute)), skill, level: stairs.level(), right });
                stairs = stairs.after(right);
            }
        }
    }
    all.sort_by_key(|answer| answer.at);
    store.keep_answers(&all)
}
