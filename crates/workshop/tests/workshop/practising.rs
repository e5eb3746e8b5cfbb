//! Practice: questions that a screen can ask, and answers that can be read from it.

use proptest::prelude::*;
use warm_blend_practice::{Answered, Difficulty, EyeSkill};
use warm_blend_spectral::{Lab, Srgb, difference};
use warm_blend_workshop::{AnswerGiven, PracticeView, Question, QuestionAsked};

use crate::pile::*;

fn level(n: u8) -> Difficulty {
    Difficulty::try_from(n).unwrap()
}

fn lab(hex: &str) -> Lab {
    hex.parse::<Srgb>().unwrap().to_lab()
}

fn ask(skill: EyeSkill, n: u8, seed: u32) -> Option<Question> {
    pile().shelf().question(QuestionAsked { skill, level: level(n), seed }).ok()
}

/// The shelf of this pile has no sample board's worth of mediums: what needs one is asked of the demo instead, over HTTP.
const COLOURS: [EyeSkill; 8] = [
    EyeSkill::Lighter,
    EyeSkill::Warmer,
    EyeSkill::Parts,
    EyeSkill::Halfway,
    EyeSkill::Drying,
    EyeSkill::Light,
    EyeSkill::Mud,
    EyeSkill::Strip,
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, ..ProptestConfig::default() })]

    /// A screen of eight bits shows every difference that is asked for, and one choice is right.
    #[test]
    fn a_screen_can_show_what_is_asked(which in 0..COLOURS.len(), n in 0u8..=12, seed: u32) {
        let question = ask(COLOURS[which], n, seed);
        prop_assert!(question.is_some(), "{:?} at {n}", COLOURS[which]);
        let question = question.unwrap();
        prop_assert!((2..=4).contains(&question.choices.len()) && question.right < question.choices.len());
        let cells = |cells: &[String]| cells.iter().map(|hex| lab(hex)).collect::<Vec<_>>();
        for (i, one) in question.choices.iter().enumerate() {
            for other in &question.choices[..i] {
                let pairs = cells(&one.cells).into_iter().zip(cells(&other.cells));
                let most = pairs.map(|(one, other)| difference(one, other).value()).fold(0.0, f64::max);
                prop_assert!(one.words != other.words && one.cells.is_empty() || most >= 0.5, "{most}");
            }
        }
        prop_assert_eq!(ask(COLOURS[which], n, seed), Some(question));
    }

    /// Read back from the colours on the screen alone, without the engine's figures: the right choice is right.
    #[test]
    fn the_right_answer_can_be_read_from_the_screen(n in 0u8..=9, seed: u32) {
        let pair = |question: &Question| {
            let cells = &question.shows[0].cells;
            (lab(&cells[0]), lab(&cells[1]))
        };
        if let Some(question) = ask(EyeSkill::Lighter, n, seed) {
            let (left, right) = pair(&question);
            let said = &question.choices[question.right].words;
            prop_assert!(said.starts_with(if left.l > right.l { "left" } else { "right" }), "{said}");
            // By one of two amounts: the right one is nearer to what is shown.
            let size = EyeSkill::Lighter.size(level(n));
            let shown = (left.l - right.l).abs();
            let twice = shown > 1.5 * size;
            let shades = if twice { 2.0 * size / 6.0 } else { size / 6.0 };
            let amount: f64 = said.split("by ").nth(1).unwrap().split(' ').next().unwrap().parse().unwrap();
            prop_assert!((amount - shades).abs() < 0.06, "{said}, shown {shown}");
        }
        if let Some(question) = ask(EyeSkill::Warmer, n, seed) {
            let (left, right) = pair(&question);
            let warm = |lab: Lab| lab.a * 0.5 + lab.b * 0.866;
            let side = if warm(left) > warm(right) { "left" } else { "right" };
            prop_assert_eq!(&question.choices[question.right].words, side);
        }
        if let Some(question) = ask(EyeSkill::Halfway, n, seed) {
            let ends = [lab(&question.shows[0].cells[0]), lab(&question.shows[1].cells[0])];
            let uneven = |hex: &str| {
                let [one, other] = ends.map(|end| difference(end, lab(hex)).value());
                (one - other).abs()
            };
            let most_even = (0..question.choices.len())
                .min_by(|a, b| uneven(&question.choices[*a].cells[0]).total_cmp(&uneven(&question.choices[*b].cells[0])));
            prop_assert_eq!(most_even, Some(question.right));
        }
    }
}

#[test]
fn an_answer_is_checked_and_nothing_is_given_away() {
    let shelf = pile().shelf();
    let question = ask(EyeSkill::Trouble, 3, 7).unwrap();
    let sent = serde_json::to_value(&question).unwrap();
    assert!(sent.get("right").is_none() && sent.get("because").is_none(), "{sent}");
    let given = |choice| AnswerGiven { skill: EyeSkill::Trouble, level: level(3), seed: 7, choice };
    let now = jiff::Timestamp::UNIX_EPOCH;
    let (kept, checked) = given(question.right).check(&shelf, &[], now).unwrap();
    assert!(kept.right && checked.right && checked.choice == question.right);
    let wrong = (question.right + 1) % question.choices.len();
    let (kept, checked) = given(wrong).check(&shelf, &[kept], now).unwrap();
    assert!(!kept.right && !checked.right && checked.level == level(2), "{checked:?}");
    assert_eq!(pointers(given(9).check(&shelf, &[], now)), ["/choice"]);
}

#[test]
fn a_shelf_with_few_paints_practises_on_the_chart() {
    let view = |pile: &Pile| PracticeView::of(&pile.shelf(), &[]).unwrap();
    assert!(!view(&pile()).from_chart);
    let mut few = Pile::default();
    few.put(id(100), warm_blend_documents::Workshop::default());
    let view = view(&few);
    assert!(view.from_chart && view.skills.len() == EyeSkill::ALL.len() && view.next == EyeSkill::Lighter);
    for skill in COLOURS {
        assert!(few.shelf().question(QuestionAsked { skill, level: level(1), seed: 3 }).is_ok(), "{skill:?}");
    }
    // What needs a finish says what is missing.
    let refused = few.shelf().question(QuestionAsked { skill: EyeSkill::Layers, level: level(0), seed: 1 });
    assert_eq!(pointers(refused), ["/skill"]);
}

/// The greys are even steps of lightness, from black to white.
#[test]
fn the_greys_are_even() {
    let view = PracticeView::of(&pile().shelf(), &[]).unwrap();
    let l: Vec<f64> = view.greys.iter().map(|hex| lab(hex).l).collect();
    assert!(l.windows(2).all(|pair| (pair[1] - pair[0] - 10.0).abs() < 0.4), "{l:?}");
}

#[test]
fn the_skill_at_the_lowest_level_comes_next() {
    let answer =
        |skill, n, right| Answered { at: jiff::Timestamp::UNIX_EPOCH, skill, level: level(n), right };
    let mut all: Vec<Answered> =
        EyeSkill::ALL.iter().flat_map(|skill| (0..8).map(|_| answer(*skill, 6, true))).collect();
    all.extend((0..4).map(|_| answer(EyeSkill::Mud, 3, false)));
    let view = PracticeView::of(&pile().shelf(), &all).unwrap();
    assert_eq!(view.next, EyeSkill::Mud);
}
