//! Questions about order: layers of a board seen in section, and steps of a day.

use rand::Rng as _;
use rand_chacha::ChaCha8Rng;
use warm_blend_board::{Board, GroundKind};
use warm_blend_documents::work_words;
use warm_blend_plan::{ZoneWork, wanted};

use super::question::{Question, said};
use crate::boards::on_a_chest;
use crate::pane::{Pane, pane};
use crate::{Refusal, ShelfSnapshot};

/// Steps whose order is asked for.
const ROW: usize = 4;

/// Ready finishes that this shelf can make.
fn boards(shelf: &ShelfSnapshot) -> Result<Vec<Board>, Refusal> {
    let ready = shelf.ready_finishes(GroundKind::WhitePrimer, None)?;
    Ok(ready.into_iter().filter_map(|finish| finish.entry).collect())
}

/// Three orders, the right one first: in the others two things `far` apart are exchanged.
fn orders(right: &[String], far: usize, chance: &mut ChaCha8Rng) -> Option<Vec<Vec<String>>> {
    let far = far.min(right.len().checked_sub(1)?);
    let mut all = vec![right.to_vec()];
    for _ in 0..20 {
        let at = chance.random_range(0..right.len() - far);
        let mut wrong = right.to_vec();
        wrong.swap(at, at + far);
        if !all.contains(&wrong) {
            all.push(wrong);
        }
        if all.len() == 3 {
            return Some(all);
        }
    }
    // Two orders are a question, too.
    (all.len() == 2).then_some(all)
}

fn asked(
    words: &str,
    shows: Vec<Pane>,
    names: &[String],
    size: f64,
    chance: &mut ChaCha8Rng,
) -> Option<Question> {
    let orders = orders(names, size as usize, chance)?;
    let choices = orders.into_iter().map(|order| said(order.join(", then ")));
    let because = format!("It is {}.", names.join(", then "));
    Some(Question::shuffled(
        words,
        shows,
        choices.collect(),
        because.to_lowercase().replacen("it", "It", 1),
        chance,
    ))
}

/// In which order the layers of a board lie, seen in section; in the wrong orders two that are `size` apart are exchanged.
pub(super) fn layers(
    shelf: &ShelfSnapshot,
    size: f64,
    chance: &mut ChaCha8Rng,
) -> Result<Option<Question>, Refusal> {
    let boards = boards(shelf)?;
    if boards.is_empty() {
        return Ok(None);
    }
    let board = &boards[chance.random_range(0..boards.len())];
    let Some(strip) = board.strips().first() else { return Ok(None) };
    let layers: Vec<_> =
        board.layers(strip.letter).into_iter().filter(|layer| !layer.pot.is_empty()).collect();
    let mut names: Vec<String> = Vec::new();
    let mut cells = Vec::new();
    for layer in layers.iter().take(ROW) {
        let Some(mixed) = shelf.most_probable(
            &layer.pot.iter().map(|part| (part.paint, part.parts.into())).collect::<Vec<_>>(),
        )?
        else {
            return Ok(None);
        };
        let name = layer.technique.named(layer.hand);
        names.push(format!("{} in {}", name, shelf.name(layer.pot[0].paint.0)).to_lowercase());
        cells.push(crate::pane::hex(&mixed.masstone()));
    }
    let mut unique = names.clone();
    unique.sort();
    unique.dedup();
    if names.len() < 2 || unique.len() < names.len() {
        return Ok(None);
    }
    let shows = vec![pane("cut through, the ground on the left", cells)];
    Ok(asked("In which order do these layers lie, from the ground up?", shows, &names, size, chance))
}

/// In which order work is done; in the wrong orders two steps that are `size` apart are exchanged.
pub(super) fn steps(
    shelf: &ShelfSnapshot,
    size: f64,
    chance: &mut ChaCha8Rng,
) -> Result<Option<Question>, Refusal> {
    let boards = boards(shelf)?;
    let grounds = [GroundKind::Varnished, GroundKind::RedStain, GroundKind::WhitePrimer];
    let ground = grounds[chance.random_range(0..grounds.len())];
    let Some(board) = boards.get(chance.random_range(0..boards.len().max(1))) else { return Ok(None) };
    let chest = ZoneWork { ground, ..on_a_chest(board) };
    let tins = |paint| shelf.product(paint);
    let mut names: Vec<String> = Vec::new();
    for work in wanted(&chest, true, &tins) {
        let name = work_words(&work, &tins).to_lowercase();
        if !names.contains(&name) {
            names.push(name);
        }
    }
    if names.len() < ROW {
        return Ok(None);
    }
    let from = chance.random_range(0..=names.len() - ROW);
    Ok(asked("What is the right order?", Vec::new(), &names[from..from + ROW], size, chance))
}
