//! What was found.

use std::sync::Arc;

use nalgebra::DMatrix;

use super::{
    remembered::Remembered,
    system::{Here, System},
};
use crate::residual::WhitenedResidual;

/// Paints that were read, at their most probable.
pub(crate) struct Fit {
    /// Coordinates by paint, in the order of the shelf; zeros where nothing was read.
    pub best: Vec<Vec<f64>>,
    /// The same of each member of the ensemble: by paint, coordinates × members.
    pub members: Vec<DMatrix<f64>>,
    /// How far each reading lies from what the others say, in standard deviations.
    pub off: Vec<f64>,
    /// Which readings were left out.
    pub left_out: Vec<bool>,
    /// Each reading against its prediction at the best.
    pub sights: Vec<Arc<WhitenedResidual>>,
    /// What readings to come are learnt from, where there are many.
    pub remembered: Option<Remembered>,
}

impl System<'_> {
    pub fn found(
        &self,
        here: Here,
        mut spread: Vec<DMatrix<f64>>,
        off: Vec<f64>,
        left_out: Vec<bool>,
        remembered: Option<Remembered>,
    ) -> Fit {
        let best: Vec<_> = (0..self.tins.len()).map(|paint| self.of_paint(&here.theta, paint)).collect();
        for (best, spread) in best.iter().zip(&mut spread) {
            for mut member in spread.column_iter_mut() {
                member.iter_mut().zip(best).for_each(|(at, best)| *at += best);
            }
        }
        Fit { best, members: spread, off, left_out, sights: here.sights, remembered }
    }
}
