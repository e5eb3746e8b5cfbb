//! The relief of a sample board: a flat, a bead and cove, a sunk panel, a carved corner.

use rayon::prelude::*;

use crate::{
    fineness::{Drawn, Fineness},
    placed::Closer,
    places::{Bounds, Heights, Ragged},
    relief::{BadSize, Relief, Shaped},
};

/// Height of the board, mm; its width follows the picture's.
const TALL: f64 = 200.0;
/// From the outline to the moulding, and the moulding's width, mm.
const MARGIN: f64 = 26.0;
pub(crate) const MOULDING: f64 = 22.0;
/// How deep the panel is sunk, mm.
const SUNK: f64 = -3.0;
/// How high it is beyond the board, mm: its outline is an edge.
const BEYOND: f32 = -6.0;
/// Radius of the carving, mm, and number of its leaves.
pub(crate) const CARVED: f64 = 58.0;
const LEAVES: f64 = 5.0;

/// How far around a picture from close by the board is shaped too, mm: heights are compared with what is around them.
const AROUND: f64 = 8.0;

impl Relief {
    /// The relief in a picture of this size and fineness, whole or enlarged.
    pub fn panelled(width: u32, height: u32, closer: Closer, fineness: Fineness) -> Result<Self, BadSize> {
        let Drawn { width, height, times } = Drawn::of((width, height), fineness)?;
        let (whole, from) = closer.whole_and_offset((width, height));
        let mm = TALL / whole.1 as f64;
        let around = (AROUND / mm).ceil() as usize;
        let span = |from: usize, part: usize, whole: usize| {
            from.saturating_sub(around)..(from + part + around).min(whole)
        };
        let (across, down) = (span(from.0, width, whole.0), span(from.1, height, whole.1));
        let wide = whole.0 as f64 * mm;
        let mut heights = vec![0f32; across.len() * down.len()];
        heights.par_chunks_exact_mut(across.len()).zip(down.clone()).for_each(|(row, y)| {
            for (h, x) in row.iter_mut().zip(across.clone()) {
                *h = carved((x as f64 + 0.5) * mm, (y as f64 + 0.5) * mm, wide) as f32;
            }
        });
        let out =
            Heights { width: across.len(), mm, heights: &heights, beyond: Some(BEYOND), grown: &|_| 1.0 }
                .out();
        let seen = |of: &[f32]| -> Vec<f32> {
            let rows = of.chunks_exact(across.len()).skip(from.1 - down.start).take(height);
            rows.flat_map(|row| &row[from.0 - across.start..][..width]).copied().collect()
        };
        let (heights, out) = (seen(&heights), seen(&out));
        let of_whole = |x: usize, y: usize| {
            let (x, y) = (x + from.0, y + from.1);
            (x.min(whole.0 - 1 - x), y.min(whole.1 - 1 - y))
        };
        let rim = |x: usize, y: usize| {
            let (across, down) = of_whole(x, y);
            across.min(down) as f64 * mm
        };
        let upright = |x: usize, y: usize| {
            let (across, down) = of_whole(x, y);
            across < down && rim(x, y) < MARGIN + MOULDING
        };
        let stands = |x: usize, y: usize| {
            // All the way to the middle, for what goes from there to the rim.
            let near = 255.0 * (1.0 - rim(x, y) / (0.5 * TALL)).max(0.0);
            (near as u8, (255 * (y + from.1) / whole.1) as u8)
        };
        let (upright, stands) = (&upright, &stands);
        let resolved = Ragged::at(mm, mm, from).resolved(&out, width);
        Ok(Self::of(&Shaped {
            width,
            mm,
            marks: mm,
            from,
            whole: whole.0,
            times,
            heights: &heights,
            out: &out,
            resolved: &resolved,
            bounds: &|_| Bounds::OF_A_BOARD,
            upright,
            stands,
        }))
    }
}

/// Height of the board at a spot, mm.
fn carved(x: f64, y: f64, wide: f64) -> f64 {
    let rim = x.min(wide - x).min(y).min(TALL - y);
    let rounded = if rim < 3.0 { -(3.0 - rim).powi(2) / 3.0 } else { 0.0 };
    let inward = rim - MARGIN;
    if inward < MOULDING {
        return rounded + moulding(inward);
    }
    let (dx, dy) = (wide - MARGIN - MOULDING - 4.0 - x, TALL - MARGIN - MOULDING - 4.0 - y);
    SUNK + if dx > 0.0 && dy > 0.0 { carving(dx.hypot(dy), dy.atan2(dx)) } else { 0.0 }
}

/// Section of the moulding: a quirk, a bead, a fillet, and a cove down to the panel.
pub(crate) fn moulding(s: f64) -> f64 {
    let round = |u: f64| (1.0 - u * u).max(0.0).sqrt();
    match s {
        s if s < 0.0 => 0.0,
        s if s < 2.4 => -1.5 * (std::f64::consts::PI * s / 2.4).sin(),
        s if s < 9.2 => 2.9 * round((s - 5.8) / 3.4),
        s if s < 10.6 => -0.9,
        s if s < 11.6 => 1.2,
        s if s < 20.0 => {
            let down = (s - 11.6) / 8.4;
            SUNK + (1.2 - SUNK) * (1.0 - round(1.0 - down))
        }
        s if s < 21.2 => SUNK - 0.8,
        _ => SUNK,
    }
}

/// A fan of leaves round a boss, above the panel.
pub(crate) fn carving(r: f64, turn: f64) -> f64 {
    if r < 9.0 {
        return 3.2 * (1.0 - (r / 9.0).powi(2)).sqrt();
    }
    if r < 11.0 {
        return -0.9;
    }
    let along = turn / std::f64::consts::FRAC_PI_2 * LEAVES;
    let off = 2.0 * (along.fract() - 0.5);
    let middle = (along.floor() - (LEAVES - 1.0) / 2.0).abs();
    let tip = CARVED * (0.74 + 0.26 * (1.0 - off * off).sqrt()) * (1.0 - 0.04 * middle);
    if r > tip {
        return 0.0;
    }
    let out = (r - 11.0) / (tip - 11.0);
    let body = 3.4
        * (1.0 - off.abs().powf(2.4))
        * (std::f64::consts::PI * (0.12 + 0.80 * out)).sin().max(0.0).sqrt();
    // A rib along the middle, and veins that leave it.
    let half_width = r * std::f64::consts::FRAC_PI_4 / LEAVES;
    let rib = -0.8 * (-(off * half_width / 0.5).powi(2)).exp();
    let veins = 0.28 * (11.0 * out - 3.6 * off.abs()).sin() * (1.0 - off.abs());
    let groove = if off.abs() > 0.9 { -0.5 } else { 0.0 };
    body + rib + veins + groove
}

#[cfg(test)]
mod tests {
    use super::*;
    use warm_blend_board::Place;

    #[test]
    fn there_is_some_of_every_place() {
        let plate = Relief::panelled(600, 400, Closer::WHOLE, Fineness::Quick).unwrap();
        let shares = Place::ALL.map(|place| plate.share(place));
        assert!((0.5..0.85).contains(&shares[0]) && shares[1] > 0.06 && shares[2] > 0.06, "{shares:?}");
        assert!((shares.iter().sum::<f64>() - 1.0).abs() < 1e-9);
        // The outline is an arris, the middle of the margin a flat, the groove beside the bead a recess.
        assert_eq!(plate.place(300, 1), Place::Edge);
        assert_eq!(plate.place(300, 26), Place::Field);
        assert_eq!(plate.place(300, 54), Place::Recess);
    }

    /// From close by a board is what it is from far away, only larger: the part of the larger picture, pixel by pixel.
    #[test]
    fn from_close_by_it_is_the_same_board() {
        let whole = Relief::panelled(1600, 800, Closer::WHOLE, Fineness::Quick).unwrap();
        for middle in [(0.3, 0.6), (0.0, 0.0), (1.0, 0.5)] {
            let closer = Closer { by: 2.0, middle };
            let near = Relief::panelled(800, 400, closer, Fineness::Quick).unwrap();
            assert_eq!((near.whole, near.mm), (whole.width, whole.mm));
            // What lies at the rim of the picture is judged by its surroundings within it.
            for y in 6..394 {
                for x in 6..794 {
                    let (one, other) = (y * 800 + x, (y + near.from.1) * 1600 + x + near.from.0);
                    assert_eq!(near.pixels[one], whole.pixels[other], "{x} {y} of {middle:?}");
                }
            }
        }
    }
}
