//! Dimensions of a piece that fit the marks on a photo of it better than those that were entered.

use warm_blend_photo::{Pinhole, Point2};
use warm_blend_piece::{Elevation, View};

use crate::{
    marked::{FITS, MarkedPhoto, Points, marked_points},
    space::Point,
};

/// What the marks say of the dimensions, where they contradict them: factors of what was entered, with the width as it is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Proportions {
    /// Of the height.
    pub height: f64,
    /// Of the depth; `None` where no face that shows it is marked.
    pub depth: Option<f64>,
}

impl Proportions {
    /// `None` where the dimensions fit the marks about as well as any, or the marks cannot be right. `high` is the height of the photo in
    /// its widths.
    pub fn contradicting(elevation: &Elevation, marked: &MarkedPhoto, high: f64) -> Option<Self> {
        /// Less of a misfit is no proof†, nor is a smaller difference worth a word†.
        const PROOF: f64 = 30.0;
        const LEAST: f64 = 0.05;
        /// Logarithms of the factors that are tried, and how often each is tried anew.
        const WIDEST: f64 = 0.9;
        const ROUNDS: usize = 4;
        let points = marked_points(elevation, marked).ok()?;
        let entered = Pinhole::fit(&points, high)?;
        if entered.misfit < PROOF {
            return None;
        }
        let shows_depth = marked.faces.iter().any(|(view, _)| *view != View::Front);
        let fitted = |by: [f64; 2], from: &Pinhole| {
            let scaled = |&([x, y, z], at): &(Point, Point2)| ([x, y * by[0].exp(), z * by[1].exp()], at);
            let scaled: Points = points.iter().map(scaled).collect();
            from.refit(&scaled, high)
        };
        let mut best = ([0.0; 2], entered);
        for round in 0..ROUNDS {
            for axis in 0..=usize::from(shows_depth) {
                // Ever smaller steps about the best so far.
                let step = WIDEST / 6.0_f64.powi(1 + round as i32);
                for n in -6..=6 {
                    let mut by = best.0;
                    by[axis] += step * f64::from(n);
                    if by[axis].abs() > WIDEST {
                        continue;
                    }
                    best = match fitted(by, &best.1) {
                        Some(better) if better.misfit < best.1.misfit => (by, better),
                        _ => best,
                    };
                }
            }
        }
        let ([height, depth], found) = best;
        let differs = height.abs().max(depth.abs()) > LEAST;
        (differs && found.error < FITS && entered.misfit - found.misfit > PROOF)
            .then(|| Self { height: height.exp(), depth: shows_depth.then(|| depth.exp()) })
    }
}
