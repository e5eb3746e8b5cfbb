//! The same recipe mixed again from the same tins, in drops.
//!
//! What the tins are in truth does not matter: they are what they were. What differs is how the parts were measured, in spoons then and in
//! drops now.

use warm_blend_paint::{Look, Material, Parts, mix};
use warm_blend_spectral::{Lab, difference};

/// Standard deviation of ln(parts) in level spoons or cups, and of ln(a drop)†.
const SPOONS: f64 = 0.05;
const DROP: f64 = 0.1;
/// 90 % of a normal distribution lie within so many standard deviations.
const NINE_IN_TEN: f64 = 1.645;

/// 90 % limit of the difference between a pot that was poured in spoons and the same recipe in so many drops of each part, ΔE00 in this
/// light and state; 0 for a single part.
pub fn mixed_again(pot: &[(Parts, &Material)], drops: &[f64], look: Look) -> f64 {
    let seen = |pot: &[(Parts, &Material)]| Some(look.face(&mix(pot).ok()?).lab);
    let Some(middle) = seen(pot).filter(|_| pot.len() > 1) else { return 0.0 };
    // By how much each part moves the colour if it is off by a standard deviation; the parts are off independently.
    let squares = pot.iter().zip(drops).enumerate().filter_map(|(i, ((parts, material), drops))| {
        let sd = SPOONS.hypot(DROP / drops.max(1.0).sqrt());
        let mut more = pot.to_vec();
        more[i] = (Parts::new(parts.value() * sd.exp()).ok()?, *material);
        let off: Lab = seen(&more)?;
        Some(difference(off, middle).value().powi(2))
    });
    NINE_IN_TEN * squares.sum::<f64>().sqrt()
}
