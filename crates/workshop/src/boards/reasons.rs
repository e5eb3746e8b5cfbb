//! What the prediction of a strip rests on: its paints, the painter's touch, bare wood.

use serde::Serialize;
use utoipa::ToSchema;
use warm_blend_board::{Board, Letter, Place, Varies, bands_if};
use warm_blend_learn::Certainty;
use warm_blend_paint::{Look, PaintId};

use super::prediction::{SeenBoard, strip_of};
use crate::{Guess, Refusal, ShelfSnapshot};

/// What the prediction of a strip rests on, at the place where it is least sure.
#[derive(Debug, Serialize, ToSchema)]
pub struct BoardReasons {
    /// The answer in a sentence: `Least sure in the recess: how much your touch leaves.`
    pub words: String,
    /// `field`, `recess` or `edge`.
    pub place: &'static str,
    /// 90 % band there, ΔE00.
    pub within: f64,
    /// What is guessed, the greatest contribution first.
    pub guesses: Vec<Guess>,
    /// What would settle it, in a sentence.
    pub next: &'static str,
}

impl ShelfSnapshot {
    /// What the prediction of a strip rests on.
    pub fn board_reasons(
        &self,
        board: &Board,
        asked: Option<Letter>,
        look: Look,
    ) -> Result<BoardReasons, Refusal> {
        let letter = strip_of(board, asked)?;
        let seen = SeenBoard::new(board, self, look)?;
        let stack = seen.stack(letter)?;
        let known = |paint| self.known(paint);
        let band = |varies| {
            let look = (look.light, look.state);
            bands_if(varies, board, letter, known, self.hands(), stack.len(), look)
                .map_err(|error| Refusal::field("/ground/colour", error))
        };
        let all = band(Varies::All)?;
        let place = Place::ALL.into_iter().max_by(|one, other| all.at(*one).total_cmp(all.at(*other)));
        let place = place.ok_or(Refusal::Broken)?;
        let within = *all.at(place);
        let mut guesses = Vec::new();
        for paint in board.paints() {
            if known(paint).is_some_and(|(_, tin)| tin.is_uncertain()) {
                guesses.push(self.paint_guess(paint, *band(Varies::Paint(paint))?.at(place)));
            }
        }
        guesses.push(self.touch_guess(board, letter, *band(Varies::Touch)?.at(place)));
        if stack.wood().is_some() {
            let words = "how much the bare wood darkens".to_owned();
            let within = *band(Varies::Wood)?.at(place);
            guesses.push(Guess { paint: None, words, source: "no two planks are alike", within });
        }
        Guess::in_order(&mut guesses, within);
        let where_ = ["on the flat", "in the recess", "on the edge"][place as usize];
        let first = guesses.first();
        let words = match first {
            Some(guess) if Certainty::of(within) != Certainty::Measured => {
                format!("Least sure {where_}: {}.", guess.words)
            }
            _ => "Nothing on it is uncertain enough to see.".to_owned(),
        };
        let next = match first.map(|guess| guess.paint) {
            Some(Some(_)) => "A tint test of that paint would settle most of it.",
            _ => "Paint the strip and read it: what your touch leaves is learned from that.",
        };
        Ok(BoardReasons { words, place: place.id(), within, guesses, next })
    }

    /// What is guessed of a paint as a whole.
    pub(crate) fn paint_guess(&self, paint: PaintId, within: f64) -> Guess {
        let words = format!("how {} turns out", self.name(paint.0));
        let read =
            self.readings_of(paint.0).any(|(_, judged)| judged.is_some_and(|judged| !judged.questioned));
        let source = if read { "from its label and its readings" } else { "from its label alone" };
        Guess { paint: Some(paint.0), words, source, within }
    }

    fn touch_guess(&self, board: &Board, letter: Letter, within: f64) -> Guess {
        let techniques = board.layers(letter).into_iter().map(|layer| layer.technique);
        let read = techniques.map(|technique| self.hands().boards(technique)).max().unwrap_or(0);
        let source = match read {
            0 => "no painted board has been read yet",
            1 => "from one board you painted",
            _ => "from boards you painted",
        };
        Guess { paint: None, words: "how much your touch leaves and covers".to_owned(), source, within }
    }
}
