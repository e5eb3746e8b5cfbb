//! A question with its choices, and whether a screen can ask it.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;
use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_spectral::{Lab, Srgb, difference};

use crate::pane::{Pane, in_daylight, shown};

/// Least difference between two colours to be told apart on a screen of eight bits, ΔE00.
const SHOWS: f64 = 0.5;

/// A question.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Question {
    /// What is asked.
    pub words: String,
    /// What is shown with it.
    pub shows: Vec<Pane>,
    /// What can be chosen.
    pub choices: Vec<ChoiceShown>,
    /// Index of the right choice. Not sent with the question.
    #[serde(skip)]
    pub right: usize,
    /// Why it is right. Not sent with the question.
    #[serde(skip)]
    pub because: String,
}

/// A choice of a question.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ChoiceShown {
    /// In words: `left`; names a colour only by its place.
    pub words: String,
    /// Colours from left to right; empty if it is only words.
    pub cells: Vec<String>,
}

impl Question {
    /// A question whose right choice comes first, put in an order by chance.
    pub(super) fn shuffled(
        words: impl Into<String>,
        shows: Vec<Pane>,
        mut choices: Vec<ChoiceShown>,
        because: impl Into<String>,
        chance: &mut ChaCha8Rng,
    ) -> Self {
        let right = choices.remove(0);
        let at = chance.random_range(0..=choices.len());
        // The wrong ones in any order.
        for i in (1..choices.len()).rev() {
            choices.swap(i, chance.random_range(0..=i));
        }
        choices.insert(at, right);
        Self { words: words.into(), shows, choices, right: at, because: because.into() }
    }

    /// True if a screen can show the difference between any two choices.
    pub(super) fn can_be_shown(&self) -> bool {
        let seen = |choice: &ChoiceShown| {
            choice.cells.iter().map(|hex| hex.parse::<Srgb>().ok()).collect::<Vec<_>>()
        };
        self.choices.iter().enumerate().all(|(n, one)| {
            self.choices[..n].iter().all(|other| {
                one.words != other.words && (one.cells.is_empty() || other.cells.is_empty())
                    || seen(one).into_iter().zip(seen(other)).any(|pair| match pair {
                        (Some(one), Some(other)) => difference(one.to_lab(), other.to_lab()).value() >= SHOWS,
                        _ => false,
                    })
            })
        })
    }
}

/// A choice that is a colour.
pub(super) fn swatch(words: &str, lab: Lab) -> ChoiceShown {
    ChoiceShown { words: words.to_owned(), cells: vec![shown(lab)] }
}

/// A choice in words.
pub(super) fn said(words: impl Into<String>) -> ChoiceShown {
    ChoiceShown { words: words.into(), cells: Vec::new() }
}

/// True if a screen shows this colour of daylight as it is.
pub(super) fn is_shown(lab: Lab) -> bool {
    (2.0..98.0).contains(&lab.l) && in_daylight(lab).in_gamut
}
