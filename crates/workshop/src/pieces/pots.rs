//! Pots whose colours a zone shows.

use warm_blend_board::Board;
use warm_blend_paint::MixPart;
use warm_blend_piece::{Finish, Scheme, Stencil, Zone};

use super::room::Room;

impl Room<'_> {
    /// Pots of a zone's colours, each once: the main one first, then from the top down. Pots without colour, such as wax, are
    /// left out, and what one stencil cannot take.
    pub(super) fn pots_of(&self, scheme: &Scheme, zone: Zone, main: &[MixPart]) -> Vec<Vec<MixPart>> {
        let of_strip = |board: &Board, strip| {
            let seen = board.layers(strip).into_iter().rev().filter(|layer| !layer.muted);
            seen.map(|layer| layer.pot.clone()).collect()
        };
        let worn: Vec<Vec<MixPart>> = match scheme.dress(zone).map(|dress| &dress.wears) {
            None | Some(Finish::Bare) => Vec::new(),
            Some(Finish::Strip { board, strip }) => {
                self.boards.get(board).map_or_else(Vec::new, |board| of_strip(board, *strip))
            }
            Some(Finish::Paint { pot }) => vec![pot.clone()],
            Some(Finish::Blend { bands, .. }) => bands.iter().map(|band| band.pot.clone()).collect(),
        };
        let colours = |pot: &Vec<MixPart>| {
            let makes = |part: &MixPart| {
                self.shelf.product(part.paint).is_some_and(|product| product.class.makes_colours())
            };
            pot.iter().any(makes)
        };
        let mut pots: Vec<Vec<MixPart>> = Vec::new();
        for pot in std::iter::once(main.to_vec()).chain(worn).filter(colours) {
            if pots.len() < Stencil::COLOURS && !pots.contains(&pot) {
                pots.push(pot);
            }
        }
        pots
    }
}
