//! Motifs of a stencil, side by side.

use warm_blend_board::Motif;

use super::field::{Field, PER_MM, SIDE, noise, rough};

/// How many motifs lie side by side on a tile.
const TIMES: usize = 4;
/// How much of its own square a motif takes, from side to side.
const WIDE: f64 = 0.8;
/// How much more it counts to be deep inside a motif than how the brush was pressed.
const DEEP: f32 = 0.09;

/// A pattern that is strong in places and faint in others, as the pressure varies. High where paint comes first.
pub(super) fn stencilled(motif: Motif, seed: u32) -> Field {
    let (pressed, fine) =
        (noise(26.0 * PER_MM, 26.0 * PER_MM, seed), rough(&[(0.5, 0.6), (1.6, 0.4)], seed + 1));
    let own = SIDE / TIMES;
    let at = |i: usize| (2.0 * (i as f64 + 0.5) / own as f64 - 1.0) / WIDE;
    let one: Field =
        (0..own * own).map(|i| DEEP * motif.depth(at(i % own), at(i / own)).max(-2.0) as f32).collect();
    (0..SIDE * SIDE)
        .map(|i| one[i / SIDE % own * own + i % own] + 0.018 * pressed[i] + 0.012 * fine[i])
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::marks::Texture;
    use warm_blend_piece::Mark;

    /// What comes first lies within the motif, and what the motif leaves bare comes last.
    #[test]
    fn paint_goes_through_what_is_cut_out() {
        for motif in Motif::ALL {
            let tile = Texture::of(Mark::Through(motif)).tile(false);
            let own = SIDE / TIMES;
            let at = |i: usize| (2.0 * (i % own) as f64 / own as f64 - 1.0) / WIDE;
            // Paint creeps under what is thin.
            let cut_out = |i: usize| motif.depth(at(i % SIDE), at(i / SIDE)) > -0.1;
            let share = motif.share() * WIDE * WIDE;
            let within = |from: f64, to: f64| {
                let ranks = f64::from(u16::MAX);
                let of = |i: &usize| (from * ranks..to * ranks).contains(&f64::from(tile[*i]));
                let these: Vec<usize> = (0..SIDE * SIDE).filter(of).collect();
                these.iter().filter(|i| cut_out(**i)).count() as f64 / these.len() as f64
            };
            let (first, last) = (within(0.0, 0.5 * share), within(1.5 * share, 1.0));
            assert!(first > 0.97 && last < 0.06, "{motif:?}: {first} {last}");
        }
    }
}
