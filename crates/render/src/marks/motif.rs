//! A stencil's motif.

use super::field::{Field, PER_MM, SIDE, noise, rough};

/// How many motifs lie side by side on a tile.
const TIMES: usize = 4;

/// A pattern that is lost and found, as the brush was pressed. High where paint comes first.
pub(super) fn stencilled(seed: u32) -> Field {
    let (pressed, fine) =
        (noise(26.0 * PER_MM, 26.0 * PER_MM, seed), rough(&[(0.5, 0.6), (1.6, 0.4)], seed + 1));
    let own = SIDE / TIMES;
    let one: Field = (0..own * own)
        .map(|i| -motif((i % own) as f32 / own as f32 - 0.5, (i / own) as f32 / own as f32 - 0.5))
        .collect();
    (0..SIDE * SIDE)
        .map(|i| one[i / SIDE % own * own + i % own] + 0.018 * pressed[i] + 0.012 * fine[i])
        .collect()
}

/// A lozenge of four leaves round a dot; low inside. `x` and `y` go over it, ±½.
fn motif(x: f32, y: f32) -> f32 {
    let (r, turn) = (x.hypot(y), y.atan2(x));
    // How far along the nearest leaf, and how far from its middle.
    let quarter = (turn / std::f32::consts::FRAC_PI_2).round() * std::f32::consts::FRAC_PI_2;
    let (along, off) = (r * (turn - quarter).cos(), (r * (turn - quarter).sin()).abs());
    let half = (along - 0.05).max(0.0) * (0.40 - along).max(0.0) * 3.0;
    let leaf = if (0.05..0.40).contains(&along) { off - half } else { off + 0.2 + (along - 0.40).abs() };
    let vein = off - 0.006;
    leaf.max(-vein).min(r - 0.035)
}
